// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Making: how everything follows from a job's decisions.
//
// A job used to carry what followed from it: pieces, stack, arrangement lay beside the decisions, and four functions
// had to remember to derive them again after every change. They forgot: a layer given another stock changed the
// screen and not the file, because the screen had been derived by one way and the file was derived by another one
// when it was opened. Now a job holds decisions only, and there is one way.
//
//     sources --> start --step--> ... --step--> pieces --layers, wishes--> stack --finish--> work --plan--> sheets
//
// Every arrow is a pure function, every node an immutable value behind a pointer. `make` walks along the arrows with
// what it made the last time beside it: where the inputs are the same pointers (or, for the small ones, equal) the
// node is taken over and nothing is computed. So a lift costs a new stack of pointers and heights, not an outline;
// the last of ten steps costs that step. Bodies are compared once more when they were computed anew: one that comes
// out equal is replaced by the old pointer, so that whatever is remembered by a body's address (necks, flattened
// outlines, rows for heights) stays known also when a picture was traced again and most areas came out the same.
//
// What was tried: hashing the inputs of each stage (every outline hashed at every click, 9 ms for the demo; and a
// hash says nothing of which pieces changed), and marking what is out of date by hand (that is how the four
// functions came about).
//
// Parts are the one thing a stage gives back to the job: the names under which the pieces of a cut plate are known
// and a point inside each (see design/PartNames.h). They are decisions once somebody has seen them, since wishes refer to
// them; so `make` returns the job with them, and whoever pushes a state pushes that job.
//
// Cost, for 2000 pieces: the stack about 0.3 ms, heights 5 to 10 ms with rows known, the copying of pieces from step
// to step about 0.2 ms a step.
#include "job/Making.h"

#include "design/Carry.h"
#include "design/MadeLines.h"
#include "job/CardSteps.h"
#include "job/Catalogue.h"
#include "job/CutSteps.h"
#include "job/Finish.h"
#include "job/Source.h"
#include "job/Steps.h"
#include "print/Page.h"
#include "shape/Steps.h"
#include "sheets/ArrangeClose.h"

#include <algorithm>
#include <map>
#include <set>
#include <unordered_set>

namespace thinline::job {
namespace {

using base::Code;
using design::Body;
using design::Piece;
using design::Pieces;

/// The piece's old body when the new one is equal to it.
void reuse(std::vector<Piece>& pieces, const std::vector<Piece>& before) {
    std::map<PieceId, const Piece*> known;
    for (const Piece& piece : before)
        known[piece.id] = &piece;
    for (Piece& piece : pieces)
        if (const auto at = known.find(piece.id);
            at != known.end() && at->second->body != piece.body && *at->second->body == *piece.body)
            piece.body = at->second->body;
}

std::vector<Piece> placed(const Source& source) {
    const geometry::Transform map = source.map();
    std::vector<Piece> out;
    out.reserve(source.kept->size());
    for (const Found& found : *source.kept) {
        if (!source.takes(found))
            continue;
        Body body = design::mapped(*found.body, map);
        for (design::PieceLine& line : body.lines) // two sources count from one each
            line.id = design::lineFound(source.id, numberOf(line.id));
        out.push_back({source.pieceId(found), std::make_shared<const Body>(std::move(body)), found.name, 1, 1,
                       found.frame.then(map)});
    }
    return out;
}

class Making {
  public:
    Making(Job job, const Made& before, const base::Progress& progress)
        : m_job(std::move(job)), m_before(before), m_progress(progress) {
        m_made.memory = before.memory ? before.memory : makeMemory();
    }

    base::Result<State> run(Stage upTo) {
        findPieces();
        if (auto ok = doSteps(); !ok)
            return ok.error();
        if (upTo >= Stage::Stack)
            stackUp();
        if (upTo >= Stage::Finish)
            if (auto ok = finish(); !ok)
                return ok.error();
        if (upTo >= Stage::Sheets)
            if (auto ok = arrange(); !ok)
                return ok.error();
        keepSheets();
        m_made.inputs = {m_job.layers, m_job.stocks, m_job.wishes, m_job.clusters, m_job.marks,
                         m_job.foam,   m_job.plan,   m_job.unit,   m_job.assembly, m_job.cut, m_job.print};
        return State{std::move(m_job), std::move(m_made)};
    }

  private:
    void findPieces() {
        bool isSame = m_before.start && m_before.found.size() == m_job.sources.size();
        for (size_t i = 0; i < m_job.sources.size(); ++i) {
            const auto& source = m_job.sources[i];
            const auto known =
                std::find_if(m_before.found.begin(), m_before.found.end(),
                             [&](const FromSource& one) { return one.source->id == source->id; });
            const bool isThere = known != m_before.found.end();
            if (isThere && hasSamePieces(*known->source, *source)) {
                m_made.found.push_back({source, known->pieces});
            } else {
                std::vector<Piece> pieces = placed(*source);
                if (isThere)
                    reuse(pieces, *known->pieces);
                m_made.found.push_back(
                    {source, std::make_shared<const std::vector<Piece>>(std::move(pieces))});
            }
            isSame = isSame && m_made.found[i].pieces == m_before.found[i].pieces;
        }
        if (isSame) {
            m_made.start = m_before.start;
            return;
        }
        auto start = std::make_shared<Pieces>();
        for (const FromSource& one : m_made.found)
            start->now.insert(start->now.end(), one.pieces->begin(), one.pieces->end());
        if (!start->now.empty() || !m_job.steps.empty())
            m_made.start = std::move(start);
    }

    /// Where something comes from or what it is cut from changes no outline.
    static bool hasSamePieces(const Source& a, const Source& b) {
        if (&a == &b)
            return true;
        const auto *da = std::get_if<Drawing>(&a.what), *db = std::get_if<Drawing>(&b.what);
        const bool takesSame = !da || !db || da->take.leftOut == db->take.leftOut;
        return a.kept == b.kept && a.map() == b.map() && takesSame;
    }

    base::Status doSteps() {
        Kept<Pieces> pieces = m_made.start;
        for (size_t i = 0; pieces && i < m_job.steps.size(); ++i) {
            if (m_progress.isCancelled())
                return base::cancelled();
            m_progress.report(static_cast<double>(i) / static_cast<double>(m_job.steps.size()),
                              "Shaping pieces");
            const auto& step = m_job.steps[i];
            const auto known = std::find_if(m_before.after.begin(), m_before.after.end(),
                                            [&](const AfterStep& one) { return one.step->id == step->id; });
            const bool isThere = known != m_before.after.end();
            if (isThere && known->step == step && known->before == pieces) {
                m_made.after.push_back(*known);
            } else if (auto ok = doStep(i, pieces, isThere ? &*known : nullptr); !ok) {
                return ok;
            }
            pieces = m_made.after.back().pieces;
        }
        if (pieces && (!pieces->now.empty() || !pieces->scrap.empty()))
            m_made.pieces = pieces;
        return base::Done{};
    }

    base::Status doStep(size_t i, const Kept<Pieces>& pieces, const AfterStep* known) {
        const auto& step = m_job.steps[i];
        auto outcome = applied(*step, *pieces, known ? known->pieces.get() : nullptr, m_progress);
        if (!outcome) {
            if (outcome.error().code == Code::Cancelled)
                return outcome.error();
            m_made.after.push_back({step, pieces, pieces, outcome.error()});
            return base::Done{};
        }
        design::Outcome came = outcome.take();
        if (known) {
            reuse(came.pieces.now, known->pieces->now);
            reuse(came.pieces.scrap, known->pieces->scrap);
        }
        if (step->action != shape::infoOf(shape::Action::FillOpenings).name && came.parts != step->parts) {
            design::Step noted = *step;
            noted.parts = came.parts;
            m_job.steps[i] = std::make_shared<const design::Step>(std::move(noted));
        }
        m_made.after.push_back({m_job.steps[i],
                                pieces,
                                std::make_shared<const Pieces>(std::move(came.pieces)),
                                {},
                                came.shortEnds,
                                came.droppedBits,
                                std::move(came.heldOnce)});
        return base::Done{};
    }

    void stackUp() {
        if (!m_made.pieces || m_made.pieces->now.empty())
            return;
        const bool isSame =
            m_before.stack && m_before.pieces == m_made.pieces && m_before.inputs.layers == m_job.layers &&
            m_before.inputs.stocks == m_job.stocks && m_before.inputs.wishes == m_job.wishes &&
            m_before.inputs.clusters == m_job.clusters && proposeSame();
        if (isSame) {
            m_made.stack = m_before.stack;
            return;
        }
        design::Stack stack = stackOf(m_job, m_made.pieces->now);
        gatherClusters(m_job, m_made.after, stack);
        m_made.stack = std::make_shared<const design::Stack>(std::move(stack));
    }
    bool proposeSame() const {
        return std::equal(m_made.found.begin(), m_made.found.end(), m_before.found.begin(),
                          m_before.found.end(), [](const FromSource& a, const FromSource& b) {
                              return a.source == b.source ||
                                     (a.source->lies == b.source->lies && a.source->layer == b.source->layer);
                          });
    }

    base::Status finish() {
        if (!m_made.stack)
            return base::Done{};
        if (m_before.finished && m_before.stack == m_made.stack && finishesSame()) {
            m_made.finished = m_before.finished;
            return base::Done{};
        }
        auto finished = finishedWork(m_job, *m_made.stack, *m_made.memory, m_progress);
        if (!finished)
            return finished.error();
        Finished work = finished.take();
        work.strayWishes = static_cast<int>(strayWishes(m_job.wishes, *m_made.pieces).size());
        m_made.finished = std::make_shared<const Finished>(std::move(work));
        return base::Done{};
    }
    /// What is put into something makes it a thing of its own, which has its number earlier.
    bool numbersSame() const {
        const assembly::Wishes &a = m_before.inputs.assembly, &b = m_job.assembly;
        return a.numbers == b.numbers && (b.numbers == assembly::Numbers::None || a.items == b.items);
    }
    bool finishesSame() const {
        return m_before.inputs.marks == m_job.marks && m_before.inputs.foam == m_job.foam && numbersSame() &&
               std::equal(m_made.found.begin(), m_made.found.end(), m_before.found.begin(),
                          m_before.found.end(), [](const FromSource& a, const FromSource& b) {
                              return a.source == b.source || finishOf(*a.source) == finishOf(*b.source);
                          });
    }

    base::Status arrange() {
        if (!m_made.finished)
            return base::Done{};
        if (hasSameSheets())
            return base::Done{}; // taken over by keepSheets
        const auto options = arrangeOptions(m_job, shippedCatalogue().formats);
        auto arrangement = options ? sheets::arrange(m_made.finished->stack, *options, m_progress)
                                   : base::Result<design::Arrangement>(options.error());
        if (arrangement && (hasSamePlaces() || options->isMixed || areFew())) {
            // By true outlines, not searched for; and what lay well before stays: a person recognises her sheet.
            auto kept = sheets::arrangeClose(
                m_made.finished->stack, *options,
                {.budget = {.steps = 0}, .before = hasSamePlaces() ? m_before.sheets.get() : nullptr},
                *arrangement, {}, m_progress);
            if (!kept)
                return kept.error();
            arrangement = std::move(kept);
        }
        if (arrangement)
            m_made.sheets = std::make_shared<const design::Arrangement>(arrangement.take());
        else if (arrangement.error().code == Code::Cancelled)
            return arrangement.error();
        else
            m_made.sheetsProblem = arrangement.error().message;
        return base::Done{};
    }

    /// Whether a first layout by true outlines takes no time to speak of.
    bool areFew() const {
        constexpr int kFew = 300;
        int copies = 0;
        for (const design::Laid& laid : m_made.finished->stack.pieces)
            copies += std::min(laid.copies, kFew + 1);
        return copies <= kFew;
    }
    /// Whether there was an arrangement on the same mats and sheets, at the same spacing.
    bool hasSamePlaces() const {
        const SheetPlan &now = m_job.plan, &then = m_before.inputs.plan;
        return m_before.sheets && now.matId == then.matId && now.sheetId == then.sheetId &&
               now.ownSheet == then.ownSheet && now.spacingMm == then.spacingMm &&
               now.mayTurn == then.mayTurn && now.intoOpenings == then.intoOpenings &&
               now.sheetOf == then.sheetOf && now.scraps == then.scraps && now.keepOuts == then.keepOuts &&
               now.areCornersTaped == then.areCornersTaped && now.lies == then.lies && now.tapedStocks == then.tapedStocks && hasSameOffset();
    }
    /// Whether the knife is led as far beyond its lines as before, and marks take as much of the sheets.
    bool hasSameOffset() const {
        const PrintPlan &now = m_job.print, &then = m_before.inputs.print;
        return m_job.cut.aids.bladeOffsetMm == m_before.inputs.cut.aids.bladeOffsetMm && now.stocks == then.stocks &&
               now.hasMarks == then.hasMarks && now.printerMarginMm == then.printerMarginMm;
    }
    /// An arrangement made earlier stays while what it was made of stays, also when it was not asked for now.
    void keepSheets() {
        if (!m_made.sheets && m_made.sheetsProblem.empty() && m_made.finished && hasSameSheets())
            m_made.sheets = m_before.sheets;
    }
    bool hasSameSheets() const {
        const CutWishes &now = m_job.cut, &then = m_before.inputs.cut;
        const bool hasSameSteps =
            !m_job.plan.isMixed || (m_before.inputs.unit == m_job.unit && now.machine == then.machine &&
                                    now.settings == then.settings);
        return m_before.sheets && m_before.finished && m_before.inputs.plan == m_job.plan && hasSameSteps &&
               hasSameOffset() &&
               (m_before.finished == m_made.finished ||
                isCutAlike(m_before.finished->stack, m_made.finished->stack));
    }

    Job m_job;
    const Made& m_before;
    const base::Progress& m_progress;
    Made m_made;
};

} // namespace

Made::Made() = default;
Made::Made(const Made&) = default;
Made::Made(Made&&) noexcept = default;
Made& Made::operator=(const Made&) = default;
Made& Made::operator=(Made&&) noexcept = default;
Made::~Made() = default;

base::Result<State> make(Job job, Stage upTo, const Made& before, const base::Progress& progress) {
    return Making(std::move(job), before, progress).run(upTo);
}

geometry::Box workBox(const Made& made) {
    return made.finished ? made.finished->measures.box : geometry::Box{};
}

std::size_t ownBytes(const Made& later, const Made& earlier) {
    const auto bytesOf = [](const std::vector<Piece>& pieces, const std::vector<Piece>* known) {
        std::unordered_set<const Body*> shared;
        if (known)
            for (const Piece& piece : *known)
                shared.insert(piece.body.get());
        std::size_t sum = pieces.size() * sizeof(Piece);
        for (const Piece& piece : pieces)
            if (!shared.contains(piece.body.get()))
                sum +=
                    static_cast<std::size_t>(geometry::nodeCount(piece.shape())) * sizeof(geometry::Segment);
        return sum;
    };
    std::size_t sum = 0;
    if (later.start && later.start != earlier.start)
        sum += bytesOf(later.start->now, earlier.start ? &earlier.start->now : nullptr);
    for (size_t i = 0; i < later.after.size(); ++i) {
        const Kept<Pieces>& last = i > 0 ? later.after[i - 1].pieces : later.start;
        const bool isKnown = i < earlier.after.size() && earlier.after[i].pieces == later.after[i].pieces;
        if (!isKnown && later.after[i].pieces != last)
            sum += bytesOf(later.after[i].pieces->now, last ? &last->now : nullptr);
    }
    if (later.stack && later.stack != earlier.stack)
        sum += later.stack->pieces.size() * sizeof(design::Laid);
    if (later.finished && later.finished != earlier.finished)
        sum += later.finished->stack.pieces.size() * (sizeof(design::Laid) + sizeof(design::Height));
    if (later.sheets && later.sheets != earlier.sheets)
        for (const design::Load& load : later.sheets->loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                sum += sheet.pieces.size() * sizeof(design::PlacedPiece);
    return sum;
}

Made withoutSheets(Made made) {
    made.sheets = nullptr;
    made.sheetsProblem.clear();
    return made;
}

namespace {

/// Numbers the settings of a job's stocks, so that stocks of one number are cut by one. Each joins the first group whose first stock is cut
/// alike, in the order of the forces: so a group spans no more than one setting serves.
std::map<std::string, int> settingNumbers(const Job& job) {
    struct Cut {
        const design::Stock* stock;
        design::Setting setting;
    };
    std::vector<Cut> all;
    for (const design::Stock& stock : job.stocks)
        if (const auto setting = settingOf(job, stock.id))
            all.push_back({&stock, *setting});
    std::stable_sort(all.begin(), all.end(),
                     [](const Cut& a, const Cut& b) { return a.setting.forceGf < b.setting.forceGf; });
    std::vector<const Cut*> firsts;
    std::map<std::string, int> out;
    for (const Cut& one : all) {
        const auto group = std::find_if(firsts.begin(), firsts.end(), [&](const Cut* first) {
            return cutplan::areAlike(first->setting, one.setting) && first->stock->cut == one.stock->cut;
        });
        out[one.stock->id] = static_cast<int>(group - firsts.begin());
        if (group == firsts.end())
            firsts.push_back(&one);
    }
    return out;
}

/// Sheets that are printed keep room for marks, and pieces on them for print beyond the cut on both sides.
base::Status layPrinted(const Job& job, sheets::ArrangeOptions& out) {
    for (const std::string& id : job.print.stocks) {
        const design::Stock* stock = design::findStock(job.stocks, id);
        if (!stock)
            continue;
        design::SheetFormat page = out.sheetFor(id);
        const double bleed = design::bleedOf(*stock);
        if (job.print.hasMarks && std::min(page.widthMm, page.heightMm) < print::kLeastPageMm)
            return base::Error{Code::InvalidArgument,
                               "A printed sheet of " + base::formatSize(page.widthMm, page.heightMm, job.unit) +
                                   " has no room for marks, which need " +
                                   base::formatLength(print::kLeastPageMm, job.unit) +
                                   " a side; choose a larger one for " + stock->name + ", or print without marks."};
        page.marginMm =
            std::max(page.marginMm, print::takenByMarksMm(job.print.printerMarginMm, job.print.hasMarks) + bleed);
        out.sheetOf[id] = page;
        out.spacingOf[id] = spacingFor(job, id);
        if (job.print.hasMarks)
            out.alone.insert(id);
        std::erase_if(out.scraps, [&](const design::Scrap& scrap) { return scrap.stockId == id; });
    }
    return base::Done{};
}

/// What is taped on its upper face lies face down; a scrap that does not would need its pieces the other way over.
base::Status layTaped(const Job& job, sheets::ArrangeOptions& out) {
    for (const std::string& id : job.plan.tapedStocks) {
        if (auto ok = checkTaped(job, id); !ok)
            return ok;
        design::SheetFormat pair = out.sheetFor(id);
        pair.inPairs = true;
        out.sheetOf[id] = pair;
        std::erase_if(out.scraps, [&](const design::Scrap& scrap) { return scrap.stockId == id; });
    }
    return base::Done{};
}

} // namespace

double spacingFor(const Job& job, const std::string& stockId) {
    constexpr double kBetweenMm = 0.5; // white between two bleeds: where one ends is seen
    const design::Stock* stock = job.print.stocks.contains(stockId) ? design::findStock(job.stocks, stockId) : nullptr;
    return stock ? std::max(job.plan.spacingMm, 2 * design::bleedOf(*stock) + kBetweenMm) : job.plan.spacingMm;
}

base::Result<sheets::ArrangeOptions> arrangeOptions(const Job& job, const design::Formats& formats) {
    const SheetPlan& plan = job.plan;
    const design::MatFormat* mat = formats.mat(plan.matId);
    const design::SheetFormat* sheet = plan.sheetId == "own" ? &plan.ownSheet : formats.sheet(plan.sheetId);
    if (!mat || !sheet)
        return base::Error{Code::NotFound, "There is no " + std::string(mat ? "sheet" : "mat") + " called '" +
                                               (mat ? plan.sheetId : plan.matId) +
                                               "'; choose one from the list."};
    sheets::ArrangeOptions out{*mat, *sheet, plan.spacingMm, plan.mayTurn, plan.pins};
    out.isMixed = plan.isMixed;
    out.intoOpenings = plan.intoOpenings;
    out.sheetOf = plan.sheetOf;
    out.scraps = plan.scraps;
    if (auto ok = layPrinted(job, out); !ok)
        return ok.error();
    if (auto ok = layTaped(job, out); !ok)
        return ok.error();
    out.keepOuts = keepOutsOf(plan);
    out.areCornersTaped = plan.areCornersTaped;
    const auto lay = [&](design::SheetFormat& format) {
        format.lies = plan.lies;
        // A shaft that is led ahead of its tip goes beyond the lines; it stays on the usable part of the mat all the same.
        format.marginMm += job.cut.aids.bladeOffsetMm;
    };
    lay(out.sheet);
    for (auto& [stock, own] : out.sheetOf)
        lay(own);
    if (plan.isMixed) {
        out.settingOf = settingNumbers(job);
        int next = static_cast<int>(job.stocks.size());
        for (const std::string& stock : job.print.stocks) // a page is cut by its own marks
            out.settingOf[stock] = next++;
    }
    constexpr double kWholeMm = 5, kQuarterInchMm = 6.35;
    out.scrapStepMm = job.unit == base::LengthUnit::Millimetre ? kWholeMm : kQuarterInchMm;
    return out;
}

std::string passedOver(const Made& made, size_t step) {
    const AfterStep& after = made.after[step];
    if (!after.whyNot)
        return {};
    const auto& on = after.step->on;
    const bool areGone = on.empty() || std::any_of(on.begin(), on.end(), [&](const design::Chosen& one) {
                             return design::resolved({one}, after.before->now).empty();
                         });
    const design::StepKind* info = kindOf(*after.step);
    return "Step " + std::to_string(step + 1) + " (" +
           (info ? std::string(info->label) : after.step->action) +
           ") was passed over: " + (areGone ? "its pieces are not there any more." : after.whyNot->message);
}

std::vector<std::string> passedOver(const Made& made) {
    std::vector<std::string> out;
    for (size_t i = 0; i < made.after.size(); ++i)
        if (made.after[i].whyNot)
            out.push_back(passedOver(made, i));
    return out;
}

} // namespace thinline::job
