// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"

#include <string>

namespace thinline::pack {

/// Returns the SHA-256 of some bytes as 64 hexadecimal digits, as the command sha256sum prints it.
std::string sha256Of(const base::Bytes& bytes);

} // namespace thinline::pack
