// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Options.h"

#include <algorithm>

namespace thinline::batch {
namespace {

base::Error usage(const CommandSpec& spec, const std::string& what) {
    return {base::Code::InvalidArgument, what + " See thinline-batch " + spec.name + " --help."};
}

} // namespace

base::Result<Options> parseOptions(const CommandSpec& spec, const std::vector<std::string>& arguments) {
    Options out;
    for (const OptionSpec& option : spec.options)
        if (!option.fallback.empty())
            out.values[option.name] = option.fallback;
    for (size_t i = 0; i < arguments.size(); ++i) {
        const std::string& word = arguments[i];
        if (word.rfind("--", 0) != 0) {
            if (spec.operand.empty() || (!out.operand.empty() && !spec.takesMore))
                return usage(spec, "There is one argument too many: '" + word + "'.");
            if (out.operand.empty())
                out.operand = word;
            else
                out.more.push_back(word);
            continue;
        }
        const auto equals = word.find('=');
        const std::string name = word.substr(0, equals);
        const auto option = std::find_if(spec.options.begin(), spec.options.end(),
                                         [&](const OptionSpec& o) { return o.name == name; });
        if (option == spec.options.end())
            return usage(spec, "There is no option " + name + ".");
        if (option->value.empty()) {
            if (equals != std::string::npos)
                return usage(spec, "The option " + name + " takes no value.");
            out.values[name] = "yes";
        } else if (equals != std::string::npos) {
            out.values[name] = word.substr(equals + 1);
        } else if (i + 1 < arguments.size()) {
            out.values[name] = arguments[++i];
        } else {
            return usage(spec, "The option " + name + " needs a value (" + option->value + ").");
        }
    }
    if (!spec.operand.empty() && out.operand.empty())
        return usage(spec, "The file is missing: " + spec.operand + ".");
    for (const OptionSpec& option : spec.options)
        if (option.isRequired && !out.has(option.name))
            return usage(spec, "The option " + option.name + " is missing.");
    return out;
}

std::string helpText(const CommandSpec& spec) {
    std::string out = "Usage: thinline-batch " + spec.name;
    if (!spec.operand.empty())
        out += " " + spec.operand;
    for (const OptionSpec& o : spec.options) {
        const std::string text = o.value.empty() ? o.name : o.name + " " + o.value;
        out += o.isRequired ? " " + text : " [" + text + "]";
    }
    out += "\n\n" + spec.summary + "\n\n";
    for (const OptionSpec& o : spec.options) {
        std::string left = "  " + o.name + (o.value.empty() ? "" : " " + o.value);
        left.resize(std::max<size_t>(left.size() + 2, 26), ' ');
        out += left + o.help;
        if (!o.fallback.empty())
            out += " Default: " + o.fallback + ".";
        else if (o.isRequired)
            out += " Must be given.";
        out += "\n";
    }
    return out + "\nExit codes: 0 done, 1 the work failed (one line on standard error says why), 2 the call "
                 "was wrong.\n";
}

} // namespace thinline::batch
