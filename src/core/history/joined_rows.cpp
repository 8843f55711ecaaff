#include "core/history/joined_rows.h"
#include <algorithm>

namespace burin {

JoinedRows::JoinedRows(const JobCopy& mine, const JobCopy& theirs, TouchIndex index,
                       Ancestry ancestry, bool forward)
    : mine_(mine), theirs_(theirs), index_(std::move(index)), ancestry_(std::move(ancestry)),
      forward_(forward) {
    for (auto& [key, states] : differingRows(mine.job, theirs.job)) {
        JoinedRow& row = rows_[key];
        row.touches = index_.of(key, ancestry_);
        row.states = std::move(states);
    }
    everyList<JobLists>([&]<typename L>(L) {
        for (const auto& row : mine.job.*L::list) {
            alike_.emplace(L::kind, row.id);
            everyChildList<typename L::Type>([&]<typename C>(C) {
                for (const auto& child : row.*C::list)
                    alike_.emplace(C::kind, child.id);
            });
        }
    });
    // What was taken away and is there all the same stays only while there is a reason.
    std::set<RowKey> kept;
    for (const auto& key : index_.removed())
        if (alike_.contains(key) && !rows_.contains(key))
            kept.insert(key);
    addAlike(kept);
    for (const auto& [key, row] : rows_)
        if (tableOf(key.first).owner)
            owned_[{*tableOf(key.first).owner, row.ownerId()}].push_back(key);
}

void JoinedRows::addAlike(const std::set<RowKey>& keys) {
    for (auto& [key, state] : statesOf(mine_.job, keys))
        rows_[key] = {{state, state}, index_.of(key, ancestry_), true};
}

bool JoinedRows::later(std::size_t a, std::size_t b) const {
    return std::tie(step(a).lamport, step(a).id) > std::tie(step(b).lamport, step(b).id);
}

bool JoinedRows::beforeOrAt(std::size_t a, std::size_t b) const {
    return a == b || ancestry_.before(a, b);
}

bool JoinedRows::onlyBefore(std::size_t a, std::size_t b) const {
    if (!beforeOrAt(a, b))
        return false;
    const auto [it, fresh] = onlyBefore_.try_emplace({a, b}, true);
    if (fresh)
        for (std::size_t s = a + 1; s < index_.steps().size() && it->second; ++s)
            it->second = !(ancestry_.before(a, s) && !beforeOrAt(s, b) && !ancestry_.before(b, s));
    return it->second;
}

bool JoinedRows::isThere(Kind kind, const std::string& id) const {
    const auto it = rows_.find({kind, id});
    return it != rows_.end() ? it->second.stays : alike_.contains({kind, id});
}

const Json& JoinedRows::beforeParting(const std::vector<Touch>& touches,
                                      const std::vector<const Touch*>& heads,
                                      const std::vector<const Coming*>& gone) const {
    const Touch* first = heads.front();
    for (const auto& touch : touches) {
        const auto knows = [&](const auto* other) {
            return ancestry_.before(touch.step, other->step);
        };
        if (!(std::all_of(heads.begin(), heads.end(), knows) &&
              std::all_of(gone.begin(), gone.end(), knows)) &&
            later(first->step, touch.step))
            first = &touch;
    }
    return first->before;
}

std::optional<Settled> JoinedRows::settle(const JoinedRow& row, const std::string& field) const {
    const auto found = row.touches.fields.find(field);
    if (found == row.touches.fields.end() || found->second.empty())
        return std::nullopt;
    // What was cleared because what it referred to went is not, where that stays after all; and
    // who took the row away has no say in what stays of it.
    const auto gone = removals(row);
    std::vector<Touch> touches;
    for (const auto& touch : found->second)
        if (!(touch.follows && isThere(*touch.referred, touch.before.get<std::string>())) &&
            std::none_of(gone.begin(), gone.end(),
                         [&](const Coming* c) { return onlyBefore(touch.step, c->step); }))
            touches.push_back(touch);
    if (touches.empty())
        return Settled{found->second.front().before, {}, {}};
    Settled out;
    const auto heads = ancestry_.heads(touches);
    const Json before = beforeParting(touches, heads, gone);
    std::vector<const Touch*> rivals;
    for (const auto* head : heads)
        if (head->after != before)
            rivals.push_back(head);
    // What was only cleared with what it referred to is not what somebody wanted.
    std::sort(rivals.begin(), rivals.end(), [&](const Touch* a, const Touch* b) {
        return a->follows != b->follows ? b->follows : later(a->step, b->step);
    });
    const auto original = [&](const Touch* touch) {
        return &*std::find_if(found->second.begin(), found->second.end(),
                              [&](const Touch& t) { return t.step == touch->step; });
    };
    out.value = rivals.empty() ? heads.front()->after : rivals.front()->after;
    for (const auto* rival : rivals)
        if (!rival->follows &&
            std::none_of(out.rivals.begin(), out.rivals.end(),
                         [&](const Touch* r) { return r->after == rival->after; }))
            out.rivals.push_back(original(rival));
    for (const auto* head : heads)
        out.heads.push_back(original(head));
    return out;
}

std::vector<const Coming*> JoinedRows::removals(const JoinedRow& row) const {
    auto heads = ancestry_.heads(row.touches.comings);
    std::erase_if(heads, [](const Coming* c) { return c->there; });
    return heads;
}

std::optional<std::size_t> JoinedRows::claimOn(const RowKey& key, const JoinedRow& row,
                                               const std::vector<const Coming*>& gone) const {
    std::optional<std::size_t> out;
    const auto claim = [&](std::size_t at) {
        const bool known = std::any_of(gone.begin(), gone.end(),
                                       [&](const Coming* c) { return beforeOrAt(at, c->step); });
        if (!known && (!out || later(at, *out)))
            out = at;
    };
    for (const auto& [field, touches] : row.touches.fields) {
        const auto heads = ancestry_.heads(touches);
        const Json& before = beforeParting(touches, heads, gone);
        for (const auto* head : heads)
            if (!head->follows && head->after != before)
                claim(head->step);
    }
    const auto children = owned_.find(key);
    if (children == owned_.end())
        return out;
    for (const auto& childKey : children->second) {
        const JoinedRow& child = rows_.at(childKey);
        const auto mine = removals(child);
        if (const auto at = claimOn(childKey, child, mine); at && !mine.empty())
            claim(*at);
        if (mine.empty())
            for (const auto* head : ancestry_.heads(child.touches.comings))
                claim(head->step);
    }
    return out;
}

Json JoinedRows::finalValue(const JoinedRow& row, const std::string& field) const {
    const auto in = [&](const std::optional<RowState>& state) {
        const auto it = state->values.find(field);
        return it == state->values.end() ? Json() : it->second;
    };
    if (forward_)
        return in(row.states.theirs);
    const auto touches = row.touches.fields.find(field);
    const bool cleared = touches != row.touches.fields.end() &&
                         std::any_of(touches->second.begin(), touches->second.end(),
                                     [](const Touch& t) { return t.follows; });
    if (!cleared && row.states.mine && row.states.theirs &&
        in(row.states.mine) == in(row.states.theirs))
        return in(row.states.mine);
    if (const auto settled = settle(row, field))
        return settled->value;
    if (row.states.mine || row.states.theirs)
        return in(row.states.mine ? row.states.mine : row.states.theirs);
    return {};
}

RowValues JoinedRows::finalValues(const JoinedRow& row) const {
    std::set<std::string> fields;
    for (const auto& state : {row.states.mine, row.states.theirs})
        if (state)
            for (const auto& [field, value] : state->values)
                fields.insert(field);
    for (const auto& [field, touches] : row.touches.fields)
        fields.insert(field);
    RowValues out;
    for (const auto& field : fields)
        if (Json value = finalValue(row, field); !value.is_null())
            out[field] = std::move(value);
    return out;
}

} // namespace burin
