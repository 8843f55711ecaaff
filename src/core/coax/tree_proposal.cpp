#include "core/coax/tree_search.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {
double tapThroughDb(double tapDb) {
    return tapDb <= 8 ? 4 : tapDb <= 12 ? 2.5 : tapDb <= 18 ? 1.5 : 1;
}

namespace {

/// Candidates put in place in full, cheapest first, before it is called hopeless.
constexpr int mostTried = 400;

std::string decibels(double db) {
    return formatFixed(db, db == std::round(db) ? 0 : 1) + " dB";
}

std::string sentenceOf(const Tree& tree, const TreeChange& change, const Catalogue& catalogue) {
    const std::string place =
        change.nearEnd ? " at the near end of the cable to " + change.at : " ahead of " + change.at;
    const std::string passing =
        tree.oneReceiverACable ? ", of the kind that lets the receiver's volts through," : "";
    switch (change.kind) {
    case TreeChange::Kind::Tap:
        return "a tap of " + decibels(change.db) + " for " + change.at;
    case TreeChange::Kind::Pad:
        return "a pad of " + decibels(change.db) + passing + place;
    case TreeChange::Kind::Equaliser:
        return "an equaliser of " + decibels(change.slopeDb) + passing + place;
    case TreeChange::Kind::Amplifier:
        return "an amplifier of " + formatFixed(change.db, 1) + " dB" +
               (change.slopeDb > 0 ? ", and " + formatFixed(change.slopeDb, 1) + " dB more at " +
                                         formatMhz(tree.toMhz) + ","
                                   : "") +
               (tree.returnPath ? " with a way back of 0 dB" : "") + passing + place;
    case TreeChange::Kind::Cable:
        break;
    }
    const Cable* cable = catalogue.cable(change.cableId);
    return (cable == nullptr ? change.cableId : cable->name) + " for the " +
           formatFixed(tree.nodes[indexOf(tree, change.at)].feed.fixedLengthM(), 1) + " m to " +
           change.at;
}

/// What stands whatever the levels: outputs that are shared, a head with too few, outlets joined by
/// nothing but the head, an amplifier that lets nothing back.
std::string wiringFault(const Tree& tree, const TreePlan& plan, const TreeFinding& finding) {
    if (!tree.mostBetweenDb && !finding.problems.empty())
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

Tree withAll(Tree tree, const std::vector<TreeChange>& changes, const Catalogue& catalogue) {
    for (const auto& change : changes)
        tree = changed(tree, change, catalogue);
    return tree;
}

} // namespace

std::optional<TreeUnit> unitOf(const TreeChange& change, bool returnPath) {
    TreeUnit out;
    switch (change.kind) {
    case TreeChange::Kind::Tap:
    case TreeChange::Kind::Cable:
        return std::nullopt;
    case TreeChange::Kind::Pad:
        out.part = TreePart::Pad;
        out.throughDb = change.db;
        break;
    case TreeChange::Kind::Equaliser:
        out.part = TreePart::Equaliser;
        out.slopeDb = change.slopeDb;
        out.throughDb = equaliserTopDb;
        break;
    case TreeChange::Kind::Amplifier:
        out.part = TreePart::Amplifier;
        out.gainDb = change.db;
        out.slopeDb = change.slopeDb;
        // Where something has to come back, it must be one that lets it.
        if (returnPath)
            out.returnGainDb = 0;
        break;
    }
    return out;
}

Tree changed(const Tree& tree, const TreeChange& change, const Catalogue& catalogue) {
    Tree out = tree;
    TreeNode& node = out.nodes.at(indexOf(tree, change.at));
    if (change.kind == TreeChange::Kind::Tap) {
        node.unit.tapDb = change.db;
        node.unit.throughDb = tapThroughDb(change.db);
        return out;
    }
    if (change.kind == TreeChange::Kind::Cable) {
        node.feed.cable = catalogue.cable(change.cableId);
        node.feed.connections.clear();
        for (const auto& id : change.connections)
            node.feed.connections.push_back(catalogue.connection(id));
        return out;
    }
    TreeNode put;
    put.id = "+" + change.at;
    while (indexOf(out, put.id) < out.nodes.size())
        put.id = "+" + put.id;
    put.from = node.from;
    put.fromTap = node.fromTap;
    put.unit = *unitOf(change, tree.returnPath.has_value());
    if (!change.nearEnd) {
        put.feed = node.feed;
        node.feed = {};
    }
    node.from = put.id;
    node.fromTap = false;
    out.nodes.push_back(std::move(put));
    return out;
}

Outcome<TreeProposal> proposeTree(const Tree& tree, const Catalogue& catalogue,
                                  const TreeJudge& judge) {
    const auto plan = planOf(tree);
    if (!plan)
        return refuse(plan.error());
    const auto finding = findTree(tree, catalogue);
    if (!finding)
        return refuse(finding.error());
    const auto isGood = [&](const Tree& then) {
        const auto found = findTree(then, catalogue);
        return found && found->good && (!judge || judge(then));
    };
    TreeProposal out;
    if (finding->good && (!judge || judge(tree))) {
        out.possible = true;
        out.reason = "every outlet is in its window as it is";
        return out;
    }
    // Wiring that no part cures is said first.
    out.reason = wiringFault(tree, *plan, *finding);
    if (!out.reason.empty())
        return out;
    if (tree.sourceCarrierToNoiseDb && tree.leastCarrierToNoiseDb &&
        *tree.sourceCarrierToNoiseDb < *tree.leastCarrierToNoiseDb) {
        out.reason = "the head itself brings " + formatFixed(*tree.sourceCarrierToNoiseDb, 1) +
                     " dB of carrier to noise where " +
                     formatFixed(*tree.leastCarrierToNoiseDb, 1) +
                     " dB are wanted: nothing behind it mends that";
        return out;
    }
    const auto [worst, offDb] = worstOutlet(tree, *plan, catalogue);
    auto candidates = tree.mostBetweenDb || offDb <= 0 ? cableChanges(tree, catalogue)
                                                       : levelChanges(tree, *plan, catalogue);
    int tried = 0;
    for (TreeCandidate& candidate : candidates) {
        if (++tried > mostTried)
            break;
        if (!isGood(withAll(tree, candidate.changes, catalogue)))
            continue;
        out.possible = true;
        for (std::size_t i = 0; i < candidate.changes.size(); ++i)
            out.reason += (i == 0                              ? ""
                           : i + 1 == candidate.changes.size() ? " and "
                                                               : ", ") +
                          sentenceOf(tree, candidate.changes[i], catalogue);
        out.reason += " (" + candidate.cost.text() + ")";
        out.changes = std::move(candidate.changes);
        out.cost = candidate.cost;
        return out;
    }
    out.reason =
        "no pad, equaliser, tap, amplifier or cable of the catalogue that was put in place "
        "makes all of it good";
    if (offDb > 0)
        out.reason += "; " + worst + " is " + formatFixed(offDb, 1) +
                      " dB out of its window. Raise the level at the head, or move the head nearer";
    else if (!finding->problems.empty())
        out.reason += "; " + finding->problems.front();
    return out;
}

} // namespace burin
