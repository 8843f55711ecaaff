#include "core/coax/tree_json.h"
#include "core/catalogue/json_reader.h"

namespace burin {
namespace {

std::optional<TreePart> partFromKey(std::string_view key) {
    if (key == "amplifier")
        return TreePart::Amplifier;
    if (key == "splitter")
        return TreePart::Splitter;
    if (key == "tap")
        return TreePart::Tap;
    if (key == "outlet")
        return TreePart::Outlet;
    return std::nullopt;
}

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
    out.part = in.keyword("part", partFromKey);
    readFeed(in, catalogue, out.feed);
    if (out.part == TreePart::Splitter)
        out.ways = in.integer("ways", 2, 8);
    if (out.part == TreePart::Tap) {
        out.tapDb = in.number("tapDb", 0, 60);
        out.throughDb = in.number("throughDb", 0, 20);
    }
    if (out.part == TreePart::Amplifier) {
        out.gainDb = in.number("gainDb", 0, 80);
        out.slopeDb = in.numberOr("slopeDb", -40, 40, 0);
        out.noiseFigureDb = in.numberOr("noiseFigureDb", 0, 40, 5);
        out.ceilingDb = in.numberOr("ceilingDbuv", 60, 140, 105);
    }
    out.least = in.optionalNumber("leastDbuv", -50, 200);
    out.most = in.optionalNumber("mostDbuv", -50, 200);
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
        const auto& nodes = file.array("nodes");
        for (std::size_t i = 0; i < nodes.size(); ++i)
            out.nodes.push_back(readNode(file.item("nodes", nodes[i], i), catalogue));
        file.close();
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
