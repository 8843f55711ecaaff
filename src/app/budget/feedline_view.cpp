#include "app/budget/feedline_view.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/units/units.h"
#include <QPainter>
#include <QPainterPath>

namespace burin {

FeedlineView::FeedlineView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAccessibleName(tr("Power and standing wave along the feedline"));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    for (auto signal : {&Session::selectionChanged, &Session::previewChanged,
                        &Session::unitsChanged, &Session::jobChanged})
        connect(&session, signal, this, [this] { take(); });
}

QSize FeedlineView::sizeHint() const {
    return {400, Theme::instance().px(80)};
}

void FeedlineView::take() {
    question_.reset();
    const Run* run = session_.shown();
    if (run != nullptr)
        question_ = feedlineOf(*run, session_.catalogue());
    if (question_) {
        if (const auto finding = findFeedline(*question_, session_.catalogue())) {
            finding_ = *finding;
            along_ = alongFeedline(*question_, finding_, 60);
            changes_ = feedlineChanges(*question_, session_.catalogue());
        } else {
            question_.reset();
        }
    }
    setAccessibleDescription(sentences().join(QLatin1Char(' ')));
    update();
}

QStringList FeedlineView::sentences() const {
    if (!question_)
        return {};
    QStringList out;
    out << tr("%1 of %2 W reach the aerial: %3 dB at %4")
               .arg(figure(formatFixed(finding_.powerAtAerialW, 1)),
                    figure(formatFixed(question_->powerW, 1)),
                    figure(formatFixed(finding_.lossDb, 2)),
                    figure(formatMhz(question_->frequencyMhz)));
    out << tr("SWR %1 at the aerial, %2 at the radio; up to %3 V peak")
               .arg(figure(formatFixed(question_->loadRatio, 2)),
                    figure(formatFixed(finding_.radioRatio, 2)),
                    figure(formatFixed(finding_.peakV, 0)));
    if (!changes_.empty())
        out << tr("%1: %2 dB less, %3 % more power")
                   .arg(q(changes_.front().what), figure(formatFixed(changes_.front().savedDb, 2)),
                        figure(formatFixed(100 * changes_.front().morePowerShare, 0)));
    out << tr("Live aerials burn: keep clear while sending.");
    return out;
}

Working FeedlineView::working() const {
    return question_ ? feedlineWorking(*question_, finding_, session_.catalogue()) : Working{};
}

void FeedlineView::paintEvent(QPaintEvent*) {
    if (!question_ || along_.size() < 2)
        return;
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(theme.small());
    const double lineHeight = theme.px(18);
    const QStringList said = sentences();
    double textWidth = 0;
    for (const auto& sentence : said)
        textWidth = std::max(textWidth, p.fontMetrics().horizontalAdvance(sentence) * 1.0);
    textWidth = std::min(textWidth, width() * 0.6);
    const QRectF plot(theme.px(44), theme.px(6), width() - textWidth - theme.px(132),
                      height() - theme.px(26));
    const double endM = along_.back().atM;
    const auto x = [&](double metres) { return plot.left() + plot.width() * metres / endM; };
    const auto y = [&](double share) { return plot.bottom() - plot.height() * share; };
    // Power passing, filled like what is planned; what is lost stays plate.
    QPainterPath power(QPointF(x(0), plot.bottom()));
    for (const auto& point : along_)
        power.lineTo(x(point.atM), y(point.powerW / question_->powerW));
    power.lineTo(plot.right(), plot.bottom());
    p.fillPath(power, t.copperSoft);
    QPolygonF edge;
    QPolygonF wave;
    double top = 1.5;
    for (const auto& point : along_)
        top = std::max(top, point.ratio * 1.1);
    for (const auto& point : along_) {
        edge << QPointF(x(point.atM), y(point.powerW / question_->powerW));
        wave << QPointF(x(point.atM), y((point.ratio - 1) / (top - 1)));
    }
    p.setPen(QPen(t.copper, 2));
    p.drawPolyline(edge);
    p.setPen(QPen(t.ink, 1.4, Qt::DashLine));
    p.drawPolyline(wave);
    p.setPen(QPen(t.rule, 1));
    p.drawLine(plot.bottomLeft(), plot.bottomRight());
    p.setPen(t.ink2);
    const auto under = [&](double at, const QString& text, Qt::Alignment align) {
        const double wide = theme.px(160);
        const double left = align == Qt::AlignLeft ? at : at - wide;
        p.drawText(QRectF(left, plot.bottom() + theme.px(3), wide, lineHeight), align, text);
    };
    under(plot.left(), tr("radio"), Qt::AlignLeft);
    under(plot.right(), tr("aerial"), Qt::AlignRight);
    const auto beside = [&](double value, const QString& text, bool left) {
        const double wide = theme.px(left ? 40 : 66);
        p.drawText(QRectF(left ? plot.left() - wide - theme.px(4) : plot.right() + theme.px(4),
                          y(value) - lineHeight / 2, wide, lineHeight),
                   Qt::AlignVCenter | (left ? Qt::AlignRight : Qt::AlignLeft), text);
    };
    p.setFont(theme.figures(12));
    p.setPen(t.copper);
    beside(0.93, tr("%1 W").arg(figure(formatFixed(question_->powerW, 0))), true);
    p.setPen(t.ink);
    beside((along_.back().ratio - 1) / (top - 1),
           tr("SWR %1").arg(figure(formatFixed(along_.back().ratio, 1))), false);
    p.setFont(theme.small());
    double line = theme.px(2);
    for (qsizetype i = 0; i < said.size(); ++i) {
        p.setPen(i + 1 == said.size() ? t.ochre : i == 0 ? t.ink : t.ink2);
        QRectF taken;
        p.drawText(QRectF(width() - textWidth, line, textWidth, height() - line),
                   Qt::AlignTop | Qt::TextWordWrap, said[i], &taken);
        line += std::max(taken.height() + theme.px(3), lineHeight);
    }
}

} // namespace burin
