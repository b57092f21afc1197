// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "formats/svg/Style.h"
#include "geometry/Shape.h"
#include "lettering/Typeface.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace thinline::formats::svg {

/// Collects what a <text> element says, and where.
class TextPen {
  public:
    struct Part {
        std::string text;
        Style style;
        std::optional<geometry::Point>
            at;             ///< where a new line of letters begins; unset: behind the part before
        geometry::Point by; ///< moved from there
    };
    void moveTo(std::optional<double> x, std::optional<double> y);
    void moveBy(double x, double y) { m_by = m_by + geometry::Point{x, y}; }
    /// White space counts once, as XML text has it.
    void add(const std::string& text, const Style& style);
    const std::vector<Part>& parts() const { return m_parts; }

  private:
    std::vector<Part> m_parts;
    geometry::Point m_at, m_by;
    bool m_isNew = true;
};

struct TextStretch {
    std::vector<geometry::Contour> outlines; ///< user units
    Style style;
};

/// What is said of text without a typeface.
inline constexpr const char* kTextNotSet = "text";

/// Sets text with the typefaces of a store; each is opened once.
class TextSetter {
  public:
    explicit TextSetter(const base::FontStore* fonts) : m_fonts(fonts) {}
    /// Returns the letters as outlines; `said` tells of a typeface taken for another, or that it is kTextNotSet.
    std::vector<TextStretch> set(const TextPen& pen, std::string& said);

  private:
    const lettering::Typeface* faceFor(const Style& style, std::string& said);
    const base::FontStore* m_fonts;
    std::map<base::FontName, std::optional<lettering::Typeface>> m_faces;
};

} // namespace thinline::formats::svg
