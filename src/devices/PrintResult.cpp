// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/PrintResult.h"

#include "base/Length.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace thinline::devices {
namespace {

using geometry::Point;
using geometry::Transform;

constexpr double kDpi = 150;
constexpr std::uint32_t kPaper = 0xffffffu;

std::uint32_t pixelAt(const raster::Canvas& canvas, Point px) {
    const int x = static_cast<int>(std::floor(px.x)), y = static_cast<int>(std::floor(px.y));
    if (x < 0 || y < 0 || x >= canvas.width() || y >= canvas.height())
        return 0xff000000u | kPaper;
    return canvas.pixels()[static_cast<std::size_t>(y) * static_cast<std::size_t>(canvas.width()) +
                           static_cast<std::size_t>(x)];
}

/// Whether something that is read loses a part: its box comes to lie beyond the cut.
bool isTextCut(const job::OnPage& piece, const geometry::Polygons& outline, const Transform& backToMeant) {
    constexpr int kSteps = 12;
    for (const design::Face& face : piece.body->faces) {
        if (face.side != piece.side || !design::isRead(face.kind))
            continue;
        const Transform place = face.place.then(piece.toPage);
        for (int i = 0; i <= kSteps; ++i)
            for (const Point unit : {Point{i / 12.0, 0}, {i / 12.0, 1}, {0, i / 12.0}, {1, i / 12.0}})
                if (const Point p = place(unit);
                    geometry::contains(outline, p) && !geometry::contains(outline, backToMeant(p)))
                    return true;
    }
    return false;
}

class Cutting {
  public:
    Cutting(const job::PrintedPage& page, const Transform& onPrint)
        : m_page(page), m_onPrint(onPrint),
          m_out(page.picture.width(), page.picture.height(), {140, 138, 134}) {}

    PrintedPiece cut(const job::OnPage& piece) {
        constexpr double kFlatMm = 0.02;
        const geometry::Shape shape = geometry::transformed(piece.body->shape, piece.toPage);
        const geometry::Polygons outline = geometry::flatten(shape, kFlatMm);
        PrintedPiece out{piece.what};
        m_box.include(geometry::bounds(shape));
        for (const geometry::Polygon& ring : outline)
            for (const Point p : ring)
                out.worstMm = std::max(out.worstMm, geometry::distance(m_onPrint(p), p));
        out.isTextCut = isTextCut(piece, outline, geometry::inverse(m_onPrint));
        out.whiteMm2 = show(outline);
        return out;
    }
    /// The pieces with some ground about them.
    raster::Picture picture() const {
        constexpr double kAroundMm = 6;
        const geometry::Box box = m_box.grownBy(kAroundMm);
        const auto px = [&](double mm, int most) {
            return static_cast<int>(std::clamp(mm * m_page.pxPerMm, 0.0, static_cast<double>(most)));
        };
        const int left = px(box.least.x, m_out.width()), top = px(box.least.y, m_out.height()),
                  right = px(box.most.x, m_out.width()), bottom = px(box.most.y, m_out.height());
        const raster::Picture whole = m_out.picture();
        if (m_box.isEmpty() || right <= left || bottom <= top)
            return whole;
        raster::Picture out{right - left, bottom - top, {}};
        out.rgb.reserve(static_cast<std::size_t>(out.pixels()) * 3);
        for (int y = top; y < bottom; ++y)
            out.rgb.insert(out.rgb.end(), whole.row(y) + 3 * left, whole.row(y) + 3 * right);
        return out;
    }

  private:
    /// Shows what the cut took of the print, and returns how much of it is bare that was meant to be printed, mm².
    double show(const geometry::Polygons& outline) {
        const double perMm = m_page.pxPerMm;
        raster::Canvas mask(m_out.width(), m_out.height(), {0, 0, 0});
        geometry::Polygons rings = outline;
        for (geometry::Polygon& ring : rings)
            for (Point& p : ring)
                p = p * perMm;
        mask.fill(rings, {255, 255, 255});
        const geometry::Box box = geometry::bounds(rings);
        std::int64_t white = 0;
        const int left = std::max(0, static_cast<int>(box.least.x)),
                  top = std::max(0, static_cast<int>(box.least.y));
        for (int y = top; y < std::min(m_out.height(), static_cast<int>(box.most.y) + 1); ++y)
            for (int x = left; x < std::min(m_out.width(), static_cast<int>(box.most.x) + 1); ++x) {
                const auto i = static_cast<std::size_t>(y) * static_cast<std::size_t>(m_out.width()) +
                               static_cast<std::size_t>(x);
                constexpr std::uint32_t kMostly = 128;
                if ((mask.pixels()[i] & 0xff) < kMostly)
                    continue;
                const Point px = m_onPrint(Point{x + 0.5, y + 0.5} * (1 / perMm)) * perMm;
                white += m_page.mask.values[i] > 0 && !isPrinted(px) ? 1 : 0;
                const std::uint32_t there = pixelAt(m_page.picture, px);
                m_out.data()[i] = there;
            }
        return static_cast<double>(white) / (perMm * perMm);
    }

    bool isPrinted(Point px) const {
        const int x = static_cast<int>(std::floor(px.x)), y = static_cast<int>(std::floor(px.y));
        return x >= 0 && y >= 0 && x < m_page.mask.width && y < m_page.mask.height &&
               m_page.mask.at(x, y) > 0;
    }

    const job::PrintedPage& m_page;
    Transform m_onPrint;
    raster::Canvas m_out;
    geometry::Box m_box;
};

} // namespace

PrintErrors errorsBy(unsigned seed, const ErrorRanges& ranges, const std::vector<ErrorSource>& only) {
    std::mt19937 random(seed);
    const auto upTo = [&](double most) {
        return most > 0 ? std::uniform_real_distribution<double>(-most, most)(random) : 0.0;
    };
    const auto isOn = [&](ErrorSource source) {
        return only.empty() || std::find(only.begin(), only.end(), source) != only.end();
    };
    PrintErrors drawn;
    drawn.scaleX = 1 + upTo(ranges.scale);
    drawn.scaleY = 1 + upTo(ranges.scale);
    drawn.printTurnDeg = upTo(ranges.printTurnDeg);
    drawn.printShiftMm = {upTo(ranges.printShiftMm), upTo(ranges.printShiftMm)};
    drawn.feedShiftMm = {upTo(ranges.feedShiftMm), upTo(ranges.feedShiftMm)};
    drawn.feedTurnDeg = upTo(ranges.feedTurnDeg);
    drawn.standingMm = {upTo(ranges.standingMm), upTo(ranges.standingMm)};
    PrintErrors out;
    out.seed = seed;
    if (isOn(ErrorSource::Printer)) {
        out.scaleX = drawn.scaleX;
        out.scaleY = drawn.scaleY;
        out.printTurnDeg = drawn.printTurnDeg;
        out.printShiftMm = drawn.printShiftMm;
    }
    if (isOn(ErrorSource::Feed)) {
        out.feedShiftMm = drawn.feedShiftMm;
        out.feedTurnDeg = drawn.feedTurnDeg;
    }
    if (isOn(ErrorSource::Standing))
        out.standingMm = drawn.standingMm;
    if (isOn(ErrorSource::Sensor))
        out.sensorMm = ranges.sensorMm;
    return out;
}

CameraLook usualCamera(unsigned seed) {
    std::mt19937 random(seed);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    CameraLook out;
    out.tiltDeg = between(0, 10);
    out.tiltTowardsDeg = between(0, 360);
    out.bend = between(-0.02, 0.02);
    out.blurPx = between(0.3, 1.2);
    out.noiseLevels = between(1, 6);
    out.shadow = between(0, 0.4);
    out.shadowTurnDeg = between(0, 360);
    out.shadowAtMm = {between(20, 180), between(20, 240)};
    out.seed = seed;
    return out;
}

base::Result<PrintRun> runOf(const job::State& state, const job::PrintPage& page, const PrintErrors& errors,
                             const job::Decoded& art, const RunOptions& options,
                             const base::Progress& progress) {
    auto painted = job::paintedPage(state, page, false, kDpi, art, progress, true);
    if (!painted)
        return painted.error();
    const job::PrintedPage bare = painted.take();
    PrintRun out{errors, {}, {}, {}, {}, {}};
    registration::Registration found; // cut where it is meant to lie
    if (options.isRead && page.layout.hasMarks()) {
        std::vector<registration::Mark> marks;
        std::optional<registration::Mark> bar;
        if (options.hasCamera) {
            job::PrintedPage whole = bare;
            job::addMarks(whole, page, false);
            auto seen = photographed(whole.picture.picture(), whole.pxPerMm, errors, page.layout,
                                     options.camera, progress);
            if (!seen)
                return seen.error();
            out.photo = seen.take();
            marks = out.photo->marks;
            bar = out.photo->bar;
        } else {
            marks = sensed(errors, page.layout);
        }
        auto read = registration::registered(marks, bar);
        if (!read) {
            out.whyNot = read.error().message;
            out.picture = bare.picture.picture();
            return out;
        }
        found = read.take();
        out.found = found;
    }
    const CutAgainstPrint cut = cutBy(found, errors, state.job.print.standing, page.layout, {});
    Cutting cutting(bare, cut.onPrint);
    for (const job::OnPage& piece : job::piecesOn(state, page, false)) {
        if (progress.isCancelled())
            return base::cancelled();
        out.pieces.push_back(cutting.cut(piece));
    }
    out.picture = cutting.picture();
    return out;
}

std::string runText(const PrintRun& run) {
    if (!run.whyNot.empty())
        return "not cut: " + run.whyNot;
    double worst = 0, white = 0;
    int whites = 0, texts = 0;
    for (const PrintedPiece& piece : run.pieces) {
        constexpr double kSeenMm2 = 0.2; // less is the softness of an edge
        worst = std::max(worst, piece.worstMm);
        white += piece.whiteMm2;
        whites += piece.whiteMm2 > kSeenMm2 ? 1 : 0;
        texts += piece.isTextCut ? 1 : 0;
    }
    std::string out = "cut and print are apart by " + base::formatNumber(worst, 2) + " mm at the most";
    out += whites > 0 ? ", " + base::counted(whites, "piece") + " with a white edge, " +
                            base::formatNumber(white, 1) + " mm² of it"
                      : ", no white edge";
    if (texts > 0)
        out += ", text cut off on " + base::counted(texts, "piece");
    return out;
}

} // namespace thinline::devices
