#include "core/connector/pins.h"
#include "core/measure/wire_map.h"
#include "shipped.h"
#include <map>
#include <set>

using namespace burin;

namespace {

std::vector<std::string> wiresOf(Wiring wiring) {
    std::vector<std::string> out;
    for (const auto& row : pinsOf(wiring))
        out.push_back(row.wire);
    return out;
}
/// Where each of eight pins comes out through two of them in a row, 0: nowhere.
std::array<int, 8> inARow(const WireMap& a, const WireMap& b) {
    std::array<int, 8> out{};
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = a.farPin[i] == 0 ? 0 : b.farPin[static_cast<std::size_t>(a.farPin[i] - 1)];
    return out;
}

/// What a tester sees through a cord of that wiring, laid straight elsewhere; of a loop-back plug
/// from the end it is not on.
WireMap wireMapOf(Wiring wiring) {
    WireMap out;
    const auto rows = pinsOf(wiring);
    const bool cord = wiring == Wiring::Crossover || wiring == Wiring::LeasedCrossover;
    const bool loop = wiring == Wiring::Loopback || wiring == Wiring::LeasedLoopback;
    char letter = 'a';
    for (std::size_t i = 0; i < 8 && i < rows.size(); ++i) {
        const std::size_t to =
            rows[i].to.empty() ? 0 : static_cast<std::size_t>(std::stoi(rows[i].to));
        if (cord)
            out.farPin[i] = static_cast<int>(to);
        else if (loop)
            out.farPin[i] = 0; // nothing at the far end but what it is joined to
        else
            out.farPin[i] = rows[i].wire.empty() ? 0 : static_cast<int>(i) + 1;
        if (loop && to > i + 1) {
            out.shortGroup[i] = out.shortGroup[to - 1] = letter++;
        }
    }
    return out;
}

} // namespace

/// ANSI/TIA-568, stated again by pairs: pair 1 blue on 5-4, pair 4 brown on 7-8, both orders; pair
/// 2 orange and pair 3 green on 1-2 and 3-6, which way round tells them apart.
TEST(Pins, theTwoOrdersByTheirPairs) {
    const auto laid = [](Wiring wiring, const char* colour) {
        std::set<int> out;
        for (const auto& row : pinsOf(wiring))
            if (row.wire == colour || row.wire == std::string("white-") + colour)
                out.insert(std::stoi(row.pin));
        return out;
    };
    for (const Wiring wiring : {Wiring::T568A, Wiring::T568B}) {
        EXPECT_EQ(laid(wiring, "blue"), (std::set<int>{4, 5}));
        EXPECT_EQ(laid(wiring, "brown"), (std::set<int>{7, 8}));
        // White first, but for the pair in the middle.
        for (const auto& row : pinsOf(wiring)) {
            const bool white = row.wire.starts_with("white-");
            EXPECT_EQ(white, row.pin == "1" || row.pin == "3" || row.pin == "5" || row.pin == "7");
        }
    }
    EXPECT_EQ(laid(Wiring::T568A, "green"), (std::set<int>{1, 2}));
    EXPECT_EQ(laid(Wiring::T568A, "orange"), (std::set<int>{3, 6}));
    EXPECT_EQ(laid(Wiring::T568B, "orange"), (std::set<int>{1, 2}));
    EXPECT_EQ(laid(Wiring::T568B, "green"), (std::set<int>{3, 6}));
}

/// A cord with one order at each end crosses 1-2 and 3-6, as a crossover of 100 Mbit/s does.
TEST(Pins, oneOrderAtEachEndCrossesTwoPairs) {
    const auto a = wiresOf(Wiring::T568A);
    const auto b = wiresOf(Wiring::T568B);
    std::vector<int> far;
    for (const auto& wire : a)
        far.push_back(static_cast<int>(std::find(b.begin(), b.end(), wire) - b.begin()) + 1);
    EXPECT_EQ(far, (std::vector<int>{3, 6, 1, 4, 5, 2, 7, 8}));
}

TEST(Pins, crossoversCrossAndTwoOfThemAreStraight) {
    const WireMap cord = wireMapOf(Wiring::Crossover);
    EXPECT_EQ(cord.farPin, (std::array<int, 8>{3, 6, 1, 7, 8, 2, 4, 5}));
    const WireFinding seen = readWireMap(cord);
    ASSERT_EQ(seen.pairs.size(), 4U);
    for (const auto& pair : seen.pairs)
        EXPECT_EQ(pair.state, PairState::Crossed) << pair.pair;
    EXPECT_EQ(inARow(cord, cord), (std::array<int, 8>{1, 2, 3, 4, 5, 6, 7, 8}));
    const WireMap leased = wireMapOf(Wiring::LeasedCrossover);
    EXPECT_EQ(inARow(leased, leased), (std::array<int, 8>{1, 2, 0, 4, 5, 0, 0, 0}));
    EXPECT_EQ(leased.farPin[0], 4);
    EXPECT_EQ(leased.farPin[1], 5);
}

TEST(Pins, loopBacksBringEachPairBackOnAnother) {
    const WireMap plug = wireMapOf(Wiring::Loopback);
    std::map<char, std::set<int>> touching;
    for (std::size_t i = 0; i < 8; ++i)
        touching[plug.shortGroup[i]].insert(static_cast<int>(i) + 1);
    std::set<std::set<int>> groups;
    for (const auto& [letter, pins] : touching) {
        EXPECT_NE(letter, ' ');
        groups.insert(pins);
    }
    EXPECT_EQ(groups, (std::set<std::set<int>>{{1, 3}, {2, 6}, {4, 7}, {5, 8}}));
    for (const auto& pair : readWireMap(plug).pairs)
        EXPECT_NE(pair.state, PairState::Whole) << pair.pair;
    const WireMap leased = wireMapOf(Wiring::LeasedLoopback);
    EXPECT_EQ(leased.shortGroup[0], leased.shortGroup[3]);
    EXPECT_EQ(leased.shortGroup[1], leased.shortGroup[4]);
    EXPECT_NE(leased.shortGroup[0], leased.shortGroup[1]);
    EXPECT_EQ(leased.shortGroup[2], ' ');
}

TEST(Pins, voiceAndLeasedUseTheirPairsAlone) {
    const auto used = [](Wiring wiring) {
        std::set<std::string> out;
        for (const auto& row : pinsOf(wiring))
            if (!row.wire.empty())
                out.insert(row.pin);
        return out;
    };
    EXPECT_EQ(used(Wiring::Voice), (std::set<std::string>{"4", "5"}));
    EXPECT_EQ(used(Wiring::Leased), (std::set<std::string>{"1", "2", "4", "5"}));
    const WireFinding seen = readWireMap(wireMapOf(Wiring::Leased));
    EXPECT_TRUE(seen.wholeFor({"1-2", "4-5"}));
    EXPECT_FALSE(seen.whole());
}

/// Tips white, red, black, yellow, violet; rings blue, orange, green, brown, slate.
TEST(Pins, twentyFivePairsEachOnce) {
    const auto rows = pinsOf(Wiring::Pairs25);
    ASSERT_EQ(rows.size(), 50U);
    std::set<std::string> wires;
    for (const auto& row : rows)
        wires.insert(row.wire);
    EXPECT_EQ(wires.size(), 50U);
    EXPECT_EQ(rows[0].wire, "white-blue");
    EXPECT_EQ(rows[1].wire, "blue-white");
    EXPECT_EQ(rows[10].wire, "red-blue");     // pair 6
    EXPECT_EQ(rows[25].wire, "green-black");  // pair 13
    EXPECT_EQ(rows[48].wire, "violet-slate"); // pair 25
    for (const Wiring block : {Wiring::Block110, Wiring::Block66})
        EXPECT_EQ(wiresOf(block),
                  (std::vector<std::string>{"white-blue", "blue", "white-orange", "orange",
                                            "white-green", "green", "white-brown", "brown"}));
}

TEST(Pins, orderOfTheJobWhereThereIsOne) {
    const auto at = [](const char* id, bool a) { return wiringAt(*shipped().connection(id), a); };
    EXPECT_EQ(at("conn-cat6", false), Wiring::T568B);
    EXPECT_EQ(at("plug-cat6a", true), Wiring::T568A);
    EXPECT_EQ(at("conn-cat7", true), Wiring::T568A);
    EXPECT_EQ(at("block-66", true), Wiring::Block110);
    EXPECT_EQ(at("screw", true), std::nullopt);
    EXPECT_EQ(at("f-compression", true), std::nullopt);
}
