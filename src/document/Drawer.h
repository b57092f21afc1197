// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "design/Stack.h"

#include <string>
#include <vector>

/// The stocks somebody owns, in a file of their own (docs/formats/drawer.md).
namespace thinline::document {

inline constexpr int kDrawerFormat = 1;

/// Returns the stocks of a drawer file.
/// Errors: those of reading; ParseError with the place for a file that is no drawer; as job::checkStock.
base::Result<std::vector<design::Stock>> readDrawer(const base::FileStore& store, const std::string& path);
/// Errors: those of writing; the file is whole or the old one stays.
base::Status writeDrawer(base::FileStore& store, const std::string& path,
                         const std::vector<design::Stock>& stocks);

} // namespace thinline::document
