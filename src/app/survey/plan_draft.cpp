#include "app/survey/plan_draft.h"
#include "core/base/lookup.h"
#include "core/edit/removal.h"
#include <algorithm>
#include <cmath>
#include <functional>
#include <set>

namespace burin {
namespace {

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

/// No changes: there is no such thing, or it stays as it is.
template <typename T, typename Alter> Changes changed(const T* thing, Alter change) {
    if (thing == nullptr)
        return {};
    T after = *thing;
    change(after);
    return put(std::optional(*thing), std::optional(after));
}

} // namespace

double onGrid(double m) {
    return std::round(m * 10) / 10;
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

PlanPoint snapped(const Job& job, const std::string& floorId, PlanPoint p, double withinM,
                  const std::optional<PlanPoint>& from, bool square, const std::string& except) {
    if (square && from) {
        if (std::abs(p.xM - from->xM) >= std::abs(p.yM - from->yM))
            p.yM = from->yM;
        else
            p.xM = from->xM;
    }
    PlanPoint best{onGrid(p.xM), onGrid(p.yM)};
    if (square && from) // the grid must not bend what is to be square
        best = p.xM == from->xM ? PlanPoint{from->xM, onGrid(p.yM)}
                                : PlanPoint{onGrid(p.xM), from->yM};
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
    auto lines = linesOn(job, floorId);
    std::erase_if(lines, [&](const PlanLine& line) { return *line.id == except; });
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
                on.yM = onGrid(on.yM);
            else if (round[i - 1].yM == round[i].yM)
                on.xM = onGrid(on.xM);
            offer(on);
        }
    }
    return best;
}

const Place* placeAt(const Job& job, const std::string& floorId, const PlanPoint& p,
                     double withinM) {
    const Place* nearest = nullptr;
    for (const auto& place : job.places)
        if (place.floorId == floorId && distanceM(place.at, p) < withinM) {
            withinM = distanceM(place.at, p);
            nearest = &place;
        }
    return nearest;
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
    if (const Place* nearest = placeAt(job, floorId, p, least))
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
    out.reserve(all.size());
    for (auto& [at, id] : all)
        out.push_back(std::move(id));
    return out;
}

Changes withPoints(const Job& job, const std::string& id,
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

Changes movedBy(const Job& job, const std::string& id, int corner, double dx, double dy) {
    Changes out;
    const auto shift = [&](std::vector<PlanPoint>& points) {
        for (std::size_t i = 0; i < points.size(); ++i)
            if (corner < 0 || static_cast<int>(i) == corner) {
                points[i].xM += dx;
                points[i].yM += dy;
            }
    };
    out.push_back(withPoints(job, id, shift));
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

Changes splitAt(const Job& job, const std::string& id, const PlanPoint& at) {
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

Changes removalOfThing(const Job& job, const Job& laid, const std::string& id) {
    if (job.room(id) != nullptr)
        return removalOfRoom(job, id);
    if (byId(job.places, id) != nullptr)
        return removalOfPlace(job, laid, id);
    for (const Kind kind : {Kind::Surface, Kind::Pathway, Kind::Mains, Kind::Photograph})
        if (auto changes = removing(job, kind, id); changes && !changes->empty())
            return std::move(*changes);
    return {};
}

} // namespace burin
