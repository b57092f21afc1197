// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"

#include <compare>
#include <functional>
#include <string>
#include <string_view>

/// Who is who. Numbers only rise and are never given twice; none is counted over all pieces.
namespace thinline::design {

enum class SourceId : int {}; ///< what the job was made from, from 1; 0 is none
enum class StepId : int {};   ///< a step of Shape, Folds or Split, from 1
enum class LayerId : int {};  ///< from 1; 0 is none
enum class LineId : int {};   ///< a line of a piece, from 1 within its job

constexpr int numberOf(SourceId id) {
    return static_cast<int>(id);
}
constexpr int numberOf(StepId id) {
    return static_cast<int>(id);
}
constexpr int numberOf(LayerId id) {
    return static_cast<int>(id);
}
constexpr int numberOf(LineId id) {
    return static_cast<int>(id);
}

/// A piece's identity: a path, given once. "3:4.1" was found in source 3 under the key 4.1; "3:4.1/17.2" is the
/// second part into which step 17 cut it; "3:4.1/17.2/20.twin.1" a twin that step 20 made of that.
///
/// Cheap to copy and compare: the path is kept once, in a table that grows with every path somebody names and
/// lives as long as the program. Ordered by content, numbers within keys by their value, so that lists and
/// files come out the same every time. Safe from any thread.
class PieceId {
  public:
    /// Names nothing.
    PieceId() = default;

    /// Returns the piece a source calls `key`: letters, digits, dots and dashes.
    static PieceId found(SourceId source, std::string_view key);
    /// Returns what a step made of this piece.
    PieceId parted(StepId step, std::string_view key) const;
    /// Returns the piece a text names.
    /// Errors: ParseError quoting the text.
    static base::Result<PieceId> read(std::string_view text);
    std::string text() const;

    explicit operator bool() const { return m_node != nullptr; }
    SourceId source() const;
    /// The key in its source, of itself or of what it was made from.
    const std::string& foundKey() const;
    /// The last key of the path.
    const std::string& key() const;
    /// Whether it is as it was found: no step has made it of another piece.
    bool isFound() const;
    /// What it was made of; nothing for a found one.
    PieceId whole() const;
    /// The step that made it; 0 for a found one.
    StepId madeBy() const;

    /// Whether it is a copy of its whole that differs in something; it shares stock and lift, not the count.
    bool isTwin() const;
    /// Whether only plain partings lead from `other` to it: where `other` is not there any more, it stands in
    /// for it. Twins, rings of a series and scraps are pieces beside it and stand in for nothing.
    bool isPartOf(PieceId other) const;

    bool operator==(const PieceId&) const = default;
    std::strong_ordering operator<=>(const PieceId& other) const;

  private:
    struct Node;
    struct Table;
    explicit PieceId(const Node* node) : m_node(node) {}
    const Node* m_node = nullptr;
    friend struct std::hash<PieceId>;
};

/// Orders keys as people count: "area.9" before "area.10".
std::strong_ordering compareKeys(std::string_view a, std::string_view b);

} // namespace thinline::design

template <>
struct std::hash<thinline::design::PieceId> {
    std::size_t operator()(thinline::design::PieceId id) const { return std::hash<const void*>()(id.m_node); }
};
