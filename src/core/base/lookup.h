#pragma once
#include <algorithm>
#include <cstddef>
#include <string_view>
#include <unordered_map>
#include <vector>

namespace burin {

/// The entry of `list` whose `id` is `id`; nullptr when there is none.
template <typename T> const T* byId(const std::vector<T>& list, std::string_view id) {
    const auto it = std::find_if(list.begin(), list.end(), [&](const T& t) { return t.id == id; });
    return it == list.end() ? nullptr : &*it;
}

/// Finds entries of a list by id, which must stay as it is meanwhile: one by one while few are
/// asked for, else by an index made once.
template <typename T> class IdFinder {
public:
    IdFinder(const std::vector<T>& list, std::size_t asked) : list_(list) {
        if (asked <= 4)
            return;
        index_.reserve(list.size());
        for (const auto& entry : list)
            index_.emplace(entry.id, &entry);
    }
    /// nullptr: there is none.
    [[nodiscard]] const T* find(std::string_view id) const {
        if (index_.empty())
            return byId(list_, id);
        const auto it = index_.find(id);
        return it == index_.end() ? nullptr : it->second;
    }

private:
    const std::vector<T>& list_;
    std::unordered_map<std::string_view, const T*> index_;
};

} // namespace burin
