// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCoreApplication>
#include <gtest/gtest.h>

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv); // finds the picture codecs
    testing::InitGoogleTest(&argc, argv);
    return RUN_ALL_TESTS();
}
