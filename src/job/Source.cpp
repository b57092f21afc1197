// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Source.h"

#include "geometry/Measures.h"
#include "geometry/Placing.h"

#include <algorithm>
#include <array>
#include <charconv>

namespace thinline::job {
namespace {

struct LicenceWords {
    Licence licence;
    const char* word;
    const char* text;
};
constexpr std::array kLicences{LicenceWords{Licence::Unknown, "unknown", "licence not known"},
                               LicenceWords{Licence::Own, "own", "own work"},
                               LicenceWords{Licence::FreeForOwnUse, "own use", "free for own use"},
                               LicenceWords{Licence::MaySell, "may sell", "may be sold"}};

constexpr std::string_view kAreaPrefix = "area.";

std::shared_ptr<const design::Body> bodyOf(geometry::Shape shape) {
    return std::make_shared<const design::Body>(design::Body{std::move(shape)});
}

/// Folds lie on the area they run over. A found one has no number yet: the job gives it one by its place.
void addFolds(const trace::Tracing& tracing, std::vector<Found>& pieces) {
    int next = 1;
    for (const geometry::Line& fold : tracing.folds) {
        const design::LineId id{next++};
        if (fold.segments.empty())
            continue;
        const geometry::Point on =
            geometry::stretchOfLine(fold, 0, geometry::contourLength(fold) / 2).segments.back().end;
        for (Found& piece : pieces) {
            if (!isArea(piece.key) || !geometry::contains(piece.body->shape, on))
                continue;
            design::Body body = *piece.body;
            const auto isAtEdge = [&](geometry::Point p) {
                constexpr double kNearPx = 0.01;
                const auto edge = geometry::nearestOnEdge(body.shape, p);
                return edge && edge->distance < kNearPx;
            };
            body.lines.push_back(
                {id, fold, design::Fold{}, isAtEdge(fold.start), isAtEdge(fold.segments.back().end)});
            piece.body = std::make_shared<const design::Body>(std::move(body));
            break;
        }
    }
}

} // namespace

std::string licenceWord(Licence licence) {
    return kLicences[static_cast<size_t>(licence)].word;
}
std::string licenceText(Licence licence) {
    return kLicences[static_cast<size_t>(licence)].text;
}
std::optional<Licence> licenceOf(const std::string& word) {
    for (const LicenceWords& l : kLicences)
        if (word == l.word)
            return l.licence;
    return std::nullopt;
}

std::string Source::name() const {
    if (const auto* picture = std::get_if<Picture>(&what))
        return picture->file ? picture->file->fileName : "a picture";
    if (const auto* drawing = std::get_if<Drawing>(&what))
        return drawing->file ? drawing->file->fileName : "a drawing";
    if (const auto* word = std::get_if<Word>(&what))
        return "the word " + (word->letters ? word->letters->text : word->recipe.text);
    const auto* construction = std::get_if<Construction>(&what);
    std::string label = construction ? construct::constructionNamed(construction->given.name)->label
                                     : construct::infoOf(std::get<Figure>(what).recipe.figure).label;
    label[0] = static_cast<char>(label[0] - 'A' + 'a');
    return label;
}

geometry::Transform Source::map() const {
    const auto* picture = std::get_if<Picture>(&what);
    const double aspect = picture && picture->file ? picture->pixelAspect() : 1;
    const auto sized = geometry::Transform::scale(unitMm, unitMm * aspect * stretchY);
    return (turnRad == 0 ? sized : sized.then(geometry::turnAbout({}, turnRad)))
        .then(geometry::Transform::move(at));
}

bool Source::takes(const Found& found) const {
    const auto* drawing = std::get_if<Drawing>(&what);
    return !drawing || !drawing->take.leftOut.contains(found.group);
}

geometry::Box Source::box() const {
    const geometry::Transform place = map();
    geometry::Box own, turned;
    for (const Found& found : *kept) {
        if (!takes(found))
            continue;
        if (turnRad == 0)
            own.include(geometry::bounds(found.body->shape));
        else
            turned.include(geometry::bounds(geometry::transformed(found.body->shape, place)));
    }
    if (own.isEmpty())
        return turned;
    return geometry::transformed(own, place);
}

bool isArea(const std::string& key) {
    return key.starts_with(kAreaPrefix);
}

bool isInk(const std::string& key) {
    return key.starts_with("ink.");
}

int areaNumber(const std::string& key) {
    int number = 0;
    if (isArea(key))
        std::from_chars(key.data() + kAreaPrefix.size(), key.data() + key.size(), number);
    return number;
}

std::string areaKey(int number) {
    return std::string(kAreaPrefix) + std::to_string(number);
}

std::vector<Found> piecesOfTracing(const trace::Tracing& tracing, trace::Build build) {
    std::vector<Found> out;
    const bool isInkOnTop = build == trace::Build::InkOnTop && !tracing.ink.empty();
    const std::string ground = isInkOnTop ? "ink" : "backing";
    const auto& shapes = isInkOnTop ? tracing.ink : tracing.backing;
    for (size_t i = 0; i < shapes.size(); ++i) {
        const std::string number = std::to_string(i + 1);
        out.push_back({ground + "." + number, bodyOf(shapes[i]),
                       shapes.size() == 1 ? "the " + ground : "part " + number + " of the " + ground});
    }
    for (const trace::Area& area : tracing.areas)
        out.push_back({areaKey(area.number), bodyOf(area.shape), "area " + std::to_string(area.number), "",
                       area.colour});
    addFolds(tracing, out);
    return out;
}

lettering::Recipe unstretched(lettering::Recipe recipe, double stretchY) {
    if (recipe.sizeBy == lettering::SizeBy::CapHeight)
        recipe.sizeMm /= stretchY;
    return recipe;
}

std::vector<Found> piecesOfWord(const lettering::Word& word, const std::vector<Sign>& signs) {
    std::vector<Found> out;
    for (const lettering::WordPiece& piece : word.pieces) {
        const std::string part = std::to_string(piece.part + 1);
        const std::string key =
            piece.letter < 0 ? "word." + part
                             : std::to_string(signs[static_cast<size_t>(piece.letter)].number) + "." + part;
        out.push_back(
            {key, bodyOf(geometry::rounded(piece.shape, kKeptStep)), piece.name, "", {}, piece.letterToWord});
    }
    return out;
}

std::vector<Sign> carriedSigns(const std::vector<Sign>& before, const lettering::Letters& letters,
                               int& next) {
    const size_t n = before.size(), m = letters.letters.size();
    // longest[i][j]: how many letters the rests from i and from j have in common, in order.
    std::vector<std::vector<int>> longest(n + 1, std::vector<int>(m + 1, 0));
    for (size_t i = n; i-- > 0;)
        for (size_t j = m; j-- > 0;)
            longest[i][j] = before[i].text == letters.letters[j].text
                                ? longest[i + 1][j + 1] + 1
                                : std::max(longest[i + 1][j], longest[i][j + 1]);
    std::vector<Sign> out;
    size_t i = 0;
    for (size_t j = 0; j < m; ++j) {
        while (i < n && before[i].text != letters.letters[j].text && longest[i + 1][j] == longest[i][j])
            ++i;
        const bool isKept =
            i < n && before[i].text == letters.letters[j].text && longest[i][j] == longest[i + 1][j + 1] + 1;
        out.push_back({letters.letters[j].text, isKept ? before[i++].number : next++});
    }
    return out;
}

} // namespace thinline::job
