#include "core/line/fourier.h"
#include <fftw3.h>
#include <mutex>

namespace burin {
namespace {

/// FFTW runs plans from any thread, but makes them one at a time.
std::mutex& planning() {
    static std::mutex mutex;
    return mutex;
}

fftw_complex* raw(std::vector<Complex>& data) {
    return reinterpret_cast<fftw_complex*>(data.data());
}

void runOnce(const fftw_plan plan) {
    fftw_execute(plan);
    const std::scoped_lock lock(planning());
    fftw_destroy_plan(plan);
}

} // namespace

void inverseFourier(std::vector<Complex>& data) {
    fftw_plan plan = nullptr;
    {
        const std::scoped_lock lock(planning());
        plan = fftw_plan_dft_1d(static_cast<int>(data.size()), raw(data), raw(data), FFTW_BACKWARD,
                                FFTW_ESTIMATE);
    }
    runOnce(plan);
}

std::vector<double> inverseFourierReal(std::vector<Complex> half) {
    std::vector<double> out(2 * (half.size() - 1));
    fftw_plan plan = nullptr;
    {
        const std::scoped_lock lock(planning());
        plan = fftw_plan_dft_c2r_1d(static_cast<int>(out.size()), raw(half), out.data(),
                                    FFTW_ESTIMATE);
    }
    runOnce(plan);
    return out;
}

} // namespace burin
