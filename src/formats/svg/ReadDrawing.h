// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Lines.h"

#include <string>
#include <string_view>
#include <vector>

/// Reads back what the program writes. Shares no code with the writer. A reader for files of any origin is
/// not here yet: whatever this one does not know it refuses, it never guesses.
namespace thinline::formats::svg {

struct ReadPath {
    std::string id;
    geometry::Shape shape; ///< the contour with the largest area is the outline, the others are openings
    std::vector<geometry::Line> lines = {}; ///< subpaths that are left open
};

struct ReadGroup {
    std::string id;
    std::vector<ReadPath> paths;
};

struct ReadDrawing {
    double widthMm = 0;
    double heightMm = 0;
    std::vector<ReadGroup> groups;
};

/// Returns the shape of one path.
/// Accepts:M, L, H, V, C and Z, absolute and relative, with SVG's number grammar; every subpath must be
///         closed.
/// Errors: ParseError naming the character; LimitExceeded beyond a million segments.
/// Cost:   O(length).
base::Result<geometry::Shape> readPath(std::string_view pathData);

/// Returns the line of one path, which is one subpath left open.
/// Errors: as readPath; ParseError when it is closed or several.
base::Result<geometry::Line> readLine(std::string_view pathData);

/// Returns groups and paths of a drawing whose size is stated in mm and whose viewBox counts in mm.
/// Errors: ParseError (not XML, no svg, no size in mm, scale other than 1:1, a transform, an unknown path
/// command).
base::Result<ReadDrawing> readDrawing(std::string_view svgText);

} // namespace thinline::formats::svg
