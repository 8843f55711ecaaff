// What a run's link is made of, from the catalogue.
#include "core/finding/run_finding.h"

namespace burin {

LinkParts linkOf(const Run& run, const Catalogue& catalogue, LinkKind link,
                 std::vector<Fault>* faults) {
    LinkParts out;
    const auto unknown = [&](const Quantity& kind, const std::string& id) {
        if (faults != nullptr)
            faults->push_back(
                {sentence({"where.run", "run {0}"}, run.label),
                 0,
                 0,
                 id.empty()
                     ? sentence({"part.not-chosen", "{0} is not chosen yet"}, kind)
                     : sentence({"part.not-in-catalogue", "{0} “{1}” is not in the catalogue"},
                                kind, id),
                 {"cure.choose-from-list", "Choose one from the list"}});
    };
    out.cable = catalogue.cable(run.cableId);
    if (out.cable == nullptr)
        unknown(asTerm("cable"), run.cableId);
    for (const auto& stretch : run.stretches)
        out.stretches.push_back(
            {stretch.lengthM, out.cable == nullptr
                                  ? stretch.temperatureC
                                  : stretchTemperatureC(run, stretch, *out.cable, catalogue)});
    if (link == LinkKind::Channel)
        for (const auto& cord : run.cords) {
            const Cable* cable = catalogue.cable(cord.cableId);
            if (cable == nullptr)
                unknown(asTerm("cord cable"), cord.cableId);
            else
                out.cords.push_back({cable, cord.lengthM, cord.awg26});
        }
    bool nearSeen = false;
    bool farSeen = false;
    for (const auto& use : run.connections) {
        // A permanent link ends at the first connection of each end; what lies beyond is the
        // channel's cross-connect.
        bool& seen = use.end == End::Near ? nearSeen : farSeen;
        if (link == LinkKind::Permanent && use.end != End::Inline && seen)
            continue;
        if (use.end != End::Inline)
            seen = true;
        const Connection* connection = catalogue.connection(use.connectionId);
        if (connection == nullptr)
            unknown(asTerm("connection"), use.connectionId);
        else
            out.connections.push_back(connection);
    }
    return out;
}

} // namespace burin
