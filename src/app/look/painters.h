#pragma once
#include "core/finding/run_finding.h"
#include "files/qt_text.h"
#include <QPainter>

namespace burin {

/// The colour a state's drawing repeats.
QColor stateColour(State state);

/// Two ends and what lies between: a bar (pass), a thread (marginal; on the bad side frayed),
/// broken (fail), dotted (untested).
void drawState(QPainter& painter, const QRectF& box, State state);
/// The same language for what is predicted: open ends, never to be taken for a proven pass.
void drawOutlook(QPainter& painter, const QRectF& box, Outlook outlook);

/// Copper to the predicted share of the limit, a blue tick for the measured one, the limit's mark
/// at four fifths of the width.
void drawShareBar(QPainter& painter, const QRectF& box, double predicted, double measured);

/// The tape of a room: colour and pattern, clear of the colours that mean something.
void drawTape(QPainter& painter, const QRectF& box, int tape);

/// Hatched, not filled: where a value must not lie.
QBrush hatch(const QColor& colour);

/// 1, 2 or 5 times a power of ten, so that about ten marks stand on a scale of that range.
double niceStep(double range);

/// `text` cut with an ellipsis to the width.
QString elided(const QPainter& painter, const QString& text, double width);

} // namespace burin
