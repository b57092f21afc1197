// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Report.h"

#include "base/Length.h"
#include "document/Inspection.h"

#include <nlohmann/json.hpp>

namespace thinline::batch {
namespace {

using document::Job;
using json = nlohmann::ordered_json;

base::Result<std::vector<inspect::Finding>> findingsOf(const Job& job) {
    return inspect::inspect(document::subjectOf(job, catalogue().formats));
}

json sizeJson(const geometry::Box& box) {
    return {{"widthMm", box.width()}, {"heightMm", box.height()}};
}

json reportOf(const Session& session, const Job& job, const std::vector<inspect::Finding>& findings) {
    const design::StackMeasures m = design::measure(*job.stack);
    json layers = json::array();
    for (const design::Layer& layer : job.stack->layers) {
        design::Stack one{job.stack->stocks, {layer}};
        const design::StackMeasures lm = design::measure(one);
        layers.push_back({{"group", design::layerGroup(layer)},
                          {"stock", layer.stockId},
                          {"pieces", lm.pieces},
                          {"nodes", lm.nodes},
                          {"cutLengthMm", lm.cutLengthMm},
                          {"size", sizeJson(lm.box)}});
    }
    json out = {{"job", job.name},          {"layers", layers},
                {"pieces", m.pieces},       {"nodes", m.nodes},
                {"size", sizeJson(m.box)},  {"smallestPiece", sizeJson(m.smallestPieceBox)},
                {"findings", json::array()}};
    if (job.tracing) {
        out["threshold"] = job.tracing->threshold;
        out["droppedAreas"] = job.tracing->droppedAreas;
        out["droppedSpecks"] = job.tracing->droppedSpecks;
        out["leaks"] = job.tracing->leaks.size();
        out["closedGaps"] = job.recipe.closings.size();
        out["areas"] = job.tracing->areas.size();
        if (job.recipe.mode == trace::Mode::Photo)
            out["looseParts"] = std::max(0, m.pieces - m.layers);
        out["colours"] = json::array();
        for (const raster::Rgb& colour : job.tracing->palette)
            out["colours"].push_back("#" + raster::hexOf(colour));
    }
    for (const inspect::Finding& f : findings)
        out["findings"].push_back(
            {{"severity", inspect::severityName(f.severity)}, {"message", f.message}, {"remedy", f.remedy}});
    if (job.arrangement) {
        const sheets::ArrangementMeasures a = sheets::measure(*job.arrangement, *job.stack);
        out["arrangement"] = {{"loads", a.loads},
                              {"sheets", a.sheets},
                              {"placed", a.pieces},
                              {"unplaced", job.arrangement->unplaced.size()},
                              {"wasteShare", a.wasteShare}};
    }
    out["seconds"] = session.seconds();
    return out;
}

} // namespace

base::Status conclude(Session& session, const Job& job, const Options& options) {
    const auto findings = findingsOf(job);
    if (!findings)
        return findings.error();
    const design::StackMeasures m = design::measure(*job.stack);
    session.out << m.layers << " layers, " << m.pieces << " pieces, " << m.nodes << " nodes, "
                << base::formatSize(m.box.width(), m.box.height(), base::LengthUnit::Millimetre) << "\n";
    if (job.arrangement) {
        const sheets::ArrangementMeasures a = sheets::measure(*job.arrangement, *job.stack);
        session.out << a.loads << " loads, " << a.sheets << " sheets, " << a.pieces << " pieces laid, "
                    << job.arrangement->unplaced.size() << " too large, waste "
                    << base::formatNumber(100 * a.wasteShare, 0) << " %\n";
    }
    for (const inspect::Finding& f : *findings)
        session.out << inspect::severityName(f.severity) << ": " << f.message << ". " << f.remedy << "\n";
    if (!options.has("--report"))
        return base::Done{};
    return writeText(session, options["--report"], reportOf(session, job, *findings).dump(2) + "\n");
}

} // namespace thinline::batch
