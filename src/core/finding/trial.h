#pragma once
#include "core/finding/run_finding.h"

namespace burin {

/// As little as a verdict takes.
inline constexpr FindingOptions quickFinding{
    .points = 4, .alternatives = false, .measurements = false, .reaches = false};

/// Whether a run is part of a distribution or a bus.
bool inSystem(const Job& job, const std::string& runId);

/// How a run would fare, changed.
struct Trial {
    bool holds = false; ///< the run, and the whole of the distribution or bus it is part of
    Reach reach;
    Sentence reason;
};
/// Puts `other` in the place of the job's run of the same id and computes it: reach, fit, warmth,
/// power, and its whole system.
Trial tryRun(const Job& job, const Run& other, const Catalogue& catalogue);

} // namespace burin
