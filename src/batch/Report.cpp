// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Report.h"

#include "base/Length.h"
#include "inspect/Inspect.h"
#include "job/TraceSteps.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace thinline::batch {
namespace {

using json = nlohmann::ordered_json;

json sizeJson(const geometry::Box& box) {
    return {{"widthMm", box.width()}, {"heightMm", box.height()}};
}

json layersJson(const design::Stack& work) {
    json out = json::array();
    for (const design::Layer& layer : work.layers) {
        const design::StackMeasures m = design::measure(work, layer.id);
        out.push_back({{"group", design::layerGroup(work, layer)},
                       {"stock", layer.stockId},
                       {"pieces", m.pieces},
                       {"nodes", m.nodes},
                       {"cutLengthMm", m.cutLengthMm},
                       {"size", sizeJson(m.box)}});
    }
    return out;
}

void putTracing(json& out, const job::State& state) {
    const auto* picture = job::asA<job::Picture>(job::pictureSource(state.job));
    if (!picture || !picture->tracing)
        return;
    const trace::Tracing& tracing = *picture->tracing;
    const design::StackMeasures& m = state.made.finished->measures;
    out["threshold"] = tracing.threshold;
    out["droppedAreas"] = tracing.droppedAreas;
    out["droppedSpecks"] = tracing.droppedSpecks;
    out["leaks"] = tracing.leaks.size();
    out["closedGaps"] = picture->recipe.closings.size();
    out["areas"] = tracing.areas.size();
    if (picture->recipe.mode == trace::Mode::Photo)
        out["looseParts"] = std::max(0, m.pieces - m.layers);
    out["colours"] = json::array();
    for (const raster::Rgb& colour : tracing.palette)
        out["colours"].push_back("#" + raster::hexOf(colour));
}

json sourcesJson(const job::Job& job) {
    json out = json::array();
    for (const auto& source : job.sources) {
        json one = {
            {"id", numberOf(source->id)}, {"name", source->name()}, {"size", sizeJson(source->box())}};
        if (source->stretchY != 1)
            one["stretched"] = source->stretchY;
        out.push_back(std::move(one));
    }
    return out;
}

json reportOf(const Session& session, const job::State& state,
              const std::vector<inspect::Finding>& findings) {
    const job::Finished& finished = *state.made.finished;
    const design::StackMeasures& m = finished.measures;
    json out = {{"job", state.job.name},
                {"layers", layersJson(finished.stack)},
                {"pieces", m.pieces},
                {"nodes", m.nodes},
                {"lines", m.lines},
                {"size", sizeJson(m.box)},
                {"tallMm", finished.heights.tallMm()},
                {"smallestPiece", sizeJson(m.smallestPieceBox)},
                {"sources", sourcesJson(state.job)},
                {"findings", json::array()}};
    putTracing(out, state);
    for (const inspect::Finding& f : findings) {
        json one = {{"severity", inspect::severityName(f.severity)},
                    {"message", f.message},
                    {"remedy", f.remedy},
                    {"cases", json::array()}};
        for (const inspect::Case& c : f.cases)
            one["cases"].push_back(c.message);
        out["findings"].push_back(std::move(one));
    }
    if (state.made.sheets) {
        const sheets::ArrangementMeasures a = sheets::measure(*state.made.sheets, finished.stack);
        out["arrangement"] = {{"loads", a.loads},
                              {"sheets", a.sheets},
                              {"placed", a.pieces},
                              {"unplaced", state.made.sheets->unplaced.size()},
                              {"wasteShare", a.wasteShare}};
    }
    out["seconds"] = session.seconds();
    return out;
}

} // namespace

base::Result<job::State> loadState(Session& session, const std::string& path) {
    auto loaded = document::loadJob(session.store, path);
    if (!loaded)
        return loaded.error();
    return std::move(loaded.take().state);
}

base::Result<job::State> arranged(const job::State& state) {
    auto laid = job::make(state.job, job::Stage::Sheets, state.made);
    if (laid && !laid->made.sheets)
        return base::Error{base::Code::Degenerate, laid->made.sheetsProblem.empty()
                                                       ? "There are no pieces yet; trace a picture first."
                                                       : laid->made.sheetsProblem};
    return laid;
}

base::Status saveState(Session& session, const std::string& path, const job::State& state) {
    const auto saved = document::saveJob(session.store, path, state);
    if (!saved)
        return saved.error();
    session.out << "wrote " << path << "\n";
    return base::Done{};
}

base::Result<job::State> madeOf(base::Result<job::Job> next, const job::State& before, job::Stage upTo) {
    if (!next)
        return next.error();
    return job::make(next.take(), upTo, before.made);
}

base::Result<std::string> stockSaid(const std::vector<design::Stock>& stocks, const std::string& said) {
    if (design::findStock(stocks, said))
        return said;
    std::vector<std::string> called;
    std::string known;
    for (const design::Stock& stock : stocks) {
        if (stock.name == said)
            called.push_back(stock.id);
        known +=
            (known.empty() ? "" : ", ") + stock.id + (stock.name == stock.id ? "" : " (" + stock.name + ")");
    }
    if (called.size() == 1)
        return called.front();
    return base::Error{base::Code::NotFound,
                       called.empty()
                           ? "There is no stock '" + said + "'; choose from " + known + "."
                           : "Several stocks are called '" + said + "'; choose by id from " + known + "."};
}

base::Result<std::string> stockSaidOr(const job::Job& job, const Options& options, const std::string& usual) {
    return options.has("--stock") ? stockSaid(job, options["--stock"]) : base::Result<std::string>(usual);
}

base::Result<bool> switchSaid(const std::string& option, const std::string& word) {
    if (word != "on" && word != "off")
        return base::Error{base::Code::InvalidArgument, option + ": say on or off."};
    return word == "on";
}

base::Result<int> copiesSaid(const Options& options) {
    const auto copies = numberBetween("--copies", options["--copies"], 1, 999);
    return copies ? base::Result<int>(static_cast<int>(*copies)) : copies.error();
}

base::Status keep(Session& session, const Options& options, base::Result<job::Job> next,
                  const job::State& before) {
    auto state = madeOf(std::move(next), before);
    if (!state)
        return state.error();
    if (auto saved = saveState(session, options.has("--job") ? options["--job"] : options.operand, *state);
        !saved)
        return saved;
    return conclude(session, *state, options);
}

base::Status conclude(Session& session, const job::State& state, const Options& options) {
    inspect::Memory memory;
    const auto findings = inspect::inspect(state, catalogue().formats, memory);
    if (!findings)
        return findings.error();
    if (!state.made.finished)
        return base::Error{base::Code::Degenerate, "There are no pieces in this job."};
    const design::StackMeasures& m = state.made.finished->measures;
    session.out << base::counted(m.layers, "layer") << ", " << base::counted(m.pieces, "piece") << ", "
                << m.nodes << " nodes, "
                << base::formatSize(m.box.width(), m.box.height(), base::LengthUnit::Millimetre) << ", "
                << base::formatNumber(state.made.finished->heights.tallMm(), 1) << " mm tall\n";
    if (const auto& parts = state.made.finished->parts; parts.size() > 1)
        session.out << parts.size() << " parts lie side by side, the largest "
                    << base::formatSize(parts[0].width(), parts[0].height(), base::LengthUnit::Millimetre)
                    << "\n";
    if (state.made.sheets) {
        const sheets::ArrangementMeasures a = sheets::measure(*state.made.sheets, state.made.finished->stack);
        session.out << base::counted(a.loads, "load") << ", " << base::counted(a.sheets, "sheet") << ", "
                    << base::counted(a.pieces, "piece") << " laid, " << state.made.sheets->unplaced.size()
                    << " too large, waste " << base::formatNumber(100 * a.wasteShare, 0) << " %\n";
    }
    for (const inspect::Finding& f : *findings)
        session.out << inspect::severityName(f.severity) << ": " << f.message << ". " << f.remedy << "\n";
    if (!options.has("--report"))
        return base::Done{};
    return writeText(session, options["--report"], reportOf(session, state, *findings).dump(2) + "\n");
}

} // namespace thinline::batch
