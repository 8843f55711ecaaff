#pragma once
#include "core/coax/tree.h"

/// What the files of a tree share; screens and commands want core/coax/tree.h.
namespace burin {

inline constexpr double leastAmplifierInputDb = 60; ///< dBµV

/// A tree that has been checked: parts in an order in which each comes after what feeds it.
struct TreePlan {
    std::vector<std::size_t> order;
    std::vector<std::optional<std::size_t>> parent;
    std::vector<int> children;
};
Outcome<TreePlan> planOf(const Tree& tree);

/// Loss of a part from its input to its outputs, or to its tap port.
double unitLossDb(const Tree& tree, const TreeUnit& unit, bool tapPort, double frequencyMhz);
double partLossDb(const Tree& tree, const TreeNode& node, bool tapPort, double frequencyMhz);
double feedLossDb(const TreeNode& node, const Catalogue& catalogue, double frequencyMhz);

/// Level into each part and behind it, dBµV, and noise behind it as a power; one frequency.
struct TreeLevels {
    std::vector<double> inDb, outDb, noise;
};
TreeLevels levelsAt(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue,
                    double frequencyMhz);

/// Most an amplifier may give with the tree's channels, dBµV.
double ceilingOf(const Tree& tree, const TreeUnit& amplifier);

/// Adds what is wrong on the way back, between outlets, and where receivers share an output.
void judgeWays(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue,
               TreeFinding& finding);

} // namespace burin
