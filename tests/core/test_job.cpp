#include "core/job/job_json.h"
#include "core/shipped.h"

using namespace burin;

namespace {

AnyChange changed(const burin::Run& before, const burin::Run& after) {
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
    burin::Run other = job.runs[0];
    other.id = "other";
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
    EXPECT_NE(overtaken.error().what.find("changed"), std::string::npos);
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
    run.connections.push_back({End::Inline, "conn-cat6a", 12.25});
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
    ASSERT_TRUE(again) << again.error().text();
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
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, edit);
}

TEST(JobJson, faultsNamePathAndCure) {
    Json json = toJson(oneRunJob());
    json["runs"][0]["stretches"][0]["lengthFt"] = 3;
    auto bad = readJob(json, "job.json");
    ASSERT_FALSE(bad);
    EXPECT_EQ(bad.error().where, "job.json");
    EXPECT_NE(bad.error().what.find("runs[run].stretches[1].lengthFt"), std::string::npos)
        << bad.error().what;
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
