// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "construct/Set.h"

namespace thinline::construct {

const std::vector<const Construction*>& constructions() {
    static const std::vector<const Construction*> all{
        &roundBox(), &lidBox(),   &carton(), &sleeve(),   &pillow(), &cup(),    &pyramid(), &lantern(),
        &card(),     &envelope(), &flags(),  &bookmark(), &tag(),    &jigsaw(), &nested(),  &ball(),
        &flower(),   &rose(),     &bow(),    &stick(),    &easel(),  &cross(),
    };
    return all;
}

} // namespace thinline::construct
