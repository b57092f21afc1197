// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Any text as the description in a job file: the job is read or refused; one that is read can be written, and comes
// back the same.

#include "document/JobFile.h"
#include "formats/zip/Archive.h"

#include <cstdint>
#include <cstdlib>

using namespace thinline;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const std::string kDrawing =
        "<svg xmlns='http://www.w3.org/2000/svg'><rect width='9' height='9'/></svg>";
    static const auto drawing = std::make_shared<const base::Bytes>(kDrawing.begin(), kDrawing.end());
    static const std::string kKept =
        R"({"pieces": [{"key": "1", "name": "a plate", "path": "M0 0L9 0L9 9L0 9Z"}]})";
    static const auto kept = std::make_shared<const base::Bytes>(kKept.begin(), kKept.end());
    std::map<std::string, formats::zip::Entry> entries;
    entries["job.json"] = {std::make_shared<const base::Bytes>(data, data + size)};
    for (const char* name : {"artwork", "drawing-1", "drawing-2", "artwork-1", "artwork-2"})
        entries[name] = {drawing};
    for (const char* name : {"kept/source-1.json", "kept/source-2.json"})
        entries[name] = {kept};
    const auto archive = formats::zip::writeArchive(entries);
    const auto state = document::readJob(*archive);
    if (!state || !state->made.work())
        return 0;
    for (const design::Laid& laid : state->made.work()->pieces)
        if (!geometry::isFinite(laid.shape()))
            return 0; // sizes may overflow; what matters is that nothing breaks
    const auto written = document::writeJob(*state);
    if (!written || !document::readJob(*written))
        std::abort();
    return 0;
}
