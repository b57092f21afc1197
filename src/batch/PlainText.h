// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <streambuf>

namespace thinline::batch {

/// What is written to a terminal must not command it: names come from files, and a file's name may hold any letter.
/// Passes text on with every control letter but the line break and the tabulator shown as "?".
class PlainText : public std::streambuf {
  public:
    explicit PlainText(std::streambuf* to) : m_to(to) {}
    ~PlainText() override { put(m_held); }

  protected:
    int_type overflow(int_type letter) override;
    int sync() override { return m_to->pubsync(); }

  private:
    void put(int byte);
    std::streambuf* m_to;
    int m_held = kNone; ///< the first byte of a letter of two, until it is known which one
    static constexpr int kNone = -1;
};

} // namespace thinline::batch
