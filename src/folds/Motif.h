// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"

#include <array>
#include <string>
#include <vector>

/// A motif in a window: as large as it can be, held by the frame.
namespace thinline::folds {

/// What is kept free of motifs at folds and edges, mm: card bends there. From memory.
inline constexpr double kMotifClearMm = 2;

struct MotifWish {
    double overlapMm = 2; ///< how far it may run on beyond the window's edge
    double contactMm = 3; ///< how wide it holds at least where it holds
    int sides = 2;        ///< on how many sides of the window, 1 to 4
    double fillMm = 0;    ///< gaps between motif and frame narrower than this are filled; 0: none
};

/// A stretch of the window's edge that the motif covers.
struct Contact {
    geometry::Point middle;
    double widthMm = 0;
    std::array<double, 4> bySideMm{}; ///< of it: top, right, bottom, left of the window as it is read
    geometry::Line stretch;           ///< of the window's edge
};

/// Returns the sides a contact holds on: those it covers as wide as asked, and the one it covers most.
std::vector<int> sidesOf(const Contact& contact, double leastMm);
inline constexpr std::array<const char*, 4> kSideWords{"top", "right", "bottom", "left"};
/// Returns a contact in words: "7.5 mm top right".
std::string contactText(const Contact& contact, double leastMm);

struct MotifFit {
    geometry::Transform placed; ///< from where the motif lies now
    double scale = 1;
    std::vector<Contact> holds; ///< wide enough
    std::vector<Contact> weak;  ///< and those that are not
    std::string whyNot;         ///< "would hold on 1 side, 2 are asked. ..."; empty where it holds as asked
    geometry::Shape whole;      ///< frame and motif, one piece; only where it holds
    double filledMm2 = 0;       ///< of gaps

    int sides = 0; ///< on how many it holds
};

/// Returns how a motif fits into the window of a body at a place.
/// Shape:  turned as the panel there is read; the largest scale at which it stays within the window grown by the
///         overlap and kMotifClearMm off folds, edges and other windows; where that leaves it a choice, it holds on the
///         most sides, and then along the most edge. Of two that are as good the one nearer the middle.
/// Units:  mm; the scale within a thousandth, the place within a fiftieth.
/// Errors: InvalidArgument when there is no window or no room, or a wish is out of range; those of the set operations;
///         Cancelled. A motif that would not hold as asked is no error: it is returned with the reason.
/// Cost:   some 5 million looks into a table of distances, fewer where they are cut short, and a weld.
base::Result<MotifFit> fitMotif(const design::Body& body, geometry::Point window,
                                const geometry::Shape& motif, const MotifWish& wish = {},
                                const base::Progress& progress = {});

} // namespace thinline::folds
