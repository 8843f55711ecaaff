#include "core/finding/evidence.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {
namespace {

/// The ways a pair, or two pairs, may be named in a file.
std::vector<std::vector<std::string>> namesWanted(Parameter parameter,
                                                  const EvidenceWanted& wanted) {
    if (wanted.spacing.kind == CableKind::Coax)
        return {{""}};
    std::vector<std::vector<std::string>> out;
    const auto& pairs = wanted.pairs;
    if (parameter == Parameter::InsertionLoss || parameter == Parameter::ReturnLoss) {
        for (const auto& pair : pairs)
            out.push_back({pair});
        return out;
    }
    for (std::size_t a = 0; a < pairs.size(); ++a)
        for (std::size_t b = a + 1; b < pairs.size(); ++b)
            out.push_back({pairs[a] + "/" + pairs[b], pairs[b] + "/" + pairs[a]});
    return out;
}

/// What is wanting of one pair over one line: nothing, a gap, or all of it.
struct Gap {
    bool any = false;
    Sentence where; ///< empty: everywhere
    bool operator==(const Gap&) const = default;
};

Gap gapOf(const std::vector<Trace>& traces, const JudgeLine& line,
          const std::vector<std::string>& names, const PointSpacing& spacing) {
    Gap gap{true, {}};
    for (const auto& trace : traces) {
        if (trace.parameter != line.limit.parameter || trace.farEnd ||
            std::find(names.begin(), names.end(), trace.pair) == names.end())
            continue;
        gap.where = coverageGap(trace, line.limit.fromMhz(), line.limit.toMhz(), spacing);
        gap.any = !gap.where.empty();
        if (!gap.any)
            break;
    }
    return gap;
}

/// Gaps, each with what it is of: pairs, or parameters.
template <typename Of> using Gaps = std::vector<std::pair<Gap, std::vector<Of>>>;

template <typename Of> void note(Gaps<Of>& gaps, const Gap& gap, const Of& of) {
    const auto it =
        std::find_if(gaps.begin(), gaps.end(), [&](const auto& g) { return g.first == gap; });
    if (it == gaps.end())
        gaps.push_back({gap, {of}});
    else if (std::find(it->second.begin(), it->second.end(), of) == it->second.end())
        it->second.push_back(of);
}

} // namespace

const std::vector<std::string>& allPairs() {
    static const std::vector<std::string> pairs{"1-2", "3-6", "4-5", "7-8"};
    return pairs;
}

std::vector<Sentence> lacking(const std::vector<Trace>& traces, const std::vector<JudgeLine>& lines,
                              const EvidenceWanted& wanted) {
    Gaps<Sentence> byGap; // each gap, with the parameters it is of
    for (const auto parameter :
         {Parameter::InsertionLoss, Parameter::ReturnLoss, Parameter::Next, Parameter::AcrF}) {
        const bool crosstalk = parameter == Parameter::Next || parameter == Parameter::AcrF;
        if ((parameter == Parameter::AcrF && !wanted.farEndCrosstalk) ||
            (crosstalk && wanted.spacing.kind == CableKind::Coax))
            continue;
        Gaps<std::string> gaps;
        const auto names = namesWanted(parameter, wanted);
        for (const auto& line : lines)
            if (line.limit.parameter == parameter)
                for (const auto& pair : names)
                    if (const auto gap = gapOf(traces, line, pair, wanted.spacing); gap.any)
                        note(gaps, gap, pair.front());
        const auto name = asTerm(parameterName(parameter));
        for (const auto& [gap, pairs] : gaps) {
            std::vector<Sentence> which;
            for (const auto& pair : pairs)
                which.push_back(alone(asText(pair)));
            note(byGap, gap,
                 pairs.size() == names.size() ? alone(name)
                 : crosstalk
                     ? sentence({"lacking.some", "{0} (some pairs)"}, name)
                     : sentence({"lacking.pairs", "{0} ({1})"}, name, asSaid(std::move(which))));
        }
    }
    std::vector<Sentence> out;
    for (const auto& [gap, parameters] : byGap) {
        if (gap.where.empty())
            out.insert(out.end(), parameters.begin(), parameters.end());
        else
            out.push_back(sentence({"lacking.gap", "{0} {1}"}, listed(parameters), gap.where));
    }
    return out;
}

namespace {

const ParameterResult* worstOf(const std::vector<ParameterResult>& results) {
    const ParameterResult* worst = nullptr;
    for (const auto& r : results)
        if (r.points > 0 &&
            (worst == nullptr || r.state > worst->state ||
             (r.state == worst->state && r.marginWorst / std::max(r.accuracy, 1e-9) <
                                             worst->marginWorst / std::max(worst->accuracy, 1e-9))))
            worst = &r;
    return worst;
}

} // namespace

Sentence marginSentence(const ParameterResult& r) {
    const auto name = asTerm(parameterName(r.parameter));
    const auto margin = asUnit(std::abs(r.marginWorst), r.unit == "µs" ? 3 : 1, r.unit);
    Sentence out = r.marginWorst < 0
                       ? sentence({"margin.beyond", "{0} {1} beyond the limit"}, name, margin)
                       : sentence({"margin.spare", "{0} {1} spare"}, name, margin);
    if (r.atMhz > 0)
        out = sentence({"margin.at", "{0} at {1}"}, std::move(out), asMegahertz(r.atMhz));
    if (!r.pair.empty())
        out = sentence({"margin.pair", "{0}, pair {1}"}, std::move(out), r.pair);
    return out;
}

void nameUnjudged(Judgement& judgement, const Judgement& byClass) {
    const auto judged = [](const Judgement& by, Parameter parameter) {
        return std::any_of(by.results.begin(), by.results.end(), [&](const ParameterResult& r) {
            return r.parameter == parameter && r.points > 0;
        });
    };
    for (const auto& r : judgement.results)
        if (r.informative > 0 &&
            (r.parameter == Parameter::ReturnLoss || r.parameter == Parameter::Next) &&
            !judged(judgement, r.parameter) && !judged(byClass, r.parameter))
            judgement.missing.push_back(
                sentence({"lacking.information", "{0} (its insertion loss is under {1} throughout, "
                                                 "where it does not count)"},
                         asTerm(parameterName(r.parameter)), asDecibel(r.informativeBelowDb)));
}

void conclude(Judgement& judgement, const std::vector<JudgeLine>& lines) {
    if (lines.empty())
        return;
    State state = State::Untested;
    bool any = false;
    for (const auto& r : judgement.results)
        if (r.points > 0) {
            any = true;
            state = worse(state, r.state);
        }
    const ParameterResult* worst = worstOf(judgement.results);
    if (any && worst != nullptr)
        judgement.reason = marginSentence(*worst);
    else if (judgement.reason.empty())
        judgement.reason =
            sentence({"judged.nothing", "nothing it measured lies where this is judged"});
    const bool good = state == State::Pass || state == State::MarginalGood;
    if (good && !judgement.missing.empty()) {
        judgement.reason =
            state == State::Pass
                ? sentence({"judged.good-so-far", "what was measured is good; not measured: {0}"},
                           asSaid(judgement.missing))
                : sentence({"judged.marginal-so-far", "what was measured is marginal, on the good "
                                                      "side; not measured: {0}"},
                           asSaid(judgement.missing));
        state = State::Untested;
    }
    judgement.state = worse(judgement.state, state);
}

} // namespace burin
