#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// Something Burin can say: a key that never changes, and how it reads in English. `{0}`, `{1}` …
/// stand for what a sentence is of, `{0?run|runs}` for one word or another by whether that count is
/// one. Both texts are constants that outlive every sentence. A key ends in a word for what is
/// said, and begins with the subject: "reach.impedance".
struct Wording {
    std::string_view key, english;
};

struct Sentence;

/// A figure or a text in a sentence, in one unit whatever the screen's: it is written by whoever
/// shows the sentence.
struct Quantity {
    enum class Of {
        Text,        ///< a user's own words, a name, a label: shown as it is, never converted
        Term,        ///< a word of the program or of its catalogue: a language may have its own
        Said,        ///< `said`, joined by `text`
        Count,       ///< things
        Number,      ///< of no unit
        Unit,        ///< in the unit `text`, which all the world uses
        Metres,      ///< a length
        Millimetres, ///< a small length
        Celsius,     ///< a temperature
        Degrees,     ///< a difference of temperatures, °C
        Decibel,
        DecibelPer100m, ///< attenuation
        Megahertz,
        Newton,
        KgPer100m, ///< weight of a cable
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
    std::string text;
    std::vector<Sentence> said;

    Quantity();
    Quantity(Of what, double figure, int decimals = 0, std::string words = {});
    bool operator==(const Quantity&) const;
};

/// A sentence as data: what is said, and of what. `render` of core/units makes words of it.
struct Sentence {
    Wording wording{}; ///< without a key: nothing is said
    std::vector<Quantity> of{};

    [[nodiscard]] bool empty() const { return wording.key.empty(); }
    [[nodiscard]] std::string_view key() const { return wording.key; }
    bool operator==(const Sentence& other) const { return key() == other.key() && of == other.of; }
};
// Here, where a sentence is known.
inline Quantity::Quantity() = default;
inline Quantity::Quantity(Of what, double figure, int decimals, std::string words)
    : of(what), value(figure), places(decimals), text(std::move(words)) {}
inline bool Quantity::operator==(const Quantity& other) const {
    return of == other.of && value == other.value && places == other.places && text == other.text &&
           said == other.said;
}

inline Quantity asText(std::string text) {
    return {Quantity::Of::Text, 0, 0, std::move(text)};
}
inline Quantity asTerm(std::string_view word) {
    return {Quantity::Of::Term, 0, 0, std::string(word)};
}
inline Quantity asCount(std::size_t count) {
    return {Quantity::Of::Count, static_cast<double>(count)};
}
inline Quantity asCount(int count) {
    return {Quantity::Of::Count, static_cast<double>(count)};
}
inline Quantity asNumber(double value, int places) {
    return {Quantity::Of::Number, value, places};
}
inline Quantity asUnit(double value, int places, std::string_view unit) {
    return {Quantity::Of::Unit, value, places, std::string(unit)};
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
inline Quantity asWatt(double watt) {
    return {Quantity::Of::Watt, watt};
}
inline Quantity asVolt(double volt, int places = 1) {
    return {Quantity::Of::Volt, volt, places};
}
inline Quantity asOhm(double ohm, int places = 0) {
    return {Quantity::Of::Ohm, ohm, places};
}
inline Quantity asShare(double share, int places = 0) {
    return {Quantity::Of::Share, share, places};
}
inline Quantity asMoney(double amount, std::string currency) {
    return {Quantity::Of::Money, amount, 2, std::move(currency)};
}
inline Quantity asDay(std::string day) {
    return {Quantity::Of::Day, 0, 0, std::move(day)};
}
/// Sentences within a sentence, `between` them.
inline Quantity asSaid(std::vector<Sentence> said, std::string between = ", ") {
    Quantity out(Quantity::Of::Said, 0, 0, std::move(between));
    out.said = std::move(said);
    return out;
}
inline Quantity asSaid(Sentence said) {
    return asSaid(std::vector<Sentence>{std::move(said)});
}

namespace detail {
inline Quantity quantity(Quantity q) {
    return q;
}
inline Quantity quantity(std::string text) {
    return asText(std::move(text));
}
inline Quantity quantity(Sentence said) {
    return asSaid(std::move(said));
}
} // namespace detail

/// A sentence of a wording, named or written where it is said. A plain text among what it is of is
/// a user's own or a name (asText), a sentence stands in it as it reads.
template <typename... Q> Sentence sentence(const Wording& wording, Q&&... of) {
    Sentence out{wording};
    out.of.reserve(sizeof...(of));
    (out.of.push_back(detail::quantity(std::forward<Q>(of))), ...);
    return out;
}
/// A figure, a symbol or a word that stands by itself.
inline Sentence alone(Quantity quantity) {
    return sentence({"alone", "{0}"}, std::move(quantity));
}
/// Sentences one after the other.
inline Sentence joined(std::vector<Sentence> said, std::string between = ", ") {
    return alone(asSaid(std::move(said), std::move(between)));
}
/// "this, that and the other".
inline Sentence listed(std::vector<Sentence> said) {
    if (said.size() < 2)
        return said.empty() ? Sentence() : std::move(said.front());
    Sentence last = std::move(said.back());
    said.pop_back();
    Sentence first = said.size() == 1 ? std::move(said.front()) : joined(std::move(said));
    return sentence({"listed", "{0} and {1}"}, std::move(first), std::move(last));
}

} // namespace burin
