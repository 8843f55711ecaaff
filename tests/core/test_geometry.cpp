#include "core/site/geometry.h"
#include <cmath>
#include <gtest/gtest.h>
#include <random>

using namespace burin;

namespace {

class Random {
public:
    PlanPoint point() { return {along_(engine_), along_(engine_)}; }
    double number(double from, double to) {
        return std::uniform_real_distribution<double>(from, to)(engine_);
    }

private:
    std::mt19937 engine_{20261124};
    std::uniform_real_distribution<double> along_{0, 10};
};

/// Least distance between two segments by trying many points of both.
double leastByTrying(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c, const PlanPoint& d,
                     double gap) {
    double least = 1e300;
    for (int i = 0; i <= 400; ++i) {
        const PlanPoint p = between(a, b, i / 400.0);
        const double away = distanceM(p, between(c, d, nearestShare(p, c, d)));
        least = std::min(least, std::hypot(away, gap));
    }
    return least;
}

} // namespace

TEST(Geometry, NearestShareIsNearerThanAnyOther) {
    Random random;
    for (int i = 0; i < 500; ++i) {
        const PlanPoint a = random.point();
        const PlanPoint b = random.point();
        const PlanPoint p = random.point();
        const double best = distanceM(p, between(a, b, nearestShare(p, a, b)));
        for (int k = 0; k <= 50; ++k)
            ASSERT_LE(best, distanceM(p, between(a, b, k / 50.0)) + 1e-12);
    }
    EXPECT_EQ(nearestShare({3, 3}, {1, 1}, {1, 1}), 0); // a piece without length
}

TEST(Geometry, CrossingLiesOnBothAndIsMissedByNeither) {
    Random random;
    int met = 0;
    for (int i = 0; i < 2000; ++i) {
        const PlanPoint a = random.point();
        const PlanPoint b = random.point();
        const PlanPoint c = random.point();
        const PlanPoint d = random.point();
        const auto crossing = crossingOf(a, b, c, d);
        // Apart on which side: signs of the areas, another way to the same answer.
        const auto side = [](const PlanPoint& p, const PlanPoint& q, const PlanPoint& r) {
            return (q.xM - p.xM) * (r.yM - p.yM) - (q.yM - p.yM) * (r.xM - p.xM);
        };
        const bool cross = side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
        ASSERT_EQ(crossing.has_value(), cross);
        if (!crossing)
            continue;
        ++met;
        ASSERT_LT(distanceM(between(a, b, crossing->shareA), between(c, d, crossing->shareB)),
                  1e-9);
    }
    EXPECT_GT(met, 200);
    EXPECT_FALSE(crossingOf({0, 0}, {4, 0}, {1, 0}, {3, 0}).has_value()); // in one line
    EXPECT_TRUE(crossingOf({0, 0}, {4, 0}, {4, 0}, {4, 3}).has_value());  // touching
}

TEST(Geometry, SegmentDistanceAndItsNearPart) {
    Random random;
    int near = 0;
    for (int i = 0; i < 1000; ++i) {
        const PlanPoint a = random.point();
        const PlanPoint b = random.point();
        const PlanPoint c = random.point();
        const PlanPoint d = random.point();
        const double gap = random.number(0, 2);
        const double within = random.number(0.5, 4);
        const double length = distanceM(a, b);
        const double least = leastByTrying(a, b, c, d, gap);
        ASSERT_NEAR(segmentDistanceM(a, b, c, d, gap), least, length / 400 + 1e-9);
        const auto part = nearPart(a, b, c, d, gap, within);
        if (!part) {
            ASSERT_GT(least, within - length / 400 - 1e-9);
            continue;
        }
        ++near;
        ASSERT_NEAR(part->leastM, least, length / 400 + 1e-9);
        // Within the part everything is near, just outside nothing is.
        const auto away = [&](double share) {
            const PlanPoint p = between(a, b, share);
            return std::hypot(distanceM(p, between(c, d, nearestShare(p, c, d))), gap);
        };
        for (int k = 0; k <= 20; ++k)
            ASSERT_LE(
                away(part->fromShare + (part->toShare - part->fromShare) * (0.001 + k * 0.0499)),
                within + 1e-6);
        ASSERT_TRUE(part->fromShare <= 0.01 || away(part->fromShare - 0.01) > within);
        ASSERT_TRUE(part->toShare >= 0.99 || away(part->toShare + 0.01) > within);
    }
    EXPECT_GT(near, 300);
}

TEST(Geometry, AlongALineThereAndBack) {
    Random random;
    for (int i = 0; i < 200; ++i) {
        std::vector<PlanPoint> line;
        for (int k = 0; k < 5; ++k)
            line.push_back({k * 3.0, random.number(0, 10)}); // never doubles back
        const double length = lengthOfM(line);
        const double at = random.number(0, length);
        double away = 1;
        ASSERT_NEAR(nearestAlongM(line, pointAt(line, at), &away), at, 1e-9);
        ASSERT_NEAR(away, 0, 1e-9);
        ASSERT_EQ(pointAt(line, -1), line.front());
        ASSERT_EQ(pointAt(line, length + 1), line.back());
    }
}

TEST(Geometry, AreaAndWhatAnOutlineHolds) {
    // An L of 5 by 4 m without a corner of 2 by 3 m.
    const std::vector<PlanPoint> ell{{0, 0}, {5, 0}, {5, 1}, {3, 1}, {3, 4}, {0, 4}};
    EXPECT_NEAR(areaM2(ell), 5 * 4 - 2 * 3, 1e-12);
    EXPECT_TRUE(contains(ell, {4.5, 0.5}));
    EXPECT_TRUE(contains(ell, {2.5, 3.5}));
    EXPECT_FALSE(contains(ell, {4.5, 2}));
    EXPECT_FALSE(contains(ell, {-1, 2}));
    EXPECT_FALSE(contains(std::vector<PlanPoint>{{0, 0}, {5, 0}}, {2, 0}));
    // The share of random points inside is the share of the area.
    Random random;
    int inside = 0;
    for (int i = 0; i < 20000; ++i)
        inside += contains(ell, {random.number(0, 5), random.number(0, 4)}) ? 1 : 0;
    EXPECT_NEAR(inside / 20000.0, 14.0 / 20, 0.02);
}

TEST(Geometry, AnglesAreNeverOverNinety) {
    EXPECT_NEAR(angleDeg({0, 0}, {1, 0}, {0, 0}, {0, 5}), 90, 1e-12);
    EXPECT_NEAR(angleDeg({0, 0}, {1, 0}, {3, 3}, {2, 2}), 45, 1e-12);
    EXPECT_NEAR(angleDeg({0, 0}, {1, 0}, {5, 1}, {2, 1}), 0, 1e-12);
}
