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
        in.fail("cable",
                sentence({"tree.catalogue-does-not", "is “{0}”, which the catalogue does not have"},
                         id),
                {"cure.list-burin-cli-cables", "List them with burin-cli cables"});
    out.stretches = {{in.number("lengthM", 0, 1e5), in.numberOr("temperatureC", -60, 200, 20)}};
    if (in.find("connections") == nullptr)
        return;
    for (const auto& word : in.array("connections")) {
        const Connection* connection =
            word.is_string() ? catalogue.connection(word.get<std::string>()) : nullptr;
        if (connection == nullptr)
            in.fail("connections",
                    {"tree.holds-catalogue-does", "holds what the catalogue does not have"},
                    {"cure.list-burin-cli-connections", "List them with burin-cli connections"});
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
