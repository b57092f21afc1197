// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/PathData.h"

#include <charconv>
#include <cmath>
#include <numbers>

namespace thinline::formats::svg {
namespace {

using geometry::Contour;
using geometry::Point;
using geometry::Segment;

bool isSpace(char c) {
    return c == ' ' || c == '\t' || c == '\r' || c == '\n' || c == '\f';
}
bool isLetter(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
}

/// Builds subpaths command by command.
class Pen {
  public:
    explicit Pen(PathData& out) : m_out(out) {}

    Point at() const { return m_at; }
    /// The point from which a relative command counts.
    Point origin(bool isRelative) const { return isRelative ? m_at : Point{}; }

    void moveTo(Point p) {
        m_out.subpaths.push_back({{p, {}}, false});
        m_at = m_start = p;
        m_isOpen = true;
        forgetHandles();
    }
    void lineTo(Point p) {
        begin().segments.push_back(Segment::line(p));
        step(p);
        forgetHandles();
    }
    void curveTo(Point b, Point c, Point d) {
        begin().segments.push_back(Segment::curve(b, c, d));
        step(d);
        m_cubicHandle = c;
        m_quadHandle = d;
    }
    void smoothTo(Point c, Point d) { curveTo(m_at + (m_at - m_cubicHandle), c, d); }
    void quadTo(Point handle, Point d) {
        const Point a = m_at;
        curveTo(a + (handle - a) * (2.0 / 3), d + (handle - d) * (2.0 / 3), d);
        m_cubicHandle = d; // a quadratic has no handle for S
        m_quadHandle = handle;
    }
    void smoothQuadTo(Point d) { quadTo(m_at + (m_at - m_quadHandle), d); }
    void arcTo(double rx, double ry, double turnDeg, bool isLarge, bool isSweep, Point to) {
        Contour& contour = begin();
        const size_t before = contour.segments.size();
        appendArc(contour, m_at, rx, ry, turnDeg, isLarge, isSweep, to);
        m_out.segments += contour.segments.size() - before;
        m_at = to;
        forgetHandles();
    }
    void close() {
        if (!m_isOpen)
            return;
        Subpath& subpath = m_out.subpaths.back();
        if (!(m_at == m_start))
            subpath.contour.segments.push_back(Segment::line(m_start));
        subpath.isClosed = true;
        m_at = m_start;
        m_isOpen = false;
        forgetHandles();
    }

  private:
    /// After Z, drawing on begins a new subpath at the old start.
    Contour& begin() {
        if (!m_isOpen)
            moveTo(m_start);
        return m_out.subpaths.back().contour;
    }
    void step(Point p) {
        m_at = p;
        ++m_out.segments;
    }
    void forgetHandles() { m_cubicHandle = m_quadHandle = m_at; }

    PathData& m_out;
    Point m_at, m_start, m_cubicHandle, m_quadHandle;
    bool m_isOpen = false;
};

/// How many numbers a command takes; -1 for an unknown one.
int numbersOf(char command) {
    switch (command | 0x20) {
    case 'z':
        return 0;
    case 'h':
    case 'v':
        return 1;
    case 'm':
    case 'l':
    case 't':
        return 2;
    case 's':
    case 'q':
        return 4;
    case 'c':
        return 6;
    case 'a':
        return 7;
    default:
        return -1;
    }
}

void draw(Pen& pen, char command, const double (&v)[7]) {
    const bool isRelative = command >= 'a';
    const Point o = pen.origin(isRelative);
    switch (command | 0x20) {
    case 'm':
        pen.moveTo(o + Point{v[0], v[1]});
        break;
    case 'l':
        pen.lineTo(o + Point{v[0], v[1]});
        break;
    case 'h':
        pen.lineTo({o.x + v[0], pen.at().y});
        break;
    case 'v':
        pen.lineTo({pen.at().x, o.y + v[0]});
        break;
    case 'c':
        pen.curveTo(o + Point{v[0], v[1]}, o + Point{v[2], v[3]}, o + Point{v[4], v[5]});
        break;
    case 's':
        pen.smoothTo(o + Point{v[0], v[1]}, o + Point{v[2], v[3]});
        break;
    case 'q':
        pen.quadTo(o + Point{v[0], v[1]}, o + Point{v[2], v[3]});
        break;
    case 't':
        pen.smoothQuadTo(o + Point{v[0], v[1]});
        break;
    case 'a':
        pen.arcTo(v[0], v[1], v[2], v[3] != 0, v[4] != 0, o + Point{v[5], v[6]});
        break;
    default:
        pen.close();
        break;
    }
}

} // namespace

void Scanner::skip() {
    while (m_at < m_text.size() && isSpace(m_text[m_at]))
        ++m_at;
    if (m_at < m_text.size() && m_text[m_at] == ',') {
        ++m_at;
        while (m_at < m_text.size() && isSpace(m_text[m_at]))
            ++m_at;
    }
}

std::optional<double> Scanner::number() {
    skip();
    size_t at = m_at;
    if (at < m_text.size() && m_text[at] == '+')
        ++at;
    if (at < m_text.size() && isLetter(m_text[at]))
        return std::nullopt; // "inf" and "nan" are words here
    double value = 0;
    const auto [end, code] = std::from_chars(m_text.data() + at, m_text.data() + m_text.size(), value);
    if (code != std::errc() || !std::isfinite(value))
        return std::nullopt;
    m_at = static_cast<size_t>(end - m_text.data());
    return value;
}

std::optional<bool> Scanner::flag() {
    const char c = peek();
    if (c != '0' && c != '1')
        return std::nullopt;
    take();
    return c == '1';
}

std::string_view Scanner::word() {
    skip();
    const size_t from = m_at;
    while (m_at < m_text.size() && (isLetter(m_text[m_at]) || m_text[m_at] == '%'))
        ++m_at;
    return m_text.substr(from, m_at - from);
}

PathData parsePathData(std::string_view text, size_t mostSegments) {
    PathData out;
    Scanner scan(text);
    Pen pen(out);
    char command = '\0';
    const auto stopped = [&](const std::string& why) {
        out.problem = "ends at character " + std::to_string(scan.position() + 1) + ", where " + why;
        return out;
    };
    while (!scan.atEnd()) {
        const char next = scan.peek();
        bool isGiven = false;
        if (isLetter(next)) {
            if (numbersOf(next) < 0)
                return stopped(std::string("'") + next + "' is no command");
            command = next;
            isGiven = true;
            scan.take();
        } else if (command == '\0' || (command | 0x20) == 'z') {
            return stopped("a number stands without a command");
        }
        if (out.subpaths.empty() && (command | 0x20) != 'm')
            return stopped("nothing has said where to begin");
        double values[7] = {};
        for (int i = 0; i < numbersOf(command); ++i) {
            std::optional<double> value;
            if ((command | 0x20) == 'a' && (i == 3 || i == 4)) {
                if (const auto flag = scan.flag())
                    value = *flag ? 1 : 0;
            } else {
                value = scan.number();
            }
            if (!value)
                return stopped("a number is missing");
            values[i] = *value;
        }
        draw(pen, command, values);
        if ((command | 0x20) == 'm' && isGiven)
            command = command == 'm' ? 'l' : 'L'; // further pairs are lines
        if (out.segments > mostSegments)
            return stopped("it passes " + std::to_string(mostSegments) + " steps");
    }
    for (Subpath& subpath : out.subpaths) {
        const Contour& c = subpath.contour;
        subpath.isClosed = subpath.isClosed || (c.segments.size() > 1 && c.segments.back().end == c.start);
    }
    return out;
}

void appendArc(Contour& contour, Point from, double rx, double ry, double turnDeg, bool isLarge, bool isSweep,
               Point to) {
    using std::numbers::pi;
    if (from == to)
        return; // F.6.2: nothing to draw
    rx = std::abs(rx);
    ry = std::abs(ry);
    if (rx == 0 || ry == 0) {
        contour.segments.push_back(Segment::line(to));
        return;
    }
    // F.6.5: the centre, in axes turned and scaled so that the ellipse is a unit circle.
    const double turn = turnDeg * pi / 180, c = std::cos(turn), s = std::sin(turn);
    const Point half = (from - to) * 0.5;
    const Point p{(c * half.x + s * half.y) / rx, (-s * half.x + c * half.y) / ry};
    const double square = geometry::dot(p, p);
    Point unit = p, centre{};
    if (square >= 1) { // F.6.6: radii too small to reach are enlarged
        rx *= std::sqrt(square);
        ry *= std::sqrt(square);
        unit = p * (1 / std::sqrt(square));
    } else if (square > 0) {
        const double along = (isLarge == isSweep ? -1 : 1) * std::sqrt((1 - square) / square);
        centre = {along * p.y, -along * p.x};
    }
    const double a0 = std::atan2(unit.y - centre.y, unit.x - centre.x);
    double sweep = std::atan2(-unit.y - centre.y, -unit.x - centre.x) - a0;
    if (isSweep && sweep < 0)
        sweep += 2 * pi;
    if (!isSweep && sweep > 0)
        sweep -= 2 * pi;
    const auto place = [&](Point u) {
        const Point q{(u.x + centre.x) * rx, (u.y + centre.y) * ry};
        return geometry::middle(from, to) + Point{c * q.x - s * q.y, s * q.x + c * q.y};
    };
    // At most 45 degrees each: a quarter turn would be 27 um off on a circle of 100 mm.
    const int steps = std::max(1, static_cast<int>(std::ceil(std::abs(sweep) / (pi / 4) - 1e-9)));
    const double step = sweep / steps, handle = 4.0 / 3 * std::tan(step / 4);
    for (int i = 0; i < steps; ++i) {
        const double b0 = a0 + step * i, b1 = b0 + step;
        const Point u0{std::cos(b0), std::sin(b0)}, u1{std::cos(b1), std::sin(b1)};
        contour.segments.push_back(Segment::curve(place(u0 + Point{-u0.y, u0.x} * handle),
                                                  place(u1 - Point{-u1.y, u1.x} * handle),
                                                  i + 1 == steps ? to : place(u1)));
    }
}

} // namespace thinline::formats::svg
