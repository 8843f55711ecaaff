#include "core/history/joined_rows.h"
#include <algorithm>

namespace burin {

JoinedRows::JoinedRows(const JobCopy& mine, const JobCopy& theirs, TouchIndex index,
                       Ancestry ancestry, bool forward)
    : mine_(mine), theirs_(theirs), index_(std::move(index)), ancestry_(std::move(ancestry)),
      forward_(forward) {
    for (auto& [key, states] : differingRows(mine.job, theirs.job))
        rows_[key] = rowFor(key, std::move(states));
    everyRow(mine.job,
             [&](const auto& row, const std::string&) { alike_.emplace(kindOfRow(row), row.id); });
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
    for (auto& [key, state] : statesOf(mine_.job, keys)) {
        rows_[key] = rowFor(key, Differing{state, state});
        rows_[key].stays = true;
    }
}

JoinedRow JoinedRows::rowFor(const RowKey& key, Differing states) const {
    JoinedRow out;
    out.states = std::move(states);
    out.touches = index_.of(key, ancestry_);
    out.gone = ancestry_.heads(out.touches.comings);
    std::erase_if(out.gone, [](const Coming* c) { return c->there; });
    return out;
}

const JoinedRow& JoinedRows::rowFor(const RowKey& key, JoinedRow& apart) const {
    const auto it = rows_.find(key);
    if (it != rows_.end())
        return it->second;
    apart = rowFor(key, Differing{});
    return apart;
}

bool JoinedRows::knownTo(const std::vector<const Coming*>& gone, std::size_t at) const {
    return std::any_of(gone.begin(), gone.end(),
                       [&](const Coming* c) { return beforeOrAt(at, c->step); });
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

const Json& JoinedRows::beforeParting(const std::vector<const Touch*>& touches,
                                      const std::vector<const Touch*>& heads,
                                      const std::vector<const Coming*>& gone) const {
    const Touch* first = heads.front();
    for (const auto* touch : touches) {
        const auto knows = [&](const auto* other) {
            return ancestry_.before(touch->step, other->step);
        };
        if (!(std::all_of(heads.begin(), heads.end(), knows) &&
              std::all_of(gone.begin(), gone.end(), knows)) &&
            later(first->step, touch->step))
            first = touch;
    }
    return first->before;
}

std::optional<Settled> JoinedRows::settle(const JoinedRow& row, const std::string& field) const {
    const auto found = row.touches.fields.find(field);
    if (found == row.touches.fields.end() || found->second.empty())
        return std::nullopt;
    // What was cleared because what it referred to went is not, where that stays after all; and
    // who took the row away has no say in what stays of it.
    std::vector<const Touch*> touches;
    for (const auto& touch : found->second)
        if (!(touch.follows && isThere(*touch.referred, touch.before.get<std::string>())) &&
            std::none_of(row.gone.begin(), row.gone.end(),
                         [&](const Coming* c) { return onlyBefore(touch.step, c->step); }))
            touches.push_back(&touch);
    Settled out;
    if (touches.empty()) {
        out.value = out.before = found->second.front().before;
        return out;
    }
    out.heads = ancestry_.heads(touches);
    out.before = beforeParting(touches, out.heads, row.gone);
    std::vector<const Touch*> rivals;
    for (const auto* head : out.heads)
        if (head->after != out.before)
            rivals.push_back(head);
    // What was only cleared with what it referred to is not what somebody wanted.
    std::sort(rivals.begin(), rivals.end(), [&](const Touch* a, const Touch* b) {
        return a->follows != b->follows ? b->follows : later(a->step, b->step);
    });
    out.value = rivals.empty() ? out.heads.front()->after : rivals.front()->after;
    for (const auto* rival : rivals)
        if (!rival->follows &&
            std::none_of(out.rivals.begin(), out.rivals.end(),
                         [&](const Touch* r) { return r->after == rival->after; }))
            out.rivals.push_back(rival);
    return out;
}

std::optional<std::size_t> JoinedRows::claimOn(const RowKey& key, const JoinedRow& row) const {
    std::optional<std::size_t> out;
    const auto claim = [&](std::size_t at) {
        if (!knownTo(row.gone, at) && (!out || later(at, *out)))
            out = at;
    };
    for (const auto& [field, all] : row.touches.fields) {
        std::vector<const Touch*> touches;
        for (const auto& touch : all)
            touches.push_back(&touch);
        const auto heads = ancestry_.heads(touches);
        const Json& before = beforeParting(touches, heads, row.gone);
        for (const auto* head : heads)
            if (!head->follows && head->after != before)
                claim(head->step);
    }
    const auto children = owned_.find(key);
    if (children == owned_.end())
        return out;
    for (const auto& childKey : children->second) {
        const JoinedRow& child = rows_.at(childKey);
        if (child.gone.empty()) {
            for (const auto* head : ancestry_.heads(child.touches.comings))
                claim(head->step);
        } else if (const auto at = claimOn(childKey, child)) {
            claim(*at);
        }
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
