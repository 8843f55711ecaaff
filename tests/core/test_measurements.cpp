#include "core/units/render.h"
#include "says.h"
// Measurements of every kind against service, class and prediction.
#include "core/shipped.h"
#include <cmath>
#include <numbers>

using namespace burin;

namespace {

const std::vector<std::string> allPairs{"1-2", "3-6", "4-5", "7-8"};

/// A run with measured files made from its own prediction.
struct Bench {
    explicit Bench(const std::string& cable = "cat6a-utp", const std::string& service = "10g",
                   double lengthM = 50)
        : job(oneRunJob(cable, service, lengthM)) {}

    Job job;
    MeasuredFiles files;

    Measurement& add(const std::string& id, MeasuredFile file) {
        Measurement m;
        m.id = m.fileHash = id;
        m.fileName = id;
        m.runId = "run";
        m.takenAt = "2026-01-" + std::to_string(10 + job.measurements.size());
        job.measurements.push_back(m);
        files[id] = std::make_shared<const Outcome<MeasuredFile>>(std::move(file));
        return job.measurements.back();
    }
    [[nodiscard]] LinkParts link(LinkKind kind) const {
        return linkOf(job.runs[0], shipped(), kind, nullptr);
    }
    [[nodiscard]] RunFinding find() const { return findRun(job, job.runs[0], shipped(), files); }
};

/// A single-ended or differential two-port of the link, against `ohm`.
NetworkSweep twoPort(const LinkParts& link, double toMhz, double ohm, double moreDb = 0,
                     double stepMhz = 0.5, double fromMhz = 1) {
    NetworkSweep out{2, {}, {}, {ohm, ohm}};
    const double delayUs =
        (link.fixedLengthM() + link.cordLengthM()) / (link.cable->nvp.value * 299.792458);
    for (double f = fromMhz; f <= toMhz; f += stepMhz) {
        out.frequencyMhz.push_back(f);
        const double loss = linkLoss(link, shipped(), f).totalDb() + moreDb;
        const auto through =
            std::polar(std::pow(10, -loss / 20), -2 * std::numbers::pi * f * delayUs);
        for (const auto& v :
             {std::complex<double>(0.03), through, through, std::complex<double>(0.03)})
            out.s.push_back(v);
    }
    return out;
}

MeasuredFile sweepFile(NetworkSweep sweep) {
    return {"touchstone", std::move(sweep), {}, {}};
}

/// The four single-ended ports whose differential mode is `pair`.
NetworkSweep fourPort(const NetworkSweep& pair) {
    NetworkSweep out{4, pair.frequencyMhz, {}, {50, 50, 50, 50}};
    for (std::size_t k = 0; k < pair.frequencyMhz.size(); ++k)
        for (int to = 0; to < 4; ++to)
            for (int from = 0; from < 4; ++from) {
                const auto d = pair.at(k, to / 2, from / 2);
                out.s.push_back((to % 2 == from % 2 ? 0.65 : -0.35) * d);
            }
    return out;
}

const ParameterResult* resultOf(const Judgement& judgement, Parameter parameter) {
    for (const auto& r : judgement.results)
        if (r.parameter == parameter)
            return &r;
    return nullptr;
}

} // namespace

TEST(FourPorts, becomeOnePair) {
    Bench bench;
    auto& m =
        bench.add("sweep", sweepFile(fourPort(twoPort(bench.link(LinkKind::Channel), 500, 100))));
    m.pair = "3-6";
    const RunFinding f = bench.find();
    const auto& found = f.measurements.front();
    ASSERT_FALSE(found.fault) << render(*found.fault, {});
    EXPECT_EQ(found.traces.front().pair, "3-6");
    EXPECT_NEAR(*found.excessDb, 0, 1e-6);
    const auto noted = std::any_of(found.notes.begin(), found.notes.end(), [](const auto& n) {
        return english(n).find("ports 1, 2 (near) and 3, 4 (far)") != std::string::npos;
    });
    EXPECT_TRUE(noted);
    EXPECT_EQ(f.state(), State::Untested) << "one pair of four";
}

TEST(FourPorts, delayComesFromThePhase) {
    Bench bench;
    bench.add("sweep", sweepFile(fourPort(twoPort(bench.link(LinkKind::Channel), 500, 100))));
    const RunFinding f = bench.find();
    const auto* delay = resultOf(f.measurements.front().classJudgement, Parameter::Delay);
    ASSERT_NE(delay, nullptr);
    EXPECT_NEAR(delay->measured, 56 / (0.67 * 299.792458), 1e-6);
    EXPECT_EQ(delay->state, State::Pass);
    EXPECT_NEAR(delay->accuracy, 0.010, 1e-12) << "10 ns in µs";
}

TEST(FourPorts, coarseSweepHasNoDelay) {
    Bench bench;
    bench.add("sweep",
              sweepFile(fourPort(twoPort(bench.link(LinkKind::Channel), 500, 100, 0, 2.0))));
    const RunFinding f = bench.find();
    EXPECT_EQ(resultOf(f.measurements.front().classJudgement, Parameter::Delay), nullptr);
    const auto& notes = f.measurements.front().notes;
    EXPECT_TRUE(std::any_of(notes.begin(), notes.end(), [](const auto& n) {
        return english(n).find("0.8 MHz") != std::string::npos;
    }));
}

TEST(Sweeps, ofAllPairsProveLossTogetherButNotCrosstalk) {
    Bench bench;
    for (const auto& pair : allPairs) {
        auto& m =
            bench.add("s" + pair, sweepFile(twoPort(bench.link(LinkKind::Channel), 500, 100)));
        m.pair = pair;
    }
    const RunFinding f = bench.find();
    for (const auto& m : f.measurements)
        EXPECT_FALSE(m.superseded) << "each is of another pair";
    EXPECT_EQ(f.state(), State::Untested);
    EXPECT_NE(english(f.serviceReason).find("NEXT"), std::string::npos) << f.serviceReason;
}

TEST(Sweeps, leasedCircuitIsProvenByItsTwoPairs) {
    // One circuit wants its loss on 1-2 and 4-5 and nothing else over frequency; it is no generic
    // cabling, and no class is to be proven.
    Bench bench("cat7-sftp", "t1", 80);
    for (const char* pair : {"1-2", "4-5"}) {
        const NetworkSweep sweep = twoPort(bench.link(LinkKind::Channel), 20, 100, 0, 0.5, 0.772);
        auto& m = bench.add(std::string("s") + pair, sweepFile(sweep));
        m.pair = pair;
    }
    const RunFinding f = bench.find();
    EXPECT_EQ(f.serviceState, State::Pass) << f.serviceReason;
    EXPECT_EQ(f.classState, State::Untested);
    EXPECT_EQ(f.state(), State::Pass);
}

TEST(Coax, otherReferenceIsBroughtToTheCable) {
    // A matched 75 Ω line seen with a 50 Ω instrument reflects; brought to 75 Ω it does not.
    Bench bench("coax-s6", "sdi-1485", 30);
    const NetworkSweep matched = twoPort(bench.link(LinkKind::Channel), 1485, 75, 0, 5);
    bench.add("seventy-five", sweepFile(matched));
    const RunFinding good = bench.find();
    bench.files["seventy-five"] =
        std::make_shared<const Outcome<MeasuredFile>>(sweepFile(renormalised(matched, 50)));
    const RunFinding same = bench.find();
    const auto& a = good.measurements[0].traces[0];
    const auto& b = same.measurements[0].traces[0];
    ASSERT_EQ(a.value.size(), b.value.size());
    for (std::size_t k = 0; k < a.value.size(); k += 11)
        EXPECT_NEAR(a.value[k], b.value[k], 1e-9);
    EXPECT_TRUE(std::any_of(
        same.measurements[0].notes.begin(), same.measurements[0].notes.end(),
        [](const auto& n) { return english(n).find("50 Ω to 75 Ω") != std::string::npos; }));
}

TEST(Coax, videoIsJudgedAtHalfTheBitRate) {
    Bench bench("coax-s59", "sdi-1485", 60);
    bench.add("video", sweepFile(twoPort(bench.link(LinkKind::Channel), 1485, 75, 0, 1, 5)));
    const RunFinding good = bench.find();
    EXPECT_EQ(good.state(), State::Pass) << good.serviceReason;
    const auto* loss = resultOf(good.measurements[0].service, Parameter::InsertionLoss);
    ASSERT_NE(loss, nullptr);
    EXPECT_NEAR(loss->atMhz, 742.5, 4);
    EXPECT_DOUBLE_EQ(loss->limit, 20);
    bench.files["video"] = std::make_shared<const Outcome<MeasuredFile>>(
        sweepFile(twoPort(bench.link(LinkKind::Channel), 1485, 75, 9, 1, 5)));
    EXPECT_EQ(bench.find().state(), State::Fail);
}

TEST(Coax, onePortGivesReturnLossAlone) {
    Bench bench("coax-s6", "sdi-1485", 30);
    NetworkSweep one{1, {}, {}, {75}};
    for (double f = 5; f <= 1485; f += 1) {
        one.frequencyMhz.push_back(f);
        one.s.emplace_back(0.3);
    }
    bench.add("reflection", sweepFile(one));
    const RunFinding f = bench.find();
    EXPECT_EQ(f.state(), State::Fail) << "10.5 dB where 15 are wanted";
    EXPECT_NE(english(f.serviceReason).find("Return loss"), std::string::npos);
    for (auto& v : one.s)
        v = 0.05;
    bench.files["reflection"] = std::make_shared<const Outcome<MeasuredFile>>(sweepFile(one));
    EXPECT_EQ(bench.find().state(), State::Untested) << "loss was not measured";
}

TEST(Coax, feedlineWithoutABudgetIsNotJudged) {
    Bench bench("coax-ll10", "feedline", 28);
    bench.add("line", sweepFile(twoPort(bench.link(LinkKind::Channel), 200, 50, 0, 0.5)));
    EXPECT_EQ(bench.find().state(), State::Untested);
    bench.job.runs[0].lossBudgetDb = 3;
    bench.job.runs[0].bandFromMhz = 156;
    bench.job.runs[0].bandToMhz = 162;
    EXPECT_EQ(bench.find().state(), State::Pass);
    bench.job.runs[0].lossBudgetDb = 0.5;
    EXPECT_EQ(bench.find().state(), State::Fail);
}

TEST(Files, thatCannotBeOfTheRunSaySo) {
    Bench bench("coax-s6", "sdi-1485", 30);
    bench.add("four", sweepFile(fourPort(twoPort(bench.link(LinkKind::Channel), 100, 100))));
    const RunFinding f = bench.find();
    ASSERT_TRUE(f.measurements[0].fault);
    EXPECT_NE(render(f.measurements[0].fault->what, {}).find("four ports"), std::string::npos);
    EXPECT_EQ(f.state(), State::Untested);
    bench.files.clear();
    EXPECT_TRUE(bench.find().measurements[0].fault);
}

TEST(Files, gainsAreReadAsLosses) {
    MeasuredTable table;
    table.frequencyMhz = {10, 20, 30};
    table.columns.push_back({"IL 1-2", "dB", {-3, -4, -5}});
    const auto traces = tracesOf({"csv", {}, table, {}}, {}, CableKind::Balanced, 100);
    ASSERT_TRUE(traces);
    EXPECT_DOUBLE_EQ(traces->traces[0].value[2], 5);
    EXPECT_FALSE(traces->notes.empty());
}

TEST(Files, columnsCanBeNamedByHand) {
    MeasuredTable table;
    table.frequencyMhz = {10, 20};
    table.columns.push_back({"trace A", "", {3, 4}});
    table.columns.push_back({"trace B", "", {30, 40}});
    Measurement m;
    EXPECT_FALSE(tracesOf({"csv", {}, table, {}}, m, CableKind::Balanced, 100));
    m.columns = "IL 4-5;RL 4-5 far";
    const auto traces = tracesOf({"csv", {}, table, {}}, m, CableKind::Balanced, 100);
    ASSERT_TRUE(traces);
    ASSERT_EQ(traces->traces.size(), 2U);
    EXPECT_EQ(traces->traces[0].parameter, Parameter::InsertionLoss);
    EXPECT_EQ(traces->traces[1].pair, "4-5");
    EXPECT_TRUE(traces->traces[1].farEnd);
}

TEST(Files, delayInNanosecondsIsBroughtToMicroseconds) {
    MeasuredTable table;
    table.frequencyMhz = {10, 20};
    table.columns.push_back({"Delay 1-2 (ns)", "ns", {480, 470}});
    const auto traces = tracesOf({"csv", {}, table, {}}, {}, CableKind::Balanced, 100);
    ASSERT_TRUE(traces);
    EXPECT_DOUBLE_EQ(traces->traces[0].value[0], 0.48);
    EXPECT_EQ(traces->traces[0].unit, "µs");
}

TEST(LimitSets, tiaIsUsedWhereTheJobSaysSo) {
    Bench bench("cat6-utp", "1g", 80);
    bench.add("s", sweepFile(twoPort(bench.link(LinkKind::Channel), 250, 100)));
    EXPECT_EQ(bench.find().measurements[0].classJudgement.against, "class E channel");
    bench.job.info.limitSet = LimitSet::Tia;
    EXPECT_EQ(bench.find().measurements[0].classJudgement.against, "cat6 channel");
    EXPECT_EQ(bench.find().className, "cat6");
}

TEST(Judgement, lowestPartDecidesTheClass) {
    Bench bench;
    EXPECT_EQ(bench.find().className, "EA");
    bench.job.runs[0].cords[0].cableId = "cat5e-utp";
    const RunFinding f = bench.find();
    EXPECT_EQ(f.className, "D");
    EXPECT_EQ(f.lowestPart, "Cat 5e cord");
    EXPECT_EQ(f.outlook, Outlook::Fails) << "10 Gbit/s wants Cat 6A throughout";
}

TEST(Judgement, permanentLinkLeavesOutCordsAndCrossConnects) {
    Bench bench;
    bench.job.runs[0].connections.push_back({End::Near, "conn-cat6a", 0});
    const LinkParts channel = bench.link(LinkKind::Channel);
    const LinkParts permanent = bench.link(LinkKind::Permanent);
    EXPECT_EQ(channel.cords.size(), 2U);
    EXPECT_TRUE(permanent.cords.empty());
    EXPECT_EQ(channel.connections.size(), 3U);
    EXPECT_EQ(permanent.connections.size(), 2U);
}

TEST(Judgement, workingNamesLimitMeasurementAndAccuracy) {
    Bench bench;
    bench.add("s", sweepFile(twoPort(bench.link(LinkKind::Channel), 500, 100)));
    const RunFinding f = bench.find();
    const auto& m = f.measurements[0];
    for (const auto& r : m.service.results) {
        const std::string text = english(judgeWorking(r, m.serviceLines));
        for (const char* word : {"margin", "limit", "measured", "accuracy", "ISO/IEC 11801"})
            if (r.points > 0) {
                EXPECT_NE(text.find(word), std::string::npos) << text;
            }
    }
}
