#include "core/units/render.h"
#include <charconv>
#include <cmath>

namespace burin {

std::string render(const Quantity& q, UnitSystem system) {
    const bool metric = system == UnitSystem::Metric;
    switch (q.of) {
    case Quantity::Of::Text:
    case Quantity::Of::Day:
        return q.text;
    case Quantity::Of::Count:
        return formatFixed(q.value, 0);
    case Quantity::Of::Metres:
        return formatLength(q.value, system, metric ? q.places : 1);
    case Quantity::Of::Millimetres:
        return metric ? formatFixed(q.value, q.places) + " mm"
                      : formatFixed(q.value / 1000 / metresPerInch, 1) + " in";
    case Quantity::Of::Celsius:
        return formatTemperature(q.value, system);
    case Quantity::Of::Degrees:
        return formatWarmth(q.value, system);
    case Quantity::Of::Decibel:
        return formatFixed(q.value, q.places) + " dB";
    case Quantity::Of::Megahertz:
        return formatMhz(q.value);
    case Quantity::Of::Newton: {
        constexpr double newtonPerPoundForce = 4.4482216152605; // exact
        return metric ? formatFixed(q.value, q.places) + " N"
                      : formatFixed(q.value / newtonPerPoundForce, q.places) + " lbf";
    }
    case Quantity::Of::Watt:
        return formatWatt(q.value);
    case Quantity::Of::Volt:
        return formatFixed(q.value, q.places) + " V";
    case Quantity::Of::Ohm:
        return formatFixed(q.value, q.places) + " Ω";
    case Quantity::Of::Share:
        return formatFixed(q.value * 100, q.places) + " %";
    case Quantity::Of::Money:
        return formatFixed(q.value, q.places) + " " + q.text;
    }
    return {};
}

std::string render(const Sentence& sentence, UnitSystem system, std::string_view pattern) {
    if (sentence.empty())
        return {};
    if (pattern.empty())
        pattern = sentence.wording->english;
    std::string out;
    while (!pattern.empty()) {
        const auto open = pattern.find('{');
        out += pattern.substr(0, open);
        if (open == std::string_view::npos)
            break;
        const auto close = pattern.find('}', open);
        if (close == std::string_view::npos) {
            out += pattern.substr(open);
            break;
        }
        const auto inside = pattern.substr(open + 1, close - open - 1);
        pattern.remove_prefix(close + 1);
        std::size_t at = 0;
        const auto read = std::from_chars(inside.data(), inside.data() + inside.size(), at);
        const auto rest = inside.substr(static_cast<std::size_t>(read.ptr - inside.data()));
        if (read.ec != std::errc() || at >= sentence.of.size()) {
            out += "…";
        } else if (rest.starts_with('?')) {
            const auto bar = std::min(rest.find('|'), rest.size());
            const bool one = std::abs(sentence.of[at].value - 1) < 1e-9;
            out += one ? rest.substr(1, bar - 1) : rest.substr(std::min(bar + 1, rest.size()));
        } else {
            out += render(sentence.of[at], system);
        }
    }
    return out;
}

Fault faultOf(const Sentence& where, const Sentence& what, const Sentence& cure) {
    constexpr auto plain = UnitSystem::Metric;
    return {render(where, plain),   0, 0, render(what, plain), render(cure, plain),
            std::string(what.key())};
}

} // namespace burin
