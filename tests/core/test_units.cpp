#include "core/edit/run_text.h"
#include "core/units/render.h"
#include "core/units/units.h"
#include <gtest/gtest.h>
#include <random>

using namespace burin;

TEST(Length, typedForms) {
    const std::pair<const char*, double> cases[] = {
        {"61.5", 61.5},    {"61,5", 61.5},        {"61.5 m", 61.5},
        {" 61.5m ", 61.5}, {"201 ft", 61.2648},   {"3' 6\"", 1.0668},
        {"12 mm", 0.012},  {"1/4 in", 0.00635},   {"3 1/2 in", 0.0889},
        {"0", 0},          {"4 cm", 0.04},        {"2 km", 2000},
        {"6\"", 0.1524},   {"10 ft 6 in", 3.2004}};
    for (const auto& [text, metres] : cases) {
        const auto length = parseLengthM(text);
        ASSERT_TRUE(length) << text << ": " << render(length.error(), {});
        EXPECT_NEAR(*length, metres, 1e-9) << text;
    }
    EXPECT_NEAR(*parseLengthM("10", UnitSystem::Imperial), 3.048, 1e-12);
    EXPECT_NEAR(*parseLengthM("10 m", UnitSystem::Imperial), 10, 1e-12);
}

TEST(Length, refusedWithPlace) {
    for (const char* text : {"", "  ", "-3", "−3", "abc", "3 parsecs", "1/0 in", "3 m 2",
                             "1,000 ft", "61.5.2", "1e3", "nan", "99999999"})
        EXPECT_FALSE(parseLengthM(text)) << text;
    const auto bad = parseLengthM("12 xy");
    ASSERT_FALSE(bad);
    EXPECT_EQ(bad.error().column, 4);
    EXPECT_NE(render(bad.error().what, {}).find("12 xy"), std::string::npos);
    EXPECT_FALSE(bad.error().cure.empty());
}

TEST(Temperature, bothScales) {
    EXPECT_NEAR(*parseTemperatureC("31 °C"), 31, 1e-12);
    EXPECT_NEAR(*parseTemperatureC("88 F"), 31.1111, 1e-4);
    EXPECT_NEAR(*parseTemperatureC("-10"), -10, 1e-12);
    EXPECT_NEAR(*parseTemperatureC("68", UnitSystem::Imperial), 20, 1e-12);
    EXPECT_FALSE(parseTemperatureC("400"));
    EXPECT_FALSE(parseTemperatureC("warm"));
}

TEST(Format, readsAsPeopleWrite) {
    EXPECT_EQ(formatFixed(-0.04, 1), "0.0");
    EXPECT_EQ(formatFixed(-1.25, 2), "−1.25");
    EXPECT_EQ(formatLength(61.5, UnitSystem::Metric), "61.5 m");
    EXPECT_EQ(formatLength(61.5, UnitSystem::Imperial), "201.8 ft");
    EXPECT_EQ(formatTemperature(31, UnitSystem::Imperial), "88 °F");
    EXPECT_EQ(formatWarmth(10, UnitSystem::Imperial), "18 °F");
    EXPECT_EQ(formatMhz(250), "250 MHz");
    EXPECT_EQ(formatMhz(0.772), "0.772 MHz");
}

TEST(Way, readAndWrittenBack) {
    const std::string text = "riser shaft 12 m; tray 34 m 31 °C 23 beside; wall drop 15.5 m";
    const auto way = parseWay(text, UnitSystem::Metric);
    ASSERT_TRUE(way) << render(way.error(), {});
    ASSERT_EQ(way->size(), 3U);
    EXPECT_EQ((*way)[0].name, "riser shaft");
    EXPECT_DOUBLE_EQ((*way)[1].lengthM, 34);
    EXPECT_DOUBLE_EQ((*way)[1].temperatureC, 31);
    EXPECT_EQ((*way)[1].neighbours, 23);
    EXPECT_EQ(wayText(*way, UnitSystem::Metric), text);
    const auto imperial = parseWay(wayText(*way, UnitSystem::Imperial), UnitSystem::Imperial);
    ASSERT_TRUE(imperial);
    EXPECT_NEAR((*imperial)[1].lengthM, 34, 0.002);
    const auto bad = parseWay("riser 12 m; tray 31 °C", UnitSystem::Metric);
    ASSERT_FALSE(bad);
    EXPECT_EQ(bad.error().column, 12);
    EXPECT_FALSE(parseWay("", UnitSystem::Metric));
    EXPECT_FALSE(parseWay("tray 3 m 4 m", UnitSystem::Metric));
    // Pathways are called "tray 1" until somebody names them.
    for (const char* typed :
         {"tray 1 18 m 24 °C 1 beside", "tray 1 18m", "2nd floor 3 tray 1 18 m"}) {
        const auto named = parseWay(typed, UnitSystem::Metric);
        ASSERT_TRUE(named) << typed;
        ASSERT_EQ(named->size(), 1U);
        EXPECT_EQ(named->front().lengthM, 18) << typed;
        EXPECT_TRUE(named->front().name.ends_with("tray 1")) << named->front().name;
        EXPECT_EQ(*parseWay(wayText(*named, UnitSystem::Imperial), UnitSystem::Imperial)
                       ->front()
                       .name.rbegin(),
                  '1');
    }
    EXPECT_EQ(parseWay("tray 18", UnitSystem::Metric)->front().lengthM, 18);
    EXPECT_FALSE(parseWay("tray 1 18", UnitSystem::Metric)) << "which of them is the length?";
    EXPECT_FALSE(parseWay("tray 18x", UnitSystem::Metric));
    EXPECT_FALSE(parseWay("tray 18 m 5", UnitSystem::Metric));
}

TEST(Way, everyNameMayBeTypedAgain) {
    const auto named = parseWay("\"Store 3 m\" 18 m; \"3\"\" pipe\" 4 m; \"a \"\"b\"\"; c\" 5 m",
                                UnitSystem::Metric);
    ASSERT_TRUE(named) << render(named.error(), {});
    ASSERT_EQ(named->size(), 3U);
    EXPECT_EQ((*named)[0].name, "Store 3 m");
    EXPECT_EQ((*named)[0].lengthM, 18);
    EXPECT_EQ((*named)[1].name, "3\" pipe");
    EXPECT_EQ((*named)[2].name, "a \"b\"; c");
    const auto open = parseWay("\"Store 3 m 18 m", UnitSystem::Metric);
    ASSERT_FALSE(open);
    EXPECT_EQ(open.error().column, 12);
    // Whatever somebody called it, alone and among others.
    std::mt19937 random(7);
    const std::vector<std::string> pieces = {
        "tray",       "Store", " ",     "  ", "3",      "3 m", "12.5ft", "\"", ";",  "in",
        "in conduit", "°C",    "31 °C", "é",  "beside", "m",   ",",      "-",  "\t", "2 beside"};
    const auto pick = [&](std::size_t most) { return random() % most; };
    for (int i = 0; i < 4000; ++i) {
        std::vector<RunStretch> way(1 + pick(3));
        for (auto& stretch : way) {
            for (std::size_t n = pick(6); n > 0; --n)
                stretch.name += pieces[pick(pieces.size())];
            stretch.lengthM = static_cast<double>(pick(4000)) / 10;
            stretch.temperatureC = pick(2) == 0 ? 20 : static_cast<double>(pick(60));
            stretch.neighbours = static_cast<int>(pick(3));
            stretch.around = pick(2) == 0 ? Surroundings::FreeAir : Surroundings::Conduit;
        }
        for (const auto system : {UnitSystem::Metric, UnitSystem::Imperial}) {
            const std::string text = wayText(way, system);
            const auto read = parseWay(text, system);
            ASSERT_TRUE(read) << text << '\n' << render(read.error(), {});
            ASSERT_EQ(read->size(), way.size()) << text;
            for (std::size_t k = 0; k < way.size(); ++k) {
                EXPECT_EQ((*read)[k].name, way[k].name) << text;
                EXPECT_EQ((*read)[k].neighbours, way[k].neighbours) << text;
                EXPECT_EQ((*read)[k].around, way[k].around) << text;
                EXPECT_NEAR((*read)[k].lengthM, way[k].lengthM, 0.002) << text;
                EXPECT_NEAR((*read)[k].temperatureC, way[k].temperatureC, 0.06) << text;
            }
            EXPECT_EQ(wayText(*read, system), text);
        }
    }
}

TEST(Way, whatIsNotTypedOverIsNotRounded) {
    std::vector<RunStretch> kept =
        *parseWay("riser 12 m 23.46 °C; tray 34 m; tray 3 m", UnitSystem::Metric);
    for (std::size_t i = 0; i < kept.size(); ++i)
        kept[i].id = "s" + std::to_string(i);
    const auto retyped = [&](const std::string& text) {
        return retypedWay(*parseWay(text, UnitSystem::Imperial), kept, UnitSystem::Imperial);
    };
    EXPECT_EQ(retyped(wayText(kept, UnitSystem::Imperial)), kept);
    auto now = retyped("riser 39.37 ft 80 °F; tray 100 ft; tray 9.84 ft; drop 3 ft");
    ASSERT_EQ(now.size(), 4U);
    EXPECT_EQ(now[0].id, "s0");
    EXPECT_EQ(now[0].lengthM, 12);
    EXPECT_NEAR(now[0].temperatureC, 26.7, 0.05);
    EXPECT_EQ(now[1].id, "s1");
    EXPECT_NEAR(now[1].lengthM, 30.48, 1e-9);
    EXPECT_EQ(now[2], kept[2]);
    EXPECT_TRUE(now[3].id.empty());
}

TEST(NewRun, readFromOneLine) {
    const auto catalogue = loadCatalogue(BURIN_CATALOGUE);
    ASSERT_TRUE(catalogue);
    Job job;
    const auto first =
        parseNewRun("SL-D01 61.5 m cat6-utp 1g", job, *catalogue, UnitSystem::Metric);
    ASSERT_TRUE(first) << render(first.error(), {});
    ASSERT_TRUE(first->room);
    EXPECT_EQ(first->room->letters, "SL");
    EXPECT_EQ(first->run.cableId, "cat6-utp");
    EXPECT_EQ(first->run.serviceId, "1g");
    EXPECT_DOUBLE_EQ(first->run.lengthM(), 61.5);
    EXPECT_EQ(first->run.cords.size(), 2U);
    EXPECT_EQ(first->run.connections.size(), 2U);
    job.rooms.push_back(*first->room);
    job.runs.push_back(first->run);
    const auto second = parseNewRun("SL-D02 40", job, *catalogue, UnitSystem::Metric);
    ASSERT_TRUE(second);
    EXPECT_FALSE(second->room);
    EXPECT_EQ(second->run.cableId, "cat6-utp");
    EXPECT_NE(second->run.id, first->run.id);
    EXPECT_FALSE(parseNewRun("SL-D01 5 m", job, *catalogue, UnitSystem::Metric));
    EXPECT_FALSE(parseNewRun("SL-D03 cat99", job, *catalogue, UnitSystem::Metric));
    EXPECT_EQ(nextLabel(job, "SL-D01"), "SL-D02");
}

TEST(NewRun, likeTheLastOfItsKind) {
    const auto catalogue = loadCatalogue(BURIN_CATALOGUE);
    ASSERT_TRUE(catalogue);
    Job job;
    const auto add = [&](const std::string& text) {
        const auto made = parseNewRun(text, job, *catalogue, UnitSystem::Metric);
        EXPECT_TRUE(made) << text << ": " << (made ? "" : render(made.error(), {}));
        if (made->room)
            job.rooms.push_back(*made->room);
        job.runs.push_back(made->run);
        return made->run;
    };
    const auto television = add("OF-C01 30 m");
    EXPECT_EQ(television.serviceId, "tv");
    EXPECT_EQ(television.cableId, "coax-s6");
    // A reader is no television, though the room's last run was.
    const auto reader = add("OF-R01 20 m");
    EXPECT_EQ(reader.serviceId, "rs485");
    EXPECT_EQ(reader.cableId, "bus-120");
    EXPECT_EQ(add("OF-C02").lengthM(), 30);
    // Of its kind in another room: its cable and service, not its way or its ends.
    add("OF-D01 40 m cat6-utp 1g");
    job.runs.back().near.text = "panel";
    const auto data = add("SL-D01");
    EXPECT_EQ(data.cableId, "cat6-utp");
    EXPECT_EQ(data.serviceId, "1g");
    EXPECT_EQ(data.lengthM(), 0);
    EXPECT_TRUE(data.near.text.empty());
    EXPECT_EQ(data.cords.size(), 2U);
    // Letters that name no kind: as the room's last run.
    EXPECT_EQ(add("SL-X01").serviceId, "1g");
    EXPECT_EQ(add("NN-1").serviceId, "10g");
}

TEST(NewRun, aNameBehindLettersNamesTheRoom) {
    Job job;
    job.rooms = {{"r", "OF", "Room OF"}};
    const auto named = namedRoom("OF  Office 2 ", job);
    ASSERT_TRUE(named);
    EXPECT_EQ(apply(job, *named)->rooms[0].name, "Office 2");
    for (const char* other : {"OF", "OF-D01 20 m", "SL Sail loft", "OF 40 m", ""})
        EXPECT_FALSE(namedRoom(other, job)) << other;
}

TEST(Run, lengthTakenUpByTheLastStretch) {
    burin::Run run;
    run.stretches = {{"a", 10, 20, 0}, {"b", 20, 30, 3}};
    EXPECT_DOUBLE_EQ(withLength(run, 40).stretches[1].lengthM, 30);
    EXPECT_DOUBLE_EQ(withLength(run, 15).stretches[1].lengthM, 5);
    const burin::Run shortRun = withLength(run, 4);
    EXPECT_DOUBLE_EQ(shortRun.stretches[0].lengthM, 4);
    EXPECT_DOUBLE_EQ(shortRun.lengthM(), 4);
}
