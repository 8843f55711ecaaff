#pragma once
#include "core/catalogue/json_reader.h"
#include "core/site/plan.h"

namespace burin {

/// JSON of what is drawn on the plan, and back; readers throw FaultThrown inside a reader.
nlohmann::ordered_json toJson(const Floor& floor);
nlohmann::ordered_json toJson(const Place& place);
nlohmann::ordered_json toJson(const Pathway& pathway);
nlohmann::ordered_json toJson(const MainsRoute& mains);
nlohmann::ordered_json toJson(const Surface& surface);
nlohmann::ordered_json toJson(const Photograph& photograph);
nlohmann::ordered_json toJson(const SurveyRules& rules);
nlohmann::ordered_json toJson(const std::vector<PlanPoint>& points);
nlohmann::ordered_json toJson(const std::vector<Via>& vias);
Floor readFloor(JsonObject in);
Place readPlace(JsonObject in);
Pathway readPathway(JsonObject in);
MainsRoute readMains(JsonObject in);
Surface readSurface(JsonObject in);
Photograph readPhotograph(JsonObject in);
SurveyRules readSurveyRules(JsonObject in);
/// The list under `key`, [[x, y], …] in metres; none is an empty one.
std::vector<PlanPoint> readPoints(JsonObject& in, std::string_view key);
std::vector<Via> readVias(JsonObject& in, std::string_view key);
/// A word of a list of keys.
template <typename E, std::size_t N>
E readKey(JsonObject& in, std::string_view key, const std::array<std::string_view, N>& keys,
          std::optional<E> otherwise = std::nullopt) {
    if (otherwise && in.find(key) == nullptr)
        return *otherwise;
    const std::string text = in.string(key);
    for (std::size_t i = 0; i < N; ++i)
        if (keys[i] == text)
            return static_cast<E>(i);
    std::string known;
    for (const auto& k : keys)
        known += (known.empty() ? "" : ", ") + std::string(k);
    in.fail(key, "is “" + text + "”, which is not known", "One of " + known);
}

} // namespace burin
