#pragma once
#include "core/job/tables.h"

/// Fields that several tables have, and the tables that have a file of their own.
namespace burin {

PlanPoint readPoint(JsonObject& in, const std::string& key, const Json& json);
Json pointJson(const PlanPoint& point);
/// Refuses what is no date as the log writes it.
void checkDay(const JsonObject& in, const std::string& key, const std::string& text);
/// The same; empty is none.
std::string readDate(JsonObject& in, const std::string& key);

template <typename T> FieldOf<T, int> orderField(int T::*member) {
    return wholeField("order", member, -1000000, 1000000);
}
/// Where an owned row stands among its owner's.
template <typename T> FieldOf<T, double> placeField(double T::*member) {
    return numberField("order", member, -1e9, 1e9).since(6);
}
/// [x, y] in metres.
template <typename T, typename M> FieldOf<T, M> pointField(std::string name, M T::*member) {
    return nestedField(
        std::move(name), member, [](const PlanPoint& p) { return pointJson(p); },
        [](JsonObject& in, const std::string& key) { return readPoint(in, key, in.need(key)); });
}
/// [[x, y], …] in metres.
template <typename T>
FieldOf<T, std::vector<PlanPoint>> pointsField(std::string name,
                                               std::vector<PlanPoint> T::*member) {
    return nestedField(
               std::move(name), member,
               [](const std::vector<PlanPoint>& points) {
                   Json out = Json::array();
                   for (const auto& p : points)
                       out.push_back(pointJson(p));
                   return out;
               },
               [](JsonObject& in, const std::string& key) {
                   std::vector<PlanPoint> out;
                   for (const auto& p : in.array(key))
                       out.push_back(readPoint(in, key, p));
                   return out;
               })
        .asList()
        .mayLack();
}
template <typename T> FieldOf<T, std::string> dateField(std::string name, std::string T::*member) {
    auto out = textField(name, member);
    out.field.read = [name, member](void* thing, JsonObject& in) {
        detail::as<T>(thing).*member = readDate(in, name);
    };
    return std::move(out).leftOut();
}
/// Rows with a table of their own.
template <typename T, typename Row>
FieldOf<T, std::vector<Row>> childrenField(std::string name, std::vector<Row> T::*member,
                                           Kind kind) {
    FieldOf<T, std::vector<Row>> out;
    Field& f = out.field;
    f.name = name;
    f.shape = Shape::Children;
    f.owns = kindWords[kind];
    f.get = [member, kind](const void* thing) {
        Json list = Json::array();
        for (const auto& row : detail::as<T>(thing).*member)
            list.push_back(objectOf(tableOf(kind).fields, &row));
        return list;
    };
    f.asOf = [member, kind](const void* thing, int version) {
        Json list = Json::array();
        for (const auto& row : detail::as<T>(thing).*member)
            list.push_back(objectOf(tableOf(kind).fields, &row, Owned::With, version));
        return list;
    };
    f.reset = [member](void* thing) { (detail::as<T>(thing).*member).clear(); };
    f.read = [member, name, kind](void* thing, JsonObject& in) {
        detail::as<T>(thing).*member = in.list(name, [&](JsonObject object) {
            Row row;
            readObject(tableOf(kind).fields, &row, object);
            return row;
        });
    };
    return out;
}

std::vector<Field> distributionFields();
std::vector<Field> partFields();
std::vector<Field> busFields();
std::vector<Field> deviceFields();
std::vector<Field> floorFields();
std::vector<Field> placeFields();
std::vector<Field> pathwayFields();
std::vector<Field> mainsFields();
std::vector<Field> surfaceFields();
std::vector<Field> photographFields();
std::vector<Field> pullRuleFields();
std::vector<Field> pieceFields();
std::vector<Field> boxFields();
std::vector<Field> pullFields();
std::vector<Field> toolFields();
std::vector<Field> terminationFields();

} // namespace burin
