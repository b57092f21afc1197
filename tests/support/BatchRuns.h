// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Commands.h"
#include "document/JobFile.h"
#include "support/Fonts.h"
#include "support/Jobs.h"
#include "support/Pages.h"
#include "support/Stores.h"

#include <gtest/gtest.h>

#include <sstream>

namespace thinline::support {

/// Calls of the batch tool on files in memory; `Base` is the kind of test.
template <class Base = testing::Test>
class BatchRuns : public Base {
  protected:
    int call(const std::vector<std::string>& arguments) {
        m_out.str("");
        m_err.str("");
        return batch::run(arguments, m_store, m_fonts, m_pages, "demo", m_out, m_err);
    }
    job::State state(const std::string& path = "job.thinline") {
        return must(document::loadJob(m_store, path)).state;
    }
    /// Whether the last call told these words.
    bool told(const std::string& words) const { return m_out.str().find(words) != std::string::npos; }

    MemoryFileStore m_store;
    MemoryFontStore m_fonts = shippedFonts();
    PagesInPlace m_pages;
    std::ostringstream m_out, m_err;
};

} // namespace thinline::support
