// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Report.h"
#include "formats/svg/WriteDrawing.h"
#include "job/SourceSteps.h"
#include "job/TraceSteps.h"
#include "raster/Turn.h"

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;

CommandSpec traceSpec() {
    return {
        "trace",
        "IN",
        "Traces a picture into layers that can be cut: a line drawing, flat colour art, or a photo in tones.",
        {{"--mode", "MODE",
          "lineart: every area enclosed by ink a piece. flat: every area of one colour a piece. photo: "
          "layers "
          "of tone, darker on lighter.",
          "lineart", false},
         {"--build", "BUILD",
          "Of a line drawing: areas-on-backing (the filled silhouette below) or ink-on-top (the areas run on "
          "under the ink).",
          "areas-on-backing", false},
         {"--colours", "N", "Colours of flat art, 2 to 32, or auto.", "auto", false},
         {"--take-colour", "COLOUR", "A colour of flat art to be found besides those found by themselves.",
          "", false},
         {"--colours-from", "COPY",
          "A coloured copy of a line drawing: every area takes the colour it has there.", "", false},
         {"--turn", "DEGREES",
          "Turns the picture clockwise first, -45 to 45; auto lays its straight edges level.", "0", false},
         {"--folds-below", "LENGTH",
          "Lines of a drawing thinner than this are folds and part no areas; 0 for none.", "0", false},
         {"--dashes", "cut|fold", "What rows of dashes in a drawing are.", "cut", false},
         {"--not-cut", "COLOUR", "A colour of flat art that stays out, such as #ffffff.", "", false},
         {"--tones", "N", "Tones of a photo, 2 to 8.", "5", false},
         {"--neck", "LENGTH", "Nothing in a photo's layers, and no gap, is narrower.", "1.5mm", false},
         {"--bridges", "LENGTH",
          "Loose parts of a photo's layers this near to the rest are joined to it; 0 for none.", "0", false},
         {"--stack", "HOW",
          "Of flat art: inlay (edge to edge, neighbours share their curves) or stacked (a lower piece runs "
          "on "
          "under the upper by the tuck).",
          "inlay", false},
         {"--tuck", "LENGTH", "How far a lower piece runs on under an upper one.", "0.6mm", false},
         {"--clearance", "LENGTH", "Room taken off every area on all sides.", "0mm", false},
         {"--width", "LENGTH",
          "Real width of the whole picture, such as 240mm or 9.5in. Without it the picture's own resolution "
          "counts, or 8 pixels per mm where it states none.",
          "", false},
         {"--px-per-mm", "N", "Pixels of the picture per mm, instead of its width.", "", false},
         {"--min-area", "AREA", "Smaller areas join their surroundings, smaller specks of ink vanish.",
          "0.5mm2", false},
         {"--close-gaps", "LENGTH",
          "Gaps between ends of lines up to this are closed; off leaves them and tells of them.", "2mm",
          false},
         {"--threshold", "0-254", "Brightness up to which a pixel is ink. Without it chosen automatically.",
          "", false},
         {"--smoothness", "0-1.3", "0 keeps every corner, 1.3 rounds them all.", "1", false},
         {"--out", "OUT.svg",
          "Writes the layers as one drawing as large as the picture: of a line drawing the backing, the ink "
          "and "
          "the areas, else one group per colour, lowest first.",
          "", false},
         {"--job", "OUT.thinline", "Writes the job, to be opened in the window or arranged on sheets.", "",
          false},
         {"--report", "REPORT.json", "Writes layers, pieces, nodes, sizes, gaps, findings and seconds.", "",
          false}}};
}

/// One of the words an option takes, by its place.
base::Result<size_t> choice(const Options& options, const std::string& name,
                            const std::vector<std::string>& words) {
    std::string all;
    for (size_t i = 0; i < words.size(); ++i) {
        if (options[name] == words[i])
            return i;
        all += (i ? i + 1 == words.size() ? " or " : ", " : "") + words[i];
    }
    return Error{Code::InvalidArgument,
                 "The " + name.substr(2) + " '" + options[name] + "' is not known; use " + all + "."};
}

/// Adds the colour an option names, if it does.
base::Status addColour(const Options& options, const std::string& name, std::vector<raster::Rgb>& into) {
    if (!options.has(name))
        return base::Done{};
    const auto colour = job::readColour(options[name]);
    if (!colour)
        return Error{Code::InvalidArgument, colour.error().message};
    into.push_back(*colour);
    return base::Done{};
}

base::Status addFolds(const Options& options, trace::Recipe& recipe) {
    const auto folds = lengthOrZero(options["--folds-below"]);
    const auto dashes = choice(options, "--dashes", {"cut", "fold"});
    if (!folds || !dashes)
        return !folds ? folds.error() : dashes.error();
    recipe.foldsBelowMm = *folds;
    recipe.dashesFold = *dashes == 1;
    return base::Done{};
}

base::Result<trace::Recipe> recipeOf(const Options& options) {
    trace::Recipe recipe;
    const auto mode = choice(options, "--mode", {"lineart", "flat", "photo"});
    const auto build = choice(options, "--build", {"areas-on-backing", "ink-on-top"});
    const auto stack = choice(options, "--stack", {"inlay", "stacked"});
    if (!mode || !build || !stack)
        return !mode ? mode.error() : !build ? build.error() : stack.error();
    recipe.mode = static_cast<trace::Mode>(*mode);
    recipe.build = static_cast<trace::Build>(*build);
    recipe.stacking = static_cast<trace::Stacking>(*stack);
    const auto number = [&](const char* name, double least, double most, auto& into) -> base::Status {
        const auto value = numberBetween(name, options[name], least, most);
        if (!value)
            return value.error();
        into = static_cast<std::remove_reference_t<decltype(into)>>(*value);
        return base::Done{};
    };
    base::Status ok = number("--smoothness", 0, 1.3, recipe.smoothness);
    if (ok)
        ok = number("--tones", 2, 8, recipe.tones);
    if (ok && options["--turn"] != "auto")
        ok = number("--turn", -45, 45, recipe.turnDeg);
    if (ok && options["--colours"] != "auto")
        ok = number("--colours", 2, trace::kMostColours, recipe.colours);
    int threshold = 0;
    if (ok && options.has("--threshold")) {
        ok = number("--threshold", 0, 254, threshold);
        recipe.threshold = threshold;
    }
    if (!ok)
        return ok.error();
    const auto area = base::parseAreaMm2(options["--min-area"]);
    const auto tuck = lengthOrZero(options["--tuck"]), neck = lengthOrZero(options["--neck"]),
               bridges = lengthOrZero(options["--bridges"]);
    if (!area || !tuck || !neck || !bridges)
        return !area ? area.error() : !tuck ? tuck.error() : !neck ? neck.error() : bridges.error();
    recipe.bridgesMm = *bridges;
    if (auto folds = addFolds(options, recipe); !folds)
        return folds.error();
    recipe.leastAreaMm2 = *area;
    recipe.tuckMm = *tuck;
    recipe.neckMm = *neck;
    if (options["--close-gaps"] != "off") {
        const auto gap = lengthOrZero(options["--close-gaps"]);
        if (!gap)
            return gap.error();
        recipe.widestGapMm = *gap;
    }
    if (auto named = addColour(options, "--take-colour", recipe.picked); !named)
        return named.error();
    if (auto named = addColour(options, "--not-cut", recipe.notCut); !named)
        return named.error();
    return recipe;
}

/// The picture's real width, from what was said, what it states, or by default.
base::Result<double> widthOf(Session& session, const Options& options, const job::OpenedPicture& opened) {
    if (options.has("--width")) {
        const auto width = base::parseLength(options["--width"], base::LengthUnit::Millimetre);
        if (!width)
            return width.error();
        return width->inMm();
    }
    double pxPerMm = 8;
    if (options.has("--px-per-mm")) {
        const auto given = numberBetween("--px-per-mm", options["--px-per-mm"], 0.01, 1000);
        if (!given)
            return given.error();
        pxPerMm = *given;
    } else if (opened.note.empty()) {
        return job::sourceWidthMm(*job::pictureSource(opened.job));
    } else {
        session.out << "The picture does not say how large it is: taken as 8 pixels per mm, "
                    << base::formatNumber(opened.picture->width / pxPerMm, 1)
                    << " mm wide. Give its width, such as --width 240mm.\n";
    }
    return opened.picture->width / pxPerMm;
}

/// What was traced, where it lies in the picture.
std::vector<formats::svg::NamedGroup> groupsOf(const State& state) {
    const job::Source& source = *job::pictureSource(state.job);
    const auto& picture = std::get<job::Picture>(source.what);
    const geometry::Transform map = source.map();
    const auto back = geometry::Transform::move({-map.e, -map.f});
    std::vector<formats::svg::NamedGroup> out;
    const bool isLines = picture.recipe.mode == trace::Mode::LineDrawing;
    if (isLines) {
        const raster::Rgb colour = design::colourOf(state.job.stocks, catalogue().backingStockId);
        const bool isInkCut = picture.recipe.build == trace::Build::InkOnTop;
        const auto add = [&](const std::string& id, const std::string& title,
                             const std::vector<geometry::Shape>& shapes) {
            out.push_back({id, title, {}, colour});
            for (size_t i = 0; i < shapes.size(); ++i)
                out.back().shapes.push_back({id + "-" + std::to_string(i + 1),
                                             title + " " + std::to_string(i + 1),
                                             geometry::transformed(shapes[i], map.then(back))});
        };
        add("backing", isInkCut ? "backing, not cut" : "backing", picture.tracing->backing);
        add("ink", isInkCut ? "ink" : "ink, not cut", picture.tracing->ink);
    }
    // The areas, bottom layer first, and the lines on them.
    const design::Stack& work = *state.made.work();
    std::vector<geometry::Line> folds;
    for (const design::Layer& layer : work.layers) {
        formats::svg::NamedGroup group{design::layerGroup(work, layer),
                                       design::layerName(work, layer),
                                       {},
                                       design::colourOf(work.stocks, layer.stockId)};
        for (const design::Laid* laid : work.in(layer.id)) {
            if (!job::isArea(laid->id().foundKey()))
                continue;
            if (!isLines) // by the picture's own colour
                for (const trace::Area& area : picture.tracing->areas)
                    if (group.shapes.empty() && area.number == job::areaNumber(laid->id().foundKey())) {
                        group.fill = area.colour;
                        group.id = "colour-" + raster::hexOf(area.colour);
                    }
            group.shapes.push_back({formats::svg::pieceElement(laid->id()), design::pieceName(work, *laid),
                                    geometry::transformed(laid->shape(), back)});
            for (const design::PieceLine& line : laid->piece.body->lines)
                folds.push_back(geometry::transformed(line.path, back));
        }
        if (!group.shapes.empty())
            out.push_back(std::move(group));
    }
    if (!folds.empty())
        out.push_back({"folds", "folds, to be scored", {}, {}, std::move(folds)});
    return out;
}

/// The picture with its real width, room and the turn that was asked for.
base::Result<job::Job> preparedJob(Session& session, const Options& options, const job::OpenedPicture& opened,
                                   trace::Recipe& recipe) {
    const auto clearance = lengthOrZero(options["--clearance"]);
    if (!clearance)
        return clearance.error();
    const auto width = widthOf(session, options, opened);
    if (!width)
        return width.error();
    if (options["--turn"] == "auto") {
        recipe.turnDeg = raster::skewOf(*opened.picture);
        session.out << "turned by " << base::formatNumber(recipe.turnDeg, 2) << " degrees\n";
    }
    auto job = job::withSourceWidth(opened.job, job::pictureSource(opened.job)->id, *width);
    return job ? job::withRoom(*job, *clearance) : job;
}

base::Result<job::Job> tracedAs(Session& session, const Options& options, const job::Job& job,
                                const raster::Picture& pixels, const trace::Recipe& recipe) {
    auto traced = job::traced(job, pixels, recipe, catalogue());
    // A closed gap may uncover another one behind it.
    constexpr int kRounds = 3;
    for (int round = 0; traced && round < kRounds && options["--close-gaps"] != "off"; ++round) {
        const std::vector<size_t> gaps = job::closableLeaks(*traced);
        if (gaps.empty())
            break;
        traced = job::withGapsClosed(*traced, pixels, gaps, catalogue());
    }
    if (!traced || !options.has("--colours-from"))
        return traced;
    const auto copy = session.store.read(options["--colours-from"], base::kMostFileBytes);
    if (!copy)
        return copy.error();
    return job::colouredFrom(*traced, *copy, fileOf(options["--colours-from"]), catalogue());
}

std::string counted(size_t count, const std::string& thing) {
    return std::to_string(count) + " " + thing + (count == 1 ? "" : "s");
}

base::Status traceCommand(Session& session, const Options& options) {
    const auto asked = recipeOf(options);
    if (!asked)
        return asked.error();
    trace::Recipe recipe = *asked;
    auto bytes = session.store.read(options.operand, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    const job::Recognised is = job::recognise(*bytes);
    if (is.isDrawing)
        return Error{Code::InvalidArgument, fileOf(options.operand) +
                                                " is a drawing of outlines, there is nothing to "
                                                "trace; take it in by 'thinline-batch import'."};
    auto opened = job::openPicture(job::newJob(catalogue()), {*bytes, fileOf(options.operand), is});
    if (!opened)
        return opened.error();
    const auto job = preparedJob(session, options, *opened, recipe);
    if (!job)
        return job.error();
    auto state = madeOf(tracedAs(session, options, *job, *opened->picture, recipe));
    if (!state)
        return state.error();
    const job::Source& source = *job::pictureSource(state->job);
    const auto& picture = std::get<job::Picture>(source.what);
    if (picture.tracing->bridges > 0)
        session.out << counted(static_cast<size_t>(picture.tracing->bridges), "bridge") << "\n";
    if (!picture.tracing->folds.empty())
        session.out << counted(picture.tracing->folds.size(), "fold") << "\n";
    if (!picture.recipe.closings.empty())
        session.out << counted(picture.recipe.closings.size(), "gap") << " closed\n";
    if (options.has("--out"))
        if (auto written = writeText(
                session, options["--out"],
                formats::svg::writeGroups(groupsOf(*state),
                                          {{0, 0}, {job::sourceWidthMm(source), job::sourceHeightMm(source)}},
                                          state->job.name));
            !written)
            return written;
    if (options.has("--job"))
        if (auto saved = saveState(session, options["--job"], *state); !saved)
            return saved;
    return conclude(session, *state, options);
}

} // namespace

std::vector<Command> traceCommands() {
    return {{traceSpec(), traceCommand}};
}

} // namespace thinline::batch
