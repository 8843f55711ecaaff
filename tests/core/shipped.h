#pragma once
#include "core/finding/run_finding.h"
#include <gtest/gtest.h>

namespace burin {

/// The shipped catalogue, loaded once.
inline const Catalogue& shipped() {
    static const Catalogue catalogue = [] {
        auto loaded = loadCatalogue(BURIN_CATALOGUE);
        EXPECT_TRUE(loaded) << (loaded ? "" : loaded.error().text());
        return loaded ? *loaded : Catalogue{};
    }();
    return catalogue;
}

/// A job of one room and one run: Cat 6A, 10 Gbit/s, two 3 m cords, a connection at each end.
inline Job oneRunJob(const std::string& cable = "cat6a-utp", const std::string& service = "10g",
                     double lengthM = 60) {
    Job job;
    job.rooms.push_back({"r", "SL", "Sail loft", 0, 0});
    Run run;
    run.id = "run";
    run.roomId = "r";
    run.label = "SL-D01";
    run.cableId = cable;
    run.serviceId = service;
    run.stretches = {{"tray", lengthM, 20, 0}};
    const Cable* found = shipped().cable(cable);
    if (found->kind == CableKind::Balanced) {
        run.cords = {{End::Near, cable, 3, false}, {End::Far, cable, 3, false}};
        for (const auto& c : shipped().connections)
            if (c.kind == CableKind::Balanced && c.category == found->category)
                run.connections = {{End::Near, c.id, 0}, {End::Far, c.id, 0}};
    }
    job.runs.push_back(run);
    return job;
}

} // namespace burin
