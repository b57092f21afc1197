// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Steps.h"

#include <algorithm>
#include <cmath>

namespace thinline::shape {

const std::vector<ActionInfo>& actionInfos() {
    using base::Quantity, base::Follows;
    static const std::vector<ActionInfo> infos{
        {{"join", "Join into one", 2}, Action::Join},
        {{"bridge",
          "Hold loose parts by bridges",
          2,
          {{"width", "Width of a bridge", Quantity::Length, 2, 0.5, 50},
           {"count", "For each loose part", Quantity::Count, 2, 1, 8},
           {"where", "Where", Quantity::Choice, 0, 0, 0, "at narrow gaps|above and below|left and right"}}},
         Action::Bridge},
        {{"cut-out", "Cut the others out of the first", 2}, Action::CutOut},
        {{"keep-overlap", "Keep the overlap", 2}, Action::KeepOverlap},
        {{"keep-every-part", "Cut the first by the others, keep every part", 2}, Action::KeepEveryPart},
        {{"divide", "Divide into faces", 2}, Action::Divide},
        {{"offset",
          "Grow or shrink",
          1,
          {{"amount", "Distance, − inwards", Quantity::Length, 3, -100, 100},
           {"count", "How many, at equal steps", Quantity::Count, 1, 1, 1000},
           {"join", "Corners", Quantity::Choice, 0, 0, 0, "round|pointed|square"}}},
         Action::Offset},
        {{"fill-openings",
          "Fill small openings",
          1,
          {{"amount", "Fill openings below", Quantity::Area, 5, 0, 10'000, nullptr, Follows::Area}}},
         Action::FillOpenings},
        {{"mirror-twin",
          "Add a mirrored twin",
          1,
          {{"amount", "Gap between the twins", Quantity::Length, 5, 0, 1000, nullptr, Follows::Width}}},
         Action::MirrorTwin},
        {{"mirror",
          "Mirror in place",
          1,
          {{"swaps", "Swaps", Quantity::Choice, 0, 0, 0, "left and right|top and bottom"}}},
         Action::Mirror},
        {{"smooth",
          "Smooth the outline",
          1,
          {{"amount", "Smooth over", Quantity::Length, 1, 0.1, 20, nullptr, Follows::Both}}},
         Action::Smooth},
        {{"move",
          "Move",
          1,
          {{"right", "To the right, − left", Quantity::Length, 10, -5000, 5000, nullptr, Follows::Width},
           {"down", "Down, − up", Quantity::Length, 0, -5000, 5000, nullptr, Follows::Height}}},
         Action::Move},
        {{"turn", "Turn", 1, {{"angle", "Clockwise by", Quantity::Angle, 90, -360, 360}}}, Action::Turn},
        {{"size-alone",
          "Size these alone",
          1,
          {{"across", "Width", Quantity::Percent, 100, 0.1, 100'000},
           {"down", "Height", Quantity::Percent, 100, 0.1, 100'000}}},
         Action::SizeAlone},
        {{"rows",
          "Repeat in rows",
          1,
          {{"columns", "Columns", Quantity::Count, 3, 1, 200},
           {"rows", "Rows", Quantity::Count, 1, 1, 200},
           {"gap-across", "Gap across", Quantity::Length, 5, -1000, 1000, nullptr, Follows::Width},
           {"gap-down", "Gap down", Quantity::Length, 5, -1000, 1000, nullptr, Follows::Height}}},
         Action::RowsOfTwins},
        {{"ring",
          "Repeat around a ring",
          1,
          {{"count", "How many in all", Quantity::Count, 6, 2, 500},
           {"radius", "Radius of the ring", Quantity::Length, 50, 0, 2000, nullptr, Follows::Width},
           {"facing", "They", Quantity::Choice, 0, 0, 0, "turn along|stay upright"}}},
         Action::RingOfTwins},
        {{"align",
          "Bring into line",
          2,
          {{"edge", "Along", Quantity::Choice, 0, 0, 0,
            "left edges|middles across|right edges|top edges|middles down|bottom edges"}}},
         Action::Align},
        {{"space-evenly",
          "Space evenly",
          2,
          {{"direction", "Direction", Quantity::Choice, 0, 0, 0, "across|down"},
           {"kind", "The gaps", Quantity::Choice, 0, 0, 0, "share the room|are set"},
           {"gap", "Set gap", Quantity::Length, 5, -1000, 1000, nullptr, Follows::Width}}},
         Action::SpaceEvenly},
        {{"set-aside", "Set aside as scrap", 1}, Action::SetAside},
        {{"put-back", "Put back from the scrap", 0}, Action::PutBack},
        {{"empty-scrap", "Empty the scrap", 0}, Action::EmptyScrap},
    };
    return infos;
}

const ActionInfo& infoOf(Action action) {
    return design::kindDoing(actionInfos(), action);
}

const ActionInfo* infoOf(const Step& step) {
    return design::kindNamed(actionInfos(), step.action);
}

Step makeStep(Action action, const std::vector<PieceId>& pieces, const std::vector<double>& values) {
    const ActionInfo& info = infoOf(action);
    Step out;
    out.action = info.name;
    out.on.assign(pieces.begin(), pieces.end());
    out.values = design::stepValues(info, values);
    return out;
}

std::vector<double> valuesOf(const Step& step) {
    const ActionInfo* info = infoOf(step);
    return info ? design::valuesOf(*info, step) : std::vector<double>{};
}

} // namespace thinline::shape
