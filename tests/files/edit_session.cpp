// A scripted editing session that says each edit once it is kept; made to be killed.
#include "files/job_store.h"
#include <QCoreApplication>
#include <cstdio>

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    using namespace burin;
    auto store = JobStore::open(QString::fromLocal8Bit(argv[1]), Access::ReadWrite);
    if (!store) {
        std::fprintf(stderr, "%s\n", store.error().text().c_str());
        return 3;
    }
    JobStore& s = **store;
    for (int i = 0;; ++i) {
        const Job& job = s.job();
        Run run = job.runs.front();
        run.note = std::to_string(std::stoi(run.note) + 1);
        Edit edit{"count", {put(std::optional(job.runs.front()), std::optional(run))}};
        // Now and then a run comes or goes, and an edit is taken back and done again.
        if (i % 5 == 1) {
            Run extra = run;
            extra.id = newId();
            extra.label = "X-" + extra.id;
            edit.changes.push_back(put(std::optional<Run>{}, std::optional(extra)));
        } else if (i % 5 == 3 && job.runs.size() > 1) {
            edit.changes.push_back(put(std::optional(job.runs.back()), std::optional<Run>{}));
        }
        if (!s.commit(edit, "killed", {attach("f", "bytes " + run.note)}))
            return 4;
        if (i % 7 == 6 && (!s.undo() || !s.redo()))
            return 5;
        std::printf("%s %zu\n", run.note.c_str(), s.job().runs.size());
        std::fflush(stdout);
    }
}
