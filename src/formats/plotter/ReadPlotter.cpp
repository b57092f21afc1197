// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/plotter/ReadPlotter.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>

namespace thinline::formats::plotter {
namespace {

using base::Code;
using base::Error;
using geometry::Point;

constexpr size_t kMostBytes = 64U << 20, kMostPlaces = 2'000'000;
constexpr double kMmPerUnit = 25.4 / 1016;
constexpr double kFarthest = 1e9; ///< units; beyond it nothing is a plotter's

class Reading {
  public:
    explicit Reading(std::string_view bytes) : m_bytes(bytes) {}

    base::Result<PlotterPage> run() {
        while (m_at < m_bytes.size()) {
            const char c = m_bytes[m_at];
            if (std::isspace(static_cast<unsigned char>(c)) || c == ';') {
                ++m_at;
                continue;
            }
            if (m_at + 1 >= m_bytes.size() || !std::isalpha(static_cast<unsigned char>(c)) ||
                !std::isalpha(static_cast<unsigned char>(m_bytes[m_at + 1])))
                return bad("a command is two letters");
            std::string command{c, m_bytes[m_at + 1]};
            for (char& letter : command)
                letter = static_cast<char>(std::toupper(static_cast<unsigned char>(letter)));
            m_at += 2;
            if (auto ok = obey(command); !ok)
                return ok.error();
        }
        lift();
        m_page.endsLifted = !m_isDown && m_pen == 0;
        return std::move(m_page);
    }

  private:
    Error bad(const std::string& why) const {
        const auto line =
            1 + std::count(m_bytes.begin(),
                           m_bytes.begin() + static_cast<std::ptrdiff_t>(std::min(m_at, m_bytes.size())),
                           '\n');
        return {Code::ParseError,
                "The plotter file cannot be read: line " + std::to_string(line) + ": " + why + "."};
    }

    base::Status obey(const std::string& command) {
        if (command == "LB") { // words run to the end-of-text sign
            const size_t end = m_bytes.find('\x03', m_at);
            m_at = end == std::string_view::npos ? m_bytes.size() : end + 1;
            return base::Done{};
        }
        auto numbers = numbersHere();
        if (!numbers)
            return numbers.error();
        if (command == "IN") {
            lift();
            m_isDown = m_isRelative = false;
            m_pen = 0;
            m_at0 = {};
        } else if (command == "SP") {
            lift();
            m_pen = numbers->empty() ? 0 : static_cast<int>(std::clamp(numbers->front(), 0.0, 1000.0));
        } else if (command == "PU" || command == "PD" || command == "PA" || command == "PR") {
            if (command == "PU")
                lift();
            if (command[1] == 'U' || command[1] == 'D')
                m_isDown = command == "PD";
            else
                m_isRelative = command == "PR";
            return go(*numbers);
        } else if (std::find(m_page.skipped.begin(), m_page.skipped.end(), command) == m_page.skipped.end()) {
            m_page.skipped.push_back(command);
        }
        return base::Done{};
    }

    base::Result<std::vector<double>> numbersHere() {
        std::vector<double> out;
        while (m_at < m_bytes.size()) {
            const char c = m_bytes[m_at];
            if (c == ',' || std::isspace(static_cast<unsigned char>(c))) {
                ++m_at;
                continue;
            }
            if (!(std::isdigit(static_cast<unsigned char>(c)) || c == '-' || c == '+' || c == '.'))
                break;
            const size_t from = c == '+' ? m_at + 1 : m_at;
            double value = 0;
            const auto [end, error] =
                std::from_chars(m_bytes.data() + from, m_bytes.data() + m_bytes.size(), value);
            if (error != std::errc{} || !std::isfinite(value) || std::abs(value) > kFarthest)
                return bad("a number cannot be read");
            m_at = static_cast<size_t>(end - m_bytes.data());
            out.push_back(value);
            if (out.size() > 2 * kMostPlaces)
                return Error{Code::LimitExceeded, "The plotter file has more than two million places."};
        }
        return out;
    }

    base::Status go(const std::vector<double>& numbers) {
        if (numbers.size() % 2 != 0)
            return bad("a place is two numbers");
        for (size_t i = 0; i + 1 < numbers.size(); i += 2) {
            const Point p{numbers[i], numbers[i + 1]};
            const Point to = m_isRelative ? m_at0 + p : p;
            if (m_isDown && m_way.empty())
                m_way.push_back(m_at0 * kMmPerUnit);
            m_at0 = to;
            if (m_isDown)
                m_way.push_back(to * kMmPerUnit);
            if (++m_places > kMostPlaces)
                return Error{Code::LimitExceeded, "The plotter file has more than two million places."};
        }
        return base::Done{};
    }

    void lift() {
        if (m_way.size() > 1)
            m_page.lines.push_back({m_pen, std::move(m_way)});
        m_way = {};
    }

    const std::string_view m_bytes;
    size_t m_at = 0, m_places = 0;
    PlotterPage m_page;
    geometry::Polygon m_way;
    Point m_at0; ///< where the pen is, units
    int m_pen = 0;
    bool m_isDown = false, m_isRelative = false;
};

} // namespace

base::Result<PlotterPage> readPlotter(std::string_view bytes) {
    if (bytes.size() > kMostBytes)
        return Error{Code::LimitExceeded, "The plotter file is larger than 64 MB."};
    return Reading(bytes).run();
}

} // namespace thinline::formats::plotter
