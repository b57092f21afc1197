// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "print/Steps.h"

#include "design/Carry.h"

#include <algorithm>
#include <string_view>

namespace thinline::print {
namespace {

using base::Code;
using base::Error;
using base::Parameter, base::Quantity;
using design::Face;
using design::Piece;
using design::Pieces;
using design::Step;
using geometry::Point;
using geometry::Transform;

const Parameter kSide{"side", "On", Quantity::Choice, 0, 0, 0, "the front|the back"};

std::string textIn(const Step& step, const char* name) {
    const auto at = step.values.find(name);
    const auto* text = at == step.values.end() ? nullptr : std::get_if<std::string>(&at->second);
    return text ? *text : std::string();
}
std::optional<Point> pointIn(const Step& step, const char* name) {
    const auto at = step.values.find(name);
    const auto* point = at == step.values.end() ? nullptr : std::get_if<Point>(&at->second);
    return point && geometry::isFinite(*point) ? std::optional(*point) : std::nullopt;
}

std::optional<raster::Rgb> colourIn(const std::string& hex) {
    if (hex.size() != 6 || hex.find_first_not_of("0123456789abcdef") != std::string::npos)
        return std::nullopt;
    raster::Rgb out{};
    for (size_t i = 0; i < 3; ++i)
        out[i] = static_cast<std::uint8_t>(std::stoi(hex.substr(2 * i, 2), nullptr, 16));
    return out;
}

double valueIn(const Step& step, const ActionInfo& info, const char* name) {
    const std::vector<double> values = design::valuesOf(info, step);
    for (size_t i = 0; i < values.size(); ++i)
        if (info.parameters[i].name == std::string_view(name))
            return values[i];
    return 0;
}

/// The face in the own units of the first piece's source.
base::Result<Face> ownFace(const Step& step, const ActionInfo& info) {
    Face out;
    out.kind = static_cast<Face::Kind>(info.action);
    out.side = valueIn(step, info, "side") < 0.5 ? design::Side::Front : design::Side::Back;
    out.step = numberOf(step.id);
    out.shows = textIn(step, "shows");
    out.colour = colourIn(textIn(step, "colour")).value_or(raster::Rgb{});
    out.second = colourIn(textIn(step, "second")).value_or(raster::Rgb{255, 255, 255});
    out.panel = pointIn(step, "panel");
    const auto corner = pointIn(step, "corner"), right = pointIn(step, "right"), down = pointIn(step, "down");
    const bool needsPlace = out.kind != Face::Kind::Colour && out.kind != Face::Kind::Outline;
    if (needsPlace && (!corner || !right || !down))
        return Error{Code::InvalidArgument, "Say where on the piece that is printed."};
    if (needsPlace) {
        const Point across = *right - *corner, along = *down - *corner;
        out.place = {across.x, across.y, along.x, along.y, corner->x, corner->y};
        if (!(std::abs(cross(across, along)) > 0))
            return Error{Code::InvalidArgument, "What is printed there has no width or no height."};
    }
    if ((out.kind == Face::Kind::Picture || isRead(out.kind)) && out.shows.empty())
        return Error{Code::InvalidArgument, "Say what is printed there."};
    return out;
}

/// An outline where it lies, in a unit square of its own.
void showOutline(Face& face, const geometry::Shape& shape) {
    const geometry::Box box = geometry::bounds(shape);
    face.place = {box.width(), 0, 0, box.height(), box.least.x, box.least.y};
    const geometry::Shape unit = geometry::transformed(shape, geometry::inverse(face.place));
    face.drawn = {unit.outline};
    face.drawn.insert(face.drawn.end(), unit.openings.begin(), unit.openings.end());
}

} // namespace

const std::vector<ActionInfo>& actionInfos() {
    static const std::vector<ActionInfo> infos{
        {{"print-picture", "Print a picture", 1, {kSide}}, Action::Picture},
        {{"print-colour", "Print a colour", 1, {kSide}}, Action::Colour},
        {{"print-gradient", "Print one colour running into another", 1, {kSide}}, Action::Gradient},
        {{"print-text", "Print a text", 1, {kSide}}, Action::Text},
        {{"print-square-code", "Print a square code", 1, {kSide}}, Action::SquareCode},
        {{"print-line-code", "Print a line code", 1, {kSide}}, Action::LineCode},
        {{"print-outline", "Print another piece's outline", 2, {kSide}}, Action::Outline},
        {{"take-print-off", "Take off what is printed", 1, {kSide}}, Action::TakeOff},
    };
    return infos;
}

const ActionInfo& infoOf(Action action) {
    return design::kindDoing(actionInfos(), action);
}

const ActionInfo* infoOf(const Step& step) {
    return design::kindNamed(actionInfos(), step.action);
}

Step printStep(const std::vector<Piece>& on, const Face& face, const std::optional<design::PieceId>& drawn) {
    Step out;
    const ActionInfo& info = infoOf(static_cast<Action>(face.kind));
    out.action = info.name;
    for (const Piece& piece : on)
        out.on.emplace_back(piece.id);
    if (drawn)
        out.on.emplace_back(*drawn);
    out.values = design::stepValues(info, {face.side == design::Side::Front ? 0.0 : 1.0});
    if (!face.shows.empty())
        out.values["shows"] = face.shows;
    if (face.kind != Face::Kind::Picture)
        out.values["colour"] = raster::hexOf(face.colour);
    if (face.kind == Face::Kind::Gradient)
        out.values["second"] = raster::hexOf(face.second);
    if (on.empty())
        return out;
    const Face own = design::mapped(face, geometry::inverse(on.front().placed));
    if (face.kind != Face::Kind::Colour && face.kind != Face::Kind::Outline) {
        out.values["corner"] = own.place({0, 0});
        out.values["right"] = own.place({1, 0});
        out.values["down"] = own.place({0, 1});
    }
    if (own.panel)
        out.values["panel"] = *own.panel;
    return out;
}

Step takeOffStep(const std::vector<design::PieceId>& on, design::Side side) {
    Step out;
    const ActionInfo& info = infoOf(Action::TakeOff);
    out.action = info.name;
    for (const design::PieceId id : on)
        out.on.emplace_back(id);
    out.values = design::stepValues(info, {side == design::Side::Front ? 0.0 : 1.0});
    return out;
}

std::optional<Face> faceOf(const Step& step, const Pieces& before) {
    const ActionInfo* info = infoOf(step);
    if (!info || info->action == Action::TakeOff)
        return std::nullopt;
    const auto own = ownFace(step, *info);
    const std::vector<design::PieceId> on = design::resolved(step.on, before.now);
    if (!own || on.empty())
        return std::nullopt;
    Face out = design::mapped(*own, design::findPiece(before.now, on.front())->placed);
    if (info->action == Action::Outline) {
        if (on.size() < 2)
            return std::nullopt;
        showOutline(out, design::findPiece(before.now, on.back())->shape());
    }
    return out;
}

base::Result<design::Outcome> apply(const Pieces& pieces, const Step& step, const base::Progress& progress) {
    const ActionInfo* info = infoOf(step);
    if (!info)
        return Error{Code::Unsupported, "This program does not know the step '" + step.action + "'."};
    std::vector<design::PieceId> on = design::resolved(step.on, pieces.now);
    if (on.size() < info->leastPieces)
        return Error{Code::InvalidArgument,
                     info->leastPieces > 1
                         ? "Choose the piece that is printed on, and another whose outline it is."
                         : "Choose a piece to print on."};
    if (progress.isCancelled())
        return base::cancelled();
    design::Outcome out;
    out.pieces = pieces;
    out.parts = step.parts;
    std::optional<Face> face;
    if (info->action != Action::TakeOff) {
        const auto own = ownFace(step, *info);
        if (!own)
            return own.error();
        face = faceOf(step, pieces);
    }
    if (info->action == Action::Outline)
        on.pop_back();
    for (const design::PieceId id : on) {
        const auto piece = std::find_if(out.pieces.now.begin(), out.pieces.now.end(),
                                        [&](const Piece& one) { return one.id == id; });
        design::Body body = *piece->body;
        if (face)
            body.faces.push_back(*face);
        else if (std::erase_if(body.faces, [&](const Face& one) {
                     return one.side ==
                            (valueIn(step, *info, "side") < 0.5 ? design::Side::Front : design::Side::Back);
                 }) == 0)
            continue;
        piece->body = std::make_shared<const design::Body>(std::move(body));
        out.made.push_back(id);
    }
    if (out.made.empty())
        return Error{Code::InvalidArgument, "Nothing is printed on that side."};
    return out;
}

} // namespace thinline::print
