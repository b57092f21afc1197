// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/ShapeCommands.h"

#include "base/Length.h"
#include "formats/svg/ReadSvg.h"
#include "formats/svg/WriteDrawing.h"
#include "geometry/Boolean.h"
#include "geometry/Necks.h"
#include "geometry/Offset.h"
#include "geometry/Openings.h"

#include <nlohmann/json.hpp>

#include <map>
#include <sstream>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using formats::svg::NamedGroup;
using formats::svg::NamedShape;
using geometry::Shape;
using json = nlohmann::ordered_json;

/// One path of a drawing as the areas it bounds.
struct Part {
    std::string id;
    std::vector<Shape> shapes;
    std::optional<raster::Rgb> fill;
};

struct Drawing {
    geometry::Box page;
    std::vector<Part> parts;

    std::vector<Shape> all() const {
        std::vector<Shape> out;
        for (const Part& part : parts)
            out.insert(out.end(), part.shapes.begin(), part.shapes.end());
        return out;
    }
};

/// Reads a drawing and cleans every path by its own fill rule; what was skipped is printed.
base::Result<Drawing> read(Session& session, const std::string& path) {
    const auto bytes = session.store.read(path, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    auto svg = formats::svg::readSvg({reinterpret_cast<const char*>(bytes->data()), bytes->size()}, {}, {},
                                     &session.fonts);
    if (!svg)
        return Error{svg.error().code, path + ": " + svg.error().message};
    for (const std::string& said : svg->said)
        session.out << fileOf(path) << ": " << said << "\n";
    if (svg->stated != design::StatedSize::Real)
        session.out << fileOf(path) << ": states no real size; taken as 96 to the inch, "
                    << base::formatSize(svg->widthMm, svg->heightMm, base::LengthUnit::Millimetre) << "\n";
    Drawing out{{{0, 0}, {svg->widthMm, svg->heightMm}}, {}};
    size_t lines = 0, dust = 0;
    for (const design::DrawnItem& item : svg->items) {
        lines += item.lines.size();
        if (item.contours.empty())
            continue;
        auto clean = geometry::areasOf(item.contours, item.rule);
        if (!clean)
            return Error{clean.error().code, path + ", '" + item.id + "': " + clean.error().message};
        if (clean->empty())
            ++dust;
        else
            out.parts.push_back({item.id, clean.take(), item.fill});
    }
    if (lines > 0)
        session.out << fileOf(path) << ": " << base::counted(static_cast<long long>(lines), "open line")
                    << " left out: no area\n";
    if (dust > 0)
        session.out << fileOf(path) << ": " << base::counted(static_cast<long long>(dust), "outline")
                    << " without area left out\n";
    return out;
}

Error noArea(const std::string& path) {
    return {Code::ParseError, path + ": no outline in this drawing bounds an area."};
}

/// All files of a call: the first, and the parts of all others.
struct Input {
    Drawing first;
    std::vector<Part> others;

    std::vector<Shape> otherShapes() const { return Drawing{{}, others}.all(); }
};

base::Result<Input> readAll(Session& session, const Options& options, bool needsOthers) {
    auto first = read(session, options.operand);
    if (!first)
        return first.error();
    Input out{first.take(), {}};
    if (out.first.parts.empty())
        return noArea(options.operand);
    for (const std::string& path : options.more) {
        auto next = read(session, path);
        if (!next)
            return next.error();
        out.others.insert(out.others.end(), next->parts.begin(), next->parts.end());
    }
    if (needsOthers && out.others.empty() && !options.more.empty())
        return noArea(options.more.front());
    if (needsOthers && out.others.empty())
        return Error{Code::InvalidArgument,
                     "A second drawing is missing: what is to be cut by or taken away."};
    return out;
}

/// A group of shapes that take their names from it: "door" alone, "door-1", "door-2" when there are several.
NamedGroup groupOf(const std::string& id, const std::string& title, const std::vector<Shape>& shapes,
                   std::optional<raster::Rgb> fill = {}) {
    NamedGroup group{"result-" + id, title, {}, fill};
    for (size_t i = 0; i < shapes.size(); ++i) {
        const std::string name = shapes.size() == 1 ? id : id + "-" + std::to_string(i + 1);
        group.shapes.push_back({name, name, shapes[i]});
    }
    return group;
}

base::Status write(Session& session, const Options& options, const Input& input,
                   const std::vector<NamedGroup>& groups) {
    size_t pieces = 0;
    int nodes = 0;
    for (const NamedGroup& group : groups)
        for (const NamedShape& one : group.shapes) {
            ++pieces;
            nodes += geometry::nodeCount(one.shape);
        }
    if (pieces == 0)
        session.out << "Nothing is left.\n";
    auto written = writeText(session, options["--out"],
                             formats::svg::writeGroups(groups, input.first.page, fileOf(options["--out"])));
    if (written)
        session.out << base::counted(static_cast<long long>(groups.size()), "group") << ", "
                    << base::counted(static_cast<long long>(pieces), "piece") << ", "
                    << base::counted(nodes, "node") << ", " << base::formatNumber(session.seconds(), 2)
                    << " s\n";
    return written;
}

base::Status weldCommand(Session& session, const Options& options) {
    const auto input = readAll(session, options, false);
    if (!input)
        return input.error();
    std::vector<Shape> all = input->first.all();
    const std::vector<Shape> others = input->otherShapes();
    all.insert(all.end(), others.begin(), others.end());
    auto joined = geometry::weld(all);
    if (!joined)
        return joined.error();
    const auto& parts = input->first.parts;
    return write(session, options, *input, {groupOf("weld", "joined", *joined, parts.front().fill)});
}

using Operation = base::Result<std::vector<Shape>> (*)(const std::vector<Shape>&, const std::vector<Shape>&,
                                                       const base::Progress&);

/// Every path of the first drawing against all of the others, each keeping its id.
base::Status eachAgainstOthers(Session& session, const Options& options, Operation operation,
                               const char* said) {
    const auto input = readAll(session, options, true);
    if (!input)
        return input.error();
    const std::vector<Shape> others = input->otherShapes();
    std::vector<NamedGroup> groups;
    for (const Part& part : input->first.parts) {
        auto result = operation(part.shapes, others, {});
        if (!result)
            return Error{result.error().code, "'" + part.id + "': " + result.error().message};
        groups.push_back(groupOf(part.id, part.id + said, *result, part.fill));
    }
    return write(session, options, *input, groups);
}

base::Status subtractCommand(Session& session, const Options& options) {
    return eachAgainstOthers(session, options, geometry::subtract, ", the rest taken away");
}
base::Status intersectCommand(Session& session, const Options& options) {
    return eachAgainstOthers(session, options, geometry::intersect, ", the overlap");
}

base::Status excludeCommand(Session& session, const Options& options) {
    const auto input = readAll(session, options, true);
    if (!input)
        return input.error();
    auto result = geometry::exclude(input->first.all(), input->otherShapes());
    if (!result)
        return result.error();
    return write(session, options, *input, {groupOf("exclude", "in one but not in both", *result)});
}

base::Status sliceCommand(Session& session, const Options& options) {
    const auto input = readAll(session, options, true);
    if (!input)
        return input.error();
    std::vector<NamedGroup> groups;
    const std::vector<Shape> knives = input->otherShapes();
    for (const Part& part : input->first.parts) {
        auto cut = geometry::slice(part.shapes, knives);
        if (!cut)
            return Error{cut.error().code, "'" + part.id + "': " + cut.error().message};
        // Knives of one path stay one knife in the names.
        size_t knife = 0;
        for (const Part& other : input->others) {
            std::vector<Shape> inside;
            for (size_t i = 0; i < other.shapes.size(); ++i, ++knife)
                inside.insert(inside.end(), cut->inside[knife].begin(), cut->inside[knife].end());
            if (!inside.empty())
                groups.push_back(
                    groupOf(part.id + "-in-" + other.id, part.id + " inside " + other.id, inside, part.fill));
        }
        if (!cut->outside.empty())
            groups.push_back(groupOf(part.id + "-outside", part.id + " outside", cut->outside, part.fill));
    }
    return write(session, options, *input, groups);
}

base::Status divideCommand(Session& session, const Options& options) {
    const auto input = readAll(session, options, false);
    if (!input)
        return input.error();
    std::vector<Shape> shapes;
    std::vector<std::string> names;
    for (const auto* parts : {&input->first.parts, &input->others})
        for (const Part& part : *parts)
            for (const Shape& shape : part.shapes) {
                shapes.push_back(shape);
                names.push_back(part.id);
            }
    const auto faces = geometry::divide(shapes);
    if (!faces)
        return faces.error();
    std::map<std::string, std::vector<Shape>> byCover;
    for (const geometry::Face& face : *faces) {
        std::string cover;
        for (int i : face.cover)
            cover += (cover.empty() ? "" : "+") + names[static_cast<size_t>(i)];
        byCover[cover].push_back(face.shape);
    }
    std::vector<NamedGroup> groups;
    for (const auto& [cover, of] : byCover)
        groups.push_back(groupOf(cover, "under " + cover, of));
    return write(session, options, *input, groups);
}

base::Status offsetCommand(Session& session, const Options& options) {
    geometry::OffsetOptions how;
    const std::string join = options["--join"];
    if (join != "round" && join != "mitre" && join != "square")
        return Error{Code::InvalidArgument,
                     "The join '" + join + "' is not known; use round, mitre or square."};
    how.join = join == "mitre"    ? geometry::Join::Mitre
               : join == "square" ? geometry::Join::Square
                                  : geometry::Join::Round;
    std::string by = options["--by"];
    const bool isInward = !by.empty() && by[0] == '-';
    const auto distance =
        base::parseLength(isInward ? by.substr(1) : by, base::LengthUnit::Millimetre, {.leastMm = 0.001});
    const auto count = numberBetween("--count", options["--count"], 1, 1000);
    if (!distance || !count)
        return !distance ? distance.error() : count.error();
    const auto input = readAll(session, options, false);
    if (!input)
        return input.error();
    const double stepMm = distance->inMm() * (isInward ? -1 : 1);
    const auto series = geometry::offsetSeries(input->first.all(), stepMm, static_cast<int>(*count), how);
    if (!series)
        return series.error();
    std::vector<NamedGroup> groups;
    for (size_t i = 0; i < series->size(); ++i) {
        const geometry::Parallel& one = (*series)[i];
        const std::string at = base::formatNumber(stepMm * static_cast<double>(i + 1), 3) + " mm";
        groups.push_back(groupOf("offset-" + std::to_string(i + 1), "offset by " + at, one.shapes));
        if (one.vanished > 0)
            session.out << "at " << at << " nothing is left of " << base::counted(one.vanished, "shape")
                        << "\n";
        if (one.fellApart > 0)
            session.out << "at " << at << " several parts are left of "
                        << base::counted(one.fellApart, "shape") << "\n";
    }
    return write(session, options, *input, groups);
}

json placeJson(const std::optional<geometry::Neck>& neck) {
    if (!neck)
        return nullptr;
    return {{"widthMm", neck->widthMm}, {"atMm", {neck->place.x, neck->place.y}}};
}

base::Result<json> measured(const Part& part) {
    double areaMm2 = 0, lengthMm = 0;
    int nodes = 0;
    geometry::Box box;
    json openings = json::array();
    std::optional<geometry::Neck> neck;
    for (const Shape& shape : part.shapes) {
        areaMm2 += geometry::area(shape);
        lengthMm += geometry::cutLength(shape);
        nodes += geometry::nodeCount(shape);
        box.include(geometry::bounds(shape));
        for (const geometry::OpeningSize& o : geometry::openingsOf(shape))
            openings.push_back({{"areaMm2", o.areaMm2}, {"widthMm", o.widthMm}});
        auto found = geometry::narrowestNeck(shape);
        if (!found)
            return found.error();
        if (*found && (!neck || (*found)->widthMm < neck->widthMm))
            neck = **found;
    }
    auto gap = geometry::narrowestGap(part.shapes);
    if (!gap)
        return gap.error();
    return json{{"id", part.id},
                {"pieces", part.shapes.size()},
                {"areaMm2", areaMm2},
                {"lengthMm", lengthMm},
                {"nodes", nodes},
                {"boxMm", {box.least.x, box.least.y, box.width(), box.height()}},
                {"narrowestNeck", placeJson(neck)},
                {"narrowestGap", placeJson(*gap)},
                {"openings", openings}};
}

base::Status measureCommand(Session& session, const Options& options) {
    std::ostringstream quiet; // with --json nothing but JSON goes out
    Session reading{session.store, session.fonts, session.pages, session.demoFolder,
                    options.has("--json") ? quiet : session.out};
    const auto drawing = read(reading, options.operand);
    if (!drawing)
        return drawing.error();
    if (drawing->parts.empty())
        return noArea(options.operand);
    json all = json::array();
    for (const Part& part : drawing->parts) {
        auto one = measured(part);
        if (!one)
            return Error{one.error().code, "'" + part.id + "': " + one.error().message};
        all.push_back(one.take());
    }
    if (options.has("--json")) {
        session.out << json{{"file", fileOf(options.operand)}, {"paths", all}}.dump(2) << "\n";
        return base::Done{};
    }
    for (const json& one : all) {
        const auto width = [&](const char* what) {
            return one[what].is_null() ? std::string("none")
                                       : base::formatNumber(one[what]["widthMm"].get<double>(), 2) + " mm";
        };
        session.out << one["id"].get<std::string>() << ": "
                    << base::formatSize(one["boxMm"][2], one["boxMm"][3], base::LengthUnit::Millimetre)
                    << ", " << base::formatNumber(one["areaMm2"], 1) << " mm², cut "
                    << base::formatNumber(one["lengthMm"], 1) << " mm, " << one["nodes"]
                    << " nodes, narrowest neck " << width("narrowestNeck") << ", gap "
                    << width("narrowestGap") << ", " << one["openings"].size() << " openings\n";
    }
    return base::Done{};
}

const OptionSpec kOut{"--out", "OUT.svg", "Where to write the result, at true size.", "", true};

CommandSpec setSpec(const char* name, const char* operand, const char* summary) {
    return {name, operand, summary, {kOut}, true};
}

} // namespace

std::vector<Command> shapeCommands() {
    return {
        {setSpec("weld", "A.svg [B.svg ...]",
                 "Joins all paths of all drawings into as few pieces as they form."),
         weldCommand},
        {setSpec("subtract", "A.svg B.svg [...]",
                 "Takes all paths of the other drawings away from every path of the first; ids are kept."),
         subtractCommand},
        {setSpec("intersect", "A.svg B.svg [...]",
                 "Keeps of every path of the first drawing what lies in the others; ids are kept."),
         intersectCommand},
        {setSpec("exclude", "A.svg B.svg [...]",
                 "Keeps what lies in the first drawing or in the others, not in both."),
         excludeCommand},
        {setSpec("slice", "A.svg B.svg [...]",
                 "Cuts every path of the first drawing by every path of the others and keeps all parts, each "
                 "named. What lies in several of the others goes to the first of them."),
         sliceCommand},
        {setSpec("divide", "A.svg [B.svg ...]",
                 "Cuts all paths by one another: every face once, named by what covers it."),
         divideCommand},
        {{"offset",
          "IN.svg",
          "Writes parallel outlines around all paths together.",
          {{"--by", "LENGTH", "The distance, such as 3mm; -3mm goes inwards.", "", true},
           {"--join", "JOIN", "Corners: round, mitre or square.", "round", false},
           {"--count", "1-1000", "How many, at equal steps.", "1", false},
           kOut}},
         offsetCommand},
        {{"measure",
          "IN.svg",
          "Tells area, cut length, size, nodes, narrowest neck and gap, and openings of every path.",
          {{"--json", "", "As JSON on standard output, with places.", "", false}}},
         measureCommand}};
}

} // namespace thinline::batch
