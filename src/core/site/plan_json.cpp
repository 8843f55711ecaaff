#include "core/site/plan_json.h"
#include <algorithm>
#include <chrono>

namespace burin {
namespace {

using Json = nlohmann::ordered_json;
constexpr double most = 1e5; ///< metres of a site
constexpr double highest = 1e4;

PlanPoint readPoint(JsonObject& in, std::string_view key, const Json& json) {
    if (!json.is_array() || json.size() != 2 || !json[0].is_number() || !json[1].is_number())
        in.fail(key, "holds something other than a pair of numbers", "Write [x, y] in metres");
    const PlanPoint out{json[0].get<double>(), json[1].get<double>()};
    if (!(std::abs(out.xM) <= most && std::abs(out.yM) <= most))
        in.fail(key, "lies further away than 100 km", "Write metres of the floor");
    return out;
}

PlanPoint needPoint(JsonObject& in, std::string_view key) {
    return readPoint(in, key, in.need(key));
}

Json pointJson(const PlanPoint& p) {
    return Json::array({p.xM, p.yM});
}

void putText(Json& out, const char* key, const std::string& text) {
    if (!text.empty())
        out[key] = text;
}

/// A date as the log writes it; empty is none.
std::string readDate(JsonObject& in, std::string_view key) {
    std::string text = in.stringOr(key, "");
    bool good =
        text.size() == 10 && text[4] == '-' && text[7] == '-' &&
        std::count_if(text.begin(), text.end(), [](char c) { return c >= '0' && c <= '9'; }) == 8;
    if (good) {
        const std::chrono::year_month_day day{
            std::chrono::year(std::stoi(text.substr(0, 4))),
            std::chrono::month(static_cast<unsigned>(std::stoi(text.substr(5, 2)))),
            std::chrono::day(static_cast<unsigned>(std::stoi(text.substr(8, 2))))};
        good = day.ok();
    }
    if (!good && !text.empty())
        in.fail(key, "is “" + text + "”, which is no date", "Write year-month-day: 2026-11-26");
    return text;
}

} // namespace

Json toJson(const std::vector<PlanPoint>& points) {
    Json out = Json::array();
    for (const auto& p : points)
        out.push_back(pointJson(p));
    return out;
}

std::vector<PlanPoint> readPoints(JsonObject& in, std::string_view key) {
    std::vector<PlanPoint> out;
    if (in.find(key) == nullptr)
        return out;
    for (const auto& p : in.array(key))
        out.push_back(readPoint(in, key, p));
    return out;
}

Json toJson(const std::vector<Via>& vias) {
    Json out = Json::array();
    for (const auto& via : vias)
        out.push_back({{"floorId", via.floorId}, {"at", pointJson(via.at)}});
    return out;
}

std::vector<Via> readVias(JsonObject& in, std::string_view key) {
    if (in.find(key) == nullptr)
        return {};
    return in.list(key, [](JsonObject via) {
        Via read{via.string("floorId"), needPoint(via, "at")};
        via.close();
        return read;
    });
}

Json toJson(const Floor& f) {
    Json out = {{"id", f.id},
                {"name", f.name},
                {"order", f.order},
                {"elevationM", f.elevationM},
                {"ceilingM", f.ceilingM},
                {"voidM", f.voidM},
                {"widthM", f.widthM},
                {"depthM", f.depthM}};
    if (f.picture) {
        const auto& p = *f.picture;
        out["picture"] = {{"hash", p.hash},         {"name", p.name},
                          {"page", p.page},         {"widthPx", p.widthPx},
                          {"heightPx", p.heightPx}, {"metresPerPixel", p.metresPerPixel},
                          {"at", pointJson(p.at)}};
    }
    return out;
}

Floor readFloor(JsonObject in) {
    Floor out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.order = in.integer("order", -1000000, 1000000);
    out.elevationM = in.number("elevationM", -highest, highest);
    out.ceilingM = in.number("ceilingM", 0.1, highest);
    out.voidM = in.number("voidM", 0, highest);
    out.widthM = in.number("widthM", 0.1, most);
    out.depthM = in.number("depthM", 0.1, most);
    if (in.find("picture") != nullptr) {
        JsonObject p = in.object("picture");
        out.picture = FloorPicture{p.string("hash"),
                                   p.string("name"),
                                   p.integer("page", 0, 100000),
                                   p.number("widthPx", 1, 1e7),
                                   p.number("heightPx", 1, 1e7),
                                   p.number("metresPerPixel", 1e-7, 1e4),
                                   needPoint(p, "at")};
        p.close();
    }
    in.close();
    return out;
}

Json toJson(const Place& p) {
    return {{"id", p.id},           {"name", p.name},     {"kind", keyIn(placeKindKeys, p.kind)},
            {"floorId", p.floorId}, {"roomId", p.roomId}, {"at", pointJson(p.at)},
            {"heightM", p.heightM}, {"ports", p.ports},   {"access", keyIn(accessKeys, p.access)}};
}

Place readPlace(JsonObject in) {
    Place out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.kind = readKey<PlaceKind>(in, "kind", placeKindKeys);
    out.floorId = in.string("floorId");
    out.roomId = in.stringOr("roomId", "");
    out.at = needPoint(in, "at");
    out.heightM = in.number("heightM", -highest, highest);
    out.ports = in.integer("ports", 0, 100000);
    out.access = readKey<EndAccess>(in, "access", accessKeys);
    in.close();
    return out;
}

Json toJson(const Pathway& p) {
    Json out = {{"id", p.id},
                {"name", p.name},
                {"kind", keyIn(pathwayKindKeys, p.kind)},
                {"floorId", p.floorId}};
    putText(out, "toFloorId", p.toFloorId);
    out["points"] = toJson(p.points);
    out["heightM"] = p.heightM;
    out["temperatureC"] = p.temperatureC;
    if (p.around != Surroundings::FreeAir)
        out["around"] = surroundingsKey(p.around);
    putIf(out, "boreMm", p.boreMm);
    putIf(out, "perHook", p.perHook);
    putIf(out, "supportM", p.supportM);
    putIf(out, "cornerRadiusMm", p.cornerRadiusMm);
    return out;
}

Pathway readPathway(JsonObject in) {
    Pathway out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.kind = readKey<PathwayKind>(in, "kind", pathwayKindKeys);
    out.floorId = in.string("floorId");
    out.toFloorId = in.stringOr("toFloorId", "");
    out.points = readPoints(in, "points");
    out.heightM = in.number("heightM", -highest, highest);
    out.temperatureC = in.number("temperatureC", -60, 200);
    if (in.find("around") != nullptr)
        out.around = in.keyword("around", surroundingsFromKey);
    out.boreMm = in.optionalNumber("boreMm", 1, 10000);
    out.perHook = in.optionalInteger("perHook", 1, 10000);
    out.supportM = in.optionalNumber("supportM", 0.01, 1000);
    out.cornerRadiusMm = in.optionalNumber("cornerRadiusMm", 0, 100000);
    in.close();
    return out;
}

Json toJson(const MainsRoute& m) {
    return {{"id", m.id},
            {"name", m.name},
            {"kind", keyIn(mainsKindKeys, m.kind)},
            {"floorId", m.floorId},
            {"points", toJson(m.points)},
            {"heightM", m.heightM},
            {"kva", m.kva},
            {"enclosed", m.enclosed}};
}

MainsRoute readMains(JsonObject in) {
    MainsRoute out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.kind = readKey<MainsKind>(in, "kind", mainsKindKeys);
    out.floorId = in.string("floorId");
    out.points = readPoints(in, "points");
    out.heightM = in.number("heightM", -highest, highest);
    out.kva = in.number("kva", 0, 1e6);
    out.enclosed = in.booleanOr("enclosed", false);
    in.close();
    return out;
}

Json toJson(const Surface& s) {
    Json out = {{"id", s.id},
                {"name", s.name},
                {"kind", keyIn(surfaceKindKeys, s.kind)},
                {"floorId", s.floorId},
                {"roomId", s.roomId},
                {"points", toJson(s.points)},
                {"fireMinutes", s.fireMinutes}};
    putText(out, "closesOn", s.closesOn);
    return out;
}

Surface readSurface(JsonObject in) {
    Surface out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.kind = readKey<SurfaceKind>(in, "kind", surfaceKindKeys);
    out.floorId = in.string("floorId");
    out.roomId = in.stringOr("roomId", "");
    out.points = readPoints(in, "points");
    out.fireMinutes = in.integer("fireMinutes", 0, 10000);
    out.closesOn = readDate(in, "closesOn");
    in.close();
    return out;
}

Json toJson(const Photograph& p) {
    Json out = {{"id", p.id}, {"hash", p.hash}, {"name", p.name}};
    putText(out, "takenOn", p.takenOn);
    putText(out, "work", p.work);
    putText(out, "floorId", p.floorId);
    if (p.at)
        out["at"] = pointJson(*p.at);
    putText(out, "roomId", p.roomId);
    putText(out, "runId", p.runId);
    putText(out, "surfaceId", p.surfaceId);
    putText(out, "note", p.note);
    return out;
}

Photograph readPhotograph(JsonObject in) {
    Photograph out;
    out.id = in.string("id");
    out.hash = in.string("hash");
    out.name = in.string("name");
    out.takenOn = readDate(in, "takenOn");
    out.work = in.stringOr("work", "");
    out.floorId = in.stringOr("floorId", "");
    if (in.find("at") != nullptr)
        out.at = needPoint(in, "at");
    out.roomId = in.stringOr("roomId", "");
    out.runId = in.stringOr("runId", "");
    out.surfaceId = in.stringOr("surfaceId", "");
    out.note = in.stringOr("note", "");
    in.close();
    return out;
}

Json toJson(const SurveyRules& r) {
    return {{"spare", keyIn(spareSchoolKeys, r.spare)},
            {"rackM", r.rackM},
            {"outletM", r.outletM},
            {"coilM", r.coilM},
            {"routeShare", r.routeShare},
            {"allowanceM", r.allowanceM},
            {"separation", keyIn(separationSchoolKeys, r.separation)},
            {"coaxHalf", r.coaxHalf},
            {"jackets", keyIn(jacketSchoolKeys, r.jackets)},
            {"labels", r.labels},
            {"cablePerM", r.cablePerM},
            {"hourPrice", r.hourPrice},
            {"repullHours", r.repullHours},
            {"currency", r.currency}};
}

SurveyRules readSurveyRules(JsonObject in) {
    SurveyRules out;
    out.spare = readKey<SpareSchool>(in, "spare", spareSchoolKeys);
    out.rackM = in.number("rackM", 0, 1000);
    out.outletM = in.number("outletM", 0, 1000);
    out.coilM = in.number("coilM", 0, 1000);
    out.routeShare = in.number("routeShare", 0, 10);
    out.allowanceM = in.number("allowanceM", 0, 1000);
    out.separation = readKey<SeparationSchool>(in, "separation", separationSchoolKeys);
    out.coaxHalf = in.booleanOr("coaxHalf", false);
    out.jackets = readKey<JacketSchool>(in, "jackets", jacketSchoolKeys);
    out.labels = in.string("labels");
    out.cablePerM = in.number("cablePerM", 0, 1e6);
    out.hourPrice = in.number("hourPrice", 0, 1e6);
    out.repullHours = in.number("repullHours", 0, 1e4);
    out.currency = in.string("currency");
    in.close();
    return out;
}

} // namespace burin
