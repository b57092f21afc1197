// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/FaceArt.h"

#include "formats/image/ImageFile.h"
#include "job/Job.h"
#include "job/Letters.h"

#include <charconv>

namespace thinline::job {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;
using geometry::Transform;

namespace {
constexpr const char* kArt = "art-";
}

std::string artId(int number) {
    return kArt + std::to_string(number);
}

std::optional<int> artNumber(const std::string& id) {
    const std::string_view prefix = kArt;
    if (id.rfind(prefix, 0) != 0)
        return std::nullopt;
    int number = 0;
    const char* end = id.data() + id.size();
    const auto read = std::from_chars(id.data() + prefix.size(), end, number);
    return read.ec == std::errc() && read.ptr == end && number > 0 ? std::optional(number) : std::nullopt;
}

namespace {

/// A text as it is printed, its lines about one middle.
struct SetText {
    std::vector<geometry::Shape> shapes; ///< mm, capitals 100 high
    Box ink;
};
base::Result<SetText> setText(const lettering::Letters& letters) {
    lettering::Recipe recipe;
    recipe.text = letters.text;
    constexpr double kSetMm = 100; // any size: it comes down to the unit square
    recipe.sizeMm = kSetMm;
    const auto set = lettering::setWord(letters, recipe);
    if (!set)
        return set.error();
    std::map<double, Box> lines;
    const auto lineOf = [&](const lettering::WordPiece& piece) {
        return piece.letter >= 0 ? letters.letters[static_cast<size_t>(piece.letter)].baseline : 0.0;
    };
    for (const lettering::WordPiece& piece : set->pieces)
        lines[lineOf(piece)].include(geometry::bounds(piece.shape));
    SetText out;
    for (const lettering::WordPiece& piece : set->pieces) {
        out.shapes.push_back(
            geometry::transformed(piece.shape, Transform::move({-lines[lineOf(piece)].centre().x, 0})));
        out.ink.include(geometry::bounds(out.shapes.back()));
    }
    if (!(out.ink.width() > 0) || !(out.ink.height() > 0))
        return Error{Code::Degenerate, "This text has no ink."};
    return out;
}

} // namespace

base::Result<PrintedText> printedText(const std::string& text, const base::FontName& font,
                                      const base::FontStore& fonts, std::string* said) {
    lettering::Recipe recipe;
    recipe.text = text;
    recipe.font = font;
    const auto found = lettersFound(recipe, fonts);
    if (!found)
        return found.error();
    if (said) {
        *said = found->said;
        for (const std::string& lacks : found->letters->said)
            *said += (said->empty() ? "" : " ") + lacks;
    }
    return PrintedText{text, font, found->letters};
}

std::string addArt(Job& job, FaceArt art) {
    const int number = job.nextArt++;
    job.art[number] = std::make_shared<const FaceArt>(std::move(art));
    return artId(number);
}

base::Result<geometry::Box> inkOf(const lettering::Letters& letters) {
    auto set = setText(letters);
    return set ? base::Result<geometry::Box>(set->ink) : set.error();
}

base::Result<print::Shown> shownText(const lettering::Letters& letters) {
    const auto set = setText(letters);
    if (!set)
        return set.error();
    print::Shown out;
    out.aspect = set->ink.width() / set->ink.height();
    const Transform toUnit = Transform::move(set->ink.least * -1)
                                 .then(Transform::scale(1 / set->ink.width(), 1 / set->ink.height()));
    for (const geometry::Shape& shape : set->shapes) {
        const geometry::Shape unit = geometry::transformed(shape, toUnit);
        out.outlines.push_back(unit.outline);
        out.outlines.insert(out.outlines.end(), unit.openings.begin(), unit.openings.end());
    }
    return out;
}

namespace {

base::Result<print::Shown> shownArt(const FaceArt& art) {
    if (const auto* text = std::get_if<PrintedText>(&art.what))
        return shownText(*text->letters);
    const Artwork& file = *std::get<PrintedPicture>(art.what).file;
    auto decoded = formats::image::decode(file.bytes, raster::kMostPixels, formats::image::Ground::White);
    if (!decoded)
        return Error{decoded.error().code, file.fileName + ": " + decoded.error().message};
    print::Shown out;
    formats::image::DecodedPicture taken = decoded.take();
    if (!taken.cover.values.empty())
        out.cover = std::make_shared<const raster::Grey>(std::move(taken.cover));
    auto picture = std::make_shared<const raster::Picture>(std::move(taken.picture));
    out.aspect = static_cast<double>(picture->width) / picture->height;
    out.picture = std::move(picture);
    return out;
}

} // namespace

base::Result<Decoded> decodedArt(const Job& job, const std::vector<design::Face>& faces,
                                 const Decoded& before) {
    Decoded out;
    for (const design::Face& face : faces) {
        if (face.kind != design::Face::Kind::Picture && face.kind != design::Face::Kind::Text)
            continue;
        const auto number = artNumber(face.shows);
        const auto art = number ? job.art.find(*number) : job.art.end();
        if (art == job.art.end())
            return Error{Code::NotFound, "What is printed as '" + face.shows +
                                             "' is not in the job any more; take its step out."};
        if (out.of.contains(*number))
            continue;
        const auto known = before.of.find(*number);
        if (known != before.of.end() && known->second == art->second) {
            out.gallery[face.shows] = before.gallery.at(face.shows);
        } else {
            auto shown = shownArt(*art->second);
            if (!shown)
                return shown.error();
            out.gallery[face.shows] = shown.take();
        }
        out.of[*number] = art->second;
    }
    return out;
}

std::vector<design::Face> facesOf(const design::Stack& work) {
    std::vector<design::Face> out;
    for (const design::Laid& laid : work.pieces)
        out.insert(out.end(), laid.piece.body->faces.begin(), laid.piece.body->faces.end());
    return out;
}

} // namespace thinline::job
