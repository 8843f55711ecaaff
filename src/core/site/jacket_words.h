#pragma once
#include "core/plan/plan.h"
#include <algorithm>
#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

/// Words of a jacket's print, and what each says by itself. Screens and commands want
/// core/site/jacket_print.h.
namespace burin::jacket_words {

bool isDigit(char c);
bool isLetter(char c); ///< a capital
bool allDigits(std::string_view text);
/// The words in capitals. Parted at everything but letters, digits and / . - ; a number is parted
/// from the letters behind it ("23AWG"), and a dot or dash at either end falls away.
std::vector<std::string> splitPrint(std::string_view given);
std::optional<double> numberOf(std::string_view word);
template <std::size_t N>
bool oneOf(std::string_view word, const std::array<std::string_view, N>& list) {
    return std::find(list.begin(), list.end(), word) != list.end();
}
/// The rating that a word by itself names: "CMP", "PLENUM".
std::optional<Jacket> ratingOf(std::string_view word);
/// Of several ratings on one jacket: what lies outside decides, else the highest.
Jacket higher(Jacket a, Jacket b);
/// A gauge for a conductor given by its diameter.
double awgOf(double mm);

} // namespace burin::jacket_words
