#pragma once
#include "core/job/job.h"
#include "core/line/sweep.h"

namespace burin {

/// One measured curve. Losses and ratios in dB (positive), delay in µs, skew in ns, Ω.
struct Trace {
    Parameter parameter = Parameter::InsertionLoss;
    std::string pair; ///< "1-2", "1-2/3-6", empty for coax
    bool farEnd = false;
    std::vector<double> frequencyMhz;
    std::vector<double> value;
    std::string unit;
    bool operator==(const Trace&) const = default;
};

/// What a CSV column is of.
struct ColumnMeaning {
    Parameter parameter = Parameter::InsertionLoss;
    std::string pair;
    bool farEnd = false;
};
/// Reads "IL 1-2 (dB)", "NEXT 1-2/3-6 remote", "Return loss 45", "ps-next 3-6"; none when the
/// words say nothing known.
std::optional<ColumnMeaning> columnMeaning(std::string_view header);
/// "NEXT 1-2/3-6 far": the words columnMeaning reads back.
std::string columnWords(const ColumnMeaning& meaning);

struct Traces {
    std::vector<Trace> traces;
    std::vector<Sentence> notes;
};

/// The curves of a measured file of this link. S-parameters are brought to `impedanceOhm` first;
/// four ports become one differential pair; PS NEXT and ACR-N are added where their parts are
/// there. Refused with the reason where the file cannot be of such a link.
Outcome<Traces> tracesOf(const MeasuredFile& file, const Measurement& measurement, CableKind kind,
                         double impedanceOhm);

/// Phase delay in µs of a transmission over frequency, unwrapped from the low end. Empty when the
/// grid is coarser than 0.8 MHz, where delays up to 0.6 µs could no longer be told apart.
std::vector<double> phaseDelayUs(const std::vector<double>& frequencyMhz,
                                 const std::vector<std::complex<double>>& through);

} // namespace burin
