// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The library that reads DXF here writes it, too, but only into files it opens itself; a writer of our own is a page long
// (record 25). R12 has polylines and nothing newer: no splines, which half the machines' programs misread.
#include "formats/dxf/WriteDxf.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <map>
#include <set>

namespace thinline::formats::dxf {
namespace {

using geometry::Point;

constexpr double kChordMm = 0.01;

std::string number(double value) {
    std::array<char, 48> out{};
    constexpr int kDecimals = 4;
    const auto end =
        std::to_chars(out.data(), out.data() + out.size(), value, std::chars_format::fixed, kDecimals).ptr;
    return {out.data(), end};
}

void add(std::string& out, int code, const std::string& value) {
    out += (code < 10 ? "  " : code < 100 ? " " : "") + std::to_string(code) + "\n" + value + "\n";
}

/// By the table of colours that every reader has.
int colourOf(design::Operation operation) {
    static constexpr std::array<int, design::kOperations.size()> kColours{3, 5, 6, 7, 7};
    return kColours[static_cast<std::size_t>(operation)];
}

constexpr std::size_t kMostSigns = 31;
constexpr const char* kRule = "RULE-50-MM";

/// Layers of R12 are named by up to 31 capitals, digits, dashes and underscores.
std::string plainName(const std::string& name) {
    std::string out = name;
    for (char& c : out) {
        if (c >= 'a' && c <= 'z')
            c = static_cast<char>(c - 'a' + 'A');
        const bool isPlain = (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '-';
        if (!isPlain)
            c = '_';
    }
    return out;
}

/// The layers of passes by the names of their groups; names cut short stay apart by a number.
std::map<std::string, std::string> layersOf(const design::PlannedLoad& planned) {
    std::map<std::string, std::string> out;
    std::set<std::string> taken{kRule};
    for (const design::Pass& pass : planned.passes) {
        const std::string group = design::passGroup(pass);
        if (out.contains(group))
            continue;
        // What is done stands at the end; the stock's name gives way to it.
        const std::string whole = plainName(group);
        const std::size_t stock = std::min(pass.stockId.size(), whole.size());
        const std::string does = whole.substr(stock);
        std::string name;
        for (int n = 1; name.empty() || taken.contains(name); ++n) {
            const std::string ending = (n > 1 ? std::to_string(n) : std::string()) + does;
            name =
                whole.substr(0, std::min(stock, kMostSigns - std::min(kMostSigns, ending.size()))) + ending;
            name.resize(std::min(name.size(), kMostSigns));
        }
        taken.insert(name);
        out[group] = name;
    }
    return out;
}

class Drawing {
  public:
    Drawing(const design::PlannedLoad& planned, const design::Load& load, Edition edition)
        : m_load(load), m_layers(layersOf(planned)), m_isNew(edition == Edition::Splines) {
        // Handles are given first to what others name as their owner.
        addHeader();
        addTables(planned);
        if (m_isNew)
            addBlocks();
        begin("ENTITIES");
        for (const design::Pass& pass : planned.passes)
            for (const design::PlannedPath& path : pass.paths)
                if (!path.line.segments.empty())
                    addLine(path.line, m_layers.at(design::passGroup(pass)));
        // In the strip that rollers take, where nothing is cut.
        const Point from = rulePlace(load.mat);
        addLine({from, {geometry::Segment::line(from + Point{50, 0})}}, kRule);
        put(0, "ENDSEC");
        if (m_isNew)
            addObjects();
        put(0, "EOF");
    }
    const std::string& text() const { return m_text; }

  private:
    static constexpr const char* kModel = "1F"; // the block that holds all that is drawn
    static constexpr const char* kPaper = "1B";
    static constexpr const char* kBlocks = "1";
    static constexpr int kFirstHandle = 0x100;

    void put(int code, const std::string& value) { add(m_text, code, value); }
    void begin(const char* section) {
        put(0, "SECTION");
        put(2, section);
    }
    void putPoint(Point p) {
        put(10, number(p.x));
        put(20, number(m_load.mat.heightMm - p.y));
    }
    std::string nextHandle() {
        std::array<char, 16> out{};
        return {out.data(), std::to_chars(out.data(), out.data() + out.size(), m_handle++, 16).ptr};
    }
    /// What every object of the newer edition begins with.
    void putOwned(const std::string& handle, const char* owner, const char* what) {
        if (!m_isNew)
            return;
        put(5, handle);
        put(330, owner);
        put(100, what);
    }

    void addHeader() {
        put(999, "Lengths are millimetres; the line on layer RULE-50-MM is 50 mm long.");
        begin("HEADER");
        put(9, "$ACADVER");
        put(1, m_isNew ? "AC1015" : "AC1009");
        put(9, "$INSUNITS");
        put(70, "4");
        if (m_isNew) {
            put(9, "$HANDSEED");
            put(5, "FFFFF");
        }
        for (const auto& [name, x, y] :
             {std::tuple{"$EXTMIN", 0.0, 0.0}, {"$EXTMAX", m_load.mat.widthMm, m_load.mat.heightMm}}) {
            put(9, name);
            put(10, number(x));
            put(20, number(y));
            if (m_isNew)
                put(30, "0.0");
        }
        put(0, "ENDSEC");
    }

    void beginTable(const char* name, const char* handle, std::size_t entries) {
        put(0, "TABLE");
        put(2, name);
        if (m_isNew) {
            put(5, handle);
            put(330, "0");
            put(100, "AcDbSymbolTable");
        }
        put(70, std::to_string(entries));
    }
    void beginEntry(const char* table, const char* kind, const std::string& handle, const char* owner,
                    const std::string& name) {
        put(0, table);
        putOwned(handle, owner, "AcDbSymbolTableRecord");
        if (m_isNew)
            put(100, kind);
        put(2, name);
        if (table != std::string("BLOCK_RECORD"))
            put(70, "0");
    }

    void addLayer(const std::string& name, int colour) {
        beginEntry("LAYER", "AcDbLayerTableRecord", nextHandle(), "2", name);
        put(62, std::to_string(colour));
        put(6, "CONTINUOUS");
    }

    void addTables(const design::PlannedLoad& planned) {
        constexpr int kRuleColour = 8;
        begin("TABLES");
        if (m_isNew) {
            beginTable("LTYPE", "5", 3);
            for (const auto& [name, handle] :
                 {std::pair{"BYBLOCK", "14"}, {"BYLAYER", "15"}, {"CONTINUOUS", "16"}}) {
                beginEntry("LTYPE", "AcDbLinetypeTableRecord", handle, "5", name);
                put(3, "");
                put(72, "65");
                put(73, "0");
                put(40, "0.0");
            }
            put(0, "ENDTAB");
        }
        beginTable("LAYER", "2", m_layers.size() + (m_isNew ? 2 : 1));
        if (m_isNew)
            addLayer("0", 7);
        std::set<std::string> named;
        for (const design::Pass& pass : planned.passes)
            if (const std::string& name = m_layers.at(design::passGroup(pass)); named.insert(name).second)
                addLayer(name, colourOf(pass.operation));
        addLayer(kRule, kRuleColour);
        put(0, "ENDTAB");
        if (m_isNew)
            addRecords();
        put(0, "ENDSEC");
    }

    void addRecords() {
        beginTable("APPID", "9", 1);
        beginEntry("APPID", "AcDbRegAppTableRecord", "12", "9", "ACAD");
        put(0, "ENDTAB");
        beginTable("BLOCK_RECORD", kBlocks, 2);
        beginEntry("BLOCK_RECORD", "AcDbBlockTableRecord", kModel, kBlocks, "*MODEL_SPACE");
        beginEntry("BLOCK_RECORD", "AcDbBlockTableRecord", kPaper, kBlocks, "*PAPER_SPACE");
        put(0, "ENDTAB");
    }

    void addBlocks() {
        begin("BLOCKS");
        for (const auto& [name, owner] : {std::pair{"*MODEL_SPACE", kModel}, {"*PAPER_SPACE", kPaper}}) {
            put(0, "BLOCK");
            putOwned(nextHandle(), owner, "AcDbEntity");
            put(8, "0");
            put(100, "AcDbBlockBegin");
            put(2, name);
            put(70, "0");
            for (const int code : {10, 20, 30})
                put(code, "0.0");
            put(3, name);
            put(0, "ENDBLK");
            putOwned(nextHandle(), owner, "AcDbEntity");
            put(8, "0");
            put(100, "AcDbBlockEnd");
        }
        put(0, "ENDSEC");
    }

    void addObjects() {
        begin("OBJECTS");
        put(0, "DICTIONARY");
        put(5, "C");
        put(330, "0");
        put(100, "AcDbDictionary");
        put(3, "ACAD_GROUP");
        put(350, "D");
        put(0, "DICTIONARY");
        put(5, "D");
        put(330, "C");
        put(100, "AcDbDictionary");
        put(0, "ENDSEC");
    }

    void addLine(const geometry::Line& line, const std::string& layer) {
        const bool isClosed = geometry::endOf(line) == line.start;
        if (!m_isNew)
            return addChords(line, layer, isClosed);
        const bool isStraight = std::all_of(line.segments.begin(), line.segments.end(),
                                            [](const geometry::Segment& one) { return one.isLine; });
        isStraight ? addSteps(line, layer, isClosed) : addSpline(line, layer, isClosed);
    }

    void addChords(const geometry::Line& line, const std::string& layer, bool isClosed) {
        geometry::Polygon way = geometry::flatten(line, kChordMm);
        if (!isClosed)
            way.push_back(geometry::endOf(line));
        put(0, "POLYLINE");
        put(8, layer);
        put(66, "1");
        put(70, isClosed ? "1" : "0");
        for (const Point p : way) {
            put(0, "VERTEX");
            put(8, layer);
            putPoint(p);
        }
        put(0, "SEQEND");
    }

    void addSteps(const geometry::Line& line, const std::string& layer, bool isClosed) {
        beginEntity("LWPOLYLINE", layer, "AcDbPolyline");
        put(90, std::to_string(line.segments.size() + (isClosed ? 0 : 1)));
        put(70, isClosed ? "1" : "0");
        putPoint(line.start);
        for (std::size_t i = 0; i + (isClosed ? 1 : 0) < line.segments.size(); ++i)
            putPoint(line.segments[i].end);
    }

    void addSpline(const geometry::Line& line, const std::string& layer, bool isClosed) {
        constexpr int kPlanar = 8, kClosed = 1;
        const std::size_t steps = line.segments.size();
        beginEntity("SPLINE", layer, "AcDbSpline");
        put(70, std::to_string(kPlanar + (isClosed ? kClosed : 0)));
        put(71, "3");
        put(72, std::to_string(3 * steps + 5)); // knots: three at every node, four at the ends
        put(73, std::to_string(3 * steps + 1));
        put(74, "0");
        for (std::size_t node = 0; node <= steps; ++node)
            for (int k = 0; k < (node == 0 || node == steps ? 4 : 3); ++k)
                put(40, number(static_cast<double>(node)));
        const auto control = [&](Point p) {
            putPoint(p);
            put(30, "0.0");
        };
        control(line.start);
        Point from = line.start;
        for (const geometry::Segment& segment : line.segments) {
            control(segment.isLine ? from + (segment.end - from) * (1.0 / 3) : segment.control1);
            control(segment.isLine ? from + (segment.end - from) * (2.0 / 3) : segment.control2);
            control(segment.end);
            from = segment.end;
        }
    }

    void beginEntity(const char* kind, const std::string& layer, const char* what) {
        put(0, kind);
        putOwned(nextHandle(), kModel, "AcDbEntity");
        put(8, layer);
        put(100, what);
    }

    const design::Load& m_load;
    const std::map<std::string, std::string> m_layers; ///< by the groups of passes
    const bool m_isNew;
    int m_handle = kFirstHandle;
    std::string m_text;
};

} // namespace

geometry::Point rulePlace(const design::MatFormat& mat) {
    return {5, mat.heightMm - std::min(2.0, mat.marginMm / 2)};
}

std::string writeLoad(const design::PlannedLoad& planned, const design::Load& load, Edition edition) {
    return Drawing(planned, load, edition).text();
}

} // namespace thinline::formats::dxf
