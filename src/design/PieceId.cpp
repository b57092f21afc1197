// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Names of pieces: interned paths.
//
// A piece is known by how it came about: the found piece it began as, then for every parting the step and
// the key within it. That is a path, and paths are compared, hashed and copied all the time: every wish,
// every pin, every choice on the bench is kept by them. As text this would be string work at every click;
// as numbers given out one after the other they would be a second truth beside the path, and the same
// piece would have another number after reopening.
//
// So paths are interned. Each distinct path is one node in a table, which is never moved and never freed,
// and an id is a pointer to its node: comparing is one comparison, hashing is one address, copying is
// free. A node points to the path it goes on from, so a whole tree of parts shares its beginning. Making
// an id looks the node up under a lock; that happens when pieces are named, not when they are used.
//
// The table grows with every path that was ever named in this run of the program. A node is smaller than
// the outline it names by orders of magnitude, and a run that names a million pieces has other worries; so
// nothing is counted and nothing can be freed too early.
//
// Addresses must not decide anything a person sees. Order is therefore by the path's text, numbers within
// it as numbers (`compareKeys`), so that part 10 comes after part 9, and the same job sorts alike in every
// run.
//
// Texts from files are held against the letters a key may have, its length and the depth of partings,
// before a node is made.
#include "design/PieceId.h"

#include <cassert>
#include <charconv>
#include <deque>
#include <mutex>
#include <unordered_map>

namespace thinline::design {

struct PieceId::Node {
    const Node* whole = nullptr; ///< null for a found piece
    int number = 0;              ///< of the source, or of the step
    std::string key;
    const Node* root = nullptr; ///< the found piece at the path's beginning
};

/// Every path that was ever named. A path is looked up by what it was made of, number and key.
struct PieceId::Table {
    struct Name {
        const Node* whole;
        int number;
        std::string_view key; ///< of the node itself, so that it lives as long
        bool operator==(const Name&) const = default;
    };
    struct Hash {
        std::size_t operator()(const Name& name) const {
            const std::size_t a = std::hash<const void*>()(name.whole), b = std::hash<int>()(name.number),
                              c = std::hash<std::string_view>()(name.key);
            return a ^ (b * 0x9e3779b97f4a7c15u) ^ (c << 1);
        }
    };

    const Node* find(const Node* whole, int number, std::string_view key) {
        const std::lock_guard lock(m_guard);
        if (const auto known = m_nodes.find({whole, number, key}); known != m_nodes.end())
            return known->second;
        Node& node = m_all.emplace_back(Node{whole, number, std::string(key), nullptr});
        node.root = whole ? whole->root : &node;
        m_nodes.emplace(Name{whole, number, node.key}, &node);
        return &node;
    }

    static Table& only() {
        static Table table;
        return table;
    }

  private:
    std::mutex m_guard;
    std::deque<Node> m_all; // nodes never move
    std::unordered_map<Name, const Node*, Hash> m_nodes;
};

namespace {

bool isKeyLetter(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '.' || c == '-';
}

constexpr std::size_t kLongestKey = 60;
constexpr int kDeepest = 200; ///< partings; more is no honest file

bool isKey(std::string_view key) {
    if (key.empty() || key.size() > kLongestKey)
        return false;
    for (const char c : key)
        if (!isKeyLetter(c))
            return false;
    return true;
}

/// A number at the beginning of a text; the text goes on behind it.
bool takeNumber(std::string_view& text, int& number) {
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (code != std::errc() || number < 0)
        return false;
    text.remove_prefix(static_cast<std::size_t>(end - text.data()));
    return true;
}

bool isPlainPart(const std::string& key) {
    return !key.empty() && key[0] >= '0' && key[0] <= '9';
}

} // namespace

std::strong_ordering compareKeys(std::string_view a, std::string_view b) {
    const auto isDigit = [](char c) { return c >= '0' && c <= '9'; };
    while (!a.empty() && !b.empty()) {
        if (isDigit(a[0]) && isDigit(b[0])) {
            const auto run = [&](std::string_view s) {
                std::size_t n = 0;
                while (n < s.size() && isDigit(s[n]))
                    ++n;
                return n;
            };
            std::string_view x = a.substr(0, run(a)), y = b.substr(0, run(b));
            a.remove_prefix(x.size());
            b.remove_prefix(y.size());
            while (x.size() > 1 && x[0] == '0')
                x.remove_prefix(1);
            while (y.size() > 1 && y[0] == '0')
                y.remove_prefix(1);
            if (x.size() != y.size())
                return x.size() <=> y.size();
            if (const auto order = x.compare(y) <=> 0; order != 0)
                return order;
            continue;
        }
        if (a[0] != b[0])
            return static_cast<unsigned char>(a[0]) <=> static_cast<unsigned char>(b[0]);
        a.remove_prefix(1);
        b.remove_prefix(1);
    }
    return a.size() <=> b.size();
}

PieceId PieceId::found(SourceId source, std::string_view key) {
    assert(isKey(key));
    return PieceId(Table::only().find(nullptr, numberOf(source), key));
}

PieceId PieceId::parted(StepId step, std::string_view key) const {
    assert(m_node && isKey(key));
    return PieceId(Table::only().find(m_node, numberOf(step), key));
}

base::Result<PieceId> PieceId::read(std::string_view text) {
    const base::Error bad{base::Code::ParseError,
                          "'" + std::string(text.substr(0, kLongestKey)) + "' names no piece."};
    std::string_view rest = text;
    int number = 0;
    if (!takeNumber(rest, number) || rest.empty() || rest[0] != ':')
        return bad;
    rest.remove_prefix(1);
    const auto slash = rest.find('/');
    const std::string_view first = rest.substr(0, slash);
    if (!isKey(first))
        return bad;
    PieceId out = found(SourceId{number}, first);
    rest = slash == std::string_view::npos ? std::string_view{} : rest.substr(slash);
    for (int depth = 0; !rest.empty(); ++depth) {
        rest.remove_prefix(1); // the slash
        if (depth == kDeepest || !takeNumber(rest, number) || rest.empty() || rest[0] != '.')
            return bad;
        rest.remove_prefix(1);
        const auto end = std::min(rest.find('/'), rest.size());
        if (!isKey(rest.substr(0, end)))
            return bad;
        out = out.parted(StepId{number}, rest.substr(0, end));
        rest.remove_prefix(end);
    }
    return out;
}

std::string PieceId::text() const {
    if (!m_node)
        return {};
    if (!m_node->whole)
        return std::to_string(m_node->number) + ":" + m_node->key;
    return whole().text() + "/" + std::to_string(m_node->number) + "." + m_node->key;
}

SourceId PieceId::source() const {
    return SourceId{m_node ? m_node->root->number : 0};
}

const std::string& PieceId::foundKey() const {
    static const std::string none;
    return m_node ? m_node->root->key : none;
}

const std::string& PieceId::key() const {
    static const std::string none;
    return m_node ? m_node->key : none;
}

bool PieceId::isFound() const {
    return m_node && !m_node->whole;
}

PieceId PieceId::whole() const {
    return PieceId(m_node ? m_node->whole : nullptr);
}

StepId PieceId::madeBy() const {
    return StepId{m_node && m_node->whole ? m_node->number : 0};
}

bool PieceId::isTwin() const {
    return !isFound() && key().starts_with("twin");
}

bool PieceId::isPartOf(PieceId other) const {
    for (const Node* node = m_node; node && node->whole; node = node->whole) {
        if (!isPlainPart(node->key))
            return false;
        if (node->whole == other.m_node)
            return true;
    }
    return false;
}

std::strong_ordering PieceId::operator<=>(const PieceId& other) const {
    if (m_node == other.m_node)
        return std::strong_ordering::equal;
    if (!m_node || !other.m_node)
        return m_node ? std::strong_ordering::greater : std::strong_ordering::less;
    // Both paths down to the same depth; what is made of a piece comes behind it.
    const auto depthOf = [](const Node* node) {
        int depth = 0;
        for (; node->whole; node = node->whole)
            ++depth;
        return depth;
    };
    const int mine = depthOf(m_node), others = depthOf(other.m_node);
    const Node *a = m_node, *b = other.m_node;
    for (int i = mine; i > others; --i)
        a = a->whole;
    for (int i = others; i > mine; --i)
        b = b->whole;
    if (a == b)
        return mine <=> others;
    while (a->whole != b->whole) {
        a = a->whole;
        b = b->whole;
    }
    if (const auto order = a->number <=> b->number; order != 0)
        return order;
    return compareKeys(a->key, b->key);
}

} // namespace thinline::design
