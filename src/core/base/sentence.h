#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// Something Burin can say: a key that never changes, and how it reads in English. `{0}`, `{1}` …
/// stand for what a sentence is of, `{0?run|runs}` for one word or another by whether that count is
/// one. A wording is a constant: sentences point at it.
struct Wording {
    std::string_view key;
    std::string_view english;
};

/// A figure or a text in a sentence, in one unit whatever the screen's: it is written by whoever
/// shows the sentence.
struct Quantity {
    enum class Of {
        Text,        ///< a user's own words, a name, a label: shown as it is, never converted
        Count,       ///< things
        Metres,      ///< a length
        Millimetres, ///< a small length
        Celsius,     ///< a temperature
        Degrees,     ///< a difference of temperatures, °C
        Decibel,
        Megahertz,
        Newton,
        Watt,
        Volt,
        Ohm,
        Share, ///< 0.05 is 5 %
        Money, ///< `text` is the currency
        Day,   ///< `text` is "2026-11-26"
    };
    Of of = Of::Text;
    double value = 0;
    int places = 0; ///< decimals; of a length in metres, one in feet
    std::string text{};
    bool operator==(const Quantity&) const = default;
};

/// A sentence as data: what is said, and of what. `render` of core/units makes words of it.
struct Sentence {
    const Wording* wording = nullptr; ///< nullptr: nothing is said
    std::vector<Quantity> of{};

    [[nodiscard]] bool empty() const { return wording == nullptr; }
    [[nodiscard]] std::string_view key() const {
        return wording == nullptr ? std::string_view() : wording->key;
    }
    bool operator==(const Sentence& other) const { return key() == other.key() && of == other.of; }
};

/// A sentence of a wording that outlives it.
template <typename... Q> Sentence sentence(const Wording& wording, Q... quantities) {
    return {&wording, {std::move(quantities)...}};
}

inline Quantity asText(std::string text) {
    return {Quantity::Of::Text, 0, 0, std::move(text)};
}
inline Quantity asCount(std::size_t count) {
    return {Quantity::Of::Count, static_cast<double>(count)};
}
inline Quantity asMetres(double metres, int places = 1) {
    return {Quantity::Of::Metres, metres, places};
}
inline Quantity asMillimetres(double millimetres, int places = 0) {
    return {Quantity::Of::Millimetres, millimetres, places};
}
inline Quantity asCelsius(double temperatureC) {
    return {Quantity::Of::Celsius, temperatureC};
}
inline Quantity asDegrees(double differenceC) {
    return {Quantity::Of::Degrees, differenceC};
}
inline Quantity asDecibel(double db, int places = 1) {
    return {Quantity::Of::Decibel, db, places};
}
inline Quantity asMegahertz(double mhz) {
    return {Quantity::Of::Megahertz, mhz};
}
inline Quantity asNewton(double newton, int places = 0) {
    return {Quantity::Of::Newton, newton, places};
}
inline Quantity asShare(double share) {
    return {Quantity::Of::Share, share};
}
inline Quantity asMoney(double amount, std::string currency) {
    return {Quantity::Of::Money, amount, 2, std::move(currency)};
}
inline Quantity asDay(std::string day) {
    return {Quantity::Of::Day, 0, 0, std::move(day)};
}

} // namespace burin
