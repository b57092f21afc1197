// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "assembly/Words.h"

#include <array>
#include <set>

namespace thinline::assembly {
namespace {

using design::PieceId;
using design::Side;

constexpr std::array<const char*, 12> kHeadings{"Lay out", "Join",       "Fold",   "Turn over",
                                                "Glue",    "Foam",       "Put in", "String",
                                                "Try dry", "Glue flaps", "Wait",   "Place"};
constexpr std::array<const char*, 12> kKeys{"lay-out", "join",   "fold",    "turn-over",  "glue", "foam",
                                            "put-in",  "string", "try-dry", "glue-flaps", "wait", "place"};

class Writing {
  public:
    Writing(const design::Stack& stack, base::LengthUnit unit, const Instructions& all)
        : m_stack(stack), m_unit(unit), m_all(all) {}

    std::string nameOf(const Assembly& one) const {
        if (one.base.empty())
            return "the whole";
        if (one.base.size() == 1)
            return design::pieceName(m_stack, one.base.front());
        std::string numbers;
        for (std::size_t i = 0; i < one.base.size(); ++i)
            numbers += (i == 0 ? "" : i + 1 == one.base.size() ? " and " : ", ") + number(one.base[i]);
        return "parts " + numbers + " (" +
               design::layerName(m_stack, m_stack.layerOf(*m_stack.find(one.base.front()))) + ")";
    }

    std::string textOf(const Assembly& in, const Step& step) const {
        switch (step.act) {
        case Act::LayOut:
            return "Lay all pieces out beside one another before you use any glue, and compare them with the "
                   "list.";
        case Act::Join:
            return joinText(step);
        case Act::Fold:
            return foldText(step);
        case Act::TurnOver:
            return step.up == Side::Back
                       ? "Turn the work over. You look at its back now: left and right are swapped."
                       : "Turn the work over again, with its front up.";
        case Act::Glue:
            return isStuck(step)
                       ? "Stick " + newPieces(step) + " onto " + ontoText(in, step) +
                             ": lift it over with transfer film, and rub it down well."
                       : "Glue " + newPieces(step) + " onto " + ontoText(in, step) + "." + glueCare(step);
        case Act::Foam:
            return foamText(in, step);
        case Act::PutIn:
            return "Put in " + step.takes +
                   (step.lengthMm > 0
                        ? ", " + length(step.lengthMm) + " of it with ends to tie, while its way is open."
                        : std::string("."));
        case Act::String:
            return stringText(step);
        case Act::TryDry:
            return "Fold it up without glue first: see that every flap meets its panel and that it closes.";
        case Act::GlueFlaps:
            return "Glue " + base::counted(static_cast<long long>(step.glue.size()), "flap") +
                   " where it is hatched, one after the other, and hold each until it stays.";
        case Act::Wait:
            return "Let the glue dry. What lies flat stays flat under something heavy.";
        case Act::Place:
            return "Lay " + newPieces(step) + " as the picture shows.";
        }
        return {};
    }

  private:
    std::string length(double mm) const { return base::formatLength(mm, m_unit); }
    std::string number(PieceId piece) const { return std::to_string(m_all.numberOf(piece)); }

    /// "A, 3, 12 to 20".
    std::string listed(const std::vector<Placed>& pieces) const {
        std::vector<std::string> runs;
        for (std::size_t i = 0; i < pieces.size();) {
            std::size_t end = i + 1;
            const auto follows = [&](std::size_t k) {
                return !pieces[i].made && !pieces[k].made &&
                       m_all.numberOf(pieces[k].piece) ==
                           m_all.numberOf(pieces[i].piece) + static_cast<int>(k - i);
            };
            while (end < pieces.size() && follows(end))
                ++end;
            if (end - i == 2) // two are no run
                --end;
            runs.push_back(pieces[i].made ? letterOf(*pieces[i].made) : number(pieces[i].piece));
            if (end - i > 1)
                runs.back() += " to " + number(pieces[end - 1].piece);
            i = end;
        }
        std::string out;
        for (std::size_t i = 0; i < runs.size(); ++i)
            out += (i == 0 ? "" : i + 1 == runs.size() ? " and " : ", ") + runs[i];
        return out;
    }

    /// "12, the beam (lamp)", "A, the tower", "12 to 20 (sea)".
    std::string newPieces(const Step& step) const {
        if (step.pieces.size() == 1) {
            const Placed& one = step.pieces.front();
            return one.made ? letterOf(*one.made) + ", " + m_all.assemblies[*one.made].name
                            : number(one.piece) + ", " + design::pieceName(m_stack, one.piece);
        }
        std::string out = listed(step.pieces);
        const auto layerOf = [&](const Placed& one) { return m_stack.find(one.piece)->layer; };
        for (const Placed& one : step.pieces)
            if (layerOf(one) != layerOf(step.pieces.front()))
                return out;
        return out + " (" +
               design::layerName(m_stack, m_stack.layerOf(*m_stack.find(step.pieces.front().piece))) + ")";
    }

    /// Vinyl brings its own glue.
    bool isStuck(const Step& step) const {
        const design::Laid& first = *m_stack.find(step.pieces.front().piece);
        const design::Stock* stock = design::findStock(m_stack.stocks, m_stack.layerOf(first).stockId);
        return stock && stock->kind == design::Stock::Kind::Vinyl;
    }

    std::string ontoText(const Assembly& in, const Step& step) const {
        return (step.up == Side::Back ? "the back of " : "") + number(in.base.front());
    }

    static std::string glueCare(const Step& step) {
        return step.glue.empty() ? "" : " Glue only where it is hatched.";
    }

    std::string foamText(const Assembly& in, const Step& step) const {
        std::string out = "Stand " + newPieces(step) + " onto " + ontoText(in, step) + ", on foam " +
                          length(step.liftMm) + " high";
        if (!step.foam.empty())
            out += ": " + base::counted(static_cast<long long>(step.foam.size()), "spot") +
                   " where the picture has them";
        std::set<double> heights;
        for (const Spot& spot : step.foam)
            heights.insert(spot.heightMm);
        std::size_t rank = 0;
        for (const double height : heights)
            if (heights.size() > 1) {
                constexpr std::array<const char*, 3> kColours{", white ones ", ", grey ones ",
                                                              ", black ones "};
                out += kColours[std::min(rank++, kColours.size() - 1)] + length(height);
            }
        return out + ".";
    }

    std::string foldText(const Step& step) const {
        std::string out = "Fold " + newPieces(step) + ": ";
        if (step.away > 0)
            out += base::counted(step.away, "line") + " away from you";
        if (step.away > 0 && step.towards > 0)
            out += ", ";
        if (step.towards > 0)
            out += base::counted(step.towards, "line") + " towards you (dotted)";
        return out + ". Crease it sharply and open it again. Fold first: what is stiff, such as panes, "
                     "springs off a fold made later.";
    }

    std::string joinText(const Step& step) const {
        std::string out;
        if (step.up == Side::Back)
            out =
                "Lay the parts face down, as the picture shows them from behind, and try them without glue.";
        std::string glued, taped;
        for (const Seam& seam : step.seams) {
            std::string& all = seam.isGlued ? glued : taped;
            all += (all.empty() ? "" : ", ") + number(seam.upper) + (seam.isGlued ? " onto " : " and ") +
                   number(seam.lower);
        }
        if (!glued.empty())
            out += (out.empty() ? "" : " ") + ("Glue " + glued + ", on the hatched strips.");
        if (!taped.empty())
            out += (out.empty() ? "" : " ") + ("Tape " + taped + ", edge to edge.");
        return out;
    }

    std::string stringText(const Step& step) const {
        std::string numbers;
        for (const Placed& one : step.pieces) {
            numbers += numbers.empty() ? "" : ", ";
            numbers += number(one.piece);
            const int copies = m_stack.find(one.piece)->copies;
            numbers += copies > 1 ? " (" + std::to_string(copies) + " times)" : "";
        }
        return "Thread " + numbers + " in this order onto " + length(step.lengthMm) + " of " + step.takes +
               ": down through the left slit, up through the right one.";
    }

    const design::Stack& m_stack;
    const base::LengthUnit m_unit;
    const Instructions& m_all;
};

/// Of the pieces a step is about, and which of its kind it is where it is about none.
std::string keyOf(const Assembly& in, std::size_t at) {
    const Step& step = in.steps[at];
    std::string out = kKeys[static_cast<std::size_t>(step.act)];
    out += " " + (in.base.empty() ? std::string("whole") : in.base.front().text());
    for (const Placed& one : step.pieces)
        out += "+" + one.piece.text();
    if (!step.takes.empty())
        out += "+" + step.takes;
    int before = 0;
    for (std::size_t i = 0; i < at; ++i)
        before += in.steps[i].act == step.act && in.steps[i].pieces.empty() ? 1 : 0;
    if (step.pieces.empty() && before > 0)
        out += "+" + std::to_string(before + 1);
    return out;
}

} // namespace

void write(const design::Stack& stack, const Wishes& wishes, base::LengthUnit unit, Instructions& out) {
    const Writing writing(stack, unit, out);
    for (Assembly& one : out.assemblies)
        one.name = writing.nameOf(one);
    std::set<std::string> used;
    for (Assembly& one : out.assemblies)
        for (std::size_t i = 0; i < one.steps.size(); ++i) {
            Step& step = one.steps[i];
            step.key = keyOf(one, i);
            const auto own = wishes.texts.find(step.key);
            step.text = own != wishes.texts.end() ? own->second : writing.textOf(one, step);
            used.insert(step.key);
        }
    for (const auto& [key, text] : wishes.texts)
        out.strayTexts += used.contains(key) ? 0 : 1;
}

const char* headingOf(Act act) {
    return kHeadings[static_cast<std::size_t>(act)];
}

std::string letterOf(std::size_t assembly) {
    std::string out;
    for (std::size_t rest = assembly + 1; rest > 0; rest = (rest - 1) / 26)
        out.insert(out.begin(), static_cast<char>('A' + (rest - 1) % 26));
    return out;
}

} // namespace thinline::assembly
