// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folding/Model.h"

#include "design/Leaves.h"
#include "folding/Place.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <numbers>

namespace thinline::folding {
namespace {

using geometry::Point;

constexpr double kFlatMm = 0.01;

/// Folds and bends of a card as lines, and how far each turns.
struct Lines {
    std::vector<geometry::Line> paths;
    std::vector<double> awayRad;
    std::vector<bool> isBend, gives, isCrease;
};
Lines linesOf(const Card& card, const design::FoldedForm& form) {
    Lines out;
    const auto take = [&](const geometry::Line& path, double angleDeg, bool isTowards, bool isBend,
                          bool gives, bool isCrease) {
        out.paths.push_back(path);
        out.isCrease.push_back(isCrease);
        out.awayRad.push_back((isTowards ? -1 : 1) * angleDeg * std::numbers::pi / 180);
        out.isBend.push_back(isBend);
        out.gives.push_back(gives);
    };
    const auto bends = form.bends.find(card.key);
    const auto isInFacets = [&](const geometry::Line& path) {
        return bends != form.bends.end() &&
               std::any_of(path.segments.begin(), path.segments.end(), [](const auto& step) { return !step.isLine; });
    };
    for (const design::PieceLine& line : card.body->lines)
        if (const auto* fold = std::get_if<design::Fold>(&line.does); fold && !isInFacets(line.path))
            take(line.path, fold->angleDeg, fold->isTowards, false, false, false);
    if (bends != form.bends.end())
        for (const design::Bend& bend : bends->second)
            take(bend.path, bend.angleDeg, bend.isTowards, !bend.isCrease, bend.gives, bend.isCrease);
    return out;
}

size_t rootOf(const Sheet& sheet) {
    for (const design::Panel& panel : sheet.card.body->panels)
        if (panel.isFront)
            return sheet.leafAt(panel.inside);
    size_t largest = 0;
    for (size_t i = 0; i < sheet.leaves.size(); ++i)
        if (geometry::area(sheet.leaves[i].area) > geometry::area(sheet.leaves[largest].area) * 1.0001)
            largest = i;
    return largest;
}

/// Hangs every leaf on the one it is reached from; breadth first, so that no chain is longer than it must be.
void hang(Sheet& sheet, const std::vector<design::Leaves::Hinge>& found, const Lines& lines) {
    sheet.root = rootOf(sheet);
    std::vector<std::vector<size_t>> at(sheet.leaves.size()); // hinges of a leaf
    for (size_t i = 0; i < found.size(); ++i) {
        if (lines.gives[found[i].line])
            continue;
        at[found[i].a].push_back(i);
        at[found[i].b].push_back(i);
    }
    std::vector<bool> isHung(sheet.leaves.size(), false), isWalked(found.size(), false);
    // What lies beyond a curved fold hangs on it facet by facet, not one facet on another: so it waits until all before it hangs.
    std::vector<size_t> next{sheet.root}, beyond;
    isHung[sheet.root] = true;
    for (size_t i = 0; i < next.size(); ++i) {
        for (const size_t h : at[next[i]]) {
            if (isWalked[h])
                continue;
            isWalked[h] = true;
            const design::Leaves::Hinge& hinge = found[h];
            const size_t here = next[i], there = hinge.a == here ? hinge.b : hinge.a;
            // It runs with its parent on its right.
            Hinge made{here, there, hinge.from, hinge.to, lines.awayRad[hinge.line], lines.isBend[hinge.line], lines.isCrease[hinge.line],
                       0};
            if (hinge.a != here)
                std::swap(made.from, made.to);
            if (!hinge.isStraight) {
                made.awayRad = 0;
                sheet.said = "Curved folds bend both panels beside them; they are shown flat.";
            }
            if (isHung[there]) {
                sheet.rings.push_back(made);
                continue;
            }
            isHung[there] = true;
            sheet.hinges.push_back(made);
            (made.isCrease ? beyond : next).push_back(there);
        }
        if (i + 1 == next.size()) {
            next.insert(next.end(), beyond.begin(), beyond.end());
            beyond.clear();
        }
    }
}

/// The hinges on the way between two leaves of a card, which their joint closes.
std::vector<size_t> between(const Sheet& sheet, size_t a, size_t b) {
    std::vector<size_t> up(sheet.leaves.size(), SIZE_MAX); // the hinge a leaf hangs on
    for (size_t i = 0; i < sheet.hinges.size(); ++i)
        up[sheet.hinges[i].child] = i;
    const auto toRoot = [&](size_t leaf) {
        std::vector<size_t> way;
        for (; up[leaf] != SIZE_MAX; leaf = sheet.hinges[up[leaf]].parent)
            way.push_back(up[leaf]);
        return way;
    };
    std::vector<size_t> one = toRoot(a), other = toRoot(b);
    while (!one.empty() && !other.empty() && one.back() == other.back()) {
        one.pop_back();
        other.pop_back();
    }
    one.insert(one.end(), other.begin(), other.end());
    return one;
}

/// Rolls and curved folds turn in one, not one after the other.
bool turnsAtOnce(const Hinge& hinge) {
    return hinge.isBend || hinge.isCrease;
}

/// In which order a card is folded. Its joints come in the order of the form, each with the folds between what it joins; the
/// folds of no joint follow the first one: flaps, which the last lids close off. Within a group laps and flaps turn first, then
/// what they hang on. A card is rolled in one.
int stage(Sheet& sheet, const design::FoldedForm& form) {
    constexpr int kOfNoJoint = 1;
    std::vector<int> group(sheet.hinges.size(), kOfNoJoint);
    std::vector<std::string> names;
    for (const design::Meeting& meeting : form.meetings) {
        if (meeting.a.piece != sheet.card.key || meeting.b.piece != sheet.card.key)
            continue;
        if (std::find(names.begin(), names.end(), meeting.name) == names.end())
            names.push_back(meeting.name);
        const auto at = static_cast<int>(std::find(names.begin(), names.end(), meeting.name) - names.begin());
        for (const size_t hinge : between(sheet, sheet.leafAt(meeting.a.at), sheet.leafAt(meeting.b.at)))
            if (group[hinge] == kOfNoJoint)
                group[hinge] = at == 0 ? 0 : kOfNoJoint + at;
    }
    // Curved folds and the panels they bend go together, last of all.
    if (std::any_of(sheet.hinges.begin(), sheet.hinges.end(), [](const Hinge& hinge) { return hinge.isCrease; }))
        for (size_t i = 0; i < group.size(); ++i)
            if (turnsAtOnce(sheet.hinges[i]))
                group[i] = kOfNoJoint + static_cast<int>(names.size());
    int stages = 0;
    for (int now = 0; now <= kOfNoJoint + static_cast<int>(names.size()); ++now) {
        std::vector<int> below(sheet.leaves.size(), 0); // stages that what hangs on a leaf needs
        int most = 0;
        bool isRolled = false;
        for (size_t i = sheet.hinges.size(); i-- > 0;) {
            Hinge& hinge = sheet.hinges[i];
            const bool isOurs = group[i] == now;
            if (isOurs)
                hinge.stage = stages + below[hinge.child];
            isRolled = isRolled || (isOurs && turnsAtOnce(hinge));
            below[hinge.parent] =
                std::max(below[hinge.parent], below[hinge.child] + (isOurs && !turnsAtOnce(hinge) ? 1 : 0));
            most = std::max(most, below[hinge.parent]);
        }
        for (size_t i = 0; i < sheet.hinges.size(); ++i)
            if (turnsAtOnce(sheet.hinges[i]) && group[i] == now)
                sheet.hinges[i].stage = stages + most;
        stages += most + (isRolled ? 1 : 0);
    }
    return stages;
}

/// Which borders of the leaves are drawn.
void findEdges(Sheet& sheet) {
    std::vector<std::vector<const Hinge*>> bends(sheet.leaves.size());
    for (const std::vector<Hinge>* hinges : {&sheet.hinges, &sheet.rings})
        for (const Hinge& hinge : *hinges)
            if (hinge.isBend) {
                bends[hinge.parent].push_back(&hinge);
                bends[hinge.child].push_back(&hinge);
            }
    constexpr double kOnBendMm = 0.001;
    for (size_t i = 0; i < sheet.leaves.size(); ++i)
        for (const geometry::Polygon& ring : sheet.leaves[i].rings)
            for (size_t k = 0; k < ring.size(); ++k) {
                const Point from = ring[k], to = ring[(k + 1) % ring.size()],
                            middle = geometry::middle(from, to);
                if (std::none_of(bends[i].begin(), bends[i].end(), [&](const Hinge* bend) {
                        const Point along = bend->to - bend->from;
                        return std::abs(geometry::cross(along, middle - bend->from)) <
                               kOnBendMm * geometry::length(along);
                    }))
                    sheet.leaves[i].edges.emplace_back(from, to);
            }
}

base::Result<Sheet> sheetOf(Card card, const design::FoldedForm& form, const base::Progress& progress) {
    const Lines lines = linesOf(card, form);
    auto parted = design::leavesOf(card.body->shape, lines.paths, progress);
    if (!parted)
        return parted.error();
    if (parted->areas.size() > kMostLeaves)
        return base::Error{base::Code::LimitExceeded, card.name + " has more than " +
                                                          std::to_string(kMostLeaves) +
                                                          " panels; it is not folded."};
    Sheet sheet;
    sheet.card = std::move(card);
    for (const geometry::Shape& area : parted->areas) {
        Leaf leaf{area, geometry::flatten(area, kFlatMm), {}, {}};
        auto triangles = geometry::triangulated(leaf.rings, {}, progress);
        if (!triangles)
            return triangles.error();
        leaf.triangles = triangles.take();
        sheet.leaves.push_back(std::move(leaf));
    }
    hang(sheet, parted->hinges, lines);
    findEdges(sheet);
    return sheet;
}

} // namespace

size_t Sheet::leafAt(Point p) const {
    size_t nearest = 0;
    double least = INFINITY;
    for (size_t i = 0; i < leaves.size(); ++i) {
        if (geometry::bounds(leaves[i].rings).contains(p) && geometry::contains(leaves[i].rings, p))
            return i;
        if (const auto edge = geometry::nearestOnEdge(leaves[i].area, p, least)) {
            least = edge->distance;
            nearest = i;
        }
    }
    return nearest;
}

std::string pieceKey(const std::string& cardKey) {
    return cardKey.substr(0, cardKey.find(':'));
}

base::Result<Model> modelOf(std::vector<Card> cards, design::FoldedForm form,
                            const base::Progress& progress) {
    Model out;
    const auto placeOf = [&](const Card& card) {
        return std::find(form.order.begin(), form.order.end(), card.key) - form.order.begin();
    };
    std::stable_sort(cards.begin(), cards.end(),
                     [&](const Card& a, const Card& b) { return placeOf(a) < placeOf(b); });
    for (Card& card : cards) {
        if (progress.isCancelled())
            return base::cancelled();
        auto sheet = sheetOf(std::move(card), form, progress);
        if (!sheet)
            return sheet.error();
        out.sheets.push_back(sheet.take());
        out.stages = std::max(out.stages, stage(out.sheets.back(), form));
    }
    out.form = std::move(form);
    putTogether(out);
    return out;
}

std::vector<std::string> jointsOf(const Model& model) {
    std::vector<std::string> out;
    for (const design::Meeting& meeting : model.form.meetings)
        if (meeting.a.piece == meeting.b.piece && std::find(out.begin(), out.end(), meeting.name) == out.end())
            out.push_back(meeting.name);
    return out;
}

void foldInOrder(Model& model, const std::vector<std::string>& joints) {
    const auto placeOf = [&](const design::Meeting& meeting) {
        return std::find(joints.begin(), joints.end(), meeting.name) - joints.begin();
    };
    std::stable_sort(model.form.meetings.begin(), model.form.meetings.end(),
                     [&](const auto& a, const auto& b) { return placeOf(a) < placeOf(b); });
    model.stages = 1;
    for (Sheet& sheet : model.sheets)
        model.stages = std::max(model.stages, stage(sheet, model.form));
}

} // namespace thinline::folding
