// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/StepPicture.h"

#include "geometry/Lines.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::pack {
namespace {

using assembly::Act;
using assembly::Assembly;
using assembly::Step;
using geometry::Box;
using geometry::Point;
using geometry::Polygons;
using geometry::Transform;

constexpr double kFinePaperMm = 0.06; // how far a drawn outline may stray on paper
constexpr double kDiscMm = 2.3;       // radius of a number's disc
constexpr raster::Rgb kThere{226, 224, 220}, kBase{238, 236, 232}, kWhite{255, 255, 255};

geometry::Polygon circle(Point middle, double radius) {
    geometry::Polygon out;
    constexpr int kSides = 24;
    for (int i = 0; i < kSides; ++i)
        out.push_back(middle + Point{std::cos(2 * std::numbers::pi * i / kSides),
                                     std::sin(2 * std::numbers::pi * i / kSides)} *
                                   radius);
    return out;
}

/// Lines across an area from lower left to upper right.
void hatch(Leaf& leaf, const Polygons& rings) {
    constexpr double kPitchMm = 1.3;
    const double turn = std::numbers::sqrt2 / 2;
    const auto turned = [&](Point p) { return Point{(p.x - p.y) * turn, (p.x + p.y) * turn}; };
    const auto back = [&](Point p) { return Point{(p.x + p.y) * turn, (p.y - p.x) * turn}; };
    std::map<int, std::vector<double>> crossings; // of each line, by its number
    for (const geometry::Polygon& ring : rings)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            Point a = turned(ring[i]), b = turned(ring[(i + 1) % ring.size()]);
            if (a.y > b.y)
                std::swap(a, b);
            for (int k = static_cast<int>(std::ceil(a.y / kPitchMm)); k * kPitchMm < b.y; ++k)
                crossings[k].push_back(a.x + (b.x - a.x) * (k * kPitchMm - a.y) / (b.y - a.y));
        }
    for (auto& [k, at] : crossings) {
        std::sort(at.begin(), at.end());
        for (std::size_t i = 0; i + 1 < at.size(); i += 2)
            leaf.stretch(back({at[i], k * kPitchMm}), back({at[i + 1], k * kPitchMm}), 0.12, 0.25);
    }
}

bool doMeet(const Box& a, const Box& b) {
    return a.least.x < b.most.x && b.least.x < a.most.x && a.least.y < b.most.y && b.least.y < a.most.y;
}

/// Sets numbers so that none covers another one.
class Numbers {
  public:
    Numbers(Leaf& leaf, const Box& within) : m_leaf(leaf), m_within(within) {}

    /// What stays visible: small pieces are not covered by their own numbers.
    void keepFree(const Box& box) {
        if (std::min(box.width(), box.height()) < 3 * kDiscMm &&
            std::max(box.width(), box.height()) < 12 * kDiscMm)
            m_taken.push_back(box);
    }

    void set(Point at, const std::string& text) {
        const double half = std::max(kDiscMm, 0.95 * static_cast<double>(text.size()) + 0.9);
        const double radius = text.size() < 3 ? half : kDiscMm + 0.4;
        const Point place = freePlace(at, half);
        const Box box{place - Point{half, radius}, place + Point{half, radius}};
        m_taken.push_back(box);
        if (geometry::distance(place, at) > kDiscMm)
            m_leaf.stretch(place, at, 0.2, 0);
        Polygons disc{circle(place, radius)};
        if (half > radius)
            disc = {{box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}}};
        m_leaf.fill(disc, kWhite);
        m_leaf.outline(disc, 0.25, 0);
        m_leaf.writeAround(place, text, {3, Weight::Bold});
    }

  private:
    Point freePlace(Point at, double half) const {
        const Box room{m_within.least + Point{half, kDiscMm}, m_within.most - Point{half, kDiscMm}};
        const auto held = [&](Point p) {
            return Point{std::clamp(p.x, room.least.x, std::max(room.least.x, room.most.x)),
                         std::clamp(p.y, room.least.y, std::max(room.least.y, room.most.y))};
        };
        for (double reach = 0; reach < 200; reach += 1)
            for (int turn = 0; turn < (reach > 0 ? 16 : 1); ++turn) {
                const double angle = 2 * std::numbers::pi * turn / 16;
                const Point p = held(at + Point{std::cos(angle), std::sin(angle)} * reach);
                const Box box{p - Point{half + 0.3, kDiscMm + 0.3}, p + Point{half + 0.3, kDiscMm + 0.3}};
                if (std::none_of(m_taken.begin(), m_taken.end(),
                                 [&](const Box& one) { return doMeet(one, box); }))
                    return p;
            }
        return held(at);
    }

    Leaf& m_leaf;
    const Box m_within;
    std::vector<Box> m_taken;
};

/// Places along which two pieces lie edge to edge, and the way across there, as far as three strips of tape need them.
std::vector<std::pair<Point, Point>> tapePlaces(const geometry::Shape& a, const geometry::Shape& b,
                                                double apartMm) {
    constexpr double kNearMm = 0.6, kStepMm = 2;
    std::vector<std::pair<Point, Point>> along;
    for (const geometry::Polygon& ring : geometry::flatten(a, 0.1))
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point from = ring[i], to = ring[(i + 1) % ring.size()];
            const double length = geometry::distance(from, to);
            if (length <= 0)
                continue;
            const Point way = (to - from) * (1 / length);
            for (double at = kStepMm / 2; at < length; at += kStepMm)
                if (geometry::nearestOnEdge(b, from + way * at, kNearMm))
                    along.emplace_back(from + way * at, Point{-way.y, way.x});
        }
    std::vector<std::pair<Point, Point>> out;
    for (const std::size_t share : {3u, 1u, 5u}) // the middle first: a short seam has room for one
        if (!along.empty() && (out.empty() || geometry::distance(along[along.size() * share / 6].first,
                                                                 out.front().first) > apartMm))
            out.push_back(along[along.size() * share / 6]);
    return out;
}

/// Draws which part of the whole a picture shows, in its upper right corner, and returns where.
Box drawWhere(Leaf& leaf, const Box& into, const Box& whole, const Box& part, bool isMirrored) {
    constexpr double kMostMm = 13;
    const double scale = kMostMm / std::max(whole.width(), whole.height());
    const Point size{whole.width() * scale, whole.height() * scale};
    const Point corner{into.most.x - size.x - 1, into.least.y + 1};
    const auto rectangle = [](const Box& box) {
        return Polygons{{box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}}};
    };
    Box shown{corner + (part.least - whole.least) * scale, corner + (part.most - whole.least) * scale};
    if (isMirrored) {
        const double least = 2 * corner.x + size.x - shown.most.x;
        shown.most.x = 2 * corner.x + size.x - shown.least.x;
        shown.least.x = least;
    }
    leaf.fill(rectangle({corner, corner + size}), kWhite);
    leaf.outline(rectangle({corner, corner + size}), 0.15, 0.4);
    leaf.fill(rectangle(shown), {150, 150, 148});
    return {corner, corner + size};
}

} // namespace

/// What a picture shows, and how it lies on paper.
struct StepPictures::View {
    std::vector<std::size_t> there, fresh; ///< pieces by their places, those that lie deepest first
    std::vector<Point> at; ///< of the new ones as the step names them: where their numbers belong
    std::vector<std::string> numbers;
    Box box;   ///< what is shown, mm in the design
    Box whole; ///< where only a part is: all there is
    bool isMirrored = false;
};

StepPictures::StepPictures(const design::Stack& stack, const design::Heights& heights,
                           const assembly::Instructions& told)
    : m_stack(stack), m_heights(heights), m_told(told) {
    for (std::size_t i = 0; i < stack.pieces.size(); ++i)
        m_places[stack.pieces[i].id()] = i;
}

bool StepPictures::hasPicture(const Step& step) {
    return step.act != Act::LayOut && step.act != Act::Wait && step.act != Act::TryDry;
}

/// All pieces of an assembly, with those of the assemblies it is made of.
void StepPictures::collect(const Assembly& in, std::set<std::size_t>& out) const {
    for (const design::PieceId piece : in.base)
        out.insert(placeOf(piece));
    for (const Step& step : in.steps)
        for (const assembly::Placed& placed : step.pieces)
            if (placed.made)
                collect(m_told.assemblies[*placed.made], out);
            else
                out.insert(placeOf(placed.piece));
}

StepPictures::View StepPictures::viewOf(const Assembly& in, std::size_t at) const {
    View view;
    const Step& step = in.steps[at];
    view.isMirrored = step.up == design::Side::Back;
    std::set<std::size_t> there, fresh;
    for (const design::PieceId piece : in.base)
        there.insert(placeOf(piece));
    const auto add = [&](const Step& one, std::set<std::size_t>& out) {
        for (const assembly::Placed& placed : one.pieces)
            if (placed.made)
                collect(m_told.assemblies[*placed.made], out);
            else
                out.insert(placeOf(placed.piece));
    };
    for (std::size_t k = 0; k < at; ++k)
        add(in.steps[k], there);
    add(step, fresh);
    Box whole, news;
    for (const std::size_t piece : fresh) {
        there.erase(piece);
        news.include(geometry::bounds(m_stack.pieces[piece].shape()));
    }
    for (const std::size_t piece : there)
        whole.include(geometry::bounds(m_stack.pieces[piece].shape()));
    whole.include(news);
    view.box = whole;
    // Small things on something large are looked at more closely, with enough around them to find the place.
    constexpr double kLeastShare = 0.45, kSmallShare = 0.25;
    const bool isSmall = !news.isEmpty() && news.width() < kSmallShare * whole.width() &&
                         news.height() < kSmallShare * whole.height();
    if (isSmall && !there.empty()) {
        const Point half{std::max(news.width(), kLeastShare * whole.width()) / 2,
                         std::max(news.height(), kLeastShare * whole.height()) / 2};
        const auto held = [](double middle, double reach, double least, double most) {
            return std::clamp(middle, least + reach, std::max(least + reach, most - reach));
        };
        const Point middle{held(news.centre().x, half.x, whole.least.x, whole.most.x),
                           held(news.centre().y, half.y, whole.least.y, whole.most.y)};
        view.box = {middle - half, middle + half};
        view.whole = whole;
    }
    for (const assembly::Placed& placed : step.pieces) {
        view.at.push_back(geometry::pointInside(m_stack.find(placed.piece)->shape()));
        view.numbers.push_back(placed.made ? assembly::letterOf(*placed.made)
                                           : std::to_string(m_told.numberOf(placed.piece)));
    }
    view.there.assign(there.begin(), there.end());
    view.fresh.assign(fresh.begin(), fresh.end());
    for (auto* pieces : {&view.there, &view.fresh})
        std::stable_sort(pieces->begin(), pieces->end(), [&](std::size_t a, std::size_t b) {
            return view.isMirrored ? m_heights.of[a].bottomMm > m_heights.of[b].bottomMm
                                   : m_heights.of[a].bottomMm < m_heights.of[b].bottomMm;
        });
    return view;
}

double StepPictures::heightFor(const Assembly& in, std::size_t step, double widthMm, double mostMm) const {
    const Box box = viewOf(in, step).box;
    constexpr double kLeastMm = 24;
    return box.isEmpty() ? kLeastMm
                         : std::clamp(widthMm * box.height() / std::max(box.width(), 1e-6), kLeastMm, mostMm);
}

raster::Rgb StepPictures::tintOf(std::size_t piece) const {
    raster::Rgb colour = design::colourOf(m_stack.stocks, m_stack.layerOf(m_stack.pieces[piece]).stockId);
    for (std::uint8_t& part : colour) // light enough for what is drawn on it
        part = static_cast<std::uint8_t>(90 + part * 165 / 255);
    return colour;
}

/// Glue, tape, foam, folds and ways, over the pieces.
void StepPictures::drawOver(Leaf& leaf, const View& view, const Step& step, const Transform& map,
                            double scale) const {
    const auto rings = [&](const geometry::Shape& shape) {
        return geometry::flatten(geometry::transformed(shape, map), kFinePaperMm);
    };
    for (const geometry::Shape& glue : step.glue)
        hatch(leaf, rings(glue));
    for (const assembly::Seam& seam : step.seams)
        if (!seam.isGlued)
            for (const auto& [place, across] : tapePlaces(m_stack.find(seam.upper)->shape(),
                                                          m_stack.find(seam.lower)->shape(), 4 / scale)) {
                constexpr double kTapeMm = 5, kHalfWideMm = 1.1; // on paper
                const Point at = map(place), way = (map(place + across) - at) * (kTapeMm / 2 / scale),
                            side = Point{-way.y, way.x} * (2 * kHalfWideMm / kTapeMm);
                const Polygons strip{{at - way - side, at + way - side, at + way + side, at - way + side}};
                leaf.fill(strip, kWhite);
                leaf.outline(strip, 0.2, 0);
            }
    std::set<double> heights;
    for (const assembly::Spot& spot : step.foam)
        heights.insert(spot.heightMm);
    for (const assembly::Spot& spot : step.foam) {
        const Polygons ring{circle(map(spot.middle), std::max(0.8, spot.acrossMm * scale / 2))};
        // As the step's words have it: white the lowest, grey, black.
        constexpr std::array<raster::Rgb, 3> kByHeight{kWhite, raster::Rgb{150, 150, 150},
                                                       raster::Rgb{0, 0, 0}};
        const auto rank =
            static_cast<std::size_t>(std::distance(heights.begin(), heights.find(spot.heightMm)));
        leaf.fill(ring, kByHeight[std::min(rank, kByHeight.size() - 1)]);
        leaf.outline(ring, 0.3, 0);
    }
    if (step.act == Act::Fold || step.act == Act::GlueFlaps)
        for (const assembly::Placed& placed : step.pieces)
            for (const design::PieceLine& line : m_stack.find(placed.piece)->piece.body->lines)
                if (const auto* fold = std::get_if<design::Fold>(&line.does)) {
                    const std::vector<double> dash =
                        fold->isTowards ? std::vector<double>{0.1, 1.1} : std::vector<double>{2.2, 1.1};
                    leaf.paint(formats::pdf::Drawn{
                        {geometry::transformed(line.path, map)}, fold->isTowards ? 0.5 : 0.3, 0, dash});
                }
    if (step.act == Act::PutIn || step.act == Act::String)
        for (const std::size_t piece : view.there.empty() ? view.fresh : view.there)
            for (const design::Zone& zone : m_stack.pieces[piece].piece.body->zones)
                if (zone.kind == design::Zone::Kind::Way && zone.takes == step.takes) {
                    leaf.fill(rings(zone.area), {200, 190, 176});
                    leaf.outline(rings(zone.area), 0.3, 0, {1, 1});
                }
}

void StepPictures::draw(Leaf& leaf, const Box& into, const Assembly& in, std::size_t at) const {
    const View view = viewOf(in, at);
    const Step& step = in.steps[at];
    if (view.box.isEmpty())
        return;
    const double scale = std::min(into.width() / std::max(view.box.width(), 1e-6),
                                  into.height() / std::max(view.box.height(), 1e-6));
    const Point middle = view.box.centre();
    const auto map = Transform::move(middle * -1)
                         .then(Transform::scale(view.isMirrored ? -scale : scale, scale))
                         .then(Transform::move(into.centre()));
    const auto rings = [&](const geometry::Shape& shape) {
        return geometry::flatten(geometry::transformed(shape, map), kFinePaperMm);
    };
    const auto shown = [&](std::size_t piece) {
        return doMeet(geometry::bounds(m_stack.pieces[piece].shape()), view.box);
    };
    const Box window{
        into.centre() - Point{view.box.width(), view.box.height()} * (scale / 2) - Point{0.2, 0.2},
        into.centre() + Point{view.box.width(), view.box.height()} * (scale / 2) + Point{0.2, 0.2}};
    leaf.paint(formats::pdf::ClipTo{window});
    const auto isBase = [&](std::size_t piece) {
        return std::find(in.base.begin(), in.base.end(), m_stack.pieces[piece].id()) != in.base.end();
    };
    for (const std::size_t piece : view.there)
        if (shown(piece)) {
            const Polygons outline = rings(m_stack.pieces[piece].shape());
            leaf.fill(outline, isBase(piece) ? kBase : kThere);
            leaf.outline(outline, 0.15, 0.55);
        }
    // What lies on a new piece already hides where that one is glued.
    const auto isOn = [&](std::size_t piece) {
        return std::none_of(step.pieces.begin(), step.pieces.end(), [&](const assembly::Placed& placed) {
            return placed.piece == m_stack.pieces[piece].id();
        });
    };
    for (const bool isLater : {false, true}) {
        for (const std::size_t piece : view.fresh)
            if (shown(piece) && isOn(piece) == isLater) {
                const Polygons outline = rings(m_stack.pieces[piece].shape());
                leaf.fill(outline, tintOf(piece));
                leaf.outline(outline, 0.35, 0);
            }
        if (!isLater)
            drawOver(leaf, view, step, map, scale);
    }
    leaf.paint(formats::pdf::ClipTo{});
    Numbers numbers(leaf, into);
    if (!view.whole.isEmpty())
        numbers.keepFree(drawWhere(leaf, into, view.whole, view.box, view.isMirrored));
    for (const assembly::Spot& spot : step.foam)
        numbers.keepFree(
            geometry::bounds({circle(map(spot.middle), std::max(0.8, spot.acrossMm * scale / 2))}));
    for (const assembly::Placed& placed : step.pieces)
        numbers.keepFree(geometry::transformed(geometry::bounds(m_stack.find(placed.piece)->shape()), map));
    for (std::size_t i = 0; i < view.at.size(); ++i)
        numbers.set(map(view.at[i]), view.numbers[i]);
}

double StepPictures::drawPiece(Leaf& leaf, const Box& into, design::PieceId piece) const {
    const std::size_t at = placeOf(piece);
    const Box box = geometry::bounds(m_stack.pieces[at].shape());
    const double scale =
        std::min(into.width() / std::max(box.width(), 1e-6), into.height() / std::max(box.height(), 1e-6));
    const auto map = Transform::move(box.centre() * -1)
                         .then(Transform::scale(scale, scale))
                         .then(Transform::move(into.centre()));
    const Polygons outline =
        geometry::flatten(geometry::transformed(m_stack.pieces[at].shape(), map), kFinePaperMm);
    leaf.fill(outline, tintOf(at));
    leaf.outline(outline, 0.25, 0);
    return scale;
}

} // namespace thinline::pack
