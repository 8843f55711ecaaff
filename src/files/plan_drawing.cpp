#include "files/plan_drawing.h"
#include "core/base/lookup.h"
#include "files/plan_pen.h"
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <set>

namespace burin {
namespace {

class Drawing {
public:
    Drawing(QPainter& painter, const PlanContent& content, const PlanScale& scale,
            const PlanStyle& style)
        : p_(painter), c_(content), job_(*content.job), s_(scale), t_(style),
          pen_(painter, scale, style) {}

    void paper(const Floor& floor, const QRectF& clip) {
        const QRectF sheet(s_.px({0, 0}), s_.px({floor.widthM, floor.depthM}));
        p_.fillRect(sheet, t_.plate);
        if (floor.picture && !c_.picture.isNull()) {
            const auto& pic = *floor.picture;
            const QPointF corner = s_.px(pic.at);
            p_.drawImage(
                QRectF(corner, QSizeF(pic.widthPx, pic.heightPx) * pic.metresPerPixel * s_.pxPerM),
                c_.picture);
        } else {
            pen_.grid(sheet & clip, floor, c_.units);
        }
        p_.setPen(QPen(t_.rule, 1));
        p_.setBrush(Qt::NoBrush);
        p_.drawRect(sheet);
    }

    void rooms() {
        for (const auto& room : job_.rooms) {
            if (room.floorId != c_.floorId || room.outline.size() < 3 || left(room.id))
                continue;
            QPolygonF outline;
            for (const auto& p : room.outline)
                outline << s_.px(p);
            const bool chosen = room.id == c_.chosenId;
            p_.setBrush(Qt::NoBrush);
            p_.setPen(QPen(chosen ? t_.copper : t_.ink, t_.unitPx * (chosen ? 3 : 2)));
            p_.drawPolygon(outline);
            if (chosen)
                pen_.handles(room.outline);
        }
    }
    void roomNames() {
        for (const auto& room : job_.rooms) {
            if (room.floorId != c_.floorId || room.outline.size() < 3 || left(room.id))
                continue;
            QPolygonF outline;
            for (const auto& p : room.outline)
                outline << s_.px(p);
            const QRectF box = outline.boundingRect();
            const double u = t_.unitPx;
            if (t_.tape)
                t_.tape(p_, QRectF(box.left() + 8 * u, box.top() + 8 * u, 6 * u, 15 * u),
                        room.tape);
            p_.setFont(t_.small);
            const QString full = QString::fromStdString(room.name);
            const QPointF at(box.left() + 20 * u, box.top() + 19 * u);
            if (pen_.widthOf(full) > box.width() - 28 * u || !pen_.text(at, full, t_.ink))
                pen_.text(at, QString::fromStdString(room.letters), t_.ink);
        }
    }

    void surfaces() {
        for (const auto& surface : job_.surfaces) {
            if (surface.floorId != c_.floorId || surface.points.size() < 2 || left(surface.id))
                continue;
            const bool chosen = surface.id == c_.chosenId;
            const QPainterPath path = pen_.line(surface.points);
            p_.setBrush(Qt::NoBrush);
            // A fire barrier is drawn as two lines with a third between, a wall that will close as
            // two.
            p_.setPen(
                QPen(chosen ? t_.copper : t_.ink2, 6 * t_.unitPx, Qt::SolidLine, Qt::FlatCap));
            p_.drawPath(path);
            p_.setPen(QPen(t_.plate, 4 * t_.unitPx, Qt::SolidLine, Qt::FlatCap));
            p_.drawPath(path);
            if (surface.fireMinutes > 0) {
                p_.setPen(QPen(t_.rust, 1.5 * t_.unitPx, Qt::DashLine, Qt::FlatCap));
                p_.drawPath(path);
            }
            if (chosen)
                pen_.handles(surface.points);
            pen_.label(
                surface.points,
                QString::fromStdString(surface.name) +
                    (surface.fireMinutes > 0 ? QStringLiteral(" · %1 min").arg(surface.fireMinutes)
                                             : QString()) +
                    (surface.closesOn.empty()
                         ? QString()
                         : QStringLiteral(" · closes ") + QString::fromStdString(surface.closesOn)),
                t_.ink2);
        }
    }

    void pathways() {
        for (const auto& way : job_.pathways) {
            if (left(way.id))
                continue;
            if (way.kind == PathwayKind::Shaft) {
                if (way.floorId == c_.floorId || way.toFloorId == c_.floorId ||
                    (c_.plan != nullptr && c_.plan->graph &&
                     c_.plan->graph->passes(way, c_.floorId)))
                    shaft(way);
                continue;
            }
            if (way.floorId == c_.floorId)
                pathway(way);
        }
    }

    void mains() {
        for (const auto& m : job_.mains) {
            if (m.floorId != c_.floorId || left(m.id))
                continue;
            const bool chosen = m.id == c_.chosenId;
            const double u = t_.unitPx;
            p_.setPen(QPen(t_.rust, u * (chosen ? 2.5 : 1)));
            if (m.points.size() == 1) {
                const QPointF at = s_.px(m.points.front());
                const double r = std::max(7 * u, 0.2 * s_.pxPerM);
                p_.setBrush(QBrush(t_.rust, Qt::BDiagPattern));
                p_.drawEllipse(at, r, r);
                p_.setFont(t_.small);
                pen_.text(at + QPointF(r + 4 * u, -6 * u), QString::fromStdString(m.name), t_.rust);
                continue;
            }
            QPainterPathStroker stroker;
            stroker.setWidth(8 * u);
            stroker.setCapStyle(Qt::FlatCap);
            const QPainterPath path = pen_.line(m.points);
            p_.setBrush(QBrush(t_.rust, Qt::BDiagPattern));
            p_.setPen(Qt::NoPen);
            p_.drawPath(stroker.createStroke(path));
            p_.setBrush(Qt::NoBrush);
            if (chosen || m.enclosed) {
                p_.setPen(QPen(t_.rust, chosen ? 2 * u : u));
                p_.drawPath(stroker.createStroke(path));
            }
            if (chosen)
                pen_.handles(m.points);
            pen_.label(m.points, QString::fromStdString(m.name), t_.rust);
        }
    }

    void way() {
        const RunRoute* route = c_.route != nullptr                       ? c_.route
                                : c_.plan != nullptr && !c_.runId.empty() ? c_.plan->route(c_.runId)
                                                                          : nullptr;
        if (route == nullptr)
            return;
        QPainterPath path;
        for (const auto& leg : route->legs) {
            if (leg.floorId != c_.floorId || leg.kind == RouteLeg::Kind::Drop)
                continue;
            for (const auto& piece : pointsOf(leg)) {
                const QPointF at = s_.px(piece);
                if (path.elementCount() == 0)
                    path.moveTo(at);
                else
                    path.lineTo(at);
            }
        }
        p_.setBrush(Qt::NoBrush);
        p_.setPen(QPen(t_.plate, 5 * t_.unitPx, Qt::SolidLine, Qt::FlatCap));
        p_.drawPath(path);
        p_.setPen(QPen(t_.ink, 2.5 * t_.unitPx, Qt::CustomDashLine, Qt::FlatCap));
        QPen pen = p_.pen();
        pen.setDashPattern({3, 2});
        p_.setPen(pen);
        p_.drawPath(path);
        if (const Run* run = job_.run(c_.runId))
            for (const auto& via : run->vias)
                if (via.floorId == c_.floorId) {
                    p_.setPen(QPen(t_.ink, 1.5 * t_.unitPx));
                    p_.setBrush(t_.plate);
                    p_.drawEllipse(s_.px(via.at), 5 * t_.unitPx, 5 * t_.unitPx);
                }
    }

    void places() {
        std::set<std::string_view> ends;
        if (const Run* run = job_.run(c_.runId))
            ends = {run->near.placeId, run->far.placeId};
        const double u = t_.unitPx;
        for (const auto& place : job_.places) {
            // The run's ends stand on its way.
            const bool lit = c_.part != PlanContent::Part::AllButChosen && ends.contains(place.id);
            if (place.floorId != c_.floorId || (left(place.id) && !lit))
                continue;
            const QPointF at = s_.px(place.at);
            const bool chosen = place.id == c_.chosenId;
            p_.setPen(QPen(chosen ? t_.copper : t_.ink, u * (chosen ? 3 : 1.5)));
            if (isHeadEnd(place.kind)) {
                const QRectF box = pen_.boxOf(place);
                p_.setBrush(lit ? t_.copper : t_.ink);
                p_.drawRect(box);
                p_.setFont(t_.small);
                pen_.text(QPointF(box.right() + 3 * u, at.y() + 4 * u),
                          QString::fromStdString(place.name), t_.ink);
                continue;
            }
            p_.setBrush(lit ? t_.copper : t_.plate);
            if (place.kind == PlaceKind::Device) {
                p_.drawEllipse(at, 6 * u, 6 * u);
            } else {
                pen_.plate(place, lit ? t_.copper : t_.plate, chosen ? t_.copper : t_.ink,
                           static_cast<int>(std::lround(u * (chosen ? 3 : 1))));
            }
        }
    }

    void findings() {
        if (c_.plan == nullptr)
            return;
        const double u = t_.unitPx;
        for (const auto& f : c_.plan->findings) {
            if (f.floorId != c_.floorId || f.matter == SiteMatter::Jacket)
                continue;
            const QColor colour = f.bad ? t_.rust : t_.ochre;
            const QPointF at = s_.px(markOf(f));
            p_.setBrush(Qt::NoBrush);
            if (f.lengthM > 0) {
                p_.setPen(QPen(colour, 2 * u));
                for (const auto& end : {f.from, f.to})
                    p_.drawLine(s_.px(end) - QPointF(0, 9 * u), s_.px(end) + QPointF(0, 9 * u));
            }
            p_.setPen(QPen(colour, 2 * u));
            p_.drawEllipse(at, 9 * u, 9 * u);
        }
    }

    void photographs() {
        const double u = t_.unitPx;
        for (const auto& photograph : job_.photographs)
            if (photograph.floorId == c_.floorId && photograph.at && !left(photograph.id)) {
                const QPointF at = s_.px(*photograph.at);
                const bool chosen = photograph.id == c_.chosenId;
                p_.setPen(QPen(chosen ? t_.copper : t_.ink, u * (chosen ? 3 : 1.5)));
                p_.setBrush(t_.plate);
                p_.drawRect(QRectF(at - QPointF(7, 5) * u, QSizeF(14, 10) * u));
                p_.drawEllipse(at, 3 * u, 3 * u);
            }
    }

    /// Words keep clear of what stands on the floor, whatever is drawn first.
    void keepClear() {
        for (const auto& place : job_.places)
            if (place.floorId == c_.floorId)
                pen_.keepClear(pen_.boxOf(place));
    }

private:
    /// Whether a thing is left to the other part of the drawing.
    [[nodiscard]] bool left(const std::string& id) const {
        return c_.part == PlanContent::Part::AllButChosen   ? id == c_.chosenId
               : c_.part == PlanContent::Part::ChosenAndWay ? id != c_.chosenId
                                                            : false;
    }
    void pathway(const Pathway& way) {
        const double u = t_.unitPx;
        const QPainterPath path = pen_.line(way.points);
        const bool chosen = way.id == c_.chosenId;
        p_.setBrush(Qt::NoBrush);
        const double thick =
            way.kind == PathwayKind::Tray || way.kind == PathwayKind::Plenum ? 12 : 8;
        if (!isClosed(way.kind)) {
            p_.setPen(QPen(t_.copperSoft, thick * u, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
            p_.drawPath(path);
        }
        Qt::PenStyle style = Qt::SolidLine;
        if (way.kind == PathwayKind::Hooks || way.kind == PathwayKind::Plenum)
            style = Qt::DotLine;
        else if (way.kind == PathwayKind::BelowGround)
            style = Qt::DashDotLine;
        else if (way.kind == PathwayKind::Outdoors)
            style = Qt::DashLine;
        p_.setPen(QPen(t_.copper, u * (chosen ? 3 : 1.5), style, Qt::FlatCap));
        p_.drawPath(path);
        if (isClosed(way.kind) && way.kind != PathwayKind::BelowGround) {
            // A tube: two lines.
            p_.setPen(QPen(t_.copper, 6 * u, Qt::SolidLine, Qt::FlatCap));
            p_.drawPath(path);
            p_.setPen(QPen(t_.plate, 3.5 * u, Qt::SolidLine, Qt::FlatCap));
            p_.drawPath(path);
        }
        if (chosen)
            pen_.handles(way.points);
        pen_.label(way.points, QString::fromStdString(way.name), t_.copper);
    }

    void shaft(const Pathway& way) {
        const double u = t_.unitPx;
        const QPointF at = s_.px(way.points.front());
        const QRectF box(at - QPointF(9, 9) * u, QSizeF(18, 18) * u);
        p_.setPen(QPen(t_.copper, u * (way.id == c_.chosenId ? 3 : 1.5)));
        p_.setBrush(t_.copperSoft);
        p_.drawRect(box);
        p_.drawLine(box.topLeft(), box.bottomRight());
        p_.drawLine(box.topRight(), box.bottomLeft());
        p_.setFont(t_.small);
        pen_.text(box.bottomRight() + QPointF(4 * u, 0), QString::fromStdString(way.name),
                  t_.copper);
    }

    /// A leg as drawn: along its pathway, or square through the open.
    std::vector<PlanPoint> pointsOf(const RouteLeg& leg) const {
        if (leg.kind == RouteLeg::Kind::Open)
            return {leg.from, {leg.to.xM, leg.from.yM}, leg.to};
        const Pathway* way = byId(job_.pathways, leg.pathwayId);
        if (way == nullptr || way->kind == PathwayKind::Shaft)
            return {leg.from, leg.to};
        std::vector<PlanPoint> out{leg.from};
        double at = 0;
        std::vector<PlanPoint> corners;
        const auto [low, high] = std::minmax(leg.fromAtM, leg.toAtM);
        for (std::size_t i = 1; i + 1 < way->points.size(); ++i) {
            at += distanceM(way->points[i - 1], way->points[i]);
            if (at > low && at < high)
                corners.push_back(way->points[i]);
        }
        if (leg.toAtM < leg.fromAtM)
            std::reverse(corners.begin(), corners.end());
        out.insert(out.end(), corners.begin(), corners.end());
        out.push_back(leg.to);
        return out;
    }

    QPainter& p_;
    const PlanContent& c_;
    const Job& job_;
    const PlanScale& s_;
    const PlanStyle& t_;
    PlanPen pen_;
};

} // namespace

void drawPlan(QPainter& painter, const PlanContent& content, const PlanScale& scale,
              const PlanStyle& style, const QRectF& clip) {
    const Floor* floor = byId(content.job->floors, content.floorId);
    if (floor == nullptr)
        return;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    Drawing drawing(painter, content, scale, style);
    const bool top = content.part == PlanContent::Part::ChosenAndWay;
    if (!top)
        drawing.paper(*floor, clip);
    drawing.keepClear();
    drawing.rooms();
    drawing.roomNames();
    drawing.surfaces();
    drawing.pathways();
    drawing.mains();
    if (content.part != PlanContent::Part::AllButChosen)
        drawing.way();
    drawing.places();
    if (!top)
        drawing.findings();
    drawing.photographs();
    painter.restore();
}

} // namespace burin
