#include "core/base/text.h"
#include "core/units/render.h"
#include <gtest/gtest.h>
#include <random>

using namespace burin;

TEST(Text, itsBeginningEndsWithAWholeLetter) {
    EXPECT_EQ(beginningOf("Kälte", 9), "Kälte");
    EXPECT_EQ(beginningOf("Kälte", 3), "Kä");
    EXPECT_EQ(beginningOf("Kälte", 2), "K");
    EXPECT_EQ(beginningOf("ä", 1), "");
    EXPECT_EQ(beginningOf("", 0), "");
}

namespace {

constexpr Wording wayLonger{"test.way-longer", "{0} are typed; {2}'s way is {1}"};
constexpr Wording shared{"test.shared", "{0} {0?cable|cables} share {1}"};
constexpr Wording plain{"test.plain", "nothing is measured"};
constexpr Wording broken{"test.broken", "{0} of {7} and {x} and {"};

} // namespace

TEST(Sentence, readsInTheUnitsOfWhoeverReads) {
    const auto said = sentence(wayLonger, asMetres(61.5), asMetres(70), asText("SL-D03"));
    EXPECT_EQ(said.key(), "test.way-longer");
    EXPECT_EQ(render(said, UnitSystem::Metric), "61.5 m are typed; SL-D03's way is 70.0 m");
    EXPECT_EQ(render(said, UnitSystem::Imperial), "201.8 ft are typed; SL-D03's way is 229.7 ft");
    // A translator may put them in another order.
    Rendering other;
    other.point = ',';
    other.translate = [](std::string_view key, std::string_view) {
        return std::string(key == "test.way-longer" ? "{2}: {1}, {0}" : "");
    };
    EXPECT_EQ(render(said, other), "SL-D03: 70,0 m, 61,5 m");
    EXPECT_EQ(render(sentence(plain), UnitSystem::Imperial), "nothing is measured");
    EXPECT_EQ(render(Sentence(), UnitSystem::Metric), "");
    EXPECT_EQ(render(sentence(broken, asCount(2)), UnitSystem::Metric), "2 of … and … and {");
}

TEST(Sentence, figuresByWhatTheyAreOf) {
    const auto both = [](const Quantity& q) {
        return render(q, UnitSystem::Metric) + " | " + render(q, UnitSystem::Imperial);
    };
    // A temperature and a difference of temperatures are not converted alike.
    EXPECT_EQ(both(asCelsius(-5)), "\u22125 °C | 23 °F");
    EXPECT_EQ(both(asDegrees(11)), "11 °C | 20 °F");
    EXPECT_EQ(both(asMillimetres(40)), "40 mm | 1.6 in");
    EXPECT_EQ(both(asMetres(0.3048, 2)), "0.30 m | 1.00 ft");
    EXPECT_EQ(both(asDecibel(-0.42, 2)), "\u22120.42 dB | \u22120.42 dB");
    EXPECT_EQ(both(asMegahertz(0.772)), "0.772 MHz | 0.772 MHz");
    EXPECT_EQ(both(asNewton(110)), "110 N | 25 lbf"); // 25 lbf are 111.2 N
    EXPECT_EQ(both(asMoney(12.5, "€")), "12.50 € | 12.50 €");
    EXPECT_EQ(both(asDay("2026-11-26")), "2026-11-26 | 2026-11-26");
    EXPECT_EQ(both({Quantity::Of::Share, 0.05}), "5 % | 5 %");
    EXPECT_EQ(both({Quantity::Of::Watt, 12.95}), "12.95 W | 12.95 W");
    EXPECT_EQ(both({Quantity::Of::Volt, 13.6, 1}), "13.6 V | 13.6 V");
    EXPECT_EQ(both({Quantity::Of::Ohm, 75}), "75 Ω | 75 Ω");
}

TEST(Sentence, oneAndMany) {
    const auto said = [](std::size_t count) {
        return render(sentence(shared, asCount(count), asText("the tray")), UnitSystem::Metric);
    };
    EXPECT_EQ(said(1), "1 cable share the tray");
    EXPECT_EQ(said(0), "0 cables share the tray");
    EXPECT_EQ(said(12), "12 cables share the tray");
}

TEST(Sentence, aUsersTextIsLeftAlone) {
    // Whatever people call their rooms: figures, units, braces, other scripts.
    std::mt19937 random(4);
    const std::vector<std::string> bits{"Store 3 m", "−5 °C lab", "{0}", "{1?a|b}", "}",   "%1",
                                        "12 dB",     "40 mm",     "\n",  "µΩ",      "",    "{",
                                        "3' 6\"",    "100 MHz",   "|",   "&amp;",   "<b>", "…"};
    for (int i = 0; i < 10000; ++i) {
        std::string text;
        for (int k = int(random() % 4); k >= 0; --k)
            text += bits[random() % bits.size()];
        const auto said = sentence(wayLonger, asMetres(1), asMetres(2), asText(text));
        ASSERT_EQ(render(said, UnitSystem::Metric), "1.0 m are typed; " + text + "'s way is 2.0 m");
        ASSERT_EQ(render(said, UnitSystem::Imperial),
                  "3.3 ft are typed; " + text + "'s way is 6.6 ft");
    }
}

TEST(Sentence, faultsHaveTheKeyAsTheirCode) {
    const Fault fault{sentence(plain), 0, 0, sentence(shared, asCount(1), asText("it")),
                      sentence(wayLonger, asMetres(1), asMetres(2), asText("x"))};
    EXPECT_EQ(fault.code(), "test.shared");
    EXPECT_EQ(render(fault, {}), "nothing is measured: 1 cable share it. 1.0 m are typed; x's way "
                                 "is 2.0 m");
    EXPECT_EQ(render(fault, UnitSystem::Imperial),
              "nothing is measured: 1 cable share it. 3.3 ft are typed; x's way is 6.6 ft");
}

TEST(Sentence, aFaultSaysWhereThenWhatThenWhatToDo) {
    const auto bad =
        refuse("way", {"test.bad", "“9 x” is no length"}, {"test.cure", "Type metres"});
    EXPECT_EQ(render(bad.value(), {}), "way: “9 x” is no length. Type metres");
    // A name stays as it is in every language, a word of ours has one in each.
    Rendering other;
    other.translate = [](std::string_view, std::string_view english) {
        return english.find('{') != std::string_view::npos ? std::string()
                                                           : "<" + std::string(english) + ">";
    };
    EXPECT_NE(render(bad.value(), other).find("<way>"), std::string::npos);
    EXPECT_NE(render(bad.value(), other).find("<Type metres>"), std::string::npos);
    EXPECT_EQ(render(named("way"), other).find("<way>"), std::string::npos);
    Fault fault = bad.value();
    fault.where = named("way");
    fault.line = 3;
    fault.column = 14;
    EXPECT_EQ(render(fault, {}), "way:3:14: “9 x” is no length. Type metres");
    fault.where = named("");
    fault.cure = {};
    EXPECT_EQ(render(fault, {}), ":3:14: “9 x” is no length");
}
