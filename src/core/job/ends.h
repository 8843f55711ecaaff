#pragma once
#include "core/describe/words.h"
#include <optional>
#include <string>
#include <vector>

namespace burin {

enum class End { Near, Far, Inline };
inline constexpr auto endWords = wordsOf<End>("near", "far", "inline");

/// What ends are made with.
enum class ToolKind { Cutter, Stripper, Compression, Crimp, PunchDown, Iron, Other };
inline constexpr auto toolKindWords =
    wordsOf<ToolKind>("cutter", "stripper", "compression", "crimp", "punch-down", "iron", "other");
[[nodiscard]] constexpr bool strips(ToolKind kind) {
    return kind == ToolKind::Cutter || kind == ToolKind::Stripper;
}
[[nodiscard]] constexpr bool hasBlades(ToolKind kind) {
    return strips(kind) || kind == ToolKind::PunchDown;
}
[[nodiscard]] constexpr bool hasGauge(ToolKind kind) {
    return kind == ToolKind::Crimp || kind == ToolKind::Compression;
}

/// A tool of this job. Its blades go blunt by days and by ends, whichever comes first; one that
/// closes connectors is held against its gauge once in a while.
struct HandTool {
    std::string id;
    std::string name; ///< "stripper 1"
    ToolKind kind = ToolKind::Stripper;
    std::vector<std::string> bladesOn{}; ///< days that new blades went in: "2026-09-02"
    int bladeDays = 90, bladeEnds = 300; ///< that blades last
    std::vector<std::string> gaugedOn{}; ///< days it was held against its gauge, and good
    int gaugeDays = 365;
    bool gone = false; ///< lost, worn out or lent: no end is made with it any more
    int order = 0;
    std::string note{};
    bool operator==(const HandTool&) const = default;
};

/// What was found of one of the proofs of an end's card.
struct EndCheck {
    std::string proofId;
    std::optional<double> mm; ///< where it is measured
    bool good = true;         ///< where it is seen
    bool operator==(const EndCheck&) const = default;
};

/// One time that somebody made an end, or spoiled it. What was made last stands; a row stays when
/// the end is made again, so that nobody has to remember with which blades.
struct Termination {
    std::string id;
    std::string runId;
    End end = End::Near;
    std::string connectionId; ///< that went on; empty: nobody said
    std::string madeOn;       ///< "2026-11-26"
    std::string madeBy;       ///< "second fixer"
    std::string stripToolId;  ///< that cut and stripped it; empty: nobody said
    std::string closeToolId;  ///< that crimped, pressed, punched or soldered it
    bool spoiled = false;     ///< cut off again
    int entry = 0;            ///< which of the job it is, from 1: the later one stands
    int tests = 0;            ///< entry of the last measurement there was when it was made
    std::string photographId{};
    std::vector<EndCheck> checks{};
    std::string note{};
    bool operator==(const Termination&) const = default;
};

/// How an end is made by the part's own sheet, over what the catalogue has. `json` is in the form
/// of a card in terminations.json, its sources in words.
struct UserCard {
    std::string id;
    std::string json;
    bool operator==(const UserCard&) const = default;
};

} // namespace burin
