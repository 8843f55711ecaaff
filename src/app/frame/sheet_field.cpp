#include "app/frame/sheet_field.h"
#include "app/frame/said.h"
#include "app/look/painters.h"
#include "app/look/theme.h"

namespace burin {

SheetField::SheetField(Session& session, const QString& called, const QString& objectName,
                       QWidget* parent)
    : QLineEdit(parent), session_(session) {
    setObjectName(objectName);
    setAccessibleName(called);
    connect(this, &QLineEdit::editingFinished, this, [this] {
        if (!isModified())
            return;
        setModified(false);
        emit typed(text());
    });
}

void SheetField::showText(const QString& text, Of of) {
    if (of == Of::TheSame && isModified())
        return;
    setText(text);
    setModified(false);
    setStyleSheet({});
    setCursorPosition(0);
}

void SheetField::refuse(const Fault& fault) {
    setModified(true);
    setStyleSheet(
        QStringLiteral("border: 1px solid %1;").arg(Theme::instance().tokens().rust.name()));
    emit session_.message(said(fault, session_), true);
}

} // namespace burin
