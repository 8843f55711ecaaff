#include "core/finding/job_findings.h"
#include "core/base/lookup.h"
#include "core/finding/alternatives.h"
#include "core/finding/bus_cures.h"
#include "core/finding/run_matters.h"
#include "core/finding/trial.h"
#include "core/finding/way_cures.h"
#include "core/job/run_length.h"
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

/// A system is reached when it is another or reads something else; then all of its runs are, before
/// and after.
template <typename System>
void reachSystems(const std::vector<System>& before, const JobReads& was,
                  const std::vector<System>& after, const JobReads& is, Reached& out) {
    const auto add = [&](const System& system) {
        out.systems.insert(system.id);
        addRuns(system, out.runs);
    };
    for (const auto& system : after) {
        const System* old = byId(before, system.id);
        if (old != nullptr && *old == system && was.of(*old) == is.of(system))
            continue;
        add(system);
        if (old != nullptr)
            add(*old);
    }
    for (const auto& system : before)
        if (byId(after, system.id) == nullptr)
            addRuns(system, out.runs);
}

Reached reachedBy(const Job& before, const JobReads& was, const Job& after, const JobReads& is) {
    Reached out;
    // They point into the catalogue: of another nothing stands.
    out.all = !haveOneCatalogue(before, after);
    if (out.all)
        return out;
    for (const auto& run : after.runs) {
        const Run* old = was.run(run.id);
        if (old == nullptr || !(was.of(*old) == is.of(run)))
            out.runs.insert(run.id);
    }
    reachSystems(before.distributions, was, after.distributions, is, out);
    reachSystems(before.buses, was, after.buses, is, out);
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

/// False when stopped.
bool findSystems(const Job& job, const JobReads& reads, const Catalogue& catalogue,
                 const Reached& reached, const JobFindingOptions& options,
                 const KnownFindings& known, JobFindings& out) {
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
                old != nullptr ? *old : findDistribution(reads.of(d), d, catalogue, propose);
        } else {
            const BusChain& b = job.buses[i - distributions];
            const auto* old = stands(b.id) ? known.findings->bus(b.id) : nullptr;
            out.buses[i - distributions] =
                old != nullptr ? *old : findBusChain(reads.of(b), b, catalogue, propose);
        }
    };
    return inParallel(distributions + job.buses.size(), options.threads, options.stop, one);
}

void findPulls(const Job& kept, const Job& laid, const Catalogue& catalogue, const SitePlan& site,
               const std::string& today, JobFindings& out) {
    out.pulls = planPulls(kept, catalogue, site, out.closings);
    if (auto planned = planDays(kept, catalogue, out.pulls, out.ends, out.closings, today))
        out.days = std::move(*planned);
    for (const auto& run : kept.runs)
        if (auto check = checkPulled(kept, laid, run, catalogue, site, out.pulls))
            out.pulled.push_back(std::move(*check));
}

} // namespace

const PulledCheck* JobFindings::pulledFor(std::string_view runId) const {
    const auto it = std::find_if(pulled.begin(), pulled.end(),
                                 [&](const PulledCheck& c) { return c.runId == runId; });
    return it == pulled.end() ? nullptr : &*it;
}

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
    f.caution = f.outdoors || wayOutdoors ? lightningCaution() : Sentence();
    if (route == nullptr || route->fault || lengthFrom(run) != LengthFrom::Typed ||
        !(run.lengthM() > 0) || !differsFromWay(run.lengthM(), route->linkM))
        return;
    f.wayM = route->linkM;
    f.typedOutlook = f.outlook;
    f.typedReason = f.outlookReason;
    const bool held = f.isPredicted();
    if (held && f.reach.reachM && !f.reach.holds(route->linkM)) {
        f.outlook = Outlook::Unknown;
        f.outlookReason = sentence(
            {"run.which-length", "{0} are typed and hold; its way on the plan is {1}, and {2} "
                                 "is as far as it reaches: which of them is right?"},
            asMetres(run.lengthM()), asMetres(route->linkM), asMetres(*f.reach.reachM));
    }
}

void JobFindings::overlaySystems(RunFinding& run, const Job& job,
                                 const Catalogue& catalogue) const {
    for (const auto& d : distributions)
        if (d.fedBy(run.runId))
            if (const Run* of = job.run(run.runId))
                overlay(run, d, *of, job.info, catalogue);
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
    const JobReads reads(job);
    if (known.job != nullptr && known.findings != nullptr) {
        reached = reachedBy(*known.job, JobReads(*known.job), job, reads);
        old = indexOf(known.findings->runs,
                      [](const RunFinding& f) { return std::string_view(f.runId); });
    }
    out.clashes = clashesOf(job);
    out.stopped = !findSystems(job, reads, catalogue, reached, options, known, out);
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
        finding = findRun(reads.of(job.runs[i]), catalogue, files, options.run);
        out.overlaySystems(finding, job, catalogue);
        if (options.run.alternatives)
            finding.cures = curesOf(job, job.runs[i], catalogue);
    });
    if (options.site != nullptr && !out.stopped)
        for (std::size_t i = 0; i < out.runs.size(); ++i)
            overlaySite(out.runs[i], job.runs[i], *options.site);
    if (options.site != nullptr && !out.stopped)
        out.closings = closings(job, *options.site, out.runs);
    if (options.kept != nullptr && !out.stopped)
        out.ends = findEndPlan(*options.kept, catalogue, out.runs, options.today);
    if (options.site != nullptr && options.kept != nullptr && !out.stopped)
        findPulls(*options.kept, job, catalogue, *options.site, options.today, out);
    return out;
}

bool hasLongCures(const Job& job, const RunFinding& of) {
    const Run* run = job.run(of.runId);
    return run != nullptr &&
           (inSystem(job, of.runId) || (!of.isPredicted() && lengthFrom(*run) == LengthFrom::Plan));
}

namespace {

Cure ofSystem(std::string id, Sentence title, Sentence reason, const Cost& cost) {
    Cure out;
    out.of = CureOf::System;
    out.systemId = std::move(id);
    out.title = std::move(title);
    out.reason = std::move(reason);
    out.cost = cost;
    out.holds = true; // it was put in place and computed when it was found
    return out;
}

/// Not what is among them already: another cable for this run, which tells its reach besides.
void addSystemCures(const DistributionFinding& finding, const Run& run, std::vector<Cure>& cures) {
    if (finding.good || !finding.proposal || !finding.proposal->possible)
        return;
    const auto& changes = finding.proposal->changes;
    const bool known = changes.size() == 1 && changes[0].kind == TreeChange::Kind::Cable &&
                       changes[0].at == run.label &&
                       std::ranges::any_of(cures, [&](const Cure& cure) {
                           return cure.holds && cure.cableId == changes[0].cableId;
                       });
    if (!known)
        cures.push_back(
            ofSystem(finding.id, finding.proposal->reason,
                     sentence({"cure.distribution", "every outlet of {0} is then in its window"},
                              finding.name),
                     finding.proposal->cost));
}

void addSystemCures(const BusChainFinding& finding, std::vector<Cure>& cures) {
    for (const auto& cure : finding.cures) {
        Cure row = ofSystem(
            finding.id, cure.what,
            sentence({"cure.bus", "every device of {0} then hears and is fed"}, finding.name),
            cure.cost);
        row.bus = cure.after;
        row.needsSupply = !cure.after;
        cures.push_back(std::move(row));
    }
}

} // namespace

void findCures(const Job& job, const Catalogue& catalogue, const std::string& runId,
               JobFindings& out, const CureOptions& options) {
    const auto& stop = options.stop;
    const auto found = std::find_if(out.runs.begin(), out.runs.end(),
                                    [&](const RunFinding& f) { return f.runId == runId; });
    if (found == out.runs.end() || !hasLongCures(job, *found))
        return;
    auto cures = curesOf(job, *job.run(runId), catalogue);
    if (options.kept != nullptr && options.site != nullptr)
        for (auto& cure : wayCures(*options.kept, job, runId, catalogue, *options.site, stop))
            cures.push_back(std::move(cure));
    if (const BusChain* b = job.busOf(runId))
        for (auto& finding : out.buses)
            if (finding.id == b->id && !finding.good) {
                if (finding.cures.empty())
                    finding.cures = busCures(job, *b, catalogue, stop);
                addSystemCures(finding, cures);
            }
    if (stop && stop())
        return;
    if (const Distribution* d = job.distributionOf(runId))
        for (auto& finding : out.distributions)
            if (finding.id == d->id) {
                if (!finding.proposal)
                    propose(finding, *d, catalogue);
                addSystemCures(finding, *job.run(runId), cures);
            }
    rank(cures, catalogue.costs);
    out.curesFor = runId;
    out.cures = std::move(cures);
}

} // namespace burin
