// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How several cards are put together, where their meetings say. The first stays; every other one is laid so that its own places
// come as near as they can to those they meet, in the sense of least squares: a rigid motion in closed form by quaternions (Horn
// 1987). What is left between them is the honest error of the drawing, for nothing here knows how the cards were computed.
//
// It is found once for a model: the same whatever is looked at, and from where.
#include "folding/Place.h"

#include "geometry/Measures.h"

#include <algorithm>
#include <array>

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

} // namespace

std::vector<Stand> leavesAt(const Sheet& sheet, double folded) {
    std::vector<Stand> out(sheet.leaves.size());
    for (const Hinge& hinge : sheet.hinges)
        out[hinge.child] =
            out[hinge.parent].then(beyond(hinge, hinge.awayRad * smooth(folded - hinge.stage)));
    return out;
}

namespace {

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

std::optional<Place> placeOf(const Model& model, const design::Spot& spot) {
    for (size_t i = 0; i < model.sheets.size(); ++i)
        if (model.sheets[i].card.key == spot.piece)
            return Place{i, model.sheets[i].leafAt(spot.at), spot.at, spot.outMm};
    return std::nullopt;
}

} // namespace

void putTogether(Model& model) {
    for (const design::Meeting& meeting : model.form.meetings) {
        const auto a = placeOf(model, meeting.a), b = placeOf(model, meeting.b);
        if (a && b)
            model.joints.push_back({meeting.name, *a, *b});
    }
    model.stands.assign(model.sheets.size(), Stand{});
    model.isPlaced.assign(model.sheets.size(), false);
    std::vector<std::vector<Stand>> leaves; // done
    double beside = 0;
    for (size_t i = 0; i < model.sheets.size(); ++i) {
        leaves.push_back(leavesAt(model.sheets[i], model.stages));
        const auto at = [&](const Place& place) {
            return leaves[place.sheet][place.leaf].at(place.at, place.outMm);
        };
        std::vector<Pair> pairs;
        for (const Joint& joint : model.joints) {
            if (joint.a.sheet == i && joint.b.sheet < i && model.isPlaced[joint.b.sheet])
                pairs.push_back({at(joint.a), at(joint.b)});
            if (joint.b.sheet == i && joint.a.sheet < i && model.isPlaced[joint.a.sheet])
                pairs.push_back({at(joint.b), at(joint.a)});
        }
        constexpr size_t kLeastPairs = 3;
        model.isPlaced[i] = i == 0 || pairs.size() >= kLeastPairs;
        if (i > 0 && model.isPlaced[i]) {
            model.stands[i] = nearest(pairs);
        } else if (i > 0) { // beside the others, in a row
            const geometry::Box box = geometry::bounds(model.sheets[i].card.body->shape);
            model.stands[i].origin = {beside - box.least.x, -box.least.y, 0};
        }
        for (size_t leaf = 0; leaf < leaves[i].size(); ++leaf) {
            leaves[i][leaf] = model.stands[i].then(leaves[i][leaf]);
            for (const geometry::Polygon& ring : model.sheets[i].leaves[leaf].rings)
                for (const Point p : ring)
                    beside = std::max(beside, leaves[i][leaf].at(p).x + 10);
        }
    }
}

} // namespace thinline::folding
