// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Cutting once what neighbours share.
//
// Two cuts along the same line tear card: the second one has nothing to hold on to. Pieces of an inlay meet edge to
// edge, and their outlines coincide over whole stretches, but rarely node by node: a long side of one lies along
// three short ones of another. So the outlines are made into the net of edges the set operations begin with
// (geometry/EdgeNet.h), in which what coincides is one edge, cut where either ends; after that, "cut already" is a
// mark on an edge. Each outline walks its edges and keeps the unmarked ones: all of them, and it is given back as it
// came; some, and runs of them become open lines, begun behind an edge that was cut.
#include "geometry/CutOnce.h"

#include "geometry/Cubic.h"
#include "geometry/EdgeNet.h"
#include "geometry/Strands.h"

#include <algorithm>

namespace thinline::geometry {
namespace {

/// A stretch of a given curve, in the direction of a walk.
struct Run {
    int source = 0;
    double t0 = 0, t1 = 0;
};

class Marking {
  public:
    explicit Marking(const EdgeNet& net) : m_net(net), m_isCut(net.edges.size(), false) {}

    void take(const Contour& contour, const std::vector<EdgeUse>& walk, CutLines& into) {
        if (walk.empty())
            return;
        const auto isCut = [&](const EdgeUse& use) { return isMarked(use); };
        if (std::none_of(walk.begin(), walk.end(), isCut)) {
            into.outlines.push_back(contour);
        } else {
            std::vector<EdgeUse> turned = walk;
            std::rotate(turned.begin(), std::find_if(turned.begin(), turned.end(), isCut), turned.end());
            addLines(turned, into);
        }
        for (const EdgeUse& use : walk)
            m_isCut[static_cast<size_t>(use.edge)] = true;
    }

  private:
    bool isMarked(const EdgeUse& use) const { return m_isCut[static_cast<size_t>(use.edge)]; }

    void addLines(const std::vector<EdgeUse>& walk, CutLines& into) const {
        std::vector<Run> runs;
        const auto close = [&] {
            if (!runs.empty())
                into.lines.push_back(lineOf(runs));
            runs.clear();
        };
        for (const EdgeUse& use : walk) {
            if (isMarked(use)) {
                close();
                continue;
            }
            const NetEdge& edge = m_net.edges[static_cast<size_t>(use.edge)];
            const Run run =
                use.isForward ? Run{edge.source, edge.t0, edge.t1} : Run{edge.source, edge.t1, edge.t0};
            if (!runs.empty() && runs.back().source == run.source && runs.back().t1 == run.t0)
                runs.back().t1 = run.t1;
            else
                runs.push_back(run);
        }
        close();
    }

    Line lineOf(const std::vector<Run>& runs) const {
        Line out;
        for (const Run& run : runs) {
            const NetSource& source = m_net.sources[static_cast<size_t>(run.source)];
            const Cubic curve = stretch(source.curve, run.t0, run.t1);
            if (out.segments.empty())
                out.start = curve.a;
            out.segments.push_back(segmentOf(curve, source.isLine));
        }
        return out;
    }

    const EdgeNet& m_net;
    std::vector<bool> m_isCut;
};

} // namespace

double CutLines::length() const {
    double sum = 0;
    for (const std::vector<Contour>* kind : {&outlines, &lines})
        for (const Contour& one : *kind)
            sum += contourLength(one);
    return sum;
}

base::Result<std::vector<CutLines>> cutOnce(const std::vector<Shape>& shapes,
                                            const base::Progress& progress) {
    std::vector<const Contour*> contours;
    std::vector<size_t> ofShape;
    Box box;
    for (size_t i = 0; i < shapes.size(); ++i) {
        if (!isFinite(shapes[i]))
            return base::Error{base::Code::InvalidArgument, "An outline has a coordinate that is no number."};
        box.include(bounds(shapes[i]));
        contours.push_back(&shapes[i].outline);
        for (const Contour& opening : shapes[i].openings)
            contours.push_back(&opening);
        ofShape.resize(contours.size(), i);
    }
    std::vector<CutLines> out(shapes.size());
    if (box.isEmpty())
        return out;
    const auto grid = Grid::around(box);
    if (!grid)
        return grid.error();
    auto net = makeNet(contours, *grid, progress);
    if (!net)
        return net.error();
    EdgeNet edges = net.take();
    if (const auto laid = layStrands(edges, *grid, {}, progress); !laid)
        return laid.error();
    Marking marking(edges);
    for (size_t i = 0; i < contours.size(); ++i)
        marking.take(*contours[i], edges.walks[i], out[ofShape[i]]);
    return out;
}

} // namespace thinline::geometry
