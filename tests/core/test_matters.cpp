// What stands in the verdict of a run besides its length: fit, warmth, the permanent link, lengths
// that differ from the plan, lightning; and services whose rule is not a class.
#include "core/edit/system_edit.h"
#include "core/finding/cable_choice.h"
#include "core/finding/job_findings.h"
#include "core/finding/site_finding.h"
#include "core/shipped.h"
#include "core/tray_job.h"
#include "core/units/units.h"
#include "says.h"
#include <cmath>

using namespace burin;

namespace {

RunFinding found(const Job& job) {
    return findRun(job, job.runs[0], shipped(), {}, {.alternatives = false});
}

bool notes(const RunFinding& f, const char* words) {
    return std::any_of(f.notes.begin(), f.notes.end(), [&](const auto& note) {
        return english(note).find(words) != std::string::npos;
    });
}

double reachFor(const char* cable, const char* service) {
    Job job = oneRunJob(cable, service, 10);
    job.runs[0].cords.clear();
    const auto reach = found(job).reach;
    return reach.reachM.value_or(-1);
}

} // namespace

TEST(Matters, aConnectorThatDoesNotFitIsPartOfTheVerdict) {
    Job job = oneRunJob("coax-s6", "tv", 30);
    job.runs[0].headLevel = 70;
    job.runs[0].connections = {{End::Near, "f-compression", 0}, {End::Far, "f-compression", 0}};
    EXPECT_EQ(found(job).outlook, Outlook::Holds) << found(job).outlookReason;
    for (const char* wrong : {"n", "uhf", "bnc-50", "f-compression-11"}) {
        job.runs[0].connections[1].connectionId = wrong;
        const auto f = found(job);
        EXPECT_EQ(f.outlook, Outlook::Fails) << wrong;
        EXPECT_TRUE(says(f.outlookReason, "does not fit")) << f.outlookReason;
        EXPECT_TRUE(notes(f, "does not fit"));
    }
    Job radio = oneRunJob("coax-ll10", "feedline", 20);
    radio.runs[0].lossBudgetDb = 3;
    radio.runs[0].bandToMhz = 440;
    radio.runs[0].connections = {{End::Near, "n", 0}, {End::Far, "uhf", 0}};
    EXPECT_TRUE(says(found(radio).outlookReason, "UHF does not fit, band"));
    radio.runs[0].bandToMhz = 146;
    EXPECT_EQ(found(radio).outlook, Outlook::Holds);
    // Weather is a note: it holds today.
    radio.runs[0].connections[1].outdoors = true;
    EXPECT_EQ(found(radio).outlook, Outlook::Holds);
    EXPECT_TRUE(notes(found(radio), "not sealed"));
}

TEST(Matters, whatCannotBeSaidIsNotSaidToHold) {
    Job job = oneRunJob("cat6a-utp", "10g", 0);
    EXPECT_EQ(found(job).outlook, Outlook::Unknown);
    EXPECT_TRUE(says(found(job).outlookReason, "0 m"));
    job = oneRunJob("cat6a-utp", "1g", 30);
    job.runs[0].stretches[0].temperatureC = 70;
    EXPECT_EQ(found(job).outlook, Outlook::Fails);
    EXPECT_TRUE(says(found(job).outlookReason, "over the 60 °C"));
    job = oneRunJob("coax-s6", "sdi-270", 30);
    job.runs[0].poweredType = 2;
    EXPECT_TRUE(says(found(job).outlookReason, "coax has none"));
    job = oneRunJob("cat6a-futp", "10g", 30);
    EXPECT_FALSE(notes(found(job), "screen"));
    job.runs[0].cords[0].cableId = "cat6a-utp";
    EXPECT_TRUE(notes(found(job), "screened cable with unscreened cords"));
    job.runs[0].connections[0].connectionId = "conn-cat6a";
    EXPECT_TRUE(notes(found(job), "unscreened jack"));
}

TEST(Matters, thePermanentLinkIsPartOfTheReach) {
    Job job = oneRunJob("cat5e-utp", "1g", 92);
    const auto f = found(job);
    EXPECT_EQ(f.outlook, Outlook::Fails) << f.outlookReason;
    EXPECT_EQ(f.reach.boundBy, Bound::PermanentLink);
    ASSERT_TRUE(f.reach.permanentM);
    // Independent: loss of that length without cords stands at the class's own limit.
    const LinkParts permanent = linkOf(withLength(job.runs[0], *f.reach.permanentM), shipped(),
                                       LinkKind::Permanent, nullptr);
    const double at = *f.reach.atMhz;
    EXPECT_NEAR(
        linkLoss(permanent, shipped(), at).totalDb(),
        *shipped().limit(LimitSet::Iso, "D", LinkKind::Permanent, Parameter::InsertionLoss)->at(at),
        1e-3);
    // Short and cool, 90 m are what is left.
    Job cool = oneRunJob("cat6a-futp", "1g", 20);
    EXPECT_DOUBLE_EQ(*found(cool).reach.reachM, 90);
    // What proves no class is not held to it.
    for (const char* service : {"voice", "10-t1l"})
        EXPECT_FALSE(found(oneRunJob("cat6-utp", service, 20)).reach.permanentM) << service;
}

TEST(Matters, shortLinksSayWhatATesterShows) {
    EXPECT_TRUE(notes(found(oneRunJob("cat6a-utp", "10g", 2)), "every 50.2 MHz (v/2ℓ)"));
    EXPECT_TRUE(notes(found(oneRunJob("cat6a-utp", "10g", 0.5)), "class limits were not made"));
    EXPECT_FALSE(notes(found(oneRunJob("cat6a-utp", "10g", 12)), "v/2ℓ"));
    EXPECT_FALSE(notes(found(oneRunJob("coax-s6", "cvbs", 2)), "v/2ℓ"));
}

TEST(Matters, tooMuchSignalNamesNoLengthThatDoesNotWork) {
    Job job = oneRunJob("coax-s6", "tv", 3);
    job.runs[0].headLevel = 95;
    job.runs[0].connections = {{End::Near, "f-compression", 0}, {End::Far, "f-compression", 0}};
    const auto f = findRun(job, job.runs[0], shipped(), {});
    EXPECT_EQ(f.outlook, Outlook::Fails);
    EXPECT_GT(f.reach.leastM, *f.reach.reachM);
    EXPECT_TRUE(says(f.outlookReason, "no length of this cable")) << f.outlookReason;
    const auto pad = std::find_if(f.cures.begin(), f.cures.end(),
                                  [](const auto& cure) { return says(cure.title, "a pad of"); });
    ASSERT_NE(pad, f.cures.end());
    EXPECT_TRUE(pad->holds);
}

TEST(Matters, aTypedLengthFarFromItsWayIsAsked) {
    Job job = trayJob("cat6a-utp");
    SitePlan plan = planSite(job, shipped());
    const double way = plan.routes[0].linkM;
    job.runs[0].followsPlan = false;
    job.runs[0].serviceId = "10g";
    const auto typed = [&](double metres) {
        job.runs[0].stretches = {{"tray", metres, 20, 0}};
        plan = planSite(job, shipped());
        return std::count_if(plan.findings.begin(), plan.findings.end(),
                             [](const auto& f) { return f.matter == SiteMatter::Length; });
    };
    EXPECT_EQ(typed(way), 0);
    EXPECT_EQ(typed(way + 2.9), 0);
    EXPECT_EQ(typed(way * 1.1 + 3.1), 1);
    EXPECT_EQ(typed(std::max(1.0, way - std::max(0.1 * way, 3.0) - 0.2)), 1);
    EXPECT_TRUE(differsFromWay(54, 85.1));
    EXPECT_FALSE(differsFromWay(82, 85.1));
    EXPECT_FALSE(differsFromWay(100, 92)); // under a tenth
    // Where the typed one holds and the way would not, nobody can say that it holds.
    job.runs[0].cableId = "cat6-utp";
    job.runs[0].stretches = {{"tray", way / 2, 20, 30}};
    RunFinding f = found(job);
    ASSERT_EQ(f.outlook, Outlook::Holds) << f.outlookReason;
    SitePlan far = planSite(job, shipped());
    far.routes[0].linkM = 200;
    overlaySite(f, job.runs[0], far);
    EXPECT_EQ(f.outlook, Outlook::Unknown);
    EXPECT_TRUE(says(f.outlookReason, "which of them is right"));
    far.routes[0].linkM = way / 2;
    overlaySite(f, job.runs[0], far); // the plan put right: as before
    EXPECT_EQ(f.outlook, Outlook::Holds);
    EXPECT_FALSE(f.wayM);
}

TEST(Matters, outdoorsCarriesItsSentence) {
    for (const char* service : {"sat-if", "feedline", "gnss"}) {
        const bool radio = std::string(service) != "sat-if";
        EXPECT_TRUE(says(found(oneRunJob(radio ? "coax-ll10" : "coax-s6", service, 20)).caution,
                         "lightning"))
            << service;
    }
    Job job = oneRunJob("cat6-utp", "1g", 20);
    EXPECT_TRUE(found(job).caution.empty());
    job.runs[0].connections[1].outdoors = true;
    EXPECT_TRUE(says(found(job).caution, "local code"));
    Job tray = trayJob("cat6-utp");
    tray.pathways[0].kind = PathwayKind::Outdoors;
    const SitePlan plan = planSite(tray, shipped());
    const Job laid = laidJob(tray, plan);
    RunFinding f = found(laid);
    EXPECT_TRUE(f.caution.empty());
    overlaySite(f, laid.runs[0], plan);
    EXPECT_TRUE(says(f.caution, "lightning"));
    EXPECT_EQ(formatWatt(12.95), "12.95 W");
    EXPECT_EQ(formatWatt(25.5), "25.5 W");
    EXPECT_EQ(formatWatt(60), "60 W");
}

TEST(Matters, servicesOfTheirOwnRules) {
    // 10BASE-T: 11.5 dB at 10 MHz, and 100 m.
    EXPECT_NEAR(reachFor("cat6-utp", "10m"), 90, 1e-9); // a permanent link of generic cabling
    // Single pair: its own limit over 1,000 m, on its own cable.
    EXPECT_DOUBLE_EQ(reachFor("spe18", "10-t1l"), 1000);
    EXPECT_LT(reachFor("cat6-utp", "10-t1l"), 1000);
    EXPECT_DOUBLE_EQ(reachFor("cat6a-utp", "100-t1"), 15);
    // Loudspeakers: one decibel is 0.976 Ω of loop at 8 Ω; 16 AWG has 26.34 Ω/km of it.
    EXPECT_NEAR(reachFor("speaker16", "speaker-8"), 8 * (std::pow(10, 0.05) - 1) / 0.02634, 0.05);
    EXPECT_NEAR(reachFor("speaker16", "speaker-100v") / reachFor("speaker16", "speaker-8"), 12.5,
                1e-6);
    // Leased circuits on screened pairs of their own go as far as their loss allows.
    EXPECT_GT(reachFor("leased-22", "t1"), 200);
    EXPECT_LT(reachFor("cat6-utp", "t1"), 5);
    EXPECT_DOUBLE_EQ(reachFor("pair24-120", "can-125"), 500);
    EXPECT_DOUBLE_EQ(reachFor("cat5e-utp", "can-125"), 0); // 100 Ω, not 120
    EXPECT_DOUBLE_EQ(reachFor("lock18", "wiegand"), 150);
    // E3: 12 dB at 17.184 MHz.
    const auto& s59 = *shipped().cable("coax-s59-cu");
    EXPECT_NEAR(reachFor("coax-s59-cu", "e3"), 12 / attenuationDbPer100m(s59, 17.184) * 100, 15);
    EXPECT_LT(reachFor("coax-rg62", "e3"), 1); // 93 Ω
    // Classes of powered devices go by their own watts.
    EXPECT_DOUBLE_EQ(poweredClass(5)->deviceW, 40);
    EXPECT_EQ(poweredClass(5)->pairs, 4);
    EXPECT_FALSE(poweredClass(9));
    Job job = oneRunJob("cat5e-utp", "1g", 85);
    job.runs[0].poweredClass = 3;
    const auto f = found(job);
    ASSERT_TRUE(f.powered);
    EXPECT_DOUBLE_EQ(f.powered->wantedW, 12.95);
    EXPECT_TRUE(f.powered->delivered);
}

TEST(Matters, cordsOfThinWireLoseWhatTheyLose) {
    const Cable& thin = *shipped().cable("cord28-cat6a");
    const Cable& cable = *shipped().cable("cat6a-utp");
    EXPECT_NEAR(cordLossDb({&thin, 10, false}, shipped().cord, 100),
                1.95 * attenuationDbPer100m(cable, 100) / 10, 1e-3);
    // Heat of a bundle goes with the resistance: 28 AWG has 3.2 times that of 23.
    EXPECT_NEAR(thin.conductorOhmPerKm.value / cable.conductorOhmPerKm.value, 3.19, 0.01);
}

TEST(Matters, choicesReadTheirNeedsFromOnePlace) {
    // A bus is offered its own kind of pair before any data cable.
    Job job = oneRunJob("cat3-utp", "rs485", 40);
    job.runs[0].cords.clear();
    const SitePlan plan = planSite(job, shipped());
    const auto bus = chooseCable(job, job.runs[0], plan, shipped());
    ASSERT_FALSE(bus.empty());
    EXPECT_TRUE(bus[0].holds);
    EXPECT_NEAR(shipped().cable(bus[0].cableId)->impedanceOhm.value, 120, 1);
    // A leased circuit beyond its few metres is offered screened pairs.
    job.runs[0].serviceId = "t1";
    const auto leased = chooseCable(job, job.runs[0], plan, shipped());
    EXPECT_EQ(shipped().cable(leased[0].cableId)->screen, Screen::Pairs) << leased[0].cableId;
}
