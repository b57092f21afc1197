// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "formats/svg/WriteDrawing.h"
#include "job/SheetInPhoto.h"
#include "job/SourceSteps.h"
#include "job/TraceSteps.h"
#include "raster/Colour.h"
#include "raster/Turn.h"
#include "trace/TakeOut.h"

#include <sstream>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;

CommandSpec traceSpec() {
    return {
        "trace",
        "IN|JOB.thinline",
        "Traces a picture into layers that can be cut: a line drawing, flat colour art, or a photo in tones.",
        {{"--mode", "MODE",
          "lineart: every area enclosed by ink a piece. flat: every area of one colour a piece. photo: "
          "layers "
          "of tone, darker on lighter. auto chooses and says why.",
          "auto", false},
         {"--invert", "yes|no|auto", "Whether the lines of a drawing are lighter than their ground.", "auto", false},
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
         {"--rectify", "SIZE",
          "The picture is the photo of a sheet: A3 to A6, letter, legal, or such as 200x150mm. It is laid straight at this "
          "size, the table left out.",
          "", false},
         {"--corners", "X,Y X,Y X,Y X,Y",
          "The sheet's corners in pixels of the photo, from the upper left one clockwise; without them they are found.", "",
          false},
         {"--folds-below", "LENGTH",
          "Lines of a drawing thinner than this are folds and part no areas; 0 for none.", "0", false},
         {"--dashes", "cut|fold", "What rows of dashes in a drawing are.", "cut", false},
         {"--dark-part", "unsaid|shadow|paint",
          "Of flat art and line drawings: what a part is in which all colours are darker by one factor. Unsaid: as it was said of "
          "the job's picture before; else a shadow where paint does no such thing and over the paper of a drawing, or paint, and "
          "it is told.",
          "unsaid", false},
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
          "Gaps between ends of lines up to this are closed; off leaves them and tells of them.", "3mm",
          false},
         {"--threshold", "0-254", "Brightness up to which a pixel is ink. Without it chosen automatically.",
          "", false},
         {"--smoothness", "0-1.3", "0 keeps every corner, 1.3 rounds them all.", "1", false},
         {"--part", "X,Y X,Y", "Only what lies between two corners, from the picture's upper left one.", "",
          false},
         {"--erase-box", "X,Y X,Y", "Takes out what lies between two corners, from the picture's upper left one.", "",
          false},
         {"--close", "X,Y X,Y", "Closes a gap of a line drawing by a line between two places, from the upper left corner.",
          "", false},
         {"--into", "JOB.thinline", "Adds the picture to this job, to the right of what is there.", "",
          false},
         {"--again", "SOURCE",
          "Of a job: traces this picture once more beside its first tracing, in its own place.", "", false},
         {"--of", "SOURCE", "Of a job: traces this picture anew instead of the first one.", "", false},
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
    const auto mode = choice(options, "--mode", {"lineart", "flat", "photo", "auto"});
    const auto invert = choice(options, "--invert", {"no", "yes", "auto"});
    const auto build = choice(options, "--build", {"areas-on-backing", "ink-on-top"});
    const auto stack = choice(options, "--stack", {"inlay", "stacked"});
    const auto dark = choice(options, "--dark-part", {"unsaid", "shadow", "paint"});
    if (!mode || !build || !stack || !invert)
        return !mode ? mode.error() : !build ? build.error() : !stack ? stack.error() : invert.error();
    if (!dark)
        return dark.error();
    recipe.darkPart = static_cast<trace::DarkPart>(*dark);
    if (*mode <= static_cast<size_t>(trace::Mode::Photo))
        recipe.mode = static_cast<trace::Mode>(*mode);
    recipe.isLightOnDark = *invert == 1;
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
        return job::sourceWidthMm(*job::findSource(opened.job, opened.source));
    } else {
        session.out << "The picture does not say how large it is: taken as 8 pixels per mm, "
                    << base::formatNumber(opened.picture->width / pxPerMm, 1)
                    << " mm wide. Give its width, such as --width 240mm.\n";
    }
    return opened.picture->width / pxPerMm;
}

/// What was traced, where it lies in the picture.
std::vector<formats::svg::NamedGroup> groupsOf(const State& state, const job::Source& source) {
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
            if (laid->id().source() != source.id || !job::isArea(laid->id().foundKey()))
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
                                   bool isNew, trace::Recipe& recipe) {
    const auto clearance = lengthOrZero(options["--clearance"]);
    if (!clearance)
        return clearance.error();
    const bool saysWidth = options.has("--width") || options.has("--px-per-mm");
    const auto width =
        (isNew && !options.has("--rectify")) || saysWidth
            ? widthOf(session, options, opened)
            : base::Result<double>(job::sourceWidthMm(*job::findSource(opened.job, opened.source)));
    if (!width)
        return width.error();
    if (options["--turn"] == "auto") {
        recipe.turnDeg = raster::skewOf(*opened.picture);
        session.out << "turned by " << base::formatNumber(recipe.turnDeg, 2) << " degrees\n";
    }
    auto job = job::withSourceWidth(opened.job, opened.source, *width);
    if (!job)
        return job;
    const job::Source& source = *job::findSource(*job, opened.source);
    for (const auto& [name, kind] : {std::pair{"--part", trace::Erasure::Kind::Outside},
                                     {"--erase-box", trace::Erasure::Kind::Rectangle}}) {
        if (!options.has(name))
            continue;
        const auto corners = pointsOf(name, options[name]);
        if (!corners || corners->size() != 2)
            return Error{Code::InvalidArgument,
                         std::string(name) + " takes two corners, such as \"10mm,20mm 60mm,80mm\"."};
        const double pxPerMm = 1 / job::mmPerPx(source);
        recipe.erasures.push_back({kind, {(*corners)[0] * pxPerMm, (*corners)[1] * pxPerMm}, 0});
    }
    if (options.has("--close")) {
        const auto ends = pointsOf("--close", options["--close"]);
        if (!ends || ends->size() != 2)
            return Error{Code::InvalidArgument, "--close takes two places, such as \"10mm,20mm 11mm,20mm\"."};
        recipe.closings.push_back(job::closingInPicture(source, (*ends)[0], (*ends)[1]));
    }
    return job::withRoom(*job, *clearance, opened.source);
}

base::Result<job::Job> tracedAs(Session& session, const Options& options, const job::Job& job,
                                const raster::Picture& pixels, const trace::Recipe& recipe,
                                design::SourceId of) {
    const bool closesGaps = recipe.mode == trace::Mode::LineDrawing && options["--close-gaps"] != "off";
    auto traced = closesGaps ? job::tracedGapless(job, pixels, recipe, catalogue(), {}, of)
                             : job::traced(job, pixels, recipe, catalogue(), {}, of);
    if (!traced || !options.has("--colours-from"))
        return traced;
    const auto copy = session.store.read(options["--colours-from"], base::kMostFileBytes);
    if (!copy)
        return copy.error();
    return job::colouredFrom(*traced, *copy, fileOf(options["--colours-from"]), catalogue(), {}, of);
}

/// A picture to trace, the state it came into, and whether it came in by a file.
struct ToTrace {
    job::OpenedPicture opened;
    State before;
    bool isNew = true;
};

/// A picture of a job that is there.
base::Result<ToTrace> pictureOf(const State& state, const Options& options) {
    ToTrace out{{state.job, {}, {}}, state, false};
    const bool isAgain = options.has("--again");
    const job::Source* source = job::pictureSource(state.job);
    if (isAgain || options.has("--of")) {
        const auto called = sourceCalled(state, options[isAgain ? "--again" : "--of"]);
        if (!called)
            return called.error();
        source = job::findSource(state.job, *called);
    }
    if (!job::asA<job::Picture>(source))
        return Error{Code::InvalidArgument, "There is no such picture in this job to be traced."};
    auto pixels = job::pixelsOf(std::get<job::Picture>(source->what));
    if (!pixels)
        return pixels.error();
    out.opened.picture = pixels.take();
    out.opened.source = source->id;
    if (isAgain) {
        auto again = job::withPictureAgain(state.job, source->id);
        if (!again)
            return again.error();
        out.opened.job = again.take();
        out.opened.source = out.opened.job.sources.back()->id;
    }
    return out;
}

/// What somebody did to a picture by hand holds when it is traced another way.
void keepHandiwork(trace::Recipe before, const raster::Picture& pixels, const Options& options,
                   trace::Recipe& recipe) {
    if (options["--turn"] == "0")
        recipe.turnDeg = before.turnDeg;
    else if (options["--turn"] != "auto")
        before = trace::turnedTo(std::move(before), recipe.turnDeg, pixels.width, pixels.height);
    recipe.erasures.insert(recipe.erasures.begin(), before.erasures.begin(), before.erasures.end());
    recipe.closings = before.closings;
    recipe.ownParts = before.ownParts;
    recipe.merges = before.merges;
    if (options["--dark-part"] == "unsaid")
        recipe.darkPart = before.darkPart;
    recipe.picked.insert(recipe.picked.begin(), before.picked.begin(), before.picked.end());
    recipe.notCut.insert(recipe.notCut.begin(), before.notCut.begin(), before.notCut.end());
}

base::Result<ToTrace> pictureToTrace(Session& session, const Options& options) {
    auto bytes = session.store.read(options.operand, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    const job::Recognised is = job::recognise(*bytes, &session.pages);
    if (is.kind == job::FileKind::Job) {
        auto state = loadState(session, options.operand);
        return state ? pictureOf(*state, options) : base::Result<ToTrace>(state.error());
    }
    if (options.has("--again") || options.has("--of"))
        return Error{Code::InvalidArgument, "--again and --of are for a job; " + fileOf(options.operand) +
                                                " is a picture. Add it to a job by --into."};
    if (is.isDrawing)
        return Error{Code::InvalidArgument, fileOf(options.operand) +
                                                " is a drawing of outlines, there is nothing to "
                                                "trace; take it in by 'thinline-batch import'."};
    const job::Incoming file{*bytes, fileOf(options.operand), is};
    ToTrace out;
    if (options.has("--into")) {
        auto state = loadState(session, options["--into"]);
        if (!state)
            return state.error();
        out.before = state.take();
    }
    auto opened = options.has("--into") ? job::withPicture(out.before, file)
                                        : job::openPicture(job::newJob(catalogue()), file);
    if (!opened)
        return opened.error();
    out.opened = opened.take();
    return out;
}

/// What was left to be chosen is chosen as the picture is: by what it shows when it comes in, later as it was traced before.
void chooseByKind(Session& session, const Options& options, const ToTrace& trace, trace::Recipe& recipe) {
    const auto& picture = std::get<job::Picture>(job::findSource(trace.opened.job, trace.opened.source)->what);
    if (options["--mode"] == "auto") {
        recipe.mode = picture.recipe.mode;
        if (trace.isNew) {
            constexpr const char* kSay[] = {"lineart", "flat", "photo"};
            const auto mode = static_cast<size_t>(recipe.mode);
            session.out << job::whatItWasTakenFor(trace.opened.kind) << "; --mode " << kSay[mode == 0 ? 1 : 0] << " or " << kSay[mode == 2 ? 1 : 2] << " for another way\n";
        }
    }
    if (options["--invert"] == "auto") {
        recipe.isLightOnDark = picture.recipe.isLightOnDark;
        if (trace.isNew && recipe.isLightOnDark && recipe.mode == trace::Mode::LineDrawing)
            session.out << "light lines on a dark ground; --invert no takes the dark for ink\n";
    }
}

/// The two sides of a sheet, by its name or measures.
base::Result<std::pair<double, double>> sheetSize(const std::string& said) {
    for (const job::PaperSize& paper : job::kPaperSizes)
        if (said == paper.name)
            return std::pair{paper.widthMm, paper.heightMm};
    const size_t times = said.find('x');
    const auto width = base::parseLength(said.substr(0, times), base::LengthUnit::Millimetre),
               height = times == std::string::npos
                            ? width
                            : base::parseLength(said.substr(times + 1), base::LengthUnit::Millimetre);
    if (times == std::string::npos || !width || !height)
        return Error{Code::InvalidArgument, "The sheet '" + said +
                                                "' is not known; say A3, A4, A5, A6, letter, legal or such as 200x150mm."};
    return std::pair{width->inMm(), height->inMm()};
}

base::Result<std::optional<std::array<geometry::Point, 4>>> cornersOf(const Options& options) {
    if (!options.has("--corners"))
        return std::optional<std::array<geometry::Point, 4>>{};
    std::array<geometry::Point, 4> out{};
    std::istringstream in(options["--corners"]);
    char comma = 0;
    for (geometry::Point& p : out)
        if (!(in >> p.x >> comma >> p.y) || comma != ',')
            return Error{Code::InvalidArgument,
                         "--corners takes four places in pixels, such as \"80,60 900,75 910,1180 70,1190\"."};
    return std::optional(out);
}

/// Takes the picture for the photo of a sheet, if that is asked for.
base::Status layStraight(Session& session, const Options& options, ToTrace& trace) {
    if (!options.has("--rectify"))
        return base::Done{};
    if (options.has("--width") || options.has("--px-per-mm"))
        return Error{Code::InvalidArgument, "--rectify says how large the sheet is; leave --width and --px-per-mm out."};
    const auto size = sheetSize(options["--rectify"]);
    const auto corners = cornersOf(options);
    if (!size || !corners)
        return !size ? size.error() : corners.error();
    job::OpenedPicture& opened = trace.opened;
    job::Picture photo = std::get<job::Picture>(job::findSource(opened.job, opened.source)->what);
    photo.sheet.reset();
    const auto whole = job::pixelsOf(photo);
    if (!whole)
        return whole.error();
    const auto sheet = job::sheetIn(**whole, size->first, size->second, *corners);
    if (!sheet)
        return sheet.error();
    auto laid = job::withSheetInPhoto(opened.job, *sheet, opened.source);
    if (!laid)
        return laid.error();
    opened.job = laid.take();
    const auto pixels = job::pixelsOf(opened.job, opened.source);
    if (!pixels)
        return pixels.error();
    opened.picture = *pixels;
    opened.kind = trace::kindOf(*opened.picture);
    opened.job = job::withKind(std::move(opened.job), opened.kind, opened.source);
    session.out << "a sheet of " << base::formatNumber(sheet->widthMm, 1) << " x "
                << base::formatNumber(sheet->heightMm, 1) << " mm, corners at";
    for (const geometry::Point corner : sheet->corners)
        session.out << " " << base::formatNumber(corner.x, 1) << "," << base::formatNumber(corner.y, 1);
    session.out << "; laid straight with " << base::formatNumber(sheet->pxPerMm, 1) << " pixels to the millimetre\n";
    return base::Done{};
}

/// A colour to be left out that is not in the picture left nothing out.
void tellColoursNotThere(Session& session, const job::Picture& picture) {
    for (const raster::Rgb& colour : picture.recipe.notCut) {
        std::string there;
        bool isThere = false;
        for (const raster::Rgb& one : picture.tracing->palette) {
            isThere = isThere || raster::colourDistance(one, colour) < trace::kNamedColour;
            there += (there.empty() ? "" : ", ") + job::colourText(one);
        }
        if (!isThere)
            session.out << "nothing was left out for " << job::colourText(colour)
                        << ": the picture has no such colour; it has " << there << "\n";
    }
}

/// Colours that became no piece, with what to do about it.
void tellLost(Session& session, const job::Picture& picture, double mmPerPx) {
    for (const trace::LostColour& one : picture.tracing->lost)
        session.out << "the colour " << job::colourText(one.colour) << " is in no piece: "
                    << base::formatNumber(one.areaPx * mmPerPx * mmPerPx, 1) << " mm² in all, first "
                    << base::formatNumber(one.place.x * mmPerPx, 1) << ", " << base::formatNumber(one.place.y * mmPerPx, 1)
                    << " mm from the upper left corner"
                    << (one.isSmall ? "; its parts are too small, say --min-area for smaller ones\n"
                                    : "; to keep it say --take-colour " + job::colourText(one.colour) + "\n");
}

/// What was done about a shadow, with how to have it otherwise.
void tellShadow(Session& session, const job::Picture& picture, double mmPerPx) {
    const auto& shadow = picture.tracing->shadow;
    if (shadow && picture.recipe.darkPart != trace::DarkPart::Paint)
        session.out << trace::shadowText(*shadow, mmPerPx)
                    << (shadow->isTakenOut ? " Say --dark-part paint to leave it.\n" : " Say --dark-part shadow or paint.\n");
}

/// What is probably not of the motif, with how to take it out.
void tellTakeOut(Session& session, const job::Picture& picture, double mmPerPx) {
    static constexpr const char* kOptions[]{"--text", "--second-copy", "--punch-holes"};
    for (const trace::TakeOut& one : trace::proposedToTakeOut(*picture.tracing, mmPerPx, picture.recipe.mode))
        session.out << trace::takeOutText(one) << ", from " << base::formatNumber(one.place.least.x * mmPerPx, 1) << ", "
                    << base::formatNumber(one.place.least.y * mmPerPx, 1) << " to "
                    << base::formatNumber(one.place.most.x * mmPerPx, 1) << ", "
                    << base::formatNumber(one.place.most.y * mmPerPx, 1) << " mm: say clear "
                    << kOptions[static_cast<size_t>(one.kind)] << " to take it out\n";
}

base::Status traceCommand(Session& session, const Options& options) {
    const auto asked = recipeOf(options);
    if (!asked)
        return asked.error();
    trace::Recipe recipe = *asked;
    auto trace = pictureToTrace(session, options);
    if (!trace)
        return trace.error();
    ToTrace toTrace = trace.take();
    if (auto straight = layStraight(session, options, toTrace); !straight)
        return straight;
    const design::SourceId of = toTrace.opened.source;
    chooseByKind(session, options, toTrace, recipe);
    if (!toTrace.isNew)
        keepHandiwork(std::get<job::Picture>(job::findSource(toTrace.opened.job, of)->what).recipe,
                      *toTrace.opened.picture, options, recipe);
    const auto job = preparedJob(session, options, toTrace.opened, toTrace.isNew, recipe);
    if (!job)
        return job.error();
    auto state = madeOf(tracedAs(session, options, *job, *toTrace.opened.picture, recipe, of), toTrace.before);
    if (!state)
        return state.error();
    const job::Source& source = *job::findSource(state->job, of);
    const auto& picture = std::get<job::Picture>(source.what);
    tellColoursNotThere(session, picture);
    tellLost(session, picture, job::mmPerPx(source));
    tellShadow(session, picture, job::mmPerPx(source));
    tellTakeOut(session, picture, job::mmPerPx(source));
    if (const std::string few = trace::fewPixels(toTrace.opened.picture->width, job::mmPerPx(source)); !few.empty())
        session.out << few << "\n";
    if (picture.tracing->bridges > 0)
        session.out << base::counted(static_cast<long long>(picture.tracing->bridges), "bridge") << "\n";
    if (!picture.tracing->folds.empty())
        session.out << base::counted(picture.tracing->folds.size(), "fold") << "\n";
    if (const trace::FoldHint& may = picture.tracing->mayFold; may.dashed > 0)
        session.out << base::counted(may.dashed, "row")
                    << " of dashes may be folds: say --dashes fold, or they are cut as drawn\n";
    if (const trace::FoldHint& may = picture.tracing->mayFold; may.thin > 0)
        session.out << base::counted(may.thin, "straight line")
                    << " thinner than the others may be folds: say --folds-below "
                    << base::formatNumber(may.thinnerMm, 2) << "mm, or they part what they cross\n";
    if (!picture.recipe.closings.empty())
        session.out << base::counted(picture.recipe.closings.size(), "gap") << " closed\n";
    if (options.has("--out"))
        if (auto written = writeText(
                session, options["--out"],
                formats::svg::writeGroups(groupsOf(*state, source),
                                          {{0, 0}, {job::sourceWidthMm(source), job::sourceHeightMm(source)}},
                                          state->job.name));
            !written)
            return written;
    const std::string jobFile = options.has("--job")    ? options["--job"]
                                : options.has("--into") ? options["--into"]
                                : !toTrace.isNew         ? options.operand
                                                        : "";
    if (!jobFile.empty())
        if (auto saved = saveState(session, jobFile, *state); !saved)
            return saved;
    return conclude(session, *state, options);
}

} // namespace

std::vector<Command> traceCommands() {
    return {{traceSpec(), traceCommand}};
}

} // namespace thinline::batch
