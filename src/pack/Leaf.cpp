// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Leaf.h"

#include "geometry/Lines.h"
#include "raster/Canvas.h"

#include <algorithm>
#include <cmath>

extern "C" {
extern const unsigned char thinline_PagePlain_begin[], thinline_PagePlain_end[];
extern const unsigned char thinline_PageBold_begin[], thinline_PageBold_end[];
}

namespace thinline::pack {
namespace {

using formats::pdf::ClipTo;
using formats::pdf::Drawn;
using formats::pdf::Filled;
using formats::pdf::Pictured;
using formats::pdf::Written;
using geometry::Point;
using geometry::Transform;

base::Result<lettering::Typeface> shipped(const unsigned char* begin, const unsigned char* end,
                                          const std::string& style) {
    return lettering::Typeface::open({{"Lato", style}, std::make_shared<const base::Bytes>(begin, end)});
}

std::vector<geometry::Contour> contoursOf(const geometry::Polygons& rings) {
    std::vector<geometry::Contour> out;
    for (const geometry::Polygon& ring : rings)
        if (ring.size() > 2)
            out.push_back(geometry::contourThrough(ring));
    return out;
}

/// Draws a page into a picture.
class Painting {
  public:
    Painting(const formats::pdf::Page& page, double pxPerMm)
        : m_perMm(pxPerMm), m_canvas(px(page.widthMm), px(page.heightMm), {255, 255, 255}) {}

    void paint(const Filled& filled) {
        geometry::Polygons rings;
        for (const geometry::Contour& area : filled.areas)
            rings.push_back(toPx(geometry::flatten(area, 0.02)));
        m_canvas.fill(clipped(rings), filled.colour);
    }
    void paint(const Drawn& drawn) {
        const auto shade = static_cast<std::uint8_t>(std::lround(drawn.grey * 255));
        for (const geometry::Contour& line : drawn.lines) {
            geometry::Polygon points = geometry::flatten(line, 0.02);
            points.push_back(geometry::endOf(line));
            double along = 0;
            for (std::size_t i = 0; i + 1 < points.size(); ++i)
                stroke(points[i], points[i + 1], drawn, along, {shade, shade, shade});
        }
    }
    void paint(const Written& line) {
        geometry::Polygons rings;
        for (const lettering::Glyph& glyph : line.run->glyphs)
            for (const geometry::Contour& contour : glyph.contours) {
                geometry::Polygon ring = geometry::flatten(contour, 0.003);
                for (Point& p : ring)
                    p = (line.at + (glyph.at + p) * line.sizeMm) * m_perMm;
                rings.push_back(std::move(ring));
            }
        m_canvas.fill(rings, line.colour);
    }
    void paint(const Pictured& one) {
        const raster::Picture& from = *one.picture;
        const int left = px(one.at.least.x), top = px(one.at.least.y), right = px(one.at.most.x),
                  bottom = px(one.at.most.y);
        for (int y = std::max(0, top); y < std::min(bottom, m_canvas.height()); ++y)
            for (int x = std::max(0, left); x < std::min(right, m_canvas.width()); ++x) {
                const std::uint8_t* pixel =
                    from.row(std::min(from.height - 1, (y - top) * from.height / std::max(1, bottom - top))) +
                    3 * std::min(from.width - 1, (x - left) * from.width / std::max(1, right - left));
                m_canvas.data()[static_cast<std::size_t>(y) * static_cast<std::size_t>(m_canvas.width()) +
                                static_cast<std::size_t>(x)] =
                    0xff000000u | static_cast<std::uint32_t>(pixel[0] << 16 | pixel[1] << 8 | pixel[2]);
            }
    }
    void paint(const ClipTo& clip) { m_clip = clip.box; }
    raster::Picture picture() const { return m_canvas.picture(); }

  private:
    int px(double mm) const { return std::max(0, static_cast<int>(std::lround(mm * m_perMm))); }
    geometry::Polygon toPx(geometry::Polygon ring) const {
        for (Point& p : ring)
            p = p * m_perMm;
        return ring;
    }

    /// Rings cut off at the window, side by side (Sutherland and Hodgman 1974).
    geometry::Polygons clipped(geometry::Polygons rings) const {
        if (m_clip.isEmpty())
            return rings;
        for (geometry::Polygon& ring : rings)
            for (int side = 0; side < 4; ++side) {
                geometry::Polygon kept;
                for (std::size_t i = 0; i < ring.size(); ++i) {
                    const Point a = ring[i], b = ring[(i + 1) % ring.size()];
                    const double da = inside(a, side), db = inside(b, side);
                    if (da >= 0)
                        kept.push_back(a);
                    if ((da < 0) != (db < 0))
                        kept.push_back(a + (b - a) * (da / (da - db)));
                }
                ring = std::move(kept);
            }
        return rings;
    }
    double inside(Point p, int side) const {
        switch (side) {
        case 0:
            return p.x - m_clip.least.x * m_perMm;
        case 1:
            return m_clip.most.x * m_perMm - p.x;
        case 2:
            return p.y - m_clip.least.y * m_perMm;
        default:
            return m_clip.most.y * m_perMm - p.y;
        }
    }

    /// One straight stretch of a line, its dashes going on from `along` mm.
    void stroke(Point a, Point b, const Drawn& drawn, double& along, raster::Rgb colour) {
        const double length = geometry::distance(a, b);
        double period = 0;
        for (const double mm : drawn.dashMm)
            period += mm;
        if (period <= 0) {
            segment(a, b, drawn.widthMm, colour);
            return;
        }
        for (double at = 0; at < length;) {
            double within = std::fmod(along + at, period);
            std::size_t k = 0;
            while (within >= drawn.dashMm[k])
                within -= drawn.dashMm[k++];
            const double end = std::min(length, at + drawn.dashMm[k] - within + 1e-9);
            if (k % 2 == 0)
                segment(a + (b - a) * (at / length), a + (b - a) * (end / length), drawn.widthMm, colour);
            at = end;
        }
        along += length;
    }
    void segment(Point a, Point b, double widthMm, raster::Rgb colour) {
        if (geometry::distance(a, b) <= 0)
            return;
        const Point way = (b - a) * (1 / geometry::distance(a, b)), aside{-way.y, way.x};
        const double half = std::max(widthMm, 0.7 / m_perMm) / 2;
        const Point ends = way * half, out = aside * half;
        m_canvas.fill(clipped({toPx({a - ends - out, b + ends - out, b + ends + out, a - ends + out})}),
                      colour);
    }

    double m_perMm;
    raster::Canvas m_canvas;
    geometry::Box m_clip;
};

} // namespace

base::Result<Type> Type::open() {
    auto plain = shipped(thinline_PagePlain_begin, thinline_PagePlain_end, "Regular");
    auto bold = shipped(thinline_PageBold_begin, thinline_PageBold_end, "Bold");
    if (!plain || !bold)
        return !plain ? plain.error() : bold.error();
    return Type(plain.take(), bold.take());
}

std::shared_ptr<const lettering::GlyphRun> Type::run(const std::string& text, Weight weight) const {
    auto& known = m_runs[{text, weight}];
    if (!known) {
        auto set = (weight == Weight::Bold ? m_bold : m_plain).run(text, true);
        known = std::make_shared<const lettering::GlyphRun>(set ? set.take() : lettering::GlyphRun{});
    }
    return known;
}

Written Type::line(const std::string& text, double sizeMm, Weight weight) const {
    return {{}, sizeMm, text, run(text, weight), Setting{}.colour};
}

std::vector<std::string> Type::wrapped(const std::string& text, double sizeMm, Weight weight,
                                       double widthMm) const {
    const auto fits = [&](const std::string& one) { return run(one, weight)->advance * sizeMm <= widthMm; };
    std::vector<std::string> out;
    std::string current;
    const auto add = [&](std::string word) {
        const std::string longer = current.empty() ? word : current + " " + word;
        if (fits(longer)) {
            current = longer;
            return;
        }
        if (!current.empty())
            out.push_back(current);
        while (!fits(word)) {
            std::size_t cut = word.size();
            while (cut > 1 && !fits(word.substr(0, cut)))
                do
                    --cut;
                while (cut > 1 && (static_cast<unsigned char>(word[cut]) & 0xC0) == 0x80);
            if (cut >= word.size())
                break;
            out.push_back(word.substr(0, cut));
            word = word.substr(cut);
        }
        current = word;
    };
    std::string word;
    for (const char sign : text + " ") {
        if (sign != ' ' && sign != '\n') {
            word += sign;
            continue;
        }
        if (!word.empty())
            add(std::move(word));
        word.clear();
        if (sign == '\n') {
            out.push_back(current);
            current.clear();
        }
    }
    if (!current.empty())
        out.push_back(current);
    return out;
}

double Leaf::write(Point corner, const std::vector<std::string>& lines, const Setting& setting) {
    for (const std::string& text : lines) {
        Written line = m_type.line(text, setting.sizeMm, setting.weight);
        line.at = corner + Point{0, setting.sizeMm};
        line.colour = setting.colour;
        paint(std::move(line));
        corner.y += setting.sizeMm * kLineHeight;
    }
    return corner.y;
}

double Leaf::write(Point corner, const std::string& text, double widthMm, const Setting& setting) {
    return write(corner, m_type.wrapped(text, setting.sizeMm, setting.weight, widthMm), setting);
}

void Leaf::writeAround(Point middle, const std::string& text, const Setting& setting) {
    Written line = m_type.line(text, setting.sizeMm, setting.weight);
    line.at = middle + Point{-line.widthMm() / 2, setting.sizeMm * 0.36};
    line.colour = setting.colour;
    paint(std::move(line));
}

double Leaf::heightOf(const std::string& text, double widthMm, const Setting& setting) const {
    return static_cast<double>(m_type.wrapped(text, setting.sizeMm, setting.weight, widthMm).size()) *
           setting.sizeMm * kLineHeight;
}

void Leaf::fill(const geometry::Polygons& rings, raster::Rgb colour) {
    paint(Filled{contoursOf(rings), colour});
}

void Leaf::outline(const geometry::Polygons& rings, double widthMm, double grey, std::vector<double> dashMm) {
    paint(Drawn{contoursOf(rings), widthMm, grey, std::move(dashMm)});
}

void Leaf::stretch(Point from, Point to, double widthMm, double grey, std::vector<double> dashMm) {
    paint(Drawn{{{from, {geometry::Segment::line(to)}}}, widthMm, grey, std::move(dashMm)});
}

raster::Picture pictureOf(const formats::pdf::Page& page, double pxPerMm) {
    Painting painting(page, pxPerMm);
    for (const formats::pdf::Painted& one : page.painted)
        std::visit([&](const auto& what) { painting.paint(what); }, one);
    return painting.picture();
}

geometry::Box boxOf(const Written& line) {
    constexpr double kCapitals = 0.73, kTails = 0.21; // of Lato
    return {line.at - Point{0, kCapitals * line.sizeMm},
            line.at + Point{line.widthMm(), kTails * line.sizeMm}};
}

} // namespace thinline::pack
