// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Other ways around a spot that is explained badly.
//
// Moving points cannot change what a border is made of. This is the list of what it may be made of
// instead; the caller settles each and keeps the best. The list is short on purpose, since every entry
// costs a settling of five steps:
//
// - at a node: the smooth join becomes a corner; a short side cuts the corner off (as a blurred tip does,
//   and a chamfer); what cuts a tip off is left out, so that the sides beside it meet; a curve beside the
//   node gets one more bend;
// - within a step: a corner there; a bend there; a short side there.
//
// "At a node" means within three pixels of it, for nearer than that a new node would be the same one.
//
// Fewer steps are tried in the same manner: a short step is taken into the one before, into the one
// behind, or both become one curve. Only what runs on within 26 degrees may be joined, or a corner would
// go.
//
// What comes out must be plausible. A way that explains the pixels better by crossing itself, or by steps
// shorter than the picture has pixels, has found the grain and not the drawing.
#include "trace/RefineWays.h"

#include "geometry/CubicFit.h"

#include <algorithm>

namespace thinline::trace {
namespace {

using geometry::Cubic;
using geometry::Point;
using geometry::Polygon;

constexpr double kNear = 3;   ///< px; nearer to a node is at the node
constexpr double kEdge = 1.2; ///< px from a corner to either end of a side that cuts it off, to begin with

/// The steps with those from `first` to before `last` replaced.
Steps replaced(const Steps& steps, size_t first, size_t last, const Steps& by) {
    Steps out(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(first));
    out.insert(out.end(), by.begin(), by.end());
    out.insert(out.end(), steps.begin() + static_cast<std::ptrdiff_t>(last), steps.end());
    return out;
}

/// A step cut in two at t.
Steps cutAt(const Step& s, double t, bool isSmooth) {
    return {{geometry::stretch(s.curve, 0, t), s.isLine, s.isSmooth},
            {geometry::stretch(s.curve, t, 1), s.isLine, isSmooth}};
}

/// Two steps and a straight side between them.
Steps withSide(const Step& before, Step after) {
    after.isSmooth = false;
    return {before, {Cubic::line(before.curve.d, after.curve.a), true, false}, after};
}

/// The share of a step that a few pixels are; no more than half.
double shareOf(const Step& s, double way) {
    return std::clamp(way / std::max(1e-6, geometry::curveLength(s.curve)), 0.0, 0.5);
}

/// The short steps around a node left out: those beside them meet in it. What cuts a tip off goes.
void addMeeting(const Steps& steps, size_t node, std::vector<Steps>& out) {
    const auto isShort = [&](size_t i) { return geometry::curveLength(steps[i].curve) < kNear; };
    size_t from = node, to = node;
    while (from > 1 && isShort(from - 1))
        --from;
    while (to + 1 < steps.size() && isShort(to))
        ++to;
    if (from == to)
        return;
    Step before = steps[from - 1], after = steps[to];
    before.curve.d = after.curve.a = steps[node].curve.a;
    after.isSmooth = false;
    out.push_back(replaced(steps, from - 1, to + 1, {before, after}));
}

/// Other ways around the node at which the step `node` begins.
std::vector<Steps> waysAtNode(const Steps& steps, size_t node) {
    std::vector<Steps> out;
    Step before = steps[node - 1], after = steps[node];
    if (after.isSmooth) {
        out.push_back(steps);
        out.back()[node].isSmooth = false;
    }
    before.curve = geometry::stretch(before.curve, 0, 1 - shareOf(before, kEdge));
    after.curve = geometry::stretch(after.curve, shareOf(after, kEdge), 1);
    out.push_back(replaced(steps, node - 1, node + 1, withSide(before, after)));
    addMeeting(steps, node, out);
    for (const size_t side : {node - 1, node})
        if (!steps[side].isLine && geometry::curveLength(steps[side].curve) > 2 * kNear)
            out.push_back(replaced(steps, side, side + 1, cutAt(steps[side], 0.5, true)));
    return out;
}

/// One step in place of two: straight if both are, else the curve nearest to them.
Step throughBoth(const Step& first, const Step& second) {
    if (first.isLine && second.isLine)
        return {Cubic::line(first.curve.a, second.curve.d), true, first.isSmooth};
    std::vector<Point> along;
    constexpr int kLooks = 12; // on either
    for (const Step* s : {&first, &second})
        for (int k = 0; k < kLooks; ++k)
            along.push_back(s->curve.at(static_cast<double>(k) / kLooks));
    along.push_back(second.curve.d);
    const geometry::FittedCubic fitted = geometry::fitCubic(
        along, geometry::directionAt(first.curve, 0), geometry::directionAt(second.curve, 1) * -1, 0.05);
    return {fitted.cubic, false, first.isSmooth};
}

} // namespace

std::vector<Steps> otherWays(const Steps& steps, size_t at, double t) {
    const Step& step = steps[at];
    const double length = geometry::curveLength(step.curve);
    const bool isFirstHalf = t < 0.5;
    const size_t node = isFirstHalf ? at : at + 1;
    if ((isFirstHalf ? t : 1 - t) * length < kNear && node > 0 && node < steps.size())
        return waysAtNode(steps, node);
    std::vector<Steps> out;
    const double inside = std::clamp(t, 0.1, 0.9);
    out.push_back(replaced(steps, at, at + 1, cutAt(step, inside, false)));
    if (!step.isLine)
        out.push_back(replaced(steps, at, at + 1, cutAt(step, inside, true)));
    const double reach = std::min(0.4, kEdge / std::max(1e-6, length));
    const double from = std::clamp(t - reach, 0.05, 0.9), to = std::clamp(t + reach, from + 0.05, 0.95);
    out.push_back(replaced(steps, at, at + 1,
                           withSide(cutAt(step, from, false).front(), cutAt(step, to, false).back())));
    return out;
}

std::vector<Steps> waysWithout(const Steps& steps, size_t at) {
    constexpr double kRunsOn = 0.9; // cosine: within 26 degrees
    const auto runsOn = [&](size_t i) {
        return geometry::dot(geometry::directionAt(steps[i].curve, 1),
                             geometry::directionAt(steps[i + 1].curve, 0)) > kRunsOn;
    };
    const auto straightened = [](Step s) {
        if (s.isLine)
            s.curve = Cubic::line(s.curve.a, s.curve.d);
        return s;
    };
    std::vector<Steps> out;
    const Step& gone = steps[at];
    if (at > 0 && runsOn(at - 1)) {
        Step longer = steps[at - 1];
        longer.curve.c = longer.curve.c + (gone.curve.d - longer.curve.d);
        longer.curve.d = gone.curve.d;
        out.push_back(replaced(steps, at - 1, at + 1, {straightened(longer)}));
    }
    if (at + 1 < steps.size() && runsOn(at))
        out.push_back(replaced(steps, at, at + 2, {throughBoth(steps[at], steps[at + 1])}));
    if (at + 1 < steps.size() && runsOn(at)) {
        Step longer = steps[at + 1];
        longer.curve.b = longer.curve.b + (gone.curve.a - longer.curve.a);
        longer.curve.a = gone.curve.a;
        longer.isSmooth = gone.isSmooth;
        out.push_back(replaced(steps, at, at + 2, {straightened(longer)}));
    }
    return out;
}

bool isPlausible(const Steps& steps, const Steps& before) {
    double shortest = 0.8;
    for (const Step& s : before)
        shortest = std::min(shortest, 0.9 * geometry::distance(s.curve.a, s.curve.d));
    Polygon path{steps.front().curve.a};
    for (const Step& s : steps) {
        if (geometry::distance(s.curve.a, s.curve.d) < shortest)
            return false;
        const int looks = s.isLine ? 1 : 8;
        for (int k = 1; k <= looks; ++k)
            path.push_back(s.curve.at(static_cast<double>(k) / looks));
    }
    for (size_t i = 1; i < path.size(); ++i)
        for (size_t j = i + 2; j < path.size(); ++j) {
            const Point a = path[i - 1], b = path[i], c = path[j - 1], d = path[j];
            if (geometry::cross(b - a, c - a) * geometry::cross(b - a, d - a) < 0 &&
                geometry::cross(d - c, a - c) * geometry::cross(d - c, b - c) < 0)
                return false;
        }
    return true;
}

} // namespace thinline::trace
