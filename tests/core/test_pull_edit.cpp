#include "core/edit/box_line.h"
#include "core/edit/clashes.h"
#include "core/edit/pull_edit.h"
#include "core/edit/tone_edit.h"
#include "core/finding/pulled_check.h"
#include "core/job/ports.h"
#include "core/pull/end_labels.h"
#include "core/units/render.h"
#include "tray_job.h"
#include <map>
#include <random>
#include <set>

using namespace burin;

namespace {

Box read(const std::string& text, const Job& job = {}) {
    const auto box = readBox(text, job, shipped());
    EXPECT_TRUE(box) << text << ": " << (box ? "" : render(box.error(), {}));
    return box ? *box : Box{};
}
std::string refused(const std::string& text, const Job& job = {}) {
    const auto box = readBox(text, job, shipped());
    return box ? "taken"
               : std::string(box.error().code()) + " " + std::to_string(box.error().column);
}
/// Three runs along the tray, and two boxes.
Job threeRuns() {
    Job job = trayJob("cat6-utp");
    for (const char* label : {"SL-D02", "SL-D03"}) {
        Run run = job.runs.front();
        run.id = run.label = label;
        job.runs.push_back(run);
    }
    job.boxes = {read("A1 cat6-utp blue 305 m, 2 ft marks up, 0412"),
                 read("A2 cat6-utp blue 305 m, 1 m marks down, 0990")};
    job.boxes[0].id = "a1";
    job.boxes[1].id = "a2";
    return job;
}
PullOf pullOf(const Job& job, const std::string& runId) {
    const PullPlan plan = planOf(job);
    const PullFinding* pull = plan.pullOf(runId);
    PullOf out;
    if (pull == nullptr)
        return out;
    out.id = pull->byHand ? pull->id : "";
    for (const auto& run : pull->runs)
        out.runIds.push_back(run.runId);
    return out;
}
/// A run of the plan once one of its marks was read.
PulledRun begunAt(Job job, const PulledRun& planned, bool end, int mark) {
    for (auto& run : job.runs)
        if (run.id == planned.runId) {
            run.piece.boxId = planned.boxId;
            (end ? run.piece.endMark : run.piece.startMark) = mark;
        }
    return *planOf(job).pullOf(planned.runId)->run(planned.runId);
}
Job marked(const Job& job, const std::string& runId, TypedMarks marks) {
    return after(job, markedEdit(job, pullOf(job, runId), runId, marks));
}

} // namespace

TEST(BoxLine, readsAsItIsTyped) {
    Box box = read("box A1 cat6-utp blue 305 m, 2 ft marks up, 0412");
    EXPECT_EQ(box.name, "A1");
    EXPECT_EQ(box.cableId, "cat6-utp");
    EXPECT_EQ(box.colour, "blue");
    EXPECT_EQ(box.heldM, 305);
    EXPECT_EQ(box.markUnit, MarkUnit::Feet);
    EXPECT_EQ(box.spacing, 2);
    EXPECT_TRUE(box.countsUp);
    EXPECT_EQ(box.freeMark, 412);
    EXPECT_EQ(boxText(box), "A1 cat6-utp blue 305 m, 2 ft marks up, 0412");
    box = read("reel R1 0980 coax-s6 1m marks down 152m");
    EXPECT_EQ(box.kind, BoxKind::Reel);
    EXPECT_EQ(box.heldM, 152);
    EXPECT_EQ(box.markUnit, MarkUnit::Metres);
    EXPECT_FALSE(box.countsUp);
    EXPECT_EQ(box.freeMark, 980);
    EXPECT_TRUE(box.colour.empty());
    box = read("B2 cat6a-futp 1000 ft 0612 FT");
    EXPECT_NEAR(box.heldM, 304.8, 1e-9);
    EXPECT_EQ(box.freeMark, 612);
    EXPECT_EQ(box.spacing, 2);
    EXPECT_EQ(read("B3 cat6-utp 12").freeMark, 12) << "a number without a unit is a mark";
    EXPECT_EQ(read("B3 cat6-utp 12").heldM, 305) << "a new box";
    for (const char* text : {"A1 cat6-utp blue 305 m, 2 ft marks up, 0412",
                             "reel R1 coax-s6 152 m, 1 m marks down, 0980"})
        EXPECT_EQ(boxText(read(text)), text);
}

TEST(BoxLine, refusesWhatItDoesNotUnderstandAndSaysWhere) {
    EXPECT_EQ(refused(""), "box.no-name 0");
    EXPECT_EQ(refused("A1"), "box.no-cable 0");
    EXPECT_EQ(refused("A1 cat6-utp 305 m"), "box.no-mark 0");
    EXPECT_EQ(refused("A1 cat6-utp 305 m 0412 200 m"), "box.two-lengths 24");
    EXPECT_EQ(refused("A1 cat6-utp 0412 0500"), "box.two-marks 18");
    EXPECT_EQ(refused("A1 cat9-utp 0412"), "box.odd 4");
    EXPECT_EQ(refused("A1 cat6-utp blue green 0412"), "box.odd 18");
    EXPECT_EQ(refused("A1 cat6-utp 0 m 0412"), "box.two-marks 17") << "no box holds 0 m";
    Job job;
    job.boxes = {read("A1 cat6-utp 0412")};
    EXPECT_EQ(refused("A1 cat6-utp 0412", job), "box.name-taken 1");
}

TEST(BoxLine, takesCableAndMarkFromThePrintOfTheJacket) {
    const Box box = read("A3 blue print E000000 4PR 23 AWG U/UTP CAT 6 CMR 0412 FT");
    EXPECT_EQ(box.cableId, "cat6-utp");
    EXPECT_EQ(box.freeMark, 412);
    EXPECT_EQ(box.markUnit, MarkUnit::Feet);
    EXPECT_EQ(box.colour, "blue");
    const Box metres = read("A3 cat6-utp 305 m 0980 print 4PR U/UTP CAT 6 CMR 0101 M");
    EXPECT_EQ(metres.freeMark, 980) << "what was typed goes before what is printed";
    EXPECT_EQ(read("A4 print 4PR U/UTP CAT 6 CMR 0101 M").markUnit, MarkUnit::Metres);
    EXPECT_EQ(refused("A3 print 4PR U/UTP CAT 6 CMR"), "box.no-mark 0");
    EXPECT_EQ(refused("A3 coax-s6 print 4PR U/UTP CAT 6 CMR 0412 FT"), "pull.other-print 12");
    EXPECT_TRUE(refused("A3 print nothing at all").ends_with(" 4"));
    EXPECT_TRUE(refused("A3 print").ends_with(" 4"));
    // Printed alike: the one the job asks for, or one that is named.
    EXPECT_EQ(refused("A3 print RG-6/U 18 AWG CATVR 0412 FT"), "pull.many-prints 4");
    Job job;
    burin::Run run;
    run.cableId = "coax-s6";
    job.runs = {run};
    EXPECT_EQ(read("A3 print RG-6/U 18 AWG CATVR 0412 FT", job).cableId, "coax-s6");
}

TEST(PullEdit, marksReplaceThePlannedLengthAndKeepThePullTogether) {
    const Job job = threeRuns();
    const PullOf pull = pullOf(job, "SL-D01");
    EXPECT_TRUE(pull.id.empty());
    EXPECT_EQ(pull.runIds.size(), 2U) << "two boxes are at hand";
    // 90 marks of 1 ft: 27.4 m, less 0.6 m that is cut off.
    const Job now = marked(job, "SL-D01", {"a1", 412, 502, "2026-11-26"});
    const auto* run = now.run("SL-D01");
    EXPECT_EQ(run->piece.pulledOn, "2026-11-26");
    ASSERT_EQ(now.pulls.size(), 1U);
    EXPECT_EQ(now.run(pull.runIds[1])->pullId, now.pulls[0].id);
    const Job laid = laidJob(now, planSite(now, shipped()));
    EXPECT_NEAR(laid.run("SL-D01")->lengthM(), 90 * 0.3048 - 0.6, 1e-9);
    const PullPlan plan = planOf(now);
    EXPECT_EQ(plan.pullOf("SL-D01")->state, PullState::Begun);
    EXPECT_EQ(plan.pullOf("SL-D01")->id, now.pulls[0].id);
    EXPECT_NE(plan.pullOf(pull.runIds[1])->run(pull.runIds[1])->boxId, "a1")
        << "its box is in this pull already";
    EXPECT_NEAR(plan.box("a1")->leftM, 305 - 90 * 0.3048, 1e-9);
    EXPECT_EQ(plan.box("a1")->freeMark, 502);
    // Taken back, the plan holds again.
    const Job back = marked(now, "SL-D01", {"a1", 412, std::nullopt, ""});
    EXPECT_NEAR(laidJob(back, planSite(back, shipped())).run("SL-D01")->lengthM(),
                laidJob(job, planSite(job, shipped())).run("SL-D01")->lengthM(), 1e-9);
}

TEST(PullEdit, wrongMarksAreRefusedWhereTheyAreTyped) {
    Job job = marked(threeRuns(), "SL-D01", {"a1", 412, 502, ""});
    const auto code = [&](const std::string& box, int start, int end) {
        const auto done =
            apply(job, markedEdit(job, pullOf(job, "SL-D03"), "SL-D03", {box, start, end, ""}));
        return done ? std::string("taken") : std::string(done.error().code());
    };
    EXPECT_EQ(code("a1", 500, 590), "taken") << "a spacing off";
    EXPECT_EQ(code("a1", 480, 570), "marks.pulled-already");
    EXPECT_EQ(code("a1", 600, 510), "marks.against");
    EXPECT_EQ(code("a1", 300, 390), "marks.not-of-box");
    EXPECT_EQ(code("a2", 900, 960), "marks.against") << "that box counts down";
    EXPECT_EQ(code("a2", 990, 600), "marks.more-than-held");
    // By another way than being typed it is kept, and found.
    Job other = job;
    for (auto& run : other.runs)
        if (run.id == "SL-D03")
            run.piece = {"a1", 480, 570, std::nullopt, ""};
    const auto clashes = clashesOf(other);
    ASSERT_EQ(clashes.size(), 1U);
    EXPECT_EQ(clashes[0].runId, "SL-D03");
    EXPECT_EQ(clashes[0].otherId, "SL-D01");
    EXPECT_EQ(render(clashes[0].fault, {}),
              "SL-D03, marks 0480 and 0570: that lies in what was pulled already, 0412 to 0502. "
              "Look at the jacket and the box again");
    // A box that has given cable does not go.
    const auto gone =
        apply(other, {"away", {put(std::optional(job.boxes[0]), std::optional<Box>())}});
    EXPECT_FALSE(gone);
}

TEST(PullEdit, runsMoveSplitAndJoin) {
    Job job = threeRuns();
    job = after(job, movedToPull(job, "SL-D03", pullOf(job, "SL-D01")));
    EXPECT_EQ(planOf(job).pulls.size(), 1U);
    EXPECT_EQ(planOf(job).pulls[0].runs.size(), 3U);
    EXPECT_TRUE(planOf(job).pulls[0].byHand);
    EXPECT_EQ(planOf(job).boxes.size(), 3U) << "the third cable wants a box of its own";
    job = after(job, movedToPull(job, "SL-D02", {}));
    EXPECT_EQ(planOf(job).pulls.size(), 2U);
    EXPECT_EQ(planOf(job).pullOf("SL-D02")->runs.size(), 1U);
    job = after(job, joinedPulls(job, pullOf(job, "SL-D02"), pullOf(job, "SL-D01")));
    EXPECT_EQ(planOf(job).pulls.size(), 1U);
    job = after(job, releasedPull(job, pullOf(job, "SL-D02")));
    EXPECT_EQ(planOf(job).pulls.size(), 2U) << "two boxes, as at first";
    EXPECT_FALSE(planOf(job).pulls[0].byHand);
    // A mark that stands is not lost by letting its pull go.
    Job begun = marked(job, "SL-D02", {"a1", 412, std::nullopt, ""});
    begun = after(begun, releasedPull(begun, pullOf(begun, "SL-D02")));
    EXPECT_EQ(begun.run("SL-D02")->piece.startMark, 412);
    EXPECT_FALSE(begun.run("SL-D02")->pullId.empty());
    // The second first.
    const auto plan = planOf(job);
    const std::string second = plan.pulls[1].runs[0].runId;
    job = after(job, orderedPulls(job, {pullOf(job, second)}));
    EXPECT_EQ(planOf(job).pulls[0].runs[0].runId, second);
    // What is pulled stays where it is.
    job = marked(job, "SL-D01", {"a1", 412, 502, ""});
    EXPECT_FALSE(movedToPull(job, "SL-D01", pullOf(job, second)));
    EXPECT_FALSE(joinedPulls(job, pullOf(job, "SL-D01"), pullOf(job, second)));
    const Edit far =
        changedPull(job, pullOf(job, second), "end", [](Pull& row) { row.boxesAt = BoxesAt::Far; });
    job = after(job, far);
    EXPECT_EQ(planOf(job).pullOf(second)->boxesAt, BoxesAt::Far);
}

TEST(Clashes, boxesAndToolsOfOneNameAreAsked) {
    Job job = threeRuns();
    EXPECT_TRUE(clashesOf(job).empty());
    job.boxes[1].name = "A1";
    job.runs[1].piece = {"a2", 990, 940, std::nullopt, ""};
    HandTool tool;
    tool.id = "t1";
    tool.name = "S1";
    job.tools = {tool, tool};
    job.tools[1].id = "t2";
    const auto clashes = clashesOf(job);
    ASSERT_EQ(clashes.size(), 2U);
    EXPECT_EQ(clashes[0].fault.code(), "box.twice");
    EXPECT_EQ(clashes[0].runId, job.runs[1].id);
    EXPECT_TRUE(clashes[0].otherId.empty());
    EXPECT_EQ(clashes[1].fault.code(), "tool.twice");
    EXPECT_TRUE(clashes[1].runId.empty());
}

TEST(PullPlan, theOtherMarkFollowsTheOneThatWasRead) {
    for (const int further : {0, 7, 31}) {
        const Job job = threeRuns();
        const PullPlan plan = planOf(job);
        const PulledRun& first = plan.pulls[0].runs[0];
        const Box& box = *byId(job.boxes, first.boxId);
        const auto at = [&](int mark) { return mark + (box.countsUp ? further : -further); };
        for (const bool end : {false, true}) {
            const int read = at(end ? *first.endMark : *first.startMark);
            const PulledRun now = begunAt(job, first, end, read);
            EXPECT_EQ(now.boxId, first.boxId);
            EXPECT_NEAR(*now.startMark, at(*first.startMark), end ? 1 : 0);
            EXPECT_NEAR(*now.endMark, at(*first.endMark), end ? 0 : 1);
            EXPECT_FALSE(now.there);
        }
    }
}

TEST(PullPlan, whatIsBegunLiesBeforeWhatIsPlanned) {
    Job job = threeRuns();
    job.boxes.resize(1);
    const PullPlan plan = planOf(job);
    const PulledRun& last = plan.pulls.back().runs.back();
    ASSERT_EQ(last.boxId, "a1");
    ASSERT_NE(*last.startMark, 412);
    // The last is begun first, from the free end of the box they all come from.
    for (auto& run : job.runs)
        if (run.id == last.runId)
            run.piece = {"a1", 412, {}, std::nullopt, ""};
    const PullPlan now = planOf(job);
    int next = *now.pullOf(last.runId)->run(last.runId)->endMark;
    for (const auto& pull : now.pulls)
        for (const auto& run : pull.runs) {
            if (run.runId == last.runId || run.boxId != "a1")
                continue;
            EXPECT_NEAR(*run.startMark, next, 1) << run.runId;
            next = *run.endMark;
        }
    // A mark that box never had moves nothing.
    for (auto& run : job.runs)
        if (run.id == last.runId)
            run.piece.startMark = 9000;
    const PullPlan wrong = planOf(job);
    const auto& first = wrong.pulls.front().runs.front();
    ASSERT_NE(first.runId, last.runId);
    EXPECT_EQ(*first.startMark, 412);
}

TEST(PullPlan, forcesLimitsAndMarksOfTheTray) {
    Job job = threeRuns();
    const PullPlan plan = planOf(job);
    ASSERT_EQ(plan.pulls.size(), 2U);
    const PullFinding& pull = plan.pulls[0];
    // Up 1.3 m, 90°, 20 m of tray, 90°, down 2.5 m; μ 0.2, two cables of 4.2 kg/100 m, 5 N each.
    const double w = 0.084 * 9.81;
    const double bend = std::exp(0.2 * 3.14159265358979 / 2);
    double t = 10 + w * 1.3;
    t = t * bend + 0.2 * w * 20;
    t = t * bend;
    ASSERT_TRUE(pull.nearN && pull.limitN);
    EXPECT_NEAR(*pull.nearN, t, 1e-6);
    EXPECT_NEAR(*pull.limitN, 0.8 * 220, 1e-9);
    EXPECT_TRUE(pull.breaks.empty());
    EXPECT_FALSE(pull.overLimit());
    // One box counts up in feet, the other down in metres.
    const double length = plan.pulls[0].runs[0].plannedM;
    for (const auto& run : pull.runs) {
        const bool feet = run.boxId == "a1";
        EXPECT_EQ(*run.startMark, feet ? 412 : 990);
        EXPECT_NEAR(*run.endMark, feet ? 412 + length / 0.3048 : 990 - length, 1);
    }
    EXPECT_EQ(plan.opened, 2U);
    EXPECT_TRUE(plan.provenLeast());
    // A cable without a weight or a limit in the catalogue has none here.
    for (auto& run : job.runs)
        run.cableId = "speaker16";
    const PullPlan unknown = planOf(job);
    EXPECT_FALSE(unknown.pulls[0].nearN);
    EXPECT_FALSE(unknown.pulls[0].limitN);
    EXPECT_EQ(unknown.pulls[0].noWeight, std::vector<std::string>{"Loudspeaker pair, 16 AWG"});
}

TEST(PullPlan, whatCannotBePlannedIsNamed) {
    Job job = threeRuns();
    job.runs[0].cableId = "none";
    job.runs[1].followsPlan = false;
    job.runs[1].stretches.clear();
    job.runs[2].followsPlan = false;
    job.runs[2].stretches = {{"", 400}};
    const PullPlan plan = planOf(job);
    ASSERT_EQ(plan.left.size(), 3U);
    EXPECT_EQ(plan.left[0].why, NotPulled::Why::NoCable);
    EXPECT_EQ(plan.left[1].why, NotPulled::Why::NoLength);
    EXPECT_EQ(plan.left[2].why, NotPulled::Why::TooLong);
}

namespace {

PulledCheck checkOf(const Job& job, const std::string& runId) {
    const SitePlan site = planSite(job, shipped());
    const Job laid = laidJob(job, site);
    const auto found =
        checkPulled(job, laid, *job.run(runId), shipped(), site, planPulls(job, shipped(), site));
    EXPECT_TRUE(found);
    return found.value_or(PulledCheck{});
}
std::vector<ShortCure::How> howOf(const PulledCheck& check) {
    std::vector<ShortCure::How> out;
    for (const auto& cure : check.cures)
        out.push_back(cure.how);
    return out;
}

} // namespace

TEST(PulledCheck, saysWhatIsShortWhereAndWhatWouldDo) {
    using How = ShortCure::How;
    const Job job = threeRuns();
    // Way 23.8 m, dressing 3 m and 0.3 m, cut off 0.6 m: 27.7 m are needed.
    PulledCheck check = checkOf(marked(job, "SL-D02", {"a2", 990, 962, ""}), "SL-D02");
    EXPECT_FALSE(check.isShort()) << check.lacksM;
    EXPECT_TRUE(check.cures.empty());
    check = checkOf(marked(job, "SL-D02", {"a2", 990, 964, ""}), "SL-D02");
    EXPECT_NEAR(*check.needM, 27.1, 1e-9);
    EXPECT_NEAR(check.lacksM, 27.1 - 25.4, 1e-9);
    EXPECT_EQ(check.end, End::Near);
    EXPECT_TRUE(check.reaches);
    EXPECT_FALSE(check.sure) << "marks of 1 m may be 2 m off";
    ASSERT_FALSE(check.cures.empty());
    EXPECT_EQ(check.cures[0].how, How::LessHere);
    EXPECT_EQ(render(check.cures[0].what, UnitSystem::Metric),
              "Leave 1.3 m there instead of 3.0 m");
    EXPECT_EQ(howOf(check).back(), How::PullAgain);
    // Shorter than its way: the dressing is gone, and the other end has none to give.
    check = checkOf(marked(job, "SL-D02", {"a2", 990, 968, ""}), "SL-D02");
    EXPECT_FALSE(check.reaches);
    EXPECT_TRUE(check.sure);
    EXPECT_TRUE(check.farFromPlan);
    for (const How how : howOf(check))
        EXPECT_NE(how, How::LessHere);
    // Boxes at the outlet: there it lacks, and the rack has 3 m to give.
    Job far = after(job, changedPull(job, pullOf(job, "SL-D02"), "end",
                                     [](Pull& row) { row.boxesAt = BoxesAt::Far; }));
    check = checkOf(marked(far, "SL-D02", {"a2", 990, 964, ""}), "SL-D02");
    EXPECT_EQ(check.end, End::Far);
    EXPECT_FALSE(check.reaches);
    const auto hows = howOf(check);
    ASSERT_FALSE(hows.empty());
    EXPECT_EQ(hows[0], How::FromOtherEnd);
    EXPECT_EQ(render(check.cures[0].what, UnitSystem::Metric),
              "Draw 1.7 m through from panel A: 1.3 m of 3.0 m stay there");
}

TEST(PullPlan, threeHundredRandomJobsRunNowhereShort) {
    std::mt19937 random(31);
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    int oneMore = 0;
    for (int k = 0; k < 300; ++k) {
        Job job;
        const int count = 10 + upTo(k % 10 == 0 ? 290 : 60);
        const int boxes = 2 + upTo(6);
        for (int i = 0; i < boxes; ++i) {
            Box box;
            box.id = box.name = "B" + std::to_string(i);
            box.cableId = "cat6-utp";
            box.markUnit = upTo(1) == 0 ? MarkUnit::Feet : MarkUnit::Metres;
            box.spacing = box.markUnit == MarkUnit::Feet ? 2 : 1;
            box.countsUp = upTo(1) == 0;
            box.freeMark = upTo(9999);
            job.boxes.push_back(box);
        }
        for (int i = 0; i < count; ++i) {
            burin::Run run;
            run.id = run.label = "R" + std::to_string(i / 7) + "-D" + std::to_string(i);
            run.roomId = "r" + std::to_string(i / 7);
            run.cableId = "cat6-utp";
            run.serviceId = "1g";
            run.near.text = "panel";
            run.stretches = {{"", 8 + upTo(870) / 10.0}};
            job.runs.push_back(run);
        }
        // Some are pulled already, as their boxes give them.
        for (int i = 0; i < count; i += 1 + upTo(12)) {
            const auto stock = stockOf(job);
            const auto b = std::size_t(upTo(boxes - 1));
            auto& run = job.runs[std::size_t(i)];
            const double length = run.stretches[0].lengthM + 0.6;
            if (stock[b].leftM < length + 3)
                continue;
            const double from = markAtM(job.boxes[b], stock[b].freeMark);
            run.piece = {job.boxes[b].id, stock[b].freeMark, markAt(job.boxes[b], from + length),
                         std::nullopt, "2026-11-24"};
        }
        ASSERT_TRUE(markClashes(job).empty());
        const PullPlan plan = planPulls(job, shipped(), planSite(job, shipped()));
        ASSERT_TRUE(plan.left.empty());
        std::set<std::string> seen;
        std::map<std::string, double> takenM;
        for (const auto& pull : plan.pulls) {
            std::set<std::string> from;
            for (const auto& one : pull.runs) {
                ASSERT_TRUE(seen.insert(one.runId).second);
                ASSERT_FALSE(one.boxId.empty());
                ASSERT_TRUE(from.insert(one.boxId).second) << "two of a pull from one box";
                if (!one.there)
                    takenM[one.boxId] += one.plannedM;
            }
        }
        ASSERT_EQ(seen.size(), job.runs.size());
        for (const auto& box : plan.boxes) {
            ASSERT_LE(takenM[box.id], box.leftM + 1e-6) << "runs short";
            ASSERT_NEAR(box.leftAfterM, box.leftM - takenM[box.id], 1e-6);
        }
        ASSERT_LE(plan.opened, plan.lowerBound + 2);
        oneMore += plan.opened <= plan.lowerBound + 1 ? 1 : 0;
    }
    EXPECT_GE(oneMore, 285);
}

namespace {
/// The same, drawn to ports 1 to 3 of a panel, pulled and not numbered.
Job untoldRuns() {
    Job job = threeRuns();
    job.info.pull.marking = MarkingSchool::ToneAndProbe;
    for (auto& place : job.places)
        place.ports = place.id == job.runs.front().near.placeId ? 4 : place.ports;
    int port = 0;
    for (auto& run : job.runs) {
        run.near.port = ++port;
        run.piece = {"a1", 400 + 100 * port, 460 + 100 * port, std::nullopt, "2026-11-25", {}};
    }
    return job;
}
Job toned(const Job& job, const std::string& run, const std::string& at) {
    const auto edit = tonedEdit(job, *job.run(run), at, "2026-11-26");
    EXPECT_TRUE(edit) << (edit ? "" : render(edit.error(), {}));
    return edit ? after(job, *edit) : job;
}
std::string notToned(const Job& job, const std::string& run, const std::string& at) {
    const auto edit = tonedEdit(job, *job.run(run), at, "2026-11-26");
    return edit ? "taken" : render(edit.error(), {});
}
} // namespace

TEST(Tone, tiesARunToThePortWhereItIsHeard) {
    const Job job = untoldRuns();
    const std::string first = job.runs[0].id;
    EXPECT_EQ(leftToTone(job), 3U);
    EXPECT_TRUE(endLabels(job).empty());
    // Heard on the port that another was said to be on: they change places.
    Job now = toned(job, first, "3");
    EXPECT_EQ(now.run(first)->near.port, 3);
    EXPECT_EQ(now.run("SL-D03")->near.port, 1);
    EXPECT_EQ(now.run("SL-D02")->near.port, 2);
    EXPECT_EQ(now.run(first)->piece.tonedOn, "2026-11-26");
    EXPECT_EQ(leftToTone(now), 2U);
    ASSERT_EQ(endLabels(now).size(), 4U); // it has a number now
    EXPECT_EQ(endLabels(now)[0].here, portWords(*byId(now.places, now.runs[0].near.placeId), 3));
    // Where it was said to be, by Enter alone; and on a port that nobody was said to be on.
    now = toned(toned(now, "SL-D02", ""), "SL-D03", "port 4");
    EXPECT_EQ(now.run("SL-D02")->near.port, 2);
    EXPECT_EQ(now.run("SL-D03")->near.port, 4);
    EXPECT_EQ(leftToTone(now), 0U);
    EXPECT_EQ(nextToTone(now, first), nullptr);
    // What was pulled is as it was.
    for (const auto& run : now.runs)
        EXPECT_EQ(run.piece.startMark, job.run(run.id)->piece.startMark);
    EXPECT_EQ(leftToTone(after(now, untonedEdit(*now.run("SL-D02")))), 1U);
}

TEST(Tone, isRefusedWhereAnotherIsKnownToBe) {
    Job job = untoldRuns();
    const std::string first = job.runs[0].id;
    EXPECT_NE(notToned(job, first, "5").find("1 to 4"), std::string::npos);
    EXPECT_NE(notToned(job, first, "the blue one").find("has no port “the blue one”"),
              std::string::npos);
    const Job now = toned(job, "SL-D03", "3");
    const std::string said = notToned(now, first, "3");
    EXPECT_NE(said.find("SL-D03"), std::string::npos) << said;
    EXPECT_NE(said.find("2026-11-26"), std::string::npos) << said;
    Measurement test;
    test.id = "m";
    test.runId = "SL-D02";
    test.entry = 1;
    job.measurements.push_back(test);
    EXPECT_NE(notToned(job, first, "2").find("it was measured there"), std::string::npos);
    EXPECT_EQ(leftToTone(job), 2U);
}

TEST(Tone, theEndThatWasMadeOnAPortGoesWithIt) {
    Job job = untoldRuns();
    job.terminations = {Termination{}, Termination{}, Termination{}};
    const std::string first = job.runs[0].id;
    for (auto& made : job.terminations)
        made.madeBy = "second fixer";
    job.terminations[0].id = "near";
    job.terminations[0].runId = "SL-D03";
    job.terminations[1].id = "far";
    job.terminations[1].runId = "SL-D03";
    job.terminations[1].end = End::Far;
    job.terminations[2].id = "mine";
    job.terminations[2].runId = first;
    for (int i = 0; i < 3; ++i)
        job.terminations[static_cast<std::size_t>(i)].entry = i + 1;
    const Job now = toned(job, first, "3");
    EXPECT_EQ(byId(now.terminations, "near")->runId, first);
    EXPECT_EQ(byId(now.terminations, "far")->runId, "SL-D03");
    EXPECT_EQ(byId(now.terminations, "mine")->runId, "SL-D03");
}

TEST(Tone, nextIsTheNextInTheJobsOrder) {
    Job job = untoldRuns();
    const std::string first = job.runs[0].id;
    EXPECT_EQ(nextToTone(job, first)->id, "SL-D02");
    EXPECT_EQ(nextToTone(job, "SL-D03")->id, first);
    job.runs[1].piece = {}; // not pulled: nothing is heard on it
    EXPECT_EQ(nextToTone(job, first)->id, "SL-D03");
    job.info.pull.marking = MarkingSchool::NumberBoth;
    EXPECT_EQ(nextToTone(job, first), nullptr);
    EXPECT_EQ(leftToTone(job), 0U);
}
