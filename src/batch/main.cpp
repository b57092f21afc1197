// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Commands.h"
#include "document/DiskFileStore.h"
#include "document/DiskFontStore.h"
#include "document/PageProcess.h"

#include <QCoreApplication>
#include <QFileInfo>

#include <fcntl.h>
#include <iostream>
#include <sstream>
#include <unistd.h>

namespace {

/// Picture libraries write to standard error by themselves, in words for their makers. What is said there is ours alone:
/// it goes to a copy of the place, and the place itself leads nowhere. While we look for mistakes of our own it stays.
class OnlyOurs {
  public:
    OnlyOurs() {
#ifdef NDEBUG
        m_place = ::dup(STDERR_FILENO);
        const int nowhere = ::open("/dev/null", O_WRONLY | O_CLOEXEC);
        ::dup2(nowhere, STDERR_FILENO);
        ::close(nowhere);
#endif
    }
    void say(const std::string& text) const {
        size_t done = 0;
        while (done < text.size()) {
            const ssize_t wrote = ::write(m_place, text.data() + done, text.size() - done);
            if (wrote <= 0)
                return;
            done += static_cast<size_t>(wrote);
        }
    }

  private:
    int m_place = STDERR_FILENO;
};

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv); // finds the picture codecs
    const QString installed = QCoreApplication::applicationDirPath() + "/../share/thinline/demo";
    const std::string demo = QFileInfo::exists(installed) ? installed.toStdString() : THINLINE_DEMO_FOLDER;
    thinline::document::DiskFileStore store;
    const thinline::document::DiskFontStore fonts;
    const thinline::document::PageProcess pages;
    const OnlyOurs standardError;
    std::ostringstream err;
    const int code = thinline::batch::run({argv + 1, argv + argc}, store, fonts, pages, demo, std::cout, err);
    std::cout.flush();
    standardError.say(err.str());
    return code;
}
