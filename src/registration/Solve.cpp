// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "registration/Solve.h"

#include "base/Length.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::registration {
namespace {

using base::Code;
using base::Error;
using geometry::Point;
using geometry::Transform;

constexpr double kDegree = std::numbers::pi / 180;

struct Middles {
    Point printed, seen;
};
Middles middlesOf(const std::vector<Mark>& marks) {
    Middles out;
    for (const Mark& mark : marks) {
        out.printed = out.printed + mark.printed;
        out.seen = out.seen + mark.seen;
    }
    const double share = 1.0 / static_cast<double>(marks.size());
    return {out.printed * share, out.seen * share};
}

/// The linear part about the middles, and what brings them together.
Transform about(const Middles& middles, double a, double b, double c, double d) {
    Transform out{a, b, c, d, 0, 0};
    const Point at = out(middles.printed);
    out.e = middles.seen.x - at.x;
    out.f = middles.seen.y - at.y;
    return out;
}

double worst(const std::vector<double>& residuals) {
    return *std::max_element(residuals.begin(), residuals.end());
}

std::vector<double> residualsOf(const Transform& map, const std::vector<Mark>& marks) {
    std::vector<double> out;
    for (const Mark& mark : marks)
        out.push_back(geometry::distance(map(mark.printed), mark.seen));
    return out;
}

/// Marks as they would be seen from behind the page.
std::vector<Mark> mirrored(std::vector<Mark> marks) {
    for (Mark& mark : marks)
        mark.printed.x = -mark.printed.x;
    return marks;
}

std::string degrees(double value) {
    return base::formatNumber(value, 1) + " degrees";
}

} // namespace

base::Result<Transform> similarityOf(const std::vector<Mark>& marks) {
    if (marks.size() < 2)
        return Error{Code::InvalidArgument, "Two marks at least are needed to lay a page."};
    // In the plane the singular value decomposition of the published form comes to one complex number.
    const Middles middles = middlesOf(marks);
    double along = 0, across = 0, spread = 0;
    for (const Mark& mark : marks) {
        const Point p = mark.printed - middles.printed, s = mark.seen - middles.seen;
        along += dot(p, s);
        across += cross(p, s);
        spread += dot(p, p);
    }
    if (!(spread > 0))
        return Error{Code::InvalidArgument, "All marks are at one place."};
    const double a = along / spread, b = across / spread;
    return about(middles, a, b, -b, a);
}

base::Result<Transform> affineOf(const std::vector<Mark>& marks) {
    if (marks.size() < 3)
        return Error{Code::InvalidArgument, "Three marks at least are needed to find shear."};
    const Middles middles = middlesOf(marks);
    double xx = 0, xy = 0, yy = 0;
    Point byX, byY;
    for (const Mark& mark : marks) {
        const Point p = mark.printed - middles.printed, s = mark.seen - middles.seen;
        xx += p.x * p.x;
        xy += p.x * p.y;
        yy += p.y * p.y;
        byX = byX + s * p.x;
        byY = byY + s * p.y;
    }
    const double det = xx * yy - xy * xy;
    if (!(det > 1e-9 * (xx + yy) * (xx + yy)))
        return Error{Code::InvalidArgument, "The marks are on one line, or all at one place."};
    const Point across = (byX * yy - byY * xy) * (1 / det), down = (byY * xx - byX * xy) * (1 / det);
    return about(middles, across.x, across.y, down.x, down.y);
}

namespace {

class Solving {
  public:
    Solving(const std::vector<Mark>& marks, const std::optional<Mark>& bar, const Limits& limits)
        : m_marks(marks), m_bar(bar), m_limits(limits), m_used(marks) {}

    base::Result<Registration> solved() {
        if (auto ok = check(); !ok)
            return ok.error();
        auto map = fitted(m_used);
        if (!map)
            return map.error();
        if (isFaceDown(*map))
            return Error{Code::Degenerate, "The page lies face down; turn it over and lay it again."};
        const double off = worst(residualsOf(*map, m_used));
        if (off > (m_used.size() > 3 ? m_limits.evenMm : m_limits.residualMm)) {
            if (leaveOneOut())
                map = fitted(m_used);
            else if (off > m_limits.residualMm)
                return Error{Code::Degenerate,
                             "The marks do not lie as they do on this page: the furthest is " +
                                 base::formatNumber(off, 1) +
                                 " mm from its place. Is it another page, or was a mark missed?"};
        }
        if (!map)
            return map.error();
        describe(*map);
        if (auto ok = judge(); !ok)
            return ok.error();
        return m_out;
    }

  private:
    base::Status check() const {
        if (m_marks.size() < 3)
            return Error{Code::InvalidArgument,
                         "The sensor saw " + std::to_string(m_marks.size()) +
                             " marks; three at least are needed. Clean the sensor, take away "
                             "what covers the marks, and let it look again."};
        for (const Mark& mark : m_marks)
            if (!geometry::isFinite(mark.printed) || !geometry::isFinite(mark.seen))
                return Error{Code::InvalidArgument, "The place of a mark is not a number."};
        return base::Done{};
    }

    static base::Result<Transform> fitted(const std::vector<Mark>& marks) {
        return marks.size() > 3 ? affineOf(marks) : similarityOf(marks);
    }

    /// Three marks are laid without mirroring: whether the mirrored page would fit is asked apart.
    bool isFaceDown(const Transform& map) const {
        if (map.a * map.d - map.b * map.c < 0)
            return true;
        const auto other = mirrored(m_marks);
        const auto behind = similarityOf(other);
        return behind && worst(residualsOf(*behind, other)) <= m_limits.residualMm;
    }

    /// Leaves out the one mark without which the others fit.
    bool leaveOneOut() {
        if (m_marks.size() < 4)
            return false;
        std::optional<std::size_t> best;
        double least = m_limits.residualMm;
        for (std::size_t i = 0; i < m_marks.size(); ++i) {
            std::vector<Mark> others = m_marks;
            others.erase(others.begin() + static_cast<std::ptrdiff_t>(i));
            const auto map = similarityOf(others);
            if (!map)
                continue;
            if (const double left = worst(residualsOf(*map, others)); left <= least) {
                least = left;
                best = i;
            }
        }
        if (!best)
            return false;
        m_out.leftOut = best;
        m_used.erase(m_used.begin() + static_cast<std::ptrdiff_t>(*best));
        return true;
    }

    void describe(const Transform& map) {
        m_out.map = map;
        const Middles middles = middlesOf(m_used);
        m_out.shiftMm = middles.seen - middles.printed;
        m_out.scaleX = std::hypot(map.a, map.b);
        m_out.turnDeg = std::atan2(map.b, map.a) / kDegree;
        m_out.hasShear = m_used.size() > 3;
        // The second axis beside the first one's right angle.
        const double det = map.a * map.d - map.b * map.c;
        m_out.scaleY = det / m_out.scaleX;
        m_out.shearDeg = m_out.hasShear ? std::atan2(map.a * map.c + map.b * map.d, det) / kDegree : 0;
        m_out.residualsMm = residualsOf(map, m_marks);
    }

    base::Status judge() const {
        constexpr double kUpsideDownDeg = 150;
        const bool isBarOpposite =
            m_bar &&
            geometry::distance(m_out.map(m_bar->printed), m_bar->seen) >
                geometry::distance(m_out.map(middlesOf(m_used).printed * 2 - m_bar->printed), m_bar->seen);
        if (isBarOpposite || std::abs(m_out.turnDeg) > kUpsideDownDeg)
            return Error{Code::Degenerate, "The page lies upside down: its bar belongs at the upper left. "
                                           "Turn it round and lay it again."};
        if (std::abs(m_out.turnDeg) > m_limits.turnDeg)
            return Error{Code::Degenerate,
                         "The page lies askew by " + degrees(std::abs(m_out.turnDeg)) + ", and up to " +
                             degrees(m_limits.turnDeg) +
                             " can be followed. Lay it straight and let the sensor look again."};
        if (std::abs(m_out.scaleX / m_out.scaleY - 1) > m_limits.scale)
            return Error{Code::Degenerate, "The marks are as far apart as on another page: " +
                                               base::formatNumber(m_out.scaleX * 100, 1) + " % across and " +
                                               base::formatNumber(m_out.scaleY * 100, 1) +
                                               " % down. Lay the page that belongs to this load."};
        for (const double scale : {m_out.scaleX, m_out.scaleY})
            if (std::abs(scale - 1) > m_limits.scale)
                return Error{Code::Degenerate,
                             "The page was printed at " + base::formatNumber(scale * 100, 1) +
                                 " % of its size. Print it again at true size, without \"fit to "
                                 "page\": its ruler measures 50 mm then."};
        if (std::abs(m_out.shearDeg) > m_limits.shearDeg)
            return Error{Code::Degenerate,
                         "The page is out of square by " + degrees(std::abs(m_out.shearDeg)) +
                             ": the paper has stretched or slipped while it was read. Let the sensor "
                             "look again."};
        return base::Done{};
    }

    const std::vector<Mark>& m_marks;
    const std::optional<Mark>& m_bar;
    const Limits& m_limits;
    std::vector<Mark> m_used;
    Registration m_out;
};

} // namespace

base::Result<Registration> registered(const std::vector<Mark>& marks, const std::optional<Mark>& bar,
                                      const Limits& limits) {
    return Solving(marks, bar, limits).solved();
}

} // namespace thinline::registration
