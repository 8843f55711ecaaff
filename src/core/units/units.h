#pragma once
#include "core/base/fault.h"
#include <string>
#include <string_view>

namespace burin {

enum class UnitSystem { Metric, Imperial };

inline constexpr double metresPerFoot = 0.3048; ///< exact, international foot
inline constexpr double metresPerInch = 0.0254; ///< exact

/// Reads a typed length into metres. Understands `61.5`, `61,5`, `61.5 m`, `201 ft`, `3' 6"`,
/// `12 mm`, `4 cm`, `1/4 in`, `3 1/2 in`. A bare number is in metres, or in feet when `bare` is
/// Imperial. Refuses negative, empty and not finite lengths and anything left over, saying where.
Outcome<double> parseLengthM(std::string_view text, UnitSystem bare = UnitSystem::Metric);

/// The same into millimetres: a bare number is in mm, or in inches when `bare` is Imperial.
Outcome<double> parseMillimetres(std::string_view text, UnitSystem bare = UnitSystem::Metric);

/// Reads a typed temperature into °C: `31`, `31 °C`, `88 F`. −60 to 200 °C.
Outcome<double> parseTemperatureC(std::string_view text, UnitSystem bare = UnitSystem::Metric);

/// Reads a whole text as one finite number with a decimal point or comma.
Outcome<double> parseNumber(std::string_view text, std::string_view what);

/// `value` with `decimals` places and a true minus sign (U+2212); −0 is written 0.
std::string formatFixed(double value, int decimals);
/// `61.5 m` or `201.8 ft`.
std::string formatLength(double lengthM, UnitSystem system, int decimals = 1);
/// `31 °C` or `88 °F`.
std::string formatTemperature(double temperatureC, UnitSystem system);
/// "12.95 W", "25.5 W", "60 W": watts to a hundredth, without noughts behind.
std::string formatWatt(double watt);
/// A temperature difference: `11 °C` or `20 °F`.
std::string formatWarmth(double differenceC, UnitSystem system);
/// A frequency without needless zeros: `0.772 MHz`, `250 MHz`, `1.485 GHz` is written `1485 MHz`.
std::string formatMhz(double frequencyMhz);

} // namespace burin
