#include "core/site/jacket.h"
#include <algorithm>

namespace burin {

bool serves(Jacket jacket, Jacket need) {
    switch (need) {
    case Jacket::Unknown:
        return true;
    case Jacket::General:
        return jacket == Jacket::General || jacket == Jacket::Riser || jacket == Jacket::Plenum;
    case Jacket::Riser:
        return jacket == Jacket::Riser || jacket == Jacket::Plenum;
    case Jacket::Outdoor:
        return jacket == Jacket::Outdoor || jacket == Jacket::WaterBlocked;
    case Jacket::Plenum:
    case Jacket::WaterBlocked:
        return jacket == need;
    }
    return false;
}

Jacket jacketFor(PathwayKind kind) {
    switch (kind) {
    case PathwayKind::Tray:
    case PathwayKind::Hooks:
    case PathwayKind::Conduit:
        return Jacket::General;
    case PathwayKind::Shaft:
    case PathwayKind::Wall:
        return Jacket::Riser;
    case PathwayKind::Plenum:
    case PathwayKind::Duct:
        return Jacket::Plenum;
    case PathwayKind::Outdoors:
        return Jacket::Outdoor;
    case PathwayKind::BelowGround:
        return Jacket::WaterBlocked;
    }
    return Jacket::General;
}

Jacket jacketForAll(const std::vector<Jacket>& needs) {
    for (const Jacket jacket :
         {Jacket::General, Jacket::Riser, Jacket::Plenum, Jacket::Outdoor, Jacket::WaterBlocked})
        if (std::all_of(needs.begin(), needs.end(),
                        [&](Jacket need) { return serves(jacket, need); }))
            return jacket;
    return Jacket::Unknown;
}

} // namespace burin
