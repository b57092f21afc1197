// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "job/Source.h"
#include "support/Jobs.h"
#include "support/Templates.h"

#include <gtest/gtest.h>

#include <functional>
#include <random>
#include <sstream>

// Folding templates as files: each net in every way in which programs write folds. What is found is held against the truth:
// every fold, none invented, ends on the outline within 0.1 mm, no slit left, the outline as it was drawn.
namespace thinline::job {
namespace {

using geometry::Point;
using support::Template;

enum class Way { Groups, Dashes, ShortCuts, Bare };

/// How one file is written.
struct Written {
    Way way = Way::Groups;
    bool isDxf = false;
    bool isLoose = false;      ///< the outline as single strokes in any order and direction
    bool areFoldsWhole = true; ///< else in two strokes each, drawn from the middle
    double strayMm = 0;        ///< loose ends and ends of folds stray by so much at most
    geometry::Transform placed = {};
    double cutMm = 3, leftMm = 2; ///< of short cuts
};

struct Strokes {
    std::vector<std::pair<Point, Point>> outline, folds;
    std::vector<geometry::Contour> round; ///< closed curves, one stroke each
};

class Writer {
  public:
    Writer(const Written& how, unsigned seed) : m_how(how), m_random(seed) {}

    std::string text(const Template& what) {
        geometry::Box box;
        for (const geometry::Shape& piece : what.pieces)
            box.include(geometry::bounds(geometry::transformed(piece, m_how.placed)));
        m_corner = box.least - Point{5, 5};
        m_wide = box.width() + 10;
        m_high = box.height() + 10;
        Strokes all = strokesOf(what);
        return m_how.isDxf ? dxf(all) : svg(all);
    }
    /// Where a place of the template is on the page, from its upper left corner.
    Point onPage(Point p) const { return m_how.placed(p) - m_corner; }

  private:
    Point strayed(Point p) {
        std::uniform_real_distribution<double> by(-m_how.strayMm, m_how.strayMm);
        return m_how.strayMm > 0 ? p + Point{by(m_random), by(m_random)} * 0.7 : p;
    }

    Strokes strokesOf(const Template& what) {
        Strokes out;
        for (const geometry::Shape& piece : what.pieces) {
            std::vector<geometry::Contour> contours{piece.outline};
            contours.insert(contours.end(), piece.openings.begin(), piece.openings.end());
            for (geometry::Contour contour : contours) {
                contour = geometry::transformed(contour,
                                                m_how.placed.then(geometry::Transform::move(m_corner * -1)));
                const bool isStraight = std::all_of(contour.segments.begin(), contour.segments.end(),
                                                    [](const auto& s) { return s.isLine; });
                if (!isStraight || !m_how.isLoose) {
                    out.round.push_back(contour);
                    continue;
                }
                Point from = contour.start;
                for (const geometry::Segment& s : contour.segments) {
                    std::pair<Point, Point> stroke{strayed(from), strayed(s.end)};
                    if (m_random() % 2)
                        std::swap(stroke.first, stroke.second);
                    out.outline.push_back(stroke);
                    from = s.end;
                }
            }
        }
        std::shuffle(out.outline.begin(), out.outline.end(), m_random);
        for (const auto& [from, to] : what.folds) {
            const Point a = strayed(onPage(from)), b = strayed(onPage(to)), middle = (a + b) * 0.5;
            if (m_how.areFoldsWhole)
                out.folds.emplace_back(a, b);
            else {
                out.folds.emplace_back(middle, a);
                out.folds.emplace_back(middle, b);
            }
        }
        if (m_how.way == Way::ShortCuts)
            out.folds = cutShort(out.folds);
        return out;
    }

    /// Rows of cuts from end to end.
    std::vector<std::pair<Point, Point>> cutShort(const std::vector<std::pair<Point, Point>>& folds) const {
        std::vector<std::pair<Point, Point>> out;
        for (const auto& [from, to] : folds) {
            const double length = geometry::distance(from, to);
            const Point along = geometry::direction(to - from);
            const double count =
                std::max(3.0, std::round((length + m_how.leftMm) / (m_how.cutMm + m_how.leftMm)));
            const double pitch = (length + m_how.leftMm) / count;
            for (double i = 0; i < count; ++i)
                out.emplace_back(from + along * (i * pitch),
                                 from + along * (i * pitch + pitch - m_how.leftMm));
        }
        return out;
    }

    // ---- SVG

    static std::string number(double value) {
        std::ostringstream out;
        out.precision(12);
        out << value;
        return out.str();
    }
    static std::string at(Point p) { return number(p.x) + " " + number(p.y); }
    static std::string pathOf(const geometry::Contour& contour) {
        std::string out = "M" + at(contour.start);
        for (const geometry::Segment& s : contour.segments)
            out +=
                s.isLine ? " L" + at(s.end) : " C" + at(s.control1) + " " + at(s.control2) + " " + at(s.end);
        return out + " Z";
    }
    std::string svg(const Strokes& all) const {
        std::string cuts, folds;
        for (const geometry::Contour& one : all.round)
            cuts += "<path d='" + pathOf(one) + "'/>\n";
        for (const auto& [a, b] : all.outline)
            cuts += "<path d='M" + at(a) + " L" + at(b) + "'/>\n";
        for (const auto& [a, b] : all.folds)
            folds += "<line x1='" + number(a.x) + "' y1='" + number(a.y) + "' x2='" + number(b.x) + "' y2='" +
                     number(b.y) + "'/>\n";
        const std::string style = " fill='none' stroke='#222222' stroke-width='0.3'";
        std::string out = "<svg xmlns='http://www.w3.org/2000/svg' width='" + number(m_wide) +
                          "mm' height='" + number(m_high) + "mm' viewBox='0 0 " + number(m_wide) + " " +
                          number(m_high) + "'>\n";
        switch (m_how.way) {
        case Way::Groups:
            out += "<g id='cut'" + style + ">" + cuts + "</g><g id='folds'" + style + ">" + folds + "</g>";
            break;
        case Way::Dashes:
            out += "<g" + style + ">" + cuts + "</g><g" + style + " stroke-dasharray='3 2'>" + folds + "</g>";
            break;
        case Way::ShortCuts:
        case Way::Bare:
            out += "<g" + style + ">" + cuts + folds + "</g>";
            break;
        }
        return out + "</svg>\n";
    }

    // ---- DXF, y upwards

    std::string pair(int code, const std::string& value) const {
        return std::to_string(code) + "\n" + value + "\n";
    }
    std::string vertex(Point p) const { return pair(10, number(p.x)) + pair(20, number(m_high - p.y)); }
    std::string line(Point a, Point b, const std::string& layer, const std::string& type) const {
        return pair(0, "LINE") + pair(8, layer) + (type.empty() ? "" : pair(6, type)) + vertex(a) +
               pair(11, number(b.x)) + pair(21, number(m_high - b.y));
    }
    std::string dxf(const Strokes& all) const {
        const std::string cut = m_how.way == Way::Groups ? "CUT" : "0",
                          fold = m_how.way == Way::Groups ? "FOLD" : "0",
                          type = m_how.way == Way::Dashes ? "DASHED" : "";
        std::string out = pair(0, "SECTION") + pair(2, "HEADER") + pair(9, "$INSUNITS") + pair(70, "4") +
                          pair(0, "ENDSEC") + pair(0, "SECTION") + pair(2, "ENTITIES");
        for (const geometry::Contour& one : all.round) {
            const geometry::Polygon ring =
                geometry::flatten(one, 0.0005); // curves as programs without any write them
            out +=
                pair(0, "LWPOLYLINE") + pair(8, cut) + pair(90, std::to_string(ring.size())) + pair(70, "1");
            for (const Point p : ring)
                out += vertex(p);
        }
        for (const auto& [a, b] : all.outline)
            out += line(a, b, cut, "");
        for (const auto& [a, b] : all.folds)
            out += line(a, b, fold, type);
        return out + pair(0, "ENDSEC") + pair(0, "EOF");
    }

    const Written& m_how;
    std::mt19937 m_random;
    Point m_corner;
    double m_wide = 0, m_high = 0;
};

struct Found {
    size_t pieces = 0, openings = 0;
    double missingMm = 0, inventedMm = 0; ///< of folds
    double endsMm = 0; ///< the farthest end of a fold from the edge and from all other folds
    double outlineMm = 0;
    int otherLines = 0;
    bool isAsked = false;
};

/// How long the stretches of a fold are that lie along none of others, within a tenth.
double lengthBeside(Point from, Point to, const std::vector<std::pair<Point, Point>>& others) {
    constexpr double kStep = 0.05, kAlongMm = 0.1;
    const double length = geometry::distance(from, to);
    double out = 0;
    for (double at = kStep / 2; at < length; at += kStep) {
        const Point p = from + (to - from) * (at / length);
        const bool isOn = std::any_of(others.begin(), others.end(), [&](const auto& other) {
            return geometry::distanceToStretch(p, other.first, other.second) < kAlongMm;
        });
        out += isOn ? 0 : kStep;
    }
    return out;
}

Found lookedAt(const Template& what, const Written& how, unsigned seed) {
    Writer writer(how, seed);
    const std::string text = writer.text(what);
    Found out;
    const base::Bytes bytes(text.begin(), text.end());
    auto opened =
        openDrawing(newJob(shippedCatalogue()), {bytes, how.isDxf ? "net.dxf" : "net.svg", recognise(bytes)},
                    shippedCatalogue(), support::shippedFonts());
    if (!opened) {
        ADD_FAILURE() << opened.error().message;
        return out;
    }
    const State state = support::made(std::move(opened->job));
    // Where the page lies in the design: the outlines' boxes tell, for nothing moves them otherwise.
    geometry::Box drawn, there;
    for (const geometry::Shape& piece : what.pieces)
        for (const Point p : geometry::flatten(piece.outline, 0.0005))
            drawn.include(writer.onPage(p));
    std::vector<std::pair<Point, Point>> folds;
    for (const design::Piece& piece : state.made.pieces->now) {
        ++out.pieces;
        out.openings += piece.shape().openings.size();
        there.include(geometry::bounds(piece.shape()));
        for (const design::PieceLine& line : piece.body->lines)
            if (std::holds_alternative<design::Fold>(line.does)) {
                Point from = line.path.start;
                for (const geometry::Segment& s : line.path.segments)
                    folds.emplace_back(std::exchange(from, s.end), s.end);
            } else
                ++out.otherLines;
    }
    const Point by = there.least - drawn.least;
    std::vector<std::pair<Point, Point>> wanted;
    for (const auto& [from, to] : what.folds)
        wanted.emplace_back(writer.onPage(from) + by, writer.onPage(to) + by);
    for (const auto& [from, to] : wanted)
        out.missingMm += lengthBeside(from, to, folds);
    for (const auto& [from, to] : folds)
        out.inventedMm += lengthBeside(from, to, wanted);
    geometry::Polygons truth;
    for (const geometry::Shape& piece : what.pieces)
        for (geometry::Polygon ring : geometry::flatten(piece, 0.0005)) {
            for (Point& p : ring)
                p = writer.onPage(p) + by;
            truth.push_back(ring);
        }
    const auto toTruth = [&](Point p) {
        double least = 1e9;
        for (const geometry::Polygon& ring : truth)
            for (size_t i = 0; i < ring.size(); ++i)
                least = std::min(least, geometry::distanceToStretch(p, ring[i], ring[(i + 1) % ring.size()]));
        return least;
    };
    for (const design::Piece& piece : state.made.pieces->now) {
        for (const geometry::Polygon& ring : geometry::flatten(piece.shape(), 0.0005))
            for (const Point p : ring)
                out.outlineMm = std::max(out.outlineMm, toTruth(p));
        for (const design::PieceLine& line : piece.body->lines)
            for (const Point end : {line.path.start, geometry::endOf(line.path)}) {
                double least = geometry::nearestOnEdge(piece.shape(), end)->distance;
                for (const design::PieceLine& other : piece.body->lines)
                    if (&other != &line)
                        least = std::min(least, geometry::distanceTo(other.path, end));
                out.endsMm = std::max(out.endsMm, least);
            }
    }
    for (const auto& source : state.job.sources)
        for (const design::LineKind& kind : std::get<Drawing>(source->what).kinds)
            out.isAsked = out.isAsked || !kind.isSure;
    return out;
}

std::vector<Template> nets() {
    return {support::box(),  support::envelope(), support::lantern(), support::wheel(),
            support::card(), support::tray(),     support::gate(),    support::sleeve()};
}

std::vector<geometry::Transform> places() {
    using geometry::Transform;
    const Transform turned = geometry::turnAbout({60, 50}, 0.41);
    return {Transform{}, turned, turned.then(Transform::scale(25.4 / 30, 25.4 / 30))};
}

const char* wayWord(Way way) {
    return way == Way::Groups      ? "in a layer of their own"
           : way == Way::Dashes    ? "dashed"
           : way == Way::ShortCuts ? "short cuts"
                                   : "nothing said";
}

TEST(DrawnTemplates, EveryFoldIsFoundAndNoneInvented) {
    unsigned seed = 1;
    int cases = 0;
    for (const Template& what : nets())
        for (const Way way : {Way::Groups, Way::Dashes, Way::ShortCuts})
            for (const bool isDxf : {false, true})
                for (const geometry::Transform& placed : places())
                    for (const int variant : {0, 1, 2, 3}) {
                        Written how{way,
                                    isDxf,
                                    variant % 2 == 1,
                                    variant < 2 || way == Way::ShortCuts,
                                    variant == 3 ? 0.04 : 0,
                                    placed};
                        SCOPED_TRACE(what.name + (isDxf ? ", DXF, " : ", SVG, ") + wayWord(way) + ", place " +
                                     std::to_string(placed.a) + ", variant " + std::to_string(variant));
                        const Found found = lookedAt(what, how, seed++);
                        ++cases;
                        size_t openings = 0;
                        for (const geometry::Shape& piece : what.pieces)
                            openings += piece.openings.size();
                        EXPECT_EQ(found.pieces, what.pieces.size());
                        EXPECT_EQ(found.openings, openings);
                        EXPECT_LT(found.missingMm, 0.2);
                        EXPECT_LT(found.inventedMm, 0.2);
                        EXPECT_EQ(found.otherLines, 0) << "a slit, or what was not understood";
                        EXPECT_LT(found.endsMm, 0.1);
                        EXPECT_LT(found.outlineMm, how.strayMm > 0
                                                       ? 0.1
                                                       : 0.0015); // curves are flattened at half a micrometre
                        EXPECT_FALSE(found.isAsked);
                    }
    EXPECT_EQ(cases, 8 * 3 * 2 * 3 * 4);
}

TEST(DrawnTemplates, ShortCutsMayBeLongOrShort) {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> cut(1, 6), left(0.8, 2.5), turn(0, 3);
    unsigned seed = 100;
    for (const Template& what : nets())
        for (int i = 0; i < 12; ++i) {
            Written how{Way::ShortCuts,
                        i % 2 == 1,
                        i % 3 > 0,
                        true,
                        i % 4 == 3 ? 0.03 : 0,
                        geometry::turnAbout({60, 50}, turn(random))};
            how.cutMm = cut(random);
            how.leftMm = std::min(left(random), how.cutMm * 1.5);
            SCOPED_TRACE(what.name + ", " + std::to_string(how.cutMm) + " cut, " +
                         std::to_string(how.leftMm) + " left, " + std::to_string(i));
            const Found found = lookedAt(what, how, seed++);
            EXPECT_EQ(found.pieces, what.pieces.size());
            EXPECT_LT(found.missingMm, 0.2);
            EXPECT_LT(found.inventedMm, 0.2);
            EXPECT_EQ(found.otherLines, 0);
            EXPECT_LT(found.endsMm, 0.1);
        }
}

TEST(DrawnTemplates, ASolidLineThatMayBeFoldOrBorderIsAskedAbout) {
    unsigned seed = 900;
    for (const Template& what : nets())
        for (const bool isDxf : {false, true})
            for (const int shuffle : {0, 1, 2, 3, 4, 5}) { // drawn closed, then loose in five orders
                const bool isLoose = shuffle > 0;
                SCOPED_TRACE(what.name + (isDxf ? ", DXF" : ", SVG") + (isLoose ? ", loose" : ""));
                const Found found = lookedAt(what, {Way::Bare, isDxf, isLoose, true, 0, places()[1]}, seed++);
                EXPECT_EQ(found.pieces, what.pieces.size());
                EXPECT_EQ(found.inventedMm, 0);
                EXPECT_EQ(found.otherLines, 0);
                EXPECT_TRUE(found.isAsked);
                EXPECT_LT(found.outlineMm, 0.0015);
            }
}

} // namespace
} // namespace thinline::job
