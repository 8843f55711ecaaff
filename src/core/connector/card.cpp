#include "core/connector/card.h"
#include "core/units/short_figure.h"
#include <algorithm>

namespace burin {
CardFinding findCard(const Connection& connection, const Cable& cable, const Catalogue& catalogue,
                     double topMhz, bool outdoors) {
    CardFinding out;
    out.connection = &connection;
    out.cable = &cable;
    out.fit = findFit({&cable, &connection, topMhz, outdoors});
    out.fits = connection.fit && connection.kind == cable.kind && fits(out.fit);
    out.card = cardFor(connection, cable, catalogue);
    return out;
}

const EndCard* cardFor(const Connection& connection, const Cable& cable,
                       const Catalogue& catalogue) {
    if (connection.kind != cable.kind)
        return nullptr;
    const auto it =
        std::find_if(catalogue.cards.begin(), catalogue.cards.end(), [&](const EndCard& card) {
            const auto& ids = card.connectionIds;
            return std::find(ids.begin(), ids.end(), connection.id) != ids.end() &&
                   card.isFor(cable);
        });
    return it == catalogue.cards.end() ? nullptr : &*it;
}

std::size_t connectorAt(const Run& run, End end, const Catalogue& catalogue) {
    const Cable* cable = catalogue.cable(run.cableId);
    std::size_t at = 0;
    for (; at < run.connections.size(); ++at) {
        const auto& row = run.connections[at];
        const Connection* one = row.end == end ? catalogue.connection(row.connectionId) : nullptr;
        if (one != nullptr && one->fit && cable != nullptr && one->kind == cable->kind)
            break;
    }
    return at;
}

const Connection* chosenConnector(const Run& run, End end, const Catalogue& catalogue) {
    const std::size_t at = connectorAt(run, end, catalogue);
    return at < run.connections.size() ? catalogue.connection(run.connections[at].connectionId)
                                       : nullptr;
}

const Connection* connectorFor(const Run& run, End end, const Catalogue& catalogue) {
    if (const Connection* chosen = chosenConnector(run, end, catalogue))
        return chosen;
    const Cable* cable = catalogue.cable(run.cableId);
    return cable == nullptr ? nullptr : usualConnection(catalogue, *cable);
}

double endMinutes(const Connection* connection, const WorkRules& work) {
    return connection != nullptr && connection->fit && connection->fit->minutes > 0
               ? connection->fit->minutes
               : work.endMinutes;
}

Sentence rangeOf(std::optional<double> leastMm, std::optional<double> mostMm) {
    if (!leastMm && !mostMm)
        return sentence({"cut.from-sheet", "from the part's sheet"});
    const auto in = [&](double unitMm, int places, const char* name) {
        const double least = leastMm.value_or(mostMm.value_or(0)) / unitMm;
        const double most = mostMm.value_or(leastMm.value_or(0)) / unitMm;
        Quantity to = asUnit(most, shortPlaces(most, places), name);
        return least == most ? alone(std::move(to))
                             : sentence({"cut.from-to", "{0}–{1}"},
                                        asNumber(least, shortPlaces(least, places)), std::move(to));
    };
    auto both =
        sentence({"cut.both", "{0} · {1}"}, in(1, 1, "mm"), in(metresPerInch * 1000, 2, "in"));
    return !leastMm  ? sentence({"cut.most", "at most {0}"}, std::move(both))
           : !mostMm ? sentence({"cut.least", "at least {0}"}, std::move(both))
                     : std::move(both);
}

} // namespace burin
