#include "core/pull/tension.h"
#include <algorithm>
#include <cmath>
#include <numeric>

namespace burin {
namespace {

constexpr double gravity = 9.81;    ///< m/s²
constexpr double sharedShare = 0.8; ///< of what several bear together: none pulls quite alike

double beyond(const PullPart& part, double tensionN, double weightKgPerM) {
    if (part.kind == PullPart::Kind::Bend)
        return tensionN * std::exp(part.friction * part.bendRad);
    const double level =
        std::sqrt(std::max(0.0, part.lengthM * part.lengthM - part.riseM * part.riseM));
    return std::max(0.0, tensionN + weightKgPerM * gravity * (part.friction * level + part.riseM));
}

} // namespace

TensionFinding findTension(const std::vector<PullPart>& way, const PullGroup& group) {
    TensionFinding out;
    double tension = group.startN;
    double at = 0;
    for (const auto& part : way) {
        tension = beyond(part, tension, group.weightKgPerM);
        at += part.lengthM;
        if (tension > out.mostN) {
            out.mostN = tension;
            out.mostAfter = out.points.size();
        }
        out.points.push_back({at, tension});
    }
    out.endN = tension;
    return out;
}

std::vector<PullPart> reversed(std::vector<PullPart> way) {
    std::reverse(way.begin(), way.end());
    for (auto& part : way)
        part.riseM = -part.riseM;
    return way;
}

double groupLimitN(const std::vector<double>& eachN, Grip grip) {
    if (eachN.empty())
        return 0;
    if (grip == Grip::ByOne || eachN.size() == 1)
        return eachN.front();
    return sharedShare * std::accumulate(eachN.begin(), eachN.end(), 0.0);
}

} // namespace burin
