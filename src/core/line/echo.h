#pragma once
#include "core/base/fault.h"
#include "core/base/sentence.h"
#include "core/line/line.h"
#include "core/line/sweep.h"
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
    /// Without the cable: the impedance it has, so that the instrument's port does not show; 0: the
    /// instrument's own.
    double impedanceOhm = 0;
    double runM = 0; ///< how long the line is known to be; 0: not known
    /// Share by which the velocity may be off: from cable to cable of a class about 3 %; 0.5 %
    /// where it was told from a length read off the jacket's marks.
    double velocityError = 0.03;
    int mostPeaks = 12;
};

/// One reflection. Distances are along the line from the instrument.
struct EchoPeak {
    double distanceM = 0;
    double plusMinusM = 0;  ///< two standard deviations of the fit and the velocity's own error
    double ofVelocityM = 0; ///< how much of that the velocity is to blame for
    double reflection = 0;  ///< at its place, the line's loss undone: +1 open, −1 short
    bool repeat =
        false; ///< where two nearer ones send it to and fro once more: no place of its own
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
    std::vector<Sentence> notes;
};

/// Echo trace of the reflection at port `port` (from 0). Trace: extended to direct current by
/// the echoes found, Kaiser window β 6, inverse Fourier transform, running
/// sum. Peaks: echoes Γ·e^(−2γd) fitted to the sweep by least squares, taken in one after another
/// while the Bayesian information criterion gains. Needs 16 or more equally spaced frequencies (to
/// 1 % of a step); refused otherwise. Echoes beyond the range fold back onto nearer places: where
/// the line is known to be longer than the range it is refused, with the step that would do.
/// Nothing is reported beyond the line's known end, nor an echo larger than a passive line can
/// send. Source: reference page, section 4; Kaiser window: Oppenheim and Schafer, 7.5.3.
Outcome<EchoTrace> echoOf(const NetworkSweep& sweep, int port, const EchoOptions& options);

} // namespace burin
