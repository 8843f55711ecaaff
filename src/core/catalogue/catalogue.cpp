#include "core/catalogue/catalogue.h"
#include "core/lookup.h"
#include <algorithm>
#include <array>

namespace burin {
namespace {

constexpr std::array<std::string_view, 8> categoryKeys{"none", "3", "5e", "6",
                                                       "6A",   "7", "7A", "8"};
constexpr std::array<std::string_view, 3> schoolKeys{"guideline", "cautious", "none"};

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
std::optional<BundleSchool> bundleSchoolFromKey(std::string_view key) {
    return indexOf<BundleSchool>(schoolKeys, key);
}
std::string_view bundleSchoolKey(BundleSchool school) {
    return schoolKeys[static_cast<std::size_t>(school)];
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

std::string className(LimitSet set, Category category) {
    using C = Category;
    if (set == LimitSet::Iso) {
        constexpr std::array<std::string_view, 8> classes{"", "C", "D", "E", "EA", "F", "FA", ""};
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
