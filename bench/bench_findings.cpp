// What must be fast in the core: one run with 1,000 frequencies, a job of 500 runs.
#include "core/edit/system_edit.h"
#include "core/finding/job_findings.h"
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

/// Every kind of link on one job: 300 twisted pairs, 100 television outlets in ten distributions,
/// 40 readers on eight buses, 30 feedlines, 20 leased circuits, 10 video runs.
const Job& mixed() {
    static const Job made = [] {
        Job job;
        job.rooms = bench().job.rooms;
        job.runs.assign(bench().job.runs.begin(), bench().job.runs.begin() + 500);
        for (int i = 300; i < 500; ++i) {
            Run& run = job.runs[static_cast<std::size_t>(i)];
            const bool pair = i >= 400 && i < 440;
            const bool leased = i >= 470 && i < 490;
            run.serviceId = i < 400   ? "tv"
                            : pair    ? "rs485"
                            : i < 470 ? "feedline"
                            : leased  ? "t1"
                                      : "sdi-2970";
            run.cableId = i < 400   ? "coax-s6"
                          : pair    ? "bus-120"
                          : i < 470 ? "coax-ll10"
                          : leased  ? "cat6-utp"
                                    : "coax-s6";
            run.cords.clear();
            run.connections.clear();
            run.lossBudgetDb = 3;
            run.bandFromMhz = 156;
            run.bandToMhz = 162;
            run.powerW = 25;
            if (i < 400 && i % 10 == 0)
                job.distributions.push_back(newDistribution(run));
            else if (i < 400)
                job.distributions.back() =
                    hungOn(job.distributions.back(), run,
                           i % 10 == 1 ? "" : job.distributions.back().parts[1].id, false);
            if (i < 400 && i % 10 == 1) {
                // The second run feeds a splitter for the other eight.
                auto& part = job.distributions.back().parts[1];
                part.unit.part = TreePart::Splitter;
                part.unit.ways = 8;
            }
            if (pair && i % 5 == 0)
                job.buses.push_back(newBus(job, run));
            else if (pair)
                job.buses.back() = goingOn(job.buses.back(), job, run, 100);
            if (pair && i % 5 == 4 && i > 410) // the first two end without a terminator
                job.buses.back().devices.back().terminatorOhm = 120;
        }
        return job;
    }();
    return made;
}

void mixed500(benchmark::State& state) {
    const Bench& b = bench();
    JobFindingOptions options;
    options.threads = static_cast<int>(state.range(0));
    options.cures = false; // as on the screen, where they are looked for one system at a time
    for (auto _ : state)
        benchmark::DoNotOptimize(findJob(mixed(), b.catalogue, b.files, options));
}
BENCHMARK(mixed500)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->UseRealTime();

/// One run of 500 made a metre longer: only what that reaches.
void mixed500OneEdit(benchmark::State& state) {
    const Bench& b = bench();
    const Job& before = mixed();
    const auto known = findJob(before, b.catalogue, b.files);
    Job after = before;
    after.runs[static_cast<std::size_t>(state.range(0))].stretches[0].lengthM += 1;
    JobFindingOptions options;
    options.cures = false;
    for (auto _ : state)
        benchmark::DoNotOptimize(findJob(after, b.catalogue, b.files, options, {&before, &known}));
}
BENCHMARK(mixed500OneEdit)
    ->Arg(3)
    ->Arg(301)
    ->Arg(401)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

/// What the screen asks for at each other run that is chosen: everything about it, cures among it.
void oneRunWithCures(benchmark::State& state) {
    const Bench& b = bench();
    const Run& run = b.job.runs[static_cast<std::size_t>(state.range(0))];
    for (auto _ : state)
        benchmark::DoNotOptimize(findRun(b.job, run, b.catalogue, b.files));
}
BENCHMARK(oneRunWithCures)->Arg(0)->Arg(3)->Unit(benchmark::kMillisecond);

/// A run with a whole tester's file: four pairs, all parameters, in the steps a pass asks for.
void oneRunFullTester(benchmark::State& state) {
    static const Bench full = [] {
        Bench b = bench();
        MeasuredTable table;
        for (double f = 1; f < 500; f += f < 31.25 ? 0.15 : f < 100 ? 0.25 : f < 250 ? 0.5 : 1)
            table.frequencyMhz.push_back(f);
        const auto column = [&](const std::string& name, double at, double slope) {
            MeasuredTable::Column out{name, "dB", {}};
            for (const double f : table.frequencyMhz)
                out.values.push_back(at + slope * std::sqrt(f));
            table.columns.push_back(out);
        };
        const std::vector<std::string> pairs{"1-2", "3-6", "4-5", "7-8"};
        for (std::size_t k = 0; k < pairs.size(); ++k) {
            column("IL " + pairs[k], 0.5, 1.1);
            column("RL " + pairs[k], 30, -0.5);
            for (std::size_t l = k + 1; l < pairs.size(); ++l) {
                column("NEXT " + pairs[k] + "/" + pairs[l], 80, -1.8);
                column("ACR-F " + pairs[k] + "/" + pairs[l], 80, -2.2);
            }
        }
        b.files["m"] =
            std::make_shared<const Outcome<MeasuredFile>>(MeasuredFile{"csv", {}, table, {}});
        return b;
    }();
    for (auto _ : state)
        benchmark::DoNotOptimize(findRun(full.job, full.job.runs[0], full.catalogue, full.files));
}
BENCHMARK(oneRunFullTester)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
