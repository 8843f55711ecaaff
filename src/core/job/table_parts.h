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
namespace detail {
template <typename M> Field pointAt(const std::string& name, Spot spot);
Field pointsAt(const std::string& name, Spot spot);
Field dateAt(const std::string& name, Spot spot);
} // namespace detail

/// [x, y] in metres.
template <typename T, typename M> FieldOf<T, M> pointField(const std::string& name, M T::*member) {
    return {detail::pointAt<M>(name, detail::spotOf(member))};
}
/// [[x, y], …] in metres.
template <typename T>
FieldOf<T, std::vector<PlanPoint>> pointsField(const std::string& name,
                                               std::vector<PlanPoint> T::*member) {
    return FieldOf<T, std::vector<PlanPoint>>{detail::pointsAt(name, detail::spotOf(member))}
        .mayLack();
}
template <typename T>
FieldOf<T, std::string> dateField(const std::string& name, std::string T::*member) {
    return FieldOf<T, std::string>{detail::dateAt(name, detail::spotOf(member))}.leftOut();
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
    const auto spot = detail::spotOf(member);
    const auto listed = [](const void* rows, Kind of, int version) {
        Json list = Json::array();
        for (const auto& row : detail::as<std::vector<Row>>(rows))
            list.push_back(objectOf(tableOf(of).fields, &row, Owned::With, version));
        return list;
    };
    f.get = [spot, kind, listed](const void* thing) {
        return listed(spot.in(thing), kind, anyVersion);
    };
    f.asOf = [spot, kind, listed](const void* thing, int version) {
        return listed(spot.in(thing), kind, version);
    };
    f.reset = [spot](void* thing) { detail::as<std::vector<Row>>(spot.in(thing)).clear(); };
    f.read = [spot, name, kind](void* thing, JsonObject& in) {
        detail::as<std::vector<Row>>(spot.in(thing)) = in.list(name, [&](JsonObject object) {
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
