// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A job as entries of its file; ReadJob.cpp is the way back.
//
// The file holds decisions. Everything else in it is kept only because making it again takes time (what
// was found in a picture, how sheets were laid), or because it may not be possible any more (a typeface
// that is gone from the machine: the letters' outlines are kept, so a word opens as it was). Decisions are
// one entry; what is kept is one entry for each source and one for the sheets.
//
// Writing. An entry is a pointer to bytes together with what it was made from. Whoever saves the next time
// hands over the entries of the time before: an entry whose source is the same pointer is taken over as it
// is, packed bytes and all. Moving one piece of four hundred writes the decisions anew and nothing else.
// It follows that an entry must depend on nothing but what it names.
//
// Names in the file are the field's own words, lengths are in millimetres and angles in radians, both at
// finished size; parameters of a step stand under their names, so a file can be read by people.
#include "document/JobEntries.h"

#include "document/JobJson.h"
#include "document/PrintJson.h"
#include "formats/image/ImageFile.h"
#include "formats/svg/WriteDrawing.h"
#include "job/Catalogue.h"
#include "pack/Pictures.h"

namespace thinline::document {
namespace {

using base::Bytes;
using design::PieceId;
using job::Source;

std::shared_ptr<const Bytes> textBytes(const json& value) {
    const std::string text = value.dump(1, ' ', false, json::error_handler_t::replace);
    return std::make_shared<const Bytes>(text.begin(), text.end());
}

json transformJson(const geometry::Transform& t) {
    return {t.a, t.b, t.c, t.d, t.e, t.f};
}

// ---- decisions, written -----------------------------------------------------------------------------------

json chosenJson(const design::Chosen& chosen) {
    if (const auto* piece = std::get_if<PieceId>(&chosen))
        return piece->text();
    if (const auto* source = std::get_if<design::EveryPieceOf>(&chosen))
        return {{"everyPieceOf", numberOf(source->source)}};
    if (const auto* line = std::get_if<design::LineOf>(&chosen))
        return {{"piece", line->piece.text()}, {"line", numberOf(line->line)}};
    const auto& opening = std::get<design::OpeningOf>(chosen);
    return {{"piece", opening.piece.text()}, {"inside", pointJson(opening.inside)}};
}

json valueJson(const design::Value& value) {
    if (const auto* number = std::get_if<double>(&value))
        return *number;
    if (const auto* word = std::get_if<std::string>(&value))
        return *word;
    if (const auto* point = std::get_if<geometry::Point>(&value))
        return pointJson(*point);
    return lineJson(std::get<geometry::Line>(value));
}

json stepJson(const design::Step& step) {
    json out = {{"id", numberOf(step.id)}, {"action", step.action}, {"on", json::array()}};
    for (const design::Chosen& one : step.on)
        out["on"].push_back(chosenJson(one));
    for (const auto& [name, value] : step.values)
        out["values"][name] = valueJson(value);
    for (const design::Part& part : step.parts) {
        json one = {{"id", part.id.text()}, {"inside", pointJson(part.inside)}};
        if (part.isGone)
            one["gone"] = true;
        out["parts"].push_back(std::move(one));
    }
    return out;
}

json wishesJson(const job::Wishes& wishes) {
    json out = json::object();
    wishes.each([&](const job::Wishes::Entry& entry) {
        const design::Wish& wish = entry.second;
        json one = json::object();
        if (wish.layer)
            one["layer"] = numberOf(*wish.layer);
        if (wish.copies)
            one["copies"] = *wish.copies;
        if (wish.liftMm)
            one["liftMm"] = *wish.liftMm;
        if (wish.up)
            one["up"] = *wish.up == design::Side::Back ? "back" : "front";
        if (wish.isFree)
            one["free"] = *wish.isFree;
        if (wish.isCutThrough)
            one["cutThrough"] = *wish.isCutThrough;
        out[entry.first.text()] = std::move(one);
    });
    return out;
}

json poseJson(const design::Pose& pose) {
    json out = {{"held", pointJson(pose.held)}, {"at", pointJson(pose.at)}, {"turnRad", pose.turnRad}};
    if (pose.isFlipped)
        out["flipped"] = true;
    return out;
}

/// What is known of the card that is there, and of the mats.
void putCards(json& out, const job::SheetPlan& plan) {
    if (plan.intoOpenings)
        out["intoOpenings"] = true;
    if (plan.areCornersTaped)
        out["cornersTaped"] = true;
    if (plan.lies != design::SheetLie{})
        out["sheetsLie"] = {design::kSheetFromWords[static_cast<size_t>(plan.lies.from)],
                            design::kSheetWayWords[static_cast<size_t>(plan.lies.way)]};
    if (!plan.tapedStocks.empty())
        out["tapedSheets"] = plan.tapedStocks;
    for (const auto& [stock, sheet] : plan.sheetOf)
        out["sheetOf"][stock] = {{"sheet", sheet.id},
                                 {"name", sheet.name},
                                 {"sizeMm", {sheet.widthMm, sheet.heightMm, sheet.marginMm}}};
    putKeepOuts(out, plan.keepOuts);
    for (const design::Scrap& scrap : plan.scraps)
        out["scraps"].push_back(scrapJson(scrap));
    if (plan.nextScrap > 1)
        out["nextScrap"] = plan.nextScrap;
}

json planJson(const job::SheetPlan& plan) {
    json out = {{"mat", plan.matId},
                {"sheet", plan.sheetId},
                {"ownSheetMm", {plan.ownSheet.widthMm, plan.ownSheet.heightMm, plan.ownSheet.marginMm}},
                {"spacingMm", plan.spacingMm},
                {"mayTurn", plan.mayTurn},
                {"pins", json::array()}};
    if (plan.isMixed)
        out["mixed"] = true;
    putCards(out, plan);
    if (plan.foldsAs != design::FoldsAs::Score)
        out["foldsAs"] = design::kFoldsAsWords[static_cast<size_t>(plan.foldsAs)];
    for (const sheets::Pin& pin : plan.pins) {
        out["pins"].push_back({{"piece", pin.what.piece.text()},
                               {"copy", pin.what.copy},
                               {"sheetOfStock", pin.sheetOfStock},
                               {"pose", poseJson(pin.pose)}});
        if (pin.scrapId != 0)
            out["pins"].back()["scrapId"] = pin.scrapId;
    }
    return out;
}

json cutJson(const job::CutWishes& cut) {
    json out = json::object();
    if (cut.machine)
        out["machine"] = machineJson(*cut.machine);
    for (const auto& [stock, setting] : cut.settings) {
        json& one = out["settings"][stock];
        one = {{"blade", design::kToolWords[static_cast<size_t>(setting.blade)]},
               {"forceGf", setting.forceGf},
               {"passes", setting.passes},
               {"mmPerS", setting.mmPerS},
               {"tack", design::kTackWords[static_cast<size_t>(setting.tack)]}};
        if (setting.throughGf)
            one["throughGf"] = *setting.throughGf;
    }
    if (!cut.aids.areNone())
        out["aids"] = {{"bladeOffsetMm", cut.aids.bladeOffsetMm},
                       {"overcutMm", cut.aids.overcutMm},
                       {"tabs", cut.aids.tabs},
                       {"tabMm", cut.aids.tabMm}};
    if (cut.hasTiles)
        out["tiles"] = true;
    return out;
}

json assemblyJson(const assembly::Wishes& wishes) {
    json out = json::object();
    if (wishes.numbers != assembly::Numbers::None)
        out["numbers"] = assembly::kNumbersWords[static_cast<size_t>(wishes.numbers)];
    for (const assembly::OwnItem& item : wishes.items) {
        json one{{"text", item.text}};
        if (item.at)
            one["at"] = item.at.text();
        out["items"].push_back(std::move(one));
    }
    for (const auto& [key, text] : wishes.texts)
        out["texts"][key] = text;
    return out;
}

json sheetJson(const job::SheetInPhoto& sheet) {
    json out = {
        {"corners", json::array()}, {"mm", {sheet.widthMm, sheet.heightMm}}, {"pxPerMm", sheet.pxPerMm}};
    for (const geometry::Point corner : sheet.corners)
        out["corners"].push_back(pointJson(corner));
    if (sheet.bend != 0)
        out["bend"] = sheet.bend;
    return out;
}

json pictureJson(const job::Picture& picture) {
    json out = {{"sizePx", {picture.file->widthPx, picture.file->heightPx}},
                {"pixelAspect", picture.file->pixelAspect},
                {"recipe", recipeJson(picture.recipe)},
                {"roomMm", picture.roomMm},
                {"nextArea", picture.nextArea},
                {"groundLayer", numberOf(picture.ground)},
                {"inkLayer", numberOf(picture.ink)}};
    if (picture.sheet)
        out["sheet"] = sheetJson(*picture.sheet);
    return out;
}

json signsJson(const job::Word& word) {
    json out = json::array();
    for (const job::Sign& sign : word.signs)
        out.push_back({sign.text, sign.number});
    return out;
}

json sourceJson(const Source& source) {
    json out = {{"id", numberOf(source.id)}, {"at", pointJson(source.at)}, {"unitMm", source.unitMm}};
    if (source.turnRad != 0)
        out["turnRad"] = source.turnRad;
    if (source.stretchY != 1)
        out["stretchY"] = source.stretchY;
    if (!(source.origin == job::Origin{}))
        out["origin"] = originJson(source.origin);
    if (!source.said.empty())
        out["said"] = source.said;
    if (!source.joints.empty())
        out["joints"] = source.joints;
    out["layer"] = numberOf(source.layer);
    for (const auto& [key, layer] : source.lies)
        out["lies"][key] = numberOf(layer);
    const auto* picture = std::get_if<job::Picture>(&source.what);
    const auto* drawing = std::get_if<job::Drawing>(&source.what);
    if (picture || drawing) {
        const job::Artwork& file = picture ? *picture->file : *drawing->file;
        out["fileName"] = file.fileName;
        out["mediaType"] = file.mediaType;
    }
    if (picture) {
        out["picture"] = pictureJson(*picture);
    } else if (drawing) {
        out["drawing"] = drawingJson(*drawing);
        out["drawing"]["nextPiece"] = drawing->nextPiece;
    } else if (const auto* word = std::get_if<job::Word>(&source.what)) {
        out["word"] = wordJson(word->recipe);
        out["word"]["signs"] = signsJson(*word);
        out["word"]["nextSign"] = word->nextSign;
    } else if (const auto* construction = std::get_if<job::Construction>(&source.what)) {
        const construct::Given& given = construction->given;
        json measures = json::object();
        putValues(measures, construct::parametersOf(*construct::constructionNamed(given.name)), given.values);
        out["construction"] = {
            {"name", given.name}, {"measures", std::move(measures)}, {"thicknessMm", given.thicknessMm}};
        if (!given.word.empty())
            out["construction"]["word"] = given.word;
        if (!given.font.family.empty())
            out["construction"]["font"] = {{"family", given.font.family}, {"style", given.font.style}};
    } else {
        const auto& figure = std::get<job::Figure>(source.what).recipe;
        const construct::FigureInfo& info = construct::infoOf(figure.figure);
        out["figure"] = {{"name", info.name}};
        putValues(out["figure"], info.parameters, figure.values);
    }
    return out;
}

json idsJson(const std::vector<PieceId>& pieces) {
    json out = json::array();
    for (const PieceId id : pieces)
        out.push_back(id.text());
    return out;
}

json jobJson(const job::Job& job) {
    json out = {{"format", kJobFormat},
                {"program", "Thin Line"},
                {"name", job.name},
                {"unit", job.unit == base::LengthUnit::Inch ? "in" : "mm"},
                {"next", {{"source", job.nextSource}, {"step", job.nextStep}, {"layer", job.nextLayer}}},
                {"sources", json::array()},
                {"steps", json::array()},
                {"stocks", stocksJson(job.stocks)},
                {"layers", json::array()},
                {"wishes", wishesJson(job.wishes)},
                {"sets", json::array()},
                {"fits", json::array()},
                {"clusters", json::array()},
                {"plan", planJson(job.plan)}};
    if (!(job.cut == job::CutWishes{}))
        out["cut"] = cutJson(job.cut);
    if (!(job.assembly == assembly::Wishes{}))
        out["assembly"] = assemblyJson(job.assembly);
    if (job.goesTo != job::GoesTo::Myself)
        out["goesTo"] = job::kGoesToWords[static_cast<size_t>(job.goesTo)];
    if (!(job.foam == folds::FoamPlan{}))
        out["foam"] = {{"isAsked", job.foam.isAsked}, {"acrossMm", job.foam.acrossMm}};
    if (!(job.marks == folds::MarkPlan{}))
        out["marks"] = {{"as", folds::kMarksAsWords[static_cast<size_t>(job.marks.as)]},
                        {"insetMm", job.marks.insetMm},
                        {"by", job.marks.areScored ? "score" : "pen"}};
    for (const auto& source : job.sources)
        out["sources"].push_back(sourceJson(*source));
    for (const auto& step : job.steps)
        out["steps"].push_back(stepJson(*step));
    for (const design::Layer& l : job.layers) {
        json one = {{"id", numberOf(l.id)}, {"stock", l.stockId}};
        if (!l.name.empty())
            one["name"] = l.name;
        if (l.at != design::Layer::At::Front)
            one["place"] = kPlaces[static_cast<size_t>(l.at)];
        if (l.liftMm != 0)
            one["liftMm"] = l.liftMm;
        if (l.isHidden)
            one["hidden"] = true;
        if (l.isMarked)
            one["marked"] = true;
        out["layers"].push_back(std::move(one));
    }
    for (const design::PieceSet& set : job.sets)
        out["sets"].push_back({{"name", set.name}, {"pieces", idsJson(set.pieces)}});
    for (const design::Cluster& cluster : job.clusters) {
        json one = {{"name", cluster.name}, {"pieces", idsJson(cluster.pieces)}, {"copies", cluster.copies}};
        if (cluster.frameMm > 0)
            one["frameMm"] = cluster.frameMm;
        if (cluster.isFrameThrough)
            one["frameThrough"] = true;
        out["clusters"].push_back(std::move(one));
    }
    if (job.frame)
        out["frame"] = {{"sizeMm", {job.frame->widthMm, job.frame->heightMm}},
                        {"depthMm", job.frame->depthMm}};
    putPrint(out, job);
    for (const design::Fit& fit : job.fits) {
        json one = {{"inner", fit.inner.text()},
                    {"outer", fit.outer.text()},
                    {"kind", fit.kind == design::FitKind::LidOver ? "lid over" : "into opening"},
                    {"clearanceMm", fit.clearanceMm}};
        if (fit.kind == design::FitKind::IntoOpening)
            one["opening"] = pointJson(fit.opening);
        out["fits"].push_back(std::move(one));
    }
    return out;
}

// ---- kept results, written --------------------------------------------------------------------------------

json zoneJson(const design::Zone& zone) {
    json out = {{"kind", kZoneWords[static_cast<size_t>(zone.kind)]},
                {"path", formats::svg::pathText(zone.area, job::kKeptDecimals)}};
    if (zone.side == design::Side::Back)
        out["side"] = "back";
    if (zone.takesMm > 0)
        out["takesMm"] = zone.takesMm;
    if (!zone.takes.empty())
        out["takes"] = zone.takes;
    if (zone.behind)
        out["behind"] = pointJson(*zone.behind);
    return out;
}

json panelJson(const design::Panel& panel) {
    json out = {{"inside", pointJson(panel.inside)}};
    if (!panel.name.empty())
        out["name"] = panel.name;
    if (panel.isFront)
        out["front"] = true;
    return out;
}

json keptJson(const Source& source) {
    if (const auto* picture = std::get_if<job::Picture>(&source.what)) {
        json out = {{"tracing", tracingJson(*picture->tracing)}};
        for (const trace::GoneArea& gone : picture->gone)
            out["gone"].push_back({{"number", gone.number}, {"inside", pointJson(gone.inside)}});
        return out;
    }
    json out = {{"pieces", json::array()}};
    for (const job::Found& found : *source.kept) {
        json one = {{"key", found.key},
                    {"name", found.name},
                    {"path", formats::svg::pathText(found.body->shape, job::kKeptDecimals)}};
        if (!found.group.empty())
            one["group"] = found.group;
        if (found.colour)
            one["colour"] = job::colourText(*found.colour);
        if (!(found.frame == geometry::Transform{}))
            one["frame"] = transformJson(found.frame);
        for (const design::PieceLine& line : found.body->lines)
            one["lines"].push_back(pieceLineJson(line));
        for (const design::Zone& zone : found.body->zones)
            one["zones"].push_back(zoneJson(zone));
        for (const design::Panel& panel : found.body->panels)
            one["panels"].push_back(panelJson(panel));
        out["pieces"].push_back(std::move(one));
    }
    if (const auto* drawing = std::get_if<job::Drawing>(&source.what))
        for (const job::Drawing::GonePiece& gone : drawing->gone)
            out["gone"].push_back(
                {{"key", gone.key}, {"name", gone.name}, {"inside", pointJson(gone.inside)}});
    if (const auto* word = std::get_if<job::Word>(&source.what); word && word->letters)
        out["letters"] = lettersJson(*word->letters);
    if (const auto* made = std::get_if<job::Construction>(&source.what); made && made->given.letters)
        out["letters"] = lettersJson(*made->given.letters);
    return out;
}

json sheetsJson(const design::Arrangement& arrangement) {
    json out = {{"loads", json::array()}, {"unplaced", json::array()}};
    for (const design::Load& load : arrangement.loads) {
        json sheets = json::array();
        for (const design::PlacedSheet& sheet : load.sheets) {
            json pieces = json::array();
            for (const design::PlacedPiece& p : sheet.pieces) {
                json one = {
                    {"piece", p.what.piece.text()}, {"copy", p.what.copy}, {"pose", poseJson(p.pose)}};
                if (p.isPinned)
                    one["pinned"] = true;
                pieces.push_back(std::move(one));
            }
            sheets.push_back({{"stock", sheet.stockId},
                              {"boxMm", {sheet.xMm, sheet.yMm, sheet.widthMm, sheet.heightMm}},
                              {"marginMm", sheet.marginMm},
                              {"pieces", pieces}});
            if (sheet.isScrap)
                sheets.back()["scrap"] = true;
            if (sheet.scrapId != 0)
                sheets.back()["scrapId"] = sheet.scrapId;
            if (sheet.isTurned)
                sheets.back()["turned"] = true;
            if (sheet.isPair())
                sheets.back()["join"] = design::kJoinWords[static_cast<size_t>(sheet.join)];
            if (!sheet.outline.empty())
                sheets.back()["outlineMm"] = ringsJson(sheet.outline);
        }
        out["loads"].push_back({{"mat",
                                 {{"id", load.mat.id},
                                  {"name", load.mat.name},
                                  {"sizeMm", {load.mat.widthMm, load.mat.heightMm}},
                                  {"marginMm", load.mat.marginMm}}},
                                {"sheets", sheets}});
    }
    for (const design::CopyOf& copy : arrangement.unplaced)
        out["unplaced"].push_back({copy.piece.text(), copy.copy});
    return out;
}

} // namespace

JobEntries entriesOf(const job::State& state, const JobEntries& before, bool withPreview, bool withBytes) {
    JobEntries out;
    const auto put = [&](const std::string& name, std::shared_ptr<const void> of, bool isStored, auto write) {
        const auto known = before.find(name);
        if (known != before.end() && known->second.of == of) {
            out[name] = known->second;
            return;
        }
        out[name] = {withBytes ? write() : nullptr, isStored, of};
    };
    if (withBytes)
        out["job.json"] = {textBytes(jobJson(state.job)), false, nullptr};
    for (const auto& source : state.job.sources) {
        const auto* picture = std::get_if<job::Picture>(&source->what);
        const auto* drawing = std::get_if<job::Drawing>(&source->what);
        if (const auto& file = picture ? picture->file : drawing ? drawing->file : nullptr)
            put(artworkEntry(source->id), file, true,
                [&] { return std::shared_ptr<const Bytes>(file, &file->bytes); });
        if (picture && !picture->tracing)
            continue;
        const auto of = picture ? std::shared_ptr<const void>(picture->tracing)
                                : std::shared_ptr<const void>(source->kept);
        put(keptEntry(source->id), of, false, [&] { return textBytes(keptJson(*source)); });
    }
    for (const int number : artInUse(state.job)) {
        const auto& art = state.job.art.at(number);
        if (const auto* picture = std::get_if<job::PrintedPicture>(&art->what))
            put(artEntry(number), picture->file, true,
                [&] { return std::shared_ptr<const Bytes>(picture->file, &picture->file->bytes); });
        else
            put(keptArtEntry(number), art, false,
                [&] { return textBytes(lettersJson(*std::get<job::PrintedText>(art->what).letters)); });
    }
    if (state.made.sheets)
        put("kept/sheets.json", state.made.sheets, false,
            [&] { return textBytes(sheetsJson(*state.made.sheets)); });
    if (withPreview && state.made.finished)
        put("preview.png", state.made.finished, true, [&] {
            constexpr int kPreviewPx = 256;
            return std::make_shared<const Bytes>(
                formats::image::encodePng(pack::pictureOfStack(state.made.finished->stack, kPreviewPx)));
        });
    return out;
}

} // namespace thinline::document
