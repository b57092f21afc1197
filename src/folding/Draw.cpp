// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Drawing folded work: triangles into a depth buffer, twice as fine as the picture.
//
// Every leaf is flat, so depth and place on the card change evenly over the picture and a pixel costs one sum. Leaves are drawn at the
// middle of their card, where neighbours share their edge and no ground shows between them; what is glued lies a card's
// thickness away, which the depth tells apart. Panes come last and are mixed with what is there. Edges are lines a little
// nearer than the faces they bound.
#include "folding/Draw.h"

#include <algorithm>
#include <array>

namespace thinline::folding {
namespace {

using geometry::Point;

constexpr int kFiner = 2;
/// By how much edges are nearer than their faces. Panes hide nothing, themselves neither: theirs need none.
constexpr float kNearerMm = 0.25f;

/// A colour in one word, so that four are averaged by a few sums.
using Packed = std::uint32_t;
Packed packed(raster::Rgb c) {
    return static_cast<Packed>(c[0] << 16 | c[1] << 8 | c[2]);
}
raster::Rgb unpacked(Packed c) {
    return {static_cast<std::uint8_t>(c >> 16), static_cast<std::uint8_t>(c >> 8),
            static_cast<std::uint8_t>(c)};
}

struct Canvas {
    int width = 0, height = 0;
    std::vector<Packed> colour;
    std::vector<float> depth;

    /// All ground again. What it keeps from picture to picture need not be asked of the system thirty times a second.
    void clear(int w, int h, raster::Rgb ground) {
        width = w;
        height = h;
        colour.assign(static_cast<size_t>(w) * static_cast<size_t>(h), packed(ground));
        depth.assign(colour.size(), -1e30f);
    }
    size_t at(int x, int y) const {
        return static_cast<size_t>(y) * static_cast<size_t>(width) + static_cast<size_t>(x);
    }
};

raster::Rgb scaled(raster::Rgb colour, double by) {
    for (auto& channel : colour)
        channel = static_cast<std::uint8_t>(std::clamp(std::lround(channel * by), 0L, 255L));
    return colour;
}
raster::Rgb mixed(raster::Rgb a, raster::Rgb b, double shareOfB) {
    raster::Rgb out;
    for (size_t i = 0; i < 3; ++i)
        out[i] = static_cast<std::uint8_t>(std::lround(a[i] + (b[i] - a[i]) * shareOfB));
    return out;
}

raster::Rgb sampled(const Print& print, Point p) {
    const raster::Picture& picture = *print.picture;
    const int x = std::clamp(static_cast<int>((p.x - print.box.least.x) / print.box.width() * picture.width),
                             0, picture.width - 1);
    const int y =
        std::clamp(static_cast<int>((p.y - print.box.least.y) / print.box.height() * picture.height), 0,
                   picture.height - 1);
    const std::uint8_t* at = picture.row(y) + static_cast<size_t>(x) * 3;
    return {at[0], at[1], at[2]};
}

/// A flat card on the picture: depth and place on the card change evenly over it.
struct Plane {
    double z = 0, zx = 0, zy = 0;
    Point own, ownX, ownY;
    bool isSeen = false; ///< not from its edge

    Plane(const Stand& stand, const Seen& seen) {
        const Vec o = seen.at(stand.at({0, 0})), u = seen.at(stand.at({1, 0})) - o,
                  v = seen.at(stand.at({0, 1})) - o;
        const double det = u.x * v.y - v.x * u.y;
        isSeen = std::abs(det) > 1e-9;
        if (!isSeen)
            return;
        ownX = Point{v.y, -u.y} * (1 / det);
        ownY = Point{-v.x, u.x} * (1 / det);
        own = ownX * -o.x + ownY * -o.y;
        zx = u.z * ownX.x + v.z * ownX.y;
        zy = u.z * ownY.x + v.z * ownY.y;
        z = o.z - zx * o.x - zy * o.y;
    }
    Point ownAt(double x, double y) const { return own + ownX * x + ownY * y; }
};

/// Visits the runs of pixels a triangle covers: a row, its first pixel and the one behind its last.
template <class Run>
void eachRun(const Canvas& canvas, const std::array<Vec, 3>& corners, Run run) {
    const auto [least, most] = std::minmax({corners[0].y, corners[1].y, corners[2].y});
    const int top = std::max(0, static_cast<int>(std::ceil(least - 0.5)));
    const int bottom = std::min(canvas.height - 1, static_cast<int>(std::floor(most - 0.5)));
    for (int y = top; y <= bottom; ++y) {
        const double py = y + 0.5;
        double left = 1e30, right = -1e30;
        for (size_t i = 0; i < 3; ++i) {
            const Vec &p = corners[i], &q = corners[(i + 1) % 3];
            if ((p.y <= py) == (q.y <= py))
                continue;
            const double x = p.x + (q.x - p.x) * (py - p.y) / (q.y - p.y);
            left = std::min(left, x);
            right = std::max(right, x);
        }
        const int from = std::max(0, static_cast<int>(std::ceil(left - 0.5)));
        const int to = std::min(canvas.width, static_cast<int>(std::ceil(right - 0.5)));
        if (from < to)
            run(y, from, to);
    }
}

Canvas& canvasOfThisThread() {
    thread_local Canvas canvas;
    return canvas;
}

class Drawing {
  public:
    Drawing(const Model& model, const Posed& pose, const View& view)
        : m_model(model), m_pose(pose), m_view(view), m_seen(seenBy(model, pose, view)),
          m_canvas(canvasOfThisThread()) {
        m_canvas.clear(view.widthPx * kFiner, view.heightPx * kFiner, view.ground);
        m_seen.pxPerMm *= kFiner;
        m_seen.left *= kFiner;
        m_seen.top *= kFiner;
    }

    raster::Picture run() {
        for (const bool isLast : {false, true}) { // panes last
            for (size_t i = 0; i < m_model.sheets.size(); ++i)
                if (m_model.sheets[i].card.isTranslucent == isLast)
                    for (size_t leaf = 0; leaf < m_model.sheets[i].leaves.size(); ++leaf)
                        face(i, leaf);
        }
        for (size_t i = 0; i < m_model.sheets.size(); ++i)
            for (size_t leaf = 0; leaf < m_model.sheets[i].leaves.size(); ++leaf)
                edges(i, leaf);
        return coarse();
    }

  private:
    bool showsFront(const Stand& stand) const { return m_seen.turned.turned(stand.out).z > 0; }

    void face(size_t sheet, size_t at) {
        const Sheet& one = m_model.sheets[sheet];
        const Leaf& leaf = one.leaves[at];
        const Stand& stand = m_pose.leaves[sheet][at];
        const bool isFront = showsFront(stand);
        const Vec faces = m_seen.turned.turned(stand.out) * (isFront ? 1 : -1);
        constexpr Vec kLight{-0.41, -0.62, 0.67};
        const bool shines = one.card.isTranslucent && m_view.isLit;
        const double shade = shines ? 1 : 0.66 + 0.36 * std::max(0.0, dot(faces, kLight));
        const std::optional<Print>& print = isFront ? one.card.front : one.card.back;
        const raster::Rgb plain = shines ? mixed(one.card.colour, {255, 244, 206}, 0.5) : one.card.colour;
        const Plane plane(stand, m_seen);
        if (!plane.isSeen)
            return;
        const raster::Rgb even = scaled(plain, shade);
        constexpr double kPane = 0.55;
        const double share = !one.card.isTranslucent ? 1 : shines ? 0.85 : kPane;
        const auto paint = [&](int y, int from, int to) {
            const auto zx = static_cast<float>(plane.zx);
            auto z = static_cast<float>(plane.z + plane.zx * (from + 0.5) + plane.zy * (y + 0.5));
            size_t pixel = m_canvas.at(from, y);
            if (!print && share == 1) { // most of all pixels
                float* depth = m_canvas.depth.data() + pixel;
                Packed* colour = m_canvas.colour.data() + pixel;
                const Packed all = packed(even);
                for (int i = 0; i < to - from; ++i, z += zx)
                    if (z > depth[i]) {
                        depth[i] = z;
                        colour[i] = all;
                    }
                return;
            }
            for (int x = from; x < to; ++x, ++pixel, z += zx) {
                if (z <= m_canvas.depth[pixel])
                    continue;
                const raster::Rgb colour =
                    print ? scaled(sampled(*print, plane.ownAt(x + 0.5, y + 0.5)), shade) : even;
                if (share < 1) {
                    m_canvas.colour[pixel] = packed(mixed(unpacked(m_canvas.colour[pixel]), colour, share));
                } else {
                    m_canvas.colour[pixel] = packed(colour);
                    m_canvas.depth[pixel] = z;
                }
            }
        };
        std::vector<Vec> corners;
        for (const geometry::Polygon& ring : leaf.rings)
            for (const Point p : ring)
                corners.push_back(m_seen.at(stand.at(p)));
        for (const auto& triangle : leaf.triangles.triangles)
            eachRun(m_canvas,
                    {corners[static_cast<size_t>(triangle.corner[0])],
                     corners[static_cast<size_t>(triangle.corner[1])],
                     corners[static_cast<size_t>(triangle.corner[2])]},
                    paint);
    }

    void edges(size_t sheet, size_t at) {
        const Sheet& one = m_model.sheets[sheet];
        const Stand& stand = m_pose.leaves[sheet][at];
        for (const auto& [from, to] : one.leaves[at].edges)
            line(m_seen.at(stand.at(from)), m_seen.at(stand.at(to)), one.card.isTranslucent ? 0 : kNearerMm);
    }
    void line(Vec from, Vec to, float nearerMm) {
        const double steps = std::max({std::abs(to.x - from.x), std::abs(to.y - from.y), 1.0});
        const int count = static_cast<int>(std::min(steps, 20000.0));
        for (int i = 0; i <= count; ++i) {
            const Vec p = from + (to - from) * (static_cast<double>(i) / count);
            const int x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y));
            if (x < 0 || y < 0 || x >= m_canvas.width || y >= m_canvas.height)
                continue;
            const size_t pixel = m_canvas.at(x, y);
            if (static_cast<float>(p.z) + nearerMm >= m_canvas.depth[pixel])
                m_canvas.colour[pixel] = packed(mixed(unpacked(m_canvas.colour[pixel]), m_view.ink, 0.6));
        }
    }

    raster::Picture coarse() const {
        static_assert(kFiner == 2);
        raster::Picture out{m_view.widthPx, m_view.heightPx, {}};
        out.rgb.resize(static_cast<size_t>(out.pixels()) * 3);
        std::uint8_t* to = out.rgb.data();
        constexpr Packed kRedBlue = 0xFF00FF, kGreen = 0x00FF00;
        for (int y = 0; y < out.height; ++y) {
            const Packed* upper = m_canvas.colour.data() + m_canvas.at(0, 2 * y);
            const Packed* lower = upper + m_canvas.width;
            for (int x = 0; x < out.width; ++x, upper += 2, lower += 2) {
                const Packed redBlue = (upper[0] & kRedBlue) + (upper[1] & kRedBlue) + (lower[0] & kRedBlue) +
                                       (lower[1] & kRedBlue) + 0x20002;
                const Packed green = (upper[0] & kGreen) + (upper[1] & kGreen) + (lower[0] & kGreen) +
                                     (lower[1] & kGreen) + 0x200;
                *to++ = static_cast<std::uint8_t>(redBlue >> 18);
                *to++ = static_cast<std::uint8_t>(green >> 10);
                *to++ = static_cast<std::uint8_t>(redBlue >> 2);
            }
        }
        return out;
    }

    const Model& m_model;
    const Posed& m_pose;
    const View& m_view;
    Seen m_seen;
    Canvas& m_canvas;
};

} // namespace

Seen seenBy(const Model& model, const Posed& pose, const View& view) {
    Seen out;
    const double ct = std::cos(view.turnRad), st = std::sin(view.turnRad), cp = std::cos(view.tiltRad),
                 sp = std::sin(view.tiltRad);
    // Columns: where the work's own directions point. First about the upright, then about the level.
    const auto turned = [&](Vec v) {
        const Vec about{v.x * ct + v.z * st, v.y, -v.x * st + v.z * ct};
        return Vec{about.x, about.y * cp + about.z * sp, about.z * cp - about.y * sp};
    };
    out.turned = {turned({1, 0, 0}), turned({0, 1, 0}), turned({0, 0, 1}), {}};
    geometry::Box box;
    for (size_t i = 0; i < model.sheets.size(); ++i)
        for (size_t leaf = 0; leaf < model.sheets[i].leaves.size(); ++leaf)
            for (const geometry::Polygon& ring : model.sheets[i].leaves[leaf].rings)
                for (const Point p : ring) {
                    const Vec own = out.turned.turned(pose.leaves[i][leaf].at(p));
                    box.include(Point{own.x, own.y});
                }
    if (box.isEmpty())
        return out;
    constexpr double kRoom = 0.92;
    out.pxPerMm =
        view.zoom * kRoom *
        std::min(view.widthPx / std::max(1e-6, box.width()), view.heightPx / std::max(1e-6, box.height()));
    out.left = view.widthPx / 2.0 - box.centre().x * out.pxPerMm;
    out.top = view.heightPx / 2.0 - box.centre().y * out.pxPerMm;
    return out;
}

raster::Picture drawn(const Model& model, const Posed& pose, const View& view) {
    return Drawing(model, pose, view).run();
}

} // namespace thinline::folding
