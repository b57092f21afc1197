// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Printing, as it comes into a job.
//
// Everything printed is a step, so that it is replayed when the outline below it changes, can be opened again and undone. Places are
// said in the design as it lies now and kept in the own units of the piece's source (print/Steps.h); which is the same as saying them
// where the step stands, since everything between only carries the piece.
//
// Bodies are seen from the front, also what is printed on their back. So what is to be read from behind lies mirrored in the design.
#include "job/PrintSteps.h"

#include "base/Length.h"
#include "folds/Panels.h"
#include "formats/image/ImageFile.h"
#include "geometry/Placing.h"
#include "job/Catalogue.h"
#include "job/Steps.h"
#include "print/Codes.h"
#include "print/Place.h"
#include "print/Steps.h"
#include "raster/Subject.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::Face;
using design::Piece;
using design::Side;
using geometry::Box;
using geometry::Transform;

/// The pieces that are printed on, where they lie now.
base::Result<std::vector<Piece>> piecesOf(const State& state, const PrintOn& on) {
    std::vector<Piece> out;
    for (const PieceId id : on.pieces) {
        const Piece* piece = state.made.pieces ? design::findPiece(state.made.pieces->now, id) : nullptr;
        if (!piece)
            return Error{Code::NotFound, "A piece that was to be printed is not there any more."};
        out.push_back(*piece);
    }
    if (out.empty())
        return Error{Code::NotFound, "Choose the piece that is printed."};
    return out;
}

/// How far a text is turned on a panel, to be read upright once it is folded.
base::Result<double> uprightOn(const Piece& piece, const PrintOn& on) {
    if (!on.panel)
        return 0.0;
    const auto panels = folds::panelsOf(*piece.body);
    if (!panels)
        return panels.error();
    for (const folds::Panel& panel : *panels)
        if (geometry::contains(geometry::flatten(panel.area, 0.01), *on.panel))
            return on.side == Side::Front ? panel.upRad : -panel.upRad;
    return 0.0;
}

/// What all that is printed begins from.
struct Ground {
    std::vector<Piece> pieces;
    Box field;
    double turnRad = 0;
};
base::Result<Ground> groundOf(const State& state, const PrintOn& on) {
    auto pieces = piecesOf(state, on);
    if (!pieces)
        return pieces.error();
    const auto field = fieldOf(state, on);
    if (!field)
        return field.error();
    const auto turn = uprightOn(pieces->front(), on);
    if (!turn)
        return turn.error();
    return Ground{pieces.take(), *field, *turn};
}

/// The job with the stocks of pieces taken for printed ones. A stock without sheets of its own gets paper that home printers take.
Job withStocksPrinted(const State& state, Job job, const std::vector<Piece>& pieces) {
    for (const Piece& piece : pieces) {
        const design::Stock* stock = stockOf(state, piece.id);
        if (!stock || design::printsOf(*stock) == design::Stock::Prints::None ||
            !job.print.stocks.insert(stock->id).second)
            continue;
        const design::SheetFormat* paper =
            shippedCatalogue().formats.sheet(job.unit == base::LengthUnit::Inch ? "letter" : "a4");
        if (paper && !job.plan.sheetOf.contains(stock->id))
            job.plan.sheetOf[stock->id] = *paper;
    }
    return job;
}

base::Result<Job> printed(const State& state, Job job, const Ground& ground, Face face, const PrintOn& on,
                          const std::optional<PieceId>& drawn = {}) {
    face.side = on.side;
    face.panel = on.panel;
    face.place = onSide(face.place, on.side, ground.field);
    State now = state;
    now.job = withStocksPrinted(state, std::move(job), ground.pieces);
    return withStep(now, print::printStep(ground.pieces, face, drawn));
}

std::string percent(double share) {
    return base::formatNumber(share * 100, 0) + " %";
}

/// How much of a picture's area lies beyond the box it fills.
double lostShare(const Transform& place, const Box& field) {
    const double area = std::abs(place.a * place.d - place.b * place.c);
    return std::max(0.0, 1 - field.width() * field.height() / area);
}

std::string pictureNote(const Face& face, const print::Gallery& gallery, const Box& field) {
    const double dpi = print::dpiOf(face, gallery).value_or(0);
    std::string out = "Printed " +
                      base::formatSize(std::hypot(face.place.a, face.place.b),
                                       std::hypot(face.place.c, face.place.d), base::LengthUnit::Millimetre) +
                      " at " + base::formatNumber(dpi, 0) + " dpi";
    if (dpi < print::kLeastDpi)
        out += ", which will look coarse: " + base::formatNumber(print::kGoodDpi, 0) + " are good";
    const double lost = lostShare(face.place, field);
    if (lost > 0.005)
        out += "; " + percent(lost) + " of it lie beyond the piece";
    return out + ".";
}

const design::Step* stepOf(const Job& job, design::StepId id) {
    for (const auto& step : job.steps)
        if (step->id == id)
            return step.get();
    return nullptr;
}
size_t indexOf(const Job& job, design::StepId id) {
    size_t i = 0;
    while (i < job.steps.size() && job.steps[i]->id != id)
        ++i;
    return i;
}

std::string textOf(const Job& job, const Face& face) {
    const std::string kind = design::kFaceWords[static_cast<size_t>(face.kind)];
    if (const auto number = artNumber(face.shows))
        if (const auto art = job.art.find(*number); art != job.art.end()) {
            if (const auto* picture = std::get_if<PrintedPicture>(&art->second->what))
                return "picture " + picture->file->fileName;
            return "text " + std::get<PrintedText>(art->second->what).text;
        }
    if (face.kind == Face::Kind::SquareCode || face.kind == Face::Kind::LineCode)
        return (face.kind == Face::Kind::SquareCode ? "square code " : "line code ") + face.shows;
    if (face.kind == Face::Kind::Gradient)
        return "colour #" + raster::hexOf(face.colour) + " into #" + raster::hexOf(face.second);
    return kind + " #" + raster::hexOf(face.colour);
}

/// Whether everything that a step was laid on is among the pieces.
bool isOnWhatIsThere(const design::Step& step, const std::vector<Piece>& pieces) {
    return std::all_of(step.on.begin(), step.on.end(), [&](const design::Chosen& one) {
        return !design::resolved({one}, pieces).empty();
    });
}

} // namespace

const design::Stock* stockOf(const State& state, PieceId piece) {
    const design::Stack* stack = state.made.stack ? state.made.stack.get() : nullptr;
    const design::Laid* laid = stack ? stack->find(piece) : nullptr;
    return laid ? design::findStock(stack->stocks, stack->layerOf(*laid).stockId) : nullptr;
}

base::Result<Box> fieldOf(const State& state, const PrintOn& on) {
    const auto pieces = piecesOf(state, on);
    if (!pieces)
        return pieces.error();
    Box out;
    double bleed = 0;
    for (const Piece& piece : *pieces) {
        if (on.panel) {
            Face face;
            face.panel = on.panel;
            const auto part = print::fieldOf(*piece.body, face);
            if (!part)
                return part.error();
            out.include(geometry::bounds(*part));
        } else {
            out.include(geometry::bounds(piece.shape()));
        }
        if (const design::Stock* stock = stockOf(state, piece.id))
            bleed = std::max(bleed, design::bleedOf(*stock));
    }
    return out.grownBy(bleed);
}

Transform onSide(const Transform& place, Side side, const Box& field) {
    return side == Side::Front ? place
                               : place.then(geometry::mirrorAbout(field.centre(), geometry::Axis::Vertical));
}

base::Result<Noted> withPicturePrinted(const State& state, const PrintOn& on, const Incoming& file,
                                       const Origin& origin) {
    const auto ground = groundOf(state, on);
    if (!ground)
        return ground.error();
    auto decoded = formats::image::decode(file.bytes, raster::kMostPixels, formats::image::Ground::White);
    if (!decoded)
        return Error{decoded.error().code, file.name + ": " + decoded.error().message};
    auto artwork = std::make_shared<Artwork>();
    artwork->fileName = file.name;
    artwork->mediaType = decoded->mediaType;
    artwork->bytes = file.bytes;
    artwork->widthPx = decoded->picture.width;
    artwork->heightPx = decoded->picture.height;
    Job job = state.job;
    Face face;
    face.kind = Face::Kind::Picture;
    face.shows = addArt(job, {PrintedPicture{std::move(artwork), origin}});
    const auto picture = std::make_shared<const raster::Picture>(std::move(decoded.take().picture));
    const double aspect = static_cast<double>(picture->width) / picture->height;
    face.place = print::covering(ground->field, aspect, raster::subjectOf(*picture), ground->turnRad);
    const std::string clear =
        decoded->wasClear ? " Its transparent parts show what lies below them." : "";
    const std::string note = pictureNote(face, {{face.shows, {picture, {}, aspect}}}, ground->field);
    auto out = printed(state, std::move(job), *ground, std::move(face), on);
    if (!out)
        return out.error();
    return Noted{out.take(), note + clear};
}

base::Result<Noted> withTextPrinted(const State& state, const PrintOn& on, const std::string& text,
                                    const base::FontName& font, raster::Rgb colour,
                                    const base::FontStore& fonts) {
    const auto ground = groundOf(state, on);
    if (!ground)
        return ground.error();
    std::string note;
    auto art = printedText(text, font, fonts, &note);
    if (!art)
        return art.error();
    const auto shown = shownText(*art->letters);
    if (!shown)
        return shown.error();
    Job job = state.job;
    Face face;
    face.kind = Face::Kind::Text;
    face.shows = addArt(job, {art.take()});
    face.colour = colour;
    face.place = print::within(ground->field, shown->aspect, ground->turnRad);
    auto out = printed(state, std::move(job), *ground, std::move(face), on);
    if (!out)
        return out.error();
    return Noted{out.take(), note};
}

base::Result<Job> withColourPrinted(const State& state, const PrintOn& on, raster::Rgb colour,
                                    const std::optional<raster::Rgb>& second, double turnRad) {
    const auto ground = groundOf(state, on);
    if (!ground)
        return ground.error();
    Face face;
    face.kind = second ? Face::Kind::Gradient : Face::Kind::Colour;
    face.colour = colour;
    face.second = second.value_or(face.second);
    face.place = print::covering(
        ground->field, ground->field.width() / std::max(0.001, ground->field.height()), {0.5, 0.5}, turnRad);
    return printed(state, state.job, *ground, std::move(face), on);
}

base::Result<Job> withCodePrinted(const State& state, const PrintOn& on, Face::Kind kind,
                                  const std::string& text, raster::Rgb colour) {
    const auto ground = groundOf(state, on);
    if (!ground)
        return ground.error();
    const auto code = print::codeOf(kind, text);
    if (!code)
        return code.error();
    Face face;
    face.kind = kind;
    face.shows = text;
    face.colour = colour;
    constexpr double kRoom = 0.25; // beside it, of the field: a code is read, not looked at
    face.place = print::within(ground->field, code->aspect, ground->turnRad, kRoom);
    return printed(state, state.job, *ground, std::move(face), on);
}

base::Result<Job> withOutlinePrinted(const State& state, const PrintOn& on, PieceId drawn,
                                     raster::Rgb colour) {
    const auto ground = groundOf(state, on);
    if (!ground)
        return ground.error();
    if (auto other = piecesOf(state, {{drawn}}); !other)
        return other.error();
    Face face;
    face.kind = Face::Kind::Outline;
    face.colour = colour;
    return printed(state, state.job, *ground, std::move(face), on, drawn);
}

std::vector<Print> printsOn(const State& state, PieceId piece, Side side) {
    std::vector<Print> out;
    const Piece* there = state.made.pieces ? design::findPiece(state.made.pieces->now, piece) : nullptr;
    if (!there)
        return out;
    for (const Face& face : there->body->faces)
        if (face.side == side)
            out.push_back({design::StepId{face.step}, face, textOf(state.job, face)});
    return out;
}

base::Result<Job> withPrintChanged(const State& state, PieceId piece, const Face& face) {
    const design::Step* step = stepOf(state.job, design::StepId{face.step});
    const Piece* there = state.made.pieces ? design::findPiece(state.made.pieces->now, piece) : nullptr;
    if (!step || !print::infoOf(*step) || !there)
        return Error{Code::NotFound,
                     "What is printed there came with its drawing; it is changed in the drawing."};
    design::Step next = print::printStep({*there}, face);
    next.id = step->id;
    next.parts = step->parts;
    // The place is said by this piece; all others that bear the print stay.
    std::vector<design::Chosen> on{piece};
    const std::vector<PieceId> before = design::resolved(step->on, state.made.pieces->now);
    if (face.kind != Face::Kind::Outline && std::find(before.begin(), before.end(), piece) != before.end()) {
        if (before.size() == 1)
            on = step->on;
        else
            for (const PieceId id : before)
                if (id != piece)
                    on.emplace_back(id);
    } else {
        on = step->on;
    }
    next.on = std::move(on);
    return withStepChanged(state, indexOf(state.job, step->id), next);
}

base::Result<Job> withPrintRaised(const State& state, PieceId piece, design::StepId step, bool isUp) {
    for (const Side side : {Side::Front, Side::Back}) {
        const std::vector<Print> all = printsOn(state, piece, side);
        const auto at =
            std::find_if(all.begin(), all.end(), [&](const Print& one) { return one.step == step; });
        if (at == all.end() || (isUp ? at + 1 == all.end() : at == all.begin()))
            continue;
        const size_t i = indexOf(state.job, step),
                     k = indexOf(state.job, isUp ? (at + 1)->step : (at - 1)->step);
        if (i >= state.job.steps.size() || k >= state.job.steps.size())
            continue;
        // The one that comes to lie above is laid after the other: it never goes to pieces that were not there yet.
        const auto from = std::min(i, k), to = std::max(i, k);
        const auto& steps = state.job.steps;
        if (!isOnWhatIsThere(*steps[from], state.made.pieces->now))
            return Error{Code::Degenerate,
                         "Step " + std::to_string(from + 1) +
                             " prints on a piece that was joined or taken apart since, and cannot be laid after "
                             "that; take it off and print it anew."};
        Job out = state.job;
        const auto first = out.steps.begin() + static_cast<std::ptrdiff_t>(from);
        std::rotate(first, first + 1, out.steps.begin() + static_cast<std::ptrdiff_t>(to) + 1);
        return out;
    }
    return Error{Code::NotFound, isUp ? "Nothing is printed over it." : "Nothing is printed under it."};
}

base::Result<Job> withoutPrint(const State& state, design::StepId step) {
    const design::Step* there = stepOf(state.job, step);
    if (!there || !print::infoOf(*there))
        return Error{Code::NotFound,
                     "What is printed there came with its drawing; take the drawing's picture out."};
    return withoutStep(state.job, indexOf(state.job, step));
}

base::Result<Job> withPrintPlan(const Job& job, const PrintPlan& plan) {
    constexpr double kMostMarginMm = 50, kLeastDpi = 72, kMostDpi = 1200;
    if (!(plan.printerMarginMm >= 0 && plan.printerMarginMm <= kMostMarginMm))
        return Error{Code::InvalidArgument,
                     "A printer leaves 0 to 50 mm free along the edges; usual are 4 to 7."};
    if (!(plan.dpi >= kLeastDpi && plan.dpi <= kMostDpi))
        return Error{Code::InvalidArgument,
                     "Pages are printed at 72 to 1200 dots to the inch; 300 is usual."};
    Job out = job;
    out.print = plan;
    return out;
}

Job withStockPrinted(const Job& job, const std::string& stockId, bool isPrinted) {
    Job out = job;
    if (isPrinted)
        out.print.stocks.insert(stockId);
    else
        out.print.stocks.erase(stockId);
    return out;
}

} // namespace thinline::job
