#pragma once
#include "core/finding/run_finding.h"

/// Parts of findRun; screens and commands want core/finding/run_finding.h.
namespace burin {

/// The run rebuilt in another cable of its kind: parts of a lower category are raised with it,
/// since a Cat 5e cord would hold a Cat 6A cable down.
Run rebuilt(const Run& run, const Catalogue& catalogue, const Cable& cable);

void setReaches(RunFinding& out, const Job& job, const Run& run, const Catalogue& catalogue,
                const Cable& cable);
/// Changes that would make the run hold, cheapest first.
void setCures(RunFinding& out, const Job& job, const Run& run, const Catalogue& catalogue,
              const Service& service, const Cable& now);
/// Connectors that do not fit, and what the service's wiring wants.
void setNotes(RunFinding& out, const Run& run, const Catalogue& catalogue, const Cable& cable,
              const Service* service);

} // namespace burin
