// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Reading SVG: what of a drawing can be cut.
//
// An SVG file says how something looks. What is wanted is where its outlines run, in millimetres. The walk
// through the tree carries what an element inherits (map, style, layer, clips) by value, so nothing has to
// be put back when a branch ends.
//
// Sizes. A page in millimetres or inches is real. A page in pixels is one in CSS pixels, 96 to an inch, or
// in whatever its program meant by a pixel; so it is taken at 96 and the person is asked. A page with only
// a view box states nothing. Which of the three it was is told along with the page.
//
// Uses and symbols are followed by id, clip paths are walked like content and kept beside the items they
// clip. Everything that is walked is counted, copies included, and depth is bounded: a dozen lines of
// nested uses can stand for more elements than fit into memory. Ids that lead in circles are ended by the
// same bound.
//
// Style comes from four places, and the order is the standard's: attributes, then sheets by element, class
// and id, then the element's own declarations. Selectors of more than one step are counted and told, as is
// everything that cannot be cut or followed: gradients, links to other files, text along paths. Pictures that the drawing
// holds itself are handed on as they are.
// Paint that is a gradient still means "filled", so its area counts.
//
// Text is set with the typefaces of the machine and becomes outlines, a stretch at a time; where a
// typeface is not there, that is told with the one taken instead.
//
// Nothing outside the file is read, no script is run and no entity expanded.
#include "formats/svg/ReadSvg.h"

#include "formats/svg/DataUrl.h"
#include "formats/svg/Elements.h"
#include "formats/svg/PathData.h"
#include "formats/svg/Style.h"
#include "formats/svg/TextRuns.h"
#include "geometry/Arcs.h"

#include <pugixml.hpp>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>
#include <numbers>
#include <set>

namespace thinline::formats::svg {
namespace {

using base::Code;
using base::Error;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;
using geometry::Transform;

constexpr double kMmPerPx = 25.4 / 96; // CSS: an inch is 96 px

/// Thrown only inside this file, to leave the depth of the walk; readSvg turns it into an Error.
struct Stop {
    Error error;
};

std::string_view nameOf(const pugi::xml_node& node) {
    const char* name = node.name();
    const char* colon = std::strchr(name, ':'); // "svg:path" is a path
    return colon ? colon + 1 : name;
}

/// Walks the tree.
class Reader {
  public:
    Reader(const SvgLimits& limits, const base::Progress& progress, const base::FontStore* fonts)
        : m_limits(limits), m_progress(progress), m_text(fonts) {}

    design::DrawnPage read(const pugi::xml_node& root) {
        collect(root, 0);
        sizePage(root);
        Context context;
        context.view = m_rootView;
        context.map = m_rootMap;
        children(root, styled(root, context));
        for (const auto& [what, count] : m_skipped)
            m_out.said.push_back(what + (count > 1 ? ": " + std::to_string(count) + " skipped" : " skipped"));
        m_out.said.insert(m_out.said.end(), m_told.begin(), m_told.end());
        return std::move(m_out);
    }

  private:
    struct Context {
        Transform map; ///< user units to mm
        Viewport view;
        Style style;
        std::string layer;
        std::vector<std::shared_ptr<const design::Clip>> clips;
        int depth = 0;
    };

    void skip(const std::string& what) { ++m_skipped[what]; }

    /// Remembers ids and reads style sheets, wherever they stand.
    void collect(const pugi::xml_node& node, int depth) {
        if (depth > m_limits.deepest)
            throw Stop{{Code::LimitExceeded, "The drawing has groups more than " +
                                                 std::to_string(m_limits.deepest) +
                                                 " deep; flatten it in the program it comes from."}};
        if (const char* id = node.attribute("id").value(); *id)
            m_byId.emplace(id, node);
        if (nameOf(node) == "style") {
            std::string text;
            for (const pugi::xml_node& part : node.children())
                text += part.value();
            m_sheet.add(text);
        }
        for (const pugi::xml_node& child : node.children())
            if (child.type() == pugi::node_element)
                collect(child, depth + 1);
        if (depth == 0 && m_sheet.skipped() > 0)
            m_skipped["style rules with selectors of more than one step"] += m_sheet.skipped();
    }

    void sizePage(const pugi::xml_node& root) {
        const auto box = viewBoxOf(root.attribute("viewBox").value());
        const Viewport page{box ? box->width() : 300,
                            box ? box->height() : 150}; // the size CSS gives a page without one
        bool isRealW = false, isRealH = false;
        const std::string_view wText = root.attribute("width").value(),
                               hText = root.attribute("height").value();
        const auto plain = [](std::string_view t) {
            return t.empty() || t == "auto" || t.find('%') != t.npos;
        };
        // 0 stands for "not said": no page is that small.
        const auto stated = [&](std::string_view text, Along along, bool& isReal) {
            const double px = plain(text) ? 0 : lengthOf(text, page, along, &isReal).value_or(0);
            return px > 0 ? px : 0;
        };
        const double w = stated(wText, Along::X, isRealW), h = stated(hText, Along::Y, isRealH);
        m_out.stated = (w > 0 && isRealW) || (h > 0 && isRealH) ? design::StatedSize::Real
                       : w > 0 || h > 0                         ? design::StatedSize::Pixels
                                                                : design::StatedSize::None;
        const double wPx = w > 0 ? w : h > 0 && box ? h * page.width / page.height : page.width;
        const double hPx = h > 0 ? h : w > 0 && box ? w * page.height / page.width : page.height;
        m_out.widthMm = wPx * kMmPerPx;
        m_out.heightMm = hPx * kMmPerPx;
        m_rootView = box ? Viewport{box->width(), box->height()} : Viewport{wPx, hPx};
        m_rootMap =
            (box ? viewBoxMap(*box, wPx, hPx, root.attribute("preserveAspectRatio").value()) : Transform{})
                .then(Transform::scale(kMmPerPx, kMmPerPx));
    }

    /// The context within an element: its style, transform and layer taken in.
    Context styled(const pugi::xml_node& node, const Context& outer) {
        Context inner = outer;
        ++inner.depth;
        inner.style.said.clear();
        inner.style.clipPath.clear();
        for (const pugi::xml_attribute& a : node.attributes())
            if (std::strcmp(a.name(), "style") != 0)
                inner.style.apply(a.name(), a.value());
        m_sheet.applyTo(inner.style, nameOf(node), node.attribute("class").value(),
                        node.attribute("id").value());
        inner.style.applyDeclarations(node.attribute("style").value());
        for (const std::string& what : inner.style.said)
            skip(what);
        if (const char* text = node.attribute("transform").value(); *text)
            inner.map = transformOf(text).then(inner.map);
        if (!inner.style.clipPath.empty())
            if (auto clip = clipOf(inner.style.clipPath, inner))
                inner.clips.push_back(std::make_shared<const design::Clip>(std::move(*clip)));
        return inner;
    }

    /// What a clip path leaves to be seen; nothing when it cannot be found or followed.
    std::optional<design::Clip> clipOf(const std::string& id, const Context& user) {
        const auto at = m_byId.find(id);
        if (at == m_byId.end() || nameOf(at->second) != "clipPath" || m_isInClip) {
            skip("clip paths that cannot be followed");
            return std::nullopt;
        }
        if (std::strcmp(at->second.attribute("clipPathUnits").value(), "objectBoundingBox") == 0) {
            skip("clip paths that cannot be followed");
            return std::nullopt;
        }
        Context context;
        context.map = user.map;
        context.view = user.view;
        context.depth = user.depth + 1;
        m_isInClip = true; // a clip path that is clipped itself is not followed: it may lead round in a ring
        context = styled(at->second, context);
        std::vector<design::DrawnItem> outside = std::move(m_out.items);
        m_out.items.clear();
        children(at->second, context);
        design::Clip clip;
        for (design::DrawnItem& item : m_out.items)
            clip.push_back({std::move(item.contours), item.rule});
        m_out.items = std::move(outside);
        m_isInClip = false;
        return clip;
    }

    void children(const pugi::xml_node& node, const Context& context) {
        for (const pugi::xml_node& child : node.children())
            if (child.type() == pugi::node_element)
                element(child, context);
    }

    void element(const pugi::xml_node& node, const Context& outer) {
        if (++m_elements > m_limits.mostElements)
            throw Stop{{Code::LimitExceeded, "The drawing has more than " +
                                                 std::to_string(m_limits.mostElements) +
                                                 " parts, copies counted; it was not opened."}};
        if (outer.depth > m_limits.deepest)
            throw Stop{{Code::LimitExceeded, "The drawing uses parts within parts more than " +
                                                 std::to_string(m_limits.deepest) +
                                                 " deep; it was not opened."}};
        if (m_elements % 1024 == 0 && m_progress.isCancelled())
            throw Stop{base::cancelled()};
        const std::string_view name = nameOf(node);
        static const std::set<std::string_view> kSilent = {
            "defs",      "symbol",         "title",          "desc",    "metadata", "style",
            "namedview", "linearGradient", "radialGradient", "pattern", "clipPath", "mask",
            "marker",    "filter",         "solidColor",     "font",    "view"};
        static const std::map<std::string_view, const char*> kSaid = {
            {"script", "scripts"}, {"foreignObject", "foreign content"}, {"animate", "animation"},
            {"set", "animation"},  {"animateTransform", "animation"},    {"animateMotion", "animation"}};
        if (kSilent.contains(name))
            return;
        if (const auto said = kSaid.find(name); said != kSaid.end()) {
            skip(said->second);
            return;
        }
        Context context = styled(node, outer);
        if (!context.style.isDisplayed)
            return;
        if (name == "g" || name == "a") {
            nameLayer(node, context);
            children(node, context);
        } else if (name == "switch") {
            for (const pugi::xml_node& child : node.children())
                if (child.type() == pugi::node_element) {
                    element(child, context);
                    break;
                }
        } else if (name == "svg") {
            nestedSvg(node, context, std::nullopt, std::nullopt);
        } else if (name == "use") {
            use(node, context);
        } else if (name == "image") {
            image(node, context);
        } else if (name == "text") {
            text(node, context);
        } else {
            shape(name, node, context);
        }
    }

    /// A group names a layer by any attribute whose local name is "label", else by its id.
    static void nameLayer(const pugi::xml_node& node, Context& context) {
        for (const pugi::xml_attribute& a : node.attributes()) {
            const char* colon = std::strchr(a.name(), ':');
            if (std::strcmp(colon ? colon + 1 : a.name(), "label") == 0 && *a.value()) {
                context.layer = a.value();
                return;
            }
        }
        if (const char* id = node.attribute("id").value(); *id)
            context.layer = id;
    }

    void nestedSvg(const pugi::xml_node& node, Context context, std::optional<double> width,
                   std::optional<double> height) {
        const auto length = [&](const char* attribute, Along along) {
            return lengthOf(node.attribute(attribute).value(), context.view, along);
        };
        const double w = width ? *width : length("width", Along::X).value_or(context.view.width);
        const double h = height ? *height : length("height", Along::Y).value_or(context.view.height);
        if (!(w > 0) || !(h > 0))
            return;
        const Point at{length("x", Along::X).value_or(0), length("y", Along::Y).value_or(0)};
        context.map = Transform::move(at).then(context.map);
        if (const auto box = viewBoxOf(node.attribute("viewBox").value())) {
            context.map =
                viewBoxMap(*box, w, h, node.attribute("preserveAspectRatio").value()).then(context.map);
            context.view = {box->width(), box->height()};
        } else {
            context.view = {w, h};
        }
        children(node, context);
    }

    void use(const pugi::xml_node& node, Context context) {
        const char* href = node.attribute("href").value();
        if (!*href)
            href = node.attribute("xlink:href").value();
        if (*href != '#') {
            skip(*href ? "links to other files" : "uses of nothing");
            return;
        }
        const auto target = m_byId.find(std::string_view(href + 1));
        if (target == m_byId.end()) {
            skip("uses of parts that are not there");
            return;
        }
        const auto length = [&](const char* attribute, Along along) {
            return lengthOf(node.attribute(attribute).value(), context.view, along);
        };
        context.map = Transform::move({length("x", Along::X).value_or(0), length("y", Along::Y).value_or(0)})
                          .then(context.map);
        const std::string_view name = nameOf(target->second);
        if (name == "symbol" || name == "svg") {
            Context inner = styled(target->second, context);
            nestedSvg(target->second, inner, length("width", Along::X), length("height", Along::Y));
        } else {
            element(target->second, context);
        }
    }

    /// A picture that the drawing holds itself.
    void image(const pugi::xml_node& node, const Context& context) {
        constexpr std::size_t kMostPictures = 100;
        const char* href = node.attribute("href").value();
        if (!*href)
            href = node.attribute("xlink:href").value();
        const auto length = [&](const char* attribute, Along along) {
            return lengthOf(node.attribute(attribute).value(), context.view, along).value_or(0);
        };
        const double w = length("width", Along::X), h = length("height", Along::Y);
        auto bytes =
            m_isInClip || m_out.pictures.size() >= kMostPictures ? std::nullopt : bytesOfDataUrl(href);
        if (!bytes || !(w > 0) || !(h > 0)) {
            skip(bytes ? "pictures without a size" : "pictures in other files");
            return;
        }
        design::DrawnPicture out;
        out.bytes = std::move(*bytes);
        out.place = Transform{w, 0, 0, h, length("x", Along::X), length("y", Along::Y)}.then(context.map);
        const std::string_view fit = node.attribute("preserveAspectRatio").value();
        out.fit = fit.find("none") != fit.npos    ? design::DrawnPicture::Fit::Stretched
                  : fit.find("slice") != fit.npos ? design::DrawnPicture::Fit::Filling
                                                  : design::DrawnPicture::Fit::Whole;
        if (geometry::isFinite(out.place({0, 0})) && geometry::isFinite(out.place({1, 1})))
            m_out.pictures.push_back(std::move(out));
    }

    /// Letters as outlines; each stretch of text is one item.
    void text(const pugi::xml_node& node, const Context& context) {
        TextPen pen;
        stretches(node, context, pen);
        std::vector<Subpath> letters;
        std::string said;
        for (TextStretch& stretch : m_text.set(pen, said)) {
            letters.clear();
            for (Contour& contour : stretch.outlines)
                letters.push_back({std::move(contour), true});
            Context placed = context;
            placed.style = stretch.style;
            placed.style.isEvenOdd = false;
            keep("text", node, placed, std::move(letters));
        }
        if (said == kTextNotSet)
            skip(said);
        else if (!said.empty())
            m_told.insert(said);
    }

    void stretches(const pugi::xml_node& node, const Context& context, TextPen& pen) {
        const auto first = [&](const char* attribute, Along along) {
            return lengthOf(node.attribute(attribute).value(), context.view, along, nullptr,
                            context.style.fontSize);
        };
        const auto x = first("x", Along::X), y = first("y", Along::Y);
        if (x || y || nameOf(node) == "text")
            pen.moveTo(x, y);
        pen.moveBy(first("dx", Along::X).value_or(0), first("dy", Along::Y).value_or(0));
        for (const pugi::xml_node& child : node.children()) {
            if (child.type() == pugi::node_pcdata || child.type() == pugi::node_cdata) {
                pen.add(child.value(), context.style);
            } else if (child.type() == pugi::node_element) {
                const std::string_view name = nameOf(child);
                if (name != "tspan" && name != "a") {
                    if (name != "title" && name != "desc")
                        skip("text along paths");
                    continue;
                }
                const Context inner = styled(child, context);
                if (inner.depth > m_limits.deepest)
                    return;
                if (inner.style.isDisplayed)
                    stretches(child, inner, pen);
            }
        }
    }

    void shape(std::string_view name, const pugi::xml_node& node, const Context& context) {
        std::vector<Subpath> subpaths;
        const auto length = [&](const char* attribute, Along along) {
            return lengthOf(node.attribute(attribute).value(), context.view, along);
        };
        const auto x = [&](const char* a) { return length(a, Along::X).value_or(0); };
        const auto y = [&](const char* a) { return length(a, Along::Y).value_or(0); };
        if (name == "path") {
            PathData data = parsePathData(node.attribute("d").value(), m_limits.mostSegments);
            if (!data.problem.empty() && !data.subpaths.empty())
                m_out.said.push_back("path '" + std::string(node.attribute("id").value()) + "' " +
                                     data.problem + "; what comes before counts");
            else if (!data.problem.empty())
                skip("paths that cannot be read");
            subpaths = std::move(data.subpaths);
        } else if (name == "rect") {
            const double w = x("width"), h = y("height");
            auto rx = length("rx", Along::X), ry = length("ry", Along::Y);
            if (!rx || *rx < 0)
                rx = ry;
            if (!ry || *ry < 0)
                ry = rx;
            if (w > 0 && h > 0)
                subpaths.push_back({roundedBox(x("x"), y("y"), w, h, std::min(rx.value_or(0), w / 2),
                                               std::min(ry.value_or(0), h / 2)),
                                    true});
        } else if (name == "circle") {
            const double r = length("r", Along::Both).value_or(0);
            if (r > 0)
                subpaths.push_back({geometry::ellipse({x("cx"), y("cy")}, r, r), true});
        } else if (name == "ellipse") {
            auto rx = length("rx", Along::X), ry = length("ry", Along::Y);
            const double a = rx.value_or(ry.value_or(0)), b = ry.value_or(rx.value_or(0));
            if (a > 0 && b > 0)
                subpaths.push_back({geometry::ellipse({x("cx"), y("cy")}, a, b), true});
        } else if (name == "line") {
            subpaths.push_back({{{x("x1"), y("y1")}, {Segment::line({x("x2"), y("y2")})}}, false});
        } else if (name == "polyline" || name == "polygon") {
            Contour contour;
            bool isBegun = false;
            for (Scanner scan(node.attribute("points").value()); !scan.atEnd();) {
                const auto px = scan.number(), py = px ? scan.number() : px;
                if (!py)
                    break;
                if (isBegun)
                    contour.segments.push_back(Segment::line({*px, *py}));
                else
                    contour.start = {*px, *py};
                isBegun = true;
            }
            const bool isPolygon = name == "polygon";
            if (isPolygon && isBegun)
                contour.segments.push_back(Segment::line(contour.start));
            if (!contour.segments.empty())
                subpaths.push_back({contour, isPolygon || contour.segments.back().end == contour.start});
        } else {
            skip("elements called <" + std::string(name.substr(0, 40)) + ">");
            return;
        }
        keep(name, node, context, std::move(subpaths));
    }

    void keep(std::string_view name, const pugi::xml_node& node, const Context& context,
              std::vector<Subpath> subpaths) {
        if (!context.style.isVisible || subpaths.empty())
            return;
        design::DrawnItem item;
        item.fill = context.style.fill;
        item.stroke = context.style.stroke;
        item.isDashed = context.style.isDashed;
        item.layer = context.layer;
        const bool isEvenOdd = m_isInClip ? context.style.isClipEvenOdd : context.style.isEvenOdd;
        item.rule = isEvenOdd ? geometry::FillRule::EvenOdd : geometry::FillRule::NonZero;
        item.clips = context.clips;
        for (const auto& clip : context.clips)
            countClip(*clip);
        if (m_isInClip)
            item.fill = raster::Rgb{0, 0, 0}; // a clip's paint does not matter
        const Transform& m = context.map;
        item.strokeWidthMm = context.style.strokeWidth * std::sqrt(std::abs(m.a * m.d - m.b * m.c));
        for (Subpath& subpath : subpaths) {
            m_segments += subpath.contour.segments.size();
            if (m_segments > m_limits.mostSegments)
                throw Stop{{Code::LimitExceeded, "The drawing has more than " +
                                                     std::to_string(m_limits.mostSegments) +
                                                     " steps; simplify it in the program it comes from."}};
            if (subpath.contour.segments.empty())
                continue; // a lone move draws nothing
            Contour contour = geometry::transformed(subpath.contour, m);
            if (!geometry::isFinite(contour) || !isWithin(contour)) {
                skip("outlines beyond all measure");
                continue;
            }
            const bool isArea = subpath.isClosed || (item.fill && !isOneLine(contour));
            if (isArea) {
                if (!(contour.segments.back().end == contour.start))
                    contour.segments.push_back(Segment::line(contour.start));
                item.contours.push_back(std::move(contour));
            } else if (item.stroke) {
                item.lines.push_back(std::move(contour));
            }
        }
        if (item.contours.empty() && item.lines.empty())
            return;
        if (m_isInClip)
            item.id.clear();
        else
            item.id = uniqueId(node.attribute("id").value(), name);
        m_out.items.push_back(std::move(item));
    }

    /// Every item is cut by its clips, which takes time with the steps of both.
    void countClip(const design::Clip& clip) {
        for (const design::Outlines& one : clip)
            for (const Contour& contour : one.contours)
                m_clipSteps += contour.segments.size();
        if (m_clipSteps > kMostClipSteps)
            throw Stop{{Code::LimitExceeded, "The drawing cuts its outlines by clip paths of more than " +
                                                 std::to_string(kMostClipSteps) +
                                                 " steps in all; apply them in the program it comes from."}};
    }

    static bool isOneLine(const Contour& contour) {
        return contour.segments.size() == 1 && contour.segments[0].isLine;
    }

    static bool isWithin(const Contour& contour) {
        constexpr double kFarMm = 1e6; // a kilometre: no design, but a slip
        const geometry::Box box = geometry::hullBox(contour);
        return std::max({-box.least.x, -box.least.y, box.most.x, box.most.y}) < kFarMm;
    }

    std::string uniqueId(const std::string& given, std::string_view element) {
        const std::string base = given.empty() ? std::string(element) : given;
        std::string id = given.empty() ? base + "-" + std::to_string(m_out.items.size() + 1) : given;
        while (!m_ids.insert(id).second)
            id = base + "-" + std::to_string(++m_copies.try_emplace(base, 1).first->second);
        return id;
    }

    const SvgLimits& m_limits;
    const base::Progress& m_progress;
    design::DrawnPage m_out;
    Viewport m_rootView;
    Transform m_rootMap;
    StyleSheet m_sheet;
    std::map<std::string, pugi::xml_node, std::less<>> m_byId;
    std::map<std::string, int> m_skipped;
    std::set<std::string> m_told; ///< taken otherwise than drawn
    std::set<std::string> m_ids;
    std::map<std::string, int> m_copies; ///< the last number given to a name that came again
    TextSetter m_text;
    bool m_isInClip = false;
    static constexpr size_t kMostClipSteps = 2'000'000;
    size_t m_clipSteps = 0; ///< once for every item that is cut
    size_t m_elements = 0;
    size_t m_segments = 0;
};

/// Where a byte of the text lies, for people.
std::string lineAndColumn(std::string_view bytes, std::ptrdiff_t offset) {
    const std::string_view before =
        bytes.substr(0, std::min(bytes.size(), static_cast<size_t>(std::max<std::ptrdiff_t>(0, offset))));
    const auto line = std::count(before.begin(), before.end(), '\n') + 1;
    const auto last = before.rfind('\n');
    const size_t column = before.size() - (last == std::string_view::npos ? 0 : last + 1) + 1;
    return "line " + std::to_string(line) + ", column " + std::to_string(column);
}

} // namespace

base::Result<design::DrawnPage> readSvg(std::string_view bytes, const SvgLimits& limits,
                                        const base::Progress& progress, const base::FontStore* fonts) {
    if (bytes.size() > limits.mostBytes)
        return Error{Code::LimitExceeded, "The drawing is larger than " +
                                              std::to_string(limits.mostBytes >> 20) +
                                              " MB; it was not opened."};
    pugi::xml_document document;
    const auto parsed =
        document.load_buffer(bytes.data(), bytes.size(), pugi::parse_default | pugi::parse_doctype);
    if (!parsed)
        return Error{Code::ParseError, "This is not a whole XML file (" + std::string(parsed.description()) +
                                           " at " + lineAndColumn(bytes, parsed.offset) +
                                           "); save it anew in the program it comes from."};
    pugi::xml_node root;
    for (const pugi::xml_node& node : document.children())
        if (node.type() == pugi::node_element && nameOf(node) == "svg")
            root = node;
    if (!root)
        return Error{Code::ParseError, "There is no svg element in this file; it is some other kind of XML."};
    try {
        design::DrawnPage drawing = Reader(limits, progress, fonts).read(root);
        if (drawing.items.empty())
            return Error{Code::ParseError, "Nothing in this drawing can be cut: no outline was found."};
        return drawing;
    } catch (const Stop& stop) {
        return stop.error;
    }
}

} // namespace thinline::formats::svg
