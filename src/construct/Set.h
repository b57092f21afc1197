// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "construct/Construction.h"

/// Every construction there is; a new one gets a line here and a row in Set.cpp.
namespace thinline::construct {

const Construction& roundBox();
const Construction& lidBox();
const Construction& carton();
const Construction& sleeve();
const Construction& pillow();
const Construction& cup();
const Construction& boxNest();
const Construction& pyramid();
const Construction& pouch();
const Construction& lantern();
const Construction& card();
const Construction& envelope();
const Construction& flags();
const Construction& wordStrip();
const Construction& album();
const Construction& bookmark();
const Construction& tag();
const Construction& jigsaw();
const Construction& nested();
const Construction& ball();
const Construction& flower();
const Construction& rose();
const Construction& bow();
const Construction& stick();
const Construction& easel();
const Construction& cross();

} // namespace thinline::construct
