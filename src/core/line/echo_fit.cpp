#include "core/line/echo_fit.h"
#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

using std::numbers::pi;
/// An echo smaller than this is not reported: connectors alone do as much.
constexpr double leastReflection = 0.003;
/// No passive line sends back more than it was sent; the rest is granted to the fit.
constexpr double mostReflection = 1.1;
/// How much better than by chance an echo must make the fit, in units of the information criterion.
constexpr double leastGain = 3;

double energy(const std::vector<Complex>& values) {
    double sum = 0;
    for (const auto& v : values)
        sum += std::norm(v);
    return sum;
}

} // namespace

EchoFit::EchoFit(const std::vector<double>& frequencyMhz, const std::vector<Complex>& reflection,
                 double referenceOhm, const EchoOptions& options)
    : options_(options), referenceOhm_(referenceOhm), frequencyMhz_(frequencyMhz), s_(reflection) {
    for (std::size_t k = 0; k < frequencyMhz.size(); ++k) {
        const Complex own = ownOhm(frequencyMhz[k]);
        const Complex a = own + referenceOhm;
        const Complex b = own - referenceOhm;
        // (Zin − Z0)/(Zin + Z0) of Zin = Zref(1 + s)/(1 − s), where Zin may be infinite.
        s_[k] = (a * reflection[k] - b) / (a - b * reflection[k]);
    }
    setGamma(0);
}

/// What the line itself presents to a wave.
Complex EchoFit::ownOhm(double f) const {
    if (options_.line)
        return options_.line->at(f).impedanceOhm;
    return options_.impedanceOhm > 0 ? options_.impedanceOhm : referenceOhm_;
}

Complex EchoFit::gammaAt(double f) const {
    const double turn = 2e6 * pi * f;
    if (!options_.line) {
        const double skin = k1NpPerM_ * std::sqrt(f);
        return {skin, skin + turn / options_.velocityMPerS};
    }
    // The velocity asked for leads; the cable's own spread of it stays.
    return options_.line->at(f).gammaPerM +
           Complex{0, turn / options_.velocityMPerS - turn / options_.line->velocityMPerS};
}

void EchoFit::setGamma(double k1NpPerM) {
    k1NpPerM_ = k1NpPerM;
    gamma_.clear();
    for (const double f : frequencyMhz_)
        gamma_.push_back(gammaAt(f));
}

EchoFit::Echo EchoFit::strongest(const std::vector<Complex>& rest, double rangeM) const {
    // How much energy one real echo at d takes out of the rest, on a grid finer than the lobe.
    const double stepM = options_.velocityMPerS / (8e6 * frequencyMhz_.back());
    const auto n = rest.size();
    std::vector<Complex> echo(n, Complex{1, 0});
    std::vector<Complex> turn(n);
    for (std::size_t k = 0; k < n; ++k)
        turn[k] = std::exp(-2.0 * gamma_[k] * stepM);
    Echo best;
    for (double d = 0; d < rangeM; d += stepM) {
        double match = 0;
        double size = 0;
        for (std::size_t k = 0; k < n; ++k) {
            const double re = echo[k].real();
            const double im = echo[k].imag();
            match += rest[k].real() * re + rest[k].imag() * im;
            size += re * re + im * im;
            echo[k] = {re * turn[k].real() - im * turn[k].imag(),
                       re * turn[k].imag() + im * turn[k].real()};
        }
        const double gain = match * match / size;
        if (gain > best.gain)
            best = {d, match / size, 0, gain};
    }
    return best;
}

std::vector<Complex> EchoFit::restOf(const std::vector<Echo>& echoes) const {
    std::vector<Complex> rest = s_;
    for (const auto& e : echoes)
        for (std::size_t k = 0; k < rest.size(); ++k)
            rest[k] -= e.reflection * std::exp(-2.0 * gamma_[k] * e.distanceM);
    return rest;
}

double EchoFit::fitTogether(std::vector<Echo>& echoes, double rangeM) const {
    // Gauss-Newton with Levenberg's damping over places and sizes of all echoes at once.
    const auto m = static_cast<Eigen::Index>(2 * echoes.size());
    const double scale = options_.velocityMPerS / (4e6 * pi * frequencyMhz_.back());
    double damping = 1e-3;
    std::vector<Complex> rest = restOf(echoes);
    double error = energy(rest);
    Eigen::MatrixXd normal(m, m);
    for (int round = 0; round < 30; ++round) {
        Eigen::VectorXd slope = Eigen::VectorXd::Zero(m);
        normal.setZero();
        std::vector<Complex> columns(static_cast<std::size_t>(m));
        for (std::size_t k = 0; k < rest.size(); ++k) {
            for (std::size_t i = 0; i < echoes.size(); ++i) {
                const Complex h = std::exp(-2.0 * gamma_[k] * echoes[i].distanceM);
                columns[2 * i] = -2.0 * gamma_[k] * echoes[i].reflection * h * scale;
                columns[2 * i + 1] = h;
            }
            for (Eigen::Index i = 0; i < m; ++i) {
                const Complex a = columns[static_cast<std::size_t>(i)];
                slope(i) += a.real() * rest[k].real() + a.imag() * rest[k].imag();
                for (Eigen::Index j = 0; j <= i; ++j) {
                    const Complex b = columns[static_cast<std::size_t>(j)];
                    normal(i, j) += a.real() * b.real() + a.imag() * b.imag();
                }
            }
        }
        normal = normal.selfadjointView<Eigen::Lower>();
        Eigen::MatrixXd damped = normal;
        damped.diagonal() *= 1 + damping;
        const Eigen::VectorXd step = damped.ldlt().solve(slope);
        std::vector<Echo> tried = echoes;
        for (std::size_t i = 0; i < echoes.size(); ++i) {
            const auto at = static_cast<Eigen::Index>(2 * i);
            tried[i].distanceM = std::clamp(echoes[i].distanceM + step(at) * scale, 0.0, rangeM);
            tried[i].reflection += step(at + 1);
        }
        std::vector<Complex> after = restOf(tried);
        const double now = energy(after);
        if (!(now < error)) {
            damping *= 10;
            if (damping > 1e6)
                break;
            continue;
        }
        const bool settled = error - now < 1e-10 * error;
        echoes = tried;
        rest = std::move(after);
        error = now;
        damping = std::max(damping / 10, 1e-9);
        if (settled)
            break;
    }
    const double freedom =
        std::max(1.0, 2.0 * static_cast<double>(rest.size()) - static_cast<double>(m));
    const Eigen::MatrixXd spread =
        normal.ldlt().solve(Eigen::MatrixXd::Identity(m, m)) * (error / freedom);
    for (std::size_t i = 0; i < echoes.size(); ++i) {
        const auto at = static_cast<Eigen::Index>(2 * i);
        echoes[i].sigmaM = std::sqrt(std::max(0.0, spread(at, at))) * scale;
    }
    return error;
}

void EchoFit::chooseLoss(double rangeM) {
    // The strongest echo tells how it was spread: the skin term that leaves least of it. Few terms
    // are tried over the whole range, then finer ones where the best of them found it.
    double least = std::numeric_limits<double>::infinity();
    double chosen = 0;
    Echo strongestYet;
    const auto tryTerm = [&](double k1, Echo from) {
        std::vector<Echo> one{from};
        const double error = fitTogether(one, rangeM);
        if (error < least && std::abs(one.front().reflection) <= mostReflection) {
            least = error;
            chosen = k1;
            strongestYet = one.front();
        }
    };
    for (const double k1 : {0.0, 3e-4, 1.2e-3, 4e-3}) {
        setGamma(k1);
        tryTerm(k1, strongest(s_, rangeM));
    }
    double step = std::max(chosen, 3e-4) / 2;
    for (int round = 0; round < 8; ++round, step /= 2)
        for (const double k1 : {chosen - step, chosen + step}) {
            if (k1 < 0)
                continue;
            setGamma(k1);
            tryTerm(k1, strongestYet);
        }
    setGamma(chosen);
}

Complex EchoFit::reflectionAt(double frequencyMhz) const {
    Complex sum;
    for (const auto& e : found_)
        sum += e.reflection * std::exp(-2.0 * gammaAt(frequencyMhz) * e.distanceM);
    const Complex own = ownOhm(frequencyMhz);
    const Complex a = own + referenceOhm_;
    const Complex b = own - referenceOhm_;
    return (a * sum + b) / (a + b * sum);
}

std::vector<EchoPeak> EchoFit::peaks(double rangeM) {
    if (!options_.line)
        chooseLoss(rangeM);
    std::vector<Echo> echoes;
    const double samples = 2 * static_cast<double>(s_.size());
    double error = energy(s_);
    while (static_cast<int>(echoes.size()) < options_.mostPeaks && error > 0) {
        const Echo next = strongest(restOf(echoes), rangeM);
        std::vector<Echo> more = echoes;
        more.push_back(next);
        const double now = fitTogether(more, rangeM);
        const double gain = samples * std::log(error / now) / (2 * std::log(samples));
        const bool impossible = std::any_of(more.begin(), more.end(), [](const Echo& e) {
            return std::abs(e.reflection) < leastReflection ||
                   std::abs(e.reflection) > mostReflection;
        });
        if (!(gain > leastGain) || impossible)
            break;
        echoes = more;
        error = now;
    }
    found_ = echoes;
    std::vector<EchoPeak> out;
    out.reserve(echoes.size());
    // A velocity too small by a share e puts an echo at d(1 − e): counted from there, the truth
    // lies e/(1 − e) away. A tenth of what two faults must lie apart stands for what no echo is
    // exactly.
    const double off = options_.velocityError / (1 - options_.velocityError);
    const double least = 0.1 * options_.velocityMPerS / (2e6 * frequencyMhz_.back());
    for (const auto& e : echoes)
        out.push_back({e.distanceM, 2 * e.sigmaM + off * e.distanceM + least, off * e.distanceM,
                       e.reflection, false});
    std::sort(out.begin(), out.end(),
              [](const auto& a, const auto& b) { return a.distanceM < b.distanceM; });
    return out;
}

} // namespace burin
