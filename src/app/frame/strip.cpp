#include "app/frame/strip.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/finding/run_loss.h"
#include "core/finding/site_finding.h"
#include "core/job/ports.h"
#include "core/job/run_length.h"
#include "core/pull/stock.h"
#include "core/units/short_figure.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace burin {
Strip::Strip(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setObjectName(QStringLiteral("strip"));
    setAccessibleName(tr("The run drawn to length"));
    setAccessibleDescription(
        tr("Drag the far end, or Ctrl and an arrow key, to change the length; Enter keeps it"));
    for (auto signal : {&Session::selectionChanged, &Session::previewChanged,
                        &Session::unitsChanged, &Session::jobChanged, &Session::findingsChanged})
        connect(&session, signal, this, qOverload<>(&QWidget::update));
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void Strip::setBelow(Below below) {
    below_ = below;
    update();
}

QSize Strip::sizeHint() const {
    return {600, Theme::instance().px(152)};
}

double Strip::xOf(double metres) const {
    const double left = Theme::instance().px(60);
    return left + metres / totalM_ * (width() - 2 * left);
}

void Strip::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), t.plate);
    p.setPen(QPen(t.rule, 1));
    p.drawLine(0, 0, width(), 0);
    const Run* run = session_.shown();
    const RunFinding* finding = session_.currentFinding();
    if (run == nullptr || finding == nullptr) {
        p.setFont(theme.text());
        p.setPen(t.ink2);
        p.drawText(rect(), Qt::AlignCenter, tr("The selected run is drawn here to length."));
        return;
    }
    nearM_ = cordsAtM(*run, End::Near);
    totalM_ =
        std::max(0.5, dragging_ ? dragScaleM_ : nearM_ + run->lengthM() + cordsAtM(*run, End::Far));
    p.setFont(theme.bold());
    p.setPen(t.ink);
    const double pad = theme.px(16);
    p.drawText(QPointF(pad, theme.px(20)), q(run->label));
    const double after = pad + p.fontMetrics().horizontalAdvance(q(run->label)) + theme.px(16);
    p.setFont(theme.small());
    p.setPen(t.ink2);
    const Cable* cable = session_.catalogue().cable(run->cableId);
    QStringList words;
    if (const auto ends = fromTo(session_.job(), *run); !ends.empty())
        words << q(ends);
    words << figure(formatLength(run->lengthM(), session_.units())) +
                 (session_.previewing() ? tr(" (not kept yet)") : QString());
    words << (cable != nullptr ? q(cable->name) : tr("no cable chosen"));
    const QString force = below_ == Below::Force ? forceWords(*run) : QString();
    if (!force.isEmpty())
        words << force;
    else if (run->neighbours() > 0)
        words << tr("%1 cables share the way").arg(run->neighbours() + 1);
    if (!run->note.empty())
        words << q(run->note);
    p.drawText(QPointF(after, theme.px(20)),
               elided(p, words.join(QStringLiteral(" · ")), width() - after - pad));
    paintLink(p, *run, theme.px(54));
    if (below_ == Below::Force)
        paintMarks(p, *run, theme.px(54));
    else
        paintMatters(p, *run, theme.px(54));
    paintScale(p, theme.px(88));
    if (below_ == Below::RunningLoss)
        paintRunningLoss(p, *finding, theme.px(108), height() - theme.px(8));
    else if (below_ == Below::Force)
        paintForce(p, *run, theme.px(114), height() - theme.px(10));
    else
        paintMeasuredLength(p, *finding, theme.px(128));
}

void Strip::paintLink(QPainter& p, const Run& run, double y) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const double thick = theme.px(10);
    const double nearX = xOf(nearM_);
    farX_ = xOf(nearM_ + run.lengthM());
    p.setPen(QPen(t.ink2, theme.px(4)));
    const auto device = [&](double x) {
        p.setPen(QPen(t.ink, 1));
        p.setBrush(t.plate);
        p.drawRect(QRectF(x - theme.px(7), y - theme.px(9), theme.px(14), theme.px(18)));
    };
    p.setFont(theme.small());
    double written = -1e9; // as far as words stand under the line
    // The first of these that fits between the two, and beside what stands there: no word is cut.
    const auto label = [&](double from, double to, const QStringList& texts) {
        p.setPen(t.ink2);
        for (const QString& text : texts) {
            const double wide = p.fontMetrics().horizontalAdvance(text);
            const double left = (from + to - wide) / 2;
            if (left < written + theme.px(6) || wide > to - from + theme.px(20))
                continue;
            p.drawText(QPointF(left, y + theme.px(21)), text);
            written = left + wide;
            return;
        }
    };
    const auto cord = [&](double from, double to, double metres) {
        if (metres <= 0)
            return;
        p.setPen(QPen(t.ink2, theme.px(4), Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(from, y), QPointF(to, y));
        device(from < to ? from : to);
    };
    cord(xOf(0), nearX, nearM_);
    const double farM = cordsAtM(run, End::Far);
    if (farM > 0) {
        p.setPen(QPen(t.ink2, theme.px(4), Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(farX_, y), QPointF(xOf(nearM_ + run.lengthM() + farM), y));
        device(xOf(nearM_ + run.lengthM() + farM));
    }
    double at = nearM_;
    for (const auto& s : run.stretches) {
        const QRectF box(xOf(at), y - thick / 2, xOf(at + s.lengthM) - xOf(at), thick);
        p.fillRect(box, t.copper);
        if (s.temperatureC > 20.5)
            p.fillRect(box, QBrush(t.plate, Qt::Dense7Pattern));
        p.setPen(QPen(t.plate, 1));
        p.drawLine(box.topRight(), box.bottomRight());
        const QString name = said(stretchName(run, s), session_) + QLatin1Char(' ');
        const QString length = figure(formatLength(s.lengthM, session_.units()));
        QString warmth;
        if (s.temperatureC != 20)
            warmth =
                QStringLiteral(" · ") + figure(formatTemperature(s.temperatureC, session_.units()));
        label(box.left(), box.right(), {name + length + warmth, length + warmth, length});
        at += s.lengthM;
    }
    const auto connector = [&](double x, double offset) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.ink);
        p.drawRect(QRectF(x - theme.px(4) + offset, y - theme.px(11), theme.px(8), theme.px(22)));
    };
    int nearCount = 0;
    int farCount = 0;
    for (const auto& c : run.connections) {
        if (c.end == End::Near)
            connector(nearX, -theme.px(10) * nearCount++);
        else if (c.end == End::Far)
            connector(farX_, theme.px(10) * farCount++);
        else
            connector(xOf(nearM_ + c.atM), 0);
    }
    p.setPen(t.ink2);
    const auto above = [&](double x, const QString& text) {
        const double wide = p.fontMetrics().horizontalAdvance(text);
        const double left = std::clamp(x - wide / 2, 4.0, width() - wide - 4.0);
        p.drawText(QPointF(left, y - theme.px(16)), text);
    };
    if (nearM_ > 0 && below_ != Below::Force)
        above(xOf(0) + theme.px(4),
              tr("cord %1").arg(figure(formatLength(nearM_, session_.units()))));
    if (farM > 0 && below_ != Below::Force)
        above(xOf(totalM_) - theme.px(4),
              tr("cord %1").arg(figure(formatLength(farM, session_.units()))));
    if (hasFocus() || dragging_) {
        p.setPen(QPen(t.copper, 2));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(QPointF(farX_, y), theme.px(15), theme.px(15));
    }
}

/// What the plan finds along this run, over the place where it happens.
void Strip::paintMatters(QPainter& p, const Run& run, double y) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    if (!isLaidByPlan(run) || session_.previewing())
        return; // a typed length does not tell where along it something lies
    std::vector<std::pair<double, const SiteFinding*>> along;
    p.setFont(theme.small());
    for (const auto& f : session_.site()->findings)
        for (const auto& on : f.runs) {
            if (on.runId != run.id || f.matter == SiteMatter::Jacket)
                continue;
            const QColor colour = f.bad ? t.rust : t.ochre;
            const double from = xOf(nearM_ + on.fromM);
            const double to = std::max(from + theme.px(4), xOf(nearM_ + on.toM));
            const QRectF box(from, y - theme.px(15), to - from, theme.px(8));
            p.fillRect(box, hatch(colour));
            p.setPen(QPen(colour, 1));
            p.drawLine(box.bottomLeft(), box.bottomRight());
            along.emplace_back((from + to) / 2, &f);
        }
    std::sort(along.begin(), along.end());
    double written = xOf(0) + theme.px(76); // the cords have their words at both ends
    for (const auto& [middle, f] : along) {
        QString text = said(f->title, session_);
        if (f->matter == SiteMatter::Separation)
            text += tr(", %1 apart").arg(said(asMillimetres(f->haveMm), session_));
        const double wide = p.fontMetrics().horizontalAdvance(text);
        const double left = std::min(middle - wide / 2, width() - wide - theme.px(76));
        if (left < written)
            continue;
        p.setPen(f->bad ? t.rust : t.ochre);
        p.drawText(QPointF(left, y - theme.px(18)), text);
        written = left + wide + theme.px(8);
    }
}

void Strip::paintScale(QPainter& p, double y) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const bool metric = session_.units() == UnitSystem::Metric;
    const double unit = metric ? 1 : metresPerFoot;
    p.setPen(QPen(t.ink2, 1));
    p.drawLine(QPointF(xOf(0), y), QPointF(xOf(totalM_), y));
    p.setFont(theme.small());
    const double step = niceStep(totalM_ / unit);
    constexpr int finest = 3; // places
    for (int i = 0; i * step <= totalM_ / unit + 1e-9; ++i) {
        const double x = xOf(i * step * unit);
        p.drawLine(QPointF(x, y), QPointF(x, y + theme.px(5)));
        p.drawText(QRectF(x - 40, y + theme.px(5), 80, theme.px(17)), Qt::AlignHCenter,
                   figure(shortFigure(i * step, finest)));
    }
    p.drawText(QRectF(width() - theme.px(46), y - theme.px(8), theme.px(40), theme.px(17)),
               Qt::AlignRight, metric ? QStringLiteral("m") : QStringLiteral("ft"));
}

void Strip::paintRunningLoss(QPainter& p, const RunFinding& finding, double top,
                             double bottom) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const RunningLoss loss = runningLoss(finding.steps);
    const double most = loss.lossDb.back();
    p.setFont(theme.small());
    p.setPen(t.ink2);
    p.drawText(QRectF(0, top - theme.px(9), xOf(0) - theme.px(6), theme.px(17)),
               Qt::AlignRight | Qt::AlignVCenter, tr("0 dB"));
    if (most <= 0 || finding.worstMhz <= 0)
        return;
    QPainterPath path;
    for (std::size_t i = 0; i < loss.atM.size(); ++i) {
        const QPointF at(xOf(loss.atM[i]), top + loss.lossDb[i] / most * (bottom - top));
        if (i == 0)
            path.moveTo(at);
        else
            path.lineTo(at);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.copper, 2));
    p.drawPath(path);
    p.setPen(t.ink);
    p.setFont(theme.figures(12));
    const QString text =
        tr("%1 dB predicted at %2")
            .arg(figure(formatFixed(most, 1)), figure(formatMhz(finding.worstMhz)));
    const double wide = p.fontMetrics().horizontalAdvance(text);
    p.drawText(QPointF(xOf(totalM_) - wide - theme.px(4), top + theme.px(14)), text);
}

void Strip::paintMeasuredLength(QPainter& p, const RunFinding& finding, double y) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const auto length = finding.measuredM;
    p.setFont(theme.small());
    if (!length) {
        p.setPen(t.ink2);
        p.drawText(QPointF(xOf(0), y), tr("no length was measured"));
        return;
    }
    const double to = xOf(std::min(*length, totalM_ * 1.02));
    p.setPen(QPen(t.blue, 2));
    p.drawLine(QPointF(xOf(0), y), QPointF(to, y));
    p.drawLine(QPointF(to, y - theme.px(6)), QPointF(to, y + theme.px(6)));
    p.setPen(t.blue);
    const QString text = tr("measured %1").arg(figure(formatLength(*length, session_.units())));
    p.drawText(QPointF(xOf(0) + theme.px(4), y - theme.px(5)), text);
}

void Strip::pull(double fixedM) {
    const Run* run = session_.current();
    if (run == nullptr)
        return;
    if (const auto fixed = fixedByMarks(*run)) {
        dragging_ = false;
        emit session_.message(said(*fixed, session_), true);
    } else
        session_.preview(withLength(*run, std::max(0.0, std::round(fixedM * 10) / 10)));
}

void Strip::keep() {
    dragging_ = false;
    const Run* shown = session_.shown();
    if (!session_.previewing() || shown == nullptr)
        return;
    const double length = shown->lengthM();
    const Run* run = session_.pending().run(session_.currentId());
    if (run == nullptr)
        return;
    const Run after = withLength(session_.toType(*run), length);
    session_.commit({"length of " + run->label, {put(std::optional(*run), std::optional(after))}});
}

void Strip::mousePressEvent(QMouseEvent* event) {
    const bool atEnd = std::abs(event->position().x() - farX_) < Theme::instance().px(14);
    if (event->button() != Qt::LeftButton || session_.current() == nullptr || !atEnd)
        return;
    dragging_ = true;
    dragScaleM_ = std::max(totalM_, 1.0) * 1.15;
    pressX_ = event->position().x();
    pressM_ = session_.current()->lengthM();
    pull(pressM_);
}

void Strip::mouseMoveEvent(QMouseEvent* event) {
    // From where it was taken hold of: the change of scale must not move the length.
    const double perPixel = dragScaleM_ / (width() - 2 * Theme::instance().px(60));
    if (dragging_)
        pull(pressM_ + (event->position().x() - pressX_) * perPixel);
    const bool atEnd = std::abs(event->position().x() - farX_) < Theme::instance().px(14);
    setCursor(atEnd || dragging_ ? Qt::SizeHorCursor : Qt::ArrowCursor);
}

void Strip::mouseReleaseEvent(QMouseEvent*) {
    if (dragging_)
        keep();
}

void Strip::keyPressEvent(QKeyEvent* event) {
    const int direction = event->key() == Qt::Key_Left ? -1 : event->key() == Qt::Key_Right ? 1 : 0;
    const Run* run = session_.shown();
    if (direction != 0 && (event->modifiers() & Qt::ControlModifier) != 0 && run != nullptr) {
        const double step = session_.units() == UnitSystem::Metric ? 0.5 : metresPerFoot;
        pull(run->lengthM() + direction * step);
    } else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        keep();
    } else if (event->key() == Qt::Key_Escape) {
        dragging_ = false;
        session_.dropPreview();
    } else {
        QWidget::keyPressEvent(event);
    }
}

} // namespace burin
