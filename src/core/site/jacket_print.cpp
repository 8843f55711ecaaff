#include "core/site/jacket_print.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <charconv>

namespace burin {
namespace {

/// The words in capitals, "23AWG" parted into "23" and "AWG".
std::vector<std::string> wordsOf(std::string_view text) {
    std::vector<std::string> out;
    std::string word;
    const auto flush = [&] {
        if (!word.empty())
            out.push_back(word);
        word.clear();
    };
    for (char c : text) {
        if (c >= 'a' && c <= 'z')
            c = static_cast<char>(c - 'a' + 'A');
        const bool digit = c >= '0' && c <= '9';
        const bool letter = c >= 'A' && c <= 'Z';
        if (!digit && !letter && c != '/' && c != '.' && c != '-') {
            flush();
            continue;
        }
        const bool onlyDigits = !word.empty() && std::all_of(word.begin(), word.end(), [](char d) {
            return (d >= '0' && d <= '9') || d == '.';
        });
        if (letter && onlyDigits)
            flush();
        word += c;
    }
    flush();
    return out;
}

std::optional<double> numberOf(const std::string& word) {
    double out = 0;
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), out);
    if (error != std::errc() || end != word.data() + word.size())
        return std::nullopt;
    return out;
}

template <std::size_t N>
bool oneOf(const std::string& word, const std::array<std::string_view, N>& list) {
    return std::find(list.begin(), list.end(), word) != list.end();
}

std::optional<Jacket> ratingOf(const std::string& word) {
    constexpr std::array<std::string_view, 9> plenum{"CMP",  "CL2P",   "CL3P", "CATVP", "MPP",
                                                     "FPLP", "PLTC-P", "OFNP", "PLENUM"};
    constexpr std::array<std::string_view, 7> riser{"CMR",  "CL2R", "CL3R", "CATVR",
                                                    "FPLR", "MPR",  "RISER"};
    constexpr std::array<std::string_view, 7> general{"CM",  "CMG",  "CMX", "CL2",
                                                      "CL3", "CATV", "MP"};
    constexpr std::array<std::string_view, 4> outdoor{"OUTDOOR", "UV", "SUNLIGHT", "SUN"};
    constexpr std::array<std::string_view, 4> water{"BURIAL", "GEL", "WATERBLOCK", "WATERBLOCKED"};
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

class Reader {
public:
    Reader(std::string_view text, const Catalogue& catalogue)
        : words_(wordsOf(text)), catalogue_(catalogue) {}

    JacketPrint read() {
        for (at_ = 0; at_ < words_.size(); ++at_)
            if (!number() && !category() && !coax() && !screen() && !rating())
                out_.left.push_back(words_[at_]);
        fit();
        return std::move(out_);
    }

private:
    [[nodiscard]] std::string next(std::size_t by = 1) const {
        return at_ + by < words_.size() ? words_[at_ + by] : std::string();
    }
    /// A number with the word after it.
    bool number() {
        const auto value = numberOf(words_[at_]);
        if (!value || *value > 1e6) // of nothing on a cable there is as much
            return false;
        const std::string unit = next();
        constexpr std::array<std::string_view, 4> pairs{"PR", "PAIR", "PAIRS", "PRS"};
        constexpr std::array<std::string_view, 4> feet{"FT", "FEET", "FOOT", "F"};
        constexpr std::array<std::string_view, 5> metres{"M", "MTR", "METER", "METERS", "METRES"};
        if (unit == "AWG") {
            out_.awg = *value;
        } else if (oneOf(unit, pairs)) {
            out_.pairs = static_cast<int>(*value);
        } else if (unit == "OHM" || unit == "OHMS") {
            out_.impedanceOhm = *value;
        } else if (oneOf(unit, feet) || oneOf(unit, metres)) {
            out_.markInFeet = oneOf(unit, feet);
            out_.markM = *value * (out_.markInFeet ? metresPerFoot : 1);
        } else {
            return false;
        }
        ++at_;
        return true;
    }
    bool category() {
        std::string word = words_[at_];
        std::string level;
        for (const std::string_view head : {"CATEGORY", "CAT."})
            if (word.starts_with(head))
                word = "CAT" + word.substr(head.size());
        if (!word.starts_with("CAT") || word.starts_with("CATV"))
            return false;
        level = word.substr(3);
        std::size_t taken = 0;
        if (level.empty()) {
            level = next(++taken);
            // "6A" was parted into "6" and "A".
            const std::string letter = next(taken + 1);
            if (letter == "A" || letter == "E") {
                level += letter;
                ++taken;
            }
        }
        for (auto& c : level)
            c = c == 'E' ? 'e' : c;
        for (const auto& cable : catalogue_.cables)
            if (cable.category != Category::None && cable.kind == CableKind::Balanced &&
                categoryName(cable.category) == "Cat " + level) {
                out_.kind = "Cat " + level;
                at_ += taken;
                return true;
            }
        return false;
    }
    bool coax() {
        std::string word = words_[at_];
        std::size_t taken = 0;
        if (word == "SERIES" || word == "RG") {
            word += "-" + next(++taken);
        } else if (word.starts_with("RG") && !word.starts_with("RG-")) {
            word = "RG-" + word.substr(2);
        }
        if (!word.starts_with("RG-") && !word.starts_with("SERIES-"))
            return false;
        const std::string number = word.substr(word.find('-') + 1);
        if (!numberOf(number.substr(0, number.find('/'))))
            return false;
        out_.kind = "series " + number.substr(0, number.find('/'));
        at_ += taken;
        return true;
    }
    bool screen() {
        constexpr std::array<std::string_view, 9> screens{
            "U/UTP", "F/UTP", "S/FTP", "S/UTP", "SF/UTP", "U/FTP", "F/FTP", "UTP", "FTP"};
        if (oneOf(words_[at_], screens))
            out_.screen = words_[at_] == "UTP"   ? "U/UTP"
                          : words_[at_] == "FTP" ? "F/UTP"
                                                 : words_[at_];
        else if (words_[at_] == "QUAD" || words_[at_] == "TRI-SHIELD")
            out_.screen = "quad";
        else
            return false;
        return true;
    }
    bool rating() {
        const auto jacket = ratingOf(words_[at_]);
        if (!jacket)
            return false;
        // "CMX OUTDOOR", "CMR … DIRECT BURIAL": what lies outside decides.
        if (out_.jacket == Jacket::Unknown || *jacket >= Jacket::Outdoor) {
            out_.jacket = *jacket;
            out_.rating = words_[at_];
        }
        return true;
    }
    /// Which cables of the catalogue it can be.
    void fit() {
        const std::string series =
            out_.kind.starts_with("series ") ? out_.kind.substr(7) : std::string();
        for (const auto& cable : catalogue_.cables) {
            bool fits = false;
            if (!series.empty()) {
                const std::string end = "s" + series;
                const std::string rg = "rg" + series;
                fits = cable.id == "coax-" + end || cable.id == "coax-" + end + "-quad" ||
                       cable.id == "coax-" + rg;
                if (out_.screen == "quad" && cable.id.find("-quad") == std::string::npos)
                    fits = false;
            } else if (!out_.kind.empty()) {
                fits = cable.kind == CableKind::Balanced && cable.category != Category::None &&
                       categoryName(cable.category) == out_.kind &&
                       (out_.screen.empty() ||
                        (out_.screen == "U/UTP") == (cable.screen == Screen::None));
            }
            if (fits && out_.impedanceOhm &&
                std::abs(cable.impedanceOhm.value - *out_.impedanceOhm) > 1)
                fits = false;
            if (fits)
                out_.cableIds.push_back(cable.id);
        }
    }

    std::vector<std::string> words_;
    const Catalogue& catalogue_;
    std::size_t at_ = 0;
    JacketPrint out_;
};

} // namespace

Outcome<JacketPrint> readJacketPrint(std::string_view text, const Catalogue& catalogue) {
    JacketPrint out = Reader(text, catalogue).read();
    if (out.kind.empty() && !out.awg && out.screen.empty() && out.jacket == Jacket::Unknown &&
        !out.markM)
        return refuse("jacket print", "nothing in it tells what cable it is",
                      "Type what stands on the jacket: 23 AWG 4PR U/UTP CAT 6 CMR 0412 FT");
    return out;
}

} // namespace burin
