#pragma once
#include "core/finding/reads.h"
#include "core/link/reach.h"
#include "core/measure/wire_map.h"
#include <map>
#include <memory>

namespace burin {

/// Files by fileKey, as read; shared, since findings of many threads look at the same ones.
using MeasuredFiles = std::map<std::string, std::shared_ptr<const Outcome<MeasuredFile>>>;

/// Loss over frequency as planned: at the way's warmth, and the band between all of it at 20 °C
/// and all of it at its warmest.
struct PredictedLoss {
    std::vector<double> frequencyMhz, lossDb, coolDb, warmDb;
    double coolestC = 20, warmestC = 20;
    bool operator==(const PredictedLoss&) const = default;
};

enum class Outlook { Unknown, Holds, Tight, Fails };
std::string_view outlookKey(Outlook outlook);

/// What a share of a loss is of.
enum class LossOf { Cable, Warmth, Cords, Connections };
struct DbPart {
    LossOf of = LossOf::Cable;
    Sentence name; ///< "2 cords"
    double lossDb = 0;
    bool operator==(const DbPart&) const = default;
};

/// One thing a signal passes on its way through the channel, and what it takes there.
struct LossStep {
    LossOf of = LossOf::Cable;
    Quantity name{};          ///< of the stretch, the cord's cable or the connection
    double lengthM = 0;       ///< 0 for a connection
    double aroundC = 20;      ///< of a stretch: what was typed or comes of its way
    double temperatureC = 20; ///< of a stretch: of its cable, with the heat of its bundle
    double lossDb = 0;
    double warmthDb = 0; ///< how much of it comes of its not being at 20 °C
    double factor = 1;   ///< of a cord, on its cable's figures: it is stranded
    bool operator==(const LossStep&) const = default;
};

struct ServiceReach {
    std::string serviceId, serviceName;
    Reach reach;
    bool wanted = false; ///< the run's own service
    bool operator==(const ServiceReach&) const = default;
};

/// What a cure changes.
enum class CureOf {
    Cable,
    Connections,
    Cords,
    Direction,
    Bundle,
    Way,
    Place,
    HeadEnd,
    Part,
    System, ///< the distribution or bus it is part of
};
inline constexpr auto cureWords =
    wordsOf<CureOf>("cable", "connections", "cords", "direction", "bundle", "way", "place",
                    "head-end", "part", "system");

/// A change that would make the run hold (or would not, and why).
struct Cure {
    CureOf of = CureOf::Cable;
    Sentence title, reason;
    std::string cableId;        ///< empty: not a change of cable
    std::vector<RunCord> cords; ///< not empty: cords to adopt
    std::vector<RunConnection> connections;
    bool perDirection = false;            ///< a cable of its own for each direction
    std::optional<int> neighbours;        ///< no stretch has more; typed runs alone
    std::optional<std::vector<Via>> vias; ///< its way leads through these
    std::optional<RunEnd> near;           ///< it begins here
    std::optional<Place> place;           ///< moved to where it stands here
    std::string systemId;                 ///< what this is a change to, where `of` is System
    std::optional<BusChain> bus;          ///< a bus as it would be
    Reach reach;
    bool holds = false;       ///< all of it: the run, and the distribution or bus it is part of
    bool needsSupply = false; ///< a supply of its own comes in, for which a bus has no field
    double spareM = 0;        ///< where reach.reachM is known
    Cost cost;
    /// What it is compared by is how far the run would then reach.
    [[nodiscard]] bool tellsReach() const { return of != CureOf::Part && of != CureOf::System; }
    /// False where a part comes in that is no part of a run, or the plan has no word for it.
    [[nodiscard]] bool canBeAdopted() const {
        return of != CureOf::Part && (of != CureOf::Bundle || neighbours) && !needsSupply;
    }
    /// It is of this run's way or system alone, and nothing for others that are chosen with it.
    [[nodiscard]] bool isOfThisRun() const { return vias || near || place || of == CureOf::System; }
    bool operator==(const Cure&) const = default;
};

/// Power over the data pairs of a run, at the type's least source volts and the bundle's warmth.
struct PoweredFinding {
    int type = 1;
    double wantedW = 0, deviceV = 0, ampere = 0;
    double warmestC = 20, riseC = 0; ///< in the middle of its warmest bundle: an estimate
    bool delivered = true, overRating = false;
    Sentence reason; ///< what is wrong, and what would cure it; empty when good
    bool operator==(const PoweredFinding&) const = default;
};

struct MeasurementFinding {
    std::string id, fileName, takenAt;
    LinkKind link = LinkKind::Channel;
    std::optional<Fault> fault; ///< the file could not be read, or is not of this run
    std::vector<Trace> traces;
    std::vector<JudgeLine> serviceLines, classLines;
    Judgement service, classJudgement;
    std::optional<WireFinding> wires;
    std::optional<double> excessDb, excessAtMhz; ///< most that measured loss exceeds predicted
    std::string excessPair;
    std::vector<Sentence> notes;    ///< what was seen beside the numbers
    std::vector<Sentence> cannot;   ///< what such a test cannot prove
    std::vector<Sentence> failures; ///< wiring, length, resistance
    Sentence asked; ///< whether the file is of this run at all; empty: nothing speaks against it
    bool superseded = false; ///< a later one of the same kind stands
    [[nodiscard]] State state() const { return worse(service.state, classJudgement.state); }
    bool operator==(const MeasurementFinding&) const = default;
};

/// Everything computed about one run.
struct RunFinding {
    std::string runId, label;
    std::vector<Fault> faults; ///< why something could not be computed
    double lengthM = 0, channelM = 0;
    std::string className; ///< what its lowest part allows; empty: none in the catalogue
    Sentence lowestPart;

    PredictedLoss channel, permanent;
    std::vector<double> limitDb; ///< the service's loss limit at channel.frequencyMhz; NaN: none
    Sentence limitName;
    std::optional<double> marginDb, marginAtMhz; ///< least limit − predicted
    /// limit − predicted where the loss takes the largest share of its limit, which is what an
    /// installer can still do something about (near 4 MHz the limit is flat at 4 dB).
    std::optional<double> tightestDb, tightestAtMhz;
    Reach reach;
    Outlook outlook = Outlook::Unknown;
    Sentence outlookReason;
    /// Its way on the plan, where the typed length is another; with the outlook as typed.
    std::optional<double> wayM;
    Outlook typedOutlook = Outlook::Unknown;
    Sentence typedReason;
    bool unfit = false; ///< something is wrong with it whatever its length and its system
    double worstMhz = 0;
    std::vector<LossStep> steps; ///< at worstMhz, from the near end
    std::vector<DbPart> parts;   ///< the same, by what they are of
    double predictedShare = 0;   ///< of the limit; 1 is at the limit
    std::vector<ServiceReach> reaches;
    std::vector<Cure> cures;
    double loopOhm = 0;
    std::optional<PoweredFinding> powered;
    std::vector<Sentence> notes; ///< what is to be seen to: fit, screens, rules of its service

    bool outdoors = false; ///< by its service or an end of it
    Sentence caution;      ///< where it comes from outdoors, or its way lies there

    std::vector<MeasurementFinding> measurements; ///< oldest first
    std::optional<double> measuredM;              ///< the length a tester showed last
    State serviceState = State::Untested, classState = State::Untested;
    Sentence serviceReason, classReason;
    double measuredShare = 0; ///< 0: none
    [[nodiscard]] State state() const {
        const State s = worse(serviceState, classState);
        // A pass of one judgement does not make up for a missing other.
        return s == State::Pass && (serviceState == State::Untested || classUnproven)
                   ? State::Untested
                   : s;
    }
    bool classUnproven = false; ///< there is a class to be proven and it is not

    /// By what was planned it will do what is asked of it, with whatever margin.
    [[nodiscard]] bool isPredicted() const {
        return outlook == Outlook::Holds || outlook == Outlook::Tight;
    }
    /// By what was measured it does; a marginal pass on the good side is one.
    [[nodiscard]] bool isProven() const {
        return state() == State::Pass || state() == State::MarginalGood;
    }
    /// The measurement the verdict is read from: of those that stand the last with traces, else the
    /// last. nullptr: there is none.
    [[nodiscard]] const MeasurementFinding* judged() const;
    /// The last one of the same kind that `now` has taken the place of: before a repair.
    [[nodiscard]] const MeasurementFinding* before(const MeasurementFinding& now) const;
    /// What a plain tester's answer that stands is wrong in; empty: nothing.
    [[nodiscard]] Sentence failure() const;
    /// The wiring that stands, as last seen.
    [[nodiscard]] const WireFinding* wires() const;
    bool operator==(const RunFinding&) const = default;
};

struct FindingOptions {
    int points = 300;         ///< frequencies of the predicted curves
    bool alternatives = true; ///< cures are only wanted for the run on screen
    bool measurements = true; ///< tests judged; a preview keeps the verdicts of the run as kept
    bool reaches = true;      ///< how far its cable carries every service
};

/// Power over its data pairs is asked of it.
bool isPowered(const Run& run);
/// What a stretch is warmed to: its surroundings and, on a powered line, the heat of its bundle,
/// all cables of it taken as carrying the same.
double stretchTemperatureC(const Run& run, const RunStretch& stretch, const Cable& cable,
                           const Catalogue& catalogue);
/// None where the run carries no power.
std::optional<PoweredFinding> findPowered(const Run& run, const Catalogue& catalogue);
/// Highest frequency the run must carry.
double topMhzOf(const Run& run, const Cable& cable, const Service* service);

/// The parts of a run, looked up. Faults name what is unknown; then no cable means no answer.
LinkParts linkOf(const Run& run, const Catalogue& catalogue, LinkKind link,
                 std::vector<Fault>* faults);
ReachQuestion questionOf(const Run& run, const JobInfo& info, const Catalogue& catalogue,
                         const Service& service, std::vector<Fault>* faults);

/// How far the run's cable goes with its cords, were no permanent link to be proven, m; 0: nowhere,
/// or what it must carry is not known.
double channelReachM(const Run& run, const JobInfo& info, const Catalogue& catalogue);

/// Everything but what would cure it.
RunFinding findRun(const RunReads& reads, const Catalogue& catalogue, const MeasuredFiles& files,
                   const FindingOptions& options = {});
/// The same of a run of the job, or of one in its place; with cures, unless it is in a system: what
/// lies in one is cured with it (`findCures`).
RunFinding findRun(const Job& job, const Run& run, const Catalogue& catalogue,
                   const MeasuredFiles& files, const FindingOptions& options = {});

/// How many of the job's runs are what. Those left coiled are neither proven nor failed.
struct Coverage {
    int runs = 0, pass = 0, marginalGood = 0, marginalBad = 0, fail = 0, untested = 0, coiled = 0;
    int planned = 0;   ///< laid by the plan
    int predicted = 0; ///< that hold by what was planned
    [[nodiscard]] int proven() const { return pass + marginalGood; }
};
Coverage coverageOf(const Job& job, const std::vector<RunFinding>& findings);

} // namespace burin
