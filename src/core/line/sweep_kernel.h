#pragma once
#include "core/line/line.h"
#include <cstddef>
#include <vector>

namespace burin {

/// Complex numbers, real and imaginary parts apart, so that a loop takes several at once.
struct ComplexArray {
    std::vector<double> re, im;
    explicit ComplexArray(std::size_t size, double value = 0) : re(size, value), im(size) {}
};

/// A line's constants over a sweep.
struct LineSweep {
    ComplexArray gamma, impedance, admittance;
    explicit LineSweep(std::size_t size) : gamma(size), impedance(size), admittance(size) {}
};

/// The matrix of a chain over a sweep, v1 = A·v2 + B·i2, i1 = C·v2 + D·i2; begins as nothing at
/// all.
struct MatrixSweep {
    ComplexArray a, b, c, d;
    explicit MatrixSweep(std::size_t size) : a(size, 1), b(size), c(size), d(size, 1) {}
};

/// Compiled apart, with the optimizations that finite numbers allow (src/core/CMakeLists.txt): the
/// loops over frequency that a chain's speed rests on (docs/speed.md). Arrays are of one length.
void fillConstants(const Line& line, const std::vector<double>& frequencyMhz, LineSweep& out);
/// `m`, then `lengthM` of the line. `work` is scratch of the same length.
void appendLine(const LineSweep& line, double lengthM, MatrixSweep& m, MatrixSweep& work);
/// S-parameters against `referenceOhm`, four a frequency: 11, 12, 21, 22. Where not `reciprocal`,
/// S12 comes from AD − BC.
void scattering(const MatrixSweep& m, double referenceOhm, bool reciprocal,
                std::vector<Complex>& out);

} // namespace burin
