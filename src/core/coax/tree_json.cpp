#include "core/coax/tree_json.h"
#include "core/describe/json_reader.h"

namespace burin {
namespace {

void readFeed(JsonObject& in, const Catalogue& catalogue, LinkParts& out) {
    if (in.find("cable") == nullptr)
        return;
    const std::string id = in.string("cable");
    out.cable = catalogue.cable(id);
    if (out.cable == nullptr)
        in.fail("cable", "is “" + id + "”, which the catalogue does not have",
                "List them with burin-cli cables");
    out.stretches = {{in.number("lengthM", 0, 1e5), in.numberOr("temperatureC", -60, 200, 20)}};
    if (in.find("connections") == nullptr)
        return;
    for (const auto& word : in.array("connections")) {
        const Connection* connection =
            word.is_string() ? catalogue.connection(word.get<std::string>()) : nullptr;
        if (connection == nullptr)
            in.fail("connections", "holds what the catalogue does not have",
                    "List them with burin-cli connections");
        out.connections.push_back(connection);
    }
}

TreeNode readNode(JsonObject in, const Catalogue& catalogue) {
    TreeNode out;
    out.id = in.string("id");
    out.from = in.stringOr("from", "");
    out.fromTap = in.booleanOr("fromTap", false);
    readFeed(in, catalogue, out.feed);
    out.unit = readUnit(in);
    in.close();
    return out;
}

} // namespace

TreeUnit readUnit(JsonObject& in) {
    TreeUnit out;
    out.part = in.word("part", treePartWords);
    switch (out.part) {
    case TreePart::Splitter:
        out.ways = in.integer("ways", 2, 8);
        break;
    case TreePart::Multiswitch:
        out.ways = in.integer("ways", 2, 64);
        out.throughDb = in.numberOr("throughDb", -30, 30, 0);
        break;
    case TreePart::Tap:
        out.tapDb = in.number("tapDb", 0, 60);
        out.throughDb = in.number("throughDb", 0, 20);
        break;
    case TreePart::Amplifier:
        out.gainDb = in.number("gainDb", 0, 80);
        out.slopeDb = in.numberOr("slopeDb", -40, 40, 0);
        out.noiseFigureDb = in.numberOr("noiseFigureDb", 0, 40, 5);
        out.ceilingDb = in.numberOr("ceilingDbuv", 60, 140, 105);
        out.returnGainDb = in.optionalNumber("returnGainDb", -40, 60);
        break;
    case TreePart::Equaliser:
        out.slopeDb = in.number("slopeDb", 0, 40);
        out.throughDb = in.numberOr("throughDb", 0, 20, 1);
        break;
    case TreePart::Pad:
        out.throughDb = in.number("throughDb", 0, 60);
        break;
    case TreePart::DcBlock:
    case TreePart::SurgeArrester:
        out.throughDb = in.numberOr("throughDb", 0, 20, 0.5);
        break;
    case TreePart::Outlet:
        out.least = in.optionalNumber("leastDbuv", -50, 200);
        out.most = in.optionalNumber("mostDbuv", -50, 200);
        return out;
    }
    if (in.find("terminators") != nullptr)
        out.terminators = in.integer("terminators", 0, 64);
    return out;
}

nlohmann::ordered_json toJson(const TreeUnit& unit) {
    nlohmann::ordered_json out = {{"part", treePartWords[unit.part]}};
    switch (unit.part) {
    case TreePart::Splitter:
        out["ways"] = unit.ways;
        break;
    case TreePart::Multiswitch:
        out["ways"] = unit.ways;
        out["throughDb"] = unit.throughDb;
        break;
    case TreePart::Tap:
        out["tapDb"] = unit.tapDb;
        out["throughDb"] = unit.throughDb;
        break;
    case TreePart::Amplifier:
        out["gainDb"] = unit.gainDb;
        out["slopeDb"] = unit.slopeDb;
        out["noiseFigureDb"] = unit.noiseFigureDb;
        out["ceilingDbuv"] = unit.ceilingDb;
        putIf(out, "returnGainDb", unit.returnGainDb);
        break;
    case TreePart::Equaliser:
        out["slopeDb"] = unit.slopeDb;
        out["throughDb"] = unit.throughDb;
        break;
    case TreePart::Pad:
    case TreePart::DcBlock:
    case TreePart::SurgeArrester:
        out["throughDb"] = unit.throughDb;
        break;
    case TreePart::Outlet:
        putIf(out, "leastDbuv", unit.least);
        putIf(out, "mostDbuv", unit.most);
        return out;
    }
    if (unit.terminators > 0)
        out["terminators"] = unit.terminators;
    return out;
}

Outcome<Tree> readTree(std::string_view json, const std::string& where,
                       const Catalogue& catalogue) {
    const auto parsed = parseJson(json, where);
    if (!parsed)
        return refuse(parsed.error());
    try {
        Tree out;
        JsonObject file(*parsed, where, "");
        out.levelDb = file.number("levelDbuv", -50, 200);
        out.slopeDb = file.numberOr("slopeDb", -40, 40, 0);
        out.fromMhz = file.number("fromMhz", 0.1, 1e5);
        out.toMhz = file.number("toMhz", 0.1, 1e5);
        out.least = file.number("leastDbuv", -50, 200);
        out.most = file.number("mostDbuv", -50, 200);
        out.channels = file.optionalInteger("channels", 1, 10000).value_or(out.channels);
        out.bandwidthMhz = file.numberOr("bandwidthMhz", 0.001, 1000, out.bandwidthMhz);
        out.sourceCarrierToNoiseDb = file.optionalNumber("sourceCarrierToNoiseDb", 0, 150);
        out.leastCarrierToNoiseDb = file.optionalNumber("leastCarrierToNoiseDb", 0, 150);
        out.oneReceiverACable = file.booleanOr("oneReceiverACable", false);
        out.headOutputs = file.optionalInteger("headOutputs", 1, 64).value_or(0);
        out.mostBetweenDb = file.optionalNumber("mostBetweenDb", 0, 200);
        if (file.find("returnPath") != nullptr) {
            JsonObject back = file.object("returnPath");
            out.returnPath = {back.number("fromMhz", 0.1, 1e5), back.number("toMhz", 0.1, 1e5),
                              back.number("mostLossDb", 0, 200)};
            back.close();
        }
        out.nodes = file.list(
            "nodes", [&](JsonObject node) { return readNode(std::move(node), catalogue); });
        file.close();
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
