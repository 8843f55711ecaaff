#include "core/pull/end_labels.h"
#include "core/base/csv.h"
#include "core/job/ports.h"
#include "core/pull/stock.h"
#include <algorithm>

namespace burin {

std::vector<EndLabel> endLabels(const Job& job, const std::vector<std::string>& runIds) {
    std::vector<EndLabel> out;
    for (const auto& run : job.runs) {
        if (!isToldApart(job, run))
            continue;
        if (!runIds.empty() && std::find(runIds.begin(), runIds.end(), run.id) == runIds.end())
            continue;
        const std::string near = endName(job, run.near);
        const std::string far = endName(job, run.far);
        for (const End end : {End::Near, End::Far})
            for (const bool behind : {false, true})
                out.push_back({run.id, run.label, end, behind, end == End::Near ? near : far,
                               end == End::Near ? far : near});
    }
    return out;
}

std::string labelsCsv(const std::vector<EndLabel>& labels) {
    std::string out = "run,end,where,here,there\r\n";
    for (const auto& label : labels)
        out += csvField(label.label) + "," + std::string(endWords[label.end]) + "," +
               (label.behindCut ? "behind the cut" : "end") + "," + csvField(label.here) + "," +
               csvField(label.there) + "\r\n";
    return out;
}

} // namespace burin
