#pragma once
#include "core/measure/coverage.h"
#include "core/measure/judge.h"

namespace burin {

/// The four pairs of an eight-way jack, by their pins.
const std::vector<std::string>& allPairs();

/// What must have been measured before a good result may be called a pass.
struct EvidenceWanted {
    std::vector<std::string> pairs; ///< balanced: each of them, and each two of them for crosstalk
    PointSpacing spacing;
    bool farEndCrosstalk = false; ///< a class asks for it, a service does not
};

/// What of it is not there, to follow "not measured:". Of the parameters that `lines`
/// judge, insertion loss, return loss, NEXT and ACR-F have to be there, over the whole of each
/// line's band and closely enough (see PointSpacing); the rest follows from them or is resistance.
std::vector<Sentence> lacking(const std::vector<Trace>& traces, const std::vector<JudgeLine>& lines,
                              const EvidenceWanted& wanted);

/// Adds the parameters of which nothing counted: measured at a loss so low that every point is for
/// information. What was not judged is not proven; but where the run's class was judged by it,
/// farther up, a service that asks no more than the class has its proof there.
void nameUnjudged(Judgement& judgement, const Judgement& byClass);

/// The worst of the results and its sentence; good on too little evidence is untested, and what is
/// missing is named. A fail is a fail on any evidence.
void conclude(Judgement& judgement, const std::vector<JudgeLine>& lines);

/// "NEXT 1.2 dB beyond the limit at 216 MHz, pair 3-6/4-5".
Sentence marginSentence(const ParameterResult& result);

} // namespace burin
