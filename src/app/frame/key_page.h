#pragma once
#include <QList>
#include <QString>

class QWidget;

namespace burin {

/// A key, or several that belong together, and what it does.
struct KeyHelp {
    QString keys, does;
};

/// One page (F1): what the pictures mean, the keys of a stage and of the window, and what program
/// this is.
void showKeyPage(QWidget* parent, const QString& stage, const QList<KeyHelp>& ofStage,
                 const QList<KeyHelp>& ofWindow);

} // namespace burin
