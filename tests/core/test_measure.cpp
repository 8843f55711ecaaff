#include "core/measure/wire_map.h"
#include "core/shipped.h"
#include <cmath>
#include <numbers>

using namespace burin;
using Complex = std::complex<double>;

namespace {

Trace flat(Parameter parameter, const char* pair, double value, double from = 1, double to = 500) {
    Trace out{parameter, pair, false, {}, {}, "dB"};
    for (double f = from; f <= to; f += 1) {
        out.frequencyMhz.push_back(f);
        out.value.push_back(value);
    }
    return out;
}

JudgeLine lossLine(double limitDb) {
    Limit limit;
    limit.unit = "dB";
    limit.segments.push_back({1, 100, ConstantForm{limitDb}});
    return {limit, true, alone(asText("test"))};
}

State lossState(double measured) {
    return judge({flat(Parameter::InsertionLoss, "", measured, 50, 50)}, {lossLine(20)}, {},
                 ForInformation::Nothing)
        .front()
        .state;
}

} // namespace

TEST(Judge, marginalInsideTheAccuracy) {
    // Accuracy of loss: 0.5 dB + 2 % of the reading, about 0.9 dB at 20 dB.
    EXPECT_EQ(lossState(19.0), State::Pass);
    EXPECT_EQ(lossState(19.2), State::MarginalGood);
    EXPECT_EQ(lossState(20.0), State::MarginalGood);
    EXPECT_EQ(lossState(20.5), State::MarginalBad);
    EXPECT_EQ(lossState(21.0), State::Fail);
}

TEST(Judge, accuracyOfCrosstalkRises) {
    const Accuracy a;
    EXPECT_DOUBLE_EQ(accuracyOf(a, Parameter::Next, 40, 50, 500), 1.5);
    EXPECT_DOUBLE_EQ(accuracyOf(a, Parameter::Next, 40, 300, 500), 2.25);
    EXPECT_DOUBLE_EQ(accuracyOf(a, Parameter::AcrF, 40, 500, 500), 3);
    EXPECT_DOUBLE_EQ(accuracyOf(a, Parameter::InsertionLoss, 20, 1, 1), 0.9);
    EXPECT_DOUBLE_EQ(accuracyOf(a, Parameter::LoopResistance, 10, 1, 1), 0.4);
}

TEST(Judge, worstOfAllTracesWithItsPlace) {
    auto a = flat(Parameter::InsertionLoss, "1-2", 10, 1, 100);
    auto b = flat(Parameter::InsertionLoss, "3-6", 10, 1, 100);
    b.value[41] = 15;
    const auto result = judge({a, b}, {lossLine(20)}, {}, ForInformation::Nothing).front();
    EXPECT_DOUBLE_EQ(result.marginWorst, 5);
    EXPECT_DOUBLE_EQ(result.atMhz, 42);
    EXPECT_EQ(result.pair, "3-6");
    EXPECT_EQ(result.points, 200);
    EXPECT_EQ(result.state, State::Pass);
}

TEST(Judge, littleLossLeavesReturnLossForInformation) {
    const auto lines = classLines(shipped(), LimitSet::Iso, "EA", LinkKind::Channel, 500);
    auto loss = flat(Parameter::InsertionLoss, "1-2", 2.9);
    const auto rl = flat(Parameter::ReturnLoss, "1-2", 1);
    const auto find = [&](const std::vector<Trace>& traces) {
        for (auto& r : judge(traces, lines, {}, ForInformation::ReturnLossAndNext))
            if (r.parameter == Parameter::ReturnLoss)
                return r;
        return ParameterResult{};
    };
    EXPECT_EQ(find({loss, rl}).points, 0);
    EXPECT_EQ(find({loss, rl}).informative, 500);
    for (double& v : loss.value)
        v = 3.1;
    EXPECT_EQ(find({loss, rl}).points, 500);
    EXPECT_EQ(find({loss, rl}).state, State::Fail);
}

TEST(Judge, classLinesEndAtTheService) {
    const auto lines = classLines(shipped(), LimitSet::Iso, "D", LinkKind::Channel, 80);
    for (const auto& line : lines)
        EXPECT_LE(line.limit.toMhz(), 80) << parameterKey(line.limit.parameter);
    EXPECT_FALSE(lines.front().limit.at(90));
}

TEST(WireMap, readsEveryFault) {
    const auto finding = [](const char* text) {
        const auto map = parseWireMap(text);
        EXPECT_TRUE(map) << text;
        return readWireMap(map ? *map : WireMap{});
    };
    EXPECT_TRUE(finding("12345678").whole());
    EXPECT_EQ(finding("12345678 s").shieldWhole, true);
    EXPECT_EQ(finding("12345678-").shieldWhole, false);
    const auto open = finding("1234-678");
    EXPECT_EQ(open.firstFault(), "5 open");
    EXPECT_FALSE(open.wholeFor({"4-5"}));
    EXPECT_TRUE(open.wholeFor({"1-2", "3-6"}));
    EXPECT_EQ(finding("21345678").firstFault(), "1 and 2 changed over");
    const auto crossed = finding("36145278");
    EXPECT_EQ(crossed.pairs[1].state, PairState::Crossed);
    EXPECT_EQ(crossed.pairs[2].state, PairState::Crossed);
    EXPECT_EQ(finding("aa345678").firstFault(), "1 and 2 touch");
    EXPECT_EQ(finding("123--678").firstFault(), "4 and 5 open");
}

TEST(WireMap, refusedWithColumn) {
    for (const char* text :
         {"", "1234567", "12345679", "11345678", "12345678 x", "a2345678", "12345678 s s"})
        EXPECT_FALSE(parseWireMap(text)) << text;
    EXPECT_EQ(parseWireMap("12345x78").error().column, 6);
    for (const char* text : {"1234-678 s", "aa34bb78", "36145278 -"})
        EXPECT_EQ(wireMapText(*parseWireMap(text)), text);
}

TEST(Columns, namesAreUnderstood) {
    const auto is = [](const char* header, Parameter parameter, const char* pair,
                       bool farEnd = false) {
        const auto m = columnMeaning(header);
        return m && m->parameter == parameter && m->pair == pair && m->farEnd == farEnd;
    };
    EXPECT_TRUE(is("IL 1-2 (dB)", Parameter::InsertionLoss, "1-2"));
    EXPECT_TRUE(is("Insertion loss 36", Parameter::InsertionLoss, "3-6"));
    EXPECT_TRUE(is("NEXT 1-2/3-6 remote", Parameter::Next, "1-2/3-6", true));
    EXPECT_TRUE(is("ps-next 4-5", Parameter::PsNext, "4-5"));
    EXPECT_TRUE(is("ACR-F 12-36", Parameter::AcrF, "1-2/3-6"));
    EXPECT_TRUE(is("Return_Loss_78", Parameter::ReturnLoss, "7-8"));
    EXPECT_TRUE(is("RL", Parameter::ReturnLoss, ""));
    EXPECT_FALSE(columnMeaning("remarks"));
    EXPECT_FALSE(columnMeaning("filler 12"));
    for (const char* header : {"NEXT 1-2/3-6 far", "PS ACR-F 4-5", "Delay 7-8"})
        EXPECT_EQ(columnWords(*columnMeaning(header)), header);
}

TEST(Sweep, differentialOfTwoCoupledConductors) {
    // A pair built from its modes: differential through d, common through c; then each single-ended
    // value is half their sum or difference, and differential() must find d again.
    const Complex d(0.3, -0.4);
    const Complex r(0.05, 0.02);
    for (const bool sideBySide : {false, true}) {
        NetworkSweep s;
        s.ports = 4;
        s.frequencyMhz = {100};
        s.referenceOhm.assign(4, 50);
        s.s.assign(16, 0);
        const int near[2] = {0, sideBySide ? 2 : 1};
        const int far[2] = {sideBySide ? 1 : 2, 3};
        const auto set = [&](int to, int from, Complex v) {
            s.s[static_cast<std::size_t>(to * 4 + from)] = v;
        };
        const Complex c(0.15, -0.2); // of the sign of d: straight through is the stronger
        for (int i = 0; i < 2; ++i)
            for (int j = 0; j < 2; ++j) {
                const double sign = i == j ? 1 : -1;
                set(far[i], near[j], (c + sign * d) / 2.0);
                set(near[i], far[j], (c + sign * d) / 2.0);
                set(near[i], near[j], sign * r / 2.0);
                set(far[i], far[j], sign * r / 2.0);
            }
        const auto two = differential(s, sideBySide);
        ASSERT_TRUE(two);
        EXPECT_NEAR(std::abs(two->at(0, 1, 0) - d), 0, 1e-12);
        EXPECT_NEAR(std::abs(two->at(0, 0, 0) - r), 0, 1e-12);
        EXPECT_DOUBLE_EQ(two->referenceOhm[0], 100);
        EXPECT_EQ(looksSideBySide(s), sideBySide);
    }
}

TEST(Sweep, renormalisedResistor) {
    // A load of 75 Ω reflects 0.2 against 50 Ω and nothing against 75 Ω; a 25 Ω series resistor is
    // S11 = R/(R + 2Z), S21 = 2Z/(R + 2Z) whatever the reference.
    NetworkSweep load{1, {1}, {0.2}, {50}};
    EXPECT_NEAR(std::abs(renormalised(load, 75).s[0]), 0, 1e-12);
    const auto series = [](double z) {
        const double n = 25 + 2 * z;
        return NetworkSweep{2, {1}, {25 / n, 2 * z / n, 2 * z / n, 25 / n}, {z, z}};
    };
    const auto got = renormalised(series(50), 75);
    for (std::size_t i = 0; i < 4; ++i)
        EXPECT_NEAR(std::abs(got.s[i] - series(75).s[i]), 0, 1e-12);
}

TEST(Sweep, phaseDelayOfALine) {
    std::vector<double> f;
    std::vector<Complex> s;
    constexpr double delayUs = 0.437;
    for (double x = 1; x <= 200; x += 0.5) {
        f.push_back(x);
        s.push_back(std::polar(0.5, -2 * std::numbers::pi * x * delayUs));
    }
    const auto delay = phaseDelayUs(f, s);
    ASSERT_EQ(delay.size(), f.size());
    for (const double v : delay)
        EXPECT_NEAR(v, delayUs, 1e-9);
    EXPECT_TRUE(phaseDelayUs({1, 3, 5}, {1, 1, 1}).empty());
}

TEST(Traces, powerSumAndAcr) {
    MeasuredTable table;
    table.frequencyMhz = {10, 20};
    const auto add = [&](const char* name, double v) {
        table.columns.push_back({name, "dB", {v, v}});
    };
    add("NEXT 1-2/3-6", 40);
    add("NEXT 1-2/4-5", 40);
    add("NEXT 1-2/7-8", 40);
    add("IL 1-2", 5);
    add("IL 3-6", 7);
    const auto traces = tracesOf({"csv", {}, table, {}}, {}, CableKind::Balanced, 100);
    ASSERT_TRUE(traces);
    double powerSum = 0;
    double acr = 0;
    for (const auto& t : traces->traces) {
        if (t.parameter == Parameter::PsNext && t.pair == "1-2")
            powerSum = t.value[0];
        if (t.parameter == Parameter::AcrN && t.pair == "1-2/3-6")
            acr = t.value[0];
    }
    EXPECT_NEAR(powerSum, 40 - 10 * std::log10(3.0), 1e-9);
    EXPECT_DOUBLE_EQ(acr, 33);
    NetworkSweep three{3, {1}, std::vector<Complex>(9), {50, 50, 50}};
    EXPECT_FALSE(tracesOf({"touchstone", three, {}, {}}, {}, CableKind::Coax, 50));
    NetworkSweep odd{2, {1}, std::vector<Complex>(4), {50, 50}, 5};
    EXPECT_FALSE(tracesOf({"touchstone", odd, {}, {}}, {}, CableKind::Coax, 50));
}
