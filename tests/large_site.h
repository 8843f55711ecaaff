#pragma once
#include "core/job/job.h"
#include <algorithm>

namespace burin {

/// A building of 200 rooms, 1,000 outlets with a run each and 300 pathways: ten corridors of ten by
/// two rooms, a tray in each, hooks into every room, cross ways between corridors, one tray across,
/// and a panel at its foot; a mains route along every other corridor.
inline Job largeSite() {
    Job job;
    Floor floor;
    floor.id = "g";
    floor.name = "Ground floor";
    floor.widthM = 120;
    floor.depthM = 160;
    job.floors = {floor};
    const auto pathway = [&](std::vector<PlanPoint> points, PathwayKind kind) {
        Pathway p;
        p.id = p.name = "p" + std::to_string(job.pathways.size());
        p.kind = kind;
        p.floorId = "g";
        p.points = std::move(points);
        job.pathways.push_back(p);
    };
    Place panel;
    panel.id = panel.name = "panel";
    panel.kind = PlaceKind::Panel;
    panel.floorId = "g";
    panel.at = {1, 80};
    panel.heightM = 1.5;
    job.places.push_back(panel);
    pathway({{1, 2}, {1, 158}}, PathwayKind::Tray);
    for (int corridor = 0; corridor < 10; ++corridor) {
        const double y = 8.0 + 15 * corridor;
        pathway({{1, y}, {111, y}}, PathwayKind::Tray);
        if (corridor % 2 == 0) {
            MainsRoute mains;
            mains.id = mains.name = "m" + std::to_string(corridor);
            mains.floorId = "g";
            mains.points = {{20, y + 0.1}, {90, y + 0.1}};
            mains.heightM = 2.9;
            mains.kva = 3;
            job.mains.push_back(mains);
        }
        for (int side = 0; side < 20; ++side) {
            const double x = 2.0 + 11 * (side / 2);
            const double top = side % 2 == 0 ? y - 6.5 : y + 1;
            Room room;
            room.id = room.letters = "R" + std::to_string(job.rooms.size());
            room.name = "Room " + room.letters;
            room.order = static_cast<int>(job.rooms.size());
            room.floorId = "g";
            room.outline = {{x, top}, {x + 10, top}, {x + 10, top + 5.5}, {x, top + 5.5}};
            pathway({{x + 5, y}, {x + 5, side % 2 == 0 ? top + 1 : top + 4.5}}, PathwayKind::Hooks);
            for (int i = 0; i < 5; ++i) {
                Place outlet;
                outlet.id = outlet.name = room.id + "-" + std::to_string(i);
                outlet.floorId = "g";
                outlet.roomId = room.id;
                outlet.at = {x + 1 + 2 * i, side % 2 == 0 ? top : top + 5.5};
                job.places.push_back(outlet);
                Run run;
                run.id = run.label = outlet.id;
                run.roomId = room.id;
                run.order = i;
                run.serviceId = "10g";
                run.cableId = i == 0 ? "cat6a-futp" : "cat6a-utp";
                run.near.placeId = "panel";
                run.far.placeId = outlet.id;
                run.followsPlan = true;
                job.runs.push_back(run);
            }
            job.rooms.push_back(room);
        }
    }
    for (int k = 0; job.pathways.size() < 300; ++k) // cross ways between corridors
        pathway({{7.0 + 11 * (k % 10), 8.0 + 15 * (k / 10)},
                 {7.0 + 11 * (k % 10), 23.0 + 15 * (k / 10)}},
                PathwayKind::Tray);
    std::sort(job.places.begin(), job.places.end(),
              [](const Place& a, const Place& c) { return a.name < c.name; });
    return job;
}

} // namespace burin
