#include "core/coax/tree_json.h"
#include "core/shipped.h"
#include <gtest/gtest.h>
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

double loss(double lengthM, double f) {
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
    EXPECT_NEAR(pointOf(f, "TV3").lowDb, 80 - loss(40, 47) - 7.4, 1e-9);
    EXPECT_NEAR(pointOf(f, "TV3").highDb, 80 - loss(40, 862) - 7.4, 1e-9);
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
    EXPECT_NE(pointOf(f, "TV1").reason.find("too much"), std::string::npos);
    tree.levelDb = 55;
    f = *findTree(tree, shipped());
    EXPECT_NE(pointOf(f, "TV3").reason.find("too little"), std::string::npos);
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
    EXPECT_NEAR(pointOf(f, "A").lowDb, 82 - loss(50, 47), 1e-9);
    EXPECT_NEAR(pointOf(f, "A").highDb, 88 - loss(50, 862), 1e-9);
    // kTB in 5 MHz is 1.75 dBµV; with a noise figure of 5 dB, 62 dBµV stand 55.25 dB over it.
    EXPECT_NEAR(*pointOf(f, "A").carrierToNoiseDb, 62 - 6.75, 0.01);
    EXPECT_TRUE(pointOf(f, "V").good);
    tree.levelDb = 55;
    EXPECT_NE(pointOf(*findTree(tree, shipped()), "V").reason.find("ahead of the loss"),
              std::string::npos);
    tree.levelDb = 80; // 106 out, ceiling 105 − 7.5·log 39 = 93.1
    EXPECT_NE(pointOf(*findTree(tree, shipped()), "V").reason.find("12.9 dB over its ceiling"),
              std::string::npos)
        << pointOf(*findTree(tree, shipped()), "V").reason;
}

TEST(Tree, NoiseOfTwoAmplifiersAdds) {
    Tree tree = smallTree();
    tree.levelDb = 60;
    TreeNode one = part("V1", "", TreePart::Amplifier);
    one.unit.gainDb = 10;
    TreeNode two = part("V2", "V1", TreePart::Amplifier);
    TreeNode pad = part("T", "V1", TreePart::Tap); // 10 dB between them
    pad.unit.throughDb = 10;
    two.from = "T";
    two.unit.gainDb = 10;
    tree.nodes = {one, pad, two, part("A", "V2", TreePart::Outlet)};
    // Equal inputs of 60: 3 dB worse than one.
    EXPECT_NEAR(*pointOf(*findTree(tree, shipped()), "A").carrierToNoiseDb,
                60 - 6.75 - 10 * std::log10(2.0), 0.02);
}

TEST(Tree, IsolationBetweenOutlets) {
    const Tree tree = smallTree();
    EXPECT_NEAR(*outletIsolationDb(tree, shipped(), "TV1", "TV3", 500), 22 + loss(45, 500), 1e-9);
    EXPECT_FALSE(outletIsolationDb(tree, shipped(), "TV1", "TV9", 500).has_value());
}

TEST(Tree, ImpossibleTreesAreRefusedByName) {
    Tree tree = smallTree();
    tree.nodes[1].from = "S2";
    tree.nodes.push_back(part("S2", "S1", TreePart::Splitter));
    const auto loop = findTree(tree, shipped());
    ASSERT_FALSE(loop.has_value());
    EXPECT_NE(loop.error().what.find("loop"), std::string::npos);
    tree = smallTree();
    tree.nodes[0].id = "TV2";
    EXPECT_EQ(findTree(tree, shipped()).error().where, "TV2");
    tree = smallTree();
    tree.nodes[0].from = "S9";
    EXPECT_NE(findTree(tree, shipped()).error().what.find("S9"), std::string::npos);
    tree = smallTree();
    tree.nodes[1].unit.ways = 2;
    EXPECT_NE(findTree(tree, shipped()).error().what.find("2 ports"), std::string::npos);
    tree = smallTree();
    tree.nodes[0].from = "TV3";
    EXPECT_NE(findTree(tree, shipped()).error().what.find("behind an outlet"), std::string::npos);
    tree = smallTree();
    tree.nodes[0].feed.stretches[0].lengthM = -2;
    EXPECT_EQ(findTree(tree, shipped()).error().where, "TV1");
}

TEST(Tree, AProposedAmplifierBringsAllIntoTheirWindow) {
    Tree tree = smallTree();
    tree.levelDb = 62;
    for (auto& node : tree.nodes)
        if (node.unit.part == TreePart::Outlet)
            node.feed.stretches[0].lengthM += 50;
    ASSERT_FALSE(findTree(tree, shipped())->good);
    const auto proposal = *proposeTree(tree, shipped());
    ASSERT_TRUE(proposal.possible) << proposal.reason;
    EXPECT_EQ(proposal.before, "S1");
    TreeNode amplifier = part("V", "", TreePart::Amplifier, 10);
    amplifier.unit.gainDb = proposal.gainDb;
    amplifier.unit.slopeDb = proposal.slopeDb;
    tree.nodes[1].from = "V";
    tree.nodes[1].feed = {};
    tree.nodes.push_back(amplifier);
    EXPECT_TRUE(findTree(tree, shipped())->good);
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
    ASSERT_EQ(proposal.tapDb.size(), 5U);
    EXPECT_GT(proposal.tapDb.front().second, proposal.tapDb.back().second);
}

TEST(Tree, WhatCannotBeIsSaid) {
    Tree tree = smallTree();
    tree.levelDb = 40; // nowhere 60 dBµV left
    const auto proposal = *proposeTree(tree, shipped());
    EXPECT_FALSE(proposal.possible);
    EXPECT_NE(proposal.reason.find("60 dBµV"), std::string::npos);
}

TEST(Tree, AFlatAmplifierIsProposedWhereItWillDo) {
    Tree tree = smallTree();
    tree.levelDb = 69;
    tree.nodes[3].feed.stretches[0].lengthM = 75; // TV3: 42.9 dBµV at the top, 2 dB too little
    const auto finding = *findTree(tree, shipped());
    ASSERT_FALSE(finding.good);
    const auto proposal = *proposeTree(tree, shipped());
    ASSERT_TRUE(proposal.possible) << proposal.reason;
    EXPECT_EQ(proposal.slopeDb, 0);
    EXPECT_GT(proposal.gainDb, 0);
    EXPECT_EQ(proposal.gainDb * 2, std::round(proposal.gainDb * 2)); // set in half decibels
}

namespace {

/// A random tree of splitters and taps with outlets on what ports are left.
Tree randomTree(std::mt19937& random) {
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    Tree tree = smallTree();
    tree.nodes.clear();
    tree.levelDb = 62 + upTo(25);
    std::vector<std::string> open;
    const int joints = 1 + upTo(3);
    for (int i = 0; i < joints; ++i) {
        const std::string id = "J" + std::to_string(i);
        const std::string from =
            i == 0 ? "" : open[static_cast<std::size_t>(upTo(static_cast<int>(open.size()) - 1))];
        TreeNode joint = part(id.c_str(), from.c_str(), TreePart::Splitter, 5 + upTo(30));
        joint.unit.ways = 8;
        tree.nodes.push_back(joint);
        open.push_back(id);
    }
    for (int i = 0; i < 6; ++i)
        tree.nodes.push_back(part(("O" + std::to_string(i)).c_str(),
                                  open[static_cast<std::size_t>(upTo(joints - 1))].c_str(),
                                  TreePart::Outlet, 5 + upTo(60)));
    return tree;
}

} // namespace

TEST(Tree, WhateverIsProposedHolds) {
    std::mt19937 random(11);
    int proposed = 0;
    int refused = 0;
    for (int i = 0; i < 150; ++i) {
        const Tree tree = randomTree(random);
        const auto finding = findTree(tree, shipped());
        ASSERT_TRUE(finding) << finding.error().text();
        const auto proposal = *proposeTree(tree, shipped());
        if (!proposal.possible) {
            EXPECT_FALSE(proposal.reason.empty());
            EXPECT_FALSE(finding->good);
            ++refused;
            continue;
        }
        if (proposal.before.empty())
            continue;
        ++proposed;
        Tree tried = tree;
        for (auto& node : tried.nodes)
            if (node.id == proposal.before) {
                TreeNode amplifier = part("V", node.from.c_str(), TreePart::Amplifier);
                amplifier.feed = node.feed;
                amplifier.unit.gainDb = proposal.gainDb;
                amplifier.unit.slopeDb = proposal.slopeDb;
                node.from = "V";
                node.feed = {};
                tried.nodes.push_back(amplifier);
                break;
            }
        EXPECT_TRUE(findTree(tried, shipped())->good) << proposal.reason;
    }
    EXPECT_GT(proposed, 10);
    EXPECT_GT(refused, 10);
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
    ASSERT_TRUE(tree) << tree.error().text();
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
    EXPECT_NE(read(R"({"id": "S", "part": "splitter", "ways": 9})").error().text().find("ways"),
              std::string::npos);
    EXPECT_NE(read(R"({"id": "S", "part": "mixer"})").error().text().find("mixer"),
              std::string::npos);
    EXPECT_NE(read(R"({"id": "O", "part": "outlet", "gainDb": 3})").error().text().find("gainDb"),
              std::string::npos);
}
