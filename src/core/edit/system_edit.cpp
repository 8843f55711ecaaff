#include "core/edit/system_edit.h"
#include "core/edit/run_text.h"
#include "core/job/ports.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <sstream>

namespace burin {
namespace {

constexpr double cableOhmOfBus = 120;

std::string readerName(const Job& job, const Run& run) {
    std::string out = endName(job, run.far);
    return out.empty() ? run.label : out;
}

DistributionPart* partOf(Distribution& distribution, const std::string& id) {
    const auto it = std::find_if(distribution.parts.begin(), distribution.parts.end(),
                                 [&](const auto& part) { return part.id == id; });
    return it == distribution.parts.end() ? nullptr : &*it;
}

/// "amplifier 2": the first free number of its kind.
std::string freshName(const Distribution& distribution, TreePart kind) {
    for (int n = 1;; ++n) {
        std::string name = std::string(treePartWords[kind]) + " " + std::to_string(n);
        if (std::none_of(distribution.parts.begin(), distribution.parts.end(),
                         [&](const auto& part) { return part.name == name; }))
            return name;
    }
}

/// A distribution without parts is none.
std::optional<Distribution> leftOf(Distribution distribution) {
    return distribution.parts.empty() ? std::nullopt : std::optional(std::move(distribution));
}

struct TypedWords {
    std::vector<std::string> list;
    std::string text;

    /// The number behind a word, or the default where the word is not there.
    Outcome<double> after(const std::string& word, double otherwise) {
        const auto it = std::find(list.begin(), list.end(), word);
        if (it == list.end())
            return otherwise;
        if (it + 1 == list.end())
            return refuse(
                sentence({"where.quoted", "“{0}”"}, text),
                sentence({"edit.no-number-stands", "no number stands behind “{0}”"}, word),
                sentence({"cure.write-example", "Write for example “{0} 6”"}, word));
        auto number = parseNumber(*(it + 1), word);
        if (number)
            list.erase(it, it + 2);
        return number;
    }
};

Outcome<int> waysOf(double number, int most, const std::string& text) {
    if (number != std::floor(number) || number < 2 || number > most)
        return refuse(sentence({"where.quoted", "“{0}”"}, text),
                      sentence({"edit.no-number-outputs", "{0} is no number of outputs"},
                               asNumber(number, 1)),
                      sentence({"cure.write", "Write 2 to {0}"}, asCount(most)));
    return static_cast<int>(number);
}

} // namespace

Outcome<TreeUnit> parseTreeUnit(const std::string& text) {
    TypedWords words;
    words.text = text;
    std::istringstream in(text);
    for (std::string word; in >> word;)
        if (word != "dB" && word != "ways" && word != "outputs")
            words.list.push_back(word);
    const Sentence help = sentence({"cure.write-part",
                                    "Write splitter 4, tap 14, amplifier 20, multiswitch 8, pad 6, "
                                    "equaliser 9, dc-block or surge-arrester"});
    const auto kind = words.list.empty() ? std::nullopt : treePartWords.find(words.list.front());
    if (!kind || *kind == TreePart::Outlet)
        return refuse(sentence({"where.quoted", "“{0}”"}, text),
                      {"edit.no-part-distribution", "this is no part of a distribution"}, help);
    if (*kind == TreePart::DcBlock || *kind == TreePart::SurgeArrester) {
        TreeUnit out;
        out.part = *kind;
        out.throughDb = blockLossDb;
        if (words.list.size() > 1)
            return refuse(
                sentence({"where.quoted", "“{0}”"}, text),
                sentence({"edit.not-understood", "“{0}” is not understood"}, words.list[1]), help);
        return out;
    }
    if (words.list.size() < 2)
        return refuse(sentence({"where.quoted", "“{0}”"}, text),
                      {"edit.figure-missing", "its figure is missing"}, help);
    const auto figure = parseNumber(words.list[1], "figure");
    if (!figure)
        return refuse(figure.error());
    words.list.erase(words.list.begin(), words.list.begin() + 2);
    TreeUnit out;
    out.part = *kind;
    const auto ended = words.after("ended", 0);
    if (!ended)
        return refuse(ended.error());
    out.terminators = static_cast<int>(*ended);
    if (*kind == TreePart::Splitter || *kind == TreePart::Multiswitch) {
        const auto ways = waysOf(*figure, *kind == TreePart::Splitter ? 8 : 64, text);
        if (!ways)
            return refuse(ways.error());
        out.ways = *ways;
    } else if (*kind == TreePart::Tap) {
        if (*figure < 1 || *figure > 40)
            return refuse(sentence({"where.quoted", "“{0}”"}, text),
                          {"edit.no-tap-value", "there is no tap of that value"},
                          {"cure.write-to", "Write 6 to 30"});
        out.tapDb = *figure;
        out.throughDb = tapThroughDb(*figure);
    } else if (*kind == TreePart::Pad || *kind == TreePart::Equaliser) {
        if (*figure <= 0 || *figure > 40)
            return refuse(sentence({"where.quoted", "“{0}”"}, text),
                          {"edit.none-value", "there is none of that value"},
                          {"cure.write-db", "Write 1 to 40 dB"});
        (*kind == TreePart::Pad ? out.throughDb : out.slopeDb) = *figure;
        if (*kind == TreePart::Equaliser)
            out.throughDb = equaliserTopDb;
    } else {
        if (*figure < 0 || *figure > 80)
            return refuse(sentence({"where.quoted", "“{0}”"}, text),
                          {"edit.no-amplifier-gives", "no amplifier gives that much"},
                          {"cure.write-to-db", "Write 0 to 80 dB"});
        out.gainDb = *figure;
        const auto slope = words.after("slope", 0);
        if (!slope)
            return refuse(slope.error());
        out.slopeDb = *slope;
        constexpr double none = -999;
        const auto back = words.after("return", none);
        if (!back)
            return refuse(back.error());
        if (*back > none)
            out.returnGainDb = *back;
    }
    if (!words.list.empty())
        return refuse(
            sentence({"where.quoted", "“{0}”"}, text),
            sentence({"edit.not-understood", "“{0}” is not understood"}, words.list.front()), help);
    return out;
}

std::string treeUnitText(const TreeUnit& unit) {
    const auto plain = [](double value) {
        return formatFixed(value, value == std::round(value) ? 0 : 1);
    };
    std::string out(treePartWords[unit.part]);
    switch (unit.part) {
    case TreePart::Outlet:
        return out;
    case TreePart::Splitter:
    case TreePart::Multiswitch:
        out += " " + std::to_string(unit.ways);
        break;
    case TreePart::Tap:
        out += " " + plain(unit.tapDb);
        break;
    case TreePart::Pad:
        out += " " + plain(unit.throughDb);
        break;
    case TreePart::Equaliser:
        out += " " + plain(unit.slopeDb);
        break;
    case TreePart::DcBlock:
    case TreePart::SurgeArrester:
        break;
    case TreePart::Amplifier:
        out += " " + plain(unit.gainDb);
        if (unit.slopeDb != 0)
            out += " slope " + plain(unit.slopeDb);
        if (unit.returnGainDb)
            out += " return " + plain(*unit.returnGainDb);
        break;
    }
    if (unit.terminators > 0)
        out += " ended " + std::to_string(unit.terminators);
    return out;
}

Distribution newDistribution(const Run& run) {
    Distribution out;
    out.id = newId();
    out.name = "distribution of " + run.label;
    out.serviceId = run.serviceId;
    out.headLevel = run.headLevel.value_or(70);
    return hungOn(out, run, "", false);
}

Distribution hungOn(Distribution distribution, const Run& run, const std::string& from,
                    bool fromTap) {
    for (auto& part : distribution.parts)
        if (part.runId == run.id) {
            part.from = from;
            part.fromTap = fromTap;
            return distribution;
        }
    DistributionPart part;
    part.id = newId();
    part.from = from;
    part.fromTap = fromTap;
    part.runId = run.id;
    distribution.parts.push_back(part);
    return distribution;
}

Distribution withPartAhead(Distribution distribution, const std::string& partId,
                           const TreeUnit& unit, bool nearEnd) {
    DistributionPart* part = partOf(distribution, partId);
    if (part == nullptr)
        return distribution;
    DistributionPart put;
    put.id = newId();
    put.name = freshName(distribution, unit.part);
    put.from = part->from;
    put.fromTap = part->fromTap;
    put.unit = unit;
    if (!nearEnd)
        std::swap(put.runId, part->runId);
    part->from = put.id;
    part->fromTap = unit.part == TreePart::Tap;
    distribution.parts.push_back(put);
    return distribution;
}

Outcome<std::optional<Distribution>> withoutPart(Distribution distribution,
                                                 const std::string& partId) {
    const DistributionPart* found = partOf(distribution, partId);
    if (found == nullptr)
        return std::optional(distribution);
    const DistributionPart gone = *found;
    const DistributionPart* before = gone.from.empty() ? nullptr : distribution.part(gone.from);
    int own = 0;
    int beside = 0;
    for (const auto& part : distribution.parts) {
        own += part.from == gone.id ? 1 : 0;
        beside += part.from == gone.from && part.id != gone.id ? 1 : 0;
    }
    if (before != nullptr && own + beside > before->unit.ports())
        return refuse(
            gone.name,
            sentence({"edit.hang-ports", "{0} hang on it, and “{1}” has {2} ports for them"},
                     asCount(own), before->name,
                     asCount(std::max(0, before->unit.ports() - beside))),
            {"cure.hang-elsewhere-first", "Hang them elsewhere first"});
    for (auto& part : distribution.parts)
        if (part.from == gone.id) {
            part.from = gone.from;
            part.fromTap = gone.fromTap;
        }
    std::erase_if(distribution.parts, [&](const auto& part) { return part.id == partId; });
    return leftOf(std::move(distribution));
}

std::optional<Distribution> withoutRun(Distribution distribution, std::string_view runId) {
    const auto it = std::find_if(distribution.parts.begin(), distribution.parts.end(),
                                 [&](const auto& part) { return part.runId == runId; });
    if (it == distribution.parts.end())
        return distribution;
    if (it->unit.part == TreePart::Outlet)
        distribution.parts.erase(it);
    else
        it->runId.clear();
    return leftOf(std::move(distribution));
}

std::optional<BusChain> withoutRun(BusChain bus, std::string_view runId) {
    std::erase_if(bus.devices, [&](const auto& device) { return device.runId == runId; });
    return bus.devices.size() < 2 ? std::nullopt : std::optional(bus);
}

Edit adoption(const Job& job, const Distribution& distribution, const TreeProposal& proposal,
              const Tree& tree) {
    Edit out{"adopt the proposal for " + distribution.name, {}};
    Distribution after = distribution;
    for (const TreeChange& change : proposal.changes) {
        DistributionPart* part = nullptr;
        for (std::size_t i = 0; i < tree.nodes.size() && i < distribution.parts.size(); ++i)
            if (tree.nodes[i].id == change.at)
                part = partOf(after, distribution.parts[i].id);
        if (part == nullptr)
            continue;
        if (change.kind == TreeChange::Kind::Tap) {
            part->unit.tapDb = change.db;
            part->unit.throughDb = tapThroughDb(change.db);
        } else if (change.kind == TreeChange::Kind::Cable) {
            const Run* now = job.run(part->runId);
            if (now == nullptr)
                continue;
            Run run = *now;
            run.cableId = change.cableId;
            for (std::size_t k = 0; k < run.connections.size() && k < change.connections.size();
                 ++k)
                run.connections[k].connectionId = change.connections[k];
            out.changes.push_back(put<Run>(*now, run));
        } else {
            after = withPartAhead(after, part->id, *unitOf(change, tree.returnPath.has_value()),
                                  change.nearEnd);
        }
    }
    if (!(after == distribution))
        out.changes.push_back(put<Distribution>(distribution, after));
    return out;
}

BusChain newBus(const Job& job, const Run& run) {
    BusChain out;
    out.id = newId();
    out.name = "bus of " + run.label;
    BusDevice controller;
    controller.name = endName(job, run.near);
    if (controller.name.empty())
        controller.name = "controller";
    controller.terminatorOhm = cableOhmOfBus;
    out.devices = {controller};
    return goingOn(out, job, run, 0);
}

BusChain goingOn(BusChain bus, const Job& job, const Run& run, std::size_t after) {
    BusDevice device;
    device.name = readerName(job, run);
    device.runId = run.id;
    if (const auto there = bus.deviceAt(run.id)) {
        device = bus.devices[*there];
        bus.devices.erase(bus.devices.begin() + static_cast<std::ptrdiff_t>(*there));
        if (after > *there)
            --after;
    }
    after = std::min(after, bus.devices.size() - 1);
    bus.devices.insert(bus.devices.begin() + static_cast<std::ptrdiff_t>(after) + 1, device);
    return bus;
}

} // namespace burin
