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
    static const std::string kDrawing = "<svg xmlns='http://www.w3.org/2000/svg'><rect width='9' height='9'/></svg>";
    std::map<std::string, formats::zip::Entry> entries;
    entries["job.json"] = {base::Bytes(data, data + size), false};
    for (const char* name : {"artwork", "drawing-1", "drawing-2"})
        entries[name] = {base::Bytes(kDrawing.begin(), kDrawing.end()), false};
    const auto archive = formats::zip::writeArchive(entries);
    const auto job = document::readJob(*archive);
    if (!job || !job->stack)
        return 0;
    for (const design::Layer& layer : job->stack->layers)
        for (const design::Piece& piece : layer.pieces)
            if (!geometry::isFinite(*piece.shape))
                return 0; // sizes may overflow; what matters is that nothing breaks
    const auto written = document::writeJob(*job);
    if (!written || !document::readJob(*written))
        std::abort();
    return 0;
}
