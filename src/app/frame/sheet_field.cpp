#include "app/frame/sheet_field.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"

namespace burin {

QString asTyped(const burin::Field& field, const Json& value, UnitSystem units, const TypedAs& as) {
    const std::string text = typedText(field, value, units, as);
    return value.is_number() ? figure(text) : q(text);
}

SheetField::SheetField(Session& session, const QString& called, const QString& objectName,
                       QWidget* parent)
    : QLineEdit(parent), session_(session) {
    setObjectName(objectName);
    setAccessibleName(called);
    connect(this, &QLineEdit::editingFinished, this, [this] {
        if (!isModified())
            return;
        setModified(false);
        if (saysTheSame())
            return setStyleSheet({});
        emit typed(text());
    });
}

void SheetField::showText(const QString& text, Of of) {
    kept_ = text;
    if (of == Of::TheSame && isModified())
        return;
    setText(text);
    setModified(false);
    setStyleSheet({});
    setCursorPosition(0);
}

void SheetField::keepWidth(int px, Width width) {
    const auto size = [this, px, width] {
        const int least = Theme::instance().px(px);
        setMinimumWidth(least);
        setMaximumWidth(width == Width::Exact ? least : QWIDGETSIZE_MAX);
    };
    connect(&Theme::instance(), &Theme::changed, this, size);
    size();
}

void SheetField::refuse(const Fault& fault) {
    setModified(true);
    setStyleSheet(
        QStringLiteral("border: 1px solid %1;").arg(Theme::instance().tokens().rust.name()));
    emit session_.message(said(fault, session_), true);
}

} // namespace burin
