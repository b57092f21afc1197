// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What the lines of a drawing are.
//
// An area speaks for itself; a stroke does not. The same hairline is a cut in one file, a fold in the next, a
// pen line in the third, and what one program draws as a dashed path another draws as forty short cuts. So
// strokes are sorted by what a person sees of them (layer, colour, width, dashes, open or closed), each kind is
// answered once, and whatever the file itself tells makes the proposal:
//
// 1. A name tells most: a layer called "folds" holds folds, whatever they look like.
// 2. Dashes are folds. So are rows of short cuts that lie in one line with even gaps: a fold made by hand.
//    (DrawnRows.cpp). Drawn like the outline, and meeting it at its corners, they are a kind of their own.
// 3. Closed strokes, and loose ones that come round when their ends are joined, are outlines.
// 4. What is left is judged against the pieces. Solid lines from edge to edge may be folds or may part the
//    piece: they are asked about, not guessed, and left out until then.
//
// Closed outlines of one kind nest: one within another is its opening, one within that a piece again. A file
// may draw them all in one direction, so that no fill rule tells them apart; they are turned round and moved
// into the item around them, and the rule for areas does the rest.
//
// A line lies on the piece that holds most of it. Where pieces lie on one another several may hold all of it:
// then the piece of its own layer, else the uppermost. It is cut to the card of that piece, and what is left of
// it is offered to the next, so one long stroke folds two pieces side by side.
#include "design/DrawnLines.h"

#include "base/Length.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Parting.h"
#include "raster/Colour.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <iterator>
#include <map>
#include <numeric>
#include <span>
#include <string_view>
#include <tuple>
#include <unordered_map>
#include <utility>

namespace thinline::design {
namespace {

using geometry::Line;
using geometry::Point;

constexpr double kJoinMm = 0.1;   // loose ends this near are one
constexpr double kAtEdgeMm = 0.5; // an end this near to the edge was meant to reach it
constexpr double kOnEdgeMm = 0.001;

constexpr std::array<const char*, 9> kWords{"outline", "fold", "score", "slit", "tear",
                                            "pen",     "mark", "parts", "none"};
constexpr std::array<const char*, 9> kTold{"outlines",
                                           "folds",
                                           "scores",
                                           "slits",
                                           "perforations to tear",
                                           "pen lines",
                                           "placement marks",
                                           "lines that part the piece",
                                           "nothing"};

// ---- names ------------------------------------------------------------------------------------------------

struct NameSays {
    const char* begins;
    DrawnAs as;
};
constexpr NameSays kNames[] = {
    {"fold", DrawnAs::Fold},          {"crease", DrawnAs::Fold},
    {"score", DrawnAs::Fold},         {"bend", DrawnAs::Fold},
    {"valley", DrawnAs::Fold},        {"mountain", DrawnAs::Fold},
    {"emboss", DrawnAs::Score},       {"slit", DrawnAs::Slit},
    {"tear", DrawnAs::Tear},          {"pen", DrawnAs::Pen},
    {"draw", DrawnAs::Pen},           {"placement", DrawnAs::Placement},
    {"position", DrawnAs::Placement}, {"cut", DrawnAs::Outline},
    {"outline", DrawnAs::Outline},    {"knife", DrawnAs::Outline},
};

/// What the words of a name say; the first one that says something counts.
std::optional<std::pair<DrawnAs, std::string>> saidBy(const std::string& name) {
    std::string word;
    for (size_t i = 0; i <= name.size(); ++i) {
        const auto c = i < name.size() ? static_cast<unsigned char>(name[i]) : ' ';
        if (std::isalpha(c)) {
            word += static_cast<char>(std::tolower(c));
            continue;
        }
        for (const NameSays& one : kNames)
            if (word.starts_with(one.begins))
                return std::pair{one.as, word};
        word.clear();
    }
    return std::nullopt;
}

const char* nameOf(raster::Rgb c) {
    const auto [low, high] = std::minmax({c[0], c[1], c[2]});
    constexpr int kHardly = 30, kDark = 60, kPale = 225;
    if (high - low < kHardly)
        return high < kDark ? "black" : low > kPale ? "white" : "grey";
    const double r = c[0], g = c[1], b = c[2], span = high - low;
    const double hue = high == c[0]   ? std::fmod((g - b) / span + 6, 6)
                       : high == c[1] ? (b - r) / span + 2
                                      : (r - g) / span + 4;
    constexpr std::array<const char*, 12> kHues{"red",  "orange", "yellow", "green",  "green",   "green",
                                                "cyan", "blue",   "blue",   "violet", "magenta", "red"};
    return kHues[static_cast<size_t>(std::lround(hue * 2)) % kHues.size()];
}

// ---- kinds ----------------------------------------------------------------------------------------------------

std::string keyOf(const DrawnItem& item, bool isClosed) {
    return item.layer + "|" + raster::hexOf(item.stroke.value_or(raster::Rgb{})) + "|" +
           base::formatNumber(item.strokeWidthMm, 2) + (item.isDashed ? "|dashed" : "|solid") +
           (isClosed ? "|closed" : "|open");
}

constexpr const char* kRows =
    "|rows"; // ends a key: rows of short cuts apart from other strokes of their look

bool isStroke(const DrawnItem& item) {
    return item.stroke && !item.fill;
}

/// The kinds of a page in order of appearance.
class Kinds {
  public:
    Strokes& of(const DrawnItem& item, bool isClosed, const char* more = "") {
        const std::string key = keyOf(item, isClosed) + more;
        const auto [at, isNew] = m_index.try_emplace(key, all.size());
        if (isNew) {
            all.emplace_back();
            all.back().kind = {.key = key, .words = {}, .layer = item.layer, .isClosed = isClosed, .why = {}};
        }
        return all[at->second];
    }
    std::vector<Strokes> all;

  private:
    std::unordered_map<std::string, size_t> m_index;
};

std::string wordsFor(const LineKind& kind, const DrawnItem& item) {
    return base::counted(kind.lines, std::string(item.isDashed ? "dashed " : "") +
                                         (item.stroke ? nameOf(*item.stroke) : "black") +
                                         (kind.isClosed ? " closed line" : " line")) +
           (kind.layer.empty() ? "" : " in " + kind.layer);
}

void propose(Strokes& strokes, const DrawnItem& item) {
    LineKind& kind = strokes.kind;
    const auto said = saidBy(item.layer);
    // A layer of cuts may hold folds as dashes; of what comes round its name is to be believed.
    const bool isOfCuts = said && said->first == DrawnAs::Outline && !kind.isClosed;
    if (said && !(isOfCuts && (item.isDashed || strokes.areRows))) {
        kind.proposed = said->first;
        kind.why = "their layer is called " + item.layer;
        if (isOfCuts) {
            kind.proposed = DrawnAs::Slit;
            kind.why += ", and they do not come round";
        }
    } else if (item.isDashed) {
        kind.proposed = DrawnAs::Fold;
        kind.why = "they are drawn dashed";
    } else if (strokes.areRows) {
        kind.proposed = DrawnAs::Fold;
        kind.why = "they are short cuts in a row";
    } else if (kind.isClosed) {
        kind.proposed = DrawnAs::Outline;
        kind.why = "they come round";
    } else {
        kind.isSure = false;
    }
}

/// What a kind is taken as, by what was said or what the file tells; else it is left out and asked about.
void decide(Strokes& strokes, const TakeOptions& options) {
    LineKind& kind = strokes.kind;
    auto said = options.lines.find(kind.key);
    // Rows were of one kind with the other strokes of their look once, and answered with them.
    if (said == options.lines.end() && kind.key.ends_with(kRows))
        said = options.lines.find(kind.key.substr(0, kind.key.size() - std::string_view(kRows).size()));
    const bool isAnswered = said != options.lines.end();
    kind.taken = isAnswered ? said->second : kind.isSure ? kind.proposed : DrawnAs::LeftOut;
    if (kind.taken == DrawnAs::Outline && !kind.isClosed)
        kind.taken = DrawnAs::LeftOut; // what came round is with the closed ones
    const bool isLeftOut = options.leftOut.contains(kind.layer) ||
                           (kind.taken != DrawnAs::Outline && options.leftOutLines.contains(kind.layer));
    if (isLeftOut)
        kind.taken = DrawnAs::LeftOut;
    strokes.isAsked = !isAnswered && !kind.isSure && !isLeftOut;
}

/// An outline, and its box grown by what may be missing to its edge.
struct Closed {
    geometry::Box box;
    const geometry::Contour* outline = nullptr;
};

constexpr std::size_t kMostPairs = 20'000'000; // of outlines whose boxes are compared

/// Looks at whether outlines meet, as long as that takes no time.
class Looks {
  public:
    /// Whether two may be compared.
    bool may(const Closed& a, const Closed& b) {
        m_left -=
            static_cast<double>(a.outline->segments.size()) * static_cast<double>(b.outline->segments.size());
        return m_left > 0;
    }
    /// Whether one lies within the other and meets it in two corners or more.
    bool hangsIn(const Closed& ring, const Closed& around) {
        if (ring.outline == around.outline ||
            !around.box.contains(ring.box.least + geometry::Point{kJoinMm, kJoinMm}) ||
            !around.box.contains(ring.box.most - geometry::Point{kJoinMm, kJoinMm}) || !may(ring, around))
            return false;
        const geometry::Shape shape{*around.outline, {}};
        const auto& steps = ring.outline->segments;
        return std::count_if(steps.begin(), steps.end(), [&](const geometry::Segment& s) {
                   return geometry::isNearEdge(shape, s.end, kJoinMm);
               }) >= 2;
    }

  private:
    double m_left = 5e7;
};

/// Whether an outline comes twice through one place, more than 2 mm of way apart.
bool meetsItself(const geometry::Contour& ring) {
    constexpr double kApartMm = 2;
    constexpr std::size_t kMostAtOnePlace = 64; // more are a scribble
    struct Seen {
        Point at;
        double along;
    };
    std::map<std::pair<long, long>, std::vector<Seen>> seen; // by cells as wide as the tolerance
    const double whole = geometry::contourLength(ring);
    double along = 0;
    Point from = ring.start;
    for (const geometry::Segment& s : ring.segments) {
        along += geometry::contourLength({from, {s}});
        from = s.end;
        const long x = std::lround(from.x / kJoinMm), y = std::lround(from.y / kJoinMm);
        for (long dx = -1; dx <= 1; ++dx)
            for (long dy = -1; dy <= 1; ++dy)
                if (const auto at = seen.find({x + dx, y + dy}); at != seen.end())
                    for (const Seen& one :
                         std::span(at->second).first(std::min(kMostAtOnePlace, at->second.size())))
                        if (geometry::distance(one.at, from) <= kJoinMm && along - one.along > kApartMm &&
                            whole - (along - one.along) > kApartMm)
                            return true;
        seen[{x, y}].push_back({from, along});
    }
    return false;
}

/// Whether two outlines share corners, but no step between them.
bool doShareCorners(const geometry::Contour& a, const geometry::Contour& b) {
    const auto cornerAt = [&](Point p) { // of b, counted from 1
        for (size_t i = 0; i < b.segments.size(); ++i)
            if (geometry::distance(b.segments[i].end, p) <= kJoinMm)
                return i + 1;
        return size_t{0};
    };
    size_t shared = 0, before = cornerAt(a.segments.empty() ? a.start : a.segments.back().end);
    for (const geometry::Segment& s : a.segments) {
        const size_t here = cornerAt(s.end);
        shared += here != 0;
        const size_t apart = here > before ? here - before : before - here;
        if (here != 0 && before != 0 && (apart == 1 || apart + 1 == b.segments.size()))
            return false;
        before = here;
    }
    return shared >= 2;
}

} // namespace

bool areMixedUp(const std::vector<geometry::Contour>& outlines,
                const std::vector<geometry::Contour>& closed) {
    if (std::any_of(outlines.begin(), outlines.end(), meetsItself))
        return true;
    if (outlines.size() * (outlines.size() + closed.size()) > kMostPairs)
        return false;
    std::vector<Closed> drawn, joined;
    for (const geometry::Contour& outline : closed)
        drawn.push_back({geometry::bounds(outline).grownBy(kJoinMm), &outline});
    for (const geometry::Contour& outline : outlines)
        joined.push_back({geometry::bounds(outline).grownBy(kJoinMm), &outline});
    Looks looks;
    for (const Closed& ring : joined) {
        for (const Closed& other : drawn)
            if (looks.hangsIn(ring, other))
                return true;
        for (const Closed& other : joined)
            if (ring.outline != other.outline && ring.box.meets(other.box) &&
                (looks.hangsIn(ring, other) ||
                 (looks.may(ring, other) && doShareCorners(*ring.outline, *other.outline))))
                return true;
    }
    return false;
}

std::string drawnAsWord(DrawnAs as) {
    return kWords[static_cast<size_t>(as)];
}

std::optional<DrawnAs> drawnAsOf(const std::string& word) {
    const auto at = std::find(kWords.begin(), kWords.end(), word);
    return at == kWords.end() ? std::nullopt : std::optional(static_cast<DrawnAs>(at - kWords.begin()));
}

namespace {

/// Lines with every end that is near to an earlier one moved onto it.
std::vector<Line> withEndsTogether(std::vector<Line> lines) {
    std::map<std::pair<long, long>, std::vector<Point>> known; // by cells as wide as the tolerance
    const auto settled = [&](Point p) {
        const long x = std::lround(p.x / kJoinMm), y = std::lround(p.y / kJoinMm);
        for (long dx = -1; dx <= 1; ++dx)
            for (long dy = -1; dy <= 1; ++dy)
                if (const auto at = known.find({x + dx, y + dy}); at != known.end())
                    for (const Point other : at->second)
                        if (geometry::distance(p, other) <= kJoinMm)
                            return other;
        known[{x, y}].push_back(p);
        return p;
    };
    for (Line& line : lines) {
        line.start = settled(line.start);
        line.segments.back().end = settled(line.segments.back().end);
    }
    return lines;
}

/// What loose lines enclose together, when no pairs of ends make it: at the corner of a box three lines meet, two of the
/// outline and a fold. The faces between all lines are found, what they cover together is the piece, and lines that run
/// within it are left.
struct Enclosed {
    std::vector<geometry::Contour> outlines;
    std::vector<Line> lines;
};
base::Result<Enclosed> enclosedBy(const std::vector<Line>& loose, const base::Progress& progress) {
    constexpr double kRoomMm = 10, kOnOutlineMm = 0.05;
    geometry::Box box;
    for (const Line& line : loose)
        box.include(geometry::bounds(line));
    box = box.grownBy(kRoomMm);
    const geometry::Shape around{
        geometry::contourThrough({box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}}),
        {}};
    const std::vector<Line> lines = withEndsTogether(loose);
    const auto parted = geometry::partedBy(around, lines, progress);
    if (!parted)
        return parted.error();
    std::vector<geometry::Shape> faces;
    for (const geometry::Shape& part : parted->parts)
        if (!(geometry::bounds(part).least == box.least)) // the plane around them
            faces.push_back(part);
    Enclosed out;
    if (faces.empty())
        return out;
    const auto pieces = geometry::weld(faces, progress);
    if (!pieces)
        return pieces.error();
    for (const geometry::Shape& piece : *pieces) {
        out.outlines.push_back(piece.outline);
        out.outlines.insert(out.outlines.end(), piece.openings.begin(), piece.openings.end());
    }
    for (const Line& line : lines) {
        const Point middle = middleOf(line);
        const bool isOutline = std::any_of(pieces->begin(), pieces->end(), [&](const auto& piece) {
            const auto edge = geometry::nearestOnEdge(piece, middle);
            return edge && edge->distance < kOnOutlineMm;
        });
        if (!isOutline)
            out.lines.push_back(line);
    }
    return out;
}

/// Takes outlines apart that hang in what the file draws closed, and tells whether the others are mixed up.
bool takenApart(Enclosed& came, const std::vector<Closed>& areas) {
    Looks looks;
    if (came.outlines.size() * areas.size() <= kMostPairs)
        std::erase_if(came.outlines, [&](const geometry::Contour& ring) {
            const Closed one{geometry::bounds(ring).grownBy(kJoinMm), &ring};
            const bool hangs = std::any_of(areas.begin(), areas.end(),
                                           [&](const Closed& area) { return looks.hangsIn(one, area); });
            Point from = ring.start;
            for (const geometry::Segment& s : ring.segments)
                if (const Point begin = std::exchange(from, s.end); hangs)
                    came.lines.push_back({begin, {s}});
            return hangs;
        });
    return areMixedUp(came.outlines);
}

/// Joins the loose strokes of a kind: short cuts to the rows they are, others end to end; what comes round goes to the
/// closed strokes of the kind. A row ends where the outline has a corner, but never goes on in it; where there are both, rows
/// are a kind of their own.
base::Status joinLoose(Kinds& kinds, size_t k, const DrawnPage& page, const std::vector<Closed>& areas,
                       const base::Progress& progress) {
    std::vector<Stroke> strokes = std::move(kinds.all[k].all), rows;
    const size_t first = strokes.front().item;
    const DrawnItem& item = page.items[first];
    const auto drawn = static_cast<int>(strokes.size());
    int inRows = 0;
    if (!item.isDashed)
        strokes = rowsJoined(strokes, inRows);
    kinds.all[k].areRows = 2 * inRows > drawn;
    const auto named = saidBy(item.layer);
    const auto begin =
        std::stable_partition(strokes.begin(), strokes.end(), [](const Stroke& one) { return !one.isRow(); });
    rows.assign(begin, strokes.end());
    strokes.erase(begin, strokes.end());
    if (!item.isDashed && !strokes.empty() && (!named || named->first == DrawnAs::Outline)) {
        std::vector<Line> loose;
        geometry::Box box;
        for (const Stroke& stroke : strokes) {
            loose.push_back(stroke.path);
            box.include(geometry::bounds(stroke.path));
        }
        auto joined = geometry::joinedEnds(loose, kJoinMm);
        if (!joined)
            return joined.error();
        Enclosed came{joined->outlines, joined->lines};
        const bool areMixed = takenApart(came, areas);
        const bool isOnACard = std::any_of(areas.begin(), areas.end(), [&](const Closed& area) {
            return area.box.contains(box.least) && area.box.contains(box.most);
        });
        constexpr size_t kMostLoose = 1000; // each may cross all others
        if ((!came.lines.empty() || areMixed) && !isOnACard && loose.size() <= kMostLoose) {
            auto enclosed = enclosedBy(loose, progress);
            if (!enclosed)
                return enclosed.error();
            if (!enclosed->outlines.empty())
                came = enclosed.take();
        }
        if (!came.outlines.empty()) { // else all stay as they were drawn
            strokes.clear();
            for (const geometry::Contour& outline : came.outlines)
                kinds.of(item, true).all.push_back({outline, first, 0});
            for (const Line& line : came.lines)
                strokes.push_back({line, first, 0});
            if (!rows.empty()) {
                Strokes& apart = kinds.of(item, false, kRows);
                apart.all = std::exchange(rows, {});
                apart.areRows = true;
                kinds.all[k].areRows = false;
            }
        }
    }
    strokes.insert(strokes.end(), rows.begin(), rows.end());
    kinds.all[k].all = std::move(strokes);
    return base::Done{};
}

} // namespace

std::optional<DrawnAs> drawnAsNamed(const std::string& layer) {
    const auto said = saidBy(layer);
    return said ? std::optional(said->first) : std::nullopt;
}

base::Result<std::vector<Strokes>> strokesOf(const DrawnPage& page, const TakeOptions& options,
                                             const base::Progress& progress) {
    constexpr size_t kMostStrokes = 200'000;
    Kinds kinds;
    std::vector<Closed> areas;
    size_t count = 0;
    for (size_t i = 0; i < page.items.size(); ++i) {
        const DrawnItem& item = page.items[i];
        for (const geometry::Contour& contour : item.contours) {
            areas.push_back({geometry::bounds(contour).grownBy(kAtEdgeMm), &contour});
            if (isStroke(item))
                kinds.of(item, true).all.push_back({contour, i, 0});
        }
        for (const Line& line : item.lines)
            if (!line.segments.empty())
                kinds.of(item, false).all.push_back({line, i, 0});
        count += item.contours.size() + item.lines.size();
        if (count > kMostStrokes)
            return base::Error{base::Code::LimitExceeded,
                               "The drawing has more than 200,000 lines; leave some out "
                               "where it was drawn."};
    }
    const size_t drawn = kinds.all.size();
    for (size_t k = 0; k < drawn; ++k)
        if (!kinds.all[k].kind.isClosed)
            if (auto ok = joinLoose(kinds, k, page, areas, progress); !ok)
                return ok.error();
    for (size_t k = 0; k < kinds.all.size(); ++k) {
        Strokes& strokes = kinds.all[k];
        if (strokes.all.empty())
            continue;
        const DrawnItem& item = page.items[strokes.all.front().item];
        strokes.kind.lines = static_cast<int>(strokes.all.size());
        for (const Stroke& stroke : strokes.all)
            strokes.kind.lengthMm += geometry::contourLength(stroke.path);
        strokes.kind.words = wordsFor(strokes.kind, item);
        propose(strokes, item);
        decide(strokes, options);
    }
    std::erase_if(kinds.all, [](const Strokes& strokes) { return strokes.all.empty(); });
    return std::move(kinds.all);
}

namespace {

struct Ring {
    const Stroke* stroke;
    geometry::Box box;
    double area;
    size_t around = kNothing; ///< the smallest one it lies in
    int depth = 0;

    static constexpr size_t kNothing = static_cast<size_t>(-1);
};

/// Whether an outline lies within another, judged by some ends of its steps all along it.
bool liesIn(const Ring& ring, const Ring& other) {
    if (other.area <= ring.area || !other.box.contains(ring.box.least) || !other.box.contains(ring.box.most))
        return false;
    constexpr size_t kLookedAt = 64; // outlines of one kind that cross do so in more than one place
    const geometry::Shape shape{other.stroke->path, {}};
    const auto& steps = ring.stroke->path.segments;
    const size_t every = std::max<size_t>(1, steps.size() / kLookedAt);
    for (size_t i = 0; i < steps.size(); i += every)
        if (!geometry::contains(shape, steps[i].end))
            return false;
    return true;
}

/// Finds for every outline the smallest around it, and how deep it lies. Swept from left to right: only what has begun
/// and not ended can be around.
void nest(std::vector<Ring>& rings) {
    std::vector<size_t> byLeft(rings.size());
    std::iota(byLeft.begin(), byLeft.end(), size_t{0});
    std::vector<size_t> byArea = byLeft, open;
    std::stable_sort(byLeft.begin(), byLeft.end(), [&](size_t a, size_t b) {
        return std::pair(rings[a].box.least.x, -rings[a].area) <
               std::pair(rings[b].box.least.x, -rings[b].area);
    });
    for (const size_t i : byLeft) {
        Ring& ring = rings[i];
        std::erase_if(open, [&](size_t o) { return rings[o].box.most.x < ring.box.least.x; });
        for (size_t k = open.size(); k-- > 0;) // the nearest around it began last
            if (const size_t o = open[k];
                (ring.around == Ring::kNothing || rings[o].area < rings[ring.around].area) &&
                liesIn(ring, rings[o]))
                ring.around = o;
        open.push_back(i);
    }
    std::stable_sort(byArea.begin(), byArea.end(),
                     [&](size_t a, size_t b) { return rings[a].area > rings[b].area; });
    for (const size_t i : byArea)
        if (rings[i].around != Ring::kNothing)
            rings[i].depth = rings[rings[i].around].depth + 1;
}

} // namespace

void nestOutlines(const std::vector<Strokes>& strokes, std::vector<DrawnItem>& items) {
    for (DrawnItem& item : items)
        if (isStroke(item))
            item.contours.clear();
    for (const Strokes& kind : strokes) {
        if (!kind.kind.isClosed || kind.kind.taken != DrawnAs::Outline)
            continue;
        std::vector<Ring> rings;
        for (const Stroke& stroke : kind.all)
            rings.push_back(
                {&stroke, geometry::bounds(stroke.path), std::abs(geometry::signedArea(stroke.path))});
        nest(rings);
        for (const Ring& ring : rings) {
            const bool isOpening = ring.depth % 2 == 1;
            const Stroke& at = isOpening ? *rings[ring.around].stroke : *ring.stroke;
            DrawnItem& item = items[at.item];
            item.rule = geometry::FillRule::NonZero;
            geometry::Contour contour = ring.stroke->path;
            if (const double area = geometry::signedArea(contour); (area < 0) != isOpening)
                contour = geometry::reversed(contour);
            item.contours.push_back(std::move(contour));
        }
    }
}

void judge(Strokes& strokes, const std::vector<DrawnPiece>& pieces, const TakeOptions& options) {
    LineKind& kind = strokes.kind;
    if (kind.isSure)
        return;
    size_t across = 0;
    std::vector<geometry::Box> boxes;
    for (const DrawnPiece& piece : pieces)
        boxes.push_back(geometry::bounds(piece.shape).grownBy(kAtEdgeMm));
    constexpr size_t kLookedAt = 200; // plenty to tell a kind by
    const size_t step = std::max<size_t>(1, strokes.all.size() / kLookedAt);
    size_t looked = 0;
    for (size_t i = 0; i < strokes.all.size(); i += step, ++looked) {
        const Line& path = strokes.all[i].path;
        const Point a = path.start, b = endOf(path);
        for (size_t p = 0; p < pieces.size(); ++p) {
            if (!boxes[p].contains(a) || !boxes[p].contains(b))
                continue;
            const auto from = geometry::nearestOnEdge(pieces[p].shape, a),
                       to = geometry::nearestOnEdge(pieces[p].shape, b);
            const Point middle = middleOf(path);
            if (from && to && from->distance < kAtEdgeMm && to->distance < kAtEdgeMm &&
                geometry::contains(pieces[p].shape, middle)) {
                ++across;
                break;
            }
        }
    }
    constexpr double kMostly = 0.8;
    if (static_cast<double>(across) >= kMostly * static_cast<double>(looked)) {
        kind.proposed = DrawnAs::Fold;
        kind.why = "they run from edge to edge: folds, or cuts that part the piece";
    } else {
        kind.proposed = DrawnAs::Score;
        kind.why = "they are solid and end on the card";
    }
    decide(strokes, options);
}

namespace {

/// A stroke with what the drawing says about it.
struct Laying {
    const Stroke* stroke;
    LineId id;
    LineUse does;
    std::string layer;
};

LineUse useOf(DrawnAs as, const DrawnItem& item) {
    switch (as) {
    case DrawnAs::Score:
        return Score{};
    case DrawnAs::Slit:
        return Slit{};
    case DrawnAs::Tear:
        return Tear{};
    case DrawnAs::Pen:
        return Pen{raster::hexOf(item.stroke.value_or(raster::Rgb{})),
                   item.strokeWidthMm > 0 ? item.strokeWidthMm : 0.5};
    case DrawnAs::Placement:
        return Placement{};
    default:
        return Fold{};
    }
}

bool isOnEdge(const geometry::Shape& shape, Point p) {
    const auto edge = geometry::nearestOnEdge(shape, p);
    return edge && edge->distance < kOnEdgeMm;
}

/// A stroke with its ends run on to the edge of a piece over what is left free in rows. One that ends at the edge, or a hair
/// beside it, is there: straight ahead it would run along the edge.
Line reaching(const Stroke& stroke, const geometry::Shape& card) {
    Line out = stroke.path;
    for (int end = 0; end < 2; ++end) {
        const Point p = endOf(out);
        if (stroke.runOnMm > kAtEdgeMm && !geometry::isNearEdge(card, p, kJoinMm) &&
            geometry::contains(card, p))
            if (const auto edge = geometry::edgeAhead(out, card, stroke.runOnMm))
                out.segments.push_back(geometry::Segment::line(*edge));
        out = geometry::reversed(out);
    }
    return out;
}

/// The parts of a stroke on one piece.
struct Held {
    size_t piece = 0;
    std::vector<Line> parts;
    double lengthMm = 0;
    bool isOfItsLayer = false;
};

base::Status layOne(const Laying& one, const std::vector<geometry::Box>& boxes,
                    std::vector<DrawnPiece>& pieces, bool& isLaid) {
    const geometry::Box box = geometry::bounds(one.stroke->path);
    const bool isClosed = one.stroke->path.start == endOf(one.stroke->path);
    std::vector<Held> held;
    for (size_t p = 0; p < pieces.size(); ++p) {
        if (!boxes[p].meets(box))
            continue;
        auto parts = isClosed ? geometry::clippedTo(one.stroke->path, pieces[p].shape)
                              : geometry::extendedToEdge(reaching(*one.stroke, pieces[p].shape),
                                                         pieces[p].shape, kAtEdgeMm);
        if (!parts)
            return parts.error();
        Held here{p, parts.take(), 0, pieces[p].layer == one.layer};
        constexpr double kLeastMm = 0.5;
        std::erase_if(here.parts, [](const Line& part) { return geometry::contourLength(part) < kLeastMm; });
        for (const Line& part : here.parts)
            here.lengthMm += geometry::contourLength(part);
        if (!here.parts.empty())
            held.push_back(std::move(here));
    }
    const auto rank = [](const Held& h) { // to the millimetre: what holds all of it is alike
        return std::tuple(-std::lround(h.lengthMm), !h.isOfItsLayer, -static_cast<long>(h.piece));
    };
    std::sort(held.begin(), held.end(), [&](const Held& a, const Held& b) { return rank(a) < rank(b); });
    std::vector<size_t> taken;
    for (const Held& here : held) {
        DrawnPiece& piece = pieces[here.piece];
        bool isOn = false;
        for (const Line& part : here.parts) {
            const Point middle = middleOf(part);
            if (std::any_of(taken.begin(), taken.end(),
                            [&](size_t t) { return geometry::contains(pieces[t].shape, middle); }))
                continue;
            piece.lines.push_back({one.id, part, one.does, isOnEdge(piece.shape, part.start),
                                   isOnEdge(piece.shape, endOf(part))});
            isOn = true;
        }
        if (isOn)
            taken.push_back(here.piece);
    }
    isLaid = !taken.empty();
    return base::Done{};
}

base::Status partAll(const std::vector<Line>& lines, TakenPage& page, const base::Progress& progress) {
    std::vector<DrawnPiece> out;
    int parts = 0, dangling = 0, parted = 0;
    for (DrawnPiece& piece : page.pieces) {
        const geometry::Box box = geometry::bounds(piece.shape);
        std::vector<Line> over;
        std::copy_if(lines.begin(), lines.end(), std::back_inserter(over),
                     [&](const Line& line) { return geometry::bounds(line).meets(box); });
        auto came = geometry::partedBy(piece.shape, over, progress);
        if (!came)
            return came.error();
        if (came->parts.size() < 2) {
            out.push_back(std::move(piece));
            continue;
        }
        ++parted;
        parts += static_cast<int>(came->parts.size());
        dangling += came->danglingEnds;
        for (const geometry::Shape& part : came->parts)
            out.push_back({part, piece.colour, piece.name, piece.layer});
    }
    page.pieces = std::move(out);
    if (parted > 0)
        page.said.push_back(
            base::counted(parted, "piece") + " parted into " + std::to_string(parts) +
            (dangling > 0 ? ", " + base::counted(dangling, "end") + " of lines part nothing" : ""));
    else
        page.said.push_back("the lines that were to part the piece part nothing");
    return base::Done{};
}

} // namespace

base::Status layStrokes(const std::vector<Strokes>& strokes, const std::vector<DrawnItem>& items,
                        TakenPage& page, const base::Progress& progress) {
    size_t count = 0;
    for (const Strokes& kind : strokes)
        count += kind.all.size();
    constexpr double kMostLooks = 2e9; // some seconds
    if (static_cast<double>(count) * static_cast<double>(page.pieces.size()) > kMostLooks)
        return base::Error{
            base::Code::LimitExceeded,
            "The drawing has too many lines on too many pieces; leave some out where it was drawn."};
    std::vector<Line> parting;
    for (const Strokes& kind : strokes)
        if (kind.kind.taken == DrawnAs::Parts)
            for (const Stroke& stroke : kind.all)
                parting.push_back(stroke.path);
    if (!parting.empty())
        if (auto ok = partAll(parting, page, progress); !ok)
            return ok;
    std::vector<geometry::Box> boxes;
    for (const DrawnPiece& piece : page.pieces)
        boxes.push_back(geometry::bounds(piece.shape));
    int number = 0;
    for (const Strokes& kind : strokes) {
        const DrawnAs as = kind.kind.taken;
        if (as == DrawnAs::Outline || as == DrawnAs::Parts)
            continue;
        if (as == DrawnAs::LeftOut) {
            if (kind.isAsked)
                page.said.push_back(kind.kind.words + " may be " +
                                    kTold[static_cast<size_t>(kind.kind.proposed)] + " (" + kind.kind.why +
                                    "); left out until you say at Source");
            continue;
        }
        int lost = 0;
        for (const Stroke& stroke : kind.all) {
            if (progress.isCancelled())
                return base::cancelled();
            const DrawnItem& item = items[stroke.item];
            bool isLaid = false;
            if (auto ok = layOne({&stroke, LineId{++number}, useOf(as, item), item.layer}, boxes, page.pieces,
                                 isLaid);
                !ok)
                return ok;
            lost += !isLaid;
        }
        page.said.push_back(kind.kind.words + " taken as " + kTold[static_cast<size_t>(as)]);
        if (lost > 0)
            page.said.push_back(base::counted(lost, "line") + " of them on no piece, left out");
    }
    return base::Done{};
}

} // namespace thinline::design
