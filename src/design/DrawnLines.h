// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Drawing.h"

/// The strokes of a page, sorted by kind and laid on its pieces. Drawing.cpp puts both together.
namespace thinline::design {

/// One stroke of a kind.
struct Stroke {
    geometry::Line path; ///< mm on the page; closed ones end where they begin
    size_t item = 0;     ///< the first it comes from
    double runOnMm =
        0; ///< as far from the edge its ends may lie: what is left free between short cuts in a row
    bool isRow() const { return runOnMm > 0; }
};

/// Returns strokes with every row of short cuts as the one line it stands for, and counts the cuts that were in rows.
/// Cost: O(n log n).
std::vector<Stroke> rowsJoined(const std::vector<Stroke>& strokes, int& cutsInRows);

/// Whether outlines that came of loose lines are probably not those that were drawn: one comes twice through a place; two share
/// corners, but no step between them; or one hangs in another one, or in what was drawn closed, by two corners or more: cut out,
/// the piece would fall apart. At a corner of the net of a box three lines meet or four, and which two of them go on in one
/// another cannot be seen there.
/// Cost: quadratic in the steps of outlines whose boxes meet, up to 5e7 looks; beyond, nothing more is told.
bool areMixedUp(const std::vector<geometry::Contour>& outlines,
                const std::vector<geometry::Contour>& closed = {});

struct Strokes {
    LineKind kind;
    std::vector<Stroke> all;
    bool isAsked = false; ///< left out until somebody says what it is
    bool areRows = false; ///< most of them, or all, are rows of short cuts
};

/// Returns the strokes of a page that bound no filled area, by kind, with a proposal by their names and dashes.
/// Shape:  loose lines that come round are with the closed strokes of their kind. Short cuts in a row are one stroke.
/// Errors: LimitExceeded above 200,000 strokes; those of joining ends.
/// Cost:   O(n log n) in strokes.
base::Result<std::vector<Strokes>> strokesOf(const DrawnPage& page, const TakeOptions& options,
                                             const base::Progress& progress);

/// Makes closed strokes that are outlines openings of those of their kind they lie in, by turning them round and moving
/// them to the item around them.
/// Shape: an outline counts as within another when 64 places along it are.
void nestOutlines(const std::vector<Strokes>& strokes, std::vector<DrawnItem>& items);

/// Proposes what open strokes are that neither name nor dashes tell, now that there are pieces.
void judge(Strokes& strokes, const std::vector<DrawnPiece>& pieces, const TakeOptions& options);

/// Parts pieces by the strokes that part them, then lays all others on the pieces; `page.said` tells.
/// Errors: LimitExceeded when strokes times pieces are above 2e9; Cancelled.
base::Status layStrokes(const std::vector<Strokes>& strokes, const std::vector<DrawnItem>& items,
                        TakenPage& page, const base::Progress& progress);

} // namespace thinline::design
