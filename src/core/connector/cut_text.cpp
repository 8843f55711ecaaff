#include "core/connector/cut_text.h"
#include "core/base/text.h"
#include "core/units/short_figure.h"

namespace burin {
namespace {

constexpr double longestMm = 1000, inchMm = metresPerInch * 1000;
constexpr std::string_view ownBegins = "own ";

/// Digits, point or comma, fraction and blanks alone.
bool isBareFigure(std::string_view text) {
    return text.find_first_not_of("0123456789.,/ ") == std::string_view::npos;
}
/// The unit behind the figures, "in" of "1/8 in".
std::string_view unitBehind(std::string_view text) {
    const auto at = text.find_last_of("0123456789.");
    return at == std::string_view::npos ? text : trimmed(text.substr(at + 1));
}

Outcome<double> cutMm(std::string_view text, UnitSystem bare) {
    auto out = parseMillimetres(text, bare);
    if (out && *out > longestMm)
        return refuse(sentence({"where.quoted", "“{0}”"}, asText(std::string(text))),
                      {"typed.longer-metre", "is longer than a metre"},
                      {"cure.type-length-mm", "Type a length such as 6.4 mm or 1/4 in"});
    return out;
}

} // namespace

Outcome<MillimetreRange> parseMillimetreRange(std::string_view text, UnitSystem bare) {
    text = trimmed(text);
    MillimetreRange out;
    if (text.empty())
        return out;
    for (const std::string_view word : {"at most ", "at least "})
        if (text.substr(0, word.size()) == word) {
            const auto one = cutMm(text.substr(word.size()), bare);
            if (!one)
                return refuse(one.error());
            (word == "at most " ? out.mostMm : out.leastMm) = *one;
            return out;
        }
    constexpr std::string_view dash = "–";
    std::size_t at = text.find(dash);
    std::size_t wide = dash.size();
    if (at == std::string_view::npos) {
        at = text.find('-', 1);
        wide = 1;
    }
    if (at == std::string_view::npos) {
        const auto one = cutMm(text, bare);
        if (!one)
            return refuse(one.error());
        out.leastMm = out.mostMm = *one;
        return out;
    }
    const std::string_view second = trimmed(text.substr(at + wide));
    std::string first(trimmed(text.substr(0, at)));
    // "1.6-3.2 mm": the unit stands once, behind both.
    if (isBareFigure(first))
        first += " " + std::string(unitBehind(second));
    const auto from = cutMm(first, bare);
    const auto to = cutMm(second, bare);
    if (!from || !to)
        return refuse(!from ? from.error() : to.error());
    if (*from > *to)
        return refuse(sentence({"where.quoted", "“{0}”"}, asText(std::string(text))),
                      {"typed.goes-more-less", "goes from more to less"},
                      {"cure.type-smaller-figure", "Type the smaller figure first"});
    out.leastMm = *from;
    out.mostMm = *to;
    return out;
}

std::string rangeAsTyped(const MillimetreRange& range, UnitSystem system) {
    const bool metric = system == UnitSystem::Metric;
    const auto figure = [&](double mm) {
        return metric ? shortFigure(mm, 2) : shortFigure(mm / inchMm, 4);
    };
    if (!range.leastMm && !range.mostMm)
        return {};
    const std::string unit = metric ? " mm" : " in";
    if (!range.leastMm)
        return "at most " + figure(*range.mostMm) + unit;
    if (!range.mostMm)
        return "at least " + figure(*range.leastMm) + unit;
    if (*range.leastMm == *range.mostMm)
        return figure(*range.mostMm) + unit;
    return figure(*range.leastMm) + "–" + figure(*range.mostMm) + unit;
}

EndCard ownCard(const EndCard& card, const std::string& connectionId) {
    EndCard out = card;
    if (card.id.substr(0, ownBegins.size()) != ownBegins)
        out.id = std::string(ownBegins) + connectionId + " " + card.id;
    out.connectionIds = {connectionId};
    return out;
}

} // namespace burin
