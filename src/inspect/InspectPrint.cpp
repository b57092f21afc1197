// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is printed, looked at before ink is spent.
//
// Everything on one side of a piece is always one picture here, so that nothing of it can be cut on its own. What can go wrong is said
// of faces and of their piece's outline: whether the print goes beyond the cut, whether what is read stays clear of it, whether
// there are pixels enough, whether the sheet is printed at all and the machine finds it again.
#include "base/Length.h"
#include "folds/Panels.h"
#include "geometry/Measures.h"
#include "inspect/Findings.h"
#include "job/CutSteps.h"
#include "job/FaceArt.h"
#include "job/Source.h"
#include "print/Page.h"

#include <algorithm>
#include <cmath>

namespace thinline::inspect {
namespace {

using design::Face;
using design::Laid;
using design::Side;
using geometry::Point;

constexpr double kTextMm = 2;       // between what is read and a cut; from memory
constexpr double kLeastBleedMm = 1; // less hides nothing
constexpr double kStretched = 0.02;
constexpr double kNearMm = 1.5; // a print that ends so near was meant to reach the cut

const job::Artwork* fileOf(const job::Job& job, const Face& face) {
    const auto number = job::artNumber(face.shows);
    const auto art = number ? job.art.find(*number) : job.art.end();
    const auto* picture =
        art == job.art.end() ? nullptr : std::get_if<job::PrintedPicture>(&art->second->what);
    return picture ? picture->file.get() : nullptr;
}

bool covers(const Face& face, Point p) {
    if (face.kind == Face::Kind::Colour || face.kind == Face::Kind::Gradient)
        return !face.panel;
    if (face.kind != Face::Kind::Picture || face.panel)
        return false;
    const Point at = geometry::inverse(face.place)(p);
    constexpr double kRounding = 1e-6;
    return std::min({at.x, at.y, 1 - at.x, 1 - at.y}) > -kRounding;
}

class PrintLook {
  public:
    PrintLook(const Look& look, Gathering& into) : m_look(look), m_into(into) {}

    void inspect(const Laid& laid) {
        const design::Body& body = *laid.piece.body;
        if (body.faces.empty())
            return;
        lookAtStock(laid);
        for (const Face& face : body.faces) {
            lookAtPicture(laid, face);
            lookAtText(laid, face);
        }
        lookAtWay(laid);
        for (const Side side : {Side::Front, Side::Back})
            lookAtBleed(laid, side);
    }

    void inspectMachine() {
        const job::PrintPlan& plan = m_look.state.job.print;
        if (!plan.hasMarks || plan.stocks.empty() || !isAnythingPrinted())
            return;
        const design::Machine& machine = job::machineOf(m_look.state.job);
        const std::string remedy =
            "Choose a machine at Cut that reads marks, or print without marks and lay the page by hand.";
        if (!machine.doesReadMarks)
            m_into.add(Severity::RisksCard, Kind::NoMarkReader, remedy,
                       {machine.name + " finds no printed marks by itself", {}, {}});
        if (plan.standing && plan.standing->machine != machine.id)
            m_into.add(Severity::Note, Kind::NoMarkReader,
                       "Calibrate it at Cut, or take its own calibration.",
                       {"The calibration in this job is of another machine and is not used", {}, {}});
    }

  private:
    void add(Severity severity, Kind kind, const std::string& remedy, const Laid& laid,
             const std::string& what, geometry::Box place = {}) {
        m_into.add(severity, kind, remedy,
                   {m_look.called(laid) + what, laid.id(),
                    place.isEmpty() ? geometry::bounds(laid.shape()) : place});
    }

    bool isAnythingPrinted() const {
        return std::any_of(m_look.work.pieces.begin(), m_look.work.pieces.end(), [&](const Laid& laid) {
            return !laid.piece.body->faces.empty() &&
                   m_look.state.job.print.stocks.contains(m_look.work.layerOf(laid).stockId);
        });
    }

    void lookAtStock(const Laid& laid) {
        const std::string& id = m_look.work.layerOf(laid).stockId;
        const design::Stock* stock = design::findStock(m_look.work.stocks, id);
        if (!stock)
            return;
        const auto prints = design::printsOf(*stock);
        const auto& faces = laid.piece.body->faces;
        const bool hasBack =
            std::any_of(faces.begin(), faces.end(), [](const Face& f) { return f.side == Side::Back; });
        if (prints == design::Stock::Prints::None)
            add(Severity::SpoilsCard, Kind::NotPrinted,
                "Print it on paper that is stuck on before cutting (a laminate), choose another stock, or "
                "say at the "
                "stock that it can be printed.",
                laid, " bears a print, and " + stock->name + " goes through no printer");
        else if (hasBack && prints == design::Stock::Prints::Front)
            add(Severity::SpoilsCard, Kind::NotPrinted,
                "Take the print off its back, or say at the stock that both faces can be printed.", laid,
                " is printed on its back, and " + stock->name + " takes print on its front alone");
        else if (!m_look.state.job.print.stocks.contains(id))
            add(Severity::SpoilsCard, Kind::NotPrinted, "Say at Sheets that this stock is printed.", laid,
                " bears a print, and its sheets are cut without being printed");
    }

    void lookAtPicture(const Laid& laid, const Face& face) {
        const job::Artwork* file = fileOf(m_look.state.job, face);
        if (face.kind != Face::Kind::Picture || !file || file->widthPx < 1 || file->heightPx < 1)
            return;
        const double across = std::hypot(face.place.a, face.place.b),
                     down = std::hypot(face.place.c, face.place.d);
        constexpr double kInchMm = 25.4;
        const double dpi = kInchMm * std::min(file->widthPx / across, file->heightPx / down);
        if (dpi < print::kLeastDpi)
            add(Severity::RisksCard, Kind::CoarsePicture,
                "Take a picture of more pixels, or print it smaller; 250 dpi and more look sharp.", laid,
                ": " + file->fileName + " has " + base::formatNumber(dpi, 0) + " dpi at this size");
        const double stretch = across / down / (static_cast<double>(file->widthPx) / file->heightPx);
        if (std::abs(stretch - 1) > kStretched)
            add(Severity::Note, Kind::StretchedPicture, "Lay the picture on the piece anew.", laid,
                ": " + file->fileName + " is stretched by " +
                    base::formatNumber(std::abs(stretch - 1) * 100, 0) + " %, since the piece was");
    }

    void lookAtText(const Laid& laid, const Face& face) {
        if (!design::isRead(face.kind))
            return;
        constexpr int kSteps = 16;
        double least = 1e9;
        bool isOff = false;
        const geometry::Polygons rings = geometry::flatten(laid.shape(), 0.05);
        for (int i = 0; i <= kSteps; ++i)
            for (const Point unit : {Point{i / 16.0, 0}, {i / 16.0, 1}, {0, i / 16.0}, {1, i / 16.0}}) {
                const Point p = face.place(unit);
                isOff = isOff || !geometry::contains(rings, p);
                if (const auto edge = geometry::nearestOnEdge(laid.shape(), p, kTextMm))
                    least = std::min(least, edge->distance);
            }
        const std::string what = face.kind == Face::Kind::Text ? "a text" : "a code";
        if (isOff)
            add(Severity::SpoilsCard, Kind::TextNearCut,
                "Make it smaller or move it; its prints are at Shape.", laid,
                ": " + what + " on it is cut off");
        else if (least < kTextMm)
            add(Severity::RisksCard, Kind::TextNearCut, "Make it smaller or move it; 2 mm are safe.", laid,
                ": " + what + " on it comes within " + inMm(least) + " of a cut");
        const design::Stock* stock = design::findStock(m_look.work.stocks, m_look.work.layerOf(laid).stockId);
        const Side other = face.side == Side::Front ? Side::Back : Side::Front;
        const auto& faces = laid.piece.body->faces;
        const bool isHiddenBehind = std::any_of(faces.begin(), faces.end(), [&](const Face& one) {
            return one.side == other && (covers(one, face.place({0, 0})) && covers(one, face.place({1, 1})));
        });
        if (stock && stock->isTranslucent && !isHiddenBehind)
            add(Severity::Note, Kind::MirroredText,
                "Print something over its place on the other side, if that matters.", laid,
                ": " + what + " on it is read mirrored from behind, for " + stock->name + " lets it through");
    }

    /// A panel that is folded back hangs upside down, and what is printed on it with it.
    void lookAtWay(const Laid& laid) {
        const design::Body& body = *laid.piece.body;
        const auto isText = [](const Face& face) { return face.kind == Face::Kind::Text; };
        if (std::none_of(body.faces.begin(), body.faces.end(), isText))
            return;
        const auto panels = folds::panelsOf(body, m_look.progress);
        if (!panels)
            return;
        for (const Face& face : body.faces) {
            if (!isText(face))
                continue;
            const auto on = std::find_if(panels->begin(), panels->end(), [&](const folds::Panel& panel) {
                return geometry::contains(geometry::flatten(panel.area, 0.05), face.place({0.5, 0.5}));
            });
            if (on == panels->end())
                continue;
            const Point up = face.place({0, 0}) - face.place({0, 1}),
                        wanted{std::sin(on->upRad), -std::cos(on->upRad)};
            constexpr double kOnItsHead = -0.7; // cosine: sideways is a way to read
            if (dot(up, wanted) < kOnItsHead * geometry::length(up))
                add(Severity::RisksCard, Kind::ReadUpsideDown,
                    "Turn the text by half a turn at Shape, or say at Folds which way the panel is read.",
                    laid, ": the text on " + on->name + " stands on its head once it is folded",
                    geometry::bounds(on->area));
        }
    }

    void lookAtBleed(const Laid& laid, Side side) {
        const auto& faces = laid.piece.body->faces;
        const design::Stock* stock = design::findStock(m_look.work.stocks, m_look.work.layerOf(laid).stockId);
        const double bleed = stock ? design::bleedOf(*stock) : 0;
        const auto isCovered = [&](Point p) {
            return std::any_of(faces.begin(), faces.end(),
                               [&](const Face& face) { return face.side == side && covers(face, p); });
        };
        bool reaches = false;
        geometry::Box white;
        for (const geometry::Polygon& ring : geometry::flatten(laid.shape(), 0.05))
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const Point a = ring[i], b = ring[(i + 1) % ring.size()], along = geometry::direction(b - a);
                // The card lies to the right of its outlines, as seen on screen.
                const Point edge = geometry::middle(a, b), within = edge + Point{-along.y, along.x} * kNearMm;
                const bool isAtEdge = isCovered(edge);
                reaches = reaches || isAtEdge;
                if (!isAtEdge && isCovered(within))
                    white.include(edge);
            }
        if (reaches && bleed < kLeastBleedMm)
            add(Severity::RisksCard, Kind::NoBleed, "Give its stock a bleed of 1.5 to 3 mm.", laid,
                bleed > 0 ? " is printed only " + inMm(bleed) + " beyond the cut; a white edge may show"
                          : " is printed up to the cut and not beyond; a white edge may show");
        if (!white.isEmpty())
            add(Severity::RisksCard, Kind::NoBleed, "Make the picture larger, so that it goes over the cut.",
                laid, ": a picture ends a little before the cut, and a white edge will show",
                white.grownBy(3));
    }

    const Look& m_look;
    Gathering& m_into;
};

} // namespace

void inspectPrint(const Look& look, Gathering& into) {
    PrintLook print(look, into);
    for (const Laid& laid : look.work.pieces)
        if (!look.isHidden(laid))
            print.inspect(laid);
    print.inspectMachine();
}

} // namespace thinline::inspect
