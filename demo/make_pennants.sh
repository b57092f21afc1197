#!/usr/bin/env bash
# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
#
# Makes the string of signal pennants anew with thinline-batch: five pennants in front of a cord, every other one
# lifted, a letter of white film on each; the letters are one cluster with a frame.
set -eu
cd "$(dirname "$0")/.."
batch=${1:-build/release/bin/thinline-batch}
job=demo/gull-point-pennants.thinline
rm -f "$job"
step() { # command, then its words
  command=$1
  shift
  "$batch" "$command" "$job" "$@" > /dev/null
}
"$batch" figure rectangle width=336mm height=7mm corners=round corner=3mm --stock night --job "$job" > /dev/null
step lay --on 1:1 --layer backing
step place --of 1 --at -8mm,-3mm
number=1
for stock in signal rust sea lamp lichen; do
  number=$((number + 1))
  "$batch" figure polygon sides=3 across=72mm --stock $stock --into "$job" > /dev/null
  step place --of $number --turn 180 --at "$(((number - 2) * 65))mm,0mm"
done
step layer --of night --take-out
step layer --of rust --lift 1.5mm
step layer --of lamp --lift 1.5mm
step stock --new "white film" --kind vinyl --colour "#fbfaf6" --sheets "305x305mm" --price 1.2
"$batch" words "GULLS" --height 15mm --spacing 51.5mm --stock white-film --into "$job" > /dev/null
step place --of 7 --at 23mm,9mm
step cluster --on white-film --name "the letters" --frame 5mm
