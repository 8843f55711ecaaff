#include "core/shipped.h"
#include "core/supply/supply.h"
#include "core/units/render.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

/// One load at the end of `lengthM` of wire of `ohmPerKm` a conductor.
SupplyLine oneLoad(double supplyV, double ohmPerKm, double lengthM, SupplyLoad load) {
    SupplyLine line;
    line.supplyV = supplyV;
    line.loopOhmPerM = 2 * ohmPerKm / 1000;
    load.name = "reader";
    load.atM = lengthM;
    line.loads = {load};
    return line;
}

SupplyLoad current(double ampere) {
    SupplyLoad out;
    out.ampere = ampere;
    return out;
}
SupplyLoad power(double watt) {
    SupplyLoad out;
    out.watt = watt;
    return out;
}

} // namespace

TEST(Supply, ConstantCurrentCheckValues) {
    // 22 AWG is 52.96 Ω/km, 24 AWG 84.21.
    auto line = oneLoad(13.6, 52.96, 90, current(0.25));
    EXPECT_NEAR(findSupply(line)->points[0].volt, 11.22, 0.005);
    line = oneLoad(13.6, 84.21, 90, current(0.25));
    line.pairs = 2;
    EXPECT_NEAR(findSupply(line)->points[0].volt, 11.71, 0.006);
    line.toleranceShare = 0.05;
    EXPECT_NEAR(findSupply(line)->points[0].volt, 11.71 - 0.68, 0.006);
}

TEST(Supply, ConstantPowerCheckValues) {
    auto line = oneLoad(50, 125 / 2.0, 100, power(25.5)); // 12.5 Ω
    auto finding = *findSupply(line);
    EXPECT_TRUE(finding.delivered);
    EXPECT_NEAR(finding.points[0].volt, 42.5, 1e-6);
    EXPECT_NEAR(finding.supplyAmpere, 0.600, 1e-6);
    EXPECT_NEAR(finding.lostWatt, 0.6 * 0.6 * 12.5, 1e-5);
    line = oneLoad(50, 125, 100, power(25.5)); // 25 Ω: no real root
    finding = *findSupply(line);
    EXPECT_FALSE(finding.delivered);
    EXPECT_FALSE(finding.points[0].enough);
}

TEST(Supply, AChainCarriesAllThatIsDownstream) {
    SupplyLine line;
    line.supplyV = 12;
    line.loopOhmPerM = 0.1;
    for (const double at : {30.0, 10.0, 20.0}) { // in no order
        SupplyLoad load = current(0.1);
        load.name = std::to_string(at);
        load.atM = at;
        load.leastV = 10.5;
        line.loads.push_back(load);
    }
    // 10 m of 1 Ω each: 0.3 A, 0.2 A, 0.1 A.
    const auto finding = *findSupply(line);
    EXPECT_NEAR(finding.points[1].volt, 11.7, 1e-12);
    EXPECT_NEAR(finding.points[2].volt, 11.5, 1e-12);
    EXPECT_NEAR(finding.points[0].volt, 11.4, 1e-12);
    EXPECT_NEAR(finding.lostWatt, 0.09 + 0.04 + 0.01, 1e-9);
}

TEST(Supply, MixedLoadsBalanceTheirPower) {
    SupplyLine line;
    line.supplyV = 24;
    line.loopOhmPerM = 0.08;
    SupplyLoad a = power(3);
    a.atM = 40;
    SupplyLoad b = current(0.2);
    b.atM = 90;
    line.loads = {a, b};
    const auto f = *findSupply(line);
    ASSERT_TRUE(f.delivered);
    EXPECT_NEAR(f.points[0].volt * f.points[0].ampere, 3, 1e-8);
    EXPECT_NEAR(24 - f.points[0].volt, 40 * 0.08 * (0.2 + f.points[0].ampere), 1e-8);
    EXPECT_NEAR(f.points[0].volt - f.points[1].volt, 50 * 0.08 * 0.2, 1e-8);
}

TEST(Supply, LongestRunEndsAtTheWindow) {
    SupplyLoad load = current(0.25);
    load.leastV = 10.8;
    auto line = oneLoad(13.6, 52.96, 0, load);
    line.toleranceShare = 0.05;
    const double longest = *longestSupplyM(line, line.loads[0]);
    line.loads[0].atM = longest;
    EXPECT_NEAR(findSupply(line)->points[0].volt, 10.8, 1e-9);
    // Constant power cannot be had beyond half the volts, whatever the window says.
    SupplyLoad hungry = power(10);
    hungry.leastV = 1;
    auto other = oneLoad(12, 50, 0, hungry);
    const double nose = *longestSupplyM(other, other.loads[0]);
    EXPECT_NEAR(nose * 0.1, 12 * 12 / (4 * 10.0), 1e-9);
    other.loads[0].atM = nose * 1.01;
    EXPECT_FALSE(findSupply(other)->delivered);
    other.loads[0].atM = nose * 0.98;
    EXPECT_TRUE(findSupply(other)->delivered);
}

TEST(Supply, ImpossibleInputIsRefusedByName) {
    auto line = oneLoad(12, 50, -3, current(0.1));
    EXPECT_EQ(render(findSupply(line).error().where, {}), "reader");
    line = oneLoad(12, 50, 3, {});
    EXPECT_NE(render(findSupply(line).error().what, {}).find("neither"), std::string::npos);
    line.supplyV = 0;
    EXPECT_EQ(render(findSupply(line).error().where, {}), "supply");
}

TEST(Supply, PoweredTypesDeliverWhatTheyPromise) {
    // At the standard's worst loop and least volts each type still has its watts at the device.
    for (int type = 1; type <= 4; ++type) {
        const PoweredType t = *poweredType(type);
        SupplyLine line;
        line.supplyV = t.leastSourceV;
        line.loopOhmPerM = t.pairSetLoopOhm / (t.pairs == 4 ? 2 : 1) / 100;
        SupplyLoad load = power(t.deviceW);
        load.atM = 100;
        line.loads = {load};
        const auto finding = *findSupply(line);
        EXPECT_TRUE(finding.delivered) << type;
        // What the source sends then is its rating, to the half watt the standard rounds by.
        EXPECT_NEAR(finding.supplyAmpere * t.leastSourceV, t.sourceW, 0.5) << type;
    }
    EXPECT_FALSE(poweredType(5).has_value());
    EXPECT_NEAR(poweredLoopOhm(*poweredType(2), 16.84), 8.42, 1e-9);
    EXPECT_NEAR(poweredLoopOhm(*poweredType(4), 16.84), 4.21, 1e-9);
}

TEST(Supply, HeadThroughSteelFailsWhereCopperHolds) {
    // Series 6, 60 m: steel 92 + 30 Ω/km, copper 21 + 30; 400 mA and one splitter in the way.
    const auto steel = findHeadSupply(0.122 * 60, 0.4, 1);
    EXPECT_NEAR(steel.lowV, 13 - 2.928 - 0.1, 1e-9);
    EXPECT_FALSE(steel.works);
    EXPECT_FALSE(steel.choosesHigh);
    const auto copper = findHeadSupply(0.051 * 60, 0.4, 1);
    EXPECT_TRUE(copper.works);
    EXPECT_TRUE(copper.choosesHigh);
    EXPECT_TRUE(copper.choosesLow);
}

TEST(Warmth, ByHand) {
    // 24 cables of 7.5 mm, 1 W/m each, free air: D = 42.25 mm; 24/(π·0.04225·8) + 24/(4π·0.2).
    EXPECT_NEAR(bundleRiseC(24, 1, 7.5, Surroundings::FreeAir), 22.60 + 9.55, 0.01);
    EXPECT_GT(bundleRiseC(24, 1, 7.5, Surroundings::Insulation),
              bundleRiseC(24, 1, 7.5, Surroundings::Conduit));
    // 1 A over four pairs: eight wires of a quarter each.
    EXPECT_NEAR(cableHeatWattPerM(1, 4, 0.06678), 8 * 0.0625 * 0.06678, 1e-12);
    EXPECT_NEAR(cableHeatWattPerM(0.6, 2, 0.06678), 4 * 0.09 * 0.06678, 1e-12);
}

TEST(Warmth, SettlesWithItsOwnResistance) {
    WarmthQuestion q;
    q.cables = 48;
    q.ampere = 1.73;
    q.conductorOhmPerM = 0.08421;
    q.cableDiameterMm = 5.2;
    q.ambientC = 55;
    const auto f = findWarmth(q);
    const double warmOhm = 0.08421 * (1 + 0.00393 * (f.cableC - 20));
    EXPECT_NEAR(f.wattPerM, cableHeatWattPerM(1.73, 4, warmOhm), 1e-9);
    EXPECT_NEAR(f.riseC, bundleRiseC(48, f.wattPerM, 5.2, q.around), 1e-6);
    EXPECT_NEAR(f.cableC, 55 + f.riseC, 1e-6);
    EXPECT_TRUE(f.overRating); // 60 °C
    q.cables = 6;
    EXPECT_FALSE(findWarmth(q).overRating);
    q.ampere = 50; // runs away
    EXPECT_TRUE(findWarmth(q).overRating);
}
