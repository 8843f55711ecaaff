#include "core/link/link.h"
#include <Eigen/QR>
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace burin {

double LinkParts::fixedLengthM() const {
    double sum = 0;
    for (const auto& stretch : stretches)
        sum += stretch.lengthM;
    return sum;
}

double LinkParts::cordLengthM() const {
    double sum = 0;
    for (const auto& cord : cords)
        sum += cord.lengthM;
    return sum;
}

double attenuationDbPer100m(const Cable& cable, double f) {
    const auto& k = cable.attenuation;
    const double root = std::sqrt(f);
    return k.k0Db.value + k.k1Db.value * root + k.k2Db.value * f + k.k3Db.value / root;
}

double warmthFactor(const TemperatureRule& rule, Screen screen, double temperatureC) {
    const double above = std::max(0.0, temperatureC - 20);
    if (screen != Screen::None)
        return 1 + rule.screenedPerDegreeTo60.value * above;
    return 1 + rule.unscreenedPerDegreeTo40.value * std::min(above, 20.0) +
           rule.unscreenedPerDegreeTo60.value * std::max(0.0, above - 20);
}

double attenuationDbPer100m(const Cable& cable, const TemperatureRule& rule, double f,
                            double temperatureC) {
    if (cable.kind == CableKind::Balanced)
        return attenuationDbPer100m(cable, f) * warmthFactor(rule, cable.screen, temperatureC);
    const auto& k = cable.attenuation;
    const double copper =
        std::sqrt(std::max(0.0, 1 + rule.copperPerDegree.value * (temperatureC - 20)));
    return (k.k0Db.value + k.k1Db.value * std::sqrt(f)) * copper + k.k2Db.value * f;
}

double meanAttenuationDbPer100m(const LinkParts& link, const TemperatureRule& rule, double f) {
    const double length = link.fixedLengthM();
    if (length <= 0)
        return attenuationDbPer100m(*link.cable, rule, f,
                                    link.stretches.empty() ? 20.0
                                                           : link.stretches.front().temperatureC);
    double sum = 0;
    for (const auto& stretch : link.stretches)
        sum += stretch.lengthM * attenuationDbPer100m(*link.cable, rule, f, stretch.temperatureC);
    return sum / length;
}

double cordFactor(const LinkCord& cord, const CordRule& rule) {
    // A cable that is stranded itself has its own figures.
    if (cord.cable->kind != CableKind::Balanced || cord.cable->stranded)
        return 1;
    return cord.awg26 ? rule.stranded26AwgFactor.value : rule.stranded24AwgFactor.value;
}

double cordLossDb(const LinkCord& cord, const CordRule& rule, double f) {
    return attenuationDbPer100m(*cord.cable, f) * cordFactor(cord, rule) * cord.lengthM / 100;
}

double connectionLossDb(const Connection& connection, double f) {
    if (connection.kind == CableKind::Coax)
        return connection.at1GhzDb.value * std::sqrt(f / 1000);
    return connection.flatDb.value + connection.perSqrtMhzDb.value * std::sqrt(f);
}

LossParts linkLoss(const LinkParts& link, const Catalogue& catalogue, double f) {
    LossParts out;
    const double length = link.fixedLengthM();
    out.cableDb = attenuationDbPer100m(*link.cable, f) * length / 100;
    out.warmthDb =
        meanAttenuationDbPer100m(link, catalogue.temperature, f) * length / 100 - out.cableDb;
    for (const auto& cord : link.cords)
        out.cordsDb += cordLossDb(cord, catalogue.cord, f);
    for (const auto* connection : link.connections)
        out.connectionsDb += connectionLossDb(*connection, f);
    return out;
}

std::optional<Category> lowestCategory(const LinkParts& link, Sentence* part) {
    if (link.cable->kind == CableKind::Coax)
        return std::nullopt;
    Category lowest = link.cable->category;
    Sentence name = sentence({"part.cable", "{0} cable"}, asTerm(link.cable->name));
    for (const auto& cord : link.cords)
        if (cord.cable->kind == CableKind::Balanced && cord.cable->category < lowest) {
            lowest = cord.cable->category;
            name = sentence({"part.cord", "{0} cord"}, asTerm(categoryName(lowest)));
        }
    for (const auto* connection : link.connections)
        if (connection->kind == CableKind::Balanced && connection->category < lowest) {
            lowest = connection->category;
            name = alone(asTerm(connection->name));
        }
    if (part != nullptr)
        *part = name;
    return lowest;
}

double wireDiameterMm(double awg) {
    return 0.127 * std::pow(92, (36 - awg) / 39);
}

double wireOhmPerM(double awg) {
    const double diameterM = wireDiameterMm(awg) / 1000;
    return 1.7241e-8 / (std::numbers::pi / 4 * diameterM * diameterM);
}

double loopOhmPerM(const Cable& cable, const TemperatureRule& rule, double temperatureC) {
    const double way = cable.conductorOhmPerKm.value;
    const double back = cable.kind == CableKind::Balanced ? way
                        : cable.shieldOhmPerKm            ? cable.shieldOhmPerKm->value
                                                          : 0;
    return (way + back) / 1000 * (1 + rule.copperPerDegree.value * (temperatureC - 20));
}

double loopResistanceOhm(const LinkParts& link, const TemperatureRule& rule) {
    double sum = 0;
    for (const auto& stretch : link.stretches)
        sum += stretch.lengthM * loopOhmPerM(*link.cable, rule, stretch.temperatureC);
    for (const auto& cord : link.cords)
        sum += cord.lengthM * loopOhmPerM(*cord.cable, rule, 20);
    return sum;
}

Outcome<AttenuationFit> fitAttenuation(const std::vector<DatasheetPoint>& points) {
    double lowest = std::numeric_limits<double>::infinity();
    double highest = 0;
    for (const auto& p : points) {
        if (!(p.frequencyMhz > 0) || !(p.lossDbPer100m > 0) || !std::isfinite(p.frequencyMhz) ||
            !std::isfinite(p.lossDbPer100m))
            return refuse(
                "datasheet points",
                {"datasheet.frequency-loss-not", "a frequency or loss is not above 0"},
                {"cure.type-mhz-db-per", "Type MHz and dB per 100 m as the datasheet gives them"});
        lowest = std::min(lowest, p.frequencyMhz);
        highest = std::max(highest, p.frequencyMhz);
    }
    if (points.size() < 2 || lowest == highest)
        return refuse("datasheet points",
                      {"datasheet.frequency-does-not", "one frequency does not make a curve"},
                      {"cure.give-points-two", "Give points at two frequencies or more"});
    const auto rows = static_cast<Eigen::Index>(points.size());
    Eigen::MatrixXd all(rows, 3);
    for (Eigen::Index i = 0; i < rows; ++i) {
        const auto& p = points[static_cast<std::size_t>(i)];
        all(i, 0) = 1 / p.lossDbPer100m;
        all(i, 1) = std::sqrt(p.frequencyMhz) / p.lossDbPer100m;
        all(i, 2) = p.frequencyMhz / p.lossDbPer100m;
    }
    const Eigen::VectorXd one = Eigen::VectorXd::Ones(rows);
    // With three unknowns the non-negative optimum is the best among the eight sets of terms that
    // may be above 0: solve each, keep the feasible one with the least error.
    double best = std::numeric_limits<double>::infinity();
    Eigen::Vector3d k = Eigen::Vector3d::Zero();
    for (unsigned mask = 1; mask < 8; ++mask) {
        std::vector<Eigen::Index> columns;
        for (Eigen::Index c = 0; c < 3; ++c)
            if ((mask >> c & 1U) != 0)
                columns.push_back(c);
        const auto count = static_cast<Eigen::Index>(columns.size());
        Eigen::MatrixXd part(rows, count);
        for (Eigen::Index c = 0; c < count; ++c)
            part.col(c) = all.col(columns[static_cast<std::size_t>(c)]);
        const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> qr(part);
        if (qr.rank() < count)
            continue;
        const Eigen::VectorXd solution = qr.solve(one);
        const double error = (part * solution - one).squaredNorm();
        if ((solution.array() < 0).any() || error >= best * (1 - 1e-12))
            continue;
        best = error;
        k.setZero();
        for (Eigen::Index c = 0; c < count; ++c)
            k(columns[static_cast<std::size_t>(c)]) = solution(c);
    }
    AttenuationFit out{k(0), k(1), k(2), 0};
    out.worstRelativeError = (all * k - one).cwiseAbs().maxCoeff();
    return out;
}

} // namespace burin
