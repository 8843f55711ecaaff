#include "core/catalogue/costs.h"
#include "core/catalogue/catalogue.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {

std::string Cost::text() const {
    return "about " + formatFixed(price, 0) + " in parts, " + formatFixed(hours, 1) + " h";
}

Cost partCost(const Costs& costs, double price, bool mainsFed) {
    return {price, mainsFed ? costs.hoursForMainsFedPart : costs.hoursToPutIn};
}

Cost cableCost(const Costs& costs, const Cable& now, const Cable& then, double lengthM,
               bool pulled) {
    const auto price = [&](const Cable& cable) {
        const double diameter = cable.diameterMm ? cable.diameterMm->value : 6;
        return costs.cablePerMetrePerSquareMm * diameter * diameter * lengthM;
    };
    if (pulled)
        return {price(then) + 2 * costs.connector,
                costs.hoursToPull + costs.hoursToPullPerMetre * lengthM};
    return {std::max(0.0, price(then) - price(now)), 0};
}

} // namespace burin
