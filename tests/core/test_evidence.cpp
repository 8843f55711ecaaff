// No pass on thin evidence: files of other runs, parameters of which nothing counts, the two limit
// sets' points for information.
#include "core/finding/plausible.h"
#include "core/shipped.h"
#include <cmath>

using namespace burin;

namespace {

const std::vector<std::string> pins{"1-2", "3-6", "4-5", "7-8"};

/// What a tester would write of a link: loss as predicted for `lossM` metres, NEXT so far from its
/// limit, far-end crosstalk 8 dB from its own.
MeasuredFile testerFile(const Job& job, double lossM, double scale = 1, double nextSpareDb = 10,
                        double returnDb = 30) {
    Job other = job;
    other.runs[0] = withLength(other.runs[0], lossM);
    const LinkParts link = linkOf(other.runs[0], shipped(), LinkKind::Channel, nullptr);
    const auto limit = [](Parameter parameter, double f) {
        return *shipped().limit(LimitSet::Iso, "EA", LinkKind::Channel, parameter)->at(f);
    };
    MeasuredTable table;
    for (double f = 1; f <= 500; f += f < 100 ? 0.25 : 1)
        table.frequencyMhz.push_back(f);
    const auto column = [&](const std::string& header, const auto& value) {
        MeasuredTable::Column out{header, "dB", {}};
        for (const double f : table.frequencyMhz)
            out.values.push_back(value(f));
        table.columns.push_back(std::move(out));
    };
    for (const auto& pair : pins) {
        column("IL " + pair,
               [&](double f) { return scale * linkLoss(link, shipped(), f).totalDb(); });
        column("RL " + pair, [&](double) { return returnDb; });
    }
    for (std::size_t a = 0; a < pins.size(); ++a)
        for (std::size_t b = a + 1; b < pins.size(); ++b) {
            column("NEXT " + pins[a] + "/" + pins[b],
                   [&](double f) { return limit(Parameter::Next, f) + nextSpareDb; });
            column("ACR-F " + pins[a] + "/" + pins[b],
                   [&](double f) { return limit(Parameter::AcrF, f) + 8; });
        }
    MeasuredFile out;
    out.kind = "csv";
    out.table = std::move(table);
    return out;
}

RunFinding judged(Job job, MeasuredFile file, bool confirmed = false) {
    Measurement m;
    m.id = m.fileHash = m.fileName = "file";
    m.runId = "run";
    m.confirmed = confirmed;
    job.measurements = {m};
    MeasuredFiles files;
    files["file"] = std::make_shared<const Outcome<MeasuredFile>>(std::move(file));
    return findRun(job, job.runs[0], shipped(), files);
}

bool says(const std::string& text, const char* words) {
    return text.find(words) != std::string::npos;
}

} // namespace

TEST(Evidence, aFileOfAnotherRunIsAskedAbout) {
    const Job job = oneRunJob("cat6a-utp", "10g", 60);
    const auto own = judged(job, testerFile(job, 60));
    EXPECT_EQ(own.state(), State::Pass) << own.serviceReason << " / " << own.classReason;
    EXPECT_TRUE(own.measurements[0].asked.empty());
    for (const double metres : {5.0, 12.0, 30.0, 85.0}) {
        const auto f = judged(job, testerFile(job, metres));
        EXPECT_EQ(f.state(), State::Untested)
            << metres << f.serviceReason << " / " << f.classReason;
        const std::string& asked = f.measurements[0].asked;
        EXPECT_TRUE(says(asked, (std::to_string(static_cast<int>(metres)) + ".0 m of").c_str()))
            << asked;
        EXPECT_TRUE(says(asked, "this run is 60.0 m")) << asked;
        EXPECT_TRUE(says(f.serviceReason, "another run")) << f.serviceReason;
        // Until somebody says that it is so.
        const auto said = judged(job, testerFile(job, metres), true);
        // (85 m and its cords come within the instrument's accuracy of the limit.)
        EXPECT_EQ(said.state(), metres > 80 ? State::MarginalGood : State::Pass)
            << metres << said.serviceReason << said.classReason;
        EXPECT_TRUE(said.measurements[0].asked.empty());
        EXPECT_TRUE(says(said.measurements[0].notes.front(), "all the same"));
    }
    // What the plan may be off by is not asked about, nor a cable a little better or worse.
    for (const double metres : {52.0, 57.0, 63.0, 68.0})
        EXPECT_TRUE(judged(job, testerFile(job, metres)).measurements[0].asked.empty()) << metres;
    // A fail stays a fail, whosever it is.
    EXPECT_EQ(judged(job, testerFile(job, 180)).state(), State::Fail);
}

TEST(Evidence, aLazyFileProvesNothing) {
    const Job job = oneRunJob("cat6a-utp", "10g", 60);
    // Hardly any loss, so that everything else would be for information.
    const auto f = judged(job, testerFile(job, 60, 0.001, -60, 1));
    EXPECT_EQ(f.state(), State::Untested) << f.serviceReason;
    const auto said = judged(job, testerFile(job, 60, 0.001, -60, 1), true);
    EXPECT_EQ(said.serviceState, State::Untested) << said.serviceReason;
    EXPECT_TRUE(says(said.serviceReason, "NEXT (its insertion loss is under 4.0 dB throughout"))
        << said.serviceReason;
    EXPECT_TRUE(says(said.serviceReason, "Return loss (")) << said.serviceReason;
}

TEST(Evidence, theTwoSetsDifferInWhatIsForInformation) {
    // A link of so little loss that bad crosstalk is for information with one set, and fails the
    // other: NEXT under 4 dB is ISO/IEC's exemption alone; return loss under 3 dB is both's.
    Job job = oneRunJob("cat6a-utp", "1g", 10);
    const auto iso = judged(job, testerFile(job, 10, 1, -10));
    job.info.limitSet = LimitSet::Tia;
    const auto tia = judged(job, testerFile(job, 10, 1, -10));
    EXPECT_NE(iso.serviceState, State::Fail) << iso.serviceReason;
    EXPECT_EQ(tia.serviceState, State::Fail) << tia.serviceReason;
    EXPECT_EQ(forInformation(LimitSet::Iso, false), ForInformation::Nothing);
    EXPECT_EQ(forInformation(LimitSet::Tia, true), ForInformation::ReturnLoss);
}

TEST(Evidence, aServiceHasItsProofInTheClassAbove) {
    // 1 Gbit/s ends where so short a link still loses under 4 dB; its class was judged farther up.
    const Job job = oneRunJob("cat6a-utp", "1g", 12);
    const auto f = judged(job, testerFile(job, 12));
    EXPECT_EQ(f.classState, State::Pass) << f.classReason;
    EXPECT_EQ(f.serviceState, State::Pass) << f.serviceReason;
}

TEST(Evidence, powerSumsOfAcrFAreJudged) {
    const Job job = oneRunJob("cat6a-utp", "10g", 60);
    const auto f = judged(job, testerFile(job, 60));
    int sums = 0;
    for (const auto& r : f.measurements[0].classJudgement.results)
        sums += r.parameter == Parameter::PsAcrF && r.points > 0 ? 1 : 0;
    EXPECT_EQ(sums, 1);
    for (const auto& t : f.measurements[0].traces)
        if (t.parameter == Parameter::PsAcrF) {
            // Three alike: 4.77 dB under one of them.
            const double one = *shipped()
                                    .limit(LimitSet::Iso, "EA", LinkKind::Channel, Parameter::AcrF)
                                    ->at(t.frequencyMhz[10]) +
                               8;
            EXPECT_NEAR(t.value[10], one - 10 * std::log10(3), 1e-9);
        }
    EXPECT_TRUE(std::any_of(f.measurements[0].cannot.begin(), f.measurements[0].cannot.end(),
                            [](const auto& c) { return says(c, "measured from one end"); }));
}

TEST(Evidence, oneBadPairDoesNotMakeItAnotherRun) {
    const Job job = oneRunJob("cat6a-utp", "10g", 60);
    MeasuredFile file = testerFile(job, 60);
    for (auto& column : file.table->columns)
        if (column.header == "IL 4-5")
            for (auto& v : column.values)
                v += 9;
    const auto f = judged(job, file);
    EXPECT_TRUE(f.measurements[0].asked.empty()) << f.measurements[0].asked;
    EXPECT_EQ(f.state(), State::Fail);
}

TEST(Evidence, filesOfAnotherRunDoNotProveItTogetherEither) {
    Job job = oneRunJob("cat6a-utp", "10g", 60);
    const auto together = [&](const MeasuredFile& file) {
        MeasuredFiles files;
        job.measurements.clear();
        // Said to be of two pairs, so that neither stands in the other's place.
        for (const char* pair : {"", "1-2"}) {
            Measurement m;
            m.id = m.fileName = std::string("file") + pair;
            m.fileHash = "file";
            m.runId = "run";
            m.pair = pair;
            job.measurements.push_back(m);
        }
        files["file"] = std::make_shared<const Outcome<MeasuredFile>>(file);
        return findRun(job, job.runs[0], shipped(), files);
    };
    EXPECT_EQ(together(testerFile(job, 60)).state(), State::Pass);
    const auto other = together(testerFile(job, 12));
    EXPECT_EQ(other.serviceState, State::Untested) << other.serviceReason;
    EXPECT_EQ(other.classState, State::Untested) << other.classReason;
    // Nor do two of which nothing counts.
    MeasuredFile lazy = testerFile(job, 60, 0.001, -60, 1);
    auto f = together(lazy);
    EXPECT_EQ(f.state(), State::Untested) << f.serviceReason;
    for (auto& m : job.measurements)
        m.confirmed = true;
    MeasuredFiles files;
    files["file"] = std::make_shared<const Outcome<MeasuredFile>>(lazy);
    f = findRun(job, job.runs[0], shipped(), files);
    EXPECT_EQ(f.serviceState, State::Untested) << f.serviceReason;
}
