#include "core/catalogue/limit.h"
#include "core/units/short_figure.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <type_traits>

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

Quantity n(double value) {
    return asNumber(value, shortPlaces(value, 5));
}
/// Figures and signs one after the other: 1.82·√f.
template <typename... Part> Sentence signs(Part&&... parts) {
    const auto one = [](auto&& part) {
        if constexpr (std::is_same_v<std::decay_t<decltype(part)>, double>)
            return alone(n(part));
        else if constexpr (std::is_same_v<std::decay_t<decltype(part)>, Sentence>)
            return part;
        else
            return alone(asText(part));
    };
    return joined({one(parts)...}, "");
}

struct Formula {
    Sentence operator()(const LinkLossForm& k) const {
        Sentence inside = signs(k.k1Db, "·√f");
        if (k.k2Db != 0)
            inside = signs(inside, " + ", k.k2Db, "·f");
        if (k.k3Db != 0)
            inside = signs(inside, " + ", k.k3Db, "/√f");
        const Sentence each = k.perSqrtMhzDb != 0 ? signs(k.perSqrtMhzDb, "·√f") : signs(k.flatDb);
        Sentence out = signs(k.cableFactor, "·(", inside, ") + ", k.connections, "·", each);
        return k.power15Db != 0 ? signs(out, " + ", k.power15Db, "·f^1.5") : out;
    }
    Sentence operator()(const VoltageSumForm& k) const {
        return signs("−20·log(10^(−(", k.cableDb, " − ", k.cablePerDecadeDb, "·log f)/20) + ",
                     k.times, "·10^(−(", k.connectionDb, " − ", k.connectionPerDecadeDb,
                     "·log f)/20))");
    }
    Sentence operator()(const LogForm& k) const {
        const Sentence out = signs(k.atReferenceDb, k.perDecadeDb < 0 ? " − " : " + ",
                                   std::abs(k.perDecadeDb), "·log ");
        return k.referenceMhz == 1 ? signs(out, "f") : signs(out, "(f/", k.referenceMhz, ")");
    }
    Sentence operator()(const ConstantForm& k) const { return signs(k.value); }
    Sentence operator()(const DelayForm& k) const {
        return signs(k.factor, "·(", k.flatUs, " + ", k.perInverseSqrtMhzUs, "/√f) + ",
                     k.connections, "·", k.connectionUs);
    }
    Sentence operator()(const UnbalanceForm& k) const {
        return sentence({"limit.larger-of", "the larger of {0} of the loop resistance and {1}"},
                        asShare(k.ofLoop, shortPlaces(k.ofLoop * 100, 5)),
                        asOhm(k.atLeastOhm, shortPlaces(k.atLeastOhm, 5)));
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

Sentence Limit::formulaAt(double frequencyMhz) const {
    const LimitSegment* segment = segmentAt(*this, frequencyMhz);
    if (segment == nullptr)
        return sentence({"limit.none-at", "no limit in the catalogue at {0}"},
                        asMegahertz(frequencyMhz));
    Sentence out = std::visit(Formula{}, segment->form);
    if (floor)
        out = sentence({"limit.at-least", "{0}, at least {1}"}, std::move(out), n(*floor));
    if (ceiling)
        out = sentence({"limit.at-most", "{0}, at most {1}"}, std::move(out), n(*ceiling));
    return out;
}

} // namespace burin
