#include "core/base/lookup.h"
#include "core/finding/site_matters.h"
#include "core/job/run_length.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

void jackets(const Job& job, const SitePlan& plan, std::vector<SiteFinding>& out) {
    for (const auto& route : plan.routes) {
        const Run* run = job.run(route.runId);
        if (route.fault || run == nullptr)
            continue;
        SiteFinding f;
        f.matter = SiteMatter::Jacket;
        f.caution =
            sentence({"caution.jacket", "Which rating is allowed where is for local code to say."});
        f.source = sentence({"source.jacket", "jackets by the air they cross"});
        f.runs.push_back({run->id, 0, route.linkM});
        const RouteLeg& leg = route.legs.empty() ? RouteLeg{} : route.legs.back();
        f.floorId = leg.floorId;
        f.from = f.to = leg.to;
        if (route.jacket == Jacket::Unknown) {
            f.bad = false;
            f.title = sentence({"jacket.title-both", "Indoors and outdoors on one cable"});
            f.reason =
                sentence({"jacket.both", "{0} needs {1}; no one jacket in the list serves both"},
                         run->label, route.jacketWhy);
            f.cure = sentence({"jacket.cure-both", "Change the cable where it enters, or take one "
                                                   "listed for both"});
            out.push_back(f);
        } else if (run->jacket != Jacket::Unknown) {
            const auto missing =
                std::find_if(route.needs.begin(), route.needs.end(),
                             [&](Jacket need) { return !serves(run->jacket, need); });
            if (missing == route.needs.end())
                continue;
            f.title = sentence({"jacket.title", "Wrong jacket"});
            f.reason = sentence(
                {"jacket.wrong", "{0} is planned with a {1} jacket; its way asks for {2}"},
                run->label, asTerm(jacketWord(run->jacket)),
                route.jacketWhy.empty() ? alone(asTerm(jacketWord(*missing))) : route.jacketWhy);
            f.cure =
                sentence({"jacket.cure", "Take a {0} jacket"}, asTerm(jacketWord(route.jacket)));
            out.push_back(f);
        }
    }
}

void noWays(const Job& job, const SitePlan& plan, std::vector<SiteFinding>& out) {
    for (const auto& run : job.runs) {
        const RunRoute* route = plan.route(run.id);
        if (lengthFrom(run) != LengthFrom::Plan || (route != nullptr && !route->fault))
            continue;
        SiteFinding f;
        f.matter = SiteMatter::NoWay;
        f.runs.push_back({run.id, 0, 0});
        f.title = sentence({"no-way.title", "No way found"});
        const Place* place = byId(job.places, run.far.placeId);
        if (place != nullptr) {
            f.floorId = place->floorId;
            f.from = f.to = place->at;
        }
        f.reason = route != nullptr
                       ? sentence({"no-way.fault", "{0}: {1}"}, run.label, route->fault->what)
                       : sentence({"no-way.not-drawn",
                                   "{0} follows the plan, but an end of it is not drawn there"},
                                  run.label);
        f.cure = route != nullptr
                     ? route->fault->cure
                     : sentence({"no-way.cure", "Place both ends, or type its length"});
        out.push_back(f);
    }
}

void typedLengths(const Job& job, const SitePlan& plan, std::vector<SiteFinding>& out) {
    for (const auto& route : plan.routes) {
        const Run* run = job.run(route.runId);
        if (route.fault || run == nullptr || lengthFrom(*run) != LengthFrom::Typed ||
            !(run->lengthM() > 0) || !differsFromWay(run->lengthM(), route.linkM))
            continue;
        SiteFinding f;
        f.matter = SiteMatter::Length;
        f.bad = false;
        f.source = sentence({"source.differ", "more than {0} and {1} apart"}, asShare(0.1),
                            asMetres(3, 0));
        f.runs.push_back({run->id, 0, run->lengthM()});
        const RouteLeg& leg = route.legs.empty() ? RouteLeg{} : route.legs.back();
        f.floorId = leg.floorId;
        f.from = f.to = leg.to;
        f.title = sentence({"differ.title", "Typed length and way differ"});
        f.reason = sentence({"differ.lengths", "{0} is typed {1}; its way on the plan is {2}"},
                            run->label, asMetres(run->lengthM()), asMetres(route.linkM));
        f.cure = sentence({"differ.cure", "Let it follow the plan, lead its way where it lies, or "
                                          "measure it on site"});
        out.push_back(f);
    }
}

} // namespace

bool differsFromWay(double typedM, double wayM) {
    const double off = std::abs(typedM - wayM);
    return off > 3 && off > 0.1 * wayM;
}

void addRunMatters(const Job& job, const SitePlan& plan, std::vector<SiteFinding>& out) {
    jackets(job, plan, out);
    noWays(job, plan, out);
    typedLengths(job, plan, out);
}

} // namespace burin
