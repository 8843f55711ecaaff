#include "core/job/table_parts.h"
#include "core/job/tree_unit.h"

namespace burin {

std::vector<Field> partFields() {
    using T = DistributionPart;
    // What a part is made of depends on what it is: its keys stand among the part's own.
    auto unit = nestedField(
        "unit", &T::unit, [](const TreeUnit& u) { return toJson(u); },
        [](JsonObject& in, const std::string&) { return readUnit(in); });
    unit.field.flat = true;
    return fieldsOf<T>(textField("id", &T::id), textField("name", &T::name).mayLack(),
                       textField("from", &T::from).refers("part", Gone::Refuse).mayLack(),
                       textField("runId", &T::runId).refers("run", Gone::Clear).mayLack(),
                       flagField("fromTap", &T::fromTap).leftOut(), std::move(unit),
                       placeField(&T::order));
}

std::vector<Field> distributionFields() {
    using T = Distribution;
    return fieldsOf<T>(
        textField("id", &T::id), textField("name", &T::name), textField("serviceId", &T::serviceId),
        numberField("headLevel", &T::headLevel, -200, 300),
        numberField("slopeDb", &T::slopeDb, -40, 40).mayLack(),
        wholeField("channels", &T::channels, 1, 10000),
        wholeField("headOutputs", &T::headOutputs, 0, 64),
        numberField("headAmpere", &T::headAmpere, 0, 5).mayLack(),
        numberField("headCarrierToNoiseDb", &T::headCarrierToNoiseDb, 0, 150).since(5),
        childrenField("parts", &T::parts, Kind::Part));
}

std::vector<Field> deviceFields() {
    using T = BusDevice;
    constexpr double mostM = 1e5;
    return fieldsOf<T>(textField("name", &T::name),
                       textField("runId", &T::runId).refers("run", Gone::Clear).mayLack(),
                       numberField("stubM", &T::stubM, 0, mostM).mayLack(),
                       numberField("unitLoads", &T::unitLoads, 0, 1000).mayLack(),
                       numberField("picofarad", &T::picofarad, 0, 1e6).mayLack(),
                       numberField("terminatorOhm", &T::terminatorOhm, 0.1, 1e6),
                       flagField("screwTerminals", &T::screwTerminals).mayLack(),
                       numberField("ampere", &T::ampere, 0, 100).mayLack(),
                       numberField("strikeAmpere", &T::strikeAmpere, 0, 100).mayLack(),
                       numberField("leastV", &T::leastV, 0, 1000).mayLack(),
                       numberField("mostV", &T::mostV, 0, 1000), textField("id", &T::id).since(6),
                       placeField(&T::order));
}

std::vector<Field> busFields() {
    using T = BusChain;
    return fieldsOf<T>(textField("id", &T::id), textField("name", &T::name),
                       numberField("riseNs", &T::riseNs, 0.1, 1e6),
                       numberField("bitRateKbit", &T::bitRateKbit, 0.1, 1e5),
                       numberField("supplyV", &T::supplyV, 0, 1000),
                       numberField("supplyToleranceShare", &T::supplyToleranceShare, 0, 0.99),
                       wholeField("supplyPairs", &T::supplyPairs, 1, 100),
                       numberField("supplyAwg", &T::supplyAwg, 4, 40),
                       childrenField("devices", &T::devices, Kind::Device));
}

} // namespace burin
