// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A round box with a lid: two strips with teeth, rolled, and four discs.
//
// The strip rolls about its own middle, so round a room of D it is as long as a circle of D + t. Its lap goes inside and its
// teeth fold in under the inner disc; the outer disc covers the teeth and, with what it is larger, the edge of the wall. The
// lid is the same once more, about what the box measures outside and the room that lets it slide.
#include "construct/Blank.h"
#include "construct/Set.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::construct {
namespace {

using design::FoldedForm;
using design::Spot;
using geometry::Point;

constexpr double kPi = std::numbers::pi;

/// A rolled wall and its two discs.
struct Drum {
    std::string before; ///< of its parts' keys: "" or "lid-"
    std::string called; ///< "the wall"
    double insideMm = 0, heightMm = 0, lapMm = 0, toothMm = 0, widerMm = 0, t = 0;

    std::string ofLid() const { return before.empty() ? "" : " of the lid"; }
    double round() const { return wrapped(insideMm, t); }
    double strip() const { return round() + lapMm; }
    int teeth() const { return std::max(3, static_cast<int>(std::ceil(strip() / toothMm - 1e-9))); }
    double wall() const { return heightMm + 1.5 * t; } ///< from its edge to the fold of the teeth
    double middle() const { return (insideMm + t) / 2; }
    double outerDisc() const { return outside(insideMm, t) + widerMm; }
};

void drawWall(const Drum& drum, Built& out) {
    const double high = drum.wall(), deep = drum.toothMm, wide = drum.strip() / drum.teeth();
    geometry::Polygon points{{0, 0}, {drum.strip(), 0}, {drum.strip(), high}};
    for (int i = drum.teeth(); i-- > 0;) {
        points.push_back({(i + 0.5) * wide, high + deep});
        points.push_back({i * wide, high});
    }
    design::Body body{through(points)};
    fold(body, {0, high}, {drum.strip(), high});
    fold(body, {drum.round(), 0}, {drum.round(), high}, 0.1); // the lap, scored to lie close
    glue(body, {{drum.round(), 0}, {drum.strip(), 0}, {drum.strip(), high}, {drum.round(), high}},
         design::Side::Front);
    name(body, {drum.round() / 2, high / 2}, drum.called, true);
    out.parts.push_back({drum.before + "wall", drum.called, std::move(body)});
}

/// The wall as it is rolled: facets so narrow that their corners stray less than a hundredth of a millimetre from the circle.
/// Once it has gone round, its corners lie a card further in.
class Rolled {
  public:
    explicit Rolled(const Drum& drum) : m_round(drum.round()) {
        constexpr double kStrayMm = 0.01;
        const double r = drum.middle(), wide = drum.strip() / drum.teeth();
        const int each = std::max(1, static_cast<int>(std::ceil(wide / r / std::sqrt(6 * kStrayMm / r))));
        m_facet = wide / each;
        const double outer = m_facet / 2 / std::sin(kPi * m_facet / drum.round());
        for (int i = 0; i <= drum.teeth() * each; ++i) {
            m_radius.push_back(i * m_facet <= drum.round() + 1e-9 ? outer : outer - drum.t);
            const double before = i == 0 ? outer : m_radius[m_radius.size() - 2], now = m_radius.back();
            const double cosine = (before * before + now * now - m_facet * m_facet) / (2 * before * now);
            m_turn.push_back(i == 0 ? 0 : m_turn.back() + std::acos(std::clamp(cosine, -1.0, 1.0)));
        }
    }
    double facet() const { return m_facet; }
    size_t facets() const { return m_turn.size() - 1; }
    /// By how much the card turns at the beginning of a facet.
    double bendAt(size_t i) const { return heading(i) - heading(i - 1); }
    /// How far along the wall a place of the lap lies on it.
    double behind(double x) const {
        const size_t i = std::min(static_cast<size_t>(x / m_facet), facets() - 1);
        const double turn = m_turn[i] + (m_turn[i + 1] - m_turn[i]) * (x / m_facet - static_cast<double>(i));
        return (turn - 2 * kPi) * m_round / (2 * kPi);
    }

  private:
    double heading(size_t i) const {
        const Point from{m_radius[i] * std::sin(m_turn[i]), m_radius[i] * std::cos(m_turn[i])};
        const Point to{m_radius[i + 1] * std::sin(m_turn[i + 1]), m_radius[i + 1] * std::cos(m_turn[i + 1])};
        // Continued past a whole turn, for bends are differences.
        const double plain = std::atan2(from.y - to.y, to.x - from.x),
                     about = (m_turn[i] + m_turn[i + 1]) / 2;
        return plain + 2 * kPi * std::round((about - plain) / (2 * kPi));
    }
    double m_round, m_facet = 1;
    std::vector<double> m_radius, m_turn; ///< of the corners
};

void roll(const Drum& drum, const Rolled& rolled, FoldedForm& form) {
    std::vector<design::Bend>& bends = form.bends[drum.before + "wall"];
    for (size_t i = 1; i < rolled.facets(); ++i) {
        const double x = static_cast<double>(i) * rolled.facet();
        bends.push_back(
            {{{x, -1}, {geometry::Segment::line({x, drum.wall()})}}, rolled.bendAt(i) * 180 / kPi, false});
        bends.push_back({{{x, drum.wall()}, {geometry::Segment::line({x, drum.wall() + drum.toothMm + 1})}},
                         0,
                         false,
                         true});
    }
}

/// A disc on the teeth: `inner` lies on their inner face.
void layDisc(const Drum& drum, const std::string& key, double diameterMm, bool inner, FoldedForm& form) {
    const double high = drum.wall(), wide = drum.strip() / drum.teeth(), away = drum.toothMm / 3,
                 half = diameterMm / 2;
    constexpr int kPlaces = 8;
    for (int i = 0; i < kPlaces; ++i) {
        const int tooth = static_cast<int>((drum.teeth() - 1) * i / static_cast<double>(kPlaces) *
                                           drum.round() / drum.strip());
        const double x = (tooth + 0.5) * wide + 1e-3, turn = x / drum.middle(), r = drum.middle() - away;
        const Spot onTooth{drum.before + "wall", {x, high + away}, (inner ? -1 : 1) * drum.t / 2};
        const Spot onDisc{
            key, {half + r * std::sin(turn), half + (inner ? 1 : -1) * r * std::cos(turn)}, -drum.t / 2};
        form.meetings.push_back(
            {(inner ? "inner disc" : "outer disc") + drum.ofLid() + " on the teeth", onTooth, onDisc});
    }
}

void draw(const Drum& drum, Built& out) {
    drawWall(drum, out);
    const std::string lid = drum.before.empty() ? "the base" : "the lid";
    design::Body inner{disc(drum.insideMm)}, outer{disc(drum.outerDisc())};
    out.parts.push_back({drum.before + "inner-disc", "the inner disc of " + lid, std::move(inner)});
    out.parts.push_back({drum.before + "outer-disc", "the outer disc of " + lid, std::move(outer)});
    const Rolled rolled(drum);
    roll(drum, rolled, out.form);
    // The lap, which begins where the strip has gone round once.
    const double high = drum.wall(), from = drum.round(), deep = drum.lapMm, in = drum.t / 2;
    meet(
        out.form, "lap" + drum.ofLid(),
        [&](double along, double away) {
            return Spot{drum.before + "wall", {from + (0.5 + 0.4 * away) * deep, high * along}, in};
        },
        [&](double along, double away) {
            return Spot{
                drum.before + "wall", {rolled.behind(from + (0.5 + 0.4 * away) * deep), high * along}, -in};
        });
    layDisc(drum, drum.before + "inner-disc", drum.insideMm, true, out.form);
    layDisc(drum, drum.before + "outer-disc", drum.outerDisc(), false, out.form);
    for (const char* key : {"wall", "inner-disc", "outer-disc"})
        out.form.order.push_back(drum.before + key);
}

/// The lid's inner disc on the upper edge of the wall.
void putLidOn(const Drum& box, const Drum& lid, FoldedForm& form) {
    const double half = lid.insideMm / 2, r = box.middle();
    for (int i = 0; i < 6; ++i) {
        const double turn = i * kPi / 3 + 0.01;
        form.meetings.push_back(
            {"lid on the wall",
             {"wall", {turn * r, 1e-3}, 0},
             {"lid-inner-disc", {half + r * std::sin(turn), half - r * std::cos(turn)}, lid.t / 2}});
    }
    form.order = {"wall", "inner-disc", "outer-disc", "lid-inner-disc", "lid-wall", "lid-outer-disc"};
}

void explain(const Drum& drum, Built& out) {
    const std::string of = drum.before.empty() ? "" : "lid ";
    out.derived.push_back({of + "wall",
                           {"π × (", drum.insideMm, " + ", drum.t, " card) + ", drum.lapMm, " lap"},
                           drum.strip()});
    out.derived.push_back({of + "wall height",
                           {drum.heightMm, " inside + 1.5 × ", drum.t, " card + ", drum.toothMm, " teeth"},
                           drum.wall() + drum.toothMm});
    out.derived.push_back({of + "tooth",
                           {drum.strip(), " / " + std::to_string(drum.teeth()) + " teeth"},
                           drum.strip() / drum.teeth()});
    out.derived.push_back({of + "inner disc", {drum.insideMm, " inside"}, drum.insideMm});
    out.derived.push_back({of + "outer disc",
                           {drum.insideMm, " + 2 × ", drum.t, " card + ", drum.widerMm, " wider"},
                           drum.outerDisc()});
}

base::Result<Built> build(const Said& said, const base::Progress&) {
    const double room = said["room"], inside = said["diameter"] + room;
    const Drum box{"", "the wall", inside, said["height"], said["lap"], said["teeth"], said["wider"], said.t};
    Drum lid = box;
    lid.before = "lid-";
    lid.called = "the wall of the lid";
    lid.insideMm = outside(inside, said.t) + said["slides"];
    lid.heightMm = said["lid-height"];
    if (box.toothMm > inside / 2)
        return base::Error{base::Code::InvalidArgument,
                           "Teeth of " + mm(box.toothMm) + " would meet in the middle; in a box of " +
                               mm(inside) + " they can be " + mm(inside / 2) + " deep."};
    if (box.lapMm > box.round() / 2)
        return base::Error{base::Code::InvalidArgument, "A lap of " + mm(box.lapMm) +
                                                            " goes more than half round; at most " +
                                                            mm(box.round() / 2) + " does not."};
    if (said.t * 25 > inside)
        return base::Error{base::Code::InvalidArgument, "A wall of " + base::formatNumber(said.t, 2) +
                                                            " mm card cannot be rolled to " +
                                                            base::formatNumber(inside, 1) + " mm; from " +
                                                            mm(said.t * 25) + " on it can."};
    if (lid.heightMm > box.heightMm)
        return base::Error{base::Code::InvalidArgument, "The lid is higher than the box; it can be " +
                                                            mm(box.heightMm) + " high at most."};
    Built out;
    draw(box, out);
    draw(lid, out);
    putLidOn(box, lid, out.form);
    out.fits.push_back({"outer-disc", "lid-inner-disc", said["slides"], "the lid over the box"});
    explain(box, out);
    out.derived.push_back(
        {"lid inside", {inside, " + 2 × ", said.t, " card + ", said["slides"], " to slide"}, lid.insideMm});
    explain(lid, out);
    return out;
}

} // namespace

const Construction& roundBox() {
    static const Construction it{
        "round-box",
        "Round box with lid",
        "A rolled wall with teeth between two discs, and a lid of the same kind over it.",
        {size("diameter", "What goes in, across", 58, 10, 600,
              "the diameter of what goes in; the wall is wrapped round it"),
         size("height", "Height inside", 104, 5, 600, "from the inner disc to the edge of the wall"),
         margin("room", "Room around it", 0, 0, 20, "added to the diameter, so that it goes in easily"),
         size("lid-height", "Lid height inside", 25, 3, 600, "how far the lid comes down"),
         margin("slides", "Lid slides by", 0.3, 0, 5, "how much wider the lid is than the box, in all"),
         margin("lap", "Glue lap", 12, 3, 60, "where the wall is glued to itself"),
         margin("teeth", "Teeth", 12, 3, 40,
                "how deep and about how wide the triangles are that hold the discs"),
         margin("wider", "Outer discs wider by", 1, 0, 20,
                "how much the outer discs stand over the wall, in all")},
        build};
    return it;
}

} // namespace thinline::construct
