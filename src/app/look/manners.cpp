#include "app/look/manners.h"
#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>

namespace burin {

Manners::Manners(QObject* parent) : QObject(parent) {
    qApp->installEventFilter(this);
}

bool Manners::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Polish) {
        if (auto* label = qobject_cast<QLabel*>(watched);
            label != nullptr && label->textFormat() == Qt::AutoText)
            label->setTextFormat(Qt::PlainText);
    } else if (event->type() == QEvent::ShortcutOverride) {
        const auto* field = qobject_cast<QLineEdit*>(watched);
        const auto* key = static_cast<QKeyEvent*>(event);
        if (field != nullptr && ((key->matches(QKeySequence::Undo) && !field->isUndoAvailable()) ||
                                 (key->matches(QKeySequence::Redo) && !field->isRedoAvailable()))) {
            event->ignore();
            return true;
        }
    } else if (event->type() == QEvent::Wheel && qobject_cast<QComboBox*>(watched) != nullptr) {
        // Nobody took it: it goes on to what the choice stands in.
        event->ignore();
        return true;
    }
    return QObject::eventFilter(watched, event);
}

QString asWritten(QString text) {
    return text.replace(QLatin1Char('&'), QStringLiteral("&&"));
}

} // namespace burin
