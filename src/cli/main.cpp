#include "cli/commands.h"
#include "files/data_folder.h"
#include <QGuiApplication>
#include <iostream>
#include <string_view>

namespace burin {

Catalogue shippedCatalogue() {
    return orBadInput(loadCatalogue(dataFolder() + "/catalogue"));
}
void print(const OutJson& json) {
    std::cout << json.dump() << "\n";
}

} // namespace burin

int main(int argc, char** argv) {
    constexpr int wrongUse = 2;
    constexpr int badInput = 3;
    // Only what draws needs more than the core of Qt; nobody needs a display.
    const std::string_view command = argc > 1 ? argv[1] : "";
    std::unique_ptr<QCoreApplication> qt;
    if (command == "plan" || command == "picture") {
        qputenv("QT_QPA_PLATFORM", "offscreen");
        qt = std::make_unique<QGuiApplication>(argc, argv);
    } else {
        qt = std::make_unique<QCoreApplication>(argc, argv);
    }
    CLI::App app{"Burin: findings about coax and copper links as JSON"};
    app.require_subcommand(1);
    app.set_version_flag("--version", BURIN_VERSION);
    burin::addCatalogueCommands(app);
    burin::addJobCommands(app);
    burin::addLineCommands(app);
    burin::addSystemCommands(app);
    burin::addSiteCommands(app);
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
        std::cerr << "burin-cli: " << bad.fault.text() << "\n";
        return badInput;
    } catch (const std::exception& unexpected) {
        std::cerr << "burin-cli: " << unexpected.what() << "\n";
        return badInput;
    }
}
