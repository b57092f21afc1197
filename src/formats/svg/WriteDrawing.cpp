// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/WriteDrawing.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <map>
#include <unordered_map>

namespace thinline::formats::svg {
namespace {

using geometry::Point;

constexpr int kDecimals = 4;

void appendNumber(std::string& out, double value, int decimals = kDecimals) {
    std::array<char, 48> buffer{};
    const auto [end, code] = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value,
                                           std::chars_format::fixed, decimals);
    if (code != std::errc()) {
        out += '0';
        return;
    }
    std::string_view text(buffer.data(), static_cast<size_t>(end - buffer.data()));
    while (text.back() == '0')
        text.remove_suffix(1);
    if (text.back() == '.')
        text.remove_suffix(1);
    out += text == "-0" ? "0" : text;
}

void appendPoint(std::string& out, Point p, int decimals = kDecimals) {
    appendNumber(out, p.x, decimals);
    out += ' ';
    appendNumber(out, p.y, decimals);
}

void appendContour(std::string& out, const geometry::Contour& contour, bool isOpen = false,
                   int decimals = kDecimals) {
    if (contour.segments.empty())
        return;
    out += 'M';
    appendPoint(out, contour.start, decimals);
    for (size_t i = 0; i < contour.segments.size(); ++i) {
        const geometry::Segment& s = contour.segments[i];
        const bool isClosing = !isOpen && i + 1 == contour.segments.size();
        if (s.isLine) {
            if (isClosing)
                break; // Z draws it
            out += 'L';
            appendPoint(out, s.end, decimals);
        } else {
            out += 'C';
            appendPoint(out, s.control1, decimals);
            out += ' ';
            appendPoint(out, s.control2, decimals);
            out += ' ';
            appendPoint(out, s.end, decimals);
        }
    }
    if (!isOpen)
        out += 'Z';
}

std::string escaped(const std::string& text) {
    std::string out;
    for (char c : text) {
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            if (static_cast<unsigned char>(c) >= 0x20)
                out += c; // control characters have no place in XML
        }
    }
    return out;
}

std::string hex(raster::Rgb colour) {
    return "#" + raster::hexOf(colour);
}

std::string opened(const geometry::Box& page, const std::string& title) {
    std::string out = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" "
                      "version=\"1.1\" width=\"";
    appendNumber(out, page.width());
    out += "mm\" height=\"";
    appendNumber(out, page.height());
    out += "mm\" viewBox=\"";
    appendPoint(out, page.least);
    out += ' ';
    appendPoint(out, {page.width(), page.height()});
    return out + "\">\n<title>" + escaped(title) + "</title>\n";
}

/// A path without data draws nothing and is left out.
void appendPath(std::string& out, const std::string& id, const std::string& title, const std::string& data) {
    if (!data.empty())
        out += "  <path" + (id.empty() ? std::string() : " id=\"" + escaped(id) + "\"") + " d=\"" + data +
               "\"" + (title.empty() ? "/>\n" : "><title>" + escaped(title) + "</title></path>\n");
}

} // namespace

std::string pathText(const geometry::Shape& shape, int decimals) {
    std::string out;
    appendContour(out, shape.outline, false, decimals);
    for (const geometry::Contour& opening : shape.openings)
        appendContour(out, opening, false, decimals);
    return out;
}

std::string lineText(const geometry::Line& line, int decimals) {
    std::string out;
    appendContour(out, line, true, decimals);
    return out;
}

std::string pieceElement(design::PieceId id) {
    std::string out = "piece-" + id.text();
    for (char& c : out)
        if (c == ':' || c == '/') // no letters of an XML name
            c = '_';
    return out;
}

std::string writeLayers(const design::Stack& stack, const std::string& title) {
    const geometry::Box box = design::measure(stack).box;
    std::string out = opened({{0, 0}, {box.width(), box.height()}}, title);
    const auto move = geometry::Transform::move(box.isEmpty() ? Point{} : box.least * -1);
    for (const design::Layer& layer : stack.layers) {
        if (layer.isHidden)
            continue;
        out += "<g id=\"" + escaped(design::layerGroup(stack, layer)) + "\" fill=\"" +
               hex(design::colourOf(stack.stocks, layer.stockId)) +
               "\" fill-rule=\"evenodd\" stroke=\"none\">\n  <title>" +
               escaped(design::layerName(stack, layer)) + "</title>\n";
        for (const design::Laid* laid : stack.in(layer.id))
            appendPath(out, pieceElement(laid->id()), design::pieceName(stack, *laid),
                       pathText(geometry::transformed(laid->shape(), move)));
        out += "</g>\n";
    }
    return out + "</svg>\n";
}

std::string copyElement(design::PieceId id, int copy) {
    return pieceElement(id) + "-" + std::to_string(copy + 1);
}

std::string frameElement(size_t sheet, size_t frame) {
    return "frame-" + std::to_string(sheet + 1) + "-" + std::to_string(frame + 1);
}

std::string operationElement(design::PieceId id, int copy, design::Operation operation) {
    constexpr std::array<const char*, design::kOperations.size()> kEndings{"-draw", "-score", "-perforate",
                                                                           "-inside", ""};
    return copyElement(id, copy) + kEndings[static_cast<size_t>(operation)];
}

namespace {

/// What a person reads of an operation, and how wide its lines show: they stay apart in black and white too.
struct Shown {
    const char* does;
    const char* widthMm;
};
Shown shownAs(design::Operation operation, bool isThrough) {
    switch (operation) {
    case design::Operation::Draw:
        return {"drawn by pen", "0.6"};
    case design::Operation::Score:
        return {"scored", "0.4"};
    case design::Operation::Perforate:
        return {"perforated", "0.25"};
    case design::Operation::CutInside:
        return {isThrough ? "openings and slits, cut through" : "openings and slits, cut to the carrier",
                "0.1"};
    case design::Operation::Cut:
        break;
    }
    return {isThrough ? "cut through" : "cut to the carrier", "0.1"};
}

} // namespace

std::string plannedElement(const design::Pass& pass, const design::PlannedPath& path) {
    if (pass.isTile)
        return pass.operation == design::Operation::Cut ? "test-tile" : "test-tile-inside";
    return path.frame ? frameElement(path.sheet, *path.frame)
                      : operationElement(path.what.piece, path.what.copy, pass.operation);
}

std::string writeLoad(const design::PlannedLoad& planned, const design::Load& load,
                      const design::Stack& stack, const std::string& title) {
    std::string out = opened({{0, 0}, {load.mat.widthMm, load.mat.heightMm}}, title);
    for (const design::Pass& pass : planned.passes) {
        struct Element {
            std::string id, title, data;
        };
        std::vector<Element> elements;
        std::unordered_map<std::string, size_t> known;
        for (const design::PlannedPath& path : pass.paths) {
            const std::string id = plannedElement(pass, path);
            const auto [at, isNew] = known.emplace(id, elements.size());
            if (isNew)
                elements.push_back({id,
                                    path.frame    ? "frame round " + path.cluster
                                    : pass.isTile ? "test tile, cut first"
                                                  : design::pieceName(stack, path.what.piece),
                                    {}});
            const bool isClosed = geometry::endOf(path.line) == path.line.start;
            elements[at->second].data +=
                isClosed ? pathText(geometry::Shape{path.line, {}}) : lineText(path.line);
        }
        std::string paths;
        for (const Element& element : elements)
            appendPath(paths, element.id, element.title, element.data);
        const Shown shown =
            pass.isFrame ? Shown{pass.isThroughCarrier ? "frames for lifting off, cut through the carrier"
                                                       : "frames for lifting off, cut to the carrier",
                                 "0.1"}
                         : shownAs(pass.operation, pass.depth == design::Depth::Through);
        out += "<g id=\"" + escaped(design::passGroup(pass)) + "\" fill=\"none\" stroke=\"" +
               hex(design::colourOf(stack.stocks, pass.stockId)) + "\" stroke-width=\"" + shown.widthMm +
               "\">\n  <title>" + escaped(design::stockName(stack.stocks, pass.stockId)) + ", " + shown.does +
               (pass.nested > 0 ? ", within openings of others" : "") + "</title>\n" + paths + "</g>\n";
    }
    return out + "</svg>\n";
}

namespace {

std::string group(const std::string& id, const std::string& title, const std::string& paint,
                  const std::string& paths) {
    return "<g id=\"" + escaped(id) + "\" " + paint + ">\n  <title>" + escaped(title) + "</title>\n" + paths +
           "</g>\n";
}
std::string filledWith(raster::Rgb colour) {
    return "fill=\"" + hex(colour) + "\" fill-rule=\"evenodd\" stroke=\"none\"";
}
std::string strokedWith(raster::Rgb colour, const char* widthMm) {
    return "fill=\"none\" stroke=\"" + hex(colour) + "\" stroke-width=\"" + widthMm + "\"";
}

design::Operation operationOf(const design::LineUse& does) {
    if (std::holds_alternative<design::Slit>(does))
        return design::Operation::CutInside;
    if (std::holds_alternative<design::Tear>(does))
        return design::Operation::Perforate;
    const auto* mark = std::get_if<design::Placement>(&does);
    return std::holds_alternative<design::Pen>(does) || (mark && !mark->isScored) ? design::Operation::Draw
                                                                                  : design::Operation::Score;
}

/// One layer's groups in the order in which a machine works: drawn, scored, perforated, slit, cut.
std::string layerGroups(const design::Stack& stack, const design::Layer& layer,
                        const geometry::Transform& map, Style style) {
    const raster::Rgb colour = design::colourOf(stack.stocks, layer.stockId);
    const design::Stock* stock = design::findStock(stack.stocks, layer.stockId);
    const design::Depth depth = stock ? stock->cut : design::Depth::Through;
    const std::string own = design::layerGroup(stack, layer), name = design::layerName(stack, layer);
    std::array<std::string, design::kOperations.size()> paths;
    std::string through; // what of it is cut through the carrier that the others leave whole
    for (const design::Laid* laid : stack.in(layer.id)) {
        const std::string said = design::pieceName(stack, *laid);
        std::array<std::string, design::kOperations.size()> lines;
        for (const design::PieceLine& line : laid->piece.body->lines)
            lines[static_cast<size_t>(operationOf(line.does))] +=
                lineText(geometry::transformed(line.path, map));
        for (const design::Operation operation : design::kOperations)
            if (!lines[static_cast<size_t>(operation)].empty())
                appendPath(paths[static_cast<size_t>(operation)], operationElement(laid->id(), 0, operation),
                           said, lines[static_cast<size_t>(operation)]);
        std::string& areas = design::goesThroughCarrier(stack, *laid)
                                 ? through
                                 : paths[static_cast<size_t>(design::Operation::Cut)];
        appendPath(areas, pieceElement(laid->id()), said,
                   pathText(geometry::transformed(laid->shape(), map)));
    }
    std::string cut, others;
    const auto painted = [&](bool isArea, const char* widthMm) {
        return !isArea || style == Style::Hairlines
                   ? strokedWith(isArea || style == Style::Hairlines ? colour : raster::Rgb{30, 42, 49},
                                 widthMm)
                   : filledWith(colour);
    };
    for (const design::Operation operation : design::kOperations) {
        const std::string& all = paths[static_cast<size_t>(operation)];
        if (all.empty())
            continue;
        const Shown shown = shownAs(operation, depth == design::Depth::Through);
        const bool isArea = operation == design::Operation::Cut;
        (isArea ? cut : others) += group(design::operationGroup(own, operation, depth),
                                         name + ", " + shown.does, painted(isArea, shown.widthMm), all);
    }
    if (!through.empty())
        cut += group(own + "-cut-through-carrier", name + ", cut through the carrier", painted(true, "0.1"),
                     through);
    return style == Style::Filled ? cut + others : others + cut; // lines show on their areas
}

} // namespace

std::string writeDesign(const design::Stack& stack, const std::string& title, Style style) {
    const geometry::Box box = design::measure(stack).box;
    std::string out = opened({{0, 0}, {box.width(), box.height()}}, title);
    const auto move = geometry::Transform::move(box.isEmpty() ? Point{} : box.least * -1);
    for (const design::Layer& layer : stack.layers)
        out += layerGroups(stack, layer, move, style);
    return out + "</svg>\n";
}

bool isOfAnArea(const design::Pass& pass, const design::PlannedPath& path) {
    const bool isClosed = geometry::endOf(path.line) == path.line.start;
    return (pass.operation == design::Operation::Cut ||
            (pass.operation == design::Operation::CutInside && isClosed)) &&
           !pass.isFrame && !pass.isTile;
}

std::string writeLoadFilled(const design::PlannedLoad& planned, const design::Load& load,
                            const design::Stack& stack, const std::string& title) {
    std::string out = opened({{0, 0}, {load.mat.widthMm, load.mat.heightMm}}, title);
    std::map<std::string, std::string> areas; // by stock
    for (const design::PlacedSheet& sheet : load.sheets)
        for (const design::PlacedPiece& placed : sheet.pieces)
            if (const design::Laid* laid = stack.find(placed.what.piece))
                appendPath(areas[sheet.stockId], copyElement(placed.what.piece, placed.what.copy),
                           design::pieceName(stack, *laid),
                           pathText(geometry::transformed(laid->shape(),
                                                          design::placement(laid->piece, placed.pose))));
    for (const auto& [stockId, paths] : areas)
        out += group(stockId, design::stockName(stack.stocks, stockId) + ", to be cut",
                     filledWith(design::colourOf(stack.stocks, stockId)), paths);
    for (const design::Pass& pass : planned.passes) {
        std::string paths;
        for (const design::PlannedPath& path : pass.paths) {
            if (!isOfAnArea(pass, path))
                appendPath(paths, {}, {},
                           geometry::endOf(path.line) == path.line.start
                               ? pathText(geometry::Shape{path.line, {}})
                               : lineText(path.line));
        }
        const Shown shown = shownAs(pass.operation, pass.depth == design::Depth::Through);
        if (!paths.empty())
            out += group(design::passGroup(pass) + "-lines",
                         design::stockName(stack.stocks, pass.stockId) + ", " + shown.does,
                         strokedWith({30, 42, 49}, shown.widthMm), paths);
    }
    return out + "</svg>\n";
}

std::string writeGroups(const std::vector<NamedGroup>& groups, geometry::Box page, const std::string& title) {
    for (const NamedGroup& group : groups)
        for (const NamedShape& one : group.shapes)
            page.include(geometry::bounds(one.shape));
    for (const NamedGroup& group : groups)
        for (const geometry::Line& line : group.lines)
            page.include(geometry::bounds(line));
    if (page.isEmpty())
        page = {{0, 0}, {1, 1}};
    std::string out = opened(page, title);
    for (const NamedGroup& group : groups) {
        const std::string paint = group.fill ? "fill=\"" + hex(*group.fill) + "\" stroke=\"none\""
                                             : "fill=\"none\" stroke=\"#1e2a31\" stroke-width=\"0.1\"";
        out += "<g id=\"" + escaped(group.id) + "\" " + paint + " fill-rule=\"evenodd\">\n  <title>" +
               escaped(group.title) + "</title>\n";
        for (const NamedShape& one : group.shapes)
            appendPath(out, one.id, one.title, pathText(one.shape));
        for (const geometry::Line& line : group.lines) {
            out += "  <path d=\"";
            appendContour(out, line, true);
            out += "\"/>\n";
        }
        out += "</g>\n";
    }
    return out + "</svg>\n";
}

} // namespace thinline::formats::svg
