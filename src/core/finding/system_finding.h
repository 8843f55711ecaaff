#pragma once
#include "core/bus/bus.h"
#include "core/coax/tree.h"
#include "core/finding/run_finding.h"
#include "core/supply/supply.h"

namespace burin {

/// Whether what would cure a system that is not good is looked for.
enum class Propose { No, Yes };

/// A distribution of the job, computed. Lists are in the order of its parts.
struct DistributionFinding {
    std::string id, name;
    std::vector<std::string> partIds, runIds; ///< of the parts, and of what feeds each
    std::vector<Fault> faults; ///< why it could not be computed; then the rest is empty
    std::string unit;          ///< of the service's window
    double unitOffsetDb = 0;   ///< dBµV less this is the unit
    Tree tree;                 ///< nodes by name: an outlet by its run's label
    TreeFinding levels;
    /// Satellite: volts at the head from the receiver at an outlet; none elsewhere, and none where
    /// a multiswitch with a supply of its own stands in between.
    std::vector<std::optional<HeadSupply>> head;
    std::vector<Sentence> notes; ///< of the whole, with their cures
    bool good = false;
    std::optional<TreeProposal> proposal; ///< where it is not good: what would make it so

    /// True when it is of that distribution as it stands: a finding may be an edit behind its job.
    [[nodiscard]] bool fits(const Distribution& distribution) const;
    /// Which part that run feeds.
    [[nodiscard]] std::optional<std::size_t> fedBy(std::string_view runId) const;
};

/// Levels, way back, sharing and head supply of a distribution. The head's level and the window are
/// taken from its service; a service without a window is judged by what lies between outlets.
DistributionFinding findDistribution(const SystemReads& reads, const Distribution& distribution,
                                     const Catalogue& catalogue, Propose propose = Propose::Yes);
DistributionFinding findDistribution(const Job& job, const Distribution& distribution,
                                     const Catalogue& catalogue, Propose propose = Propose::Yes);
/// Looks for what would cure a distribution that is not good.
void propose(DistributionFinding& finding, const Distribution& distribution,
             const Catalogue& catalogue);
/// Level where the cable that feeds a part begins, over MHz, in the unit of the service.
std::function<double(double)> levelAhead(const DistributionFinding& finding, std::size_t part,
                                         const Catalogue& catalogue);
/// From the head to one part, step by step, at both ends of the band.
Working levelWorking(const DistributionFinding& finding, std::size_t part,
                     const Catalogue& catalogue);

/// Something done to a bus after which all of it is good: it was put in place and computed.
struct BusCure {
    Sentence what;
    Cost cost;
    std::optional<BusChain> after; ///< the bus as it would be; none where a supply comes in between
};

/// A bus of the job, computed. Lists are in the order of its devices.
struct BusChainFinding {
    std::string id, name;
    std::vector<std::string> runIds; ///< of what comes to each device, empty at the first
    std::vector<Fault> faults;
    Bus bus;
    BusFinding wave;
    std::vector<std::optional<SupplyPoint>> supply; ///< none: takes nothing from the bus
    bool delivered = true;
    std::vector<std::vector<Sentence>> reasons; ///< per device; none: good
    std::vector<BusCure> cures; ///< where it is not good: what makes it so, cheapest first
    std::vector<Sentence> notes;
    bool good = false;

    [[nodiscard]] bool fits(const BusChain& bus) const;
    [[nodiscard]] std::optional<std::size_t> deviceAt(std::string_view runId) const;
};

/// Waveform and supply volts at every device of a bus.
BusChainFinding findBusChain(const SystemReads& reads, const BusChain& bus,
                             const Catalogue& catalogue, Propose propose = Propose::Yes);
BusChainFinding findBusChain(const Job& job, const BusChain& bus, const Catalogue& catalogue,
                             Propose propose = Propose::Yes);
Working busWorking(const BusChainFinding& finding, std::size_t device);

/// True, with the reason on the run, when its system could not be computed.
bool unanswered(RunFinding& run, const std::vector<Fault>& faults);
/// What the systems say of the run `of` that feeds one of their parts: outlook, reason and margin.
/// Nothing where the run was not in it when it was found.
void overlay(RunFinding& run, const DistributionFinding& finding, const Run& of,
             const JobInfo& info, const Catalogue& catalogue);
void overlay(RunFinding& run, const BusChainFinding& finding);

} // namespace burin
