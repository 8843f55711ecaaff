#include "core/finding/feedline_finding.h"
#include "core/line/chain.h"
#include "core/shipped.h"
#include "says.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

FeedlineQuestion question(const char* cable, double lengthM, double mhz, double ratio) {
    FeedlineQuestion q;
    q.link.cable = shipped().cable(cable);
    q.link.stretches = {{lengthM, 20}};
    q.frequencyMhz = mhz;
    q.powerW = 25;
    q.loadRatio = ratio;
    return q;
}

} // namespace

TEST(Feedline, ByHand) {
    // 30 m of RG-58 class at 156 MHz: 0.3·(1.4125·√156 + 0.01843·156) = 6.155 dB; Γ of 3:1 is 0.5.
    const auto f = *findFeedline(question("coax-rg58", 30, 156, 3), shipped());
    EXPECT_NEAR(f.matchedLossDb, 6.155, 0.001);
    const double a = std::pow(10, 0.6155);
    EXPECT_NEAR(f.lossDb, 10 * std::log10((a * a - 0.25) / (a * 0.75)), 0.001);
    EXPECT_NEAR(f.powerAtAerialW, 25 * std::pow(10, -f.lossDb / 10), 1e-9);
    EXPECT_NEAR(f.radioRatio, (1 + 0.5 / a) / (1 - 0.5 / a), 0.001);
    EXPECT_NEAR(f.peakV, std::sqrt(2 * 25 * 50 * f.radioRatio), 1e-9);
}

TEST(Feedline, PerfectMatchLosesItsMatchedLoss) {
    const auto f = *findFeedline(question("coax-ll10", 28, 162, 1), shipped());
    EXPECT_NEAR(f.lossDb, f.matchedLossDb, 1e-12);
    EXPECT_NEAR(f.radioRatio, 1, 1e-12);
    EXPECT_NEAR(f.peakV, 50, 1e-9); // √(2·25·50)
}

// The formula against the power that the line model itself delivers into the load.
TEST(Feedline, StandingWaveLossAgreesWithTheLine) {
    for (const double ratio : {1.5, 2.0, 5.0}) {
        const auto q = question("coax-rg213", 40, 145, ratio);
        const auto f = *findFeedline(q, shipped());
        const Line line = lineOf(*q.link.cable, shipped().temperature);
        const Abcd m = abcdOf(LinePart{line, 40}, q.frequencyMhz);
        const Complex load = 50 * ratio;
        const Complex in = m.inputOhm(load);
        // Power in per |i1|² against power out: i1 = (C·ZL + D)·i2.
        const double share = load.real() / (std::norm(m.c * load + m.d) * in.real());
        // The formula takes the line's impedance as real; its reactance is worth a few hundredths.
        EXPECT_NEAR(-10 * std::log10(share), f.lossDb, 0.06) << ratio;
    }
}

TEST(Feedline, WithstandVouchesForPower) {
    auto q = question("coax-ll10", 28, 162, 2);
    q.withstandV = 1000;
    const auto f = *findFeedline(q, shipped());
    EXPECT_NEAR(*f.vouchedFullW, 1000 * 1000 / 100.0 / 2, 1e-6);
    EXPECT_NEAR(*f.vouchedHalvedW, *f.vouchedFullW / 4, 1e-6);
}

TEST(Feedline, ChangesSayWhatTheyAreWorth) {
    const auto q = question("coax-rg58", 30, 156, 1.5);
    const auto now = *findFeedline(q, shipped());
    const auto changes = feedlineChanges(q, shipped());
    ASSERT_GE(changes.size(), 5U);
    EXPECT_EQ(changes.front().cableId, "coax-half");
    for (const auto& c : changes)
        EXPECT_NEAR(10 * std::log10(1 + c.morePowerShare), c.savedDb, 1e-9) << c.what;
    EXPECT_NEAR(changes.front().powerAtAerialW,
                now.powerAtAerialW * (1 + changes.front().morePowerShare), 1e-9);
    EXPECT_EQ(changes.back().what, "a tenth shorter");
}

TEST(Feedline, AlongTheLineFromRadioToAerial) {
    const auto q = question("coax-rg58", 30, 156, 3);
    const auto f = *findFeedline(q, shipped());
    const auto along = alongFeedline(q, *findFeedline(q, shipped()), 31);
    ASSERT_EQ(along.size(), 31U);
    EXPECT_NEAR(along.front().powerW, 25, 1e-9);
    EXPECT_NEAR(along.front().ratio, f.radioRatio, 1e-9);
    EXPECT_NEAR(along.back().powerW, f.powerAtAerialW, 1e-9);
    EXPECT_NEAR(along.back().ratio, 3, 1e-9);
    EXPECT_DOUBLE_EQ(along.back().atM, 30);
}

TEST(Feedline, ARunAsksWhatItKnows) {
    Job job = oneRunJob("coax-ll10", "feedline", 28);
    EXPECT_FALSE(feedlineOf(job.runs[0], shipped()).has_value());
    job.runs[0].powerW = 25;
    job.runs[0].bandToMhz = 162.5;
    const auto q = feedlineOf(job.runs[0], shipped());
    ASSERT_TRUE(q.has_value());
    EXPECT_DOUBLE_EQ(q->loadRatio, 1);
    const auto f = *findFeedline(*q, shipped());
    EXPECT_NE(english(feedlineWorking(*q, f, shipped())).find("162.5 MHz"), std::string::npos);
    job.runs[0].serviceId = "tv";
    EXPECT_FALSE(feedlineOf(job.runs[0], shipped()).has_value());
}

TEST(Feedline, ImpossibleInputIsRefused) {
    EXPECT_FALSE(findFeedline(question("coax-ll10", 28, 162, 0.5), shipped()).has_value());
    EXPECT_FALSE(findFeedline(question("coax-ll10", 28, 0, 2), shipped()).has_value());
}
