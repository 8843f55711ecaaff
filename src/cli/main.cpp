#include "cli/commands.h"
#include "files/data_folder.h"
#include <QCoreApplication>
#include <iostream>

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
    const QCoreApplication qt(argc, argv);
    CLI::App app{"Burin: findings about coax and copper links as JSON"};
    app.require_subcommand(1);
    app.set_version_flag("--version", BURIN_VERSION);
    burin::addCatalogueCommands(app);
    burin::addJobCommands(app);
    burin::addLineCommands(app);
    burin::addSystemCommands(app);
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
