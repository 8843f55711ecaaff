#include "core/site/jacket_print.h"
#include "says.h"
#include "shipped.h"

using namespace burin;

TEST(Jackets, WhoServesWhere) {
    struct Row {
        Jacket jacket;
        std::vector<Jacket> serves;
    };
    const std::vector<Row> rows{{Jacket::General, {Jacket::General}},
                                {Jacket::Riser, {Jacket::General, Jacket::Riser}},
                                {Jacket::Plenum, {Jacket::General, Jacket::Riser, Jacket::Plenum}},
                                {Jacket::Outdoor, {Jacket::Outdoor}},
                                {Jacket::WaterBlocked, {Jacket::Outdoor, Jacket::WaterBlocked}}};
    for (const auto& row : rows)
        for (const Jacket need : {Jacket::General, Jacket::Riser, Jacket::Plenum, Jacket::Outdoor,
                                  Jacket::WaterBlocked})
            EXPECT_EQ(serves(row.jacket, need),
                      std::find(row.serves.begin(), row.serves.end(), need) != row.serves.end())
                << jacketWord(row.jacket) << " where " << jacketWord(need) << " is asked for";
}

TEST(Jackets, TheLeastThatServesAll) {
    EXPECT_EQ(jacketForAll({}), Jacket::General);
    EXPECT_EQ(jacketForAll({Jacket::General, Jacket::Riser}), Jacket::Riser);
    EXPECT_EQ(jacketForAll({Jacket::Riser, Jacket::Plenum, Jacket::General}), Jacket::Plenum);
    EXPECT_EQ(jacketForAll({Jacket::Outdoor}), Jacket::Outdoor);
    EXPECT_EQ(jacketForAll({Jacket::Outdoor, Jacket::WaterBlocked}), Jacket::WaterBlocked);
    EXPECT_EQ(jacketForAll({Jacket::Outdoor, Jacket::General}), Jacket::Unknown); // no one does
    for (std::size_t i = 0; i < pathwayKindWords.words.size(); ++i) {
        const Jacket need = jacketFor(static_cast<PathwayKind>(i));
        EXPECT_TRUE(serves(jacketForAll({need}), need)) << pathwayKindWords.words[i];
    }
}

TEST(JacketPrint, RatingsOfBothKindsOfCable) {
    struct Row {
        const char* print;
        Jacket jacket;
    };
    for (const Row& row :
         {Row{"24 AWG 4PR CAT 5E CMP", Jacket::Plenum}, Row{"24 AWG 4PR CAT 5E CMR", Jacket::Riser},
          Row{"24 AWG 4PR CAT 5E CM", Jacket::General},
          Row{"24 AWG 4PR CAT 5E CMX OUTDOOR", Jacket::Outdoor},
          Row{"RG-6/U 18 AWG CATVR", Jacket::Riser}, Row{"RG-6/U 18 AWG CATVP", Jacket::Plenum}}) {
        const auto read = readJacketPrint(row.print, shipped());
        ASSERT_TRUE(read.has_value()) << row.print;
        EXPECT_EQ(read->jacket, row.jacket) << row.print;
        EXPECT_FALSE(read->cableIds.empty()) << row.print;
    }
}

TEST(JacketPrint, MarksInFeetAndMetres) {
    const auto mark = [](const char* print) {
        const auto read = readJacketPrint(print, shipped());
        return read ? read->markM.value_or(-1) : -2;
    };
    EXPECT_NEAR(mark("CAT 6 CMR 0412 FT"), 412 * 0.3048, 1e-9);
    EXPECT_NEAR(mark("CAT 6 CMR 0412FT"), 412 * 0.3048, 1e-9);
    EXPECT_NEAR(mark("CAT 6 CMR 123 M"), 123, 1e-9);
    EXPECT_NEAR(mark("CAT 6 CMR 123M"), 123, 1e-9);
    EXPECT_EQ(mark("CAT 6 CMR"), -1);
}

TEST(JacketPrint, NoPrintBringsItDown) {
    // Words of prints in any order and number, with noise between.
    const std::vector<std::string> words{"23",       "AWG",  "4PR",    "U/UTP",
                                         "CAT",      "6",    "6A",     "CMR",
                                         "0412",     "FT",   "M",      "/",
                                         "",         "RG-",  "75",     "OHM",
                                         "\xc3\xa9", "QUAD", "SHIELD", "99999999999999999999"};
    unsigned state = 20261124;
    int read = 0;
    for (int i = 0; i < 3000; ++i) {
        std::string print;
        for (int k = 0; k < 8; ++k) {
            state = state * 1664525U + 1013904223U;
            print += words[(state >> 16U) % words.size()] + (k % 3 == 2 ? "" : " ");
        }
        const auto out = readJacketPrint(print, shipped());
        if (!out) {
            EXPECT_FALSE(out.error().cure.empty());
            continue;
        }
        ++read;
        EXPECT_TRUE(!out->markM || (*out->markM >= 0 && *out->markM < 1e9)) << print;
        for (const auto& id : out->cableIds)
            EXPECT_NE(shipped().cable(id), nullptr);
    }
    EXPECT_GT(read, 500);
}

namespace {

/// What one way of writing a thing says.
struct Said {
    const char* print;
    const char* value;
};

template <typename T> const T& at(const std::vector<T>& list, std::size_t i) {
    return list[i % list.size()];
}

} // namespace

TEST(JacketPrint, TwoHundredPrintsInEveryOrder) {
    // Each thing in all the ways it is written, put together in turning order with the dates,
    // standard numbers and file numbers that stand between, so that no print is like another.
    const std::vector<Said> gauges{{"23 AWG", "23"},      {"AWG 24", "24"},      {"23AWG", "23"},
                                   {"24AWG/4PR", "24"},   {"24/4P", "24"},       {"AWG23/1", "23"},
                                   {"4x2xAWG23/1", "23"}, {"4X2X0.57 MM", "23"}, {"4 x 2", ""},
                                   {"4x2x23 AWG", "23"},  {"AWG26/7", "26"}};
    const std::vector<Said> kinds{
        {"CAT 6", "Cat 6"},         {"CAT-6", "Cat 6"},         {"CAT6A", "Cat 6A"},
        {"Category 5e", "Cat 5e"},  {"CAT5", "Cat 5"},          {"CAT.6A", "Cat 6A"},
        {"CAT 6 A", "Cat 6A"},      {"Cat.5E", "Cat 5e"},       {"CAT7", "Cat 7"},
        {"RG6U", "series 6"},       {"RG58C/U", "series 58"},   {"RG-59B/U", "series 59"},
        {"SERIES 11", "series 11"}, {"RG 213/U", "series 213"}, {"RG-6/U", "series 6"}};
    const std::vector<Said> screens{{"U/UTP", "U/UTP"}, {"F/UTP", "F/UTP"},   {"S/FTP", "S/FTP"},
                                    {"UTP", "U/UTP"},   {"SF/UTP", "SF/UTP"}, {"", ""}};
    const std::vector<Said> shields{
        {"QUAD SHIELD", "quad"}, {"TRI-SHIELD", "tri"}, {"QUADSHIELD", "quad"}, {"", ""}};
    const std::vector<std::pair<const char*, Jacket>> ratings{
        {"CMR", Jacket::Riser},
        {"CMP", Jacket::Plenum},
        {"CM", Jacket::General},
        {"CATV CMR", Jacket::Riser},
        {"CMR-LP", Jacket::Riser},
        {"FT4", Jacket::Riser},
        {"FT6", Jacket::Plenum},
        {"CMX OUTDOOR", Jacket::Outdoor},
        {"CMX FLOODED", Jacket::WaterBlocked},
        {"DIRECT BURIAL", Jacket::WaterBlocked}};
    const std::vector<std::pair<const char*, double>> marks{{"1,024 FT", 1024 * 0.3048},
                                                            {"0412 FT", 412 * 0.3048},
                                                            {"0412FT", 412 * 0.3048},
                                                            {"188M", 188},
                                                            {"0188 M", 188},
                                                            {"00,999 FEET", 999 * 0.3048},
                                                            {"1,203M", 1203},
                                                            {"0612'", 612 * 0.3048},
                                                            {"305 METRES", 305}};
    const std::vector<Said> fires{{"", ""},
                                  {"Dca-s2,d2,a1", "Dca-s2,d2,a1"},
                                  {"B2ca s1a d1 a1", "B2ca-s1a,d1,a1"},
                                  {"Eca", "Eca"},
                                  {"Cca-s1,d1,a1", "Cca-s1,d1,a1"}};
    const std::vector<const char*> between{"2024-11-26", "ISO/IEC 11801", "E123456 (UL)",
                                           "11/24",      "TIA-568.2-D",   "EN 50288-6-1",
                                           "26.11.2024", "75C 300V"};
    int prints = 0;
    for (std::size_t i = 0; i < 220; ++i) {
        const Said& kind = at(kinds, i);
        const bool coax = std::string(kind.value).starts_with("series");
        const Said& gauge = at(gauges, i * 7 + i / 11);
        const Said& screen = coax ? at(shields, i + i / 5) : at(screens, i + i / 7);
        const auto& rating = ratings[(i * 3 + i / 13) % 10];
        const auto& mark = at(marks, i * 5 + i / 9);
        const Said& fire = at(fires, i + i / 17);
        std::vector<std::string> parts{kind.print, screen.print, rating.first,
                                       mark.first, fire.print,   at(between, i)};
        if (!coax)
            parts.emplace_back(gauge.print);
        std::rotate(parts.begin(), parts.begin() + static_cast<std::ptrdiff_t>(i % parts.size()),
                    parts.end());
        if (i % 2 == 1)
            std::reverse(parts.begin(), parts.end());
        std::string print;
        for (const auto& part : parts)
            print += (print.empty() || part.empty() ? "" : i % 3 == 0 ? " - " : "  ") + part;
        const auto read = readJacketPrint(print, shipped());
        ASSERT_TRUE(read) << print;
        ++prints;
        EXPECT_EQ(read->kind, kind.value) << print;
        EXPECT_EQ(read->screen, screen.value) << print;
        EXPECT_EQ(read->jacket, rating.second) << print;
        ASSERT_TRUE(read->markM) << print;
        EXPECT_NEAR(*read->markM, mark.second, 1e-6) << print;
        EXPECT_EQ(read->fireClass, fire.value) << print;
        EXPECT_FALSE(read->copperClad) << print;
        if (!coax) {
            const std::string awg = read->awg ? std::to_string(static_cast<int>(*read->awg)) : "";
            EXPECT_EQ(awg, gauge.value) << print;
        }
    }
    EXPECT_EQ(prints, 220);
}

TEST(JacketPrint, WhatElseStandsOnAJacket) {
    const auto read = [](const char* print) { return *readJacketPrint(print, shipped()); };
    // Copper-clad aluminium is warned of; a reaction-to-fire class of the same letters is not it.
    EXPECT_TRUE(read("CAT6 UTP CCA 305M").copperClad);
    ASSERT_EQ(read("CAT 5E 24AWG COPPER CLAD ALUMINUM").warnings.size(), 1U);
    EXPECT_NE(english(read("CAT6 CCA").warnings[0]).find("1.55"), std::string::npos);
    EXPECT_FALSE(read("CAT6 Cca s1 d1 a1").copperClad);
    EXPECT_EQ(read("CAT6 Cca s1 d1 a1").fireClass, "Cca-s1,d1,a1");
    EXPECT_TRUE(read("CAT6A LSZH").lowSmoke);
    EXPECT_EQ(read("24/4P CAT5E").pairs, 4);
    EXPECT_EQ(read("4x2xAWG23/1 CAT 6").pairs, 4);
    EXPECT_EQ(read("4x2xAWG23/1 CAT 6").stranded, false);
    EXPECT_EQ(read("AWG26/7 CAT 6").stranded, true);
    EXPECT_EQ(read("RG6 QUAD SHIELD").cableIds, std::vector<std::string>{"coax-s6-quad"});
    EXPECT_EQ(read("RG6 TRI-SHIELD").cableIds, std::vector<std::string>{"coax-s6-tri"});
    EXPECT_EQ(read("CAT 6A U/FTP").cableIds, std::vector<std::string>{"cat6a-uftp"});
    EXPECT_EQ(read("CAT 5E F/UTP 24AWG").cableIds.front(), "cat5e-futp");
    EXPECT_EQ(read("CAT 6 28AWG").cableIds, std::vector<std::string>{"cord28-cat6"});
    // Dates and numbers of standards are no marks and no gauges.
    for (const char* print :
         {"CAT 6 2024-11-26", "CAT 6 11/24", "CAT 6 EN 50288-6-1", "CAT 6 TIA-568.2-D",
          "CAT 6 550 MHZ", "CAT 6 75C", "CAT 6 140F", "CAT 6 3.5 MM"}) {
        EXPECT_FALSE(read(print).markM) << print;
        EXPECT_FALSE(read(print).awg) << print;
    }
}
