#pragma once
#include "core/job/job.h"
#include <map>
#include <unordered_map>

/// What findings read of a job. A finding is given these and no job, so that what an edit reaches
/// is told by comparing them: equal reads lead to equal findings, with the same catalogue and
/// files.
namespace burin {

/// What the finding of one run reads.
struct RunReads {
    const JobInfo* info = nullptr;
    const Run* run = nullptr;
    std::vector<const Measurement*> tests; ///< in the job's order
    /// By value, not by where they lie.
    bool operator==(const RunReads& other) const;
};

/// What the finding of a distribution or a bus reads.
class SystemReads {
public:
    [[nodiscard]] const Run* run(std::string_view id) const;
    /// What was measured lies there.
    [[nodiscard]] bool isMeasured(std::string_view id) const;
    bool operator==(const SystemReads& other) const;

private:
    friend class JobReads;
    struct Of {
        const Run* run = nullptr;
        bool measured = false;
    };
    std::map<std::string_view, Of> runs_;
};

/// Gives reads of a job, which must stay as it is meanwhile.
class JobReads {
public:
    explicit JobReads(const Job& job);
    [[nodiscard]] RunReads of(const Run& run) const;
    [[nodiscard]] SystemReads of(const Distribution& system) const;
    [[nodiscard]] SystemReads of(const BusChain& system) const;
    /// nullptr: the job has none of that id.
    [[nodiscard]] const Run* run(std::string_view id) const;

private:
    void add(SystemReads& out, const std::string& runId) const;

    const Job& job_;
    std::unordered_map<std::string_view, const Run*> runs_;
    std::unordered_map<std::string_view, std::vector<const Measurement*>> tests_; ///< by run
};

} // namespace burin
