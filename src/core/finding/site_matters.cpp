#include "core/finding/site_matters.h"
#include "core/base/lookup.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace burin {

std::string_view siteMatterKey(SiteMatter matter) {
    constexpr auto words = wordsOf<SiteMatter>("separation", "crossing", "fill", "hooks", "bend",
                                               "jacket", "fire", "no-way", "length");
    return words[matter];
}

Sentence runsWord(std::size_t count) {
    return sentence({"runs", "{0} {0?run|runs}"}, asCount(count));
}

Sentence nameOf(const Pathway& way) {
    return way.name.empty() ? sentence({"way.unnamed", "the {0}"}, asTerm(pathwayWord(way.kind)))
                            : alone(asText(way.name));
}

void placeOn(SiteFinding& f, const Pathway& way, double from, double to) {
    f.floorId = way.floorId;
    f.pathwayId = way.id;
    f.from = pointAt(way.points, from);
    f.to = pointAt(way.points, to);
}

namespace {

class Finder {
public:
    Finder(const Job& job, const Catalogue& catalogue, const SitePlan& plan,
           std::vector<WayFill>& fills)
        : job_(job), catalogue_(catalogue), plan_(plan), uses_(plan.graph->pathways.size()),
          mains_(job, catalogue, plan), fills_(fills) {
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
            mains_.beside(way, uses_[i], out_);
            filled(way, uses_[i]);
            bends(way, uses_[i]);
            barriers(way, uses_[i]);
        }
        for (const auto& use : open_)
            mains_.inTheOpen(use, out_);
        addRunMatters(job_, plan_, out_);
        // The worst first; within, as they were found.
        std::stable_sort(out_.begin(), out_.end(),
                         [](const SiteFinding& a, const SiteFinding& b) { return a.bad > b.bad; });
        return std::move(out_);
    }

private:
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
        placeOn(f, way, worst->fromM, worst->toM);
        if (way.boreMm)
            conduitFill(f, way, mostCount, mostArea);
        if (way.perHook && static_cast<int>(mostCount) > *way.perHook) {
            f.matter = SiteMatter::Hooks;
            f.bad = true;
            f.title = sentence({"hooks.title", "Hooks over-full"});
            f.reason = sentence({"hooks.full", "{0} carries {1} cables, and its hooks take {2}"},
                                nameOf(way), asCount(mostCount), asCount(*way.perHook));
            f.cure = sentence(
                {"hooks.cure", "Hang a second row of hooks, wider ones, or lead some another way"});
            f.source = cited(catalogue_.site.hooks.source);
            out_.push_back(f);
        }
        if (way.supportM && *way.supportM > catalogue_.site.hooks.supportM + 1e-9) {
            f.matter = SiteMatter::Hooks;
            f.bad = false;
            f.title = sentence({"supports.title", "Supports far apart"});
            f.reason = sentence(
                {"supports.far", "{0} is held every {1}; at most {2}, unevenly spaced"},
                nameOf(way), asMetres(*way.supportM), asMetres(catalogue_.site.hooks.supportM));
            f.cure = sentence({"supports.cure", "Put hooks between"});
            f.source = cited(catalogue_.site.hooks.source);
            out_.push_back(f);
        }
    }

    void conduitFill(SiteFinding f, const Pathway& way, std::size_t count, double area) {
        const auto& rule = catalogue_.site.fill;
        const double inside = std::numbers::pi * *way.boreMm * *way.boreMm / 4;
        const double share = area / inside;
        const double may = count == 1 ? rule.oneShare : count == 2 ? rule.twoShare : rule.moreShare;
        fills_.push_back({way.id, count, share, may});
        if (share <= may)
            return;
        f.matter = SiteMatter::Fill;
        f.haveMm = *way.boreMm;
        f.wantedMm = std::sqrt(area / may * 4 / std::numbers::pi);
        f.title = sentence({"conduit.title", "Conduit over-full"});
        f.reason = sentence({"conduit.full", "{0} is filled to {1} by {2}; {3} is the most"},
                            nameOf(way), asShare(share), runsWord(count), asShare(may));
        f.cure = sentence({"conduit.cure", "A bore of {0} takes them, or lead some another way"},
                          asMillimetres(std::ceil(f.wantedMm)));
        f.source = cited(rule.source);
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
            placeOn(f, way, at, at);
            f.haveMm = *way.cornerRadiusMm;
            f.title = sentence({"bend.title", "Bend too sharp"});
            f.reason = sentence(
                {"bend.sharp", "a corner of {0} has {1} inside radius; {2} through it want {3}"},
                nameOf(way), asMillimetres(f.haveMm), runsWord(f.runs.size()),
                asMillimetres(f.wantedMm));
            f.cure = sentence({"bend.cure", "A swept fitting, or a cable of less diameter"});
            f.source = cited(catalogue_.site.bend.source);
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
        placeOn(f, way, at, at);
        f.surfaceId = surface.id;
        sayFire(f, sentence({"fire.wall", "{0} in {1} pass {2} ({3})"}, runsWord(f.runs.size()),
                            nameOf(way),
                            surface.name.empty() ? asTerm("a fire wall") : asText(surface.name),
                            asUnit(surface.fireMinutes, 0, "min")));
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
        sayFire(f, sentence({"fire.floor", "{0} in {1} pass from floor to floor"},
                            runsWord(f.runs.size()), nameOf(way)));
    }

    void sayFire(SiteFinding& f, const Sentence& what) {
        f.matter = SiteMatter::Fire;
        f.bad = false;
        f.title = sentence({"fire.title", "Fire stop wanted"});
        f.reason = what;
        f.cure = sentence({"fire.cure", "Seal the opening with a listed system once the cables are "
                                        "in, and photograph it"});
        f.caution = sentence({"caution.fire", "Fire stopping follows local code and the system's "
                                              "listing; some of it is a licensed trade's."});
        f.source = sentence({"source.fire", "building codes: a rated barrier keeps its rating"});
        out_.push_back(f);
    }

    const Job& job_;
    const Catalogue& catalogue_;
    const SitePlan& plan_;
    std::vector<std::vector<Use>> uses_;
    std::vector<OpenUse> open_;
    MainsMatters mains_;
    std::vector<SiteFinding> out_;
    std::vector<WayFill>& fills_;
};

} // namespace

std::vector<SiteFinding> siteFindings(const Job& job, const Catalogue& catalogue,
                                      const SitePlan& plan, std::vector<WayFill>& fills) {
    return Finder(job, catalogue, plan, fills).find();
}

} // namespace burin
