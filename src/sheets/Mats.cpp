// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/Mats.h"

#include <algorithm>
#include <map>
#include <set>

namespace thinline::sheets {
namespace {

using design::Load;
using design::PlacedSheet;
using geometry::Point;

/// A card on its mat, turned by a quarter or not.
PlacedSheet placed(const LaidCard& laid, Point corner, bool turns) {
    PlacedSheet out = laid.sheet;
    const Card& card = *laid.card;
    out.stockId = laid.stock->id;
    out.scrapId = card.scrap;
    out.marginMm = card.marginMm;
    out.join = card.join;
    out.outline = turns ? turnedByQuarter(card.outline) : card.outline;
    out.isTurned = card.isTurned != turns;
    out.widthMm = turns ? card.heightMm : card.widthMm;
    out.heightMm = turns ? card.widthMm : card.heightMm;
    out.xMm = corner.x;
    out.yMm = corner.y;
    for (design::PlacedPiece& piece : out.pieces) {
        if (turns)
            piece.pose = design::turnedByQuarter(piece.pose, card.heightMm);
        piece.pose.at = piece.pose.at + corner;
    }
    return out;
}

class Mats {
  public:
    Mats(std::vector<Load>& loads, std::vector<LaidCard> laid, const std::vector<ToCut>& toCut,
         const ArrangeOptions& options)
        : m_loads(loads), m_laid(std::move(laid)), m_toCut(toCut), m_options(options) {}

    void add() {
        placeFree();
        addWhole();
        addFound();
        addFree();
    }

  private:
    bool isFree(std::size_t i) const { return m_laid[i].card->scrap != 0 && !m_laid[i].card->at; }

    /// Decides what shares which mat.
    void placeFree() {
        std::vector<ZoneWish> wishes;
        for (std::size_t i = 0; i < m_laid.size(); ++i)
            if (isFree(i) && !m_laid[i].sheet.pieces.empty()) {
                const Card& card = *m_laid[i].card;
                const double more = 2 * growthOf(card);
                wishes.push_back(
                    {m_laid[i].stock, {{card.widthMm + more, card.heightMm + more}}, true, {}, true});
                m_free.push_back(i);
            }
        for (const ToCut& one : m_toCut)
            wishes.push_back(one.wish);
        m_places =
            placeZones(wishes, m_options.mat,
                       {m_options.isMixed, m_options.scrapStepMm, &m_options.keepOuts, &m_options.settingOf});
        keepShared();
        for (std::size_t z = 0; z < m_toCut.size(); ++z)
            if (m_places[m_free.size() + z])
                m_replaced.insert(m_toCut[z].insteadOf);
    }
    static double growthOf(const Card& card) { return std::max(0.0, kScrapMarginMm - card.marginMm); }

    /// What has a mat for itself need not be cut smaller; and mats without anything are none.
    void keepShared() {
        std::map<std::size_t, int> onMat;
        for (const auto& place : m_places)
            if (place)
                ++onMat[place->mat];
        for (std::size_t z = m_free.size(); z < m_places.size(); ++z)
            if (m_places[z] && onMat[m_places[z]->mat] == 1) {
                onMat.erase(m_places[z]->mat);
                m_places[z].reset();
            }
        std::map<std::size_t, std::size_t> numbers;
        for (const auto& [mat, count] : onMat)
            numbers.emplace(mat, numbers.size());
        for (auto& place : m_places)
            if (place)
                place->mat = numbers.at(place->mat);
    }

    void addWhole() {
        const std::string* stock = nullptr;
        for (std::size_t i = 0; i < m_laid.size(); ++i) {
            const LaidCard& laid = m_laid[i];
            if (laid.card->scrap != 0 || m_replaced.contains(i))
                continue;
            // The first place of a mat begins one, and so does another stock.
            const bool isOther = !stock || *stock != laid.stock->id;
            const bool isTaken =
                !isOther && std::any_of(m_loads.back().sheets.begin(), m_loads.back().sheets.end(),
                                        [&](const PlacedSheet& sheet) {
                                            return sheet.xMm == laid.card->at->x &&
                                                   sheet.yMm == laid.card->at->y;
                                        });
            if (isOther || isTaken)
                m_loads.push_back({m_options.mat, {}});
            stock = &laid.stock->id;
            m_loads.back().sheets.push_back(placed(laid, *laid.card->at, false));
        }
    }
    void addFound() {
        for (const LaidCard& laid : m_laid) {
            if (laid.card->scrap == 0 || !laid.card->at || laid.sheet.pieces.empty())
                continue;
            std::size_t load = m_loads.size();
            if (!laid.card->mat.empty())
                load = foundMat(laid.card->mat);
            if (load == m_loads.size())
                m_loads.push_back({m_options.mat, {}});
            m_loads[load].sheets.push_back(placed(laid, *laid.card->at, false));
        }
    }
    /// The mat of a photo, on which stocks lie together whether they may otherwise or not.
    std::size_t foundMat(const std::string& mat) const {
        for (std::size_t l = 0; l < m_loads.size(); ++l)
            for (const PlacedSheet& sheet : m_loads[l].sheets)
                for (const design::Scrap& scrap : m_options.scraps)
                    if (scrap.id == sheet.scrapId && scrap.at && scrap.mat == mat)
                        return l;
        return m_loads.size();
    }
    void addFree() {
        const std::size_t first = m_loads.size();
        for (std::size_t z = 0; z < m_places.size(); ++z) {
            if (!m_places[z] && z < m_free.size()) { // no room beside what is kept free; whoever checks tells
                const double corner = m_options.mat.marginMm;
                m_loads.push_back({m_options.mat, {placed(m_laid[m_free[z]], {corner, corner}, false)}});
            }
            if (!m_places[z])
                continue;
            const ZonePlace& place = *m_places[z];
            while (m_loads.size() <= first + place.mat)
                m_loads.push_back({m_options.mat, {}});
            if (z >= m_free.size()) {
                m_loads[first + place.mat].sheets.push_back(m_toCut[z - m_free.size()].sheet(place));
                continue;
            }
            const LaidCard& laid = m_laid[m_free[z]];
            const double in = growthOf(*laid.card);
            m_loads[first + place.mat].sheets.push_back(
                placed(laid, place.card.least + Point{in, in}, place.isTurned));
        }
    }

    std::vector<Load>& m_loads;
    std::vector<LaidCard> m_laid;
    const std::vector<ToCut>& m_toCut;
    const ArrangeOptions& m_options;
    std::vector<std::size_t> m_free; ///< scraps that go where there is room, among the laid ones
    std::vector<std::optional<ZonePlace>> m_places; ///< of those, then of what is to be cut
    std::set<std::size_t> m_replaced;               ///< sheets of which only a scrap is needed
};

} // namespace

void addToMats(std::vector<Load>& loads, std::vector<LaidCard> laid, const std::vector<ToCut>& toCut,
               const ArrangeOptions& options) {
    Mats(loads, std::move(laid), toCut, options).add();
}

} // namespace thinline::sheets
