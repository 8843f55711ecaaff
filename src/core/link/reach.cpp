#include "core/link/reach.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <limits>

namespace burin {
namespace {

constexpr std::array<std::string_view, 15> boundKeys{"insertion-loss",
                                                     "channel-length",
                                                     "bundle",
                                                     "category",
                                                     "cable-kind",
                                                     "impedance",
                                                     "screening",
                                                     "level",
                                                     "loss-budget",
                                                     "head-level-unknown",
                                                     "loss-budget-unknown",
                                                     "no-rule",
                                                     "permanent-link",
                                                     "loop-resistance",
                                                     "unsuitable"};

double fixedDb(const LinkParts& link, const Catalogue& catalogue, double f) {
    double sum = 0;
    for (const auto& cord : link.cords)
        sum += cordLossDb(cord, catalogue.cord, f);
    for (const auto* connection : link.connections)
        sum += connectionLossDb(*connection, f);
    return sum;
}

struct Lowest {
    double atMhz = 0, value = std::numeric_limits<double>::infinity();
};

/// Least value of a smooth function over a band: a logarithmic grid, then golden section about the
/// best point. The functions here have one or two broad minima; 64 points part them.
template <typename F> Lowest lowestOver(double fromMhz, double toMhz, F value) {
    Lowest best;
    constexpr int steps = 64;
    const double ratio = std::pow(toMhz / fromMhz, 1.0 / steps);
    double f = fromMhz;
    int index = 0;
    for (int i = 0; i <= steps; ++i) {
        const double at = i == steps ? toMhz : f;
        if (const double v = value(at); v < best.value) {
            best = {at, v};
            index = i;
        }
        f *= ratio;
    }
    if (index == 0 || index == steps || fromMhz == toMhz)
        return best;
    double a = best.atMhz / ratio;
    double b = std::min(best.atMhz * ratio, toMhz);
    constexpr double golden = 0.6180339887498949;
    for (int i = 0; i < 30; ++i) {
        const double x1 = b - golden * (b - a);
        const double x2 = a + golden * (b - a);
        if (value(x1) < value(x2))
            b = x2;
        else
            a = x1;
    }
    if (const double mid = (a + b) / 2, v = value(mid); v < best.value)
        best = {mid, v};
    return best;
}

/// Collects rules and keeps the one that binds.
class Binding {
public:
    Binding(const ReachQuestion& q, const Catalogue& c) : q_(q), catalogue_(c) {}

    void channelRule(Bound bound, double channelM, std::string reason) {
        offer(bound, channelM - q_.link.cordLengthM(), std::nullopt, std::move(reason));
    }
    void fixedRule(Bound bound, double fixedM, std::string reason) {
        offer(bound, fixedM, std::nullopt, std::move(reason));
    }
    template <typename Allowed>
    void lossRule(Bound bound, double fromMhz, double toMhz, Allowed allowedDb,
                  const std::string& what) {
        const Lowest low = lowestOver(fromMhz, toMhz, [&](double f) {
            return (allowedDb(f) - fixedDb(q_.link, catalogue_, f)) /
                   (meanAttenuationDbPer100m(q_.link, catalogue_.temperature, f) / 100);
        });
        offer(bound, low.value, low.atMhz, what + " binds at " + formatMhz(low.atMhz));
    }
    /// The permanent link's own rules; kept beside what binds.
    void permanentRule(const LinkParts& link, const Limit* limit, const std::string& what) {
        double reachM = permanentLinkM;
        std::optional<double> atMhz;
        std::string reason = "a permanent link is 90 m at most";
        if (limit != nullptr) {
            const Lowest low = lowestOver(limit->fromMhz(), limit->toMhz(), [&](double f) {
                return (limit->at(f).value_or(0) - fixedDb(link, catalogue_, f)) /
                       (meanAttenuationDbPer100m(link, catalogue_.temperature, f) / 100);
            });
            if (low.value < reachM) {
                reachM = low.value;
                atMhz = low.atMhz;
                reason = "insertion loss of " + what + " binds at " + formatMhz(low.atMhz);
            }
        }
        out_.permanentM = std::max(0.0, reachM);
        offer(Bound::PermanentLink, reachM, atMhz, std::move(reason));
    }
    void least(double leastM) { out_.leastM = std::max(out_.leastM, leastM); }
    [[nodiscard]] Reach answer(double cableTopMhz) {
        if (!any_) {
            out_.reason = "no rule in the catalogue bounds this service";
            return out_;
        }
        out_.channelM = *out_.reachM > 0 ? *out_.reachM + q_.link.cordLengthM() : 0;
        out_.extrapolated = out_.atMhz && *out_.atMhz > cableTopMhz * (1 + 1e-9);
        return out_;
    }

private:
    void offer(Bound bound, double reachM, std::optional<double> atMhz, std::string reason) {
        reachM = std::max(0.0, reachM);
        if (any_ && reachM >= *out_.reachM)
            return;
        any_ = true;
        out_.boundBy = bound;
        out_.reachM = reachM;
        out_.atMhz = atMhz;
        out_.reason = std::move(reason);
    }
    const ReachQuestion& q_;
    const Catalogue& catalogue_;
    Reach out_;
    bool any_ = false;
};

double warmestC(const LinkParts& link) {
    double out = 20;
    for (const auto& stretch : link.stretches)
        out = std::max(out, stretch.temperatureC);
    return out;
}

Reach never(Bound bound, std::string reason) {
    Reach out;
    out.reachM = 0;
    out.channelM = 0;
    out.boundBy = bound;
    out.reason = std::move(reason);
    return out;
}

Reach unanswered(Bound bound, std::string reason) {
    Reach out;
    out.boundBy = bound;
    out.reason = std::move(reason);
    return out;
}

/// What rules a cable out whatever its length; nothing when it may serve.
std::optional<Reach> ruledOut(const ReachQuestion& q) {
    const Service& service = *q.service;
    const Cable& cable = *q.link.cable;
    if (std::find(service.kinds.begin(), service.kinds.end(), cable.kind) == service.kinds.end())
        return never(Bound::CableKind, service.name + (cable.kind == CableKind::Coax
                                                           ? " needs twisted pairs, not coax"
                                                           : " needs coax, not pairs"));
    const auto& ohms = service.impedancesOhm;
    if (!ohms.empty() && std::none_of(ohms.begin(), ohms.end(), [&](double ohm) {
            return std::abs(ohm - cable.impedanceOhm.value) < 0.1 * ohm;
        }))
        return never(Bound::Impedance, service.name + " needs " + formatFixed(ohms.front(), 0) +
                                           " Ω cable; this is " +
                                           formatFixed(cable.impedanceOhm.value, 0) + " Ω");
    std::string part;
    const auto lowest = lowestCategory(q.link, &part);
    if (lowest && service.needsCategory && *lowest < *service.needsCategory &&
        service.bundleCategory != lowest)
        return never(
            Bound::Category,
            service.name + " needs " + categoryName(*service.needsCategory) +
                " throughout; the lowest part is " + part +
                (service.belowCategoryNote.empty() ? "" : ". " + service.belowCategoryNote));
    return std::nullopt;
}

void bundleRule(Binding& binding, const ReachQuestion& q) {
    const Service& service = *q.service;
    if (!service.bundleCategory || lowestCategory(q.link) != service.bundleCategory)
        return;
    for (const auto& step : service.bundleSteps) {
        if (step.school != q.school || (step.maxNeighbours && q.neighbours > *step.maxNeighbours))
            continue;
        binding.channelRule(Bound::Bundle, step.channelM,
                            service.name + " on " + categoryName(*service.bundleCategory) +
                                " with " + std::to_string(q.neighbours) +
                                " neighbours: channel to " + formatFixed(step.channelM, 0) +
                                " m (" + std::string(bundleSchoolWords[q.school]) + " school)");
        return;
    }
}

const Limit* lossLimit(const ReachQuestion& q, const Catalogue& catalogue) {
    const auto& name = q.set == LimitSet::Iso ? q.service->limitClassIso : q.service->limitClassTia;
    return name.empty() ? nullptr
                        : catalogue.limit(q.set, name, LinkKind::Channel, Parameter::InsertionLoss);
}

std::string limitTitle(const Limit& limit) {
    return (limit.set == LimitSet::Iso ? "class " : "") + limit.className + " " +
           std::string(linkKindName(limit.link));
}

} // namespace

bool classToBeProven(const Service* service) {
    return service == nullptr ||
           (service->needsCategory && (service->limitTopMhz > 0 || service->bitRateMbit > 0));
}

std::string_view boundKey(Bound bound) {
    return boundKeys[static_cast<std::size_t>(bound)];
}

Reach findReach(const ReachQuestion& q, const Catalogue& catalogue) {
    const Service& service = *q.service;
    const Cable& cable = *q.link.cable;
    if (auto out = ruledOut(q))
        return *out;
    if (!service.noReachNote.empty())
        return unanswered(Bound::NoRule, service.noReachNote);

    Binding binding(q, catalogue);
    if (const Limit* limit = lossLimit(q, catalogue))
        binding.lossRule(
            Bound::InsertionLoss, limit->fromMhz(), std::min(service.limitTopMhz, limit->toMhz()),
            [limit](double f) { return limit->at(f).value_or(0); },
            "insertion loss of " + limitTitle(*limit));
    for (const auto& rule : service.lossRules)
        binding.lossRule(
            Bound::InsertionLoss, rule.fromMhz, rule.toMhz, [&rule](double) { return rule.maxDb; },
            "loss of " + formatFixed(rule.maxDb, 1) + " dB");
    if (service.levelWindow) {
        const auto& window = *service.levelWindow;
        if (!q.headLevel && !q.levelAt)
            return unanswered(Bound::HeadLevelUnknown,
                              "the level at the head end is not known: type it in " + window.unit);
        const auto level = [&](double f) { return q.levelAt ? q.levelAt(f) : *q.headLevel; };
        binding.lossRule(
            Bound::Level, window.fromMhz, window.toMhz,
            [&](double f) { return level(f) - window.min; },
            "outlet level of " + formatFixed(window.min, 0) + " " + window.unit);
        const Lowest most = lowestOver(window.fromMhz, window.toMhz, [&](double f) {
            return -(level(f) - window.max - fixedDb(q.link, catalogue, f)) /
                   (meanAttenuationDbPer100m(q.link, catalogue.temperature, f) / 100);
        });
        binding.least(-most.value);
    }
    if (service.lossBudget) {
        if (!q.lossBudgetDb || !q.bandToMhz)
            return unanswered(Bound::LossBudgetUnknown,
                              "type the loss this line may have and its highest frequency");
        binding.lossRule(
            Bound::LossBudget, q.bandFromMhz.value_or(*q.bandToMhz), *q.bandToMhz,
            [&](double) { return *q.lossBudgetDb; },
            "the loss budget of " + formatFixed(*q.lossBudgetDb, 1) + " dB");
    }
    if (service.maxChannelM)
        binding.channelRule(Bound::ChannelLength, *service.maxChannelM,
                            service.name + " has a channel of " +
                                formatFixed(*service.maxChannelM, 0) + " m at most" +
                                (service.beyondNote.empty() ? "" : "; " + service.beyondNote));
    if (service.loopRule) {
        const double perM = loopOhmPerM(cable, catalogue.temperature, warmestC(q.link));
        binding.fixedRule(Bound::LoopResistance, service.loopRule->mostOhm() / perM,
                          formatFixed(service.loopRule->mostOhm(), 2) + " Ω of loop take " +
                              formatFixed(service.loopRule->maxDb, 1) + " dB from a load of " +
                              formatFixed(service.loopRule->loadOhm, 0) + " Ω");
    }
    const bool plainPairs =
        service.sharedCableM && cable.kind == CableKind::Balanced && cable.screen != Screen::Pairs;
    if (plainPairs && q.cablePerDirection)
        binding.channelRule(Bound::Screening, *service.cablePerDirectionM,
                            "one unscreened cable per direction: channel to " +
                                formatFixed(*service.cablePerDirectionM, 0) +
                                " m; screened pairs go further");
    else if (plainPairs)
        binding.channelRule(Bound::Screening, *service.sharedCableM,
                            "both directions in one cable without screened pairs: channel to " +
                                formatFixed(*service.sharedCableM, 1) +
                                " m; screened pairs go further, one cable per direction to " +
                                formatFixed(*service.cablePerDirectionM, 0) + " m");
    bundleRule(binding, q);
    if (q.permanent && cable.kind == CableKind::Balanced && classToBeProven(&service))
        if (const auto category = lowestCategory(*q.permanent)) {
            const auto name = className(q.set, *category);
            const Limit* own = name.empty() ? nullptr
                                            : catalogue.limit(q.set, name, LinkKind::Permanent,
                                                              Parameter::InsertionLoss);
            binding.permanentRule(*q.permanent, own, own == nullptr ? "" : limitTitle(*own));
        }
    return binding.answer(cable.topMhz.value);
}

Working reachWorking(const ReachQuestion& q, const Catalogue& catalogue, const Reach& reach) {
    Working out;
    const Cable& cable = *q.link.cable;
    out.title = "How far " + cable.name + " carries " + q.service->name;
    out.formula = "reach = min over f of (limit(f) − cords(f) − connections(f)) / (α(f)/100), "
                  "capped by the service's own length rules";
    out.inputs.push_back({"service", q.service->name, q.service->source});
    if (reach.atMhz) {
        const double f = *reach.atMhz;
        const auto& k = cable.attenuation;
        out.inputs.push_back({"f", formatMhz(f), "the frequency that binds"});
        if (const Limit* limit = lossLimit(q, catalogue);
            reach.boundBy == Bound::InsertionLoss && limit != nullptr && limit->at(f)) {
            out.inputs.push_back(
                {"limit(f)", formatFixed(*limit->at(f), 2) + " dB", limit->source});
            out.steps.push_back("limit(f) = " + limit->formulaAt(f));
        }
        out.inputs.push_back(
            {"α(f)",
             formatFixed(meanAttenuationDbPer100m(q.link, catalogue.temperature, f), 2) +
                 " dB per 100 m at the way's warmth",
             k.k1Db.source});
        out.steps.push_back("α at 20 °C = " + formatFixed(k.k0Db.value, 4) + " + " +
                            formatFixed(k.k1Db.value, 4) + "·√f + " + formatFixed(k.k2Db.value, 5) +
                            "·f + " + formatFixed(k.k3Db.value, 3) + "/√f");
        out.inputs.push_back({"cords(f) + connections(f)",
                              formatFixed(fixedDb(q.link, catalogue, f), 2) + " dB",
                              catalogue.cord.stranded24AwgFactor.source});
    }
    out.inputs.push_back({"cords", formatFixed(q.link.cordLengthM(), 1) + " m", "the run"});
    out.steps.push_back(reach.reason);
    if (reach.permanentM)
        out.steps.push_back("as a permanent link, without the cords: " +
                            formatFixed(*reach.permanentM, 1) + " m; 90 m at most");
    if (reach.boundBy == Bound::Bundle)
        out.steps.push_back(q.service->bundleBeyond);
    if (reach.extrapolated)
        out.steps.push_back("the binding frequency lies beyond the cable's band of " +
                            formatMhz(cable.topMhz.value) + ": an extrapolation");
    out.result = reach.reachM ? formatFixed(*reach.reachM, 1) + " m of fixed cable, " +
                                    formatFixed(*reach.channelM, 1) + " m channel"
                              : "not answered: " + reach.reason;
    return out;
}

} // namespace burin
