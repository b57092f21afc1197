// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"
#include "cutplan/Plan.h"
#include "cutplan/Settings.h"
#include "cutplan/Swaps.h"
#include "design/PartNames.h"

#include <cmath>
#include <set>

namespace thinline::cutplan {
namespace {

using design::Operation;
using design::PlanFault;
using design::Setting;
using design::ToolKind;

std::string grams(double force) {
    return base::formatNumber(force, 0);
}

/// What is done with a line, as far as the tool goes.
Operation operationFor(const design::PieceLine& line, design::FoldsAs foldsAs) {
    if (std::holds_alternative<design::Fold>(line.does))
        return foldsAs == design::FoldsAs::Score         ? Operation::Score
               : foldsAs == design::FoldsAs::Perforation ? Operation::Perforate
                                                         : Operation::Draw;
    if (std::holds_alternative<design::Slit>(line.does))
        return Operation::CutInside;
    if (std::holds_alternative<design::Tear>(line.does))
        return Operation::Perforate;
    const auto* mark = std::get_if<design::Placement>(&line.does);
    return std::holds_alternative<design::Score>(line.does) || (mark && mark->isScored) ? Operation::Score
                                                                                        : Operation::Draw;
}

class Checking {
  public:
    Checking(const design::Stack& stack, const design::Arrangement& arrangement,
             const design::Machine& machine, const PlanOptions& options)
        : m_stack(stack), m_arrangement(arrangement), m_machine(machine), m_options(options),
          m_settings(settingsFor(stack, arrangement, machine, options)) {}

    std::vector<PlanFault> run() {
        for (const auto& [stockId, setting] : m_settings) {
            checkForce(stockId, setting);
            checkPasses(stockId, setting);
            checkTool(stockId, setting.blade, ", and " + nameOf(stockId) + " needs it",
                      "Say at Cut that there is one, set the stock otherwise, or cut it by hand.");
        }
        checkLines();
        checkSpacing();
        for (std::size_t i = 0; i < m_arrangement.loads.size(); ++i)
            checkLoad(i);
        return std::move(m_faults);
    }

  private:
    void add(PlanFault::Kind kind, std::optional<std::size_t> load, const std::string& stockId,
             const std::string& what, const std::string& remedy) {
        for (const PlanFault& one : m_faults)
            if (one.kind == kind && one.what == what)
                return;
        m_faults.push_back({kind, load, stockId, what, remedy});
    }
    std::string nameOf(const std::string& stockId) const {
        return design::stockName(m_stack.stocks, stockId);
    }

    design::Depth depthOf(const std::string& stockId) const {
        const design::Stock* stock = design::findStock(m_stack.stocks, stockId);
        return stock ? stock->cut : design::Depth::Through;
    }

    void checkForce(const std::string& stockId, const Setting& setting) {
        if (setting.forceGf > m_machine.mostGf || setting.forceGf < m_machine.leastGf)
            add(PlanFault::Kind::Force, {}, stockId,
                nameOf(stockId) + " is to be cut with " + grams(setting.forceGf) + " gf; " + m_machine.name +
                    " gives " + grams(m_machine.leastGf) + " to " + grams(m_machine.mostGf) + " gf",
                "Change its force, or cut it in more passes.");
        if (setting.throughGf &&
            (*setting.throughGf > m_machine.mostGf || *setting.throughGf < m_machine.leastGf))
            add(PlanFault::Kind::Force, {}, stockId,
                nameOf(stockId) + " is to be cut through its carrier with " + grams(*setting.throughGf) +
                    " gf; " + m_machine.name + " gives " + grams(m_machine.leastGf) + " to " +
                    grams(m_machine.mostGf) + " gf",
                "Change that force, or cut it in more passes.");
        const design::Stock& stock = *design::findStock(m_stack.stocks, stockId);
        const double needed = forceFor(stock, m_stack.stocks, design::kMostPasses);
        if (!m_options.settings.contains(stockId) && needed > m_machine.mostGf)
            add(PlanFault::Kind::Force, {}, stockId,
                nameOf(stockId) + " would need about " + grams(needed) + " gf in each of " +
                    std::to_string(design::kMostPasses) + " passes, more than " + m_machine.name + " gives",
                "Cut it by hand.");
    }

    /// One that a single pass cannot do is set to one.
    void checkPasses(const std::string& stockId, const Setting& setting) {
        const design::Stock& stock = *design::findStock(m_stack.stocks, stockId);
        const double needed = forceFor(stock, m_stack.stocks, setting.passes);
        if (m_options.settings.contains(stockId) && needed > m_machine.mostGf)
            add(PlanFault::Kind::TooThick, {}, stockId,
                nameOf(stockId) + ", " + base::formatNumber(stock.thicknessMm, 2) +
                    " mm thick, is to be cut in " + std::to_string(setting.passes) +
                    (setting.passes == 1 ? " pass" : " passes") + "; by our model that takes about " +
                    grams(needed) + " gf, and " + m_machine.name + " gives " + grams(m_machine.mostGf),
                "Cut it in more passes.");
    }

    void checkSpacing() {
        constexpr double kCloseMm = 2; // common practice: closer than that the card between two cuts lifts
        if (m_options.spacingMm < kCloseMm)
            add(PlanFault::Kind::TooClose, {}, {},
                "Pieces lie " + base::formatNumber(m_options.spacingMm, 1) +
                    " mm apart; between cuts closer than 2 mm the card lifts and catches",
                "Keep 2 to 3 mm between pieces at Sheets, unless the card is known to hold.");
    }

    /// What a line asks of the tool that follows it.
    void checkLine(const design::PieceLine& line, Operation operation, const std::string& stockId,
                   const design::Laid& laid) {
        constexpr double kFineMm =
            0.8; // a blade that trails by a quarter of a millimetre smears shorter ones; our own figure
        const auto* tear = std::get_if<design::Tear>(&line.does);
        if (tear && std::min(tear->cutMm, tear->leftMm) < kFineMm)
            add(PlanFault::Kind::TooFine, {}, stockId,
                design::pieceName(m_stack, laid) + " is perforated with cuts of " +
                    base::formatNumber(tear->cutMm, 2) + " mm, " + base::formatNumber(tear->leftMm, 2) +
                    " mm left, finer than a blade makes",
                "Make cuts and bridges 0.8 mm or longer at Folds.");
        if (operation == Operation::Score && scoringTool(m_machine) == ToolKind::Wheel)
            if (const double radius = tightestMm(line.path); radius < kWheelMm)
                add(PlanFault::Kind::TooTight, {}, stockId,
                    design::pieceName(m_stack, laid) + " is scored along a bend of " +
                        base::formatNumber(radius, 1) + " mm radius, tighter than a scoring wheel turns",
                    "Score it with a stylus, perforate it, or make it wider.");
    }
    static constexpr double kWheelMm = 5; ///< our own figure: a wheel that is turned tighter drags sideways

    /// Returns the smallest radius of a line: 0 where it has a corner, without bounds where it is straight.
    static double tightestMm(const geometry::Line& line) {
        constexpr double kCorner = 0.35, kWindowMm = 2;
        double out = 1e9;
        const geometry::Polygon way = [&] {
            geometry::Polygon points = geometry::flatten(line, 0.01);
            points.push_back(geometry::endOf(line));
            return points;
        }();
        for (std::size_t i = 0; i + 2 < way.size(); ++i) {
            const geometry::Point a = way[i + 1] - way[i], b = way[i + 2] - way[i + 1];
            const double la = std::hypot(a.x, a.y), lb = std::hypot(b.x, b.y);
            if (la < 1e-9 || lb < 1e-9)
                continue;
            const double turn = std::abs(std::atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y));
            if (turn > kCorner && std::min(la, lb) > kWindowMm)
                return 0;
            if (turn > 1e-6)
                out = std::min(out, (la + lb) / 2 / turn);
        }
        return out;
    }

    void checkTool(const std::string& stockId, ToolKind tool, const std::string& what,
                   const std::string& remedy) {
        if (!m_machine.owns(tool) || !holderFor(m_machine, tool))
            add(PlanFault::Kind::NoTool, {}, stockId,
                std::string("There is no ") + design::toolName(tool) + " for " + m_machine.name + what,
                remedy);
    }

    void checkLines() {
        std::set<design::PieceId> laid;
        for (const design::Load& load : m_arrangement.loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                for (const design::PlacedPiece& piece : sheet.pieces) {
                    const design::Laid* of = m_stack.find(piece.what.piece);
                    if (!of || !laid.insert(piece.what.piece).second)
                        continue;
                    for (const design::PieceLine& line : of->piece.body->lines) {
                        const Operation operation = operationFor(line, m_options.foldsAs);
                        checkLine(line, operation, sheet.stockId, *of);
                        if (operation == Operation::Draw)
                            checkTool(sheet.stockId, ToolKind::Pen, " to draw with",
                                      "Say at Cut that there is one, or leave out what is drawn.");
                        if (operation == Operation::Score)
                            checkTool(sheet.stockId, scoringTool(m_machine), " to score with",
                                      "Say at Cut that there is one, perforate the folds, or fold by hand.");
                    }
                }
    }

    void checkLoad(std::size_t index) {
        const design::Load& load = m_arrangement.loads[index];
        if (!takes(m_machine, load.mat))
            add(PlanFault::Kind::MatTooLarge, index, {},
                "The mat " + load.mat.name + " is larger than " + m_machine.name + " takes: " +
                    base::formatSize(m_machine.usableWidthMm, m_machine.longestMm,
                                     base::LengthUnit::Millimetre),
                "Choose a smaller mat at Sheets.");
        checkHolders(index);
        for (const design::PlacedSheet& sheet : load.sheets) {
            const std::string& first = load.sheets.front().stockId;
            const auto a = m_settings.find(first), b = m_settings.find(sheet.stockId);
            if (a == m_settings.end() || b == m_settings.end())
                continue;
            if (!areAlike(a->second, b->second) || depthOf(first) != depthOf(sheet.stockId))
                add(PlanFault::Kind::Unlike, index, sheet.stockId,
                    "Load " + std::to_string(index + 1) + " holds " + nameOf(first) + " and " +
                        nameOf(sheet.stockId) + ", which no one setting cuts",
                    "Cut them one after the other, with the setting of each, or take one off the mat.");
        }
    }

    /// Tools of one load that share a holder.
    void checkHolders(std::size_t index) {
        std::map<std::size_t, std::set<ToolKind>> tools;
        const auto use = [&](ToolKind tool) {
            if (const auto holder = holderFor(m_machine, tool); holder && m_machine.owns(tool))
                tools[*holder].insert(tool);
        };
        for (const design::PlacedSheet& sheet : m_arrangement.loads[index].sheets) {
            if (const auto setting = m_settings.find(sheet.stockId); setting != m_settings.end())
                use(setting->second.blade);
            for (const design::PlacedPiece& piece : sheet.pieces)
                if (const design::Laid* laid = m_stack.find(piece.what.piece))
                    for (const design::PieceLine& line : laid->piece.body->lines) {
                        const Operation operation = operationFor(line, m_options.foldsAs);
                        if (operation == Operation::Draw)
                            use(ToolKind::Pen);
                        if (operation == Operation::Score)
                            use(scoringTool(m_machine));
                    }
        }
        for (const auto& [holder, kinds] : tools)
            if (kinds.size() > 1) {
                std::string names;
                for (const ToolKind kind : kinds)
                    names += (names.empty()             ? ""
                              : kind == *kinds.rbegin() ? " and "
                                                        : ", ") +
                             std::string(design::toolName(kind));
                add(PlanFault::Kind::OneHolder, index, {},
                    "Load " + std::to_string(index + 1) + " needs " + names +
                        " in one holder, one after the other",
                    "Change the tool while the mat stays loaded; unloading would lose the place.");
            }
    }

    const design::Stack& m_stack;
    const design::Arrangement& m_arrangement;
    const design::Machine& m_machine;
    const PlanOptions& m_options;
    const std::map<std::string, Setting> m_settings;
    std::vector<PlanFault> m_faults;
};

} // namespace

bool takes(const design::Machine& machine, const design::MatFormat& mat) {
    constexpr double kHairMm = 1e-6;
    return mat.widthMm <= machine.usableWidthMm + kHairMm && mat.heightMm <= machine.longestMm + kHairMm;
}

std::map<std::string, Setting> settingsFor(const design::Stack& stack, const design::Arrangement& arrangement,
                                           const design::Machine& machine, const PlanOptions& options) {
    std::map<std::string, Setting> out;
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            const design::Stock* stock = design::findStock(stack.stocks, sheet.stockId);
            if (!stock || out.contains(stock->id))
                continue;
            const auto decided = options.settings.find(stock->id);
            out[stock->id] = decided != options.settings.end()
                                 ? decided->second
                                 : settingFor(*stock, stack.stocks, machine).setting;
        }
    return out;
}

std::vector<PlanFault> faultsOf(const design::Stack& stack, const design::Arrangement& arrangement,
                                const design::Machine& machine, const PlanOptions& options) {
    return Checking(stack, arrangement, machine, options).run();
}

} // namespace thinline::cutplan
