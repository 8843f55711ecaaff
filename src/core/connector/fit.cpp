#include "core/connector/fit.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <tuple>

namespace burin {
namespace {

/// Diameter of what the connector has to grip; none in the catalogue: no answer.
std::optional<double> conductorMm(const Cable& cable) {
    if (cable.centreMm)
        return cable.centreMm->value;
    if (cable.conductorAwg)
        return wireDiameterMm(cable.conductorAwg->value);
    return std::nullopt;
}

std::string mm(double value) {
    return formatFixed(value, value < 3 ? 2 : 1) + " mm";
}

std::string rangeText(double least, double most) {
    return mm(least) + " to " + mm(most);
}

FitPoint conductorSize(const ConnectorFit& fit, double size) {
    if (size > fit.conductorMostMm)
        return {"conductor", false,
                "a centre of " + mm(size) + " in a contact for " + mm(fit.conductorMostMm) +
                    " at most: it spreads the contact, and the next thin pin finds none"};
    if (size < fit.conductorLeastMm)
        return {"conductor", false,
                "a conductor of " + mm(size) + " in a contact for " + mm(fit.conductorLeastMm) +
                    " at least: it is not held"};
    return {"conductor", true,
            mm(size) + " of " + rangeText(fit.conductorLeastMm, fit.conductorMostMm)};
}

FitPoint conductorKind(const ConnectorFit& fit, bool stranded) {
    if (fit.conductors == Conductors::Solid && stranded)
        return {"kind of conductor", false,
                "made for solid conductors: strands are not held, and one that strays shorts"};
    if (fit.conductors == Conductors::Stranded && !stranded)
        return {"kind of conductor", false,
                "made for strands: a solid conductor works loose and breaks"};
    return {"kind of conductor", true, stranded ? "takes strands" : "takes a solid conductor"};
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
        out.push_back({"jacket", good,
                       mm(jacket) + (good ? " of " : ", it grips ") +
                           rangeText(fit.jacketLeastMm, fit.jacketMostMm)});
    }
    if (const auto size = conductorMm(cable))
        out.push_back(conductorSize(fit, *size));
    out.push_back(conductorKind(fit, cable.stranded));
    if (!fit.impedancesOhm.empty()) {
        const bool good =
            std::any_of(fit.impedancesOhm.begin(), fit.impedancesOhm.end(),
                        [&](double ohm) { return std::abs(ohm - cable.impedanceOhm.value) < 1; });
        std::string made;
        for (const double ohm : fit.impedancesOhm)
            made += (made.empty() ? "" : " and ") + formatFixed(ohm, 0);
        out.push_back(
            {"impedance", good,
             formatFixed(cable.impedanceOhm.value, 0) + " Ω cable, made for " + made + " Ω"});
    }
    if (q.connection->ceilingMhz && q.topMhz > 0) {
        const double ceiling = q.connection->ceilingMhz->value;
        out.push_back({"band", q.topMhz <= ceiling,
                       formatMhz(q.topMhz) + (q.topMhz <= ceiling ? " of " : " is over its ") +
                           formatMhz(ceiling)});
    }
    if (q.outdoors)
        out.push_back({"weather", fit.weather == Weather::Sealed,
                       fit.weather == Weather::Sealed ? "sealed: still wrap it"
                       : cable.kind == CableKind::Coax
                           ? "not sealed: water creeps into the braid"
                           : "not sealed: water creeps into the cable"});
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
        for (const auto& point : choice.points)
            if (!point.good)
                choice.why += (choice.why.empty() ? "" : "; ") + point.reason;
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
        out.front().why = "as little loss as any that fits, " + out.front().connection->fit->joint;
    for (std::size_t i = 1; i < out.size(); ++i) {
        if (!out[i].fits)
            continue;
        const double more = out[i].lossDb - out.front().lossDb;
        const double minutes = out[i].minutes - out.front().minutes;
        out[i].why = (more >= noReasonDb ? formatFixed(more, 2) + " dB more"
                      : minutes > 0      ? formatFixed(minutes, 0) + " min more, for no less loss"
                                         : std::string("no more loss")) +
                     "; " + out[i].connection->fit->joint;
    }
    return out;
}

Working choiceWorking(const Cable& cable, double topMhz, bool outdoors,
                      const std::vector<ConnectorChoice>& choices) {
    Working w;
    w.title = "Connectors for " + cable.name;
    w.formula = "fits when jacket, conductor, impedance, band and weather do; then by loss, "
                "weather it bears, minutes an end";
    w.inputs.push_back({"highest frequency", formatMhz(topMhz), "the run"});
    w.inputs.push_back({"place", outdoors ? "outdoors" : "indoors", "the run"});
    if (!choices.empty())
        w.inputs.push_back(
            {"sizes", "ranges of each series", choices.front().connection->fit->source});
    for (const auto& choice : choices)
        w.steps.push_back(choice.connection->name + (choice.fits ? ": fits, " : ": no, ") +
                          formatFixed(choice.lossDb, 2) + " dB, " + formatFixed(choice.minutes, 0) +
                          " min, " + choice.connection->fit->tools + ". " + choice.why);
    w.result = choices.empty() || !choices.front().fits
                   ? "none in the catalogue fits"
                   : choices.front().connection->name + ": " + choices.front().why;
    return w;
}

} // namespace burin
