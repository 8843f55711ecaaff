#include "app/frame/said.h"
#include "app/frame/strip.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"

#include <QPainter>
#include <QPainterPath>
#include <numbers>

namespace burin {
namespace {

/// Corners that one sees on the way: from here up.
constexpr double cornerRad = 40 * std::numbers::pi / 180;

/// How a run lies in its pull, in metres of its fixed cable from the near end.
struct Lying {
    const PullFinding* pull = nullptr;
    const PulledRun* piece = nullptr;
    const Box* box = nullptr; ///< null: none yet, or without marks
    double nearSpareM = 0, wayM = 0, linkM = 0;
    double cutM = 0;
    std::vector<PullPart> way; ///< its own, from the near end
    bool fromFar = false;      ///< the boxes stand at its far end

    /// Where a place so far along the pull from its boxes lies.
    [[nodiscard]] double placeOf(double pullM) const {
        return nearSpareM + (fromFar ? wayM - pullM : pullM);
    }
    /// The mark of its box that lies there.
    [[nodiscard]] int markAtPlace(double placeM) const {
        // What came out of the box first has gone furthest from it.
        const double fromLead = (fromFar ? placeM : linkM - placeM) + cutM / 2;
        return markAt(*box, markAtM(*box, *piece->startMark) + fromLead);
    }
};

std::optional<Lying> lyingOf(const Session& session, const Run& run) {
    const auto findings = session.jobFindings();
    const RunRoute* route = session.site() ? session.site()->route(run.id) : nullptr;
    Lying out;
    out.pull = findings ? findings->pulls.pullOf(run.id) : nullptr;
    if (out.pull == nullptr || route == nullptr || route->fault)
        return std::nullopt;
    out.piece = out.pull->run(run.id);
    out.box = byId(session.job().boxes, out.piece->boxId);
    if (!out.piece->startMark)
        out.box = nullptr;
    out.nearSpareM = route->nearSpareM;
    out.wayM = route->routeM;
    out.linkM = run.lengthM();
    out.cutM = cutOffM(session.job().info, run);
    out.way = pullWay(route->legs, *session.site()->graph, out.pull->lubricated);
    out.fromFar = out.pull->boxesAt == BoxesAt::Far;
    return out;
}

} // namespace

void Strip::paintMarks(QPainter& p, const Run& run, double y) const {
    const auto lying = lyingOf(session_, run);
    if (!lying || lying->box == nullptr || session_.previewing())
        return;
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    std::vector<double> places{0, run.lengthM()};
    double at = lying->nearSpareM;
    for (const auto& part : lying->way) {
        if (part.kind == PullPart::Kind::Bend && part.bendRad > cornerRad && at < run.lengthM())
            places.push_back(at);
        at += part.lengthM;
    }
    const bool pulled = lying->piece->pulledM.has_value();
    const QString unit = q(std::string(markUnitWords[lying->box->markUnit]));
    p.setFont(theme.figures(12));
    std::vector<QRectF> written;
    for (const double place : places) {
        const double x = xOf(nearM_ + place);
        p.setPen(QPen(t.ink, 2));
        p.drawLine(QPointF(x, y - theme.px(9)), QPointF(x, y + theme.px(9)));
        const QString text =
            QStringLiteral("%1 %2").arg(q(markText(lying->markAtPlace(place))), unit);
        const double wide = p.fontMetrics().horizontalAdvance(text);
        const QRectF box(std::clamp(x - wide / 2, 2.0, width() - wide - 2.0), y - theme.px(29),
                         wide, theme.px(17));
        const QRectF around = box.adjusted(-theme.px(8), 0, theme.px(8), 0);
        if (std::any_of(written.begin(), written.end(),
                        [&](const QRectF& other) { return other.intersects(around); }))
            continue;
        written.push_back(box);
        p.setPen(pulled ? t.blue : t.copper);
        p.drawText(box, Qt::AlignCenter, text);
    }
}

void Strip::paintForce(QPainter& p, const Run& run, double top, double bottom) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const auto lying = lyingOf(session_, run);
    p.setFont(theme.small());
    p.setPen(t.ink2);
    const auto say = [&](const QString& text) {
        p.drawText(QPointF(xOf(0), (top + bottom) / 2 + theme.px(5)), text);
    };
    if (!lying)
        return say(tr("its way is not on the plan: no force and no marks along it can be told"));
    if (!lying->pull->nearN)
        return say(tr("no force can be told: a cable of this pull has no weight in the catalogue"));
    p.drawText(QRectF(0, top, xOf(0) - theme.px(6), theme.px(17)),
               Qt::AlignRight | Qt::AlignVCenter, tr("force"));
    const auto chosen = findTension(lying->pull->way, lying->pull->group);
    const auto other = findTension(reversed(lying->pull->way), lying->pull->group);
    const double most = std::max({chosen.mostN, other.mostN, 1.0});
    const double wayM = chosen.points.empty() ? 0 : chosen.points.back().atM;
    const auto yOf = [&](double newton) { return bottom - newton / most * (bottom - top); };
    const auto draw = [&](const TensionFinding& found, bool backwards, const QPen& pen) {
        QPainterPath path;
        const auto point = [&](double atM, double newton) {
            const double along = backwards ? wayM - atM : atM;
            const double place = std::clamp(lying->placeOf(along), 0.0, run.lengthM());
            const QPointF at(xOf(nearM_ + place), yOf(newton));
            path.elementCount() == 0 ? path.moveTo(at) : path.lineTo(at);
        };
        point(0, lying->pull->group.startN);
        for (const auto& one : found.points)
            point(one.atM, one.tensionN);
        p.setBrush(Qt::NoBrush);
        p.setPen(pen);
        p.drawPath(path);
    };
    draw(other, true, QPen(t.ink2, 1, Qt::DashLine));
    draw(chosen, false, QPen(t.copper, 2));
    for (const auto& point : lying->pull->breaks) {
        const double x = xOf(nearM_ + std::clamp(lying->placeOf(point.atM), 0.0, run.lengthM()));
        p.setPen(QPen(t.rust, 2));
        p.drawLine(QPointF(x, top - theme.px(4)), QPointF(x, bottom));
        p.drawText(QPointF(x + theme.px(4), bottom - theme.px(2)), tr("pull point"));
    }
}

/// What the force comes to, in the head of the strip.
QString Strip::forceWords(const Run& run) const {
    const auto lying = lyingOf(session_, run);
    if (!lying || !lying->pull->nearN || !lying->pull->farN)
        return {};
    const auto newton = [&](double force) { return said(asNewton(force), session_); };
    const bool far = lying->fromFar;
    QString out =
        (far ? tr("boxes at the right: %1, else %2") : tr("boxes at the left: %1, else %2"))
            .arg(newton(far ? *lying->pull->farN : *lying->pull->nearN),
                 newton(far ? *lying->pull->nearN : *lying->pull->farN));
    if (lying->pull->limitN)
        out += tr("; limit %1").arg(newton(*lying->pull->limitN));
    return out;
}

} // namespace burin
