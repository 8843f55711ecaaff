#include "core/finding/reads.h"
#include <algorithm>

namespace burin {

bool RunReads::operator==(const RunReads& other) const {
    return *run == *other.run && *info == *other.info &&
           std::equal(tests.begin(), tests.end(), other.tests.begin(), other.tests.end(),
                      [](const auto* a, const auto* b) { return *a == *b; });
}

const Run* SystemReads::run(std::string_view id) const {
    const auto it = runs_.find(id);
    return it == runs_.end() ? nullptr : it->second.run;
}

bool SystemReads::isMeasured(std::string_view id) const {
    const auto it = runs_.find(id);
    return it != runs_.end() && it->second.measured;
}

bool SystemReads::operator==(const SystemReads& other) const {
    return std::equal(runs_.begin(), runs_.end(), other.runs_.begin(), other.runs_.end(),
                      [](const auto& a, const auto& b) {
                          return a.first == b.first && a.second.measured == b.second.measured &&
                                 *a.second.run == *b.second.run;
                      });
}

JobReads::JobReads(const Job& job) : job_(job) {
    runs_.reserve(job.runs.size());
    for (const auto& run : job.runs)
        runs_.emplace(run.id, &run);
    for (const auto& m : job.measurements)
        tests_[m.runId].push_back(&m);
}

const Run* JobReads::run(std::string_view id) const {
    const auto it = runs_.find(id);
    return it == runs_.end() ? nullptr : it->second;
}

RunReads JobReads::of(const Run& run) const {
    const auto it = tests_.find(run.id);
    return {&job_.info, &run, it == tests_.end() ? std::vector<const Measurement*>() : it->second};
}

void JobReads::add(SystemReads& out, const std::string& runId) const {
    if (const Run* of = run(runId))
        out.runs_.emplace(of->id, SystemReads::Of{of, tests_.contains(runId)});
}

SystemReads JobReads::of(const Distribution& system) const {
    SystemReads out;
    for (const auto& part : system.parts)
        add(out, part.runId);
    return out;
}

SystemReads JobReads::of(const BusChain& system) const {
    SystemReads out;
    for (const auto& device : system.devices)
        add(out, device.runId);
    return out;
}

} // namespace burin
