#include "core/job/tree_unit.h"

namespace burin {

int TreeUnit::ports() const {
    switch (part) {
    case TreePart::Outlet:
        return 0;
    case TreePart::Splitter:
    case TreePart::Multiswitch:
        return ways;
    case TreePart::Tap:
        return 2;
    case TreePart::Amplifier:
    case TreePart::Pad:
    case TreePart::Equaliser:
    case TreePart::DcBlock:
    case TreePart::SurgeArrester:
        break;
    }
    return 1;
}

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

} // namespace burin
