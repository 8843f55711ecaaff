#include "app/frame/stage_line.h"
#include "app/look/theme.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace burin {
namespace {

constexpr double cellPx = 142; ///< a stretch of cable and its plug
constexpr double leastCablePx = 22;

} // namespace

StageLine::StageLine(QStringList names, QWidget* parent)
    : QWidget(parent), names_(std::move(names)), done_(names_.size(), 0.0) {
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Stages"));
    setAccessibleDescription(tr("Left and right arrow, or Ctrl and a digit"));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void StageLine::setCurrent(int index) {
    current_ = index;
    setAccessibleDescription(
        tr("%1, %2 per cent done").arg(names_[index]).arg(done_[index] * 100, 0, 'f', 0));
    update();
}

void StageLine::setDone(const QList<double>& shares) {
    done_ = shares;
    update();
}

QSize StageLine::sizeHint() const {
    const auto& theme = Theme::instance();
    return {theme.px(cellPx) * static_cast<int>(names_.size()), theme.px(44)};
}

/// As little cable between the plugs as may be.
QSize StageLine::minimumSizeHint() const {
    const auto& theme = Theme::instance();
    return {static_cast<int>(plugWidth() + theme.px(leastCablePx)) *
                static_cast<int>(names_.size()),
            theme.px(44)};
}

/// Words are longer in one language than in another.
double StageLine::plugWidth() const {
    const auto& theme = Theme::instance();
    double out = theme.px(84);
    for (const auto& name : names_)
        out = std::max(out, QFontMetricsF(theme.bold()).horizontalAdvance(name) + theme.px(12));
    return out;
}

QRectF StageLine::plug(int index) const {
    const auto& theme = Theme::instance();
    const double cell =
        std::min(theme.px(cellPx) * 1.0, width() / static_cast<double>(names_.size()));
    const double w = std::min(plugWidth(), cell - theme.px(leastCablePx));
    return {index * cell + theme.px(leastCablePx - 2), height() / 2.0 - theme.px(14), w,
            theme.px(28) * 1.0};
}

void StageLine::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double y = height() / 2.0;
    for (int i = 0; i < names_.size(); ++i) {
        const QRectF box = plug(i);
        // The stretch of cable that leads to the plug: bare where the work is still to do.
        const double from = i == 0 ? 0 : plug(i - 1).right();
        const double to = box.left();
        p.setPen(QPen(t.rule, theme.px(5), Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(from, y), QPointF(to, y));
        p.setPen(QPen(t.copper, theme.px(5), Qt::SolidLine, Qt::FlatCap));
        if (done_[i] > 0)
            p.drawLine(QPointF(from, y), QPointF(from + (to - from) * done_[i], y));
        // A plug: a body with a boot at its left.
        p.setPen(QPen(i == current_ ? t.copper : t.ink2, i == current_ ? 2 : 1));
        p.setBrush(i == current_ ? t.copperSoft : t.plate);
        p.drawRect(box);
        p.drawRect(QRectF(box.left() - theme.px(6), y - theme.px(8), theme.px(6), theme.px(16)));
        p.setFont(i == current_ ? theme.bold() : theme.text());
        p.setPen(t.ink);
        p.drawText(box, Qt::AlignCenter, names_[i]);
        if (hasFocus() && i == current_) {
            p.setPen(QPen(t.ink, 1, Qt::DotLine));
            p.setBrush(Qt::NoBrush);
            p.drawRect(box.adjusted(3, 3, -3, -3));
        }
    }
}

void StageLine::mousePressEvent(QMouseEvent* event) {
    for (int i = 0; i < names_.size(); ++i)
        if (plug(i).adjusted(-8, -4, 0, 4).contains(event->position()))
            emit chosen(i);
}

void StageLine::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Left ? -1 : event->key() == Qt::Key_Right ? 1 : 0;
    const int next = current_ + step;
    if (step != 0 && next >= 0 && next < names_.size())
        emit chosen(next);
    else
        QWidget::keyPressEvent(event);
}

} // namespace burin
