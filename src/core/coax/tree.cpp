#include "core/coax/tree_plan.h"
#include "core/line/chain.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace burin {
namespace {

constexpr double ohm = 75;

/// kTB in the tree's bandwidth, dBµV: −174 dBm/Hz, and 0 dBm over 75 Ω are 108.75 dBµV.
double thermalNoiseDb(const Tree& tree) {
    return -174 + 10 * std::log10(tree.bandwidthMhz * 1e6) + 108.75;
}

double power(double db) {
    return std::pow(10, db / 10);
}

} // namespace

Outcome<TreePlan> planOf(const Tree& tree) {
    if (!(tree.fromMhz > 0) || !(tree.toMhz > tree.fromMhz))
        return refuse("tree", {"tree.band-does-not", "its band does not rise"},
                      {"cure.give-frommhz-below", "Give fromMhz below toMhz"});
    std::map<std::string, std::size_t> byName;
    for (std::size_t i = 0; i < tree.nodes.size(); ++i)
        if (!byName.emplace(tree.nodes[i].id, i).second)
            return refuse(tree.nodes[i].id, {"tree.two-parts-id", "two parts have this id"},
                          {"cure.rename", "Rename one"});
    TreePlan plan;
    plan.parent.resize(tree.nodes.size());
    plan.children.assign(tree.nodes.size(), 0);
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        const auto& node = tree.nodes[i];
        for (const auto& stretch : node.feed.stretches)
            if (!(stretch.lengthM >= 0))
                return refuse(
                    node.id,
                    sentence({"tree.cable", "its cable is {0}"}, asMetres(stretch.lengthM, 1)),
                    {"cure.give-length-m", "Give a length of 0 m or more"});
        if (node.from.empty())
            continue;
        const auto found = byName.find(node.from);
        if (found == byName.end())
            return refuse(
                node.id,
                sentence({"tree.fed-not", "it is fed by “{0}”, which is not there"}, node.from),
                {"cure.name-part-tree", "Name a part of the tree, or leave it empty for the head"});
        plan.parent[i] = found->second;
        const auto& feeder = tree.nodes[found->second];
        const int ports = feeder.unit.ports();
        if (++plan.children[found->second] > ports)
            return refuse(
                feeder.id,
                feeder.unit.part == TreePart::Outlet
                    ? sentence({"tree.hangs-behind-outlet", "“{0}” hangs behind an outlet"},
                               node.id)
                    : sentence({"tree.more-hang-ports", "more hang on it than its {0} ports"},
                               asCount(ports)),
                {"cure.put-splitter", "Put a splitter there"});
    }
    std::vector<int> state(tree.nodes.size(), 0); // 1: on the way up, 2: placed
    for (std::size_t start = 0; start < tree.nodes.size(); ++start) {
        std::vector<std::size_t> way;
        std::optional<std::size_t> at = start;
        while (at && state[*at] == 0) {
            state[*at] = 1;
            way.push_back(*at);
            at = plan.parent[*at];
        }
        if (at && state[*at] == 1)
            return refuse(
                tree.nodes[*at].id,
                {"tree.feeds-itself-tree", "it feeds itself: the tree has a loop"},
                {"cure.cut-loop-signal", "Cut the loop; a signal may reach a part one way only"});
        for (auto it = way.rbegin(); it != way.rend(); ++it) {
            state[*it] = 2;
            plan.order.push_back(*it);
        }
    }
    return plan;
}

double unitLossDb(const Tree& tree, const TreeUnit& unit, bool tapPort, double f) {
    switch (unit.part) {
    case TreePart::Splitter:
        return padLossDb(*splitterPart(unit.ways, ohm), f);
    case TreePart::Tap:
        return tapPort ? unit.tapDb : unit.throughDb;
    case TreePart::Amplifier: {
        const double place = (f - tree.fromMhz) / (tree.toMhz - tree.fromMhz);
        return -(unit.gainDb + unit.slopeDb * place);
    }
    case TreePart::Multiswitch:
    case TreePart::Pad:
    case TreePart::DcBlock:
    case TreePart::SurgeArrester:
        return unit.throughDb;
    case TreePart::Equaliser: {
        // As cable: by the root of the frequency; below the band as at its bottom.
        const double at = std::sqrt(std::max(f, tree.fromMhz));
        const double top = std::sqrt(tree.toMhz);
        return unit.throughDb + unit.slopeDb * (top - at) / (top - std::sqrt(tree.fromMhz));
    }
    case TreePart::Outlet:
        break;
    }
    return 0;
}

double partLossDb(const Tree& tree, const TreeNode& node, bool tapPort, double f) {
    return unitLossDb(tree, node.unit, tapPort, f);
}

double feedLossDb(const TreeNode& node, const Catalogue& catalogue, double f) {
    return node.feed.cable == nullptr ? 0 : linkLoss(node.feed, catalogue, f).totalDb();
}

namespace {
double headDb(const Tree& tree, double f) {
    return tree.levelDb + tree.slopeDb * (f - tree.fromMhz) / (tree.toMhz - tree.fromMhz);
}

} // namespace

TreeLevels levelsAt(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue, double f) {
    const std::size_t n = tree.nodes.size();
    TreeLevels out{std::vector<double>(n), std::vector<double>(n), std::vector<double>(n)};
    const double thermal = power(thermalNoiseDb(tree));
    // A passive loss carries the noise down with the signal, and adds its own up to kTB.
    const auto lost = [&](double noise, double lossDb) {
        const double gain = power(-lossDb);
        return lossDb > 0 ? noise * gain + thermal * (1 - gain) : noise * gain;
    };
    std::vector<double> into(n);
    for (const std::size_t i : plan.order) {
        const auto& node = tree.nodes[i];
        double level = headDb(tree, f);
        double noise = thermal;
        if (tree.sourceCarrierToNoiseDb)
            noise = std::max(noise, power(level - *tree.sourceCarrierToNoiseDb));
        if (plan.parent[i]) {
            const std::size_t p = *plan.parent[i];
            // Behind a tap two ways part: the level into it less what this one takes.
            const double loss = partLossDb(tree, tree.nodes[p], node.fromTap, f);
            level = out.inDb[p] - loss;
            noise = tree.nodes[p].unit.part == TreePart::Tap ? lost(into[p], loss) : out.noise[p];
        }
        const double feed = feedLossDb(node, catalogue, f);
        out.inDb[i] = level - feed;
        into[i] = lost(noise, feed);
        const double own = partLossDb(tree, node, false, f);
        out.outDb[i] = out.inDb[i] - own;
        out.noise[i] =
            node.unit.part == TreePart::Amplifier
                ? (into[i] + thermal * (power(node.unit.noiseFigureDb) - 1)) * power(-own)
                : lost(into[i], own);
    }
    return out;
}

double ceilingOf(const Tree& tree, const TreeUnit& amplifier) {
    return amplifier.ceilingDb - (tree.channels > 1 ? 7.5 * std::log10(tree.channels - 1) : 0);
}

namespace {

void judgeOutlet(const Tree& tree, const TreeNode& node, TreePoint& point) {
    const double least = node.unit.least.value_or(tree.least);
    const double most = node.unit.most.value_or(tree.most);
    std::vector<Sentence> wrong;
    if (point.leastDb < least)
        wrong.push_back(
            sentence({"outlet.too-little", "{0} too little"}, asDecibel(least - point.leastDb)));
    if (point.mostDb > most)
        wrong.push_back(
            sentence({"outlet.too-much", "{0} too much"}, asDecibel(point.mostDb - most)));
    if (tree.leastCarrierToNoiseDb && point.carrierToNoiseDb < *tree.leastCarrierToNoiseDb)
        wrong.push_back(sentence({"outlet.noise", "carrier to noise {0}, {1} wanted"},
                                 asDecibel(point.carrierToNoiseDb),
                                 asDecibel(*tree.leastCarrierToNoiseDb)));
    if (wrong.empty())
        return;
    point.good = false;
    point.reason = listed(std::move(wrong));
}

void judgeAmplifier(const Tree& tree, const TreeNode& node, TreePoint& point, double leastInDb) {
    const double ceiling = ceilingOf(tree, node.unit);
    if (point.mostDb > ceiling) {
        point.good = false;
        point.reason = sentence(
            {"amplifier.ceiling", "{0} over its ceiling of {1} for {2} channels"},
            asDecibel(point.mostDb - ceiling), asUnit(ceiling, 1, "dBµV"), asCount(tree.channels));
    } else if (leastInDb < leastAmplifierInputDb) {
        point.good = false;
        point.reason =
            sentence({"amplifier.input", "only {0} at its input: it belongs ahead of the loss"},
                     asUnit(leastInDb, 1, "dBµV"));
    }
}

} // namespace

Outcome<TreeFinding> findTree(const Tree& tree, const Catalogue& catalogue, int points) {
    const auto plan = planOf(tree);
    if (!plan)
        return refuse(plan.error());
    for (const auto& node : tree.nodes)
        if (node.unit.part == TreePart::Splitter)
            if (const auto split = splitterPart(node.unit.ways, ohm); !split)
                return refuse(node.id, split.error().what, split.error().cure);
    TreeFinding out;
    std::vector<double> leastIn(tree.nodes.size(), 1e9);
    out.points.resize(tree.nodes.size());
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        out.points[i].id = tree.nodes[i].id;
        out.points[i].leastDb = 1e9;
        out.points[i].mostDb = -1e9;
        out.points[i].carrierToNoiseDb = 1e9;
    }
    for (int k = 0; k < points; ++k) {
        const double f = tree.fromMhz + (tree.toMhz - tree.fromMhz) * k / std::max(1, points - 1);
        const TreeLevels levels = levelsAt(tree, *plan, catalogue, f);
        for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
            TreePoint& p = out.points[i];
            const double level = levels.outDb[i];
            if (k == 0)
                p.lowDb = level;
            p.highDb = level;
            p.leastDb = std::min(p.leastDb, level);
            p.mostDb = std::max(p.mostDb, level);
            leastIn[i] = std::min(leastIn[i], levels.inDb[i]);
            p.carrierToNoiseDb =
                std::min(p.carrierToNoiseDb, level - 10 * std::log10(levels.noise[i]));
        }
    }
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        const auto& node = tree.nodes[i];
        if (node.unit.part == TreePart::Outlet)
            judgeOutlet(tree, node, out.points[i]);
        if (node.unit.part == TreePart::Amplifier)
            judgeAmplifier(tree, node, out.points[i], leastIn[i]);
        // A part of one way without anything behind it is not wired yet, which is no open port.
        const int ports = node.unit.ports() == 1 ? 0 : node.unit.ports();
        if (const int open = ports - plan->children[i] - node.unit.terminators; open > 0)
            out.unusedPorts.push_back(sentence(
                {"tree.open-ports", "{0}: {1} of {2} ports open; put a terminator on each"},
                node.id, asCount(open), asCount(ports)));
    }
    judgeWays(tree, *plan, catalogue, out);
    for (const auto& point : out.points)
        out.good = out.good && point.good;
    out.good = out.good && out.problems.empty();
    return out;
}

} // namespace burin
