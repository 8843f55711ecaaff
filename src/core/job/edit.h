#pragma once
#include "core/job/job.h"
#include <variant>

namespace burin {

/// One thing put, changed or taken away: `before` empty adds, `after` empty removes.
template <typename T> struct Change {
    std::optional<T> before, after;
    bool operator==(const Change&) const = default;
    [[nodiscard]] const std::string& id() const { return after ? after->id : before->id; }
};
using AnyChange =
    std::variant<Change<JobInfo>, Change<Room>, Change<Run>, Change<Measurement>, Change<UserCable>,
                 Change<Distribution>, Change<BusChain>, Change<Floor>, Change<Place>,
                 Change<Pathway>, Change<MainsRoute>, Change<Surface>, Change<Photograph>>;

/// The only way a job changes. All of its changes happen, or none.
struct Edit {
    std::string title; ///< "set cable on 12 runs"
    std::vector<AnyChange> changes;
    bool operator==(const Edit&) const = default;
};

/// The job with the edit done. Refused, with the job as it was: a `before` that is not what the
/// job holds, a label twice or empty, a reference to nothing, a length that is negative or not a
/// number.
Outcome<Job> apply(const Job& job, const Edit& edit);
/// The edit that takes this one back.
Edit inverse(const Edit& edit);

/// The changes that take a run away with its tests, and out of the distribution or bus it feeds: an
/// outlet or a bus device goes with its run, another part stays and touches what came before.
std::vector<AnyChange> removalOf(const Job& job, std::string_view runId);

/// Changes that turn `before` into `after`, for one kind of thing.
template <typename T> AnyChange put(std::optional<T> before, std::optional<T> after) {
    return Change<T>{std::move(before), std::move(after)};
}

} // namespace burin
