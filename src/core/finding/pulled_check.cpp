#include "core/finding/pulled_check.h"
#include "core/base/lookup.h"
#include "core/finding/trial.h"
#include "core/job/ports.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

constexpr double leastDressingM = 0.15; ///< less than this cannot be made off
constexpr double leastLackM = 0.05;     ///< less is nothing that a hand could tell
constexpr double cordStepM = 0.5;

constexpr Wording lessHere{"short.less-here", "Leave {0} there instead of {1}"};
constexpr Wording fromOther{"short.from-other-end",
                            "Draw {0} through from {1}: {2} of {3} stay there"};
constexpr Wording nearer{"short.nearer-place", "End it on {0}: its way there is {1} shorter"};
constexpr Wording longerCord{"short.longer-cord",
                             "Set the jack back and take a cord of {0} at {1}: it still holds"};
constexpr Wording pullAgain{"short.pull-again", "Pull it again, {0}"};

constexpr Wording shortOfWay{
    "short.of-way", "{0} too short at {1}: its way takes {2} and {3} lie between the ends"};
constexpr Wording shortOfDressing{
    "short.of-dressing", "Reaches, with {0} less at {1} than the {2} that were to stay there"};
constexpr Wording notSure{"short.not-sure",
                          "The marks may be {0} off: measure before anything is closed"};
constexpr Wording farOff{"short.far-from-plan",
                         "{0} by its marks, {1} planned: a mark misread, or another way taken?"};

/// What is planned to stay at the two ends of a run beyond its way.
struct Spares {
    double nearM = 0, farM = 0;
};

class Checking {
public:
    Checking(const Job& kept, const Job& laid, const Run& run, const Catalogue& catalogue,
             const SitePlan& site, const PullPlan& plan)
        : kept_(kept), laid_(laid), run_(run), catalogue_(catalogue), site_(site) {
        out_.runId = run.id;
        out_.cutM = cutOffM(kept.info, run);
        if (const PullFinding* pull = plan.pullOf(run.id))
            out_.end = pull->boxesAt == BoxesAt::Far ? End::Far : End::Near;
    }
    PulledCheck check(const MarkedLength& pulled) {
        out_.pulled = pulled;
        out_.linkM = std::max(0.0, pulled.lengthM - out_.cutM);
        out_.plannedM = plannedPullM(kept_.info, run_, site_).value_or(0);
        out_.farFromPlan = out_.plannedM > 0 && differsFromWay(pulled.lengthM, out_.plannedM);
        Spares spares;
        if (run_.followsPlan) {
            route_ = site_.route(run_.id);
            if (route_ != nullptr && route_->fault)
                route_ = nullptr;
        }
        if (route_ != nullptr) {
            out_.needM = route_->linkM;
            spares = {route_->nearSpareM, route_->linkM - route_->routeM - route_->nearSpareM};
        } else if (!run_.followsPlan && run_.lengthM() > 0) {
            out_.needM = run_.lengthM();
        }
        if (!out_.needM || out_.linkM >= *out_.needM - leastLackM)
            return std::move(out_);
        out_.lacksM = *out_.needM - out_.linkM;
        out_.sure = out_.lacksM > pulled.doubtM;
        const bool near = out_.end == End::Near;
        const double here = near ? spares.nearM : spares.farM;
        const double there = near ? spares.farM : spares.nearM;
        out_.dressingM = here;
        out_.reaches = out_.lacksM <= here - leastDressingM;
        if (out_.reaches)
            add(ShortCure::How::LessHere,
                sentence(lessHere, asMetres(here - out_.lacksM), asMetres(here)), {0, 0});
        if (there - out_.lacksM >= leastDressingM)
            add(ShortCure::How::FromOtherEnd,
                sentence(fromOther, asMetres(out_.lacksM),
                         asText(endName(near ? End::Far : End::Near)),
                         asMetres(there - out_.lacksM), asMetres(there)),
                {0, catalogue_.costs.hoursToPutIn});
        nearerPlace();
        cord();
        again();
        std::stable_sort(out_.cures.begin(), out_.cures.end(),
                         [&](const ShortCure& a, const ShortCure& b) {
                             return a.cost.total(catalogue_.costs) < b.cost.total(catalogue_.costs);
                         });
        return std::move(out_);
    }

private:
    void add(ShortCure::How how, Sentence what, Cost cost) {
        out_.cures.push_back({how, std::move(what), cost});
    }
    [[nodiscard]] std::string endName(End end) const {
        const std::string name = burin::endName(laid_, end == End::Near ? run_.near : run_.far);
        return name.empty() ? std::string(endWords[end]) + " end" : name;
    }
    /// Another place of the same kind in the same room with a port free, so much nearer.
    void nearerPlace() {
        if (route_ == nullptr)
            return;
        const RunEnd& end = out_.end == End::Near ? run_.near : run_.far;
        const Place* now = byId(kept_.places, end.placeId);
        const Place* best = nullptr;
        double saved = out_.lacksM;
        PortFinder ports(kept_);
        for (const auto& place : kept_.places) {
            if (now == nullptr || place.id == now->id || place.kind != now->kind ||
                place.roomId != now->roomId || place.floorId != now->floorId)
                continue;
            if (place.ports > 1 ? ports.on(place).port == 0 : isTaken(place))
                continue;
            Run other = run_;
            (out_.end == End::Near ? other.near : other.far) = {{}, place.id, 0};
            const auto route = routeOf(kept_, other, *site_.graph, nullptr);
            if (!route.fault && route_->linkM - route.linkM >= saved) {
                saved = route_->linkM - route.linkM;
                best = &place;
            }
        }
        if (best != nullptr)
            add(ShortCure::How::NearerPlace, sentence(nearer, asText(best->name), asMetres(saved)),
                {0, catalogue_.costs.hoursToPutIn});
    }
    [[nodiscard]] bool isTaken(const Place& place) const {
        return std::any_of(kept_.runs.begin(), kept_.runs.end(), [&](const Run& r) {
            return r.near.placeId == place.id || r.far.placeId == place.id;
        });
    }
    void cord() {
        const Run* laid = laid_.run(run_.id);
        if (laid == nullptr)
            return;
        Run other = *laid;
        for (auto& cord : other.cords)
            if (cord.end == out_.end) {
                cord.lengthM = std::ceil((cord.lengthM + out_.lacksM) / cordStepM) * cordStepM;
                if (tryRun(laid_, other, catalogue_).holds)
                    add(ShortCure::How::LongerCord,
                        sentence(longerCord, asMetres(cord.lengthM), asText(endName(out_.end))),
                        {catalogue_.costs.connector, catalogue_.costs.hoursToPutIn * 2});
                return;
            }
    }
    void again() {
        const Cable* cable = catalogue_.cable(run_.cableId);
        if (cable == nullptr || out_.plannedM <= 0)
            return;
        add(ShortCure::How::PullAgain, sentence(pullAgain, asMetres(out_.plannedM)),
            cableCost(catalogue_.costs, *cable, *cable, out_.plannedM, true));
    }

    const Job& kept_;
    const Job& laid_;
    const Run& run_;
    const Catalogue& catalogue_;
    const SitePlan& site_;
    const RunRoute* route_ = nullptr;
    PulledCheck out_;
};

} // namespace

std::optional<PulledCheck> checkPulled(const Job& kept, const Job& laid, const Run& run,
                                       const Catalogue& catalogue, const SitePlan& site,
                                       const PullPlan& plan) {
    const auto pulled = pulledOf(kept, run);
    if (!pulled)
        return std::nullopt;
    return Checking(kept, laid, run, catalogue, site, plan).check(*pulled);
}

std::vector<Sentence> saidOf(const PulledCheck& check, const Job& laid) {
    std::vector<Sentence> out;
    if (check.farFromPlan)
        out.push_back(sentence(farOff, asMetres(check.pulled.lengthM), asMetres(check.plannedM)));
    if (!check.isShort())
        return out;
    const Run* run = laid.run(check.runId);
    std::string end = run == nullptr ? std::string()
                                     : endName(laid, check.end == End::Near ? run->near : run->far);
    if (end.empty())
        end = std::string(endWords[check.end]) + " end";
    out.push_back(check.reaches
                      ? sentence(shortOfDressing, asMetres(check.lacksM), asText(end),
                                 asMetres(check.dressingM))
                      : sentence(shortOfWay, asMetres(check.lacksM), asText(end),
                                 asMetres(check.needM.value_or(0)), asMetres(check.linkM)));
    if (!check.sure)
        out.push_back(sentence(notSure, asMetres(check.pulled.doubtM)));
    return out;
}

} // namespace burin
