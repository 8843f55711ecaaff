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

std::string coverageGap(const Trace& trace, double fromMhz, double toMhz,
                        const PointSpacing& spacing) {
    const auto& f = trace.frequencyMhz;
    const auto begin = std::lower_bound(f.begin(), f.end(), fromMhz);
    const auto end = std::upper_bound(f.begin(), f.end(), toMhz);
    if (toMhz - fromMhz < oneFrequencyShare * toMhz)
        return begin == end ? "at " + formatMhz((fromMhz + toMhz) / 2) : std::string();
    const auto step = [&](double at) {
        return rounding * widestStepMhz(spacing, trace.parameter, at, toMhz - fromMhz);
    };
    if (begin == end)
        return "from " + formatMhz(fromMhz) + " to " + formatMhz(toMhz);
    if (*begin > fromMhz + step(fromMhz) &&
        (begin == f.begin() || *begin - begin[-1] > step(*begin)))
        return "below " + formatMhz(*begin);
    if (end[-1] < toMhz - step(toMhz) && (end == f.end() || *end - end[-1] > step(*end)))
        return "above " + formatMhz(end[-1]);
    for (auto it = begin + 1; it != end; ++it)
        if (*it - it[-1] > step(*it))
            return "at points close enough (too coarse: " + formatMhz(*it - it[-1]) + " apart at " +
                   formatMhz(*it) + ", " + formatMhz(step(*it) / rounding) + " asked)";
    return {};
}

} // namespace burin
