// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Open lines on card: crossings, clipping, dashes, joining loose ends.
//
// Crossings of two curves are searched by halving: hulls that do not meet cannot cross; parts that are
// flat enough cross like their chords, and Newton steps find the place on both curves to the last digits.
// Depth is bounded, since two curves that lie on one another would be halved for ever; they have no
// crossings to tell, and none are told. A place found twice (at a halving) is one. Fat-line clipping
// converges faster, and is not needed: folds are few, and each has a handful of edges to meet.
//
// Clipping keeps the parts of a line that lie on card. It cuts at every crossing, then asks the middle of
// each part whether it is card. Asking the middle instead of counting crossings makes touching harmless: a
// line that only touches the edge is cut there and goes on, and its two parts are joined again because
// they follow on each other. Where the edge is touched without being crossed there may be no cut, and where it is touched in
// the very middle that place may answer either way; then another one is asked. Parts under a micrometre are crumbs.
//
// A score that ends a hair before the edge tears there when it is folded, so folds are run on to the edge:
// straight ahead from the end, to the nearest edge within reach, a hundredth of a millimetre over, and
// clipped exactly.
//
// Dashes begin and end whole, with one factor on cut and gap: a perforation that ends in half a dash would
// tear on from there. The factor is told, because a blade's pitch may not allow it.
//
// A perforation that is to be folded begins and ends with card instead: a cut that reaches the edge is where it tears.
// Its cuts are all of one length, which the blade's pitch allows, and the bridges take up what is over.
//
// Joining loose ends: drawings from elsewhere come as single strokes whose ends nearly meet. Each end goes
// to the nearest free one within the tolerance, ends are found through cells as wide as the tolerance, and
// ties go to the lower number, so that the order of the file decides and not the hash. The later line is
// bent to begin where the earlier one ends; straight lines that would be moved by more than the tolerance
// do not exist by definition.
#include "geometry/Lines.h"

#include "geometry/Cubic.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace thinline::geometry {
namespace {

using Crossings = std::vector<std::pair<double, double>>;

Box hull(const Cubic& k) {
    Box box;
    for (Point p : {k.a, k.b, k.c, k.d})
        box.include(p);
    return box;
}

void settle(const Cubic& a, const Cubic& b, double t, double s, Crossings& out) {
    for (int i = 0; i < 20; ++i) {
        const Point miss = a.at(t) - b.at(s), va = a.speed(t), vb = b.speed(s);
        const double det = cross(va, vb);
        if (std::abs(det) < 1e-12 * length(va) * length(vb))
            return;
        t -= cross(miss, vb) / det;
        s -= cross(miss, va) / det;
    }
    constexpr double kBeyond = 1e-9;
    if (!(t > -kBeyond && t < 1 + kBeyond && s > -kBeyond && s < 1 + kBeyond))
        return;
    t = std::clamp(t, 0.0, 1.0);
    s = std::clamp(s, 0.0, 1.0);
    if (distance(a.at(t), b.at(s)) > 1e-8)
        return;
    for (const auto& [known, other] : out)
        if (std::abs(known - t) < 1e-7 && std::abs(other - s) < 1e-7)
            return;
    out.emplace_back(t, s);
}

void search(const Cubic& a, const Cubic& b, double t0, double t1, double s0, double s1, int depth,
            Crossings& out) {
    const Cubic pa = stretch(a, t0, t1), pb = stretch(b, s0, s1);
    if (!hull(pa).grownBy(1e-9).meets(hull(pb)))
        return;
    constexpr double kFlat = 1e-4; // parts this flat cross like lines, so that Newton finds the place
    const bool isFlatA = pa.largestBend() / 8 < kFlat, isFlatB = pb.largestBend() / 8 < kFlat;
    constexpr int kDeepest = 26;
    if ((isFlatA && isFlatB) || depth > kDeepest) {
        const Point va = pa.d - pa.a, vb = pb.d - pb.a;
        const double det = cross(va, vb);
        if (std::abs(det) < 1e-14) {
            settle(a, b, (t0 + t1) / 2, (s0 + s1) / 2, out);
            return;
        }
        const double f = cross(pb.a - pa.a, vb) / det, g = cross(pb.a - pa.a, va) / det;
        if (f > -0.5 && f < 1.5 && g > -0.5 && g < 1.5)
            settle(a, b, t0 + (t1 - t0) * f, s0 + (s1 - s0) * g, out);
        return;
    }
    const double tm = (t0 + t1) / 2, sm = (s0 + s1) / 2;
    if (isFlatB || (!isFlatA && length(pa.d - pa.a) > length(pb.d - pb.a))) {
        search(a, b, t0, tm, s0, s1, depth + 1, out);
        search(a, b, tm, t1, s0, s1, depth + 1, out);
    } else {
        search(a, b, t0, t1, s0, sm, depth + 1, out);
        search(a, b, t0, t1, sm, s1, depth + 1, out);
    }
}

template <class Visit>
void eachEdge(const Shape& shape, Visit visit) {
    eachCurve(shape.outline, [&](const Cubic& k, const Segment&) { visit(k); });
    for (const Contour& opening : shape.openings)
        eachCurve(opening, [&](const Cubic& k, const Segment&) { visit(k); });
}

base::Status checkNumbers(const Line& line, const Shape& shape) {
    if (!isFinite(line) || !isFinite(shape))
        return base::Error{base::Code::InvalidArgument,
                           "A line or an outline has a point that is not a number."};
    return base::Done{};
}

/// How far straight ahead of a point on the card the edge is, if at most `mostMm`.
std::optional<double> wayAhead(Point from, Point along, const Shape& shape, double mostMm) {
    const Cubic ray = Cubic::line(from, from + along * mostMm);
    std::optional<double> least;
    eachEdge(shape, [&](const Cubic& k) {
        for (const auto& [t, s] : crossingsOf(ray, k))
            if (t * mostMm > 1e-7 && (!least || t * mostMm < *least))
                least = t * mostMm;
    });
    return least;
}

/// Whether a stretch without crossings is card: what a place of it says that is not at the edge itself.
bool isOnCard(const Cubic& k, double from, double to, const Shape& shape) {
    constexpr double kAtEdge = 1e-6;
    for (const double share : {0.5, 0.37, 0.71})
        if (const Point p = k.at(from + (to - from) * share); !isNearEdge(shape, p, kAtEdge))
            return contains(shape, p);
    return contains(shape, k.at((from + to) / 2)); // it runs along the edge
}

} // namespace

Crossings crossingsOf(const Cubic& a, const Cubic& b) {
    Crossings out;
    if (!hull(a).grownBy(1e-9).meets(hull(b))) // nearly always, and no part has to be made to see it
        return out;
    search(a, b, 0, 1, 0, 1, 0, out);
    std::sort(out.begin(), out.end());
    return out;
}

std::vector<double> meetingsAlong(const Line& line, const Line& other) {
    std::vector<double> out;
    if (!bounds(line).grownBy(1e-6).meets(bounds(other)))
        return out;
    double passed = 0;
    eachCurve(line, [&](const Cubic& k, const Segment& s) {
        eachCurve(other, [&](const Cubic& o, const Segment&) {
            for (const auto& [t, u] : crossingsOf(k, o))
                out.push_back(passed + (s.isLine ? distance(k.a, k.at(t)) : curveLength(k, 0, t)));
        });
        passed += s.isLine ? distance(k.a, k.d) : curveLength(k);
    });
    constexpr double kEnd = 1e-6;
    std::erase_if(out, [&](double at) { return at < kEnd || at > passed - kEnd; });
    std::sort(out.begin(), out.end());
    return out;
}

base::Result<std::vector<Line>> clippedTo(const Line& line, const Shape& shape) {
    if (const auto sound = checkNumbers(line, shape); !sound)
        return sound.error();
    constexpr double kLeastMm = 0.001;
    std::vector<Line> parts;
    Line open;
    const auto close = [&] {
        if (!open.segments.empty() && contourLength(open) >= kLeastMm)
            parts.push_back(open);
        open = {};
    };
    eachCurve(line, [&](const Cubic& k, const Segment& s) {
        std::vector<double> cuts{0, 1};
        eachEdge(shape, [&](const Cubic& edge) {
            for (const auto& [t, other] : crossingsOf(k, edge))
                cuts.push_back(t);
        });
        std::sort(cuts.begin(), cuts.end());
        for (size_t i = 0; i + 1 < cuts.size(); ++i) {
            if (cuts[i + 1] - cuts[i] < 1e-9)
                continue;
            const Cubic part = stretch(k, cuts[i], cuts[i + 1]);
            if (!isOnCard(k, cuts[i], cuts[i + 1], shape)) {
                close();
                continue;
            }
            if (open.segments.empty())
                open.start = part.a;
            open.segments.push_back(segmentOf(part, s.isLine));
        }
    });
    close();
    return parts;
}

Point endOf(const Line& line) {
    return line.segments.empty() ? line.start : line.segments.back().end;
}

Point middleOf(const Line& line) {
    return endOf(stretchOfLine(line, 0, contourLength(line) / 2));
}

double distanceTo(const Line& line, Point p) {
    constexpr int kSteps = 32; // of a curve
    double least = INFINITY;
    eachCurve(line, [&](const Cubic& k, const Segment& s) {
        const int steps = s.isLine ? 1 : kSteps;
        Point from = k.a;
        for (int i = 1; i <= steps; ++i) {
            const Point to = i == steps ? k.d : k.at(static_cast<double>(i) / steps);
            least = std::min(least, distanceToStretch(p, from, to));
            from = to;
        }
    });
    return least;
}

base::Result<std::vector<Line>> extendedToEdge(const Line& line, const Shape& shape, double mostMm,
                                               Ends which) {
    if (const auto sound = checkNumbers(line, shape); !sound)
        return sound.error();
    if (line.segments.empty())
        return std::vector<Line>{};
    Line longer = line;
    std::vector<Cubic> steps;
    eachCurve(line, [&](const Cubic& k, const Segment&) { steps.push_back(k); });
    constexpr double kOverMm = 0.01; // a little too far; clipping takes it off exactly
    const Point ahead = directionAt(steps.back(), 1), back = directionAt(steps.front(), 0) * -1;
    if (which != Ends::First && which != Ends::Neither && contains(shape, steps.back().d))
        if (const auto way = wayAhead(steps.back().d, ahead, shape, mostMm))
            longer.segments.push_back(Segment::line(steps.back().d + ahead * (*way + kOverMm)));
    if (which != Ends::Last && which != Ends::Neither && contains(shape, line.start))
        if (const auto way = wayAhead(line.start, back, shape, mostMm)) {
            longer.segments.insert(longer.segments.begin(), Segment::line(line.start));
            longer.start = line.start + back * (*way + kOverMm);
        }
    return clippedTo(longer, shape);
}

std::optional<Point> edgeAhead(const Line& line, const Shape& shape, double mostMm) {
    if (line.segments.empty() || !isFinite(line) || !isFinite(shape))
        return std::nullopt;
    const Point from = line.segments.size() > 1 ? line.segments[line.segments.size() - 2].end : line.start;
    const Point ahead = directionAt(Cubic::of(from, line.segments.back()), 1);
    const auto way = wayAhead(endOf(line), ahead, shape, mostMm);
    return way ? std::optional(endOf(line) + ahead * *way) : std::nullopt;
}

Line stretchOfLine(const Line& line, double fromMm, double toMm) {
    Line out{line.start, {}};
    double passed = 0;
    eachCurve(line, [&](const Cubic& k, const Segment& s) {
        const double whole = s.isLine ? distance(k.a, k.d) : curveLength(k);
        const double low = std::max(0.0, fromMm - passed), high = std::min(whole, toMm - passed);
        passed += whole;
        if (high - low <= 1e-12 || whole <= 0)
            return;
        const auto place = [&](double along) {
            if (s.isLine || along <= 0 || along >= whole)
                return std::clamp(along / whole, 0.0, 1.0);
            double t = along / whole;
            for (int i = 0; i < 30; ++i) { // length grows with t, its slope is the speed
                const double speed = std::max(1e-12, length(k.speed(t)));
                const double next = std::clamp(t - (curveLength(k, 0, t) - along) / speed, 0.0, 1.0);
                if (std::abs(next - t) < 1e-12)
                    break;
                t = next;
            }
            return t;
        };
        const Cubic part = stretch(k, place(low), place(high));
        if (out.segments.empty())
            out.start = part.a;
        out.segments.push_back(segmentOf(part, s.isLine));
    });
    return out;
}

base::Result<Dashes> dashed(const Line& line, double cutMm, double gapMm) {
    const double whole = contourLength(line);
    if (!(cutMm > 0) || !(gapMm >= 0) || !std::isfinite(cutMm + gapMm) || !(whole > 0))
        return base::Error{base::Code::InvalidArgument,
                           "Dashes need a line with a length, a cut above zero and a gap of zero or more."};
    constexpr double kMost = 100'000; // dashes; more is a slip of the unit
    const double count = std::max(1.0, std::round((whole + gapMm) / (cutMm + gapMm)));
    if (count > kMost)
        return base::Error{base::Code::InvalidArgument,
                           "That would be more than 100,000 dashes; make them longer."};
    Dashes out;
    out.scale = whole / (count * cutMm + (count - 1) * gapMm);
    for (double i = 0; i < count; ++i) {
        const double from = i * (cutMm + gapMm) * out.scale;
        out.cuts.push_back(stretchOfLine(line, from, i + 1 == count ? whole : from + cutMm * out.scale));
    }
    return out;
}

namespace {

/// The free ends of lines, found by place.
class FreeEnds {
  public:
    explicit FreeEnds(double tolerance) : m_cell(std::max(tolerance, 1e-9)), m_tolerance(tolerance) {}

    void add(size_t end, Point at) { m_cells[cellOf(at)].emplace(end, at); }
    void remove(size_t end, Point at) { m_cells[cellOf(at)].erase(end); }
    /// The nearest free end within the tolerance; where hundreds crowd, of those with the lowest numbers.
    std::optional<size_t> nearest(Point to) const {
        std::optional<size_t> best;
        double least = m_tolerance;
        const auto [cx, cy] = cellOf(to);
        for (long long dx = -1; dx <= 1; ++dx)
            for (long long dy = -1; dy <= 1; ++dy)
                if (const auto cell = m_cells.find({cx + dx, cy + dy}); cell != m_cells.end()) {
                    size_t looks = 0;
                    for (const auto& [number, at] : cell->second) {
                        const double d = distance(at, to);
                        if (d < least || (d == least && (!best || number < *best))) {
                            least = d;
                            best = number;
                        }
                        if (least == 0 || ++looks == kMostLooks) // those that follow have higher numbers
                            break;
                    }
                }
        return best;
    }

  private:
    static constexpr size_t kMostLooks = 256;
    std::pair<long long, long long> cellOf(Point p) const {
        return {static_cast<long long>(std::floor(p.x / m_cell)),
                static_cast<long long>(std::floor(p.y / m_cell))};
    }
    double m_cell, m_tolerance;
    std::map<std::pair<long long, long long>, std::map<size_t, Point>>
        m_cells; ///< places by number of the end
};

/// Puts `next` behind `line`, bent to begin where the line ends.
void append(Line& line, Line next) {
    const Point at = endOf(line), by = at - next.start;
    if (!next.segments.empty() && !next.segments.front().isLine)
        next.segments.front().control1 = next.segments.front().control1 + by;
    line.segments.insert(line.segments.end(), next.segments.begin(), next.segments.end());
}

} // namespace

base::Result<std::vector<Line>> perforated(const Line& line, const Perforation& how) {
    if (!(how.cutMm > 0) || !(how.leftMm >= 0) || !(how.leftAtEndsMm >= 0))
        return base::Error{base::Code::InvalidArgument,
                           "A perforation has cuts longer than 0 mm and bridges of 0 mm or more."};
    const double length = contourLength(line), between = length - 2 * how.leftAtEndsMm;
    std::vector<Line> cuts;
    if (between < how.cutMm) {
        if (between >= how.cutMm / 2)
            cuts.push_back(stretchOfLine(line, how.leftAtEndsMm, length - how.leftAtEndsMm));
        return cuts;
    }
    const double pitch = how.cutMm + how.leftMm;
    const auto count = static_cast<size_t>((between + how.leftMm) / pitch);
    const double spare = between - (static_cast<double>(count) * pitch - how.leftMm),
                 left = how.leftMm + spare / (static_cast<double>(count) + 1),
                 atEnds = how.leftAtEndsMm + spare / (static_cast<double>(count) + 1);
    for (size_t i = 0; i < count; ++i) {
        const double from = atEnds + static_cast<double>(i) * (how.cutMm + left);
        cuts.push_back(stretchOfLine(line, from, from + how.cutMm));
    }
    return cuts;
}

base::Result<Joined> joinedEnds(std::vector<Line> lines, double toleranceMm) {
    if (!(toleranceMm >= 0))
        return base::Error{base::Code::InvalidArgument,
                           "The tolerance for joining ends must not be below zero."};
    std::erase_if(lines, [](const Line& line) { return line.segments.empty(); });
    Joined out;
    FreeEnds ends(toleranceMm); // end 2i is the start of line i, 2i + 1 its end
    for (size_t i = 0; i < lines.size(); ++i) {
        ends.add(2 * i, lines[i].start);
        ends.add(2 * i + 1, endOf(lines[i]));
    }
    std::vector<bool> isUsed(lines.size(), false);
    const auto takeOut = [&](size_t i) {
        isUsed[i] = true;
        ends.remove(2 * i, lines[i].start);
        ends.remove(2 * i + 1, endOf(lines[i]));
    };
    const auto note = [&](double gap) {
        out.gapsClosed += gap > 1e-9 ? 1 : 0;
        out.widestGapMm = std::max(out.widestGapMm, gap);
    };
    const auto closes = [&](const Line& line) {
        return distance(line.start, endOf(line)) <= toleranceMm &&
               (line.segments.size() > 1 || !line.segments.front().isLine) &&
               contourLength(line) > 2 * toleranceMm;
    };
    for (size_t i = 0; i < lines.size(); ++i) {
        if (isUsed[i])
            continue;
        takeOut(i);
        Line line = lines[i];
        for (int side = 0; side < 2 && !closes(line); ++side) {
            while (!closes(line)) {
                const auto found = ends.nearest(endOf(line));
                if (!found)
                    break;
                const size_t next = *found / 2;
                takeOut(next);
                Line piece = *found % 2 ? reversed(lines[next]) : lines[next];
                note(distance(endOf(line), piece.start));
                append(line, std::move(piece));
            }
            if (!closes(line))
                line = reversed(line); // now the other end
        }
        if (!closes(line)) {
            out.lines.push_back(std::move(line));
            continue;
        }
        note(distance(line.start, endOf(line)));
        if (!(endOf(line) == line.start)) {
            if (line.segments.back().isLine && line.segments.size() > 2)
                line.segments.back() = Segment::line(line.start);
            else
                line.segments.push_back(Segment::line(line.start));
        }
        out.outlines.push_back(std::move(line));
    }
    return out;
}

} // namespace thinline::geometry
