#include "core/site/geometry.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {

double distanceM(const PlanPoint& a, const PlanPoint& b) {
    return std::hypot(b.xM - a.xM, b.yM - a.yM);
}

double squareDistanceM(const PlanPoint& a, const PlanPoint& b) {
    return std::abs(b.xM - a.xM) + std::abs(b.yM - a.yM);
}

PlanPoint between(const PlanPoint& a, const PlanPoint& b, double share) {
    return {a.xM + (b.xM - a.xM) * share, a.yM + (b.yM - a.yM) * share};
}

double nearestShare(const PlanPoint& p, const PlanPoint& a, const PlanPoint& b) {
    const double dx = b.xM - a.xM;
    const double dy = b.yM - a.yM;
    const double square = dx * dx + dy * dy;
    if (square <= 0)
        return 0;
    return std::clamp(((p.xM - a.xM) * dx + (p.yM - a.yM) * dy) / square, 0.0, 1.0);
}

std::optional<Crossing> crossingOf(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c,
                                   const PlanPoint& d) {
    const double rx = b.xM - a.xM;
    const double ry = b.yM - a.yM;
    const double sx = d.xM - c.xM;
    const double sy = d.yM - c.yM;
    const double cross = rx * sy - ry * sx;
    // Nearly in one line: where they cross is not told by their directions.
    if (std::abs(cross) <= 1e-12 * (std::abs(rx) + std::abs(ry)) * (std::abs(sx) + std::abs(sy)))
        return std::nullopt;
    const double t = ((c.xM - a.xM) * sy - (c.yM - a.yM) * sx) / cross;
    const double u = ((c.xM - a.xM) * ry - (c.yM - a.yM) * rx) / cross;
    constexpr double slack = 1e-9;
    if (t < -slack || t > 1 + slack || u < -slack || u > 1 + slack)
        return std::nullopt;
    return Crossing{std::clamp(t, 0.0, 1.0), std::clamp(u, 0.0, 1.0)};
}

double angleDeg(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c, const PlanPoint& d) {
    const double rx = b.xM - a.xM;
    const double ry = b.yM - a.yM;
    const double sx = d.xM - c.xM;
    const double sy = d.yM - c.yM;
    return std::atan2(std::abs(rx * sy - ry * sx), std::abs(rx * sx + ry * sy)) * 180 /
           std::numbers::pi;
}

double lengthOfM(std::span<const PlanPoint> points) {
    double sum = 0;
    for (std::size_t i = 1; i < points.size(); ++i)
        sum += distanceM(points[i - 1], points[i]);
    return sum;
}

PlanPoint pointAt(std::span<const PlanPoint> points, double atM) {
    if (points.empty())
        return {};
    for (std::size_t i = 1; i < points.size(); ++i) {
        const double step = distanceM(points[i - 1], points[i]);
        if (atM <= step)
            return between(points[i - 1], points[i], step > 0 ? std::max(0.0, atM / step) : 0);
        atM -= step;
    }
    return points.back();
}

double nearestAlongM(std::span<const PlanPoint> points, const PlanPoint& p, double* awayM) {
    double best = points.empty() ? 0 : distanceM(p, points.front());
    double at = 0;
    double before = 0;
    for (std::size_t i = 1; i < points.size(); ++i) {
        const double share = nearestShare(p, points[i - 1], points[i]);
        const double away = distanceM(p, between(points[i - 1], points[i], share));
        const double step = distanceM(points[i - 1], points[i]);
        if (away < best) {
            best = away;
            at = before + share * step;
        }
        before += step;
    }
    if (awayM != nullptr)
        *awayM = best;
    return at;
}

bool contains(std::span<const PlanPoint> outline, const PlanPoint& p) {
    bool in = false;
    if (outline.size() < 3)
        return in;
    for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
        const auto& a = outline[i];
        const auto& b = outline[j];
        if ((a.yM > p.yM) != (b.yM > p.yM) &&
            p.xM < (b.xM - a.xM) * (p.yM - a.yM) / (b.yM - a.yM) + a.xM)
            in = !in;
    }
    return in;
}

double areaM2(std::span<const PlanPoint> outline) {
    double sum = 0;
    for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++)
        sum += (outline[j].xM + outline[i].xM) * (outline[j].yM - outline[i].yM);
    return std::abs(sum) / 2;
}

PlanPoint middleOf(std::span<const PlanPoint> points) {
    if (points.empty())
        return {};
    auto [lowX, highX] = std::pair(points.front().xM, points.front().xM);
    auto [lowY, highY] = std::pair(points.front().yM, points.front().yM);
    for (const auto& p : points) {
        lowX = std::min(lowX, p.xM);
        highX = std::max(highX, p.xM);
        lowY = std::min(lowY, p.yM);
        highY = std::max(highY, p.yM);
    }
    return {(lowX + highX) / 2, (lowY + highY) / 2};
}

double segmentDistanceM(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c,
                        const PlanPoint& d, double heightDifferenceM) {
    const auto to = [](const PlanPoint& p, const PlanPoint& from, const PlanPoint& end) {
        return distanceM(p, between(from, end, nearestShare(p, from, end)));
    };
    const double flat = crossingOf(a, b, c, d)
                            ? 0.0
                            : std::min({to(a, c, d), to(b, c, d), to(c, a, b), to(d, a, b)});
    return std::hypot(flat, heightDifferenceM);
}

std::optional<NearPart> nearPart(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c,
                                 const PlanPoint& d, double heightDifferenceM, double withinM) {
    if (segmentDistanceM(a, b, c, d, heightDifferenceM) >= withinM)
        return std::nullopt;
    const auto away = [&](double share) {
        const PlanPoint p = between(a, b, share);
        return std::hypot(distanceM(p, between(c, d, nearestShare(p, c, d))), heightDifferenceM);
    };
    // Distance to a straight piece is convex along a straight line: thirds find its least value,
    // halves the two places where it passes `withinM`. 60 halvings reach the last bit.
    double low = 0;
    double high = 1;
    for (int i = 0; i < 80; ++i) {
        const double third = (high - low) / 3;
        if (away(low + third) <= away(high - third))
            high -= third;
        else
            low += third;
    }
    const double least = (low + high) / 2;
    const auto edge = [&](double inside, double outside) {
        if (away(outside) < withinM)
            return outside;
        for (int i = 0; i < 60; ++i) {
            const double middle = (inside + outside) / 2;
            (away(middle) < withinM ? inside : outside) = middle;
        }
        return inside;
    };
    return NearPart{edge(least, 0), edge(least, 1), away(least), least};
}

} // namespace burin
