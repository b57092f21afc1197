// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Options.h"

#include <gtest/gtest.h>

namespace thinline::batch {
namespace {

const CommandSpec kSpec{"fold",
                        "IN.svg",
                        "Folds.",
                        {{"--depth", "LENGTH", "How deep.", "2mm", false},
                         {"--quick", "", "No waiting.", "", false},
                         {"--out", "DIR", "Where to.", "", true}}};

TEST(Options, DefaultsAreFilledInAndValuesComeInBothSpellings) {
    const auto a = parseOptions(kSpec, {"x.svg", "--out", "there"});
    ASSERT_TRUE(a);
    EXPECT_EQ(a->operand, "x.svg");
    EXPECT_EQ((*a)["--depth"], "2mm");
    EXPECT_FALSE(a->has("--quick"));
    const auto b = parseOptions(kSpec, {"--out=there", "--depth=", "--quick", "x.svg"});
    ASSERT_TRUE(b);
    EXPECT_EQ((*b)["--depth"], "");
    EXPECT_EQ((*b)["--quick"], "yes");
    const auto c = parseOptions(kSpec, {"x.svg", "--out", "a", "--out", "b"});
    EXPECT_EQ((*c)["--out"], "b") << "the last one counts";
}

TEST(Options, MistakesNameTheArgumentAndTheWayToHelp) {
    const std::pair<std::vector<std::string>, const char*> rows[] = {
        {{"--out", "a"}, "The file is missing: IN.svg."},
        {{"x.svg"}, "The option --out is missing."},
        {{"x.svg", "--out"}, "The option --out needs a value (DIR)."},
        {{"x.svg", "--quick=now", "--out", "a"}, "The option --quick takes no value."},
        {{"x.svg", "--speed", "9"}, "There is no option --speed."},
        {{"x.svg", "y.svg"}, "There is one argument too many: 'y.svg'."},
    };
    for (const auto& [arguments, says] : rows) {
        const auto out = parseOptions(kSpec, arguments);
        ASSERT_FALSE(out) << says;
        EXPECT_EQ(out.error().message, std::string(says) + " See thinline-batch fold --help.");
    }
}

TEST(Options, HelpStatesDefaultsAndWhatMustBeGiven) {
    const std::string help = helpText(kSpec);
    EXPECT_NE(help.find("Usage: thinline-batch fold IN.svg [--depth LENGTH] [--quick] --out DIR"),
              std::string::npos)
        << help;
    EXPECT_NE(help.find("How deep. Default: 2mm."), std::string::npos);
    EXPECT_NE(help.find("Where to. Must be given."), std::string::npos);
}

} // namespace
} // namespace thinline::batch
