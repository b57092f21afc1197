#!/usr/bin/env bash
# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
#
# Makes the printed tide card and the pass tag anew with thinline-batch: a picture on photo paper that is mounted on thin board
# before it is cut, and a tag of clear film with print on both of its faces.
set -eu
cd "$(dirname "$0")/.."
batch=${1:-build/release/bin/thinline-batch}
job=demo/gull-point-tide.thinline
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
shapes=$folder/gull-point-tide.svg
rm -f "$job"
step() { # command, then its words
  command=$1
  shift
  "$batch" "$command" "$job" "$@" > /dev/null
}
cat > "$shapes" << 'SVG'
<svg xmlns="http://www.w3.org/2000/svg" width="204mm" height="94mm" viewBox="0 0 204 94">
<g id="tide card"><path fill="#fdfdfb" fill-rule="evenodd" d="M6 0H124A6 6 0 0 1 130 6V84A6 6 0 0 1 124 90H6A6 6 0 0 1 0 84V6A6 6 0 0 1 6 0ZM8 9a3 3 0 1 0 6 0a3 3 0 1 0 -6 0Z"/></g>
<g id="pass tag"><path fill="#e6eef0" fill-rule="evenodd" d="M150 0H196A8 8 0 0 1 204 8V86A8 8 0 0 1 196 94H150A8 8 0 0 1 142 86V8A8 8 0 0 1 150 0ZM167 6H179A2 2 0 0 1 179 10H167A2 2 0 0 1 167 6Z"/></g>
</svg>
SVG
"$batch" import "$shapes" --job "$job" > /dev/null
step stock --new "photo paper" --kind card --colour "#fdfdfb" --thickness 0.25mm --weight 240 --prints front --sheets 210x297mm
step stock --new "thin board" --kind board --colour "#b9b2a6" --thickness 0.6mm --weight 380 --by machine --sheets 305x305mm
step stock --new "mounted print" --kind laminate --glued-of photo-paper,thin-board --colour "#fdfdfb" --thickness 0.85mm --weight 620 --bleed 3mm
step stock --new "clear film" --kind acetate --colour "#e6eef0" --prints both --bleed 2mm --sheets 210x297mm
step lay --on 1:1 --stock mounted-print
step lay --on 1:2 --stock clear-film
step face --on 1:1 --picture demo/gull-point-sea.png --origin "drawn for the open day" --licence "may sell"
step face --on 1:1 --text "Tides at Gull Point" --colour fff6dc
step face --on 1:1 --text "open day, high water 11:42 and 23:58" --colour f4efe0
step face --on 1:1 --square-code "Gull Point open day: high water 11:42 and 23:58" --colour 26313c
step face --on 1:2 --colour 2d4a6e --into c98a6b
step face --on 1:2 --text "OPEN|DAY" --colour fff6dc
step face --on 1:2 --side back --colour 27566b
step face --on 1:2 --side back --square-code "Gull Point harbour pass 0042" --colour 26313c
# The title over the sea, the line below it, codes in their corners.
step face --step 2 --scale 0.62 --move 8mm,29mm
step face --step 3 --scale 0.62 --move 8mm,37.5mm
step face --step 4 --scale 0.5 --move 46mm,-29mm
step face --step 6 --scale 0.8 --move 0mm,-4mm
step face --step 8 --scale 0.9 --move 0mm,8mm
