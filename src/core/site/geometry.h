#pragma once
#include "core/plan/plan.h"
#include <span>

namespace burin {

/// Straight distance, m.
double distanceM(const PlanPoint& a, const PlanPoint& b);
/// |Δx| + |Δy|, m: the way along walls.
double squareDistanceM(const PlanPoint& a, const PlanPoint& b);
/// The point `share` of the way from a to b.
PlanPoint between(const PlanPoint& a, const PlanPoint& b, double share);
/// Where on the segment a…b the point nearest to `p` lies, as a share of it, 0 to 1.
double nearestShare(const PlanPoint& p, const PlanPoint& a, const PlanPoint& b);
/// Shares of both segments where they cross or touch; none when they do not, or lie in one line.
struct Crossing {
    double shareA = 0, shareB = 0;
};
std::optional<Crossing> crossingOf(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c,
                                   const PlanPoint& d);
/// Least angle between two segments, degrees, 0 to 90.
double angleDeg(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c, const PlanPoint& d);
/// Length of a polyline, m.
double lengthOfM(std::span<const PlanPoint> points);
/// The point `atM` along it, kept within its ends.
PlanPoint pointAt(std::span<const PlanPoint> points, double atM);
/// Metres along a polyline to the point of it nearest to `p`; `awayM` is told how far that is.
double nearestAlongM(std::span<const PlanPoint> points, const PlanPoint& p, double* awayM);
/// Whether a closed outline holds the point; fewer than three corners hold nothing.
bool contains(std::span<const PlanPoint> outline, const PlanPoint& p);
/// Square metres of a closed outline.
double areaM2(std::span<const PlanPoint> outline);
PlanPoint middleOf(std::span<const PlanPoint> points);

/// Least distance between the segments a…b at height `ab` and c…d at height `cd`, m.
double segmentDistanceM(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c,
                        const PlanPoint& d, double heightDifferenceM);
/// The part of segment a…b that lies nearer than `withinM` to segment c…d, in shares of a…b; none
/// when nothing does. It is one part, since distance to a straight piece has a single least value.
struct NearPart {
    double fromShare = 0, toShare = 0, leastM = 0, leastShare = 0;
};
std::optional<NearPart> nearPart(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c,
                                 const PlanPoint& d, double heightDifferenceM, double withinM);

} // namespace burin
