#pragma once
#include "core/bus/bus.h"
#include "core/catalogue/catalogue.h"
#include <string_view>

namespace burin {

/// A bus as JSON; docs/cli.md has the form and an example. Refused with the device and key at
/// fault.
Outcome<Bus> readBus(std::string_view json, const std::string& where, const Catalogue& catalogue);

} // namespace burin
