// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What may be done with the sources of a work that is given on or sold.
#include "inspect/Findings.h"
#include "job/FaceArt.h"

#include <algorithm>

namespace thinline::inspect {
namespace {

bool isShown(const design::Stack& work, const std::string& id) {
    const std::vector<design::Face> faces = job::facesOf(work);
    return std::any_of(faces.begin(), faces.end(),
                       [&](const design::Face& face) { return face.shows == id; });
}

} // namespace

void inspectRights(const Look& look, Gathering& into) {
    if (look.state.job.goesTo == job::GoesTo::Myself)
        return;
    const bool isSold = look.state.job.goesTo == job::GoesTo::Buyers;
    const std::string done = isSold ? "to be sold" : "for others";
    const auto say = [&](const std::string& name, const job::Origin& origin) {
        if (origin.licence == job::Licence::Own || origin.licence == job::Licence::MaySell)
            return;
        const bool isOwnUse = origin.licence == job::Licence::FreeForOwnUse;
        into.add(Severity::Note, Kind::MayNotBeGiven,
                 "Ask its owner, note where it came from what was agreed, or take it out.",
                 {capitalised(name) +
                      (isOwnUse ? " is free for own use only, and this work is "
                                : ": nobody said what may be done with it, and this work is ") +
                      done,
                  {},
                  {}});
    };
    for (const auto& source : look.state.job.sources) {
        if (std::holds_alternative<job::Drawing>(source->what) ||
            std::holds_alternative<job::Picture>(source->what))
            say(source->name(), source->origin);
    }
    for (const auto& [number, art] : look.state.job.art)
        if (const auto* picture = std::get_if<job::PrintedPicture>(&art->what);
            picture && isShown(look.work, job::artId(number)))
            say("the printed picture " + picture->file->fileName, picture->origin);
}

} // namespace thinline::inspect
