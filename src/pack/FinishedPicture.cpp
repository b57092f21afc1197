// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Card above card is a landscape: over every place there is one height and one colour. The pieces are laid into it from the
// lowest top to the highest, in rows as fine as the picture, three for every pixel of it and three across.
//
// The light stands at the upper left. How high its last ray passes over a place follows from the place one step nearer to it: over
// whatever is higher there, that ray or the card, less by what rays sink on a step. What lies below the ray is in shadow. So a
// picture is shaded in one pass, and with steps along the diagonal without any rounding.
//
// Seen at a slant the landscape is drawn column by column from the near end to the far one: each place moves up the screen by
// its height, and covers only what is not covered yet. Where a step is seen from its low side, the column between the two
// heights is the card's own edge.
#include "pack/FinishedPicture.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::pack {
namespace {

using base::Code;
using base::Error;

constexpr int kFine = 3; // rows and columns to a pixel
constexpr double kShadow = 0.62, kEdgeShade = 0.72;
constexpr raster::Rgb kWall{246, 244, 240};

double radians(double degrees) {
    return degrees * std::numbers::pi / 180;
}

raster::Rgb dimmed(raster::Rgb colour, double by) {
    for (std::uint8_t& part : colour)
        part = static_cast<std::uint8_t>(std::lround(part * by));
    return colour;
}
raster::Rgb mixed(raster::Rgb below, raster::Rgb above, double share) {
    if (share >= 1)
        return above;
    for (std::size_t i = 0; i < 3; ++i)
        above[i] = static_cast<std::uint8_t>(std::lround(below[i] + (above[i] - below[i]) * share));
    return above;
}

/// How much of what is behind it a stock covers.
double cover(const design::Stock* stock) {
    if (stock && stock->kind == design::Stock::Kind::Acetate)
        return 0.15;
    return stock && stock->isTranslucent ? 0.5 : 1;
}

class Landscape {
  public:
    Landscape(const design::Stack& stack, const design::Heights& heights, const geometry::Box& box,
              double perMm)
        : m_perMm(perMm) {
        m_width = std::max(1, static_cast<int>(std::lround(box.width() * perMm)));
        m_height = std::max(1, static_cast<int>(std::lround(box.height() * perMm)));
        const auto count = static_cast<std::size_t>(m_width) * static_cast<std::size_t>(m_height);
        m_lowest = static_cast<float>(heights.lowestMm);
        m_z.assign(count, m_lowest);
        m_colour.assign(count, kWall);
        std::vector<std::size_t> order(stack.pieces.size());
        for (std::size_t i = 0; i < order.size(); ++i)
            order[i] = i;
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return heights.of[a].topMm < heights.of[b].topMm;
        });
        for (const std::size_t i : order)
            lay(stack, stack.pieces[i], static_cast<float>(heights.of[i].topMm), box);
    }

    int width() const { return m_width; }
    int height() const { return m_height; }
    float z(int x, int y) const { return m_z[at(x, y)]; }
    float lowest() const { return m_lowest; }
    double perMm() const { return m_perMm; }
    const raster::Rgb& colour(int x, int y) const { return m_colour[at(x, y)]; }

    base::Status shade(const Look& look, const base::Progress& progress) {
        // From one place to the next away from the light, a step right and down, the rays sink by so much.
        const auto sinks =
            static_cast<float>(std::numbers::sqrt2 * std::tan(radians(look.lightUpDeg)) / m_perMm);
        constexpr float kNone = -1e9F, kHair = 1e-4F;
        std::vector<float> before(static_cast<std::size_t>(m_width), kNone), now = before;
        for (int y = 0; y < m_height; ++y) {
            if (progress.isCancelled())
                return base::cancelled();
            for (int x = 0; x < m_width; ++x) {
                float& rays = now[static_cast<std::size_t>(x)];
                rays = x > 0 && y > 0
                           ? std::max(before[static_cast<std::size_t>(x) - 1], z(x - 1, y - 1)) - sinks
                           : kNone;
                if (rays > z(x, y) + kHair)
                    m_colour[at(x, y)] = dimmed(m_colour[at(x, y)], kShadow);
            }
            std::swap(before, now);
        }
        return base::Done{};
    }

  private:
    std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(m_width) + static_cast<std::size_t>(x);
    }

    void lay(const design::Stack& stack, const design::Laid& laid, float top, const geometry::Box& box) {
        const std::string& stockId = stack.layerOf(laid).stockId;
        const raster::Rgb colour = design::colourOf(stack.stocks, stockId);
        const double share = cover(design::findStock(stack.stocks, stockId));
        design::Body moved;
        moved.shape = geometry::transformed(laid.shape(), geometry::Transform::move(box.least * -1));
        const design::Rows rows = design::rowsOf(moved, 1 / m_perMm);
        for (int k = 0; k + 1 < static_cast<int>(rows.begin.size()); ++k) {
            const int y = rows.first + k;
            if (y < 0 || y >= m_height)
                continue;
            for (int s = rows.begin[static_cast<std::size_t>(k)];
                 s < rows.begin[static_cast<std::size_t>(k) + 1]; ++s) {
                const auto [from, to] = rows.spans[static_cast<std::size_t>(s)];
                const int first = std::max(0, static_cast<int>(std::ceil(from * m_perMm - 0.5))),
                          last = std::min(m_width - 1, static_cast<int>(std::ceil(to * m_perMm - 0.5)) - 1);
                for (int x = first; x <= last; ++x) {
                    m_z[at(x, y)] = std::max(m_z[at(x, y)], top);
                    m_colour[at(x, y)] = mixed(m_colour[at(x, y)], colour, share);
                }
            }
        }
    }

    double m_perMm;
    int m_width = 0, m_height = 0;
    float m_lowest = 0;
    std::vector<float> m_z;
    std::vector<raster::Rgb> m_colour;
};

/// A fine picture, nine places for a pixel.
class FinePicture {
  public:
    FinePicture(int width, int height) : m_width(width / kFine * kFine), m_height(height / kFine * kFine) {
        m_places.assign(static_cast<std::size_t>(m_width) * static_cast<std::size_t>(m_height), kWall);
    }
    int height() const { return m_height; }
    void put(int x, int y, raster::Rgb colour) {
        if (x < m_width && y >= 0 && y < m_height)
            m_places[static_cast<std::size_t>(y) * static_cast<std::size_t>(m_width) +
                     static_cast<std::size_t>(x)] = colour;
    }
    raster::Picture whole() const {
        raster::Picture out{m_width / kFine, m_height / kFine, {}};
        out.rgb.reserve(static_cast<std::size_t>(out.pixels()) * 3);
        for (int y = 0; y < out.height; ++y)
            for (int x = 0; x < out.width; ++x)
                for (std::size_t part = 0; part < 3; ++part) {
                    int sum = 0;
                    for (int k = 0; k < kFine * kFine; ++k)
                        sum += m_places[static_cast<std::size_t>(y * kFine + k / kFine) *
                                            static_cast<std::size_t>(m_width) +
                                        static_cast<std::size_t>(x * kFine + k % kFine)][part];
                    out.rgb.push_back(static_cast<std::uint8_t>((sum + kFine * kFine / 2) / (kFine * kFine)));
                }
        return out;
    }

  private:
    int m_width, m_height;
    std::vector<raster::Rgb> m_places;
};

raster::Picture fromTheFront(const Landscape& land) {
    FinePicture out(land.width(), land.height());
    for (int y = 0; y < land.height(); ++y)
        for (int x = 0; x < land.width(); ++x)
            out.put(x, y, land.colour(x, y));
    return out.whole();
}

raster::Picture atASlant(const Landscape& land, double slantDeg) {
    const double flat = std::cos(radians(slantDeg)), up = std::sin(radians(slantDeg)) * land.perMm();
    FinePicture out(land.width(), static_cast<int>(land.height() * flat));
    for (int x = 0; x < land.width(); ++x) {
        int free = out.height(); // all from here on down is drawn
        for (int y = land.height() - 1; y >= 0; --y) {
            const double ground = y * flat;
            const int top = static_cast<int>(std::lround(ground - (land.z(x, y) - land.lowest()) * up));
            if (top >= free)
                continue;
            // Below the place itself comes the edge of the card, down to what is nearer and drawn already.
            const int own = std::min(free, top + static_cast<int>(std::ceil(flat)));
            for (int row = std::max(0, top); row < own; ++row)
                out.put(x, row, land.colour(x, y));
            for (int row = std::max(0, own); row < free; ++row)
                out.put(x, row, dimmed(land.colour(x, y), kEdgeShade));
            free = top;
        }
    }
    return out.whole();
}

} // namespace

base::Result<raster::Picture> finishedPicture(const design::Stack& stack, const design::Heights& heights,
                                              const Look& look, const base::Progress& progress) {
    geometry::Box box = design::measure(stack).box;
    if (box.isEmpty() || std::max(box.width(), box.height()) <= 0)
        return Error{Code::InvalidArgument, "There is nothing to show yet."};
    if (look.mostPx < 16 || look.mostPx > 6000 || look.slantDeg < 0 || look.slantDeg > 60 ||
        look.lightUpDeg < 5 || look.lightUpDeg > 90)
        return Error{
            Code::InvalidArgument,
            "A picture has 16 to 6000 pixels, a slant of 0 to 60 degrees and a light 5 to 90 degrees high."};
    // Room for the shadow on the wall and for what a slant moves up.
    const double room = 0.04 * std::max(box.width(), box.height()) + heights.tallMm();
    box.include(box.least - geometry::Point{room, room});
    box.include(box.most + geometry::Point{room, room});
    const double perMm = kFine * look.mostPx / std::max(box.width(), box.height());
    Landscape land(stack, heights, box, perMm);
    if (auto ok = land.shade(look, progress); !ok)
        return ok.error();
    return look.slantDeg > 0 ? atASlant(land, look.slantDeg) : fromTheFront(land);
}

} // namespace thinline::pack
