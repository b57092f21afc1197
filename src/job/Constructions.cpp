// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Constructions.h"

#include "base/Length.h"
#include "construct/Lettered.h"
#include "design/Carry.h"
#include "folds/Panels.h"
#include "geometry/Measures.h"
#include "job/Letters.h"
#include "job/StockSteps.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using construct::Role;

Error notThere() {
    return {Code::NotFound, "That construction is not in this job any more."};
}

/// Rows from left to right, the next one below the highest of the row; as broad as it is high, about.
std::vector<geometry::Point> sideBySide(const std::vector<construct::Part>& parts) {
    constexpr double kApartMm = 5;
    double area = 0, widest = 0;
    std::vector<geometry::Box> boxes;
    for (const construct::Part& part : parts) {
        boxes.push_back(part.on.empty() ? geometry::bounds(part.body.shape) : geometry::Box{});
        if (!part.on.empty())
            continue;
        area += (boxes.back().width() + kApartMm) * (boxes.back().height() + kApartMm);
        widest = std::max(widest, boxes.back().width());
    }
    const double room = std::max(widest, std::sqrt(area) * 1.3);
    std::vector<geometry::Point> out;
    double x = 0, y = 0, rowHigh = 0;
    for (const geometry::Box& box : boxes) {
        if (box.isEmpty()) { // goes where the part it lies on goes
            out.emplace_back();
            continue;
        }
        if (x > 0 && x + box.width() > room) {
            x = 0;
            y += rowHigh + kApartMm;
            rowHigh = 0;
        }
        out.push_back(geometry::Point{x, y} - box.least);
        x += box.width() + kApartMm;
        rowHigh = std::max(rowHigh, box.height());
    }
    return out;
}

double kept(double value) {
    return std::round(value / kKeptStep) * kKeptStep;
}
geometry::Contour keptPath(const geometry::Contour& path) {
    return geometry::rounded(geometry::Shape{path, {}}, kKeptStep).outline;
}

/// A body as a file keeps it, so that it is read back the same to the bit.
design::Body asKept(design::Body body) {
    body.shape = geometry::rounded(std::move(body.shape), kKeptStep);
    for (design::PieceLine& line : body.lines)
        line.path = keptPath(line.path);
    for (design::Zone& zone : body.zones) {
        zone.area = geometry::rounded(std::move(zone.area), kKeptStep);
        if (zone.behind)
            zone.behind = {kept(zone.behind->x), kept(zone.behind->y)};
    }
    for (design::Panel& panel : body.panels)
        panel.inside = {kept(panel.inside.x), kept(panel.inside.y)};
    return body;
}

/// The layer on which parts lie that lie on others: the next one above of another card, or a new one.
LayerId layerOver(Job& job, LayerId below) {
    const auto at = std::find_if(job.layers.begin(), job.layers.end(),
                                 [&](const design::Layer& layer) { return layer.id == below; });
    const std::string under = at == job.layers.end() ? "" : at->stockId;
    const auto isOther = [&](const design::Stock* stock) {
        return stock && stock->id != under && !stock->isTranslucent && !stock->isCutByHand;
    };
    for (auto above = at; above != job.layers.end(); ++above)
        if (isOther(design::findStock(job.stocks, above->stockId)))
            return above->id;
    const auto other = std::find_if(job.stocks.begin(), job.stocks.end(),
                                    [&](const design::Stock& stock) { return isOther(&stock); });
    const LayerId id{job.nextLayer++};
    job.layers.push_back({id, "", other == job.stocks.end() ? under : other->id});
    return id;
}

/// Takes what was built into a source: its pieces, where panes and liners lie, what the maker should know.
base::Status take(Job& job, Source& source, const construct::Built& built, const std::string& alsoSaid) {
    auto pieces = piecesOf(built);
    if (!pieces)
        return pieces.error();
    source.kept = pieces.take();
    source.said = alsoSaid;
    for (const std::string& said : built.said)
        source.said += (source.said.empty() ? "" : " ") + said;
    std::map<std::string, LayerId> lies;
    LayerId over{};
    for (const construct::Part& part : built.parts) {
        if (part.role == Role::Card)
            continue;
        if (const auto known = source.lies.find(part.key); known != source.lies.end()) {
            lies.insert(*known);
            continue;
        }
        if (!part.on.empty()) {
            lies[part.key] = over = over == LayerId{} ? layerOver(job, source.layer) : over;
            continue;
        }
        const design::Layer* main = design::findLayer(job.layers, source.layer);
        std::string stock = main ? main->stockId : "";
        if (part.role == Role::Pane) {
            auto panes = stockOfPanes(job);
            if (!panes)
                return panes.error();
            stock = panes.take();
        } else { // another card than the work's
            for (const design::Stock& one : job.stocks)
                if (one.id != stock && !one.isTranslucent && !one.isCutByHand) {
                    stock = one.id;
                    break;
                }
        }
        lies[part.key] = layerForStock(job, stock);
    }
    source.lies = std::move(lies);
    return base::Done{};
}

/// Parts that are needed several times are copied, until somebody has said otherwise.
void copyParts(Job& job, const Source& source, const construct::Built& built,
               const construct::Built* before) {
    for (const construct::Part& part : built.parts) {
        const PieceId id = PieceId::found(source.id, part.key);
        const design::Wish* known = job.wishes.find(id);
        int usual = 1;
        if (before)
            for (const construct::Part& old : before->parts)
                usual = old.key == part.key ? old.copies : usual;
        const int now = known && known->copies ? *known->copies : 1;
        if (now != usual || now == part.copies)
            continue;
        design::Wish wish = known ? *known : design::Wish{};
        wish.copies = part.copies == 1 ? std::nullopt : std::optional(part.copies);
        job.wishes = job.wishes.with(id, wish);
    }
}

const design::Stock* stockUnder(const Job& job, const Source& source) {
    LayerId lies = source.layer;
    // What somebody said of its first part on the card counts more.
    for (const Found& found : *source.kept)
        if (!source.lies.contains(found.key)) {
            if (const design::Wish wish = job.wishes.resolved(source.pieceId(found)); wish.layer)
                lies = *wish.layer;
            break;
        }
    const design::Layer* layer = design::findLayer(job.layers, lies);
    return layer ? design::findStock(job.stocks, layer->stockId) : nullptr;
}

} // namespace

base::Result<FoundPieces> piecesOf(const construct::Built& built) {
    std::vector<geometry::Point> places = sideBySide(built.parts);
    std::map<std::string, size_t> byKey;
    std::vector<Found> out;
    for (size_t i = 0; i < built.parts.size(); ++i) {
        const construct::Part& part = built.parts[i];
        byKey[part.key] = i;
        if (const auto on = byKey.find(part.on); on != byKey.end())
            places[i] = places[on->second];
        const auto frame = built.isInPlace
                               ? geometry::Transform{}
                               : geometry::Transform::move({kept(places[i].x), kept(places[i].y)});
        Found one;
        one.key = part.key;
        one.name = part.name;
        one.body = std::make_shared<const design::Body>(asKept(design::mapped(part.body, frame)));
        one.frame = frame;
        out.push_back(std::move(one));
    }
    return std::make_shared<const std::vector<Found>>(std::move(out));
}

base::Result<construct::Given> readGiven(const std::string& name, const std::vector<std::string>& said) {
    const construct::Construction* one = construct::constructionNamed(name);
    if (!one) {
        std::string known;
        for (const construct::Construction* other : construct::constructions())
            known += (known.empty() ? "" : ", ") + std::string(other->name);
        return Error{Code::InvalidArgument,
                     "There is no construction '" + name + "'; there are " + known + "."};
    }
    construct::Given out{name, {}, one->usualWord};
    for (const construct::Measure& measure : one->measures)
        out.values.push_back(measure.parameter.usual);
    for (const std::string& text : said) {
        const auto equals = text.find('=');
        const std::string key = text.substr(0, equals);
        if (equals != std::string::npos && key == "word" && one->word) {
            out.word = text.substr(equals + 1);
            continue;
        }
        if (equals != std::string::npos && key == "font" && one->hasLetters) {
            out.font = fontCalled(text.substr(equals + 1));
            continue;
        }
        const auto measure =
            std::find_if(one->measures.begin(), one->measures.end(),
                         [&](const construct::Measure& m) { return key == m.parameter.name; });
        if (equals == std::string::npos || measure == one->measures.end()) {
            std::string known = one->hasLetters ? "word=..., font=..." : one->word ? "word=..." : "";
            for (const construct::Measure& m : one->measures)
                known += (known.empty() ? "" : ", ") + std::string(m.parameter.name) + "=...";
            return Error{Code::InvalidArgument,
                         "'" + text + "' is no measure of " + name + "; it takes " + known + "."};
        }
        const auto value = base::readValue(measure->parameter, text.substr(equals + 1));
        if (!value)
            return value.error();
        out.values[static_cast<size_t>(measure - one->measures.begin())] = *value;
    }
    return out;
}

double thicknessUnder(const Job& job, const Source& source) {
    const design::Stock* stock = stockUnder(job, source);
    return stock ? stock->thicknessMm : construct::Given{}.thicknessMm;
}

base::Result<Lettered> lettered(construct::Given given, const construct::Given* before,
                                const base::FontStore& fonts) {
    const construct::Construction* one = construct::constructionNamed(given.name);
    const bool isWord = given.word.find_first_not_of(" \t\r\n") != std::string::npos;
    given.letters.reset();
    if (!one || !one->hasLetters || !isWord)
        return Lettered{std::move(given)};
    if (before && before->letters && before->word == given.word && before->font == given.font) {
        given.letters = before->letters;
        return Lettered{std::move(given)};
    }
    lettering::Recipe recipe;
    recipe.text = given.word;
    recipe.font = given.font.family.empty() ? lettering::kPlainFont : given.font;
    recipe.spacingMm = 1; // every letter by itself: no ligatures
    const auto found = lettersFound(recipe, fonts);
    if (!found)
        return found.error();
    given.letters = found->letters;
    Lettered out{std::move(given), found->said.empty() ? "" : construct::sentence(found->said)};
    for (const std::string& said : found->letters->said)
        out.said += (out.said.empty() ? "" : " ") + construct::sentence(said);
    return out;
}

base::Result<Noted> withConstruction(const State& state, construct::Given given, const std::string& stockId,
                                     const base::FontStore& fonts, const base::Progress& progress) {
    Job job = state.job;
    const design::Stock* stock = design::findStock(job.stocks, stockId);
    if (!stock)
        return Error{Code::NotFound, "There is no stock '" + stockId + "' in this job."};
    given = construct::sizedBy(std::move(given), 1); // every value written out
    given.thicknessMm = stock->thicknessMm;
    auto set = lettered(std::move(given), nullptr, fonts);
    if (!set)
        return set.error();
    given = std::move(set->given);
    auto built = construct::built(given, progress);
    if (!built)
        return built.error();
    Source source;
    source.what = Construction{std::move(given)};
    source.layer = layerForStock(job, stockId);
    if (auto ok = take(job, source, *built, set->said); !ok)
        return ok.error();
    Noted out = added(state, std::move(job), std::move(source));
    copyParts(out.job, *out.job.sources.back(), *built, nullptr);
    out.note = out.job.sources.back()->said;
    return out;
}

base::Result<Noted> withConstructionChanged(const Job& before, SourceId id, construct::Given given,
                                            const base::FontStore& fonts, const base::Progress& progress) {
    const Source* known = findSource(before, id);
    const Construction* old = asA<Construction>(known);
    if (!old)
        return notThere();
    given = construct::sizedBy(std::move(given), 1);
    given.thicknessMm = thicknessUnder(before, *known);
    auto set = lettered(std::move(given), &old->given, fonts);
    if (!set)
        return set.error();
    given = std::move(set->given);
    auto built = construct::built(given, progress);
    if (!built)
        return built.error();
    const auto was = construct::built(old->given);
    Job job = before;
    Source source = *known;
    source.what = Construction{std::move(given)};
    if (auto ok = take(job, source, *built, set->said); !ok)
        return ok.error();
    source.unitMm = source.stretchY = 1; // what was typed is what is meant
    copyParts(job, source, *built, was ? &*was : nullptr);
    const std::string note = source.said;
    return Noted{withSource(std::move(job), std::move(source)), note};
}

bool CardFit::isOther() const {
    constexpr double kSameMm = 0.015;
    return std::abs(madeForMm - liesOnMm) > kSameMm;
}

CardFit cardFitOf(const Job& job, const Source& source, const construct::Built& built) {
    const auto& given = std::get<Construction>(source.what).given;
    CardFit out{given.thicknessMm, thicknessUnder(job, source), "", 0};
    // Folds stay where they are, at the middle of the card: the inner one grows outwards by half the difference at both
    // sides, the outer one inwards by as much.
    // What is tightest counts.
    for (const construct::Goes& goes : built.fits) {
        const double play = goes.roomMm - 2 * (out.liesOnMm - out.madeForMm);
        if (!out.what.empty() && play >= out.playMm)
            continue;
        out.what = goes.what;
        out.playMm = play;
    }
    return out;
}

namespace {

std::optional<folding::Print> printOf(const PrintLooks& looks, const design::Laid& laid, design::Side side,
                                      const geometry::Transform& back) {
    const auto look = looks.find(laid.piece.body.get(), side);
    // Only a print that lies straight on the piece as it is drawn is shown.
    if (!look || !look->picture || back.b != 0 || back.c != 0 || back.a <= 0 || back.d <= 0)
        return std::nullopt;
    return folding::Print{look->picture, geometry::transformed(look->box, back)};
}

folding::Card cardOf(const design::Stack& work, const design::Laid& laid, const std::string& key,
                     const PrintLooks& looks) {
    const geometry::Transform back = geometry::inverse(laid.piece.placed);
    folding::Card out{key, design::pieceName(work, laid),
                      std::make_shared<const design::Body>(design::mapped(*laid.piece.body, back)),
                      design::thicknessOf(work, laid)};
    if (const design::Stock* stock = design::findStock(work.stocks, work.layerOf(laid).stockId)) {
        out.colour = stock->colour;
        out.isTranslucent = stock->isTranslucent;
    }
    out.front = printOf(looks, laid, design::Side::Front, back);
    out.back = printOf(looks, laid, design::Side::Back, back);
    return out;
}

size_t foldsOn(const design::Body& body) {
    return static_cast<size_t>(
        std::count_if(body.lines.begin(), body.lines.end(), [](const design::PieceLine& line) {
            return std::holds_alternative<design::Fold>(line.does);
        }));
}

/// A zone on a piece, and the piece that is glued to it.
struct Glued {
    const design::Laid* below = nullptr;
    const design::Laid* above = nullptr;
    const design::Zone* zone = nullptr;
};
std::vector<Glued> gluedIn(const design::Stack& work) {
    std::vector<Glued> out;
    for (const design::Laid& laid : work.pieces)
        for (const design::Zone& zone : laid.piece.body->zones)
            if (zone.kind == design::Zone::Kind::Glue && zone.meets != PieceId{})
                if (const design::Laid* above = work.find(zone.meets); above && above != &laid)
                    out.push_back({&laid, above, &zone});
    return out;
}

/// A piece and all that hang on it by zones of which it is said what is glued there; it comes first.
std::vector<const design::Laid*> gluedTo(const design::Laid& first, const std::vector<Glued>& joints) {
    std::vector<const design::Laid*> out{&first};
    const auto isIn = [&](const design::Laid* laid) {
        return std::find(out.begin(), out.end(), laid) != out.end();
    };
    for (size_t i = 0; i < out.size(); ++i)
        for (const Glued& joint : joints) {
            if (joint.below == out[i] && !isIn(joint.above))
                out.push_back(joint.above);
            if (joint.above == out[i] && !isIn(joint.below))
                out.push_back(joint.below);
        }
    return out;
}

/// Places of a zone far from one another: its middle, and its corners a little towards it.
std::vector<geometry::Point> placesIn(const geometry::Shape& area) {
    const geometry::Point middle = geometry::pointInside(area);
    std::vector<geometry::Point> out{middle};
    for (const geometry::Segment& segment : area.outline.segments)
        if (const geometry::Point p = segment.end + (middle - segment.end) * 0.1; geometry::contains(area, p))
            out.push_back(p);
    return out;
}

/// What two pieces lie on one another in the design, is one place once they are folded.
void meetThere(const design::Stack& work, const Glued& joint, design::FoldedForm& form) {
    const double face = joint.zone->side == design::Side::Front ? 0.5 : -0.5;
    const geometry::Transform below = geometry::inverse(joint.below->piece.placed),
                              above = geometry::inverse(joint.above->piece.placed);
    const std::string name =
        design::pieceName(work, *joint.above) + " on " + design::pieceName(work, *joint.below);
    for (const geometry::Point p : placesIn(joint.zone->area))
        form.meetings.push_back(
            {name,
             {joint.below->id().text(), below(p), face * design::thicknessOf(work, *joint.below)},
             {joint.above->id().text(), above(p), -face * design::thicknessOf(work, *joint.above)}});
}

/// A glued flap lies behind the edge that takes it once all is folded; in the middle of the card, as folds do.
base::Status meetBehindEdges(const design::Stack& work, const design::Laid& laid, bool isAlone, design::FoldedForm& form,
                             const base::Progress& progress) {
    const design::Body& body = *laid.piece.body;
    const auto folded = folds::foldedOf(body, progress);
    if (!folded)
        return folded.error();
    const geometry::Transform back = geometry::inverse(laid.piece.placed);
    for (const folds::Flap& flap : folded->flaps) {
        const auto glued = folds::glueOn(body, folded->panels[flap.panel]);
        const folds::Meeting* taker = folds::takerOf(body, folded->panels, flap);
        if (!taker || body.zones[*glued].meets != laid.id()) // glued to another piece, or to a part of what it was
            continue;
        const geometry::Transform map = folds::laidBehind(flap, *taker);
        const std::string name = folded->panels[flap.panel].name + " on " + folded->panels[taker->panel].name +
                                 (isAlone ? "" : " of " + design::pieceName(work, laid));
        std::vector<geometry::Point> places = placesIn(folded->panels[flap.panel].area);
        places.push_back(flap.fold.from);
        places.push_back(flap.fold.to);
        for (const geometry::Point p : places)
            form.meetings.push_back({name, {laid.id().text(), back(p), 0}, {laid.id().text(), back(map(p)), 0}});
    }
    return base::Done{};
}

/// The model as its joints come.
base::Result<folding::Model> foldedAsFound(const State& state, PieceId piece, const PrintLooks& looks,
                                           const base::Progress& progress) {
    const design::Stack* work = state.made.work();
    const design::Laid* wanted = work ? work->find(piece) : nullptr;
    if (!wanted)
        return Error{Code::NotFound, "That piece is not in the work; choose one that is."};
    const Source* source = findSource(state.job, piece.source());
    std::vector<folding::Card> cards;
    if (const auto* construction = asA<Construction>(source)) {
        auto built = construct::built(construction->given, progress);
        if (!built)
            return built.error();
        const auto& order = built->form.order;
        const auto pieceOf = [&](const std::string& key) {
            return PieceId::found(source->id, folding::pieceKey(key));
        };
        const bool isIn = std::any_of(order.begin(), order.end(),
                                      [&](const std::string& key) { return pieceOf(key) == piece; });
        if (isIn) {
            for (const std::string& key : order)
                if (const design::Laid* laid = work->find(pieceOf(key)))
                    cards.push_back(cardOf(*work, *laid, key, looks));
            return folding::modelOf(std::move(cards), std::move(built->form), progress);
        }
    }
    const std::vector<Glued> joints = gluedIn(*work);
    design::FoldedForm form;
    size_t folds = 0;
    const std::vector<const design::Laid*> together = gluedTo(*wanted, joints);
    for (const design::Laid* laid : together) {
        folds += foldsOn(*laid->piece.body);
        form.order.push_back(laid->id().text());
        cards.push_back(cardOf(*work, *laid, form.order.back(), looks));
        if (auto ok = meetBehindEdges(*work, *laid, together.size() == 1, form, progress); !ok)
            return ok.error();
    }
    if (folds == 0)
        return Error{Code::InvalidArgument,
                     "There are no folds on " + design::pieceName(*work, *wanted) + "; it stays flat."};
    for (const Glued& joint : joints)
        if (std::find(form.order.begin(), form.order.end(), joint.below->id().text()) != form.order.end())
            meetThere(*work, joint, form);
    if (form.meetings.empty())
        form = {};
    return folding::modelOf(std::move(cards), std::move(form), progress);
}

} // namespace

base::Result<folding::Model> foldedOf(const State& state, PieceId piece, const PrintLooks& looks,
                                      const base::Progress& progress) {
    auto model = foldedAsFound(state, piece, looks, progress);
    const Source* source = findSource(state.job, piece.source());
    if (!model || !source || source->joints.empty())
        return model;
    folding::Model ordered = model.take();
    folding::foldInOrder(ordered, source->joints);
    return ordered;
}

base::Result<Job> withJointOrder(const Job& job, SourceId source, std::vector<std::string> joints) {
    const Source* known = findSource(job, source);
    if (!known)
        return Error{Code::NotFound, "What is folded is not in the job any more."};
    if (joints.size() > kMostJoints)
        return Error{Code::LimitExceeded, "The order of more than " + std::to_string(kMostJoints) + " joints is not kept."};
    Source changed = *known;
    changed.joints = std::move(joints);
    return withSource(job, std::move(changed));
}

PieceId foldable(const State& state, std::optional<SourceId> of) {
    const design::Stack* work = state.made.work();
    PieceId best;
    size_t most = 0;
    if (work)
        for (const design::Laid& laid : work->pieces) {
            const size_t folds = of && laid.id().source() != *of ? 0 : foldsOn(*laid.piece.body);
            if (folds > most) {
                most = folds;
                best = laid.id();
            }
        }
    return best;
}

} // namespace thinline::job
