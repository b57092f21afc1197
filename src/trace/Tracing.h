// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Lines.h"
#include "geometry/Shape.h"
#include "raster/Picture.h"
#include "trace/Recipe.h"

#include <optional>
#include <vector>

/// A picture becomes areas.
namespace thinline::trace {

/// One area of the picture, in pixels.
struct Area {
    int number = 0; ///< 1, 2, ... in reading order, unless carried over from an earlier tracing
    geometry::Shape shape;
    geometry::Point inside; ///< a point of the area, for finding it again
    raster::Rgb colour{255, 255, 255};
    int level = 0; ///< where it lies in the stack proposed for the picture, 0 at the bottom
};

/// A passage through which an area may leak.
struct Leak {
    geometry::Point place; ///< px
    double widthPx = 0;
    bool toOutside = false; ///< the area runs out to the paper around the drawing; else into its neighbour
    geometry::Point inside; ///< px; the middle of the smaller side
    std::optional<ClosingLine> closure; ///< where ink ends face the gap: a line that goes on from them
};

/// Lines of a drawing that are drawn as folds are, and were left as they are drawn: whoever knows is asked.
struct FoldHint {
    int dashed = 0;       ///< straight rows of dashes
    int thin = 0;         ///< straight lines thinner than the others
    double thinnerMm = 0; ///< than this

    bool operator==(const FoldHint&) const = default;
};

/// A colour that shows in a picture and became no area.
struct LostColour {
    raster::Rgb colour{};
    double areaPx = 0;    ///< in all
    geometry::Point place; ///< px; somewhere in it
    bool isSmall = false; ///< every part of it is below the least area; else it is too thin to be told from mixtures

    bool operator==(const LostColour&) const = default;
};

/// A part of the picture in which all colours are darker by one factor, as beyond the edge of a shadow.
struct SeenShadow {
    double light = 1;      ///< what is left of it there
    double areaPx = 0;
    geometry::Point place; ///< px; deep in it
    int colours = 0;       ///< how many are seen in both lights
    bool isTakenOut = false; ///< the areas are as without it

    bool operator==(const SeenShadow&) const = default;
};

/// What was found, in pixels of the picture. Multiply by mm per pixel to get millimetres.
struct Tracing {
    int widthPx = 0;
    int heightPx = 0;
    int threshold = 0;                ///< the one used
    int droppedAreas = 0;             ///< areas below the least size, now part of the ink
    int bridges = 0;                  ///< loose parts of a photo's layers joined to the rest
    int droppedSpecks = 0;            ///< loose bits of ink below the least size
    raster::Rgb paper{255, 255, 255}; ///< the colour around the drawing
    std::vector<raster::Rgb> palette; ///< the colours found in flat art, most used first; a photo's tones
    bool isInEvenLight = false;       ///< of flat art: its colours are as in even light, which the picture is not
    std::vector<LostColour> lost;     ///< of flat art: a square millimetre and more of each
    std::optional<SeenShadow> shadow; ///< not of photos
    std::vector<geometry::Shape>
        backing;                       ///< the filled silhouette, largest first; none for flat art and photos
    std::vector<geometry::Shape> ink;  ///< the ink with its openings, largest first; of line drawings
    std::vector<Area> areas;           ///< in reading order
    std::vector<geometry::Line> folds; ///< of a line drawing; each lies in one area, from edge to edge where
                                       ///< it nearly reached that far
    FoldHint mayFold;                  ///< of a line drawing
    std::vector<Leak> leaks;           ///< narrowest first
};

/// Pixels a picture is traced with at most; a larger one is reduced by averaging first. On the largest sheets of card
/// that is still finer than a knife follows, and it keeps tracing 100 megapixels below a gigabyte.
inline constexpr std::int64_t kMostLookedAt = 25'000'000;

/// Says that a picture of so many pixels is reduced for tracing, and to what; empty when it is not.
std::string whatIsLookedAt(std::int64_t pixels, double mmPerPx);

/// Says that a picture has too few pixels for its size; empty when it has enough.
std::string fewPixels(int widthPx, double mmPerPx);

/// Says what of a shadow was done or is to be said.
std::string shadowText(const SeenShadow& shadow, double mmPerPx);

/// Returns what a recipe finds in a picture, whichever way it goes.
/// Shape:  a picture above kMostLookedAt is looked at reduced; whatever is given and found is in its own pixels.
/// Units:  px in, px out; `mmPerPx` (> 0) turns the recipe's millimetres into pixels.
/// Errors: InvalidArgument for an empty picture, a recipe out of range or mmPerPx not above zero; those of
///         the three ways.
base::Result<Tracing> traced(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                             const base::Progress& progress = {});

/// A drawing without gaps: the lines that close them are in its recipe.
struct Gapless {
    Recipe recipe;
    Tracing tracing;
};
/// Returns what is found in a line drawing with a line of ink over every gap between ends of lines, up to the recipe's widest;
/// those behind a gap that was closed too.
/// Shape:  as `traced` has it for the recipe that is returned.
/// Errors: as traced.
/// Cost:   one to four looks for leaks; outlines are drawn once.
base::Result<Gapless> tracedGapless(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                                    const base::Progress& progress = {});

/// Returns a recipe for a picture of some size turned by other degrees than before: what was marked in it
/// turns along.
Recipe turnedTo(Recipe recipe, double degrees, int width, int height);

/// Returns a recipe for a reduced copy of the picture: what is marked in pixels shrinks along.
Recipe reducedBy(Recipe recipe, double factor);

/// Returns the tracing with every area in the colour a coloured copy of the picture shows there.
/// Shape:  the copy may have any resolution, but shows what the picture shows, edge to edge; an area takes
///         the middle of what lies in it, channel by channel.
/// Errors: InvalidArgument for a copy of another form.
/// Cost:   1600 looks an area.
base::Result<Tracing> colouredBy(Tracing tracing, const raster::Picture& twin);

/// An area that was there once: when it comes back, it finds its number.
struct GoneArea {
    int number = 0;
    geometry::Point inside; ///< px
    bool operator==(const GoneArea&) const = default;
};

/// Gives the areas of a new tracing the numbers of the areas they came from, so that what was decided about them
/// stays. Returns the areas that are gone now, those known before included.
/// Shape:  every number stays unique and is never given to another area; an area split in two leaves it with the
///         part that holds the old inside point; new ones count on from `next`, which rises.
/// Cost:   O(areas x nodes), boxes checked first.
std::vector<GoneArea> carryNumbers(const Tracing& before, const std::vector<GoneArea>& gone, int& next,
                                   Tracing& after);

/// Returns the numbers of the areas that are like one of them, itself included: of the same colour where the picture is
/// painted; on bare paper those of its shape, turned or mirrored.
/// Cost:   O(areas), measures of the outlines included.
std::vector<int> alike(const Tracing& tracing, int area);

} // namespace thinline::trace
