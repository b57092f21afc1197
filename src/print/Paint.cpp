// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// One picture of everything printed on a side of a piece.
//
// A piece is painted in squares, so that a page of 34 megapixels never needs more than itself and a square. Each square has a
// canvas of its own that reaches beyond it by twice the bleed, for what is mirrored into it may lie there.
//
//   1. every face paints what it covers of piece and bleed: a colour all, a picture as far as it reaches, a text its signs.
//      A second canvas, black and white, remembers where anything was painted;
//   2. where the piece is printed up to its edge and the print ends there, the bleed is made of it (raster/Extend.h);
//   3. what is painted goes onto the page, as far as piece and bleed cover a pixel.
//
// Pictures are sampled at the middles of the page's pixels. One that is finer than the page is first averaged over whole pixels, or
// fine patterns would beat with those of the page.
#include "print/Paint.h"

#include "geometry/Parting.h"
#include "geometry/PolygonEngine.h"
#include "print/Codes.h"
#include "raster/Extend.h"

#include <algorithm>
#include <cmath>

namespace thinline::print {
namespace {

using base::Code;
using base::Error;
using design::Face;
using geometry::Box;
using geometry::Point;
using geometry::Polygons;
using geometry::Transform;
using raster::Canvas;
using raster::Picture;

constexpr double kFlatMm = 0.01;
constexpr int kSquarePx = 768;

/// Rows of pixels of so many channels, averaged over squares of so many pixels.
std::vector<std::uint8_t> averaged(const std::vector<std::uint8_t>& from, int width, int height, int channels,
                                   int by) {
    const int across = width / by;
    std::vector<std::uint8_t> out;
    out.reserve(static_cast<std::size_t>(across) * static_cast<std::size_t>(height / by * channels));
    std::vector<unsigned> sums(static_cast<std::size_t>(across * channels));
    for (int y = 0; y < height / by; ++y) {
        std::fill(sums.begin(), sums.end(), 0u);
        for (int k = 0; k < by; ++k) {
            const std::uint8_t* row = from.data() + static_cast<std::size_t>(y * by + k) *
                                                        static_cast<std::size_t>(width * channels);
            for (int x = 0; x < across * by; ++x)
                for (int c = 0; c < channels; ++c)
                    sums[static_cast<std::size_t>(x / by * channels + c)] += row[x * channels + c];
        }
        const auto of = static_cast<unsigned>(by * by);
        for (const unsigned sum : sums)
            out.push_back(static_cast<std::uint8_t>((sum + of / 2) / of));
    }
    return out;
}
Picture reduced(const Picture& picture, int by) {
    return {picture.width / by, picture.height / by,
            averaged(picture.rgb, picture.width, picture.height, 3, by)};
}
raster::Grey reduced(const raster::Grey& grey, int by) {
    return {grey.width / by, grey.height / by, averaged(grey.values, grey.width, grey.height, 1, by)};
}

/// A place between the pixels of a picture: the one above on the left of it, and how far it is from there, of 256.
struct Between {
    int x, y, u, v;
    Between(int width, int height, double atX, double atY) {
        atX = std::clamp(atX - 0.5, 0.0, width - 1.0);
        atY = std::clamp(atY - 0.5, 0.0, height - 1.0);
        x = std::min(static_cast<int>(atX), std::max(0, width - 2));
        y = std::min(static_cast<int>(atY), std::max(0, height - 2));
        u = static_cast<int>((atX - x) * 256 + 0.5);
        v = static_cast<int>((atY - y) * 256 + 0.5);
    }
    int operator()(int leftAbove, int rightAbove, int leftBelow, int rightBelow) const {
        const int value = (leftAbove * (256 - u) + rightAbove * u) * (256 - v) +
                          (leftBelow * (256 - u) + rightBelow * u) * v;
        return (value + 32768) >> 16;
    }
};

/// The colour at a place of a picture, between pixels interpolated.
std::uint32_t sampled(const Picture& picture, double x, double y) {
    const Between at(picture.width, picture.height, x, y);
    const int right = picture.width > 1 ? 3 : 0;
    const std::uint8_t* above = picture.row(at.y) + at.x * 3;
    const std::uint8_t* below = picture.row(std::min(at.y + 1, picture.height - 1)) + at.x * 3;
    std::uint32_t out = 0xff;
    for (int c = 0; c < 3; ++c)
        out =
            out << 8 | static_cast<std::uint32_t>(at(above[c], above[c + right], below[c], below[c + right]));
    return out;
}
int sampled(const raster::Grey& grey, double x, double y) {
    const Between at(grey.width, grey.height, x, y);
    const int right = std::min(at.x + 1, grey.width - 1), below = std::min(at.y + 1, grey.height - 1);
    return at(grey.at(at.x, at.y), grey.at(right, at.y), grey.at(at.x, below), grey.at(right, below));
}

/// A colour that was laid on white, laid on another one instead.
std::uint32_t laidOver(std::uint32_t onWhite, std::uint32_t under, int cover) {
    std::uint32_t out = 0xff000000u;
    for (int shift = 0; shift <= 16; shift += 8) {
        const int dark = 255 - static_cast<int>((under >> shift) & 0xff);
        const int value = static_cast<int>((onWhite >> shift) & 0xff) - (dark * (255 - cover) + 127) / 255;
        out |= static_cast<std::uint32_t>(std::max(0, value)) << shift;
    }
    return out;
}

std::uint32_t packed(raster::Rgb c) {
    return 0xff000000u | static_cast<std::uint32_t>(c[0] << 16 | c[1] << 8 | c[2]);
}

Polygons mappedRings(Polygons rings, const Transform& map) {
    const bool isMirrored = map.a * map.d - map.b * map.c < 0;
    for (geometry::Polygon& ring : rings) {
        for (Point& p : ring)
            p = map(p);
        if (isMirrored)
            std::reverse(ring.begin(), ring.end());
    }
    return rings;
}

/// A face made ready: everything in pixels of the page.
struct Ready {
    Face::Kind kind;
    Transform place; ///< from the unit square
    std::uint32_t colour = 0, second = 0;
    raster::Rgb rgb{};
    std::shared_ptr<const Picture> picture = {};
    std::shared_ptr<const raster::Grey> cover = {};
    Polygons ground = {}, rings = {};
    std::optional<Polygons> field = {}; ///< painted only within
};

class Painting {
  public:
    Painting(Canvas& page, const design::Body& body, const Paint& how, const Gallery& gallery,
             const base::Progress& progress, raster::Grey* mask)
        : m_mask(mask), m_page(page), m_body(body), m_how(how), m_gallery(gallery), m_progress(progress),
          m_toPx(how.toPage.then(Transform::scale(how.pxPerMm, how.pxPerMm))) {}

    base::Result<Painted> painted() {
        for (const Face& face : m_body.faces)
            if (face.side == m_how.side)
                if (auto ok = makeReady(face); !ok)
                    return ok.error();
        if (m_faces.empty())
            return Painted{};
        const Polygons piece = geometry::flatten(m_body.shape, kFlatMm);
        m_piece = mappedRings(piece, m_toPx);
        m_grown = m_piece;
        if (m_how.bleedMm > 0) {
            const auto grown = geometry::grown(piece, m_how.bleedMm, kFlatMm);
            if (!grown)
                return grown.error();
            m_grown = mappedRings(*grown, m_toPx);
        }
        const Box box = geometry::bounds(m_grown);
        m_out.box = {box.least * (1 / m_how.pxPerMm), box.most * (1 / m_how.pxPerMm)};
        const auto pixel = [](double v, int most) {
            return static_cast<int>(std::clamp(v, 0.0, static_cast<double>(most)));
        };
        const int left = pixel(std::floor(box.least.x), m_page.width()),
                  top = pixel(std::floor(box.least.y), m_page.height()),
                  right = pixel(std::ceil(box.most.x), m_page.width()),
                  bottom = pixel(std::ceil(box.most.y), m_page.height());
        for (int y = top; y < bottom; y += kSquarePx)
            for (int x = left; x < right; x += kSquarePx) {
                if (m_progress.isCancelled())
                    return base::cancelled();
                paintSquare(x, y, std::min(kSquarePx, right - x), std::min(kSquarePx, bottom - y));
            }
        return m_out;
    }

  private:
    base::Status makeReady(const Face& face) {
        Ready out{face.kind, face.place.then(m_toPx), packed(face.colour), packed(face.second), face.colour};
        if (face.panel) {
            const auto field = fieldOf(m_body, face, m_progress);
            if (!field)
                return field.error();
            out.field = mappedRings(geometry::flatten(*field, kFlatMm), m_toPx);
        }
        switch (face.kind) {
        case Face::Kind::Colour:
        case Face::Kind::Gradient:
            break;
        case Face::Kind::Picture:
        case Face::Kind::Text: {
            const auto shown = m_gallery.find(face.shows);
            if (shown == m_gallery.end())
                return Error{Code::NotFound,
                             "A " + std::string(design::kFaceWords[static_cast<size_t>(face.kind)]) +
                                 " that is printed on a piece is not in the job any more."};
            if (face.kind == Face::Kind::Picture)
                takePicture(shown->second, out);
            else
                out.rings = ringsOf(shown->second.outlines, out.place);
            break;
        }
        case Face::Kind::SquareCode:
        case Face::Kind::LineCode: {
            auto code = codeOf(face.kind, face.shows);
            if (!code)
                return code.error();
            out.ground = mappedRings({{{0, 0}, {1, 0}, {1, 1}, {0, 1}}}, out.place);
            out.rings = mappedRings(std::move(code.take().dark), out.place);
            break;
        }
        case Face::Kind::Outline:
            out.rings = ringsOf(face.drawn, out.place);
            break;
        }
        m_faces.push_back(std::move(out));
        return base::Done{};
    }

    static Polygons ringsOf(const std::vector<geometry::Contour>& outlines, const Transform& place) {
        constexpr double kFlatPx = 0.02;
        Polygons out;
        for (const geometry::Contour& outline : outlines)
            out.push_back(geometry::flatten(geometry::transformed(outline, place), kFlatPx));
        if (place.a * place.d - place.b * place.c < 0)
            for (geometry::Polygon& ring : out)
                std::reverse(ring.begin(), ring.end());
        return out;
    }

    /// A picture, averaged where it is finer than the page.
    static void takePicture(const Shown& shown, Ready& into) {
        const Picture& picture = *shown.picture;
        const double across = picture.width / std::hypot(into.place.a, into.place.b),
                     down = picture.height / std::hypot(into.place.c, into.place.d);
        const int by = static_cast<int>(std::min({across, down, picture.width / 1.0, picture.height / 1.0}));
        into.picture = by < 2 ? shown.picture : std::make_shared<const Picture>(reduced(picture, by));
        if (shown.cover)
            into.cover =
                by < 2 ? shown.cover : std::make_shared<const raster::Grey>(reduced(*shown.cover, by));
    }

    /// A part of the page with what lies around it.
    struct Square {
        Canvas colours, marks;
        Point corner;
        Transform fromPage;
        raster::Grey within{}, covered{},
            painted{}; ///< the piece; with its bleed; where anything was painted
    };

    raster::Grey maskOf(const Polygons& rings, const Square& square) const {
        Canvas canvas(square.colours.width(), square.colours.height(), {0, 0, 0});
        canvas.fill(mappedRings(rings, square.fromPage), {255, 255, 255});
        return greyOf(canvas);
    }
    static raster::Grey greyOf(const Canvas& canvas) {
        raster::Grey out{canvas.width(), canvas.height(), {}};
        out.values.reserve(canvas.pixels().size());
        for (const std::uint32_t pixel : canvas.pixels())
            out.values.push_back(static_cast<std::uint8_t>(pixel & 0xff));
        return out;
    }

    /// Whether a square lies so far within the piece that nothing of its edge matters to it.
    bool isDeepWithin(int left, int top, int width, int height, int more) const {
        const Box box = Box{{static_cast<double>(left), static_cast<double>(top)},
                            {static_cast<double>(left + width), static_cast<double>(top + height)}}
                            .grownBy(more);
        for (const geometry::Polygon& ring : m_piece)
            for (std::size_t i = 0; i < ring.size(); ++i) {
                Box edge;
                edge.include(ring[i]);
                edge.include(ring[(i + 1) % ring.size()]);
                if (edge.meets(box))
                    return false;
            }
        return geometry::contains(m_piece, box.centre());
    }

    void paintSquare(int left, int top, int width, int height) {
        const int reach = static_cast<int>(std::ceil(2 * m_how.bleedMm * m_how.pxPerMm)) + 2;
        const bool isDeep = isDeepWithin(left, top, width, height, reach);
        const int more = isDeep ? 0 : reach;
        const Point corner{static_cast<double>(left - more), static_cast<double>(top - more)};
        Square square{Canvas(width + 2 * more, height + 2 * more, {255, 255, 255}),
                      Canvas(width + 2 * more, height + 2 * more, {0, 0, 0}), corner,
                      Transform::move(corner * -1)};
        if (isDeep)
            square.covered = {width, height, std::vector<std::uint8_t>(square.colours.pixels().size(), 255)};
        else
            square.covered = maskOf(m_grown, square);
        const auto isAny = [](const raster::Grey& grey) {
            return std::any_of(grey.values.begin(), grey.values.end(), [](std::uint8_t v) { return v > 0; });
        };
        if (!isAny(square.covered))
            return;
        square.within = m_how.bleedMm > 0 && !isDeep ? maskOf(m_piece, square) : square.covered;
        for (const Ready& face : m_faces)
            paintFace(face, square);
        square.painted = greyOf(square.marks);
        if (m_how.bleedMm > 0 && !isDeep)
            m_out.extended +=
                raster::extendBeyond(square.colours, square.painted, square.within, square.covered);
        put(square, left, top, width, height, more);
    }

    void paintFace(const Ready& face, Square& square) const {
        const auto fill = [&](const Polygons& rings, raster::Rgb colour) {
            const Polygons here = mappedRings(rings, square.fromPage);
            square.colours.fill(here, colour);
            square.marks.fill(here, {255, 255, 255});
        };
        switch (face.kind) {
        case Face::Kind::Colour:
            fill(face.field ? *face.field : m_grown, face.rgb);
            break;
        case Face::Kind::Gradient:
        case Face::Kind::Picture:
            sample(face, square);
            break;
        default:
            if (!face.ground.empty())
                fill(face.ground, {255, 255, 255});
            fill(face.rings, face.rgb);
        }
    }

    void sample(const Ready& face, Square& square) const {
        const double flat = face.place.a * face.place.d - face.place.b * face.place.c;
        if (flat == 0)
            return;
        const Transform toUnit = geometry::inverse(face.place.then(square.fromPage));
        const raster::Grey field = face.field ? maskOf(*face.field, square) : raster::Grey{};
        const int width = square.colours.width(), height = square.colours.height();
        constexpr double kEdge = 1e-9;
        const Point along{toUnit.a, toUnit.b};
        for (int y = 0; y < height; ++y) {
            const Point begin = toUnit({0.5, y + 0.5});
            for (int x = 0; x < width; ++x) {
                const auto i = static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                               static_cast<std::size_t>(x);
                if (square.covered.values[i] == 0 || (face.field && field.values[i] < 128))
                    continue;
                const Point at = begin + along * x;
                if (face.kind == Face::Kind::Gradient) {
                    square.colours.data()[i] = between(face.colour, face.second, at.x);
                } else {
                    if (at.x < -kEdge || at.x > 1 + kEdge || at.y < -kEdge || at.y > 1 + kEdge)
                        continue;
                    const double px = at.x * face.picture->width, py = at.y * face.picture->height;
                    const int cover = face.cover ? sampled(*face.cover, px, py) : 255;
                    if (cover == 0)
                        continue;
                    std::uint32_t& pixel = square.colours.data()[i];
                    const std::uint32_t colour = sampled(*face.picture, px, py);
                    pixel = cover == 255 ? colour : laidOver(colour, pixel, cover);
                }
                square.marks.data()[i] = 0xffffffffu;
            }
        }
    }
    static std::uint32_t between(std::uint32_t a, std::uint32_t b, double share) {
        const auto part = static_cast<std::uint32_t>(std::clamp(share, 0.0, 1.0) * 256 + 0.5);
        std::uint32_t out = 0xff000000u;
        for (int shift = 0; shift <= 16; shift += 8)
            out |= ((((a >> shift) & 0xff) * (256 - part) + ((b >> shift) & 0xff) * part + 128) >> 8)
                   << shift;
        return out;
    }

    void put(const Square& square, int left, int top, int width, int height, int more) {
        const int across = square.colours.width();
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x) {
                const auto from = static_cast<std::size_t>(y + more) * static_cast<std::size_t>(across) +
                                  static_cast<std::size_t>(x + more);
                const std::uint32_t cover = square.covered.values[from];
                if (cover == 0)
                    continue;
                if (square.painted.values[from] == 0) {
                    m_out.bare += square.within.values[from] < 128 ? 1 : 0;
                    continue;
                }
                std::uint32_t& to =
                    m_page
                        .data()[static_cast<std::size_t>(top + y) * static_cast<std::size_t>(m_page.width()) +
                                static_cast<std::size_t>(left + x)];
                constexpr std::uint32_t kWhole = 255;
                to = cover == kWhole ? square.colours.pixels()[from]
                                     : between(to, square.colours.pixels()[from], cover / 255.0);
                if (m_mask)
                    m_mask->at(left + x, top + y) = 255;
            }
    }

    raster::Grey* m_mask;
    Canvas& m_page;
    const design::Body& m_body;
    const Paint& m_how;
    const Gallery& m_gallery;
    const base::Progress& m_progress;
    Transform m_toPx;
    std::vector<Ready> m_faces;
    Polygons m_piece, m_grown;
    Painted m_out;
};

} // namespace

Gallery coarser(const Gallery& gallery, int mostPx) {
    Gallery out = gallery;
    for (auto& [name, shown] : out)
        if (const auto picture = shown.picture) {
            const int by = (std::max(picture->width, picture->height) + mostPx - 1) / mostPx;
            if (by > 1 && std::min(picture->width, picture->height) >= by)
                shown = {std::make_shared<const Picture>(reduced(*picture, by)),
                         {},
                         shown.aspect,
                         shown.cover ? std::make_shared<const raster::Grey>(reduced(*shown.cover, by))
                                     : nullptr};
        }
    return out;
}

base::Result<Painted> paint(Canvas& page, const design::Body& body, const Paint& how, const Gallery& gallery,
                            const base::Progress& progress, raster::Grey* mask) {
    return Painting(page, body, how, gallery, progress, mask).painted();
}

std::optional<double> dpiOf(const Face& face, const Gallery& gallery) {
    const auto shown = gallery.find(face.shows);
    if (face.kind != Face::Kind::Picture || shown == gallery.end() || !shown->second.picture)
        return std::nullopt;
    constexpr double kInchMm = 25.4;
    const double across = std::hypot(face.place.a, face.place.b),
                 down = std::hypot(face.place.c, face.place.d);
    return kInchMm * std::min(shown->second.picture->width / across, shown->second.picture->height / down);
}

double stretchOf(const Face& face, const Gallery& gallery) {
    const auto shown = gallery.find(face.shows);
    if (shown == gallery.end())
        return 1;
    return std::hypot(face.place.a, face.place.b) / std::hypot(face.place.c, face.place.d) /
           shown->second.aspect;
}

base::Result<geometry::Shape> fieldOf(const design::Body& body, const Face& face,
                                      const base::Progress& progress) {
    if (!face.panel)
        return body.shape;
    std::vector<geometry::Line> folds;
    for (const design::PieceLine& line : body.lines)
        if (std::holds_alternative<design::Fold>(line.does))
            folds.push_back(line.path);
    const auto parted = geometry::partedBy(body.shape, folds, progress);
    if (!parted)
        return parted.error();
    for (const geometry::Shape& part : parted->parts)
        if (geometry::contains(geometry::flatten(part, kFlatMm), *face.panel))
            return part;
    return body.shape;
}

} // namespace thinline::print
