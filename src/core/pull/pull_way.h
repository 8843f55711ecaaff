#pragma once
#include "core/pull/tension.h"
#include "core/site/route.h"

namespace burin {

/// Friction of cables on what they are pulled over. Source: reference page section 11.
struct PullFriction {
    double dry = 0.5;         ///< in conduit, and where cable slides over whatever is there
    double lubricated = 0.25; ///< in conduit
    double rollers = 0.2;     ///< over rollers or hooks, with a helper at each bend
};

/// The way as it is pulled through, from the first leg to the last: straight pieces with their
/// rise, and a bend wherever its direction changes by more than 10°. A leg through the open goes
/// square, and dry.
std::vector<PullPart> pullWay(const std::vector<RouteLeg>& legs, const WayGraph& graph,
                              bool lubricated, const PullFriction& friction = {});

/// How many closed ways it passes: both ends of each want a bushing where they are cut.
std::size_t cutConduits(const std::vector<RouteLeg>& legs, const WayGraph& graph);

/// Whether a closed way wants lubricant: over 30 m of it, or over two right angles.
bool wantsLubricant(double closedM, double turnedRad);

} // namespace burin
