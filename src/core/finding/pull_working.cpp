#include "core/base/lookup.h"
#include "core/finding/pull_finding.h"
#include "core/units/render.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

Quantity wayName(const Job& job, const PullPart& part) {
    const Pathway* way = byId(job.pathways, part.pathwayId);
    return way == nullptr ? asTerm("open") : asText(way->name);
}
Sentence stepOf(const Job& job, const PullPart& part, const PullPoint& point) {
    const auto friction = asNumber(part.friction, 2);
    const auto after = asNewton(point.tensionN);
    if (part.kind == PullPart::Kind::Bend)
        return sentence({"force.bend", "bend {0}, μ {1}, {2} → {3}"},
                        asUnit(part.bendRad * 180 / std::numbers::pi, 0, "°"), friction,
                        wayName(job, part), after);
    const auto length = asMetres(part.lengthM);
    if (std::abs(part.riseM) <= 0.01)
        return sentence({"force.straight", "{0} {1}, μ {2} → {3}"}, length, wayName(job, part),
                        friction, after);
    return sentence(part.riseM > 0 ? Wording{"force.up", "{0} {1}, μ {2}, up {4} → {3}"}
                                   : Wording{"force.down", "{0} {1}, μ {2}, down {4} → {3}"},
                    length, wayName(job, part), friction, after, asMetres(std::abs(part.riseM)));
}
Sentence breakOf(const BreakPoint& point) {
    const auto at = asMetres(point.atM);
    switch (point.why) {
    case BreakPoint::Why::Length:
        return sentence({"force.break-length", "broken at {0}: {1} of conduit"}, at,
                        asMetres(30, 0));
    case BreakPoint::Why::Bends:
        return sentence({"force.break-bends", "broken at {0}: two right angles"}, at);
    default:
        return sentence({"force.break-limit", "broken at {0}: {1} of the limit"}, at, asShare(0.8));
    }
}
const Wording notKnown{"input.not-known", "not known"};
const Wording jobsRule{"source.job-rule", "the job's rule"};

} // namespace

Working pullWorking(const PullFinding& pull, const Job& job) {
    Working out;
    out.title = sentence({"force.title", "Force of this pull"});
    out.formula = sentence({"force.formula", "straight: T + μ·w·g·level + w·g·rise, never under 0; "
                                             "bend: T·e^(μθ)"});
    out.inputs.push_back(
        {sentence({"input.boxes-at", "boxes stand at"}), alone(asText(boxesStandAt(pull, job))),
         pull.nearN && pull.farN
             ? sentence({"force.both", "{0} from the near end, {1} from the far end: the lesser is "
                                       "proposed"},
                        asNewton(*pull.nearN), asNewton(*pull.farN))
             : sentence({"force.chosen", "as chosen"})});
    out.inputs.push_back({sentence({"input.cables", "cables"}), alone(asCount(pull.runs.size())),
                          sentence({"source.pull", "this pull"})});
    out.inputs.push_back(
        {sentence({"input.weight", "weight together"}),
         alone(Quantity{Quantity::Of::KgPer100m, pull.group.weightKgPerM * 100, 1}),
         sentence({"source.each-cable", "catalogue, each cable's own"})});
    out.inputs.push_back({sentence({"input.drag", "drag of the boxes"}),
                          alone(asNewton(pull.group.startN)), sentence(jobsRule)});
    const auto sheet = sentence({"source.own-sheet", "its own sheet says"});
    for (const auto& name : pull.noWeight)
        out.inputs.push_back({sentence({"input.weight-of", "weight of {0}"}, asTerm(name)),
                              sentence(notKnown), sheet});
    for (const auto& name : pull.noLimit)
        out.inputs.push_back(
            {sentence({"input.pull-of", "pull of {0}"}, asTerm(name)), sentence(notKnown), sheet});
    if (pull.limitN)
        out.inputs.push_back({sentence({"input.limit", "limit"}), alone(asNewton(*pull.limitN)),
                              pull.grip == Grip::ByOne || pull.runs.size() == 1
                                  ? sentence({"force.by-one", "what the gripped one bears"})
                                  : sentence({"force.together", "{0} of what they bear together"},
                                             asNumber(0.8, 1))});
    if (pull.noWeight.empty()) {
        const auto found = findTension(pull.way, pull.group);
        for (std::size_t i = 0; i < pull.way.size(); ++i)
            out.steps.push_back(stepOf(job, pull.way[i], found.points[i]));
        for (const auto& point : pull.breaks)
            out.steps.push_back(breakOf(point));
        const auto most = asNewton(found.mostN);
        out.result =
            pull.way.empty()
                ? sentence({"force.no-way", "its way is not on the plan: no force can be told"})
            : !pull.breaks.empty() && pull.brokenN
                ? sentence({"force.broken", "at most {0}; broken there, {1}"}, most,
                           asNewton(*pull.brokenN))
                : sentence({"force.most", "at most {0}"}, most);
    } else {
        out.result = sentence({"force.no-weight", "not known without its weight"});
    }
    out.inputs.push_back(
        {sentence({"input.friction", "friction"}),
         sentence({"force.frictions", "{0} dry, {1} lubricated, {2} over rollers or hooks"},
                  asNumber(0.5, 1), asNumber(0.25, 2), asNumber(0.2, 1)),
         sentence({"source.page", "reference page section 11"})});
    return out;
}

Working boxesWorking(const PullPlan& plan, const Job& job) {
    Working out;
    out.title = sentence({"boxes.title", "Boxes for what is still to be pulled"});
    out.formula = sentence(
        {"boxes.formula", "fresh boxes ≥ (cable wanted − left in begun boxes) / box, and ≥ cables "
                          "of a kind in the largest pull − begun boxes of it"});
    out.inputs.push_back({sentence({"input.new-box", "a new box"}),
                          alone(asMetres(job.info.pull.newBoxM)), sentence(jobsRule)});
    out.inputs.push_back(
        {sentence({"input.scrap", "of no use"}),
         sentence({"boxes.rest", "a rest under {0}"}, asMetres(job.info.pull.scrapM)),
         sentence(jobsRule)});
    std::vector<std::pair<std::string, double>> wanted;
    for (const auto& box : plan.boxes)
        for (const auto& one : box.planned) {
            const auto it = std::find_if(wanted.begin(), wanted.end(),
                                         [&](const auto& w) { return w.first == box.cableId; });
            if (it == wanted.end())
                wanted.emplace_back(box.cableId, one.lengthM);
            else
                it->second += one.lengthM;
        }
    for (const auto& [cable, length] : wanted)
        out.steps.push_back(
            sentence({"boxes.wanted", "{0}: {1} to pull"}, cable, asMetres(length)));
    out.steps.push_back(
        sentence({"boxes.opened", "fresh boxes opened: {0}; no plan opens fewer than {1}"},
                 asCount(plan.opened), asCount(plan.lowerBound)));
    out.steps.push_back(sentence({"boxes.rests", "rests of no use: {0}"}, asMetres(plan.scrapM)));
    out.result = plan.provenLeast()
                     ? sentence({"boxes.least", "the fewest there can be"})
                     : sentence({"boxes.tried", "found by trying; not proven to be the fewest"});
    return out;
}

} // namespace burin
