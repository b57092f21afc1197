// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Panels between folds, marks where upper pieces go, and foam under them: told, and said.
#include "batch/Chain.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "design/Cuts.h"
#include "folds/Panels.h"
#include "folds/Steps.h"
#include "geometry/Measures.h"
#include "job/LayerSteps.h"
#include "job/LineSteps.h"
#include "job/Steps.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <optional>
#include <sstream>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::Job;
using job::State;
using json = nlohmann::ordered_json;

// ---- panels

CommandSpec panelsSpec() {
    return {
        "panels",
        "JOB.thinline",
        "Tells the panels between folds, which way each is read once folded and who takes a flap; or says "
        "something of the panel at a place.",
        {{"--on", "WHAT", kWhat, "all", false},
         {"--at", "X,Y", "A place of the design on the panel that is meant.", "", false},
         {"--of", "PANEL", "In its place the name of that panel, as it is told.", "", false},
         {"--front", "", "It is looked at from the front.", "", false},
         {"--up", "ANGLE", "It is read with its top turned clockwise by this.", "", false},
         {"--name", "NAME", "It is called so.", "", false},
         {"--glue", "", "It is glued: a flap.", "", false},
         {"--behind", "X,Y", "With --glue: the edge nearest to this place takes it, where several could.", "",
          false},
         {"--no-glue", "", "It is not.", "", false},
         {"--json", "", "Tells them as JSON.", "", false},
         kJobOption}};
}

double degrees(double rad) {
    return std::round(rad * 180 / std::numbers::pi * 100) / 100;
}

json panelsJson(const design::Body& body, const folds::Folded& folded) {
    json out = json::array();
    for (const folds::Panel& panel : folded.panels)
        out.push_back({{"name", panel.name},
                       {"middleMm", {panel.middle.x, panel.middle.y}},
                       {"areaMm2", geometry::area(panel.area)},
                       {"upDeg", degrees(panel.upRad)},
                       {"isFront", panel.isFront},
                       {"isGlued", folds::glueOn(body, panel).has_value()}});
    for (const folds::Flap& flap : folded.flaps) {
        json meets = json::array();
        const folds::Meeting* taker = folds::takerOf(body, folded.panels, flap);
        for (const folds::Meeting& one : flap.meets)
            meets.push_back({{"panel", folded.panels[one.panel].name},
                             {"edgeMiddleMm", {one.edge.middle().x, one.edge.middle().y}},
                             {"takes", &one == taker}});
        out[flap.panel]["flap"] = {{"foldMm", flap.foldMm}, {"depthMm", flap.depthMm}, {"meets", meets}};
    }
    return out;
}

void tellPanels(const design::Body& body, const folds::Folded& folded, std::ostream& out) {
    for (size_t i = 0; i < folded.panels.size(); ++i) {
        const folds::Panel& panel = folded.panels[i];
        const geometry::Box box = geometry::bounds(panel.area);
        out << "  " << panel.name << ": "
            << base::formatSize(box.width(), box.height(), base::LengthUnit::Millimetre);
        const double up = degrees(panel.upRad);
        out << (up == 0 ? ", upright" : ", read turned by " + base::formatNumber(up, 0) + " degrees");
        out << (panel.isFront ? ", the front" : "")
            << (folds::glueOn(body, panel).has_value() ? ", glued" : "");
        for (const folds::Flap& flap : folded.flaps)
            if (flap.panel == i) {
                out << ", a flap";
                if (const folds::Meeting* taker = folds::takerOf(body, folded.panels, flap))
                    out << ", behind " << folds::meetingText(folded.panels, *taker);
                else
                    for (const folds::Meeting& one : flap.meets)
                        out << (&one == &flap.meets.front() ? ", may go behind " : " or ")
                            << folds::meetingText(folded.panels, one);
            }
        out << "\n";
    }
}

base::Status tellAllPanels(Session& session, const State& state, const std::vector<design::PieceId>& on,
                           bool asJson) {
    json all = json::array();
    int told = 0;
    for (const design::PieceId id : on) {
        const design::Laid* laid = state.made.work() ? state.made.work()->find(id) : nullptr;
        if (!laid)
            continue;
        const auto folded = folds::foldedOf(*laid->piece.body);
        if (!folded)
            return folded.error();
        if (folded->panels.empty())
            continue;
        told += static_cast<int>(folded->panels.size());
        if (asJson) {
            all.push_back({{"piece", id.text()}, {"panels", panelsJson(*laid->piece.body, *folded)}});
            continue;
        }
        session.out << id.text() << ", " << design::pieceName(*state.made.work(), *laid) << "\n";
        tellPanels(*laid->piece.body, *folded, session.out);
    }
    if (asJson)
        session.out << all.dump(2) << "\n";
    else if (told == 0)
        session.out << "no panels: folds that part a piece make some\n";
    return base::Done{};
}

/// A piece and a place on it.
struct There {
    const design::Piece* piece;
    geometry::Point at;
};
/// The panel of this name on one of `on`.
base::Result<There> panelCalled(const State& state, const std::vector<design::PieceId>& on,
                                const std::string& name) {
    std::optional<There> out;
    std::string known;
    for (const design::PieceId id : on) {
        const design::Piece* one =
            state.made.pieces ? design::findPiece(state.made.pieces->now, id) : nullptr;
        const auto folded = one ? folds::foldedOf(*one->body) : folds::Folded{};
        if (!folded)
            return folded.error();
        for (const folds::Panel& panel : folded->panels) {
            known += (known.empty() ? "" : ", ") + panel.name;
            if (panel.name != name)
                continue;
            if (out)
                return Error{Code::InvalidArgument, "Several panels are called '" + name +
                                                        "'; say on which piece by --on, or a place by --at."};
            out = There{one, geometry::pointInside(panel.area)};
        }
    }
    if (!out)
        return Error{Code::NotFound, "There is no panel '" + name + "'" +
                                         (known.empty() ? "; folds that part a piece make some."
                                                        : "; there are " + known + ".")};
    return *out;
}

/// The piece of `on` that lies at the place of --at, the uppermost of several, and the place; or the panel that is named.
base::Result<There> pieceAt(const State& state, const std::vector<design::PieceId>& on,
                            const Options& options) {
    if (options.has("--of"))
        return panelCalled(state, on, options["--of"]);
    if (!options.has("--at"))
        return Error{Code::InvalidArgument, "Say which panel by a place on it: --at X,Y."};
    const auto at = pointsOf("--at", options["--at"]);
    if (!at)
        return at.error();
    There out{nullptr, at->front()};
    for (const design::PieceId id : on)
        if (const design::Piece* one =
                state.made.pieces ? design::findPiece(state.made.pieces->now, id) : nullptr;
            one && geometry::contains(one->shape(), out.at))
            out.piece = one;
    if (!out.piece)
        return Error{Code::NotFound, "No piece lies at that place."};
    return out;
}

base::Result<design::Step> panelStepSaid(const State& state, const std::vector<design::PieceId>& on,
                                         const Options& options) {
    const auto there = pieceAt(state, on, options);
    if (!there)
        return there.error();
    const auto& [piece, at] = *there;
    using folds::Action;
    const int said = options.has("--front") + options.has("--name") + options.has("--up");
    if (options.has("--glue") + options.has("--no-glue") + (said > 0) > 1)
        return Error{Code::InvalidArgument, "Say --glue and --no-glue each by itself."};
    const bool glues = options.has("--glue"), unglues = options.has("--no-glue");
    if (options.has("--behind") && !glues)
        return Error{Code::InvalidArgument,
                     "Say --behind with --glue: it names the edge that takes the flap."};
    if (glues && options.has("--behind")) {
        const auto behind = pointsOf("--behind", options["--behind"]);
        return behind ? base::Result<design::Step>(folds::glueStep(*piece, at, behind->front()))
                      : behind.error();
    }
    design::Step out = folds::panelStep(glues     ? Action::Glue
                                        : unglues ? Action::Unglue
                                                  : Action::SayPanel,
                                        *piece, at);
    if (glues || unglues)
        return out;
    if (options.has("--front"))
        out.values["front"] = std::string("the front");
    if (options.has("--name"))
        out.values["name"] = options["--name"];
    if (options.has("--up")) {
        const auto up = numberBetween("--up", options["--up"], -360, 360);
        if (!up)
            return up.error();
        out.values["up"] = *up;
    }
    return out;
}

base::Status panelsCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto on = piecesCalled(*state, options["--on"]);
    if (!on)
        return on.error();
    if (!options.has("--at") && !options.has("--of"))
        return tellAllPanels(session, *state, *on, options.has("--json"));
    const auto step = panelStepSaid(*state, *on, options);
    if (!step)
        return step.error();
    auto done = job::stepped(*state, *step);
    return done ? keep(session, options, done->job, *done) : base::Status(done.error());
}

// ---- panes

CommandSpec panesSpec() {
    return {"panes",
            "JOB.thinline",
            "Puts panes behind the windows of pieces, or lines the panel at a place with card.",
            {{"--on", "WHAT", kWhat, "all", false},
             {"--at", "X,Y", "Only the window at this place of the design; with --line the panel there.", "",
              false},
             {"--line", "", "Lines a panel instead.", "", false},
             {"--margin", "LENGTH", "Larger than the window by this, 5 mm; a lining is smaller, by 2 mm.", "",
              false},
             {"--stock", "STOCK", "Cut from this; panes else from what lets light through.", "", false},
             kJobOption}};
}

base::Result<Job> withPanesSaid(const State& state, const std::vector<design::PieceId>& on, double marginMm,
                                const Options& options) {
    std::vector<design::OpeningOf> windows;
    std::optional<geometry::Point> only;
    if (options.has("--at")) {
        const auto at = pointsOf("--at", options["--at"]);
        if (!at)
            return at.error();
        only = at->front();
    }
    for (const design::PieceId id : on) {
        const design::Piece* piece =
            state.made.pieces ? design::findPiece(state.made.pieces->now, id) : nullptr;
        if (!piece)
            continue;
        const auto all = job::windowsOf(*piece);
        for (size_t i = 0; i < all.size(); ++i)
            if (!only || geometry::contains(
                             geometry::Shape{geometry::reversed(piece->shape().openings[i]), {}}, *only))
                windows.push_back(all[i]);
    }
    if (windows.empty())
        return Error{Code::NotFound,
                     "There is no window" + std::string(only ? " at that place." : " in these pieces.")};
    const auto stock = stockSaidOr(state.job, options, "");
    return stock ? job::withPanes(state, windows, marginMm, *stock) : base::Result<Job>(stock.error());
}

base::Result<Job> withLiningSaid(const State& state, const std::vector<design::PieceId>& on, double marginMm,
                                 const Options& options) {
    const auto there = pieceAt(state, on, options);
    if (!there)
        return there.error();
    const auto stock = stockSaidOr(state.job, options, state.job.stocks.front().id);
    return stock ? job::withLining(state, *there->piece, there->at, marginMm, *stock)
                 : base::Result<Job>(stock.error());
}

base::Status panesCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto on = piecesCalled(*state, options["--on"]);
    if (!on)
        return on.error();
    const bool lines = options.has("--line");
    double marginMm = lines ? 2 : 5;
    if (options.has("--margin")) {
        const auto said = lengthOrZero(options["--margin"]);
        if (!said)
            return said.error();
        marginMm = *said;
    }
    const auto job = lines ? withLiningSaid(*state, *on, marginMm, options)
                           : withPanesSaid(*state, *on, marginMm, options);
    if (!job)
        return job.error();
    auto done = madeOf(*job, *state);
    if (!done)
        return done.error();
    if (const auto passed = job::passedOver(done->made); !passed.empty() && done->made.after.back().whyNot)
        return *done->made.after.back().whyNot;
    return keep(session, options, *job, *state);
}

// ---- marks

CommandSpec marksSpec() {
    return {
        "marks",
        "JOB.thinline",
        "Tells where marks show the place of upper pieces, or says of which layers and how.",
        {{"--of", "LAYERS", "Marks for the pieces of these layers, parted by commas.", "", false},
         {"--off", "LAYERS", "No marks for these.", "", false},
         {"--as", "outlines|corners|stretches", "Whole outlines, corners, or short stretches.", "", false},
         {"--by", "score|pen", "Pressed or drawn.", "", false},
         {"--inset", "LENGTH", "How far inside the edge of what covers them, besides its lift.", "", false},
         kJobOption}};
}

base::Result<Job> markedLayers(const State& state, const std::string& names, bool isMarked) {
    Job out = state.job;
    std::istringstream words(names);
    for (std::string word; std::getline(words, word, ',');) {
        const auto layer = layerCalled(state, word);
        if (!layer)
            return layer.error();
        out = job::withLayerMarked(out, *layer, isMarked);
    }
    return out;
}

base::Result<Job> marksMadeBy(const Job& job, const Options& options) {
    folds::MarkPlan plan = job.marks;
    if (options.has("--as")) {
        const auto& words = folds::kMarksAsWords;
        const auto at = std::find(words.begin(), words.end(), options["--as"]);
        if (at == words.end())
            return Error{Code::InvalidArgument, "--as is outlines, corners or stretches."};
        plan.as = static_cast<folds::MarksAs>(at - words.begin());
    }
    if (options.has("--by")) {
        if (options["--by"] != "score" && options["--by"] != "pen")
            return Error{Code::InvalidArgument, "--by is score or pen."};
        plan.areScored = options["--by"] == "score";
    }
    if (options.has("--inset")) {
        const auto inset = lengthOrZero(options["--inset"]);
        if (!inset)
            return inset.error();
        plan.insetMm = *inset;
    }
    return job::withMarks(job, plan);
}

void tellMarks(const State& state, std::ostream& out) {
    int told = 0;
    for (const design::Laid& laid :
         state.made.work() ? state.made.work()->pieces : std::vector<design::Laid>{}) {
        double lengthMm = 0;
        int marks = 0;
        for (const design::PieceLine& line : laid.piece.body->lines)
            if (std::holds_alternative<design::Placement>(line.does)) {
                ++marks;
                lengthMm += geometry::contourLength(line.path);
            }
        if (marks > 0)
            out << laid.id().text() << ", " << design::pieceName(*state.made.work(), laid) << ": "
                << base::counted(marks, "mark") << ", " << base::formatNumber(lengthMm, 1) << " mm\n";
        told += marks;
    }
    if (told == 0)
        out << "no marks\n";
    const folds::MarkPlan& plan = state.job.marks;
    out << "marks are " << folds::kMarksAsWords[static_cast<size_t>(plan.as)] << " by "
        << (plan.areScored ? "score" : "pen") << ", " << base::formatNumber(plan.insetMm, 2)
        << " mm inside, besides the lift\n";
}

base::Status marksCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const bool says = options.has("--of") || options.has("--off") || options.has("--as") ||
                      options.has("--by") || options.has("--inset");
    if (!says) {
        tellMarks(*state, session.out);
        return base::Done{};
    }
    return keep(session, options,
                Chain(*state)
                    .when(options.has("--of"),
                          [&](const State& now) { return markedLayers(now, options["--of"], true); })
                    .when(options.has("--off"),
                          [&](const State& now) { return markedLayers(now, options["--off"], false); })
                    .when(true, [&](const State& now) { return marksMadeBy(now.job, options); })
                    .job(),
                *state);
}

// ---- foam

CommandSpec foamSpec() {
    return {"foam",
            "JOB.thinline",
            "Tells where foam goes under lifted pieces, or says whether it is laid.",
            {{"--on", "", "Foam is laid under what is lifted.", "", false},
             {"--off", "", "It is not.", "", false},
             {"--across", "LENGTH", "How large a spot is where there is room.", "", false},
             {"--json", "", "Tells every spot as JSON.", "", false},
             kJobOption}};
}

json foamJson(const job::Finished& work) {
    json out = json::array();
    for (const job::FoamTold& one : work.foam) {
        json spots = json::array();
        for (const design::Zone& zone : work.stack.find(one.piece)->piece.body->zones)
            if (zone.kind == design::Zone::Kind::Foam) {
                const geometry::Box box = geometry::bounds(zone.area);
                spots.push_back({{"middleMm", {box.centre().x, box.centre().y}},
                                 {"acrossMm", box.width()},
                                 {"heightMm", zone.heightMm},
                                 {"on", zone.meets.text()}});
            }
        out.push_back({{"piece", one.piece.text()}, {"spots", spots}, {"armsWithout", one.armsWithout}});
    }
    return out;
}

void tellFoam(const job::Finished& work, std::ostream& out) {
    for (const job::FoamTold& one : work.foam) {
        const design::Laid& laid = *work.stack.find(one.piece);
        std::map<double, int> byHeight;
        for (const design::Zone& zone : laid.piece.body->zones)
            if (zone.kind == design::Zone::Kind::Foam)
                ++byHeight[zone.heightMm];
        out << one.piece.text() << ", " << design::pieceName(work.stack, laid) << ": ";
        if (byHeight.empty())
            out << "no room for foam";
        for (const auto& [height, count] : byHeight)
            out << (height == byHeight.begin()->first ? "" : ", ") << base::counted(count, "spot") << " "
                << base::formatLength(height, base::LengthUnit::Millimetre) << " high";
        if (one.armsWithout > 0)
            out << "; " << base::counted(one.armsWithout, "long arm") << " without room for one";
        out << "\n";
    }
}

base::Status foamCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    folds::FoamPlan plan = state->job.foam;
    if (options.has("--on") && options.has("--off"))
        return Error{Code::InvalidArgument, "Say --on or --off."};
    if (options.has("--on") || options.has("--off"))
        plan.isAsked = options.has("--on");
    if (options.has("--across")) {
        const auto across = lengthOrZero(options["--across"]);
        if (!across)
            return across.error();
        plan.acrossMm = *across;
    }
    if (!(plan == state->job.foam)) {
        auto said = job::withFoam(state->job, plan);
        return said ? keep(session, options, said.take(), *state) : base::Status(said.error());
    }
    static const job::Finished none{};
    const job::Finished& work = state->made.finished ? *state->made.finished : none;
    if (options.has("--json")) {
        session.out
            << json{{"isAsked", plan.isAsked}, {"acrossMm", plan.acrossMm}, {"pieces", foamJson(work)}}.dump(
                   2)
            << "\n";
        return base::Done{};
    }
    tellFoam(work, session.out);
    session.out << (!plan.isAsked ? "foam is not laid; --on lays it under what is lifted"
                    : work.foam.empty()
                        ? "no piece is lifted"
                        : "foam stays 3 mm inside the edge; makes differ in height, so measure yours")
                << "\n";
    return base::Done{};
}

} // namespace

std::vector<Command> panelCommands() {
    return {{panelsSpec(), panelsCommand},
            {panesSpec(), panesCommand},
            {marksSpec(), marksCommand},
            {foamSpec(), foamCommand}};
}

} // namespace thinline::batch
