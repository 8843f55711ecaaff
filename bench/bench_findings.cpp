// What must be fast in the core: one run with 1,000 frequencies, a job of 500 runs.
#include "core/finding/run_finding.h"
#include <benchmark/benchmark.h>
#include <cmath>

using namespace burin;

namespace {

struct Bench {
    Catalogue catalogue;
    Job job;
    MeasuredFiles files;
};

const Bench& bench() {
    static const Bench made = [] {
        Bench b;
        auto loaded = loadCatalogue(BURIN_CATALOGUE);
        if (!loaded)
            std::abort();
        b.catalogue = *loaded;
        b.job.rooms.push_back({"r", "SL", "Sail loft", 0, 0});
        const char* cables[] = {"cat6a-utp", "cat6-utp", "cat6a-futp", "coax-s6", "cat5e-utp"};
        const char* services[] = {"10g", "1g", "10g", "sat-if", "1g"};
        for (int i = 0; i < 500; ++i) {
            Run run;
            run.id = std::to_string(i);
            run.label = "SL-D" + run.id;
            run.roomId = "r";
            run.cableId = cables[i % 5];
            run.serviceId = services[i % 5];
            run.headLevel = 75;
            run.stretches = {
                {"riser", 12, 24, 5}, {"tray", 20.0 + i % 50, 31, 23}, {"drop", 8, 20, 0}};
            if (run.cableId.starts_with("cat")) {
                run.cords = {{End::Near, run.cableId, 3, false}, {End::Far, run.cableId, 3, false}};
                run.connections = {{End::Near, "conn-cat6a", 0}, {End::Far, "conn-cat6a", 0}};
            }
            b.job.runs.push_back(run);
        }
        // The first run has a test of one pair and 1,000 frequencies.
        MeasuredTable table;
        for (int k = 0; k < 1000; ++k)
            table.frequencyMhz.push_back(1 + 0.499 * k);
        for (const char* name : {"IL 1-2", "RL 1-2"}) {
            MeasuredTable::Column column{name, "dB", {}};
            for (const double f : table.frequencyMhz)
                column.values.push_back(name[0] == 'I' ? 1.2 * std::sqrt(f) : 25 - std::log10(f));
            table.columns.push_back(column);
        }
        Measurement m;
        m.id = m.fileHash = "m";
        m.runId = "0";
        b.job.measurements.push_back(m);
        b.files["m"] =
            std::make_shared<const Outcome<MeasuredFile>>(MeasuredFile{"csv", {}, table, {}});
        return b;
    }();
    return made;
}

void oneRunPredicted1000(benchmark::State& state) {
    const Bench& b = bench();
    for (auto _ : state)
        benchmark::DoNotOptimize(
            findRun(b.job, b.job.runs[1], b.catalogue, b.files, {.points = 1000}));
}
BENCHMARK(oneRunPredicted1000)->Unit(benchmark::kMillisecond);

void oneRunMeasured1000(benchmark::State& state) {
    const Bench& b = bench();
    for (auto _ : state)
        benchmark::DoNotOptimize(
            findRun(b.job, b.job.runs[0], b.catalogue, b.files, {.points = 1000}));
}
BENCHMARK(oneRunMeasured1000)->Unit(benchmark::kMillisecond);

void job500Runs(benchmark::State& state) {
    const Bench& b = bench();
    for (auto _ : state)
        for (const auto& run : b.job.runs)
            benchmark::DoNotOptimize(findRun(b.job, run, b.catalogue, b.files));
}
BENCHMARK(job500Runs)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
