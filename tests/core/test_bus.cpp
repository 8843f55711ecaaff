#include "core/bus/bus.h"
#include "core/bus/bus_json.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include "says.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

/// Controller and readers on 120 Ω, both ends closed with it; one megabit.
Bus bus(std::vector<double> lengths) {
    Bus out;
    out.bitRateKbit = 1000;
    out.nodes.resize(lengths.size() + 1);
    for (std::size_t i = 0; i < out.nodes.size(); ++i) {
        out.nodes[i].name = i == 0 ? "controller" : "reader " + std::to_string(i);
        out.nodes[i].line = plainLine(120, 0.66, 0);
        if (i > 0)
            out.nodes[i].lengthM = lengths[i - 1];
    }
    out.nodes.front().terminatorOhm = 120;
    out.nodes.back().terminatorOhm = 120;
    return out;
}

bool saysOf(const BusFinding& f, const char* what) {
    for (const auto& note : f.notes)
        if (english(note).find(what) != std::string::npos)
            return true;
    return false;
}

} // namespace

TEST(Bus, WellTerminatedSettlesAtOnce) {
    const auto f = *findBus(bus({40}));
    // 60 Ω of terminators and two loads of 12 kΩ behind 40 Ω: 3 V become 1.796 V.
    const double load = 1 / (1 / 60.0 + 2 / 12000.0);
    EXPECT_NEAR(f.points[1].finalV, 3 * load / (40 + load), 1e-3);
    EXPECT_TRUE(f.good);
    EXPECT_LT(f.points[1].overshootV, 0.03);
    EXPECT_NEAR(f.points[1].ringBackV, f.points[1].finalV,
                0.03); // an edge that does not fall again
    // The edge arrives after the line's delay, its middle half a rise later.
    const double delay = 40 / (0.66 * lightSpeedMPerS) * 1e9;
    std::size_t crossing = 0;
    while (f.waves[1].volt[crossing] < 0)
        ++crossing;
    EXPECT_NEAR(f.timeNs[crossing], delay + 10, 1.5);
    EXPECT_NEAR(f.waves[1].volt.front(), -f.points[1].finalV, 0.02);
    EXPECT_NEAR(f.waves[1].volt.back(), f.points[1].finalV, 0.02);
}

TEST(Bus, OpenEndsRingAndAreBlamed) {
    Bus b = bus({60, 40});
    b.bitRateKbit = 5000;
    b.nodes.front().terminatorOhm.reset();
    b.nodes.back().terminatorOhm.reset();
    const auto f = *findBus(b);
    EXPECT_FALSE(f.good);
    EXPECT_GT(f.points.back().overshootV, 0.8);
    EXPECT_LT(f.points.back().ringBackV, f.points.back().finalV - 0.3);
    EXPECT_TRUE(saysOf(f, "controller ends the bus without a terminator"));
    EXPECT_TRUE(saysOf(f, "reader 2 ends the bus without a terminator"));
    // Slow enough, the same bus works: without margin, and that is said.
    b.bitRateKbit = 9.6;
    const auto slow = *findBus(b);
    EXPECT_LT(slow.points.back().settleNs, 5e4);
    EXPECT_TRUE(saysOf(slow, "without margin"));
}

TEST(Bus, EachTroubleHasItsNote) {
    Bus b = bus({20, 20, 20});
    b.nodes[2].terminatorOhm = 120;
    b.nodes[1].stubLine = plainLine(120, 0.66, 0);
    b.nodes[1].stubM = 4;
    b.nodes[1].solidInScrews = true;
    b.nodes[3].line = plainLine(100, 0.66, 0);
    b.nodes[3].unitLoads = 33;
    const auto f = *findBus(b);
    EXPECT_TRUE(saysOf(f, "reader 2 has a terminator in the middle"));
    EXPECT_TRUE(saysOf(f, "reader 1 hangs on a stub of 4.0 m"));
    EXPECT_TRUE(saysOf(f, "screw terminals"));
    EXPECT_TRUE(saysOf(f, "of 100 Ω"));
    EXPECT_TRUE(saysOf(f, "35 unit loads") || saysOf(f, "36 unit loads"));
    EXPECT_TRUE(saysOf(f, "reader 3 ends in 120 Ω on a cable of 100 Ω"));
    EXPECT_LT(f.points[0].finalV, findBus(bus({20, 20, 20}))->points[0].finalV);
}

TEST(Bus, ThinLossyCableLosesVolts) {
    Bus b = bus({600});
    b.nodes[1].line = lineOf(*shipped().cable("cat5e-utp"), shipped().temperature);
    b.nodes[1].terminatorOhm = 100;
    b.nodes[0].terminatorOhm = 100;
    b.bitRateKbit = 9.6;
    const auto f = *findBus(b);
    // 600 m of loop: 101 Ω in series with 100 Ω.
    const double r = 600 * 2 * 0.08421;
    EXPECT_NEAR(f.points[1].finalV / f.points[0].finalV, 100 / (100 + r), 0.01);
    // 1.5 V are the driver's figure; a receiver wants 0.2 V, and as much again for noise.
    EXPECT_TRUE(f.good);
    EXPECT_LT(f.points[1].finalV, 1.5);
    b.nodes[1].lengthM = 4000;
    const auto far = *findBus(b);
    EXPECT_FALSE(far.points[1].good);
    EXPECT_NE(english(far.points[1].reasons[0]).find("as much again for noise"), std::string::npos)
        << far.points[1].reasons[0];
}

TEST(Bus, AThousandMetresWithTwoTerminatorsAreRight) {
    Bus b = bus({500, 500});
    b.bitRateKbit = 9.6;
    for (std::size_t i = 1; i < b.nodes.size(); ++i)
        b.nodes[i].line = lineOf(*shipped().cable("bus-120"), shipped().temperature);
    b.nodes.front().terminatorOhm = b.nodes.back().terminatorOhm = 120;
    const auto f = *findBus(b);
    EXPECT_TRUE(f.good) << english(f.points.back().reasons);
    // 106 Ω of wire and 120 at its end, 120 across the driver of 40 Ω and 3 V.
    const double r = 1000 * 2 * 0.05296;
    const double across = 1 / (1 / 120.0 + 1 / (r + 120));
    EXPECT_NEAR(f.points.back().finalV, 3 * across / (across + 40) * 120 / (r + 120), 0.02);
    // A third and a fourth terminator load the driver down, and that is said of the driver.
    Bus over = bus({20, 20, 20});
    for (auto& node : over.nodes)
        node.terminatorOhm = 60;
    over.nodes[1].terminatorOhm.reset();
    const auto loaded = *findBus(over);
    EXPECT_FALSE(loaded.points[0].good);
    EXPECT_NE(english(loaded.points[0].reasons[0]).find("loads the driver down"),
              std::string::npos);
}

TEST(Bus, ImpossibleBusesAreRefusedByName) {
    Bus b = bus({10, 10, 10, 10});
    b.nodes[1].terminatorOhm = b.nodes[2].terminatorOhm = 120;
    EXPECT_EQ(render(findBus(b).error().where, {}), "reader 2");
    EXPECT_NE(render(findBus(b).error().what, {}).find("second terminator"), std::string::npos);
    b = bus({10});
    b.nodes[1].lengthM = -1;
    EXPECT_EQ(render(findBus(b).error().where, {}), "reader 1");
    b = bus({10});
    b.nodes[1].line.impedanceOhm = 0;
    EXPECT_EQ(render(findBus(b).error().where, {}), "reader 1");
    EXPECT_FALSE(findBus(bus({})).has_value());
}

TEST(BusJson, ReadAndRefused) {
    const char* text = R"({"driver": "door 2", "bitRateKbit": 115.2, "nodes": [
        {"name": "controller", "terminatorOhm": 120},
        {"name": "door 1", "line": {"cable": "cat5e-utp"}, "lengthM": 30,
         "stub": {"impedanceOhm": 120, "velocity": 0.7, "lengthM": 1.5}},
        {"name": "door 2", "line": {"impedanceOhm": 120, "velocity": 0.7}, "lengthM": 20,
         "unitLoads": 0.25, "picofarad": 40}]})";
    const auto b = readBus(text, "b.json", shipped());
    ASSERT_TRUE(b.has_value()) << render(b.error(), {});
    EXPECT_EQ(b->driver, 2U);
    EXPECT_DOUBLE_EQ(b->nodes[1].stubM, 1.5);
    EXPECT_DOUBLE_EQ(b->nodes[2].unitLoads, 0.25);
    std::string other = text;
    other.replace(other.find("door 2"), 6, "door 9");
    EXPECT_NE(render(readBus(other, "b.json", shipped()).error(), {}).find("door 9"),
              std::string::npos);
    EXPECT_FALSE(readBus(R"({"driver":"a","nodes":[{"name":"a","ohm":1}]})", "b", shipped()));
}
