#pragma once
#include <string>
#include <tl/expected.hpp>

namespace burin {

/// Something from outside (file, typed text, catalogue) that could not be taken as it is.
/// `line` and `column` count from 1; 0 means the place has none.
struct Fault {
    std::string where; ///< file, field or job the text came from
    int line = 0;
    int column = 0;
    std::string what; ///< what is wrong, with the text at fault
    std::string cure; ///< what to do about it
    /// What kind of fault it is, for whoever acts on it: code never reads the words above. Empty
    /// where nobody does.
    std::string code{};

    /// One line for people: `where:line:column: what. cure`
    [[nodiscard]] std::string text() const;
    bool operator==(const Fault&) const = default;
};

template <typename T> using Outcome = tl::expected<T, Fault>;

/// Makes a failed Outcome.
[[nodiscard]] tl::unexpected<Fault> refuse(Fault fault);
[[nodiscard]] tl::unexpected<Fault> refuse(std::string where, std::string what, std::string cure);

} // namespace burin
