// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Releasing.h"

#include "base/Length.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "pack/Release.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using json = nlohmann::ordered_json;

constexpr base::LengthUnit kMm = base::LengthUnit::Millimetre;
constexpr std::array kOptions{"--folds", "--sheets", "--sizes", "--parts", "--formats", "--table"};

std::string formatWords() {
    std::string out;
    for (const char* word : pack::kFormatWords)
        out += (out.empty() ? "" : ", ") + std::string(word);
    return out;
}

base::Result<std::vector<pack::Format>> formatsSaid(const Options& options) {
    if (!options.has("--formats"))
        return std::vector{pack::Format::Svg};
    std::vector<pack::Format> out;
    for (const std::string& word : partedByCommas(options["--formats"])) {
        const auto at = std::find(pack::kFormatWords.begin(), pack::kFormatWords.end(), word);
        if (at == pack::kFormatWords.end())
            return Error{Code::InvalidArgument,
                         "--formats: '" + word + "' is none; there are " + formatWords() + "."};
        out.push_back(static_cast<pack::Format>(at - pack::kFormatWords.begin()));
    }
    return out;
}

base::Result<std::vector<pack::Variant>> variantsSaid(const Options& options) {
    std::vector<design::FoldsAs> folds;
    std::vector<std::string> sheets;
    std::vector<double> percents;
    if (options.has("--folds"))
        for (const std::string& word : partedByCommas(options["--folds"])) {
            const auto as = foldsAsCalled(word);
            if (!as)
                return as.error();
            folds.push_back(*as);
        }
    if (options.has("--sheets"))
        sheets = partedByCommas(options["--sheets"]);
    if (options.has("--sizes"))
        for (const std::string& word : partedByCommas(options["--sizes"])) {
            const auto percent = numberBetween("--sizes", word, 5, 1000);
            if (!percent)
                return percent.error();
            percents.push_back(*percent);
        }
    std::vector<pack::Parts> parts;
    if (options.has("--parts"))
        for (const std::string& word : partedByCommas(options["--parts"])) {
            const auto at = std::find(pack::kPartsWords.begin(), pack::kPartsWords.end(), word);
            if (at == pack::kPartsWords.end())
                return Error{Code::InvalidArgument, "--parts: say divided or whole."};
            parts.push_back(static_cast<pack::Parts>(at - pack::kPartsWords.begin()));
        }
    auto out = pack::variantsOf(folds, sheets, percents, parts);
    if (!out || !options.has("--closer"))
        return out;
    const auto steps = numberBetween("--closer", options["--closer"], 1, 1e9);
    if (!steps)
        return steps.error();
    std::vector<pack::Variant> closer = out.take();
    for (pack::Variant& one : closer)
        one.closerSteps = static_cast<long long>(*steps);
    return closer;
}

json rowJson(const pack::VariantRow& row) {
    json out{{"variant", row.variant.name},  {"widthMm", row.widthMm},  {"heightMm", row.heightMm},
             {"loads", row.loads},           {"sheets", row.sheets},    {"pieces", row.pieces},
             {"smallestMm", row.smallestMm}, {"tooLarge", row.tooLarge}};
    if (!row.canBeCut())
        out["whyNot"] = row.whyNot;
    if (!row.help.empty())
        out["help"] = row.help;
    return out;
}

void tell(const std::vector<pack::VariantRow>& rows, std::ostream& out) {
    for (const pack::VariantRow& row : rows) {
        out << row.variant.name << ": " << base::formatSize(row.widthMm, row.heightMm, kMm) << ", "
            << base::counted(row.loads, "load") << ", " << base::counted(row.sheets, "sheet") << ", "
            << base::counted(row.pieces, "piece") << ", the smallest "
            << base::formatLength(row.smallestMm, kMm);
        if (!row.canBeCut())
            out << "; cannot be cut: " << row.whyNot << (row.help.empty() ? "" : " But " + row.help + ".");
        out << "\n";
    }
}

json checksJson(const pack::Release& release) {
    json out = json::array();
    for (const pack::ReadBack& one : release.checks)
        out.push_back(
            {{"file", one.name}, {"lines", one.lines}, {"worstMm", one.worstMm}, {"problem", one.problem}});
    return out;
}

base::Status table(Session& session, const job::State& state, const Options& options,
                   const std::vector<pack::Variant>& variants) {
    const auto rows = pack::tableOf(state, variants);
    if (!rows)
        return rows.error();
    if (!options.has("--json")) {
        tell(*rows, session.out);
        return base::Done{};
    }
    json all = json::array();
    for (const pack::VariantRow& row : *rows)
        all.push_back(rowJson(row));
    session.out << all.dump(2) << "\n";
    return base::Done{};
}

} // namespace

std::vector<OptionSpec> releaseOptions() {
    return {{"--folds", "WAY,...", "A variant for each way of making folds: score, perforation, hand.", "",
             false},
            {"--sheets", "SHEET,...",
             "A variant for each sheet: " + idsOf(catalogue().formats.sheets) + ", or a size, 200x280mm.", "",
             false},
            {"--sizes", "PERCENT,...", "A variant for each size, in per cent of the job's.", "", false},
            {"--formats", "FORMAT,...", "What loads are written as: " + formatWords() + ". svg without it.",
             "", false},
            {"--parts", "WAY,...", "A variant in parts as Split divided it, and one whole: divided, whole.",
             "", false},
            {"--closer", "STEPS", "Looks for closer layouts of variants in so many steps each.", "", false},
            {"--table", "", "Only tells the variants in numbers; writes nothing.", "", false},
            {"--json", "", "Tells variants and what was read back as JSON.", "", false}};
}

bool asksForRelease(const Options& options) {
    const std::string out = options.has("--out") ? options["--out"] : "";
    return out.ends_with(".zip") ||
           std::any_of(kOptions.begin(), kOptions.end(), [&](const char* name) { return options.has(name); });
}

base::Status packRelease(Session& session, const job::State& state, const Options& options) {
    const auto variants = variantsSaid(options);
    const auto formats = formatsSaid(options);
    if (!variants || !formats)
        return !variants ? variants.error() : formats.error();
    if (options.has("--table"))
        return table(session, state, options, *variants);
    const auto release = pack::makeRelease(state, *variants, *formats);
    if (!release)
        return release.error();
    for (const pack::ReadBack& one : release->checks)
        if (!one.problem.empty())
            return Error{Code::IoError, one.name + " was not written as it should be: " + one.problem +
                                            ". Please report this."};
    for (const std::string& fault : release->faults)
        session.out << "left out: " << fault << "\n";
    if (!release->rights.empty() && !options.has("--json"))
        session.out << release->rights << "\n";
    const std::string& to = options["--out"];
    pack::Replaced replaced;
    if (to.ends_with(".zip")) {
        const std::string name = fileOf(to);
        const auto zip = pack::zipOf(*release, name.substr(0, name.size() - 4));
        if (!zip)
            return zip.error();
        if (auto written = session.store.writeWhole(to, *zip); !written)
            return written;
    } else {
        auto written = pack::writeRelease(session.store, to, *release);
        if (!written)
            return written.error();
        replaced = written.take();
    }
    if (options.has("--json")) {
        json out{{"variants", json::array()},
                 {"files", release->files.size()},
                 {"checked", release->checks.size()},
                 {"worstMm", release->worstMm()},
                 {"readBack", checksJson(*release)},
                 {"rights", release->rights},
                 {"gone", replaced.gone},
                 {"kept", replaced.kept}};
        for (const pack::VariantRow& row : release->rows)
            out["variants"].push_back(rowJson(row));
        session.out << out.dump(2) << "\n";
        return base::Done{};
    }
    tell(release->rows, session.out);
    session.out << "wrote " << to << ": "
                << base::counted(static_cast<long long>(release->files.size()), "file") << "; "
                << release->checks.size() << " opened again and compared, worst difference "
                << base::formatNumber(1000 * release->worstMm(), 1) << " um\n";
    if (replaced.gone > 0)
        session.out << "taken away: " << base::counted(replaced.gone, "file") << " of an earlier package\n";
    for (const std::string& path : replaced.kept)
        session.out << "left, because somebody changed it: " << path << "\n";
    return base::Done{};
}

} // namespace thinline::batch
