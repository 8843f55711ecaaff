#pragma once
#include "core/base/fault.h"
#include "core/line/line.h"
#include "core/line/sweep.h"
#include <limits>
#include <span>
#include <variant>
#include <vector>

namespace burin {

/// Resistance, inductance and capacitance in series: a contact, a strand across, a filter's part.
/// Z = R + jωL + 1/(jωC); without C the last term is left out.
struct Branch {
    double ohm = 0;
    double nanohenry = 0;
    std::optional<double> picofarad = std::nullopt;
    bool operator==(const Branch&) const = default;
    [[nodiscard]] Complex impedanceOhm(double frequencyMhz) const;
};

/// What a chain is made of, in the order a signal meets it.
struct LinePart {
    Line line;
    double lengthM = 0;
};
struct SeriesPart {
    Branch branch;
};
struct ShuntPart {
    Branch branch;
};
/// A piece of line hanging on, its far end closed by `endOhm` (infinity: open, 0: short).
struct StubPart {
    Line line;
    double lengthM = 0;
    double endOhm = std::numeric_limits<double>::infinity();
};
/// A matched loss that does not reflect at `impedanceOhm`: a splitter's or a tap's way through, an
/// attenuator, a mated connection that is only lossy.
struct PadPart {
    double impedanceOhm = 50;
    double lossAtDb = 0;      ///< up to 1 GHz
    double perSqrtGhzDb = 0;  ///< a·√(f/1 GHz), on top
    double extraAt2150Db = 0; ///< rising in a line from 1 GHz on, on top
};
/// A matched amplifier: gain forward, `isolationDb` backward. The one part that is not reciprocal.
struct AmplifierPart {
    double impedanceOhm = 75;
    double gainDb = 0;
    double isolationDb = 40;
};
using ChainPart = std::variant<LinePart, SeriesPart, ShuntPart, StubPart, PadPart, AmplifierPart>;

struct Chain {
    double referenceOhm = 50;
    std::vector<ChainPart> parts;
};

/// Loss of a passive split from the common port to one of `ways` outputs, the others terminated:
/// 2/3/4/6/8 ways 3.8 / 6.0 / 7.4 / 9.5 / 11.0 dB to 1 GHz, 1.5 dB more at 2150 MHz. Source:
/// typical of the class, reference page section 3.
Outcome<PadPart> splitterPart(int ways, double impedanceOhm);
/// Loss of a pad at one frequency, dB.
double padLossDb(const PadPart& pad, double frequencyMhz);

/// Refuses what cannot be: a negative length, an impedance or velocity of nought, a velocity above
/// light's, less than no loss. The fault names the part, counted from 1.
Outcome<bool> checkChain(const Chain& chain);

/// A two-port at one frequency: v1 = A·v2 + B·i2, i1 = C·v2 + D·i2. Source: Pozar, 4.4.
struct Abcd {
    Complex a{1}, b{0}, c{0}, d{1};
    /// This one, then `next`.
    [[nodiscard]] Abcd then(const Abcd& next) const;
    /// What is seen into port 1 with `loadOhm` on port 2.
    [[nodiscard]] Complex inputOhm(Complex loadOhm) const;
};
Abcd abcdOf(const ChainPart& part, double frequencyMhz);
Abcd abcdOf(const Chain& chain, double frequencyMhz);

/// S-parameters of the chain against its reference at rising frequencies above 0: a two-port sweep.
/// The chain must have passed checkChain.
NetworkSweep sweepOf(const Chain& chain, std::span<const double> frequencyMhz);
/// Only what comes back into port 1, with `loadOhm` at the far end: a one-port sweep.
NetworkSweep reflectionOf(const Chain& chain, Complex loadOhm,
                          std::span<const double> frequencyMhz);

/// −20·log|S21|, dB.
double insertionLossDb(Complex s21);
/// −20·log|S11|, dB; infinite where nothing comes back.
double returnLossDb(Complex s11);
/// (1 + |Γ|)/(1 − |Γ|); infinite at total reflection.
double standingWaveRatio(Complex reflection);
/// Z = Zref·(1 + Γ)/(1 − Γ).
Complex impedanceOf(Complex reflection, double referenceOhm);
/// −dφ/dω of S21 between neighbouring points, ns; as many values as frequencies less one.
std::vector<double> groupDelayNs(const NetworkSweep& sweep);

/// How a signal fares along the chain at one frequency: behind each part its place and the loss
/// from the start into a matched load there.
struct AlongPoint {
    double atM = 0;
    double lossDb = 0;
};
std::vector<AlongPoint> alongChain(const Chain& chain, double frequencyMhz);

} // namespace burin
