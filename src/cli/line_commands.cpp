#include "cli/commands.h"
#include "core/line/chain_json.h"
#include "core/line/echo.h"
#include "core/units/units.h"
#include "files/measured_file.h"
#include "files/text_cursor.h"

namespace burin {
namespace {

std::vector<double> evenly(double from, double to, int points) {
    std::vector<double> out;
    out.reserve(static_cast<std::size_t>(points));
    for (int i = 0; i < points; ++i)
        out.push_back(points == 1 ? from : from + (to - from) * i / (points - 1));
    return out;
}

struct NetworkOptions {
    std::string chain, out;
    double fromMhz = 1, toMhz = 1000;
    int points = 1001;
};

void network(const NetworkOptions& options) {
    if (options.toMhz < options.fromMhz)
        throw WrongUse{"--to lies below --from"};
    const Chain chain = orBadInput(
        readChain(orBadInput(readWholeFile(options.chain)), options.chain, shippedCatalogue()));
    const NetworkSweep sweep =
        sweepOf(chain, evenly(options.fromMhz, options.toMhz, options.points));
    writeWhole(options.out, writeTouchstone(sweep, "Predicted by Burin from " + options.chain),
               {options.chain});
    double worstReturn = std::numeric_limits<double>::infinity();
    double mostLoss = 0;
    for (std::size_t k = 0; k < sweep.frequencyMhz.size(); ++k) {
        worstReturn = std::min(worstReturn, returnLossDb(sweep.at(k, 0, 0)));
        mostLoss = std::max(mostLoss, insertionLossDb(sweep.at(k, 1, 0)));
    }
    OutJson out = {{"written", options.out},
                   {"points", options.points},
                   {"referenceOhm", chain.referenceOhm},
                   {"highestInsertionLossDb", mostLoss}};
    if (std::isfinite(worstReturn))
        out["lowestReturnLossDb"] = worstReturn;
    printBeside(options.out, out);
}

struct EchoCommand {
    std::string file, cable;
    double velocity = 0, velocityError = 0, impedance = 0, length = 0;
    int port = 1;
    bool trace = false;
};

void echo(const EchoCommand& options) {
    const auto measured =
        orBadInput(readMeasuredFile(orBadInput(readWholeFile(options.file)), options.file, ""));
    if (!measured.sweep)
        throw BadInput{{named(options.file),
                        0,
                        0,
                        {"command.table-magnitudes-no", "a table of magnitudes has no echo in it"},
                        {"cure.bring-touchstone-file", "Bring a Touchstone file, with phase"}}};
    EchoOptions how;
    if (!options.cable.empty()) {
        const Catalogue catalogue = shippedCatalogue();
        how.line = lineOf(cableOf(catalogue, options.cable), catalogue.temperature);
        how.velocityMPerS = how.line->velocityMPerS;
    }
    if (options.velocity > 0)
        how.velocityMPerS = options.velocity * lightSpeedMPerS;
    else if (options.cable.empty())
        throw WrongUse{"give --velocity (a share such as 0.85) or --cable"};
    how.impedanceOhm = options.impedance;
    how.runM = options.length;
    if (options.velocityError > 0)
        how.velocityError = options.velocityError / 100;
    const EchoTrace trace = orBadInput(echoOf(*measured.sweep, options.port - 1, how));
    OutJson out = {{"velocity", how.velocityMPerS / lightSpeedMPerS},
                   {"rangeM", trace.rangeM},
                   {"resolutionM", trace.resolutionM},
                   {"peaks", OutJson::array()}};
    for (const auto& p : trace.peaks)
        out["peaks"].push_back({{"distanceM", p.distanceM},
                                {"plusMinusM", p.plusMinusM},
                                {"ofVelocityM", p.ofVelocityM},
                                {"reflection", p.reflection},
                                {"repeat", p.repeat}});
    if (!trace.notes.empty())
        out["notes"] = trace.notes;
    if (options.trace) {
        out["distanceM"] = trace.distanceM;
        out["impulse"] = trace.impulse;
        out["step"] = trace.step;
        out["impedanceOhm"] = trace.impedanceOhm;
    }
    print(out);
}

} // namespace

void addLineCommands(CLI::App& app) {
    auto networkOptions = std::make_shared<NetworkOptions>();
    auto* n = app.add_subcommand("network", "S-parameters of a chain, written as Touchstone");
    n->add_option("chain", networkOptions->chain, "CHAIN.json, see docs/cli.md")->required();
    addNumber(*n, "--from", networkOptions->fromMhz, megahertz, "lowest frequency");
    addNumber(*n, "--to", networkOptions->toMhz, megahertz, "highest frequency");
    n->add_option("--points", networkOptions->points)->check(CLI::Range(1, 1000000));
    n->add_option("--out", networkOptions->out, "FILE.s2p")->required();
    n->callback([networkOptions] { network(*networkOptions); });

    auto echoOptions = std::make_shared<EchoCommand>();
    auto* e = app.add_subcommand("echo", "where a measured sweep reflects");
    e->add_option("file", echoOptions->file, "FILE.s1p or .s2p")->required();
    addNumber(*e, "--velocity", echoOptions->velocity, {0.01, 1, ""}, "share of light's");
    e->add_option("--cable", echoOptions->cable, "cable id: its velocity and loss");
    addNumber(*e, "--velocity-error", echoOptions->velocityError, {0.05, 20, ""},
              "by how many per cent it may be off; 3 from cable to cable of a class");
    addNumber(*e, "--impedance", echoOptions->impedance, {10, 600, ""},
              "of the line, in ohm, where no cable is named");
    addNumber(*e, "--length", echoOptions->length, {0.1, 100000, ""}, "of the line, in metres");
    e->add_option("--port", echoOptions->port, "port looked into")->check(CLI::Range(1, 99));
    e->add_flag("--trace", echoOptions->trace, "the whole trace, not only its peaks");
    e->callback([echoOptions] { echo(*echoOptions); });
}

} // namespace burin
