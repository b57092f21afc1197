// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folding/Pose.h"

#include <cmath>
#include <limits>

namespace thinline::folding {
namespace {

/// Somebody who looks straight away from a card.
struct Gaze {
    Vec from, along;
};
struct Seen {
    const Sheet* sheet = nullptr;
    double awayMm = std::numeric_limits<double>::infinity();
};

/// How far off a gaze meets a leaf; infinite where it passes it by.
double meets(const Gaze& gaze, const Leaf& leaf, const Stand& stand) {
    const Vec from = stand.seen(gaze.from),
              along{dot(gaze.along, stand.right), dot(gaze.along, stand.down), dot(gaze.along, stand.out)};
    constexpr double kLevel = 1e-9;
    const double away = std::abs(along.z) < kLevel ? -1 : -from.z / along.z;
    const geometry::Point at{from.x + along.x * away, from.y + along.y * away};
    return away > 0 && geometry::contains(leaf.rings, at) ? away : std::numeric_limits<double>::infinity();
}

Seen firstMet(const Model& model, const Posed& finished, const Gaze& gaze) {
    Seen out;
    for (size_t i = 0; i < model.sheets.size(); ++i)
        for (size_t k = 0; model.isPlaced[i] && k < model.sheets[i].leaves.size(); ++k)
            if (const double away = meets(gaze, model.sheets[i].leaves[k], finished.leaves[i][k]);
                away < out.awayMm)
                out = {&model.sheets[i], away};
    return out;
}

} // namespace

std::string Inside::sentence(base::LengthUnit unit) const {
    using Kind = design::Face::Kind;
    const char* printed = what == Kind::Text                                   ? "text"
                          : what == Kind::SquareCode || what == Kind::LineCode ? "code"
                                                                               : "print";
    return std::string("the ") + printed + " on " + card +
           (card == against ? " faces another panel of it, " : " faces " + against + ", ") +
           base::formatLength(awayMm, unit) + " off, once all is folded";
}

std::vector<Inside> printsInside(const Model& model, const Posed& finished) {
    std::vector<Inside> out;
    for (size_t i = 0; i < model.sheets.size(); ++i) {
        const Sheet& sheet = model.sheets[i];
        for (const design::Face& face : sheet.card.body->faces) {
            const bool isAllOver =
                face.kind == design::Face::Kind::Colour || face.kind == design::Face::Kind::Gradient;
            if (!model.isPlaced[i] || (isAllOver && !face.panel))
                continue;
            const geometry::Point middle = isAllOver ? *face.panel : face.place({0.5, 0.5});
            const size_t leaf = sheet.leafAt(middle);
            const Stand& stand = finished.leaves[i][leaf];
            const double outwards = face.side == design::Side::Front ? 1 : -1;
            constexpr double kClearMm = 0.05; // of its own card
            const Gaze gaze{stand.at(middle, outwards * (sheet.card.thicknessMm / 2 + kClearMm)),
                            stand.out * outwards};
            if (const Seen seen = firstMet(model, finished, gaze); seen.sheet)
                out.push_back({sheet.card.name, face.kind, seen.sheet->card.name, seen.awayMm});
        }
    }
    return out;
}

} // namespace thinline::folding
