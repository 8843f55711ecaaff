#include "core/catalogue/costs.h"
#include "core/catalogue/catalogue.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {

Sentence Cost::said() const {
    if (price < 0.5 && hours < 0.05)
        return sentence({"cost.none", "no more than planned"});
    return price < 0.5
               ? sentence({"cost.work", "about {0} of work"}, work())
               : sentence({"cost.parts", "about {0} in parts, {1}"}, asNumber(price, 0), work());
}

Quantity Cost::work() const {
    return hours < 1 ? asUnit(hours * 60, 0, "min") : asUnit(hours, 1, "h");
}

Cost partCost(const Costs& costs, double price, bool mainsFed) {
    return {price, mainsFed ? costs.hoursForMainsFedPart : costs.hoursToPutIn};
}

namespace {

double perMetreByDiameter(const Costs& costs, const Cable& cable) {
    const double diameter = cable.diameterMm ? cable.diameterMm->value : 6;
    return costs.cablePerMetrePerSquareMm * diameter * diameter;
}

} // namespace

Cost moreCable(const Costs& costs, const Cable& cable, double lengthM) {
    const auto own = costs.ownPerMetre.find(cable.id);
    const double more = std::max(0.0, lengthM);
    return {more *
                (own != costs.ownPerMetre.end() ? own->second : perMetreByDiameter(costs, cable)),
            more * costs.hoursToPullPerMetre};
}

Cost cableCost(const Costs& costs, const Cable& now, const Cable& then, double lengthM,
               bool pulled) {
    const auto& own = costs.ownPerMetre;
    const bool known = own.contains(then.id) && (pulled || own.contains(now.id));
    const auto price = [&](const Cable& cable) {
        return lengthM * (known ? own.at(cable.id) : perMetreByDiameter(costs, cable));
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
