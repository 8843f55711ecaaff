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

Quantity decibels(double db) {
    return asDecibel(db, db == std::round(db) ? 0 : 1);
}

Sentence amplifierOf(const Tree& tree, const TreeChange& change) {
    const auto db = asDecibel(change.db);
    // What follows a slope is parted from it by a comma; the kind brings its own.
    Sentence out =
        !(change.slopeDb > 0)
            ? sentence({"change.amplifier", "an amplifier of {0}"}, db)
            : sentence(
                  tree.oneReceiverACable
                      ? Wording{"change.sloping-kind", "an amplifier of {0}, and {1} more at {2}"}
                      : Wording{"change.sloping", "an amplifier of {0}, and {1} more at {2},"},
                  db, asDecibel(change.slopeDb), asMegahertz(tree.toMhz));
    return tree.returnPath
               ? sentence({"change.two-way", "{0} with a way back of 0 dB"}, std::move(out))
               : out;
}

/// A part that is put in, where it stands, and of which kind it has to be there.
Sentence placed(const Tree& tree, const TreeChange& change, Sentence part) {
    if (tree.oneReceiverACable)
        part =
            sentence({"change.passing", "{0}, of the kind that lets the receiver's volts through,"},
                     std::move(part));
    return sentence(change.nearEnd
                        ? Wording{"change.near-end", "{0} at the near end of the cable to {1}"}
                        : Wording{"change.ahead", "{0} ahead of {1}"},
                    std::move(part), change.at);
}

Sentence sentenceOf(const Tree& tree, const TreeChange& change, const Catalogue& catalogue) {
    switch (change.kind) {
    case TreeChange::Kind::Tap:
        return sentence({"change.tap", "a tap of {0} for {1}"}, decibels(change.db), change.at);
    case TreeChange::Kind::Pad:
        return placed(tree, change, sentence({"change.pad", "a pad of {0}"}, decibels(change.db)));
    case TreeChange::Kind::Equaliser:
        return placed(
            tree, change,
            sentence({"change.equaliser", "an equaliser of {0}"}, decibels(change.slopeDb)));
    case TreeChange::Kind::Amplifier:
        return placed(tree, change, amplifierOf(tree, change));
    case TreeChange::Kind::Cable:
        break;
    }
    const Cable* cable = catalogue.cable(change.cableId);
    return sentence({"change.cable", "{0} for the {1} to {2}"},
                    asTerm(cable == nullptr ? change.cableId : cable->name),
                    asMetres(tree.nodes[indexOf(tree, change.at)].feed.fixedLengthM()), change.at);
}

/// What stands whatever the levels: outputs that are shared, a head with too few, outlets joined by
/// nothing but the head, an amplifier that lets nothing back.
Sentence wiringFault(const Tree& tree, const TreePlan& plan, const TreeFinding& finding) {
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
            return sentence({"tree.wiring", "{0} {1}"}, tree.nodes[i].id, bare.points[i].reason);
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
        out.reason = sentence({"tree.good", "every outlet is in its window as it is"});
        return out;
    }
    // Wiring that no part cures is said first.
    out.reason = wiringFault(tree, *plan, *finding);
    if (!out.reason.empty())
        return out;
    if (tree.sourceCarrierToNoiseDb && tree.leastCarrierToNoiseDb &&
        *tree.sourceCarrierToNoiseDb < *tree.leastCarrierToNoiseDb) {
        out.reason = sentence(
            {"tree.head-noise", "the head itself brings {0} of carrier to noise "
                                "where {1} are wanted: nothing behind it mends that"},
            asDecibel(*tree.sourceCarrierToNoiseDb), asDecibel(*tree.leastCarrierToNoiseDb));
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
        std::vector<Sentence> done;
        for (const auto& change : candidate.changes)
            done.push_back(sentenceOf(tree, change, catalogue));
        out.reason =
            sentence({"tree.cure", "{0} ({1})"}, listed(std::move(done)), candidate.cost.said());
        out.changes = std::move(candidate.changes);
        out.cost = candidate.cost;
        return out;
    }
    out.reason = sentence({"tree.no-part", "no pad, equaliser, tap, amplifier or cable of the "
                                           "catalogue that was put in place makes all of it good"});
    if (offDb > 0)
        out.reason =
            joined({std::move(out.reason),
                    sentence({"tree.out-of-window",
                              "{0} is {1} out of its window. Raise the level at the head, or "
                              "move the head nearer"},
                             worst, asDecibel(offDb))},
                   "; ");
    else if (!finding->problems.empty())
        out.reason = joined({std::move(out.reason), finding->problems.front()}, "; ");
    return out;
}

} // namespace burin
