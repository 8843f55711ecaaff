// What must be fast in Survey: a building of 200 rooms, 1,000 outlets and 300 pathways.
#include "core/finding/job_findings.h"
#include "core/finding/site_finding.h"
#include "large_site.h"
#include <benchmark/benchmark.h>

using namespace burin;

namespace {

struct Building {
    Catalogue catalogue;
    Job job;
    SitePlan plan;
    Job laid;
    JobFindings findings;
};

const Building& building() {
    static const Building made = [] {
        Building b;
        auto loaded = loadCatalogue(BURIN_CATALOGUE);
        if (!loaded)
            std::abort();
        b.catalogue = *loaded;
        b.job = largeSite();
        const Job& job = b.job;
        b.plan = planSite(job, b.catalogue);
        b.laid = laidJob(job, b.plan);
        b.findings = findJob(b.laid, b.catalogue, {});
        if (b.plan.routes.size() != 1000 || job.rooms.size() != 200 || job.pathways.size() != 300)
            std::abort();
        return b;
    }();
    return made;
}

/// The job with one outlet moved, another each time.
Job moved(int step) {
    Job job = building().job;
    for (auto& place : job.places)
        if (place.id == "R" + std::to_string(step % 200) + "-2")
            place.at.xM += 0.3 + 0.001 * (step % 7);
    return job;
}

/// While an outlet is dragged: its run's way at each move of the pointer.
void siteDragOneOutlet(benchmark::State& state) {
    int step = 0;
    const Building& b = building();
    Job job = b.job;
    for (auto _ : state) {
        for (auto& place : job.places)
            if (place.id == "R150-2")
                place.at.xM += step++ % 2 == 0 ? 0.1 : -0.1;
        const Run* run = job.run("R150-2");
        benchmark::DoNotOptimize(routeOf(job, *run, *b.plan.graph, b.plan.route("R150-2")));
    }
}
BENCHMARK(siteDragOneOutlet)->Unit(benchmark::kMillisecond);

/// All ways, bundles and findings of the plan, from nothing.
void sitePlanWhole(benchmark::State& state) {
    int step = 0;
    for (auto _ : state) {
        const Job job = moved(step++);
        benchmark::DoNotOptimize(planSite(job, building().catalogue));
    }
}
BENCHMARK(sitePlanWhole)->Unit(benchmark::kMillisecond);

/// From letting go of an outlet to every finding fresh: ways, laid job, and what it reaches.
void siteOutletLetGo(benchmark::State& state) {
    int step = 0;
    const Building& b = building();
    for (auto _ : state) {
        const Job job = moved(step++);
        const SitePlan plan = planSite(job, b.catalogue, &b.plan);
        const Job laid = laidJob(job, plan);
        benchmark::DoNotOptimize(findJob(laid, b.catalogue, {}, {}, {&b.laid, &b.findings}));
    }
}
BENCHMARK(siteOutletLetGo)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The first 500 runs with boxes at hand, some of them begun, and so many runs pulled.
Job toPull(int pulled) {
    Job job = building().job;
    job.runs.resize(500);
    for (int i = 0; i < 8; ++i) {
        Box box;
        box.id = box.name = "B" + std::to_string(i);
        box.cableId = i < 2 ? "cat6a-futp" : "cat6a-utp";
        box.heldM = i % 2 == 0 ? 305 : 90.0 + 20 * i;
        job.boxes.push_back(box);
    }
    for (int i = 1; i <= pulled; ++i)
        job.runs[std::size_t(i)].piece = {"B2", 2 * (i - 1), 2 * i, std::nullopt, "2026-11-26"};
    return job;
}
/// Pulls of 500 runs from nothing: groups, boxes, forces.
void pullsPlanned(benchmark::State& state) {
    const Job job = toPull(0);
    const SitePlan plan = planSite(job, building().catalogue);
    for (auto _ : state)
        benchmark::DoNotOptimize(planPulls(job, building().catalogue, plan));
}
BENCHMARK(pullsPlanned)->Unit(benchmark::kMillisecond);

/// The same anew after one of them was pulled.
void pullsAfterOne(benchmark::State& state) {
    const Job job = toPull(1);
    const SitePlan plan = planSite(job, building().catalogue);
    for (auto _ : state)
        benchmark::DoNotOptimize(planPulls(job, building().catalogue, plan));
}
BENCHMARK(pullsAfterOne)->Unit(benchmark::kMillisecond);

/// Ten thousand runs from one panel, each end made twice: what is left of them.
void endsOf10000Runs(benchmark::State& state) {
    Job job;
    Place panel;
    panel.id = panel.name = "p";
    panel.kind = PlaceKind::Panel;
    panel.ports = 10000;
    job.places = {panel};
    for (int i = 1; i <= 10000; ++i) {
        Run run;
        run.id = run.label = "r" + std::to_string(i);
        run.cableId = "cat6-utp";
        run.near.placeId = "p";
        run.near.port = 10001 - i;
        job.runs.push_back(run);
        for (int entry = 2 * i - 1; entry <= 2 * i; ++entry) {
            Termination row;
            row.id = "t" + std::to_string(entry);
            row.runId = run.id;
            row.connectionId = "conn-cat6";
            row.madeOn = "2026-11-24";
            row.entry = entry;
            job.terminations.push_back(row);
        }
    }
    for (auto _ : state) {
        const EndPlan plan = findEndPlan(job, building().catalogue, {}, "2026-11-26");
        if (plan.made() != 10000)
            state.SkipWithError("not every near end is made");
    }
}
BENCHMARK(endsOf10000Runs)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
