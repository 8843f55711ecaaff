#include "core/base/lookup.h"
#include "core/finding/pull_finding.h"
#include "core/finding/site_matters.h"
#include <algorithm>

namespace burin {
namespace {

constexpr double behindCutM = 0.3;

constexpr Wording ladder{"pull.ladder", "Ladder at {0}: foot it, and three points of contact"};
constexpr Wording above{"pull.above-ceiling",
                        "Above the ceiling at {0}: dust and insulation may be unknown, so mask and "
                        "eyes first, and stop at anything fibrous"};
constexpr Wording height{"pull.height", "At height, outdoors, at {0}: no wind, no lines near"};
constexpr Wording mains{"pull.mains", "Mains beside {0}: cable and metal fish keep clear of it"};
constexpr Wording fire{
    "pull.fire", "{0} is a fire barrier: made good behind the cable the same day, by the local "
                 "code"};
constexpr Wording breakLength{
    "pull.break-length", "Break the pull {0} from the boxes, in {1}: {2} of conduit at a time"};
constexpr Wording breakBends{
    "pull.break-bends", "Break the pull {0} from the boxes, in {1}: two right angles at a time"};
constexpr Wording breakForce{"pull.break-force",
                             "Break the pull {0} from the boxes, in {1}: 80 % of the limit"};
constexpr Wording stillTooMuch{"pull.too-much",
                               "Even so it takes {0}, and {1} is the most: pull fewer at once, "
                               "lubricate, or lead it another way"};
constexpr Wording bushings{"pull.bushings", "Bushings on cut conduit: {0}"};
constexpr Wording lubricant{"pull.lubricant",
                            "Lubricant for {0} of conduit, made for cable jackets"};
constexpr Wording helpers{"pull.helpers",
                          "{0} {0?bend|bends} in the open: a helper at each, or rollers"};
constexpr Wording numberBoth{"pull.number-both",
                             "Number both ends now, and again {0} behind the cut"};
constexpr Wording fill{"pull.fill",
                       "{0}: {1} full when all is in, at most {2} with {3} {3?cable|cables}"};
constexpr Wording noWeight{"pull.no-weight",
                           "No force is told: {0} has no weight in the catalogue"};
constexpr Wording noLimit{"pull.no-limit", "What {0} bears is in its own sheet: not judged"};
constexpr Wording noWay{"pull.no-way", "Its way is not on the plan: no force can be told"};

class Notes {
public:
    Notes(const PullFinding& pull, const Job& job, const SitePlan& site)
        : pull_(pull), job_(job), site_(site) {}
    std::vector<PullNote> find() {
        ends();
        matters();
        force();
        hands();
        return std::move(out_);
    }

private:
    void add(bool caution, Sentence what) {
        const auto same = [&](const PullNote& note) { return note.what == what; };
        if (std::none_of(out_.begin(), out_.end(), same))
            out_.push_back({caution, std::move(what)});
    }
    void ends() {
        for (const auto& one : pull_.runs) {
            const Run* run = job_.run(one.runId);
            for (const RunEnd* end :
                 {run == nullptr ? nullptr : &run->near, run == nullptr ? nullptr : &run->far}) {
                const Place* place = end == nullptr ? nullptr : byId(job_.places, end->placeId);
                if (place == nullptr)
                    continue;
                if (place->access == EndAccess::Ladder)
                    add(true, sentence(ladder, asText(place->name)));
                else if (place->access == EndAccess::AboveCeiling)
                    add(true, sentence(above, asText(place->name)));
                else if (place->access == EndAccess::Height)
                    add(true, sentence(height, asText(place->name)));
            }
        }
    }
    void matters() {
        for (const auto& f : site_.findings) {
            const bool ours = std::any_of(f.runs.begin(), f.runs.end(), [&](const auto& on) {
                return pull_.run(on.runId) != nullptr;
            });
            if (!ours)
                continue;
            const Pathway* way = byId(job_.pathways, f.pathwayId);
            const Surface* surface = byId(job_.surfaces, f.surfaceId);
            if (f.matter == SiteMatter::Separation || f.matter == SiteMatter::Crossing)
                add(true,
                    sentence(mains, way == nullptr ? alone(asTerm("the way")) : nameOf(*way)));
            else if (f.matter == SiteMatter::Fire && surface != nullptr)
                add(true, sentence(fire, asText(surface->name)));
        }
    }
    void force() {
        if (pull_.way.empty())
            return add(false, sentence(noWay));
        for (const auto& name : pull_.noWeight)
            add(false, sentence(noWeight, asText(name)));
        for (const auto& name : pull_.noLimit)
            add(false, sentence(noLimit, asText(name)));
        for (const auto& point : pull_.breaks) {
            const Pathway* way = byId(job_.pathways, point.pathwayId);
            const Wording& why = point.why == BreakPoint::Why::Length  ? breakLength
                                 : point.why == BreakPoint::Why::Bends ? breakBends
                                                                       : breakForce;
            add(false, sentence(why, asMetres(point.atM),
                                way == nullptr ? alone(asTerm("the open")) : nameOf(*way),
                                asMetres(mostStraightM, 0)));
        }
        if (pull_.overLimit())
            add(true, sentence(stillTooMuch, asNewton(*pull_.brokenN), asNewton(*pull_.limitN)));
    }
    void hands() {
        double closedM = 0;
        double turned = 0;
        std::size_t openBends = 0;
        for (const auto& part : pull_.way) {
            if (part.closed)
                (part.kind == PullPart::Kind::Bend ? turned : closedM) +=
                    part.kind == PullPart::Kind::Bend ? part.bendRad : part.lengthM;
            else if (part.kind == PullPart::Kind::Bend)
                ++openBends;
        }
        if (wantsLubricant(closedM, turned))
            add(false, sentence(lubricant, asMetres(closedM)));
        if (pull_.bushings > 0)
            add(false, sentence(bushings, asCount(pull_.bushings)));
        for (const auto& one : site_.fills)
            if (const Pathway* way = byId(job_.pathways, one.pathwayId);
                way != nullptr &&
                std::any_of(pull_.way.begin(), pull_.way.end(),
                            [&](const auto& part) { return part.pathwayId == one.pathwayId; }))
                add(false, sentence(fill, nameOf(*way), asShare(one.share), asShare(one.mayShare),
                                    asCount(one.cables)));
        if (openBends > 0)
            add(false, sentence(helpers, asCount(openBends)));
        if (job_.info.pull.marking == MarkingSchool::NumberBoth)
            add(false, sentence(numberBoth, asMetres(behindCutM)));
    }

    const PullFinding& pull_;
    const Job& job_;
    const SitePlan& site_;
    std::vector<PullNote> out_;
};

} // namespace

std::vector<PullNote> pullNotes(const PullFinding& pull, const Job& job, const SitePlan& site) {
    return Notes(pull, job, site).find();
}

} // namespace burin
