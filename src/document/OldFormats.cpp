// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Formats 1 to 3.
//
// 1 -> 2 -> 3 are rewritings of the JSON. 3 -> 4 is not: what format 3 keeps by number, format 4 keeps by path, and
// which path a number has is known only when the steps are done once more. Up to format 3 every piece a step made got
// the next number, in the order in which it came; the first part of what a step parted kept the number of the whole.
// So the steps are done one after the other, and each step's successors (design::Outcome) are numbered as they were
// then: whatever the job says of number 10000007 is said of the piece that had that number.
//
// Format 3 also kept a scale beside the measures. The measures are multiplied by it here, once, and it is gone.
// Openings of fits were kept as a share of a frame, pins and laid pieces by the corner of a box: both are turned into
// points of the piece itself when it is known how it lies.
#include "document/OldFormats.h"

#include "formats/svg/WriteDrawing.h"
#include "job/LayerSteps.h"
#include "job/Sizing.h"
#include "job/TraceSteps.h"
#include "shape/Steps.h"

#include <algorithm>
#include <numbers>

namespace thinline::document {
namespace {

using base::Code;
using design::LayerId;
using design::PieceId;
using design::SourceId;

constexpr int kFirstOfSources = 100'000'000, kBlockOfSource = 1'000'000, kFirstMade = 10'000'001;
constexpr int kLeastNumber = -1'000'000, kMostNumber = 1'000'000'000;

int allOfSource(int source) {
    return kFirstOfSources + (source - 1) * kBlockOfSource;
}

// ---- 1 -> 2 -> 3 ------------------------------------------------------------------------------------------

/// Format 2 added the steps at Shape.
json from1to2(json in) {
    in["shapeSteps"] = json::array();
    return in;
}

/// Format 3 added sources: a drawing of outlines had been kept as the areas of a tracing in hundredths of a
/// millimetre, with its file as the artwork. Pointed corners were called mitred.
json from2to3(json in, Unpacked& entries) {
    for (json& step : in["shapeSteps"])
        if (step.contains("join") && step.at("join") == "mitre")
            step["join"] = "pointed";
    if (!in.contains("artwork") || in.at("artwork").at("mediaType") != "image/svg+xml")
        return in;
    if (!in.contains("tracing"))
        throw BadJob{"a drawing has no areas"};
    const json artwork = in.at("artwork");
    const double widthMm = numberIn(in.at("pictureWidthMm"), 1e-6, 1e5, "the page's width");
    const double widthPx = numberIn(artwork.at("sizePx").at(0), 1, 1e9, "the page's width");
    const double heightPx = numberIn(artwork.at("sizePx").at(1), 1, 1e9, "the page's height");
    const double guessedMm = numberOr(in, "guessedWidthMm", 0, 0, 1e5, "the page's width");
    const double pageMm = guessedMm > 0 ? guessedMm : widthMm;
    const double mmPerPx = widthMm / widthPx;
    json pieces = json::array();
    std::map<std::string, int> numbers;
    std::string stock;
    for (const json& area : in.at("tracing").at("areas")) {
        const std::string old = std::to_string(area.at("id").get<int>());
        const int id = allOfSource(1) + static_cast<int>(pieces.size()) + 1;
        numbers[old] = id;
        const auto shape = geometry::rounded(
            geometry::transformed(shapeOf(area.at("path")), geometry::Transform::scale(mmPerPx, mmPerPx)),
            1e-4);
        pieces.push_back({{"id", id},
                          {"name", "area " + old},
                          {"path", formats::svg::pathText(shape)},
                          {"colour", area.at("colour")}});
        if (in.at("paint").contains(old))
            stock = in.at("paint").at(old).get<std::string>();
    }
    const auto renumbered = [&](const std::string& old) {
        const auto at = numbers.find(old);
        return at == numbers.end() ? old : std::to_string(at->second);
    };
    for (const char* key : {"paint", "copies"}) {
        json next = json::object();
        for (const auto& [old, value] : in.at(key).items())
            next[renumbered(old)] = value;
        in[key] = next;
    }
    const auto renumber = [&](json& id) {
        if (const auto at = numbers.find(std::to_string(id.get<int>())); at != numbers.end())
            id = at->second;
    };
    for (json& step : in["shapeSteps"])
        for (json& id : step["pieces"])
            renumber(id);
    for (json& pin : in["plan"]["pins"])
        renumber(pin["piece"]);
    in["sources"] = json::array({{{"number", 1},
                                  {"at", {0.0, 0.0}},
                                  {"stock", stock},
                                  {"origin", {{"from", ""}, {"licence", "unknown"}}},
                                  {"said", ""},
                                  {"pieces", pieces},
                                  {"drawing",
                                   {{"entry", "artwork"},
                                    {"fileName", artwork.at("fileName")},
                                    {"mediaType", artwork.at("mediaType")},
                                    {"pageMm", {pageMm, pageMm * heightPx / widthPx}},
                                    {"statesSize", !(guessedMm > 0)},
                                    {"settled", true},
                                    {"scale", widthMm / pageMm},
                                    {"appliesClips", true},
                                    {"strokesAsAreas", false},
                                    {"leftOut", json::array()},
                                    {"layers", json::array()}}}}});
    in["nextSource"] = 2;
    for (const char* key : {"artwork", "tracing", "arrangement"})
        in.erase(key);
    (void)entries; // the drawing's file stays in the entry called artwork
    return in;
}

// ---- 3 -> 4 -----------------------------------------------------------------------------------------------

/// The paths of the old numbers, as steps are done.
class Names {
  public:
    /// What a source calls a piece whose number is so far into its block.
    using KeyOf = std::function<std::string(int)>;

    void addSource(int number, KeyOf keyOf) { m_keys[number] = std::move(keyOf); }
    void setPicture(SourceId picture, std::string ground) {
        m_picture = picture;
        m_ground = std::move(ground);
    }

    PieceId of(int number) const {
        if (const auto known = m_ids.find(number); known != m_ids.end())
            return known->second;
        if (number >= kFirstOfSources) {
            const int source = (number - kFirstOfSources) / kBlockOfSource + 1;
            const auto keyOf = m_keys.find(source);
            const int inBlock = (number - kFirstOfSources) % kBlockOfSource;
            return PieceId::found(SourceId{source},
                                  keyOf == m_keys.end() ? std::to_string(inBlock) : keyOf->second(inBlock));
        }
        if (number < 0)
            return PieceId::found(m_picture, m_ground + "." + std::to_string(-number));
        if (number < kFirstMade)
            return PieceId::found(m_picture, job::areaKey(number));
        return PieceId::found(SourceId{0}, "made." + std::to_string(number)); // was never made
    }
    design::Chosen chosen(int number) const {
        const bool isWhole = number >= kFirstOfSources && (number - kFirstOfSources) % kBlockOfSource == 0;
        if (isWhole)
            return design::EveryPieceOf{SourceId{(number - kFirstOfSources) / kBlockOfSource + 1}};
        return of(number);
    }

    /// The number a piece has now; 0 for one that never had any.
    int numberOf(PieceId id) const {
        const auto at = m_numbers.find(id);
        return at == m_numbers.end() ? 0 : at->second;
    }
    void give(int number, PieceId id) {
        m_ids[number] = id;
        m_numbers[id] = number;
    }
    void follow(const std::vector<design::Successor>& successors) {
        for (const design::Successor& one : successors)
            give(one.isFirst ? numberOf(one.of) : m_next++, one.now);
    }

  private:
    std::map<int, KeyOf> m_keys;
    SourceId m_picture{};
    std::string m_ground = "backing";
    std::map<int, PieceId> m_ids;
    std::map<PieceId, int> m_numbers;
    int m_next = kFirstMade;
};

class Upgrade {
  public:
    Upgrade(const json& in, Unpacked& entries) : m_in(in), m_entries(entries) {
        m_scaleX = numberIn(in.at("scale").at(0), 1e-6, 1e6, "the scale");
        m_scaleY = numberIn(in.at("scale").at(1), 1e-6, 1e6, "the scale");
    }

    base::Result<job::State> run(const base::Progress& progress) {
        m_job.name = m_in.at("name").get<std::string>();
        m_job.unit = textOr(m_in, "unit") == "in" ? base::LengthUnit::Inch : base::LengthUnit::Millimetre;
        m_job.stocks = stocksOf(m_in.at("stocks"));
        takeLayers();
        if (auto ok = takeSources(); !ok)
            return ok.error();
        auto start = job::make(m_job, job::Stage::Pieces, {}, progress);
        if (!start)
            return start.error();
        job::Made made = std::move(start->made);
        takeSteps(made, progress);
        takePlan();
        auto state = job::make(std::move(m_job), job::Stage::Finish, made, progress);
        if (!state)
            return state.error();
        return settled(state.take(), progress);
    }

  private:
    // ---- layers

    void takeLayers() {
        for (const json& l : m_in.at("layers")) {
            const std::string role = l.at("role").get<std::string>();
            design::Layer one{LayerId{m_job.nextLayer++}, role == "areas" ? "" : role,
                              l.at("stock").get<std::string>()};
            if (role != "areas" && role != "backing" && role != "ink")
                throw BadJob{"the kind of layer '" + role + "' is not known"};
            one.liftMm = numberIn(l.at("liftMm"), 0, design::kMostLiftMm, "a lift");
            one.isHidden = l.at("hidden").get<bool>();
            m_job.layers.push_back(one);
        }
        // Ink always lay on top, wherever it stood in the list.
        std::stable_partition(m_job.layers.begin(), m_job.layers.end(),
                              [](const design::Layer& layer) { return layer.name != "ink"; });
    }
    LayerId layerNamed(const std::string& name) const {
        for (const design::Layer& layer : m_job.layers)
            if (layer.name == name)
                return layer.id;
        return {};
    }
    /// The layer of what is painted so.
    LayerId layerOfPaint(int number) {
        const std::string key = std::to_string(number);
        const json& paint = m_in.at("paint");
        const std::string fallback = m_job.stocks.empty() ? "card" : m_job.stocks.front().id;
        return job::layerForStock(m_job, paint.contains(key) ? paint.at(key).get<std::string>() : fallback);
    }

    // ---- sources

    base::Status takeSources() {
        int next = static_cast<int>(numberOr(m_in, "nextSource", 1, 1, 1'000'000, "a source's number"));
        for (const json& one : m_in.value("sources", json::array()))
            next = std::max(next, wholeIn(one.at("number"), 1, 1'000'000, "a source's number") + 1);
        if (m_in.contains("artwork"))
            if (auto ok = takePicture(SourceId{next++}); !ok)
                return ok;
        std::set<int> numbers;
        for (const json& one : m_in.value("sources", json::array())) {
            const int number = one.at("number").get<int>();
            if (!numbers.insert(number).second)
                throw BadJob{"two sources have the number " + std::to_string(number)};
            if (auto ok = takeSource(one); !ok)
                return ok;
        }
        m_job.nextSource = next;
        return base::Done{};
    }

    base::Status takePicture(SourceId id) {
        const json& artwork = m_in.at("artwork");
        job::Source source;
        source.id = id;
        job::Picture picture;
        picture.file = artworkOf(artwork, artwork.at("entry").get<std::string>(), m_entries);
        picture.recipe = recipeOf(m_in.at("recipe"));
        picture.roomMm = numberIn(m_in.at("clearanceMm"), 0, 10, "the room between pieces");
        picture.ground = layerNamed("backing");
        picture.ink = layerNamed("ink");
        source.unitMm =
            numberIn(m_in.at("pictureWidthMm"), 1e-6, 1e5, "the picture's width") / picture.file->widthPx;
        if (m_in.contains("origin"))
            source.origin = originOf(m_in.at("origin"));
        std::string ground = "backing";
        if (m_in.contains("tracing")) {
            auto tracing = std::make_shared<const trace::Tracing>(tracingOf(m_in.at("tracing")));
            if (tracing->backing.empty() && tracing->areas.empty())
                throw BadJob{"there are no areas"};
            if (picture.recipe.mode == trace::Mode::LineDrawing && tracing->backing.empty())
                throw BadJob{"the backing is missing"};
            const bool isInk = picture.recipe.mode == trace::Mode::LineDrawing &&
                               picture.recipe.build == trace::Build::InkOnTop && !tracing->ink.empty();
            ground = isInk ? "ink" : "backing";
            source.kept = std::make_shared<const std::vector<job::Found>>(job::piecesOfTracing(
                *tracing, isInk ? trace::Build::InkOnTop : trace::Build::AreasOnBacking));
            placeAtCorner(source, *tracing);
            int number = 0;
            for (const job::Found& found : *source.kept) {
                const bool isArea = job::isArea(found.key);
                const int old = isArea ? job::areaNumber(found.key) : --number;
                source.lies[found.key] = isArea ? layerOfPaint(old) : isInk ? picture.ink : picture.ground;
                m_names.give(old, source.pieceId(found));
            }
            for (const trace::Area& area : tracing->areas)
                picture.nextArea = std::max(picture.nextArea, area.number + 1);
            picture.tracing = std::move(tracing);
        }
        m_names.setPicture(id, ground);
        // Tuck and room were margins then as they are now.
        const double tuckMm = picture.recipe.tuckMm, roomMm = picture.roomMm;
        source.what = std::move(picture);
        auto sized = job::sizedSource(source, m_scaleX, m_scaleY);
        if (!sized)
            return sized.error();
        source = sized.take();
        auto& now = std::get<job::Picture>(source.what);
        now.recipe.tuckMm = tuckMm;
        now.roomMm = roomMm;
        m_job.sources.push_back(std::make_shared<const job::Source>(std::move(source)));
        return base::Done{};
    }

    /// The work began at the corner of the backing, or of all areas, whatever of the picture lay around it.
    static void placeAtCorner(job::Source& source, const trace::Tracing& tracing) {
        geometry::Box box;
        for (const geometry::Shape& shape : tracing.backing)
            box.include(geometry::bounds(shape));
        if (tracing.backing.empty())
            for (const trace::Area& area : tracing.areas)
                box.include(geometry::bounds(area.shape));
        const auto* picture = std::get_if<job::Picture>(&source.what);
        const double aspect = picture && picture->file ? picture->file->pixelAspect : 1;
        if (!box.isEmpty())
            source.at = {-box.least.x * source.unitMm, -box.least.y * source.unitMm * aspect};
    }

    base::Status takeSource(const json& in) {
        const int number = in.at("number").get<int>();
        job::Source source;
        source.id = SourceId{number};
        source.at = pointOf(in.at("at"));
        source.origin = originOf(in.at("origin"));
        source.said = in.at("said").get<std::string>();
        source.layer = job::layerForStock(m_job, in.at("stock").get<std::string>());
        if (in.contains("drawing"))
            source.what = drawingIn(in.at("drawing"), source);
        else if (in.contains("word"))
            source.what = wordIn(in.at("word"));
        else
            source.what = figureIn(in.at("figure"));
        const auto keyOf = keysOf(source);
        m_names.addSource(number, keyOf);
        std::vector<job::Found> found;
        std::set<int> ids;
        for (const json& piece : in.at("pieces")) {
            const int id = wholeIn(piece.at("id"), allOfSource(number) + 1,
                                   allOfSource(number) + kBlockOfSource - 1, "a piece's number");
            if (!ids.insert(id).second)
                throw BadJob{"two pieces have the number " + std::to_string(id)};
            job::Found one;
            one.key = keyOf(id - allOfSource(number));
            one.name = piece.at("name").get<std::string>();
            one.body = std::make_shared<const design::Body>(design::Body{geometry::rounded(
                geometry::transformed(shapeOf(piece.at("path")), ownUnits(source)), job::kKeptStep)});
            one.group = textOr(piece, "layer");
            if (piece.contains("colour"))
                one.colour = colourOf(piece.at("colour"));
            source.lies[one.key] = layerOfPaint(id);
            m_names.give(id, source.pieceId(one));
            found.push_back(std::move(one));
        }
        if (auto* drawing = std::get_if<job::Drawing>(&source.what))
            drawing->nextPiece = static_cast<int>(found.size()) + 1;
        source.kept = std::make_shared<const std::vector<job::Found>>(std::move(found));
        auto sized = job::sizedSource(source, m_scaleX, m_scaleY);
        if (!sized)
            return sized.error();
        m_job.sources.push_back(std::make_shared<const job::Source>(sized.take()));
        return base::Done{};
    }

    /// Pieces of a drawing were kept in mm, now they are in the units of its page.
    static geometry::Transform ownUnits(const job::Source& source) {
        const double per = std::holds_alternative<job::Drawing>(source.what) ? 1 / source.unitMm : 1;
        return geometry::Transform::scale(per, per);
    }

    job::Drawing drawingIn(const json& in, job::Source& source) {
        json facts = in;
        facts["pageSize"] = in.at("pageMm");
        job::Drawing out = drawingOf(facts, artworkOf(in, in.at("entry").get<std::string>(), m_entries));
        source.unitMm = numberIn(in.at("scale"), 1e-9, 1e9, "a drawing's scale");
        return out;
    }

    static job::Word wordIn(const json& in) {
        job::Word out{wordOf(in), {}, {}, 1};
        // Letters were numbered by their place among all signs, spaces too.
        const std::string& text = out.recipe.text;
        for (size_t i = 0; i < text.size();) {
            size_t end = i + 1;
            while (end < text.size() && (static_cast<unsigned char>(text[end]) & 0xc0) == 0x80)
                ++end;
            const std::string sign = text.substr(i, end - i);
            const int number = out.nextSign++;
            if (sign.find_first_not_of(" \t") != std::string::npos)
                out.signs.push_back({sign, number});
            i = end;
        }
        return out;
    }

    static job::Figure figureIn(const json& in) {
        const construct::FigureInfo* info = construct::figureNamed(in.at("name").get<std::string>());
        if (!info)
            throw BadJob{"a figure is called '" + in.at("name").get<std::string>() + "', which is not known"};
        return {{info->figure, valuesOf(in, info->parameters)}};
    }

    static Names::KeyOf keysOf(const job::Source& source) {
        const auto* word = std::get_if<job::Word>(&source.what);
        if (!word)
            return [](int inBlock) { return std::to_string(inBlock); };
        if (word->recipe.isJoined)
            return [](int inBlock) { return "word." + std::to_string(inBlock); };
        constexpr int kPartsPerLetter = 64;
        return [](int inBlock) {
            return std::to_string((inBlock - 1) / kPartsPerLetter + 1) + "." +
                   std::to_string((inBlock - 1) % kPartsPerLetter + 1);
        };
    }

    // ---- steps

    /// A step's values at the scale they were kept without.
    design::Step stepOf(const json& in) const {
        const std::string name = in.at("action").get<std::string>();
        const auto& infos = shape::actionInfos();
        const auto info =
            std::find_if(infos.begin(), infos.end(), [&](const auto& i) { return name == i.name; });
        if (info == infos.end())
            throw BadJob{"a step at Shape is called '" + name + "', which is not known"};
        std::vector<double> values = valuesOf(in, info->parameters);
        const auto grow = [&](size_t i, double factor) { values[i] *= factor; };
        switch (info->action) {
        case shape::Action::Move:
            grow(0, m_scaleX);
            grow(1, m_scaleY);
            break;
        case shape::Action::RowsOfTwins:
            grow(2, m_scaleX);
            grow(3, m_scaleY);
            break;
        case shape::Action::RingOfTwins:
            grow(1, m_scaleX);
            break;
        case shape::Action::SpaceEvenly:
            grow(2, values[0] < 0.5 ? m_scaleX : m_scaleY);
            break;
        default:
            break;
        }
        design::Step out = shape::makeStep(info->action, {}, values);
        for (const json& piece : in.at("pieces"))
            out.on.push_back(m_names.chosen(wholeIn(piece, kLeastNumber, kMostNumber, "a piece")));
        return out;
    }

    /// Does every step once to learn what its numbers meant; what came of it is kept in `made`.
    void takeSteps(job::Made& made, const base::Progress& progress) {
        auto pieces = made.start ? made.start : std::make_shared<const design::Pieces>();
        for (const json& in : m_in.value("shapeSteps", json::array())) {
            design::Step step = stepOf(in);
            step.id = design::StepId{m_job.nextStep++};
            auto outcome = shape::apply(*pieces, step, nullptr, progress);
            if (outcome)
                step.parts = outcome->parts;
            m_job.steps.push_back(std::make_shared<const design::Step>(std::move(step)));
            if (!outcome)
                continue; // the making says why
            design::Outcome came = outcome.take();
            m_names.follow(came.successors);
            const auto before =
                std::exchange(pieces, std::make_shared<const design::Pieces>(std::move(came.pieces)));
            made.after.push_back({m_job.steps.back(), before, pieces, {}, came.shortEnds, came.droppedBits});
        }
    }

    // ---- what is said of pieces

    void takePlan() {
        const json& in = m_in.at("plan");
        m_job.plan.matId = in.at("mat").get<std::string>();
        m_job.plan.sheetId = in.at("sheet").get<std::string>();
        m_job.plan.ownSheet = ownSheetOf(in.at("ownSheetMm"));
        m_job.plan.spacingMm = numberIn(in.at("spacingMm"), 0, 100, "the spacing");
        m_job.plan.mayTurn = in.at("mayTurn").get<bool>();
        for (const json& set : m_in.value("sets", json::array())) {
            m_job.sets.push_back({set.at("name").get<std::string>(), {}});
            for (const json& id : set.at("pieces"))
                m_job.sets.back().pieces.push_back(
                    m_names.of(wholeIn(id, kLeastNumber, kMostNumber, "a piece of a set")));
        }
    }

    /// Says of every piece what the old job said of its number, where it does not follow already.
    job::Job withWishes(const job::State& state) {
        job::Job out = state.job;
        std::set<int> free;
        for (const json& id : m_in.value("freePieces", json::array()))
            free.insert(wholeIn(id, kLeastNumber, kMostNumber, "a free piece"));
        std::map<int, int> copies;
        for (const auto& [id, count] : m_in.at("copies").items())
            copies[numberOfText(id)] = wholeIn(count, 1, 999, "copies");
        std::set<int> there;
        if (state.made.stack)
            for (const design::Laid& laid : state.made.stack->pieces) {
                const int number = m_names.numberOf(laid.id());
                there.insert(number);
                const auto count = copies.find(number);
                const int wanted = count == copies.end() ? 1 : count->second;
                const std::string key = std::to_string(number);
                const bool isPainted = number > 0 && m_in.at("paint").contains(key);
                const std::string stock = isPainted ? m_in.at("paint").at(key).get<std::string>() : "";
                out = job::withWish(out, laid.id(), [&](design::Wish& wish) {
                    if (laid.copies != wanted)
                        wish.copies = wanted;
                    if (isPainted && state.made.stack->layerOf(laid).stockId != stock)
                        wish.layer = job::layerForStock(m_job, stock);
                    if (free.contains(number) != laid.isFree)
                        wish.isFree = free.contains(number);
                });
            }
        for (const auto& [number, count] : copies) // of pieces that are not there now
            if (!there.contains(number) && count != 1)
                out = job::withWish(out, m_names.of(number),
                                    [&, n = count](design::Wish& wish) { wish.copies = n; });
        return out;
    }
    static int numberOfText(const std::string& text) {
        const json number = json::parse(text, nullptr, false);
        if (!number.is_number_integer())
            throw BadJob{"a piece has no number"};
        return wholeIn(number, kLeastNumber, kMostNumber, "a piece");
    }

    void takeFits(job::Job& job, const design::Stack* work) const {
        for (const json& fit : m_in.value("fits", json::array())) {
            design::Fit one;
            one.inner = m_names.of(wholeIn(fit.at("inner"), kLeastNumber, kMostNumber, "a piece of a fit"));
            one.outer = m_names.of(wholeIn(fit.at("outer"), kLeastNumber, kMostNumber, "a piece of a fit"));
            one.kind = fit.at("kind") == "lid over" ? design::FitKind::LidOver : design::FitKind::IntoOpening;
            one.clearanceMm = numberIn(fit.at("clearanceMm"), 0, 20, "a clearance");
            const design::Laid* outer = work ? work->find(one.outer) : nullptr;
            if (one.kind == design::FitKind::IntoOpening && outer) {
                const geometry::Point share = pointOf(fit.at("openingAt"));
                const geometry::Box box = geometry::bounds(outer->shape());
                one.opening = geometry::inverse(outer->piece.placed)(
                    {box.least.x + share.x * box.width(), box.least.y + share.y * box.height()});
            }
            job.fits.push_back(one);
        }
    }

    /// A place on a sheet or mat was that of a box's corner.
    std::optional<std::pair<design::CopyOf, design::Pose>> placeOf(const json& in,
                                                                   const design::Stack& work) const {
        const PieceId id = m_names.of(wholeIn(in.at("piece"), kLeastNumber, kMostNumber, "a piece"));
        const design::Laid* laid = work.find(id);
        if (!laid)
            return std::nullopt;
        const double free = in.contains("turnRad") ? numberIn(in.at("turnRad"), -7, 7, "a turn") : 0;
        const double turnRad = free + wholeIn(in.at("quarterTurns"), 0, 3, "a turn") * std::numbers::pi / 2;
        const geometry::Point corner{numberIn(in.at("xMm"), -5000, 5000, "a place on a mat"),
                                     numberIn(in.at("yMm"), -5000, 5000, "a place on a mat")};
        return std::pair{design::CopyOf{id, wholeIn(in.at("copy"), 0, 999, "a copy")},
                         design::poseAtCorner(laid->piece, corner, turnRad)};
    }

    std::shared_ptr<const design::Arrangement> sheetsIn(const design::Stack& work) const {
        const json& in = m_in.at("arrangement");
        auto loads = loadsOf(in.at("loads"), [&](const json& piece) -> std::optional<design::PlacedPiece> {
            const auto place = placeOf(piece, work);
            if (!place)
                return std::nullopt;
            return design::PlacedPiece{place->first, place->second, piece.at("pinned").get<bool>()};
        });
        if (!loads)
            return nullptr; // made anew
        design::Arrangement out{std::move(*loads), {}};
        for (const json& copy : in.at("unplaced"))
            out.unplaced.push_back({m_names.of(wholeIn(copy.at(0), kLeastNumber, kMostNumber, "a piece")),
                                    wholeIn(copy.at(1), 0, 999, "a copy")});
        return std::make_shared<const design::Arrangement>(std::move(out));
    }

    base::Result<job::State> settled(job::State state, const base::Progress& progress) {
        m_job = state.job; // wishes may ask for new layers
        job::Job job = withWishes(state);
        job.layers = m_job.layers;
        job.nextLayer = m_job.nextLayer;
        takeFits(job, state.made.work());
        if (const design::Stack* work = state.made.work())
            for (const json& pin : m_in.at("plan").at("pins"))
                if (const auto place = placeOf(pin, *work))
                    job.plan.pins.push_back(
                        {place->first, wholeIn(pin.at("sheetOfStock"), 0, 999, "a pin"), place->second});
        auto out = job::make(std::move(job), job::Stage::Finish, state.made, progress);
        if (!out)
            return out.error();
        job::State made = out.take();
        if (m_in.contains("arrangement") && made.made.work())
            made.made.sheets = sheetsIn(*made.made.work());
        return made;
    }

    const json& m_in;
    Unpacked& m_entries;
    double m_scaleX = 1, m_scaleY = 1;
    job::Job m_job;
    Names m_names;
};

} // namespace

base::Result<job::State> oldState(json in, Unpacked entries, const base::Progress& progress) {
    const int format = in.at("format").get<int>();
    if (format < 2)
        in = from1to2(std::move(in));
    if (format < 3)
        in = from2to3(std::move(in), entries);
    return Upgrade(in, entries).run(progress);
}

} // namespace thinline::document
