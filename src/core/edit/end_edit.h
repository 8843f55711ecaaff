#pragma once
#include "core/catalogue/catalogue.h"
#include "core/edit/edit.h"

namespace burin {

/// Puts a connector on that end of a run, in place of the one on its cable there.
Edit adoptedConnector(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                      const std::string& connectionId);
/// The same on that end of every run with the same cable, of the whole job or of that run's room,
/// where a connector of the same series is, or none that somebody chose.
enum class Alike { InJob, InRoom };
Edit adoptedAlike(const Job& job, const Catalogue& catalogue, const std::string& runId, End end,
                  const std::string& connectionId, Alike where = Alike::InJob);

/// One end of a run.
struct EndAt {
    std::string runId;
    End end = End::Near;
    bool operator==(const EndAt&) const = default;
    bool operator<(const EndAt& other) const {
        return std::tie(runId, end) < std::tie(other.runId, other.end);
    }
};
/// Who made an end, when and with what; empty: nobody said.
struct MadeWith {
    std::string on, by, stripToolId, closeToolId;
};
/// The last that was done at an end; nullptr: nothing. `standing`: it is made, not cut off.
struct LastMade {
    const Termination* row = nullptr;
    [[nodiscard]] bool standing() const { return row != nullptr && !row->spoiled; }
};
LastMade lastMade(const Job& job, const EndAt& at);
/// The last end that got such a connector, whose tools the next is likely to get; nullptr: none.
const Termination* lastWith(const Job& job, std::string_view connectionId);

/// Those ends are made, with the connector that is chosen there, or the usual one. What stood
/// there before was cut off.
Edit madeEnds(const Job& job, const Catalogue& catalogue, const std::vector<EndAt>& ends,
              const MadeWith& with);
/// One try is spoiled: what stands there, or one more where nothing does.
Edit spoiledEnd(const Job& job, const Catalogue& catalogue, const EndAt& at, const MadeWith& with);
/// The last that was done at those ends was not done.
Edit unmadeEnds(const Job& job, const std::vector<EndAt>& ends);
/// What was found of a proof of that end; `found` none: nobody looked. No change where it is not
/// made.
Edit checkedEnd(const Job& job, const EndAt& at, const std::string& proofId,
                const std::optional<EndCheck>& found);
/// A photograph shows those ends that are made. It is pinned to no run: what shows an end does not
/// show what lies behind a wall.
Edit photographedEnds(const Job& job, const std::vector<EndAt>& ends, const Photograph& photograph);

/// Keeps a card of the user's over the catalogue's; in place of the one with its id.
Edit keptCard(const Job& job, const EndCard& card);

} // namespace burin
