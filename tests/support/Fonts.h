// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "lettering/Word.h"

#include <fstream>
#include <iterator>
#include <map>
#include <stdexcept>

namespace thinline::support {

/// The memory twin of the font store.
class MemoryFontStore : public base::FontStore {
  public:
    void add(const base::FontName& name, base::Bytes bytes) {
        m_files[name] = std::make_shared<const base::Bytes>(std::move(bytes));
    }
    std::vector<base::FontName> fonts() const override {
        std::vector<base::FontName> out;
        for (const auto& [name, bytes] : m_files)
            out.push_back(name);
        return out;
    }
    base::Result<base::FontFile> read(const base::FontName& name) const override {
        const auto at = m_files.find(name);
        if (at == m_files.end())
            return base::Error{base::Code::NotFound, "There is no typeface " + name.family + "."};
        return base::FontFile{name, at->second, 0};
    }

  private:
    std::map<base::FontName, std::shared_ptr<const base::Bytes>> m_files;
};

/// The failing twin: it lists a typeface and cannot read it.
class FailingFontStore : public base::FontStore {
  public:
    std::vector<base::FontName> fonts() const override { return {{"Lost", "Regular"}}; }
    base::Result<base::FontFile> read(const base::FontName&) const override {
        return base::Error{base::Code::IoError, "The typeface Lost cannot be read from the disk."};
    }
};

/// A typeface that ships with the program, by its file's name.
inline base::Bytes shippedFont(const std::string& file) {
    std::ifstream in(THINLINE_SOURCE_DIR "/assets/fonts/" + file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

inline const base::FontName kBold{"League Spartan", "ExtraBold"};
inline const base::FontName kScript{"Kaushan Script", "Regular"};
inline const base::FontName kStencil{"Allerta", "Stencil"};

inline MemoryFontStore shippedFonts() {
    MemoryFontStore out;
    out.add(kBold, shippedFont("LeagueSpartan-ExtraBold.otf"));
    out.add(kScript, shippedFont("KaushanScript-Regular.otf"));
    out.add(kStencil, shippedFont("AllertaStencil-Regular.otf"));
    out.add({"Lato", "Bold"}, shippedFont("Lato-Bold.ttf"));
    return out;
}

/// The letters of a word in a typeface that ships, each by itself.
inline std::shared_ptr<const lettering::Letters> lettersOf(const std::string& word, const base::FontName& font = kBold) {
    const auto typeface = lettering::Typeface::open(*shippedFonts().read(font));
    if (!typeface)
        throw std::runtime_error(typeface.error().message);
    lettering::Recipe recipe;
    recipe.text = word;
    recipe.spacingMm = 1;
    auto letters = lettering::lettersOf(*typeface, recipe);
    if (!letters)
        throw std::runtime_error(letters.error().message);
    return std::make_shared<const lettering::Letters>(letters.take());
}

} // namespace thinline::support
