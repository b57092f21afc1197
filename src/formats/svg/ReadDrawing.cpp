// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
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

base::Result<Subpaths> subpathsOf(std::string_view pathData, bool mayBeOpen) {
    PathCursor cursor(pathData);
    Subpaths out;
    std::vector<Contour> contours;
    Point at{};
    char command = '\0';
    bool isOpen = false;
    size_t segments = 0;
    while (!cursor.atEnd()) {
        const char next = cursor.peek();
        if ((next >= 'A' && next <= 'Z') || (next >= 'a' && next <= 'z'))
            command = cursor.take();
        else if (command == '\0' || command == 'Z' || command == 'z')
            return badPath(cursor, "has a number without a command");
        const bool isRelative = command >= 'a';
        const Point from = isRelative ? at : Point{};
        if (++segments > kMostSegments)
            return Error{Code::LimitExceeded, "The path has more than a million segments."};
        if (!std::strchr("MmZz", command) && !isOpen)
            return badPath(cursor, "draws before moving to a start");
        switch (command) {
        case 'M':
        case 'm': {
            const auto p = cursor.point(from);
            if (!p)
                return badPath(cursor, "lacks a number");
            if (isOpen && (!mayBeOpen || contours.back().segments.empty()))
                return badPath(cursor, "leaves an outline open");
            if (isOpen) {
                out.open.push_back(std::move(contours.back()));
                contours.pop_back();
            }
            contours.push_back({*p, {}});
            at = *p;
            isOpen = true;
            command = isRelative ? 'l' : 'L'; // further pairs are lines, says the grammar
            break;
        }
        case 'L':
        case 'l': {
            const auto p = cursor.point(from);
            if (!p)
                return badPath(cursor, "lacks a number");
            contours.back().segments.push_back(Segment::line(*p));
            at = *p;
            break;
        }
        case 'H':
        case 'h':
        case 'V':
        case 'v': {
            const auto v = cursor.number();
            if (!v)
                return badPath(cursor, "lacks a number");
            at = command == 'H' || command == 'h' ? Point{*v + from.x, at.y} : Point{at.x, *v + from.y};
            contours.back().segments.push_back(Segment::line(at));
            break;
        }
        case 'C':
        case 'c': {
            const auto a = cursor.point(from);
            const auto b = a ? cursor.point(from) : std::nullopt;
            const auto c = b ? cursor.point(from) : std::nullopt;
            if (!c)
                return badPath(cursor, "lacks a number");
            contours.back().segments.push_back(Segment::curve(*a, *b, *c));
            at = *c;
            break;
        }
        case 'Z':
        case 'z':
            if (!isOpen)
                return badPath(cursor, "closes nothing");
            if (!(at == contours.back().start))
                contours.back().segments.push_back(Segment::line(contours.back().start));
            at = contours.back().start;
            isOpen = false;
            break;
        default:
            return badPath(cursor, std::string("uses '") + command + "', which is not known here,");
        }
    }
    if (isOpen && (!mayBeOpen || contours.back().segments.empty()))
        return badPath(cursor, "leaves an outline open");
    if (isOpen) {
        out.open.push_back(std::move(contours.back()));
        contours.pop_back();
    }
    if (contours.empty() && out.open.empty())
        return Error{Code::ParseError, "The path is empty."};
    out.closed = std::move(contours);
    return out;
}

} // namespace

base::Result<geometry::Shape> readPath(std::string_view pathData) {
    auto read = subpathsOf(pathData, false);
    if (!read)
        return read.error();
    return shapeOf(std::move(read->closed));
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
            out.groups.back().paths.push_back({path.attribute("id").value(),
                                               shapeOf(std::move(read->closed)), std::move(read->open)});
        }
    }
    return out;
}

} // namespace thinline::formats::svg
