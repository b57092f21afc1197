// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/Application.h"
#include "app/MainWindow.h"
#include "app/settings/Theme.h"
#include "app/stations/CutStation.h"
#include "app/stations/FoldsStation.h"
#include "app/stations/ShapeStation.h"
#include "app/stations/SheetsStation.h"
#include "app/stations/SourceStation.h"
#include "app/stations/SplitStation.h"
#include "document/DiskFileStore.h"
#include "document/DiskFontStore.h"
#include "document/PageProcess.h"

#include <QCommandLineParser>
#include <QFileInfo>
#include <QImageReader>
#include <QProcess>
#include <QSettings>
#include <QStandardPaths>
#include <QTimer>

#include <cstdio>

using namespace thinline;

namespace {

/// Plugins are never missed at build time: say at start what is not there.
QString missingPlugins() {
    const auto formats = QImageReader::supportedImageFormats();
    return formats.contains("jpeg") && formats.contains("png")
               ? QString()
               : QStringLiteral("Qt's picture plugins are missing, so PNG or JPEG cannot be opened; install "
                                "libqt6gui6 again.");
}

QString demoFolder() {
    const QString installed = QApplication::applicationDirPath() + "/../share/thinline/demo";
    return QFileInfo::exists(installed) ? QFileInfo(installed).canonicalFilePath()
                                        : QStringLiteral(THINLINE_DEMO_FOLDER);
}

/// Saves a picture of the window once everything in it stands still, then quits.
void photographWhenQuiet(app::MainWindow& window, const QString& path) {
    auto* timer = new QTimer(&window);
    QObject::connect(timer, &QTimer::timeout, &window, [&window, path, quiet = 0]() mutable {
        const app::Workbench& bench = window.bench();
        const bool isMoving = bench.isBusy() || bench.isPainting() ||
                              (bench.hasPicture() && !bench.picture()) ||
                              (bench.hasPieces() && !bench.isInspected()) || !window.benchView()->isSharp() ||
                              !window.here()->isSettled();
        quiet = isMoving ? 0 : quiet + 1;
        constexpr int kQuietTicks = 8;
        if (quiet < kQuietTicks)
            return;
        QWidget* asks = QApplication::activeModalWidget();
        const bool isSaved = (asks ? asks : &window)->grab().save(path);
        std::fprintf(isSaved ? stdout : stderr, isSaved ? "wrote %s\n" : "%s could not be written\n",
                     qPrintable(path));
        window.bench().abandon();
        QApplication::exit(isSaved ? 0 : 1);
    });
    constexpr int kTickMs = 100;
    timer->start(kTickMs);
}

/// Chooses an outcome at Shape and the pieces for it, "join:1:area.12,1:area.14", or what is done at Folds: "panes",
/// "fit-motif:1:path-1,2:figure"; what is open at Source, "folded"; what is printed, "print" at Shape and "pages" at Sheets; a
/// photo of the mat at Sheets, "photo:mat.jpg"; or how far apart, in per cent, the parts are shown at Split, "apart:20", or
/// "behind:20"; or how far a load is cut at Cut, "way:2:60".
void choose(app::MainWindow& window, const QString& wanted) {
    const QString action = wanted.section(':', 0, 0);
    if (action == QLatin1String("photo"))
        return window.panel<app::SheetsStation>()->showPhoto(wanted.section(':', 1));
    if (action == QLatin1String("print"))
        return window.panel<app::ShapeStation>()->showPrint();
    if (action == QLatin1String("folded"))
        return window.panel<app::SourceStation>()->seeFolded();
    if (action == QLatin1String("pages"))
        return window.panel<app::SheetsStation>()->showPages();
    if (action == QLatin1String("apart") || action == QLatin1String("behind"))
        return window.panel<app::SplitStation>()->lookApart(wanted.section(':', 1).toDouble() / 100,
                                                            action == QLatin1String("behind"));
    if (action == QLatin1String("way"))
        return window.panel<app::CutStation>()->lookAt(wanted.section(':', 1, 1).toUInt() - 1,
                                                       wanted.section(':', 2).toDouble() / 100);
    std::vector<design::PieceId> pieces;
    for (const QString& word : wanted.section(':', 1).split(','))
        if (const auto id = design::PieceId::read(word.toStdString()))
            pieces.push_back(*id);
    for (const shape::ActionInfo& info : shape::actionInfos())
        if (action == QLatin1String(info.name))
            window.panel<app::ShapeStation>()->choose(info.action, pieces);
    for (const folds::ActionInfo& info : folds::actionInfos())
        if (action == QLatin1String(info.name))
            window.panel<app::FoldsStation>()->choose(info.action, pieces);
}

} // namespace

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM") && qEnvironmentVariableIsEmpty("DISPLAY") &&
        qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY")) {
        std::fputs("thinline: There is no display. Use thinline-batch, or set QT_QPA_PLATFORM=offscreen "
                   "together with --picture.\n",
                   stderr);
        return 1;
    }
    app::Application qt(argc, argv);
    QApplication::setApplicationName("thinline");
    QApplication::setOrganizationName("thinline");
    QApplication::setApplicationDisplayName("Thin Line");
    QApplication::setApplicationVersion("0.1.0");
    QApplication::setDesktopFileName("thinline");

    QCommandLineParser parser;
    parser.setApplicationDescription("Thin Line turns drawings into pieces of card for a knife cutter.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("file", "A picture, a drawing (SVG, DXF, PDF) or a .thinline job to open.",
                                 "[file]");
    parser.addOption({"demo", "Open the Gull Point lighthouse."});
    parser.addOption(
        {"station",
         "Go to a station after opening: source, trace, shape, size, folds, split, sheets or pack.", "name"});
    parser.addOption({"choose", "At Shape, choose an outcome and pieces, such as join:1:area.12,1:area.14.",
                      "outcome:pieces"});
    parser.addOption({"picture", "Write a picture of the window to a PNG file and quit.", "file.png"});
    parser.addOption({"dark", "Use dark colours this time."});
    parser.process(qt);

    const bool isDark = parser.isSet("dark") || QSettings().value("dark").toBool();
    const QString missingFont = app::applyTheme(qt, isDark ? app::Theme::dark() : app::Theme::light());

    document::DiskFileStore store;
    const document::DiskFontStore fonts;
    const document::PageProcess pages;
    const QString recovery =
        QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + "/unsaved";
    app::MainWindow window(store, fonts, pages, recovery, demoFolder());
    QObject::connect(&window.files(), &app::JobFiles::wantsAnotherWindow, &window, [](const QString& path) {
        QProcess::startDetached(QCoreApplication::applicationFilePath(), {path});
    });
    // A picture is the same every time: so many steps, whatever the machine.
    window.bench().setLookFor({20, parser.isSet("picture") ? 300'000 : 0, true});
    window.show();
    for (const QString& problem : {missingFont, missingPlugins()})
        if (!problem.isEmpty())
            emit window.bench().failed(problem);
    if (parser.isSet("station"))
        QObject::connect(&window.bench(), &app::Workbench::opened, &window, [&] {
            for (const app::StationInfo& info : app::stationInfos())
                if (parser.value("station").compare(QLatin1String(info.name), Qt::CaseInsensitive) == 0)
                    window.goTo(info.station);
        });
    if (parser.isSet("choose"))
        QObject::connect(&window.bench(), &app::Workbench::opened, &window,
                         [&] { choose(window, parser.value("choose")); });
    if (!parser.positionalArguments().isEmpty())
        window.files().open(parser.positionalArguments().first());
    else if (parser.isSet("demo"))
        window.files().openDemo();
    if (parser.isSet("picture"))
        photographWhenQuiet(window, parser.value("picture"));
    return QApplication::exec();
}
