#include "core/site/separation.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {

Apart apartFrom(const MainsRoute& mains, Exposure exposure, const SurveyRules& job,
                const SeparationRule& rule) {
    Apart out;
    if (mains.kind == MainsKind::Motor) {
        out.wantedMm = rule.motorMm;
        out.rule = sentence({"apart.motor", "from a motor"});
    } else if (mains.kind == MainsKind::Ballast) {
        out.wantedMm = rule.ballastMm;
        out.rule = sentence({"apart.ballast", "from a ballast"});
    } else if (job.separation == SeparationSchool::House && mains.kva <= rule.houseUpToKva) {
        out.wantedMm = rule.houseMm;
        out.leastMm = rule.houseLeastMm;
        out.rule = sentence({"apart.house", "from a house branch circuit"});
    } else {
        const auto step =
            std::find_if(rule.steps.begin(), rule.steps.end(),
                         [&](const SeparationStep& s) { return mains.kva < s.upToKva; });
        out.wantedMm = step == rule.steps.end() ? rule.steps.back().apartMm : step->apartMm;
        out.rule =
            sentence({"apart.circuit", "from a circuit of {0}"}, asUnit(mains.kva, 1, "kVA"));
    }
    if (mains.enclosed || exposure == Exposure::Screened) {
        out.wantedMm *= rule.metalFactor;
        out.leastMm *= rule.metalFactor;
        out.rule = mains.enclosed
                       ? sentence({"apart.metal", "{0} in earthed metal"}, std::move(out.rule))
                       : sentence({"apart.screened", "{0}, screened cable"}, std::move(out.rule));
    } else if (exposure == Exposure::Coax && job.coaxHalf) {
        out.wantedMm *= rule.coaxFactor;
        out.leastMm *= rule.coaxFactor;
        out.rule = sentence({"apart.coax", "{0}, coax at half"}, std::move(out.rule));
    }
    if (out.leastMm <= 0)
        out.leastMm = out.wantedMm;
    out.wantedMm = std::max(out.wantedMm, rule.neverUnderMm);
    out.leastMm = std::max(out.leastMm, rule.neverUnderMm);
    return out;
}

namespace {

void addPart(std::vector<Beside>& out, const Beside& part) {
    if (!out.empty() && !out.back().crosses && !part.crosses &&
        part.fromM <= out.back().toM + 1e-6) {
        auto& last = out.back();
        last.toM = std::max(last.toM, part.toM);
        if (part.leastM < last.leastM) {
            last.leastM = part.leastM;
            last.leastAtM = part.leastAtM;
        }
        return;
    }
    out.push_back(part);
}

} // namespace

std::vector<Beside> besides(std::span<const PlanPoint> points, double heightM,
                            const MainsRoute& mains, double withinM, const SeparationRule& rule) {
    std::vector<Beside> near;
    std::vector<Beside> crossings;
    const double gap = std::abs(heightM - mains.heightM);
    if (gap >= withinM || mains.points.empty())
        return near;
    double before = 0;
    for (std::size_t i = 1; i < points.size(); ++i) {
        const auto& a = points[i - 1];
        const auto& b = points[i];
        const double step = distanceM(a, b);
        if (step < 1e-9)
            continue;
        const std::size_t pieces = std::max<std::size_t>(mains.points.size(), 2) - 1;
        for (std::size_t k = 0; k < pieces; ++k) {
            const auto& c = mains.points[k];
            const auto& d = mains.points[std::min(k + 1, mains.points.size() - 1)];
            const auto part = nearPart(a, b, c, d, gap, withinM);
            if (!part)
                continue;
            Beside found{before + part->fromShare * step,
                         before + part->toShare * step,
                         part->leastM,
                         before + part->leastShare * step,
                         false,
                         0};
            if (const auto crossing = crossingOf(a, b, c, d)) {
                found.crosses = true;
                found.angleDeg = angleDeg(a, b, c, d);
                found.leastAtM = before + crossing->shareA * step;
                if (found.angleDeg >= rule.squareDeg && gap * 1000 >= rule.neverUnderMm)
                    continue;
                crossings.push_back(found);
            } else {
                near.push_back(found);
            }
        }
        before += step;
    }
    std::sort(near.begin(), near.end(),
              [](const Beside& a, const Beside& b) { return a.fromM < b.fromM; });
    std::vector<Beside> out;
    for (const auto& part : near)
        addPart(out, part);
    out.insert(out.end(), crossings.begin(), crossings.end());
    return out;
}

std::optional<Beside> besideUpright(const PlanPoint& at, double startM, double endM,
                                    const MainsRoute& mains, double withinM,
                                    const SeparationRule& rule) {
    if (mains.points.empty())
        return std::nullopt;
    double off = distanceM(at, mains.points.front());
    const bool level = mains.points.size() > 1;
    if (level)
        nearestAlongM(mains.points, at, &off);
    const double within = level ? std::min(withinM, rule.neverUnderMm / 1000) : withinM;
    if (off >= within)
        return std::nullopt;
    // Under and above the mains the part that lies in the ball around it.
    const double reach = std::sqrt(within * within - off * off);
    const auto [low, high] = std::minmax(startM, endM);
    const double from = std::max(low, mains.heightM - reach);
    const double to = std::min(high, mains.heightM + reach);
    if (from > to)
        return std::nullopt;
    const double nearest = std::clamp(mains.heightM, low, high);
    const auto along = [&](double height) { return std::abs(height - startM); };
    Beside out{std::min(along(from), along(to)),
               std::max(along(from), along(to)),
               std::hypot(off, nearest - mains.heightM),
               along(nearest),
               false,
               0};
    if (level) {
        out.crosses = true;
        out.angleDeg = 90;
    }
    return out;
}

} // namespace burin
