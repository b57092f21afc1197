// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"
#include "trace/Tracing.h"

#include <map>
#include <string>
#include <vector>

namespace thinline::trace {

/// What a fresh tracing proposes: a stock for every area that has none yet.
struct PaintProposal {
    std::vector<design::Stock> stocks; ///< those given, plus new ones for colours none of them shows
    std::map<int, std::string> paint;  ///< stock by the area's number
};

/// Returns a stock for every area: by the picture's colour where it has one, else `plainStockId`. Of a
/// picture with a palette every colour has a stock of its own. Existing paint is kept. A colour nearer than a
/// just visible step to a stock takes it; others found a new stock.
PaintProposal proposePaint(const Tracing& tracing, const std::vector<design::Stock>& stocks,
                           const std::map<int, std::string>& paint, const std::string& plainStockId);

} // namespace thinline::trace
