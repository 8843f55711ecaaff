#include "core/finding/job_findings.h"
#include "core/finding/alternatives.h"
#include "core/finding/bus_cures.h"
#include "core/finding/run_matters.h"
#include "core/lookup.h"
#include "core/units/units.h"
#include <algorithm>
#include <atomic>
#include <exception>
#include <mutex>
#include <set>
#include <thread>
#include <unordered_map>

namespace burin {
namespace {

using ById = std::unordered_map<std::string_view, std::size_t>;

template <typename T, typename Id> ById indexOf(const std::vector<T>& list, Id id) {
    ById out;
    for (std::size_t i = 0; i < list.size(); ++i)
        out.emplace(id(list[i]), i);
    return out;
}

std::unordered_map<std::string_view, std::vector<const Measurement*>> testsByRun(const Job& job) {
    std::unordered_map<std::string_view, std::vector<const Measurement*>> out;
    for (const auto& m : job.measurements)
        out[m.runId].push_back(&m);
    return out;
}

/// What the edits between two jobs reach.
struct Reached {
    std::set<std::string_view> runs, systems;
    bool all = false;
};

void addRuns(const Distribution& system, std::set<std::string_view>& runs) {
    for (const auto& part : system.parts)
        runs.insert(part.runId);
}
void addRuns(const BusChain& system, std::set<std::string_view>& runs) {
    for (const auto& device : system.devices)
        runs.insert(device.runId);
}

/// A system is reached when it or one of its runs changed; then all of its runs are, before and
/// after.
template <typename System>
void reachSystems(const std::vector<System>& before, const std::vector<System>& after,
                  const std::set<std::string_view>& changed, Reached& out) {
    const auto add = [&](const System& system) {
        out.systems.insert(system.id);
        addRuns(system, out.runs);
    };
    for (const auto& system : after) {
        const System* old = byId(before, system.id);
        std::set<std::string_view> runs;
        addRuns(system, runs);
        const bool touched = std::any_of(runs.begin(), runs.end(),
                                         [&](const auto& id) { return changed.contains(id); });
        if (old != nullptr && *old == system && !touched)
            continue;
        add(system);
        if (old != nullptr)
            add(*old);
    }
    for (const auto& system : before)
        if (byId(after, system.id) == nullptr)
            addRuns(system, out.runs);
}

Reached reachedBy(const Job& before, const Job& after) {
    Reached out;
    out.all = !(before.info == after.info) || before.cables != after.cables;
    if (out.all)
        return out;
    const auto runId = [](const Run& run) { return std::string_view(run.id); };
    const ById old = indexOf(before.runs, runId);
    auto testsBefore = testsByRun(before);
    auto testsAfter = testsByRun(after);
    for (const auto& run : after.runs) {
        const auto it = old.find(run.id);
        const auto& a = testsBefore[run.id];
        const auto& b = testsAfter[run.id];
        if (it == old.end() || !(before.runs[it->second] == run) ||
            !std::equal(a.begin(), a.end(), b.begin(), b.end(),
                        [](const auto* x, const auto* y) { return *x == *y; }))
            out.runs.insert(run.id);
    }
    const std::set<std::string_view> changed = out.runs;
    reachSystems(before.distributions, after.distributions, changed, out);
    reachSystems(before.buses, after.buses, changed, out);
    return out;
}

/// Runs `work(i)` for i in 0 … count − 1 on several threads until `stop` says so. What one of them
/// throws is thrown here once all have ended.
template <typename Work>
bool inParallel(std::size_t count, int threads, const std::function<bool()>& stop, Work work) {
    std::atomic<std::size_t> next{0};
    std::atomic<bool> stopped{false};
    std::mutex first;
    std::exception_ptr thrown;
    const auto loop = [&] {
        try {
            for (std::size_t i = next++; i < count; i = next++) {
                if (stop && stop()) {
                    stopped = true;
                    return;
                }
                work(i);
            }
        } catch (...) {
            next = count;
            const std::lock_guard lock(first);
            thrown = std::current_exception();
        }
    };
    const auto most = static_cast<std::size_t>(
        threads > 0 ? threads : std::max(1U, std::thread::hardware_concurrency()));
    // One or two of anything are not worth a thread.
    const std::size_t helpers = std::min(most, count / 2 + 1) - 1;
    std::vector<std::jthread> pool;
    pool.reserve(helpers);
    for (std::size_t i = 0; i < helpers; ++i)
        pool.emplace_back(loop);
    loop();
    pool.clear(); // joins
    if (thrown)
        std::rethrow_exception(thrown);
    return !stopped;
}

bool inSystem(const Job& job, const std::string& runId) {
    return job.distributionOf(runId) != nullptr || job.busOf(runId) != nullptr;
}

/// False when stopped.
bool findSystems(const Job& job, const Catalogue& catalogue, const Reached& reached,
                 const JobFindingOptions& options, const KnownFindings& known, JobFindings& out) {
    const auto stands = [&](const std::string& id) {
        return !reached.all && known.findings != nullptr && !reached.systems.contains(id);
    };
    const std::size_t distributions = job.distributions.size();
    out.distributions.resize(distributions);
    out.buses.resize(job.buses.size());
    const Propose propose = options.cures ? Propose::Yes : Propose::No;
    const auto one = [&](std::size_t i) {
        if (i < distributions) {
            const Distribution& d = job.distributions[i];
            const auto* old = stands(d.id) ? known.findings->distribution(d.id) : nullptr;
            out.distributions[i] =
                old != nullptr ? *old : findDistribution(job, d, catalogue, propose);
        } else {
            const BusChain& b = job.buses[i - distributions];
            const auto* old = stands(b.id) ? known.findings->bus(b.id) : nullptr;
            out.buses[i - distributions] =
                old != nullptr ? *old : findBusChain(job, b, catalogue, propose);
        }
    };
    return inParallel(distributions + job.buses.size(), options.threads, options.stop, one);
}

} // namespace

const DistributionFinding* JobFindings::distribution(std::string_view id) const {
    return byId(distributions, id);
}
const BusChainFinding* JobFindings::bus(std::string_view id) const {
    return byId(buses, id);
}

void overlaySite(RunFinding& f, const Run& run, const SitePlan& site) {
    if (f.wayM) {
        f.outlook = f.typedOutlook;
        f.outlookReason = f.typedReason;
        f.wayM.reset();
    }
    const RunRoute* route = site.route(run.id);
    const bool wayOutdoors = route != nullptr && !route->fault && route->outdoors;
    f.caution = f.outdoors || wayOutdoors ? lightningCaution() : std::string();
    if (route == nullptr || route->fault || run.followsPlan || !(run.lengthM() > 0) ||
        !differsFromWay(run.lengthM(), route->linkM))
        return;
    f.wayM = route->linkM;
    f.typedOutlook = f.outlook;
    f.typedReason = f.outlookReason;
    const bool held = f.outlook == Outlook::Holds || f.outlook == Outlook::Tight;
    if (held && f.reach.reachM && !f.reach.holds(route->linkM)) {
        f.outlook = Outlook::Unknown;
        f.outlookReason = formatFixed(run.lengthM(), 1) + " m are typed and hold; its way on the " +
                          "plan is " + formatFixed(route->linkM, 1) + " m, and " +
                          formatFixed(*f.reach.reachM, 1) + " m is as far as it reaches: which " +
                          "of them is right?";
    }
}

void JobFindings::overlaySystems(RunFinding& run, const Job& job,
                                 const Catalogue& catalogue) const {
    for (const auto& d : distributions)
        overlay(run, d, job, catalogue);
    for (const auto& b : buses)
        overlay(run, b);
    if (!curesFor.empty() && curesFor == run.runId)
        run.cures = cures;
}

JobFindings findJob(const Job& job, const Catalogue& catalogue, const MeasuredFiles& files,
                    const JobFindingOptions& options, const KnownFindings& known) {
    JobFindings out;
    Reached reached;
    reached.all = true;
    ById old;
    if (known.job != nullptr && known.findings != nullptr) {
        reached = reachedBy(*known.job, job);
        old = indexOf(known.findings->runs,
                      [](const RunFinding& f) { return std::string_view(f.runId); });
    }
    out.clashes = clashesOf(job);
    out.stopped = !findSystems(job, catalogue, reached, options, known, out);
    if (out.stopped)
        return out;
    out.runs.resize(job.runs.size());
    std::vector<std::size_t> wanted;
    for (std::size_t i = 0; i < job.runs.size(); ++i) {
        const auto it = reached.all || reached.runs.contains(job.runs[i].id)
                            ? old.end()
                            : old.find(job.runs[i].id);
        if (it != old.end())
            out.runs[i] = known.findings->runs[it->second];
        else
            wanted.push_back(i);
    }
    out.computed = static_cast<int>(wanted.size());
    out.stopped = !inParallel(wanted.size(), options.threads, options.stop, [&](std::size_t k) {
        const std::size_t i = wanted[k];
        RunFinding& finding = out.runs[i];
        finding = findRun(job, job.runs[i], catalogue, files, options.run);
        out.overlaySystems(finding, job, catalogue);
        if (options.run.alternatives && inSystem(job, job.runs[i].id))
            finding.cures = curesOf(job, job.runs[i], catalogue);
    });
    if (options.site != nullptr && !out.stopped)
        for (std::size_t i = 0; i < out.runs.size(); ++i)
            overlaySite(out.runs[i], job.runs[i], *options.site);
    return out;
}

void findCures(const Job& job, const Catalogue& catalogue, const std::string& runId,
               JobFindings& out, const std::function<bool()>& stop) {
    const Run* run = job.run(runId);
    if (run == nullptr || !inSystem(job, runId))
        return;
    auto cures = curesOf(job, *run, catalogue);
    if (const BusChain* b = job.busOf(runId))
        for (auto& finding : out.buses)
            if (finding.id == b->id && !finding.good && finding.cures.empty())
                finding.cures = busCures(job, *b, catalogue, stop);
    if (stop && stop())
        return;
    if (const Distribution* d = job.distributionOf(runId))
        for (auto& finding : out.distributions)
            if (finding.id == d->id && !finding.proposal)
                propose(finding, *d, catalogue);
    out.curesFor = runId;
    out.cures = std::move(cures);
}

} // namespace burin
