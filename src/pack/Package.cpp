// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Package.h"

#include "base/Length.h"
#include "design/Cluster.h"
#include "design/PartNames.h"
#include "formats/image/ImageFile.h"
#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"
#include "job/SourceSteps.h"
#include "job/SplitSteps.h"
#include "pack/Pictures.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>
#include <sstream>

namespace thinline::pack {
namespace {

constexpr const char* kContentsName = "contents.txt";

using geometry::Box;

base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}

double boxDifference(const Box& a, const Box& b) {
    return std::max({std::abs(a.least.x - b.least.x), std::abs(a.least.y - b.least.y),
                     std::abs(a.most.x - b.most.x), std::abs(a.most.y - b.most.y)});
}

/// What cut lines come to. Areas are added up whichever way round they run: the reader takes the largest outline
/// for the outer one, also when the outer one was cut with a neighbour.
struct Measured {
    Box box;
    double areaMm2 = 0;
    double openMm = 0;
    bool operator==(const Measured&) const = default;
};

template <class Closed, class Open>
Measured measured(const Closed& closed, const Open& open) {
    Measured out;
    for (const geometry::Contour* contour : closed) {
        out.box.include(geometry::bounds(*contour));
        out.areaMm2 += std::abs(geometry::signedArea(*contour));
    }
    for (const geometry::Line& line : open) {
        out.box.include(geometry::bounds(line));
        out.openMm += geometry::contourLength(line);
    }
    return out;
}

std::vector<const geometry::Contour*> pointersTo(const std::vector<geometry::Contour>& contours) {
    std::vector<const geometry::Contour*> out;
    for (const geometry::Contour& contour : contours)
        out.push_back(&contour);
    return out;
}

Measured measured(const formats::svg::ReadPath& path) {
    std::vector<const geometry::Contour*> closed = pointersTo(path.shape.openings);
    if (!path.shape.outline.segments.empty())
        closed.push_back(&path.shape.outline);
    return measured(closed, path.lines);
}

Measured measured(const std::vector<const geometry::Line*>& planned) {
    std::vector<const geometry::Contour*> closed;
    std::vector<geometry::Line> open;
    for (const geometry::Line* line : planned)
        if (geometry::endOf(*line) == line->start)
            closed.push_back(line);
        else
            open.push_back(*line);
    return measured(closed, open);
}

using Found = std::map<std::string, const formats::svg::ReadPath*>; ///< by group and path id

void compare(const std::string& group, const std::string& id, const Measured& expected, const Found& found,
             FileCheck& check) {
    const auto at = found.find(group + "/" + id);
    if (at == found.end()) {
        check.problem = id + " is missing";
        return;
    }
    const Measured read = measured(*at->second);
    const double area = expected.areaMm2, areaError = std::abs(area - read.areaMm2),
                 openError = std::abs(expected.openMm - read.openMm),
                 boxError = boxDifference(expected.box, read.box);
    check.worstAreaMm2 = std::max(check.worstAreaMm2, areaError);
    check.worstBoxMm = std::max({check.worstBoxMm, boxError, openError});
    if (boxError > kBoxToleranceMm)
        check.problem = id + " has another size or place";
    else if (areaError > kAreaToleranceShare * area + 1e-3)
        check.problem = id + " has another area";
    else if (openError > kAreaToleranceShare * expected.openMm + 1e-3)
        check.problem = id + " is cut along another length";
}

std::string byHandText(const design::Stack& stack, const Labels& labels) {
    std::string out;
    for (const design::Laid* laid : design::cutByHand(stack)) {
        out += "  " + design::pieceName(stack, *laid) +
               (laid->copies > 1 ? ", " + std::to_string(laid->copies) + " times" : "") +
               (laid->up == design::Side::Back ? ", drawn mirrored: it is cut from the back" : "") + "\n";
        const auto inset = labels.boardInsetMm.find(laid->id());
        if (inset != labels.boardInsetMm.end())
            out += "    Or without a template: lay the assembled work on it, draw around it, and cut " +
                   base::formatLength(inset->second, base::LengthUnit::Millimetre) + " inside that line.\n";
    }
    return out;
}

/// A template for every stock that is cut by hand: its pieces at true size, as the knife sees them, as a drawing and on
/// sheets of paper.
std::string addTemplates(const design::Stack& stack, const Labels& labels, Package& package) {
    struct OfStock {
        formats::svg::NamedGroup group;
        std::vector<ByHand> pieces;
    };
    std::map<std::string, OfStock> stocks;
    for (const design::Laid* laid : design::cutByHand(stack)) {
        const std::string& stockId = stack.layerOf(*laid).stockId;
        auto& [group, pieces] = stocks[stockId];
        group.id = design::operationGroup(stockId, design::Operation::Cut, design::Depth::Through);
        group.title = design::stockName(stack.stocks, stockId) + ", cut by hand";
        const std::string name = design::pieceName(stack, *laid);
        const geometry::Shape shape =
            geometry::transformed(laid->shape(), design::turnedOver(0, laid->up == design::Side::Back));
        group.shapes.push_back({formats::svg::pieceElement(laid->id()), name, shape});
        pieces.push_back(byHand(name, shape));
    }
    std::string out;
    for (const auto& [stockId, of] : stocks) {
        const std::string name = "by-hand-" + stockId, title = labels.jobName + ", by hand";
        package.files.push_back({name + ".svg", bytesOf(formats::svg::writeGroups({of.group}, {}, title))});
        auto printed = templateOf(of.pieces, labels.paper, title);
        if (printed) {
            out += "  " + name + ".pdf: " + base::counted(printed->pages, "sheet") + " of " +
                   labels.paper.name + ". Print them at 100 % and measure their rulers before you cut.\n";
            package.files.push_back({name + ".pdf", std::move(printed.take().pdf)});
        } else {
            out += "  Not on paper: " + printed.error().message + "\n";
        }
    }
    return out;
}

/// How many ends of folds are marked on the pieces themselves.
std::string handText(const design::Stack& stack, const design::Arrangement& arrangement) {
    int onPiece = 0;
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            onPiece += design::handTicksOn(stack, sheet).onPiece;
    return onPiece == 0 ? "" : " (" + base::counted(onPiece, "end") + " had no room there: the last 2 mm on the piece)";
}

/// What is done beside cutting, and what the hands have to do.
std::string linesText(const design::Stack& stack, const design::Arrangement& arrangement, design::FoldsAs foldsAs) {
    int folds = 0, below = 0, others = 0;
    const std::set<design::PieceId> flipped = design::flippedIn(arrangement);
    for (const design::Laid& laid : stack.pieces)
        for (const design::PieceLine& line : laid.piece.body->lines) {
            const bool isFold = std::holds_alternative<design::Fold>(line.does);
            (isFold ? folds : others) += 1;
            below += design::isScoredFromBelow(line, flipped.contains(laid.id()));
        }
    std::string out;
    if (folds > 0)
        out += "\nFolds: " + std::to_string(folds) + ", " +
               (foldsAs == design::FoldsAs::Score ? "scored"
                : foldsAs == design::FoldsAs::Perforation
                    ? "perforated: " + design::perforationText(stack)
                    : "folded by hand: a pen marks the ends of each beside the piece; lay a ruler there before you lift it" +
                          handText(stack, arrangement)) +
               ".\n";
    if (below > 0 && foldsAs == design::FoldsAs::Score)
        out += "Of these " + std::to_string(below) +
               " are to be scored on the face that lies below on the mat: turn the "
               "piece over for them, or perforate.\n";
    const bool hasPanes = std::any_of(stack.pieces.begin(), stack.pieces.end(), [](const design::Laid& laid) {
        const auto& zones = laid.piece.body->zones;
        return std::any_of(zones.begin(), zones.end(), [&](const design::Zone& zone) {
            return zone.kind == design::Zone::Kind::Glue && !(zone.meets == laid.id()) &&
                   !design::arePartsOfOne(zone.meets, laid.id()); // the strip of a divided piece is no pane
        });
    });
    if (folds > 0 && hasPanes)
        out += "Fold first, then glue the panes: glued before, they spring off.\n";
    if (others > 0)
        out += (folds > 0 ? "" : "\n") + std::string("Other lines on the pieces: ") + std::to_string(others) +
               ".\n";
    return out.empty() ? out
                       : out + "Work in the order of the groups: draw, score, perforate, cut inside, cut; "
                               "let the machine "
                               "finish one tool before it changes to the next.\n";
}

std::string contents(const design::Stack& stack, const design::Arrangement& arrangement, const Labels& labels,
                     const std::vector<FileCheck>& checks, const std::string& templates) {
    const auto mm = base::LengthUnit::Millimetre;
    const design::StackMeasures measures = design::measure(stack);
    std::string out =
        labels.jobName + "\n" + base::formatSize(measures.box.width(), measures.box.height(), mm) + ", " +
        base::counted(measures.layers, "layer") + ", " + base::counted(measures.pieces, "piece") + "\n\n";
    for (size_t l = 0; l < arrangement.loads.size(); ++l) {
        const design::Load& load = arrangement.loads[l];
        out += checks[l].name + ": mat " + base::formatSize(load.mat.widthMm, load.mat.heightMm, mm) + "\n";
        for (const design::PlacedSheet& sheet : load.sheets)
            out += "  " + design::stockName(stack.stocks, sheet.stockId) +
                   (sheet.isScrap        ? ", scrap of "
                    : sheet.scrapId != 0 ? ", the scrap there is, "
                                         : ", sheet ") +
                   base::formatSize(sheet.widthMm, sheet.heightMm, mm) + " with its upper left corner " +
                   base::formatNumber(sheet.xMm, 1) + " mm from the left and " +
                   base::formatNumber(sheet.yMm, 1) + " mm from the top, " +
                   (sheet.isPair() ? design::tapedText(sheet) + ", " : "") +
                   base::counted(static_cast<long long>(sheet.pieces.size()), "piece") + "\n";
        out += checks[l].isSound()
                   ? "  read back: " + base::counted(checks[l].foundPieces, "piece") + ", sizes agree\n"
                   : "  PROBLEM: " + checks[l].problem + "\n";
    }
    if (!arrangement.unplaced.empty()) {
        out += "\nNot on any sheet, because they are too large:\n";
        for (const design::CopyOf& copy : arrangement.unplaced)
            out += "  " + design::pieceName(stack, copy.piece) + "\n";
    }
    if (const std::string byHand = byHandText(stack, labels); !byHand.empty())
        out += "\nCut by hand, on no mat, drawn at true size in files of their own:\n" + byHand + templates;
    out += linesText(stack, arrangement, labels.foldsAs);
    if (!labels.joins.empty()) {
        out += "\nParts that go together, numbered in reading order of the whole as seen from the front:\n";
        for (const std::string& line : labels.joins)
            out += "  " + line + "\n";
    }
    if (!labels.origins.empty()) {
        out += "\nOrigin and licence:\n";
        for (const std::string& line : labels.origins)
            out += "  " + line + "\n";
    }
    return out + "\nBlades cut: follow the makers' instructions of machine and blade, and keep fingers, hair "
                 "and sleeves away from a moving carriage.\n";
}

} // namespace

base::Result<Labels> labelsOf(const job::State& state, design::FoldsAs foldsAs,
                              const base::Progress& progress) {
    auto joins = job::joinsOf(state, progress);
    if (!joins)
        return joins.error();
    return Labels{state.job.name, job::originsOf(state.job).lines, foldsAs,
                  joins.take(),   paperFor(state.job.unit),        job::boardInsets(state)};
}

bool Package::isSound() const {
    return faults.empty() &&
           std::all_of(checks.begin(), checks.end(), [](const FileCheck& check) { return check.isSound(); });
}

std::string faultText(const std::vector<sheets::Fault>& faults) {
    constexpr size_t kTold = 3;
    std::string out;
    for (size_t i = 0; i < std::min(kTold, faults.size()); ++i)
        out += (i ? "; " : "") + faults[i].message;
    if (faults.size() > kTold)
        out += "; and " + std::to_string(faults.size() - kTold) + " more";
    if (!out.empty() && out[0] >= 'a' && out[0] <= 'z')
        out[0] = static_cast<char>(out[0] - 'a' + 'A');
    return out.empty() ? out : out + ".";
}

std::string loadFileName(std::size_t index, const design::Load& load) {
    std::string name = "load-" + std::to_string(index + 1);
    std::set<std::string> named;
    for (const design::PlacedSheet& sheet : load.sheets)
        if (named.insert(sheet.stockId).second)
            name += "-" + sheet.stockId;
    return name + ".svg";
}

FileCheck checkLoad(const std::string& name, const base::Bytes& svg, const design::PlannedLoad& planned,
                    const design::Load& load) {
    FileCheck check;
    check.name = name;
    const auto read = formats::svg::readDrawing({reinterpret_cast<const char*>(svg.data()), svg.size()});
    if (!read) {
        check.problem = "it cannot be read back: " + read.error().message;
        return check;
    }
    Found found;
    int paths = 0;
    for (const auto& group : read->groups) {
        std::vector<Measured> seen; // a pen may follow a fold, but nothing is done twice by one tool
        for (const auto& path : group.paths) {
            ++paths;
            found[group.id + "/" + path.id] = &path;
            seen.push_back(measured(path));
            if (std::find(seen.begin(), seen.end() - 1, seen.back()) != seen.end() - 1)
                check.problem = "the lines of " + path.id + " are in it twice";
        }
    }
    if (std::abs(read->widthMm - load.mat.widthMm) > kBoxToleranceMm ||
        std::abs(read->heightMm - load.mat.heightMm) > kBoxToleranceMm)
        check.problem = "its page is not the size of the mat";
    int others = 0;
    for (const design::Pass& pass : planned.passes) {
        std::map<std::string, std::vector<const geometry::Line*>> elements;
        for (const design::PlannedPath& path : pass.paths)
            elements[formats::svg::plannedElement(pass, path)].push_back(&path.line);
        const bool isPiece = pass.operation == design::Operation::Cut && !pass.isFrame && !pass.isTile;
        (isPiece ? check.expectedPieces : others) += static_cast<int>(elements.size());
        for (const auto& [id, lines] : elements)
            compare(design::passGroup(pass), id, measured(lines), found, check);
    }
    check.foundPieces = paths - others;
    if (check.foundPieces != check.expectedPieces && check.problem.empty())
        check.problem = "it holds " + std::to_string(check.foundPieces) + " pieces instead of " +
                        std::to_string(check.expectedPieces);
    return check;
}

base::Result<Package> makePackage(const design::Stack& stack, const design::Arrangement& arrangement,
                                  const design::CutPlan& plan, const sheets::ArrangeOptions& laidBy,
                                  const Labels& labels, const base::Progress& progress) {
    if (arrangement.loads.empty() && !arrangement.unplaced.empty())
        return base::Error{
            base::Code::Degenerate,
            "Nothing fits the chosen sheet: " +
                base::counted(static_cast<long long>(arrangement.unplaced.size()), "piece") +
                " too large. Choose a larger mat and sheet, make the design smaller, or part a "
                "cluster."};
    if (arrangement.loads.empty() && design::cutByHand(stack).empty())
        return base::Error{base::Code::InvalidArgument,
                           "There is nothing to pack yet: arrange the pieces on sheets first."};
    Package package;
    auto faults = sheets::faultsOf(stack, arrangement, laidBy, progress);
    if (!faults)
        return faults.error();
    package.faults = faults.take();
    if (!package.faults.empty())
        return package;
    for (size_t i = 0; i < arrangement.loads.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(0.8 * static_cast<double>(i) / static_cast<double>(arrangement.loads.size()),
                        "Writing and reading back");
        const design::Load& load = arrangement.loads[i];
        const std::string name = loadFileName(i, load);
        const std::string title = labels.jobName + ", load " + std::to_string(i + 1) + " of " +
                                  std::to_string(arrangement.loads.size());
        const auto planned = std::find_if(plan.loads.begin(), plan.loads.end(),
                                          [&](const design::PlannedLoad& one) { return one.load == i; });
        if (planned == plan.loads.end())
            return base::Error{base::Code::InvalidArgument, "The plan says nothing of " + name + "."};
        package.files.push_back({name, bytesOf(formats::svg::writeLoad(*planned, load, stack, title))});
        package.checks.push_back(checkLoad(name, package.files.back().bytes, *planned, load));
    }
    const std::string templates = addTemplates(stack, labels, package);
    progress.report(0.85, "Drawing the overview");
    constexpr double kOverviewPxPerMm = 1.5; // 12 in mats at about 460 px: small pieces stay recognisable
    const double pxPerMm = overviewPxPerMm(arrangement, kOverviewPxPerMm);
    package.files.push_back(
        {"overview.png", formats::image::encodePng(overview(arrangement, stack, pxPerMm), pxPerMm * 25.4)});
    package.files.push_back(
        {kContentsName, bytesOf(contents(stack, arrangement, labels, package.checks, templates))});
    return package;
}

namespace {

/// The loads a list of contents names, a line each: "load-2-sea.svg: mat 304.8 x 304.8 mm".
std::set<std::string> loadsListed(const std::string& contents) {
    std::set<std::string> out;
    std::istringstream lines(contents);
    for (std::string line; std::getline(lines, line);) {
        const size_t end = line.find(".svg: mat ");
        const bool isName =
            line.rfind("load-", 0) == 0 && end != std::string::npos && line.find_first_of("/\\") > end;
        if (isName)
            out.insert(line.substr(0, end) + ".svg");
    }
    return out;
}

} // namespace

base::Status writePackage(base::FileStore& store, const std::string& folder, const Package& package) {
    constexpr std::uint64_t kMostBytes = 1 << 20;
    if (auto made = store.makeFolder(folder); !made)
        return made;
    std::set<std::string> earlier;
    if (const auto list = store.read(folder + "/" + kContentsName, kMostBytes))
        earlier = loadsListed({list->begin(), list->end()});
    base::Status first = base::Done{};
    for (const PackedFile& file : package.files) {
        earlier.erase(file.name);
        if (auto done = store.writeWhole(folder + "/" + file.name, file.bytes); !done && first)
            first = done;
    }
    for (const std::string& name : first ? earlier : std::set<std::string>{})
        if (auto gone = store.remove(folder + "/" + name); !gone && first)
            first = gone;
    return first;
}

} // namespace thinline::pack
