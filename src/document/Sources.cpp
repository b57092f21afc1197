// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/Sources.h"

#include "base/Length.h"
#include "document/DiskFontStore.h"
#include "formats/dxf/ReadDxf.h"
#include "formats/pdf/ReadPdf.h"
#include "formats/svg/ReadSvg.h"
#include "trace/Layers.h"

#include <algorithm>
#include <array>
#include <string_view>

namespace thinline::document {
namespace {

using base::Code;
using base::Error;

struct LicenceWords {
    Licence licence;
    const char* word;
    const char* text;
};
constexpr std::array kLicences{LicenceWords{Licence::Unknown, "unknown", "licence not known"},
                               LicenceWords{Licence::Own, "own", "own work"},
                               LicenceWords{Licence::FreeForOwnUse, "own use", "free for own use"},
                               LicenceWords{Licence::MaySell, "may sell", "may be sold"}};

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

base::Result<design::DrawnPage> pageOf(const base::Bytes& file, int page, const base::FontStore& fonts,
                                       const base::Progress& progress) {
    switch (kindOf(file)) {
    case FileKind::Svg:
        return formats::svg::readSvg(textOf(file), {}, progress, &fonts);
    case FileKind::Dxf:
        return formats::dxf::readDxf(textOf(file), {}, progress);
    case FileKind::Pdf: {
        auto svg = formats::pdf::pageAsSvg(file, page);
        if (!svg)
            return svg.error();
        return formats::svg::readSvg(*svg, {}, progress, &fonts);
    }
    default:
        return Error{Code::Unsupported, "This is no drawing of outlines; SVG, DXF and PDF files are."};
    }
}

const char* mediaTypeOf(FileKind kind) {
    return kind == FileKind::Dxf   ? "image/vnd.dxf"
           : kind == FileKind::Pdf ? "application/pdf"
                                   : "image/svg+xml";
}

} // namespace

std::string licenceWord(Licence licence) {
    return kLicences[static_cast<size_t>(licence)].word;
}
std::string licenceText(Licence licence) {
    return kLicences[static_cast<size_t>(licence)].text;
}
std::optional<Licence> licenceOf(const std::string& word) {
    for (const LicenceWords& l : kLicences)
        if (word == l.word)
            return l.licence;
    return std::nullopt;
}

std::string Source::name() const {
    if (const auto* drawing = std::get_if<Drawing>(&recipe))
        return drawing->file ? drawing->file->fileName : "a drawing";
    if (const auto* word = std::get_if<lettering::Recipe>(&recipe))
        return "the word " + word->text;
    std::string label = construct::infoOf(std::get<construct::Recipe>(recipe).figure).label;
    label[0] = static_cast<char>(label[0] - 'A' + 'a');
    return label;
}

bool Source::takes(const SourcePiece& piece) const {
    const auto* drawing = std::get_if<Drawing>(&recipe);
    return !drawing || !drawing->take.leftOut.contains(piece.layer);
}

geometry::Box Source::box() const {
    geometry::Box out;
    for (const SourcePiece& piece : pieces)
        if (takes(piece))
            out.include(geometry::bounds(piece.shape));
    return out;
}

std::vector<UnitGuess> unitGuesses(const Source& source) {
    const auto* drawing = std::get_if<Drawing>(&source.recipe);
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
        guess.heightMm = drawing->pageHeightMm * guess.widthMm;
        guess.widthMm *= drawing->pageWidthMm;
    }
    return out;
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

bool isDrawing(const base::Bytes& file) {
    const FileKind kind = kindOf(file);
    if (kind != FileKind::Pdf)
        return kind == FileKind::Svg || kind == FileKind::Dxf;
    const auto facts = formats::pdf::factsOf(file);
    return !facts || facts->hasVectors; // one that cannot be read is told by the drawing's reader
}

base::Result<Source> drawingFrom(const base::Bytes& file, const std::string& fileName, int number,
                                 const design::TakeOptions& take, const base::FontStore& fonts,
                                 const base::Progress& progress) {
    const auto told = [&](const Error& error) {
        return error.code == Code::Cancelled ? error : Error{error.code, fileName + ": " + error.message};
    };
    auto page = pageOf(file, take.page, fonts, progress.part(0, 0.3));
    if (!page)
        return told(page.error());
    design::TakeOptions all = take; // pieces of layers left out are kept too, so that they can be taken later
    all.leftOut.clear();
    const auto pieces = design::piecesOf(*page, all, progress.part(0.3, 1));
    if (!pieces)
        return told(pieces.error());
    Source out;
    out.number = number;
    const FileKind kind = kindOf(file);
    Drawing drawing;
    drawing.file = std::make_shared<const Artwork>(Artwork{fileName, mediaTypeOf(kind), file, 0, 0, 1});
    drawing.pageWidthMm = page->widthMm;
    drawing.pageHeightMm = page->heightMm;
    drawing.statesSize = drawing.isSettled = page->stated == design::StatedSize::Real;
    drawing.take = take;
    if (kind == FileKind::Pdf)
        if (const auto facts = formats::pdf::factsOf(file, take.page))
            drawing.pages = facts->pages;
    drawing.layers = design::layersOf(*page);
    for (const design::DrawnPiece& piece : *pieces) {
        if (out.pieces.size() + 1 >= static_cast<size_t>(design::kBlockOfSource))
            return told(Error{Code::LimitExceeded,
                              "There are more than a million pieces; leave layers out where it was drawn."});
        out.pieces.push_back({design::allOfSource(number) + static_cast<int>(out.pieces.size()) + 1,
                              trace::keptShape(piece.shape), piece.name, piece.layer, piece.colour});
    }
    if (drawing.pages > 1)
        out.said =
            "page " + std::to_string(take.page + 1) + " of " + std::to_string(drawing.pages) + " is taken";
    out.recipe = std::move(drawing);
    for (const std::string& said : page->said)
        out.said += (out.said.empty() ? "" : "; ") + said;
    return out;
}

base::Result<Source> wordOf(const lettering::Recipe& recipe, int number, const base::FontStore& fonts,
                            const base::Progress& progress) {
    auto font = lettering::findFont(fonts, recipe.font, kPlainFont);
    if (!font)
        return font.error();
    auto typeface = lettering::Typeface::open(font->file);
    if (!typeface)
        return typeface.error();
    auto word = lettering::setWord(*typeface, recipe, progress);
    if (!word)
        return word.error();
    Source out;
    out.number = number;
    out.recipe = recipe;
    for (const lettering::WordPiece& piece : word->pieces)
        out.pieces.push_back(
            {design::allOfSource(number) + piece.index, trace::keptShape(piece.shape), piece.name, {}, {}});
    out.said = font->said;
    for (const std::string& said : word->said)
        out.said += (out.said.empty() ? "" : "; ") + said;
    return out;
}

base::Result<Source> figureOf(const construct::Recipe& recipe, int number) {
    auto shape = construct::make(recipe);
    if (!shape)
        return shape.error();
    Source out;
    out.number = number;
    out.recipe = recipe;
    out.pieces.push_back(
        {design::allOfSource(number) + 1, trace::keptShape(shape.take()), "the " + out.name(), {}, {}});
    return out;
}

} // namespace thinline::document
