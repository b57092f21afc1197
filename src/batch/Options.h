// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"

#include <map>
#include <string>
#include <vector>

namespace thinline::batch {

/// One option of a command: declared once, for the parser and for --help alike.
struct OptionSpec {
    std::string name;  ///< "--width"
    std::string value; ///< "LENGTH"; empty for a switch
    std::string help;
    std::string fallback; ///< the default as text; empty when there is none
    bool isRequired = false;
};

struct CommandSpec {
    std::string name;
    std::string operand; ///< "IN.png"; empty when it takes none
    std::string summary;
    std::vector<OptionSpec> options;
    bool takesMore = false; ///< further files may follow the first
};

struct Options {
    std::string operand;
    std::vector<std::string> more;             ///< the files after the first
    std::map<std::string, std::string> values; ///< by name, defaults filled in; a given switch is "yes"

    bool has(const std::string& name) const { return values.contains(name); }
    const std::string& operator[](const std::string& name) const { return values.at(name); }
};

/// Returns the arguments after the command's name, sorted out.
/// Errors: InvalidArgument naming the argument and the way to --help.
base::Result<Options> parseOptions(const CommandSpec& spec, const std::vector<std::string>& arguments);

/// Returns the --help page of a command.
std::string helpText(const CommandSpec& spec);

} // namespace thinline::batch
