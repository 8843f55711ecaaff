#pragma once
#include "app/frame/session.h"
#include <QLineEdit>

namespace burin {

/// A field of a sheet: what a thing is, typed over in place. Enter, or leaving it, keeps what was
/// typed; what is refused stays, marked, with the reason in the message line.
class SheetField : public QLineEdit {
    Q_OBJECT
public:
    SheetField(Session& session, const QString& called, const QString& objectName, QWidget* parent);

    enum class Of { TheSame, Another };
    /// Shows what stands there. What is being typed stays, unless it is now of another thing.
    void showText(const QString& text, Of of = Of::TheSame);
    /// Not kept, and why.
    void refuse(const Fault& fault);

signals:
    /// Something else was typed, to be kept or refused.
    void typed(const QString& text);

private:
    Session& session_;
};

} // namespace burin
