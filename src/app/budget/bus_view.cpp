#include "app/budget/bus_view.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/units/units.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

constexpr double rowHeight = 22, waveHeight = 150;

} // namespace

BusView::BusView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("busView"));
    setAccessibleName(tr("Waveform and volts along the bus"));
    setFocusPolicy(Qt::StrongFocus);
    connect(&session, &Session::unitsChanged, this, [this] { update(); });
}

QSize BusView::sizeHint() const {
    return {420, minimumSizeHint().height() + Theme::instance().px(60)};
}

QSize BusView::minimumSizeHint() const {
    const auto& theme = Theme::instance();
    const double rows = chain_ ? static_cast<double>(chain_->devices.size()) + 1 : 1;
    return {360, theme.px(waveHeight + rowHeight * rows + 4)};
}

void BusView::setFinding(const BusChain* chain, std::shared_ptr<const BusChainFinding> finding) {
    const bool fits = chain != nullptr && finding != nullptr && finding->fits(*chain);
    if (!fits) {
        chain_.reset();
        finding_.reset();
    } else {
        chain_ = *chain;
        finding_ = std::move(finding);
        chosen_ = static_cast<int>(chain->deviceAt(session_.currentId()).value_or(0));
    }
    updateGeometry();
    update();
}

void BusView::choose(int device) {
    if (!chain_ || device < 0 || device >= static_cast<int>(chain_->devices.size()))
        return;
    chosen_ = device;
    const auto& one = chain_->devices[static_cast<std::size_t>(device)];
    if (!one.runId.empty() && one.runId != session_.currentId())
        session_.select(one.runId, {});
    chosen_ = device;
    setAccessibleDescription(q(one.name));
    update();
    emit deviceChosen();
}

double BusView::tableTop() const {
    const auto& theme = Theme::instance();
    return height() - theme.px(rowHeight) * (static_cast<double>(chain_->devices.size()) + 1) -
           theme.px(2);
}

/// Until the slowest has settled, with room to see that it has.
double BusView::windowNs() const {
    double settled = 5 * finding_->bus.riseNs;
    for (const auto& point : finding_->wave.points)
        settled = std::max(settled, point.settleNs);
    return std::min(1.6 * settled, finding_->wave.timeNs.back());
}

void BusView::paintWaves(QPainter& p) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const QRectF plot(theme.px(44), theme.px(20), width() - theme.px(56),
                      tableTop() - theme.px(50));
    const double endNs = windowNs();
    double most = 1;
    for (const auto& point : finding_->wave.points)
        most = std::max(most, 1.15 * (point.finalV + point.overshootV));
    const auto x = [&](double ns) { return plot.left() + plot.width() * ns / endNs; };
    const auto y = [&](double volt) {
        return plot.bottom() - plot.height() * (volt + most) / (2 * most);
    };
    const double threshold = finding_->bus.thresholdV;
    // Between the thresholds a receiver decides nothing.
    p.fillRect(QRectF(QPointF(plot.left(), y(threshold)), QPointF(plot.right(), y(-threshold))),
               hatch(t.rust));
    p.setFont(theme.small());
    for (const double volt : {-most, 0.0, most}) {
        const double shown = std::round(volt * 10) / 10;
        p.setPen(QPen(t.rule, 1));
        p.drawLine(QPointF(plot.left(), y(shown)), QPointF(plot.right(), y(shown)));
        p.setPen(t.ink2);
        p.drawText(QRectF(0, y(shown) - theme.px(8), plot.left() - theme.px(6), theme.px(16)),
                   Qt::AlignRight | Qt::AlignVCenter,
                   tr("%1 V").arg(figure(formatFixed(shown, 1))));
    }
    const auto draw = [&](std::size_t device) {
        const auto& wave = finding_->wave.waves[device].volt;
        QPolygonF line;
        const double step = finding_->wave.timeNs[1] - finding_->wave.timeNs[0];
        const auto count = std::min(wave.size(), static_cast<std::size_t>(endNs / step) + 1);
        const std::size_t stride = std::max<std::size_t>(1, count / 800);
        for (std::size_t i = 0; i < count; i += stride)
            line << QPointF(x(finding_->wave.timeNs[i]), y(wave[i]));
        p.drawPolyline(line);
    };
    p.setPen(QPen(t.ink2, 1));
    for (std::size_t i = 0; i < finding_->wave.waves.size(); ++i)
        if (static_cast<int>(i) != chosen_)
            draw(i);
    p.setPen(QPen(t.copper, 2));
    draw(static_cast<std::size_t>(chosen_));
    p.setPen(t.copper);
    p.drawText(QPointF(plot.left(), theme.px(13)),
               tr("one edge at %1, by the line model")
                   .arg(q(finding_->wave.points[static_cast<std::size_t>(chosen_)].name)));
    p.setPen(t.ink2);
    const double bitNs = 1e6 / finding_->bus.bitRateKbit;
    p.drawText(QRectF(plot.left(), plot.bottom() + theme.px(4), plot.width(), theme.px(18)),
               Qt::AlignLeft, tr("0 ns"));
    p.drawText(QRectF(plot.left(), plot.bottom() + theme.px(4), plot.width(), theme.px(18)),
               Qt::AlignRight,
               tr("%1 ns; a bit is %2 µs")
                   .arg(figure(formatFixed(endNs, 0)), figure(formatFixed(bitNs / 1000, 1))));
    p.setPen(t.rust);
    p.drawText(
        QRectF(plot.left(), plot.bottom() - theme.px(20), plot.width() - theme.px(4), theme.px(16)),
        Qt::AlignRight,
        tr("hatched: under ±%1 V no receiver decides").arg(figure(formatFixed(threshold, 1))));
}

void BusView::paintRows(QPainter& p) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const double w = width();
    // Names take what they need, the figures share the rest.
    const auto nameOf = [&](std::size_t i) {
        const auto ohm = chain_->devices[i].terminatorOhm;
        return q(finding_->wave.points[i].name) +
               (ohm ? tr(", %1 Ω").arg(figure(formatFixed(*ohm, 0))) : QString());
    };
    double names = w * 0.32;
    for (std::size_t i = 0; i < chain_->devices.size(); ++i)
        names = std::max(names,
                         QFontMetricsF(theme.bold()).horizontalAdvance(nameOf(i)) + theme.px(10));
    names = std::min(names, w * 0.5);
    const double other = (w - names - theme.px(44)) / 4;
    const double columns[] = {0, names, names + other, names + 2 * other, names + 3 * other};
    const double height = theme.px(rowHeight);
    double top = tableTop();
    const auto cell = [&](int column, const QString& text) {
        const double right = column < 4 ? columns[column + 1] : w - theme.px(44);
        p.drawText(QRectF(columns[column], top, right - columns[column] - theme.px(6), height),
                   Qt::AlignVCenter | (column == 0 ? Qt::AlignLeft : Qt::AlignRight), text);
    };
    p.setFont(theme.small());
    p.setPen(t.ink2);
    const QStringList heads{tr("device"), tr("at"), tr("settles at"), tr("within"), tr("supply")};
    for (int i = 0; i < heads.size(); ++i)
        cell(i, heads[i]);
    top += height;
    for (std::size_t i = 0; i < chain_->devices.size(); ++i) {
        const auto& point = finding_->wave.points[i];
        const bool good = finding_->reasons[i].empty();
        if (static_cast<int>(i) == chosen_)
            p.fillRect(QRectF(0, top, w, height), t.copperSoft);
        p.setPen(QPen(t.rule, 1));
        p.drawLine(QPointF(0, top), QPointF(w, top));
        p.setFont(static_cast<int>(i) == chosen_ ? theme.bold() : theme.text());
        p.setPen(t.ink);
        cell(0, elided(p, nameOf(i), columns[1] - theme.px(6)));
        p.setFont(theme.figures(12));
        p.setPen(good ? t.ink : t.rust);
        cell(1, figure(formatLength(point.atM, session_.units())));
        cell(2, tr("%1 V").arg(figure(formatFixed(point.finalV, 2))));
        cell(3, tr("%1 ns").arg(figure(formatFixed(point.settleNs, 0))));
        cell(4, finding_->supply[i]
                    ? tr("%1 V").arg(figure(formatFixed(finding_->supply[i]->volt, 1)))
                : i == 0 && chain_->supplyV > 0
                    ? tr("%1 V").arg(figure(formatFixed(chain_->supplyV, 1)))
                    : tr("its own"));
        drawOutlook(p, QRectF(w - theme.px(38), top + theme.px(4), theme.px(32), theme.px(14)),
                    good ? Outlook::Holds : Outlook::Fails);
        top += height;
    }
}

void BusView::paintEvent(QPaintEvent*) {
    if (!chain_ || !finding_ || finding_->wave.timeNs.size() < 2)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintWaves(p);
    paintRows(p);
    if (hasFocus()) {
        p.setPen(QPen(Theme::instance().tokens().ink, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        const double row = Theme::instance().px(rowHeight);
        p.drawRect(QRectF(0.5, tableTop() + row * (chosen_ + 1) + 0.5, width() - 1, row - 1));
    }
}

void BusView::mousePressEvent(QMouseEvent* event) {
    if (!chain_)
        return;
    const double row = Theme::instance().px(rowHeight);
    choose(static_cast<int>(std::floor((event->position().y() - tableTop()) / row)) - 1);
}

void BusView::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (step == 0 || !chain_) {
        QWidget::keyPressEvent(event);
        return;
    }
    choose(chosen_ + step);
}

} // namespace burin
