// The limits held against formulas written a second time, by hand, from the standards' text.
#include "core/shipped.h"
#include "core/units/render.h"
#include <cmath>
#include <functional>

using namespace burin;

namespace {

double root(double f) {
    return std::sqrt(f);
}
double lg(double f) {
    return std::log10(f);
}
double power10(double exponent) {
    return std::pow(10.0, exponent);
}

/// a ⊕ n × b: two voltages added.
double voltageSum(double a, double n, double b) {
    return -20 * lg(power10(-a / 20) + n * power10(-b / 20));
}

struct ClassRow {
    const char* name;
    double topMhz;
    std::function<double(double)> cable; ///< class formula, dB per 100 m
    double connectionDb;                 ///< k of k·√f
};

const std::vector<ClassRow>& classes() {
    static const std::vector<ClassRow> rows{
        {"D", 100, [](double f) { return 1.9108 * root(f) + 0.0222 * f + 0.2 / root(f); }, 0.04},
        {"E", 250, [](double f) { return 1.82 * root(f) + 0.0169 * f + 0.25 / root(f); }, 0.02},
        {"EA", 500, [](double f) { return 1.82 * root(f) + 0.0091 * f + 0.25 / root(f); }, 0.02},
        {"F", 600, [](double f) { return 1.8 * root(f) + 0.01 * f + 0.2 / root(f); }, 0.02},
        {"FA", 1000, [](double f) { return 1.8 * root(f) + 0.005 * f + 0.25 / root(f); }, 0.02}};
    return rows;
}

std::vector<double> grid(double topMhz) {
    std::vector<double> out;
    for (double f = 1; f < topMhz; f *= 1.07)
        out.push_back(f);
    out.push_back(topMhz);
    return out;
}

void hold(LimitSet set, const char* name, LinkKind link, Parameter parameter, double topMhz,
          const std::function<double(double)>& expected, double fromMhz = 1) {
    const Limit* limit = shipped().limit(set, name, link, parameter);
    ASSERT_NE(limit, nullptr) << name << " " << parameterKey(parameter);
    for (const double f : grid(topMhz)) {
        if (f < fromMhz)
            continue;
        const auto value = limit->at(f);
        ASSERT_TRUE(value) << name << " " << parameterKey(parameter) << " at " << f;
        ASSERT_NEAR(*value, expected(f), 1e-9)
            << name << " " << linkKindWords[link] << " " << parameterKey(parameter) << " at " << f;
    }
    EXPECT_FALSE(limit->at(limit->toMhz() * 1.01));
    EXPECT_FALSE(limit->source.empty());
}

constexpr auto channel = LinkKind::Channel;
constexpr auto permanent = LinkKind::Permanent;

} // namespace

TEST(IsoLimits, insertionLoss) {
    for (const auto& row : classes()) {
        hold(LimitSet::Iso, row.name, channel, Parameter::InsertionLoss, row.topMhz, [&](double f) {
            return std::max(4.0, 1.05 * row.cable(f) + 4 * row.connectionDb * root(f));
        });
        hold(LimitSet::Iso, row.name, permanent, Parameter::InsertionLoss, row.topMhz,
             [&](double f) {
                 return std::max(4.0, 0.9 * row.cable(f) + 3 * row.connectionDb * root(f));
             });
    }
    hold(LimitSet::Iso, "C", channel, Parameter::InsertionLoss, 16,
         [](double f) { return std::max(4.0, 1.05 * 3.23 * root(f) + 0.8); });
    hold(LimitSet::Iso, "C", permanent, Parameter::InsertionLoss, 16,
         [](double f) { return std::max(4.0, 0.9 * 3.23 * root(f) + 0.6); });
}

TEST(IsoLimits, nextAndItsPowerSum) {
    struct Row {
        const char* name;
        double top, pair, pairSlope, connection, connectionSlope, ceiling;
        Parameter parameter;
    };
    using P = Parameter;
    const Row rows[] = {{"D", 100, 65.3, 15, 83, 20, 60, P::Next},
                        {"D", 100, 62.3, 15, 80, 20, 57, P::PsNext},
                        {"E", 250, 74.3, 15, 94, 20, 65, P::Next},
                        {"E", 250, 72.3, 15, 90, 20, 62, P::PsNext},
                        {"EA", 500, 74.3, 15, 94, 20, 65, P::Next},
                        {"EA", 500, 72.3, 15, 90, 20, 62, P::PsNext},
                        {"F", 600, 102.4, 15, 102.4, 15, 65, P::Next},
                        {"F", 600, 99.4, 15, 99.4, 15, 62, P::PsNext},
                        {"FA", 1000, 105.4, 15, 116.3, 20, 65, P::Next},
                        {"FA", 1000, 102.4, 15, 113.3, 20, 62, P::PsNext}};
    for (const auto& r : rows) {
        const auto form = [&](double f, double n) {
            return std::min(r.ceiling, voltageSum(r.pair - r.pairSlope * lg(f), n,
                                                  r.connection - r.connectionSlope * lg(f)));
        };
        hold(LimitSet::Iso, r.name, channel, r.parameter, r.top,
             [&](double f) { return form(f, 2); });
        const bool ea = std::string(r.name) == "EA";
        const double top = std::min(r.top, 600.0); // FA ends there for the permanent link
        hold(LimitSet::Iso, r.name, permanent, r.parameter, top, [&](double f) {
            if (ea && f > 300)
                return r.parameter == P::Next ? 87.46 - 21.57 * lg(f) : 87.56 - 22.67 * lg(f);
            return form(f, 1);
        });
    }
}

TEST(IsoLimits, farEnd) {
    struct Row {
        const char* name;
        double top, pair, connection, connectionSlope, pairSum, connectionSum;
    };
    const Row rows[] = {{"D", 100, 63.8, 75.1, 20, 60.8, 72.1},
                        {"E", 250, 67.8, 83.1, 20, 64.8, 80.1},
                        {"EA", 500, 67.8, 83.1, 20, 64.8, 80.1},
                        {"F", 600, 94, 90, 15, 91, 87},
                        {"FA", 1000, 95.3, 103.9, 20, 92.3, 100.9}};
    for (const auto& r : rows)
        for (const auto& [link, n] : {std::pair{channel, 4.0}, std::pair{permanent, 3.0}}) {
            if (link == permanent && std::string(r.name) == "FA") {
                EXPECT_EQ(shipped().limit(LimitSet::Iso, "FA", link, Parameter::AcrF), nullptr);
                continue;
            }
            const double times = n;
            hold(LimitSet::Iso, r.name, link, Parameter::AcrF, r.top, [&](double f) {
                return std::min(65.0, voltageSum(r.pair - 20 * lg(f), times,
                                                 r.connection - r.connectionSlope * lg(f)));
            });
            hold(LimitSet::Iso, r.name, link, Parameter::PsAcrF, r.top, [&](double f) {
                return std::min(62.0, voltageSum(r.pairSum - 20 * lg(f), times,
                                                 r.connectionSum - r.connectionSlope * lg(f)));
            });
        }
}

TEST(IsoLimits, returnLoss) {
    for (const auto& [link, up] : {std::pair{channel, 0.0}, std::pair{permanent, 2.0}}) {
        const double more = up;
        hold(LimitSet::Iso, "D", link, Parameter::ReturnLoss, 100,
             [more](double f) { return more + (f <= 20 ? 17 : 30 - 10 * lg(f)); });
        const auto upper = [more](double f, double flatFrom, double flat) {
            if (f <= 10)
                return more + 19;
            if (f <= 40)
                return more + 24 - 5 * lg(f);
            return more + (f > flatFrom ? flat : 32 - 10 * lg(f));
        };
        hold(LimitSet::Iso, "E", link, Parameter::ReturnLoss, 250,
             [&](double f) { return upper(f, 1e9, 0); });
        hold(LimitSet::Iso, "EA", link, Parameter::ReturnLoss, 500,
             [&](double f) { return upper(f, 398.1, 6); });
        hold(LimitSet::Iso, "F", link, Parameter::ReturnLoss, 600,
             [&](double f) { return upper(f, 251.2, 8); });
        hold(LimitSet::Iso, "FA", link, Parameter::ReturnLoss, 1000,
             [&](double f) { return f > 631 ? more + 36 - 10 * lg(f) : upper(f, 251.2, 8); });
    }
}

TEST(IsoLimits, delaySkewAndResistance) {
    for (const auto& row : classes()) {
        hold(LimitSet::Iso, row.name, channel, Parameter::Delay, row.topMhz,
             [](double f) { return 0.534 + 0.036 / root(f) + 4 * 0.0025; });
        hold(LimitSet::Iso, row.name, permanent, Parameter::Delay, row.topMhz,
             [](double f) { return 0.9 * (0.534 + 0.036 / root(f)) + 3 * 0.0025; });
        const bool high = row.name[0] == 'F';
        hold(LimitSet::Iso, row.name, channel, Parameter::Skew, row.topMhz,
             [high](double) { return high ? 30 : 50; });
        hold(LimitSet::Iso, row.name, permanent, Parameter::Skew, row.topMhz,
             [high](double) { return high ? 26 : 44; });
        hold(LimitSet::Iso, row.name, channel, Parameter::LoopResistance, row.topMhz,
             [](double) { return 25; });
        hold(LimitSet::Iso, row.name, permanent, Parameter::LoopResistance, row.topMhz,
             [](double) { return 21; });
    }
    EXPECT_DOUBLE_EQ(
        *shipped().limit(LimitSet::Iso, "C", channel, Parameter::LoopResistance)->at(1), 40);
    EXPECT_DOUBLE_EQ(
        *shipped().limit(LimitSet::Iso, "C", permanent, Parameter::LoopResistance)->at(1), 34);
}

TEST(TiaLimits, insertionLossHasNoFloor) {
    const auto cat5e = [](double f) { return 1.967 * root(f) + 0.023 * f + 0.05 / root(f); };
    const auto cat6 = [](double f) { return 1.808 * root(f) + 0.017 * f + 0.2 / root(f); };
    const auto cat6a = [](double f) { return 1.82 * root(f) + 0.0091 * f + 0.25 / root(f); };
    using P = Parameter;
    hold(LimitSet::Tia, "cat5e", channel, P::InsertionLoss, 100,
         [&](double f) { return 1.02 * cat5e(f) + 4 * 0.04 * root(f); });
    hold(LimitSet::Tia, "cat5e", permanent, P::InsertionLoss, 100,
         [&](double f) { return 0.9 * cat5e(f) + 3 * 0.04 * root(f); });
    hold(LimitSet::Tia, "cat6", channel, P::InsertionLoss, 250,
         [&](double f) { return 1.02 * cat6(f) + 4 * 0.02 * root(f) + 0.0003 * f * root(f); });
    hold(LimitSet::Tia, "cat6", permanent, P::InsertionLoss, 250,
         [&](double f) { return 0.9 * cat6(f) + 3 * 0.02 * root(f) + 0.00015 * f * root(f); });
    hold(LimitSet::Tia, "cat6a", channel, P::InsertionLoss, 500,
         [&](double f) { return 1.05 * cat6a(f) + 4 * 0.02 * root(f); });
    hold(LimitSet::Tia, "cat6a", permanent, P::InsertionLoss, 500,
         [&](double f) { return 0.9 * cat6a(f) + 3 * 0.02 * root(f) + 0.00015 * f * root(f); });
}

TEST(TiaLimits, whereTheyPartFromIso) {
    using P = Parameter;
    hold(LimitSet::Tia, "cat6a", channel, P::Next, 500, [](double f) {
        return f > 330 ? 31 - 27.15 * lg(f / 330)
                       : std::min(65.0, voltageSum(74.3 - 15 * lg(f), 2, 94 - 20 * lg(f)));
    });
    hold(LimitSet::Tia, "cat6a", permanent, P::Next, 500, [](double f) {
        return f > 300 ? 34 - 33.13 * lg(f / 300)
                       : std::min(65.0, voltageSum(74.3 - 15 * lg(f), 1, 94 - 20 * lg(f)));
    });
    EXPECT_FALSE(shipped().limit(LimitSet::Tia, "cat6a", channel, P::PsNext)->at(400));
    EXPECT_FALSE(shipped().limit(LimitSet::Tia, "cat6a", permanent, P::PsNext)->at(310));
    for (const char* name : {"cat6", "cat6a"})
        hold(LimitSet::Tia, name, permanent, P::ReturnLoss, 40, [](double f) {
            if (f <= 3)
                return 21 + 4 * lg(f / 3);
            return f <= 10 ? 21 : 26 - 5 * lg(f);
        });
    // Elsewhere the two sets agree.
    const std::pair<const char*, const char*> same[] = {{"cat5e", "D"}, {"cat6", "E"}};
    for (const auto& [tia, iso] : same)
        for (const auto parameter : {P::Next, P::PsNext, P::AcrF, P::PsAcrF, P::Delay, P::Skew})
            for (const auto link : {channel, permanent}) {
                const Limit* a = shipped().limit(LimitSet::Tia, tia, link, parameter);
                const Limit* b = shipped().limit(LimitSet::Iso, iso, link, parameter);
                ASSERT_TRUE(a != nullptr && b != nullptr);
                for (const double f : grid(100))
                    EXPECT_DOUBLE_EQ(*a->at(f), *b->at(f)) << tia << parameterKey(parameter) << f;
            }
}

TEST(Limits, noneIsMadeUp) {
    for (const auto& limit : shipped().limits) {
        EXPECT_FALSE(limit.segments.empty());
        EXPECT_LE(limit.toMhz(), 1000);
    }
    for (const auto set : {LimitSet::Iso, LimitSet::Tia})
        EXPECT_EQ(className(set, Category::Cat8), "");
    EXPECT_EQ(shipped().limit(LimitSet::Tia, "cat7", channel, Parameter::Next), nullptr);
}

TEST(Limits, formulaWorkedOutGivesTheValue) {
    const Limit* loss = shipped().limit(LimitSet::Iso, "EA", channel, Parameter::InsertionLoss);
    EXPECT_EQ(render(loss->formulaAt(100), {}),
              "1.05·(1.82·√f + 0.0091·f + 0.25/√f) + 4·0.02·√f, at least 4");
    const Limit* rl = shipped().limit(LimitSet::Iso, "EA", channel, Parameter::ReturnLoss);
    EXPECT_EQ(render(rl->formulaAt(5), {}), "19");
    EXPECT_EQ(render(rl->formulaAt(20), {}), "24 − 5·log f");
    EXPECT_EQ(render(rl->formulaAt(450), {}), "6");
    EXPECT_NE(render(rl->formulaAt(900), {}).find("no limit"), std::string::npos);
}
