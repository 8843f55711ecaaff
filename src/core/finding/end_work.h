#pragma once
#include "core/finding/run_finding.h"
#include "core/finding/tool_finding.h"

namespace burin {

/// How far an end is.
enum class EndState {
    ToMake,
    Again,      ///< made, and to be made once more: a test or a check of it failed since
    Unrecorded, ///< its run was measured, so it is made: nobody said by whom
    Made
};
inline constexpr auto endStateWords =
    wordsOf<EndState>("to-make", "again", "made-unrecorded", "made");

/// One end that the job wants made.
struct EndWork {
    std::string runId;
    End end = End::Near;
    EndState state = EndState::ToMake;
    std::string terminationId; ///< what was made of it last and not cut off; empty: nothing
    std::size_t spoiled = 0;   ///< tries cut off, and ends that were made again
    bool blunt = false;        ///< made with blades that were overdue
    /// Proofs of its card that nobody has seen or measured; none where the whole run is proven.
    std::vector<std::string> unchecked;
    std::vector<Sentence> said; ///< why it is to be made again, and what speaks against it
    double minutes = 0;         ///< that it still takes
    [[nodiscard]] bool isLeft() const {
        return state == EndState::ToMake || state == EndState::Again;
    }
};

/// Where one stands making ends: a panel or a block, or a room with its outlets.
struct EndPlace {
    std::string placeId; ///< of a panel, block or shelf
    std::string roomId;  ///< of a room; neither: ends that are not on the plan
    std::string name;
    std::vector<EndWork> ends; ///< by port, else by run
    [[nodiscard]] std::size_t left() const;
};

/// All ends of a job.
struct EndPlan {
    std::vector<EndPlace> places;   ///< heads first, then rooms in their order
    std::vector<ToolFinding> tools; ///< where a day was named
    [[nodiscard]] std::size_t wanted() const;
    [[nodiscard]] std::size_t made() const;
    /// nullptr: nothing is to be made there.
    [[nodiscard]] const EndWork* find(std::string_view runId, End end) const;
};

/// What of its ends a job has still to make. `runs` are its findings, in the order of its runs; run
/// by run they may be missing at the end. An end comes back where a test that was entered after it
/// was made fails by what ends do (wiring, crosstalk, return loss, resistance) and nothing shows
/// that the fault lies elsewhere: the cable would not do by its prediction, or a tester showed a
/// length that ends on the way. Loss alone is not laid to the ends. A run that is left coiled has
/// none to make.
EndPlan findEndPlan(const Job& job, const Catalogue& catalogue, const std::vector<RunFinding>& runs,
                    const std::string& today);

/// Spoiled ends of that connector to each good one so far; none: fewer than 20 in all.
std::optional<double> spoiledShare(const Job& job, std::string_view connectionId);

} // namespace burin
