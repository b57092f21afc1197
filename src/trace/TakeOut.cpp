// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is probably not of the motif: a caption, the figure once more, the holes of a ring binder.
//
// All three are told from marks: the connected parts of a drawing's ink, or the areas of a painted picture. No letter is read.
// What tells text is that its parts stand on a line, close together, alike in height and unlike in form. A row of portholes
// or of beads is alike in form; scattered leaves stand on no line. Dots and commas are too small to count and go with the row
// they stand in. A picture that is mostly text is a motif of words, and nothing is proposed.
//
// A figure is marks whose boxes nearly touch. Two figures are one printed twice when every larger mark of one has its like
// at the same place of the other. Three of them, or two among other things, are meant.
#include "trace/TakeOut.h"

#include "base/Length.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace thinline::trace {
namespace {

using geometry::Box;
using geometry::Point;
using raster::Rgb;

constexpr double kAlikeColour = 0.1;

/// A connected part of what is drawn or painted.
struct Mark {
    const geometry::Shape* shape = nullptr;
    Box box;
    double area = 0; ///< px2, less openings
    Rgb colour{};    ///< of painted pictures
    Point inside;

    double height() const { return box.height(); }
};

std::vector<Mark> marksOf(const Tracing& tracing, Mode mode) {
    std::vector<Mark> out;
    if (mode == Mode::LineDrawing)
        for (const geometry::Shape& shape : tracing.ink)
            out.push_back(
                {&shape, geometry::bounds(shape), geometry::area(shape), {}, geometry::pointInside(shape)});
    else
        for (const Area& area : tracing.areas)
            out.push_back({&area.shape, geometry::bounds(area.shape), geometry::area(area.shape), area.colour,
                           area.inside});
    return out;
}

/// Which things belong together, by pairs that do.
class Groups {
  public:
    explicit Groups(std::size_t count) : m_of(count) { std::iota(m_of.begin(), m_of.end(), std::size_t{0}); }
    void join(std::size_t a, std::size_t b) { m_of[find(a)] = find(b); }
    std::vector<std::vector<std::size_t>> all() {
        std::vector<std::vector<std::size_t>> out(m_of.size());
        for (std::size_t i = 0; i < m_of.size(); ++i)
            out[find(i)].push_back(i);
        std::erase_if(out, [](const auto& group) { return group.empty(); });
        return out;
    }

  private:
    std::size_t find(std::size_t i) {
        while (m_of[i] != i)
            i = m_of[i] = m_of[m_of[i]];
        return i;
    }
    std::vector<std::size_t> m_of;
};

/// Calls with every pair of marks of which the boxes are no further apart across than `reach` of the left one.
template <class Reach, class Visit>
void eachPairAcross(const std::vector<Mark>& marks, Reach reach, Visit visit) {
    std::vector<std::size_t> order(marks.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return marks[a].box.least.x < marks[b].box.least.x; });
    for (std::size_t i = 0; i < order.size(); ++i) {
        const double upTo = marks[order[i]].box.most.x + reach(marks[order[i]]);
        for (std::size_t k = i + 1; k < order.size() && marks[order[k]].box.least.x <= upTo; ++k)
            visit(order[i], order[k]);
    }
}

double median(std::vector<double> of) {
    const auto middle = of.begin() + static_cast<std::ptrdiff_t>(of.size() / 2);
    std::nth_element(of.begin(), middle, of.end());
    return *middle;
}

bool areAlike(double a, double b, double share) {
    return std::abs(a - b) <= share * std::max(a, b);
}

// ---- text

/// Whether one letter may follow another in a row.
bool mayFollow(const Mark& left, const Mark& right) {
    constexpr double kMostRatio = 1.9, kLeastBeside = 0.5, kMostGap = 0.9, kMostOverlap = 0.15;
    const double low = std::min(left.height(), right.height()),
                 high = std::max(left.height(), right.height());
    const double beside =
        std::min(left.box.most.y, right.box.most.y) - std::max(left.box.least.y, right.box.least.y);
    const double gap = right.box.least.x - left.box.most.x;
    return high <= kMostRatio * low && beside >= kLeastBeside * low && gap <= kMostGap * high &&
           gap >= -kMostOverlap * high && raster::colourDistance(left.colour, right.colour) < kAlikeColour;
}

/// How many forms there are among marks, as far as their proportions tell.
std::size_t formsIn(const std::vector<Mark>& marks, const std::vector<std::size_t>& row) {
    constexpr double kSame = 0.1;
    std::vector<std::size_t> forms;
    for (const std::size_t i : row) {
        const Mark& a = marks[i];
        const bool isKnown = std::any_of(forms.begin(), forms.end(), [&](std::size_t k) {
            const Mark& b = marks[k];
            return a.shape->openings.size() == b.shape->openings.size() &&
                   areAlike(a.box.width(), b.box.width(), kSame) && areAlike(a.height(), b.height(), kSame) &&
                   areAlike(a.area, b.area, kSame);
        });
        if (!isKnown)
            forms.push_back(i);
    }
    return forms.size();
}

struct Row {
    std::vector<std::size_t> letters;
    Box box;
    double heightPx = 0;
};

std::optional<Row> rowOf(const std::vector<Mark>& marks, const std::vector<std::size_t>& group) {
    constexpr std::size_t kLeastLetters = 5, kLeastForms = 3, kEnoughForms = 6;
    constexpr double kOnLine = 0.1, kLeastOnLine = 0.6, kFormsShare = 0.25;
    if (group.size() < kLeastLetters)
        return std::nullopt;
    std::vector<double> heights, bottoms;
    Row out{group, {}, 0};
    for (const std::size_t i : group) {
        heights.push_back(marks[i].height());
        bottoms.push_back(marks[i].box.most.y);
        out.box.include(marks[i].box);
    }
    out.heightPx = median(heights);
    const double line = median(bottoms);
    const auto onLine = std::count_if(bottoms.begin(), bottoms.end(),
                                      [&](double y) { return std::abs(y - line) <= kOnLine * out.heightPx; });
    const auto many = static_cast<double>(group.size());
    const auto wanted =
        std::max(kLeastForms, std::min(kEnoughForms, static_cast<std::size_t>(kFormsShare * many)));
    if (static_cast<double>(onLine) < kLeastOnLine * many || formsIn(marks, group) < wanted)
        return std::nullopt;
    return out;
}

/// What a mark lies on, as far as areas are known: the smallest that reaches around it.
const Mark* groundUnder(const Mark& mark, const std::vector<Mark>& marks) {
    const Mark* least = nullptr;
    for (const Mark& other : marks)
        if (other.box.contains(mark.box.least) && other.box.contains(mark.box.most) &&
            other.shape != mark.shape &&
            (!least || other.box.width() * other.box.height() < least->box.width() * least->box.height()) &&
            geometry::contains({geometry::flatten(other.shape->outline, 0.5)}, mark.inside))
            least = &other;
    return least;
}

/// What may be a letter, by its size.
std::vector<Mark> lettersAmong(const std::vector<Mark>& marks, double mostPx) {
    constexpr double kLeastPx = 5, kMostWide = 6;
    std::vector<Mark> out;
    for (const Mark& mark : marks)
        if (mark.height() >= kLeastPx && mark.height() <= mostPx &&
            mark.box.width() <= kMostWide * mark.height())
            out.push_back(mark);
    return out;
}

/// A pixel of a mark that shows its colour: what is taken out spreads from there. It lies a little inside the outline, for what
/// lies deeper may be a counter that was too small to be an opening.
Point pixelOf(const Mark& mark) {
    constexpr double kInside = 1.2, kEnough = 1.3, kNear = 0.3;
    Point best = mark.inside;
    double deepest = 0;
    const geometry::Polygon ring = geometry::flatten(mark.shape->outline, kNear);
    const double side = geometry::signedArea(ring) > 0 ? 1 : -1;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Point a = ring[i], b = ring[(i + 1) % ring.size()], along = geometry::direction(b - a);
        const Point in = geometry::middle(a, b) + Point{-along.y, along.x} * (side * kInside);
        const Point pixel{std::floor(in.x) + 0.5, std::floor(in.y) + 0.5};
        if (!geometry::contains(*mark.shape, pixel))
            continue;
        const auto edge = geometry::nearestOnEdge(*mark.shape, pixel);
        if (const double depth = edge ? std::min(edge->distance, kEnough) : 0; depth > deepest) {
            deepest = depth;
            best = pixel;
        }
    }
    return best;
}

/// Whether an edge of a mark runs through a box, or the whole box lies in it.
bool reachesInto(const Mark& mark, const Box& box, bool onlyOutline) {
    constexpr double kFlatPx = 0.5;
    geometry::Polygons rings{geometry::flatten(mark.shape->outline, kFlatPx)};
    if (!onlyOutline)
        rings = geometry::flatten(*mark.shape, kFlatPx);
    for (const geometry::Polygon& ring : rings)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            Box edge;
            edge.include(ring[i]);
            edge.include(ring[(i + 1) % ring.size()]);
            if (edge.meets(box)) // a slanted edge beside it counts, too: letters are taken one by one then
                return true;
        }
    return !onlyOutline && geometry::contains(rings, box.centre());
}

/// Whether nothing but the row lies where it is, and what it lies on is the same all over.
bool isAlone(const Box& box, const std::vector<Mark>& marks, const std::vector<bool>& isText,
             const Mark* under) {
    for (std::size_t i = 0; i < marks.size(); ++i)
        if (!isText[i] && marks[i].box.meets(box) &&
            reachesInto(marks[i], box, under && under->shape == marks[i].shape))
            return false;
    return true;
}

/// A row with what stands at its ends: a capital or a figure is as high again, and a space before it may be wide.
Row lengthened(Row row, Rgb colour, const std::vector<Mark>& marks) {
    constexpr double kMostHigh = 2.2, kMostGap = 1.3, kLeastBeside = 0.5;
    const auto stands = [&](const Mark& mark) {
        const double gap = std::max(row.box.least.x - mark.box.most.x, mark.box.least.x - row.box.most.x);
        const double beside =
            std::min(mark.box.most.y, row.box.most.y) - std::max(mark.box.least.y, row.box.least.y);
        return gap > 0 && gap <= kMostGap * row.heightPx && mark.height() <= kMostHigh * row.heightPx &&
               beside >= kLeastBeside * std::min(mark.height(), row.box.height()) &&
               raster::colourDistance(mark.colour, colour) < kAlikeColour;
    };
    while (true) {
        const auto next = std::find_if(marks.begin(), marks.end(), stands);
        if (next == marks.end())
            return row;
        row.box.include(next->box);
    }
}

/// Takes a row out, with the dots, accents and commas that stand in it and are of its colour. Returns how much of the picture
/// that is, px2.
double takeRow(const Row& row, Rgb colour, const Mark* under, const std::vector<Mark>& marks,
               std::vector<bool>& isText, TakeOut& out) {
    constexpr double kBeforeRow = 0.3, kAfterRow = 0.5, kBesideRow = 0.6, kMostHigh = 2.2;
    const double high = row.heightPx;
    const Box around{row.box.least - Point{kBeforeRow * high, kBesideRow * high},
                     row.box.most + Point{kAfterRow * high, kBesideRow * high}};
    Box box;
    double taken = 0;
    std::vector<Point> pixels;
    for (std::size_t i = 0; i < marks.size(); ++i) {
        const Mark& mark = marks[i];
        if (isText[i] || !around.contains(mark.box.least) || !around.contains(mark.box.most) ||
            mark.height() > kMostHigh * high || raster::colourDistance(mark.colour, colour) >= kAlikeColour)
            continue;
        isText[i] = true;
        taken += mark.area;
        ++out.parts;
        box.include(mark.box);
        pixels.push_back(pixelOf(mark));
    }
    if (pixels.empty()) // it stood in a row that was taken
        return 0;
    out.place.include(box);
    // A box takes what was too small to be traced along.
    constexpr double kRimPx = 3;
    const Box wiped = box.grownBy(kRimPx);
    const auto ground = under ? std::optional(under->colour) : std::nullopt;
    if (isAlone(wiped, marks, isText, under))
        out.erasures.push_back({Erasure::Kind::Rectangle, {wiped.least, wiped.most}, 0, ground});
    else
        for (const Point pixel : pixels)
            out.erasures.push_back({Erasure::Kind::Spill, {pixel}, 0, ground});
    return taken;
}

std::optional<TakeOut> textIn(const std::vector<Mark>& marks, const Tracing& tracing, double mmPerPx,
                              Mode mode, std::vector<bool>& isText) {
    constexpr double kMostShare = 0.12, kMostOfAll = 0.6, kPale = 0.25;
    const std::vector<Mark> letters =
        lettersAmong(marks, std::min(kMostLetterMm / mmPerPx, kMostShare * tracing.heightPx));
    Groups groups(letters.size());
    eachPairAcross(
        letters, [](const Mark& mark) { return 3 * mark.height(); },
        [&](std::size_t a, std::size_t b) {
            if (mayFollow(letters[a], letters[b]))
                groups.join(a, b);
        });
    TakeOut out;
    double text = 0;
    std::vector<Box> found; // what stands on one line is one row, however wide the spaces are
    for (const auto& group : groups.all()) {
        const auto row = rowOf(letters, group);
        if (!row)
            continue;
        const Mark& first = letters[group.front()];
        const Mark* under = mode == Mode::LineDrawing ? nullptr : groundUnder(first, marks);
        const bool isPale =
            mode != Mode::LineDrawing &&
            raster::colourDistance(first.colour, under ? under->colour : tracing.paper) < kPale;
        if (isPale)
            continue;
        const bool isKnown = std::any_of(found.begin(), found.end(), [&](const Box& other) {
            return std::min(other.most.y, row->box.most.y) - std::max(other.least.y, row->box.least.y) >
                   0.5 * row->heightPx;
        });
        out.rows += isKnown ? 0 : 1;
        found.push_back(row->box);
        text += takeRow(lengthened(*row, first.colour, marks), first.colour, under, marks, isText, out);
    }
    const double all = std::accumulate(marks.begin(), marks.end(), 0.0,
                                       [](double sum, const Mark& mark) { return sum + mark.area; });
    if (out.parts == 0 || text > kMostOfAll * all) {
        isText.assign(marks.size(), false);
        return std::nullopt;
    }
    return out;
}

// ---- the same once more

struct Figure {
    std::vector<std::size_t> marks; ///< the largest first
    Box box;
    double area = 0;
};

bool isSame(const Figure& a, const Figure& b, const std::vector<Mark>& marks) {
    constexpr double kSameSize = 0.02, kSameArea = 0.06, kMinor = 0.01, kSamePlace = 0.02;
    if (!areAlike(a.box.width(), b.box.width(), kSameSize) ||
        !areAlike(a.box.height(), b.box.height(), kSameSize) || !areAlike(a.area, b.area, kSameArea))
        return false;
    const Point by = b.box.centre() - a.box.centre();
    const double near = kSamePlace * std::max(a.box.width(), a.box.height());
    const auto hasLike = [&](std::size_t of, const Figure& in, Point moved) {
        return std::any_of(in.marks.begin(), in.marks.end(), [&](std::size_t k) {
            return areAlike(marks[of].area, marks[k].area, kSameArea) &&
                   geometry::distance(marks[of].box.centre() + moved, marks[k].box.centre()) <= near &&
                   std::abs(marks[of].box.width() - marks[k].box.width()) <= near &&
                   std::abs(marks[of].box.height() - marks[k].box.height()) <= near &&
                   raster::colourDistance(marks[of].colour, marks[k].colour) < kAlikeColour;
        });
    };
    const auto allIn = [&](const Figure& one, const Figure& other, Point moved) {
        return std::all_of(one.marks.begin(), one.marks.end(), [&](std::size_t i) {
            return marks[i].area < kMinor * one.area || hasLike(i, other, moved);
        });
    };
    return allIn(a, b, by) && allIn(b, a, by * -1);
}

std::optional<TakeOut> copyIn(const std::vector<Mark>& marks, const std::vector<bool>& isOther,
                              const Tracing& tracing) {
    constexpr double kNearShare = 0.015, kLeastShare = 0.15, kNearlyAll = 0.8;
    constexpr std::size_t kMostKept = 3000, kFew = 200; // a figure of more is no clip art
    const double diagonal = std::hypot(tracing.widthPx, tracing.heightPx), near = kNearShare * diagonal;
    std::vector<Mark> kept;
    for (std::size_t i = 0; i < marks.size(); ++i)
        if (!isOther[i])
            kept.push_back(marks[i]);
    if (kept.size() > kMostKept)
        return std::nullopt;
    Groups groups(kept.size());
    eachPairAcross(
        kept, [&](const Mark&) { return near; },
        [&](std::size_t a, std::size_t b) {
            if (kept[a].box.grownBy(near).meets(kept[b].box))
                groups.join(a, b);
        });
    std::vector<Figure> figures;
    double all = 0;
    for (auto& group : groups.all()) {
        Figure one{std::move(group), {}, 0};
        for (const std::size_t i : one.marks) {
            one.box.include(kept[i].box);
            one.area += kept[i].area;
        }
        all += one.area;
        if (std::hypot(one.box.width(), one.box.height()) >= kLeastShare * diagonal &&
            one.marks.size() <= kFew)
            figures.push_back(std::move(one));
    }
    if (figures.size() < 2)
        return std::nullopt;
    std::stable_sort(figures.begin(), figures.end(),
                     [](const Figure& a, const Figure& b) { return a.area > b.area; });
    const Figure &a = figures[0], &b = figures[1];
    const auto isLikeFirst = [&](const Figure& one) { return isSame(a, one, kept); };
    if (a.area + b.area < kNearlyAll * all ||
        std::count_if(figures.begin() + 1, figures.end(), isLikeFirst) != 1 || !isLikeFirst(b))
        return std::nullopt;
    const Point between = b.box.centre() - a.box.centre();
    const bool isAcross = std::abs(between.x) >= std::abs(between.y);
    const Figure& goes = (isAcross ? between.x : between.y) > 0 ? b : a;
    const Figure& stays = &goes == &a ? b : a;
    constexpr double kRimPx = 3;
    const Box box = goes.box.grownBy(kRimPx);
    if (box.meets(stays.box))
        return std::nullopt;
    return TakeOut{TakeOut::Kind::SecondCopy,
                   static_cast<int>(goes.marks.size()),
                   0,
                   goes.box,
                   {{Erasure::Kind::Rectangle, {box.least, box.most}, 0, {}}}};
}

// ---- punch holes

bool isRound(const Mark& mark) {
    constexpr double kRound = 0.08;
    const double disc = std::numbers::pi / 4 * mark.box.width() * mark.box.height();
    return areAlike(mark.box.width(), mark.box.height(), kRound) &&
           areAlike(std::abs(geometry::signedArea(mark.shape->outline)), disc, kRound);
}

/// Whether rounds lie as the holes of a ring binder do along an edge of this length; `along` from its beginning, ascending.
bool lieAsHoles(const std::vector<double>& along, double edgePx, double acrossPx) {
    constexpr double kOffMiddle = 0.06, kLeastApart = 8, kSameStep = 0.1;
    if (along.size() < 2 || along.size() > 4)
        return false;
    if (std::abs((along.front() + along.back()) / 2 - edgePx / 2) > kOffMiddle * edgePx)
        return false;
    for (std::size_t i = 0; i + 1 < along.size(); ++i)
        if (along[i + 1] - along[i] < kLeastApart * acrossPx)
            return false;
    if (along.size() == 2)
        return true;
    // Three are evenly apart; of four the outer two are as far from the inner ones.
    return areAlike(along[1] - along[0], along[along.size() - 1] - along[along.size() - 2], kSameStep);
}

std::optional<TakeOut> holesIn(const std::vector<Mark>& marks, const Tracing& tracing) {
    constexpr double kLeastShare = 0.012, kMostShare = 0.05, kEdgeShare = 0.09, kSame = 0.15;
    const double wide = tracing.widthPx, high = tracing.heightPx, brief = std::min(wide, high);
    std::vector<const Mark*> rounds;
    for (const Mark& mark : marks)
        if (mark.box.width() >= kLeastShare * brief && mark.box.width() <= kMostShare * brief &&
            isRound(mark))
            rounds.push_back(&mark);
    const auto fromEdge = [&](const Mark& mark, int edge) {
        const Point at = mark.box.centre();
        return edge == 0 ? at.x : edge == 1 ? wide - at.x : edge == 2 ? at.y : high - at.y;
    };
    for (int edge = 0; edge < 4; ++edge) {
        std::vector<const Mark*> along;
        for (const Mark* mark : rounds)
            if (fromEdge(*mark, edge) <= kEdgeShare * brief)
                along.push_back(mark);
        if (along.size() < 2)
            continue;
        const bool isUpright = edge < 2;
        std::sort(along.begin(), along.end(), [&](const Mark* a, const Mark* b) {
            return isUpright ? a->box.centre().y < b->box.centre().y : a->box.centre().x < b->box.centre().x;
        });
        std::vector<double> places;
        TakeOut out{TakeOut::Kind::PunchHoles, 0, 0, {}, {}};
        bool isEven = true;
        for (const Mark* mark : along) {
            const Point at = mark->box.centre();
            places.push_back(isUpright ? at.y : at.x);
            isEven = isEven && areAlike(mark->box.width(), along[0]->box.width(), kSame) &&
                     std::abs(fromEdge(*mark, edge) - fromEdge(*along[0], edge)) <= 0.5 * mark->box.width();
            constexpr double kRimPx = 3;
            const Box box = mark->box.grownBy(kRimPx);
            ++out.parts;
            out.place.include(mark->box);
            out.erasures.push_back({Erasure::Kind::Rectangle, {box.least, box.most}, 0, {}});
        }
        if (isEven && lieAsHoles(places, isUpright ? high : wide, along[0]->box.width()))
            return out;
    }
    return std::nullopt;
}

} // namespace

std::vector<TakeOut> proposedToTakeOut(const Tracing& tracing, double mmPerPx, Mode mode) {
    if (mode == Mode::Photo || !(mmPerPx > 0))
        return {};
    const std::vector<Mark> marks = marksOf(tracing, mode);
    constexpr std::size_t kMostMarks = 20'000; // grain, not letters
    if (marks.size() > kMostMarks)
        return {};
    std::vector<bool> isOther(marks.size(), false);
    std::vector<TakeOut> out;
    if (auto text = textIn(marks, tracing, mmPerPx, mode, isOther))
        out.push_back(std::move(*text));
    const auto holes = holesIn(marks, tracing);
    for (std::size_t i = 0; holes && i < marks.size(); ++i)
        isOther[i] = isOther[i] ||
                     (isRound(marks[i]) &&
                      std::any_of(holes->erasures.begin(), holes->erasures.end(), [&](const Erasure& one) {
                          return Box{one.points[0], one.points[1]}.contains(marks[i].box.centre());
                      }));
    if (auto copy = copyIn(marks, isOther, tracing))
        out.push_back(std::move(*copy));
    if (holes)
        out.push_back(*holes);
    return out;
}

std::string takeOutText(const TakeOut& one) {
    switch (one.kind) {
    case TakeOut::Kind::Text:
        return base::counted(one.parts, "small part") + " in " + base::counted(one.rows, "row") +
               " look like text";
    case TakeOut::Kind::SecondCopy:
        return "The same figure is there twice";
    case TakeOut::Kind::PunchHoles:
        return base::counted(one.parts, "round") + " at the edge look like punch holes";
    }
    return {};
}

} // namespace thinline::trace
