// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The bench with 100,000 nodes: how long a frame takes while panning and zooming, how long until it is sharp
// again; how long the window takes to stand; how long a step keeps the interface waiting with 2000 pieces. Run with QT_QPA_PLATFORM=offscreen or in a real display.

#include "BenchJobs.h"
#include "app/MainWindow.h"
#include "app/bench/tools/LayTool.h"
#include "app/settings/Theme.h"
#include "app/stations/CutStation.h"
#include "document/DiskFileStore.h"
#include "document/DiskFontStore.h"
#include "document/PageProcess.h"
#include "job/LayerSteps.h"
#include "support/Stacks.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QImage>
#include <QMouseEvent>
#include <QPainter>
#include <QTemporaryDir>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <numbers>
#include <numeric>
#include <vector>

namespace {

using namespace thinline;
using bench::Times;

/// Wavy discs of 100 curve nodes each, 1000 of them: a busy sheet.
std::shared_ptr<const app::Scene> busyScene(int& nodes) {
    std::vector<app::SceneItem> items;
    for (int i = 0; i < 1000; ++i) {
        geometry::Contour contour;
        constexpr int kNodes = 100;
        const auto at = [](double step) {
            const double turn = step * 2 * std::numbers::pi / kNodes, radius = 7 + 1.2 * std::sin(9 * turn);
            return geometry::Point{radius * std::cos(turn), radius * std::sin(turn)};
        };
        contour.start = at(0);
        for (int k = 1; k <= kNodes; ++k)
            contour.segments.push_back(
                geometry::Segment::curve(at(k - 0.667), at(k - 0.333), at(k % kNodes)));
        nodes += kNodes;
        items.push_back({std::make_shared<const design::Body>(design::Body{{contour, {}}}),
                         geometry::Transform::move({i % 40 * 18.0, i / 40 * 18.0}),
                         {60, 125, 140},
                         design::PieceId::found(design::SourceId{1}, std::to_string(i + 1))});
    }
    return std::make_shared<const app::Scene>(std::make_shared<app::Outlines>(),
                                              std::vector<app::SceneGhost>{}, std::move(items));
}

double untilSharp(app::BenchView& view) {
    QElapsedTimer timer;
    timer.start();
    while (!view.isSharp())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
    return static_cast<double>(timer.nsecsElapsed()) / 1e6;
}

double frame(app::BenchView& view) {
    QElapsedTimer timer;
    timer.start();
    view.repaint();
    return static_cast<double>(timer.nsecsElapsed()) / 1e6;
}

void measureBench() {
    int nodes = 0;
    app::BenchView view;
    view.resize(976, 583);
    view.setScene(busyScene(nodes), false);
    view.show();
    untilSharp(view);
    Times pan, zoom, sharp;
    for (int i = 0; i < 60; ++i) {
        const geometry::Point middle = view.toBench(QPointF(488, 290));
        const double zoomNow = view.pxPerMm(), width = 976 / zoomNow, height = 583 / zoomNow;
        const bool isZoom = i % 3 == 2;
        const double factor = isZoom ? (i % 2 ? 1.35 : 0.74) : 1;
        const geometry::Point shift = isZoom ? geometry::Point{} : geometry::Point{12 / zoomNow, 5 / zoomNow};
        const geometry::Point half{width / 2 / factor - 24 / zoomNow / factor,
                                   height / 2 / factor - 40 / zoomNow / factor};
        view.zoomTo({middle + shift - half, middle + shift + half});
        (isZoom ? zoom : pan).ms.push_back(frame(view));
        sharp.ms.push_back(untilSharp(view));
    }
    std::printf("bench of %d nodes, 976 x 583 px\n", nodes);
    std::printf("  frame while panning    median %6.2f ms   worst %6.2f ms\n", pan.median(), pan.most());
    std::printf("  frame while zooming    median %6.2f ms   worst %6.2f ms\n", zoom.median(), zoom.most());
    std::printf("  until sharp again      median %6.2f ms   worst %6.2f ms\n", sharp.median(), sharp.most());
}

/// Knows how long the interface was kept from anything else by one event.
class TimedApplication : public QApplication {
  public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        if (m_depth > 0)
            return QApplication::notify(receiver, event);
        QElapsedTimer timer;
        timer.start();
        ++m_depth;
        const bool result = QApplication::notify(receiver, event);
        --m_depth;
        longestMs = std::max(longestMs, static_cast<double>(timer.nsecsElapsed()) / 1e6);
        return result;
    }
    double longestMs = 0;

  private:
    int m_depth = 0;
};

/// A window of the usual size with everything it needs.
struct OpenWindow {
    QTemporaryDir folder;
    document::DiskFileStore store;
    document::DiskFontStore fonts;
    document::PageProcess pages;
    app::MainWindow window{store, fonts, pages, folder.path(), THINLINE_SOURCE_DIR "/demo"};

    OpenWindow() {
        window.resize(1280, 800);
        window.show();
    }
    /// Waits until a job is there and everything of it is drawn.
    void settle() {
        const app::Workbench& bench = window.bench();
        do
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
        while (!bench.hasPieces() || bench.isBehind() || bench.isBusy() || !window.benchView()->isSharp());
    }
};

/// A click on one of 2000 pieces and what it brings, at Trace with the side view: the step itself, and the longest
/// time one event takes until everything is drawn again.
void measureSteps(TimedApplication& qt) {
    OpenWindow opened;
    app::MainWindow& window = opened.window;
    app::Workbench& bench = window.bench();
    const std::string svg = bench::svgOfDiscs(2000, 24);
    bench.openBytes({svg.begin(), svg.end()}, "discs.svg");
    opened.settle();
    window.goTo(app::Station::Size);
    opened.settle();
    const std::vector<design::Laid> pieces = bench.work()->pieces;
    const std::vector<design::Layer> layers = bench.work()->layers;
    std::printf("%zu pieces in %zu layers, at Size\n", pieces.size(), layers.size());
    const auto measure = [&](const char* what, const std::function<void(size_t)>& step) {
        Times times, events;
        for (size_t i = 0; i < 15; ++i) {
            times.ms.push_back(bench::msOf([&] { step(i); }));
            qt.longestMs = 0;
            opened.settle();
            events.ms.push_back(qt.longestMs);
        }
        std::printf("  %-16s the step %6.2f ms, worst %6.2f; longest event after it %6.2f ms, worst %6.2f\n",
                    what, times.median(), times.most(), events.median(), events.most());
    };
    measure("paint one", [&](size_t i) {
        const std::string& stock = bench.job().stocks[i % bench.job().stocks.size()].id;
        bench.act("Paint", job::painted(bench.job(), {pieces[i * 97].id()}, stock));
    });
    measure("paint a hundred", [&](size_t i) {
        std::vector<design::PieceId> ids;
        for (size_t k = 0; k < 100; ++k)
            ids.push_back(pieces[(i * 100 + k) % pieces.size()].id());
        bench.act("Paint", job::painted(bench.job(), ids, bench.job().stocks[i % 2].id));
    });
    measure("lift a layer", [&](size_t i) {
        bench.act("Lift", job::withLayerLift(bench.job(), layers[0].id, static_cast<double>(i % 3)));
    });
    measure("hide a layer", [&](size_t i) {
        bench.act("Hide", job::withLayerHidden(bench.job(), layers.back().id, i % 2 == 0));
    });
    measure("move the line", [&](size_t i) {
        app::CrossSection* section = window.sideView()->section();
        const geometry::Box& work = section->work();
        section->setLine({{work.centre().x, work.least.y + work.height() * static_cast<double>(i + 1) / 17.0},
                          0.2 * static_cast<double>(i)});
    });
    measure("undo", [&](size_t) { bench.undo(); });
    measure("redo", [&](size_t) { bench.redo(); });
    bench.abandon();
}

/// Going through all stations with so many pieces: the longest time one event kept the interface from anything else, on
/// arriving and until everything there stands still.
void measureStations(TimedApplication& qt, int count) {
    OpenWindow opened;
    app::MainWindow& window = opened.window;
    app::Workbench& bench = window.bench();
    constexpr qint64 kLongEnoughMs = 10000; // what a worker still does then goes on unheard
    const auto settle = [&] {
        QElapsedTimer timer;
        timer.start();
        do
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
        while (!bench.hasPieces() || (timer.elapsed() < kLongEnoughMs &&
                                      (bench.isBehind() || bench.isBusy() || !bench.isInspected() ||
                                       !window.benchView()->isSharp() || !window.here()->isSettled())));
    };
    const std::string svg = bench::svgOfDiscs(count, 24);
    qt.longestMs = 0;
    bench.openBytes({svg.begin(), svg.end()}, "discs.svg");
    settle();
    std::printf("%d pieces: longest silence while opening %.0f ms\n", count, qt.longestMs);
    for (const char* round : {"first", "again"})
        for (const app::StationInfo& info : app::stationInfos()) {
            if (info.promise)
                continue;
            qt.longestMs = 0;
            const double arriving = bench::msOf([&] { window.goTo(info.station); });
            settle();
            std::printf("  %-8s %s: arriving %6.1f ms, longest event after it %6.1f ms\n", info.name, round,
                        arriving, qt.longestMs);
        }
    bench.abandon();
}

/// The simulated cutter runs a load of 500 pieces: what a frame costs, words and answer included.
void measureCutting() {
    OpenWindow opened;
    app::MainWindow& window = opened.window;
    app::Workbench& bench = window.bench();
    std::string svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='290mm' height='240mm' viewBox='0 0 290 240'>";
    constexpr int kPieces = 500, kAcross = 25;
    for (int i = 0; i < kPieces; ++i)
        svg += "<circle fill='#2f6f8f' r='4.4' cx='" + std::to_string(5 + i % kAcross * 11.5) + "' cy='" +
               std::to_string(5 + i / kAcross * 11.5) + "'/>";
    svg += "</svg>";
    bench.openBytes({svg.begin(), svg.end()}, "discs.svg");
    opened.settle();
    window.goTo(app::Station::Cut);
    auto* cut = window.panel<app::CutStation>();
    while (!cut->plan() || !cut->isSettled())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
    opened.settle();
    Times frames;
    constexpr int kFrames = 600;
    for (int i = 0; i <= kFrames; ++i)
        frames.ms.push_back(bench::msOf([&] {
            cut->lookAt(0, static_cast<double>(i) / kFrames);
            window.benchView()->repaint();
        }));
    std::printf("simulated cutter, %zu pieces on the first of %zu loads: a frame %.2f ms, worst %.2f of %d\n",
                bench.made().sheets->loads[0].sheets[0].pieces.size(), cut->plan()->loads.size(),
                frames.median(), frames.most(), kFrames);
    bench.abandon();
}

/// A hand drags a piece over the others of its mat: what one move costs until it is drawn, overlaps marked.
void measureDragging() {
    OpenWindow opened;
    app::MainWindow& window = opened.window;
    app::Workbench& bench = window.bench();
    const std::string svg = bench::svgOfDiscs(500, 24);
    bench.openBytes({svg.begin(), svg.end()}, "discs.svg");
    opened.settle();
    window.goTo(app::Station::Sheets);
    QElapsedTimer waited; // better layouts come in for as long as one looks
    waited.start();
    while (!bench.made().sheets || waited.elapsed() < 3000)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
    app::BenchView& view = *window.benchView();
    const auto of = [](const design::PlacedSheet& sheet) { return sheet.pieces.size(); };
    const auto& sheets = bench.made().sheets->loads.at(0).sheets;
    const design::PlacedSheet& sheet = *std::max_element(
        sheets.begin(), sheets.end(), [&](const auto& a, const auto& b) { return of(a) < of(b); });
    const design::Laid& laid = *bench.work()->find(sheet.pieces.at(0).what.piece);
    const geometry::Point begin =
        geometry::bounds(
            geometry::transformed(laid.shape(), design::placement(laid.piece, sheet.pieces[0].pose)))
            .centre();
    const std::size_t beside = sheet.pieces.size();
    const auto send = [&](QEvent::Type type, geometry::Point mm, Qt::MouseButton button) {
        const QPointF at = view.toWidget(mm);
        QMouseEvent event(type, at, view.mapToGlobal(at), button,
                          type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&view, &event);
    };
    send(QEvent::MouseButtonPress, begin, Qt::LeftButton);
    Times moves;
    constexpr int kMoves = 300;
    for (int i = 1; i <= kMoves; ++i)
        moves.ms.push_back(bench::msOf([&] {
            send(QEvent::MouseMove, begin + geometry::Point{i * 0.5, i * 0.4}, Qt::NoButton);
            view.repaint();
        }));
    std::printf("a piece dragged over %zu others at Sheets: a move drawn %.2f ms, worst %.2f of %d\n",
                beside - 1, moves.median(), moves.most(), kMoves);
    bench.abandon();
}

void measureWindow() {
    const QTemporaryDir folder;
    document::DiskFileStore store;
    QElapsedTimer timer;
    timer.start();
    const document::DiskFontStore fonts;
    const document::PageProcess pages;
    app::MainWindow window(store, fonts, pages, folder.path(), THINLINE_SOURCE_DIR "/demo");
    window.show();
    QApplication::processEvents();
    std::printf("window built and shown in %.0f ms\n", static_cast<double>(timer.nsecsElapsed()) / 1e6);
    window.files().openDemo();
    while (!window.bench().hasPieces())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
    std::printf("demo job open after %.0f ms\n", static_cast<double>(timer.nsecsElapsed()) / 1e6);
    window.bench().abandon();
}

/// A hand drags a cluster of 2000 pieces: what one move costs until it is drawn.
void measureCluster() {
    std::vector<app::SceneItem> items;
    const auto body = std::make_shared<const design::Body>(design::Body{support::disc({0, 0}, 2)});
    for (int i = 0; i < 2000; ++i)
        items.push_back({body,
                         geometry::Transform::move({5.0 * (i % 50), 5.0 * (i / 50)}),
                         {60, 125, 140},
                         support::id(i + 1)});
    const app::Scene scene(std::make_shared<app::Outlines>(), {}, items);
    app::LayTool tool({[](const app::Pointer&) {}, [](const std::vector<size_t>&, const app::Laying&) {},
                       [](const app::SceneItem&) {},
                       [](const app::Scene& all, const app::SceneItem&) {
                           std::vector<size_t> others(all.items().size() - 1);
                           std::iota(others.begin(), others.end(), size_t{1});
                           return others;
                       },
                       [](const app::SceneItem&) { return 2.5; },
                       [] {
                           return std::vector<geometry::Box>{{{-1000, -1000}, {2000, 2000}}};
                       }});
    QImage image(950, 560, QImage::Format_ARGB32_Premultiplied);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    QElapsedTimer timer;
    timer.start();
    tool.press({{0, 0}, &scene, 0, true, false, 3});
    const double press = static_cast<double>(timer.nsecsElapsed()) / 1e6;
    double worst = 0;
    for (int i = 1; i <= 60; ++i) {
        timer.restart();
        tool.move({{0.5 * i, 0.2 * i}, &scene, 0, true, false, 3});
        tool.paint(painter, {3, {0, 0}, {0, 0}});
        worst = std::max(worst, static_cast<double>(timer.nsecsElapsed()) / 1e6);
    }
    std::printf(
        "drag a cluster of 2000 pieces: taking hold %.2f ms, a move drawn in %.2f ms at worst of 60\n", press,
        worst);
}

} // namespace

int main(int argc, char** argv) {
    QElapsedTimer timer;
    timer.start();
    std::setvbuf(stdout, nullptr, _IOLBF, 0);
    TimedApplication qt(argc, argv);
    app::applyTheme(qt, app::Theme::light());
    std::printf("toolkit ready after %.0f ms\n", static_cast<double>(timer.nsecsElapsed()) / 1e6);
    if (argc > 1 && std::string(argv[1]) == "cut") {
        measureCutting();
        return 0;
    }
    if (argc > 1 && std::string(argv[1]) == "drag") {
        measureDragging();
        return 0;
    }
    if (argc > 1) { // only the stations, with so many pieces
        measureStations(qt, std::atoi(argv[1]));
        return 0;
    }
    measureWindow();
    measureBench();
    measureCluster();
    measureCutting();
    measureDragging();
    measureSteps(qt);
    for (const int count : {2000, 20'000})
        measureStations(qt, count);
    return 0;
}
