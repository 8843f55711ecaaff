#include "core/edit/plan_edit.h"
#include "core/finding/cable_choice.h"
#include "core/job/ports.h"
#include "core/site/jacket_print.h"
#include "core/site/separation.h"
#include "core/units/render.h"
#include "says.h"
#include "tray_job.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

MainsRoute feeder(std::vector<PlanPoint> points, double heightM, double kva) {
    MainsRoute m;
    m.id = "m";
    m.name = "feeder";
    m.floorId = "g";
    m.points = std::move(points);
    m.heightM = heightM;
    m.kva = kva;
    return m;
}

const SiteFinding* only(const SitePlan& plan, SiteMatter matter) {
    const SiteFinding* out = nullptr;
    for (const auto& f : plan.findings)
        if (f.matter == matter) {
            EXPECT_EQ(out, nullptr) << "more than one " << siteMatterKey(matter);
            out = &f;
        }
    return out;
}

} // namespace

TEST(Separation, TableSchoolsAndMetal) {
    const auto& rule = shipped().site.separation;
    SurveyRules job;
    const auto mm = [&](double kva, Exposure exposure, bool enclosed = false) {
        MainsRoute m = feeder({}, 0, kva);
        m.enclosed = enclosed;
        return apartFrom(m, exposure, job, rule).wantedMm;
    };
    EXPECT_EQ(mm(1.9, Exposure::Unscreened), 127);
    EXPECT_EQ(mm(2, Exposure::Unscreened), 305);
    EXPECT_EQ(mm(4.9, Exposure::Unscreened), 305);
    EXPECT_EQ(mm(5, Exposure::Unscreened), 610);
    EXPECT_EQ(mm(1, Exposure::Unscreened, true), 63.5);
    EXPECT_EQ(mm(1, Exposure::Screened), 63.5);
    EXPECT_EQ(mm(1, Exposure::Coax), 127);
    job.coaxHalf = true;
    EXPECT_EQ(mm(1, Exposure::Coax), 63.5);
    job.separation = SeparationSchool::House;
    EXPECT_EQ(mm(1, Exposure::Unscreened), 150);
    EXPECT_EQ(apartFrom(feeder({}, 0, 1), Exposure::Unscreened, job, rule).leastMm, 75);
    EXPECT_EQ(mm(1, Exposure::Coax), 75);
    EXPECT_EQ(apartFrom(feeder({}, 0, 1), Exposure::Coax, job, rule).leastMm, 50); // never under
    EXPECT_EQ(mm(20, Exposure::Unscreened), 610); // a feeder is no house branch circuit
    MainsRoute motor = feeder({}, 0, 4);
    motor.kind = MainsKind::Motor;
    EXPECT_EQ(apartFrom(motor, Exposure::Unscreened, job, rule).wantedMm, 1200);
    motor.kind = MainsKind::Ballast;
    EXPECT_EQ(apartFrom(motor, Exposure::Unscreened, job, rule).wantedMm, 127);
}

TEST(Separation, SaysWhereHowLongAndHowNear) {
    Job job = trayJob();
    job.mains = {feeder({{6, 5.04}, {15, 5.04}}, 2.8, 1)};
    const SitePlan plan = planSite(job, shipped());
    const SiteFinding* f = only(plan, SiteMatter::Separation);
    ASSERT_NE(f, nullptr);
    EXPECT_TRUE(f->bad);
    EXPECT_NEAR(f->haveMm, 40, 1e-6);
    EXPECT_EQ(f->wantedMm, 127);
    // 9 m side by side, and √(127² − 40²) mm beyond each end of the feeder.
    EXPECT_NEAR(f->lengthM, 9 + 2 * std::sqrt(0.127 * 0.127 - 0.04 * 0.04), 1e-6);
    ASSERT_EQ(f->runs.size(), 1U);
    // From the panel: 3 m of dressing and 1.3 m up come before the tray.
    EXPECT_NEAR(f->runs[0].fromM, 3 + 1.3 + 6 - std::sqrt(0.127 * 0.127 - 0.04 * 0.04), 1e-6);
    EXPECT_NE(english(f->reason).find("40 mm apart; 127 mm wanted for unscreened cable"),
              std::string::npos)
        << f->reason;
    EXPECT_NE(english(f->caution).find("licensed"), std::string::npos);
    job.mains[0].heightM = 2.73; // √(40² + 70²) = 81 mm apart
    EXPECT_NE(only(planSite(job, shipped()), SiteMatter::Separation), nullptr);
    job.runs[0].cableId = "cat6a-futp";
    EXPECT_EQ(only(planSite(job, shipped()), SiteMatter::Separation), nullptr);
}

TEST(Separation, CrossingsSquareAndNot) {
    Job job = trayJob();
    job.mains = {feeder({{10, 0}, {10, 9}}, 2.74, 1)};
    EXPECT_TRUE(planSite(job, shipped()).findings.empty()); // square, 60 mm between
    job.mains[0].heightM = 2.77;
    const SiteFinding* near = only(planSite(job, shipped()), SiteMatter::Crossing);
    ASSERT_NE(near, nullptr);
    job.mains[0] = feeder({{5, 0}, {15, 10}}, 2.72, 1);
    const SitePlan plan = planSite(job, shipped());
    const SiteFinding* skew = only(plan, SiteMatter::Crossing);
    ASSERT_NE(skew, nullptr);
    EXPECT_FALSE(skew->bad);
    EXPECT_NE(english(skew->reason).find("45°"), std::string::npos) << skew->reason;
}

TEST(Separation, AMotorAtAPoint) {
    Job job = trayJob();
    MainsRoute motor = feeder({{10, 6}}, 2.8, 4);
    motor.kind = MainsKind::Motor;
    job.mains = {motor};
    const SitePlan plan = planSite(job, shipped());
    const SiteFinding* f = only(plan, SiteMatter::Separation);
    ASSERT_NE(f, nullptr);
    EXPECT_NEAR(f->haveMm, 1000, 1e-6);
    EXPECT_NEAR(f->lengthM, 2 * std::sqrt(1.2 * 1.2 - 1), 1e-6);
}

TEST(Separation, DropsBesideAMotorAndPastAFeeder) {
    Job job = trayJob();
    MainsRoute motor = feeder({{20.6, 5}}, 0.5, 4);
    motor.kind = MainsKind::Motor;
    job.mains = {motor};
    const SitePlan beside = planSite(job, shipped());
    const SiteFinding* f = only(beside, SiteMatter::Separation);
    ASSERT_NE(f, nullptr);
    EXPECT_TRUE(f->bad);
    EXPECT_NEAR(f->haveMm, 600, 1e-6);
    // From the outlet at 0.3 m up to where the motor is 1.2 m away.
    EXPECT_NEAR(f->lengthM, 0.2 + std::sqrt(1.2 * 1.2 - 0.6 * 0.6), 1e-9);
    EXPECT_EQ(f->from, job.places[0].at);
    ASSERT_EQ(f->runs.size(), 1U);
    const RunRoute* route = beside.route("SL-D01");
    EXPECT_NEAR(f->runs[0].toM, route->nearSpareM + route->routeM, 1e-9);
    // A second run at the same outlet is the same matter.
    auto second = job.runs[0];
    second.id = second.label = "SL-D02";
    job.runs.push_back(second);
    const SitePlan both = planSite(job, shipped());
    const SiteFinding* together = only(both, SiteMatter::Separation);
    ASSERT_NE(together, nullptr);
    EXPECT_EQ(together->runs.size(), 2U);
    EXPECT_TRUE(english(together->reason).starts_with("2 runs coming down run"))
        << together->reason;
    // What lies level is passed square: 60 mm are enough, 40 mm are not.
    job.runs.pop_back();
    job.mains = {feeder({{20.06, 0}, {20.06, 9}}, 1.5, 8)};
    EXPECT_TRUE(planSite(job, shipped()).findings.empty());
    job.mains[0].points = {{20.04, 0}, {20.04, 9}};
    const SitePlan past = planSite(job, shipped());
    const SiteFinding* touch = only(past, SiteMatter::Crossing);
    ASSERT_NE(touch, nullptr);
    EXPECT_TRUE(touch->bad);
    EXPECT_NEAR(touch->haveMm, 40, 1e-6);
    job.mains[0].heightM = 0.1; // under the outlet: it does not come that far
    EXPECT_TRUE(planSite(job, shipped()).findings.empty());
}

TEST(SiteMatters, ConduitFillHooksAndBends) {
    Job job = trayJob();
    auto& way = job.pathways[0];
    way.kind = PathwayKind::Conduit;
    way.points = {{0, 5}, {20, 5}, {20, 6}};
    way.boreMm = 17;
    way.cornerRadiusMm = 29;
    job.places[0].at = {20, 6};
    auto second = job.runs[0];
    second.id = second.label = "SL-D02";
    // One cable of 7.5 mm fills 17 mm to (7.5/17)² = 19.5 %; two to 38.9 %, and 31 % is the most.
    SitePlan plan = planSite(job, shipped());
    EXPECT_EQ(only(plan, SiteMatter::Fill), nullptr);
    // 4 × 7.5 = 30 mm is wanted inside a corner of 29 mm.
    const SiteFinding* bend = only(plan, SiteMatter::Bend);
    ASSERT_NE(bend, nullptr);
    EXPECT_EQ(bend->wantedMm, 30);
    EXPECT_EQ(bend->from, (PlanPoint{20, 5}));
    job.pathways[0].cornerRadiusMm = 30;
    job.runs.push_back(second);
    plan = planSite(job, shipped());
    EXPECT_EQ(only(plan, SiteMatter::Bend), nullptr);
    const SiteFinding* fill = only(plan, SiteMatter::Fill);
    ASSERT_NE(fill, nullptr);
    EXPECT_EQ(fill->runs.size(), 2U);
    EXPECT_NE(english(fill->reason).find("39 %"), std::string::npos) << fill->reason;
    EXPECT_NEAR(fill->wantedMm, 7.5 * std::sqrt(2 / 0.31), 1e-9);
    job.pathways[0] = trayJob().pathways[0];
    job.pathways[0].perHook = 1;
    job.pathways[0].supportM = 2;
    plan = planSite(job, shipped());
    int hooks = 0;
    for (const auto& f : plan.findings)
        hooks += f.matter == SiteMatter::Hooks ? 1 : 0;
    EXPECT_EQ(hooks, 2); // over-full, and too far apart
}

TEST(SiteMatters, JacketsByTheAirTheyCross) {
    Job job = trayJob();
    const auto jacket = [&] { return planSite(job, shipped()).route("SL-D01")->jacket; };
    EXPECT_EQ(jacket(), Jacket::Riser); // down the wall to the outlet
    job.places[0].kind = PlaceKind::Device;
    EXPECT_EQ(jacket(), Jacket::General);
    job.info.survey.jackets = JacketSchool::PlenumEverywhere;
    EXPECT_EQ(jacket(), Jacket::Plenum);
    job.info.survey.jackets = JacketSchool::WhereNeeded;
    job.pathways[0].kind = PathwayKind::Plenum;
    EXPECT_EQ(jacket(), Jacket::Plenum);
    job.runs[0].jacket = Jacket::Riser;
    const SitePlan plan = planSite(job, shipped());
    const SiteFinding* f = only(plan, SiteMatter::Jacket);
    ASSERT_NE(f, nullptr);
    EXPECT_NE(english(f->cure).find("plenum"), std::string::npos);
    job.pathways[0].kind = PathwayKind::Outdoors;
    EXPECT_EQ(jacket(), Jacket::Outdoor);
    job.places[0].kind = PlaceKind::Outlet; // indoors at the end
    EXPECT_EQ(jacket(), Jacket::Unknown);
    EXPECT_TRUE(serves(Jacket::WaterBlocked, Jacket::Outdoor));
    EXPECT_FALSE(serves(Jacket::Plenum, Jacket::Outdoor));
    EXPECT_FALSE(serves(Jacket::Riser, Jacket::Plenum));
}

TEST(SiteMatters, FireWallsAreCrossedAtAPlace) {
    Job job = trayJob();
    Surface wall;
    wall.id = "w";
    wall.name = "loft wall";
    wall.floorId = "g";
    wall.points = {{12, 0}, {12, 10}};
    job.surfaces = {wall};
    EXPECT_TRUE(planSite(job, shipped()).findings.empty());
    job.surfaces[0].fireMinutes = 60;
    const SitePlan plan = planSite(job, shipped());
    const SiteFinding* f = only(plan, SiteMatter::Fire);
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->from, (PlanPoint{12, 5}));
    EXPECT_NEAR(f->runs[0].fromM, 3 + 1.3 + 12, 1e-9);
}

TEST(SiteMatters, WarmthOfThePathwayReachesTheRun) {
    Job job = trayJob();
    job.pathways[0].temperatureC = 45;
    const Job laid = laidJob(job, planSite(job, shipped()));
    const RunFinding warm = findRun(laid, laid.runs[0], shipped(), {});
    job.pathways[0].temperatureC = 20;
    const Job cool = laidJob(job, planSite(job, shipped()));
    EXPECT_GT(warm.parts.back().lossDb, 0.3);
    EXPECT_EQ(findRun(cool, cool.runs[0], shipped(), {}).channel.warmestC, 20);
    EXPECT_EQ(warm.channel.warmestC, 45);
}

TEST(CableChoice, RanksWithReasonsOfBothSchools) {
    Job job = trayJob("cat6-utp");
    job.pathways[0].points.back().xM = 60;
    job.places[0].at.xM = 60;
    SitePlan plan = planSite(job, shipped());
    Job laid = laidJob(job, plan);
    auto choices = chooseCable(laid, laid.runs[0], plan, shipped());
    ASSERT_FALSE(choices.empty());
    // 67 m: Cat 6 does not carry 10 Gbit/s that far, unscreened Cat 6A is the least that does.
    EXPECT_EQ(choices[0].cableId, "cat6a-utp");
    EXPECT_TRUE(choices[0].holds);
    EXPECT_EQ(choices[0].jacket, Jacket::Riser);
    std::string said;
    for (const auto& reason : choices[0].reasons)
        said += english(reason) + "; ";
    EXPECT_NE(said.find("all new work"), std::string::npos) << said;
    // 40 mm from a circuit only a screened one may lie.
    job.mains = {feeder({{6, 5.07}, {15, 5.07}}, 2.8, 1)};
    plan = planSite(job, shipped());
    laid = laidJob(job, plan);
    choices = chooseCable(laid, laid.runs[0], plan, shipped());
    EXPECT_NE(shipped().cable(choices[0].cableId)->screen, Screen::None) << choices[0].cableId;
    const auto chosen = inCable(laid.runs[0], shipped(), choices[0]);
    EXPECT_EQ(chosen.cableId, choices[0].cableId);
    EXPECT_EQ(chosen.jacket, Jacket::Riser);
}

TEST(Schedule, MakesRunsOutletsAndLabels) {
    Job job = trayJob();
    job.runs.clear();
    auto edit = scheduled(job, shipped(), "r", "data", 3);
    ASSERT_TRUE(edit.has_value()) << render(edit.error(), {});
    auto next = apply(job, *edit);
    ASSERT_TRUE(next.has_value()) << render(next.error(), {});
    EXPECT_EQ(next->runs.size(), 3U);
    EXPECT_EQ(next->runs[2].label, "SL-D03");
    EXPECT_EQ(endName(*next, next->runs[1].near), "panel A port 2");
    EXPECT_EQ(next->runs[1].connections.size(), 2U);
    EXPECT_EQ(next->places.size(), 4U); // two plates of two jacks
    EXPECT_EQ(scheduledCount(*next, shipped(), "r", "data"), 3);
    const SitePlan plan = planSite(*next, shipped());
    for (const auto& run : next->runs) {
        const RunRoute* route = plan.route(run.id);
        ASSERT_NE(route, nullptr);
        EXPECT_GT(route->linkM, 15);
    }
    // One more takes the free jack; two fewer take the last ones and their plate away.
    auto four = apply(*next, *scheduled(*next, shipped(), "r", "data", 4));
    ASSERT_TRUE(four.has_value());
    EXPECT_EQ(four->places.size(), 4U);
    auto two = apply(*four, *scheduled(*four, shipped(), "r", "data", 2));
    ASSERT_TRUE(two.has_value());
    EXPECT_EQ(two->runs.size(), 2U);
    EXPECT_EQ(two->places.size(), 3U);
    EXPECT_TRUE(apply(*two, inverse(*scheduled(*two, shipped(), "r", "data", 2))).has_value());
    // Coax has no head end of its own: it starts at the panel; a service may be named.
    auto coax = apply(*two, *scheduled(*two, shipped(), "r", "coax", 1, "sat-if"));
    ASSERT_TRUE(coax.has_value());
    EXPECT_EQ(coax->runLabelled("SL-C01")->serviceId, "sat-if");
    // A tested run is not taken away by a number.
    Measurement m;
    m.id = "m";
    m.runId = two->runs[1].id;
    two->measurements.push_back(m);
    const auto refused = scheduled(*two, shipped(), "r", "data", 1);
    ASSERT_FALSE(refused.has_value());
    EXPECT_NE(render(refused.error().what, {}).find("tested"), std::string::npos);
}

TEST(Schedule, ReadersGoFromOneToTheNext) {
    Job job = trayJob();
    Place controller = job.places[1];
    controller.id = "c";
    controller.name = "door controller";
    controller.kind = PlaceKind::Controller;
    controller.ports = 1;
    job.places.push_back(controller);
    const auto next = apply(job, *scheduled(job, shipped(), "r", "reader", 2));
    ASSERT_TRUE(next.has_value()) << render(next.error(), {});
    const auto& first = *next->runLabelled("SL-R01");
    const auto& second = *next->runLabelled("SL-R02");
    EXPECT_EQ(first.near.placeId, "c");
    EXPECT_EQ(second.near.placeId, first.far.placeId);
    EXPECT_EQ(second.cableId, "bus-120");
}

TEST(Schedule, RefusesWithTheCure) {
    Job job = trayJob();
    job.rooms[0].outline.clear();
    auto refused = scheduled(job, shipped(), "r", "data", 3);
    ASSERT_FALSE(refused.has_value());
    EXPECT_NE(render(refused.error().cure, {}).find("Draw the room"), std::string::npos);
    job = trayJob();
    job.runs.clear();
    job.places.clear();
    refused = scheduled(job, shipped(), "r", "data", 3);
    ASSERT_FALSE(refused.has_value());
    EXPECT_NE(render(refused.error().cure, {}).find("panel"), std::string::npos);
}

TEST(Labels, OnceForTheWholeJob) {
    Job job = trayJob();
    auto next = apply(job, *scheduled(job, shipped(), "r", "data", 3));
    ASSERT_TRUE(next.has_value());
    const auto edit = relabelled(*next, shipped(), "{kind}.{room}.{nnn}");
    ASSERT_TRUE(edit.has_value());
    next = apply(*next, *edit);
    ASSERT_TRUE(next.has_value()) << render(next.error(), {});
    EXPECT_NE(next->runLabelled("D.SL.003"), nullptr);
    EXPECT_EQ(next->info.survey.labels, "{kind}.{room}.{nnn}");
    EXPECT_FALSE(relabelled(*next, shipped(), "{room}").has_value());
    EXPECT_FALSE(relabelled(*next, shipped(), "{nn}").has_value());
}

TEST(PlanEdit, ScaleSetAnewKeepsTheDrawingOnThePicture) {
    Job job = trayJob();
    job.floors[0].picture = FloorPicture{"h", "plan.png", 0, 1000, 800, 0.03, {1, 2}};
    job.runs[0].vias = {{"g", {10, 5}}};
    const auto edit = rescaled(job, "g", 2);
    ASSERT_TRUE(edit.has_value());
    const auto next = apply(job, *edit);
    ASSERT_TRUE(next.has_value());
    EXPECT_EQ(next->pathways[0].points[1], (PlanPoint{40, 10}));
    EXPECT_EQ(next->floors[0].picture->metresPerPixel, 0.06);
    EXPECT_EQ(next->floors[0].picture->at, (PlanPoint{2, 4}));
    EXPECT_EQ(next->runs[0].vias[0].at, (PlanPoint{20, 10}));
    EXPECT_EQ(next->pathways[0].heightM, 2.8);
    EXPECT_EQ(*apply(*next, inverse(*edit)), job);
    EXPECT_FALSE(rescaled(job, "g", 0).has_value());
}

TEST(PlanEdit, WhatLosesItsPlaceKeepsItsLength) {
    Job job = trayJob();
    const Job laid = laidJob(job, planSite(job, shipped()));
    const double length = laid.runs[0].lengthM();
    auto next = apply(job, {"remove", removalOfPlace(job, laid, "o")});
    ASSERT_TRUE(next.has_value()) << render(next.error(), {});
    EXPECT_FALSE(next->runs[0].followsPlan);
    EXPECT_NEAR(next->runs[0].lengthM(), length, 1e-9);
    EXPECT_FALSE(apply(job, {"remove", {put(std::optional(job.places[0]), std::optional<Place>{})}})
                     .has_value()); // not without letting its run go
    next = apply(job, {"floor", removalOfFloor(job, laid, "g")});
    ASSERT_TRUE(next.has_value()) << render(next.error(), {});
    EXPECT_TRUE(next->places.empty() && next->pathways.empty() && next->floors.empty());
    EXPECT_TRUE(next->rooms[0].outline.empty());
    next = apply(job, {"room", removalOfRoom(job, "r")});
    ASSERT_TRUE(next.has_value());
    EXPECT_EQ(next->rooms.size(), 1U); // it has a run
}

TEST(JacketPrint, ReadsKindGaugeScreenRatingAndMark) {
    const auto print =
        readJacketPrint("E000000 23 AWG 4PR U/UTP CAT 6 CMR 75C LISTED 0412 FT", shipped());
    ASSERT_TRUE(print.has_value());
    EXPECT_EQ(print->kind, "Cat 6");
    EXPECT_EQ(print->awg.value_or(0), 23);
    EXPECT_EQ(print->pairs.value_or(0), 4);
    EXPECT_EQ(print->screen, "U/UTP");
    EXPECT_EQ(print->jacket, Jacket::Riser);
    EXPECT_NEAR(print->markM.value_or(0), 412 * 0.3048, 1e-9);
    EXPECT_TRUE(print->markInFeet);
    EXPECT_EQ(print->cableIds, std::vector<std::string>{"cat6-utp"});
    const auto coax = readJacketPrint("RG-6/U TYPE 18AWG QUAD SHIELD 75 OHM CATVP 123M", shipped());
    ASSERT_TRUE(coax.has_value());
    EXPECT_EQ(coax->cableIds, std::vector<std::string>{"coax-s6-quad"});
    EXPECT_EQ(coax->jacket, Jacket::Plenum);
    EXPECT_EQ(coax->markM.value_or(0), 123);
    const auto six = readJacketPrint("category 6A f/utp cmp", shipped());
    ASSERT_TRUE(six.has_value());
    EXPECT_EQ(six->cableIds, std::vector<std::string>{"cat6a-futp"});
    const auto outside = readJacketPrint("CAT5E CMX OUTDOOR 24 AWG", shipped());
    ASSERT_TRUE(outside.has_value());
    EXPECT_EQ(outside->jacket, Jacket::Outdoor);
    EXPECT_EQ(outside->cableIds.front(), "cat5e-utp");
    const auto nothing = readJacketPrint("hello there", shipped());
    ASSERT_FALSE(nothing.has_value());
    EXPECT_FALSE(nothing.error().cure.empty());
}
