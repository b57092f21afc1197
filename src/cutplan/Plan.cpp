// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Plan.h"

#include "cutplan/Aids.h"
#include "cutplan/Begin.h"
#include "cutplan/Settings.h"
#include "cutplan/Swaps.h"
#include "cutplan/Timing.h"
#include "cutplan/Tour.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace thinline::cutplan {
namespace {

using design::CutPlan;
using design::Operation;
using design::Pass;
using design::PlannedLoad;
using design::PlannedPath;
using design::Setting;
using design::ToolKind;
using geometry::Box;
using geometry::Point;

constexpr double kFlatMm = 0.05; ///< of edges, to ask how much room there is beside a place

/// What is done to one copy, where it lies on the mat.
struct OnMat {
    const design::PieceCuts* cuts = nullptr;
    std::size_t sheet = 0;
    Box box;
    int nested = 0;         ///< how many pieces lie around it
    bool isThrough = false; ///< the carrier is cut as well
};

bool isClosed(const geometry::Line& line) {
    return !line.segments.empty() && line.segments.back().end == line.start;
}

Box boxOf(const design::PieceCuts& cuts) {
    Box out;
    for (const geometry::CutLines& lines : cuts.by) {
        for (const geometry::Contour& contour : lines.outlines)
            out.include(geometry::bounds(contour));
        for (const geometry::Line& line : lines.lines)
            out.include(geometry::bounds(line));
    }
    return out;
}

/// Counts around each piece those in whose openings it lies.
void countNested(std::vector<OnMat>& pieces) {
    struct Opening {
        Box box;
        geometry::Shape area;
        std::size_t of;
    };
    std::vector<Opening> openings;
    for (std::size_t i = 0; i < pieces.size(); ++i)
        for (const geometry::Contour& contour : pieces[i].cuts->of(Operation::CutInside).outlines) {
            const Box box = geometry::bounds(contour);
            if (box.width() > 2 && box.height() > 2) // nothing is laid into smaller ones
                openings.push_back({box, {contour, {}}, i});
        }
    for (const Opening& opening : openings) {
        geometry::Shape area = opening.area;
        if (geometry::signedArea(area.outline) < 0)
            area.outline = geometry::reversed(area.outline);
        for (std::size_t i = 0; i < pieces.size(); ++i)
            if (i != opening.of && opening.box.contains(pieces[i].box.least) &&
                opening.box.contains(pieces[i].box.most) &&
                geometry::contains(area, geometry::middle(pieces[i].box.least, pieces[i].box.most)))
                ++pieces[i].nested;
    }
}

ToolKind toolFor(const design::Machine& machine, Operation operation, const Setting& setting) {
    return operation == Operation::Draw    ? ToolKind::Pen
           : operation == Operation::Score ? scoringTool(machine)
                                           : setting.blade;
}

class Planning {
  public:
    Planning(const design::Stack& stack, const design::Arrangement& arrangement,
             const design::Machine& machine, const PlanOptions& options, const base::Progress& progress)
        : m_stack(stack), m_arrangement(arrangement), m_options(options), m_progress(progress) {
        m_plan.machine = machine;
        m_plan.aids = options.aids;
        for (const design::Laid& laid : stack.pieces)
            if (design::goesThroughCarrier(stack, laid))
                m_through.insert(laid.id());
    }

    base::Result<CutPlan> run() {
        m_plan.settings = settingsFor(m_stack, m_arrangement, m_plan.machine, m_options);
        m_plan.faults = faultsOf(m_stack, m_arrangement, m_plan.machine, m_options);
        // Of thousands of pieces nobody waits for the last millimetre of way.
        std::size_t pieces = 0;
        for (const design::Load& load : m_arrangement.loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                pieces += sheet.pieces.size();
        constexpr std::size_t kFew = 600;
        if (pieces > kFew)
            m_tour.kicks = static_cast<int>(static_cast<std::size_t>(m_tour.kicks) * kFew / pieces);
        for (std::size_t i = 0; i < m_arrangement.loads.size(); ++i) {
            m_progress.report(static_cast<double>(i) / static_cast<double>(m_arrangement.loads.size()),
                              "planning the cuts");
            if (auto ok = planLoad(i); !ok)
                return ok.error();
        }
        orderForFewestSwaps(m_plan);
        for (PlannedLoad& load : m_plan.loads) {
            load.seconds = m_plan.machine.swapS * static_cast<double>(load.swaps.size());
            for (const Pass& pass : load.passes)
                load.seconds += pass.seconds;
        }
        return std::move(m_plan);
    }

  private:
    base::Status planLoad(std::size_t index) {
        const design::Load& load = m_arrangement.loads[index];
        std::vector<design::SheetCuts> cuts;
        for (const design::PlacedSheet& sheet : load.sheets) {
            auto own = design::cutsOn(m_stack, sheet, m_options.foldsAs, m_progress);
            if (!own)
                return own.error();
            cuts.push_back(own.take());
        }
        std::vector<OnMat> pieces;
        for (std::size_t s = 0; s < cuts.size(); ++s)
            for (const design::PieceCuts& one : cuts[s].pieces)
                pieces.push_back({&one, s, boxOf(one), 0, m_through.contains(one.what.piece)});
        countNested(pieces);
        PlannedLoad planned{index, {}};
        m_at = {};
        std::vector<std::string> stocks; // in the order of the sheets
        for (const design::PlacedSheet& sheet : load.sheets)
            if (std::find(stocks.begin(), stocks.end(), sheet.stockId) == stocks.end())
                stocks.push_back(sheet.stockId);
        for (const Operation operation : {Operation::Draw, Operation::Score})
            for (const std::string& stock : stocks)
                if (auto ok = addPass(load, pieces, {operation, stock}, planned); !ok)
                    return ok;
        // One blade after the other.
        std::stable_sort(stocks.begin(), stocks.end(), [&](const std::string& a, const std::string& b) {
            return m_plan.settings[a].blade < m_plan.settings[b].blade;
        });
        if (const auto tile = m_options.tiles.find(index); tile != m_options.tiles.end())
            if (auto ok = addTile(load, tile->second, planned); !ok)
                return ok;
        for (const std::string& stock : stocks)
            if (auto ok = addCuts(load, cuts, pieces, stock, planned); !ok)
                return ok;
        m_plan.loads.push_back(std::move(planned));
        return base::Done{};
    }

    /// All that a blade does to a stock. What is cut through the carrier comes last: until then the sheet is whole.
    base::Status addCuts(const design::Load& load, const std::vector<design::SheetCuts>& cuts,
                         const std::vector<OnMat>& pieces, const std::string& stock, PlannedLoad& into) {
        int deepest = 0;
        for (const OnMat& piece : pieces)
            deepest = std::max(deepest, piece.nested);
        for (const bool isThrough : {false, true}) {
            if (auto ok = addPass(load, pieces, {Operation::Perforate, stock, {}, isThrough}, into); !ok)
                return ok;
            for (int nested = deepest; nested >= 0; --nested)
                for (const Operation operation : {Operation::CutInside, Operation::Cut})
                    if (auto ok = addPass(load, pieces, {operation, stock, nested, isThrough}, into); !ok)
                        return ok;
        }
        for (const bool isThrough : {false, true})
            if (auto ok = addFrames(load, cuts, stock, isThrough, into); !ok)
                return ok;
        return base::Done{};
    }

    // ---- passes

    Pass passOf(Operation operation, const std::string& stockId, bool isThrough = false) {
        const Setting usual = m_plan.settings[stockId];
        const Setting setting = isThrough ? throughCarrier(usual, m_plan.machine) : usual;
        const design::Stock* stock = design::findStock(m_stack.stocks, stockId);
        Pass out;
        out.isThroughCarrier = isThrough;
        out.operation = operation;
        out.stockId = stockId;
        out.tool = toolFor(m_plan.machine, operation, setting);
        out.holder = holderFor(m_plan.machine, out.tool).value_or(0);
        const bool isCut = design::isBlade(out.tool);
        out.depth = isCut && stock && !isThrough ? stock->cut : design::Depth::Through;
        out.forceGf = isCut ? setting.forceGf
                      : operation == Operation::Score
                          ? std::clamp(kScoreGf, m_plan.machine.leastGf, m_plan.machine.mostGf)
                          : std::clamp(kPenGf, m_plan.machine.leastGf, m_plan.machine.mostGf);
        out.mmPerS = isCut && setting.mmPerS > 0 ? setting.mmPerS : m_plan.machine.cutMmPerS;
        out.times = isCut ? std::max(1, setting.passes) : 1;
        return out;
    }

    /// Which lines of a load are done in a pass.
    struct Wanted {
        Operation operation;
        const std::string& stockId;
        std::optional<int> nested = {};
        std::optional<bool> isThrough = {};
    };
    base::Status addPass(const design::Load& load, const std::vector<OnMat>& pieces, const Wanted& wanted,
                         PlannedLoad& into) {
        const auto& [operation, stockId, nested, isThrough] = wanted;
        ToDo small, large;
        for (const OnMat& piece : pieces) {
            const geometry::CutLines& cut = piece.cuts->of(operation);
            if (load.sheets[piece.sheet].stockId != stockId || (nested && piece.nested != *nested) ||
                (isThrough && piece.isThrough != *isThrough) || (cut.outlines.empty() && cut.lines.empty()))
                continue;
            const bool isSmall = operation == Operation::Cut &&
                                 std::max(piece.box.width(), piece.box.height()) < m_options.smallMm;
            addPaths(piece, cut, isSmall ? small : large);
        }
        if (small.paths.empty() && large.paths.empty())
            return base::Done{};
        Pass pass = passOf(operation, stockId, isThrough.value_or(false));
        pass.nested = nested.value_or(0);
        small.mayWander = true;
        for (ToDo* group : {&small, &large})
            if (auto ok = addInOrder(*group, pass); !ok)
                return ok;
        finish(pass);
        into.passes.push_back(std::move(pass));
        return base::Done{};
    }

    base::Status addFrames(const design::Load& load, const std::vector<design::SheetCuts>& cuts,
                           const std::string& stockId, bool isThrough, PlannedLoad& into) {
        ToDo frames;
        for (std::size_t s = 0; s < cuts.size(); ++s)
            for (std::size_t f = 0; load.sheets[s].stockId == stockId && f < cuts[s].frames.size(); ++f)
                if (cuts[s].frames[f].cluster->isFrameThrough == isThrough)
                    add({cuts[s].frames[f].outline.outline, {}, s, f, cuts[s].frames[f].cluster->name},
                        geometry::flatten(cuts[s].frames[f].outline, kFlatMm), frames);
        if (frames.paths.empty())
            return base::Done{};
        Pass pass = passOf(Operation::Cut, stockId, isThrough);
        pass.isFrame = true;
        if (auto ok = addInOrder(frames, pass); !ok)
            return ok;
        finish(pass);
        into.passes.push_back(std::move(pass));
        return base::Done{};
    }

    /// The test tile, inside first.
    base::Status addTile(const design::Load& load, const design::TestTile& tile, PlannedLoad& into) {
        const std::string& stockId = load.sheets[tile.sheet].stockId;
        ToDo inside, around;
        const geometry::Polygons edges = geometry::flatten(tile.card, kFlatMm);
        for (const geometry::Contour& opening : tile.card.openings)
            add({opening, {}, tile.sheet}, edges, inside);
        for (const geometry::Line& line : tile.perforation)
            add({line, {}, tile.sheet}, edges, inside);
        add({tile.card.outline, {}, tile.sheet}, edges, around);
        into.tile = tile;
        for (const Operation operation : {Operation::CutInside, Operation::Cut}) {
            Pass pass = passOf(operation, stockId);
            pass.isTile = true;
            if (auto ok = addInOrder(operation == Operation::Cut ? around : inside, pass); !ok)
                return ok;
            finish(pass);
            if (!pass.paths.empty())
                into.passes.push_back(std::move(pass));
        }
        return base::Done{};
    }

    /// Lines to be brought into an order, and where each may be begun.
    struct ToDo {
        std::vector<PlannedPath> paths;
        std::vector<Visit> visits;
        std::vector<std::vector<Beginning>> beginnings; ///< of closed lines, one a gate
        bool mayWander = false;                         ///< the pieces, once they are free
    };

    void addPaths(const OnMat& piece, const geometry::CutLines& cut, ToDo& into) const {
        geometry::Polygons edges;
        for (const Operation operation : {Operation::CutInside, Operation::Cut})
            for (const geometry::Contour& contour : piece.cuts->of(operation).outlines)
                edges.push_back(geometry::flatten(contour, kFlatMm));
        for (const geometry::Contour& contour : cut.outlines)
            add({contour, piece.cuts->what, piece.sheet}, edges, into);
        for (const geometry::Line& line : cut.lines)
            add({line, piece.cuts->what, piece.sheet}, edges, into);
    }

    static void add(PlannedPath path, const geometry::Polygons& edges, ToDo& into) {
        if (path.line.segments.empty())
            return;
        Visit visit;
        std::vector<Beginning> beginnings;
        if (isClosed(path.line)) {
            beginnings = beginningsOf(path.line, edges);
            for (const Beginning& beginning : beginnings)
                visit.gates.push_back({beginning.at, beginning.at});
        } else {
            const Gate there{path.line.start, path.line.segments.back().end};
            visit.gates = {there, there.reversed()};
            visit.isOpen = true;
        }
        into.paths.push_back(std::move(path));
        into.visits.push_back(std::move(visit));
        into.beginnings.push_back(std::move(beginnings));
    }

    /// Adds lines to a pass on a short way from where the tool is.
    base::Status addInOrder(ToDo& toDo, Pass& pass) {
        auto tour = shortTour(toDo.visits, m_at, m_tour, m_progress);
        if (!tour)
            return tour.error();
        for (std::size_t i = 0; i < tour->order.size(); ++i) {
            const std::size_t k = tour->order[i], by = tour->gates[i];
            const Visit& visit = toDo.visits[k];
            PlannedPath& path = toDo.paths[k];
            if (!visit.isOpen)
                path.line = begunAt(path.line, toDo.beginnings[k][by]);
            else if (by == 1)
                path.line = geometry::reversed(path.line);
            for (PlannedPath& one : aided(std::move(path), toDo.mayWander, pass)) {
                const double wayMm = geometry::distance(m_at, one.line.start);
                pass.travelMm += wayMm;
                pass.seconds += secondsFor(wayMm, m_plan.machine.travelMmPerS, m_plan.machine.mmPerS2);
                m_at = geometry::endOf(one.line);
                pass.paths.push_back(std::move(one));
            }
        }
        return base::Done{};
    }

    /// What a line becomes by the aids somebody asked for.
    std::vector<PlannedPath> aided(PlannedPath path, bool mayWander, const Pass& pass) const {
        const design::CutAids& aids = m_plan.aids;
        if (!design::isBlade(pass.tool) || aids.areNone())
            return {std::move(path)};
        std::vector<PlannedPath> out;
        if (isClosed(path.line)) {
            if (mayWander && !pass.isTile)
                for (geometry::Line& part : tabbed(path.line, aids.tabs, aids.tabMm)) {
                    out.push_back(path);
                    out.back().line = std::move(part);
                    out.back().isTabbed = true;
                }
            if (out.empty())
                path.line = overcut(path.line, aids.overcutMm);
        }
        if (out.empty())
            out.push_back(std::move(path));
        for (PlannedPath& one : out)
            one.line = swivelled(one.line, aids.bladeOffsetMm);
        return out;
    }

    void finish(Pass& pass) const {
        for (const PlannedPath& path : pass.paths) {
            pass.lineMm += geometry::contourLength(path.line);
            pass.seconds +=
                secondsAlong(path.line, pass.mmPerS, m_plan.machine.mmPerS2) + 2 * m_plan.machine.liftS;
        }
        pass.seconds *= pass.times;
    }

    const design::Stack& m_stack;
    const design::Arrangement& m_arrangement;
    const PlanOptions& m_options;
    const base::Progress& m_progress;
    CutPlan m_plan;
    std::set<design::PieceId> m_through; ///< cut through their carrier
    TourOptions m_tour;
    Point m_at; ///< where the tool is: the upper left corner of the mat before a load
};

} // namespace

ToolKind scoringTool(const design::Machine& machine) {
    return machine.owns(ToolKind::Wheel) && !machine.owns(ToolKind::Stylus) ? ToolKind::Wheel
                                                                            : ToolKind::Stylus;
}

base::Result<CutPlan> planOf(const design::Stack& stack, const design::Arrangement& arrangement,
                             const design::Machine& machine, const PlanOptions& options,
                             const base::Progress& progress) {
    return Planning(stack, arrangement, machine, options, progress).run();
}

} // namespace thinline::cutplan
