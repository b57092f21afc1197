// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Job.h"

#include <nlohmann/json.hpp>

#include <array>
#include <map>
#include <string>

/// The small grammar of the job file, and its sources; for JobFile.cpp only. Readers throw BadJob or
/// json::exception; readJob turns both into an Error.
namespace thinline::document {

using json = nlohmann::ordered_json;

struct BadJob {
    std::string message;
};

json pointJson(geometry::Point p);
double numberIn(const json& value, double least, double most, const char* what);
int wholeIn(const json& value, int least, int most, const char* what);
geometry::Point pointOf(const json& value);
raster::Rgb colourOf(const json& value);
geometry::Shape shapeOf(const json& value);

/// Writes the values of declared parameters under their names, and reads them back.
void putValues(json& out, const std::vector<base::Parameter>& parameters, const std::vector<double>& values);
std::vector<double> valuesOf(const json& in, const std::vector<base::Parameter>& parameters);

/// How a picture is traced, and what was found in it.
json recipeJson(const trace::Recipe& recipe);
json tracingJson(const trace::Tracing& tracing);
trace::Recipe recipeOf(const json& in);
trace::Tracing tracingOf(const json& in);

/// The place of a word among those an enum is written in.
template <class Enum, size_t N>
Enum wordIn(const json& in, const std::array<const char*, N>& words, const char* what) {
    const std::string word = in.get<std::string>();
    for (size_t i = 0; i < N; ++i)
        if (word == words[i])
            return static_cast<Enum>(i);
    throw BadJob{std::string(what) + " '" + word + "' is not known"};
}

std::shared_ptr<const Artwork> artworkOf(const json& in, std::map<std::string, base::Bytes>& entries);

/// The entry that holds a drawing's own file.
std::string sourceEntry(int source);
/// Writes sources, origins, sets and fits.
void putSources(json& out, const Job& job);
/// Reads them; a file of format 2 has none.
void takeSources(Job& job, const json& in, std::map<std::string, base::Bytes>& entries);

/// Up to format 2 a drawing of outlines was kept as the areas of a tracing.
bool isOldDrawing(const Job& job);
/// Turns such a job into one with a drawing as its source; paint, copies, steps and pins follow their pieces.
void modernise(Job& job, const json& in);

} // namespace thinline::document
