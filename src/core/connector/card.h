#pragma once
#include "core/connector/fit.h"
#include "core/job/job.h"
#include <string>
#include <vector>

namespace burin {

/// How one end is made: the card that holds for a connector on a cable, and whether they fit.
struct CardFinding {
    const EndCard* card = nullptr; ///< of the catalogue; nullptr: there is none
    const Connection* connection = nullptr;
    const Cable* cable = nullptr;
    std::vector<FitPoint> fit;
    bool fits = false;
};
/// The first card of the catalogue that is for both. `topMhz` is the highest frequency it must
/// carry, 0 where nobody asks; `outdoors` where weather reaches it.
CardFinding findCard(const Connection& connection, const Cable& cable, const Catalogue& catalogue,
                     double topMhz = 0, bool outdoors = false);
/// That card alone; nullptr: there is none.
const EndCard* cardFor(const Connection& connection, const Cable& cable,
                       const Catalogue& catalogue);

/// The place among a run's connections of the one that is on its cable at that end: the first that
/// grips a cable of its kind. None: their number.
std::size_t connectorAt(const Run& run, End end, const Catalogue& catalogue);

/// The one there; nullptr: nobody chose one.
const Connection* chosenConnector(const Run& run, End end, const Catalogue& catalogue);
/// The same, or what is usual on its cable; nullptr: nothing is.
const Connection* connectorFor(const Run& run, End end, const Catalogue& catalogue);
/// What such an end takes: the connector's minutes, or the plain ones where it has none.
double endMinutes(const Connection* connection, const WorkRules& work);

/// A length or a range of them in both systems, "6.4 mm · 0.25 in", "30–50 mm · 1.2–2 in", "at most
/// 13 mm · 0.51 in"; without figures "from the part's sheet".
Sentence rangeOf(std::optional<double> leastMm, std::optional<double> mostMm);

} // namespace burin
