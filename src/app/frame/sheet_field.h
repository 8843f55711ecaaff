#pragma once
#include "app/frame/session.h"
#include "core/edit/typed_field.h"
#include <QLineEdit>

namespace burin {

/// A value as it stands in its field: `typedText`, figures as the language on screen writes them.
QString asTyped(const burin::Field& field, const Json& value, UnitSystem units,
                const TypedAs& as = {});

/// A field of a sheet: what a thing is, typed over in place. Enter, or leaving it, keeps what was
/// typed; what is refused stays, marked, with the reason in the message line.
class SheetField : public QLineEdit {
    Q_OBJECT
public:
    SheetField(Session& session, const QString& called, const QString& objectName, QWidget* parent);

    enum class Of { TheSame, Another };
    /// Shows what stands there. What is being typed stays, unless it is now of another thing.
    void showText(const QString& text, Of of = Of::TheSame);
    /// What was typed is what stood there: a letter typed and taken back changes nothing.
    [[nodiscard]] bool saysTheSame() const { return text() == kept_; }
    enum class Width { Exact, AtLeast };
    /// `px` in the face of the program's own size; in a larger one as much wider.
    void keepWidth(int px, Width width);
    /// Not kept, and why.
    void refuse(const Fault& fault);

signals:
    /// Something else was typed, to be kept or refused.
    void typed(const QString& text);

private:
    Session& session_;
    QString kept_;
};

} // namespace burin
