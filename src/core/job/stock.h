#pragma once
#include "core/describe/words.h"
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// What cable comes in.
enum class BoxKind { Box, Reel };
inline constexpr auto boxKindWords = wordsOf<BoxKind>("box", "reel");

enum class MarkUnit { Feet, Metres };
inline constexpr auto markUnitWords = wordsOf<MarkUnit>("ft", "m");

/// A box or reel of cable at hand, with what is printed on its cable. What is left in it is told by
/// the marks of what was pulled from it (core/pull/stock.h).
struct Box {
    std::string id;
    std::string name; ///< "A1"
    std::string cableId;
    BoxKind kind = BoxKind::Box;
    std::string colour;                 ///< of the jacket
    double heldM = 305;                 ///< what it held when it came
    MarkUnit markUnit = MarkUnit::Feet; ///< that its marks are printed in
    double spacing = 2;                 ///< between marks, in that unit
    bool countsUp = true;               ///< marks rise as cable comes out
    int freeMark = 0;                   ///< the one at its free end when it came
    bool gone = false;                  ///< used up, thrown away or elsewhere: nothing more comes
    int order = 0;
    std::string note{};
    bool operator==(const Box&) const = default;
};

/// Which end of a pull its boxes stand at.
enum class BoxesAt { Best, Near, Far };
inline constexpr auto boxesAtWords = wordsOf<BoxesAt>("best", "near", "far");

/// How cables that are pulled together are held.
enum class Grip { OverAll, ByOne };
inline constexpr auto gripWords = wordsOf<Grip>("over-all", "by-one");

/// Cables that somebody put together to be pulled at once, or pulled so. Which they are is told by
/// their `pullId`; what nobody put together is grouped by the plan of pulls.
struct Pull {
    std::string id;
    int order = 0; ///< those that were put together by hand are pulled in this order
    BoxesAt boxesAt = BoxesAt::Best;
    Grip grip = Grip::OverAll;
    bool lubricated = false;
    std::string day; ///< it was put on; empty: as it comes
    std::string note{};
    bool operator==(const Pull&) const = default;
};

/// What of a run was pulled. Marks as printed on its jacket; with both of them its length is known.
struct PulledPiece {
    std::string boxId; ///< where it comes from; empty: as it is planned
    std::optional<int> startMark, endMark;
    std::optional<double> cutM; ///< cut off it at both ends together; none: as the job has it
    std::string pulledOn;       ///< "2026-11-26"
    std::string tonedOn{};      ///< the day a tone told which cable it is; empty: none did
    bool operator==(const PulledPiece&) const = default;
    [[nodiscard]] bool isPulled() const { return startMark && endMark && !boxId.empty(); }
};

/// Numbers on both ends while pulling, or none and told apart by tone and probe afterwards.
enum class MarkingSchool { NumberBoth, ToneAndProbe };
inline constexpr auto markingSchoolWords = wordsOf<MarkingSchool>("number-both", "tone-and-probe");

/// The colour of jacket that a kind of run is to have.
struct JacketColour {
    std::string kindId; ///< of catalogue/site.json's kinds: "data"
    std::string colour;
    bool operator==(const JacketColour&) const = default;
};

/// How this job pulls.
struct PullRules {
    MarkingSchool marking = MarkingSchool::NumberBoth;
    int atOnce = 6;       ///< most cables pulled together
    double newBoxM = 305; ///< what a new box holds
    double scrapM = 15;   ///< a rest shorter than this is of no use
    double cutM = 0.3;    ///< cut off at each end when it is made
    double dragN = 5;     ///< of each box or reel that turns
    int crew = 2;         ///< people
    double hoursADay = 8; ///< of work, without breaks
    std::string startsOn; ///< "2026-11-24"; empty: not settled
    std::vector<JacketColour> colours{};
    bool operator==(const PullRules&) const = default;
};

} // namespace burin
