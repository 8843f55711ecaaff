#include "core/job/edit.h"
#include "core/job/moment.h"
#include "core/job/system_edit.h"
#include "core/job/text_limits.h"
#include <algorithm>
#include <cmath>
#include <set>
#include <unordered_map>
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
    // What was entered later stands later, whatever the clocks and zones said; tests of older jobs
    // and of other programs have no entry number and go by their time.
    const auto at = [](const Measurement& m) { return utcMs(m.takenAt).value_or(0); };
    return a.entry != b.entry
               ? a.entry < b.entry
               : std::tuple(at(a), a.takenAt, a.id) < std::tuple(at(b), b.takenAt, b.id);
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

/// Up to so many changes of a kind are done where they stand; more go by an index.
constexpr std::size_t few = 4;

template <typename T> bool stands(const std::optional<T>& before, const T* now) {
    return before.has_value() == (now != nullptr) && (now == nullptr || *now == *before);
}

template <typename T>
bool doFew(std::vector<T>& list, const std::vector<const Change<T>*>& changes) {
    for (const auto* change : changes) {
        const auto it = std::find_if(list.begin(), list.end(),
                                     [&](const T& t) { return t.id == change->id(); });
        if (!stands(change->before, it == list.end() ? nullptr : &*it))
            return false;
        if (it != list.end())
            list.erase(it);
        if (change->after)
            list.insert(std::upper_bound(list.begin(), list.end(), *change->after,
                                         [](const T& a, const T& b) { return lessShown(a, b); }),
                        *change->after);
    }
    return true;
}

template <typename T>
bool doMany(std::vector<T>& list, const std::vector<const Change<T>*>& changes) {
    std::vector<std::optional<T>> slots(std::make_move_iterator(list.begin()),
                                        std::make_move_iterator(list.end()));
    std::unordered_map<std::string, std::size_t> slotOf;
    slotOf.reserve(slots.size() + changes.size());
    for (std::size_t i = 0; i < slots.size(); ++i)
        slotOf.emplace(slots[i]->id, i);
    for (const auto* change : changes) {
        const auto [it, fresh] = slotOf.emplace(change->id(), slots.size());
        if (fresh)
            slots.emplace_back();
        auto& slot = slots[it->second];
        if (!stands(change->before, slot ? &*slot : nullptr))
            return false;
        slot = change->after;
    }
    list.clear();
    for (auto& slot : slots)
        if (slot)
            list.push_back(std::move(*slot));
    std::sort(list.begin(), list.end(), [](const T& a, const T& b) { return lessShown(a, b); });
    return true;
}

/// All changes of one kind, in turn; false when the job is not what they start from.
template <typename T> bool doAll(Job& job, const Edit& edit) {
    std::vector<const Change<T>*> changes;
    for (const auto& change : edit.changes)
        if (const auto* one = std::get_if<Change<T>>(&change))
            changes.push_back(one);
    if constexpr (std::is_same_v<T, JobInfo>) {
        for (const auto* change : changes) {
            if (!change->after || !stands(change->before, &job.info))
                return false;
            job.info = *change->after;
        }
        return true;
    } else {
        auto& list = listOf(job, static_cast<const T*>(nullptr));
        return changes.size() <= few ? doFew(list, changes) : doMany(list, changes);
    }
}

template <typename... T>
bool doEverything(Job& job, const Edit& edit, const std::variant<Change<T>...>*) {
    return (doAll<T>(job, edit) && ...);
}

/// The ids of a list, to look up many of them.
using Ids = std::unordered_set<std::string_view>;
template <typename T> Ids idsOf(const std::vector<T>& list) {
    Ids out;
    out.reserve(list.size());
    for (const auto& thing : list)
        out.insert(thing.id);
    return out;
}

bool isLength(double value) {
    return std::isfinite(value) && value >= 0 && value <= 1e6;
}

Outcome<bool> checkRun(const Run& run, const Ids& rooms) {
    const std::string where = "run " + (run.label.empty() ? run.id : run.label);
    if (run.label.empty())
        return refuse(where, "a run has no name", "Give it a label such as SL-D03");
    if (!rooms.contains(run.roomId))
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
Outcome<bool> checkSystems(const Job& job, const Ids& runs) {
    std::set<std::string_view> used;
    const auto check = [&](const std::string& where, const std::string& runId) -> Outcome<bool> {
        if (runId.empty())
            return true;
        if (!runs.contains(runId))
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
    const Ids& runs;
    const Ids& rooms;
    Ids floors = idsOf(job.floors), places = idsOf(job.places), surfaces = idsOf(job.surfaces);

    static bool missing(const Ids& known, const std::string& id) {
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
                missing(surfaces, p.surfaceId) || missing(runs, p.runId))
                return gone("photograph " + p.name, "subject");
        return true;
    }
};

} // namespace

Outcome<Job> apply(const Job& job, const Edit& edit) {
    Job out = job;
    bool runsTouched = false;
    for (const auto& change : edit.changes) {
        if (const auto good = checkTexts(change); !good)
            return refuse(good.error());
        runsTouched = runsTouched || std::holds_alternative<Change<Run>>(change) ||
                      std::holds_alternative<Change<Room>>(change);
    }
    if (!doEverything(out, edit, static_cast<const AnyChange*>(nullptr)))
        return overtaken(edit.title);
    const Ids rooms = idsOf(out.rooms);
    const Ids runs = idsOf(out.runs);
    if (runsTouched) {
        Ids labels;
        labels.reserve(out.runs.size());
        for (const auto& run : out.runs) {
            if (const auto good = checkRun(run, rooms); !good)
                return refuse(good.error());
            if (!labels.insert(run.label).second)
                return refuse("run " + run.label, "there is a run of this name already",
                              "Give each run a label of its own");
        }
    }
    for (const auto& measurement : out.measurements)
        if (!runs.contains(measurement.runId))
            return refuse("measurement " + measurement.fileName, "its run is not in the job",
                          "Remove it together with its run");
    if (const auto good = checkSystems(out, runs); !good)
        return refuse(good.error());
    if (const auto good = PlanChecker{out, runs, rooms}.check(); !good)
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

std::vector<AnyChange> removalOf(const Job& job, const std::vector<std::string>& runIds) {
    const Ids going(runIds.begin(), runIds.end());
    std::vector<AnyChange> out;
    const auto remove = [&](const auto& thing) {
        out.push_back(put(std::optional(thing), std::optional<std::decay_t<decltype(thing)>>{}));
    };
    for (const auto& m : job.measurements)
        if (going.contains(m.runId))
            remove(m);
    for (const auto& p : job.photographs)
        if (going.contains(p.runId)) {
            // The picture stays with the place it was taken at.
            Photograph left = p;
            left.runId.clear();
            out.push_back(put(std::optional(p), std::optional(left)));
        }
    const auto without = [&](const auto& system, const auto& feeds) {
        auto left = std::optional(system);
        for (const auto& runId : feeds)
            if (left && going.contains(runId))
                left = withoutRun(*left, runId);
        if (!left || !(*left == system))
            out.push_back(put(std::optional(system), left));
    };
    for (const auto& d : job.distributions) {
        std::vector<std::string> feeds;
        for (const auto& part : d.parts)
            feeds.push_back(part.runId);
        without(d, feeds);
    }
    for (const auto& b : job.buses) {
        std::vector<std::string> feeds;
        for (const auto& device : b.devices)
            feeds.push_back(device.runId);
        without(b, feeds);
    }
    for (const auto& run : job.runs)
        if (going.contains(run.id))
            remove(run);
    return out;
}

std::vector<AnyChange> removalOf(const Job& job, std::string_view runId) {
    return removalOf(job, std::vector<std::string>{std::string(runId)});
}

} // namespace burin
