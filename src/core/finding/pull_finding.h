#pragma once
#include "core/base/sentence.h"
#include "core/finding/closing.h"
#include "core/pull/pull_way.h"
#include "core/pull/stock.h"

namespace burin {

/// One cable of a pull.
struct PulledRun {
    std::string runId;
    /// A box of the job, or "new-1" and so on for one that is still to be bought; empty: it is
    /// longer than any box.
    std::string boxId;
    double plannedM = 0;           ///< with what is left at its ends and cut off
    bool there = false;            ///< pulled, by its marks or because something was measured on it
    std::optional<double> pulledM; ///< by its marks
    /// Marks that lie at its two ends if it comes out as planned, or as they were typed; none where
    /// its box has no marks yet.
    std::optional<int> startMark, endMark;
};

enum class PullState { Planned, Begun, Pulled };
inline constexpr auto pullStateWords = wordsOf<PullState>("planned", "begun", "pulled");

/// Cables that go together.
struct PullFinding {
    std::string id;      ///< of the job's row; else told by the run it begins with
    bool byHand = false; ///< somebody put it together
    std::string day;     ///< it was put on
    std::vector<PulledRun> runs;
    PullState state = PullState::Planned;
    std::string closesOn, closesName; ///< the first that closes over it; empty: nothing does
    /// Force from either end, at its most: boxes at the near end of the runs, and at the far end.
    std::optional<double> nearN, farN;
    std::optional<double> limitN;    ///< none: a cable's own sheet says
    BoxesAt boxesAt = BoxesAt::Near; ///< as chosen: Near or Far
    Grip grip = Grip::OverAll;
    bool lubricated = false;
    std::vector<PullPart> way; ///< from where the boxes stand
    PullGroup group;
    std::vector<BreakPoint> breaks;
    std::optional<double> brokenN; ///< the most with it broken there
    std::vector<std::string> noWeight,
        noLimit; ///< names of cables whose figure only their sheet has
    std::size_t bushings = 0;
    double lengthM = 0; ///< of its longest cable

    [[nodiscard]] const PulledRun* run(std::string_view runId) const;
    /// Whether it goes as it is: broken where it says.
    [[nodiscard]] bool overLimit() const;
};

/// A run that nothing is planned for, and why.
struct NotPulled {
    enum class Why { NoLength, NoCable, TooLong, TwoCables };
    std::string runId;
    Why why = Why::NoLength;
};

/// A box of the job, or one that is to be bought.
struct PullBox {
    std::string id;
    std::string name, cableId, colour;
    bool isNew = false;
    double heldM = 0;
    double leftM = 0;      ///< now
    double leftAfterM = 0; ///< when everything planned is pulled
    bool scrap = false;    ///< that rest is of no use
    int freeMark = 0;
    std::vector<BoxPiece> pulled;
    struct Planned {
        std::string runId;
        double lengthM = 0;
    };
    std::vector<Planned> planned; ///< in the order it is pulled
};

/// How everything that is not yet pulled will be.
struct PullPlan {
    std::vector<PullFinding> pulls; ///< in the order they are pulled; those done first
    std::vector<PullBox> boxes;     ///< of the job, then the new ones
    std::vector<NotPulled> left;
    std::size_t opened = 0, lowerBound = 0;
    double scrapM = 0;
    [[nodiscard]] bool provenLeast() const { return opened == lowerBound; }
    /// How many runs are pulled.
    [[nodiscard]] std::size_t there() const;
    [[nodiscard]] const PullFinding* pullOf(std::string_view runId) const;
    [[nodiscard]] const PullBox* box(std::string_view id) const;
};

/// Plans the pulls of a job. What is pulled stands; what somebody put together stays together; the
/// rest is grouped by its ways and given boxes. `job` is as kept, not as laid. Pure.
PullPlan planPulls(const Job& job, const Catalogue& catalogue, const SitePlan& site);
/// With what will be closed, where that is known already.
PullPlan planPulls(const Job& job, const Catalogue& catalogue, const SitePlan& site,
                   const std::vector<Closing>& closings);

/// What is pulled for a run: its way with everything that is left and cut off, or what was typed
/// and what is cut off; none: nobody knows.
std::optional<double> plannedPullM(const JobInfo& info, const Run& run, const SitePlan& site);

/// What the place is called where the boxes of a pull stand: a place of the plan, without a port.
std::string boxesStandAt(const PullFinding& pull, const Job& job);

/// What is to be seen to while it is pulled, cautions first.
struct PullNote {
    bool caution = false;
    Sentence what;
};
std::vector<PullNote> pullNotes(const PullFinding& pull, const Job& job, const SitePlan& site);

/// How the force came about, and why these go together.
Working pullWorking(const PullFinding& pull, const Job& job);
/// Why so many boxes.
Working boxesWorking(const PullPlan& plan, const Job& job);

} // namespace burin
