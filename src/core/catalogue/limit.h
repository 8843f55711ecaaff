#pragma once
#include "core/base/sentence.h"
#include "core/describe/words.h"
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace burin {

enum class LimitSet { Iso, Tia };
inline constexpr auto limitSetWords = wordsOf<LimitSet>("iso", "tia");
enum class LinkKind { Channel, Permanent };
inline constexpr auto linkKindWords = wordsOf<LinkKind>("channel", "permanent");
enum class Parameter {
    InsertionLoss,
    ReturnLoss,
    Next,
    PsNext,
    AcrN,
    PsAcrN,
    AcrF,
    PsAcrF,
    Delay,
    Skew,
    LoopResistance,
    UnbalanceWithinPair,
    UnbalanceBetweenPairs,
};

std::string_view parameterKey(Parameter parameter);  ///< "ps-next"
std::string_view parameterName(Parameter parameter); ///< "PS NEXT"
std::optional<Parameter> parameterFromKey(std::string_view key);
std::string_view linkKindName(LinkKind link);
/// "class EA permanent link", "cat6 channel".
Sentence limitTitle(LimitSet set, const std::string& className, LinkKind link);
///< "permanent link"
/// True where a measured value must stay under its limit (loss, delay, resistance).
bool limitIsUpper(Parameter parameter);

/// factor·(k1·√f + k2·f + k3/√f) + connections·(perSqrt·√f + flat) + power15·f^1.5 dB, f in MHz.
struct LinkLossForm {
    double k1Db = 0, k2Db = 0, k3Db = 0, cableFactor = 1;
    double connections = 0, perSqrtMhzDb = 0, flatDb = 0, power15Db = 0;
    bool operator==(const LinkLossForm&) const = default;
};
/// −20·log(10^(−(a − b·log f)/20) + n·10^(−(c − d·log f)/20)) dB.
struct VoltageSumForm {
    double cableDb = 0, cablePerDecadeDb = 0, times = 0, connectionDb = 0,
           connectionPerDecadeDb = 0;
    bool operator==(const VoltageSumForm&) const = default;
};
/// a + b·log(f/reference) dB.
struct LogForm {
    double atReferenceDb = 0, perDecadeDb = 0, referenceMhz = 1;
    bool operator==(const LogForm&) const = default;
};
struct ConstantForm {
    double value = 0;
    bool operator==(const ConstantForm&) const = default;
};
/// factor·(flat + perInverseSqrt/√f) + connections·connection, µs.
struct DelayForm {
    double factor = 1, flatUs = 0, perInverseSqrtMhzUs = 0, connections = 0, connectionUs = 0;
    bool operator==(const DelayForm&) const = default;
};
/// The larger of ofLoop·R and atLeastOhm, R the loop resistance.
struct UnbalanceForm {
    double ofLoop = 0, atLeastOhm = 0;
    bool operator==(const UnbalanceForm&) const = default;
};

struct LimitSegment {
    double fromMhz = 0, toMhz = 0;
    std::variant<LinkLossForm, VoltageSumForm, LogForm, ConstantForm, DelayForm, UnbalanceForm>
        form;
    bool operator==(const LimitSegment&) const = default;
};

/// One published limit line. Frequencies in MHz; value in `unit` (dB, µs, ns or Ω).
struct Limit {
    LimitSet set = LimitSet::Iso;
    std::string className;
    LinkKind link = LinkKind::Channel;
    Parameter parameter = Parameter::InsertionLoss;
    std::string unit;
    std::string source;
    std::optional<double> floor;        ///< a value computed below it is lifted to it
    std::optional<double> ceiling;      ///< a value computed above it is capped to it
    std::vector<LimitSegment> segments; ///< rising, touching

    /// The limit at `frequencyMhz`, or none outside the limit's band. Where two segments touch the
    /// lower one holds. `loopOhm` is used by resistance unbalance alone.
    [[nodiscard]] std::optional<double> at(double frequencyMhz, double loopOhm = 0) const;
    [[nodiscard]] double fromMhz() const { return segments.front().fromMhz; }
    [[nodiscard]] double toMhz() const { return segments.back().toMhz; }
    /// The formula that holds at `frequencyMhz`, with its numbers in place.
    [[nodiscard]] Sentence formulaAt(double frequencyMhz) const;
    bool operator==(const Limit&) const = default;
};

} // namespace burin
