#pragma once
#include <string>

namespace burin {

/// Where Burin's own data lie: BURIN_DATA, else ../share/burin beside the program. The build tree
/// and an installation look alike.
std::string dataFolder();

} // namespace burin
