#include "core/finding/site_matters.h"
#include "core/lookup.h"
#include "core/site/separation.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace burin {

std::string_view siteMatterKey(SiteMatter matter) {
    constexpr std::array<std::string_view, 8> keys{"separation", "crossing", "fill", "hooks",
                                                   "bend",       "jacket",   "fire", "no-way"};
    return keyIn(keys, matter);
}

namespace {

constexpr const char* mainsCaution =
    "Planning figure: local code decides, and mains work is a licensed electrician's.";

/// A run in a pathway.
struct Use {
    const Run* run;
    const Cable* cable; ///< may be null
    double fromM, toM;  ///< along the pathway, rising
    double runAtFromM;  ///< metres of the run's fixed cable at fromM
    bool forward;
    [[nodiscard]] SiteFinding::OnRun onRun(double from, double to) const {
        const double a = runAtFromM + (forward ? from - fromM : toM - to);
        return {run->id, a, a + (to - from)};
    }
    [[nodiscard]] double overlapM(double from, double to) const {
        return std::min(toM, to) - std::max(fromM, from);
    }
};

Exposure exposureOf(const Cable* cable) {
    if (cable == nullptr)
        return Exposure::Unscreened;
    if (cable->kind == CableKind::Coax)
        return Exposure::Coax;
    return cable->screen == Screen::None ? Exposure::Unscreened : Exposure::Screened;
}

std::string_view exposureWord(Exposure exposure) {
    constexpr std::array<std::string_view, 3> words{"unscreened cable", "screened cable", "coax"};
    return keyIn(words, exposure);
}

std::string runsWord(std::size_t count) {
    return count == 1 ? "1 run" : std::to_string(count) + " runs";
}

std::string mm(double value) {
    return formatFixed(value, 0) + " mm";
}

class Finder {
public:
    Finder(const Job& job, const Catalogue& catalogue, const SitePlan& plan)
        : job_(job), catalogue_(catalogue), plan_(plan), uses_(plan.graph->pathways.size()) {
        std::map<std::string_view, const Run*> runs;
        for (const auto& run : job.runs)
            runs[run.id] = &run;
        for (const auto& route : plan.routes) {
            const Run* run = runs.at(route.runId);
            const Cable* cable = catalogue.cable(run->cableId);
            double at = route.nearSpareM;
            for (const auto& leg : route.legs) {
                const auto [low, high] = std::minmax(leg.fromAtM, leg.toAtM);
                if (leg.kind == RouteLeg::Kind::Along)
                    uses_[static_cast<std::size_t>(plan.graph->pathwayIndex.at(leg.pathwayId))]
                        .push_back({run, cable, low, high, at, leg.fromAtM <= leg.toAtM});
                else
                    open_.push_back({run, cable, &leg, at});
                at += leg.lengthM;
            }
        }
    }

    std::vector<SiteFinding> find() {
        for (std::size_t i = 0; i < uses_.size(); ++i) {
            if (uses_[i].empty())
                continue;
            const Pathway& way = plan_.graph->pathways[i];
            besideMains(way, uses_[i]);
            filled(way, uses_[i]);
            bends(way, uses_[i]);
            barriers(way, uses_[i]);
        }
        for (const auto& use : open_)
            openBesideMains(use);
        addRunMatters(job_, plan_, out_);
        // The worst first; within, as they were found.
        std::stable_sort(out_.begin(), out_.end(),
                         [](const SiteFinding& a, const SiteFinding& b) { return a.bad > b.bad; });
        return std::move(out_);
    }

private:
    struct OpenUse {
        const Run* run;
        const Cable* cable;
        const RouteLeg* leg;
        double runAtM;
    };

    static void place(SiteFinding& f, const Pathway& way, double from, double to) {
        f.floorId = way.floorId;
        f.pathwayId = way.id;
        f.from = pointAt(way.points, from);
        f.to = pointAt(way.points, to);
    }

    /// Cables that are to lie equally far from a mains route.
    struct Class {
        Apart apart;
        std::vector<Exposure> exposures;
        [[nodiscard]] bool holds(const Cable* cable) const {
            return std::find(exposures.begin(), exposures.end(), exposureOf(cable)) !=
                   exposures.end();
        }
        [[nodiscard]] std::string word() const {
            std::string out;
            if (exposures.size() == 3)
                return "any cable";
            for (const Exposure e : exposures)
                out += (out.empty() ? "" : " and ") + std::string(exposureWord(e));
            return out;
        }
    };
    [[nodiscard]] std::vector<Class> classesOf(const MainsRoute& mains) const {
        std::vector<Class> out;
        for (const Exposure e : {Exposure::Unscreened, Exposure::Screened, Exposure::Coax}) {
            Apart apart = apartFrom(mains, e, job_.info.survey, catalogue_.site.separation);
            const auto same = std::find_if(out.begin(), out.end(), [&](const Class& c) {
                return c.apart.wantedMm == apart.wantedMm && c.apart.leastMm == apart.leastMm;
            });
            if (same == out.end())
                out.push_back({std::move(apart), {e}});
            else
                same->exposures.push_back(e);
        }
        return out;
    }

    void say(SiteFinding& f, const std::string& where, const MainsRoute& mains, const Class& cables,
             const Beside& part, double gapM) const {
        const auto& rule = catalogue_.site.separation;
        const std::string name = mains.name.empty() ? "mains" : mains.name;
        f.mainsId = mains.id;
        f.source = rule.source;
        f.caution = mainsCaution;
        const bool one = f.runs.size() == 1;
        if (part.crosses) {
            const bool square = part.angleDeg >= rule.squareDeg;
            f.matter = SiteMatter::Crossing;
            f.haveMm = gapM * 1000;
            f.wantedMm = rule.neverUnderMm;
            f.bad = f.haveMm < rule.neverUnderMm;
            f.title = square ? "Crosses power too close" : "Crosses power, and not square";
            f.reason = where + (one || !f.pathwayId.empty() ? " crosses the " : " cross the ") +
                       name + " at " + formatFixed(part.angleDeg, 0) + "°, " + mm(f.haveMm) +
                       " from it";
            f.cure = square
                         ? "Keep " + mm(rule.neverUnderMm) + " between them where they cross"
                         : "Cross at right angles, and keep " + mm(rule.neverUnderMm) + " between";
            return;
        }
        f.haveMm = part.leastM * 1000;
        f.wantedMm = cables.apart.wantedMm;
        f.bad = f.haveMm < cables.apart.leastMm;
        f.title = f.bad ? "Power too near" : "Power rather near";
        f.reason = where + (one || !f.pathwayId.empty() ? " runs " : " run ") +
                   formatFixed(f.lengthM, 1) + " m beside the " + name + ", " + mm(f.haveMm) +
                   " apart; " + mm(f.wantedMm) + " wanted for " + cables.word() + " " +
                   cables.apart.rule;
        f.cure = "Move it, cross square, or screen " +
                 (one ? std::string("this run") : "these " + runsWord(f.runs.size()));
    }

    void besideMains(const Pathway& way, const std::vector<Use>& uses) {
        if (way.kind == PathwayKind::Shaft)
            return;
        for (const auto& mains : job_.mains) {
            if (mains.floorId != way.floorId)
                continue;
            for (const auto& cables : classesOf(mains)) {
                if (std::none_of(uses.begin(), uses.end(),
                                 [&](const Use& use) { return cables.holds(use.cable); }))
                    continue;
                for (const auto& part :
                     besides(way.points, way.heightM, mains, cables.apart.wantedMm / 1000,
                             catalogue_.site.separation))
                    besidePart(way, uses, mains, cables, part);
            }
        }
    }

    void besidePart(const Pathway& way, const std::vector<Use>& uses, const MainsRoute& mains,
                    const Class& cables, const Beside& part) {
        SiteFinding f;
        double from = part.toM;
        double to = part.fromM;
        for (const auto& use : uses) {
            if (!cables.holds(use.cable) || use.overlapM(part.fromM, part.toM) <= 1e-6)
                continue;
            const double a = std::max(use.fromM, part.fromM);
            const double b = std::min(use.toM, part.toM);
            from = std::min(from, a);
            to = std::max(to, b);
            f.runs.push_back(use.onRun(a, b));
        }
        if (f.runs.empty())
            return;
        place(f, way, from, to);
        f.lengthM = to - from;
        say(f, nameOf(way), mains, cables, part, std::abs(way.heightM - mains.heightM));
        out_.push_back(std::move(f));
    }

    /// Cable in the open, lying or coming down, is nobody's pathway: each run answers for itself;
    /// those that cross the same mains, or come down beside it at one place, are told together.
    void openBesideMains(const OpenUse& use) {
        const auto& rule = catalogue_.site.separation;
        const Floor* floor = plan_.graph->floor(use.leg->floorId);
        const double height = use.leg->fromHeightM - (floor == nullptr ? 0 : floor->elevationM);
        const std::array<PlanPoint, 3> points{
            use.leg->from, PlanPoint{use.leg->to.xM, use.leg->from.yM}, use.leg->to};
        constexpr double leaving = 1.2; // as far as a cable that leaves square is too near anyway
        const bool upright = use.leg->kind == RouteLeg::Kind::Drop;
        for (const auto& mains : job_.mains) {
            if (mains.floorId != use.leg->floorId)
                continue;
            for (const auto& cables : classesOf(mains)) {
                if (!cables.holds(use.cable))
                    continue;
                const double within = cables.apart.wantedMm / 1000;
                if (upright) {
                    const double end = height + use.leg->toHeightM - use.leg->fromHeightM;
                    if (const auto part =
                            besideUpright(use.leg->from, height, end, mains, within, rule))
                        openPart(use, mains, cables, *part, points, part->leastM);
                    continue;
                }
                for (const auto& part : besides(points, height, mains, within, rule))
                    if (part.crosses || part.toM - part.fromM >= leaving * within)
                        openPart(use, mains, cables, part, points,
                                 std::abs(height - mains.heightM));
            }
        }
    }

    void openPart(const OpenUse& use, const MainsRoute& mains, const Class& cables,
                  const Beside& part, std::span<const PlanPoint> points, double gapM) {
        const bool upright = use.leg->kind == RouteLeg::Kind::Drop;
        SiteFinding f;
        f.floorId = use.leg->floorId;
        f.from = upright ? use.leg->from : pointAt(points, part.fromM);
        f.to = upright ? use.leg->from : pointAt(points, part.toM);
        f.lengthM = part.toM - part.fromM;
        f.runs.push_back({use.run->id, use.runAtM + part.fromM, use.runAtM + part.toM});
        const auto same = std::find_if(out_.begin(), out_.end(), [&](const SiteFinding& other) {
            // Where they come down at one place they are one matter, too.
            const bool alike = upright ? other.from == f.from && other.to == f.to
                                       : other.matter == SiteMatter::Crossing;
            return (upright || part.crosses) && alike && other.mainsId == mains.id &&
                   other.pathwayId.empty();
        });
        if (same != out_.end())
            f.runs.insert(f.runs.begin(), same->runs.begin(), same->runs.end());
        const std::string where =
            f.runs.size() == 1
                ? use.run->label
                : runsWord(f.runs.size()) + (upright ? " coming down" : " in the open");
        say(f, where, mains, cables, part, gapM);
        if (same != out_.end())
            *same = std::move(f);
        else
            out_.push_back(std::move(f));
    }

    void filled(const Pathway& way, const std::vector<Use>& uses) {
        // Where most lies: at the start of some use.
        const Use* worst = nullptr;
        double mostArea = 0;
        std::size_t mostCount = 0;
        std::vector<std::tuple<double, int, double>> events;
        for (const auto& use : uses) {
            const double d =
                use.cable != nullptr && use.cable->diameterMm ? use.cable->diameterMm->value : 6;
            const double area = std::numbers::pi * d * d / 4;
            events.emplace_back(use.fromM, 1, area);
            events.emplace_back(use.toM, -1, area);
        }
        std::sort(events.begin(), events.end());
        double area = 0;
        int count = 0;
        double worstAt = 0;
        for (const auto& [at, step, size] : events) {
            area += step * size;
            count += step;
            if (area > mostArea + 1e-9) {
                mostArea = area;
                mostCount = static_cast<std::size_t>(count);
                worstAt = at;
            }
        }
        for (const auto& use : uses)
            if (worst == nullptr && use.fromM <= worstAt + 1e-9 && use.toM >= worstAt)
                worst = &use;
        SiteFinding f;
        for (const auto& use : uses)
            if (use.fromM <= worstAt + 1e-9 && use.toM > worstAt - 1e-9)
                f.runs.push_back(use.onRun(use.fromM, use.toM));
        if (worst == nullptr)
            return;
        place(f, way, worst->fromM, worst->toM);
        if (way.boreMm)
            conduitFill(f, way, mostCount, mostArea);
        if (way.perHook && static_cast<int>(mostCount) > *way.perHook) {
            f.matter = SiteMatter::Hooks;
            f.bad = true;
            f.title = "Hooks over-full";
            f.reason = nameOf(way) + " carries " + std::to_string(mostCount) +
                       " cables, and its hooks take " + std::to_string(*way.perHook);
            f.cure = "Hang a second row of hooks, wider ones, or lead some another way";
            f.source = catalogue_.site.hooks.source;
            out_.push_back(f);
        }
        if (way.supportM && *way.supportM > catalogue_.site.hooks.supportM + 1e-9) {
            f.matter = SiteMatter::Hooks;
            f.bad = false;
            f.title = "Supports far apart";
            f.reason = nameOf(way) + " is held every " + formatFixed(*way.supportM, 1) +
                       " m; at most " + formatFixed(catalogue_.site.hooks.supportM, 1) +
                       " m, unevenly spaced";
            f.cure = "Put hooks between";
            f.source = catalogue_.site.hooks.source;
            out_.push_back(f);
        }
    }

    void conduitFill(SiteFinding f, const Pathway& way, std::size_t count, double area) {
        const auto& rule = catalogue_.site.fill;
        const double inside = std::numbers::pi * *way.boreMm * *way.boreMm / 4;
        const double share = area / inside;
        const double may = count == 1 ? rule.oneShare : count == 2 ? rule.twoShare : rule.moreShare;
        if (share <= may)
            return;
        f.matter = SiteMatter::Fill;
        f.haveMm = *way.boreMm;
        f.wantedMm = std::sqrt(area / may * 4 / std::numbers::pi);
        f.title = "Conduit over-full";
        f.reason = nameOf(way) + " is filled to " + formatFixed(share * 100, 0) + " % by " +
                   runsWord(count) + "; " + formatFixed(may * 100, 0) + " % is the most";
        f.cure = "A bore of " + mm(std::ceil(f.wantedMm)) + " takes them, or lead some another way";
        f.source = rule.source;
        out_.push_back(std::move(f));
    }

    void bends(const Pathway& way, const std::vector<Use>& uses) {
        if (!way.cornerRadiusMm || way.kind == PathwayKind::Shaft)
            return;
        double at = 0;
        for (std::size_t i = 1; i + 1 < way.points.size(); ++i) {
            at += distanceM(way.points[i - 1], way.points[i]);
            const double turn =
                angleDeg(way.points[i - 1], way.points[i], way.points[i], way.points[i + 1]);
            if (turn < 15)
                continue;
            SiteFinding f;
            for (const auto& use : uses) {
                if (use.fromM > at - 1e-6 || use.toM < at + 1e-6 || use.cable == nullptr ||
                    !use.cable->diameterMm)
                    continue;
                const double wanted = leastRadiusMm(*use.cable);
                if (wanted <= *way.cornerRadiusMm)
                    continue;
                f.wantedMm = std::max(f.wantedMm, wanted);
                f.runs.push_back(use.onRun(at, at));
            }
            if (f.runs.empty())
                continue;
            f.matter = SiteMatter::Bend;
            place(f, way, at, at);
            f.haveMm = *way.cornerRadiusMm;
            f.title = "Bend too sharp";
            f.reason = "a corner of " + nameOf(way) + " has " + mm(f.haveMm) + " inside radius; " +
                       runsWord(f.runs.size()) + " through it want " + mm(f.wantedMm);
            f.cure = "A swept fitting, or a cable of less diameter";
            f.source = catalogue_.site.bend.source;
            out_.push_back(std::move(f));
        }
    }

    [[nodiscard]] double leastRadiusMm(const Cable& cable) const {
        const auto& rule = catalogue_.site.bend;
        const double times = cable.kind == CableKind::Coax  ? rule.coax
                             : cable.screen == Screen::None ? rule.unscreened
                                                            : rule.screened;
        return times * cable.diameterMm->value;
    }

    void barriers(const Pathway& way, const std::vector<Use>& uses) {
        if (way.kind == PathwayKind::Shaft) {
            slabs(way, uses);
            return;
        }
        for (const auto& surface : job_.surfaces) {
            if (surface.fireMinutes <= 0 || surface.kind != SurfaceKind::Wall ||
                surface.floorId != way.floorId)
                continue;
            double before = 0;
            for (std::size_t i = 1; i < way.points.size(); ++i) {
                const double step = distanceM(way.points[i - 1], way.points[i]);
                for (std::size_t k = 1; k < surface.points.size(); ++k)
                    if (const auto c = crossingOf(way.points[i - 1], way.points[i],
                                                  surface.points[k - 1], surface.points[k]))
                        barrier(way, uses, before + c->shareA * step, surface);
                before += step;
            }
        }
    }

    void barrier(const Pathway& way, const std::vector<Use>& uses, double at,
                 const Surface& surface) {
        SiteFinding f;
        for (const auto& use : uses)
            if (use.fromM < at + 1e-6 && use.toM > at - 1e-6)
                f.runs.push_back(use.onRun(at, at));
        if (f.runs.empty())
            return;
        place(f, way, at, at);
        f.surfaceId = surface.id;
        sayFire(f, runsWord(f.runs.size()) + " in " + nameOf(way) + " pass " +
                       (surface.name.empty() ? "a fire wall" : surface.name) + " (" +
                       std::to_string(surface.fireMinutes) + " min)");
    }

    /// A shaft that passes from floor to floor.
    void slabs(const Pathway& way, const std::vector<Use>& uses) {
        SiteFinding f;
        for (const auto& use : uses)
            for (const auto& floor : job_.floors)
                if (floor.elevationM > use.fromM + 1e-6 && floor.elevationM < use.toM - 1e-6) {
                    f.runs.push_back(use.onRun(use.fromM, use.toM));
                    break;
                }
        if (f.runs.empty())
            return;
        f.floorId = way.floorId;
        f.pathwayId = way.id;
        f.from = f.to = way.points.front();
        sayFire(f, runsWord(f.runs.size()) + " in " + nameOf(way) + " pass from floor to floor");
    }

    void sayFire(SiteFinding& f, const std::string& what) {
        f.matter = SiteMatter::Fire;
        f.bad = false;
        f.title = "Fire stop wanted";
        f.reason = what;
        f.cure = "Seal the opening with a listed system once the cables are in, and photograph it";
        f.caution = "Fire stopping follows local code and the system's listing; some of it is a "
                    "licensed trade's.";
        f.source = "building codes: a rated barrier keeps its rating";
        out_.push_back(f);
    }

    static std::string nameOf(const Pathway& way) {
        return way.name.empty() ? "the " + std::string(pathwayWord(way.kind)) : way.name;
    }

    const Job& job_;
    const Catalogue& catalogue_;
    const SitePlan& plan_;
    std::vector<std::vector<Use>> uses_;
    std::vector<OpenUse> open_;
    std::vector<SiteFinding> out_;
};

} // namespace

std::vector<SiteFinding> siteFindings(const Job& job, const Catalogue& catalogue,
                                      const SitePlan& plan) {
    return Finder(job, catalogue, plan).find();
}

} // namespace burin
