#include "core/coax/tree_search.h"
#include "core/coax/tree_grid.h"
#include "core/connector/fit.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace burin {
namespace {

constexpr std::array<double, 6> padsDb{3, 6, 10, 12, 16, 20};
constexpr std::array<double, 6> equalisersDb{3, 6, 9, 12, 15, 18};
constexpr std::array<double, 10> tapsDb{30, 27, 24, 20, 17, 14, 12, 10, 8, 6};
constexpr int gridPoints = TreeGrid::gridPoints;
constexpr double otherSystem = 0.1; // share of its impedance by which a cable may differ
/// Trees larger than this are searched for shared changes near the head alone.
constexpr std::size_t manyNodes = 60;
using Curve = TreeGrid::Curve;

/// A cable that could take the place of a feed, and what it would lose there.
struct OtherCable {
    TreeChange change;
    Curve loss;
    Cost cost;
};

/// Finds changes by putting them in place.
class Search {
public:
    Search(const Tree& tree, const TreePlan& plan, const Catalogue& catalogue)
        : tree_(tree), plan_(plan), catalogue_(catalogue), base_(tree, plan, catalogue) {
        base_.compute();
        for (std::size_t i = 0; i < tree.nodes.size(); ++i)
            if (tree.nodes[i].unit.part == TreePart::Outlet)
                outlets_.push_back(i);
    }

    std::vector<TreeCandidate> candidates() {
        settle(base_, {}); // each outlet by itself
        shared(base_, {});
        TreeGrid tapped = base_;
        std::vector<TreeChange> taps;
        chooseTaps(tapped, taps);
        if (!taps.empty()) {
            settle(tapped, taps);
            shared(tapped, taps);
        }
        return std::move(found_);
    }
    /// The outlet that is furthest from its window as things are, and by how much.
    [[nodiscard]] std::pair<std::string, double> worst() const {
        std::pair<std::string, double> out;
        for (const std::size_t o : outlets_)
            if (const double off = offBy(o, base_.into(o)); off > out.second)
                out = {tree_.nodes[o].id, off};
        return out;
    }

private:
    [[nodiscard]] double least(std::size_t o) const {
        return tree_.nodes[o].unit.least.value_or(tree_.least);
    }
    [[nodiscard]] double most(std::size_t o) const {
        return tree_.nodes[o].unit.most.value_or(tree_.most);
    }
    [[nodiscard]] double offBy(std::size_t o, const Curve& level) const {
        const auto [low, high] = std::minmax_element(level.begin(), level.end());
        return std::max({0.0, least(o) - *low, *high - most(o)});
    }
    static Curve less(Curve level, const Curve& loss) {
        for (std::size_t k = 0; k < gridPoints; ++k)
            level[k] -= loss[k];
        return level;
    }
    [[nodiscard]] Cost cost(const TreeChange& change) const {
        return costOf(tree_, change, catalogue_);
    }
    [[nodiscard]] TreeChange put(TreeChange::Kind kind, std::size_t at, double db, double slope,
                                 bool nearEnd = false) const {
        return {kind, tree_.nodes[at].id, db, slope, nearEnd, {}, {}};
    }

    /// Cables of the same impedance in place of what feeds a node, with connectors that fit them.
    [[nodiscard]] const std::vector<OtherCable>& cablesFor(std::size_t node) {
        if (const auto it = cables_.find(node); it != cables_.end())
            return it->second;
        std::vector<OtherCable>& out = cables_[node];
        for (const TreeChange& change : otherCables(tree_, node, catalogue_)) {
            const Tree with = changed(tree_, change, catalogue_);
            out.push_back({change, base_.feedOf(with.nodes[node], catalogue_), cost(change)});
        }
        return out;
    }

    /// The cheapest that brings one outlet into its window, given the level it has; none: nothing.
    [[nodiscard]] std::optional<TreeCandidate> own(std::size_t o, const Curve& level) {
        // At the outlet's own end there is no place for a part: it goes where its cable begins.
        const bool near = tree_.nodes[o].feed.cable != nullptr;
        std::optional<TreeCandidate> best;
        const auto offer = [&](std::vector<TreeChange> changes, const Curve& now) {
            if (offBy(o, now) > 0)
                return;
            TreeCandidate c{std::move(changes), {}};
            for (const auto& change : c.changes)
                c.cost += cost(change);
            if (!best || c.cost.total(catalogue_.costs) < best->cost.total(catalogue_.costs))
                best = std::move(c);
        };
        const auto withPads = [&](const std::vector<TreeChange>& first, const Curve& now) {
            offer(first, now);
            const auto add = [&](const TreeChange& change, const Curve& at) {
                auto list = first;
                list.push_back(change);
                const Curve then = less(at, lossOf(change));
                offer(list, then);
                return std::pair(list, then);
            };
            for (const double slope : equalisersDb) {
                const auto [list, then] =
                    add(put(TreeChange::Kind::Equaliser, o, 0, slope, near), now);
                for (const double db : padsDb) {
                    auto both = list;
                    both.push_back(put(TreeChange::Kind::Pad, o, db, 0, near));
                    offer(both, less(then, lossOf(both.back())));
                }
            }
            for (const double db : padsDb)
                add(put(TreeChange::Kind::Pad, o, db, 0, near), now);
        };
        withPads({}, level);
        if (best && best->changes.size() == 1)
            return best; // nothing is cheaper than one screwed-in part
        for (const OtherCable& other : cablesFor(o))
            withPads({other.change}, less(addTo(level, base_.feed(o)), other.loss));
        amplifyFor(o, near, base_, {{o, level}}, [&](const TreeChange& change, const Curve& gain) {
            withPads({change}, addTo(level, gain));
        });
        return best;
    }
    static Curve addTo(Curve level, const Curve& gain) {
        for (std::size_t k = 0; k < gridPoints; ++k)
            level[k] += gain[k];
        return level;
    }
    [[nodiscard]] Curve lossOf(const TreeChange& change) const {
        return base_.lossOf(*unitOf(change, false));
    }

    /// Amplifiers worth trying at a place, for the levels of the outlets behind it.
    template <typename Try>
    void amplifyFor(std::size_t node, bool nearEnd, const TreeGrid& levels,
                    const std::vector<std::pair<std::size_t, Curve>>& behind, Try attempt) {
        if (behind.empty() || (nearEnd && tree_.nodes[node].feed.cable == nullptr))
            return;
        const Curve in = levels.into(node, nearEnd);
        if (*std::min_element(in.begin(), in.end()) < leastAmplifierInputDb)
            return;
        const double ceiling = ceilingOf(tree_, TreeUnit{});
        double tilt = 0;
        for (const auto& [o, level] : behind)
            tilt += (level.front() - level.back()) / static_cast<double>(behind.size());
        tilt = std::max(0.0, tilt);
        std::set<std::pair<double, double>> tried;
        for (const double slope : {0.0, std::round(tilt) / 2, std::round(tilt)}) {
            double needed = -1e9;
            double borne = 1e9;
            for (const auto& [o, level] : behind)
                for (std::size_t k = 0; k < gridPoints; ++k) {
                    const double lift = slope * static_cast<double>(k) / (gridPoints - 1);
                    needed = std::max(needed, least(o) - level[k] - lift);
                    borne = std::min(borne, most(o) - level[k] - lift);
                }
            // To the half decibel: amplifiers are set in steps. Where the outlets differ by more
            // than their window, enough for the weakest, and pads for the others.
            const double lowest = std::ceil(needed * 2) / 2;
            for (double gain : {needed <= borne ? std::round(needed + borne) / 2 : lowest, lowest,
                                lowest + 1, std::floor(borne * 2) / 2}) {
                gain = std::clamp(gain, 0.0, 60.0);
                if (gain + slope <= 0 || !tried.insert({gain, slope}).second)
                    continue;
                const TreeChange change =
                    put(TreeChange::Kind::Amplifier, node, gain, slope, nearEnd);
                Curve lift{};
                double top = -1e9;
                for (std::size_t k = 0; k < gridPoints; ++k) {
                    lift[k] = gain + slope * static_cast<double>(k) / (gridPoints - 1);
                    top = std::max(top, in[k] + lift[k]);
                }
                if (top <= ceiling)
                    attempt(change, lift);
            }
        }
    }

    /// With what is done so far, each outlet that is wrong gets what it needs of its own.
    void settle(const TreeGrid& levels, const std::vector<TreeChange>& done) {
        TreeCandidate all{done, {}};
        for (const auto& change : done)
            all.cost += cost(change);
        for (const std::size_t o : outlets_) {
            const Curve level = levels.into(o);
            if (offBy(o, level) <= 0)
                continue;
            const auto mend = own(o, level);
            if (!mend)
                return;
            all.changes.insert(all.changes.end(), mend->changes.begin(), mend->changes.end());
            all.cost += mend->cost;
        }
        if (!all.changes.empty())
            found_.push_back(std::move(all));
    }

    /// One change that several outlets share.
    void shared(const TreeGrid& levels, const std::vector<TreeChange>& done) {
        const auto attempt = [&](std::size_t node, const TreeChange& change, const Curve& loss,
                                 double sign) {
            TreeGrid then = levels;
            then.add(node, loss, sign);
            then.compute();
            auto list = done;
            list.push_back(change);
            settle(then, list);
        };
        for (const std::size_t node : plan_.order) {
            if (tree_.nodes[node].unit.part == TreePart::Outlet)
                continue; // its own affair
            std::vector<std::pair<std::size_t, Curve>> behind;
            for (const std::size_t o : outlets_)
                if (isBehind(o, node))
                    behind.emplace_back(o, levels.into(o));
            for (const bool nearEnd : {false, true})
                amplifyFor(node, nearEnd, levels, behind,
                           [&](const TreeChange& change, const Curve& gain) {
                               attempt(node, change, gain, -1);
                           });
            if (tree_.nodes.size() > manyNodes && plan_.parent[node])
                continue;
            for (const double db : padsDb) {
                const auto change = put(TreeChange::Kind::Pad, node, db, 0);
                attempt(node, change, lossOf(change), 1);
            }
            for (const double slope : equalisersDb) {
                const auto change = put(TreeChange::Kind::Equaliser, node, 0, slope);
                attempt(node, change, lossOf(change), 1);
            }
            for (const OtherCable& other : cablesFor(node))
                attempt(node, other.change, less(other.loss, base_.feed(node)), 1);
        }
    }
    [[nodiscard]] bool isBehind(std::size_t outlet, std::size_t node) const {
        std::optional<std::size_t> at = outlet;
        while (at && *at != node)
            at = plan_.parent[*at];
        return at.has_value();
    }

    /// Taps from the head outward, each the largest value that leaves its outlets in their window.
    void chooseTaps(TreeGrid& levels, std::vector<TreeChange>& out) {
        for (const std::size_t i : plan_.order) {
            const TreeUnit& unit = tree_.nodes[i].unit;
            if (unit.part != TreePart::Tap)
                continue;
            double chosen = unit.tapDb;
            for (const double value : tapsDb) {
                chosen = value;
                levels.setTap(i, value);
                levels.compute();
                if (std::all_of(outlets_.begin(), outlets_.end(), [&](std::size_t o) {
                        const Curve level = levels.into(o);
                        return plan_.parent[o] != i || !tree_.nodes[o].fromTap ||
                               *std::min_element(level.begin(), level.end()) >= least(o);
                    }))
                    break;
            }
            if (chosen != unit.tapDb)
                out.push_back(put(TreeChange::Kind::Tap, i, chosen, 0));
            else {
                levels.setTap(i, unit.tapDb);
                levels.compute();
            }
        }
    }

    const Tree& tree_;
    const TreePlan& plan_;
    const Catalogue& catalogue_;
    TreeGrid base_;
    std::vector<std::size_t> outlets_;
    std::map<std::size_t, std::vector<OtherCable>> cables_;
    std::vector<TreeCandidate> found_;
};

void cheapestFirst(std::vector<TreeCandidate>& list, const Costs& costs) {
    std::stable_sort(list.begin(), list.end(), [&](const auto& a, const auto& b) {
        return a.cost.total(costs) < b.cost.total(costs);
    });
}

} // namespace

std::size_t indexOf(const Tree& tree, const std::string& id) {
    return static_cast<std::size_t>(
        std::find_if(tree.nodes.begin(), tree.nodes.end(),
                     [&](const TreeNode& node) { return node.id == id; }) -
        tree.nodes.begin());
}

Cost costOf(const Tree& tree, const TreeChange& change, const Catalogue& catalogue) {
    const Costs& costs = catalogue.costs;
    switch (change.kind) {
    case TreeChange::Kind::Tap:
        return partCost(costs, 0); // there is one in any case
    case TreeChange::Kind::Pad:
        return partCost(costs, costs.pad);
    case TreeChange::Kind::Equaliser:
        return partCost(costs, costs.equaliser);
    case TreeChange::Kind::Amplifier:
        return partCost(costs, costs.amplifier, true);
    case TreeChange::Kind::Cable:
        break;
    }
    const Cable* cable = catalogue.cable(change.cableId);
    const TreeNode& node = tree.nodes[indexOf(tree, change.at)];
    return cable == nullptr || node.feed.cable == nullptr
               ? Cost{}
               : cableCost(costs, *node.feed.cable, *cable, node.feed.fixedLengthM(), node.pulled);
}

std::vector<TreeChange> otherCables(const Tree& tree, std::size_t node,
                                    const Catalogue& catalogue) {
    std::vector<TreeChange> out;
    const LinkParts& feed = tree.nodes[node].feed;
    if (feed.cable == nullptr || !(feed.fixedLengthM() > 0))
        return out;
    for (const Cable& cable : catalogue.cables) {
        if (cable.kind != CableKind::Coax || cable.id == feed.cable->id ||
            std::abs(cable.impedanceOhm.value / feed.cable->impedanceOhm.value - 1) > otherSystem)
            continue;
        TreeChange change{TreeChange::Kind::Cable, tree.nodes[node].id, 0, 0, false, cable.id, {}};
        if (!feed.connections.empty()) {
            const auto choices = connectorChoices(cable, tree.toMhz, false, catalogue);
            if (choices.empty() || !choices.front().fits)
                continue;
            change.connections.assign(feed.connections.size(), choices.front().connection->id);
        }
        out.push_back(std::move(change));
    }
    return out;
}

std::vector<TreeCandidate> levelChanges(const Tree& tree, const TreePlan& plan,
                                        const Catalogue& catalogue) {
    auto out = Search(tree, plan, catalogue).candidates();
    cheapestFirst(out, catalogue.costs);
    return out;
}

std::pair<std::string, double> worstOutlet(const Tree& tree, const TreePlan& plan,
                                           const Catalogue& catalogue) {
    return Search(tree, plan, catalogue).worst();
}

std::vector<TreeCandidate> cableChanges(const Tree& tree, const Catalogue& catalogue) {
    std::vector<TreeCandidate> out;
    std::map<std::string, TreeCandidate> everywhere; // by cable
    for (std::size_t i = 0; i < tree.nodes.size(); ++i)
        for (TreeChange& change : otherCables(tree, i, catalogue)) {
            const Cost cost = costOf(tree, change, catalogue);
            TreeCandidate& all = everywhere[change.cableId];
            all.changes.push_back(change);
            all.cost += cost;
            out.push_back({{std::move(change)}, cost});
        }
    for (auto& [id, all] : everywhere)
        if (all.changes.size() > 1)
            out.push_back(std::move(all));
    cheapestFirst(out, catalogue.costs);
    return out;
}

} // namespace burin
