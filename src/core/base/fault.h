#pragma once
#include "core/base/sentence.h"
#include <tl/expected.hpp>

namespace burin {

/// Something from outside (file, typed text, catalogue) that could not be taken as it is. `render`
/// of core/units makes words of it: `where:line:column: what. cure`.
/// `line` and `column` count from 1; 0 means the place has none.
struct Fault {
    Sentence where; ///< file, field or row the text came from
    int line = 0;
    int column = 0;
    Sentence what; ///< what is wrong, with the text at fault
    Sentence cure; ///< what to do about it

    /// What kind of fault it is, for whoever acts on it: code never reads the words.
    [[nodiscard]] std::string_view code() const { return what.key(); }
    bool operator==(const Fault&) const = default;
};

template <typename T> using Outcome = tl::expected<T, Fault>;

/// A file's, a row's or a typed text's own name, as where a fault is.
Sentence named(std::string name);

/// A fault without its place: "what. cure".
Sentence whatToDo(const Fault& fault);
/// All of it: "where:line:column: what. cure".
Sentence told(const Fault& fault);

/// Makes a failed Outcome.
[[nodiscard]] tl::unexpected<Fault> refuse(Fault fault);
[[nodiscard]] tl::unexpected<Fault> refuse(Sentence where, Sentence what, Sentence cure);
/// Where something is that has a name of its own.
[[nodiscard]] tl::unexpected<Fault> refuse(std::string where, Sentence what, Sentence cure);
/// Where is a word of the program's: "the edit".
[[nodiscard]] tl::unexpected<Fault> refuse(const char* where, Sentence what, Sentence cure);

} // namespace burin
