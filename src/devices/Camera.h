// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"
#include "raster/Picture.h"

#include <array>

/// A camera that ships with the program: what it would see of a printed page.
namespace thinline::devices {

/// How a page is looked at. The default sees it straight and sharp.
struct CameraLook {
    int widthPx = 900, heightPx = 1150;
    double pxPerMm = 3.8;      ///< in the middle of the page
    double tiltDeg = 0;        ///< off straight above, at most 30
    double tiltTowardsDeg = 0; ///< which side of the page is nearer
    double turnDeg = 0;        ///< of the page in the picture, clockwise
    double bend =
        0; ///< of the lens: a corner of the picture is seen that share further out or in; -0.1 to 0.1
    double blurPx = 0;             ///< standard deviation
    double noiseLevels = 0;        ///< standard deviation, of 255
    double shadow = 0;             ///< share of the light that is gone on one side of an edge
    double shadowTurnDeg = 0;      ///< how the edge runs
    geometry::Point shadowAtMm{};  ///< a place on the edge, on the page
    double shadowSoftMm = 1;       ///< how wide it is
    raster::Rgb table{96, 92, 86}; ///< beside the page
    unsigned seed = 1;             ///< of the noise
};

class Camera {
  public:
    /// A camera over a page of this size, its middle in the middle of the picture.
    Camera(const CameraLook& look, double pageWidthMm, double pageHeightMm);

    /// Returns where a place of the page is seen, px, and which place is seen there.
    geometry::Point toPx(geometry::Point mm) const;
    geometry::Point toMm(geometry::Point px) const;

    /// Returns what the camera sees of a page of so many px to a mm; `toPage` says which place of it lies where.
    /// Shape:  the same look and page give the same picture.
    /// Cost:   nine looks at the page for every pixel.
    raster::Picture photoOf(const raster::Picture& page, double pagePxPerMm,
                            const geometry::Transform& toPage = {}) const;

  private:
    CameraLook m_look;
    geometry::Point m_pageMiddle, m_middle;
    double m_reach = 1;                       ///< from the picture's middle to its corner, px
    std::array<double, 9> m_toPx{}, m_toMm{}; ///< about the middles, without the lens
};

} // namespace thinline::devices
