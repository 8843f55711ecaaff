#pragma once
#include "core/base/working.h"
#include <QWidget>

namespace burin {

/// Opens a figure's working in a small window of its own, beside the work, with a button to copy
/// it. Escape closes it.
void showWorking(QWidget* parent, const Working& working);
/// The same window for any longer text.
void showText(QWidget* parent, const QString& title, const QString& text);

} // namespace burin
