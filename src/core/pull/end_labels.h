#pragma once
#include "core/job/job.h"

namespace burin {

/// What is written on one label: at an end of a run, or the second one well behind the cut.
struct EndLabel {
    std::string runId;
    std::string label; ///< of the run: "SL-D03"
    End end = End::Near;
    bool behindCut = false;
    std::string here, there; ///< what this end and the other one are called; may be empty
    bool operator==(const EndLabel&) const = default;
};

/// Labels of those runs, or of all of them where none are named, in the job's order: near end, its
/// second, far end, its second. None of a run that is not told apart.
std::vector<EndLabel> endLabels(const Job& job, const std::vector<std::string>& runIds = {});
/// One a line, with a head line (RFC 4180).
std::string labelsCsv(const std::vector<EndLabel>& labels);

} // namespace burin
