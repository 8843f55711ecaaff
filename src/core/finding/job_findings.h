#pragma once
#include "core/edit/clashes.h"
#include "core/finding/days.h"
#include "core/finding/end_work.h"
#include "core/finding/pulled_check.h"
#include "core/finding/system_finding.h"
#include <functional>

namespace burin {

/// Everything computed about a job. `runs` is in the order of the job's runs.
struct JobFindings {
    std::vector<RunFinding> runs;
    std::vector<DistributionFinding> distributions;
    std::vector<BusChainFinding> buses;
    std::vector<Clash> clashes;      ///< what two people's work made together and cannot be
    std::vector<Closing> closings;   ///< where the plan is known
    EndPlan ends;                    ///< of the job as kept
    PullPlan pulls;                  ///< likewise, where the plan is known
    DayPlan days;                    ///< likewise, where a day was named
    std::vector<PulledCheck> pulled; ///< what was pulled, in the order of the job's runs
    /// What would cure the run that was asked for, where `hasLongCures`.
    std::string curesFor;
    std::vector<Cure> cures;
    int computed = 0; ///< runs that were not taken over
    bool stopped = false;

    [[nodiscard]] const DistributionFinding* distribution(std::string_view id) const;
    /// nullptr: nothing was pulled for it.
    [[nodiscard]] const PulledCheck* pulledFor(std::string_view runId) const;
    [[nodiscard]] const BusChainFinding* bus(std::string_view id) const;
    /// Lays over a run's finding what the systems say of it. `job` is the one it was found in.
    void overlaySystems(RunFinding& run, const Job& job, const Catalogue& catalogue) const;
};

/// Lays over a run's finding what the plan says of its length: where the typed one holds and the
/// way would not, nobody can say that it holds. May be done again after the plan has changed.
void overlaySite(RunFinding& finding, const Run& run, const SitePlan& site);

struct JobFindingOptions {
    FindingOptions run{.points = 60, .alternatives = false};
    bool cures = true; ///< what would cure is looked for in every system; it takes its time
    const SitePlan* site = nullptr; ///< of the same job
    std::string today;              ///< work is laid on days from here; empty: it is not
    const Job* kept = nullptr;      ///< the same job as kept: its pulls are planned, with `site`
    int threads = 0;                ///< 0: as many as the machine has
    /// Asked between runs; true ends the work, with `stopped` set.
    std::function<bool()> stop = {};
};

/// What was found before an edit, and of which job.
struct KnownFindings {
    const Job* job = nullptr;
    const JobFindings* findings = nullptr;
};

/// Findings of all runs and systems, on several threads. With `known`, only what the edits between
/// the two jobs reach is computed anew: what reads something else than it did
/// (core/finding/reads.h), and the other runs of a system that does; everything after a change of
/// the job's own cables or cards. The files of a measurement never change, since they are kept by
/// their content.
JobFindings findJob(const Job& job, const Catalogue& catalogue, const MeasuredFiles& files,
                    const JobFindingOptions& options = {}, const KnownFindings& known = {});

/// Whether what would cure a run takes its time: it is part of a system, or it does not hold and
/// the plan lays it.
bool hasLongCures(const Job& job, const RunFinding& run);
/// Adds what would cure the system of one run of the findings, and that run: by itself, and where
/// `kept` and `site` are, by where it lies. Nothing where it has no long cures. `stop` ends it,
/// with nothing added.
struct CureOptions {
    const Job* kept = nullptr;
    const SitePlan* site = nullptr; ///< of it; `job` is as laid with it
    std::function<bool()> stop = {};
};
void findCures(const Job& job, const Catalogue& catalogue, const std::string& runId,
               JobFindings& findings, const CureOptions& options = {});

} // namespace burin
