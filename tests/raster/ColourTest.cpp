// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Colour.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace thinline::raster {
namespace {

// G. Sharma, W. Wu, E. N. Dalal, 2005, table 1: the published pairs that try every branch of the formula.
struct Pair {
    Lab a, b;
    double distance;
};
constexpr Pair kPairs[] = {
    {{50.0000, 2.6772, -79.7751}, {50.0000, 0.0000, -82.7485}, 2.0425},
    {{50.0000, 3.1571, -77.2803}, {50.0000, 0.0000, -82.7485}, 2.8615},
    {{50.0000, 2.8361, -74.0200}, {50.0000, 0.0000, -82.7485}, 3.4412},
    {{50.0000, -1.3802, -84.2814}, {50.0000, 0.0000, -82.7485}, 1.0000},
    {{50.0000, -1.1848, -84.8006}, {50.0000, 0.0000, -82.7485}, 1.0000},
    {{50.0000, -0.9009, -85.5211}, {50.0000, 0.0000, -82.7485}, 1.0000},
    {{50.0000, 0.0000, 0.0000}, {50.0000, -1.0000, 2.0000}, 2.3669},
    {{50.0000, -1.0000, 2.0000}, {50.0000, 0.0000, 0.0000}, 2.3669},
    {{50.0000, 2.4900, -0.0010}, {50.0000, -2.4900, 0.0009}, 7.1792},
    {{50.0000, 2.4900, -0.0010}, {50.0000, -2.4900, 0.0010}, 7.1792},
    {{50.0000, 2.4900, -0.0010}, {50.0000, -2.4900, 0.0011}, 7.2195},
    {{50.0000, 2.4900, -0.0010}, {50.0000, -2.4900, 0.0012}, 7.2195},
    {{50.0000, -0.0010, 2.4900}, {50.0000, 0.0009, -2.4900}, 4.8045},
    {{50.0000, -0.0010, 2.4900}, {50.0000, 0.0010, -2.4900}, 4.8045},
    {{50.0000, -0.0010, 2.4900}, {50.0000, 0.0011, -2.4900}, 4.7461},
    {{50.0000, 2.5000, 0.0000}, {50.0000, 0.0000, -2.5000}, 4.3065},
    {{50.0000, 2.5000, 0.0000}, {73.0000, 25.0000, -18.0000}, 27.1492},
    {{50.0000, 2.5000, 0.0000}, {61.0000, -5.0000, 29.0000}, 22.8977},
    {{50.0000, 2.5000, 0.0000}, {56.0000, -27.0000, -3.0000}, 31.9030},
    {{50.0000, 2.5000, 0.0000}, {58.0000, 24.0000, 15.0000}, 19.4535},
    {{50.0000, 2.5000, 0.0000}, {50.0000, 3.1736, 0.5854}, 1.0000},
    {{50.0000, 2.5000, 0.0000}, {50.0000, 3.2972, 0.0000}, 1.0000},
    {{50.0000, 2.5000, 0.0000}, {50.0000, 1.8634, 0.5757}, 1.0000},
    {{50.0000, 2.5000, 0.0000}, {50.0000, 3.2592, 0.3350}, 1.0000},
    {{60.2574, -34.0099, 36.2677}, {60.4626, -34.1751, 39.4387}, 1.2644},
    {{63.0109, -31.0961, -5.8663}, {62.8187, -29.7946, -4.0864}, 1.2630},
    {{61.2901, 3.7196, -5.3901}, {61.4292, 2.2480, -4.9620}, 1.8731},
    {{35.0831, -44.1164, 3.7933}, {35.0232, -40.0716, 1.5901}, 1.8645},
    {{22.7233, 20.0904, -46.6940}, {23.0331, 14.9730, -42.5619}, 2.0373},
    {{36.4612, 47.8580, 18.3852}, {36.2715, 50.5065, 21.2231}, 1.4146},
    {{90.8027, -2.0831, 1.4410}, {91.1528, -1.6435, 0.0447}, 1.4441},
    {{90.9257, -0.5406, -0.9208}, {88.6381, -0.8985, -0.7239}, 1.5381},
    {{6.7747, -0.2908, -2.4247}, {5.8714, -0.0985, -2.2286}, 0.6377},
    {{2.0776, 0.0795, -1.1350}, {0.9033, -0.0636, -0.5514}, 0.9082},
};

TEST(Ciede2000, AgreesWithThePublishedPairsBothWays) {
    EXPECT_EQ(std::size(kPairs), 34u);
    for (const Pair& pair : kPairs) {
        EXPECT_NEAR(ciede2000(pair.a, pair.b), pair.distance, 5e-5);
        EXPECT_NEAR(ciede2000(pair.b, pair.a), pair.distance, 5e-5);
    }
}

// IEC 61966-2-1: the linear part below 0.04045, the power above, and the two meet.
TEST(Srgb, TheTransferFunctionIsThePublishedOne) {
    EXPECT_DOUBLE_EQ(linearOf(0), 0);
    EXPECT_DOUBLE_EQ(linearOf(1), 1);
    EXPECT_NEAR(linearOf(0.04), 0.04 / 12.92, 1e-12);
    EXPECT_NEAR(linearOf(0.5), 0.21404114, 1e-8);
    EXPECT_NEAR(linearOf(0.04045), linearOf(0.040451), 1e-6);
    for (int v = 0; v <= 255; ++v)
        EXPECT_NEAR(codedOf(linearOf(v / 255.0)), v / 255.0, 1e-6);
}

TEST(Lab, WhiteBlackAndThePrimariesLieWhereTheyAreKnownTo) {
    // CIE Lab (D65) of the sRGB primaries, as commonly tabulated.
    const struct {
        Rgb rgb;
        Lab lab;
    } rows[] = {{{255, 255, 255}, {100, 0, 0}},
                {{0, 0, 0}, {0, 0, 0}},
                {{255, 0, 0}, {53.24, 80.09, 67.20}},
                {{0, 255, 0}, {87.73, -86.18, 83.18}},
                {{0, 0, 255}, {32.30, 79.19, -107.86}}};
    for (const auto& row : rows) {
        const Lab lab = labOf(row.rgb);
        EXPECT_NEAR(lab.l, row.lab.l, 0.02);
        EXPECT_NEAR(lab.a, row.lab.a, 0.02);
        EXPECT_NEAR(lab.b, row.lab.b, 0.02);
    }
}

// Colours whose names are published: CSS Color Module Level 4, section 6.1. Where it has a name of its own for a shade,
// ours says what anybody would call it.
TEST(ColourWords, AreWhatAnybodyWouldSay) {
    const std::pair<Rgb, const char*> rows[] = {
        {{0, 0, 0}, "black"},           {{255, 255, 255}, "white"},
        {{128, 128, 128}, "grey"},      {{211, 211, 211}, "light grey"},
        {{255, 0, 0}, "red"},           {{128, 0, 0}, "dark red"},
        {{250, 128, 114}, "salmon"},    {{255, 165, 0}, "orange"},
        {{255, 215, 0}, "warm yellow"}, {{255, 255, 0}, "yellow"},
        {{128, 128, 0}, "olive"},       {{0, 128, 0}, "green"},
        {{0, 100, 0}, "dark green"},    {{144, 238, 144}, "light green"},
        {{0, 128, 128}, "teal"},        {{0, 0, 255}, "blue"},
        {{0, 0, 128}, "dark blue"},     {{135, 206, 235}, "light blue"},
        {{128, 0, 128}, "violet"},      {{255, 192, 203}, "pink"},
        {{139, 69, 19}, "brown"},       {{210, 180, 140}, "sand"},
        {{245, 245, 220}, "cream"},     {{20, 24, 28}, "black"},
    };
    for (const auto& [colour, word] : rows)
        EXPECT_EQ(colourWords(colour), word)
            << int(colour[0]) << " " << int(colour[1]) << " " << int(colour[2]);
}

} // namespace
} // namespace thinline::raster
