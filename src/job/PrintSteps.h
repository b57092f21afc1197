// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/FaceArt.h"
#include "job/Opening.h"

/// What is printed on pieces. Each step returns a new job and leaves the given one alone; the stock of the pieces is taken for one
/// that is printed from then on.
namespace thinline::job {

/// On which pieces, and where of them.
struct PrintOn {
    std::vector<PieceId> pieces; ///< several bear one print that goes over all of them
    design::Side side = design::Side::Front;
    std::optional<geometry::Point> panel = {}; ///< mm in the design: only the panel that holds it
};

/// Prints a picture so that it fills the pieces and their bleed, the most detailed part of it in the middle (raster/Subject.h), on
/// a panel turned as it is read once folded. The note tells its resolution at finished size and what of it is lost.
/// Errors: NotFound for a piece that is not there; those of formats::image::decode, led by the file's name.
base::Result<Noted> withPicturePrinted(const State& state, const PrintOn& on, const Incoming& file,
                                       const Origin& origin = {});
/// Prints a text in the middle, as large as it fits with a margin; its lines are parted by line breaks.
/// Errors: NotFound for a piece; those of lettering::lettersOf.
base::Result<Noted> withTextPrinted(const State& state, const PrintOn& on, const std::string& text,
                                    const base::FontName& font, raster::Rgb colour,
                                    const base::FontStore& fonts);
/// Prints an even colour, or one that runs into a second from left to right, turned.
base::Result<Job> withColourPrinted(const State& state, const PrintOn& on, raster::Rgb colour,
                                    const std::optional<raster::Rgb>& second = {}, double turnRad = 0);
/// Prints a code in the middle of it.
/// Errors: those of print::codeOf.
base::Result<Job> withCodePrinted(const State& state, const PrintOn& on, design::Face::Kind kind,
                                  const std::string& text, raster::Rgb colour = {});
/// Prints the outline of another piece where it lies.
base::Result<Job> withOutlinePrinted(const State& state, const PrintOn& on, PieceId drawn,
                                     raster::Rgb colour);

/// What is printed on a side of a piece, the lowest first.
struct Print {
    design::StepId step{}; ///< that laid it; of none for what came with a drawing
    design::Face face;     ///< as it lies now
    std::string text;      ///< "picture tide.png", "text HARBOUR"
};
std::vector<Print> printsOn(const State& state, PieceId piece, design::Side side);

/// Lays what a step prints at another place, with another colour: the face as it is to lie on the piece now.
/// Errors: NotFound for a step that is none of printing or a piece that bears nothing of it.
base::Result<Job> withPrintChanged(const State& state, PieceId piece, const design::Face& face);
/// Lays a print over the next one on its side of the piece, or under the one before.
/// Errors: NotFound when there is none; Degenerate where the one that is to lie above was printed on a piece that is not there any
///         more.
base::Result<Job> withPrintRaised(const State& state, PieceId piece, design::StepId step, bool isUp);
base::Result<Job> withoutPrint(const State& state, design::StepId step);

/// Says what is printed with marks, on which printer, how finely.
/// Errors: InvalidArgument for a margin outside 0 to 50 mm or a resolution outside 72 to 1200.
base::Result<Job> withPrintPlan(const Job& job, const PrintPlan& plan);
/// Returns the job with a stock printed, or not any more.
Job withStockPrinted(const Job& job, const std::string& stockId, bool isPrinted = true);

/// Returns the stock a piece is cut from; null where it is none.
const design::Stock* stockOf(const State& state, PieceId piece);
/// Returns what is printed on, mm in the design: the pieces' box, or that of the panel, grown by their bleed.
/// Errors: NotFound without pieces.
base::Result<geometry::Box> fieldOf(const State& state, const PrintOn& on);
/// Returns a place as it is put on a side: what is read from behind is mirrored about the field's middle.
geometry::Transform onSide(const geometry::Transform& place, design::Side side, const geometry::Box& field);

} // namespace thinline::job
