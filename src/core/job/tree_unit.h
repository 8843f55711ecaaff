#pragma once
#include "core/describe/json_reader.h"
#include <optional>

namespace burin {

/// What stands at the end of a cable of a distribution.
enum class TreePart {
    Amplifier,
    Splitter,
    Tap,
    Multiswitch,
    Outlet,
    Pad,           ///< an attenuator: the same loss everywhere
    Equaliser,     ///< loses more at the bottom of the band, as cable does at its top
    DcBlock,       ///< lets no volts through
    SurgeArrester, ///< lets volts through
};
inline constexpr auto treePartWords =
    wordsOf<TreePart>("amplifier", "splitter", "tap", "multiswitch", "outlet", "pad", "equaliser",
                      "dc-block", "surge-arrester");

/// A part and its own figures.
struct TreeUnit {
    TreePart part = TreePart::Outlet;
    int ways = 2;         ///< splitter, multiswitch: its outputs
    double tapDb = 0;     ///< tap
    double throughDb = 0; ///< tap, multiswitch: loss to each output; pad, DC block, arrester: its
                          ///< loss; equaliser: its loss at the top of the band
    double gainDb = 0;    ///< amplifier
    double slopeDb = 0;   ///< amplifier: added at the top of the band; equaliser: its loss more at
                          ///< the bottom
    double noiseFigureDb = 5, ceilingDb = 105; ///< amplifier; ceiling in dBµV for one channel
    std::optional<double> returnGainDb;        ///< amplifier: none lets nothing back
    int terminators = 0;                       ///< on ports nothing hangs on
    std::optional<double> least, most;         ///< outlet: its own window, dBµV
    bool operator==(const TreeUnit&) const = default;

    /// How many cables may go on from it.
    [[nodiscard]] int ports() const;
};

/// A part's figures from and to the keys of docs/cli.md; asks only for those its kind has.
TreeUnit readUnit(JsonObject& in);
nlohmann::ordered_json toJson(const TreeUnit& unit);

} // namespace burin
