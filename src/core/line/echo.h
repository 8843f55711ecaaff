#pragma once
#include "core/fault.h"
#include "core/line/line.h"
#include "core/measure/sweep.h"
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// What is known of the line an echo was measured on.
struct EchoOptions {
    double velocityMPerS = 2e8;
    /// The cable, where known: its loss and spreading are undone. Where not, one skin-loss term is
    /// fitted to the strongest echo.
    std::optional<Line> line;
    double velocityError = 0.01; ///< share by which the velocity may be off
    int mostPeaks = 12;
};

/// One reflection. Distances are along the line from the instrument.
struct EchoPeak {
    double distanceM = 0;
    double plusMinusM = 0; ///< two standard deviations of the fit and the velocity's own error
    double reflection = 0; ///< at its place, the line's loss undone: +1 open, −1 short
};

/// What comes back over distance. The vectors are of one length; the distance of a point is half
/// the way the signal went.
struct EchoTrace {
    double rangeM = 0;      ///< v/(2Δf): beyond it echoes fold back
    double resolutionM = 0; ///< v/(2·f_max): two faults closer than this look like one
    std::vector<double> distanceM;
    std::vector<double> impulse;      ///< 1 at an open end of a lossless line
    std::vector<double> step;         ///< reflection seen by an edge
    std::vector<double> impedanceOhm; ///< Zref·(1 + ρ)/(1 − ρ)
    std::vector<EchoPeak> peaks;      ///< by distance
    std::vector<std::string> notes;
};

/// Echo trace of the reflection at port `port` (from 0). Trace: extended to direct current by
/// the echoes found, Kaiser window β 6, inverse Fourier transform, running
/// sum. Peaks: echoes Γ·e^(−2γd) fitted to the sweep by least squares, taken in one after another
/// while the Bayesian information criterion gains. Needs 16 or more equally spaced frequencies (to
/// 1 % of a step); refused otherwise. Echoes beyond the range cannot be told from nearer ones.
/// Source: reference page, section 4; Kaiser window: Oppenheim and Schafer, 7.5.3.
Outcome<EchoTrace> echoOf(const NetworkSweep& sweep, int port, const EchoOptions& options);

} // namespace burin
