// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/WritePages.h"

#include "formats/pdf/Content.h"
#include "geometry/Lines.h"

#define POINTERHOLDER_TRANSITION 4 // std::shared_ptr throughout
#ifdef __clang__ // version 14 finds JSON incomplete within itself; here it is only named
#define JSON_HH
class JSON;
#endif
#include <qpdf/Buffer.hh>
#include <qpdf/Pl_Flate.hh>
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

QPDFObjectHandle pictureOf(QPDF& pdf, const raster::Picture& picture, const QPDFObjectHandle& space) {
    // The library writes nothing there; the picture outlives the file.
    auto* bytes = const_cast<std::uint8_t*>(picture.rgb.data());
    QPDFObjectHandle out =
        QPDFObjectHandle::newStream(&pdf, std::make_shared<Buffer>(bytes, picture.rgb.size()));
    QPDFObjectHandle dictionary = out.getDict();
    dictionary.replaceKey("/Type", QPDFObjectHandle::newName("/XObject"));
    dictionary.replaceKey("/Subtype", QPDFObjectHandle::newName("/Image"));
    dictionary.replaceKey("/Width", QPDFObjectHandle::newInteger(picture.width));
    dictionary.replaceKey("/Height", QPDFObjectHandle::newInteger(picture.height));
    dictionary.replaceKey("/ColorSpace", space);
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

/// A file while it is put together.
class Document {
  public:
    explicit Document(const base::Bytes& profile) : m_space(QPDFObjectHandle::newName("/DeviceRGB")) {
        m_pdf.emptyPDF();
        if (!profile.empty()) {
            QPDFObjectHandle stream =
                QPDFObjectHandle::newStream(&m_pdf, std::string(profile.begin(), profile.end()));
            stream.getDict().replaceKey("/N", QPDFObjectHandle::newInteger(3));
            stream.getDict().replaceKey("/Alternate", m_space);
            m_space = QPDFObjectHandle::newArray(
                {QPDFObjectHandle::newName("/ICCBased"), m_pdf.makeIndirectObject(stream)});
            m_space = m_pdf.makeIndirectObject(m_space);
        }
        m_plain = m_pdf.makeIndirectObject(QPDFObjectHandle::parse(
            "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>"));
    }

    void add(const Page& page) {
        const Content content(page, m_outlines, m_layers);
        QPDFObjectHandle fonts = QPDFObjectHandle::newDictionary(), pictures = fonts.shallowCopy(),
                         properties = fonts.shallowCopy(), resources = fonts.shallowCopy(),
                         object = fonts.shallowCopy();
        fonts.replaceKey("/F1", m_plain);
        for (const std::size_t k : content.fonts())
            fonts.replaceKey("/" + OutlineFonts::nameOf(k), placed(m_own, k));
        for (const std::size_t k : content.layers())
            properties.replaceKey("/" + Layers::nameOf(k), placed(m_groups, k));
        for (std::size_t k = 0; k < content.pictures().size(); ++k)
            pictures.replaceKey("/P" + std::to_string(k), pictureOf(m_pdf, *content.pictures()[k], m_space));
        resources.replaceKey("/Font", fonts);
        if (!content.pictures().empty())
            resources.replaceKey("/XObject", pictures);
        if (!content.layers().empty())
            resources.replaceKey("/Properties", properties);
        object.replaceKey("/Type", QPDFObjectHandle::newName("/Page"));
        const geometry::Box whole{{0, 0}, {page.widthMm, page.heightMm}};
        const geometry::Box trim = page.trim.isEmpty() ? whole : page.trim;
        object.replaceKey("/MediaBox", boxOf(whole, page));
        object.replaceKey("/TrimBox", boxOf(trim, page));
        object.replaceKey("/BleedBox", boxOf(page.bleed.isEmpty() ? trim : page.bleed, page));
        object.replaceKey("/Resources", resources);
        object.replaceKey("/Contents", QPDFObjectHandle::newStream(&m_pdf, content.text()));
        QPDFPageDocumentHelper(m_pdf).addPage(QPDFPageObjectHelper(m_pdf.makeIndirectObject(object)), false);
    }

    base::Bytes finish(const std::string& title) {
        for (std::size_t k = 0; k < m_own.size(); ++k)
            fillFont(m_pdf, m_own[k], m_outlines, k);
        addLayers();
        QPDFObjectHandle info = QPDFObjectHandle::newDictionary();
        info.replaceKey("/Title", QPDFObjectHandle::newUnicodeString(title));
        info.replaceKey("/Producer", QPDFObjectHandle::newUnicodeString("Thin Line"));
        m_pdf.getTrailer().replaceKey("/Info", m_pdf.makeIndirectObject(info));
        constexpr int kQuick = 4; // photos hardly shrink any further, and take three times as long
        Pl_Flate::setCompressionLevel(kQuick);
        QPDFWriter writer(m_pdf);
        writer.setOutputMemory();
        writer.setDeterministicID(true);
        writer.write();
        const auto buffer = writer.getBufferSharedPointer();
        return base::Bytes(buffer->getBuffer(), buffer->getBuffer() + buffer->getSize());
    }

  private:
    /// An object that is filled once all pages are known.
    QPDFObjectHandle placed(std::vector<QPDFObjectHandle>& all, std::size_t at) {
        while (all.size() <= at)
            all.push_back(m_pdf.makeIndirectObject(QPDFObjectHandle::newDictionary()));
        return all[at];
    }

    static QPDFObjectHandle boxOf(const geometry::Box& box, const Page& page) {
        return QPDFObjectHandle::newFromRectangle({box.least.x * kPerMm,
                                                   (page.heightMm - box.most.y) * kPerMm, box.most.x * kPerMm,
                                                   (page.heightMm - box.least.y) * kPerMm});
    }

    void addLayers() {
        if (m_groups.empty())
            return;
        QPDFObjectHandle all = QPDFObjectHandle::newArray();
        for (std::size_t k = 0; k < m_groups.size(); ++k) {
            const Layers::One& layer = m_layers.all()[k];
            m_groups[k].replaceKey("/Type", QPDFObjectHandle::newName("/OCG"));
            m_groups[k].replaceKey("/Name", QPDFObjectHandle::newUnicodeString(layer.name));
            if (!layer.step.empty()) {
                QPDFObjectHandle what = QPDFObjectHandle::newDictionary();
                what.replaceKey("/GTS_ProcStepsGroup", QPDFObjectHandle::newName("/Structural"));
                what.replaceKey("/GTS_ProcStepsType", QPDFObjectHandle::newName("/" + layer.step));
                m_groups[k].replaceKey("/GTS_Metadata", what);
            }
            all.appendItem(m_groups[k]);
        }
        QPDFObjectHandle usual = QPDFObjectHandle::newDictionary(), properties = usual.shallowCopy();
        usual.replaceKey("/Order", all);
        usual.replaceKey("/ON", all);
        usual.replaceKey("/Name", QPDFObjectHandle::newUnicodeString("all"));
        properties.replaceKey("/OCGs", all);
        properties.replaceKey("/D", usual);
        m_pdf.getRoot().replaceKey("/OCProperties", properties);
    }

    QPDF m_pdf;
    QPDFObjectHandle m_space, m_plain;
    OutlineFonts m_outlines;
    Layers m_layers;
    std::vector<QPDFObjectHandle> m_own, m_groups; ///< fonts and layers
};

} // namespace

base::Result<base::Bytes> writePages(const std::vector<Page>& pages, const std::string& title,
                                     const base::Bytes& profile) {
    if (auto ok = checked(pages); !ok)
        return ok.error();
    try {
        Document out(profile);
        for (const Page& page : pages)
            out.add(page);
        return out.finish(title);
    } catch (const std::exception& error) { // of the library; none passes this line
        return Error{Code::IoError, std::string("The PDF could not be put together: ") + error.what() + "."};
    }
}

} // namespace thinline::formats::pdf
