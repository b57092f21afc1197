// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/FontChoice.h"

#include "document/DiskFontStore.h"

#include <algorithm>

namespace thinline::app {
namespace {

QString words(const base::FontName& name) {
    return QString::fromStdString(name.family + " " + name.style);
}

} // namespace

FontChoice::FontChoice(const base::FontStore& fonts, QWidget* parent) : QComboBox(parent), m_store(fonts) {
    setAccessibleName(tr("Typeface"));
    setMaxVisibleItems(18);
    setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
}

void FontChoice::list() {
    const std::vector<base::FontName> shipped = document::shippedFonts();
    m_fonts = shipped;
    for (const base::FontName& name : m_store.fonts())
        if (std::find(m_fonts.begin(), m_fonts.end(), name) == m_fonts.end())
            m_fonts.push_back(name);
    for (const base::FontName& name : m_fonts)
        addItem(words(name));
    insertSeparator(static_cast<int>(shipped.size()));
    m_fonts.insert(m_fonts.begin() + static_cast<std::ptrdiff_t>(shipped.size()), base::FontName{});
}

void FontChoice::show(const base::FontName& wanted) {
    if (m_fonts.empty())
        list();
    auto at = std::find(m_fonts.begin(), m_fonts.end(), wanted);
    if (at == m_fonts.end() && wanted.style.empty())
        at = std::find_if(m_fonts.begin(), m_fonts.end(),
                          [&](const base::FontName& n) { return n.family == wanted.family; });
    if (at == m_fonts.end()) {
        m_fonts.push_back(wanted);
        addItem(tr("%1 (missing)").arg(words(wanted)));
        at = m_fonts.end() - 1;
    }
    setCurrentIndex(static_cast<int>(at - m_fonts.begin()));
}

base::FontName FontChoice::chosen(const base::FontName& otherwise) const {
    const auto at = static_cast<size_t>(std::max(0, currentIndex()));
    return at < m_fonts.size() && !m_fonts[at].family.empty() ? m_fonts[at] : otherwise;
}

} // namespace thinline::app
