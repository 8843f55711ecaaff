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

/// An amplifier at the far end of the cable that feeds `node`, of that gain and slope.
Tree withAmplifierAhead(const Tree& tree, std::size_t node, double gainDb, double slopeDb) {
    Tree out = tree;
    TreeNode put;
    put.id = "\x01 amplifier";
    put.from = tree.nodes[node].from;
    put.fromTap = tree.nodes[node].fromTap;
    put.feed = tree.nodes[node].feed;
    put.unit.part = TreePart::Amplifier;
    put.unit.gainDb = gainDb;
    put.unit.slopeDb = slopeDb;
    // Where something has to come back, it must be one that lets it.
    if (tree.returnPath)
        put.unit.returnGainDb = 0;
    out.nodes[node].from = put.id;
    out.nodes[node].feed = {};
    out.nodes[node].fromTap = false;
    out.nodes.push_back(put);
    return out;
}

/// One place of a tree an amplifier might stand at.
struct AmplifierPlace {
    std::size_t node = 0;
    double inLowDb = 0, inHighDb = 0; ///< what would come into it
};

/// True when an amplifier of that slope there serves every outlet; else `why` says why not.
bool serves(const Tree& tree, const TreePlan& plan, const TreeFinding& finding,
            const Catalogue& catalogue, const AmplifierPlace& place, double slopeDb,
            TreeProposal& out, std::string& why) {
    const std::string& ahead = tree.nodes[place.node].id;
    const Spread spread = spreadBehind(tree, plan, finding, place.node, slopeDb);
    if (!spread.any)
        return false;
    if (spread.mostNeeded > spread.leastNeeded) {
        why = "the outlets behind " + ahead + " differ by " +
              formatFixed(spread.mostNeeded - spread.leastNeeded, 1) +
              " dB more than their window is wide; level them with taps first";
        return false;
    }
    // To the half decibel: amplifiers are set in steps.
    const double gain = std::max(0.0, std::round(spread.mostNeeded + spread.leastNeeded) / 2);
    const double top = std::max(place.inLowDb + gain, place.inHighDb + gain + slopeDb);
    const double ceiling = ceilingOf(tree, TreeUnit{});
    if (top > ceiling) {
        why = "an amplifier ahead of " + ahead + " would have to give " +
              formatFixed(top - ceiling, 1) + " dB more than its ceiling";
        return false;
    }
    // Whoever does not lie behind it must be well already.
    const auto after = findTree(withAmplifierAhead(tree, place.node, gain, slopeDb), catalogue);
    if (!after || !after->good) {
        why = "an amplifier ahead of " + ahead + " does not serve every outlet";
        return false;
    }
    out.possible = true;
    out.before = ahead;
    out.gainDb = gain;
    out.slopeDb = slopeDb;
    out.reason = "an amplifier of " + formatFixed(gain, 1) + " dB" +
                 (slopeDb > 0 ? ", and " + formatFixed(slopeDb, 1) + " dB more at " +
                                    formatMhz(tree.toMhz) + ","
                              : "") +
                 " ahead of " + ahead;
    return true;
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
    // From the head outward, so that one amplifier serves as many as it can; flat where flat will
    // do, since that is the one in the van.
    out.reason = "no place has 60 dBµV left for an amplifier";
    const TreeLevels low = levelsAt(tree, *plan, catalogue, tree.fromMhz);
    const TreeLevels high = levelsAt(tree, *plan, catalogue, tree.toMhz);
    for (const std::size_t i : plan->order) {
        const AmplifierPlace place{i, low.inDb[i], high.inDb[i]};
        if ((tree.nodes[i].unit.part == TreePart::Outlet && plan->parent[i]) ||
            std::min(place.inLowDb, place.inHighDb) < leastAmplifierInputDb)
            continue;
        const double tilt = std::max(0.0, spreadBehind(tree, *plan, *finding, i, 0).slopeNeeded);
        std::string why;
        for (const double slope : {0.0, std::round(tilt) / 2, std::round(tilt)})
            if (serves(tree, *plan, *finding, catalogue, place, slope, out, why))
                return out;
        if (!why.empty())
            out.reason = why;
    }
    return out;
}

} // namespace burin
