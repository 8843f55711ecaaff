#include "core/base/moment.h"
#include "core/job/table_parts.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

constexpr double widest = 1e5; ///< metres of a site
constexpr double highest = 1e4;

std::vector<Field> pictureFields() {
    using T = FloorPicture;
    return fieldsOf<T>(
        textField("hash", &T::hash), textField("name", &T::name),
        wholeField("page", &T::page, 0, 100000), numberField("widthPx", &T::widthPx, 1, 1e7),
        numberField("heightPx", &T::heightPx, 1, 1e7),
        numberField("metresPerPixel", &T::metresPerPixel, 1e-7, 1e4), pointField("at", &T::at));
}

template <typename T> auto floorOf(std::string T::*member) {
    return textField("floorId", member).refers("floor", Gone::Remove);
}
template <typename T> auto roomOf(std::string T::*member) {
    return textField("roomId", member).refers("room", Gone::Clear).mayLack();
}

} // namespace

PlanPoint readPoint(JsonObject& in, const std::string& key, const Json& json) {
    if (!json.is_array() || json.size() != 2 || !json[0].is_number() || !json[1].is_number())
        in.fail(key, {"job.holds-something-other", "holds something other than a pair of numbers"},
                {"cure.write-x-y", "Write [x, y] in metres"});
    const PlanPoint out{json[0].get<double>(), json[1].get<double>()};
    if (!(std::abs(out.xM) <= widest && std::abs(out.yM) <= widest))
        in.fail(key, {"job.lies-further-away", "lies further away than 100 km"},
                {"cure.write-metres-floor", "Write metres of the floor"});
    return out;
}

Json pointJson(const PlanPoint& point) {
    return Json::array({point.xM, point.yM});
}

void checkDay(const JsonObject& in, const std::string& key, const std::string& text) {
    if (!calendarDay(text))
        in.fail(key, sentence({"job.no-date", "is “{0}”, which is no date"}, text),
                {"days.write-date", "Write year-month-day: 2026-11-26"});
}
std::string readDate(JsonObject& in, const std::string& key) {
    std::string text = in.stringOr(key, "");
    if (!text.empty())
        checkDay(in, key, text);
    return text;
}

template <typename M> Field detail::pointAt(const std::string& name, Spot spot) {
    return make<M>(name, Shape::Nested, spot, pointJson,
                   [name](JsonObject& in) { return readPoint(in, name, in.need(name)); });
}
template Field detail::pointAt<PlanPoint>(const std::string&, Spot);
template Field detail::pointAt<std::optional<PlanPoint>>(const std::string&, Spot);
Field detail::pointsAt(const std::string& name, Spot spot) {
    using Points = std::vector<PlanPoint>;
    Field out = make<Points>(
        name, Shape::Nested, spot,
        [](const Points& points) {
            Json list = Json::array();
            for (const auto& p : points)
                list.push_back(pointJson(p));
            return list;
        },
        [name](JsonObject& in) {
            Points points;
            for (const auto& p : in.array(name))
                points.push_back(readPoint(in, name, p));
            return points;
        });
    out.list = true;
    return out;
}
Field detail::dateAt(const std::string& name, Spot spot) {
    Field out = textAt(name, spot);
    out.read = [name, spot](void* thing, JsonObject& in) {
        as<std::string>(spot.in(thing)) = readDate(in, name);
    };
    return out;
}

std::vector<Field> floorFields() {
    using T = Floor;
    return fieldsOf<T>(textField("id", &T::id), textField("name", &T::name), orderField(&T::order),
                       numberField("elevationM", &T::elevationM, -highest, highest),
                       numberField("ceilingM", &T::ceilingM, 0.1, highest),
                       numberField("voidM", &T::voidM, 0, highest),
                       numberField("widthM", &T::widthM, 0.1, widest),
                       numberField("depthM", &T::depthM, 0.1, widest),
                       objectField("picture", &T::picture, pictureFields()));
}

std::vector<Field> placeFields() {
    using T = Place;
    return fieldsOf<T>(
        textField("id", &T::id), textField("name", &T::name),
        wordField("kind", &T::kind, placeKindWords), floorOf(&T::floorId), roomOf(&T::roomId),
        pointField("at", &T::at), numberField("heightM", &T::heightM, -highest, highest),
        wholeField("ports", &T::ports, 0, mostPorts), wordField("access", &T::access, accessWords),
        textsField("portNames", &T::portNames, mostPorts).since(6).leftOut());
}

std::vector<Field> pathwayFields() {
    using T = Pathway;
    return fieldsOf<T>(
        textField("id", &T::id), textField("name", &T::name),
        wordField("kind", &T::kind, pathwayKindWords), floorOf(&T::floorId),
        textField("toFloorId", &T::toFloorId).refers("floor", Gone::Remove).leftOut(),
        pointsField("points", &T::points), numberField("heightM", &T::heightM, -highest, highest),
        numberField("temperatureC", &T::temperatureC, -60, 200),
        wordField("around", &T::around, surroundingsWords).leftOut(),
        numberField("boreMm", &T::boreMm, 1, 10000), wholeField("perHook", &T::perHook, 1, 10000),
        numberField("supportM", &T::supportM, 0.01, 1000),
        numberField("cornerRadiusMm", &T::cornerRadiusMm, 0, 100000));
}

std::vector<Field> mainsFields() {
    using T = MainsRoute;
    return fieldsOf<T>(
        textField("id", &T::id), textField("name", &T::name),
        wordField("kind", &T::kind, mainsKindWords), floorOf(&T::floorId),
        pointsField("points", &T::points), numberField("heightM", &T::heightM, -highest, highest),
        numberField("kva", &T::kva, 0, 1e6), flagField("enclosed", &T::enclosed).mayLack());
}

std::vector<Field> surfaceFields() {
    using T = Surface;
    return fieldsOf<T>(textField("id", &T::id), textField("name", &T::name),
                       wordField("kind", &T::kind, surfaceKindWords), floorOf(&T::floorId),
                       roomOf(&T::roomId), pointsField("points", &T::points),
                       wholeField("fireMinutes", &T::fireMinutes, 0, 10000),
                       dateField("closesOn", &T::closesOn));
}

std::vector<Field> photographFields() {
    using T = Photograph;
    const auto of = [](const char* name, std::string T::*member, const char* kind) {
        return textField(name, member).refers(kind, Gone::Clear).leftOut();
    };
    return fieldsOf<T>(textField("id", &T::id), textField("hash", &T::hash),
                       textField("name", &T::name).longest(2 * longestName),
                       dateField("takenOn", &T::takenOn), textField("work", &T::work).leftOut(),
                       of("floorId", &T::floorId, "floor"), pointField("at", &T::at),
                       of("roomId", &T::roomId, "room"), of("runId", &T::runId, "run"),
                       of("surfaceId", &T::surfaceId, "surface"),
                       textField("note", &T::note).longest(longestNote).leftOut());
}

} // namespace burin
