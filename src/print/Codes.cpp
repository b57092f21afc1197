// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "print/Codes.h"

#include <qrencode.h>

#include <algorithm>
#include <memory>
#include <zint.h>

namespace thinline::print {
namespace {

using base::Code;
using base::Error;

/// Adds the dark stretches of a row of modules as boxes in the unit square.
void addRow(geometry::Polygons& dark, const std::vector<bool>& row, int quiet, double top, double bottom) {
    const int across = static_cast<int>(row.size()) + 2 * quiet;
    const auto at = [&](std::size_t module) {
        return static_cast<double>(static_cast<int>(module) + quiet) / across;
    };
    for (std::size_t x = 0; x < row.size(); ++x) {
        if (!row[x])
            continue;
        const std::size_t begin = x;
        while (x < row.size() && row[x])
            ++x;
        dark.push_back({{at(begin), top}, {at(x), top}, {at(x), bottom}, {at(begin), bottom}});
    }
}

base::Result<print::Code> squareCode(const std::string& text) {
    constexpr int kQuiet = 4; // modules, by the standard
    if (text.size() > kMostSquareBytes)
        return Error{Code::LimitExceeded, "A square code holds up to " + std::to_string(kMostSquareBytes) +
                                              " bytes that still print well; this text has " +
                                              std::to_string(text.size()) + ". Shorten it."};
    const std::unique_ptr<QRcode, void (*)(QRcode*)> code(
        QRcode_encodeData(static_cast<int>(text.size()), reinterpret_cast<const unsigned char*>(text.data()),
                          0, QR_ECLEVEL_M),
        QRcode_free);
    if (!code)
        return Error{Code::InvalidArgument, "This text cannot be made a square code; shorten it."};
    const int width = code->width, across = width + 2 * kQuiet;
    print::Code out{{}, 1, across};
    for (int y = 0; y < width; ++y) {
        std::vector<bool> row(static_cast<std::size_t>(width));
        for (int x = 0; x < width; ++x)
            row[static_cast<std::size_t>(x)] = code->data[y * width + x] & 1;
        addRow(out.dark, row, kQuiet, static_cast<double>(y + kQuiet) / across,
               static_cast<double>(y + kQuiet + 1) / across);
    }
    return out;
}

base::Result<print::Code> lineCode(const std::string& text) {
    constexpr int kQuiet = 10;          // modules, by the standard
    constexpr double kHighShare = 0.25; // of the width: long enough for a slanted look, from memory
    if (text.size() > kMostLineSigns)
        return Error{Code::LimitExceeded, "A line code holds up to " + std::to_string(kMostLineSigns) +
                                              " signs; this text has " + std::to_string(text.size()) +
                                              ". Shorten it, or take a square code."};
    if (std::any_of(text.begin(), text.end(), [](char c) { return c < ' ' || c > '~'; }))
        return Error{
            Code::InvalidArgument,
            "A line code holds letters without accents, digits and common signs; take a square code."};
    const std::unique_ptr<zint_symbol, void (*)(zint_symbol*)> symbol(ZBarcode_Create(), ZBarcode_Delete);
    if (!symbol)
        return Error{Code::LimitExceeded, "There is not enough memory for a line code."};
    symbol->symbology = BARCODE_CODE128;
    if (ZBarcode_Encode(symbol.get(), reinterpret_cast<const unsigned char*>(text.data()),
                        static_cast<int>(text.size())) >= ZINT_ERROR)
        return Error{Code::InvalidArgument, "This text cannot be made a line code; take a square code."};
    std::vector<bool> row(static_cast<std::size_t>(symbol->width));
    for (std::size_t x = 0; x < row.size(); ++x)
        row[x] = symbol->encoded_data[0][x / 8] >> (x % 8) & 1;
    print::Code out{{}, 1 / kHighShare, static_cast<int>(row.size()) + 2 * kQuiet};
    addRow(out.dark, row, kQuiet, 0, 1);
    return out;
}

} // namespace

base::Result<print::Code> codeOf(design::Face::Kind kind, const std::string& text) {
    if (text.empty())
        return Error{base::Code::InvalidArgument,
                     "Say what the code is to tell: an address, a number, a name."};
    return kind == design::Face::Kind::LineCode ? lineCode(text) : squareCode(text);
}

} // namespace thinline::print
