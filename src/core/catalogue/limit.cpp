#include "core/catalogue/limit.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace burin {
namespace {

struct ParameterWords {
    Parameter parameter;
    std::string_view key, name;
};
constexpr std::array<ParameterWords, 13> parameterWords{{
    {Parameter::InsertionLoss, "insertion-loss", "Insertion loss"},
    {Parameter::ReturnLoss, "return-loss", "Return loss"},
    {Parameter::Next, "next", "NEXT"},
    {Parameter::PsNext, "ps-next", "PS NEXT"},
    {Parameter::AcrN, "acr-n", "ACR-N"},
    {Parameter::PsAcrN, "ps-acr-n", "PS ACR-N"},
    {Parameter::AcrF, "acr-f", "ACR-F"},
    {Parameter::PsAcrF, "ps-acr-f", "PS ACR-F"},
    {Parameter::Delay, "delay", "Delay"},
    {Parameter::Skew, "skew", "Delay skew"},
    {Parameter::LoopResistance, "loop-resistance", "Loop resistance"},
    {Parameter::UnbalanceWithinPair, "unbalance-within-pair", "Unbalance within a pair"},
    {Parameter::UnbalanceBetweenPairs, "unbalance-between-pairs", "Unbalance between pairs"},
}};

struct At {
    double f, loopOhm;
    double operator()(const LinkLossForm& k) const {
        const double root = std::sqrt(f);
        return k.cableFactor * (k.k1Db * root + k.k2Db * f + k.k3Db / root) +
               k.connections * (k.perSqrtMhzDb * root + k.flatDb) + k.power15Db * f * root;
    }
    double operator()(const VoltageSumForm& k) const {
        const double decades = std::log10(f);
        return -20 *
               std::log10(
                   std::pow(10, -(k.cableDb - k.cablePerDecadeDb * decades) / 20) +
                   k.times *
                       std::pow(10, -(k.connectionDb - k.connectionPerDecadeDb * decades) / 20));
    }
    double operator()(const LogForm& k) const {
        return k.atReferenceDb + k.perDecadeDb * std::log10(f / k.referenceMhz);
    }
    double operator()(const ConstantForm& k) const { return k.value; }
    double operator()(const DelayForm& k) const {
        return k.factor * (k.flatUs + k.perInverseSqrtMhzUs / std::sqrt(f)) +
               k.connections * k.connectionUs;
    }
    double operator()(const UnbalanceForm& k) const {
        return std::max(k.ofLoop * loopOhm, k.atLeastOhm);
    }
};

std::string n(double value) {
    std::string out = formatFixed(value, 5);
    if (out.find('.') != std::string::npos) {
        out.erase(out.find_last_not_of('0') + 1);
        if (out.ends_with('.'))
            out.pop_back();
    }
    return out;
}

struct Formula {
    std::string operator()(const LinkLossForm& k) const {
        std::string out = n(k.cableFactor) + "·(" + n(k.k1Db) + "·√f";
        if (k.k2Db != 0)
            out += " + " + n(k.k2Db) + "·f";
        if (k.k3Db != 0)
            out += " + " + n(k.k3Db) + "/√f";
        out += ") + " + n(k.connections) + "·" +
               (k.perSqrtMhzDb != 0 ? n(k.perSqrtMhzDb) + "·√f" : n(k.flatDb));
        if (k.power15Db != 0)
            out += " + " + n(k.power15Db) + "·f^1.5";
        return out;
    }
    std::string operator()(const VoltageSumForm& k) const {
        return "−20·log(10^(−(" + n(k.cableDb) + " − " + n(k.cablePerDecadeDb) + "·log f)/20) + " +
               n(k.times) + "·10^(−(" + n(k.connectionDb) + " − " + n(k.connectionPerDecadeDb) +
               "·log f)/20))";
    }
    std::string operator()(const LogForm& k) const {
        return n(k.atReferenceDb) + (k.perDecadeDb < 0 ? " − " : " + ") +
               n(std::abs(k.perDecadeDb)) + "·log " +
               (k.referenceMhz == 1 ? "f" : "(f/" + n(k.referenceMhz) + ")");
    }
    std::string operator()(const ConstantForm& k) const { return n(k.value); }
    std::string operator()(const DelayForm& k) const {
        return n(k.factor) + "·(" + n(k.flatUs) + " + " + n(k.perInverseSqrtMhzUs) + "/√f) + " +
               n(k.connections) + "·" + n(k.connectionUs);
    }
    std::string operator()(const UnbalanceForm& k) const {
        return "the larger of " + n(k.ofLoop * 100) + " % of the loop resistance and " +
               n(k.atLeastOhm) + " Ω";
    }
};

template <typename Row, std::size_t N, typename Key>
std::optional<Key> find(const std::array<Row, N>& rows, std::string_view key, Key Row::*member) {
    for (const Row& row : rows)
        if (row.key == key)
            return row.*member;
    return std::nullopt;
}

const LimitSegment* segmentAt(const Limit& limit, double f) {
    // A frequency typed as the top (398.1) or read back from a file must still find its segment.
    const double slack = 1e-9 * f;
    for (const auto& segment : limit.segments)
        if (f >= segment.fromMhz - slack && f <= segment.toMhz + slack)
            return &segment;
    return nullptr;
}

} // namespace

std::string_view parameterKey(Parameter parameter) {
    return parameterWords[static_cast<std::size_t>(parameter)].key;
}
std::string_view parameterName(Parameter parameter) {
    return parameterWords[static_cast<std::size_t>(parameter)].name;
}
std::optional<Parameter> parameterFromKey(std::string_view key) {
    return find(parameterWords, key, &ParameterWords::parameter);
}
std::string_view linkKindName(LinkKind link) {
    return link == LinkKind::Channel ? "channel" : "permanent link";
}
Sentence limitTitle(LimitSet set, const std::string& className, LinkKind link) {
    const auto name = asText(className);
    const auto kind = asTerm(linkKindName(link));
    return set == LimitSet::Iso ? sentence({"limit.class", "class {0} {1}"}, name, kind)
                                : sentence({"limit.category", "{0} {1}"}, name, kind);
}
bool limitIsUpper(Parameter parameter) {
    switch (parameter) {
    case Parameter::InsertionLoss:
    case Parameter::Delay:
    case Parameter::Skew:
    case Parameter::LoopResistance:
    case Parameter::UnbalanceWithinPair:
    case Parameter::UnbalanceBetweenPairs:
        return true;
    default:
        return false;
    }
}

std::optional<double> Limit::at(double frequencyMhz, double loopOhm) const {
    const LimitSegment* segment = segmentAt(*this, frequencyMhz);
    if (segment == nullptr)
        return std::nullopt;
    double value = std::visit(At{frequencyMhz, loopOhm}, segment->form);
    if (floor)
        value = std::max(value, *floor);
    if (ceiling)
        value = std::min(value, *ceiling);
    return value;
}

std::string Limit::formulaAt(double frequencyMhz) const {
    const LimitSegment* segment = segmentAt(*this, frequencyMhz);
    if (segment == nullptr)
        return "no limit in the catalogue at " + formatMhz(frequencyMhz);
    std::string out = std::visit(Formula{}, segment->form);
    if (floor)
        out += ", at least " + n(*floor);
    if (ceiling)
        out += ", at most " + n(*ceiling);
    return out;
}

} // namespace burin
