#include "core/job/edit.h"
#include "core/job/system_edit.h"
#include <algorithm>
#include <cmath>
#include <set>
#include <unordered_set>

namespace burin {
namespace {

std::vector<Room>& listOf(Job& job, const Room*) {
    return job.rooms;
}
std::vector<Run>& listOf(Job& job, const Run*) {
    return job.runs;
}
std::vector<Measurement>& listOf(Job& job, const Measurement*) {
    return job.measurements;
}
std::vector<UserCable>& listOf(Job& job, const UserCable*) {
    return job.cables;
}
std::vector<Distribution>& listOf(Job& job, const Distribution*) {
    return job.distributions;
}
std::vector<BusChain>& listOf(Job& job, const BusChain*) {
    return job.buses;
}
std::vector<Floor>& listOf(Job& job, const Floor*) {
    return job.floors;
}
std::vector<Place>& listOf(Job& job, const Place*) {
    return job.places;
}
std::vector<Pathway>& listOf(Job& job, const Pathway*) {
    return job.pathways;
}
std::vector<MainsRoute>& listOf(Job& job, const MainsRoute*) {
    return job.mains;
}
std::vector<Surface>& listOf(Job& job, const Surface*) {
    return job.surfaces;
}
std::vector<Photograph>& listOf(Job& job, const Photograph*) {
    return job.photographs;
}

bool lessShown(const Room& a, const Room& b) {
    return std::tie(a.order, a.letters, a.id) < std::tie(b.order, b.letters, b.id);
}
bool lessShown(const Run& a, const Run& b) {
    return std::tie(a.order, a.label, a.id) < std::tie(b.order, b.label, b.id);
}
bool lessShown(const Measurement& a, const Measurement& b) {
    return std::tie(a.takenAt, a.id) < std::tie(b.takenAt, b.id);
}
bool lessShown(const UserCable& a, const UserCable& b) {
    return a.id < b.id;
}
bool lessShown(const Floor& a, const Floor& b) {
    return std::tie(a.order, a.name, a.id) < std::tie(b.order, b.name, b.id);
}
template <typename T> bool lessShown(const T& a, const T& b) {
    return std::tie(a.name, a.id) < std::tie(b.name, b.id);
}

tl::unexpected<Fault> overtaken(const std::string& title) {
    return refuse("edit “" + title + "”", "the job has changed since this edit was made",
                  "Look at the job as it is now and make the edit again");
}

struct Doer {
    Job& job;
    const Edit& edit;

    Outcome<bool> operator()(const Change<JobInfo>& change) const {
        if (!change.before || !change.after || !(*change.before == job.info))
            return overtaken(edit.title);
        job.info = *change.after;
        return true;
    }
    template <typename T> Outcome<bool> operator()(const Change<T>& change) const {
        auto& list = listOf(job, static_cast<const T*>(nullptr));
        const auto it =
            std::find_if(list.begin(), list.end(), [&](const T& t) { return t.id == change.id(); });
        const bool there = it != list.end();
        if (there != change.before.has_value() || (there && !(*it == *change.before)))
            return overtaken(edit.title);
        if (there)
            list.erase(it);
        if (change.after)
            list.insert(std::upper_bound(list.begin(), list.end(), *change.after,
                                         [](const T& a, const T& b) { return lessShown(a, b); }),
                        *change.after);
        return true;
    }
};

bool isLength(double value) {
    return std::isfinite(value) && value >= 0 && value <= 1e6;
}

Outcome<bool> checkRun(const Run& run, const Job& job) {
    const std::string where = "run " + (run.label.empty() ? run.id : run.label);
    if (run.label.empty())
        return refuse(where, "a run has no name", "Give it a label such as SL-D03");
    if (job.room(run.roomId) == nullptr)
        return refuse(where, "its room is not in the job", "Put it in a room that exists");
    for (const auto& stretch : run.stretches)
        if (!isLength(stretch.lengthM) || stretch.neighbours < 0 ||
            !std::isfinite(stretch.temperatureC))
            return refuse(where, "a stretch has an impossible length, warmth or bundle",
                          "Lengths run from 0 to 1000 km");
    for (const auto& cord : run.cords)
        if (!isLength(cord.lengthM))
            return refuse(where, "a cord has an impossible length", "Type metres, 0 or more");
    return true;
}

/// Every run of a system must be there, and be in one place of one system only.
Outcome<bool> checkSystems(const Job& job) {
    std::set<std::string_view> used;
    const auto check = [&](const std::string& where, const std::string& runId) -> Outcome<bool> {
        if (runId.empty())
            return true;
        if (job.run(runId) == nullptr)
            return refuse(where, "a run of it is not in the job",
                          "Take it out together with its run");
        if (!used.insert(runId).second)
            return refuse(where, "run " + job.run(runId)->label + " feeds two places",
                          "One run leads to one part: take it out of the other first");
        return true;
    };
    for (const auto& distribution : job.distributions)
        for (const auto& part : distribution.parts) {
            if (!part.from.empty() && distribution.part(part.from) == nullptr)
                return refuse("distribution " + distribution.name,
                              "a part hangs on one that is not there",
                              "Hang it on a part that exists, or on the head");
            if (auto good = check("distribution " + distribution.name, part.runId); !good)
                return good;
        }
    for (const auto& bus : job.buses)
        for (const auto& device : bus.devices)
            if (auto good = check("bus " + bus.name, device.runId); !good)
                return good;
    return true;
}

tl::unexpected<Fault> gone(const std::string& where, const char* what) {
    return refuse(where, std::string("its ") + what + " is not in the job",
                  "Take away what stands on it in the same step, or give it another");
}

/// What is drawn: every point a number, and standing on a floor that is there.
struct PlanChecker {
    const Job& job;
    std::unordered_set<std::string_view> floors, rooms, places, surfaces;

    explicit PlanChecker(const Job& from) : job(from) {
        for (const auto& f : job.floors)
            floors.insert(f.id);
        for (const auto& r : job.rooms)
            rooms.insert(r.id);
        for (const auto& p : job.places)
            places.insert(p.id);
        for (const auto& s : job.surfaces)
            surfaces.insert(s.id);
    }
    static bool missing(const std::unordered_set<std::string_view>& known, const std::string& id) {
        return !id.empty() && !known.contains(id);
    }
    static bool finite(const std::vector<PlanPoint>& points) {
        return std::all_of(points.begin(), points.end(), [](const PlanPoint& p) {
            return std::abs(p.xM) <= 1e5 && std::abs(p.yM) <= 1e5;
        });
    }
    template <typename T>
    [[nodiscard]] Outcome<bool> drawn(const char* kind, const T& thing, std::size_t least) const {
        const std::string where = std::string(kind) + " " + thing.name;
        if (!floors.contains(thing.floorId))
            return gone(where, "floor");
        if (thing.points.size() < least || !finite(thing.points))
            return refuse(where, "it has no way that can be drawn",
                          "Draw at least " + std::to_string(least) + " points on the plan");
        return true;
    }
    [[nodiscard]] Outcome<bool> check() const {
        Outcome<bool> good = true;
        for (const auto& f : job.floors)
            if (!(f.ceilingM > 0) || !(f.voidM >= 0) || !std::isfinite(f.elevationM) ||
                !(f.widthM > 0) || !(f.depthM > 0))
                return refuse("floor " + f.name, "its sizes make no room",
                              "Give heights and sides above zero");
        for (const auto& r : job.rooms)
            if (missing(floors, r.floorId) || !finite(r.outline))
                return gone("room " + r.name, "floor");
        for (const auto& p : job.places) {
            if (!floors.contains(p.floorId) || !finite({p.at}) || !std::isfinite(p.heightM))
                return gone("place " + p.name, "floor");
            if (missing(rooms, p.roomId))
                return gone("place " + p.name, "room");
        }
        for (const auto& p : job.pathways) {
            good = drawn("pathway", p, p.kind == PathwayKind::Shaft ? 1 : 2);
            if (good && missing(floors, p.toFloorId))
                good = gone("pathway " + p.name, "other floor");
            if (!good)
                return good;
        }
        for (const auto& m : job.mains)
            if (good = drawn("mains", m, 1); !good)
                return good;
        for (const auto& s : job.surfaces) {
            if (good = drawn("surface", s, s.kind == SurfaceKind::Wall ? 2 : 0); !good)
                return good;
            if (missing(rooms, s.roomId))
                return gone("surface " + s.name, "room");
        }
        for (const auto& r : job.runs)
            if (missing(places, r.nearPlaceId) || missing(places, r.farPlaceId))
                return gone("run " + r.label, "end on the plan");
        return checkPhotographs();
    }
    [[nodiscard]] Outcome<bool> checkPhotographs() const {
        for (const auto& p : job.photographs)
            if (missing(floors, p.floorId) || missing(rooms, p.roomId) ||
                missing(surfaces, p.surfaceId) || (!p.runId.empty() && job.run(p.runId) == nullptr))
                return gone("photograph " + p.name, "subject");
        return true;
    }
};

} // namespace

Outcome<Job> apply(const Job& job, const Edit& edit) {
    Job out = job;
    bool runsTouched = false;
    for (const auto& change : edit.changes) {
        const auto done = std::visit(Doer{out, edit}, change);
        if (!done)
            return refuse(done.error());
        runsTouched = runsTouched || std::holds_alternative<Change<Run>>(change) ||
                      std::holds_alternative<Change<Room>>(change);
    }
    if (runsTouched) {
        std::set<std::string_view> labels;
        for (const auto& run : out.runs) {
            if (const auto good = checkRun(run, out); !good)
                return refuse(good.error());
            if (!labels.insert(run.label).second)
                return refuse("run " + run.label, "there is a run of this name already",
                              "Give each run a label of its own");
        }
    }
    for (const auto& measurement : out.measurements)
        if (out.run(measurement.runId) == nullptr)
            return refuse("measurement " + measurement.fileName, "its run is not in the job",
                          "Remove it together with its run");
    if (const auto good = checkSystems(out); !good)
        return refuse(good.error());
    if (const auto good = PlanChecker(out).check(); !good)
        return refuse(good.error());
    return out;
}

Edit inverse(const Edit& edit) {
    Edit out{edit.title, {}};
    for (auto it = edit.changes.rbegin(); it != edit.changes.rend(); ++it)
        out.changes.push_back(std::visit(
            [](const auto& change) -> AnyChange {
                return std::decay_t<decltype(change)>{change.after, change.before};
            },
            *it));
    return out;
}

std::vector<AnyChange> removalOf(const Job& job, std::string_view runId) {
    std::vector<AnyChange> out;
    const auto remove = [&](const auto& thing) {
        out.push_back(put(std::optional(thing), std::optional<std::decay_t<decltype(thing)>>{}));
    };
    for (const auto& m : job.measurements)
        if (m.runId == runId)
            remove(m);
    for (const auto& p : job.photographs)
        if (p.runId == runId) {
            // The picture stays with the place it was taken at.
            Photograph left = p;
            left.runId.clear();
            out.push_back(put(std::optional(p), std::optional(left)));
        }
    if (const Distribution* d = job.distributionOf(runId))
        out.push_back(put(std::optional(*d), withoutRun(*d, runId)));
    if (const BusChain* b = job.busOf(runId))
        out.push_back(put(std::optional(*b), withoutRun(*b, runId)));
    if (const Run* run = job.run(runId))
        remove(*run);
    return out;
}

} // namespace burin
