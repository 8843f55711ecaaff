// Every change that is shown as a cure is put in place here and computed again: of runs, buses and
// feedlines (trees: test_tree.cpp).
#include "core/coax/feedline.h"
#include "core/edit/system_edit.h"
#include "core/finding/alternatives.h"
#include "core/finding/bus_cures.h"
#include "core/finding/job_findings.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include "says.h"
#include <cstdlib>
#include <random>

using namespace burin;

namespace {

class Dice {
public:
    explicit Dice(unsigned seed) : random_(seed) {}
    int upTo(int most) { return std::uniform_int_distribution<int>(0, most)(random_); }
    double between(double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random_);
    }
    template <typename T> const T& of(const std::vector<T>& list) {
        return list[static_cast<std::size_t>(upTo(static_cast<int>(list.size()) - 1))];
    }

private:
    std::mt19937 random_;
};

bool good(const RunFinding& f) {
    return f.outlook == Outlook::Holds || f.outlook == Outlook::Tight;
}

RunFinding plain(const Job& job, const Run& run) {
    return findRun(job, run, shipped(), {},
                   {.points = 40, .alternatives = false, .measurements = false, .reaches = false});
}

} // namespace

TEST(Cures, aThousandRunsWithSomethingWrong) {
    Dice dice(7);
    const std::vector<std::string> balanced{"cat5e-utp", "cat6-utp",  "cat6a-utp", "cat6a-futp",
                                            "cat3-utp",  "cat7-sftp", "cat5-utp"};
    const std::vector<std::string> coax{"coax-s6", "coax-s59", "coax-s11-quad", "coax-sat46",
                                        "coax-rg58"};
    const std::vector<std::string> data{"1g", "10g", "5g", "100m", "t1", "voice", "25g"};
    const std::vector<std::string> video{"tv", "sat-if", "sdi-2970", "sdi-270", "cvbs", "catv"};
    int failing = 0;
    int cures = 0;
    int parts = 0;
    std::array<int, cureWords.words.size()> kinds{};
    const int count = trials(1000);
    for (int i = 0; i < count; ++i) {
        const bool pairs = i % 2 == 0;
        Job job = oneRunJob(pairs ? dice.of(balanced) : dice.of(coax),
                            pairs ? dice.of(data) : dice.of(video), dice.between(1, 150));
        burin::Run& run = job.runs[0];
        run.stretches[0].temperatureC = dice.upTo(3) == 0 ? dice.between(20, 70) : 20;
        run.stretches[0].neighbours = dice.upTo(40);
        if (pairs && dice.upTo(3) == 0)
            run.poweredType = 1 + dice.upTo(3);
        if (pairs && dice.upTo(2) == 0) {
            // Cords too long, too thin or of less than the cable; ends likewise.
            for (auto& cord : run.cords) {
                cord.lengthM = 0.5 * dice.upTo(40);
                cord.awg26 = dice.upTo(2) == 0;
                if (dice.upTo(2) == 0)
                    cord.cableId = dice.of(balanced);
            }
            if (dice.upTo(1) == 0)
                run.connections[0].connectionId =
                    usualConnection(shipped(), *shipped().cable(dice.of(balanced)))->id;
        }
        if (!pairs) {
            run.headLevel = run.serviceId == "catv" ? dice.between(-10, 30) : dice.between(40, 110);
            const std::vector<std::string> ends{"f-compression", "bnc", "n", "uhf"};
            run.connections = {{End::Near, dice.of(ends), 0}, {End::Far, dice.of(ends), 0}};
        }
        const RunFinding f = findRun(job, run, shipped(), {}, {.points = 40, .reaches = false});
        EXPECT_FALSE(f.outlookReason.empty());
        failing += good(f) ? 0 : 1;
        for (const auto& cure : f.cures) {
            if (!cure.holds)
                continue;
            ++cures;
            ++kinds[static_cast<std::size_t>(cure.of)];
            if (cure.of == CureOf::Part) {
                ++parts; // parts ahead of it: held against the tree they make in test_tree.cpp
                EXPECT_FALSE(good(f)) << cure.title;
                continue;
            }
            const RunFinding then = plain(job, cured(run, cure));
            EXPECT_TRUE(good(then)) << run.serviceId << " " << run.cableId << " → " << cure.title
                                    << ": " << then.outlookReason;
        }
        // Cheapest first, and what does not hold after what does.
        for (std::size_t k = 1; k < f.cures.size(); ++k) {
            const auto& a = f.cures[k - 1];
            const auto& b = f.cures[k];
            EXPECT_TRUE(a.holds || !b.holds);
            if (a.holds && b.holds) {
                EXPECT_LE(a.cost.total(shipped().costs), b.cost.total(shipped().costs) + 1e-9);
            }
        }
        // Where any cable of its kind cures it, one is shown.
        if (good(f) || i % 5 != 0)
            continue;
        bool possible = false;
        for (const auto& cable : shipped().cables)
            possible = possible || (cable.kind == shipped().cable(run.cableId)->kind &&
                                    good(plain(job, rebuilt(run, shipped(), cable))));
        const bool shown = std::any_of(f.cures.begin(), f.cures.end(),
                                       [](const auto& cure) { return cure.holds; });
        EXPECT_TRUE(shown || !possible) << run.serviceId << " on " << run.cableId;
    }
    EXPECT_GT(failing, count * 2 / 5);
    EXPECT_GT(cures, count);
    EXPECT_GT(parts, count / 50);
    for (const CureOf of : {CureOf::Connections, CureOf::Cords, CureOf::Bundle, CureOf::Direction})
        EXPECT_GT(kinds[static_cast<std::size_t>(of)], count / 500) << cureWords[of];
}

TEST(Cures, nothingMoreIsAskedThanIsNeeded) {
    // Cords of 20 m at each end: no longer than they may be, to half a metre.
    Job job = oneRunJob("cat6a-utp", "10g", 85);
    for (auto& cord : job.runs[0].cords)
        cord.lengthM = 20;
    const auto cures = curesOf(job, job.runs[0], shipped());
    const auto cords = std::find_if(cures.begin(), cures.end(),
                                    [](const Cure& c) { return c.of == CureOf::Cords; });
    ASSERT_NE(cords, cures.end());
    burin::Run run = cured(job.runs[0], *cords);
    EXPECT_TRUE(good(plain(job, run)));
    EXPECT_EQ(run.cords[0].lengthM, run.cords[1].lengthM);
    for (auto& cord : run.cords)
        cord.lengthM += 0.5;
    EXPECT_FALSE(good(plain(job, run)));

    // A bundle that is too large for it: as many as may lie in it, and not one more.
    job = oneRunJob("cat6-utp", "10g", 45);
    job.runs[0].stretches[0].neighbours = 60;
    ASSERT_FALSE(good(plain(job, job.runs[0])));
    const auto apart = curesOf(job, job.runs[0], shipped());
    const auto bundle = std::find_if(apart.begin(), apart.end(),
                                     [](const Cure& c) { return c.of == CureOf::Bundle; });
    ASSERT_NE(bundle, apart.end());
    run = cured(job.runs[0], *bundle);
    EXPECT_TRUE(good(plain(job, run)));
    ++run.stretches[0].neighbours;
    EXPECT_FALSE(good(plain(job, run)));
    // Where the plan lays it there is no field for that: it is said, and nothing can be pressed.
    job.runs[0].followsPlan = true;
    const auto laid = curesOf(job, job.runs[0], shipped());
    const auto said = std::find_if(laid.begin(), laid.end(),
                                   [](const Cure& c) { return c.of == CureOf::Bundle; });
    ASSERT_NE(said, laid.end());
    EXPECT_FALSE(said->canBeAdopted());
    EXPECT_EQ(cured(job.runs[0], *said), job.runs[0]);
}

TEST(Cures, runsOfASystemAreCuredWithAllOfIt) {
    // Three outlets, one of them weak: only what leaves every outlet in its window is a cure.
    Job job;
    job.rooms.push_back({"r", "SL", "Sail loft", 0, 0});
    const auto add = [&](const char* label, double metres) {
        Job one = oneRunJob("coax-s6", "tv", metres);
        burin::Run run = one.runs[0];
        run.id = run.label = label;
        run.connections = {{End::Near, "f-compression", 0}, {End::Far, "f-compression", 0}};
        job.runs.push_back(run);
    };
    add("TRUNK", 20);
    add("TV1", 20);
    add("TV2", 100);
    Distribution d = newDistribution(job.runs[0]);
    d.id = "d";
    d.serviceId = "tv";
    d.headLevel = 74;
    d.channels = 20;
    d.parts[0].unit = {};
    d.parts[0].unit.part = TreePart::Splitter;
    d.parts[0].unit.ways = 4;
    d.parts[0].name = "shelf";
    d = hungOn(d, job.runs[1], d.parts[0].id, false);
    d = hungOn(d, job.runs[2], d.parts[0].id, false);
    job.distributions = {d};
    ASSERT_FALSE(findDistribution(job, d, shipped()).good);
    const auto cures = curesOf(job, job.runs[2], shipped());
    int held = 0;
    for (const auto& cure : cures) {
        if (!cure.holds)
            continue;
        ++held;
        Job with = job;
        with.runs[2] = cured(with.runs[2], cure);
        EXPECT_TRUE(findDistribution(with, d, shipped()).good) << cure.title;
    }
    EXPECT_GT(held, 0);
    // Its reach is told from the level where it hangs, not from a level that nobody typed.
    const auto all = findJob(job, shipped(), {});
    ASSERT_TRUE(all.runs[2].reach.reachM) << all.runs[2].reach.reason;
    EXPECT_LT(*all.runs[2].reach.reachM, 100);
    Job shorter = job;
    shorter.runs[2] = withLength(shorter.runs[2], *all.runs[2].reach.reachM - 0.01);
    EXPECT_TRUE(findDistribution(shorter, d, shipped()).good);
    shorter.runs[2] = withLength(shorter.runs[2], *all.runs[2].reach.reachM + 0.1);
    EXPECT_FALSE(findDistribution(shorter, d, shipped()).good);
}

namespace {

/// A door bus of random length, loads, stubs and ends.
Job randomBus(Dice& dice) {
    Job job;
    job.rooms.push_back({"r", "SL", "Sail loft", 0, 0});
    const int readers = 1 + dice.upTo(3);
    const std::vector<std::string> cables{"bus-120", "pair24-120", "cat5e-utp", "door-composite"};
    const std::string cable = dice.of(cables);
    BusChain bus;
    for (int i = 0; i < readers; ++i) {
        Run run = oneRunJob(cable, "rs485", dice.between(5, 250)).runs[0];
        run.id = run.label = "R" + std::to_string(i);
        run.cords.clear();
        job.runs.push_back(run);
        bus = i == 0 ? newBus(job, run) : goingOn(bus, job, run, static_cast<std::size_t>(i));
    }
    bus.id = "bus";
    bus.bitRateKbit = dice.upTo(1) == 0 ? 9.6 : dice.between(19.2, 2500);
    bus.supplyV = dice.upTo(3) == 0 ? 0 : 13.6;
    bus.supplyToleranceShare = 0.05;
    for (std::size_t i = 0; i < bus.devices.size(); ++i) {
        auto& device = bus.devices[i];
        device.terminatorOhm.reset();
        if (dice.upTo(2) == 0)
            device.terminatorOhm = 120;
        device.stubM = dice.upTo(3) == 0 ? dice.between(0, 20) : 0;
        if (i == 0 || bus.supplyV == 0)
            continue;
        device.ampere = dice.between(0.05, 0.25);
        device.leastV = 10.8;
        if (dice.upTo(4) == 0)
            device.strikeAmpere = 0.5;
    }
    job.buses = {bus};
    return job;
}

} // namespace

/// A job's own prices rank its cures; with one of two unknown, both go by their diameters.
TEST(Cures, byThePricesOfTheJob) {
    const Cable& now = *shipped().cable("cat6-utp");
    const Cable& then = *shipped().cable("cat6a-utp");
    Costs costs = shipped().costs;
    const double ends = 2 * costs.connector;
    const double byDiameter = cableCost(costs, now, then, 50, false).price;
    const auto price = [&](const std::map<std::string, double>& own, bool pulled = false) {
        costs.ownPerMetre = own;
        return cableCost(costs, now, then, 50, pulled).price;
    };
    EXPECT_DOUBLE_EQ(price({{now.id, 0.5}, {then.id, 0.9}}), 0.4 * 50 + ends);
    EXPECT_DOUBLE_EQ(price({{now.id, 0.5}}), byDiameter);
    EXPECT_DOUBLE_EQ(price({{then.id, 0.9}}), byDiameter);
    // Pulled anew, what lies there already costs nothing more.
    EXPECT_DOUBLE_EQ(price({{then.id, 0.9}}, true), 0.9 * 50 + ends);
    // A cheaper one never pays for its ends.
    EXPECT_DOUBLE_EQ(price({{now.id, 0.9}, {then.id, 0.5}}), ends);
    Job job = oneRunJob("cat6-utp", "10g");
    job.runs[0].stretches = {{"tray", 60, 20, 6, Surroundings::FreeAir}};
    const auto costOf = [&](double perM) {
        job.info.survey.cablePrices = {{now.id, 0.5}, {then.id, perM}};
        const Catalogue own = catalogueOf(shipped(), job, nullptr);
        for (const auto& cure : curesOf(job, job.runs[0], own))
            if (cure.cableId == then.id)
                return cure.cost.price;
        return -1.0;
    };
    EXPECT_DOUBLE_EQ(costOf(2), 1.5 * 60 + ends);
    EXPECT_NEAR(costOf(0.6), 0.1 * 60 + ends, 1e-9);
    // Another price is another catalogue: what was found by the one does not stand.
    EXPECT_FALSE(haveOneCatalogue(Job(), job));
    EXPECT_TRUE(haveOneCatalogue(job, job));
}

TEST(Cures, busesWithSomethingWrong) {
    Dice dice(11);
    // A waveform takes its time: all of them with the other trials (scripts/trials.sh).
    const char* all = std::getenv("BURIN_TRIALS");
    const int count = all != nullptr && std::string(all) == "all" ? 1000 : trials(100);
    int wrong = 0;
    int shown = 0;
    for (int i = 0; i < count; ++i) {
        const Job job = randomBus(dice);
        const auto f = findBusChain(job, job.buses[0], shipped(), Propose::No);
        if (!f.faults.empty() || f.good)
            continue;
        ++wrong;
        for (const auto& cure : busCures(job, job.buses[0], shipped())) {
            ++shown;
            if (!cure.after)
                continue; // a supply comes in between, which no bus of a job holds
            Job with = job;
            with.buses[0] = *cure.after;
            const auto then = findBusChain(with, with.buses[0], shipped(), Propose::No);
            const std::string fault = then.faults.empty() ? "" : render(then.faults.front(), {});
            EXPECT_TRUE(then.good) << cure.what << ": " << fault;
        }
    }
    EXPECT_GT(wrong, count / 3);
    EXPECT_GT(shown, wrong / 2);
}

TEST(Cures, feedlinesAreWorthWhatIsSaid) {
    Dice dice(13);
    const std::vector<std::string> cables{"coax-rg58", "coax-ll6", "coax-mini8", "coax-rg213"};
    for (int i = 0; i < trials(1000); ++i) {
        FeedlineQuestion q;
        q.link.cable = shipped().cable(dice.of(cables));
        q.link.stretches = {{dice.between(1, 80), dice.between(-10, 50)}};
        q.frequencyMhz = dice.between(1, 1300);
        q.powerW = dice.between(1, 400);
        q.loadRatio = dice.between(1, 5);
        for (const auto& change : feedlineChanges(q, shipped())) {
            FeedlineQuestion with = q;
            if (change.cableId.empty())
                with.link.stretches[0].lengthM *= 0.9;
            else
                with.link.cable = shipped().cable(change.cableId);
            EXPECT_NEAR(findFeedline(with, shipped())->powerAtAerialW, change.powerAtAerialW,
                        1e-6 * q.powerW)
                << change.what;
            EXPECT_GT(change.savedDb, 0) << change.what;
        }
    }
}
