// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Outlines.h"
#include "design/Load.h"
#include "raster/Canvas.h"

#include <QString>

#include <optional>

namespace thinline::app {

/// One piece on the bench. Its body is shared with the job; `map` puts it where it lies on the bench (mm).
struct SceneItem {
    std::shared_ptr<const design::Body> body;
    geometry::Transform map = {};
    raster::Rgb fill{};
    design::PieceId piece = {};
    int copy = 0;
    int load = -1; ///< on which mat it lies; -1 in the design
    std::optional<design::PlacedPiece> placed = {};
    design::FoldsAs foldsAs = design::FoldsAs::Score; ///< how its folds are shown
    geometry::Perforation perforation = {};
    design::Side up = design::Side::Front;            ///< which side is seen
    std::shared_ptr<const job::PrintLook> print = {}; ///< how that looks printed; the scene fills it in
    std::shared_ptr<const std::vector<geometry::Line>>
        ticks = {}; ///< what a pen marks of folds left to a hand, on the bench; null where no sheet is known

    const geometry::Shape& shape() const { return body->shape; }
    bool isPinned() const { return placed && placed->isPinned; }
};

/// A mat, a sheet, a paper under the work.
struct SceneGhost {
    enum class Kind { Paper, Mat, Sheet, KeptFree };
    Kind kind = Kind::Mat;
    geometry::Box box;
    raster::Rgb tint{};
    QString label = {};        ///< written below the box
    QString secondLine = {};   ///< below the label, in lesser weight
    bool labelAtRight = false; ///< beside the box's lower right corner instead, where boxes lie on each other
    geometry::Polygons rings = {}; ///< what is not a box; empty for one
};

/// A picture on the bench.
struct ScenePicture {
    std::shared_ptr<const raster::Picture> pixels;
    geometry::Transform map = {}; ///< from its pixels to the bench
    geometry::Box box = {};
};

/// Everything the bench shows, as one value that never changes once built; worker threads draw from it.
class Scene {
  public:
    Scene(std::shared_ptr<Outlines> outlines, std::vector<SceneGhost> ghosts, std::vector<SceneItem> items,
          ScenePicture picture = {}, std::vector<geometry::Shape> frames = {});

    const std::vector<SceneGhost>& ghosts() const { return m_ghosts; }
    const std::vector<SceneItem>& items() const { return m_items; }
    const raster::Picture* picture() const { return m_picture.pixels.get(); }
    /// The box of everything, mm.
    const geometry::Box& box() const { return m_box; }
    /// The box of the pieces alone.
    geometry::Box workBox() const;
    /// An item's box on the bench; of one that is turned it may be too large.
    const geometry::Box& boxOf(size_t item) const { return m_boxes[item]; }

    /// Returns an item's outline on the bench, flattened for a zoom, mm. Safe from any thread.
    geometry::Polygons outlineOf(size_t item, double pxPerMm) const;
    /// Returns the index of the uppermost item at a point, or -1.
    int itemAt(geometry::Point p, double pxPerMm) const;

    /// A place a measure can hold on to.
    struct Snap {
        enum class Kind { Free, Edge, Middle, Centre, Node };
        geometry::Point at; ///< mm on the bench
        Kind kind = Kind::Free;
    };
    /// Returns the node or end of a line, the centre, the middle of a straight edge or line, or the place on an edge or
    /// line nearest to a point within reach, in this order; else the point itself.
    /// Cost:   O(items), and O(nodes) of those in reach.
    Snap snapAt(geometry::Point p, double reachMm) const;

    /// A line of an item.
    struct LinePlace {
        size_t item = 0, line = 0; ///< in the item's body
    };
    /// Returns the line nearest to a point within reach, of the uppermost item that has one there.
    std::optional<LinePlace> lineAt(geometry::Point p, double reachMm) const;

    /// Draws the part of the bench that starts at `cornerPx` (bench mm times pxPerMm) into a canvas-sized
    /// picture. The pixels are 0xffRRGGBB, rows top to bottom, `widthPx` x `heightPx`.
    std::vector<std::uint32_t> render(double pxPerMm, geometry::Point cornerPx, int widthPx, int heightPx,
                                      raster::Rgb desk, raster::Rgb ink, raster::Rgb edge) const;

  private:
    static void renderPrint(raster::Canvas& canvas, const geometry::Polygons& rings,
                            const job::PrintLook& print, const geometry::Transform& toPx);
    void renderPicture(std::vector<std::uint32_t>& pixels, double pxPerMm, geometry::Point cornerPx,
                       int widthPx, int heightPx) const;

    std::shared_ptr<Outlines> m_outlines;
    std::vector<SceneGhost> m_ghosts;
    std::vector<SceneItem> m_items;
    std::vector<geometry::Box> m_boxes;
    ScenePicture m_picture;
    std::vector<geometry::Shape> m_frames; ///< cut round what is lifted off; only drawn
    geometry::Box m_box;
};

} // namespace thinline::app
