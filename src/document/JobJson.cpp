// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobJson.h"

#include "design/Cuts.h"
#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"
#include "job/Catalogue.h"
#include "job/StockSteps.h"

#include <cmath>

namespace thinline::document {
namespace {

constexpr double kFar = 1e9; // mm, px: beyond anything meant, far from what doubles hold
constexpr std::array<const char*, 2> kDepths = {"through", "to carrier"};
constexpr std::array<const char*, 2> kFaces = {"alike", "good front"};
constexpr std::array<const char*, 3> kTurns = {"any", "half", "none"};

} // namespace

// A value takes up to eighty times the memory of its text ("[],[],..."), and finding a name among those of an object
// takes time with their number. So both are counted while the text is read, and reading ends where they are spent.
json parsedWithin(const base::Bytes& text, const std::string& entry) {
    constexpr size_t kMostBytes = 512ull << 20, kMostLooks = 400'000'000;
    constexpr int kDeepest = 64;
    constexpr size_t kValue = 2 * sizeof(json), kCompound = 96, kName = 96; // with what allocating adds
    size_t bytes = 0, looks = 0;
    std::vector<size_t> names; ///< of each object that is open
    const auto count = [&](int depth, json::parse_event_t event, const json& value) {
        using Event = json::parse_event_t;
        if (depth > kDeepest)
            throw BadJob{entry + " is nested deeper than it may be"};
        if (event == Event::object_start || event == Event::array_start)
            bytes += kCompound;
        if (event == Event::object_start)
            names.push_back(0);
        if (event == Event::object_end && !names.empty())
            names.pop_back();
        if (event == Event::key && !names.empty()) {
            bytes += kName;
            looks += names.back()++;
        }
        if (event == Event::value)
            bytes += kValue + (value.is_string() ? value.get_ref<const std::string&>().size() : 0);
        if (bytes > kMostBytes || looks > kMostLooks)
            throw BadJob{entry + " holds more than it may"};
        return true;
    };
    try {
        return json::parse(text.begin(), text.end(), count);
    } catch (const json::parse_error& bad) {
        throw BadJob{entry + " breaks off or is garbled at byte " + std::to_string(bad.byte)};
    }
}

double formatOf(const json& file) {
    if (!file.is_object() || !file.contains("format") || !file.at("format").is_number() ||
        !(file.at("format").get<double>() >= 1))
        throw BadJob{"its format is no number of a format"};
    return file.at("format").get<double>();
}

json pointJson(geometry::Point p) {
    return json::array({p.x, p.y});
}

json ringsJson(const geometry::Polygons& rings) {
    json out = json::array();
    for (const geometry::Polygon& ring : rings) {
        json points = json::array();
        for (const geometry::Point p : ring)
            points.push_back(pointJson(p));
        out.push_back(std::move(points));
    }
    return out;
}
json scrapJson(const design::Scrap& scrap) {
    json out = {{"stock", scrap.stockId},
                {"name", scrap.name},
                {"outlineMm", ringsJson(scrap.rings)},
                {"marginMm", scrap.marginMm}};
    if (scrap.id != 0)
        out["id"] = scrap.id;
    if (scrap.drawerId != 0)
        out["drawerId"] = scrap.drawerId;
    if (scrap.at)
        out["at"] = pointJson(*scrap.at);
    if (!scrap.mat.empty())
        out["mat"] = scrap.mat;
    return out;
}

void putKeepOuts(json& out, const std::map<std::string, std::vector<geometry::Box>>& keepOuts) {
    for (const auto& [mat, boxes] : keepOuts)
        for (const geometry::Box& box : boxes)
            out["keepOutsMm"][mat].push_back({box.least.x, box.least.y, box.width(), box.height()});
}

json lineJson(const geometry::Line& line) {
    json steps = json::array();
    for (const geometry::Segment& s : line.segments)
        steps.push_back(s.isLine
                            ? json::array({pointJson(s.end)})
                            : json::array({pointJson(s.control1), pointJson(s.control2), pointJson(s.end)}));
    return {{"start", pointJson(line.start)}, {"steps", steps}};
}

json originJson(const job::Origin& origin) {
    return {{"from", origin.from}, {"licence", job::licenceWord(origin.licence)}};
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
    return {numberIn(value.at(0), -kFar, kFar, "a point"), numberIn(value.at(1), -kFar, kFar, "a point")};
}

geometry::Polygons ringsOf(const json& value) {
    geometry::Polygons out;
    for (const json& points : value) {
        geometry::Polygon& ring = out.emplace_back();
        for (const json& p : points)
            ring.push_back(pointOf(p));
        if (ring.size() < 3)
            throw BadJob{"an outline has fewer than three corners"};
    }
    return out;
}
design::Scrap scrapOf(const json& in) {
    design::Scrap out;
    out.id = static_cast<int>(numberOr(in, "id", 0, 0, kMostScraps, "a scrap's number"));
    out.drawerId = static_cast<int>(numberOr(in, "drawerId", 0, 0, kMostScraps, "a scrap's number"));
    out.stockId = in.at("stock").get<std::string>();
    out.name = textOr(in, "name");
    out.rings = ringsOf(in.at("outlineMm"));
    out.marginMm = numberOr(in, "marginMm", out.marginMm, 0, 100, "a scrap's margin");
    if (in.contains("at"))
        out.at = pointOf(in.at("at"));
    out.mat = textOr(in, "mat");
    return out;
}

std::map<std::string, std::vector<geometry::Box>> keepOutsOf(const json& in) {
    std::map<std::string, std::vector<geometry::Box>> out;
    const json all = in.value("keepOutsMm", json::object());
    for (const auto& [mat, boxes] : all.items())
        for (const json& box : boxes) {
            const geometry::Point least = pointOf(box);
            out[mat].push_back({least, least + geometry::Point{numberIn(box.at(2), 0, kFar, "a spot"),
                                                               numberIn(box.at(3), 0, kFar, "a spot")}});
        }
    return out;
}

geometry::Line lineOf(const json& in) {
    geometry::Line out{pointOf(in.at("start")), {}};
    for (const json& step : in.at("steps")) {
        if (step.size() != 1 && step.size() != 3)
            throw BadJob{"a line has a step of " + std::to_string(step.size()) + " points"};
        out.segments.push_back(
            step.size() == 1
                ? geometry::Segment::line(pointOf(step.at(0)))
                : geometry::Segment::curve(pointOf(step.at(0)), pointOf(step.at(1)), pointOf(step.at(2))));
    }
    return out;
}

raster::Rgb colourOf(const json& value) {
    const auto colour = job::readColour(value.get<std::string>());
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

design::PieceId pieceOf(const json& value) {
    const auto id = design::PieceId::read(value.get_ref<const std::string&>());
    if (!id)
        throw BadJob{id.error().message.substr(0, id.error().message.size() - 1)};
    return *id;
}

job::Origin originOf(const json& in) {
    const auto licence = job::licenceOf(in.at("licence").get<std::string>());
    if (!licence)
        throw BadJob{"a licence is called '" + in.at("licence").get<std::string>() + "', which is not known"};
    return {in.at("from").get<std::string>(), *licence};
}

lettering::Recipe wordOf(const json& in) {
    lettering::Recipe out;
    out.text = in.at("text").get<std::string>();
    out.font = {textOr(in, "family"), textOr(in, "style")};
    out.sizeBy = textOr(in, "sizeBy") == "width" ? lettering::SizeBy::Width : lettering::SizeBy::CapHeight;
    out.sizeMm = numberOr(in, "sizeMm", out.sizeMm, 1e-6, kFar, "a word's size");
    out.spacingMm = numberOr(in, "spacingMm", 0, -kFar, kFar, "a word's spacing");
    out.hasEqualHeights = flagOr(in, "equalHeights", false);
    out.isJoined = flagOr(in, "joined", false);
    out.overlapMm = numberOr(in, "overlapMm", 0, 0, kFar, "a word's overlap");
    out.fillBelowMm2 = numberOr(in, "fillBelowMm2", 0, 0, kFar, "a word's openings");
    return out;
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

std::vector<double> valuesOf(const json& in, const std::vector<base::Parameter>& parameters) {
    std::vector<double> out;
    for (const base::Parameter& p : parameters) {
        if (!in.contains(p.name)) {
            out.push_back(p.usual);
        } else if (p.quantity != base::Quantity::Choice) {
            out.push_back(numberIn(in.at(p.name), -kFar, kFar, p.label));
        } else {
            const auto value = base::readValue(p, in.at(p.name).get<std::string>());
            if (!value)
                throw BadJob{value.error().message};
            out.push_back(*value);
        }
    }
    return out;
}

json drawingJson(const job::Drawing& drawing) {
    json out = {{"page", drawing.take.page},
                {"pages", drawing.pages},
                {"pageSize", {drawing.pageWidth, drawing.pageHeight}},
                {"statesSize", drawing.statesSize},
                {"settled", drawing.isSettled},
                {"appliesClips", drawing.take.appliesClips},
                {"strokesAsAreas", drawing.take.strokesAsAreas},
                {"leftOut", drawing.take.leftOut},
                {"layers", json::array()}};
    for (const auto& [key, as] : drawing.take.lines)
        out["lines"][key] = design::drawnAsWord(as);
    for (const design::LineKind& kind : drawing.kinds)
        out["lineKinds"].push_back({{"key", kind.key},
                                    {"words", kind.words},
                                    {"layer", kind.layer},
                                    {"lines", kind.lines},
                                    {"lengthMm", kind.lengthMm},
                                    {"closed", kind.isClosed},
                                    {"proposed", design::drawnAsWord(kind.proposed)},
                                    {"why", kind.why},
                                    {"sure", kind.isSure},
                                    {"taken", design::drawnAsWord(kind.taken)}});
    for (const design::DrawnLayer& layer : drawing.layers) {
        json one = {{"name", layer.name}, {"items", layer.items}};
        if (layer.colour)
            one["colour"] = job::colourText(*layer.colour);
        out["layers"].push_back(one);
    }
    return out;
}

namespace {

constexpr int kMostLines = 1'000'000;

} // namespace

json pieceLineJson(const design::PieceLine& line) {
    json out = {{"id", numberOf(line.id)},
                {"path", formats::svg::lineText(line.path, job::kKeptDecimals)},
                {"as", design::kLineUseWords[line.does.index()]}};
    if (line.beginsAtEdge)
        out["beginsAtEdge"] = true;
    if (line.endsAtEdge)
        out["endsAtEdge"] = true;
    if (const auto* fold = std::get_if<design::Fold>(&line.does)) {
        if (fold->scored == design::Side::Back)
            out["scored"] = "back";
        if (fold->isTowards)
            out["towards"] = true;
        out["angleDeg"] = fold->angleDeg;
    } else if (const auto* tear = std::get_if<design::Tear>(&line.does)) {
        out["cutMm"] = tear->cutMm;
        out["leftMm"] = tear->leftMm;
    } else if (const auto* pen = std::get_if<design::Pen>(&line.does)) {
        out["ink"] = pen->inkId;
        out["widthMm"] = pen->widthMm;
    } else if (const auto* mark = std::get_if<design::Placement>(&line.does)) {
        if (!(mark->shows == design::PieceId{}))
            out["shows"] = mark->shows.text();
        if (!mark->isScored)
            out["drawn"] = true;
    }
    return out;
}

design::PieceLine pieceLineOf(const json& in) {
    design::PieceLine out;
    out.id = design::LineId{wholeIn(in.at("id"), 1, kMostLines, "a line")};
    const std::string data = in.at("path").get<std::string>();
    auto path = formats::svg::readLine(data);
    if (!path)
        throw BadJob{path.error().message};
    out.path = path.take();
    out.beginsAtEdge = flagOr(in, "beginsAtEdge", false);
    out.endsAtEdge = flagOr(in, "endsAtEdge", false);
    const std::string as = in.at("as").get<std::string>();
    const auto word = std::find(design::kLineUseWords.begin(), design::kLineUseWords.end(), as);
    switch (word - design::kLineUseWords.begin()) {
    case 0: {
        design::Fold fold;
        fold.scored = textOr(in, "scored") == "back" ? design::Side::Back : design::Side::Front;
        fold.isTowards = flagOr(in, "towards", false);
        fold.angleDeg = numberOr(in, "angleDeg", fold.angleDeg, 0, 180, "a fold's angle");
        out.does = fold;
        break;
    }
    case 1:
        out.does = design::Score{};
        break;
    case 2:
        out.does = design::Slit{};
        break;
    case 3:
        out.does = design::Tear{numberOr(in, "cutMm", 2, 0.1, 100, "a perforation"),
                                numberOr(in, "leftMm", 1.5, 0.1, 100, "a perforation")};
        break;
    case 4:
        out.does = design::Pen{textOr(in, "ink"), numberOr(in, "widthMm", 0.5, 0.01, 1000, "a pen")};
        break;
    case 5:
        out.does = design::Placement{in.contains("shows") ? pieceOf(in.at("shows")) : design::PieceId{},
                                     !flagOr(in, "drawn", false)};
        break;
    default:
        throw BadJob{"'" + as + "' is no use of a line"};
    }
    return out;
}

namespace {

design::DrawnAs drawnAsIn(const json& in) {
    const auto as = design::drawnAsOf(in.get<std::string>());
    if (!as)
        throw BadJob{"'" + in.get<std::string>() + "' is nothing lines can be taken as"};
    return *as;
}

void readLineKinds(const json& in, job::Drawing& out) {
    if (in.contains("lines"))
        for (const auto& [key, as] : in.at("lines").items())
            out.take.lines[key] = drawnAsIn(as);
    for (const json& kind : in.value("lineKinds", json::array()))
        out.kinds.push_back({.key = kind.at("key").get<std::string>(),
                             .words = textOr(kind, "words"),
                             .layer = textOr(kind, "layer"),
                             .lines = wholeIn(kind.at("lines"), 0, kMostLines, "the lines"),
                             .lengthMm = numberOr(kind, "lengthMm", 0, 0, 1e12, "a length"),
                             .isClosed = flagOr(kind, "closed", false),
                             .proposed = drawnAsIn(kind.at("proposed")),
                             .why = textOr(kind, "why"),
                             .isSure = flagOr(kind, "sure", true),
                             .taken = drawnAsIn(kind.at("taken"))});
}

} // namespace

job::Drawing drawingOf(const json& in, std::shared_ptr<const job::Artwork> file) {
    job::Drawing out;
    out.file = std::move(file);
    const json& size = in.at("pageSize");
    out.pageWidth = numberIn(size.at(0), 1e-6, kFar, "a page's width");
    out.pageHeight = numberIn(size.at(1), 1e-6, kFar, "a page's height");
    out.statesSize = flagOr(in, "statesSize", true);
    out.isSettled = flagOr(in, "settled", true);
    out.take.page = static_cast<int>(numberOr(in, "page", 0, 0, 1'000'000, "a page"));
    out.pages = static_cast<int>(numberOr(in, "pages", 1, 1, 1'000'000, "the pages"));
    out.take.appliesClips = flagOr(in, "appliesClips", true);
    out.take.strokesAsAreas = flagOr(in, "strokesAsAreas", false);
    if (in.contains("leftOut"))
        out.take.leftOut = in.at("leftOut").get<std::set<std::string>>();
    readLineKinds(in, out);
    for (const json& layer : in.value("layers", json::array())) {
        design::DrawnLayer one{
            layer.at("name").get<std::string>(), wholeIn(layer.at("items"), 0, 100'000'000, "a layer"), {}};
        if (layer.contains("colour"))
            one.colour = colourOf(layer.at("colour"));
        out.layers.push_back(std::move(one));
    }
    return out;
}

std::shared_ptr<const job::Artwork> artworkOf(const json& in, const std::string& entry, Unpacked& entries) {
    const auto at = entries.find(entry);
    if (at == entries.end())
        throw BadJob{"the file " + in.at("fileName").get<std::string>() + " is missing"};
    auto out = std::make_shared<job::Artwork>();
    out->fileName = in.at("fileName").get<std::string>();
    out->mediaType = textOr(in, "mediaType");
    if (in.contains("sizePx")) {
        out->widthPx = wholeIn(in.at("sizePx").at(0), 1, 1'000'000, "the picture's width");
        out->heightPx = wholeIn(in.at("sizePx").at(1), 1, 1'000'000, "the picture's height");
    }
    out->pixelAspect = numberOr(in, "pixelAspect", 1, 0.001, 1000, "the pixel's shape");
    out->bytes = std::move(at->second);
    entries.erase(at); // it is one source's
    return out;
}

std::string keptEntry(design::SourceId id) {
    return "kept/source-" + std::to_string(numberOf(id)) + ".json";
}
std::string artworkEntry(design::SourceId id) {
    return "artwork-" + std::to_string(numberOf(id));
}

std::optional<std::vector<design::Load>>
loadsOf(const json& in, const std::function<std::optional<design::PlacedPiece>(const json&)>& placed) {
    std::vector<design::Load> out;
    const auto mm = [](const json& v) { return numberIn(v, -1e5, 1e5, "a place on a mat"); };
    for (const json& load : in) {
        const json& mat = load.at("mat");
        design::Load& l = out.emplace_back();
        l.mat = {mat.at("id").get<std::string>(), mat.at("name").get<std::string>(),
                 mm(mat.at("sizeMm").at(0)), mm(mat.at("sizeMm").at(1)), mm(mat.at("marginMm"))};
        for (const json& sheet : load.at("sheets")) {
            const json& box = sheet.at("boxMm");
            design::PlacedSheet& s = l.sheets.emplace_back();
            s = {sheet.at("stock").get<std::string>(),
                 mm(box.at(0)),
                 mm(box.at(1)),
                 mm(box.at(2)),
                 mm(box.at(3)),
                 mm(sheet.at("marginMm")),
                 {},
                 flagOr(sheet, "scrap", false)};
            s.scrapId = static_cast<int>(numberOr(sheet, "scrapId", 0, 0, kMostScraps, "a scrap"));
            s.isTurned = flagOr(sheet, "turned", false);
            if (sheet.contains("join"))
                s.join = wordIn<design::Join>(sheet.at("join"), design::kJoinWords, "a join of sheets");
            if (sheet.contains("outlineMm"))
                s.outline = ringsOf(sheet.at("outlineMm"));
            for (const json& piece : sheet.at("pieces")) {
                const auto one = placed(piece);
                if (!one)
                    return std::nullopt;
                s.pieces.push_back(*one);
            }
        }
    }
    return out;
}

json lettersJson(const lettering::Letters& letters) {
    json out = {{"text", letters.text},
                {"capHeight", letters.capHeight},
                {"said", letters.said},
                {"letters", json::array()}};
    for (const lettering::Letter& letter : letters.letters) {
        json contours = json::array();
        for (const geometry::Contour& contour : letter.contours)
            contours.push_back(lineJson(contour));
        out["letters"].push_back(
            {{"text", letter.text}, {"afterSpace", letter.isAfterSpace}, {"contours", contours}});
        if (letter.baseline != 0)
            out["letters"].back()["baseline"] = letter.baseline;
    }
    return out;
}

std::shared_ptr<const lettering::Letters> lettersOf(const json& in) {
    auto out = std::make_shared<lettering::Letters>();
    out->text = in.at("text").get<std::string>();
    out->capHeight = numberIn(in.at("capHeight"), 1e-6, 1e6, "a typeface's height");
    if (in.contains("said"))
        out->said = in.at("said").get<std::vector<std::string>>();
    for (const json& letter : in.at("letters")) {
        lettering::Letter one{letter.at("text").get<std::string>(),
                              flagOr(letter, "afterSpace", false),
                              {},
                              numberOr(letter, "baseline", 0, 0, 1e6, "a line of letters")};
        for (const json& contour : letter.at("contours"))
            one.contours.push_back(lineOf(contour));
        out->letters.push_back(std::move(one));
    }
    return out;
}

json stocksJson(const std::vector<design::Stock>& stocks) {
    json out = json::array();
    for (const design::Stock& s : stocks) {
        json one = {{"id", s.id},
                    {"name", s.name},
                    {"colour", job::colourText(s.colour)},
                    {"thicknessMm", s.thicknessMm},
                    {"gramsPerM2", s.gramsPerM2}};
        const design::Stock usual;
        if (s.kind != usual.kind)
            one["kind"] = job::kindWord(s.kind);
        for (const design::Stock::Size& size : s.sizes)
            one["sizesMm"].push_back(size.count ? json{size.widthMm, size.heightMm, *size.count}
                                                : json{size.widthMm, size.heightMm});
        if (s.price > 0)
            one["price"] = s.price;
        if (s.cut != usual.cut)
            one["cut"] = kDepths[static_cast<size_t>(s.cut)];
        if (s.faces != usual.faces)
            one["faces"] = kFaces[static_cast<size_t>(s.faces)];
        if (s.turns != usual.turns)
            one["turns"] = kTurns[static_cast<size_t>(s.turns)];
        if (s.isTranslucent)
            one["translucent"] = true;
        if (s.isCutByHand)
            one["cutByHand"] = true;
        if (s.prints)
            one["prints"] = design::kPrintsWords[static_cast<size_t>(*s.prints)];
        if (s.bleedMm)
            one["bleedMm"] = *s.bleedMm;
        if (!s.laminateOf.empty())
            one["laminateOf"] = s.laminateOf;
        out.push_back(std::move(one));
    }
    return out;
}

std::vector<design::Stock> stocksOf(const json& in) {
    std::vector<design::Stock> out;
    for (const json& s : in) {
        design::Stock one;
        one.id = s.at("id").get<std::string>();
        one.name = textOr(s, "name", one.id);
        one.colour = colourOf(s.at("colour"));
        one.thicknessMm = numberOr(s, "thicknessMm", one.thicknessMm, 0, 50, "a thickness");
        one.gramsPerM2 = numberOr(s, "gramsPerM2", one.gramsPerM2, 0, 1e5, "a weight");
        if (const auto kind = job::kindOf(textOr(s, "kind", "card")))
            one.kind = *kind;
        else
            throw BadJob{"the kind of a stock '" + textOr(s, "kind") + "' is not known"};
        for (const json& size : s.value("sizesMm", json::array())) {
            one.sizes.push_back({numberIn(size.at(0), 1, 1e5, "a sheet's width"),
                                 numberIn(size.at(1), 1, 1e5, "a sheet's height")});
            if (size.size() > 2)
                one.sizes.back().count = wholeIn(size.at(2), 0, 99'999, "a number of sheets");
        }
        one.price = numberOr(s, "price", 0, 0, 1e6, "a price");
        if (s.contains("cut"))
            one.cut = wordIn<design::Depth>(s.at("cut"), kDepths, "the depth of a cut");
        if (s.contains("faces"))
            one.faces = wordIn<design::Stock::Faces>(s.at("faces"), kFaces, "the faces of a stock");
        if (s.contains("turns"))
            one.turns = wordIn<design::Stock::Turns>(s.at("turns"), kTurns, "the turns of a stock");
        one.isTranslucent = flagOr(s, "translucent", false);
        one.isCutByHand = flagOr(s, "cutByHand", false);
        if (s.contains("prints"))
            one.prints = wordIn<design::Stock::Prints>(s.at("prints"), design::kPrintsWords,
                                                       "what of a stock is printed");
        if (s.contains("bleedMm"))
            one.bleedMm = numberIn(s.at("bleedMm"), 0, design::kMostBleedMm, "a bleed");
        if (s.contains("laminateOf"))
            one.laminateOf = s.at("laminateOf").get<std::vector<std::string>>();
        out.push_back(std::move(one));
    }
    return out;
}

design::SheetFormat ownSheetOf(const json& own) {
    design::SheetFormat out{"own", "own size", 200, 280, 6.35};
    out.widthMm = numberIn(own.at(0), 10, 5000, "the sheet's width");
    out.heightMm = numberIn(own.at(1), 10, 5000, "the sheet's height");
    out.marginMm = numberIn(own.at(2), 0, 1000, "the sheet's margin");
    return out;
}

namespace {

json toolsJson(const std::vector<design::ToolKind>& tools) {
    json out = json::array();
    for (const design::ToolKind tool : tools)
        out.push_back(design::kToolWords[static_cast<size_t>(tool)]);
    return out;
}

design::ToolKind toolOf(const json& in) {
    return wordIn<design::ToolKind>(in, design::kToolWords, "a tool");
}
std::vector<design::ToolKind> toolsOf(const json& in) {
    std::vector<design::ToolKind> out;
    for (const json& tool : in)
        out.push_back(toolOf(tool));
    return out;
}

} // namespace

json machineJson(const design::Machine& machine) {
    json out = {{"id", machine.id},
                {"name", machine.name},
                {"widthMm", machine.usableWidthMm},
                {"longestMm", machine.longestMm},
                {"holders", json::array()},
                {"tools", toolsJson(machine.tools)},
                {"forceGf", {machine.leastGf, machine.mostGf}},
                {"cutMmPerS", machine.cutMmPerS},
                {"travelMmPerS", machine.travelMmPerS},
                {"mmPerS2", machine.mmPerS2},
                {"liftS", machine.liftS},
                {"swapS", machine.swapS}};
    for (const design::Holder& holder : machine.holders)
        out["holders"].push_back(toolsJson(holder.takes));
    if (machine.bladePrice > 0)
        out["bladePrice"] = machine.bladePrice;
    if (machine.bladeLastsM > 0)
        out["bladeLastsM"] = machine.bladeLastsM;
    if (machine.doesReadMarks)
        out["printMm"] = {machine.printWidthMm, machine.printHeightMm};
    return out;
}

design::Machine machineOf(const json& in) {
    constexpr double kMostMm = 100'000, kMostSpeed = 100'000;
    constexpr size_t kMostHolders = 16;
    design::Machine out;
    out.id = textOr(in, "id");
    out.name = textOr(in, "name");
    out.usableWidthMm = numberOr(in, "widthMm", 304.8, 10, kMostMm, "a machine's width");
    out.longestMm = numberOr(in, "longestMm", 609.6, 10, kMostMm, "a machine's length");
    for (const json& holder : in.at("holders"))
        out.holders.push_back({toolsOf(holder)});
    if (out.holders.empty() || out.holders.size() > kMostHolders)
        throw BadJob{"a machine has 1 to 16 holders"};
    out.tools = toolsOf(in.at("tools"));
    if (in.contains("forceGf")) {
        out.leastGf = numberIn(in.at("forceGf").at(0), 0, design::kMostGf, "a machine's force");
        out.mostGf = numberIn(in.at("forceGf").at(1), out.leastGf, design::kMostGf, "a machine's force");
    }
    if (in.contains("printMm")) {
        out.doesReadMarks = true;
        out.printWidthMm = numberIn(in.at("printMm").at(0), 0, kMostMm, "a printed area");
        out.printHeightMm = numberIn(in.at("printMm").at(1), 0, kMostMm, "a printed area");
    }
    out.cutMmPerS = numberOr(in, "cutMmPerS", out.cutMmPerS, 1, kMostSpeed, "a machine's speed");
    out.travelMmPerS = numberOr(in, "travelMmPerS", out.travelMmPerS, 1, kMostSpeed, "a machine's speed");
    out.mmPerS2 = numberOr(in, "mmPerS2", out.mmPerS2, 1, kMostSpeed, "a machine's acceleration");
    out.liftS = numberOr(in, "liftS", out.liftS, 0, 60, "a machine's time");
    out.swapS = numberOr(in, "swapS", out.swapS, 0, 3600, "a machine's time");
    out.bladePrice = numberOr(in, "bladePrice", 0, 0, 1e6, "the price of a blade");
    out.bladeLastsM = numberOr(in, "bladeLastsM", 0, 0, 1e6, "how far a blade cuts");
    return out;
}

} // namespace thinline::document
