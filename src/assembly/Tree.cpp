// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Small assemblies first.
//
// People build an eye, a flower, a word on its shadow by themselves and lay them together then. Which pieces make such an
// assembly? Those that rest on one piece and on nothing beside it: whichever way one goes down from them to the table, that
// piece is on the way. In the graph of who carries whom this is what is called domination, so the tree of assemblies is the
// dominator tree, and each piece is put onto its immediate dominator. The graph has no circles (a piece lies above what
// carries it), so one pass in the order of building finds it: the dominator of a piece is the lowest common ancestor of those
// that carry it, in the tree as far as it is made.
//
// Parts of a divided piece are one node: they are joined before anything is laid over their seams.
//
// What covers something comes after it. Two pieces of different assemblies that overlap therefore order their assemblies,
// below the lowest assembly that holds both. It can happen that one assembly wants to lie below another at one place and above
// it at another (a leaf that weaves through a wreath). Then neither can be made by itself: the one with most in it is taken
// apart, its parts are put on one by one, and the order is looked for again. In the end everything lies on the table piece by
// piece, and that order always exists: it is that of the stack.
#include "assembly/Tree.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <map>
#include <optional>
#include <set>
#include <tuple>

namespace thinline::assembly {
namespace {

using design::Laid;

class Growing {
  public:
    Growing(const Work& work, const Contacts& contacts) : m_work(work), m_contacts(contacts) {
        m_nodeOf.assign(work.stack.pieces.size(), 0);
        m_tree.push_back({});
    }

    Tree run() {
        makeNodes();
        findDominators();
        while (const auto tangled = order())
            takeApart(*tangled);
        return std::move(m_tree);
    }

  private:
    void makeNodes() {
        for (const auto& parts : m_contacts.divided) {
            for (const std::size_t piece : parts)
                m_nodeOf[piece] = m_tree.size();
            m_tree.push_back({parts});
        }
        for (const std::size_t piece : m_contacts.order)
            if (m_nodeOf[piece] == 0) {
                m_nodeOf[piece] = m_tree.size();
                m_tree.push_back({{piece}});
            }
        for (std::size_t i = 0; i < m_tree.size(); ++i) {
            Node& node = m_tree[i];
            node.isBehind =
                !node.pieces.empty() && isBehind(m_work.stack, m_work.stack.pieces[node.pieces.front()]);
            m_size.push_back(static_cast<int>(std::floor(std::log2(std::max(1e-6, areaOf(i))) / 2)));
            m_middle.push_back(
                node.pieces.empty()
                    ? geometry::Point{}
                    : geometry::bounds(m_work.stack.pieces[node.pieces.front()].shape()).centre());
        }
        m_depth.assign(m_tree.size(), 0);
    }

    std::size_t common(std::size_t a, std::size_t b) const {
        while (a != b)
            (m_depth[a] >= m_depth[b] ? a : b) = m_tree[m_depth[a] >= m_depth[b] ? a : b].onto;
        return a;
    }

    /// In the order of building; of a divided piece when its last part comes.
    void findDominators() {
        std::vector<std::size_t> missing(m_tree.size());
        for (std::size_t i = 1; i < m_tree.size(); ++i)
            missing[i] = m_tree[i].pieces.size();
        std::vector<bool> isReady(m_tree.size());
        isReady[0] = true;
        for (const std::size_t piece : m_contacts.order) {
            const std::size_t node = m_nodeOf[piece];
            if (--missing[node] > 0)
                continue;
            std::set<std::size_t> carriers;
            for (const std::size_t part : m_tree[node].pieces)
                for (const std::size_t under : m_contacts.under[part])
                    // A part that lies on something later than its piece's other parts would close a circle.
                    if (isReady[m_nodeOf[under]] && m_nodeOf[under] != node)
                        carriers.insert(m_nodeOf[under]);
            std::size_t onto = carriers.empty() ? 0 : *carriers.begin();
            for (const std::size_t other : carriers)
                onto = common(onto, other);
            m_tree[node].onto = onto;
            m_depth[node] = m_depth[onto] + 1;
            isReady[node] = true;
        }
    }

    /// The node just below `above` on the way down from `node`.
    std::size_t childBelow(std::size_t above, std::size_t node) const {
        while (m_tree[node].onto != above)
            node = m_tree[node].onto;
        return node;
    }

    double areaOf(std::size_t node) const {
        double out = 0;
        for (const std::size_t piece : m_tree[node].pieces)
            out += geometry::area(m_work.stack.pieces[piece].shape());
        return out;
    }

    /// Puts the parts of every node in order; returns a node to be taken apart where that cannot be done.
    std::optional<std::size_t> order() {
        for (Node& node : m_tree)
            node.parts.clear();
        for (std::size_t i = 1; i < m_tree.size(); ++i)
            m_tree[m_tree[i].onto].parts.push_back(i);
        std::vector<std::set<std::size_t>> after(m_tree.size());
        for (const std::size_t piece : m_contacts.order)
            for (const std::size_t covered : m_contacts.before[piece]) {
                const std::size_t upper = m_nodeOf[piece], lower = m_nodeOf[covered];
                const std::size_t above = common(upper, lower);
                if (above != upper && above != lower)
                    after[childBelow(above, lower)].insert(childBelow(above, upper));
            }
        for (std::size_t i = 0; i < m_tree.size(); ++i)
            if (const auto tangled = orderParts(i, after))
                return tangled;
        return std::nullopt;
    }

    std::optional<std::size_t> orderParts(std::size_t at, const std::vector<std::set<std::size_t>>& after) {
        std::map<std::size_t, int> waits;
        for (const std::size_t part : m_tree[at].parts)
            waits[part];
        for (const std::size_t part : m_tree[at].parts)
            for (const std::size_t later : after[part])
                ++waits[later];
        std::vector<std::size_t> ready, done;
        for (const std::size_t part : m_tree[at].parts)
            if (waits[part] == 0)
                ready.push_back(part);
        while (!ready.empty()) {
            const auto next = std::max_element(ready.begin(), ready.end(), [&](std::size_t a, std::size_t b) {
                return rank(a, done) < rank(b, done);
            });
            const std::size_t part = *next;
            ready.erase(next);
            done.push_back(part);
            for (const std::size_t later : after[part])
                if (--waits[later] == 0)
                    ready.push_back(later);
        }
        if (done.size() == m_tree[at].parts.size()) {
            m_tree[at].parts = std::move(done);
            return std::nullopt;
        }
        // Of those in the knot the one with most in it.
        std::optional<std::size_t> out;
        std::size_t most = 0;
        for (const auto& [part, open] : waits)
            if (open > 0 && std::find(done.begin(), done.end(), part) == done.end() && held(part) > most) {
                most = held(part);
                out = part;
            }
        if (!out) // parts of a divided piece that lie above and below one another: as they lie in the stack
            for (const std::size_t part : m_tree[at].parts)
                if (std::find(done.begin(), done.end(), part) == done.end())
                    done.push_back(part);
        if (!out)
            m_tree[at].parts = std::move(done);
        return out;
    }

    /// What comes first: from behind, then what is of the layer worked at, then the larger by sizes that each are four times
    /// the next, then the nearer to the last one, then the lower.
    std::tuple<bool, bool, int, double, std::ptrdiff_t> rank(std::size_t node,
                                                             const std::vector<std::size_t>& done) const {
        const auto layerOf = [&](std::size_t one) {
            return m_work.stack.pieces[m_tree[one].pieces.front()].layer;
        };
        const bool isSameLayer = !done.empty() && layerOf(done.back()) == layerOf(node);
        const double awayMm = done.empty() ? 0 : geometry::distance(m_middle[done.back()], m_middle[node]);
        return {m_tree[node].isBehind, isSameLayer, m_size[node], -awayMm,
                -static_cast<std::ptrdiff_t>(node)};
    }

    /// How many nodes are put onto one, and onto those, without it.
    std::size_t held(std::size_t node) const {
        std::size_t out = 0;
        for (const std::size_t part : m_tree[node].parts)
            out += 1 + held(part);
        return out;
    }

    void takeApart(std::size_t node) {
        for (const std::size_t part : m_tree[node].parts)
            m_tree[part].onto = m_tree[node].onto;
        // Depths below it changed.
        std::vector<std::size_t> open = m_tree[node].parts;
        while (!open.empty()) {
            const std::size_t one = open.back();
            open.pop_back();
            --m_depth[one];
            open.insert(open.end(), m_tree[one].parts.begin(), m_tree[one].parts.end());
        }
    }

    const Work& m_work;
    const Contacts& m_contacts;
    std::vector<std::size_t> m_nodeOf; ///< of every piece
    std::vector<int> m_depth, m_size;
    std::vector<geometry::Point> m_middle;
    Tree m_tree;
};

} // namespace

Tree treeOf(const Work& work, const Contacts& contacts) {
    return Growing(work, contacts).run();
}

} // namespace thinline::assembly
