#include "core/site/jacket_words.h"
#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdlib>

namespace burin::jacket_words {

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}
bool isLetter(char c) {
    return c >= 'A' && c <= 'Z';
}
bool allDigits(std::string_view text) {
    return !text.empty() && std::all_of(text.begin(), text.end(), isDigit);
}

namespace {

std::string replaced(std::string text, std::string_view what, std::string_view with) {
    for (std::size_t at = text.find(what); at != std::string::npos;
         at = text.find(what, at + with.size()))
        text.replace(at, what.size(), with);
    return text;
}

/// Commas that part thousands go: "1,024 FT" is one number. "s1,d1" and "1,5" stay apart.
std::string withoutThousands(const std::string& text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const bool group = text[i] == ',' && i > 0 && isDigit(text[i - 1]) && i + 3 < text.size() &&
                           allDigits(text.substr(i + 1, 3)) &&
                           (i + 4 == text.size() || !isDigit(text[i + 4]));
        if (!group)
            out += text[i];
    }
    return out;
}

} // namespace

std::vector<std::string> splitPrint(std::string_view given) {
    std::string text;
    for (const char c : given)
        text += c >= 'a' && c <= 'z' ? static_cast<char>(c - 'a' + 'A') : c;
    text = replaced(std::move(text), "×", "X");
    text = replaced(std::move(text), "Ω", " OHM ");
    text = replaced(std::move(text), "'", " FT ");
    text = withoutThousands(text);
    std::vector<std::string> out;
    std::string word;
    const auto flush = [&] {
        while (!word.empty() && (word.back() == '.' || word.back() == '-'))
            word.pop_back();
        const std::size_t from = word.find_first_not_of(".-");
        if (from != std::string::npos)
            out.push_back(word.substr(from));
        word.clear();
    };
    for (const char c : text) {
        if (!isDigit(c) && !isLetter(c) && c != '/' && c != '.' && c != '-') {
            flush();
            continue;
        }
        const bool number = !word.empty() && std::all_of(word.begin(), word.end(), [](char d) {
            return isDigit(d) || d == '.';
        });
        // "4X2X0.5" and "2024-11" stay whole.
        if (isLetter(c) && c != 'X' && number)
            flush();
        word += c;
    }
    flush();
    return out;
}

std::optional<double> numberOf(std::string_view word) {
    double out = 0;
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), out);
    if (error != std::errc() || end != word.data() + word.size() || !(out >= 0))
        return std::nullopt;
    return out;
}

std::optional<Jacket> ratingOf(std::string_view word) {
    constexpr std::array<std::string_view, 11> plenum{
        "CMP", "CL2P", "CL3P", "CATVP", "MPP", "FPLP", "PLTC-P", "OFNP", "PLENUM", "FT6", "CMP-LP"};
    constexpr std::array<std::string_view, 10> riser{"CMR", "CL2R", "CL3R",  "CATVR", "FPLR",
                                                     "MPR", "FT4",  "RISER", "OFNR",  "CMR-LP"};
    constexpr std::array<std::string_view, 10> general{"CM",  "CMG", "CMX",  "CMH",   "CL2",
                                                       "CL3", "MP",  "CATV", "CATVX", "CM-LP"};
    constexpr std::array<std::string_view, 5> outdoor{"OUTDOOR", "UV", "SUNLIGHT", "SUN",
                                                      "UV-RESISTANT"};
    constexpr std::array<std::string_view, 8> water{"BURIAL",        "GEL",          "FLOODED",
                                                    "FLOODING",      "WATERBLOCK",   "WATERBLOCKED",
                                                    "WATER-BLOCKED", "DIRECT-BURIAL"};
    if (oneOf(word, plenum))
        return Jacket::Plenum;
    if (oneOf(word, riser))
        return Jacket::Riser;
    if (oneOf(word, general))
        return Jacket::General;
    if (oneOf(word, outdoor))
        return Jacket::Outdoor;
    if (oneOf(word, water))
        return Jacket::WaterBlocked;
    return std::nullopt;
}

Jacket higher(Jacket a, Jacket b) {
    const auto rank = [](Jacket jacket) {
        switch (jacket) {
        case Jacket::General:
            return 1;
        case Jacket::Riser:
            return 2;
        case Jacket::Plenum:
            return 3;
        case Jacket::Outdoor:
            return 4;
        case Jacket::WaterBlocked:
            return 5;
        default:
            return 0;
        }
    };
    return rank(b) > rank(a) ? b : a;
}

double awgOf(double mm) {
    return std::round(36 - 39 * std::log(mm / 0.127) / std::log(92.0));
}

} // namespace burin::jacket_words
