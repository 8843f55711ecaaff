#include "files/plan_pen.h"
#include <QHash>
#include <algorithm>
#include <cmath>

namespace burin {

void PlanPen::plate(const Place& place, const QColor& inside, const QColor& edge, int line) {
    const QRect box = boxOf(place).toAlignedRect();
    p_.fillRect(box, edge);
    const QRect inner = box.adjusted(line, line, -line, -line);
    p_.fillRect(inner, inside);
    const int jacks = std::clamp(place.ports, 1, 6);
    for (int i = 1; i < jacks; ++i)
        p_.fillRect(QRect(inner.left() + inner.width() * i / jacks, inner.top(), std::max(1, line),
                          inner.height()),
                    edge);
}

double PlanPen::widthOf(const QString& words) const {
    thread_local QHash<std::pair<QString, int>, double> known;
    if (known.size() > 20000)
        known.clear();
    double& out = known[{words, p_.font().pixelSize()}];
    if (out == 0 && !words.isEmpty())
        out = p_.fontMetrics().horizontalAdvance(words);
    return out;
}

QRectF PlanPen::boxOf(const Place& place) const {
    const double u = t_.unitPx;
    const QPointF at = s_.px(place.at);
    QSizeF size(12 * u, 12 * u); // a device
    if (isHeadEnd(place.kind)) {
        // As large as a rack is, as long as it can be seen.
        const double w = std::clamp(0.8 * s_.pxPerM, 9 * u, 40 * u);
        size = {w, w * 1.2};
    } else if (place.kind == PlaceKind::Outlet) {
        size = QSizeF(4.0 * std::clamp(place.ports, 2, 6) + 2, 10) * u;
    }
    return {at - QPointF(size.width(), size.height()) / 2, size};
}

void PlanPen::grid(const QRectF& sheet, const Floor& floor, UnitSystem units) {
    double step = units == UnitSystem::Metric ? 1 : 5 * metresPerFoot;
    while (step * s_.pxPerM < 9)
        step *= 10;
    QColor thin = t_.rule;
    thin.setAlphaF(0.45F);
    p_.setPen(QPen(thin, 1));
    p_.setRenderHint(QPainter::Antialiasing, false); // hundreds of level and upright lines
    for (double x = 0; x <= floor.widthM; x += step)
        if (const double at = s_.px({x, 0}).x(); at >= sheet.left() && at <= sheet.right())
            p_.drawLine(QPointF(at, sheet.top()), QPointF(at, sheet.bottom()));
    for (double y = 0; y <= floor.depthM; y += step)
        if (const double at = s_.px({0, y}).y(); at >= sheet.top() && at <= sheet.bottom())
            p_.drawLine(QPointF(sheet.left(), at), QPointF(sheet.right(), at));
    p_.setRenderHint(QPainter::Antialiasing);
}

QPainterPath PlanPen::line(const std::vector<PlanPoint>& points) const {
    QPainterPath out(s_.px(points.front()));
    for (std::size_t i = 1; i < points.size(); ++i)
        out.lineTo(s_.px(points[i]));
    return out;
}

void PlanPen::handles(const std::vector<PlanPoint>& points) {
    const double u = t_.unitPx;
    p_.setPen(QPen(t_.copper, u));
    p_.setBrush(t_.plate);
    for (const auto& p : points)
        p_.drawRect(QRectF(s_.px(p) - QPointF(4, 4) * u, QSizeF(8, 8) * u));
}

bool PlanPen::text(const QPointF& at, const QString& words, const QColor& colour) {
    const double wide = widthOf(words);
    const QRectF box =
        p_.transform().mapRect(QRectF(at.x(), at.y() - 10 * t_.unitPx, wide, 13 * t_.unitPx));
    if (!taken_.isFree(box))
        return false;
    taken_.take(box);
    p_.setPen(colour);
    p_.drawText(at, words);
    return true;
}

void PlanPen::label(const std::vector<PlanPoint>& points, const QString& words,
                    const QColor& colour) {
    if (words.isEmpty())
        return;
    std::size_t longest = 1;
    for (std::size_t i = 1; i < points.size(); ++i)
        if (distanceM(points[i - 1], points[i]) > distanceM(points[longest - 1], points[longest]))
            longest = i;
    const QPointF a = s_.px(points[longest - 1]);
    const QPointF b = s_.px(points[longest]);
    p_.setFont(t_.small);
    const double wide = widthOf(words);
    if (std::hypot(b.x() - a.x(), b.y() - a.y()) < wide + 12 * t_.unitPx)
        return;
    p_.save();
    p_.translate((a + b) / 2);
    double turn = std::atan2(b.y() - a.y(), b.x() - a.x()) * 180 / M_PI;
    if (turn > 90 || turn <= -90)
        turn += 180;
    p_.rotate(turn);
    text({-wide / 2, -8 * t_.unitPx}, words, colour);
    p_.restore();
}

} // namespace burin
