#!/usr/bin/env bash
# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
#
# Makes the works from measures anew with thinline-batch: a canister for sea salt, a lantern for the ship's deck, and the board
# of a quay whose name is replaced from a list. The lantern is for a battery light only.
set -eu
cd "$(dirname "$0")/.."
batch=${1:-build/release/bin/thinline-batch}
salt=demo/gull-point-canister.thinline
deck=demo/gull-point-deck-lantern.thinline
board=demo/gull-point-quay-board.thinline
rm -f "$salt" "$deck" "$board"
"$batch" construct round-box diameter=58mm height=104mm room=0.5mm lid-height=22mm --stock sea --job "$salt" > /dev/null
"$batch" lay "$salt" --on "1:lid-wall,1:lid-inner-disc,1:lid-outer-disc" --stock signal > /dev/null
"$batch" construct lantern panels=6 inside=70mm height=110mm window=arched strips=2 --stock rust --job "$deck" > /dev/null
"$batch" figure rectangle width=190mm height=58mm corners=notched corner=8mm --stock night --job "$board" > /dev/null
"$batch" words "Salt Quay" --width 160mm --overlap 1mm --join --stock cream --into "$board" > /dev/null
"$batch" place "$board" --of 2 --at 15mm,14mm > /dev/null
