#pragma once
#include <array>
#include <optional>
#include <string_view>

namespace burin {

namespace detail {
/// Whether an enumeration has a name for that value: where it has none, the compiler's own name of
/// this function holds the number instead.
template <auto value> constexpr bool isNamed() {
    const std::string_view text = __PRETTY_FUNCTION__;
    const auto at = text.find("value = ");
    return at != std::string_view::npos && text.at(at + 8) != '(';
}
} // namespace detail

/// The words an enumeration goes by in files and commands, in the order of its values: as many as
/// it has, or it does not compile.
template <typename E, std::size_t N> struct Words {
    static_assert(detail::isNamed<static_cast<E>(N - 1)>(), "more words than values");
    static_assert(!detail::isNamed<static_cast<E>(N)>(), "a value has no word");
    std::array<std::string_view, N> words;

    [[nodiscard]] constexpr std::string_view operator[](E value) const {
        return words.at(static_cast<std::size_t>(value));
    }
    [[nodiscard]] constexpr std::optional<E> find(std::string_view word) const {
        for (std::size_t i = 0; i < N; ++i)
            if (words[i] == word)
                return static_cast<E>(i);
        return std::nullopt;
    }
};
template <typename E, typename... Word> constexpr auto wordsOf(Word... words) {
    return Words<E, sizeof...(Word)>{{words...}};
}

} // namespace burin
