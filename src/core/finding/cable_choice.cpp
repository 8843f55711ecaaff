#include "core/finding/cable_choice.h"
#include "core/base/lookup.h"
#include "core/bus/bus.h"
#include "core/edit/run_text.h"
#include "core/finding/alternatives.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <map>

namespace burin {
namespace {

/// What its way and its service ask of a run's cable; the site's findings are where it is read.
struct Needs {
    Sentence screen;            ///< what a screen keeps off; empty: nothing
    Sentence tooNear;           ///< power that no screen makes up for: one of them has to move
    bool screenedPairs = false; ///< its service wants each pair screened at this length
};

Needs needsOf(const SitePlan& plan, const Run& run, const Job& job, const Service& service) {
    Needs out;
    for (const auto& f : plan.findings) {
        const bool ours = std::any_of(f.runs.begin(), f.runs.end(),
                                      [&](const auto& on) { return on.runId == run.id; });
        if (!ours || f.matter != SiteMatter::Separation || f.mainsId.empty())
            continue;
        const MainsRoute* mains = byId(job.mains, f.mainsId);
        (f.screenCures ? out.screen : out.tooNear) = sentence(
            {"choice.near", "{0} {1} away"},
            mains == nullptr || mains->name.empty() ? asTerm("mains") : asText(mains->name),
            asMillimetres(f.haveMm));
    }
    double cords = 0;
    for (const auto& cord : run.cords)
        cords += cord.lengthM;
    out.screenedPairs =
        service.sharedCableM && !run.perDirection && run.lengthM() + cords > *service.sharedCableM;
    return out;
}

double size(const Cable& cable) {
    return (cable.diameterMm ? cable.diameterMm->value : 6.0) +
           static_cast<double>(cable.category) + (cable.screen == Screen::None ? 0 : 1);
}

void sayScreen(CableChoice& out, const Cable& cable, const Needs& needs) {
    const bool screened = cable.screen != Screen::None;
    if (!needs.tooNear.empty())
        out.reasons.push_back(
            sentence({"choice.too-near", "{0} is too near for any cable, screened "
                                         "or not: one of them has to move"},
                     needs.tooNear));
    if (needs.screenedPairs)
        out.reasons.push_back(
            cable.screen == Screen::Pairs
                ? sentence({"choice.pairs-screened",
                            "each pair screened, as its service wants at this length"})
                : sentence({"choice.pairs-wanted",
                            "its service wants each pair screened at this length"}));
    if (!needs.screen.empty())
        out.reasons.push_back(
            screened
                ? sentence({"choice.screened", "screened, as wanted: {0}"}, needs.screen)
                : sentence({"choice.unscreened", "unscreened, with {0}: move one of them or take "
                                                 "a screened cable"},
                           needs.screen));
    else if (screened && !needs.screenedPairs && needs.tooNear.empty())
        out.reasons.push_back(sentence(
            {"choice.needless", "screened: nothing on its way asks for that; a screen wants "
                                "screened jacks and an earth"}));
}

void say(CableChoice& out, const Cable& cable, const Service& service, const Reach& reach,
         const Needs& needs, double lengthM) {
    if (service.bus)
        out.reasons.push_back(
            out.holds
                ? sentence({"choice.bus", "of the {0} a bus is made for; waveform and volts are "
                                          "worked out with it in place"},
                           asOhm(busOhm))
                : sentence({"choice.no-bus", "{0}, where {1} is wanted: short and quiet at best"},
                           asOhm(cable.impedanceOhm.value), asOhm(busOhm)));
    else
        out.reasons.push_back(out.holds ? sentence({"choice.spare", "{0} to spare on {1}"},
                                                   asMetres(out.spareM), asMetres(lengthM))
                                        : reach.reason);
    if (cable.kind != CableKind::Balanced)
        return;
    sayScreen(out, cable, needs);
    if (service.bus && !cable.stranded)
        out.reasons.push_back(
            sentence({"choice.solid", "solid conductors do not belong in screw terminals"}));
    if (service.bitRateMbit >= 1000 && out.holds) {
        if (cable.category == Category::Cat6A)
            out.reasons.push_back(
                sentence({"choice.6a", "one school puts Category 6A into all new work"}));
        else if (cable.category < Category::Cat6A && cable.category >= Category::Cat5e)
            out.reasons.push_back(sentence(
                {"choice.enough", "enough for this service; another school would pull 6A now"}));
    }
}

/// What lies too near for an unscreened cable on this run's way, whatever it is planned in now.
SitePlan planUnscreened(const Job& laid, const Run& run, const SitePlan& plan,
                        const Catalogue& catalogue) {
    const auto plain =
        std::find_if(catalogue.cables.begin(), catalogue.cables.end(), [](const Cable& cable) {
            return cable.kind == CableKind::Balanced && cable.screen == Screen::None;
        });
    const auto at = static_cast<std::size_t>(&run - laid.runs.data());
    if (plain == catalogue.cables.end() || at >= laid.runs.size())
        return plan;
    Job other = laid;
    other.runs[at].cableId = plain->id;
    return planSite(other, catalogue, &plan);
}

} // namespace

std::vector<CableChoice> chooseCable(const Job& laid, const Run& run, const SitePlan& plan,
                                     const Catalogue& catalogue, const JobFindings* known) {
    std::vector<CableChoice> out;
    const Service* service = catalogue.service(run.serviceId);
    if (service == nullptr)
        return out;
    const RunRoute* route = plan.route(run.id);
    const Cable* now = catalogue.cable(run.cableId);
    const bool screenedNow =
        now != nullptr && now->kind == CableKind::Balanced && now->screen != Screen::None;
    Needs needs = needsOf(screenedNow ? planUnscreened(laid, run, plan, catalogue) : plan, run,
                          laid, *service);
    std::function<double(double)> level;
    if (const Distribution* d = laid.distributionOf(run.id); d != nullptr && known != nullptr)
        if (const auto* f = known->distribution(d->id); f != nullptr && f->fits(*d))
            if (const auto part = f->fedBy(run.id))
                level = levelAhead(*f, *part, catalogue);
    std::map<std::string, double> rank;
    const double length = run.lengthM();
    for (const auto& cable : catalogue.cables) {
        if (std::find(service->kinds.begin(), service->kinds.end(), cable.kind) ==
            service->kinds.end())
            continue;
        if (cable.id != run.cableId && !cable.isProposedFor(service->id))
            continue;
        CableChoice choice;
        choice.cableId = cable.id;
        choice.name = cable.name;
        choice.now = cable.id == run.cableId;
        choice.jacket = route == nullptr ? Jacket::Unknown : route->jacket;
        const Run other = choice.now ? run : inCable(run, catalogue, choice);
        ReachQuestion question = questionOf(other, laid.info, catalogue, *service, nullptr);
        question.levelAt = level;
        const Reach reach = findReach(question, catalogue);
        if (reach.boundBy == Bound::Impedance || reach.boundBy == Bound::CableKind ||
            reach.boundBy == Bound::Unsuitable)
            continue;
        choice.holds = service->bus ? std::abs(cable.impedanceOhm.value / busOhm - 1) < 0.1
                                    : reach.holds(length);
        choice.spareM = reach.reachM ? *reach.reachM - length : 0;
        say(choice, cable, *service, reach, needs, length);
        const bool balanced = cable.kind == CableKind::Balanced;
        const bool screened = cable.screen != Screen::None;
        double& place = rank[cable.id];
        place = size(cable) + (choice.holds ? 0 : 1000);
        if (balanced && !needs.screen.empty() && !screened)
            place += 100;
        if (balanced && needs.screenedPairs && cable.screen != Screen::Pairs)
            place += 500;
        if (service->bus)
            place +=
                300 * std::abs(cable.impedanceOhm.value / busOhm - 1) + (cable.stranded ? 0 : 20);
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
