// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Split.h"

#include "geometry/Measures.h"
#include "geometry/Parting.h"
#include "split/Seams.h"
#include "split/Search.h"
#include "split/Slivers.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace thinline::split {
namespace {

using base::Code;
using base::Error;
using geometry::Line;
using geometry::Point;
using geometry::Polygons;

constexpr double kWideMm = 22;    ///< from this clearance on, seams may bend inside
constexpr double kLatticeMm = 14; ///< of inner points; half of it where something lies above
constexpr size_t kMostAsked = 40; ///< seams of which it is asked what they would cost elsewhere
constexpr double kWideShare =
    0.15; ///< of the mat's short side: from there on chords alone were never cheaper

std::string mm(double value) {
    char text[32];
    std::snprintf(text, sizeof text, "%.1f mm", value);
    return text;
}

base::Status checked(const Ground& ground, const Room& room) {
    if (!(room.widthMm > 0) || !(room.heightMm > 0) || !std::isfinite(room.widthMm) ||
        !std::isfinite(room.heightMm))
        return Error{Code::InvalidArgument, "Give the room a part has as two lengths above zero."};
    if (!geometry::isFinite(ground.shape) || geometry::area(ground.shape) <= 0)
        return Error{Code::InvalidArgument, "There is no area to divide."};
    if (geometry::area(ground.shape) > 400 * room.widthMm * room.heightMm)
        return Error{Code::LimitExceeded,
                     "This would be more than 400 parts; take a larger mat or a smaller work."};
    return base::Done{};
}

/// A place on the very edge, for an end of a seam that lies on its sample.
Point onEdge(const geometry::Shape& shape, Point p) {
    const auto place = geometry::nearestOnEdge(shape, p, 0.5);
    return place ? place->point : p;
}

/// The straight stretches of a line, with what their ends lie on.
std::vector<Stretch> stretchesOf(const Line& line, const geometry::Shape& shape) {
    const geometry::Polygon way = wayOf(line, 0.05);
    const auto ringAt = [&](Point p) {
        const auto place = geometry::nearestOnEdge(shape, p, 0.01);
        return place ? static_cast<int>(place->contour) : kInside;
    };
    std::vector<Stretch> out;
    for (size_t i = 0; i + 1 < way.size(); ++i)
        if (geometry::distance(way[i], way[i + 1]) > 1e-6)
            out.push_back({way[i], way[i + 1]});
    if (!out.empty()) {
        out.front().ringOfA = ringAt(way.front());
        out.back().ringOfB = ringAt(way.back());
    }
    return out;
}

Seam measured(const Line& line, const std::vector<Stretch>& stretches, const Pricing& pricing,
              double& price) {
    Seam out;
    out.path = line;
    double widest = 0;
    for (const Stretch& stretch : stretches) {
        const Priced one = pricing.of(stretch);
        price += one.price;
        out.lengthMm += one.lengthMm;
        out.seenMm += one.seenMm;
        out.isThin = out.isThin || one.isThin;
        out.cutsKept = out.cutsKept || one.cutsKept;
        widest = std::max(widest, one.widestMm);
        if (one.nearSeamMm)
            out.nearSeamMm = std::min(out.nearSeamMm.value_or(1e9), *one.nearSeamMm);
    }
    out.narrowestMm = std::min(out.lengthMm, widest);
    return out;
}

/// What some seams come to.
base::Result<Division> divided(const Ground& ground, const std::vector<Line>& seams, const Pricing& pricing,
                               const base::Progress& progress) {
    const Options& options = pricing.options();
    Division out;
    std::vector<Line> parting;
    std::vector<Stretch> all;
    std::vector<std::vector<Stretch>> stretches;
    for (const Line& line : seams) {
        auto one = stretchesOf(line, ground.shape);
        if (one.empty())
            continue;
        parting.push_back(line);
        all.insert(all.end(), one.begin(), one.end());
        stretches.push_back(std::move(one));
    }
    auto parted = geometry::partedBy(ground.shape, parting, progress);
    if (!parted)
        return parted.error();
    out.parts = std::move(parted->parts);
    out.price = options.prices.part * static_cast<double>(out.parts.size());
    for (size_t i = 0; i < parting.size(); ++i) {
        out.seams.push_back(measured(parting[i], stretches[i], pricing, out.price));
        const Seam& seam = out.seams.back();
        out.seamMm += seam.lengthMm;
        out.seenMm += seam.seenMm;
        out.thinCuts += seam.isThin ? 1 : 0;
        for (const Stretch& stretch : stretches[i])
            out.slivers += sliversBeside(pricing.rings(), stretch, all, options.thinMm);
    }
    for (const geometry::Shape& part : out.parts)
        if (geometry::area(part) < options.leastPartMm2 && out.parts.size() > 1)
            ++out.crumbs;
    out.price += options.prices.sliver * out.slivers + options.prices.tiny * out.crumbs;
    return out;
}

class Dividing {
  public:
    Dividing(const Ground& ground, const Room& room, const Options& options, const base::Progress& progress)
        : m_ground(ground), m_room(room), m_options(options), m_progress(progress),
          m_pricing(ground, sampledRings(ground.shape), options) {
        for (const geometry::Polygon& ring : m_pricing.rings())
            m_tracks.emplace_back(ring);
    }

    base::Result<std::vector<Division>> run() {
        const double widest = m_pricing.field().widestMm();
        const bool isWide = widest > kWideMm;
        const bool isVeryWide = widest > kWideShare * std::min(m_room.widthMm, m_room.heightMm);
        if (!isVeryWide)
            if (auto ok = searchOver(0, m_progress.part(0, isWide ? 0.4 : 0.9)); !ok)
                return ok.error();
        if (((isWide || isVeryWide) && !isRoughEnough()) || m_found.empty())
            if (auto ok =
                    searchOver(m_options.isRough ? 1.5 * kLatticeMm : kLatticeMm, m_progress.part(0.4, 0.9));
                !ok)
                return ok.error();
        if (m_found.empty())
            if (auto ok = searchOver(0.6 * kLatticeMm, m_progress.part(0.6, 0.9)); !ok)
                return ok.error();
        if (m_found.empty())
            return none();
        std::stable_sort(m_found.begin(), m_found.end(),
                         [](const Division& a, const Division& b) { return a.price < b.price; });
        std::vector<Division> out;
        for (Division& one : m_found)
            if (std::none_of(out.begin(), out.end(), [&](const Division& better) {
                    return (better.parts.size() <= one.parts.size() && better.thinCuts <= one.thinCuts) ||
                           better.slivers < one.slivers;
                }))
                out.push_back(std::move(one));
        return out;
    }

  private:
    bool isRoughEnough() const { return m_options.isRough && !m_found.empty(); }

    base::Status searchOver(double latticeMm, const base::Progress& progress) {
        // Where many parts come side by side, coarse triangles would cost each of them a strip.
        const double parts = m_pricing.field().areaMm2() / (m_room.widthMm * m_room.heightMm);
        const Lattice lattice{latticeMm, std::clamp(70 * parts, 1200.0, 6000.0)};
        auto made = netOver(m_pricing, lattice, progress);
        if (!made)
            return made.error();
        Net net = made.take();
        if (net.triangles.empty())
            return base::Done{};
        const auto slivers = [&](const Arc& arc, const std::vector<int>& cuts) {
            std::vector<Stretch> walls;
            for (const int a : cuts)
                walls.push_back(stretchOf(net, net.arcs[static_cast<size_t>(a)]));
            return sliversBeside(m_pricing.rings(), stretchOf(net, arc), walls, m_options.thinMm);
        };
        Search search(net, m_room, m_options, slivers, progress);
        if (auto ok = search.run(); !ok)
            return ok;
        for (const Labelling& one : search.best()) {
            if (auto ok = take(search, net, one); !ok)
                return ok;
            if (isRoughEnough())
                break;
        }
        return base::Done{};
    }

    static Stretch stretchOf(const Net& net, const Arc& arc) {
        const Corner &a = net.corners[static_cast<size_t>(arc.from)],
                     &b = net.corners[static_cast<size_t>(arc.to)];
        return {a.at, b.at, a.ring, b.ring};
    }

    SeamNet seamsOf(const Net& net, const std::vector<int>& cuts) const {
        SeamNet out;
        std::map<int, int> numbers;
        std::vector<int> firstOf;
        int first = 0;
        for (const geometry::Polygon& ring : m_pricing.rings()) {
            firstOf.push_back(first);
            first += static_cast<int>(ring.size());
        }
        const auto node = [&](int corner) {
            const auto [at, isNew] = numbers.emplace(corner, static_cast<int>(out.nodes.size()));
            if (isNew) {
                const Corner& c = net.corners[static_cast<size_t>(corner)];
                const double along = c.ring == kInside
                                         ? 0
                                         : m_tracks[static_cast<size_t>(c.ring)].alongOf(static_cast<size_t>(
                                               corner - firstOf[static_cast<size_t>(c.ring)]));
                out.nodes.push_back({c.at, c.ring, along});
            }
            return at->second;
        };
        for (const int a : cuts) {
            const Arc& arc = net.arcs[static_cast<size_t>(a)];
            const int from = node(arc.from);
            out.edges.emplace_back(from, node(arc.to));
        }
        return out;
    }

    /// A labelling as seams that lie as well as they can, and what they come to.
    base::Status take(Search& search, const Net& net, const Labelling& labelling) {
        const std::vector<int> cuts = search.cutsOf(labelling);
        SeamNet seams = seamsOf(net, cuts);
        settle(seams, m_tracks, m_pricing, m_room, m_progress);
        std::vector<Line> lines = linesOf(seams);
        for (Line& line : lines)
            toTheEdge(line);
        auto made = divided(m_ground, lines, m_pricing, m_progress);
        if (!made)
            return made.error();
        Division division = made.take();
        if (static_cast<int>(division.parts.size()) != labelling.parts ||
            division.seams.size() != lines.size())
            return base::Done{}; // the true outline does not bear what its sample did
        for (const geometry::Shape& part : division.parts)
            if (!fitOf(part, m_room, 0).isFitting)
                return base::Done{};
        if (division.seams.size() <= kMostAsked && !m_options.isRough)
            for (Seam& seam : division.seams) {
                seam.isElsewhereAsked = true;
                seam.elsewhereMm = search.elsewhere(labelling, nearestCuts(net, cuts, seam.path));
            }
        m_found.push_back(std::move(division));
        return base::Done{};
    }

    void toTheEdge(Line& line) const {
        // An end where seams meet on the card is nowhere near an edge.
        line.start = onEdge(m_ground.shape, line.start);
        line.segments.back() = geometry::Segment::line(onEdge(m_ground.shape, line.segments.back().end));
    }

    /// The sides of the network a settled seam came from.
    static std::vector<int> nearestCuts(const Net& net, const std::vector<int>& cuts, const Line& path) {
        std::vector<int> out;
        double best = 1e300;
        int nearest = cuts.front();
        for (const int a : cuts) {
            const Stretch s = stretchOf(net, net.arcs[static_cast<size_t>(a)]);
            const double away = geometry::distanceTo(path, geometry::middle(s.a, s.b));
            if (away < 8)
                out.push_back(a);
            if (away < best) {
                best = away;
                nearest = a;
            }
        }
        return out.empty() ? std::vector<int>{nearest} : out;
    }

    base::Result<std::vector<Division>> none() const {
        const Fit fit = fitOf(m_ground.shape, m_room, m_options.inHandMm);
        return Error{Code::Degenerate,
                     "No division was found whose parts all fit " + mm(m_room.widthMm) + " by " +
                         mm(m_room.heightMm) + ". The whole is " + mm(fit.tooLongMm) +
                         " too long; take a larger mat or sheet, or make the work smaller."};
    }

    const Ground& m_ground;
    const Room m_room;
    const Options& m_options;
    const base::Progress& m_progress;
    const Pricing m_pricing;
    std::vector<Track> m_tracks;
    std::vector<Division> m_found;
};

} // namespace

base::Result<std::vector<Division>> divisions(const Ground& ground, const Room& room, const Options& options,
                                              const base::Progress& progress) {
    if (auto ok = checked(ground, room); !ok)
        return ok.error();
    if (fitOf(ground.shape, room, options.inHandMm).isFitting)
        return std::vector<Division>{Division{{}, {ground.shape}, 0, 0, 0, 0, 0, options.prices.part}};
    return Dividing(ground, room, options, progress).run();
}

base::Result<Division> dividedBy(const Ground& ground, const std::vector<Line>& seams, const Options& options,
                                 const base::Progress& progress) {
    if (!geometry::isFinite(ground.shape) || !(geometry::area(ground.shape) > 0))
        return Error{Code::InvalidArgument, "There is no area to divide."};
    return divided(ground, seams, Pricing(ground, sampledRings(ground.shape), options), progress);
}

} // namespace thinline::split
