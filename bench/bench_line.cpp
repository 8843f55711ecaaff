// The line engine: S-parameters of a ten-part chain beside the bare complex exponentials it needs,
// and the levels of a 200-outlet distribution.
#include "core/coax/tree.h"
#include "core/line/chain.h"
#include <benchmark/benchmark.h>

namespace {

using namespace burin;

const Catalogue& catalogue() {
    static const Catalogue loaded = *loadCatalogue(BURIN_CATALOGUE);
    return loaded;
}

std::vector<double> frequencies() {
    std::vector<double> out;
    for (int k = 0; k < 1001; ++k)
        out.push_back(1 + k * 2.999);
    return out;
}

/// The ten parts that bench/compare_network.py gives to scikit-rf.
Chain tenParts() {
    Chain out{50, {}};
    for (const char* id : {"coax-ll10", "coax-rg58", "coax-ll10", "coax-rg213", "coax-rg58",
                           "coax-ll10", "coax-rg213", "coax-ll10"})
        out.parts.emplace_back(LinePart{lineOf(*catalogue().cable(id), catalogue().temperature),
                                        3.0 + static_cast<double>(out.parts.size())});
    out.parts.emplace_back(SeriesPart{{2.5, 1, {}}});
    out.parts.emplace_back(ShuntPart{{500, 0, 2.2}});
    return out;
}

void tenPartChain(benchmark::State& state) {
    const Chain chain = tenParts();
    const auto f = frequencies();
    for (auto _ : state)
        benchmark::DoNotOptimize(sweepOf(chain, f));
}
BENCHMARK(tenPartChain)->Unit(benchmark::kMillisecond);

void bareExponentials(benchmark::State& state) {
    const Chain chain = tenParts();
    const auto f = frequencies();
    // Each line part needs one, and so would the two others written as lines.
    std::vector<Complex> angles;
    for (const double x : f)
        for (std::size_t i = 0; i < chain.parts.size(); ++i)
            angles.emplace_back(0.001 * x, 0.02 * x * static_cast<double>(i + 1));
    for (auto _ : state)
        for (const auto& angle : angles)
            benchmark::DoNotOptimize(std::exp(angle));
}
BENCHMARK(bareExponentials)->Unit(benchmark::kMillisecond);

void tree200Outlets(benchmark::State& state) {
    Tree tree;
    tree.levelDb = 100;
    tree.fromMhz = 47;
    tree.toMhz = 862;
    tree.least = 45;
    tree.most = 75;
    const auto fed = [&](std::string id, std::string from, TreePart part, double lengthM) {
        TreeNode node;
        node.id = std::move(id);
        node.from = std::move(from);
        node.unit.part = part;
        node.unit.ways = 8;
        node.feed.cable = catalogue().cable("coax-s6");
        node.feed.stretches = {{lengthM, 20}};
        tree.nodes.push_back(node);
    };
    fed("S", "", TreePart::Splitter, 10);
    for (int a = 0; a < 4; ++a) {
        const std::string floor = "S" + std::to_string(a);
        fed(floor, "S", TreePart::Splitter, 12);
        for (int b = 0; b < 7; ++b) {
            const std::string flat = floor + "-" + std::to_string(b);
            fed(flat, floor, TreePart::Splitter, 8);
            for (int c = 0; c < 8 && tree.nodes.size() < 200 + 33; ++c)
                fed(flat + "." + std::to_string(c), flat, TreePart::Outlet, 6);
        }
    }
    for (auto _ : state)
        benchmark::DoNotOptimize(findTree(tree, catalogue(), 200));
}
BENCHMARK(tree200Outlets)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
