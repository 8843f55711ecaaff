#include "core/site/jacket_print.h"
#include "core/site/jacket_words.h"
#include "core/units/units.h"
#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstdlib>

namespace burin {
namespace {

using namespace jacket_words;

class Reader {
public:
    Reader(std::string_view text, const Catalogue& catalogue)
        : words_(splitPrint(text)), catalogue_(catalogue) {}

    JacketPrint read() {
        for (at_ = 0; at_ < words_.size(); ++at_)
            if (!make() && !gauge() && !number() && !category() && !coax() && !screen() &&
                !fire() && !conductor() && !rating())
                out_.left.push_back(words_[at_]);
        fit();
        warn();
        return std::move(out_);
    }

private:
    [[nodiscard]] const std::string& word() const { return words_[at_]; }
    [[nodiscard]] std::string next(std::size_t by = 1) const {
        return at_ + by < words_.size() ? words_[at_ + by] : std::string();
    }
    static bool plausibleAwg(double awg) { return awg >= 4 && awg <= 40; }
    bool setAwg(double awg) {
        if (!plausibleAwg(awg))
            return false;
        out_.awg = awg;
        return true;
    }
    static bool isPairs(std::string_view unit) {
        constexpr std::array<std::string_view, 5> pairs{"P", "PR", "PAIR", "PAIRS", "PRS"};
        return oneOf(unit, pairs);
    }

    /// How it is made up: "4X2XAWG23/1", "4X2X0.57", "4X2X23" with AWG behind.
    bool make() {
        const std::string& w = word();
        const std::size_t first = w.find('X');
        if (first == std::string::npos || first == 0 || !allDigits(w.substr(0, first)))
            return false;
        const std::size_t second = w.find('X', first + 1);
        if (second == std::string::npos || w.substr(first + 1, second - first - 1) != "2")
            return false;
        const std::string wire = w.substr(second + 1);
        const int pairs = std::atoi(w.substr(0, std::min<std::size_t>(first, 4)).c_str());
        if (wire == "AWG") {
            if (!gaugeOf(next()))
                return false;
            ++at_;
        } else if (wire.starts_with("AWG")) {
            if (!gaugeOf(wire.substr(3)))
                return false;
        } else if (wire.empty() && next().starts_with("AWG")) {
            ++at_;
            if (!(word() == "AWG" ? gaugeOf(next()) && ++at_ : gaugeOf(word().substr(3))))
                return false;
        } else if (const auto value = numberOf(wire.substr(0, wire.find('/')))) {
            const bool mm = *value < 3; // 0.57 mm; a gauge is 18 and more
            if (!(*value > 0) || !setAwg(mm ? awgOf(*value) : *value))
                return false;
            if (next() == (mm ? "MM" : "AWG"))
                ++at_;
        } else {
            return false;
        }
        out_.pairs = pairs;
        return true;
    }
    /// "23", "23/1" (solid), "26/7" (seven strands), "24/4P" (four pairs).
    bool gaugeOf(std::string_view text) {
        const std::size_t slash = text.find('/');
        const auto awg = numberOf(text.substr(0, slash));
        if (!awg || !setAwg(*awg))
            return false;
        if (slash == std::string_view::npos)
            return true;
        const std::string_view behind = text.substr(slash + 1);
        const std::size_t digits = behind.find_first_not_of("0123456789");
        const auto count = numberOf(behind.substr(0, digits));
        if (!count)
            return true;
        if (digits == std::string_view::npos)
            out_.stranded = *count > 1;
        else if (isPairs(behind.substr(digits)))
            out_.pairs = static_cast<int>(std::min(*count, 1e4));
        return true;
    }
    bool gauge() {
        const std::string& w = word();
        // "AWG23/1", "AWG 24".
        if (w.starts_with("AWG") && w.size() > 3 && isDigit(w[3]))
            return gaugeOf(w.substr(3));
        if (w == "AWG" && !next().empty() && isDigit(next()[0]) && gaugeOf(next())) {
            ++at_;
            return true;
        }
        // "24/4P": a gauge and its pairs; a date or a fraction is none.
        const std::size_t slash = w.find('/');
        if (slash == 2 && allDigits(w.substr(0, 2)) && w.size() > 4 &&
            isPairs(w.substr(w.find_first_not_of("0123456789", 3) == std::string::npos
                                 ? w.size()
                                 : w.find_first_not_of("0123456789", 3))))
            return gaugeOf(w);
        // "24AWG/4PR", parted into "24" and "AWG/4PR".
        if (allDigits(w) && next().starts_with("AWG/")) {
            if (!gaugeOf(w + next().substr(3)))
                return false;
            ++at_;
            return true;
        }
        return false;
    }
    /// A number with the word after it.
    bool number() {
        const auto value = numberOf(word());
        if (!value || *value > 1e6) // of nothing on a cable there is as much
            return false;
        const std::string unit = next();
        constexpr std::array<std::string_view, 3> feet{"FT", "FEET", "FOOT"};
        constexpr std::array<std::string_view, 6> metres{"M",      "MTR",    "METER",
                                                         "METERS", "METRES", "METRE"};
        constexpr std::array<std::string_view, 4> strands{"SOLID", "STRANDED", "STR", "SLD"};
        if (unit == "AWG") {
            if (!setAwg(*value))
                return false;
            if (oneOf(next(2), strands))
                out_.stranded = next(2).starts_with("STR");
        } else if (isPairs(unit) && *value >= 1 && *value <= 4200) {
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
        std::string w = word();
        std::size_t taken = 0;
        bool named = false;
        for (const std::string_view head : {"CATEGORY", "CAT"})
            if (!named && w.starts_with(head)) {
                w = w.substr(head.size());
                named = true;
            }
        if (!named)
            return false;
        w = w.substr(std::min(w.find_first_not_of("-."), w.size()));
        if (w.empty()) {
            w = next(++taken);
            // "6A" was parted into "6" and "A".
            const std::string letter = next(taken + 1);
            if (letter == "A" || letter == "E") {
                w += letter;
                ++taken;
            }
        }
        for (auto& c : w)
            c = c == 'E' ? 'e' : c;
        for (const auto& cable : catalogue_.cables)
            if (cable.category != Category::None && cable.kind == CableKind::Balanced &&
                categoryName(cable.category) == "Cat " + w) {
                out_.kind = "Cat " + w;
                at_ += taken;
                return true;
            }
        return false;
    }
    /// "RG58C/U", "RG-6/U", "RG6U", "RG 213", "SERIES 11".
    bool coax() {
        std::string w = word();
        std::size_t taken = 0;
        if (w == "SERIES" || w == "RG")
            w += "-" + next(++taken);
        else if (w.starts_with("RG") && !w.starts_with("RG-"))
            w = "RG-" + w.substr(2);
        if (!w.starts_with("RG-") && !w.starts_with("SERIES-"))
            return false;
        const std::string behind = w.substr(w.find('-') + 1);
        const std::size_t end = std::min(behind.find_first_not_of("0123456789"), behind.size());
        if (end == 0)
            return false;
        std::string letters = behind.substr(end);
        if (letters == "Q" || letters == "QS") {
            out_.screen = "quad";
            letters.clear();
        }
        constexpr std::array<std::string_view, 8> tails{"",    "/U",  "U", "A/U",
                                                        "B/U", "C/U", "A", "B"};
        if (!oneOf(letters, tails) && letters != "C")
            return false;
        out_.kind = "series " + behind.substr(0, end);
        at_ += taken;
        // "RG 6 U" and "6 /U" leave their U behind.
        if (next() == "U" || next() == "/U")
            ++at_;
        return true;
    }
    bool screen() {
        constexpr std::array<std::string_view, 9> screens{
            "U/UTP", "F/UTP", "S/FTP", "S/UTP", "SF/UTP", "U/FTP", "F/FTP", "UTP", "FTP"};
        const std::string& w = word();
        const auto shield = [&](std::string_view head) {
            return w == head || w == std::string(head) + "-SHIELD" ||
                   w == std::string(head) + "SHIELD" || w == std::string(head) + "-SHIELDED";
        };
        if (oneOf(w, screens))
            out_.screen = w == "UTP" ? "U/UTP" : w == "FTP" ? "F/UTP" : w;
        else if (shield("QUAD"))
            out_.screen = "quad";
        else if (shield("TRI"))
            out_.screen = "tri";
        else
            return false;
        if (next() == "SHIELD" || next() == "SHIELDED")
            ++at_;
        return true;
    }
    bool conductor() {
        const std::string& w = word();
        if (w == "CCA" || (w == "COPPER" && next() == "CLAD" && next(2).starts_with("ALUM"))) {
            out_.copperClad = true;
            at_ += w == "CCA" ? 0 : 2;
            return true;
        }
        if (w == "COPPER-CLAD" && next().starts_with("ALUM")) {
            out_.copperClad = true;
            ++at_;
            return true;
        }
        if (w == "STRANDED" || w == "SOLID") {
            out_.stranded = w == "STRANDED";
            return true;
        }
        return false;
    }
    /// Reaction to fire by EN 13501-6: "B2CA-S1A,D1,A1", "DCA S2 D2 A1", "ECA"; and low smoke.
    bool fire() {
        constexpr std::array<std::string_view, 5> smoke{"LSZH", "LS0H", "LSOH", "LSFROH", "FRNC"};
        if (oneOf(word(), smoke) || word() == "HFFR" || word() == "LSHF") {
            out_.lowSmoke = true;
            return true;
        }
        constexpr std::array<std::string_view, 7> classes{"ACA", "B1CA", "B2CA", "DCA",
                                                          "ECA", "FCA",  "CCA"};
        const std::string& w = word();
        const std::string main = w.substr(0, w.find('-'));
        // "CCA" by itself is copper-clad aluminium; with smoke and droplets behind it is a class.
        const bool cca = main == "CCA" && (w.size() > 3 || isSubclass(next()));
        if (!cca && (main == "CCA" || !oneOf(main, classes)))
            return false;
        const std::string said = main.substr(0, main.size() - 2) + "ca";
        std::string parts = w.size() > main.size() ? w.substr(main.size()) : std::string();
        while (isSubclass(next())) {
            parts += (parts.empty() ? "-" : ",") + next();
            ++at_;
        }
        for (auto& c : parts)
            c = isLetter(c) ? static_cast<char>(c - 'A' + 'a') : c;
        out_.fireClass = said + parts;
        return true;
    }
    static bool isSubclass(std::string_view w) {
        constexpr std::array<std::string_view, 11> known{"S1", "S1A", "S1B", "S2", "S3", "D0",
                                                         "D1", "D2",  "A1",  "A2", "A3"};
        const std::size_t dash = w.find('-');
        return oneOf(w.substr(0, dash), known);
    }
    bool rating() {
        std::string w = word();
        std::size_t taken = 0;
        if (w == "DIRECT" && next() == "BURIAL") {
            w = "BURIAL";
            taken = 1;
        }
        const auto jacket = ratingOf(w);
        if (!jacket)
            return false;
        at_ += taken;
        const Jacket now = higher(out_.jacket, *jacket);
        if (now != out_.jacket || out_.rating.empty())
            out_.rating = w;
        out_.jacket = now;
        return true;
    }
    /// Which cables of the catalogue it can be; those that are made up just so, where there are
    /// any.
    void fit() {
        const bool series = out_.kind.starts_with("series ");
        std::vector<std::string> justSo;
        for (const auto& cable : catalogue_.cables) {
            if (out_.kind.empty() || (series ? !fitsSeries(cable) : !fitsPairs(cable)) ||
                (out_.impedanceOhm && std::abs(cable.impedanceOhm.value - *out_.impedanceOhm) > 1))
                continue;
            out_.cableIds.push_back(cable.id);
            if (!out_.screen.empty() && cable.name.ends_with(" " + out_.screen))
                justSo.push_back(cable.id);
        }
        if (!justSo.empty())
            out_.cableIds = std::move(justSo);
    }
    [[nodiscard]] bool fitsSeries(const Cable& cable) const {
        const std::string number = out_.kind.substr(7);
        const std::string stem = "coax-s" + number;
        if (cable.id == "coax-rg" + number)
            return true;
        if (cable.id != stem && !cable.id.starts_with(stem + "-"))
            return false;
        const bool quad = cable.id.ends_with("-quad");
        const bool tri = cable.id.ends_with("-tri");
        return out_.screen == "quad" ? quad : out_.screen == "tri" ? tri : true;
    }
    [[nodiscard]] bool fitsPairs(const Cable& cable) const {
        if (cable.kind != CableKind::Balanced || cable.category == Category::None ||
            categoryName(cable.category) != out_.kind || cable.id.starts_with("trunk") ||
            cable.id.starts_with("leased"))
            return false;
        const bool cord = cable.stranded;
        if (cord != (out_.awg && *out_.awg >= 28))
            return false;
        if (out_.screen.empty())
            return true;
        const bool pairs = out_.screen.ends_with("/FTP");
        const Screen screen = out_.screen == "U/UTP" ? Screen::None
                              : pairs                ? Screen::Pairs
                                                     : Screen::Overall;
        return cable.screen == screen;
    }
    void warn() {
        if (out_.copperClad)
            out_.warnings.push_back(sentence(
                {"jacket.copper-clad",
                 "copper-clad aluminium: about {0} times the loop resistance of copper, so "
                 "warmer and shorter with power over its pairs; it breaks in punch-downs and "
                 "screws, and is no category cable whatever is printed"},
                asNumber(1.55, 2)));
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
        !out.markM && out.fireClass.empty() && !out.lowSmoke && !out.copperClad)
        return refuse("jacket print",
                      {"jacket.nothing-tells-cable", "nothing in it tells what cable it is"},
                      {"cure.type-stands-jacket",
                       "Type what stands on the jacket: 23 AWG 4PR U/UTP CAT 6 CMR 0412 FT"});
    return out;
}

} // namespace burin
