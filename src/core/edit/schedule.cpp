#include "core/base/lookup.h"
#include "core/edit/plan_edit.h"
#include "core/edit/removal.h"
#include "core/edit/run_text.h"
#include "core/job/ports.h"
#include "core/site/geometry.h"
#include <algorithm>
#include <cmath>
#include <set>

namespace burin {
namespace {

constexpr int dataPorts = 2; ///< jacks in one plate

bool isOf(const Run& run, const Catalogue& catalogue, const std::string& roomId,
          const std::string& kindId) {
    const RunKind* kind = catalogue.site.kindOf(run.serviceId);
    return run.roomId == roomId && kind != nullptr && kind->id == kindId;
}

/// A label of the job's pattern that no run has yet.
std::string freeLabel(const Job& job, const Room& room, const RunKind& kind,
                      std::set<std::string>& taken) {
    for (int n = 1;; ++n) {
        std::string text = labelOf(job.info.survey.labels, room.letters, kind.letter, n);
        if (taken.insert(text).second)
            return text;
    }
}

std::set<std::string> labelsOf(const Job& job) {
    std::set<std::string> out;
    for (const auto& run : job.runs)
        out.insert(run.label);
    return out;
}

int nextOrder(const Job& job, const std::string& roomId) {
    int order = 0;
    for (const auto& run : job.runs)
        if (run.roomId == roomId)
            order = std::max(order, run.order + 1);
    return order;
}

/// The head end a kind comes from: the best kind of place there is, of those the nearest.
const Place* headFor(const Job& job, const RunKind& kind, const Room& room) {
    const PlanPoint middle = middleOf(room.outline);
    for (const PlaceKind wanted : kind.heads) {
        const Place* best = nullptr;
        double least = 0;
        for (const auto& place : job.places) {
            if (place.kind != wanted)
                continue;
            // Another floor is farther than any place of this one.
            const double away =
                distanceM(place.at, middle) + (place.floorId == room.floorId ? 0 : 1e6);
            if (best == nullptr || away < least) {
                best = &place;
                least = away;
            }
        }
        if (best != nullptr)
            return best;
    }
    return nullptr;
}

class Scheduler {
public:
    Scheduler(const Job& job, const Catalogue& catalogue, const Room& room, const RunKind& kind)
        : job_(job), catalogue_(catalogue), room_(room), kind_(kind), labels_(labelsOf(job)),
          ports_(job) {
        for (const auto& place : job.places) {
            if (place.roomId != room.id)
                continue;
            outlets_.push_back({place, 0, place.kind == PlaceKind::Outlet});
            auto& outlet = outlets_.back();
            for (const auto& run : job.runs)
                if (run.far.placeId == place.id) {
                    ++outlet.runs;
                    outlet.ours = outlet.ours && isOf(run, catalogue, room.id, kind.id);
                }
        }
    }

    void add(Edit& edit, const Place& head, const std::string& serviceId, int count) {
        const Place* before = lastReader();
        // New outlets are spread along the walls by how many there will be.
        int free = 0;
        for (const auto& outlet : outlets_)
            free += outlet.ours ? std::max(0, outlet.place.ports - outlet.runs) : 0;
        const int ports = kind_.id == "data" ? dataPorts : 1;
        wanted_ = (std::max(0, count - free) + ports - 1) / ports;
        int order = nextOrder(job_, room_.id);
        for (int i = 0; i < count; ++i) {
            Outlet& outlet = outletFor(edit, ports);
            Run run;
            run.id = newId();
            run.roomId = room_.id;
            run.label = freeLabel(job_, room_, kind_, labels_);
            run.order = order++;
            run.serviceId = serviceId.empty() ? kind_.serviceId : serviceId;
            run.cableId = kind_.cableId;
            run.followsPlan = true;
            const Place& near = before != nullptr ? *before : head;
            run.near = isHeadEnd(near.kind) ? ports_.on(near) : RunEnd{{}, near.id};
            run.far = ports_.on(outlet.place);
            fitOut(run, catalogue_);
            edit.changes.push_back(put(std::optional<Run>{}, std::optional(run)));
            if (kind_.id == "reader") {
                chain_ = outlet.place;
                before = &chain_;
            }
        }
    }

private:
    /// Readers go from one to the next.
    const Place* lastReader() {
        if (kind_.id != "reader")
            return nullptr;
        const Place* out = nullptr;
        for (const auto& run : job_.runs) {
            const RunKind* kind = catalogue_.site.kindOf(run.serviceId);
            if (kind != nullptr && kind->id == "reader")
                if (const Place* place = byId(job_.places, run.far.placeId))
                    out = place;
        }
        return out;
    }

    struct Outlet {
        Place place;
        int runs = 0;      ///< that end there
        bool ours = false; ///< nothing but this room's runs of this kind
    };
    /// An outlet with a free port of this kind, made where there is none.
    Outlet& outletFor(Edit& edit, int ports) {
        for (auto& outlet : outlets_)
            if (outlet.ours && outlet.runs < outlet.place.ports) {
                ++outlet.runs;
                return outlet;
            }
        Place place;
        place.id = newId();
        place.kind = kind_.id == "reader" ? PlaceKind::Device : PlaceKind::Outlet;
        place.name =
            (kind_.id == "reader" ? "reader " : "outlet ") + std::to_string(outlets_.size() + 1);
        place.floorId = room_.floorId;
        place.roomId = room_.id;
        place.heightM = kind_.id == "reader" ? 1.2 : 0.3;
        place.ports = ports;
        place.at = spot();
        edit.changes.push_back(put(std::optional<Place>{}, std::optional(place)));
        const bool ours = place.kind == PlaceKind::Outlet;
        outlets_.push_back({std::move(place), 1, ours});
        return outlets_.back();
    }

    /// The next place along the walls, clear of outlets that are there.
    PlanPoint spot() {
        auto round = room_.outline;
        round.push_back(room_.outline.front());
        const double length = lengthOfM(round);
        double at = length * (made_++ + 0.35) / std::max(1, wanted_);
        const auto clear = [](const PlanPoint& a, const PlanPoint& b) {
            return distanceM(a, b) >= 0.35;
        };
        for (int tries = 0; tries < 200; ++tries, at += 0.4) {
            const PlanPoint p = pointAt(round, std::fmod(at, length));
            if (std::all_of(outlets_.begin(), outlets_.end(),
                            [&](const Outlet& o) { return clear(o.place.at, p); }) &&
                std::all_of(round.begin(), round.end(),
                            [&](const PlanPoint& corner) { return clear(corner, p); }))
                return p;
        }
        return pointAt(round, std::fmod(at, length));
    }

    const Job& job_;
    const Catalogue& catalogue_;
    const Room& room_;
    const RunKind& kind_;
    std::set<std::string> labels_;
    PortFinder ports_;
    std::vector<Outlet> outlets_;
    int wanted_ = 0, made_ = 0;
    Place chain_;
};

Outcome<Edit> fewer(const Job& job, const Catalogue& catalogue, const Room& room,
                    const std::string& kindId, int surplus) {
    Edit out{"fewer runs in " + room.name, {}};
    Job left = job;
    for (auto it = job.runs.rbegin(); it != job.runs.rend() && surplus > 0; ++it) {
        if (!isOf(*it, catalogue, room.id, kindId))
            continue;
        const bool tested = std::any_of(job.measurements.begin(), job.measurements.end(),
                                        [&](const Measurement& m) { return m.runId == it->id; });
        if (tested)
            return refuse(sentence({"where.room", "room {0}"}, room.name),
                          sentence({"schedule.tested", "{0} has been tested"}, it->label),
                          {"cure.remove-list-runs",
                           "Remove it in the list of runs, if its tests may go too"});
        Edit one{out.title, removalOf(left, it->id)};
        const Place* place = byId(left.places, it->far.placeId);
        const bool shared = std::any_of(left.runs.begin(), left.runs.end(), [&](const Run& r) {
            return r.id != it->id &&
                   (r.far.placeId == it->far.placeId || r.near.placeId == it->far.placeId);
        });
        if (place != nullptr && !isHeadEnd(place->kind) && !shared)
            one.changes.push_back(put(std::optional(*place), std::optional<Place>{}));
        auto next = apply(left, one);
        if (!next)
            return refuse(next.error());
        left = std::move(*next);
        out.changes.insert(out.changes.end(), one.changes.begin(), one.changes.end());
        --surplus;
    }
    return out;
}

} // namespace

int scheduledCount(const Job& job, const Catalogue& catalogue, const std::string& roomId,
                   const std::string& kindId) {
    return static_cast<int>(std::count_if(job.runs.begin(), job.runs.end(), [&](const Run& r) {
        return isOf(r, catalogue, roomId, kindId);
    }));
}

Outcome<Edit> scheduled(const Job& job, const Catalogue& catalogue, const std::string& roomId,
                        const std::string& kindId, int count, const std::string& serviceId) {
    const Room* room = job.room(roomId);
    const RunKind* kind = catalogue.site.kind(kindId);
    if (room == nullptr || kind == nullptr)
        return refuse("schedule", {"schedule.room-kind-not", "that room or kind is not known"},
                      {"cure.choose-from-list", "Choose one from the list"});
    if (count < 0 || count > 500)
        return refuse(sentence({"where.room", "room {0}"}, room->name),
                      sentence({"schedule.runs-make-no", "{0} runs make no sense"}, asCount(count)),
                      {"cure.type", "Type 0 to 500"});
    const int have = scheduledCount(job, catalogue, roomId, kindId);
    if (count < have)
        return fewer(job, catalogue, *room, kindId, have - count);
    Edit out{std::to_string(count) + " " + kind->name + " in " + room->name, {}};
    if (count == have)
        return out;
    if (room->outline.size() < 3)
        return refuse(sentence({"where.room", "room {0}"}, room->name),
                      {"schedule.not-drawn-yet", "it is not drawn yet"},
                      {"cure.draw-room-plan", "Draw the room on the plan, then say what it gets"});
    const Place* head = headFor(job, *kind, *room);
    if (head == nullptr)
        return refuse(
            sentence({"where.room", "room {0}"}, room->name),
            sentence({"schedule.no-head-end", "there is no head end for {0}"}, asTerm(kind->name)),
            sentence({"cure.place-plan", "Place a {0} on the plan"},
                     asTerm(placeWord(kind->heads.front()))));
    Scheduler(job, catalogue, *room, *kind).add(out, *head, serviceId, count - have);
    return out;
}

Outcome<Edit> joined(const Job& job, const Catalogue& catalogue, const std::string& nearPlaceId,
                     const std::string& farPlaceId, const std::string& kindId) {
    const Place* near = byId(job.places, nearPlaceId);
    const Place* far = byId(job.places, farPlaceId);
    const RunKind* kind = catalogue.site.kind(kindId);
    if (near == nullptr || far == nullptr || kind == nullptr)
        return refuse("run", {"schedule.ends-not-plan", "one of its ends is not on the plan"},
                      {"cure.choose-two-places", "Choose two places"});
    if (near == far)
        return refuse("run", sentence({"schedule.both-ends", "both its ends are {0}"}, near->name),
                      {"cure.choose-another-place", "Choose another place to end in"});
    // It comes from where runs come together, whichever was named first.
    if (isHeadEnd(far->kind) && !isHeadEnd(near->kind))
        std::swap(near, far);
    const Room* room = job.room(far->roomId.empty() ? near->roomId : far->roomId);
    if (room == nullptr)
        return refuse(
            "run",
            sentence({"schedule.neither-nor-stands", "neither {0} nor {1} stands in a room"},
                     near->name, far->name),
            {"cure.draw-room-around", "Draw a room around one of them"});
    PortFinder ports(job);
    auto labels = labelsOf(job);
    Run run;
    run.id = newId();
    run.roomId = room->id;
    run.label = freeLabel(job, *room, *kind, labels);
    run.order = nextOrder(job, room->id);
    run.serviceId = kind->serviceId;
    run.cableId = kind->cableId;
    run.followsPlan = true;
    run.near = ports.on(*near);
    run.far = ports.on(*far);
    fitOut(run, catalogue);
    return Edit{"run " + run.label, {put(std::optional<Run>{}, std::optional(run))}};
}

} // namespace burin
