#pragma once
#include "core/finding/pull_finding.h"

/// Steps of `planPulls`: what is to be pulled, and what of it goes together.
namespace burin::pull_drafts {

/// Everything that is asked of a run while pulls are planned.
struct Candidate {
    const Run* run = nullptr;
    const Cable* cable = nullptr;
    const RunRoute* route = nullptr; ///< null: its way is not known
    double lengthM = 0;              ///< planned
    std::optional<MarkedLength> pulled;
    bool there = false; ///< by its marks, or because something was measured on it
    std::string closesOn, closesName;
    std::string colour;
    int order = 0; ///< of its room, then of it
};

/// One pull while the plan is made.
struct Draft {
    const Pull* row = nullptr; ///< null: nobody put it together
    std::vector<std::size_t> members;
    std::size_t there = 0; ///< how many of them are
};

/// Candidates of a job, and its pulls in the order they are done, without their boxes.
struct Drafts {
    std::vector<Candidate> candidates;
    std::vector<Draft> drafts;
    std::vector<NotPulled> left;
};
/// `stock` is the job's. What they hold points into the job, the catalogue and the site.
Drafts makeDrafts(const Job& job, const Catalogue& catalogue, const SitePlan& site,
                  const std::vector<BoxStock>& stock, const std::vector<Closing>& closings);

} // namespace burin::pull_drafts
