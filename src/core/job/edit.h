#pragma once
#include "core/job/job.h"
#include <array>
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

/// What the jobKinds of things are called in files and the logbook, in the order of AnyChange.
inline constexpr std::array<std::string_view, 13> jobKinds{
    "job",   "room",  "run",     "measurement", "cable",   "distribution", "bus",
    "floor", "place", "pathway", "mains",       "surface", "photograph"};
static_assert(jobKinds.size() == std::variant_size_v<AnyChange>);
inline std::string_view kindOf(const AnyChange& change) {
    return jobKinds[change.index()];
}
/// Calls `see` with everything a job holds, its own figures first.
template <typename See> void everyThing(const Job& job, See see) {
    see(job.info);
    const auto all = [&](const auto&... lists) {
        const auto each = [&](const auto& list) {
            for (const auto& thing : list)
                see(thing);
        };
        (each(lists), ...);
    };
    all(job.rooms, job.runs, job.measurements, job.cables, job.distributions, job.buses, job.floors,
        job.places, job.pathways, job.mains, job.surfaces, job.photographs);
}

/// The only way a job changes. All of its changes happen, or none.
struct Edit {
    std::string title; ///< "set cable on 12 runs"
    std::vector<AnyChange> changes;
    bool operator==(const Edit&) const = default;
};

/// The job with the edit done. Refused, with the job as it was: a `before` that is not what the
/// job holds, a label twice or empty, a reference to nothing, a length that is negative or not a
/// number, a text over its limit (core/job/text_limits.h). Time is linear in the job and the edit.
Outcome<Job> apply(const Job& job, const Edit& edit);
/// The edit that takes this one back.
Edit inverse(const Edit& edit);

/// The changes that take runs away with their tests, and out of the distributions and buses they
/// feed: an outlet or a bus device goes with its run, another part stays and touches what came
/// before it.
/// Of several runs at once, in time linear in the job.
std::vector<AnyChange> removalOf(const Job& job, const std::vector<std::string>& runIds);
std::vector<AnyChange> removalOf(const Job& job, std::string_view runId);

/// Changes that turn `before` into `after`, for one kind of thing.
template <typename T> AnyChange put(std::optional<T> before, std::optional<T> after) {
    return Change<T>{std::move(before), std::move(after)};
}

} // namespace burin
