#pragma once
#include "core/base/fault.h"
#include "core/base/sentence.h"
#include "core/catalogue/limit.h"
#include <complex>
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// S-parameters of an n-port over frequency. `s` holds ports² values a frequency, row by row:
/// s[(k·ports + to)·ports + from] is what leaves port `to` when port `from` is driven.
struct NetworkSweep {
    int ports = 0;
    std::vector<double> frequencyMhz; ///< never falling
    std::vector<std::complex<double>> s;
    std::vector<double> referenceOhm; ///< one a port, real part, above 0
    double referenceReactanceOhm = 0; ///< imaginary part, the same for all ports
    [[nodiscard]] std::complex<double> at(std::size_t k, int to, int from) const {
        const auto p = static_cast<std::size_t>(ports);
        return s[(k * p + static_cast<std::size_t>(to)) * p + static_cast<std::size_t>(from)];
    }
};

/// A CSV file: one frequency column and any number of others.
struct MeasuredTable {
    struct Column {
        std::string header;
        std::string unit; ///< as the header gives it; empty: not given
        std::vector<double> values;
    };
    std::vector<double> frequencyMhz;
    std::vector<Column> columns;
};

/// What a measured file holds, as read. `notes` say what was left out and why.
struct MeasuredFile {
    std::string kind; ///< "touchstone" or "csv"
    std::optional<NetworkSweep> sweep;
    std::optional<MeasuredTable> table;
    std::vector<Sentence> notes;
};

/// The same network against another real reference impedance on every port, Ω. The old one must
/// be real too (no reactance).
NetworkSweep renormalised(const NetworkSweep& sweep, double referenceOhm);

/// The differential two-port of a four-port sweep of one pair, reference twice that of the ports.
/// Row order of the pair's ends: AcrossThenFar: ports 1, 2 near and 3, 4 far; SideBySide: ports
/// 1, 3 near and 2, 4 far. Needs four ports of one reference.
Outcome<NetworkSweep> differential(const NetworkSweep& fourPort, bool sideBySide);
/// True when port 1's strongest way through at the low end of the sweep leads to port 2, that is
/// when the ports lie side by side.
bool looksSideBySide(const NetworkSweep& fourPort);

} // namespace burin
