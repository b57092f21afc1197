// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Steps.h"

#include <algorithm>
#include <cmath>

namespace thinline::shape {

const std::vector<ActionInfo>& actionInfos() {
    using base::Quantity, base::Follows;
    static const std::vector<ActionInfo> infos{
        {Action::Join, "join", "Join into one", 2},
        {Action::CutOut, "cut-out", "Cut the others out of the first", 2},
        {Action::KeepOverlap, "keep-overlap", "Keep the overlap", 2},
        {Action::KeepEveryPart, "keep-every-part", "Cut the first by the others, keep every part", 2},
        {Action::Divide, "divide", "Divide into faces", 2},
        {Action::Offset,
         "offset",
         "Grow or shrink",
         1,
         {{"amount", "Distance, − inwards", Quantity::Length, 3, -100, 100},
          {"count", "How many, at equal steps", Quantity::Count, 1, 1, 1000},
          {"join", "Corners", Quantity::Choice, 0, 0, 0, "round|pointed|square"}}},
        {Action::FillOpenings,
         "fill-openings",
         "Fill small openings",
         1,
         {{"amount", "Fill openings below", Quantity::Area, 5, 0, 10'000, nullptr, Follows::Area}}},
        {Action::MirrorTwin,
         "mirror-twin",
         "Add a mirrored twin",
         1,
         {{"amount", "Gap between the twins", Quantity::Length, 5, 0, 1000, nullptr, Follows::Width}}},
        {Action::Mirror,
         "mirror",
         "Mirror in place",
         1,
         {{"swaps", "Swaps", Quantity::Choice, 0, 0, 0, "left and right|top and bottom"}}},
        {Action::Smooth,
         "smooth",
         "Smooth the outline",
         1,
         {{"amount", "Smooth over", Quantity::Length, 1, 0.1, 20, nullptr, Follows::Both}}},
        {Action::Move,
         "move",
         "Move",
         1,
         {{"right", "To the right, − left", Quantity::Length, 10, -5000, 5000, nullptr, Follows::Width},
          {"down", "Down, − up", Quantity::Length, 0, -5000, 5000, nullptr, Follows::Height}}},
        {Action::Turn, "turn", "Turn", 1, {{"angle", "Clockwise by", Quantity::Angle, 90, -360, 360}}},
        {Action::SizeAlone,
         "size-alone",
         "Size these alone",
         1,
         {{"across", "Width", Quantity::Percent, 100, 0.1, 100'000},
          {"down", "Height", Quantity::Percent, 100, 0.1, 100'000}}},
        {Action::RowsOfTwins,
         "rows",
         "Repeat in rows",
         1,
         {{"columns", "Columns", Quantity::Count, 3, 1, 200},
          {"rows", "Rows", Quantity::Count, 1, 1, 200},
          {"gap-across", "Gap across", Quantity::Length, 5, -1000, 1000, nullptr, Follows::Width},
          {"gap-down", "Gap down", Quantity::Length, 5, -1000, 1000, nullptr, Follows::Height}}},
        {Action::RingOfTwins,
         "ring",
         "Repeat around a ring",
         1,
         {{"count", "How many in all", Quantity::Count, 6, 2, 500},
          {"radius", "Radius of the ring", Quantity::Length, 50, 0, 2000, nullptr, Follows::Width},
          {"facing", "They", Quantity::Choice, 0, 0, 0, "turn along|stay upright"}}},
        {Action::Align,
         "align",
         "Bring into line",
         2,
         {{"edge", "Along", Quantity::Choice, 0, 0, 0,
           "left edges|middles across|right edges|top edges|middles down|bottom edges"}}},
        {Action::SpaceEvenly,
         "space-evenly",
         "Space evenly",
         2,
         {{"direction", "Direction", Quantity::Choice, 0, 0, 0, "across|down"},
          {"kind", "The gaps", Quantity::Choice, 0, 0, 0, "share the room|are set"},
          {"gap", "Set gap", Quantity::Length, 5, -1000, 1000, nullptr, Follows::Width}}},
        {Action::Fold,
         "fold",
         "Fold along its sides",
         1,
         {{"side", "Along", Quantity::Choice, 0, 0, 0, "top|right|bottom|left|all around"},
          {"distance", "Distance from that side", Quantity::Length, 20, 0.5, 5000, nullptr, Follows::Both},
          {"goes", "It goes", Quantity::Choice, 0, 0, 0, "away from you|towards you"},
          {"scored", "Scored on", Quantity::Choice, 0, 0, 0, "the visible face|the back"},
          {"angle", "Angle", Quantity::Angle, 90, 1, 180}}},
        {Action::TakeLinesOff, "take-lines-off", "Take folds and lines off", 1},
        {Action::SetAside, "set-aside", "Set aside as scrap", 1},
        {Action::PutBack, "put-back", "Put back from the scrap", 0},
        {Action::EmptyScrap, "empty-scrap", "Empty the scrap", 0},
    };
    return infos;
}

const ActionInfo& infoOf(Action action) {
    return *std::find_if(actionInfos().begin(), actionInfos().end(),
                         [&](const ActionInfo& info) { return info.action == action; });
}

const ActionInfo* infoOf(const Step& step) {
    for (const ActionInfo& info : actionInfos())
        if (step.action == info.name)
            return &info;
    return nullptr;
}

Step makeStep(Action action, const std::vector<PieceId>& pieces, const std::vector<double>& values) {
    const ActionInfo& info = infoOf(action);
    Step out;
    out.action = info.name;
    out.on.assign(pieces.begin(), pieces.end());
    for (size_t i = 0; i < std::min(values.size(), info.parameters.size()); ++i) {
        const base::Parameter& p = info.parameters[i];
        if (p.quantity == base::Quantity::Choice)
            out.values[p.name] = base::valueText(p, values[i]);
        else
            out.values[p.name] = values[i];
    }
    return out;
}

std::vector<double> valuesOf(const Step& step) {
    const ActionInfo* info = infoOf(step);
    std::vector<double> out;
    for (const base::Parameter& p : info ? info->parameters : std::vector<base::Parameter>{}) {
        const auto at = step.values.find(p.name);
        double value = p.usual;
        if (at != step.values.end()) {
            if (const auto* number = std::get_if<double>(&at->second))
                value = *number;
            else if (const auto* word = std::get_if<std::string>(&at->second))
                if (const auto read = base::readValue(p, *word))
                    value = *read;
        }
        out.push_back(value);
    }
    return out;
}

base::Status checkStep(const Step& step) {
    const ActionInfo* info = infoOf(step);
    if (!info)
        return base::Error{base::Code::Unsupported,
                           "This program does not know the step '" + step.action + "'."};
    if (const auto values = base::checkedValues(info->parameters, valuesOf(step)); !values)
        return values.error();
    return base::Done{};
}

std::string stepText(const Step& step) {
    const ActionInfo* info = infoOf(step);
    if (!info)
        return step.action;
    std::string text = info->label;
    const std::vector<double> values = valuesOf(step);
    for (size_t i = 0; i < info->parameters.size(); ++i) {
        const bool isMeasure = info->parameters[i].quantity != base::Quantity::Choice;
        text += ", " + base::valueText(info->parameters[i],
                                       isMeasure ? std::round(values[i] * 100) / 100 : values[i]);
    }
    return text;
}

Step sizedBy(Step step, double factorX, double factorY, bool growsMargins) {
    const ActionInfo* info = infoOf(step);
    for (const base::Parameter& p : info ? info->parameters : std::vector<base::Parameter>{})
        if (const auto at = step.values.find(p.name); at != step.values.end())
            if (auto* number = std::get_if<double>(&at->second))
                *number *= base::growthOf(p, factorX, factorY, growsMargins);
    return step;
}

} // namespace thinline::shape
