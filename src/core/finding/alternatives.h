#pragma once
#include "core/finding/run_finding.h"

/// Parts of findRun and findJob.
namespace burin {

/// The run rebuilt in another cable of its kind: parts of a lower category are raised with it,
/// since a Cat 5e cord would hold a Cat 6A cable down; connectors that would not fit a coax are
/// replaced by the first that does.
Run rebuilt(const Run& run, const Catalogue& catalogue, const Cable& cable);

void setReaches(RunFinding& out, const JobInfo& info, const Run& run, const Catalogue& catalogue,
                const Cable& cable);
/// Changes that would make the run hold, cheapest first, each put in place and computed with the
/// whole of what the run is part of; then what falls short, and by how much.
std::vector<Cure> curesOf(const Job& job, const Run& run, const Catalogue& catalogue);

/// The run with a cure adopted.
Run cured(Run run, const Cure& cure);

} // namespace burin
