// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/DiskFontStore.h"

#include "lettering/Word.h"

#include <array>
#include <filesystem>
#include <fontconfig/fontconfig.h>
#include <fstream>
#include <iterator>

extern "C" {
extern const unsigned char thinline_FontBold_begin[], thinline_FontBold_end[];
extern const unsigned char thinline_FontScript_begin[], thinline_FontScript_end[];
extern const unsigned char thinline_FontStencil_begin[], thinline_FontStencil_end[];
}

namespace thinline::document {
namespace {

struct Embedded {
    const unsigned char *begin, *end;
};
const std::array<Embedded, 3> kEmbedded{Embedded{thinline_FontBold_begin, thinline_FontBold_end},
                                        Embedded{thinline_FontScript_begin, thinline_FontScript_end},
                                        Embedded{thinline_FontStencil_begin, thinline_FontStencil_end}};

std::string textOf(const FcPattern* pattern, const char* what) {
    FcChar8* text = nullptr;
    return FcPatternGetString(pattern, what, 0, &text) == FcResultMatch && text
               ? reinterpret_cast<const char*>(text)
               : "";
}

} // namespace

const std::vector<base::FontName>& shippedFonts() {
    static const std::vector<base::FontName> names{
        lettering::kPlainFont, {"Kaushan Script", "Regular"}, {"Allerta", "Stencil"}};
    return names;
}

const std::map<base::FontName, DiskFontStore::Place>& DiskFontStore::places() const {
    const std::lock_guard lock(m_mutex);
    if (!m_places.empty())
        return m_places;
    for (size_t i = 0; i < shippedFonts().size(); ++i)
        m_places[shippedFonts()[i]] = {"", 0, i};
    FcConfig* config = FcInitLoadConfigAndFonts();
    FcPattern* any = FcPatternCreate();
    FcPatternAddBool(any, FC_SCALABLE, FcTrue);
    FcObjectSet* wanted = FcObjectSetBuild(FC_FAMILY, FC_STYLE, FC_FILE, FC_INDEX, nullptr);
    if (FcFontSet* found = FcFontList(config, any, wanted)) {
        for (int i = 0; i < found->nfont; ++i) {
            const FcPattern* one = found->fonts[i];
            int face = 0;
            FcPatternGetInteger(one, FC_INDEX, 0, &face);
            const base::FontName name{textOf(one, FC_FAMILY), textOf(one, FC_STYLE)};
            constexpr int kNamedVariation = 0xffff; // the upper half names an instance of a variable typeface
            if (!name.family.empty() && face <= kNamedVariation)
                m_places.try_emplace(name, Place{textOf(one, FC_FILE), face, 0});
        }
        FcFontSetDestroy(found);
    }
    FcObjectSetDestroy(wanted);
    FcPatternDestroy(any);
    if (config)
        FcConfigDestroy(config);
    return m_places;
}

std::vector<base::FontName> DiskFontStore::fonts() const {
    std::vector<base::FontName> out;
    for (const auto& [name, place] : places())
        out.push_back(name);
    return out;
}

base::Result<base::FontFile> DiskFontStore::read(const base::FontName& name) const {
    const auto at = places().find(name);
    if (at == places().end())
        return base::Error{base::Code::NotFound,
                           "The typeface " + name.family + " " + name.style + " is not on this computer."};
    if (at->second.path.empty()) {
        const Embedded& file = kEmbedded[at->second.shipped];
        return base::FontFile{name, std::make_shared<const base::Bytes>(file.begin, file.end), 0};
    }
    std::error_code failed;
    const auto size = std::filesystem::file_size(at->second.path, failed);
    std::ifstream in(at->second.path, std::ios::binary);
    if (failed || !in || size > base::kMostFontBytes)
        return base::Error{base::Code::IoError,
                           "The typeface " + name.family + " cannot be read from the disk; choose another."};
    return base::FontFile{name,
                          std::make_shared<const base::Bytes>(std::istreambuf_iterator<char>(in),
                                                              std::istreambuf_iterator<char>()),
                          at->second.face};
}

} // namespace thinline::document
