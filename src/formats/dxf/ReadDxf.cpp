// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Reading DXF.
//
// The parsing is left to dxflib, which calls out entities one by one. What is done here is what a cut file
// needs of them, and protection from what the library trusts.
//
// What the library trusts. It reads lines into a buffer of fixed size, and makes room for as many vertices
// or knots as a count promises before it has seen them. Both are checked in a pass over the bytes that
// reads as the library reads: a count that the file has no lines for is refused with the line's number.
//
// Blocks. An insert is a use of a block with a map, and blocks use blocks. Ten levels of ten uses each are
// ten thousand million entities from a file of two kilobytes; so what is laid down is counted as it is
// laid, and stopped at a limit, as is the depth. Layer "0" and colour "by block" within a block take those
// of the insert, as the format has it.
//
// Curves stay curves: arcs and circles become cubics within a millionth of their radius, bulges are arcs,
// splines are converted span by span. Ends that nearly meet are joined, since programs write outlines as
// loose lines and arcs; how many gaps were closed and how wide the widest was is told.
//
// Units. Most files state one; for those that do not, a unit is taken for a millimetre and the person is
// asked. The plane's y runs upwards and is turned over once, at the end. Everything is moved to the
// origin, and outlines beyond a kilometre are slips of a unit and left out, with a word.
//
// Nothing is dropped silently: entities that cannot be cut (text, hatches, dimensions) are counted by kind
// and told; layers that are off are named.
#include "formats/dxf/ReadDxf.h"

#include "design/DrawnLines.h"
#include "formats/dxf/Spline.h"
#include "geometry/Arcs.h"
#include "geometry/Lines.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdlib>
#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <map>
#include <numbers>
#include <set>
#include <sstream>
#include <tuple>

namespace thinline::formats::dxf {
namespace {

using base::Code;
using base::Error;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;
using geometry::Transform;

constexpr double kPi = std::numbers::pi;

/// Thrown only inside this file, through the library's calls; readDxf turns it into an Error.
struct Stop {
    Error error;
};

/// A path in the file's units, y up, on its layer.
struct Path {
    Contour contour;
    bool isClosed = false;
    std::string layer;
    int colour = 256; ///< by index; 256 is the layer's, 0 the block's
    int colour24 = -1;
    std::string linetype; ///< empty or BYLAYER: the layer's
};

struct Insert {
    std::string block;
    Transform map;
    std::string layer;
    int colour = 256;
};

struct Block {
    Point base;
    std::vector<Path> paths;
    std::vector<Insert> inserts;
};

struct Layer {
    int colour = 7;
    bool isHidden = false;
    std::string linetype = {};
};

/// The colour of an index: nine named ones, then 24 hues in five brightnesses and two saturations, then
/// greys.
raster::Rgb colourOf(int index) {
    static constexpr raster::Rgb kNamed[] = {{0, 0, 0},       {255, 0, 0},    {255, 255, 0}, {0, 255, 0},
                                             {0, 255, 255},   {0, 0, 255},    {255, 0, 255}, {0, 0, 0},
                                             {128, 128, 128}, {192, 192, 192}};
    if (index < 10)
        return kNamed[std::max(0, index)];
    if (index >= 250) {
        const auto grey = static_cast<std::uint8_t>(51 + (std::min(index, 255) - 250) * 40);
        return {grey, grey, grey};
    }
    static constexpr double kBright[] = {1, 0.65, 0.5, 0.3, 0.15};
    const double hue = (index - 10) / 10 * 15.0 / 60, value = kBright[(index % 10) / 2],
                 low = index % 2 ? value / 2 : 0;
    const auto channel = [&](double at) {
        double h = std::fmod(hue + at, 6);
        const double share = h < 1 ? h : h < 3 ? 1 : h < 4 ? 4 - h : 0;
        return static_cast<std::uint8_t>(std::lround(255 * (low + (value - low) * share)));
    };
    return {channel(2), channel(0), channel(4)};
}

/// Whether a line type is one of the dashed ones every drawing program knows, or of their variants.
bool isDashedType(const std::string& own, const std::string& ofLayer) {
    std::string name =
        own.empty() || own == "BYLAYER" || own == "ByLayer" || own == "bylayer" ? ofLayer : own;
    std::transform(name.begin(), name.end(), name.begin(),
                   [](unsigned char c) { return static_cast<char>(std::toupper(c)); });
    for (const char* dashed : {"DASH", "HIDDEN", "DOT", "CENTER", "DIVIDE", "PHANTOM", "BORDER"})
        if (name.find(dashed) != std::string::npos)
            return true;
    return false;
}

/// One circular step of a polyline. Bulge: the tangent of a quarter of the sweep, anticlockwise when positive
/// (DXF group code 42).
void appendBulge(Contour& contour, Point from, Point to, double bulge) {
    if (std::abs(bulge) < 1e-9 || from == to) {
        if (!(from == to))
            contour.segments.push_back(Segment::line(to));
        return;
    }
    const double sweep = 4 * std::atan(bulge);
    const Point chord = to - from;
    const double half = geometry::length(chord) / 2, away = half / std::tan(sweep / 2);
    const Point left{-chord.y / (2 * half), chord.x / (2 * half)};
    const Point centre = (from + to) * 0.5 + left * away;
    const double radius = geometry::distance(centre, from);
    geometry::appendEllipseArc(contour, centre, radius, radius,
                               std::atan2(from.y - centre.y, from.x - centre.x), sweep);
    contour.segments.back().end = to;
}

/// The sweep from one angle to another, above 0 and up to a whole turn; nothing for angles that cannot be
/// meant.
std::optional<double> sweepOf(double fromRad, double toRad) {
    constexpr double kMostRad = 1e4;
    if (!(std::abs(fromRad) < kMostRad) || !(std::abs(toRad) < kMostRad))
        return std::nullopt;
    const double sweep = std::fmod(toRad - fromRad, 2 * kPi);
    return sweep <= 1e-9 ? sweep + 2 * kPi : sweep;
}

/// Returns the drawing up to the mark for its end, as far as the library may see it: it would read on behind it.
/// Errors: ParseError for what the library trusts and must not: lines longer than its buffer, and counts of vertices,
///         knots and points that it makes room for before it has seen them; without the mark for the end.
base::Result<std::string_view> checkedLines(std::string_view bytes) {
    constexpr size_t kLongest = 1000;
    const auto lines = static_cast<double>(std::count(bytes.begin(), bytes.end(), '\n') + 1);
    // Read as the library reads: a code is the number its line begins with, and a line ends at a zero byte.
    std::string entity;
    long code = 0;
    size_t number = 0;
    for (size_t at = 0; at < bytes.size();) {
        const size_t end = std::min(bytes.find('\n', at), bytes.size());
        std::string_view line = bytes.substr(at, end - at);
        at = end + 1;
        ++number;
        if (line.size() > kLongest)
            return Error{Code::ParseError,
                         "Line " + std::to_string(number) +
                             " is longer than a DXF line may be; save the drawing anew as DXF R12."};
        while (!line.empty() && std::isspace(static_cast<unsigned char>(line.front())))
            line.remove_prefix(1);
        while (!line.empty() && std::isspace(static_cast<unsigned char>(line.back())))
            line.remove_suffix(1);
        const std::string seen(line.substr(0, line.find('\0')));
        if (number % 2 == 1) {
            code = std::strtol(seen.c_str(), nullptr, 10);
            continue;
        }
        if (code == 0)
            entity = seen;
        if (code == 0 && seen == "EOF")
            return bytes.substr(0, at);
        const bool isCount =
            (entity == "LWPOLYLINE" && code == 90) || (entity == "SPLINE" && code >= 72 && code <= 74) ||
            (entity == "LEADER" && code == 76) || (entity == "HATCH" && (code == 91 || code == 93));
        if (!isCount)
            continue;
        const double count = std::strtod(seen.c_str(), nullptr);
        if (!(count >= 0 && count <= lines))
            return Error{Code::ParseError,
                         "Line " + std::to_string(number) + " promises " + seen +
                             " parts, more than the file can hold; save the drawing anew as DXF R12."};
    }
    return Error{Code::ParseError,
                 "The DXF file breaks off: its mark for the end is missing. Fetch it anew, or save "
                 "it anew as DXF R12."};
}

/// Collects what the library calls out.
class Collector : public DL_CreationAdapter {
  public:
    Collector(const DxfLimits& limits, const base::Progress& progress)
        : m_limits(limits), m_progress(progress) {}

    void setVariableInt(const std::string& key, int value, int) override {
        if (key == "$INSUNITS")
            m_units = value;
    }
    void addLayer(const DL_LayerData& data) override {
        m_layers[data.name] = {std::abs(attributes.getColor()),
                               data.off || attributes.getColor() < 0 || (data.flags & 1),
                               attributes.getLinetype()};
    }
    void addBlock(const DL_BlockData& data) override {
        flush();
        m_block = &m_blocks[data.name];
        *m_block = {{data.bpx, data.bpy}, {}, {}};
    }
    void endBlock() override {
        flush();
        m_block = nullptr;
    }
    void addLine(const DL_LineData& d) override {
        flush();
        keep({{d.x1, d.y1}, {Segment::line({d.x2, d.y2})}}, false);
    }
    void addArc(const DL_ArcData& d) override {
        flush();
        const double from = d.angle1 * kPi / 180;
        const auto sweep = sweepOf(from, d.angle2 * kPi / 180);
        if (!(d.radius > 0) || !sweep)
            return skip("arcs without a radius");
        Contour contour{Point{d.cx, d.cy} + Point{std::cos(from), std::sin(from)} * d.radius, {}};
        geometry::appendEllipseArc(contour, {d.cx, d.cy}, d.radius, d.radius, from, *sweep);
        keep(std::move(contour), false);
    }
    void addCircle(const DL_CircleData& d) override {
        flush();
        if (!(d.radius > 0))
            return skip("circles without a radius");
        keep(geometry::ellipse({d.cx, d.cy}, d.radius, d.radius), true);
    }
    void addEllipse(const DL_EllipseData& d) override {
        flush();
        const double major = std::hypot(d.mx, d.my), turn = std::atan2(d.my, d.mx);
        const auto sweep = sweepOf(d.angle1, d.angle2);
        if (!(major > 0) || !(d.ratio > 0) || !sweep)
            return skip("ellipses without extent");
        const bool isWhole = std::abs(*sweep - 2 * kPi) < 1e-6;
        const Transform place{std::cos(turn), std::sin(turn), -std::sin(turn), std::cos(turn), d.cx, d.cy};
        const double minor = major * d.ratio;
        Contour contour{{major * std::cos(d.angle1), minor * std::sin(d.angle1)}, {}};
        geometry::appendEllipseArc(contour, {}, major, minor, d.angle1, *sweep);
        if (isWhole)
            contour.segments.back().end = contour.start;
        keep(geometry::transformed(contour, place), isWhole);
    }
    void addPolyline(const DL_PolylineData& d) override {
        flush();
        constexpr int kClosed = 1, kMesh = 16 | 64;
        if (d.flags & kMesh)
            return skip("meshes");
        m_polyline = Polyline{{}, (d.flags & kClosed) != 0, styled()};
    }
    void addVertex(const DL_VertexData& d) override {
        if (m_polyline)
            m_polyline->vertices.push_back(d);
    }
    void addSpline(const DL_SplineData& d) override {
        flush();
        m_spline = SplineInFile{};
        m_spline->curve.degree = static_cast<int>(std::min(d.degree, 100u));
        m_spline->isClosed = (d.flags & 1) != 0;
        m_spline->style = styled();
    }
    void addControlPoint(const DL_ControlPointData& d) override {
        if (m_spline) {
            m_spline->curve.points.push_back({d.x, d.y});
            m_spline->curve.weights.push_back(d.w);
        }
    }
    void addFitPoint(const DL_FitPointData& d) override {
        if (m_spline)
            m_spline->curve.through.push_back({d.x, d.y});
    }
    void addKnot(const DL_KnotData& d) override {
        if (m_spline)
            m_spline->curve.knots.push_back(d.k);
    }
    void endEntity() override {
        if (!m_polyline || !m_polyline->vertices.empty())
            flush();
    }
    void endSequence() override { flush(); }
    void addInsert(const DL_InsertData& d) override {
        flush();
        constexpr int kMostInRow = 10'000;
        const int columns = std::clamp(d.cols, 1, kMostInRow), rows = std::clamp(d.rows, 1, kMostInRow);
        const double angle = d.angle * kPi / 180, c = std::cos(angle), s = std::sin(angle);
        const double sx = d.sx == 0 ? 1 : d.sx, sy = d.sy == 0 ? 1 : d.sy;
        if (static_cast<size_t>(columns) * static_cast<size_t>(rows) > m_limits.mostSegments)
            throw Stop{tooMuch()};
        for (int row = 0; row < rows; ++row)
            for (int column = 0; column < columns; ++column) {
                const Transform map = Transform::scale(sx, sy)
                                          .then(Transform::move({column * d.colSp, row * d.rowSp}))
                                          .then({c, s, -s, c, d.ipx, d.ipy});
                Insert insert{d.name, map, attributes.getLayer(), attributes.getColor()};
                if (isFlipped())
                    insert.map = insert.map.then(Transform::scale(-1, 1));
                if (++m_inserts > m_limits.mostSegments)
                    throw Stop{tooMuch()};
                (m_block ? m_block->inserts : m_top.inserts).push_back(std::move(insert));
            }
    }
    void addText(const DL_TextData&) override { skip("text"); }
    void addMText(const DL_MTextData&) override { skip("text"); }
    void addArcAlignedText(const DL_ArcAlignedTextData&) override { skip("text"); }
    void addPoint(const DL_PointData&) override { skip("points"); }
    void addSolid(const DL_SolidData&) override { skip("solids"); }
    void addTrace(const DL_TraceData&) override { skip("solids"); }
    void add3dFace(const DL_3dFaceData&) override { skip("solids"); }
    void addHatch(const DL_HatchData&) override { skip("hatches"); }
    void addImage(const DL_ImageData&) override { skip("pictures"); }
    void addDimAlign(const DL_DimensionData&, const DL_DimAlignedData&) override { skip("dimensions"); }
    void addDimLinear(const DL_DimensionData&, const DL_DimLinearData&) override { skip("dimensions"); }
    void addDimRadial(const DL_DimensionData&, const DL_DimRadialData&) override { skip("dimensions"); }
    void addDimDiametric(const DL_DimensionData&, const DL_DimDiametricData&) override { skip("dimensions"); }

    /// The whole as a page.
    design::DrawnPage page() {
        flush();
        use(m_top, Transform{}, "", 256, 0);
        design::DrawnPage out;
        const double mm = mmPerUnit(out);
        std::map<std::tuple<std::string, raster::Rgb, bool>, size_t> index;
        std::map<std::string, int> inLayer; ///< items so far
        std::map<size_t, std::vector<Contour>> open;
        int closedGaps = 0;
        for (const Path& path : m_paths) {
            const Layer layer = layerOf(path.layer);
            if (layer.isHidden) {
                ++m_hidden[path.layer];
                continue;
            }
            const raster::Rgb colour =
                path.colour24 >= 0 ? raster::Rgb{static_cast<std::uint8_t>(path.colour24 >> 16),
                                                 static_cast<std::uint8_t>(path.colour24 >> 8),
                                                 static_cast<std::uint8_t>(path.colour24)}
                                   : colourOf(path.colour >= 256 ? layer.colour : std::abs(path.colour));
            const bool isDashed = isDashedType(path.linetype, layer.linetype);
            const auto [at, isNew] = index.try_emplace({path.layer, colour, isDashed}, out.items.size());
            if (isNew) {
                design::DrawnItem item;
                item.id = path.layer.empty() ? "outlines" : path.layer;
                if (const int same = ++inLayer[path.layer]; same > 1)
                    item.id += "-" + std::to_string(same);
                item.layer = path.layer;
                item.rule = geometry::FillRule::EvenOdd;
                item.stroke = colour;
                item.isDashed = isDashed;
                out.items.push_back(std::move(item));
            }
            Contour contour = geometry::transformed(path.contour, Transform::scale(mm, -mm));
            if (!geometry::isFinite(contour) || !isWithin(contour)) {
                skip("outlines beyond all measure");
                continue;
            }
            if (path.isClosed)
                out.items[at->second].contours.push_back(std::move(contour));
            else
                open[at->second].push_back(std::move(contour));
        }
        double widestGap = 0;
        for (auto& [item, lines] : open) {
            const auto named = design::drawnAsNamed(out.items[item].layer);
            if (out.items[item].isDashed || (named && *named != design::DrawnAs::Outline)) {
                out.items[item].lines = std::move(lines); // each is what it is, also where they meet
                continue;
            }
            const auto joined = geometry::joinedEnds(lines, m_limits.joinWithinMm);
            if (!joined)
                throw Stop{joined.error()};
            auto& into = out.items[item].contours;
            // Whoever takes them sees what else is drawn, and what they enclose.
            if (!joined->lines.empty() || design::areMixedUp(joined->outlines, into)) {
                out.items[item].lines = std::move(lines);
                continue;
            }
            closedGaps += joined->gapsClosed;
            widestGap = std::max(widestGap, joined->widestGapMm);
            into.insert(into.end(), joined->outlines.begin(), joined->outlines.end());
        }
        std::erase_if(out.items,
                      [](const design::DrawnItem& i) { return i.contours.empty() && i.lines.empty(); });
        toOrigin(out);
        tell(out, closedGaps, widestGap);
        return out;
    }

  private:
    struct Polyline {
        std::vector<DL_VertexData> vertices;
        bool isClosed = false;
        Path style;
    };
    struct SplineInFile {
        Spline curve;
        bool isClosed = false;
        Path style;
    };

    void skip(const std::string& what) { ++m_skipped[what]; }
    bool isFlipped() { return extrusion && extrusion->getDirection() && extrusion->getDirection()[2] < -0.5; }
    Error tooMuch() const {
        return {Code::LimitExceeded,
                "The drawing has more than " + std::to_string(m_limits.mostSegments) +
                    " steps, blocks counted each time; simplify it in the program it comes from."};
    }

    Path styled() {
        Path path;
        path.layer = attributes.getLayer();
        path.colour = attributes.getColor();
        path.colour24 = attributes.getColor24();
        path.linetype = attributes.getLinetype();
        return path;
    }
    void keep(Contour contour, bool isClosed) { keep(styled(), std::move(contour), isClosed); }
    void keep(Path path, Contour contour, bool isClosed) {
        if (contour.segments.empty())
            return;
        m_segments += contour.segments.size();
        if (m_segments > m_limits.mostSegments)
            throw Stop{tooMuch()};
        if (++m_seen % 1024 == 0 && m_progress.isCancelled())
            throw Stop{base::cancelled()};
        path.contour =
            isFlipped() ? geometry::transformed(contour, Transform::scale(-1, 1)) : std::move(contour);
        path.isClosed = isClosed;
        (m_block ? m_block->paths : m_top.paths).push_back(std::move(path));
    }

    /// Ends a polyline or a spline whose parts came one by one.
    void flush() {
        if (m_polyline) {
            const Polyline line = std::move(*m_polyline);
            m_polyline.reset();
            const auto& v = line.vertices;
            if (v.size() > 1) {
                Contour contour{{v[0].x, v[0].y}, {}};
                const size_t steps = v.size() - (line.isClosed ? 0 : 1);
                for (size_t i = 0; i < steps; ++i) {
                    const DL_VertexData& a = v[i];
                    const DL_VertexData& b = v[(i + 1) % v.size()];
                    appendBulge(contour, {a.x, a.y}, {b.x, b.y}, a.bulge);
                }
                const bool endsMeet =
                    !contour.segments.empty() && contour.segments.back().end == contour.start;
                keep(line.style, std::move(contour), line.isClosed || (endsMeet && v.size() > 3));
            }
        }
        if (m_spline) {
            const SplineInFile spline = std::move(*m_spline);
            m_spline.reset();
            Contour contour = curvesOf(spline.curve);
            if (contour.segments.empty())
                return skip("splines that cannot be read");
            if (spline.isClosed && !(contour.segments.back().end == contour.start))
                contour.segments.push_back(Segment::line(contour.start));
            keep(spline.style, std::move(contour), spline.isClosed);
        }
    }

    Layer layerOf(const std::string& name) const {
        const auto at = m_layers.find(name);
        return at == m_layers.end() ? Layer{} : at->second;
    }

    /// Lays a block down: what lies on layer "0" takes the insert's layer, colour 0 its colour.
    void use(const Block& block, const Transform& map, const std::string& layer, int colour, int depth) {
        if (depth > m_limits.deepest)
            throw Stop{{Code::LimitExceeded, "The drawing uses blocks within blocks more than " +
                                                 std::to_string(m_limits.deepest) +
                                                 " deep; it was not opened."}};
        for (const Path& path : block.paths) {
            m_used += path.contour.segments.size();
            if (m_used > m_limits.mostSegments)
                throw Stop{tooMuch()};
            Path placed = path;
            placed.contour = geometry::transformed(path.contour, map);
            if (depth > 0 && placed.layer == "0")
                placed.layer = layer;
            if (placed.colour == 0)
                placed.colour = colour;
            m_paths.push_back(std::move(placed));
        }
        for (const Insert& insert : block.inserts) {
            const auto target = m_blocks.find(insert.block);
            if (target == m_blocks.end()) {
                skip("inserts of blocks that are not there");
                continue;
            }
            if (++m_laid > m_limits.mostSegments || (m_laid % 1024 == 0 && m_progress.isCancelled()))
                throw Stop{m_progress.isCancelled() ? base::cancelled() : tooMuch()};
            use(target->second, Transform::move(target->second.base * -1).then(insert.map).then(map),
                insert.layer == "0" && depth > 0 ? layer : insert.layer,
                insert.colour == 0 ? colour : insert.colour, depth + 1);
        }
    }

    double mmPerUnit(design::DrawnPage& out) const {
        static const std::map<int, double> kUnits = {{1, 25.4},  {2, 304.8},   {4, 1},      {5, 10},
                                                     {6, 1000},  {8, 25.4e-6}, {9, 0.0254}, {10, 914.4},
                                                     {13, 1e-3}, {14, 100}};
        const auto unit = kUnits.find(m_units);
        out.stated = unit == kUnits.end() ? design::StatedSize::None : design::StatedSize::Real;
        return unit == kUnits.end() ? 1 : unit->second;
    }

    static bool isWithin(const Contour& contour) {
        constexpr double kFarMm = 1e6; // a kilometre: no design, but a slip
        const geometry::Box box = geometry::hullBox(contour);
        return std::max({-box.least.x, -box.least.y, box.most.x, box.most.y}) < kFarMm;
    }

    static void toOrigin(design::DrawnPage& page) {
        geometry::Box box;
        for (const design::DrawnItem& item : page.items)
            for (const auto* contours : {&item.contours, &item.lines})
                for (const Contour& contour : *contours)
                    box.include(geometry::bounds(contour));
        if (box.isEmpty())
            return;
        for (design::DrawnItem& item : page.items)
            for (auto* contours : {&item.contours, &item.lines})
                for (Contour& contour : *contours)
                    contour = geometry::transformed(contour, Transform::move(box.least * -1));
        page.widthMm = box.width();
        page.heightMm = box.height();
    }

    void tell(design::DrawnPage& out, int closedGaps, double widestGap) const {
        for (const auto& [what, count] : m_skipped)
            out.said.push_back(what + (count > 1 ? ": " + std::to_string(count) + " skipped" : " skipped"));
        for (const auto& [layer, count] : m_hidden)
            out.said.push_back("layer " + layer + " is off: " + std::to_string(count) + " outlines left out");
        if (closedGaps > 0)
            out.said.push_back(std::to_string(closedGaps) + " gaps of up to " + widest(widestGap) +
                               " mm between ends were closed");
    }
    static std::string widest(double mm) {
        std::ostringstream text;
        text.precision(2);
        text << mm;
        return text.str();
    }

    const DxfLimits& m_limits;
    const base::Progress& m_progress;
    int m_units = 0;
    std::map<std::string, Layer> m_layers;
    std::map<std::string, Block> m_blocks;
    Block m_top;
    Block* m_block = nullptr;
    std::optional<Polyline> m_polyline;
    std::optional<SplineInFile> m_spline;
    std::vector<Path> m_paths; ///< with all blocks laid down
    std::map<std::string, int> m_skipped, m_hidden;
    size_t m_segments = 0, m_used = 0, m_seen = 0, m_inserts = 0, m_laid = 0;
};

} // namespace

bool looksLikeDxf(std::string_view bytes) {
    const std::string_view head = bytes.substr(0, 4096);
    if (head.find(" Binary DXF") != head.npos)
        return true;
    const auto section = head.find("SECTION");
    const auto first = head.find_first_not_of(" \t\r\n\xef\xbb\xbf");
    return section != head.npos && first != head.npos &&
           (head[first] == '0' || head.compare(first, 3, "999") == 0);
}

base::Result<design::DrawnPage> readDxf(std::string_view bytes, const DxfLimits& limits,
                                        const base::Progress& progress) {
    if (bytes.size() > limits.mostBytes)
        return Error{Code::LimitExceeded, "The drawing is larger than " +
                                              std::to_string(limits.mostBytes >> 20) +
                                              " MB; it was not opened."};
    if (bytes.substr(0, 64).find(" Binary DXF") != bytes.npos)
        return Error{Code::ParseError,
                     "This is a binary DXF file; save it as text (ASCII) DXF and open that."};
    if (!looksLikeDxf(bytes))
        return Error{Code::ParseError, "This is no DXF file: it does not begin with a section."};
    const auto drawn = checkedLines(bytes);
    if (!drawn)
        return drawn.error();
    try {
        Collector collector(limits, progress);
        std::istringstream stream{std::string(*drawn)};
        DL_Dxf reader;
        reader.in(stream, &collector);
        design::DrawnPage page = collector.page();
        if (page.items.empty())
            return Error{Code::ParseError, "Nothing in this drawing can be cut: no outline was found."};
        return page;
    } catch (const Stop& stop) {
        return stop.error;
    } catch (const std::exception& odd) {
        return Error{Code::ParseError, std::string("The drawing cannot be read (") + odd.what() +
                                           "); save it anew as DXF R12."};
    }
}

} // namespace thinline::formats::dxf
