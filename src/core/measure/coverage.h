#pragma once
#include "core/measure/trace.h"

namespace burin {

/// How close together measured points must lie, so that no reflection or resonance hides between
/// two of them.
struct PointSpacing {
    CableKind kind = CableKind::Balanced;
    double runM = 0; ///< coax: its length, for the ripple a reflection at its far end makes; 0:
                     ///< unknown
    double nvp = 0;  ///< velocity as a share of c0; 0: unknown
};

/// Widest step in MHz at `frequencyMhz` within a band of `bandMhz` in all.
/// Balanced: the steps IEC 61935-1 asks of field testers: 0.15 MHz to 31.25, 0.25 to 100, 0.5 to
/// 250, 1 beyond. Coax, for which no standard of the field states any: 4 MHz, half a television
/// channel, so that none lies between two points, and a tenth of a narrow band; for return loss
/// besides no more than v/(4ℓ), two points to each ripple that the far end of ℓ metres makes.
double widestStepMhz(const PointSpacing& spacing, Parameter parameter, double frequencyMhz,
                     double bandMhz);

/// What a trace leaves out of a band, to stand behind its name: "below 50 MHz", "above
/// 100 MHz", "at points close enough (…)". Empty: it covers the band to a step at either end, at
/// steps no wider than asked (5 % are granted to rounding). A band of one frequency asks for one
/// point in it.
Sentence coverageGap(const Trace& trace, double fromMhz, double toMhz, const PointSpacing& spacing);

} // namespace burin
