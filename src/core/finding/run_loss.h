#pragma once
#include "core/base/working.h"
#include "core/finding/run_finding.h"

namespace burin {

/// Everything the signal passes from the near end of the channel to its far end, at one frequency.
/// Together they are `linkLoss` of the channel: whatever shows a loss by its parts shows these. A
/// coupler in line stands where it lies, one beyond the cable's end at its end.
std::vector<LossStep> lossSteps(const Run& run, const Catalogue& catalogue, double frequencyMhz);

/// Loss along the channel: metres from its near end, dB up to there.
struct RunningLoss {
    std::vector<double> atM, lossDb;
};
RunningLoss runningLoss(const std::vector<LossStep>& steps);

/// Those steps, each with its figures, and what they come to.
Working lossWorking(const Run& run, const Catalogue& catalogue, double frequencyMhz);

} // namespace burin
