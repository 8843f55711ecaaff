#pragma once
#include "core/link/link.h"
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// What stands at the end of a cable of a distribution.
enum class TreePart { Amplifier, Splitter, Tap, Multiswitch, Outlet };
std::string_view treePartKey(TreePart part); ///< "amplifier"
std::optional<TreePart> treePartFromKey(std::string_view key);

/// A part and its own figures.
struct TreeUnit {
    TreePart part = TreePart::Outlet;
    int ways = 2;                              ///< splitter, multiswitch: its outputs
    double tapDb = 0;                          ///< tap
    double throughDb = 0;                      ///< tap; multiswitch: loss to each output
    double gainDb = 0, slopeDb = 0;            ///< amplifier: slope is added at the top of the band
    double noiseFigureDb = 5, ceilingDb = 105; ///< amplifier; ceiling in dBµV for one channel
    std::optional<double> returnGainDb;        ///< amplifier: none lets nothing back
    int terminators = 0;                       ///< on ports nothing hangs on
    std::optional<double> least, most;         ///< outlet: its own window, dBµV
    bool operator==(const TreeUnit&) const = default;

    /// How many cables may go on from it.
    [[nodiscard]] int ports() const;
};

/// One part with the cable that feeds it. `from` names the part before it, empty the head.
struct TreeNode {
    std::string id;
    std::string from;
    bool fromTap = false; ///< fed by the tap port of a tap, not by its way through
    LinkParts feed;       ///< cable, connections; no cable: they touch
    TreeUnit unit;
};

/// What the outlets send back to the head.
struct ReturnPath {
    double fromMhz = 5, toMhz = 85;
    double mostLossDb = 40; ///< so that a modem's 50 dBmV still arrives
};

/// A distribution from one head. Levels in dBµV over 75 Ω.
struct Tree {
    double levelDb = 0; ///< at the head, at the bottom of the band
    double slopeDb = 0; ///< added at the top of the band
    double fromMhz = 0, toMhz = 0;
    double least = 0, most = 0; ///< window of an outlet
    int channels = 40;          ///< carried at once: lowers an amplifier's ceiling
    std::optional<ReturnPath> returnPath;
    /// Satellite: volts and tone of one receiver choose what its output carries, so none is shared.
    bool oneReceiverACable = false;
    int headOutputs = 0;                 ///< 0: as many as are used
    std::optional<double> mostBetweenDb; ///< loss allowed between any two outlets
    std::vector<TreeNode> nodes;
};

struct TreePoint {
    std::string id;
    double lowDb = 0, highDb = 0;   ///< level at the bottom and top of the band, behind the part
    double leastDb = 0, mostDb = 0; ///< anywhere in it
    std::optional<double> carrierToNoiseDb; ///< worst of the band, behind an amplifier
    std::optional<double> returnLossDb;     ///< outlet: back to the head, worst of the return band
    bool good = true;
    std::string reason; ///< what is wrong, a sentence; empty when good
};
struct TreeFinding {
    std::vector<TreePoint> points;        ///< in the order of the nodes
    std::vector<std::string> unusedPorts; ///< "S1: 2 of 4 ports open; put a terminator on each"
    std::vector<std::string> problems;    ///< of the head, or of outlets towards one another
    bool good = true;
};

/// Levels at every part over `points` frequencies of the band. Refused, by name: two parts of one
/// id, a part fed by one that is not there, a loop, more parts on a splitter than it has ways,
/// anything behind an outlet, a band that does not rise. Splitter losses as splitterPart; an
/// amplifier's ceiling is 7.5·log(channels − 1) lower; noise of −174 dBm/Hz in 5 MHz and the noise
/// figure at each. The way back runs through the same parts, through an amplifier only where it has
/// a return gain. Source: reference page section 3; IEC 60728.
Outcome<TreeFinding> findTree(const Tree& tree, const Catalogue& catalogue, int points = 60);

/// Isolation between two outlets at one frequency, dB: both ways to the splitter or tap they share,
/// and its isolation of about 22 dB between outputs.
Outcome<double> outletIsolationDb(const Tree& tree, const Catalogue& catalogue,
                                  const std::string& outletA, const std::string& outletB,
                                  double frequencyMhz);

/// Through loss of a tap by its value: the less it takes off, the less the way on loses.
double tapThroughDb(double tapDb);

/// What brings every outlet into its window.
struct TreeProposal {
    bool possible = false;
    std::string reason; ///< why it is not, or what to do, a sentence
    std::string before; ///< the part an amplifier belongs ahead of; empty: none is wanted
    double gainDb = 0, slopeDb = 0;
    std::vector<std::pair<std::string, double>> tapDb; ///< new tap values
};
/// Tap values from the head outward (6 to 30 dB, in steps of 2 or 3, through loss 4 to 1 dB as the
/// value rises), then one amplifier where its input is still 60 dBµV and its output under the
/// ceiling.
Outcome<TreeProposal> proposeTree(const Tree& tree, const Catalogue& catalogue);

} // namespace burin
