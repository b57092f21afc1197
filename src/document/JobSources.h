// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Job.h"

/// The steps of a job at
/// Source: drawings, words and figures come in, change and go; and what belongs together. Each returns a new
///         job and leaves the given one alone. Errors are sentences for a person.
namespace thinline::document {

/// A job, and what the person should know about the step that led to it.
struct Noted {
    Job job;
    std::string note; ///< empty when there is nothing to tell
};

/// A fresh job around a drawing of outlines (SVG, DXF, a PDF page): every connected area is a piece, its
/// stock chosen by its colour. The size is the file's own; when the file states none, as CSS has it (96 units
/// to the inch; DXF: millimetres), and the note says so.
/// Errors: those of drawingFrom and of the set operations; Cancelled.
base::Result<Noted> openDrawing(const Job& before, const base::Bytes& file, const std::string& fileName,
                                const Catalogue& catalogue, const base::FontStore& fonts,
                                const base::Progress& progress = {});

/// Adds a drawing to the right of what is there.
base::Result<Noted> withDrawing(const Job& job, const base::Bytes& file, const std::string& fileName,
                                const Catalogue& catalogue, const base::FontStore& fonts,
                                const base::Progress& progress = {});
/// Adds a word in a stock, to the right of what is there.
base::Result<Noted> withWord(const Job& job, const lettering::Recipe& recipe, const std::string& stockId,
                             const base::FontStore& fonts, const base::Progress& progress = {});
/// Adds a figure in a stock, to the right of what is there.
base::Result<Noted> withFigure(const Job& job, const construct::Recipe& recipe, const std::string& stockId,
                               const base::Progress& progress = {});

/// Retypes a word or changes how it is set: what was built on it is built anew. The place of its baseline
/// stays.
/// Errors: NotFound when that source is not there or no word.
base::Result<Noted> withWordChanged(const Job& job, int source, const lettering::Recipe& recipe,
                                    const base::FontStore& fonts, const base::Progress& progress = {});
base::Result<Noted> withFigureChanged(const Job& job, int source, const construct::Recipe& recipe,
                                      const base::Progress& progress = {});
/// Takes other layers of a drawing, or takes strokes and clips another way.
base::Result<Noted> withDrawingTaken(const Job& job, int source, const design::TakeOptions& take,
                                     const base::FontStore& fonts, const base::Progress& progress = {});
/// Settles how wide a drawing's page really is; everything made from it scales along.
/// Errors: InvalidArgument for a width outside 1 mm to 10 m.
base::Result<Job> withDrawingWidth(const Job& job, int source, double pageWidthMm,
                                   const base::Progress& progress = {});
/// Puts a source's own origin at a place of the design, mm at the design's present scale.
base::Result<Job> withSourceAt(const Job& job, int source, geometry::Point atMm,
                               const base::Progress& progress = {});
/// Cuts every piece of a source, and those it will have when it is retyped, from a stock.
Job paintedSource(const Job& job, int source, const std::string& stockId);
/// Takes a source and its pieces out of the job; steps that need it are passed over.
base::Result<Job> withoutSource(const Job& job, int source, const base::Progress& progress = {});

/// Notes where something came from and what may be done with it. Source 0 is the traced picture.
Job withOrigin(const Job& job, int source, const Origin& origin);
/// The strictest licence of everything the job was made from, and every origin named, for the package.
struct OriginSummary {
    Licence strictest = Licence::MaySell;
    std::vector<std::string> lines; ///< "sign.svg, from the harbour office: free for own use"
};
OriginSummary originsOf(const Job& job);

/// Returns the pieces that came together with this one and are still there: of its word, or of its layer in a
/// drawing, in their order; a piece on its own, or one that was made or traced, alone.
std::vector<design::PieceId> groupOf(const Job& job, design::PieceId piece);

const Source* findSource(const Job& job, int number);

// ---- what belongs together -------------------------------------------------------------------------------

/// Makes pieces a set that keeps one scale; a piece leaves the set it was in.
/// Errors: InvalidArgument for fewer than two pieces, and for a piece that is not there.
base::Result<Job> withSet(const Job& job, const std::string& name,
                          const std::vector<design::PieceId>& pieces);
Job withoutSet(const Job& job, size_t set);
/// States a fit.
/// Errors: NotFound when a piece or its opening is not there; InvalidArgument for a clearance outside 0 to 20
///         mm.
base::Result<Job> withFit(const Job& job, const design::Fit& fit);
Job withoutFit(const Job& job, size_t fit);
/// Lets pieces have a scale of their own, or no longer.
Job withPiecesFree(const Job& job, const std::vector<design::PieceId>& pieces, bool areFree);

/// Returns how a fit of the job stands.
/// Errors: those of design::checkFit.
base::Result<design::FitState> fitStateOf(const Job& job, const design::Fit& fit,
                                          const base::Progress& progress = {});
/// Sizes a fit's inner piece so that it just fits.
/// Errors: Degenerate when nothing would fit.
base::Result<Job> withFitMade(const Job& job, size_t fit, const base::Progress& progress = {});

} // namespace thinline::document
