#include "core/finding/run_finding.h"
#include "core/supply/supply.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {
namespace {

/// Of one cable of a bundle, at the type's least source volts, where it takes most current.
double ampereOf(const PoweredType& type) {
    return type.sourceW / type.leastSourceV;
}

WarmthFinding warmthOf(const PoweredType& type, const RunStretch& stretch, const Cable& cable,
                       const Catalogue& catalogue) {
    WarmthQuestion q;
    q.cables = stretch.neighbours + 1;
    q.ampere = ampereOf(type);
    q.pairs = type.pairs;
    q.conductorOhmPerM = cable.conductorOhmPerKm.value / 1000;
    q.cableDiameterMm = cable.diameterMm->value;
    q.ambientC = stretch.temperatureC;
    q.ratedC = catalogue.temperature.ratedC.value;
    q.copperPerDegree = catalogue.temperature.copperPerDegree.value;
    q.around = stretch.around;
    return findWarmth(q);
}

std::optional<PoweredType> typeOf(const Run& run, const Cable* cable) {
    if (!isPowered(run) || cable == nullptr || cable->kind != CableKind::Balanced ||
        !cable->diameterMm)
        return std::nullopt;
    const auto type =
        run.poweredClass ? poweredClass(*run.poweredClass) : poweredType(*run.poweredType);
    return type ? std::optional(*type) : std::nullopt;
}

void judgePowered(const PoweredType& type, const RunStretch& warmest, PoweredFinding& out) {
    if (out.overRating)
        out.reason = "about " + formatFixed(out.warmestC, 0) + " °C in the bundle of " +
                     std::to_string(warmest.neighbours + 1) + " of “" + warmest.name +
                     "”, over what the cable is rated for: fewer cables together, thicker "
                     "conductors, or a cooler way";
    else if (!out.delivered)
        out.reason = formatWatt(type.deviceW) +
                     " cannot be delivered at this length: a shorter run, thicker conductors, "
                     "or a lower type";
}

} // namespace

bool isPowered(const Run& run) {
    return run.poweredType || run.poweredClass;
}

double stretchTemperatureC(const Run& run, const RunStretch& stretch, const Cable& cable,
                           const Catalogue& catalogue) {
    const auto type = typeOf(run, &cable);
    // A runaway has no temperature of its own: the rating is where it was refused.
    return type ? std::min(warmthOf(*type, stretch, cable, catalogue).cableC, 200.0)
                : stretch.temperatureC;
}

std::optional<PoweredFinding> findPowered(const Run& run, const Catalogue& catalogue) {
    const Cable* cable = catalogue.cable(run.cableId);
    const auto type = typeOf(run, cable);
    if (!type)
        return std::nullopt;
    PoweredFinding out;
    out.type = type->type;
    out.wantedW = type->deviceW;
    RunStretch warmest;
    for (const auto& stretch : run.stretches) {
        const WarmthFinding w = warmthOf(*type, stretch, *cable, catalogue);
        if (w.cableC < out.warmestC)
            continue;
        out.warmestC = w.cableC;
        out.riseC = w.riseC;
        out.overRating = w.overRating;
        warmest = stretch;
    }
    const LinkParts link = linkOf(run, catalogue, LinkKind::Channel, nullptr);
    SupplyLine line;
    line.supplyV = type->leastSourceV;
    line.loopOhmPerM = 1; // the load lies at so many ohms of loop
    SupplyLoad load;
    load.atM = poweredLoopOhm(*type, loopResistanceOhm(link, catalogue.temperature));
    load.watt = type->deviceW;
    line.loads = {load};
    if (const auto supply = findSupply(line)) {
        out.delivered =
            supply->delivered && supply->supplyAmpere * line.supplyV <= type->sourceW + 0.05;
        out.deviceV = supply->delivered ? supply->points[0].volt : 0;
        out.ampere = supply->delivered ? supply->supplyAmpere : 0;
    }
    judgePowered(*type, warmest, out);
    return out;
}

} // namespace burin
