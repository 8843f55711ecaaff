#include "core/measure/coverage.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {
namespace {

constexpr double rounding = 1.05;
/// Under this share of its frequency a band is a single frequency with the slack sweeps need.
constexpr double oneFrequencyShare = 0.02;

} // namespace

double widestStepMhz(const PointSpacing& spacing, Parameter parameter, double frequencyMhz,
                     double bandMhz) {
    if (spacing.kind == CableKind::Balanced)
        return frequencyMhz <= 31.25 ? 0.15
               : frequencyMhz <= 100 ? 0.25
               : frequencyMhz <= 250 ? 0.5
                                     : 1;
    double step = 4;
    if (bandMhz > 0)
        step = std::min(step, bandMhz / 10);
    if (parameter == Parameter::ReturnLoss && spacing.runM > 0 && spacing.nvp > 0)
        step = std::min(step, spacing.nvp * 299.792458 / (4 * spacing.runM));
    return step;
}

Sentence coverageGap(const Trace& trace, double fromMhz, double toMhz,
                     const PointSpacing& spacing) {
    const auto& f = trace.frequencyMhz;
    const auto begin =
        static_cast<std::size_t>(std::lower_bound(f.begin(), f.end(), fromMhz) - f.begin());
    const auto end =
        static_cast<std::size_t>(std::upper_bound(f.begin(), f.end(), toMhz) - f.begin());
    if (toMhz - fromMhz < oneFrequencyShare * toMhz)
        return begin == end ? sentence({"gap.at", "at {0}"}, asMegahertz((fromMhz + toMhz) / 2))
                            : Sentence();
    const auto step = [&](double at) {
        return rounding * widestStepMhz(spacing, trace.parameter, at, toMhz - fromMhz);
    };
    if (begin == end)
        return sentence({"gap.all", "from {0} to {1}"}, asMegahertz(fromMhz), asMegahertz(toMhz));
    const double first = f[begin];
    const double last = f[end - 1];
    // A point just outside the band covers its edge as well.
    if (first > fromMhz + step(fromMhz) && (begin == 0 || first - f[begin - 1] > step(first)))
        return sentence({"gap.below", "below {0}"}, asMegahertz(first));
    if (last < toMhz - step(toMhz) && (end == f.size() || f[end] - last > step(f[end])))
        return sentence({"gap.above", "above {0}"}, asMegahertz(last));
    for (std::size_t k = begin + 1; k < end; ++k)
        if (f[k] - f[k - 1] > step(f[k]))
            return sentence(
                {"gap.coarse", "at points close enough (too coarse: {0} apart at {1}, {2} asked)"},
                asMegahertz(f[k] - f[k - 1]), asMegahertz(f[k]),
                asMegahertz(step(f[k]) / rounding));
    return {};
}

} // namespace burin
