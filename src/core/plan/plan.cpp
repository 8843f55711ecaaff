#include "core/plan/plan.h"

namespace burin {

std::string_view pathwayWord(PathwayKind kind) {
    constexpr auto words = wordsOf<PathwayKind>("tray", "hooks", "conduit", "shaft", "in the wall",
                                                "plenum", "outdoors", "below ground", "air duct");
    return words[kind];
}

std::string_view placeWord(PlaceKind kind) {
    constexpr auto words =
        wordsOf<PlaceKind>("panel", "punch-down block", "splitter shelf", "demarcation jack",
                           "door controller", "radio shelf", "outlet", "device");
    return words[kind];
}

std::string_view accessWord(EndAccess access) {
    constexpr auto words = wordsOf<EndAccess>("easy to reach", "behind furniture", "needs a ladder",
                                              "above the ceiling", "outdoors", "at height");
    return words[access];
}

std::string_view jacketWord(Jacket jacket) {
    constexpr auto words = wordsOf<Jacket>("not chosen", "general", "riser", "plenum",
                                           "UV-proof outdoor", "water-blocked");
    return words[jacket];
}

} // namespace burin
