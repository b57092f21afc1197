// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "construct/Set.h"

namespace thinline::construct {

const std::vector<const Construction*>& constructions() {
    static const std::vector<const Construction*> all{
        &roundBox(), &lidBox(),   &boxNest(), &carton(), &sleeve(),   &pillow(), &cup(),
        &pyramid(),  &pouch(),    &lantern(), &card(),   &envelope(), &flags(),  &wordStrip(),
        &album(),    &bookmark(), &tag(),     &jigsaw(), &nested(),   &ball(),   &flower(),
        &rose(),     &bow(),      &stick(),   &easel(),  &cross(),
    };
    return all;
}

} // namespace thinline::construct
