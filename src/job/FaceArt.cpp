// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/FaceArt.h"

#include "formats/image/ImageFile.h"
#include "job/Job.h"

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

base::Result<print::Shown> shownText(const lettering::Letters& letters) {
    lettering::Recipe recipe;
    recipe.text = letters.text;
    constexpr double kSetMm = 100; // any size: it comes down to the unit square
    recipe.sizeMm = kSetMm;
    const auto set = lettering::setWord(letters, recipe);
    if (!set)
        return set.error();
    // Lines stand about one middle.
    std::map<double, Box> lines;
    const auto lineOf = [&](const lettering::WordPiece& piece) {
        return piece.letter >= 0 ? letters.letters[static_cast<size_t>(piece.letter)].baseline : 0.0;
    };
    for (const lettering::WordPiece& piece : set->pieces)
        lines[lineOf(piece)].include(geometry::bounds(piece.shape));
    Box all;
    std::vector<geometry::Shape> shapes;
    for (const lettering::WordPiece& piece : set->pieces) {
        shapes.push_back(
            geometry::transformed(piece.shape, Transform::move({-lines[lineOf(piece)].centre().x, 0})));
        all.include(geometry::bounds(shapes.back()));
    }
    if (!(all.width() > 0) || !(all.height() > 0))
        return Error{Code::Degenerate, "This text has no ink."};
    print::Shown out;
    out.aspect = all.width() / all.height();
    const Transform toUnit =
        Transform::move(all.least * -1).then(Transform::scale(1 / all.width(), 1 / all.height()));
    for (const geometry::Shape& shape : shapes) {
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
    auto picture = std::make_shared<const raster::Picture>(std::move(decoded.take().picture));
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
