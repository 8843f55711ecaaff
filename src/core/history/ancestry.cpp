#include "core/history/ancestry.h"
#include <algorithm>

namespace burin {

Outcome<Ancestry> Ancestry::of(const std::vector<const LogRow*>& steps) {
    Ancestry out;
    std::unordered_map<std::string_view, std::size_t> index;
    std::vector<std::size_t> lastOf; // by thread: its last step
    for (std::size_t i = 0; i < steps.size(); ++i) {
        std::vector<std::size_t> parents;
        for (const auto& id : steps[i]->parents) {
            const auto it = index.find(id);
            if (it == index.end())
                return refuse(
                    "the logbook",
                    sentence({"log.step-before-missing", "the step before “{0}” is missing"},
                             steps[i]->title),
                    {"cure.restore-job-copy", "Restore the job from a copy"});
            parents.push_back(it->second);
        }
        index.emplace(steps[i]->id, i);
        if (parents.size() == 1) {
            const At parent = out.at_[parents.front()];
            if (lastOf[parent.thread] == parents.front()) {
                out.at_.push_back({parent.thread, parent.place + 1});
                lastOf[parent.thread] = i;
                continue;
            }
        }
        auto& known = out.known_.emplace_back();
        for (const std::size_t parent : parents) {
            const At at = out.at_[parent];
            for (const auto& [thread, place] : out.known_[at.thread])
                known[thread] = std::max(known[thread], place);
            known[at.thread] = std::max(known[at.thread], at.place);
            out.branches_[at.thread].push_back(at.place);
        }
        out.branches_.emplace_back();
        out.at_.push_back({lastOf.size(), 1});
        lastOf.push_back(i);
    }
    return out;
}

bool Ancestry::undisturbed(std::size_t a, std::size_t b) const {
    const At& first = at_[a];
    const At& then = at_[b];
    const auto& branches = branches_[first.thread];
    return first.thread == then.thread && first.place < then.place &&
           std::none_of(branches.begin(), branches.end(), [&](std::size_t place) {
               return place >= first.place && place < then.place;
           });
}

bool Ancestry::before(std::size_t a, std::size_t b) const {
    const At& first = at_[a];
    const At& then = at_[b];
    if (first.thread == then.thread)
        return first.place < then.place;
    const auto& known = known_[then.thread];
    const auto it = known.find(first.thread);
    return it != known.end() && it->second >= first.place;
}

} // namespace burin
