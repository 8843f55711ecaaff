#include "core/catalogue/costs.h"
#include "core/catalogue/catalogue.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {

std::string Cost::text() const {
    const std::string work = formatFixed(hours, 1) + " h";
    return price < 0.5 ? "about " + work + " of work"
                       : "about " + formatFixed(price, 0) + " in parts, " + work;
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
    // Another kind on site wants its own ends and tools; a screen wants to be taken up at both
    // ends.
    const bool screen = then.kind == CableKind::Balanced && then.screen != Screen::None &&
                        now.screen == Screen::None;
    return {std::max(0.0, price(then) - price(now)) + 2 * costs.connector,
            costs.hoursToPutIn * (screen ? 2 : 1)};
}

} // namespace burin
