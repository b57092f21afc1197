// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/PixelOutlines.h"

#include <potracelib.h>

#include <memory>

namespace thinline::trace {
namespace {

using geometry::Contour;
using geometry::Point;
using geometry::Segment;

/// The region's pixels as the library's bitmap, whose rows count upwards.
struct Bitmap {
    explicit Bitmap(const raster::Region& region)
        : words(static_cast<size_t>((region.width + kBits - 1) / kBits) * static_cast<size_t>(region.height),
                0) {
        view.w = region.width;
        view.h = region.height;
        view.dy = (region.width + kBits - 1) / kBits;
        view.map = words.data();
        for (const raster::Run& run : region.runs) {
            potrace_word* row = words.data() + static_cast<size_t>(region.height - 1 - (run.y - region.top)) *
                                                   static_cast<size_t>(view.dy);
            for (int x = run.x0 - region.left; x < run.x1 - region.left;) {
                const int bit = x % kBits, count = std::min(kBits - bit, run.x1 - region.left - x);
                const potrace_word ones =
                    count == kBits ? ~potrace_word{0} : ((potrace_word{1} << count) - 1);
                row[x / kBits] |= ones << (kBits - bit - count);
                x += count;
            }
        }
    }
    static constexpr int kBits = 8 * sizeof(potrace_word);
    std::vector<potrace_word> words;
    potrace_bitmap_t view{};
};

/// Turns a curve of the library (y up, within the region's box) into picture coordinates.
Contour contourOf(const potrace_curve_t& curve, const raster::Region& region) {
    const auto at = [&](potrace_dpoint_t p) {
        return Point{p.x + region.left, region.top + region.height - p.y};
    };
    Contour contour;
    if (curve.n < 1)
        return contour;
    contour.start = at(curve.c[curve.n - 1][2]);
    for (int i = 0; i < curve.n; ++i) {
        if (curve.tag[i] == POTRACE_CORNER) {
            contour.segments.push_back(Segment::line(at(curve.c[i][1])));
            contour.segments.push_back(Segment::line(at(curve.c[i][2])));
        } else {
            contour.segments.push_back(
                Segment::curve(at(curve.c[i][0]), at(curve.c[i][1]), at(curve.c[i][2])));
        }
    }
    return contour;
}

/// Leaves out nodes in the middle of straight runs: the library puts one between every two corners.
void dropNodesOnStraights(Contour& contour) {
    constexpr double kStraightPx = 0.02; // far below what the pixels say
    std::vector<Segment> kept;
    Point from = contour.start;
    for (const Segment& s : contour.segments) {
        if (s.isLine && !kept.empty() && kept.back().isLine) {
            const Point before = kept.size() > 1 ? kept[kept.size() - 2].end : contour.start;
            if (geometry::distanceToStretch(from, before, s.end) < kStraightPx)
                kept.pop_back();
        }
        kept.push_back(s);
        from = s.end;
    }
    if (kept.size() > 3 && kept.front().isLine && kept.back().isLine) {
        const Point before = kept[kept.size() - 2].end;
        if (geometry::distanceToStretch(contour.start, before, kept.front().end) < kStraightPx) {
            contour.start = before;
            kept.pop_back();
        }
    }
    contour.segments = std::move(kept);
}

Contour oriented(Contour contour, bool isOpening) {
    dropNodesOnStraights(contour);
    return (geometry::signedArea(contour) < 0) == isOpening ? contour : geometry::reversed(contour);
}

} // namespace

base::Result<std::vector<geometry::Shape>> outlinesOf(const raster::Region& region, double smoothness,
                                                      bool keepOpenings) {
    const std::unique_ptr<potrace_param_t, decltype(&potrace_param_free)> settings(potrace_param_default(),
                                                                                   potrace_param_free);
    Bitmap bitmap(region);
    std::vector<geometry::Shape> shapes;
    if (!settings)
        return base::Error{base::Code::Degenerate, "The outline could not be fitted: out of memory."};
    settings->turdsize = 0;                          // specks were decided before
    settings->turnpolicy = POTRACE_TURNPOLICY_WHITE; // pixels that touch at a corner stay apart
    settings->alphamax = smoothness;
    settings->opticurve = 1;
    settings->opttolerance = 0.2; // px; the library's own advice
    const std::unique_ptr<potrace_state_t, decltype(&potrace_state_free)> traced(
        potrace_trace(settings.get(), &bitmap.view), potrace_state_free);
    if (!traced || traced->status != POTRACE_STATUS_OK)
        return base::Error{base::Code::Degenerate, "The outline near pixel " + std::to_string(region.left) +
                                                       ", " + std::to_string(region.top) +
                                                       " could not be fitted; smooth the picture a little."};
    for (const potrace_path_t* path = traced->plist; path; path = path->next) {
        Contour contour = oriented(contourOf(path->curve, region), path->sign == '-');
        if (contour.segments.size() < 2)
            continue;
        if (path->sign == '+')
            shapes.push_back({std::move(contour), {}});
        else if (keepOpenings && !shapes.empty())
            shapes.back().openings.push_back(
                std::move(contour)); // the list runs depth first: an opening follows its outline
    }
    return shapes;
}

} // namespace thinline::trace
