// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/WritePages.h"

#include "formats/pdf/Content.h"
#include "geometry/Lines.h"

#define POINTERHOLDER_TRANSITION 4 // std::shared_ptr throughout
#include <qpdf/Buffer.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFExc.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFWriter.hh>

#include <cmath>
#include <cstdio>

namespace thinline::formats::pdf {
namespace {

using base::Code;
using base::Error;

base::Status checked(const std::vector<Page>& pages) {
    if (pages.empty())
        return Error{Code::InvalidArgument, "There is no page to write."};
    const auto isSide = [](double mm) { return mm >= 10 && mm <= 5000; };
    const auto areFinite = [](const std::vector<Drawn>& all) {
        for (const Drawn& drawn : all)
            for (const geometry::Contour& line : drawn.lines)
                if (!geometry::isFinite(line))
                    return false;
        return true;
    };
    for (const Page& page : pages) {
        if (!isSide(page.widthMm) || !isSide(page.heightMm))
            return Error{Code::InvalidArgument, "A page is 10 to 5000 mm wide and high."};
        std::vector<Drawn> painted;
        for (const Painted& one : page.painted)
            if (const auto* drawn = std::get_if<Drawn>(&one))
                painted.push_back(*drawn);
            else if (const auto* filled = std::get_if<Filled>(&one))
                painted.push_back({filled->areas});
        if (!areFinite(page.inside) || !areFinite(page.marks) || !areFinite(painted))
            return Error{Code::InvalidArgument, "A line of a page has a place that is no number."};
    }
    return base::Done{};
}

QPDFObjectHandle pictureOf(QPDF& pdf, const raster::Picture& picture) {
    QPDFObjectHandle out =
        QPDFObjectHandle::newStream(&pdf, std::string(picture.rgb.begin(), picture.rgb.end()));
    QPDFObjectHandle dictionary = out.getDict();
    dictionary.replaceKey("/Type", QPDFObjectHandle::newName("/XObject"));
    dictionary.replaceKey("/Subtype", QPDFObjectHandle::newName("/Image"));
    dictionary.replaceKey("/Width", QPDFObjectHandle::newInteger(picture.width));
    dictionary.replaceKey("/Height", QPDFObjectHandle::newInteger(picture.height));
    dictionary.replaceKey("/ColorSpace", QPDFObjectHandle::newName("/DeviceRGB"));
    dictionary.replaceKey("/BitsPerComponent", QPDFObjectHandle::newInteger(8));
    return out;
}

void fillFont(QPDF& pdf, QPDFObjectHandle font, const OutlineFonts& all, std::size_t at) {
    const std::vector<OutlineFonts::Sign>& signs = all.signsOf(at);
    std::string widths, differences = "0";
    QPDFObjectHandle procedures = QPDFObjectHandle::newDictionary();
    for (std::size_t code = 0; code < signs.size(); ++code) {
        const std::string name = "/g" + std::to_string(code);
        procedures.replaceKey(
            name, pdf.makeIndirectObject(QPDFObjectHandle::newStream(&pdf, signs[code].procedure)));
        widths += std::to_string(signs[code].width) + " ";
        differences += " " + name;
    }
    const std::string last = std::to_string(signs.size() - 1);
    QPDFObjectHandle words = QPDFObjectHandle::parse(
        "<< /Type /Font /Subtype /Type3 /FontBBox [0 0 0 0] /FontMatrix [0.001 0 0 0.001 0 0] /FirstChar 0 "
        "/LastChar " +
        last + " /Widths [" + widths + "] /Encoding << /Type /Encoding /Differences [" + differences +
        "] >> /Resources << >> >>");
    for (const std::string& key : words.getKeys())
        font.replaceKey(key, words.getKey(key));
    font.replaceKey("/CharProcs", procedures);
    font.replaceKey("/ToUnicode", QPDFObjectHandle::newStream(&pdf, all.unicodeOf(at)));
}

} // namespace

base::Result<base::Bytes> writePages(const std::vector<Page>& pages, const std::string& title) {
    if (auto ok = checked(pages); !ok)
        return ok.error();
    try {
        QPDF pdf;
        pdf.emptyPDF();
        const QPDFObjectHandle font = pdf.makeIndirectObject(QPDFObjectHandle::parse(
            "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>"));
        QPDFPageDocumentHelper helper(pdf);
        OutlineFonts outlines;
        std::vector<QPDFObjectHandle> own;
        for (const Page& page : pages) {
            QPDFObjectHandle fonts = QPDFObjectHandle::newDictionary(), resources = fonts.shallowCopy(),
                             pictures = fonts.shallowCopy(), object = fonts.shallowCopy();
            const Content content(page, outlines);
            fonts.replaceKey("/F1", font);
            for (const std::size_t k : content.fonts()) {
                while (own.size() <= k) // filled once all pages are known
                    own.push_back(pdf.makeIndirectObject(QPDFObjectHandle::newDictionary()));
                fonts.replaceKey("/" + OutlineFonts::nameOf(k), own[k]);
            }
            for (std::size_t k = 0; k < content.pictures().size(); ++k)
                pictures.replaceKey("/P" + std::to_string(k), pictureOf(pdf, *content.pictures()[k]));
            resources.replaceKey("/Font", fonts);
            if (!content.pictures().empty())
                resources.replaceKey("/XObject", pictures);
            object.replaceKey("/Type", QPDFObjectHandle::newName("/Page"));
            object.replaceKey("/MediaBox", QPDFObjectHandle::newFromRectangle(
                                               {0, 0, page.widthMm * kPerMm, page.heightMm * kPerMm}));
            object.replaceKey("/Resources", resources);
            object.replaceKey("/Contents", QPDFObjectHandle::newStream(&pdf, content.text()));
            helper.addPage(QPDFPageObjectHelper(pdf.makeIndirectObject(object)), false);
        }
        for (std::size_t k = 0; k < own.size(); ++k)
            fillFont(pdf, own[k], outlines, k);
        QPDFObjectHandle info = QPDFObjectHandle::newDictionary();
        info.replaceKey("/Title", QPDFObjectHandle::newUnicodeString(title));
        info.replaceKey("/Producer", QPDFObjectHandle::newUnicodeString("Thin Line"));
        pdf.getTrailer().replaceKey("/Info", pdf.makeIndirectObject(info));
        QPDFWriter writer(pdf);
        writer.setOutputMemory();
        writer.setDeterministicID(true);
        writer.write();
        const auto buffer = writer.getBufferSharedPointer();
        return base::Bytes(buffer->getBuffer(), buffer->getBuffer() + buffer->getSize());
    } catch (const std::exception& error) { // of the library; none passes this line
        return Error{Code::IoError, std::string("The PDF could not be put together: ") + error.what() + "."};
    }
}

} // namespace thinline::formats::pdf
