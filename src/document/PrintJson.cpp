// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/PrintJson.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace thinline::document {

std::string artEntry(int number) {
    return job::artId(number);
}
std::string keptArtEntry(int number) {
    return "kept/" + job::artId(number) + ".json";
}

std::vector<int> artInUse(const job::Job& job) {
    std::set<int> out;
    for (const auto& step : job.steps)
        if (const auto at = step->values.find("shows"); at != step->values.end())
            if (const auto* id = std::get_if<std::string>(&at->second))
                if (const auto number = job::artNumber(*id); number && job.art.contains(*number))
                    out.insert(*number);
    return {out.begin(), out.end()};
}

void putPrint(json& out, const job::Job& job) {
    const job::PrintPlan& plan = job.print;
    if (!(plan == job::PrintPlan{})) {
        json& print = out["print"];
        print = {{"stocks", plan.stocks},
                 {"printerMarginMm", plan.printerMarginMm},
                 {"marks", plan.hasMarks},
                 {"dpi", plan.dpi}};
        if (plan.standing)
            print["standing"] = {{"machine", plan.standing->machine},
                                 {"errorMm", {plan.standing->rightMm, plan.standing->downMm}},
                                 {"spreadMm", plan.standing->spreadMm},
                                 {"readings", plan.standing->readings},
                                 {"day", plan.standing->day}};
    }
    for (const int number : artInUse(job)) {
        json one = {{"number", number}};
        const job::FaceArt& art = *job.art.at(number);
        if (const auto* picture = std::get_if<job::PrintedPicture>(&art.what)) {
            one["picture"] = {{"fileName", picture->file->fileName},
                              {"mediaType", picture->file->mediaType},
                              {"sizePx", {picture->file->widthPx, picture->file->heightPx}}};
            one["origin"] = originJson(picture->origin);
        } else {
            const auto& text = std::get<job::PrintedText>(art.what);
            one["text"] = {{"words", text.text}, {"family", text.font.family}, {"style", text.font.style}};
        }
        out["art"].push_back(std::move(one));
    }
    if (job.nextArt > 1)
        out["next"]["art"] = job.nextArt;
}

namespace {

registration::StandingError standingOf(const json& in) {
    registration::StandingError out;
    out.machine = textOr(in, "machine");
    out.rightMm = numberIn(in.at("errorMm").at(0), -10, 10, "a standing error");
    out.downMm = numberIn(in.at("errorMm").at(1), -10, 10, "a standing error");
    out.spreadMm = numberOr(in, "spreadMm", 0, 0, 10, "the spread of readings");
    out.readings = static_cast<int>(numberOr(in, "readings", 0, 0, 1000, "a number of readings"));
    out.day = textOr(in, "day");
    return out;
}

job::FaceArt artOf(const json& in, int number, Unpacked& entries) {
    if (in.contains("picture")) {
        job::PrintedPicture out;
        out.file = artworkOf(in.at("picture"), artEntry(number), entries);
        if (in.contains("origin"))
            out.origin = originOf(in.at("origin"));
        return {std::move(out)};
    }
    const json& text = in.at("text");
    job::PrintedText out{
        text.at("words").get<std::string>(), {textOr(text, "family"), textOr(text, "style")}, nullptr};
    const auto kept = entries.find(keptArtEntry(number));
    if (kept == entries.end())
        throw BadJob{keptArtEntry(number) + " is missing"};
    out.letters = lettersOf(parsedWithin(kept->second, keptArtEntry(number)));
    return {std::move(out)};
}

} // namespace

void readPrint(const json& in, Unpacked& entries, job::Job& job) {
    constexpr int kMostNumber = 1'000'000'000;
    if (in.contains("print")) {
        const json& print = in.at("print");
        job::PrintPlan& plan = job.print;
        plan.stocks = print.value("stocks", std::set<std::string>());
        plan.printerMarginMm =
            numberOr(print, "printerMarginMm", plan.printerMarginMm, 0, 50, "a printer's margin");
        plan.hasMarks = flagOr(print, "marks", true);
        plan.dpi = numberOr(print, "dpi", plan.dpi, 72, 1200, "a resolution");
        if (print.contains("standing"))
            plan.standing = standingOf(print.at("standing"));
    }
    int highest = 0;
    for (const json& one : in.value("art", json::array())) {
        const int number = wholeIn(one.at("number"), 1, kMostNumber, "the number of a picture or text");
        if (!job.art.emplace(number, std::make_shared<const job::FaceArt>(artOf(one, number, entries)))
                 .second)
            throw BadJob{"two pictures or texts have the number " + std::to_string(number)};
        highest = std::max(highest, number);
    }
    const json next = in.value("next", json::object());
    job.nextArt =
        std::max(highest + 1, static_cast<int>(numberOr(next, "art", 1, 1, kMostNumber, "a number")));
}

} // namespace thinline::document
