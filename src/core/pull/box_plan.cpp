#include "core/pull/box_plan.h"
#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <random>
#include <set>
#include <tuple>

namespace burin {
namespace {

constexpr double nothing = 1e-9;

bool serves(const BoxAtHand& box, const WantsBox& cable) {
    return box.cableId == cable.cableId &&
           (box.colour.empty() || cable.colour.empty() || box.colour == cable.colour);
}

/// Boxes as they empty while one plan is made.
class Filling {
public:
    Filling(const std::vector<WantsBox>& cables, const std::vector<BoxAtHand>& atHand,
            const BoxPlanRules& rules)
        : cables_(cables), rules_(rules), atHand_(atHand.size()) {
        plan.boxOf.resize(cables.size());
        for (const auto& box : atHand)
            boxes_.push_back({box, box.leftM, false, {}});
    }

    /// What somebody fixed comes before everything that may go elsewhere.
    void fill(const std::vector<std::size_t>& order) {
        for (const std::size_t i : order)
            if (const auto& fixed = cables_[i].fixed; fixed && *fixed < boxes_.size())
                put(i, *fixed);
        for (const std::size_t i : order)
            if (!plan.boxOf[i])
                if (const auto best = bestFor(i))
                    put(i, *best);
        for (std::size_t b = 0; b < boxes_.size(); ++b) {
            const auto& box = boxes_[b];
            if (b >= atHand_)
                plan.added.push_back(box.as);
            if (!box.used)
                continue;
            plan.opened += box.as.begun ? 0 : 1;
            if (box.leftM > nothing && box.leftM < rules_.scrapM)
                plan.scrapM += box.leftM;
        }
    }
    BoxPlan plan;

private:
    struct Now {
        BoxAtHand as;
        double leftM = 0;
        bool used = false;
        std::set<std::size_t> groups;
    };
    void put(std::size_t cable, std::size_t box) {
        boxes_[box].leftM -= cables_[cable].lengthM;
        boxes_[box].used = true;
        boxes_[box].groups.insert(cables_[cable].group);
        plan.boxOf[cable] = box;
    }
    std::optional<std::size_t> bestFor(std::size_t i) {
        const WantsBox& cable = cables_[i];
        std::optional<std::size_t> best;
        // Begun or used by this plan before fresh; among those the one with the least left over.
        std::tuple<bool, double> cost;
        for (std::size_t b = 0; b < boxes_.size(); ++b) {
            const Now& box = boxes_[b];
            if (!serves(box.as, cable) || box.leftM + nothing < cable.lengthM ||
                box.groups.contains(cable.group))
                continue;
            const std::tuple now{!box.as.begun && !box.used, box.leftM - cable.lengthM};
            if (!best || now < cost) {
                best = b;
                cost = now;
            }
        }
        if (!best && cable.lengthM <= rules_.newBoxM + nothing) {
            boxes_.push_back(
                {{cable.cableId, cable.colour, rules_.newBoxM, false}, rules_.newBoxM, false, {}});
            best = boxes_.size() - 1;
        }
        return best;
    }

    const std::vector<WantsBox>& cables_;
    const BoxPlanRules& rules_;
    std::size_t atHand_;
    std::vector<Now> boxes_;
};

/// The same plan with fresh boxes exchanged for one another, so that those at hand are emptied
/// first and new ones are numbered as they are needed.
void inOrder(BoxPlan& plan, const std::vector<WantsBox>& cables,
             const std::vector<BoxAtHand>& atHand) {
    struct Content {
        std::size_t box = 0, firstGroup = 0;
        double takenM = 0;
        bool fixed = false;
        std::string colour; ///< that some of it wants
    };
    std::map<std::size_t, Content> contents;
    for (std::size_t i = 0; i < cables.size(); ++i) {
        if (!plan.boxOf[i])
            continue;
        const std::size_t box = *plan.boxOf[i];
        auto [it, fresh] = contents.try_emplace(box, Content{box, cables[i].group, 0, false, {}});
        it->second.firstGroup = std::min(it->second.firstGroup, cables[i].group);
        it->second.takenM += cables[i].lengthM;
        if (!cables[i].colour.empty())
            it->second.colour = cables[i].colour;
        it->second.fixed = it->second.fixed || cables[i].fixed.has_value();
    }
    const auto boxAt = [&](std::size_t b) {
        return b < atHand.size() ? atHand[b] : plan.added[b - atHand.size()];
    };
    std::vector<std::size_t> free; // fresh boxes that nobody fixed, those at hand first
    for (std::size_t b = 0; b < atHand.size() + plan.added.size(); ++b)
        if (const auto it = contents.find(b);
            !boxAt(b).begun && (it == contents.end() || !it->second.fixed))
            free.push_back(b);
    std::vector<Content> order;
    for (const auto& [box, content] : contents)
        if (!boxAt(box).begun && !content.fixed)
            order.push_back(content);
    std::stable_sort(order.begin(), order.end(), [](const Content& a, const Content& b) {
        return a.firstGroup < b.firstGroup;
    });
    std::map<std::size_t, std::size_t> now; // box before: box now
    for (const auto& content : order) {
        const BoxAtHand was = boxAt(content.box);
        const auto fits = std::find_if(free.begin(), free.end(), [&](std::size_t b) {
            const BoxAtHand box = boxAt(b);
            return serves(box, {was.cableId, content.colour, 0, 0, {}}) &&
                   box.leftM + nothing >= content.takenM;
        });
        if (fits == free.end())
            return; // as it was found, then
        now[content.box] = *fits;
        free.erase(fits);
    }
    for (auto& box : plan.boxOf)
        if (box)
            if (const auto it = now.find(*box); it != now.end())
                box = it->second;
}

} // namespace

std::size_t leastOpened(const std::vector<WantsBox>& cables, const std::vector<BoxAtHand>& atHand,
                        const BoxPlanRules& rules) {
    // Whatever the colours.
    struct Of {
        double wantedM = 0, begunM = 0, fullestM = 0;
        std::size_t begun = 0;
        std::map<std::size_t, std::size_t> groups;
    };
    std::map<std::string, Of> kinds;
    for (const auto& cable : cables) {
        double mostM = rules.newBoxM;
        for (const auto& box : atHand)
            if (serves(box, cable))
                mostM = std::max(mostM, box.leftM);
        if (cable.lengthM > mostM + nothing)
            continue; // it comes from no box
        Of& of = kinds[cable.cableId];
        of.wantedM += cable.lengthM;
        of.fullestM = std::max(of.fullestM, mostM);
        ++of.groups[cable.group];
    }
    for (const auto& box : atHand)
        if (const auto it = kinds.find(box.cableId); it != kinds.end() && box.begun) {
            it->second.begunM += box.leftM;
            ++it->second.begun;
        }
    std::size_t out = 0;
    for (const auto& [id, of] : kinds) {
        const double beyond = std::max(0.0, of.wantedM - of.begunM);
        std::size_t least = static_cast<std::size_t>(std::ceil(beyond / of.fullestM - nothing));
        for (const auto& [group, size] : of.groups)
            if (size > of.begun)
                least = std::max(least, size - of.begun);
        out += least;
    }
    return out;
}

BoxPlan planBoxes(const std::vector<WantsBox>& cables, const std::vector<BoxAtHand>& atHand,
                  const BoxPlanRules& rules) {
    std::vector<std::size_t> order(cables.size());
    std::iota(order.begin(), order.end(), 0);
    const auto longestFirst = [&](const std::vector<double>& by) {
        std::stable_sort(order.begin(), order.end(),
                         [&](std::size_t a, std::size_t b) { return by[a] > by[b]; });
    };
    std::vector<double> lengths;
    lengths.reserve(cables.size());
    for (const auto& cable : cables)
        lengths.push_back(cable.lengthM);
    const std::size_t least = leastOpened(cables, atHand, rules);
    std::optional<BoxPlan> best;
    std::mt19937 random(1);
    const int tries = std::clamp(6000 / std::max(1, static_cast<int>(cables.size())), 8, 40);
    for (int i = 0; i < tries; ++i) {
        auto by = lengths;
        // Nearly longest first, each time a little otherwise.
        std::uniform_real_distribution<double> shake(1 - 0.02 * i, 1 + 0.02 * i);
        if (i > 0)
            for (double& length : by)
                length *= std::max(0.0, shake(random));
        longestFirst(by);
        Filling filling(cables, atHand, rules);
        filling.fill(order);
        const auto worth = [](const BoxPlan& plan) { return std::tuple(plan.opened, plan.scrapM); };
        if (!best || worth(filling.plan) < worth(*best))
            best = std::move(filling.plan);
        if (best->opened <= least && best->scrapM <= nothing)
            break;
    }
    best->lowerBound = least;
    inOrder(*best, cables, atHand);
    return *best;
}

BoxPlan replanned(const BoxPlan& plan, std::vector<std::optional<std::size_t>> boxOf,
                  const std::vector<WantsBox>& cables, const std::vector<BoxAtHand>& atHand,
                  const BoxPlanRules& rules) {
    BoxPlan out;
    out.lowerBound = plan.lowerBound;
    std::map<std::size_t, double> leftM; // of each box that is used
    for (std::size_t i = 0; i < cables.size(); ++i)
        if (boxOf[i]) {
            const bool isNew = *boxOf[i] >= atHand.size();
            leftM.try_emplace(*boxOf[i], isNew ? rules.newBoxM : atHand[*boxOf[i]].leftM)
                .first->second -= cables[i].lengthM;
        }
    std::map<std::size_t, std::size_t> now; // new boxes, numbered again
    for (const auto& [box, left] : leftM) {
        const bool isNew = box >= atHand.size();
        out.opened += isNew || !atHand[box].begun ? 1 : 0;
        out.scrapM += left > nothing && left < rules.scrapM ? left : 0;
        if (isNew) {
            now[box] = atHand.size() + out.added.size();
            out.added.push_back(plan.added[box - atHand.size()]);
        }
    }
    for (auto& box : boxOf)
        if (box && *box >= atHand.size())
            box = now.at(*box);
    out.boxOf = std::move(boxOf);
    inOrder(out, cables, atHand);
    return out;
}

} // namespace burin
