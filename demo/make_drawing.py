#!/usr/bin/env python3
# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later
"""Draws the Gull Point lighthouse, the demo's ink drawing with a colour wash, as SVG on standard output.

    demo/make_drawing.py > lighthouse.svg
    rsvg-convert --dpi-x 300 --dpi-y 300 lighthouse.svg > demo/gull-point-lighthouse.png

All units are mm on a picture of 200 x 300 mm. Two outlines have a gap on purpose: a wave (1.2 mm) and a cloud
(1.0 mm). A few rings are so small that their middles drop into the ink.
"""
import math

INK = "#14181c"
CREAM, SIGNAL, LAMP, SEA, LICHEN, RUST = "#f4efe0", "#c8452a", "#e3b24b", "#3c7d8c", "#86a78d", "#8c5a3c"
out = []


def shape(path, fill, width=1.5):
    out.append(f'<path d="{path}" fill="{fill}" stroke="{INK}" stroke-width="{width}" stroke-linejoin="round"/>')


def ink(path, width=1.5):
    out.append(f'<path d="{path}" fill="none" stroke="{INK}" stroke-width="{width}" stroke-linecap="round" stroke-linejoin="round"/>')


def solid(path):
    out.append(f'<path d="{path}" fill="{INK}"/>')


def disc(x, y, r, fill, width=1.2):
    out.append(f'<circle cx="{x}" cy="{y}" r="{r}" fill="{fill}" stroke="{INK}" stroke-width="{width}"/>')


def gap(x, y, angle, length, width, colour):
    """Wipes a stretch of outline: the pen was lifted here."""
    out.append(f'<rect x="{-width / 2}" y="{-length / 2}" width="{width}" height="{length}" fill="{colour}" '
               f'transform="translate({x} {y}) rotate({angle})"/>')


FRAME = "M12 288 L12 100 A88 88 0 0 1 188 100 L188 288 Z"


def cloud(x, y, s):
    return (f"M{x} {y} c{-4*s} {-1*s} {-5*s} {-7*s} {1*s} {-8*s} c{0*s} {-6*s} {8*s} {-8*s} {11*s} {-3*s} "
            f"c{4*s} {-4*s} {11*s} {-1*s} {10*s} {4*s} c{6*s} {0*s} {6*s} {7*s} {0*s} {7*s} Z")


def wave(y, step, height, start):
    """A crest line from edge to edge: scallops that end in points."""
    path = f"M0 {y}"
    x = start
    path = f"M{x} {y}"
    while x < 200:
        path += f" q{step * 0.45} {-height * 1.3} {step} 0"
        x += step
    return path + " L200 300 L0 300 Z"


# Sky, moon and beams of light
shape("M0 0 H200 V300 H0 Z", LICHEN)
disc(52, 70, 13, CREAM)
ink("M46 64 q3 -3 7 -2", 1.0)
disc(48, 73, 2.2, CREAM, 0.9)
disc(57, 67, 1.5, CREAM, 0.9)
disc(55, 76, 1.0, CREAM, 0.9)
shape("M92 93 L-5 108 L-5 132 L92 100 Z", LAMP, 1.3)
shape("M108 93 L205 62 L205 92 L108 100 Z", LAMP, 1.3)

# Clouds; the second has a gap
shape(cloud(128, 56, 1.25), CREAM, 1.4)
shape(cloud(30, 148, 1.15), CREAM, 1.4)
gap(36.2, 132.3, -14.7, 3.2, 1.0, LICHEN)
shape(cloud(140, 128, 1.5), CREAM, 1.4)

# Stars: rings of many sizes, the smallest too small to keep
for x, y, r in [(70, 40, 2.4), (88, 30, 1.9), (112, 34, 1.5), (100, 52, 1.2), (78, 56, 1.0), (128, 76, 0.85), (36, 98, 0.8), (150, 104, 1.1), (62, 118, 0.78),
                (172, 150, 2.0), (30, 178, 1.3)]:
    disc(x, y, r, LAMP, 0.9)

# Gulls, solid ink
for x, y, s in [(152, 168, 1.0), (140, 152, 0.7), (64, 158, 0.8)]:
    solid(f"M{x} {y} q{4*s} {-6*s} {9*s} {-1*s} q{5*s} {-5*s} {9*s} {1*s} q{-5*s} {-2.2*s} {-9*s} {2.2*s} q{-4*s} {-4*s} {-9*s} {-2.2*s} Z")

# Rock behind the tower
shape("M40 250 L48 226 L60 219 L66 208 L82 204 L120 204 L136 210 L150 214 L158 226 L172 234 L176 250 Z", RUST, 1.7)
for crack in ["M48 226 L62 232 L66 208", "M62 232 L58 250", "M62 232 L90 226", "M112 226 L134 230 L136 210", "M134 230 L130 250", "M134 230 L158 226", "M158 226 L154 250"]:
    ink(crack, 1.2)

# Cottage
shape("M126 214 L126 192 L160 192 L160 216 Z", CREAM)
shape("M122 194 L131 178 L155 178 L164 194 Z", RUST)
shape("M148 178 L148 169 L154 169 L154 178 Z", SIGNAL, 1.3)
shape("M140 215 L140 202 Q144 197.5 148 202 L148 216 Z", SEA, 1.3)
for x in (129.5, 151.5):
    shape(f"M{x} 199 h6 v7 h-6 Z", LAMP, 1.1)
    ink(f"M{x + 3} 199 v7 M{x} 202.5 h6", 0.8)
for y in (183, 188):
    ink(f"M{131 - (y - 178) * 0.56} {y} L{155 + (y - 178) * 0.56} {y}", 0.9)

# Tower
left = lambda y: 84 + (238 - y) * 0.055
right = lambda y: 116 - (238 - y) * 0.055
bands = [112, 132, 152, 172, 192, 212, 236]
for i in range(len(bands) - 1):
    a, b = bands[i], bands[i + 1]
    shape(f"M{left(a)} {a} Q100 {a + 4} {right(a)} {a} L{right(b)} {b} Q100 {b + 4} {left(b)} {b} Z", SIGNAL if i % 2 else CREAM, 1.6)
shape("M94 240 L94 224 Q100 216 106 224 L106 240 Z", SEA, 1.4)
disc(103.6, 232, 0.9, LAMP, 0.7)
for y in (124, 163, 203):
    shape(f"M97.4 {y + 5} v-5 q2.6 -3.4 5.2 0 v5 Z", LAMP, 1.2)

# Gallery with its railing, lantern, roof
shape("M80 113 L120 113 L117 107.5 L83 107.5 Z", RUST)
shape("M82 107.5 L118 107.5 L118 100.5 L82 100.5 Z", LICHEN, 1.3)
for x in range(86, 118, 4):
    ink(f"M{x} 100.5 L{x} 107.5", 0.9)
shape("M90 107 L90 86 L110 86 L110 107 Z", LAMP)
ink("M96.6 86 L96.6 107 M103.4 86 L103.4 107 M90 96 L110 96", 1.2)
shape("M86 86.5 Q100 62 114 86.5 Z", SIGNAL)
ink("M100 74.2 L100 86", 1.0)
disc(100, 71, 2.2, LAMP, 1.1)
ink("M100 68.6 L100 62.5", 1.3)

# Sea in four bands; the second crest has a gap
for i, (y, step, height, start, colour) in enumerate([(240, 19, 8, -6, SEA), (252, 23, 9, -14, LICHEN), (265, 21, 9, -3, SEA), (278, 26, 10, -18, LICHEN)]):
    shape(wave(y, step, height, start), colour, 1.6)
    if i == 1:
        gap(88.9, 246.2, 0, 4, 1.2, SEA)
for x, y in [(48, 284.6), (168, 283.6), (104, 284.6)]:
    shape(f"M{x} {y} q7 -6.4 14 0 q-7 -1.6 -14 0 Z", CREAM, 1.0)

# A boat in front of the waves
shape("M26 243 L54 243 L49 251 L31 251 Z", SIGNAL)
shape("M40 243 L40 212 L53 243 Z", CREAM, 1.3)
shape("M38 243 L38 217 L28 243 Z", LAMP, 1.3)
ink("M39 243 L39 209", 1.4)

# Pebbles along the shore
for x, y, r in [(73.5, 237, 2.0), (79.6, 238, 1.4), (126, 236, 2.0), (131.5, 237, 1.2), (165, 238, 1.8), (120.5, 238, 0.9)]:
    disc(x, y, r, CREAM, 0.9)

body = "\n".join(out)
print(f'''<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="300mm" viewBox="0 0 200 300">
<defs><clipPath id="arch"><path d="{FRAME}"/></clipPath></defs>
<rect width="200" height="300" fill="#ffffff"/>
<g clip-path="url(#arch)">
{body}
</g>
<path d="{FRAME}" fill="none" stroke="{INK}" stroke-width="3.2" stroke-linejoin="round"/>
</svg>''')
