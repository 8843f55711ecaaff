#pragma once
#include "core/fault.h"
#include <bit>
#include <cstdint>
#include <cstring>
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

private:
    std::string_view text_;
    std::size_t at_ = 0;
    int line_ = 0;
};

/// The next blank-separated word of `line` from `at` on, `at` moved behind it; empty at the end.
Word nextWord(std::string_view line, int lineNumber, std::size_t& at);

/// A finite number with a decimal point, the whole word; false otherwise.
bool wordToDouble(std::string_view word, double& value);

/// Digits from `p` on are added to `value`; their count is returned. Eight at a time without a
/// branch for each: a mispredicted one costs more than the arithmetic of the whole number.
inline int takeDigits(const char*& p, const char* end, std::uint64_t& value) {
    static constexpr std::uint64_t tens[] = {1,      10,      100,      1000,     10000,
                                             100000, 1000000, 10000000, 100000000};
    int count = 0;
    if constexpr (std::endian::native == std::endian::little) {
        while (end - p >= 8) {
            std::uint64_t word = 0;
            std::memcpy(&word, p, 8);
            word ^= 0x3030303030303030U;
            const std::uint64_t other = ((word + 0x7676767676767676U) | word) & 0x8080808080808080U;
            const int here = other == 0 ? 8 : std::countr_zero(other) / 8;
            if (here == 0)
                return count;
            // The digits to the high bytes, noughts before them; then pairs, fours, eight.
            word <<= 8 * (8 - here);
            word = word * 10 + (word >> 8U);
            word = ((word & 0x000000FF000000FFU) * 0x000F424000000064U +
                    ((word >> 16U) & 0x000000FF000000FFU) * 0x0000271000000001U) >>
                   32U;
            value = value * tens[here] + word;
            count += here;
            p += here;
            if (here < 8 || count > 16)
                return count;
        }
    }
    unsigned digit = 0;
    while (p != end && (digit = static_cast<unsigned>(*p - '0')) <= 9) {
        value = value * 10 + digit;
        ++count;
        ++p;
    }
    return count;
}

/// The number at `at` and what stands before it of blanks, when it is one of up to 15 digits that
/// is exact in a double by one multiplication or division; `at` moves behind it. False, with `at`
/// where it was, for everything else: longer numbers, words, the end of the line. A sweep is nearly
/// all such numbers, and reading them this way is twice as fast as by words (docs/speed.md).
inline bool scanShortNumber(std::string_view line, std::size_t& at, double& value) {
    // Integers to 2^53 and powers of ten to 10^22 are exact in a double, so one operation on them
    // is rounded once, as the standard asks (Clinger 1990).
    static constexpr double powers[] = {1e0,  1e1,  1e2,  1e3,  1e4,  1e5,  1e6,  1e7,
                                        1e8,  1e9,  1e10, 1e11, 1e12, 1e13, 1e14, 1e15,
                                        1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22};
    const char* p = line.data() + at;
    const char* const end = line.data() + line.size();
    while (p != end && (*p == ' ' || *p == '\t'))
        ++p;
    if (p == end)
        return false;
    const bool negative = *p == '-';
    if (*p == '-' || *p == '+')
        ++p;
    std::uint64_t mantissa = 0;
    int digits = 0;
    int fraction = 0;
    const auto take = [&] { return takeDigits(p, end, mantissa); };
    digits = take();
    if (p != end && *p == '.') {
        ++p;
        fraction = take();
        digits += fraction;
    }
    if (digits == 0 || digits > 15)
        return false;
    int exponent = -fraction;
    if (p != end && (*p == 'e' || *p == 'E')) {
        ++p;
        const bool down = p != end && *p == '-';
        if (p != end && (*p == '-' || *p == '+'))
            ++p;
        int written = 0;
        int count = 0;
        for (; p != end && *p >= '0' && *p <= '9' && count < 4; ++p, ++count)
            written = written * 10 + (*p - '0');
        if (count == 0)
            return false;
        exponent += down ? -written : written;
    }
    if (exponent < -22 || exponent > 22 || (p != end && *p != ' ' && *p != '\t'))
        return false;
    const double whole = static_cast<double>(mantissa);
    const double size = exponent < 0 ? whole / powers[-exponent] : whole * powers[exponent];
    value = negative ? -size : size;
    at = static_cast<std::size_t>(p - line.data());
    return true;
}

/// Whole file as bytes; refused when it cannot be read or is over `mostBytes`.
Outcome<std::string> readWholeFile(const std::string& path, std::size_t mostBytes = 512U << 20U);

} // namespace burin
