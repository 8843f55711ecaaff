#include "core/bus/bus_json.h"
#include "core/line/chain_json.h"

namespace burin {
namespace {

constexpr double mostM = 1e5;

BusNode readNode(JsonObject in, const Catalogue& catalogue, bool first) {
    BusNode out;
    out.name = in.string("name");
    if (!first) {
        JsonObject line = in.object("line");
        out.line = readLine(line, catalogue);
        line.close();
        out.lengthM = in.number("lengthM", 0, mostM);
    }
    if (in.find("stub") != nullptr) {
        JsonObject stub = in.object("stub");
        out.stubLine = readLine(stub, catalogue);
        out.stubM = stub.number("lengthM", 0, mostM);
        stub.close();
    }
    out.unitLoads = in.numberOr("unitLoads", 0, 1000, 1);
    out.picofarad = in.numberOr("picofarad", 0, 1e6, 0);
    out.terminatorOhm = in.optionalNumber("terminatorOhm", 0.1, 1e6);
    out.solidInScrews = in.booleanOr("solidInScrews", false);
    in.close();
    return out;
}

} // namespace

Outcome<Bus> readBus(std::string_view json, const std::string& where, const Catalogue& catalogue) {
    const auto parsed = parseJson(json, where);
    if (!parsed)
        return refuse(parsed.error());
    try {
        Bus out;
        JsonObject file(*parsed, where, "");
        const std::string driver = file.string("driver");
        out.driverV = file.numberOr("driverV", 0.01, 100, out.driverV);
        out.sourceOhm = file.numberOr("sourceOhm", 0.1, 1e5, out.sourceOhm);
        out.riseNs = file.numberOr("riseNs", 0.1, 1e6, out.riseNs);
        out.bitRateKbit = file.numberOr("bitRateKbit", 0.1, 1e5, out.bitRateKbit);
        out.thresholdV = file.numberOr("thresholdV", 0, 10, out.thresholdV);
        const auto& nodes = file.array("nodes");
        for (std::size_t i = 0; i < nodes.size(); ++i)
            out.nodes.push_back(readNode(file.item("nodes", nodes[i], i), catalogue, i == 0));
        file.close();
        out.driver = out.nodes.size();
        for (std::size_t i = 0; i < out.nodes.size(); ++i)
            if (out.nodes[i].name == driver)
                out.driver = i;
        if (out.driver == out.nodes.size())
            file.fail("driver",
                      sentence({"bus.none-nodes", "is “{0}”, which is none of the nodes"}, driver),
                      {"cure.name-one-of-them", "Name one of them"});
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
