#include "core/edit/end_edit.h"
#include "core/edit/removal.h"
#include "core/edit/tool_line.h"
#include "core/finding/job_findings.h"
#include "core/finding/materials.h"
#include "core/units/render.h"
#include "says.h"
#include "tray_job.h"

using namespace burin;

namespace {

const EndAt nearEnd{"SL-D01", End::Near}, farEnd{"SL-D01", End::Far};
const MadeWith fixer{"2026-11-24", "second fixer", {}, {}};

Job coaxJob() {
    Job job = trayJob("coax-s6");
    job.runs.front().serviceId = "tv";
    job.runs.front().headLevel = 66;
    for (const End end : {End::Near, End::Far}) {
        RunConnection connection;
        connection.end = end;
        connection.connectionId = "f-compression";
        connection.id = end == End::Near ? "cn" : "cf";
        connection.order = end == End::Near ? 0 : 1;
        job.runs.front().connections.push_back(connection);
    }
    return job;
}
EndWork workOf(const Job& job, const EndAt& at, const std::vector<RunFinding>& runs = {}) {
    const EndPlan plan = findEndPlan(job, shipped(), runs, "2026-11-26");
    const EndWork* work = plan.find(at.runId, at.end);
    EXPECT_NE(work, nullptr);
    return work == nullptr ? EndWork{} : *work;
}
bool saysKey(const EndWork& work, std::string_view key) {
    return std::any_of(work.said.begin(), work.said.end(),
                       [&](const Sentence& said) { return said.key() == key; });
}
Job made(const Job& job, const EndAt& at, const MadeWith& with = fixer) {
    return after(job, madeEnds(job, shipped(), {at}, with));
}

/// The job with a test of that kind typed after all that is there.
Job tested(Job job, const char* wires, std::optional<double> lengthM = {}) {
    Measurement test;
    test.id = "m" + std::to_string(job.measurements.size());
    test.runId = "SL-D01";
    test.takenAt = "2026-11-25T10:00:00Z";
    test.entry = nextEntry(job.measurements);
    test.tester.wireMap = *parseWireMap(wires);
    test.tester.lengthM = lengthM;
    job.measurements.push_back(test);
    return job;
}
EndWork testedWork(const Job& job, const EndAt& at) {
    const Job laid = laidJob(job, planSite(job, shipped()));
    return workOf(job, at, findJob(laid, shipped(), {}).runs);
}

HandTool tool(const char* id, ToolKind kind, std::vector<std::string> blades) {
    HandTool out;
    out.id = out.name = id;
    out.kind = kind;
    out.bladesOn = std::move(blades);
    return out;
}
/// So many ends of one run made on that day with a stripper.
Job cutWith(const HandTool& with, const std::string& day, int ends) {
    Job job = trayJob("cat6-utp");
    job.tools = {with};
    for (int i = 1; i <= ends; ++i) {
        Termination row;
        row.id = "t" + std::to_string(i);
        row.runId = "SL-D01";
        row.stripToolId = with.id;
        row.madeOn = day;
        row.entry = i;
        job.terminations.push_back(row);
    }
    return job;
}

} // namespace

TEST(Blades, areOverAfterTheirDaysOrTheirEnds) {
    const auto wearAfter = [](const char* day, int ends) {
        const Job job = cutWith(tool("s", ToolKind::Stripper, {"2026-08-01"}), day, ends);
        const ToolUse use(job);
        const BladeWear* wear = use.wearOf("t" + std::to_string(ends));
        EXPECT_NE(wear, nullptr);
        return wear == nullptr ? BladeWear{} : *wear;
    };
    EXPECT_FALSE(wearAfter("2026-10-30", 1).over) << "90 days is what they last";
    EXPECT_TRUE(wearAfter("2026-10-31", 1).over);
    EXPECT_EQ(wearAfter("2026-10-31", 1).days, 91);
    EXPECT_FALSE(wearAfter("2026-08-02", 300).over);
    EXPECT_TRUE(wearAfter("2026-08-02", 301).over);
    EXPECT_FALSE(wearAfter("2026-08-01", 1).over) << "in that day, and used that day";
}

TEST(Blades, newOnesCountFromNothing) {
    Job job = cutWith(tool("s", ToolKind::Stripper, {"2026-08-01"}), "2026-11-20", 3);
    job = after(job, newBlades(job, "s", "2026-11-21"));
    EXPECT_EQ(newBlades(job, "s", "2026-11-21").changes.size(), 0U) << "twice a day is once";
    job = made(job, nearEnd, {"2026-11-22", "", "s", ""});
    const ToolUse use(job);
    EXPECT_TRUE(use.wearOf("t3")->over) << "what was made with the old ones stays so";
    const std::string last = job.terminations.back().id;
    EXPECT_FALSE(use.wearOf(last)->over);
    EXPECT_EQ(use.wearOf(last)->ends, 1);
    // Entered late, made early: the day leads.
    job = made(job, farEnd, {"2026-11-19", "", "s", ""});
    EXPECT_TRUE(ToolUse(job).wearOf(job.terminations.back().id)->over);
}

TEST(Blades, ofAToolWithoutAnyAreNotKnown) {
    Job job = cutWith(tool("s", ToolKind::Stripper, {}), "2026-11-20", 1);
    EXPECT_EQ(ToolUse(job).wearOf("t1"), nullptr);
    const auto found = ToolUse(job).on("2026-11-26").front();
    EXPECT_EQ(found.blades, Due::NotKnown);
    ASSERT_EQ(found.said.size(), 1U);
    EXPECT_EQ(found.said.front().key(), "tool.blades-unknown");
    // Nor before the first day that was said, nor of one that has none.
    job.tools.front().bladesOn = {"2026-11-21"};
    EXPECT_EQ(ToolUse(job).wearOf("t1"), nullptr);
    job.tools.front() = tool("s", ToolKind::Iron, {"2026-01-01"});
    EXPECT_EQ(ToolUse(job).wearOf("t1"), nullptr);
    EXPECT_TRUE(ToolUse(job).on("2026-11-26").front().said.empty());
}

TEST(Tools, sayWhatIsDue) {
    Job job = cutWith(tool("s", ToolKind::PunchDown, {"2026-08-28"}), "2026-11-20", 2);
    HandTool press = tool("c", ToolKind::Compression, {});
    press.gaugedOn = {"2025-11-20", "2024-01-01"};
    job.tools.push_back(press);
    job.terminations[1].spoiled = true;
    const auto on = [&](const char* day) { return ToolUse(job).on(day); };
    EXPECT_EQ(on("2026-11-18")[0].blades, Due::Good);
    EXPECT_EQ(on("2026-11-19")[0].blades, Due::Soon) << "a week before";
    EXPECT_EQ(on("2026-11-26")[0].blades, Due::Soon) << "the last day";
    EXPECT_EQ(on("2026-11-27")[0].blades, Due::Over);
    EXPECT_EQ(on("2026-11-27")[0].bladesDueOn, "2026-11-26");
    EXPECT_EQ(on("2026-11-27")[0].ends, 2);
    EXPECT_EQ(on("2026-11-27")[0].made, 1);
    EXPECT_EQ(on("2026-11-27")[0].spoiled, 1);
    EXPECT_EQ(on("2026-11-20")[1].gauge, Due::Soon) << "a year to the day";
    EXPECT_EQ(on("2026-11-21")[1].gauge, Due::Over);
    EXPECT_EQ(on("2026-11-21")[1].said.front().key(), "tool.gauge-over");
    // Nearly all its ends.
    job.tools[0].bladeEnds = 2;
    EXPECT_EQ(on("2026-11-20")[0].blades, Due::Soon);
    job.tools[0].gone = job.tools[1].gone = true;
    EXPECT_TRUE(on("2027-11-20")[0].said.empty() && on("2027-11-20")[1].said.empty());
}

TEST(ToolLine, isReadAndWrittenBack) {
    const Job job = trayJob("cat6-utp");
    const auto tool =
        readTool("stripper red one,  blades 2026-09-02, 60 days, 200 ends ,gauge 2026-01-01", job);
    ASSERT_TRUE(tool) << render(tool.error(), {});
    EXPECT_EQ(tool->name, "red one");
    EXPECT_EQ(tool->kind, ToolKind::Stripper);
    EXPECT_EQ(tool->bladesOn, std::vector<std::string>{"2026-09-02"});
    EXPECT_EQ(tool->bladeDays, 60);
    EXPECT_EQ(tool->bladeEnds, 200);
    EXPECT_EQ(tool->gaugedOn, std::vector<std::string>{"2026-01-01"});
    HandTool again = *readTool(toolText(*tool), job);
    again.id = tool->id;
    EXPECT_EQ(again, *tool);
    EXPECT_EQ(readTool("crimp K, gauge 2026-01-01, 100 days", job)->gaugeDays, 100);
    EXPECT_TRUE(readTool("iron I, gone", job)->gone);
}

TEST(ToolLine, saysWhereItIsWrong) {
    Job job = trayJob("cat6-utp");
    job.tools = {tool("S1", ToolKind::Stripper, {})};
    const std::pair<const char*, int> wrong[] = {{"", 0},
                                                 {"S2, blades 2026-09-02", 1},
                                                 {"stripper", 1},
                                                 {"stripper S1", 1},
                                                 {"stripper S2, blades tomorrow", 14},
                                                 {"stripper S2, sharp", 14},
                                                 {"stripper S2, blades 2026-02-30", 14},
                                                 {"stripper S2, 0 days", 14},
                                                 {"stripper S2, 99999999999999999999 ends", 14},
                                                 {"stripper S2, -3 ends", 14}};
    for (const auto& [text, column] : wrong) {
        const auto read = readTool(text, job);
        ASSERT_FALSE(read) << text;
        EXPECT_EQ(read.error().column, column) << text;
        EXPECT_FALSE(read.error().cure.empty()) << text;
    }
    // Typed over it keeps its place and what its blades were before.
    job.tools[0].bladesOn = {"2026-01-01", "2026-05-01"};
    job.tools[0].order = 4;
    job = after(job, retypedTool("stripper S9, blades 2026-09-01", "S1", job));
    EXPECT_EQ(job.tools[0].name, "S9");
    EXPECT_EQ(job.tools[0].order, 4);
    EXPECT_EQ(job.tools[0].bladesOn, (std::vector<std::string>{"2026-01-01", "2026-09-01"}))
        << "in place of the last";
    // What the line does not say stays, in whatever order it was kept.
    job.tools[0].gaugeDays = 100;
    job.tools[0].gone = true;
    job.tools[0].bladesOn = {"2026-09-01", "2026-01-01"};
    EXPECT_TRUE(says(toolText(job.tools[0]), "blades 2026-09-01"));
    const HandTool before = job.tools[0];
    EXPECT_TRUE(retypedTool(toolText(before), "S1", job)->changes.size() <= 1);
    job = after(job, retypedTool("stripper S9, 80 days", "S1", job));
    EXPECT_EQ(job.tools[0].gaugeDays, 100);
    EXPECT_EQ(job.tools[0].bladeDays, 80);
    EXPECT_FALSE(job.tools[0].gone);
}

TEST(MadeEnds, areKeptWithWhatIsKnownOfThem) {
    Job job = coaxJob();
    job.tools = {tool("s", ToolKind::Stripper, {"2026-11-01"})};
    EXPECT_EQ(workOf(job, nearEnd).state, EndState::ToMake);
    EXPECT_GT(workOf(job, nearEnd).minutes, 0);
    job = made(job, nearEnd, {"2026-11-24", "rigger", "s", ""});
    ASSERT_EQ(job.terminations.size(), 1U);
    const Termination& row = job.terminations.front();
    EXPECT_EQ(row.connectionId, "f-compression");
    EXPECT_EQ(row.madeBy, "rigger");
    EXPECT_EQ(row.entry, 1);
    EXPECT_EQ(workOf(job, nearEnd).state, EndState::Made);
    EXPECT_EQ(workOf(job, nearEnd).minutes, 0);
    EXPECT_EQ(workOf(job, nearEnd).unchecked.size(), 4U);
    EXPECT_EQ(workOf(job, farEnd).state, EndState::ToMake);
    // A try that is spoiled is cut off: the end is to be made, and made again.
    job = after(job, spoiledEnd(job, shipped(), nearEnd, fixer));
    EXPECT_EQ(job.terminations.size(), 1U);
    EXPECT_EQ(workOf(job, nearEnd).state, EndState::ToMake);
    EXPECT_EQ(workOf(job, nearEnd).spoiled, 1U);
    job = after(job, spoiledEnd(job, shipped(), nearEnd, fixer));
    job = made(job, nearEnd);
    EXPECT_EQ(workOf(job, nearEnd).state, EndState::Made);
    EXPECT_EQ(workOf(job, nearEnd).spoiled, 2U);
    // Made once more, what stood there is cut off.
    job = made(job, nearEnd);
    EXPECT_EQ(workOf(job, nearEnd).spoiled, 3U);
    EXPECT_EQ(job.terminations.size(), 4U);
    job = after(job, unmadeEnds(job, {nearEnd}));
    EXPECT_EQ(workOf(job, nearEnd).state, EndState::ToMake);
    // A tool that ends were made with is not taken away.
    EXPECT_FALSE(removing(job, Kind::Tool, "s"));
    // With its run they go.
    auto gone = removing(job, Kind::Run, "SL-D01");
    ASSERT_TRUE(gone);
    EXPECT_TRUE(after(job, Edit{"gone", *gone}).terminations.empty());
}

TEST(MadeEnds, withoutAConnectorChosenAreOfTheUsualOne) {
    Job job = trayJob("cat6-utp");
    job = made(job, farEnd);
    EXPECT_EQ(job.terminations.front().connectionId,
              usualConnection(shipped(), *shipped().cable("cat6-utp"))->id);
    // Another is planned afterwards: said, not laid to anybody.
    job = after(job, adoptedConnector(job, shipped(), "SL-D01", End::Far, "plug-cat6"));
    EXPECT_TRUE(saysKey(workOf(job, farEnd), "end.other-part"));
    EXPECT_EQ(workOf(job, farEnd).state, EndState::Made);
}

TEST(MadeEnds, thoseOfMeasuredRunsAreMadeBySomebody) {
    Job job = coaxJob();
    Measurement test;
    test.id = "m";
    test.runId = "SL-D01";
    job.measurements = {test};
    EXPECT_EQ(workOf(job, nearEnd).state, EndState::Unrecorded);
    EXPECT_EQ(findEndPlan(job, shipped(), {}, "").made(), 2U);
    // Spoiled since: it is to be made.
    job = after(job, spoiledEnd(job, shipped(), nearEnd, fixer));
    EXPECT_EQ(workOf(job, nearEnd).state, EndState::ToMake);
    job.runs.front().leftCoiled = true;
    EXPECT_EQ(findEndPlan(job, shipped(), {}, "").wanted(), 0U);
}

TEST(EndChecks, areJudgedAtTheirEdges) {
    const Job job = made(coaxJob(), nearEnd);
    const auto pin = [&](double mm) {
        return workOf(after(job, checkedEnd(job, nearEnd, "pin", EndCheck{"pin", mm, true})),
                      nearEnd);
    };
    for (const double mm : {1.6, 2.0, 3.2})
        EXPECT_EQ(pin(mm).state, EndState::Made) << mm;
    for (const double mm : {1.59, 3.21, 0.0})
        EXPECT_EQ(pin(mm).state, EndState::Again) << mm;
    EXPECT_TRUE(saysKey(pin(3.9), "end.check-bad"));
    EXPECT_EQ(pin(2).unchecked.size(), 3U);
    // Ticked without a figure, a measured one is still open; seen not good, the end comes back.
    const auto with = [&](const EndCheck& check) {
        return workOf(after(job, checkedEnd(job, nearEnd, check.proofId, check)), nearEnd);
    };
    EXPECT_EQ(with({"pin", {}, true}).unchecked.size(), 4U);
    EXPECT_EQ(with({"open", {}, true}).unchecked.size(), 3U);
    EXPECT_EQ(with({"open", {}, false}).state, EndState::Again);
    // Of a proof that the card has not: nothing.
    EXPECT_EQ(with({"none", {}, false}).state, EndState::Made);
    // Nothing is checked of an end that is not made.
    EXPECT_TRUE(checkedEnd(job, farEnd, "pin", EndCheck{"pin", 2, true}).changes.empty());
    // Taken back.
    const Job checked = after(job, checkedEnd(job, nearEnd, "pin", EndCheck{"pin", 9, true}));
    EXPECT_EQ(workOf(after(checked, checkedEnd(checked, nearEnd, "pin", {})), nearEnd).state,
              EndState::Made);
}

TEST(EndsAgain, comeBackAfterATestThatTheyFail) {
    Job job = made(made(trayJob("cat6a-utp"), nearEnd), farEnd);
    const Job open = tested(job, "1234-678");
    EXPECT_EQ(testedWork(open, nearEnd).state, EndState::Again);
    EXPECT_EQ(testedWork(open, farEnd).state, EndState::Again);
    EXPECT_TRUE(saysKey(testedWork(open, nearEnd), "end.either-alike"));
    // The easier one first, by what its place is like.
    Job high = open;
    high.places[1].access = EndAccess::Height; // the panel
    const EndWork work = testedWork(high, nearEnd);
    EXPECT_TRUE(saysKey(work, "end.either"));
    EXPECT_TRUE(says(render(work.said.back(), UnitSystem::Metric), "outlet"));
    // Made again: the test is older than it.
    const Job again = made(open, nearEnd);
    EXPECT_EQ(testedWork(again, nearEnd).state, EndState::Made);
    EXPECT_EQ(testedWork(again, farEnd).state, EndState::Again);
    EXPECT_EQ(testedWork(again, nearEnd).spoiled, 1U);
    // Tested before it was made, and whole now.
    EXPECT_EQ(
        testedWork(made(made(tested(trayJob("cat6a-utp"), "1234-678"), nearEnd), farEnd), nearEnd)
            .state,
        EndState::Made);
    EXPECT_EQ(testedWork(tested(open, "12345678"), nearEnd).state, EndState::Made);
}

TEST(EndsAgain, areNotLaidToEndsThatTheTestDoesNotSpeakOf) {
    const Job job = made(made(trayJob("cat6a-utp"), nearEnd), farEnd);
    const double all = laidJob(job, planSite(job, shipped())).runs.front().lengthM();
    ASSERT_GT(all, 20);
    // The tester's length ends on the way.
    const EndWork onTheWay = testedWork(tested(job, "1234-678", 12.0), nearEnd);
    EXPECT_EQ(onTheWay.state, EndState::Made);
    EXPECT_TRUE(saysKey(onTheWay, "end.on-the-way"));
    // … here, …
    EXPECT_EQ(testedWork(tested(job, "1234-678", 0.8), nearEnd).state, EndState::Again);
    EXPECT_EQ(testedWork(tested(job, "1234-678", 0.8), farEnd).state, EndState::Made);
    // … or at the far end, as far as anybody can tell.
    EXPECT_EQ(testedWork(tested(job, "1234-678", all), farEnd).state, EndState::Again);
    // A cable that is wrong explains no wire that is: the end is looked at.
    Job wrong = tested(job, "1234-678");
    wrong.runs.front().cableId = "cat3-utp";
    EXPECT_EQ(testedWork(wrong, nearEnd).state, EndState::Again);
    // Crosstalk it does explain, and loss is seldom of the ends.
    const auto failing = [&](Parameter parameter, Outlook outlook) {
        const Job typed = tested(job, "12345678");
        const Job laid = laidJob(typed, planSite(typed, shipped()));
        auto runs = findJob(laid, shipped(), {}).runs;
        runs.front().outlook = outlook;
        auto& judged = runs.front().measurements.front().classJudgement;
        judged.state = State::Fail;
        ParameterResult result;
        result.parameter = parameter;
        result.state = State::Fail;
        judged.results.push_back(result);
        return workOf(typed, nearEnd, runs);
    };
    EXPECT_EQ(failing(Parameter::Next, Outlook::Holds).state, EndState::Again);
    EXPECT_TRUE(saysKey(failing(Parameter::Next, Outlook::Fails), "end.cable"));
    EXPECT_EQ(failing(Parameter::Next, Outlook::Fails).state, EndState::Made);
    EXPECT_TRUE(saysKey(failing(Parameter::InsertionLoss, Outlook::Holds), "end.loss"));
    EXPECT_EQ(failing(Parameter::InsertionLoss, Outlook::Holds).state, EndState::Made);
}

TEST(EndPlaces, areWhereOneStands) {
    Job job = coaxJob();
    burin::Run away = job.runs.front();
    away.id = away.label = "SL-D02";
    away.near = away.far = {};
    for (auto& connection : away.connections)
        connection.id += "2";
    job.runs.push_back(away);
    const EndPlan plan = findEndPlan(job, shipped(), {}, "");
    ASSERT_EQ(plan.places.size(), 3U);
    EXPECT_EQ(plan.places[0].name, "panel A");
    EXPECT_EQ(plan.places[1].name, "Sail loft");
    EXPECT_EQ(plan.places[1].ends.size(), 2U) << "what is typed stands in its run's room";
    EXPECT_EQ(plan.places[2].name, "") << "a near end that is not on the plan";
    EXPECT_EQ(plan.wanted(), 4U);
}

TEST(Spoilage, isWhatTheJobItselfSpoils) {
    Job job = coaxJob();
    EXPECT_FALSE(spoiledShare(job, "f-compression"));
    for (int i = 0; i < 20; ++i) {
        Termination row;
        row.id = "t" + std::to_string(i);
        row.runId = "SL-D01";
        row.connectionId = "f-compression";
        row.entry = i + 1;
        row.spoiled = i < 4;
        job.terminations.push_back(row);
    }
    EXPECT_NEAR(*spoiledShare(job, "f-compression"), 0.25, 1e-12);
    job.terminations.pop_back();
    EXPECT_FALSE(spoiledShare(job, "f-compression")) << "19 say too little";
    for (auto& row : job.terminations)
        row.spoiled = true;
    EXPECT_FALSE(spoiledShare(job, "f-compression"));
}

TEST(EndPhotograph, showsWhatIsMade) {
    Job job = made(coaxJob(), nearEnd);
    Photograph photo;
    photo.id = "p";
    photo.hash = std::string(64, 'a');
    photo.name = "panel.jpg";
    job = after(job, photographedEnds(job, {nearEnd, farEnd}, photo));
    EXPECT_EQ(job.terminations.front().photographId, "p");
    EXPECT_TRUE(job.photographs.front().runId.empty()) << "it shows no cable behind a wall";
    auto gone = removing(job, Kind::Photograph, "p");
    ASSERT_TRUE(gone);
    EXPECT_TRUE(after(job, Edit{"gone", *gone}).terminations.front().photographId.empty());
}
