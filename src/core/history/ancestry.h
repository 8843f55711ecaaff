#pragma once
#include "core/history/log.h"
#include <algorithm>
#include <unordered_map>

namespace burin {

/// Which steps of joined logs were known when another was made. Steps lie in threads, each the next
/// of the one before; what a thread knew of others is kept once for all of its steps, so that this
/// is small for logs of any length that were joined some hundred times.
class Ancestry {
public:
    /// Of steps each of which stands behind its parents. Refused: a parent that is not there.
    static Outcome<Ancestry> of(const std::vector<const LogRow*>& steps);
    /// Whether `a` was known to whoever made `b`; indices of the steps. Of one step: no.
    [[nodiscard]] bool before(std::size_t a, std::size_t b) const;

    /// Whether `b` follows `a` in one thread, and nobody else knew of `a` before that.
    [[nodiscard]] bool undisturbed(std::size_t a, std::size_t b) const;

    /// Of steps in rising order, those that no other of them came after.
    template <typename Touch>
    [[nodiscard]] std::vector<const Touch*> heads(const std::vector<const Touch*>& touches) const {
        std::vector<const Touch*> out;
        for (auto it = touches.rbegin(); it != touches.rend(); ++it) {
            const auto comesAfter = [&](const Touch* head) {
                return (*it)->step == head->step || before((*it)->step, head->step);
            };
            if (std::none_of(out.begin(), out.end(), comesAfter))
                out.push_back(*it);
        }
        return out;
    }
    template <typename Touch>
    [[nodiscard]] std::vector<const Touch*> heads(const std::vector<Touch>& touches) const {
        std::vector<const Touch*> all;
        all.reserve(touches.size());
        for (const auto& touch : touches)
            all.push_back(&touch);
        return heads(all);
    }

private:
    struct At {
        std::size_t thread = 0, place = 0;
    };
    std::vector<At> at_;
    /// By thread: the last known place of others.
    std::vector<std::unordered_map<std::size_t, std::size_t>> known_;
    std::vector<std::vector<std::size_t>> branches_; ///< by thread: places where others begin
};

} // namespace burin
