#include "core/supply/supply.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <numeric>

namespace burin {
namespace {

using std::numbers::pi;
constexpr double leastHeadV = 11.5;
constexpr double headSwitchV = 15.0;
constexpr double dropPerDeviceV = 0.1;
constexpr double bundleConductivity = 0.2; // W/mK

Outcome<bool> check(const SupplyLine& line) {
    if (!(line.supplyV > 0))
        return refuse("supply", {"supply.volts-not-above", "its volts are not above 0"},
                      {"cure.give-volts-set", "Give the volts it is set to"});
    if (!(line.toleranceShare >= 0 && line.toleranceShare < 1))
        return refuse("supply",
                      {"supply.tolerance-no-share", "its tolerance is no share from 0 to 1"},
                      {"cure.give-how-much", "Give how much lower it may be, 0 to 50 %"});
    if (!(line.loopOhmPerM >= 0) || line.pairs < 1)
        return refuse("line", {"supply.resistance-below-no", "a resistance below 0, or no pair"},
                      {"cure.choose-cable-pairs", "Choose a cable and its pairs"});
    for (const auto& load : line.loads) {
        if (!(load.atM >= 0))
            return refuse(load.name,
                          sentence({"supply.lies", "it lies at {0}"}, asMetres(load.atM, 1)),
                          {"cure.give-distance-supply", "Give its distance from the supply"});
        if (load.ampere.has_value() == load.watt.has_value())
            return refuse(
                load.name,
                {"supply.neither-both-current", "it has neither or both of a current and a power"},
                {"cure.give-peak-current", "Give its peak current, or its power"});
        if (load.ampere.value_or(load.watt.value_or(0)) < 0)
            return refuse(load.name, {"supply.takes-less-nothing", "it takes less than nothing"},
                          {"cure.give-takes-peak", "Give what it takes at its peak"});
    }
    return true;
}

/// Volts at the loads, in the order of `order` (by distance), for given currents.
std::vector<double> voltsFor(const SupplyLine& line, const std::vector<std::size_t>& order,
                             const std::vector<double>& ampere, double sourceV) {
    std::vector<double> out(ampere.size());
    double downstream = std::accumulate(ampere.begin(), ampere.end(), 0.0);
    double volt = sourceV;
    double at = 0;
    for (const std::size_t i : order) {
        const double ohm = (line.loads[i].atM - at) * line.loopOhmPerM / line.pairs;
        volt -= downstream * ohm;
        at = line.loads[i].atM;
        out[i] = volt;
        downstream -= ampere[i];
    }
    return out;
}

} // namespace

Outcome<SupplyFinding> findSupply(const SupplyLine& line) {
    if (auto good = check(line); !good)
        return refuse(good.error());
    std::vector<std::size_t> order(line.loads.size());
    std::iota(order.begin(), order.end(), 0U);
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        return line.loads[a].atM < line.loads[b].atM;
    });
    const double lowV = line.supplyV * (1 - line.toleranceShare);
    std::vector<double> volt(line.loads.size(), lowV);
    std::vector<double> ampere(line.loads.size());
    SupplyFinding out;
    // From the full volts down: each round the volts fall and the currents rise, until they settle
    // at the upper working point or fall through the floor.
    for (int round = 0; round < 20000; ++round) {
        for (std::size_t i = 0; i < ampere.size(); ++i)
            ampere[i] =
                line.loads[i].ampere ? *line.loads[i].ampere : *line.loads[i].watt / volt[i];
        std::vector<double> next = voltsFor(line, order, ampere, lowV);
        double change = 0;
        for (std::size_t i = 0; i < next.size(); ++i)
            change = std::max(change, std::abs(next[i] - volt[i]));
        volt = std::move(next);
        out.delivered = std::all_of(volt.begin(), volt.end(), [](double v) { return v > 0; });
        if (!out.delivered || change < 1e-10)
            break;
    }
    out.supplyAmpere = std::accumulate(ampere.begin(), ampere.end(), 0.0);
    double used = 0;
    const double raised =
        line.supplyV * (1 + line.toleranceShare) - line.supplyV * (1 - line.toleranceShare);
    for (std::size_t i = 0; i < line.loads.size(); ++i) {
        const auto& load = line.loads[i];
        used += volt[i] * ampere[i];
        out.points.push_back({load.name, load.atM, volt[i], ampere[i],
                              out.delivered && volt[i] >= load.leastV,
                              load.mostV && volt[i] + raised > *load.mostV});
    }
    out.lostWatt = lowV * out.supplyAmpere - used;
    return out;
}

Outcome<double> longestSupplyM(const SupplyLine& line, const SupplyLoad& load) {
    SupplyLine one = line;
    one.loads = {load};
    if (auto good = check(one); !good)
        return refuse(good.error());
    const double lowV = line.supplyV * (1 - line.toleranceShare);
    const double ohmPerM = line.loopOhmPerM / line.pairs;
    const double endV = load.watt ? std::max(load.leastV, lowV / 2) : load.leastV;
    const double ampere = load.watt ? *load.watt / endV : *load.ampere;
    if (!(ampere * ohmPerM > 0))
        return refuse(load.name,
                      {"supply.nothing-flows-no", "nothing flows, so no length is too long"},
                      {"cure.give-current-cable", "Give its current and a cable with resistance"});
    return std::max(0.0, (lowV - endV) / (ampere * ohmPerM));
}

Outcome<PoweredType> poweredType(int type) {
    static constexpr std::array<PoweredType, 4> types{{{1, 15.4, 12.95, 2, 44, 20},
                                                       {2, 30, 25.5, 2, 50, 12.5},
                                                       {3, 60, 51, 4, 50, 12.5},
                                                       {4, 90, 71.3, 4, 52, 12.5}}};
    if (type < 1 || type > 4)
        return refuse(
            "powered data line",
            sentence({"supply.no-type", "there is no type {0}"}, asCount(type)),
            {"cure.types-w-source", "Types are 1 to 4: 15.4, 30, 60 and 90 W at the source"});
    return types[static_cast<std::size_t>(type - 1)];
}

Outcome<PoweredType> poweredClass(int deviceClass) {
    static constexpr std::array<PoweredType, 8> classes{{{1, 4, 3.84, 2, 44, 20},
                                                         {1, 7, 6.49, 2, 44, 20},
                                                         {1, 15.4, 12.95, 2, 44, 20},
                                                         {2, 30, 25.5, 2, 50, 12.5},
                                                         {3, 45, 40, 4, 50, 12.5},
                                                         {3, 60, 51, 4, 50, 12.5},
                                                         {4, 75, 62, 4, 52, 12.5},
                                                         {4, 90, 71.3, 4, 52, 12.5}}};
    if (deviceClass < 1 || deviceClass > 8)
        return refuse("powered data line",
                      sentence({"supply.no-class", "there is no class {0}"}, asCount(deviceClass)),
                      {"cure.classes-powered-devices",
                       "Classes of powered devices are 1 to 8: 3.84 to 71.3 W"});
    return classes[static_cast<std::size_t>(deviceClass - 1)];
}

double poweredLoopOhm(const PoweredType& type, double pairLoopOhm) {
    return pairLoopOhm / type.pairs;
}

HeadSupply findHeadSupply(double loopOhm, double ampere, int devices) {
    const double drop = loopOhm * ampere + dropPerDeviceV * devices;
    HeadSupply out{13 - drop, 18 - drop};
    out.works = out.lowV >= leastHeadV;
    out.choosesHigh = out.highV >= headSwitchV;
    out.choosesLow = out.lowV < headSwitchV;
    return out;
}

double bundleRiseC(int cables, double wattPerM, double cableDiameterMm, Surroundings around) {
    const double transfer = around == Surroundings::FreeAir   ? 8
                            : around == Surroundings::Conduit ? 5
                                                              : 3; // W/m²K
    const double diameterM = 1.15 * cableDiameterMm / 1000 * std::sqrt(cables);
    const double heat = cables * wattPerM;
    return heat / (pi * diameterM * transfer) + heat / (4 * pi * bundleConductivity);
}

double cableHeatWattPerM(double ampere, int pairs, double conductorOhmPerM) {
    // Half the pairs carry the current out, half back; both wires of a pair share it.
    const double each = ampere / pairs;
    return 2 * pairs * each * each * conductorOhmPerM;
}

WarmthFinding findWarmth(const WarmthQuestion& q) {
    WarmthFinding out;
    out.cableC = q.ambientC;
    for (int round = 0; round < 200; ++round) {
        const double ohm = q.conductorOhmPerM * (1 + q.copperPerDegree * (out.cableC - 20));
        out.wattPerM = cableHeatWattPerM(q.ampere, q.pairs, ohm);
        out.riseC = bundleRiseC(q.cables, out.wattPerM, q.cableDiameterMm, q.around);
        const double next = q.ambientC + out.riseC;
        const bool settled = std::abs(next - out.cableC) < 1e-9;
        out.cableC = next;
        if (settled || out.cableC > 500)
            break;
    }
    out.overRating = out.cableC > q.ratedC;
    return out;
}

} // namespace burin
