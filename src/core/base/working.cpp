#include "core/base/working.h"

namespace burin {

std::string Working::text() const {
    std::string out = title + "\n";
    if (!formula.empty())
        out += "\nFormula\n  " + formula + "\n";
    if (!inputs.empty())
        out += "\nInputs\n";
    for (const auto& input : inputs)
        out += "  " + input.name + " = " + input.value +
               (input.source.empty() ? "" : "   [" + input.source + "]") + "\n";
    if (!steps.empty())
        out += "\nSteps\n";
    for (const auto& step : steps)
        out += "  " + step + "\n";
    if (!result.empty())
        out += "\nResult\n  " + result + "\n";
    return out;
}

} // namespace burin
