// What must be fast on the disk: one edit of every run of a large job, and taking it back; opening
// a job with a long log; one edit of it; joining another copy.
#include "core/edit/apply.h"
#include "core/history/merge.h"
#include "files/job_log.h"
#include "files/job_store.h"
#include <QCoreApplication>
#include <QFile>
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

constexpr int logRows = 20000, theirRows = 5000;

Changes noteOf(const Run& run, const std::string& before, const std::string& after) {
    Change change;
    change.kind = Kind::Run;
    change.id = run.id;
    change.field = "note";
    change.before = before.empty() ? Json() : Json(before);
    change.after = after;
    return Changes{change};
}
/// A note on one run after the other, as steps that follow `log`; the job goes along.
std::vector<LogRow> notes(OpenLog& log, Job& job, int rows, const std::string& who) {
    std::vector<LogRow> out;
    for (int i = 0; i < rows; ++i) {
        Run& run = job.runs[static_cast<std::size_t>(i) % job.runs.size()];
        LogRow row = log.next(newStepId(), "2026-11-26T10:00:00.000Z", who, "note");
        const std::string text = who + " " + std::to_string(i);
        row.changes = noteOf(run, run.note, text);
        run.note = text;
        log.take(row);
        out.push_back(std::move(row));
    }
    return out;
}

/// A job's file whose log has 20,000 steps.
QString longLog() {
    static QTemporaryDir folder;
    const QString path = folder.filePath(QStringLiteral("log.burin"));
    if (QFile::exists(path))
        return path;
    Job job = largeJob(10000);
    if (!JobStore::create(path, job, {}, "made", "bench"))
        std::abort();
    {
        auto db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("bench"));
        db.setDatabaseName(path);
        if (!db.open())
            std::abort();
        giveIds(job);
        JobSeal seal = JobSeal::of(job);
        OpenLog log = readHeads(db, seal);
        runSql(db, QStringLiteral("BEGIN"));
        for (auto row : notes(log, job, logRows, "bench")) {
            // Nothing that changes the job, so that it is as it is kept.
            row.changes.front().after = row.changes.front().before;
            writeStep(db, row, seal);
        }
        writeSeal(db, seal);
        runSql(db, QStringLiteral("COMMIT"));
    }
    QSqlDatabase::removeDatabase(QStringLiteral("bench"));
    return path;
}

void openWith20000Steps(benchmark::State& state) {
    const QString path = longLog();
    for (auto _ : state)
        if (!JobStore::open(path, Access::ReadWrite))
            std::abort();
}
BENCHMARK(openWith20000Steps)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(3);

/// The core's part of one edit of a job with 10,000 runs.
void oneEditOf10000Runs(benchmark::State& state) {
    Job job = largeJob(10000);
    giveIds(job);
    std::string note;
    for (auto _ : state) {
        const std::string next = note == "a" ? "b" : "a";
        if (!applyTo(job, {"note", noteOf(job.runs[5000], note, next)}))
            std::abort();
        note = next;
    }
}
BENCHMARK(oneEditOf10000Runs)->Unit(benchmark::kMillisecond);

/// Another copy's 5,000 steps joined to one of 10,000 runs and 20,000 steps.
void join5000Steps(benchmark::State& state) {
    JobCopy mine{"job", largeJob(10000), {}};
    giveIds(mine.job);
    OpenLog log;
    mine.log = notes(log, mine.job, logRows - theirRows, "both");
    JobCopy theirs = mine;
    OpenLog other = log;
    for (auto& row : notes(log, mine.job, theirRows, "mine"))
        mine.log.push_back(std::move(row));
    std::reverse(theirs.job.runs.begin(), theirs.job.runs.end());
    for (auto& row : notes(other, theirs.job, theirRows, "theirs"))
        theirs.log.push_back(std::move(row));
    std::reverse(theirs.job.runs.begin(), theirs.job.runs.end());
    for (auto _ : state) {
        const auto joined = join(mine, theirs);
        if (!joined || joined->brought.size() != theirRows)
            std::abort();
        benchmark::DoNotOptimize(joined->changes.size());
    }
}
BENCHMARK(join5000Steps)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(3);

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication qt(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
