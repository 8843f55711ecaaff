#include "core/edit/removal.h"
#include "core/units/render.h"
// Random editing: every edit that is done can be taken back to the very same job.
#include "core/edit/edit.h"
#include "core/edit/plan_edit.h"
#include "core/edit/run_text.h"
#include "core/edit/system_edit.h"
#include "core/finding/job_findings.h"
#include "core/finding/site_finding.h"
#include "core/shipped.h"
#include <random>

using namespace burin;

namespace {

/// A random edit that makes sense on the job.
class Editor {
public:
    explicit Editor(unsigned seed) : random_(seed) {}

    Edit next(const Job& job) {
        switch (upTo(job.runs.empty() ? 1 : 18)) {
        case 0:
            return addRoom(job);
        case 1:
        case 13:
        case 14:
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
        case 6:
            return hang(job);
        case 7:
            return putAhead(job);
        case 8:
            return takeOutPart(job);
        case 9:
            return wire(job);
        case 10:
            return changeBus(job);
        case 11:
            return changeInfo(job);
        case 12:
            return takeOffPlan(job);
        default:
            return draw(job);
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
        run.roomId = job.rooms.empty() ? edit.changes[0].id : job.rooms.front().id;
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
        if (upTo(1) == 0)
            m.fileHash = "hash" + std::to_string(upTo(3)); // the last is not there
        return {"test", {put<Measurement>(std::nullopt, m)}};
    }
    Edit removeRun(const Job& job) { return {"remove", removalOf(job, any(job).id)}; }
    /// A run onto a distribution: a new one, or behind a part that has a port left.
    Edit hang(const Job& job) {
        const burin::Run& run = any(job);
        if (job.busOf(run.id) != nullptr)
            return changeInfo(job);
        if (job.distributionOf(run.id) != nullptr || job.distributions.empty() || upTo(3) == 0) {
            if (const auto* mine = job.distributionOf(run.id))
                return {"out", {put(std::optional(*mine), withoutRun(*mine, run.id))}};
            Distribution fresh = newDistribution(run);
            fresh.serviceId = "tv";
            return {"hang", {put(std::optional<Distribution>{}, std::optional(fresh))}};
        }
        const Distribution& d = job.distributions.front();
        std::string from;
        for (const auto& part : d.parts) {
            const auto children = std::count_if(d.parts.begin(), d.parts.end(),
                                                [&](const auto& p) { return p.from == part.id; });
            if (children < part.unit.ports() && upTo(1) == 0)
                from = part.id;
        }
        return {"hang", {put(std::optional(d), std::optional(hungOn(d, run, from, false)))}};
    }
    Edit putAhead(const Job& job) {
        if (job.distributions.empty())
            return changeInfo(job);
        const Distribution& d = job.distributions.front();
        const auto& part =
            d.parts[static_cast<std::size_t>(upTo(static_cast<int>(d.parts.size()) - 1))];
        const char* kinds[] = {"splitter 4", "tap 12", "amplifier 15 slope 4", "multiswitch 8"};
        const auto unit = parseTreeUnit(kinds[upTo(3)]);
        return {"ahead", {put(std::optional(d), std::optional(withPartAhead(d, part.id, *unit)))}};
    }
    Edit takeOutPart(const Job& job) {
        if (job.distributions.empty())
            return changeInfo(job);
        const Distribution& d = job.distributions.front();
        for (const auto& part : d.parts)
            if (part.unit.part != TreePart::Outlet)
                if (auto without = withoutPart(d, part.id))
                    return {"out", {put(std::optional(d), std::move(*without))}};
        return changeInfo(job);
    }
    Edit wire(const Job& job) {
        const burin::Run& run = any(job);
        if (job.distributionOf(run.id) != nullptr)
            return changeInfo(job);
        if (const auto* mine = job.busOf(run.id))
            return {"off", {put(std::optional(*mine), withoutRun(*mine, run.id))}};
        if (job.buses.empty())
            return {"wire", {put(std::optional<BusChain>{}, std::optional(newBus(job, run)))}};
        const BusChain& bus = job.buses.front();
        const auto after = static_cast<std::size_t>(upTo(static_cast<int>(bus.devices.size()) - 1));
        return {"wire", {put(std::optional(bus), std::optional(goingOn(bus, job, run, after)))}};
    }
    Edit changeBus(const Job& job) {
        if (job.buses.empty())
            return changeInfo(job);
        BusChain after = job.buses.front();
        after.supplyV = upTo(24);
        after.devices.back().ampere = upTo(40) / 100.0;
        return {"bus", {put(std::optional(job.buses.front()), std::optional(after))}};
    }
    PlanPoint spot() { return {upTo(300) / 10.0, upTo(200) / 10.0}; }
    template <typename T> T drawnThing(const Job& job) {
        T out;
        out.id = id();
        out.name = "thing " + out.id;
        out.floorId = job.floors.front().id;
        return out;
    }
    /// Something on the plan: a floor, a pathway, an outlet at the end of a run, mains, a wall, a
    /// photograph, a room, another scale, or other rules.
    Edit draw(const Job& job) {
        if (job.floors.empty() || upTo(20) == 0) {
            Floor floor;
            floor.id = id();
            floor.name = "floor " + floor.id;
            floor.elevationM = 3.5 * static_cast<double>(job.floors.size());
            return {"floor", {put<Floor>(std::nullopt, floor)}};
        }
        switch (upTo(7)) {
        case 0: {
            auto way = drawnThing<Pathway>(job);
            way.kind = static_cast<PathwayKind>(upTo(8));
            way.points = {spot(), spot(), spot()};
            if (way.kind == PathwayKind::Shaft)
                way.toFloorId = job.floors.back().id;
            way.temperatureC = 20 + upTo(20);
            return {"pathway", {put<Pathway>(std::nullopt, way)}};
        }
        case 1: {
            auto mains = drawnThing<MainsRoute>(job);
            mains.points = {spot(), spot()};
            mains.kva = upTo(200) / 10.0;
            return {"mains", {put<MainsRoute>(std::nullopt, mains)}};
        }
        case 2: {
            auto wall = drawnThing<Surface>(job);
            wall.points = {spot(), spot()};
            wall.fireMinutes = 30 * upTo(2);
            wall.closesOn = "2026-11-26";
            return {"wall", {put<Surface>(std::nullopt, wall)}};
        }
        case 3: {
            auto photo = drawnThing<Photograph>(job);
            photo.hash = "h" + photo.id;
            photo.at = spot();
            photo.runId = any(job).id;
            return {"photo", {put<Photograph>(std::nullopt, photo)}};
        }
        case 4: {
            Room room = job.rooms.front();
            room.floorId = job.floors.front().id;
            room.outline = {spot(), spot(), spot(), spot()};
            return {"outline", {put(std::optional(job.rooms.front()), std::optional(room))}};
        }
        case 5: {
            auto scaled = rescaled(job, job.floors.front().id, upTo(1) == 0 ? 2.0 : 0.5);
            return scaled ? *scaled : changeInfo(job);
        }
        default: {
            Edit edit{"ends", {}};
            burin::Run tied = any(job);
            const burin::Run before = tied;
            for (auto* end : {&tied.near, &tied.far}) {
                auto place = drawnThing<Place>(job);
                place.at = spot();
                place.kind = end == &tied.near ? PlaceKind::Panel : PlaceKind::Outlet;
                *end = {"", place.id, upTo(3)};
                edit.changes.push_back(put<Place>(std::nullopt, place));
            }
            tied.followsPlan = true;
            tied.jacket = static_cast<Jacket>(upTo(5));
            tied.vias = {{job.floors.front().id, spot()}};
            edit.changes.push_back(put(std::optional(before), std::optional(tied)));
            return edit;
        }
        }
    }
    Edit takeOffPlan(const Job& job) {
        const Job laid = laidJob(job, planSite(job, shipped()));
        if (!job.places.empty() && upTo(2) > 0)
            return {"off", removalOfPlace(job, laid, job.places.front().id)};
        if (!job.surfaces.empty() && upTo(1) == 0)
            return {"off", *removing(job, Kind::Surface, job.surfaces.front().id)};
        if (!job.floors.empty())
            return {"off", removalOfFloor(job, laid, job.floors.front().id)};
        return changeInfo(job);
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
            ASSERT_TRUE(next) << render(next.error(), {});
            before.push_back(job);
            done.push_back(edit);
            job = std::move(*next);
        }
        for (std::size_t i = done.size(); i-- > 0;) {
            auto back = apply(job, inverse(done[i]));
            ASSERT_TRUE(back) << render(back.error(), {});
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
        ASSERT_TRUE(again) << render(again.error(), {});
        ASSERT_EQ(*again, edit);
        job = *apply(job, *again);
        const auto read = readJob(toJson(job), "job");
        ASSERT_TRUE(read) << render(read.error(), {});
        ASSERT_EQ(*read, job);
    }
}

/// No limit is no number, which is not even itself.
RunFinding comparable(RunFinding finding) {
    for (auto& limit : finding.limitDb)
        if (std::isnan(limit))
            limit = -1e9;
    return finding;
}
/// The files that random measurements name.
MeasuredFiles someFiles() {
    MeasuredFiles out;
    for (int i = 0; i < 3; ++i) {
        MeasuredFile file;
        MeasuredTable table;
        for (double f = 1; f <= 250; f += 1)
            table.frequencyMhz.push_back(f);
        table.columns.push_back({"insertion loss 1-2", "dB", {}});
        for (const double f : table.frequencyMhz)
            table.columns[0].values.push_back((1.5 + i) * std::sqrt(f));
        file.kind = "csv";
        file.table = std::move(table);
        out["hash" + std::to_string(i)] =
            std::make_shared<const Outcome<MeasuredFile>>(std::move(file));
    }
    return out;
}

TEST(RandomEditing, aPartialRecomputeIsAWholeOne) {
    const MeasuredFiles files = someFiles();
    // Whatever is edited, what was taken over from before is what would be computed anew.
    for (unsigned seed = 1; seed <= 4; ++seed) {
        Editor editor(seed);
        Job job;
        Job laid;
        JobFindings known;
        int computed = 0;
        int runs = 0;
        for (int i = 0; i < 50; ++i) {
            const Job before = laid;
            job = *apply(job, editor.next(job));
            laid = laidJob(job, planSite(job, shipped()));
            JobFindings partly =
                findJob(laid, shipped(), files, {}, {i == 0 ? nullptr : &before, &known});
            const JobFindings whole = findJob(laid, shipped(), files);
            ASSERT_EQ(partly.runs.size(), whole.runs.size());
            for (std::size_t r = 0; r < whole.runs.size(); ++r)
                ASSERT_TRUE(comparable(partly.runs[r]) == comparable(whole.runs[r]))
                    << "seed " << seed << " edit " << i << " run " << whole.runs[r].label;
            for (std::size_t d = 0; d < whole.distributions.size(); ++d)
                ASSERT_EQ(partly.distributions[d].notes, whole.distributions[d].notes);
            computed += partly.computed;
            runs += whole.computed;
            known = std::move(partly);
        }
        EXPECT_LT(computed, runs) << "it takes nothing over";
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
