// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Load.h"
#include "design/Remembered.h"
#include "design/Step.h"
#include "geometry/Necks.h"
#include "job/Making.h"

#include <optional>
#include <string>
#include <vector>

/// What would spoil card, said before it is cut.
namespace thinline::inspect {

enum class Severity { SpoilsCard, RisksCard, Note };

enum class Kind {
    LargerThanEveryMat,
    LargerThanSheet,
    TooSmall,
    NarrowNeck,
    Leak,
    OverlapsOnSheet,
    SeamThroughNeck,   ///< a piece is divided where it is narrow
    SeamsOnOneAnother, ///< seams of two layers run alike and lie close
    PartTooSmall,      ///< a part of a divided piece that no hand holds
    UnlikeOnMat,       ///< stocks on one mat that no one setting cuts
    MachineCannot,     ///< a tool, a force or a length the machine has not
    StepPassedOver,
    ScaledAlone,
    DoesNotFit,
    ExactlyTheSheet,
    LinesNotSaid,    ///< lines of a drawing of which nobody can tell what they are
    FoldEndsShort,   ///< a fold stops on the card
    FoldsTooClose,   ///< no room to bend between two folds
    FoldInBoard,     ///< a fold in a stock that breaks
    ScoredFromBelow, ///< a fold is to be scored on the face that lies below
    DrawnOnBack,     ///< a line for the front of a piece that lies flipped on its mat
    NotchMissesFold, ///< a notch ends a little before the fold it was made for
    PaneBarelyHolds, ///< the ring a pane is glued by is narrow, or open
    SlitTooNarrow,   ///< narrower than what goes through it
    WayClosed,       ///< glued over before what goes through it is in
    NoFoamRoom,      ///< a lifted piece or an arm of it too narrow for foam
    FoldAcrossNeck,  ///< a fold so short that its panel tears off
    MarkShows,       ///< a placement mark that nothing covers
    MarkOnBack,      ///< marks asked for on a piece that shows its back
    RunsOverFold,    ///< words, figures or pieces across a fold
    NearFold,        ///< the same, hardly beside one
    HeldOnce,        ///< a motif held on one side of its window
    SmallChildren,   ///< a ribbon or a stick: loops and points
    MayNotBeGiven,   ///< a source that is not free for what the work is made for
    NotPrinted,      ///< something is printed on a piece whose sheets are not, or cannot be
    NoBleed,         ///< print that ends at the cut, or a little before
    CoarsePicture,   ///< too few pixels at finished size
    StretchedPicture,
    TextNearCut,
    MirroredText, ///< read from behind through a clear piece
    NoMarkReader, ///< the machine does not find printed marks
    LightInside,  ///< panes in folded paper: somebody may put a light in
    LineCutShort, ///< a fold or score that had reached an edge does not any more, or was left out for being short
    TwoHeights,      ///< a piece rests on one height and hangs over a lower one
    LargerThanFrame, ///< the work goes not into the frame it was made for
    ClusterApart,    ///< a piece cannot lie with its cluster
    GoodSideHidden,  ///< a piece turned over shows the poorer side of its stock
    FrameLeftOut,    ///< a cluster's frame cannot be cut in its stock
    ClusterOverlaps, ///< two pieces of a cluster lie on one another
    OtherCard,       ///< a construction lies on another card than it was made for
    JointOpen,       ///< a joint of a construction that does not meet once it is folded
    PanelsClash,     ///< folded panels that pass through one another
    PrintInside,     ///< a print that faces another panel once all is folded
    FlapUnsaid,      ///< a glued flap that several edges could take
    ReadUpsideDown,  ///< a text that stands on its head once its panel is folded
    Vanished,
    StrayWish ///< something was said about a piece that is not there any more
};

/// One place or piece where something was noticed.
struct Case {
    std::string message;                   ///< what is wrong here, in one short sentence
    design::PieceId piece;                 ///< none when it concerns none
    geometry::Box place;                   ///< in the design, mm; empty when it has none
    std::optional<design::Step> mend = {}; ///< a step that mends it
    bool operator==(const Case&) const = default;
};

/// Everything of one kind that was noticed, with a remedy.
struct Finding {
    Severity severity = Severity::Note;
    Kind kind = Kind::TooSmall;
    std::string message;     ///< of its only case, or how many there are and what the worst is
    std::string remedy;      ///< what to do about it
    std::string mendWords;   ///< what its steps do, for a button; empty where none mends it
    std::vector<Case> cases; ///< the worst first where there is a worst; never empty

    bool operator==(const Finding&) const = default;
};

/// The limits. Every default can be changed per job later.
struct Limits {
    double leastAcrossMm = 3.0; ///< smallest free-standing piece worth cutting in card (from memory)
    double leastNeckMm = 1.0;   ///< thinnest strip that survives weeding in card (from memory)
};

struct FoldedWork; ///< how a work from measures closes, see InspectConstructions.cpp

/// What was found out about bodies, so that only those that changed are searched. Safe from any thread.
struct Memory {
    struct Necks {
        double limitMm = 0;
        std::vector<geometry::Neck> below; ///< narrower than the limit
    };
    design::Remembered<Necks> necks;
    design::RowMemory rows;
    design::Remembered<std::optional<geometry::Neck>> narrowest;
    design::Remembered<FoldedWork> folded; ///< by the first body of the work
};

/// Returns the findings, what spoils card first, one for every kind.
/// Shape:  hidden layers are not looked at; pieces too small are not also told their necks. A stage that was not
///         made is not looked at.
/// Units:  mm of the finished design.
/// Errors: Cancelled. An outline the polygon engine refuses gets no neck finding.
/// Cost:   one neck search for every body not searched before (see geometry/Necks.h); the rest is O(pieces).
base::Result<std::vector<Finding>> inspect(const job::State& state, const design::Formats& formats,
                                           Memory& memory, const Limits& limits = {},
                                           const base::Progress& progress = {});

/// Returns "spoils card", "risks card" or "note".
std::string severityName(Severity severity);

/// What a size brings with it.
struct Consequences {
    int pieces = 0, copies = 0;
    int sheets = 0; ///< needed by the plan; 0 when it cannot be laid
    int unplaced = 0;
    std::optional<double> narrowestMm; ///< of all pieces; unset when none is narrow
    design::PieceId narrowest;
    int smallOpenings = 0; ///< narrower than kLeastOpeningMm
};
inline constexpr double kLeastOpeningMm = 1.5; ///< below it card tears when it is weeded (from memory)
/// Cost: one neck search for every body not searched before; an arrangement where none was made.
base::Result<Consequences> consequencesOf(const job::State& state, Memory& memory,
                                          const base::Progress& progress = {});

} // namespace thinline::inspect
