#include "core/base/ids.h"
#include <cstdint>
#include <random>

namespace burin {

std::string newId() {
    static thread_local std::mt19937_64 engine = [] {
        std::random_device device;
        std::seed_seq seed{device(), device(), device(), device(), device(), device()};
        return std::mt19937_64(seed);
    }();
    constexpr char digits[] = "0123456789abcdef";
    std::string out(16, '0');
    auto bits = engine();
    for (auto& c : out) {
        c = digits[bits & 15U];
        bits >>= 4U;
    }
    return out;
}

std::string textId(std::string_view text) {
    std::string out;
    for (std::uint64_t hash : {0xcbf29ce484222325ULL, 0x9ae16a3b2f90404fULL}) {
        for (const char c : text)
            hash = (hash ^ static_cast<unsigned char>(c)) * 0x100000001b3ULL;
        for (int shift = 60; shift >= 0; shift -= 4)
            out += "0123456789abcdef"[hash >> shift & 15U];
    }
    return out;
}

} // namespace burin
