#include "core/job/tables.h"
#include "core/job/table_parts.h"
#include <algorithm>

namespace burin {
namespace {

std::vector<Field> accuracyFields() {
    using T = Accuracy;
    return fieldsOf<T>(numberField("lossDb", &T::lossDb, 0, 100),
                       numberField("lossShare", &T::lossShare, 0, 1),
                       numberField("crosstalkDb", &T::crosstalkDb, 0, 100),
                       numberField("crosstalkAtTopDb", &T::crosstalkAtTopDb, 0, 100),
                       numberField("returnLossDb", &T::returnLossDb, 0, 100),
                       numberField("lengthM", &T::lengthM, 0, 100),
                       numberField("lengthShare", &T::lengthShare, 0, 1),
                       numberField("resistanceOhm", &T::resistanceOhm, 0, 100),
                       numberField("resistanceShare", &T::resistanceShare, 0, 1),
                       numberField("delayNs", &T::delayNs, 0, 1000));
}

std::vector<Field> priceFields() {
    using T = CablePrice;
    return fieldsOf<T>(textField("cableId", &T::cableId), numberField("perM", &T::perM, 0, 1e6));
}

std::vector<Field> surveyFields() {
    using T = SurveyRules;
    return fieldsOf<T>(
        wordField("spare", &T::spare, spareSchoolWords), numberField("rackM", &T::rackM, 0, 1000),
        numberField("outletM", &T::outletM, 0, 1000), numberField("coilM", &T::coilM, 0, 1000),
        numberField("routeShare", &T::routeShare, 0, 10),
        numberField("allowanceM", &T::allowanceM, 0, 1000),
        wordField("separation", &T::separation, separationSchoolWords),
        flagField("coaxHalf", &T::coaxHalf).mayLack(),
        wordField("jackets", &T::jackets, jacketSchoolWords), textField("labels", &T::labels),
        numberField("cablePerM", &T::cablePerM, 0, 1e6),
        numberField("hourPrice", &T::hourPrice, 0, 1e6),
        numberField("repullHours", &T::repullHours, 0, 1e4), textField("currency", &T::currency),
        objectsField("cablePrices", &T::cablePrices, priceFields()).since(9).leftOut());
}

std::vector<Field> jobFields() {
    using T = JobInfo;
    constexpr std::array<std::string_view, 2> wirings{"T568B", "T568A"};
    auto id = textField("id", &T::id);
    id.field.read = [](void* thing, JsonObject& in) {
        // The one row of its kind is always called so.
        auto& info = detail::as<T>(thing);
        const std::string text = in.string("id");
        if (text != info.id)
            in.fail("id", sentence({"catalogue.is", "is “{0}”"}, beginningOf(text, 40)),
                    {"cure.id-job-figures", "The id of a job's own figures is “job”"});
    };
    auto wiring = nestedField(
        "wiring", &T::wiringA, [wirings](bool a) { return Json(wirings[a ? 1 : 0]); },
        [wirings](JsonObject& in, const std::string&) {
            const std::string text = in.string("wiring");
            if (text != wirings[0] && text != wirings[1])
                in.fail("wiring", {"job.neither-t-nor", "is neither T568A nor T568B"},
                        {"cure.job-uses-two", "A job uses one of the two"});
            return text == wirings[1];
        });
    wiring.field.shape = Shape::Word;
    wiring.field.words.assign(wirings.begin(), wirings.end());
    return fieldsOf<T>(std::move(id), textField("name", &T::name),
                       wordField("limitSet", &T::limitSet, limitSetWords),
                       wordField("bundleSchool", &T::school, bundleSchoolWords), std::move(wiring),
                       objectField("accuracy", &T::accuracy, accuracyFields()).byKey(),
                       objectField("survey", &T::survey, surveyFields()).byKey().since(3),
                       objectField("pull", &T::pull, pullRuleFields()).byKey().since(7));
}

std::vector<Field> roomFields() {
    using T = Room;
    return fieldsOf<T>(
        textField("id", &T::id), textField("letters", &T::letters), textField("name", &T::name),
        wholeField("tape", &T::tape, 0, 99), orderField(&T::order),
        textField("floorId", &T::floorId).refers("floor", Gone::Clear).since(3).leftOut(),
        pointsField("outline", &T::outline).since(3).leftOut());
}

std::vector<Field> stretchFields() {
    using T = RunStretch;
    return fieldsOf<T>(textField("name", &T::name), numberField("lengthM", &T::lengthM, 0, 1e6),
                       numberField("temperatureC", &T::temperatureC, -273, 1000),
                       wholeField("neighbours", &T::neighbours, 0, 100000),
                       wordField("around", &T::around, surroundingsWords).since(2).leftOut(),
                       textField("id", &T::id).since(6), placeField(&T::order));
}
std::vector<Field> cordFields() {
    using T = RunCord;
    return fieldsOf<T>(wordField("end", &T::end, endWords), textField("cableId", &T::cableId),
                       numberField("lengthM", &T::lengthM, 0, 1e6),
                       flagField("awg26", &T::awg26).leftOut(), textField("id", &T::id).since(6),
                       placeField(&T::order).notAsked());
}
std::vector<Field> connectionFields() {
    using T = RunConnection;
    auto at = numberField("atM", &T::atM, 0, 1e6).leftOut();
    // Before version 6 a coupler at 0 m said so, and seals are over it.
    at.field.asOf = [](const void* thing, int version) {
        const auto& c = detail::as<T>(thing);
        return (version < 6 && c.end == End::Inline) || c.atM != 0 ? Json(c.atM) : Json();
    };
    return fieldsOf<T>(wordField("end", &T::end, endWords),
                       textField("connectionId", &T::connectionId), std::move(at),
                       flagField("outdoors", &T::outdoors).since(2).leftOut(),
                       textField("id", &T::id).since(6), placeField(&T::order).notAsked());
}

std::vector<Field> viaFields() {
    using T = Via;
    return fieldsOf<T>(textField("floorId", &T::floorId), pointField("at", &T::at));
}

std::vector<Field> endFields(const std::string& which) {
    using T = RunEnd;
    return fieldsOf<T>(
        textField(which + "End", &T::text),
        textField(which + "PlaceId", &T::placeId).refers("place", Gone::Clear).since(3).leftOut(),
        wholeField(which + "Port", &T::port, 0, mostPorts).since(6).leftOut());
}

std::vector<Field> runFields() {
    using T = Run;
    constexpr double most = 1e9;
    auto out = fieldsOf<T>(
        textField("id", &T::id), textField("roomId", &T::roomId).refers("room", Gone::Refuse),
        textField("label", &T::label), orderField(&T::order), textField("serviceId", &T::serviceId),
        textField("cableId", &T::cableId), partField(&T::near, endFields("near")),
        partField(&T::far, endFields("far")),
        childrenField("stretches", &T::stretches, Kind::Stretch),
        childrenField("cords", &T::cords, Kind::Cord),
        childrenField("connections", &T::connections, Kind::Connection),
        numberField("headLevel", &T::headLevel, -most, most),
        numberField("lossBudgetDb", &T::lossBudgetDb, 0, most),
        numberField("bandFromMhz", &T::bandFromMhz, 1e-6, most),
        numberField("bandToMhz", &T::bandToMhz, 1e-6, most),
        numberField("powerW", &T::powerW, 1e-6, most),
        numberField("loadRatio", &T::loadRatio, 1, most),
        wholeField("poweredType", &T::poweredType, 1, 4).since(2),
        wholeField("poweredClass", &T::poweredClass, 1, 8).since(5),
        flagField("perDirection", &T::perDirection).since(2).leftOut(),
        flagField("leftCoiled", &T::leftCoiled).leftOut(),
        textField("note", &T::note).longest(longestNote).leftOut(),
        flagField("followsPlan", &T::followsPlan).since(3).leftOut(),
        objectsField("vias", &T::vias, viaFields()).since(3).leftOut(),
        wordField("jacket", &T::jacket, jacketWords).since(3).leftOut(),
        textField("pullId", &T::pullId).refers("pull", Gone::Clear).since(7).leftOut(),
        partField(&T::piece, pieceFields()));
    // Where they stood before ends were things of their own: the seals of older jobs are over rows
    // in that order.
    const auto named = [&](std::string_view name) {
        return std::find_if(out.begin(), out.end(), [&](const Field& f) { return f.name == name; });
    };
    for (const char* name : {"nearPlaceId", "farPlaceId", "nearPort", "farPort"}) {
        const auto from = named(name);
        std::rotate(from, from + 1, named("followsPlan"));
    }
    return out;
}

std::vector<Field> wireMapFields() {
    using T = WireMap;
    return fieldsOf<T>(
        nestedField(
            "farPin", &T::farPin, [](const std::array<int, 8>& pins) { return Json(pins); },
            [](JsonObject& in, const std::string& name) {
                std::array<int, 8> out{};
                const auto& pins = in.array(name);
                if (pins.size() != out.size())
                    in.fail(name, {"job.not-eight-pins", "has not eight pins"},
                            {"cure.give-far-pin", "Give the far pin of 1 to 8, 0 for open"});
                for (std::size_t i = 0; i < out.size(); ++i) {
                    if (!pins[i].is_number_integer() || pins[i].template get<int>() < 0 ||
                        pins[i].template get<int>() > 8)
                        in.fail(name,
                                {"job.holds-something-other-than-to",
                                 "holds something other than 0 to 8"},
                                {"cure.open", "0 is open"});
                    out[i] = pins[i].template get<int>();
                }
                return out;
            }),
        nestedField(
            "shortGroups", &T::shortGroup,
            [](const std::array<char, 8>& groups) {
                return Json(std::string(groups.begin(), groups.end()));
            },
            [](JsonObject& in, const std::string& name) {
                std::array<char, 8> out{};
                const std::string groups = in.string(name);
                if (groups.size() != out.size())
                    in.fail(name, {"job.not-eight-letters", "has not eight letters"},
                            {"cure.use-blank-pin", "Use a blank for a pin that is not shorted"});
                std::copy(groups.begin(), groups.end(), out.begin());
                return out;
            }),
        flagField("shieldWhole", &T::shieldWhole));
}
std::vector<Field> testerFields() {
    using T = TesterAnswer;
    return fieldsOf<T>(objectField("wireMap", &T::wireMap, wireMapFields()),
                       numberField("lengthM", &T::lengthM, 0, 1e6),
                       numberField("loopOhm", &T::loopOhm, 0, 1e9),
                       numberField("negotiatedMbit", &T::negotiatedMbit, 0, 1e6));
}

std::vector<Field> measurementFields() {
    using T = Measurement;
    return fieldsOf<T>(
        textField("id", &T::id), textField("runId", &T::runId).refers("run", Gone::Remove),
        textField("takenAt", &T::takenAt), wordField("link", &T::link, linkKindWords),
        textField("pair", &T::pair).mayLack(),
        textField("fileName", &T::fileName).longest(2 * longestName).mayLack(),
        textField("fileHash", &T::fileHash).mayLack(),
        textField("frequencyUnit", &T::frequencyUnit).mayLack(),
        textField("columns", &T::columns).longest(longestTable).mayLack(),
        wholeField("entry", &T::entry, 1, 1000000000).since(4).leftOut(),
        wordField("portOrder", &T::portOrder, portOrderWords),
        objectField("tester", &T::tester, testerFields()).byKey(),
        textField("note", &T::note).longest(longestNote).leftOut(),
        flagField("confirmed", &T::confirmed).since(4).leftOut());
}

/// What a person made in the form of a file of the catalogue. One that was typed badly is kept as
/// it is, and said by whoever reads it.
template <typename T, typename Read>
FieldOf<T, std::string> madeField(std::string name, std::string T::*member, Read readMade) {
    return nestedField(
        std::move(name), member,
        [](const std::string& text) {
            Json out = Json::parse(text, nullptr, false);
            return out.is_discarded() ? Json(text) : out;
        },
        [readMade](JsonObject& in, const std::string& key) {
            std::string text = in.need(key).dump();
            detail::checkLength(in, key, text, longestTable);
            if (auto made = readMade(text, in.file()); !made)
                throw FaultThrown{made.error()};
            return text;
        });
}

std::vector<Field> cableFields() {
    using T = UserCable;
    return fieldsOf<T>(textField("id", &T::id), madeField("figures", &T::json, readCable));
}
std::vector<Field> cardFields() {
    using T = UserCard;
    return fieldsOf<T>(textField("id", &T::id), madeField("card", &T::json, readEndCard));
}

std::vector<Field> claimFields() {
    using T = Claim;
    return fieldsOf<T>(textField("value", &T::value).longest(longestTable),
                       textField("who", &T::who), textField("at", &T::at));
}
std::vector<Field> conflictFields() {
    using T = Conflict;
    return fieldsOf<T>(textField("id", &T::id), textField("kind", &T::kind),
                       textField("rowId", &T::rowId), textField("field", &T::field).leftOut(),
                       textField("base", &T::base).longest(longestTable).leftOut(),
                       objectsField("claims", &T::claims, claimFields()));
}

std::array<Table, kindCount> allTables() {
    const auto child = [](Kind kind, const char* list, const char* sql, int since, Kind owner,
                          const char* ownerKey, std::vector<Field> fields) {
        return Table{kind, list, sql, since, owner, ownerKey, std::move(fields)};
    };
    const auto top = [](Kind kind, const char* list, const char* sql, int since,
                        std::vector<Field> fields) {
        return Table{kind, list, sql, since, std::nullopt, {}, std::move(fields)};
    };
    return {
        {top(Kind::Job, "info", "job", 1, jobFields()),
         top(Kind::Room, "rooms", "room", 1, roomFields()),
         top(Kind::Run, "runs", "run", 1, runFields()),
         child(Kind::Stretch, "stretches", "run_stretch", 1, Kind::Run, "runId", stretchFields()),
         child(Kind::Cord, "cords", "run_cord", 1, Kind::Run, "runId", cordFields()),
         child(Kind::Connection, "connections", "run_connection", 1, Kind::Run, "runId",
               connectionFields()),
         top(Kind::Measurement, "measurements", "measurement", 1, measurementFields()),
         top(Kind::Cable, "cables", "user_cable", 1, cableFields()),
         top(Kind::Distribution, "distributions", "distribution", 2, distributionFields()),
         child(Kind::Part, "parts", "distribution_part", 2, Kind::Distribution, "distributionId",
               partFields()),
         top(Kind::Bus, "buses", "bus", 2, busFields()),
         child(Kind::Device, "devices", "bus_device", 2, Kind::Bus, "busId", deviceFields()),
         top(Kind::Floor, "floors", "floor", 3, floorFields()),
         top(Kind::Place, "places", "place", 3, placeFields()),
         top(Kind::Pathway, "pathways", "pathway", 3, pathwayFields()),
         top(Kind::Mains, "mains", "mains", 3, mainsFields()),
         top(Kind::Surface, "surfaces", "surface", 3, surfaceFields()),
         top(Kind::Photograph, "photographs", "photograph", 3, photographFields()),
         top(Kind::Box, "boxes", "box", 7, boxFields()),
         top(Kind::Pull, "pulls", "pull", 7, pullFields()),
         top(Kind::Tool, "tools", "tool", 8, toolFields()),
         top(Kind::Termination, "terminations", "termination", 8, terminationFields()),
         top(Kind::Card, "cards", "user_card", 8, cardFields()),
         top(Kind::Conflict, "conflicts", "conflict", 6, conflictFields())}};
}

} // namespace

const Field* Table::field(std::string_view name) const {
    const auto dot = name.find('.');
    const auto it = std::find_if(fields.begin(), fields.end(), [&](const Field& f) {
        return f.name == name.substr(0, dot) && (dot == std::string_view::npos || f.byKey) &&
               f.shape != Shape::Children;
    });
    return it == fields.end() ? nullptr : &*it;
}

Json valueIn(const Table& table, const Field& field, const Json& row) {
    if (!field.flat) {
        const auto it = row.find(field.name);
        return it == row.end() ? Json() : *it;
    }
    // Every key that is no other field's.
    Json out = Json::object();
    for (const auto& entry : row.items())
        if (entry.key() != table.ownerKey &&
            std::none_of(table.fields.begin(), table.fields.end(),
                         [&](const Field& f) { return !f.flat && f.name == entry.key(); }))
            out[entry.key()] = entry.value();
    return out;
}

const Table& tableOf(Kind kind) {
    static const auto tables = allTables();
    return tables.at(static_cast<std::size_t>(kind));
}

} // namespace burin
