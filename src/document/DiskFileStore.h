// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"

namespace thinline::document {

/// The real file system. Writing goes to a new file beside the old one, is flushed to the disk, and takes the
/// old one's name in one step; see base::FileStore for the promises.
class DiskFileStore final : public base::FileStore {
  public:
    base::Result<base::Bytes> read(const std::string& path, std::uint64_t mostBytes) const override;
    base::Status writeWhole(const std::string& path, const base::Bytes& bytes) override;
    base::Status makeFolder(const std::string& path) override;
    std::vector<std::string> list(const std::string& folder) const override;
    base::Status remove(const std::string& path) override;
    base::Result<std::unique_ptr<base::FileLock>> lock(const std::string& path) override;
};

} // namespace thinline::document
