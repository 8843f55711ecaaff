#include "core/pull/tension.h"
#include <algorithm>
#include <cmath>
#include <numbers>
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

namespace {

/// Walks a way and breaks it where it must be. From a break on the cable is fed by hand.
class Breaker {
public:
    Breaker(const PullGroup& group, double limitN)
        : weight_(group.weightKgPerM), most_(limitN * mostShareOfLimit), tension_(group.startN) {}
    std::vector<BreakPoint> walk(const std::vector<PullPart>& way) {
        for (const auto& part : way) {
            if (!part.closed) {
                straight_ = 0;
                turned_ = 0;
            }
            if (part.kind == PullPart::Kind::Bend)
                bend(part);
            else
                straight(part);
        }
        return std::move(out_);
    }

private:
    [[nodiscard]] bool tooMuch(double tensionN) const { return most_ > 0 && tensionN > most_; }
    void breakAt(const PullPart& part, BreakPoint::Why why) {
        // Twice at one place is once.
        if (out_.empty() || at_ > out_.back().atM + 1e-9)
            out_.push_back({part.pathwayId, at_, why});
        tension_ = 0;
        straight_ = 0;
        turned_ = 0;
    }
    void bend(const PullPart& part) {
        if (part.closed && turned_ + part.bendRad > mostTurn)
            breakAt(part, BreakPoint::Why::Bends);
        if (tooMuch(beyond(part, tension_, weight_)))
            breakAt(part, BreakPoint::Why::Force);
        tension_ = beyond(part, tension_, weight_);
        turned_ += part.bendRad;
    }
    void straight(const PullPart& part) {
        double done = 0;
        while (done < part.lengthM - 1e-9) {
            PullPart rest = part;
            const double share = (part.lengthM - done) / part.lengthM;
            rest.lengthM *= share;
            rest.riseM *= share;
            double take = rest.lengthM;
            auto why = BreakPoint::Why::Length;
            bool breaks = false;
            if (part.closed && straight_ + take > mostStraightM + 1e-9) {
                take = mostStraightM - straight_;
                breaks = true;
            }
            const double slope = (beyond(rest, tension_, weight_) - tension_) / rest.lengthM;
            if (slope > 0 && tooMuch(tension_ + slope * take)) {
                // A way so hard that no length of it would do is not broken for ever.
                const double may = (most_ - tension_) / slope;
                if (may > leastPieceM || tension_ > 0) {
                    take = std::min(take, std::max(may, 0.0));
                    why = BreakPoint::Why::Force;
                    breaks = true;
                }
            }
            at_ += take;
            done += take;
            tension_ = std::max(0.0, tension_ + slope * take);
            straight_ += take;
            if (breaks && done < part.lengthM - 1e-9)
                breakAt(part, why);
        }
    }

    static constexpr double mostTurn = (mostTurnDeg + 1) * std::numbers::pi / 180;
    static constexpr double leastPieceM = 1;
    double weight_, most_, tension_;
    double at_ = 0, straight_ = 0, turned_ = 0;
    std::vector<BreakPoint> out_;
};

} // namespace

std::vector<BreakPoint> breakPoints(const std::vector<PullPart>& way, const PullGroup& group,
                                    double limitN) {
    return Breaker(group, limitN).walk(way);
}

double mostWithBreaksN(const std::vector<PullPart>& way, const PullGroup& group,
                       const std::vector<BreakPoint>& breaks) {
    double most = 0;
    double tension = group.startN;
    double at = 0;
    auto next = breaks.begin();
    const auto pass = [&](const PullPart& part) {
        tension = beyond(part, tension, group.weightKgPerM);
        most = std::max(most, tension);
        at += part.lengthM;
    };
    const auto breakHere = [&] {
        while (next != breaks.end() && next->atM <= at + 1e-9) {
            tension = 0;
            ++next;
        }
    };
    for (PullPart part : way) {
        breakHere();
        while (next != breaks.end() && part.lengthM > 0 && next->atM < at + part.lengthM - 1e-9) {
            PullPart first = part;
            const double share = (next->atM - at) / part.lengthM;
            first.lengthM *= share;
            first.riseM *= share;
            part.lengthM -= first.lengthM;
            part.riseM -= first.riseM;
            pass(first);
            breakHere();
        }
        pass(part);
    }
    return most;
}

} // namespace burin
