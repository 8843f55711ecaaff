#include "core/coax/tree_plan.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {
double tapThroughDb(double tapDb) {
    return tapDb <= 8 ? 4 : tapDb <= 12 ? 2.5 : tapDb <= 18 ? 1.5 : 1;
}

namespace {

struct Spread {
    double mostNeeded = -1e9, leastNeeded = 1e9; ///< gain the outlets ask for, and bear
    double slopeNeeded = 0;
    bool any = false;
};

/// What gain ahead of `node` the outlets behind it ask for and bear, once `slopeDb` levels them.
Spread spreadBehind(const Tree& tree, const TreePlan& plan, const TreeFinding& finding,
                    std::size_t node, double slopeDb) {
    Spread out;
    double tilt = 0;
    int outlets = 0;
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        if (tree.nodes[i].unit.part != TreePart::Outlet)
            continue;
        std::optional<std::size_t> at = i;
        while (at && *at != node)
            at = plan.parent[*at];
        if (!at)
            continue;
        const auto& p = finding.points[i];
        const double least = tree.nodes[i].unit.least.value_or(tree.least);
        const double most = tree.nodes[i].unit.most.value_or(tree.most);
        out.any = true;
        out.mostNeeded = std::max({out.mostNeeded, least - p.lowDb, least - p.highDb - slopeDb});
        out.leastNeeded = std::min({out.leastNeeded, most - p.lowDb, most - p.highDb - slopeDb});
        tilt += p.lowDb - p.highDb;
        ++outlets;
    }
    out.slopeNeeded = outlets == 0 ? 0 : tilt / outlets;
    return out;
}

/// Taps from the head outward, each the largest value that leaves its outlets in their window.
void chooseTaps(Tree& tree, const TreePlan& plan, const Catalogue& catalogue, TreeProposal& out) {
    for (const std::size_t i : plan.order) {
        if (tree.nodes[i].unit.part != TreePart::Tap)
            continue;
        for (const double value : {30.0, 27.0, 24.0, 20.0, 17.0, 14.0, 12.0, 10.0, 8.0, 6.0}) {
            tree.nodes[i].unit.tapDb = value;
            tree.nodes[i].unit.throughDb = tapThroughDb(value);
            const TreeLevels low = levelsAt(tree, plan, catalogue, tree.fromMhz);
            const TreeLevels high = levelsAt(tree, plan, catalogue, tree.toMhz);
            bool enough = true;
            for (std::size_t o = 0; o < tree.nodes.size(); ++o)
                if (tree.nodes[o].unit.part == TreePart::Outlet && plan.parent[o] == i &&
                    tree.nodes[o].fromTap)
                    enough = enough && std::min(low.outDb[o], high.outDb[o]) >=
                                           tree.nodes[o].unit.least.value_or(tree.least);
            if (enough)
                break;
        }
        out.tapDb.emplace_back(tree.nodes[i].id, tree.nodes[i].unit.tapDb);
    }
}

/// What stands whatever the levels: outputs that are shared, a head with too few, outlets too far
/// apart, an amplifier that lets nothing back.
std::string wiringFault(const Tree& tree, const TreePlan& plan, const TreeFinding& finding) {
    if (!finding.problems.empty())
        return finding.problems.front();
    TreeFinding bare;
    bare.points.resize(tree.nodes.size());
    Tree ways = tree;
    ways.mostBetweenDb.reset();
    if (ways.returnPath)
        ways.returnPath->mostLossDb = 1e9;
    judgeWays(ways, plan, Catalogue{}, bare);
    for (std::size_t i = 0; i < bare.points.size(); ++i)
        if (!bare.points[i].good)
            return tree.nodes[i].id + " " + bare.points[i].reason;
    return {};
}

} // namespace

Outcome<TreeProposal> proposeTree(const Tree& given, const Catalogue& catalogue) {
    const auto plan = planOf(given);
    if (!plan)
        return refuse(plan.error());
    Tree tree = given;
    TreeProposal out;
    auto finding = findTree(tree, catalogue);
    if (!finding)
        return refuse(finding.error());
    if (finding->good)
        return TreeProposal{true, "every outlet is in its window as it is", "", 0, 0, {}};
    // Wiring that no gain or tap cures is said first.
    if (const auto wiring = wiringFault(tree, *plan, *finding); !wiring.empty())
        return TreeProposal{false, wiring, "", 0, 0, {}};
    chooseTaps(tree, *plan, catalogue, out);
    finding = findTree(tree, catalogue);
    if (finding->good) {
        out.possible = true;
        out.reason = "other tap values bring every outlet into its window";
        return out;
    }
    // An amplifier ahead of a part: as near the outlets as its input and its ceiling allow, tried
    // from the head outward so that one serves as many as it can.
    TreeNode amplifier;
    amplifier.unit.part = TreePart::Amplifier;
    // Where something has to come back, it must be one that lets it.
    if (tree.returnPath)
        amplifier.unit.returnGainDb = 0;
    std::string why = "no place has 60 dBµV left for an amplifier";
    const TreeLevels low = levelsAt(tree, *plan, catalogue, tree.fromMhz);
    const TreeLevels high = levelsAt(tree, *plan, catalogue, tree.toMhz);
    for (const std::size_t i : plan->order) {
        if (tree.nodes[i].unit.part == TreePart::Outlet && plan->parent[i])
            continue;
        const double inLow = low.inDb[i];
        const double inHigh = high.inDb[i];
        if (std::min(inLow, inHigh) < leastAmplifierInputDb)
            continue;
        const double slope = std::max(0.0, spreadBehind(tree, *plan, *finding, i, 0).slopeNeeded);
        const Spread spread = spreadBehind(tree, *plan, *finding, i, slope);
        if (!spread.any)
            continue;
        if (spread.mostNeeded > spread.leastNeeded) {
            why = "the outlets behind " + tree.nodes[i].id + " differ by " +
                  formatFixed(spread.mostNeeded - spread.leastNeeded, 1) +
                  " dB more than their window is wide; level them with taps first";
            continue;
        }
        const double gain = std::max(0.0, (spread.mostNeeded + spread.leastNeeded) / 2);
        const double top = std::max(inLow + gain, inHigh + gain + slope);
        const double ceiling = ceilingOf(tree, amplifier.unit);
        if (top > ceiling) {
            why = "an amplifier ahead of " + tree.nodes[i].id + " would have to give " +
                  formatFixed(top - ceiling, 1) + " dB more than its ceiling";
            continue;
        }
        // Whoever does not lie behind it must be well already.
        Tree tried = tree;
        tried.nodes[i].from = "\x01 amplifier";
        TreeNode put = amplifier;
        put.id = tried.nodes[i].from;
        put.from = tree.nodes[i].from;
        put.fromTap = tree.nodes[i].fromTap;
        put.feed = tree.nodes[i].feed;
        tried.nodes[i].feed = {};
        tried.nodes[i].fromTap = false;
        put.unit.gainDb = gain;
        put.unit.slopeDb = slope;
        tried.nodes.push_back(put);
        const auto after = findTree(tried, catalogue);
        if (after && after->good) {
            out.possible = true;
            out.before = tree.nodes[i].id;
            out.gainDb = gain;
            out.slopeDb = slope;
            out.reason = "an amplifier of " + formatFixed(gain, 1) + " dB" +
                         (slope > 0 ? ", and " + formatFixed(slope, 1) + " dB more at " +
                                          formatMhz(tree.toMhz) + ","
                                    : "") +
                         " ahead of " + out.before;
            return out;
        }
        why = "an amplifier ahead of " + tree.nodes[i].id + " does not serve every outlet";
    }
    out.reason = why;
    return out;
}

} // namespace burin
