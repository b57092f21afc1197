// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/plotter/WritePlotter.h"

#include <cmath>

namespace thinline::formats::plotter {
namespace {

using design::ToolKind;
using geometry::Point;

constexpr double kChordMm = 0.01;
constexpr double kRoundingMm = 0.5 / kUnitsPerMm;

int penOf(ToolKind tool) {
    return tool == ToolKind::Pen ? 1 : design::isBlade(tool) ? 3 : 2;
}

class Writing {
  public:
    explicit Writing(const design::Load& load)
        : m_heightMm(load.mat.heightMm), m_usable{{load.mat.marginMm, load.mat.marginMm},
                                                  {load.mat.widthMm - load.mat.marginMm,
                                                   load.mat.heightMm - load.mat.marginMm}} {}

    void begin(ToolKind tool) { m_text = "IN;SP" + std::to_string(penOf(tool)) + ";PU;"; }
    /// Returns whether the line stays on the part of the mat that may be used.
    bool add(const geometry::Line& line) {
        const geometry::Polygon way = geometry::flatten(line, kChordMm);
        bool isInside = true;
        std::string places;
        std::string last;
        const auto visit = [&](Point p) {
            isInside = isInside && m_usable.grownBy(kRoundingMm).contains(p);
            std::string here = unitsOf(p);
            if (here == last)
                return;
            if (last.empty())
                m_text += "\nPU" + here + ";PD";
            else
                places += (places.empty() ? "" : ",") + here;
            last = std::move(here);
        };
        for (const Point p : way)
            visit(p);
        visit(line.segments.empty() ? line.start : line.segments.back().end);
        m_text += places + ";PU;";
        return isInside;
    }
    std::string end() { return m_text + "\nSP0;\n"; }

  private:
    std::string unitsOf(Point p) const {
        return std::to_string(std::lround(p.x * kUnitsPerMm)) + "," +
               std::to_string(std::lround((m_heightMm - p.y) * kUnitsPerMm));
    }

    const double m_heightMm;
    const geometry::Box m_usable;
    std::string m_text;
};

} // namespace

base::Result<std::vector<PlotterFile>> writePlotter(const design::PlannedLoad& planned,
                                                    const design::Load& load) {
    static constexpr std::array<const char*, design::kOperations.size()> kDoes{"draw", "score", "perforate",
                                                                               "cut", "cut"};
    std::vector<PlotterFile> out;
    Writing writing(load);
    for (size_t p = 0; p < planned.passes.size(); ++p) {
        const design::Pass& pass = planned.passes[p];
        const bool isSameTool = p > 0 && planned.passes[p - 1].tool == pass.tool;
        if (!isSameTool) {
            const std::string name = "load-" + std::to_string(planned.load + 1) + "-" +
                                     std::to_string(out.size() + 1) + "-" +
                                     kDoes[static_cast<size_t>(pass.operation)] + ".plt";
            out.push_back({name, {}, pass.tool});
            writing.begin(pass.tool);
        }
        for (int round = 0; round < pass.times; ++round)
            for (const design::PlannedPath& path : pass.paths)
                if (!writing.add(path.line))
                    return base::Error{base::Code::InvalidArgument,
                                       "Load " + std::to_string(planned.load + 1) + ": " +
                                           (path.frame    ? "a frame"
                                            : pass.isTile ? "the test tile"
                                                          : "piece " + path.what.piece.text()) +
                                           " leaves the part of the mat that may be used. No plotter file is "
                                           "written; lay the pieces anew at Sheets."};
        if (p + 1 == planned.passes.size() || planned.passes[p + 1].tool != pass.tool)
            out.back().text = writing.end();
    }
    return out;
}

} // namespace thinline::formats::plotter
