// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/StartPage.h"

#include "app/stations/Fields.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

void clear(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        if (item->layout())
            clear(item->layout());
        delete item;
    }
}

QLabel* heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setObjectName("heading");
    return label;
}

} // namespace

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    setObjectName("panel");
    auto* outer = new QHBoxLayout(this);
    auto* column = new QVBoxLayout;
    outer->addStretch(1);
    outer->addLayout(column);
    outer->addStretch(1);
    column->addStretch(2);
    auto* title = new QLabel(tr("From a drawing to clean sheets on a mat"));
    title->setObjectName("question");
    auto* help =
        sentenceLabel(tr("Open an ink drawing, and its areas become pieces of card on a dark backing, "
                         "at true size, laid on your sheets."),
                      "help");
    help->setFixedWidth(620);
    column->addWidget(title);
    column->addWidget(help);
    column->addSpacing(20);
    auto* buttons = new QHBoxLayout;
    auto* demo = new QPushButton(tr("Open the Gull Point lighthouse"));
    demo->setObjectName("main");
    demo->setToolTip(tr("A finished job to look around in"));
    auto* picture = new QPushButton(tr("Open a picture, drawing or job…"));
    picture->setToolTip(tr("PNG, JPEG or a Thin Line job (Ctrl+O)"));
    auto* pennants = new QPushButton(tr("Open the signal pennants"));
    pennants->setToolTip(tr("A finished job with lifted layers and letters of film that stay together"));
    buttons->addWidget(demo);
    buttons->addWidget(picture);
    buttons->addStretch(1);
    auto* more = new QHBoxLayout;
    auto* lantern = new QPushButton(tr("Open the ship's lantern"));
    lantern->setToolTip(tr("A finished job with folds, a glue flap and panes; for a battery light only"));
    more->addWidget(pennants);
    more->addWidget(lantern);
    auto* tall = new QPushButton(tr("Open the tall lighthouse"));
    tall->setToolTip(tr("A finished job larger than its mats, divided into parts with keys"));
    more->addWidget(tall);
    auto* tide = new QPushButton(tr("Open the tide card"));
    tide->setToolTip(tr("A finished job that is printed: a picture on board, a tag of film with two printed faces"));
    more->addStretch(1);
    auto* further = new QHBoxLayout; // a row of five would be wider than a small window
    further->addWidget(tide);
    auto* salt = new QPushButton(tr("Open the salt canister"));
    salt->setToolTip(tr("A round box made from measures, which can be seen folded"));
    further->addWidget(salt);
    further->addStretch(1);
    column->addLayout(buttons);
    column->addLayout(more);
    column->addLayout(further);
    auto* drop = new QLabel(tr("You can also drop a file anywhere on this window."));
    drop->setObjectName("soft");
    column->addWidget(drop);
    column->addSpacing(20);
    m_lost = new QVBoxLayout;
    m_recent = new QVBoxLayout;
    m_lost->setSpacing(4);
    m_recent->setSpacing(2);
    column->addLayout(m_lost);
    column->addLayout(m_recent);
    column->addStretch(3);
    auto* caution =
        new QLabel(tr("Blades cut. Follow the instructions of your machine's and your blades' makers."));
    caution->setObjectName("soft");
    column->addWidget(caution);
    connect(demo, &QPushButton::clicked, this, [this] { emit wantsDemo("gull-point-lighthouse.thinline"); });
    connect(pennants, &QPushButton::clicked, this,
            [this] { emit wantsDemo("gull-point-pennants.thinline"); });
    connect(lantern, &QPushButton::clicked, this, [this] { emit wantsDemo("gull-point-lantern.thinline"); });
    connect(tall, &QPushButton::clicked, this, [this] { emit wantsDemo("gull-point-tall.thinline"); });
    connect(tide, &QPushButton::clicked, this, [this] { emit wantsDemo("gull-point-tide.thinline"); });
    connect(salt, &QPushButton::clicked, this, [this] { emit wantsDemo("gull-point-canister.thinline"); });
    connect(picture, &QPushButton::clicked, this, &StartPage::wantsPicture);
}

void StartPage::refresh(const QStringList& recent, const std::vector<document::Recovery::Lost>& lost) {
    clear(m_lost);
    clear(m_recent);
    if (!lost.empty()) {
        m_lost->addWidget(heading(tr("Unsaved work from a session that ended unexpectedly")));
        for (const document::Recovery::Lost& one : lost) {
            auto* row = new QHBoxLayout;
            const QString origin = QString::fromStdString(one.origin.path);
            auto* text = new QLabel(origin.isEmpty() ? tr("a job that was never saved")
                                                     : QFileInfo(origin).fileName());
            text->setToolTip(origin);
            auto* back = new QPushButton(tr("Have it back"));
            auto* drop = new QPushButton(tr("Throw it away"));
            drop->setObjectName("link");
            row->addWidget(text, 1);
            row->addWidget(back);
            row->addWidget(drop);
            m_lost->addLayout(row);
            connect(back, &QPushButton::clicked, this, [this, one] { emit wantsRecovery(one); });
            connect(drop, &QPushButton::clicked, this, [this, one] { emit wantsForgetting(one); });
        }
        m_lost->addSpacing(16);
    }
    m_recent->addWidget(heading(tr("Recent jobs")));
    if (recent.isEmpty()) {
        auto* none = new QLabel(tr("Jobs you save are listed here."));
        none->setObjectName("soft");
        m_recent->addWidget(none);
    }
    for (const QString& path : recent) {
        auto* button = new QPushButton(QFileInfo(path).completeBaseName());
        button->setObjectName("link");
        button->setToolTip(path);
        button->setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Fixed);
        m_recent->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, path] { emit wantsJob(path); });
    }
}

} // namespace thinline::app
