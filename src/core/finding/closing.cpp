#include "core/finding/closing.h"
#include "core/base/lookup.h"
#include <algorithm>

namespace burin {
namespace {

bool isBehindWall(const Surface& wall, const RouteLeg& leg) {
    for (std::size_t i = 1; i < wall.points.size(); ++i) {
        const double away =
            segmentDistanceM(leg.from, leg.to, wall.points[i - 1], wall.points[i], 0);
        // Crossing a wall is not lying in it.
        const bool along = leg.kind == RouteLeg::Kind::Drop ||
                           angleDeg(leg.from, leg.to, wall.points[i - 1], wall.points[i]) < 30;
        if (away <= WayGraph::joinM && along)
            return true;
    }
    return false;
}

bool isBehind(const Job& job, const SitePlan& plan, const Surface& surface, const RouteLeg& leg) {
    if (leg.floorId != surface.floorId)
        return false;
    if (surface.kind == SurfaceKind::Wall)
        return isBehindWall(surface, leg);
    const Floor* floor = plan.graph->floor(leg.floorId);
    const Room* room = job.room(surface.roomId);
    if (floor == nullptr)
        return false;
    if (room != nullptr && !contains(room->outline, between(leg.from, leg.to, 0.5)) &&
        !contains(room->outline, leg.from) && !contains(room->outline, leg.to))
        return false;
    const double low = std::min(leg.fromHeightM, leg.toHeightM) - floor->elevationM;
    const double high = std::max(leg.fromHeightM, leg.toHeightM) - floor->elevationM;
    return surface.kind == SurfaceKind::Ceiling ? high > floor->ceilingM - 1e-6 : low < 0;
}

} // namespace

std::vector<Closing> closings(const Job& job, const SitePlan& plan,
                              const std::vector<RunFinding>& findings) {
    std::vector<Closing> out;
    for (const auto& surface : job.surfaces) {
        if (surface.closesOn.empty())
            continue;
        Closing closing{surface.id, surface.name, surface.closesOn, {}, {}, {}};
        const bool whole =
            std::any_of(job.photographs.begin(), job.photographs.end(), [&](const Photograph& p) {
                return p.surfaceId == surface.id && p.runId.empty();
            });
        for (const auto& route : plan.routes) {
            if (std::none_of(route.legs.begin(), route.legs.end(), [&](const RouteLeg& leg) {
                    return isBehind(job, plan, surface, leg);
                }))
                continue;
            closing.behind.push_back(route.runId);
            const bool seen =
                whole || std::any_of(job.photographs.begin(), job.photographs.end(),
                                     [&](const Photograph& p) { return p.runId == route.runId; });
            if (!seen)
                closing.noPhotograph.push_back(route.runId);
            const auto finding =
                std::find_if(findings.begin(), findings.end(),
                             [&](const RunFinding& f) { return f.runId == route.runId; });
            if (finding == findings.end() || finding->state() == State::Untested)
                closing.untested.push_back(route.runId);
        }
        out.push_back(std::move(closing));
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const Closing& a, const Closing& b) { return a.closesOn < b.closesOn; });
    return out;
}

} // namespace burin
