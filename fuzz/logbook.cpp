// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/Exchange.h"

#include <cstdlib>

using namespace thinline;

/// Any bytes are read as a list of entries or refused with a sentence; what is read may be entered, and comes back the same.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto entries = logbook::readEntries({reinterpret_cast<const char*>(data), size});
    if (!entries) {
        if (entries.error().message.empty())
            std::abort();
        return 0;
    }
    for (const logbook::Entry& entry : *entries)
        if (!logbook::checkEntry(entry))
            std::abort();
    const auto again = logbook::readEntries(logbook::csvOf(*entries));
    if (!again || *again != *entries)
        std::abort();
    return 0;
}
