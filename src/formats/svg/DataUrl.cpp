// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/DataUrl.h"

namespace thinline::formats::svg {

std::optional<base::Bytes> bytesOfDataUrl(std::string_view url) {
    const std::size_t comma = url.find(',');
    if (url.substr(0, 5) != "data:" || comma == url.npos || url.substr(0, comma).find(";base64") == url.npos)
        return std::nullopt;
    constexpr std::string_view kSigns = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    base::Bytes out;
    out.reserve((url.size() - comma) / 4 * 3);
    unsigned held = 0;
    int bits = 0;
    for (const char sign : url.substr(comma + 1)) {
        if (sign == '=')
            break;
        if (sign == ' ' || sign == '\n' || sign == '\r' || sign == '\t')
            continue;
        const std::size_t value = kSigns.find(sign);
        if (value == kSigns.npos)
            return std::nullopt;
        held = (held << 6 | static_cast<unsigned>(value)) & 0xffffff;
        bits += 6;
        if (bits >= 8) {
            bits -= 8;
            out.push_back(static_cast<base::Bytes::value_type>(held >> bits & 0xff));
        }
    }
    return out;
}

} // namespace thinline::formats::svg
