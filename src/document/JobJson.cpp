// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobJson.h"

#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"

#include <cmath>
#include <set>

namespace thinline::document {
namespace {

constexpr const char* kOldSvgType = "image/svg+xml";

json originJson(const Origin& origin) {
    return {{"from", origin.from}, {"licence", licenceWord(origin.licence)}};
}

Origin originOf(const json& in) {
    const auto licence = licenceOf(in.at("licence").get<std::string>());
    if (!licence)
        throw BadJob{"a licence is called '" + in.at("licence").get<std::string>() + "', which is not known"};
    return {in.at("from").get<std::string>(), *licence};
}

json wordJson(const lettering::Recipe& word) {
    return {{"text", word.text},
            {"family", word.font.family},
            {"style", word.font.style},
            {"sizeBy", word.sizeBy == lettering::SizeBy::Width ? "width" : "cap height"},
            {"sizeMm", word.sizeMm},
            {"spacingMm", word.spacingMm},
            {"equalHeights", word.hasEqualHeights},
            {"joined", word.isJoined},
            {"overlapMm", word.overlapMm},
            {"fillBelowMm2", word.fillBelowMm2}};
}

lettering::Recipe wordOfJson(const json& in) {
    lettering::Recipe out;
    out.text = in.at("text").get<std::string>();
    out.font = {in.at("family").get<std::string>(), in.at("style").get<std::string>()};
    out.sizeBy = in.at("sizeBy") == "width" ? lettering::SizeBy::Width : lettering::SizeBy::CapHeight;
    out.sizeMm = numberIn(in.at("sizeMm"), 1, 2000, "a word's size");
    out.spacingMm = numberIn(in.at("spacingMm"), -50, 200, "a word's spacing");
    out.hasEqualHeights = in.at("equalHeights").get<bool>();
    out.isJoined = in.at("joined").get<bool>();
    out.overlapMm = numberIn(in.at("overlapMm"), 0, 200, "a word's overlap");
    out.fillBelowMm2 = numberIn(in.at("fillBelowMm2"), 0, 1e6, "a word's openings");
    return out;
}

json drawingJson(const Drawing& drawing, int number) {
    json out = {{"entry", sourceEntry(number)},
                {"fileName", drawing.file->fileName},
                {"mediaType", drawing.file->mediaType},
                {"pageMm", {drawing.pageWidthMm, drawing.pageHeightMm}},
                {"statesSize", drawing.statesSize},
                {"settled", drawing.isSettled},
                {"scale", drawing.scale},
                {"page", drawing.take.page},
                {"pages", drawing.pages},
                {"appliesClips", drawing.take.appliesClips},
                {"strokesAsAreas", drawing.take.strokesAsAreas},
                {"leftOut", drawing.take.leftOut},
                {"layers", json::array()}};
    for (const design::DrawnLayer& layer : drawing.layers) {
        json one = {{"name", layer.name}, {"items", layer.items}};
        if (layer.colour)
            one["colour"] = colourText(*layer.colour);
        out["layers"].push_back(one);
    }
    return out;
}

Drawing drawingOf(const json& in, std::map<std::string, base::Bytes>& entries) {
    Drawing out;
    const auto bytes = entries.find(in.at("entry").get<std::string>());
    if (bytes == entries.end())
        throw BadJob{"a drawing's own file is missing"};
    out.file = std::make_shared<const Artwork>(Artwork{in.at("fileName").get<std::string>(),
                                                       in.at("mediaType").get<std::string>(),
                                                       std::move(bytes->second), 0, 0, 1});
    out.pageWidthMm = numberIn(in.at("pageMm").at(0), 1e-6, 1e5, "a page's width");
    out.pageHeightMm = numberIn(in.at("pageMm").at(1), 1e-6, 1e5, "a page's height");
    out.statesSize = in.at("statesSize").get<bool>();
    out.isSettled = in.at("settled").get<bool>();
    out.scale = numberIn(in.at("scale"), 1e-9, 1e9, "a drawing's scale");
    if (in.contains("page")) {
        out.take.page = wholeIn(in.at("page"), 0, 1'000'000, "a page");
        out.pages = wholeIn(in.at("pages"), 1, 1'000'000, "the pages");
    }
    out.take.appliesClips = in.at("appliesClips").get<bool>();
    out.take.strokesAsAreas = in.at("strokesAsAreas").get<bool>();
    out.take.leftOut = in.at("leftOut").get<std::set<std::string>>();
    for (const json& layer : in.at("layers")) {
        design::DrawnLayer one{
            layer.at("name").get<std::string>(), wholeIn(layer.at("items"), 0, 100'000'000, "a layer"), {}};
        if (layer.contains("colour"))
            one.colour = colourOf(layer.at("colour"));
        out.layers.push_back(std::move(one));
    }
    return out;
}

json sourceJson(const Source& source) {
    json out = {{"number", source.number}, {"at", pointJson(source.at)},
                {"stock", source.stockId}, {"origin", originJson(source.origin)},
                {"said", source.said},     {"pieces", json::array()}};
    if (const auto* drawing = std::get_if<Drawing>(&source.recipe)) {
        out["drawing"] = drawingJson(*drawing, source.number);
    } else if (const auto* word = std::get_if<lettering::Recipe>(&source.recipe)) {
        out["word"] = wordJson(*word);
    } else {
        const auto& figure = std::get<construct::Recipe>(source.recipe);
        const construct::FigureInfo& info = construct::infoOf(figure.figure);
        out["figure"] = {{"name", info.name}};
        putValues(out["figure"], info.parameters, figure.values);
    }
    for (const SourcePiece& piece : source.pieces) {
        json one = {{"id", piece.id}, {"name", piece.name}, {"path", formats::svg::pathText(piece.shape)}};
        if (!piece.layer.empty())
            one["layer"] = piece.layer;
        if (piece.colour)
            one["colour"] = colourText(*piece.colour);
        out["pieces"].push_back(std::move(one));
    }
    return out;
}

Source sourceOfJson(const json& in, std::map<std::string, base::Bytes>& entries) {
    Source out;
    out.number = wholeIn(in.at("number"), 1, design::kMostSources, "a source's number");
    out.at = pointOf(in.at("at"));
    out.stockId = in.at("stock").get<std::string>();
    out.origin = originOf(in.at("origin"));
    out.said = in.at("said").get<std::string>();
    if (in.contains("drawing")) {
        out.recipe = drawingOf(in.at("drawing"), entries);
    } else if (in.contains("word")) {
        out.recipe = wordOfJson(in.at("word"));
    } else {
        const json& figure = in.at("figure");
        const construct::FigureInfo* info = construct::figureNamed(figure.at("name").get<std::string>());
        if (!info)
            throw BadJob{"a figure is called '" + figure.at("name").get<std::string>() +
                         "', which is not known"};
        out.recipe = construct::Recipe{info->figure, valuesOf(figure, info->parameters)};
    }
    std::set<design::PieceId> ids;
    for (const json& piece : in.at("pieces")) {
        SourcePiece one;
        const design::PieceId first = design::allOfSource(out.number);
        one.id = wholeIn(piece.at("id"), first + 1, first + design::kBlockOfSource - 1, "a piece's number");
        if (!ids.insert(one.id).second)
            throw BadJob{"two pieces have the number " + std::to_string(one.id)};
        one.name = piece.at("name").get<std::string>();
        one.shape = shapeOf(piece.at("path"));
        if (piece.contains("layer"))
            one.layer = piece.at("layer").get<std::string>();
        if (piece.contains("colour"))
            one.colour = colourOf(piece.at("colour"));
        out.pieces.push_back(std::move(one));
    }
    return out;
}

} // namespace

json pointJson(geometry::Point p) {
    return json::array({p.x, p.y});
}

double numberIn(const json& value, double least, double most, const char* what) {
    const double number = value.get<double>();
    if (!(number >= least && number <= most))
        throw BadJob{std::string(what) + " is out of range"};
    return number;
}

int wholeIn(const json& value, int least, int most, const char* what) {
    return static_cast<int>(std::lround(numberIn(value, least, most, what)));
}

geometry::Point pointOf(const json& value) {
    constexpr double kFar = 1e6;
    return {numberIn(value.at(0), -kFar, kFar, "a point"), numberIn(value.at(1), -kFar, kFar, "a point")};
}

raster::Rgb colourOf(const json& value) {
    const auto colour = readColour(value.get<std::string>());
    if (!colour)
        throw BadJob{colour.error().message};
    return *colour;
}

geometry::Shape shapeOf(const json& value) {
    auto shape = formats::svg::readPath(value.get_ref<const std::string&>());
    if (!shape)
        throw BadJob{"an outline cannot be read: " + shape.error().message};
    return shape.take();
}

void putValues(json& out, const std::vector<base::Parameter>& parameters, const std::vector<double>& values) {
    for (size_t i = 0; i < parameters.size(); ++i) {
        const base::Parameter& p = parameters[i];
        const double value = i < values.size() ? values[i] : p.usual;
        if (p.quantity == base::Quantity::Choice)
            out[p.name] = base::valueText(p, value);
        else
            out[p.name] = value;
    }
}

static double valueOf(const base::Parameter& p, const json& in) {
    if (p.quantity != base::Quantity::Choice)
        return numberIn(in, p.least, p.most, p.label);
    const std::string word = in.get<std::string>();
    // Format 2 called pointed corners mitred.
    const auto value = base::readValue(p, word == "mitre" ? "pointed" : word);
    if (!value)
        throw BadJob{value.error().message};
    return *value;
}

std::vector<double> valuesOf(const json& in, const std::vector<base::Parameter>& parameters) {
    std::vector<double> out;
    for (const base::Parameter& p : parameters)
        out.push_back(valueOf(p, in.at(p.name)));
    return out;
}

std::shared_ptr<const Artwork> artworkOf(const json& in, std::map<std::string, base::Bytes>& entries) {
    const std::string entry = in.at("entry").get<std::string>();
    const auto at = entries.find(entry);
    if (at == entries.end())
        throw BadJob{"the artwork is missing"};
    auto out = std::make_shared<Artwork>();
    out->fileName = in.at("fileName").get<std::string>();
    out->mediaType = in.at("mediaType").get<std::string>();
    out->widthPx = wholeIn(in.at("sizePx").at(0), 1, 1'000'000, "the picture's width");
    out->heightPx = wholeIn(in.at("sizePx").at(1), 1, 1'000'000, "the picture's height");
    out->pixelAspect = numberIn(in.at("pixelAspect"), 0.001, 1000, "the pixel's shape");
    out->bytes = std::move(at->second);
    return out;
}

std::string sourceEntry(int source) {
    return "drawing-" + std::to_string(source);
}

void putSources(json& out, const Job& job) {
    if (!(job.origin == Origin{}))
        out["origin"] = originJson(job.origin);
    out["nextSource"] = job.nextSource;
    for (const auto& source : job.sources)
        out["sources"].push_back(sourceJson(*source));
    for (const design::PieceSet& set : job.sets)
        out["sets"].push_back({{"name", set.name}, {"pieces", set.pieces}});
    for (const design::Fit& fit : job.fits) {
        json one = {{"inner", fit.inner},
                    {"outer", fit.outer},
                    {"kind", fit.kind == design::FitKind::LidOver ? "lid over" : "into opening"},
                    {"clearanceMm", fit.clearanceMm}};
        if (fit.kind == design::FitKind::IntoOpening)
            one["openingAt"] = pointJson(fit.openingAt);
        out["fits"].push_back(std::move(one));
    }
    if (!job.freePieces.empty())
        out["freePieces"] = job.freePieces;
}

void takeSources(Job& job, const json& in, std::map<std::string, base::Bytes>& entries) {
    constexpr int kLeast = -1'000'000, kMost = 1'000'000'000;
    if (in.contains("origin"))
        job.origin = originOf(in.at("origin"));
    std::set<int> numbers;
    if (in.contains("sources"))
        for (const json& one : in.at("sources")) {
            job.sources.push_back(std::make_shared<const Source>(sourceOfJson(one, entries)));
            const int number = job.sources.back()->number;
            if (!numbers.insert(number).second)
                throw BadJob{"two sources have the number " + std::to_string(number)};
            job.nextSource = std::max(job.nextSource, number + 1);
        }
    if (in.contains("nextSource"))
        job.nextSource = std::max(
            job.nextSource, wholeIn(in.at("nextSource"), 1, design::kMostSources + 1, "a source's number"));
    if (in.contains("sets"))
        for (const json& set : in.at("sets")) {
            job.sets.push_back({set.at("name").get<std::string>(), {}});
            for (const json& id : set.at("pieces"))
                job.sets.back().pieces.push_back(wholeIn(id, kLeast, kMost, "a piece of a set"));
        }
    if (in.contains("fits"))
        for (const json& fit : in.at("fits")) {
            design::Fit one;
            one.inner = wholeIn(fit.at("inner"), kLeast, kMost, "a piece of a fit");
            one.outer = wholeIn(fit.at("outer"), kLeast, kMost, "a piece of a fit");
            one.kind = fit.at("kind") == "lid over" ? design::FitKind::LidOver : design::FitKind::IntoOpening;
            one.clearanceMm = numberIn(fit.at("clearanceMm"), 0, 20, "a clearance");
            if (one.kind == design::FitKind::IntoOpening)
                one.openingAt = pointOf(fit.at("openingAt"));
            job.fits.push_back(one);
        }
    if (in.contains("freePieces"))
        for (const json& id : in.at("freePieces"))
            job.freePieces.insert(wholeIn(id, kLeast, kMost, "a free piece"));
}

bool isOldDrawing(const Job& job) {
    return job.artwork && job.artwork->mediaType == kOldSvgType;
}

void modernise(Job& job, const json& in) {
    if (!job.tracing || job.artwork->widthPx < 1)
        throw BadJob{"a drawing has no areas"};
    const double mmPerPx = job.pictureWidthMm / job.artwork->widthPx;
    Source source;
    source.number = job.nextSource++;
    const double guessed =
        in.contains("guessedWidthMm") ? numberIn(in.at("guessedWidthMm"), 0, 1e5, "the page's width") : 0;
    Drawing drawing;
    drawing.file = job.artwork;
    drawing.statesSize = !(guessed > 0);
    drawing.pageWidthMm = guessed > 0 ? guessed : job.pictureWidthMm;
    drawing.pageHeightMm = drawing.pageWidthMm * job.artwork->heightPx / job.artwork->widthPx;
    drawing.scale = job.pictureWidthMm / drawing.pageWidthMm;
    std::map<design::PieceId, design::PieceId> numbers;
    for (const trace::Area& area : job.tracing->areas) {
        const design::PieceId id =
            design::allOfSource(source.number) + static_cast<int>(source.pieces.size()) + 1;
        numbers[area.id] = id;
        source.pieces.push_back({id,
                                 trace::keptShape(geometry::transformed(
                                     area.shape, geometry::Transform::scale(mmPerPx, mmPerPx))),
                                 "area " + std::to_string(area.id), "", area.colour});
    }
    source.recipe = std::move(drawing);
    const auto renumbered = [&](design::PieceId id) {
        const auto at = numbers.find(id);
        return at == numbers.end() ? id : at->second;
    };
    std::map<design::PieceId, std::string> paint;
    for (const auto& [id, stock] : job.paint) {
        paint[renumbered(id)] = stock;
        source.stockId = stock;
    }
    job.paint = std::move(paint);
    std::map<design::PieceId, int> copies;
    for (const auto& [id, count] : job.copies)
        copies[renumbered(id)] = count;
    job.copies = std::move(copies);
    for (shape::Step& step : job.shapeSteps)
        for (design::PieceId& id : step.pieces)
            id = renumbered(id);
    for (sheets::Pin& pin : job.plan.pins)
        pin.what.piece = renumbered(pin.what.piece);
    job.artwork = nullptr;
    job.tracing = nullptr;
    job.pictureWidthMm = 0;
    job.sources.push_back(std::make_shared<const Source>(std::move(source)));
}

} // namespace thinline::document
