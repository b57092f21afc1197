// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/StepKind.h"
#include "folds/Motif.h"

#include <string>
#include <vector>

/// What is done at the Folds station: lines are laid on pieces, changed and taken off. Outlines stay as they are, but for a
/// flap that is shortened.
namespace thinline::folds {

using design::PieceId;
using design::Pieces;
using design::Step;

enum class Action {
    Line,        ///< between two points of one piece
    AlongEdge,   ///< parallel to a straight edge, at a distance
    AlongSides,  ///< across the box of each piece, along its sides at a distance
    Change,      ///< what lines do: their face, direction, angle; a value that is not said stays
    Move,        ///< by a distance across and down
    Repeat,      ///< copies at equal distances
    MirrorTwin,  ///< a mirrored copy about the middle of its piece
    SetLength,   ///< an exact length
    RunOn,       ///< ends that stop on the card, to the edge
    TakeOff,     ///< folds and all other lines
    SayPanel,    ///< that it is the front, which way it is read, its name; what is not said stays
    Glue,        ///< a flap
    Unglue,      ///< it is no glue flap any more
    ShortenFlap, ///< so that its piece fits a sheet
    Panes,       ///< behind chosen windows, as pieces of their own
    Lining,      ///< of a panel, as a piece of its own
    FitMotif,    ///< other pieces into windows, welded with their frame; each window is followed by its motif
    Way,         ///< for a ribbon or a stick, between two points of one piece
    KeepFree,    ///< of foam and glue, about a stretch between two points
    Write,       ///< a text in single lines, between two points of one piece
    DrawOn,      ///< other pieces, such as the letters of a word, as lines on the first one
    LikeTwins    ///< lines of one piece on others of the same form, which follow the lines
};

struct ActionInfo : design::StepKind {
    Action action;
    bool isDrawing =
        false; ///< it takes pieces and makes lines; the others take lines, or pieces for all lines on them
};
/// Every action, in the order in which it is offered.
const std::vector<ActionInfo>& actionInfos();
const ActionInfo& infoOf(Action action);
/// Returns what a step does, or null when its action is none of this station's.
const ActionInfo* infoOf(const Step& step);

/// What a line is drawn as. The first of them is the one folds are; see `design::kLineUseWords`.
struct DrawnLine {
    design::LineUse does = design::Fold{};
    bool runsToEdge =
        true; ///< ends that are on the card and at no other line are run on straight to the edge
};

/// Returns the step that lays a line on a piece.
/// Units: the line in mm of the design; it is kept in the own units of the piece's source, so that it moves and grows
///        with what it lies on.
Step lineStep(const design::Piece& piece, const geometry::Line& way, const DrawnLine& as = {});
/// Returns the step that lays a line along the straight edge at a point of the design, at a distance in mm.
Step alongEdgeStep(const design::Piece& piece, geometry::Point at, double distanceMm,
                   const DrawnLine& as = {});
/// Returns the step that makes a way, or keeps a place free, between two places of the design.
Step wayStep(Action action, const design::Piece& piece, geometry::Point from, geometry::Point to,
             const std::vector<double>& values = {});
/// Returns the step that writes a text in single lines along a base line that begins at a place and runs towards another.
Step writeStep(const design::Piece& piece, geometry::Point from, geometry::Point to, const std::string& words,
               const std::vector<double>& values = {});
/// Returns the step that says something of the panel at a point of the design, or of the flap there.
Step panelStep(Action action, const design::Piece& piece, geometry::Point at);
/// Returns the step that glues the flap at a point of the design, and says behind which edge where several could take it: the one
/// nearest to a place.
Step glueStep(const design::Piece& piece, geometry::Point at, const std::optional<geometry::Point>& behind = {});
/// Returns a step with values in the order of the action's parameters; what is missing takes its usual value.
Step makeStep(Action action, std::vector<design::Chosen> on, const std::vector<double>& values = {});

/// A window and the piece that goes into it.
struct MotifPair {
    design::OpeningOf window;
    PieceId motif;
};
/// Returns the step that fits motifs into windows, and what such a step asks for.
Step motifStep(const std::vector<MotifPair>& pairs, const MotifWish& wish = {});
std::vector<MotifPair> motifPairsOf(const Step& step);
MotifWish motifWishOf(const Step& step);
/// Returns how each motif of a step would fit, by itself, without doing it; those whose window or piece is not there any
/// more are left out.
/// Errors: those of fitMotif. Cost: that of fitMotif for each.
struct SeenMotif {
    const design::Piece* motif = nullptr; ///< of the pieces given
    MotifFit fit;
};
base::Result<std::vector<SeenMotif>> motifsSeen(const Pieces& pieces, const Step& step,
                                                const base::Progress& progress = {});
/// Returns why a motif is refused, as a sentence; empty where it is not.
std::string whyRefused(const SeenMotif& seen);

/// Returns what a step lays lines as, or makes of them.
DrawnLine drawnAs(const Step& step);

/// Returns a step in words, without what is usual: "Fold between two points", "Score 12 mm from an edge".
std::string stepText(const Step& step);

/// Returns who a pane is that a step makes for the n-th of its windows, counted from 0.
PieceId paneOf(const Step& step, size_t window);
/// Returns who the first part of a panel's lining is.
PieceId liningOf(const Step& step);

/// Returns the step that lays lines of one piece onto all pieces of its form among some.
/// Errors: InvalidArgument without lines, for lines of several pieces, and where no other piece has its form.
base::Result<Step> twinsStep(const std::vector<design::LineOf>& lines,
                             const std::vector<design::Piece>& among);

/// Returns the pieces after a step.
/// Shape:  pieces keep who they are, and their outlines to the bit. New lines are clipped to the card; what they fall
///         into are parts of one line. Of two lines of one kind that coincide one stays. Lines that are moved off the
///         card are dropped and counted.
/// Errors: InvalidArgument when the piece or its lines are not there any more, a line would lie off the card, the edge
///         is curved, or a count is out of range; Cancelled.
/// Cost:   O(lines + nodes) of the pieces it is done to.
base::Result<design::Outcome> apply(const Pieces& pieces, const Step& step,
                                    const base::Progress& progress = {});

} // namespace thinline::folds
