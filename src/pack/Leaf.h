// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "formats/pdf/WritePages.h"

#include <map>

/// Pages of text and drawings, for paper and for pictures.
namespace thinline::pack {

enum class Weight { Plain, Bold };

/// The typeface in which printed pages are set; it ships with the program. Not safe to share between threads.
class Type {
  public:
    static base::Result<Type> open();

    /// Returns a text as a line at the origin; signs the typeface lacks are boxes.
    formats::pdf::Written line(const std::string& text, double sizeMm, Weight weight = Weight::Plain) const;
    /// Returns a text as lines at most so wide, broken at spaces; words longer than a line are broken anywhere.
    std::vector<std::string> wrapped(const std::string& text, double sizeMm, Weight weight,
                                     double widthMm) const;

  private:
    Type(lettering::Typeface plain, lettering::Typeface bold)
        : m_plain(std::move(plain)), m_bold(std::move(bold)) {}
    std::shared_ptr<const lettering::GlyphRun> run(const std::string& text, Weight weight) const;
    lettering::Typeface m_plain, m_bold;
    mutable std::map<std::pair<std::string, Weight>, std::shared_ptr<const lettering::GlyphRun>> m_runs;
};

/// How a text is set.
struct Setting {
    double sizeMm = 3.5;
    Weight weight = Weight::Plain;
    raster::Rgb colour{30, 42, 49};
};
inline constexpr double kLineHeight = 1.35; ///< in sizes, from one base line to the next

/// A page while it is filled. All in mm from its upper left corner.
class Leaf {
  public:
    Leaf(double widthMm, double heightMm, const Type& type) : m_type(type) {
        page.widthMm = widthMm;
        page.heightMm = heightMm;
    }

    /// Writes lines from the upper left corner of a place on, and returns where the next would begin.
    double write(geometry::Point corner, const std::vector<std::string>& lines, const Setting& setting);
    /// The same of a text broken to a width.
    double write(geometry::Point corner, const std::string& text, double widthMm, const Setting& setting);
    /// Writes a text with its middle there.
    void writeAround(geometry::Point middle, const std::string& text, const Setting& setting);
    double heightOf(const std::string& text, double widthMm, const Setting& setting) const;

    void fill(const geometry::Polygons& rings, raster::Rgb colour);
    /// Draws closed rings.
    void outline(const geometry::Polygons& rings, double widthMm, double grey,
                 std::vector<double> dashMm = {});
    void stretch(geometry::Point from, geometry::Point to, double widthMm, double grey,
                 std::vector<double> dashMm = {});

    template <class T>
    void paint(T one) {
        page.painted.emplace_back(std::in_place_type<T>, std::move(one));
    }

    formats::pdf::Page page;

  private:
    const Type& m_type;
};

/// Returns a page as a picture.
/// Shape:  what the page holds besides `painted` is left out.
/// Cost:   O(pixels of all that is painted).
raster::Picture pictureOf(const formats::pdf::Page& page, double pxPerMm);

/// Returns the box a written line takes, mm: as wide as it runs, from the height of its capitals to below its tails.
geometry::Box boxOf(const formats::pdf::Written& line);

} // namespace thinline::pack
