// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/ReadPdf.h"

#include "base/Length.h"

#include <cairo-svg.h>
#include <cmath>
#include <memory>
#include <poppler.h>

namespace thinline::formats::pdf {
namespace {

using base::Bytes;
using base::Code;
using base::Error;

template <auto release>
struct Released {
    template <class T>
    void operator()(T* thing) const {
        release(thing);
    }
};
template <class T, auto release>
using Held = std::unique_ptr<T, Released<release>>;

/// A page and the document it needs.
struct Opened {
    Held<GBytes, g_bytes_unref> bytes;
    Held<PopplerDocument, g_object_unref> document;
    Held<PopplerPage, g_object_unref> page;
    double widthPt = 0, heightPt = 0;
    int pages = 0;
};

base::Result<Opened> open(const Bytes& file, int page) {
    Opened out;
    out.bytes.reset(g_bytes_new_static(file.data(), file.size()));
    GError* failure = nullptr;
    out.document.reset(poppler_document_new_from_bytes(out.bytes.get(), nullptr, &failure));
    if (!out.document) {
        const bool isLocked =
            failure && failure->domain == POPPLER_ERROR && failure->code == POPPLER_ERROR_ENCRYPTED;
        const std::string why = failure && failure->message ? failure->message : "unknown";
        g_clear_error(&failure);
        if (isLocked)
            return Error{Code::Unsupported,
                         "This PDF file is locked by a password; save it without one and open that."};
        return Error{Code::ParseError, "This PDF file cannot be read (" + why + "); save it anew."};
    }
    out.pages = poppler_document_get_n_pages(out.document.get());
    if (page < 0 || page >= out.pages)
        return Error{Code::NotFound, "The PDF file has " + base::counted(out.pages, "page") +
                                         "; there is no page " + std::to_string(page + 1) + "."};
    out.page.reset(poppler_document_get_page(out.document.get(), page));
    if (!out.page)
        return Error{Code::ParseError,
                     "Page " + std::to_string(page + 1) + " of this PDF file cannot be read; save it anew."};
    poppler_page_get_size(out.page.get(), &out.widthPt, &out.heightPt);
    constexpr double kMostPt = 30'000; // ten metres
    if (!(out.widthPt > 0) || !(out.heightPt > 0) || out.widthPt > kMostPt || out.heightPt > kMostPt)
        return Error{Code::ParseError,
                     "The page of this PDF file has no size that can be meant; save it anew."};
    return out;
}

cairo_status_t intoText(void* text, const unsigned char* data, unsigned int length) {
    static_cast<std::string*>(text)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

cairo_status_t intoBytes(void* bytes, const unsigned char* data, unsigned int length) {
    auto& out = *static_cast<Bytes*>(bytes);
    out.insert(out.end(), data, data + length);
    return CAIRO_STATUS_SUCCESS;
}

std::string svgOf(const Opened& opened) {
    std::string text;
    const Held<cairo_surface_t, cairo_surface_destroy> surface(
        cairo_svg_surface_create_for_stream(intoText, &text, opened.widthPt, opened.heightPt));
    cairo_svg_surface_set_document_unit(surface.get(), CAIRO_SVG_UNIT_PT);
    {
        const Held<cairo_t, cairo_destroy> context(cairo_create(surface.get()));
        poppler_page_render_for_printing(opened.page.get(), context.get());
    }
    cairo_surface_finish(surface.get());
    return text;
}

base::Result<Bytes> pngOf(const Opened& opened, double dpi) {
    const double scale = dpi / 72;
    const int width = static_cast<int>(std::lround(opened.widthPt * scale)),
              height = static_cast<int>(std::lround(opened.heightPt * scale));
    constexpr double kMostPixels = 100e6;
    if (width < 1 || height < 1 || static_cast<double>(width) * height > kMostPixels)
        return Error{Code::LimitExceeded,
                     "The page is a picture of more than 100 megapixels at 300 to the inch; make "
                     "it smaller where it comes from."};
    const Held<cairo_surface_t, cairo_surface_destroy> surface(
        cairo_image_surface_create(CAIRO_FORMAT_RGB24, width, height));
    {
        const Held<cairo_t, cairo_destroy> context(cairo_create(surface.get()));
        cairo_set_source_rgb(context.get(), 1, 1, 1);
        cairo_paint(context.get());
        cairo_scale(context.get(), scale, scale);
        poppler_page_render(opened.page.get(), context.get());
    }
    Bytes out;
    if (cairo_surface_write_to_png_stream(surface.get(), intoBytes, &out) != CAIRO_STATUS_SUCCESS)
        return Error{Code::ParseError, "The page of this PDF file cannot be drawn; save it anew."};
    return out;
}

} // namespace

base::Result<base::PdfPage> readPage(const Bytes& file, int page) {
    const auto opened = open(file, page);
    if (!opened)
        return opened.error();
    constexpr double kMmPerPt = 25.4 / 72, kScanDpi = 300;
    base::PdfPage out{opened->pages, opened->widthPt * kMmPerPt, opened->heightPt * kMmPerPt, false,
                      svgOf(*opened)};
    out.hasVectors = out.svg.find("<path") != std::string::npos ||
                     out.svg.find("<rect") != std::string::npos ||
                     out.svg.find("<use xlink:href=\"#glyph") != std::string::npos;
    if (out.hasVectors)
        return out;
    auto png = pngOf(*opened, kScanDpi);
    if (!png)
        return png.error();
    out.png = png.take();
    return out;
}

} // namespace thinline::formats::pdf
