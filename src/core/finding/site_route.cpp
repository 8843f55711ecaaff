#include "core/base/lookup.h"
#include "core/finding/site_matters.h"
#include "core/job/run_length.h"
#include "core/pull/stock.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>

namespace burin {
namespace {

/// What the plan calls the stretches that have no name of a user's.
struct PlanWord {
    enum { Dressing, Drop, Open, Loop, Way };
};
constexpr std::array<std::string_view, 5> planWords{"dressing", "drop", "open", "loop", "way"};

Quantity legName(const RouteLeg& leg, const WayGraph& graph) {
    if (leg.kind == RouteLeg::Kind::Drop)
        return asTerm(planWords[PlanWord::Drop]);
    if (leg.kind == RouteLeg::Kind::Open)
        return asTerm(planWords[PlanWord::Open]);
    const auto it = graph.pathwayIndex.find(leg.pathwayId);
    if (it == graph.pathwayIndex.end())
        return asTerm(planWords[PlanWord::Way]);
    const Pathway& way = graph.pathways[static_cast<std::size_t>(it->second)];
    return way.name.empty() ? asTerm(pathwayWord(way.kind)) : asText(way.name);
}

WayEnd endAt(const Place& place, const WayGraph& graph) {
    return {place.floorId, place.at, graph.absoluteM(place.floorId, place.heightM), false};
}

/// What is left at an end beyond the way: dressing at a head end, a loop in a box, a coil outdoors.
LengthPart spareAt(const Place& place, const SurveyRules& rules) {
    if (isHeadEnd(place.kind))
        return {sentence({"length.dressing", "dressing at {0}"},
                         place.name.empty() ? asTerm(placeWord(place.kind)) : asText(place.name)),
                rules.rackM, true};
    if (place.access == EndAccess::Outdoors || place.access == EndAccess::Height)
        return {sentence({"length.coil", "coil outdoors"}), rules.coilM, true};
    return {sentence({"length.loop", "loop in the box"}), rules.outletM, true};
}

void addNeed(RunRoute& out, Jacket need, const Sentence& why) {
    if (std::find(out.needs.begin(), out.needs.end(), need) != out.needs.end())
        return;
    out.needs.push_back(need);
    if (need == Jacket::General)
        return;
    auto one = sentence({"jacket.need", "{0}: {1}"}, asTerm(jacketWord(need)), why);
    out.jacketWhy = out.jacketWhy.empty()
                        ? std::move(one)
                        : joined({std::move(out.jacketWhy), std::move(one)}, "; ");
}

void setNeeds(RunRoute& out, const WayGraph& graph, const Place& near, const Place& far,
              JacketSchool school) {
    const auto indoors = [&](Jacket need) {
        return school == JacketSchool::PlenumEverywhere &&
                       (need == Jacket::General || need == Jacket::Riser)
                   ? Jacket::Plenum
                   : need;
    };
    for (const auto& leg : out.legs)
        if (const Pathway* way = pathwayOf(leg, graph)) {
            out.outdoors = out.outdoors || way->kind == PathwayKind::Outdoors;
            const Jacket need = jacketFor(way->kind);
            addNeed(out, indoors(need),
                    indoors(need) == need
                        ? alone(legName(leg, graph))
                        : sentence({"jacket.everywhere", "plenum everywhere, as this job has it"}));
        }
    // Down to an outlet a cable goes within the wall.
    for (const Place* place : {&near, &far})
        if (place->kind == PlaceKind::Outlet)
            addNeed(out, indoors(Jacket::Riser),
                    sentence({"jacket.wall", "in the wall down to the outlet"}));
    if (out.needs.empty())
        addNeed(out, indoors(Jacket::General), {});
    out.jacket = jacketForAll(out.needs);
}

void setLengths(RunRoute& out, const Place& near, const Place& far, const SurveyRules& rules,
                double perM) {
    double along = 0;
    double open = 0;
    double drops = 0;
    for (const auto& leg : out.legs)
        (leg.kind == RouteLeg::Kind::Along  ? along
         : leg.kind == RouteLeg::Kind::Open ? open
                                            : drops) += leg.lengthM;
    out.routeM = along + open + drops;
    if (along > 0)
        out.parts.push_back({sentence({"length.pathways", "pathways"}), along, true});
    if (open > 0)
        out.parts.push_back({sentence({"length.open", "through the open"}), open, true});
    out.parts.push_back({sentence({"length.drops", "drops"}), drops, true});
    if (rules.spare == SpareSchool::PullLong) {
        const LengthPart a = spareAt(near, rules);
        out.nearSpareM = a.lengthM;
        out.parts.push_back(a);
        out.parts.push_back(spareAt(far, rules));
        out.parts.push_back(
            {sentence({"length.share", "{0} of the way"}, asShare(rules.routeShare)),
             rules.routeShare * out.routeM, false});
    } else {
        out.parts.push_back({sentence({"length.allowance", "allowance at both ends"}),
                             2 * rules.allowanceM, false});
    }
    for (const auto& part : out.parts) {
        out.pullM += part.lengthM;
        if (part.inLink)
            out.linkM += part.lengthM;
    }
    out.spareCost = (out.pullM - out.routeM) * perM;
    out.repullCost = out.pullM * perM + rules.repullHours * rules.hourPrice;
}

/// Stretches near end first; `cables` must stand.
void setStretches(RunRoute& out, const WayGraph& graph) {
    const auto add = [&](const Quantity& name, double length, double warmth, int cables,
                         Surroundings around) {
        if (length > 0)
            out.stretches.push_back({name.text, length, warmth, std::max(0, cables - 1), around});
    };
    const double farSpare = out.linkM - out.routeM - out.nearSpareM;
    const int first = out.cables.empty() ? 1 : out.cables.front();
    const int last = out.cables.empty() ? 1 : out.cables.back();
    add(asTerm(planWords[PlanWord::Dressing]), out.nearSpareM, 20, first, Surroundings::FreeAir);
    for (std::size_t i = 0; i < out.legs.size(); ++i) {
        const Pathway* way = pathwayOf(out.legs[i], graph);
        add(legName(out.legs[i], graph), out.legs[i].lengthM,
            way != nullptr ? way->temperatureC : 20, out.cables[i],
            way != nullptr ? way->around : Surroundings::FreeAir);
    }
    if (farSpare > 1e-9)
        add(asTerm(planWords[PlanWord::Loop]), farSpare, 20, last, Surroundings::FreeAir);
}

/// Everything of a route but how many share its legs.
RunRoute layOut(const Run& run, const Place& near, const Place& far, const SurveyRules& rules,
                const WayGraph& graph, std::vector<WayEnd> ends, Outcome<Route> route) {
    RunRoute out;
    out.runId = run.id;
    out.ends = std::move(ends);
    if (!route) {
        out.fault = route.error();
        out.fault->where = sentence({"where.run", "run {0}"}, run.label);
        return out;
    }
    out.legs = std::move(route->legs);
    out.cables.assign(out.legs.size(), 1);
    setLengths(out, near, far, rules, rules.perMetreOf(run.cableId));
    setNeeds(out, graph, near, far, rules.jackets);
    return out;
}

std::vector<WayEnd> endsOf(const Run& run, const Place& near, const Place& far,
                           const WayGraph& graph) {
    std::vector<WayEnd> out{endAt(near, graph)};
    for (const auto& via : run.vias)
        out.push_back({via.floorId, via.at, 0, true});
    out.push_back(endAt(far, graph));
    return out;
}

/// Ways over one graph; the tree from each head end is grown once.
class Router {
public:
    Router(const WayGraph& graph, const SitePlan* before) : graph_(graph), before_(before) {}
    Outcome<Route> way(const Run& run, const std::vector<WayEnd>& ends) {
        if (before_ != nullptr)
            if (const RunRoute* known = before_->route(run.id);
                known != nullptr && !known->fault && known->ends == ends)
                return Route{known->legs};
        if (ends.size() > 2)
            return findRoute(graph_, ends);
        auto it = trees_.find(run.near.placeId);
        if (it == trees_.end())
            it = trees_.emplace(run.near.placeId, waysFrom(graph_, ends.front())).first;
        if (auto route = routeTo(graph_, it->second, ends.back()))
            return std::move(*route);
        return findRoute(graph_, ends); // says what is missing
    }

private:
    const WayGraph& graph_;
    const SitePlan* before_;
    std::map<std::string, WayTree> trees_;
};

/// How many cables lie along each pathway, by place.
class Company {
public:
    Company(const std::vector<RunRoute>& routes, const WayGraph& graph)
        : graph_(graph), ways_(graph.pathways.size()) {
        for (const auto& route : routes)
            for (const auto& leg : route.legs)
                if (leg.kind == RouteLeg::Kind::Along) {
                    auto& events = ways_[index(leg)].events;
                    const auto [low, high] = std::minmax(leg.fromAtM, leg.toAtM);
                    events.emplace_back(low, 1);
                    events.emplace_back(high, -1);
                }
        for (auto& way : ways_) {
            std::sort(way.events.begin(), way.events.end());
            int now = 0;
            for (const auto& [at, step] : way.events) {
                now += step;
                if (way.at.empty() || at > way.at.back() + 1e-9) {
                    way.at.push_back(at);
                    way.count.push_back(now);
                } else {
                    way.count.back() = now;
                }
            }
        }
    }
    [[nodiscard]] int most(const RouteLeg& leg) const {
        const Way& way = ways_[index(leg)];
        const auto [low, high] = std::minmax(leg.fromAtM, leg.toAtM);
        auto i = static_cast<std::size_t>(
            std::upper_bound(way.at.begin(), way.at.end(), low + 1e-9) - way.at.begin());
        int most = i > 0 ? way.count[i - 1] : 1;
        for (; i < way.at.size() && way.at[i] < high - 1e-9; ++i)
            most = std::max(most, way.count[i]);
        return std::max(most, 1);
    }

private:
    struct Way {
        std::vector<std::pair<double, int>> events;
        std::vector<double> at; ///< from here on
        std::vector<int> count; ///< so many
    };
    [[nodiscard]] std::size_t index(const RouteLeg& leg) const {
        return static_cast<std::size_t>(graph_.pathwayIndex.at(leg.pathwayId));
    }
    const WayGraph& graph_;
    std::vector<Way> ways_;
};

} // namespace

const RunRoute* SitePlan::route(std::string_view runId) const {
    const auto it = routeOf.find(runId);
    return it == routeOf.end() ? nullptr : &routes[it->second];
}

SitePlan planSite(const Job& job, const Catalogue& catalogue, const SitePlan* before) {
    SitePlan out;
    if (before != nullptr &&
        (before->graph->floors != job.floors || before->graph->pathways != job.pathways))
        before = nullptr;
    out.graph = before != nullptr
                    ? before->graph
                    : std::make_shared<const WayGraph>(makeWayGraph(job.floors, job.pathways));
    const WayGraph& graph = *out.graph;
    std::map<std::string_view, const Place*> places;
    for (const auto& place : job.places)
        places[place.id] = &place;
    Router router(graph, before);
    std::map<const Place*, int> atPlace;
    std::vector<std::pair<const Place*, const Place*>> ends;
    for (const auto& run : job.runs) {
        const auto near = places.find(run.near.placeId);
        const auto far = places.find(run.far.placeId);
        if (near == places.end() || far == places.end())
            continue;
        out.routeOf[run.id] = out.routes.size();
        auto runEnds = endsOf(run, *near->second, *far->second, graph);
        auto way = router.way(run, runEnds);
        out.routes.push_back(layOut(run, *near->second, *far->second, job.info.survey, graph,
                                    std::move(runEnds), std::move(way)));
        ends.emplace_back(near->second, far->second);
        ++atPlace[near->second];
        ++atPlace[far->second];
    }
    const Company company(out.routes, graph);
    for (std::size_t i = 0; i < out.routes.size(); ++i) {
        auto& route = out.routes[i];
        for (std::size_t k = 0; k < route.legs.size(); ++k) {
            if (route.legs[k].kind == RouteLeg::Kind::Along)
                route.cables[k] = company.most(route.legs[k]);
            else // an end is shared by all that end there
                route.cables[k] = k == 0                       ? atPlace[ends[i].first]
                                  : k + 1 == route.legs.size() ? atPlace[ends[i].second]
                                                               : 1;
        }
        setStretches(route, graph);
    }
    out.findings = siteFindings(job, catalogue, out, out.fills);
    return out;
}

Job laidJob(const Job& job, const SitePlan& plan) {
    Job out = job;
    for (auto& run : out.runs)
        if (isLaidByPlan(run))
            if (const RunRoute* route = plan.route(run.id); route != nullptr && !route->fault)
                run.stretches = route->stretches;
    for (auto& run : out.runs)
        if (lengthFrom(run) == LengthFrom::Marks)
            if (const auto link = linkByMarksM(job, run))
                run = withLength(std::move(run), *link);
    return out;
}

RunRoute routeOf(const Job& job, const Run& run, const WayGraph& graph, const RunRoute* known) {
    const Place* near = byId(job.places, run.near.placeId);
    const Place* far = byId(job.places, run.far.placeId);
    if (near == nullptr || far == nullptr)
        return {};
    auto ends = endsOf(run, *near, *far, graph);
    auto way = findRoute(graph, ends);
    RunRoute out =
        layOut(run, *near, *far, job.info.survey, graph, std::move(ends), std::move(way));
    for (std::size_t i = 0; known != nullptr && i < out.legs.size(); ++i)
        for (std::size_t k = 0; k < known->legs.size(); ++k)
            if (known->legs[k].pathwayId == out.legs[i].pathwayId &&
                known->legs[k].kind == out.legs[i].kind)
                out.cables[i] = known->cables[k];
    setStretches(out, graph);
    return out;
}

namespace {

Quantity legWord(const Job& job, const RouteLeg& leg) {
    if (leg.kind == RouteLeg::Kind::Drop)
        return asTerm("drop");
    if (leg.kind == RouteLeg::Kind::Open)
        return asTerm("through the open, square");
    const Pathway* way = byId(job.pathways, leg.pathwayId);
    return way == nullptr      ? asTerm("way")
           : way->name.empty() ? asTerm(pathwayWord(way->kind))
                               : asText(way->name);
}

} // namespace

Quantity stretchName(const Run& run, const RunStretch& stretch) {
    if (stretch.name.empty())
        return asTerm("cable");
    bool ours = std::find(planWords.begin(), planWords.end(), stretch.name) != planWords.end();
    for (std::size_t k = 0; k < pathwayKindWords.words.size(); ++k)
        ours = ours || stretch.name == pathwayWord(static_cast<PathwayKind>(k));
    return ours && isLaidByPlan(run) ? asTerm(stretch.name) : asText(stretch.name);
}

Working routeWorking(const Job& job, const RunRoute& route) {
    Working out;
    const Run* run = job.run(route.runId);
    out.title = run == nullptr ? sentence({"route.title-unknown", "Length of the run"})
                               : sentence({"route.title", "Length of {0}"}, run->label);
    if (route.fault) {
        out.result = told(*route.fault);
        return out;
    }
    const auto& rules = job.info.survey;
    const double perM = rules.perMetreOf(run == nullptr ? std::string_view() : run->cableId);
    out.formula =
        sentence({"route.formula", "to pull = pathways + open + drops + spare; in the link = "
                                   "what is not cut off"});
    const bool longPull = rules.spare == SpareSchool::PullLong;
    const auto source = longPull ? sentence({"source.pull-long", "the job's rule: pull long"})
                                 : sentence({"source.pull-measured", "the job's rule: measured"});
    if (longPull) {
        out.inputs = {
            {sentence({"input.dressing", "dressing at a head end"}), alone(asMetres(rules.rackM)),
             source},
            {sentence({"input.loop", "loop in a box"}), alone(asMetres(rules.outletM)), source},
            {sentence({"input.coil", "coil outdoors"}), alone(asMetres(rules.coilM)), source},
            {sentence({"input.beyond", "beyond the way"}), alone(asShare(rules.routeShare)),
             source}};
    } else {
        out.inputs = {{sentence({"input.allowance", "allowance at each end"}),
                       alone(asMetres(rules.allowanceM)), source}};
    }
    for (std::size_t i = 0; i < route.legs.size(); ++i)
        out.steps.push_back(sentence({"route.leg", "{0}: {1}, {2} {2?cable|cables}"},
                                     legWord(job, route.legs[i]),
                                     asMetres(route.legs[i].lengthM, 3), asCount(route.cables[i])));
    for (const auto& part : route.parts)
        out.steps.push_back(
            sentence(part.inLink ? Wording{"route.part", "{0}: {1}"}
                                 : Wording{"route.part-cut", "{0}: {1}, cut off at the ends"},
                     part.name, asMetres(part.lengthM, 2)));
    out.steps.push_back(sentence(
        {"route.costs", "the spare costs {0}, pulling again {1} ({2} a metre, {3} at {4})"},
        asMoney(route.spareCost, rules.currency), asMoney(route.repullCost, rules.currency),
        asNumber(perM, 2), asUnit(rules.repullHours, 1, "h"), asNumber(rules.hourPrice, 0)));
    out.result = sentence({"route.result", "{0} to pull, {1} in the link"},
                          asMetres(route.pullM, 2), asMetres(route.linkM, 2));
    return out;
}

} // namespace burin
