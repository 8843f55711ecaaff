#pragma once
#include "core/line/line.h"
#include <vector>

namespace burin {

/// Σ data[k]·e^(+2πikt/n), unscaled, in place.
void inverseFourier(std::vector<Complex>& data);
/// The real function whose spectrum is `half` (0 … n/2, n even) and its mirror, unscaled: n values.
std::vector<double> inverseFourierReal(std::vector<Complex> half);

} // namespace burin
