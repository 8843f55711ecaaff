#include "core/site/plan_json.h"
#include <functional>
#include <gtest/gtest.h>

using namespace burin;
using Json = nlohmann::ordered_json;

namespace {

Floor floorOf() {
    Floor out;
    out.id = "g";
    out.name = "Ground floor";
    out.order = 2;
    out.elevationM = -3.2;
    out.ceilingM = 2.45;
    out.voidM = 0;
    out.widthM = 41.5;
    out.depthM = 17;
    out.picture = FloorPicture{"abc", "plan.pdf", 3, 4096, 2897, 0.0123, {-1, 2.5}};
    return out;
}

Place placeOf() {
    return {"p",  "Panel A", PlaceKind::RadioShelf, "g", "r", {1.25, 7},
            -0.4, 24,        EndAccess::Height};
}

Pathway pathwayOf() {
    Pathway out;
    out.id = "w";
    out.name = "riser";
    out.kind = PathwayKind::Conduit;
    out.floorId = "g";
    out.toFloorId = "h";
    out.points = {{0, 0}, {5, 0}, {5, 9.25}};
    out.heightM = 3.05;
    out.temperatureC = 41;
    out.around = Surroundings::Insulation;
    out.boreMm = 22;
    out.perHook = 30;
    out.supportM = 1.2;
    out.cornerRadiusMm = 132;
    return out;
}

MainsRoute mainsOf() {
    return {"m", "feeder", MainsKind::Ballast, "g", {{3, 4}}, 2.6, 7.5, true};
}

Surface surfaceOf() {
    return {"s", "wall", SurfaceKind::Underfloor, "g", "r", {{0, 0}, {1, 1}}, 90, "2026-12-01"};
}

Photograph photographOf() {
    return {"f", "hash", "wall.jpg", "2026-11-20",      "pulled", "g", PlanPoint{3, 4},
            "r", "run",  "s",        "behind the bench"};
}

/// Writes a thing, lets `change` have its JSON, reads it: what is said, or nothing.
template <typename T>
std::string saidOf(const T& thing, T (*read)(JsonObject),
                   const std::function<void(Json&)>& change) {
    Json json = toJson(thing);
    change(json);
    try {
        const T back = read(JsonObject(json, "job.json", "thing"));
        EXPECT_TRUE(back == thing);
        return {};
    } catch (const FaultThrown& thrown) {
        return thrown.fault.text();
    }
}

template <typename T> std::string saidOf(const T& thing, T (*read)(JsonObject)) {
    return saidOf<T>(thing, read, [](Json&) {});
}

template <typename T>
void refuses(const T& thing, T (*read)(JsonObject), const std::string& key, const Json& value) {
    const std::string said = saidOf<T>(thing, read, [&](Json& json) { json[key] = value; });
    EXPECT_NE(said.find("thing." + key), std::string::npos)
        << key << " = " << value.dump() << ": " << (said.empty() ? "it was read" : said);
}

} // namespace

TEST(PlanJson, EverythingComesBackAsItWas) {
    EXPECT_EQ(saidOf(floorOf(), readFloor), "");
    EXPECT_EQ(saidOf(placeOf(), readPlace), "");
    EXPECT_EQ(saidOf(pathwayOf(), readPathway), "");
    EXPECT_EQ(saidOf(mainsOf(), readMains), "");
    EXPECT_EQ(saidOf(surfaceOf(), readSurface), "");
    EXPECT_EQ(saidOf(photographOf(), readPhotograph), "");
    SurveyRules rules;
    rules.spare = SpareSchool::Measured;
    rules.separation = SeparationSchool::House;
    rules.jackets = JacketSchool::PlenumEverywhere;
    rules.coaxHalf = true;
    rules.routeShare = 0.08;
    rules.labels = "{kind}{n}";
    rules.currency = "£";
    EXPECT_EQ(saidOf(rules, readSurveyRules), "");
}

TEST(PlanJson, EveryKindHasAKeyOfItsOwn) {
    Place place = placeOf();
    for (std::size_t i = 0; i < placeKindKeys.size(); ++i) {
        place.kind = static_cast<PlaceKind>(i);
        EXPECT_EQ(saidOf(place, readPlace), "");
        EXPECT_FALSE(placeWord(place.kind).empty());
    }
    for (std::size_t i = 0; i < accessKeys.size(); ++i) {
        place.access = static_cast<EndAccess>(i);
        EXPECT_EQ(saidOf(place, readPlace), "");
        EXPECT_FALSE(accessWord(place.access).empty());
    }
    Pathway way = pathwayOf();
    for (std::size_t i = 0; i < pathwayKindKeys.size(); ++i) {
        way.kind = static_cast<PathwayKind>(i);
        EXPECT_EQ(saidOf(way, readPathway), "");
        EXPECT_FALSE(pathwayWord(way.kind).empty());
    }
    Surface surface = surfaceOf();
    for (std::size_t i = 0; i < surfaceKindKeys.size(); ++i) {
        surface.kind = static_cast<SurfaceKind>(i);
        EXPECT_EQ(saidOf(surface, readSurface), "");
    }
    for (std::size_t i = 0; i < jacketKeys.size(); ++i)
        EXPECT_FALSE(jacketWord(static_cast<Jacket>(i)).empty());
}

TEST(PlanJson, WhatMakesNoSenseIsRefusedByItsPath) {
    refuses(floorOf(), readFloor, "ceilingM", 0);
    refuses(floorOf(), readFloor, "widthM", -4);
    refuses(floorOf(), readFloor, "voidM", "high");
    refuses(floorOf(), readFloor, "colour", "red");
    refuses(placeOf(), readPlace, "kind", "cupboard");
    refuses(placeOf(), readPlace, "access", "hard");
    refuses(placeOf(), readPlace, "ports", -1);
    refuses(placeOf(), readPlace, "at", Json::array({1}));
    refuses(placeOf(), readPlace, "at", Json::array({1, "two"}));
    refuses(placeOf(), readPlace, "heightM", 1e9);
    refuses(pathwayOf(), readPathway, "kind", "drain");
    refuses(pathwayOf(), readPathway, "temperatureC", 900);
    refuses(pathwayOf(), readPathway, "boreMm", 0);
    refuses(pathwayOf(), readPathway, "perHook", 0);
    refuses(pathwayOf(), readPathway, "points", Json::array({Json::array({1, 2, 3})}));
    refuses(pathwayOf(), readPathway, "points", "0,0 1,1");
    refuses(mainsOf(), readMains, "kva", -1);
    refuses(mainsOf(), readMains, "kind", "tram");
    refuses(surfaceOf(), readSurface, "fireMinutes", -30);
    refuses(surfaceOf(), readSurface, "closesOn", "next Thursday");
    refuses(surfaceOf(), readSurface, "closesOn", "2026-13-01");
    refuses(surfaceOf(), readSurface, "closesOn", "2026-02-29");
    refuses(surfaceOf(), readSurface, "closesOn", "20-26-02-2");
    refuses(photographOf(), readPhotograph, "takenOn", "20.11.2026");
    refuses(photographOf(), readPhotograph, "at", Json::object());
    refuses(SurveyRules{}, readSurveyRules, "spare", "some");
    refuses(SurveyRules{}, readSurveyRules, "routeShare", -0.1);
}

TEST(PlanJson, WhatIsMissingIsNamed) {
    for (const char* key : {"id", "name", "kind", "floorId", "heightM", "temperatureC"}) {
        const std::string said =
            saidOf<Pathway>(pathwayOf(), readPathway, [&](Json& json) { json.erase(key); });
        EXPECT_NE(said.find(std::string("thing.") + key), std::string::npos) << said;
        EXPECT_NE(said.find("missing"), std::string::npos) << said;
    }
}
