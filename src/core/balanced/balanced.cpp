#include "core/balanced/balanced.h"
#include "core/line/line.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

constexpr double connectionDelayUs = 0.0025;

/// NEXT of a length from that of 100 m: the far part of a cable is damped twice.
double shorterNextDb(double next100Db, double lossDb, double loss100Db) {
    return next100Db - 10 * std::log10((1 - std::pow(10, -0.2 * lossDb)) /
                                       (1 - std::pow(10, -0.2 * loss100Db)));
}

double delayUs(const LinkParts& link, const Catalogue& catalogue, double f) {
    const auto perM = [&](const Cable& cable, double temperatureC, double factor) {
        const Line line = lineOf(cable, catalogue.temperature, temperatureC, factor);
        return line.at(f).gammaPerM.imag() / (2 * std::numbers::pi * f);
    };
    double sum = connectionDelayUs * static_cast<double>(link.connections.size());
    for (const auto& stretch : link.stretches)
        sum += stretch.lengthM * perM(*link.cable, stretch.temperatureC, 1);
    for (const auto& cord : link.cords)
        sum += cord.lengthM * perM(*cord.cable, 20, catalogue.cord.stranded24AwgFactor.value);
    return sum;
}

} // namespace

double voltageSumDb(double a, double n, double b) {
    return -20 * std::log10(std::pow(10, -a / 20) + n * std::pow(10, -b / 20));
}

double cableReturnLossDb(double f) {
    if (f <= 10)
        return 20 + 5 * std::log10(f);
    return f <= 20 ? 25 : 25 - 7 * std::log10(f / 20);
}

BalancedPrediction predictBalanced(const LinkParts& link, int nearConnections,
                                   const Catalogue& catalogue,
                                   std::span<const double> frequencyMhz) {
    BalancedPrediction out;
    const auto category = lowestCategory(link);
    const auto rule =
        std::find_if(catalogue.crosstalk.begin(), catalogue.crosstalk.end(),
                     [&](const CrosstalkRule& r) { return category && r.category == *category; });
    const bool known = rule != catalogue.crosstalk.end();
    if (!known)
        out.noCrosstalk =
            sentence({"crosstalk.none", "no crosstalk figure in the catalogue for {0}"},
                     asTerm(category ? categoryName(*category) : "this cable"));
    const double lengthM = std::max(link.fixedLengthM() + link.cordLengthM(), 1e-3);
    const auto all = static_cast<double>(link.connections.size());
    for (const double f : frequencyMhz) {
        const LossParts loss = linkLoss(link, catalogue, f);
        out.lossDb.push_back(loss.totalDb());
        out.returnLossDb.push_back(cableReturnLossDb(f));
        if (!known)
            continue;
        const double decades = std::log10(f / 100);
        const double cableDb = loss.totalDb() - loss.connectionsDb;
        const double cable100Db = attenuationDbPer100m(*link.cable, f);
        const auto near = [&](const Figure& cable, const Figure& connection) {
            return voltageSumDb(
                shorterNextDb(cable.value - 15 * decades, cableDb, cable100Db), nearConnections,
                connection.value - rule->connectionNextSlopeDb.value * std::log10(f));
        };
        const auto far = [&](const Figure& cable, const Figure& connection) {
            return voltageSumDb(cable.value - 20 * decades - 10 * std::log10(lengthM / 100), all,
                                connection.value -
                                    rule->connectionAcrFSlopeDb.value * std::log10(f));
        };
        out.nextDb.push_back(near(rule->nextDb, rule->connectionNextDb));
        out.psNextDb.push_back(near(rule->psNextDb, rule->connectionPsNextDb));
        out.acrNDb.push_back(out.nextDb.back() - loss.totalDb());
        out.psAcrNDb.push_back(out.psNextDb.back() - loss.totalDb());
        out.acrFDb.push_back(far(rule->acrFDb, rule->connectionAcrFDb));
        out.psAcrFDb.push_back(far(rule->psAcrFDb, rule->connectionPsAcrFDb));
    }
    if (!frequencyMhz.empty())
        out.delayUs = delayUs(link, catalogue, frequencyMhz.back());
    out.loopOhm = loopResistanceOhm(link, catalogue.temperature);
    if (known)
        out.skewNs = rule->skewNsPer100m.value * lengthM / 100 + rule->connectionSkewNs.value * all;
    return out;
}

} // namespace burin
