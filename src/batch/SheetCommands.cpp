// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Report.h"
#include "document/JobFile.h"
#include "document/JobSources.h"
#include "formats/svg/WriteDrawing.h"
#include "pack/Package.h"

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using document::Job;

CommandSpec sheetsSpec() {
    return {"sheets",
            "JOB.thinline",
            "Lays the pieces of a job on sheets and writes one SVG per load, an overview and the job with "
            "its arrangement.",
            {{"--mat", "MAT", "The mat: " + idsOf(catalogue().formats.mats) + ".", catalogue().defaultMatId,
              false},
             {"--sheet", "SHEET",
              "The sheet: " + idsOf(catalogue().formats.sheets) + ", or WIDTHxHEIGHT such as 200mmx150mm.",
              catalogue().defaultSheetId, false},
             {"--spacing", "LENGTH", "Kept free between pieces, 0 for none.", "2.5mm", false},
             {"--no-turn", "", "Pieces keep their direction; otherwise they may be turned by 90 degrees.", "",
              false},
             {"--out", "DIR", "The folder to write to; made when it is not there.", "", true},
             {"--report", "REPORT.json", "Writes loads, sheets, waste, findings and seconds.", "", false}}};
}

CommandSpec packSpec() {
    return {"pack",
            "JOB.thinline",
            "Writes the files of a job as it was arranged: one SVG per load, read back and compared, an "
            "overview, a list.",
            {{"--out", "DIR", "The folder to write to; made when it is not there.", "", true},
             {"--report", "REPORT.json", "Writes loads, sheets, waste, findings and seconds.", "", false}}};
}

CommandSpec demoSpec() {
    return {"demo",
            "",
            "Traces the Gull Point lighthouse anew, lays it on sheets and packs it.",
            {{"--out", "DIR", "The folder to write to; made when it is not there.", "out", false},
             {"--report", "REPORT.json", "Writes layers, loads, sheets, waste, findings and seconds.", "",
              false}}};
}

base::Status writePackage(Session& session, const Job& job, const std::string& folder) {
    auto package =
        pack::makePackage(*job.stack, *job.arrangement, {job.name, document::originsOf(job).lines});
    if (!package)
        return package.error();
    for (const pack::FileCheck& check : package->checks)
        if (!check.isSound())
            return Error{Code::IoError, check.name + " was not written as it should be: " + check.problem +
                                            ". Please report this."};
    if (auto made = session.store.makeFolder(folder); !made)
        return made;
    for (const pack::PackedFile& file : package->files) {
        if (auto written = session.store.writeWhole(folder + "/" + file.name, file.bytes); !written)
            return written;
        session.out << "wrote " << folder << "/" << file.name << "\n";
    }
    return base::Done{};
}

base::Result<document::SheetPlan> planOf(const Job& job, const Options& options) {
    document::SheetPlan plan = job.plan;
    plan.matId = options["--mat"];
    plan.sheetId = options["--sheet"];
    plan.mayTurn = !options.has("--no-turn");
    const auto spacing = lengthOrZero(options["--spacing"]);
    if (!spacing)
        return spacing.error();
    plan.spacingMm = *spacing;
    if (!catalogue().formats.mat(plan.matId))
        return Error{Code::InvalidArgument, "There is no mat '" + plan.matId + "'; choose from " +
                                                idsOf(catalogue().formats.mats) + "."};
    if (catalogue().formats.sheet(plan.sheetId))
        return plan;
    const auto times = plan.sheetId.find('x');
    const auto width = base::parseLength(plan.sheetId.substr(0, times), base::LengthUnit::Millimetre);
    const auto height = times == std::string::npos
                            ? width
                            : base::parseLength(plan.sheetId.substr(times + 1), base::LengthUnit::Millimetre);
    if (times == std::string::npos || !width || !height)
        return Error{Code::InvalidArgument, "There is no sheet '" + plan.sheetId + "'; choose from " +
                                                idsOf(catalogue().formats.sheets) +
                                                ", or give a size such as 200mmx150mm."};
    plan.sheetId = "own";
    plan.ownSheet.widthMm = width->inMm();
    plan.ownSheet.heightMm = height->inMm();
    return plan;
}

base::Status sheetsCommand(Session& session, const Options& options) {
    auto job = document::loadJob(session.store, options.operand);
    if (!job)
        return job.error();
    auto plan = planOf(*job, options);
    if (!plan)
        return plan.error();
    auto arranged = document::arranged(document::withPlan(*job, *plan), catalogue().formats);
    if (!arranged)
        return arranged.error();
    if (auto written = writePackage(session, *arranged, options["--out"]); !written)
        return written;
    const auto slash = options.operand.rfind('/');
    const std::string path =
        options["--out"] + "/" + options.operand.substr(slash == std::string::npos ? 0 : slash + 1);
    if (auto saved = document::saveJob(session.store, path, *arranged); !saved)
        return saved;
    session.out << "wrote " << path << "\n";
    return conclude(session, *arranged, options);
}

/// Packs a job, arranged first if it was not.
base::Status packJob(Session& session, Job job, const Options& options) {
    if (!job.arrangement) {
        auto arranged = document::arranged(job, catalogue().formats);
        if (!arranged)
            return arranged.error();
        job = arranged.take();
    }
    if (auto written = writePackage(session, job, options["--out"]); !written)
        return written;
    return conclude(session, job, options);
}

base::Status packCommand(Session& session, const Options& options) {
    auto job = document::loadJob(session.store, options.operand);
    if (!job)
        return job.error();
    return packJob(session, job.take(), options);
}

base::Status demoCommand(Session& session, const Options& options) {
    auto job = document::loadJob(session.store, session.demoFolder + "/gull-point-lighthouse.thinline");
    if (!job)
        return job.error();
    auto picture = document::pictureOf(*job);
    if (!picture)
        return picture.error();
    auto traced = document::traced(*job, **picture, job->recipe, catalogue());
    if (!traced)
        return traced.error();
    if (auto made = session.store.makeFolder(options["--out"]); !made)
        return made;
    if (auto written = writeText(session, options["--out"] + "/layers.svg",
                                 formats::svg::writeLayers(*traced->stack, traced->name));
        !written)
        return written;
    return packJob(session, traced.take(), options);
}

} // namespace

std::vector<Command> sheetCommands() {
    return {{sheetsSpec(), sheetsCommand}, {packSpec(), packCommand}, {demoSpec(), demoCommand}};
}

} // namespace thinline::batch
