#include "app/look/choice.h"
#include <QHelpEvent>
#include <QToolTip>

namespace burin {
namespace {

constexpr int leastLetters = 5;
constexpr int air = 4; // px, around what must be there

} // namespace

Choice::Choice(QWidget* parent) : QComboBox(parent) {
    setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    setMinimumContentsLength(leastLetters);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(this, &QComboBox::currentTextChanged, this, [this] { updateGeometry(); });
}

int Choice::needed() const {
    const int frame = minimumSizeHint().width() -
                      leastLetters * fontMetrics().horizontalAdvance(QLatin1Char('X'));
    return fontMetrics().horizontalAdvance(currentText()) + frame + air;
}

QSize Choice::sizeHint() const {
    const QSize least = minimumSizeHint();
    return {std::max(least.width(), needed()), least.height()};
}

bool Choice::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip || width() >= needed() - air)
        return QComboBox::event(event);
    QString text = currentText();
    if (!toolTip().isEmpty())
        text += QLatin1Char('\n') + toolTip();
    QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), text, this);
    return true;
}

} // namespace burin
