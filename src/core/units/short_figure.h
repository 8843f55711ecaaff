#pragma once
#include "core/units/units.h"

namespace burin {

/// `value` with up to `decimals` places, without noughts behind: "3.5", "305".
inline std::string shortFigure(double value, int decimals) {
    std::string out = formatFixed(value, decimals);
    if (out.find('.') != std::string::npos) {
        out.erase(out.find_last_not_of('0') + 1);
        if (out.ends_with('.'))
            out.pop_back();
    }
    return out;
}

/// How many of those places are left.
inline int shortPlaces(double value, int decimals) {
    const std::string out = shortFigure(value, decimals);
    const auto point = out.find('.');
    return point == std::string::npos ? 0 : static_cast<int>(out.size() - point - 1);
}

} // namespace burin
