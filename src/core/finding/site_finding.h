#pragma once
#include "core/base/working.h"
#include "core/job/job.h"
#include "core/site/jacket.h"
#include "core/site/route.h"
#include <memory>

namespace burin {

/// A part of a run's length.
struct LengthPart {
    Sentence name;
    double lengthM = 0;
    bool inLink = true; ///< else it is cut off when the ends are made
};

/// The way of one run with what the plan tells about it.
struct RunRoute {
    std::string runId;
    std::optional<Fault> fault; ///< why there is no way
    std::vector<WayEnd> ends;   ///< from the near end through its points to the far end
    std::vector<RouteLeg> legs; ///< near end first
    std::vector<int> cables;    ///< by leg: most that share it, this one counted
    std::vector<LengthPart> parts;
    double routeM = 0;     ///< pathways, open and drops
    double linkM = 0;      ///< what stays between the two ends
    double pullM = 0;      ///< what is pulled
    double nearSpareM = 0; ///< of the link, before the first leg
    std::vector<RunStretch> stretches;
    std::vector<Jacket> needs;       ///< each that some part of the way asks for
    Jacket jacket = Jacket::Unknown; ///< the one that serves all; Unknown: there is none
    Sentence jacketWhy;
    bool outdoors = false;                ///< some of it lies where lightning is
    double spareCost = 0, repullCost = 0; ///< in the job's currency
};

enum class SiteMatter {
    Separation,
    Crossing,
    Fill,
    Hooks,
    Bend,
    Jacket,
    Fire,
    NoWay,
    Length, ///< typed otherwise than the way is long
};
std::string_view siteMatterKey(SiteMatter matter);

/// Something about the plan that wants doing, marked where it happens.
struct SiteFinding {
    SiteMatter matter = SiteMatter::Separation;
    bool bad = true; ///< else advice
    std::string floorId;
    PlanPoint from, to;
    std::string pathwayId, mainsId, surfaceId; ///< empty where none is concerned
    struct OnRun {
        std::string runId;
        double fromM = 0, toM = 0; ///< metres of fixed cable from its near end
    };
    std::vector<OnRun> runs;
    double lengthM = 0;              ///< along which it holds; 0: at a point
    double haveMm = 0, wantedMm = 0; ///< where distances or radii are compared
    bool screenCures = false; ///< too near for what lies there, far enough for screened pairs
    Sentence title, reason, cure, caution, source;
};

/// How full a conduit is where most lies in it, with every run that leads through it.
struct WayFill {
    std::string pathwayId;
    std::size_t cables = 0;
    double share = 0;    ///< of its inside, 0.4 is 40 %
    double mayShare = 0; ///< so many may fill
};

/// Everything the plan tells: pure, from job and catalogue.
struct SitePlan {
    std::shared_ptr<const WayGraph> graph;
    std::vector<RunRoute> routes; ///< of runs with both ends on the plan, in the job's order
    std::vector<SiteFinding> findings;
    std::vector<WayFill> fills; ///< of the ways with a bore that something leads through
    [[nodiscard]] const RunRoute* route(std::string_view runId) const;
    std::map<std::string, std::size_t, std::less<>> routeOf;
};
/// With the plan of an earlier state of the job (`before`), the ways that pathways and ends leave
/// as they were are taken from it.
SitePlan planSite(const Job& job, const Catalogue& catalogue, const SitePlan* before = nullptr);

/// The job with the stretches of every run that follows the plan laid by it, and what is pulled as
/// long as its marks say. Findings are made of this one; edits of the one it was made from.
Job laidJob(const Job& job, const SitePlan& plan);

/// The way of one run over a graph already made, for a drag: legs, parts and lengths, with the
/// bundle as in `known`.
RunRoute routeOf(const Job& job, const Run& run, const WayGraph& graph, const RunRoute* known);

/// True where a typed length is further from its way on the plan than 10 % and 3 m: then one of the
/// two is wrong.
bool differsFromWay(double typedM, double wayM);

/// What a stretch is called: the plan's own word where the plan laid it by one, else as a user has
/// called it, or its way.
Quantity stretchName(const Run& run, const RunStretch& stretch);
/// How a length came about.
Working routeWorking(const Job& job, const RunRoute& route);

} // namespace burin
