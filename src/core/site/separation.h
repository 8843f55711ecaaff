#pragma once
#include "core/base/sentence.h"
#include "core/catalogue/site_rules.h"
#include "core/site/geometry.h"

namespace burin {

/// What a cable is to mains beside it.
enum class Exposure { Unscreened, Screened, Coax };

struct Apart {
    double wantedMm = 0; ///< least distance asked for
    double leastMm = 0;  ///< under this it is refused, between the two advised against
    Sentence rule;       ///< the school and table row, for people
};
/// How far a cable is to lie from a mains route. Planning figures of physics: table by kVA, half
/// where one side lies in earthed metal, never under 50 mm; another school keeps 75 to 150 mm from
/// house branch circuits and, where the job says so, coax at half.
Apart apartFrom(const MainsRoute& mains, Exposure exposure, const SurveyRules& job,
                const SeparationRule& rule);

/// A part of a pathway that lies beside a mains route.
struct Beside {
    double fromM = 0, toM = 0; ///< along the pathway
    double leastM = 0;         ///< apart, where they are nearest
    double leastAtM = 0;
    bool crosses = false;
    double angleDeg = 0; ///< of the crossing
};
/// Where points (at `heightM`) come nearer than `withinM` to the mains; parts that touch are one.
/// A crossing at `squareDeg` or more is a part of its own and, as long as it is not nearer than
/// `neverUnderM`, left out.
std::vector<Beside> besides(std::span<const PlanPoint> points, double heightM,
                            const MainsRoute& mains, double withinM, const SeparationRule& rule);

/// Where a cable that goes straight up or down at a point, from `startM` to `endM` above the
/// finished floor, comes nearer than `withinM` to the mains; places are metres from its start. A
/// route that lies level is passed square: that counts only under `neverUnderM`.
std::optional<Beside> besideUpright(const PlanPoint& at, double startM, double endM,
                                    const MainsRoute& mains, double withinM,
                                    const SeparationRule& rule);

} // namespace burin
