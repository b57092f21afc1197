// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"

#include <QComboBox>

#include <vector>

namespace thinline::app {

/// A typeface to choose: those that ship come first; the wanted one is listed even where it is missing. Tells `activated`.
class FontChoice : public QComboBox {
  public:
    explicit FontChoice(const base::FontStore& fonts, QWidget* parent = nullptr);
    void show(const base::FontName& wanted);
    /// The typeface that stands in it, or `otherwise`.
    base::FontName chosen(const base::FontName& otherwise) const;

  private:
    void list();

    const base::FontStore& m_store;
    std::vector<base::FontName> m_fonts; ///< as listed; without a name for the line between
};

} // namespace thinline::app
