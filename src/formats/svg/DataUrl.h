// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"

#include <optional>
#include <string_view>

namespace thinline::formats::svg {

/// Returns the bytes of a data URL in base 64, "data:image/png;base64,iVBO..."; nothing for any other URL or a broken one.
/// Source: RFC 2397, RFC 4648.
std::optional<base::Bytes> bytesOfDataUrl(std::string_view url);

} // namespace thinline::formats::svg
