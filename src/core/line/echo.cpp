#include "core/line/echo.h"
#include "core/line/echo_fit.h"
#include "core/line/fourier.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

using std::numbers::pi;
constexpr double kaiserBeta = 6;
/// Finding echoes takes time with the square of the points: 20,001 of them would be a minute.
constexpr std::size_t mostEchoPoints = 4001;
/// Top of the band over the step: as many points as the whole of it would have.
constexpr double farthest = 20000;

/// Reflection over an evenly spaced grid: f_k = firstMhz + k·stepMhz.
struct Grid {
    double firstMhz = 0, stepMhz = 0;
    std::vector<Complex> s;
};

Outcome<Grid> gridOf(const NetworkSweep& sweep, int port, const std::vector<double>& f) {
    if (port < 0 || port >= sweep.ports)
        return refuse(
            "echo",
            sentence({"echo.sweep-no-port", "the sweep has no port {0}"}, asCount(port + 1)),
            sentence({"cure.name-ports", "Name one of its {0} ports"}, asCount(sweep.ports)));
    if (f.size() < 16)
        return refuse("echo",
                      sentence({"echo.frequencies-too-few", "{0} frequencies are too few"},
                               asCount(f.size())),
                      {"cure.measure-more-up", "Measure 16 or more; 500 and up see well"});
    Grid out;
    out.stepMhz = (f.back() - f.front()) / static_cast<double>(f.size() - 1);
    out.firstMhz = f.front();
    if (!(out.stepMhz > 0) || f.back() / out.stepMhz > farthest)
        return refuse(
            "echo",
            sentence({"echo.sweep-begins-steps", "the sweep begins at {0} in steps so fine that "
                                                 "what is missing below it cannot be filled in"},
                     asMegahertz(f.front())),
            {"cure.measure-close-mhz", "Measure from close to 0 MHz up"});
    for (std::size_t k = 0; k < f.size(); ++k) {
        const double want = out.firstMhz + out.stepMhz * static_cast<double>(k);
        if (std::abs(f[k] - want) > 0.01 * out.stepMhz)
            return refuse(
                "echo",
                sentence({"echo.frequencies-not-evenly",
                          "the frequencies are not evenly spaced ({0} MHz where {1} is due)"},
                         asNumber(f[k], 4), asNumber(want, 4)),
                {"cure.measure-linear-sweep", "Measure with a linear sweep"});
        out.s.push_back(sweep.at(k, port, port));
    }
    return out;
}

/// Fills the grid down to direct current with what the echoes found make there.
void extendToZero(Grid& grid, const EchoFit& fit) {
    const auto missing = static_cast<int>(std::floor(grid.firstMhz / grid.stepMhz + 0.01));
    std::vector<Complex> low;
    const double first = grid.firstMhz - missing * grid.stepMhz;
    for (int k = 0; k < missing; ++k) {
        const double f = std::max(first + k * grid.stepMhz, 1e-6 * grid.stepMhz);
        low.push_back(fit.reflectionAt(f));
        if (f < 0.01 * grid.stepMhz)
            low.back() = low.back().real();
    }
    grid.firstMhz = std::max(0.0, first);
    grid.s.insert(grid.s.begin(), low.begin(), low.end());
}

void fillTrace(EchoTrace& out, Grid grid, const EchoFit& fit, double velocityMPerS,
               double referenceOhm) {
    extendToZero(grid, fit);
    const auto n = grid.s.size();
    std::size_t size = 1;
    while (size < 8 * n)
        size *= 2;
    std::vector<Complex> points(size);
    double full = 0;
    const double top = std::cyl_bessel_i(0.0, kaiserBeta);
    for (std::size_t k = 0; k < n; ++k) {
        const double place = static_cast<double>(k) / static_cast<double>(n);
        const double window =
            std::cyl_bessel_i(0.0, kaiserBeta * std::sqrt(1 - place * place)) / top;
        // Direct current counts once, every other frequency with its negative.
        const double weight = window * (k == 0 && grid.firstMhz < 0.01 * grid.stepMhz ? 1 : 2);
        full += weight;
        points[k] = weight * grid.s[k];
    }
    inverseFourier(points);
    const double stepS = 1 / (1e6 * grid.stepMhz * static_cast<double>(size));
    double sum = 0;
    for (std::size_t i = 0; i < size / 2; ++i) {
        const double t = stepS * static_cast<double>(i);
        const double turn = 2e6 * pi * grid.firstMhz * t;
        const double value = (points[i] * Complex{std::cos(turn), std::sin(turn)}).real();
        sum += value / static_cast<double>(size);
        out.distanceM.push_back(velocityMPerS * t / 2);
        out.impulse.push_back(value / full);
        out.step.push_back(sum);
        const double rho = std::clamp(sum, -0.999, 0.999);
        out.impedanceOhm.push_back(referenceOhm * (1 + rho) / (1 - rho));
    }
}

/// An echo between two places comes back once more as far behind the farther as they lie apart, and
/// weaker than both together.
void markRepeats(std::vector<EchoPeak>& peaks, double resolutionM) {
    for (std::size_t k = 0; k < peaks.size(); ++k)
        for (std::size_t j = 0; j < k; ++j)
            for (std::size_t i = 0; i < j; ++i) {
                const double again = 2 * peaks[j].distanceM - peaks[i].distanceM;
                const double most =
                    1.5 * std::abs(peaks[j].reflection * peaks[i].reflection) + 0.005;
                if (std::abs(peaks[k].distanceM - again) < std::max(0.5 * resolutionM, 0.3) &&
                    std::abs(peaks[k].reflection) < most)
                    peaks[k].repeat = true;
            }
}

/// Leaves out what lies beyond the line's end, and says so.
void endAt(EchoTrace& out, const EchoOptions& options) {
    if (options.runM <= 0)
        return;
    const double end = options.runM * (1 + 2 * options.velocityError) + out.resolutionM;
    const auto beyond = std::erase_if(out.peaks, [&](const auto& p) { return p.distanceM > end; });
    if (beyond > 0)
        out.notes.push_back(
            sentence({"echo.beyond", "{0} {0?echo|echoes} beyond its end at {1}: sent "
                                     "to and fro, no places of their own"},
                     asCount(beyond), asMetres(options.runM)));
}

void sayDoubt(EchoTrace& out, const EchoOptions& options) {
    if (out.peaks.empty()) {
        out.notes.push_back(
            sentence({"echo.nothing", "nothing comes back above the noise from within {0}"},
                     asMetres(out.rangeM, 0)));
        return;
    }
    const EchoPeak& last = out.peaks.back();
    if (last.ofVelocityM > 0.5 * last.plusMinusM)
        out.notes.push_back(sentence(
            {"echo.velocity",
             "of the ±{0} at {1} {2} come from the velocity, known to {3}: a length "
             "read off the jacket's marks makes that {4}"},
            asMetres(last.plusMinusM), asMetres(last.distanceM), asMetres(last.ofVelocityM),
            asShare(options.velocityError, 1), asShare(0.005, 1)));
    if (options.runM <= 0)
        out.notes.push_back(sentence({"echo.range", "a line longer than {0} would fold back onto "
                                                    "nearer places: give its length"},
                                     asMetres(out.rangeM, 0)));
}

} // namespace

Outcome<EchoTrace> echoOf(const NetworkSweep& sweep, int port, const EchoOptions& options) {
    // The lowest ones, not every fifth: the range stays, and nothing from farther away folds into
    // it.
    std::vector<double> f = sweep.frequencyMhz;
    f.resize(std::min(f.size(), mostEchoPoints));
    auto grid = gridOf(sweep, port, f);
    if (!grid)
        return refuse(grid.error());
    if (!(options.velocityMPerS > 0) || options.velocityMPerS > lightSpeedMPerS)
        return refuse("echo",
                      {"echo.velocity-not-above", "the velocity is not above 0 and up to light's"},
                      {"cure.give-share", "Give a share such as 0.85"});
    EchoTrace out;
    const double reference = sweep.referenceOhm[static_cast<std::size_t>(port)];
    out.resolutionM = options.velocityMPerS / (2e6 * f.back());
    out.rangeM = options.velocityMPerS / (2e6 * grid->stepMhz);
    if (options.runM > 0 && options.runM * (1 + options.velocityError) > out.rangeM)
        return refuse(
            "echo",
            sentence({"echo.steps-see-line", "steps of {0} see {1}, and the line is {2}: what lies "
                                             "beyond folds back onto nearer places"},
                     asMegahertz(grid->stepMhz), asMetres(out.rangeM, 1),
                     asMetres(options.runM, 1)),
            sentence({"cure.measure-steps-finer", "Measure in steps of {0} or finer"},
                     asMegahertz(options.velocityMPerS / (2.2e6 * options.runM))));
    EchoFit fit(f, grid->s, reference, options);
    out.peaks = fit.peaks(out.rangeM);
    markRepeats(out.peaks, out.resolutionM);
    endAt(out, options);
    fillTrace(out, std::move(*grid), fit, options.velocityMPerS, reference);
    if (f.size() < sweep.frequencyMhz.size())
        out.notes.push_back(
            sentence({"echo.lowest", "of {0} frequencies the lowest {1}, to {2}, were used"},
                     asCount(sweep.frequencyMhz.size()), asCount(f.size()), asMegahertz(f.back())));
    sayDoubt(out, options);
    return out;
}

} // namespace burin
