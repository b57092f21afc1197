#!/usr/bin/env bash
# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
#
# Makes the tall lighthouse anew with thinline-batch: the Gull Point lighthouse at 700 mm, divided for sheets and mats of
# 12 inches, its backing in keyed parts.
set -eu
cd "$(dirname "$0")/.."
batch=${1:-build/release/bin/thinline-batch}
job=demo/gull-point-tall.thinline
"$batch" size demo/gull-point-lighthouse.thinline --height 700mm --job "$job" > /dev/null
"$batch" split "$job" --mat square12 --sheet square12 > /dev/null
