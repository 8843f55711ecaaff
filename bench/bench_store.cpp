// What must be fast on the disk: one edit of every run of a large job, and taking it back.
#include "core/job/edit.h"
#include "files/job_store.h"
#include <QCoreApplication>
#include <QTemporaryDir>
#include <benchmark/benchmark.h>

using namespace burin;

namespace {

Job largeJob(int runs) {
    Job job;
    for (int i = 0; i < 200; ++i) {
        const std::string id = "r" + std::to_string(i);
        job.rooms.push_back({id, id, "Room " + id, i % 10, i});
    }
    for (int i = 0; i < runs; ++i) {
        Run run;
        run.id = "run" + std::to_string(i);
        run.label = "D" + std::to_string(i);
        run.roomId = "r" + std::to_string(i % 200);
        run.order = i;
        run.cableId = "cat6a-utp";
        run.serviceId = "10g";
        run.stretches = {{"riser", 12, 20, 0}, {"tray", 30, 31, 6}};
        run.cords = {{End::Near, "cat6a-utp", 3, false}, {End::Far, "cat6a-utp", 3, false}};
        run.connections = {{End::Near, "conn-cat6a", 0}, {End::Far, "conn-cat6a", 0}};
        job.runs.push_back(run);
    }
    return job;
}

struct Kept {
    QTemporaryDir folder;
    std::unique_ptr<JobStore> store;
    Kept() {
        auto made = JobStore::create(folder.filePath(QStringLiteral("large.burin")),
                                     largeJob(10000), {}, "made", "bench");
        if (!made)
            std::abort();
        store = std::move(*made);
    }
    /// Every run a little longer.
    [[nodiscard]] Edit longer() const {
        Edit edit{"length", {}};
        for (const auto& run : store->job().runs)
            edit.changes.push_back(
                put(std::optional(run), std::optional(withLength(run, run.lengthM() + 0.5))));
        return edit;
    }
};
Kept& kept() {
    static Kept made;
    return made;
}

/// From the run sheet's entry to the disk: applied to what is pending, applied and kept.
void lengthOf10000Runs(benchmark::State& state) {
    for (auto _ : state) {
        const Edit edit = kept().longer();
        benchmark::DoNotOptimize(apply(kept().store->job(), edit));
        if (!kept().store->commit(edit, "bench"))
            std::abort();
    }
}
BENCHMARK(lengthOf10000Runs)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(3);

void takenBackOn10000Runs(benchmark::State& state) {
    for (auto _ : state) {
        state.PauseTiming();
        if (!kept().store->commit(kept().longer(), "bench"))
            std::abort();
        state.ResumeTiming();
        if (!kept().store->undo())
            std::abort();
    }
}
BENCHMARK(takenBackOn10000Runs)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(3);

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication qt(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
