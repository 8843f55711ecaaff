#pragma once
#include "core/finding/run_finding.h"

/// Part of findRun; screens and commands want core/finding/run_finding.h.
namespace burin {

/// Something to be seen to on a run, whatever its length.
struct RunMatter {
    Sentence said;
    bool bad = false; ///< with it the run cannot be called good; else a note
};

/// Connectors that do not fit, a cable over its rating, power asked of coax, screens that end half
/// way, links too short for class limits, what a leased circuit's wiring wants.
std::vector<RunMatter> runMatters(const Run& run, const RunFinding& finding,
                                  const Catalogue& catalogue, const Cable& cable,
                                  const Service* service);

/// True of a run from an aerial or a dish, or with an end that weather reaches; its way may lie
/// outdoors besides.
bool comesFromOutdoors(const Run& run, const Service* service);
/// What to say of such a run.
Sentence lightningCaution();

} // namespace burin
