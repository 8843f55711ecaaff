#pragma once
#include "core/finding/job_findings.h"
#include "core/finding/site_finding.h"

namespace burin {

/// A cable a run's way and service allow, or not, and why.
struct CableChoice {
    std::string cableId, name;
    Jacket jacket = Jacket::Unknown; ///< what its way asks for; Unknown: no one jacket serves
    bool holds = false;
    bool now = false; ///< the run's own cable
    double spareM = 0;
    std::vector<Sentence> reasons; ///< for and against, schools named
};

/// Cables for a run of the laid job, best first: those that hold before those that do not, those
/// that need no change of the plan before others, then the least cable. Where schools differ (6A
/// for new work, screened only where needed, plenum everywhere) the reasons name both. `run` is one
/// of the laid job's. What power is too near is read from the plan's findings; the level a run of a
/// distribution starts from, from `known`.
std::vector<CableChoice> chooseCable(const Job& laid, const Run& run, const SitePlan& plan,
                                     const Catalogue& catalogue,
                                     const JobFindings* known = nullptr);

/// The run in that cable: cords and connections that go with it, and the jacket its way asks for.
Run inCable(const Run& run, const Catalogue& catalogue, const CableChoice& choice);

} // namespace burin
