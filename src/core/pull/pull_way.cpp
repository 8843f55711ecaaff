#include "core/pull/pull_way.h"
#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace burin {
namespace {

constexpr double leastBendRad = 10 * std::numbers::pi / 180;

struct Corner {
    PlanPoint at;
    double heightM = 0;
};
struct Direction {
    double x = 0, y = 0, up = 0;
};

/// The corners a leg passes, its ends with them.
std::vector<Corner> cornersOf(const RouteLeg& leg, const Pathway* way) {
    std::vector<Corner> out{{leg.from, leg.fromHeightM}};
    if (leg.kind == RouteLeg::Kind::Open) {
        // Along one wall, then along the other.
        const PlanPoint corner{leg.to.xM, leg.from.yM};
        out.push_back({corner, leg.fromHeightM});
    } else if (way != nullptr && way->points.size() > 2) {
        const auto [low, high] = std::minmax(leg.fromAtM, leg.toAtM);
        std::vector<Corner> between;
        double at = 0;
        for (std::size_t i = 1; i + 1 < way->points.size(); ++i) {
            at += distanceM(way->points[i - 1], way->points[i]);
            if (at > low && at < high)
                between.push_back({way->points[i], leg.fromHeightM});
        }
        if (leg.fromAtM > leg.toAtM)
            std::reverse(between.begin(), between.end());
        out.insert(out.end(), between.begin(), between.end());
    }
    out.push_back({leg.to, leg.toHeightM});
    return out;
}

double angleBetween(const Direction& a, const Direction& b) {
    return std::acos(std::clamp(a.x * b.x + a.y * b.y + a.up * b.up, -1.0, 1.0));
}

class WayMaker {
public:
    WayMaker(const PullFriction& friction, bool lubricated)
        : friction_(friction), closed_(lubricated ? friction.lubricated : friction.dry) {}
    void piece(const Corner& from, const Corner& to, const RouteLeg& leg, const Pathway* way) {
        const double x = to.at.xM - from.at.xM;
        const double y = to.at.yM - from.at.yM;
        const double up = to.heightM - from.heightM;
        const double length = std::sqrt(x * x + y * y + up * up);
        if (length < 1e-6)
            return;
        PullPart part;
        part.lengthM = length;
        part.riseM = up;
        part.closed = way != nullptr && isClosed(way->kind);
        part.friction = part.closed                         ? closed_
                        : leg.kind == RouteLeg::Kind::Along ? friction_.rollers
                        : leg.kind == RouteLeg::Kind::Drop  ? friction_.rollers
                                                            : friction_.dry;
        part.pathwayId = way != nullptr ? way->id : std::string();
        const Direction now{x / length, y / length, up / length};
        if (!out.empty()) {
            const double turned = angleBetween(last_, now);
            PullPart& before = out.back();
            if (turned > leastBendRad)
                bend(part, turned);
            else if (before.pathwayId == part.pathwayId && before.friction == part.friction) {
                before.lengthM += part.lengthM;
                before.riseM += part.riseM;
                last_ = now;
                return;
            }
        }
        out.push_back(part);
        last_ = now;
    }
    std::vector<PullPart> out;

private:
    void bend(const PullPart& next, double turned) {
        const PullPart& before = out.back();
        PullPart part;
        part.kind = PullPart::Kind::Bend;
        part.bendRad = turned;
        // Where it goes into a conduit or comes out of it somebody stands.
        part.closed = before.closed && next.closed;
        part.friction = part.closed ? closed_ : std::min(before.friction, next.friction);
        part.pathwayId = next.pathwayId.empty() ? before.pathwayId : next.pathwayId;
        out.push_back(part);
    }
    PullFriction friction_;
    double closed_;
    Direction last_;
};

} // namespace

std::vector<PullPart> pullWay(const std::vector<RouteLeg>& legs, const WayGraph& graph,
                              bool lubricated, const PullFriction& friction) {
    WayMaker maker(friction, lubricated);
    for (const auto& leg : legs) {
        const Pathway* way = pathwayOf(leg, graph);
        const auto corners = cornersOf(leg, way);
        for (std::size_t i = 1; i < corners.size(); ++i)
            maker.piece(corners[i - 1], corners[i], leg, way);
    }
    return std::move(maker.out);
}

std::size_t cutConduits(const std::vector<RouteLeg>& legs, const WayGraph& graph) {
    std::set<std::string> seen;
    for (const auto& leg : legs)
        if (const Pathway* way = pathwayOf(leg, graph); way != nullptr && isClosed(way->kind))
            seen.insert(way->id);
    return seen.size();
}

bool wantsLubricant(double closedM, double turnedRad) {
    constexpr double mostTurn = (mostTurnDeg + 1) * std::numbers::pi / 180;
    return closedM > mostStraightM || turnedRad > mostTurn;
}

} // namespace burin
