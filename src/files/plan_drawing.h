#pragma once
#include "core/finding/site_finding.h"
#include "core/units/units.h"
#include <QColor>
#include <QFont>
#include <QImage>
#include <QPainter>
#include <functional>

namespace burin {

/// How a plan is drawn; the names say what a colour means.
struct PlanStyle {
    QColor plate, rule, ink, ink2, copper, copperSoft, rust, rustSoft, ochre, verdigris;
    QFont small, bold;
    double unitPx = 1; ///< a pixel of the grid of 4
    /// A room's tape: colour and pattern.
    std::function<void(QPainter&, const QRectF&, int)> tape;
};

/// From metres of the floor to the paper.
struct PlanScale {
    double pxPerM = 20;
    QPointF origin; ///< of the floor's corner, on the paper
    [[nodiscard]] QPointF px(const PlanPoint& p) const {
        return {origin.x() + p.xM * pxPerM, origin.y() + p.yM * pxPerM};
    }
    [[nodiscard]] PlanPoint at(const QPointF& p) const {
        return {(p.x() - origin.x()) / pxPerM, (p.y() - origin.y()) / pxPerM};
    }
};
/// The scale at which the whole floor, and all that is drawn on it, fits the box.
PlanScale fitted(const Job& job, const std::string& floorId, const QRectF& box);

struct PlanContent {
    const Job* job = nullptr;
    const SitePlan* plan = nullptr;  ///< may be null: nothing found yet
    std::string floorId, runId;      ///< the run whose way is shown; may be empty
    const RunRoute* route = nullptr; ///< shown in place of the plan's while it is dragged
    QImage picture;
    std::string chosenId; ///< of the thing that is chosen; may be empty
    /// While the chosen thing is dragged, what lies under it is drawn once and kept.
    enum class Part { Whole, AllButChosen, ChosenAndWay } part = Part::Whole;
    UnitSystem units = UnitSystem::Metric;
};

/// Where the mark of a finding stands on its floor.
PlanPoint markOf(const SiteFinding& finding);

/// Draws a floor: paper, picture, rooms, pathways, mains, places, the run's way, and marks where
/// something is found. The same on the screen, in SVG and on paper.
void drawPlan(QPainter& painter, const PlanContent& content, const PlanScale& scale,
              const PlanStyle& style, const QRectF& clip);

} // namespace burin
