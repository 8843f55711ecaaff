#include "core/edit/rule_text.h"
#include "core/base/text.h"
#include "core/units/render.h"
#include "core/units/short_figure.h"
#include "core/units/units.h"
#include <algorithm>
#include <cctype>

namespace burin {
namespace {

constexpr Wording jackets{"jackets.colours", "jacket colours"};
constexpr Wording noKind{"jackets.no-kind", "“{0}” is no kind of run"};
constexpr Wording nameKind{"jackets.name-kind",
                           "Write a kind and its colour, parted by commas: data blue. Kinds: {0}"};
constexpr Wording prices{"prices.cables", "prices of cables"};
constexpr Wording noSuchCable{"prices.no-cable", "“{0}” is no cable of this job or the catalogue"};
constexpr Wording noPrice{"prices.no-price", "“{0}” is no price from 0 to 1,000,000"};
constexpr Wording pricedTwice{"prices.twice", "{0} has two prices"};
constexpr Wording writePrice{
    "prices.write", "Write a cable and what a metre costs, parted by commas: cat6-utp 0.55"};

/// One rule of a line: its last word, and what stands before it.
struct Said {
    std::string_view of, value;
};
/// Parted by commas or semicolons, as ways are; a comma between figures is a decimal one.
std::vector<Said> saidIn(std::string_view text) {
    std::vector<Said> out;
    const auto isFigure = [&](std::size_t i) {
        return i < text.size() && std::isdigit(static_cast<unsigned char>(text[i])) != 0;
    };
    std::size_t begin = 0;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        if (i < text.size() && text[i] != ';' &&
            (text[i] != ',' || (i > begin && isFigure(i - 1) && isFigure(i + 1))))
            continue;
        const auto rule = trimmed(text.substr(begin, i - begin));
        begin = i + 1;
        if (rule.empty())
            continue;
        const auto blank = rule.find_last_of(' ');
        if (blank == std::string_view::npos)
            out.push_back({{}, rule});
        else
            out.push_back({trimmed(rule.substr(0, blank)), rule.substr(blank + 1)});
    }
    return out;
}

} // namespace

Outcome<Edit> jacketColours(std::string_view text, const Job& job, const Catalogue& catalogue) {
    JobInfo after = job.info;
    after.pull.colours.clear();
    for (const auto& [of, colour] : saidIn(text)) {
        const std::string kind = lower(of);
        const auto known =
            std::find_if(catalogue.site.kinds.begin(), catalogue.site.kinds.end(),
                         [&](const RunKind& k) { return k.id == kind || lower(k.name) == kind; });
        if (known == catalogue.site.kinds.end()) {
            std::string names;
            for (const auto& k : catalogue.site.kinds)
                names += (names.empty() ? "" : ", ") + k.name;
            return refuse(sentence(jackets), sentence(noKind, asText(kind)),
                          sentence(nameKind, asText(names)));
        }
        after.pull.colours.push_back({known->id, std::string(colour)});
    }
    return Edit{"jacket colours", put(std::optional(job.info), std::optional(after))};
}

std::string coloursText(const Job& job, const Catalogue& catalogue) {
    std::string out;
    for (const auto& rule : job.info.pull.colours) {
        const RunKind* kind = catalogue.site.kind(rule.kindId);
        out += (out.empty() ? "" : ", ") + (kind == nullptr ? rule.kindId : kind->name) + " " +
               rule.colour;
    }
    return out;
}

Outcome<Edit> cablePrices(std::string_view text, const Job& job, const Catalogue& catalogue) {
    JobInfo after = job.info;
    auto& list = after.survey.cablePrices;
    list.clear();
    for (const auto& [of, value] : saidIn(text)) {
        const auto refused = [](const Wording& what, std::string_view said) {
            return refuse(sentence(prices), sentence(what, asText(std::string(said))),
                          sentence(writePrice));
        };
        const std::string wanted = lower(of.empty() ? value : of);
        const auto cable =
            std::find_if(catalogue.cables.begin(), catalogue.cables.end(), [&](const Cable& one) {
                return lower(one.id) == wanted || lower(one.name) == wanted;
            });
        if (cable == catalogue.cables.end())
            return refused(noSuchCable, of.empty() ? value : of);
        const auto price = parseNumber(value, "price");
        if (of.empty() || !price || *price < 0 || *price > 1e6)
            return refused(noPrice, value);
        if (std::any_of(list.begin(), list.end(),
                        [&](const CablePrice& one) { return one.cableId == cable->id; }))
            return refused(pricedTwice, cable->id);
        list.push_back({cable->id, *price});
    }
    return Edit{"prices of cables", put(std::optional(job.info), std::optional(after))};
}

std::string pricesText(const Job& job) {
    std::string out;
    for (const auto& one : job.info.survey.cablePrices)
        out += (out.empty() ? "" : ", ") + one.cableId + " " + shortFigure(one.perM, 3);
    return out;
}

} // namespace burin
