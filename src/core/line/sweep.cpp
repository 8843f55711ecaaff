#include "core/line/sweep.h"
#include <Eigen/LU>
#include <algorithm>
#include <array>
#include <cmath>

namespace burin {

NetworkSweep renormalised(const NetworkSweep& sweep, double referenceOhm) {
    NetworkSweep out = sweep;
    const Eigen::Index n = sweep.ports;
    using Matrix = Eigen::MatrixXcd;
    using RowMajor =
        Eigen::Matrix<std::complex<double>, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>;
    // Travelling waves with real references: S' = A⁻¹ (S − Γ)(I − Γ S)⁻¹ A.
    Eigen::VectorXd gamma(n);
    Eigen::VectorXd scale(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const double old = sweep.referenceOhm[static_cast<std::size_t>(i)];
        gamma(i) = (referenceOhm - old) / (referenceOhm + old);
        scale(i) = std::sqrt(referenceOhm / old) * 2 * old / (old + referenceOhm);
    }
    if (gamma.cwiseAbs().maxCoeff() > 0) {
        const Matrix g = gamma.cast<std::complex<double>>().asDiagonal();
        const Matrix a = scale.cast<std::complex<double>>().asDiagonal();
        const Matrix unit = Matrix::Identity(n, n);
        for (std::size_t k = 0; k < sweep.frequencyMhz.size(); ++k) {
            Eigen::Map<RowMajor> s(out.s.data() + k * static_cast<std::size_t>(n * n), n, n);
            const Matrix old = s;
            s = a.inverse() * (old - g) * (unit - g * old).inverse() * a;
        }
    }
    std::fill(out.referenceOhm.begin(), out.referenceOhm.end(), referenceOhm);
    return out;
}

bool looksSideBySide(const NetworkSweep& sweep) {
    if (sweep.ports != 4 || sweep.frequencyMhz.empty())
        return false;
    std::array<double, 4> through{};
    const std::size_t low = std::max<std::size_t>(1, sweep.frequencyMhz.size() / 10);
    for (std::size_t k = 0; k < low; ++k)
        for (int to = 1; to < 4; ++to)
            through[static_cast<std::size_t>(to)] += std::norm(sweep.at(k, to, 0));
    return through[1] > through[2] && through[1] > through[3];
}

Outcome<NetworkSweep> differential(const NetworkSweep& in, bool sideBySide) {
    if (in.ports != 4)
        return refuse("sweep", sentence({"sweep.ports", "it has {0} ports"}, asCount(in.ports)),
                      {"cure.pair-differential-mode",
                       "One pair in differential mode needs four: two at each end"});
    for (const double ohm : in.referenceOhm)
        if (ohm != in.referenceOhm.front())
            return refuse(
                "sweep",
                {"sweep.ports-different-reference",
                 "its ports have different reference impedances"},
                {"cure.export-reference-all", "Export it with one reference for all four ports"});
    // Differential wave of a port pair: (plus − minus)/√2.
    const std::array<int, 2> plus = sideBySide ? std::array{0, 1} : std::array{0, 2};
    const std::array<int, 2> minus = sideBySide ? std::array{2, 3} : std::array{1, 3};
    NetworkSweep out;
    out.ports = 2;
    out.frequencyMhz = in.frequencyMhz;
    out.referenceOhm.assign(2, 2 * in.referenceOhm.front());
    out.s.reserve(4 * in.frequencyMhz.size());
    for (std::size_t k = 0; k < in.frequencyMhz.size(); ++k)
        for (std::size_t to = 0; to < 2; ++to)
            for (std::size_t from = 0; from < 2; ++from)
                out.s.push_back((in.at(k, plus[to], plus[from]) - in.at(k, plus[to], minus[from]) -
                                 in.at(k, minus[to], plus[from]) +
                                 in.at(k, minus[to], minus[from])) /
                                2.0);
    return out;
}

} // namespace burin
