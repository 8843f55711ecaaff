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

} // namespace burin
