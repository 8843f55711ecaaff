#pragma once
#include <cstddef>
#include <map>
#include <string>
#include <vector>

namespace burin {

/// A cable that is still to be pulled, as far as its company matters.
struct ToPull {
    std::string head;    ///< where its box would stand: only cables of one head go together
    std::string cableId; ///< each needs a box of this cable to itself
    /// What of which pathway its way takes up, in metres along it.
    struct Along {
        std::size_t pathway = 0;
        double lowM = 0, highM = 0;
    };
    std::vector<Along> along;
    double wayM = 0;      ///< all of its way, the open and drops with it
    std::string room;     ///< where it ends; where its way is not known, only those of one room go
                          ///< together
    std::string closesOn; ///< the first date that anything of its way closes; empty: none
    int order = 0;        ///< of its room, and of it there: ladders move once
    double areaMm2 = 0;
};

/// What a group may be.
struct GroupRules {
    std::size_t atOnce = 6;                   ///< most cables pulled together
    std::map<std::string, std::size_t> boxes; ///< by cable: most of it together
    std::map<std::size_t, double> takesMm2;   ///< by pathway: what a conduit takes at once
};

/// Metres that two ways have in common.
double sharedM(const ToPull& a, const ToPull& b);
/// Whether they are pulled together by their ways: from one head, and more than half of the longer
/// way is shared.
bool goTogether(const ToPull& a, const ToPull& b);

/// Cables in groups, in the order they are pulled: what closes first, then room by room. Those of
/// one room come along before others. Each
/// number is a place in `cables`. Deterministic; O(n² · legs).
std::vector<std::vector<std::size_t>> groupPulls(const std::vector<ToPull>& cables,
                                                 const GroupRules& rules);

} // namespace burin
