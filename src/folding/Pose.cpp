// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How folded cards stand, and whether what was drawn closes.
//
// Panels between folds are rigid, and their folds make a tree, so a flat card needs no solver: each panel stands where its
// parent stands, after a turn about the fold between both. A fold that joins two panels which both stand already closes a ring;
// it turns nothing, and how far its two ends lie apart on both sides is how well the ring closes.
//
// Several cards are put together where their meetings say. The first stays; every other one is laid so that its own places come
// as near as they can to those they meet, in the sense of least squares: a rigid motion in closed form by quaternions. What is
// left between them is the honest error of the drawing, for nothing here knows how the cards were computed.
//
// Cards have a thickness. Panels turn about the middle of the card, and places that meet are given with their height above it,
// half a card to either side.
#include "folding/Pose.h"

#include "geometry/PolygonEngine.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

namespace thinline::folding {
namespace {

using geometry::Point;

Vec flat(Point p) {
    return {p.x, p.y, 0};
}

/// How a child stands in its parent's own directions, turned about their fold.
Stand beyond(const Hinge& hinge, double rad) {
    const Vec along =
        flat(hinge.to - hinge.from) * (1 / std::max(1e-12, geometry::distance(hinge.from, hinge.to)));
    const Vec n{along.y, -along.x, 0}; // to the child
    const double c = std::cos(rad), s = std::sin(rad);
    const Vec goes = n * c + Vec{0, 0, -s}, out = n * s + Vec{0, 0, c};
    const auto turned = [&](Vec own) { return along * dot(own, along) + goes * dot(own, n) + out * own.z; };
    Stand stand{turned({1, 0, 0}), turned({0, 1, 0}), turned({0, 0, 1}), {}};
    stand.origin = flat(hinge.from) - stand.turned(flat(hinge.from));
    return stand;
}

double smooth(double x) {
    x = std::clamp(x, 0.0, 1.0);
    return x * x * (3 - 2 * x);
}

/// The leaves of a card in the directions of its root; `folded` counts stages.
std::vector<Stand> leavesAt(const Sheet& sheet, double folded) {
    std::vector<Stand> out(sheet.leaves.size());
    for (const Hinge& hinge : sheet.hinges)
        out[hinge.child] =
            out[hinge.parent].then(beyond(hinge, hinge.awayRad * smooth(folded - hinge.stage)));
    return out;
}

/// A pair of places that should be one.
struct Pair {
    Vec own, there;
};

/// The largest eigenvalue's vector of a symmetric matrix, by Jacobi's turns.
std::array<double, 4> principal(std::array<std::array<double, 4>, 4> m) {
    std::array<std::array<double, 4>, 4> v{};
    for (size_t i = 0; i < 4; ++i)
        v[i][i] = 1;
    constexpr int kSweeps = 60;
    for (int sweep = 0; sweep < kSweeps; ++sweep)
        for (size_t p = 0; p < 4; ++p)
            for (size_t q = p + 1; q < 4; ++q) {
                if (std::abs(m[p][q]) < 1e-300)
                    continue;
                const double theta = (m[q][q] - m[p][p]) / (2 * m[p][q]);
                const double t = (theta >= 0 ? 1 : -1) / (std::abs(theta) + std::sqrt(theta * theta + 1));
                const double c = 1 / std::sqrt(t * t + 1), s = t * c;
                for (size_t k = 0; k < 4; ++k) {
                    const double a = m[k][p], b = m[k][q];
                    m[k][p] = c * a - s * b;
                    m[k][q] = s * a + c * b;
                }
                for (size_t k = 0; k < 4; ++k) {
                    const double a = m[p][k], b = m[q][k];
                    m[p][k] = c * a - s * b;
                    m[q][k] = s * a + c * b;
                    const double e = v[k][p], f = v[k][q];
                    v[k][p] = c * e - s * f;
                    v[k][q] = s * e + c * f;
                }
            }
    size_t best = 0;
    for (size_t i = 1; i < 4; ++i)
        if (m[i][i] > m[best][best])
            best = i;
    return {v[0][best], v[1][best], v[2][best], v[3][best]};
}

/// The rigid motion that brings a card's own places nearest to those they meet.
Stand nearest(const std::vector<Pair>& pairs) {
    Vec own, there;
    for (const Pair& pair : pairs) {
        own = own + pair.own * (1.0 / static_cast<double>(pairs.size()));
        there = there + pair.there * (1.0 / static_cast<double>(pairs.size()));
    }
    double s[3][3] = {};
    for (const Pair& pair : pairs) {
        const Vec a = pair.own - own, b = pair.there - there;
        const double from[3] = {a.x, a.y, a.z}, to[3] = {b.x, b.y, b.z};
        for (size_t i = 0; i < 3; ++i)
            for (size_t j = 0; j < 3; ++j)
                s[i][j] += from[i] * to[j];
    }
    const auto [w, x, y, z] =
        principal({{{s[0][0] + s[1][1] + s[2][2], s[1][2] - s[2][1], s[2][0] - s[0][2], s[0][1] - s[1][0]},
                    {s[1][2] - s[2][1], s[0][0] - s[1][1] - s[2][2], s[0][1] + s[1][0], s[2][0] + s[0][2]},
                    {s[2][0] - s[0][2], s[0][1] + s[1][0], s[1][1] - s[0][0] - s[2][2], s[1][2] + s[2][1]},
                    {s[0][1] - s[1][0], s[2][0] + s[0][2], s[1][2] + s[2][1], s[2][2] - s[0][0] - s[1][1]}}});
    Stand out;
    out.right = {w * w + x * x - y * y - z * z, 2 * (x * y + w * z), 2 * (x * z - w * y)};
    out.down = {2 * (x * y - w * z), w * w - x * x + y * y - z * z, 2 * (y * z + w * x)};
    out.out = {2 * (x * z + w * y), 2 * (y * z - w * x), w * w - x * x - y * y + z * z};
    out.origin = there - out.turned(own);
    return out;
}

/// The spots of a form, found once.
struct Found {
    size_t sheet = 0, leaf = 0;
    const design::Spot* spot = nullptr;
    Vec at(const Posed& pose) const { return pose.leaves[sheet][leaf].at(spot->at, spot->outMm); }
};
std::optional<Found> find(const Model& model, const design::Spot& spot) {
    for (size_t i = 0; i < model.sheets.size(); ++i)
        if (model.sheets[i].card.key == spot.piece)
            return Found{i, model.sheets[i].leafAt(spot.at), &spot};
    return std::nullopt;
}
struct FoundMeeting {
    const design::Meeting* meeting;
    Found a, b;
};
std::vector<FoundMeeting> meetingsOf(const Model& model) {
    std::vector<FoundMeeting> out;
    for (const design::Meeting& meeting : model.form.meetings) {
        const auto a = find(model, meeting.a), b = find(model, meeting.b);
        if (a && b)
            out.push_back({&meeting, *a, *b});
    }
    return out;
}

void moveAll(std::vector<Stand>& leaves, const Stand& by) {
    for (Stand& leaf : leaves)
        leaf = by.then(leaf);
}

/// Everything done: leaves where they belong.
Posed finishedPose(const Model& model, std::vector<Stand>& motions) {
    Posed out;
    motions.assign(model.sheets.size(), Stand{});
    for (const Sheet& sheet : model.sheets)
        out.leaves.push_back(leavesAt(sheet, model.stages));
    out.isPlaced.assign(model.sheets.size(), false);
    const std::vector<FoundMeeting> meetings = meetingsOf(model);
    double beside = 0;
    for (size_t i = 0; i < model.sheets.size(); ++i) {
        std::vector<Pair> pairs;
        for (const FoundMeeting& one : meetings) {
            if (one.a.sheet == i && one.b.sheet < i && out.isPlaced[one.b.sheet])
                pairs.push_back({one.a.at(out), one.b.at(out)});
            if (one.b.sheet == i && one.a.sheet < i && out.isPlaced[one.a.sheet])
                pairs.push_back({one.b.at(out), one.a.at(out)});
        }
        constexpr size_t kLeastPairs = 3;
        if (i == 0) {
            out.isPlaced[i] = true;
        } else if (pairs.size() >= kLeastPairs) {
            motions[i] = nearest(pairs);
            moveAll(out.leaves[i], motions[i]);
            out.isPlaced[i] = true;
        } else { // beside the others, in a row
            const geometry::Box box = geometry::bounds(model.sheets[i].card.body->shape);
            motions[i].origin = {beside - box.least.x, -box.least.y, 0};
            moveAll(out.leaves[i], motions[i]);
        }
        for (size_t leaf = 0; leaf < out.leaves[i].size(); ++leaf)
            for (const geometry::Polygon& ring : model.sheets[i].leaves[leaf].rings)
                for (const Point p : ring)
                    beside = std::max(beside, out.leaves[i][leaf].at(p).x + 10);
    }
    return out;
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
    std::vector<Stand> motions;
    Posed out = finishedPose(model, motions);
    if (done >= 1 || model.sheets.empty())
        return out;
    // Cards fold first and come together then; those that have to wait stand apart, in the direction in which they leave.
    const bool isAlone = model.sheets.size() == 1;
    const double folds = isAlone ? 1 : 0.65, folded = done / folds * model.stages,
                 apart = 1 - smooth((done - folds) / (1 - folds + 1e-12));
    const Vec first = middleOf(model.sheets[0], out.leaves[0]);
    double reach = 0;
    for (size_t i = 0; i < model.sheets.size(); ++i) {
        Vec away = middleOf(model.sheets[i], out.leaves[i]) - first;
        const double far = length(away);
        away = far > 1e-6 ? away * (1 / far) : Vec{0, -1, 0};
        out.leaves[i] = leavesAt(model.sheets[i], folded);
        Stand motion = motions[i];
        if (i > 0 && out.isPlaced[i]) {
            reach += reachOf(model.sheets[i]) * 0.35;
            motion.origin = motion.origin + away * (apart * reach);
        }
        moveAll(out.leaves[i], motion);
    }
    return out;
}

std::vector<Closing> closingsOf(const Model& model, const Posed& finished) {
    std::map<std::string, Closing> byName;
    const auto take = [&](const std::string& name, Vec a, Vec b, const std::string& keyA,
                          const std::string& keyB) {
        const double gap = length(a - b);
        const auto [at, isNew] = byName.try_emplace(name, Closing{name, gap, a, keyA, keyB});
        if (!isNew && gap > at->second.gapMm)
            at->second = {name, gap, a, keyA, keyB};
    };
    for (const FoundMeeting& one : meetingsOf(model))
        if (finished.isPlaced[one.a.sheet] && finished.isPlaced[one.b.sheet])
            take(one.meeting->name, one.a.at(finished), one.b.at(finished), one.meeting->a.piece,
                 one.meeting->b.piece);
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
        if (!finished.isPlaced[i])
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
    for (const FoundMeeting& one : meetingsOf(model))
        allow({one.a.sheet, one.a.leaf}, {one.b.sheet, one.b.leaf});
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
