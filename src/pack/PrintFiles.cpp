// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/PrintFiles.h"

#include "base/Length.h"
#include "formats/image/ImageFile.h"
#include "formats/plotter/WritePlotter.h"
#include "pack/Leaf.h"

#include <algorithm>
#include <cmath>

namespace thinline::pack {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Contour;
using geometry::Point;

constexpr double kSmallMm = 2.4, kBesideMarkMm = 10;
constexpr raster::Rgb kInk{0, 0, 0};

std::vector<Contour> contoursOf(const geometry::Polygons& rings) {
    std::vector<Contour> out;
    for (const geometry::Polygon& ring : rings)
        out.push_back(geometry::contourThrough(ring));
    return out;
}

/// The box of what is not white, px.
struct Used {
    int left = 0, top = 0, right = 0, bottom = 0;
    bool isAny() const { return right > left; }
};
Used usedOf(const raster::Canvas& canvas) {
    Used out{canvas.width(), canvas.height(), 0, 0};
    for (int y = 0; y < canvas.height(); ++y) {
        const std::uint32_t* row =
            canvas.pixels().data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(canvas.width());
        for (int x = 0; x < canvas.width(); ++x)
            if ((row[x] & 0xffffff) != 0xffffff) {
                out.left = std::min(out.left, x);
                out.right = std::max(out.right, x + 1);
                out.top = std::min(out.top, y);
                out.bottom = y + 1;
            }
    }
    return out;
}

raster::Picture partOf(const raster::Canvas& canvas, const Used& used) {
    raster::Picture out{used.right - used.left, used.bottom - used.top, {}};
    out.rgb.reserve(static_cast<std::size_t>(out.pixels()) * 3);
    for (int y = used.top; y < used.bottom; ++y)
        for (int x = used.left; x < used.right; ++x) {
            const std::uint32_t pixel =
                canvas.pixels()[static_cast<std::size_t>(y) * static_cast<std::size_t>(canvas.width()) +
                                static_cast<std::size_t>(x)];
            for (const int shift : {16, 8, 0})
                out.rgb.push_back(static_cast<std::uint8_t>(pixel >> shift & 0xff));
        }
    return out;
}

/// The lines of small print above the ruler, as wide as the page lets them be.
std::vector<formats::pdf::Written> smallPrint(const print::PageLayout& layout,
                                              const std::vector<std::string>& lines, const Type& type) {
    std::vector<formats::pdf::Written> out;
    if (!layout.hasMarks())
        return out;
    const double left = layout.marks[3].x + kBesideMarkMm, room = layout.marks[2].x - kBesideMarkMm - left;
    double y =
        layout.ruler.least.y - kSmallMm * 0.4 - kSmallMm * 1.2 * (static_cast<double>(lines.size()) - 1);
    for (const std::string& text : lines) {
        formats::pdf::Written line = type.line(text, kSmallMm);
        if (line.widthMm() > room)
            line.sizeMm *= room / line.widthMm();
        line.at = {left, y};
        line.colour = kInk;
        out.push_back(std::move(line));
        y += kSmallMm * 1.2;
    }
    return out;
}

void fillText(raster::Canvas& canvas, double pxPerMm, const formats::pdf::Written& line) {
    geometry::Polygons rings;
    for (const lettering::Glyph& glyph : line.run->glyphs)
        for (const Contour& contour : glyph.contours) {
            geometry::Polygon ring = geometry::flatten(contour, 0.003);
            for (Point& p : ring)
                p = (line.at + (glyph.at + p) * line.sizeMm) * pxPerMm;
            rings.push_back(std::move(ring));
        }
    canvas.fill(rings, line.colour);
}

/// Marks and ruler of a page, on a layer of their own.
void addMarkAreas(formats::pdf::Page& page, const print::PageLayout& layout,
                  const print::PageNumber& number) {
    geometry::Polygons marks = print::marksOn(layout, number);
    const geometry::Polygons ruler = print::rulerOn(layout);
    marks.insert(marks.end(), ruler.begin(), ruler.end());
    if (!marks.empty())
        page.painted.emplace_back(std::in_place_type<formats::pdf::Filled>,
                                  formats::pdf::Filled{contoursOf(marks), kInk, "marks"});
}

Box trimOf(const std::vector<job::OnPage>& pieces) {
    Box out;
    for (const job::OnPage& one : pieces)
        out.include(geometry::bounds(geometry::transformed(one.body->shape, one.toPage)));
    return out;
}

} // namespace

std::string pageLine(const job::State& state, const job::PrintPage& page, bool isBack) {
    return state.job.name + ", " + design::stockName(state.job.stocks, page.stockId) + ", " + page.name +
           (isBack         ? ", back"
            : page.hasBack ? ", front"
                           : "") +
           ", load " + std::to_string(page.load + 1);
}

base::Result<formats::pdf::Page> pdfPage(const job::State& state, const job::PrintPage& page, bool isBack,
                                         double dpi, const job::Decoded& art,
                                         const base::Progress& progress) {
    const auto type = Type::open();
    if (!type)
        return type.error();
    const auto painted = job::paintedPage(state, page, isBack, dpi, art, progress);
    if (!painted)
        return painted.error();
    formats::pdf::Page out;
    out.widthMm = page.layout.widthMm;
    out.heightMm = page.layout.heightMm;
    if (const Used used = usedOf(painted->picture); used.isAny()) {
        const double mm = 1 / painted->pxPerMm;
        out.painted.emplace_back(
            std::in_place_type<formats::pdf::Pictured>,
            formats::pdf::Pictured{{{used.left * mm, used.top * mm}, {used.right * mm, used.bottom * mm}},
                                   std::make_shared<const raster::Picture>(partOf(painted->picture, used))});
    }
    addMarkAreas(out, page.layout, {page.number.page, isBack});
    for (formats::pdf::Written& line :
         smallPrint(page.layout, {pageLine(state, page, isBack), kTrueSize}, *type))
        out.painted.emplace_back(std::in_place_type<formats::pdf::Written>, std::move(line));
    const Box whole{{0, 0}, {out.widthMm, out.heightMm}};
    out.trim = trimOf(job::piecesOn(state, page, isBack));
    if (!out.trim.isEmpty()) {
        const Box bleed = out.trim.grownBy(page.bleedMm);
        out.bleed = {{std::max(bleed.least.x, 0.0), std::max(bleed.least.y, 0.0)},
                     {std::min(bleed.most.x, whole.most.x), std::min(bleed.most.y, whole.most.y)}};
    }
    return out;
}

base::Result<raster::Picture> pagePicture(const job::State& state, const job::PrintPage& page, bool isBack,
                                          double dpi, const job::Decoded& art,
                                          const base::Progress& progress) {
    const auto type = Type::open();
    if (!type)
        return type.error();
    auto painted = job::paintedPage(state, page, isBack, dpi, art, progress);
    if (!painted)
        return painted.error();
    job::PrintedPage whole = painted.take();
    job::addMarks(whole, page, isBack);
    for (const formats::pdf::Written& line :
         smallPrint(page.layout, {pageLine(state, page, isBack), kTrueSize}, *type))
        fillText(whole.picture, whole.pxPerMm, line);
    return whole.picture.picture();
}

base::Result<PrintedFiles> printFiles(const job::State& state, const std::vector<PrintFormat>& formats,
                                      const job::Decoded& art, const base::Progress& progress) {
    const std::vector<job::PrintPage> pages = job::printPagesOf(state);
    if (pages.empty())
        return Error{Code::InvalidArgument,
                     state.job.print.stocks.empty()
                         ? "Nothing is printed; print something on a piece first."
                         : "There are no sheets to print on; lay the pieces at Sheets first."};
    PrintedFiles out;
    std::vector<formats::pdf::Page> drawn;
    const bool hasPdf = std::find(formats.begin(), formats.end(), PrintFormat::Pdf) != formats.end(),
               hasPng = std::find(formats.begin(), formats.end(), PrintFormat::Png) != formats.end();
    bool hasBacks = false; // on the other side of the same sheet
    const auto isOfThree = [&](const std::string& stockId) {
        const design::Stock* stock = design::findStock(state.job.stocks, stockId);
        return stock && stock->laminateOf.size() > 2;
    };
    for (std::size_t i = 0; i < pages.size(); ++i)
        for (const bool isBack : {false, true}) {
            if (isBack && !pages[i].hasBack)
                continue;
            hasBacks = hasBacks || (isBack && !isOfThree(pages[i].stockId));
            ++out.pages;
            progress.report(static_cast<double>(i) / static_cast<double>(pages.size()), "Painting pages");
            if (hasPdf) {
                auto page = pdfPage(state, pages[i], isBack, state.job.print.dpi, art, progress);
                if (!page)
                    return page.error();
                drawn.push_back(page.take());
            }
            if (hasPng) {
                const auto picture = pagePicture(state, pages[i], isBack, state.job.print.dpi, art, progress);
                if (!picture)
                    return picture.error();
                out.files.push_back({"page " + std::to_string(i + 1) + (isBack ? ", back" : "") + ".png",
                                     formats::image::encodePng(*picture, state.job.print.dpi, true)});
            }
        }
    if (hasPdf) {
        auto file = formats::pdf::writePages(drawn, state.job.name, formats::image::srgbProfile());
        if (!file)
            return file.error();
        out.files.insert(out.files.begin(), {"print.pdf", file.take()});
    }
    out.notes.emplace_back("Print at true size, best quality, on the right paper; never fit to page.");
    for (const std::string& id : state.job.print.stocks)
        if (const design::Stock* stock = design::findStock(state.job.stocks, id);
            stock && stock->laminateOf.size() >= 2) {
            const auto layer = [&](std::size_t i) {
                return design::stockName(state.job.stocks, stock->laminateOf[i]);
            };
            out.notes.push_back((isOfThree(id) ? "Print the fronts on " + layer(0) + " and the backs on " +
                                                     layer(2) + ", stick one on either side of " + layer(1) +
                                                     " that is cut larger, mark on mark against the light"
                                               : "Print " + layer(0) + ", stick it onto " + layer(1) +
                                                     " that is cut larger") +
                                ", trim all to the page's edge, and cut " + stock->name +
                                " at one setting, that of its heaviest layer: the marks still rule where the "
                                "cuts go. Spray adhesive "
                                "wants air and no flame.");
        }
    if (hasBacks)
        out.notes.emplace_back(
            "Backs are printed on the other side of the same sheet, turned over about its upright "
            "middle; how far the printer shifts them adds to what the bleed has to cover.");
    return out;
}

base::Result<CalibrationSheet> calibrationSheet(double widthMm, double heightMm, double printerMarginMm,
                                                const std::string& machineName) {
    CalibrationSheet out{print::layoutOf(widthMm, heightMm, printerMarginMm, true), {}, {}, {}};
    auto verniers = registration::verniersIn(out.layout.area);
    if (!verniers)
        return verniers.error();
    out.verniers = verniers.take();
    const auto type = Type::open();
    if (!type)
        return type.error();
    Leaf leaf(widthMm, heightMm, *type);
    addMarkAreas(leaf.page, out.layout, {});
    constexpr double kThinMm = 0.15;
    for (std::size_t i = 0; i < out.verniers.size(); ++i) {
        const registration::Vernier& vernier = out.verniers[i];
        for (const registration::Tick& tick : registration::printedTicks(vernier)) {
            leaf.stretch(tick.line.start, geometry::endOf(tick.line), kThinMm, 0);
            if (tick.number % 5 == 0) {
                const Point beside = vernier.isAcross ? Point{0, -registration::kTickMm - 1.6}
                                                      : Point{-registration::kTickMm - 2.2, 0};
                leaf.writeAround(geometry::endOf(tick.line) + beside, std::to_string(tick.number),
                                 {2.4, Weight::Plain, kInk});
            }
        }
        for (const geometry::Line& cut : registration::cutTicks(vernier))
            out.cuts.push_back(cut);
        // Its name stands towards the middle of the page, clear of ticks and numbers.
        const double inwards = i < 2 ? 1 : -1;
        leaf.writeAround(vernier.zero + (vernier.isAcross ? Point{inwards * 40, 0} : Point{inwards * 22, 0}),
                         "scale " + std::to_string(i + 1) + (vernier.isAcross ? ", across" : ", down"),
                         {2.8, Weight::Bold, kInk});
    }
    const double middle = (out.layout.area.least.y + out.layout.area.most.y) / 2;
    const double room = out.layout.area.width() - 8;
    leaf.write({out.layout.area.least.x + 4, middle - 10},
               "Calibration sheet for " + machineName +
                   ". Let the machine read the marks and cut. On each scale find the cut line that runs on "
                   "from a printed one, "
                   "and type that one's number: between two lines a half.",
               room, {3, Weight::Plain, kInk});
    for (formats::pdf::Written& line : smallPrint(out.layout, {kTrueSize}, *type))
        leaf.paint(std::move(line));
    auto file = formats::pdf::writePages({leaf.page}, "Calibration sheet");
    if (!file)
        return file.error();
    out.pdf = file.take();
    return out;
}

std::string calibrationCuts(const CalibrationSheet& sheet) {
    using formats::plotter::kUnitsPerMm;
    std::string out = "IN;SP3;";
    const auto at = [&](Point p) {
        return std::to_string(std::lround(p.x * kUnitsPerMm)) + "," +
               std::to_string(std::lround((sheet.layout.heightMm - p.y) * kUnitsPerMm)) + ";";
    };
    for (const geometry::Line& cut : sheet.cuts)
        out += "PU" + at(cut.start) + "PD" + at(geometry::endOf(cut));
    return out + "PU;SP0;\n";
}

} // namespace thinline::pack
