// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <memory>
#include <string>
#include <vector>

/// The finished work as values: stocks, pieces, layers and the stack they form. All lengths in mm at final
/// size.
namespace thinline::design {

/// A kind of sheet. `id` is a short lower-case word that stays when the name changes; it also names groups in
/// written files.
struct Stock {
    std::string id;
    std::string name;
    raster::Rgb colour{255, 255, 255};
    double thicknessMm = 0.3;
    double gramsPerM2 = 200;

    bool operator==(const Stock&) const = default;
};

/// Identifies a piece within a job and stays with it when the drawing is traced again. Areas count up from 1,
/// parts of the backing down from -1.
using PieceId = int;

/// Pieces found by tracing have numbers up to here; those made from them have higher ones.
inline constexpr PieceId kLastFound = 10'000'000;

/// Pieces of sources (words, shapes, drawings) have numbers in blocks, one block a source, so that they keep
/// them when the source is changed. The block's first number stands for all of its pieces.
inline constexpr PieceId kFirstOfSources = 100'000'000;
inline constexpr PieceId kBlockOfSource = 1'000'000;
inline constexpr int kMostSources = 800;

/// Returns the number that stands for every piece of a source; sources count from 1.
constexpr PieceId allOfSource(int source) {
    return kFirstOfSources + (source - 1) * kBlockOfSource;
}
/// Returns the source a piece came from as it is, or 0.
constexpr int sourceOf(PieceId piece) {
    return piece < kFirstOfSources ? 0 : (piece - kFirstOfSources) / kBlockOfSource + 1;
}

/// One connected shape of a layer. The shape is shared between states of a job and never changes.
struct Piece {
    PieceId id = 0;
    std::shared_ptr<const geometry::Shape> shape;
    int copies = 1;
    std::string name = {}; ///< how it is spoken of, such as "the H of HARBOUR"; empty for what was traced
};

/// The backing lies below the areas, ink above them; there is one of each at most.
enum class LayerRole { Backing, Areas, Ink };

/// All pieces of one stock at one place of the stack.
struct Layer {
    LayerRole role = LayerRole::Areas;
    std::string stockId;
    double liftMm = 0; ///< foam or glue height below this layer
    bool isHidden = false;
    std::vector<Piece> pieces;
};

/// The layers from bottom to top, and every stock they name.
struct Stack {
    std::vector<Stock> stocks;
    std::vector<Layer> layers;
};

/// Returns the stock with this id, or null.
const Stock* findStock(const std::vector<Stock>& stocks, const std::string& id);

/// Returns the stock whose colour is as good as this one; a new stock is added when none comes near.
const Stock& stockOfColour(std::vector<Stock>& stocks, raster::Rgb colour);

/// A stock's short name for people: the name, or the id if it is unknown.
std::string stockName(const std::vector<Stock>& stocks, const std::string& id);

/// Returns "the backing" or the stock's name: how a layer is spoken of in the interface and in reports.
std::string layerName(const Stack& stack, const Layer& layer);

/// Returns the name of the group a layer gets in written files: "backing", else the stock's id.
std::string layerGroup(const Layer& layer);

/// Returns the piece with this id, or null.
/// Cost:   O(pieces).
const Piece* findPiece(const Stack& stack, PieceId id);

/// Returns how thick the stock of a piece is, mm; 0 for a piece or stock that is not there.
/// Cost:   O(pieces).
double thicknessOf(const Stack& stack, PieceId id);

/// Returns its own name and stock, "the H of HARBOUR (sea)", else "area 12 (sea)", "piece 3 (sea)" for a made
/// one, or "part 1 of the backing": how a piece is spoken of everywhere.
std::string pieceName(const Stack& stack, PieceId id);

/// The stack as numbers: what the answer blocks and reports show.
struct StackMeasures {
    int layers = 0;
    int pieces = 0; ///< distinct pieces, without copies
    int nodes = 0;
    double cutLengthMm = 0;
    geometry::Box box;         ///< of all pieces
    PieceId smallestPiece = 0; ///< by area; 0 when there are no pieces
    geometry::Box smallestPieceBox;
    double heightMm = 0; ///< thicknesses and lifts, as if every layer lay on all below it
};
StackMeasures measure(const Stack& stack);

/// The across measure of a small piece: the diameter of the disc of the same area, mm.
double acrossMm(const geometry::Shape& shape);

} // namespace thinline::design
