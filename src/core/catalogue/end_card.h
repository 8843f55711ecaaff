#pragma once
#include "core/base/fault.h"
#include "core/describe/words.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace burin {

struct Cable;
struct Catalogue;

/// Where a length of an end is measured from.
enum class Datum { CutEnd, JacketEdge, BraidEdge, NutFace, PostFace, Slot };
inline constexpr auto datumWords =
    wordsOf<Datum>("cut-end", "jacket-edge", "braid-edge", "nut-face", "post-face", "slot");
/// "from the cut end".
std::string_view datumText(Datum datum);

/// What a length of an end is of.
enum class CutOf { Centre, Dielectric, Braid, Jacket, Untwist, Conductors };
inline constexpr auto cutOfWords =
    wordsOf<CutOf>("centre", "dielectric", "braid", "jacket", "untwist", "conductors");

/// A length that is cut. Without figures the part's own sheet says: nothing is guessed.
struct CardCut {
    CutOf of = CutOf::Centre;
    std::string name;                      ///< "centre bare"
    std::optional<double> leastMm, mostMm; ///< the same: that long
    Datum from = Datum::CutEnd;
    bool folded = false; ///< braid: back over the jacket, else bare before it
    std::string source;  ///< of its figures; empty where there are none
    bool operator==(const CardCut&) const = default;
};
/// What shows that an end is good, seen or measured.
struct CardProof {
    std::string id;
    std::string what;                      ///< "pin beyond the nut's face"
    std::optional<double> leastMm, mostMm; ///< where it is measured; neither: it is seen
    std::string source;
    bool operator==(const CardProof&) const = default;
    [[nodiscard]] bool isMeasured() const { return leastMm || mostMm; }
    [[nodiscard]] bool takes(double mm) const {
        return (!leastMm || mm >= *leastMm) && (!mostMm || mm <= *mostMm);
    }
};
/// Something that hands do in more ways than one.
struct CardSchool {
    std::string what;
    std::vector<std::string> ways;
    bool operator==(const CardSchool&) const = default;
};

/// How one end is made: of a family of connectors on a class of cable.
struct EndCard {
    std::string id, name;
    std::vector<std::string> connectionIds;
    /// The cables it is for, of those that the connector fits; nothing set: all of them.
    std::optional<int> shields;                     ///< layers of them
    std::optional<bool> corrugated;                 ///< its outer conductor
    std::optional<double> jacketFromMm, jacketToMm; ///< diameter over the jacket
    std::vector<std::string> first;                 ///< goes on the cable before anything is cut
    std::vector<CardCut> cuts;
    std::vector<std::string> steps;
    std::vector<CardProof> proofs;
    std::vector<CardSchool> schools;
    std::vector<std::string> tools, cautions;
    std::string die; ///< how its size is found; empty: nothing is crimped
    bool operator==(const EndCard&) const = default;

    [[nodiscard]] bool isFor(const Cable& cable) const;
};

/// Reads terminations.json: an unknown key, a missing one, a length that has a figure and no source
/// or a source and no figure, least above most, an id twice is refused by its path.
Outcome<std::vector<EndCard>> readEndCards(std::string_view text, const std::string& where);
/// One card in the same form, by itself; its sources are words of their own.
Outcome<EndCard> readEndCard(std::string_view text, const std::string& where);
/// That form. A length with one figure is "mm".
std::string toText(const EndCard& card);
/// Refused: a card names a connection that there is not.
Outcome<bool> checkCards(const std::vector<EndCard>& cards, const Catalogue& catalogue);

} // namespace burin
