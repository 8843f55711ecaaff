#include "app/terminate/pins_view.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include <QPainter>

namespace burin {
namespace {

/// Wires as they look, by the last word of their name.
QColor wireColour(const QString& wire) {
    const QString name = wire.section(QLatin1Char('-'), -1);
    return name == QStringLiteral("blue")     ? QColor(0x2f, 0x5d, 0x8c)
           : name == QStringLiteral("orange") ? QColor(0xcc, 0x6a, 0x1e)
           : name == QStringLiteral("green")  ? QColor(0x2b, 0x7a, 0x48)
           : name == QStringLiteral("brown")  ? QColor(0x6b, 0x42, 0x26)
                                              : QColor(0x80, 0x80, 0x80);
}

} // namespace

PinsView::PinsView(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("pins"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void PinsView::showPins(Wiring wiring) {
    rows_ = pinsOf(wiring);
    QStringList texts;
    for (const auto& row : rows_)
        texts << (row.wire.empty() ? q(row.pin) : tr("%1 %2").arg(q(row.pin), term(row.wire)));
    updateGeometry();
    setAccessibleName(tr("Pins from the left: %1").arg(texts.join(QStringLiteral(", "))));
    update();
}

QSize PinsView::sizeHint() const {
    // Two lines of words where one of them is wider than its pin.
    const QFontMetricsF metrics(Theme::instance().small());
    const bool two = std::any_of(rows_.begin(), rows_.end(), [&](const PinRow& row) {
        return !row.wire.empty() &&
               metrics.horizontalAdvance(term(row.wire)) > cell() - Theme::instance().px(4);
    });
    return {Theme::instance().px(320), Theme::instance().px(two ? 74 : 60)};
}

double PinsView::cell() const {
    return rows_.empty() ? 0
                         : std::min(Theme::instance().px(86) * 1.0,
                                    width() / static_cast<double>(rows_.size()));
}

void PinsView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    updateGeometry();
}

void PinsView::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    QPainter p(this);
    if (rows_.empty())
        return;
    const double cell = this->cell();
    // Where it was given less than it asks for, the colours are lower: the names stay whole.
    const double low = std::clamp(sizeHint().height() - height() * 1.0, 0.0, theme.px(12) * 1.0);
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const PinRow& row = rows_[i];
        const QRectF box(cell * static_cast<double>(i), 0, cell - theme.px(4), theme.px(18) - low);
        p.setPen(QPen(t.ink, 1));
        p.setBrush(Qt::NoBrush);
        const QString wire = q(row.wire);
        if (!wire.isEmpty()) {
            const bool striped = wire.startsWith(QStringLiteral("white-"));
            p.fillRect(box, striped ? QColor(Qt::white) : wireColour(wire));
            if (striped)
                for (double x = box.left(); x < box.right(); x += theme.px(12))
                    p.fillRect(QRectF(x, box.top(), std::min(theme.px(5) * 1.0, box.right() - x),
                                      box.height()),
                               wireColour(wire));
        }
        p.drawRect(box);
        p.setFont(theme.bold());
        p.setPen(t.ink);
        p.drawText(QRectF(box.left(), theme.px(20) - low, box.width(), theme.px(20)),
                   Qt::AlignCenter, q(row.pin));
        p.setFont(theme.small());
        // "white-orange" parts at its hyphen.
        p.drawText(QRectF(box.left(), theme.px(38) - low, box.width(), theme.px(34)),
                   Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
                   wire.isEmpty() ? wire : term(row.wire));
    }
}

} // namespace burin
