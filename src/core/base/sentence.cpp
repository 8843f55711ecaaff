#include "core/base/sentence.h"

namespace burin {

Quantity::Quantity() = default;
Quantity::Quantity(Of what, double figure, int decimals, std::string words)
    : of(what), value(figure), places(decimals), text(std::move(words)) {}
Quantity::Quantity(const Quantity&) = default;
Quantity::Quantity(Quantity&&) noexcept = default;
Quantity& Quantity::operator=(const Quantity&) = default;
Quantity& Quantity::operator=(Quantity&&) noexcept = default;
Quantity::~Quantity() = default;
bool Quantity::operator==(const Quantity& other) const {
    return of == other.of && value == other.value && places == other.places && text == other.text &&
           said == other.said;
}

bool Sentence::operator==(const Sentence& other) const {
    return key() == other.key() && of == other.of;
}

Quantity asText(std::string text) {
    return {Quantity::Of::Text, 0, 0, std::move(text)};
}
Quantity asTerm(std::string_view word) {
    return {Quantity::Of::Term, 0, 0, std::string(word)};
}
Quantity asCount(std::size_t count) {
    return {Quantity::Of::Count, static_cast<double>(count)};
}
Quantity asCount(int count) {
    return {Quantity::Of::Count, static_cast<double>(count)};
}
Quantity asNumber(double value, int places) {
    return {Quantity::Of::Number, value, places};
}
Quantity asUnit(double value, int places, std::string_view unit) {
    return {Quantity::Of::Unit, value, places, std::string(unit)};
}
Quantity asMetres(double metres, int places) {
    return {Quantity::Of::Metres, metres, places};
}
Quantity asMillimetres(double millimetres, int places) {
    return {Quantity::Of::Millimetres, millimetres, places};
}
Quantity asCelsius(double temperatureC) {
    return {Quantity::Of::Celsius, temperatureC};
}
Quantity asDegrees(double differenceC) {
    return {Quantity::Of::Degrees, differenceC};
}
Quantity asDecibel(double db, int places) {
    return {Quantity::Of::Decibel, db, places};
}
Quantity asMegahertz(double mhz) {
    return {Quantity::Of::Megahertz, mhz};
}
Quantity asNewton(double newton, int places) {
    return {Quantity::Of::Newton, newton, places};
}
Quantity asWatt(double watt) {
    return {Quantity::Of::Watt, watt};
}
Quantity asVolt(double volt, int places) {
    return {Quantity::Of::Volt, volt, places};
}
Quantity asOhm(double ohm, int places) {
    return {Quantity::Of::Ohm, ohm, places};
}
Quantity asShare(double share, int places) {
    return {Quantity::Of::Share, share, places};
}
Quantity asMoney(double amount, std::string currency) {
    return {Quantity::Of::Money, amount, 2, std::move(currency)};
}
Quantity asDay(std::string day) {
    return {Quantity::Of::Day, 0, 0, std::move(day)};
}
Quantity asSaid(std::vector<Sentence> said, std::string between) {
    Quantity out(Quantity::Of::Said, 0, 0, std::move(between));
    out.said = std::move(said);
    return out;
}
Quantity asSaid(Sentence said) {
    return asSaid(std::vector<Sentence>{std::move(said)});
}

namespace detail {

void append(Sentence& to, Quantity of) {
    to.of.push_back(std::move(of));
}
void append(Sentence& to, std::string text) {
    to.of.push_back(asText(std::move(text)));
}
void append(Sentence& to, Sentence said) {
    to.of.push_back(asSaid(std::move(said)));
}

} // namespace detail

Sentence alone(Quantity quantity) {
    return sentence({"alone", "{0}"}, std::move(quantity));
}
Sentence joined(std::vector<Sentence> said, std::string between) {
    return alone(asSaid(std::move(said), std::move(between)));
}
Sentence listed(std::vector<Sentence> said) {
    if (said.size() < 2)
        return said.empty() ? Sentence() : std::move(said.front());
    Sentence last = std::move(said.back());
    said.pop_back();
    Sentence first = said.size() == 1 ? std::move(said.front()) : joined(std::move(said));
    return sentence({"listed", "{0} and {1}"}, std::move(first), std::move(last));
}

} // namespace burin
