#pragma once
#include "core/job/edit.h"

namespace burin {

/// Longest texts a job takes, in characters. A name longer than this is a mistake or an attack, and
/// would be drawn, searched and sorted at every edit.
inline constexpr std::size_t longestName = 200;
inline constexpr std::size_t longestNote = 4000;
/// Columns given by hand, figures of a user's cable.
inline constexpr std::size_t longestTable = 100000;

/// Refuses a text over its limit, naming the thing, the field and both lengths.
Outcome<bool> checkTexts(const AnyChange& change);

} // namespace burin
