// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Commands.h"

#include "batch/JobCommands.h"
#include "batch/PlainText.h"
#include "batch/ShapeCommands.h"

namespace thinline::batch {
namespace {

std::vector<Command> commands() {
    std::vector<Command> all = traceCommands();
    for (const auto& more :
         {handworkCommands(), sourceCommands(), constructCommands(), stepCommands(), foldCommands(), motifCommands(),
          panelCommands(), relationCommands(), placeCommands(), stockCommands(), showCommands(),
          sizeCommands(), splitCommands(), sheetCommands(), cutCommands(), assemblyCommands(),
          printCommands(), logCommands(), shapeCommands()})
        all.insert(all.end(), more.begin(), more.end());
    return all;
}

std::string overallHelp() {
    std::string out = "Thin Line turns drawings into pieces of card for a knife cutter.\n\nUsage: "
                      "thinline-batch COMMAND ...\n\n";
    for (const Command& command : commands()) {
        std::string name = "  " + command.spec.name;
        name.resize(12, ' ');
        out += name + command.spec.summary + "\n";
    }
    return out + "\nthinline-batch COMMAND --help tells the rest.\n";
}

int called(const std::vector<std::string>& arguments, base::FileStore& store, const base::FontStore& fonts,
           const base::PageReader& pages, const std::string& demoFolder, std::ostream& out,
           std::ostream& err) {
    if (arguments.empty() || arguments[0] == "--help" || arguments[0] == "-h") {
        (arguments.empty() ? err : out) << overallHelp();
        return arguments.empty() ? kBadCall : kDone;
    }
    for (const Command& command : commands()) {
        if (command.spec.name != arguments[0])
            continue;
        const std::vector<std::string> rest(arguments.begin() + 1, arguments.end());
        for (const std::string& word : rest)
            if (word == "--help" || word == "-h") {
                out << helpText(command.spec);
                return kDone;
            }
        const auto options = parseOptions(command.spec, rest);
        if (!options) {
            err << "thinline-batch: " << options.error().message << "\n";
            return kBadCall;
        }
        Session session{store, fonts, pages, demoFolder, out};
        const base::Status status = command.call(session, *options);
        if (!status) {
            err << "thinline-batch: " << status.error().message << "\n";
            return status.error().code == base::Code::InvalidArgument ? kBadCall : kFailed;
        }
        return kDone;
    }
    err << "thinline-batch: There is no command '" << arguments[0] << "'. See thinline-batch --help.\n";
    return kBadCall;
}

} // namespace

int run(const std::vector<std::string>& arguments, base::FileStore& store, const base::FontStore& fonts,
        const base::PageReader& pages, const std::string& demoFolder, std::ostream& out, std::ostream& err) {
    PlainText plainOut(out.rdbuf()), plainErr(err.rdbuf());
    std::ostream shownOut(&plainOut), shownErr(&plainErr);
    return called(arguments, store, fonts, pages, demoFolder, shownOut, shownErr);
}

} // namespace thinline::batch
