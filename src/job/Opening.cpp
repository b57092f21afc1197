// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Opening a file: what it is, and what is guessed about it.
//
// Files are known by their first bytes, never by their names. A PDF may be a drawing or a scan; that takes
// reading its first page, so the page is kept with the answer, and whoever opens it next does not read it
// again. Recognising, proposing and opening once read such a page three times.
//
// A picture's size is a guess in most cases. Resolutions in files are often a default that nobody set: a
// photo at 72 per inch would be three and a half metres wide. What states a size between 5 mm and 2 m is
// believed; everything else is taken as 200 mm wide, with a note that says so, because a size that was
// guessed silently ends as card in the bin. Pixels that are not square are kept as they are, with their
// aspect beside them.
//
// A drawing without a stated unit gets the commonest meaning and a question with the other ones, each with
// the size it would have.
//
// Nothing is decided here that could not be changed later at Source: how a picture is to be traced is a
// proposal, and the layers are those of the person's last job.
#include "job/Opening.h"

#include "formats/dxf/ReadDxf.h"
#include "formats/image/ImageFile.h"
#include "formats/svg/ReadSvg.h"
#include "job/SourceSteps.h"
#include "raster/Rectify.h"

#include <algorithm>
#include <array>
#include <map>
#include <string_view>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;

/// The head of a file as plain letters, also when it is UTF-16.
std::string headOf(const base::Bytes& file) {
    constexpr size_t kHead = 4096;
    std::string head;
    for (size_t i = 0; i < std::min(file.size(), kHead); ++i)
        if (file[i] != 0)
            head += static_cast<char>(file[i]);
    return head;
}

std::string_view textOf(const base::Bytes& file) {
    return {reinterpret_cast<const char*>(file.data()), file.size()};
}

FileKind kindOf(const base::Bytes& file) {
    const std::string head = headOf(file);
    const auto begins = [&](std::string_view with) { return head.compare(0, with.size(), with) == 0; };
    if (begins("%PDF-") || (head.find("%PDF-") < 1024 && !begins("<")))
        return FileKind::Pdf;
    if (begins("PK"))
        return FileKind::Job;
    const auto tag = head.find('<');
    if (tag != std::string::npos && tag < 8 &&
        (head.find("svg") != std::string::npos || head.find("<?xml") == tag))
        return FileKind::Svg;
    if (formats::dxf::looksLikeDxf(textOf(file)))
        return FileKind::Dxf;
    return FileKind::Picture; // the picture readers tell the rest
}

std::string withoutEnding(const std::string& fileName) {
    const auto dot = fileName.rfind('.');
    return dot == std::string::npos || dot == 0 ? fileName : fileName.substr(0, dot);
}

Error told(const std::string& fileName, const Error& error) {
    return error.code == Code::Cancelled ? error : Error{error.code, fileName + ": " + error.message};
}

/// A page of outlines, and how many there are.
struct Page {
    design::DrawnPage drawn;
    int pages = 1;
};

base::Result<base::PdfPage> drawnPage(const base::Bytes& file, int number, const base::PageReader* pages,
                                      const base::Progress& progress) {
    if (!pages)
        return Error{Code::Unsupported, "PDF files cannot be opened here; save the page as SVG or PNG."};
    return pages->page(file, number, progress);
}

base::Result<Page> pageOf(const Incoming& file, int number, const base::FontStore& fonts,
                          const base::Progress& progress) {
    const auto only = [](base::Result<design::DrawnPage> page) -> base::Result<Page> {
        return page ? base::Result<Page>(Page{page.take(), 1}) : page.error();
    };
    switch (file.is.kind) {
    case FileKind::Svg:
        return only(formats::svg::readSvg(textOf(file.bytes), {}, progress, &fonts));
    case FileKind::Dxf:
        return only(formats::dxf::readDxf(textOf(file.bytes), {}, progress));
    case FileKind::Pdf: {
        const bool isFirst = number == 0 && file.is.page;
        const auto page = isFirst ? *file.is.page : drawnPage(file.bytes, number, file.is.pages, progress);
        if (!page)
            return page.error();
        auto drawn = formats::svg::readSvg(page->svg, {}, progress, &fonts);
        if (!drawn)
            return drawn.error();
        Page out{drawn.take(), page->pages};
        for (design::DrawnItem& item : out.drawn.items)
            if (item.layer.starts_with("surface")) // the drawing library's own groups are no layers
                item.layer.clear();
        return out;
    }
    default:
        return Error{Code::Unsupported, "This is no drawing of outlines; SVG, DXF and PDF files are."};
    }
}

const char* mediaTypeOf(FileKind kind) {
    return kind == FileKind::Dxf ? kDxfType : kind == FileKind::Pdf ? "application/pdf" : "image/svg+xml";
}

} // namespace

Recognised recognise(const base::Bytes& file, const base::PageReader* pages, const base::Progress& progress) {
    Recognised out{kindOf(file)};
    out.isDrawing = out.kind == FileKind::Svg || out.kind == FileKind::Dxf;
    if (out.kind == FileKind::Pdf) {
        out.pages = pages;
        out.page = std::make_shared<const base::Result<base::PdfPage>>(drawnPage(file, 0, pages, progress));
        out.isDrawing =
            !*out.page || (*out.page)->hasVectors; // one that cannot be read is told by the reader
    }
    return out;
}

Job newJob(const Catalogue& catalogue) {
    Job job;
    job.stocks = catalogue.drawer;
    job.layers.push_back({LayerId{job.nextLayer++}, "backing", catalogue.backingStockId});
    job.plan.matId = catalogue.defaultMatId;
    job.plan.sheetId = catalogue.defaultSheetId;
    return job;
}

Job newJobFor(const std::string& fileName, const Job& before) {
    Job out;
    out.name = withoutEnding(fileName);
    out.unit = before.unit;
    out.stocks = before.stocks;
    out.layers = before.layers;
    out.nextLayer = before.nextLayer;
    out.plan = before.plan;
    out.plan.pins.clear();
    return out;
}

base::Result<OpenedPicture> pictureInto(Job job, const Incoming& file) {
    base::Bytes pixels = file.bytes;
    double statedWidthMm = 0;
    if (file.is.kind == FileKind::Pdf) { // a scanned page: its picture, as large as the page
        if (!*file.is.page)
            return told(file.name, file.is.page->error());
        pixels = (*file.is.page)->png;
        statedWidthMm = (*file.is.page)->widthMm;
    }
    auto decoded = formats::image::decode(pixels);
    if (!decoded)
        return told(file.name, decoded.error());
    constexpr double kUnstatedWidthMm =
        200; // about a sheet of letter or A4: a guess the person sees and changes
    OpenedPicture out{std::move(job), {}, {}};
    auto artwork = std::make_shared<Artwork>();
    artwork->fileName = file.name;
    artwork->mediaType = decoded->mediaType;
    artwork->bytes = std::move(pixels);
    artwork->widthPx = decoded->picture.width;
    artwork->heightPx = decoded->picture.height;
    double widthMm = 0;
    if (decoded->dpiX && decoded->dpiY) {
        artwork->pixelAspect = *decoded->dpiX / *decoded->dpiY;
        widthMm = decoded->picture.width / *decoded->dpiX * base::kMmPerInch;
    }
    if (statedWidthMm > 0)
        widthMm = statedWidthMm;
    // A tag may be believable and the size it yields still not: a photo of 10,000 px at 72 per inch is 3.5 m wide.
    constexpr double kMostMm = 2000, kLeastMm = 5;
    const double heightMm = widthMm * artwork->heightPx / artwork->widthPx;
    if (widthMm < kLeastMm || widthMm > kMostMm || heightMm > kMostMm) {
        out.note = widthMm > 0 || decoded->hadAbsurdDpi ? "The picture states a size that cannot be meant. "
                                                        : "The picture does not state its size. ";
        out.note += "I took 200 mm for its width; type the real one.";
        widthMm = kUnstatedWidthMm;
    }
    out.picture = std::make_shared<const raster::Picture>(std::move(decoded.take().picture));
    Source source;
    source.id = SourceId{out.job.nextSource++};
    source.unitMm = widthMm / artwork->widthPx;
    if (const std::string reduced = trace::whatIsLookedAt(out.picture->pixels(), source.unitMm);
        !reduced.empty())
        out.note += (out.note.empty() ? "" : " ") + reduced;
    Picture picture;
    out.kind = trace::kindOf(*out.picture);
    picture.recipe.mode = out.kind.mode;
    picture.recipe.isLightOnDark = out.kind.isLightOnDark;
    picture.file = std::move(artwork);
    picture.ground = out.job.layers.empty() ? LayerId{} : out.job.layers.front().id;
    source.what = std::move(picture);
    out.source = source.id;
    out.job = withSource(std::move(out.job), std::move(source));
    return out;
}

Job withKind(Job job, const trace::Kind& kind, SourceId picture) {
    const Source* before = findSource(job, picture);
    if (!asA<Picture>(before))
        return job;
    Source source = *before;
    trace::Recipe& recipe = std::get<Picture>(source.what).recipe;
    recipe.mode = kind.mode;
    recipe.isLightOnDark = kind.isLightOnDark;
    return withSource(std::move(job), std::move(source));
}

std::string whatItWasTakenFor(const trace::Kind& kind) {
    constexpr std::array kTaken{"a line drawing", "flat colours", "a photo"};
    return std::string("taken for ") + kTaken[static_cast<size_t>(kind.mode)] + ": " + kind.why;
}

base::Result<OpenedPicture> openPicture(const Job& before, const Incoming& file) {
    return pictureInto(newJobFor(file.name, before), file);
}

base::Result<std::shared_ptr<const raster::Picture>> pixelsOf(const Picture& picture) {
    auto decoded = formats::image::decode(picture.file->bytes);
    if (!decoded)
        return told(picture.file->fileName, decoded.error());
    raster::Picture pixels = std::move(decoded.take().picture);
    if (!picture.sheet)
        return std::make_shared<const raster::Picture>(std::move(pixels));
    const SheetInPhoto& sheet = *picture.sheet;
    const auto seen =
        raster::Seen::by(sheet.corners, sheet.bend, pixels.width, pixels.height, sheet.widthMm, sheet.heightMm);
    if (!seen)
        return told(picture.file->fileName, seen.error());
    return std::make_shared<const raster::Picture>(raster::rectified(pixels, *seen, sheet.pxPerMm));
}

base::Result<std::shared_ptr<const raster::Picture>> pixelsOf(const Job& job, SourceId of) {
    const auto* picture = asA<Picture>(pictureSource(job, of));
    if (!picture)
        return Error{Code::NotFound, "This job has no picture yet; open one at Source."};
    return pixelsOf(*picture);
}

base::Result<Noted> openDrawing(const Job& before, const Incoming& file, const Catalogue& catalogue,
                                const base::FontStore& fonts, const base::Progress& progress) {
    return withDrawing({newJobFor(file.name, before), {}}, file, catalogue, fonts, progress);
}

std::vector<UnitGuess> unitGuesses(const Source& source) {
    const auto* drawing = std::get_if<Drawing>(&source.what);
    if (!drawing || drawing->statesSize)
        return {};
    // The page as read counts 96 units to the inch; in DXF one unit is a millimetre.
    std::vector<UnitGuess> out;
    if (drawing->file->mediaType == kDxfType)
        out = {
            {"mm", "millimetres", 1, 1}, {"in", "inches", base::kMmPerInch, 0}, {"cm", "centimetres", 10, 0}};
    else
        out = {{"96", "96 to the inch", 1, 0},
               {"90", "90 to the inch", 96.0 / 90, 0},
               {"72", "72 to the inch", 96.0 / 72, 0}};
    for (UnitGuess& guess : out) {
        guess.heightMm = drawing->pageHeight * guess.widthMm;
        guess.widthMm *= drawing->pageWidth;
    }
    return out;
}

namespace {

/// As a job file keeps them.
std::vector<design::PieceLine> roundedLines(std::vector<design::PieceLine> lines) {
    for (design::PieceLine& line : lines)
        line.path = geometry::rounded({line.path, {}}, kKeptStep).outline;
    return lines;
}

} // namespace

base::Result<Source> drawingFrom(const Incoming& file, const design::TakeOptions& take,
                                 const base::FontStore& fonts, const base::Progress& progress) {
    auto read = pageOf(file, take.page, fonts, progress.part(0, 0.3));
    if (!read)
        return told(file.name, read.error());
    Page page = read.take();
    design::thinOut(page.drawn);
    constexpr size_t kMostLayers = 5000, kMostPieces = 100'000;
    const std::vector<design::DrawnLayer> layers = design::layersOf(page.drawn);
    if (layers.size() > kMostLayers)
        return told(file.name,
                    {Code::LimitExceeded, "The drawing has " + std::to_string(layers.size()) +
                                              " layers; up to 5000 are taken. Merge layers where it "
                                              "was drawn."});
    design::TakeOptions all = take;
    all.leftOut.clear(); // they stay with the source
    all.leftOutLines = take.leftOut;
    auto came = design::takenFrom(page.drawn, all, progress.part(0.3, 1));
    if (!came)
        return told(file.name, came.error());
    const design::TakenPage taken = came.take();
    if (taken.pieces.size() > kMostPieces)
        return told(file.name, {Code::LimitExceeded,
                                "There are more than 100000 pieces; leave layers out where it was drawn."});
    Drawing drawing;
    drawing.file =
        std::make_shared<const Artwork>(Artwork{file.name, mediaTypeOf(file.is.kind), file.bytes, 0, 0, 1});
    drawing.pageWidth = page.drawn.widthMm;
    drawing.pageHeight = page.drawn.heightMm;
    drawing.statesSize = drawing.isSettled = page.drawn.stated == design::StatedSize::Real;
    drawing.take = take;
    drawing.pages = page.pages;
    drawing.layers = layers;
    drawing.kinds = taken.kinds;
    std::vector<Found> found;
    int twice = 0;
    std::map<std::array<double, 4>, std::vector<size_t>> alike; // by box
    for (const design::DrawnPiece& piece : taken.pieces) {
        const geometry::Box box = geometry::bounds(piece.shape);
        auto& same = alike[{box.least.x, box.least.y, box.most.x, box.most.y}];
        if (std::any_of(same.begin(), same.end(), [&](size_t i) {
                const design::DrawnPiece& other = taken.pieces[i];
                return other.shape == piece.shape && other.layer == piece.layer &&
                       other.colour == piece.colour;
            })) {
            ++twice;
            continue;
        }
        same.push_back(static_cast<size_t>(&piece - taken.pieces.data()));
        found.push_back({std::to_string(drawing.nextPiece++),
                         std::make_shared<const design::Body>(design::Body{
                             geometry::rounded(piece.shape, kKeptStep), roundedLines(piece.lines)}),
                         piece.name, piece.layer, piece.colour});
    }
    Source out;
    out.kept = std::make_shared<const std::vector<Found>>(std::move(found));
    if (drawing.pages > 1)
        out.said =
            "page " + std::to_string(take.page + 1) + " of " + std::to_string(drawing.pages) + " is taken";
    if (twice > 0)
        out.said +=
            (out.said.empty() ? "" : "; ") +
            (twice == 1 ? std::string("one outline lay exactly on another and was taken once")
                        : std::to_string(twice) + " outlines lay exactly on others and were taken once");
    constexpr size_t kMostSaid = 8; // nobody reads more
    std::vector<std::string> sentences = taken.said;
    sentences.insert(sentences.end(), page.drawn.said.begin(), page.drawn.said.end());
    for (size_t i = 0; i < std::min(kMostSaid, sentences.size()); ++i)
        out.said += (out.said.empty() ? "" : "; ") + sentences[i];
    if (sentences.size() > kMostSaid)
        out.said += "; and " + std::to_string(sentences.size() - kMostSaid) + " more";
    out.what = std::move(drawing);
    return out;
}

} // namespace thinline::job
