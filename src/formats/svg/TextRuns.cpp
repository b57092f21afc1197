// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/TextRuns.h"

#include "lettering/Word.h"

#include <algorithm>

namespace thinline::formats::svg {

using geometry::Contour;
using geometry::Point;
using geometry::Transform;

void TextPen::moveTo(std::optional<double> x, std::optional<double> y) {
    m_at = {x.value_or(m_at.x), y.value_or(m_at.y)};
    m_isNew = true;
}

void TextPen::add(const std::string& text, const Style& style) {
    std::string plain;
    const bool endsInSpace = m_isNew || m_parts.empty() || m_parts.back().text.ends_with(' ');
    for (char c : text) {
        const bool isSpace = c == ' ' || c == '\n' || c == '\t' || c == '\r';
        if (!isSpace)
            plain += c;
        else if (plain.empty() ? !endsInSpace : plain.back() != ' ')
            plain += ' ';
    }
    if (plain.empty())
        return;
    m_parts.push_back({plain, style, m_isNew ? std::optional(m_at) : std::nullopt, m_by});
    m_isNew = false;
    m_by = {};
}

const lettering::Typeface* TextSetter::faceFor(const Style& style, std::string& said) {
    const char* wanted = style.isBold && style.isItalic ? "Bold Italic"
                         : style.isBold                 ? "Bold"
                         : style.isItalic               ? "Italic"
                                                        : "";
    const base::FontName name{style.fontFamily, wanted};
    if (const auto known = m_faces.find(name); known != m_faces.end())
        return known->second ? &*known->second : nullptr;
    auto& face = m_faces[name];
    const auto found = lettering::findFont(*m_fonts, name, {"DejaVu Sans", style.isBold ? "Bold" : "Book"});
    if (!found)
        return nullptr;
    if (!found->said.empty())
        said = found->said;
    auto opened = lettering::Typeface::open(found->file);
    if (!opened)
        return nullptr;
    face.emplace(opened.take());
    return &*face;
}

std::vector<TextStretch> TextSetter::set(const TextPen& pen, std::string& said) {
    std::vector<TextStretch> out;
    if (!m_fonts) {
        if (!pen.parts().empty())
            said = kTextNotSet;
        return out;
    }
    Point at;
    size_t lineBegin = 0;
    double width = 0;
    const auto anchorLine = [&] {
        if (lineBegin >= out.size())
            return;
        const Style::Anchor anchor = out[lineBegin].style.anchor;
        const double by = anchor == Style::Anchor::Middle ? -width / 2
                          : anchor == Style::Anchor::End  ? -width
                                                          : 0;
        for (size_t i = lineBegin; i < out.size(); ++i)
            for (Contour& contour : out[i].outlines)
                contour = geometry::transformed(contour, Transform::move({by, 0}));
    };
    for (const TextPen::Part& part : pen.parts()) {
        if (part.at) {
            anchorLine();
            lineBegin = out.size();
            width = 0;
            at = *part.at;
        }
        at = at + part.by;
        const lettering::Typeface* face = faceFor(part.style, said);
        auto run = face ? face->run(part.text, true) : base::Result<lettering::GlyphRun>(base::Error{});
        if (!run) {
            said = kTextNotSet;
            continue;
        }
        TextStretch stretch{{}, part.style};
        const double size = part.style.fontSize;
        for (const lettering::Glyph& glyph : run->glyphs)
            for (const Contour& contour : glyph.contours)
                stretch.outlines.push_back(geometry::transformed(
                    contour,
                    Transform::move(glyph.at).then(Transform::scale(size, size)).then(Transform::move(at))));
        at = at + Point{run->advance * size, 0};
        width += run->advance * size;
        out.push_back(std::move(stretch));
    }
    anchorLine();
    return out;
}

} // namespace thinline::formats::svg
