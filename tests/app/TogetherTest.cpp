// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Clusters, stocks, several pictures and typed places, by mouse and keys.
#include "Driver.h"
#include "app/stations/CutStation.h"
#include "app/stations/StockDialog.h"
#include "document/Drawer.h"
#include "support/Jobs.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QListWidget>
#include <QPainter>

namespace thinline::app {
namespace {

class TogetherTest : public WindowTest {
  protected:
    void openWord() {
        const job::State state =
            support::withFigure(support::withWord(support::emptyState(), support::word("QUAY")),
                                construct::Figure::Ring, {60, 40}, "lamp");
        ASSERT_TRUE(document::saveJob(m_store, path("quay.thinline").toStdString(), state));
        m_window->files().open(path("quay.thinline"));
        ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
        ASSERT_TRUE(waitUntilQuiet());
    }
    SceneItem itemOf(design::PieceId id, int copy = 0) {
        for (const SceneItem& item : view()->scene()->items())
            if (item.piece == id && item.copy == copy)
                return item;
        return {};
    }
    geometry::Point middle(const SceneItem& item) { return item.map(geometry::pointInside(item.shape())); }
    void typeNumber(QDoubleSpinBox* box, const QString& number) {
        ASSERT_NE(box, nullptr);
        box->setFocus();
        box->selectAll();
        QTest::keyClicks(box, number);
        QTest::keyClick(box, Qt::Key_Return);
    }
};

TEST_F(TogetherTest, LettersAreKeptTogetherDraggedAndPartedAgain) {
    openWord();
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().sheets != nullptr; }));
    ASSERT_TRUE(waitUntilQuiet());
    const design::PieceId q = work().pieces[0].id(), u = work().pieces[1].id();
    clickBench(middle(itemOf(q)));
    clickBench(middle(itemOf(u)));
    QTest::mouseClick(buttonOf("Keep these together"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().clusters.size() == 1; }));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().sheets != nullptr; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(named<QPushButton>("Part the cluster into its pieces again"));
    // One letter is dragged, both are pinned and keep their distance.
    const geometry::Point apart = middle(itemOf(u)) - middle(itemOf(q)), from = middle(itemOf(q));
    dragBench(from, from + geometry::Point{30, 80});
    ASSERT_TRUE(waitFor([this] { return job().plan.pins.size() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(itemOf(q).isPinned());
    EXPECT_TRUE(itemOf(u).isPinned());
    EXPECT_NEAR(middle(itemOf(q)).y, from.y + 80, 2);
    EXPECT_NEAR(geometry::distance(middle(itemOf(u)) - middle(itemOf(q)), apart), 0, 1e-6);
    // Copies are of the whole.
    auto* copies = named<QSpinBox>("Copies of the chosen piece");
    copies->setFocus();
    copies->selectAll();
    QTest::keyClicks(copies, "2");
    ASSERT_TRUE(waitFor([this] { return job().clusters[0].copies == 2; }));
    EXPECT_EQ(job().wishes.size(), 0u) << "nothing is said of the letters themselves";
    // A card of another stock cannot come along: a sentence says so.
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().sheets != nullptr; }));
    ASSERT_TRUE(waitUntilQuiet());
    clickBench(middle(itemOf(support::id("2:1"))));
    QTest::mouseClick(buttonOf("Keep these together"), Qt::LeftButton);
    EXPECT_EQ(job().clusters[0].pieces.size(), 2u);
    clickBench(middle(itemOf(support::id("2:1"))));
    QTest::mouseClick(buttonOf("Part them again"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().clusters.empty(); }));
    press(QKeySequence::Undo);
    EXPECT_EQ(job().clusters.size(), 1u);
}

TEST_F(TogetherTest, APictureIsCutOutAsASticker) {
    QImage gull(300, 200, QImage::Format_ARGB32);
    gull.fill(Qt::transparent);
    QPainter painter(&gull);
    painter.setBrush(QColor(60, 120, 150));
    painter.drawEllipse(QPointF(150, 100), 80, 50);
    painter.end();
    ASSERT_TRUE(gull.save(path("gull.png")));
    m_window->files().open(path("gull.png"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    ASSERT_TRUE(waitUntilQuiet());
    m_window->goTo(Station::Source);
    const double wideMm = job::sourceWidthMm(*job::pictureSource(job()));
    type(named<LengthField>("Rim of the sticker"), "5 mm");
    QTest::mouseClick(buttonOf("Cut it out as a sticker"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(work().pieces.size(), 1u);
    // 161 of 300 px are shown, the painter's thin line with them; and two rims.
    EXPECT_NEAR(geometry::bounds(work().pieces[0].shape()).width(), wideMm * 161 / 300 + 10, 0.1);
    EXPECT_EQ(work().pieces[0].piece.body->faces.size(), 1u);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_NE(job::pictureSource(job()), nullptr) << "the picture is back";
}

// A sheet of stickers: cut to the carrier inside a frame that goes through it, and one that comes off alone.
TEST_F(TogetherTest, StickersComeOffWithTheirCarrier) {
    openWord();
    job::Job film = job();
    for (design::Stock& stock : film.stocks)
        stock.cut = design::Depth::ToCarrier;
    m_window->bench().act("Film", film);
    ASSERT_TRUE(waitUntilQuiet());
    m_window->goTo(Station::Shape);
    ASSERT_TRUE(waitUntilQuiet());
    const design::PieceId first = work().pieces[0].id();
    clickBench(inside(first));
    auto* through = named<QCheckBox>("Cut the chosen through their carrier");
    ASSERT_NE(through, nullptr);
    ASSERT_TRUE(through->isVisible());
    QTest::mouseClick(through, Qt::LeftButton, {}, QPoint(8, through->height() / 2));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(work().find(first)->isCutThrough);
    EXPECT_TRUE(through->isChecked());
    m_window->goTo(Station::Cut);
    auto* cut = m_window->panel<CutStation>();
    ASSERT_TRUE(waitFor([cut] { return cut->plan() != nullptr; }));
    ASSERT_TRUE(waitUntilQuiet());
    auto* force = named<QSpinBox>("Force through the carrier");
    ASSERT_TRUE(force->isVisible());
    const int proposed = force->value();
    force->setFocus();
    force->selectAll();
    QTest::keyClicks(force, QString::number(proposed + 25));
    QTest::keyClick(force, Qt::Key_Return);
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(job().cut.settings.size(), 1u);
    EXPECT_EQ(job().cut.settings.begin()->second.throughGf, proposed + 25);
}

TEST_F(TogetherTest, StocksAreEditedAndKeptForNewJobs) {
    openWord();
    press(QKeySequence("Ctrl+2"));
    QTest::mouseClick(named<QPushButton>("Edit what the job may be cut from"), Qt::LeftButton);
    auto* dialog = m_window->findChild<StockDialog*>();
    ASSERT_NE(dialog, nullptr);
    auto* list = dialog->findChild<QListWidget*>();
    ASSERT_EQ(list->count(), static_cast<int>(job().stocks.size()));
    QTest::mouseClick(named<QPushButton>("Add a stock"), Qt::LeftButton);
    ASSERT_EQ(list->count(), static_cast<int>(job().stocks.size()));
    type(named<QLineEdit>("Name of the stock"), "clear film");
    EXPECT_EQ(job().stocks.back().name, "clear film");
    auto* kind = named<QComboBox>("Kind");
    kind->setFocus();
    QTest::keyClick(kind, Qt::Key_Down); // from card to vinyl
    EXPECT_EQ(job().stocks.back().kind, design::Stock::Kind::Vinyl);
    EXPECT_EQ(job().stocks.back().cut, design::Depth::ToCarrier);
    typeNumber(named<QDoubleSpinBox>("Thickness"), "0.1");
    EXPECT_DOUBLE_EQ(job().stocks.back().thicknessMm, 0.1);
    // Without a thickness there is no stock: told, and the old figure is back.
    typeNumber(named<QDoubleSpinBox>("Thickness"), "0");
    EXPECT_DOUBLE_EQ(job().stocks.back().thicknessMm, 0.1);
    EXPECT_DOUBLE_EQ(named<QDoubleSpinBox>("Thickness")->value(), 0.1);
    type(named<QLineEdit>("Sheets in the drawer"), "12 x 12 in; 210 x 297 mm");
    ASSERT_EQ(job().stocks.back().sizes.size(), 2u);
    EXPECT_DOUBLE_EQ(job().stocks.back().sizes[0].widthMm, 304.8);
    QTest::mouseClick(buttonOf("Keep these for new jobs"), Qt::LeftButton);
    const auto kept = support::must(document::readDrawer(m_store, path("drawer.json").toStdString()));
    EXPECT_EQ(kept.stocks, job().stocks);
    QTest::mouseClick(buttonOf("Done"), Qt::LeftButton);
    writeFile(path("shed.png"), support::shedPng());
    m_window->bench().open(path("shed.png"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().hasPicture(); }));
    EXPECT_EQ(job().stocks, kept.stocks);
}

TEST_F(TogetherTest, ASecondPictureIsTracedBesideTheFirst) {
    writeFile(path("shed.png"), support::shedPng());
    m_window->files().open(path("shed.png"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return areas() == 3; }));
    ASSERT_TRUE(waitUntilQuiet());
    press(QKeySequence("Ctrl+1"));
    QTest::mouseClick(buttonOf("Trace it once more"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().sources.size() == 2; }));
    const design::SourceId second = job().sources[1]->id;
    EXPECT_EQ(m_window->bench().pictureInHand(), second) << "what came in is in hand";
    ASSERT_TRUE(waitUntilQuiet());
    clickMain(); // traces the second one
    ASSERT_TRUE(waitFor([&] { return std::get<job::Picture>(job().sources[1]->what).tracing != nullptr; }));
    ASSERT_TRUE(waitUntilQuiet());
    // It lies where the first one lies: a part of a picture lands in its own place.
    EXPECT_NEAR(job().sources[1]->box().least.x, job().sources[0]->box().least.x, 1e-9);
    const auto first = job().sources[0];
    // A change at Trace changes the one in hand alone.
    turnTo(TraceStation::Page::Areas);
    QTest::mouseClick(buttonOf("Flat colours"), Qt::LeftButton);
    ASSERT_TRUE(waitFor(
        [&] { return std::get<job::Picture>(job().sources[1]->what).recipe.mode == trace::Mode::FlatArt; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(job().sources[0], first);
    // Placed and turned by typed numbers.
    press(QKeySequence("Ctrl+1"));
    ASSERT_TRUE(waitUntilQuiet());
    type(named<QLineEdit>("From the left"), "150 mm");
    ASSERT_TRUE(waitFor([&] { return std::abs(job().sources[1]->box().least.x - 150) < 1e-6; }));
    typeNumber(named<QDoubleSpinBox>("Turned by"), "90");
    ASSERT_TRUE(waitFor([&] { return job().sources[1]->turnRad != 0; }));
    EXPECT_NEAR(job().sources[1]->turnRad, std::numbers::pi / 2, 1e-9);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(job().sources[0], first);
    const job::State saved = m_window->bench().state();
    bool isWritten = false;
    m_window->bench().save(path("two.thinline"), document::Theirs::Keep,
                           [&](Workbench::Saved came) { isWritten = came == Workbench::Saved::Written; });
    ASSERT_TRUE(waitFor([&] { return isWritten; }));
    m_window->files().open(path("two.thinline"));
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().canUndo(); }));
    EXPECT_EQ(job().sources[1]->map(), saved.job.sources[1]->map());
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
}

TEST_F(TogetherTest, AGroupIsPlacedByTypedNumbers) {
    openWord();
    press(QKeySequence("Ctrl+3"));
    m_window->panel<ShapeStation>()->choose(shape::Action::Move,
                                            {work().pieces[0].id(), work().pieces[1].id()});
    ASSERT_TRUE(waitUntilQuiet());
    const auto group = [this] {
        geometry::Box box = geometry::bounds(work().pieces[0].shape());
        box.include(geometry::bounds(work().pieces[1].shape()));
        return box;
    };
    const double wide = group().width();
    type(named<QLineEdit>("From the left"), "-12.5 mm");
    ASSERT_TRUE(waitFor([&] { return std::abs(group().least.x + 12.5) < 1e-6; }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(buttonOf("Middle"), Qt::LeftButton);
    type(named<QLineEdit>("From the top"), "100");
    ASSERT_TRUE(waitFor([&] { return std::abs(group().centre().y - 100) < 1e-6; }));
    EXPECT_NEAR(group().width(), wide, 1e-9) << "they keep their distance";
    EXPECT_EQ(job().steps.size(), 2u);
}

} // namespace
} // namespace thinline::app
