// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "assembly/Contacts.h"
#include "base/Length.h"

#include <array>
#include <map>
#include <optional>
#include <string>

/// How a work is put together, step by step.
namespace thinline::assembly {

enum class Act {
    LayOut,    ///< everything beside one another, before any glue
    Join,      ///< parts of a divided piece
    Fold,      ///< along its lines, and open again
    TurnOver,  ///< the work, so that the other side looks up
    Glue,      ///< flat onto what is there
    Foam,      ///< on spots of foam
    PutIn,     ///< a ribbon, a stick, something of the maker's own
    String,    ///< several pieces onto one ribbon
    TryDry,    ///< before the glue
    GlueFlaps, ///< folded up
    Wait,      ///< until the glue is dry
    Place      ///< beside one another, as the picture shows
};

/// A piece, or what was made before, where a step puts it.
struct Placed {
    design::PieceId piece;                ///< of an assembly its base
    std::optional<std::size_t> made = {}; ///< the assembly it is, among those made before
    geometry::Point at =
        {}; ///< of its middle (that of its smallest circle), from the middle of what it is put onto, mm
    double aboveMm = 0; ///< from that one's under side to its own
    bool isBehind = false;
};

struct Spot {
    geometry::Point middle; ///< mm in the design
    double acrossMm = 0, heightMm = 0;
};

struct Step {
    Act act = Act::Glue;
    design::Side up = design::Side::Front; ///< which side of the assembly the maker looks at
    std::vector<Placed> pieces = {}; ///< what is new here; of Fold, Join and GlueFlaps what is worked on
    std::vector<geometry::Shape> glue = {}; ///< where it is wet, mm in the design
    std::vector<Spot> foam = {};
    std::vector<Seam> seams = {}; ///< of Join
    double liftMm = 0;            ///< of Foam
    int away = 0, towards = 0;    ///< of Fold: lines by direction
    std::string takes = {};       ///< of PutIn and String: what goes in
    double lengthMm = 0;          ///< of it, with room to tie
    std::string key = {};         ///< stays while the step is about the same pieces
    std::string text = {};        ///< for people
};

/// Something that is made by itself.
struct Assembly {
    std::vector<design::PieceId>
        base; ///< what all else is put onto: a piece, the parts of a divided one; none of things
              ///< that only lie side by side
    std::string name;
    int copies = 1;
    std::vector<Step> steps = {};
};

/// Something the maker brings herself.
struct OwnItem {
    std::string text;        ///< "a stick, 40 cm"
    design::PieceId at = {}; ///< put into what is made on this piece; nothing: only needed
    bool operator==(const OwnItem&) const = default;
};

/// How pieces bear their numbers.
enum class Numbers { None, Scored, Drawn };
inline constexpr std::array<const char*, 3> kNumbersWords{"none", "scored", "drawn"};

/// What somebody decided about the instructions.
struct Wishes {
    Numbers numbers = Numbers::None; ///< on pieces, where what lies on them covers it
    std::vector<OwnItem> items = {};
    std::map<std::string, std::string> texts = {}; ///< own words, by the key of their step

    bool operator==(const Wishes&) const = default;
};
inline constexpr std::size_t kMostWords = 1000; ///< letters of a text or an item
inline constexpr std::size_t kMostItems = 100;

struct Instructions {
    std::vector<Assembly> assemblies;       ///< each after those it is made of; the last one is the work
    std::vector<design::PieceId> numbered;  ///< the pieces by their numbers, from 1; copies share one
    std::map<double, int> foamSpots;        ///< how many by height, mm, with copies
    std::map<std::string, double> lengthMm; ///< of ribbons and sticks, with copies
    int strayTexts = 0;                     ///< own words for steps that are not there

    int numberOf(design::PieceId piece) const; ///< 0 for one that is not there. Cost: O(log n).
    /// For numberOf; by content.
    std::map<design::PieceId, int> numbers;
};

/// Glue keeps so far from edges, that it does not well out; from memory.
inline constexpr double kGlueToEdgeMm = 2;
/// Ends of a ribbon left to tie, each; from memory.
inline constexpr double kRibbonEndMm = 150;
inline constexpr std::size_t kMostInStep = 12; ///< pieces glued in one step: more are not found in a picture

/// Returns how a work is put together.
/// Shape:  every piece exactly once; what is closed off later comes before. Copies are made alike, so a step is told once.
/// Errors: those of the set operations; Cancelled.
/// Cost:   that of contactsOf, and one set operation for each piece that is glued.
base::Result<Instructions> instructionsOf(const Work& work, const Wishes& wishes, base::LengthUnit unit,
                                          const base::Progress& progress = {});

/// Returns the pieces by their numbers alone. Cost: that of contactsOf.
base::Result<std::map<design::PieceId, int>> numbersOf(const Work& work, const Wishes& wishes,
                                                       const base::Progress& progress = {});

/// Returns "A", "B", ... "Z", "AA" for the assembly at a place.
std::string letterOf(std::size_t assembly);

/// What following the steps came to.
struct Replayed {
    design::PieceId piece;
    geometry::Point at = {}; ///< of its middle from that of the first piece, mm
    double bottomMm = 0;     ///< from the first piece's under side
};
/// Follows the steps from their data alone, as a maker would.
/// Errors: Degenerate, with the step, for a piece that is used twice or before it is made, or a face that is closed off.
base::Result<std::vector<Replayed>> replay(const Instructions& instructions, const Work& work);

} // namespace thinline::assembly
