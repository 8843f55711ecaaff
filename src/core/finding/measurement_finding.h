#pragma once
#include "core/finding/run_finding.h"

namespace burin {

/// Lines a service is judged by over one kind of link: its class, or its own plain rules.
std::vector<JudgeLine> linesOf(const Service& service, const JobInfo& info, const Run& run,
                               const Catalogue& catalogue, LinkKind link);

/// One measurement against service, class and prediction. `link` is the run as a channel, null
/// where it has no known cable; `file` is null for a typed answer.
MeasurementFinding findMeasurement(const JobInfo& info, const Run& run, const Catalogue& catalogue,
                                   const Measurement& measurement,
                                   const Outcome<MeasuredFile>* file, const RunFinding& finding,
                                   const LinkParts* link, const Service* service);

/// Judges every measurement of the run and sums them up into `out`.
void findMeasurements(RunFinding& out, const RunReads& reads, const Catalogue& catalogue,
                      const MeasuredFiles& files, const LinkParts* link, const Service* service);

} // namespace burin
