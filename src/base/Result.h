// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cassert>
#include <string>
#include <utility>
#include <variant>

/// The one error type of the house. Everything that input, files, devices or people can cause comes back
/// as a Result; our own mistakes are asserts. No exception leaves a folder.
namespace thinline::base {

enum class Code {
    InvalidArgument,
    ParseError,
    NotFound,
    IoError,
    Unsupported,
    Degenerate,
    LimitExceeded,
    ChangedMeanwhile, ///< what was read is not there any more: somebody else wrote it
    Cancelled
};

/// What went wrong. `message` is one sentence for a person: what, where and what to do.
struct Error {
    Code code = Code::InvalidArgument;
    std::string message;
};

/// A value or an Error; reading the wrong side is a programming mistake and asserts.
template <class T>
class [[nodiscard]] Result {
  public:
    Result(T value) : m_either(std::in_place_index<0>, std::move(value)) {}
    Result(Error error) : m_either(std::in_place_index<1>, std::move(error)) {}

    bool isOk() const { return m_either.index() == 0; }
    explicit operator bool() const { return isOk(); }

    const T& value() const& {
        assert(isOk());
        return *std::get_if<0>(&m_either);
    }
    T&& take() {
        assert(isOk());
        return std::move(*std::get_if<0>(&m_either));
    }
    const T& operator*() const& { return value(); }
    const T* operator->() const { return &value(); }

    const Error& error() const {
        assert(!isOk());
        return *std::get_if<1>(&m_either);
    }

  private:
    std::variant<T, Error> m_either;
};

/// What a function returns that has nothing to give but success.
struct Done {};
using Status = Result<Done>;

inline Error cancelled() {
    return {Code::Cancelled, "Stopped."};
}

} // namespace thinline::base
