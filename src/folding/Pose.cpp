// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How folded cards stand, and whether what was drawn closes.
//
// Panels between folds are rigid, and their folds make a tree, so a flat card needs no solver: each panel stands where its
// parent stands, after a turn about the fold between both. A fold that joins two panels which both stand already closes a ring;
// it turns nothing, and how far its two ends lie apart on both sides is how well the ring closes.
//
// Where the cards of a work stand beside one another is found once (Place.cpp).
//
// Cards have a thickness. Panels turn about the middle of the card, and places that meet are given with their height above it,
// half a card to either side.
#include "folding/Pose.h"

#include "folding/Place.h"
#include "geometry/PolygonEngine.h"

#include <algorithm>
#include <map>
#include <set>

namespace thinline::folding {
namespace {

using geometry::Point;

double smooth(double x) {
    x = std::clamp(x, 0.0, 1.0);
    return x * x * (3 - 2 * x);
}

Vec at(const Place& place, const Posed& pose) {
    return pose.leaves[place.sheet][place.leaf].at(place.at, place.outMm);
}

Vec middleOf(const Sheet& sheet, const std::vector<Stand>& leaves) {
    Vec sum;
    double count = 0;
    for (size_t leaf = 0; leaf < leaves.size(); ++leaf)
        for (const Point p : sheet.leaves[leaf].rings.front()) {
            sum = sum + leaves[leaf].at(p);
            ++count;
        }
    return sum * (1 / std::max(1.0, count));
}

double reachOf(const Sheet& sheet) {
    const geometry::Box box = geometry::bounds(sheet.card.body->shape);
    return std::hypot(box.width(), box.height());
}

} // namespace

Posed posed(const Model& model, double done) {
    Posed out;
    // Cards fold first and come together then; those that have to wait stand apart, in the direction in which they leave.
    const bool isAlone = model.sheets.size() == 1;
    const double folds = isAlone ? 1 : 0.65, folded = done >= 1 ? model.stages : done / folds * model.stages,
                 apart = isAlone ? 0 : 1 - smooth((done - folds) / (1 - folds));
    double reach = 0;
    Vec first;
    for (size_t i = 0; i < model.sheets.size(); ++i) {
        const Sheet& sheet = model.sheets[i];
        Stand stand = model.stands[i];
        if (apart > 0) {
            std::vector<Stand> finished = leavesAt(sheet, model.stages);
            for (Stand& leaf : finished)
                leaf = stand.then(leaf);
            const Vec middle = middleOf(sheet, finished);
            first = i == 0 ? middle : first;
            const double far = length(middle - first);
            const Vec away = far > 1e-6 ? (middle - first) * (1 / far) : Vec{0, -1, 0};
            if (i > 0 && model.isPlaced[i]) {
                reach += reachOf(sheet) * 0.35;
                stand.origin = stand.origin + away * (apart * reach);
            }
        }
        out.leaves.push_back(leavesAt(sheet, folded));
        for (Stand& leaf : out.leaves.back())
            leaf = stand.then(leaf);
    }
    return out;
}

std::vector<Closing> closingsOf(const Model& model, const Posed& finished) {
    std::map<std::string, Closing> byName;
    const auto take = [&](const std::string& name, Vec a, Vec b, const std::string& keyA,
                          const std::string& keyB) {
        const double gap = length(a - b);
        const auto [known, isNew] = byName.try_emplace(name, Closing{name, gap, a, keyA, keyB});
        if (!isNew && gap > known->second.gapMm)
            known->second = {name, gap, a, keyA, keyB};
    };
    const auto keyOf = [&](const Place& place) { return model.sheets[place.sheet].card.key; };
    for (const Joint& joint : model.joints)
        if (model.isPlaced[joint.a.sheet] && model.isPlaced[joint.b.sheet])
            take(joint.name, at(joint.a, finished), at(joint.b, finished), keyOf(joint.a), keyOf(joint.b));
    for (size_t i = 0; i < model.sheets.size(); ++i)
        for (const Hinge& ring : model.sheets[i].rings)
            for (const Point p : {ring.from, ring.to})
                take("the folds of " + model.sheets[i].card.name, finished.leaves[i][ring.parent].at(p),
                     finished.leaves[i][ring.child].at(p), model.sheets[i].card.key,
                     model.sheets[i].card.key);
    std::vector<Closing> out;
    for (auto& [name, closing] : byName)
        out.push_back(std::move(closing));
    std::stable_sort(out.begin(), out.end(),
                     [](const Closing& a, const Closing& b) { return a.gapMm > b.gapMm; });
    return out;
}

namespace {

/// A leaf in space, its edges taken back.
struct Solid {
    size_t sheet, leaf;
    geometry::Polygons rings;
    Stand stand;
    Vec least{INFINITY, INFINITY, INFINITY}, most{-INFINITY, -INFINITY, -INFINITY};
};

/// Where an edge of one passes through the other.
std::optional<Vec> passesThrough(const Solid& a, const Solid& b) {
    constexpr double kThroughMm = 0.05;
    for (const geometry::Polygon& ring : a.rings)
        for (size_t i = 0; i < ring.size(); ++i) {
            const Vec from = a.stand.at(ring[i]), to = a.stand.at(ring[(i + 1) % ring.size()]);
            const Vec p = b.stand.seen(from), q = b.stand.seen(to);
            if ((p.z > 0) == (q.z > 0) || std::min(std::abs(p.z), std::abs(q.z)) < kThroughMm)
                continue;
            const double share = p.z / (p.z - q.z);
            const Vec meets = p + (q - p) * share;
            if (geometry::contains(b.rings, {meets.x, meets.y}))
                return b.stand.at({meets.x, meets.y});
        }
    return std::nullopt;
}

std::vector<Solid> solidsOf(const Model& model, const Posed& finished) {
    std::vector<Solid> out;
    for (size_t i = 0; i < model.sheets.size(); ++i) {
        if (!model.isPlaced[i])
            continue;
        for (size_t leaf = 0; leaf < model.sheets[i].leaves.size(); ++leaf) {
            auto rings = geometry::grown(model.sheets[i].leaves[leaf].rings,
                                         -(model.sheets[i].card.thicknessMm + kTouchMm), 0.05);
            if (!rings || rings->empty())
                continue;
            Solid solid{i, leaf, rings.take(), finished.leaves[i][leaf]};
            for (const geometry::Polygon& ring : solid.rings)
                for (const Point p : ring) {
                    const Vec at = solid.stand.at(p);
                    solid.least = {std::min(solid.least.x, at.x), std::min(solid.least.y, at.y),
                                   std::min(solid.least.z, at.z)};
                    solid.most = {std::max(solid.most.x, at.x), std::max(solid.most.y, at.y),
                                  std::max(solid.most.z, at.z)};
                }
            out.push_back(std::move(solid));
        }
    }
    return out;
}

} // namespace

base::Result<std::vector<Clash>> clashesOf(const Model& model, const Posed& finished,
                                           const base::Progress& progress) {
    const std::vector<Solid> solids = solidsOf(model, finished);
    using At = std::pair<size_t, size_t>;
    std::set<std::pair<At, At>> mayTouch;
    const auto allow = [&](At a, At b) { mayTouch.insert({std::min(a, b), std::max(a, b)}); };
    for (size_t i = 0; i < model.sheets.size(); ++i)
        for (const auto* hinges : {&model.sheets[i].hinges, &model.sheets[i].rings})
            for (const Hinge& hinge : *hinges)
                allow({i, hinge.parent}, {i, hinge.child});
    for (const Joint& joint : model.joints)
        allow({joint.a.sheet, joint.a.leaf}, {joint.b.sheet, joint.b.leaf});
    std::vector<Clash> out;
    std::set<std::pair<size_t, size_t>> told;
    for (size_t i = 0; i < solids.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        for (size_t j = i + 1; j < solids.size(); ++j) {
            const Solid &a = solids[i], &b = solids[j];
            if (a.least.x > b.most.x || b.least.x > a.most.x || a.least.y > b.most.y ||
                b.least.y > a.most.y || a.least.z > b.most.z || b.least.z > a.most.z ||
                told.contains({a.sheet, b.sheet}))
                continue;
            const At one{a.sheet, a.leaf}, other{b.sheet, b.leaf};
            if (mayTouch.contains({std::min(one, other), std::max(one, other)}))
                continue;
            auto place = passesThrough(a, b);
            if (!place)
                place = passesThrough(b, a);
            if (!place)
                continue;
            told.insert({a.sheet, b.sheet});
            out.push_back({model.sheets[a.sheet].card.name, model.sheets[b.sheet].card.name, *place});
        }
    }
    return out;
}

double volumeOf(const Model& model, const Posed& finished) {
    double six = 0;
    for (size_t i = 0; i < model.sheets.size(); ++i)
        for (size_t leaf = 0; leaf < model.sheets[i].leaves.size(); ++leaf) {
            geometry::Polygon points;
            for (const geometry::Polygon& ring : model.sheets[i].leaves[leaf].rings)
                points.insert(points.end(), ring.begin(), ring.end());
            for (const auto& triangle : model.sheets[i].leaves[leaf].triangles.triangles) {
                const auto at = [&](size_t k) {
                    return finished.leaves[i][leaf].at(points[static_cast<size_t>(triangle.corner[k])]);
                };
                six += dot(at(0), cross(at(1), at(2)));
            }
        }
    return std::abs(six) / 6;
}

} // namespace thinline::folding
