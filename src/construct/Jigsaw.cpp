// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A jigsaw: a rectangle parted into rows and columns, every inner edge with a knob of its own.
//
// A knob is a round head on a neck, drawn by six cubics between the ends of its edge. Its place along the edge, its height, its
// width and its lean are drawn from a seeded random sequence, so the same number gives the same puzzle; a knob that comes out
// nearer to an earlier one than a stated measure is drawn again, so that no piece fits in two places. Neighbours are drawn
// from the same edge, run one way and the other: they share their border to the bit.
//
// How thin a piece can get is known beforehand: the neck of a knob, and what is left of a piece between the heads of two
// neighbours' knobs. Both are a stated share of the shorter edge; below the least neck of the stock the puzzle is refused, with
// the number of pieces that would do.
//
// One piece may have a shape of its own. It is laid over the others, which lose what lies under it: at a place, of a seeded
// sequence of places and sizes, where every neighbour stays one piece, large enough to be handled, and nothing becomes thinner
// than the least neck. Most places fail, so many are tried.
#include "construct/Blank.h"
#include "construct/Figures.h"
#include "construct/Set.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Necks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <random>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;

/// Shares of the edge's length, and how each knob differs.
struct Knob {
    double at = 0.5;     ///< of the neck's middle along the edge
    double high = 0.22;  ///< of the head
    double wide = 0.13;  ///< half the head's width
    double lean = 0;     ///< of the head's middle along the edge
    bool isLeft = false; ///< to the left of the edge as it runs
};
constexpr double kNeck = 0.06;            ///< half of it, at its narrowest
constexpr double kLeastShare = 2 * kNeck; ///< the narrowest place of a piece, in shorter edges
constexpr double kUnlike = 0.035;         ///< two knobs differ by at least so much, of the ranges below

std::array<double, 4> placeOf(const Knob& knob) {
    return {(knob.at - 0.42) / 0.16, (knob.high - 0.19) / 0.05, (knob.wide - 0.105) / 0.03,
            (knob.lean + 0.03) / 0.06};
}

class Knobs {
  public:
    explicit Knobs(unsigned seed) : m_random(seed) {}
    Knob next() {
        constexpr int kTries = 400;
        Knob knob;
        for (int i = 0; i < kTries; ++i) {
            knob = {0.42 + 0.16 * share(), 0.19 + 0.05 * share(), 0.105 + 0.03 * share(),
                    -0.03 + 0.06 * share(), share() < 0.5};
            if (isNew(knob))
                break;
        }
        m_known.push_back(placeOf(knob));
        return knob;
    }

  private:
    double share() { return static_cast<double>(m_random() >> 8) / static_cast<double>(1u << 24); }
    bool isNew(const Knob& knob) const {
        const auto here = placeOf(knob);
        return std::none_of(m_known.begin(), m_known.end(), [&](const auto& there) {
            double most = 0;
            for (size_t i = 0; i < 4; ++i)
                most = std::max(most, std::abs(here[i] - there[i]));
            return most < kUnlike;
        });
    }
    std::mt19937 m_random;
    std::vector<std::array<double, 4>> m_known;
};

/// The way from one corner to the next, without its first point.
std::vector<Segment> edgeThrough(Point from, Point to, const Knob& knob, double shortMm) {
    const double length = geometry::distance(from, to), unit = shortMm;
    const Point along = (to - from) * (1 / length), side = Point{along.y, -along.x} * (knob.isLeft ? 1 : -1);
    const auto at = [&](double a, double out) {
        return from + along * (length * knob.at + unit * a) + side * (unit * out);
    };
    const double n = kNeck, h = knob.high, w = knob.wide, l = knob.lean, middle = h * 0.55;
    std::vector<Segment> out;
    const auto curve = [&](Point c1, Point c2, Point end) { out.push_back(Segment::curve(c1, c2, end)); };
    curve(from + along * (length * knob.at * 0.5), at(-n * 1.2, -0.05), at(-n, 0.03));
    curve(at(-n * 0.9, 0.08), at(l - w, middle - 0.07), at(l - w, middle));
    curve(at(l - w, middle + 0.075), at(l - w * 0.55, h), at(l, h));
    curve(at(l + w * 0.55, h), at(l + w, middle + 0.075), at(l + w, middle));
    curve(at(l + w, middle - 0.07), at(n * 0.9, 0.08), at(n, 0.03));
    curve(at(n * 1.2, -0.05), to - along * (length * (1 - knob.at) * 0.5), to);
    return out;
}

struct Edge {
    Point from;
    std::vector<Segment> way;
};
Edge straight(Point from, Point to) {
    return {from, {Segment::line(to)}};
}
void append(Contour& contour, const Edge& edge, bool isForward) {
    Contour way{edge.from, edge.way};
    if (!isForward) { // an open way run back
        Contour back{edge.way.back().end, {}};
        for (size_t i = edge.way.size(); i-- > 0;) {
            const Segment& s = edge.way[i];
            const Point end = i == 0 ? edge.from : edge.way[i - 1].end;
            back.segments.push_back(s.isLine ? Segment::line(end)
                                             : Segment::curve(s.control2, s.control1, end));
        }
        way = std::move(back);
    }
    contour.segments.insert(contour.segments.end(), way.segments.begin(), way.segments.end());
}

// ---- a piece of its own shape

constexpr Figure kHidden[]{Figure::Heart, Figure::Star, Figure::Flower, Figure::Ellipse};

/// Other pieces under one of its own shape: what is left of them. Nothing where that spoils one.
struct Under {
    size_t part = 0;
    geometry::Shape left;
};
base::Result<std::optional<std::vector<Under>>> under(const std::vector<Part>& parts,
                                                      const std::vector<geometry::Box>& boxes,
                                                      const geometry::Shape& figure, double least,
                                                      const base::Progress& progress) {
    constexpr double kLeastLeft = 0.35; // of a piece
    using Out = std::optional<std::vector<Under>>;
    const geometry::Box box = geometry::bounds(figure);
    std::vector<Under> all;
    for (size_t i = 0; i < parts.size(); ++i) {
        if (!boxes[i].meets(box))
            continue;
        auto left = geometry::subtract({parts[i].body.shape}, {figure}, progress);
        if (!left)
            return left.error();
        const double before = geometry::area(parts[i].body.shape);
        if (left->size() != 1 || geometry::area(left->front()) < kLeastLeft * before ||
            !left->front().openings.empty())
            return Out();
        if (geometry::area(left->front()) < before - 1e-9)
            all.push_back({i, std::move(left->front())});
    }
    std::vector<const geometry::Shape*> narrow{&figure};
    for (const Under& one : all)
        narrow.push_back(&one.left);
    for (const geometry::Shape* shape : narrow) {
        auto necks = geometry::findNecks(*shape, least, progress);
        if (!necks)
            return necks.error();
        if (!necks->empty())
            return Out();
    }
    return Out(std::move(all));
}

base::Status hide(const Said& said, double unit, Built& out, const base::Progress& progress) {
    constexpr int kTries = 400;
    std::mt19937 random(static_cast<unsigned>(said.count("seed")) + 7919);
    const auto share = [&] { return static_cast<double>(random() >> 8) / static_cast<double>(1u << 24); };
    const Figure which = kHidden[said.count("hidden") - 1];
    std::vector<geometry::Box> boxes;
    for (const Part& part : out.parts)
        boxes.push_back(geometry::bounds(part.body.shape));
    for (int i = 0; i < kTries; ++i) {
        const double wide = unit * (1.1 + 0.9 * share());
        Recipe recipe = inProportion(which, {wide});
        if (which == Figure::Ellipse)
            recipe.values[1] = wide;
        auto made = make(recipe);
        if (!made)
            return made.error();
        const geometry::Box box = geometry::bounds(*made);
        const double rim = unit * 0.15, roomX = said["width"] - box.width() - 2 * rim,
                     roomY = said["height"] - box.height() - 2 * rim;
        if (roomX < 0 || roomY < 0)
            continue;
        const Point at{rim + roomX * share(), rim + roomY * share()};
        const geometry::Shape figure =
            geometry::transformed(*made, geometry::Transform::move(at - box.least));
        auto found = under(out.parts, boxes, figure, said["neck"], progress);
        if (!found)
            return found.error();
        if (!*found)
            continue;
        for (const Under& one : **found)
            out.parts[one.part].body.shape = one.left;
        out.parts.push_back({"hidden", "the piece of its own shape", {figure}});
        out.derived.push_back({"piece of its own shape, wide", {}, wide});
        return base::Done{};
    }
    return Error{Code::InvalidArgument, "There is no place for a piece of its own shape that spoils no other "
                                        "one; take fewer pieces, a smaller least "
                                        "neck, or another puzzle."};
}

base::Result<Built> build(const Said& said, const base::Progress& progress) {
    const double w = said["width"], h = said["height"];
    const int rows = said.count("rows"), columns = said.count("columns");
    const double cellX = w / columns, cellY = h / rows, unit = std::min(cellX, cellY), least = said["neck"];
    if (static_cast<size_t>(rows * columns) > kMostParts)
        return Error{Code::LimitExceeded, std::to_string(rows * columns) + " pieces are too many; up to " +
                                              std::to_string(kMostParts) + " are made."};
    if (unit * kLeastShare < least)
        return Error{
            Code::InvalidArgument,
            "Pieces of " + base::formatNumber(cellX, 1) + " by " + base::formatNumber(cellY, 1) +
                " mm would have necks of " + base::formatNumber(unit * kLeastShare, 2) + " mm, and " +
                base::formatNumber(least, 2) + " mm is the least; up to " +
                std::to_string(std::max(1, static_cast<int>(w * kLeastShare / least))) + " columns and " +
                std::to_string(std::max(1, static_cast<int>(h * kLeastShare / least))) + " rows hold."};
    if (std::max(cellX, cellY) > 2.5 * unit)
        return Error{
            Code::InvalidArgument,
            "Pieces of " + base::formatNumber(cellX, 1) + " by " + base::formatNumber(cellY, 1) +
                " mm are too long for knobs all round; choose rows and columns that make them squarer."};
    Knobs knobs(static_cast<unsigned>(said.count("seed")));
    const auto corner = [&](int row, int column) {
        return Point{column == columns ? w : cellX * column, row == rows ? h : cellY * row};
    };
    std::vector<std::vector<Edge>> across(static_cast<size_t>(rows + 1)), down(static_cast<size_t>(rows));
    for (int row = 0; row <= rows; ++row) {
        if (progress.isCancelled())
            return base::cancelled();
        for (int column = 0; column < columns; ++column) {
            const Point from = corner(row, column), to = corner(row, column + 1);
            across[static_cast<size_t>(row)].push_back(
                row == 0 || row == rows ? straight(from, to)
                                        : Edge{from, edgeThrough(from, to, knobs.next(), unit)});
        }
        for (int column = 0; row < rows && column <= columns; ++column) {
            const Point from = corner(row, column), to = corner(row + 1, column);
            down[static_cast<size_t>(row)].push_back(
                column == 0 || column == columns ? straight(from, to)
                                                 : Edge{from, edgeThrough(from, to, knobs.next(), unit)});
        }
    }
    Built out;
    out.isInPlace = true;
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            const auto r = static_cast<size_t>(row), c = static_cast<size_t>(column);
            Contour outline{corner(row, column), {}};
            append(outline, across[r][c], true);
            append(outline, down[r][c + 1], true);
            append(outline, across[r + 1][c], false);
            append(outline, down[r][c], false);
            const std::string row1 = std::to_string(row + 1), column1 = std::to_string(column + 1);
            out.parts.push_back({"r" + row1 + "c" + column1,
                                 "row " + row1 + ", piece " + column1,
                                 {{std::move(outline), {}}}});
        }
    out.derived.push_back({"piece, wide", {w, " / " + std::to_string(columns)}, cellX});
    out.derived.push_back({"piece, high", {h, " / " + std::to_string(rows)}, cellY});
    out.derived.push_back(
        {"narrowest neck", {base::formatNumber(kLeastShare, 2) + " × ", unit}, unit * kLeastShare});
    if (said.isChosen("hidden"))
        if (auto ok = hide(said, unit, out, progress); !ok)
            return ok.error();
    return out;
}

} // namespace

const Construction& jigsaw() {
    static const Construction it{
        "jigsaw",
        "Jigsaw",
        "A rectangle parted into pieces with knobs, no two alike; its own edge stays smooth.",
        {size("width", "Wide", 180, 20, 2000, "the whole picture"),
         size("height", "High", 120, 20, 2000, "the whole picture"),
         count("columns", "Pieces across", 6, 1, 60, "in every row"),
         count("rows", "Pieces down", 4, 1, 60, "in every column"),
         margin("neck", "Least neck", 1.5, 0.5, 10,
                "what holds in this card; a puzzle with thinner necks is refused"),
         choice("hidden", "A piece of its own shape", "none|heart|star|flower|disc",
                "hides among the others"),
         count("seed", "Another puzzle", 1, 1, 9999, "every number makes other knobs")},
        build,
        nullptr,
        "",
        "Small pieces are nothing for small children."};
    return it;
}

} // namespace thinline::construct
