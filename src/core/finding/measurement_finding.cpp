#include "core/finding/measurement_finding.h"
#include "core/finding/evidence.h"
#include "core/finding/plausible.h"
#include "core/job/run_length.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace burin {
namespace {

const std::vector<std::string>& pairsOf(const Service* service) {
    return service != nullptr && !service->pinPairs.empty() ? service->pinPairs : allPairs();
}

/// What cannot be this run's proves nothing of it until somebody says that it is. A fail stays one:
/// whosever it is, it has to be looked into.
void askWhoseItIs(MeasurementFinding& out, const Measurement& m,
                  const std::optional<OtherRun>& other) {
    if (!other)
        return;
    if (m.confirmed) {
        out.notes.push_back(
            sentence({"asked.confirmed", "its loss {0}; said to be this run's all the same"},
                     other->said()));
        return;
    }
    out.asked = other->said();
    for (Judgement* j : {&out.service, &out.classJudgement}) {
        if (j->against.empty() || j->state == State::Fail)
            continue;
        j->state = State::Untested;
        j->reason = sentence({"asked.other-run", "Is this file of another run? It {0}"}, out.asked);
    }
}

bool measuredThrough(const std::vector<Trace>& traces) {
    return std::any_of(traces.begin(), traces.end(),
                       [](const Trace& t) { return t.parameter == Parameter::InsertionLoss; });
}

void compareLoss(MeasurementFinding& out, const Catalogue& catalogue, const LinkParts& link) {
    for (const auto& trace : out.traces) {
        if (trace.parameter != Parameter::InsertionLoss)
            continue;
        for (std::size_t k = 0; k < trace.frequencyMhz.size(); ++k) {
            const double f = trace.frequencyMhz[k];
            if (f < 1 || f > link.cable->topMhz.value)
                continue;
            const double excess = trace.value[k] - linkLoss(link, catalogue, f).totalDb();
            if (!out.excessDb || excess > *out.excessDb) {
                out.excessDb = excess;
                out.excessAtMhz = f;
                out.excessPair = trace.pair;
            }
        }
    }
}

void judgeLength(MeasurementFinding& out, const Run& run, const Accuracy& a, const Measurement& m,
                 double cordsM) {
    const double measuredM = *m.tester.lengthM;
    const double expected = run.lengthM() + (m.link == LinkKind::Channel ? cordsM : 0);
    const double band = a.lengthM + a.lengthShare * measuredM;
    if (std::abs(measuredM - expected) <= band)
        return;
    const bool marked = lengthFrom(run) == LengthFrom::Marks;
    const bool longer = measuredM > expected;
    out.notes.push_back(sentence(
        marked
            ? (longer
                   ? Wording{"length.marks-longer",
                             "measured {0}, the marks say {1}: {2} longer, more than the ±{3} of "
                             "the instrument"}
                   : Wording{"length.marks-shorter",
                             "measured {0}, the marks say {1}: {2} shorter, more than the ±{3} "
                             "of the instrument"})
            : (longer
                   ? Wording{"length.plan-longer",
                             "measured {0}, the plan says {1}: {2} longer, more than the ±{3} of "
                             "the instrument"}
                   : Wording{"length.plan-shorter",
                             "measured {0}, the plan says {1}: {2} shorter, more than the ±{3} "
                             "of the instrument"}),
        asMetres(measuredM), asMetres(expected), asMetres(std::abs(measuredM - expected)),
        asMetres(band)));
    // A whole run is as long as its marks say: then it is the instrument's velocity that is off, as
    // long as a cable could have it.
    constexpr double mostOff = 0.15;
    const double factor = expected / measuredM;
    if (marked && std::abs(factor - 1) <= mostOff && m.tester.wireMap &&
        readWireMap(*m.tester.wireMap).whole())
        out.notes.push_back(sentence(
            factor < 1 ? Wording{"length.velocity-high",
                                 "with the marks right, the tester's velocity is set too "
                                 "high: take {0} of what is set"}
                       : Wording{"length.velocity-low",
                                 "with the marks right, the tester's velocity is set too low: "
                                 "take {0} of what is set"},
            asNumber(factor, 3)));
}

void judgeLoop(MeasurementFinding& out, const JobInfo& info, const RunFinding& finding,
               double ohm) {
    // A shield's resistance is no part of a pair's loop limit, so only classes judge it.
    for (const auto& line : out.classLines) {
        if (line.limit.parameter != Parameter::LoopResistance)
            continue;
        Trace trace{Parameter::LoopResistance, "", false, {1.0}, {ohm}, "Ω"};
        const auto results = judge({trace}, {line}, info.accuracy, ForInformation::Nothing);
        out.classJudgement.results.insert(out.classJudgement.results.end(), results.begin(),
                                          results.end());
    }
    if (finding.loopOhm > 0 && ohm > 1.3 * finding.loopOhm + info.accuracy.resistanceOhm)
        out.notes.push_back(
            sentence({"loop.high", "loop resistance {0}, copper of this length gives {1} (× {2}): "
                                   "suspect copper-clad aluminium (about × {3}) or a bad contact"},
                     asOhm(ohm, 1), asOhm(finding.loopOhm, 1), asNumber(ohm / finding.loopOhm, 2),
                     asNumber(1.55, 2)));
}

void judgeTester(MeasurementFinding& out, const JobInfo& info, const Run& run,
                 const RunFinding& finding, const Measurement& m, const Service* service,
                 double cordsM) {
    const TesterAnswer& t = m.tester;
    const auto& pairs = pairsOf(service);
    if (t.lengthM)
        judgeLength(out, run, info.accuracy, m, cordsM);
    if (t.loopOhm)
        judgeLoop(out, info, finding, *t.loopOhm);
    if (t.wireMap) {
        out.wires = readWireMap(*t.wireMap);
        out.cannot.push_back(
            sentence({"cannot.wire-map", "a wire map cannot see split pairs, loss, crosstalk or a "
                                         "joint that only just touches"}));
        if (!out.wires->whole()) {
            const Sentence fault = out.wires->firstFault();
            out.failures.push_back(fault);
            out.classJudgement.state = State::Fail;
            out.classJudgement.reason = fault;
            if (!out.wires->wholeFor(pairs)) {
                out.service.state = State::Fail;
                out.service.reason = fault;
            } else {
                out.service.reason =
                    sentence({"wires.enough", "the pairs this service uses are whole"});
            }
        } else {
            out.service.reason =
                sentence({"wires.whole", "wiring whole; loss and crosstalk not measured"});
            // A voice loop has no limit over frequency: whole wires of a length in reach carry it.
            if (service != nullptr && service->limitTopMhz == 0 && service->lossRules.empty() &&
                service->noReachNote.empty() && service->bitRateMbit == 0 &&
                finding.outlook == Outlook::Holds) {
                out.service.state = State::Pass;
                out.service.reason =
                    sentence({"wires.voice", "its pair is whole and {0} is within reach"},
                             asMetres(finding.lengthM));
            }
        }
    }
    if (t.negotiatedMbit && service != nullptr && service->bitRateMbit > 0) {
        const auto speed = asUnit(*t.negotiatedMbit, 0, "Mbit/s");
        out.cannot.push_back(sentence(
            {"cannot.port-light", "a port light shows that it works now, not with what margin"}));
        if (*t.negotiatedMbit >= service->bitRateMbit && out.service.state != State::Fail) {
            out.service.state = State::Pass;
            out.service.reason = sentence({"port.up", "the port came up at {0}"}, speed);
        } else if (*t.negotiatedMbit < service->bitRateMbit) {
            auto slow = sentence({"port.slow",
                                  "the port came up at {0}, {1} is wanted: check that both ports "
                                  "can do it before blaming the cable"},
                                 speed, asTerm(service->name));
            if (*t.negotiatedMbit == 100)
                slow = joined({std::move(slow), sentence({"port.two-pairs",
                                                          "{0} needs 1-2 and 3-6 alone and hides a "
                                                          "fault on 4-5 or 7-8"},
                                                         speed)},
                              "; ");
            out.notes.push_back(std::move(slow));
        }
    }
    // A resistance inside its limit is one number of many: it can fail a class, not pass it.
    for (const auto& r : out.classJudgement.results)
        if (r.state > State::Pass &&
            worse(out.classJudgement.state, r.state) != out.classJudgement.state) {
            out.classJudgement.state = r.state;
            out.classJudgement.reason = marginSentence(r);
        }
    if (out.classJudgement.reason.empty())
        out.classJudgement.reason =
            sentence({"class.unproven", "a class is proven by measuring over frequency"});
}

/// A key under which a later measurement replaces an earlier one: same link, same kind, same pair.
/// A look into one end alone does not replace what was measured through.
std::string kindKey(const Measurement& m) {
    return std::string(linkKindWords[m.link]) + (m.fileHash.empty() ? " typed" : " file ") +
           m.pair + (m.fileName.ends_with(".s1p") ? " one end" : "");
}

PointSpacing spacingOf(CableKind kind, const LinkParts* link) {
    return {kind, link != nullptr ? link->fixedLengthM() : 0,
            link != nullptr ? link->cable->nvp.value : 0};
}

EvidenceWanted forService(const Service* service, const PointSpacing& spacing) {
    return {pairsOf(service), spacing, false};
}
EvidenceWanted forClass(const PointSpacing& spacing) {
    return {allPairs(), spacing, true};
}

/// Several sweeps, one a pair, prove together what none proves alone.
void combine(RunFinding& out, const Service* service, const PointSpacing& spacing) {
    std::vector<Trace> traces;
    Judgement whole;
    Judgement wholeClass;
    const MeasurementFinding* last = nullptr;
    int sweeps = 0;
    for (const auto& m : out.measurements) {
        if (m.superseded || m.fault || m.traces.empty())
            continue;
        if (last != nullptr && last->link != m.link)
            return;
        if (!m.asked.empty())
            return; // what may be another run's proves nothing, alone or together
        ++sweeps;
        whole.results.insert(whole.results.end(), m.service.results.begin(),
                             m.service.results.end());
        wholeClass.results.insert(wholeClass.results.end(), m.classJudgement.results.begin(),
                                  m.classJudgement.results.end());
        last = &m;
        traces.insert(traces.end(), m.traces.begin(), m.traces.end());
    }
    if (sweeps < 2)
        return;
    whole.missing = lacking(traces, last->serviceLines, forService(service, spacing));
    wholeClass.missing = lacking(traces, last->classLines, forClass(spacing));
    nameUnjudged(whole, wholeClass);
    nameUnjudged(wholeClass, {});
    conclude(whole, last->serviceLines);
    conclude(wholeClass, last->classLines);
    const auto take = [&](State& state, Sentence& reason, const Judgement& together) {
        if (state != State::Untested || together.state == State::Untested)
            return;
        state = together.state;
        reason = sentence({"judged.together", "{0} sweeps together prove every pair: {1}"},
                          asCount(sweeps), together.reason);
    };
    take(out.serviceState, out.serviceReason, whole);
    take(out.classState, out.classReason, wholeClass);
}

void sumUp(RunFinding& out, const Service* service, const PointSpacing& spacing) {
    for (const auto& m : out.measurements) {
        if (m.superseded || m.fault)
            continue;
        const auto take = [](State& state, Sentence& reason, const Judgement& from) {
            if (from.state > state || (reason.empty() && !from.reason.empty())) {
                reason = from.reason;
                state = worse(state, from.state);
            }
        };
        take(out.serviceState, out.serviceReason, m.service);
        take(out.classState, out.classReason, m.classJudgement);
        for (const auto& r : m.service.results)
            if (r.parameter == Parameter::InsertionLoss && r.points > 0 && r.limit > 0)
                out.measuredShare = std::max(out.measuredShare, r.measured / r.limit);
    }
    combine(out, service, spacing);
    // What cannot be read may be the very thing that failed: with it, nothing is proven.
    for (const auto& m : out.measurements) {
        if (m.superseded || !m.fault)
            continue;
        const auto doubt = [&](State& state, Sentence& reason) {
            if (state == State::Fail || state == State::MarginalBad)
                return;
            state = State::Untested;
            reason = m.fault->what;
        };
        doubt(out.serviceState, out.serviceReason);
        doubt(out.classState, out.classReason);
    }
    out.classUnproven = spacing.kind == CableKind::Balanced && classToBeProven(service) &&
                        !out.className.empty() && out.classState == State::Untested;
}

} // namespace

std::vector<JudgeLine> linesOf(const Service& service, const JobInfo& info, const Run& run,
                               const Catalogue& catalogue, LinkKind link) {
    const auto& name =
        info.limitSet == LimitSet::Iso ? service.limitClassIso : service.limitClassTia;
    if (!name.empty())
        return classLines(catalogue, info.limitSet, name, link, service.limitTopMhz);
    return serviceLines(service, run.headLevel, run.lossBudgetDb, run.bandFromMhz, run.bandToMhz);
}

MeasurementFinding findMeasurement(const JobInfo& info, const Run& run, const Catalogue& catalogue,
                                   const Measurement& m, const Outcome<MeasuredFile>* file,
                                   const RunFinding& finding, const LinkParts* link,
                                   const Service* service) {
    MeasurementFinding out;
    out.id = m.id;
    out.fileName = m.fileName;
    out.takenAt = m.takenAt;
    out.link = m.link;
    const CableKind kind = link != nullptr      ? link->cable->kind
                           : service != nullptr ? service->kinds.front()
                                                : CableKind::Balanced;
    const bool balanced = kind == CableKind::Balanced;
    if (service != nullptr) {
        out.serviceLines = linesOf(*service, info, run, catalogue, m.link);
        out.service.against = alone(asTerm(service->name));
    }
    if (balanced && !finding.className.empty()) {
        out.classLines = classLines(catalogue, info.limitSet, finding.className, m.link, 1e9);
        out.classJudgement.against = limitTitle(info.limitSet, finding.className, m.link);
    } else {
        out.classJudgement.reason =
            balanced ? sentence({"class.no-limit",
                                 "no class limit in the catalogue for its lowest part"})
                     : sentence({"class.coax", "coax has no class"});
    }
    if (m.fileHash.empty()) {
        judgeTester(out, info, run, finding, m, service, link != nullptr ? link->cordLengthM() : 0);
        return out;
    }
    if (file == nullptr || !*file) {
        out.fault = file != nullptr ? file->error()
                                    : Fault{named(m.fileName),
                                            0,
                                            0,
                                            {"measured.file-not-job", "the file is not in the job"},
                                            {"cure.bring-again", "Bring it in again"}};
        return out;
    }
    auto traces =
        tracesOf(**file, m, kind, link != nullptr ? link->cable->impedanceOhm.value : 100);
    if (!traces) {
        out.fault = traces.error();
        return out;
    }
    out.traces = std::move(traces->traces);
    out.notes = std::move(traces->notes);
    const PointSpacing spacing = spacingOf(kind, link);
    if (!out.classLines.empty()) {
        out.classJudgement.results = judge(out.traces, out.classLines, info.accuracy,
                                           forInformation(info.limitSet, balanced));
        out.classJudgement.missing = lacking(out.traces, out.classLines, forClass(spacing));
        nameUnjudged(out.classJudgement, {});
        conclude(out.classJudgement, out.classLines);
    }
    if (service != nullptr) {
        out.service.results =
            judge(out.traces, out.serviceLines, info.accuracy,
                  forInformation(info.limitSet, balanced && service->limitTopMhz > 0));
        out.service.missing = lacking(out.traces, out.serviceLines, forService(service, spacing));
        if (service->levelWindow && !run.headLevel)
            out.service.missing.push_back(
                sentence({"lacking.level", "the level at its head end, to be typed in {0}"},
                         service->levelWindow->unit));
        if (out.serviceLines.empty())
            out.service.reason =
                sentence({"judged.no-limit", "no limit in the catalogue judges this service"});
        nameUnjudged(out.service, out.classJudgement);
        conclude(out.service, out.serviceLines);
    }
    if (link != nullptr) {
        const LinkParts same = m.link == LinkKind::Channel
                                   ? *link
                                   : linkOf(run, catalogue, LinkKind::Permanent, nullptr);
        compareLoss(out, catalogue, same);
        askWhoseItIs(out, m, looksLikeOther(out.traces, same, catalogue, info.accuracy));
    }
    if (service != nullptr && service->mostSwr > 1 && measuredThrough(out.traces))
        out.cannot.push_back(sentence(
            {"cannot.aerial", "measured between two ports of the instrument: the aerial is "
                              "not in it; its SWR is seen with the aerial on"}));
    if (balanced &&
        std::none_of(out.traces.begin(), out.traces.end(), [](const Trace& t) { return t.farEnd; }))
        out.cannot.push_back(sentence({"cannot.one-end",
                                       "measured from one end: NEXT and return loss of the far end "
                                       "are not in the file"}));
    return out;
}

void findMeasurements(RunFinding& out, const RunReads& reads, const Catalogue& catalogue,
                      const MeasuredFiles& files, const LinkParts* link, const Service* service) {
    std::vector<std::string> keys;
    for (const Measurement* test : reads.tests) {
        const Measurement& m = *test;
        const auto it = files.find(fileKey(m));
        out.measurements.push_back(findMeasurement(*reads.info, *reads.run, catalogue, m,
                                                   it == files.end() ? nullptr : it->second.get(),
                                                   out, link, service));
        if (m.tester.lengthM)
            out.measuredM = m.tester.lengthM;
        keys.push_back(kindKey(m));
    }
    for (std::size_t i = 0; i < keys.size(); ++i)
        out.measurements[i].superseded =
            std::find(keys.begin() + static_cast<std::ptrdiff_t>(i) + 1, keys.end(), keys[i]) !=
            keys.end();
    sumUp(out, service, spacingOf(link == nullptr ? CableKind::Balanced : link->cable->kind, link));
}

} // namespace burin
