// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Load.h"
#include "design/Machine.h"
#include "job/Source.h"

#include <nlohmann/json.hpp>

#include <array>
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

/// The small grammar of the job file; for this folder's readers and writers only. Readers throw BadJob or
/// json::exception; readJob turns both into an Error.
namespace thinline::document {

using json = nlohmann::ordered_json;

struct BadJob {
    std::string message;
};

/// The entries of a container by name; what is taken over is moved out.
using Unpacked = std::map<std::string, base::Bytes>;

/// Returns the value a text writes. Whatever the text holds, it takes no more than 512 MB and some seconds.
/// Errors: BadJob naming the entry: no JSON, deeper than 64 levels, more than fits.
json parsedWithin(const base::Bytes& text, const std::string& entry);

/// Returns the number of the format a file states.
/// Errors: BadJob when it states none.
double formatOf(const json& file);

inline constexpr int kMostScraps = 1'000'000; ///< the highest number one may have
json pointJson(geometry::Point p);
json ringsJson(const geometry::Polygons& rings);
geometry::Polygons ringsOf(const json& value);
/// A scrap of a job or of a drawer; only the numbers it has.
json scrapJson(const design::Scrap& scrap);
/// Errors: BadJob for what is no scrap.
design::Scrap scrapOf(const json& in);
/// What of mats stays free of cuts, {mat: [[x, y, width, height]]}; nothing is written where there is none.
void putKeepOuts(json& out, const std::map<std::string, std::vector<geometry::Box>>& keepOuts);
std::map<std::string, std::vector<geometry::Box>> keepOutsOf(const json& in);
json lineJson(const geometry::Line& line);
json originJson(const job::Origin& origin);
json wordJson(const lettering::Recipe& word);
json lettersJson(const lettering::Letters& letters);
std::shared_ptr<const lettering::Letters> lettersOf(const json& in);
double numberIn(const json& value, double least, double most, const char* what);
int wholeIn(const json& value, int least, int most, const char* what);
geometry::Point pointOf(const json& value);
json pieceLineJson(const design::PieceLine& line);
design::PieceLine pieceLineOf(const json& in);
geometry::Line lineOf(const json& value);
raster::Rgb colourOf(const json& value);
geometry::Shape shapeOf(const json& value);
design::PieceId pieceOf(const json& value);
job::Origin originOf(const json& in);
lettering::Recipe wordOf(const json& in);

/// A number that may be absent.
inline double numberOr(const json& in, const char* key, double usual, double least, double most,
                       const char* what) {
    return in.contains(key) ? numberIn(in.at(key), least, most, what) : usual;
}
inline std::string textOr(const json& in, const char* key, const std::string& usual = "") {
    return in.contains(key) ? in.at(key).get<std::string>() : usual;
}
inline bool flagOr(const json& in, const char* key, bool usual) {
    return in.contains(key) ? in.at(key).get<bool>() : usual;
}

/// Writes the values of declared parameters under their names, and reads them back; an absent one takes its usual
/// value. Ranges are the panel's and are not held here: sizing may have led beyond them.
void putValues(json& out, const std::vector<base::Parameter>& parameters, const std::vector<double>& values);
std::vector<double> valuesOf(const json& in, const std::vector<base::Parameter>& parameters);

/// How a picture is traced, and what was found in it.
json recipeJson(const trace::Recipe& recipe);
json tracingJson(const trace::Tracing& tracing);
trace::Recipe recipeOf(const json& in);
trace::Tracing tracingOf(const json& in);

/// Facts of a drawing that need no pieces.
json drawingJson(const job::Drawing& drawing);
job::Drawing drawingOf(const json& in, std::shared_ptr<const job::Artwork> file);
std::shared_ptr<const job::Artwork> artworkOf(const json& in, const std::string& entry, Unpacked& entries);

/// The entries that belong to a source.
std::string keptEntry(design::SourceId id);
std::string artworkEntry(design::SourceId id);

/// The loads of an arrangement; none when `placed` says of a piece that it is not there.
std::optional<std::vector<design::Load>>
loadsOf(const json& in, const std::function<std::optional<design::PlacedPiece>(const json&)>& placed);

/// The words for what zones are.
inline constexpr std::array<const char*, 5> kZoneWords = {"glue", "foam", "keep-free", "keep-whole", "way"};

/// The words for where layers lie.
inline constexpr std::array<const char*, 3> kPlaces = {"front", "behind", "back"};

json stocksJson(const std::vector<design::Stock>& stocks);
json machineJson(const design::Machine& machine);
design::Machine machineOf(const json& in);
std::vector<design::Stock> stocksOf(const json& in);
design::SheetFormat ownSheetOf(const json& in);

/// The place of a word among those an enum is written in.
template <class Enum, size_t N>
Enum wordIn(const json& in, const std::array<const char*, N>& words, const char* what) {
    const std::string word = in.get<std::string>();
    for (size_t i = 0; i < N; ++i)
        if (word == words[i])
            return static_cast<Enum>(i);
    throw BadJob{std::string(what) + " '" + word + "' is not known"};
}

} // namespace thinline::document
