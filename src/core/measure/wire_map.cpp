#include "core/measure/wire_map.h"
#include <algorithm>
#include <cctype>

namespace burin {
namespace {

struct Pins {
    const char* name;
    int a, b;
};
constexpr std::array<Pins, 4> pinsOfPairs{
    {{"4-5", 4, 5}, {"3-6", 3, 6}, {"1-2", 1, 2}, {"7-8", 7, 8}}};

PairFinding readPair(const WireMap& map, const Pins& p) {
    PairFinding out{p.name, PairState::Whole, sentence({"pair.whole", "whole"})};
    const auto far = [&](int i) { return map.farPin[static_cast<std::size_t>(i - 1)]; };
    const auto group = [&](int i) { return map.shortGroup[static_cast<std::size_t>(i - 1)]; };
    if (group(p.a) != ' ' || group(p.b) != ' ') {
        out.state = PairState::Short;
        std::vector<Sentence> touching;
        for (int i = 1; i <= 8; ++i)
            if (group(i) != ' ' && (group(i) == group(p.a) || group(i) == group(p.b)))
                touching.push_back(alone(asCount(i)));
        out.said = sentence({"pair.short", "{0} touch"}, listed(std::move(touching)));
    } else if (far(p.a) == 0 || far(p.b) == 0) {
        out.state = PairState::Open;
        out.bothOpen = far(p.a) == 0 && far(p.b) == 0;
        out.said =
            out.bothOpen
                ? sentence({"pair.both-open", "{0} and {1} open"}, asCount(p.a), asCount(p.b))
                : sentence({"pair.open", "{0} open"}, asCount(far(p.a) == 0 ? p.a : p.b));
    } else if (far(p.a) == p.b && far(p.b) == p.a) {
        out.state = PairState::Reversed;
        out.said =
            sentence({"pair.reversed", "{0} and {1} changed over"}, asCount(p.a), asCount(p.b));
    } else if (far(p.a) != p.a || far(p.b) != p.b) {
        out.state = PairState::Crossed;
        out.said = sentence({"pair.crossed", "{0} lands on {1}-{2}"}, std::string(p.name),
                            asCount(far(p.a)), asCount(far(p.b)));
    }
    return out;
}

} // namespace

bool WireFinding::whole() const {
    return std::all_of(pairs.begin(), pairs.end(),
                       [](const auto& p) { return p.state == PairState::Whole; });
}

bool WireFinding::wholeFor(const std::vector<std::string>& pinPairs) const {
    return std::all_of(pairs.begin(), pairs.end(), [&](const auto& p) {
        return p.state == PairState::Whole ||
               std::find(pinPairs.begin(), pinPairs.end(), p.pair) == pinPairs.end();
    });
}

Sentence WireFinding::firstFault() const {
    std::vector<Sentence> out;
    for (const auto& p : pairs)
        if (p.state != PairState::Whole && std::find(out.begin(), out.end(), p.said) == out.end())
            out.push_back(p.said);
    return out.empty() ? Sentence() : joined(std::move(out));
}

WireFinding readWireMap(const WireMap& map) {
    WireFinding out;
    for (const auto& p : pinsOfPairs)
        out.pairs.push_back(readPair(map, p));
    out.shieldWhole = map.shieldWhole;
    return out;
}

Outcome<WireMap> parseWireMap(std::string_view text) {
    WireMap out;
    const auto bad = [&](std::size_t at, Sentence why) {
        return refuse(Fault{
            alone(asTerm("wire map")),
            1,
            static_cast<int>(at) + 1,
            sentence({"wire-map.said", "“{0}”: {1}"}, asText(std::string(text)), std::move(why)),
            {"cure.type-far-pin",
             "Type the far pin of 1 to 8 in order, - for open, the same letter a to d for "
             "pins that touch, then s or - for the shield"}});
    };
    std::size_t pins = 0;
    std::array<int, 9> seen{};
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = static_cast<char>(std::tolower(static_cast<unsigned char>(text[i])));
        if (std::isspace(static_cast<unsigned char>(c)) != 0)
            continue;
        if (pins == 8) {
            if (out.shieldWhole || (c != 's' && c != '-'))
                return bad(i, {"wire-map.after-eight-pins",
                               "after eight pins only the shield may follow, s or -"});
            out.shieldWhole = c == 's';
            continue;
        }
        if (c >= '1' && c <= '8') {
            out.farPin[pins] = c - '0';
            if (++seen[static_cast<std::size_t>(c - '0')] > 1)
                return bad(i, sentence({"wire-map.far-pin-named", "far pin {0} is named twice"},
                                       asText(std::string(1, c))));
        } else if (c == '-') {
            out.farPin[pins] = 0;
        } else if (c >= 'a' && c <= 'd') {
            out.shortGroup[pins] = c;
            out.farPin[pins] = static_cast<int>(pins) + 1;
        } else {
            return bad(i, sentence({"wire-map.no-pin", "“{0}” is no pin"},
                                   asText(std::string(1, text[i]))));
        }
        ++pins;
    }
    if (pins != 8)
        return bad(text.size(),
                   sentence({"wire-map.pins-given", "{0} of 8 pins are given"}, asCount(pins)));
    for (const char letter : {'a', 'b', 'c', 'd'})
        if (std::count(out.shortGroup.begin(), out.shortGroup.end(), letter) == 1)
            return bad(0, sentence({"wire-map.letter-stands-alone",
                                    "letter {0} stands alone: a short needs two pins"},
                                   asText(std::string(1, letter))));
    return out;
}

std::string wireMapText(const WireMap& map) {
    std::string out;
    for (std::size_t i = 0; i < 8; ++i)
        out += map.shortGroup[i] != ' ' ? map.shortGroup[i]
               : map.farPin[i] == 0     ? '-'
                                        : static_cast<char>('0' + map.farPin[i]);
    if (map.shieldWhole)
        out += *map.shieldWhole ? " s" : " -";
    return out;
}

} // namespace burin
