// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Carrying out a step at Folds.
//
// A line is said in the coordinates of what its piece was cut from: a picture's pixels, a drawing's own units. So a fold
// that was laid by two clicks keeps its place on the piece whatever happens before it: the design is sized, the piece is
// moved, turned, mirrored. What changes the outline is another matter: then the ends follow the edge, because a fold that
// stops short tears the card there. An end is run on straight to the edge unless it was said to stop, or meets another
// line: the fold of a flap often ends on the fold of a wall and must not cross it.
//
// Every line a step makes has a number of its own, made of the step's: a step that is opened again and changed makes the
// same lines again, and what was said of them later finds them. What a line falls into over openings are parts of one
// line. Numbers of sources lie below all of these.
//
// Laying a line is left to design::carried once its way is known: it clips to the card, drops what runs along an edge, and
// takes a line that lies on another one of its kind for the same line. Only lines whose boxes meet the new one are handed
// over; a piece with thousands of lines is not gone through for one more.
#include "folds/Steps.h"

#include "design/Carry.h"
#include "design/Load.h"
#include "design/MadeLines.h"
#include "folds/Edges.h"
#include "folds/Panels.h"
#include "folds/Panes.h"
#include "folds/Ways.h"
#include "geometry/Congruent.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "lettering/Strokes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <string_view>

namespace thinline::folds {
namespace {

using base::Code;
using base::Error;
using design::Body;
using design::LineId;
using design::Piece;
using design::PieceLine;
using geometry::Line;
using geometry::Point;
using geometry::Transform;

constexpr double kReachMm = 5000; // how far an end is run on
constexpr double kLeastMm = 0.05; // a cut that is run on from a notch to its fold is short
constexpr double kMeetsMm = 0.1;  // an end this near to another line is at it

/// Carries one step out.
class Doing {
  public:
    Doing(const Pieces& pieces, const Step& step, const ActionInfo& info, const base::Progress& progress)
        : m_step(step), m_info(info), m_values(design::valuesOf(info, step)), m_progress(progress) {
        m_out.pieces = pieces;
        m_out.parts = step.parts;
    }

    base::Result<design::Outcome> run() {
        if (auto sound = design::checkBounds(m_info, m_values); !sound)
            return sound.error();
        if (gather() == 0)
            return Error{Code::InvalidArgument, m_info.isDrawing
                                                    ? "Choose a piece for the line to lie on."
                                                    : "Choose lines, or pieces that carry some."};
        for (const Target& target : m_targets) {
            if (m_progress.isCancelled())
                return base::cancelled();
            m_target = &target;
            m_body = *target.body;
            m_made = 0;
            if (auto ok = act(); !ok)
                return ok.error();
            put();
        }
        if (m_changed == 0)
            return Error{Code::InvalidArgument, whyNothing()};
        return std::move(m_out);
    }

  private:
    /// A piece, and which of its lines are meant.
    struct Target {
        PieceId piece;
        Transform placed;
        std::shared_ptr<const Body> body;
        bool isWhole = false; ///< all lines
        std::vector<LineId> lines = {};

        bool has(const PieceLine& line) const {
            return isWhole || std::find(lines.begin(), lines.end(), line.id) != lines.end();
        }
    };

    size_t gather() {
        for (const design::Chosen& one : m_step.on)
            for (const PieceId id : design::resolved({one}, m_out.pieces.now)) {
                auto at = std::find_if(m_targets.begin(), m_targets.end(),
                                       [&](const Target& target) { return target.piece == id; });
                if (at == m_targets.end()) {
                    const Piece& piece = *design::findPiece(m_out.pieces.now, id);
                    at = m_targets.insert(at, Target{id, piece.placed, piece.body});
                }
                if (const auto* line = std::get_if<design::LineOf>(&one))
                    at->lines.push_back(line->line);
                else
                    at->isWhole = true;
            }
        return m_targets.size();
    }

    base::Status act() {
        switch (m_info.action) {
        case Action::Line:
            return layBetween();
        case Action::AlongEdge:
            return layAlongEdge();
        case Action::AlongSides:
            return layAlongSides();
        case Action::Change:
            return change();
        case Action::Move:
            return move(Transform::move({number("right"), number("down")}));
        case Action::Repeat:
            for (int i = 1; i <= static_cast<int>(number("count")); ++i)
                if (auto ok = copy(Transform::move({i * number("right"), i * number("down")})); !ok)
                    return ok;
            return base::Done{};
        case Action::MirrorTwin:
            return copy(geometry::mirrorAbout(geometry::bounds(m_body.shape).centre(),
                                              number("swaps") < 0.5 ? geometry::Axis::Vertical
                                                                    : geometry::Axis::Horizontal));
        case Action::SetLength:
            return setLength();
        case Action::RunOn:
            return runOn();
        case Action::SayPanel:
            return sayPanel();
        case Action::Glue:
        case Action::Unglue:
            return glue();
        case Action::ShortenFlap:
            return shortenFlap();
        case Action::Panes:
            return putPanes();
        case Action::Lining:
            return line();
        case Action::FitMotif:
            return fitMotifs();
        case Action::Way:
            return makeWay();
        case Action::KeepFree:
            return keepFree();
        case Action::Write:
            return write();
        case Action::DrawOn:
            return drawOn();
        case Action::LikeTwins:
            return layAsOnTwin();
        case Action::TakeOff:
            m_changed += static_cast<int>(
                std::erase_if(m_body.lines, [&](const PieceLine& line) { return m_target->has(line); }));
            return base::Done{};
        }
        return base::Done{};
    }

    std::string whyNothing() const {
        switch (m_info.action) {
        case Action::Line:
            return "That line would lie off the card, or lies there already.";
        case Action::AlongEdge:
        case Action::AlongSides:
            return "No line would lie on the card at that distance; give a smaller one.";
        case Action::Move:
        case Action::Repeat:
        case Action::MirrorTwin:
        case Action::SetLength:
            return hadAny() ? "These lines would lie off the card." : kNoLines;
        case Action::Glue:
            return "That flap is glued already.";
        case Action::Unglue:
            return "That flap is not glued.";
        case Action::ShortenFlap:
            return "That flap is no deeper.";
        case Action::Panes:
            return "There is no window at that place, or no room for its pane.";
        case Action::LikeTwins:
            return m_targets.size() < 2
                       ? "No other piece has this form and size."
                       : "The pieces alike carry these lines already, or have another form now.";
        case Action::Write:
            return "Nothing of it would lie on the card.";
        case Action::DrawOn:
            return "Choose the piece that is drawn on, and others that lie over it.";
        case Action::FitMotif:
            return "Say which window, and which other piece goes into it.";
        case Action::SayPanel:
            return "Say that it is the front, which way it is read, or its name.";
        default:
            return kNoLines;
        }
    }
    bool hadAny() const {
        return std::any_of(m_targets.begin(), m_targets.end(), [](const Target& target) {
            return std::any_of(target.body->lines.begin(), target.body->lines.end(),
                               [&](const PieceLine& line) { return target.has(line); });
        });
    }
    static constexpr const char* kNoLines = "These pieces carry no such lines.";

    // ---- values

    double number(const char* name) const {
        for (size_t i = 0; i < m_info.parameters.size(); ++i)
            if (m_info.parameters[i].name == std::string_view(name))
                return m_values[i];
        return 0;
    }
    bool isSaid(const char* name) const { return m_step.values.contains(name); }

    design::LineUse useSaid() const { return drawnAs(m_step).does; }
    /// Only what is said of a fold changes.
    design::Fold foldSaid(design::Fold fold) const {
        const design::Fold said = std::get<design::Fold>(drawnAs(m_step).does);
        if (isSaid("goes"))
            fold.isTowards = said.isTowards;
        if (isSaid("scored"))
            fold.scored = said.scored;
        if (isSaid("angle"))
            fold.angleDeg = said.angleDeg;
        return fold;
    }

    // ---- laying

    LineId newId() { return design::lineMadeBy(m_step.id, m_made++); }

    bool isFree(Point end, const PieceLine& line) const {
        if (geometry::nearestOnEdge(m_body.shape, end, kMeetsMm / 10))
            return false;
        return std::none_of(m_body.lines.begin(), m_body.lines.end(), [&](const PieceLine& other) {
            return other.id != line.id && geometry::bounds(other.path).grownBy(kMeetsMm).contains(end) &&
                   geometry::distanceTo(other.path, end) < kMeetsMm;
        });
    }

    /// Puts a line on the card of the body; its ends are run on where that is asked for.
    base::Status lay(PieceLine line, bool runsFirst, bool runsLast) {
        if (m_made > design::kLinesAStep)
            return Error{Code::LimitExceeded, "A step makes at most 1,000 lines on one piece."};
        runsFirst = runsFirst && isFree(line.path.start, line);
        runsLast = runsLast && isFree(geometry::endOf(line.path), line);
        using geometry::Ends;
        const Ends ends = runsFirst && runsLast ? Ends::Both
                          : runsFirst           ? Ends::First
                          : runsLast            ? Ends::Last
                                                : Ends::Neither;
        auto parts = geometry::extendedToEdge(line.path, m_body.shape, kReachMm, ends);
        if (!parts)
            return parts.error();
        Body own{m_body.shape};
        for (Line& part : parts.take())
            own.lines.push_back({line.id, std::move(part), line.does});
        if (own.lines.empty())
            return base::Done{};
        return take(std::move(own));
    }

    /// Joins lines to those of the body that lie near them.
    base::Status take(Body own) {
        geometry::Box box;
        for (const PieceLine& line : own.lines)
            box.include(geometry::bounds(line.path));
        box = box.grownBy(1);
        std::vector<PieceLine> near;
        std::vector<size_t> places; // of those among the body's
        for (size_t i = 0; i < m_body.lines.size(); ++i)
            if (box.meets(geometry::bounds(m_body.lines[i].path))) {
                near.push_back(m_body.lines[i]);
                places.push_back(i);
            }
        own.lines.insert(own.lines.begin(), near.begin(), near.end());
        auto carried = design::carried({std::make_shared<const Body>(std::move(own))}, {m_body.shape},
                                       {.leastMm = kLeastMm}, m_progress);
        if (!carried)
            return carried.error();
        auto& lines = carried->bodies.front().lines; // those that were there first, in their order
        m_changed += lines != near;
        m_out.droppedBits += carried->droppedBits;
        for (size_t i = places.size(); i-- > lines.size();)
            m_body.lines.erase(m_body.lines.begin() + static_cast<std::ptrdiff_t>(places[i]));
        for (size_t i = 0; i < lines.size(); ++i)
            if (i < places.size())
                m_body.lines[places[i]] = std::move(lines[i]);
            else
                m_body.lines.push_back(std::move(lines[i]));
        return base::Done{};
    }

    /// The way that was drawn on the piece.
    base::Result<Line> wayDrawn() const {
        const auto way = m_step.values.find("way");
        const auto* line = way == m_step.values.end() ? nullptr : std::get_if<Line>(&way->second);
        if (!line || line->segments.empty())
            return Error{Code::InvalidArgument, "This line has no way."};
        return geometry::transformed(*line, m_target->placed);
    }

    base::Status layBetween() {
        auto line = wayDrawn();
        if (!line)
            return line.error();
        const bool runs = drawnAs(m_step).runsToEdge;
        return lay({newId(), line.take(), useSaid()}, runs, runs);
    }

    base::Status layAlongEdge() {
        const auto at = m_step.values.find("at");
        const auto* point = at == m_step.values.end() ? nullptr : std::get_if<Point>(&at->second);
        if (!point)
            return Error{Code::InvalidArgument, "Say which edge by a point on it."};
        const auto edge = straightEdgeAt(m_body.shape, m_target->placed(*point));
        if (!edge)
            return Error{Code::InvalidArgument,
                         "That edge is curved; lay the line between two points instead."};
        const Point by = edge->inward * number("distance");
        Line line{edge->from + by, {geometry::Segment::line(edge->to + by)}};
        const bool runs = drawnAs(m_step).runsToEdge;
        if (runs) { // the ends may lie off the card: what counts is where the middle comes to lie
            const Point along = (edge->to - edge->from) * (0.005 / edge->lengthMm()),
                        middle = edge->middle() + by;
            if (!geometry::contains(m_body.shape, middle))
                return base::Done{};
            line = {middle - along, {geometry::Segment::line(middle + along)}};
        }
        return lay({newId(), std::move(line), useSaid()}, runs, runs);
    }

    base::Status layAlongSides() {
        constexpr double kBeyondMm = 1;
        const int side = static_cast<int>(std::lround(number("side")));
        const double away = number("distance");
        const geometry::Box box = geometry::bounds(m_body.shape);
        const double left = box.least.x - kBeyondMm, right = box.most.x + kBeyondMm,
                     top = box.least.y - kBeyondMm, bottom = box.most.y + kBeyondMm;
        const std::array<std::pair<Point, Point>, 4> ways{
            std::pair<Point, Point>{{left, box.least.y + away}, {right, box.least.y + away}},
            {{box.most.x - away, top}, {box.most.x - away, bottom}},
            {{left, box.most.y - away}, {right, box.most.y - away}},
            {{box.least.x + away, top}, {box.least.x + away, bottom}}};
        for (int way = 0; way < 4; ++way) {
            const auto& [from, to] = ways[static_cast<size_t>(way)];
            const LineId id = newId(); // each side has its own, also when it is laid alone
            if (side < 4 && way != side)
                continue;
            if (auto ok = lay({id, {from, {geometry::Segment::line(to)}}, useSaid()}, false, false); !ok)
                return ok;
        }
        return base::Done{};
    }

    // ---- lines that are there

    std::vector<PieceLine> meant() const {
        std::vector<PieceLine> out;
        for (const PieceLine& line : m_body.lines)
            if (m_target->has(line))
                out.push_back(line);
        return out;
    }

    base::Status change() {
        for (PieceLine& line : m_body.lines) {
            if (!m_target->has(line))
                continue;
            design::LineUse does = line.does;
            if (isSaid("as") && does.index() != useSaid().index())
                does = useSaid();
            else if (const auto* fold = std::get_if<design::Fold>(&does))
                does = foldSaid(*fold);
            m_changed += isSaid("as") || std::holds_alternative<design::Fold>(does);
            line.does = does;
        }
        return base::Done{};
    }

    base::Status move(const Transform& by) {
        const std::vector<PieceLine> lines = meant();
        std::erase_if(m_body.lines, [&](const PieceLine& line) { return m_target->has(line); });
        return layMapped(lines, by, false);
    }
    base::Status copy(const Transform& by) {
        const std::vector<PieceLine> lines = meant();
        return layMapped(lines, by, true);
    }
    /// Copies get numbers of their own; parts of one line one number.
    base::Status layMapped(const std::vector<PieceLine>& lines, const Transform& by, bool areNew) {
        std::map<LineId, LineId> ids;
        for (PieceLine line : lines) {
            if (areNew) {
                const auto [at, isFirst] = ids.try_emplace(line.id);
                if (isFirst)
                    at->second = newId();
                line.id = at->second;
            }
            line.path = geometry::transformed(line.path, by);
            const int before = m_changed;
            if (auto ok = lay(line, line.beginsAtEdge, line.endsAtEdge); !ok)
                return ok;
            m_out.droppedBits += m_changed == before;
        }
        return base::Done{};
    }

    base::Status runOn() {
        const std::vector<PieceLine> before = m_body.lines, lines = meant();
        const int changed = m_changed;
        for (const PieceLine& line : lines) {
            std::erase(m_body.lines, line);
            if (auto ok = lay(line, true, true); !ok)
                return ok;
        }
        m_changed = m_body.lines == before ? changed : m_changed;
        return base::Done{};
    }

    base::Status setLength() {
        const double wanted = number("length");
        const int keeps = static_cast<int>(std::lround(number("keeps")));
        const std::vector<PieceLine> lines = meant();
        std::erase_if(m_body.lines, [&](const PieceLine& line) { return m_target->has(line); });
        for (PieceLine line : lines) {
            const double spare = geometry::contourLength(line.path) - wanted;
            const double atStart = keeps == 0 ? spare / 2 : keeps == 1 ? 0 : spare;
            line.path = withEndsMoved(line.path, atStart, spare - atStart);
            if (auto ok = lay(line, false, false); !ok)
                return ok;
        }
        return base::Done{};
    }
    /// Takes lengths off the ends; negative ones are added straight on.
    static Line withEndsMoved(const Line& path, double offStart, double offEnd) {
        const double length = geometry::contourLength(path);
        Line out = geometry::stretchOfLine(path, std::max(0.0, offStart), length - std::max(0.0, offEnd));
        const double stubMm = std::min(0.01, geometry::contourLength(out) / 2);
        const auto ahead = [&](const Line& line) {
            const double whole = geometry::contourLength(line);
            const Line stub = geometry::stretchOfLine(line, whole - stubMm, whole);
            const Point by = geometry::endOf(stub) - stub.start;
            return by * (1 / std::max(1e-12, geometry::length(by)));
        };
        if (offEnd < 0)
            out.segments.push_back(geometry::Segment::line(geometry::endOf(out) + ahead(out) * -offEnd));
        if (offStart < 0) {
            const Point start = out.start;
            out.start = start + ahead(geometry::reversed(out)) * -offStart;
            out.segments.insert(out.segments.begin(), geometry::Segment::line(start));
        }
        return out;
    }

    // ---- panels

    /// The panel at the point that was said.
    base::Result<Panel> panelSaid() const {
        const auto at = m_step.values.find("at");
        const auto* point = at == m_step.values.end() ? nullptr : std::get_if<Point>(&at->second);
        if (!point)
            return Error{Code::InvalidArgument, "Say which panel by a point on it."};
        auto panels = panelsOf(m_body, m_progress);
        if (!panels)
            return panels.error();
        for (Panel& panel : panels.take())
            if (geometry::contains(panel.area, m_target->placed(*point)))
                return std::move(panel);
        return Error{Code::InvalidArgument,
                     "There is no panel at that place; folds that part the piece make some."};
    }

    base::Status sayPanel() {
        auto panel = panelSaid();
        if (!panel)
            return panel.error();
        auto& all = m_body.panels;
        auto said = std::find_if(all.begin(), all.end(), [&](const design::Panel& one) {
            return geometry::contains(panel->area, one.inside);
        });
        if (said == all.end())
            said = all.insert(all.end(), design::Panel{panel->middle});
        if (isSaid("front") && number("front") >= 0.5) {
            for (design::Panel& one : all)
                one.isFront = false;
            said->isFront = true;
        }
        if (isSaid("up"))
            said->upRad = std::remainder(number("up") * std::numbers::pi / 180, 2 * std::numbers::pi);
        if (const auto name = m_step.values.find("name"); name != m_step.values.end())
            if (const auto* word = std::get_if<std::string>(&name->second))
                said->name = *word;
        m_changed += isSaid("front") || isSaid("up") || isSaid("name");
        return base::Done{};
    }

    base::Status glue() {
        auto panel = panelSaid();
        if (!panel)
            return panel.error();
        auto there = glueOn(m_body, *panel);
        if (m_info.action == Action::Unglue) {
            if (there)
                m_body.zones.erase(m_body.zones.begin() + static_cast<std::ptrdiff_t>(*there));
            m_changed += there.has_value();
            return base::Done{};
        }
        m_changed += !there;
        if (!there) {
            there = m_body.zones.size();
            m_body.zones.push_back({design::Zone::Kind::Glue, std::move(panel->area), 0, m_target->piece});
        }
        const auto behind = m_step.values.find("behind");
        const auto* edge = behind == m_step.values.end() ? nullptr : std::get_if<Point>(&behind->second);
        auto& now = m_body.zones[*there].behind;
        if (const auto then = edge ? std::optional(m_target->placed(*edge)) : now; then != now) {
            now = then;
            ++m_changed;
        }
        return base::Done{};
    }

    base::Status shortenFlap() {
        auto panel = panelSaid();
        if (!panel)
            return panel.error();
        auto shape = shortened(m_body, *panel, number("depth"), m_progress);
        if (!shape)
            return shape.error();
        const double before = geometry::area(m_body.shape);
        auto carried =
            design::carried({std::make_shared<const Body>(m_body)}, {shape.take()}, {}, m_progress);
        if (!carried)
            return carried.error();
        m_body = std::move(carried->bodies.front());
        m_out.shortEnds += carried->shortEnds;
        m_out.droppedBits += carried->droppedBits;
        m_changed += geometry::area(m_body.shape) < before - 1e-9;
        return base::Done{};
    }

    // ---- ways, and places kept free

    base::Status makeWay() {
        const auto drawn = wayDrawn();
        if (!drawn)
            return drawn.error();
        const bool isInFront = number("runs") >= 0.5;
        auto made = wayOf(m_body.shape, drawn->start, geometry::endOf(*drawn),
                          {number("width"), number("slit"), number("leaves") >= 0.5}, m_progress);
        if (!made)
            return made.error();
        Way way = made.take();
        for (Line& slit : way.slits)
            if (auto ok = lay({newId(), std::move(slit), design::Slit{}}, false, false); !ok)
                return ok;
        const base::Parameter& takes = m_info.parameters.front();
        for (geometry::Shape& part : way.area)
            m_body.zones.push_back({.kind = design::Zone::Kind::Way,
                                    .area = std::move(part),
                                    .side = isInFront ? design::Side::Front : design::Side::Back,
                                    .takesMm = number("width"),
                                    .takes = base::valueText(takes, number("takes"))});
        ++m_changed;
        return base::Done{};
    }

    base::Status keepFree() {
        const auto drawn = wayDrawn();
        if (!drawn)
            return drawn.error();
        auto strip =
            stripOn(m_body.shape, drawn->start, geometry::endOf(*drawn), number("width"), m_progress);
        if (!strip)
            return strip.error();
        for (geometry::Shape& part : strip.take())
            m_body.zones.push_back({.kind = design::Zone::Kind::KeepFree,
                                    .area = std::move(part),
                                    .side = number("side") < 0.5 ? design::Side::Front : design::Side::Back});
        ++m_changed;
        return base::Done{};
    }

    // ---- drawing

    /// A text, its base line where the way begins and along it.
    base::Status write() {
        const auto drawn = wayDrawn();
        if (!drawn)
            return drawn.error();
        const auto name = m_step.values.find("name");
        const auto* words = name == m_step.values.end() ? nullptr : std::get_if<std::string>(&name->second);
        const double high = number("height");
        auto lines = lettering::strokeLines(words ? *words : std::string(), {0, -high}, high);
        if (!lines)
            return lines.error();
        const Point along = geometry::endOf(*drawn) - drawn->start;
        if (geometry::distance(along, {}) < kLeastMm)
            return Error{Code::InvalidArgument, "Say by a second place which way it is written."};
        const auto place =
            design::turnedOver(std::atan2(along.y, along.x), false).then(Transform::move(drawn->start));
        const design::LineUse does =
            number("as") < 0.5 ? design::LineUse(design::Pen{}) : design::LineUse(design::Score{});
        for (const Line& line : lines.take())
            if (auto ok = lay({newId(), geometry::transformed(line, place), does}, false, false); !ok)
                return ok;
        return base::Done{};
    }

    /// The outlines of the other pieces on the first one, which is asked last of all that it takes in.
    base::Status drawOn() {
        if (m_target != &m_targets.front())
            return base::Done{};
        const design::LineUse does =
            number("as") < 0.5 ? design::LineUse(design::Pen{}) : design::LineUse(design::Score{});
        for (size_t i = 1; i < m_targets.size(); ++i) {
            const Body& body = *m_targets[i].body;
            std::vector<Line> outlines = body.shape.openings;
            outlines.insert(outlines.begin(), body.shape.outline);
            const int before = m_changed;
            for (Line& outline : outlines)
                if (auto ok = lay({newId(), std::move(outline), does}, false, false); !ok)
                    return ok;
            if (m_changed == before) // it lies beside the card
                continue;
            const PieceId drawn = m_targets[i].piece;
            m_out.successors.push_back({drawn, m_target->piece, false});
            std::erase_if(m_out.pieces.now, [&](const Piece& piece) { return piece.id == drawn; });
        }
        return base::Done{};
    }

    // ---- twins

    /// The lines chosen on another piece, laid on this one as they lie there.
    base::Status layAsOnTwin() {
        const Target& from = m_targets.front();
        if (m_target->piece == from.piece)
            return base::Done{};
        const auto map = geometry::congruence(from.body->shape, m_body.shape);
        if (!map) // its form was changed since; the others go on
            return base::Done{};
        std::vector<PieceLine> lines;
        for (const PieceLine& line : from.body->lines)
            if (!from.isWhole && from.has(line))
                lines.push_back(line);
        return layMapped(lines, *map, true);
    }

    // ---- panes and linings

    /// A piece beside the one in work.
    void addBeside(PieceId id, geometry::Shape shape, const std::string& word) {
        Piece piece = *design::findPiece(m_out.pieces.now, m_target->piece);
        piece.name += ", " + word;
        piece.id = id;
        piece.body = std::make_shared<const Body>(Body{std::move(shape)});
        m_out.made.push_back(id);
        m_out.successors.push_back({m_target->piece, id, false});
        m_out.pieces.now.push_back(std::move(piece));
        ++m_changed;
    }

    base::Status putPanes() {
        std::vector<Point> windows;
        std::vector<size_t> numbers; // among all windows of the step
        for (size_t i = 0; i < m_step.on.size(); ++i)
            if (const auto* opening = std::get_if<design::OpeningOf>(&m_step.on[i]);
                opening && design::resolved({*opening}, m_out.pieces.now) == std::vector{m_target->piece}) {
                windows.push_back(m_target->placed(opening->inside));
                numbers.push_back(i);
            }
        auto panes = panesOf(m_body, windows, number("margin"), m_progress);
        if (!panes)
            return panes.error();
        for (size_t i = 0; i < panes->size(); ++i) {
            const auto& pane = (*panes)[i];
            if (!pane)
                continue;
            const PieceId id = paneOf(m_step, numbers[i]);
            for (const geometry::Shape& part : pane->ring)
                m_body.zones.push_back({design::Zone::Kind::Glue, part, 0, id});
            addBeside(id, pane->shape, "pane " + std::to_string(numbers[i] + 1));
        }
        return base::Done{};
    }

    /// The motifs of this piece's windows, one after another; those that are not there any more are left out.
    base::Status fitMotifs() {
        for (const MotifPair& pair : motifPairsOf(m_step)) {
            const Piece* found = design::resolved(pair.motif, m_out.pieces.now);
            const auto spent = m_spent.find(pair.motif);
            const bool isFirst = found != nullptr;
            if ((!found && spent == m_spent.end()) || (found && found->id == m_target->piece) ||
                design::resolved({pair.window}, m_out.pieces.now) != std::vector{m_target->piece})
                continue;
            const Piece motif =
                isFirst ? *found : spent->second; // one that is used again is not there any more
            auto fit = fitMotif(m_body, m_target->placed(pair.window.inside), motif.shape(),
                                motifWishOf(m_step), m_progress);
            if (!fit)
                return fit.error();
            if (const std::string why = whyRefused({&motif, *fit}); !why.empty())
                return Error{Code::InvalidArgument, why};
            m_body.shape = fit->whole;
            for (const PieceLine& line : motif.body->lines)
                m_body.lines.push_back({newId(), geometry::transformed(line.path, fit->placed), line.does});
            if (fit->sides < 2)
                m_out.heldOnce.push_back({motif.name, m_target->piece});
            if (isFirst) {
                m_out.successors.push_back({motif.id, m_target->piece, false});
                std::erase_if(m_out.pieces.now, [&](const Piece& piece) { return piece.id == motif.id; });
                m_spent.emplace(pair.motif, motif);
            }
            ++m_changed;
        }
        return base::Done{};
    }

    base::Status line() {
        auto panel = panelSaid();
        if (!panel)
            return panel.error();
        auto parts = liningOf(panel->area, number("margin"), m_progress);
        if (!parts)
            return parts.error();
        for (size_t i = 0; i < parts->size(); ++i)
            addBeside(m_target->piece.parted(m_step.id, "lining." + std::to_string(i + 1)), (*parts)[i],
                      "lining of " + panel->name);
        return base::Done{};
    }

    /// Puts the changed body in the place of its piece's.
    void put() {
        if (m_body == *m_target->body)
            return;
        for (Piece& piece : m_out.pieces.now)
            if (piece.id == m_target->piece) {
                piece.body = std::make_shared<const Body>(std::move(m_body));
                m_out.made.push_back(piece.id);
                m_out.successors.push_back({piece.id, piece.id, true});
            }
    }

    const Step& m_step;
    const ActionInfo& m_info;
    const std::vector<double> m_values;
    const base::Progress& m_progress;
    std::vector<Target> m_targets;
    design::Outcome m_out;
    // of the piece in work
    const Target* m_target = nullptr;
    Body m_body;
    int m_made = 0;
    int m_changed = 0;                ///< lines, over all pieces
    std::map<PieceId, Piece> m_spent; ///< motifs that went into windows
};

} // namespace

base::Result<std::vector<SeenMotif>> motifsSeen(const Pieces& pieces, const Step& step,
                                                const base::Progress& progress) {
    std::vector<SeenMotif> out;
    for (const MotifPair& pair : motifPairsOf(step)) {
        const Piece *frame = design::resolved(pair.window.piece, pieces.now),
                    *motif = design::resolved(pair.motif, pieces.now);
        if (!frame || !motif || frame == motif)
            continue;
        auto fit = fitMotif(*frame->body, frame->placed(pair.window.inside), motif->shape(),
                            motifWishOf(step), progress);
        if (!fit)
            return fit.error();
        out.push_back({motif, fit.take()});
    }
    return out;
}

std::string whyRefused(const SeenMotif& seen) {
    if (seen.fit.whyNot.empty())
        return {};
    std::string out = seen.motif->name + " " + seen.fit.whyNot;
    if (out[0] >= 'a' && out[0] <= 'z')
        out[0] = static_cast<char>(out[0] - 'a' + 'A');
    return out;
}

base::Result<design::Outcome> apply(const Pieces& pieces, const Step& step, const base::Progress& progress) {
    const ActionInfo* info = infoOf(step);
    if (!info)
        return Error{Code::Unsupported, "This program does not know the step '" + step.action + "'."};
    return Doing(pieces, step, *info, progress).run();
}

} // namespace thinline::folds
