// What a finished drawing makes.
#include "app/survey/plan_draft.h"
#include "core/base/lookup.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

std::string fresh(const std::string& word, const auto& list) {
    for (int n = 1;; ++n) {
        std::string name = word + " " + std::to_string(n);
        if (std::none_of(list.begin(), list.end(), [&](const auto& t) { return t.name == name; }))
            return name;
    }
}

Room newRoom(const Job& job, const std::string& floorId, const PlanPoint& a, const PlanPoint& b) {
    Room out;
    out.id = newId();
    out.order = static_cast<int>(job.rooms.size());
    out.tape = out.order % 10;
    int n = out.order;
    do
        out.letters = "R" + std::to_string(++n);
    while (std::any_of(job.rooms.begin(), job.rooms.end(),
                       [&](const Room& r) { return r.letters == out.letters; }));
    out.name = "Room " + std::to_string(n);
    out.floorId = floorId;
    out.outline = {{std::min(a.xM, b.xM), std::min(a.yM, b.yM)},
                   {std::max(a.xM, b.xM), std::min(a.yM, b.yM)},
                   {std::max(a.xM, b.xM), std::max(a.yM, b.yM)},
                   {std::min(a.xM, b.xM), std::max(a.yM, b.yM)}};
    return out;
}

Place newPlace(const Job& job, const PlanTools& tools, const std::string& floorId,
               const PlanPoint& at) {
    Place out;
    out.id = newId();
    out.kind = tools.tool == Tool::HeadEnd  ? tools.head
               : tools.tool == Tool::Outlet ? PlaceKind::Outlet
                                            : PlaceKind::Device;
    out.floorId = floorId;
    out.at = at;
    out.roomId = roomAt(job, floorId, at);
    if (out.kind == PlaceKind::Panel) {
        // Panel A, Panel B, … as people letter them.
        for (char letter = 'A'; letter <= 'Z' && out.name.empty(); ++letter) {
            const std::string name = std::string("Panel ") + letter;
            if (std::none_of(job.places.begin(), job.places.end(),
                             [&](const Place& p) { return p.name == name; }))
                out.name = name;
        }
    }
    if (out.name.empty())
        out.name = fresh(std::string(placeWord(out.kind)), job.places);
    out.heightM = isHeadEnd(out.kind) ? 1.5 : out.kind == PlaceKind::Device ? 1.2 : 0.3;
    out.ports = out.kind == PlaceKind::Panel ? 24 : out.kind == PlaceKind::Outlet ? 2 : 1;
    return out;
}

/// A shaft joins this floor to the next one up, or down where there is none.
std::string otherFloor(const Job& job, const std::string& floorId) {
    const Floor* here = byId(job.floors, floorId);
    const Floor* best = nullptr;
    for (const auto& floor : job.floors) {
        if (here == nullptr || floor.id == floorId)
            continue;
        const auto away = [&](const Floor& f) {
            const double rise = f.elevationM - here->elevationM;
            return rise >= 0 ? rise : 1e6 - rise;
        };
        if (best == nullptr || away(floor) < away(*best))
            best = &floor;
    }
    return best == nullptr ? std::string() : best->id;
}

} // namespace

std::size_t pointsOf(Tool tool, const PlanTools& tools, const Catalogue& catalogue) {
    switch (tool) {
    case Tool::HeadEnd:
    case Tool::Outlet:
    case Tool::Device:
    case Tool::Photo:
        return 1;
    case Tool::Scale:
    case Tool::Room:
        return 2;
    case Tool::Pathway:
        return catalogue.site.pathways[tools.pathway].pathway.kind == PathwayKind::Shaft ? 1 : 0;
    case Tool::Mains:
        return catalogue.site.mains[tools.mains].route.kind == MainsKind::Circuit ? 0 : 1;
    case Tool::Choose:
    case Tool::Wall:
    case Tool::Run:
        break;
    }
    return 0;
}

Drawn drawn(const Job& job, const Catalogue& catalogue, const PlanTools& tools,
            const std::string& floorId, const std::vector<PlanPoint>& points) {
    Drawn out;
    const Floor* floor = byId(job.floors, floorId);
    if (floor == nullptr || points.empty())
        return out;
    const auto add = [&](auto thing, const std::string& what) {
        out.id = thing.id;
        out.edit = {what, {put(std::optional<decltype(thing)>{}, std::optional(thing))}};
    };
    switch (tools.tool) {
    case Tool::Room: {
        if (points.size() < 2)
            return out;
        Room room = newRoom(job, floorId, points[0], points[1]);
        if (areaM2(room.outline) < 0.1)
            return out;
        add(room, "draw " + room.name);
        // Outlets that stood there before belong to it.
        for (const auto& place : job.places)
            if (place.floorId == floorId && place.roomId.empty() &&
                contains(room.outline, place.at)) {
                Place inside = place;
                inside.roomId = room.id;
                out.edit.changes.push_back(put(std::optional(place), std::optional(inside)));
            }
        break;
    }
    case Tool::HeadEnd:
    case Tool::Outlet:
    case Tool::Device: {
        const Place place = newPlace(job, tools, floorId, points.front());
        add(place, "place " + place.name);
        break;
    }
    case Tool::Pathway: {
        const auto& preset = catalogue.site.pathways[tools.pathway];
        Pathway way = preset.pathway;
        if (points.size() < (way.kind == PathwayKind::Shaft ? 1U : 2U))
            return out;
        way.id = newId();
        way.floorId = floorId;
        way.points = points;
        way.heightM = presetHeightM(preset.height, *floor);
        if (way.kind == PathwayKind::Shaft) {
            way.points.resize(1);
            way.toFloorId = otherFloor(job, floorId);
        }
        way.name = fresh(std::string(pathwayWord(way.kind)), job.pathways);
        add(way, "draw " + way.name);
        break;
    }
    case Tool::Mains: {
        const auto& preset = catalogue.site.mains[tools.mains];
        MainsRoute mains = preset.route;
        mains.id = newId();
        mains.floorId = floorId;
        mains.points = points;
        mains.heightM = presetHeightM(preset.height, *floor);
        if (mains.kind == MainsKind::Circuit && points.size() < 2)
            return out;
        add(mains, "mark " + mains.name);
        break;
    }
    case Tool::Wall: {
        if (points.size() < 2)
            return out;
        Surface wall;
        wall.id = newId();
        wall.floorId = floorId;
        wall.points = points;
        wall.name = fresh("wall", job.surfaces);
        add(wall, "draw " + wall.name);
        break;
    }
    case Tool::Choose:
    case Tool::Scale:
    case Tool::Run:
    case Tool::Photo:
        break;
    }
    return out;
}

Photograph photographAt(const Job& job, const std::string& floorId, const PlanPoint& at,
                        const Run* run) {
    Photograph out;
    out.id = newId();
    out.floorId = floorId;
    out.at = at;
    out.roomId = roomAt(job, floorId, at);
    double least = 1;
    for (const auto& surface : job.surfaces) {
        double away = least;
        if (surface.floorId == floorId && surface.points.size() > 1)
            nearestAlongM(surface.points, at, &away);
        if (away < least) {
            least = away;
            out.surfaceId = surface.id;
        }
    }
    const Surface* ceiling = surfaceOf(job, SurfaceKind::Ceiling, floorId, out.roomId);
    if (out.surfaceId.empty() && ceiling != nullptr && !ceiling->closesOn.empty())
        out.surfaceId = ceiling->id;
    const Place* place = placeAt(job, floorId, at, 0.5);
    if (place != nullptr && run != nullptr &&
        (run->near.placeId == place->id || run->far.placeId == place->id)) {
        out.runId = run->id;
        out.surfaceId.clear(); // it shows an end, not all that lies in the wall
    }
    return out;
}

Outcome<Edit> namedRoom(const Job& job, const std::string& roomId, const std::string& text) {
    const Room* room = job.room(roomId);
    const auto first = text.find_first_not_of(' ');
    if (room == nullptr || first == std::string::npos)
        return refuse("room", {"plan.no-name", "it has no name"},
                      {"cure.type-letters-name", "Type letters and a name: SL Sail loft"});
    std::string name = text.substr(first, text.find_last_not_of(' ') - first + 1);
    const std::string word = name.substr(0, name.find(' '));
    const bool isLetters = word.size() <= 4 && std::all_of(word.begin(), word.end(), [](char c) {
                               return (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9');
                           });
    std::string letters = isLetters ? word : std::string();
    if (isLetters && word.size() < name.size())
        name = name.substr(word.size() + 1);
    if (letters.empty()) {
        // The first letters of its words, or of its one word.
        bool start = true;
        for (const char c : name) {
            if (start && c != ' ')
                letters += c >= 'a' && c <= 'z' ? static_cast<char>(c - 'a' + 'A') : c;
            start = c == ' ';
        }
        if (letters.size() < 2)
            for (std::size_t i = 1; i < name.size() && letters.size() < 2; ++i)
                letters += name[i] >= 'a' && name[i] <= 'z' ? static_cast<char>(name[i] - 'a' + 'A')
                                                            : name[i];
    }
    const Room* same = nullptr;
    for (const auto& other : job.rooms)
        if (other.id != roomId && other.letters == letters)
            same = &other;
    Edit out{"name room " + name, {}};
    if (same != nullptr && same->outline.empty()) {
        Room drawnRoom = *same;
        drawnRoom.floorId = room->floorId;
        drawnRoom.outline = room->outline;
        for (const auto& place : job.places)
            if (place.roomId == roomId) {
                Place moved = place;
                moved.roomId = same->id;
                out.changes.push_back(put(std::optional(place), std::optional(moved)));
            }
        out.changes.push_back(put(std::optional(*room), std::optional<Room>{}));
        out.changes.push_back(put(std::optional(*same), std::optional(drawnRoom)));
        return out;
    }
    if (same != nullptr)
        return refuse(
            sentence({"where.room", "room {0}"}, name),
            sentence({"plan.room-letters", "room {0} has the letters {1}"}, same->name, letters),
            sentence({"cure.give-other-letters", "Give other letters first: XY {0}"}, name));
    Room after = *room;
    after.letters = letters;
    after.name = name;
    out.changes.push_back(put(std::optional(*room), std::optional(after)));
    return out;
}

Drawn addedFloor(const Job& job) {
    Floor out;
    out.id = newId();
    out.order = static_cast<int>(job.floors.size());
    out.name = out.order == 0   ? "Ground floor"
               : out.order == 1 ? "First floor"
                                : "Floor " + std::to_string(out.order);
    if (!job.floors.empty()) {
        const Floor& top = *std::max_element(
            job.floors.begin(), job.floors.end(),
            [](const Floor& a, const Floor& b) { return a.elevationM < b.elevationM; });
        out.ceilingM = top.ceilingM;
        out.voidM = top.voidM;
        out.widthM = top.widthM;
        out.depthM = top.depthM;
        out.elevationM = top.elevationM + top.ceilingM + top.voidM + 0.3; // a usual slab
    }
    Drawn made{{"new floor", {put(std::optional<Floor>{}, std::optional(out))}}, out.id};
    for (const auto& way : job.pathways)
        if (way.kind == PathwayKind::Shaft && way.toFloorId.empty()) {
            Pathway joined = way;
            joined.toFloorId = out.id;
            made.edit.changes.push_back(put(std::optional(way), std::optional(joined)));
        }
    return made;
}

double presetHeightM(const PresetHeight& preset, const Floor& floor) {
    return preset.heightM + (preset.aboveCeiling ? floor.ceilingM : 0);
}

} // namespace burin
