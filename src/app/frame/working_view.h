#pragma once
#include "app/frame/said.h"
#include "core/base/working.h"
#include <QWidget>
#include <functional>

namespace burin {

/// Opens a figure's working in a small window of its own, beside the work, with a button to copy
/// it. Escape closes it.
void showWorking(const Session& session, QWidget* parent, const Working& working);
/// The same window for any longer text; `keep` does what its word says, for one that can be kept
/// elsewhere as well.
void showText(QWidget* parent, const QString& title, const QString& text,
              const QString& keepWord = {}, const std::function<void()>& keep = {});

} // namespace burin
