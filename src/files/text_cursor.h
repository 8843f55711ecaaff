#pragma once
#include "core/base/fault.h"
#include <string>
#include <string_view>

namespace burin {

/// A word of a text file with its place, both from 1.
struct Word {
    std::string_view text;
    int line = 0, column = 0;
};

/// Walks over lines of a text whatever their ends (LF, CRLF, CR).
class LineCursor {
public:
    explicit LineCursor(std::string_view text) : text_(text) {}
    /// The next line without its end; false at the end of the text.
    bool next(std::string_view& line);
    [[nodiscard]] int lineNumber() const { return line_; }
    /// Bytes behind the cursor.
    [[nodiscard]] std::size_t position() const { return at_; }
    /// Moves on over `lines` whole lines, `bytes` in all, that were read by other means.
    void skip(std::size_t bytes, int lines) {
        at_ += bytes;
        line_ += lines;
    }

private:
    std::string_view text_;
    std::size_t at_ = 0;
    std::size_t newline_ = 0; ///< the next \n at or behind the cursor, looked for once
    int line_ = 0;
};

/// The next blank-separated word of `line` from `at` on, `at` moved behind it; empty at the end.
Word nextWord(std::string_view line, int lineNumber, std::size_t& at);

/// A finite number with a decimal point, the whole word; false otherwise.
bool wordToDouble(std::string_view word, double& value);

/// What Burin takes in of files from others. Each is far over what a field tester or analyser
/// writes, and small enough to be read in seconds.
inline constexpr std::size_t longestMeasuredFile = 64U << 20U, longestLine = 1U << 20U,
                             mostColumns = 1000, mostPoints = 1000000;
/// A job's export, with its measured files and pictures.
inline constexpr std::size_t longestExport = 512U << 20U;

/// Whole file as bytes; refused when it cannot be read, is over `mostBytes`, or is a folder, pipe
/// or device: those need never end.
Outcome<std::string> readWholeFile(const std::string& path,
                                   std::size_t mostBytes = longestMeasuredFile);

} // namespace burin
