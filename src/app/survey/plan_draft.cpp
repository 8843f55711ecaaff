#include "app/survey/plan_draft.h"
#include "core/lookup.h"
#include <algorithm>
#include <cmath>
#include <functional>
#include <set>

namespace burin {
namespace {

double grid(double m) {
    return std::round(m * 10) / 10;
}

struct PlanLine {
    const std::string* id;
    const std::vector<PlanPoint>* points;
    bool closed;
};

/// Everything on a floor that has points, what lies on top first.
std::vector<PlanLine> linesOn(const Job& job, const std::string& floorId) {
    std::vector<PlanLine> out;
    for (const auto& m : job.mains)
        if (m.floorId == floorId)
            out.push_back({&m.id, &m.points, false});
    for (const auto& w : job.pathways)
        if (w.floorId == floorId || (w.kind == PathwayKind::Shaft && w.toFloorId == floorId))
            out.push_back({&w.id, &w.points, false});
    for (const auto& s : job.surfaces)
        if (s.floorId == floorId && !s.points.empty())
            out.push_back({&s.id, &s.points, false});
    for (const auto& r : job.rooms)
        if (r.floorId == floorId && r.outline.size() > 2)
            out.push_back({&r.id, &r.outline, true});
    return out;
}

std::vector<PlanPoint> roundOf(const PlanLine& line) {
    auto out = *line.points;
    if (line.closed)
        out.push_back(out.front());
    return out;
}

const std::vector<PlanPoint>* pointsOfThing(const Job& job, const std::string& id) {
    if (const Room* r = job.room(id))
        return &r->outline;
    if (const Pathway* w = byId(job.pathways, id))
        return &w->points;
    if (const MainsRoute* m = byId(job.mains, id))
        return &m->points;
    if (const Surface* s = byId(job.surfaces, id))
        return &s->points;
    return nullptr;
}

template <typename T, typename Change>
std::optional<AnyChange> changed(const T* thing, Change change) {
    if (thing == nullptr)
        return std::nullopt;
    T after = *thing;
    change(after);
    if (after == *thing)
        return std::nullopt;
    return put(std::optional(*thing), std::optional(after));
}

std::string fresh(const std::string& word, const auto& list) {
    for (int n = 1;; ++n) {
        std::string name = word + " " + std::to_string(n);
        if (std::none_of(list.begin(), list.end(), [&](const auto& t) { return t.name == name; }))
            return name;
    }
}

std::string roomAt(const Job& job, const std::string& floorId, const PlanPoint& p) {
    for (const auto& room : job.rooms)
        if (room.floorId == floorId && contains(room.outline, p))
            return room.id;
    // On its wall a place belongs to the nearest room.
    std::string best;
    double least = 0.3;
    for (const auto& room : job.rooms) {
        if (room.floorId != floorId || room.outline.size() < 3)
            continue;
        auto round = room.outline;
        round.push_back(room.outline.front());
        double away = 0;
        nearestAlongM(round, p, &away);
        if (away < least) {
            least = away;
            best = room.id;
        }
    }
    return best;
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

PlanPoint snapped(const Job& job, const std::string& floorId, PlanPoint p, double withinM,
                  const std::optional<PlanPoint>& from, bool square) {
    if (square && from) {
        if (std::abs(p.xM - from->xM) >= std::abs(p.yM - from->yM))
            p.yM = from->yM;
        else
            p.xM = from->xM;
    }
    PlanPoint best{grid(p.xM), grid(p.yM)};
    if (square && from) // the grid must not bend what is to be square
        best = p.xM == from->xM ? PlanPoint{from->xM, grid(p.yM)} : PlanPoint{grid(p.xM), from->yM};
    double least = withinM;
    const auto offer = [&](const PlanPoint& candidate) {
        if (square && from && candidate.xM != from->xM && candidate.yM != from->yM)
            return false;
        const double away = distanceM(candidate, p);
        if (away >= least)
            return false;
        least = away;
        best = candidate;
        return true;
    };
    const auto lines = linesOn(job, floorId);
    bool corner = false;
    for (const auto& line : lines)
        for (const auto& point : *line.points)
            corner = offer(point) || corner;
    if (corner)
        return best;
    for (const auto& line : lines) {
        const auto round = roundOf(line);
        for (std::size_t i = 1; i < round.size(); ++i) {
            if (square && from) {
                // Where the square line meets it.
                const PlanPoint far{p.xM + (p.xM - from->xM), p.yM + (p.yM - from->yM)};
                if (const auto c = crossingOf(*from, far, round[i - 1], round[i])) {
                    PlanPoint met = between(*from, far, c->shareA);
                    if (p.xM == from->xM)
                        met.xM = from->xM;
                    else
                        met.yM = from->yM;
                    offer(met);
                }
                continue;
            }
            PlanPoint on = between(round[i - 1], round[i], nearestShare(p, round[i - 1], round[i]));
            // Along an upright or level wall the other measure keeps to the grid.
            if (round[i - 1].xM == round[i].xM)
                on.yM = grid(on.yM);
            else if (round[i - 1].yM == round[i].yM)
                on.xM = grid(on.xM);
            offer(on);
        }
    }
    return best;
}

Hit hitAt(const Job& job, const std::string& floorId, const PlanPoint& p, double withinM,
          const std::string& chosenId) {
    Hit corner;
    double least = withinM;
    if (const auto* points = pointsOfThing(job, chosenId))
        for (std::size_t i = 0; i < points->size(); ++i)
            if (distanceM((*points)[i], p) < least) {
                least = distanceM((*points)[i], p);
                corner = {chosenId, static_cast<int>(i)};
            }
    const Place* nearest = nullptr;
    for (const auto& place : job.places)
        if (place.floorId == floorId && distanceM(place.at, p) < least &&
            (nearest == nullptr || distanceM(place.at, p) < distanceM(nearest->at, p)))
            nearest = &place;
    if (nearest != nullptr)
        return {nearest->id, -1};
    if (!corner.id.empty())
        return corner;
    for (const auto& photo : job.photographs)
        if (photo.floorId == floorId && photo.at && distanceM(*photo.at, p) < withinM)
            return {photo.id, -1};
    for (const auto& line : linesOn(job, floorId)) {
        double away = 0;
        nearestAlongM(roundOf(line), p, &away);
        if (away < withinM)
            return {*line.id, -1};
    }
    for (const auto& room : job.rooms)
        if (room.floorId == floorId && contains(room.outline, p))
            return {room.id, -1};
    return {};
}

std::vector<std::string> thingsOn(const Job& job, const std::string& floorId) {
    std::vector<std::pair<PlanPoint, std::string>> all;
    for (const auto& line : linesOn(job, floorId))
        all.emplace_back(line.points->front(), *line.id);
    for (const auto& place : job.places)
        if (place.floorId == floorId)
            all.emplace_back(place.at, place.id);
    for (const auto& photo : job.photographs)
        if (photo.floorId == floorId && photo.at)
            all.emplace_back(*photo.at, photo.id);
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
        return std::tie(a.first.yM, a.first.xM, a.second) <
               std::tie(b.first.yM, b.first.xM, b.second);
    });
    std::vector<std::string> out;
    for (auto& [at, id] : all)
        out.push_back(std::move(id));
    return out;
}

std::optional<AnyChange> withPoints(const Job& job, const std::string& id,
                                    const std::function<void(std::vector<PlanPoint>&)>& change) {
    const auto line = [&](auto& thing) { change(thing.points); };
    if (const Room* room = job.room(id))
        return changed(room, [&](Room& r) { change(r.outline); });
    if (const Pathway* way = byId(job.pathways, id))
        return changed(way, line);
    if (const MainsRoute* mains = byId(job.mains, id))
        return changed(mains, line);
    if (const Surface* surface = byId(job.surfaces, id))
        return changed(surface, line);
    const auto point = [&](PlanPoint& at) {
        std::vector<PlanPoint> one{at};
        change(one);
        at = one.front();
    };
    if (const Photograph* photo = byId(job.photographs, id); photo != nullptr && photo->at)
        return changed(photo, [&](Photograph& p) { point(*p.at); });
    return changed(byId(job.places, id), [&](Place& p) {
        point(p.at);
        p.roomId = roomAt(job, p.floorId, p.at);
    });
}

std::vector<AnyChange> movedBy(const Job& job, const std::string& id, int corner, double dx,
                               double dy) {
    std::vector<AnyChange> out;
    const auto shift = [&](std::vector<PlanPoint>& points) {
        for (std::size_t i = 0; i < points.size(); ++i)
            if (corner < 0 || static_cast<int>(i) == corner) {
                points[i].xM += dx;
                points[i].yM += dy;
            }
    };
    if (auto change = withPoints(job, id, shift))
        out.push_back(std::move(*change));
    if (job.room(id) != nullptr && corner < 0)
        for (const auto& place : job.places)
            if (place.roomId == id) {
                Place moved = place;
                moved.at.xM += dx;
                moved.at.yM += dy;
                if (!(moved == place))
                    out.push_back(put(std::optional(place), std::optional(moved)));
            }
    return out;
}

std::optional<AnyChange> splitAt(const Job& job, const std::string& id, const PlanPoint& at) {
    const bool closed = job.room(id) != nullptr;
    return withPoints(job, id, [&](std::vector<PlanPoint>& points) {
        if (points.size() < 2)
            return;
        std::size_t best = 0;
        double least = 1e300;
        const std::size_t pieces = points.size() - (closed ? 0 : 1);
        for (std::size_t i = 0; i < pieces; ++i) {
            const auto& b = points[(i + 1) % points.size()];
            const double away =
                distanceM(at, between(points[i], b, nearestShare(at, points[i], b)));
            if (away < least) {
                least = away;
                best = i;
            }
        }
        const auto& b = points[(best + 1) % points.size()];
        const PlanPoint on = between(points[best], b, nearestShare(at, points[best], b));
        if (distanceM(on, points[best]) > 1e-6 && distanceM(on, b) > 1e-6)
            points.insert(points.begin() + static_cast<std::ptrdiff_t>(best) + 1, on);
    });
}

std::vector<AnyChange> removalOfThing(const Job& job, const Job& laid, const std::string& id) {
    std::vector<AnyChange> out;
    const auto remove = [&](const auto* thing) {
        if (thing != nullptr)
            out.push_back(
                put(std::optional(*thing), std::optional<std::decay_t<decltype(*thing)>>{}));
    };
    if (job.room(id) != nullptr)
        return removalOfRoom(job, id);
    if (byId(job.places, id) != nullptr)
        return removalOfPlace(job, laid, id);
    if (byId(job.surfaces, id) != nullptr)
        return removalOfSurface(job, id);
    remove(byId(job.pathways, id));
    remove(byId(job.mains, id));
    remove(byId(job.photographs, id));
    return out;
}

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
    case Tool::Photo:
        break;
    }
    return out;
}

Outcome<Edit> namedRoom(const Job& job, const std::string& roomId, const std::string& text) {
    const Room* room = job.room(roomId);
    const auto first = text.find_first_not_of(' ');
    if (room == nullptr || first == std::string::npos)
        return refuse("room", "it has no name", "Type letters and a name: SL Sail loft");
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
        return refuse("room " + name, "room " + same->name + " has the letters " + letters,
                      "Give other letters first: XY " + name);
    Room after = *room;
    after.letters = letters;
    after.name = name;
    out.changes.push_back(put(std::optional(*room), std::optional(after)));
    return out;
}

Floor newFloor(const Job& job) {
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
    return out;
}

double presetHeightM(const PresetHeight& preset, const Floor& floor) {
    return preset.heightM + (preset.aboveCeiling ? floor.ceilingM : 0);
}

} // namespace burin
