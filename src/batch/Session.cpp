// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Session.h"

#include "base/Length.h"

#include <charconv>
#include <cmath>

namespace thinline::batch {

using base::Code;
using base::Error;

std::string fileOf(const std::string& path) {
    const auto slash = path.rfind('/');
    return path.substr(slash == std::string::npos ? 0 : slash + 1);
}

base::Result<double> lengthOrZero(const std::string& text) {
    if (text == "0" || text == "0mm" || text == "0 mm" || text == "0in" || text == "0 in")
        return 0.0;
    const auto length = base::parseLength(text, base::LengthUnit::Millimetre, {.leastMm = 0.001});
    return length ? base::Result<double>(length->inMm()) : length.error();
}

base::Result<double> numberBetween(const std::string& name, const std::string& text, double least,
                                   double most) {
    double value = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (code != std::errc() || end != text.data() + text.size() || !(value >= least && value <= most))
        return Error{Code::InvalidArgument,
                     name + " is '" + text + "'; it goes from " + base::formatNumber(least, 0) + " to " +
                         base::formatNumber(most, most == std::floor(most) ? 0 : 1) + "."};
    return value;
}

base::Status writeText(Session& session, const std::string& path, const std::string& text) {
    auto written = session.store.writeWhole(path, base::Bytes(text.begin(), text.end()));
    if (written)
        session.out << "wrote " << path << "\n";
    return written;
}

} // namespace thinline::batch
