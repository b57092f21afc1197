// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace thinline::formats::svg {

/// What of an element's style matters for cutting; inherited from parent to child.
struct Style {
    std::optional<raster::Rgb> fill = raster::Rgb{0, 0, 0}; ///< unset: none
    std::optional<raster::Rgb> stroke;
    raster::Rgb color{0, 0, 0}; ///< what currentColor means
    double strokeWidth = 1;     ///< user units of the element
    bool isDashed = false;
    bool isEvenOdd = false;
    bool isVisible = true;
    bool isDisplayed = true; ///< display: none hides the element and all in it
    bool isClipEvenOdd = false;
    std::string clipPath; ///< the id of the element's own clip path; not inherited
    std::string fontFamily = "sans-serif";
    double fontSize = 16; ///< user units
    bool isBold = false, isItalic = false;
    enum class Anchor { Start, Middle, End } anchor = Anchor::Start;
    std::vector<std::string> said; ///< what was asked for and is not done: "filters", "gradients" ...

    /// Takes one property, as attribute or declaration; unknown ones are left alone.
    void apply(std::string_view property, std::string_view value);
    /// Takes "fill: red; stroke: none".
    void applyDeclarations(std::string_view text);
};

/// Returns a colour written as #rgb, #rrggbb, rgb(...) with numbers or percentages, or by one of the 148
/// names of CSS; nothing for anything else.
std::optional<raster::Rgb> parseColour(std::string_view text);

/// The rules of <style> elements: selectors of one element, class or id, joined like "path.cut#a", in lists.
class StyleSheet {
  public:
    /// Adds the rules of a text. Selectors of other kinds and at-rules are skipped and counted.
    void add(std::string_view text);
    /// Applies what matches, the less specific first, later rules after earlier ones.
    void applyTo(Style& style, std::string_view element, std::string_view classes, std::string_view id) const;
    int skipped() const { return m_skipped; }

  private:
    struct Rule {
        std::string element; ///< empty: any
        std::vector<std::string> classes;
        std::string id;
        int weight = 0;
        std::string declarations;
    };
    void addRule(std::string_view selector, std::string_view declarations);
    std::vector<Rule> m_rules; ///< by weight, then in order
    /// Indices by what a rule needs most: its id, its first class, its element, or nothing.
    std::multimap<std::string, size_t, std::less<>> m_byKey;
    int m_skipped = 0;
};

} // namespace thinline::formats::svg
