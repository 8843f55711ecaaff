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
    double hairPx = 1;   ///< the thinnest line
    QColor wrong, right; ///< what must not be, and what must
    static EndColours onPaper();
};

/// From one line of a length to the next, in heights of the font.
inline constexpr double dimensionPitch = 1.05;

/// Draws an end as it lies ready for its connector, its cut end at the right: the tip stands at
/// `tip`, a millimetre is `pxPerMm`. Lengths only the part's sheet has are drawn dashed, with a
/// break. Below it a line for each length, one under the other, with its words in the painter's
/// font; above it, at an end of coax, what must not be seen: a strand across, a nick in the centre.
/// Returns how far down that reaches. `words` false: the end alone.
double drawEnd(QPainter& painter, const EndShape& shape, const QPointF& tip, double pxPerMm,
               const EndColours& colours, bool words = true);
/// How high the words above it are, in px.
double flawsHigh(const QPainter& painter, const EndShape& shape);
/// The end with its connector on, in section, from `left`, the middle of its left edge. The centre
/// stands out to scale, over the band it may end in; the connector is dashed, its own size is the
/// part's. With its words below, in the painter's font.
void drawSection(QPainter& painter, const EndSection& section, const QPointF& left, double pxPerMm,
                 const EndColours& colours);
inline constexpr double sectionMm = 20;       ///< how wide it is without its words
inline constexpr double sectionAcrossMm = 11; ///< and how high
inline constexpr int sectionLines = 3;        ///< of its words, under it
/// How wide that is at that scale with its words in that font, in px.
double sectionWide(const QFontMetricsF& font, const EndSection& section, double pxPerMm);
/// "centre bare: 6.4 mm · 0.25 in".
QString wordsOf(const ShapeDimension& dimension);
/// How wide that is at the left of the tip, and how high without its words, in px.
QSizeF endSize(const EndShape& shape, double pxPerMm);

} // namespace burin
