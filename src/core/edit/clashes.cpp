#include "core/edit/clashes.h"
#include "core/job/ports.h"
#include "core/pull/stock.h"
#include "core/units/render.h"
#include <algorithm>
#include <functional>
#include <map>
#include <unordered_map>

namespace burin {
namespace {

constexpr Wording portOfRun{"port.of-run", "{0}, run {1}"};
constexpr Wording portTaken{"port.taken", "run {0} is on this port already"};
constexpr Wording portFree{"port.free", "Put one of the two on another: {0} is free"};
constexpr Wording noPortFree{
    "port.none-free",
    "None of its {0} ports is free: say if it has more, or end one somewhere else"};

} // namespace

std::vector<Clash> labelClashes(const Job& job) {
    std::vector<Clash> out;
    std::unordered_map<std::string_view, const Run*> labels;
    for (const auto& run : job.runs)
        if (const auto [it, fresh] = labels.emplace(run.label, &run); !fresh)
            out.push_back({run.id,
                           it->second->id,
                           {sentence({"where.run", "run {0}"}, run.label),
                            0,
                            0,
                            {"label.twice", "there is another run of this name"},
                            {"cure.label-of-its-own", "Give one of the two a label of its own"}}});
    return out;
}

std::vector<Clash> feedClashes(const Job& job) {
    std::vector<Clash> out;
    std::unordered_map<std::string_view, Sentence> fed;
    const auto feeds = [&](const Sentence& where, const std::string& runId) {
        if (runId.empty())
            return;
        const auto [it, fresh] = fed.emplace(runId, where);
        if (fresh)
            return;
        const Run* run = job.run(runId);
        out.push_back(
            {runId,
             runId,
             {where, 0, 0,
              sentence({"feeds.twice", "run {0} feeds two places"},
                       run == nullptr ? runId : run->label),
              sentence(
                  {"feeds.cure", "One run leads to one part: take it out of the other ({0}) first"},
                  it->second)}});
    };
    for (const auto& d : job.distributions)
        for (const auto& part : d.parts)
            feeds(sentence({"where.distribution", "distribution {0}"}, d.name), part.runId);
    for (const auto& bus : job.buses)
        for (const auto& device : bus.devices)
            feeds(sentence({"where.bus", "bus {0}"}, bus.name), device.runId);
    return out;
}

std::vector<Clash> portClashes(const Job& job) {
    std::vector<Clash> out;
    std::unordered_map<std::string_view, const Place*> places;
    for (const auto& place : job.places)
        if (place.ports > 1)
            places.emplace(place.id, &place);
    std::map<std::pair<const Place*, int>, const Run*> on;
    PortFinder ports(job);
    for (const auto& run : job.runs)
        for (const RunEnd* end : {&run.near, &run.far}) {
            const auto it = end->placeId.empty() ? places.end() : places.find(end->placeId);
            const int port = it == places.end() ? 0 : portOf(*it->second, *end);
            if (port == 0)
                continue;
            const Place& place = *it->second;
            const auto [other, fresh] = on.emplace(std::pair(&place, port), &run);
            if (fresh)
                continue;
            const int free = ports.on(place).port;
            out.push_back(
                {run.id, other->second->id,
                 Fault{sentence(portOfRun, asText(portWords(place, port)), asText(run.label)), 0, 0,
                       sentence(portTaken, asText(other->second->label)),
                       free > 0 ? sentence(portFree, asText(portWords(place, free)))
                                : sentence(noPortFree,
                                           asCount(static_cast<std::size_t>(place.ports)))}});
        }
    return out;
}

std::vector<Clash> markClashes(const Job& job) {
    std::vector<Clash> out;
    const auto stock = stockOf(job);
    for (std::size_t b = 0; b < stock.size(); ++b) {
        std::vector<MarkedPiece> before;
        const BoxPiece* last = nullptr; // the one that reaches furthest
        for (const auto& piece : stock[b].pieces) {
            auto good = pulledLength(job.boxes[b], before, piece.marks);
            if (!good) {
                Fault fault = good.error();
                if (const Run* run = job.run(piece.runId))
                    fault.where =
                        sentence({"where.within", "{0}, {1}"}, run->label, std::move(fault.where));
                const bool other = last != nullptr && last->toM > piece.fromM;
                out.push_back({piece.runId, other ? last->runId : piece.runId, std::move(fault)});
            }
            before.push_back(piece.marks);
            if (last == nullptr || piece.toM > last->toM)
                last = &piece;
        }
    }
    return out;
}

namespace {

/// Boxes, or tools, of one name: nobody knows whether they are one thing, and both are counted.
template <typename Row>
void addNamesakes(const std::vector<Row>& rows, const Wording& where, const Wording& twice,
                  const Wording& cure, const std::function<std::string(const Row&)>& runOf,
                  std::vector<Clash>& out) {
    std::unordered_map<std::string_view, const Row*> names;
    for (const auto& row : rows)
        if (const auto [it, fresh] = names.emplace(row.name, &row); !fresh && !row.name.empty())
            out.push_back(
                {runOf(row),
                 runOf(*it->second),
                 {sentence(where, asText(row.name)), 0, 0, sentence(twice), sentence(cure)}});
}
std::vector<Clash> nameClashes(const Job& job) {
    std::vector<Clash> out;
    addNamesakes<Box>(
        job.boxes, {"where.box", "box {0}"}, {"box.twice", "there is another box of this name"},
        {"cure.box-name-of-its-own", "Where they are one box, give its runs to one of the two and "
                                     "remove the other; else give one another name"},
        [&](const Box& box) {
            const auto it = std::find_if(job.runs.begin(), job.runs.end(),
                                         [&](const Run& run) { return run.piece.boxId == box.id; });
            return it == job.runs.end() ? std::string() : it->id;
        },
        out);
    addNamesakes<HandTool>(
        job.tools, {"where.tool", "tool {0}"}, {"tool.twice", "there is another tool of this name"},
        {"cure.tool-name-of-its-own", "Give one of the two a name of its own"},
        [](const HandTool& /*tool*/) { return std::string(); }, out);
    return out;
}

} // namespace

std::vector<Clash> clashesOf(const Job& job) {
    std::vector<Clash> out;
    for (const auto find : {labelClashes, feedClashes, portClashes, markClashes, nameClashes})
        for (auto& clash : find(job))
            out.push_back(std::move(clash));
    return out;
}

} // namespace burin
