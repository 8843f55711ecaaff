#pragma once
#include "core/base/working.h"
#include "core/link/link.h"
#include <functional>

namespace burin {

/// What decides how far a cable carries a service.
enum class Bound {
    InsertionLoss,
    ChannelLength,
    Bundle,
    Category,
    CableKind,
    Impedance,
    Screening,
    Level,
    LossBudget,
    HeadLevelUnknown,
    LossBudgetUnknown,
    NoRule,
    PermanentLink,
    LoopResistance,
    Unsuitable, ///< service and cable cannot meet, whatever the length
};
std::string_view boundKey(Bound bound); ///< "insertion-loss"

/// `link.stretches` give the warmth the cable lies in (their lengths only weigh it).
struct ReachQuestion {
    LinkParts link;
    const Service* service = nullptr;
    LimitSet set = LimitSet::Iso;
    BundleSchool school = BundleSchool::Guideline;
    int neighbours = 0;              ///< other cables in its bundle
    std::optional<double> headLevel; ///< in the unit of the service's level window
    /// Level where the run begins, over MHz, in that unit, where a distribution tells it; instead
    /// of headLevel.
    std::function<double(double)> levelAt;
    /// The run as a permanent link, where its class is to be proven (classToBeProven).
    std::optional<LinkParts> permanent;
    std::optional<double> lossBudgetDb, bandFromMhz, bandToMhz;
    bool cablePerDirection = false; ///< leased circuits
};

/// How far, and by which rule. No `reachM` means the question cannot be answered, and `reason`
/// says what is missing; 0 means not at all.
struct Reach {
    std::optional<double> reachM;     ///< fixed cable
    std::optional<double> channelM;   ///< with the cords
    std::optional<double> permanentM; ///< what its class as a permanent link allows, if it is asked
    double leastM = 0; ///< shorter, and the level at the outlet is too high; over reachM: no length
                       ///< brings it into its window
    Bound boundBy = Bound::NoRule;
    std::optional<double> atMhz;
    bool extrapolated = false; ///< the binding frequency lies beyond the cable's band
    Sentence reason;
    [[nodiscard]] bool holds(double fixedM) const {
        return reachM && fixedM <= *reachM + 1e-9 && fixedM >= leastM - 1e-9;
    }
    bool operator==(const Reach&) const = default;
};

/// True where a balanced run of this service has to prove the class of its parts, as a permanent
/// link too: what runs over generic cabling. A voice loop, a leased circuit or a bus is judged by
/// its own rules alone.
bool classToBeProven(const Service* service);

/// Longest permanent link of generic cabling. Source: ISO/IEC 11801-1; ANSI/TIA-568.2.
inline constexpr double permanentLinkM = 90;

/// reach = min over f of (limit(f) − fixed(f)) / (α(f)/100), and every length rule of the service.
/// Source: physics of the catalogue; each service names its own.
Reach findReach(const ReachQuestion& question, const Catalogue& catalogue);
/// The working of that answer; apart, since only one of many reaches is ever asked for it.
Working reachWorking(const ReachQuestion& question, const Catalogue& catalogue, const Reach& reach);

} // namespace burin
