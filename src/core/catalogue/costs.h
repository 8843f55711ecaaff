#pragma once
#include "core/base/sentence.h"
#include <map>

namespace burin {

struct Cable;

/// Prices and hours of the changes that are proposed, in any one currency: they rank changes,
/// cheapest first, and are no offer. Source: plain defaults of catalogue/costs.json.
struct Costs {
    double perHour = 0;
    double pad = 0, equaliser = 0, amplifier = 0, terminator = 0, supply = 0, connector = 0;
    double cablePerMetrePerSquareMm = 0; ///< of the square of the jacket's diameter
    double hoursToPutIn = 0;             ///< a part that is screwed in
    double hoursForMainsFedPart = 0;     ///< one that wants a socket
    double hoursToPull = 0, hoursToPullPerMetre = 0;
    double hoursToMoveHeadEnd = 0; ///< before anything ends there: its place, mains and earth
    std::map<std::string, double> ownPerMetre; ///< a job's own price of a metre, by cable
    std::string source;
};

/// What a change takes.
struct Cost {
    double price = 0, hours = 0;
    [[nodiscard]] double total(const Costs& costs) const { return price + hours * costs.perHour; }
    Cost& operator+=(const Cost& other) {
        price += other.price;
        hours += other.hours;
        return *this;
    }
    /// "about 27 in parts, 30 min"; "no more than planned".
    [[nodiscard]] Sentence said() const;
    /// Minutes below an hour: a quarter of one has no decimal of its own.
    [[nodiscard]] Quantity work() const;
    bool operator==(const Cost&) const = default;
};

/// A part put in; one that wants mains takes longer.
Cost partCost(const Costs& costs, double price, bool mainsFed = false);
/// So many metres of another cable: pulled anew and made off with two ends where the first lies
/// already; else what it costs more than the one that was planned. By the job's own prices, where
/// it has those of all that is compared; else by the diameters.
Cost cableCost(const Costs& costs, const Cable& now, const Cable& then, double lengthM,
               bool pulled);

/// So much more of a cable that is still to be pulled; less costs nothing.
Cost moreCable(const Costs& costs, const Cable& cable, double lengthM);

} // namespace burin
