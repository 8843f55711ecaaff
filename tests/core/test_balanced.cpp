#include "core/balanced/balanced.h"
#include "core/shipped.h"
#include "says.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

LinkParts channelOf(const char* cable, const char* connection, double lengthM, int connections) {
    LinkParts out;
    out.cable = shipped().cable(cable);
    out.stretches = {{lengthM, 20}};
    for (int i = 0; i < connections; ++i)
        out.connections.push_back(shipped().connection(connection));
    return out;
}

BalancedPrediction at(const LinkParts& link, int near, std::vector<double> f) {
    return predictBalanced(link, near, shipped(), f);
}

} // namespace

TEST(Balanced, HundredMetresOfCableAlone) {
    // No connections: the catalogue's own figures come back.
    auto p = at(channelOf("cat6-utp", "conn-cat6", 100, 0), 0, {100, 250});
    EXPECT_NEAR(p.nextDb[0], 44.3, 1e-9);
    EXPECT_NEAR(p.psNextDb[0], 42.3, 1e-9);
    EXPECT_NEAR(p.nextDb[1], 44.3 - 15 * std::log10(2.5), 1e-9);
    EXPECT_NEAR(p.acrFDb[0], 27.8, 1e-9);
    EXPECT_NEAR(p.acrNDb[0], 44.3 - p.lossDb[0], 1e-9);
    p = at(channelOf("cat5e-utp", "conn-cat5e", 100, 0), 0, {100});
    EXPECT_NEAR(p.nextDb[0], 35.3, 1e-9);
}

TEST(Balanced, ConnectionsAddInVoltage) {
    // Cat 5e channel at 100 MHz: 35.3 and two of 43 in voltage are 30.1 dB, class D's own limit.
    const auto p = at(channelOf("cat5e-utp", "conn-cat5e", 100, 4), 2, {100});
    EXPECT_NEAR(p.nextDb[0], 30.1, 0.05);
    // 23.8 and four of 35.1: 17.4, class D's again.
    EXPECT_NEAR(p.acrFDb[0], 17.4, 0.05);
    EXPECT_NEAR(voltageSumDb(6, 1, 6), 6 - 20 * std::log10(2), 1e-12);
}

TEST(Balanced, ShorterCableHasBetterNextAndWorseAcrF) {
    const auto p = at(channelOf("cat6-utp", "conn-cat6", 10, 0), 0, {1, 100});
    // At 1 MHz 10 m are 0.2 dB of loss: (1 − 10^−0.04)/(1 − 10^−0.4).
    const double loss100 = attenuationDbPer100m(*shipped().cable("cat6-utp"), 1);
    const double gain =
        -10 * std::log10((1 - std::pow(10, -0.02 * loss100)) / (1 - std::pow(10, -0.2 * loss100)));
    EXPECT_NEAR(p.nextDb[0], 74.3 + gain, 1e-9);
    EXPECT_GT(gain, 6);
    EXPECT_NEAR(p.acrFDb[1], 27.8 + 10, 1e-9);
}

TEST(Balanced, DelayLoopAndReturnLoss) {
    const auto p = at(channelOf("cat6a-utp", "conn-cat6a", 90, 4), 2, {1, 20, 500});
    // 90 m at 0.67 c0 and four connections of 2.5 ns; the line's own spread is under 1 %.
    EXPECT_NEAR(p.delayUs, 90 / (0.67 * 299.792458) + 0.01, 0.005);
    EXPECT_NEAR(p.loopOhm, 2 * 0.06678 * 90, 1e-9);
    EXPECT_NEAR(p.returnLossDb[0], 20, 1e-12);
    EXPECT_NEAR(p.returnLossDb[1], 25, 1e-12);
    EXPECT_NEAR(p.returnLossDb[2], 25 - 7 * std::log10(25), 1e-12);
}

TEST(Balanced, NoFigureIsSaidNotGuessed) {
    const auto p = at(channelOf("cat8-sftp", "conn-cat8", 24, 2), 1, {100});
    EXPECT_TRUE(p.nextDb.empty());
    EXPECT_NE(english(p.noCrosstalk).find("Cat 8"), std::string::npos);
    EXPECT_EQ(p.lossDb.size(), 1U);
}

TEST(Balanced, SkewOfTheFullChannelIsTheClassLimit) {
    // 100 m of cable at 45 ns (Cat 7: 25) and four connections of 1.25 ns make the channel's 50
    // ns (class F: 30); half the cable has half of it.
    const auto skew = [](const char* id, double lengthM, int connections) {
        LinkParts link;
        link.cable = shipped().cable(id);
        link.stretches = {{lengthM, 20}};
        for (const auto& c : shipped().connections)
            if (c.kind == CableKind::Balanced && c.category == link.cable->category)
                link.connections.assign(static_cast<std::size_t>(connections), &c);
        const std::vector<double> f{100};
        return predictBalanced(link, 1, shipped(), f).skewNs;
    };
    EXPECT_NEAR(*skew("cat6-utp", 100, 4), 50, 1e-9);
    EXPECT_NEAR(*skew("cat6a-utp", 50, 2), 25, 1e-9);
    EXPECT_NEAR(*skew("cat7-sftp", 100, 4), 30, 1e-9);
    EXPECT_FALSE(skew("cat3-utp", 50, 2).has_value()); // no figure in the catalogue
}
