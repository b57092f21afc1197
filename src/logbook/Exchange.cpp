// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/Exchange.h"

#include "logbook/Fields.h"

#include <nlohmann/json.hpp>

#include <array>
#include <charconv>
#include <optional>

namespace thinline::logbook {
namespace {

using base::Code;
using base::Error;
using json = nlohmann::ordered_json;

/// The shortest decimal that reads back as the same number.
std::string plainNumber(double value) {
    std::array<char, 40> out{};
    const auto end = std::to_chars(out.data(), out.data() + out.size(), value).ptr;
    return {out.data(), end};
}

std::string cell(const Value& value) {
    if (const double* number = std::get_if<double>(&value))
        return plainNumber(*number);
    const std::string& text = *std::get_if<std::string>(&value);
    if (text.find_first_of(",\"\r\n") == std::string::npos)
        return text;
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

const Field* fieldCalled(const std::string& name) {
    for (const Field& field : fields())
        if (name == field.name)
            return &field;
    return nullptr;
}

/// Reads CSV row by row.
class Rows {
  public:
    explicit Rows(const std::string& text) : m_text(text) {
        if (m_text.compare(0, 3, "\xEF\xBB\xBF") == 0) // spreadsheets write a mark
            m_at = 3;
    }
    bool isAtEnd() const { return m_at >= m_text.size(); }
    int line() const { return m_line; }
    /// Returns the cells of the next row; nothing where a quote is not closed.
    std::optional<std::vector<std::string>> next() {
        std::vector<std::string> out{""};
        bool isQuoted = false;
        for (; m_at < m_text.size(); ++m_at) {
            const char c = m_text[m_at];
            m_line += c == '\n';
            if (isQuoted && c == '"' && m_at + 1 < m_text.size() && m_text[m_at + 1] == '"')
                out.back() += m_text[++m_at];
            else if (c == '"')
                isQuoted = !isQuoted;
            else if (isQuoted || (c != ',' && c != '\n' && c != '\r'))
                out.back() += c;
            else if (c == ',')
                out.emplace_back();
            else if (c == '\n') {
                ++m_at;
                return out;
            }
        }
        if (isQuoted)
            return {};
        return out;
    }

  private:
    const std::string& m_text;
    std::size_t m_at = 0;
    int m_line = 1;
};

Error wrong(const std::string& where, const std::string& what) {
    return {Code::ParseError, where + ": " + what + " Nothing was taken."};
}

bool setFrom(const Field& field, const std::string& text, Entry& entry) {
    if (text.empty()) // nothing said
        return true;
    if (!field.isNumber)
        return field.set(entry, text);
    double number = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), number);
    return problem == std::errc() && end == text.data() + text.size() && field.set(entry, number);
}

base::Result<std::vector<Entry>> readCsv(const std::string& text) {
    Rows rows(text);
    const auto names = rows.next();
    std::vector<const Field*> columns;
    for (const std::string& name : names ? *names : std::vector<std::string>{})
        columns.push_back(fieldCalled(name));
    if (std::none_of(columns.begin(), columns.end(),
                     [](const Field* one) { return one && std::string(one->name) == "what"; }))
        return wrong("Line 1",
                     "This is no logbook; its first line has to name the columns, \"what\" among them.");
    std::vector<Entry> out;
    while (!rows.isAtEnd()) {
        const std::string where = "Line " + std::to_string(rows.line());
        const auto cells = rows.next();
        if (!cells)
            return wrong(where, "A quotation mark is not closed.");
        if (*cells == std::vector<std::string>{""})
            continue;
        if (cells->size() != columns.size())
            return wrong(where, "It has " + std::to_string(cells->size()) + " cells, the first line " +
                                    std::to_string(columns.size()) + ".");
        Entry entry;
        for (std::size_t i = 0; i < columns.size(); ++i)
            if (columns[i] && !setFrom(*columns[i], (*cells)[i], entry))
                return wrong(where,
                             "'" + (*cells)[i].substr(0, 40) + "' cannot be a " + columns[i]->name + ".");
        if (auto ok = checkEntry(entry); !ok)
            return wrong(where, ok.error().message);
        out.push_back(std::move(entry));
    }
    return out;
}

base::Result<std::vector<Entry>> readJson(const std::string& text) {
    const json in = json::parse(text, nullptr, false);
    if (!in.is_array())
        return wrong("The file", "This is no logbook: JSON holds a list of entries.");
    std::vector<Entry> out;
    for (std::size_t i = 0; i < in.size(); ++i) {
        const std::string where = "Entry " + std::to_string(i + 1);
        if (!in[i].is_object())
            return wrong(where, "It is no object.");
        Entry entry;
        for (const auto& [name, value] : in[i].items()) {
            const Field* field = fieldCalled(name);
            if (!field)
                continue;
            const bool isSet = value.is_number()   ? field->set(entry, value.get<double>())
                               : value.is_string() ? field->set(entry, value.get<std::string>())
                                                   : false;
            if (!isSet)
                return wrong(where, std::string("Its ") + field->name + " cannot be that.");
        }
        if (auto ok = checkEntry(entry); !ok)
            return wrong(where, ok.error().message);
        out.push_back(std::move(entry));
    }
    return out;
}

} // namespace

std::string csvOf(const std::vector<Entry>& entries) {
    std::string out;
    for (const Field& field : fields())
        out += std::string(out.empty() ? "" : ",") + field.name;
    out += "\r\n";
    for (const Entry& entry : entries)
        for (const Field& field : fields())
            out += cell(field.get(entry)) + (&field == &fields().back() ? "\r\n" : ",");
    return out;
}

std::string jsonOf(const std::vector<Entry>& entries) {
    json out = json::array();
    for (const Entry& entry : entries) {
        json one;
        for (const Field& field : fields())
            std::visit([&](const auto& value) { one[field.name] = value; }, field.get(entry));
        out.push_back(std::move(one));
    }
    return out.dump(1, ' ', false, json::error_handler_t::replace) + "\n";
}

base::Result<std::vector<Entry>> readEntries(const std::string& text) {
    if (text.size() > kMostBytes)
        return Error{Code::LimitExceeded, "The file is larger than any logbook, 64 MB."};
    const std::size_t first = text.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    return first != std::string::npos && (text[first] == '[' || text[first] == '{') ? readJson(text)
                                                                                    : readCsv(text);
}

} // namespace thinline::logbook
