#include "core/units/render.h"
#include <algorithm>
#include <charconv>
#include <cmath>

namespace burin {

namespace {

constexpr double newtonPerPoundForce = 4.4482216152605; // exact
constexpr double kgPerPound = 0.45359237;               // exact

std::string inLanguage(const Rendering& as, std::string_view key, std::string_view english) {
    if (as.translate)
        if (std::string own = as.translate(key, english); !own.empty())
            return own;
    return std::string(english);
}

std::string figure(const Quantity& q, UnitSystem system) {
    const bool metric = system == UnitSystem::Metric;
    switch (q.of) {
    case Quantity::Of::Count:
        return formatFixed(q.value, 0);
    case Quantity::Of::Number:
        return formatFixed(q.value, q.places);
    case Quantity::Of::Unit:
        // Degrees of an angle stand close by.
        return formatFixed(q.value, q.places) + (q.text == "°" ? "" : " ") + q.text;
    case Quantity::Of::Metres:
        return formatLength(q.value, system, metric ? q.places : std::clamp(q.places, 1, 2));
    case Quantity::Of::Millimetres:
        return metric
                   ? formatFixed(q.value, q.places) + " mm"
                   : formatFixed(q.value / 1000 / metresPerInch, q.places > 1 ? 3 : q.places + 1) +
                         " in";
    case Quantity::Of::Celsius:
        return formatTemperature(q.value, system);
    case Quantity::Of::Degrees:
        return formatWarmth(q.value, system);
    case Quantity::Of::Decibel:
        return formatFixed(q.value, q.places) + " dB";
    case Quantity::Of::DecibelPer100m:
        return formatFixed(metric ? q.value : q.value * metresPerFoot, q.places);
    case Quantity::Of::Megahertz:
        return formatMhz(q.value);
    case Quantity::Of::Newton:
        return metric ? formatFixed(q.value, q.places) + " N"
                      : formatFixed(q.value / newtonPerPoundForce, q.places) + " lbf";
    case Quantity::Of::KgPer100m:
        return formatFixed(metric ? q.value : q.value / kgPerPound * metresPerFoot * 10, q.places);
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
    case Quantity::Of::Text:
    case Quantity::Of::Term:
    case Quantity::Of::Said:
    case Quantity::Of::Day:
        break;
    }
    return q.text;
}

} // namespace

std::string render(const Quantity& q, const Rendering& as) {
    switch (q.of) {
    case Quantity::Of::Text:
    case Quantity::Of::Day:
        return q.text;
    case Quantity::Of::Term:
        return inLanguage(as, "term", q.text);
    case Quantity::Of::Said:
        return render(q.said, as, inLanguage(as, "between", q.text));
    default:
        break;
    }
    std::string out = figure(q, as.units);
    if (as.point != '.')
        std::replace(out.begin(), out.end(), '.', as.point);
    const auto unit = [&](std::string_view words) { out += ' ' + inLanguage(as, "term", words); };
    const bool metric = as.units == UnitSystem::Metric;
    if (q.of == Quantity::Of::DecibelPer100m)
        unit(metric ? "dB per 100 m" : "dB per 100 ft");
    if (q.of == Quantity::Of::KgPer100m)
        unit(metric ? "kg per 100 m" : "lb per 1000 ft");
    return out;
}

std::string render(const Sentence& sentence, const Rendering& as) {
    if (sentence.empty())
        return {};
    const std::string wording = inLanguage(as, sentence.key(), sentence.wording.english);
    std::string_view pattern = wording;
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
            out += render(sentence.of[at], as);
        }
    }
    return out;
}

std::string render(const std::vector<Sentence>& sentences, const Rendering& as,
                   std::string_view between) {
    std::string out;
    for (const auto& one : sentences) {
        if (&one != &sentences.front())
            out += between;
        out += render(one, as);
    }
    return out;
}

std::string render(const Working& working, const Rendering& as) {
    const auto head = [&](const Wording& word) { return "\n" + render(Sentence{word}, as) + "\n"; };
    std::string out = render(working.title, as) + "\n";
    if (!working.formula.empty())
        out += head({"working.formula", "Formula"}) + "  " + render(working.formula, as) + "\n";
    if (!working.inputs.empty())
        out += head({"working.inputs", "Inputs"});
    for (const auto& input : working.inputs) {
        const std::string source = render(input.source, as);
        out += "  " + render(input.name, as) + " = " + render(input.value, as) +
               (source.empty() ? "" : "   [" + source + "]") + "\n";
    }
    if (!working.steps.empty())
        out += head({"working.steps", "Steps"});
    for (const auto& step : working.steps)
        out += "  " + render(step, as) + "\n";
    if (!working.result.empty())
        out += head({"working.result", "Result"}) + "  " + render(working.result, as) + "\n";
    return out;
}

std::string render(const Fault& fault, const Rendering& as) {
    return render(told(fault), as);
}

} // namespace burin
