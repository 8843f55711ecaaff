#include "core/finding/run_finding.h"
#include "core/finding/alternatives.h"
#include "core/finding/measurement_finding.h"
#include "core/finding/run_matters.h"
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
                ? "too much signal: " + formatFixed(out.reach.leastM, 1) +
                      " m of this cable or more bring it into the window, or a pad"
                : "too much signal, and no length of this cable brings it into the window at every "
                  "frequency: a pad or an equaliser ahead of it";
}

/// What makes a run no good whatever its length.
void setMatters(RunFinding& out, const std::vector<RunMatter>& matters) {
    for (const auto& matter : matters) {
        out.notes.push_back(matter.text);
        if (!matter.bad || out.unfit)
            continue;
        out.unfit = true;
        if (out.outlook == Outlook::Fails)
            continue;
        out.outlook = Outlook::Fails;
        out.outlookReason = matter.text;
    }
}

std::vector<DbPart> partsAt(const LinkParts& link, const Catalogue& catalogue, double f) {
    const LossParts parts = linkLoss(link, catalogue, f);
    std::vector<DbPart> out{{"cable", parts.cableDb}};
    if (!link.cords.empty())
        out.push_back(
            {std::to_string(link.cords.size()) + (link.cords.size() == 1 ? " cord" : " cords"),
             parts.cordsDb});
    if (!link.connections.empty())
        out.push_back({std::to_string(link.connections.size()) +
                           (link.connections.size() == 1 ? " connection" : " connections"),
                       parts.connectionsDb});
    if (std::abs(parts.warmthDb) > 1e-9)
        out.push_back({"warmth", parts.warmthDb});
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

LinkParts linkOf(const Run& run, const Catalogue& catalogue, LinkKind link,
                 std::vector<Fault>* faults) {
    LinkParts out;
    const auto unknown = [&](const std::string& kind, const std::string& id) {
        if (faults != nullptr)
            faults->push_back({"run " + run.label, 0, 0,
                               kind + (id.empty() ? " is not chosen yet"
                                                  : " “" + id + "” is not in the catalogue"),
                               "Choose one from the list"});
    };
    out.cable = catalogue.cable(run.cableId);
    if (out.cable == nullptr)
        unknown("cable", run.cableId);
    for (const auto& stretch : run.stretches)
        out.stretches.push_back(
            {stretch.lengthM, out.cable == nullptr
                                  ? stretch.temperatureC
                                  : stretchTemperatureC(run, stretch, *out.cable, catalogue)});
    if (link == LinkKind::Channel)
        for (const auto& cord : run.cords) {
            const Cable* cable = catalogue.cable(cord.cableId);
            if (cable == nullptr)
                unknown("cord cable", cord.cableId);
            else
                out.cords.push_back({cable, cord.lengthM, cord.awg26});
        }
    bool nearSeen = false;
    bool farSeen = false;
    for (const auto& use : run.connections) {
        // A permanent link ends at the first connection of each end; what lies beyond is the
        // channel's cross-connect.
        bool& seen = use.end == End::Near ? nearSeen : farSeen;
        if (link == LinkKind::Permanent && use.end != End::Inline && seen)
            continue;
        if (use.end != End::Inline)
            seen = true;
        const Connection* connection = catalogue.connection(use.connectionId);
        if (connection == nullptr)
            unknown("connection", use.connectionId);
        else
            out.connections.push_back(connection);
    }
    return out;
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

RunFinding findRun(const Job& job, const Run& run, const Catalogue& catalogue,
                   const MeasuredFiles& files, const FindingOptions& options) {
    RunFinding out;
    out.runId = run.id;
    out.label = run.label;
    out.lengthM = run.lengthM();
    const LinkParts channel = linkOf(run, catalogue, LinkKind::Channel, &out.faults);
    const Service* service = catalogue.service(run.serviceId);
    if (service == nullptr)
        out.faults.push_back({"run " + run.label, 0, 0,
                              run.serviceId.empty()
                                  ? std::string("no service is chosen yet")
                                  : "service “" + run.serviceId + "” is not in the catalogue",
                              "Choose what it must carry"});
    out.outdoors = comesFromOutdoors(run, service);
    if (out.outdoors)
        out.caution = lightningCaution();
    if (channel.cable == nullptr) {
        if (options.measurements)
            findMeasurements(out, job, run, catalogue, files, nullptr, service);
        return out;
    }
    const Cable& cable = *channel.cable;
    out.channelM = out.lengthM + channel.cordLengthM();
    const LinkParts permanent = linkOf(run, catalogue, LinkKind::Permanent, nullptr);
    if (const auto category = lowestCategory(channel, &out.lowestPart))
        out.className = className(job.info.limitSet, *category);
    const auto grid = logGrid(bandOf(cable, service, run), options.points);
    out.channel = predict(channel, catalogue, grid);
    out.permanent = predict(permanent, catalogue, grid);
    out.loopOhm = loopResistanceOhm(channel, catalogue.temperature);
    out.limitDb.assign(grid.size(), none);
    if (service != nullptr) {
        const auto lines = linesOf(*service, job.info, run, catalogue, LinkKind::Channel);
        setLimit(out, lines);
        considerPoints(out, lines, channel, catalogue);
        out.reach = findReach(questionOf(run, job.info, catalogue, *service, nullptr), catalogue);
        setOutlook(out);
    } else {
        out.outlookReason = "no service is chosen";
    }
    const double top = topMhzOf(run, cable, service);
    out.worstMhz = out.tightestAtMhz ? *out.tightestAtMhz
                                     : std::min(top > 0 ? top : cable.topMhz.value, grid.back());
    out.parts = partsAt(channel, catalogue, out.worstMhz);
    if (options.reaches)
        setReaches(out, job, run, catalogue, cable);
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
        out.outlookReason = run.followsPlan ? "the plan gives it no way yet, so it has no length"
                                            : "its length is 0 m: type it, or lay it on the plan";
    }
    // What lies in a distribution or a bus is found with it, off the screen's thread.
    if (options.alternatives && job.distributionOf(run.id) == nullptr &&
        job.busOf(run.id) == nullptr)
        out.cures = curesOf(job, run, catalogue);
    if (options.measurements)
        findMeasurements(out, job, run, catalogue, files, &channel, service);
    return out;
}

Coverage coverageOf(const Job& job, const std::vector<RunFinding>& findings) {
    Coverage out;
    std::set<std::string_view> coiled;
    for (const auto& run : job.runs)
        if (run.leftCoiled)
            coiled.insert(run.id);
    for (const auto& finding : findings) {
        ++out.runs;
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

RunningLoss runningLoss(const Run& run, const Catalogue& catalogue, double f) {
    RunningLoss out{{0}, {0}};
    const auto step = [&](double metres, double loss) {
        out.atM.push_back(out.atM.back() + metres);
        out.lossDb.push_back(out.lossDb.back() + loss);
    };
    const auto ends = [&](End end) {
        const auto cords = [&] {
            for (const auto& cord : run.cords)
                if (const Cable* c = catalogue.cable(cord.cableId); c != nullptr && cord.end == end)
                    step(cord.lengthM,
                         cordLossDb({c, cord.lengthM, cord.awg26}, catalogue.cord, f));
        };
        const auto connections = [&] {
            for (const auto& use : run.connections)
                if (const auto* c = catalogue.connection(use.connectionId);
                    c != nullptr && use.end == end)
                    step(0, connectionLossDb(*c, f));
        };
        if (end == End::Near) {
            cords();
            connections();
        } else {
            connections();
            cords();
        }
    };
    ends(End::Near);
    if (const Cable* cable = catalogue.cable(run.cableId)) {
        double at = 0;
        for (const auto& stretch : run.stretches) {
            const double perMetre =
                attenuationDbPer100m(*cable, catalogue.temperature, f, stretch.temperatureC) / 100;
            double from = at;
            const double to = at + stretch.lengthM;
            for (const auto& use : run.connections) {
                const auto* c = catalogue.connection(use.connectionId);
                if (c == nullptr || use.end != End::Inline || use.atM < from || use.atM >= to)
                    continue;
                step(use.atM - from, (use.atM - from) * perMetre);
                step(0, connectionLossDb(*c, f));
                from = use.atM;
            }
            step(to - from, (to - from) * perMetre);
            at = to;
        }
    }
    ends(End::Far);
    return out;
}

Working lossWorking(const Run& run, const Catalogue& catalogue, double f) {
    Working out;
    const LinkParts link = linkOf(run, catalogue, LinkKind::Channel, nullptr);
    out.title = "Predicted loss of " + run.label + " at " + formatMhz(f);
    if (link.cable == nullptr) {
        out.result = "no cable is chosen";
        return out;
    }
    const Cable& cable = *link.cable;
    const auto& k = cable.attenuation;
    const bool balanced = cable.kind == CableKind::Balanced;
    out.formula = balanced ? "loss = Σ α(f)·kT·length/100 + Σ cords + Σ connections, "
                             "α = k1·√f + k2·f + k3/√f"
                           : "loss = Σ α(f, T)·length/100 + Σ connections, "
                             "α = (k0 + k1·√f)·√(1 + 0.00393·(T − 20)) + k2·f";
    const auto figure = [&](const std::string& name, const Figure& value, int places) {
        out.inputs.push_back({name, formatFixed(value.value, places), value.source});
    };
    if (!balanced)
        figure("k0", k.k0Db, 4);
    figure("k1", k.k1Db, 4);
    figure("k2", k.k2Db, 5);
    if (balanced)
        figure("k3", k.k3Db, 3);
    for (const auto& stretch : run.stretches)
        out.steps.push_back((stretch.name.empty() ? "cable" : stretch.name) + ": " +
                            formatFixed(stretch.lengthM, 1) + " m at " +
                            formatFixed(stretch.temperatureC, 0) + " °C = " +
                            formatFixed(stretch.lengthM / 100 *
                                            attenuationDbPer100m(cable, catalogue.temperature, f,
                                                                 stretch.temperatureC),
                                        2) +
                            " dB");
    for (const auto& cord : link.cords)
        out.steps.push_back("cord " + cord.cable->name + " " + formatFixed(cord.lengthM, 1) + " m" +
                            (cord.cable->kind == CableKind::Balanced
                                 ? (cord.awg26 ? ", stranded 26 AWG × 1.5" : ", stranded × 1.2")
                                 : "") +
                            " = " + formatFixed(cordLossDb(cord, catalogue.cord, f), 2) + " dB");
    for (const auto* connection : link.connections)
        out.steps.push_back(connection->name + " = " +
                            formatFixed(connectionLossDb(*connection, f), 2) + " dB");
    if (f > cable.topMhz.value * (1 + 1e-9))
        out.steps.push_back("beyond the cable's band of " + formatMhz(cable.topMhz.value) +
                            ": an extrapolation");
    out.result = formatFixed(linkLoss(link, catalogue, f).totalDb(), 2) + " dB";
    return out;
}

} // namespace burin
