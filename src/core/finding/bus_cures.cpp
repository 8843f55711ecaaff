#include "core/finding/bus_cures.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <functional>

namespace burin {
namespace {

constexpr std::size_t mostCures = 3;
/// Waveforms computed before a bus is given up.
constexpr int mostWaves = 40;

/// One thing done, with what it takes. Of two of one `slot` only one can be done.
struct Option {
    int slot = 0;
    Sentence what;
    Cost cost;
    std::function<void(BusChain&)> apply;
    std::optional<std::size_t> secondSupplyAt;
};
using Set = std::vector<const Option*>;

double total(const Set& set, const Costs& costs) {
    double out = 0;
    for (const Option* option : set)
        out += option->cost.total(costs);
    return out;
}

/// All sets with at most one option of each slot, cheapest first; the empty one is the first.
std::vector<Set> setsOf(const std::vector<Option>& options, const Costs& costs) {
    std::vector<Set> out{{}};
    for (const Option& option : options) {
        const std::size_t before = out.size();
        for (std::size_t i = 0; i < before; ++i) {
            if (std::any_of(out[i].begin(), out[i].end(),
                            [&](const Option* o) { return o->slot == option.slot; }))
                continue;
            Set with = out[i];
            with.push_back(&option);
            out.push_back(std::move(with));
        }
    }
    std::stable_sort(out.begin(), out.end(),
                     [&](const Set& a, const Set& b) { return total(a, costs) < total(b, costs); });
    return out;
}

/// The cheapest sets for which `good` holds, none of them part of another.
std::vector<Set> goodSets(const std::vector<Set>& sets, int most,
                          const std::function<bool(const Set&)>& good) {
    std::vector<Set> out;
    int tried = 0;
    for (const Set& set : sets) {
        const bool more = std::any_of(out.begin(), out.end(), [&](const Set& found) {
            return std::all_of(found.begin(), found.end(), [&](const Option* o) {
                return std::find(set.begin(), set.end(), o) != set.end();
            });
        });
        if (more)
            continue;
        if (out.size() == mostCures || ++tried > most)
            break;
        if (good(set))
            out.push_back(set);
    }
    return out;
}

BusChain with(BusChain chain, const Set& set) {
    for (const Option* option : set)
        if (option->apply)
            option->apply(chain);
    return chain;
}

std::vector<Option> waveOptions(const Bus& bus, const BusChain& chain, const Costs& costs) {
    std::vector<Option> out;
    const std::size_t last = chain.devices.size() - 1;
    const double near = bus.nodes[1].line.impedanceOhm;
    const double far = bus.nodes[last].line.impedanceOhm;
    // Terminators come in the impedances cables are made for.
    const double nearOhm = std::round(near / 10) * 10;
    const double farOhm = std::round(far / 10) * 10;
    // Kept beyond this function: nothing of it may be referred to.
    const auto ended = [nearOhm, farOhm, last](BusChain& c) {
        for (std::size_t i = 0; i < c.devices.size(); ++i)
            c.devices[i].terminatorOhm = i == 0      ? std::optional(nearOhm)
                                         : i == last ? std::optional(farOhm)
                                                     : std::nullopt;
    };
    BusChain then = chain;
    ended(then);
    if (!(then == chain)) {
        int put = 0;
        for (std::size_t i = 0; i <= last; ++i)
            put += then.devices[i].terminatorOhm && !chain.devices[i].terminatorOhm ? 1 : 0;
        out.push_back({0,
                       sentence({"bus-cure.ends", "{0} across both ends and no other terminator"},
                                asOhm(nearOhm)),
                       {put * costs.terminator, 2 * costs.hoursToPutIn},
                       ended,
                       {}});
    }
    if (std::any_of(chain.devices.begin(), chain.devices.end(),
                    [](const auto& device) { return device.stubM > 0; }))
        out.push_back(
            {1,
             sentence({"bus-cure.looped", "the chain looped through its devices, without stubs"}),
             {0, 2 * costs.hoursToPutIn * static_cast<double>(chain.devices.size())},
             [](BusChain& c) {
                 for (auto& device : c.devices)
                     device.stubM = 0;
             },
             {}});
    double hours = 2 * costs.hoursToPutIn;
    for (const double kbit : {115.2, 57.6, 38.4, 19.2, 9.6, 4.8, 2.4})
        if (kbit < chain.bitRateKbit)
            out.push_back({2,
                           alone(asUnit(kbit, 1, "kbit/s")),
                           {0, hours += 0.01}, // the fastest that will do
                           [kbit](BusChain& c) { c.bitRateKbit = kbit; },
                           {}});
    for (const double edge : {100.0, 250.0, 500.0})
        if (edge > chain.riseNs)
            out.push_back(
                {3,
                 sentence({"bus-cure.edge", "drivers with an edge of {0}"}, asUnit(edge, 0, "ns")),
                 {costs.supply / 2 * static_cast<double>(chain.devices.size()),
                  costs.hoursToPutIn * static_cast<double>(chain.devices.size())},
                 [edge](BusChain& c) { c.riseNs = edge; },
                 {}});
    return out;
}

double lengthOf(const SystemReads& job, const BusChain& chain) {
    double sum = 0;
    for (const auto& device : chain.devices)
        if (const Run* run = job.run(device.runId))
            sum += run->lengthM();
    return sum;
}

std::vector<Option> voltOptions(const SystemReads& job, const BusChain& chain, const Costs& costs) {
    std::vector<Option> out;
    const bool strikes = std::any_of(chain.devices.begin(), chain.devices.end(),
                                     [](const auto& d) { return d.strikeAmpere > 0; });
    if (strikes)
        out.push_back(
            {0,
             sentence({"bus-cure.strike", "a pair and a supply of its own for the strike"}),
             partCost(costs, costs.supply, true),
             [](BusChain& c) {
                 for (auto& device : c.devices)
                     device.strikeAmpere = 0;
             },
             {}});
    for (int more = 1; more <= 2; ++more)
        out.push_back({1,
                       sentence({"bus-cure.pairs", "{0} pairs in parallel"},
                                asCount(chain.supplyPairs + more)),
                       {0, costs.hoursToPutIn * static_cast<double>(chain.devices.size()) * more},
                       [more](BusChain& c) { c.supplyPairs += more; },
                       {}});
    const double thickAwg = 18;
    if (chain.supplyAwg.value_or(99) > thickAwg) {
        constexpr double thickMm = 5; // jacket of a pair of it
        const double metres = lengthOf(job, chain);
        out.push_back(
            {2,
             sentence({"bus-cure.thick", "a supply pair of {0} AWG"}, asNumber(thickAwg, 0)),
             {costs.cablePerMetrePerSquareMm * thickMm * thickMm * metres,
              costs.hoursToPull + costs.hoursToPullPerMetre * metres},
             [thickAwg](BusChain& c) {
                 c.supplyAwg = thickAwg;
                 c.supplyPairs = 1;
             },
             {}});
    }
    for (std::size_t k = 1; k < chain.devices.size(); ++k)
        out.push_back({3,
                       sentence({"bus-cure.second", "a second supply of {0} at {1}"},
                                asVolt(chain.supplyV), chain.devices[k].name),
                       partCost(costs, costs.supply, true),
                       {},
                       k});
    return out;
}

bool enoughVolts(const SystemReads& job, const BusChain& chain, const Catalogue& catalogue,
                 std::optional<std::size_t> secondAt) {
    const auto good = [&](const BusChain& part) {
        std::vector<std::size_t> loaded;
        const auto supply = supplyOf(job, part, catalogue, loaded);
        return supply && supply->delivered &&
               std::all_of(supply->points.begin(), supply->points.end(),
                           [](const auto& point) { return point.enough && !point.tooMuch; });
    };
    if (!secondAt)
        return good(chain);
    BusChain near = chain;
    BusChain far = chain;
    const auto at = static_cast<std::ptrdiff_t>(*secondAt);
    near.devices.erase(near.devices.begin() + at, near.devices.end());
    far.devices.erase(far.devices.begin(), far.devices.begin() + at);
    return good(near) && good(far);
}

} // namespace

std::vector<BusCure> busCures(const Job& job, const BusChain& chain, const Catalogue& catalogue,
                              const std::function<bool()>& stop) {
    return busCures(JobReads(job).of(chain), chain, catalogue, stop);
}

std::vector<BusCure> busCures(const SystemReads& job, const BusChain& chain,
                              const Catalogue& catalogue, const std::function<bool()>& stop) {
    std::vector<Fault> faults;
    const Bus bus = busOf(job, chain, catalogue, faults);
    if (!faults.empty() || bus.nodes.size() < 2)
        return {};
    const Costs& costs = catalogue.costs;
    const auto waves = waveOptions(bus, chain, costs);
    const auto volts = voltOptions(job, chain, costs);
    const auto goodWaves = goodSets(setsOf(waves, costs), mostWaves, [&](const Set& set) {
        if (stop && stop())
            return false;
        const auto found = findBus(busOf(job, with(chain, set), catalogue, faults));
        return found && found->good;
    });
    const auto goodVolts = goodSets(setsOf(volts, costs), 1000, [&](const Set& set) {
        std::optional<std::size_t> second;
        for (const Option* option : set)
            if (option->secondSupplyAt)
                second = option->secondSupplyAt;
        return chain.supplyV <= 0 || enoughVolts(job, with(chain, set), catalogue, second);
    });
    std::vector<BusCure> out;
    if (stop && stop())
        return out;
    for (const Set& wave : goodWaves)
        for (const Set& volt : goodVolts) {
            Set both = wave;
            both.insert(both.end(), volt.begin(), volt.end());
            BusCure cure;
            cure.after = with(chain, both);
            std::vector<Sentence> done;
            for (const Option* one : both) {
                done.push_back(one->what);
                cure.cost += one->cost;
                if (one->secondSupplyAt)
                    cure.after.reset();
            }
            cure.what = listed(std::move(done));
            out.push_back(std::move(cure));
        }
    std::stable_sort(out.begin(), out.end(), [&](const BusCure& a, const BusCure& b) {
        return a.cost.total(costs) < b.cost.total(costs);
    });
    if (out.size() > mostCures)
        out.resize(mostCures);
    return out;
}

} // namespace burin
