#include "core/connector/pins.h"
#include <algorithm>
#include <array>

namespace burin {
namespace {

constexpr std::size_t ways = 8;
using Wires = std::array<std::string_view, ways>;
constexpr Wires t568a{"white-green", "green",  "white-orange", "blue",
                      "white-blue",  "orange", "white-brown",  "brown"};
/// Orange and green change places.
constexpr Wires t568b{"white-orange", "orange", "white-green", "blue",
                      "white-blue",   "green",  "white-brown", "brown"};
/// Pairs of the eight-way jack, by pin.
constexpr std::array<std::string_view, ways> pairOfPin{"1-2", "1-2", "3-6", "4-5",
                                                       "4-5", "3-6", "7-8", "7-8"};
using Joins = std::array<int, ways>; ///< pin joined to each of 1 to 8; 0: none
/// 1↔3, 2↔6, and for 1 Gbit/s 4↔7, 5↔8.
constexpr Joins crossover{3, 6, 1, 7, 8, 2, 4, 5};
/// 1↔4, 2↔5.
constexpr Joins leasedCrossover{4, 5, 0, 1, 2, 0, 0, 0};
/// 1–3, 2–6, 4–7, 5–8.
constexpr Joins loopback{3, 6, 1, 7, 8, 2, 4, 5};
/// 1–4, 2–5.
constexpr Joins leasedLoopback{4, 5, 0, 1, 2, 0, 0, 0};

constexpr std::array<std::string_view, 5> tips{"white", "red", "black", "yellow", "violet"};
constexpr std::array<std::string_view, 5> rings{"blue", "orange", "green", "brown", "slate"};

std::vector<PinRow> jack(const Wires& wires, const std::vector<std::string_view>& pairs = {}) {
    std::vector<PinRow> out;
    for (std::size_t i = 0; i < ways; ++i) {
        const bool used =
            pairs.empty() || std::find(pairs.begin(), pairs.end(), pairOfPin[i]) != pairs.end();
        out.push_back({std::to_string(i + 1),
                       used ? std::string(wires[i]) : std::string(),
                       std::string(pairOfPin[i]),
                       {}});
    }
    return out;
}
std::vector<PinRow> joined(const Joins& joins) {
    std::vector<PinRow> out;
    for (std::size_t i = 0; i < ways; ++i)
        out.push_back({std::to_string(i + 1),
                       {},
                       std::string(pairOfPin[i]),
                       joins[i] == 0 ? std::string() : std::to_string(joins[i])});
    return out;
}
/// Pairs in the order of the colours, tip before ring; the first so many.
std::vector<PinRow> binder(std::size_t pairs) {
    std::vector<PinRow> out;
    const auto wire = [](std::string_view first, std::string_view second) {
        std::string text(first);
        return text.append("-").append(second);
    };
    for (std::size_t pair = 0; pair < pairs; ++pair) {
        const std::string_view tip = tips[pair / rings.size()];
        const std::string_view ring = rings[pair % rings.size()];
        const std::string number = std::to_string(pair + 1);
        out.push_back({std::to_string(2 * pair + 1), wire(tip, ring), number, {}});
        out.push_back({std::to_string(2 * pair + 2),
                       pairs > rings.size() ? wire(ring, tip) : std::string(ring),
                       number,
                       {}});
    }
    return out;
}

} // namespace

std::vector<PinRow> pinsOf(Wiring wiring) {
    constexpr std::size_t aBlock = 4, aBinder = 25;
    switch (wiring) {
    case Wiring::T568A:
        return jack(t568a);
    case Wiring::T568B:
        return jack(t568b);
    case Wiring::Voice:
        return jack(t568b, {"4-5"});
    case Wiring::Leased:
        return jack(t568b, {"1-2", "4-5"});
    case Wiring::Crossover:
        return joined(crossover);
    case Wiring::LeasedCrossover:
        return joined(leasedCrossover);
    case Wiring::Loopback:
        return joined(loopback);
    case Wiring::LeasedLoopback:
        return joined(leasedLoopback);
    case Wiring::Block110:
    case Wiring::Block66:
        return binder(aBlock);
    case Wiring::Pairs25:
        return binder(aBinder);
    case Wiring::Bus:
        return {{"A", "", "A-B", {}}, {"B", "", "A-B", {}}, {"common", "", "", {}}};
    }
    return {};
}

std::optional<Wiring> wiringAt(const Connection& connection, bool orderA) {
    if (!connection.fit || connection.kind != CableKind::Balanced)
        return std::nullopt;
    const std::string& series = connection.fit->series;
    if (series == "jack" || series == "plug" || series == "screened interface")
        return orderA ? Wiring::T568A : Wiring::T568B;
    if (series == "block")
        return Wiring::Block110;
    return std::nullopt;
}

} // namespace burin
