#include "core/base/moment.h"
#include "core/edit/edit.h"
#include "core/edit/run_text.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include <functional>
#include <set>

using namespace burin;

namespace {

Changes changed(const burin::Run& before, const burin::Run& after) {
    return put(std::optional(before), std::optional(after));
}

} // namespace

TEST(Edit, appliesAndComesBack) {
    const Job job = oneRunJob();
    burin::Run after = job.runs[0];
    after.cableId = "cat6-utp";
    const Edit edit{"set cable", {changed(job.runs[0], after)}};
    const auto next = apply(job, edit);
    ASSERT_TRUE(next);
    EXPECT_EQ(next->runs[0].cableId, "cat6-utp");
    const auto back = apply(*next, inverse(edit));
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, job);
}

TEST(Edit, refusesWhatMakesNoSense) {
    const Job job = oneRunJob();
    burin::Run other = likeOf(job.runs[0]);
    EXPECT_FALSE(apply(job, {"same label", {put<burin::Run>(std::nullopt, other)}}));
    other.label = "";
    EXPECT_FALSE(apply(job, {"no label", {put<burin::Run>(std::nullopt, other)}}));
    other.label = "X-1";
    other.roomId = "nowhere";
    EXPECT_FALSE(apply(job, {"no room", {put<burin::Run>(std::nullopt, other)}}));
    other.roomId = "r";
    other.stretches[0].lengthM = -1;
    EXPECT_FALSE(apply(job, {"negative", {put<burin::Run>(std::nullopt, other)}}));
    burin::Run stale = job.runs[0];
    stale.note = "somebody else's";
    const auto overtaken = apply(job, {"stale", {changed(stale, job.runs[0])}});
    ASSERT_FALSE(overtaken);
    EXPECT_NE(render(overtaken.error().what, {}).find("changed"), std::string::npos);
    EXPECT_FALSE(
        apply(job, {"room in use", {put(std::optional(job.rooms[0]), std::optional<Room>{})}}));
    Measurement orphan;
    orphan.id = "m";
    orphan.runId = "gone";
    EXPECT_FALSE(apply(job, {"orphan", {put<Measurement>(std::nullopt, orphan)}}));
}

TEST(JobJson, roundTripsEverything) {
    Job job = oneRunJob();
    job.info.name = "Kittiwake \"Wharf\" µ";
    job.info.limitSet = LimitSet::Tia;
    job.info.school = BundleSchool::Cautious;
    job.info.wiringA = true;
    job.info.accuracy.lossDb = 0.4;
    burin::Run& run = job.runs[0];
    run.connections.push_back({End::Inline, "conn-cat6a", 12.25, false, "joint", 7.5});
    run.cords[0].awg26 = true;
    run.headLevel = 71.5;
    run.lossBudgetDb = 2;
    run.bandFromMhz = 156.025;
    run.bandToMhz = 162.025;
    run.powerW = 25;
    run.loadRatio = 1.6;
    run.leftCoiled = true;
    run.note = "above the stove";
    Measurement m;
    m.id = "m1";
    m.runId = "run";
    m.takenAt = "2026-10-05T09:00:00.000";
    m.link = LinkKind::Permanent;
    m.pair = "3-6";
    m.portOrder = PortOrder::SideBySide;
    m.frequencyUnit = "MHz";
    m.tester.wireMap = WireMap{};
    m.tester.wireMap->farPin[4] = 0;
    m.tester.wireMap->shortGroup[0] = 'a';
    m.tester.wireMap->shieldWhole = false;
    m.tester.loopOhm = 9.25;
    job.measurements.push_back(m);
    job.cables.push_back({"u", writeCable(*shipped().cable("coax-s6"))});
    const Json json = toJson(job);
    const auto again = readJob(json, "test");
    ASSERT_TRUE(again) << render(again.error(), {});
    EXPECT_EQ(*again, job);
    EXPECT_EQ(toJson(*again).dump(), json.dump());
}

TEST(JobJson, editRoundTrip) {
    const Job job = oneRunJob();
    burin::Run after = job.runs[0];
    after.note = "x";
    const Edit edit{"t",
                    {changed(job.runs[0], after),
                     put<Room>(std::nullopt, Room{"q", "FD", "Front desk", 3, 1}),
                     put(std::optional(job.info), std::optional(job.info))}};
    const auto again = readEdit(toJson(edit), "test");
    ASSERT_TRUE(again) << render(again.error(), {});
    EXPECT_EQ(*again, edit);
}

TEST(JobJson, faultsNamePathAndCure) {
    Json json = toJson(oneRunJob());
    json["runs"][0]["stretches"][0]["lengthFt"] = 3;
    auto bad = readJob(json, "job.json");
    ASSERT_FALSE(bad);
    EXPECT_EQ(render(bad.error().where, {}), "job.json");
    EXPECT_NE(render(bad.error().what, {}).find(".lengthFt"), std::string::npos)
        << render(bad.error().what, {});
    json = toJson(oneRunJob());
    json["runs"][0]["stretches"][0]["lengthM"] = -5;
    EXPECT_FALSE(readJob(json, "job.json"));
    json = toJson(oneRunJob());
    json["info"]["wiring"] = "T568C";
    EXPECT_FALSE(readJob(json, "job.json"));
    json = toJson(oneRunJob());
    json["runs"][0].erase("cableId");
    EXPECT_FALSE(readJob(json, "job.json"));
}

TEST(JobCables, userCableLiesOverTheCatalogue) {
    Job job = oneRunJob();
    Cable mine = *shipped().cable("cat6a-utp");
    mine.attenuation.k1Db.value = 3;
    job.cables.push_back({mine.id, writeCable(mine)});
    job.cables.push_back({"broken", "{}"});
    std::vector<Fault> faults;
    const Catalogue both = catalogueOf(shipped(), job, &faults);
    EXPECT_DOUBLE_EQ(both.cable("cat6a-utp")->attenuation.k1Db.value, 3);
    EXPECT_TRUE(both.cable("cat6a-utp")->userDefined);
    EXPECT_EQ(faults.size(), 1U);
}

TEST(Moments, areOneMomentInEveryZone) {
    const auto at = utcMs("2026-11-25T22:35:27.125Z");
    ASSERT_TRUE(at);
    EXPECT_EQ(*at, 1795646127125); // date -u -d 2026-11-25T22:35:27 +%s
    for (const char* same : {"2026-11-25T23:35:27.125+01:00", "2026-11-25 22:35:27.125",
                             "2026-11-25T17:35:27,125-0500", "2026-11-26T04:05:27.125+05:30",
                             "2026-11-25T22:35:27.1259Z"})
        EXPECT_EQ(utcMs(same), at) << same;
    EXPECT_EQ(utcMs("1970-01-01T00:00Z"), 0);
    EXPECT_EQ(utcMs("1970-01-01T01:00+01"), 0);
    for (const char* none : {"", "2026-11-25", "2026-02-30T00:00Z", "2026-13-01T00:00Z",
                             "2026-11-25T24:00Z", "2026-11-25T10:61Z", "2026-11-25T10:00+99:00",
                             "2026-11-25T10:00Zx", "20261125T1000Z", "yesterday"})
        EXPECT_FALSE(utcMs(none)) << none;
}

TEST(Edits, ofManyThingsAreAsOfFew) {
    // The same changes one by one and at once: the same job, in the same order.
    Job job = oneRunJob();
    for (int i = 0; i < 40; ++i) {
        burin::Run run = likeOf(job.runs[0]);
        run.id = "n" + std::to_string(i);
        run.label = "N-" + std::to_string(i);
        run.order = 40 - i;
        job = *apply(job, {"add", {put<burin::Run>(std::nullopt, run)}});
    }
    Edit many{"many", {}};
    Job byOne = job;
    for (int i = 0; i < 40; ++i) {
        const burin::Run before = *job.run("n" + std::to_string(i));
        burin::Run after = before;
        after.order = (i * 7) % 13;
        const Changes change = i % 5 == 0 ? put(std::optional(before), std::optional<burin::Run>{})
                                          : changed(before, after);
        many.changes.push_back(change);
        byOne = *apply(byOne, {"one", {change}});
    }
    EXPECT_EQ(*apply(job, many), byOne);
    EXPECT_EQ(*apply(byOne, inverse(many)), job);
    // One that starts from what is not there refuses all.
    many.changes.push_back(changed(job.runs.back(), job.runs.front()));
    EXPECT_FALSE(apply(job, many));
}

TEST(Edits, textsHaveLimits) {
    const Job job = oneRunJob();
    const auto said = [&](const std::function<void(burin::Run&)>& change) {
        burin::Run after = job.runs[0];
        change(after);
        const auto done = apply(job, {"t", {changed(job.runs[0], after)}});
        return done ? std::string() : render(done.error(), {});
    };
    EXPECT_EQ(said([](burin::Run& r) { r.note = std::string(4000, 'n'); }), "");
    EXPECT_NE(said([](burin::Run& r) { r.note = std::string(4001, 'n'); }).find("note is 4001"),
              std::string::npos);
    // Characters, not bytes.
    std::string omegas;
    for (int i = 0; i < 200; ++i)
        omegas += "Ω";
    EXPECT_EQ(said([&](burin::Run& r) { r.label = omegas; }), "");
    EXPECT_NE(said([&](burin::Run& r) { r.label = omegas + "Ω"; }).find("label is 201"),
              std::string::npos);
    EXPECT_NE(said([](burin::Run& r) {
                  r.stretches[0].name = std::string(40000, '7');
              }).find("name is 40000"),
              std::string::npos);
    Edit room{"room", {put<Room>(std::nullopt, Room{"q", "Q", std::string(201, 'q'), 0, 0})}};
    EXPECT_NE(render(apply(job, room).error(), {}).find("name is 201"), std::string::npos);
    Floor tall;
    tall.id = "f";
    tall.name = std::string(500, 'f');
    const Edit floor{"floor", {put<Floor>(std::nullopt, tall)}};
    EXPECT_NE(render(apply(job, floor).error(), {}).find("name is 500"), std::string::npos);
}

TEST(Labels, ofDuplicatesAreFoundInOneGo) {
    Job job = oneRunJob();
    const burin::Run like = job.runs[0];
    job.runs.clear();
    for (int i = 1; i <= 20000; ++i) {
        burin::Run run = like;
        run.id = std::to_string(i);
        run.label = "D" + std::to_string(100000 + i);
        job.runs.push_back(run);
    }
    LabelMaker labels(job);
    std::set<std::string> made;
    for (const auto& run : job.runs)
        EXPECT_TRUE(made.insert(labels.next(run.label)).second);
    EXPECT_TRUE(made.contains("D120001") && made.contains("D140000"));
    EXPECT_EQ(labels.next("X"), "X01");
    EXPECT_EQ(labels.next("X9"), "X10");
    EXPECT_EQ(labels.next("X99999999999999999999"), "X99999999999999999999-01");
}

TEST(JobJson, theJobsOwnIdIsJob) {
    Json json = toJson(oneRunJob());
    json["info"]["id"] = "my-job";
    const auto bad = readJob(json, "x.json");
    ASSERT_FALSE(bad);
    EXPECT_NE(render(bad.error(), {}).find("my-job"), std::string::npos);
}
