#include "core/shipped.h"
#include "says.h"
#include <cmath>

using namespace burin;

namespace {

ReachQuestion question(const char* cable, const char* service) {
    ReachQuestion q;
    q.link.cable = shipped().cable(cable);
    q.service = shipped().service(service);
    q.link.stretches = {{100, 20}};
    if (q.link.cable->kind == CableKind::Balanced) {
        q.link.cords.assign(2, {q.link.cable, 5, false});
        if (const Connection* c = usualConnection(shipped(), *q.link.cable))
            q.link.connections.assign(4, c);
    }
    return q;
}

Reach reachOf(const char* cable, const char* service, int neighbours = 0,
              BundleSchool school = BundleSchool::Guideline) {
    ReachQuestion q = question(cable, service);
    q.neighbours = neighbours;
    q.school = school;
    return findReach(q, shipped());
}

} // namespace

TEST(Attenuation, formulas) {
    // 1.808·10 + 0.017·100 + 0.2/10, worked by hand.
    EXPECT_NEAR(attenuationDbPer100m(*shipped().cable("cat6-utp"), 100), 19.80, 1e-9);
    EXPECT_NEAR(attenuationDbPer100m(*shipped().cable("coax-ll10"), 100), 0.4012 * 10 + 0.085,
                1e-9);
    EXPECT_NEAR(attenuationDbPer100m(*shipped().cable("coax-s59"), 1000),
                1.1418 + 0.7457 * std::sqrt(1000) + 1.83, 1e-9);
}

TEST(Attenuation, warmth) {
    const auto& rule = shipped().temperature;
    EXPECT_DOUBLE_EQ(warmthFactor(rule, Screen::None, -5), 1);
    EXPECT_NEAR(warmthFactor(rule, Screen::None, 40), 1.08, 1e-12);
    EXPECT_NEAR(warmthFactor(rule, Screen::None, 60), 1.20, 1e-12);
    EXPECT_NEAR(warmthFactor(rule, Screen::Overall, 60), 1.08, 1e-12);
    const Cable& coax = *shipped().cable("coax-rg58");
    const double copper = std::sqrt(1 + 0.00393 * 20);
    EXPECT_NEAR(attenuationDbPer100m(coax, rule, 100, 40), 14.125 * copper + 1.843, 1e-9);
    EXPECT_LT(attenuationDbPer100m(coax, rule, 100, 0), attenuationDbPer100m(coax, 100));
}

TEST(Loss, partsAddUp) {
    LinkParts link;
    link.cable = shipped().cable("cat6a-utp");
    link.stretches = {{40, 20}, {21.5, 31}};
    link.cords = {{link.cable, 3, false}, {link.cable, 3, true}};
    link.connections.assign(2, shipped().connection("conn-cat6a"));
    const double alpha = 1.82 * 10 + 0.91 + 0.025;
    const LossParts parts = linkLoss(link, shipped(), 100);
    EXPECT_NEAR(parts.cableDb, alpha * 0.615, 1e-9);
    EXPECT_NEAR(parts.warmthDb, alpha * 0.215 * 0.044, 1e-9);
    EXPECT_NEAR(parts.cordsDb, alpha * 0.03 * (1.2 + 1.5), 1e-9);
    EXPECT_NEAR(parts.connectionsDb, 2 * 0.2, 1e-9);
    EXPECT_NEAR(connectionLossDb(*shipped().connection("n"), 250), 0.05 * 0.5, 1e-12);
    EXPECT_NEAR(connectionLossDb(*shipped().connection("conn-cat3"), 10), 0.2, 1e-12);
}

TEST(Loss, lowestPart) {
    LinkParts link;
    link.cable = shipped().cable("cat6a-utp");
    link.cords = {{shipped().cable("cat5e-utp"), 3, false}};
    Sentence name;
    EXPECT_EQ(lowestCategory(link, &name), Category::Cat5e);
    EXPECT_EQ(name, "Cat 5e cord");
    link.cable = shipped().cable("coax-s6");
    EXPECT_FALSE(lowestCategory(link));
}

TEST(Loss, loopResistance) {
    LinkParts link;
    link.cable = shipped().cable("cat6-utp");
    link.stretches = {{100, 20}};
    EXPECT_NEAR(loopResistanceOhm(link, shipped().temperature), 13.356, 1e-9);
    link.stretches = {{100, 40}};
    EXPECT_NEAR(loopResistanceOhm(link, shipped().temperature), 13.356 * 1.0786, 1e-9);
}

TEST(Reach, everyServiceBindsByItsRule) {
    EXPECT_DOUBLE_EQ(*reachOf("cat6a-utp", "10g").reachM, 90);
    EXPECT_EQ(reachOf("cat6a-utp", "10g").boundBy, Bound::ChannelLength);
    EXPECT_DOUBLE_EQ(*reachOf("cat6-utp", "10g").channelM, 55);
    EXPECT_DOUBLE_EQ(*reachOf("cat6-utp", "10g", 5).channelM, 55);
    EXPECT_DOUBLE_EQ(*reachOf("cat6-utp", "10g", 6).channelM, 37);
    EXPECT_DOUBLE_EQ(*reachOf("cat6-utp", "10g", 2, BundleSchool::Cautious).channelM, 50);
    EXPECT_DOUBLE_EQ(*reachOf("cat6-utp", "10g", 3, BundleSchool::Cautious).channelM, 37);
    const Reach none = reachOf("cat6-utp", "10g", 30, BundleSchool::None);
    EXPECT_EQ(none.boundBy, Bound::InsertionLoss);
    EXPECT_TRUE(none.extrapolated);
    EXPECT_EQ(reachOf("cat5e-utp", "10g").boundBy, Bound::Category);
    // Cat 5e carries it by house practice: short, with few neighbours.
    EXPECT_DOUBLE_EQ(*reachOf("cat5e-utp", "5g", 2).channelM, 50);
    EXPECT_DOUBLE_EQ(*reachOf("cat5e-utp", "5g", 3).reachM, 0);
    EXPECT_DOUBLE_EQ(*reachOf("cat8-sftp", "40g").channelM, 30);
    EXPECT_DOUBLE_EQ(*reachOf("cat3-utp", "voice").channelM, 800);
    EXPECT_EQ(reachOf("cat6-utp", "t1").boundBy, Bound::Screening);
    EXPECT_EQ(reachOf("cat7-sftp", "t1").boundBy, Bound::InsertionLoss);
    EXPECT_FALSE(reachOf("cat6-utp", "rs485").reachM);
    EXPECT_EQ(reachOf("coax-s6", "1g").boundBy, Bound::CableKind);
    EXPECT_EQ(reachOf("coax-ll10", "tv").boundBy, Bound::Impedance);
    EXPECT_EQ(reachOf("coax-s6", "tv").boundBy, Bound::HeadLevelUnknown);
    EXPECT_EQ(reachOf("coax-ll10", "feedline").boundBy, Bound::LossBudgetUnknown);
}

TEST(Reach, isWhereTheLossMeetsTheLimit) {
    // Independent of the search: at the reach, loss and limit agree to a thousandth of a dB, and
    // a dense sweep finds no place where the loss is beyond the limit.
    ReachQuestion q = question("cat6a-utp", "10g");
    q.link.stretches = {{100, 45}};
    const Reach reach = findReach(q, shipped());
    ASSERT_EQ(reach.boundBy, Bound::InsertionLoss);
    q.link.stretches = {{*reach.reachM, 45}};
    const Limit* limit =
        shipped().limit(LimitSet::Iso, "EA", LinkKind::Channel, Parameter::InsertionLoss);
    EXPECT_NEAR(linkLoss(q.link, shipped(), *reach.atMhz).totalDb(), *limit->at(*reach.atMhz),
                1e-3);
    for (double f = 1; f <= 500; f += 0.01)
        ASSERT_LE(linkLoss(q.link, shipped(), f).totalDb(), *limit->at(f) + 1e-3) << f;
}

TEST(Reach, levelWindowHasTwoEnds) {
    ReachQuestion q = question("coax-s6", "sat-if");
    q.headLevel = 80;
    const Reach reach = findReach(q, shipped());
    const double low = attenuationDbPer100m(*q.link.cable, 950) / 100;
    const double high = attenuationDbPer100m(*q.link.cable, 2150) / 100;
    EXPECT_NEAR(*reach.reachM, (80 - 47) / high, 1e-6);
    EXPECT_NEAR(reach.leastM, (80 - 77) / low, 1e-6);
    EXPECT_FALSE(reach.holds(reach.leastM - 1));
    EXPECT_TRUE(reach.holds(reach.leastM + 1));
    const Working working = reachWorking(q, shipped(), reach);
    EXPECT_NE(english(working).find("IEC 60728-1"), std::string::npos);
}

TEST(Reach, feedlineBudget) {
    ReachQuestion q = question("coax-ll10", "feedline");
    q.lossBudgetDb = 2;
    q.bandFromMhz = 156;
    q.bandToMhz = 162;
    const Reach reach = findReach(q, shipped());
    EXPECT_NEAR(*reach.reachM, 200 / attenuationDbPer100m(*q.link.cable, 162), 1e-6);
    EXPECT_NEAR(*reach.atMhz, 162, 1e-9);
}

TEST(Fit, findsWhatMadeThePoints) {
    std::vector<DatasheetPoint> points;
    for (const double f : {10.0, 100.0, 400.0, 1000.0, 2000.0})
        points.push_back({f, 0.46 + 0.6428 * std::sqrt(f) + 0.00073 * f});
    const auto fit = fitAttenuation(points);
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->k0Db, 0.46, 1e-6);
    EXPECT_NEAR(fit->k1Db, 0.6428, 1e-8);
    EXPECT_NEAR(fit->k2Db, 0.00073, 1e-9);
    EXPECT_LT(fit->worstRelativeError, 1e-9);
}

TEST(Fit, neverBelowZeroAndShowsResidual) {
    // A flat cable would want a negative k1: it must come out as k0 alone, with the error shown.
    const auto fit = fitAttenuation({{10, 5.0}, {100, 5.0}, {1000, 4.0}});
    ASSERT_TRUE(fit);
    EXPECT_GE(fit->k0Db, 0);
    EXPECT_EQ(fit->k1Db, 0);
    EXPECT_EQ(fit->k2Db, 0);
    EXPECT_GT(fit->worstRelativeError, 0.05);
    EXPECT_FALSE(fitAttenuation({{100, 5}}));
    EXPECT_FALSE(fitAttenuation({{100, 5}, {100, 6}}));
    EXPECT_FALSE(fitAttenuation({{100, 5}, {200, -1}}));
}
