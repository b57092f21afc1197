// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Piece.h"

/// The finished work as a value: stocks, layers, and every piece where it lies. All lengths in mm at finished
/// size.
namespace thinline::design {

/// How deep a cut goes.
enum class Depth {
    Through,
    ToCarrier ///< the film under vinyl stays whole
};

/// A kind of sheet. `id` is a short lower-case word that stays when the name changes; it also names groups in
/// written files.
struct Stock {
    std::string id;
    std::string name;
    raster::Rgb colour{255, 255, 255};
    double thicknessMm = 0.3;
    double gramsPerM2 = 200;
    Depth cut = Depth::Through; ///< the usual one
    enum class Faces { Alike, GoodFront } faces = Faces::Alike;
    enum class Turns { Any, Half, None } turns = Turns::Any; ///< what its pattern or grain allows
    bool isTranslucent = false;
    bool isCutByHand = false;                 ///< around the finished work, never on the machine
    std::vector<std::string> laminateOf = {}; ///< stocks glued before cutting, the visible one first
    enum class Kind { Card, Vinyl, Acetate, TranslucentPaper, Board, Laminate } kind = Kind::Card;
    struct Size {
        double widthMm = 0, heightMm = 0;
        std::optional<int> count = {}; ///< how many there are; unset when nobody counted
        bool operator==(const Size&) const = default;
    };
    std::vector<Size> sizes = {}; ///< of the sheets in the drawer
    /// Which of its faces can be printed; unset: as its kind usually can.
    enum class Prints { None, Front, Both };
    std::optional<Prints> prints = {};
    std::optional<double> bleedMm = {}; ///< print beyond the cut, 0 to 5; unset: kBleedMm
    double price = 0;                   ///< of a sheet, in the person's own money; 0 when it is not known

    bool operator==(const Stock&) const = default;
};

inline constexpr std::array<const char*, 3> kPrintsWords{"none", "front", "both"};
/// Returns which faces of a stock can be printed: as somebody said, else card and translucent paper on both, board on none,
/// all others on their front.
Stock::Prints printsOf(const Stock& stock);
/// Returns how far print goes beyond the cut, mm.
double bleedOf(const Stock& stock);
inline constexpr double kBleedMm = 2; ///< 1.5 to 3 mm is usual, from memory
inline constexpr double kMostBleedMm = 5;

inline constexpr double kMostLiftMm = 50;

/// Pieces of one stock at one place of the stack; several layers may be of one stock.
struct Layer {
    LayerId id{};
    std::string name; ///< empty: spoken of by its stock
    std::string stockId;
    enum class At {
        Front,  ///< above the base
        Behind, ///< below it, seen from the front through openings or past edges
        Back    ///< on its rear, kept as seen from the front
    } at = At::Front;
    double liftMm =
        0; ///< foam or glue height below its pieces, 0 to kMostLiftMm, where they say nothing else
    bool isHidden = false;
    bool isMarked = false; ///< marks on what lies directly below show where its pieces go

    bool operator==(const Layer&) const = default;
};

/// What somebody said about a piece; what is unset follows the piece it was made of, then the layer.
struct Wish {
    std::optional<LayerId> layer = {};
    std::optional<int> copies = {};
    std::optional<double> liftMm = {};
    std::optional<Side> up = {};           ///< which side faces the viewer
    std::optional<bool> isFree = {};       ///< may have a scale of its own
    std::optional<bool> isCutThrough = {}; ///< its stock's carrier is cut too, so that it comes off with it

    bool isEmpty() const { return *this == Wish{}; }
    bool operator==(const Wish&) const = default;
};

/// A piece in the stack.
struct Laid {
    Piece piece;
    LayerId layer{};
    int copies = 1;
    double liftMm = 0; ///< its own, or its layer's
    Side up = Side::Front;
    bool isFree = false;
    bool isCutThrough = false; ///< with the carrier, where its stock has one

    PieceId id() const { return piece.id; }
    const geometry::Shape& shape() const { return piece.body->shape; }
};

/// Pieces of one stock that keep their distances on the sheet because they are lifted off together. Inside one
/// spacing does not apply, and where outlines coincide they are cut once.
struct Cluster {
    std::string name;
    std::vector<PieceId> pieces; ///< each with all its later parts
    int copies = 1;              ///< of the whole; the counts of its pieces are not asked
    double frameMm = 0;          ///< room left to a frame that is cut round it; 0 for no frame
    bool isFrameThrough =
        false; ///< the frame is cut through the carrier, so that the whole comes off with it

    bool operator==(const Cluster&) const = default;
};
inline constexpr double kMostFrameMm = 50; ///< of the room to a frame

struct Stack {
    std::vector<Stock> stocks;
    std::vector<Layer> layers;          ///< bottom to top, those that hold pieces
    std::vector<Laid> pieces;           ///< layer by layer, within one as they lie on one another
    std::vector<Cluster> clusters = {}; ///< those that stand, see design/Cluster.h

    const Layer* layer(LayerId id) const;
    const Layer& layerOf(const Laid& laid) const { return *layer(laid.layer); }
    /// The pieces of a layer.
    std::vector<const Laid*> in(LayerId id) const;
    const Laid* find(PieceId id) const; ///< null when it is not there; O(pieces)
};

/// Whether a piece is cut through its stock and the carrier under it, which others of that stock leave whole.
bool goesThroughCarrier(const Stack& stack, const Laid& laid);

/// Returns the stock with this id, or null.
const Stock* findStock(const std::vector<Stock>& stocks, const std::string& id);
/// Returns the layer with this id, or null.
const Layer* findLayer(const std::vector<Layer>& layers, LayerId id);

/// Returns a name for a stock of a colour that no other stock has: its colour word, numbered if need be.
std::string newStockName(const std::vector<Stock>& stocks, raster::Rgb colour);
/// Returns the stock whose colour is as good as this one; a new stock is added when none comes near.
const Stock& stockOfColour(std::vector<Stock>& stocks, raster::Rgb colour);
/// Returns a stock's own colour; grey for one that is not there.
raster::Rgb colourOf(const std::vector<Stock>& stocks, const std::string& id);

/// Returns a name as a word of an id: lower-case letters, digits and dashes; empty when nothing of it is one.
std::string plainWord(const std::string& name);
/// A stock's short name for people: the name, or the id if it is unknown.
std::string stockName(const std::vector<Stock>& stocks, const std::string& id);

/// Returns how a layer is spoken of: by its own name, else by its stock; of several layers of one stock without
/// names the upper ones are counted: "sea", "sea 2".
std::string layerName(const Stack& stack, const Layer& layer);

/// Returns the name of the group a layer gets in written files: its name or its stock's id in plain letters; no
/// two layers share one.
std::string layerGroup(const Stack& stack, const Layer& layer);

/// Returns how a piece is spoken of everywhere: "the H of HARBOUR (sea)", "area 12 (sea)", "the backing".
std::string pieceName(const Stack& stack, PieceId id);
std::string pieceName(const Stack& stack, const Laid& laid);

/// Returns how thick the stock of a piece is, mm; 0 for an unknown stock.
double thicknessOf(const Stack& stack, const Laid& laid);

/// The stack as numbers: what the answer blocks and reports show.
struct StackMeasures {
    int layers = 0;
    int pieces = 0; ///< distinct pieces, without copies
    int nodes = 0;
    int lines = 0; ///< folds, scores, marks ...
    double cutLengthMm = 0;
    geometry::Box box;     ///< of all pieces
    PieceId smallestPiece; ///< by area; none without pieces
    geometry::Box smallestPieceBox;
};
/// Cost: O(nodes).
StackMeasures measure(const Stack& stack);
/// The same of one layer alone.
StackMeasures measure(const Stack& stack, LayerId layer);

/// The across measure of a small piece: the diameter of the disc of the same area, mm.
double acrossMm(const geometry::Shape& shape);

} // namespace thinline::design
