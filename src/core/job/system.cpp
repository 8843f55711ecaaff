#include "core/job/system.h"
#include "core/base/lookup.h"
#include <algorithm>

namespace burin {

const DistributionPart* Distribution::part(std::string_view partId) const {
    return byId(parts, partId);
}

const DistributionPart* Distribution::fedBy(std::string_view runId) const {
    const auto it =
        std::find_if(parts.begin(), parts.end(), [&](const auto& p) { return p.runId == runId; });
    return it == parts.end() ? nullptr : &*it;
}

std::optional<std::size_t> BusChain::deviceAt(std::string_view runId) const {
    for (std::size_t i = 1; i < devices.size(); ++i)
        if (devices[i].runId == runId)
            return i;
    return std::nullopt;
}

} // namespace burin
