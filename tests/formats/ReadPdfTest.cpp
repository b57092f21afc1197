// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/ReadPdf.h"

#include "formats/image/ImageFile.h"
#include "formats/svg/ReadSvg.h"

#include <gtest/gtest.h>

#include <numbers>

namespace thinline::formats::pdf {
namespace {

/// A PDF file of some pages' contents, each 200 x 100 points, written from the grammar of ISO 32000-1.
base::Bytes pdfOf(const std::vector<std::string>& pages, const std::string& resources = "") {
    std::string out = "%PDF-1.4\n", kids;
    std::vector<size_t> offsets;
    const auto object = [&](const std::string& body) {
        offsets.push_back(out.size());
        out += std::to_string(offsets.size()) + " 0 obj\n" + body + "\nendobj\n";
    };
    for (size_t i = 0; i < pages.size(); ++i)
        kids += std::to_string(3 + 2 * i) + " 0 R ";
    object("<< /Type /Catalog /Pages 2 0 R >>");
    object("<< /Type /Pages /Kids [" + kids + "] /Count " + std::to_string(pages.size()) + " >>");
    for (const std::string& page : pages) {
        object("<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Resources << " + resources +
               " >> /Contents " + std::to_string(offsets.size() + 2) + " 0 R >>");
        object("<< /Length " + std::to_string(page.size()) + " >>\nstream\n" + page + "\nendstream");
    }
    const size_t start = out.size();
    out += "xref\n0 " + std::to_string(offsets.size() + 1) + "\n0000000000 65535 f \n";
    for (size_t offset : offsets) {
        std::string digits = std::to_string(offset);
        out += std::string(10 - digits.size(), '0') + digits + " 00000 n \n";
    }
    out += "trailer\n<< /Size " + std::to_string(offsets.size() + 1) + " /Root 1 0 R >>\nstartxref\n" +
           std::to_string(start) + "\n%%EOF\n";
    return {out.begin(), out.end()};
}

double areaOf(const base::Bytes& file, int page, size_t* pieces = nullptr) {
    const auto read = readPage(file, page);
    if (!read)
        throw std::runtime_error(read.error().message);
    const auto drawing = svg::readSvg(read->svg);
    if (!drawing)
        throw std::runtime_error(drawing.error().message);
    const auto found = design::piecesOf(*drawing);
    double area = 0;
    for (const design::DrawnPiece& piece : *found)
        area += geometry::area(piece.shape);
    if (pieces)
        *pieces = found->size();
    return area;
}

constexpr double kMm2PerPt2 = 25.4 / 72 * 25.4 / 72; // a point is 1/72 in (ISO 32000-1)

TEST(ReadPdf, VectorsComeOutInTrueSize) {
    const base::Bytes file = pdfOf(
        {"1 0 0 rg 20 20 72 36 re f", "0 0 1 rg 10 10 50 50 re 20 20 10 10 re f* 0 g 100 10 20 30 re f"});
    const auto facts = readPage(file);
    ASSERT_TRUE(facts);
    EXPECT_EQ(facts->pages, 2);
    EXPECT_TRUE(facts->hasVectors);
    EXPECT_NEAR(facts->widthMm, 200 * 25.4 / 72, 1e-6);
    EXPECT_NEAR(facts->heightMm, 100 * 25.4 / 72, 1e-6);
    size_t pieces = 0;
    EXPECT_NEAR(areaOf(file, 0, &pieces), 72 * 36 * kMm2PerPt2, 0.02);
    EXPECT_EQ(pieces, 1u);
    EXPECT_NEAR(areaOf(file, 1, &pieces), (2500 - 100 + 600) * kMm2PerPt2, 0.05);
    EXPECT_EQ(pieces, 2u);
}

TEST(ReadPdf, APageOfPicturesAloneIsDrawnAsAPicture) {
    using namespace std::string_literals;
    const std::string scan = "q 200 0 0 100 0 0 cm BI /W 2 /H 1 /CS /G /BPC 8 ID \x00\xff EI Q"s;
    const auto page = readPage(pdfOf({scan}));
    ASSERT_TRUE(page);
    EXPECT_FALSE(page->hasVectors);
    const auto picture = image::decode(page->png);
    ASSERT_TRUE(picture);
    EXPECT_EQ(picture->picture.width, 833) << "200 points at 300 to the inch";
    EXPECT_EQ(picture->picture.height, 417);
    EXPECT_EQ(picture->picture.row(50)[50 * 3], 0);
    EXPECT_EQ(picture->picture.row(50)[800 * 3], 255);
    EXPECT_TRUE(readPage(pdfOf({"0 g 0 0 100 100 re f"}))->png.empty());
}

TEST(ReadPdf, BrokenFilesAreRefusedInASentence) {
    const base::Bytes whole = pdfOf({"0 g 0 0 100 100 re f"});
    for (size_t length : {0u, 5u, 40u}) {
        const base::Bytes cut(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length));
        const auto out = readPage(cut);
        ASSERT_FALSE(out) << length;
        EXPECT_EQ(out.error().code, base::Code::ParseError);
    }
    EXPECT_EQ(readPage(whole, 1).error().message, "The PDF file has 1 page; there is no page 2.");
    EXPECT_FALSE(readPage(whole, -1));
}

} // namespace
} // namespace thinline::formats::pdf
