#pragma once
#include "core/finding/run_finding.h"

/// Parts of findRun and findJob.
namespace burin {

/// The run rebuilt in another cable of its kind: parts of a lower category are raised with it,
/// since a Cat 5e cord would hold a Cat 6A cable down; connectors that would not fit a coax are
/// replaced by the first that does.
Run rebuilt(const Run& run, const Catalogue& catalogue, const Cable& cable);

/// The run with its connections, or its cords, as the cable asks: of its category, screened where
/// it is, fitting.
Run withConnectionsFor(Run run, const Catalogue& catalogue, const Cable& cable);
Run withCordsFor(Run run, const Cable& cable, const Catalogue& catalogue);

void setReaches(RunFinding& out, const JobInfo& info, const Run& run, const Catalogue& catalogue,
                const Cable& cable);
/// Changes that would make the run hold, cheapest first, each put in place and computed with the
/// whole of what the run is part of; then what falls short, and by how much.
std::vector<Cure> curesOf(const Job& job, const Run& run, const Catalogue& catalogue);
/// Those of its connections, its cords and its bundle, of a run that does not hold as it is.
std::vector<Cure> partCures(const Job& job, const Run& run, const Catalogue& catalogue);
/// What another run in its place would make of it, put in place and computed.
Cure cureBy(CureOf of, const Job& job, const Run& other, const Run& run,
            const Catalogue& catalogue);
/// Cheapest first among what holds; the others by how little they are short.
void rank(std::vector<Cure>& cures, const Costs& costs);

/// The run with a cure adopted; as it is where the cure is of a place.
Run cured(Run run, const Cure& cure);

} // namespace burin
