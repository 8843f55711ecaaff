#include "core/finding/cable_choice.h"
#include "core/finding/alternatives.h"
#include "core/job/run_text.h"
#include "core/site/separation.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {
namespace {

/// What keeps an unscreened cable off this way; empty: nothing.
std::string screenWanted(const SitePlan& plan, const Run& run, const Job& job,
                         const SeparationRule& rule) {
    for (const auto& f : plan.findings) {
        const bool ours = std::any_of(f.runs.begin(), f.runs.end(),
                                      [&](const auto& on) { return on.runId == run.id; });
        if (!ours || f.matter != SiteMatter::Separation || f.mainsId.empty())
            continue;
        for (const auto& mains : job.mains)
            if (mains.id == f.mainsId) {
                const Apart apart = apartFrom(mains, Exposure::Screened, job.info.survey, rule);
                if (f.haveMm >= apart.leastMm)
                    return (mains.name.empty() ? "mains" : mains.name) + " " +
                           formatFixed(f.haveMm, 0) + " mm away";
            }
    }
    return {};
}

double size(const Cable& cable) {
    return (cable.diameterMm ? cable.diameterMm->value : 6.0) +
           static_cast<double>(cable.category) + (cable.screen == Screen::None ? 0 : 1);
}

void say(CableChoice& out, const Cable& cable, const Service& service, const Reach& reach,
         const std::string& screen, double lengthM) {
    out.reasons.push_back(out.holds ? formatFixed(out.spareM, 1) + " m to spare on " +
                                          formatFixed(lengthM, 1) + " m"
                                    : reach.reason);
    if (cable.kind != CableKind::Balanced || cable.category == Category::None)
        return;
    const bool screened = cable.screen != Screen::None;
    if (!screen.empty())
        out.reasons.push_back(screened ? "screened, as wanted: " + screen
                                       : "unscreened, with " + screen +
                                             ": move one of them or take a screened cable");
    else if (screened)
        out.reasons.push_back("screened: nothing on its way asks for that; a screen wants "
                              "screened jacks and an earth");
    if (service.bitRateMbit >= 1000 && out.holds) {
        if (cable.category == Category::Cat6A)
            out.reasons.push_back("one school puts Category 6A into all new work");
        else if (cable.category < Category::Cat6A && cable.category >= Category::Cat5e)
            out.reasons.push_back("enough for this service; another school would pull 6A now");
    }
}

} // namespace

std::vector<CableChoice> chooseCable(const Job& laid, const Run& run, const SitePlan& plan,
                                     const Catalogue& catalogue) {
    std::vector<CableChoice> out;
    const Service* service = catalogue.service(run.serviceId);
    if (service == nullptr)
        return out;
    const RunRoute* route = plan.route(run.id);
    const std::string screen = screenWanted(plan, run, laid, catalogue.site.separation);
    std::map<std::string, double> rank;
    for (const auto& cable : catalogue.cables) {
        if (std::find(service->kinds.begin(), service->kinds.end(), cable.kind) ==
            service->kinds.end())
            continue;
        CableChoice choice;
        choice.cableId = cable.id;
        choice.name = cable.name;
        choice.now = cable.id == run.cableId;
        choice.jacket = route == nullptr ? Jacket::Unknown : route->jacket;
        const Run other = choice.now ? run : inCable(run, catalogue, choice);
        const Reach reach =
            findReach(questionOf(other, laid.info, catalogue, *service, nullptr), catalogue);
        if (reach.boundBy == Bound::Impedance || reach.boundBy == Bound::CableKind)
            continue;
        const double length = run.lengthM();
        choice.holds = reach.holds(length);
        choice.spareM = reach.reachM ? *reach.reachM - length : 0;
        say(choice, cable, *service, reach, screen, length);
        const bool wrongScreen =
            cable.kind == CableKind::Balanced && (cable.screen == Screen::None) != screen.empty();
        rank[cable.id] =
            (choice.holds ? 0 : 1000) + (wrongScreen && !screen.empty() ? 100 : 0) + size(cable);
        out.push_back(std::move(choice));
    }
    std::stable_sort(out.begin(), out.end(), [&](const CableChoice& a, const CableChoice& b) {
        return rank[a.cableId] < rank[b.cableId];
    });
    return out;
}

Run inCable(const Run& run, const Catalogue& catalogue, const CableChoice& choice) {
    Run out = run;
    const Cable* now = catalogue.cable(run.cableId);
    const Cable* then = catalogue.cable(choice.cableId);
    if (then != nullptr && now != nullptr && now->kind == then->kind) {
        out = rebuilt(run, catalogue, *then);
    } else {
        out.cableId = choice.cableId;
        fitOut(out, catalogue);
    }
    if (choice.jacket != Jacket::Unknown)
        out.jacket = choice.jacket;
    return out;
}

} // namespace burin
