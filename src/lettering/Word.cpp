// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Setting a word so that it can be cut.
//
// A typeface spaces letters for reading. Cut letters are glued one by one, or have to hang together as one
// piece of card, and both want something else: a spacing in millimetres at finished size, or an overlap by
// so much. The order in which it is done follows from that.
//
// 1. Letters are taken from the typeface in thousandths of an em, shaped by its own rules (ligatures,
//    kerning), which are kept as long as nobody asks for another spacing.
// 2. If letters are to overlap, each is moved against the one before until they just touch. The least
//    level distance between two outlines made of straight stretches lies at the height of a corner of
//    either, so it is found exactly by looking at all corners. Boxes would not do: after a T an A stands
//    far under its arm.
// 3. Then the scale is found. Spacing and overlap are in millimetres and do not scale, the letters do; so
//    a wanted width is not a matter of one division. The width grows with the scale in straight stretches
//    (a different letter may become the outermost one), and the rule of three on the present stretch meets
//    it in a few rounds, or it turns out that no scale gives this width with this spacing, which is said.
// 4. Each letter is cut as the area its contours enclose. Contours of a letter may overlap each other, as
//    in many typefaces; the non-zero rule makes them one. Loose parts (the dot of an i) are pieces of
//    their own.
// 5. A joined word is a weld of all letters. If more than one piece comes out although there is no space,
//    the letters do not all meet; that is said rather than bridged by a guess.
//
// A space stays a space: nothing is moved across it, and no overlap is asked of it.
#include "lettering/Word.h"

#include "base/Length.h"
#include "geometry/Boolean.h"
#include "geometry/Openings.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <sstream>

namespace thinline::lettering {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Contour;
using geometry::Point;
using geometry::Polygon;
using geometry::Shape;
using geometry::Transform;

constexpr double kPerEm = 1000; ///< what letters are counted in

/// A letter on its way to its place.
struct Standing {
    const Letter* letter = nullptr;
    std::vector<Contour> contours;
    Box box;
    double x = 0; ///< how far it is moved to its place
};

/// How far a polygonal outline reaches to one side at height y; nothing where it is not.
std::optional<double> reachAt(const std::vector<Polygon>& outline, double y, bool toRight) {
    std::optional<double> out;
    const auto take = [&](double x) { out = !out ? x : toRight ? std::max(*out, x) : std::min(*out, x); };
    for (const Polygon& polygon : outline)
        for (size_t i = 0; i < polygon.size(); ++i) {
            const Point a = polygon[i], b = polygon[(i + 1) % polygon.size()];
            if (std::min(a.y, b.y) > y || std::max(a.y, b.y) < y)
                continue;
            if (a.y == b.y) {
                take(a.x);
                take(b.x);
            } else {
                take(a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y));
            }
        }
    return out;
}

/// The least level distance from a left letter to a right one: both outlines are made of straight stretches,
/// so it lies at the height of a corner of either.
std::optional<double> levelGap(const std::vector<Polygon>& left, const std::vector<Polygon>& right) {
    std::optional<double> least;
    for (const auto* side : {&left, &right})
        for (const Polygon& polygon : *side)
            for (const Point p : polygon) {
                const auto from = reachAt(left, p.y, true), to = reachAt(right, p.y, false);
                if (from && to && (!least || *to - *from < *least))
                    least = *to - *from;
            }
    return least;
}

std::vector<Polygon> flattened(const Standing& letter) {
    constexpr double kFine = 1e-3 * kPerEm; // 0.06 mm at 60 mm, far below any overlap
    std::vector<Polygon> out;
    for (const Contour& contour : letter.contours)
        out.push_back(geometry::flatten(contour, kFine));
    return out;
}

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(" \t\r\n"), to = text.find_last_not_of(" \t\r\n");
    return from == std::string::npos ? "" : text.substr(from, to - from + 1);
}

base::Status check(const Recipe& recipe, const std::string& text) {
    const auto within = [](double value, double least, double most) {
        return value >= least && value <= most;
    };
    if (text.empty())
        return Error{Code::InvalidArgument, "Type a word first."};
    if (text.size() > kMostTextBytes)
        return Error{Code::InvalidArgument,
                     "A word can have at most about 400 letters; set the text in several."};
    if (!within(recipe.sizeMm, 1, 2000))
        return Error{Code::InvalidArgument, "Letters can be 1 to 2000 mm high or wide."};
    if (!within(recipe.spacingMm, -50, 200))
        return Error{Code::InvalidArgument, "The spacing goes from -50 to 200 mm."};
    if (!within(recipe.overlapMm, 0, 200))
        return Error{Code::InvalidArgument, "The overlap goes from 0 to 200 mm."};
    if (!within(recipe.fillBelowMm2, 0, 1e6))
        return Error{Code::InvalidArgument, "Openings are filled below 0 to 1000000 mm²."};
    return base::Done{};
}

class Setting {
  public:
    Setting(const Letters& letters, const Recipe& recipe, const base::Progress& progress)
        : m_source(letters), m_recipe(recipe), m_progress(progress) {
        m_word.said = letters.said;
        for (const Letter& letter : letters.letters) {
            Standing one{&letter, letter.contours, {}, 0};
            for (const Contour& contour : one.contours)
                one.box.include(geometry::bounds(contour));
            m_letters.push_back(std::move(one));
        }
    }

    base::Result<Word> run() {
        if (m_letters.empty() || !(m_source.capHeight > 0) || !(m_recipe.sizeMm > 0))
            return Error{Code::InvalidArgument, "There are no letters to set, or they have no size."};
        if (m_recipe.hasEqualHeights)
            stretch();
        place();
        if (auto ok = findScale(); !ok)
            return ok.error();
        if (auto ok = cut(); !ok)
            return ok.error();
        if (m_recipe.isJoined)
            if (auto ok = join(); !ok)
                return ok.error();
        finish();
        return std::move(m_word);
    }

  private:
    /// Every letter from the baseline to the cap height.
    void stretch() {
        const double height = m_source.capHeight;
        for (Standing& letter : m_letters) {
            if (!(letter.box.height() > 0))
                continue;
            const double factor = height / letter.box.height();
            const double baseline = letter.letter->baseline;
            const Transform map{1, 0, 0, factor, 0, baseline - letter.box.most.y * factor};
            for (Contour& contour : letter.contours)
                contour = geometry::transformed(contour, map);
            letter.box = {{letter.box.least.x, baseline - height}, {letter.box.most.x, baseline}};
        }
    }

    /// Where letters stand at no spacing: as the typeface has them, or just touching. A space stays a space.
    void place() {
        if (m_recipe.overlapMm == 0)
            return;
        std::vector<Polygon> before;
        for (size_t i = 0; i < m_letters.size(); ++i) {
            std::vector<Polygon> outline = flattened(m_letters[i]);
            Standing& letter = m_letters[i];
            if (i > 0 && !beginsLine(i)) {
                const Standing& last = m_letters[i - 1];
                letter.x = last.x;
                if (!letter.letter->isAfterSpace) {
                    const auto gap = levelGap(before, outline);
                    letter.x -= gap ? *gap : letter.box.least.x - last.box.most.x;
                }
            }
            before = std::move(outline);
        }
    }

    bool beginsLine(size_t i) const {
        return i > 0 && m_letters[i].letter->baseline != m_letters[i - 1].letter->baseline;
    }

    /// What is added in mm before the n-th letter.
    double addedMm(size_t letter) const {
        double sum = 0;
        for (size_t i = 1; i <= letter; ++i)
            sum = beginsLine(i) ? 0
                  : m_recipe.overlapMm <= 0
                      ? sum + m_recipe.spacingMm
                      : sum - (m_letters[i].letter->isAfterSpace ? 0 : m_recipe.overlapMm);
        return sum;
    }

    Box boxAt(double scale) const {
        Box box;
        for (size_t i = 0; i < m_letters.size(); ++i) {
            const double by = m_letters[i].x * scale + addedMm(i);
            const Box& own = m_letters[i].box;
            box.include({{own.least.x * scale + by, own.least.y * scale},
                         {own.most.x * scale + by, own.most.y * scale}});
        }
        return box;
    }

    base::Status findScale() {
        if (m_recipe.sizeBy == SizeBy::CapHeight) {
            m_scale = m_recipe.sizeMm / m_source.capHeight;
        } else {
            // The width grows with the scale in straight stretches (another letter may become the outermost),
            // so a few rounds of the rule of three meet it.
            m_scale = m_recipe.sizeMm / std::max(1e-6, boxAt(1).width());
            for (int round = 0; round < 60; ++round) {
                const double width = boxAt(m_scale).width(), wider = boxAt(m_scale * 1.001).width();
                const double slope = (wider - width) / (m_scale * 0.001);
                if (!(slope > 0))
                    break;
                const double next = m_scale + (m_recipe.sizeMm - width) / slope;
                if (std::abs(next - m_scale) < 1e-12 * m_scale)
                    break;
                m_scale = std::max(next, m_scale / 4);
            }
            if (std::abs(boxAt(m_scale).width() - m_recipe.sizeMm) > 1e-6)
                return Error{Code::InvalidArgument,
                             "The letters cannot be set this wide with this spacing; change one of them."};
        }
        for (size_t i = 1; i < m_letters.size(); ++i)
            if (!m_letters[i].letter->isAfterSpace &&
                m_recipe.overlapMm >= m_letters[i].box.width() * m_scale)
                return Error{Code::InvalidArgument, "An overlap of " +
                                                        base::formatNumber(m_recipe.overlapMm, 1) +
                                                        " mm is more than the letter " +
                                                        m_letters[i].letter->text + " is wide; take less."};
        return base::Done{};
    }

    base::Status cut() {
        const double left = boxAt(m_scale).least.x;
        for (size_t i = 0; i < m_letters.size(); ++i) {
            const Standing& letter = m_letters[i];
            const Transform map{m_scale, 0, 0, m_scale, letter.x * m_scale + addedMm(i) - left, 0};
            std::vector<Contour> contours;
            for (const Contour& contour : letter.contours)
                contours.push_back(geometry::transformed(contour, map));
            auto shapes = geometry::areasOf(contours, geometry::FillRule::NonZero, m_progress);
            if (!shapes)
                return shapes.error();
            int part = 0;
            const bool isAlone = letter.letter->text == m_source.text;
            for (const Shape& shape : *shapes)
                m_word.pieces.push_back(
                    {static_cast<int>(i), part++,
                     geometry::withSmallOpeningsFilled(shape, m_recipe.fillBelowMm2, 0),
                     isAlone ? letter.letter->text : "the " + letter.letter->text + " of " + m_source.text,
                     map});
        }
        return base::Done{};
    }

    base::Status join() {
        std::vector<Shape> all;
        for (const WordPiece& piece : m_word.pieces)
            all.push_back(piece.shape);
        auto welded = geometry::weld(all, m_progress);
        if (!welded)
            return welded.error();
        std::vector<Shape> joined = welded.take();
        std::stable_sort(joined.begin(), joined.end(), [](const Shape& a, const Shape& b) {
            return geometry::bounds(a).least.x < geometry::bounds(b).least.x;
        });
        std::string dotted; // their dots meet nothing at any overlap
        for (size_t i = 0; i + 1 < m_word.pieces.size(); ++i)
            if (m_word.pieces[i].part == 0 && m_word.pieces[i + 1].part > 0 && m_word.pieces[i].letter >= 0) {
                const std::string& letter =
                    m_letters[static_cast<size_t>(m_word.pieces[i].letter)].letter->text;
                if (dotted.find(letter) == std::string::npos)
                    dotted += (dotted.empty() ? "" : ", ") + letter;
            }
        m_word.pieces.clear();
        for (const Shape& shape : joined)
            m_word.pieces.push_back({-1, static_cast<int>(m_word.pieces.size()),
                                     geometry::withSmallOpeningsFilled(shape, m_recipe.fillBelowMm2, 0),
                                     "the word " + m_source.text, Transform::scale(m_scale, m_scale)});
        const bool hasSpaces = std::any_of(m_letters.begin(), m_letters.end(),
                                           [](const Standing& l) { return l.letter->isAfterSpace; });
        if (m_word.pieces.size() > 1 && !hasSpaces)
            m_word.said.push_back(
                "the letters do not all meet: " + std::to_string(m_word.pieces.size()) + " loose pieces; " +
                (dotted.empty() ? "overlap them more, or lay a strip behind them"
                                : "the dots of " + dotted +
                                      " stay loose at any overlap: keep the word together as a "
                                      "cluster at Sheets, or lay a strip behind it"));
        return base::Done{};
    }

    void finish() {
        m_word.capHeightMm = m_source.capHeight * m_scale;
        for (const WordPiece& piece : m_word.pieces)
            m_word.box.include(geometry::bounds(piece.shape));
    }

    const Letters& m_source;
    const Recipe& m_recipe;
    const base::Progress& m_progress;
    std::vector<Standing> m_letters;
    double m_scale = 1; ///< mm per thousandth of an em
    Word m_word;
};

constexpr double kLineEm = 1.25; // from one baseline to the next: usual, from memory

/// How a word of several lines is spoken of.
std::string inOneLine(std::string text) {
    std::erase(text, '\r');
    std::replace(text.begin(), text.end(), '\n', ' ');
    return text;
}

base::Status addLine(const Typeface& typeface, std::string line, bool keepsSpacing, double baseline,
                     std::vector<Letter>& letters, std::string& missing) {
    line = trimmed(line);
    if (line.empty())
        return base::Done{};
    auto run = typeface.run(line, keepsSpacing);
    if (!run)
        return run.error();
    bool isAfterSpace = baseline > 0; // nothing is moved against the line before
    for (const Glyph& glyph : run->glyphs) {
        const std::string text = line.substr(glyph.from, glyph.to - glyph.from);
        if (glyph.isMissing && missing.find(text) == std::string::npos)
            missing += text;
        if (glyph.contours.empty()) {
            isAfterSpace = true;
            continue;
        }
        Letter letter{text, isAfterSpace, {}, baseline};
        isAfterSpace = false;
        const auto map = Transform::move(glyph.at)
                             .then(Transform::scale(kPerEm, kPerEm))
                             .then(Transform::move({0, baseline}));
        for (const Contour& contour : glyph.contours)
            letter.contours.push_back(
                geometry::rounded(Shape{geometry::transformed(contour, map), {}}, 1e-4).outline);
        letters.push_back(std::move(letter));
    }
    return base::Done{};
}

} // namespace

base::Result<Letters> lettersOf(const Typeface& typeface, const Recipe& recipe) {
    Letters out;
    out.text = trimmed(recipe.text);
    if (auto ok = check(recipe, out.text); !ok)
        return ok.error();
    const bool keepsSpacing = recipe.spacingMm == 0 && recipe.overlapMm == 0 && !recipe.hasEqualHeights;
    out.capHeight = typeface.capHeight() * kPerEm;
    std::string missing;
    double baseline = 0;
    std::istringstream lines(out.text);
    for (std::string line; std::getline(lines, line); baseline += kLineEm * kPerEm)
        if (auto ok = addLine(typeface, line, keepsSpacing, baseline, out.letters, missing); !ok)
            return ok.error();
    out.text = inOneLine(out.text);
    if (out.letters.empty())
        return Error{Code::InvalidArgument,
                     "There is no ink in '" + out.text + "'; type letters or figures."};
    if (!missing.empty())
        out.said.push_back("the typeface has no sign for " + missing);
    return out;
}

base::Result<Word> setWord(const Letters& letters, const Recipe& recipe, const base::Progress& progress) {
    return Setting(letters, recipe, progress).run();
}

base::Result<FoundFont> findFont(const base::FontStore& store, const base::FontName& wanted,
                                 const base::FontName& fallback) {
    const std::vector<base::FontName> all = store.fonts();
    const auto find = [&](auto accepts) { return std::find_if(all.begin(), all.end(), accepts); };
    auto at = find([&](const base::FontName& name) {
        return name.family == wanted.family && (name.style == wanted.style || wanted.style.empty());
    });
    if (wanted.style.empty()) // the plain one before any other
        if (const auto plain = find([&](const base::FontName& name) {
                return name.family == wanted.family && (name.style == "Regular" || name.style == "Book");
            });
            plain != all.end())
            at = plain;
    const bool isWanted = at != all.end();
    if (at == all.end())
        at = find([&](const base::FontName& name) { return name.family == wanted.family; });
    if (at == all.end())
        at = find([&](const base::FontName& name) { return name == fallback; });
    if (at == all.end())
        at = all.begin();
    if (at == all.end())
        return Error{Code::NotFound, "There is no typeface at all; install one."};
    auto file = store.read(*at);
    if (!file)
        return file.error();
    FoundFont out{file.take(), ""};
    if (!isWanted)
        out.said = "the typeface " + wanted.family + (wanted.style.empty() ? "" : " " + wanted.style) +
                   " is not installed; " + at->family + " " + at->style + " was taken instead";
    return out;
}

} // namespace thinline::lettering
