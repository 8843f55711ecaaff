#include "cli/commands.h"
#include "core/units/render.h"
#include "core/units/units.h"
#include "files/measured_file.h"
#include "files/text_cursor.h"
#include <cmath>
#include <numbers>
#include <sstream>

namespace burin {
namespace {

/// Options shared by `loss` and `reach`.
struct LinkOptions {
    std::string cable, length;
    double temperatureC = 20;
    std::vector<std::string> cords, connections;
    bool warmthGiven = false;
};

void addLinkOptions(CLI::App& command, LinkOptions& options) {
    command.add_option("--cable", options.cable, "cable id, see `cables`")->required();
    addNumber(command, "--temperature", options.temperatureC, degreesC, "around the fixed cable");
    command.add_option("--cord", options.cords,
                       "cord as ID:LENGTH or ID:LENGTH:26awg, any number of times");
    command.add_option("--connection", options.connections,
                       "mated connections as ID or ID:COUNT, any number of times");
}

tl::unexpected<Fault> unknown(const std::string& kind, const std::string& id) {
    return refuse(sentence({"where.said", "{0} {1}"}, kind, id),
                  sentence({"catalogue.no-catalogue", "no such {0} in the catalogue"}, kind),
                  sentence({"cure.list-burin-cli", "List them with burin-cli {0}s"}, kind));
}

LinkParts linkOf(const Catalogue& catalogue, const LinkOptions& options) {
    LinkParts out;
    out.cable = &cableOf(catalogue, options.cable);
    for (const auto& text : options.cords) {
        const auto colon = text.find(':');
        if (colon == std::string::npos)
            throw WrongUse{"--cord wants ID:LENGTH, not “" + text + "”"};
        std::string length = text.substr(colon + 1);
        bool thin = false;
        if (const auto second = length.find(':'); second != std::string::npos) {
            const std::string gauge = length.substr(second + 1);
            if (gauge != "26awg" && gauge != "24awg")
                throw WrongUse{"--cord gauge is 24awg or 26awg, not “" + gauge + "”"};
            thin = gauge == "26awg";
            length.resize(second);
        }
        out.cords.push_back(
            {&cableOf(catalogue, text.substr(0, colon)), orBadInput(parseLengthM(length)), thin});
    }
    addConnections(catalogue, options.connections, out);
    return out;
}

std::vector<double> frequencies(const std::string& list) {
    std::vector<double> out;
    std::stringstream in(list);
    for (std::string word; std::getline(in, word, ',');) {
        double f = 0;
        if (!wordToDouble(word, f) || f < megahertz.least || f > megahertz.most)
            throw BadInput{
                {named("--at"),
                 0,
                 0,
                 sentence({"catalogue.no-frequency-mhz",
                           "“{0}” is no frequency from 0.000001 to 1000000 MHz"},
                          word),
                 {"cure.give-mhz-separated", "Give MHz separated by commas: 1,100,250"}}};
        out.push_back(f);
    }
    if (out.empty())
        throw WrongUse{"--at wants frequencies in MHz"};
    return out;
}

OutJson figureJson(const Figure& figure) {
    return {{"value", figure.value}, {"source", figure.source}};
}

void cables() {
    OutJson out;
    out["cables"] = OutJson::array();
    for (const auto& c : shippedCatalogue().cables) {
        OutJson row = {{"id", c.id},
                       {"name", c.name},
                       {"kind", c.kind == CableKind::Balanced ? "balanced" : "coax"}};
        if (c.kind == CableKind::Balanced)
            row["category"] = categoryKey(c.category);
        row["k0Db"] = figureJson(c.attenuation.k0Db);
        row["k1Db"] = figureJson(c.attenuation.k1Db);
        row["k2Db"] = figureJson(c.attenuation.k2Db);
        row["k3Db"] = figureJson(c.attenuation.k3Db);
        row["topMhz"] = figureJson(c.topMhz);
        row["impedanceOhm"] = figureJson(c.impedanceOhm);
        row["nvp"] = figureJson(c.nvp);
        row["conductorOhmPerKm"] = figureJson(c.conductorOhmPerKm);
        const auto optional = [&](const char* key, const std::optional<Figure>& figure) {
            if (figure)
                row[key] = figureJson(*figure);
        };
        optional("shieldOhmPerKm", c.shieldOhmPerKm);
        optional("conductorAwg", c.conductorAwg);
        optional("diameterMm", c.diameterMm);
        optional("massKgPer100m", c.massKgPer100m);
        optional("pullN", c.pullN);
        out["cables"].push_back(row);
    }
    print(out);
}

void connections() {
    OutJson out;
    out["connections"] = OutJson::array();
    for (const auto& c : shippedCatalogue().connections) {
        OutJson row = {{"id", c.id},
                       {"name", c.name},
                       {"kind", c.kind == CableKind::Balanced ? "balanced" : "coax"}};
        if (c.kind == CableKind::Balanced) {
            row["category"] = categoryKey(c.category);
            row["flatDb"] = figureJson(c.flatDb);
            row["perSqrtMhzDb"] = figureJson(c.perSqrtMhzDb);
        } else {
            row["at1GhzDb"] = figureJson(c.at1GhzDb);
            row["ceilingMhz"] = figureJson(*c.ceilingMhz);
            if (c.impedanceOhm)
                row["impedanceOhm"] = figureJson(*c.impedanceOhm);
        }
        out["connections"].push_back(row);
    }
    print(out);
}

void services() {
    OutJson out;
    out["services"] = OutJson::array();
    for (const auto& s : shippedCatalogue().services) {
        OutJson row = {{"id", s.id}, {"name", s.name}, {"source", s.source}};
        row["kinds"] = OutJson::array();
        for (const auto kind : s.kinds)
            row["kinds"].push_back(kind == CableKind::Balanced ? "balanced" : "coax");
        if (s.pairs > 0)
            row["pairs"] = s.pairs;
        if (s.needsCategory)
            row["needsCategory"] = categoryKey(*s.needsCategory);
        if (!s.limitClassIso.empty())
            row["limit"] = {
                {"iso", s.limitClassIso}, {"tia", s.limitClassTia}, {"topMhz", s.limitTopMhz}};
        if (s.maxChannelM)
            row["channelM"] = *s.maxChannelM;
        out["services"].push_back(row);
    }
    print(out);
}

void limits() {
    OutJson out;
    out["limits"] = OutJson::array();
    for (const auto& l : shippedCatalogue().limits)
        out["limits"].push_back({{"set", limitSetWords[l.set]},
                                 {"class", l.className},
                                 {"link", linkKindWords[l.link]},
                                 {"parameter", parameterKey(l.parameter)},
                                 {"unit", l.unit},
                                 {"fromMhz", l.fromMhz()},
                                 {"toMhz", l.toMhz()},
                                 {"formula", render(l.formulaAt(l.toMhz()), {})},
                                 {"source", l.source}});
    print(out);
}

void loss(const LinkOptions& options, const std::string& at) {
    const Catalogue catalogue = shippedCatalogue();
    LinkParts link = linkOf(catalogue, options);
    link.stretches = {{orBadInput(parseLengthM(options.length)), options.temperatureC}};
    OutJson out;
    out["points"] = OutJson::array();
    for (const double f : frequencies(at)) {
        OutJson point = {{"frequencyMhz", f}, {"lossDb", linkLoss(link, catalogue, f).totalDb()}};
        if (f > link.cable->topMhz.value)
            point["extrapolated"] = true;
        out["points"].push_back(point);
    }
    print(out);
}

struct LimitOptions {
    std::string set = "iso", className, link = "channel", parameter, at = "1";
    double loopOhm = 0;
};

void limit(const LimitOptions& options) {
    const Catalogue catalogue = shippedCatalogue();
    const LimitSet set = *limitSetWords.find(options.set);
    std::string name = options.className;
    // Either set may be asked by class or by category: EA, cat6a and 6A mean the same part.
    std::string key = name;
    if (key.size() > 3 && (key.starts_with("cat") || key.starts_with("Cat")))
        key = key.substr(3);
    if (!key.empty() && key.back() == 'a')
        key.back() = 'A';
    if (const auto category = categoryFromKey(key))
        name = className(set, *category);
    else if (set == LimitSet::Tia)
        for (const char* each : {"5e", "6", "6A"})
            if (className(LimitSet::Iso, *categoryFromKey(each)) == options.className)
                name = className(set, *categoryFromKey(each));
    const auto parameter = parameterFromKey(options.parameter);
    if (!parameter)
        throw WrongUse{"--parameter “" + options.parameter + "” is not known"};
    const Limit* found = catalogue.limit(set, name, *linkKindWords.find(options.link), *parameter);
    if (found == nullptr)
        throw BadInput{
            {alone(asTerm("limit")),
             0,
             0,
             sentence({"catalogue.no-limit-catalogue",
                       "no limit in the catalogue for {0} of {1} {2} {3}"},
                      options.parameter, options.set, options.className, options.link),
             {"cure.list-burin-cli-limits", "List what there is with burin-cli limits"}}};
    OutJson out;
    out["points"] = OutJson::array();
    for (const double f : frequencies(options.at)) {
        const auto value = found->at(f, options.loopOhm);
        OutJson point = {{"frequencyMhz", f}};
        if (value) {
            point["limit"] = *value;
            point["unit"] = found->unit;
        } else {
            point["limit"] = nullptr;
            point["reason"] = "no limit in the catalogue at this frequency";
        }
        out["points"].push_back(point);
    }
    print(out);
}

struct ReachOptions {
    LinkOptions link;
    std::string service, set = "iso", school = "guideline";
    int neighbours = 0;
    std::optional<double> headLevel, lossBudgetDb, bandFromMhz, bandToMhz;
    bool working = false;
};

void reach(const ReachOptions& options) {
    const Catalogue catalogue = shippedCatalogue();
    ReachQuestion q;
    q.link = linkOf(catalogue, options.link);
    q.link.stretches = {{100, options.link.temperatureC}};
    q.service = catalogue.service(options.service);
    if (q.service == nullptr)
        throw BadInput{unknown("service", options.service).value()};
    q.set = *limitSetWords.find(options.set);
    q.school = *bundleSchoolWords.find(options.school);
    q.neighbours = options.neighbours;
    q.headLevel = options.headLevel;
    q.lossBudgetDb = options.lossBudgetDb;
    q.bandFromMhz = options.bandFromMhz;
    q.bandToMhz = options.bandToMhz;
    if (q.bandFromMhz && q.bandToMhz && *q.bandToMhz < *q.bandFromMhz)
        throw WrongUse{"--band-to lies below --band-from"};
    const Cable& cable = *q.link.cable;
    // Two 5 m cords and four connections of the cable's category, where nothing else is said.
    if (cable.kind == CableKind::Balanced) {
        if (options.link.cords.empty())
            q.link.cords.assign(2, {&cable, 5, false});
        if (options.link.connections.empty())
            if (const Connection* usual = usualConnection(catalogue, cable))
                q.link.connections.assign(4, usual);
    }
    const Reach found = findReach(q, catalogue);
    OutJson out = toJson(found);
    if (options.working)
        out["working"] = toJson(reachWorking(q, catalogue, found));
    print(out);
}

void read(const std::string& path, const std::string& unit) {
    const auto slash = path.find_last_of('/');
    const std::string name = slash == std::string::npos ? path : path.substr(slash + 1);
    const auto bytes = orBadInput(readWholeFile(path));
    auto file = readMeasuredFile(bytes, name, unit);
    if (!file) {
        Fault fault = file.error();
        fault.where = named(path);
        throw BadInput{fault};
    }
    OutJson out = {{"kind", file->kind}};
    out["points"] = OutJson::array();
    if (file->sweep) {
        const auto& s = *file->sweep;
        out["ports"] = s.ports;
        out["referenceOhm"] = s.referenceOhm;
        if (s.referenceReactanceOhm != 0)
            out["referenceReactanceOhm"] = s.referenceReactanceOhm;
        for (std::size_t k = 0; k < s.frequencyMhz.size(); ++k) {
            OutJson point = {{"frequencyMhz", s.frequencyMhz[k]}};
            for (int to = 0; to < s.ports; ++to)
                for (int from = 0; from < s.ports; ++from) {
                    const auto value = s.at(k, to, from);
                    const std::string sign = s.ports > 9 ? "_" : "";
                    const double magnitude = std::abs(value);
                    OutJson entry;
                    // Nothing at all has no level in dB.
                    entry["db"] = magnitude > 0 ? OutJson(20 * std::log10(magnitude)) : OutJson();
                    entry["degrees"] = std::arg(value) * 180 / std::numbers::pi;
                    point["s" + std::to_string(to + 1) + sign + std::to_string(from + 1)] = entry;
                }
            out["points"].push_back(point);
        }
    } else {
        const auto& t = *file->table;
        out["ports"] = nullptr;
        out["referenceOhm"] = nullptr;
        for (std::size_t k = 0; k < t.frequencyMhz.size(); ++k) {
            OutJson point = {{"frequencyMhz", t.frequencyMhz[k]}};
            for (const auto& column : t.columns)
                point[column.header] = column.values[k];
            out["points"].push_back(point);
        }
    }
    out["notes"] = file->notes;
    print(out);
}

} // namespace

const Cable& cableOf(const Catalogue& catalogue, const std::string& id) {
    const Cable* cable = catalogue.cable(id);
    if (cable == nullptr)
        throw BadInput{unknown("cable", id).value()};
    return *cable;
}

void addConnections(const Catalogue& catalogue, const std::vector<std::string>& texts,
                    LinkParts& out) {
    for (const auto& text : texts) {
        const auto colon = text.find(':');
        const std::string id = text.substr(0, colon);
        double count = 1;
        if (colon != std::string::npos && (!wordToDouble(text.substr(colon + 1), count) ||
                                           count < 0 || count > 1000 || count != std::floor(count)))
            throw WrongUse{"--connection wants ID:COUNT, not “" + text + "”"};
        const Connection* connection = catalogue.connection(id);
        if (connection == nullptr)
            throw BadInput{unknown("connection", id).value()};
        out.connections.insert(out.connections.end(), static_cast<std::size_t>(count), connection);
    }
}

void addCatalogueCommands(CLI::App& app) {
    app.add_subcommand("cables", "every cable with its figures and sources")->callback(cables);
    app.add_subcommand("connections", "every connection")->callback(connections);
    app.add_subcommand("services", "every service")->callback(services);
    app.add_subcommand("limits", "every limit line")->callback(limits);

    auto* lossCommand = app.add_subcommand("loss", "loss of a link at given frequencies");
    auto lossOptions = std::make_shared<LinkOptions>();
    auto lossAt = std::make_shared<std::string>();
    addLinkOptions(*lossCommand, *lossOptions);
    lossCommand->add_option("--length", lossOptions->length, "fixed cable: 61.5m, 201ft")
        ->required();
    lossCommand->add_option("--at", *lossAt, "MHz, separated by commas")->required();
    lossCommand->callback([lossOptions, lossAt] { loss(*lossOptions, *lossAt); });

    auto* limitCommand = app.add_subcommand("limit", "a limit at given frequencies");
    auto limitOptions = std::make_shared<LimitOptions>();
    limitCommand->add_option("--set", limitOptions->set)->check(CLI::IsMember({"iso", "tia"}));
    limitCommand->add_option("--class", limitOptions->className, "EA, or cat6")->required();
    limitCommand->add_option("--link", limitOptions->link)
        ->check(CLI::IsMember({"channel", "permanent"}));
    limitCommand->add_option("--parameter", limitOptions->parameter)->required();
    limitCommand->add_option("--at", limitOptions->at, "MHz, separated by commas");
    addNumber(*limitCommand, "--loop", limitOptions->loopOhm, {0, 1e6, "Ω"},
              "loop resistance, for unbalance");
    limitCommand->callback([limitOptions] { limit(*limitOptions); });

    auto* reachCommand = app.add_subcommand("reach", "how far a cable carries a service");
    auto o = std::make_shared<ReachOptions>();
    addLinkOptions(*reachCommand, o->link);
    reachCommand->add_option("--service", o->service, "service id, see `services`")->required();
    reachCommand->add_option("--set", o->set)->check(CLI::IsMember({"iso", "tia"}));
    reachCommand->add_option("--school", o->school)
        ->check(CLI::IsMember({"guideline", "cautious", "none"}));
    reachCommand->add_option("--neighbours", o->neighbours, "other cables in its bundle")
        ->check(CLI::Range(0, 100000));
    addNumber(*reachCommand, "--head-level", o->headLevel, {-200, 200, ""},
              "in the unit of the service's window");
    addNumber(*reachCommand, "--loss-budget", o->lossBudgetDb, {0, 1000, "dB"}, "for a feedline");
    addNumber(*reachCommand, "--band-from", o->bandFromMhz, megahertz, "lowest of a feedline");
    addNumber(*reachCommand, "--band-to", o->bandToMhz, megahertz, "highest of a feedline");
    reachCommand->add_flag("--working", o->working, "with formula, inputs and sources");
    reachCommand->callback([o] { reach(*o); });

    auto* readCommand = app.add_subcommand("read", "a Touchstone or CSV file as JSON");
    auto path = std::make_shared<std::string>();
    auto unit = std::make_shared<std::string>();
    readCommand->add_option("FILE", *path)->required();
    readCommand->add_option("--frequency-unit", *unit, "for a CSV whose header does not say it")
        ->check(CLI::IsMember({"Hz", "kHz", "MHz", "GHz"}));
    readCommand->callback([path, unit] { read(*path, *unit); });
}

} // namespace burin
