#include "core/job/job.h"
#include "core/base/lookup.h"
#include <algorithm>
#include <random>

namespace burin {

double Run::lengthM() const {
    double sum = 0;
    for (const auto& stretch : stretches)
        sum += stretch.lengthM;
    return sum;
}

int Run::neighbours() const {
    int most = 0;
    for (const auto& stretch : stretches)
        most = std::max(most, stretch.neighbours);
    return most;
}

Run withLength(Run run, double lengthM) {
    if (run.stretches.empty())
        run.stretches.push_back({});
    double before = 0;
    for (auto& stretch : run.stretches) {
        const bool last = &stretch == &run.stretches.back();
        const double left = std::max(0.0, lengthM - before);
        stretch.lengthM = last ? left : std::min(stretch.lengthM, left);
        before += stretch.lengthM;
    }
    return run;
}

Run withCord(Run run, End end, double lengthM) {
    const auto isThere = [end](const RunCord& cord) { return cord.end == end; };
    const auto first = std::find_if(run.cords.begin(), run.cords.end(), isThere);
    if (first == run.cords.end()) {
        if (lengthM > 0)
            run.cords.push_back({end, run.cableId, lengthM});
        return run;
    }
    first->lengthM = lengthM;
    run.cords.erase(std::remove_if(lengthM > 0 ? first + 1 : first, run.cords.end(), isThere),
                    run.cords.end());
    return run;
}

Run withConnections(Run run, End end, int count, const std::string& connectionId) {
    RunConnection more{end, connectionId};
    int there = 0;
    for (auto it = run.connections.begin(); it != run.connections.end();)
        if (it->end != end) {
            ++it;
        } else if (there == count) {
            it = run.connections.erase(it);
        } else {
            more = *it++;
            ++there;
        }
    more.id.clear();
    for (; there < count; ++there)
        run.connections.push_back(more);
    return run;
}

Run withConnector(Run run, const std::string& connectionId) {
    for (auto& connection : run.connections)
        if (connection.end != End::Inline)
            connection.connectionId = connectionId;
    return run;
}

const Run* Job::run(std::string_view id) const {
    return byId(runs, id);
}
const Room* Job::room(std::string_view id) const {
    return byId(rooms, id);
}
bool Job::isMeasured(std::string_view runId) const {
    return std::any_of(measurements.begin(), measurements.end(),
                       [&](const Measurement& m) { return m.runId == runId; });
}

const Distribution* Job::distributionOf(std::string_view runId) const {
    const auto it = std::find_if(distributions.begin(), distributions.end(),
                                 [&](const auto& d) { return d.fedBy(runId) != nullptr; });
    return it == distributions.end() ? nullptr : &*it;
}
const BusChain* Job::busOf(std::string_view runId) const {
    const auto it = std::find_if(buses.begin(), buses.end(),
                                 [&](const auto& b) { return b.deviceAt(runId).has_value(); });
    return it == buses.end() ? nullptr : &*it;
}
const Run* Job::runLabelled(std::string_view label) const {
    const auto it =
        std::find_if(runs.begin(), runs.end(), [&](const Run& r) { return r.label == label; });
    return it == runs.end() ? nullptr : &*it;
}

Catalogue catalogueOf(const Catalogue& shipped, const Job& job, std::vector<Fault>* faults) {
    std::vector<Cable> users;
    for (const auto& user : job.cables) {
        auto cable = readCable(user.json, "user cable " + user.id);
        if (cable)
            users.push_back(std::move(*cable));
        else if (faults != nullptr)
            faults->push_back(cable.error());
    }
    Catalogue out = shipped.with(users);
    for (const auto& user : job.cards) {
        auto card = readEndCard(user.json, "card " + user.id);
        if (card)
            if (auto known = checkCards({*card}, out); !known)
                card = refuse(known.error());
        if (card)
            out.cards.insert(out.cards.begin(), std::move(*card));
        else if (faults != nullptr)
            faults->push_back(card.error());
    }
    for (const auto& price : job.info.survey.cablePrices)
        out.costs.ownPerMetre[price.cableId] = price.perM;
    return out;
}

bool haveOneCatalogue(const Job& a, const Job& b) {
    return a.cables == b.cables && a.cards == b.cards &&
           a.info.survey.cablePrices == b.info.survey.cablePrices;
}

std::string fileKey(const Measurement& m) {
    return m.frequencyUnit.empty() ? m.fileHash : m.fileHash + "|" + m.frequencyUnit;
}

double cordsAtM(const Run& run, End end) {
    double sum = 0;
    for (const auto& cord : run.cords)
        if (cord.end == end)
            sum += cord.lengthM;
    return sum;
}

int connectionsAt(const Run& run, End end) {
    return static_cast<int>(std::count_if(run.connections.begin(), run.connections.end(),
                                          [&](const auto& c) { return c.end == end; }));
}

} // namespace burin
