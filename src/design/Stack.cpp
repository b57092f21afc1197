// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Stack.h"

#include "raster/Colour.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace thinline::design {
namespace {

void take(StackMeasures& out, const Laid& laid, double& smallest) {
    const geometry::Shape& shape = laid.shape();
    ++out.pieces;
    out.nodes += geometry::nodeCount(shape);
    out.lines += static_cast<int>(laid.piece.body->lines.size());
    out.cutLengthMm += geometry::cutLength(shape);
    const geometry::Box box = geometry::bounds(shape);
    out.box.include(box);
    if (const double area = geometry::area(shape); area < smallest) {
        smallest = area;
        out.smallestPiece = laid.id();
        out.smallestPieceBox = box;
    }
}

/// How many layers below this one have the same name by `nameOf`.
template <class NameOf>
int sameBelow(const Stack& stack, const Layer& layer, NameOf nameOf) {
    int count = 0;
    for (const Layer& other : stack.layers) {
        if (other.id == layer.id)
            break;
        count += nameOf(other) == nameOf(layer) ? 1 : 0;
    }
    return count;
}

} // namespace

const Layer* Stack::layer(LayerId id) const {
    return findLayer(layers, id);
}

std::vector<const Laid*> Stack::in(LayerId id) const {
    std::vector<const Laid*> out;
    for (const Laid& laid : pieces)
        if (laid.layer == id)
            out.push_back(&laid);
    return out;
}

const Laid* Stack::find(PieceId id) const {
    for (const Laid& laid : pieces)
        if (laid.piece.id == id)
            return &laid;
    return nullptr;
}

Stock::Prints printsOf(const Stock& stock) {
    if (stock.prints)
        return *stock.prints;
    switch (stock.kind) {
    case Stock::Kind::Card:
    case Stock::Kind::TranslucentPaper:
        return Stock::Prints::Both;
    case Stock::Kind::Board:
        return Stock::Prints::None;
    case Stock::Kind::Laminate: // of three, between two that are printed
        return stock.laminateOf.size() > 2 ? Stock::Prints::Both : Stock::Prints::Front;
    default:
        return Stock::Prints::Front;
    }
}

double bleedOf(const Stock& stock) {
    return stock.bleedMm.value_or(kBleedMm);
}

bool goesThroughCarrier(const Stack& stack, const Laid& laid) {
    if (!laid.isCutThrough)
        return false;
    const Stock* stock = findStock(stack.stocks, stack.layerOf(laid).stockId);
    return stock && stock->cut == Depth::ToCarrier;
}

const Stock* findStock(const std::vector<Stock>& stocks, const std::string& id) {
    for (const Stock& stock : stocks)
        if (stock.id == id)
            return &stock;
    return nullptr;
}

const Layer* findLayer(const std::vector<Layer>& layers, LayerId id) {
    for (const Layer& layer : layers)
        if (layer.id == id)
            return &layer;
    return nullptr;
}

std::string plainWord(const std::string& name) {
    std::string out;
    for (const char c : name)
        if ((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9'))
            out += c;
        else if (c >= 'A' && c <= 'Z')
            out += static_cast<char>(c - 'A' + 'a');
        else if (!out.empty() && out.back() != '-')
            out += '-';
    while (!out.empty() && out.back() == '-')
        out.pop_back();
    return out;
}

std::string newStockName(const std::vector<Stock>& stocks, raster::Rgb colour) {
    const std::string word = raster::colourWords(colour);
    std::string out = word;
    for (int number = 2;
         std::any_of(stocks.begin(), stocks.end(), [&](const Stock& s) { return s.name == out; }); ++number)
        out = word + " " + std::to_string(number);
    return out;
}

const Stock& stockOfColour(std::vector<Stock>& stocks, raster::Rgb colour) {
    constexpr double kSameColour =
        0.075; // a few just visible steps: one card of the drawer stands for the print
    const Stock* nearest = nullptr;
    double least = kSameColour;
    for (const Stock& stock : stocks)
        if (const double d = raster::colourDistance(stock.colour, colour); d < least) {
            least = d;
            nearest = &stock;
        }
    if (nearest)
        return *nearest;
    const std::string id = "colour-" + raster::hexOf(colour);
    stocks.push_back({id, newStockName(stocks, colour), colour, 0.3, 200});
    return stocks.back();
}

raster::Rgb colourOf(const std::vector<Stock>& stocks, const std::string& id) {
    const Stock* stock = findStock(stocks, id);
    return stock ? stock->colour : raster::Rgb{200, 200, 200};
}

std::string stockName(const std::vector<Stock>& stocks, const std::string& id) {
    const Stock* stock = findStock(stocks, id);
    return stock ? stock->name : id;
}

std::string layerName(const Stack& stack, const Layer& layer) {
    const auto nameOf = [&](const Layer& one) {
        return one.name.empty() ? stockName(stack.stocks, one.stockId) : one.name;
    };
    const int before = layer.name.empty() ? sameBelow(stack, layer, nameOf) : 0;
    return before == 0 ? nameOf(layer) : nameOf(layer) + " " + std::to_string(before + 1);
}

std::string layerGroup(const Stack& stack, const Layer& layer) {
    const auto groupOf = [](const Layer& one) {
        const std::string own = plainWord(one.name);
        return own.empty() ? one.stockId : own;
    };
    const int before = sameBelow(stack, layer, groupOf);
    return before == 0 ? groupOf(layer) : groupOf(layer) + "-" + std::to_string(before + 1);
}

std::string pieceName(const Stack& stack, const Laid& laid) {
    const Layer& layer = stack.layerOf(laid);
    const std::string in = layerName(stack, layer);
    if (laid.piece.name.empty())
        return "a piece of " + in;
    // "the backing", "part 2 of the backing" say already where they lie.
    const bool saysLayer = laid.piece.name.ends_with(" " + in);
    return saysLayer ? laid.piece.name : laid.piece.name + " (" + in + ")";
}

std::string pieceName(const Stack& stack, PieceId id) {
    const Laid* laid = stack.find(id);
    return laid ? pieceName(stack, *laid) : "a piece that is not there";
}

double thicknessOf(const Stack& stack, const Laid& laid) {
    const Stock* stock = findStock(stack.stocks, stack.layerOf(laid).stockId);
    return stock ? stock->thicknessMm : 0;
}

StackMeasures measure(const Stack& stack) {
    StackMeasures out;
    out.layers = static_cast<int>(stack.layers.size());
    double smallest = std::numeric_limits<double>::infinity();
    for (const Laid& laid : stack.pieces)
        take(out, laid, smallest);
    return out;
}

StackMeasures measure(const Stack& stack, LayerId layer) {
    StackMeasures out;
    out.layers = 1;
    double smallest = std::numeric_limits<double>::infinity();
    for (const Laid* laid : stack.in(layer))
        take(out, *laid, smallest);
    return out;
}

double acrossMm(const geometry::Shape& shape) {
    return 2 * std::sqrt(std::max(0.0, geometry::area(shape)) / std::numbers::pi);
}

} // namespace thinline::design
