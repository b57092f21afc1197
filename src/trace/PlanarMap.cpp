// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The planar map: every border once.
//
// A picture of areas has two kinds of truth. Each area has an outline; and where two areas meet, their
// outlines are the same line. Whoever traces area by area gets the first and loses the second: neighbours
// are fitted separately, gape in one place and overlap in the next, and where the parts are later cut from
// card of two colours the gap is seen as a white thread. So nothing is traced by area here. Pixels carry
// labels; the lines between two labels are the borders; each border is measured and fitted once; and the
// outline of anything (an area, all ink, all that lies under a backing) is a walk along borders. Joining
// areas is leaving the borders between them out, which costs nothing and cannot fail as a set operation
// can.
//
// In order:
//
// 1. `raster::findBorders` walks all borders along pixel sides. Where three or more labels meet there is a
//    junction; borders run from junction to junction, or are rings.
// 2. Every border is measured: for each side of a pixel along it, where the row or column across crosses
//    the edge (raster::edgePoints). What is left of a pixel's doubt is a few hundredths.
// 3. Junctions are placed before the borders are fitted, because they belong to all of them. Each border
//    that arrives says along which line it does; the junction is the point nearest to these lines by least
//    squares, held weakly at the pixels' corner. Points within 1.6 px are not asked, since they are
//    blurred by the third side. Two borders that run on into one another within 21 degrees share their
//    direction there: where a line crosses behind an area, its outline does not bend at the crossing.
// 4. Borders are fitted between their junctions (geometry/Measured), and held against the picture
//    (Refine.cpp). A photo's tones are contours of one grey: they have no plain sides, so they are left as
//    fitted. The picture's frame is straight.
// 5. A curve that strays more than a pixel from its pixel sides is not drawn, whatever the picture's levels say: the first
//    fit is, or the sides themselves. Levels can be wrong (a colour that was missed, a light that was misjudged), labels only
//    by a pixel at their edges.
// 6. Coordinates are rounded to a ten-thousandth of a pixel, once, where the border is stored; so whoever
//    walks it from either side reads the same numbers.
//
// Walking a face: half edges leave each junction, and the sharpest right turn is taken. Two parts of one
// area that touch only at a corner are two pieces of card, and so they come out.
//
// What can go wrong is bounded: a picture may fall into so many faces that nobody would cut them (a photo
// taken for flat art), which is refused with a sentence before anything is fitted; and a border that is
// longer than a drawing's is refined in haste.
//
// Cost: O(pixels) for the borders, O(length) for measuring, and for fitting what Measured.cpp and
// Refine.cpp say.
#include "trace/PlanarMap.h"

#include "base/Joined.h"
#include "base/Length.h"
#include "geometry/Cubic.h"
#include "trace/Covered.h"
#include "trace/Refine.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numeric>
#include <optional>
#include <unordered_map>

namespace thinline::trace {
namespace {

using geometry::Contour;
using geometry::MeasuredEnd;
using geometry::Point;
using geometry::Polygon;
using geometry::Segment;
using geometry::Shape;
using raster::Border;
using raster::Side;

Point rounded(Point p) {
    return {std::round(p.x * 1e4) / 1e4, std::round(p.y * 1e4) / 1e4};
}

void roundAll(Contour& contour) {
    contour.start = rounded(contour.start);
    for (Segment& s : contour.segments)
        s = {rounded(s.control1), rounded(s.control2), rounded(s.end), s.isLine};
}

/// The pixel corners a border runs through where it turns: the picture's frame, or what is too small to fit.
Polygon cornersAlong(const Border& border) {
    Polygon out;
    const auto n = border.sides.size();
    const bool isRing = border.from < 0;
    for (size_t i = 0; i < n; ++i) {
        const int before = i > 0 ? border.sides[i - 1].way : isRing ? border.sides[n - 1].way : -1;
        if (before != border.sides[i].way)
            out.push_back({static_cast<double>(border.sides[i].x), static_cast<double>(border.sides[i].y)});
    }
    return out;
}

/// The middles of its pixel sides: a border without the stairs.
Polygon middlesAlong(const Border& border) {
    Polygon out;
    for (const Side& side : border.sides)
        out.push_back({side.x + 0.5 * raster::kWayX[side.way], side.y + 0.5 * raster::kWayY[side.way]});
    return out;
}

Point endOf(const Side& side) {
    return {static_cast<double>(side.x + raster::kWayX[side.way]),
            static_cast<double>(side.y + raster::kWayY[side.way])};
}

/// One end of a border at a junction.
struct Arm {
    size_t border = 0;
    bool isFront = true;
    bool isFrame = false;
    Point place; ///< a point of the line it runs in along
    Point away;  ///< unit direction away from the junction; zero when it is too short to tell
};

/// Borders measured, before their junctions are placed.
class Measuring {
  public:
    Measuring(const raster::LabelMap& labels, const raster::Borders& borders, const LevelsFor& levelsFor,
              const raster::EdgeReading& reading)
        : m_labels(labels), m_borders(borders) {
        m_points.resize(borders.all.size());
        m_tolerances.resize(borders.all.size(), 0);
        for (size_t i = 0; i < borders.all.size(); ++i) {
            const Border& border = borders.all[i];
            if (border.right < 0 || border.left < 0)
                continue;
            const Levels levels = levelsFor(border.right, border.left);
            m_points[i] = raster::edgePoints(border.sides, border.from < 0, levels.at, reading);
            if (reading.carriesOn)
                m_points[i] = carriedOn(m_points[i], border.from < 0);
            m_tolerances[i] = levels.tolerance;
        }
        m_arms.resize(borders.junctions.size());
        for (size_t i = 0; i < borders.all.size(); ++i) {
            const Border& border = borders.all[i];
            if (border.from >= 0)
                m_arms[static_cast<size_t>(border.from)].push_back(armOf(i, true));
            if (border.to >= 0)
                m_arms[static_cast<size_t>(border.to)].push_back(armOf(i, false));
        }
    }

    const Polygon& points(size_t border) const { return m_points[border]; }
    double tolerance(size_t border) const { return m_tolerances[border]; }

    /// Where a junction lies, and in which directions its borders leave it.
    struct Junction {
        Point place;
        std::vector<Arm> arms; ///< `away` as it is to be fitted; zero where it is free
    };
    Junction junction(size_t index) const {
        const Side& corner = m_borders.junctions[index];
        const Point pixel{static_cast<double>(corner.x), static_cast<double>(corner.y)};
        Junction out{pixel, m_arms[index]};
        // Least squares over the lines of the arms, held weakly at the pixels' corner.
        constexpr double kHold = 0.02;
        double a = kHold, b = 0, c = kHold;
        Point r = pixel * kHold;
        for (const Arm& arm : out.arms) {
            if (arm.away == Point{})
                continue;
            const double weight = arm.isFrame ? 1e6 : 1;
            const Point normal{-arm.away.y, arm.away.x};
            a += weight * normal.x * normal.x;
            b += weight * normal.x * normal.y;
            c += weight * normal.y * normal.y;
            r = r + normal * (weight * dot(normal, arm.place));
        }
        const double det = a * c - b * b;
        const Point found{(c * r.x - b * r.y) / det, (a * r.y - b * r.x) / det};
        constexpr double kFarthest = 2.5; // px from the pixels' corner; beyond it the arms were misread
        if (distance(found, pixel) < kFarthest)
            out.place = found;
        if (corner.x == 0 || corner.x == m_labels.width)
            out.place.x = corner.x;
        if (corner.y == 0 || corner.y == m_labels.height)
            out.place.y = corner.y;
        out.place = rounded(out.place);
        // The two arms that run on into one another best do so smoothly.
        constexpr double kStraightOn = -0.93; // cosine: within 21 degrees
        double best = kStraightOn;
        std::optional<std::pair<size_t, size_t>> pair;
        for (size_t i = 0; i < out.arms.size(); ++i)
            for (size_t j = i + 1; j < out.arms.size(); ++j)
                if (!out.arms[i].isFrame && !out.arms[j].isFrame && !(out.arms[i].away == Point{}) &&
                    !(out.arms[j].away == Point{}))
                    if (const double along = dot(out.arms[i].away, out.arms[j].away); along < best) {
                        best = along;
                        pair = {i, j};
                    }
        if (pair) {
            const Point shared = direction(out.arms[pair->first].away - out.arms[pair->second].away);
            out.arms[pair->first].away = shared;
            out.arms[pair->second].away = shared * -1;
        }
        return out;
    }

  private:
    Arm armOf(size_t index, bool isFront) const {
        const Border& border = m_borders.all[index];
        Arm arm{index, isFront, border.right < 0 || border.left < 0, {}, {}};
        const Side& side = isFront ? border.sides.front() : border.sides.back();
        if (arm.isFrame) {
            arm.place =
                isFront ? Point{static_cast<double>(side.x), static_cast<double>(side.y)} : endOf(side);
            arm.away = Point{static_cast<double>(raster::kWayX[side.way]),
                             static_cast<double>(raster::kWayY[side.way])} *
                       (isFront ? 1 : -1);
            return arm;
        }
        const Polygon& points = m_points[index];
        constexpr size_t kLeast = 4;
        constexpr double kBlurred = 1.6;
        if (points.size() < kLeast)
            return arm;
        const MeasuredEnd end = geometry::measuredEnd(points, isFront, kBlurred);
        arm.place = end.place;
        arm.away = end.along * (isFront ? 1 : -1);
        return arm;
    }

    const raster::LabelMap& m_labels;
    const raster::Borders& m_borders;
    std::vector<Polygon> m_points;
    std::vector<double> m_tolerances;
    std::vector<std::vector<Arm>> m_arms;
};

Contour fitRing(const Border& border, const Polygon& points, const geometry::MeasuredOptions& options) {
    Contour ring = geometry::fitMeasuredRing(points, options);
    const double area = geometry::signedArea(ring);
    // What is too small for curves keeps its pixels' shape.
    return ring.segments.size() > 1 && area * geometry::signedArea(points) > 0
               ? ring
               : geometry::contourThrough(cornersAlong(border));
}

Contour straightThrough(Point from, const Polygon& corners, Point to) {
    Contour out{from, {}};
    for (const Point p : corners)
        out.segments.push_back(Segment::line(p));
    out.segments.push_back(Segment::line(to));
    return out;
}

/// The points of a border that lie clear of both its junctions.
Polygon clearOf(const Polygon& points, Point from, Point to) {
    constexpr double kBlurred = 1.6;
    Polygon out;
    for (const Point p : points)
        if (distance(p, from) > kBlurred && distance(p, to) > kBlurred)
            out.push_back(p);
    return out;
}

/// A short border between two junctions: straight, or over the point that lies farthest from straight, so
/// that a small face between two of them keeps an area.
Contour bentAt(const Polygon& points, Point from, Point to) {
    constexpr double kStraight = 0.45;
    double most = kStraight;
    Polygon bend;
    for (const Point p : points)
        if (const double off = geometry::distanceToStretch(p, from, to); off > most) {
            most = off;
            bend = {p};
        }
    return straightThrough(from, bend, to);
}

/// The picture's own edge.
Contour frameAlong(const Border& border, Point from, Point to) {
    Polygon corners = cornersAlong(border);
    if (border.from < 0)
        return geometry::contourThrough(corners);
    corners.erase(corners.begin()); // the junction itself
    return straightThrough(from, corners, to);
}

Contour fitBetween(const Polygon& measured, const MeasuredEnd& from, const MeasuredEnd& to,
                   const geometry::MeasuredOptions& options) {
    const Polygon points = clearOf(measured, from.place, to.place);
    constexpr size_t kEnough = 3; // fewer say nothing of a curve
    return points.size() < kEnough ? bentAt(measured, from.place, to.place)
                                   : geometry::fitMeasuredLine(points, from, to, options);
}

/// A border's curve, moved to where it explains the picture best.
Contour heldAgainstPicture(const Contour& curve, const Border& border, const raster::LabelMap& labels,
                           const Levels& levels, const raster::Spread& spread, bool isHasty,
                           const base::Progress& progress) {
    const auto plain = levels.plain ? levels.plain : plainLevels(labels, border, levels.at);
    if (!plain)
        return curve;
    Polygon path = cornersAlong(border);
    path.push_back(border.from < 0 ? path.front() : endOf(border.sides.back()));
    Remainder remainder(labels, border, levels.at, *plain, spread);
    return refined(curve, border.from < 0, path, remainder, isHasty, progress);
}

/// The pixel sides of a border, to find by place.
class SidesAlong {
  public:
    SidesAlong(const Border& border, const raster::LabelMap& labels) : m_border(border), m_labels(labels) {
        for (const Side& side : border.sides)
            m_at[key(side.x, side.y)].push_back(side);
    }
    /// Where a point of a curve lies: by the sides, off them though both faces are deep there, or so far off that only
    /// the way there can tell. A tip ends farther out than its pixels do; but it leaves them where a face is thin.
    enum class Lies { By, Off, FarOff };
    Lies lies(Point p, Point along) const {
        constexpr double kFarthest = 1, kSeen = 2; // px
        constexpr int kDeep = 3;
        const int x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y));
        double least = 1e9;
        Point beside;
        for (int dy = -2; dy <= 2; ++dy)
            for (int dx = -2; dx <= 2; ++dx)
                if (const auto there = m_at.find(key(x + dx, y + dy)); there != m_at.end())
                    for (const Side& side : there->second) {
                        const Point from{static_cast<double>(side.x), static_cast<double>(side.y)}, to = endOf(side);
                        if (const double off = geometry::distanceToStretch(p, from, to); off < least) {
                            least = off;
                            beside = geometry::middle(from, to);
                        }
                    }
        if (least <= kFarthest)
            return Lies::By;
        if (least > kSeen)
            return Lies::FarOff;
        const Point across{-along.y, along.x}; // to the right on screen
        const auto isDeep = [&](double side, int face) {
            for (int far = 1; far <= kDeep; ++far) {
                const Point q = beside + across * (side * far);
                if (m_labels.at(static_cast<int>(std::floor(q.x)), static_cast<int>(std::floor(q.y))) != face)
                    return false;
            }
            return true;
        };
        const bool isBetween = (isDeep(1, m_border.right) && isDeep(-1, m_border.left)) ||
                               (isDeep(1, m_border.left) && isDeep(-1, m_border.right));
        return isBetween ? Lies::Off : Lies::By;
    }

  private:
    static std::int64_t key(int x, int y) {
        return (static_cast<std::int64_t>(y) << 32) | static_cast<std::uint32_t>(x);
    }
    const Border& m_border;
    const raster::LabelMap& m_labels;
    std::unordered_map<std::int64_t, std::vector<Side>> m_at;
};

/// Whether a curve keeps within a pixel of the border it is drawn for; for a few pixels it may cut a corner of the sides.
bool keepsTo(const Contour& curve, const SidesAlong& sides) {
    constexpr double kAtOnce = 0.5, kShort = 4; // px
    double astray = 0;
    bool isKept = true;
    geometry::eachCurve(curve, [&](const geometry::Cubic& k, const Segment&) {
        const int looks = std::max(2, static_cast<int>(geometry::curveLength(k) / kAtOnce));
        for (int i = 0; i < looks && isKept; ++i) {
            const double t = (i + 0.5) / looks;
            const SidesAlong::Lies lies = sides.lies(k.at(t), geometry::directionAt(k, t));
            const bool isOff = lies == SidesAlong::Lies::Off || (lies == SidesAlong::Lies::FarOff && astray > 0);
            astray = isOff ? astray + geometry::curveLength(k) / looks : 0;
            isKept = astray < kShort;
        }
    });
    return isKept;
}

/// An edge walked one way, and where it goes on.
struct HalfEdge {
    int edge = -1;
    bool isForward = true;
};

void append(Contour& out, const MapEdge& edge, bool isForward) {
    const Contour way = isForward ? edge.curve : geometry::reversed(edge.curve);
    if (out.segments.empty())
        out.start = way.start;
    out.segments.insert(out.segments.end(), way.segments.begin(), way.segments.end());
}

/// Walks the borders on which `group` differs from side to side and files every closed walk under the group
/// on its right. `group` is -1 for what is not asked for.
std::map<int, std::vector<Contour>> walks(const PlanarMap& map, const std::vector<int>& group) {
    const auto groupOf = [&](int face) { return face < 0 ? -1 : group[static_cast<size_t>(face)]; };
    std::vector<std::vector<HalfEdge>> leaving(map.junctions.size());
    const auto startOf = [&](const HalfEdge& h) {
        const MapEdge& e = map.edges[static_cast<size_t>(h.edge)];
        return h.isForward ? e.from : e.to;
    };
    const auto rightOf = [&](const HalfEdge& h) {
        const MapEdge& e = map.edges[static_cast<size_t>(h.edge)];
        return groupOf(h.isForward ? e.right : e.left);
    };
    std::vector<HalfEdge> all;
    for (size_t i = 0; i < map.edges.size(); ++i) {
        const MapEdge& e = map.edges[i];
        if (groupOf(e.right) == groupOf(e.left))
            continue;
        for (bool isForward : {true, false}) {
            const HalfEdge half{static_cast<int>(i), isForward};
            if (rightOf(half) < 0)
                continue;
            all.push_back(half);
            if (startOf(half) >= 0)
                leaving[static_cast<size_t>(startOf(half))].push_back(half);
        }
    }
    std::vector<std::array<bool, 2>> walked(map.edges.size(), {false, false});
    std::map<int, std::vector<Contour>> out;
    for (const HalfEdge& first : all) {
        if (walked[static_cast<size_t>(first.edge)][first.isForward])
            continue;
        Contour contour;
        HalfEdge here = first;
        const int wanted = rightOf(first);
        while (!walked[static_cast<size_t>(here.edge)][here.isForward]) {
            walked[static_cast<size_t>(here.edge)][here.isForward] = true;
            const MapEdge& e = map.edges[static_cast<size_t>(here.edge)];
            append(contour, e, here.isForward);
            const int at = here.isForward ? e.to : e.from;
            if (at < 0)
                break;
            const int arriving = here.isForward ? e.arrives : (e.leaves + 2) % 4;
            // The sharpest right turn keeps parts apart that touch only at a corner.
            int best = 4;
            for (const HalfEdge& next : leaving[static_cast<size_t>(at)]) {
                if (rightOf(next) != wanted || walked[static_cast<size_t>(next.edge)][next.isForward])
                    continue;
                const MapEdge& n = map.edges[static_cast<size_t>(next.edge)];
                const int way = next.isForward ? n.leaves : (n.arrives + 2) % 4;
                const int turn = ((arriving + 1 - way) % 4 + 4) % 4; // 0 right, 1 on, 2 left
                if (turn < best) {
                    best = turn;
                    here = next;
                }
            }
            if (best == 4)
                break;
        }
        out[wanted].push_back(std::move(contour));
    }
    return out;
}

/// The outline and its openings from the walks around one part.
Shape shapeOf(std::vector<Contour> contours) {
    const auto outline =
        std::max_element(contours.begin(), contours.end(), [](const Contour& a, const Contour& b) {
            return geometry::signedArea(a) < geometry::signedArea(b);
        });
    std::swap(*outline, contours.front());
    Shape shape{std::move(contours.front()), {}};
    shape.openings.assign(std::make_move_iterator(contours.begin() + 1),
                          std::make_move_iterator(contours.end()));
    return shape;
}

} // namespace

base::Result<PlanarMap> drawMap(const raster::LabelMap& labels, const std::vector<std::int32_t>& rank,
                                const LevelsFor& levelsFor, const raster::EdgeReading& reading,
                                const geometry::MeasuredOptions& options, const base::Progress& progress) {
    if (rank.size() > static_cast<size_t>(kMostFaces))
        return base::Error{
            base::Code::Degenerate,
            "The picture falls into " + base::formatCount(static_cast<int>(rank.size())) +
                " areas, more than anybody cuts; raise the least area, or smooth the picture first."};
    auto found = raster::findBorders(labels, rank, progress);
    if (!found)
        return found.error();
    const raster::Borders borders = found.take();
    const Measuring measuring(labels, borders, levelsFor, reading);
    PlanarMap map{labels.width, labels.height, static_cast<int>(rank.size()), {}, {}};
    const auto levelsAlong = [&](const Border& b) { return levelsFor(b.right, b.left).at; };
    const double variance = reading.contour ? 0 : raster::softnessOf(labels, borders, levelsAlong);
    const raster::Spread spread = raster::spreadOf(variance);
    constexpr size_t kMuch = 60'000; // px of border: more takes too long for every trial
    size_t sides = 0;
    for (const Border& border : borders.all)
        sides += border.sides.size();
    const bool isHasty = sides > kMuch;
    // What every border knows of its two ends.
    std::vector<std::array<MeasuredEnd, 2>> ends(borders.all.size());
    for (size_t j = 0; j < borders.junctions.size(); ++j) {
        const Measuring::Junction junction = measuring.junction(j);
        map.junctions.push_back(junction.place);
        for (const Arm& arm : junction.arms)
            ends[arm.border][arm.isFront ? 0 : 1] = {junction.place, arm.away * (arm.isFront ? 1 : -1),
                                                     false};
    }
    for (size_t i = 0; i < borders.all.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        if (i % 64 == 0)
            progress.report(static_cast<double>(i) / static_cast<double>(borders.all.size()),
                            "Fitting curves");
        const Border& border = borders.all[i];
        MapEdge edge{border.right,
                     border.left,
                     border.from,
                     border.to,
                     border.sides.front().way,
                     border.sides.back().way,
                     {}};
        const bool isFrame = border.right < 0 || border.left < 0, isRing = border.from < 0;
        const auto& [from, to] = ends[i];
        geometry::MeasuredOptions own = options;
        own.tolerance = std::max(options.tolerance, measuring.tolerance(i));
        own.softness = spread.reach() > 0 ? std::sqrt(variance) : 0;
        if (isFrame)
            edge.curve = frameAlong(border, from.place, to.place);
        else
            edge.curve = isRing ? fitRing(border, measuring.points(i), own)
                                : fitBetween(measuring.points(i), from, to, own);
        if (!isFrame && !reading.contour) { // a contour of grey is no edge between plain sides
            const SidesAlong along(border, labels);
            Contour held = heldAgainstPicture(edge.curve, border, labels, levelsFor(border.right, border.left),
                                              spread, isHasty, progress);
            if (reading.carriesOn || keepsTo(held, along)) // a border carried on leaves its pixels on purpose
                edge.curve = std::move(held);
            else if (!keepsTo(edge.curve, along)) { // whatever was measured: as the pixels' sides run
                constexpr double kStairs = 0.6;
                own.tolerance = std::max(own.tolerance, kStairs);
                edge.curve = isRing ? fitRing(border, middlesAlong(border), own)
                                    : fitBetween(middlesAlong(border), from, to, own);
            }
        }
        roundAll(edge.curve);
        map.edges.push_back(std::move(edge));
    }
    return map;
}

std::vector<Shape> outlinesOf(const PlanarMap& map, const std::function<bool(int)>& isIn) {
    base::Joined groups(static_cast<size_t>(map.faces)); // of faces, along borders
    std::vector<bool> in(static_cast<size_t>(map.faces));
    for (int face = 0; face < map.faces; ++face)
        in[static_cast<size_t>(face)] = isIn(face);
    for (const MapEdge& e : map.edges)
        if (e.right >= 0 && e.left >= 0 && in[static_cast<size_t>(e.right)] &&
            in[static_cast<size_t>(e.left)])
            groups.join(e.right, e.left);
    std::vector<int> group(static_cast<size_t>(map.faces), -1);
    for (int face = 0; face < map.faces; ++face)
        if (in[static_cast<size_t>(face)])
            group[static_cast<size_t>(face)] = groups.of(face);
    std::vector<Shape> out;
    for (auto& [part, contours] : walks(map, group))
        out.push_back(shapeOf(std::move(contours)));
    return out;
}

std::vector<Shape> faceShapes(const PlanarMap& map) {
    std::vector<int> each(static_cast<size_t>(map.faces));
    std::iota(each.begin(), each.end(), 0);
    std::vector<Shape> out(each.size());
    for (auto& [face, contours] : walks(map, each))
        out[static_cast<size_t>(face)] = shapeOf(std::move(contours));
    return out;
}

} // namespace thinline::trace
