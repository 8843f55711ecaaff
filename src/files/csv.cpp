#include "core/base/text.h"
#include "files/measured_file.h"
#include "files/text_cursor.h"
#include "files/text_encoding.h"
#include <algorithm>
#include <cctype>
#include <cmath>

namespace burin {
namespace {

struct Cell {
    std::string text;
    int column = 1;
};

/// The separator of a line outside quotes: semicolon before tab before comma.
char separatorOf(std::string_view line) {
    bool quoted = false;
    bool tab = false;
    bool comma = false;
    for (const char c : line) {
        if (c == '"')
            quoted = !quoted;
        if (quoted)
            continue;
        if (c == ';')
            return ';';
        tab = tab || c == '\t';
        comma = comma || c == ',';
    }
    return tab ? '\t' : comma ? ',' : '\0';
}

std::vector<Cell> cellsOf(std::string_view line, char separator) {
    std::vector<Cell> out(1);
    bool quoted = false;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const char c = line[i];
        if (c == '"' && quoted && i + 1 < line.size() && line[i + 1] == '"') {
            out.back().text += '"';
            ++i;
        } else if (c == '"') {
            quoted = !quoted;
        } else if (c == separator && !quoted) {
            out.push_back({"", static_cast<int>(i) + 2});
        } else {
            out.back().text += c;
        }
    }
    for (auto& cell : out) {
        const auto first = cell.text.find_first_not_of(" \t");
        const auto last = cell.text.find_last_not_of(" \t");
        cell.text = first == std::string::npos ? "" : cell.text.substr(first, last - first + 1);
    }
    return out;
}

std::string lower(std::string text) {
    for (char& c : text)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

double mhzPer(const std::string& unit) {
    const std::string key = lower(unit);
    return key == "hz" ? 1e-6 : key == "khz" ? 1e-3 : key == "mhz" ? 1 : key == "ghz" ? 1e3 : 0;
}

/// What stands in the last ( ) or [ ] of a header, or its last word when that is a frequency unit.
std::string unitOf(const std::string& header) {
    const auto open = header.find_last_of("([");
    const auto close = header.find_last_of(")]");
    if (open != std::string::npos && close != std::string::npos && close > open)
        return header.substr(open + 1, close - open - 1);
    const auto blank = header.find_last_of(" _");
    const std::string last = blank == std::string::npos ? header : header.substr(blank + 1);
    return mhzPer(last) > 0 || lower(last) == "db" || lower(last) == "ns" || lower(last) == "us"
               ? last
               : "";
}

class Reader {
public:
    Reader(std::string name, std::string_view unit) : name_(std::move(name)), unit_(unit) {}

    Outcome<MeasuredFile> read(std::string_view text) {
        if (text.starts_with("\xef\xbb\xbf"))
            text.remove_prefix(3);
        if (text.find('\0') != std::string_view::npos)
            return fault(1, 1, {"measured.no-plain-text", "this is no plain text"},
                         {"cure.export-csv", "Export it as CSV"});
        LineCursor lines(text);
        std::string_view line;
        while (lines.next(line)) {
            if (line.size() > longestLine)
                return fault(
                    lines.lineNumber(), 1,
                    {"measured.line-over-mib", "this line is over 1 MiB long"},
                    {"cure.export-test-again", "Export the test again, a row a frequency"});
            if (table_.frequencyMhz.size() >= mostPoints)
                return fault(lines.lineNumber(), 1,
                             sentence({"measured.over-rows", "there are over {0} rows"},
                                      asCount(mostPoints)),
                             {"cure.export-fewer-points", "Export fewer points"});
            const auto first = line.find_first_not_of(" \t");
            if (first == std::string_view::npos || line[first] == '#' || line[first] == '!')
                continue;
            const auto good = headerSeen_ ? takeRow(line, lines.lineNumber())
                                          : takeHeader(line, lines.lineNumber());
            if (!good)
                return refuse(good.error());
        }
        if (!headerSeen_)
            return fault(1, 1, {"measured.no-row-headers", "there is no row of headers"},
                         {"cure.first-row-names",
                          "The first row names the columns: Frequency (MHz), IL 1-2 (dB)…"});
        if (table_.frequencyMhz.empty())
            return fault(lines.lineNumber(), 1, {"measured.no-data-rows", "there are no data rows"},
                         {"cure.export-the-test-again", "Export the test again"});
        MeasuredFile out;
        out.kind = "csv";
        out.table = std::move(table_);
        return out;
    }

private:
    [[nodiscard]] tl::unexpected<Fault> fault(int line, int column, Sentence what,
                                              Sentence cure) const {
        return refuse(Fault{named(name_), line, column, std::move(what), std::move(cure)});
    }

    Outcome<bool> takeHeader(std::string_view line, int number) {
        separator_ = separatorOf(line);
        if (separator_ == '\0')
            return fault(
                number, 1,
                {"measured.row-not-separated", "this row is not separated by ; tab or comma"},
                {"cure.export-csv-row", "Export it as CSV with a row of headers"});
        const auto cells = cellsOf(line, separator_);
        if (cells.size() > mostColumns)
            return fault(number, 1,
                         sentence({"measured.columns-more", "there are {0} columns, more than {1}"},
                                  asCount(cells.size()), asCount(mostColumns)),
                         {"cure.export-traces-run", "Export the traces of one run"});
        double value = 0;
        if (wordToDouble(cells[0].text, value))
            return fault(
                number, 1, {"measured.data-begins-without", "data begins without a row of headers"},
                {"cure.put-first-row", "Put a first row that names the columns and their units"});
        std::string unit = unitOf(cells[0].text);
        if (mhzPer(unit) == 0)
            unit = unit_;
        toMhz_ = mhzPer(unit);
        if (toMhz_ == 0)
            return refuse(Fault{named(name_),
                                number,
                                1,
                                sentence(unitUnknown, cells[0].text),
                                {"cure.say-hz-khz", "Say Hz, kHz, MHz or GHz"}});
        for (std::size_t i = 1; i < cells.size(); ++i) {
            if (cells[i].text.empty() && i + 1 == cells.size())
                break; // a trailing separator
            table_.columns.push_back({cells[i].text, unitOf(cells[i].text), {}});
        }
        if (table_.columns.empty())
            return fault(number, 1,
                         {"measured.no-column-beside", "there is no column beside the frequency"},
                         {"cure.column-trace-expected", "One column a trace is expected"});
        headerSeen_ = true;
        return true;
    }

    Outcome<bool> number(const Cell& cell, int line, double& value) const {
        std::string text = cell.text;
        if (separator_ != ',')
            std::replace(text.begin(), text.end(), ',', '.');
        if (!wordToDouble(text, value))
            return fault(line, cell.column,
                         cell.text.empty() ? sentence({"measured.cell-empty", "a cell is empty"})
                                           : sentence({"typed.no-number", "“{0}” is no number"},
                                                      beginningOf(cell.text, 40)),
                         separator_ == ','
                             ? sentence({"cure.decimal-comma-separate",
                                         "With a decimal comma, separate columns by ; or tab"})
                             : sentence({"cure.put-number", "Put a number here"}));
        return true;
    }

    Outcome<bool> takeRow(std::string_view line, int number_) {
        auto cells = cellsOf(line, separator_);
        while (cells.size() > table_.columns.size() + 1 && cells.back().text.empty())
            cells.pop_back();
        if (cells.size() != table_.columns.size() + 1)
            return fault(
                number_, cells.back().column,
                sentence({"measured.row-cells-headers", "this row has {0} cells, the headers {1}"},
                         asCount(cells.size()), asCount(table_.columns.size() + 1)),
                separator_ == ','
                    ? sentence(
                          {"cure.decimals-written-comma",
                           "Are decimals written with a comma? Then separate columns by ; or tab"})
                    : sentence({"cure.give-every-row", "Give every row a cell for each column"}));
        double value = 0;
        if (auto good = number(cells[0], number_, value); !good)
            return good;
        const double f = value * toMhz_;
        if (f < 0 || (!table_.frequencyMhz.empty() && f <= table_.frequencyMhz.back()))
            return fault(
                number_, 1,
                sentence({"measured.frequency-does-not", "frequency {0} does not rise"},
                         cells[0].text),
                {"cure.sort-rows-frequency-each", "Sort the rows by frequency, each once"});
        table_.frequencyMhz.push_back(f);
        for (std::size_t i = 1; i < cells.size(); ++i) {
            if (auto good = number(cells[i], number_, value); !good)
                return good;
            table_.columns[i - 1].values.push_back(value);
        }
        return true;
    }

    std::string name_, unit_;
    bool headerSeen_ = false;
    char separator_ = ',';
    double toMhz_ = 0;
    MeasuredTable table_;
};

} // namespace

Outcome<MeasuredFile> readCsv(std::string_view text, const std::string& name,
                              std::string_view frequencyUnit) {
    return Reader(name, frequencyUnit).read(text);
}

Outcome<MeasuredFile> readMeasuredFile(std::string_view bytes, const std::string& name,
                                       std::string_view frequencyUnit) {
    if (bytes.size() > longestMeasuredFile)
        return refuse(
            name,
            sentence({"measured.file-larger-mib", "the file is larger than {0} MiB"},
                     asCount(longestMeasuredFile >> 20U)),
            {"cure.sweep-run-far", "A sweep of one run is far smaller; choose another file"});
    const auto text = decodeText(bytes, name);
    if (!text)
        return refuse(text.error());
    const std::string ending = lower(name);
    const auto dot = ending.rfind('.');
    const bool touchstone = dot != std::string::npos && ending.size() >= dot + 4 &&
                            ending[dot + 1] == 's' && ending.back() == 'p' &&
                            std::isdigit(static_cast<unsigned char>(ending[dot + 2])) != 0;
    if (!touchstone && ending.ends_with(".ts"))
        return refuse(name, {"measured.touchstone", "this is Touchstone 2"},
                      {"cure.export-touchstone-p", "Export it as Touchstone 1.1 (.s1p to .s4p)"});
    auto out = touchstone ? readTouchstone(text->view(), name)
                          : readCsv(text->view(), name, frequencyUnit);
    if (out && !text->note.empty())
        out->notes.push_back(text->note);
    return out;
}

} // namespace burin
