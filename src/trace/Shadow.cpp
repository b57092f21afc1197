// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Shadow.h"

namespace thinline::trace {

SeenShadow seenShadow(const raster::CastShadow& shadow, DarkPart said, bool isSure) {
    return {(shadow.light[0] + shadow.light[1] + shadow.light[2]) / 3,
            shadow.areaPx,
            {shadow.x + 0.5, shadow.y + 0.5},
            shadow.pairs,
            said == DarkPart::Shadow || (said == DarkPart::Unsaid && isSure)};
}

Lightened lightenedLines(const raster::Picture& picture, const Recipe& recipe, const base::Progress& progress) {
    Lightened out;
    const auto shadow = raster::castShadowIn(picture, progress);
    if (!shadow || !shadow->isOnGround)
        return out;
    out.shadow = seenShadow(*shadow, recipe.darkPart, true);
    if (out.shadow->isTakenOut)
        out.picture = raster::withoutShadow(picture, *shadow);
    return out;
}

} // namespace thinline::trace
