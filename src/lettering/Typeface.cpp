// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "lettering/Typeface.h"

#include <ft2build.h>
#include FT_FREETYPE_H
#include FT_OUTLINE_H
#include FT_TRUETYPE_TABLES_H
#include <algorithm>
#include <hb-ot.h>
#include <hb.h>

namespace thinline::lettering {
namespace {

using base::Code;
using base::Error;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;

/// Collects an outline; `scale` turns font units into em units.
struct Collector {
    double scale = 1;
    std::vector<Contour> contours;
    Point at;

    Point map(const FT_Vector* v) const {
        return {static_cast<double>(v->x) * scale, -static_cast<double>(v->y) * scale};
    }
    void close() {
        if (contours.empty())
            return;
        Contour& last = contours.back();
        if (last.segments.empty())
            contours.pop_back();
        else if (!(last.segments.back().end == last.start))
            last.segments.push_back(Segment::line(last.start));
    }
    static int moveTo(const FT_Vector* to, void* self) {
        auto& c = *static_cast<Collector*>(self);
        c.close();
        c.at = c.map(to);
        c.contours.push_back({c.at, {}});
        return 0;
    }
    static int lineTo(const FT_Vector* to, void* self) {
        auto& c = *static_cast<Collector*>(self);
        const Point end = c.map(to);
        if (!(end == c.at))
            c.contours.back().segments.push_back(Segment::line(end));
        c.at = end;
        return 0;
    }
    static int conicTo(const FT_Vector* control, const FT_Vector* to, void* self) {
        auto& c = *static_cast<Collector*>(self);
        const Point q = c.map(control), end = c.map(to);
        c.contours.back().segments.push_back(
            Segment::curve(c.at + (q - c.at) * (2.0 / 3), end + (q - end) * (2.0 / 3), end));
        c.at = end;
        return 0;
    }
    static int cubicTo(const FT_Vector* c1, const FT_Vector* c2, const FT_Vector* to, void* self) {
        auto& c = *static_cast<Collector*>(self);
        const Point end = c.map(to);
        c.contours.back().segments.push_back(Segment::curve(c.map(c1), c.map(c2), end));
        c.at = end;
        return 0;
    }
};

bool isUtf8(const std::string& text) {
    for (size_t i = 0; i < text.size();) {
        const auto byte = static_cast<unsigned char>(text[i]);
        const size_t more = byte < 0x80         ? 0
                            : (byte >> 5) == 6  ? 1
                            : (byte >> 4) == 14 ? 2
                            : (byte >> 3) == 30 ? 3
                                                : 9;
        if (more == 9 || i + more >= text.size() + (more == 0 ? 1 : 0))
            return false;
        for (size_t k = 1; k <= more; ++k)
            if ((static_cast<unsigned char>(text[i + k]) >> 6) != 2)
                return false;
        i += more + 1;
    }
    return true;
}

} // namespace

struct Typeface::Inside {
    std::shared_ptr<const base::Bytes> bytes; // both libraries read from it as long as they live
    FT_Library library = nullptr;
    FT_Face face = nullptr;
    hb_font_t* font = nullptr;

    ~Inside() {
        hb_font_destroy(font);
        if (face)
            FT_Done_Face(face);
        if (library)
            FT_Done_FreeType(library);
    }

    double unit() const { return 1.0 / face->units_per_EM; }

    base::Result<std::vector<Contour>> outline(unsigned glyph) const {
        if (FT_Load_Glyph(face, glyph, FT_LOAD_NO_SCALE | FT_LOAD_NO_BITMAP | FT_LOAD_NO_HINTING) != 0 ||
            face->glyph->format != FT_GLYPH_FORMAT_OUTLINE)
            return Error{Code::Degenerate,
                         "The typeface holds a sign whose outline cannot be read; choose another typeface."};
        const FT_Outline_Funcs calls{
            Collector::moveTo, Collector::lineTo, Collector::conicTo, Collector::cubicTo, 0, 0};
        Collector collector{unit(), {}, {}};
        if (FT_Outline_Decompose(&face->glyph->outline, &calls, &collector) != 0)
            return Error{Code::Degenerate,
                         "The typeface holds a sign whose outline cannot be read; choose another typeface."};
        collector.close();
        return std::move(collector.contours);
    }

    double measuredCapHeight() const {
        if (const unsigned h = FT_Get_Char_Index(face, 'H'); h != 0)
            if (const auto contours = outline(h); contours && !contours->empty()) {
                geometry::Box box;
                for (const Contour& contour : *contours)
                    box.include(geometry::bounds(contour));
                if (box.least.y < 0)
                    return -box.least.y;
            }
        const auto* os2 = static_cast<const TT_OS2*>(FT_Get_Sfnt_Table(face, FT_SFNT_OS2));
        if (os2 && os2->version >= 2 && os2->sCapHeight > 0)
            return os2->sCapHeight * unit();
        return 0.7;
    }
};

Typeface::Typeface(std::unique_ptr<Inside> inside) : m_inside(std::move(inside)) {}
Typeface::Typeface(Typeface&&) noexcept = default;
Typeface::~Typeface() = default;

base::Result<Typeface> Typeface::open(const base::FontFile& file) {
    const auto told = [&](const std::string& why) {
        return file.name.family.empty() ? "The typeface " + why
                                        : "The typeface '" + file.name.family + "' " + why;
    };
    if (!file.bytes || file.bytes->empty())
        return Error{Code::ParseError, told("is an empty file; choose another.")};
    if (file.bytes->size() > base::kMostFontBytes)
        return Error{Code::LimitExceeded, told("is a file above 128 MB; choose another.")};
    auto inside = std::make_unique<Inside>();
    inside->bytes = file.bytes;
    const auto size = static_cast<FT_Long>(file.bytes->size());
    if (FT_Init_FreeType(&inside->library) != 0 ||
        FT_New_Memory_Face(inside->library, file.bytes->data(), size, file.face, &inside->face) != 0)
        return Error{Code::ParseError, told("cannot be read; choose another.")};
    if (!FT_IS_SCALABLE(inside->face) || inside->face->units_per_EM == 0)
        return Error{Code::Unsupported,
                     told("is made of pixels and has no outlines to cut; choose another.")};
    hb_blob_t* blob = hb_blob_create(reinterpret_cast<const char*>(file.bytes->data()),
                                     static_cast<unsigned>(size), HB_MEMORY_MODE_READONLY, nullptr, nullptr);
    hb_face_t* face = hb_face_create(blob, static_cast<unsigned>(file.face));
    hb_blob_destroy(blob);
    hb_face_set_upem(face, inside->face->units_per_EM);
    inside->font = hb_font_create(face);
    hb_face_destroy(face);
    hb_ot_font_set_funcs(inside->font);
    const int scale = inside->face->units_per_EM;
    hb_font_set_scale(inside->font, scale, scale);
    Typeface out(std::move(inside));
    out.m_name = file.name;
    out.m_capHeight = out.m_inside->measuredCapHeight();
    return out;
}

base::Result<GlyphRun> Typeface::run(const std::string& text, bool withLigatures) const {
    if (!isUtf8(text))
        return Error{Code::InvalidArgument, "The text is not UTF-8; type it anew."};
    const std::unique_ptr<hb_buffer_t, void (*)(hb_buffer_t*)> buffer(hb_buffer_create(), hb_buffer_destroy);
    hb_buffer_add_utf8(buffer.get(), text.data(), static_cast<int>(text.size()), 0,
                       static_cast<int>(text.size()));
    hb_buffer_guess_segment_properties(buffer.get());
    const hb_feature_t off[] = {
        {HB_TAG('l', 'i', 'g', 'a'), 0, HB_FEATURE_GLOBAL_START, HB_FEATURE_GLOBAL_END},
        {HB_TAG('c', 'l', 'i', 'g'), 0, HB_FEATURE_GLOBAL_START, HB_FEATURE_GLOBAL_END}};
    hb_shape(m_inside->font, buffer.get(), off, withLigatures ? 0 : 2);
    unsigned count = 0;
    const hb_glyph_info_t* infos = hb_buffer_get_glyph_infos(buffer.get(), &count);
    const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer.get(), &count);
    std::vector<size_t> starts{text.size()};
    for (unsigned i = 0; i < count; ++i)
        starts.push_back(infos[i].cluster);
    std::sort(starts.begin(), starts.end());
    GlyphRun out;
    out.typeface = m_name;
    const double unit = m_inside->unit();
    double pen = 0;
    for (unsigned i = 0; i < count; ++i) {
        Glyph glyph;
        glyph.from = infos[i].cluster;
        glyph.to = *std::upper_bound(starts.begin(), starts.end() - 1, glyph.from);
        glyph.at = {pen + places[i].x_offset * unit, -places[i].y_offset * unit};
        glyph.isMissing = infos[i].codepoint == 0;
        glyph.id = infos[i].codepoint;
        auto contours = m_inside->outline(infos[i].codepoint);
        if (!contours)
            return contours.error();
        glyph.contours = contours.take();
        pen += places[i].x_advance * unit;
        out.glyphs.push_back(std::move(glyph));
    }
    out.advance = pen;
    return out;
}

} // namespace thinline::lettering
