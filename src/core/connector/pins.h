#pragma once
#include "core/catalogue/catalogue.h"
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// How wires are laid to pins or slots, or pins to pins.
enum class Wiring {
    T568A,
    T568B,
    Voice,     ///< one pair on 4-5
    Leased,    ///< two pairs on 1-2 and 4-5
    Crossover, ///< cord: transmit to receive, all four pairs
    LeasedCrossover,
    Loopback, ///< plug, 100 Mbit/s and 1 Gbit/s
    LeasedLoopback,
    Block110, ///< four pairs, from the left
    Block66,
    Pairs25, ///< a binder of 25 pairs
    Bus      ///< two wires and their common
};
inline constexpr auto wiringWords =
    wordsOf<Wiring>("T568A", "T568B", "voice", "leased", "crossover", "leased-crossover",
                    "loopback", "leased-loopback", "block110", "block66", "pairs25", "bus");

/// One pin, slot or terminal, in the order they are counted.
struct PinRow {
    std::string pin;  ///< "1"; "A" of a bus
    std::string wire; ///< colour named: "white-orange"; empty: none is laid there
    std::string pair; ///< "1-2": the pins of its pair; of blocks and binders the pair's number
    std::string to;   ///< of a cord or plug: the pin it is joined to; empty: to none
};
/// Source: ANSI/TIA-568 (T568A, T568B), IEEE 802.3 (crossover of four pairs), the usual 25-pair
/// colour code; reference page section 13.
std::vector<PinRow> pinsOf(Wiring wiring);

/// The order of the wires in such a connector: that of the job, T568A or T568B; none: it has none.
std::optional<Wiring> wiringAt(const Connection& connection, bool orderA);

} // namespace burin
