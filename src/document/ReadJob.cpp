// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Reading a job takes nothing for granted: files come from other people and other versions.
//
// - Every number has its range, every reference must lead somewhere, every list its length; what is wrong is
//   said with the entry and the name it stands under, and nothing is opened by half. `numberIn` and its like
//   throw `BadJob` within this folder only; `stateOf` turns it into a sentence.
// - What is absent has its usual value. A later version that adds a decision can still be read by whoever does
//   not know it, as long as the format's number is the same; a higher number is refused.
// - Formats 1 to 3 kept what followed from decisions beside them. They are read elsewhere (OldFormats.cpp), by
//   replaying their steps.
// - What was kept because finding it again takes time is believed only if it belongs to the decisions.
//   There is no check sum between them: a person may edit a job by hand, and then the sheets that were kept
//   lay other copies than the work asks for. That is what is compared (`belongsTo`), since it is what matters.
#include "document/JobEntries.h"
#include "document/JobJson.h"
#include "document/OldFormats.h"
#include "document/PrintJson.h"
#include "sheets/Cards.h"

#include <algorithm>
#include <set>

namespace thinline::document {
namespace {

using base::Bytes;
using base::Code;
using base::Error;
using design::PieceId;
using job::Source;

constexpr size_t kMostJsonBytes = 256ull << 20;
constexpr int kMostNumber = 1'000'000'000;
constexpr int kMostLineId = 2'147'483'647; // those made by steps are counted from 1,000,000,000

geometry::Transform transformOf(const json& in) {
    const auto at = [&](size_t i) { return numberIn(in.at(i), -1e9, 1e9, "a map"); };
    const geometry::Transform out{at(0), at(1), at(2), at(3), at(4), at(5)};
    if (std::abs(out.a * out.d - out.b * out.c) < 1e-18)
        throw BadJob{"a map flattens the plane"};
    return out;
}

design::Chosen chosenOf(const json& in) {
    if (in.is_string())
        return pieceOf(in);
    if (in.contains("everyPieceOf"))
        return design::EveryPieceOf{
            design::SourceId{wholeIn(in.at("everyPieceOf"), 1, kMostNumber, "a source")}};
    if (in.contains("line"))
        return design::LineOf{pieceOf(in.at("piece")),
                              design::LineId{wholeIn(in.at("line"), 1, kMostLineId, "a line")}};
    return design::OpeningOf{pieceOf(in.at("piece")), pointOf(in.at("inside"))};
}

design::Value valueOf(const json& in) {
    if (in.is_number())
        return numberIn(in, -1e12, 1e12, "a step's value");
    if (in.is_string())
        return in.get<std::string>();
    if (in.is_array())
        return pointOf(in);
    return lineOf(in);
}

design::Step stepOf(const json& in) {
    design::Step out;
    out.id = design::StepId{wholeIn(in.at("id"), 1, kMostNumber, "a step's number")};
    out.action = in.at("action").get<std::string>();
    for (const json& one : in.value("on", json::array()))
        out.on.push_back(chosenOf(one));
    const json values = in.value("values", json::object()); // outlives the loop over it
    for (const auto& [name, value] : values.items())
        out.values[name] = valueOf(value);
    for (const json& part : in.value("parts", json::array()))
        out.parts.push_back(
            {pieceOf(part.at("id")), pointOf(part.at("inside")), flagOr(part, "gone", false)});
    return out;
}

job::Wishes wishesOf(const json& in) {
    job::Wishes out;
    for (const auto& [id, one] : in.items()) {
        design::Wish wish;
        if (one.contains("layer"))
            wish.layer = design::LayerId{wholeIn(one.at("layer"), 0, kMostNumber, "a layer's number")};
        if (one.contains("copies"))
            wish.copies = wholeIn(one.at("copies"), 1, 999, "copies");
        if (one.contains("liftMm"))
            wish.liftMm = numberIn(one.at("liftMm"), 0, design::kMostLiftMm, "a lift");
        if (one.contains("up"))
            wish.up = one.at("up") == "back" ? design::Side::Back : design::Side::Front;
        if (one.contains("free"))
            wish.isFree = one.at("free").get<bool>();
        if (one.contains("cutThrough"))
            wish.isCutThrough = one.at("cutThrough").get<bool>();
        out = out.with(pieceOf(json(id)), wish);
    }
    return out;
}

design::Pose poseOf(const json& in) {
    return {pointOf(in.at("held")), pointOf(in.at("at")), numberOr(in, "turnRad", 0, -7, 7, "a turn"),
            flagOr(in, "flipped", false)};
}

/// What is known of the card that is there, and of the mats.
void readCards(const json& in, job::SheetPlan& plan) {
    plan.intoOpenings = flagOr(in, "intoOpenings", false);
    plan.areCornersTaped = flagOr(in, "cornersTaped", false);
    if (in.contains("sheetsLie")) {
        const json& lies = in.at("sheetsLie");
        plan.lies = {
            wordIn<design::SheetLie::From>(lies.at(0), design::kSheetFromWords, "the corner of a sheet"),
            wordIn<design::SheetLie::Way>(lies.at(1), design::kSheetWayWords, "the way of a sheet")};
    }
    plan.tapedStocks = in.value("tapedSheets", std::set<std::string>());
    const json sheetOf = in.value("sheetOf", json::object());
    for (const auto& [stock, sheet] : sheetOf.items()) {
        design::SheetFormat one = ownSheetOf(sheet.at("sizeMm"));
        one.id = textOr(sheet, "sheet", "own");
        one.name = textOr(sheet, "name", "own size");
        plan.sheetOf[stock] = one;
    }
    plan.keepOuts = keepOutsOf(in);
    plan.nextScrap = static_cast<int>(numberOr(in, "nextScrap", 1, 1, kMostScraps, "a scrap's number"));
    for (const json& s : in.value("scraps", json::array())) {
        design::Scrap one = scrapOf(s);
        if (one.id < 1)
            throw BadJob{"a scrap has no number"};
        plan.nextScrap = std::max(plan.nextScrap, one.id + 1);
        plan.scraps.push_back(std::move(one));
    }
}

job::SheetPlan planOf(const json& in) {
    job::SheetPlan out;
    out.matId = in.at("mat").get<std::string>();
    out.sheetId = in.at("sheet").get<std::string>();
    if (in.contains("ownSheetMm"))
        out.ownSheet = ownSheetOf(in.at("ownSheetMm"));
    out.spacingMm = numberOr(in, "spacingMm", out.spacingMm, 0, 100, "the spacing");
    out.mayTurn = flagOr(in, "mayTurn", out.mayTurn);
    out.isMixed = flagOr(in, "mixed", false);
    if (in.contains("foldsAs"))
        out.foldsAs = wordIn<design::FoldsAs>(in.at("foldsAs"), design::kFoldsAsWords, "how folds are made");
    for (const json& pin : in.value("pins", json::array()))
        out.pins.push_back(
            {{pieceOf(pin.at("piece")), wholeIn(pin.at("copy"), 0, 999, "a pin")},
             wholeIn(pin.at("sheetOfStock"), 0, 999, "a pin"),
             poseOf(pin.at("pose")),
             static_cast<int>(numberOr(pin, "scrapId", 0, sheets::kScrapToCut, kMostScraps, "a scrap"))});
    readCards(in, out);
    return out;
}

assembly::Wishes assemblyOf(const json& in) {
    assembly::Wishes out;
    const auto words = [](const std::string& text) {
        if (text.empty() || text.size() > assembly::kMostWords)
            throw BadJob{"a text of the assembly sheets is empty or too long"};
        return text;
    };
    const std::string numbers = textOr(in, "numbers", assembly::kNumbersWords[0]);
    for (size_t i = 0; i < assembly::kNumbersWords.size(); ++i)
        if (numbers == assembly::kNumbersWords[i])
            out.numbers = static_cast<assembly::Numbers>(i);
    for (const json& item : in.value("items", json::array()))
        out.items.push_back({words(item.at("text").get<std::string>()),
                             item.contains("at") ? pieceOf(item.at("at")) : design::PieceId{}});
    if (out.items.size() > assembly::kMostItems)
        throw BadJob{"it has more own items than " + std::to_string(assembly::kMostItems)};
    const json texts = in.value("texts", json::object());
    for (const auto& [key, text] : texts.items())
        out.texts[key] = words(text.get<std::string>());
    return out;
}

job::CutWishes cutOf(const json& in) {
    job::CutWishes out;
    if (in.contains("machine"))
        out.machine = machineOf(in.at("machine"));
    const json settings = in.value("settings", json::object());
    for (const auto& [stock, s] : settings.items()) {
        design::Setting one;
        one.blade = wordIn<design::ToolKind>(s.at("blade"), design::kToolWords, "a tool");
        if (!design::isBlade(one.blade))
            throw BadJob{"a stock is cut with a blade"};
        one.forceGf = numberIn(s.at("forceGf"), 0, design::kMostGf, "a force");
        one.passes = wholeIn(s.at("passes"), 1, design::kMostPasses, "the passes of a stock");
        one.mmPerS = numberOr(s, "mmPerS", 0, 0, 100'000, "a speed");
        if (s.contains("tack"))
            one.tack = wordIn<design::Tack>(s.at("tack"), design::kTackWords, "a mat's tack");
        if (s.contains("throughGf"))
            one.throughGf = numberIn(s.at("throughGf"), 0, design::kMostGf, "a force");
        out.settings[stock] = one;
    }
    if (in.contains("aids")) {
        const json& aids = in.at("aids");
        out.aids.bladeOffsetMm =
            numberOr(aids, "bladeOffsetMm", 0, 0, design::kMostOffsetMm, "a blade's offset");
        out.aids.overcutMm = numberOr(aids, "overcutMm", 0, 0, design::kMostOvercutMm, "an overcut");
        out.aids.tabs = static_cast<int>(numberOr(aids, "tabs", 0, 0, design::kMostTabs, "a number of tabs"));
        out.aids.tabMm =
            numberOr(aids, "tabMm", out.aids.tabMm, 0.05, design::kMostTabMm, "the width of a tab");
    }
    out.hasTiles = flagOr(in, "tiles", false);
    return out;
}

std::vector<design::Layer> layersOf(const json& in, int& highest) {
    std::vector<design::Layer> out;
    std::set<design::LayerId> ids;
    for (const json& l : in) {
        design::Layer one;
        one.id = design::LayerId{wholeIn(l.at("id"), 1, kMostNumber, "a layer's number")};
        if (!ids.insert(one.id).second)
            throw BadJob{"two layers have the number " + std::to_string(numberOf(one.id))};
        highest = std::max(highest, numberOf(one.id));
        one.name = textOr(l, "name");
        one.stockId = l.at("stock").get<std::string>();
        if (l.contains("place"))
            one.at = wordIn<design::Layer::At>(l.at("place"), kPlaces, "the place of a layer");
        one.liftMm = numberOr(l, "liftMm", 0, 0, design::kMostLiftMm, "a lift");
        one.isHidden = flagOr(l, "hidden", false);
        one.isMarked = flagOr(l, "marked", false);
        out.push_back(std::move(one));
    }
    return out;
}

design::Zone zoneOf(const json& in) {
    design::Zone out;
    out.kind = wordIn<design::Zone::Kind>(in.at("kind"), kZoneWords, "what a zone is");
    out.area = shapeOf(in.at("path"));
    if (textOr(in, "side") == "back")
        out.side = design::Side::Back;
    out.takesMm = numberOr(in, "takesMm", 0, 0, 1e4, "what goes through a way");
    out.takes = textOr(in, "takes");
    if (in.contains("behind"))
        out.behind = pointOf(in.at("behind"));
    return out;
}

design::Panel panelOf(const json& in) {
    return {pointOf(in.at("inside")), {}, textOr(in, "name"), flagOr(in, "front", false)};
}

std::vector<job::Found> foundOf(const json& in) {
    std::vector<job::Found> out;
    std::set<std::string> keys;
    for (const json& piece : in.at("pieces")) {
        job::Found one;
        one.key = piece.at("key").get<std::string>();
        if (!PieceId::read("1:" + one.key) || one.key.find('/') != std::string::npos)
            throw BadJob{"'" + one.key + "' is no key of a piece"};
        if (!keys.insert(one.key).second)
            throw BadJob{"two pieces have the key " + one.key};
        one.name = textOr(piece, "name");
        design::Body body{shapeOf(piece.at("path"))};
        for (const json& line : piece.value("lines", json::array()))
            body.lines.push_back(pieceLineOf(line));
        for (const json& zone : piece.value("zones", json::array()))
            body.zones.push_back(zoneOf(zone));
        for (const json& panel : piece.value("panels", json::array()))
            body.panels.push_back(panelOf(panel));
        one.body = std::make_shared<const design::Body>(std::move(body));
        one.group = textOr(piece, "group");
        if (piece.contains("colour"))
            one.colour = colourOf(piece.at("colour"));
        if (piece.contains("frame"))
            one.frame = transformOf(piece.at("frame"));
        out.push_back(std::move(one));
    }
    return out;
}

/// Parses an entry.
json parsed(const Unpacked& entries, const std::string& name) {
    const auto at = entries.find(name);
    if (at == entries.end())
        throw BadJob{name + " is missing"};
    if (at->second.size() > kMostJsonBytes)
        throw BadJob{name + " is larger than it may be"};
    return parsedWithin(at->second, name);
}

job::SheetInPhoto sheetOf(const json& in) {
    constexpr double kMostMm = 5000, kMostPx = 20'000; // a side
    job::SheetInPhoto out;
    if (in.at("corners").size() != out.corners.size())
        throw BadJob{"a sheet in a photo has four corners"};
    for (size_t i = 0; i < out.corners.size(); ++i)
        out.corners[i] = pointOf(in.at("corners").at(i));
    out.bend = numberOr(in, "bend", 0, -1, 1, "the bend of a lens");
    out.widthMm = numberIn(in.at("mm").at(0), 1, kMostMm, "a sheet's width");
    out.heightMm = numberIn(in.at("mm").at(1), 1, kMostMm, "a sheet's height");
    out.pxPerMm =
        numberIn(in.at("pxPerMm"), 1e-3, kMostPx / std::max(out.widthMm, out.heightMm), "pixels to the mm");
    if (static_cast<std::int64_t>(out.widthPx()) * out.heightPx() > raster::kMostPixels)
        throw BadJob{"a sheet in a photo has more pixels than any picture"};
    return out;
}

job::Picture pictureOf(const json& in, Source& source, Unpacked& entries) {
    job::Picture out;
    const json& facts = in.at("picture");
    json file = {{"fileName", in.at("fileName")},
                 {"mediaType", textOr(in, "mediaType")},
                 {"sizePx", facts.at("sizePx")}};
    if (facts.contains("pixelAspect"))
        file["pixelAspect"] = facts.at("pixelAspect");
    out.file = artworkOf(file, artworkEntry(source.id), entries);
    out.recipe = recipeOf(facts.at("recipe"));
    if (facts.contains("sheet"))
        out.sheet = sheetOf(facts.at("sheet"));
    out.roomMm = numberOr(facts, "roomMm", 0, 0, 1e6, "the room between pieces");
    out.nextArea = static_cast<int>(numberOr(facts, "nextArea", 1, 1, kMostNumber, "an area's number"));
    out.ground =
        design::LayerId{static_cast<int>(numberOr(facts, "groundLayer", 0, 0, kMostNumber, "a layer"))};
    out.ink = design::LayerId{static_cast<int>(numberOr(facts, "inkLayer", 0, 0, kMostNumber, "a layer"))};
    if (!entries.contains(keptEntry(source.id)))
        return out; // not traced yet
    const json kept = parsed(entries, keptEntry(source.id));
    auto tracing = std::make_shared<const trace::Tracing>(tracingOf(kept.at("tracing")));
    if (tracing->backing.empty() && tracing->areas.empty())
        throw BadJob{"there are no areas"};
    for (const json& gone : kept.value("gone", json::array()))
        out.gone.push_back(
            {wholeIn(gone.at("number"), 1, kMostNumber, "an area's number"), pointOf(gone.at("inside"))});
    for (const trace::Area& area : tracing->areas)
        out.nextArea = std::max(out.nextArea, area.number + 1);
    source.kept =
        std::make_shared<const std::vector<job::Found>>(job::piecesOfTracing(*tracing, out.recipe.build));
    out.tracing = std::move(tracing);
    return out;
}

job::Drawing drawingIn(const json& in, Source& source, Unpacked& entries) {
    const json file = {{"fileName", in.at("fileName")}, {"mediaType", textOr(in, "mediaType")}};
    job::Drawing out = drawingOf(in.at("drawing"), artworkOf(file, artworkEntry(source.id), entries));
    const json kept = parsed(entries, keptEntry(source.id));
    source.kept = std::make_shared<const std::vector<job::Found>>(foundOf(kept));
    out.nextPiece =
        static_cast<int>(numberOr(in.at("drawing"), "nextPiece", static_cast<double>(source.kept->size()) + 1,
                                  1, kMostNumber, "a piece"));
    for (const json& gone : kept.value("gone", json::array()))
        out.gone.push_back(
            {gone.at("key").get<std::string>(), textOr(gone, "name"), pointOf(gone.at("inside"))});
    return out;
}

job::Word wordIn(const json& in, Source& source, Unpacked& entries) {
    job::Word out;
    out.recipe = wordOf(in.at("word"));
    const json kept = parsed(entries, keptEntry(source.id));
    source.kept = std::make_shared<const std::vector<job::Found>>(foundOf(kept));
    if (kept.contains("letters"))
        out.letters = lettersOf(kept.at("letters"));
    for (const json& sign : in.at("word").value("signs", json::array())) {
        out.signs.push_back({sign.at(0).get<std::string>(), wholeIn(sign.at(1), 1, kMostNumber, "a letter")});
        out.nextSign = std::max(out.nextSign, out.signs.back().number + 1);
    }
    out.nextSign = std::max(out.nextSign, static_cast<int>(numberOr(in.at("word"), "nextSign", 1, 1,
                                                                    kMostNumber, "a letter's number")));
    if (out.letters && out.letters->letters.size() != out.signs.size())
        throw BadJob{"a word has other letters than it was set from"};
    return out;
}

Source sourceOf(const json& in, Unpacked& entries) {
    Source out;
    out.id = design::SourceId{wholeIn(in.at("id"), 1, kMostNumber, "a source's number")};
    out.at = in.contains("at") ? pointOf(in.at("at")) : geometry::Point{};
    out.unitMm = numberIn(in.at("unitMm"), 1e-9, 1e9, "a source's size");
    out.turnRad = numberOr(in, "turnRad", 0, -100, 100, "a source's turn");
    out.stretchY = numberOr(in, "stretchY", 1, 1e-6, 1e6, "a stretch");
    if (in.contains("origin"))
        out.origin = originOf(in.at("origin"));
    out.said = textOr(in, "said");
    for (const json& joint : in.value("joints", json::array())) {
        if (out.joints.size() == job::kMostJoints)
            throw BadJob{"a source has more joints than are kept"};
        out.joints.push_back(joint.get<std::string>());
    }
    out.layer =
        design::LayerId{static_cast<int>(numberOr(in, "layer", 0, 0, kMostNumber, "a layer's number"))};
    const json lies = in.value("lies", json::object()); // outlives the loop over it
    for (const auto& [key, layer] : lies.items())
        out.lies[key] = design::LayerId{wholeIn(layer, 0, kMostNumber, "a layer's number")};
    if (in.contains("picture")) {
        out.what = pictureOf(in, out, entries);
    } else if (in.contains("drawing")) {
        out.what = drawingIn(in, out, entries);
    } else if (in.contains("word")) {
        out.what = wordIn(in, out, entries);
    } else if (in.contains("construction")) {
        const json& made = in.at("construction");
        const std::string name = made.at("name").get<std::string>();
        const construct::Construction* known = construct::constructionNamed(name);
        if (!known)
            throw BadJob{"a construction is called '" + name + "', which is not known"};
        const json measures = made.value("measures", json::object());
        out.what = job::Construction{{name, valuesOf(measures, construct::parametersOf(*known)),
                                      textOr(made, "word"),
                                      numberOr(made, "thicknessMm", construct::Given{}.thicknessMm, 0,
                                               construct::kMostThicknessMm, "a card's thickness")}};
        construct::Given& given = std::get<job::Construction>(out.what).given;
        if (made.contains("font"))
            given.font = {textOr(made.at("font"), "family"), textOr(made.at("font"), "style")};
        const json kept = parsed(entries, keptEntry(out.id));
        out.kept = std::make_shared<const std::vector<job::Found>>(foundOf(kept));
        if (kept.contains("letters"))
            given.letters = lettersOf(kept.at("letters"));
    } else {
        const json& figure = in.at("figure");
        const construct::FigureInfo* info = construct::figureNamed(figure.at("name").get<std::string>());
        if (!info)
            throw BadJob{"a figure is called '" + figure.at("name").get<std::string>() +
                         "', which is not known"};
        out.what = job::Figure{{info->figure, valuesOf(figure, info->parameters)}};
        out.kept =
            std::make_shared<const std::vector<job::Found>>(foundOf(parsed(entries, keptEntry(out.id))));
    }
    return out;
}

std::vector<design::PieceId> piecesOf(const json& in) {
    std::vector<design::PieceId> out;
    for (const json& id : in)
        out.push_back(pieceOf(id));
    return out;
}

job::Job jobOf(const json& in, Unpacked& entries) {
    job::Job job;
    job.name = in.at("name").get<std::string>();
    job.unit = textOr(in, "unit") == "in" ? base::LengthUnit::Inch : base::LengthUnit::Millimetre;
    int source = 0, step = 0, layer = 0; // the highest numbers given
    std::set<int> ids;
    for (const json& one : in.value("sources", json::array())) {
        job.sources.push_back(std::make_shared<const Source>(sourceOf(one, entries)));
        const int id = numberOf(job.sources.back()->id);
        if (!ids.insert(id).second)
            throw BadJob{"two sources have the number " + std::to_string(id)};
        source = std::max(source, id);
    }
    ids.clear();
    for (const json& one : in.value("steps", json::array())) {
        job.steps.push_back(std::make_shared<const design::Step>(stepOf(one)));
        const int id = numberOf(job.steps.back()->id);
        if (!ids.insert(id).second)
            throw BadJob{"two steps have the number " + std::to_string(id)};
        step = std::max(step, id);
    }
    job.stocks = stocksOf(in.at("stocks"));
    job.layers = layersOf(in.at("layers"), layer);
    if (in.contains("wishes"))
        job.wishes = wishesOf(in.at("wishes"));
    for (const json& set : in.value("sets", json::array()))
        job.sets.push_back({set.at("name").get<std::string>(), piecesOf(set.at("pieces"))});
    for (const json& cluster : in.value("clusters", json::array()))
        job.clusters.push_back({cluster.at("name").get<std::string>(), piecesOf(cluster.at("pieces")),
                                wholeIn(cluster.value("copies", json(1)), 1, 999, "copies"),
                                numberOr(cluster, "frameMm", 0, 0, design::kMostFrameMm, "a frame"),
                                flagOr(cluster, "frameThrough", false)});
    for (const json& fit : in.value("fits", json::array())) {
        design::Fit one;
        one.inner = pieceOf(fit.at("inner"));
        one.outer = pieceOf(fit.at("outer"));
        one.kind =
            textOr(fit, "kind") == "lid over" ? design::FitKind::LidOver : design::FitKind::IntoOpening;
        one.clearanceMm = numberOr(fit, "clearanceMm", one.clearanceMm, 0, 1e6, "a clearance");
        if (fit.contains("opening"))
            one.opening = pointOf(fit.at("opening"));
        job.fits.push_back(one);
    }
    if (in.contains("frame")) {
        const json& frame = in.at("frame");
        job.frame = job::Frame{numberIn(frame.at("sizeMm").at(0), 0, 1e5, "a frame's width"),
                               numberIn(frame.at("sizeMm").at(1), 0, 1e5, "a frame's height"),
                               numberOr(frame, "depthMm", 0, 0, 1e5, "a frame's depth")};
    }
    job.plan = planOf(in.at("plan"));
    if (in.contains("cut"))
        job.cut = cutOf(in.at("cut"));
    if (in.contains("assembly"))
        job.assembly = assemblyOf(in.at("assembly"));
    const std::string goesTo = textOr(in, "goesTo", job::kGoesToWords[0]);
    for (size_t i = 0; i < job::kGoesToWords.size(); ++i)
        if (goesTo == job::kGoesToWords[i])
            job.goesTo = static_cast<job::GoesTo>(i);
    if (in.contains("foam")) {
        const json& foam = in.at("foam");
        job.foam.isAsked = flagOr(foam, "isAsked", false);
        job.foam.acrossMm =
            numberOr(foam, "acrossMm", job.foam.acrossMm, folds::kLeastSpotMm, 50, "the size of foam spots");
    }
    if (in.contains("marks")) {
        const json& marks = in.at("marks");
        const std::string as = textOr(marks, "as", folds::kMarksAsWords[0]);
        for (size_t i = 0; i < folds::kMarksAsWords.size(); ++i)
            if (as == folds::kMarksAsWords[i])
                job.marks.as = static_cast<folds::MarksAs>(i);
        job.marks.insetMm = numberOr(marks, "insetMm", job.marks.insetMm, 0, 20, "the inset of marks");
        job.marks.areScored = textOr(marks, "by", "score") != "pen";
    }
    readPrint(in, entries, job);
    const json next = in.value("next", json::object());
    const auto nextOf = [&](const char* what, int highest) {
        return std::max(highest + 1, static_cast<int>(numberOr(next, what, 1, 1, kMostNumber, "a number")));
    };
    job.nextSource = nextOf("source", source);
    job.nextStep = nextOf("step", step);
    job.nextLayer = nextOf("layer", layer);
    return job;
}

design::Arrangement sheetsOf(const json& in) {
    const auto placed = [](const json& p) -> std::optional<design::PlacedPiece> {
        return design::PlacedPiece{{pieceOf(p.at("piece")), wholeIn(p.at("copy"), 0, 999, "a copy")},
                                   poseOf(p.at("pose")),
                                   flagOr(p, "pinned", false)};
    };
    design::Arrangement out;
    out.loads = *loadsOf(in.at("loads"), placed);
    for (const json& copy : in.at("unplaced"))
        out.unplaced.push_back({pieceOf(copy.at(0)), wholeIn(copy.at(1), 0, 999, "a copy")});
    return out;
}

/// Whether an arrangement lays exactly the copies the work asks for, each on a sheet of its stock. What was kept with
/// a job is believed then; a job edited by hand is arranged anew.
bool belongsTo(const design::Arrangement& arrangement, const design::Stack& work) {
    std::map<design::CopyOf, std::string> wanted;
    for (const design::Laid& laid : work.pieces)
        if (!work.layerOf(laid).isHidden)
            for (int copy = 0; copy < laid.copies; ++copy)
                wanted[{laid.id(), copy}] = work.layerOf(laid).stockId;
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            for (const design::PlacedPiece& piece : sheet.pieces) {
                const auto at = wanted.find(piece.what);
                if (at == wanted.end() || at->second != sheet.stockId)
                    return false;
                wanted.erase(at);
            }
    for (const design::CopyOf& copy : arrangement.unplaced)
        if (!wanted.erase(copy))
            return false;
    return wanted.empty();
}

base::Result<job::State> madeOf(job::Job job, const std::optional<design::Arrangement>& sheets,
                                const base::Progress& progress) {
    auto state = job::make(std::move(job), job::Stage::Finish, {}, progress);
    if (!state)
        return state.error();
    job::State out = state.take();
    if (sheets && out.made.work() && belongsTo(*sheets, *out.made.work()))
        out.made.sheets = std::make_shared<const design::Arrangement>(*sheets);
    return out;
}

} // namespace

bool isCurrentFormat(const Unpacked& entries) {
    const auto text = entries.find("job.json");
    if (text == entries.end())
        return false;
    constexpr size_t kHead = 64; // the format comes first
    const std::string head(text->second.begin(), text->second.begin() + static_cast<std::ptrdiff_t>(std::min(
                                                                            kHead, text->second.size())));
    return head.find("\"format\": " + std::to_string(kJobFormat) + ",") != std::string::npos;
}

base::Result<job::State> stateOf(Unpacked entries, const base::Progress& progress) {
    const auto damaged = [](const std::string& why) {
        return Error{Code::ParseError,
                     "The job file is damaged (" + why + "); use a backup or the last autosaved copy."};
    };
    const auto text = entries.find("job.json");
    if (text == entries.end())
        return damaged("job.json is missing");
    if (text->second.size() > kMostJsonBytes)
        return Error{Code::LimitExceeded,
                     "The job file's description is larger than it may be; it was not opened."};
    try {
        const json in = parsedWithin(text->second, "job.json");
        const double format = formatOf(in);
        if (format > kJobFormat)
            return Error{Code::Unsupported, "The job was written by a newer Thin Line (format " +
                                                in.at("format").dump() + ", this one reads up to " +
                                                std::to_string(kJobFormat) +
                                                "); update the program to open it."};
        if (format < kJobFormat) {
            auto old = oldState(in, std::move(entries), progress);
            return old || old.error().code == Code::Cancelled ? std::move(old) : damaged(old.error().message);
        }
        std::optional<design::Arrangement> sheets;
        if (entries.contains("kept/sheets.json"))
            sheets = sheetsOf(parsed(entries, "kept/sheets.json"));
        auto state = madeOf(jobOf(in, entries), sheets, progress);
        return state || state.error().code == Code::Cancelled ? std::move(state)
                                                              : damaged(state.error().message);
    } catch (const BadJob& bad) {
        return damaged(bad.message);
    } catch (const nlohmann::json::exception&) {
        return damaged("something in it is of another kind than it must be");
    }
}

} // namespace thinline::document
