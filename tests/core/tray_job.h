#pragma once
#include "core/edit/apply.h"
#include "core/finding/pull_finding.h"
#include "core/units/render.h"
#include "shipped.h"

namespace burin {

/// A tray of 20 m with one panel, one outlet under its far end, and a run between them.
inline Job trayJob(const char* cable = "cat6a-utp") {
    Job job;
    Floor floor;
    floor.id = "g";
    floor.name = "Ground floor";
    job.floors = {floor};
    job.rooms = {Room{"r", "SL", "Sail loft", 0, 0, "g", {{15, 2}, {25, 2}, {25, 9}, {15, 9}}}};
    Pathway tray;
    tray.id = "t";
    tray.name = "Tray";
    tray.floorId = "g";
    tray.points = {{0, 5}, {20, 5}};
    tray.heightM = 2.8;
    job.pathways = {tray};
    Place panel;
    panel.id = "p";
    panel.name = "panel A";
    panel.kind = PlaceKind::Panel;
    panel.floorId = "g";
    panel.at = {0, 5};
    panel.heightM = 1.5;
    panel.ports = 24;
    Place outlet = panel;
    outlet.id = "o";
    outlet.name = "outlet";
    outlet.kind = PlaceKind::Outlet;
    outlet.at = {20, 5};
    outlet.heightM = 0.3;
    outlet.ports = 1;
    job.places = {outlet, panel};
    Run run;
    run.id = run.label = "SL-D01";
    run.roomId = "r";
    run.serviceId = "10g";
    run.cableId = cable;
    run.near.placeId = "p";
    run.far.placeId = "o";
    run.followsPlan = true;
    job.runs = {run};
    return job;
}

/// The job with the edit done; the test fails where it is refused.
inline Job after(const Job& job, const Outcome<Edit>& edit) {
    EXPECT_TRUE(edit.has_value()) << (edit ? "" : render(edit.error(), {}));
    auto out = edit ? apply(job, *edit) : Outcome<Job>(job);
    EXPECT_TRUE(out.has_value()) << (out ? "" : render(out.error(), {}));
    return out ? *out : job;
}
inline PullPlan planOf(const Job& job) {
    return planPulls(job, shipped(), planSite(job, shipped()));
}

} // namespace burin
