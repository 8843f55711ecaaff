#include "core/job/run_json.h"
#include "core/site/plan_json.h"
#include <array>

namespace burin {
namespace {

constexpr double most = 1e9;
constexpr std::array<std::string_view, 3> endKeys{"near", "far", "inline"};

std::string_view endKey(End end) {
    return endKeys[static_cast<std::size_t>(end)];
}

std::optional<End> endFromKey(std::string_view key) {
    for (std::size_t i = 0; i < endKeys.size(); ++i)
        if (endKeys[i] == key)
            return static_cast<End>(i);
    return std::nullopt;
}

RunStretch readStretch(JsonObject in) {
    RunStretch out{in.string("name"), in.number("lengthM", 0, 1e6),
                   in.number("temperatureC", -273, 1000), in.integer("neighbours", 0, 100000),
                   in.find("around") == nullptr ? Surroundings::FreeAir
                                                : in.keyword("around", surroundingsFromKey)};
    in.close();
    return out;
}

RunCord readCord(JsonObject in) {
    RunCord out{in.keyword("end", endFromKey), in.string("cableId"), in.number("lengthM", 0, 1e6),
                in.booleanOr("awg26", false)};
    in.close();
    return out;
}

RunConnection readConnection(JsonObject in) {
    RunConnection out{in.keyword("end", endFromKey), in.string("connectionId"),
                      in.numberOr("atM", 0, 1e6, 0), in.booleanOr("outdoors", false)};
    in.close();
    return out;
}

/// Fills an object key by key. The library's own way looks for each key first, and copies what
/// stands already as it grows: an edit of ten thousand runs took 1.5 s with it and takes 1.0 s so.
class Rows {
public:
    Rows(Json& json, std::size_t keys) : object_(json.get_ref<Json::object_t&>()) {
        object_.reserve(keys);
    }
    template <typename T> void put(const char* key, T&& value) {
        object_.emplace_back(key, std::forward<T>(value));
    }
    template <typename T> void putIf(const char* key, const std::optional<T>& value) {
        if (value)
            put(key, *value);
    }

private:
    Json::object_t& object_;
};

Json partJson(const RunStretch& s) {
    Json json = Json::object();
    Rows out(json, 5);
    out.put("name", s.name);
    out.put("lengthM", s.lengthM);
    out.put("temperatureC", s.temperatureC);
    out.put("neighbours", s.neighbours);
    if (s.around != Surroundings::FreeAir)
        out.put("around", surroundingsKey(s.around));
    return json;
}
Json partJson(const RunCord& c) {
    Json json = Json::object();
    Rows out(json, 4);
    out.put("end", endKey(c.end));
    out.put("cableId", c.cableId);
    out.put("lengthM", c.lengthM);
    if (c.awg26)
        out.put("awg26", true);
    return json;
}
Json partJson(const RunConnection& c) {
    Json json = Json::object();
    Rows out(json, 4);
    out.put("end", endKey(c.end));
    out.put("connectionId", c.connectionId);
    if (c.end == End::Inline)
        out.put("atM", c.atM);
    if (c.outdoors)
        out.put("outdoors", true);
    return json;
}
template <typename T> Json listOf(const std::vector<T>& parts) {
    Json out = Json::array();
    out.get_ref<Json::array_t&>().reserve(parts.size());
    for (const auto& part : parts)
        out.push_back(partJson(part));
    return out;
}

/// A change of something drawn; false when `kind` is none.
} // namespace

Run readRun(JsonObject in) {
    Run out;
    out.id = in.string("id");
    out.roomId = in.string("roomId");
    out.label = in.string("label");
    out.order = in.integer("order", -1000000, 1000000);
    out.serviceId = in.string("serviceId");
    out.cableId = in.string("cableId");
    out.nearEnd = in.string("nearEnd");
    out.farEnd = in.string("farEnd");
    out.stretches = in.list("stretches", readStretch);
    out.cords = in.list("cords", readCord);
    out.connections = in.list("connections", readConnection);
    out.headLevel = in.optionalNumber("headLevel", -most, most);
    out.lossBudgetDb = in.optionalNumber("lossBudgetDb", 0, most);
    out.bandFromMhz = in.optionalNumber("bandFromMhz", 1e-6, most);
    out.bandToMhz = in.optionalNumber("bandToMhz", 1e-6, most);
    out.powerW = in.optionalNumber("powerW", 1e-6, most);
    out.loadRatio = in.optionalNumber("loadRatio", 1, most);
    out.poweredType = in.optionalInteger("poweredType", 1, 4);
    out.poweredClass = in.optionalInteger("poweredClass", 1, 8);
    out.perDirection = in.booleanOr("perDirection", false);
    out.leftCoiled = in.booleanOr("leftCoiled", false);
    out.note = in.stringOr("note", "");
    out.nearPlaceId = in.stringOr("nearPlaceId", "");
    out.farPlaceId = in.stringOr("farPlaceId", "");
    out.followsPlan = in.booleanOr("followsPlan", false);
    out.vias = readVias(in, "vias");
    out.jacket = readKey<Jacket>(in, "jacket", jacketKeys, Jacket::Unknown);
    in.close();
    return out;
}

Json toJson(const Run& run) {
    Json json = Json::object();
    Rows out(json, 26);
    out.put("id", run.id);
    out.put("roomId", run.roomId);
    out.put("label", run.label);
    out.put("order", run.order);
    out.put("serviceId", run.serviceId);
    out.put("cableId", run.cableId);
    out.put("nearEnd", run.nearEnd);
    out.put("farEnd", run.farEnd);
    out.put("stretches", listOf(run.stretches));
    out.put("cords", listOf(run.cords));
    out.put("connections", listOf(run.connections));
    out.putIf("headLevel", run.headLevel);
    out.putIf("lossBudgetDb", run.lossBudgetDb);
    out.putIf("bandFromMhz", run.bandFromMhz);
    out.putIf("bandToMhz", run.bandToMhz);
    out.putIf("powerW", run.powerW);
    out.putIf("loadRatio", run.loadRatio);
    out.putIf("poweredType", run.poweredType);
    out.putIf("poweredClass", run.poweredClass);
    if (run.perDirection)
        out.put("perDirection", true);
    if (run.leftCoiled)
        out.put("leftCoiled", true);
    if (!run.note.empty())
        out.put("note", run.note);
    if (!run.nearPlaceId.empty())
        out.put("nearPlaceId", run.nearPlaceId);
    if (!run.farPlaceId.empty())
        out.put("farPlaceId", run.farPlaceId);
    if (run.followsPlan)
        out.put("followsPlan", true);
    if (!run.vias.empty())
        out.put("vias", toJson(run.vias));
    if (run.jacket != Jacket::Unknown)
        out.put("jacket", keyIn(jacketKeys, run.jacket));
    return json;
}

} // namespace burin
