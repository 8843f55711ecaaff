#pragma once
#include "core/job/tree_unit.h"
#include "core/link/link.h"
#include <functional>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// One part with the cable that feeds it. `from` names the part before it, empty the head.
struct TreeNode {
    std::string id;
    std::string from;
    bool fromTap = false; ///< fed by the tap port of a tap, not by its way through
    LinkParts feed;       ///< cable, connections; no cable: they touch
    bool pulled = false;  ///< its cable lies already: another has to be pulled anew
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
    double bandwidthMhz = 5;    ///< in which noise is counted
    std::optional<double> sourceCarrierToNoiseDb; ///< at the head; none: thermal noise alone
    std::optional<double> leastCarrierToNoiseDb;  ///< wanted at an outlet
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
    double carrierToNoiseDb = 0;    ///< worst of the band, behind the part
    std::optional<double> returnLossDb; ///< outlet: back to the head, worst of the return band
    bool good = true;
    Sentence reason; ///< what is wrong; empty when good
};
struct TreeFinding {
    std::vector<TreePoint> points;     ///< in the order of the nodes
    std::vector<Sentence> unusedPorts; ///< "S1: 2 of 4 ports open; put a terminator on each"
    std::vector<Sentence> problems;    ///< of the head, or of outlets towards one another
    bool good = true;
};

/// Levels at every part over `points` frequencies of the band. Refused, by name: two parts of one
/// id, a part fed by one that is not there, a loop, more parts on a splitter than it has ways,
/// anything behind an outlet, a band that does not rise. Splitter losses as splitterPart; an
/// amplifier's ceiling is 7.5·log(channels − 1) lower. Noise starts at the head with what the
/// source brings, never under kTB (−174 dBm/Hz in the bandwidth), and cascades by Friis: a part of
/// gain g and noise factor F turns N into g·(N + (F − 1)·kTB), a passive one of loss 1/g has F =
/// 1/g. The way back runs through the same parts, through an amplifier only where it has a return
/// gain. Source: reference page section 3; IEC 60728; Friis 1944.
Outcome<TreeFinding> findTree(const Tree& tree, const Catalogue& catalogue, int points = 60);

/// Isolation between two outlets at one frequency, dB: both ways to the part they share, and its
/// own isolation: about 22 dB between outputs of a splitter; of a directional tap its value and 10
/// dB (its coupler's directivity), 30 dB from the port of a 20 dB tap to its way through.
Outcome<double> outletIsolationDb(const Tree& tree, const Catalogue& catalogue,
                                  const std::string& outletA, const std::string& outletB,
                                  double frequencyMhz);

inline constexpr double equaliserTopDb = 1; ///< what an equaliser loses even at the top
inline constexpr double blockLossDb = 0.5;  ///< of a DC block or an arrester

/// Through loss of a tap by its value: the less it takes off, the less the way on loses.
double tapThroughDb(double tapDb);

/// One thing done to a tree.
struct TreeChange {
    enum class Kind {
        Tap,       ///< the tap `at` gets the value `db`
        Pad,       ///< of `db`, ahead of `at`
        Equaliser, ///< of `slopeDb`, ahead of `at`
        Amplifier, ///< of `db` and `slopeDb`, ahead of `at`; with a way back where the tree has one
        Cable,     ///< `cableId` with `connections` in place of the cable that feeds `at`
    };
    Kind kind = Kind::Pad;
    std::string at;
    double db = 0, slopeDb = 0;
    bool nearEnd = false; ///< at the near end of the cable that feeds `at`, not at its far end
    std::string cableId;
    std::vector<std::string> connections;
    bool operator==(const TreeChange&) const = default;
};
/// The tree with the change made. A part that is put in has the id "+" and the part it stands ahead
/// of. `change.at` must be in the tree.
Tree changed(const Tree& tree, const TreeChange& change, const Catalogue& catalogue);
/// The unit a change puts in; none for taps and cables.
std::optional<TreeUnit> unitOf(const TreeChange& change, bool returnPath);

/// What brings every outlet into its window.
struct TreeProposal {
    bool possible = false;
    Sentence reason; ///< why it is not, or what to do
    std::vector<TreeChange> changes;
    Cost cost;
};
/// True where a changed tree is good in what findTree does not see: the volts at a satellite head.
using TreeJudge = std::function<bool(const Tree&)>;

/// The cheapest changes after which the whole tree is good, by the catalogue's costs, found by
/// putting them in place: nothing or one change that many outlets share (an amplifier at any place,
/// other tap values with or without it, a pad, an equaliser or another cable), and for each outlet
/// that is then still wrong a pad, an equaliser, both, an amplifier or another cable of its own.
/// Pads of 3, 6, 10, 12, 16 and 20 dB, equalisers of 3 to 18 in steps of 3, amplifiers to the half
/// decibel where their input is still 60 dBµV and their output under the ceiling.
Outcome<TreeProposal> proposeTree(const Tree& tree, const Catalogue& catalogue,
                                  const TreeJudge& judge = {});

} // namespace burin
