#pragma once
#include "core/pull/box_plan.h"

namespace burin {

/// The most binaries and the most nodes that are tried: within them an answer takes some
/// hundredths of a second.
struct ExactEffort {
    std::size_t mostBinaries = 300;
    int mostNodes = 400;
};

/// Where a plan opens more boxes than its lower bound, asks a solver of whole-number programmes
/// (GLPK) kind by kind whether fewer would do: finds a plan that does, or raises the bound because
/// none can be. Nobody buys a box to leave one at hand closed: no more new ones are taken than
/// before. What is too large, or of several colours, or not answered within the effort, stays
/// as it was. Counts nodes and not time: deterministic.
BoxPlan fewestBoxes(BoxPlan plan, const std::vector<WantsBox>& cables,
                    const std::vector<BoxAtHand>& atHand, const BoxPlanRules& rules,
                    const ExactEffort& effort = {});

} // namespace burin
