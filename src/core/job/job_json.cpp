#include "core/job/job_json.h"
#include "core/catalogue/json_reader.h"
#include "core/job/run_json.h"
#include "core/job/system_json.h"
#include "core/site/plan_json.h"
#include <array>

namespace burin {
namespace {

JobInfo readInfo(JsonObject in) {
    JobInfo out;
    out.id = in.string("id");
    if (out.id != JobInfo{}.id)
        in.fail("id", "is “" + out.id.substr(0, 40) + "”",
                "The id of a job's own figures is “job”");
    out.name = in.string("name");
    out.limitSet = in.keyword("limitSet", limitSetFromKey);
    out.school = in.keyword("bundleSchool", bundleSchoolFromKey);
    const std::string wiring = in.string("wiring");
    if (wiring != "T568A" && wiring != "T568B")
        in.fail("wiring", "is neither T568A nor T568B", "A job uses one of the two");
    out.wiringA = wiring == "T568A";
    JsonObject a = in.object("accuracy");
    out.accuracy = {a.number("lossDb", 0, 100),        a.number("lossShare", 0, 1),
                    a.number("crosstalkDb", 0, 100),   a.number("crosstalkAtTopDb", 0, 100),
                    a.number("returnLossDb", 0, 100),  a.number("lengthM", 0, 100),
                    a.number("lengthShare", 0, 1),     a.number("resistanceOhm", 0, 100),
                    a.number("resistanceShare", 0, 1), a.number("delayNs", 0, 1000)};
    a.close();
    if (in.find("survey") != nullptr) // jobs before version 3 have none
        out.survey = readSurveyRules(in.object("survey"));
    in.close();
    return out;
}

Room readRoom(JsonObject in) {
    Room out;
    out.id = in.string("id");
    out.letters = in.string("letters");
    out.name = in.string("name");
    out.tape = in.integer("tape", 0, 99);
    out.order = in.integer("order", -1000000, 1000000);
    out.floorId = in.stringOr("floorId", "");
    out.outline = readPoints(in, "outline");
    in.close();
    return out;
}

Json toJson(const TesterAnswer& tester) {
    Json out = Json::object();
    if (tester.wireMap) {
        Json map;
        map["farPin"] = tester.wireMap->farPin;
        map["shortGroups"] =
            std::string(tester.wireMap->shortGroup.begin(), tester.wireMap->shortGroup.end());
        if (tester.wireMap->shieldWhole)
            map["shieldWhole"] = *tester.wireMap->shieldWhole;
        out["wireMap"] = map;
    }
    putIf(out, "lengthM", tester.lengthM);
    putIf(out, "loopOhm", tester.loopOhm);
    putIf(out, "negotiatedMbit", tester.negotiatedMbit);
    return out;
}

WireMap readWireMap(JsonObject in) {
    WireMap out;
    const auto& pins = in.array("farPin");
    if (pins.size() != 8)
        in.fail("farPin", "has not eight pins", "Give the far pin of 1 to 8, 0 for open");
    for (std::size_t i = 0; i < 8; ++i) {
        if (!pins[i].is_number_integer() || pins[i].get<int>() < 0 || pins[i].get<int>() > 8)
            in.fail("farPin", "holds something other than 0 to 8", "0 is open");
        out.farPin[i] = pins[i].get<int>();
    }
    const std::string groups = in.string("shortGroups");
    if (groups.size() != 8)
        in.fail("shortGroups", "has not eight letters",
                "Use a blank for a pin that is not shorted");
    for (std::size_t i = 0; i < 8; ++i)
        out.shortGroup[i] = groups[i];
    if (in.find("shieldWhole") != nullptr)
        out.shieldWhole = in.booleanOr("shieldWhole", false);
    in.close();
    return out;
}

Measurement readMeasurement(JsonObject in) {
    Measurement out;
    out.id = in.string("id");
    out.runId = in.string("runId");
    out.takenAt = in.string("takenAt");
    out.entry = in.optionalInteger("entry", 1, 1000000000).value_or(0);
    out.link = in.keyword("link", linkKindFromKey);
    out.pair = in.stringOr("pair", "");
    out.fileName = in.stringOr("fileName", "");
    out.fileHash = in.stringOr("fileHash", "");
    out.frequencyUnit = in.stringOr("frequencyUnit", "");
    out.columns = in.stringOr("columns", "");
    if (in.find("portOrder") != nullptr) {
        const std::string order = in.string("portOrder");
        if (order != "across-then-far" && order != "side-by-side")
            in.fail("portOrder", "is “" + order + "”", "Use across-then-far or side-by-side");
        out.portOrder = order == "side-by-side" ? PortOrder::SideBySide : PortOrder::AcrossThenFar;
    }
    JsonObject tester = in.object("tester");
    if (tester.find("wireMap") != nullptr)
        out.tester.wireMap = readWireMap(tester.object("wireMap"));
    out.tester.lengthM = tester.optionalNumber("lengthM", 0, 1e6);
    out.tester.loopOhm = tester.optionalNumber("loopOhm", 0, 1e9);
    out.tester.negotiatedMbit = tester.optionalNumber("negotiatedMbit", 0, 1e6);
    tester.close();
    out.note = in.stringOr("note", "");
    out.confirmed = in.booleanOr("confirmed", false);
    in.close();
    return out;
}

UserCable readUserCable(JsonObject in) {
    const auto& figures = in.need("figures");
    UserCable out{in.string("id"), figures.dump()};
    in.close();
    if (auto cable = readCable(out.json, in.file()); !cable)
        throw FaultThrown{cable.error()};
    return out;
}

template <typename T> AnyChange readChange(JsonObject& in, T (*read)(JsonObject)) {
    Change<T> out;
    if (in.find("before") != nullptr)
        out.before = read(in.object("before"));
    if (in.find("after") != nullptr)
        out.after = read(in.object("after"));
    if (!out.before && !out.after)
        in.fail("after", "and before are both missing", "A change has one or both");
    in.close();
    return out;
}

bool readPlanChange(JsonObject& change, const std::string& kind, std::vector<AnyChange>& out) {
    if (kind == "floor")
        out.push_back(readChange(change, readFloor));
    else if (kind == "place")
        out.push_back(readChange(change, readPlace));
    else if (kind == "pathway")
        out.push_back(readChange(change, readPathway));
    else if (kind == "mains")
        out.push_back(readChange(change, readMains));
    else if (kind == "surface")
        out.push_back(readChange(change, readSurface));
    else if (kind == "photograph")
        out.push_back(readChange(change, readPhotograph));
    else
        return false;
    return true;
}

} // namespace

Json toJson(const JobInfo& info) {
    const Accuracy& a = info.accuracy;
    return {{"id", info.id},
            {"name", info.name},
            {"limitSet", limitSetKey(info.limitSet)},
            {"bundleSchool", bundleSchoolKey(info.school)},
            {"wiring", info.wiringA ? "T568A" : "T568B"},
            {"accuracy",
             {{"lossDb", a.lossDb},
              {"lossShare", a.lossShare},
              {"crosstalkDb", a.crosstalkDb},
              {"crosstalkAtTopDb", a.crosstalkAtTopDb},
              {"returnLossDb", a.returnLossDb},
              {"lengthM", a.lengthM},
              {"lengthShare", a.lengthShare},
              {"resistanceOhm", a.resistanceOhm},
              {"resistanceShare", a.resistanceShare},
              {"delayNs", a.delayNs}}},
            {"survey", toJson(info.survey)}};
}

Json toJson(const Room& room) {
    Json out = {{"id", room.id},
                {"letters", room.letters},
                {"name", room.name},
                {"tape", room.tape},
                {"order", room.order}};
    if (!room.floorId.empty())
        out["floorId"] = room.floorId;
    if (!room.outline.empty())
        out["outline"] = toJson(room.outline);
    return out;
}

Json toJson(const Measurement& m) {
    Json out = {{"id", m.id},
                {"runId", m.runId},
                {"takenAt", m.takenAt},
                {"link", linkKindKey(m.link)},
                {"pair", m.pair},
                {"fileName", m.fileName},
                {"fileHash", m.fileHash},
                {"frequencyUnit", m.frequencyUnit},
                {"columns", m.columns}};
    if (m.entry > 0)
        out["entry"] = m.entry;
    if (m.portOrder)
        out["portOrder"] =
            *m.portOrder == PortOrder::SideBySide ? "side-by-side" : "across-then-far";
    out["tester"] = toJson(m.tester);
    if (!m.note.empty())
        out["note"] = m.note;
    if (m.confirmed)
        out["confirmed"] = true;
    return out;
}

Json toJson(const UserCable& cable) {
    return {{"id", cable.id}, {"figures", Json::parse(cable.json)}};
}

Json toJson(const Job& job) {
    Json out;
    out["info"] = toJson(job.info);
    const auto list = [&](const char* key, const auto& things) {
        out[key] = Json::array();
        for (const auto& thing : things)
            out[key].push_back(toJson(thing));
    };
    list("rooms", job.rooms);
    list("runs", job.runs);
    list("measurements", job.measurements);
    list("cables", job.cables);
    list("distributions", job.distributions);
    list("buses", job.buses);
    list("floors", job.floors);
    list("places", job.places);
    list("pathways", job.pathways);
    list("mains", job.mains);
    list("surfaces", job.surfaces);
    list("photographs", job.photographs);
    return out;
}

Json toJson(const AnyChange& change) {
    Json out;
    out["kind"] = kindOf(change);
    std::visit(
        [&](const auto& c) {
            if (c.before)
                out["before"] = toJson(*c.before);
            if (c.after)
                out["after"] = toJson(*c.after);
        },
        change);
    return out;
}

Json toJson(const Edit& edit) {
    Json out;
    out["title"] = edit.title;
    out["changes"] = Json::array();
    for (const auto& change : edit.changes)
        out["changes"].push_back(toJson(change));
    return out;
}

Outcome<Job> readJob(const Json& json, const std::string& where) {
    try {
        JsonObject in(json, where, "");
        Edit fill{"read the job", {}};
        Job out;
        out.info = readInfo(in.object("info"));
        // Through an edit, so that a job from a file meets the same checks as a typed one.
        const auto take = [&](std::string_view key, auto read, bool mayLack) {
            if (mayLack && in.find(key) == nullptr)
                return;
            for (const auto& thing : in.list(key, read))
                fill.changes.push_back(
                    put(std::optional<std::decay_t<decltype(thing)>>{}, std::optional(thing)));
        };
        take("rooms", readRoom, false);
        take("runs", readRun, false);
        take("measurements", readMeasurement, false);
        take("cables", readUserCable, false);
        // Exports of version 1 have neither of these,
        take("distributions", readDistribution, true);
        take("buses", readBusChain, true);
        // and those of version 2 no plan.
        take("floors", readFloor, true);
        take("places", readPlace, true);
        take("pathways", readPathway, true);
        take("mains", readMains, true);
        take("surfaces", readSurface, true);
        take("photographs", readPhotograph, true);
        in.close();
        auto filled = apply(out, fill);
        if (!filled) {
            Fault fault = filled.error();
            fault.where = where + ", " + fault.where;
            return refuse(std::move(fault));
        }
        return filled;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

Outcome<Edit> readEdit(const Json& json, const std::string& where) {
    try {
        JsonObject in(json, where, "");
        Edit out;
        out.title = in.string("title");
        const auto& changes = in.array("changes");
        for (std::size_t i = 0; i < changes.size(); ++i) {
            JsonObject change = in.item("changes", changes[i], i);
            const std::string kind = change.string("kind");
            if (kind == "job")
                out.changes.push_back(readChange(change, readInfo));
            else if (kind == "room")
                out.changes.push_back(readChange(change, readRoom));
            else if (kind == "run")
                out.changes.push_back(readChange(change, readRun));
            else if (kind == "measurement")
                out.changes.push_back(readChange(change, readMeasurement));
            else if (kind == "cable")
                out.changes.push_back(readChange(change, readUserCable));
            else if (kind == "distribution")
                out.changes.push_back(readChange(change, readDistribution));
            else if (kind == "bus")
                out.changes.push_back(readChange(change, readBusChain));
            else if (!readPlanChange(change, kind, out.changes))
                change.fail("kind", "is “" + kind + "”, which is not known",
                            "It is one that docs/job-format.md lists");
        }
        in.close();
        return out;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

} // namespace burin
