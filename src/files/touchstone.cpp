#include "core/base/text.h"
#include "files/measured_file.h"
#include "files/short_number.h"
#include "files/text_cursor.h"
#include <array>
#include <cctype>
#include <cmath>
#include <cstdio>
#include <numbers>
#include <vector>

namespace burin {
namespace {

enum class Format { MagnitudeAngle, DecibelAngle, RealImaginary };

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

/// `.s4p` → 4; 0 when the name ends otherwise.
int portsOfName(const std::string& name) {
    const std::string ending = lower(name);
    if (!ending.ends_with('p'))
        return 0;
    const auto dot = ending.rfind(".s");
    if (dot == std::string::npos || dot + 3 >= ending.size())
        return 0;
    int ports = 0;
    for (std::size_t i = dot + 2; i + 1 < ending.size(); ++i) {
        if (std::isdigit(static_cast<unsigned char>(ending[i])) == 0 || ports > 99)
            return 0;
        ports = ports * 10 + (ending[i] - '0');
    }
    return ports <= 99 ? ports : 0;
}

class Reader {
public:
    Reader(std::string name, int ports) : name_(std::move(name)), ports_(ports) {
        perRecord_ = 1 + 2 * static_cast<std::size_t>(ports) * static_cast<std::size_t>(ports);
        record_.reserve(perRecord_);
    }

    Outcome<MeasuredFile> read(std::string_view text) {
        if (text.starts_with("\xef\xbb\xbf"))
            text.remove_prefix(3);
        // A number takes ten characters or more: room once, and never much too much of it.
        sweep_.s.reserve(text.size() / 20);
        LineCursor lines(text);
        std::string_view line;
        for (;;) {
            takePlainRows(text, lines);
            if (done_ || !lines.next(line))
                break;
            if (line.size() > longestLine)
                return fault(
                    {{}, lines.lineNumber(), 1},
                    {"measured.line-over-mib", "this line is over 1 MiB long"},
                    {"cure.export-sweep-again", "Export the sweep again, a row a frequency"});
            if (sweep_.frequencyMhz.size() > mostPoints)
                return fault({{}, lines.lineNumber(), 1},
                             sentence({"measured.over-points", "there are over {0} points"},
                                      asCount(mostPoints)),
                             {"cure.export-fewer-points", "Export fewer points"});
            line = line.substr(0, line.find('!'));
            if (auto good = takeLine(line, lines.lineNumber()); !good) {
                if (text.find('\0') != std::string_view::npos)
                    return fault(
                        {{}, 1, 1}, {"measured.no-plain-text", "this is no plain text"},
                        {"cure.export-touchstone-text", "Export it as Touchstone 1.1 text"});
                return refuse(good.error());
            }
        }
        return finish(lines.lineNumber());
    }

private:
    [[nodiscard]] tl::unexpected<Fault> fault(const Word& at, Sentence what, Sentence cure) const {
        return refuse(Fault{named(name_), at.line, at.column, std::move(what), std::move(cure)});
    }

    /// Rows of plain numbers, the way nearly all of a sweep is read; the cursor moves to the begin
    /// of the last line a row began at. What stopped it is read, or refused, by words.
    void takePlainRows(std::string_view text, LineCursor& lines) {
        if (!record_.empty() || !optionSeen_ || text.size() < shortNumberRoom)
            return;
        const char* const begin = text.data() + lines.position();
        const char* const last = text.data() + text.size() - shortNumberRoom;
        const char* p = begin;
        const char* rowsEnd = begin;
        int passed = 0;
        int rowsLines = 0;
        std::size_t rows = sweep_.frequencyMhz.size();
        double lastMhz = rows == 0 ? -1 : sweep_.frequencyMhz.back();
        record_.resize(perRecord_);
        std::size_t have = 0;
        while (p <= last) {
            if (*p == ' ' || *p == '\t') {
                ++p;
            } else if (*p == '\n' || (*p == '\r' && p[1] == '\n')) {
                p += *p == '\r' ? 2 : 1;
                ++passed;
                if (have == 0) {
                    rowsEnd = p;
                    rowsLines = passed;
                    rows = sweep_.frequencyMhz.size();
                }
            } else if (const char* end = scanShortNumber(p, record_[have]); end == nullptr) {
                break;
            } else if (p = end; ++have == perRecord_) {
                // A frequency that falls or stands still wants a note or a refusal.
                if (!(record_[0] * toMhz_ > lastMhz))
                    break;
                lastMhz = record_[0] * toMhz_;
                keepRecord();
                have = 0;
            }
        }
        record_.clear();
        sweep_.frequencyMhz.resize(rows);
        sweep_.s.resize(rows * (perRecord_ / 2));
        lines.skip(static_cast<std::size_t>(rowsEnd - begin), rowsLines);
    }

    Outcome<bool> takeLine(std::string_view line, int number) {
        std::size_t at = 0;
        Word word = nextWord(line, number, at);
        if (word.text.empty())
            return true;
        if (word.text.front() == '[')
            return fault(
                word,
                sentence({"measured.belongs-touchstone", "“{0}” belongs to Touchstone 2"},
                         asText(std::string(word.text))),
                {"cure.export-touchstone-p", "Export it as Touchstone 1.1 (.s1p to .s4p)"});
        if (word.text.front() == '#') {
            if (optionSeen_)
                return true; // the standard: only the first option line counts
            at = static_cast<std::size_t>(word.column);
            return takeOptions(line, number, at);
        }
        while (!word.text.empty()) {
            if (auto good = takeNumber(word); !good)
                return good;
            if (done_)
                return true;
            word = nextWord(line, number, at);
        }
        return true;
    }

    Outcome<bool> takeOptions(std::string_view line, int number, std::size_t at) {
        optionSeen_ = true;
        for (Word word = nextWord(line, number, at); !word.text.empty();
             word = nextWord(line, number, at)) {
            const std::string key = lower(word.text);
            if (key == "hz")
                toMhz_ = 1e-6;
            else if (key == "khz")
                toMhz_ = 1e-3;
            else if (key == "mhz")
                toMhz_ = 1;
            else if (key == "ghz")
                toMhz_ = 1e3;
            else if (key == "ma")
                format_ = Format::MagnitudeAngle;
            else if (key == "db")
                format_ = Format::DecibelAngle;
            else if (key == "ri")
                format_ = Format::RealImaginary;
            else if (key == "y" || key == "z" || key == "g" || key == "h")
                return fault(word,
                             sentence({"measured.parameters-not-parameters",
                                       "these are {0}-parameters, not S-parameters"},
                                      key),
                             {"cure.export-parameters", "Export S-parameters"});
            else if (key == "r") {
                const Word ohm = nextWord(line, number, at);
                if (!readReference(ohm.text) || reference_ <= 0)
                    return fault(
                        ohm.text.empty() ? word : ohm,
                        {"measured.r-wants-reference", "R wants a reference impedance above 0 Ω"},
                        {"cure.write-example-r", "Write for example R 50"});
            } else if (key != "s")
                return fault(
                    word,
                    sentence({"measured.no-word-option", "“{0}” is no word of an option line"},
                             asText(std::string(word.text))),
                    {"cure.expected-unit-hz",
                     "Expected a unit (Hz to GHz), S, MA, DB or RI, and R with ohms"});
        }
        return true;
    }

    /// "50" or complex, "(50+5j)".
    bool readReference(std::string_view text) {
        if (text.starts_with('(') && text.ends_with(')'))
            text = text.substr(1, text.size() - 2);
        if (!text.ends_with('j'))
            return wordToDouble(text, reference_);
        text.remove_suffix(1);
        const auto sign = text.find_last_of("+-");
        return sign != std::string_view::npos && sign > 0 &&
               wordToDouble(text.substr(0, sign), reference_) &&
               wordToDouble(text.substr(sign), reactance_);
    }

    Outcome<bool> takeNumber(const Word& word) {
        double value = 0;
        if (!wordToDouble(word.text, value))
            return fault(
                word,
                sentence({"typed.no-number", "“{0}” is no number"},
                         asText(beginningOf(word.text, 40))),
                {"cure.data-row-holds", "A data row holds a frequency and then pairs of numbers"});
        if (record_.empty()) {
            const double f = value * toMhz_;
            const bool first = sweep_.frequencyMhz.empty();
            if (!first && f == sweep_.frequencyMhz.back())
                notes_.push_back(
                    sentence({"file.repeats",
                              "line {0} repeats the frequency before it; both rows are kept"},
                             asCount(word.line)));
            if (!first && f < sweep_.frequencyMhz.back()) {
                if (ports_ == 2) {
                    notes_.push_back(
                        sentence({"file.noise", "noise parameters from line {0} on were skipped"},
                                 asCount(word.line)));
                    done_ = true;
                    return true;
                }
                return fault(
                    word,
                    sentence({"measured.frequency-does-not", "frequency {0} does not rise"},
                             asText(std::string(word.text))),
                    {"cure.sort-rows-frequency", "Sort the rows by frequency"});
            }
            if (f < 0)
                return fault(word, {"measured.frequency-below", "a frequency is below 0"},
                             {"cure.check-row", "Check the row"});
            recordAt_ = word;
        }
        record_.push_back(value);
        if (record_.size() == perRecord_) {
            keepRecord();
            record_.clear();
        }
        return true;
    }

    void keepRecord() {
        sweep_.frequencyMhz.push_back(record_[0] * toMhz_);
        const std::size_t have = sweep_.s.size();
        sweep_.s.resize(have + (perRecord_ - 1) / 2);
        putRecord(&record_[1], &sweep_.s[have]);
    }

    void putRecord(const double* numbers, std::complex<double>* out) const {
        const std::size_t values = (perRecord_ - 1) / 2;
        if (format_ == Format::RealImaginary && ports_ != 2) {
            for (std::size_t i = 0; i < values; ++i)
                out[i] = {numbers[2 * i], numbers[2 * i + 1]};
            return;
        }
        for (std::size_t i = 0; i < values; ++i) {
            // Two ports alone are written by columns: 11 21 12 22.
            const std::size_t from = ports_ == 2 && (i == 1 || i == 2) ? 3 - i : i;
            out[i] = complexOf(numbers[2 * from], numbers[2 * from + 1]);
        }
    }

    [[nodiscard]] std::complex<double> complexOf(double a, double b) const {
        if (format_ == Format::RealImaginary)
            return {a, b};
        const double magnitude = format_ == Format::DecibelAngle ? std::pow(10, a / 20) : a;
        const double angle = b * std::numbers::pi / 180;
        return {magnitude * std::cos(angle), magnitude * std::sin(angle)};
    }

    Outcome<MeasuredFile> finish(int lastLine) {
        if (!record_.empty())
            return fault(
                recordAt_,
                sentence({"measured.row-begins-numbers",
                          "the row that begins here has {0} of {1} numbers"},
                         asCount(record_.size()), asCount(perRecord_)),
                sentence({"cure.file-cut-short",
                          "The file is cut short, or is not of {0} ports; export it again"},
                         asCount(ports_)));
        if (sweep_.frequencyMhz.empty())
            return fault({{}, std::max(lastLine, 1), 1},
                         {"measured.no-data-rows", "there are no data rows"},
                         {"cure.export-the-sweep-again", "Export the sweep again"});
        if (!optionSeen_)
            notes_.push_back(
                sentence({"file.no-option-line",
                          "no option line: taken as GHz, S, MA, R 50, as the standard says"}));
        sweep_.ports = ports_;
        sweep_.referenceOhm.assign(static_cast<std::size_t>(ports_), reference_);
        sweep_.referenceReactanceOhm = reactance_;
        MeasuredFile out;
        out.kind = "touchstone";
        out.sweep = std::move(sweep_);
        out.notes = std::move(notes_);
        return out;
    }

    std::string name_;
    int ports_;
    std::size_t perRecord_;
    double toMhz_ = 1e3;
    Format format_ = Format::MagnitudeAngle;
    double reference_ = 50, reactance_ = 0;
    bool optionSeen_ = false, done_ = false;
    std::vector<double> record_;
    Word recordAt_;
    NetworkSweep sweep_;
    std::vector<Sentence> notes_;
};

} // namespace

Outcome<MeasuredFile> readTouchstone(std::string_view text, const std::string& name, int ports) {
    if (ports == 0)
        ports = portsOfName(name);
    if (ports < 1)
        return refuse(name,
                      {"measured.name-does-not", "its name does not say how many ports it has"},
                      {"cure.name-p-p", "Name it .s1p, .s2p, .s3p or .s4p"});
    return Reader(name, ports).read(text);
}

std::string writeTouchstone(const NetworkSweep& sweep, std::string_view comment) {
    std::string out;
    LineCursor lines(comment);
    for (std::string_view line; lines.next(line);)
        out += "! " + std::string(line) + "\n";
    std::array<char, 64> buffer{};
    const auto number = [&](const char* format, double value) {
        std::snprintf(buffer.data(), buffer.size(), format, value);
        out += buffer.data();
    };
    number("# MHZ S RI R %.9g\n", sweep.referenceOhm.empty() ? 50 : sweep.referenceOhm.front());
    const int n = sweep.ports;
    for (std::size_t k = 0; k < sweep.frequencyMhz.size(); ++k) {
        number("%.9g", sweep.frequencyMhz[k]);
        for (int row = 0; row < n; ++row)
            for (int column = 0; column < n; ++column) {
                const auto s = n == 2 ? sweep.at(k, column, row) : sweep.at(k, row, column);
                number(" %.9g", s.real());
                number(" %.9g", s.imag());
                if (n > 2 && column == n - 1 && row < n - 1)
                    out += "\n ";
            }
        out += "\n";
    }
    return out;
}

} // namespace burin
