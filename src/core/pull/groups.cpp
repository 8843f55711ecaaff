#include "core/pull/groups.h"
#include <algorithm>
#include <numeric>
#include <tuple>

namespace burin {
namespace {

/// No date is after every date.
std::string_view closing(const ToPull& cable) {
    return cable.closesOn.empty() ? std::string_view("9999") : std::string_view(cable.closesOn);
}

/// A group as it grows.
class Group {
public:
    Group(const std::vector<ToPull>& cables, const GroupRules& rules, std::size_t first)
        : cables_(cables), rules_(rules) {
        take(first);
    }
    [[nodiscard]] bool takes(std::size_t one) const {
        const ToPull& cable = cables_[one];
        if (members_.size() >= std::max<std::size_t>(1, rules_.atOnce))
            return false;
        const auto most = rules_.boxes.find(cable.cableId);
        const auto now = boxes_.find(cable.cableId);
        if (most != rules_.boxes.end() && now != boxes_.end() && now->second >= most->second)
            return false;
        return std::all_of(cable.along.begin(), cable.along.end(), [&](const ToPull::Along& part) {
            const auto takes = rules_.takesMm2.find(part.pathway);
            const auto in = areaMm2_.find(part.pathway);
            return takes == rules_.takesMm2.end() || in == areaMm2_.end() ||
                   in->second + cable.areaMm2 <= takes->second;
        });
    }
    void take(std::size_t one) {
        const ToPull& cable = cables_[one];
        members_.push_back(one);
        ++boxes_[cable.cableId];
        std::size_t last = static_cast<std::size_t>(-1);
        for (const auto& part : cable.along) {
            if (part.pathway != last)
                areaMm2_[part.pathway] += cable.areaMm2;
            last = part.pathway;
        }
    }
    [[nodiscard]] std::vector<std::size_t> members() && { return std::move(members_); }

private:
    const std::vector<ToPull>& cables_;
    const GroupRules& rules_;
    std::vector<std::size_t> members_;
    std::map<std::string, std::size_t> boxes_;
    std::map<std::size_t, double> areaMm2_;
};

} // namespace

double sharedM(const ToPull& a, const ToPull& b) {
    double out = 0;
    for (const auto& p : a.along)
        for (const auto& q : b.along)
            if (p.pathway == q.pathway)
                out += std::max(0.0, std::min(p.highM, q.highM) - std::max(p.lowM, q.lowM));
    return out;
}

bool goTogether(const ToPull& a, const ToPull& b) {
    if (a.head != b.head)
        return false;
    const bool known = !a.along.empty() && !b.along.empty();
    return known ? sharedM(a, b) > std::max(a.wayM, b.wayM) / 2
                 : a.along.empty() && b.along.empty() && a.room == b.room;
}

std::vector<std::vector<std::size_t>> groupPulls(const std::vector<ToPull>& cables,
                                                 const GroupRules& rules) {
    std::vector<std::size_t> left(cables.size());
    std::iota(left.begin(), left.end(), 0);
    std::stable_sort(left.begin(), left.end(), [&](std::size_t a, std::size_t b) {
        return std::tuple(closing(cables[a]), cables[a].order) <
               std::tuple(closing(cables[b]), cables[b].order);
    });
    std::vector<std::vector<std::size_t>> out;
    while (!left.empty()) {
        const std::size_t first = left.front();
        Group group(cables, rules, first);
        // Of its room first, and then those that have most of their way in common.
        std::vector<std::tuple<bool, double, std::size_t>> others;
        for (std::size_t i = 1; i < left.size(); ++i) {
            const ToPull& other = cables[left[i]];
            if (goTogether(cables[first], other))
                others.emplace_back(other.room != cables[first].room,
                                    -sharedM(cables[first], other), i);
        }
        std::sort(others.begin(), others.end());
        for (const auto& [elsewhere, shared, i] : others)
            if (group.takes(left[i]))
                group.take(left[i]);
        out.push_back(std::move(group).members());
        auto& now = out.back();
        std::erase_if(
            left, [&](std::size_t i) { return std::find(now.begin(), now.end(), i) != now.end(); });
        std::sort(now.begin(), now.end(), [&](std::size_t a, std::size_t b) {
            return std::tuple(cables[a].order, a) < std::tuple(cables[b].order, b);
        });
    }
    return out;
}

} // namespace burin
