#include "core/line/sweep_kernel.h"
#include "core/line/line_formula.h"

// One body, compiled once for every machine and once for those with wide registers; the loader
// picks.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) &&                             \
    !defined(__SANITIZE_ADDRESS__)
#define BURIN_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define BURIN_WIDE
#endif

namespace burin {
namespace {

BURIN_WIDE void constantsLoop(const formula::LineTerms& t, std::size_t n, const double* f,
                              double* __restrict gr, double* __restrict gi, double* __restrict zr,
                              double* __restrict zi, double* __restrict yr, double* __restrict yi) {
    for (std::size_t k = 0; k < n; ++k) {
        double gRe = 0;
        double gIm = 0;
        double zRe = 0;
        double zIm = 0;
        formula::constants(t, f[k], gRe, gIm, zRe, zIm);
        gr[k] = gRe;
        gi[k] = gIm;
        zr[k] = zRe;
        zi[k] = zIm;
        const double norm = zRe * zRe + zIm * zIm;
        yr[k] = zRe / norm;
        yi[k] = -zIm / norm;
    }
}

/// Each in a loop of its own: together the compiler would make one call of sine and cosine, which
/// it cannot take several at once.
BURIN_WIDE void exponentials(std::size_t n, double lengthM, const double* gr, const double* gi,
                             double* __restrict grow, double* __restrict c, double* __restrict s) {
    for (std::size_t k = 0; k < n; ++k)
        grow[k] = std::exp(gr[k] * lengthM);
    for (std::size_t k = 0; k < n; ++k)
        c[k] = std::cos(gi[k] * lengthM);
    for (std::size_t k = 0; k < n; ++k)
        s[k] = std::sin(gi[k] * lengthM);
}

/// (p, q) times the matrix of a line, one row of the chain's matrix: p·cosh + q·Y·sinh, p·Z·sinh +
/// q·cosh.
BURIN_WIDE void row(std::size_t n, const double* grow, const double* c, const double* s,
                    const double* zr, const double* zi, const double* yr, const double* yi,
                    double* __restrict pr, double* __restrict pi, double* __restrict qr,
                    double* __restrict qi) {
    for (std::size_t k = 0; k < n; ++k) {
        const double fade = 1 / grow[k];
        const double up = 0.5 * (grow[k] + fade);
        const double down = 0.5 * (grow[k] - fade);
        const double chr = up * c[k];
        const double chi = down * s[k];
        const double shr = down * c[k];
        const double shi = up * s[k];
        const double br = zr[k] * shr - zi[k] * shi;
        const double bi = zr[k] * shi + zi[k] * shr;
        const double cr = yr[k] * shr - yi[k] * shi;
        const double ci = yr[k] * shi + yi[k] * shr;
        const double p = pr[k];
        const double pj = pi[k];
        const double q = qr[k];
        const double qj = qi[k];
        pr[k] = p * chr - pj * chi + q * cr - qj * ci;
        pi[k] = p * chi + pj * chr + q * ci + qj * cr;
        qr[k] = p * br - pj * bi + q * chr - qj * chi;
        qi[k] = p * bi + pj * br + q * chi + qj * chr;
    }
}

inline Complex times(Complex x, Complex y) {
    return {x.real() * y.real() - x.imag() * y.imag(), x.real() * y.imag() + x.imag() * y.real()};
}

} // namespace

void fillConstants(const Line& line, const std::vector<double>& f, LineSweep& out) {
    constantsLoop(formula::termsOf(line), f.size(), f.data(), out.gamma.re.data(),
                  out.gamma.im.data(), out.impedance.re.data(), out.impedance.im.data(),
                  out.admittance.re.data(), out.admittance.im.data());
}

void appendLine(const LineSweep& line, double lengthM, MatrixSweep& m, MatrixSweep& work) {
    const std::size_t n = m.a.re.size();
    exponentials(n, lengthM, line.gamma.re.data(), line.gamma.im.data(), work.a.re.data(),
                 work.b.re.data(), work.c.re.data());
    const auto one = [&](ComplexArray& p, ComplexArray& q) {
        row(n, work.a.re.data(), work.b.re.data(), work.c.re.data(), line.impedance.re.data(),
            line.impedance.im.data(), line.admittance.re.data(), line.admittance.im.data(),
            p.re.data(), p.im.data(), q.re.data(), q.im.data());
    };
    one(m.a, m.b);
    one(m.c, m.d);
}

void scattering(const MatrixSweep& m, double z, bool reciprocal, std::vector<Complex>& out) {
    const std::size_t n = m.a.re.size();
    out.resize(4 * n);
    for (std::size_t k = 0; k < n; ++k) {
        const Complex a{m.a.re[k], m.a.im[k]};
        const Complex b{m.b.re[k] / z, m.b.im[k] / z};
        const Complex c{m.c.re[k] * z, m.c.im[k] * z};
        const Complex d{m.d.re[k], m.d.im[k]};
        const Complex sum = a + b + c + d;
        const double norm = sum.real() * sum.real() + sum.imag() * sum.imag();
        const Complex over{sum.real() / norm, -sum.imag() / norm};
        out[4 * k] = times(a + b - c - d, over);
        // AD − BC is 1 for what is reciprocal; computed, it would lose its digits in the loss.
        out[4 * k + 1] = 2.0 * (reciprocal ? over : times(times(a, d) - times(b, c), over));
        out[4 * k + 2] = 2.0 * over;
        out[4 * k + 3] = times(d + b - c - a, over);
    }
}

} // namespace burin
