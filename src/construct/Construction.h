// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Length.h"
#include "base/Parameter.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/FoldedForm.h"
#include "lettering/Word.h"

#include <memory>
#include <string>
#include <variant>
#include <vector>

/// Works made from measures: boxes, lanterns, flags. Each is declared once; panel, batch tool, job file and documentation
/// follow from the declaration.
namespace thinline::construct {

/// A measure a construction takes. One that follows the design's size says what goes in; all others are margins (laps,
/// clearances, slits), which stay as typed.
struct Measure {
    base::Parameter parameter;
    const char* why; ///< what it is for, in a sentence
};

/// What a part is cut from: all parts of one role lie on one stock.
enum class Role {
    Card,
    Pane, ///< translucent, behind a window
    Liner ///< another card, inside or on top
};

/// A piece of a construction, as it is drawn: its own coordinates begin near zero.
struct Part {
    std::string key;  ///< "wall"; stays when measures change
    std::string name; ///< "the wall"
    design::Body body;
    Role role = Role::Card;
    int copies = 1;
    std::string on = {}; ///< the part it lies on, in whose coordinates it is drawn
};

/// A number that followed, and how: words and lengths in turn.
struct Derived {
    std::string name;
    std::vector<std::variant<std::string, double>> how; ///< lengths in mm
    double mm = 0;
};
/// "wall = π × (58.0 + 0.3) + 12.0 lap = 195.2 mm".
std::string textOf(const Derived& derived, base::LengthUnit unit);

/// One part in another: a plug in an opening, a lid over a base.
struct Goes {
    std::string inner, outer; ///< keys
    double roomMm = 0;        ///< between both, in all
    std::string what;         ///< "the lid over the box"
};

/// What a construction comes to.
struct Built {
    std::vector<Part> parts;
    std::vector<Derived> derived;
    std::vector<Goes> fits;
    design::FoldedForm form;       ///< empty: it stays flat
    std::vector<std::string> said; ///< what the maker should know, sentences
    bool isInPlace = false;        ///< parts lie as they are drawn, not side by side
};

/// Measures as somebody stated them.
struct Given {
    std::string name;                ///< of the construction, as in files: "round-box"
    std::vector<double> values = {}; ///< in the order of its measures; what is missing takes its usual value
    std::string word = {};           ///< for those that take one
    double thicknessMm = 0.3;        ///< of the card it is made for
    base::FontName font = {};        ///< in which the word is set; none named: the construction's usual one
    std::shared_ptr<const lettering::Letters> letters =
        {}; ///< of the word, kept so that it is made again without its typeface

    bool operator==(const Given& other) const {
        return name == other.name && values == other.values && word == other.word &&
               thicknessMm == other.thicknessMm && font == other.font &&
               (letters == other.letters || (letters && other.letters && *letters == *other.letters));
    }
};

/// Measures by name, checked.
class Said {
  public:
    Said(const std::vector<Measure>& measures, std::vector<double> values, const Given& given)
        : word(given.word), letters(given.letters.get()), t(given.thicknessMm), m_measures(measures),
          m_values(std::move(values)) {}
    /// Of a measure that is declared.
    double operator[](const char* name) const;
    int count(const char* name) const { return static_cast<int>((*this)[name]); }
    bool isChosen(const char* name) const { return (*this)[name] != 0; }

    const std::string word;
    const lettering::Letters* const letters; ///< of the word; null: they were not made
    const double t;                          ///< the card's thickness, mm

  private:
    const std::vector<Measure>& m_measures;
    std::vector<double> m_values;
};

struct Construction {
    const char* name;  ///< in files and on the command line: "round-box"
    const char* label; ///< on the screen: "Round box with lid"
    const char* says;  ///< a sentence: what it is
    std::vector<Measure> measures;
    base::Result<Built> (*build)(const Said& said, const base::Progress& progress);
    const char* word = nullptr; ///< what a word is asked for: "Letters, one flag each"; null: none is
    const char* usualWord = "";
    const char* caution = nullptr; ///< a calm sentence where the work can hurt
    bool hasLetters = false;       ///< the word comes as card, in a typeface
};

/// Returns its measures without their reasons.
std::vector<base::Parameter> parametersOf(const Construction& construction);

/// Every construction, in the order in which it is offered.
const std::vector<const Construction*>& constructions();
/// Returns the construction of this name, or null.
const Construction* constructionNamed(const std::string& name);

inline constexpr double kMostThicknessMm = 3;
inline constexpr size_t kMostParts = 1500;

/// Returns what a construction comes to.
/// Shape:  parts in the order in which they are spoken of; outlines after the rule of `Shape`; folds reach the edge. Every
///         measure is an inner one where something goes in. The same measures give the same parts to the bit.
/// Units:  mm; thicknesses from 0 to kMostThicknessMm.
/// Errors: NotFound for a name that is not known, InvalidArgument for a measure out of range or measures that contradict one
///         another, naming the limit; LimitExceeded for more than kMostParts parts; Cancelled.
/// Cost:   O(nodes); a jigsaw of 1000 pieces is the largest.
base::Result<Built> built(const Given& given, const base::Progress& progress = {});

/// Returns what was stated, for a design so many times as large: what goes in grows, margins stay unless they are to grow along.
Given sizedBy(Given given, double factor, bool growsMargins = false);

} // namespace thinline::construct
