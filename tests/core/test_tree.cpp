#include "core/coax/tree.h"
#include "core/shipped.h"
#include <gtest/gtest.h>

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
