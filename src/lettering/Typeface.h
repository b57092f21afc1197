// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "geometry/Shape.h"

#include <memory>
#include <string>
#include <vector>

/// Outlines of words.
namespace thinline::lettering {

/// One glyph where it stands on the baseline.
struct Glyph {
    size_t from = 0, to = 0;                 ///< the bytes of the text it stands for
    geometry::Point at;                      ///< its origin, em units (1 is the size of the type), y down
    std::vector<geometry::Contour> contours; ///< in em units about its origin, y down; empty for a space
    bool isMissing = false;                  ///< the typeface has no sign for it
    unsigned id = 0;                         ///< of its outline within the typeface
};

struct GlyphRun {
    base::FontName typeface;
    std::vector<Glyph> glyphs; ///< from left to right
    double advance = 0;        ///< em units
};

/// A typeface ready for setting words.
class Typeface {
  public:
    ~Typeface();
    Typeface(Typeface&&) noexcept;

    /// Returns a typeface from its file.
    /// Errors: ParseError when the bytes are no typeface; Unsupported for one of pixels only; LimitExceeded
    ///         above base::kMostFontBytes.
    static base::Result<Typeface> open(const base::FontFile& file);

    /// Returns a text on its baseline, kerned, with ligatures unless they are unwanted.
    /// Shape:  one line; signs without ink are kept as empty glyphs. Outlines are the typeface's own curves;
    ///         quadratic ones are raised exactly.
    /// Errors: InvalidArgument for text that is not UTF-8; Degenerate for an outline that cannot be read.
    base::Result<GlyphRun> run(const std::string& text, bool withLigatures) const;

    /// Returns the height of the letter H above the baseline, in em units: measured on its outline, because
    /// the figure stated in a file is not always true. Falls back to the stated one, then to 0.7.
    double capHeight() const { return m_capHeight; }

    const base::FontName& name() const { return m_name; }

  private:
    struct Inside;
    explicit Typeface(std::unique_ptr<Inside> inside);
    std::unique_ptr<Inside> m_inside;
    base::FontName m_name;
    double m_capHeight = 0.7;
};

} // namespace thinline::lettering
