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

} // namespace

BENCHMARK_MAIN();
