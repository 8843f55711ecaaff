#include "core/connector/fit.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <tuple>

namespace burin {
namespace {

constexpr Wording within{"fit.within", "{0} of {1} to {2}"};

/// Diameter of what the connector has to grip; none in the catalogue: no answer.
std::optional<double> conductorMm(const Cable& cable) {
    if (cable.centreMm)
        return cable.centreMm->value;
    if (cable.conductorAwg)
        return wireDiameterMm(cable.conductorAwg->value);
    return std::nullopt;
}

Quantity mm(double value) {
    return asMillimetres(value, value < 3 ? 2 : 1);
}

FitPoint conductorSize(const ConnectorFit& fit, double size) {
    if (size > fit.conductorMostMm)
        return {
            FitOf::Conductor, false,
            sentence({"fit.thick", "a centre of {0} in a contact for {1} at most: it spreads the "
                                   "contact, and the next thin pin finds none"},
                     mm(size), mm(fit.conductorMostMm))};
    if (size < fit.conductorLeastMm)
        return {FitOf::Conductor, false,
                sentence({"fit.thin", "a conductor of {0} in a contact for {1} at least: it is not "
                                      "held"},
                         mm(size), mm(fit.conductorLeastMm))};
    return {FitOf::Conductor, true,
            sentence(within, mm(size), mm(fit.conductorLeastMm), mm(fit.conductorMostMm))};
}

FitPoint conductorKind(const ConnectorFit& fit, bool stranded) {
    if (fit.conductors == Conductors::Solid && stranded)
        return {FitOf::ConductorKind, false,
                sentence({"fit.strands", "made for solid conductors: strands are not held, and one "
                                         "that strays shorts"})};
    if (fit.conductors == Conductors::Stranded && !stranded)
        return {
            FitOf::ConductorKind, false,
            sentence({"fit.solid", "made for strands: a solid conductor works loose and breaks"})};
    return {FitOf::ConductorKind, true,
            stranded ? sentence({"fit.takes-strands", "takes strands"})
                     : sentence({"fit.takes-solid", "takes a solid conductor"})};
}

} // namespace

std::vector<FitPoint> findFit(const FitQuestion& q) {
    std::vector<FitPoint> out;
    if (q.cable == nullptr || q.connection == nullptr || !q.connection->fit)
        return out;
    const Cable& cable = *q.cable;
    const ConnectorFit& fit = *q.connection->fit;
    if (cable.diameterMm) {
        const double jacket = cable.diameterMm->value;
        const bool good = jacket >= fit.jacketLeastMm && jacket <= fit.jacketMostMm;
        out.push_back({FitOf::Jacket, good,
                       sentence(good ? within : Wording{"fit.grips", "{0}, it grips {1} to {2}"},
                                mm(jacket), mm(fit.jacketLeastMm), mm(fit.jacketMostMm))});
    }
    if (const auto size = conductorMm(cable))
        out.push_back(conductorSize(fit, *size));
    out.push_back(conductorKind(fit, cable.stranded));
    if (!fit.impedancesOhm.empty()) {
        const bool good =
            std::any_of(fit.impedancesOhm.begin(), fit.impedancesOhm.end(),
                        [&](double ohm) { return std::abs(ohm - cable.impedanceOhm.value) < 1; });
        std::vector<Sentence> made;
        for (const double ohm : fit.impedancesOhm)
            made.push_back(alone(asNumber(ohm, 0)));
        out.push_back({FitOf::Impedance, good,
                       sentence({"fit.impedance", "{0} cable, made for {1} Ω"},
                                asOhm(cable.impedanceOhm.value), listed(std::move(made)))});
    }
    if (q.connection->ceilingMhz && q.topMhz > 0) {
        const double ceiling = q.connection->ceilingMhz->value;
        const auto top = asMegahertz(q.topMhz);
        out.push_back(
            {FitOf::Band, q.topMhz <= ceiling,
             q.topMhz <= ceiling
                 ? sentence({"fit.band", "{0} of {1}"}, top, asMegahertz(ceiling))
                 : sentence({"fit.over-band", "{0} is over its {1}"}, top, asMegahertz(ceiling))});
    }
    if (q.outdoors)
        out.push_back(
            {FitOf::Weather, fit.weather == Weather::Sealed,
             fit.weather == Weather::Sealed ? sentence({"fit.sealed", "sealed: still wrap it"})
             : cable.kind == CableKind::Coax
                 ? sentence({"fit.wet-braid", "not sealed: water creeps into the braid"})
                 : sentence({"fit.wet-cable", "not sealed: water creeps into the cable"})});
    return out;
}

bool fits(const std::vector<FitPoint>& points) {
    return std::all_of(points.begin(), points.end(), [](const auto& point) { return point.good; });
}

namespace {

/// Less than this a mated pair no choice is made by: no meter at an end sees it.
constexpr double noReasonDb = 0.05;

/// Parts of which category go on a cable: of Cat 5, parts of Cat 5e.
Category partsFor(const Cable& cable) {
    return cable.category == Category::Cat5 ? Category::Cat5e : cable.category;
}

} // namespace

std::vector<ConnectorChoice> connectorChoices(const Cable& cable, double topMhz, bool outdoors,
                                              const Catalogue& catalogue) {
    std::vector<ConnectorChoice> out;
    for (const auto& connection : catalogue.connections) {
        if (connection.kind != cable.kind || !connection.fit ||
            (cable.kind == CableKind::Balanced && connection.category != partsFor(cable)))
            continue;
        ConnectorChoice choice;
        choice.connection = &connection;
        choice.points = findFit({&cable, &connection, topMhz, outdoors});
        choice.fits = fits(choice.points);
        choice.lossDb = topMhz > 0 ? connectionLossDb(connection, topMhz) : 0;
        choice.minutes = connection.fit->minutes;
        std::vector<Sentence> against;
        for (const auto& point : choice.points)
            if (!point.good)
                against.push_back(point.reason);
        if (!against.empty())
            choice.why = joined(std::move(against), "; ");
        out.push_back(std::move(choice));
    }
    double least = 1e9;
    for (const auto& choice : out)
        if (choice.fits)
            least = std::min(least, choice.lossDb);
    const bool screened = cable.screen != Screen::None;
    const auto rank = [&](const ConnectorChoice& choice) {
        // The weather it bears counts before the minute it saves: an end is made once.
        return std::tuple(!choice.fits, std::floor((choice.lossDb - least) / noReasonDb),
                          cable.kind == CableKind::Balanced &&
                              choice.connection->screened != screened,
                          -static_cast<int>(choice.connection->fit->weather), choice.minutes);
    };
    std::stable_sort(out.begin(), out.end(),
                     [&](const auto& a, const auto& b) { return rank(a) < rank(b); });
    if (!out.empty() && out.front().fits)
        out.front().why = sentence({"fit.first", "as little loss as any that fits, {0}"},
                                   asTerm(out.front().connection->fit->joint));
    for (std::size_t i = 1; i < out.size(); ++i) {
        if (!out[i].fits)
            continue;
        const double more = out[i].lossDb - out.front().lossDb;
        const double minutes = out[i].minutes - out.front().minutes;
        const auto joint = asTerm(out[i].connection->fit->joint);
        out[i].why = more >= noReasonDb
                         ? sentence({"fit.more-loss", "{0} more; {1}"}, asDecibel(more, 2), joint)
                     : minutes > 0
                         ? sentence({"fit.more-minutes", "{0} more, for no less loss; {1}"},
                                    asUnit(minutes, 0, "min"), joint)
                         : sentence({"fit.alike", "no more loss; {0}"}, joint);
    }
    return out;
}

Working choiceWorking(const Cable& cable, double topMhz, bool outdoors,
                      const std::vector<ConnectorChoice>& choices) {
    Working w;
    w.title = sentence({"choice.title", "Connectors for {0}"}, asTerm(cable.name));
    w.formula =
        sentence({"choice.formula", "fits when jacket, conductor, impedance, band and weather "
                                    "do; then by loss, weather it bears, minutes an end"});
    const auto run = sentence({"source.run", "the run"});
    w.inputs.push_back(
        {sentence({"input.top", "highest frequency"}), alone(asMegahertz(topMhz)), run});
    w.inputs.push_back({sentence({"input.place", "place"}),
                        alone(asTerm(outdoors ? "outdoors" : "indoors")), run});
    if (!choices.empty())
        w.inputs.push_back({sentence({"choice.sizes", "sizes"}),
                            sentence({"choice.ranges", "ranges of each series"}),
                            cited(choices.front().connection->fit->source)});
    for (const auto& choice : choices)
        w.steps.push_back(sentence(
            choice.fits ? Wording{"choice.fits", "{0}: fits, {1}, {2}, {3}. {4}"}
                        : Wording{"choice.no", "{0}: no, {1}, {2}, {3}. {4}"},
            asTerm(choice.connection->name), asDecibel(choice.lossDb, 2),
            asUnit(choice.minutes, 0, "min"), asTerm(choice.connection->fit->tools), choice.why));
    w.result = choices.empty() || !choices.front().fits
                   ? sentence({"choice.none", "none in the catalogue fits"})
                   : sentence({"choice.result", "{0}: {1}"},
                              asTerm(choices.front().connection->name), choices.front().why);
    return w;
}

} // namespace burin
