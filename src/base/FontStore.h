// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"

#include <memory>

namespace thinline::base {

/// How a typeface is asked for.
struct FontName {
    std::string family;
    std::string style; ///< "Bold"; empty for whatever the family has as its plain one

    auto operator<=>(const FontName&) const = default;
};

/// A typeface as it lies on the disk: a file may hold several.
struct FontFile {
    FontName name;
    std::shared_ptr<const Bytes> bytes;
    int face = 0; ///< which of the file's
};

/// The door to typefaces, installed ones and those that ship with the program. The disk twin lives in
/// `document`, the memory and failing twins in `tests/support`. Safe from any thread.
class FontStore {
  public:
    virtual ~FontStore() = default;

    /// Returns every typeface there is, sorted by family and style.
    virtual std::vector<FontName> fonts() const = 0;

    /// Returns one of them.
    /// Errors: NotFound for a name that `fonts` does not hold; IoError.
    virtual Result<FontFile> read(const FontName& name) const = 0;
};

/// Largest typeface file the program reads.
inline constexpr std::uint64_t kMostFontBytes = 128ull << 20;

} // namespace thinline::base
