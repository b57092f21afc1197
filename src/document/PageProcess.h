// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/PageReader.h"

namespace thinline::document {

/// Has a process of its own draw each page, and ends it when it takes too long, too much, or is stopped.
class PageProcess final : public base::PageReader {
  public:
    /// `program` is thinline-page; without it, the one beside the program that runs.
    explicit PageProcess(std::string program = {});
    base::Result<base::PdfPage> page(const base::Bytes& file, int page,
                                     const base::Progress& progress) const override;

  private:
    std::string m_program;
};

} // namespace thinline::document
