// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Strips and windows.
//
// An overlap makes one part wider by a strip of its neighbour: what of the neighbour lies within the overlap of the
// seam. The seam is drawn on beyond its ends by as much, so that the strip runs out to the edge wherever that slants.
// Two strips never lie on one another: where seams meet, the later strip gives way to the earlier one.
//
// Which of two parts gets the strip matters, for parts fill their mats. Sides are chosen seam by seam; where a part
// would not fit any more, the choice before is taken back (depth first). What cannot be chosen stays a butt joint.
//
// A window tells a seam from every other one. A seam of one window takes a form nobody else has; one of several takes
// a pair of forms, which is used in neither order again. The same windows go through both parts: laid together wrongly
// they do not match.
#include "split/Joints.h"

#include "geometry/Boolean.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "split/Net.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace thinline::split {
namespace {

using base::Code;
using base::Error;
using geometry::Line;
using geometry::Point;
using geometry::Polygon;
using geometry::Shape;
using Shapes = std::vector<Shape>;

/// A place on a way, and where it leads there.
struct Place {
    Point at, along;
};
Place placeOn(const Polygon& way, double alongMm) {
    for (size_t i = 0; i + 1 < way.size(); ++i) {
        const double step = geometry::distance(way[i], way[i + 1]);
        if (alongMm <= step || i + 2 == way.size()) {
            const Point direction = geometry::direction(way[i + 1] - way[i]);
            return {way[i] + direction * std::min(alongMm, step), direction};
        }
        alongMm -= step;
    }
    return {way.front(), {1, 0}};
}
Point leftOf(Point along) {
    return {-along.y, along.x};
}

class Joining {
  public:
    Joining(const Division& division, const Room& room, const JointOptions& options,
            const base::Progress& progress)
        : m_division(division), m_room(room), m_options(options), m_progress(progress) {
        m_out.parts = division.parts;
        m_out.keysUsed = options.used;
    }

    base::Result<JoinedParts> run(const std::vector<Joint>& wanted) {
        for (size_t i = 0; i < m_division.seams.size(); ++i) {
            m_out.seams.push_back({});
            SeamJoint& seam = m_out.seams.back();
            const auto parts = partsAt(m_division, i);
            if (!parts) {
                seam.whyNot = "it does not part two";
                continue;
            }
            seam.upper = parts->first;
            seam.lower = parts->second;
            seam.joint = i < wanted.size() ? wanted[i] : wanted.empty() ? Joint::Butt : wanted.back();
            if (seam.joint != Joint::Butt && isStump(i)) {
                seam.joint = Joint::Butt;
                seam.whyNot = "it is shorter than two overlaps";
            }
            if (seam.joint == Joint::Butt)
                continue;
            m_open.push_back(i);
            for (const bool isOther : {false, true}) {
                auto strip = stripOf(i, isOther ? seam.upper : seam.lower);
                if (!strip)
                    return strip.error();
                m_strips[{i, isOther}] = strip.take();
            }
        }
        if (!choose(0))
            chooseOneByOne();
        for (const size_t i : m_open)
            if (auto ok = apply(i); !ok)
                return ok.error();
        return std::move(m_out);
    }

  private:
    /// A short seam that ends where others meet has no room for a strip between them.
    bool isStump(size_t i) const {
        const Line& path = m_division.seams[i].path;
        if (m_division.seams[i].lengthMm >= 2 * m_options.overlapMm)
            return false;
        return std::any_of(m_division.seams.begin(), m_division.seams.end(), [&](const Seam& other) {
            if (&other == &m_division.seams[i])
                return false;
            return geometry::distanceTo(other.path, path.start) < 0.05 ||
                   geometry::distanceTo(other.path, geometry::endOf(path)) < 0.05;
        });
    }

    base::Result<Shapes> stripOf(size_t i, size_t lower) const {
        Polygon way = wayOf(m_division.seams[i].path);
        const double by = m_options.overlapMm;
        way.front() = way.front() + geometry::direction(way.front() - way[1]) * by;
        way.back() = way.back() + geometry::direction(way.back() - way[way.size() - 2]) * by;
        Line line{way.front(), {}};
        for (size_t k = 1; k < way.size(); ++k)
            line.segments.push_back(geometry::Segment::line(way[k]));
        auto band = geometry::strokeOutline(line, 2 * by, geometry::Cap::Butt,
                                            {.join = geometry::Join::Mitre}, m_progress);
        if (!band)
            return band.error();
        auto in = geometry::intersect(band.value(), {m_division.parts[lower]}, m_progress);
        if (!in)
            return in.error();
        // What lies at the seam; not what the band meets beyond an opening.
        const Place middle = placeOn(wayOf(m_division.seams[i].path), m_division.seams[i].lengthMm / 2);
        Shapes out;
        for (const Shape& one : in.value())
            if (const auto edge = geometry::nearestOnEdge(one, middle.at, 0.01); edge)
                out.push_back(one);
        return out;
    }

    bool fitsWith(size_t part) const {
        Polygon points = geometry::flatten(m_division.parts[part].outline, 0.05);
        for (const auto& [seam, isOther] : m_chosen) {
            const size_t upper = isOther ? m_out.seams[seam].lower : m_out.seams[seam].upper;
            if (upper == part)
                for (const Shape& strip : m_strips.at({seam, isOther}))
                    for (const Point p : geometry::flatten(strip.outline, 0.05))
                        points.push_back(p);
        }
        const geometry::Contour around = geometry::contourThrough(geometry::convexHull(std::move(points)));
        return fitOf({around, {}}, m_room, 0.05).isFitting;
    }
    bool add(size_t seam, bool isOther) {
        if (m_strips.at({seam, isOther}).empty())
            return false;
        m_chosen.emplace_back(seam, isOther);
        if (fitsWith(isOther ? m_out.seams[seam].lower : m_out.seams[seam].upper))
            return true;
        m_chosen.pop_back();
        return false;
    }

    /// Depth first: the sides of all seams from the k-th on.
    bool choose(size_t k) {
        if (k == m_open.size())
            return true;
        if (m_progress.isCancelled() || ++m_tries > 800)
            return false;
        for (const bool isOther : {false, true})
            if (add(m_open[k], isOther)) {
                if (choose(k + 1))
                    return true;
                m_chosen.pop_back();
            }
        return false;
    }
    /// Where not all can be had: as many as there can be, one after the other.
    void chooseOneByOne() {
        m_chosen.clear();
        std::vector<size_t> done;
        for (const size_t i : m_open) {
            if (add(i, false) || add(i, true)) {
                done.push_back(i);
                continue;
            }
            m_out.seams[i].joint = Joint::Butt;
            m_out.seams[i].lacksRoom = true;
            m_out.seams[i].whyNot = "with an overlap neither part would fit";
        }
        m_open = std::move(done);
    }

    base::Status apply(size_t i) {
        SeamJoint& seam = m_out.seams[i];
        const auto chosen =
            std::find_if(m_chosen.begin(), m_chosen.end(), [&](const auto& c) { return c.first == i; });
        if (chosen->second)
            std::swap(seam.upper, seam.lower);
        auto strip = geometry::subtract(m_strips.at({i, chosen->second}), m_taken, m_progress);
        if (!strip)
            return strip.error();
        Shapes own = strip.take();
        // Next to the seam; what another strip has cut off is no part of it.
        const Polygon way = wayOf(m_division.seams[i].path);
        std::erase_if(own, [&](const Shape& one) {
            for (double along = 0; along < m_division.seams[i].lengthMm; along += 0.5)
                if (geometry::nearestOnEdge(one, placeOn(way, along).at, 0.01))
                    return false;
            return true;
        });
        if (own.empty()) {
            seam.joint = Joint::Butt;
            seam.whyNot = "other seams leave no room for an overlap";
            return base::Done{};
        }
        seam.strip = own.front();
        auto wider = geometry::weld({m_out.parts[seam.upper], seam.strip}, m_progress);
        if (!wider)
            return wider.error();
        m_out.parts[seam.upper] = wider->front();
        auto around = geometry::offset({seam.strip}, m_options.betweenStripsMm, {}, m_progress);
        if (!around)
            return around.error();
        m_taken.insert(m_taken.end(), around->shapes.begin(), around->shapes.end());
        if (auto ok = addMarks(i); !ok)
            return ok;
        return seam.joint == Joint::Keyed ? addKeys(i) : base::Done{};
    }

    /// Lines along a strip's far edge.
    base::Status addMarks(size_t i) {
        SeamJoint& seam = m_out.seams[i];
        const double by = m_options.overlapMm - m_options.markInsetMm;
        if (!(by > 0.5))
            return base::Done{};
        const Polygon way = wayOf(m_division.seams[i].path);
        const Place middle = placeOn(way, m_division.seams[i].lengthMm / 2);
        const double side = isLeft(i, middle) ? by : -by;
        Line mark;
        for (size_t k = 0; k < way.size(); ++k) { // at a bend both stretches move aside
            const Point in = geometry::direction(way[k] - way[k > 0 ? k - 1 : k]),
                        out = geometry::direction(way[k + 1 < way.size() ? k + 1 : k] - way[k]);
            const Point normal =
                geometry::direction(leftOf(k > 0 ? in : out) + leftOf(k + 1 < way.size() ? out : in));
            const double slant = std::max(0.3, geometry::dot(normal, leftOf(k > 0 ? in : out)));
            const Point p = way[k] + normal * (side / slant);
            if (k == 0)
                mark.start = p;
            else
                mark.segments.push_back(geometry::Segment::line(p));
        }
        auto inside = geometry::offset({seam.strip}, -m_options.markInsetMm / 2, {}, m_progress);
        if (!inside)
            return inside.error();
        for (const Shape& one : inside->shapes) {
            auto clipped = geometry::clippedTo(mark, one);
            if (!clipped)
                return clipped.error();
            for (const Line& line : clipped.value())
                if (geometry::contourLength(line) > 5)
                    seam.marks.push_back(line);
        }
        return base::Done{};
    }

    // ---- windows

    /// The next forms for so many windows: one that no seam has alone, or a pair that no seam begins with.
    std::vector<KeyCode> codesFor(int count) const {
        const auto& all = keyCodes();
        const int n = static_cast<int>(all.size());
        const KeysUsed& used = m_out.keysUsed;
        if (count == 1)
            return used.alone < n ? std::vector<KeyCode>{all[static_cast<size_t>(used.alone)]}
                                  : std::vector<KeyCode>{};
        for (int apart = 1, k = used.pairs; apart < n; k -= n - apart, ++apart)
            if (k < n - apart) {
                std::vector<KeyCode> out{all[static_cast<size_t>(k)], all[static_cast<size_t>(k + apart)]};
                for (int i = 2; i < count; ++i)
                    out.push_back(all[static_cast<size_t>((k + apart * i) % n)]);
                return out;
            }
        return {};
    }

    base::Status addKeys(size_t i) {
        SeamJoint& seam = m_out.seams[i];
        const double length = m_division.seams[i].lengthMm;
        const double side = std::min(10.0, m_options.overlapMm - 2 * m_options.aroundKeyMm);
        auto inside = geometry::offset({seam.strip}, -m_options.aroundKeyMm, {}, m_progress);
        if (!inside)
            return inside.error();
        const int wanted = length < 45    ? 1
                           : length < 120 ? 2
                                          : std::min(6, 1 + static_cast<int>(length / 80));
        for (int count = wanted; count >= 1 && seam.keys.empty(); --count) {
            const std::vector<KeyCode> codes = codesFor(count);
            if (codes.empty()) {
                seam.whyNot = "all windows are used up";
                continue;
            }
            seam.keys = placed(i, codes, side, inside->shapes);
        }
        if (!seam.keys.empty()) {
            seam.whyNot.clear();
        } else {
            seam.joint = Joint::Overlap;
            if (seam.whyNot.empty())
                seam.whyNot = "it leaves no room for a window with " +
                              std::to_string(static_cast<int>(m_options.aroundKeyMm)) + " mm around";
            return base::Done{};
        }
        ++(seam.keys.size() == 1 ? m_out.keysUsed.alone : m_out.keysUsed.pairs);
        Shapes windows;
        for (const Key& key : seam.keys)
            windows.push_back({geometry::contourThrough(key.window), {}});
        for (const size_t part : {seam.upper, seam.lower}) {
            auto cut = geometry::subtract({m_out.parts[part]}, windows, m_progress);
            if (!cut)
                return cut.error();
            m_out.parts[part] = cut->front();
        }
        return base::Done{};
    }

    /// Windows along a seam, each near its place; none when one of them finds no room.
    std::vector<Key> placed(size_t i, const std::vector<KeyCode>& codes, double side,
                            const Shapes& inside) const {
        const Polygon way = wayOf(m_division.seams[i].path);
        const double length = m_division.seams[i].lengthMm;
        // Uneven, so that a part turned round does not meet them: the shares of a seam before each window.
        const auto share = [&](size_t k) {
            const double even = (static_cast<double>(k) + 0.5) / static_cast<double>(codes.size());
            return even - 0.12 / static_cast<double>(codes.size()) * (k % 2 == 0 ? 1.0 : -0.4);
        };
        std::vector<Key> out;
        for (size_t k = 0; k < codes.size(); ++k) {
            std::optional<Key> key;
            for (double by = 0; by <= length / 2 && !key; by += 1)
                for (const double along : {share(k) * length + by, share(k) * length - by}) {
                    if (along < 0 || along > length)
                        continue;
                    const Place place = placeOn(way, along);
                    const Point inwards = leftOf(place.along) * (isLeft(i, place) ? 1.0 : -1.0);
                    Key candidate{codes[k], keyWindow(codes[k], side - 0.01)};
                    const Point middle = place.at + inwards * (m_options.overlapMm / 2);
                    for (Point& p : candidate.window)
                        p = middle + place.along * p.x + leftOf(place.along) * p.y;
                    if (isHeld(candidate.window, inside) && isApart(candidate.window, out)) {
                        key = std::move(candidate);
                        break;
                    }
                }
            if (!key)
                return {};
            out.push_back(std::move(*key));
        }
        return out;
    }
    bool isLeft(size_t i, const Place& place) const {
        return geometry::contains(m_out.seams[i].strip, place.at + leftOf(place.along) * 0.5);
    }
    static bool isHeld(const Polygon& window, const Shapes& inside) {
        return std::any_of(inside.begin(), inside.end(), [&](const Shape& shape) {
            // Sides are short against the strip's bends: their ends and middles tell.
            for (size_t i = 0; i < window.size(); ++i)
                if (!geometry::contains(shape, window[i]) ||
                    !geometry::contains(shape, geometry::middle(window[i], window[(i + 1) % window.size()])))
                    return false;
            return true;
        });
    }
    bool isApart(const Polygon& window, const std::vector<Key>& others) const {
        const geometry::Box box = geometry::bounds(geometry::Polygons{window}).grownBy(m_options.aroundKeyMm);
        return std::none_of(others.begin(), others.end(), [&](const Key& other) {
            return box.meets(geometry::bounds(geometry::Polygons{other.window}));
        });
    }

    const Division& m_division;
    const Room m_room;
    const JointOptions& m_options;
    const base::Progress& m_progress;
    JoinedParts m_out;
    std::vector<size_t> m_open; ///< seams that are to overlap
    std::map<std::pair<size_t, bool>, Shapes> m_strips;
    std::vector<std::pair<size_t, bool>> m_chosen; ///< a seam, and whether its parts are exchanged
    Shapes m_taken;                                ///< by strips, and a little around them
    int m_tries = 0;
};

} // namespace

std::optional<std::pair<size_t, size_t>> partsAt(const Division& division, size_t seam) {
    const Polygon way = wayOf(division.seams[seam].path);
    // A place well inside; a bend may lie in the middle, so others are asked too.
    for (const double share : {0.5, 0.37, 0.66, 0.2, 0.83}) {
        const Place place = placeOn(way, share * division.seams[seam].lengthMm);
        std::optional<size_t> left, right;
        for (size_t i = 0; i < division.parts.size(); ++i) {
            if (geometry::contains(division.parts[i], place.at + leftOf(place.along) * 0.02))
                left = i;
            if (geometry::contains(division.parts[i], place.at - leftOf(place.along) * 0.02))
                right = i;
        }
        if (left && right && *left != *right)
            return std::pair{std::min(*left, *right), std::max(*left, *right)};
    }
    return std::nullopt;
}

int seamsWithoutRoom(const JoinedParts& parts) {
    return static_cast<int>(std::count_if(parts.seams.begin(), parts.seams.end(),
                                          [](const SeamJoint& seam) { return seam.lacksRoom; }));
}

base::Result<std::vector<Division>> divisionsFor(const Ground& ground, const Room& room, Joint joint,
                                                 const JointOptions& how, const Options& options,
                                                 const base::Progress& progress) {
    if (joint == Joint::Butt)
        return divisions(ground, room, options, progress);
    // Parts need room for strips, some of them; less of the mat is used only where it must be. The whole room says how few
    // parts there can be at best: who reaches that with all strips is taken, else the fewest parts of all tries.
    static constexpr std::pair<double, double> kLess[] = {{0, 0}, {0, 0.5},   {0.5, 0}, {0, 1},
                                                          {1, 0}, {0.5, 0.5}, {1, 1},   {2, 2}};
    const bool isSquare = std::abs(room.widthMm - room.heightMm) < 1;
    std::vector<Division> best, partly;
    int fewestWithout = 1 << 20;
    size_t fewest = 0;
    for (const auto& [across, down] : kLess) {
        const Room within{room.widthMm - across * how.overlapMm, room.heightMm - down * how.overlapMm};
        if (!(within.widthMm > 0) || !(within.heightMm > 0) || (isSquare && across > down))
            continue;
        auto ways = divisions(ground, within, options, progress);
        if (!ways) {
            if (ways.error().code == Code::Cancelled || (best.empty() && partly.empty()))
                return ways.error();
            continue;
        }
        fewest = fewest == 0 ? ways->front().parts.size() : fewest;
        std::vector<Division> found = ways.take(), sound;
        for (Division& way : found) {
            auto parts = joined(way, {joint}, room, how, progress);
            if (!parts)
                return parts.error();
            const int without = seamsWithoutRoom(*parts);
            if (without == 0) {
                sound.push_back(std::move(way));
            } else if (without < fewestWithout && sound.empty()) {
                fewestWithout = without;
                partly = {std::move(way)};
            }
        }
        if (!sound.empty() && (best.empty() || sound.front().price < best.front().price))
            best = std::move(sound);
        if (!best.empty() && best.front().parts.size() <= fewest && best.front().slivers == 0)
            return best;
        if (options.isRough)
            break;
    }
    if (best.empty())
        return partly;
    // Fewer parts, some of them edge to edge: that may be preferred.
    if (!partly.empty() && partly.front().parts.size() < best.front().parts.size())
        best.push_back(partly.front());
    return best;
}

base::Result<JoinedParts> joined(const Division& division, const std::vector<Joint>& wanted, const Room& room,
                                 const JointOptions& options, const base::Progress& progress) {
    const bool overlaps =
        std::any_of(wanted.begin(), wanted.end(), [](Joint one) { return one != Joint::Butt; });
    if (overlaps && !(options.overlapMm > 0))
        return Error{Code::InvalidArgument, "Give the overlap as a length above zero."};
    const bool isKeyed =
        std::any_of(wanted.begin(), wanted.end(), [](Joint one) { return one == Joint::Keyed; });
    if (isKeyed && options.overlapMm - 2 * options.aroundKeyMm < 4)
        return Error{Code::InvalidArgument,
                     "A window of 4 mm with 3 mm of card around needs an overlap of 10 mm."};
    return Joining(division, room, options, progress).run(wanted);
}

} // namespace thinline::split
