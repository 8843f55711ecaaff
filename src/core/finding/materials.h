#pragma once
#include "core/finding/end_work.h"
#include "core/finding/pull_finding.h"

namespace burin {

/// One line of what a job takes.
struct MaterialLine {
    enum class Of { Cable, End, Cord, Port, Hook, Bushing, Tape, Label, Lubricant, FireStop };
    Of of = Of::Cable;
    std::string id;      ///< of the catalogue or the plan, where it has one
    Sentence name;       ///< in the trade's words
    bool metres = false; ///< counted in metres; else in pieces
    double needed = 0;   ///< without waste
    double waste = 0;
    double atHand = 0;
    double toBuy = 0;
    std::size_t boxes = 0;       ///< cable: new boxes that are
    std::optional<double> price; ///< of what is to buy, in the job's currency; none: not known
    Sentence note;
};
inline constexpr auto materialWords = wordsOf<MaterialLine::Of>(
    "cable", "end", "cord", "port", "hook", "bushing", "tape", "label", "lubricant", "fire-stop");

/// What is still to be bought for a job: cable for what is not pulled, connectors of the ends that
/// are left, cords of runs that nothing was measured on, and what the ways want. Waste by what the
/// job itself spoiled of such ends, once it made 20, else by the catalogue's shares (work.json).
std::vector<MaterialLine> findMaterials(const Job& job, const Catalogue& catalogue,
                                        const SitePlan& site, const PullPlan& plan,
                                        const EndPlan& ends);
/// With a head line; commas and quotes in names are quoted (RFC 4180).
std::string materialsCsv(const std::vector<MaterialLine>& lines, const std::string& currency);

} // namespace burin
