#pragma once
#include "core/base/lookup.h"
#include "core/connector/fit.h"
#include "core/finding/alternatives.h"
#include "core/finding/cable_choice.h"
#include "core/finding/expected.h"
#include "core/finding/feedline_finding.h"
#include "core/finding/job_findings.h"
#include "core/finding/materials.h"
#include "core/finding/run_loss.h"
#include "core/finding/site_finding.h"
#include <functional>

namespace burin {

/// Hands over every sentence that the findings of a job have in them, workings too.
class Told {
public:
    using Take = std::function<void(const Sentence&)>;
    Told(const Job& job, const Catalogue& catalogue, Take take)
        : kept_(job), catalogue_(catalogue), take_(std::move(take)) {}

    void all() {
        const SitePlan site = planSite(kept_, catalogue_);
        const Job laid = laidJob(kept_, site);
        const auto found =
            findJob(laid, catalogue_, {}, {.site = &site, .today = "2026-11-25", .kept = &kept_});
        for (const auto& run : found.runs)
            tell(run);
        for (const auto& one : found.distributions)
            tell(one);
        for (const auto& one : found.buses)
            tell(one);
        tell(site, laid);
        tell(found, laid, site);
        for (const auto& run : laid.runs) {
            work(lossWorking(run, catalogue_, 100));
            work(expectedOf(laid, run, catalogue_).working);
            for (const auto& cure : curesOf(laid, run, catalogue_))
                tell(cure);
            for (const auto& choice : chooseCable(laid, run, site, catalogue_, &found))
                each(choice.reasons);
            tellLine(laid, run);
        }
    }

private:
    void say(const Sentence& said) {
        if (!said.empty())
            take_(said);
    }
    void each(const std::vector<Sentence>& said) {
        for (const auto& one : said)
            say(one);
    }
    void work(const Working& working) {
        each({working.title, working.formula, working.result});
        each(working.steps);
        for (const auto& input : working.inputs)
            each({input.name, input.value, input.source});
    }
    void tell(const Cure& cure) {
        each({cure.title, cure.reason, cure.reach.reason, cure.cost.said()});
    }
    void tell(const Judgement& judgement, const std::vector<JudgeLine>& lines) {
        each({judgement.against, judgement.reason});
        each(judgement.missing);
        for (const auto& result : judgement.results)
            work(judgeWorking(result, lines));
    }
    void tell(const RunFinding& run) {
        each({run.limitName, run.reach.reason, run.outlookReason, run.typedReason, run.caution,
              run.serviceReason, run.classReason, run.lowestPart, run.failure()});
        each(run.notes);
        for (const auto& part : run.parts)
            say(part.name);
        for (const auto& other : run.reaches)
            say(other.reach.reason);
        if (run.powered)
            say(run.powered->reason);
        for (const auto& m : run.measurements) {
            tell(m.service, m.serviceLines);
            tell(m.classJudgement, m.classLines);
            each(m.notes);
            each(m.cannot);
            each(m.failures);
            say(m.asked);
            if (m.wires)
                for (const auto& pair : m.wires->pairs)
                    say(pair.said);
        }
    }
    void tell(const DistributionFinding& one) {
        each(one.notes);
        for (const auto& point : one.levels.points)
            say(point.reason);
        if (one.proposal)
            each({one.proposal->reason, one.proposal->cost.said()});
        for (std::size_t i = 0; i < one.levels.points.size(); ++i)
            work(levelWorking(one, i, catalogue_));
    }
    void tell(const BusChainFinding& one) {
        each(one.notes);
        for (const auto& reasons : one.reasons)
            each(reasons);
        for (const auto& cure : one.cures)
            each({cure.what, cure.cost.said()});
        for (std::size_t i = 0; i < one.wave.points.size(); ++i)
            work(busWorking(one, i));
    }
    void tell(const SitePlan& site, const Job& laid) {
        for (const auto& route : site.routes) {
            say(route.jacketWhy);
            for (const auto& part : route.parts)
                say(part.name);
            work(routeWorking(laid, route));
        }
        for (const auto& one : site.findings)
            each({one.title, one.reason, one.cure, one.caution, one.source});
    }
    void tell(const JobFindings& found, const Job& laid, const SitePlan& site) {
        for (const auto& place : found.ends.places)
            for (const auto& end : place.ends)
                each(end.said);
        for (const auto& tool : found.ends.tools)
            each(tool.said);
        say(found.days.pace.said);
        for (const auto& late : found.days.late)
            each(late.cures);
        for (const auto& check : found.pulled) {
            each(saidOf(check, laid));
            for (const auto& cure : check.cures)
                each({cure.what, cure.cost.said()});
        }
        for (const auto& pull : found.pulls.pulls) {
            for (const auto& note : pullNotes(pull, kept_, site))
                say(note.what);
            work(pullWorking(pull, kept_));
        }
        work(boxesWorking(found.pulls, kept_));
        for (const auto& line : findMaterials(kept_, catalogue_, site, found.pulls, found.ends))
            each({line.name, line.note});
    }
    void tellLine(const Job& laid, const burin::Run& run) {
        const Cable* cable = catalogue_.cable(run.cableId);
        if (cable == nullptr)
            return;
        for (const auto& use : run.connections)
            for (const auto& point :
                 findFit({cable, catalogue_.connection(use.connectionId), 1000, use.outdoors}))
                say(point.reason);
        const auto choices = connectorChoices(*cable, 1000, true, catalogue_);
        work(choiceWorking(*cable, 1000, true, choices));
        if (const auto q = feedlineOf(run, catalogue_))
            if (const auto found = findFeedline(*q, catalogue_))
                work(feedlineWorking(*q, *found, catalogue_));
        if (const Service* service = catalogue_.service(run.serviceId)) {
            const auto q = questionOf(run, laid.info, catalogue_, *service, nullptr);
            work(reachWorking(q, catalogue_, findReach(q, catalogue_)));
        }
    }

    const Job& kept_;
    const Catalogue& catalogue_;
    Take take_;
};

} // namespace burin
