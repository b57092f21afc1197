// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"

#include <string>
#include <string_view>

namespace thinline::base {

inline constexpr double kMmPerInch = 25.4;

enum class LengthUnit { Millimetre, Inch };

/// A length as people state it, at the boundary of the program. Inside, lengths are doubles in mm whose
/// name ends in `Mm`.
class Length {
  public:
    constexpr Length() = default;
    constexpr double inMm() const { return m_mm; }
    constexpr double inInches() const { return m_mm / kMmPerInch; }
    constexpr bool operator==(const Length&) const = default;

  private:
    explicit constexpr Length(double lengthMm) : m_mm(lengthMm) {}
    friend constexpr Length mm(double);
    friend constexpr Length inches(double);
    double m_mm = 0;
};

constexpr Length mm(double value) {
    return Length(value);
}
constexpr Length inches(double value) {
    return Length(value * kMmPerInch);
}

/// The range a stated length may have; outside it the parser refuses with a sentence.
struct LengthRange {
    double leastMm = 0.1;      ///< shorter than a knife can follow
    double largestMm = 5000.0; ///< beyond every craft cutter; also catches a slip of the decimal point
};

/// Returns the length somebody typed. Accepts "240", "240 mm", "24,5cm", "0.24 m", "9.5 in", "11 1/2 in",
/// "3/4\"", "11½ in"; a bare number counts in `unit`. A comma is a decimal comma; thousands separators are
/// refused, because "1,200" may mean either.
/// Errors: InvalidArgument with a sentence that quotes the text: empty, no number, unknown unit, negative,
///         zero, not finite, or outside `range`.
/// Cost:   O(length of text).
Result<Length> parseLength(std::string_view text, LengthUnit unit, LengthRange range = {});

/// Returns a place along an axis, mm: as a length, but it may be zero or begin with a minus.
/// Errors: InvalidArgument as for parseLength; beyond 5 m either way.
Result<double> parsePlaceMm(std::string_view text, LengthUnit unit);

/// A width and a height.
struct StatedSize {
    Length width, height;
};
/// Returns the size somebody typed: "200mm x 150mm", "8x10in", "8 × 10 in", "200x150". A unit behind the second counts
/// for the first as well, if that has none of its own.
/// Errors: InvalidArgument as for parseLength, and for a text without a multiplication sign.
Result<StatedSize> parseSize(std::string_view text, LengthUnit unit, LengthRange range = {});

/// Returns an area in mm2 from "0.5mm2", "0,5 mm²", "0.5" (mm2) or "0.01 in2".
/// Errors: InvalidArgument as for parseLength; zero is allowed (nothing is too small).
Result<double> parseAreaMm2(std::string_view text);

/// Returns the length as the person reads it: "240.0 mm" or "9.449 in"; `withUnit` false leaves the number
/// alone.
std::string formatLength(double lengthMm, LengthUnit unit, bool withUnit = true);

/// Returns "412.0 × 61.0 mm", the way every size is written in the interface, the batch tool and the reports.
std::string formatSize(double widthMm, double heightMm, LengthUnit unit);

/// Returns a number with `decimals` digits after a point, whatever the locale.
std::string formatNumber(double value, int decimals);

/// Returns "1 layer", "3 layers", "2 914 nodes".
std::string counted(long long count, const std::string& thing);

/// Returns a whole number with a thin space between thousands: "2 914".
std::string formatCount(long long value);

} // namespace thinline::base
