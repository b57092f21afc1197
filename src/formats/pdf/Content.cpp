// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/Content.h"

#include "geometry/Lines.h"

#include <cmath>
#include <cstdio>

namespace thinline::formats::pdf {
namespace {

using geometry::Point;

std::string written(double value, const char* format) {
    char text[32];
    std::snprintf(text, sizeof text, format, value);
    return text;
}

std::string latin1(const std::string& utf8) {
    std::string out;
    for (size_t i = 0; i < utf8.size(); ++i) {
        const auto byte = static_cast<unsigned char>(utf8[i]);
        if (byte < 0x80) {
            out += byte < 0x20 ? ' ' : utf8[i];
            continue;
        }
        const bool isLatin = (byte == 0xC2 || byte == 0xC3) && i + 1 < utf8.size();
        out += isLatin ? static_cast<char>(((byte & 3) << 6) | (utf8[i + 1] & 0x3F)) : '?';
        while (i + 1 < utf8.size() && (static_cast<unsigned char>(utf8[i + 1]) & 0xC0) == 0x80)
            ++i;
    }
    return out;
}

/// UTF-16, big end first, in hexadecimal digits.
std::string utf16(const std::string& utf8) {
    std::string out;
    const auto add = [&](unsigned unit) {
        char text[8];
        std::snprintf(text, sizeof text, "%04X", unit);
        out += text;
    };
    for (size_t i = 0; i < utf8.size();) {
        const auto byte = static_cast<unsigned char>(utf8[i]);
        const size_t more = byte < 0x80 ? 0 : byte < 0xE0 ? 1 : byte < 0xF0 ? 2 : 3;
        unsigned sign = more == 0 ? byte : byte & (0x3Fu >> more);
        for (size_t k = 1; k <= more && i + k < utf8.size(); ++k)
            sign = sign << 6 | (static_cast<unsigned char>(utf8[i + k]) & 0x3Fu);
        i += more + 1;
        if (sign >= 0x10000) {
            add(0xD800 + ((sign - 0x10000) >> 10));
            add(0xDC00 + ((sign - 0x10000) & 0x3FF));
        } else
            add(sign);
    }
    return out;
}

std::string procedureOf(const lettering::Glyph& glyph, int width) {
    geometry::Box box;
    for (const geometry::Contour& contour : glyph.contours)
        box.include(geometry::bounds(contour));
    std::string out = std::to_string(width) + " 0 ";
    if (box.isEmpty())
        return out + "0 0 0 0 d1\n";
    for (const double edge : {box.least.x, -box.most.y, box.most.x, -box.least.y})
        out += written(edge * 1000, "%.0f ");
    out += "d1\n";
    const auto at = [&](Point p) { out += written(p.x * 1000, "%.1f ") + written(-p.y * 1000, "%.1f "); };
    for (const geometry::Contour& contour : glyph.contours) {
        at(contour.start);
        out += "m\n";
        for (const geometry::Segment& segment : contour.segments) {
            if (!segment.isLine) {
                at(segment.control1);
                at(segment.control2);
            }
            at(segment.end);
            out += segment.isLine ? "l\n" : "c\n";
        }
    }
    return out + "f\n";
}

} // namespace

OutlineFonts::Place OutlineFonts::placeOf(const Written& line, std::size_t at) {
    const lettering::Glyph& glyph = line.run->glyphs[at];
    const auto key = std::pair(line.run->typeface, glyph.id);
    if (const auto known = m_known.find(key); known != m_known.end())
        return known->second;
    if (m_fonts.empty() || m_fonts.back().size() == kMostSigns)
        m_fonts.emplace_back();
    const double end = at + 1 < line.run->glyphs.size() ? line.run->glyphs[at + 1].at.x : line.run->advance;
    const int width = static_cast<int>(std::lround((end - glyph.at.x) * 1000));
    m_fonts.back().push_back(
        {procedureOf(glyph, width), width, line.text.substr(glyph.from, glyph.to - glyph.from)});
    return m_known[key] = {m_fonts.size() - 1, m_fonts.back().size() - 1};
}

std::string OutlineFonts::unicodeOf(std::size_t font) const {
    std::string out = "/CIDInit /ProcSet findresource begin 12 dict begin begincmap\n/CMapType 2 def\n"
                      "1 begincodespacerange <00> <FF> endcodespacerange\n";
    const auto& signs = m_fonts[font];
    constexpr std::size_t kMostAtOnce = 100;
    for (std::size_t from = 0; from < signs.size(); from += kMostAtOnce) {
        const std::size_t end = std::min(signs.size(), from + kMostAtOnce);
        out += std::to_string(end - from) + " beginbfchar\n";
        for (std::size_t code = from; code < end; ++code) {
            char text[8];
            std::snprintf(text, sizeof text, "<%02X> <", static_cast<unsigned>(code));
            out += text + utf16(signs[code].text) + ">\n";
        }
        out += "endbfchar\n";
    }
    return out + "endcmap end end\n";
}

std::size_t Layers::placeOf(const std::string& name, const std::string& step) {
    for (std::size_t i = 0; i < m_all.size(); ++i)
        if (m_all[i].name == name)
            return i;
    m_all.push_back({name, step});
    return m_all.size() - 1;
}

Content::Content(const Page& page, OutlineFonts& fonts, Layers& layers)
    : m_heightMm(page.heightMm), m_fonts(fonts), m_layers(layers) {
    for (const Painted& one : page.painted)
        std::visit([this](const auto& what) { paint(what); }, one);
    paint(ClipTo{});
    if (!page.inside.empty()) {
        say("q ");
        box(page.window);
        say("re W n\n");
        for (const Drawn& drawn : page.inside)
            draw(drawn);
        say("Q\n");
    }
    for (const Drawn& drawn : page.marks)
        draw(drawn);
    for (const Label& label : page.labels)
        write(label);
}

void Content::number(double value) {
    say(written(value, "%.5f "));
}

void Content::at(Point p) {
    number(p.x * kPerMm);
    number((m_heightMm - p.y) * kPerMm);
}

void Content::box(const geometry::Box& box) {
    at({box.least.x, box.most.y});
    number(box.width() * kPerMm);
    number(box.height() * kPerMm);
}

void Content::colour(raster::Rgb colour) {
    for (const std::uint8_t part : colour)
        say(written(part / 255.0, "%.3f "));
}

void Content::path(const geometry::Contour& line) {
    at(line.start);
    say("m\n");
    for (const geometry::Segment& segment : line.segments) {
        if (!segment.isLine) {
            at(segment.control1);
            at(segment.control2);
        }
        at(segment.end);
        say(segment.isLine ? "l\n" : "c\n");
    }
}

void Content::begin(const std::string& layer, const std::string& step) {
    if (layer.empty())
        return;
    const std::size_t at = m_layers.placeOf(layer, step);
    m_onLayers.insert(at);
    say("/OC /" + Layers::nameOf(at) + " BDC\n");
}
void Content::end(const std::string& layer) {
    if (!layer.empty())
        say("EMC\n");
}

void Content::draw(const Drawn& drawn) {
    begin(drawn.layer, drawn.step);
    number(drawn.widthMm * kPerMm);
    say("w 1 J 1 j ");
    number(drawn.grey);
    say("G [");
    for (const double mm : drawn.dashMm)
        number(mm * kPerMm);
    say("] 0 d\n");
    for (const geometry::Contour& line : drawn.lines) {
        path(line);
        say(geometry::endOf(line) == line.start ? "s\n" : "S\n");
    }
    end(drawn.layer);
}

void Content::write(const Label& label) {
    say("BT /F1 ");
    number(label.heightMm * kPerMm);
    say("Tf 0 g ");
    at(label.at);
    say("Td (");
    for (const char sign : latin1(label.text)) {
        if (sign == '(' || sign == ')' || sign == '\\')
            m_text += '\\';
        m_text += sign;
    }
    say(") Tj ET\n");
}

void Content::paint(const Filled& filled) {
    if (filled.areas.empty())
        return;
    begin(filled.layer, {});
    colour(filled.colour);
    say("rg\n");
    for (const geometry::Contour& area : filled.areas)
        path(area);
    say("f\n");
    end(filled.layer);
}

void Content::paint(const Written& line) {
    say("BT ");
    colour(line.colour);
    say("rg\n");
    std::size_t font = static_cast<std::size_t>(-1);
    for (std::size_t i = 0; i < line.run->glyphs.size(); ++i) {
        const OutlineFonts::Place place = m_fonts.placeOf(line, i);
        if (place.font != font) {
            font = place.font;
            m_used.insert(font);
            say("/" + OutlineFonts::nameOf(font) + " ");
            number(line.sizeMm * kPerMm);
            say("Tf ");
        }
        say("1 0 0 1 ");
        at(line.at + line.run->glyphs[i].at * line.sizeMm);
        char code[8];
        std::snprintf(code, sizeof code, "<%02X>", static_cast<unsigned>(place.code));
        say(std::string("Tm ") + code + " Tj\n");
    }
    say("ET\n");
}

void Content::paint(const Pictured& one) {
    say("q ");
    number(one.at.width() * kPerMm);
    say("0 0 ");
    number(one.at.height() * kPerMm);
    at({one.at.least.x, one.at.most.y});
    say("cm /P" + std::to_string(m_pictures.size()) + " Do Q\n");
    m_pictures.push_back(one.picture);
}

void Content::paint(const ClipTo& clip) {
    if (m_isClipped)
        say("Q\n");
    m_isClipped = !clip.box.isEmpty();
    if (!m_isClipped)
        return;
    say("q ");
    box(clip.box);
    say("re W n\n");
}

} // namespace thinline::formats::pdf
