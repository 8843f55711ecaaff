#pragma once
#include "core/job/stock.h"
#include <cstddef>
#include <string>
#include <vector>

namespace burin {

/// A piece of the way that cables are pulled through, in the order they pass it.
struct PullPart {
    enum class Kind { Straight, Bend };
    Kind kind = Kind::Straight;
    double lengthM = 0; ///< of a straight piece
    double riseM = 0;   ///< of a straight piece: how much higher it ends; below 0: lower
    double bendRad = 0; ///< how far a bend turns
    double friction = 0.5;
    bool closed = false;     ///< nobody can lay a hand on the cable there
    std::string pathwayId{}; ///< it is a part of; empty: of none
};

/// Cables pulled together, with what each end of it is good for.
struct PullGroup {
    double weightKgPerM = 0; ///< of all of them together
    double startN = 0;       ///< what it takes before the way begins: boxes or reels that turn
};

/// The pull where a part ends.
struct PullPoint {
    double atM = 0; ///< metres of the way, from where the pull starts
    double tensionN = 0;
};
struct TensionFinding {
    std::vector<PullPoint> points; ///< in the order of the parts
    double endN = 0;               ///< what the puller feels at the far end
    double mostN = 0;              ///< anywhere
    std::size_t mostAfter = 0;     ///< the part at whose end that is
};

/// Pull along a way. Straight: T + μ·w·g times its level length, and w·g times its rise (falling
/// helps, but pulls by itself no less than 0); bend: T·e^(μθ). Bends are counted with the weight
/// they have left aside. g is 9.81 m/s². Source: capstan equation; reference page section 11.
TensionFinding findTension(const std::vector<PullPart>& way, const PullGroup& group);
/// The same way from its other end.
std::vector<PullPart> reversed(std::vector<PullPart> way);

/// The most a group may be pulled with: gripped over all of them 0.8 of what they bear together, by
/// one that one's. `eachN` is what each cable bears, the gripped one first; none bears nothing.
double groupLimitN(const std::vector<double>& eachN, Grip grip);

/// Where a pull is broken: the cable is drawn out there in a loop and fed in again.
struct BreakPoint {
    enum class Why { Length, Bends, Force };
    std::string pathwayId;
    double atM = 0; ///< metres of the way, from where the pull starts
    Why why = Why::Length;
};
/// Where to break a pull: closed ways take no more than `mostStraightM` and two right angles from
/// one place where the cable can be got hold of to the next, and nothing more than
/// `mostShareOfLimit` of the limit. A limit of 0 is not known, and breaks nothing.
std::vector<BreakPoint> breakPoints(const std::vector<PullPart>& way, const PullGroup& group,
                                    double limitN);
inline constexpr double mostStraightM = 30;
inline constexpr double mostTurnDeg = 180;
inline constexpr double mostShareOfLimit = 0.8;
/// The most force with the pull broken there.
double mostWithBreaksN(const std::vector<PullPart>& way, const PullGroup& group,
                       const std::vector<BreakPoint>& breaks);

} // namespace burin
