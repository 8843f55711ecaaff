#pragma once
#include "core/base/sentence.h"
#include "core/finding/closing.h"
#include "core/finding/end_work.h"
#include "core/finding/pull_finding.h"

namespace burin {

/// A piece of work on a day.
struct DayWork {
    enum class What { Pull, Ends, Photographs, Tests };
    What what = What::Pull;
    std::string pullId;
    std::vector<std::string> runIds;
    double minutes = 0;               ///< of the whole crew
    std::string closesOn, closesName; ///< what closes over it; empty: nothing
};
inline constexpr auto dayWorkWords = wordsOf<DayWork::What>("pull", "ends", "photographs", "tests");

struct WorkDay {
    std::string date;
    double minutes = 0, mostMinutes = 0;
    std::vector<DayWork> work;
};

/// Something that will not be done before it closes, and what would do: each was laid out and
/// computed.
struct LateWork {
    std::string closesOn, closesName, doneOn;
    std::vector<Sentence> cures;
};

/// How fast a job goes by its own days: the minutes there were to those that the plain figures ask
/// for what was pulled, ended and tested. A day of which less than half is accounted for says
/// nothing, nor does today; fewer than three days say nothing at all.
struct WorkPace {
    double factor = 1; ///< that the plain minutes are taken by; 1 where nothing is known
    int days = 0;      ///< it was told from
    Sentence said;     ///< empty: nothing is known
};

/// Work laid on days, Monday to Friday.
struct DayPlan {
    WorkPace pace;
    std::vector<WorkDay> days;
    std::vector<LateWork> late;
    std::string doneOn; ///< the last day; empty: nothing is left
};

/// Lays what is still to do on days, from `today` or the job's start, whichever is later: pulls in
/// their order, each followed by its ends, and behind what closes its photographs and tests at
/// once; other tests when all is pulled. Minutes are the plain ones, by the job's own pace. Ends,
/// photographs and tests are shared out among the crew. What closes is to be done on a day before
/// that; `closings` say what is still to photograph. Refused: a date that is none.
Outcome<DayPlan> planDays(const Job& job, const Catalogue& catalogue, const PullPlan& plan,
                          const EndPlan& ends, const std::vector<Closing>& closings,
                          const std::string& today);

} // namespace burin
