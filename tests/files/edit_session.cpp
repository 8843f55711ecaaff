// A scripted editing session that says each edit once it is kept; made to be killed.
#include "core/units/render.h"
#include "files/job_store.h"
#include <QCoreApplication>
#include <cstdio>

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    using namespace burin;
    auto store = JobStore::open(QString::fromLocal8Bit(argv[1]), Access::ReadWrite);
    if (!store) {
        std::fprintf(stderr, "%s\n", render(store.error(), {}).c_str());
        return 3;
    }
    JobStore& s = **store;
    for (int i = 0;; ++i) {
        const Job& job = s.job();
        Run run = job.runs.front();
        run.note = std::to_string(std::stoi(run.note) + 1);
        // And the marks of what was pulled, as they are typed.
        const int count = std::stoi(run.note) % 9000;
        run.piece = {job.boxes.front().id, count, count + 100, std::nullopt, "2026-11-26"};
        Edit edit{"count", {put(std::optional(job.runs.front()), std::optional(run))}};
        // And that one of its ends is made.
        Termination end;
        end.id = newId();
        end.runId = run.id;
        end.end = i % 2 == 0 ? End::Near : End::Far;
        end.entry = std::stoi(run.note);
        edit.changes.push_back(put(std::optional<Termination>{}, std::optional(end)));
        // On the plan the outlet goes along, as far as the count.
        Place outlet = job.places.back();
        outlet.at.xM = std::stod(run.note);
        edit.changes.push_back(put(std::optional(job.places.back()), std::optional(outlet)));
        // Now and then a run comes or goes, and an edit is taken back and done again.
        if (i % 5 == 1) {
            Run extra = likeOf(run);
            extra.label = "X-" + extra.id;
            edit.changes.push_back(put(std::optional<Run>{}, std::optional(extra)));
        } else if (i % 5 == 3 && job.runs.size() > 1) {
            edit.changes.push_back(put(std::optional(job.runs.back()), std::optional<Run>{}));
        }
        const Attachment file = attach("f", "bytes " + run.note);
        if (i % 4 == 1) {
            Photograph photo;
            photo.id = newId();
            photo.hash = file.hash;
            photo.floorId = outlet.floorId;
            photo.at = outlet.at;
            edit.changes.push_back(put(std::optional<Photograph>{}, std::optional(photo)));
        } else if (i % 4 == 2) {
            const Pathway* now = job.pathways.empty() ? nullptr : &job.pathways.front();
            Pathway tray;
            tray.id = newId();
            tray.floorId = outlet.floorId;
            tray.points = {{0, 0}, outlet.at};
            edit.changes.push_back(now != nullptr
                                       ? put(std::optional(*now), std::optional<Pathway>{})
                                       : put(std::optional<Pathway>{}, std::optional(tray)));
        }
        if (!s.commit(edit, "killed", {file}))
            return 4;
        if (i % 7 == 6 && (!s.undo() || !s.redo()))
            return 5;
        std::printf("%s %zu\n", run.note.c_str(), s.job().runs.size());
        std::fflush(stdout);
    }
}
