#include "core/edit/edit.h"
#include "core/edit/removal.h"
#include "core/edit/system_edit.h"
#include "core/finding/adopt_cure.h"
#include "core/finding/job_findings.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include "says.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

Run coaxRun(const char* label, const char* service, double lengthM, const char* cable = "coax-s6") {
    Run run;
    run.id = run.label = label;
    run.roomId = "r";
    run.serviceId = service;
    run.cableId = cable;
    run.stretches = {{"tray", lengthM, 20, 0, Surroundings::FreeAir}};
    return run;
}

DistributionPart part(const char* id, const char* from, const char* runId,
                      TreePart kind = TreePart::Outlet) {
    DistributionPart out;
    out.id = id;
    out.from = from;
    out.runId = runId;
    out.unit.part = kind;
    return out;
}

double loss(double lengthM, double f, const char* cable = "coax-s6") {
    return attenuationDbPer100m(*shipped().cable(cable), f) * lengthM / 100;
}

/// A feed of 10 m to a four-way splitter and outlets at 20 and 30 m.
Job televisionJob(const char* service = "tv", double headLevel = 70) {
    Job job;
    job.rooms.push_back({"r", "SL", "Sail loft", 0, 0});
    job.runs = {coaxRun("feed", service, 10), coaxRun("TV1", service, 20),
                coaxRun("TV2", service, 30)};
    Distribution d;
    d.id = "d";
    d.name = "television";
    d.serviceId = service;
    d.headLevel = headLevel;
    d.parts = {part("s", "", "feed", TreePart::Splitter), part("a", "s", "TV1"),
               part("b", "s", "TV2")};
    d.parts[0].unit.ways = 4;
    d.parts[0].name = "shelf";
    job.distributions = {d};
    return job;
}

Job busJob() {
    Job job;
    job.rooms.push_back({"r", "MS", "Machine shop", 0, 0});
    for (const char* label : {"R1", "R2"}) {
        Run run = coaxRun(label, "rs485", 40, "bus-120");
        run.near.text = "controller";
        run.far.text = std::string("reader ") + label;
        job.runs.push_back(run);
    }
    BusChain bus = newBus(job, job.runs[0]);
    bus.id = "bus";
    bus = goingOn(bus, job, job.runs[1], 1);
    bus.devices[2].terminatorOhm = 120;
    bus.supplyV = 13.6;
    for (std::size_t i : {1U, 2U}) {
        bus.devices[i].ampere = 0.125;
        bus.devices[i].leastV = 10.8;
    }
    job.buses = {bus};
    return job;
}

const Distribution& only(const Job& job) {
    return job.distributions.front();
}

} // namespace

TEST(Systems, LevelsOfAJobsDistributionByHand) {
    const Job job = televisionJob();
    const auto f = findDistribution(job, only(job), shipped());
    ASSERT_TRUE(f.faults.empty());
    EXPECT_NEAR(f.levels.points[2].lowDb, 70 - loss(40, 47) - 7.4, 1e-9);
    EXPECT_NEAR(f.levels.points[2].highDb, 70 - loss(40, 862) - 7.4, 1e-9);
    EXPECT_EQ(f.levels.points[2].id, "TV2"); // an outlet goes by its run
    ASSERT_EQ(f.notes.size(), 1U);
    EXPECT_EQ(f.notes[0], "shelf: 2 of 4 ports open; put a terminator on each");
    Job ended = job;
    ended.distributions[0].parts[0].unit.terminators = 2;
    EXPECT_TRUE(findDistribution(ended, only(ended), shipped()).notes.empty());
}

TEST(Systems, ARunTakesItsOutlookFromItsDistribution) {
    const Job job = televisionJob("tv", 60);
    const auto all = findJob(job, shipped(), {});
    EXPECT_EQ(all.runs[1].outlook, Outlook::Holds);
    EXPECT_EQ(all.runs[2].outlook, Outlook::Fails);
    EXPECT_NE(english(all.runs[2].outlookReason).find("too little"), std::string::npos);
    const double level = 60 - loss(40, 862) - 7.4;
    EXPECT_NEAR(*all.runs[2].marginDb, level - 45, 1e-9);
    EXPECT_NEAR(all.runs[2].predictedShare, (60 - level) / (60 - 45), 1e-9);
}

TEST(Systems, CableTelevisionIsJudgedBothWays) {
    Job job = televisionJob("catv", 20); // dBmV
    auto f = findDistribution(job, only(job), shipped());
    EXPECT_EQ(f.unit, "dBmV");
    EXPECT_NEAR(f.levels.points[1].lowDb - f.unitOffsetDb, 20 - loss(30, 108) - 7.4, 1e-9);
    EXPECT_NEAR(*f.levels.points[1].returnLossDb, loss(30, 85) + 7.4, 1e-9);
    // An amplifier without a way back cuts the modem off; with one it lends its gain.
    auto with = withPartAhead(only(job), "s", *parseTreeUnit("amplifier 10"));
    job.distributions = {with};
    f = findDistribution(job, only(job), shipped());
    EXPECT_NE(english(f.levels.points[1].reason).find("lets nothing back"), std::string::npos);
    job.distributions[0].parts.back().unit.returnGainDb = 3;
    f = findDistribution(job, only(job), shipped());
    EXPECT_NEAR(*f.levels.points[1].returnLossDb, loss(30, 85) + 7.4 - 3, 1e-9);
}

TEST(Systems, OneSatelliteReceiverACable) {
    Job job = televisionJob("sat-if", 80);
    auto f = findDistribution(job, only(job), shipped());
    EXPECT_FALSE(f.good);
    EXPECT_NE(english(f.levels.points[1].reason).find("shares one output"), std::string::npos);
    job.distributions[0].parts[0].unit = *parseTreeUnit("multiswitch 4");
    job.distributions[0].parts[0].unit.terminators = 2;
    f = findDistribution(job, only(job), shipped());
    EXPECT_TRUE(f.good) << f.levels.points[1].reason;
    EXPECT_FALSE(f.head[1].has_value()); // the multiswitch feeds the head
    job.distributions[0].headOutputs = 1;
    job.distributions[0].parts = {part("a", "", "TV1"), part("b", "", "TV2"),
                                  part("c", "", "feed")};
    f = findDistribution(job, only(job), shipped());
    ASSERT_FALSE(f.notes.empty());
    EXPECT_NE(english(f.notes[0]).find("3 cables leave a head of 1 output"), std::string::npos);
}

TEST(Systems, CopperCladSteelStarvesASatelliteHead) {
    Job job = televisionJob("sat-if", 85);
    job.runs[1] = coaxRun("TV1", "sat-if", 60, "coax-s6");
    job.distributions[0].parts = {part("a", "", "TV1")};
    job.distributions[0].headAmpere = 0.3;
    auto f = findDistribution(job, only(job), shipped());
    ASSERT_TRUE(f.head[0]);
    // (92 + 30) Ω/km over 60 m is 7.32 Ω; 0.3 A of it 2.196 V.
    EXPECT_NEAR(f.head[0]->lowV, 13 - 2.196, 1e-9);
    EXPECT_FALSE(f.good);
    // (21 + 30) Ω/km leaves 13 − 0.918 V.
    EXPECT_NE(english(f.levels.points[0].reason).find("a solid copper centre would leave 12.1"),
              std::string::npos)
        << f.levels.points[0].reason;
}

TEST(Systems, AnInHomeNetworkIsJudgedBetweenOutlets) {
    Job job = televisionJob("coax-lan");
    EXPECT_TRUE(findDistribution(job, only(job), shipped()).good);
    job.runs[1].stretches[0].lengthM = 100;
    const auto f = findDistribution(job, only(job), shipped());
    EXPECT_FALSE(f.good);
    EXPECT_NE(english(f.notes[0]).find("TV1 and TV2"), std::string::npos);
    EXPECT_NE(english(findJob(job, shipped(), {}).runs[1].outlookReason).find("dB apart"),
              std::string::npos);
}

TEST(Systems, BusOfAJobWithItsSupplyByHand) {
    const Job job = busJob();
    const auto f = findBusChain(job, job.buses[0], shipped());
    ASSERT_TRUE(f.faults.empty());
    EXPECT_TRUE(f.good) << english(f.reasons[2]);
    // Two loads of 0.125 A at 40 and 80 m of a 22 AWG pair, 105.92 Ω/km of loop.
    EXPECT_NEAR(f.supply[1]->volt, 13.6 - 0.25 * 40 * 0.10592, 1e-4);
    EXPECT_NEAR(f.supply[2]->volt, 13.6 - 0.25 * 40 * 0.10592 - 0.125 * 40 * 0.10592, 1e-4);
    EXPECT_NEAR(f.wave.points[2].atM, 80, 1e-9);
    EXPECT_TRUE(f.notes.empty()) << f.notes[0];
}

TEST(Systems, AStrikeOnTheReadersPairIsBlamed) {
    Job job = busJob();
    job.buses[0].devices[2].strikeAmpere = 0.5;
    auto f = findBusChain(job, job.buses[0], shipped());
    EXPECT_FALSE(f.good);
    EXPECT_NE(english(f.reasons[2][0]).find("10.80 V are needed"), std::string::npos)
        << f.reasons[2][0];
    // Each cure was put in place: with it the whole bus is good.
    ASSERT_FALSE(f.cures.empty());
    for (const auto& cure : f.cures) {
        if (!cure.after)
            continue;
        Job with = job;
        with.buses[0] = *cure.after;
        EXPECT_TRUE(findBusChain(with, with.buses[0], shipped()).good) << cure.what;
    }
    const auto has = [&](const char* what) {
        return std::any_of(f.cures.begin(), f.cures.end(), [&](const auto& cure) {
            return english(cure.what).find(what) != std::string::npos;
        });
    };
    // Two pairs in parallel bring 10.7 V: that is none; three do.
    EXPECT_FALSE(has("2 pairs in parallel"));
    EXPECT_TRUE(has("3 pairs in parallel"));
    EXPECT_TRUE(has("a supply of its own for the strike"));
    // A composite cable has thicker conductors for it: 18 AWG is 2.53 times lighter on volts.
    for (auto& run : job.runs)
        run.cableId = "door-composite";
    f = findBusChain(job, job.buses[0], shipped());
    const double ohm = 2 * wireOhmPerM(18) * 40;
    EXPECT_NEAR(f.supply[2]->volt, 13.6 - 0.75 * ohm - 0.625 * ohm, 1e-6);
    job.buses[0].supplyPairs = 2;
    f = findBusChain(job, job.buses[0], shipped());
    EXPECT_NEAR(f.supply[2]->volt, 13.6 - (0.75 + 0.625) * ohm / 2, 1e-6);
}

TEST(Systems, SolidWireAndItsRunsVerdict) {
    Job job = busJob();
    for (auto& run : job.runs)
        run.cableId = "cat5e-utp";
    job.buses[0].devices[2].terminatorOhm.reset();
    const auto all = findJob(job, shipped(), {});
    std::string notes;
    for (const auto& note : all.buses[0].notes)
        notes += english(note) + "\n";
    EXPECT_NE(notes.find("solid conductors do not belong"), std::string::npos);
    EXPECT_NE(notes.find("120 Ω is wanted"), std::string::npos);
    EXPECT_NE(notes.find("without a terminator"), std::string::npos);
    EXPECT_NE(english(all.runs[1].outlookReason).find("at reader R2"), std::string::npos);
}

TEST(Systems, OnlyWhatAnEditReachesIsComputedAgain) {
    Job job = televisionJob();
    const Job buses = busJob();
    job.runs.insert(job.runs.end(), buses.runs.begin(), buses.runs.end());
    job.buses = buses.buses;
    for (int i = 0; i < 20; ++i) {
        auto& run = job.runs.emplace_back(oneRunJob().runs.front());
        run.id = run.label = "D" + std::to_string(i);
    }
    const auto first = findJob(job, shipped(), {});
    EXPECT_EQ(first.computed, 25);
    const auto again = [&](const Job& after) {
        const auto fresh = findJob(after, shipped(), {});
        const auto partly = findJob(after, shipped(), {}, {}, {&job, &first});
        for (std::size_t i = 0; i < after.runs.size(); ++i) {
            EXPECT_EQ(partly.runs[i].outlookReason, fresh.runs[i].outlookReason);
            EXPECT_EQ(partly.runs[i].predictedShare, fresh.runs[i].predictedShare);
        }
        return partly.computed;
    };
    EXPECT_EQ(again(job), 0);
    Job edited = job;
    edited.runs[7].stretches[0].lengthM += 1;
    EXPECT_EQ(again(edited), 1); // a plain run reaches itself
    edited = job;
    edited.runs[0].stretches[0].lengthM += 1;
    EXPECT_EQ(again(edited), 3); // the feed of the splitter reaches what hangs on it
    edited = job;
    edited.buses[0].supplyV = 12;
    EXPECT_EQ(again(edited), 2);
    edited = job;
    edited.distributions.clear();
    EXPECT_EQ(again(edited), 3);
    edited = job;
    edited.info.school = BundleSchool::Cautious;
    EXPECT_EQ(again(edited), 25);
}

TEST(Systems, FindingsAreTheSameOnAnyNumberOfThreadsAndStop) {
    Job job;
    for (int i = 0; i < 40; ++i) {
        auto& run = job.runs.emplace_back(oneRunJob().runs.front());
        run.id = run.label = "D" + std::to_string(i);
        run.stretches[0].lengthM = 40 + i;
    }
    JobFindingOptions one;
    one.threads = 1;
    JobFindingOptions four;
    four.threads = 4;
    const auto a = findJob(job, shipped(), {}, one);
    const auto b = findJob(job, shipped(), {}, four);
    for (std::size_t i = 0; i < 40; ++i) {
        EXPECT_EQ(a.runs[i].label, b.runs[i].label);
        EXPECT_EQ(a.runs[i].predictedShare, b.runs[i].predictedShare);
    }
    one.stop = [] { return true; };
    EXPECT_TRUE(findJob(job, shipped(), {}, one).stopped);
}

TEST(Systems, EditsRefuseWhatCannotBeAndRemovalTakesARunOut) {
    Job job = televisionJob();
    deriveIds(job);
    const auto refusal = [&](const Distribution& after) {
        const auto done =
            apply(job, {"try", {put(std::optional(only(job)), std::optional(after))}});
        return done ? std::string() : render(done.error(), {});
    };
    Distribution twice = only(job);
    twice.parts[2].runId = "TV1";
    EXPECT_NE(refusal(twice).find("feeds two places"), std::string::npos);
    Distribution lost = only(job);
    lost.parts[2].runId = "nobody";
    EXPECT_NE(refusal(lost).find("not in the job"), std::string::npos);
    Distribution loose = only(job);
    loose.parts[1].from = "nowhere";
    EXPECT_NE(refusal(loose).find("its part is not in the job"), std::string::npos);
    const auto without = apply(job, {"remove", removalOf(job, "TV1")});
    ASSERT_TRUE(without) << render(without.error(), {});
    EXPECT_EQ(only(*without).parts.size(), 2U);
    const auto unfed = apply(job, {"remove", removalOf(job, "feed")});
    ASSERT_TRUE(unfed);
    EXPECT_TRUE(only(*unfed).parts[0].runId.empty()); // the shelf stays
    Job bus = busJob();
    deriveIds(bus);
    const auto shorter = apply(bus, {"remove", removalOf(bus, "R1")});
    ASSERT_TRUE(shorter);
    EXPECT_EQ(shorter->buses[0].devices.size(), 2U);
}

TEST(Systems, PartsAsTyped) {
    for (const char* text : {"splitter 4", "tap 14", "amplifier 20 slope 6", "multiswitch 8",
                             "amplifier 18 return 0", "splitter 6 ended 2"}) {
        const auto unit = parseTreeUnit(text);
        ASSERT_TRUE(unit) << text << ": " << render(unit.error(), {});
        EXPECT_EQ(treeUnitText(*unit), text);
    }
    EXPECT_DOUBLE_EQ(parseTreeUnit("tap 14 dB")->throughDb, 1.5);
    for (const char* text : {"", "splitter", "splitter 1", "splitter 2.5", "tap x", "outlet 4",
                             "amplifier 20 slope", "amplifier 20 blue", "multiswitch 99"})
        EXPECT_FALSE(parseTreeUnit(text)) << text;
}

TEST(Systems, PartsArePutAheadAndTakenOut) {
    const Job job = televisionJob();
    auto with = withPartAhead(only(job), "b", *parseTreeUnit("tap 10"));
    ASSERT_EQ(with.parts.size(), 4U);
    EXPECT_EQ(with.parts[3].from, "s");
    EXPECT_EQ(with.parts[2].from, with.parts[3].id);
    EXPECT_TRUE(with.parts[2].fromTap);
    const auto back = withoutPart(with, with.parts[3].id);
    ASSERT_TRUE(back);
    EXPECT_EQ(**back, only(job));
    // Two outlets cannot both hang on one amplifier.
    Distribution d = withPartAhead(only(job), "s", *parseTreeUnit("amplifier 10"));
    const auto refused = withoutPart(d, "s");
    ASSERT_FALSE(refused);
    EXPECT_NE(render(refused.error(), {}).find("2 hang on it"), std::string::npos);
    const auto moved = hungOn(d, job.runs[2], "", false);
    EXPECT_EQ(moved.parts[2].from, "");
    EXPECT_EQ(moved.parts.size(), d.parts.size());
}

TEST(Systems, AnAdoptedProposalHolds) {
    Job job = televisionJob("tv", 64);
    job.runs[1].stretches[0].lengthM = 120;
    job.runs[2].stretches[0].lengthM = 110;
    const auto before = findDistribution(job, only(job), shipped());
    ASSERT_FALSE(before.good);
    const auto proposal = proposeTree(before.tree, shipped());
    ASSERT_TRUE(proposal && proposal->possible)
        << english(proposal ? proposal->reason : Sentence());
    const auto edited = apply(job, adoption(job, only(job), *proposal, before.tree));
    ASSERT_TRUE(edited) << render(edited.error(), {});
    job = *edited;
    const auto after = findDistribution(job, only(job), shipped());
    EXPECT_TRUE(after.good) << after.levels.points[1].reason;
    // What no amplifier cures is said, and nothing is proposed.
    const Job sat = televisionJob("sat-if", 85);
    const auto none = proposeTree(findDistribution(sat, only(sat), shipped()).tree, shipped());
    EXPECT_FALSE(none->possible);
    EXPECT_NE(english(none->reason).find("shares one output"), std::string::npos);
}

namespace {

/// Every cure of its system that stands among a run's is adopted by itself; how many there were.
int systemCuresThatHold(const Job& job, const std::string& runId) {
    JobFindingOptions verdictsAlone;
    verdictsAlone.cures = false;
    JobFindings all = findJob(job, shipped(), {}, verdictsAlone);
    findCures(job, shipped(), runId, all, {});
    double before = 0;
    int count = 0;
    for (const Cure& cure : all.cures) {
        if (cure.holds) {
            EXPECT_GE(cure.cost.total(shipped().costs), before) << cure.title;
            before = cure.cost.total(shipped().costs);
        }
        if (cure.of != CureOf::System || !cure.canBeAdopted())
            continue;
        ++count;
        const auto then = apply(job, adopted(job, all, runId, cure));
        EXPECT_TRUE(then) << cure.title;
        const auto found = findJob(*then, shipped(), {});
        for (const auto& run : found.runs)
            EXPECT_TRUE(run.isPredicted()) << cure.title << ": " << run.runId;
        // Not into what has become another system since.
        Job other = job;
        for (auto& d : other.distributions)
            d.parts.pop_back();
        for (auto& bus : other.buses)
            bus.devices.pop_back();
        EXPECT_TRUE(adopted(other, all, runId, cure).changes.empty()) << cure.title;
    }
    return count;
}

} // namespace

TEST(Systems, WhatCuresThemStandsAmongWhatCuresTheirRuns) {
    EXPECT_EQ(systemCuresThatHold(televisionJob(), "TV2"), 0); // it is good
    Job job = televisionJob("tv", 64);
    job.runs[1].stretches[0].lengthM = 120;
    job.runs[2].stretches[0].lengthM = 110;
    EXPECT_EQ(systemCuresThatHold(job, "TV1"), 1);
    EXPECT_EQ(systemCuresThatHold(job, "TV2"), 1);
    EXPECT_EQ(systemCuresThatHold(televisionJob("sat-if", 85), "TV1"), 0); // nothing cures it
    Job bus = busJob();
    bus.buses[0].devices[2].strikeAmpere = 0.5;
    EXPECT_GE(systemCuresThatHold(bus, "R2"), 1);
}

TEST(Systems, JsonRoundTripKeepsThem) {
    Job job = televisionJob();
    const Job bus = busJob();
    job.runs.insert(job.runs.end(), bus.runs.begin(), bus.runs.end());
    job.buses = bus.buses;
    job.buses[0].supplyAwg = 18;
    job.buses[0].devices[2].mostV = 15;
    job.runs[1].poweredType = 3;
    job.runs[1].perDirection = true;
    job.runs[1].stretches[0].around = Surroundings::Conduit;
    job.runs[1].connections = {{End::Far, "f-compression", 0, true}};
    job.distributions[0].parts[0].unit.returnGainDb = std::nullopt;
    std::stable_sort(job.runs.begin(), job.runs.end(),
                     [](const auto& a, const auto& b) { return a.label < b.label; });
    deriveIds(job);
    const auto read = readJob(toJson(job), "round trip");
    ASSERT_TRUE(read) << render(read.error(), {});
    EXPECT_EQ(*read, job);
    auto spoilt = toJson(job);
    spoilt["distributions"][0]["parts"][0]["ways"] = 99;
    EXPECT_FALSE(readJob(spoilt, "spoilt"));
}

TEST(Systems, AFindingAnEditBehindSaysNothingWrong) {
    Job job = televisionJob();
    const auto known = findJob(job, shipped(), {});
    // A run hung on since is not in what was found; nor is the finding taken for the new tree.
    job.runs.push_back(coaxRun("TV3", "tv", 40));
    job.distributions[0] = hungOn(only(job), job.runs.back(), "s", false);
    RunFinding fresh = findRun(job, job.runs.back(), shipped(), {});
    const Sentence before = fresh.outlookReason;
    known.overlaySystems(fresh, job, shipped());
    EXPECT_EQ(fresh.outlookReason, before);
    EXPECT_FALSE(known.distributions[0].fits(only(job)));
    EXPECT_TRUE(findJob(job, shipped(), {}).distributions[0].fits(only(job)));
    Job bus = busJob();
    const auto waves = findJob(bus, shipped(), {});
    bus.buses[0] = goingOn(bus.buses[0], bus, bus.runs[0], 2); // R1 behind R2
    EXPECT_FALSE(waves.buses[0].fits(bus.buses[0]));
    EXPECT_FALSE(waves.buses[0].deviceAt("").has_value());
}
