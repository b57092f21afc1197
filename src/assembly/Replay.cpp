// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "assembly/Instructions.h"

#include <algorithm>
#include <set>

namespace thinline::assembly {
namespace {

using base::Code;
using base::Error;
using design::Laid;
using design::PieceId;

/// What a maker has in her hands after an assembly: pieces by their places from its base.
using Thing = std::vector<Replayed>;

class Following {
  public:
    Following(const Instructions& told, const Work& work) : m_told(told), m_work(work) {}

    base::Result<Thing> run() {
        for (std::size_t i = 0; i < m_told.assemblies.size(); ++i) {
            auto thing = follow(m_told.assemblies[i]);
            if (!thing)
                return thing.error();
            m_things.push_back(thing.take());
        }
        if (m_used.size() != m_work.stack.pieces.size())
            return Error{Code::Degenerate, "The steps use " + std::to_string(m_used.size()) + " of " +
                                               std::to_string(m_work.stack.pieces.size()) + " pieces."};
        if (m_things.size() > 1 && m_taken.size() + 1 != m_things.size())
            return Error{Code::Degenerate, "Something is made that is put nowhere."};
        return m_things.empty() ? Thing{} : std::move(m_things.back());
    }

  private:
    base::Result<Thing> follow(const Assembly& one) {
        Thing thing;
        if (one.base.size() == 1)
            if (auto ok = add(thing, {.piece = one.base.front()}); !ok)
                return ok.error();
        bool isBackUp = false;
        for (const Step& step : one.steps) {
            if (step.act == Act::TurnOver || step.act == Act::Join)
                isBackUp = step.up == design::Side::Back;
            const bool adds = step.act == Act::Glue || step.act == Act::Foam || step.act == Act::Place ||
                              (step.act == Act::Join && !step.pieces.empty());
            for (const Placed& placed : step.pieces) {
                if (!adds)
                    continue;
                if (step.act != Act::Join && step.act != Act::Place && placed.isBehind != isBackUp)
                    return Error{Code::Degenerate, "\"" + step.text + "\": the other side looks up there."};
                if (auto ok = add(thing, placed); !ok)
                    return Error{ok.error().code, "\"" + step.text + "\": " + ok.error().message};
            }
        }
        return thing;
    }

    base::Status add(Thing& thing, const Placed& placed) {
        const Thing* sub = nullptr;
        if (placed.made) {
            if (*placed.made >= m_things.size())
                return Error{Code::Degenerate, "it is not made yet."};
            if (!m_taken.insert(*placed.made).second)
                return Error{Code::Degenerate, "it was used before."};
            sub = &m_things[*placed.made];
        } else if (!m_used.insert(placed.piece).second)
            return Error{Code::Degenerate, "the piece was used before."};
        if (!sub)
            return put(thing, {placed.piece, placed.at, placed.aboveMm});
        for (const Replayed& piece : *sub)
            if (auto ok = put(thing, {piece.piece, piece.at + placed.at, piece.bottomMm + placed.aboveMm});
                !ok)
                return ok;
        return base::Done{};
    }

    /// A face is closed off where what is there already lies further from the base than what is put on now.
    base::Status put(Thing& thing, const Replayed& piece) {
        const Laid& laid = *m_work.stack.find(piece.piece);
        const bool isBack = isBehind(m_work.stack, laid);
        for (const Replayed& there : thing) {
            const Laid& other = *m_work.stack.find(there.piece);
            if (isBehind(m_work.stack, other) != isBack)
                continue;
            const bool isFurther = isBack ? topOf(there) <= piece.bottomMm + kTouchMm
                                          : there.bottomMm >= topOf(piece) - kTouchMm;
            if (isFurther && doOverlap(laid, other))
                return Error{Code::Degenerate, design::pieceName(m_work.stack, other) + " closes it off."};
        }
        thing.push_back(piece);
        return base::Done{};
    }
    double topOf(const Replayed& one) const {
        return one.bottomMm + design::thicknessOf(m_work.stack, *m_work.stack.find(one.piece));
    }
    bool doOverlap(const Laid& a, const Laid& b) const {
        const auto rows = [&](const Laid& one) {
            return design::rowsOf(one.piece.body, design::kRowPitchMm, m_work.rows);
        };
        return geometry::bounds(a.shape()).meets(geometry::bounds(b.shape())) &&
               design::overlap(*rows(a), *rows(b));
    }

    static constexpr double kTouchMm = 0.05;
    const Instructions& m_told;
    const Work& m_work;
    std::vector<Thing> m_things;
    std::set<PieceId> m_used;
    std::set<std::size_t> m_taken;
};

} // namespace

base::Result<std::vector<Replayed>> replay(const Instructions& instructions, const Work& work) {
    return Following(instructions, work).run();
}

} // namespace thinline::assembly
