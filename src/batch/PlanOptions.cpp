// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/PlanOptions.h"

#include "batch/Names.h"
#include "batch/Report.h"
#include "document/Drawer.h"
#include "formats/image/ImageFile.h"
#include "job/CardSteps.h"
#include "job/DrawerSteps.h"
#include "job/MatPhoto.h"
#include "job/SheetSteps.h"
#include "sheets/Cards.h"

#include <algorithm>
#include <set>
#include <sstream>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;

/// A format of the catalogue, or a size.
base::Result<design::SheetFormat> sheetCalled(const std::string& text, const design::SheetFormat& own) {
    if (const design::SheetFormat* known = catalogue().formats.sheet(text))
        return *known;
    const auto size = base::parseSize(text, base::LengthUnit::Millimetre);
    if (!size)
        return Error{Code::InvalidArgument, "There is no sheet '" + text + "'; choose from " +
                                                idsOf(catalogue().formats.sheets) +
                                                ", or give a size such as 200x150mm or 8x10in."};
    design::SheetFormat out = own;
    out.widthMm = size->width.inMm();
    out.heightMm = size->height.inMm();
    return out;
}

/// "lamp=letter" parted at the sign; without a stock where there is none.
std::pair<std::string, std::string> parted(const std::string& text) {
    const auto at = text.find('=');
    return at == std::string::npos ? std::pair{std::string(), text}
                                   : std::pair{text.substr(0, at), text.substr(at + 1)};
}

base::Result<job::Job> withScraps(Session& session, job::Job job, const std::string& scraps) {
    for (const std::string& one : partedByCommas(scraps)) {
        const auto [stock, text] = parted(one);
        const auto known = stockSaid(job, stock);
        if (!known)
            return known.error();
        auto scrap = scrapCalled(session, *known, text);
        if (!scrap)
            return scrap.error();
        auto added = job::withScrap(job, scrap.take());
        if (!added)
            return added.error();
        job = added.take();
    }
    return job;
}

/// "drawer.json:3" and further numbers.
base::Result<job::Job> withScrapsOfDrawer(Session& session, job::Job job, const std::string& said) {
    const std::size_t colon = said.rfind(':');
    if (colon == std::string::npos)
        return Error{Code::InvalidArgument, "--from-drawer: name a drawer and its scraps by number, such as drawer.json:3,7."};
    const auto drawer = document::readDrawer(session.store, said.substr(0, colon));
    if (!drawer)
        return drawer.error();
    for (const std::string& one : partedByCommas(said.substr(colon + 1))) {
        const auto number = numberBetween("--from-drawer", one, 1, 1e6);
        if (!number)
            return number.error();
        auto with = job::withScrapFromDrawer(job, *drawer, static_cast<int>(*number));
        if (!with)
            return with.error();
        job = with.take();
    }
    return job;
}

base::Result<job::Job> withPhoto(Session& session, const job::State& state, const std::string& path,
                                 bool isQuiet) {
    const auto bytes = session.store.read(path, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    const auto photo = formats::image::decode(*bytes);
    if (!photo)
        return photo.error();
    auto looked = job::foundOnMat(state, photo->picture, catalogue().formats);
    if (!looked)
        return looked.error();
    job::OnMat found = looked.take();
    if (!isQuiet)
        session.out << fileOf(path) << ": " << job::straightText(found.look.grid) << "\n";
    for (std::size_t i = 0; i < found.look.scraps.size(); ++i) {
        const raster::FoundScrap& scrap = found.look.scraps[i];
        const geometry::Box box = geometry::bounds(scrap.rings);
        if (!isQuiet)
            session.out << "scrap " << i + 1 << ": "
                        << base::formatSize(box.width(), box.height(), base::LengthUnit::Millimetre) << ", "
                        << (scrap.isDoubtful ? "doubtful and left out"
                                             : design::stockName(state.job.stocks, found.stocks[i]))
                        << "\n";
        if (scrap.isDoubtful)
            found.stocks[i].clear();
    }
    return job::withScrapsOnMat(state.job, found, found.stocks, fileOf(path));
}

base::Result<job::Job> withKeptFree(job::Job job, const std::string& boxes) {
    std::istringstream all(boxes);
    for (std::string one; all >> one;) {
        std::vector<double> mm;
        for (const std::string& part : partedByCommas(one)) {
            const auto length = lengthOrZero(part);
            if (!length)
                return length.error();
            mm.push_back(*length);
        }
        if (mm.size() != 4)
            return Error{Code::InvalidArgument,
                         "--keep-free is '" + one +
                             "'; give left, top, width and height such as 0,0,30mm,20mm."};
        auto kept =
            job::withKeepOut(job, {{mm[0], mm[1]}, {mm[0] + mm[2], mm[1] + mm[3]}}, catalogue().formats);
        if (!kept)
            return kept.error();
        job = kept.take();
    }
    return job;
}

/// "lower-right landscape"; either word alone too.
base::Result<design::SheetLie> lieCalled(const std::string& said) {
    design::SheetLie out;
    std::istringstream words(said);
    for (std::string word; words >> word;) {
        const auto from = std::find(design::kSheetFromWords.begin(), design::kSheetFromWords.end(), word);
        const auto way = std::find(design::kSheetWayWords.begin(), design::kSheetWayWords.end(), word);
        if (from != design::kSheetFromWords.end())
            out.from = static_cast<design::SheetLie::From>(from - design::kSheetFromWords.begin());
        else if (way != design::kSheetWayWords.end())
            out.way = static_cast<design::SheetLie::Way>(way - design::kSheetWayWords.begin());
        else
            return Error{Code::InvalidArgument,
                         "--lie says '" + word +
                             "'; give a corner such as lower-right, and portrait or landscape."};
    }
    return out;
}

/// Exactly these stocks are taped; "none" is nobody's.
base::Result<job::Job> withTaped(job::State now, const std::string& stocks) {
    for (const std::string& stock : std::set<std::string>(now.job.plan.tapedStocks))
        now.job = job::withSheetsTaped(now, stock, false).take();
    if (stocks == "none")
        return std::move(now.job);
    for (const std::string& stock : partedByCommas(stocks)) {
        const auto known = stockSaid(now.job, stock);
        if (!known)
            return known.error();
        auto job = job::withSheetsTaped(now, *known, true);
        if (!job)
            return job;
        now.job = job.take();
    }
    return std::move(now.job);
}

} // namespace

base::Result<design::Scrap> scrapCalled(Session& session, const std::string& stockId, const std::string& text) {
    design::Scrap scrap;
    scrap.stockId = stockId;
    if (const auto size = base::parseSize(text, base::LengthUnit::Millimetre)) {
        scrap.rings = job::scrapRectangle(size->width.inMm(), size->height.inMm());
        return scrap;
    }
    const auto bytes = session.store.read(text, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    const job::Incoming file{*bytes, fileOf(text), job::recognise(*bytes, &session.pages)};
    auto rings = job::scrapOutline(file, session.fonts);
    if (!rings)
        return rings.error();
    scrap.rings = rings.take();
    scrap.name = fileOf(text);
    return scrap;
}

base::Result<job::Job> withSheets(const job::State& state, const std::string& sheets) {
    job::State now = state;
    for (const std::string& one : partedByCommas(sheets)) {
        const auto [stock, text] = parted(one);
        const auto sheet = sheetCalled(text, now.job.plan.ownSheet);
        if (!sheet)
            return sheet.error();
        if (!stock.empty()) {
            const auto known = stockSaid(now.job, stock);
            if (!known)
                return known.error();
            auto job = job::withSheetOf(now, *known, *sheet);
            if (!job)
                return job.error();
            now.job = job.take();
            continue;
        }
        job::SheetPlan plan = now.job.plan;
        plan.sheetId = sheet->id;
        if (sheet->id == "own")
            plan.ownSheet = *sheet;
        now.job = job::withPlan(now.job, plan);
    }
    return now.job;
}

base::Status matSaid(const std::string& id) {
    if (!catalogue().formats.mat(id))
        return Error{Code::InvalidArgument,
                     "There is no mat '" + id + "'; choose from " + idsOf(catalogue().formats.mats) + "."};
    return base::Done{};
}

std::vector<OptionSpec> planOptions() {
    return {
        {"--mat", "MAT", "The mat: " + idsOf(catalogue().formats.mats) + ".", catalogue().defaultMatId,
         false},
        {"--sheet", "SHEET,STOCK=SHEET",
         "The sheet of all stocks, and of some their own: " + idsOf(catalogue().formats.sheets) +
             ", or WIDTHxHEIGHT such as 200x150mm or 8x10in.",
         catalogue().defaultSheetId, false},
        {"--scrap", "STOCK=SCRAP,...",
         "Scraps to be used before sheets are: a size such as 80x120mm, or a drawing of one outline.", "",
         false},
        {"--from-drawer", "DRAWER:NUMBER,...", "Scraps of a drawer by their numbers, such as drawer.json:3,7.", "", false},
        {"--photo", "PHOTO",
         "A photo of the loaded mat: pieces are laid on the scraps on it, where they lie.", "", false},
        {"--keep-free", "LEFT,TOP,WIDTH,HEIGHT ...", "Parts of the mat on which nothing is cut.", "", false},
        {"--taped-corners", "", "The corners of sheets are taped and stay free.", "", false},
        {"--lie", "CORNER WAY",
         "The corner of the mat at which sheets begin, and which way they lie: upper-left, upper-right, "
         "lower-left or lower-right; as-most-fit, portrait or landscape.",
         "", false},
        {"--tape", "STOCK,...",
         "Two sheets of these stocks are taped together on their backs, lie with them up, and are cut across the join; "
         "pieces lie on them mirrored; \"none\" for no longer.",
         "", false},
        {"--spacing", "LENGTH", "Kept free between pieces, 0 for none.", "2.5mm", false},
        {"--no-turn", "", "Pieces keep their direction; otherwise they are turned as their stock allows.", "",
         false},
        {"--mix", "", "Stocks of one kind and thickness may share a mat, each on a scrap.", "", false},
        {"--into-openings", "", "Pieces may lie in the openings of others.", "", false}};
}

base::Result<job::Job> plannedBy(Session& session, const job::State& state, const Options& options) {
    job::SheetPlan plan = state.job.plan;
    plan.matId = options["--mat"];
    plan.mayTurn = !options.has("--no-turn");
    plan.isMixed = options.has("--mix");
    plan.intoOpenings = options.has("--into-openings");
    plan.areCornersTaped = options.has("--taped-corners");
    const auto spacing = lengthOrZero(options["--spacing"]);
    if (!spacing)
        return spacing.error();
    plan.spacingMm = *spacing;
    if (options.has("--lie")) {
        const auto lies = lieCalled(options["--lie"]);
        if (!lies)
            return lies.error();
        plan.lies = *lies;
    }
    if (const auto known = matSaid(plan.matId); !known)
        return known.error();
    auto job = withSheets({job::withPlan(state.job, plan), state.made}, options["--sheet"]);
    if (job && options.has("--tape"))
        job = withTaped({job.take(), state.made}, options["--tape"]);
    if (job && options.has("--scrap"))
        job = withScraps(session, job.take(), options["--scrap"]);
    if (job && options.has("--from-drawer"))
        job = withScrapsOfDrawer(session, job.take(), options["--from-drawer"]);
    if (job && options.has("--photo"))
        job = withPhoto(session, {job.take(), state.made}, options["--photo"], options.has("--json"));
    if (job && options.has("--keep-free"))
        job = withKeptFree(job.take(), options["--keep-free"]);
    if (!job)
        return job;
    // The call is wrong, not the job, where sheets or scraps lie on no mat.
    const auto asked = job::arrangeOptions(*job, catalogue().formats);
    if (!asked)
        return asked.error();
    for (const design::Stock& stock : job->stocks)
        if (const auto cards = sheets::cardsOf(stock.id, *asked); !cards)
            return cards.error();
    return job;
}

} // namespace thinline::batch
