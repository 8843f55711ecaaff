// No pass on thin evidence: files of other runs, parameters of which nothing counts, the two limit
// sets' points for information.
#include "core/finding/plausible.h"
#include "core/shipped.h"
#include "says.h"
#include <cmath>
#include <functional>
#include <random>

using namespace burin;

namespace {

const std::vector<std::string> pins{"1-2", "3-6", "4-5", "7-8"};

/// What a tester would write of a link: loss as predicted for `lossM` metres, NEXT so far from its
/// limit, far-end crosstalk 8 dB from its own.
MeasuredFile testerFile(const Job& job, double lossM, double scale = 1, double nextSpareDb = 10,
                        double returnDb = 30, const char* className = "EA", double topMhz = 500) {
    Job other = job;
    other.runs[0] = withLength(other.runs[0], lossM);
    const LinkParts link = linkOf(other.runs[0], shipped(), LinkKind::Channel, nullptr);
    const auto limit = [&](Parameter parameter, double f) {
        return *shipped().limit(LimitSet::Iso, className, LinkKind::Channel, parameter)->at(f);
    };
    MeasuredTable table;
    table.frequencyMhz = testerGrid(topMhz);
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
    const FindingOptions options{.points = 20, .alternatives = false, .reaches = false};
    Measurement m;
    m.id = m.fileHash = m.fileName = "file";
    m.runId = "run";
    m.confirmed = confirmed;
    job.measurements = {m};
    MeasuredFiles files;
    files["file"] = std::make_shared<const Outcome<MeasuredFile>>(std::move(file));
    return findRun(job, job.runs[0], shipped(), files, options);
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
        const std::string asked = english(f.measurements[0].asked);
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

namespace {

/// Rows of a table that `keep` wants.
template <typename Keep> void keepRows(MeasuredFile& file, Keep keep) {
    MeasuredTable& table = *file.table;
    std::size_t to = 0;
    for (std::size_t k = 0; k < table.frequencyMhz.size(); ++k) {
        if (!keep(table.frequencyMhz[k], k))
            continue;
        table.frequencyMhz[to] = table.frequencyMhz[k];
        for (auto& column : table.columns)
            column.values[to] = column.values[k];
        ++to;
    }
    table.frequencyMhz.resize(to);
    for (auto& column : table.columns)
        column.values.resize(to);
}

void dropColumns(MeasuredFile& file, const std::string& words) {
    std::erase_if(file.table->columns,
                  [&](const auto& c) { return c.header.find(words) != std::string::npos; });
}

} // namespace

TEST(Evidence, aPassWantsTheWholeBandDenselyEnough) {
    const Job job = oneRunJob("cat6a-utp", "10g", 60);
    const MeasuredFile whole = testerFile(job, 60);
    EXPECT_EQ(judged(job, whole).state(), State::Pass);
    struct Thin {
        const char* what;
        std::function<bool(double, std::size_t)> keep;
        const char* said;
    };
    const std::vector<Thin> all{
        {"one row", [](double f, std::size_t) { return f == 100; }, "below 100 MHz"},
        {"ten points", [](double, std::size_t k) { return k % 114 == 0; }, "too coarse"},
        {"ends at 100", [](double f, std::size_t) { return f <= 100; }, "above 100 MHz"},
        {"begins at 50", [](double f, std::size_t) { return f >= 50; }, "below 50 MHz"},
        {"a hole", [](double f, std::size_t) { return f < 200 || f > 210; }, "too coarse"},
        {"every second", [](double, std::size_t k) { return k % 2 == 0; }, "too coarse"}};
    for (const auto& thin : all) {
        MeasuredFile file = whole;
        keepRows(file, thin.keep);
        const auto f = judged(job, file);
        EXPECT_EQ(f.serviceState, State::Untested) << thin.what << ": " << f.serviceReason;
        EXPECT_EQ(f.classState, State::Untested) << thin.what << ": " << f.classReason;
        EXPECT_TRUE(says(f.classReason, thin.said)) << thin.what << ": " << f.classReason;
        // A fail is one at any density.
        MeasuredFile bad = testerFile(job, 60, 1, -9);
        keepRows(bad, thin.keep);
        EXPECT_EQ(judged(job, bad).state(), State::Fail) << thin.what;
    }
    // To a step of either end is the whole of it.
    MeasuredFile edges = whole;
    keepRows(edges, [](double f, std::size_t) { return f > 1.05 && f < 499.5; });
    EXPECT_EQ(judged(job, edges).state(), State::Pass);
    // What was measured from the far end alone is not measured.
    MeasuredFile far = whole;
    for (auto& column : far.table->columns)
        if (column.header.starts_with("RL"))
            column.header += " far";
    EXPECT_TRUE(says(judged(job, far).serviceReason, "Return loss"));
    EXPECT_EQ(judged(job, far).serviceState, State::Untested);
}

TEST(Evidence, aPassOfCoaxWantsItsBandToo) {
    Job job = oneRunJob("coax-s6", "catv", 40);
    job.runs[0].headLevel = 10;
    const LinkParts link = linkOf(job.runs[0], shipped(), LinkKind::Channel, nullptr);
    const auto file = [&](double from, double to, double step) {
        MeasuredTable table;
        MeasuredTable::Column loss{"IL", "dB", {}};
        for (double f = from; f <= to + 1e-9; f += step) {
            table.frequencyMhz.push_back(f);
            loss.values.push_back(linkLoss(link, shipped(), f).totalDb());
        }
        table.columns = {loss};
        MeasuredFile out;
        out.kind = "csv";
        out.table = table;
        return out;
    };
    EXPECT_EQ(judged(job, file(5, 1002, 1)).state(), State::Pass)
        << judged(job, file(5, 1002, 1)).serviceReason;
    EXPECT_TRUE(says(judged(job, file(100, 1002, 1)).serviceReason, "from 5 MHz to 85 MHz"));
    EXPECT_TRUE(says(judged(job, file(5, 860, 1)).serviceReason, "above 860 MHz"));
    EXPECT_TRUE(says(judged(job, file(5, 1002, 5)).serviceReason, "too coarse"));
    EXPECT_EQ(judged(job, file(500, 500, 1)).state(), State::Untested);
    job.runs[0].headLevel.reset();
    EXPECT_TRUE(says(judged(job, file(5, 1002, 1)).serviceReason, "level at its head end"));
    // A radio's line is judged by what it sends back, too.
    Job radio = oneRunJob("coax-ll10", "feedline", 20);
    radio.runs[0].lossBudgetDb = 3;
    radio.runs[0].bandFromMhz = 144;
    radio.runs[0].bandToMhz = 146;
    const auto twoPort = [&](double returnDb) {
        MeasuredTable table;
        MeasuredTable::Column loss{"IL", "dB", {}};
        MeasuredTable::Column back{"RL", "dB", {}};
        for (double f = 140; f <= 150; f += 0.1) {
            table.frequencyMhz.push_back(f);
            loss.values.push_back(1);
            back.values.push_back(returnDb);
        }
        table.columns = {loss, back};
        MeasuredFile out;
        out.kind = "csv";
        out.table = table;
        return out;
    };
    EXPECT_EQ(judged(radio, twoPort(20), true).state(), State::Pass);
    EXPECT_EQ(judged(radio, twoPort(5), true).state(), State::Fail);
    MeasuredFile lossAlone = twoPort(20);
    dropColumns(lossAlone, "RL");
    EXPECT_TRUE(says(judged(radio, lossAlone, true).serviceReason, "Return loss"));
}

TEST(Evidence, twoThousandFilesAndNoVerdictOnTooLittle) {
    std::mt19937 random(20261126);
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    const Job jobs[] = {oneRunJob("cat5e-utp", "1g", 60), oneRunJob("cat6-utp", "1g", 35),
                        oneRunJob("cat6a-utp", "10g", 70)};
    const double lengths[] = {60, 35, 70};
    const char* classes[] = {"D", "E", "EA"};
    const double tops[] = {100, 250, 500};
    MeasuredFile good[3];
    MeasuredFile bad[3];
    for (int j = 0; j < 3; ++j) {
        good[j] = testerFile(jobs[j], lengths[j], 1, 10, 30, classes[j], tops[j]);
        bad[j] = testerFile(jobs[j], lengths[j], 1, -9, 30, classes[j], tops[j]);
    }
    int passes = 0;
    int fails = 0;
    int untested = 0;
    const int count = trials(2000);
    for (int i = 0; i < count; ++i) {
        // Of the three bands the widest takes longest: it comes up less.
        const int j = i % 10 == 0 ? 2 : i % 3 == 0 ? 1 : 0;
        const double top = tops[j];
        MeasuredFile file = good[j];
        const auto noise = [&] {
            for (auto& column : file.table->columns)
                for (auto& value : column.values)
                    value += 0.02 * (upTo(10) - 5);
        };
        State least = State::Pass; // what a right verdict may be
        State most = State::Pass;
        const auto nothing = [&] { least = most = State::Untested; };
        const auto failure = [&] { least = most = State::Fail; };
        switch (i % 12) {
        case 0: // dense and good
            noise();
            break;
        case 1: { // thin
            const auto every = static_cast<std::size_t>(2 + upTo(200));
            keepRows(file, [&](double, std::size_t k) { return k % every == 0; });
            nothing();
            break;
        }
        case 2: { // ends too soon
            const double end = 2 + upTo(static_cast<int>(top) - 8);
            keepRows(file, [&](double f, std::size_t) { return f <= end; });
            nothing();
            break;
        }
        case 3: { // begins too late
            const double begin = 2 + upTo(static_cast<int>(top) - 8);
            keepRows(file, [&](double f, std::size_t) { return f >= begin; });
            nothing();
            break;
        }
        case 4: { // a hole
            const double at = 5 + upTo(static_cast<int>(top) - 20);
            keepRows(file, [&](double f, std::size_t) { return f < at || f > at + 5; });
            nothing();
            break;
        }
        case 5: // a pair missing
            dropColumns(file,
                        (upTo(1) == 0 ? "IL " : "RL ") + pins[static_cast<std::size_t>(upTo(3))]);
            nothing();
            break;
        case 6: // a parameter missing
            dropColumns(file, upTo(1) == 0 ? "NEXT" : "RL");
            nothing();
            break;
        case 7: // one bad pair, however thin the rest
            file = bad[j];
            if (upTo(1) == 0) {
                const auto every = static_cast<std::size_t>(1 + upTo(20));
                keepRows(file, [&](double, std::size_t k) { return k % every == 0; });
            }
            failure();
            break;
        case 8: // of another run: much shorter
            for (auto& column : file.table->columns)
                if (column.header.starts_with("IL"))
                    for (auto& value : column.values)
                        value *= 0.1 + 0.04 * upTo(10);
            nothing();
            break;
        case 9: // far too lossy
            for (auto& column : file.table->columns)
                if (column.header.starts_with("IL"))
                    for (auto& value : column.values)
                        value *= 2.2 + 0.1 * upTo(10);
            failure();
            break;
        case 10: // next to no loss, so that nothing else would count
            for (auto& column : file.table->columns)
                for (auto& value : column.values)
                    value = column.header.starts_with("IL") ? 0.01 : 1;
            nothing();
            break;
        default: // one row, as a lazy hand writes it
            keepRows(file, [&](double, std::size_t k) { return k == 400; });
            nothing();
            break;
        }
        const auto f = judged(jobs[j], file);
        const State state = f.state();
        // Next to no loss brings bad ACR-F before the class: that is a fail, and no pass.
        const bool right =
            (state >= least && state <= most) || (i % 12 == 10 && state == State::Fail);
        EXPECT_TRUE(right) << "kind " << i % 12 << " of " << classes[j] << ": " << stateName(state)
                           << ": " << f.serviceReason << " / " << f.classReason;
        passes += state == State::Pass ? 1 : 0;
        fails += state == State::Fail ? 1 : 0;
        untested += state == State::Untested ? 1 : 0;
    }
    EXPECT_EQ(passes, (count + 11) / 12); // the good ones, every twelfth
    EXPECT_GT(fails, count * 3 / 20);
    EXPECT_GT(untested, count * 13 / 20);
}
