#pragma once
#include <algorithm>
#include <string_view>
#include <vector>

namespace burin {

/// The entry of `list` whose `id` is `id`; nullptr when there is none.
template <typename T> const T* byId(const std::vector<T>& list, std::string_view id) {
    const auto it = std::find_if(list.begin(), list.end(), [&](const T& t) { return t.id == id; });
    return it == list.end() ? nullptr : &*it;
}

} // namespace burin
