#pragma once
#include "core/base/working.h"
#include "core/link/link.h"
#include <string>
#include <vector>

namespace burin {

/// A connector for one end of a cable.
struct FitQuestion {
    const Cable* cable = nullptr;
    const Connection* connection = nullptr;
    double topMhz = 0;     ///< highest frequency it must carry
    bool outdoors = false; ///< where weather reaches it
};
enum class FitOf { Jacket, Conductor, ConductorKind, Impedance, Band, Weather };
inline constexpr auto fitWords =
    wordsOf<FitOf>("jacket", "conductor", "kind of conductor", "impedance", "band", "weather");
/// One thing that has to fit.
struct FitPoint {
    FitOf of = FitOf::Jacket;
    bool good = true;
    Sentence reason; ///< with both figures
};

/// Jacket and conductor size, kind of conductor, impedance, band and weather, each with its
/// reason; what the catalogue has no figure for is left out. Source: the catalogue's figures of
/// cable and connection.
std::vector<FitPoint> findFit(const FitQuestion& question);
bool fits(const std::vector<FitPoint>& points);

struct ConnectorChoice {
    const Connection* connection = nullptr; ///< of the catalogue
    std::vector<FitPoint> points;
    bool fits = false;
    double lossDb = 0;  ///< one mated pair at the top frequency
    double minutes = 0; ///< to make one end
    Sentence why;       ///< of the first: why it is proposed; of the others: what speaks against
};
/// Every connector for the cable's kind with figures of fit: those that fit first, by loss (less
/// than 0.05 dB is no reason), screened ones for screened pairs, then by weather and by minutes.
/// Schools stand side by side.
std::vector<ConnectorChoice> connectorChoices(const Cable& cable, double topMhz, bool outdoors,
                                              const Catalogue& catalogue);
Working choiceWorking(const Cable& cable, double topMhz, bool outdoors,
                      const std::vector<ConnectorChoice>& choices);

} // namespace burin
