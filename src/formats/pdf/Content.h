// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "formats/pdf/WritePages.h"

#include <map>
#include <set>

/// The words of the format that draw a page; for WritePages alone.
namespace thinline::formats::pdf {

inline constexpr double kPerMm = 72 / 25.4;

/// Signs of typefaces as fonts whose glyphs are drawn by their outlines, each at most 256 of them.
class OutlineFonts {
  public:
    struct Sign {
        std::string procedure; ///< draws it, in thousandths of an em
        int width = 0;         ///< thousandths of an em
        std::string text;      ///< UTF-8, what it stands for
    };
    struct Place {
        std::size_t font = 0, code = 0;
    };

    /// Returns where a glyph is; it is taken in when it is new.
    Place placeOf(const Written& line, std::size_t glyph);
    const std::vector<Sign>& signsOf(std::size_t font) const { return m_fonts[font]; }
    static std::string nameOf(std::size_t font) { return "T" + std::to_string(font); }
    /// The map from codes to Unicode.
    std::string unicodeOf(std::size_t font) const;

  private:
    static constexpr std::size_t kMostSigns = 256;
    std::vector<std::vector<Sign>> m_fonts;
    std::map<std::pair<base::FontName, unsigned>, Place> m_known;
};

/// Layers of a file that can be shown and hidden, each once.
class Layers {
  public:
    struct One {
        std::string name, step;
    };
    /// Returns which one it is; a new one is taken in.
    std::size_t placeOf(const std::string& name, const std::string& step);
    const std::vector<One>& all() const { return m_all; }
    static std::string nameOf(std::size_t layer) { return "L" + std::to_string(layer); }

  private:
    std::vector<One> m_all;
};

/// What is drawn on a page, in points from the lower left corner.
class Content {
  public:
    Content(const Page& page, OutlineFonts& fonts, Layers& layers);
    const std::set<std::size_t>& layers() const { return m_onLayers; }
    const std::string& text() const { return m_text; }
    const std::set<std::size_t>& fonts() const { return m_used; }
    /// Those drawn as /P0, /P1 ...
    const std::vector<std::shared_ptr<const raster::Picture>>& pictures() const { return m_pictures; }

  private:
    void say(const std::string& words) { m_text += words; }
    void number(double value);
    void at(geometry::Point p);
    void box(const geometry::Box& box);
    void colour(raster::Rgb colour);
    void path(const geometry::Contour& line);
    /// What is drawn between lies on a layer; on none without a name.
    void begin(const std::string& layer, const std::string& step);
    void end(const std::string& layer);
    void draw(const Drawn& drawn);
    void write(const Label& label);
    void paint(const Filled& filled);
    void paint(const Drawn& drawn) { draw(drawn); }
    void paint(const Written& line);
    void paint(const Pictured& one);
    void paint(const ClipTo& clip);

    double m_heightMm;
    OutlineFonts& m_fonts;
    Layers& m_layers;
    std::set<std::size_t> m_onLayers;
    std::string m_text;
    std::set<std::size_t> m_used;
    std::vector<std::shared_ptr<const raster::Picture>> m_pictures;
    bool m_isClipped = false;
};

} // namespace thinline::formats::pdf
