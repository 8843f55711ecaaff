#include "core/base/lookup.h"
#include "core/finding/pull_finding.h"
#include "core/units/render.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

constexpr const char* page = "reference page section 11";

std::string metres(double value) {
    return render(asMetres(value), UnitSystem::Metric);
}
std::string newton(double value) {
    return render(asNewton(value), UnitSystem::Metric);
}
std::string wayName(const Job& job, const PullPart& part) {
    const Pathway* way = byId(job.pathways, part.pathwayId);
    return way == nullptr ? "open" : way->name;
}
std::string stepText(const Job& job, const PullPart& part, const PullPoint& point) {
    const std::string after = " → " + newton(point.tensionN);
    if (part.kind == PullPart::Kind::Bend)
        return "bend " + formatFixed(part.bendRad * 180 / std::numbers::pi, 0) + "°, μ " +
               formatFixed(part.friction, 2) + ", " + wayName(job, part) + after;
    std::string out =
        metres(part.lengthM) + " " + wayName(job, part) + ", μ " + formatFixed(part.friction, 2);
    if (std::abs(part.riseM) > 0.01)
        out += part.riseM > 0 ? ", up " + metres(part.riseM) : ", down " + metres(-part.riseM);
    return out + after;
}

} // namespace

Working pullWorking(const PullFinding& pull, const Job& job) {
    Working out;
    out.title = "Force of this pull";
    out.formula = "straight: T + μ·w·g·level + w·g·rise, never under 0; bend: T·e^(μθ)";
    out.inputs.push_back({"boxes stand at", boxesStandAt(pull, job),
                          pull.nearN && pull.farN
                              ? newton(*pull.nearN) + " from the near end, " + newton(*pull.farN) +
                                    " from the far end: the lesser is proposed"
                              : "as chosen"});
    out.inputs.push_back({"cables", std::to_string(pull.runs.size()), "this pull"});
    out.inputs.push_back({"weight together",
                          formatFixed(pull.group.weightKgPerM * 100, 1) + " kg per 100 m",
                          "catalogue, each cable's own"});
    out.inputs.push_back({"drag of the boxes", newton(pull.group.startN), "the job's rule"});
    for (const auto& name : pull.noWeight)
        out.inputs.push_back({"weight of " + name, "not known", "its own sheet says"});
    for (const auto& name : pull.noLimit)
        out.inputs.push_back({"pull of " + name, "not known", "its own sheet says"});
    if (pull.limitN)
        out.inputs.push_back({"limit", newton(*pull.limitN),
                              pull.grip == Grip::ByOne || pull.runs.size() == 1
                                  ? "what the gripped one bears"
                                  : "0.8 of what they bear together"});
    if (pull.noWeight.empty()) {
        const auto found = findTension(pull.way, pull.group);
        for (std::size_t i = 0; i < pull.way.size(); ++i)
            out.steps.push_back(stepText(job, pull.way[i], found.points[i]));
        out.result = pull.way.empty() ? "its way is not on the plan: no force can be told"
                                      : "at most " + newton(found.mostN);
        for (const auto& point : pull.breaks)
            out.steps.push_back("broken at " + metres(point.atM) + ": " +
                                (point.why == BreakPoint::Why::Length  ? "30 m of conduit"
                                 : point.why == BreakPoint::Why::Bends ? "two right angles"
                                                                       : "80 % of the limit"));
        if (!pull.breaks.empty() && pull.brokenN)
            out.result += "; broken there, " + newton(*pull.brokenN);
    } else {
        out.result = "not known without its weight";
    }
    out.inputs.push_back({"friction", "0.5 dry, 0.25 lubricated, 0.2 over rollers or hooks", page});
    return out;
}

Working boxesWorking(const PullPlan& plan, const Job& job) {
    Working out;
    out.title = "Boxes for what is still to be pulled";
    out.formula =
        "fresh boxes ≥ (cable wanted − left in begun boxes) / box, and ≥ cables of a kind "
        "in the largest pull − begun boxes of it";
    out.inputs.push_back({"a new box", metres(job.info.pull.newBoxM), "the job's rule"});
    out.inputs.push_back(
        {"of no use", "a rest under " + metres(job.info.pull.scrapM), "the job's rule"});
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
        out.steps.push_back(cable + ": " + metres(length) + " to pull");
    out.steps.push_back("fresh boxes opened: " + std::to_string(plan.opened) +
                        "; no plan opens fewer than " + std::to_string(plan.lowerBound));
    out.steps.push_back("rests of no use: " + metres(plan.scrapM));
    out.result = plan.provenLeast() ? "the fewest there can be"
                                    : "found by trying; not proven to be the fewest";
    return out;
}

} // namespace burin
