// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "assembly/Instructions.h"

#include "assembly/Tree.h"
#include "assembly/Words.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"

#include <algorithm>
#include <set>

namespace thinline::assembly {
namespace {

using design::Fold;
using design::Laid;
using design::PieceId;
using design::Side;
using design::Zone;
using geometry::Point;
using geometry::Shape;

bool isFlap(const Zone& zone, PieceId of) {
    return zone.kind == Zone::Kind::Glue && zone.meets == of;
}
bool isWay(const Zone& zone) {
    return zone.kind == Zone::Kind::Way && !zone.takes.empty();
}

/// Tells a tree, node by node; what a node is made of is told before it.
class Telling {
  public:
    Telling(const Work& work, const Wishes& wishes, base::LengthUnit unit, const base::Progress& progress)
        : m_work(work), m_pieces(work.stack.pieces), m_wishes(wishes), m_unit(unit), m_progress(progress) {}

    /// Without glue only numbers are right.
    base::Result<Instructions> run(bool withGlue = true) {
        m_doesGlue = withGlue;
        auto contacts = contactsOf(m_work, m_progress);
        if (!contacts)
            return contacts.error();
        m_contacts = contacts.take();
        m_tree = treeOf(m_work, m_contacts);
        m_made.resize(m_tree.size());
        m_middles.resize(m_pieces.size());
        for (const Laid& laid : m_pieces)
            m_boxes.push_back(geometry::bounds(laid.shape()));
        gatherStrings();
        const auto& roots = m_tree.front().parts;
        for (const std::size_t root : roots)
            if (roots.size() == 1 || isAssembly(root))
                if (auto ok = tell(root); !ok)
                    return ok.error();
        if (roots.size() > 1 || !m_strings.empty())
            tellWhole();
        if (m_pieces.size() > 1 && !out.assemblies.empty())
            out.assemblies.front().steps.insert(out.assemblies.front().steps.begin(), Step{Act::LayOut});
        number();
        write(m_work.stack, m_wishes, m_unit, out);
        return std::move(out);
    }

  private:
    const Laid& baseOf(std::size_t node) const { return m_pieces[m_tree[node].pieces.front()]; }

    Point middleOf(std::size_t piece) {
        if (!m_middles[piece])
            m_middles[piece] = geometry::enclosingCircle({m_pieces[piece].shape()}).centre;
        return *m_middles[piece];
    }

    // ---- what of a node asks for work of its own ----

    template <class Test>
    bool anyZone(std::size_t node, Test test) const {
        for (const std::size_t piece : m_tree[node].pieces)
            for (const Zone& zone : m_pieces[piece].piece.body->zones)
                if (test(zone, m_pieces[piece].id()))
                    return true;
        return false;
    }
    bool hasFlaps(std::size_t node) const { return anyZone(node, isFlap); }
    bool hasFolds(std::size_t node) const {
        for (const std::size_t piece : m_tree[node].pieces)
            for (const design::PieceLine& line : m_pieces[piece].piece.body->lines)
                if (std::holds_alternative<Fold>(line.does))
                    return true;
        return false;
    }
    std::vector<const OwnItem*> itemsAt(std::size_t node) const {
        std::vector<const OwnItem*> found;
        for (const OwnItem& item : m_wishes.items)
            for (const std::size_t piece : m_tree[node].pieces)
                if (item.at && (item.at == m_pieces[piece].id() || m_pieces[piece].id().isPartOf(item.at))) {
                    found.push_back(&item);
                    break;
                }
        return found;
    }
    bool isAssembly(std::size_t node) const {
        return !m_tree[node].parts.empty() || m_tree[node].pieces.size() > 1 || hasFolds(node) ||
               hasFlaps(node) || !itemsAt(node).empty() ||
               (anyZone(node, [](const Zone& zone, PieceId) { return isWay(zone); }) && !isStrung(node));
    }

    // ---- pieces on one ribbon ----

    /// Things of their own that a ribbon goes through, several on one: they are strung at the end.
    void gatherStrings() {
        std::map<std::string, std::vector<std::size_t>> found;
        for (const std::size_t root : m_tree.front().parts)
            for (const std::size_t piece : m_tree[root].pieces) {
                std::set<std::string> once;
                for (const Zone& zone : m_pieces[piece].piece.body->zones)
                    if (isWay(zone) && once.insert(zone.takes).second)
                        found[zone.takes].push_back(piece);
            }
        for (auto& [takes, pieces] : found)
            if (pieces.size() > 1 || m_pieces[pieces.front()].copies > 1) {
                std::sort(pieces.begin(), pieces.end(), [&](std::size_t a, std::size_t b) {
                    return m_boxes[a].least.x < m_boxes[b].least.x;
                });
                m_strings[takes] = std::move(pieces);
            }
    }
    bool isStrung(std::size_t node) const {
        for (const auto& [takes, pieces] : m_strings)
            for (const std::size_t piece : m_tree[node].pieces)
                if (std::find(pieces.begin(), pieces.end(), piece) != pieces.end())
                    return true;
        return false;
    }

    // ---- steps ----

    base::Status tell(std::size_t node) {
        for (const std::size_t part : m_tree[node].parts)
            if (isAssembly(part))
                if (auto ok = tell(part); !ok)
                    return ok;
        if (m_progress.isCancelled())
            return base::cancelled();
        Assembly made;
        for (const std::size_t piece : m_tree[node].pieces)
            made.base.push_back(m_pieces[piece].id());
        made.copies = baseOf(node).copies;
        m_up = Side::Front;
        m_isWet = false;
        tellJoin(node, made);
        tellFolds(node, made);
        if (auto ok = tellParts(node, made); !ok)
            return ok;
        tellPutIn(node, made, {});
        turn(Side::Front, made);
        for (const OwnItem* item : itemsAt(node))
            made.steps.push_back(Step{.act = Act::PutIn, .takes = item->text});
        tellFlaps(node, made);
        m_made[node] = out.assemblies.size();
        out.assemblies.push_back(std::move(made));
        return base::Done{};
    }

    void tellJoin(std::size_t node, Assembly& made) {
        const auto& parts = m_tree[node].pieces;
        if (parts.size() < 2)
            return;
        Step step{.act = Act::Join, .up = Side::Back};
        for (const std::size_t part : parts)
            step.pieces.push_back(placed(part, parts.front()));
        step.seams = seamsOf(m_work, parts);
        for (const Seam& seam : step.seams)
            if (seam.isGlued)
                for (const Zone& zone : m_work.stack.find(seam.lower)->piece.body->zones)
                    if (zone.kind == Zone::Kind::Glue && zone.meets == seam.upper)
                        step.glue.push_back(zone.area);
        m_isWet = !step.glue.empty();
        m_up = Side::Back;
        made.steps.push_back(std::move(step));
    }

    void tellFolds(std::size_t node, Assembly& made) {
        Step step{.act = Act::Fold};
        for (const std::size_t piece : m_tree[node].pieces) {
            const int before = step.away + step.towards;
            for (const design::PieceLine& line : m_pieces[piece].piece.body->lines)
                if (const auto* fold = std::get_if<Fold>(&line.does))
                    ++(fold->isTowards ? step.towards : step.away);
            if (step.away + step.towards > before)
                step.pieces.push_back(placed(piece, m_tree[node].pieces.front()));
        }
        if (step.pieces.empty())
            return;
        turn(Side::Front, made);
        made.steps.push_back(std::move(step));
    }

    /// So that a side looks up; what is wet dries first.
    void turn(Side up, Assembly& made) {
        if (m_up == up)
            return;
        if (m_isWet)
            made.steps.push_back(Step{.act = Act::Wait, .up = m_up});
        m_isWet = false;
        m_up = up;
        made.steps.push_back(Step{.act = Act::TurnOver, .up = up});
    }

    base::Status tellParts(std::size_t node, Assembly& made) {
        const auto& parts = m_tree[node].parts;
        for (std::size_t k = 0; k < parts.size();) {
            std::size_t end = k + 1;
            while (end < parts.size() && end - k < kMostInStep && goTogether(node, parts, k, end))
                ++end;
            tellPutIn(node, made,
                      {parts.begin() + static_cast<std::ptrdiff_t>(k),
                       parts.begin() + static_cast<std::ptrdiff_t>(end)});
            turn(m_tree[parts[k]].isBehind ? Side::Back : Side::Front, made);
            Step step{.act = baseOf(parts[k]).liftMm > 0 ? Act::Foam : Act::Glue, .up = m_up};
            step.liftMm = baseOf(parts[k]).liftMm;
            for (; k < end; ++k)
                if (auto ok = put(parts[k], m_tree[node].pieces.front(), step); !ok)
                    return ok;
            m_isWet = m_isWet || !step.glue.empty();
            made.steps.push_back(std::move(step));
        }
        return base::Done{};
    }

    /// Whether a part is put on in the same step as those from `first` on.
    bool goTogether(std::size_t node, const std::vector<std::size_t>& parts, std::size_t first,
                    std::size_t next) const {
        const Laid &a = baseOf(parts[first]), &b = baseOf(parts[next]);
        if (isAssembly(parts[first]) || isAssembly(parts[next]) || a.layer != b.layer || a.liftMm != b.liftMm)
            return false;
        constexpr double kAlike =
            16; // in area: of large and small ones in one picture the small ones are not seen
        if (geometry::area(a.shape()) > kAlike * geometry::area(b.shape()))
            return false;
        // Small ones only as far as one may look at them closely.
        constexpr double kSmall = 0.06, kNear = 0.25;
        geometry::Box whole, near;
        for (const std::size_t piece : m_tree[node].pieces)
            whole.include(m_boxes[piece]);
        const auto isWithin = [&](const geometry::Box& box, double share) {
            return box.width() < share * whole.width() && box.height() < share * whole.height();
        };
        for (std::size_t k = first; k <= next; ++k)
            near.include(m_boxes[m_tree[parts[k]].pieces.front()]);
        if (isWithin(m_boxes[m_tree[parts[next]].pieces.front()], kSmall) && !isWithin(near, kNear))
            return false;
        const auto& covered = m_contacts.before[m_tree[parts[next]].pieces.front()];
        for (std::size_t k = first; k < next; ++k)
            if (std::find(covered.begin(), covered.end(), m_tree[parts[k]].pieces.front()) != covered.end())
                return false;
        return true;
    }

    Placed placed(std::size_t piece, std::size_t onto) {
        return {.piece = m_pieces[piece].id(),
                .at = middleOf(piece) - middleOf(onto),
                .aboveMm = m_work.heights.of[piece].bottomMm - m_work.heights.of[onto].bottomMm,
                .isBehind = isBehind(m_work.stack, m_pieces[piece])};
    }

    base::Status put(std::size_t part, std::size_t onto, Step& step) {
        Placed one = placed(m_tree[part].pieces.front(), onto);
        if (isAssembly(part))
            one.made = m_made[part];
        step.pieces.push_back(one);
        for (const std::size_t piece : m_tree[part].pieces) {
            for (const Zone& zone : m_pieces[piece].piece.body->zones)
                if (zone.kind == Zone::Kind::Foam) {
                    const geometry::Box box = geometry::bounds(zone.area);
                    step.foam.push_back({(box.least + box.most) * 0.5, box.width(), zone.heightMm});
                    out.foamSpots[zone.heightMm] += m_pieces[piece].copies;
                }
            if (step.act == Act::Foam) {
                out.foamSpots[step.liftMm];
                continue;
            }
            const design::Stock* stock =
                design::findStock(m_work.stack.stocks, m_work.stack.layerOf(m_pieces[piece]).stockId);
            if (stock && stock->kind == design::Stock::Kind::Vinyl)
                continue; // brings its own
            for (const std::size_t under : m_contacts.under[piece])
                if (auto ok = addGlue(piece, under, step.glue); !ok)
                    return ok;
        }
        return base::Done{};
    }

    /// Where a piece is glued to what carries it: their common card, away from its edges and from what is kept free.
    base::Status addGlue(std::size_t piece, std::size_t under, std::vector<Shape>& glue) {
        if (!m_doesGlue)
            return base::Done{};
        const design::Body &upper = *m_pieces[piece].piece.body, &lower = *m_pieces[under].piece.body;
        for (const Zone& zone : lower.zones)
            if (zone.kind == Zone::Kind::Glue && zone.meets == m_pieces[piece].id()) {
                glue.push_back(zone.area);
                return base::Done{};
            }
        auto common = geometry::intersect({upper.shape}, {lower.shape}, m_progress);
        if (!common)
            return common.error();
        std::vector<Shape> area = common.take(), free;
        // Only what is kept free on the two faces that meet.
        const bool isBack = isBehind(m_work.stack, m_pieces[piece]);
        const Side ofUpper = isBack ? Side::Front : Side::Back, ofLower = isBack ? Side::Back : Side::Front;
        for (const auto& [body, side] : {std::pair{&upper, ofUpper}, {&lower, ofLower}})
            for (const Zone& zone : body->zones)
                if ((zone.kind == Zone::Kind::KeepFree || zone.kind == Zone::Kind::Way) && zone.side == side)
                    free.push_back(zone.area);
        if (!free.empty()) {
            auto left = geometry::subtract(area, free, m_progress);
            if (!left)
                return left.error();
            area = left.take();
        }
        for (const double inset : {kGlueToEdgeMm, kGlueToEdgeMm / 4}) {
            auto inner = geometry::offset(area, -inset, {}, m_progress);
            if (!inner)
                return inner.error();
            if (!inner->shapes.empty()) {
                for (const Shape& shape : inner->shapes)
                    glue.push_back(shape);
                return base::Done{};
            }
        }
        glue.insert(glue.end(), area.begin(), area.end()); // a thin piece is glued all over
        return base::Done{};
    }

    /// What goes through ways of a node that some parts would close; without parts, through all that are left.
    void tellPutIn(std::size_t node, Assembly& made, const std::vector<std::size_t>& closing) {
        for (const std::size_t piece : m_tree[node].pieces)
            for (const Zone& zone : m_pieces[piece].piece.body->zones) {
                if (!isWay(zone) || isStrung(node) || m_putIn.contains(&zone) ||
                    (!closing.empty() && !isClosed(zone, closing)))
                    continue;
                m_putIn.insert(&zone);
                turn(zone.side, made);
                const double endsMm = zone.takes == "stick" ? 0 : 2 * kRibbonEndMm;
                Step step{.act = Act::PutIn, .up = m_up, .takes = zone.takes};
                step.lengthMm = longerSide(zone.area) + endsMm;
                out.lengthMm[zone.takes] += step.lengthMm * m_pieces[piece].copies;
                made.steps.push_back(std::move(step));
            }
    }
    static double longerSide(const Shape& shape) {
        const geometry::TurnedRectangle box = geometry::leastRectangle({shape});
        return std::max(box.widthMm, box.heightMm);
    }
    bool isClosed(const Zone& way, const std::vector<std::size_t>& parts) const {
        const geometry::Box box = geometry::bounds(way.area);
        for (const std::size_t part : parts)
            for (const std::size_t piece : m_tree[part].pieces)
                if (m_tree[part].isBehind == (way.side == Side::Back) && m_boxes[piece].meets(box)) {
                    const auto common = geometry::intersect({way.area}, {m_pieces[piece].shape()});
                    if (common && !common->empty())
                        return true;
                }
        return false;
    }

    void tellFlaps(std::size_t node, Assembly& made) {
        if (!hasFlaps(node))
            return;
        Step step{.act = Act::GlueFlaps};
        for (const std::size_t piece : m_tree[node].pieces)
            for (const Zone& zone : m_pieces[piece].piece.body->zones)
                if (isFlap(zone, m_pieces[piece].id())) {
                    step.glue.push_back(zone.area);
                    if (step.pieces.empty() || step.pieces.back().piece != m_pieces[piece].id())
                        step.pieces.push_back(placed(piece, m_tree[node].pieces.front()));
                }
        made.steps.push_back(Step{.act = Act::TryDry});
        made.steps.push_back(std::move(step));
        made.steps.push_back(Step{.act = Act::Wait});
    }

    /// Things that lie side by side, what joins them, and ribbons through several.
    void tellWhole() {
        Assembly whole;
        const auto& roots = m_tree.front().parts;
        for (std::size_t k = 0; k < roots.size(); k += kMostInStep) {
            Step step{.act = Act::Place};
            for (std::size_t j = k; j < std::min(roots.size(), k + kMostInStep); ++j) {
                const std::size_t piece = m_tree[roots[j]].pieces.front();
                step.pieces.push_back({.piece = m_pieces[piece].id(),
                                       .made = m_made[roots[j]],
                                       .at = middleOf(piece),
                                       .aboveMm = m_work.heights.of[piece].bottomMm});
            }
            whole.steps.push_back(std::move(step));
        }
        tellMeetings(whole);
        for (const auto& [takes, pieces] : m_strings) {
            Step step{.act = Act::String, .takes = takes};
            step.lengthMm = 2 * kRibbonEndMm;
            for (const std::size_t piece : pieces) {
                step.pieces.push_back({.piece = m_pieces[piece].id(), .at = middleOf(piece)});
                step.lengthMm += m_boxes[piece].width() * m_pieces[piece].copies;
            }
            out.lengthMm[takes] += step.lengthMm;
            whole.steps.push_back(std::move(step));
        }
        out.assemblies.push_back(std::move(whole));
    }

    /// Flaps of one thing that are glued to another one that lies beside it in the design.
    void tellMeetings(Assembly& whole) {
        std::map<PieceId, std::size_t> rootOf;
        for (const std::size_t root : m_tree.front().parts)
            for (const std::size_t piece : m_tree[root].pieces)
                rootOf[m_pieces[piece].id()] = root;
        Step step{.act = Act::Join};
        for (const auto& [id, root] : rootOf)
            for (const Zone& zone : m_work.stack.find(id)->piece.body->zones)
                if (zone.kind == Zone::Kind::Glue && zone.meets && rootOf.contains(zone.meets) &&
                    rootOf[zone.meets] != root) {
                    step.seams.push_back({id, zone.meets, true});
                    step.glue.push_back(zone.area);
                }
        if (!step.seams.empty())
            whole.steps.push_back(std::move(step));
    }

    void number() {
        const auto add = [&](PieceId id) {
            if (out.numbers.emplace(id, static_cast<int>(out.numbered.size()) + 1).second)
                out.numbered.push_back(id);
        };
        for (const Assembly& one : out.assemblies) {
            for (const PieceId id : one.base)
                add(id);
            for (const Step& step : one.steps)
                for (const Placed& piece : step.pieces)
                    add(piece.piece);
        }
    }

    const Work& m_work;
    const std::vector<Laid>& m_pieces;
    const Wishes& m_wishes;
    const base::LengthUnit m_unit;
    const base::Progress& m_progress;
    Contacts m_contacts;
    Tree m_tree;
    std::vector<std::optional<std::size_t>> m_made; ///< of every node: the assembly it was told as
    std::vector<std::optional<Point>> m_middles;
    std::vector<geometry::Box> m_boxes; ///< of the pieces
    std::map<std::string, std::vector<std::size_t>> m_strings;
    std::set<const Zone*> m_putIn;
    Side m_up = Side::Front; ///< of the assembly that is told
    bool m_isWet = false, m_doesGlue = true;
    Instructions out;
};

} // namespace

int Instructions::numberOf(PieceId piece) const {
    const auto at = numbers.find(piece);
    return at == numbers.end() ? 0 : at->second;
}

base::Result<std::map<PieceId, int>> numbersOf(const Work& work, const Wishes& wishes,
                                               const base::Progress& progress) {
    auto told = Telling(work, wishes, base::LengthUnit::Millimetre, progress).run(false);
    if (!told)
        return told.error();
    return told.take().numbers;
}

base::Result<Instructions> instructionsOf(const Work& work, const Wishes& wishes, base::LengthUnit unit,
                                          const base::Progress& progress) {
    return Telling(work, wishes, unit, progress).run();
}

} // namespace thinline::assembly
