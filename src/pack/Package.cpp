// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Package.h"

#include "base/Length.h"
#include "formats/image/ImageFile.h"
#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"
#include "pack/Pictures.h"

#include <algorithm>
#include <map>
#include <set>

namespace thinline::pack {
namespace {

using geometry::Box;

base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}

double boxDifference(const Box& a, const Box& b) {
    return std::max({std::abs(a.least.x - b.least.x), std::abs(a.least.y - b.least.y),
                     std::abs(a.most.x - b.most.x), std::abs(a.most.y - b.most.y)});
}

/// The shape a placed piece should have on the mat.
geometry::Shape expectedShape(const design::Laid& laid, const design::PlacedPiece& placed) {
    return geometry::transformed(laid.shape(), design::placement(laid.piece, placed.pose));
}

std::string contents(const design::Stack& stack, const design::Arrangement& arrangement, const Labels& labels,
                     const std::vector<FileCheck>& checks) {
    const auto mm = base::LengthUnit::Millimetre;
    const design::StackMeasures measures = design::measure(stack);
    std::string out =
        labels.jobName + "\n" + base::formatSize(measures.box.width(), measures.box.height(), mm) + ", " +
        std::to_string(measures.layers) + " layers, " + std::to_string(measures.pieces) + " pieces\n\n";
    for (size_t l = 0; l < arrangement.loads.size(); ++l) {
        const design::Load& load = arrangement.loads[l];
        out += checks[l].name + ": mat " + base::formatSize(load.mat.widthMm, load.mat.heightMm, mm) + "\n";
        for (const design::PlacedSheet& sheet : load.sheets)
            out += "  " + design::stockName(stack.stocks, sheet.stockId) + ", sheet " +
                   base::formatSize(sheet.widthMm, sheet.heightMm, mm) + " with its upper left corner " +
                   base::formatNumber(sheet.xMm, 1) + " mm from the left and " +
                   base::formatNumber(sheet.yMm, 1) + " mm from the top, " +
                   std::to_string(sheet.pieces.size()) + " pieces\n";
        out += checks[l].isSound()
                   ? "  read back: " + std::to_string(checks[l].foundPieces) + " pieces, sizes agree\n"
                   : "  PROBLEM: " + checks[l].problem + "\n";
    }
    if (!arrangement.unplaced.empty()) {
        out += "\nNot on any sheet, because they are too large:\n";
        for (const design::CopyOf& copy : arrangement.unplaced)
            out += "  " + design::pieceName(stack, copy.piece) + "\n";
    }
    if (measures.lines > 0)
        out += "\nNot in these files yet: " + std::to_string(measures.lines) +
               (measures.lines == 1 ? " fold or other line" : " folds and other lines") +
               " on the pieces. Draw them by hand from the design before you glue.\n";
    if (!labels.origins.empty()) {
        out += "\nOrigin and licence:\n";
        for (const std::string& line : labels.origins)
            out += "  " + line + "\n";
    }
    return out + "\nBlades cut: follow the makers' instructions of machine and blade, and keep fingers, hair "
                 "and sleeves away from a moving carriage.\n";
}

} // namespace

bool Package::isSound() const {
    return std::all_of(checks.begin(), checks.end(), [](const FileCheck& check) { return check.isSound(); });
}

std::string loadFileName(std::size_t index, const design::Load& load) {
    std::string name = "load-" + std::to_string(index + 1);
    std::set<std::string> named;
    for (const design::PlacedSheet& sheet : load.sheets)
        if (named.insert(sheet.stockId).second)
            name += "-" + sheet.stockId;
    return name + ".svg";
}

FileCheck checkLoad(const std::string& name, const base::Bytes& svg, const design::Load& load,
                    const design::Stack& stack) {
    FileCheck check;
    check.name = name;
    const auto read = formats::svg::readDrawing({reinterpret_cast<const char*>(svg.data()), svg.size()});
    if (!read) {
        check.problem = "it cannot be read back: " + read.error().message;
        return check;
    }
    std::map<std::string, const geometry::Shape*> found; // by group and path id
    std::vector<std::pair<Box, double>> seen;
    for (const auto& group : read->groups)
        for (const auto& path : group.paths) {
            ++check.foundPieces;
            found[group.id + "/" + path.id] = &path.shape;
            const std::pair<Box, double> mark{geometry::bounds(path.shape), geometry::area(path.shape)};
            if (std::find(seen.begin(), seen.end(), mark) != seen.end())
                check.problem = "the cut lines of " + path.id + " are in it twice";
            seen.push_back(mark);
        }
    if (std::abs(read->widthMm - load.mat.widthMm) > kBoxToleranceMm ||
        std::abs(read->heightMm - load.mat.heightMm) > kBoxToleranceMm)
        check.problem = "its page is not the size of the mat";
    for (const design::PlacedSheet& sheet : load.sheets)
        for (const design::PlacedPiece& placed : sheet.pieces) {
            ++check.expectedPieces;
            const design::Laid* laid = stack.find(placed.what.piece);
            const std::string id =
                formats::svg::pieceElement(placed.what.piece) + "-" + std::to_string(placed.what.copy + 1);
            const auto at = found.find(design::operationGroup(sheet.stockId) + "/" + id);
            if (!laid || at == found.end()) {
                check.problem = id + " is missing";
                continue;
            }
            const geometry::Shape expected = expectedShape(*laid, placed);
            const double area = geometry::area(expected),
                         areaError = std::abs(area - geometry::area(*at->second));
            const double boxError = boxDifference(geometry::bounds(expected), geometry::bounds(*at->second));
            check.worstAreaMm2 = std::max(check.worstAreaMm2, areaError);
            check.worstBoxMm = std::max(check.worstBoxMm, boxError);
            if (boxError > kBoxToleranceMm)
                check.problem = id + " has another size or place";
            else if (areaError > kAreaToleranceShare * area + 1e-3)
                check.problem = id + " has another area";
        }
    if (check.foundPieces != check.expectedPieces && check.problem.empty())
        check.problem = "it holds " + std::to_string(check.foundPieces) + " pieces instead of " +
                        std::to_string(check.expectedPieces);
    return check;
}

base::Result<Package> makePackage(const design::Stack& stack, const design::Arrangement& arrangement,
                                  const Labels& labels, const base::Progress& progress) {
    if (arrangement.loads.empty())
        return base::Error{base::Code::InvalidArgument,
                           "There is nothing to pack yet: arrange the pieces on sheets first."};
    Package package;
    for (size_t i = 0; i < arrangement.loads.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(0.8 * static_cast<double>(i) / static_cast<double>(arrangement.loads.size()),
                        "Writing and reading back");
        const design::Load& load = arrangement.loads[i];
        const std::string name = loadFileName(i, load);
        const std::string title = labels.jobName + ", load " + std::to_string(i + 1) + " of " +
                                  std::to_string(arrangement.loads.size());
        package.files.push_back({name, bytesOf(formats::svg::writeLoad(load, stack, title))});
        package.checks.push_back(checkLoad(name, package.files.back().bytes, load, stack));
    }
    progress.report(0.85, "Drawing the overview");
    constexpr double kOverviewPxPerMm = 1.5; // 12 in mats at about 460 px: small pieces stay recognisable
    package.files.push_back(
        {"overview.png",
         formats::image::encodePng(overview(arrangement, stack, kOverviewPxPerMm), kOverviewPxPerMm * 25.4)});
    package.files.push_back({"contents.txt", bytesOf(contents(stack, arrangement, labels, package.checks))});
    return package;
}

} // namespace thinline::pack
