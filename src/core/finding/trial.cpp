#include "core/finding/trial.h"
#include "core/finding/system_finding.h"
#include <algorithm>

namespace burin {

bool inSystem(const Job& job, const std::string& runId) {
    return job.distributionOf(runId) != nullptr || job.busOf(runId) != nullptr;
}

Trial tryRun(const Job& job, const Run& other, const Catalogue& catalogue) {
    Trial out;
    RunFinding found = findRun(job, other, catalogue, {}, quickFinding);
    bool whole = true;
    const Distribution* distribution = job.distributionOf(other.id);
    const BusChain* bus = job.busOf(other.id);
    if (distribution != nullptr || bus != nullptr) {
        Job with = job;
        const auto it = std::find_if(with.runs.begin(), with.runs.end(),
                                     [&](const Run& run) { return run.id == other.id; });
        if (it == with.runs.end())
            return out;
        *it = other;
        if (distribution != nullptr) {
            const auto then = findDistribution(with, *distribution, catalogue, Propose::No);
            overlay(found, then, other, job.info, catalogue);
            whole = then.good;
        }
        if (bus != nullptr) {
            const auto then = findBusChain(with, *bus, catalogue, Propose::No);
            overlay(found, then);
            whole = whole && then.good;
        }
    }
    out.holds = whole && found.isPredicted();
    out.reach = std::move(found.reach);
    out.reason = std::move(found.outlookReason);
    if (!whole && out.reason.empty())
        out.reason = sentence({"trial.whole", "the whole it is part of is not good then"});
    return out;
}

} // namespace burin
