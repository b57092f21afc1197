// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Timeline.h"

#include "cutplan/Timing.h"
#include "geometry/Measures.h"

#include <algorithm>

namespace thinline::cutplan {

using geometry::endOf;
using geometry::Point;

Timeline::Timeline(const design::PlannedLoad& load, const design::Machine& machine) : m_load(load) {
    double now = 0;
    Point at;
    const auto add = [&](Moment::What what, size_t pass, size_t path, int round, double seconds) {
        m_moments.push_back({what, pass, path, round, now, now + seconds});
        m_from.push_back(at);
        now += seconds;
    };
    for (size_t p = 0; p < load.passes.size(); ++p) {
        const design::Pass& pass = load.passes[p];
        for (const design::Swap& swap : load.swaps)
            if (swap.pass == p)
                add(Moment::What::Swap, p, 0, 0, machine.swapS);
        const Point begun = at;
        for (int round = 0; round < pass.times; ++round) {
            Point before = begun; // a round costs what the first one does
            for (size_t i = 0; i < pass.paths.size(); ++i) {
                const geometry::Line& line = pass.paths[i].line;
                add(Moment::What::Travel, p, i, round,
                    secondsFor(geometry::distance(before, line.start), machine.travelMmPerS,
                               machine.mmPerS2));
                at = line.start;
                add(Moment::What::Line, p, i, round,
                    secondsAlong(line, pass.mmPerS, machine.mmPerS2) + 2 * machine.liftS);
                at = before = endOf(line);
            }
        }
    }
}

std::optional<Timeline::Now> Timeline::at(double seconds) const {
    if (m_moments.empty())
        return std::nullopt;
    const auto after = std::upper_bound(m_moments.begin(), m_moments.end(), seconds,
                                        [](double s, const Moment& moment) { return s < moment.toS; });
    const size_t i =
        after == m_moments.end() ? m_moments.size() - 1 : static_cast<size_t>(after - m_moments.begin());
    const Moment& moment = m_moments[i];
    const double length = moment.toS - moment.fromS;
    Now now{i, length > 0 ? std::clamp((seconds - moment.fromS) / length, 0.0, 1.0) : 1, m_from[i]};
    if (moment.what == Moment::What::Swap)
        return now;
    const geometry::Line& line = m_load.passes[moment.pass].paths[moment.path].line;
    if (moment.what == Moment::What::Travel) {
        now.at = m_from[i] + (line.start - m_from[i]) * now.share;
    } else {
        const double along = now.share * geometry::contourLength(line);
        now.at = now.share >= 1  ? endOf(line)
                 : now.share > 0 ? endOf(geometry::stretchOfLine(line, 0, along))
                                 : line.start;
    }
    return now;
}

} // namespace thinline::cutplan
