#pragma once
#include "core/base/working.h"
#include "core/measure/trace.h"

namespace burin {

/// From worst to best knowledge. Marginal: inside the instrument's accuracy of the limit; on the
/// good side a client may accept it, on the bad side not.
enum class State { Untested, Pass, MarginalGood, MarginalBad, Fail };
std::string_view stateName(State state); ///< "pass", "marginal, good side" …
std::string_view stateKey(State state);  ///< "marginal-good"
/// The worse of two; anything tested is worse than untested only when it is no plain pass.
State worse(State a, State b);

/// A line measured values are held against.
struct JudgeLine {
    Limit limit;
    bool upper = true; ///< values must stay below
    Sentence name;     ///< "class EA channel", "10 Gbit/s"
    bool operator==(const JudgeLine&) const = default;
};

/// One parameter against one line: the worst of all its traces.
struct ParameterResult {
    Parameter parameter = Parameter::InsertionLoss;
    Sentence against;
    std::string unit;
    State state = State::Untested;
    double marginWorst = 0; ///< in `unit`; below 0: beyond the limit
    double atMhz = 0;
    std::string pair;
    double measured = 0, limit = 0, accuracy = 0;
    int points = 0, informative = 0; ///< judged; left for information
    double informativeBelowDb = 0;   ///< insertion loss below which they are
    bool operator==(const ParameterResult&) const = default;
};

/// All parameters against one set of lines.
struct Judgement {
    Sentence against; ///< "10 Gbit/s" or "class EA permanent link"
    State state = State::Untested;
    std::vector<ParameterResult> results;
    std::vector<Sentence> missing; ///< what must be measured before this can be a pass
    Sentence reason;
    bool operator==(const Judgement&) const = default;
};

/// Lines of one class up to `topMhz` for the parameters the catalogue has; ACR-N from NEXT − IL.
std::vector<JudgeLine> classLines(const Catalogue& catalogue, LimitSet set,
                                  const std::string& className, LinkKind link, double topMhz);
/// Lines of a service's plain rules (loss, return loss, level, the run's loss budget).
std::vector<JudgeLine> serviceLines(const Service& service, std::optional<double> headLevel,
                                    std::optional<double> lossBudgetDb,
                                    std::optional<double> bandFromMhz,
                                    std::optional<double> bandToMhz);

/// How far the instrument may be off at this reading. `topMhz` is where the crosstalk accuracy has
/// risen to its full value.
double accuracyOf(const Accuracy& accuracy, Parameter parameter, double value, double frequencyMhz,
                  double topMhz);

/// Which measured points are for information alone, by the same pair's measured insertion loss.
enum class ForInformation {
    Nothing,           ///< coax
    ReturnLoss,        ///< where it is under 3.0 dB: ANSI/TIA-568.2
    ReturnLossAndNext, ///< and NEXT, ACR-N and their power sums under 4.0 dB: ISO/IEC 11801-1
};
[[nodiscard]] ForInformation forInformation(LimitSet set, bool balanced);

/// Holds traces against lines, leaving out what is for information.
std::vector<ParameterResult> judge(const std::vector<Trace>& traces,
                                   const std::vector<JudgeLine>& lines, const Accuracy& accuracy,
                                   ForInformation rule);
/// The working of one result.
Working judgeWorking(const ParameterResult& result, const std::vector<JudgeLine>& lines);

} // namespace burin
