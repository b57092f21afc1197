// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "assembly/Contacts.h"

namespace thinline::assembly {

/// A piece, or the parts of a divided one, and what is put onto it.
struct Node {
    std::vector<std::size_t> pieces;     ///< by their places in the stack; none of the whole work
    std::size_t onto = 0;                ///< the node it is put onto
    std::vector<std::size_t> parts = {}; ///< nodes put onto it, in the order of work
    bool isBehind = false;               ///< it is put on from behind
};

/// Node 0 is the table; every piece is in exactly one node.
using Tree = std::vector<Node>;

/// Returns what is put onto what, in which order.
/// Shape:  a node holds all that rests on it alone, so that each can be made by itself. Among the parts of one node, from
///         behind first; then nothing comes after what covers it; then pieces of the layer worked at; then the larger, of
///         about one size the nearest.
/// Cost:   O(pieces x depth + pairs that overlap); a few times that where nodes must be taken apart.
Tree treeOf(const Work& work, const Contacts& contacts);

} // namespace thinline::assembly
