#!/usr/bin/env python3
# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
"""Draws the picture on the demo's tide card, the harbour mouth at evening, as SVG on standard output.

    demo/make_sea.py > sea.svg
    rsvg-convert --dpi-x 300 --dpi-y 300 sea.svg > demo/gull-point-sea.png

All units are mm on a picture of 150 x 100 mm.
"""
import math

out = []


def path(d, fill, more=""):
    out.append(f'<path d="{d}" fill="{fill}" {more}/>')


def wave(y, height, length, phase, fill, opacity):
    points = []
    x = -10.0
    while x <= 160:
        points.append(f"{x:.2f},{y + height * math.sin(2 * math.pi * x / length + phase):.2f}")
        x += 1.5
    path(f"M-10,110 L{' L'.join(points)} L160,110 Z", fill, f'opacity="{opacity}"')


out.append('<svg xmlns="http://www.w3.org/2000/svg" width="150mm" height="100mm" viewBox="0 0 150 100">')
out.append(
    '<defs><linearGradient id="sky" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#2d4a6e"/>'
    '<stop offset="0.55" stop-color="#c98a6b"/><stop offset="1" stop-color="#f2cf8f"/></linearGradient>'
    '<radialGradient id="glow"><stop offset="0" stop-color="#fff3cf"/><stop offset="0.35" stop-color="#f9d98e"/>'
    '<stop offset="1" stop-color="#f2cf8f" stop-opacity="0"/></radialGradient></defs>'
)
out.append('<rect width="150" height="62" fill="url(#sky)"/>')
out.append('<circle cx="98" cy="56" r="26" fill="url(#glow)"/><circle cx="98" cy="56" r="7.5" fill="#fff6dc"/>')
for x, y, width in ((18, 14, 34), (64, 9, 26), (112, 20, 30), (40, 27, 22)):
    path(f"M{x},{y} q{width * 0.25},-4.5 {width * 0.5},-1.2 q{width * 0.3},-2.6 {width * 0.5},1.6 q{-width * 0.5},2.2 {-width},-0.4 Z",
         "#e7b48d", 'opacity="0.55"')
path("M-2,62 L-2,53 Q14,46 30,52 Q46,57 60,54 Q80,50 104,57 Q130,62 152,55 L152,62 Z", "#75697a")
out.append('<rect y="61" width="150" height="40" fill="#2f6073"/>')
out.append('<path d="M90,61 L106,61 L124,100 L72,100 Z" fill="#f6d893" opacity="0.35"/>')
for i in range(11):
    share = i / 10
    wave(63.5 + 3.4 * i, 0.25 + 0.55 * share, 11 + 9 * share, 1.7 * i, ("#3c7d8c", "#27566b")[i % 2], 0.55)
# The pier head and its light.
path("M6,78 L11,63 L37,63 L44,78 Q25,84 6,78 Z", "#3b4450")
path("M17.5,64 L20,24 L29,24 L31.5,64 Z", "#f4efe0")
for top, bottom in ((28, 36), (44, 52)):
    left, right = (17.5 + (64 - y) * 2.5 / 40 for y in (top, bottom)), (31.5 - (64 - y) * 2.5 / 40 for y in (top, bottom))
    (l1, l2), (r1, r2) = left, right
    path(f"M{l1:.2f},{top} L{r1:.2f},{top} L{r2:.2f},{bottom} L{l2:.2f},{bottom} Z", "#c8452a")
path("M18.6,24 L18.6,21.6 L30.4,21.6 L30.4,24 Z M20.6,21.6 L20.6,14.6 L28.4,14.6 L28.4,21.6 Z", "#26313c")
path("M21.6,20.6 L21.6,15.6 L27.4,15.6 L27.4,20.6 Z", "#ffe9a8")
path("M19.6,14.6 Q24.5,7.5 29.4,14.6 Z", "#c8452a")
# A small boat on its way home.
path("M116,71 L137,71 L133,76.5 L120,76.5 Z", "#8c5a3c")
path("M125.6,69.8 L125.6,48 L113.5,69.8 Z", "#f4efe0")
path("M127.4,69.8 L127.4,51 L137.5,69.8 Z", "#e3b24b")
for x, y, size in ((58, 24, 3.6), (67, 31, 2.6), (76, 22, 3.0), (132, 36, 2.2)):
    out.append(f'<path d="M{x - size},{y} q{size * 0.5},{-size * 0.55} {size},0 q{size * 0.5},{-size * 0.55} {size},0" '
               'fill="none" stroke="#26313c" stroke-width="0.6" stroke-linecap="round"/>')
out.append("</svg>")
print("\n".join(out))
