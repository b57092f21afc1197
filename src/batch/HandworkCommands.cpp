// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is done to a picture by hand: parts taken out, gaps closed by a line, parts looked at by themselves, colours
// taken together. The picture is traced anew after each.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "job/SourceSteps.h"
#include "job/TraceSteps.h"
#include "trace/TakeOut.h"

#include <algorithm>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;

/// A picture of a job, by the option --of, and its recipe.
struct InHand {
    State state;
    design::SourceId of{};
    trace::Recipe recipe;
    const job::Source& source() const { return *job::findSource(state.job, of); }
};

const OptionSpec kOf{"--of", "SOURCE", "Which picture; without it the first one.", "", false};

base::Result<InHand> inHand(Session& session, const Options& options) {
    auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto called = options.has("--of") ? sourceCalled(*state, options["--of"])
                                            : base::Result<design::SourceId>(design::SourceId{});
    if (!called)
        return called.error();
    const job::Source* source = job::pictureSource(state->job, *called);
    if (!source)
        return Error{Code::NotFound, "This job has no picture."};
    return InHand{state.take(), source->id, std::get<job::Picture>(source->what).recipe};
}

base::Status tracedAnew(Session& session, const Options& options, const InHand& hand) {
    const auto pixels = job::pixelsOf(hand.state.job, hand.of);
    if (!pixels)
        return pixels.error();
    return keep(session, options,
                job::traced(hand.state.job, **pixels, hand.recipe, catalogue(), {}, hand.of), hand.state);
}

// ---- clear

CommandSpec clearSpec() {
    return {"clear",
            "JOB.thinline",
            "Takes something out of a picture of a job and traces it anew; places are those of the design.",
            {kOf,
             {"--box", "X,Y X,Y", "What lies between two corners.", "", false},
             {"--outside", "X,Y X,Y", "All but what lies between two corners.", "", false},
             {"--stroke", "X,Y X,Y ...", "What lies along a line.", "", false},
             {"--wide", "LENGTH", "How wide that line is.", "4mm", false},
             {"--blot", "X,Y", "What is connected with a place and of its colour.", "", false},
             {"--text", "", "Rows of small parts that look like text.", "", false},
             {"--second-copy", "", "The same figure where it is there twice.", "", false},
             {"--punch-holes", "", "Rounds at the edge that look like punch holes.", "", false},
             {"--bring-back", "", "Brings all back that was taken out.", "", false},
             kJobOption}};
}

base::Status clearCommand(Session& session, const Options& options) {
    auto found = inHand(session, options);
    if (!found)
        return found.error();
    InHand hand = found.take();
    if (options.has("--bring-back"))
        hand.recipe.erasures.clear();
    struct Way {
        const char* option;
        trace::Erasure::Kind kind;
        size_t least, most;
    };
    using Kind = trace::Erasure::Kind;
    for (const Way& way : {Way{"--box", Kind::Rectangle, 2, 2}, Way{"--outside", Kind::Outside, 2, 2},
                           Way{"--stroke", Kind::Brush, 1, 10'000}, Way{"--blot", Kind::Spill, 1, 1}}) {
        if (!options.has(way.option))
            continue;
        const auto points = pointsOf(way.option, options[way.option]);
        if (!points)
            return points.error();
        if (points->size() < way.least || points->size() > way.most)
            return Error{Code::InvalidArgument, std::string(way.option) + " takes " +
                                                    (way.most == 2 ? "two corners" : "a place") +
                                                    ", such as 10mm,25mm."};
        const auto width = base::parseLength(options["--wide"], base::LengthUnit::Millimetre);
        if (!width)
            return width.error();
        hand.recipe.erasures.push_back(
            job::erasureAt(hand.source(), way.kind, *points, way.kind == Kind::Brush ? width->inMm() : 0));
    }
    using Out = trace::TakeOut::Kind;
    for (const auto& asked :
         {std::pair{"--text", Out::Text}, {"--second-copy", Out::SecondCopy}, {"--punch-holes", Out::PunchHoles}}) {
        if (!options.has(asked.first))
            continue;
        const auto& picture = std::get<job::Picture>(hand.source().what);
        const auto offered = picture.tracing ? trace::proposedToTakeOut(*picture.tracing, job::mmPerPx(hand.source()),
                                                                      picture.recipe.mode)
                                           : std::vector<trace::TakeOut>{};
        const auto one = std::find_if(offered.begin(), offered.end(), [&](const auto& out) { return out.kind == asked.second; });
        if (one == offered.end())
            return Error{Code::NotFound, std::string("Nothing in this picture looks as ") + asked.first +
                                             " means; take it out by --box or --blot."};
        hand.recipe.erasures.insert(hand.recipe.erasures.end(), one->erasures.begin(), one->erasures.end());
        session.out << trace::takeOutText(*one) << ": taken out\n";
    }
    return tracedAnew(session, options, hand);
}

// ---- mend

CommandSpec mendSpec() {
    return {
        "mend",
        "JOB.thinline",
        "Helps the tracing of a picture of a job where it goes wrong; places are those of the design.",
        {kOf,
         {"--close", "X,Y X,Y", "Closes a gap by a line of ink between two places.", "", false},
         {"--reopen", "", "Takes the last such line back.", "", false},
         {"--part", "X,Y X,Y", "Tells ink from paper by itself between two corners.", "", false},
         {"--part-threshold", "0-254", "Brightness up to which a pixel of the last part is ink.", "", false},
         {"--drop-part", "", "Takes the last part back.", "", false},
         {"--merge", "COLOUR=COLOUR,...",
          "A colour of flat art that goes with another, such as #c84e31=#b03a20.", "", false},
         {"--part-colours", "", "Takes all such pairs apart again.", "", false},
         kJobOption}};
}

/// Two places an option names.
base::Result<std::pair<geometry::Point, geometry::Point>> twoPlaces(const Options& options,
                                                                    const std::string& name) {
    const auto points = pointsOf(name, options[name]);
    if (!points)
        return points.error();
    if (points->size() != 2)
        return Error{Code::InvalidArgument, name + " takes two places, such as \"10mm,20mm 12mm,20mm\"."};
    return std::pair{(*points)[0], (*points)[1]};
}

base::Status addMerges(const std::string& text, trace::Recipe& recipe) {
    for (const std::string& pair : partedByCommas(text)) {
        const auto equals = pair.find('=');
        const auto from = job::readColour(pair.substr(0, equals));
        const auto into = job::readColour(equals == std::string::npos ? "" : pair.substr(equals + 1));
        if (!from || !into)
            return Error{Code::InvalidArgument, "--merge is '" + text +
                                                    "'; it takes pairs of colours, such as "
                                                    "#c84e31=#b03a20."};
        recipe.merges.push_back({*from, *into});
    }
    return base::Done{};
}

/// Takes the last of something back.
template <class List>
base::Status dropLast(List& list, const char* what) {
    if (list.empty())
        return Error{Code::NotFound, std::string("There is no ") + what + " to be taken back."};
    list.pop_back();
    return base::Done{};
}

base::Status mended(const Options& options, InHand& hand) {
    trace::Recipe& recipe = hand.recipe;
    base::Status ok = base::Done{};
    if (options.has("--reopen"))
        ok = dropLast(recipe.closings, "closing line");
    if (ok && options.has("--drop-part"))
        ok = dropLast(recipe.ownParts, "part");
    if (!ok)
        return ok;
    if (options.has("--close")) {
        const auto ends = twoPlaces(options, "--close");
        if (!ends)
            return ends.error();
        recipe.closings.push_back(job::closingAt(hand.source(), ends->first, ends->second));
    }
    if (options.has("--part")) {
        const auto corners = twoPlaces(options, "--part");
        if (!corners)
            return corners.error();
        geometry::Box box;
        box.include(corners->first);
        box.include(corners->second);
        recipe.ownParts.push_back({job::partAt(hand.source(), box), {}});
    }
    if (options.has("--part-threshold")) {
        const auto value = numberBetween("--part-threshold", options["--part-threshold"], 0, 254);
        if (!value)
            return value.error();
        if (recipe.ownParts.empty())
            return Error{Code::InvalidArgument, "--part-threshold needs a part; mark one by --part."};
        recipe.ownParts.back().threshold = static_cast<int>(*value);
    }
    if (options.has("--part-colours"))
        recipe.merges.clear();
    return options.has("--merge") ? addMerges(options["--merge"], recipe) : ok;
}

base::Status mendCommand(Session& session, const Options& options) {
    auto found = inHand(session, options);
    if (!found)
        return found.error();
    InHand hand = found.take();
    const trace::Recipe before = hand.recipe;
    if (auto ok = mended(options, hand); !ok)
        return ok;
    if (hand.recipe == before)
        return Error{Code::InvalidArgument,
                     "Nothing was said to be mended; see 'thinline-batch mend --help'."};
    return tracedAnew(session, options, hand);
}

} // namespace

std::vector<Command> handworkCommands() {
    return {{clearSpec(), clearCommand}, {mendSpec(), mendCommand}};
}

} // namespace thinline::batch
