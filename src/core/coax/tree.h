#pragma once
#include "core/link/link.h"
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace burin {

/// What stands at the end of a cable of a distribution.
enum class TreePart { Amplifier, Splitter, Tap, Outlet };

/// One part with the cable that feeds it. `from` names the part before it, empty the head.
struct TreeNode {
    std::string id;
    std::string from;
    bool fromTap = false; ///< fed by the tap port of a tap, not by its way through
    LinkParts feed;       ///< cable, connections; no cable: they touch
    TreePart part = TreePart::Outlet;
    int ways = 2;                              ///< splitter
    double tapDb = 0, throughDb = 0;           ///< tap
    double gainDb = 0, slopeDb = 0;            ///< amplifier: slope is added at the top of the band
    double noiseFigureDb = 5, ceilingDb = 105; ///< amplifier; ceiling in dBµV for one channel
    std::optional<double> least, most;         ///< outlet: its own window, dBµV
};

/// A distribution from one head. Levels in dBµV over 75 Ω.
struct Tree {
    double levelDb = 0; ///< at the head, at the bottom of the band
    double slopeDb = 0; ///< added at the top of the band
    double fromMhz = 0, toMhz = 0;
    double least = 0, most = 0; ///< window of an outlet
    int channels = 40;          ///< carried at once: lowers an amplifier's ceiling
    std::vector<TreeNode> nodes;
};

struct TreePoint {
    std::string id;
    double lowDb = 0, highDb = 0;   ///< level at the bottom and top of the band, behind the part
    double leastDb = 0, mostDb = 0; ///< anywhere in it
    std::optional<double> carrierToNoiseDb; ///< worst of the band, behind an amplifier
    bool good = true;
    std::string reason; ///< what is wrong, a sentence; empty when good
};
struct TreeFinding {
    std::vector<TreePoint> points;        ///< in the order of the nodes
    std::vector<std::string> unusedPorts; ///< "S1: 2 of 4 ways open: put a terminator on each"
    bool good = true;
};

/// Levels at every part over `points` frequencies of the band. Refused, by name: two parts of one
/// id, a part fed by one that is not there, a loop, more parts on a splitter than it has ways,
/// anything behind an outlet, a band that does not rise. Splitter losses as splitterPart; an
/// amplifier's ceiling is 7.5·log(channels − 1) lower; noise of −174 dBm/Hz in 5 MHz and the noise
/// figure at each. Source: reference page section 3; IEC 60728.
Outcome<TreeFinding> findTree(const Tree& tree, const Catalogue& catalogue, int points = 60);

/// Isolation between two outlets at one frequency, dB: both ways to the splitter or tap they share,
/// and its isolation of about 22 dB between outputs.
Outcome<double> outletIsolationDb(const Tree& tree, const Catalogue& catalogue,
                                  const std::string& outletA, const std::string& outletB,
                                  double frequencyMhz);

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
