#include "core/site/jacket_print.h"
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
    for (std::size_t i = 0; i < pathwayKindKeys.size(); ++i) {
        const Jacket need = jacketFor(static_cast<PathwayKind>(i));
        EXPECT_TRUE(serves(jacketForAll({need}), need)) << pathwayKindKeys[i];
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
