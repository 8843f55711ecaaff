#pragma once
#include "core/line/echo.h"

namespace burin {

/// Echoes Γᵢ·e^(−2γ(f)dᵢ) fitted to a reflection. With the line known the reflection is first taken
/// against the line's own impedance at each frequency, so that the instrument's port does not show;
/// without, against the instrument's reference, with one skin-loss term of its own.
class EchoFit {
public:
    EchoFit(const std::vector<double>& frequencyMhz, const std::vector<Complex>& reflection,
            double referenceOhm, const EchoOptions& options);
    /// Peaks up to `rangeM`, by distance.
    [[nodiscard]] std::vector<EchoPeak> peaks(double rangeM);
    /// What the echoes found make at another frequency above 0, against the reference.
    [[nodiscard]] Complex reflectionAt(double frequencyMhz) const;

private:
    struct Echo {
        double distanceM = 0, reflection = 0, sigmaM = 0;
        double gain = 0; ///< energy it takes out of what it was sought in
    };
    [[nodiscard]] Complex ownOhm(double frequencyMhz) const;
    [[nodiscard]] Complex gammaAt(double frequencyMhz) const;
    void setGamma(double k1NpPerM);
    [[nodiscard]] Echo strongest(const std::vector<Complex>& rest, double rangeM) const;
    [[nodiscard]] double fitTogether(std::vector<Echo>& echoes, double rangeM) const;
    [[nodiscard]] std::vector<Complex> restOf(const std::vector<Echo>& echoes) const;
    void chooseLoss(double rangeM);

    EchoOptions options_;
    double referenceOhm_;
    double k1NpPerM_ = 0; ///< where the cable is not known
    std::vector<Echo> found_;
    std::vector<double> frequencyMhz_;
    std::vector<Complex> s_, gamma_;
};

} // namespace burin
