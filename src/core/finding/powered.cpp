#include "core/finding/run_finding.h"
#include "core/supply/supply.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

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

/// Whether the type's watts arrive, at its least source volts.
SupplyFinding supplyOver(const PoweredType& type, const Run& run, const Catalogue& catalogue) {
    SupplyLine line;
    line.supplyV = type.leastSourceV;
    line.loopOhmPerM = 1; // the load lies at so many ohms of loop
    SupplyLoad load;
    load.atM =
        poweredLoopOhm(type, loopResistanceOhm(linkOf(run, catalogue, LinkKind::Channel, nullptr),
                                               catalogue.temperature));
    load.watt = type.deviceW;
    line.loads = {load};
    const auto supply = findSupply(line);
    if (!supply)
        return {};
    SupplyFinding out = *supply;
    out.delivered = out.delivered && out.supplyAmpere * line.supplyV <= type.sourceW + 0.05;
    return out;
}

/// The longest it could be and still be fed, to a decimetre.
double fedToM(const PoweredType& type, const Run& run, const Catalogue& catalogue) {
    double low = 0;
    double high = run.lengthM();
    while (high - low > 0.1) {
        const double middle = (low + high) / 2;
        (supplyOver(type, withLength(run, middle), catalogue).delivered ? low : high) = middle;
    }
    return low;
}

/// How many of such cables may lie together there; 0: not even one by itself.
int togetherWithin(const PoweredType& type, RunStretch stretch, const Cable& cable,
                   const Catalogue& catalogue) {
    for (; stretch.neighbours >= 0; --stretch.neighbours)
        if (!warmthOf(type, stretch, cable, catalogue).overRating)
            return stretch.neighbours + 1;
    return 0;
}

void judgePowered(const PoweredType& type, const Run& run, const RunStretch& warmest,
                  const Cable& cable, const Catalogue& catalogue, PoweredFinding& out) {
    if (out.overRating) {
        const int together = togetherWithin(type, warmest, cable, catalogue);
        out.reason =
            together == 0
                ? sentence({"powered.warm-alone",
                            "about {0} in the bundle of {1} of “{2}”, over what the cable is rated "
                            "for: not even one by itself stays within it there"},
                           asCelsius(out.warmestC), asCount(warmest.neighbours + 1), warmest.name)
                : sentence({"powered.warm",
                            "about {0} in the bundle of {1} of “{2}”, over what the "
                            "cable is rated for: {3} together would stay within it"},
                           asCelsius(out.warmestC), asCount(warmest.neighbours + 1), warmest.name,
                           asCount(together));
    } else if (!out.delivered) {
        const double to = fedToM(type, run, catalogue);
        out.reason =
            to > 1
                ? sentence({"powered.far", "{0} cannot be delivered over {1} of this cable; up to "
                                           "{2} they would arrive"},
                           asWatt(type.deviceW), asMetres(run.lengthM()),
                           asMetres(std::floor(to), 0))
                : sentence({"powered.never", "{0} cannot be delivered over {1} of this cable"},
                           asWatt(type.deviceW), asMetres(run.lengthM()));
    }
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
    const SupplyFinding supply = supplyOver(*type, run, catalogue);
    out.delivered = supply.delivered;
    if (!supply.points.empty() && supply.points[0].volt > 0) {
        out.deviceV = supply.points[0].volt;
        out.ampere = supply.supplyAmpere;
    }
    judgePowered(*type, run, warmest, *cable, catalogue, out);
    return out;
}

} // namespace burin
