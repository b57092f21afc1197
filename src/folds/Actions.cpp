// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The table of what can be done at Folds, and how its steps are made and spoken of. Steps that lay lines are written with
// everything the line does, so that they read the same in a job however the program's usual values change. In words only what
// is unusual is said: "Fold between two points" is away from the viewer, by 90 degrees, scored on the visible face, and runs to
// the edge; a list of forty such rows has to be read at a glance.
#include "design/Cuts.h"
#include "folds/Steps.h"
#include "geometry/Congruent.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <string_view>

namespace thinline::folds {
namespace {

using base::Follows, base::Parameter, base::Quantity;
using geometry::Line, geometry::Point;

const Parameter kAs{"as", "It is", Quantity::Choice, 0, 0, 0, "fold|score|slit|tear|pen"};
const Parameter kGoes{"goes", "It goes", Quantity::Choice, 0, 0, 0, "away from you|towards you"};
const Parameter kScored{"scored", "Scored on", Quantity::Choice, 0, 0, 0, "the visible face|the back"};
const Parameter kAngle{"angle", "Angle", Quantity::Angle, 90, 1, 180};
const Parameter kEnds{"ends", "Its ends", Quantity::Choice, 0, 0, 0, "run to the edge|stop where drawn"};
const Parameter kRight{"right", "To the right, − left", Quantity::Length, 0, -5000, 5000,
                       nullptr, Follows::Width};
const Parameter kDown{"down", "Down, − up", Quantity::Length, 10, -5000, 5000, nullptr, Follows::Height};

const Parameter kTakes{"takes", "For a", Quantity::Choice, 0, 0, 0, "ribbon|stick|cord"};
const Parameter kWide{"width", "As wide as", Quantity::Length, 10, 0.5, 500};

Parameter renamed(Parameter parameter, const char* label, double usual) {
    parameter.label = label;
    parameter.usual = usual;
    return parameter;
}

} // namespace

const std::vector<ActionInfo>& actionInfos() {
    static const std::vector<ActionInfo> infos{
        {{"line", "Lay a line", 1, {kAs, kGoes, kScored, kAngle, kEnds}}, Action::Line, true},
        {{"line-along-edge",
          "Lay a line along an edge",
          1,
          {{"distance", "Distance from that edge", Quantity::Length, 20, 0.5, 5000, nullptr, Follows::Both},
           kAs,
           kGoes,
           kScored,
           kAngle,
           kEnds}},
         Action::AlongEdge,
         true},
        {{"fold",
          "Fold along its sides",
          1,
          {{"side", "Along", Quantity::Choice, 0, 0, 0, "top|right|bottom|left|all around"},
           {"distance", "Distance from that side", Quantity::Length, 20, 0.5, 5000, nullptr, Follows::Both},
           kGoes,
           kScored,
           kAngle,
           kAs}},
         Action::AlongSides,
         true},
        {{"change-lines", "Change lines", 1, {kAs, kGoes, kScored, kAngle}, true}, Action::Change},
        {{"move-lines", "Move lines", 1, {kRight, kDown}}, Action::Move},
        {{"repeat-lines",
          "Repeat lines",
          1,
          {{"count", "How many more", Quantity::Count, 1, 1, 200},
           renamed(kRight, "Each further right by", 10),
           renamed(kDown, "Each further down by", 0)}},
         Action::Repeat},
        {{"mirror-lines",
          "Add mirrored lines",
          1,
          {{"swaps", "Swaps", Quantity::Choice, 0, 0, 0, "left and right|top and bottom"}}},
         Action::MirrorTwin},
        {{"line-length",
          "Give a line its length",
          1,
          {{"length", "Length", Quantity::Length, 50, 1, 5000, nullptr, Follows::Both},
           {"keeps", "What stays is", Quantity::Choice, 0, 0, 0,
            "its middle|where it begins|where it ends"}}},
         Action::SetLength},
        {{"run-on", "Run lines on to the edge", 1}, Action::RunOn},
        {{"take-lines-off", "Take lines off", 1}, Action::TakeOff},
        {{"say-panel",
          "Say what a panel is",
          1,
          {{"front", "It is", Quantity::Choice, 0, 0, 0, "as it is|the front"},
           {"up", "Read with its top turned by", Quantity::Angle, 0, -360, 360}},
          true},
         Action::SayPanel},
        {{"glue-flap", "Glue a flap", 1}, Action::Glue},
        {{"unglue-flap", "Do not glue a flap", 1}, Action::Unglue},
        {{"shorten-flap",
          "Shorten a flap",
          1,
          {{"depth", "It keeps", Quantity::Length, 12, 1, 1000, nullptr, Follows::Both}}},
         Action::ShortenFlap},
        {{"panes",
          "Put panes behind windows",
          1,
          {{"margin", "Larger all round by", Quantity::Length, 5, 0.5, 50}}},
         Action::Panes},
        {{"lining", "Line a panel", 1, {{"margin", "Smaller all round by", Quantity::Length, 2, 0, 50}}},
         Action::Lining},
        {{"fit-motif",
          "Fit motifs into windows",
          2,
          {{"overlap", "Runs into the frame by", Quantity::Length, 2, 0.2, 50},
           {"contact", "Holds where as wide as", Quantity::Length, 3, 0.2, 500},
           {"sides", "On so many sides", Quantity::Count, 2, 1, 4},
           {"fill", "Fills gaps narrower than", Quantity::Length, 0, 0, 50}}},
         Action::FitMotif},
        {{"way",
          "Make a way for a ribbon or stick",
          1,
          {kTakes,
           kWide,
           {"slit", "Its slits are long", Quantity::Length, 12, 1, 500},
           {"runs", "It runs", Quantity::Choice, 0, 0, 0, "behind|in front"},
           {"leaves", "It has", Quantity::Choice, 0, 0, 0, "a slit at both ends|one slit, then the edge"}}},
         Action::Way,
         true},
        {{"keep-free",
          "Keep a place free of foam and glue",
          1,
          {{"width", "As wide as", Quantity::Length, 20, 1, 500, nullptr, Follows::Both},
           {"side", "On", Quantity::Choice, 0, 0, 0, "the visible face|the back"}}},
         Action::KeepFree,
         true},
        {{"write",
          "Write in single lines",
          1,
          {{"height", "As high as", Quantity::Length, 8, 1, 300, nullptr, Follows::Both},
           {"as", "It is", Quantity::Choice, 0, 0, 0, "drawn by pen|scored"}}},
         Action::Write,
         true},
        {{"draw-on",
          "Draw pieces onto the first",
          2,
          {{"as", "Their outlines are", Quantity::Choice, 0, 0, 0, "drawn by pen|scored"}}},
         Action::DrawOn},
        {{"like-twins", "Lay lines on pieces alike", 1}, Action::LikeTwins},
    };
    return infos;
}

const ActionInfo& infoOf(Action action) {
    return design::kindDoing(actionInfos(), action);
}

const ActionInfo* infoOf(const Step& step) {
    return design::kindNamed(actionInfos(), step.action);
}

namespace {

/// The values that say what a line does, by parameter.
void putUse(Step& step, const DrawnLine& as) {
    step.values["as"] = std::string(design::kLineUseWords[as.does.index()]);
    if (const auto* fold = std::get_if<design::Fold>(&as.does)) {
        step.values["goes"] = base::valueText(kGoes, fold->isTowards ? 1 : 0);
        step.values["scored"] = base::valueText(kScored, fold->scored == design::Side::Back ? 1 : 0);
        step.values["angle"] = fold->angleDeg;
    }
    if (!as.runsToEdge)
        step.values["ends"] = base::valueText(kEnds, 1);
}

} // namespace

DrawnLine drawnAs(const Step& step) {
    const ActionInfo* info = infoOf(step);
    DrawnLine out;
    if (!info)
        return out;
    const std::vector<double> values = design::valuesOf(*info, step);
    const auto number = [&](const Parameter& p) {
        for (size_t i = 0; i < values.size(); ++i)
            if (info->parameters[i].name == std::string_view(p.name))
                return values[i];
        return p.usual;
    };
    const design::Fold fold{number(kScored) < 0.5 ? design::Side::Front : design::Side::Back,
                            number(kGoes) >= 0.5, number(kAngle)};
    const std::array<design::LineUse, 5> uses{fold, design::Score{}, design::Slit{}, design::Tear{},
                                              design::Pen{}};
    out.does = uses[static_cast<size_t>(std::clamp(std::lround(number(kAs)), 0l, 4l))];
    out.runsToEdge = number(kEnds) < 0.5;
    return out;
}

std::string stepText(const Step& step) {
    const ActionInfo* info = infoOf(step);
    const auto name = step.values.find("name");
    if (info && (info->action == Action::SayPanel || info->action == Action::Write) &&
        name != step.values.end())
        if (const auto* word = std::get_if<std::string>(&name->second))
            return design::stepText(*info, step) + ", \"" + *word + "\"";
    if (info && info->action == Action::Way) {
        const std::vector<double> values = design::valuesOf(*info, step);
        return "Way for a " + base::valueText(kTakes, values[0]) + " " + base::valueText(kWide, values[1]) +
               " wide, " + base::valueText(info->parameters[3], values[3]);
    }
    if (!info || !info->isDrawing || info->action == Action::KeepFree)
        return info ? design::stepText(*info, step) : step.action;
    const auto said = [&](const Parameter& p) {
        for (size_t i = 0; i < info->parameters.size(); ++i)
            if (info->parameters[i].name == std::string_view(p.name)) {
                const double value = design::valuesOf(*info, step)[i];
                return base::valueText(info->parameters[i], p.quantity == Quantity::Choice
                                                                ? value
                                                                : std::round(value * 100) / 100);
            }
        return std::string();
    };
    const Parameter distance{"distance", "", Quantity::Length}, side{"side", "", Quantity::Choice};
    const DrawnLine as = drawnAs(step);
    static constexpr std::array<const char*, 5> kWords{"Fold", "Score", "Slit", "Line to tear", "Pen line"};
    std::string out = kWords[std::min<size_t>(as.does.index(), 4)];
    if (info->action == Action::Line)
        out += " between two points";
    else if (info->action == Action::AlongEdge)
        out += " " + said(distance) + " from an edge";
    else
        out += " " + said(distance) + " from " +
               (said(side) == "all around" ? "each side" : "the " + said(side));
    if (const auto* fold = std::get_if<design::Fold>(&as.does)) {
        out += fold->isTowards ? ", towards you" : "";
        out += fold->scored == design::Side::Back ? ", scored on the back" : "";
        out += fold->angleDeg != kAngle.usual ? ", " + said(kAngle) : "";
    }
    return out + (as.runsToEdge ? "" : ", stops where drawn");
}

Step lineStep(const design::Piece& piece, const geometry::Line& way, const DrawnLine& as) {
    Step out;
    out.action = infoOf(Action::Line).name;
    out.on = {piece.id};
    out.values["way"] = geometry::transformed(way, geometry::inverse(piece.placed));
    putUse(out, as);
    return out;
}

Step alongEdgeStep(const design::Piece& piece, geometry::Point at, double distanceMm, const DrawnLine& as) {
    Step out;
    out.action = infoOf(Action::AlongEdge).name;
    out.on = {piece.id};
    out.values["at"] = geometry::inverse(piece.placed)(at);
    out.values["distance"] = distanceMm;
    putUse(out, as);
    return out;
}

Step wayStep(Action action, const design::Piece& piece, Point from, Point to,
             const std::vector<double>& values) {
    Step out = makeStep(action, {piece.id}, values);
    out.values["way"] =
        geometry::transformed(Line{from, {geometry::Segment::line(to)}}, geometry::inverse(piece.placed));
    return out;
}

Step writeStep(const design::Piece& piece, Point from, Point to, const std::string& words,
               const std::vector<double>& values) {
    Step out = wayStep(Action::Write, piece, from, to, values);
    out.values["name"] = words;
    return out;
}

base::Result<Step> twinsStep(const std::vector<design::LineOf>& lines,
                             const std::vector<design::Piece>& among) {
    if (lines.empty())
        return base::Error{base::Code::InvalidArgument, "Choose the lines that go onto pieces alike."};
    const PieceId from = lines.front().piece;
    if (std::any_of(lines.begin(), lines.end(), [&](const auto& one) { return one.piece != from; }))
        return base::Error{base::Code::InvalidArgument, "Choose lines of one piece only."};
    std::vector<design::Chosen> on(lines.begin(), lines.end());
    if (const design::Piece* piece = design::findPiece(among, from))
        for (const design::Piece& other : among)
            if (other.id != from && geometry::congruence(piece->shape(), other.shape()))
                on.emplace_back(other.id);
    if (on.size() == lines.size())
        return base::Error{base::Code::InvalidArgument, "No other piece has this form and size."};
    return makeStep(Action::LikeTwins, std::move(on));
}

Step panelStep(Action action, const design::Piece& piece, geometry::Point at) {
    Step out = makeStep(action, {piece.id});
    if (infoOf(action).takesOnlySaid)
        out.values.clear();
    out.values["at"] = geometry::inverse(piece.placed)(at);
    return out;
}

Step glueStep(const design::Piece& piece, geometry::Point at, const std::optional<geometry::Point>& behind) {
    Step out = panelStep(Action::Glue, piece, at);
    if (behind)
        out.values["behind"] = geometry::inverse(piece.placed)(*behind);
    return out;
}

Step motifStep(const std::vector<MotifPair>& pairs, const MotifWish& wish) {
    std::vector<design::Chosen> on;
    for (const MotifPair& pair : pairs) {
        on.emplace_back(pair.window);
        on.emplace_back(pair.motif);
    }
    return makeStep(Action::FitMotif, std::move(on),
                    {wish.overlapMm, wish.contactMm, static_cast<double>(wish.sides), wish.fillMm});
}

std::vector<MotifPair> motifPairsOf(const Step& step) {
    std::vector<MotifPair> out;
    for (size_t i = 0; i + 1 < step.on.size(); ++i) {
        const auto* window = std::get_if<design::OpeningOf>(&step.on[i]);
        const auto* motif = std::get_if<PieceId>(&step.on[i + 1]);
        if (window && motif)
            out.push_back({*window, *motif});
    }
    return out;
}

MotifWish motifWishOf(const Step& step) {
    const std::vector<double> values = design::valuesOf(infoOf(Action::FitMotif), step);
    return {values[0], values[1], static_cast<int>(values[2]), values[3]};
}

PieceId paneOf(const Step& step, size_t window) {
    const auto* opening = std::get_if<design::OpeningOf>(&step.on[window]);
    return opening ? opening->piece.parted(step.id, "pane." + std::to_string(window + 1)) : PieceId{};
}

PieceId liningOf(const Step& step) {
    const auto* piece = step.on.empty() ? nullptr : std::get_if<PieceId>(&step.on.front());
    return piece ? piece->parted(step.id, "lining.1") : PieceId{};
}

Step makeStep(Action action, std::vector<design::Chosen> on, const std::vector<double>& values) {
    const ActionInfo& info = infoOf(action);
    Step out;
    out.action = info.name;
    out.on = std::move(on);
    out.values = design::stepValues(info, values);
    return out;
}

} // namespace thinline::folds
