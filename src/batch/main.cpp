// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Commands.h"
#include "document/DiskFileStore.h"
#include "document/DiskFontStore.h"
#include "document/PageProcess.h"

#include <QCoreApplication>
#include <QFileInfo>

#include <iostream>

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv); // finds the picture codecs
    const QString installed = QCoreApplication::applicationDirPath() + "/../share/thinline/demo";
    const std::string demo = QFileInfo::exists(installed) ? installed.toStdString() : THINLINE_DEMO_FOLDER;
    thinline::document::DiskFileStore store;
    const thinline::document::DiskFontStore fonts;
    const thinline::document::PageProcess pages;
    return thinline::batch::run({argv + 1, argv + argc}, store, fonts, pages, demo, std::cout, std::cerr);
}
