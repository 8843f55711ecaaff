#pragma once
#include "core/coax/tree_plan.h"
#include <array>

/// Part of the search for what would cure a tree.
namespace burin {

/// The tree as arrays over a few frequencies: what a change does to its levels is additions alone.
class TreeGrid {
public:
    static constexpr int gridPoints = 9;
    using Curve = std::array<double, gridPoints>;

    TreeGrid(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue);
    [[nodiscard]] Curve feedOf(const TreeNode& node, const Catalogue& catalogue) const {
        return curve([&](double f) { return feedLossDb(node, catalogue, f); });
    }
    [[nodiscard]] const Curve& feed(std::size_t node) const { return nodes_[node].feed; }
    /// Loss of a part.
    [[nodiscard]] Curve lossOf(const TreeUnit& unit, bool tapPort = false) const {
        return curve([&](double f) { return unitLossDb(*tree_, unit, tapPort, f); });
    }
    void setTap(std::size_t node, double db) {
        nodes_[node].tap.fill(db);
        nodes_[node].through.fill(tapThroughDb(db));
    }
    /// So much more loss on the way to `node`.
    void add(std::size_t node, const Curve& loss, double sign = 1) {
        for (std::size_t k = 0; k < gridPoints; ++k)
            nodes_[node].extra[k] += sign * loss[k];
    }
    void compute();
    /// Level into a part once computed, or before the cable that leads to it.
    [[nodiscard]] Curve into(std::size_t node, bool nearEnd = false) const {
        Curve out = nodes_[node].in;
        if (nearEnd)
            for (std::size_t k = 0; k < gridPoints; ++k)
                out[k] += nodes_[node].feed[k];
        return out;
    }

private:
    struct Node {
        Curve feed{}, extra{}, through{}, tap{}, in{};
    };
    template <typename F> [[nodiscard]] Curve curve(F value) const {
        Curve out{};
        for (std::size_t k = 0; k < gridPoints; ++k)
            out[k] = value(mhz_[k]);
        return out;
    }
    const Tree* tree_;
    const TreePlan* plan_;
    std::vector<Node> nodes_;
    Curve mhz_{};
};

} // namespace burin
