// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Fine lines: which strokes of a drawing are folds.
//
// People draw what is folded with a thinner pen, or dashed. In a bitmap both are just ink, and ink bounds
// areas: a fold drawn across a flap would part it into two pieces. So these lines have to be found, and
// taken out, before areas are looked for.
//
// Thin lines. A disc of the limit's width is put into the ink wherever it fits; what it never covers is
// thin. That is an opening, computed by two exact distance transforms. A pixel of margin keeps the fringe
// of thick lines out, which would otherwise be thin all along. What is left falls into regions; through
// each the longest way is taken (from any pixel to the farthest, and from there to the farthest again: in
// a tree that is its longest path, and thin ink is nearly a tree). The pixels along it are removed and the
// rest is looked at again, so that branches of branches come out as lines of their own. The way itself
// zigzags from pixel to pixel; its middle line is the mean of the pixels around each place. Where a thin
// line runs into a thick one, a stub is left inside the margin: the ink within two pixels that belongs to
// nothing thicker is added.
//
// A skeleton by thinning was considered: it moves the ends, and grows a hair at every bump of a scanned
// line, and each hair would have to be told from a true branch.
//
// Dashed lines. Every region that is a stroke (longer than wide, its box full, by second moments) is a
// dash. From each end the nearest end is looked for that goes on in line with it, within 21 degrees, and
// not farther than twice the longer dash. Two dashes are linked only if each is the other's nearest: that
// keeps parallel rows apart, and rows from branching. A row needs three dashes, or two strokes of hatching
// would be a fold. Rows that close on themselves have no end to begin at and are left as drawn, since a
// fold runs from edge to edge.
//
// Cost: O(pixels), and O(dashes squared) for linking, at most 5000 of them: a picture with more is a
// pattern.
#include "raster/FineLines.h"

#include "raster/Regions.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <unordered_map>

namespace thinline::raster {
namespace {

using geometry::Point;
using geometry::Polygon;

constexpr std::uint8_t kInk = 255;

std::vector<std::uint32_t> pixelsOf(const Region& region, int width) {
    std::vector<std::uint32_t> out;
    for (const Run& run : region.runs)
        for (int x = run.x0; x < run.x1; ++x)
            out.push_back(static_cast<std::uint32_t>(run.y) * static_cast<std::uint32_t>(width) +
                          static_cast<std::uint32_t>(x));
    return out;
}

/// The ink into which a disc does not fit, `margin` px away from where it does.
Grey thinInk(const Grey& ink, double discPx, double margin) {
    const cv::Mat mask(ink.height, ink.width, CV_8UC1, const_cast<std::uint8_t*>(ink.values.data()));
    cv::Mat depth;
    cv::distanceTransform(mask, depth, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    const double radius = discPx / 2;
    cv::Mat noCore = depth <= radius, away; // 0 where a disc's middle may lie
    cv::distanceTransform(noCore, away, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    Grey out{ink.width, ink.height, std::vector<std::uint8_t>(ink.values.size(), 0)};
    cv::Mat thin(out.height, out.width, CV_8UC1, out.values.data());
    const cv::Mat apart = (mask == kInk) & (away > radius + margin);
    apart.copyTo(thin);
    return out;
}

/// A blob of pixels and the longest way through it.
class Blob {
  public:
    Blob(std::vector<std::uint32_t> pixels, int width) : m_pixels(std::move(pixels)), m_width(width) {
        for (std::uint32_t i = 0; i < m_pixels.size(); ++i)
            m_index[m_pixels[i]] = i;
    }
    /// From one of its farthest ends to the other, as indices of pixels.
    std::vector<std::uint32_t> longestWay() const {
        std::vector<std::int32_t> before;
        const std::uint32_t end = walk(0, before), other = walk(end, before);
        std::vector<std::uint32_t> out;
        for (auto at = static_cast<std::int32_t>(other); at >= 0; at = before[static_cast<size_t>(at)])
            out.push_back(static_cast<std::uint32_t>(at));
        return out;
    }
    Point at(std::uint32_t index) const {
        const std::uint32_t p = m_pixels[index], w = static_cast<std::uint32_t>(m_width);
        return {static_cast<double>(p % w) + 0.5, static_cast<double>(p / w) + 0.5};
    }
    const std::vector<std::uint32_t>& pixels() const { return m_pixels; }

  private:
    /// Visits all from one, nearest first; returns the last one visited.
    std::uint32_t walk(std::uint32_t from, std::vector<std::int32_t>& before) const {
        before.assign(m_pixels.size(), -2);
        before[from] = -1;
        std::vector<std::uint32_t> queue{from};
        for (size_t head = 0; head < queue.size(); ++head) {
            const std::uint32_t here = queue[head];
            // Straight steps first, so that the way does not zigzag.
            constexpr int kAround[8][2] = {{1, 0}, {-1, 0}, {0, 1},  {0, -1},
                                           {1, 1}, {1, -1}, {-1, 1}, {-1, -1}};
            for (const auto& [dx, dy] : kAround) {
                const std::int64_t p =
                    static_cast<std::int64_t>(m_pixels[here]) + dx + static_cast<std::int64_t>(dy) * m_width;
                const auto next = p < 0 ? m_index.end() : m_index.find(static_cast<std::uint32_t>(p));
                if (next != m_index.end() && before[next->second] == -2) {
                    before[next->second] = static_cast<std::int32_t>(here);
                    queue.push_back(next->second);
                }
            }
        }
        return queue.back();
    }
    std::vector<std::uint32_t> m_pixels;
    int m_width;
    std::unordered_map<std::uint32_t, std::uint32_t> m_index;
};

/// The middle of a thin line along a way through its pixels: each place the mean of the pixels around.
Polygon middleAlong(const Blob& blob, const std::vector<std::uint32_t>& way, double thickness) {
    const double reach = thickness + 1.5;
    std::unordered_map<std::int64_t, std::vector<Point>> cells;
    const auto cellOf = [&](double v) { return static_cast<std::int64_t>(std::floor(v / reach)); };
    for (std::uint32_t i = 0; i < blob.pixels().size(); ++i)
        cells[(cellOf(blob.at(i).y) << 32) + cellOf(blob.at(i).x)].push_back(blob.at(i));
    Polygon out;
    for (const std::uint32_t index : way) {
        const Point p = blob.at(index);
        Point sum;
        double count = 0;
        for (std::int64_t cy = cellOf(p.y) - 1; cy <= cellOf(p.y) + 1; ++cy)
            for (std::int64_t cx = cellOf(p.x) - 1; cx <= cellOf(p.x) + 1; ++cx)
                if (const auto cell = cells.find((cy << 32) + cx); cell != cells.end())
                    for (const Point q : cell->second)
                        if (geometry::distance(p, q) <= reach) {
                            sum = sum + q;
                            count += 1;
                        }
        out.push_back(sum * (1 / count));
    }
    return out;
}

double lengthOf(const Polygon& line) {
    double out = 0;
    for (size_t i = 1; i < line.size(); ++i)
        out += geometry::distance(line[i - 1], line[i]);
    return out;
}

/// The longest line through a region of thin ink, with the pixels near its middle.
std::optional<FineLine> lineThrough(const Region& region, int width, const FineLineOptions& options) {
    const Blob blob(pixelsOf(region, width), width);
    const std::vector<std::uint32_t> way = blob.longestWay();
    if (static_cast<double>(way.size()) < 0.7 * options.leastPx) // a pixel of a slope counts for 1.4
        return std::nullopt;
    const double thickness = std::min(options.thinnerPx, static_cast<double>(blob.pixels().size()) /
                                                             static_cast<double>(way.size()));
    FineLine line{middleAlong(blob, way, thickness), thickness, false, {}};
    if (lengthOf(line.middle) < options.leastPx)
        return std::nullopt;
    for (std::uint32_t i = 0; i < blob.pixels().size(); ++i)
        if (std::any_of(line.middle.begin(), line.middle.end(),
                        [&](Point m) { return geometry::distance(m, blob.at(i)) <= options.thinnerPx; }))
            line.pixels.push_back(blob.pixels()[i]);
    return line;
}

/// Adds the ink within two pixels of a line that belongs to nothing thicker.
void addStubs(FineLine& line, const Grey& stubs) {
    std::vector<std::uint32_t> added;
    for (const std::uint32_t at : line.pixels) {
        const int x = static_cast<int>(at % static_cast<std::uint32_t>(stubs.width)),
                  y = static_cast<int>(at / static_cast<std::uint32_t>(stubs.width));
        for (int ny = std::max(0, y - 2); ny <= std::min(stubs.height - 1, y + 2); ++ny)
            for (int nx = std::max(0, x - 2); nx <= std::min(stubs.width - 1, x + 2); ++nx)
                if (stubs.at(nx, ny) == kInk)
                    added.push_back(static_cast<std::uint32_t>(ny * stubs.width + nx));
    }
    line.pixels.insert(line.pixels.end(), added.begin(), added.end());
    std::sort(line.pixels.begin(), line.pixels.end());
    line.pixels.erase(std::unique(line.pixels.begin(), line.pixels.end()), line.pixels.end());
}

base::Status addThin(const Grey& ink, const FineLineOptions& options, std::vector<FineLine>& out,
                     const base::Progress& progress) {
    constexpr double kClear = 1, kClose = 0.3;
    Grey thin = thinInk(ink, options.thinnerPx, kClear);
    const Grey stubs =
        thinInk(ink, options.thinnerPx, kClose); // what is left of a line where it meets another
    constexpr int kRounds = 6;                   // branches of branches
    for (int round = 0; round < kRounds; ++round) {
        const auto regions = findRegions(thin, kInk, Connectivity::Eight, progress);
        if (!regions)
            return regions.error();
        const size_t before = out.size();
        for (const Region& region : regions->all)
            if (static_cast<double>(region.areaPx) >= options.leastPx)
                if (auto line = lineThrough(region, ink.width, options)) {
                    addStubs(*line, stubs);
                    for (const std::uint32_t at : line->pixels)
                        thin.values[at] = 0;
                    out.push_back(std::move(*line));
                }
        if (out.size() == before)
            break;
    }
    return base::Done{};
}

/// A short stroke.
struct Dash {
    Point ends[2];
    double thickness = 0;
    std::vector<std::uint32_t> pixels;
    int next[2] = {-1, -1}; ///< the dash that goes on from either end

    double length() const { return geometry::distance(ends[0], ends[1]); }
};

/// A region as a stroke: along its longest extent; nothing for what is no stroke.
std::optional<Dash> dashOf(const Region& region, int width, double longest) {
    if (region.areaPx < 4 || std::max(region.width, region.height) > longest)
        return std::nullopt;
    Dash out;
    out.pixels = pixelsOf(region, width);
    const auto w = static_cast<std::uint32_t>(width);
    const auto placeOf = [&](std::uint32_t p) {
        return Point{static_cast<double>(p % w) + 0.5, static_cast<double>(p / w) + 0.5};
    };
    const double n = static_cast<double>(out.pixels.size());
    Point mean;
    for (const std::uint32_t p : out.pixels)
        mean = mean + placeOf(p) * (1 / n);
    double xx = 0, xy = 0, yy = 0;
    for (const std::uint32_t p : out.pixels) {
        const Point off = placeOf(p) - mean;
        xx += off.x * off.x / n;
        xy += off.x * off.y / n;
        yy += off.y * off.y / n;
    }
    const double turn = std::atan2(2 * xy, xx - yy) / 2;
    const double whole = xx + yy, split = std::hypot(xx - yy, 2 * xy);
    // A bar of length l spreads by l²/12 along itself.
    const double along = std::sqrt(12 * (whole + split) / 2),
                 across = std::sqrt(12 * std::max(0.0, whole - split) / 2);
    constexpr double kStroke = 1.8, kFull = 0.7; // as long as wide at least; its box filled
    if (along < kStroke * std::max(1.0, across) || n < kFull * along * std::max(1.0, across))
        return std::nullopt;
    const Point half = Point{std::cos(turn), std::sin(turn)} * (along / 2);
    out.ends[0] = mean - half;
    out.ends[1] = mean + half;
    out.thickness = across;
    return out;
}

/// Links every end of a dash to the one end that goes on from it, if each is the other's nearest.
void link(std::vector<Dash>& dashes) {
    constexpr double kInLine = 0.93; // cosine: within 21 degrees
    struct End {
        int dash = -1, end = 0;
    };
    const auto nearest = [&](int i, int e) {
        const Dash& from = dashes[static_cast<size_t>(i)];
        const Point out = geometry::direction(from.ends[e] - from.ends[1 - e]);
        End best;
        double least = 1e9;
        for (int j = 0; j < static_cast<int>(dashes.size()); ++j)
            for (int f = 0; f < 2 && j != i; ++f) {
                const Dash& to = dashes[static_cast<size_t>(j)];
                const Point gap = to.ends[f] - from.ends[e];
                const double wide = geometry::length(gap);
                if (wide >= least || wide > 2 * std::max(from.length(), to.length()))
                    continue;
                const Point in = geometry::direction(to.ends[1 - f] - to.ends[f]);
                if (geometry::dot(out, in) < kInLine ||
                    geometry::dot(geometry::direction(gap), out) < kInLine)
                    continue;
                least = wide;
                best = {j, f};
            }
        return best;
    };
    std::vector<std::array<End, 2>> partner(dashes.size());
    for (int i = 0; i < static_cast<int>(dashes.size()); ++i)
        for (int e = 0; e < 2; ++e)
            partner[static_cast<size_t>(i)][static_cast<size_t>(e)] = nearest(i, e);
    for (int i = 0; i < static_cast<int>(dashes.size()); ++i)
        for (int e = 0; e < 2; ++e) {
            const End p = partner[static_cast<size_t>(i)][static_cast<size_t>(e)];
            if (p.dash < 0)
                continue;
            const End back = partner[static_cast<size_t>(p.dash)][static_cast<size_t>(p.end)];
            if (back.dash == i && back.end == e)
                dashes[static_cast<size_t>(i)].next[e] = p.dash;
        }
}

/// A row of dashes as one line, a point a pixel through gaps and all.
FineLine lineAlong(const std::vector<Dash>& dashes, const std::vector<int>& row) {
    FineLine out;
    out.isDashed = true;
    Polygon corners;
    for (size_t k = 0; k < row.size(); ++k) {
        const Dash& dash = dashes[static_cast<size_t>(row[k])];
        // The end that looks at the dash before (or away from the one after) comes first.
        const Dash& other = dashes[static_cast<size_t>(row[k > 0 ? k - 1 : k + 1])];
        const Point middle = geometry::middle(other.ends[0], other.ends[1]);
        const bool isFirstNearer =
            geometry::distance(dash.ends[0], middle) < geometry::distance(dash.ends[1], middle);
        const int first = isFirstNearer == (k > 0) ? 0 : 1;
        corners.push_back(dash.ends[first]);
        corners.push_back(dash.ends[1 - first]);
        out.thicknessPx += dash.thickness / static_cast<double>(row.size());
        out.pixels.insert(out.pixels.end(), dash.pixels.begin(), dash.pixels.end());
    }
    for (size_t i = 0; i + 1 < corners.size(); ++i) {
        const int steps = std::max(1, static_cast<int>(geometry::distance(corners[i], corners[i + 1])));
        for (int k = 0; k < steps; ++k)
            out.middle.push_back(corners[i] +
                                 (corners[i + 1] - corners[i]) * (static_cast<double>(k) / steps));
    }
    out.middle.push_back(corners.back());
    return out;
}

base::Status addDashed(const Grey& ink, const FineLineOptions& options, std::vector<FineLine>& out,
                       const base::Progress& progress) {
    const auto regions = findRegions(ink, kInk, Connectivity::Eight, progress);
    if (!regions)
        return regions.error();
    std::vector<Dash> dashes;
    constexpr size_t kMost = 5000; // more short strokes are a pattern
    const auto addFrom = [&](const Regions& from) {
        for (const Region& region : from.all)
            if (auto dash = dashOf(region, ink.width, options.longestDashPx); dash && dashes.size() < kMost)
                dashes.push_back(std::move(*dash));
    };
    addFrom(*regions);
    if (options.thinnerPx > 0) { // those that end at a thicker line are one with it
        Grey attached = thinInk(ink, options.thinnerPx, 0.3);
        for (const Dash& dash : dashes)
            for (const std::uint32_t at : dash.pixels)
                attached.values[at] = 0;
        const auto ends = findRegions(attached, kInk, Connectivity::Eight, progress);
        if (!ends)
            return ends.error();
        addFrom(*ends);
    }
    link(dashes);
    std::vector<bool> isTaken(dashes.size(), false);
    const auto follow = [&](int from) {
        std::vector<int> row{from};
        isTaken[static_cast<size_t>(from)] = true;
        for (int here = from;;) {
            const Dash& dash = dashes[static_cast<size_t>(here)];
            const int next = dash.next[0] >= 0 && !isTaken[static_cast<size_t>(dash.next[0])]   ? dash.next[0]
                             : dash.next[1] >= 0 && !isTaken[static_cast<size_t>(dash.next[1])] ? dash.next[1]
                                                                                                : -1;
            if (next < 0)
                return row;
            isTaken[static_cast<size_t>(next)] = true;
            row.push_back(next);
            here = next;
        }
    };
    constexpr size_t kFewest = 3;
    for (int i = 0; i < static_cast<int>(dashes.size()); ++i) {
        const Dash& dash = dashes[static_cast<size_t>(i)];
        const bool isEnd = (dash.next[0] < 0) != (dash.next[1] < 0); // rows that bite their tail have none
        if (isTaken[static_cast<size_t>(i)] || !isEnd)
            continue;
        const std::vector<int> row = follow(i);
        if (row.size() >= kFewest)
            if (FineLine line = lineAlong(dashes, row); lengthOf(line.middle) >= options.leastPx)
                out.push_back(std::move(line));
    }
    return base::Done{};
}

} // namespace

base::Result<std::vector<FineLine>> findFineLines(const Grey& inkMask, const FineLineOptions& options,
                                                  const base::Progress& progress) {
    std::vector<FineLine> out;
    if (options.thinnerPx > 0)
        if (auto done = addThin(inkMask, options, out, progress); !done)
            return done.error();
    if (options.dashes) {
        Grey rest = inkMask;
        for (const FineLine& line : out)
            for (const std::uint32_t at : line.pixels)
                rest.values[at] = 0;
        if (auto done = addDashed(rest, options, out, progress); !done)
            return done.error();
    }
    return out;
}

} // namespace thinline::raster
