// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Source.h"
#include "print/Paint.h"

/// Pictures and texts that are printed on pieces: kept in the job, told by number, never changed. A text that is retyped is
/// another one.
namespace thinline::job {

struct Job;

/// A picture that is printed. It is kept as it came in.
struct PrintedPicture {
    std::shared_ptr<const Artwork> file;
    Origin origin;
};
/// A text that is printed, with its letters: it looks the same where its typeface is missing.
struct PrintedText {
    std::string text; ///< lines parted by line breaks, one under the other about one middle
    base::FontName font;
    std::shared_ptr<const lettering::Letters> letters;
};
struct FaceArt {
    std::variant<PrintedPicture, PrintedText> what;
};

/// Returns a text with its letters in a typeface, or in the one that stands in for it; which, and what it lacks, is in `said`.
/// Errors: those of lettering::findFont and lettersOf.
base::Result<PrintedText> printedText(const std::string& text, const base::FontName& font, const base::FontStore& fonts,
                                      std::string* said = nullptr);
/// Keeps something in a job; returns how faces name it.
std::string addArt(Job& job, FaceArt art);

/// How a face names what it shows, and back.
std::string artId(int number);
std::optional<int> artNumber(const std::string& id);

/// Pictures decoded and texts set, with what they were made of.
struct Decoded {
    print::Gallery gallery;
    std::map<int, std::shared_ptr<const FaceArt>> of;
};
/// Returns what some faces show, ready to be painted; those of `before` are taken over.
/// Errors: NotFound for what is not in the job any more; those of formats::image::decode.
/// Cost:   O(pixels) of those that are new.
base::Result<Decoded> decodedArt(const Job& job, const std::vector<design::Face>& faces,
                                 const Decoded& before = {});
/// The faces of some bodies, all of them.
std::vector<design::Face> facesOf(const design::Stack& work);

/// Returns the box of a text's ink, capitals 100 mm high, the baseline of its first line at y = 0 and its middle at x = 0.
/// Errors: those of lettering::setWord; Degenerate without ink.
base::Result<geometry::Box> inkOf(const lettering::Letters& letters);
/// Returns a text's outlines in the unit square of its ink, and how wide that is over its height.
base::Result<print::Shown> shownText(const lettering::Letters& letters);

} // namespace thinline::job
