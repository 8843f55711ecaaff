#include "core/coax/tree_json.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include "says.h"
#include <gtest/gtest.h>
#include <map>
#include <random>

using namespace burin;

namespace {

TreeNode part(const char* id, const char* from, TreePart kind, double lengthM = 0) {
    TreeNode out;
    out.id = id;
    out.from = from;
    out.unit.part = kind;
    if (lengthM > 0) {
        out.feed.cable = shipped().cable("coax-s6");
        out.feed.stretches = {{lengthM, 20}};
    }
    return out;
}

double cableLoss(double lengthM, double f) {
    return attenuationDbPer100m(*shipped().cable("coax-s6"), f) * lengthM / 100;
}

/// Head at 80 dBµV, 10 m to a four-way splitter, three outlets at 15, 20 and 30 m.
Tree smallTree() {
    Tree tree;
    tree.levelDb = 80;
    tree.fromMhz = 47;
    tree.toMhz = 862;
    tree.least = 45;
    tree.most = 75;
    TreeNode splitter = part("S1", "", TreePart::Splitter, 10);
    splitter.unit.ways = 4;
    tree.nodes = {part("TV1", "S1", TreePart::Outlet, 15), splitter,
                  part("TV2", "S1", TreePart::Outlet, 20), part("TV3", "S1", TreePart::Outlet, 30)};
    return tree;
}

const TreePoint& pointOf(const TreeFinding& finding, const std::string& id) {
    for (const auto& p : finding.points)
        if (p.id == id)
            return p;
    throw std::runtime_error(id);
}

} // namespace

TEST(Tree, LevelsByHand) {
    const auto f = *findTree(smallTree(), shipped());
    EXPECT_NEAR(pointOf(f, "TV3").lowDb, 80 - cableLoss(40, 47) - 7.4, 1e-9);
    EXPECT_NEAR(pointOf(f, "TV3").highDb, 80 - cableLoss(40, 862) - 7.4, 1e-9);
    EXPECT_NEAR(pointOf(f, "TV3").leastDb, pointOf(f, "TV3").highDb, 1e-9);
    EXPECT_TRUE(f.good);
    ASSERT_EQ(f.unusedPorts.size(), 1U);
    EXPECT_EQ(f.unusedPorts[0], "S1: 1 of 4 ports open; put a terminator on each");
}

TEST(Tree, TooMuchAsWellAsTooLittle) {
    Tree tree = smallTree();
    tree.levelDb = 100;
    auto f = *findTree(tree, shipped());
    EXPECT_FALSE(f.good);
    EXPECT_NE(english(pointOf(f, "TV1").reason).find("too much"), std::string::npos);
    tree.levelDb = 55;
    f = *findTree(tree, shipped());
    EXPECT_NE(english(pointOf(f, "TV3").reason).find("too little"), std::string::npos);
    tree.nodes[3].unit.least = 30; // an outlet may have a window of its own
    EXPECT_TRUE(pointOf(*findTree(tree, shipped()), "TV3").good);
}

TEST(Tree, TapsAndAmplifiersCount) {
    Tree tree = smallTree();
    TreeNode tap = part("T1", "", TreePart::Tap);
    tap.unit.tapDb = 12;
    tap.unit.throughDb = 2.5;
    TreeNode on = part("A", "T1", TreePart::Outlet);
    on.fromTap = true;
    tree.nodes = {tap, on, part("B", "T1", TreePart::Outlet)};
    auto f = *findTree(tree, shipped());
    EXPECT_NEAR(pointOf(f, "A").lowDb, 68, 1e-9);
    EXPECT_NEAR(pointOf(f, "B").lowDb, 77.5, 1e-9);
    TreeNode amplifier = part("V", "", TreePart::Amplifier);
    amplifier.unit.gainDb = 20;
    amplifier.unit.slopeDb = 6;
    tree.nodes = {amplifier, part("A", "V", TreePart::Outlet, 50)};
    tree.levelDb = 62;
    f = *findTree(tree, shipped());
    EXPECT_NEAR(pointOf(f, "A").lowDb, 82 - cableLoss(50, 47), 1e-9);
    EXPECT_NEAR(pointOf(f, "A").highDb, 88 - cableLoss(50, 862), 1e-9);
    // kTB in 5 MHz is 1.74 dBµV; with a noise figure of 5 dB, 62 dBµV stand 55.26 dB over it, and
    // the cable behind takes as much from both.
    EXPECT_NEAR(pointOf(f, "V").carrierToNoiseDb, 62 - 6.74, 0.01);
    EXPECT_NEAR(pointOf(f, "A").carrierToNoiseDb, 62 - 6.74, 0.05);
    EXPECT_TRUE(pointOf(f, "V").good);
    tree.levelDb = 55;
    EXPECT_NE(english(pointOf(*findTree(tree, shipped()), "V").reason).find("ahead of the loss"),
              std::string::npos);
    tree.levelDb = 80; // 106 out, ceiling 105 − 7.5·log 39 = 93.1
    EXPECT_NE(
        english(pointOf(*findTree(tree, shipped()), "V").reason).find("12.9 dB over its ceiling"),
        std::string::npos)
        << pointOf(*findTree(tree, shipped()), "V").reason;
}

TEST(Tree, NoiseCascadesByFriis) {
    Tree tree = smallTree();
    tree.levelDb = 60;
    TreeNode one = part("V1", "", TreePart::Amplifier);
    one.unit.gainDb = 10;
    TreeNode two = part("V2", "V1", TreePart::Amplifier);
    TreeNode between = part("P", "V1", TreePart::Pad);
    between.unit.throughDb = 10;
    two.from = "P";
    two.unit.gainDb = 10;
    tree.nodes = {one, between, two, part("A", "V2", TreePart::Outlet, 40)};
    // F = F1 + (L − 1)/G1 + L·(F2 − 1)/G1, gains and losses of 10.
    const double factor = std::pow(10, 0.5);
    const double whole = factor + (10 - 1) / 10.0 + (factor - 1);
    auto f = *findTree(tree, shipped());
    EXPECT_NEAR(pointOf(f, "V2").carrierToNoiseDb, 60 - 1.74 - 10 * std::log10(whole), 0.01);
    // A passive part that has all but no noise of its own left to add leaves the ratio alone.
    EXPECT_NEAR(pointOf(f, "A").carrierToNoiseDb, pointOf(f, "V2").carrierToNoiseDb, 0.5);
    // The source's own is where it starts, and bandwidth counts.
    tree.sourceCarrierToNoiseDb = 40;
    tree.bandwidthMhz = 8;
    f = *findTree(tree, shipped());
    const double thermal = -174 + 10 * std::log10(8e6) + 108.75;
    const double noise = std::pow(10, 2.0) + (whole - 1) * std::pow(10, thermal / 10);
    EXPECT_NEAR(pointOf(f, "V2").carrierToNoiseDb, 60 - 10 * std::log10(noise), 0.01);
    tree.leastCarrierToNoiseDb = 39;
    EXPECT_TRUE(findTree(tree, shipped())->good);
    tree.leastCarrierToNoiseDb = 40.1;
    EXPECT_NE(english(pointOf(*findTree(tree, shipped()), "A").reason).find("40.1 dB wanted"),
              std::string::npos);
}

TEST(Tree, PassivePartsTakeFromSignalAndNoiseAlike) {
    // One path through amplifier, splitter and outlet: one ratio, not one that falls and rises.
    Tree tree = smallTree();
    tree.levelDb = 70;
    TreeNode amplifier = part("V", "", TreePart::Amplifier);
    amplifier.unit.gainDb = 20;
    TreeNode splitter = part("S", "V", TreePart::Splitter);
    splitter.unit.ways = 8;
    tree.nodes = {amplifier, splitter, part("A", "S", TreePart::Outlet)};
    const auto f = *findTree(tree, shipped());
    EXPECT_NEAR(pointOf(f, "V").carrierToNoiseDb, 63.26, 0.01);
    EXPECT_NEAR(pointOf(f, "S").carrierToNoiseDb, 63.26, 0.2);
    EXPECT_NEAR(pointOf(f, "A").carrierToNoiseDb, pointOf(f, "S").carrierToNoiseDb, 1e-9);
}

TEST(Tree, IsolationBetweenOutlets) {
    const Tree tree = smallTree();
    EXPECT_NEAR(*outletIsolationDb(tree, shipped(), "TV1", "TV3", 500), 22 + cableLoss(45, 500),
                1e-9);
    EXPECT_FALSE(outletIsolationDb(tree, shipped(), "TV1", "TV9", 500).has_value());
    // Through a tap it is its coupler's: 30 dB from a 20 dB port to the way through.
    Tree street = smallTree();
    TreeNode tap = part("T", "", TreePart::Tap);
    tap.unit.tapDb = 20;
    tap.unit.throughDb = 1;
    TreeNode at = part("A", "T", TreePart::Outlet, 10);
    at.fromTap = true;
    street.nodes = {tap, at, part("B", "T", TreePart::Outlet, 20)};
    EXPECT_NEAR(*outletIsolationDb(street, shipped(), "A", "B", 500), 30 + cableLoss(30, 500),
                1e-9);
}

TEST(Tree, ImpossibleTreesAreRefusedByName) {
    Tree tree = smallTree();
    tree.nodes[1].from = "S2";
    tree.nodes.push_back(part("S2", "S1", TreePart::Splitter));
    const auto loop = findTree(tree, shipped());
    ASSERT_FALSE(loop.has_value());
    EXPECT_NE(render(loop.error().what, {}).find("loop"), std::string::npos);
    tree = smallTree();
    tree.nodes[0].id = "TV2";
    EXPECT_EQ(render(findTree(tree, shipped()).error().where, {}), "TV2");
    tree = smallTree();
    tree.nodes[0].from = "S9";
    EXPECT_NE(render(findTree(tree, shipped()).error().what, {}).find("S9"), std::string::npos);
    tree = smallTree();
    tree.nodes[1].unit.ways = 2;
    EXPECT_NE(render(findTree(tree, shipped()).error().what, {}).find("2 ports"),
              std::string::npos);
    tree = smallTree();
    tree.nodes[0].from = "TV3";
    EXPECT_NE(render(findTree(tree, shipped()).error().what, {}).find("behind an outlet"),
              std::string::npos);
    tree = smallTree();
    tree.nodes[0].feed.stretches[0].lengthM = -2;
    EXPECT_EQ(render(findTree(tree, shipped()).error().where, {}), "TV1");
}

namespace {

Tree withAll(Tree tree, const TreeProposal& proposal) {
    for (const auto& change : proposal.changes)
        tree = changed(tree, change, shipped());
    return tree;
}

} // namespace

TEST(Tree, AProposedAmplifierBringsAllIntoTheirWindow) {
    Tree tree = smallTree();
    tree.levelDb = 62;
    for (auto& node : tree.nodes)
        if (node.unit.part == TreePart::Outlet)
            node.feed.stretches[0].lengthM += 50;
    ASSERT_FALSE(findTree(tree, shipped())->good);
    const auto proposal = *proposeTree(tree, shipped());
    ASSERT_TRUE(proposal.possible) << proposal.reason;
    ASSERT_EQ(proposal.changes.size(), 1U);
    EXPECT_EQ(proposal.changes[0].kind, TreeChange::Kind::Amplifier);
    EXPECT_EQ(proposal.changes[0].at, "S1");
    EXPECT_TRUE(findTree(withAll(tree, proposal), shipped())->good);
    // Where something has to come back, what is proposed lets it, and says so.
    tree.returnPath = ReturnPath{};
    const auto back = *proposeTree(tree, shipped());
    ASSERT_TRUE(back.possible) << back.reason;
    EXPECT_NE(english(back.reason).find("with a way back"), std::string::npos) << back.reason;
    EXPECT_TRUE(findTree(withAll(tree, back), shipped())->good);
}

TEST(Tree, TooMuchSignalIsCuredByAPadNotAnAmplifier) {
    Tree tree = smallTree();
    tree.levelDb = 98; // the outlets have up to 12.4 dB too much
    const auto pads = *proposeTree(tree, shipped());
    ASSERT_TRUE(pads.possible) << pads.reason;
    ASSERT_EQ(pads.changes.size(), 1U) << pads.reason;
    EXPECT_EQ(pads.changes[0].kind, TreeChange::Kind::Pad);
    EXPECT_NE(english(pads.reason).find("a pad of 16 dB ahead of S1"), std::string::npos)
        << pads.reason;
    // Three metres at 95 dBµV: no length of that cable brings both ends of the band in at once.
    Tree one = smallTree();
    one.levelDb = 95;
    one.nodes = {part("TV1", "", TreePart::Outlet, 3)};
    const auto alone = *proposeTree(one, shipped());
    ASSERT_TRUE(alone.possible) << alone.reason;
    EXPECT_EQ(alone.changes[0].kind, TreeChange::Kind::Pad);
    EXPECT_TRUE(findTree(withAll(one, alone), shipped())->good);
    // A band tilted by more than its window is wide wants an equaliser.
    one.levelDb = 88;
    one.nodes = {part("TV1", "", TreePart::Outlet, 220)};
    one.least = 50;
    one.most = 70;
    const auto tilted = *proposeTree(one, shipped());
    ASSERT_TRUE(tilted.possible) << tilted.reason;
    EXPECT_TRUE(std::any_of(tilted.changes.begin(), tilted.changes.end(), [](const auto& c) {
        return c.kind == TreeChange::Kind::Equaliser || c.kind == TreeChange::Kind::Cable;
    })) << tilted.reason;
}

TEST(Tree, OneThickCableIsCheaperThanAnAmplifierForAll) {
    Tree tree = smallTree();
    tree.levelDb = 66;
    tree.nodes[3].feed.stretches[0].lengthM = 62; // TV3 has a little too little at the top
    const auto finding = *findTree(tree, shipped());
    ASSERT_FALSE(finding.good);
    const auto proposal = *proposeTree(tree, shipped());
    ASSERT_TRUE(proposal.possible) << proposal.reason;
    ASSERT_EQ(proposal.changes.size(), 1U) << proposal.reason;
    EXPECT_EQ(proposal.changes[0].kind, TreeChange::Kind::Cable);
    EXPECT_EQ(proposal.changes[0].at, "TV3");
    EXPECT_TRUE(findTree(withAll(tree, proposal), shipped())->good);
}

TEST(Tree, ProposedTapsLevelAStreet) {
    Tree tree = smallTree();
    tree.levelDb = 95;
    tree.least = 60;
    tree.most = 75;
    tree.nodes.clear();
    std::string before;
    for (int i = 0; i < 5; ++i) {
        const std::string id = "T" + std::to_string(i);
        TreeNode tap = part(id.c_str(), before.c_str(), TreePart::Tap, 15);
        tap.unit.tapDb = 10;
        tap.unit.throughDb = 2.5;
        TreeNode outlet = part(("O" + std::to_string(i)).c_str(), id.c_str(), TreePart::Outlet, 8);
        outlet.fromTap = true;
        tree.nodes.push_back(tap);
        tree.nodes.push_back(outlet);
        before = id;
    }
    ASSERT_FALSE(findTree(tree, shipped())->good);
    const auto proposal = *proposeTree(tree, shipped());
    ASSERT_TRUE(proposal.possible) << proposal.reason;
    EXPECT_GE(proposal.changes.size(), 3U) << proposal.reason;
    EXPECT_TRUE(findTree(withAll(tree, proposal), shipped())->good);
    double first = 0;
    double last = 0;
    for (const auto& node : withAll(tree, proposal).nodes)
        if (node.unit.part == TreePart::Tap)
            (first == 0 ? first : last) = node.unit.tapDb;
    EXPECT_GT(first, last);
}

TEST(Tree, WhatCannotBeIsSaid) {
    Tree tree = smallTree();
    tree.levelDb = 40; // nowhere 60 dBµV left
    const auto proposal = *proposeTree(tree, shipped());
    EXPECT_FALSE(proposal.possible);
    EXPECT_NE(english(proposal.reason).find("TV3 is"), std::string::npos) << proposal.reason;
    EXPECT_NE(english(proposal.reason).find("Raise the level at the head"), std::string::npos);
    // Noise that comes with the signal is the head's own.
    Tree noisy = smallTree();
    noisy.sourceCarrierToNoiseDb = 20;
    noisy.leastCarrierToNoiseDb = 26;
    const auto none = *proposeTree(noisy, shipped());
    EXPECT_FALSE(none.possible);
    EXPECT_NE(english(none.reason).find("nothing behind it mends that"), std::string::npos)
        << none.reason;
}

namespace {

/// A random tree of splitters and taps with outlets on what ports are left; some with too much,
/// some with too little, some with a way back.
Tree randomTree(std::mt19937& random, int mostJoints = 4, int outlets = 6) {
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    Tree tree = smallTree();
    tree.nodes.clear();
    tree.levelDb = 52 + upTo(55);
    tree.slopeDb = upTo(8) - 4;
    tree.channels = 10 + upTo(40);
    tree.sourceCarrierToNoiseDb = 30 + upTo(15);
    tree.leastCarrierToNoiseDb = 26;
    if (upTo(3) == 0)
        tree.returnPath = ReturnPath{};
    std::vector<std::string> open;
    const int joints = 1 + upTo(mostJoints - 1);
    for (int i = 0; i < joints; ++i) {
        const std::string id = "J" + std::to_string(i);
        const std::string from =
            i == 0 ? "" : open[static_cast<std::size_t>(upTo(static_cast<int>(open.size()) - 1))];
        TreeNode joint = part(id.c_str(), from.c_str(), TreePart::Splitter, 5 + upTo(30));
        joint.unit.ways = 8;
        tree.nodes.push_back(joint);
        open.push_back(id);
    }
    for (int i = 0; i < outlets; ++i)
        tree.nodes.push_back(part(("O" + std::to_string(i)).c_str(),
                                  open[static_cast<std::size_t>(upTo(joints - 1))].c_str(),
                                  TreePart::Outlet, 5 + upTo(90)));
    return tree;
}

} // namespace

TEST(Tree, WhateverIsProposedHolds) {
    std::mt19937 random(11);
    int proposed = 0;
    int refused = 0;
    std::map<TreeChange::Kind, int> kinds;
    const int count = trials(1000);
    for (int i = 0; i < count; ++i) {
        const Tree tree = randomTree(random);
        const auto finding = findTree(tree, shipped());
        ASSERT_TRUE(finding) << render(finding.error(), {});
        const auto proposal = *proposeTree(tree, shipped());
        EXPECT_FALSE(proposal.reason.empty());
        if (!proposal.possible) {
            EXPECT_FALSE(finding->good);
            ++refused;
            continue;
        }
        EXPECT_EQ(finding->good, proposal.changes.empty());
        proposed += proposal.changes.empty() ? 0 : 1;
        for (const auto& change : proposal.changes)
            ++kinds[change.kind];
        EXPECT_TRUE(findTree(withAll(tree, proposal), shipped())->good) << proposal.reason;
    }
    EXPECT_GT(proposed, count * 2 / 5);
    if (count < 1000)
        return; // too few to say how many
    EXPECT_LT(refused, count * 3 / 10);
    // Each of them is the right answer somewhere.
    for (const auto kind : {TreeChange::Kind::Pad, TreeChange::Kind::Equaliser,
                            TreeChange::Kind::Amplifier, TreeChange::Kind::Cable})
        EXPECT_GT(kinds[kind], 0) << static_cast<int>(kind);
}

namespace {

/// Every change of one kind at one place.
std::vector<TreeChange> everyChange(const Tree& tree) {
    std::vector<TreeChange> out;
    for (const auto& node : tree.nodes) {
        const bool outlet = node.unit.part == TreePart::Outlet;
        for (const double db : {3.0, 6.0, 10.0, 12.0, 16.0, 20.0})
            out.push_back({TreeChange::Kind::Pad, node.id, db, 0, outlet, {}, {}});
        for (const double db : {3.0, 6.0, 9.0, 12.0, 15.0, 18.0})
            out.push_back({TreeChange::Kind::Equaliser, node.id, 0, db, outlet, {}, {}});
        for (double gain = 1; gain <= 40; gain += 1)
            for (const double slope : {0.0, 4.0, 8.0, 12.0})
                out.push_back({TreeChange::Kind::Amplifier, node.id, gain, slope, true, {}, {}});
        for (const auto& cable : shipped().cables)
            if (cable.kind == CableKind::Coax && std::abs(cable.impedanceOhm.value - 75) < 5)
                out.push_back({TreeChange::Kind::Cable, node.id, 0, 0, false, cable.id, {}});
    }
    return out;
}

} // namespace

TEST(Tree, WhereOneChangeCuresOneIsShown) {
    // Small trees, and every single change there is: where one of them cures, one is proposed, and
    // never at a higher price.
    std::mt19937 random(5);
    int cured = 0;
    const int count = trials(60);
    for (int i = 0; i < count; ++i) {
        const Tree tree = randomTree(random, 2, 2);
        if (findTree(tree, shipped())->good)
            continue;
        bool possible = false;
        for (const auto& change : everyChange(tree)) {
            const Tree then = changed(tree, change, shipped());
            bool inputs = true;
            const auto found = findTree(then, shipped(), 20);
            inputs = found && found->good;
            if (inputs) {
                possible = true;
                break;
            }
        }
        const auto proposal = *proposeTree(tree, shipped());
        cured += possible ? 1 : 0;
        EXPECT_TRUE(proposal.possible || !possible) << proposal.reason;
    }
    EXPECT_GT(cured, count / 3);
}

TEST(Tree, AnAmplifiersGainReachesExactlyWhatLiesBehindIt) {
    std::mt19937 random(3);
    for (int i = 0; i < 40; ++i) {
        Tree tree = randomTree(random);
        const auto before = *findTree(tree, shipped());
        TreeNode amplifier = part("V", "", TreePart::Amplifier);
        amplifier.unit.gainDb = 7;
        // Ahead of the first joint lies everything.
        tree.nodes[0].from = "V";
        tree.nodes.push_back(amplifier);
        const auto after = *findTree(tree, shipped());
        for (std::size_t n = 0; n + 1 < tree.nodes.size(); ++n) {
            EXPECT_NEAR(after.points[n].lowDb, before.points[n].lowDb + 7, 1e-9);
            EXPECT_NEAR(after.points[n].leastDb, before.points[n].leastDb + 7, 1e-9);
        }
    }
}

TEST(Tree, KeysOfEveryPartAreReadAndRefused) {
    const auto read = [](const std::string& part) {
        return readTree(R"({"levelDbuv": 70, "fromMhz": 47, "toMhz": 862, "leastDbuv": 45,
            "mostDbuv": 75, "returnPath": {"fromMhz": 5, "toMhz": 85, "mostLossDb": 40},
            "oneReceiverACable": true, "headOutputs": 2, "mostBetweenDb": 45,
            "nodes": [)" + part +
                            "]}",
                        "tree.json", shipped());
    };
    const auto tree = read(R"({"id": "V", "part": "amplifier", "gainDb": 20, "returnGainDb": -3},
        {"id": "M", "from": "V", "part": "multiswitch", "ways": 16, "throughDb": -2},
        {"id": "T", "from": "M", "part": "tap", "tapDb": 14, "throughDb": 1.5, "terminators": 1},
        {"id": "O", "from": "T", "part": "outlet", "leastDbuv": 50})");
    ASSERT_TRUE(tree) << render(tree.error(), {});
    EXPECT_EQ(*tree->nodes[0].unit.returnGainDb, -3);
    EXPECT_EQ(tree->nodes[1].unit.ways, 16);
    EXPECT_EQ(tree->nodes[1].unit.throughDb, -2);
    EXPECT_EQ(tree->nodes[2].unit.terminators, 1);
    EXPECT_EQ(*tree->nodes[3].unit.least, 50);
    EXPECT_EQ(tree->returnPath->toMhz, 85);
    EXPECT_EQ(tree->headOutputs, 2);
    EXPECT_EQ(*tree->mostBetweenDb, 45);
    for (const auto& node : tree->nodes) {
        // What is written is read back.
        auto json = toJson(node.unit);
        JsonObject in(json, "unit", "");
        EXPECT_EQ(readUnit(in), node.unit);
    }
    EXPECT_NE(
        render(read(R"({"id": "S", "part": "splitter", "ways": 9})").error(), {}).find("ways"),
        std::string::npos);
    EXPECT_NE(render(read(R"({"id": "S", "part": "mixer"})").error(), {}).find("mixer"),
              std::string::npos);
    EXPECT_NE(
        render(read(R"({"id": "O", "part": "outlet", "gainDb": 3})").error(), {}).find("gainDb"),
        std::string::npos);
}
