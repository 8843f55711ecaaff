#include "core/edit/edit.h"
#include "core/edit/plan_edit.h"
#include "core/finding/closing.h"
#include "core/job/ports.h"
#include "core/units/render.h"
#include "tray_job.h"

using namespace burin;

namespace {

Surface wall(std::vector<PlanPoint> points, const std::string& date) {
    Surface out;
    out.id = "w";
    out.name = "wall";
    out.floorId = "g";
    out.points = std::move(points);
    out.closesOn = date;
    return out;
}

std::vector<Closing> closingsOf(const Job& job, const std::vector<RunFinding>& findings = {}) {
    return closings(job, planSite(job, shipped()), findings);
}

} // namespace

TEST(Closing, BehindAWallLiesWhatGoesAlongIt) {
    Job job = trayJob();
    job.surfaces = {wall({{20.2, 2}, {20.2, 9}}, "2026-12-01")}; // the drop comes down in it
    auto found = closingsOf(job);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].behind, std::vector<std::string>{"SL-D01"});
    EXPECT_EQ(found[0].untested.size(), 1U);
    EXPECT_FALSE(found[0].done());
    job.surfaces = {wall({{10, 2}, {10, 9}}, "2026-12-01")}; // the tray crosses it
    EXPECT_TRUE(closingsOf(job)[0].behind.empty());
    job.surfaces = {wall({{5, 5.2}, {15, 5.2}}, "2026-12-01")}; // the tray lies along it
    EXPECT_EQ(closingsOf(job)[0].behind.size(), 1U);
    job.surfaces = {wall({{5, 5.2}, {15, 5.2}}, "")}; // no date, no hurry
    EXPECT_TRUE(closingsOf(job).empty());
}

TEST(Closing, CeilingsHideWhatGoesAboveThemAndFloorsWhatGoesBelow) {
    Job job = trayJob();
    const auto ceiling = closedOn(job, SurfaceKind::Ceiling, "g", "r", "2026-12-02");
    job = after(job, ceiling);
    ASSERT_EQ(job.surfaces.size(), 1U);
    EXPECT_EQ(job.surfaces[0].name, "Sail loft ceiling");
    EXPECT_EQ(closingsOf(job)[0].behind.size(), 1U); // the tray at 2.8 m, over 2.7 m
    Job low = job;
    low.pathways[0].heightM = 2.5;
    EXPECT_TRUE(closingsOf(low)[0].behind.empty());
    // A room that the way does not cross hides nothing of it.
    Job away = job;
    for (auto& corner : away.rooms[0].outline)
        corner.yM += 20;
    EXPECT_TRUE(closingsOf(away)[0].behind.empty());
    Job under =
        after(trayJob(), closedOn(trayJob(), SurfaceKind::Underfloor, "g", {}, "2026-12-03"));
    EXPECT_EQ(under.surfaces[0].name, "Ground floor underfloor");
    EXPECT_TRUE(closingsOf(under)[0].behind.empty());
    under.pathways[0].heightM = -0.2;
    EXPECT_EQ(closingsOf(under)[0].behind.size(), 1U);
}

TEST(Closing, TheDateIsSetChangedAndTakenBack) {
    const Job job = trayJob();
    const Job set = after(job, closedOn(job, SurfaceKind::Ceiling, "g", "r", "2026-12-02"));
    const Job moved = after(set, closedOn(set, SurfaceKind::Ceiling, "g", "r", "2026-12-09"));
    ASSERT_EQ(moved.surfaces.size(), 1U);
    EXPECT_EQ(moved.surfaces[0].closesOn, "2026-12-09");
    EXPECT_EQ(moved.surfaces[0].id, set.surfaces[0].id);
    EXPECT_EQ(after(moved, closedOn(moved, SurfaceKind::Ceiling, "g", "r", "")), job);
    EXPECT_TRUE(closedOn(job, SurfaceKind::Ceiling, "g", "r", "")->changes.empty());
    // One that holds back fire stays when its date goes.
    Job rated = set;
    rated.surfaces[0].fireMinutes = 60;
    rated = after(rated, closedOn(rated, SurfaceKind::Ceiling, "g", "r", ""));
    ASSERT_EQ(rated.surfaces.size(), 1U);
    EXPECT_TRUE(rated.surfaces[0].closesOn.empty());
    EXPECT_FALSE(closedOn(job, SurfaceKind::Wall, "g", "r", "2026-12-02").has_value());
    EXPECT_FALSE(closedOn(job, SurfaceKind::Ceiling, "nowhere", {}, "2026-12-02").has_value());
    EXPECT_FALSE(closedOn(job, SurfaceKind::Ceiling, "g", "no room", "2026-12-02").has_value());
}

TEST(Closing, PhotographsAndTestsTickItOff) {
    Job job = trayJob();
    job.surfaces = {wall({{5, 5.2}, {15, 5.2}}, "2026-12-05")};
    job = after(job, closedOn(job, SurfaceKind::Ceiling, "g", "r", "2026-12-01"));
    auto found = closingsOf(job);
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[0].closesOn, "2026-12-01"); // the nearest date first
    EXPECT_EQ(found[0].noPhotograph.size(), 1U);
    Photograph photo;
    photo.id = "p";
    photo.surfaceId = "w";
    job.photographs = {photo};
    found = closingsOf(job);
    EXPECT_EQ(found[0].noPhotograph.size(), 1U); // of the wall, not of the ceiling
    EXPECT_TRUE(found[1].noPhotograph.empty());
    job.photographs[0].surfaceId.clear();
    job.photographs[0].runId = "SL-D01";
    found = closingsOf(job);
    EXPECT_TRUE(found[0].noPhotograph.empty()); // of the run, wherever it lies
    EXPECT_TRUE(found[1].noPhotograph.empty());
    RunFinding proven;
    proven.runId = "SL-D01";
    proven.serviceState = State::Pass;
    found = closingsOf(job, {proven});
    EXPECT_TRUE(found[0].done());
}

TEST(Joined, ARunBetweenAnyTwoPlaces) {
    Job job = trayJob();
    Place reader;
    reader.id = "d1";
    reader.name = "reader 1";
    reader.kind = PlaceKind::Device;
    reader.floorId = "g";
    reader.at = {16, 3};
    job.places.push_back(reader);
    reader.id = "d2";
    reader.name = "reader 2";
    reader.roomId = "r";
    job.places.push_back(reader);
    // Named from the far end, it comes from the head end all the same.
    const Job first = after(job, joined(job, shipped(), "d2", "p", "data"));
    const auto& run = first.runs.back();
    EXPECT_EQ(run.label, "SL-D02");
    EXPECT_EQ(run.near.placeId, "p");
    EXPECT_EQ(endName(first, run.near), "panel A port 1"); // the other run names none
    EXPECT_EQ(endName(first, run.far), "reader 2");
    EXPECT_TRUE(run.followsPlan);
    EXPECT_FALSE(planSite(first, shipped()).route(run.id)->fault.has_value());
    // From reader to reader as clicked, in the room of the one that has a room.
    const Job chain = after(job, joined(job, shipped(), "d2", "d1", "reader"));
    EXPECT_EQ(chain.runs.back().near.placeId, "d2");
    EXPECT_EQ(chain.runs.back().roomId, "r");
    EXPECT_EQ(chain.runs.back().label, "SL-R01");
    EXPECT_EQ(chain.runs.back().cableId, "bus-120");
    EXPECT_FALSE(joined(job, shipped(), "d1", "d1", "data").has_value());
    EXPECT_FALSE(joined(job, shipped(), "d1", "nothing", "data").has_value());
    EXPECT_FALSE(joined(job, shipped(), "d1", "p", "no such kind").has_value());
    const auto nowhere = joined(job, shipped(), "d1", "p", "data");
    ASSERT_FALSE(nowhere.has_value());
    EXPECT_NE(render(nowhere.error().cure, {}).find("room"), std::string::npos);
}

TEST(PlanEdit, AFloorGoesWithAllThatStandsOnIt) {
    Job job = trayJob();
    Floor loft = job.floors[0];
    loft.id = "loft";
    loft.name = "Loft";
    loft.order = 1;
    loft.elevationM = 3.5;
    job.floors.push_back(loft);
    job = after(job, closedOn(job, SurfaceKind::Ceiling, "g", "r", "2026-12-02"));
    Photograph photo;
    photo.id = "ph";
    photo.floorId = "g";
    photo.at = PlanPoint{3, 3};
    job.photographs = {photo};
    const Job laid = laidJob(job, planSite(job, shipped()));
    const double length = laid.runs[0].lengthM();
    const Edit edit{"remove", removalOfFloor(job, laid, "g")};
    const Job left = after(job, edit);
    EXPECT_EQ(left.floors.size(), 1U);
    EXPECT_TRUE(left.places.empty());
    EXPECT_TRUE(left.pathways.empty());
    ASSERT_EQ(left.runs.size(), 1U);
    EXPECT_FALSE(left.runs[0].followsPlan);
    EXPECT_NEAR(left.runs[0].lengthM(), length, 1e-9);
    EXPECT_EQ(after(left, inverse(edit)), job);
}
