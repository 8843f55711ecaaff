#include "cli/commands.h"
#include "core/base/text.h"
#include "core/units/render.h"
#include "files/data_folder.h"
#include "files/man_page.h"
#include "files/text_cursor.h"
#include "files/whole_file.h"
#include <QGuiApplication>
#include <QLocale>
#include <algorithm>
#include <cmath>
#include <iostream>
#include <sstream>
#include <string_view>

namespace burin {

Catalogue shippedCatalogue() {
    return orBadInput(loadCatalogue(dataFolder() + "/catalogue"));
}

namespace {

bool finite(const OutJson& json) {
    if (json.is_structured())
        return std::all_of(json.begin(), json.end(),
                           [](const OutJson& part) { return finite(part); });
    return !json.is_number_float() || std::isfinite(json.get<double>());
}

void printTo(std::ostream& out, const OutJson& json) {
    if (!finite(json))
        throw BadInput{{alone(asTerm("the answer")),
                        0,
                        0,
                        {"command.figure-beyond-all", "a figure of it is beyond all numbers"},
                        {"cure.check-figures-question", "Check the figures of the question"}}};
    // Names may come from files of any encoding.
    out << spoken(json).dump(-1, ' ', false, OutJson::error_handler_t::replace) << "\n"
        << std::flush;
    if (!out)
        throw BadInput{
            {alone(asTerm("standard output")),
             0,
             0,
             {"command.does-not-take", "it does not take the answer"},
             {"cure.check-leads-room", "Check where it leads, and the room on the disk"}}};
}

} // namespace

void print(const OutJson& json) {
    printTo(std::cout, json);
}
void printBeside(const std::string& written, const OutJson& json) {
    printTo(isStandardOutput(written) ? std::cerr : std::cout, json);
}
void writeWhole(const std::string& path, const std::string& bytes,
                const std::vector<std::string>& inputs) {
    orBadInput(writeWholeFile(path, bytes, inputs));
}

double readNumber(const std::string& option, const std::string& text, const NumberRange& range) {
    double value = 0;
    if (wordToDouble(text, value) && value >= range.least && value <= range.most)
        return value;
    std::ostringstream wants;
    wants << option << " wants a number from " << range.least << " to " << range.most
          << (*range.unit == '\0' ? "" : " ") << range.unit << ", not “" << beginningOf(text, 60)
          << "”";
    throw WrongUse{wants.str()};
}

namespace {

/// The manual, made from what every command says of itself.
std::string manual(const CLI::App& app) {
    std::vector<burin::ManPart> parts{
        {"SYNOPSIS", "burin-cli COMMAND [OPTIONS]\nburin-cli COMMAND --help"},
        {"DESCRIPTION", "Findings about coax and copper links on standard output, as one line of "
                        "JSON.\nWhat is wrong is said on standard error: where, what, and what to "
                        "do."},
        {"COMMANDS", ""}};
    for (const CLI::App* command : app.get_subcommands([](const CLI::App*) { return true; }))
        parts.push_back({" " + command->get_name(), command->help("burin-cli")});
    parts.push_back({"EXIT STATUS", "0  done\n2  the command was not understood\n"
                                    "3  a file or a figure is not good"});
    parts.push_back({"SEE ALSO", "burin(1)"});
    return burin::manPage("burin-cli", "findings about coax and copper links as JSON",
                          BURIN_VERSION, parts);
}

} // namespace

} // namespace burin

// What is thrown before there are commands is our own mistake, or no memory is left.
int main(int argc, char** argv) { // NOLINT(bugprone-exception-escape)
    constexpr int wrongUse = 2;
    constexpr int badInput = 3;
    // Only what draws needs more than the core of Qt; nobody needs a display.
    const std::string_view command = argc > 1 ? argv[1] : "";
    std::unique_ptr<QCoreApplication> qt;
    const auto draws = {"plan", "picture", "pull", "labels", "materials", "days", "card"};
    if (std::find(draws.begin(), draws.end(), command) != draws.end()) {
        qputenv("QT_QPA_PLATFORM", "offscreen");
        qt = std::make_unique<QGuiApplication>(argc, argv);
    } else {
        qt = std::make_unique<QCoreApplication>(argc, argv);
    }
    QLocale::setDefault(QLocale::c()); // a script reads the same figures everywhere
    CLI::App app{"Burin: findings about coax and copper links as JSON"};
    app.require_subcommand(1);
    app.set_version_flag("--version", BURIN_VERSION);
    burin::addCatalogueCommands(app);
    burin::addJobCommands(app);
    burin::addLineCommands(app);
    burin::addSystemCommands(app);
    burin::addSiteCommands(app);
    burin::addHistoryCommands(app);
    burin::addFormatCommand(app);
    burin::addPullCommands(app);
    burin::addEndCommands(app);
    if (command == "--man") {
        std::cout << burin::manual(app);
        return 0;
    }
    try {
        app.parse(argc, argv);
        return 0;
    } catch (const CLI::Success& asked) {
        return app.exit(asked);
    } catch (const CLI::ParseError& error) {
        std::cerr << "burin-cli: " << error.what() << "\nTry burin-cli --help\n";
        return wrongUse;
    } catch (const burin::WrongUse& wrong) {
        std::cerr << "burin-cli: " << wrong.what << "\n";
        return wrongUse;
    } catch (const burin::BadInput& bad) {
        std::cerr << "burin-cli: " << render(bad.fault, {}) << "\n";
        return badInput;
    } catch (const std::exception& unexpected) {
        std::cerr << "burin-cli: " << unexpected.what() << "\n";
        return badInput;
    }
}
