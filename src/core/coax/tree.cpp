#include "core/coax/tree.h"
#include "core/line/chain.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <map>

namespace burin {
namespace {

constexpr double isolationDb = 22;
constexpr double leastAmplifierInputDb = 60;
// −174 dBm/Hz in 5 MHz is −107 dBm, and 0 dBm over 75 Ω are 108.75 dBµV.
constexpr double thermalNoiseDb = -174 + 67 + 108.75;
constexpr double ohm = 75;

double power(double db) {
    return std::pow(10, db / 10);
}

/// A tree that has been checked: parts in an order in which each comes after what feeds it.
struct Plan {
    std::vector<std::size_t> order;
    std::vector<std::optional<std::size_t>> parent;
    std::vector<int> children;
};

Outcome<Plan> planOf(const Tree& tree) {
    if (!(tree.fromMhz > 0) || !(tree.toMhz > tree.fromMhz))
        return refuse("tree", "its band does not rise", "Give fromMhz below toMhz");
    std::map<std::string, std::size_t> byName;
    for (std::size_t i = 0; i < tree.nodes.size(); ++i)
        if (!byName.emplace(tree.nodes[i].id, i).second)
            return refuse(tree.nodes[i].id, "two parts have this id", "Rename one");
    Plan plan;
    plan.parent.resize(tree.nodes.size());
    plan.children.assign(tree.nodes.size(), 0);
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        const auto& node = tree.nodes[i];
        for (const auto& stretch : node.feed.stretches)
            if (!(stretch.lengthM >= 0))
                return refuse(node.id, "its cable is " + formatFixed(stretch.lengthM, 1) + " m",
                              "Give a length of 0 m or more");
        if (node.from.empty())
            continue;
        const auto found = byName.find(node.from);
        if (found == byName.end())
            return refuse(node.id, "it is fed by “" + node.from + "”, which is not there",
                          "Name a part of the tree, or leave it empty for the head");
        plan.parent[i] = found->second;
        const auto& feeder = tree.nodes[found->second];
        const int ports = feeder.part == TreePart::Outlet     ? 0
                          : feeder.part == TreePart::Splitter ? feeder.ways
                          : feeder.part == TreePart::Tap      ? 2
                                                              : 1;
        if (++plan.children[found->second] > ports)
            return refuse(feeder.id,
                          feeder.part == TreePart::Outlet
                              ? "“" + node.id + "” hangs behind an outlet"
                              : "more hang on it than its " + std::to_string(ports) + " ports",
                          "Put a splitter there");
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
            return refuse(tree.nodes[*at].id, "it feeds itself: the tree has a loop",
                          "Cut the loop; a signal may reach a part one way only");
        for (auto it = way.rbegin(); it != way.rend(); ++it) {
            state[*it] = 2;
            plan.order.push_back(*it);
        }
    }
    return plan;
}

/// Loss of a part from its input to what `child` hangs on.
double partLossDb(const Tree& tree, const TreeNode& part, bool tapPort, double f) {
    switch (part.part) {
    case TreePart::Splitter:
        return padLossDb(*splitterPart(part.ways, ohm), f);
    case TreePart::Tap:
        return tapPort ? part.tapDb : part.throughDb;
    case TreePart::Amplifier: {
        const double place = (f - tree.fromMhz) / (tree.toMhz - tree.fromMhz);
        return -(part.gainDb + part.slopeDb * place);
    }
    case TreePart::Outlet:
        break;
    }
    return 0;
}

double feedLossDb(const TreeNode& node, const Catalogue& catalogue, double f) {
    return node.feed.cable == nullptr ? 0 : linkLoss(node.feed, catalogue, f).totalDb();
}

double headDb(const Tree& tree, double f) {
    return tree.levelDb + tree.slopeDb * (f - tree.fromMhz) / (tree.toMhz - tree.fromMhz);
}

/// Level into each part and behind it, and noise behind it as a power; one frequency.
struct Levels {
    std::vector<double> inDb, outDb, noise;
};

Levels levelsAt(const Tree& tree, const Plan& plan, const Catalogue& catalogue, double f) {
    const std::size_t n = tree.nodes.size();
    Levels out{std::vector<double>(n), std::vector<double>(n), std::vector<double>(n)};
    for (const std::size_t i : plan.order) {
        const auto& node = tree.nodes[i];
        double level = headDb(tree, f);
        double noise = 0;
        if (plan.parent[i]) {
            const std::size_t p = *plan.parent[i];
            // Behind a tap two ways part: the level into it less what this one takes.
            const double loss = partLossDb(tree, tree.nodes[p], node.fromTap, f);
            level = out.inDb[p] - loss;
            noise = out.noise[p];
            if (tree.nodes[p].part != TreePart::Amplifier)
                noise *= power(-loss);
        }
        const double feed = feedLossDb(node, catalogue, f);
        out.inDb[i] = level - feed;
        out.noise[i] = noise * power(-feed);
        out.outDb[i] = out.inDb[i] - partLossDb(tree, node, false, f);
        if (node.part == TreePart::Amplifier)
            out.noise[i] = (out.noise[i] + power(thermalNoiseDb + node.noiseFigureDb)) *
                           power(out.outDb[i] - out.inDb[i]);
    }
    return out;
}

void judgeOutlet(const Tree& tree, const TreeNode& node, TreePoint& point) {
    const double least = node.least.value_or(tree.least);
    const double most = node.most.value_or(tree.most);
    if (point.leastDb < least) {
        point.good = false;
        point.reason = formatFixed(least - point.leastDb, 1) + " dB too little";
    }
    if (point.mostDb > most) {
        point.good = false;
        point.reason += (point.reason.empty() ? "" : " and ") +
                        formatFixed(point.mostDb - most, 1) + " dB too much";
    }
}

double ceilingOf(const Tree& tree, const TreeNode& amplifier) {
    return amplifier.ceilingDb - (tree.channels > 1 ? 7.5 * std::log10(tree.channels - 1) : 0);
}

void judgeAmplifier(const Tree& tree, const TreeNode& node, TreePoint& point, double leastInDb) {
    const double ceiling = ceilingOf(tree, node);
    if (point.mostDb > ceiling) {
        point.good = false;
        point.reason = formatFixed(point.mostDb - ceiling, 1) + " dB over its ceiling of " +
                       formatFixed(ceiling, 1) + " dBµV for " + std::to_string(tree.channels) +
                       " channels";
    } else if (leastInDb < leastAmplifierInputDb) {
        point.good = false;
        point.reason = "only " + formatFixed(leastInDb, 1) +
                       " dBµV at its input: it belongs ahead of the loss";
    }
}

} // namespace

Outcome<TreeFinding> findTree(const Tree& tree, const Catalogue& catalogue, int points) {
    const auto plan = planOf(tree);
    if (!plan)
        return refuse(plan.error());
    for (const auto& node : tree.nodes)
        if (node.part == TreePart::Splitter)
            if (const auto split = splitterPart(node.ways, ohm); !split)
                return refuse(node.id, split.error().what, split.error().cure);
    TreeFinding out;
    std::vector<double> leastIn(tree.nodes.size(), 1e9);
    out.points.resize(tree.nodes.size());
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        out.points[i].id = tree.nodes[i].id;
        out.points[i].leastDb = 1e9;
        out.points[i].mostDb = -1e9;
    }
    for (int k = 0; k < points; ++k) {
        const double f = tree.fromMhz + (tree.toMhz - tree.fromMhz) * k / std::max(1, points - 1);
        const Levels levels = levelsAt(tree, *plan, catalogue, f);
        for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
            TreePoint& p = out.points[i];
            const double level = levels.outDb[i];
            if (k == 0)
                p.lowDb = level;
            p.highDb = level;
            p.leastDb = std::min(p.leastDb, level);
            p.mostDb = std::max(p.mostDb, level);
            leastIn[i] = std::min(leastIn[i], levels.inDb[i]);
            if (levels.noise[i] > 0) {
                const double ratio = level - 10 * std::log10(levels.noise[i]);
                p.carrierToNoiseDb = std::min(p.carrierToNoiseDb.value_or(1e9), ratio);
            }
        }
    }
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        const auto& node = tree.nodes[i];
        if (node.part == TreePart::Outlet)
            judgeOutlet(tree, node, out.points[i]);
        if (node.part == TreePart::Amplifier)
            judgeAmplifier(tree, node, out.points[i], leastIn[i]);
        const int ports = node.part == TreePart::Splitter ? node.ways
                          : node.part == TreePart::Tap    ? 2
                                                          : 0;
        if (const int open = ports - plan->children[i]; open > 0)
            out.unusedPorts.push_back(node.id + ": " + std::to_string(open) + " of " +
                                      std::to_string(ports) +
                                      " ports open; put a terminator on each");
        out.good = out.good && out.points[i].good;
    }
    return out;
}

Outcome<double> outletIsolationDb(const Tree& tree, const Catalogue& catalogue,
                                  const std::string& outletA, const std::string& outletB,
                                  double f) {
    const auto plan = planOf(tree);
    if (!plan)
        return refuse(plan.error());
    const auto indexOf = [&](const std::string& id) -> std::optional<std::size_t> {
        for (std::size_t i = 0; i < tree.nodes.size(); ++i)
            if (tree.nodes[i].id == id)
                return i;
        return std::nullopt;
    };
    const auto a = indexOf(outletA);
    const auto b = indexOf(outletB);
    if (!a || !b || *a == *b)
        return refuse(a ? outletB : outletA, "two different outlets of the tree are wanted",
                      "Name two that are there");
    const auto wayUp = [&](std::size_t from) {
        std::vector<std::size_t> way{from};
        while (plan->parent[way.back()])
            way.push_back(*plan->parent[way.back()]);
        return way;
    };
    const auto upA = wayUp(*a);
    const auto upB = wayUp(*b);
    const auto shared = [&](std::size_t node) {
        return std::find(upB.begin(), upB.end(), node) != upB.end();
    };
    double sum = isolationDb;
    const auto climb = [&](const std::vector<std::size_t>& way, std::size_t until) {
        for (std::size_t i = 0; i < way.size() && way[i] != until; ++i) {
            sum += feedLossDb(tree.nodes[way[i]], catalogue, f);
            // An amplifier lets next to nothing back through it.
            if (tree.nodes[way[i]].part == TreePart::Amplifier)
                sum += 40;
            else if (i > 0)
                sum += partLossDb(tree, tree.nodes[way[i]], tree.nodes[way[i - 1]].fromTap, f);
        }
    };
    const auto meet = std::find_if(upA.begin(), upA.end(), shared);
    if (meet == upA.end())
        return refuse(outletA, "nothing but the head joins it to “" + outletB + "”",
                      "Put the splitter at the head into the tree");
    climb(upA, *meet);
    climb(upB, *meet);
    return sum;
}

namespace {

struct Spread {
    double mostNeeded = -1e9, leastNeeded = 1e9; ///< gain the outlets ask for, and bear
    double slopeNeeded = 0;
    bool any = false;
};

/// What gain ahead of `node` the outlets behind it ask for and bear, once `slopeDb` levels them.
Spread spreadBehind(const Tree& tree, const Plan& plan, const TreeFinding& finding,
                    std::size_t node, double slopeDb) {
    Spread out;
    double tilt = 0;
    int outlets = 0;
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        if (tree.nodes[i].part != TreePart::Outlet)
            continue;
        std::optional<std::size_t> at = i;
        while (at && *at != node)
            at = plan.parent[*at];
        if (!at)
            continue;
        const auto& p = finding.points[i];
        const double least = tree.nodes[i].least.value_or(tree.least);
        const double most = tree.nodes[i].most.value_or(tree.most);
        out.any = true;
        out.mostNeeded = std::max({out.mostNeeded, least - p.lowDb, least - p.highDb - slopeDb});
        out.leastNeeded = std::min({out.leastNeeded, most - p.lowDb, most - p.highDb - slopeDb});
        tilt += p.lowDb - p.highDb;
        ++outlets;
    }
    out.slopeNeeded = outlets == 0 ? 0 : tilt / outlets;
    return out;
}

/// Through loss of a tap by its value: the less it takes off, the less the way on loses.
double throughOf(double tapDb) {
    return tapDb <= 8 ? 4 : tapDb <= 12 ? 2.5 : tapDb <= 18 ? 1.5 : 1;
}

/// Taps from the head outward, each the largest value that leaves its outlets in their window.
void chooseTaps(Tree& tree, const Plan& plan, const Catalogue& catalogue, TreeProposal& out) {
    for (const std::size_t i : plan.order) {
        if (tree.nodes[i].part != TreePart::Tap)
            continue;
        for (const double value : {30.0, 27.0, 24.0, 20.0, 17.0, 14.0, 12.0, 10.0, 8.0, 6.0}) {
            tree.nodes[i].tapDb = value;
            tree.nodes[i].throughDb = throughOf(value);
            const Levels low = levelsAt(tree, plan, catalogue, tree.fromMhz);
            const Levels high = levelsAt(tree, plan, catalogue, tree.toMhz);
            bool enough = true;
            for (std::size_t o = 0; o < tree.nodes.size(); ++o)
                if (tree.nodes[o].part == TreePart::Outlet && plan.parent[o] == i &&
                    tree.nodes[o].fromTap)
                    enough = enough && std::min(low.outDb[o], high.outDb[o]) >=
                                           tree.nodes[o].least.value_or(tree.least);
            if (enough)
                break;
        }
        out.tapDb.emplace_back(tree.nodes[i].id, tree.nodes[i].tapDb);
    }
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
    chooseTaps(tree, *plan, catalogue, out);
    finding = findTree(tree, catalogue);
    if (finding->good) {
        out.possible = true;
        out.reason = "other tap values bring every outlet into its window";
        return out;
    }
    // An amplifier ahead of a part: as near the outlets as its input and its ceiling allow, tried
    // from the head outward so that one serves as many as it can.
    const TreeNode amplifier{"", "", false, {}, TreePart::Amplifier, 2, 0, 0, 0, 0, 5, 105, {}, {}};
    std::string why = "no place has 60 dBµV left for an amplifier";
    const Levels low = levelsAt(tree, *plan, catalogue, tree.fromMhz);
    const Levels high = levelsAt(tree, *plan, catalogue, tree.toMhz);
    for (const std::size_t i : plan->order) {
        if (tree.nodes[i].part == TreePart::Outlet && plan->parent[i])
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
        const double ceiling = ceilingOf(tree, amplifier);
        if (top > ceiling) {
            why = "an amplifier ahead of " + tree.nodes[i].id + " would have to give " +
                  formatFixed(top - ceiling, 1) + " dB more than its ceiling";
            continue;
        }
        // Whoever does not lie behind it must be well already.
        Tree tried = tree;
        tried.nodes[i].from = "\x01"
                              "amplifier";
        TreeNode put = amplifier;
        put.id = tried.nodes[i].from;
        put.from = tree.nodes[i].from;
        put.fromTap = tree.nodes[i].fromTap;
        put.feed = tree.nodes[i].feed;
        tried.nodes[i].feed = {};
        tried.nodes[i].fromTap = false;
        put.gainDb = gain;
        put.slopeDb = slope;
        tried.nodes.push_back(put);
        const auto after = findTree(tried, catalogue);
        if (after && after->good) {
            out.possible = true;
            out.before = tree.nodes[i].id;
            out.gainDb = gain;
            out.slopeDb = slope;
            out.reason = "an amplifier of " + formatFixed(gain, 1) + " dB ahead of " + out.before;
            return out;
        }
        why = "an amplifier ahead of " + tree.nodes[i].id + " does not serve every outlet";
    }
    out.reason = why;
    return out;
}

} // namespace burin
