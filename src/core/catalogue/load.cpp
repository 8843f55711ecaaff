#include "core/catalogue/catalogue.h"
#include "core/catalogue/part_json.h"
#include <cmath>
#include <fstream>
#include <set>
#include <sstream>

namespace burin {
namespace {

using Sources = FigureSources;
constexpr double anyMhz = 1e6;

struct Document {
    Json json;
    Sources sources;
};

Document open(std::string_view text, const std::string& file, const std::string& format) {
    auto parsed = parseJson(text, file);
    if (!parsed)
        throw FaultThrown{parsed.error()};
    Document out{std::move(*parsed), {}};
    JsonObject root(out.json, file, "");
    if (root.string("format") != format)
        root.fail("format", sentence({"catalogue.not", "is not {0}"}, format),
                  {"cure.give-file-meant", "Give the file meant for this place"});
    root.integer("version", 1, 1);
    JsonObject sources = root.object("sources");
    for (const auto& [key, value] : root.need("sources").items())
        out.sources[key] = sources.string(key);
    return out;
}

JsonObject rootOf(const Document& document, const std::string& file) {
    JsonObject root(document.json, file, "");
    for (const char* known : {"format", "version", "note", "sources"})
        root.find(known);
    return root;
}

Connection connection(JsonObject in, const Sources& sources) {
    Connection out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.kind = in.keyword("kind", cableKindFromKey);
    if (out.kind == CableKind::Balanced) {
        out.category = in.keyword("category", categoryFromKey);
        out.screened = in.booleanOr("screened", false);
        out.flatDb = figure(in, "flatDb", 0, 3, &sources);
        out.perSqrtMhzDb = figure(in, "perSqrtMhzDb", 0, 1, &sources);
    } else {
        out.at1GhzDb = figure(in, "at1GhzDb", 0, 6, &sources);
        out.ceilingMhz = figure(in, "ceilingMhz", 1, anyMhz, &sources);
        out.impedanceOhm = optionalFigure(in, "impedanceOhm", 10, 600, &sources);
        out.electricalMm = optionalFigure(in, "electricalMm", 0.1, 500, &sources);
    }
    if (in.find("fit") != nullptr)
        out.fit = readConnectorFit(in.object("fit"), sources);
    in.close();
    return out;
}

LimitSegment segment(JsonObject in) {
    LimitSegment out;
    out.fromMhz = in.number("fromMhz", 0, anyMhz);
    out.toMhz = in.number("toMhz", out.fromMhz, anyMhz);
    const std::string form = in.string("form");
    const auto number = [&](std::string_view key) { return in.number(key, -1000, 1000); };
    if (form == "link-loss")
        out.form = LinkLossForm{
            number("k1Db"),        number("k2Db"),         number("k3Db"),   number("cableFactor"),
            number("connections"), number("perSqrtMhzDb"), number("flatDb"), number("power15Db")};
    else if (form == "voltage-sum")
        out.form = VoltageSumForm{number("cableDb"), number("cablePerDecadeDb"), number("times"),
                                  number("connectionDb"), number("connectionPerDecadeDb")};
    else if (form == "log")
        out.form = LogForm{number("atReferenceDb"), number("perDecadeDb"),
                           in.number("referenceMhz", 1e-3, anyMhz)};
    else if (form == "constant")
        out.form = ConstantForm{number("value")};
    else if (form == "delay")
        out.form = DelayForm{number("factor"), number("flatUs"), number("perInverseSqrtMhzUs"),
                             number("connections"), number("connectionUs")};
    else if (form == "unbalance")
        out.form = UnbalanceForm{in.number("ofLoop", 0, 1), in.number("atLeastOhm", 0, 100)};
    else
        in.fail("form", sentence({"json.word-unknown", "is “{0}”, which is not known"}, form),
                {"cure.use-link-loss",
                 "Use link-loss, voltage-sum, log, constant, delay or unbalance"});
    in.close();
    return out;
}

Limit limit(JsonObject in, const Sources& sources) {
    Limit out;
    out.set = in.word("set", limitSetWords);
    out.className = in.string("class");
    out.link = in.word("link", linkKindWords);
    out.parameter = in.keyword("parameter", parameterFromKey);
    out.unit = in.string("unit");
    if (out.unit != "dB" && out.unit != "µs" && out.unit != "ns" && out.unit != "Ω")
        in.fail("unit", sentence({"catalogue.is", "is “{0}”"}, out.unit),
                {"cure.use-db-ns", "Use dB, µs, ns or Ω"});
    const std::string source = in.string("source");
    const auto it = sources.find(source);
    if (it == sources.end())
        in.fail("source",
                sentence({"catalogue.not-list", "is “{0}”, which is not in the list"}, source),
                {"cure.add-sources", "Add it to “sources”"});
    out.source = it->second;
    out.floor = in.optionalNumber("floor", 0, 100);
    out.ceiling = in.optionalNumber("ceiling", 0, 200);
    const auto& segments = in.array("segments");
    for (std::size_t i = 0; i < segments.size(); ++i) {
        out.segments.push_back(segment(in.item("segments", segments[i], i)));
        if (i > 0 && out.segments[i].fromMhz != out.segments[i - 1].toMhz)
            in.fail(
                "segments",
                sentence({"catalogue.leave-gap-overlap", "leave a gap or overlap at segment {0}"},
                         asCount(i + 1)),
                {"cure.begin-each-before", "Begin each where the one before ends"});
    }
    if (out.segments.empty())
        in.fail("segments", {"catalogue.empty", "are empty"},
                {"cure.give-least", "Give at least one"});
    in.close();
    return out;
}

bool isPinPair(const std::string& pair) {
    return pair == "1-2" || pair == "3-6" || pair == "4-5" || pair == "7-8";
}

void serviceRules(JsonObject& in, Service& out) {
    if (in.find("lossLimit") != nullptr) {
        JsonObject loss = in.object("lossLimit");
        out.limitClassIso = loss.string("iso");
        out.limitClassTia = loss.string("tia");
        out.limitTopMhz = loss.number("topMhz", 1, anyMhz);
        loss.close();
    }
    if (in.find("bundleRule") != nullptr) {
        JsonObject rule = in.object("bundleRule");
        out.bundleCategory = rule.keyword("category", categoryFromKey);
        out.bundleBeyond = rule.string("beyond");
        out.bundleSteps = rule.list("steps", [](JsonObject step) {
            const BundleStep read{step.word("school", bundleSchoolWords),
                                  step.optionalInteger("maxNeighbours", 0, 10000),
                                  step.number("channelM", 1, 10000)};
            step.close();
            return read;
        });
        rule.close();
    }
    if (in.find("screenRule") != nullptr) {
        JsonObject rule = in.object("screenRule");
        out.sharedCableM = rule.number("sharedCableM", 0.1, 1000);
        out.cablePerDirectionM = rule.number("cablePerDirectionM", 0.1, 1000);
        rule.close();
    }
    if (in.find("lossRules") != nullptr) {
        const auto& rules = in.array("lossRules");
        for (std::size_t i = 0; i < rules.size(); ++i) {
            JsonObject rule = in.item("lossRules", rules[i], i);
            const double from = rule.number("fromMhz", 0.001, anyMhz);
            out.lossRules.push_back(
                {from, rule.number("toMhz", from, anyMhz), rule.number("maxDb", 0, 200)});
            rule.close();
        }
    }
    if (in.find("returnLossRules") != nullptr) {
        const auto& rules = in.array("returnLossRules");
        for (std::size_t i = 0; i < rules.size(); ++i) {
            JsonObject rule = in.item("returnLossRules", rules[i], i);
            const double from = rule.number("fromMhz", 0.001, anyMhz);
            out.returnLossRules.push_back(
                {from, rule.number("toMhz", from, anyMhz), rule.number("minDb", 0, 100)});
            rule.close();
        }
    }
    if (in.find("levelWindow") != nullptr) {
        JsonObject rule = in.object("levelWindow");
        LevelWindow window;
        window.unit = rule.string("unit");
        window.min = rule.number("min", -200, 200);
        window.max = rule.number("max", window.min, 200);
        window.fromMhz = rule.number("fromMhz", 0.001, anyMhz);
        window.toMhz = rule.number("toMhz", window.fromMhz, anyMhz);
        rule.close();
        out.levelWindow = window;
    }
    if (in.find("loopRule") != nullptr) {
        JsonObject rule = in.object("loopRule");
        out.loopRule = {rule.number("loadOhm", 0.1, 1e6), rule.number("maxDb", 0.01, 60)};
        rule.close();
    }
    if (in.find("carrierToNoise") != nullptr) {
        JsonObject rule = in.object("carrierToNoise");
        out.noise = {rule.number("bandwidthMhz", 0.001, 1000), rule.number("leastDb", 0, 100),
                     rule.number("sourceDb", 0, 100)};
        rule.close();
    }
}

Service service(JsonObject in, const Sources& sources) {
    Service out;
    out.id = in.string("id");
    out.name = in.string("name");
    const std::string source = in.string("source");
    const auto it = sources.find(source);
    if (it == sources.end())
        in.fail("source",
                sentence({"catalogue.not-list", "is “{0}”, which is not in the list"}, source),
                {"cure.add-sources", "Add it to “sources”"});
    out.source = it->second;
    for (const auto& kind : in.array("kinds")) {
        const auto known =
            kind.is_string() ? cableKindFromKey(kind.get<std::string>()) : std::nullopt;
        if (!known)
            in.fail(
                "kinds",
                {"catalogue.holds-something-other", "holds something other than balanced and coax"},
                {"cure.use-those-two", "Use those two"});
        out.kinds.push_back(*known);
    }
    out.pairs = in.optionalInteger("pairs", 1, 4).value_or(0);
    if (in.find("pinPairs") != nullptr)
        for (const auto& pair : in.array("pinPairs")) {
            if (!pair.is_string() || !isPinPair(pair.get<std::string>()))
                in.fail("pinPairs",
                        {"catalogue.holds-something-other-than-and",
                         "holds something other than 1-2, 3-6, 4-5 and 7-8"},
                        {"cure.name-pairs-eight", "Name pairs of the eight-way jack"});
            out.pinPairs.push_back(pair.get<std::string>());
        }
    out.bitRateMbit = in.numberOr("bitRateMbit", 0, 1e6, 0);
    if (in.find("needsCategory") != nullptr)
        out.needsCategory = in.keyword("needsCategory", categoryFromKey);
    out.belowCategoryNote = in.stringOr("belowCategoryNote", "");
    out.beyondNote = in.stringOr("beyondNote", "");
    out.noReachNote = in.stringOr("noReachNote", "");
    out.maxChannelM = in.optionalNumber("maxChannelM", 1, 100000);
    if (in.find("impedancesOhm") != nullptr)
        out.impedancesOhm = ohms(in, "impedancesOhm");
    out.lossBudget = in.booleanOr("lossBudget", false);
    out.aerial = in.booleanOr("aerial", false);
    out.mostSwr = in.numberOr("mostSwr", 1.01, 100, 0);
    out.bus = in.booleanOr("bus", false);
    out.distributed = in.booleanOr("distributed", false);
    out.oneReceiverACable = in.booleanOr("oneReceiverACable", false);
    serviceRules(in, out);
    in.close();
    return out;
}

template <typename T, typename Read>
void readAll(JsonObject& root, std::string_view key, std::vector<T>& out, Read read) {
    const auto& list = root.array(key);
    std::set<std::string> ids;
    for (std::size_t i = 0; i < list.size(); ++i) {
        out.push_back(read(root.item(key, list[i], i)));
        if constexpr (requires { out.back().id; }) {
            if (!ids.insert(out.back().id).second)
                root.fail(key,
                          sentence({"catalogue.holds-twice", "holds “{0}” twice"}, out.back().id),
                          {"cure.rename", "Rename one"});
        }
    }
}

TemperatureRule temperatureRule(JsonObject in, const Sources& sources) {
    TemperatureRule out{figure(in, "unscreenedPerDegreeTo40", 0, 0.1, &sources),
                        figure(in, "unscreenedPerDegreeTo60", 0, 0.1, &sources),
                        figure(in, "screenedPerDegreeTo60", 0, 0.1, &sources),
                        figure(in, "copperPerDegree", 0.001, 0.01, &sources),
                        figure(in, "ratedC", 20, 200, &sources)};
    in.close();
    return out;
}

CrosstalkRule crosstalkRule(JsonObject in, const Sources* sources) {
    CrosstalkRule out;
    out.category = in.keyword("category", categoryFromKey);
    const auto decibels = [&](const char* key) { return figure(in, key, 0, 200, sources); };
    out.nextDb = decibels("nextDb");
    out.psNextDb = decibels("psNextDb");
    out.acrFDb = decibels("acrFDb");
    out.psAcrFDb = decibels("psAcrFDb");
    out.connectionNextDb = decibels("connectionNextDb");
    out.connectionPsNextDb = decibels("connectionPsNextDb");
    out.connectionNextSlopeDb = decibels("connectionNextSlopeDb");
    out.connectionAcrFDb = decibels("connectionAcrFDb");
    out.connectionPsAcrFDb = decibels("connectionPsAcrFDb");
    out.connectionAcrFSlopeDb = decibels("connectionAcrFSlopeDb");
    out.skewNsPer100m = figure(in, "skewNsPer100m", 0, 1000, sources);
    out.connectionSkewNs = figure(in, "connectionSkewNs", 0, 1000, sources);
    in.close();
    return out;
}

Costs costsOf(JsonObject in, const Sources& sources) {
    Costs out;
    const auto take = [&](const char* key, double& value) {
        Figure read = figure(in, key, 0, 1e6, &sources);
        value = read.value;
        out.source = std::move(read.source);
    };
    take("perHour", out.perHour);
    take("pad", out.pad);
    take("equaliser", out.equaliser);
    take("amplifier", out.amplifier);
    take("terminator", out.terminator);
    take("supply", out.supply);
    take("connector", out.connector);
    take("cablePerMetrePerSquareMm", out.cablePerMetrePerSquareMm);
    take("hoursToPutIn", out.hoursToPutIn);
    take("hoursForMainsFedPart", out.hoursForMainsFedPart);
    take("hoursToPull", out.hoursToPull);
    take("hoursToPullPerMetre", out.hoursToPullPerMetre);
    take("hoursToMoveHeadEnd", out.hoursToMoveHeadEnd);
    in.close();
    return out;
}

Outcome<std::string> slurp(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return refuse(path,
                      {"catalogue.catalogue-file-cannot", "the catalogue file cannot be opened"},
                      {"cure.install-burin-again",
                       "Install Burin again, or check that the file may be read"});
    std::ostringstream out;
    out << in.rdbuf();
    return out.str();
}

} // namespace

Outcome<Catalogue> readCatalogue(std::string_view cables, std::string_view connections,
                                 std::string_view limits, std::string_view services,
                                 std::string_view site, std::string_view costs) {
    try {
        Catalogue out;
        auto rules = readSiteRules(site, "site.json");
        if (!rules)
            return refuse(rules.error());
        out.site = std::move(*rules);
        {
            const Document doc = open(cables, "cables.json", "burin-cables");
            JsonObject root = rootOf(doc, "cables.json");
            out.temperature = temperatureRule(root.object("temperature"), doc.sources);
            JsonObject cord = root.object("cord");
            out.cord = {figure(cord, "stranded24AwgFactor", 1, 5, &doc.sources),
                        figure(cord, "stranded26AwgFactor", 1, 5, &doc.sources)};
            cord.close();
            readAll(root, "crosstalk", out.crosstalk,
                    [&](JsonObject in) { return crosstalkRule(std::move(in), &doc.sources); });
            readAll(root, "cables", out.cables,
                    [&](JsonObject in) { return readCable(std::move(in), &doc.sources); });
            root.close();
        }
        {
            const Document doc = open(connections, "connections.json", "burin-connections");
            JsonObject root = rootOf(doc, "connections.json");
            readAll(root, "connections", out.connections,
                    [&](JsonObject in) { return connection(std::move(in), doc.sources); });
            root.close();
        }
        {
            const Document doc = open(limits, "limits.json", "burin-limits");
            JsonObject root = rootOf(doc, "limits.json");
            readAll(root, "limits", out.limits,
                    [&](JsonObject in) { return limit(std::move(in), doc.sources); });
            root.close();
        }
        {
            const Document doc = open(services, "services.json", "burin-services");
            JsonObject root = rootOf(doc, "services.json");
            readAll(root, "services", out.services,
                    [&](JsonObject in) { return service(std::move(in), doc.sources); });
            root.close();
        }
        const Document doc = open(costs, "costs.json", "burin-costs");
        out.costs = costsOf(rootOf(doc, "costs.json"), doc.sources);
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

Outcome<Catalogue> loadCatalogue(const std::string& folder) {
    std::vector<std::string> texts;
    for (const char* name : {"cables", "connections", "limits", "services", "site", "costs", "work",
                             "labels", "terminations"}) {
        auto text = slurp(folder + "/" + name + ".json");
        if (!text)
            return refuse(text.error());
        texts.push_back(std::move(*text));
    }
    auto out = readCatalogue(texts[0], texts[1], texts[2], texts[3], texts[4], texts[5]);
    auto work = readWorkRules(texts[6], "work.json");
    auto labels = readLabelSheets(texts[7], "labels.json");
    auto cards = readEndCards(texts[8], "terminations.json");
    if (out && cards)
        if (auto good = checkCards(*cards, *out); !good)
            cards = refuse(good.error());
    for (const Fault* fault :
         {out ? nullptr : &out.error(), work ? nullptr : &work.error(),
          labels ? nullptr : &labels.error(), cards ? nullptr : &cards.error()})
        if (fault != nullptr) {
            Fault told = *fault;
            told.where = sentence({"where.in-folder", "{0}/{1}"}, folder, std::move(told.where));
            return refuse(std::move(told));
        }
    out->work = std::move(*work);
    out->labels = std::move(*labels);
    out->cards = std::move(*cards);
    return out;
}

} // namespace burin
