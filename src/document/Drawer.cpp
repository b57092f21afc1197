// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The drawer is a file of its own because it outlives jobs: what somebody owns is the same tomorrow. It has the stocks
// in the very words of the job file, read by the same functions, so that nothing can be kept in one and lost in the
// other. A drawer that cannot be read costs nothing but a sentence: new jobs begin with the stocks that ship.
#include "document/Drawer.h"

#include "document/JobJson.h"
#include "job/StockSteps.h"
#include "sheets/Cards.h"

#include <algorithm>

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
        for (const json& one : in.value("scraps", json::array())) {
            design::Scrap scrap = scrapOf(one);
            if (scrap.drawerId < 1)
                return broken("a scrap has no number.");
            if (auto ok = sheets::checkScrap(scrap); !ok)
                return broken(ok.error().message);
            out.nextScrap = std::max(out.nextScrap, scrap.drawerId + 1);
            out.scraps.push_back(std::move(scrap));
        }
        out.nextScrap = std::max(out.nextScrap, wholeIn(in.value("nextScrap", json(1)), 1, kMostScraps, "a scrap's number"));
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
    for (const design::Scrap& scrap : drawer.scraps)
        out["scraps"].push_back(scrapJson(scrap));
    if (drawer.nextScrap > 1)
        out["nextScrap"] = drawer.nextScrap;
    const std::string text = out.dump(1) + "\n";
    return store.writeWhole(path, base::Bytes(text.begin(), text.end()));
}

} // namespace thinline::document
