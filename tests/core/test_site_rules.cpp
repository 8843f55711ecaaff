#include "core/catalogue/site_rules.h"
#include "core/units/render.h"
#include <fstream>
#include <functional>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

using namespace burin;
using AnyJson = nlohmann::json;

namespace {

AnyJson shippedRules() {
    std::ifstream in(BURIN_CATALOGUE "/site.json");
    return AnyJson::parse(in);
}

/// What reading says of a file that was changed; empty when it takes it.
std::string saidOfRules(const std::function<void(AnyJson&)>& change) {
    AnyJson json = shippedRules();
    change(json);
    const auto read = readSiteRules(json.dump(), "site.json");
    return read ? std::string() : render(read.error(), {});
}

} // namespace

TEST(SiteRules, TheShippedOnesAreReadWhole) {
    const AnyJson json = shippedRules();
    const auto rules = readSiteRules(json.dump(), "site.json");
    ASSERT_TRUE(rules.has_value()) << render(rules.error(), {});
    EXPECT_EQ(rules->mains.size(), json.at("mainsPresets").size());
    EXPECT_EQ(rules->pathways.size(), json.at("pathwayPresets").size());
    EXPECT_EQ(rules->voids.size(), json.at("voidPresets").size());
    EXPECT_EQ(rules->kinds.size(), json.at("kinds").size());
    EXPECT_EQ(rules->separation.steps.size(), 3U);
    EXPECT_FALSE(rules->separation.source.empty());
    EXPECT_EQ(rules->kindOf("sat-if")->id, "coax");
    EXPECT_EQ(rules->kindOf("no such service"), nullptr);
    EXPECT_EQ(rules->kind("reader")->heads.front(), PlaceKind::Controller);
}

TEST(SiteRules, EveryWrongEntryIsRefusedByItsPath) {
    struct Case {
        const char* path;
        std::function<void(AnyJson&)> change;
    };
    const std::vector<Case> cases{
        {"format", [](AnyJson& j) { j["format"] = "something"; }},
        {"version", [](AnyJson& j) { j["version"] = 99; }},
        {"separation.metalFactor", [](AnyJson& j) { j["separation"].erase("metalFactor"); }},
        {"separation.motorMm", [](AnyJson& j) { j["separation"]["motorMm"] = -1; }},
        {"separation.motorMm", [](AnyJson& j) { j["separation"]["motorMm"] = "far"; }},
        {"fill.oneShare", [](AnyJson& j) { j["fill"]["oneShare"] = 1.5; }},
        {"bend.coax", [](AnyJson& j) { j["bend"]["coax"] = 0; }},
        {"hooks.perHook", [](AnyJson& j) { j["hooks"]["perHook"] = 0; }},
        {"mainsPresets[3].kind", [](AnyJson& j) { j["mainsPresets"][2]["kind"] = "tram"; }},
        {"mainsPresets[1].kva", [](AnyJson& j) { j["mainsPresets"][0].erase("kva"); }},
        {"pathwayPresets[2].kind", [](AnyJson& j) { j["pathwayPresets"][1]["kind"] = "drain"; }},
        {"voidPresets[1].voidM", [](AnyJson& j) { j["voidPresets"][0]["voidM"] = -0.1; }},
        {"kinds[voice].heads", [](AnyJson& j) { j["kinds"][3]["heads"][0] = "cupboard"; }},
        {"extra", [](AnyJson& j) { j["extra"] = 1; }},
    };
    for (const auto& one : cases) {
        const std::string said = saidOfRules(one.change);
        EXPECT_NE(said.find(one.path), std::string::npos)
            << "wanted " << one.path << ", said: " << said;
    }
    EXPECT_FALSE(readSiteRules("{", "site.json").has_value());
}
