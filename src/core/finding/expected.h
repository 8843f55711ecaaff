#pragma once
#include "core/balanced/balanced.h"
#include "core/finding/run_finding.h"

namespace burin {

/// What one parameter of a balanced link may be expected to measure at its worst, against its
/// class.
struct ExpectedResult {
    Parameter parameter = Parameter::InsertionLoss;
    std::string unit;
    double margin = 0; ///< in `unit`; below 0: beyond the limit
    double atMhz = 0;
    double expected = 0, limit = 0;
};

/// The channel as built against the class its lowest part allows, before anybody tests it. Empty
/// results: coax, or no class in the catalogue. Never a pass: an expectation proves nothing.
struct Expected {
    std::string className;
    std::vector<ExpectedResult>
        results; ///< loss, return loss, NEXT, PS NEXT, ACR-N, ACR-F, PS ACR-F, skew
    double delayUs = 0, loopOhm = 0;
    Sentence noCrosstalk;         ///< why there is none, where there is none
    std::vector<Trace> traces;    ///< over frequency, of those that are swept
    std::vector<JudgeLine> lines; ///< of the class
    [[nodiscard]] const Trace* trace(Parameter parameter) const;
    [[nodiscard]] const ExpectedResult* result(Parameter parameter) const;
    Working working;
};
Expected expectedOf(const Job& job, const Run& run, const Catalogue& catalogue);

} // namespace burin
