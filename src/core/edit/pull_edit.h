#pragma once
#include "core/catalogue/catalogue.h"
#include "core/edit/edit.h"
#include <functional>

namespace burin {

/// Cables that go together: a row of the job, or those that nobody put together.
struct PullOf {
    std::string id; ///< of the row; empty: there is none yet
    std::vector<std::string> runIds;
    /// The job's boxes they are to come from, in the same order, empty ones where none is known;
    /// shorter: likewise.
    std::vector<std::string> boxIds{};
};

/// What was typed of a piece.
struct TypedMarks {
    std::string boxId;
    std::optional<int> start, end;
    std::string on; ///< the day, where both are there
};
/// Gives a run its box and marks; its pull is kept together from then on, and the others of it keep
/// the boxes they are to come from: that is how they stand at the way. Refused when the edit is
/// applied: marks that the box cannot have given.
Edit markedEdit(const Job& job, const PullOf& pull, const std::string& runId,
                const TypedMarks& marks);

/// The run goes with that pull, or with none but itself (`to` without runs). Refused: it is pulled.
Outcome<Edit> movedToPull(const Job& job, const std::string& runId, const PullOf& to);
/// Both go together. Refused: something of either is pulled.
Outcome<Edit> joinedPulls(const Job& job, const PullOf& a, const PullOf& b);
/// Those of them that come first, in this order, before all others.
Edit orderedPulls(const Job& job, const std::vector<PullOf>& inOrder);
/// The pull as its row, kept together if nobody did, changed by `change`.
Edit changedPull(const Job& job, const PullOf& pull, const std::string& title,
                 const std::function<void(Pull&)>& change);
/// Nobody has put it together any more: it is planned anew. What is pulled, or
/// has a mark already, stays.
Edit releasedPull(const Job& job, const PullOf& pull);

} // namespace burin
