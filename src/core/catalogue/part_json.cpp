#include "core/catalogue/part_json.h"

namespace burin {
namespace {

std::string lookedUp(const JsonObject& in, std::string_view key, const std::string& name,
                     const FigureSources& sources) {
    const auto it = sources.find(name);
    if (it == sources.end())
        in.fail(key,
                sentence({"catalogue.names-source-not",
                          "names the source “{0}”, which is not in the list"},
                         name),
                {"cure.add-sources-name", "Add it to “sources”, or name one of them"});
    return it->second;
}

std::optional<Screen> screenFromKey(std::string_view key) {
    if (key == "none")
        return Screen::None;
    if (key == "overall")
        return Screen::Overall;
    return key == "pairs" ? std::optional(Screen::Pairs) : std::nullopt;
}

} // namespace

Figure figure(JsonObject& in, std::string_view key, double least, double most,
              const FigureSources* sources) {
    JsonObject object = in.object(key);
    Figure out{object.number("value", least, most), object.string("source")};
    object.close();
    if (sources != nullptr)
        out.source = lookedUp(in, key, out.source, *sources);
    return out;
}

std::optional<Figure> optionalFigure(JsonObject& in, std::string_view key, double least,
                                     double most, const FigureSources* sources) {
    if (in.find(key) == nullptr)
        return std::nullopt;
    return figure(in, key, least, most, sources);
}

std::optional<CableKind> cableKindFromKey(std::string_view key) {
    return key == "balanced" ? std::optional(CableKind::Balanced)
           : key == "coax"   ? std::optional(CableKind::Coax)
                             : std::nullopt;
}
std::vector<double> ohms(JsonObject& in, std::string_view key) {
    std::vector<double> out;
    for (const auto& ohm : in.array(key)) {
        if (!ohm.is_number())
            in.fail(key, {"catalogue.holds-something-no", "holds something that is no number"},
                    {"cure.write-ohms", "Write ohms"});
        out.push_back(ohm.get<double>());
    }
    return out;
}

Cable readCable(JsonObject in, const FigureSources* sources) {
    Cable out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.kind = in.keyword("kind", cableKindFromKey);
    const bool balanced = out.kind == CableKind::Balanced;
    if (balanced) {
        out.category = in.keyword("category", categoryFromKey);
        out.screen = in.keyword("screen", screenFromKey);
        out.attenuation.k3Db = figure(in, "k3Db", 0, 10, sources);
        out.conductorAwg = optionalFigure(in, "conductorAwg", 10, 40, sources);
        out.supplyAwg = optionalFigure(in, "supplyAwg", 4, 40, sources);
    } else {
        out.attenuation.k0Db = figure(in, "k0Db", 0, 20, sources);
        out.centreConductor = in.stringOr("centreConductor", "");
        out.centreMm = optionalFigure(in, "centreMm", 0.1, 30, sources);
        out.dielectricMm = optionalFigure(in, "dielectricMm", 0.5, 60, sources);
        if (in.find("shields") != nullptr)
            for (const auto& word : in.array("shields")) {
                const auto shield = word.is_string() ? shieldWords.find(word.get<std::string>())
                                                     : std::optional<Shield>();
                if (!shield)
                    in.fail("shields",
                            {"catalogue.holds-something-no-shield",
                             "holds something that is no shield"},
                            {"cure.inside-foil-braid", "From inside: foil, braid, corrugated"});
                out.shields.push_back(*shield);
            }
        out.shieldOhmPerKm = optionalFigure(in, "shieldOhmPerKm", 0.01, 1000, sources);
        out.solidCopperOhmPerKm = optionalFigure(in, "solidCopperOhmPerKm", 0.01, 1000, sources);
    }
    out.attenuation.k1Db = figure(in, "k1Db", 0, 20, sources);
    out.attenuation.k2Db = figure(in, "k2Db", 0, 2, sources);
    out.topMhz = figure(in, "topMhz", 0.1, 100000, sources);
    out.impedanceOhm = figure(in, "impedanceOhm", 10, 600, sources);
    out.nvp = figure(in, "nvp", 0.3, 1, sources);
    out.conductorOhmPerKm = figure(in, "conductorOhmPerKm", 0.01, 2000, sources);
    out.diameterMm = optionalFigure(in, "diameterMm", 1, 100, sources);
    out.massKgPer100m = optionalFigure(in, "massKgPer100m", 0.1, 1000, sources);
    out.pullN = optionalFigure(in, "pullN", 1, 100000, sources);
    out.stranded = in.booleanOr("stranded", false);
    if (in.find("proposedFor") != nullptr) {
        out.proposedFor.emplace();
        for (const auto& id : in.array("proposedFor")) {
            if (!id.is_string())
                in.fail("proposedFor",
                        {"catalogue.holds-something-no-id", "holds something that is no id"},
                        {"cure.name-services-their", "Name services by their id"});
            out.proposedFor->push_back(id.get<std::string>());
        }
    }
    in.close();
    return out;
}

namespace {

std::optional<Weather> weatherFromKey(std::string_view key) {
    for (const auto weather : {Weather::Indoors, Weather::Booted, Weather::Sealed})
        if (weatherKey(weather) == key)
            return weather;
    return std::nullopt;
}
std::optional<Conductors> conductorsFromKey(std::string_view key) {
    return key == "solid"      ? std::optional(Conductors::Solid)
           : key == "stranded" ? std::optional(Conductors::Stranded)
           : key == "both"     ? std::optional(Conductors::Both)
                               : std::nullopt;
}

/// [least, most], both above 0.
void range(JsonObject& in, std::string_view key, double& least, double& most) {
    const auto& pair = in.array(key);
    if (pair.size() != 2 || !pair[0].is_number() || !pair[1].is_number() ||
        !(pair[0].get<double>() > 0) || pair[1].get<double>() < pair[0].get<double>())
        in.fail(key, {"catalogue.no-range", "is no range"},
                {"cure.give-least-most", "Give the least and the most, both above 0"});
    least = pair[0].get<double>();
    most = pair[1].get<double>();
}

} // namespace

ConnectorFit readConnectorFit(JsonObject in, const FigureSources& sources) {
    ConnectorFit out;
    out.series = in.string("series");
    out.school = in.string("school");
    if (in.find("impedancesOhm") != nullptr)
        out.impedancesOhm = ohms(in, "impedancesOhm");
    range(in, "jacketMm", out.jacketLeastMm, out.jacketMostMm);
    range(in, "conductorMm", out.conductorLeastMm, out.conductorMostMm);
    out.conductors = in.keyword("conductors", conductorsFromKey);
    out.weather = in.keyword("weather", weatherFromKey);
    out.minutes = in.number("minutes", 0, 600);
    out.tools = in.string("tools");
    out.joint = in.string("joint");
    out.source = lookedUp(in, "source", in.string("source"), sources);
    in.close();
    return out;
}

Outcome<Cable> readCable(std::string_view json, const std::string& where) {
    auto parsed = parseJson(json, where);
    if (!parsed)
        return refuse(parsed.error());
    try {
        Cable out = readCable(JsonObject(*parsed, where, ""), nullptr);
        out.userDefined = true;
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

std::string writeCable(const Cable& cable) {
    Json out;
    const auto put = [&](const char* key, const std::optional<Figure>& value) {
        if (value)
            out[key] = {{"value", value->value}, {"source", value->source}};
    };
    out["id"] = cable.id;
    out["name"] = cable.name;
    const bool balanced = cable.kind == CableKind::Balanced;
    out["kind"] = balanced ? "balanced" : "coax";
    if (balanced) {
        out["category"] = categoryKey(cable.category);
        out["screen"] = cable.screen == Screen::None      ? "none"
                        : cable.screen == Screen::Overall ? "overall"
                                                          : "pairs";
    } else {
        out["centreConductor"] = cable.centreConductor;
        put("k0Db", cable.attenuation.k0Db);
    }
    put("k1Db", cable.attenuation.k1Db);
    put("k2Db", cable.attenuation.k2Db);
    if (balanced)
        put("k3Db", cable.attenuation.k3Db);
    put("topMhz", cable.topMhz);
    put("impedanceOhm", cable.impedanceOhm);
    put("nvp", cable.nvp);
    put("conductorOhmPerKm", cable.conductorOhmPerKm);
    if (balanced) {
        put("conductorAwg", cable.conductorAwg);
        put("supplyAwg", cable.supplyAwg);
    } else {
        put("centreMm", cable.centreMm);
        put("dielectricMm", cable.dielectricMm);
        for (const Shield shield : cable.shields)
            out["shields"].push_back(shieldWords[shield]);
        put("shieldOhmPerKm", cable.shieldOhmPerKm);
        put("solidCopperOhmPerKm", cable.solidCopperOhmPerKm);
    }
    put("diameterMm", cable.diameterMm);
    put("massKgPer100m", cable.massKgPer100m);
    put("pullN", cable.pullN);
    if (cable.stranded)
        out["stranded"] = true;
    if (cable.proposedFor)
        out["proposedFor"] = *cable.proposedFor;
    return out.dump();
}

} // namespace burin
