// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Which scraps lie together on which mat.
//
// There are few stocks in a work, seldom ten, so laying their scraps is quick, and what decides is the order and which of a
// stock's sizes is taken. Every order begins mats as it needs them: a scrap goes onto the first mat that takes it, in the size
// that leaves the narrowest strip. The orders by size come first, then some at random by a fixed seed.
//
// A rectangle that is laid is the card itself with the room for a hand on its right and lower side; the free space is larger
// than the mat by that room, so that the last scrap may touch the margin. A scrap nearly as wide as the mat is not cut to
// whole steps but keeps the width there is.
#include "sheets/Zones.h"

#include "sheets/FreeSpace.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <random>

namespace thinline::sheets {
namespace {

using geometry::Box;
using geometry::Point;

struct Mat {
    FreeSpace free;
    std::vector<const design::Stock*> stocks;
};

double cardOf(double cutMm, double mostMm, double stepMm) {
    const double whole = std::ceil((cutMm + 2 * kScrapMarginMm - 1e-6) / stepMm) * stepMm;
    return std::min(whole, mostMm);
}

class Placing {
  public:
    Placing(const std::vector<ZoneWish>& wishes, const design::MatFormat& mat, const ZoneRules& rules)
        : m_wishes(wishes),
          m_rules(rules), m_area{{mat.marginMm - kScrapMarginMm, mat.marginMm - kScrapMarginMm},
                                 {mat.widthMm - mat.marginMm + kScrapMarginMm,
                                  mat.heightMm - mat.marginMm + kScrapMarginMm}} {}

    std::vector<std::optional<ZonePlace>> best() {
        std::vector<std::size_t> order(m_wishes.size());
        std::iota(order.begin(), order.end(), 0u);
        std::stable_sort(order.begin(), order.end(),
                         [&](std::size_t a, std::size_t b) { return areaOf(a) > areaOf(b); });
        constexpr int kOrders = 200;
        std::mt19937 random(1);
        std::vector<std::optional<ZonePlace>> out;
        double least = INFINITY;
        for (int i = 0; i < kOrders; ++i) {
            auto places = placedIn(order);
            if (const double cost = costOf(places); cost < least - 1e-6) {
                least = cost;
                out = std::move(places);
            }
            for (std::size_t k = order.size(); k > 1; --k)
                std::swap(order[k - 1], order[random() % k]);
        }
        return out;
    }

  private:
    double areaOf(std::size_t wish) const {
        double out = INFINITY;
        for (const ZoneSize& size : m_wishes[wish].sizes)
            out = std::min(out, size.widthMm * size.heightMm);
        return out;
    }
    static double costOf(const std::vector<std::optional<ZonePlace>>& places) {
        constexpr double kMat = 1e9, kNowhere = 1e12;
        double out = 0;
        std::size_t mats = 0;
        for (const auto& place : places) {
            mats = place ? std::max(mats, place->mat + 1) : mats;
            out += place ? place->card.width() * place->card.height() : kNowhere;
        }
        return out + kMat * static_cast<double>(mats);
    }

    std::vector<std::optional<ZonePlace>> placedIn(const std::vector<std::size_t>& order) const {
        std::vector<Mat> mats;
        std::vector<std::optional<ZonePlace>> out(m_wishes.size());
        for (const std::size_t wish : order) {
            for (std::size_t m = 0; m <= mats.size() && !out[wish]; ++m) {
                if (m == mats.size())
                    mats.push_back(emptyMat());
                const bool mayShare = std::all_of(
                    mats[m].stocks.begin(), mats[m].stocks.end(), [&](const design::Stock* other) {
                        return other == m_wishes[wish].stock ||
                               (m_rules.mayMix && doesOneSettingCut(*m_wishes[wish].stock, *other));
                    });
                if (mayShare)
                    out[wish] = laidOn(mats[m], m, m_wishes[wish]);
                if (!out[wish] && mats[m].stocks.empty()) { // not on an empty mat either
                    mats.pop_back();
                    break;
                }
            }
        }
        return out;
    }
    Mat emptyMat() const {
        Mat out{FreeSpace({m_area.least, m_area.most + Point{kHandMm, kHandMm}}), {}};
        for (const Box& keepOut : m_rules.keepOuts ? *m_rules.keepOuts : std::vector<Box>())
            out.free.take({keepOut.least, keepOut.most + Point{kHandMm, kHandMm}});
        return out;
    }
    std::optional<ZonePlace> laidOn(Mat& mat, std::size_t number, const ZoneWish& wish) const {
        std::optional<ZonePlace> best;
        double least = INFINITY;
        for (std::size_t s = 0; s < wish.sizes.size(); ++s)
            for (const bool isTurned : {false, true}) {
                if (isTurned && !wish.mayTurn)
                    continue;
                const ZoneSize& size = wish.sizes[s];
                const double across = isTurned ? size.heightMm : size.widthMm,
                             down = isTurned ? size.widthMm : size.heightMm;
                const bool isLongAcross = across > down;
                const double longer = std::max(wish.sheet.widthMm, wish.sheet.heightMm),
                             shorter = std::min(wish.sheet.widthMm, wish.sheet.heightMm);
                const double most = std::min(m_area.width(), isLongAcross ? longer : shorter),
                             mostDown = std::min(m_area.height(), isLongAcross ? shorter : longer);
                const double width = wish.isThere ? across : cardOf(across, most, m_rules.stepMm),
                             height = wish.isThere ? down : cardOf(down, mostDown, m_rules.stepMm);
                if (!wish.isThere &&
                    (across > width - 2 * kScrapMarginMm + 1e-6 || down > height - 2 * kScrapMarginMm + 1e-6))
                    continue;
                const auto spot = mat.free.find(width + kHandMm, height + kHandMm, false);
                if (spot && width * height < least - 1e-6) {
                    least = width * height;
                    best =
                        ZonePlace{number, s, isTurned, {spot->corner, spot->corner + Point{width, height}}};
                }
            }
        if (best) {
            mat.free.take({best->card.least, best->card.most + Point{kHandMm, kHandMm}});
            mat.stocks.push_back(wish.stock);
        }
        return best;
    }

    bool doesOneSettingCut(const design::Stock& a, const design::Stock& b) const {
        if (!m_rules.settingOf || m_rules.settingOf->empty())
            return mayShareAMat(a, b);
        const auto one = m_rules.settingOf->find(a.id), other = m_rules.settingOf->find(b.id);
        return one != m_rules.settingOf->end() && other != m_rules.settingOf->end() &&
               one->second == other->second;
    }

    const std::vector<ZoneWish>& m_wishes;
    const ZoneRules& m_rules;
    Box m_area; ///< where card of scraps may lie: cuts in it are inside the mat's margin
};

} // namespace

bool mayShareAMat(const design::Stock& a, const design::Stock& b) {
    constexpr double kAlike = 0.2;
    const double thick = std::max(a.thicknessMm, b.thicknessMm),
                 thin = std::min(a.thicknessMm, b.thicknessMm);
    return a.kind == b.kind && a.cut == b.cut && thick - thin <= kAlike * thick + 1e-9;
}

std::vector<std::optional<ZonePlace>> placeZones(const std::vector<ZoneWish>& wishes,
                                                 const design::MatFormat& mat, const ZoneRules& rules) {
    return Placing(wishes, mat, rules).best();
}

std::string scrapText(const design::PlacedSheet& scrap, const design::MatFormat& mat,
                      const std::vector<design::Stock>& stocks, base::LengthUnit unit) {
    const auto part = [](double middle, double whole) {
        return middle < whole * 0.4 ? 0 : middle > whole * 0.6 ? 2 : 1;
    };
    const int down = part(scrap.yMm + scrap.heightMm / 2, mat.heightMm),
              across = part(scrap.xMm + scrap.widthMm / 2, mat.widthMm);
    static constexpr const char* kDown[]{"upper", "middle", "lower"};
    static constexpr const char* kAcross[]{"left", "middle", "right"};
    std::string where = down == 1 && across == 1 ? "in the middle"
                        : across == 1            ? std::string(kDown[down]) + " edge"
                        : down == 1              ? std::string(kAcross[across]) + " edge"
                                                 : std::string(kDown[down]) + " " + kAcross[across];
    const double shorter = std::min(scrap.widthMm, scrap.heightMm),
                 longer = std::max(scrap.widthMm, scrap.heightMm);
    // Whole steps without decimals: it is read off a ruler.
    const auto said = [&](double mm) {
        const std::string text = base::formatLength(mm, unit, false);
        return text.size() > 2 && text.substr(text.size() - 2) == ".0" ? text.substr(0, text.size() - 2)
                                                                       : text;
    };
    const std::string unitWord = unit == base::LengthUnit::Millimetre ? " mm" : " in";
    return design::stockName(stocks, scrap.stockId) + " " + said(shorter) + " × " + said(longer) + unitWord +
           ", " + where +
           (longer - shorter < 1             ? ""
            : scrap.widthMm > scrap.heightMm ? ", lying"
                                             : ", upright");
}

std::string loadText(const design::Load& load, const std::vector<design::Stock>& stocks) {
    std::vector<std::pair<std::string, int>> counts;
    bool hasScrap = false, hasPair = false;
    for (const design::PlacedSheet& sheet : load.sheets) {
        hasScrap = hasScrap || sheet.isScrap;
        hasPair = hasPair || sheet.isPair();
        auto at = std::find_if(counts.begin(), counts.end(),
                               [&](const auto& one) { return one.first == sheet.stockId; });
        if (at == counts.end())
            at = counts.insert(at, {sheet.stockId, 0});
        at->second += sheet.count();
    }
    std::string out;
    for (const auto& [id, count] : counts)
        out += (out.empty() ? "" : " + ") + (count > 1 ? std::to_string(count) + " " : std::string()) +
               design::stockName(stocks, id);
    return out + (hasPair ? " (taped)" : hasScrap ? " (scraps)" : "");
}

} // namespace thinline::sheets
