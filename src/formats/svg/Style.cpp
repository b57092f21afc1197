// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/Style.h"

#include "formats/svg/PathData.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

namespace thinline::formats::svg {
namespace {

using raster::Rgb;

constexpr size_t kMostRules = 20'000;

std::string_view trimmed(std::string_view text) {
    const auto isSpace = [](char c) { return c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '\f'; };
    while (!text.empty() && isSpace(text.front()))
        text.remove_prefix(1);
    while (!text.empty() && isSpace(text.back()))
        text.remove_suffix(1);
    return text;
}

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (c >= 'A' && c <= 'Z')
            c = static_cast<char>(c | 0x20);
    return out;
}

struct Named {
    const char* name;
    std::uint32_t rgb;
};
/// CSS Color Module Level 4, section 6.1.
constexpr auto kNamed = std::to_array<Named>({{"aliceblue", 0xf0f8ff},
                                              {"antiquewhite", 0xfaebd7},
                                              {"aqua", 0x00ffff},
                                              {"aquamarine", 0x7fffd4},
                                              {"azure", 0xf0ffff},
                                              {"beige", 0xf5f5dc},
                                              {"bisque", 0xffe4c4},
                                              {"black", 0x000000},
                                              {"blanchedalmond", 0xffebcd},
                                              {"blue", 0x0000ff},
                                              {"blueviolet", 0x8a2be2},
                                              {"brown", 0xa52a2a},
                                              {"burlywood", 0xdeb887},
                                              {"cadetblue", 0x5f9ea0},
                                              {"chartreuse", 0x7fff00},
                                              {"chocolate", 0xd2691e},
                                              {"coral", 0xff7f50},
                                              {"cornflowerblue", 0x6495ed},
                                              {"cornsilk", 0xfff8dc},
                                              {"crimson", 0xdc143c},
                                              {"cyan", 0x00ffff},
                                              {"darkblue", 0x00008b},
                                              {"darkcyan", 0x008b8b},
                                              {"darkgoldenrod", 0xb8860b},
                                              {"darkgray", 0xa9a9a9},
                                              {"darkgreen", 0x006400},
                                              {"darkgrey", 0xa9a9a9},
                                              {"darkkhaki", 0xbdb76b},
                                              {"darkmagenta", 0x8b008b},
                                              {"darkolivegreen", 0x556b2f},
                                              {"darkorange", 0xff8c00},
                                              {"darkorchid", 0x9932cc},
                                              {"darkred", 0x8b0000},
                                              {"darksalmon", 0xe9967a},
                                              {"darkseagreen", 0x8fbc8f},
                                              {"darkslateblue", 0x483d8b},
                                              {"darkslategray", 0x2f4f4f},
                                              {"darkslategrey", 0x2f4f4f},
                                              {"darkturquoise", 0x00ced1},
                                              {"darkviolet", 0x9400d3},
                                              {"deeppink", 0xff1493},
                                              {"deepskyblue", 0x00bfff},
                                              {"dimgray", 0x696969},
                                              {"dimgrey", 0x696969},
                                              {"dodgerblue", 0x1e90ff},
                                              {"firebrick", 0xb22222},
                                              {"floralwhite", 0xfffaf0},
                                              {"forestgreen", 0x228b22},
                                              {"fuchsia", 0xff00ff},
                                              {"gainsboro", 0xdcdcdc},
                                              {"ghostwhite", 0xf8f8ff},
                                              {"gold", 0xffd700},
                                              {"goldenrod", 0xdaa520},
                                              {"gray", 0x808080},
                                              {"green", 0x008000},
                                              {"greenyellow", 0xadff2f},
                                              {"grey", 0x808080},
                                              {"honeydew", 0xf0fff0},
                                              {"hotpink", 0xff69b4},
                                              {"indianred", 0xcd5c5c},
                                              {"indigo", 0x4b0082},
                                              {"ivory", 0xfffff0},
                                              {"khaki", 0xf0e68c},
                                              {"lavender", 0xe6e6fa},
                                              {"lavenderblush", 0xfff0f5},
                                              {"lawngreen", 0x7cfc00},
                                              {"lemonchiffon", 0xfffacd},
                                              {"lightblue", 0xadd8e6},
                                              {"lightcoral", 0xf08080},
                                              {"lightcyan", 0xe0ffff},
                                              {"lightgoldenrodyellow", 0xfafad2},
                                              {"lightgray", 0xd3d3d3},
                                              {"lightgreen", 0x90ee90},
                                              {"lightgrey", 0xd3d3d3},
                                              {"lightpink", 0xffb6c1},
                                              {"lightsalmon", 0xffa07a},
                                              {"lightseagreen", 0x20b2aa},
                                              {"lightskyblue", 0x87cefa},
                                              {"lightslategray", 0x778899},
                                              {"lightslategrey", 0x778899},
                                              {"lightsteelblue", 0xb0c4de},
                                              {"lightyellow", 0xffffe0},
                                              {"lime", 0x00ff00},
                                              {"limegreen", 0x32cd32},
                                              {"linen", 0xfaf0e6},
                                              {"magenta", 0xff00ff},
                                              {"maroon", 0x800000},
                                              {"mediumaquamarine", 0x66cdaa},
                                              {"mediumblue", 0x0000cd},
                                              {"mediumorchid", 0xba55d3},
                                              {"mediumpurple", 0x9370db},
                                              {"mediumseagreen", 0x3cb371},
                                              {"mediumslateblue", 0x7b68ee},
                                              {"mediumspringgreen", 0x00fa9a},
                                              {"mediumturquoise", 0x48d1cc},
                                              {"mediumvioletred", 0xc71585},
                                              {"midnightblue", 0x191970},
                                              {"mintcream", 0xf5fffa},
                                              {"mistyrose", 0xffe4e1},
                                              {"moccasin", 0xffe4b5},
                                              {"navajowhite", 0xffdead},
                                              {"navy", 0x000080},
                                              {"oldlace", 0xfdf5e6},
                                              {"olive", 0x808000},
                                              {"olivedrab", 0x6b8e23},
                                              {"orange", 0xffa500},
                                              {"orangered", 0xff4500},
                                              {"orchid", 0xda70d6},
                                              {"palegoldenrod", 0xeee8aa},
                                              {"palegreen", 0x98fb98},
                                              {"paleturquoise", 0xafeeee},
                                              {"palevioletred", 0xdb7093},
                                              {"papayawhip", 0xffefd5},
                                              {"peachpuff", 0xffdab9},
                                              {"peru", 0xcd853f},
                                              {"pink", 0xffc0cb},
                                              {"plum", 0xdda0dd},
                                              {"powderblue", 0xb0e0e6},
                                              {"purple", 0x800080},
                                              {"rebeccapurple", 0x663399},
                                              {"red", 0xff0000},
                                              {"rosybrown", 0xbc8f8f},
                                              {"royalblue", 0x4169e1},
                                              {"saddlebrown", 0x8b4513},
                                              {"salmon", 0xfa8072},
                                              {"sandybrown", 0xf4a460},
                                              {"seagreen", 0x2e8b57},
                                              {"seashell", 0xfff5ee},
                                              {"sienna", 0xa0522d},
                                              {"silver", 0xc0c0c0},
                                              {"skyblue", 0x87ceeb},
                                              {"slateblue", 0x6a5acd},
                                              {"slategray", 0x708090},
                                              {"slategrey", 0x708090},
                                              {"snow", 0xfffafa},
                                              {"springgreen", 0x00ff7f},
                                              {"steelblue", 0x4682b4},
                                              {"tan", 0xd2b48c},
                                              {"teal", 0x008080},
                                              {"thistle", 0xd8bfd8},
                                              {"tomato", 0xff6347},
                                              {"turquoise", 0x40e0d0},
                                              {"violet", 0xee82ee},
                                              {"wheat", 0xf5deb3},
                                              {"white", 0xffffff},
                                              {"whitesmoke", 0xf5f5f5},
                                              {"yellow", 0xffff00},
                                              {"yellowgreen", 0x9acd32}});

Rgb fromNumber(std::uint32_t rgb) {
    return {static_cast<std::uint8_t>(rgb >> 16), static_cast<std::uint8_t>((rgb >> 8) & 255),
            static_cast<std::uint8_t>(rgb & 255)};
}

/// A paint: a colour, or nothing. `said` hears of paints that are neither.
std::optional<Rgb> paintOf(std::string_view value, const Style& style, std::vector<std::string>& said) {
    const std::string text = lower(trimmed(value));
    if (text == "none" || text == "transparent")
        return std::nullopt;
    if (text == "currentcolor")
        return style.color;
    if (text.rfind("url", 0) == 0) {
        said.push_back("gradients and patterns");
        return Rgb{128, 128, 128}; // it is filled with something: the area counts
    }
    if (const auto colour = parseColour(text))
        return colour;
    return Rgb{0, 0, 0};
}

} // namespace

std::optional<Rgb> parseColour(std::string_view given) {
    const std::string text = lower(trimmed(given));
    if (text.size() > 1 && text[0] == '#') {
        std::uint32_t value = 0;
        for (char c : text.substr(1)) {
            const int digit = c >= '0' && c <= '9' ? c - '0' : c >= 'a' && c <= 'f' ? c - 'a' + 10 : -1;
            if (digit < 0 || text.size() > 9)
                return std::nullopt;
            value = value * 16 + static_cast<std::uint32_t>(digit);
        }
        switch (text.size()) {
        case 5: // with opacity, which cutting does not know
            value >>= 4;
            [[fallthrough]];
        case 4:
            return fromNumber(((value & 0xf00) * 0x1100) | ((value & 0xf0) * 0x110) | ((value & 0xf) * 0x11));
        case 9:
            value >>= 8;
            [[fallthrough]];
        case 7:
            return fromNumber(value);
        default:
            return std::nullopt;
        }
    }
    if (text.rfind("rgb", 0) == 0) {
        const auto open = text.find('(');
        if (open == std::string::npos)
            return std::nullopt;
        Scanner scan(std::string_view(text).substr(open + 1));
        Rgb out{};
        for (std::uint8_t& channel : out) {
            const auto value = scan.number();
            if (!value)
                return std::nullopt;
            double v = *value;
            if (scan.peek() == '%') {
                scan.take();
                v = v * 255 / 100;
            }
            channel = static_cast<std::uint8_t>(std::lround(std::clamp(v, 0.0, 255.0)));
        }
        return out;
    }
    const auto at = std::lower_bound(kNamed.begin(), kNamed.end(), text,
                                     [](const Named& n, const std::string& t) { return n.name < t; });
    return at != kNamed.end() && text == at->name ? std::optional(fromNumber(at->rgb)) : std::nullopt;
}

void Style::apply(std::string_view property, std::string_view given) {
    std::string_view value = trimmed(given);
    if (const auto important = value.find('!'); important != std::string_view::npos)
        value = trimmed(value.substr(0, important));
    if (value.empty() || value == "inherit")
        return;
    if (property == "fill")
        fill = paintOf(value, *this, said);
    else if (property == "stroke")
        stroke = paintOf(value, *this, said);
    else if (property == "color")
        color = parseColour(value).value_or(color);
    else if (property == "fill-rule")
        isEvenOdd = value == "evenodd";
    else if (property == "display")
        isDisplayed = isDisplayed && value != "none";
    else if (property == "visibility")
        isVisible = value != "hidden" && value != "collapse";
    else if (property == "stroke-width") {
        Scanner scan(value);
        if (const auto width = scan.number(); width && *width >= 0)
            strokeWidth = *width;
    } else if (property == "stroke-dasharray") {
        Scanner scan(value);
        const auto dash = scan.number();
        isDashed = dash && *dash > 0;
    } else if (property == "filter" && value != "none")
        said.push_back("filters");
    else if (property == "clip-path") {
        const auto hash = value.find('#'), end = value.find_first_of("\"')", hash == value.npos ? 0 : hash);
        clipPath =
            value == "none" || hash == value.npos ? "" : std::string(value.substr(hash + 1, end - hash - 1));
    } else if (property == "clip-rule")
        isClipEvenOdd = value == "evenodd";
    else if (property == "font-family") {
        const std::string_view first = trimmed(value.substr(0, value.find(',')));
        const auto from = first.find_first_not_of("\"'"), to = first.find_last_not_of("\"'");
        fontFamily = from == first.npos ? fontFamily : std::string(first.substr(from, to - from + 1));
    } else if (property == "font-size") {
        Scanner scan(value);
        if (const auto size = scan.number(); size && *size > 0 && std::isfinite(*size)) {
            const std::string_view unit = scan.word();
            fontSize = unit == "em"                                           ? *size * fontSize
                       : unit == "%" || (unit.empty() && value.back() == '%') ? *size / 100 * fontSize
                       : unit == "pt"                                         ? *size * 96 / 72
                       : unit == "mm"                                         ? *size * 96 / 25.4
                       : unit == "cm"                                         ? *size * 96 / 2.54
                       : unit == "in"                                         ? *size * 96
                                                                              : *size;
        }
    } else if (property == "font-weight") {
        Scanner scan(value);
        const auto weight = scan.number();
        isBold = weight ? *weight >= 600 : value == "bold" || value == "bolder";
    } else if (property == "font-style")
        isItalic = value == "italic" || value == "oblique";
    else if (property == "text-anchor")
        anchor = value == "middle" ? Anchor::Middle : value == "end" ? Anchor::End : Anchor::Start;
    else if (property == "mask" && value != "none")
        said.push_back("masks");
}

void Style::applyDeclarations(std::string_view text) {
    while (!text.empty()) {
        const auto end = std::min(text.find(';'), text.size());
        const std::string_view one = text.substr(0, end);
        if (const auto colon = one.find(':'); colon != std::string_view::npos)
            apply(lower(trimmed(one.substr(0, colon))), one.substr(colon + 1));
        text.remove_prefix(std::min(text.size(), end + 1));
    }
}

void StyleSheet::add(std::string_view text) {
    std::string plain; // without comments
    for (size_t i = 0; i < text.size(); ++i) {
        if (text.compare(i, 2, "/*") == 0) {
            const auto end = text.find("*/", i + 2);
            i = end == std::string_view::npos ? text.size() : end + 1;
        } else {
            plain += text[i];
        }
    }
    std::string_view rest = plain;
    while (true) {
        const auto open = rest.find('{');
        if (open == std::string_view::npos)
            return;
        std::string_view selectors = trimmed(rest.substr(0, open));
        // A block may hold blocks (at-rules): its end is where all are closed.
        size_t at = open + 1;
        for (int depth = 1; at < rest.size(); ++at) {
            depth += rest[at] == '{' ? 1 : rest[at] == '}' ? -1 : 0;
            if (depth == 0)
                break;
        }
        const std::string_view block = rest.substr(open + 1, at - open - 1);
        rest.remove_prefix(std::min(rest.size(), at + 1));
        if (const auto import = selectors.rfind(';'); import != std::string_view::npos)
            selectors = trimmed(selectors.substr(import + 1)); // @charset and @import before the first rule
        if (!selectors.empty() && selectors[0] == '@') {
            ++m_skipped;
            continue;
        }
        while (!selectors.empty()) {
            const auto comma = std::min(selectors.find(','), selectors.size());
            addRule(trimmed(selectors.substr(0, comma)), block);
            selectors.remove_prefix(std::min(selectors.size(), comma + 1));
        }
    }
}

void StyleSheet::addRule(std::string_view selector, std::string_view declarations) {
    Rule rule;
    rule.declarations = std::string(declarations);
    size_t at = 0;
    const auto name = [&] {
        const size_t from = at;
        while (at < selector.size() && selector[at] != '.' && selector[at] != '#')
            ++at;
        return std::string(selector.substr(from, at - from));
    };
    const bool isSimple = selector.find_first_of(" \t\n>+~:[") == std::string_view::npos && !selector.empty();
    if (!isSimple || m_rules.size() >= kMostRules) {
        ++m_skipped;
        return;
    }
    if (selector[0] != '.' && selector[0] != '#') {
        rule.element = name();
        if (rule.element == "*")
            rule.element.clear();
        else
            rule.weight += 1;
    }
    while (at < selector.size()) {
        const char kind = selector[at++];
        const std::string part = name();
        if (kind == '.') {
            rule.classes.push_back(part);
            rule.weight += 100;
        } else {
            rule.id = part;
            rule.weight += 10'000;
        }
    }
    const std::string key = !rule.id.empty()        ? "#" + rule.id
                            : !rule.classes.empty() ? "." + rule.classes.front()
                                                    : rule.element;
    m_byKey.emplace(key, m_rules.size());
    m_rules.push_back(std::move(rule));
}

void StyleSheet::applyTo(Style& style, std::string_view element, std::string_view classes,
                         std::string_view id) const {
    if (m_rules.empty())
        return;
    std::vector<std::string> own;
    for (Scanner scan(classes); !scan.atEnd();) {
        std::string one;
        while (scan.position() < classes.size() && !std::strchr(" \t\r\n", classes[scan.position()])) {
            one += classes[scan.position()];
            scan.take();
        }
        own.push_back(one);
    }
    std::vector<size_t> matching;
    const auto look = [&](const std::string& key) {
        const auto [from, to] = m_byKey.equal_range(key);
        for (auto it = from; it != to; ++it) {
            const Rule& rule = m_rules[it->second];
            const bool fits =
                (rule.element.empty() || rule.element == element) && (rule.id.empty() || rule.id == id) &&
                std::all_of(rule.classes.begin(), rule.classes.end(), [&](const std::string& c) {
                    return std::find(own.begin(), own.end(), c) != own.end();
                });
            if (fits)
                matching.push_back(it->second);
        }
    };
    look("");
    look(std::string(element));
    for (const std::string& c : own)
        look("." + c);
    if (!id.empty())
        look("#" + std::string(id));
    std::sort(matching.begin(), matching.end(), [&](size_t a, size_t b) {
        return m_rules[a].weight != m_rules[b].weight ? m_rules[a].weight < m_rules[b].weight : a < b;
    });
    for (size_t i : matching)
        style.applyDeclarations(m_rules[i].declarations);
}

} // namespace thinline::formats::svg
