#include "core/base/lookup.h"
#include "core/finding/pull_drafts.h"
#include "core/job/ports.h"
#include "core/pull/box_exact.h"
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>
#include <tuple>

namespace burin {
namespace {

using pull_drafts::Candidate;
using pull_drafts::Draft;
using pull_drafts::makeDrafts;

class Planner {
public:
    Planner(const Job& job, const Catalogue& catalogue, const SitePlan& site)
        : job_(job), catalogue_(catalogue), site_(site), stock_(stockOf(job)) {}

    PullPlan plan(const std::vector<Closing>& closings) {
        auto made = makeDrafts(job_, catalogue_, site_, stock_, closings);
        candidates_ = std::move(made.candidates);
        drafts_ = std::move(made.drafts);
        out_.left = std::move(made.left);
        giveBoxes();
        for (std::size_t i = 0; i < drafts_.size(); ++i)
            out_.pulls.push_back(finding(i));
        fillBoxes();
        giveMarks();
        return std::move(out_);
    }

private:
    /// What cables of these drafts want, with which candidate each is.
    struct Wanted {
        std::vector<WantsBox> cables;
        std::vector<std::size_t> of;
    };
    [[nodiscard]] Wanted wantedBy(const std::vector<Draft>& drafts) const {
        Wanted out;
        for (std::size_t d = 0; d < drafts.size(); ++d) {
            if (drafts[d].there == drafts[d].members.size())
                continue;
            for (const std::size_t i : drafts[d].members) {
                const Candidate& one = candidates_[i];
                const auto at = boxIndex(one.run->piece.boxId);
                if (one.there && !at)
                    continue; // nobody said where it came from
                // What came out of a box of this pull keeps the others of the pull out of it.
                out.cables.push_back(
                    {one.run->cableId, one.colour, one.there ? 0 : one.lengthM, d, at});
                out.of.push_back(i);
            }
        }
        return out;
    }
    /// The last of the pulls that nobody put together, that share of them, in parts of so many.
    static std::vector<Draft> inParts(const std::vector<Draft>& drafts, double share,
                                      std::size_t most) {
        std::vector<Draft> out;
        const auto from =
            static_cast<std::size_t>(static_cast<double>(drafts.size()) * (1 - share));
        for (std::size_t d = 0; d < drafts.size(); ++d) {
            const Draft& draft = drafts[d];
            if (d < from || draft.row != nullptr || draft.there > 0) {
                out.push_back(draft);
                continue;
            }
            for (std::size_t i = 0; i < draft.members.size(); i += most) {
                const auto begin = draft.members.begin() + static_cast<std::ptrdiff_t>(i);
                const auto count = std::min(most, draft.members.size() - i);
                out.push_back({nullptr, {begin, begin + static_cast<std::ptrdiff_t>(count)}, 0});
            }
        }
        return out;
    }

    /// What pulls and new boxes come to, as far as it differs between plans.
    [[nodiscard]] double costOf(std::size_t pulls, const BoxPlan& plan) const {
        const SurveyRules& prices = job_.info.survey;
        double cost =
            static_cast<double>(pulls) * catalogue_.work.pullSetMinutes / 60 * prices.hourPrice;
        for (const auto& box : plan.added)
            cost += job_.info.pull.newBoxM * prices.perMetreOf(box.cableId);
        return cost;
    }
    void giveBoxes() {
        std::vector<BoxAtHand> atHand;
        for (std::size_t b = 0; b < stock_.size(); ++b) {
            const Box& box = job_.boxes[b];
            // Its marks may be off by one.
            const double sure = std::max(0.0, stock_[b].leftM - spacingM(box));
            atHand.push_back(
                {box.cableId, box.colour, box.gone ? 0 : sure, !stock_[b].pieces.empty()});
        }
        const BoxPlanRules rules{job_.info.pull.newBoxM, job_.info.pull.scrapM};
        Wanted wanted = wantedBy(drafts_);
        BoxPlan plan = planBoxes(wanted.cables, atHand, rules);
        // Cables pulled together want a box each. Where that means buying boxes which their metres
        // do not ask for, the last pulls are done in smaller parts, if that is cheaper.
        auto apart = wanted.cables;
        for (std::size_t i = 0; i < apart.size(); ++i)
            apart[i].group = i;
        auto all = atHand;
        for (auto& box : all)
            box.begun = true;
        const std::size_t least = leastOpened(apart, all, rules);
        const auto whole = drafts_;
        double cost = costOf(whole.size(), plan);
        for (const auto& [share, most] :
             {std::pair(0.5, 3), {0.5, 1}, {0.75, 1}, {1.0, 2}, {1.0, 1}}) {
            if (plan.added.size() <= least)
                break;
            auto drafts = inParts(whole, share, static_cast<std::size_t>(most));
            Wanted other = wantedBy(drafts);
            BoxPlan now = planBoxes(other.cables, atHand, rules);
            const double then = costOf(drafts.size(), now);
            if (then >= cost)
                continue;
            cost = then;
            plan = std::move(now);
            wanted = std::move(other);
            drafts_ = std::move(drafts);
        }
        plan = fewestBoxes(std::move(plan), wanted.cables, atHand, rules);
        boxAt_.assign(candidates_.size(), std::nullopt);
        out_.opened = plan.opened;
        out_.lowerBound = plan.lowerBound;
        out_.scrapM = plan.scrapM;
        added_ = plan.added;
        for (std::size_t k = 0; k < wanted.of.size(); ++k) {
            boxAt_[wanted.of[k]] = plan.boxOf[k];
            if (!plan.boxOf[k])
                out_.left.push_back({candidates_[wanted.of[k]].run->id, NotPulled::Why::TooLong});
        }
        for (std::size_t i = 0; i < candidates_.size(); ++i)
            if (candidates_[i].there)
                boxAt_[i] = boxIndex(candidates_[i].run->piece.boxId);
    }

    [[nodiscard]] std::optional<std::size_t> boxIndex(const std::string& id) const {
        for (std::size_t b = 0; b < job_.boxes.size() && !id.empty(); ++b)
            if (job_.boxes[b].id == id)
                return b;
        return std::nullopt;
    }
    [[nodiscard]] std::string boxId(std::optional<std::size_t> at) const {
        if (!at)
            return {};
        return *at < job_.boxes.size() ? job_.boxes[*at].id
                                       : "new-" + std::to_string(*at - job_.boxes.size() + 1);
    }

    [[nodiscard]] PullFinding finding(std::size_t index) const {
        const Draft& draft = drafts_[index];
        PullFinding out;
        out.byHand = draft.row != nullptr;
        out.id = out.byHand ? draft.row->id : "with-" + candidates_[draft.members.front()].run->id;
        out.state = draft.there == draft.members.size() ? PullState::Pulled
                    : draft.there > 0                   ? PullState::Begun
                                                        : PullState::Planned;
        if (draft.row != nullptr) {
            out.day = draft.row->day;
            out.grip = draft.row->grip;
            out.lubricated = draft.row->lubricated;
        }
        for (const std::size_t i : draft.members) {
            const Candidate& one = candidates_[i];
            PulledRun run;
            run.runId = one.run->id;
            run.boxId = boxId(boxAt_[i]);
            run.plannedM = one.lengthM;
            run.there = one.there;
            run.startMark = one.run->piece.startMark;
            run.endMark = one.run->piece.endMark;
            if (one.pulled)
                run.pulledM = one.pulled->lengthM;
            out.lengthM = std::max(out.lengthM, run.pulledM.value_or(run.plannedM));
            if (!one.closesOn.empty() && (out.closesOn.empty() || one.closesOn < out.closesOn)) {
                out.closesOn = one.closesOn;
                out.closesName = one.closesName;
            }
            out.runs.push_back(std::move(run));
        }
        findForces(draft, out);
        return out;
    }

    void findForces(const Draft& draft, PullFinding& out) const {
        out.boxesAt = draft.row != nullptr && draft.row->boxesAt == BoxesAt::Far ? BoxesAt::Far
                                                                                 : BoxesAt::Near;
        // The longest way stands for all of them.
        const Candidate* longest = nullptr;
        std::vector<double> eachN;
        std::set<std::string> noWeight;
        std::set<std::string> noLimit;
        for (const std::size_t i : draft.members) {
            const Candidate& one = candidates_[i];
            if (one.route != nullptr &&
                (longest == nullptr || one.route->routeM > longest->route->routeM))
                longest = &one;
            if (one.cable == nullptr)
                continue;
            if (one.cable->massKgPer100m)
                out.group.weightKgPerM += one.cable->massKgPer100m->value / 100;
            else
                noWeight.insert(one.cable->name);
            if (one.cable->pullN)
                eachN.push_back(one.cable->pullN->value);
            else
                noLimit.insert(one.cable->name);
        }
        out.noWeight.assign(noWeight.begin(), noWeight.end());
        out.noLimit.assign(noLimit.begin(), noLimit.end());
        out.group.startN = job_.info.pull.dragN * static_cast<double>(draft.members.size());
        if (noLimit.empty() && !eachN.empty()) {
            // Gripped by one, the weakest is taken for it.
            std::sort(eachN.begin(), eachN.end());
            out.limitN = groupLimitN(eachN, out.grip);
        }
        if (longest == nullptr)
            return;
        auto way = pullWay(longest->route->legs, *site_.graph, out.lubricated);
        out.bushings = 2 * cutConduits(longest->route->legs, *site_.graph);
        if (noWeight.empty()) {
            out.nearN = findTension(way, out.group).mostN;
            out.farN = findTension(reversed(way), out.group).mostN;
            if ((draft.row == nullptr || draft.row->boxesAt == BoxesAt::Best) &&
                *out.farN < *out.nearN - 1)
                out.boxesAt = BoxesAt::Far;
        }
        if (out.boxesAt == BoxesAt::Far)
            way = reversed(std::move(way));
        out.way = std::move(way);
        if (noWeight.empty()) {
            out.breaks = breakPoints(out.way, out.group, out.limitN.value_or(0));
            out.brokenN = mostWithBreaksN(out.way, out.group, out.breaks);
        }
    }

    void fillBoxes() {
        for (std::size_t b = 0; b < job_.boxes.size(); ++b) {
            const Box& box = job_.boxes[b];
            out_.boxes.push_back({box.id,
                                  box.name,
                                  box.cableId,
                                  box.colour,
                                  false,
                                  box.heldM,
                                  stock_[b].leftM,
                                  stock_[b].leftM,
                                  false,
                                  stock_[b].freeMark,
                                  stock_[b].pieces,
                                  {}});
        }
        for (std::size_t i = 0; i < added_.size(); ++i)
            out_.boxes.push_back({boxId(job_.boxes.size() + i),
                                  {},
                                  added_[i].cableId,
                                  added_[i].colour,
                                  true,
                                  added_[i].leftM,
                                  added_[i].leftM,
                                  added_[i].leftM,
                                  false,
                                  0,
                                  {},
                                  {}});
        std::map<std::string_view, std::size_t> at;
        for (std::size_t b = 0; b < out_.boxes.size(); ++b)
            at[out_.boxes[b].id] = b;
        for (auto& pull : out_.pulls)
            for (auto& run : pull.runs) {
                const auto it = at.find(run.boxId);
                if (run.there || it == at.end())
                    continue;
                PullBox& box = out_.boxes[it->second];
                box.planned.push_back({run.runId, run.plannedM});
                box.leftAfterM = std::max(0.0, box.leftAfterM - run.plannedM);
            }
        for (std::size_t b = 0; b < out_.boxes.size(); ++b) {
            PullBox& box = out_.boxes[b];
            const bool gone = !box.isNew && job_.boxes[b].gone;
            box.scrap = gone || ((!box.planned.empty() || !box.pulled.empty()) &&
                                 box.leftAfterM < job_.info.pull.scrapM);
        }
    }

    /// Marks at the ends of what is not pulled yet. A piece that was begun lies before all that is
    /// planned, and the mark read on it says where its other one is.
    void giveMarks() {
        std::vector<double> nextM;
        for (std::size_t b = 0; b < job_.boxes.size(); ++b)
            nextM.push_back(markAtM(job_.boxes[b], stock_[b].freeMark));
        for (const bool begun : {true, false})
            for (auto& pull : out_.pulls)
                for (auto& run : pull.runs) {
                    const auto at = boxIndex(run.boxId);
                    if (run.there || !at || begun != (run.startMark || run.endMark))
                        continue;
                    const Box& box = job_.boxes[*at];
                    const double fromM = run.startMark ? markAtM(box, *run.startMark)
                                         : run.endMark ? markAtM(box, *run.endMark) - run.plannedM
                                                       : nextM[*at];
                    const double toM = fromM + run.plannedM;
                    // A mark the box never had says nothing of where the next begins.
                    if (toM <= box.heldM + spacingM(box) || !begun)
                        nextM[*at] = std::max(nextM[*at], toM);
                    run.startMark = run.startMark.value_or(markAt(box, fromM));
                    run.endMark = run.endMark.value_or(markAt(box, toM));
                }
    }

    const Job& job_;
    const Catalogue& catalogue_;
    const SitePlan& site_;
    std::vector<BoxStock> stock_;
    std::vector<Candidate> candidates_;
    std::vector<Draft> drafts_;
    std::vector<std::optional<std::size_t>> boxAt_; ///< by candidate
    std::vector<BoxAtHand> added_;
    PullPlan out_;
};

} // namespace

const PulledRun* PullFinding::run(std::string_view runId) const {
    const auto it = std::find_if(runs.begin(), runs.end(),
                                 [&](const PulledRun& r) { return r.runId == runId; });
    return it == runs.end() ? nullptr : &*it;
}

bool PullFinding::overLimit() const {
    return limitN && brokenN && *brokenN > *limitN;
}

const PullFinding* PullPlan::pullOf(std::string_view runId) const {
    const auto it = std::find_if(pulls.begin(), pulls.end(),
                                 [&](const PullFinding& p) { return p.run(runId) != nullptr; });
    return it == pulls.end() ? nullptr : &*it;
}

std::size_t PullPlan::there() const {
    std::size_t out = 0;
    for (const auto& pull : pulls)
        out += static_cast<std::size_t>(std::count_if(
            pull.runs.begin(), pull.runs.end(), [](const PulledRun& run) { return run.there; }));
    return out;
}

std::string boxesStandAt(const PullFinding& pull, const Job& job) {
    const Run* run = pull.runs.empty() ? nullptr : job.run(pull.runs.front().runId);
    if (run == nullptr)
        return {};
    const RunEnd& end = pull.boxesAt == BoxesAt::Far ? run->far : run->near;
    const Place* place = byId(job.places, end.placeId);
    return place == nullptr || place->name.empty() ? endName(job, end) : place->name;
}

const PullBox* PullPlan::box(std::string_view id) const {
    return byId(boxes, id);
}

std::optional<double> plannedPullM(const JobInfo& info, const Run& run, const SitePlan& site) {
    if (run.followsPlan) {
        const RunRoute* route = site.route(run.id);
        return route != nullptr && !route->fault ? std::optional(route->pullM) : std::nullopt;
    }
    const double typed = run.lengthM();
    return typed > 0 ? std::optional(typed + cutOffM(info, run)) : std::nullopt;
}

PullPlan planPulls(const Job& job, const Catalogue& catalogue, const SitePlan& site) {
    return planPulls(job, catalogue, site, closings(job, site, {}));
}
PullPlan planPulls(const Job& job, const Catalogue& catalogue, const SitePlan& site,
                   const std::vector<Closing>& closings) {
    return Planner(job, catalogue, site).plan(closings);
}

} // namespace burin
