#include "core/catalogue/catalogue.h"
#include "core/base/lookup.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace burin {
namespace {

constexpr std::array<std::string_view, 9> categoryKeys{"none", "3", "5",  "5e", "6",
                                                       "6A",   "7", "7A", "8"};

template <typename Key, std::size_t N>
std::optional<Key> indexOf(const std::array<std::string_view, N>& keys, std::string_view key) {
    const auto it = std::find(keys.begin(), keys.end(), key);
    if (it == keys.end())
        return std::nullopt;
    return static_cast<Key>(it - keys.begin());
}

} // namespace

std::string categoryName(Category category) {
    return category == Category::None ? "no category" : "Cat " + std::string(categoryKey(category));
}
std::string_view categoryKey(Category category) {
    return categoryKeys[static_cast<std::size_t>(category)];
}
std::optional<Category> categoryFromKey(std::string_view key) {
    return indexOf<Category>(categoryKeys, key);
}
bool Cable::isProposedFor(std::string_view serviceId) const {
    return !proposedFor ||
           std::find(proposedFor->begin(), proposedFor->end(), serviceId) != proposedFor->end();
}

double LoopRule::mostOhm() const {
    return loadOhm * (std::pow(10, maxDb / 20) - 1);
}

std::string_view weatherKey(Weather weather) {
    constexpr std::array<std::string_view, 3> keys{"indoors", "booted", "sealed"};
    return keys[static_cast<std::size_t>(weather)];
}

const Cable* Catalogue::cable(std::string_view id) const {
    return byId(cables, id);
}
const Connection* Catalogue::connection(std::string_view id) const {
    return byId(connections, id);
}
const Service* Catalogue::service(std::string_view id) const {
    return byId(services, id);
}

const Limit* Catalogue::limit(LimitSet set, std::string_view className, LinkKind link,
                              Parameter parameter) const {
    for (const Limit& limit : limits)
        if (limit.parameter == parameter && limit.link == link && limit.set == set &&
            limit.className == className)
            return &limit;
    return nullptr;
}

Catalogue Catalogue::with(std::span<const Cable> users) const {
    Catalogue out = *this;
    for (const Cable& user : users) {
        const auto it = std::find_if(out.cables.begin(), out.cables.end(),
                                     [&](const Cable& c) { return c.id == user.id; });
        if (it == out.cables.end())
            out.cables.push_back(user);
        else
            *it = user;
    }
    return out;
}

namespace {

/// Cat 5 goes on parts of Cat 5e.
Category partsFor(Category category) {
    return category == Category::Cat5 ? Category::Cat5e : category;
}

bool gripsCoax(const ConnectorFit& fit, const Cable& cable) {
    const auto within = [](double value, double least, double most) {
        return value >= least && value <= most;
    };
    return (!cable.diameterMm ||
            within(cable.diameterMm->value, fit.jacketLeastMm, fit.jacketMostMm)) &&
           (!cable.centreMm ||
            within(cable.centreMm->value, fit.conductorLeastMm, fit.conductorMostMm)) &&
           std::any_of(fit.impedancesOhm.begin(), fit.impedancesOhm.end(),
                       [&](double ohm) { return std::abs(ohm - cable.impedanceOhm.value) < 1; });
}

} // namespace

const Connection* usualConnection(const Catalogue& catalogue, const Cable& cable) {
    const Connection* found = nullptr;
    for (const Connection& c : catalogue.connections) {
        if (c.kind != cable.kind || !c.fit)
            continue;
        if (cable.kind == CableKind::Balanced) {
            const bool jack = c.fit->series != "plug" && c.fit->series != "block";
            if (jack && c.category == partsFor(cable.category) &&
                (found == nullptr ||
                 (c.screened == (cable.screen != Screen::None) && found->screened != c.screened)))
                found = &c;
        } else if (gripsCoax(*c.fit, cable) &&
                   (c.fit->weather == Weather::Sealed
                        ? found == nullptr || found->fit->weather != Weather::Sealed
                        : found == nullptr)) {
            found = &c;
        }
    }
    return found;
}

std::string className(LimitSet set, Category category) {
    using C = Category;
    if (set == LimitSet::Iso) {
        // Cat 5 was built for a class D of its day, which is not in the catalogue.
        constexpr std::array<std::string_view, categoryKeys.size()> classes{
            "", "C", "", "D", "E", "EA", "F", "FA", ""};
        return std::string(classes[static_cast<std::size_t>(category)]);
    }
    switch (category) {
    case C::Cat5e:
        return "cat5e";
    case C::Cat6:
        return "cat6";
    case C::Cat6A:
        return "cat6a";
    default:
        return "";
    }
}

} // namespace burin
