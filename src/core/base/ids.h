#pragma once
#include <string>
#include <string_view>

namespace burin {

/// A fresh id: 16 hexadecimal digits, random.
std::string newId();

/// FNV-1a twice over 64 bits, as 32 hexadecimal digits: an id that every copy derives alike from
/// the same text. Source: Fowler, Noll, Vo. Not against somebody who wants two texts of one id.
std::string textId(std::string_view text);

} // namespace burin
