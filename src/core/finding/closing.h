#pragma once
#include "core/finding/run_finding.h"
#include "core/finding/site_finding.h"

namespace burin {

/// A surface that will be closed, with the runs behind it and what of them is still to do.
struct Closing {
    std::string surfaceId, name, closesOn;
    std::vector<std::string> behind, noPhotograph, untested; ///< ids of runs
    [[nodiscard]] bool done() const { return noPhotograph.empty() && untested.empty(); }
};

/// Surfaces with a date, nearest first. Behind a wall lies what runs within 0.3 m of it; above a
/// ceiling or under a floor what crosses its room (or the whole floor) above or below it. A
/// photograph of the surface counts for all behind it, one of a run for that run.
std::vector<Closing> closings(const Job& job, const SitePlan& plan,
                              const std::vector<RunFinding>& findings);

} // namespace burin
