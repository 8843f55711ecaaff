#include "core/base/moment.h"
#include "core/edit/rule_text.h"
#include "core/finding/days.h"
#include "core/finding/materials.h"
#include "core/finding/site_finding.h"
#include "core/pull/end_labels.h"
#include "core/units/render.h"
#include "says.h"
#include "tray_job.h"

using namespace burin;

namespace {

/// `count` runs along the tray, of one room whose wall closes on that day; empty: none does.
Job crewJob(int count, const std::string& closesOn = {}) {
    Job job = trayJob("cat6-utp");
    const Run first = job.runs.front();
    job.runs.clear();
    for (int i = 0; i < count; ++i) {
        Run run = first;
        run.id = run.label = "SL-D" + std::to_string(i + 1);
        run.order = i;
        run.connections = {{End::Near, "conn-cat6", 0, false, "n"},
                           {End::Far, "conn-cat6", 0, false, "f"}};
        run.cords = {{End::Near, "cat6-utp", 3, false, "c"}};
        job.runs.push_back(run);
    }
    if (!closesOn.empty()) {
        Surface wall;
        wall.id = wall.name = "loft wall";
        wall.floorId = "g";
        wall.points = {{20.2, 2}, {20.2, 9}};
        wall.closesOn = closesOn;
        job.surfaces = {wall};
    }
    return job;
}
DayPlan daysOf(const Job& job, const std::string& from) {
    const SitePlan site = planSite(job, shipped());
    auto out = planDays(job, shipped(), planPulls(job, shipped(), site),
                        findEndPlan(job, shipped(), {}, from), closings(job, site, {}), from);
    EXPECT_TRUE(out) << (out ? "" : render(out.error(), {}));
    return out.value_or(DayPlan{});
}
double minutesOf(const DayPlan& plan, DayWork::What what) {
    double out = 0;
    for (const auto& day : plan.days)
        for (const auto& work : day.work)
            out += work.what == what ? work.minutes : 0;
    return out;
}

} // namespace

TEST(Days, workIsLaidOnWorkingDaysAndAddsUp) {
    Job job = crewJob(40);
    job.info.pull.hoursADay = 4;
    // Saturday: work begins on Monday.
    const DayPlan plan = daysOf(job, "2026-11-28");
    ASSERT_FALSE(plan.days.empty());
    EXPECT_EQ(plan.days.front().date, "2026-11-30");
    const WorkRules& work = shipped().work;
    const PullPlan pulls = planOf(job);
    double pull = 0;
    for (const auto& one : pulls.pulls)
        pull += work.pullSetMinutes + work.pullCableMinutes * double(one.runs.size()) +
                work.pullMetreMinutes * (1.3 + 20 + 2.5);
    EXPECT_NEAR(minutesOf(plan, DayWork::What::Pull), pull, 1e-6);
    EXPECT_NEAR(minutesOf(plan, DayWork::What::Tests), 40 * work.testMinutes / 2, 1e-6);
    EXPECT_EQ(minutesOf(plan, DayWork::What::Photographs), 0) << "nothing closes";
    for (const auto& day : plan.days) {
        EXPECT_LE(day.minutes, 240 + 1e-6);
        EXPECT_LE(std::chrono::weekday(*calendarDay(day.date)).iso_encoding(), 5U);
        double all = 0;
        for (const auto& one : day.work)
            all += one.minutes;
        EXPECT_NEAR(all, day.minutes, 1e-6);
    }
    EXPECT_EQ(plan.doneOn, plan.days.back().date);
    EXPECT_TRUE(plan.late.empty());
    // Begun later than today where the job says so.
    job.info.pull.startsOn = "2026-12-07";
    EXPECT_EQ(daysOf(job, "2026-11-28").days.front().date, "2026-12-07");
    EXPECT_FALSE(planDays(job, shipped(), planOf(job), {}, {}, "soon"));
    EXPECT_FALSE(planDays(job, shipped(), planOf(job), {}, {}, "2026-02-30"));
}

/// A job learns from its own days how long its work takes.
TEST(Days, theJobsOwnPaceIsLearned) {
    Job job = crewJob(40);
    job.info.pull.hoursADay = 4;
    const DayPlan plain = daysOf(job, "2026-11-30");
    EXPECT_EQ(plain.pace.factor, 1);
    EXPECT_TRUE(plain.pace.said.empty());
    // Ends made on three days, by the plain figures three hours of four each.
    const double each = shipped().connection("conn-cat6")->fit->minutes / job.info.pull.crew;
    const auto did = [&](const char* day, double minutes) {
        for (double sum = 0; sum < minutes - 1e-9; sum += each) {
            Termination row;
            row.id = "t" + std::to_string(job.terminations.size());
            row.runId = "SL-D1";
            row.connectionId = "conn-cat6";
            row.spoiled = true; // so that as many are left
            row.madeOn = day;
            row.entry = nextEntry(job.terminations);
            job.terminations.push_back(row);
        }
    };
    did("2026-11-24", 180);
    did("2026-11-25", 180);
    did("2026-11-26", 100); // of which less than half is accounted for
    EXPECT_EQ(daysOf(job, "2026-11-30").pace.days, 0);
    did("2026-11-30", 180); // today is not over
    EXPECT_EQ(daysOf(job, "2026-11-30").pace.days, 0);
    did("2026-11-27", 180);
    const DayPlan learned = daysOf(job, "2026-11-30");
    EXPECT_EQ(learned.pace.days, 3);
    EXPECT_NEAR(learned.pace.factor, 240.0 / 180, 0.02);
    EXPECT_NEAR(minutesOf(learned, DayWork::What::Pull),
                learned.pace.factor * minutesOf(plain, DayWork::What::Pull), 1e-6);
    EXPECT_EQ(learned.pace.said.key(), "days.pace");
    // Faster than the plain figures as well.
    did("2026-11-24", 300);
    EXPECT_LT(daysOf(job, "2026-11-30").pace.factor, 1);
}

TEST(Days, whatWillBeLateIsSaidWithWhatWouldDo) {
    Job job = crewJob(30, "2026-12-02");
    job.info.pull.hoursADay = 8;
    // From Monday there are two days; from Tuesday one.
    DayPlan plan = daysOf(job, "2026-11-30");
    EXPECT_TRUE(plan.late.empty()) << plan.late.front().doneOn;
    EXPECT_GT(minutesOf(plan, DayWork::What::Photographs), 0);
    job.info.pull.hoursADay = 3;
    plan = daysOf(job, "2026-12-01");
    ASSERT_EQ(plan.late.size(), 1U);
    EXPECT_EQ(plan.late[0].closesName, "loft wall");
    EXPECT_GE(plan.late[0].doneOn, "2026-12-02");
    // Each cure holds when it is done.
    for (const auto& cure : plan.late[0].cures) {
        Job cured = job;
        const int figure = int(cure.of[0].value);
        if (cure.key() == "days.more-people")
            cured.info.pull.crew = figure;
        else if (cure.key() == "days.longer-days")
            cured.info.pull.hoursADay = figure;
        EXPECT_TRUE(daysOf(cured, "2026-12-01").late.empty()) << render(cure, UnitSystem::Metric);
    }
    // On the day itself it is too late whatever is done.
    plan = daysOf(job, "2026-12-02");
    ASSERT_EQ(plan.late.size(), 1U);
    EXPECT_TRUE(plan.late[0].cures.empty());
    // A photograph of the wall counts for all behind it.
    Photograph photo;
    photo.id = "ph";
    photo.surfaceId = "loft wall";
    job.photographs = {photo};
    EXPECT_EQ(minutesOf(daysOf(job, "2026-12-01"), DayWork::What::Photographs), 0);
}

TEST(Materials, countWhatIsStillWanted) {
    Job job = crewJob(10);
    Box box;
    box.id = "b";
    box.name = "A1";
    box.cableId = "cat6-utp";
    box.heldM = 60;
    job.boxes = {box};
    // One of them is measured: its cable, ends and cords are there.
    Measurement test;
    test.id = "m";
    test.runId = "SL-D1";
    job.measurements = {test};
    const SitePlan site = planSite(job, shipped());
    const PullPlan plan = planPulls(job, shipped(), site);
    const auto lines =
        findMaterials(job, shipped(), site, plan, findEndPlan(job, shipped(), {}, {}));
    const auto line = [&](MaterialLine::Of of) {
        const auto it = std::find_if(lines.begin(), lines.end(),
                                     [&](const MaterialLine& l) { return l.of == of; });
        EXPECT_NE(it, lines.end());
        return it == lines.end() ? MaterialLine{} : *it;
    };
    const double each = site.routes[0].pullM;
    EXPECT_NEAR(line(MaterialLine::Of::Cable).needed, 9 * each, 1e-9);
    EXPECT_NEAR(line(MaterialLine::Of::Cable).waste, 0.03 * 9 * each, 1e-9);
    EXPECT_EQ(line(MaterialLine::Of::Cable).atHand, 60);
    EXPECT_EQ(line(MaterialLine::Of::Cable).boxes, 1U);
    EXPECT_NEAR(*line(MaterialLine::Of::Cable).price, 305 * job.info.survey.cablePerM, 1e-9);
    EXPECT_EQ(line(MaterialLine::Of::End).needed, 18);
    EXPECT_EQ(line(MaterialLine::Of::End).toBuy, 19) << "2 % of 18 is one more";
    EXPECT_EQ(line(MaterialLine::Of::Cord).toBuy, 9);
    EXPECT_EQ(line(MaterialLine::Of::Port).needed, 10);
    EXPECT_EQ(line(MaterialLine::Of::Port).toBuy, 0);
    EXPECT_EQ(line(MaterialLine::Of::Label).toBuy, 36);
    EXPECT_NEAR(line(MaterialLine::Of::Tape).needed, 1.8, 1e-9);
    const std::string csv = materialsCsv(lines, "€");
    EXPECT_NE(csv.find("cable,Cat 6 U/UTP,m,"), std::string::npos) << csv;
    EXPECT_NE(csv.find("cord,\"cord 3.0 m, Cat 6 U/UTP\",pieces,9,"), std::string::npos) << csv;
}

TEST(Materials, aCableCostsWhatTheJobSaysItCosts) {
    Job job = crewJob(3);
    const auto typed = [&](const std::string& text) {
        const auto edit = cablePrices(text, job, shipped());
        if (!edit)
            return render(edit.error(), {});
        job = after(job, *edit);
        return pricesText(job);
    };
    EXPECT_EQ(typed("CAT6-UTP 0.55, coax-s6 0,48"), "cat6-utp 0.55, coax-s6 0.48");
    EXPECT_EQ(typed("cat6-utp 0,55;coax-s6 1;"), "cat6-utp 0.55, coax-s6 1");
    EXPECT_EQ(typed("Cat 6 U/UTP 0.7,coax-s6 0.48,"), "cat6-utp 0.7, coax-s6 0.48");
    EXPECT_EQ(job.info.survey.perMetreOf("coax-s6"), 0.48);
    EXPECT_EQ(job.info.survey.perMetreOf("another"), job.info.survey.cablePerM);
    const SitePlan site = planSite(job, shipped());
    const PullPlan plan = planPulls(job, shipped(), site);
    const auto lines =
        findMaterials(job, shipped(), site, plan, findEndPlan(job, shipped(), {}, {}));
    EXPECT_EQ(lines.at(0).of, MaterialLine::Of::Cable);
    EXPECT_NEAR(*lines.at(0).price, 305 * 0.7, 1e-9);
    const auto& route = site.routes.at(0);
    EXPECT_NEAR(route.spareCost, (route.pullM - route.routeM) * 0.7, 1e-9);
    EXPECT_NE(english(routeWorking(job, route).steps.back()).find("0.70 a metre"),
              std::string::npos);
    for (const auto& [text, said] : {std::pair("cat9 0.5", "“cat9” is no cable"),
                                     {"cat6-utp", "“cat6-utp” is no price"},
                                     {"0.55", "“0.55” is no cable"},
                                     {"cat6-utp -1", "“-1” is no price"},
                                     {"cat6-utp 1e9", "no price"},
                                     {"cat6-utp 0.5, Cat 6 U/UTP 0.6", "two prices"},
                                     {"cat6-utp nan", "no price"}})
        EXPECT_NE(typed(text).find(said), std::string::npos) << text << ": " << typed(text);
    EXPECT_EQ(typed(""), "");
}

TEST(EndLabels, twoForEachEndUnlessNothingIsNumbered) {
    Job job = crewJob(2);
    job.runs[0].near.port = 7;
    auto labels = endLabels(job);
    ASSERT_EQ(labels.size(), 8U);
    EXPECT_EQ(labels[0].here, "panel A port 7");
    EXPECT_EQ(labels[0].there, "outlet");
    EXPECT_FALSE(labels[0].behindCut);
    EXPECT_TRUE(labels[1].behindCut);
    EXPECT_EQ(labels[2].here, "outlet");
    EXPECT_EQ(labels[2].end, End::Far);
    EXPECT_EQ(endLabels(job, {"SL-D2"}).size(), 4U);
    job.runs[0].label = "=SUM(A1)";
    EXPECT_NE(labelsCsv(endLabels(job)).find("'=SUM(A1),near,end,panel A port 7,outlet"),
              std::string::npos);
    job.info.pull.marking = MarkingSchool::ToneAndProbe;
    EXPECT_TRUE(endLabels(job).empty());
}

TEST(WorkRules, filesOfTheCatalogueAreChecked) {
    EXPECT_GT(shipped().work.testMinutes, 0);
    ASSERT_FALSE(shipped().labels.empty());
    const auto bad = readLabelSheets(
        R"({"format":"burin-labels","version":1,"sources":{"s":"x"},"sheets":[{"id":"a","name":"a",
        "pageWidthMm":210,"pageHeightMm":297,"labelWidthMm":60,"labelHeightMm":22,"printHeightMm":22,
        "columns":4,"rows":2,"leftMm":12,"topMm":14,"pitchXMm":63,"pitchYMm":22.5,"source":"s"}]})",
        "labels.json");
    ASSERT_FALSE(bad);
    EXPECT_NE(render(bad.error().what, {}).find("go over the edge"), std::string::npos)
        << render(bad.error(), {});
    EXPECT_FALSE(readWorkRules("{}", "work.json"));
    EXPECT_FALSE(readWorkRules("[", "work.json"));
}
