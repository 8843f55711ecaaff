#pragma once
#include <QObject>

namespace burin {

/// What every widget of the program keeps to, whoever made it. Names and notes are anybody's text:
/// labels and tool tips show them as they are, never as markup. Ctrl+Z in a field that has nothing
/// of its own to take back is the job's. And the wheel scrolls what a list of choices stands in: it
/// never makes a choice.
class Manners : public QObject {
public:
    explicit Manners(QObject* parent);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
};

/// A text for a button or menu, where a single & would mark a key.
QString asWritten(QString text);

} // namespace burin
