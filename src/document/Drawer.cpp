// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The drawer is a file of its own because it outlives jobs: what somebody owns is the same tomorrow. It has the stocks
// in the very words of the job file, read by the same functions, so that nothing can be kept in one and lost in the
// other. A drawer that cannot be read costs nothing but a sentence: new jobs begin with the stocks that ship.
#include "document/Drawer.h"

#include "document/JobJson.h"
#include "job/StockSteps.h"

namespace thinline::document {

using base::Code;
using base::Error;

base::Result<design::Drawer> readDrawer(const base::FileStore& store, const std::string& path) {
    constexpr std::uint64_t kMostBytes = 4 << 20;
    const auto bytes = store.read(path, kMostBytes);
    if (!bytes)
        return bytes.error();
    const auto broken = [&](const std::string& why) {
        return Error{Code::ParseError, path + " is no drawer of stocks: " + why};
    };
    try {
        const json in = parsedWithin(*bytes, "it");
        if (formatOf(in) > kDrawerFormat)
            return broken("it was written by a newer program.");
        design::Drawer out{stocksOf(in.at("stocks")), keepOutsOf(in)};
        if (in.contains("machine"))
            out.machine = machineOf(in.at("machine"));
        for (const design::Stock& stock : out.stocks)
            if (auto ok = job::checkStock(out.stocks, stock); !ok)
                return broken(ok.error().message);
        return out;
    } catch (const BadJob& bad) {
        return broken(bad.message + ".");
    } catch (const json::exception&) {
        return broken("something in it is of another kind than it must be.");
    }
}

base::Status writeDrawer(base::FileStore& store, const std::string& path, const design::Drawer& drawer) {
    json out{{"format", kDrawerFormat}, {"stocks", stocksJson(drawer.stocks)}};
    putKeepOuts(out, drawer.keepOuts);
    if (drawer.machine)
        out["machine"] = machineJson(*drawer.machine);
    const std::string text = out.dump(1) + "\n";
    return store.writeWhole(path, base::Bytes(text.begin(), text.end()));
}

} // namespace thinline::document
