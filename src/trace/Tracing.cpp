// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// One way in for the three ways of tracing, and what happens to a tracing afterwards.
//
// A very large picture is looked at in a reduced copy. Every way needs between ten and twenty bytes for each pixel (labels
// of regions, distances to ink, differences of colour), so a hundred megapixels would take two gigabytes, and what more
// they could tell than twenty-five is far below a tenth of a millimetre on any sheet. The copy is averaged, which keeps
// edges where they are to a fraction of its pixels; what is found is mapped back, each direction by its own factor, as
// the sides of the copy are whole numbers. Everything a person gives and sees stays in the pixels of the whole picture,
// so nothing she marked moves when the limit is changed one day.
#include "trace/Tracing.h"

#include "base/Length.h"
#include "geometry/Placing.h"
#include "raster/Turn.h"
#include "trace/Erase.h"
#include "trace/FlatArt.h"
#include "trace/LineDrawing.h"
#include "trace/Photo.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::trace {

using base::Code;
using base::Error;

namespace {

/// The picture as it is looked at: turned, and without what is taken out; empty when nothing was changed.
raster::Picture changedBy(const raster::Picture& given, const Recipe& recipe) {
    raster::Picture changed;
    if (recipe.turnDeg != 0)
        changed = raster::turned(given, recipe.turnDeg);
    if (!recipe.erasures.empty())
        changed = erased(changed.isEmpty() ? given : std::move(changed), recipe.erasures);
    return changed;
}

base::Result<Tracing> tracedAsItIs(const raster::Picture& given, double mmPerPx, const Recipe& recipe,
                                   const base::Progress& progress) {
    const raster::Picture changed = changedBy(given, recipe);
    const raster::Picture& picture = changed.isEmpty() ? given : changed;
    switch (recipe.mode) {
    case Mode::FlatArt:
        return traceFlatArt(picture, mmPerPx, recipe, progress);
    case Mode::Photo:
        return tracePhoto(picture, mmPerPx, recipe, progress);
    case Mode::LineDrawing:
        break;
    }
    return traceLineDrawing(picture, mmPerPx, recipe, progress);
}

/// What was found in a reduced copy, in the pixels of the whole picture. The copy's sides are whole pixels, so the two
/// ways are not enlarged quite alike.
Tracing enlarged(Tracing tracing, int widthPx, int heightPx) {
    const double across = static_cast<double>(widthPx) / tracing.widthPx,
                 down = static_cast<double>(heightPx) / tracing.heightPx;
    const geometry::Transform map = geometry::Transform::scale(across, down);
    tracing.widthPx = widthPx;
    tracing.heightPx = heightPx;
    for (std::vector<geometry::Shape>* shapes : {&tracing.backing, &tracing.ink})
        for (geometry::Shape& shape : *shapes)
            shape = geometry::transformed(shape, map);
    for (Area& area : tracing.areas) {
        area.shape = geometry::transformed(area.shape, map);
        area.inside = map(area.inside);
    }
    for (LostColour& one : tracing.lost) {
        one.areaPx *= across * down;
        one.place = map(one.place);
    }
    if (tracing.shadow) {
        tracing.shadow->areaPx *= across * down;
        tracing.shadow->place = map(tracing.shadow->place);
    }
    for (geometry::Line& fold : tracing.folds)
        fold = geometry::transformed(fold, map);
    for (Leak& leak : tracing.leaks) {
        leak.place = map(leak.place);
        leak.inside = map(leak.inside);
        leak.widthPx *= across;
        if (leak.closure)
            leak.closure =
                ClosingLine{map(leak.closure->from), map(leak.closure->to), leak.closure->widthPx * across};
    }
    return tracing;
}

} // namespace

std::string whatIsLookedAt(std::int64_t pixels, double mmPerPx) {
    if (pixels <= kMostLookedAt)
        return {};
    const double share = std::sqrt(static_cast<double>(kMostLookedAt) / static_cast<double>(pixels));
    constexpr std::int64_t kMega = 1'000'000;
    return "The picture has " + std::to_string(pixels / kMega) + " megapixels; it is traced with " +
           std::to_string(kMostLookedAt / kMega) + ", which is " + base::formatNumber(share / mmPerPx, 1) +
           " pixels to the millimetre.";
}

std::string fewPixels(int widthPx, double mmPerPx) {
    constexpr double kCoarseMm = 0.5; // a knife follows less
    if (mmPerPx < kCoarseMm)
        return {};
    return "This picture is " + std::to_string(widthPx) + " px wide: at " + base::formatNumber(widthPx * mmPerPx, 0) +
           " mm each pixel is " + base::formatNumber(mmPerPx, 1) +
           " mm. A larger picture of the same is traced truer; this one as well as it can be.";
}

std::string shadowText(const SeenShadow& shadow, double mmPerPx) {
    constexpr double kMm2 = 100;
    const double mm2 = shadow.areaPx * mmPerPx * mmPerPx;
    const std::string size = mm2 < kMm2 ? base::formatNumber(mm2, 0) + " mm²" : base::formatNumber(mm2 / kMm2, 1) + " cm²",
                      light = base::formatNumber(shadow.light * 100, 0) + " % as light, in " + base::counted(shadow.colours, "colour");
    return shadow.isTakenOut ? "A shadow over " + size + " was taken out: there it is " + light + "."
                             : "A shadow over " + size + "? There it is " + light + "; paint may be so too.";
}

namespace {

base::Status canBeTraced(const raster::Picture& given, double mmPerPx, const Recipe& recipe) {
    if (given.isEmpty())
        return Error{Code::InvalidArgument, "The picture is empty; open one with at least one pixel."};
    if (!(mmPerPx > 0) || !std::isfinite(mmPerPx))
        return Error{Code::InvalidArgument, "The picture's real size is not set; give its width."};
    if (recipe.threshold && (*recipe.threshold < 0 || *recipe.threshold > 254))
        return Error{Code::InvalidArgument, "The threshold " + std::to_string(*recipe.threshold) +
                                                " is out of range; it goes from 0 to 254."};
    constexpr double kMostDeg = 45;
    if (!(std::abs(recipe.turnDeg) <= kMostDeg))
        return Error{Code::InvalidArgument, "A picture is straightened by 45 degrees at most, either way."};
    return base::Done{};
}

/// A picture as it is looked at: reduced where it is very large, with the recipe that goes with it.
struct Seen {
    raster::Picture reduced; ///< empty: the whole one is looked at
    Recipe recipe;
    double share = 1; ///< pixels of the whole picture to one that is looked at
};
Seen seenOf(const raster::Picture& given, const Recipe& recipe) {
    if (given.pixels() <= kMostLookedAt)
        return {{}, recipe, 1};
    Seen out{raster::reduced(given, std::sqrt(static_cast<double>(kMostLookedAt) / static_cast<double>(given.pixels()))), {}, 1};
    out.share = static_cast<double>(given.width) / out.reduced.width;
    out.recipe = reducedBy(recipe, 1 / out.share);
    return out;
}

} // namespace

base::Result<Gapless> tracedGapless(const raster::Picture& given, double mmPerPx, const Recipe& recipe,
                                    const base::Progress& progress) {
    if (auto can = canBeTraced(given, mmPerPx, recipe); !can)
        return can.error();
    const Seen seen = seenOf(given, recipe);
    const raster::Picture& looked = seen.reduced.isEmpty() ? given : seen.reduced;
    const raster::Picture changed = changedBy(looked, seen.recipe);
    auto found = traceGapless(changed.isEmpty() ? looked : changed, mmPerPx * seen.share, seen.recipe, progress);
    if (!found || seen.reduced.isEmpty())
        return found;
    Gapless out = found.take();
    out.tracing = enlarged(std::move(out.tracing), given.width, given.height);
    out.recipe = reducedBy(std::move(out.recipe), seen.share);
    // What was given stays to the bit.
    std::copy(recipe.closings.begin(), recipe.closings.end(), out.recipe.closings.begin());
    out.recipe.erasures = recipe.erasures;
    out.recipe.ownParts = recipe.ownParts;
    return out;
}

base::Result<Tracing> traced(const raster::Picture& given, double mmPerPx, const Recipe& recipe,
                             const base::Progress& progress) {
    if (auto can = canBeTraced(given, mmPerPx, recipe); !can)
        return can.error();
    const Seen seen = seenOf(given, recipe);
    if (seen.reduced.isEmpty())
        return tracedAsItIs(given, mmPerPx, recipe, progress);
    auto found = tracedAsItIs(seen.reduced, mmPerPx * seen.share, seen.recipe, progress);
    if (!found)
        return found.error();
    return enlarged(found.take(), given.width, given.height);
}

Recipe turnedTo(Recipe recipe, double degrees, int width, int height) {
    const geometry::Point centre{width / 2.0, height / 2.0};
    const geometry::Transform turn =
        geometry::turnAbout(centre, (degrees - recipe.turnDeg) * std::numbers::pi / 180);
    for (ClosingLine& line : recipe.closings) {
        line.from = turn(line.from);
        line.to = turn(line.to);
    }
    for (OwnPart& part : recipe.ownParts) {
        part.box = geometry::transformed(part.box, turn);
    }
    for (Erasure& e : recipe.erasures) {
        const bool isBox =
            (e.kind == Erasure::Kind::Rectangle || e.kind == Erasure::Kind::Outside) && e.points.size() == 2;
        const geometry::Point size = isBox ? (e.points[1] - e.points[0]) * 0.5 : geometry::Point{};
        if (isBox) { // stays upright: about the same thing, around the same middle
            const geometry::Point middle = turn(geometry::middle(e.points[0], e.points[1]));
            e.points = {middle - size, middle + size};
            continue;
        }
        for (geometry::Point& p : e.points)
            p = turn(p);
    }
    recipe.turnDeg = degrees;
    return recipe;
}

Recipe reducedBy(Recipe recipe, double factor) {
    for (ClosingLine& line : recipe.closings)
        line = {line.from * factor, line.to * factor, line.widthPx * factor};
    for (OwnPart& part : recipe.ownParts)
        part.box = {part.box.least * factor, part.box.most * factor};
    for (Erasure& e : recipe.erasures) {
        e.widthPx *= factor;
        for (geometry::Point& p : e.points)
            p = p * factor;
    }
    return recipe;
}

base::Result<Tracing> colouredBy(Tracing tracing, const raster::Picture& twin) {
    const double scaleX = static_cast<double>(twin.width) / std::max(1, tracing.widthPx),
                 scaleY = static_cast<double>(twin.height) / std::max(1, tracing.heightPx);
    constexpr double kSameForm = 0.02;
    if (twin.isEmpty() || std::abs(scaleX / scaleY - 1) > kSameForm)
        return Error{Code::InvalidArgument,
                     "The coloured copy is " + std::to_string(twin.width) + " x " +
                         std::to_string(twin.height) + " pixels, the drawing " +
                         std::to_string(tracing.widthPx) + " x " + std::to_string(tracing.heightPx) +
                         ": they do not show the same; cut the copy to what the drawing shows."};
    for (Area& area : tracing.areas) {
        const geometry::Polygons rings = geometry::flatten(area.shape, 0.5);
        const geometry::Box box = geometry::bounds(rings);
        std::array<std::vector<std::uint8_t>, 3> seen;
        constexpr int kAcross = 40; // looks across an area, each way
        for (int j = 0; j < kAcross; ++j)
            for (int i = 0; i < kAcross; ++i) {
                const geometry::Point p{box.least.x + box.width() * (i + 0.5) / kAcross,
                                        box.least.y + box.height() * (j + 0.5) / kAcross};
                if (!geometry::contains(rings, p))
                    continue;
                const int x = std::clamp(static_cast<int>(p.x * scaleX), 0, twin.width - 1),
                          y = std::clamp(static_cast<int>(p.y * scaleY), 0, twin.height - 1);
                for (size_t k = 0; k < 3; ++k)
                    seen[k].push_back(twin.row(y)[static_cast<size_t>(x) * 3 + k]);
            }
        for (size_t k = 0; k < 3 && !seen[k].empty(); ++k) {
            const auto middle = seen[k].begin() + static_cast<std::ptrdiff_t>(seen[k].size() / 2);
            std::nth_element(seen[k].begin(), middle, seen[k].end());
            area.colour[k] = *middle;
        }
    }
    return tracing;
}

std::vector<GoneArea> carryNumbers(const Tracing& before, const std::vector<GoneArea>& gone, int& next,
                                   Tracing& after) {
    struct Candidate {
        geometry::Box box;
        geometry::Polygons rings;
        bool isNamed = false;
    };
    std::vector<Candidate> candidates;
    for (const Area& area : after.areas)
        candidates.push_back({geometry::bounds(area.shape), geometry::flatten(area.shape, 0.5), false});
    std::vector<GoneArea> left;
    const auto find = [&](const GoneArea& old) {
        for (size_t i = 0; i < candidates.size(); ++i) {
            Candidate& c = candidates[i];
            if (!c.isNamed && c.box.contains(old.inside) && geometry::contains(c.rings, old.inside)) {
                after.areas[i].number = old.number;
                c.isNamed = true;
                return;
            }
        }
        left.push_back(old);
    };
    for (const Area& old : before.areas)
        find({old.number, old.inside});
    for (const GoneArea& old : gone)
        find(old);
    for (size_t i = 0; i < candidates.size(); ++i)
        if (!candidates[i].isNamed)
            after.areas[i].number = next++;
    return left;
}

std::vector<int> alike(const Tracing& tracing, int number) {
    const auto wanted = std::find_if(tracing.areas.begin(), tracing.areas.end(),
                                     [number](const Area& area) { return area.number == number; });
    if (wanted == tracing.areas.end())
        return {};
    constexpr double kSameColour = 0.03, kPaper = 0.06, kSameMeasure = 0.03;
    const bool isBare = raster::colourDistance(wanted->colour, tracing.paper) < kPaper;
    const double size = geometry::area(wanted->shape), around = geometry::cutLength(wanted->shape);
    const auto isNear = [](double a, double b) { return std::abs(a - b) <= kSameMeasure * std::max(a, b); };
    std::vector<int> out;
    for (const Area& area : tracing.areas)
        if (raster::colourDistance(area.colour, wanted->colour) < kSameColour &&
            (!isBare ||
             (area.shape.openings.size() == wanted->shape.openings.size() &&
              isNear(geometry::area(area.shape), size) && isNear(geometry::cutLength(area.shape), around))))
            out.push_back(area.number);
    return out;
}

} // namespace thinline::trace
