#pragma once
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
};

enum class Outlook { Unknown, Holds, Tight, Fails };
std::string_view outlookKey(Outlook outlook);

struct DbPart {
    std::string name;
    double lossDb = 0;
};

struct ServiceReach {
    std::string serviceId, serviceName;
    Reach reach;
    bool wanted = false; ///< the run's own service
};

/// A change that would make the run hold (or would not, and why).
struct Cure {
    std::string title, reason, cableId; ///< cableId empty: not a change of cable
    std::vector<RunCord> cords;         ///< not empty: cords to adopt
    std::vector<RunConnection> connections;
    bool perDirection = false; ///< a cable of its own for each direction
    Reach reach;
    bool holds = false; ///< all of it: the run, and the distribution or bus it is part of
    double spareM = 0;  ///< where reach.reachM is known
    Cost cost;
    /// True where the run itself changes; else a part comes in that is no part of a run.
    [[nodiscard]] bool changesRun() const { return !cableId.empty() || perDirection; }
};

/// Power over the data pairs of a run, at the type's least source volts and the bundle's warmth.
struct PoweredFinding {
    int type = 1;
    double wantedW = 0, deviceV = 0, ampere = 0;
    double warmestC = 20, riseC = 0; ///< in the middle of its warmest bundle: an estimate
    bool delivered = true, overRating = false;
    std::string reason; ///< what is wrong, and what would cure it; empty when good
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
    std::vector<std::string> notes;    ///< what was seen beside the numbers
    std::vector<std::string> cannot;   ///< what such a test cannot prove
    std::vector<std::string> failures; ///< wiring, length, resistance
    std::string asked; ///< whether the file is of this run at all; empty: nothing speaks against it
    bool superseded = false; ///< a later one of the same kind stands
    [[nodiscard]] State state() const { return worse(service.state, classJudgement.state); }
};

/// Everything computed about one run.
struct RunFinding {
    std::string runId, label;
    std::vector<Fault> faults; ///< why something could not be computed
    double lengthM = 0, channelM = 0;
    std::string className; ///< what its lowest part allows; empty: none in the catalogue
    std::string lowestPart;

    PredictedLoss channel, permanent;
    std::vector<double> limitDb; ///< the service's loss limit at channel.frequencyMhz; NaN: none
    std::string limitName;
    std::optional<double> marginDb, marginAtMhz; ///< least limit − predicted
    /// limit − predicted where the loss takes the largest share of its limit, which is what an
    /// installer can still do something about (near 4 MHz the limit is flat at 4 dB).
    std::optional<double> tightestDb, tightestAtMhz;
    Reach reach;
    Outlook outlook = Outlook::Unknown;
    std::string outlookReason;
    /// Its way on the plan, where the typed length is another; with the outlook as typed.
    std::optional<double> wayM;
    Outlook typedOutlook = Outlook::Unknown;
    std::string typedReason;
    bool unfit = false; ///< something is wrong with it whatever its length and its system
    double worstMhz = 0;
    std::vector<DbPart> parts; ///< at worstMhz
    double predictedShare = 0; ///< of the limit; 1 is at the limit
    std::vector<ServiceReach> reaches;
    std::vector<Cure> cures;
    double loopOhm = 0;
    std::optional<PoweredFinding> powered;
    std::vector<std::string> notes; ///< what is to be seen to: fit, screens, rules of its service

    bool outdoors = false; ///< by its service or an end of it
    std::string caution;   ///< where it comes from outdoors, or its way lies there

    std::vector<MeasurementFinding> measurements; ///< oldest first
    State serviceState = State::Untested, classState = State::Untested;
    std::string serviceReason, classReason;
    double measuredShare = 0; ///< 0: none
    [[nodiscard]] State state() const {
        const State s = worse(serviceState, classState);
        // A pass of one judgement does not make up for a missing other.
        return s == State::Pass && (serviceState == State::Untested || classUnproven)
                   ? State::Untested
                   : s;
    }
    bool classUnproven = false; ///< there is a class to be proven and it is not
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

RunFinding findRun(const Job& job, const Run& run, const Catalogue& catalogue,
                   const MeasuredFiles& files, const FindingOptions& options = {});

/// How many of the job's runs are what.
struct Coverage {
    int runs = 0, pass = 0, marginalGood = 0, marginalBad = 0, fail = 0, untested = 0, coiled = 0;
};
Coverage coverageOf(const Job& job, const std::vector<RunFinding>& findings);

/// Running loss along the link at one frequency: metres from the near end of the channel, dB.
struct RunningLoss {
    std::vector<double> atM, lossDb;
};
RunningLoss runningLoss(const Run& run, const Catalogue& catalogue, double frequencyMhz);

Working lossWorking(const Run& run, const Catalogue& catalogue, double frequencyMhz);

} // namespace burin
