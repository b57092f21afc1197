// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A release is made whole in memory, read back, and only then written: a stop or a mistake half-way leaves what was there. Its list
// of checksums says what is ours in a folder, so that the next release takes away what it has not any more (somebody would cut
// it) and leaves what a person has changed or added.
#include "pack/Release.h"

#include "base/Length.h"
#include "design/PartNames.h"
#include "formats/image/ImageFile.h"
#include "formats/pdf/ReadPdf.h"
#include "formats/svg/WriteDrawing.h"
#include "formats/zip/Archive.h"
#include "job/Catalogue.h"
#include "job/CutSteps.h"
#include "job/SourceSteps.h"
#include "pack/AssemblySheets.h"
#include "pack/Checksum.h"
#include "pack/FinishedPicture.h"
#include "pack/LoadFiles.h"
#include "pack/Needs.h"
#include "pack/Pictures.h"

#include <algorithm>
#include <map>
#include <set>
#include <sstream>

namespace thinline::pack {
namespace {

using base::Code;
using base::Error;

constexpr base::LengthUnit kMm = base::LengthUnit::Millimetre;

bool has(const std::vector<Format>& formats, Format one) {
    return std::find(formats.begin(), formats.end(), one) != formats.end();
}

base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}

/// One line for each piece, with what somebody needs to find it again.
std::string piecesCsv(const design::Stack& work) {
    std::string out = "piece,name,layer,stock,copies,width mm,height mm,area mm2,lines\r\n";
    for (const design::Laid& laid : work.pieces) {
        const geometry::Box box = geometry::bounds(laid.shape());
        const design::Layer& layer = work.layerOf(laid);
        const std::string stock = design::stockName(work.stocks, layer.stockId);
        out += laid.id().text() + "," + quoted(design::pieceName(work, laid)) + "," +
               quoted(layer.name.empty() ? stock : layer.name) + "," + quoted(stock) + "," +
               std::to_string(laid.copies) + "," + base::formatNumber(box.width(), 2) + "," +
               base::formatNumber(box.height(), 2) + "," +
               base::formatNumber(geometry::area(laid.shape()), 1) + "," +
               std::to_string(laid.piece.body->lines.size()) + "\r\n";
    }
    return out;
}

std::string rowText(const VariantRow& row) {
    std::string out = "  " + row.variant.name + ": " + base::formatSize(row.widthMm, row.heightMm, kMm);
    if (!row.canBeCut())
        return out + ". Not in here: " + row.whyNot + (row.help.empty() ? "" : " But " + row.help + ".");
    return out + ", " + base::counted(row.loads, "load") + ", " + base::counted(row.sheets, "sheet") + ", " +
           base::counted(row.pieces, "piece") + ", the smallest " + base::formatLength(row.smallestMm, kMm);
}

std::string readMe(const job::State& state, const Release& release, const std::vector<Format>& formats) {
    const auto listed = [&](Format format) { return has(formats, format); };
    std::string out = state.job.name + "\n\nWhat is in here\n";
    for (const VariantRow& row : release.rows)
        out += rowText(row) + "\n";
    out += "\nOf each, under \"1 cut\":\n";
    if (listed(Format::Svg))
        out += "  svg: for most cutters; true size, a group for each operation, in the order of work.\n";
    if (listed(Format::Dxf))
        out += "  dxf: R12, millimetres; check the line of 50 mm on the layer RULE-50-MM. A layer for each "
               "operation.\n";
    if (listed(Format::SvgFilled))
        out += "  svg filled: the same as areas in the colour of their stock, for programs that take areas "
               "only.\n";
    if (listed(Format::DxfSplines))
        out +=
            "  dxf curves: release 2000, millimetres, with curves as splines, for programs that take them.\n";
    if (listed(Format::ByHand))
        out += "  by hand: every sheet on paper, to print at 100 % and cut with a knife; measure the ruler "
               "first.\n";
    if (listed(Format::Pdf))
        out += "  loads.pdf: to look at, or to print at 100 % and cut by hand; measure the ruler first.\n";
    if (listed(Format::Plotter))
        out += "  plotter: HP-GL, 1016 units to the inch, one file for each tool. Try it without a blade "
               "first.\n";
    out += "  contents.txt: what lies on which mat, folds, parts that go together.\n"
           "\"2 pictures\" shows the finished work, its layers and every mat. \"3 assembly\" tells how it is "
           "put "
           "together and what it needs. design.svg has all layers in place, filled, \"design, lines.svg\" "
           "their outlines; pieces.csv lists the pieces.\n";
    out += "\nChecked: " + base::counted(static_cast<long long>(release.checks.size()), "file") +
           " opened again and compared with what was planned, worst difference " +
           base::formatNumber(1000 * release.worstMm(), 1) + " um.\n";
    const job::OriginSummary origins = job::originsOf(state.job);
    if (!origins.lines.empty()) {
        out += "\nOrigin and licence\n";
        for (const std::string& line : origins.lines)
            out += "  " + line + "\n";
        if (!release.rights.empty())
            out += "  " + release.rights + "\n";
    }
    out += "\nTake care\n";
    for (const std::string& line : cautionsOf(*state.made.work()))
        out += "  " + line + "\n";
    return out;
}

/// Gathers the files of a release, every path once.
class Gathering {
  public:
    Gathering(const job::State& state, const std::vector<Format>& formats)
        : m_state(state), m_formats(formats) {}

    base::Status add(const Variant& variant, const base::Progress& progress) {
        auto made = madeAs(m_state, variant, progress.part(0, 0.4));
        if (!made)
            return made.error();
        const VariantRow row = rowOf(*made, variant);
        out.rows.push_back(row);
        if (!row.canBeCut())
            return base::Done{};
        const auto plan = job::planned(*made, progress);
        const auto laidBy = job::arrangeOptions(made->job, job::shippedCatalogue().formats);
        const auto labels = labelsOf(*made, made->job.plan.foldsAs, progress);
        if (!plan || !laidBy || !labels)
            return !plan ? plan.error() : !laidBy ? laidBy.error() : labels.error();
        auto package = makePackage(*made->made.work(), *made->made.sheets, *plan, *laidBy, *labels,
                                   progress.part(0.4, 0.8));
        if (!package)
            return package.error();
        if (!package->faults.empty()) {
            out.faults.push_back(variant.name + ": " + faultText(package->faults));
            out.rows.back().whyNot = "Its layout would spoil card.";
            return base::Done{};
        }
        takePackage(package.take(), "1 cut/" + variant.name + "/", variant.name);
        for (std::size_t i = 0; i < made->made.sheets->loads.size(); ++i) {
            if (progress.isCancelled())
                return base::cancelled();
            const design::Load& load = made->made.sheets->loads[i];
            const std::string file = loadFileName(i, load);
            addPicture("2 pictures/" + variant.name + "/" + file.substr(0, file.rfind('.')) + ".png",
                       pictureOfLoad(load, *made->made.work(), kLoadPxPerMm));
        }
        return addOthers(*made, *plan, "1 cut/" + variant.name + "/", progress.part(0.8, 1));
    }

    /// What is the same for every variant: pictures of the work and of its layers, assembly sheets, what is needed.
    base::Status addWork(const base::Progress& progress) {
        const design::Stack& work = *m_state.made.work();
        const design::Heights& heights = m_state.made.finished->heights;
        Look look;
        for (const auto& [slant, name] :
             {std::pair(0.0, "finished work"), std::pair(35.0, "finished work at a slant")}) {
            look.slantDeg = slant;
            auto picture = finishedPicture(work, heights, look, progress);
            if (!picture)
                return picture.error();
            addPicture(std::string("2 pictures/") + name + ".png", *picture);
        }
        int number = 0;
        for (const design::Layer& layer : work.layers)
            addPicture("2 pictures/layers/" + std::to_string(++number) + " " +
                           design::layerGroup(work, layer) + ".png",
                       pictureOfLayer(work, layer.id, kLayerPx));
        addDesign();
        const auto sheets = assemblySheets(m_state, paperFor(m_state.job.unit), progress);
        if (!sheets)
            return sheets.error();
        auto pdf = formats::pdf::writePages(sheets->pages, m_state.job.name);
        if (!pdf)
            return pdf.error();
        out.checks.push_back(readBackPages("3 assembly/assembly sheets.pdf", *pdf, sheets->pages));
        out.files.push_back({"3 assembly/assembly sheets.pdf", pdf.take()});
        out.files.push_back(
            {"3 assembly/what is needed.csv", bytesOf(needsCsv(needsOf(m_state, sheets->told)))});
        return base::Done{};
    }

    Release out;

  private:
    static constexpr double kLoadPxPerMm = 1.5;
    static constexpr int kLayerPx = 1000;

    void addPicture(const std::string& path, const raster::Picture& picture) {
        out.files.push_back({path, formats::image::encodePng(picture)});
    }

    void takePackage(Package package, const std::string& folder, const std::string& name) {
        for (PackedFile& file : package.files) {
            const bool isLoad = std::any_of(package.checks.begin(), package.checks.end(),
                                            [&](const FileCheck& check) { return check.name == file.name; });
            if (isLoad && !has(m_formats, Format::Svg))
                continue;
            const std::string path = isLoad                                ? folder + "svg/" + file.name
                                     : file.name == "overview.png"         ? "2 pictures/" + name + ".png"
                                     : file.name.rfind("by-hand-", 0) == 0 ? folder + "by hand/" + file.name
                                                                           : folder + file.name;
            out.files.push_back({path, std::move(file.bytes)});
        }
        if (has(m_formats, Format::Svg))
            for (const FileCheck& check : package.checks)
                out.checks.push_back(
                    {folder + "svg/" + check.name, check.foundPieces, check.worstBoxMm, check.problem});
    }

    /// The whole design in both styles.
    void addDesign() {
        const design::Stack& work = *m_state.made.work();
        const auto move = geometry::Transform::move(design::measure(work).box.least * -1);
        std::vector<geometry::Contour> wanted;
        for (const design::Laid& laid : work.pieces) {
            addContours(geometry::transformed(laid.shape(), move), wanted);
            for (const design::PieceLine& line : laid.piece.body->lines)
                wanted.push_back(geometry::transformed(line.path, move));
        }
        using formats::svg::Style;
        for (const auto& [style, name] :
             {std::pair{Style::Filled, "design.svg"}, {Style::Hairlines, "design, lines.svg"}})
            addSvg(name, formats::svg::writeDesign(work, m_state.job.name, style), wanted);
    }
    static void addContours(const geometry::Shape& shape, std::vector<geometry::Contour>& out) {
        out.push_back(shape.outline);
        out.insert(out.end(), shape.openings.begin(), shape.openings.end());
    }
    void addSvg(const std::string& path, const std::string& text,
                const std::vector<geometry::Contour>& wanted) {
        out.files.push_back({path, bytesOf(text)});
        out.checks.push_back(readBackSvg(path, out.files.back().bytes, wanted));
    }

    void addFilled(const design::Stack& work, const design::PlannedLoad& planned, const design::Load& load,
                   const std::string& path, const std::string& title) {
        std::vector<geometry::Contour> wanted;
        for (const design::PlacedSheet& sheet : load.sheets)
            for (const design::PlacedPiece& placed : sheet.pieces)
                if (const design::Laid* laid = work.find(placed.what.piece))
                    addContours(
                        geometry::transformed(laid->shape(), design::placement(laid->piece, placed.pose)),
                        wanted);
        for (const design::Pass& pass : planned.passes)
            for (const design::PlannedPath& one : pass.paths)
                if (!formats::svg::isOfAnArea(pass, one))
                    wanted.push_back(one.line);
        addSvg(path, formats::svg::writeLoadFilled(planned, load, work, title), wanted);
    }

    /// Every sheet on paper, for somebody with a knife and a ruler.
    base::Status addByHand(const job::State& made, const std::string& folder,
                           const base::Progress& progress) {
        const auto sheets = sheetsByHand(*made.made.work(), *made.made.sheets, progress);
        if (!sheets)
            return sheets.error();
        const Paper paper = paperFor(made.job.unit);
        auto pages = templateOf(*sheets, paper, made.job.name);
        if (!pages)
            return pages.error();
        const std::string path = folder + "by hand/all pieces, " + paper.name + ".pdf";
        const auto first = formats::pdf::readPage(pages->pdf, 0);
        ReadBack check{path, pages->pages};
        if (!first || first->pages != pages->pages)
            check.problem = "its pages cannot be read back";
        out.checks.push_back(std::move(check));
        out.files.push_back({path, std::move(pages->pdf)});
        return base::Done{};
    }

    base::Status addOthers(const job::State& made, const design::CutPlan& plan, const std::string& folder,
                           const base::Progress& progress) {
        const design::Arrangement& sheets = *made.made.sheets;
        using formats::dxf::Edition;
        for (const auto& [format, edition, name] : {std::tuple{Format::Dxf, Edition::R12, "dxf/"},
                                                    {Format::DxfSplines, Edition::Splines, "dxf curves/"}})
            if (has(m_formats, format))
                for (LoadFile& file : dxfFiles(plan, sheets, edition)) {
                    const design::PlannedLoad& planned = plan.loads[file.at];
                    const std::string path = folder + name + file.name;
                    out.checks.push_back(readBackDxf(path, file.bytes, planned, sheets.loads[planned.load]));
                    out.files.push_back({path, std::move(file.bytes)});
                }
        if (has(m_formats, Format::SvgFilled))
            for (const design::PlannedLoad& planned : plan.loads)
                addFilled(*made.made.work(), planned, sheets.loads[planned.load],
                          folder + "svg filled/" + loadFileName(planned.load, sheets.loads[planned.load]),
                          made.job.name);
        if (has(m_formats, Format::ByHand))
            if (auto ok = addByHand(made, folder, progress); !ok)
                return ok;
        if (has(m_formats, Format::Plotter))
            for (const design::PlannedLoad& planned : plan.loads) {
                const design::Load& load = sheets.loads[planned.load];
                const auto files = formats::plotter::writePlotter(planned, load);
                if (!files)
                    return files.error();
                std::size_t pass = 0;
                for (const formats::plotter::PlotterFile& file : *files) {
                    const base::Bytes bytes = bytesOf(file.text);
                    out.checks.push_back(
                        readBackPlotter(folder + "plotter/" + file.name, bytes, planned, pass, load));
                    out.files.push_back({folder + "plotter/" + file.name, bytes});
                    while (pass < planned.passes.size() && planned.passes[pass].tool == file.tool)
                        ++pass;
                }
            }
        if (has(m_formats, Format::Pdf)) {
            auto file = pdfFile(plan, sheets, *made.made.work(), made.job.name, made.job.unit);
            if (!file)
                return file.error();
            out.checks.push_back(readBackPdf(folder + file->name, file->bytes, plan, sheets, progress));
            out.files.push_back({folder + file->name, file->bytes});
        }
        return base::Done{};
    }

    const job::State& m_state;
    const std::vector<Format>& m_formats;
};

std::string checksumsOf(const std::vector<PackedFile>& files) {
    std::string out;
    for (const PackedFile& file : files)
        out += sha256Of(file.bytes) + "  " + file.name + "\n";
    return out;
}

/// What an earlier list says is ours: checksums by paths that stay inside the folder.
std::map<std::string, std::string> readChecksums(const base::Bytes& bytes) {
    constexpr std::size_t kDigits = 64;
    std::map<std::string, std::string> out;
    std::istringstream lines(std::string(bytes.begin(), bytes.end()));
    for (std::string line; std::getline(lines, line);) {
        if (line.size() < kDigits + 3 || line.compare(kDigits, 2, "  ") != 0)
            continue;
        const std::string path = line.substr(kDigits + 2);
        const bool staysInside = path.front() != '/' && path.find("..") == std::string::npos &&
                                 path.find('\\') == std::string::npos && path.find('\0') == std::string::npos;
        if (staysInside)
            out[path] = line.substr(0, kDigits);
    }
    return out;
}

/// Writes files and remembers what was there, to put it back.
class Writing {
  public:
    Writing(base::FileStore& store, const std::string& folder) : m_store(store), m_folder(folder) {}

    base::Status write(const PackedFile& file) {
        const std::string path = m_folder + "/" + file.name;
        auto before = m_store.read(path, base::kMostFileBytes);
        if (before && *before == file.bytes)
            return base::Done{};
        if (auto made = m_store.makeFolder(path.substr(0, path.rfind('/'))); !made)
            return made;
        if (auto done = m_store.writeWhole(path, file.bytes); !done)
            return done;
        m_written.push_back({path, before ? std::optional(before.take()) : std::nullopt});
        return base::Done{};
    }
    /// As far as it goes: what cannot be put back is whole in its new form.
    void putBack() {
        for (auto one = m_written.rbegin(); one != m_written.rend(); ++one)
            (void)(one->before ? m_store.writeWhole(one->path, *one->before) : m_store.remove(one->path));
    }

  private:
    struct Written {
        std::string path;
        std::optional<base::Bytes> before;
    };
    base::FileStore& m_store;
    const std::string m_folder;
    std::vector<Written> m_written;
};

/// Why a package may not be given on.
std::string rightsText(const job::OriginSummary& origins) {
    switch (origins.strictest) {
    case job::Licence::FreeForOwnUse:
        return "A source of this work is free for own use only: ask its owner before you give this package "
               "on.";
    case job::Licence::Unknown:
        return "Of a source of this work nobody said what may be done with it: ask before you give this "
               "package on.";
    case job::Licence::Own:
    case job::Licence::MaySell:
        break;
    }
    return {};
}

} // namespace

bool Release::isSound() const {
    return faults.empty() &&
           std::all_of(checks.begin(), checks.end(), [](const ReadBack& one) { return one.problem.empty(); });
}

double Release::worstMm() const {
    double out = 0;
    for (const ReadBack& one : checks)
        out = std::max(out, one.worstMm);
    return out;
}

base::Result<std::vector<VariantRow>> tableOf(const job::State& state, const std::vector<Variant>& variants,
                                              const base::Progress& progress) {
    std::vector<VariantRow> out;
    for (std::size_t i = 0; i < variants.size(); ++i) {
        const auto part = progress.part(static_cast<double>(i) / static_cast<double>(variants.size()),
                                        static_cast<double>(i + 1) / static_cast<double>(variants.size()));
        const auto made = madeAs(state, variants[i], part);
        if (!made)
            return made.error();
        out.push_back(rowOf(*made, variants[i]));
    }
    return out;
}

base::Result<Release> makeRelease(const job::State& state, const std::vector<Variant>& variants,
                                  const std::vector<Format>& formats, const base::Progress& progress) {
    if (variants.empty() || formats.empty())
        return Error{Code::InvalidArgument, "Choose at least one variant and one format."};
    if (!state.made.work())
        return Error{Code::InvalidArgument, "There is nothing to pack yet."};
    Gathering gathering(state, formats);
    for (std::size_t i = 0; i < variants.size(); ++i) {
        const double share = 1.0 / static_cast<double>(variants.size());
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(share * static_cast<double>(i), "Packing " + variants[i].name);
        if (auto ok = gathering.add(variants[i], progress.part(share * static_cast<double>(i),
                                                               share * static_cast<double>(i + 1)));
            !ok)
            return ok.error();
    }
    if (auto ok = gathering.addWork(progress); !ok)
        return ok.error();
    Release out = std::move(gathering.out);
    out.rights = rightsText(job::originsOf(state.job));
    if (std::none_of(out.rows.begin(), out.rows.end(), [](const VariantRow& row) { return row.canBeCut(); }))
        return Error{Code::Degenerate,
                     "No variant can be cut. " + out.rows.front().variant.name + ": " +
                         out.rows.front().whyNot +
                         (out.rows.front().help.empty() ? "" : " But " + out.rows.front().help + ".")};
    out.files.push_back({"pieces.csv", bytesOf(piecesCsv(*state.made.work()))});
    out.files.push_back({kReadMe, bytesOf(readMe(state, out, formats))});
    std::sort(out.files.begin(), out.files.end(),
              [](const PackedFile& a, const PackedFile& b) { return a.name < b.name; });
    out.files.push_back({kChecksums, bytesOf(checksumsOf(out.files))});
    return out;
}

base::Result<Replaced> writeRelease(base::FileStore& store, const std::string& folder,
                                    const Release& release) {
    constexpr std::uint64_t kMostListBytes = 16 << 20;
    if (auto made = store.makeFolder(folder); !made)
        return made.error();
    std::map<std::string, std::string> earlier;
    if (const auto list = store.read(folder + "/" + kChecksums, kMostListBytes))
        earlier = readChecksums(*list);
    Writing writing(store, folder);
    for (const PackedFile& file : release.files) {
        earlier.erase(file.name);
        if (file.name == kChecksums) // last of all: until then the earlier list says what is ours
            continue;
        if (auto done = writing.write(file); !done) {
            writing.putBack();
            return done.error();
        }
    }
    Replaced out;
    for (const auto& [path, sum] : earlier) {
        const auto bytes = store.read(folder + "/" + path, base::kMostFileBytes);
        if (!bytes)
            continue;
        if (sha256Of(*bytes) != sum) {
            out.kept.push_back(path);
            continue;
        }
        if (auto gone = store.remove(folder + "/" + path); !gone)
            return gone.error();
        ++out.gone;
    }
    for (const PackedFile& file : release.files)
        if (file.name == kChecksums)
            if (auto done = writing.write(file); !done)
                return done.error();
    return out;
}

base::Result<base::Bytes> zipOf(const Release& release, const std::string& folder) {
    std::map<std::string, formats::zip::Entry> entries;
    for (const PackedFile& file : release.files)
        entries[folder + "/" + file.name] = {std::make_shared<const base::Bytes>(file.bytes),
                                             file.name.ends_with(".png")};
    return formats::zip::writeArchive(entries);
}

} // namespace thinline::pack
