#include "core/finding/evidence.h"
#include "core/units/units.h"
#include <algorithm>

namespace burin {
namespace {

/// Names joined as a sentence joins them.
std::string listed(const std::vector<std::string>& words) {
    std::string out;
    for (std::size_t i = 0; i < words.size(); ++i)
        out += (i == 0 ? "" : i + 1 == words.size() ? " and " : ", ") + words[i];
    return out;
}

std::string joined(const std::vector<std::string>& words) {
    std::string out;
    for (const auto& word : words)
        out += (out.empty() ? "" : ", ") + word;
    return out;
}

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

/// What is wanting of one pair over one line: nothing, a gap, or (" ") all of it.
std::string gapOf(const std::vector<Trace>& traces, const JudgeLine& line,
                  const std::vector<std::string>& names, const PointSpacing& spacing) {
    std::string gap = " ";
    for (const auto& trace : traces) {
        if (trace.parameter != line.limit.parameter || trace.farEnd ||
            std::find(names.begin(), names.end(), trace.pair) == names.end())
            continue;
        gap = coverageGap(trace, line.limit.fromMhz(), line.limit.toMhz(), spacing);
        if (gap.empty())
            break;
    }
    return gap;
}

/// The gaps of one parameter, each with the pairs it is of.
using Gaps = std::vector<std::pair<std::string, std::vector<std::string>>>;

void note(Gaps& gaps, const std::string& gap, const std::string& pair) {
    const auto it =
        std::find_if(gaps.begin(), gaps.end(), [&](const auto& g) { return g.first == gap; });
    if (it == gaps.end())
        gaps.push_back({gap, {pair}});
    else if (std::find(it->second.begin(), it->second.end(), pair) == it->second.end())
        it->second.push_back(pair);
}

} // namespace

const std::vector<std::string>& allPairs() {
    static const std::vector<std::string> pairs{"1-2", "3-6", "4-5", "7-8"};
    return pairs;
}

std::vector<std::string> lacking(const std::vector<Trace>& traces,
                                 const std::vector<JudgeLine>& lines,
                                 const EvidenceWanted& wanted) {
    Gaps byGap; // each gap, with the parameters it is of
    for (const auto parameter :
         {Parameter::InsertionLoss, Parameter::ReturnLoss, Parameter::Next, Parameter::AcrF}) {
        const bool crosstalk = parameter == Parameter::Next || parameter == Parameter::AcrF;
        if ((parameter == Parameter::AcrF && !wanted.farEndCrosstalk) ||
            (crosstalk && wanted.spacing.kind == CableKind::Coax))
            continue;
        Gaps gaps;
        const auto names = namesWanted(parameter, wanted);
        for (const auto& line : lines)
            if (line.limit.parameter == parameter)
                for (const auto& pair : names)
                    if (const auto gap = gapOf(traces, line, pair, wanted.spacing); !gap.empty())
                        note(gaps, gap, pair.front());
        for (const auto& [gap, pairs] : gaps) {
            std::string name(parameterName(parameter));
            if (pairs.size() < names.size())
                name += crosstalk ? " (some pairs)" : " (" + joined(pairs) + ")";
            note(byGap, gap, name);
        }
    }
    std::vector<std::string> out;
    for (const auto& [gap, parameters] : byGap) {
        if (gap == " ")
            out.insert(out.end(), parameters.begin(), parameters.end());
        else
            out.push_back(listed(parameters) + " " + gap);
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

std::string marginSentence(const ParameterResult& r) {
    const int places = r.unit == "µs" ? 3 : 1;
    return std::string(parameterName(r.parameter)) + " " +
           formatFixed(std::abs(r.marginWorst), places) + " " + r.unit +
           (r.marginWorst < 0 ? " beyond the limit" : " spare") +
           (r.atMhz > 0 ? " at " + formatMhz(r.atMhz) : "") +
           (r.pair.empty() ? "" : ", pair " + r.pair);
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
                std::string(parameterName(r.parameter)) + " (its insertion loss is under " +
                formatFixed(r.informativeBelowDb, 1) + " dB throughout, where it does not count)");
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
        judgement.reason = "nothing it measured lies where this is judged";
    const bool good = state == State::Pass || state == State::MarginalGood;
    if (good && !judgement.missing.empty()) {
        judgement.reason =
            (state == State::Pass ? "what was measured is good; not measured: "
                                  : "what was measured is marginal, on the good side; not "
                                    "measured: ") +
            joined(judgement.missing);
        state = State::Untested;
    }
    judgement.state = worse(judgement.state, state);
}

} // namespace burin
