#include "core/pull/box_exact.h"
#include "core/pull/groups.h"
#include "shipped.h"
#include <algorithm>
#include <cmath>
#include <functional>
#include <gtest/gtest.h>
#include <map>
#include <random>
#include <set>

using namespace burin;

namespace {

struct Lot {
    std::vector<WantsBox> cables;
    std::vector<BoxAtHand> boxes;
};

/// 10 to 300 runs of 8 to 95 m, 2 to 8 boxes at hand, some begun.
Lot randomLot(std::mt19937& random) {
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    Lot out;
    const int boxes = 2 + upTo(6);
    for (int i = 0; i < boxes; ++i) {
        const bool begun = upTo(1) == 0;
        out.boxes.push_back({"a", "", begun ? 10.0 + upTo(280) : 305.0, begun});
    }
    const int runs = 10 + upTo(290);
    double wanted = 0;
    for (int i = 0; i < runs; ++i) {
        out.cables.push_back({"a", "", 8 + upTo(870) / 10.0, 0, std::nullopt});
        wanted += out.cables.back().lengthM;
    }
    double left = 0;
    for (const auto& box : out.boxes)
        left += box.leftM;
    const int most = std::max(1, std::min(6, boxes + int(std::ceil((wanted - left) / 305))));
    // Groups as the ways would have it.
    std::size_t group = 0;
    for (int i = 0; i < runs;) {
        const int size = 1 + upTo(most - 1);
        for (int k = 0; k < size && i < runs; ++k, ++i)
            out.cables[std::size_t(i)].group = group;
        ++group;
    }
    return out;
}

/// What no plan can go below, reckoned in another way: fresh boxes are taken one by one until what
/// is wanted fits.
std::size_t leastOf(const Lot& lot) {
    double wanted = 0;
    std::map<std::size_t, int> groups;
    for (const auto& cable : lot.cables) {
        wanted += cable.lengthM;
        ++groups[cable.group];
    }
    int begun = 0;
    for (const auto& box : lot.boxes)
        if (box.begun) {
            wanted -= box.leftM;
            ++begun;
        }
    std::size_t out = 0;
    for (; wanted > 1e-9; wanted -= 305)
        ++out;
    for (const auto& [group, size] : groups)
        out = std::max(out, std::size_t(std::max(0, size - begun)));
    return out;
}

} // namespace

TEST(BoxPlan, threeHundredJobsRunNowhereShortAndOpenFewBoxes) {
    std::mt19937 random(21);
    int least = 0;
    int oneMore = 0;
    for (int i = 0; i < 300; ++i) {
        const Lot lot = randomLot(random);
        const BoxPlan plan = planBoxes(lot.cables, lot.boxes, {305, 15});
        std::map<std::size_t, double> taken;
        std::set<std::pair<std::size_t, std::size_t>> inBox;
        for (std::size_t k = 0; k < lot.cables.size(); ++k) {
            ASSERT_TRUE(plan.boxOf[k]);
            taken[*plan.boxOf[k]] += lot.cables[k].lengthM;
            ASSERT_TRUE(inBox.emplace(*plan.boxOf[k], lot.cables[k].group).second)
                << "two of a pull out of one box";
        }
        std::size_t opened = 0;
        for (const auto& [box, metres] : taken) {
            const bool fresh = box >= lot.boxes.size();
            ASSERT_LE(metres, (fresh ? 305 : lot.boxes[box].leftM) + 1e-6) << "runs short";
            opened += fresh || !lot.boxes[box].begun ? 1 : 0;
        }
        ASSERT_EQ(plan.opened, opened);
        ASSERT_EQ(plan.lowerBound, leastOf(lot));
        ASSERT_GE(opened, plan.lowerBound);
        ASSERT_LE(opened, plan.lowerBound + 2);
        least += opened == plan.lowerBound ? 1 : 0;
        oneMore += opened <= plan.lowerBound + 1 ? 1 : 0;
    }
    EXPECT_GE(oneMore, 300 * 95 / 100);
    EXPECT_GE(least, 150) << "hardly ever the fewest there can be";
}

TEST(BoxPlan, begunBoxesComeFirstAndRestsOfNoUseAreFew) {
    // 60 m fit the begun box and a fresh one: nothing is opened for them.
    auto plan =
        planBoxes({{"a", "", 60, 0, {}}}, {{"a", "", 305, false}, {"a", "", 80, true}}, {305, 15});
    EXPECT_EQ(plan.boxOf[0], 1U);
    EXPECT_EQ(plan.opened, 0U);
    EXPECT_TRUE(plan.provenLeast());
    EXPECT_EQ(plan.scrapM, 0);
    // 50 m out of 60 leave 10 m of no use, out of 50 nothing.
    plan = planBoxes({{"a", "", 50, 0, {}}}, {{"a", "", 60, true}, {"a", "", 50, true}}, {305, 15});
    EXPECT_EQ(plan.boxOf[0], 1U);
    // Two of one pull never share a box, however much it holds.
    plan =
        planBoxes({{"a", "", 20, 7, {}}, {"a", "", 20, 7, {}}}, {{"a", "", 300, true}}, {305, 15});
    EXPECT_NE(plan.boxOf[0], plan.boxOf[1]);
    EXPECT_EQ(plan.added.size(), 1U);
    EXPECT_EQ(plan.opened, 1U);
    EXPECT_EQ(plan.lowerBound, 1U);
}

TEST(BoxPlan, whatIsAtHandIsEmptiedFirst) {
    // Fourteen of 100 m, two at once: two boxes are at hand, three are bought.
    std::vector<WantsBox> cables;
    for (std::size_t i = 0; i < 14; ++i)
        cables.push_back({"a", "", 100, i / 2, {}});
    const auto plan =
        planBoxes(cables, {{"a", "blue", 305, false}, {"a", "", 305, false}}, {305, 15});
    EXPECT_EQ(plan.added.size(), 3U);
    for (std::size_t i = 0; i < 2; ++i)
        EXPECT_LT(*plan.boxOf[i], 2U) << "the first pull comes out of what is there";
    std::size_t highest = 1;
    for (const auto& box : plan.boxOf) {
        EXPECT_LE(*box, highest + 2) << "new boxes are numbered as they are needed";
        highest = std::max(highest, *box);
    }
}

TEST(BoxPlan, kindsAndColoursAreKeptApart) {
    const std::vector<BoxAtHand> boxes{{"a", "grey", 300, true}, {"a", "", 40, true}};
    auto plan = planBoxes({{"a", "blue", 30, 0, {}}}, boxes, {305, 15});
    EXPECT_EQ(plan.boxOf[0], 1U) << "a box of no known colour serves any";
    plan = planBoxes({{"a", "blue", 60, 0, {}}}, boxes, {305, 15});
    EXPECT_EQ(plan.boxOf[0], 2U);
    EXPECT_EQ(plan.added[0].colour, "blue");
    plan = planBoxes({{"b", "", 60, 0, {}}}, boxes, {305, 15});
    EXPECT_EQ(plan.added.size(), 1U);
    plan = planBoxes({{"a", "", 400, 0, {}}}, boxes, {305, 15});
    EXPECT_FALSE(plan.boxOf[0]) << "longer than any box";
    EXPECT_EQ(plan.opened, 0U);
    // Somebody said which box.
    plan = planBoxes({{"a", "", 30, 0, 0}}, boxes, {305, 15});
    EXPECT_EQ(plan.boxOf[0], 0U);
}

namespace {

ToPull along(double toM, int order, const char* head = "p", double wayM = 0) {
    ToPull out;
    out.head = head;
    out.cableId = "a";
    out.along = {{0, 0, toM}};
    out.wayM = wayM > 0 ? wayM : toM + 3;
    out.order = order;
    out.areaMm2 = 30;
    return out;
}

} // namespace

TEST(Groups, whatSharesMostOfItsWayGoesTogether) {
    EXPECT_TRUE(goTogether(along(30, 0), along(40, 1)));
    EXPECT_FALSE(goTogether(along(10, 0), along(40, 1))) << "10 m of 43 are no half";
    EXPECT_FALSE(goTogether(along(30, 0), along(30, 1, "q"))) << "from two heads";
    const auto groups = groupPulls({along(40, 0), along(10, 1), along(38, 2), along(12, 3)}, {});
    ASSERT_EQ(groups.size(), 2U);
    EXPECT_EQ(groups[0], (std::vector<std::size_t>{0, 2}));
    EXPECT_EQ(groups[1], (std::vector<std::size_t>{1, 3}));
}

TEST(Groups, boxesConduitsAndHandsSetHowManyGoAtOnce) {
    const std::vector<ToPull> seven(7, along(40, 0));
    const auto sizes = [&](const GroupRules& rules) {
        std::vector<std::size_t> out;
        for (const auto& group : groupPulls(seven, rules))
            out.push_back(group.size());
        return out;
    };
    EXPECT_EQ(sizes({}), (std::vector<std::size_t>{6, 1}));
    EXPECT_EQ(sizes({6, {{"a", 3}}, {}}), (std::vector<std::size_t>{3, 3, 1}));
    EXPECT_EQ(sizes({6, {}, {{0, 125}}}), (std::vector<std::size_t>{4, 3})) << "30 mm² each";
    EXPECT_EQ(sizes({6, {}, {{0, 10}}}).size(), 7U) << "one goes in any case";
    EXPECT_EQ(sizes({6, {}, {{5, 10}}}), (std::vector<std::size_t>{6, 1})) << "another conduit";
}

TEST(Groups, whatClosesFirstIsPulledFirstThenRoomByRoom) {
    auto late = along(40, 5);
    auto first = along(40, 9, "q");
    first.closesOn = "2026-11-26";
    auto second = along(40, 8, "r");
    second.closesOn = "2026-12-03";
    const auto groups = groupPulls({late, along(10, 1), second, first}, {});
    ASSERT_EQ(groups.size(), 4U);
    EXPECT_EQ(groups[0][0], 3U);
    EXPECT_EQ(groups[1][0], 2U);
    EXPECT_EQ(groups[2][0], 1U);
    EXPECT_EQ(groups[3][0], 0U);
    // Without a way on the plan those of one room go together.
    ToPull typed;
    typed.head = "p";
    typed.room = "r1";
    ToPull other = typed;
    other.room = "r2";
    EXPECT_TRUE(goTogether(typed, typed));
    EXPECT_FALSE(goTogether(typed, other));
    EXPECT_FALSE(goTogether(typed, along(40, 0)));
}

namespace {

/// The fewest boxes that any choice opens, by trying them all, with no more than so many new ones.
std::size_t fewestByTrying(const std::vector<WantsBox>& cables,
                           const std::vector<BoxAtHand>& atHand, const BoxPlanRules& rules,
                           std::size_t bought) {
    const std::size_t boxes = atHand.size() + bought;
    std::vector<std::size_t> at(cables.size());
    std::size_t best = SIZE_MAX;
    const std::function<void(std::size_t)> next = [&](std::size_t i) {
        if (i < cables.size()) {
            for (at[i] = 0; at[i] < boxes; ++at[i])
                next(i + 1);
            return;
        }
        std::size_t opened = 0;
        for (std::size_t b = 0; b < boxes; ++b) {
            double left = b < atHand.size() ? atHand[b].leftM : rules.newBoxM;
            std::set<std::size_t> groups;
            bool used = false;
            for (std::size_t c = 0; c < cables.size(); ++c)
                if (at[c] == b) {
                    left -= cables[c].lengthM;
                    used = true;
                    if (!groups.insert(cables[c].group).second)
                        return;
                }
            if (left < -1e-9)
                return;
            opened += used && (b >= atHand.size() || !atHand[b].begun) ? 1 : 0;
        }
        best = std::min(best, opened);
    };
    next(0);
    return best;
}

} // namespace

TEST(ExactBoxes, findsFewerOrProvesThatThereAreNone) {
    const BoxPlanRules rules{305, 15};
    const auto cable = [](double length, std::size_t group) {
        return WantsBox{"cat6-utp", "", length, group, {}};
    };
    // Three cables that one box holds, put into three.
    std::vector<WantsBox> cables{cable(100, 0), cable(100, 1), cable(100, 2)};
    BoxPlan bad;
    bad.boxOf = {0, 1, 2};
    bad.added.assign(3, {"cat6-utp", "", 305, false});
    bad.opened = 3;
    bad.lowerBound = leastOpened(cables, {}, rules);
    const BoxPlan better = fewestBoxes(bad, cables, {}, rules);
    EXPECT_EQ(better.opened, 1U);
    EXPECT_EQ(better.added.size(), 1U);
    EXPECT_TRUE(better.provenLeast());
    EXPECT_NEAR(better.scrapM, 5, 1e-9);
    // Each wants more than half a box: their metres ask for two, three are needed.
    cables = {cable(160, 0), cable(160, 1), cable(160, 2)};
    BoxPlan plan = planBoxes(cables, {}, rules);
    EXPECT_EQ(plan.opened, 3U);
    EXPECT_FALSE(plan.provenLeast());
    plan = fewestBoxes(plan, cables, {}, rules);
    EXPECT_EQ(plan.opened, 3U);
    EXPECT_TRUE(plan.provenLeast());
    // What is too large is left, and not called proven.
    plan = planBoxes(cables, {}, rules);
    EXPECT_FALSE(fewestBoxes(plan, cables, {}, rules, {5, 400}).provenLeast());
}

TEST(ExactBoxes, asManyAsTryingThemAll) {
    std::mt19937 random(11);
    int improved = 0;
    int raised = 0;
    for (int round = 0; round < trials(120); ++round) {
        const BoxPlanRules rules{305, 15};
        std::vector<BoxAtHand> atHand;
        for (std::size_t b = 0; b < random() % 3; ++b)
            atHand.push_back({"cat6-utp", "", 40.0 + int(random() % 265), random() % 2 == 0});
        std::vector<WantsBox> cables;
        for (std::size_t i = 0; i < 3 + random() % 3; ++i)
            cables.push_back({"cat6-utp", "", 40.0 + int(random() % 150), random() % 3, {}});
        const BoxPlan first = planBoxes(cables, atHand, rules);
        const BoxPlan now = fewestBoxes(first, cables, atHand, rules);
        const std::size_t fewest = fewestByTrying(cables, atHand, rules, first.added.size());
        ASSERT_EQ(now.opened, fewest) << "round " << round;
        ASSERT_EQ(now.lowerBound, fewest) << "round " << round;
        improved += now.opened < first.opened ? 1 : 0;
        raised += now.lowerBound > first.lowerBound ? 1 : 0;
        // None short, no two of a pull from one box.
        std::map<std::size_t, double> taken;
        std::set<std::pair<std::size_t, std::size_t>> pairs;
        for (std::size_t i = 0; i < cables.size(); ++i) {
            ASSERT_TRUE(now.boxOf[i].has_value());
            taken[*now.boxOf[i]] += cables[i].lengthM;
            ASSERT_TRUE(pairs.emplace(*now.boxOf[i], cables[i].group).second);
        }
        for (const auto& [box, metres] : taken)
            ASSERT_LE(metres, (box < atHand.size() ? atHand[box].leftM : 305) + 1e-6);
    }
    RecordProperty("improved", improved);
    RecordProperty("raised", raised);
}
