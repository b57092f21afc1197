// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Opening.h"

/// The steps of a job at Source: drawings, words and figures come in, change and go. Each returns a new job and
/// leaves the given one alone. Errors are sentences for a person.
namespace thinline::job {

/// Adds a drawing to the right of what is there; see openDrawing.
base::Result<Noted> withDrawing(const State& state, const Incoming& file, const Catalogue& catalogue,
                                const base::FontStore& fonts, const base::Progress& progress = {});
/// Returns what the person should know about a drawing that came in; empty when there is nothing.
std::string noteOf(const Source& source);
/// Adds a word in a stock, to the right of what is there. The nearest typeface is taken when the wanted one is
/// missing, and said.
base::Result<Noted> withWord(const State& state, const lettering::Recipe& recipe, const std::string& stockId,
                             const base::FontStore& fonts, const base::Progress& progress = {});
/// Adds a figure in a stock, to the right of what is there.
base::Result<Noted> withFigure(const State& state, const construct::Recipe& recipe,
                               const std::string& stockId);

/// Adds any source to the right of what is there, with the next number.
Noted added(const State& state, Job job, Source source);

/// Retypes a word or changes how it is set: what was built on it is built anew. Letters that stay keep what was
/// decided about them; the place of the baseline stays.
/// Errors: NotFound when that source is not there or no word.
base::Result<Noted> withWordChanged(const Job& job, SourceId source, const lettering::Recipe& recipe,
                                    const base::FontStore& fonts, const base::Progress& progress = {});
base::Result<Noted> withFigureChanged(const Job& job, SourceId source, const construct::Recipe& recipe);
/// Takes other layers of a drawing, or takes strokes and clips another way; pieces that come out again where they
/// were keep what was decided about them. Another page begins anew.
base::Result<Noted> withDrawingTaken(const Job& job, SourceId source, const design::TakeOptions& take,
                                     const Catalogue& catalogue, const base::FontStore& fonts,
                                     const base::PageReader* pages = nullptr,
                                     const base::Progress& progress = {});
/// Settles how wide a drawing's page, or a whole picture, really is; everything found in it grows along.
/// Errors: InvalidArgument for a width outside 1 mm to 10 m.
base::Result<Job> withSourceWidth(const Job& job, SourceId source, double widthMm);
/// Adds a picture, untraced, to the right of what is there.
base::Result<OpenedPicture> withPicture(const State& state, const Incoming& file);
/// Adds the same picture once more, untraced, in its own place: to be traced another way, or a part of it.
/// Errors: NotFound when that source is no picture.
base::Result<Job> withPictureAgain(const Job& job, SourceId source);
/// Returns the box of a source's pieces, else of its picture, mm in the design.
geometry::Box placeOfSource(const Source& source);
/// Returns how wide the page of a drawing or the whole picture is, mm; 0 for any other source.
double sourceWidthMm(const Source& source);
/// The same downwards.
double sourceHeightMm(const Source& source);

/// Puts a source's own origin at a place of the design, mm.
base::Result<Job> withSourceAt(const Job& job, SourceId source, geometry::Point atMm);
/// Puts the upper left corner of a source's pieces, or of its picture when nothing was traced yet, at a place.
base::Result<Job> withSourceCorner(const Job& job, SourceId source, geometry::Point atMm);
/// Turns a source to an angle, about the middle of its pieces, or of its picture.
base::Result<Job> withSourceTurned(const Job& job, SourceId source, double turnRad);
/// Cuts every piece of a source, and those it will have when it is retyped, from a stock.
Job withSourceStock(const Job& job, SourceId source, const std::string& stockId);
/// Takes a source and its pieces out of the job; steps that need it are passed over.
base::Result<Job> withoutSource(const Job& job, SourceId source);

/// Notes where something came from and what may be done with it.
Job withOrigin(const Job& job, SourceId source, const Origin& origin);
/// The strictest licence of everything the job was made from, and every origin named, for the package.
struct OriginSummary {
    Licence strictest = Licence::MaySell;
    std::vector<std::string> lines; ///< "sign.svg, from the harbour office: free for own use"
};
OriginSummary originsOf(const Job& job);

/// Returns the pieces that came together with this one and are still there: of its word, or of its layer in a
/// drawing, in their order; a piece on its own, or one that was made or traced, alone.
std::vector<PieceId> groupOf(const State& state, PieceId piece);

} // namespace thinline::job
