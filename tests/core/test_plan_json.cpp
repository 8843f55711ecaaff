#include "core/job/tables.h"
#include "core/units/render.h"
#include <functional>
#include <gtest/gtest.h>

using namespace burin;

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

/// The fields of a type that is kept.
template <typename T> const std::vector<Field>& fieldsFor() {
    return tableOf(kindOf<T>()).fields;
}
/// Writes a thing, lets `change` have its JSON, reads it: what is said, or nothing.
template <typename T>
std::string saidOf(const T& thing, const std::function<void(Json&)>& change = {}) {
    Json json = toJson(thing);
    if (change)
        change(json);
    try {
        T back;
        JsonObject in(json, "job.json", "thing");
        readObject(fieldsFor<T>(), &back, in);
        EXPECT_TRUE(back == thing);
        return {};
    } catch (const FaultThrown& thrown) {
        return render(thrown.fault, {});
    }
}

template <typename T> void refuses(const T& thing, const std::string& key, const Json& value) {
    const std::string said = saidOf<T>(thing, [&](Json& json) {
        const auto dot = key.find('.');
        (dot == std::string::npos ? json[key] : json[key.substr(0, dot)][key.substr(dot + 1)]) =
            value;
    });
    EXPECT_NE(said.find("thing." + key), std::string::npos)
        << key << " = " << value.dump() << ": " << (said.empty() ? "it was read" : said);
}

} // namespace

TEST(PlanJson, EverythingComesBackAsItWas) {
    EXPECT_EQ(saidOf(floorOf()), "");
    EXPECT_EQ(saidOf(placeOf()), "");
    EXPECT_EQ(saidOf(pathwayOf()), "");
    EXPECT_EQ(saidOf(mainsOf()), "");
    EXPECT_EQ(saidOf(surfaceOf()), "");
    EXPECT_EQ(saidOf(photographOf()), "");
    SurveyRules rules;
    rules.spare = SpareSchool::Measured;
    rules.separation = SeparationSchool::House;
    rules.jackets = JacketSchool::PlenumEverywhere;
    rules.coaxHalf = true;
    rules.routeShare = 0.08;
    rules.labels = "{kind}{n}";
    rules.currency = "£";
    JobInfo info;
    info.survey = rules;
    EXPECT_EQ(saidOf(info), "");
}

TEST(PlanJson, EveryKindHasAKeyOfItsOwn) {
    Place place = placeOf();
    for (std::size_t i = 0; i < placeKindWords.words.size(); ++i) {
        place.kind = static_cast<PlaceKind>(i);
        EXPECT_EQ(saidOf(place), "");
        EXPECT_FALSE(placeWord(place.kind).empty());
    }
    for (std::size_t i = 0; i < accessWords.words.size(); ++i) {
        place.access = static_cast<EndAccess>(i);
        EXPECT_EQ(saidOf(place), "");
        EXPECT_FALSE(accessWord(place.access).empty());
    }
    Pathway way = pathwayOf();
    for (std::size_t i = 0; i < pathwayKindWords.words.size(); ++i) {
        way.kind = static_cast<PathwayKind>(i);
        EXPECT_EQ(saidOf(way), "");
        EXPECT_FALSE(pathwayWord(way.kind).empty());
    }
    Surface surface = surfaceOf();
    for (std::size_t i = 0; i < surfaceKindWords.words.size(); ++i) {
        surface.kind = static_cast<SurfaceKind>(i);
        EXPECT_EQ(saidOf(surface), "");
    }
    for (std::size_t i = 0; i < jacketWords.words.size(); ++i)
        EXPECT_FALSE(jacketWord(static_cast<Jacket>(i)).empty());
}

TEST(PlanJson, WhatMakesNoSenseIsRefusedByItsPath) {
    refuses(floorOf(), "ceilingM", 0);
    refuses(floorOf(), "widthM", -4);
    refuses(floorOf(), "voidM", "high");
    refuses(floorOf(), "colour", "red");
    refuses(placeOf(), "kind", "cupboard");
    refuses(placeOf(), "access", "hard");
    refuses(placeOf(), "ports", -1);
    refuses(placeOf(), "at", Json::array({1}));
    refuses(placeOf(), "at", Json::array({1, "two"}));
    refuses(placeOf(), "heightM", 1e9);
    refuses(pathwayOf(), "kind", "drain");
    refuses(pathwayOf(), "temperatureC", 900);
    refuses(pathwayOf(), "boreMm", 0);
    refuses(pathwayOf(), "perHook", 0);
    refuses(pathwayOf(), "points", Json::array({Json::array({1, 2, 3})}));
    refuses(pathwayOf(), "points", "0,0 1,1");
    refuses(mainsOf(), "kva", -1);
    refuses(mainsOf(), "kind", "tram");
    refuses(surfaceOf(), "fireMinutes", -30);
    refuses(surfaceOf(), "closesOn", "next Thursday");
    refuses(surfaceOf(), "closesOn", "2026-13-01");
    refuses(surfaceOf(), "closesOn", "2026-02-29");
    refuses(surfaceOf(), "closesOn", "20-26-02-2");
    refuses(photographOf(), "takenOn", "20.11.2026");
    refuses(photographOf(), "at", Json::object());
    refuses(JobInfo{}, "survey.spare", "some");
    refuses(JobInfo{}, "survey.routeShare", -0.1);
}

TEST(PlanJson, WhatIsMissingIsNamed) {
    for (const char* key : {"id", "name", "kind", "floorId", "heightM", "temperatureC"}) {
        const std::string said = saidOf<Pathway>(pathwayOf(), [&](Json& json) { json.erase(key); });
        EXPECT_NE(said.find(std::string("thing.") + key), std::string::npos) << said;
        EXPECT_NE(said.find("missing"), std::string::npos) << said;
    }
}
