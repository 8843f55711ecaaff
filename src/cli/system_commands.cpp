#include "cli/commands.h"
#include "core/bus/bus_json.h"
#include "core/coax/feedline.h"
#include "core/coax/tree_json.h"
#include "core/connector/fit.h"
#include "core/supply/supply.h"
#include "core/units/units.h"
#include "files/text_cursor.h"
#include <array>
#include <cstdio>

namespace burin {
namespace {

/// For files other programs read: no true minus signs.
std::string plainNumber(double value) {
    std::array<char, 32> text{};
    std::snprintf(text.data(), text.size(), "%.7g", value);
    return text.data();
}

struct SupplyOptions {
    std::string cable, at;
    double volts = 0, tolerance = 0, awg = 0, temperatureC = 20, least = 0;
    int pairs = 1;
    std::vector<std::string> loads;
};

/// "reader:90m:0.25A" or "lock:30m:5W".
SupplyLoad loadOf(const std::string& text, double leastV) {
    const auto first = text.find(':');
    const auto second = text.find(':', first == std::string::npos ? first : first + 1);
    double value = 0;
    const bool good =
        second != std::string::npos && text.size() > second + 2 &&
        wordToDouble(std::string_view(text).substr(second + 1, text.size() - second - 2), value);
    const char unit = text.empty() ? ' ' : text.back();
    if (!good || value < 0 || value > 1e5 || (unit != 'A' && unit != 'W'))
        throw WrongUse{"--load wants NAME:LENGTH:CURRENT_A or NAME:LENGTH:POWER_W, not “" + text +
                       "”"};
    SupplyLoad out;
    out.name = text.substr(0, first);
    out.atM = orBadInput(parseLengthM(text.substr(first + 1, second - first - 1)));
    (unit == 'A' ? out.ampere : out.watt) = value;
    out.leastV = leastV;
    return out;
}

void supply(const SupplyOptions& options) {
    const Catalogue catalogue = shippedCatalogue();
    SupplyLine line;
    line.supplyV = options.volts;
    line.toleranceShare = options.tolerance / 100;
    line.pairs = options.pairs;
    if (!options.cable.empty())
        line.loopOhmPerM = loopOhmPerM(cableOf(catalogue, options.cable), catalogue.temperature,
                                       options.temperatureC);
    else if (options.awg > 0)
        line.loopOhmPerM =
            2 * wireOhmPerM(options.awg) *
            (1 + catalogue.temperature.copperPerDegree.value * (options.temperatureC - 20));
    else
        throw WrongUse{"give --cable or --awg"};
    for (const auto& text : options.loads)
        line.loads.push_back(loadOf(text, options.least));
    const SupplyFinding finding = orBadInput(findSupply(line));
    OutJson out = {{"delivered", finding.delivered},
                   {"supplyAmpere", finding.supplyAmpere},
                   {"lostWatt", finding.lostWatt},
                   {"points", OutJson::array()}};
    for (const auto& p : finding.points)
        out["points"].push_back({{"name", p.name},
                                 {"atM", p.atM},
                                 {"volt", p.volt},
                                 {"ampere", p.ampere},
                                 {"enough", p.enough}});
    if (line.loads.size() == 1)
        if (const auto longest = longestSupplyM(line, line.loads[0]))
            out["longestM"] = *longest;
    print(out);
}

struct WarmthOptions {
    std::string cable, around = "air";
    int cables = 1, pairs = 4;
    double ampere = 0, ambientC = 20;
};

void warmth(const WarmthOptions& options) {
    const Catalogue catalogue = shippedCatalogue();
    const Cable& cable = cableOf(catalogue, options.cable);
    if (!cable.diameterMm)
        throw BadInput{{named(options.cable),
                        0,
                        0,
                        {"command.diameter-not-catalogue", "its diameter is not in the catalogue"},
                        {"cure.choose-cable-diameter", "Choose a cable with a diameter"}}};
    WarmthQuestion q;
    q.cables = options.cables;
    q.ampere = options.ampere;
    q.pairs = options.pairs;
    q.conductorOhmPerM = cable.conductorOhmPerKm.value / 1000;
    q.cableDiameterMm = cable.diameterMm->value;
    q.ambientC = options.ambientC;
    q.ratedC = catalogue.temperature.ratedC.value;
    q.copperPerDegree = catalogue.temperature.copperPerDegree.value;
    q.around = *surroundingsWords.find(options.around);
    const WarmthFinding f = findWarmth(q);
    print({{"estimate", true},
           {"heatWattPerM", f.wattPerM},
           {"riseC", f.riseC},
           {"cableC", f.cableC},
           {"attenuationFactor", warmthFactor(catalogue.temperature, cable.screen, f.cableC)},
           {"overRating", f.overRating},
           {"ratedC", q.ratedC}});
}

struct FeedlineOptions {
    std::string cable, length;
    double mhz = 0, watt = 0, ratio = 1, withstandV = 0, temperatureC = 20;
    std::vector<std::string> connections;
};

void feedline(const FeedlineOptions& options) {
    const Catalogue catalogue = shippedCatalogue();
    FeedlineQuestion q;
    q.link.cable = &cableOf(catalogue, options.cable);
    q.link.stretches = {{orBadInput(parseLengthM(options.length)), options.temperatureC}};
    addConnections(catalogue, options.connections, q.link);
    q.frequencyMhz = options.mhz;
    q.powerW = options.watt;
    q.loadRatio = options.ratio;
    q.impedanceOhm = q.link.cable->impedanceOhm.value;
    if (options.withstandV > 0)
        q.withstandV = options.withstandV;
    const FeedlineFinding f = orBadInput(findFeedline(q, catalogue));
    OutJson out = {{"matchedLossDb", f.matchedLossDb},
                   {"lossDb", f.lossDb},
                   {"powerAtAerialW", f.powerAtAerialW},
                   {"radioRatio", f.radioRatio},
                   {"peakV", f.peakV}};
    if (f.vouchedFullW)
        out["withstand"] = {{"halvedFirstW", *f.vouchedHalvedW}, {"asTestedW", *f.vouchedFullW}};
    out["changes"] = OutJson::array();
    for (const auto& c : feedlineChanges(q, catalogue)) {
        OutJson row = {{"what", c.what},
                       {"savedDb", c.savedDb},
                       {"powerAtAerialW", c.powerAtAerialW},
                       {"morePowerPercent", 100 * c.morePowerShare}};
        if (!c.cableId.empty())
            row["cable"] = c.cableId;
        out["changes"].push_back(row);
    }
    print(out);
}

void tree(const std::string& path, bool propose) {
    const Catalogue catalogue = shippedCatalogue();
    const Tree tree = orBadInput(readTree(orBadInput(readWholeFile(path)), path, catalogue));
    const TreeFinding f = orBadInput(findTree(tree, catalogue));
    OutJson out = toJson(f);
    if (propose)
        out["proposal"] = toJson(orBadInput(proposeTree(tree, catalogue)));
    print(out);
}

void bus(const std::string& path, const std::string& csv) {
    const Bus bus = orBadInput(readBus(orBadInput(readWholeFile(path)), path, shippedCatalogue()));
    const BusFinding f = orBadInput(findBus(bus));
    OutJson out = toJson(f);
    if (!csv.empty()) {
        std::string text = "timeNs";
        for (const auto& p : f.points)
            text += "," + p.name + " V";
        for (std::size_t t = 0; t < f.timeNs.size(); ++t) {
            text += "\n" + plainNumber(f.timeNs[t]);
            for (const auto& w : f.waves)
                text += "," + plainNumber(w.volt[t]);
        }
        writeWhole(csv, text + "\n", {path});
        out["written"] = csv;
    }
    printBeside(csv, out);
}

struct ConnectorOptions {
    std::string cable;
    double mhz = 0;
    bool outdoors = false;
};

void connectors(const ConnectorOptions& options) {
    const Catalogue catalogue = shippedCatalogue();
    const Cable& cable = cableOf(catalogue, options.cable);
    const double top = options.mhz > 0 ? options.mhz : cable.topMhz.value;
    const auto choices = connectorChoices(cable, top, options.outdoors, catalogue);
    OutJson out = {{"cable", cable.id}, {"mhz", top}, {"choices", OutJson::array()}};
    for (const auto& c : choices) {
        OutJson row = {{"connection", c.connection->id},
                       {"series", c.connection->fit->series},
                       {"school", c.connection->fit->school},
                       {"fits", c.fits},
                       {"lossDb", c.lossDb},
                       {"minutesAnEnd", c.minutes},
                       {"weather", weatherKey(c.connection->fit->weather)},
                       {"joint", c.connection->fit->joint},
                       {"tools", c.connection->fit->tools},
                       {"why", c.why},
                       {"points", OutJson::array()}};
        for (const auto& point : c.points)
            row["points"].push_back(
                {{"what", fitWords[point.of]}, {"good", point.good}, {"reason", point.reason}});
        out["choices"].push_back(row);
    }
    out["working"] = toJson(choiceWorking(cable, top, options.outdoors, choices));
    print(out);
}

} // namespace

void addSystemCommands(CLI::App& app) {
    auto s = std::make_shared<SupplyOptions>();
    auto* command = app.add_subcommand("supply", "volts at the loads of a supply line");
    addNumber(*command, "--volts", s->volts, {0.1, 1000, "V"}, "what the supply is set to")
        ->required();
    addNumber(*command, "--tolerance", s->tolerance, {0, 50, "%"}, "how much lower it may be");
    command->add_option("--cable", s->cable, "cable id");
    addNumber(*command, "--awg", s->awg, {4, 40, ""}, "or copper wire of this gauge");
    command->add_option("--pairs", s->pairs, "pairs in parallel")->check(CLI::Range(1, 100));
    addNumber(*command, "--temperature", s->temperatureC, degreesC, "of the copper");
    addNumber(*command, "--least", s->least, {0, 1000, "V"}, "what a load needs");
    command->add_option("--load", s->loads, "NAME:LENGTH:0.25A or NAME:LENGTH:5W")->required();
    command->callback([s] { supply(*s); });

    auto w = std::make_shared<WarmthOptions>();
    command = app.add_subcommand("warmth", "how warm a bundle of powered cables gets: an estimate");
    command->add_option("--cable", w->cable, "cable id")->required();
    command->add_option("--cables", w->cables, "in the bundle")
        ->required()
        ->check(CLI::Range(1, 10000));
    addNumber(*command, "--ampere", w->ampere, {0, 100, "A"}, "of one cable")->required();
    command->add_option("--pairs", w->pairs, "that carry it")->check(CLI::IsMember({2, 4}));
    addNumber(*command, "--ambient", w->ambientC, degreesC, "air around the bundle");
    command->add_option("--around", w->around)
        ->check(CLI::IsMember({"air", "conduit", "insulation"}));
    command->callback([w] { warmth(*w); });

    auto f = std::make_shared<FeedlineOptions>();
    command = app.add_subcommand("feedline", "power at the aerial, SWR at the radio, peak volts");
    command->add_option("--cable", f->cable, "cable id")->required();
    command->add_option("--length", f->length)->required();
    command->add_option("--connection", f->connections, "ID or ID:COUNT");
    addNumber(*command, "--mhz", f->mhz, megahertz, "frequency")->required();
    addNumber(*command, "--watt", f->watt, {1e-6, 1e6, "W"}, "into the line")->required();
    addNumber(*command, "--swr", f->ratio, {1, 1000, ""}, "of the aerial, at the aerial");
    addNumber(*command, "--withstand", f->withstandV, {1, 1e6, "V"}, "an insulation test held");
    addNumber(*command, "--temperature", f->temperatureC, degreesC, "around the line");
    command->callback([f] { feedline(*f); });

    auto plug = std::make_shared<ConnectorOptions>();
    command = app.add_subcommand("connectors", "which connector fits a cable, and why");
    command->add_option("--cable", plug->cable, "cable id")->required();
    addNumber(*command, "--mhz", plug->mhz, megahertz,
              "highest frequency; else the top of the cable's band");
    command->add_flag("--outdoors", plug->outdoors, "where weather reaches it");
    command->callback([plug] { connectors(*plug); });

    auto file = std::make_shared<std::string>();
    auto propose = std::make_shared<bool>(false);
    command = app.add_subcommand("tree", "levels of a coax distribution");
    command->add_option("tree", *file, "TREE.json, see docs/cli.md")->required();
    command->add_flag("--propose", *propose, "amplifier and taps that bring all into their window");
    command->callback([file, propose] { tree(*file, *propose); });

    auto busFile = std::make_shared<std::string>();
    auto csv = std::make_shared<std::string>();
    command = app.add_subcommand("bus", "waveforms of a two-wire bus");
    command->add_option("bus", *busFile, "BUS.json, see docs/cli.md")->required();
    command->add_option("--out", *csv, "waveforms as CSV");
    command->callback([busFile, csv] { bus(*busFile, *csv); });
}

} // namespace burin
