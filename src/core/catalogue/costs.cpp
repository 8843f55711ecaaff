#include "core/catalogue/costs.h"
#include "core/catalogue/catalogue.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {

Sentence Cost::said() const {
    return price < 0.5 ? sentence({"cost.work", "about {0} of work"}, asUnit(hours, 1, "h"))
                       : sentence({"cost.parts", "about {0} in parts, {1}"}, asNumber(price, 0),
                                  asUnit(hours, 1, "h"));
}

Cost partCost(const Costs& costs, double price, bool mainsFed) {
    return {price, mainsFed ? costs.hoursForMainsFedPart : costs.hoursToPutIn};
}

Cost cableCost(const Costs& costs, const Cable& now, const Cable& then, double lengthM, bool pulled,
               const MetrePrices& own) {
    const auto price = [&](const Cable& cable) {
        const double diameter = cable.diameterMm ? cable.diameterMm->value : 6;
        return costs.cablePerMetrePerSquareMm * diameter * diameter * lengthM;
    };
    const bool known = own.then && (own.now || pulled);
    const double thenPrice = known ? *own.then * lengthM : price(then);
    const double nowPrice = pulled ? 0 : known ? *own.now * lengthM : price(now);
    if (pulled)
        return {thenPrice + 2 * costs.connector,
                costs.hoursToPull + costs.hoursToPullPerMetre * lengthM};
    // Another kind on site wants its own ends and tools; a screen wants to be taken up at both
    // ends.
    const bool screen = then.kind == CableKind::Balanced && then.screen != Screen::None &&
                        now.screen == Screen::None;
    return {std::max(0.0, thenPrice - nowPrice) + 2 * costs.connector,
            costs.hoursToPutIn * (screen ? 2 : 1)};
}

} // namespace burin
