#pragma once
#include "core/coax/tree_plan.h"
#include <map>

/// What the files of a tree's proposal share; screens and commands want core/coax/tree.h.
namespace burin {

/// Changes that might make a tree good, with what they take.
struct TreeCandidate {
    std::vector<TreeChange> changes;
    Cost cost;
};

/// Index of a part by its name; the number of parts where it is not there.
std::size_t indexOf(const Tree& tree, const std::string& id);
/// What one change takes, by the catalogue's costs.
Cost costOf(const Tree& tree, const TreeChange& change, const Catalogue& catalogue);
/// Cables of the same impedance in place of the one that feeds a part, with connectors that fit.
std::vector<TreeChange> otherCables(const Tree& tree, std::size_t node, const Catalogue& catalogue);

/// Changes whose levels are right at every outlet, cheapest first; what else has to be right
/// (ceilings, noise, the way back, volts) is for findTree to say. `plan` is the tree's.
std::vector<TreeCandidate> levelChanges(const Tree& tree, const TreePlan& plan,
                                        const Catalogue& catalogue);
/// Where what counts lies between outlets, and not at them: other cable alone, one run or all.
std::vector<TreeCandidate> cableChanges(const Tree& tree, const Catalogue& catalogue);
/// The outlet that is furthest out of its window as the tree is, and by how many dB.
std::pair<std::string, double> worstOutlet(const Tree& tree, const TreePlan& plan,
                                           const Catalogue& catalogue);

} // namespace burin
