#include "core/job/system_json.h"
#include "core/coax/tree_json.h"

namespace burin {
namespace {

using Json = nlohmann::ordered_json;
constexpr double mostM = 1e5;

DistributionPart readPart(JsonObject in) {
    DistributionPart out;
    out.id = in.string("id");
    out.name = in.stringOr("name", "");
    out.from = in.stringOr("from", "");
    out.runId = in.stringOr("runId", "");
    out.fromTap = in.booleanOr("fromTap", false);
    out.unit = readUnit(in);
    in.close();
    return out;
}

Json partJson(const DistributionPart& part) {
    Json out = {{"id", part.id}, {"name", part.name}, {"from", part.from}, {"runId", part.runId}};
    if (part.fromTap)
        out["fromTap"] = true;
    out.update(toJson(part.unit));
    return out;
}

BusDevice readDevice(JsonObject in) {
    BusDevice out;
    out.name = in.string("name");
    out.runId = in.stringOr("runId", "");
    out.stubM = in.numberOr("stubM", 0, mostM, 0);
    out.unitLoads = in.numberOr("unitLoads", 0, 1000, 1);
    out.picofarad = in.numberOr("picofarad", 0, 1e6, 0);
    out.terminatorOhm = in.optionalNumber("terminatorOhm", 0.1, 1e6);
    out.screwTerminals = in.booleanOr("screwTerminals", true);
    out.ampere = in.numberOr("ampere", 0, 100, 0);
    out.strikeAmpere = in.numberOr("strikeAmpere", 0, 100, 0);
    out.leastV = in.numberOr("leastV", 0, 1000, 0);
    out.mostV = in.optionalNumber("mostV", 0, 1000);
    in.close();
    return out;
}

Json deviceJson(const BusDevice& device) {
    Json out = {{"name", device.name},
                {"runId", device.runId},
                {"stubM", device.stubM},
                {"unitLoads", device.unitLoads},
                {"picofarad", device.picofarad}};
    putIf(out, "terminatorOhm", device.terminatorOhm);
    out["screwTerminals"] = device.screwTerminals;
    out["ampere"] = device.ampere;
    out["strikeAmpere"] = device.strikeAmpere;
    out["leastV"] = device.leastV;
    putIf(out, "mostV", device.mostV);
    return out;
}

} // namespace

Json toJson(const Distribution& d) {
    Json out = {{"id", d.id},
                {"name", d.name},
                {"serviceId", d.serviceId},
                {"headLevel", d.headLevel},
                {"slopeDb", d.slopeDb},
                {"channels", d.channels},
                {"headOutputs", d.headOutputs},
                {"headAmpere", d.headAmpere}};
    putIf(out, "headCarrierToNoiseDb", d.headCarrierToNoiseDb);
    out["parts"] = Json::array();
    for (const auto& part : d.parts)
        out["parts"].push_back(partJson(part));
    return out;
}

Distribution readDistribution(JsonObject in) {
    Distribution out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.serviceId = in.string("serviceId");
    out.headLevel = in.number("headLevel", -200, 300);
    out.slopeDb = in.numberOr("slopeDb", -40, 40, 0);
    out.headCarrierToNoiseDb = in.optionalNumber("headCarrierToNoiseDb", 0, 150);
    out.channels = in.integer("channels", 1, 10000);
    out.headOutputs = in.integer("headOutputs", 0, 64);
    out.headAmpere = in.numberOr("headAmpere", 0, 5, out.headAmpere);
    out.parts = in.list("parts", readPart);
    in.close();
    return out;
}

Json toJson(const BusChain& bus) {
    Json out = {{"id", bus.id},
                {"name", bus.name},
                {"riseNs", bus.riseNs},
                {"bitRateKbit", bus.bitRateKbit},
                {"supplyV", bus.supplyV},
                {"supplyToleranceShare", bus.supplyToleranceShare},
                {"supplyPairs", bus.supplyPairs}};
    putIf(out, "supplyAwg", bus.supplyAwg);
    out["devices"] = Json::array();
    for (const auto& device : bus.devices)
        out["devices"].push_back(deviceJson(device));
    return out;
}

BusChain readBusChain(JsonObject in) {
    BusChain out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.riseNs = in.number("riseNs", 0.1, 1e6);
    out.bitRateKbit = in.number("bitRateKbit", 0.1, 1e5);
    out.supplyV = in.number("supplyV", 0, 1000);
    out.supplyToleranceShare = in.number("supplyToleranceShare", 0, 0.99);
    out.supplyPairs = in.integer("supplyPairs", 1, 100);
    out.supplyAwg = in.optionalNumber("supplyAwg", 4, 40);
    out.devices = in.list("devices", readDevice);
    in.close();
    return out;
}

} // namespace burin
