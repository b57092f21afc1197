// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "construct/Construction.h"
#include "geometry/Arcs.h"

#include <functional>
#include <initializer_list>
#include <string>
#include <vector>

/// What constructions are drawn with. All lengths in mm, y down; the front of every blank is the face that shows.
namespace thinline::construct {

// ---- measures, as they are declared

/// What goes in: grows with the design.
Measure size(const char* name, const char* label, double usual, double least, double most, const char* why);
/// A lap, a clearance, a slit: stays as typed.
Measure margin(const char* name, const char* label, double usual, double least, double most, const char* why);
Measure count(const char* name, const char* label, double usual, double least, double most, const char* why);
/// One of some words, "round|pointed".
Measure choice(const char* name, const char* label, const char* words, const char* why);

/// A length in a sentence, "12.0 mm"; what is below zero is nothing.
std::string mm(double lengthMm);

// ---- outlines

geometry::Shape rectangle(double widthMm, double heightMm);
/// The disc whose box begins at the origin.
geometry::Shape disc(double diameterMm);
/// Takes a hole, given clockwise, out of a shape.
void pierce(geometry::Shape& shape, const geometry::Contour& hole);
geometry::Contour rectangleAt(geometry::Point corner, double widthMm, double heightMm);
/// A closed outline of straight steps, turned the right way round.
geometry::Shape through(const geometry::Polygon& points);

// ---- what belongs to a blank

/// A fold away from the viewer, scored on the front, unless it is said otherwise.
void fold(design::Body& body, geometry::Point from, geometry::Point to, double angleDeg = 90,
          bool isTowards = false);
void slit(design::Body& body, geometry::Point from, geometry::Point to);
/// Where glue goes.
void glue(design::Body& body, const geometry::Polygon& area, design::Side side);
void name(design::Body& body, geometry::Point inside, const std::string& name, bool isFront = false);

// ---- thickness

/// How far apart two folds are that leave a room of `insideMm` between two walls of a card.
inline double between(double insideMm, double t) {
    return insideMm + t;
}
/// How long a strip is that wraps something of this diameter once: it turns about its own middle.
double wrapped(double diameterMm, double t);
/// What a box measures outside.
inline double outside(double insideMm, double t) {
    return insideMm + 2 * t;
}

// ---- the folded form

/// Three places of a lap that meet three of a wall: points of the lap by how far they lie from its fold (0 to 1 of its
/// depth) and along it (0 to 1). `onLap` and `onWall` give the same place on both.
void meet(design::FoldedForm& form, const std::string& name,
          const std::function<design::Spot(double along, double away)>& onLap,
          const std::function<design::Spot(double along, double away)>& onWall);

} // namespace thinline::construct
