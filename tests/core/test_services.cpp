#include "says.h"
// What must be true of every service on every cable, whatever the figures.
#include "core/shipped.h"
#include <cmath>

using namespace burin;

namespace {

ReachQuestion questionFor(const Cable& cable, const Service& service) {
    ReachQuestion q;
    q.link.cable = &cable;
    q.service = &service;
    q.link.stretches = {{100, 20}};
    q.headLevel = service.levelWindow ? std::optional(service.levelWindow->max) : std::nullopt;
    q.lossBudgetDb = 3;
    q.bandFromMhz = 100;
    q.bandToMhz = 400;
    if (cable.kind == CableKind::Balanced) {
        q.link.cords.assign(2, {&cable, 2, false});
        if (const Connection* c = usualConnection(shipped(), cable))
            q.link.connections.assign(2, c);
    }
    return q;
}

template <typename Check> void everywhere(Check check) {
    for (const auto& cable : shipped().cables)
        for (const auto& service : shipped().services)
            check(questionFor(cable, service), cable.id + " " + service.id);
}

double reachM(const ReachQuestion& q) {
    return findReach(q, shipped()).reachM.value_or(-1);
}

} // namespace

TEST(EveryService, saysWhy) {
    everywhere([](const ReachQuestion& q, const std::string& what) {
        const Reach reach = findReach(q, shipped());
        EXPECT_FALSE(reach.reason.empty()) << what;
        if (reach.reachM) {
            EXPECT_GE(*reach.reachM, 0) << what;
            EXPECT_TRUE(std::isfinite(*reach.reachM)) << what;
        }
        if (reach.reachM && *reach.reachM > 0) {
            EXPECT_NEAR(*reach.channelM, *reach.reachM + q.link.cordLengthM(), 1e-9) << what;
        }
        const std::string working = english(reachWorking(q, shipped(), reach));
        EXPECT_NE(working.find(q.service->source), std::string::npos) << what;
    });
}

TEST(EveryService, warmthNeverHelps) {
    everywhere([](ReachQuestion q, const std::string& what) {
        const double cool = reachM(q);
        q.link.stretches = {{100, 55}};
        EXPECT_LE(reachM(q), cool + 1e-9) << what;
    });
}

TEST(EveryService, longerCordsNeverHelp) {
    everywhere([](ReachQuestion q, const std::string& what) {
        const double before = reachM(q);
        for (auto& cord : q.link.cords)
            cord.lengthM += 5;
        EXPECT_LE(reachM(q), before + 1e-9) << what;
    });
}

TEST(EveryService, moreConnectionsNeverHelp) {
    everywhere([](ReachQuestion q, const std::string& what) {
        const double before = reachM(q);
        if (!q.link.connections.empty())
            q.link.connections.insert(q.link.connections.end(), 4, q.link.connections.front());
        EXPECT_LE(reachM(q), before + 1e-9) << what;
    });
}

TEST(EveryService, neighboursNeverHelp) {
    everywhere([](ReachQuestion q, const std::string& what) {
        for (const auto school :
             {BundleSchool::Guideline, BundleSchool::Cautious, BundleSchool::None}) {
            q.school = school;
            double last = 1e9;
            for (const int neighbours : {0, 2, 3, 5, 6, 20}) {
                q.neighbours = neighbours;
                const double now = reachM(q);
                EXPECT_LE(now, last + 1e-9) << what << " " << neighbours;
                last = now;
            }
        }
    });
}

TEST(EveryService, lossAtTheReachIsTheLimit) {
    // Where loss binds against a class, the link built to that length just holds at every
    // frequency and stands at the limit at the one that is named.
    everywhere([](ReachQuestion q, const std::string& what) {
        const Reach reach = findReach(q, shipped());
        if (reach.boundBy != Bound::InsertionLoss || q.service->limitClassIso.empty() ||
            *reach.reachM == 0)
            return;
        const Limit* limit = shipped().limit(LimitSet::Iso, q.service->limitClassIso,
                                             LinkKind::Channel, Parameter::InsertionLoss);
        q.link.stretches = {{*reach.reachM, 20}};
        const double f = *reach.atMhz;
        EXPECT_NEAR(linkLoss(q.link, shipped(), f).totalDb(), *limit->at(f), 1e-3) << what;
        for (double g = 1; g <= q.service->limitTopMhz; g += 0.37)
            ASSERT_LE(linkLoss(q.link, shipped(), g).totalDb(), *limit->at(g) + 2e-3)
                << what << " " << g;
    });
}

TEST(EveryService, lossRulesHoldAtTheReach) {
    everywhere([](ReachQuestion q, const std::string& what) {
        const Reach reach = findReach(q, shipped());
        if (!reach.reachM || *reach.reachM == 0)
            return;
        q.link.stretches = {{*reach.reachM, 20}};
        for (const auto& rule : q.service->lossRules)
            for (const double f : {rule.fromMhz, (rule.fromMhz + rule.toMhz) / 2, rule.toMhz})
                EXPECT_LE(linkLoss(q.link, shipped(), f).totalDb(), rule.maxDb + 1e-6) << what;
        if (const auto& w = q.service->levelWindow) {
            for (const double f : {w->fromMhz, w->toMhz})
                EXPECT_GE(*q.headLevel - linkLoss(q.link, shipped(), f).totalDb(), w->min - 1e-6)
                    << what;
        }
    });
}

TEST(EveryService, kindsAndImpedancesAreKept) {
    everywhere([](const ReachQuestion& q, const std::string& what) {
        const Reach reach = findReach(q, shipped());
        const auto& kinds = q.service->kinds;
        const bool fits = std::find(kinds.begin(), kinds.end(), q.link.cable->kind) != kinds.end();
        if (!fits) {
            EXPECT_EQ(reach.boundBy, Bound::CableKind) << what;
            EXPECT_EQ(*reach.reachM, 0) << what;
        }
        if (q.service->id == "tv" && q.link.cable->impedanceOhm.value == 50) {
            EXPECT_EQ(reach.boundBy, Bound::Impedance) << what;
        }
    });
}

TEST(EveryCable, lossRisesWithLengthFrequencyAndWarmth) {
    for (const auto& cable : shipped().cables) {
        double last = 0;
        // k3/√f lifts the very lowest frequencies; from 1 MHz on every cable's loss rises.
        for (double f = 1; f <= cable.topMhz.value; f *= 1.1) {
            const double now = attenuationDbPer100m(cable, f);
            EXPECT_GT(now, last) << cable.id << " " << f;
            last = now;
        }
        EXPECT_GT(attenuationDbPer100m(cable, shipped().temperature, 100, 50),
                  attenuationDbPer100m(cable, shipped().temperature, 100, 25))
            << cable.id;
        LinkParts link;
        link.cable = &cable;
        link.stretches = {{30, 20}};
        const double thirty = linkLoss(link, shipped(), 10).totalDb();
        link.stretches = {{60, 20}};
        EXPECT_NEAR(linkLoss(link, shipped(), 10).totalDb(), 2 * thirty, 1e-12) << cable.id;
    }
}

TEST(EveryCable, findingsComeWithoutFaults) {
    for (const auto& cable : shipped().cables)
        for (const auto& service : shipped().services) {
            const Job job = oneRunJob(cable.id, service.id, 20);
            const RunFinding f = findRun(job, job.runs[0], shipped(), {});
            EXPECT_TRUE(f.faults.empty()) << cable.id << " " << service.id;
            EXPECT_EQ(f.state(), State::Untested);
            for (const double loss : f.channel.lossDb)
                ASSERT_TRUE(std::isfinite(loss) && loss > 0) << cable.id;
            EXPECT_GE(f.predictedShare, 0);
            for (const auto& cure : f.cures)
                EXPECT_TRUE(cure.perDirection || shipped().cable(cure.cableId)->kind == cable.kind);
        }
}
