// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Load.h"
#include "document/Job.h"
#include "raster/Picture.h"

#include <QRectF>
#include <QString>

#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <vector>

namespace thinline::app {

/// One area on the bench. Its shape is shared with the job; `map` puts it where it lies on the bench (mm).
struct SceneItem {
    std::shared_ptr<const geometry::Shape> shape;
    geometry::Transform map;
    raster::Rgb fill{};
    design::PieceId piece = 0;
    int copy = 0;
    int load = -1; ///< on which mat it lies; -1 in the design
    bool isPinned = false;
    std::optional<design::PlacedPiece> placed;
};

/// A mat or sheet under the work.
struct SceneGhost {
    enum class Kind { Paper, Mat, Sheet };
    Kind kind = Kind::Mat;
    geometry::Box box;
    raster::Rgb tint{};
    QString label;             ///< written below the box
    QString secondLine;        ///< below the label, in lesser weight
    bool labelAtRight = false; ///< beside the box's lower right corner instead, where boxes lie on each other
};

/// Everything the bench shows, as one value that never changes once built; worker threads draw from it. The
/// flattened outlines are kept per zoom octave and made on demand.
class Scene {
  public:
    Scene(std::vector<SceneGhost> ghosts, std::vector<SceneItem> items,
          std::shared_ptr<const raster::Picture> picture, geometry::Box pictureBox);

    const std::vector<SceneGhost>& ghosts() const { return m_ghosts; }
    const std::vector<SceneItem>& items() const { return m_items; }
    const raster::Picture* picture() const { return m_picture.get(); }
    const geometry::Box& pictureBox() const { return m_pictureBox; }
    /// The box of everything, mm.
    const geometry::Box& box() const { return m_box; }

    /// An item's outline on the bench, flattened for a zoom.
    struct Flat {
        geometry::Polygons rings; ///< mm on the bench
        geometry::Box box;
    };
    /// Returns all outlines fine enough for `pxPerMm` (a quarter pixel). Safe from any thread.
    /// Cost: O(nodes) at the first call for an octave, then none.
    std::shared_ptr<const std::vector<Flat>> flat(double pxPerMm) const;

    /// Returns the index of the uppermost item at a point, or -1.
    int itemAt(geometry::Point p, double pxPerMm) const;

    /// A place a measure can hold on to.
    struct Snap {
        enum class Kind { Free, Edge, Centre, Node };
        geometry::Point at; ///< mm on the bench
        Kind kind = Kind::Free;
    };
    /// Returns the node, the centre or the place on an edge nearest to a point within reach, in this order;
    /// else the point itself.
    /// Cost:   O(items), and O(nodes) of those in reach.
    Snap snapAt(geometry::Point p, double reachMm, double pxPerMm) const;

    /// Draws the part of the bench that starts at `cornerPx` (bench mm times pxPerMm) into a canvas-sized
    /// picture. The pixels are 0xffRRGGBB, rows top to bottom, `widthPx` x `heightPx`.
    std::vector<std::uint32_t> render(double pxPerMm, geometry::Point cornerPx, int widthPx, int heightPx,
                                      raster::Rgb desk, raster::Rgb ink, raster::Rgb edge) const;

  private:
    void renderPicture(std::vector<std::uint32_t>& pixels, double pxPerMm, geometry::Point cornerPx,
                       int widthPx, int heightPx) const;

    std::vector<SceneGhost> m_ghosts;
    std::vector<SceneItem> m_items;
    std::shared_ptr<const raster::Picture> m_picture;
    geometry::Box m_pictureBox;
    geometry::Box m_box;
    mutable std::mutex m_guard;
    mutable std::map<int, std::shared_ptr<const std::vector<Flat>>> m_flat;
};

/// The picture alone, at its real size.
std::shared_ptr<const Scene> sceneOfPicture(const document::Job& job,
                                            std::shared_ptr<const raster::Picture> picture);
/// The design on its paper; with `picture` the drawing lies over it instead of the areas.
std::shared_ptr<const Scene> sceneOfDesign(const document::Job& job,
                                           std::shared_ptr<const raster::Picture> picture);
/// The design over the mats and sheets it might go on.
std::shared_ptr<const Scene> sceneOfSize(const document::Job& job, const design::Formats& formats);
/// Every load of the arrangement, side by side.
std::shared_ptr<const Scene> sceneOfSheets(const document::Job& job);

/// Where the n-th load's mat lies on the bench of sceneOfSheets, mm.
geometry::Point loadCorner(const design::Arrangement& arrangement, size_t load);

} // namespace thinline::app
