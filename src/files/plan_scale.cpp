// Where a floor, and what is marked on it, comes to lie on the paper.
#include "core/base/lookup.h"
#include "files/plan_drawing.h"
#include <algorithm>

namespace burin {

PlanPoint markOf(const SiteFinding& finding) {
    return between(finding.from, finding.to, 0.5);
}

PlanScale fitted(const Job& job, const std::string& floorId, const QRectF& box) {
    PlanScale out;
    const Floor* floor = byId(job.floors, floorId);
    if (floor == nullptr || box.isEmpty())
        return out;
    QRectF all(0, 0, floor->widthM, floor->depthM);
    const auto reach = [&](const PlanPoint& p) {
        all.setCoords(std::min(all.left(), p.xM), std::min(all.top(), p.yM),
                      std::max(all.right(), p.xM), std::max(all.bottom(), p.yM));
    };
    const auto lines = [&](const auto& things) {
        for (const auto& thing : things)
            if (thing.floorId == floorId)
                std::for_each(thing.points.begin(), thing.points.end(), reach);
    };
    lines(job.pathways);
    lines(job.mains);
    lines(job.surfaces);
    for (const auto& room : job.rooms)
        if (room.floorId == floorId)
            std::for_each(room.outline.begin(), room.outline.end(), reach);
    for (const auto& place : job.places)
        if (place.floorId == floorId)
            reach(place.at);
    const double margin = 10;
    out.pxPerM = std::max(0.01, std::min((box.width() - 2 * margin) / all.width(),
                                         (box.height() - 2 * margin) / all.height()));
    out.origin = box.center() - all.center() * out.pxPerM;
    return out;
}

} // namespace burin
