#include "core/finding/pull_drafts.h"
#include "core/base/lookup.h"
#include "core/finding/closing.h"
#include "core/job/ports.h"
#include "core/pull/groups.h"
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>
#include <tuple>

namespace burin::pull_drafts {
namespace {

double areaMm2(double diameterMm) {
    return std::numbers::pi * diameterMm * diameterMm / 4;
}

class Drafter {
public:
    Drafter(const Job& job, const Catalogue& catalogue, const SitePlan& site,
            const std::vector<BoxStock>& stock)
        : job_(job), catalogue_(catalogue), site_(site), stock_(stock) {}
    Drafts make(const std::vector<Closing>& closings) {
        collect(closings);
        gather();
        groupTheRest();
        sortDrafts();
        return std::move(out_);
    }

private:
    void collect(const std::vector<Closing>& closings) {
        std::map<std::string_view, std::pair<std::string, std::string>> closes;
        for (const auto& closing : closings) // nearest first
            for (const auto& runId : closing.behind)
                closes.emplace(runId, std::pair(closing.closesOn, closing.name));
        std::map<std::string_view, int> rooms;
        for (std::size_t i = 0; i < job_.rooms.size(); ++i)
            rooms[job_.rooms[i].id] = static_cast<int>(i);
        std::set<std::string_view> measured;
        for (const auto& test : job_.measurements)
            measured.insert(test.runId);
        for (std::size_t i = 0; i < job_.runs.size(); ++i) {
            const Run& run = job_.runs[i];
            Candidate one;
            one.run = &run;
            one.cable = catalogue_.cable(run.cableId);
            const RunRoute* route = site_.route(run.id);
            one.route = route != nullptr && !route->fault ? route : nullptr;
            one.pulled = pulledOf(job_, run);
            one.there = one.pulled || measured.contains(run.id);
            const auto planned = plannedPullM(job_.info, run, site_);
            one.lengthM = planned.value_or(one.pulled ? one.pulled->lengthM : 0);
            if (!one.there) {
                const auto why = one.cable == nullptr ? std::optional(NotPulled::Why::NoCable)
                                 : run.perDirection   ? std::optional(NotPulled::Why::TwoCables)
                                 : !planned           ? std::optional(NotPulled::Why::NoLength)
                                                      : std::nullopt;
                if (why) {
                    out_.left.push_back({run.id, *why});
                    continue;
                }
            }
            if (const auto it = closes.find(run.id); it != closes.end())
                std::tie(one.closesOn, one.closesName) = it->second;
            if (const RunKind* kind = catalogue_.site.kindOf(run.serviceId))
                for (const auto& rule : job_.info.pull.colours)
                    if (rule.kindId == kind->id)
                        one.colour = rule.colour;
            const auto room = rooms.find(run.roomId);
            one.order = (room == rooms.end() ? 0 : room->second) * 100000 + static_cast<int>(i);
            out_.candidates.push_back(std::move(one));
        }
    }

    /// What somebody put together, and what is pulled.
    void gather() {
        std::map<std::string_view, std::size_t> rows;
        for (std::size_t i = 0; i < out_.candidates.size(); ++i) {
            const Candidate& one = out_.candidates[i];
            const Pull* row = byId(job_.pulls, one.run->pullId);
            if (row == nullptr && !one.pulled) {
                (one.there ? tested_ : rest_).push_back(i);
                continue;
            }
            std::size_t at = out_.drafts.size();
            if (row != nullptr)
                at = rows.emplace(row->id, at).first->second;
            if (at == out_.drafts.size())
                out_.drafts.push_back({row, {}, 0});
            out_.drafts[at].members.push_back(i);
            out_.drafts[at].there += one.there ? 1 : 0;
        }
    }

    [[nodiscard]] ToPull toPull(const Candidate& one) const {
        ToPull out;
        // Boxes stand in a room, whatever of it the cables begin at.
        const Place* head = byId(job_.places, one.run->near.placeId);
        out.head = head == nullptr        ? endName(job_, one.run->near)
                   : head->roomId.empty() ? head->id
                                          : head->roomId;
        out.room = one.run->roomId;
        out.cableId = one.run->cableId;
        out.closesOn = one.closesOn;
        out.order = one.order;
        out.areaMm2 = areaMm2(
            one.cable != nullptr && one.cable->diameterMm ? one.cable->diameterMm->value : 6);
        if (one.route == nullptr)
            return out;
        out.wayM = one.route->routeM;
        for (const auto& leg : one.route->legs)
            if (leg.kind == RouteLeg::Kind::Along) {
                const auto [low, high] = std::minmax(leg.fromAtM, leg.toAtM);
                out.along.push_back(
                    {static_cast<std::size_t>(site_.graph->pathwayIndex.at(leg.pathwayId)), low,
                     high});
            }
        return out;
    }

    [[nodiscard]] GroupRules groupRules() const {
        GroupRules rules;
        rules.atOnce = static_cast<std::size_t>(job_.info.pull.atOnce);
        std::map<std::string, double> wantedM;
        for (const std::size_t i : rest_)
            wantedM[out_.candidates[i].run->cableId] += out_.candidates[i].lengthM;
        for (const auto& [cable, metres] : wantedM) {
            // As many as are at hand, with those that have to be bought in any case: no box is
            // opened only to pull more at once.
            double leftM = 0;
            std::size_t boxes = 0;
            for (std::size_t b = 0; b < stock_.size(); ++b)
                if (job_.boxes[b].cableId == cable && !job_.boxes[b].gone &&
                    stock_[b].leftM > job_.info.pull.scrapM) {
                    leftM += stock_[b].leftM;
                    ++boxes;
                }
            const double beyond = std::max(0.0, metres - leftM);
            rules.boxes[cable] = std::max<std::size_t>(
                1, boxes + static_cast<std::size_t>(std::ceil(beyond / job_.info.pull.newBoxM)));
        }
        for (std::size_t i = 0; site_.graph && i < site_.graph->pathways.size(); ++i)
            if (const auto& bore = site_.graph->pathways[i].boreMm)
                rules.takesMm2[i] = areaMm2(*bore) * catalogue_.site.fill.moreShare;
        return rules;
    }

    void groupTheRest() {
        group(rest_, groupRules());
        GroupRules hands;
        hands.atOnce = static_cast<std::size_t>(job_.info.pull.atOnce);
        group(tested_, hands);
    }
    void group(const std::vector<std::size_t>& which, const GroupRules& rules) {
        std::vector<ToPull> cables;
        cables.reserve(which.size());
        for (const std::size_t i : which)
            cables.push_back(toPull(out_.candidates[i]));
        for (const auto& group : groupPulls(cables, rules)) {
            Draft draft;
            for (const std::size_t k : group) {
                draft.members.push_back(which[k]);
                draft.there += out_.candidates[which[k]].there ? 1 : 0;
            }
            out_.drafts.push_back(std::move(draft));
        }
    }

    void sortDrafts() {
        const auto key = [&](const Draft& draft) {
            std::string closes = "9999";
            int order = out_.candidates[draft.members.front()].order;
            for (const std::size_t i : draft.members) {
                const Candidate& one = out_.candidates[i];
                if (!one.closesOn.empty())
                    closes = std::min(closes, one.closesOn);
                order = std::min(order, one.order);
            }
            const bool done = draft.there == draft.members.size();
            const int hand =
                draft.row != nullptr && draft.row->order != 0 ? draft.row->order : 1000000;
            return std::tuple(!done, draft.there == 0, hand, std::move(closes), order);
        };
        std::stable_sort(out_.drafts.begin(), out_.drafts.end(),
                         [&](const Draft& a, const Draft& b) { return key(a) < key(b); });
    }

    const Job& job_;
    const Catalogue& catalogue_;
    const SitePlan& site_;
    const std::vector<BoxStock>& stock_;
    std::vector<std::size_t> rest_;   ///< still to be pulled, and to be grouped
    std::vector<std::size_t> tested_; ///< pulled, and nobody said how
    Drafts out_;
};

} // namespace

Drafts makeDrafts(const Job& job, const Catalogue& catalogue, const SitePlan& site,
                  const std::vector<BoxStock>& stock, const std::vector<Closing>& closings) {
    return Drafter(job, catalogue, site, stock).make(closings);
}

} // namespace burin::pull_drafts
