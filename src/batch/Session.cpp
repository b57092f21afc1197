// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Session.h"

#include "base/Length.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <sstream>

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

base::Result<std::vector<geometry::Point>> pointsOf(const std::string& name, const std::string& text) {
    std::vector<geometry::Point> out;
    std::istringstream words(text);
    for (std::string word; words >> word;) {
        const auto comma = word.find(',');
        const auto x = base::parsePlaceMm(word.substr(0, comma), base::LengthUnit::Millimetre);
        const auto y = base::parsePlaceMm(comma == std::string::npos ? "" : word.substr(comma + 1),
                                          base::LengthUnit::Millimetre);
        if (!x || !y)
            return Error{Code::InvalidArgument,
                         name + " is '" + text +
                             "'; a place is written as 10mm,25mm, from the left and from the top."};
        out.push_back({*x, *y});
    }
    return out;
}

base::Result<geometry::Point> pointOf(const std::string& name, const std::string& text) {
    const auto points = pointsOf(name, text);
    if (!points)
        return points.error();
    if (points->size() != 1)
        return Error{Code::InvalidArgument, name + " takes one place, such as 12mm,-5mm."};
    return points->front();
}

std::vector<std::string> partedByCommas(const std::string& text) {
    std::vector<std::string> out;
    for (size_t from = 0; from <= text.size();) {
        const size_t comma = std::min(text.find(',', from), text.size());
        out.push_back(text.substr(from, comma - from));
        from = comma + 1;
    }
    return out;
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
