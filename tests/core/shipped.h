#pragma once
#include "core/finding/run_finding.h"
#include "core/job/tables.h"
#include "core/units/render.h"
#include <algorithm>
#include <gtest/gtest.h>

namespace burin {

/// The shipped catalogue, loaded once.
inline const Catalogue& shipped() {
    static const Catalogue catalogue = [] {
        auto loaded = loadCatalogue(BURIN_CATALOGUE);
        EXPECT_TRUE(loaded) << (loaded ? "" : render(loaded.error(), {}));
        return loaded ? *loaded : Catalogue{};
    }();
    return catalogue;
}

/// Trials of a random test: a build without optimization takes twenty times as long over each.
constexpr int trials(int full) {
#ifdef __OPTIMIZE__
    return full;
#else
    return full / 20;
#endif
}

/// The frequencies a field tester steps through: IEC 61935-1.
inline std::vector<double> testerGrid(double topMhz) {
    std::vector<double> out;
    for (double f = 1; f < topMhz - 1e-6;) {
        out.push_back(f);
        const double step = f < 31.25 ? 0.15 : f < 100 ? 0.25 : f < 250 ? 0.5 : 1;
        const double edge = f < 31.25 ? 31.25 : f < 100 ? 100 : f < 250 ? 250 : topMhz;
        f = std::min(f + step, edge);
    }
    out.push_back(topMhz);
    return out;
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
        if (const Connection* c = usualConnection(shipped(), *found))
            run.connections = {{End::Near, c->id, 0}, {End::Far, c->id, 0}};
    }
    job.runs.push_back(run);
    deriveIds(job);
    return job;
}

} // namespace burin
