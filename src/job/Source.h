// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "construct/Construction.h"
#include "construct/Figures.h"
#include "design/Drawing.h"
#include "design/Stack.h"
#include "lettering/Word.h"
#include "trace/Tracing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

/// What a job starts from: a traced picture, drawings of outlines, words, figures by measure, constructions. Each is a recipe that
/// can be opened again, with the pieces it led to; these keep their keys, so that what was built on them is built
/// anew.
namespace thinline::job {

using design::LayerId;
using design::PieceId;
using design::SourceId;

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

/// One piece as its source found it. Its outline is in the source's own units: pixels of a picture, mm of a page as
/// the file has it, mm of a word or a figure when it was made. They never change by sizing.
struct Found {
    std::string key;
    std::shared_ptr<const design::Body> body;
    std::string name;
    std::string group = {}; ///< the layer of a drawing it lies in
    std::optional<raster::Rgb> colour = {};
    geometry::Transform frame = {}; ///< from coordinates of its own, a letter's, to the source's
};
/// How finely a found outline is kept, in its source's own units: a unit may be an inch or a centimetre.
inline constexpr double kKeptStep = 1e-6;
inline constexpr int kKeptDecimals = 6;
using FoundPieces = std::shared_ptr<const std::vector<Found>>;

/// A sheet in a photo, by which the photo is laid straight.
struct SheetInPhoto {
    std::array<geometry::Point, 4> corners{}; ///< px of the photo: upper left, upper right, lower right, lower left
    double bend = 0;                          ///< of the lens, as raster::Seen has it
    double widthMm = 0, heightMm = 0;         ///< its real size, as it lies in the photo
    double pxPerMm = 1;                       ///< with which it is laid straight

    int widthPx() const { return std::max(1, static_cast<int>(std::lround(widthMm * pxPerMm))); }
    int heightPx() const { return std::max(1, static_cast<int>(std::lround(heightMm * pxPerMm))); }
    bool operator==(const SheetInPhoto&) const = default;
};

/// A picture to trace. Its own unit is the pixel.
struct Picture {
    std::shared_ptr<const Artwork> file;
    std::optional<SheetInPhoto> sheet; ///< the picture is what lies within it, laid straight
    /// Of what is looked at: the file's own pixels, or those of the sheet in it.
    int widthPx() const { return sheet ? sheet->widthPx() : file->widthPx; }
    int heightPx() const { return sheet ? sheet->heightPx() : file->heightPx; }
    double pixelAspect() const { return sheet ? 1 : file->pixelAspect; }
    trace::Recipe recipe; ///< lengths in mm of the finished work
    double roomMm = 0;    ///< taken off every area on all sides, so that more of the lines shows
    std::shared_ptr<const trace::Tracing> tracing; ///< null until traced
    std::vector<trace::GoneArea> gone;             ///< areas that were there once
    int nextArea = 1;                              ///< the number the next new area gets
    LayerId ground{}, ink{};                       ///< where backing and ink lie, whichever there is
};

/// A drawing of outlines. Its own unit is the mm of its page, as the file states it or at 96 units to the inch.
struct Drawing {
    std::shared_ptr<const Artwork> file;
    double pageWidth = 0, pageHeight = 0; ///< own units
    int pages = 1;                        ///< of the file
    bool statesSize = true;
    bool isSettled = true; ///< its size is the file's own, or the person has said which it is
    design::TakeOptions take;
    std::vector<design::DrawnLayer> layers;
    std::vector<design::LineKind> kinds; ///< of its lines, as they were taken
    struct GonePiece {
        std::string key, name; ///< the name of the item it was
        geometry::Point inside;
    };
    std::vector<GonePiece> gone; ///< pieces that were there once, on this page
    int nextPiece = 1;
};

/// Letters of a word, each with a number it keeps when the word is retyped.
struct Sign {
    std::string text;
    int number = 0;
    bool operator==(const Sign&) const = default;
};
struct Word {
    lettering::Recipe recipe;
    std::shared_ptr<const lettering::Letters> letters; ///< null in a job of format 3: made when it is retyped
    std::vector<Sign> signs;                           ///< with ink, from left to right
    int nextSign = 1;
};

struct Figure {
    construct::Recipe recipe;
};

/// A work from measures, of several pieces.
struct Construction {
    construct::Given given;
};

inline constexpr size_t kMostJoints = 1000;

/// What a job starts from, one of several.
struct Source {
    SourceId id{};
    std::variant<Picture, Drawing, Word, Figure, Construction> what;
    Origin origin;
    geometry::Point at;  ///< where its own origin lies, mm in the design
    double turnRad = 0;  ///< clockwise on screen, about its own origin
    double unitMm = 1;   ///< how large one of its own units is
    double stretchY = 1; ///< a stretch given on purpose: heights times this
    FoundPieces kept = std::make_shared<const std::vector<Found>>();
    std::map<std::string, LayerId> lies; ///< where its pieces were proposed to lie, by key
    LayerId layer{};                     ///< where those lie for which nothing was proposed
    std::vector<std::string> joints; ///< of a work that is folded up, in the order in which they are closed; others follow
    std::string said; ///< what the person should know: a typeface that was missing, parts that were skipped

    /// How it is spoken of: "the word HARBOUR", "a heart", "sign.svg".
    std::string name() const;
    /// From its own units to the design.
    geometry::Transform map() const;
    /// Of its taken pieces, mm in the design.
    geometry::Box box() const;
    /// Whether a found piece is taken: a drawing's layers may be left out.
    bool takes(const Found& found) const;
    PieceId pieceId(const Found& found) const { return PieceId::found(id, found.key); }
};

/// Returns what one of a kind is, or null.
template <class Kind>
const Kind* asA(const Source* source) {
    return source ? std::get_if<Kind>(&source->what) : nullptr;
}

/// Returns whether a key is that of an area of a picture, not of its backing or ink.
bool isArea(const std::string& key);
bool isInk(const std::string& key);
/// Returns the number of a picture's area by its key; 0 for any other.
int areaNumber(const std::string& key);
std::string areaKey(int number);

/// Returns the pieces a tracing comes to: areas with their folds, on the backing or under the ink.
std::vector<Found> piecesOfTracing(const trace::Tracing& tracing, trace::Build build);
/// Returns a word's recipe as its letters are set before its source stretches them.
lettering::Recipe unstretched(lettering::Recipe recipe, double stretchY);
/// Returns the pieces a set word comes to.
std::vector<Found> piecesOfWord(const lettering::Word& word, const std::vector<Sign>& signs);

/// Returns the signs of a retyped word: letters that stay in their order keep their numbers, others get new ones.
/// Source: longest common subsequence.
std::vector<Sign> carriedSigns(const std::vector<Sign>& before, const lettering::Letters& letters, int& next);

} // namespace thinline::job
