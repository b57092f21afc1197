// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/WritePages.h"

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
using geometry::Point;

constexpr double kPerMm = 72 / 25.4;

/// What is drawn on a page, in the words of the format: points from the lower left corner.
class Content {
  public:
    explicit Content(const Page& page) : m_heightMm(page.heightMm) {
        say("q ");
        const geometry::Box& box = page.window;
        at({box.least.x, box.most.y});
        number(box.width() * kPerMm);
        number(box.height() * kPerMm);
        say("re W n\n");
        for (const Drawn& drawn : page.inside)
            draw(drawn);
        say("Q\n");
        for (const Drawn& drawn : page.marks)
            draw(drawn);
        for (const Label& label : page.labels)
            write(label);
    }
    const std::string& text() const { return m_text; }

  private:
    void say(const char* words) { m_text += words; }
    void number(double value) {
        char text[32];
        std::snprintf(text, sizeof text, "%.5f ", value);
        m_text += text;
    }
    void at(Point p) {
        number(p.x * kPerMm);
        number((m_heightMm - p.y) * kPerMm);
    }

    void draw(const Drawn& drawn) {
        number(drawn.widthMm * kPerMm);
        say("w 1 J 1 j ");
        number(drawn.grey);
        say("G [");
        for (const double mm : drawn.dashMm)
            number(mm * kPerMm);
        say("] 0 d\n");
        for (const geometry::Contour& line : drawn.lines) {
            at(line.start);
            say("m\n");
            for (const geometry::Segment& segment : line.segments) {
                if (!segment.isLine) {
                    at(segment.control1);
                    at(segment.control2);
                }
                at(segment.end);
                say(segment.isLine ? "l\n" : "c\n");
            }
            say(geometry::endOf(line) == line.start ? "s\n" : "S\n");
        }
    }

    void write(const Label& label) {
        say("BT /F1 ");
        number(label.heightMm * kPerMm);
        say("Tf 0 g ");
        at(label.at);
        say("Td (");
        for (const char sign : latin1(label.text)) {
            if (sign == '(' || sign == ')' || sign == '\\')
                m_text += '\\';
            m_text += sign;
        }
        say(") Tj ET\n");
    }

    static std::string latin1(const std::string& utf8) {
        std::string out;
        for (size_t i = 0; i < utf8.size(); ++i) {
            const auto byte = static_cast<unsigned char>(utf8[i]);
            if (byte < 0x80) {
                out += byte < 0x20 ? ' ' : utf8[i];
                continue;
            }
            const bool isLatin = (byte == 0xC2 || byte == 0xC3) && i + 1 < utf8.size();
            out += isLatin ? static_cast<char>(((byte & 3) << 6) | (utf8[i + 1] & 0x3F)) : '?';
            while (i + 1 < utf8.size() && (static_cast<unsigned char>(utf8[i + 1]) & 0xC0) == 0x80)
                ++i;
        }
        return out;
    }

    double m_heightMm;
    std::string m_text;
};

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
        if (!areFinite(page.inside) || !areFinite(page.marks))
            return Error{Code::InvalidArgument, "A line of a page has a place that is no number."};
    }
    return base::Done{};
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
        for (const Page& page : pages) {
            QPDFObjectHandle fonts = QPDFObjectHandle::newDictionary(), resources = fonts.shallowCopy(),
                             object = fonts.shallowCopy();
            fonts.replaceKey("/F1", font);
            resources.replaceKey("/Font", fonts);
            object.replaceKey("/Type", QPDFObjectHandle::newName("/Page"));
            object.replaceKey("/MediaBox", QPDFObjectHandle::newFromRectangle(
                                               {0, 0, page.widthMm * kPerMm, page.heightMm * kPerMm}));
            object.replaceKey("/Resources", resources);
            object.replaceKey("/Contents", QPDFObjectHandle::newStream(&pdf, Content(page).text()));
            helper.addPage(QPDFPageObjectHelper(pdf.makeIndirectObject(object)), false);
        }
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
