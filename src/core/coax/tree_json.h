#pragma once
#include "core/coax/tree.h"
#include "core/describe/json_reader.h"
#include <string_view>

namespace burin {

/// A distribution as JSON; docs/cli.md has the form and an example. Refused with the part and key
/// at fault.
Outcome<Tree> readTree(std::string_view json, const std::string& where, const Catalogue& catalogue);

} // namespace burin
