#pragma once
#include "core/job/job.h"
#include "core/measure/judge.h"

namespace burin {

enum class PairState { Whole, Open, Short, Reversed, Crossed };

struct PairFinding {
    std::string pair; ///< "4-5"
    PairState state = PairState::Whole;
    Sentence said;         ///< "5 open", "4 and 5 touch", "4-5 lands on 3-6"
    bool bothOpen = false; ///< of an open pair: neither conductor goes through
    bool operator==(const PairFinding&) const = default;
};

/// What eight pins and a shield say. Split pairs, loss and noise cannot be seen this way.
struct WireFinding {
    std::vector<PairFinding> pairs; ///< in the order 4-5, 3-6, 1-2, 7-8
    std::optional<bool> shieldWhole;
    [[nodiscard]] bool whole() const;
    /// Whole over the pairs a service uses.
    [[nodiscard]] bool wholeFor(const std::vector<std::string>& pinPairs) const;
    [[nodiscard]] Sentence firstFault() const; ///< every fault of it; empty when whole
    bool operator==(const WireFinding&) const = default;
};
WireFinding readWireMap(const WireMap& map);

/// Reads what was typed for pins 1 to 8 in order: the far pin's digit, `-` open; pins
/// typed with the same letter a–d touch each other. Blanks are skipped; a ninth
/// sign is the shield, `s` whole or `-` open. "1 2 3 6 4 5 7 8 s", "1234-678", "aa345678".
Outcome<WireMap> parseWireMap(std::string_view text);
/// The text parseWireMap reads back.
std::string wireMapText(const WireMap& map);

} // namespace burin
