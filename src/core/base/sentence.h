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
    int places = 0; ///< decimals; of a length in metres, in feet one or two
    std::string text;
    std::vector<Sentence> said;

    Quantity();
    Quantity(Of what, double figure, int decimals = 0, std::string words = {});
    // Not here: there are hundreds of sentences, and each is of some.
    Quantity(const Quantity&);
    Quantity(Quantity&&) noexcept;
    Quantity& operator=(const Quantity&);
    Quantity& operator=(Quantity&&) noexcept;
    ~Quantity();
    bool operator==(const Quantity&) const;
};

/// A sentence as data: what is said, and of what. `render` of core/units makes words of it.
struct Sentence {
    Wording wording{}; ///< without a key: nothing is said
    std::vector<Quantity> of{};

    [[nodiscard]] bool empty() const { return wording.key.empty(); }
    [[nodiscard]] std::string_view key() const { return wording.key; }
    bool operator==(const Sentence& other) const;
};
Quantity asText(std::string text);
Quantity asTerm(std::string_view word);
Quantity asCount(std::size_t count);
Quantity asCount(int count);
Quantity asNumber(double value, int places);
Quantity asUnit(double value, int places, std::string_view unit);
Quantity asMetres(double metres, int places = 1);
Quantity asMillimetres(double millimetres, int places = 0);
Quantity asCelsius(double temperatureC);
Quantity asDegrees(double differenceC);
Quantity asDecibel(double db, int places = 1);
Quantity asMegahertz(double mhz);
Quantity asNewton(double newton, int places = 0);
Quantity asWatt(double watt);
Quantity asVolt(double volt, int places = 1);
Quantity asOhm(double ohm, int places = 0);
Quantity asShare(double share, int places = 0);
Quantity asMoney(double amount, std::string currency);
Quantity asDay(std::string day);
/// Sentences within a sentence, `between` them.
Quantity asSaid(std::vector<Sentence> said, std::string between = ", ");
Quantity asSaid(Sentence said);

namespace detail {
void append(Sentence& to, Quantity of);
void append(Sentence& to, std::string text);
void append(Sentence& to, Sentence said);
} // namespace detail

/// A sentence of a wording, named or written where it is said. A plain text among what it is of is
/// a user's own or a name (asText), a sentence stands in it as it reads.
template <typename... Q> Sentence sentence(const Wording& wording, Q&&... of) {
    Sentence out{wording};
    out.of.reserve(sizeof...(of));
    (detail::append(out, std::forward<Q>(of)), ...);
    return out;
}
/// A figure, a symbol or a word that stands by itself.
Sentence alone(Quantity quantity);
/// Sentences one after the other.
Sentence joined(std::vector<Sentence> said, std::string between = ", ");
/// "this, that and the other".
Sentence listed(std::vector<Sentence> said);

} // namespace burin
