// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "design/Drawer.h"

#include <string>

/// The stocks somebody owns and the worn spots of the mats, in a file of their own (docs/formats/drawer.md).
namespace thinline::document {

inline constexpr int kDrawerFormat = 1;

/// Returns what a drawer file holds.
/// Errors: those of reading; ParseError with the place for a file that is no drawer; as job::checkStock.
base::Result<design::Drawer> readDrawer(const base::FileStore& store, const std::string& path);
/// Errors: those of writing; the file is whole or the old one stays.
base::Status writeDrawer(base::FileStore& store, const std::string& path, const design::Drawer& drawer);

} // namespace thinline::document
