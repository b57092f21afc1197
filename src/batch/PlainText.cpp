// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/PlainText.h"

namespace thinline::batch {

void PlainText::put(int byte) {
    if (byte != kNone)
        m_to->sputc(static_cast<char>(byte));
}

PlainText::int_type PlainText::overflow(int_type letter) {
    if (traits_type::eq_int_type(letter, traits_type::eof()))
        return traits_type::not_eof(letter);
    constexpr int kTwoBytes = 0xc2; // begins the letters U+0080 to U+00BF; those up to U+009F command as well
    const int byte = letter & 0xff;
    if (m_held == kTwoBytes && byte >= 0x80 && byte < 0xa0) {
        m_held = kNone;
        put('?');
        return letter;
    }
    put(m_held);
    m_held = kNone;
    if (byte == kTwoBytes) {
        m_held = byte;
        return letter;
    }
    put((byte < 0x20 && byte != '\n' && byte != '\t') || byte == 0x7f ? '?' : byte);
    return letter;
}

} // namespace thinline::batch
