#!/usr/bin/env bash
# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
#
# Makes the ship's lantern anew with thinline-batch: four walls with portholes from a drawing, its dashed lines folds, its
# flap glued, a pane of translucent paper behind every porthole, and a compass rose whose place is marked.
# For a battery light only.
set -eu
cd "$(dirname "$0")/.."
batch=${1:-build/release/bin/thinline-batch}
job=demo/gull-point-lantern.thinline
rm -f "$job"
step() { # command, then its words
  command=$1
  shift
  "$batch" "$command" "$job" "$@" > /dev/null
}
"$batch" import demo/gull-point-lantern.svg --lines 3=score --job "$job" > /dev/null
step panels --at 20mm,20mm --front --name "bow"
step panels --at 80mm,20mm --name "port side"
step panels --at 140mm,20mm --name "stern"
step panels --at 200mm,20mm --name "starboard"
step panels --at 257mm,60mm --name "flap"
step panels --at 257mm,60mm --glue
step stock --new "frosted paper" --kind "translucent paper" --colour "#ece6d2" --sheets "210x297mm" --price 0.6
step panes --on all --margin 5mm --stock frosted-paper
"$batch" figure star points=8 across=22mm --stock lamp --into "$job" > /dev/null
step place --of 2 --at 29mm,18mm
step layer --of lamp --lift 1mm
step marks --of lamp --as corners
