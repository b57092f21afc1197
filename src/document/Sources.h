// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "construct/Figures.h"
#include "design/Drawing.h"
#include "design/Stack.h"
#include "lettering/Word.h"

#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

/// What a job starts from beside its traced picture: drawings of outlines, words, figures by measure. Each is
/// a recipe that can be opened again; its pieces keep their numbers, so that what was built on them is built
/// anew.
namespace thinline::document {

/// What may be done with something brought in.
enum class Licence { Unknown, Own, FreeForOwnUse, MaySell };
/// "unknown", "own", "own use", "may sell": in files and reports.
std::string licenceWord(Licence licence);
/// A sentence's worth: "free for own use".
std::string licenceText(Licence licence);
std::optional<Licence> licenceOf(const std::string& word);

/// Where something came from.
struct Origin {
    std::string from; ///< in the person's words: a name, a page, a book
    Licence licence = Licence::Unknown;

    bool operator==(const Origin&) const = default;
};

/// The media type of DXF files.
inline constexpr const char* kDxfType = "image/vnd.dxf";

/// A file brought in, kept byte for byte.
struct Artwork {
    std::string fileName; ///< without folders
    std::string mediaType;
    base::Bytes bytes;
    int widthPx = 0; ///< 0 for outlines
    int heightPx = 0;
    double pixelAspect = 1; ///< height of a pixel over its width; 1 but for fax-like pictures
};

/// A drawing of outlines.
struct Drawing {
    std::shared_ptr<const Artwork> file;
    double pageWidthMm = 0, pageHeightMm = 0; ///< as the file states it, else at 96 units to the inch
    int pages = 1;                            ///< of the file
    bool statesSize = true;
    bool isSettled = true; ///< its size is the file's own, or the person has said which it is
    double scale = 1;      ///< of the page, as settled
    design::TakeOptions take;
    std::vector<design::DrawnLayer> layers;
};

/// One piece of a source.
struct SourcePiece {
    design::PieceId id = 0;
    geometry::Shape shape; ///< mm from the source's own origin
    std::string name;
    std::string layer;
    std::optional<raster::Rgb> colour;
};

struct Source {
    int number = 1; ///< from 1; its pieces are in the block of that number
    std::variant<Drawing, lettering::Recipe, construct::Recipe> recipe;
    geometry::Point
        at; ///< where its own origin lies in the design, mm at the design's scale 1. A word's origin is
            ///< the left end of its baseline, a figure's and a page's their upper left corner
    std::string stockId; ///< of pieces that are not painted yet
    Origin origin;
    std::vector<SourcePiece> pieces;
    std::string said; ///< what the person should know: a typeface that was missing, parts that were skipped

    /// How it is spoken of: "the word HARBOUR", "a heart", "sign.svg".
    std::string name() const;
    /// Of its taken pieces, mm from its own origin.
    geometry::Box box() const;
    bool takes(const SourcePiece& piece) const;
};

/// How large a drawing would be if its units meant this.
struct UnitGuess {
    std::string unit;  ///< "96", "90", "72" units to the inch; "mm", "cm", "in"
    std::string label; ///< "96 to the inch", "millimetres"
    double widthMm = 0, heightMm = 0;
};
/// Returns the guesses for a drawing that states no real size: 96, 90 and 72 to the inch; for DXF
/// millimetres, inches and centimetres. Empty for any other source.
/// Source: 96 by SVG and CSS; 90 and 72 from memory.
std::vector<UnitGuess> unitGuesses(const Source& source);

/// What kind of file some bytes are, by what they hold.
enum class FileKind { Picture, Svg, Dxf, Pdf, Job };
FileKind kindOf(const base::Bytes& file);
/// Whether a file is to be taken as a drawing of outlines: SVG, DXF, a PDF whose first page draws vectors.
bool isDrawing(const base::Bytes& file);

// ---- making -----------------------------------------------------------------------------------------------
// Each returns a source with its pieces; nothing is placed or painted yet.

/// Returns the drawing in a file of outlines.
/// Errors: Unsupported for a file of another kind; those of the readers, led by the file's name; Cancelled.
base::Result<Source> drawingFrom(const base::Bytes& file, const std::string& fileName, int number,
                                 const design::TakeOptions& take, const base::FontStore& fonts,
                                 const base::Progress& progress = {});
/// Returns a word; the nearest typeface is taken when the wanted one is missing, and said.
base::Result<Source> wordOf(const lettering::Recipe& recipe, int number, const base::FontStore& fonts,
                            const base::Progress& progress = {});
base::Result<Source> figureOf(const construct::Recipe& recipe, int number);

} // namespace thinline::document
