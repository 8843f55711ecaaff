#include "core/pull/marks.h"
#include "core/pull/tension.h"
#include "core/units/render.h"
#include <cmath>
#include <gtest/gtest.h>
#include <numbers>
#include <random>

using namespace burin;

namespace {

constexpr double right = std::numbers::pi / 2;
constexpr double footM = 0.3048;

PullPart straight(double lengthM, double friction, double riseM = 0) {
    return {PullPart::Kind::Straight, lengthM, riseM, 0, friction};
}
PullPart bend(double rad, double friction) {
    return {PullPart::Kind::Bend, 0, 0, rad, friction};
}
/// Two bends in a conduit of 50 m.
std::vector<PullPart> conduit(double friction) {
    return {straight(20, friction), bend(right, friction), straight(20, friction),
            bend(right, friction), straight(10, friction)};
}
constexpr double sixCables = 6 * 0.042; // 4.2 kg for 100 m each

/// The pull at the end of the first `count` parts, written as a recursion from the end.
double recursion(const std::vector<PullPart>& way, std::size_t count, double weight, double start) {
    if (count == 0)
        return start;
    const PullPart& part = way[count - 1];
    const double before = recursion(way, count - 1, weight, start);
    if (part.kind == PullPart::Kind::Bend)
        return before * std::pow(std::exp(1.0), part.friction * part.bendRad);
    const double slope = std::asin(part.riseM / part.lengthM);
    const double more =
        9.81 * weight * part.lengthM * (std::sin(slope) + part.friction * std::cos(slope));
    return before + more < 0 ? 0 : before + more;
}

} // namespace

TEST(Tension, checkValues) {
    // Reference page section 11.
    const auto pull = [](const std::vector<PullPart>& way, PullGroup group) {
        return findTension(way, group).endN;
    };
    EXPECT_NEAR(pull(conduit(0.5), {sixCables, 0}), 185.5, 0.05);
    EXPECT_NEAR(pull(reversed(conduit(0.5)), {sixCables, 0}), 138.4, 0.05);
    EXPECT_NEAR(pull(conduit(0.5), {sixCables, 6 * 5.0}), 329.8, 0.05);
    EXPECT_NEAR(pull(conduit(0.25), {sixCables, 0}), 51.6, 0.05);
    EXPECT_NEAR(pull(reversed(conduit(0.25)), {sixCables, 0}), 44.2, 0.05);
    EXPECT_NEAR(pull({straight(12, 0.5, 12), bend(right, 0.5), straight(20, 0.5)}, {0.052, 0}),
                18.5, 0.05);
    // From its other end it comes down the 12 m: 11.19 N behind the bend, less 6.12 N.
    EXPECT_NEAR(
        pull(reversed({straight(12, 0.5, 12), bend(right, 0.5), straight(20, 0.5)}), {0.052, 0}),
        5.07, 0.01);
}

TEST(Tension, risesFallsAndPeaks) {
    // Down a shaft the cable helps, but a slack rope is not pushed.
    const auto down = findTension({straight(30, 0.5, -30), straight(10, 0.5)}, {0.05, 4});
    EXPECT_EQ(down.points[0].tensionN, 0);
    EXPECT_NEAR(down.endN, 0.05 * 9.81 * 0.5 * 10, 1e-9);
    EXPECT_EQ(down.points[1].atM, 40);
    const auto peak = findTension({straight(20, 0.5), straight(40, 0.1, -39)}, {0.05, 50});
    EXPECT_EQ(peak.mostAfter, 0U);
    EXPECT_NEAR(peak.mostN, 50 + 0.05 * 9.81 * 0.5 * 20, 1e-9);
    EXPECT_LT(peak.endN, peak.mostN);
    EXPECT_EQ(findTension({}, {0.05, 7}).endN, 7);
}

TEST(Tension, aThousandWaysAgreeWithARecursion) {
    std::mt19937 random(11);
    const auto upTo = [&](double most) {
        return std::uniform_real_distribution<double>(0, most)(random);
    };
    for (int i = 0; i < 1000; ++i) {
        std::vector<PullPart> way;
        for (int k = 1 + int(random() % 12); k > 0; --k) {
            const double friction = 0.1 + upTo(0.5);
            const double length = 0.5 + upTo(40);
            if (random() % 3 == 0)
                way.push_back(bend(upTo(std::numbers::pi), friction));
            else
                way.push_back(straight(length, friction, (upTo(2) - 1) * length));
        }
        const double weight = 0.02 + upTo(0.6);
        const double start = upTo(60);
        const auto found = findTension(way, {weight, start});
        for (std::size_t k = 0; k < way.size(); ++k)
            ASSERT_NEAR(found.points[k].tensionN, recursion(way, k + 1, weight, start),
                        1e-9 * (1 + found.mostN))
                << "way " << i << " part " << k;
        const auto back = reversed(reversed(way));
        ASSERT_EQ(findTension(back, {weight, start}).endN, found.endN);
    }
}

TEST(Tension, limitOfAGroup) {
    EXPECT_EQ(groupLimitN({110, 110, 110}, Grip::OverAll), 0.8 * 330);
    EXPECT_EQ(groupLimitN({180, 110}, Grip::ByOne), 180);
    EXPECT_EQ(groupLimitN({110}, Grip::OverAll), 110) << "one alone shares with nobody";
    EXPECT_EQ(groupLimitN({}, Grip::OverAll), 0);
}

TEST(Marks, asPrinted) {
    EXPECT_EQ(*readMark("0412", MarkUnit::Feet), 412);
    EXPECT_EQ(*readMark(" 0612 FT", MarkUnit::Feet), 612);
    EXPECT_EQ(*readMark("0612ft.", MarkUnit::Feet), 612);
    EXPECT_EQ(*readMark("188M", MarkUnit::Metres), 188);
    EXPECT_EQ(*readMark("0", MarkUnit::Metres), 0);
    EXPECT_EQ(*readMark("9999", MarkUnit::Feet), 9999);
    for (const char* text : {"", "FT", "-5", "12345", "41.2", "4 12", "0412 IN", "O412", "1e3"}) {
        const auto read = readMark(text, MarkUnit::Feet);
        ASSERT_FALSE(read) << text;
        EXPECT_EQ(read.error().code(), "marks.no-mark");
    }
    const auto other = readMark("188M", MarkUnit::Feet);
    ASSERT_FALSE(other);
    EXPECT_EQ(render(other.error(), {}),
              "mark 188M: it is in metres, and this box counts in feet. Look at the jacket and the "
              "box again");
}

TEST(Marks, everyKindOfWrongIsCaught) {
    // 305 m up from 0100 ft: it ends near 1100 ft.
    Box box;
    box.name = "A1";
    box.freeMark = 100;
    const std::vector<MarkedPiece> pulled{{100, 400}};
    EXPECT_NEAR(leftM(box, pulled), 305 - 300 * footM, 1e-9);
    const auto good = pulledLength(box, pulled, {400, 600});
    ASSERT_TRUE(good);
    EXPECT_NEAR(good->lengthM, 200 * footM, 1e-9);
    EXPECT_NEAR(good->doubtM, 4 * footM, 1e-9);
    EXPECT_TRUE(pulledLength(box, pulled, {410, 600})) << "a piece was thrown away";
    EXPECT_TRUE(pulledLength(box, {{400, 600}}, {100, 400})) << "typed in another order";
    const auto code = [&](int start, int end) {
        const auto found = pulledLength(box, pulled, {start, end});
        return found ? std::string("taken") : std::string(found.error().code());
    };
    EXPECT_EQ(code(600, 400), "marks.against");
    EXPECT_EQ(code(300, 500), "marks.pulled-already");
    EXPECT_EQ(code(50, 300), "marks.not-of-box");
    EXPECT_EQ(code(400, 1200), "marks.more-than-held");
    EXPECT_EQ(code(900, 1200), "marks.more-than-held");
    EXPECT_EQ(code(500, 500), "marks.same");
    const auto told = pulledLength(box, pulled, {300, 500});
    EXPECT_EQ(render(told.error(), {}),
              "marks 0300 and 0500: that lies in what was pulled already, "
              "0100 to 0400. Look at the jacket and the box again");
}

TEST(Marks, tenThousandSequencesAgreeWithACounterThatNeverTurns) {
    std::mt19937 random(12);
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    int turned = 0;
    for (int i = 0; i < 10000; ++i) {
        Box box;
        box.markUnit = upTo(1) == 0 ? MarkUnit::Feet : MarkUnit::Metres;
        const double per = box.markUnit == MarkUnit::Feet ? footM : 1;
        box.spacing = box.markUnit == MarkUnit::Feet ? 2 : 1;
        box.countsUp = upTo(1) == 0;
        const int holds = 100 + upTo(1500); // marks
        box.heldM = holds * per;
        // A counter of its own that never begins anew.
        long counter = 100000 + upTo(9999);
        box.freeMark = int(counter % 10000);
        const auto markOf = [](long at) { return int(at % 10000); };
        int left = holds;
        std::vector<MarkedPiece> pulled;
        while (left > 10) {
            const int waste = upTo(9) == 0 ? upTo(std::min(5, left - 6)) : 0;
            const int take = 1 + upTo(left - waste - 1);
            const long start = counter + (box.countsUp ? waste : -waste);
            const long end = start + (box.countsUp ? take : -take);
            turned += (markOf(start) > markOf(end)) == box.countsUp ? 1 : 0;
            const auto found = pulledLength(box, pulled, {markOf(start), markOf(end)});
            ASSERT_TRUE(found) << render(found.error(), {});
            ASSERT_NEAR(found->lengthM, take * per, 1e-9);
            // Swapped, it is never taken for what it is not.
            if (take * per > 4 * box.spacing * per) {
                ASSERT_FALSE(pulledLength(box, pulled, {markOf(end), markOf(start)}));
            }
            pulled.insert(pulled.begin() + upTo(int(pulled.size())), {markOf(start), markOf(end)});
            counter = end;
            left -= waste + take;
            ASSERT_NEAR(leftM(box, pulled), left * per, 1e-9);
            ASSERT_EQ(freeMark(box, pulled), markOf(counter));
            ASSERT_EQ(markAt(box, markAtM(box, markOf(end))), markOf(end));
        }
        // More than is left is never there.
        const long beyond = counter + (box.countsUp ? left + 5 : -(left + 5));
        ASSERT_FALSE(pulledLength(box, pulled, {markOf(counter), markOf(beyond)}));
    }
    EXPECT_GT(turned, 500) << "no counter came round";
}
