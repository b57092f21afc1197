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
// Templates are drawn with fine pens, and scanned: a line of a quarter of a millimetre never becomes as dark
// as a thick one, and the threshold that suits the outline may lose it. So lines are looked for in more than
// the ink: what is thin and darker than what is around it counts as well (a closing of the grey, less the
// grey). And where a line is a few pixels wide, all this is done at twice the resolution.
//
// A skeleton by thinning was considered: it moves the ends, and grows a hair at every bump of a scanned
// line, and each hair would have to be told from a true branch.
//
// Dashed lines. Every short stroke is a dash (Strokes.cpp), also one that touches other ink. From each end the nearest end is looked for that goes on in line with it, within 21 degrees, and
// not farther than twice the longer dash. Two dashes are linked only if each is the other's nearest: that
// keeps parallel rows apart, and rows from branching. A row needs three dashes, or two strokes of hatching
// would be a fold. Rows that close on themselves have no end to begin at and are left as drawn, since a
// fold runs from edge to edge.
//
// Cost: O(pixels), and O(dashes squared) for linking, at most 5000 of them: a picture with more is a
// pattern.
#include "raster/FineLines.h"

#include "raster/LineEnds.h"
#include "raster/Regions.h"
#include "raster/Strokes.h"

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
    /// Its pixels within a distance of some places.
    std::vector<std::uint32_t> near(const Polygon& places, double reach) const {
        std::vector<std::uint32_t> out;
        for (const Point place : places)
            for (int y = static_cast<int>(place.y - reach) - 1; y <= static_cast<int>(place.y + reach); ++y)
                for (int x = static_cast<int>(place.x - reach) - 1; x <= static_cast<int>(place.x + reach);
                     ++x) {
                    if (x < 0 || y < 0 || x >= m_width ||
                        geometry::distance(place, {x + 0.5, y + 0.5}) > reach)
                        continue;
                    const auto at = static_cast<std::uint32_t>(y) * static_cast<std::uint32_t>(m_width) +
                                    static_cast<std::uint32_t>(x);
                    if (m_index.contains(at))
                        out.push_back(at);
                }
        std::sort(out.begin(), out.end());
        out.erase(std::unique(out.begin(), out.end()), out.end());
        return out;
    }

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
    FineLine line{middleAlong(blob, way, thickness), thickness, 0, 0, {}};
    if (lengthOf(line.middle) < options.leastPx)
        return std::nullopt;
    line.pixels = blob.near(line.middle, options.thinnerPx);
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
    std::vector<Grey> both = thinInk(ink, options.thinnerPx, {kClear, kClose});
    Grey& thin = both[0];
    const Grey& stubs = both[1];                   // what is left of a line where it meets another
    constexpr std::int64_t kMostOfOne = 1'000'000; // px; more thin ink in one is a pattern
    constexpr int kRounds = 6;                     // branches of branches
    for (int round = 0; round < kRounds; ++round) {
        const auto regions = findRegions(thin, kInk, Connectivity::Eight, progress);
        if (!regions)
            return regions.error();
        const size_t before = out.size();
        for (const Region& region : regions->all)
            if (static_cast<double>(region.areaPx) >= options.leastPx && region.areaPx <= kMostOfOne)
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

/// A stroke and those that go on from its ends.
struct Dash : Stroke {
    int next[2] = {-1, -1};
};

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

/// A row of dashes as one line, through gaps and all.
FineLine lineAlong(const std::vector<Dash>& dashes, const std::vector<int>& row) {
    FineLine out;
    for (size_t k = 0; k < row.size(); ++k) {
        const Dash& dash = dashes[static_cast<size_t>(row[k])];
        // The end that looks at the dash before (or away from the one after) comes first.
        const Dash& other = dashes[static_cast<size_t>(row[k > 0 ? k - 1 : k + 1])];
        const Point middle = geometry::middle(other.ends[0], other.ends[1]);
        const bool isFirstNearer =
            geometry::distance(dash.ends[0], middle) < geometry::distance(dash.ends[1], middle);
        const int first = isFirstNearer == (k > 0) ? 0 : 1;
        if (out.middle.empty()) {
            out.middle.push_back(dash.ends[first]);
        } else {
            out.gapPx = std::max(out.gapPx, geometry::distance(out.middle.back(), dash.ends[first]));
            addWay(out.middle, dash.ends[first]);
        }
        addWay(out.middle, dash.ends[1 - first]);
        out.dashPx = std::max(out.dashPx, dash.length());
        out.thicknessPx += dash.thickness / static_cast<double>(row.size());
        out.pixels.insert(out.pixels.end(), dash.pixels.begin(), dash.pixels.end());
    }
    return out;
}

base::Status addDashed(const Grey& ink, const FineLineOptions& options, bool isRough,
                       std::vector<FineLine>& out, const base::Progress& progress) {
    auto strokes = findStrokes(
        ink, {.longestPx = options.longestDashPx, .thickestPx = options.thickestDashPx, .onlyFree = isRough},
        progress);
    if (!strokes)
        return strokes.error();
    std::vector<Dash> dashes;
    for (Stroke& stroke : strokes.take())
        dashes.push_back({std::move(stroke), {-1, -1}});
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
    const size_t fewest = isRough ? 2 : 3; // the first and the last may touch other ink
    for (int i = 0; i < static_cast<int>(dashes.size()); ++i) {
        const Dash& dash = dashes[static_cast<size_t>(i)];
        const bool isEnd = (dash.next[0] < 0) != (dash.next[1] < 0); // rows that bite their tail have none
        if (isTaken[static_cast<size_t>(i)] || !isEnd)
            continue;
        const std::vector<int> row = follow(i);
        if (row.size() >= fewest)
            if (FineLine line = lineAlong(dashes, row); lengthOf(line.middle) >= options.leastPx)
                out.push_back(std::move(line));
    }
    return base::Done{};
}

/// The grey at twice its resolution, smoothly between pixels.
Grey doubled(const Grey& grey) {
    const cv::Mat from(grey.height, grey.width, CV_8UC1, const_cast<std::uint8_t*>(grey.values.data()));
    Grey out{2 * grey.width, 2 * grey.height, {}};
    out.values.resize(4 * grey.values.size());
    cv::Mat to(out.height, out.width, CV_8UC1, out.values.data());
    cv::resize(from, to, to.size(), 0, 0, cv::INTER_CUBIC);
    return out;
}

/// Lines found at twice the resolution, as they lie in the picture.
void halve(std::vector<FineLine>& lines, int width) {
    const auto from = static_cast<std::uint32_t>(2 * width), to = static_cast<std::uint32_t>(width);
    for (FineLine& line : lines) {
        for (Point& p : line.middle)
            p = p * 0.5;
        line.thicknessPx /= 2;
        line.gapPx /= 2;
        line.dashPx /= 2;
        for (std::uint32_t& at : line.pixels)
            at = at / from / 2 * to + at % from / 2;
        std::sort(line.pixels.begin(), line.pixels.end());
        line.pixels.erase(std::unique(line.pixels.begin(), line.pixels.end()), line.pixels.end());
    }
}

/// Thin lines and rows of dashes as they are found, each by itself.
base::Result<std::vector<FineLine>> linesIn(const Grey& ink, const FineLineOptions& options, bool isRough,
                                            const base::Progress& progress) {
    std::vector<FineLine> out;
    if (options.thinnerPx > 0)
        if (auto done = addThin(ink, options, out, progress); !done)
            return done.error();
    if (options.dashes)
        if (auto done = addDashed(without(ink, out), options, isRough, out, progress); !done)
            return done.error();
    return out;
}

base::Result<std::vector<FineLine>> settledLinesIn(const Grey& grey, int threshold,
                                                   const FineLineOptions& options,
                                                   const base::Progress& progress) {
    const Grey ink = lineInk(grey, threshold, std::max(options.thickestDashPx, options.thinnerPx));
    auto found = linesIn(ink, options, false, progress);
    if (!found)
        return found;
    std::vector<FineLine> out = found.take();
    if (auto done = settleEnds(ink, options, out, progress); !done)
        return done.error();
    return out;
}

} // namespace

Grey lineInk(const Grey& grey, int threshold, double widestPx) {
    Grey out = inkMask(grey, threshold);
    double ink = 0, paper = 0, inks = 0, papers = 0;
    for (size_t i = 0; i < grey.values.size(); ++i) {
        const bool isInk = out.values[i] == kInk;
        (isInk ? ink : paper) += grey.values[i];
        (isInk ? inks : papers) += 1;
    }
    if (inks == 0 || papers == 0)
        return out;
    constexpr double kShare = 0.4;
    const double least = kShare * (paper / papers - ink / inks);
    const cv::Mat shown(grey.height, grey.width, CV_8UC1, const_cast<std::uint8_t*>(grey.values.data()));
    const int size = static_cast<int>(widestPx) + 3;
    cv::Mat lighter;
    cv::morphologyEx(shown, lighter, cv::MORPH_CLOSE,
                     cv::getStructuringElement(cv::MORPH_RECT, {size, size}));
    for (int y = 0; y < grey.height; ++y)
        for (int x = 0; x < grey.width; ++x)
            if (lighter.at<std::uint8_t>(y, x) - grey.at(x, y) >= least)
                out.at(x, y) = kInk;
    return out;
}

base::Result<std::vector<FineLine>> glimpsedLines(const Grey& ink, const FineLineOptions& options,
                                                  const base::Progress& progress) {
    auto found = linesIn(ink, options, true, progress);
    if (!found)
        return found;
    std::vector<FineLine> out = found.take();
    std::for_each(out.begin(), out.end(), straighten);
    return out;
}

base::Result<std::vector<FineLine>> findFineLines(const Grey& grey, int threshold,
                                                  const FineLineOptions& options,
                                                  const base::Progress& progress) {
    // In whole pixels, a line of two and one of three are hard to tell apart.
    constexpr double kCoarse = 50; // px of the shortest line
    constexpr std::int64_t kMostDoubled = 9'000'000;
    if (options.leastPx >= kCoarse || static_cast<std::int64_t>(grey.width) * grey.height > kMostDoubled)
        return settledLinesIn(grey, threshold, options, progress);
    auto lines = settledLinesIn(doubled(grey), threshold,
                                {.thinnerPx = 2 * options.thinnerPx,
                                 .dashes = options.dashes,
                                 .leastPx = 2 * options.leastPx,
                                 .longestDashPx = 2 * options.longestDashPx,
                                 .thickestDashPx = 2 * options.thickestDashPx},
                                progress);
    if (!lines)
        return lines.error();
    std::vector<FineLine> out = lines.take();
    halve(out, grey.width);
    return out;
}

} // namespace thinline::raster
