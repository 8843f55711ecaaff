#pragma once
#include "files/plan_drawing.h"
#include "files/taken_paper.h"
#include <QPainterPath>

namespace burin {

/// The strokes a plan is drawn with: lines, plates, handles, the grid, and words that never lie
/// over others.
class PlanPen {
public:
    PlanPen(QPainter& painter, const PlanScale& scale, const PlanStyle& style)
        : p_(painter), s_(scale), t_(style) {}

    /// A plate at the wall, its jacks beside each other: whole pixels filled, since there may be a
    /// thousand.
    void plate(const Place& place, const QColor& inside, const QColor& edge, int line);
    /// What a place takes up on the paper.
    [[nodiscard]] QRectF boxOf(const Place& place) const;
    /// No words go there.
    void keepClear(const QRectF& box) { taken_.take(box); }
    /// Squares of a metre or of 5 ft, or ten times that where they would be too small to see.
    void grid(const QRectF& sheet, const Floor& floor, UnitSystem units);
    [[nodiscard]] QPainterPath line(const std::vector<PlanPoint>& points) const;
    void handles(const std::vector<PlanPoint>& points);
    /// Words where nothing stands yet; where something does, they are left out until one looks
    /// closer, and false comes back.
    bool text(const QPointF& at, const QString& words, const QColor& colour);
    /// The name of a line, above the middle of its longest piece.
    void label(const std::vector<PlanPoint>& points, const QString& words, const QColor& colour);
    /// Width of words in the font set now. The same names are drawn again at every look.
    [[nodiscard]] double widthOf(const QString& words) const;

private:
    QPainter& p_;
    const PlanScale& s_;
    const PlanStyle& t_;
    TakenPaper taken_;
};

} // namespace burin
