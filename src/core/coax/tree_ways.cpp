#include "core/coax/tree_plan.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {
namespace {

constexpr double isolationDb = 22;         // between outputs of one splitter
constexpr double tapDirectivityDb = 10;    // of a tap's coupler: 30 dB from a 20 dB tap's port
constexpr double amplifierBackwardDb = 40; // an amplifier lets next to nothing back through it
constexpr int returnPoints = 9;

/// The part, what feeds it, and so on up to what the head feeds.
std::vector<std::size_t> wayUp(const TreePlan& plan, std::size_t from) {
    std::vector<std::size_t> way{from};
    while (plan.parent[way.back()])
        way.push_back(*plan.parent[way.back()]);
    return way;
}

/// Loss from the first of `way` up to the outputs of `until`; none: up to the head.
double climbDb(const Tree& tree, const Catalogue& catalogue, const std::vector<std::size_t>& way,
               std::optional<std::size_t> until, double f) {
    double sum = 0;
    for (std::size_t i = 0; i < way.size() && way[i] != until; ++i) {
        const TreeNode& node = tree.nodes[way[i]];
        sum += feedLossDb(node, catalogue, f);
        if (node.unit.part == TreePart::Amplifier)
            sum += amplifierBackwardDb;
        else if (i > 0)
            sum += partLossDb(tree, node, tree.nodes[way[i - 1]].fromTap, f);
    }
    return sum;
}

std::optional<double> betweenDb(const Tree& tree, const Catalogue& catalogue,
                                const std::vector<std::size_t>& upA,
                                const std::vector<std::size_t>& upB, double f) {
    const auto meet = std::find_if(upA.begin(), upA.end(), [&](std::size_t node) {
        return std::find(upB.begin(), upB.end(), node) != upB.end();
    });
    if (meet == upA.end())
        return std::nullopt;
    const TreeUnit& shared = tree.nodes[*meet].unit;
    const double apart =
        shared.part == TreePart::Tap ? shared.tapDb + tapDirectivityDb : isolationDb;
    return apart + climbDb(tree, catalogue, upA, *meet, f) +
           climbDb(tree, catalogue, upB, *meet, f);
}

void blame(TreePoint& point, Sentence reason) {
    point.good = false;
    point.reason = point.reason.empty()
                       ? std::move(reason)
                       : joined({std::move(point.reason), std::move(reason)}, "; ");
}

void judgeReturn(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue,
                 std::size_t outlet, TreePoint& point) {
    const ReturnPath& back = *tree.returnPath;
    const auto way = wayUp(plan, outlet);
    double gain = 0;
    for (const std::size_t i : way) {
        const auto& unit = tree.nodes[i].unit;
        if (unit.part != TreePart::Amplifier)
            continue;
        if (!unit.returnGainDb)
            return blame(point,
                         sentence({"amplifier.no-return", "amplifier {0} lets nothing back to the "
                                                          "head: choose one with a return path"},
                                  tree.nodes[i].id));
        // climbDb counts it as closed; it is open the way back.
        gain += *unit.returnGainDb + amplifierBackwardDb;
    }
    for (int k = 0; k < returnPoints; ++k) {
        const double f = back.fromMhz + (back.toMhz - back.fromMhz) * k / (returnPoints - 1);
        const double loss = climbDb(tree, catalogue, way, std::nullopt, f) - gain;
        point.returnLossDb = std::max(point.returnLossDb.value_or(loss), loss);
    }
    if (*point.returnLossDb > back.mostLossDb)
        blame(point,
              sentence({"outlet.return-loss", "{0} too much loss on the way back, of {1} allowed"},
                       asDecibel(*point.returnLossDb - back.mostLossDb),
                       asDecibel(back.mostLossDb, 0)));
}

void judgeBetween(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue,
                  const std::vector<std::size_t>& outlets, TreeFinding& out) {
    std::vector<std::vector<std::size_t>> ways;
    ways.reserve(outlets.size());
    for (const std::size_t o : outlets)
        ways.push_back(wayUp(plan, o));
    for (std::size_t a = 0; a < outlets.size(); ++a)
        for (std::size_t b = a + 1; b < outlets.size(); ++b) {
            const std::string& one = tree.nodes[outlets[a]].id;
            const std::string& other = tree.nodes[outlets[b]].id;
            const auto loss = betweenDb(tree, catalogue, ways[a], ways[b], tree.toMhz);
            if (!loss)
                out.problems.push_back(sentence({"outlets.head-joins",
                                                 "{0} and {1} are joined by nothing but the head: "
                                                 "put the splitter at the head into the tree"},
                                                one, other));
            else if (*loss > *tree.mostBetweenDb)
                out.problems.push_back(sentence(
                    {"outlets.apart", "{0} and {1} are {2} apart at {3}, {4} more than allowed"},
                    one, other, asDecibel(*loss), asMegahertz(tree.toMhz),
                    asDecibel(*loss - *tree.mostBetweenDb)));
        }
}

/// The output of head or multiswitch an outlet hangs on: the highest part below it.
std::size_t outputOf(const Tree& tree, const TreePlan& plan, std::size_t outlet) {
    std::size_t at = outlet;
    while (plan.parent[at] && tree.nodes[*plan.parent[at]].unit.part != TreePart::Multiswitch)
        at = *plan.parent[at];
    return at;
}

void judgeSharing(const Tree& tree, const TreePlan& plan, const std::vector<std::size_t>& outlets,
                  TreeFinding& out) {
    std::vector<std::vector<std::size_t>> users(tree.nodes.size());
    for (const std::size_t o : outlets)
        users[outputOf(tree, plan, o)].push_back(o);
    for (const auto& sharing : users)
        for (const std::size_t o : sharing)
            if (sharing.size() > 1)
                blame(out.points[o],
                      sentence({"outlet.shared", "shares one output with {0} more: one receiver's "
                                                 "volts and tone choose for all; give it an output "
                                                 "of its own"},
                               asCount(sharing.size() - 1)));
}

} // namespace

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
        return refuse(
            a ? outletB : outletA,
            {"tree.two-different-outlets", "two different outlets of the tree are wanted"},
            {"cure.name-two", "Name two that are there"});
    const auto loss = betweenDb(tree, catalogue, wayUp(*plan, *a), wayUp(*plan, *b), f);
    if (!loss)
        return refuse(
            outletA,
            sentence({"tree.nothing-but-head", "nothing but the head joins it to “{0}”"}, outletB),
            {"cure.put-splitter-head", "Put the splitter at the head into the tree"});
    return *loss;
}

void judgeWays(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue,
               TreeFinding& out) {
    std::vector<std::size_t> outlets;
    int fedByHead = 0;
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        fedByHead += plan.parent[i] ? 0 : 1;
        if (tree.nodes[i].unit.part == TreePart::Outlet)
            outlets.push_back(i);
    }
    if (tree.headOutputs > 0 && fedByHead > tree.headOutputs)
        out.problems.push_back(sentence(
            {"head.few-outputs", "{0} cables leave a head of {1} {1?output|outputs}: a head "
                                 "with more, or a multiswitch"},
            asCount(fedByHead), asCount(tree.headOutputs)));
    if (tree.returnPath)
        for (const std::size_t o : outlets)
            judgeReturn(tree, plan, catalogue, o, out.points[o]);
    if (tree.oneReceiverACable)
        judgeSharing(tree, plan, outlets, out);
    if (tree.mostBetweenDb)
        judgeBetween(tree, plan, catalogue, outlets, out);
}

} // namespace burin
