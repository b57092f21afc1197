// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/AssemblySheets.h"

#include "assembly/Words.h"
#include "pack/FinishedPicture.h"
#include "pack/StepPicture.h"

#include <algorithm>
#include <cmath>

namespace thinline::pack {
namespace {

using assembly::Assembly;
using assembly::Step;
using base::Code;
using base::Error;
using formats::pdf::Page;
using geometry::Box;
using geometry::Point;

constexpr double kEdgeMm = 14, kGapMm = 8, kHeadMm = 9;
constexpr raster::Rgb kSoft{96, 106, 112};
constexpr Setting kTitle{9, Weight::Bold}, kHeading{5, Weight::Bold}, kWords{3.5, Weight::Plain},
    kStrong{3.5, Weight::Bold}, kSmall{2.9, Weight::Plain, kSoft};

/// "1 of them is 12 mm high": which pieces look up how far, from the side.
struct Storey {
    double bottomMm = 0;
    std::vector<std::size_t> pieces;
};

class Book {
  public:
    Book(const job::State& state, const Paper& paper, const Type& type, const assembly::Instructions& told)
        : m_state(state), m_paper(paper), m_type(type), m_told(told), m_work(*state.made.work()),
          m_pictures(m_work, state.made.finished->heights, told) {}

    base::Status cover(const base::Progress& progress) {
        Leaf& leaf = turnPage();
        const design::StackMeasures measures = design::measure(m_work);
        double y = leaf.write({kEdgeMm, kTop}, m_state.job.name, width(), kTitle) + 2;
        y = leaf.write({kEdgeMm, y}, "How it is put together", width(), kHeading) + 6;
        const double foot = m_paper.heightMm - kEdgeMm - 14;
        Look look;
        look.mostPx = 1100;
        auto picture = finishedPicture(m_work, m_state.made.finished->heights, look, progress);
        if (!picture)
            return picture.error();
        const double scale = std::min(width() / picture->width, (foot - y) / picture->height);
        const Point size{picture->width * scale, picture->height * scale};
        const Point corner{(m_paper.widthMm - size.x) / 2, y};
        leaf.paint(formats::pdf::Pictured{{corner, corner + size},
                                          std::make_shared<const raster::Picture>(picture.take())});
        leaf.write({kEdgeMm, foot + 4},
                   base::formatSize(measures.box.width(), measures.box.height(), m_state.job.unit) + ", " +
                       base::formatLength(m_state.made.finished->heights.tallMm(), m_state.job.unit) +
                       " deep, " + base::counted(measures.pieces, "piece"),
                   width(), kWords);
        return base::Done{};
    }

    void needs() {
        Leaf* leaf = &turnPage();
        double y = leaf->write({kEdgeMm, kTop}, "What you need", width(), kHeading) + 3;
        const std::vector<Need> all = needsOf(m_state, m_told);
        const double first = width() * 0.46, second = width() * 0.38;
        std::string group;
        for (const Need& need : all) {
            const double high = std::max(leaf->heightOf(need.what, first - 4, kWords),
                                         leaf->heightOf(need.howMuch, second - 4, kWords));
            if (y + high + 10 > bottom()) {
                leaf = &turnPage();
                y = kTop;
            }
            if (need.group != group) {
                y = leaf->write({kEdgeMm, y + 2}, need.group, width(), kStrong) + 1;
                group = need.group;
            }
            leaf->write({kEdgeMm, y}, need.what, first - 4, kWords);
            leaf->write({kEdgeMm + first, y}, need.howMuch, second - 4, kWords);
            if (need.cost)
                leaf->write({kEdgeMm + first + second, y}, base::formatNumber(*need.cost, 2), width() * 0.16,
                            kWords);
            y += high + 1;
            leaf->stretch({kEdgeMm, y}, {kEdgeMm + width(), y}, 0.1, 0.75);
            y += 1;
        }
        if (const NeedsCost cost = costOf(all); cost.sum > 0) {
            leaf->write({kEdgeMm, y + 1},
                        cost.isWhole ? "Card in all" : "Card in all, as far as prices are known",
                        first + second, kStrong);
            leaf->write({kEdgeMm + first + second, y + 1}, base::formatNumber(cost.sum, 2), width() * 0.16,
                        kStrong);
            y += 7;
        }
        y = leaf->write({kEdgeMm, y + 5}, "Take care", width(), kStrong) + 1;
        for (const std::string& line : cautionsOf(m_work)) {
            if (y + leaf->heightOf(line, width(), kWords) > bottom()) {
                leaf = &turnPage();
                y = kTop;
            }
            y = leaf->write({kEdgeMm, y}, line, width(), kWords) + 1;
        }
        legend(*leaf, y + 4);
    }

    void pieces() {
        constexpr double kCellMm = 34, kWordsMm = 13;
        const int across = std::max(1, static_cast<int>(width() / kCellMm));
        const double cell = width() / across, high = cell + kWordsMm;
        const int down = std::max(1, static_cast<int>((bottom() - kTop - 10) / high));
        Leaf* leaf = nullptr;
        for (std::size_t i = 0; i < m_told.numbered.size(); ++i) {
            const int place = static_cast<int>(i % static_cast<std::size_t>(across * down));
            if (place == 0) {
                leaf = &turnPage();
                leaf->write({kEdgeMm, kTop}, i == 0 ? "All pieces by their numbers" : "More pieces", width(),
                            kHeading);
            }
            const Point corner{kEdgeMm + place % across * cell, kTop + 10 + place / across * high};
            const design::PieceId id = m_told.numbered[i];
            const design::Laid& laid = *m_work.find(id);
            m_pictures.drawPiece(*leaf, {corner + Point{2, 5.5}, corner + Point{cell - 4, cell - 1}}, id);
            leaf->write(corner, {std::to_string(i + 1)}, kStrong);
            if (laid.copies > 1) {
                const std::string times = std::to_string(laid.copies) + " times";
                const double wide = m_type.line(times, kSmall.sizeMm).widthMm();
                leaf->write(corner + Point{cell - 4 - wide, 0.5}, {times}, kSmall);
            }
            std::vector<std::string> name =
                m_type.wrapped(design::pieceName(m_work, laid), kSmall.sizeMm, Weight::Plain, cell - 4);
            if (name.size() > 2) {
                name.resize(2);
                name.back() += " …";
            }
            const Box box = geometry::bounds(laid.shape());
            name.push_back(base::formatSize(box.width(), box.height(), m_state.job.unit));
            leaf->write(corner + Point{0, cell - 0.5}, name, kSmall);
        }
    }

    /// Who lies above whom, pulled apart.
    void apart() {
        const std::vector<Storey> storeys = storeysOf();
        if (storeys.size() < 2)
            return;
        Leaf& leaf = turnPage();
        double y = leaf.write({kEdgeMm, kTop}, "From the side, pulled apart", width(), kHeading) + 1;
        y = leaf.write(
                {kEdgeMm, y},
                "Each line is one storey of card, the lowest at the bottom. Heights are from the base.",
                width(), kWords) +
            4;
        const Box box = design::measure(m_work).box;
        const double drawn = width() * 0.6;
        const double scale = drawn / std::max(box.width(), 1e-6);
        const double pitch = std::min(16.0, (bottom() - y) / static_cast<double>(storeys.size()));
        const double least = kSmall.sizeMm * kLineHeight + 0.5;
        double named = 0;
        for (std::size_t k = 0; k < storeys.size(); ++k) {
            const Storey& storey = storeys[storeys.size() - 1 - k];
            const double level = y + pitch * (static_cast<double>(k) + 0.5);
            std::set<std::string> layers;
            for (const std::size_t piece : storey.pieces) {
                const design::Laid& laid = m_work.pieces[piece];
                const Box span = geometry::bounds(laid.shape());
                const Box bar{{kEdgeMm + (span.least.x - box.least.x) * scale, level - 0.9},
                              {kEdgeMm + (span.most.x - box.least.x) * scale, level + 0.9}};
                const geometry::Polygons ring{
                    {bar.least, {bar.most.x, bar.least.y}, bar.most, {bar.least.x, bar.most.y}}};
                leaf.fill(ring, design::colourOf(m_work.stocks, m_work.layerOf(laid).stockId));
                leaf.outline(ring, 0.2, 0);
                layers.insert(design::layerName(m_work, m_work.layerOf(laid)));
            }
            if (level - named < least)
                continue; // of many storeys not every one is named
            named = level;
            std::string text = base::formatLength(storey.bottomMm, m_state.job.unit) + ": ";
            for (const std::string& layer : layers)
                text += (layer == *layers.begin() ? "" : ", ") + layer;
            const auto lines = m_type.wrapped(text, kSmall.sizeMm, Weight::Plain, width() - drawn - 6);
            const std::size_t most = std::max<std::size_t>(
                1, static_cast<std::size_t>(std::max(pitch, least) / (kSmall.sizeMm * kLineHeight)));
            leaf.write(
                {kEdgeMm + drawn + 6, level - kSmall.sizeMm * 0.7},
                {lines.begin(), lines.begin() + static_cast<std::ptrdiff_t>(std::min(most, lines.size()))},
                kSmall);
        }
    }

    base::Status steps(const base::Progress& progress) {
        turnPage();
        m_y = kTop;
        m_column = 0;
        for (std::size_t i = 0; i < m_told.assemblies.size(); ++i) {
            const Assembly& one = m_told.assemblies[i];
            if (one.steps.empty())
                continue;
            if (progress.isCancelled())
                return base::cancelled();
            heading(i);
            for (std::size_t k = 0; k < one.steps.size(); ++k)
                step(one, k);
        }
        return base::Done{};
    }

    const std::vector<std::size_t>& pageOfStep() const { return m_pageOfStep; }

    std::vector<Page> take() {
        std::vector<Page> out;
        const std::string of = " of " + std::to_string(m_leaves.size());
        for (std::size_t i = 0; i < m_leaves.size(); ++i) {
            Leaf& leaf = *m_leaves[i];
            const std::string number = "page " + std::to_string(i + 1) + of;
            const double wide = m_type.line(number, kSmall.sizeMm).widthMm();
            const std::vector<std::string> name =
                m_type.wrapped(m_state.job.name, kSmall.sizeMm, Weight::Plain, width() - wide - 6);
            if (i > 0 && !name.empty())
                leaf.write({kEdgeMm, kEdgeMm - 5}, {name.front()}, kSmall);
            leaf.write({kEdgeMm + width() - wide, kEdgeMm - 5}, {number}, kSmall);
            leaf.stretch({kEdgeMm, kEdgeMm}, {kEdgeMm + width(), kEdgeMm}, 0.2, 0.4);
            out.push_back(std::move(leaf.page));
        }
        return out;
    }

  private:
    static constexpr double kTop = kEdgeMm + kHeadMm - 4;
    double width() const { return m_paper.widthMm - 2 * kEdgeMm; }
    double bottom() const { return m_paper.heightMm - kEdgeMm; }
    double columnWidth() const { return (width() - kGapMm) / 2; }
    Point here() const { return {kEdgeMm + m_column * (columnWidth() + kGapMm), m_y}; }
    Leaf& leaf() { return *m_leaves.back(); }

    Leaf& turnPage() {
        m_leaves.push_back(std::make_unique<Leaf>(m_paper.widthMm, m_paper.heightMm, m_type));
        return leaf();
    }

    void makeRoom(double highMm) {
        if (m_y + highMm <= bottom() || m_y == kTop)
            return;
        m_y = kTop;
        if (++m_column == 2) {
            m_column = 0;
            turnPage();
        }
    }

    void legend(Leaf& leaf, double y) {
        constexpr double kHighMm = 30;
        if (y + kHighMm > bottom())
            return;
        y = leaf.write({kEdgeMm, y}, "In the pictures", width(), kStrong) + 1;
        leaf.write({kEdgeMm, y},
                   "Grey is what is there already, colour is what is new. A number is a piece's, a letter "
                   "means something you made "
                   "before. Hatched: glue. Rings: foam. Strips: tape. Dashes: folds away from you; dots: "
                   "folds towards "
                   "you. Pictures from behind "
                   "show the work as it lies before you then, left and right swapped.",
                   width(), kWords);
    }

    void heading(std::size_t at) {
        const Assembly& one = m_told.assemblies[at];
        const bool isLast = at + 1 == m_told.assemblies.size();
        std::string text = assembly::letterOf(at) + ": " + one.name;
        if (isLast)
            text = m_told.assemblies.size() > 1 ? "The whole" : m_state.job.name;
        if (one.copies > 1)
            text += ", " + std::to_string(one.copies) + " times";
        const Setting setting{4.2, Weight::Bold};
        makeRoom(leaf().heightOf(text, columnWidth(), setting) + 55);
        m_y = leaf().write(here(), text, columnWidth(), setting) + 0.5;
        leaf().stretch(here(), here() + Point{columnWidth(), 0}, 0.35, 0);
        m_y += 3;
    }

    void step(const Assembly& in, std::size_t at) {
        const Step& step = in.steps[at];
        const std::string title = std::to_string(++m_number) + "  " + assembly::headingOf(step.act);
        const double high =
            StepPictures::hasPicture(step) ? m_pictures.heightFor(in, at, columnWidth(), kMostPictureMm) : 0;
        const double words = leaf().heightOf(step.text, columnWidth(), kWords);
        makeRoom(kStrong.sizeMm * kLineHeight + words + high + 6);
        m_pageOfStep.push_back(m_leaves.size() - 1);
        m_y = leaf().write(here(), {title}, kStrong);
        m_y = leaf().write(here(), step.text, columnWidth(), kWords) + 1.5;
        if (high > 0) {
            m_pictures.draw(leaf(), {here(), here() + Point{columnWidth(), high}}, in, at);
            m_y += high;
        }
        m_y += 5;
    }

    std::vector<Storey> storeysOf() const {
        const auto& of = m_state.made.finished->heights.of;
        std::map<long, Storey> byHeight;
        for (std::size_t i = 0; i < of.size(); ++i) {
            Storey& storey = byHeight[std::lround(of[i].bottomMm * 20)];
            storey.bottomMm = of[i].bottomMm;
            storey.pieces.push_back(i);
        }
        std::vector<Storey> out;
        for (auto& [height, storey] : byHeight)
            out.push_back(std::move(storey));
        return out;
    }

    static constexpr double kMostPictureMm = 65;
    const job::State& m_state;
    const Paper& m_paper;
    const Type& m_type;
    const assembly::Instructions& m_told;
    const design::Stack& m_work;
    StepPictures m_pictures;
    std::vector<std::unique_ptr<Leaf>> m_leaves;
    std::vector<std::size_t> m_pageOfStep;
    double m_y = 0;
    int m_column = 0, m_number = 0;
};

} // namespace

base::Result<AssemblySheets> assemblySheets(const job::State& state, const Paper& paper,
                                            const base::Progress& progress) {
    constexpr double kLeastWidthMm = 120, kLeastHeightMm = 160;
    if (paper.widthMm < kLeastWidthMm || paper.heightMm < kLeastHeightMm)
        return Error{Code::InvalidArgument, "Assembly sheets want paper of at least 120 × 160 mm."};
    auto told = job::instructionsOf(state, progress.part(0, 0.5));
    if (!told)
        return told.error();
    const auto type = Type::open();
    if (!type)
        return type.error();
    Book book(state, paper, *type, *told);
    if (auto ok = book.cover(progress.part(0.5, 0.8)); !ok)
        return ok.error();
    book.needs();
    book.pieces();
    book.apart();
    if (auto ok = book.steps(progress.part(0.8, 1)); !ok)
        return ok.error();
    AssemblySheets out{book.take(), book.pageOfStep(), {}};
    out.told = told.take();
    return out;
}

std::string stepsText(const assembly::Instructions& told) {
    std::string out;
    int number = 0;
    for (std::size_t i = 0; i < told.assemblies.size(); ++i) {
        const Assembly& one = told.assemblies[i];
        if (one.steps.empty())
            continue;
        out += assembly::letterOf(i) + ": " + one.name +
               (one.copies > 1 ? ", " + std::to_string(one.copies) + " times" : std::string()) + "\n";
        for (const Step& step : one.steps)
            out += "  " + std::to_string(++number) + "  " + step.text + "\n      [" + step.key + "]\n";
    }
    return out;
}

} // namespace thinline::pack
