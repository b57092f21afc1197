// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Scenes.h"

#include "construct/Figures.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "trace/Scoring.h"

#include <QBuffer>
#include <QImage>
#include <QPainter>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <random>
#include <set>

namespace thinline::bench {
namespace {

using construct::Figure;
using geometry::Point;
using geometry::Shape;
using raster::Picture;
using raster::Rgb;
using Vec = std::array<double, 3>;

constexpr Rgb kSea{47, 111, 143}, kRust{200, 71, 43}, kSand{236, 214, 168}, kMoss{88, 128, 64},
    kNight{34, 38, 66}, kSun{240, 180, 50}, kRose{222, 140, 150}, kInk{20, 20, 24}, kWhite{255, 255, 255};

Shape at(Shape shape, double x, double y, double turnDeg = 0) {
    const auto box = geometry::bounds(shape);
    const Point middle = geometry::middle(box.least, box.most);
    return geometry::transformed(shape, geometry::Transform::move(middle * -1)
                                            .then(geometry::turnAbout({}, turnDeg * std::numbers::pi / 180))
                                            .then(geometry::Transform::move({x, y})));
}
Shape figure(Figure which, std::vector<double> values, double x, double y, double turnDeg = 0) {
    return at(*construct::make({which, std::move(values)}), x, y, turnDeg);
}
Shape disc(double x, double y, double d) {
    return figure(Figure::Ellipse, {d, d}, x, y);
}
Shape box(double x, double y, double w, double h, double turnDeg = 0) {
    return figure(Figure::Rectangle, {w, h}, x, y, turnDeg);
}
Painted flat(Shape shape, Rgb colour) {
    return {std::move(shape), colour, colour};
}

Scene largeAreas() {
    Scene out{"large areas", 760, 560, kWhite, {}};
    out.painted = {flat(box(380.3, 420.7, 640, 200, 2), kSea),
                   flat(disc(250.4, 250.6, 300), kSand),
                   flat(disc(250.4, 250.6, 180), kRust),
                   flat(figure(Figure::Star, {220, 5, 100}, 530.2, 200.1, 7), kSun),
                   flat(figure(Figure::Heart, {150, 140}, 545.5, 430.2, -11), kRose),
                   flat(figure(Figure::Rectangle, {160, 90, 1, 24}, 180.7, 440.9, 14), kMoss),
                   flat(figure(Figure::Drop, {60, 120}, 250.2, 245.3, 20), kNight)};
    return out;
}

/// Polygons around random places, side by side.
Scene manyJunctions() {
    Scene out{"many junctions", 640, 520, kWhite, {}};
    std::mt19937 random(11);
    const auto unit = [&] { return static_cast<double>(random() % 10000) / 10000; };
    std::vector<Point> places;
    while (places.size() < 30) {
        const Point p{50 + 540 * unit(), 50 + 420 * unit()};
        if (std::none_of(places.begin(), places.end(),
                         [&](const Point& o) { return geometry::distance(o, p) < 62; }))
            places.push_back(p);
    }
    const std::vector<Rgb> colours{kSea, kRust, kSand, kMoss, kNight, kSun};
    std::vector<Rgb> given;
    for (size_t i = 0; i < places.size(); ++i) {
        geometry::Polygon ring{{40.3, 40.6}, {600.3, 40.6}, {600.3, 480.6}, {40.3, 480.6}};
        std::set<size_t> near;
        for (size_t j = 0; j < places.size(); ++j) {
            if (j == i)
                continue;
            const Point middle = geometry::middle(places[i], places[j]), way = places[j] - places[i];
            geometry::Polygon kept;
            bool isCut = false;
            for (size_t k = 0; k < ring.size(); ++k) {
                const Point a = ring[k], b = ring[(k + 1) % ring.size()];
                const double da = geometry::dot(a - middle, way), db = geometry::dot(b - middle, way);
                if (da <= 0)
                    kept.push_back(a);
                if ((da < 0) != (db < 0)) {
                    kept.push_back(a + (b - a) * (da / (da - db)));
                    isCut = true;
                }
            }
            if (isCut)
                near.insert(j);
            ring = kept;
        }
        // A colour that no neighbour has; neighbours by cut are more than those that touch, which does no harm.
        size_t best = i % colours.size();
        for (size_t k = 0; k < colours.size(); ++k) {
            const size_t tried = (i + k) % colours.size();
            if (std::none_of(near.begin(), near.end(), [&](size_t j) {
                    return j < given.size() && given[j] == colours[tried] &&
                           geometry::distance(places[i], places[j]) < 170;
                })) {
                best = tried;
                break;
            }
        }
        given.push_back(colours[best]);
        out.painted.push_back(flat({geometry::contourThrough(ring), {}}, given.back()));
    }
    return out;
}

Scene smallParts() {
    Scene out{"small parts", 520, 400, kWhite, {}};
    out.painted = {flat(box(260, 110, 460, 150), kSea), flat(box(260, 290, 460, 150), kSand)};
    double x = 55.3;
    for (const double d : {8.0, 10.0, 13.0, 16.0, 20.0, 26.0, 34.0}) {
        out.painted.push_back(flat(disc(x, 80.7, d), kSun));
        out.painted.push_back(flat(disc(x + 3, 260.2, d), kRust));
        x += 40 + d;
    }
    x = 60.6;
    for (const double w : {2.0, 3.0, 4.0, 6.0}) {
        out.painted.push_back(flat(box(x, 145.3, w, 56, 0), kRose));
        out.painted.push_back(flat(figure(Figure::Ring, {44, 44 - 2 * w}, x + 40, 145.1), kNight));
        out.painted.push_back(flat(box(x + 20, 325.3, w, 50, 17), kNight));
        x += 95;
    }
    return out;
}

Scene lace() {
    Scene out{"lace", 560, 420, kWhite, {}};
    Shape sheet = box(280.2, 210.4, 500, 360);
    std::vector<Shape> holes;
    for (int row = 0; row < 5; ++row)
        for (int i = 0; i < 8; ++i)
            holes.push_back((row + i) % 3 == 0   ? figure(Figure::Drop, {22, 40}, 70.3 + 60 * i, 70.2 + 70 * row, 40 * i)
                            : (row + i) % 3 == 1 ? figure(Figure::Flower, {38, 5, 20}, 70.3 + 60 * i, 70.2 + 70 * row, 9)
                                                 : disc(70.3 + 60 * i, 70.2 + 70 * row, 30));
    out.painted.push_back(flat((*geometry::subtract({sheet}, holes))[0], kInk));
    return out;
}

Scene tenDiscs(Rgb ground, const std::string& name) {
    Scene out{name, 600, 420, ground, {}};
    for (int i = 0; i < 10; ++i)
        out.painted.push_back(flat(disc(75.3 + 112 * (i % 5), 120.6 + 180 * (i / 5), 80 - 3 * i), kSea));
    return out;
}

Scene pastels() {
    Scene out{"pastels", 620, 420, {255, 255, 255}, {}};
    const std::vector<Rgb> colours{{246, 226, 232}, {230, 238, 248}, {236, 246, 232}, {250, 243, 220}};
    for (int i = 0; i < 4; ++i) {
        out.painted.push_back(flat(disc(90.3 + 145 * i, 130.6, 110), colours[static_cast<size_t>(i)]));
        out.painted.push_back(flat(figure(Figure::Star, {120, 6, 70}, 90.3 + 145 * i, 300.6, 8 * i),
                                   colours[static_cast<size_t>((i + 2) % 4)]));
    }
    return out;
}

Scene gradients() {
    Scene out{"gradients", 620, 440, kWhite, {}};
    out.painted = {{disc(140.3, 130.2, 180), {40, 110, 180}, {150, 205, 240}},
                   {box(330.2, 130.6, 130, 170, 6), {230, 90, 40}, {250, 190, 90}},
                   {figure(Figure::Star, {170, 5, 85}, 500.4, 130.1, 5), {90, 60, 130}, {170, 130, 200}},
                   {figure(Figure::Rectangle, {520, 130, 1, 40}, 310.1, 330.5), {60, 120, 50}, {160, 200, 110}},
                   flat(disc(170.2, 330.4, 70), kSand)};
    return out;
}

Scene face() {
    Scene out{"face", 480, 480, {250, 246, 238}, {}};
    const Rgb skin{238, 196, 160}, hair{92, 58, 36}, lips{190, 80, 84};
    out.painted = {flat(disc(240.3, 220.6, 320), kInk), flat(disc(240.3, 220.6, 308), hair),
                   flat(disc(240.3, 262.2, 240), kInk), flat(disc(240.3, 262.2, 230), skin),
                   flat(disc(195.2, 240.3, 46), kInk),  flat(disc(195.2, 240.3, 38), kWhite),
                   flat(disc(198.2, 244.3, 16), kInk),  flat(disc(285.2, 240.3, 46), kInk),
                   flat(disc(285.2, 240.3, 38), kWhite), flat(disc(282.2, 244.3, 16), kInk),
                   flat(figure(Figure::Ellipse, {64, 22}, 240.1, 320.4), lips)};
    return out;
}

Scene icon() {
    Scene out{"icon", 150, 150, kWhite, {}};
    out.painted = {flat(disc(75.2, 75.3, 130), kNight), flat(disc(75.2, 75.3, 112), kSun),
                   flat(box(75.1, 92.3, 70, 30), kRust), flat(figure(Figure::Star, {52, 5, 24}, 75.2, 50.4), kSea),
                   flat(disc(52.2, 110.3, 16), kNight), flat(disc(98.2, 110.3, 16), kNight)};
    return out;
}

Scene touching() {
    Scene out{"close bands", 560, 400, kWhite, {}};
    for (int i = 0; i < 4; ++i) {
        const double y = 60.4 + 90 * i, gap = 0.5 + i;
        out.painted.push_back(flat(box(280.2, y + 26, 480, 24), kSea));
        out.painted.push_back(flat(disc(120.3, y - 6 - gap - 4, 40), kRust));
        out.painted.push_back(flat(figure(Figure::Ellipse, {90, 40}, 300.3, y - 6 - gap - 4), kSun));
    }
    return out;
}

QImage imageOf(const Picture& picture) {
    QImage out(picture.width, picture.height, QImage::Format_RGB888);
    for (int y = 0; y < picture.height; ++y)
        std::copy_n(picture.row(y), static_cast<size_t>(picture.width) * 3, out.scanLine(y));
    return out;
}
Picture pictureOf(const QImage& given) {
    const QImage image = given.convertToFormat(QImage::Format_RGB888);
    Picture out{image.width(), image.height(), {}};
    for (int y = 0; y < image.height(); ++y)
        out.rgb.insert(out.rgb.end(), image.constScanLine(y),
                       image.constScanLine(y) + static_cast<std::ptrdiff_t>(image.width()) * 3);
    return out;
}
Picture kept(const Picture& picture, int quality) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    imageOf(picture).save(&buffer, "JPEG", quality);
    return pictureOf(QImage::fromData(bytes));
}
std::uint8_t byteOf(double v) {
    return static_cast<std::uint8_t>(std::clamp(std::lround(v), 0L, 255L));
}
Picture grained(Picture picture, double levels, double ofColour, unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> noise(0, 1);
    for (size_t i = 0; i < picture.rgb.size(); i += 3) {
        const double all = levels * noise(random);
        for (size_t k = 0; k < 3; ++k)
            picture.rgb[i + k] = byteOf(picture.rgb[i + k] + all + ofColour * noise(random));
    }
    return picture;
}
Picture softened(Picture picture, double variance) {
    // Binomial rounds of half a px² each.
    for (int round = 0; round < static_cast<int>(std::lround(variance * 2)); ++round)
        for (const bool isAcross : {true, false}) {
            const Picture from = picture;
            for (int y = 0; y < from.height; ++y)
                for (int x = 0; x < from.width; ++x)
                    for (int k = 0; k < 3; ++k) {
                        const auto look = [&](int d) {
                            const int xx = std::clamp(isAcross ? x + d : x, 0, from.width - 1),
                                      yy = std::clamp(isAcross ? y : y + d, 0, from.height - 1);
                            return static_cast<int>(from.row(yy)[xx * 3 + k]);
                        };
                        picture.rgb[(static_cast<size_t>(y) * static_cast<size_t>(from.width) + static_cast<size_t>(x)) * 3 +
                                    static_cast<size_t>(k)] =
                            static_cast<std::uint8_t>((look(-1) + 2 * look(0) + look(1) + 2) / 4);
                    }
        }
    return picture;
}
template <class Light>
Picture lit(Picture picture, double darkest, const Light& light) {
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x)
            for (size_t k = 0; k < 3; ++k) {
                std::uint8_t& v = picture.rgb[(static_cast<size_t>(y) * static_cast<size_t>(picture.width) +
                                               static_cast<size_t>(x)) * 3 + k];
                v = byteOf((darkest + (250 - darkest) * v / 255) *
                           light((x + 0.5) / picture.width, (y + 0.5) / picture.height));
            }
    return picture;
}

/// Stretches of true or traced line by the cells they lie in.
class Index {
  public:
    explicit Index(const std::vector<Shape>& shapes) {
        for (const Shape& shape : shapes)
            for (const geometry::Polygon& ring : geometry::flatten(shape, 0.01))
                for (size_t i = 0; i < ring.size(); ++i)
                    add(ring[i], ring[(i + 1) % ring.size()]);
    }
    double distance(Point p) const {
        double least = kFarthest;
        const int cx = cellOf(p.x), cy = cellOf(p.y);
        for (int ring = 0; ring * kCell < least + kCell && ring * kCell <= kFarthest; ++ring)
            for (int y = cy - ring; y <= cy + ring; ++y)
                for (int x = cx - ring; x <= cx + ring; ++x) {
                    if (std::max(std::abs(x - cx), std::abs(y - cy)) != ring)
                        continue;
                    const auto there = m_cells.find({x, y});
                    if (there != m_cells.end())
                        for (const auto& [a, b] : there->second)
                            least = std::min(least, geometry::distanceToStretch(p, a, b));
                }
        return least;
    }
    std::vector<Point> places() const {
        std::vector<Point> out;
        for (const auto& [a, b] : m_all) {
            const int looks = std::max(1, static_cast<int>(geometry::distance(a, b) * 2));
            for (int i = 0; i < looks; ++i)
                out.push_back(a + (b - a) * ((i + 0.5) / looks));
        }
        return out;
    }

  private:
    static constexpr int kCell = 4;
    static constexpr double kFarthest = 60;
    static int cellOf(double v) { return static_cast<int>(std::floor(v / kCell)); }
    void add(Point a, Point b) {
        m_all.emplace_back(a, b);
        for (int y = cellOf(std::min(a.y, b.y)); y <= cellOf(std::max(a.y, b.y)); ++y)
            for (int x = cellOf(std::min(a.x, b.x)); x <= cellOf(std::max(a.x, b.x)); ++x)
                m_cells[{x, y}].emplace_back(a, b);
    }
    std::map<std::pair<int, int>, std::vector<std::pair<Point, Point>>> m_cells;
    std::vector<std::pair<Point, Point>> m_all;
};

} // namespace

std::vector<Shape> Scene::seen() const {
    std::map<std::pair<Rgb, Rgb>, std::vector<Shape>> byColour;
    for (size_t i = 0; i < painted.size(); ++i) {
        if (painted[i].colour == paper)
            continue;
        std::vector<Shape> above;
        for (size_t k = i + 1; k < painted.size(); ++k)
            above.push_back(painted[k].shape);
        const auto left = geometry::subtract({painted[i].shape}, above);
        auto& into = byColour[{painted[i].colour, painted[i].to}];
        into.insert(into.end(), left->begin(), left->end());
    }
    std::vector<Shape> out; // what touches in one colour is one
    for (const auto& [colour, shapes] : byColour) {
        const auto joined = geometry::weld(shapes);
        constexpr double kLeastPx = 8; // crumbs of the set operation
        for (const Shape& shape : *joined)
            if (geometry::area(shape) > kLeastPx)
                out.push_back(shape);
    }
    return out;
}

int Scene::colours() const {
    std::set<std::pair<Rgb, Rgb>> all{{paper, paper}};
    for (const Painted& one : painted)
        all.insert({one.colour, one.to});
    return static_cast<int>(all.size());
}

std::vector<Scene> scenes() {
    return {largeAreas(), manyJunctions(), smallParts(), lace(), tenDiscs(kWhite, "ten discs"),
            tenDiscs({150, 160, 168}, "ten discs, grey"), pastels(), gradients(), face(), icon(), touching()};
}

std::vector<Scene> lineScenes() {
    const auto lined = [](const std::string& name, Rgb paper, Rgb ink, double width, const std::vector<Rgb>& washes) {
        Scene out{name, 640, 460, paper, {}};
        size_t next = 0;
        const auto add = [&](const Shape& outer) {
            out.painted.push_back(flat(outer, ink));
            const auto inner = geometry::bounds(outer);
            const double share = 1 - 2 * width / std::min(inner.width(), inner.height());
            Shape inside = geometry::transformed(
                outer, geometry::Transform::move(geometry::middle(inner.least, inner.most) * -1)
                           .then(geometry::Transform::scale(share, share))
                           .then(geometry::Transform::move(geometry::middle(inner.least, inner.most))));
            out.painted.push_back(flat(inside, washes.empty() ? paper : washes[next++ % washes.size()]));
        };
        add(box(320.3, 250.2, 560, 340, 1));
        add(disc(150.2, 170.3, 150));
        add(disc(150.2, 170.3, 70));
        add(figure(Figure::Heart, {150, 140}, 330.4, 190.2, 6));
        add(figure(Figure::Rectangle, {120, 90, 1, 20}, 500.3, 180.4, -8));
        for (int i = 0; i < 6; ++i)
            add(figure(Figure::Drop, {44, 80}, 100.3 + 88 * i, 330.2, 20 * i));
        return out;
    };
    return {lined("ink lines", kWhite, kInk, 4, {}),
            lined("fine lines", kWhite, {60, 60, 70}, 2, {}),
            lined("marker", kWhite, kInk, 9, {}),
            lined("washes", kWhite, kInk, 5, {{236, 214, 168}, {160, 200, 190}, {232, 170, 150}, {250, 230, 140}}),
            lined("pencil", {244, 242, 236}, {150, 150, 152}, 3, {}),
            lined("chalk", {24, 26, 28}, {240, 240, 236}, 4, {}),
            lined("white on blue", {30, 60, 120}, {246, 248, 250}, 3, {})};
}

std::vector<Photo> photos(unsigned firstSeed) {
    std::vector<Photo> out;
    constexpr int kWide = 520, kHigh = 400;
    for (unsigned seed = firstSeed; seed < firstSeed + 3; ++seed)
        for (const std::string kind : {"hills", "leaves", "ball", "hair"}) {
            std::mt19937 random(seed * 17);
            // Smooth noise in octaves.
            std::vector<float> lattice(64 * 64);
            for (float& v : lattice)
                v = static_cast<float>(random() % 1000) / 1000;
            const auto noise = [&](double x, double y) {
                double sum = 0, weight = 0.5;
                for (int octave = 0; octave < 6; ++octave, weight /= 2, x *= 2.03, y *= 2.03) {
                    const int i = static_cast<int>(std::floor(x)), j = static_cast<int>(std::floor(y));
                    const double u = x - i, v = y - j, s = u * u * (3 - 2 * u), t = v * v * (3 - 2 * v);
                    const auto look = [&](int a, int b) {
                        return static_cast<double>(lattice[static_cast<size_t>((b & 63) * 64 + (a & 63))]);
                    };
                    sum += weight * ((1 - t) * ((1 - s) * look(i, j) + s * look(i + 1, j)) +
                                     t * ((1 - s) * look(i, j + 1) + s * look(i + 1, j + 1)));
                }
                return sum;
            };
            Picture p{kWide, kHigh, {}};
            for (int y = 0; y < kHigh; ++y)
                for (int x = 0; x < kWide; ++x) {
                    const double n = noise(x / 60.0, y / 60.0), fine = noise(x / 9.0 + 7, y / 9.0);
                    Vec c{};
                    if (kind == "hills") {
                        const double ridge = 150 + 120 * noise(x / 130.0, 3.5), far = 110 + 60 * noise(x / 90.0, 9);
                        c = y > ridge  ? Vec{60 + 90 * fine * n, 80 + 100 * fine, 40 + 60 * n}
                            : y > far ? Vec{110 + 40 * n, 125 + 40 * fine, 130 + 20 * n}
                                      : Vec{120 + 0.5 * y + 50 * n, 160 + 0.3 * y + 40 * n, 225.0 - 0.1 * y};
                    } else if (kind == "leaves") {
                        c = Vec{30 + 150 * n * fine, 60 + 190 * fine * n, 20 + 80 * n};
                    } else if (kind == "ball") {
                        const double dx = (x - 250) / 130.0, dy = (y - 190) / 130.0, r = dx * dx + dy * dy;
                        const double light = r < 1 ? std::max(0.0, (-dx - dy + 1.2 * std::sqrt(1 - r)) / 1.8) : 0;
                        c = r < 1 ? Vec{40 + 200 * light + 18 * fine, 30 + 90 * light + 14 * fine, 30 + 60 * light}
                                  : Vec{120 + 70 * n + 40 * fine, 105 + 60 * n + 40 * fine, 90 + 50 * n + 36 * fine};
                    } else {
                        const double strand = noise(x / 5.0 + 2 * n, y / 160.0), skin = (x - 200) * (x - 200) / 9000.0 +
                                                                                  (y - 220) * (y - 220) / 16000.0;
                        c = skin < 1 ? Vec{225 - 50 * skin + 8 * fine, 180 - 55 * skin + 8 * fine, 150 - 50 * skin}
                                     : Vec{30 + 120 * strand, 20 + 85 * strand, 10 + 60 * strand};
                    }
                    for (const double v : c)
                        p.rgb.push_back(byteOf(v));
                }
            out.push_back({kind + " " + std::to_string(seed), grained(p, 2, 1.5, seed)});
        }
    return out;
}

Picture drawn(const Scene& scene) {
    constexpr int kFine = 6;
    QImage image(scene.width * kFine, scene.height * kFine, QImage::Format_RGB32);
    image.fill(qRgb(scene.paper[0], scene.paper[1], scene.paper[2]));
    QPainter painter(&image);
    painter.setPen(Qt::NoPen);
    painter.scale(kFine, kFine);
    for (const Painted& one : scene.painted) {
        const auto box = geometry::bounds(one.shape);
        QLinearGradient gradient(0, box.least.y, 0, box.most.y);
        gradient.setColorAt(0, QColor(one.colour[0], one.colour[1], one.colour[2]));
        gradient.setColorAt(1, QColor(one.to[0], one.to[1], one.to[2]));
        painter.fillPath(pathOf({one.shape}), one.colour == one.to ? QBrush(QColor(one.colour[0], one.colour[1], one.colour[2]))
                                                    : QBrush(gradient));
    }
    painter.end();
    Picture out{scene.width, scene.height, std::vector<std::uint8_t>(static_cast<size_t>(scene.width) * static_cast<size_t>(scene.height) * 3)};
    for (int y = 0; y < scene.height; ++y)
        for (int x = 0; x < scene.width; ++x) {
            std::array<int, 3> sum{};
            for (int dy = 0; dy < kFine; ++dy) {
                const QRgb* row = reinterpret_cast<const QRgb*>(image.constScanLine(y * kFine + dy)) + x * kFine;
                for (int dx = 0; dx < kFine; ++dx) {
                    sum[0] += qRed(row[dx]);
                    sum[1] += qGreen(row[dx]);
                    sum[2] += qBlue(row[dx]);
                }
            }
            for (size_t k = 0; k < 3; ++k)
                out.rgb[(static_cast<size_t>(y) * static_cast<size_t>(scene.width) + static_cast<size_t>(x)) * 3 + k] =
                    byteOf(sum[k] / static_cast<double>(kFine * kFine));
        }
    return out;
}

Picture worn(const Picture& picture, const std::string& how) {
    if (how == "jpeg")
        return kept(picture, 60);
    if (how == "noise")
        return grained(picture, 6, 5, 5);
    if (how == "soft")
        return softened(picture, 1);
    if (how == "shade")
        return lit(picture, 0, [](double x, double y) { return 1 - 0.39 * (0.7 * x + 0.3 * y * y); });
    if (how == "scan")
        return grained(lit(softened(picture, 1), 25, [](double x, double y) { return 1 - 0.175 * (x + y); }), 3.5,
                       2, 7);
    if (how == "phone") {
        const auto light = [](double x, double y) {
            return (1 - 0.25 * x - 0.1 * y) * (1 - 0.3 / (1 + std::exp((x + 0.4 * y - 0.75) * 14)));
        };
        return kept(grained(lit(softened(picture, 1.2), 15, light), 2.5, 2, 9), 80);
    }
    if (how == "shadow") {
        const auto light = [&](double x, double y) {
            const double beyond = (x + 0.4 * y - 0.62) * picture.width / 1.08; // px
            return (1 - 0.1 * x - 0.05 * y) * (1 - 0.38 / (1 + std::exp(-beyond / 0.9)));
        };
        return kept(grained(softened(lit(picture, 15, light), 1), 2.5, 2, 11), 85);
    }
    return picture;
}

Away awayOf(const std::vector<Shape>& truth, const std::vector<Shape>& traced) {
    const Index a(truth), b(traced);
    std::vector<double> all;
    for (const Point& p : a.places())
        all.push_back(b.distance(p));
    for (const Point& p : b.places())
        all.push_back(a.distance(p));
    std::sort(all.begin(), all.end());
    Away out;
    if (all.empty())
        return out;
    for (const double d : all)
        out.mean += d / static_cast<double>(all.size());
    out.p995 = all[all.size() * 995 / 1000];
    out.most = all.back();
    return out;
}

int falseCorners(const std::vector<Shape>& truth, const std::vector<Shape>& traced) {
    constexpr double kCornerRad = 0.52, kBluntRad = 0.17;
    const auto drawnOnes = cornersOf(truth, kBluntRad);
    int out = 0;
    for (const Corner& found : cornersOf(traced, kCornerRad))
        out += std::none_of(drawnOnes.begin(), drawnOnes.end(),
                            [&](const Corner& c) { return geometry::distance(c.at, found.at) <= 3; });
    return out;
}

} // namespace thinline::bench
