#include "core/edit/plan_edit.h"
#include "core/base/lookup.h"
#include "core/base/moment.h"
#include "core/edit/removal.h"
#include "core/job/ports.h"
#include "core/job/run_length.h"
#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace burin {
namespace {

template <typename T> void change(Changes& out, const T& before, const T& after) {
    if (!(before == after))
        out.push_back(put(std::optional(before), std::optional(after)));
}
/// What takes rows away; nothing here refers to one in a way that could refuse.
Changes takeAway(const Job& job, const std::set<RowKey>& rows, const std::set<Kind>& handled = {}) {
    return removing(job, rows, handled).value_or(Changes{});
}

/// The run as laid now, with its plan's ends forgotten where `gone` holds them.
Run letGo(const Run& run, const Job& laid, const std::set<std::string>& gone) {
    if (!gone.contains(run.near.placeId) && !gone.contains(run.far.placeId))
        return run;
    Run out = typedOver(run, laid.run(run.id));
    out.followsPlan = false;
    out.vias.clear();
    for (auto* end : {&out.near, &out.far})
        if (gone.contains(end->placeId))
            *end = {endName(laid, *end)};
    return out;
}

std::string numberText(int number, std::size_t digits) {
    std::string out = std::to_string(number);
    return out.size() < digits ? std::string(digits - out.size(), '0') + out : out;
}

bool replace(std::string& text, std::string_view what, const std::string& with) {
    const auto at = text.find(what);
    if (at == std::string::npos)
        return false;
    text.replace(at, what.size(), with);
    return true;
}

} // namespace

Outcome<Edit> rescaled(const Job& job, const std::string& floorId, double factor) {
    const Floor* floor = byId(job.floors, floorId);
    if (floor == nullptr)
        return refuse("scale", {"plan.floor-not-job", "that floor is not in the job"},
                      {"cure.choose-floor", "Choose a floor"});
    if (!std::isfinite(factor) || factor < 1e-4 || factor > 1e4)
        return refuse(
            "scale",
            {"plan.two-points-distance", "the two points and the distance make no sensible scale"},
            {"cure.take-two-points", "Take two points far apart, and the distance between them"});
    Edit out{"scale of " + floor->name, {}};
    const auto scale = [&](PlanPoint& p) {
        p.xM *= factor;
        p.yM *= factor;
    };
    Floor after = *floor;
    after.widthM *= factor;
    after.depthM *= factor;
    if (after.picture) {
        after.picture->metresPerPixel *= factor;
        scale(after.picture->at);
    }
    change(out.changes, *floor, after);
    const auto all = [&](const auto& things, auto points) {
        for (const auto& thing : things) {
            if (thing.floorId != floorId)
                continue;
            auto moved = thing;
            points(moved);
            change(out.changes, thing, moved);
        }
    };
    const auto line = [&](auto& thing) {
        std::for_each(thing.points.begin(), thing.points.end(), scale);
    };
    all(job.rooms, [&](Room& r) { std::for_each(r.outline.begin(), r.outline.end(), scale); });
    all(job.places, [&](Place& p) { scale(p.at); });
    all(job.pathways, line);
    all(job.mains, line);
    all(job.surfaces, line);
    all(job.photographs, [&](Photograph& p) {
        if (p.at)
            scale(*p.at);
    });
    for (const auto& run : job.runs) {
        Run led = run;
        for (auto& via : led.vias)
            if (via.floorId == floorId)
                scale(via.at);
        change(out.changes, run, led);
    }
    return out;
}

Changes removalOfPlace(const Job& job, const Job& laid, const std::string& placeId) {
    Changes out;
    const Place* place = byId(job.places, placeId);
    if (place == nullptr)
        return out;
    for (const auto& run : job.runs)
        change(out, run, letGo(run, laid, {placeId}));
    out.push_back(takeAway(job, {{Kind::Place, placeId}}, {Kind::Run}));
    return out;
}

const Surface* surfaceOf(const Job& job, SurfaceKind kind, const std::string& floorId,
                         const std::string& roomId) {
    for (const auto& surface : job.surfaces)
        if (surface.kind == kind && surface.floorId == floorId && surface.roomId == roomId)
            return &surface;
    return nullptr;
}

Outcome<Edit> closedOn(const Job& job, SurfaceKind kind, const std::string& floorId,
                       const std::string& roomId, const std::string& date) {
    const Floor* floor = byId(job.floors, floorId);
    const Room* room = job.room(roomId);
    if (kind == SurfaceKind::Wall || floor == nullptr || (room == nullptr && !roomId.empty()))
        return refuse("closing date",
                      {"plan.no-ceiling-floor", "there is no such ceiling or floor"},
                      {"cure.choose-room-floor", "Choose a room or a floor of the plan"});
    if (!date.empty() && !calendarDay(date))
        return refuse("closing date", sentence({"days.no-date", "“{0}” is no date"}, date),
                      {"days.write-date", "Write year-month-day: 2026-11-26"});
    const std::string word = kind == SurfaceKind::Ceiling ? "ceiling" : "underfloor";
    Edit out{"closing date of a " + word, {}};
    const Surface* before = surfaceOf(job, kind, floorId, roomId);
    if (before != nullptr && date.empty() && before->fireMinutes == 0) {
        out.changes = takeAway(job, {{Kind::Surface, before->id}});
        return out;
    }
    Surface after;
    if (before != nullptr) {
        after = *before;
    } else {
        after.id = newId();
        after.kind = kind;
        after.floorId = floorId;
        after.roomId = roomId;
        after.name = (room != nullptr ? room->name : floor->name) + " " + word;
    }
    after.closesOn = date;
    if (before != nullptr)
        change(out.changes, *before, after);
    else if (!date.empty())
        out.changes.push_back(put(std::optional<Surface>{}, std::optional(after)));
    return out;
}

Changes removalOfRoom(const Job& job, const std::string& roomId) {
    Changes out;
    const Room* room = job.room(roomId);
    if (room == nullptr)
        return out;
    const bool used = std::any_of(job.runs.begin(), job.runs.end(),
                                  [&](const Run& r) { return r.roomId == roomId; });
    if (used) {
        Room off = *room;
        off.floorId.clear();
        off.outline.clear();
        change(out, *room, off);
        return out;
    }
    return takeAway(job, {{Kind::Room, roomId}});
}

Changes removalOfFloor(const Job& job, const Job& laid, const std::string& floorId) {
    Changes out;
    std::set<std::string> gone;
    std::set<std::string> surfaces;
    for (const auto& place : job.places)
        if (place.floorId == floorId)
            gone.insert(place.id);
    for (const auto& surface : job.surfaces)
        if (surface.floorId == floorId)
            surfaces.insert(surface.id);
    for (const auto& run : job.runs) {
        Run left = letGo(run, laid, gone);
        std::erase_if(left.vias, [&](const Via& via) { return via.floorId == floorId; });
        change(out, run, left);
    }
    for (const auto& room : job.rooms)
        if (room.floorId == floorId) {
            Room off = room;
            off.floorId.clear();
            off.outline.clear();
            change(out, room, off);
        }
    for (const auto& photograph : job.photographs) {
        Photograph left = photograph;
        if (left.floorId == floorId) {
            left.floorId.clear();
            left.at.reset();
        }
        if (surfaces.contains(left.surfaceId))
            left.surfaceId.clear();
        change(out, photograph, left);
    }
    out.push_back(
        takeAway(job, {{Kind::Floor, floorId}}, {Kind::Run, Kind::Room, Kind::Photograph}));
    return out;
}

std::string labelOf(const std::string& pattern, const std::string& room, const std::string& kind,
                    int number) {
    std::string out = pattern;
    replace(out, "{room}", room);
    replace(out, "{kind}", kind);
    if (!replace(out, "{nnn}", numberText(number, 3)) &&
        !replace(out, "{nn}", numberText(number, 2)))
        replace(out, "{n}", numberText(number, 1));
    return out;
}

Outcome<bool> checkLabelPattern(const std::string& pattern) {
    const auto has = [&](const char* what) { return pattern.find(what) != std::string::npos; };
    if (!has("{n}") && !has("{nn}") && !has("{nnn}"))
        return refuse("labels", sentence({"plan.no-number", "“{0}” has no number in it"}, pattern),
                      sentence({"cure.put-number-goes", "Put {0} where the number goes: {1}"},
                               asText("{nn}"), asText("{room}-{kind}{nn}")));
    if (!has("{room}") && !has("{kind}"))
        return refuse(
            "labels",
            sentence({"plan.tells-neither-room", "“{0}” tells neither room nor kind"}, pattern),
            sentence({"cure.put-room-or-kind", "Put {0} or {1} in it: {2}"}, asText("{room}"),
                     asText("{kind}"), asText("{room}-{kind}{nn}")));
    return true;
}

Outcome<Edit> relabelled(const Job& job, const Catalogue& catalogue, const std::string& pattern) {
    if (const auto good = checkLabelPattern(pattern); !good)
        return refuse(good.error());
    Edit out{"label runs as " + pattern, {}};
    JobInfo info = job.info;
    info.survey.labels = pattern;
    change(out.changes, job.info, info);
    std::map<std::string, int> next;
    for (const auto& room : job.rooms)
        for (const auto& run : job.runs) {
            if (run.roomId != room.id)
                continue;
            const RunKind* kind = catalogue.site.kindOf(run.serviceId);
            const std::string letter = kind == nullptr ? "X" : kind->letter;
            int& number = next[labelOf(pattern, room.letters, letter, 0)];
            Run named = run;
            named.label = labelOf(pattern, room.letters, letter, ++number);
            change(out.changes, run, named);
        }
    return out;
}

} // namespace burin
