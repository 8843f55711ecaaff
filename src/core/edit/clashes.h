#pragma once
#include "core/job/job.h"

namespace burin {

/// What stands in a job and should not: it comes of two people's work, each in itself in order.
struct Clash {
    std::string runId;   ///< of the run at fault; empty: it is of none
    std::string otherId; ///< of the run it clashes with; the same where it is one run's own
    Fault fault;
};
std::vector<Clash> clashesOf(const Job& job);

/// A label twice.
std::vector<Clash> labelClashes(const Job& job);
/// A run that feeds two places.
std::vector<Clash> feedClashes(const Job& job);
/// Two runs on one port.
std::vector<Clash> portClashes(const Job& job);
/// Marks that a box cannot have given: what overlaps, runs against it, or is more than it held.
std::vector<Clash> markClashes(const Job& job);

} // namespace burin
