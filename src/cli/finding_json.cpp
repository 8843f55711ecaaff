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
    if (reach.permanentM)
        out["permanentM"] = *reach.permanentM;
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
                   {"link", linkKindWords[m.link]},
                   {"superseded", m.superseded}};
    if (m.fault)
        out["fault"] = told(*m.fault);
    out["service"] = judgementJson(m.service);
    out["class"] = judgementJson(m.classJudgement);
    if (m.excessDb)
        out["excess"] = {
            {"excessDb", *m.excessDb}, {"frequencyMhz", *m.excessAtMhz}, {"pair", m.excessPair}};
    if (m.wires)
        for (const auto& pair : m.wires->pairs)
            out["wires"].push_back({{"pair", pair.pair}, {"finding", pair.said}});
    if (!m.asked.empty())
        out["asked"] = m.asked;
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
                   {"loopOhm", f.loopOhm},
                   {"notes", f.notes}};
    if (f.powered)
        out["powered"] = {{"type", f.powered->type},
                          {"wantedW", f.powered->wantedW},
                          {"deviceV", f.powered->deviceV},
                          {"ampere", f.powered->ampere},
                          {"bundleRiseC", f.powered->riseC},
                          {"warmestC", f.powered->warmestC},
                          {"warmthIsEstimate", true},
                          {"delivered", f.powered->delivered},
                          {"overRating", f.powered->overRating},
                          {"reason", f.powered->reason}};
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
    if (!f.caution.empty())
        out["caution"] = f.caution;
    if (f.wayM)
        out["wayM"] = *f.wayM;
    out["cures"] = OutJson::array();
    for (const auto& c : f.cures) {
        OutJson row = {{"of", cureWords[c.of]}, {"title", c.title},
                       {"cable", c.cableId},    {"cablePerDirection", c.perDirection},
                       {"holds", c.holds},      {"price", c.cost.price},
                       {"hours", c.cost.hours}, {"reason", c.reason}};
        if (c.reach.reachM)
            row["spareM"] = c.spareM;
        out["cures"].push_back(row);
    }
    out["measurements"] = OutJson::array();
    for (const auto& m : f.measurements)
        out["measurements"].push_back(toJson(m));
    out["faults"] = OutJson::array();
    for (const auto& fault : f.faults)
        out["faults"].push_back(told(fault));
    return out;
}

OutJson toJson(const TreeProposal& p) {
    OutJson out = {{"possible", p.possible}, {"reason", p.reason}};
    constexpr std::array<std::string_view, 5> kinds{"tap", "pad", "equaliser", "amplifier",
                                                    "cable"};
    for (const TreeChange& change : p.changes) {
        OutJson row = {{"change", kinds[static_cast<std::size_t>(change.kind)]}, {"at", change.at}};
        if (change.kind == TreeChange::Kind::Cable) {
            row["cable"] = change.cableId;
        } else {
            if (change.kind != TreeChange::Kind::Equaliser)
                row["db"] = change.db;
            if (change.slopeDb != 0)
                row["slopeDb"] = change.slopeDb;
            row["nearEnd"] = change.nearEnd;
        }
        out["changes"].push_back(row);
    }
    if (p.possible)
        out["cost"] = {{"price", p.cost.price}, {"hours", p.cost.hours}};
    return out;
}

OutJson toJson(const TreeFinding& f) {
    OutJson out = {{"good", f.good}, {"points", OutJson::array()}};
    for (const auto& p : f.points) {
        OutJson row = {{"id", p.id},           {"lowDbuv", p.lowDb},
                       {"highDbuv", p.highDb}, {"leastDbuv", p.leastDb},
                       {"mostDbuv", p.mostDb}, {"good", p.good}};
        row["carrierToNoiseDb"] = p.carrierToNoiseDb;
        if (p.returnLossDb)
            row["returnPathLossDb"] = *p.returnLossDb;
        if (!p.reason.empty())
            row["reason"] = p.reason;
        out["points"].push_back(row);
    }
    out["unusedPorts"] = f.unusedPorts;
    out["problems"] = f.problems;
    return out;
}

OutJson toJson(const BusFinding& f) {
    OutJson out = {{"good", f.good}, {"points", OutJson::array()}};
    for (const auto& p : f.points) {
        OutJson row = {{"name", p.name},
                       {"atM", p.atM},
                       {"finalV", p.finalV},
                       {"overshootV", p.overshootV},
                       {"ringBackV", p.ringBackV},
                       {"settleNs", p.settleNs},
                       {"good", p.good}};
        if (!p.reasons.empty())
            row["reasons"] = p.reasons;
        out["points"].push_back(row);
    }
    out["notes"] = f.notes;
    return out;
}

OutJson toJson(const DistributionFinding& f) {
    OutJson out = {{"id", f.id}, {"name", f.name}};
    out.update(toJson(f.levels));
    out["good"] = f.good;
    if (f.proposal)
        out["proposal"] = toJson(*f.proposal);
    for (std::size_t i = 0; i < f.head.size(); ++i)
        if (f.head[i])
            out["points"][i]["head"] = {{"lowV", f.head[i]->lowV},
                                        {"highV", f.head[i]->highV},
                                        {"works", f.head[i]->works}};
    for (const auto& fault : f.faults)
        out["faults"].push_back(told(fault));
    return out;
}

OutJson toJson(const BusChainFinding& f) {
    OutJson out = {{"id", f.id}, {"name", f.name}};
    out.update(toJson(f.wave));
    out["good"] = f.good;
    for (std::size_t i = 0; i < f.supply.size(); ++i) {
        auto& row = out["points"][i];
        if (f.supply[i])
            row["supply"] = {{"volt", f.supply[i]->volt}, {"ampere", f.supply[i]->ampere}};
        row["good"] = f.reasons[i].empty();
        if (!f.reasons[i].empty())
            row["reasons"] = f.reasons[i];
    }
    for (const BusCure& cure : f.cures)
        out["cures"].push_back(
            {{"what", cure.what}, {"price", cure.cost.price}, {"hours", cure.cost.hours}});
    for (const auto& fault : f.faults)
        out["faults"].push_back(told(fault));
    return out;
}

} // namespace burin
