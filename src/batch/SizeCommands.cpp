// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Report.h"
#include "job/SizeAnswers.h"

#include <nlohmann/json.hpp>

#include <numbers>
#include <optional>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::Sized;
using job::State;
using json = nlohmann::ordered_json;

OptionSpec marginsSpec() {
    return {"--margins-grow", "",
            "Margins (offsets, overlaps, tuck, clearances) grow along; otherwise they stay.", "", false};
}

CommandSpec sizeSpec() {
    return {
        "size",
        "JOB.thinline",
        "Gives the finished design an exact size, or the largest for a mat, a sheet, a number of copies or "
        "an object.",
        {{"--width", "LENGTH", "Width of the design; the height follows unless it is given too.", "", false},
         {"--height", "LENGTH", "Height of the design; the width follows unless it is given too.", "", false},
         {"--fit", "FORMAT",
          "Largest that fits: " + idsOf(catalogue().formats.mats) + ", " + idsOf(catalogue().formats.sheets) +
              ". Pieces are turned any way if the job lets them.",
          "", false},
         {"--copies", "COUNT",
          "Largest at which so many copies of all pieces go onto one sheet of the job's plan.", "", false},
         {"--sheets", "COUNT", "Onto so many sheets instead.", "1", false},
         {"--circle", "LENGTH", "Largest inside a circle of this diameter.", "", false},
         {"--room", "LENGTH", "Kept free all round inside the circle.", "0", false},
         {"--frame", "WIDTHxHEIGHT",
          "Largest inside a frame, by its inner width and height, such as 200x150mm or \"8 x 10 in\".", "",
          false},
         {"--no-frame", "", "Forgets the frame it was sized for.", "", false},
         {"--depth", "LENGTH", "Brings the lifts down to the frame's depth.", "0", false},
         marginsSpec(),
         {"--job", "OUT.thinline", "Where to write the job; without it the same file.", "", false}}};
}

CommandSpec fitSpec() {
    return {"fit",
            "JOB.thinline",
            "Tells for every mat and sheet the largest size at which every piece fits, and what limits it.",
            {marginsSpec(), {"--json", "", "As JSON on standard output.", "", false}}};
}

base::Result<State> loadWithPieces(Session& session, const std::string& path) {
    auto state = loadState(session, path);
    if (state && !state->made.work())
        return Error{Code::Degenerate, path + " has no pieces yet; trace its picture first."};
    return state;
}

job::SizeOptions sizeOptions(const Options& options) {
    return {options.has("--margins-grow")};
}

base::Result<Sized> withTypedSize(const State& state, const Options& options) {
    std::optional<double> width, height;
    for (const auto& [name, size] : {std::pair{"--width", &width}, std::pair{"--height", &height}}) {
        if (!options.has(name))
            continue;
        const auto length = base::parseLength(options[name], base::LengthUnit::Millimetre);
        if (!length)
            return length.error();
        *size = length->inMm();
    }
    if (width && height)
        return job::withSize(state, *width, *height, sizeOptions(options));
    return width ? job::withWidth(state, *width, sizeOptions(options))
                 : job::withHeight(state, *height, sizeOptions(options));
}

base::Result<Sized> withFrame(const State& state, const Options& options) {
    const auto size = base::parseSize(options["--frame"], base::LengthUnit::Millimetre);
    if (!size)
        return Error{Code::InvalidArgument, "--frame: " + size.error().message};
    const auto depth = lengthOrZero(options["--depth"]);
    if (!depth)
        return depth.error();
    auto answer =
        job::withinFrame(state, {size->width.inMm(), size->height.inMm(), *depth}, sizeOptions(options));
    if (!answer)
        return answer.error();
    return std::move(answer.take().sized);
}

base::Result<Sized> sizedAs(const State& state, const Options& options) {
    if (options.has("--no-frame"))
        return Sized{{job::withoutFrame(state.job), state.made}, {}};
    if (options.has("--fit")) {
        auto sized = job::withLargestOn(state, options["--fit"], catalogue().formats, sizeOptions(options));
        if (!sized && sized.error().code == Code::NotFound)
            return Error{Code::InvalidArgument, "There is no mat or sheet '" + options["--fit"] +
                                                    "'; choose from " + idsOf(catalogue().formats.mats) +
                                                    ", " + idsOf(catalogue().formats.sheets) + "."};
        return sized;
    }
    if (options.has("--copies")) {
        const auto copies = numberBetween("--copies", options["--copies"], 1, 999);
        if (!copies)
            return copies.error();
        const auto over = numberBetween("--sheets", options["--sheets"], 1, 999);
        if (!over)
            return over.error();
        auto answer = job::withCopiesOnSheet(state, {}, static_cast<int>(*copies), static_cast<int>(*over),
                                             catalogue().formats, sizeOptions(options));
        if (!answer)
            return answer.error();
        return std::move(answer.take().sized);
    }
    if (options.has("--circle")) {
        const auto diameter = base::parseLength(options["--circle"], base::LengthUnit::Millimetre);
        const auto room = lengthOrZero(options["--room"]);
        if (!diameter || !room)
            return !diameter ? diameter.error() : room.error();
        return job::withinCircle(state, diameter->inMm(), *room, sizeOptions(options));
    }
    if (options.has("--frame"))
        return withFrame(state, options);
    return withTypedSize(state, options);
}

base::Status sizeCommand(Session& session, const Options& options) {
    int ways = options.has("--width") || options.has("--height") ? 1 : 0;
    for (const char* way : {"--fit", "--copies", "--circle", "--frame", "--no-frame"})
        ways += options.has(way) ? 1 : 0;
    if (ways != 1)
        return Error{Code::InvalidArgument, "Say how large: --width, --height or both, or one of --fit, "
                                            "--copies, --circle, --frame and --no-frame alone."};
    const auto state = loadWithPieces(session, options.operand);
    if (!state)
        return state.error();
    const auto sized = sizedAs(*state, options);
    if (!sized)
        return sized.error();
    if (!sized->told.empty())
        session.out << sized->told << "\n";
    if (auto saved =
            saveState(session, options.has("--job") ? options["--job"] : options.operand, sized->state);
        !saved)
        return saved;
    return conclude(session, sized->state, options);
}

base::Status fitCommand(Session& session, const Options& options) {
    const auto state = loadWithPieces(session, options.operand);
    if (!state)
        return state.error();
    const geometry::Box box = job::workBox(state->made);
    json rows = json::array();
    const auto largest = job::largestOnEach(*state, catalogue().formats, sizeOptions(options));
    if (!largest)
        return largest.error();
    for (const job::PlaceFit& place : *largest) {
        if (!place.whyNot.empty()) {
            rows.push_back({{"id", place.id}, {"name", place.name}, {"whyNot", place.whyNot}});
            if (!options.has("--json"))
                session.out << place.name << ": " << place.whyNot << "\n";
            continue;
        }
        rows.push_back({{"id", place.id},
                        {"name", place.name},
                        {"usableMm", {place.usableWidthMm, place.usableHeightMm}},
                        {"scale", place.scale},
                        {"sizeMm", {place.widthMm, place.heightMm}},
                        {"limitedBy", design::pieceName(*state->made.work(), place.fit.limitedBy)},
                        {"by", place.fit.isWidthLimit ? "width" : "height"},
                        {"turnedDegrees", place.fit.turnRad * 180 / std::numbers::pi}});
        if (!options.has("--json"))
            session.out << place.name << ": "
                        << base::formatSize(place.widthMm, place.heightMm, base::LengthUnit::Millimetre)
                        << ", " << base::formatNumber(place.scale, 3) << " times as now, limited by "
                        << place.limit << "\n";
    }
    const auto copies = job::copiesFromSheet(*state, {}, catalogue().formats);
    if (!copies)
        return copies.error();
    if (options.has("--json"))
        session.out << json{{"job", state->job.name},
                            {"sizeMm", {box.width(), box.height()}},
                            {"copiesFromOneSheet", *copies},
                            {"fits", rows}}
                           .dump(2)
                    << "\n";
    else
        session.out << "from one sheet of the plan: "
                    << (*copies > 0 ? std::to_string(*copies) + (*copies == 1 ? " copy" : " copies") +
                                          " of every piece"
                                    : "not even one of every piece")
                    << "\n";
    return base::Done{};
}

} // namespace

std::vector<Command> sizeCommands() {
    return {{sizeSpec(), sizeCommand}, {fitSpec(), fitCommand}};
}

} // namespace thinline::batch
