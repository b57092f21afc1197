// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Set operations on curves: the doors, the ladder and the windows.
//
// How an operation works is told where each stage is: EdgeNet.cpp makes coinciding edges one, Strands.cpp
// lays chords, PolygonEngine.cpp combines them, Restore.cpp leads back to the curves. What is decided
// here:
//
// The ladder. All reasoning about chords rests on the boxes of monotone curves, and on an engine that
// returns what it was given. Both have been tested hard, but people's files are harder. So the result is
// checked in a way that costs nothing: any step of the result that belongs to no chord is counted as lost
// length. More than five micrometres in all, and the operation is done again with fine chords everywhere;
// and if that does not help either, the engine's own polygon is fitted with curves within a micrometre.
// The result may then have more nodes than it should, but it is right. Each rung can be asked for by
// itself, which is how they are tested.
//
// Windows. An intersection concerns only what reaches the other side's box. A large outline (a sheet with
// hundreds of openings) is shortened to it: runs of steps that lie beyond one side of the window
// altogether become one straight step, which winds around every point of the window just as often. So
// slicing a large shape by many knives costs little more than reading it once for each knife. The window
// is a hundredth of a millimetre larger than the box, so that what only just touches it keeps its curve.
//
// Slicing by several knives gives each place to the first knife that covers it, and what no knife covers
// is left outside; dividing cuts everything by everything and says of each face what covers it. Both are
// made of the plain operations, one after the other, and look only at those whose boxes meet.
//
// Welding many. Where thousands of shapes lie over one another, nearly all their edges are inside the result, and
// sweeping over all of them at once costs the square of their number. So they are parted into two halves by place,
// each is welded by itself, which leaves little but its outline, and then the two; and so on down to a few dozen.
// Shapes that lie side by side, as on a sheet, have no edges to lose and are welded at once.
//
// Pieces come out largest first. Pieces of a slice are known by that order (design/PartNames.h), so it is a
// part of what is promised and not a nicety.
#include "geometry/Boolean.h"

#include "geometry/Fit.h"
#include "geometry/Restore.h"

#include <algorithm>

namespace thinline::geometry {
namespace {

using ShapePointers = std::vector<const Shape*>;

ShapePointers pointersTo(const std::vector<Shape>& shapes) {
    ShapePointers out;
    for (const Shape& shape : shapes)
        out.push_back(&shape);
    return out;
}

Operand operandOf(const ShapePointers& shapes) {
    Operand operand;
    for (const Shape* shape : shapes) {
        operand.contours.push_back(&shape->outline);
        for (const Contour& opening : shape->openings)
            operand.contours.push_back(&opening);
    }
    return operand;
}

Operand operandOf(const std::vector<Shape>& shapes) {
    return operandOf(pointersTo(shapes));
}

Box hullBox(const Operand& operand) {
    Box box;
    for (const Contour* contour : operand.contours)
        box.include(hullBox(*contour));
    return box;
}

base::Status checkNumbers(const Operand& subject, const Operand& clip) {
    for (const Operand* operand : {&subject, &clip})
        for (const Contour* contour : operand->contours)
            if (!isFinite(*contour))
                return base::Error{base::Code::InvalidArgument,
                                   "An outline has a point that is not a number."};
    return base::Done{};
}

/// The side of a window beyond which a step lies altogether (1 to 4), or 0 when it may reach in.
int sideBeyond(Point from, const Segment& s, const Box& window) {
    const auto all = [&](auto isBeyond) {
        return isBeyond(from) && isBeyond(s.end) &&
               (s.isLine || (isBeyond(s.control1) && isBeyond(s.control2)));
    };
    if (all([&](Point p) { return p.x < window.least.x; }))
        return 1;
    if (all([&](Point p) { return p.x > window.most.x; }))
        return 2;
    if (all([&](Point p) { return p.y < window.least.y; }))
        return 3;
    return all([&](Point p) { return p.y > window.most.y; }) ? 4 : 0;
}

/// The contour with runs of steps beyond one side of a window replaced by straight ones: what happens inside
/// the window is the same.
Contour shortenedTo(const Contour& contour, const Box& window) {
    Contour out{contour.start, {}};
    Point from = contour.start;
    int lastSide = 0;
    for (const Segment& s : contour.segments) {
        const int side = sideBeyond(from, s, window);
        if (side && side == lastSide)
            out.segments.back() = Segment::line(s.end);
        else
            out.segments.push_back(side ? Segment::line(s.end) : s);
        lastSide = side;
        from = s.end;
    }
    return out;
}

/// An operand of which only what can reach a window is kept as it is.
struct Windowed {
    Operand operand;
    std::vector<Contour> shortened;

    Windowed(const Operand& whole, const Box& window) : operand{{}, whole.rule} {
        shortened.reserve(whole.contours.size()); // pointers into it stay good
        for (const Contour* contour : whole.contours) {
            const Box box = hullBox(*contour);
            if (!box.meets(window))
                continue;
            constexpr size_t kWorthIt = 16;
            if (contour->segments.size() < kWorthIt ||
                (window.contains(box.least) && window.contains(box.most))) {
                operand.contours.push_back(contour);
                continue;
            }
            shortened.push_back(shortenedTo(*contour, window));
            operand.contours.push_back(&shortened.back());
        }
    }
};

std::vector<GridRing> ringsOf(const StrandSet& set, size_t firstWalk, size_t lastWalk) {
    std::vector<GridRing> rings;
    for (size_t w = firstWalk; w < lastWalk; ++w) {
        GridRing ring;
        for (EdgeUse use : set.walks[w]) {
            const size_t begin = set.firstOfChain[static_cast<size_t>(use.edge)],
                         end = set.firstOfChain[static_cast<size_t>(use.edge) + 1];
            for (size_t i = begin; i < end; ++i)
                ring.push_back(use.isForward ? set.strands[i].from : set.strands[end - 1 - (i - begin)].to);
        }
        if (ring.size() >= 3)
            rings.push_back(std::move(ring));
    }
    return rings;
}

void sortBySize(std::vector<Shape>& shapes) {
    std::vector<std::pair<double, size_t>> order;
    for (size_t i = 0; i < shapes.size(); ++i)
        order.emplace_back(-signedArea(shapes[i].outline), i);
    std::stable_sort(order.begin(), order.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<Shape> sorted;
    for (const auto& [size, i] : order)
        sorted.push_back(std::move(shapes[i]));
    shapes = std::move(sorted);
}

template <class ToOutline>
std::vector<Shape> shapesOf(const std::vector<GridArea>& areas, ToOutline toOutline) {
    std::vector<Shape> shapes;
    for (const GridArea& area : areas) {
        Shape shape{toOutline(area.outline), {}};
        if (shape.outline.segments.empty())
            continue;
        for (const GridRing& ring : area.openings)
            if (Contour opening = toOutline(ring); !opening.segments.empty())
                shape.openings.push_back(std::move(opening));
        shapes.push_back(std::move(shape));
    }
    sortBySize(shapes);
    return shapes;
}

struct Attempt {
    std::vector<Shape> shapes;
    double lostMm = 0;
};

base::Result<Attempt> attempt(SetOperation operation, const Operand& subject, const Operand& clip,
                              const Grid& grid, Rung rung, const base::Progress& progress) {
    std::vector<const Contour*> all = subject.contours;
    all.insert(all.end(), clip.contours.begin(), clip.contours.end());
    progress.report(0.0, "Looking at the outlines");
    auto net = makeNet(all, grid, progress);
    if (!net)
        return net.error();
    EdgeNet edges = net.take();
    progress.report(0.2, "Finding where they meet");
    auto laid = layStrands(edges, grid, {.isFineEverywhere = rung != Rung::StandIns}, progress);
    if (!laid)
        return laid.error();
    const StrandSet set = laid.take();
    progress.report(0.6, "Combining");
    const size_t subjects = subject.contours.size();
    auto areas = combine(operation, ringsOf(set, 0, subjects), subject.rule,
                         ringsOf(set, subjects, all.size()), clip.rule, progress);
    if (!areas)
        return areas.error();
    if (progress.isCancelled())
        return base::cancelled();
    progress.report(0.8, "Restoring the curves");
    if (rung == Rung::Fitted)
        return Attempt{shapesOf(*areas,
                                [&](const GridRing& ring) {
                                    Polygon points;
                                    for (GridPoint p : ring)
                                        points.push_back(grid.place(p));
                                    return fitContour(points, {.tolerance = 0.001});
                                }),
                       0};
    Restorer restorer(edges, set, grid);
    std::vector<Shape> shapes =
        shapesOf(*areas, [&](const GridRing& ring) { return restorer.outlineOf(ring); });
    return Attempt{std::move(shapes), restorer.lostMm()};
}

} // namespace

base::Result<std::vector<Shape>> combineCurves(SetOperation operation, const Operand& subject,
                                               const Operand& clip, const base::Progress& progress,
                                               Rung from) {
    if (const auto sound = checkNumbers(subject, clip); !sound)
        return sound.error();
    Box box = hullBox(subject);
    box.include(hullBox(clip));
    const auto grid = Grid::around(box);
    if (!grid)
        return grid.error();
    constexpr double kLostMm = 0.005; // crumbs at crossings; more means that a curve was lost
    for (Rung rung : {Rung::StandIns, Rung::AllFine, Rung::Fitted}) {
        if (rung < from)
            continue;
        auto done = attempt(operation, subject, clip, *grid, rung, progress);
        if (!done) {
            if (done.error().code == base::Code::Cancelled || rung == Rung::Fitted)
                return done.error();
        } else if (done->lostMm <= kLostMm) {
            return done.take().shapes;
        }
    }
    return base::Error{base::Code::Degenerate, "The outlines could not be combined; smooth them a little."};
}

base::Result<std::vector<Shape>> areasOf(const std::vector<Contour>& contours, FillRule rule,
                                         const base::Progress& progress) {
    Operand operand{{}, rule};
    for (const Contour& contour : contours)
        operand.contours.push_back(&contour);
    return combineCurves(SetOperation::Union, operand, {}, progress);
}

namespace {

/// Whether some boxes lie so thick that a level line crosses more than a few dozen of them on average.
bool areCrowded(const std::vector<Box>& boxes, const Box& all) {
    constexpr double kManyInOneRow = 60;
    double heights = 0;
    for (const Box& box : boxes)
        heights += box.height();
    return heights > kManyInOneRow * all.height();
}

/// Welds shapes, half by half where they are many and crowded.
base::Result<std::vector<Shape>> welded(ShapePointers shapes, const base::Progress& progress) {
    constexpr size_t kAtOnce = 48;
    std::vector<Box> boxes;
    Box all;
    for (const Shape* shape : shapes) {
        boxes.push_back(bounds(*shape));
        all.include(boxes.back());
    }
    if (shapes.size() <= kAtOnce || !areCrowded(boxes, all))
        return combineCurves(SetOperation::Union, operandOf(shapes), {}, progress);
    const bool isWide = all.width() > all.height();
    std::vector<std::pair<double, const Shape*>> byPlace;
    for (size_t i = 0; i < shapes.size(); ++i)
        byPlace.emplace_back(isWide ? boxes[i].centre().x : boxes[i].centre().y, shapes[i]);
    std::stable_sort(byPlace.begin(), byPlace.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    ShapePointers halves[2];
    for (size_t i = 0; i < byPlace.size(); ++i)
        halves[i < byPlace.size() / 2 ? 0 : 1].push_back(byPlace[i].second);
    auto first = welded(std::move(halves[0]), progress.part(0, 0.4));
    if (!first)
        return first;
    auto second = welded(std::move(halves[1]), progress.part(0.4, 0.8));
    if (!second)
        return second;
    std::vector<Shape> both = first.take();
    for (Shape& shape : second.take())
        both.push_back(std::move(shape));
    return combineCurves(SetOperation::Union, operandOf(both), {}, progress.part(0.8, 1));
}

} // namespace

base::Result<std::vector<Shape>> weld(const std::vector<Shape>& shapes, const base::Progress& progress) {
    return welded(pointersTo(shapes), progress);
}

// A window is grown by this much, so that what only just reaches it is kept.
constexpr double kWindowMarginMm = 0.01;

base::Result<std::vector<Shape>> subtract(const std::vector<Shape>& shapes, const std::vector<Shape>& taken,
                                          const base::Progress& progress) {
    const Operand subject = operandOf(shapes), clip = operandOf(taken);
    if (const auto sound = checkNumbers(subject, clip); !sound)
        return sound.error();
    const Windowed reaching(clip, hullBox(subject).grownBy(kWindowMarginMm));
    return combineCurves(SetOperation::Difference, subject, reaching.operand, progress);
}

base::Result<std::vector<Shape>> intersect(const std::vector<Shape>& a, const std::vector<Shape>& b,
                                           const base::Progress& progress) {
    const Operand one = operandOf(a), other = operandOf(b);
    if (const auto sound = checkNumbers(one, other); !sound)
        return sound.error();
    const Windowed left(one, hullBox(other).grownBy(kWindowMarginMm));
    const Windowed right(other, hullBox(one).grownBy(kWindowMarginMm));
    return combineCurves(SetOperation::Intersection, left.operand, right.operand, progress);
}

base::Result<std::vector<Shape>> exclude(const std::vector<Shape>& a, const std::vector<Shape>& b,
                                         const base::Progress& progress) {
    return combineCurves(SetOperation::Exclusive, operandOf(a), operandOf(b), progress);
}

base::Result<Sliced> slice(const std::vector<Shape>& shapes, const std::vector<Shape>& knives,
                           const base::Progress& progress) {
    Sliced out;
    const double share = 1.0 / static_cast<double>(knives.size() + 1);
    for (size_t k = 0; k < knives.size(); ++k) {
        // What earlier knives took is gone: only those that this one can meet matter.
        std::vector<Shape> knife{knives[k]}, earlier;
        const Box box = bounds(knives[k]).grownBy(kWindowMarginMm);
        for (size_t e = 0; e < k; ++e)
            if (bounds(knives[e]).meets(box))
                earlier.push_back(knives[e]);
        const base::Progress part =
            progress.part(static_cast<double>(k) * share, static_cast<double>(k + 1) * share);
        if (!earlier.empty()) {
            auto left = subtract(knife, earlier, part.part(0, 0.3));
            if (!left)
                return left.error();
            knife = left.take();
        }
        auto inside = intersect(shapes, knife, part.part(0.3, 1));
        if (!inside)
            return inside.error();
        out.inside.push_back(inside.take());
    }
    auto outside = subtract(shapes, knives, progress.part(1 - share, 1));
    if (!outside)
        return outside.error();
    out.outside = outside.take();
    return out;
}

base::Result<std::vector<Face>> divide(const std::vector<Shape>& shapes, const base::Progress& progress) {
    std::vector<Face> faces;
    for (size_t i = 0; i < shapes.size(); ++i) {
        const base::Progress part =
            progress.part(static_cast<double>(i) / static_cast<double>(shapes.size()),
                          static_cast<double>(i + 1) / static_cast<double>(shapes.size()));
        const std::vector<Shape> fresh{shapes[i]};
        const Box box = bounds(shapes[i]).grownBy(kWindowMarginMm);
        std::vector<Face> after;
        std::vector<Shape> met;
        for (Face& face : faces) {
            if (!bounds(face.shape).meets(box)) {
                after.push_back(std::move(face));
                continue;
            }
            auto both = intersect({face.shape}, fresh, part);
            if (!both)
                return both.error();
            if (both->empty()) {
                after.push_back(std::move(face));
                continue;
            }
            auto rest = subtract({face.shape}, fresh, part);
            if (!rest)
                return rest.error();
            met.push_back(face.shape);
            std::vector<int> cover = face.cover;
            for (const Shape& shape : *rest)
                after.push_back({shape, cover});
            cover.push_back(static_cast<int>(i));
            for (const Shape& shape : *both)
                after.push_back({shape, cover});
        }
        auto alone = subtract(fresh, met, part);
        if (!alone)
            return alone.error();
        for (const Shape& shape : *alone)
            after.push_back({shape, {static_cast<int>(i)}});
        faces = std::move(after);
    }
    std::stable_sort(faces.begin(), faces.end(), [](const Face& a, const Face& b) {
        return a.cover.front() != b.cover.front() ? a.cover.front() < b.cover.front()
                                                  : area(a.shape) > area(b.shape);
    });
    return faces;
}

} // namespace thinline::geometry
