// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The reader that checks the writer.
//
// It shares no code with WriteDrawing.cpp, on purpose: what one of them gets wrong in the grammar the other must not
// get wrong in the same way, or the check before a package leaves the house would prove nothing. It knows only what
// the writer uses, in all forms SVG's grammar lets it be written, and refuses the rest with the character where it
// stands, for guessing is what a check must not do.
//
// Subpaths may be left open in a drawing: pieces that touch in a cluster are cut once, and what remains of the second
// outline is a line. Shapes alone, as jobs keep them, are closed.
#include "formats/svg/ReadDrawing.h"

#include <pugixml.hpp>

#include <charconv>
#include <cmath>
#include <cstring>
#include <optional>

namespace thinline::formats::svg {
namespace {

using base::Code;
using base::Error;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;

constexpr size_t kMostSegments = 1'000'000;

/// Walks through path data, one command or number at a time.
class PathCursor {
  public:
    explicit PathCursor(std::string_view text) : m_text(text) {}

    bool atEnd() {
        skip();
        return m_at == m_text.size();
    }
    size_t position() const { return m_at; }
    char peek() {
        skip();
        return m_at < m_text.size() ? m_text[m_at] : '\0';
    }
    char take() {
        const char c = peek();
        ++m_at;
        return c;
    }
    std::optional<double> number() {
        skip();
        if (m_at < m_text.size() && m_text[m_at] == '+')
            ++m_at;
        double value = 0;
        const auto [end, code] = std::from_chars(m_text.data() + m_at, m_text.data() + m_text.size(), value);
        if (code != std::errc() || !std::isfinite(value))
            return std::nullopt;
        m_at = static_cast<size_t>(end - m_text.data());
        return value;
    }
    std::optional<Point> point(Point from) {
        const auto x = number();
        const auto y = x ? number() : std::nullopt;
        return y ? std::optional(Point{*x, *y} + from) : std::nullopt;
    }

  private:
    void skip() {
        while (m_at < m_text.size() && std::strchr(" \t\r\n,", m_text[m_at]))
            ++m_at;
    }
    std::string_view m_text;
    size_t m_at = 0;
};

Error badPath(const PathCursor& cursor, const std::string& why) {
    return {Code::ParseError,
            "The path data " + why + " at character " + std::to_string(cursor.position() + 1) + "."};
}

/// Sorts contours into outline and openings by area.
geometry::Shape shapeOf(std::vector<Contour> contours) {
    geometry::Shape shape;
    if (contours.empty())
        return shape;
    size_t largest = 0;
    for (size_t i = 1; i < contours.size(); ++i)
        if (std::abs(geometry::signedArea(contours[i])) > std::abs(geometry::signedArea(contours[largest])))
            largest = i;
    for (size_t i = 0; i < contours.size(); ++i) {
        const bool isPositive = geometry::signedArea(contours[i]) >= 0;
        Contour contour =
            isPositive == (i == largest) ? std::move(contours[i]) : geometry::reversed(contours[i]);
        if (i == largest)
            shape.outline = std::move(contour);
        else
            shape.openings.push_back(std::move(contour));
    }
    return shape;
}

std::optional<double> millimetres(const char* text) {
    double value = 0;
    const auto [end, code] = std::from_chars(text, text + std::strlen(text), value);
    return code == std::errc() && std::strcmp(end, "mm") == 0 && value > 0 ? std::optional(value)
                                                                           : std::nullopt;
}

struct Subpaths {
    std::vector<Contour> closed;
    std::vector<geometry::Line> open;
};

/// Walks path data command by command.
class SubpathReader {
  public:
    SubpathReader(std::string_view pathData, bool mayBeOpen) : m_cursor(pathData), m_mayBeOpen(mayBeOpen) {}

    base::Result<Subpaths> read() {
        size_t commands = 0;
        while (!m_cursor.atEnd()) {
            const char next = m_cursor.peek();
            if ((next >= 'A' && next <= 'Z') || (next >= 'a' && next <= 'z'))
                m_command = m_cursor.take();
            else if (m_command == '\0' || m_command == 'Z' || m_command == 'z')
                return badPath(m_cursor, "has a number without a command");
            if (++commands > kMostSegments)
                return Error{Code::LimitExceeded, "The path has more than a million segments."};
            if (!std::strchr("MmZz", m_command) && !m_isOpen)
                return badPath(m_cursor, "draws before moving to a start");
            if (auto ok = step(); !ok)
                return ok.error();
        }
        if (auto ok = leave(); !ok)
            return ok.error();
        if (m_out.closed.empty() && m_out.open.empty())
            return Error{Code::ParseError, "The path is empty."};
        return std::move(m_out);
    }

  private:
    bool isRelative() const { return m_command >= 'a'; }
    Point from() const { return isRelative() ? m_at : Point{}; }
    Contour& now() { return m_out.closed.back(); }

    base::Status step() {
        switch (m_command) {
        case 'M':
        case 'm':
            return moveTo();
        case 'L':
        case 'l': {
            const auto p = m_cursor.point(from());
            if (!p)
                return badPath(m_cursor, "lacks a number");
            lineTo(*p);
            return base::Done{};
        }
        case 'H':
        case 'h':
        case 'V':
        case 'v': {
            const auto v = m_cursor.number();
            if (!v)
                return badPath(m_cursor, "lacks a number");
            const bool isLevel = m_command == 'H' || m_command == 'h';
            lineTo(isLevel ? Point{*v + from().x, m_at.y} : Point{m_at.x, *v + from().y});
            return base::Done{};
        }
        case 'C':
        case 'c':
            return curveTo();
        case 'Z':
        case 'z':
            return close();
        default:
            return badPath(m_cursor, std::string("uses '") + m_command + "', which is not known here,");
        }
    }

    base::Status moveTo() {
        const auto p = m_cursor.point(from());
        if (!p)
            return badPath(m_cursor, "lacks a number");
        if (auto ok = leave(); !ok)
            return ok;
        m_out.closed.push_back({*p, {}});
        m_at = *p;
        m_isOpen = true;
        m_command = isRelative() ? 'l' : 'L'; // further pairs are lines, says the grammar
        return base::Done{};
    }

    void lineTo(Point p) {
        now().segments.push_back(Segment::line(p));
        m_at = p;
    }

    base::Status curveTo() {
        const auto a = m_cursor.point(from());
        const auto b = a ? m_cursor.point(from()) : std::nullopt;
        const auto c = b ? m_cursor.point(from()) : std::nullopt;
        if (!c)
            return badPath(m_cursor, "lacks a number");
        now().segments.push_back(Segment::curve(*a, *b, *c));
        m_at = *c;
        return base::Done{};
    }

    base::Status close() {
        if (!m_isOpen)
            return badPath(m_cursor, "closes nothing");
        if (!(m_at == now().start))
            now().segments.push_back(Segment::line(now().start));
        m_at = now().start;
        m_isOpen = false;
        return base::Done{};
    }

    /// A subpath that was not closed is left: an open line where there may be some, else a mistake. A lone start
    /// draws nothing.
    base::Status leave() {
        if (!m_isOpen)
            return base::Done{};
        if (!m_mayBeOpen || now().segments.empty())
            return badPath(m_cursor, "leaves an outline open");
        m_out.open.push_back(std::move(now()));
        m_out.closed.pop_back();
        m_isOpen = false;
        return base::Done{};
    }

    PathCursor m_cursor;
    bool m_mayBeOpen;
    Subpaths m_out;
    Point m_at{};
    char m_command = '\0';
    bool m_isOpen = false;
};

base::Result<Subpaths> subpathsOf(std::string_view pathData, bool mayBeOpen) {
    return SubpathReader(pathData, mayBeOpen).read();
}

} // namespace

base::Result<geometry::Shape> readPath(std::string_view pathData) {
    auto read = subpathsOf(pathData, false);
    if (!read)
        return read.error();
    return shapeOf(std::move(read->closed));
}

base::Result<geometry::Line> readLine(std::string_view pathData) {
    auto read = subpathsOf(pathData, true);
    if (!read)
        return read.error();
    if (read->open.size() != 1 || !read->closed.empty())
        return Error{Code::ParseError, "The path is not one open line."};
    return std::move(read->open.front());
}

base::Result<ReadDrawing> readDrawing(std::string_view svgText) {
    pugi::xml_document document;
    const auto parsed = document.load_buffer(svgText.data(), svgText.size());
    if (!parsed)
        return Error{Code::ParseError, std::string("The drawing is not XML: ") + parsed.description() +
                                           " at byte " + std::to_string(parsed.offset) + "."};
    const pugi::xml_node root = document.child("svg");
    if (!root)
        return Error{Code::ParseError, "The drawing has no svg element."};
    const auto width = millimetres(root.attribute("width").value()),
               height = millimetres(root.attribute("height").value());
    if (!width || !height)
        return Error{Code::ParseError, "The drawing does not state its width and height in mm."};
    PathCursor view(root.attribute("viewBox").value());
    const auto x = view.number(), y = view.number(), w = view.number(), h = view.number();
    if (!x || !y || !w || !h || *x != 0 || *y != 0 || std::abs(*w - *width) > 1e-6 ||
        std::abs(*h - *height) > 1e-6)
        return Error{Code::ParseError, "The drawing's viewBox does not count in mm from its corner."};
    ReadDrawing out{*width, *height, {}};
    for (const pugi::xml_node group : root.children("g")) {
        if (group.attribute("transform"))
            return Error{Code::ParseError, "The drawing moves a group by a transform."};
        out.groups.push_back({group.attribute("id").value(), {}});
        for (const pugi::xml_node path : group.children("path")) {
            auto read = subpathsOf(path.attribute("d").value(), true);
            if (!read)
                return Error{read.error().code, std::string("Path '") + path.attribute("id").value() +
                                                    "': " + read.error().message};
            out.groups.back().paths.push_back(
                {path.attribute("id").value(), shapeOf(std::move(read->closed)), std::move(read->open)});
        }
    }
    return out;
}

} // namespace thinline::formats::svg
