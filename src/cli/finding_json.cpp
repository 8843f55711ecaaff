#include "cli/commands.h"

namespace burin {
namespace {

template <typename T> OutJson orNull(const std::optional<T>& value) {
    return value ? OutJson(*value) : OutJson();
}

OutJson judgementJson(const Judgement& judgement) {
    OutJson out = {{"against", judgement.against},
                   {"state", stateKey(judgement.state)},
                   {"reason", judgement.reason},
                   {"missing", judgement.missing}};
    out["results"] = OutJson::array();
    for (const auto& r : judgement.results) {
        OutJson row = {{"parameter", parameterKey(r.parameter)},
                       {"against", r.against},
                       {"state", stateKey(r.state)},
                       {"unit", r.unit},
                       {"pointsJudged", r.points},
                       {"pointsForInformation", r.informative}};
        if (r.points > 0) {
            row["margin"] = r.marginWorst;
            row["frequencyMhz"] = r.atMhz;
            row["pair"] = r.pair;
            row["measured"] = r.measured;
            row["limit"] = r.limit;
            row["accuracy"] = r.accuracy;
        }
        out["results"].push_back(row);
    }
    return out;
}

} // namespace

OutJson toJson(const Working& w) {
    OutJson out = {
        {"title", w.title}, {"formula", w.formula}, {"steps", w.steps}, {"result", w.result}};
    out["inputs"] = OutJson::array();
    for (const auto& input : w.inputs)
        out["inputs"].push_back(
            {{"name", input.name}, {"value", input.value}, {"source", input.source}});
    return out;
}

OutJson toJson(const Expected& expected) {
    OutJson out = {{"class", expected.className},
                   {"delayUs", expected.delayUs},
                   {"loopOhm", expected.loopOhm},
                   {"results", OutJson::array()}};
    for (const auto& r : expected.results)
        out["results"].push_back({{"parameter", parameterKey(r.parameter)},
                                  {"unit", r.unit},
                                  {"margin", r.margin},
                                  {"frequencyMhz", r.atMhz},
                                  {"expected", r.expected},
                                  {"limit", r.limit}});
    if (!expected.noCrosstalk.empty())
        out["noCrosstalk"] = expected.noCrosstalk;
    out["working"] = toJson(expected.working);
    return out;
}

OutJson toJson(const Reach& reach) {
    OutJson out = {{"reachM", orNull(reach.reachM)},
                   {"channelM", orNull(reach.channelM)},
                   {"boundBy", boundKey(reach.boundBy)},
                   {"atMhz", orNull(reach.atMhz)},
                   {"reason", reach.reason}};
    if (reach.leastM > 0)
        out["leastM"] = reach.leastM;
    if (reach.extrapolated)
        out["extrapolated"] = true;
    return out;
}

OutJson toJson(const MeasurementFinding& m) {
    OutJson out = {{"id", m.id},
                   {"file", m.fileName},
                   {"takenAt", m.takenAt},
                   {"link", linkKindKey(m.link)},
                   {"superseded", m.superseded}};
    if (m.fault)
        out["fault"] = m.fault->text();
    out["service"] = judgementJson(m.service);
    out["class"] = judgementJson(m.classJudgement);
    if (m.excessDb)
        out["excess"] = {
            {"excessDb", *m.excessDb}, {"frequencyMhz", *m.excessAtMhz}, {"pair", m.excessPair}};
    if (m.wires)
        for (const auto& pair : m.wires->pairs)
            out["wires"].push_back({{"pair", pair.pair}, {"finding", pair.words}});
    out["notes"] = m.notes;
    out["cannotProve"] = m.cannot;
    return out;
}

OutJson toJson(const RunFinding& f) {
    OutJson out = {{"id", f.runId},
                   {"label", f.label},
                   {"lengthM", f.lengthM},
                   {"channelM", f.channelM},
                   {"state", stateKey(f.state())},
                   {"service", {{"state", stateKey(f.serviceState)}, {"reason", f.serviceReason}}},
                   {"class",
                    {{"name", f.className},
                     {"lowestPart", f.lowestPart},
                     {"state", stateKey(f.classState)},
                     {"reason", f.classReason}}},
                   {"outlook", outlookKey(f.outlook)},
                   {"outlookReason", f.outlookReason},
                   {"marginDb", orNull(f.marginDb)},
                   {"marginAtMhz", orNull(f.marginAtMhz)},
                   {"loopOhm", f.loopOhm}};
    out["reach"] = toJson(f.reach);
    out["parts"] = {{"frequencyMhz", f.worstMhz}, {"rows", OutJson::array()}};
    for (const auto& part : f.parts)
        out["parts"]["rows"].push_back({{"name", part.name}, {"lossDb", part.lossDb}});
    out["services"] = OutJson::array();
    for (const auto& s : f.reaches) {
        OutJson row = toJson(s.reach);
        row["service"] = s.serviceId;
        out["services"].push_back(row);
    }
    out["cures"] = OutJson::array();
    for (const auto& c : f.cures)
        out["cures"].push_back({{"title", c.title},
                                {"cable", c.cableId},
                                {"holds", c.holds},
                                {"spareM", c.spareM},
                                {"reason", c.reason}});
    out["measurements"] = OutJson::array();
    for (const auto& m : f.measurements)
        out["measurements"].push_back(toJson(m));
    out["faults"] = OutJson::array();
    for (const auto& fault : f.faults)
        out["faults"].push_back(fault.text());
    return out;
}

} // namespace burin
