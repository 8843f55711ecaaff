// Cures of where a run lies: each that is shown is put in place here, the plan is made anew and
// everything computed again.
#include "core/edit/apply.h"
#include "core/finding/adopt_cure.h"
#include "core/finding/alternatives.h"
#include "core/finding/job_findings.h"
#include "core/finding/way_cures.h"
#include "says.h"
#include "tray_job.h"
#include <random>

using namespace burin;

namespace {

/// What a job comes to: laid, and every run of it found.
struct Found {
    explicit Found(const Job& kept)
        : site(planSite(kept, shipped())), laid(laidJob(kept, site)),
          all(findJob(laid, shipped(), {}, options())) {}
    [[nodiscard]] const RunFinding& of(const std::string& id) const {
        for (const auto& f : all.runs)
            if (f.runId == id)
                return f;
        throw std::runtime_error("no run " + id);
    }
    [[nodiscard]] std::ptrdiff_t bad() const {
        return std::count_if(site.findings.begin(), site.findings.end(),
                             [](const SiteFinding& f) { return f.bad; });
    }
    SitePlan site;
    Job laid;
    JobFindings all;

private:
    [[nodiscard]] JobFindingOptions options() const {
        JobFindingOptions out;
        out.site = &site;
        out.threads = 1;
        return out;
    }
};

std::vector<Cure> curesIn(const Job& kept, const std::string& id) {
    const Found now(kept);
    return wayCures(kept, now.laid, id, shipped(), now.site);
}

/// The job with a cure done as the screen does it.
Job done(const Job& job, const std::string& id, const Cure& cure) {
    return after(job, Outcome<Edit>(adopted(job, {}, id, cure)));
}

const Cure* of(const std::vector<Cure>& cures, CureOf what) {
    for (const auto& cure : cures)
        if (cure.of == what)
            return &cure;
    return nullptr;
}

Pathway trayOf(const char* id, double heightM, std::vector<PlanPoint> points, double warmC = 20) {
    Pathway out;
    out.id = id;
    out.name = std::string("tray ") + id;
    out.floorId = "g";
    out.points = std::move(points);
    out.heightM = heightM;
    out.temperatureC = warmC;
    return out;
}

/// One tray along a hall of 72 m at 60 °C, and one around it at 20 °C that is 4 m longer.
Job hotHall() {
    Job job = trayJob("cat6a-utp");
    job.pathways = {trayOf("hot", 2.8, {{0, 5}, {72, 5}}, 60),
                    trayOf("cool", 2.8, {{0, 5}, {0, 7}, {72, 7}, {72, 5}})};
    job.places[0].at = {72, 5};
    return job;
}

} // namespace

TEST(WayCures, AroundWhatIsHot) {
    Job job = hotHall();
    const Cable& cable = *shipped().cable("cat6a-utp");
    const auto* jack = usualConnection(shipped(), cable);
    job.runs[0].connections = {{End::Near, jack->id, 0}, {End::Far, jack->id, 0}};
    job.runs[0].cords = {{End::Near, "cat6a-utp", 5, false}, {End::Far, "cat6a-utp", 5, false}};
    ASSERT_FALSE(Found(job).of("SL-D01").isPredicted()) << Found(job).of("SL-D01").outlookReason;
    const auto cures = curesIn(job, "SL-D01");
    const Cure* way = of(cures, CureOf::Way);
    ASSERT_NE(way, nullptr);
    EXPECT_TRUE(says(way->title, "tray cool")) << way->title;
    const Found then(done(job, "SL-D01", *way));
    EXPECT_TRUE(then.of("SL-D01").isPredicted()) << then.of("SL-D01").outlookReason;
    EXPECT_EQ(then.site.route("SL-D01")->legs[1].pathwayId, "cool");
    // Power beside the one it leaves does not make up for power beside the one it takes.
    Job beside = job;
    for (const double y : {5.04, 7.04}) {
        MainsRoute feeder;
        feeder.id = y < 6 ? "m" : "n";
        feeder.floorId = "g";
        feeder.points = {{10, y}, {30, y}};
        feeder.heightM = 2.8;
        feeder.kva = 1;
        beside.mains.push_back(feeder);
        const bool only = beside.mains.size() == 1;
        const auto found = curesIn(beside, "SL-D01");
        EXPECT_EQ(of(found, CureOf::Way) != nullptr, only);
    }
    // Where there is no tray around, there is no such cure.
    job.pathways.pop_back();
    EXPECT_EQ(of(curesIn(job, "SL-D01"), CureOf::Way), nullptr);
}

TEST(WayCures, FromANearerPanelWithAPortFree) {
    Job job = trayJob("cat6a-utp");
    job.pathways = {trayOf("t", 2.8, {{0, 5}, {110, 5}})};
    job.places[0].at = {110, 5};
    Place other = job.places[1];
    other.id = "q";
    other.name = "panel B";
    other.at = {60, 5};
    other.ports = 2;
    job.places.push_back(other);
    ASSERT_FALSE(Found(job).of("SL-D01").isPredicted());
    const auto cures = curesIn(job, "SL-D01");
    const Cure* place = of(cures, CureOf::Place);
    ASSERT_NE(place, nullptr);
    EXPECT_TRUE(says(place->title, "panel B")) << place->title;
    EXPECT_EQ(place->near->port, 1);
    EXPECT_TRUE(Found(done(job, "SL-D01", *place)).of("SL-D01").isPredicted());
    // Both of its ports taken: no cure.
    for (int port : {1, 2}) {
        burin::Run run = job.runs[0];
        run.id = run.label = "SL-D0" + std::to_string(port + 1);
        run.near = {{}, "q", port};
        job.runs.push_back(run);
    }
    EXPECT_EQ(of(curesIn(job, "SL-D01"), CureOf::Place), nullptr);
}

TEST(WayCures, TheHeadEndIsMovedWhereNoOtherRunLosesByIt) {
    Job job = trayJob("cat6a-utp");
    job.pathways = {trayOf("t", 2.8, {{-90, 5}, {100, 5}})};
    job.places[0].at = {100, 5};
    ASSERT_FALSE(Found(job).of("SL-D01").isPredicted());
    const auto cures = curesIn(job, "SL-D01");
    const Cure* moved = of(cures, CureOf::HeadEnd);
    ASSERT_NE(moved, nullptr);
    EXPECT_GT(moved->place->at.xM, 5);
    EXPECT_LT(moved->place->at.xM, 30);
    EXPECT_GE(moved->cost.hours, shipped().costs.hoursToMoveHeadEnd);
    EXPECT_TRUE(Found(done(job, "SL-D01", *moved)).of("SL-D01").isPredicted());
    // One at the other end of the hall that just reaches as it is.
    Place west = job.places[0];
    west.id = "w";
    west.at = {-81, 5};
    job.places.push_back(west);
    burin::Run run = job.runs[0];
    run.id = run.label = "SL-D02";
    run.far.placeId = "w";
    job.runs.push_back(run);
    ASSERT_TRUE(Found(job).of("SL-D02").isPredicted()) << Found(job).of("SL-D02").outlookReason;
    EXPECT_EQ(of(curesIn(job, "SL-D01"), CureOf::HeadEnd), nullptr);
    // Nor once something lies there.
    job.runs.pop_back();
    job.measurements.push_back({});
    job.measurements[0].id = "m";
    job.measurements[0].runId = "SL-D01";
    EXPECT_EQ(of(curesIn(job, "SL-D01"), CureOf::HeadEnd), nullptr);
}

TEST(WayCures, NoneForWhatHoldsOrIsTyped) {
    Job job = trayJob();
    EXPECT_TRUE(curesIn(job, "SL-D01").empty());
    job = hotHall();
    job.runs[0].followsPlan = false;
    job.runs[0].stretches = {{"typed", 140, 20, 0}};
    EXPECT_TRUE(curesIn(job, "SL-D01").empty());
    EXPECT_TRUE(curesIn(job, "nobody").empty());
    job.runs[0].followsPlan = true;
    job.places.pop_back(); // its panel is gone
    EXPECT_TRUE(curesIn(job, "SL-D01").empty());
}

TEST(WayCures, ThreeHundredRandomPlans) {
    std::mt19937 random(11);
    const auto upTo = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
    int shown[9] = {};
    const int count = trials(300);
    for (int i = 0; i < count; ++i) {
        Job job = trayJob(i % 3 == 0 ? "cat6-utp" : "cat6a-utp");
        // A lattice of trays, some warm, some missing.
        job.pathways.clear();
        for (int row = 0; row < 4; ++row) {
            if (upTo(5) > 0)
                job.pathways.push_back(trayOf(("r" + std::to_string(row)).c_str(), 2.8,
                                              {{0, row * 10.0}, {120, row * 10.0}},
                                              upTo(2) == 0 ? 20.0 + upTo(45) : 20));
            if (upTo(3) > 0)
                job.pathways.push_back(trayOf(("c" + std::to_string(row)).c_str(), 2.8,
                                              {{row * 40.0, 0}, {row * 40.0, 30}}));
        }
        const Place panel = job.places[1];
        const Place outlet = job.places[0];
        job.places.clear();
        for (int k = 0; k < 3; ++k) {
            Place p = panel;
            p.id = "p" + std::to_string(k);
            p.name = "panel " + std::to_string(k);
            p.at = {upTo(120) * 1.0, upTo(30) * 1.0};
            p.ports = 1 + upTo(5);
            job.places.push_back(p);
        }
        job.runs.clear();
        for (int k = 0; k < 6; ++k) {
            Place o = outlet;
            o.id = "o" + std::to_string(k);
            o.name = "outlet " + std::to_string(k);
            o.at = {upTo(120) * 1.0, upTo(30) * 1.0};
            job.places.push_back(o);
            burin::Run run = trayJob().runs[0];
            run.id = run.label = "SL-D" + std::to_string(k);
            run.cableId = i % 3 == 0 ? "cat6-utp" : "cat6a-utp";
            run.serviceId = upTo(1) == 0 ? "10g" : "1g";
            run.near.placeId = "p" + std::to_string(upTo(2));
            run.far.placeId = o.id;
            run.cords = {{End::Near, run.cableId, 3.0 + upTo(7), upTo(1) == 0}};
            if (upTo(3) == 0)
                run.vias = {{"g", {upTo(120) * 1.0, upTo(30) * 1.0}}};
            job.runs.push_back(run);
        }
        deriveIds(job);
        const Found now(job);
        for (const auto& run : job.runs) {
            const auto cures = wayCures(job, now.laid, run.id, shipped(), now.site);
            if (now.of(run.id).isPredicted()) {
                EXPECT_TRUE(cures.empty()) << i << " " << run.label;
            }
            for (const auto& cure : cures) {
                ++shown[static_cast<int>(cure.of)];
                const Found then(done(job, run.id, cure));
                EXPECT_TRUE(then.of(run.id).isPredicted()) << i << " " << cure.title;
                EXPECT_LE(then.bad(), now.bad()) << i << " " << cure.title;
                for (const auto& other : job.runs) {
                    if (now.of(other.id).isPredicted()) {
                        EXPECT_TRUE(then.of(other.id).isPredicted())
                            << i << " " << cure.title << " costs " << other.label;
                    }
                }
                EXPECT_TRUE(cure.canBeAdopted());
            }
        }
    }
    EXPECT_GT(shown[static_cast<int>(CureOf::Way)], count / 50);
    EXPECT_GT(shown[static_cast<int>(CureOf::Place)], count / 10);
    EXPECT_GT(shown[static_cast<int>(CureOf::HeadEnd)], count / 20);
}
