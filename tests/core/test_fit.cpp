#include "core/connector/fit.h"
#include "core/edit/run_text.h"
#include "core/shipped.h"
#include "core/units/render.h"
#include "says.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

std::vector<FitPoint> fitOf(const char* cable, const char* connection, double mhz = 1000,
                            bool outdoors = false) {
    return findFit({shipped().cable(cable), shipped().connection(connection), mhz, outdoors});
}

std::string badOf(const std::vector<FitPoint>& points) {
    std::string out;
    for (const auto& point : points)
        if (!point.good)
            out += std::string(fitWords[point.of]) + ",";
    return out;
}

} // namespace

TEST(Fit, EveryConnectionOfTheCatalogueSaysWhatItGrips) {
    for (const auto& connection : shipped().connections) {
        // What joins two plugs is put on no cable.
        const bool joins = connection.id.starts_with("coupler") || connection.id == "f-barrel";
        ASSERT_EQ(connection.fit.has_value(), !joins) << connection.id;
        if (!joins) {
            EXPECT_FALSE(connection.fit->source.empty()) << connection.id;
        }
    }
    for (const auto& cable : shipped().cables) {
        const auto choices = connectorChoices(cable, 1, false, shipped());
        ASSERT_FALSE(choices.empty()) << cable.id;
        EXPECT_TRUE(choices.front().fits) << cable.id << ": " << choices.front().why;
    }
}

TEST(Fit, JacketConductorImpedanceBandAndWeather) {
    EXPECT_EQ(badOf(fitOf("coax-s6", "f-compression")), "");
    EXPECT_EQ(badOf(fitOf("coax-s11-quad", "f-compression")), "jacket,conductor,");
    EXPECT_EQ(badOf(fitOf("coax-s11-quad", "f-compression-11")), "");
    EXPECT_EQ(badOf(fitOf("coax-ll10", "uhf", 160)), "");
    EXPECT_EQ(badOf(fitOf("coax-ll10", "uhf", 440)), "band,"); // 300 MHz ceiling
    EXPECT_EQ(badOf(fitOf("coax-ll10", "uhf", 160, true)), "weather,");
    EXPECT_EQ(badOf(fitOf("coax-ll10", "n", 160, true)), "");
    EXPECT_EQ(badOf(fitOf("coax-s6", "n")), "impedance,");
    EXPECT_EQ(badOf(fitOf("coax-s6", "bnc")), "");
    EXPECT_EQ(badOf(fitOf("coax-s6", "bnc-50")), "impedance,");
    for (const char* six : {"coax-mini8", "coax-ll6", "coax-rg58", "coax-ll5"})
        EXPECT_EQ(badOf(fitOf(six, "bnc-50")), "") << six;
}

TEST(Fit, ThickCentreInAThinPortSaysWhy) {
    const auto points = fitOf("coax-s11-quad", "f-compression");
    // 14 AWG is 1.63 mm, and the port is made for 18 AWG, 1.02 mm.
    EXPECT_NEAR(wireDiameterMm(14), 1.628, 0.001);
    EXPECT_NEAR(wireDiameterMm(18), 1.024, 0.001);
    EXPECT_NE(english(points[1].reason).find("1.63 mm"), std::string::npos);
    EXPECT_NE(english(points[1].reason).find("spreads the contact"), std::string::npos);
}

TEST(Fit, SolidAndStrandedGoWhereTheyBelong) {
    EXPECT_EQ(badOf(fitOf("bus-120", "screw", 1)), "");
    EXPECT_EQ(badOf(fitOf("cat5e-utp", "screw", 1)), "kind of conductor,");
    EXPECT_EQ(badOf(fitOf("bus-120", "conn-cat5e", 1)), "kind of conductor,");
    EXPECT_EQ(badOf(fitOf("coax-rg58", "f-compression", 1)).substr(0, 7), "jacket,");
}

TEST(Fit, SchoolsStandSideBySideAndOneIsProposed) {
    const auto choices = connectorChoices(*shipped().cable("coax-s6"), 2150, false, shipped());
    std::set<std::string> schools;
    for (const auto& choice : choices)
        if (choice.connection->fit->series == "F")
            schools.insert(choice.connection->fit->school);
    EXPECT_EQ(schools.size(), 4U); // compression, crimp, twist-on, push-on
    EXPECT_EQ(choices.front().connection->id, "f-compression");
    EXPECT_NE(english(choices.front().why).find("as little loss as any"), std::string::npos);
    EXPECT_NEAR(choices.front().lossDb, 0.1 * std::sqrt(2.15), 1e-9);
    for (std::size_t i = 1; i < choices.size(); ++i)
        EXPECT_LE(choices[i].fits, choices[i - 1].fits);
    const auto w = choiceWorking(*shipped().cable("coax-s6"), 2150, false, choices);
    EXPECT_EQ(w.steps.size(), choices.size());
    EXPECT_FALSE(w.inputs.back().source.empty());
}

TEST(Fit, AConnectorThatDoesNotFitIsNotedOnItsRun) {
    Job job = oneRunJob("coax-s11-quad", "tv", 50);
    job.runs[0].headLevel = 70;
    job.runs[0].connections = {{End::Near, "f-compression", 0, false},
                               {End::Far, "f-compression", 0, false}};
    const auto f = findRun(job, job.runs[0], shipped(), {});
    ASSERT_EQ(f.notes.size(), 2U); // each fault once, not once an end
    EXPECT_NE(english(f.notes[0]).find("jacket"), std::string::npos);
    job.runs[0].connections = {{End::Far, "f-compression-11", 0, true}};
    EXPECT_TRUE(findRun(job, job.runs[0], shipped(), {}).notes.empty());
}

TEST(Powered, WarmthOfTheBundleFeedsTheLoss) {
    Job job = oneRunJob("cat6a-utp", "10g", 80);
    job.runs[0].stretches = {{"tray", 80, 25, 47, Surroundings::Conduit}};
    const auto cold = findRun(job, job.runs[0], shipped(), {});
    EXPECT_FALSE(cold.powered);
    job.runs[0].poweredType = 4;
    const auto warm = findRun(job, job.runs[0], shipped(), {});
    ASSERT_TRUE(warm.powered);
    const Cable& cable = *shipped().cable("cat6a-utp");
    const double t = stretchTemperatureC(job.runs[0], job.runs[0].stretches[0], cable, shipped());
    EXPECT_GT(t, 28);
    EXPECT_NEAR(t, 25 + warm.powered->riseC, 1e-9);
    EXPECT_NEAR(warm.channel.warmestC, t, 1e-9);
    EXPECT_NEAR(warm.channel.lossDb.back() - cold.channel.lossDb.back(),
                0.8 * attenuationDbPer100m(cable, 500) * 0.004 * warm.powered->riseC, 1e-6);
    // By hand: 90 W at 52 V over four pairs, P' at the settled warmth, two thermal steps.
    const double r = 0.06678 * (1 + 0.00393 * (t - 20));
    const double each = 90.0 / 52 / 4;
    const double heat = 48 * 8 * each * each * r;
    const double d = 1.15 * 0.0075 * std::sqrt(48.0);
    const double pi = 3.14159265358979;
    EXPECT_NEAR(warm.powered->riseC, heat / (pi * d * 5) + heat / (4 * pi * 0.2), 0.01);
}

TEST(Powered, TheWayAsTypedSaysWhatItLiesIn) {
    const std::string text =
        "riser 12 m; conduit 14 m 38 °C 3 beside in conduit; loft 9 m in insulation";
    const auto way = parseWay(text, UnitSystem::Metric);
    ASSERT_TRUE(way) << render(way.error(), {});
    EXPECT_EQ((*way)[0].around, Surroundings::FreeAir);
    EXPECT_EQ((*way)[1].around, Surroundings::Conduit);
    EXPECT_EQ((*way)[1].name, "conduit");
    EXPECT_EQ((*way)[2].around, Surroundings::Insulation);
    EXPECT_EQ(wayText(*way, UnitSystem::Metric), text);
}

TEST(Powered, OverItsRatingOrOutOfVoltsIsRefusedWithACure) {
    Job job = oneRunJob("cat5e-utp", "1g", 80);
    job.runs[0].stretches = {{"loft", 80, 45, 99, Surroundings::Insulation}};
    job.runs[0].poweredType = 4;
    const auto hot = findRun(job, job.runs[0], shipped(), {});
    EXPECT_TRUE(hot.powered->overRating);
    EXPECT_EQ(hot.outlook, Outlook::Fails);
    // As many as are said stay within it, and not one more.
    const std::string said = english(hot.outlookReason);
    const std::size_t words = said.find(" together would stay within it");
    ASSERT_NE(words, std::string::npos) << said;
    const int together = std::stoi(said.substr(said.rfind(' ', words - 1) + 1));
    for (const int more : {0, 1}) {
        job.runs[0].stretches[0].neighbours = together - 1 + more;
        EXPECT_EQ(findPowered(job.runs[0], shipped())->overRating, more == 1) << together;
    }
    job = oneRunJob("cat3-utp", "voice", 400);
    job.runs[0].poweredType = 2;
    const auto starved = findRun(job, job.runs[0], shipped(), {});
    EXPECT_FALSE(starved.powered->delivered);
    const std::string why = english(starved.outlookReason);
    const std::size_t up = why.find("; up to ");
    ASSERT_NE(up, std::string::npos) << why;
    const double metres = std::stod(why.substr(up + 8));
    EXPECT_TRUE(findPowered(withLength(job.runs[0], metres), shipped())->delivered) << why;
    EXPECT_FALSE(findPowered(withLength(job.runs[0], metres + 1.2), shipped())->delivered) << why;
}

TEST(Leased, OneCableOneCableADirectionOrScreenedPairs) {
    Job job = oneRunJob("cat6-utp", "t1", 20);
    for (auto& cord : job.runs[0].cords)
        cord.lengthM = 1;
    auto f = findRun(job, job.runs[0], shipped(), {});
    EXPECT_EQ(f.outlook, Outlook::Fails);
    EXPECT_NEAR(*f.reach.channelM, 4.5, 1e-9);
    const auto cure =
        std::find_if(f.cures.begin(), f.cures.end(), [](const auto& c) { return c.perDirection; });
    ASSERT_NE(cure, f.cures.end());
    EXPECT_TRUE(cure->holds);
    EXPECT_NEAR(*cure->reach.channelM, 30, 1e-9);
    const auto screened = std::find_if(f.cures.begin(), f.cures.end(), [](const auto& c) {
        return c.cableId == "cat7-sftp" || c.cableId == "cat7";
    });
    ASSERT_NE(screened, f.cures.end());
    EXPECT_GT(*screened->reach.reachM, 100);
    ASSERT_FALSE(f.notes.empty());
    EXPECT_NE(english(f.notes[0]).find("pins 1-2 and 4-5"), std::string::npos);
    EXPECT_NE(english(f.notes[0]).find("earthed at one end only"), std::string::npos);
    job.runs[0].perDirection = true;
    EXPECT_EQ(findRun(job, job.runs[0], shipped(), {}).outlook, Outlook::Holds);
    job.runs[0].stretches[0].neighbours = 4;
    f = findRun(job, job.runs[0], shipped(), {});
    EXPECT_NE(english(f.notes.back()).find("beside 4 other cables"), std::string::npos);
}

TEST(Fit, AFewHundredthsAreNoReason) {
    // 7-16 loses 0.008 dB less than N at 160 MHz, and takes twice the time.
    const auto radio = connectorChoices(*shipped().cable("coax-ll10"), 160, true, shipped());
    EXPECT_NE(radio.front().connection->id, "7-16");
    for (const auto& choice : radio)
        if (choice.connection->id == "7-16") {
            EXPECT_NE(english(choice.why).find("for no less loss"), std::string::npos)
                << choice.why;
        }
    // What weather does is said in words of the cable at hand.
    for (const auto& point : fitOf("cat6-utp", "conn-cat6", 250, true))
        EXPECT_EQ(english(point.reason).find("braid"), std::string::npos) << point.reason;
    // Screened pairs are given jacks that take the screen up, unscreened ones are not.
    EXPECT_TRUE(connectorChoices(*shipped().cable("cat6a-futp"), 500, false, shipped())
                    .front()
                    .connection->screened);
    EXPECT_FALSE(connectorChoices(*shipped().cable("cat6a-utp"), 500, false, shipped())
                     .front()
                     .connection->screened);
}
