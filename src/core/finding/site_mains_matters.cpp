// Mains, motors and ballasts beside the ways of cables.
#include "core/finding/site_matters.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

constexpr Wording mainsCaution{
    "caution.mains",
    "Planning figure: local code decides, and mains work is a licensed electrician's."};

Exposure exposureOf(const Cable* cable) {
    if (cable == nullptr)
        return Exposure::Unscreened;
    if (cable->kind == CableKind::Coax)
        return Exposure::Coax;
    return cable->screen == Screen::None ? Exposure::Unscreened : Exposure::Screened;
}

std::string_view exposureWord(Exposure exposure) {
    constexpr auto words = wordsOf<Exposure>("unscreened cable", "screened cable", "coax");
    return words[exposure];
}

} // namespace

bool MainsMatters::Class::holds(const Cable* cable) const {
    return std::find(exposures.begin(), exposures.end(), exposureOf(cable)) != exposures.end();
}

Sentence MainsMatters::Class::word() const {
    if (exposures.size() == 3)
        return sentence({"exposure.any", "any cable"});
    std::vector<Sentence> out;
    for (const Exposure e : exposures)
        out.push_back(alone(asTerm(exposureWord(e))));
    return listed(std::move(out));
}

bool MainsMatters::Source::mayReach(const PlanPoint& a, const PlanPoint& b) const {
    return std::min(a.xM, b.xM) <= high.xM + farthestM &&
           std::max(a.xM, b.xM) >= low.xM - farthestM &&
           std::min(a.yM, b.yM) <= high.yM + farthestM &&
           std::max(a.yM, b.yM) >= low.yM - farthestM;
}

MainsMatters::MainsMatters(const Job& job, const Catalogue& catalogue, const SitePlan& plan)
    : job_(job), catalogue_(catalogue), plan_(plan) {
    for (const auto& mains : job.mains) {
        Source source{&mains, classesOf(mains), 0, {}, {}};
        for (const auto& cables : source.classes)
            source.farthestM = std::max(source.farthestM, cables.apart.wantedMm / 1000);
        for (const auto& p : mains.points) {
            if (&p == &mains.points.front())
                source.low = source.high = p;
            source.low = {std::min(source.low.xM, p.xM), std::min(source.low.yM, p.yM)};
            source.high = {std::max(source.high.xM, p.xM), std::max(source.high.yM, p.yM)};
        }
        mains_[mains.floorId].push_back(std::move(source));
    }
}

const std::vector<MainsMatters::Source>& MainsMatters::mainsOn(const std::string& floorId) const {
    static const std::vector<Source> none;
    const auto it = mains_.find(floorId);
    return it == mains_.end() ? none : it->second;
}

std::vector<MainsMatters::Class> MainsMatters::classesOf(const MainsRoute& mains) const {
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

void MainsMatters::say(SiteFinding& f, const Sentence& where, const MainsRoute& mains,
                       const Class& cables, const Beside& part, double gapM) const {
    const auto& rule = catalogue_.site.separation;
    const auto name = mains.name.empty() ? asTerm("mains") : asText(mains.name);
    f.mainsId = mains.id;
    f.source = cited(rule.source);
    f.caution = sentence(mainsCaution);
    const bool one = f.runs.size() == 1;
    // A pathway, or one run; else several runs.
    const bool singular = one || !f.pathwayId.empty();
    if (part.crosses) {
        const bool square = part.angleDeg >= rule.squareDeg;
        f.matter = SiteMatter::Crossing;
        f.haveMm = gapM * 1000;
        f.wantedMm = rule.neverUnderMm;
        f.bad = f.haveMm < rule.neverUnderMm;
        f.title = square ? sentence({"crossing.title", "Crosses power too close"})
                         : sentence({"crossing.title-slant", "Crosses power, and not square"});
        f.reason =
            sentence(singular ? Wording{"crossing.one", "{0} crosses the {1} at {2}, {3} from it"}
                              : Wording{"crossing.more", "{0} cross the {1} at {2}, {3} from it"},
                     where, name, asUnit(part.angleDeg, 0, "°"), asMillimetres(f.haveMm));
        const auto least = asMillimetres(rule.neverUnderMm);
        f.cure =
            square
                ? sentence({"crossing.cure", "Keep {0} between them where they cross"}, least)
                : sentence({"crossing.cure-slant", "Cross at right angles, and keep {0} between"},
                           least);
        return;
    }
    f.haveMm = part.leastM * 1000;
    f.wantedMm = cables.apart.wantedMm;
    f.bad = f.haveMm < cables.apart.leastMm;
    f.title = f.bad ? sentence({"power.title", "Power too near"})
                    : sentence({"power.title-rather", "Power rather near"});
    f.reason = sentence(
        singular
            ? Wording{"power.one", "{0} runs {1} beside the {2}, {3} apart; {4} wanted for {5} "
                                   "{6}"}
            : Wording{"power.more", "{0} run {1} beside the {2}, {3} apart; {4} wanted for {5} "
                                    "{6}"},
        where, asMetres(f.lengthM), name, asMillimetres(f.haveMm), asMillimetres(f.wantedMm),
        cables.word(), cables.apart.rule);
    const Apart screened = apartFrom(mains, Exposure::Screened, job_.info.survey, rule);
    const bool allPairs = std::all_of(f.runs.begin(), f.runs.end(), [&](const auto& on) {
        const Run* run = job_.run(on.runId);
        return run != nullptr && exposureOf(catalogue_.cable(run->cableId)) == Exposure::Unscreened;
    });
    f.screenCures = allPairs && f.haveMm >= screened.leastMm;
    const auto wanted = asMillimetres(f.wantedMm);
    f.cure =
        !f.screenCures ? sentence({"power.cure", "Move it {0} away, or cross square"}, wanted)
        : one ? sentence({"power.cure-run", "Move it {0} away, or cross square, or screen this "
                                            "run and keep {1}"},
                         wanted, asMillimetres(screened.leastMm))
              : sentence({"power.cure-runs", "Move it {0} away, or cross square, or screen these "
                                             "{2} and keep {1}"},
                         wanted, asMillimetres(screened.leastMm), runsWord(f.runs.size()));
}

void MainsMatters::beside(const Pathway& way, const std::vector<Use>& uses,
                          std::vector<SiteFinding>& out) const {
    if (way.kind == PathwayKind::Shaft)
        return;
    for (const auto& source : mainsOn(way.floorId)) {
        const MainsRoute& mains = *source.mains;
        for (const auto& cables : source.classes) {
            if (std::none_of(uses.begin(), uses.end(),
                             [&](const Use& use) { return cables.holds(use.cable); }))
                continue;
            for (const auto& part :
                 besides(way.points, way.heightM, mains, cables.apart.wantedMm / 1000,
                         catalogue_.site.separation))
                besidePart(way, uses, mains, cables, part, out);
        }
    }
}

void MainsMatters::besidePart(const Pathway& way, const std::vector<Use>& uses,
                              const MainsRoute& mains, const Class& cables, const Beside& part,
                              std::vector<SiteFinding>& out) const {
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
    placeOn(f, way, from, to);
    f.lengthM = to - from;
    say(f, nameOf(way), mains, cables, part, std::abs(way.heightM - mains.heightM));
    out.push_back(std::move(f));
}

void MainsMatters::inTheOpen(const OpenUse& use, std::vector<SiteFinding>& out) const {
    const auto& rule = catalogue_.site.separation;
    const Floor* floor = plan_.graph->floor(use.leg->floorId);
    const double height = use.leg->fromHeightM - (floor == nullptr ? 0 : floor->elevationM);
    const std::array<PlanPoint, 3> points{use.leg->from,
                                          PlanPoint{use.leg->to.xM, use.leg->from.yM}, use.leg->to};
    constexpr double leaving = 1.2; // as far as a cable that leaves square is too near anyway
    const bool upright = use.leg->kind == RouteLeg::Kind::Drop;
    for (const auto& source : mainsOn(use.leg->floorId)) {
        if (!source.mayReach(use.leg->from, use.leg->to))
            continue;
        const MainsRoute& mains = *source.mains;
        for (const auto& cables : source.classes) {
            if (!cables.holds(use.cable))
                continue;
            const double within = cables.apart.wantedMm / 1000;
            if (upright) {
                const double end = height + use.leg->toHeightM - use.leg->fromHeightM;
                if (const auto part =
                        besideUpright(use.leg->from, height, end, mains, within, rule))
                    openPart(use, mains, cables, *part, points, part->leastM, out);
                continue;
            }
            for (const auto& part : besides(points, height, mains, within, rule))
                if (part.crosses || part.toM - part.fromM >= leaving * within)
                    openPart(use, mains, cables, part, points, std::abs(height - mains.heightM),
                             out);
        }
    }
}

void MainsMatters::openPart(const OpenUse& use, const MainsRoute& mains, const Class& cables,
                            const Beside& part, std::span<const PlanPoint> points, double gapM,
                            std::vector<SiteFinding>& out) const {
    const bool upright = use.leg->kind == RouteLeg::Kind::Drop;
    SiteFinding f;
    f.floorId = use.leg->floorId;
    f.from = upright ? use.leg->from : pointAt(points, part.fromM);
    f.to = upright ? use.leg->from : pointAt(points, part.toM);
    f.lengthM = part.toM - part.fromM;
    f.runs.push_back({use.run->id, use.runAtM + part.fromM, use.runAtM + part.toM});
    const auto same = std::find_if(out.begin(), out.end(), [&](const SiteFinding& other) {
        // Where they come down at one place they are one matter, too.
        const bool alike = upright ? other.from == f.from && other.to == f.to
                                   : other.matter == SiteMatter::Crossing;
        return (upright || part.crosses) && alike && other.mainsId == mains.id &&
               other.pathwayId.empty();
    });
    if (same != out.end())
        f.runs.insert(f.runs.begin(), same->runs.begin(), same->runs.end());
    const auto runs = runsWord(f.runs.size());
    const Sentence where = f.runs.size() == 1 ? alone(asText(use.run->label))
                           : upright          ? sentence({"runs.down", "{0} coming down"}, runs)
                                              : sentence({"runs.open", "{0} in the open"}, runs);
    say(f, where, mains, cables, part, gapM);
    if (same != out.end())
        *same = std::move(f);
    else
        out.push_back(std::move(f));
}

} // namespace burin
