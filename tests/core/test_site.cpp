#include "core/edit/edit.h"
#include "core/finding/site_finding.h"
#include "core/site/separation.h"
#include "core/units/render.h"
#include "says.h"
#include "shipped.h"
#include <gtest/gtest.h>
#include <random>

using namespace burin;

namespace {

Floor groundFloor() {
    Floor f;
    f.id = "g";
    f.name = "Ground floor";
    return f;
}

Pathway tray(const char* id, std::vector<PlanPoint> points, double heightM = 2.8) {
    Pathway p;
    p.id = p.name = id;
    p.floorId = "g";
    p.points = std::move(points);
    p.heightM = heightM;
    return p;
}

Place place(const char* id, PlaceKind kind, PlanPoint at, double heightM) {
    Place p;
    p.id = p.name = id;
    p.kind = kind;
    p.floorId = "g";
    p.at = at;
    p.heightM = heightM;
    return p;
}

Run run(const char* label, const char* near, const char* far, const char* cable = "cat6a-utp") {
    Run r;
    r.id = r.label = label;
    r.roomId = "r";
    r.serviceId = "10g";
    r.cableId = cable;
    r.near.placeId = near;
    r.far.placeId = far;
    r.followsPlan = true;
    return r;
}

/// A hall with a tray along y = 5 at 2.8 m and a panel under its left end.
Job hall() {
    Job job;
    job.floors = {groundFloor()};
    job.rooms = {Room{"r", "R", "Hall", 0, 0}};
    job.pathways = {tray("tray", {{2, 5}, {22, 5}})};
    job.places = {place("panel", PlaceKind::Panel, {2, 5}, 1.5),
                  place("o1", PlaceKind::Outlet, {12, 8}, 0.3),
                  place("o2", PlaceKind::Outlet, {20, 4}, 0.3)};
    job.runs = {run("R-D01", "panel", "o1"), run("R-D02", "panel", "o2")};
    return job;
}

double partM(const RunRoute& route, std::string_view name) {
    for (const auto& part : route.parts)
        if (english(part.name).starts_with(name))
            return part.lengthM;
    return -1;
}

std::vector<const SiteFinding*> of(const SitePlan& plan, SiteMatter matter) {
    std::vector<const SiteFinding*> out;
    for (const auto& f : plan.findings)
        if (f.matter == matter)
            out.push_back(&f);
    return out;
}

} // namespace

TEST(Site, LengthsOfAHandWorkedPlan) {
    const SitePlan plan = planSite(hall(), shipped());
    const RunRoute* route = plan.route("R-D01");
    ASSERT_NE(route, nullptr);
    // By hand: up from the panel 2.8 − 1.5 = 1.3; tray 12 − 2 = 10; open 8 − 5 = 3; down to the
    // outlet 2.8 − 0.3 = 2.5. All to the millimetre.
    EXPECT_NEAR(partM(*route, "pathways"), 10, 1e-3);
    EXPECT_NEAR(partM(*route, "through the open"), 3, 1e-3);
    EXPECT_NEAR(partM(*route, "drops"), 3.8, 1e-3);
    EXPECT_NEAR(route->routeM, 16.8, 1e-3);
    EXPECT_NEAR(route->linkM, 16.8 + 3 + 0.3, 1e-3); // dressing at the rack, loop in the box
    EXPECT_NEAR(route->pullM, 16.8 * 1.05 + 3.3, 1e-3);
    double sum = 0;
    for (const auto& s : route->stretches)
        sum += s.lengthM;
    EXPECT_NEAR(sum, route->linkM, 1e-9);
    EXPECT_EQ(route->stretches.front().name, "dressing");
    // The second goes 18 m along the tray and 1 m through the open.
    EXPECT_NEAR(plan.route("R-D02")->routeM, 1.3 + 18 + 1 + 2.5, 1e-3);
}

TEST(Site, MeasuredSchoolPullsAStatedAllowance) {
    Job job = hall();
    job.info.survey.spare = SpareSchool::Measured;
    job.info.survey.allowanceM = 1.5;
    const SitePlan plan = planSite(job, shipped());
    EXPECT_NEAR(plan.route("R-D01")->linkM, 16.8, 1e-9);
    EXPECT_NEAR(plan.route("R-D01")->pullM, 19.8, 1e-9);
    // 3 m of spare at 0.60 against 19.8 m and an hour and a half.
    EXPECT_NEAR(plan.route("R-D01")->spareCost, 1.8, 1e-9);
    EXPECT_NEAR(plan.route("R-D01")->repullCost, 19.8 * 0.6 + 1.5 * 45, 1e-9);
    EXPECT_NE(english(routeWorking(job, *plan.route("R-D01"))).find("19.80 m to pull"),
              std::string::npos);
}

TEST(Site, TypedLengthStaysUntilToldToFollow) {
    Job job = hall();
    job.runs[0].followsPlan = false;
    job.runs[0].stretches = {{"typed", 40, 20, 0}};
    const SitePlan plan = planSite(job, shipped());
    Job laid = laidJob(job, plan);
    EXPECT_EQ(laid.runs[0].lengthM(), 40);
    EXPECT_NEAR(laid.runs[1].lengthM(), 22.8 + 3.3, 1e-3);
    job.runs[0].followsPlan = true;
    laid = laidJob(job, plan);
    EXPECT_NEAR(laid.runs[0].lengthM(), 20.1, 1e-3);
    EXPECT_EQ(job.runs[0].lengthM(), 40); // what was typed is still there
}

TEST(Site, CompanyIsCountedByStretch) {
    const SitePlan plan = planSite(hall(), shipped());
    const auto& first = *plan.route("R-D01");
    const auto& second = *plan.route("R-D02");
    for (const auto* route : {&first, &second})
        for (std::size_t i = 0; i < route->legs.size(); ++i)
            if (route->legs[i].kind == RouteLeg::Kind::Along) {
                EXPECT_EQ(route->cables[i], 2);
            }
    EXPECT_EQ(first.stretches[0].neighbours, 1);     // both are dressed at the panel
    EXPECT_EQ(first.stretches.back().neighbours, 0); // each in a box of its own
    EXPECT_EQ(first.stretches[2].name, "tray");
    EXPECT_EQ(first.stretches[2].neighbours, 1);
}

TEST(Site, ConduitIsEnteredAtItsEndsOnly) {
    Job job = hall();
    job.pathways[0].kind = PathwayKind::Conduit;
    const SitePlan plan = planSite(job, shipped());
    // Into the conduit at the panel, out at (22, 5), then square back to the outlet in the open:
    // 20 + 13; straight through the open is 10 + 3 = 13 at four times the weight, so 52 < 20 + 52.
    EXPECT_NEAR(partM(*plan.route("R-D01"), "through the open"), 13, 1e-9);
    EXPECT_EQ(partM(*plan.route("R-D01"), "pathways"), -1);
    // To the second it pays: 20 m of conduit and 3 m back, against 19 m in the open.
    EXPECT_NEAR(partM(*plan.route("R-D02"), "pathways"), 20, 1e-9);
    EXPECT_NEAR(partM(*plan.route("R-D02"), "through the open"), 3, 1e-9);
}

TEST(Site, FloorsAreJoinedByAShaft) {
    Job job = hall();
    Floor upper = groundFloor();
    upper.id = "u";
    upper.name = "Upper floor";
    upper.elevationM = 3.5;
    upper.order = 1;
    job.floors.push_back(upper);
    job.places[1].floorId = "u";
    SitePlan plan = planSite(job, shipped());
    ASSERT_TRUE(plan.route("R-D01")->fault.has_value());
    EXPECT_NE(render(plan.route("R-D01")->fault->what, {}).find("Upper floor"), std::string::npos);
    EXPECT_EQ(of(plan, SiteMatter::NoWay).size(), 1U);

    Pathway shaft = tray("shaft", {{12, 5}});
    shaft.kind = PathwayKind::Shaft;
    shaft.toFloorId = "u";
    job.pathways.push_back(shaft);
    Pathway above = tray("above", {{12, 5}, {12, 9}});
    above.floorId = "u";
    job.pathways.push_back(above);
    plan = planSite(job, shipped());
    const RunRoute& route = *plan.route("R-D01");
    ASSERT_FALSE(route.fault.has_value());
    // 1.3 up, 10 along, up the shaft from 2.8 to 3.5 + 2.8, 3 along, down 2.5.
    EXPECT_NEAR(route.routeM, 1.3 + 10 + 3.5 + 3 + 2.5, 1e-9);
    EXPECT_EQ(route.jacket, Jacket::Riser);
    ASSERT_EQ(of(plan, SiteMatter::Fire).size(), 1U);
    EXPECT_FALSE(of(plan, SiteMatter::Fire)[0]->bad);
}

TEST(Site, LedThroughAPointOfAnotherWay) {
    Job job = hall();
    job.pathways.push_back(tray("detour", {{4, 5}, {4, 12}, {12, 12}, {12, 5}}));
    SitePlan plan = planSite(job, shipped());
    EXPECT_NEAR(plan.route("R-D01")->routeM, 1.3 + 10 + 3 + 2.5, 1e-9); // it comes down the detour
    job.runs[0].vias = {{"g", {8, 11}}};
    plan = planSite(job, shipped());
    // 2 along the tray, 7 down, 8 across, 4 back up to the outlet's height on the plan.
    EXPECT_NEAR(plan.route("R-D01")->routeM, 1.3 + 2 + 7 + 8 + 4 + 2.5, 1e-9);
    job.pathways.pop_back(); // the pathway goes: the way falls back at once
    plan = planSite(job, shipped());
    EXPECT_NEAR(plan.route("R-D01")->routeM, 1.3 + 10 + 3 + 2.5, 1e-9);
}

namespace {

/// The weight of the shortest way, found another way: every pathway is cut into its points of
/// interest by brute force, all pairs of points are joined by rule, and Floyd and Warshall's
/// recurrence is run over the lot.
double weightByMatrix(const std::vector<Pathway>& ways, const Place& from, const Place& to) {
    struct Spot {
        std::size_t way;
        double x, y, z, at;
    };
    std::vector<Spot> spots;
    const auto along = [](const Pathway& w, double x, double y) {
        double at = 0;
        double bestAt = 0;
        double best = 1e300;
        double bx = 0;
        double by = 0;
        for (std::size_t i = 1; i < w.points.size(); ++i) {
            const double dx = w.points[i].xM - w.points[i - 1].xM;
            const double dy = w.points[i].yM - w.points[i - 1].yM;
            const double l = std::sqrt(dx * dx + dy * dy);
            double t = ((x - w.points[i - 1].xM) * dx + (y - w.points[i - 1].yM) * dy) / (l * l);
            t = t < 0 ? 0 : t > 1 ? 1 : t;
            const double px = w.points[i - 1].xM + t * dx;
            const double py = w.points[i - 1].yM + t * dy;
            const double away = std::sqrt((px - x) * (px - x) + (py - y) * (py - y));
            if (away < best - 1e-12) {
                best = away;
                bestAt = at + t * l;
                bx = px;
                by = py;
            }
            at += l;
        }
        return std::array<double, 4>{bestAt, best, bx, by};
    };
    struct Tie {
        std::size_t a, b;
        double weight;
    };
    std::vector<Tie> ties;
    const auto spot = [&](std::size_t w, double at, double x, double y) {
        for (std::size_t i = 0; i < spots.size(); ++i)
            if (spots[i].way == w && std::abs(spots[i].at - at) < 1e-6)
                return i;
        spots.push_back({w, x, y, ways[w].heightM, at});
        return spots.size() - 1;
    };
    const auto tie = [&](std::size_t a, std::size_t b) {
        const double level = std::hypot(spots[a].x - spots[b].x, spots[a].y - spots[b].y);
        ties.push_back({a, b, 4 * level + std::abs(spots[a].z - spots[b].z)});
    };
    for (std::size_t w = 0; w < ways.size(); ++w) {
        double at = 0;
        for (std::size_t i = 0; i < ways[w].points.size(); ++i) {
            if (i > 0)
                at += std::hypot(ways[w].points[i].xM - ways[w].points[i - 1].xM,
                                 ways[w].points[i].yM - ways[w].points[i - 1].yM);
            spot(w, at, ways[w].points[i].xM, ways[w].points[i].yM);
        }
    }
    for (std::size_t a = 0; a < ways.size(); ++a)
        for (std::size_t b = 0; b < ways.size(); ++b) {
            if (a == b)
                continue;
            for (const bool last : {false, true}) {
                const auto& p = last ? ways[a].points.back() : ways[a].points.front();
                const auto hit = along(ways[b], p.xM, p.yM);
                const auto mine = along(ways[a], p.xM, p.yM);
                if (hit[1] <= 0.3)
                    tie(spot(a, mine[0], p.xM, p.yM), spot(b, hit[0], hit[2], hit[3]));
            }
            for (std::size_t i = 1; a < b && i < ways[a].points.size(); ++i)
                for (std::size_t k = 1; k < ways[b].points.size(); ++k) {
                    // The pathways here go along the axes: where two cross is read off.
                    const auto& p = ways[a].points[i - 1];
                    const auto& r = ways[a].points[i];
                    const auto& s = ways[b].points[k - 1];
                    const auto& u = ways[b].points[k];
                    if ((p.xM == r.xM) == (s.xM == u.xM))
                        continue;
                    const bool upright = p.xM == r.xM;
                    const double x = upright ? p.xM : s.xM;
                    const double y = upright ? s.yM : p.yM;
                    const auto inside = [](double v, double m, double n) {
                        return v >= std::min(m, n) && v <= std::max(m, n);
                    };
                    if (inside(x, p.xM, r.xM) && inside(y, p.yM, r.yM) && inside(x, s.xM, u.xM) &&
                        inside(y, s.yM, u.yM))
                        tie(spot(a, along(ways[a], x, y)[0], x, y),
                            spot(b, along(ways[b], x, y)[0], x, y));
                }
        }
    // Both ends touch every straight piece of every pathway.
    struct Reach {
        std::size_t spot;
        double weight;
    };
    const auto reaches = [&](const Place& place) {
        std::vector<Reach> out;
        for (std::size_t w = 0; w < ways.size(); ++w)
            for (std::size_t i = 1; i < ways[w].points.size(); ++i) {
                Pathway piece = ways[w];
                piece.points = {ways[w].points[i - 1], ways[w].points[i]};
                const auto hit = along(piece, place.at.xM, place.at.yM);
                double before = 0;
                for (std::size_t k = 1; k < i; ++k)
                    before += std::hypot(ways[w].points[k].xM - ways[w].points[k - 1].xM,
                                         ways[w].points[k].yM - ways[w].points[k - 1].yM);
                out.push_back(
                    {spot(w, before + hit[0], hit[2], hit[3]),
                     4 * (std::abs(hit[2] - place.at.xM) + std::abs(hit[3] - place.at.yM)) +
                         std::abs(ways[w].heightM - place.heightM)});
            }
        return out;
    };
    const auto starts = reaches(from);
    const auto stops = reaches(to);
    const std::size_t n = spots.size() + 2;
    std::vector<std::vector<double>> d(n, std::vector<double>(n, 1e300));
    const auto link = [&](std::size_t a, std::size_t b, double w) {
        d[a][b] = d[b][a] = std::min(d[a][b], w);
    };
    for (std::size_t a = 0; a < spots.size(); ++a)
        for (std::size_t b = 0; b < spots.size(); ++b)
            if (spots[a].way == spots[b].way)
                link(a, b, std::abs(spots[a].at - spots[b].at));
    for (const auto& t : ties)
        link(t.a, t.b, t.weight);
    for (const auto& s : starts)
        link(n - 2, s.spot, s.weight);
    for (const auto& s : stops)
        link(n - 1, s.spot, s.weight);
    link(n - 2, n - 1,
         4 * (std::abs(from.at.xM - to.at.xM) + std::abs(from.at.yM - to.at.yM)) +
             std::abs(from.heightM - to.heightM));
    for (std::size_t k = 0; k < n; ++k)
        for (std::size_t i = 0; i < n; ++i)
            if (d[i][k] < 1e300)
                for (std::size_t j = 0; j < n; ++j)
                    d[i][j] = std::min(d[i][j], d[i][k] + d[k][j]);
    return d[n - 2][n - 1];
}

} // namespace

TEST(Site, WhatStaysIsTakenOverFromThePlanBefore) {
    const Job first = hall();
    const SitePlan before = planSite(first, shipped());
    const auto same = [&](const Job& job, bool graphStays) {
        const SitePlan fresh = planSite(job, shipped());
        const SitePlan onTop = planSite(job, shipped(), &before);
        EXPECT_EQ(onTop.graph == before.graph, graphStays);
        ASSERT_EQ(fresh.routes.size(), onTop.routes.size());
        for (std::size_t i = 0; i < fresh.routes.size(); ++i) {
            const auto& a = fresh.routes[i];
            const auto& b = onTop.routes[i];
            EXPECT_EQ(a.runId, b.runId);
            EXPECT_EQ(a.fault.has_value(), b.fault.has_value());
            EXPECT_EQ(a.linkM, b.linkM);
            EXPECT_EQ(a.pullM, b.pullM);
            EXPECT_EQ(a.cables, b.cables);
            EXPECT_TRUE(a.stretches == b.stretches);
        }
        ASSERT_EQ(fresh.findings.size(), onTop.findings.size());
        for (std::size_t i = 0; i < fresh.findings.size(); ++i)
            EXPECT_EQ(fresh.findings[i].reason, onTop.findings[i].reason);
    };
    same(first, true);
    Job moved = first;
    for (auto& place : moved.places)
        if (!isHeadEnd(place.kind))
            place.at.xM += 1.5;
    same(moved, true);
    Job raised = first;
    for (auto& place : raised.places)
        if (isHeadEnd(place.kind))
            place.heightM += 0.4;
    same(raised, true);
    Job rules = first;
    rules.info.survey.rackM = 5;
    same(rules, true);
    Job led = first;
    led.runs[0].vias = {{led.floors[0].id, {16, 5}}};
    same(led, true);
    Job tray = first;
    tray.pathways[0].points.back().yM += 2;
    same(tray, false);
    Job ceiling = first;
    ceiling.floors[0].elevationM += 1;
    same(ceiling, false);
}

TEST(Site, aStretchIsCalledByThePlanOrByItsUser) {
    burin::Run run;
    run.followsPlan = true;
    const auto of = [&](const char* name) { return stretchName(run, {name, 1, 20, 0}).of; };
    EXPECT_EQ(of("drop"), Quantity::Of::Term);
    EXPECT_EQ(of("tray"), Quantity::Of::Term);
    EXPECT_EQ(of("tray over the machine shop"), Quantity::Of::Text);
    EXPECT_EQ(of(""), Quantity::Of::Term);
    run.followsPlan = false;
    EXPECT_EQ(of("drop"), Quantity::Of::Text);
}

TEST(Site, WaysAgreeWithAnotherShortestPath) {
    std::mt19937 random(11);
    const auto upTo = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    int onWays = 0;
    for (int round = 0; round < 500; ++round) {
        std::vector<Pathway> ways;
        const int count = 1 + upTo(7);
        for (int w = 0; w < count; ++w) {
            std::vector<PlanPoint> points{{double(upTo(30)), double(upTo(30))}};
            bool level = upTo(2) == 0;
            for (int i = 0; i < 1 + upTo(4); ++i, level = !level) {
                PlanPoint next = points.back();
                (level ? next.xM : next.yM) += 1 + upTo(15);
                points.push_back(next);
            }
            ways.push_back(tray(("w" + std::to_string(w)).c_str(), points, 2.5 + 0.1 * upTo(5)));
        }
        const Place from = place("a", PlaceKind::Panel, {upTo(300) / 10.0, upTo(300) / 10.0}, 1.5);
        const Place to = place("b", PlaceKind::Outlet, {upTo(300) / 10.0, upTo(300) / 10.0}, 0.3);
        const WayGraph graph = makeWayGraph({groundFloor()}, ways);
        const auto route = routeTo(graph, waysFrom(graph, {"g", from.at, from.heightM, false}),
                                   {"g", to.at, to.heightM, false});
        ASSERT_TRUE(route.has_value());
        ASSERT_NEAR(route->weightM(), weightByMatrix(ways, from, to), 1e-6) << "round " << round;
        for (const auto& leg : route->legs)
            onWays += leg.kind == RouteLeg::Kind::Along ? 1 : 0;
    }
    EXPECT_GT(onWays, 250); // the ways do use pathways
}
