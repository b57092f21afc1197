// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "construct/Blank.h"

#include <algorithm>
#include <numbers>

namespace thinline::construct {

using base::Quantity;
using geometry::Contour;
using geometry::Point;
using geometry::Shape;

Measure size(const char* name, const char* label, double usual, double least, double most, const char* why) {
    return {{name, label, Quantity::Length, usual, least, most, nullptr, base::Follows::Both}, why};
}
Measure margin(const char* name, const char* label, double usual, double least, double most,
               const char* why) {
    return {{name, label, Quantity::Length, usual, least, most}, why};
}
Measure count(const char* name, const char* label, double usual, double least, double most, const char* why) {
    return {{name, label, Quantity::Count, usual, least, most}, why};
}
Measure choice(const char* name, const char* label, const char* words, const char* why) {
    return {{name, label, Quantity::Choice, 0, 0, 0, words}, why};
}

std::string mm(double lengthMm) {
    return base::formatNumber(std::max(0.0, lengthMm), 1) + " mm";
}

Contour rectangleAt(Point corner, double widthMm, double heightMm) {
    return geometry::contourThrough({corner,
                                     {corner.x + widthMm, corner.y},
                                     {corner.x + widthMm, corner.y + heightMm},
                                     {corner.x, corner.y + heightMm}});
}
Shape rectangle(double widthMm, double heightMm) {
    return {rectangleAt({}, widthMm, heightMm), {}};
}
Shape disc(double diameterMm) {
    const double r = diameterMm / 2;
    return {geometry::ellipse({r, r}, r, r), {}};
}
void pierce(Shape& shape, const Contour& hole) {
    shape.openings.push_back(geometry::signedArea(hole) > 0 ? geometry::reversed(hole) : hole);
}
Shape through(const geometry::Polygon& points) {
    const Contour outline = geometry::contourThrough(points);
    return {geometry::signedArea(outline) < 0 ? geometry::reversed(outline) : outline, {}};
}

void fold(design::Body& body, Point from, Point to, double angleDeg, bool isTowards) {
    body.lines.push_back(
        {{},
         {from, {geometry::Segment::line(to)}},
         design::Fold{isTowards ? design::Side::Back : design::Side::Front, isTowards, angleDeg},
         true,
         true});
}
void slit(design::Body& body, Point from, Point to) {
    body.lines.push_back({{}, {from, {geometry::Segment::line(to)}}, design::Slit{}, false, false});
}
void glue(design::Body& body, const geometry::Polygon& area, design::Side side) {
    design::Zone zone;
    zone.area = through(area);
    zone.side = side;
    body.zones.push_back(std::move(zone));
}
void name(design::Body& body, Point inside, const std::string& name, bool isFront) {
    body.panels.push_back({inside, {}, name, isFront});
}

double wrapped(double diameterMm, double t) {
    return std::numbers::pi * (diameterMm + t);
}

void meet(design::FoldedForm& form, const std::string& name,
          const std::function<design::Spot(double, double)>& onLap,
          const std::function<design::Spot(double, double)>& onWall) {
    for (const auto& [along, away] : {std::pair{0.2, 0.2}, {0.8, 0.2}, {0.5, 0.8}})
        form.meetings.push_back({name, onLap(along, away), onWall(along, away)});
}

} // namespace thinline::construct
