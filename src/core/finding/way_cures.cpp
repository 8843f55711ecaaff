#include "core/finding/way_cures.h"
#include "core/base/lookup.h"
#include "core/finding/alternatives.h"
#include "core/finding/system_finding.h"
#include "core/finding/trial.h"
#include "core/job/ports.h"
#include "core/job/run_length.h"
#include "core/pull/stock.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <set>

namespace burin {
namespace {

constexpr std::size_t mostTried = 6; ///< of each sort; the nearest first
constexpr double moveStepM = 0.5;

/// Where the carrier ends is not the job's to choose.
bool isOurs(PlaceKind kind) {
    return isHeadEnd(kind) && kind != PlaceKind::Demarcation;
}

std::ptrdiff_t badOf(const SitePlan& plan) {
    return std::count_if(plan.findings.begin(), plan.findings.end(),
                         [](const SiteFinding& f) { return f.bad; });
}

class WayCures {
public:
    WayCures(const Job& kept, const Job& laid, std::size_t at, const Catalogue& catalogue,
             const SitePlan& site, const std::function<bool()>& stop)
        : kept_(kept), laid_(laid), at_(at), run_(kept.runs[at]), catalogue_(catalogue),
          site_(site), stop_(stop), reads_(laid), bad_(badOf(site)),
          cable_(catalogue.cable(run_.cableId)), route_(site.route(run_.id)) {}

    std::vector<Cure> all() {
        const Run* laid = laid_.run(run_.id);
        if (route_ == nullptr || route_->fault || cable_ == nullptr || laid == nullptr ||
            lengthFrom(run_) != LengthFrom::Plan)
            return {};
        const Trial now = tryRun(laid_, *laid, catalogue_);
        if (now.holds)
            return {};
        otherWays();
        otherPlaces();
        if (now.reach.reachM && *now.reach.reachM < route_->linkM)
            movedHead(route_->linkM - *now.reach.reachM);
        return stopped() ? std::vector<Cure>() : std::move(out_);
    }

private:
    [[nodiscard]] bool stopped() const { return stop_ && stop_(); }

    /// Everything that the two laid jobs do not agree on and that held, holds.
    [[nodiscard]] bool allStillHolds(const Job& then) const {
        const FindingOptions few{
            .points = 4, .alternatives = false, .measurements = false, .reaches = false};
        const JobReads after(then);
        for (const auto& run : then.runs) {
            const Run* was = reads_.run(run.id);
            if (run.id == run_.id || was == nullptr || was->stretches == run.stretches)
                continue;
            if (findRun(reads_.of(*was), catalogue_, {}, few).isPredicted() &&
                !findRun(after.of(run), catalogue_, {}, few).isPredicted())
                return false;
        }
        for (const auto& d : then.distributions)
            if (!(after.of(d) == reads_.of(d)) &&
                findDistribution(reads_.of(d), d, catalogue_, Propose::No).good &&
                !findDistribution(after.of(d), d, catalogue_, Propose::No).good)
                return false;
        for (const auto& b : then.buses)
            if (!(after.of(b) == reads_.of(b)) &&
                findBusChain(reads_.of(b), b, catalogue_, Propose::No).good &&
                !findBusChain(after.of(b), b, catalogue_, Propose::No).good)
                return false;
        return true;
    }

    struct OtherWay {
        double linkM = 0;
        std::vector<Via> vias;
        Quantity name;
    };

    /// The cure with its reach and cost, the job being this one; none where it would be none.
    std::optional<Cure> placed(CureOf of, const Job& job) const {
        const SitePlan plan = planSite(job, catalogue_, &site_);
        const RunRoute* route = plan.route(run_.id);
        if (route == nullptr || route->fault || badOf(plan) > bad_)
            return std::nullopt;
        const Job laid = laidJob(job, plan);
        const Run& run = laid.runs[at_];
        Cure out = cureBy(of, laid, run, run, catalogue_);
        out.cords.clear();
        out.connections.clear();
        if (!out.holds || !allStillHolds(laid))
            return std::nullopt;
        const double moreM = route->pullM - route_->pullM;
        if (pulledOf(kept_, run_) || kept_.isMeasured(run_.id))
            out.cost = cableCost(catalogue_.costs, *cable_, *cable_, route->pullM, true);
        else
            out.cost = moreCable(catalogue_.costs, *cable_, moreM);
        return out;
    }

    /// Around each pathway that it leads through, and straight where it is led.
    void otherWays() {
        std::set<std::string> through;
        for (const auto& leg : route_->legs)
            if (leg.kind == RouteLeg::Kind::Along)
                through.insert(leg.pathwayId);
        std::vector<OtherWay> ways;
        if (!run_.vias.empty())
            ways.push_back({0, {}, {}});
        for (const auto& id : through) {
            if (stopped())
                return;
            auto pathways = kept_.pathways;
            std::erase_if(pathways, [&](const Pathway& way) { return way.id == id; });
            Run other = run_;
            other.vias.clear();
            const RunRoute way =
                burin::routeOf(kept_, other, makeWayGraph(kept_.floors, pathways), nullptr);
            if (way.fault || way.legs.empty())
                continue;
            const RouteLeg* longest = nullptr;
            for (const auto& leg : way.legs)
                if (leg.kind == RouteLeg::Kind::Along && !through.contains(leg.pathwayId) &&
                    (longest == nullptr || leg.lengthM > longest->lengthM))
                    longest = &leg;
            const Pathway* by =
                longest == nullptr ? nullptr : byId(kept_.pathways, longest->pathwayId);
            if (by != nullptr)
                ways.push_back(
                    {way.linkM,
                     {{longest->floorId,
                       pointAt(by->points, (longest->fromAtM + longest->toAtM) / 2)}},
                     by->name.empty() ? asTerm(pathwayWord(by->kind)) : asText(by->name)});
        }
        std::sort(ways.begin(), ways.end(),
                  [](const auto& a, const auto& b) { return a.linkM < b.linkM; });
        std::vector<std::vector<Via>> tried{run_.vias};
        for (const auto& [length, vias, name] : ways) {
            if (tried.size() > mostTried || stopped())
                return;
            if (std::find(tried.begin(), tried.end(), vias) != tried.end())
                continue;
            tried.push_back(vias);
            Job job = kept_;
            job.runs[at_].vias = vias;
            auto found = placed(CureOf::Way, job);
            if (!found)
                continue;
            found->vias = vias;
            found->title = vias.empty() ? sentence({"cure.way-straight", "The shortest way"})
                                        : sentence({"cure.way", "Its way by {0}"}, name);
            out_.push_back(std::move(*found));
        }
    }

    [[nodiscard]] bool inSystem() const {
        return kept_.distributionOf(run_.id) != nullptr || kept_.busOf(run_.id) != nullptr;
    }

    /// Where it begins is where its system is: a run of one has no choice of it.
    void otherPlaces() {
        const Place* now = byId(kept_.places, run_.near.placeId);
        if (now == nullptr || !isOurs(now->kind) || inSystem())
            return;
        std::vector<std::pair<double, const Place*>> places;
        for (const auto& place : kept_.places) {
            if (place.kind != now->kind || place.id == now->id)
                continue;
            Run other = run_;
            other.near = {{}, place.id, 0};
            const RunRoute way = burin::routeOf(kept_, other, *site_.graph, nullptr);
            if (!way.fault)
                places.emplace_back(way.linkM, &place);
        }
        std::sort(places.begin(), places.end(),
                  [](const auto& a, const auto& b) { return a.first < b.first; });
        if (places.size() > mostTried)
            places.resize(mostTried);
        PortFinder ports(kept_);
        for (const auto& [length, place] : places) {
            if (stopped())
                return;
            const RunEnd end = ports.on(*place);
            if (place->ports > 1 && end.port == 0)
                continue;
            Job job = kept_;
            job.runs[at_].near = end;
            auto found = placed(CureOf::Place, job);
            if (!found)
                continue;
            found->near = end;
            found->title = sentence({"cure.place", "From {0} instead"}, asText(place->name));
            out_.push_back(std::move(*found));
        }
    }

    /// A point of its way so many metres from its head end; none beyond half of it.
    [[nodiscard]] std::optional<std::pair<std::string, PlanPoint>> along(double metres) const {
        double gone = 0;
        if (metres > route_->routeM / 2)
            return std::nullopt;
        for (const auto& leg : route_->legs) {
            const Pathway* way = pathwayOf(leg, *site_.graph);
            if (leg.kind == RouteLeg::Kind::Drop ||
                (way != nullptr && way->kind == PathwayKind::Shaft))
                continue;
            if (metres <= gone + leg.lengthM && leg.lengthM > 0) {
                const double share = (metres - gone) / leg.lengthM;
                return std::pair(
                    leg.floorId,
                    way == nullptr
                        ? between(leg.from, leg.to, share)
                        : pointAt(way->points, leg.fromAtM + share * (leg.toAtM - leg.fromAtM)));
            }
            gone += leg.lengthM;
        }
        return std::nullopt;
    }

    /// Moved so far that the run holds, first by what it lacks; nothing that ends there may lie
    /// yet.
    void movedHead(double lacksM) {
        const Place* now = byId(kept_.places, run_.near.placeId);
        if (now == nullptr || !isOurs(now->kind))
            return;
        for (const auto& run : kept_.runs)
            if ((run.near.placeId == now->id || run.far.placeId == now->id) &&
                (kept_.isMeasured(run.id) || pulledOf(kept_, run)))
                return;
        double metres = std::ceil(lacksM / moveStepM) * moveStepM;
        for (double step = moveStepM; !stopped(); step *= 2) {
            const auto to = along(metres);
            if (!to)
                return;
            Job job = kept_;
            Place& place = *std::find_if(job.places.begin(), job.places.end(),
                                         [&](const Place& p) { return p.id == now->id; });
            place.floorId = to->first;
            place.at = to->second;
            if (auto found = placed(CureOf::HeadEnd, job)) {
                found->place = place;
                found->cost += {0, catalogue_.costs.hoursToMoveHeadEnd};
                found->title = sentence({"cure.head-end", "{0} moved {1} along its way"},
                                        asText(now->name), asMetres(metres));
                out_.push_back(std::move(*found));
                return;
            }
            metres += step;
        }
    }

    const Job& kept_;
    const Job& laid_;
    const std::size_t at_;
    const Run& run_;
    const Catalogue& catalogue_;
    const SitePlan& site_;
    const std::function<bool()>& stop_;
    const JobReads reads_;
    const std::ptrdiff_t bad_;
    const Cable* const cable_;
    const RunRoute* const route_;
    std::vector<Cure> out_;
};

} // namespace

std::vector<Cure> wayCures(const Job& kept, const Job& laid, const std::string& runId,
                           const Catalogue& catalogue, const SitePlan& site,
                           const std::function<bool()>& stop) {
    for (std::size_t i = 0; i < kept.runs.size(); ++i)
        if (kept.runs[i].id == runId)
            return WayCures(kept, laid, i, catalogue, site, stop).all();
    return {};
}

} // namespace burin
