#pragma once
#include "core/history/differing.h"
#include "core/history/merge.h"

namespace burin {

/// A row that the copies do not have alike, on its way to what it will be.
struct JoinedRow {
    Differing states;
    RowTouches touches;
    std::vector<const Coming*> gone; ///< steps that took it away, with nothing on it after them
    bool stays = false;

    JoinedRow() = default;
    JoinedRow(JoinedRow&&) = default;
    JoinedRow& operator=(JoinedRow&&) = default;

    [[nodiscard]] bool oneSided() const {
        return states.mine.has_value() != states.theirs.has_value();
    }
    [[nodiscard]] const std::string& ownerId() const {
        return states.mine     ? states.mine->ownerId
               : states.theirs ? states.theirs->ownerId
                               : touches.ownerId;
    }
};
/// What became of a field, and the touches that would each have it otherwise.
struct Settled { // NOLINT(bugprone-exception-escape): the JSON library's own move
    Json value;
    Json before;                      ///< the copies went apart
    std::vector<const Touch*> rivals; ///< of each value the latest; one at most: no conflict
    std::vector<const Touch*> heads;
};

/// The rows of two copies that are not alike, or whose staying is in doubt, with all that the steps
/// of both did to them; and what follows from that for a single row or field.
class JoinedRows {
public:
    JoinedRows(const JobCopy& mine, const JobCopy& theirs, TouchIndex index, Ancestry ancestry,
               bool forward);

protected:
    [[nodiscard]] const LogRow& step(std::size_t at) const { return *index_.steps()[at]; }
    /// Takes up rows that both copies have alike.
    void addAlike(const std::set<RowKey>& keys);
    [[nodiscard]] JoinedRow rowFor(const RowKey& key, Differing states) const;
    /// Of those taken up; of another, made in `apart`.
    [[nodiscard]] const JoinedRow& rowFor(const RowKey& key, JoinedRow& apart) const;
    [[nodiscard]] bool later(std::size_t a, std::size_t b) const;
    [[nodiscard]] bool beforeOrAt(std::size_t a, std::size_t b) const;
    /// Whether nobody knew of `a` but who made `b`, and who came after that.
    [[nodiscard]] bool onlyBefore(std::size_t a, std::size_t b) const;
    /// Whether the joined job has a row, as far as is decided.
    [[nodiscard]] bool isThere(Kind kind, const std::string& id) const;
    /// What a field was before the copies went apart: before the first touch that not all know of.
    [[nodiscard]] const Json& beforeParting(const std::vector<const Touch*>& touches,
                                            const std::vector<const Touch*>& heads,
                                            const std::vector<const Coming*>& gone) const;
    /// The value a field comes to by the steps that touched it; none: no step did.
    [[nodiscard]] std::optional<Settled> settle(const JoinedRow& row,
                                                const std::string& field) const;
    /// Whether any of `gone` is that step, or knew of it.
    [[nodiscard]] bool knownTo(const std::vector<const Coming*>& gone, std::size_t at) const;
    /// The latest step by which a row stays although it was taken away.
    [[nodiscard]] std::optional<std::size_t> claimOn(const RowKey& key, const JoinedRow& row) const;
    [[nodiscard]] Json finalValue(const JoinedRow& row, const std::string& field) const;
    [[nodiscard]] RowValues finalValues(const JoinedRow& row) const;

    const JobCopy& mine_;
    const JobCopy& theirs_;
    TouchIndex index_;
    Ancestry ancestry_;
    bool forward_; ///< mine is an older state of theirs
    std::map<RowKey, JoinedRow> rows_;
    std::set<RowKey> alike_; ///< rows that mine has: of those not in `rows_`, both copies
    std::map<RowKey, std::vector<RowKey>> owned_; ///< rows in `rows_` by their owner

private:
    mutable std::map<std::pair<std::size_t, std::size_t>, bool> onlyBefore_;
};

} // namespace burin
