#pragma once
#include <bit>
#include <cstdint>
#include <cstring>

namespace burin {

/// Bytes that must be readable from where `scanShortNumber` starts.
inline constexpr int shortNumberRoom = 48;

/// Digits from `p` on, eight at the most, are added to `value`; their count is returned. One step
/// for all of them: how many there are differs from number to number, and a mispredicted branch
/// costs more than the arithmetic of the whole number.
inline int takeDigits(const char*& p, std::uint64_t& value) {
    static constexpr std::uint64_t tens[] = {1,      10,      100,      1000,     10000,
                                             100000, 1000000, 10000000, 100000000};
    if constexpr (std::endian::native == std::endian::little) {
        std::uint64_t word = 0;
        std::memcpy(&word, p, 8);
        word ^= 0x3030303030303030U;
        const std::uint64_t other = ((word + 0x7676767676767676U) | word) & 0x8080808080808080U;
        const int count = std::countr_zero(other) / 8;
        // The digits to the high bytes, noughts before them; then pairs, fours, eight.
        const int half = 4 * (8 - count);
        word = (word << half) << half;
        word = word * 10 + (word >> 8U);
        word = ((word & 0x000000FF000000FFU) * 0x000F424000000064U +
                ((word >> 16U) & 0x000000FF000000FFU) * 0x0000271000000001U) >>
               32U;
        value = value * tens[count] + word;
        p += count;
        return count;
    }
    int count = 0;
    for (; count < 8 && *p >= '0' && *p <= '9'; ++count, ++p)
        value = value * 10 + static_cast<unsigned>(*p - '0');
    return count;
}

/// The number that begins at `at` (sign, digits, point, exponent, then a blank or a line's end),
/// when it is one of up to 15 digits that is exact in a double by one multiplication or division:
/// the place behind it. Null for everything else. `shortNumberRoom` bytes must be readable. A sweep
/// is nearly all such numbers, and a call for each costs as much as reading it (docs/speed.md).
[[gnu::always_inline]] inline const char* scanShortNumber(const char* at, double& value) {
    // Integers to 2^53 and powers of ten to 10^22 are exact in a double, so one operation on them
    // is rounded once, as the standard asks (Clinger 1990).
    static constexpr double powers[] = {1e0,  1e1,  1e2,  1e3,  1e4,  1e5,  1e6,  1e7,
                                        1e8,  1e9,  1e10, 1e11, 1e12, 1e13, 1e14, 1e15,
                                        1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22};
    const auto digit = [](char c) { return static_cast<unsigned>(c - '0') <= 9; };
    const bool negative = *at == '-';
    at += negative || *at == '+' ? 1 : 0;
    const char* const first = at;
    std::uint64_t mantissa = 0;
    // Before the point one digit is usual, and usual is what a processor foresees.
    for (; digit(*at); ++at) {
        if (at - first > 14)
            return nullptr;
        mantissa = mantissa * 10 + static_cast<unsigned>(*at - '0');
    }
    int digits = static_cast<int>(at - first);
    int exponent = 0;
    if (*at == '.') {
        ++at;
        int fraction = takeDigits(at, mantissa);
        if (fraction == 8)
            fraction += takeDigits(at, mantissa);
        digits += fraction;
        exponent = -fraction;
    }
    if (digits == 0 || digits > 15)
        return nullptr;
    if ((*at | 0x20) == 'e') {
        ++at;
        const bool down = *at == '-';
        at += down || *at == '+' ? 1 : 0;
        if (!digit(*at))
            return nullptr;
        int written = *at++ - '0';
        if (digit(*at))
            written = written * 10 + (*at++ - '0');
        exponent += down ? -written : written;
    }
    if (exponent < -22 || exponent > 22 || !(*at == ' ' || (*at >= '\t' && *at <= '\r')))
        return nullptr;
    const double whole = static_cast<double>(mantissa);
    const double size = exponent < 0 ? whole / powers[-exponent] : whole * powers[exponent];
    value = negative ? -size : size;
    return at;
}

} // namespace burin
