// Random editing: every edit that is done can be taken back to the very same job.
#include "core/job/job_json.h"
#include "core/job/run_text.h"
#include "core/shipped.h"
#include <random>

using namespace burin;

namespace {

/// A random edit that makes sense on the job.
class Editor {
public:
    explicit Editor(unsigned seed) : random_(seed) {}

    Edit next(const Job& job) {
        switch (upTo(job.runs.empty() ? 1 : 6)) {
        case 0:
            return addRoom(job);
        case 1:
            return addRun(job);
        case 2:
            return change(job,
                          [this](burin::Run& run) { run = withLength(run, upTo(900) / 10.0); });
        case 3:
            return change(job, [this](burin::Run& run) {
                run.cableId = shipped().cables[static_cast<std::size_t>(upTo(19))].id;
                fitOut(run, shipped());
            });
        case 4:
            return addMeasurement(job);
        case 5:
            return removeRun(job);
        default:
            return changeInfo(job);
        }
    }

private:
    int upTo(int most) { return std::uniform_int_distribution<int>(0, most)(random_); }
    std::string id() { return "i" + std::to_string(++count_); }
    const burin::Run& any(const Job& job) {
        return job.runs[static_cast<std::size_t>(upTo(static_cast<int>(job.runs.size()) - 1))];
    }

    Edit addRoom(const Job& job) {
        const int n = static_cast<int>(job.rooms.size());
        return {"room",
                {put<Room>(std::nullopt,
                           Room{id(), "R" + std::to_string(n), "Room", n % 10, upTo(5)})}};
    }
    Edit addRun(const Job& job) {
        Edit edit = job.rooms.empty() ? addRoom(job) : Edit{"run", {}};
        burin::Run run;
        run.id = id();
        run.label = "L-" + run.id;
        run.order = upTo(10);
        run.roomId = job.rooms.empty() ? std::get<Change<Room>>(edit.changes[0]).after->id
                                       : job.rooms.front().id;
        run.cableId = "cat6a-utp";
        run.serviceId = "10g";
        run.stretches = {{"a", upTo(300) / 10.0, 20.0 + upTo(20), upTo(30)}, {"b", 3, 20, 0}};
        edit.changes.push_back(put<burin::Run>(std::nullopt, run));
        return edit;
    }
    template <typename Do> Edit change(const Job& job, Do work) {
        const burin::Run& before = any(job);
        burin::Run after = before;
        work(after);
        return {"change", {put(std::optional(before), std::optional(after))}};
    }
    Edit addMeasurement(const Job& job) {
        Measurement m;
        m.id = id();
        m.runId = any(job).id;
        m.takenAt = "2026-01-" + std::to_string(10 + upTo(18));
        m.tester.loopOhm = upTo(100) / 4.0;
        return {"test", {put<Measurement>(std::nullopt, m)}};
    }
    Edit removeRun(const Job& job) {
        const burin::Run& run = any(job);
        Edit edit{"remove", {}};
        for (const auto& m : job.measurements)
            if (m.runId == run.id)
                edit.changes.push_back(put(std::optional(m), std::optional<Measurement>{}));
        edit.changes.push_back(put(std::optional(run), std::optional<burin::Run>{}));
        return edit;
    }
    Edit changeInfo(const Job& job) {
        JobInfo info = job.info;
        info.limitSet = upTo(1) == 0 ? LimitSet::Iso : LimitSet::Tia;
        info.accuracy.lossDb = upTo(20) / 10.0;
        return {"info", {put(std::optional(job.info), std::optional(info))}};
    }

    std::mt19937 random_;
    int count_ = 0;
};

} // namespace

TEST(RandomEditing, everyEditComesBack) {
    for (unsigned seed = 1; seed <= 20; ++seed) {
        Editor editor(seed);
        Job job;
        std::vector<Job> before;
        std::vector<Edit> done;
        for (int i = 0; i < 60; ++i) {
            const Edit edit = editor.next(job);
            auto next = apply(job, edit);
            ASSERT_TRUE(next) << next.error().text();
            before.push_back(job);
            done.push_back(edit);
            job = std::move(*next);
        }
        for (std::size_t i = done.size(); i-- > 0;) {
            auto back = apply(job, inverse(done[i]));
            ASSERT_TRUE(back) << back.error().text();
            job = std::move(*back);
            ASSERT_EQ(job, before[i]) << "seed " << seed << " edit " << i;
        }
    }
}

TEST(RandomEditing, everyJobAndEditSurvivesJson) {
    Editor editor(77);
    Job job;
    for (int i = 0; i < 150; ++i) {
        const Edit edit = editor.next(job);
        const auto again = readEdit(toJson(edit), "edit");
        ASSERT_TRUE(again) << again.error().text();
        ASSERT_EQ(*again, edit);
        job = *apply(job, *again);
        const auto read = readJob(toJson(job), "job");
        ASSERT_TRUE(read) << read.error().text();
        ASSERT_EQ(*read, job);
    }
}

TEST(RandomEditing, listsStayInTheirOrder) {
    Editor editor(5);
    Job job;
    for (int i = 0; i < 200; ++i)
        job = *apply(job, editor.next(job));
    ASSERT_GT(job.runs.size(), 10U);
    for (std::size_t i = 1; i < job.runs.size(); ++i)
        EXPECT_LE(job.runs[i - 1].order, job.runs[i].order);
    for (std::size_t i = 1; i < job.measurements.size(); ++i)
        EXPECT_LE(job.measurements[i - 1].takenAt, job.measurements[i].takenAt);
}
