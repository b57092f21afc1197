// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/CutPlan.h"

#include <numeric>

namespace thinline::design {
namespace {

template <class Of, class Get>
double sumOf(const std::vector<Of>& all, const Get& get) {
    return std::accumulate(all.begin(), all.end(), 0.0,
                           [&](double sum, const Of& one) { return sum + get(one); });
}

} // namespace

std::string passGroup(const Pass& pass) {
    const std::string through = pass.isThroughCarrier ? "-through-carrier" : "";
    if (pass.isFrame)
        return pass.stockId + "-frame" + through;
    if (pass.isTile)
        return pass.stockId + (pass.operation == Operation::Cut ? "-test-tile" : "-test-tile-inside");
    return operationGroup(pass.stockId, pass.operation, pass.depth) + through +
           (pass.nested > 0 ? "-nested-" + std::to_string(pass.nested) : "");
}

double PlannedLoad::lineMm() const {
    return sumOf(passes, [](const Pass& pass) { return pass.lineMm * pass.times; });
}
double PlannedLoad::travelMm() const {
    return sumOf(passes, [](const Pass& pass) { return pass.travelMm * pass.times; });
}
double CutPlan::seconds() const {
    return sumOf(loads, [](const PlannedLoad& load) { return load.seconds; });
}

} // namespace thinline::design
