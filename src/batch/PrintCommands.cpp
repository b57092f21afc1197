// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Printing: what pieces bear, the pages, and how a printed page is found again and cut.
#include "batch/Chain.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Planned.h"
#include "batch/Report.h"
#include "devices/PrintResult.h"
#include "formats/image/ImageFile.h"
#include "formats/plotter/WritePlotter.h"
#include "job/PrintSteps.h"
#include "job/Registering.h"
#include "logbook/Calibration.h"
#include "pack/PrintFiles.h"
#include "print/Place.h"

#include <nlohmann/json.hpp>

#include <cmath>
#include <numbers>
#include <sstream>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;
using json = nlohmann::ordered_json;

constexpr double kDegree = std::numbers::pi / 180;

// ---- face

CommandSpec faceSpec() {
    return {"face",
            "JOB.thinline",
            "Prints on pieces, tells what is printed on them, and lays it at another place.",
            {{"--on", "WHAT", kWhat, "", false},
             {"--side", "front|back", "Which side of the pieces.", "front", false},
             {"--panel", "X,Y", "Only the panel at this place of the design.", "", false},
             {"--picture", "FILE", "Fills them with a picture.", "", false},
             {"--origin", "TEXT", "Where the picture comes from.", "", false},
             {"--licence", "WORD", "What may be done with it: unknown, own, own use, may sell.", "", false},
             {"--text", "TEXT", "Prints a text; | begins another line.", "", false},
             {"--font", "FAMILY", "Its typeface.", lettering::kPlainFont.family, false},
             {"--style", "STYLE", "And style.", lettering::kPlainFont.style, false},
             {"--colour", "RRGGBB", "Prints an even colour; of a text, a code or an outline its colour.", "",
              false},
             {"--into", "RRGGBB", "The colour runs into this one from left to right.", "", false},
             {"--square-code", "TEXT", "Prints a square code (QR).", "", false},
             {"--line-code", "TEXT", "Prints a line code (Code 128).", "", false},
             {"--outline-of", "WHAT", "Prints the outline of another piece.", "", false},
             {"--step", "NUMBER", "The print that is laid elsewhere or taken off, as it is told.", "", false},
             {"--move", "X,Y", "Moves it by so much.", "", false},
             {"--scale", "FACTOR", "Makes it larger or smaller about its middle.", "", false},
             {"--turn", "DEGREES", "Turns it clockwise about its middle.", "", false},
             {"--up", "", "Lays it over the next print.", "", false},
             {"--down", "", "Lays it under the one before.", "", false},
             {"--off", "", "Takes it off.", "", false},
             {"--png", "FILE", "Draws what the piece of --on bears on that side, 150 dots to the inch.", "",
              false},
             {"--json", "", "Tells it as JSON.", "", false},
             kJobOption}};
}

base::Result<raster::Rgb> colourSaid(const std::string& option, const std::string& text) {
    if (text.size() != 6 || text.find_first_not_of("0123456789abcdefABCDEF") != std::string::npos)
        return Error{Code::InvalidArgument, option + ": a colour is six digits, like 2b5c8a."};
    raster::Rgb out{};
    for (size_t i = 0; i < 3; ++i)
        out[i] = static_cast<std::uint8_t>(std::stoi(text.substr(2 * i, 2), nullptr, 16));
    return out;
}

base::Result<job::PrintOn> onSaid(const State& state, const Options& options) {
    job::PrintOn out;
    if (!options.has("--on"))
        return Error{Code::InvalidArgument, "Say on which piece by --on."};
    auto pieces = piecesCalled(state, options["--on"]);
    if (!pieces)
        return pieces.error();
    out.pieces = pieces.take();
    if (options["--side"] != "front" && options["--side"] != "back")
        return Error{Code::InvalidArgument, "--side: say front or back."};
    out.side = options["--side"] == "front" ? design::Side::Front : design::Side::Back;
    if (options.has("--panel")) {
        const auto at = pointOf("--panel", options["--panel"]);
        if (!at)
            return at.error();
        out.panel = *at;
    }
    return out;
}

base::Result<job::Origin> originSaid(const Options& options) {
    job::Origin out;
    if (options.has("--origin"))
        out.from = options["--origin"];
    if (options.has("--licence")) {
        const auto licence = job::licenceOf(options["--licence"]);
        if (!licence)
            return Error{Code::InvalidArgument, "--licence: say unknown, own, own use or may sell."};
        out.licence = *licence;
    }
    return out;
}

base::Result<job::Job> noted(Session& session, base::Result<job::Noted> came) {
    if (!came)
        return came.error();
    if (!came->note.empty())
        session.out << came->note << "\n";
    return came->job;
}

/// What is printed new.
base::Result<job::Job> printed(Session& session, const State& state, const Options& options) {
    const auto on = onSaid(state, options);
    if (!on)
        return on.error();
    raster::Rgb colour{};
    if (options.has("--colour")) {
        const auto said = colourSaid("--colour", options["--colour"]);
        if (!said)
            return said.error();
        colour = *said;
    }
    if (options.has("--picture")) {
        const auto origin = originSaid(options);
        constexpr std::uint64_t kMostBytes = 500u << 20;
        const auto bytes = session.store.read(options["--picture"], kMostBytes);
        if (!origin || !bytes)
            return !origin ? origin.error() : bytes.error();
        return noted(session, job::withPicturePrinted(state, *on, {*bytes, fileOf(options["--picture"]), {}},
                                                      *origin));
    }
    if (options.has("--text")) {
        std::string text = options["--text"];
        std::replace(text.begin(), text.end(), '|', '\n');
        return noted(session, job::withTextPrinted(state, *on, text, {options["--font"], options["--style"]},
                                                   colour, session.fonts));
    }
    if (options.has("--square-code"))
        return job::withCodePrinted(state, *on, design::Face::Kind::SquareCode, options["--square-code"],
                                    colour);
    if (options.has("--line-code"))
        return job::withCodePrinted(state, *on, design::Face::Kind::LineCode, options["--line-code"], colour);
    if (options.has("--outline-of")) {
        const auto drawn = piecesCalled(state, options["--outline-of"]);
        if (!drawn)
            return drawn.error();
        if (drawn->size() != 1)
            return Error{Code::InvalidArgument, "--outline-of: name one piece."};
        return job::withOutlinePrinted(state, *on, drawn->front(), colour);
    }
    std::optional<raster::Rgb> second;
    if (options.has("--into")) {
        const auto said = colourSaid("--into", options["--into"]);
        if (!said)
            return said.error();
        second = *said;
    }
    return job::withColourPrinted(state, *on, colour, second);
}

/// The print of --step, on the piece of --on or the first that bears it.
struct Meant {
    job::PieceId piece;
    job::Print print;
};
base::Result<Meant> printSaid(const State& state, const Options& options) {
    const auto number = numberBetween("--step", options["--step"], 1, 1e9);
    if (!number)
        return number.error();
    if (state.made.pieces)
        for (const design::Piece& piece : state.made.pieces->now)
            for (const design::Side side : {design::Side::Front, design::Side::Back})
                for (const job::Print& one : job::printsOn(state, piece.id, side))
                    if (numberOf(one.step) == static_cast<int>(*number))
                        return Meant{piece.id, one};
    return Error{Code::NotFound, "--step: no piece bears a print of that number; 'face' tells them."};
}

base::Result<job::Job> changed(const State& state, const Options& options) {
    const auto meant = printSaid(state, options);
    if (!meant)
        return meant.error();
    if (options.has("--off"))
        return job::withoutPrint(state, meant->print.step);
    if (options.has("--up") || options.has("--down"))
        return job::withPrintRaised(state, meant->piece, meant->print.step, options.has("--up"));
    print::Shift shift;
    if (options.has("--move")) {
        const auto by = pointOf("--move", options["--move"]);
        if (!by)
            return by.error();
        shift.by = *by;
    }
    if (options.has("--scale")) {
        const auto factor = numberBetween("--scale", options["--scale"], 0.01, 100);
        if (!factor)
            return factor.error();
        shift.scale = *factor;
    }
    if (options.has("--turn")) {
        const auto turn = numberBetween("--turn", options["--turn"], -360, 360);
        if (!turn)
            return turn.error();
        shift.turnRad = *turn * kDegree;
    }
    design::Face face = meant->print.face;
    face.place = print::shifted(face.place, shift);
    if (options.has("--colour")) {
        const auto colour = colourSaid("--colour", options["--colour"]);
        if (!colour)
            return colour.error();
        face.colour = *colour;
    }
    if (options.has("--into")) {
        if (face.kind != design::Face::Kind::Gradient)
            return Error{Code::InvalidArgument,
                         "--into: only a colour that runs into another one has a second."};
        const auto second = colourSaid("--into", options["--into"]);
        if (!second)
            return second.error();
        face.second = *second;
    }
    return job::withPrintChanged(state, meant->piece, face);
}

base::Status tellFaces(Session& session, const State& state, bool asJson) {
    const auto art = state.made.work() ? job::decodedArt(state.job, job::facesOf(*state.made.work()))
                                       : base::Result<job::Decoded>(job::Decoded{});
    if (!art)
        return art.error();
    json all = json::array();
    if (state.made.pieces)
        for (const design::Piece& piece : state.made.pieces->now)
            for (const design::Side side : {design::Side::Front, design::Side::Back})
                for (const job::Print& one : job::printsOn(state, piece.id, side)) {
                    const auto dpi = print::dpiOf(one.face, art->gallery);
                    json told{{"piece", piece.id.text()},
                              {"side", side == design::Side::Front ? "front" : "back"},
                              {"step", numberOf(one.step)},
                              {"kind", design::kFaceWords[static_cast<size_t>(one.face.kind)]},
                              {"what", one.text},
                              {"sizeMm",
                               {std::hypot(one.face.place.a, one.face.place.b),
                                std::hypot(one.face.place.c, one.face.place.d)}}};
                    if (dpi)
                        told["dpi"] = std::round(*dpi);
                    if (!asJson)
                        session.out << piece.id.text() << " " << told["side"].get<std::string>() << ", print "
                                    << numberOf(one.step) << ": " << one.text
                                    << (dpi ? ", " + base::formatNumber(*dpi, 0) + " dpi" : "") << "\n";
                    all.push_back(std::move(told));
                }
    if (asJson)
        session.out << all.dump(2) << "\n";
    else if (all.empty())
        session.out << "nothing is printed\n";
    return base::Done{};
}

base::Status drawFace(Session& session, const State& state, const Options& options) {
    const auto on = onSaid(state, options);
    if (!on)
        return on.error();
    const auto field = job::fieldOf(state, *on);
    const auto art = job::decodedArt(state.job, job::facesOf(*state.made.work()));
    if (!field || !art)
        return !field ? field.error() : art.error();
    constexpr double kDpi = 150, kPxPerMm = kDpi / 25.4;
    raster::Canvas canvas(static_cast<int>(std::ceil(field->width() * kPxPerMm)),
                          static_cast<int>(std::ceil(field->height() * kPxPerMm)), {255, 255, 255});
    geometry::Transform toPage = geometry::Transform::move(field->least * -1);
    if (on->side == design::Side::Back)
        toPage = toPage.then({-1, 0, 0, 1, field->width(), 0});
    for (const job::PieceId id : on->pieces) {
        const design::Stock* stock = job::stockOf(state, id);
        const auto painted =
            print::paint(canvas, *design::findPiece(state.made.pieces->now, id)->body,
                         {toPage, on->side, stock ? design::bleedOf(*stock) : 0, kPxPerMm}, art->gallery);
        if (!painted)
            return painted.error();
    }
    if (auto done = session.store.writeWhole(options["--png"],
                                             formats::image::encodePng(canvas.picture(), kDpi, true));
        !done)
        return done;
    session.out << "wrote " << options["--png"] << "\n";
    return base::Done{};
}

base::Status faceCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    if (options.has("--step"))
        return keep(session, options, changed(*state, options), *state);
    for (const char* name :
         {"--picture", "--text", "--colour", "--square-code", "--line-code", "--outline-of"})
        if (options.has(name))
            return keep(session, options, printed(session, *state, options), *state);
    if (options.has("--png"))
        return drawFace(session, *state, options);
    return tellFaces(session, *state, options.has("--json"));
}

// ---- print

CommandSpec printSpec() {
    return {"print",
            "JOB.thinline",
            "Tells the pages that are printed, and writes them with marks at true size.",
            {{"--out", "FOLDER", "Writes the pages there.", "", false},
             {"--as", "FORMATS", "pdf, png, or both parted by a comma.", "pdf", false},
             {"--dpi", "NUMBER", "Dots to the inch, 72 to 1200; kept in the job.", "", false},
             {"--printer-margin", "LENGTH", "What the printer leaves free along the edges; kept in the job.",
              "", false},
             {"--marks", "on|off", "Marks round what is printed; kept in the job.", "", false},
             {"--stock", "ID", "A stock that is printed, or with --not is not.", "", false},
             {"--not", "", "With --stock.", "", false},
             {"--json", "", "Tells the pages as JSON.", "", false},
             kJobOption}};
}

base::Result<job::Job> planSaid(const State& state, const Options& options) {
    job::PrintPlan plan = state.job.print;
    if (options.has("--dpi")) {
        const auto dpi = numberBetween("--dpi", options["--dpi"], 72, 1200);
        if (!dpi)
            return dpi.error();
        plan.dpi = *dpi;
    }
    if (options.has("--printer-margin")) {
        const auto margin = lengthOrZero(options["--printer-margin"]);
        if (!margin)
            return Error{margin.error().code, "--printer-margin: " + margin.error().message};
        plan.printerMarginMm = *margin;
    }
    if (options.has("--marks")) {
        const auto isOn = switchSaid("--marks", options["--marks"]);
        if (!isOn)
            return isOn.error();
        plan.hasMarks = *isOn;
    }
    auto out = job::withPrintPlan(state.job, plan);
    if (!out || !options.has("--stock"))
        return out;
    const auto stock = stockSaid(state.job, options["--stock"]);
    if (!stock)
        return stock.error();
    return job::withStockPrinted(*out, *stock, !options.has("--not"));
}

base::Result<std::vector<pack::PrintFormat>> formatsSaid(const std::string& text) {
    std::vector<pack::PrintFormat> out;
    for (const std::string& word : partedByCommas(text)) {
        const auto& words = pack::kPrintFormatWords;
        const auto at = std::find(words.begin(), words.end(), word);
        if (at == words.end())
            return Error{Code::InvalidArgument, "--as: '" + word + "' is none of pdf, png."};
        out.push_back(static_cast<pack::PrintFormat>(at - words.begin()));
    }
    return out;
}

/// A job with its sheets made.
base::Result<State> withSheetsMade(Session& session, const std::string& path) {
    const auto state = loadState(session, path);
    return state ? arranged(*state) : state;
}

base::Status tellPages(Session& session, const State& state, bool asJson) {
    json all = json::array();
    for (const job::PrintPage& page : job::printPagesOf(state)) {
        json marks = json::array();
        for (const geometry::Point mark : page.layout.marks)
            marks.push_back({mark.x, mark.y});
        const geometry::Box& area = page.layout.area;
        if (!asJson)
            session.out << page.name << ": load " << page.load + 1 << ", "
                        << design::stockName(state.job.stocks, page.stockId) << ", "
                        << base::formatSize(page.layout.widthMm, page.layout.heightMm, state.job.unit) << ", "
                        << (page.hasBack ? "both sides" : "front") << ", bleed "
                        << base::formatLength(page.bleedMm, state.job.unit) << ", room inside the marks "
                        << base::formatSize(area.width() - 2 * page.bleedMm, area.height() - 2 * page.bleedMm,
                                            state.job.unit)
                        << "\n";
        all.push_back({{"load", page.load + 1},
                       {"stock", page.stockId},
                       {"sizeMm", {page.layout.widthMm, page.layout.heightMm}},
                       {"bleedMm", page.bleedMm},
                       {"front", page.hasFront},
                       {"back", page.hasBack},
                       {"marksMm", page.layout.hasMarks() ? marks : json::array()},
                       {"areaMm", {area.least.x, area.least.y, area.most.x, area.most.y}}});
    }
    if (asJson)
        session.out << all.dump(2) << "\n";
    else if (all.empty())
        session.out << "nothing is printed\n";
    return base::Done{};
}

base::Status printCommand(Session& session, const Options& options) {
    for (const char* name : {"--dpi", "--printer-margin", "--marks", "--stock"})
        if (options.has(name)) {
            const auto state = loadState(session, options.operand);
            return state ? keep(session, options, planSaid(*state, options), *state)
                         : base::Status(state.error());
        }
    const auto state = withSheetsMade(session, options.operand);
    if (!state)
        return state.error();
    if (!options.has("--out"))
        return tellPages(session, *state, options.has("--json"));
    const auto formats = formatsSaid(options["--as"]);
    const auto art = job::decodedArt(state->job, job::facesOf(*state->made.work()));
    if (!formats || !art)
        return !formats ? formats.error() : art.error();
    const auto files = pack::printFiles(*state, *formats, *art);
    if (!files)
        return files.error();
    if (auto made = session.store.makeFolder(options["--out"]); !made)
        return made;
    for (const pack::PackedFile& file : files->files) {
        if (auto done = session.store.writeWhole(options["--out"] + "/" + file.name, file.bytes); !done)
            return done;
        session.out << "wrote " << options["--out"] << "/" << file.name << "\n";
    }
    for (const std::string& note : files->notes)
        session.out << note << "\n";
    return base::Done{};
}

// ---- register

CommandSpec registerSpec() {
    return {"register",
            "JOB.thinline",
            "Finds a printed page by where the sensor saw its marks, and cuts along it.",
            {{"--load", "NUMBER", "Which load.", "1", false},
             {"--seen", "FILE.json",
              "Where the marks were seen, mm from the upper left corner of the mat: {\"marks\": [{\"mark\": "
              "1, \"at\": "
              "[x, y]}, ...], \"bar\": [x, y], \"page\": 1}; mark 1 is the upper left one, then clockwise.",
              "", true},
             {"--plotter", "FOLDER", "Writes the load's plotter files as they are cut now.", "", false},
             {"--json", "", "Tells it as JSON.", "", false}}};
}

base::Result<job::Sighting> sightingIn(Session& session, const std::string& path) {
    constexpr std::uint64_t kMostBytes = 1 << 20;
    const auto bytes = session.store.read(path, kMostBytes);
    if (!bytes)
        return bytes.error();
    job::Sighting out;
    const auto pointIn = [](const json& at) {
        return geometry::Point{at.at(0).get<double>(), at.at(1).get<double>()};
    };
    try {
        const json in = json::parse(bytes->begin(), bytes->end());
        for (const json& mark : in.at("marks"))
            out.marks.emplace_back(static_cast<std::size_t>(mark.at("mark").get<int>() - 1),
                                   pointIn(mark.at("at")));
        if (in.contains("bar"))
            out.bar = pointIn(in.at("bar"));
        if (in.contains("page"))
            out.number = in.at("page").get<int>() - 1;
    } catch (const json::exception&) {
        return Error{
            Code::ParseError,
            path + " does not tell where marks were seen; it begins like {\"marks\": [{\"mark\": 1, \"at\": "
                   "[20, 30]}, ...]}."};
    }
    return out;
}

json registrationJson(const registration::Registration& found) {
    json out{{"shiftMm", {found.shiftMm.x, found.shiftMm.y}},
             {"turnDeg", found.turnDeg},
             {"scale", {found.scaleX, found.scaleY}},
             {"shearDeg", found.shearDeg},
             {"residualsMm", found.residualsMm}};
    if (found.leftOut)
        out["leftOut"] = *found.leftOut + 1;
    return out;
}

base::Status registerCommand(Session& session, const Options& options) {
    const auto number = numberBetween("--load", options["--load"], 1, 1e6);
    const auto state = withSheetsMade(session, options.operand);
    if (!number || !state)
        return !number ? number.error() : state.error();
    const auto seen = sightingIn(session, options["--seen"]);
    const auto plan = job::planned(*state);
    if (!seen || !plan)
        return !seen ? seen.error() : plan.error();
    const auto found = job::registeredLoad(*state, *plan, static_cast<std::size_t>(*number) - 1, *seen);
    if (!found)
        return found.error();
    if (options.has("--json"))
        session.out << registrationJson(found->found).dump(2) << "\n";
    else
        for (const std::string& line : job::registrationLines(found->found))
            session.out << line << "\n";
    if (!options.has("--plotter"))
        return base::Done{};
    const auto files = formats::plotter::writePlotter(found->load, found->laid);
    if (!files)
        return files.error();
    if (auto made = session.store.makeFolder(options["--plotter"]); !made)
        return made;
    for (const formats::plotter::PlotterFile& file : *files)
        if (auto done = writeText(session, options["--plotter"] + "/" + file.name, file.text); !done)
            return done;
    return base::Done{};
}

// ---- calibrate

CommandSpec calibrateSpec() {
    return {
        "calibrate",
        "JOB.thinline",
        "Writes a calibration sheet for the job's machine, and takes what was read on it.",
        {{"--sheet", "FILE.pdf", "Writes the sheet to be printed.", "", false},
         {"--cuts", "FILE.plt", "Writes what is cut on it, from the page's lower left corner.", "", false},
         {"--paper", "ID", "Its paper: a sheet of the catalogue.", "letter", false},
         {"--read", "NUMBERS",
          "The readings of its scales in order, parted by commas; - for one that was not read.", "", false},
         {"--logbook", "FILE",
          "Enters the calibration there; with --accept alone, takes the newest from there.", "", false},
         {"--accept", "", "Takes it into the job: what is cut from now on is corrected by it.", "", false},
         {"--forget", "", "Takes it out of the job.", "", false},
         kJobOption}};
}

base::Result<registration::StandingError> readingsSaid(const State& state, const Options& options,
                                                       const pack::CalibrationSheet& sheet) {
    std::vector<std::optional<double>> readings;
    for (const std::string& word : partedByCommas(options["--read"])) {
        if (word == "-") {
            readings.emplace_back();
            continue;
        }
        const auto value =
            numberBetween("--read", word, -registration::kTicksEachWay, registration::kTicksEachWay);
        if (!value)
            return value.error();
        readings.emplace_back(*value);
    }
    auto solved = registration::standingErrorOf(sheet.verniers, readings);
    if (!solved)
        return solved;
    registration::StandingError out = solved.take();
    out.machine = job::machineOf(state.job).id;
    out.day = logbook::nowWord().substr(0, 10);
    return out;
}

base::Status calibrateCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    if (options.has("--forget"))
        return keep(session, options, job::withStandingError(state->job, {}), *state);
    const design::SheetFormat* paper = catalogue().formats.sheet(options["--paper"]);
    if (!paper)
        return Error{Code::InvalidArgument, "--paper: say one of " + idsOf(catalogue().formats.sheets) + "."};
    const auto sheet = pack::calibrationSheet(
        paper->widthMm, paper->heightMm, state->job.print.printerMarginMm, job::machineOf(state->job).name);
    if (!sheet)
        return sheet.error();
    if (options.has("--sheet")) {
        if (auto done = session.store.writeWhole(options["--sheet"], sheet->pdf); !done)
            return done;
        session.out << "wrote " << options["--sheet"] << ", " << sheet->verniers.size() << " scales\n";
    }
    if (options.has("--cuts"))
        if (auto done = writeText(session, options["--cuts"], pack::calibrationCuts(*sheet)); !done)
            return done;
    std::optional<registration::StandingError> standing;
    if (options.has("--read")) {
        const auto solved = readingsSaid(*state, options, *sheet);
        if (!solved)
            return solved.error();
        standing = *solved;
        session.out << "the blade cuts " << logbook::standingText(*standing) << " of where the sensor says\n";
    }
    if (options.has("--logbook")) {
        auto opened =
            logbook::Logbook::open(options["--logbook"], standing ? logbook::Logbook::Open::OrBegin
                                                                  : logbook::Logbook::Open::Existing);
        if (!opened)
            return opened.error();
        logbook::Logbook book = opened.take();
        if (standing) {
            if (const auto entered = book.add(logbook::calibrationEntry(*standing)); !entered)
                return entered.error();
        } else if (const auto newest = logbook::newestCalibration(book, job::machineOf(state->job).id);
                   !newest) {
            return newest.error();
        } else {
            standing = *newest;
        }
    }
    if (!options.has("--accept"))
        return base::Done{};
    if (!standing)
        return Error{
            Code::NotFound,
            "There is no calibration of this machine to accept; give --read, or a --logbook that holds one."};
    return keep(session, options, job::withStandingError(state->job, standing), *state);
}

// ---- simulate

base::Result<std::vector<devices::ErrorSource>> sourcesSaid(const Options& options) {
    std::vector<devices::ErrorSource> out;
    if (!options.has("--only"))
        return out;
    const auto& words = devices::kErrorSourceWords;
    for (const std::string& word : partedByCommas(options["--only"])) {
        const auto at = std::find(words.begin(), words.end(), word);
        if (at == words.end())
            return Error{Code::InvalidArgument,
                         "--only: '" + word + "' is none of printer, feed, standing, sensor."};
        out.push_back(static_cast<devices::ErrorSource>(at - words.begin()));
    }
    return out;
}

/// What a bleed covers, with all errors and with each alone.
json coverage(Session& session, const job::PrintPage& page, int runs, const devices::Remedies& remedies,
              bool tells) {
    json out = json::array();
    std::vector<std::vector<devices::ErrorSource>> cases{{}};
    for (std::size_t i = 0; i < devices::kErrorSourceWords.size(); ++i)
        cases.push_back({static_cast<devices::ErrorSource>(i)});
    for (const auto& only : cases) {
        const std::vector<double> worst = devices::worstOf(runs, {}, page.layout, remedies, only);
        if (worst.empty())
            continue;
        const std::string name =
            only.empty()
                ? remedies.isCalibrated ? "all errors, calibrated" : "all errors, without a calibration"
                : std::string(devices::kErrorSourceWords[static_cast<std::size_t>(only.front())]);
        const double covered = devices::coveredBy(worst, page.bleedMm);
        const double most = worst.back(), usual = worst[worst.size() * 99 / 100];
        if (tells)
            session.out << "  " << name << ": at the most " << base::formatNumber(most, 2)
                        << " mm, 99 of 100 within " << base::formatNumber(usual, 2) << " mm; a bleed of "
                        << base::formatNumber(page.bleedMm, 1) << " mm covers "
                        << base::formatNumber(covered * 100, 1) << " %\n";
        out.push_back({{"errors", name},
                       {"runs", worst.size()},
                       {"worstMm", most},
                       {"within99Mm", usual},
                       {"covered", covered}});
    }
    return out;
}

json runJson(const devices::PrintRun& run) {
    json out{{"seed", run.errors.seed}, {"whyNot", run.whyNot}, {"pieces", json::array()}};
    if (run.found)
        out["found"] = registrationJson(*run.found);
    if (run.photo)
        out["camera"] = {{"marks", run.photo->marks.size()},
                         {"worstPx", run.photo->worstPx},
                         {"likeness", run.photo->likeness},
                         {"page", run.photo->number ? json(run.photo->number->page + 1) : json()}};
    for (const devices::PrintedPiece& piece : run.pieces)
        out["pieces"].push_back({{"piece", piece.what.piece.text()},
                                 {"copy", piece.what.copy + 1},
                                 {"offMm", piece.worstMm},
                                 {"whiteMm2", piece.whiteMm2},
                                 {"textCut", piece.isTextCut}});
    return out;
}

} // namespace

base::Status simulatePrint(Session& session, const Options& options) {
    const auto seed = numberBetween("--seed", options["--seed"], 0, 4e9);
    const auto runs = numberBetween("--runs", options["--runs"], 1, 100'000);
    const auto only = sourcesSaid(options);
    if (!seed || !runs || !only)
        return !seed ? seed.error() : !runs ? runs.error() : only.error();
    const auto state = withSheetsMade(session, options.operand);
    if (!state)
        return state.error();
    const std::vector<job::PrintPage> pages = job::printPagesOf(*state);
    if (pages.empty())
        return Error{Code::InvalidArgument, "Nothing is printed in this job."};
    const auto art = job::decodedArt(state->job, job::facesOf(*state->made.work()));
    if (!art)
        return art.error();
    devices::RunOptions how;
    how.hasCamera = options.has("--camera");
    how.isRead = !options.has("--blind");
    how.camera = devices::usualCamera(static_cast<unsigned>(*seed));
    const bool isCalibrated = job::standingErrorOf(state->job, job::machineOf(state->job).id);
    json all = json::array();
    const bool tells = !options.has("--json");
    for (std::size_t i = 0; i < pages.size(); ++i) {
        const auto run = devices::runOf(
            *state, pages[i],
            devices::errorsBy(static_cast<unsigned>(*seed) + static_cast<unsigned>(i), {}, *only), *art, how);
        if (!run)
            return run.error();
        if (tells)
            session.out << pages[i].name << ": " << devices::runText(*run) << "\n";
        if (tells && run->photo)
            session.out << "  the camera found " << base::counted(run->photo->marks.size(), "mark")
                        << ", within " << base::formatNumber(run->photo->worstPx, 2) << " px\n";
        json told = runJson(*run);
        told["page"] = i + 1;
        told["coverage"] =
            coverage(session, pages[i], static_cast<int>(*runs), {how.isRead, isCalibrated}, tells);
        all.push_back(std::move(told));
        if (!options.has("--png"))
            continue;
        std::string path = options["--png"];
        if (pages.size() > 1 && path.size() > 4)
            path.insert(path.size() - 4, "-" + std::to_string(i + 1));
        if (auto done = session.store.writeWhole(path, formats::image::encodePng(run->picture)); !done)
            return done;
        session.out << "wrote " << path << "\n";
    }
    if (options.has("--report"))
        return writeText(session, options["--report"], all.dump(2) + "\n");
    if (!tells)
        session.out << all.dump(2) << "\n";
    return base::Done{};
}

std::vector<Command> printCommands() {
    return {{faceSpec(), faceCommand},
            {printSpec(), printCommand},
            {registerSpec(), registerCommand},
            {calibrateSpec(), calibrateCommand}};
}

} // namespace thinline::batch
