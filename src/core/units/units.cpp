#include "core/units/units.h"
#include <array>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <optional>

namespace burin {
namespace {

/// Walks over typed text and remembers where it stands.
struct Cursor {
    std::string_view text;
    std::size_t at = 0;

    void skipSpace() {
        while (at < text.size()) {
            if (std::isspace(static_cast<unsigned char>(text[at])) != 0)
                ++at;
            else if (text.substr(at).starts_with("\u00a0"))
                at += 2;
            else
                break;
        }
    }
    [[nodiscard]] bool done() const { return at >= text.size(); }
    bool take(std::string_view word) {
        if (!text.substr(at).starts_with(word))
            return false;
        at += word.size();
        return true;
    }
    std::optional<double> number() {
        std::string digits;
        std::size_t i = at;
        bool dot = false;
        // 1,000 may be one or a thousand: nobody's run is to be guessed at.
        const std::size_t comma = text.find_first_not_of("0123456789", at);
        if (comma != std::string_view::npos && text[comma] == ',' && comma > at) {
            const auto after = text.find_first_not_of("0123456789", comma + 1);
            if ((after == std::string_view::npos ? text.size() : after) - comma == 4)
                return std::nullopt;
        }
        for (; i < text.size(); ++i) {
            const char c = text[i];
            if (c >= '0' && c <= '9') {
                digits += c;
            } else if ((c == '.' || c == ',') && !dot) {
                digits += '.';
                dot = true;
            } else {
                break;
            }
        }
        double value = 0;
        const auto [end, error] =
            std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (error != std::errc{} || end != digits.data() + digits.size() || digits == ".")
            return std::nullopt;
        at = i;
        return value;
    }
};

struct NamedUnit {
    std::string_view name;
    double metres;
};
constexpr std::array<NamedUnit, 17> lengthUnits{{{"millimetres", 0.001},
                                                 {"mm", 0.001},
                                                 {"cm", 0.01},
                                                 {"km", 1000},
                                                 {"metres", 1},
                                                 {"meters", 1},
                                                 {"feet", metresPerFoot},
                                                 {"foot", metresPerFoot},
                                                 {"ft", metresPerFoot},
                                                 {"inches", metresPerInch},
                                                 {"inch", metresPerInch},
                                                 {"in", metresPerInch},
                                                 {"m", 1},
                                                 {"'", metresPerFoot},
                                                 {"\u2032", metresPerFoot},
                                                 {"\"", metresPerInch},
                                                 {"\u2033", metresPerInch}}};

std::optional<double> unitAt(Cursor& cursor) {
    for (const auto& unit : lengthUnits)
        if (cursor.take(unit.name))
            return unit.metres;
    return std::nullopt;
}

tl::unexpected<Fault> badLength(std::string_view text, std::size_t at, Sentence why) {
    return refuse(Fault{alone(asTerm("length")),
                        1,
                        static_cast<int>(at) + 1,
                        sentence({"typed.no-length", "“{0}” is no length: {1}"},
                                 asText(std::string(text)), std::move(why)),
                        {"cure.type-number-m",
                         "Type a number with m, mm, ft or in, for example 61.5 m or 3' 6\""}});
}

} // namespace

namespace {

/// A bare number is of so many metres.
Outcome<double> parseLength(std::string_view text, double bareM) {
    Cursor c{text};
    c.skipSpace();
    if (c.done())
        return badLength(text, 0, {"typed.nothing-typed", "nothing is typed"});
    if (c.text[c.at] == '-' || c.take("\u2212"))
        return badLength(text, c.at, {"typed.negative", "it is negative"});
    double total = 0;
    while (!c.done()) {
        auto value = c.number();
        if (!value)
            return badLength(text, c.at,
                             {"typed.plain-number-expected",
                              "a plain number is expected here (no thousands comma)"});
        c.skipSpace();
        double whole = 0;
        if (c.take("/")) {
            const auto below = c.number();
            if (!below || *below == 0)
                return badLength(
                    text, c.at,
                    {"typed.fraction-needs-number", "a fraction needs a number under the stroke"});
            *value /= *below;
        } else {
            // A whole number followed by a fraction: 3 1/2 in.
            Cursor ahead = c;
            const auto above = ahead.number();
            if (above && ahead.take("/")) {
                const auto below = ahead.number();
                if (!below || *below == 0)
                    return badLength(text, ahead.at,
                                     {"typed.fraction-needs-number",
                                      "a fraction needs a number under the stroke"});
                whole = *value;
                *value = *above / *below;
                c = ahead;
            }
        }
        c.skipSpace();
        auto metres = unitAt(c);
        if (!metres) {
            if (!c.done())
                return badLength(text, c.at, {"typed.unknown-unit", "unknown unit"});
            if (total > 0)
                return badLength(text, c.at, {"typed.last-part-no", "the last part has no unit"});
            metres = bareM;
        }
        total += (whole + *value) * *metres;
        c.skipSpace();
    }
    if (!std::isfinite(total) || total > 1e6)
        return badLength(text, 0, {"typed.longer-km", "it is longer than 1000 km"});
    return total;
}

} // namespace

Outcome<double> parseLengthM(std::string_view text, UnitSystem bare) {
    return parseLength(text, bare == UnitSystem::Metric ? 1 : metresPerFoot);
}

Outcome<double> parseMillimetres(std::string_view text, UnitSystem bare) {
    constexpr double mm = 1e-3;
    const auto metres = parseLength(text, bare == UnitSystem::Metric ? mm : metresPerInch);
    if (!metres)
        return refuse(metres.error());
    // To a nanometre: 13 mm are 13, not what is left of 0.013.
    return std::round(*metres / mm * 1e6) / 1e6;
}

Outcome<double> parseNumber(std::string_view text, std::string_view what) {
    Cursor c{text};
    c.skipSpace();
    const bool negative = c.take("-") || c.take("\u2212");
    const auto value = c.number();
    c.skipSpace();
    if (!value || !c.done())
        return refuse(Fault{
            alone(asTerm(what)),
            1,
            static_cast<int>(c.at) + 1,
            sentence({"typed.no-number", "“{0}” is no number"}, asText(std::string(text))),
            {"cure.type-digits-decimal", "Type digits with a decimal point, for example 12.5"}});
    return negative ? -*value : *value;
}

Outcome<double> parseTemperatureC(std::string_view text, UnitSystem bare) {
    std::string number(text);
    bool fahrenheit = bare == UnitSystem::Imperial;
    while (!number.empty() && std::isspace(static_cast<unsigned char>(number.back())) != 0)
        number.pop_back();
    if (!number.empty() && (std::toupper(static_cast<unsigned char>(number.back())) == 'C' ||
                            std::toupper(static_cast<unsigned char>(number.back())) == 'F')) {
        fahrenheit = std::toupper(static_cast<unsigned char>(number.back())) == 'F';
        number.pop_back();
    }
    while (number.ends_with("\u00b0"))
        number.resize(number.size() - 2);
    const auto value = parseNumber(number, "temperature");
    if (!value)
        return refuse(
            Fault{alone(asTerm("temperature")),
                  1,
                  1,
                  sentence({"typed.no-temperature", "“{0}” is no temperature"},
                           asText(std::string(text))),
                  {"cure.type-degrees-example", "Type degrees, for example 31 °C or 88 °F"}});
    const double celsius = fahrenheit ? (*value - 32) / 1.8 : *value;
    constexpr double leastC = -60, mostC = 200;
    if (celsius < leastC || celsius > mostC)
        return refuse("temperature",
                      sentence({"typed.outside", "“{0}” is outside {1} to {2}"},
                               asText(std::string(text)), asCelsius(leastC), asCelsius(mostC)),
                      {"cure.type-temperature-around", "Type the temperature around the cable"});
    return celsius;
}

std::string formatFixed(double value, int decimals) {
    std::array<char, 64> buffer{};
    std::snprintf(buffer.data(), buffer.size(), "%.*f", decimals, value);
    std::string out(buffer.data());
    if (out.starts_with('-')) {
        const bool zero = out.find_first_of("123456789") == std::string::npos;
        out = (zero ? "" : "\u2212") + out.substr(1);
    }
    return out;
}

std::string formatLength(double lengthM, UnitSystem system, int decimals) {
    return system == UnitSystem::Metric ? formatFixed(lengthM, decimals) + " m"
                                        : formatFixed(lengthM / metresPerFoot, decimals) + " ft";
}

std::string formatTemperature(double temperatureC, UnitSystem system) {
    return system == UnitSystem::Metric ? formatFixed(temperatureC, 0) + " °C"
                                        : formatFixed(temperatureC * 1.8 + 32, 0) + " °F";
}

std::string formatWarmth(double differenceC, UnitSystem system) {
    return system == UnitSystem::Metric ? formatFixed(differenceC, 0) + " °C"
                                        : formatFixed(differenceC * 1.8, 0) + " °F";
}

std::string formatWatt(double watt) {
    std::string out = formatFixed(watt, 2);
    while (out.back() == '0')
        out.pop_back();
    if (out.back() == '.')
        out.pop_back();
    return out + " W";
}

std::string formatMhz(double frequencyMhz) {
    std::string out = formatFixed(frequencyMhz, frequencyMhz < 10     ? 3
                                                : frequencyMhz < 1000 ? 1
                                                                      : 0);
    if (out.find('.') != std::string::npos) {
        while (out.back() == '0')
            out.pop_back();
        if (out.back() == '.')
            out.pop_back();
    }
    return out + " MHz";
}

} // namespace burin
