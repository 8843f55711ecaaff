#include "core/coax/tree_grid.h"

namespace burin {

TreeGrid::TreeGrid(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue)
    : tree_(&tree), plan_(&plan), nodes_(tree.nodes.size()) {
    for (std::size_t k = 0; k < gridPoints; ++k)
        mhz_[k] =
            tree.fromMhz + (tree.toMhz - tree.fromMhz) * static_cast<double>(k) / (gridPoints - 1);
    for (std::size_t i = 0; i < nodes_.size(); ++i) {
        nodes_[i].feed = feedOf(tree.nodes[i], catalogue);
        nodes_[i].through = lossOf(tree.nodes[i].unit);
        nodes_[i].tap = lossOf(tree.nodes[i].unit, true);
    }
}

void TreeGrid::compute() {
    for (const std::size_t i : plan_->order) {
        Node& node = nodes_[i];
        const Node* feeder = plan_->parent[i] ? &nodes_[*plan_->parent[i]] : nullptr;
        const bool tap = tree_->nodes[i].fromTap;
        for (std::size_t k = 0; k < gridPoints; ++k) {
            const double place = static_cast<double>(k) / (gridPoints - 1);
            const double level = feeder == nullptr
                                     ? tree_->levelDb + tree_->slopeDb * place
                                     : feeder->in[k] - (tap ? feeder->tap[k] : feeder->through[k]);
            node.in[k] = level - node.feed[k] - node.extra[k];
        }
    }
}

} // namespace burin
