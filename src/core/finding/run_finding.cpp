#include "core/finding/run_finding.h"
#include "core/finding/alternatives.h"
#include "core/finding/measurement_finding.h"
#include "core/finding/run_loss.h"
#include "core/finding/run_matters.h"
#include "core/job/run_length.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <set>

namespace burin {
namespace {

constexpr double none = std::numeric_limits<double>::quiet_NaN();

struct Band {
    double fromMhz = 1, toMhz = 250;
};

Band bandOf(const Cable& cable, const Service* service, const Run& run) {
    if (cable.kind == CableKind::Balanced)
        return {1, std::max(service != nullptr ? service->limitTopMhz : 0,
                            std::max(16.0, cable.topMhz.value))};
    const double top = topMhzOf(run, cable, service);
    return {1, top > 0 ? std::min(std::max(top * 1.1, 100.0), 6000.0) : 1000};
}

std::vector<double> logGrid(Band band, int points) {
    std::vector<double> out(static_cast<std::size_t>(points));
    const double ratio = std::log(band.toMhz / band.fromMhz) / (points - 1);
    for (int i = 0; i < points; ++i)
        out[static_cast<std::size_t>(i)] = band.fromMhz * std::exp(ratio * i);
    out.back() = band.toMhz;
    return out;
}

LinkParts atTemperature(LinkParts link, double temperatureC) {
    const double length = link.fixedLengthM();
    link.stretches = {{length, temperatureC}};
    return link;
}

PredictedLoss predict(const LinkParts& link, const Catalogue& catalogue,
                      const std::vector<double>& grid) {
    PredictedLoss out;
    out.frequencyMhz = grid;
    for (const auto& stretch : link.stretches)
        out.warmestC = std::max(out.warmestC, stretch.temperatureC);
    for (const auto& stretch : link.stretches)
        out.coolestC = std::min(out.coolestC, stretch.temperatureC);
    const LinkParts cool = atTemperature(link, out.coolestC);
    const LinkParts warm = atTemperature(link, out.warmestC);
    const double length = link.fixedLengthM() / 100;
    for (const double f : grid) {
        const LossParts parts = linkLoss(link, catalogue, f);
        const double fixed = parts.cordsDb + parts.connectionsDb;
        out.lossDb.push_back(parts.totalDb());
        out.coolDb.push_back(fixed +
                             length * meanAttenuationDbPer100m(cool, catalogue.temperature, f));
        out.warmDb.push_back(fixed +
                             length * meanAttenuationDbPer100m(warm, catalogue.temperature, f));
    }
    return out;
}

void takeShare(RunFinding& out, double f, double limit, double loss) {
    if (limit <= 0 || loss / limit <= out.predictedShare)
        return;
    out.predictedShare = loss / limit;
    out.tightestDb = limit - loss;
    out.tightestAtMhz = f;
}

/// The service's loss limit on the plot: the class line, or its plain rules.
void setLimit(RunFinding& out, const std::vector<JudgeLine>& lines) {
    out.limitDb.assign(out.channel.frequencyMhz.size(), none);
    for (const auto& line : lines) {
        if (line.limit.parameter != Parameter::InsertionLoss || !line.upper)
            continue;
        out.limitName = line.name;
        for (std::size_t i = 0; i < out.limitDb.size(); ++i)
            if (const auto limit = line.limit.at(out.channel.frequencyMhz[i]))
                out.limitDb[i] =
                    std::isnan(out.limitDb[i]) ? *limit : std::min(out.limitDb[i], *limit);
    }
    const auto consider = [&](double f, double limit, double loss) {
        const double margin = limit - loss;
        if (!out.marginDb || margin < *out.marginDb) {
            out.marginDb = margin;
            out.marginAtMhz = f;
        }
        takeShare(out, f, limit, loss);
    };
    for (std::size_t i = 0; i < out.limitDb.size(); ++i)
        if (!std::isnan(out.limitDb[i]))
            consider(out.channel.frequencyMhz[i], out.limitDb[i], out.channel.lossDb[i]);
}

/// Rules at a single frequency fall between the plot's points: judged at their own place.
void considerPoints(RunFinding& out, const std::vector<JudgeLine>& lines, const LinkParts& link,
                    const Catalogue& catalogue) {
    for (const auto& line : lines) {
        if (line.limit.parameter != Parameter::InsertionLoss || !line.upper)
            continue;
        const double f = line.limit.toMhz() / line.limit.fromMhz() < 1.02
                             ? (line.limit.fromMhz() + line.limit.toMhz()) / 2
                             : line.limit.toMhz();
        const auto limit = line.limit.at(f);
        if (!limit)
            continue;
        const double loss = linkLoss(link, catalogue, f).totalDb();
        if (!out.marginDb || *limit - loss < *out.marginDb) {
            out.marginDb = *limit - loss;
            out.marginAtMhz = f;
        }
        takeShare(out, f, *limit, loss);
    }
}

void setOutlook(RunFinding& out) {
    if (!out.reach.reachM) {
        out.outlook = Outlook::Unknown;
        out.outlookReason = out.reach.reason;
        return;
    }
    if (*out.reach.reachM > 0)
        out.predictedShare = std::max(out.predictedShare, out.lengthM / *out.reach.reachM);
    else
        out.predictedShare = std::max(out.predictedShare, 2.0);
    const double spare = *out.reach.reachM - out.lengthM;
    out.outlook = out.reach.holds(out.lengthM) ? Outlook::Holds : Outlook::Fails;
    // The loss is known to about two parts in a hundred: less spare than that is tight.
    if (out.outlook == Outlook::Holds && spare < 0.02 * out.lengthM)
        out.outlook = Outlook::Tight;
    out.outlookReason = out.reach.reason;
    if (out.outlook == Outlook::Fails && out.lengthM < out.reach.leastM)
        out.outlookReason =
            out.reach.leastM <= *out.reach.reachM
                ? sentence({"run.too-much",
                            "too much signal: {0} of this cable or more bring it into "
                            "the window, or a pad"},
                           asMetres(out.reach.leastM))
                : sentence(
                      {"run.too-much-anyway",
                       "too much signal, and no length of this cable brings it into the window "
                       "at every frequency: a pad or an equaliser ahead of it"});
}

/// What makes a run no good whatever its length.
void setMatters(RunFinding& out, const std::vector<RunMatter>& matters) {
    for (const auto& matter : matters) {
        out.notes.push_back(matter.said);
        if (!matter.bad || out.unfit)
            continue;
        out.unfit = true;
        if (out.outlook == Outlook::Fails)
            continue;
        out.outlook = Outlook::Fails;
        out.outlookReason = matter.said;
    }
}

std::vector<DbPart> partsOf(const std::vector<LossStep>& steps) {
    DbPart cable{LossOf::Cable, sentence({"part.of-cable", "cable"}), 0};
    DbPart warmth{LossOf::Warmth, sentence({"part.of-warmth", "warmth"}), 0};
    double cordsDb = 0;
    double connectionsDb = 0;
    int cords = 0;
    int connections = 0;
    for (const auto& step : steps) {
        switch (step.of) {
        case LossOf::Cords:
            cordsDb += step.lossDb;
            ++cords;
            break;
        case LossOf::Connections:
            connectionsDb += step.lossDb;
            ++connections;
            break;
        case LossOf::Cable:
        case LossOf::Warmth:
            cable.lossDb += step.lossDb - step.warmthDb;
            warmth.lossDb += step.warmthDb;
            break;
        }
    }
    std::vector<DbPart> out{cable};
    if (cords > 0)
        out.push_back({LossOf::Cords,
                       sentence({"part.of-cords", "{0} {0?cord|cords}"}, asCount(cords)), cordsDb});
    if (connections > 0)
        out.push_back({LossOf::Connections,
                       sentence({"part.of-connections", "{0} {0?connection|connections}"},
                                asCount(connections)),
                       connectionsDb});
    if (std::abs(warmth.lossDb) > 1e-9)
        out.push_back(warmth);
    return out;
}

} // namespace

double topMhzOf(const Run& run, const Cable& cable, const Service* service) {
    if (cable.kind == CableKind::Balanced)
        return service != nullptr && service->limitTopMhz > 0 ? service->limitTopMhz
                                                              : cable.topMhz.value;
    double top = service != nullptr && service->levelWindow ? service->levelWindow->toMhz : 0;
    if (service != nullptr)
        for (const auto& rule : service->lossRules)
            top = std::max(top, rule.toMhz);
    return std::max(top, run.bandToMhz.value_or(0));
}

std::string_view outlookKey(Outlook outlook) {
    constexpr std::array<std::string_view, 4> keys{"unknown", "holds", "tight", "fails"};
    return keys[static_cast<std::size_t>(outlook)];
}

ReachQuestion questionOf(const Run& run, const JobInfo& info, const Catalogue& catalogue,
                         const Service& service, std::vector<Fault>* faults) {
    ReachQuestion out;
    out.link = linkOf(run, catalogue, LinkKind::Channel, faults);
    out.service = &service;
    out.set = info.limitSet;
    out.school = info.school;
    out.neighbours = run.neighbours();
    out.headLevel = run.headLevel;
    out.lossBudgetDb = run.lossBudgetDb;
    out.bandFromMhz = run.bandFromMhz;
    out.bandToMhz = run.bandToMhz;
    out.cablePerDirection = run.perDirection;
    out.permanent = linkOf(run, catalogue, LinkKind::Permanent, nullptr);
    if (out.permanent->cable == nullptr)
        out.permanent.reset();
    return out;
}

double channelReachM(const Run& run, const JobInfo& info, const Catalogue& catalogue) {
    const Service* service = catalogue.service(run.serviceId);
    if (service == nullptr)
        return 0;
    ReachQuestion question = questionOf(run, info, catalogue, *service, nullptr);
    question.permanent.reset();
    return findReach(question, catalogue).channelM.value_or(0);
}

RunFinding findRun(const Job& job, const Run& run, const Catalogue& catalogue,
                   const MeasuredFiles& files, const FindingOptions& options) {
    RunReads reads{&job.info, &run, {}};
    for (const auto& m : job.measurements)
        if (m.runId == run.id)
            reads.tests.push_back(&m);
    RunFinding out = findRun(reads, catalogue, files, options);
    if (options.alternatives && catalogue.cable(run.cableId) != nullptr &&
        job.distributionOf(run.id) == nullptr && job.busOf(run.id) == nullptr)
        out.cures = curesOf(job, run, catalogue);
    return out;
}

RunFinding findRun(const RunReads& reads, const Catalogue& catalogue, const MeasuredFiles& files,
                   const FindingOptions& options) {
    const JobInfo& info = *reads.info;
    const Run& run = *reads.run;
    RunFinding out;
    out.runId = run.id;
    out.label = run.label;
    out.lengthM = run.lengthM();
    const LinkParts channel = linkOf(run, catalogue, LinkKind::Channel, &out.faults);
    const Service* service = catalogue.service(run.serviceId);
    if (service == nullptr)
        out.faults.push_back(
            {sentence({"where.run", "run {0}"}, run.label),
             0,
             0,
             run.serviceId.empty()
                 ? sentence({"service.not-chosen", "no service is chosen yet"})
                 : sentence({"service.not-in-catalogue", "service “{0}” is not in the catalogue"},
                            run.serviceId),
             {"cure.choose-service", "Choose what it must carry"}});
    out.outdoors = comesFromOutdoors(run, service);
    if (out.outdoors)
        out.caution = lightningCaution();
    if (channel.cable == nullptr) {
        if (options.measurements)
            findMeasurements(out, reads, catalogue, files, nullptr, service);
        return out;
    }
    const Cable& cable = *channel.cable;
    out.channelM = out.lengthM + channel.cordLengthM();
    const LinkParts permanent = linkOf(run, catalogue, LinkKind::Permanent, nullptr);
    if (const auto category = lowestCategory(channel, &out.lowestPart))
        out.className = className(info.limitSet, *category);
    const auto grid = logGrid(bandOf(cable, service, run), options.points);
    out.channel = predict(channel, catalogue, grid);
    out.permanent = predict(permanent, catalogue, grid);
    out.loopOhm = loopResistanceOhm(channel, catalogue.temperature);
    out.limitDb.assign(grid.size(), none);
    if (service != nullptr) {
        const auto lines = linesOf(*service, info, run, catalogue, LinkKind::Channel);
        setLimit(out, lines);
        considerPoints(out, lines, channel, catalogue);
        out.reach = findReach(questionOf(run, info, catalogue, *service, nullptr), catalogue);
        setOutlook(out);
    } else {
        out.outlookReason = sentence({"run.no-service", "no service is chosen"});
    }
    const double top = topMhzOf(run, cable, service);
    out.worstMhz = out.tightestAtMhz ? *out.tightestAtMhz
                                     : std::min(top > 0 ? top : cable.topMhz.value, grid.back());
    out.steps = lossSteps(run, catalogue, out.worstMhz);
    out.parts = partsOf(out.steps);
    if (options.reaches)
        setReaches(out, info, run, catalogue, cable);
    out.powered = findPowered(run, catalogue);
    if (out.powered && !out.powered->reason.empty()) {
        out.outlook = Outlook::Fails;
        out.outlookReason = out.powered->reason;
        out.unfit = true;
    }
    setMatters(out, runMatters(run, out, catalogue, cable, service));
    if (!(out.lengthM > 0)) {
        out.unfit = true;
        out.outlook = Outlook::Unknown;
        out.outlookReason =
            lengthFrom(run) == LengthFrom::Plan
                ? sentence({"run.no-way", "the plan gives it no way yet, so it has no length"})
                : sentence({"run.no-length", "its length is {0}: type it, or lay it on the plan"},
                           asMetres(0, 0));
    }
    if (options.measurements)
        findMeasurements(out, reads, catalogue, files, &channel, service);
    return out;
}

const MeasurementFinding* RunFinding::judged() const {
    const MeasurementFinding* out = nullptr;
    for (const auto& m : measurements)
        if (!m.superseded && (out == nullptr || !m.traces.empty() || out->traces.empty()))
            out = &m;
    return out;
}

const MeasurementFinding* RunFinding::before(const MeasurementFinding& now) const {
    const MeasurementFinding* out = nullptr;
    for (const auto& m : measurements) {
        if (m.id == now.id)
            break;
        if (m.superseded && m.link == now.link && m.traces.empty() == now.traces.empty())
            out = &m;
    }
    return out;
}

Sentence RunFinding::failure() const {
    Sentence out;
    for (const auto& m : measurements)
        if (!m.superseded && !m.failures.empty())
            out = m.failures.front();
    return out;
}

const WireFinding* RunFinding::wires() const {
    const WireFinding* out = nullptr;
    for (const auto& m : measurements)
        if (!m.superseded && m.wires)
            out = &*m.wires;
    return out;
}

Coverage coverageOf(const Job& job, const std::vector<RunFinding>& findings) {
    Coverage out;
    std::set<std::string_view> coiled;
    for (const auto& run : job.runs) {
        out.planned += lengthFrom(run) == LengthFrom::Plan ? 1 : 0;
        if (run.leftCoiled)
            coiled.insert(run.id);
    }
    for (const auto& finding : findings) {
        ++out.runs;
        out.predicted += finding.isPredicted() ? 1 : 0;
        if (coiled.contains(finding.runId)) {
            ++out.coiled;
            continue;
        }
        switch (finding.state()) {
        case State::Untested:
            ++out.untested;
            break;
        case State::Pass:
            ++out.pass;
            break;
        case State::MarginalGood:
            ++out.marginalGood;
            break;
        case State::MarginalBad:
            ++out.marginalBad;
            break;
        case State::Fail:
            ++out.fail;
            break;
        }
    }
    return out;
}

} // namespace burin
