#include "core/finding/run_loss.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include "says.h"
#include <cmath>
#include <random>

using namespace burin;

namespace {

/// Measured files of the job's run from the model: `excess` scales the loss, crosstalk lies
/// `spareDb` above its limit.
struct Measured {
    Job job;
    MeasuredFiles files;
};

void addCsv(Measured& out, double excess, double spareDb, LinkKind link = LinkKind::Channel,
            const char* id = "m", const char* at = "2026-01-01") {
    const burin::Run& run = out.job.runs[0];
    const LinkParts parts = linkOf(run, shipped(), link, nullptr);
    MeasuredTable table;
    for (const double f : testerGrid(500))
        table.frequencyMhz.push_back(f);
    const auto add = [&](const std::string& name, auto value) {
        MeasuredTable::Column column{name, "dB", {}};
        for (const double f : table.frequencyMhz)
            column.values.push_back(value(f));
        table.columns.push_back(column);
    };
    const auto limit = [&](Parameter p) {
        return [=](double f) {
            return *shipped().limit(LimitSet::Iso, "EA", link, p)->at(f) + spareDb;
        };
    };
    const std::vector<std::string> pairs{"1-2", "3-6", "4-5", "7-8"};
    for (std::size_t i = 0; i < 4; ++i) {
        add("IL " + pairs[i],
            [&](double f) { return linkLoss(parts, shipped(), f).totalDb() * excess; });
        add("RL " + pairs[i], limit(Parameter::ReturnLoss));
        for (std::size_t j = i + 1; j < 4; ++j) {
            add("NEXT " + pairs[i] + "/" + pairs[j], limit(Parameter::Next));
            add("ACR-F " + pairs[i] + "/" + pairs[j], limit(Parameter::AcrF));
        }
    }
    Measurement m;
    m.id = id;
    m.runId = "run";
    m.takenAt = at;
    m.link = link;
    m.fileName = "t.csv";
    m.fileHash = id;
    out.job.measurements.push_back(m);
    out.files[m.fileHash] =
        std::make_shared<const Outcome<MeasuredFile>>(MeasuredFile{"csv", std::nullopt, table, {}});
}

RunFinding find(const Measured& m) {
    return findRun(m.job, m.job.runs[0], shipped(), m.files);
}

Measured typed(const TesterAnswer& answer, const char* cable = "cat6a-utp",
               const char* service = "10g") {
    Measured out{oneRunJob(cable, service), {}};
    Measurement m;
    m.id = "typed";
    m.runId = "run";
    m.tester = answer;
    out.job.measurements.push_back(m);
    return out;
}

} // namespace

TEST(RunFinding, predictionHoldsButIsNoPass) {
    const Measured m{oneRunJob(), {}};
    const RunFinding f = find(m);
    EXPECT_EQ(f.outlook, Outlook::Holds);
    EXPECT_EQ(f.state(), State::Untested);
    EXPECT_EQ(f.className, "EA");
    EXPECT_NEAR(f.channelM, 66, 1e-12);
    const LinkParts link = linkOf(m.job.runs[0], shipped(), LinkKind::Channel, nullptr);
    for (std::size_t i = 0; i < f.channel.frequencyMhz.size(); i += 17)
        EXPECT_NEAR(f.channel.lossDb[i],
                    linkLoss(link, shipped(), f.channel.frequencyMhz[i]).totalDb(), 1e-12);
    double sum = 0;
    for (const auto& part : f.parts)
        sum += part.lossDb;
    EXPECT_NEAR(sum, linkLoss(link, shipped(), f.worstMhz).totalDb(), 1e-12);
}

TEST(RunFinding, bandSpansTheWarmth) {
    Measured m{oneRunJob(), {}};
    m.job.runs[0].stretches = {{"a", 30, 20, 0}, {"b", 30, 40, 0}};
    const RunFinding f = find(m);
    EXPECT_DOUBLE_EQ(f.channel.warmestC, 40);
    for (std::size_t i = 0; i < f.channel.lossDb.size(); ++i) {
        EXPECT_LT(f.channel.coolDb[i], f.channel.lossDb[i]);
        EXPECT_LT(f.channel.lossDb[i], f.channel.warmDb[i]);
    }
}

TEST(RunFinding, curesHoldWhenAdopted) {
    Measured m{oneRunJob("cat6-utp", "10g", 60), {}};
    m.job.runs[0].stretches[0].neighbours = 20;
    const RunFinding f = find(m);
    EXPECT_EQ(f.outlook, Outlook::Fails);
    EXPECT_EQ(f.reach.boundBy, Bound::Bundle);
    ASSERT_FALSE(f.cures.empty());
    ASSERT_TRUE(f.cures.front().holds);
    for (const auto& cure : f.cures) {
        Measured adopted = m;
        burin::Run& run = adopted.job.runs[0];
        run.cableId = cure.cableId;
        if (!cure.cords.empty())
            run.cords = cure.cords;
        if (!cure.connections.empty())
            run.connections = cure.connections;
        EXPECT_EQ(find(adopted).outlook != Outlook::Fails, cure.holds) << cure.title;
    }
}

TEST(RunFinding, unknownPartsAreNamed) {
    Measured m{oneRunJob(), {}};
    m.job.runs[0].cableId = "cat99";
    const RunFinding f = find(m);
    ASSERT_FALSE(f.faults.empty());
    EXPECT_NE(render(f.faults[0].what, {}).find("cat99"), std::string::npos);
    EXPECT_EQ(f.outlook, Outlook::Unknown);
}

TEST(RunFinding, goodTestPassesTwice) {
    Measured m{oneRunJob(), {}};
    addCsv(m, 1.0, 5);
    const RunFinding f = find(m);
    EXPECT_EQ(f.serviceState, State::Pass) << f.serviceReason;
    EXPECT_EQ(f.classState, State::Pass) << f.classReason;
    EXPECT_EQ(f.state(), State::Pass);
    EXPECT_LT(*f.measurements[0].excessDb, 0.01);
    EXPECT_NEAR(f.measuredShare, f.predictedShare, 0.05);
}

TEST(RunFinding, serviceAndClassPartWays) {
    // Carries 1 Gbit/s (class D to 100 MHz) but is not what Cat 6A should be at 500 MHz.
    Measured m{oneRunJob("cat6a-utp", "1g", 85), {}};
    addCsv(m, 1.25, 5);
    const RunFinding f = find(m);
    EXPECT_EQ(f.classState, State::Fail);
    EXPECT_NE(f.serviceState, State::Fail);
    EXPECT_EQ(f.state(), State::Fail);
    EXPECT_GT(*f.measurements[0].excessDb, 2);
}

TEST(RunFinding, permanentLinkHasItsOwnLimitAndPrediction) {
    Measured m{oneRunJob(), {}};
    addCsv(m, 1.0, 5, LinkKind::Permanent);
    const RunFinding f = find(m);
    EXPECT_EQ(f.measurements[0].classJudgement.against, "class EA permanent link");
    EXPECT_LT(std::abs(*f.measurements[0].excessDb), 0.01);
    EXPECT_LT(f.permanent.lossDb.back(), f.channel.lossDb.back());
}

TEST(RunFinding, onePairIsNotFour) {
    Measured m{oneRunJob(), {}};
    addCsv(m, 1.0, 5);
    auto file = **m.files["m"];
    file.table->columns.resize(2); // IL and RL of 1-2
    m.files["m"] = std::make_shared<const Outcome<MeasuredFile>>(file);
    const RunFinding f = find(m);
    EXPECT_EQ(f.state(), State::Untested);
    EXPECT_NE(english(f.serviceReason).find("not measured"), std::string::npos) << f.serviceReason;
}

TEST(RunFinding, laterTestStandsForTheEarlier) {
    Measured m{oneRunJob(), {}};
    addCsv(m, 1.0, -6, LinkKind::Channel, "before", "2026-01-01");
    addCsv(m, 1.0, 5, LinkKind::Channel, "after", "2026-01-02");
    const RunFinding f = find(m);
    EXPECT_TRUE(f.measurements[0].superseded);
    EXPECT_EQ(f.measurements[0].state(), State::Fail);
    EXPECT_EQ(f.state(), State::Pass);
}

TEST(RunFinding, typedAnswerProvesWiringAlone) {
    TesterAnswer whole;
    whole.wireMap = WireMap{};
    whole.lengthM = 66;
    const RunFinding good = find(typed(whole));
    EXPECT_EQ(good.state(), State::Untested);
    EXPECT_FALSE(good.measurements[0].cannot.empty());
    EXPECT_TRUE(good.measurements[0].notes.empty());
    TesterAnswer open = whole;
    open.wireMap->farPin[4] = 0;
    EXPECT_EQ(find(typed(open)).state(), State::Fail);
    // 100 Mbit/s needs neither 4 nor 5: it works, and is not what was to be installed.
    const RunFinding hundred = find(typed(open, "cat6a-utp", "100m"));
    EXPECT_NE(hundred.serviceState, State::Fail);
    EXPECT_EQ(hundred.classState, State::Fail);
    const RunFinding voice = find(typed(whole, "cat3-utp", "voice"));
    EXPECT_EQ(voice.state(), State::Pass);
}

/// A whole run is as long as its marks say, so what a tester shows beyond is its own velocity.
TEST(RunFinding, theTestersVelocityIsToldFromTheMarks) {
    const auto told = [](double lengthM, bool marks, bool whole) {
        TesterAnswer answer;
        answer.wireMap = WireMap{};
        answer.wireMap->farPin[4] = whole ? 5 : 0;
        answer.lengthM = lengthM;
        Measured m = typed(answer);
        if (marks)
            m.job.runs[0].piece = {"b", 0, 197, {}, {}};
        const RunFinding found = find(m);
        std::string out;
        for (const auto& note : found.measurements[0].notes)
            out += english(note) + "\n";
        return out;
    };
    EXPECT_TRUE(told(69.3, true, true).find("the marks say 66.0 m") != std::string::npos);
    EXPECT_TRUE(told(69.3, true, true).find("too high: take 0.952 of") != std::string::npos);
    EXPECT_TRUE(told(62, true, true).find("too low: take 1.065 of") != std::string::npos);
    EXPECT_EQ(told(66.9, true, true), "") << "within what the instrument is good for";
    for (const auto& silent : {told(69.3, false, true), told(69.3, true, false),
                               told(90, true, true), told(41, true, true)})
        EXPECT_TRUE(silent.find("velocity") == std::string::npos) << silent;
}

TEST(RunFinding, typedAnswerIsWeighed) {
    TesterAnswer answer;
    answer.lengthM = 75;
    answer.loopOhm = 16;
    answer.negotiatedMbit = 100;
    const RunFinding f = find(typed(answer));
    const auto& notes = f.measurements[0].notes;
    const auto says = [&](const char* word) {
        return std::any_of(notes.begin(), notes.end(), [&](const auto& n) {
            return english(n).find(word) != std::string::npos;
        });
    };
    EXPECT_TRUE(says("9.0 m longer"));
    EXPECT_TRUE(says("copper-clad"));
    EXPECT_TRUE(says("100 Mbit/s"));
    answer = {};
    answer.loopOhm = 26;
    EXPECT_EQ(find(typed(answer)).classState, State::Fail);
    answer = {};
    answer.negotiatedMbit = 10000;
    EXPECT_EQ(find(typed(answer)).serviceState, State::Pass);
}

TEST(RunFinding, coaxIsJudgedByItsService) {
    Measured m{oneRunJob("coax-s6", "sat-if", 30), {}};
    m.job.runs[0].headLevel = 70;
    NetworkSweep sweep{2, {}, {}, {75, 75}};
    const LinkParts link = linkOf(m.job.runs[0], shipped(), LinkKind::Channel, nullptr);
    for (double f = 900; f <= 2200; f += 4) {
        sweep.frequencyMhz.push_back(f);
        const double through = std::pow(10, -linkLoss(link, shipped(), f).totalDb() / 20);
        for (const double v : {0.05, through, through, 0.05})
            sweep.s.emplace_back(v);
    }
    Measurement file;
    file.id = file.fileHash = "s";
    file.runId = "run";
    m.job.measurements.push_back(file);
    m.files["s"] =
        std::make_shared<const Outcome<MeasuredFile>>(MeasuredFile{"touchstone", sweep, {}, {}});
    EXPECT_EQ(find(m).state(), State::Pass);
    m.job.runs[0].headLevel = 52;
    EXPECT_EQ(find(m).state(), State::Fail);
    m.job.runs[0].headLevel = 95;
    EXPECT_EQ(find(m).state(), State::Fail) << "too much is as wrong as too little";
}

TEST(RunFinding, runningLossEndsAtTheWhole) {
    Measured m{oneRunJob(), {}};
    burin::Run& run = m.job.runs[0];
    run.connections.push_back({End::Inline, "conn-cat6a", 20});
    const RunningLoss loss = runningLoss(lossSteps(run, shipped(), 250));
    const LinkParts link = linkOf(run, shipped(), LinkKind::Channel, nullptr);
    EXPECT_NEAR(loss.atM.back(), 66, 1e-9);
    EXPECT_NEAR(loss.lossDb.back(), linkLoss(link, shipped(), 250).totalDb(), 1e-9);
    EXPECT_TRUE(std::is_sorted(loss.lossDb.begin(), loss.lossDb.end()));
}

TEST(RunFinding, coverageCounts) {
    Measured m{oneRunJob(), {}};
    addCsv(m, 1.0, 5);
    burin::Run coiled = m.job.runs[0];
    coiled.id = "c";
    coiled.leftCoiled = true;
    m.job.runs.push_back(coiled);
    std::vector<RunFinding> all;
    for (const auto& run : m.job.runs)
        all.push_back(findRun(m.job, run, shipped(), m.files));
    const Coverage c = coverageOf(m.job, all);
    EXPECT_EQ(c.runs, 2);
    EXPECT_EQ(c.pass, 1);
    EXPECT_EQ(c.coiled, 1);
    EXPECT_EQ(c.untested, 0);
}

TEST(Working, showsFormulaInputsAndSource) {
    const Measured m{oneRunJob(), {}};
    const std::string text = english(lossWorking(m.job.runs[0], shipped(), 250));
    for (const char* part : {"k1", "1.8200", "IEC 61156", "60.0 m at 20 °C", "Result", "× 1.2"})
        EXPECT_NE(text.find(part), std::string::npos) << part << "\n" << text;
}

/// The figure before " dB" at the end of a step.
double decibelsOf(const std::string& step) {
    const auto at = step.rfind("= ");
    return at == std::string::npos ? 0 : std::stod(step.substr(at + 2));
}

TEST(Working, addsUpWhateverWarmsTheRun) {
    std::mt19937 random(10);
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    const std::vector<std::string> cables{"cat5e-utp", "cat6a-utp", "cat6a-futp", "coax-s6"};
    int warmed = 0;
    for (int i = 0; i < 500; ++i) {
        Job job = oneRunJob();
        burin::Run& run = job.runs[0];
        run.cableId = cables[std::size_t(upTo(3))];
        run.stretches.clear();
        for (int s = upTo(3); s >= 0; --s)
            run.stretches.push_back({"", upTo(400) / 10.0, double(upTo(45) - 5), upTo(60)});
        for (int c = upTo(2); c > 0; --c)
            run.connections.push_back({End::Inline, "conn-cat6a", double(upTo(120))});
        if (upTo(1) == 0)
            run.poweredType = 1 + upTo(3);
        const double f = 1 + upTo(249);
        const auto steps = lossSteps(run, shipped(), f);
        double sum = 0;
        for (const auto& step : steps) {
            sum += step.lossDb;
            warmed += step.temperatureC > step.aroundC + 0.5 ? 1 : 0;
        }
        const LinkParts link = linkOf(run, shipped(), LinkKind::Channel, nullptr);
        ASSERT_NEAR(sum, linkLoss(link, shipped(), f).totalDb(), 1e-9) << "run " << i;
        const Working working = lossWorking(run, shipped(), f);
        double shown = 0;
        for (const auto& step : working.steps)
            shown += decibelsOf(english(step));
        // Each is rounded to a hundredth.
        ASSERT_NEAR(shown, std::stod(english(working.result)), 0.006 * double(steps.size() + 1))
            << english(working);
        const RunFinding finding = findRun(job, run, shipped(), {}, {.alternatives = false});
        double parts = 0;
        for (const auto& part : finding.parts)
            parts += part.lossDb;
        ASSERT_NEAR(parts, runningLoss(finding.steps).lossDb.back(), 1e-9);
    }
    EXPECT_GT(warmed, 50) << "none of them was powered";
}
