#pragma once
#include "core/connector/end_shape.h"
#include <QColor>
#include <QPainter>

namespace burin {

/// What an end is drawn with, on screen and on paper.
struct EndColours {
    QColor ink, quiet; ///< outlines and words; dimension lines
    QColor copper;     ///< bare metal of a conductor
    QColor dielectric, metal, jacket;
    double hairPx = 1; ///< the thinnest line
    static EndColours onPaper();
};

/// Draws an end as it lies ready for its connector, its cut end at the right: the tip stands at
/// `tip`, a millimetre is `pxPerMm`. Lengths only the part's sheet has are drawn dashed, with a
/// break. Below it a line for each length, one under the other, with its words in the painter's
/// font. Returns how far down that reaches. `words` false: the end alone.
double drawEnd(QPainter& painter, const EndShape& shape, const QPointF& tip, double pxPerMm,
               const EndColours& colours, bool words = true);
/// How wide that is at the left of the tip, and how high without its words, in px.
QSizeF endSize(const EndShape& shape, double pxPerMm);

} // namespace burin
