#pragma once
#include <QScreen>
#include <optional>

namespace burin {

/// How many of a screen's pixels, as widgets count them, make a millimetre. Measured once against a
/// bank card (ISO/IEC 7810 ID-1, 85.60 × 53.98 mm) and kept by screen in the user's settings.
namespace screen_scale {

inline constexpr double cardWidthMm = 85.60, cardHeightMm = 53.98;

/// As measured; none: nobody has yet.
std::optional<double> measuredPxPerMm(const QScreen& screen);
/// As measured, or as the screen says of itself: often wrong, so nothing is held against that.
double pxPerMm(const QScreen& screen);
/// Kept; refused (false) where it is no screen's: under 1 or over 40.
bool keep(const QScreen& screen, double pxPerMm);
void forget(const QScreen& screen);

} // namespace screen_scale
} // namespace burin
