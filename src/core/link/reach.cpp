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

/// The catalogue's own remark behind what is said.
Sentence withNote(Sentence said, const std::string& note, std::string between) {
    return note.empty() ? said : joined({std::move(said), alone(asTerm(note))}, std::move(between));
}

/// Collects rules and keeps the one that binds; its sentence is made for that one alone.
class Binding {
public:
    Binding(const ReachQuestion& q, const Catalogue& c) : q_(q), catalogue_(c) {}

    template <typename Say> void channelRule(Bound bound, double channelM, Say say) {
        offer(bound, channelM - q_.link.cordLengthM(), std::nullopt, say);
    }
    template <typename Say> void fixedRule(Bound bound, double fixedM, Say say) {
        offer(bound, fixedM, std::nullopt, say);
    }
    template <typename Allowed, typename Say>
    void lossRule(Bound bound, double fromMhz, double toMhz, Allowed allowedDb, Say what) {
        const Lowest low = lowestOver(fromMhz, toMhz, [&](double f) {
            return (allowedDb(f) - fixedDb(q_.link, catalogue_, f)) /
                   (meanAttenuationDbPer100m(q_.link, catalogue_.temperature, f) / 100);
        });
        offer(bound, low.value, low.atMhz, [&] {
            return sentence({"reach.binds", "{0} binds at {1}"}, what(), asMegahertz(low.atMhz));
        });
    }
    /// The permanent link's own rules; kept beside what binds.
    void permanentRule(const LinkParts& link, const Limit* limit, const Sentence& what) {
        double reachM = permanentLinkM;
        std::optional<double> atMhz;
        Sentence reason = sentence({"reach.permanent", "a permanent link is {0} at most"},
                                   asMetres(permanentLinkM, 0));
        if (limit != nullptr) {
            const Lowest low = lowestOver(limit->fromMhz(), limit->toMhz(), [&](double f) {
                return (limit->at(f).value_or(0) - fixedDb(link, catalogue_, f)) /
                       (meanAttenuationDbPer100m(link, catalogue_.temperature, f) / 100);
            });
            if (low.value < reachM) {
                reachM = low.value;
                atMhz = low.atMhz;
                reason = sentence({"reach.loss-binds", "insertion loss of {0} binds at {1}"}, what,
                                  asMegahertz(low.atMhz));
            }
        }
        out_.permanentM = std::max(0.0, reachM);
        offer(Bound::PermanentLink, reachM, atMhz, [&] { return reason; });
    }
    void least(double leastM) { out_.leastM = std::max(out_.leastM, leastM); }
    [[nodiscard]] Reach answer(double cableTopMhz) {
        if (!any_) {
            out_.reason =
                sentence({"reach.no-rule", "no rule in the catalogue bounds this service"});
            return out_;
        }
        out_.channelM = *out_.reachM > 0 ? *out_.reachM + q_.link.cordLengthM() : 0;
        out_.extrapolated = out_.atMhz && *out_.atMhz > cableTopMhz * (1 + 1e-9);
        return out_;
    }

private:
    template <typename Say>
    void offer(Bound bound, double reachM, std::optional<double> atMhz, Say say) {
        reachM = std::max(0.0, reachM);
        if (any_ && reachM >= *out_.reachM)
            return;
        any_ = true;
        out_.boundBy = bound;
        out_.reachM = reachM;
        out_.atMhz = atMhz;
        out_.reason = say();
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

Reach never(Bound bound, Sentence reason) {
    Reach out;
    out.reachM = 0;
    out.channelM = 0;
    out.boundBy = bound;
    out.reason = std::move(reason);
    return out;
}

Reach unanswered(Bound bound, Sentence reason) {
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
        return never(Bound::CableKind,
                     cable.kind == CableKind::Coax
                         ? sentence({"reach.needs-pairs", "{0} needs twisted pairs, not coax"},
                                    asTerm(service.name))
                         : sentence({"reach.needs-coax", "{0} needs coax, not pairs"},
                                    asTerm(service.name)));
    const auto& ohms = service.impedancesOhm;
    if (!ohms.empty() && std::none_of(ohms.begin(), ohms.end(), [&](double ohm) {
            return std::abs(ohm - cable.impedanceOhm.value) < 0.1 * ohm;
        }))
        return never(Bound::Impedance,
                     sentence({"reach.impedance", "{0} needs {1} cable; this is {2}"},
                              asTerm(service.name), asOhm(ohms.front()),
                              asOhm(cable.impedanceOhm.value)));
    Sentence part;
    const auto lowest = lowestCategory(q.link, &part);
    if (lowest && service.needsCategory && *lowest < *service.needsCategory &&
        service.bundleCategory != lowest)
        return never(
            Bound::Category,
            withNote(
                sentence({"reach.category", "{0} needs {1} throughout; the lowest part is {2}"},
                         asTerm(service.name), asTerm(categoryName(*service.needsCategory)), part),
                service.belowCategoryNote, ". "));
    return std::nullopt;
}

void bundleRule(Binding& binding, const ReachQuestion& q) {
    const Service& service = *q.service;
    if (!service.bundleCategory || lowestCategory(q.link) != service.bundleCategory)
        return;
    for (const auto& step : service.bundleSteps) {
        if (step.school != q.school || (step.maxNeighbours && q.neighbours > *step.maxNeighbours))
            continue;
        binding.channelRule(Bound::Bundle, step.channelM, [&] {
            return sentence(
                {"reach.bundle", "{0} on {1} with {2} neighbours: channel to {3} ({4} school)"},
                asTerm(service.name), asTerm(categoryName(*service.bundleCategory)),
                asCount(q.neighbours), asMetres(step.channelM, 0),
                asTerm(bundleSchoolWords[q.school]));
        });
        return;
    }
}

const Limit* lossLimit(const ReachQuestion& q, const Catalogue& catalogue) {
    const auto& name = q.set == LimitSet::Iso ? q.service->limitClassIso : q.service->limitClassTia;
    return name.empty() ? nullptr
                        : catalogue.limit(q.set, name, LinkKind::Channel, Parameter::InsertionLoss);
}

Sentence titleOf(const Limit& limit) {
    return limitTitle(limit.set, limit.className, limit.link);
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
        return unanswered(Bound::NoRule, alone(asTerm(service.noReachNote)));

    Binding binding(q, catalogue);
    if (const Limit* limit = lossLimit(q, catalogue))
        binding.lossRule(
            Bound::InsertionLoss, limit->fromMhz(), std::min(service.limitTopMhz, limit->toMhz()),
            [limit](double f) { return limit->at(f).value_or(0); },
            [&] {
                return sentence({"reach.loss", "insertion loss of {0}"}, titleOf(*limit));
            });
    for (const auto& rule : service.lossRules)
        binding.lossRule(
            Bound::InsertionLoss, rule.fromMhz, rule.toMhz, [&rule](double) { return rule.maxDb; },
            [&] {
                return sentence({"reach.loss-rule", "loss of {0}"}, asDecibel(rule.maxDb));
            });
    if (service.levelWindow) {
        const auto& window = *service.levelWindow;
        if (!q.headLevel && !q.levelAt)
            return unanswered(Bound::HeadLevelUnknown,
                              sentence({"reach.no-level",
                                        "the level at the head end is not known: type it in {0}"},
                                       window.unit));
        const auto level = [&](double f) { return q.levelAt ? q.levelAt(f) : *q.headLevel; };
        binding.lossRule(
            Bound::Level, window.fromMhz, window.toMhz,
            [&](double f) { return level(f) - window.min; },
            [&] {
                return sentence({"reach.level", "outlet level of {0}"},
                                asUnit(window.min, 0, window.unit));
            });
        const Lowest most = lowestOver(window.fromMhz, window.toMhz, [&](double f) {
            return -(level(f) - window.max - fixedDb(q.link, catalogue, f)) /
                   (meanAttenuationDbPer100m(q.link, catalogue.temperature, f) / 100);
        });
        binding.least(-most.value);
    }
    if (service.lossBudget) {
        if (!q.lossBudgetDb || !q.bandToMhz)
            return unanswered(Bound::LossBudgetUnknown,
                              sentence({"reach.no-budget", "type the loss this line may have and "
                                                           "its highest frequency"}));
        binding.lossRule(
            Bound::LossBudget, q.bandFromMhz.value_or(*q.bandToMhz), *q.bandToMhz,
            [&](double) { return *q.lossBudgetDb; },
            [&] {
                return sentence({"reach.budget", "the loss budget of {0}"},
                                asDecibel(*q.lossBudgetDb));
            });
    }
    if (service.maxChannelM)
        binding.channelRule(Bound::ChannelLength, *service.maxChannelM, [&] {
            return withNote(sentence({"reach.channel", "{0} has a channel of {1} at most"},
                                     asTerm(service.name), asMetres(*service.maxChannelM, 0)),
                            service.beyondNote, "; ");
        });
    if (service.loopRule) {
        const double perM = loopOhmPerM(cable, catalogue.temperature, warmestC(q.link));
        binding.fixedRule(Bound::LoopResistance, service.loopRule->mostOhm() / perM, [&] {
            return sentence({"reach.loop", "{0} of loop take {1} from a load of {2}"},
                            asOhm(service.loopRule->mostOhm(), 2),
                            asDecibel(service.loopRule->maxDb), asOhm(service.loopRule->loadOhm));
        });
    }
    const bool plainPairs =
        service.sharedCableM && cable.kind == CableKind::Balanced && cable.screen != Screen::Pairs;
    if (plainPairs && q.cablePerDirection)
        binding.channelRule(Bound::Screening, *service.cablePerDirectionM, [&] {
            return sentence({"reach.per-direction",
                             "one unscreened cable per direction: channel to {0}; screened "
                             "pairs go further"},
                            asMetres(*service.cablePerDirectionM, 0));
        });
    else if (plainPairs)
        binding.channelRule(Bound::Screening, *service.sharedCableM, [&] {
            return sentence({"reach.both-directions",
                             "both directions in one cable without screened pairs: channel "
                             "to {0}; screened pairs go further, one cable per direction to "
                             "{1}"},
                            asMetres(*service.sharedCableM),
                            asMetres(*service.cablePerDirectionM, 0));
        });
    bundleRule(binding, q);
    if (q.permanent && cable.kind == CableKind::Balanced && classToBeProven(&service))
        if (const auto category = lowestCategory(*q.permanent)) {
            const auto name = className(q.set, *category);
            const Limit* own = name.empty() ? nullptr
                                            : catalogue.limit(q.set, name, LinkKind::Permanent,
                                                              Parameter::InsertionLoss);
            binding.permanentRule(*q.permanent, own, own == nullptr ? Sentence() : titleOf(*own));
        }
    return binding.answer(cable.topMhz.value);
}

Working reachWorking(const ReachQuestion& q, const Catalogue& catalogue, const Reach& reach) {
    Working out;
    const Cable& cable = *q.link.cable;
    out.title = sentence({"reach.title", "How far {0} carries {1}"}, asTerm(cable.name),
                         asTerm(q.service->name));
    out.formula =
        sentence({"reach.formula", "reach = min over f of (limit(f) − cords(f) − connections(f)) / "
                                   "(α(f)/100), capped by the service's own length rules"});
    out.inputs.push_back({sentence({"input.service", "service"}), alone(asTerm(q.service->name)),
                          cited(q.service->source)});
    if (reach.atMhz) {
        const double f = *reach.atMhz;
        const auto& k = cable.attenuation;
        out.inputs.push_back({symbol("f"), alone(asMegahertz(f)),
                              sentence({"reach.binding-frequency", "the frequency that binds"})});
        if (const Limit* limit = lossLimit(q, catalogue);
            reach.boundBy == Bound::InsertionLoss && limit != nullptr && limit->at(f)) {
            out.inputs.push_back(
                {symbol("limit(f)"), alone(asDecibel(*limit->at(f), 2)), cited(limit->source)});
            out.steps.push_back(
                sentence({"reach.limit-step", "limit(f) = {0}"}, limit->formulaAt(f)));
        }
        out.inputs.push_back(
            {symbol("α(f)"),
             sentence({"reach.attenuation", "{0} at the way's warmth"},
                      Quantity{Quantity::Of::DecibelPer100m,
                               meanAttenuationDbPer100m(q.link, catalogue.temperature, f), 2}),
             cited(k.k1Db.source)});
        out.steps.push_back(
            sentence({"reach.attenuation-step", "α at {4} = {0} + {1}·√f + {2}·f + {3}/√f"},
                     asNumber(k.k0Db.value, 4), asNumber(k.k1Db.value, 4),
                     asNumber(k.k2Db.value, 5), asNumber(k.k3Db.value, 3), asCelsius(20)));
        out.inputs.push_back({sentence({"reach.fixed", "cords(f) + connections(f)"}),
                              alone(asDecibel(fixedDb(q.link, catalogue, f), 2)),
                              cited(catalogue.cord.stranded24AwgFactor.source)});
    }
    out.inputs.push_back({sentence({"input.cords", "cords"}), alone(asMetres(q.link.cordLengthM())),
                          sentence({"source.run", "the run"})});
    out.steps.push_back(reach.reason);
    if (reach.permanentM)
        out.steps.push_back(sentence(
            {"reach.permanent-step", "as a permanent link, without the cords: {0}; {1} at most"},
            asMetres(*reach.permanentM), asMetres(permanentLinkM, 0)));
    if (reach.boundBy == Bound::Bundle)
        out.steps.push_back(alone(asTerm(q.service->bundleBeyond)));
    if (reach.extrapolated)
        out.steps.push_back(
            sentence({"reach.extrapolated", "the binding frequency lies beyond the "
                                            "cable's band of {0}: an extrapolation"},
                     asMegahertz(cable.topMhz.value)));
    out.result = reach.reachM ? sentence({"reach.result", "{0} of fixed cable, {1} channel"},
                                         asMetres(*reach.reachM), asMetres(*reach.channelM))
                              : sentence({"reach.unanswered", "not answered: {0}"}, reach.reason);
    return out;
}

} // namespace burin
