#include "core/describe/json_reader.h"
#include "core/units/render.h"
#include "says.h"
#include <gtest/gtest.h>

using namespace burin;

namespace {

/// What reading says, or nothing when it is content.
template <typename Read> std::string faultOf(const char* text, Read read) {
    const auto json = parseJson(text, "f.json");
    if (!json)
        return render(json.error(), {});
    try {
        JsonObject object(*json, "f.json", "");
        read(object);
        object.close();
        return {};
    } catch (const FaultThrown& thrown) {
        EXPECT_EQ(render(thrown.fault.where, {}), "f.json");
        EXPECT_FALSE(thrown.fault.cure.empty());
        return render(thrown.fault, {});
    }
}

} // namespace

TEST(JsonReader, goodObjectIsRead) {
    EXPECT_EQ(faultOf(R"({"a": 1.5, "b": "x", "c": true, "d": [1], "e": {"f": 2}, "g": null})",
                      [](JsonObject& in) {
                          EXPECT_DOUBLE_EQ(in.number("a", 0, 2), 1.5);
                          EXPECT_EQ(in.string("b"), "x");
                          EXPECT_TRUE(in.booleanOr("c", false));
                          EXPECT_EQ(in.array("d").size(), 1U);
                          JsonObject inner = in.object("e");
                          EXPECT_EQ(inner.integer("f", 0, 9), 2);
                          inner.close();
                          EXPECT_FALSE(in.optionalNumber("g", 0, 1));
                          EXPECT_FALSE(in.optionalInteger("h", 0, 1));
                          EXPECT_EQ(in.stringOr("i", "else"), "else");
                          EXPECT_DOUBLE_EQ(in.numberOr("j", 0, 9, 7), 7);
                          EXPECT_TRUE(in.booleanOr("k", true));
                      }),
              "");
}

TEST(JsonReader, faultsNameTheKey) {
    EXPECT_TRUE(says(faultOf("{}", [](JsonObject& in) { in.number("lengthM", 0, 1); }),
                     "lengthM is missing"));
    EXPECT_TRUE(
        says(faultOf(R"({"lengthM": "3"})", [](JsonObject& in) { in.number("lengthM", 0, 9); }),
             "no number"));
    EXPECT_TRUE(
        says(faultOf(R"({"lengthM": 30})", [](JsonObject& in) { in.number("lengthM", 0, 9); }),
             "outside 0 to 9"));
    EXPECT_TRUE(says(faultOf(R"({"n": 1.5})", [](JsonObject& in) { in.integer("n", 0, 9); }),
                     "no whole number"));
    EXPECT_TRUE(
        says(faultOf(R"({"s": 1})", [](JsonObject& in) { in.string("s"); }), "s is no text"));
    EXPECT_TRUE(says(faultOf(R"({"b": 1})", [](JsonObject& in) { in.booleanOr("b", false); }),
                     "neither true nor false"));
    EXPECT_TRUE(
        says(faultOf(R"({"l": {}})", [](JsonObject& in) { in.array("l"); }), "l is no list"));
    EXPECT_TRUE(
        says(faultOf(R"({"o": []})", [](JsonObject& in) { in.object("o"); }), "o is no object"));
    EXPECT_TRUE(says(faultOf("[]", [](JsonObject&) {}), "no object"));
}

TEST(JsonReader, unknownKeyNamesTheNearOne) {
    const std::string text = faultOf(R"({"lengthM": 3, "lengthFt": 9})",
                                     [](JsonObject& in) { in.number("lengthM", 0, 9); });
    EXPECT_TRUE(says(text, "lengthFt is not known")) << text;
    EXPECT_TRUE(says(text, "“lengthM” is the key")) << text;
}

TEST(JsonReader, pathsNameTheEntry) {
    const std::string text =
        faultOf(R"({"runs": [{"id": "a"}, {"id": "b", "x": -1}]})", [](JsonObject& in) {
            const auto& runs = in.array("runs");
            for (std::size_t i = 0; i < runs.size(); ++i) {
                JsonObject run = in.item("runs", runs[i], i);
                run.string("id");
                run.optionalNumber("x", 0, 1);
                run.close();
            }
        });
    EXPECT_TRUE(says(text, "runs[b].x is -1")) << text;
}

TEST(JsonReader, syntaxHasLineAndColumn) {
    const auto bad = parseJson("{\n  \"a\": 1,\n  \"b\" 2\n}", "f.json");
    ASSERT_FALSE(bad);
    EXPECT_EQ(bad.error().line, 3);
    EXPECT_GT(bad.error().column, 1);
    EXPECT_FALSE(parseJson("", "f.json"));
    EXPECT_FALSE(parseJson("{\"a\": \"\xff\"}", "f.json"));
    EXPECT_FALSE(parseJson("{\"a\": 1e999}", "f.json"));
}

TEST(JsonReader, hostileDepthIsRefused) {
    const std::string deep = std::string(100000, '[') + std::string(100000, ']');
    const auto bad = parseJson(deep, "f.json");
    ASSERT_FALSE(bad);
    EXPECT_TRUE(says(bad.error().what, "64 levels"));
}

TEST(JsonReader, whatNobodyWritesIsRefusedBeforeATreeIsMadeOfIt) {
    const auto said = [](const std::string& text) {
        const auto json = parseJson(text, "x");
        return json ? std::string() : render(json.error(), {});
    };
    std::string keys = "{";
    for (int i = 0; i < 200000; ++i)
        keys += (i == 0 ? "\"k" : ",\"k") + std::to_string(i) + "\":1";
    EXPECT_TRUE(says(said(keys + "}"), "over 1000 keys"));
    EXPECT_TRUE(says(said(std::string(100000, '[')), "deeper than 64"));
    EXPECT_TRUE(says(said(R"({"a": {"b": 1, "c": 2, "b": 3}})"), "“b” twice"));
    EXPECT_EQ(said(R"({"a": {"b": 1}, "c": {"b": 1}, "d": [{"b": 1}, {"b": 2}]})"), "");
    // An array of many small objects takes a time linear in it.
    std::string many = "[";
    for (int i = 0; i < 100000; ++i)
        many += std::string(i == 0 ? "" : ",") + R"({"id":"r","label":"x","lengthM":12.5})";
    EXPECT_EQ(said(many + "]"), "");
    EXPECT_EQ(said("[1,2"), "x:1:4: this is not JSON from here on. Mend the syntax at this place");
}
