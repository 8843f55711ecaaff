#include "core/site/plan.h"

namespace burin {

std::string_view pathwayWord(PathwayKind kind) {
    constexpr std::array<std::string_view, 9> words{"tray",     "hooks",        "conduit",
                                                    "shaft",    "in the wall",  "plenum",
                                                    "outdoors", "below ground", "air duct"};
    return keyIn(words, kind);
}

std::string_view placeWord(PlaceKind kind) {
    constexpr std::array<std::string_view, 8> words{
        "panel",           "punch-down block", "splitter shelf", "demarcation jack",
        "door controller", "radio shelf",      "outlet",         "device"};
    return keyIn(words, kind);
}

std::string_view accessWord(EndAccess access) {
    constexpr std::array<std::string_view, 6> words{"easy to reach",  "behind furniture",
                                                    "needs a ladder", "above the ceiling",
                                                    "outdoors",       "at height"};
    return keyIn(words, access);
}

std::string_view jacketWord(Jacket jacket) {
    constexpr std::array<std::string_view, 6> words{
        "not chosen", "general", "riser", "plenum", "UV-proof outdoor", "water-blocked"};
    return keyIn(words, jacket);
}

} // namespace burin
