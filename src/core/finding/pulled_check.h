#pragma once
#include "core/base/sentence.h"
#include "core/finding/pull_finding.h"

namespace burin {

/// Something that would do where a cable came out too short, put in place and computed.
struct ShortCure {
    enum class How { LessHere, FromOtherEnd, NearerPlace, LongerCord, PullAgain };
    How how = How::PullAgain;
    Sentence what;
    Cost cost;
};

/// What was pulled for a run against what it is to reach.
struct PulledCheck {
    std::string runId;
    MarkedLength pulled;
    double cutM = 0;              ///< off both ends together
    double linkM = 0;             ///< what stays between its ends
    double plannedM = 0;          ///< what was to be pulled; 0: nobody knows
    std::optional<double> needM;  ///< between its ends: way and dressing; none: nobody knows
    End end = End::Near;          ///< where its box stood, and so where it lacks
    double dressingM = 0;         ///< that was to stay at that end beyond the way
    double lacksM = 0;            ///< of what is needed; 0: nothing
    bool reaches = true;          ///< it lacks no more than the dressing at that end
    bool sure = true;             ///< and that is more than its marks may be off
    bool farFromPlan = false;     ///< more than 10 % and 3 m: marks or plan are wrong
    std::vector<ShortCure> cures; ///< cheapest first
    [[nodiscard]] bool isShort() const { return lacksM > 0; }
};

/// None where nothing was pulled. `kept` is the job as kept, `laid` as laid with its site's plan.
std::optional<PulledCheck> checkPulled(const Job& kept, const Job& laid, const Run& run,
                                       const Catalogue& catalogue, const SitePlan& site,
                                       const PullPlan& plan);
/// What it says, and what would do; empty: all is well.
std::vector<Sentence> saidOf(const PulledCheck& check, const Job& laid);

} // namespace burin
