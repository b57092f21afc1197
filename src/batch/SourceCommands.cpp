// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"
#include "batch/Adding.h"
#include "batch/JobCommands.h"
#include "batch/Report.h"
#include "formats/svg/WriteDrawing.h"
#include "job/Letters.h"
#include "job/SourceSteps.h"
#include "job/Stickers.h"

#include <algorithm>
#include <optional>

namespace thinline::batch {

using base::Code;
using base::Error;
using job::Noted;
using job::State;

namespace {

const std::vector<OptionSpec>& outputs() {
    static const std::vector<OptionSpec> specs{
        {"--into", "JOB.thinline", "Adds it to this job instead of a new one.", "", false},
        {"--out", "OUT.svg", "Writes all pieces as one drawing, one group per stock.", "", false},
        {"--job", "OUT.thinline", "Writes the job, to be opened in the window or arranged on sheets.", "",
         false},
        {"--report", "REPORT.json", "Writes layers, pieces, nodes, sizes, findings and seconds.", "", false}};
    return specs;
}

} // namespace

CommandSpec withOutputs(CommandSpec spec) {
    spec.options.insert(spec.options.end(), outputs().begin(), outputs().end());
    return spec;
}

base::Result<State> startOf(Session& session, const Options& options, const std::string& name) {
    if (options.has("--into"))
        return loadState(session, options["--into"]);
    job::Job job = job::newJob(catalogue());
    job.name = options.has("--job") ? fileOf(options["--job"]) : name;
    if (const auto dot = job.name.rfind(".thinline"); dot != std::string::npos && dot > 0)
        job.name.erase(dot);
    return State{std::move(job), {}};
}

base::Result<std::string> stockOf(const job::Job& job, const Options& options) {
    const std::string stock = options.has("--stock") ? options["--stock"] : catalogue().plainStockId;
    const auto known = stockSaid(job, stock);
    return known ? known
                 : Error{Code::InvalidArgument,
                         known.error().message}; // there is no job yet: the call is wrong
}

base::Status finish(Session& session, const State& start, const Noted& noted, const Options& options) {
    const std::string jobFile = options.has("--job")    ? options["--job"]
                                : options.has("--into") ? options["--into"]
                                                        : "";
    if (!options.has("--out") && jobFile.empty() && !options.has("--report"))
        return Error{Code::InvalidArgument,
                     "Say where the result goes: --out OUT.svg, --job OUT.thinline or --report REPORT.json."};
    if (!noted.note.empty())
        session.out << noted.note << "\n";
    auto state = madeOf(noted.job, start);
    if (!state)
        return state.error();
    if (options.has("--out"))
        if (auto written = writeText(session, options["--out"],
                                     formats::svg::writeLayers(*state->made.work(), state->job.name));
            !written)
            return written;
    if (!jobFile.empty())
        if (auto saved = saveState(session, jobFile, *state); !saved)
            return saved;
    return conclude(session, *state, options);
}

namespace {

CommandSpec importSpec() {
    return withOutputs(
        {"import",
         "IN.svg|IN.dxf|IN.pdf",
         "Takes a drawing of outlines as it is: every connected area a piece, its stock chosen by its "
         "colour.",
         {{"--unit", "96|90|72|mm|cm|in",
           "What the file's units mean, when it states no real size: units to the inch, or for DXF mm, cm or "
           "in.",
           "", false},
          {"--width", "LENGTH", "Real width of the whole page instead of what the file states.", "", false},
          {"--page", "NUMBER", "Which page of a PDF file, from 1.", "1", false},
          {"--only", "LAYER,LAYER", "Takes these layers and leaves the others out.", "", false},
          {"--lines", "KIND=USE,...",
           "What kinds of lines are: KIND is the number it is told by, or its layer; USE is outline, fold, "
           "score, slit, "
           "tear, pen, mark, parts (they part the piece) or none.",
           "", false},
          {"--strokes", "", "Takes strokes as strips of their width instead of outlines.", "", false},
          {"--whole", "", "Takes items whole that the drawing shows clipped.", "", false},
          {"--from", "TEXT", "Where it came from; kept in the job.", "", false},
          {"--licence", "own|own use|may sell|unknown", "What may be done with it.", "unknown", false}}});
}

CommandSpec wordsSpec() {
    return withOutputs(
        {"words",
         "\"TEXT\"",
         "Sets a word in a typeface as pieces of card.",
         {{"--font", "FAMILY[:STYLE]",
           "Any installed typeface or one that ships: League Spartan, Kaushan Script, Allerta.",
           lettering::kPlainFont.family, false},
          {"--height", "LENGTH", "Real height of the capitals. Without --height and --width 60 mm.", "",
           false},
          {"--width", "LENGTH", "Width of all letters together instead.", "", false},
          {"--spacing", "LENGTH", "Added between letters; may begin with a minus.", "0", false},
          {"--overlap", "LENGTH", "How far each letter runs into the one before.", "0", false},
          {"--equal-heights", "", "Stretches every letter to the height, on one baseline.", "", false},
          {"--join", "", "Joins the letters into one piece, as far as they meet.", "", false},
          {"--fill-below", "AREA", "Fills counters and other openings smaller than this.", "", false},
          {"--stock", "ID", "The stock it is cut from.", "", false}}});
}

CommandSpec figureSpec() {
    std::string figures;
    for (const construct::FigureInfo& info : construct::figureInfos()) {
        figures += (figures.empty() ? "" : "; ") + std::string(info.name) + ":";
        for (const base::Parameter& p : info.parameters)
            figures += " " + std::string(p.name) + "=" + base::valueText(p, p.usual);
    }
    CommandSpec spec{
        "figure",
        "NAME",
        "Makes a basic shape by exact measure: figure star points=7 across=80mm. What is not said follows in "
        "the usual proportions. Figures, with their usual "
        "measures: " +
            figures + ".",
        {{"--stock", "ID", "The stock it is cut from.", "", false}}};
    spec.takesMore = true;
    return withOutputs(spec);
}

CommandSpec stickerSpec() {
    return withOutputs(
        {"sticker",
         "PICTURE",
         "Cuts a picture out round what it shows, and prints it: of one on nothing or on an even colour.",
         {{"--width", "LENGTH",
           "Real width of the sticker with its rim; without it the picture's own resolution tells.", "",
           false},
          {"--rim", "LENGTH", "How far from what is shown it is cut.", "2mm", false},
          {"--stock", "ID",
           "What it is cut from; without it the first of the job that lies on a carrier, else sticker paper.",
           "", false},
          {"--through", "", "The carrier is cut too, so that each comes off with it.", "", false},
          {"--from", "TEXT", "Where it came from; kept in the job.", "", false},
          {"--licence", "own|own use|may sell|unknown", "What may be done with it.", "unknown", false}}});
}

/// The width the options settle for a drawing; nothing when they settle none.
base::Result<std::optional<double>> widthAsked(const job::Source& source, const Options& options) {
    if (options.has("--width")) {
        const auto width = base::parseLength(options["--width"], base::LengthUnit::Millimetre);
        if (!width)
            return width.error();
        return std::optional(width->inMm());
    }
    if (!options.has("--unit"))
        return std::optional<double>{};
    const auto guesses = job::unitGuesses(source);
    if (guesses.empty())
        return Error{Code::InvalidArgument, "The file states its real size; --unit would contradict it."};
    std::string known;
    for (const job::UnitGuess& guess : guesses) {
        if (guess.unit == options["--unit"])
            return std::optional(guess.widthMm);
        known += (known.empty() ? "" : ", ") + guess.unit;
    }
    return Error{Code::InvalidArgument,
                 "--unit is '" + options["--unit"] + "'; for this file it is one of " + known + "."};
}

/// Takes "1=fold,inner=score" into the answers about kinds of lines.
base::Status takeLines(const std::string& said, const job::Drawing& drawing, design::TakeOptions& take) {
    for (const std::string& one : partedByCommas(said)) {
        const auto equals = one.rfind('=');
        const std::string which = one.substr(0, equals);
        const auto as = design::drawnAsOf(equals == std::string::npos ? "" : one.substr(equals + 1));
        if (!as)
            return Error{
                Code::InvalidArgument,
                "'" + one +
                    "' in --lines says nothing lines can be; write KIND=USE, where USE is outline, fold, "
                    "score, slit, tear, pen, mark, parts or none."};
        bool isFound = false;
        for (size_t i = 0; i < drawing.kinds.size(); ++i)
            if (const design::LineKind& kind = drawing.kinds[i];
                which == std::to_string(i + 1) || which == kind.layer) {
                take.lines[kind.key] = *as;
                isFound = true;
            }
        if (!isFound)
            return Error{Code::InvalidArgument,
                         "There is no kind of lines '" + which + "' in the drawing; it has " +
                             base::counted(static_cast<long long>(drawing.kinds.size()), "kind") + "."};
    }
    return base::Done{};
}

/// Lists the kinds of lines of a drawing, and as what each was taken.
void tellLines(const job::Source& source, std::ostream& out) {
    const auto& drawing = std::get<job::Drawing>(source.what);
    for (size_t i = 0; i < drawing.kinds.size(); ++i) {
        const design::LineKind& kind = drawing.kinds[i];
        out << "lines " << i + 1 << ": " << kind.words << ", "
            << base::formatNumber(kind.lengthMm * source.unitMm, 1) << " mm, taken as "
            << design::drawnAsWord(kind.taken);
        if (kind.taken != kind.proposed)
            out << "; proposed " << design::drawnAsWord(kind.proposed);
        out << " (" << kind.why << ")\n";
    }
}

base::Result<design::TakeOptions> takeOf(const job::Drawing& drawing, const Options& options) {
    design::TakeOptions take = drawing.take;
    const auto page = numberBetween("--page", options["--page"], 1, drawing.pages);
    if (!page)
        return page.error();
    take.page = static_cast<int>(*page) - 1;
    take.strokesAsAreas = options.has("--strokes");
    take.appliesClips = !options.has("--whole");
    if (options.has("--lines"))
        if (auto ok = takeLines(options["--lines"], drawing, take); !ok)
            return ok.error();
    if (!options.has("--only"))
        return take;
    std::string known;
    for (const design::DrawnLayer& layer : drawing.layers) {
        take.leftOut.insert(layer.name);
        known +=
            (known.empty() ? "" : ", ") + (layer.name.empty() ? std::string("(without a name)") : layer.name);
    }
    for (const std::string& name : partedByCommas(options["--only"]))
        if (!take.leftOut.erase(name))
            return Error{Code::InvalidArgument,
                         "There is no layer '" + name + "' in the drawing; it has " + known + "."};
    return take;
}

base::Status importCommand(Session& session, const Options& options) {
    if (options.has("--unit") && options.has("--width"))
        return Error{Code::InvalidArgument, "Give --unit or --width, not both: either settles the size."};
    const auto licence = job::licenceOf(options["--licence"]);
    if (!licence)
        return Error{Code::InvalidArgument,
                     "--licence is '" + options["--licence"] + "'; it is own, own use, may sell or unknown."};
    auto bytes = session.store.read(options.operand, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    auto start = startOf(session, options, "");
    if (!start)
        return start.error();
    const std::string name = fileOf(options.operand);
    const job::Incoming file{*bytes, name, job::recognise(*bytes, &session.pages)};
    auto opened = options.has("--into") ? job::withDrawing(*start, file, catalogue(), session.fonts)
                                        : job::openDrawing(start->job, file, catalogue(), session.fonts);
    if (!opened)
        return opened.error();
    Noted noted = opened.take();
    const job::Source& drawn = *noted.job.sources.back();
    const auto id = drawn.id;
    const auto width = widthAsked(drawn, options);
    if (!width)
        return width.error();
    const auto take = takeOf(std::get<job::Drawing>(drawn.what), options);
    if (!take)
        return take.error();
    if (*width) {
        auto sized = job::withSourceWidth(noted.job, id, **width);
        if (!sized)
            return sized.error();
        noted.job = sized.take();
    }
    if (!(*take == std::get<job::Drawing>(noted.job.sources.back()->what).take)) {
        auto taken = job::withDrawingTaken(noted.job, id, *take, catalogue(), session.fonts, &session.pages);
        if (!taken)
            return taken.error();
        noted.job = taken.take().job;
    }
    tellLines(*job::findSource(noted.job, id), session.out);
    noted.note = job::noteOf(*job::findSource(noted.job, id)); // of what was taken in the end
    noted.job = job::withOrigin(noted.job, id, {options.has("--from") ? options["--from"] : "", *licence});
    return finish(session, *start, noted, options);
}

base::Status stickerCommand(Session& session, const Options& options) {
    const auto licence = job::licenceOf(options["--licence"]);
    if (!licence)
        return Error{Code::InvalidArgument,
                     "--licence is '" + options["--licence"] + "'; it is own, own use, may sell or unknown."};
    const auto rim = lengthOrZero(options["--rim"]);
    if (!rim)
        return rim.error();
    const auto bytes = session.store.read(options.operand, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    auto start = startOf(session, options, fileOf(options.operand));
    if (!start)
        return start.error();
    job::StickerWish how{*rim, {}, options.has("--through")};
    if (options.has("--stock")) {
        const auto stock = stockOf(start->job, options);
        if (!stock)
            return stock.error();
        how.stockId = *stock;
    }
    auto came =
        job::withPicture(*start, {*bytes, fileOf(options.operand), job::recognise(*bytes, &session.pages)});
    if (!came)
        return came.error();
    job::Source source = *job::findSource(came->job, came->source);
    if (options.has("--width")) {
        const auto width = base::parseLength(options["--width"], base::LengthUnit::Millimetre);
        if (!width)
            return width.error();
        const auto unit = job::unitForSticker(*job::asA<job::Picture>(&source), width->inMm(), *rim);
        if (!unit)
            return unit.error();
        source.unitMm = *unit;
    }
    source.origin = {options.has("--from") ? options["--from"] : "", *licence};
    const State with{job::withSource(came->job, source), start->made};
    const auto made = job::withSticker(with, came->source, how, session.fonts);
    return made ? finish(session, *start, *made, options) : base::Status(made.error());
}

base::Result<lettering::Recipe> wordAsked(const Options& options) {
    lettering::Recipe word;
    word.text = options.operand;
    word.font = job::fontCalled(options["--font"]);
    if (options.has("--height") && options.has("--width"))
        return Error{Code::InvalidArgument, "Give --height or --width, not both: either settles the size."};
    for (const char* name : {"--height", "--width"}) {
        if (!options.has(name))
            continue;
        const auto size = base::parseLength(options[name], base::LengthUnit::Millimetre);
        if (!size)
            return size.error();
        word.sizeMm = size->inMm();
        word.sizeBy =
            std::string(name) == "--width" ? lettering::SizeBy::Width : lettering::SizeBy::CapHeight;
    }
    static const base::Parameter kSpacing{"--spacing", "Spacing", base::Quantity::Length, 0, -50, 200};
    const auto spacing = base::readValue(kSpacing, options["--spacing"]);
    const auto overlap = lengthOrZero(options["--overlap"]);
    if (!spacing || !overlap)
        return !spacing ? spacing.error() : overlap.error();
    word.spacingMm = *spacing;
    word.overlapMm = *overlap;
    word.hasEqualHeights = options.has("--equal-heights");
    word.isJoined = options.has("--join");
    if (options.has("--fill-below")) {
        const auto area = base::parseAreaMm2(options["--fill-below"]);
        if (!area)
            return area.error();
        word.fillBelowMm2 = *area;
    }
    return word;
}

base::Status wordsCommand(Session& session, const Options& options) {
    const auto word = wordAsked(options);
    if (!word)
        return word.error();
    auto start = startOf(session, options, word->text);
    if (!start)
        return start.error();
    const auto stock = stockOf(start->job, options);
    if (!stock)
        return stock.error();
    auto made = job::withWord(*start, *word, *stock, session.fonts);
    if (!made)
        return made.error();
    return finish(session, *start, *made, options);
}

base::Status figureCommand(Session& session, const Options& options) {
    const construct::FigureInfo* info = construct::figureNamed(options.operand);
    if (!info) {
        std::string known;
        for (const construct::FigureInfo& one : construct::figureInfos())
            known += (known.empty() ? "" : ", ") + std::string(one.name);
        return Error{Code::InvalidArgument,
                     "There is no figure '" + options.operand + "'; there are " + known + "."};
    }
    std::vector<std::optional<double>> said(info->parameters.size());
    for (const std::string& given : options.more) {
        const auto equals = given.find('=');
        const std::string name = given.substr(0, equals);
        const auto p = std::find_if(info->parameters.begin(), info->parameters.end(),
                                    [&](const base::Parameter& one) { return name == one.name; });
        if (equals == std::string::npos || p == info->parameters.end()) {
            std::string known;
            for (const base::Parameter& one : info->parameters)
                known += (known.empty() ? "" : ", ") + std::string(one.name) + "=...";
            return Error{Code::InvalidArgument,
                         "'" + given + "' is no measure of a " + info->name + "; it takes " + known + "."};
        }
        const auto value = base::readValue(*p, given.substr(equals + 1));
        if (!value)
            return value.error();
        said[static_cast<size_t>(p - info->parameters.begin())] = *value;
    }
    const construct::Recipe recipe = construct::inProportion(info->figure, said);
    auto start = startOf(session, options, info->name);
    if (!start)
        return start.error();
    const auto stock = stockOf(start->job, options);
    if (!stock)
        return stock.error();
    auto made = job::withFigure(*start, recipe, *stock);
    if (!made)
        return made.error();
    return finish(session, *start, *made, options);
}

} // namespace

std::vector<Command> sourceCommands() {
    return {{importSpec(), importCommand},
            {wordsSpec(), wordsCommand},
            {figureSpec(), figureCommand},
            {stickerSpec(), stickerCommand}};
}

} // namespace thinline::batch
