// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"

#include <map>
#include <mutex>

namespace thinline::document {

/// Returns the typefaces that ship inside the program, made for cutting: a heavy one, a script, a stencil.
const std::vector<base::FontName>& shippedFonts();

/// The typefaces of this computer (as fontconfig lists them) and those that ship. Nothing is listed before it
/// is asked for; then the list is kept.
class DiskFontStore : public base::FontStore {
  public:
    std::vector<base::FontName> fonts() const override;
    base::Result<base::FontFile> read(const base::FontName& name) const override;

  private:
    struct Place {
        std::string path; ///< empty for a shipped one
        int face = 0;
        size_t shipped = 0;
    };
    const std::map<base::FontName, Place>& places() const;

    mutable std::mutex m_mutex;
    mutable std::map<base::FontName, Place> m_places;
};

} // namespace thinline::document
