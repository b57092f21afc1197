// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Stack.h"

#include <numbers>

namespace thinline::design {

const Stock* findStock(const std::vector<Stock>& stocks, const std::string& id) {
    for (const Stock& stock : stocks)
        if (stock.id == id)
            return &stock;
    return nullptr;
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
    stocks.push_back({id, "new card " + std::to_string(stocks.size() + 1), colour, 0.3, 200});
    return stocks.back();
}

std::string stockName(const std::vector<Stock>& stocks, const std::string& id) {
    const Stock* stock = findStock(stocks, id);
    return stock ? stock->name : id;
}

std::string layerName(const Stack& stack, const Layer& layer) {
    return layer.role == LayerRole::Areas ? stockName(stack.stocks, layer.stockId) : layerGroup(layer);
}

std::string layerGroup(const Layer& layer) {
    return layer.role == LayerRole::Backing ? "backing"
           : layer.role == LayerRole::Ink   ? "ink"
                                            : layer.stockId;
}

const Piece* findPiece(const Stack& stack, PieceId id) {
    for (const Layer& layer : stack.layers)
        for (const Piece& piece : layer.pieces)
            if (piece.id == id)
                return &piece;
    return nullptr;
}

double thicknessOf(const Stack& stack, PieceId id) {
    for (const Layer& layer : stack.layers)
        for (const Piece& piece : layer.pieces)
            if (piece.id == id) {
                const Stock* stock = findStock(stack.stocks, layer.stockId);
                return stock ? stock->thicknessMm : 0;
            }
    return 0;
}

std::string pieceName(const Stack& stack, PieceId id) {
    for (const Layer& layer : stack.layers)
        for (const Piece& piece : layer.pieces)
            if (piece.id == id) {
                if (!piece.name.empty())
                    return piece.name + " (" + layerName(stack, layer) + ")";
                if (id > kLastFound)
                    return "piece " + std::to_string(id - kLastFound) + " (" + layerName(stack, layer) + ")";
                if (layer.role == LayerRole::Areas)
                    return "area " + std::to_string(id) + " (" + layerName(stack, layer) + ")";
                return layer.pieces.size() == 1 || id >= 0
                           ? "the " + layerName(stack, layer)
                           : "part " + std::to_string(-id) + " of the " + layerName(stack, layer);
            }
    return "piece " + std::to_string(id);
}

StackMeasures measure(const Stack& stack) {
    StackMeasures out;
    double smallest = std::numeric_limits<double>::infinity();
    for (const Layer& layer : stack.layers) {
        ++out.layers;
        const Stock* stock = findStock(stack.stocks, layer.stockId);
        out.heightMm += layer.liftMm + (stock ? stock->thicknessMm : 0);
        for (const Piece& piece : layer.pieces) {
            ++out.pieces;
            out.nodes += geometry::nodeCount(*piece.shape);
            out.cutLengthMm += geometry::cutLength(*piece.shape);
            const geometry::Box box = geometry::bounds(*piece.shape);
            out.box.include(box);
            const double area = geometry::area(*piece.shape);
            if (area < smallest) {
                smallest = area;
                out.smallestPiece = piece.id;
                out.smallestPieceBox = box;
            }
        }
    }
    return out;
}

double acrossMm(const geometry::Shape& shape) {
    return 2 * std::sqrt(std::max(0.0, geometry::area(shape)) / std::numbers::pi);
}

} // namespace thinline::design
