#pragma once
#include "core/edit/edit.h"
#include "core/units/units.h"
#include <unordered_map>
#include <unordered_set>

namespace burin {

/// Reads a way typed in one line: stretches from the near end, separated by `;`, each a name, a
/// length with unit, and optionally a temperature, how many cables lie beside it,
/// and "in conduit" or "in insulation":
/// "riser shaft 12 m; tray 34 m 31 °C 23 beside; wall drop 15.5 m in insulation". Refused with the
/// column.
Outcome<std::vector<RunStretch>> parseWay(std::string_view text, UnitSystem system);
/// The text parseWay reads back. A name that would be read as something else stands in quotation
/// marks: `"Store 3 m" 18 m`; one of its own in it is written twice.
std::string wayText(const std::vector<RunStretch>& stretches, UnitSystem system);
/// A way as typed over that one: a stretch that reads as it did is the one there was, and so is a
/// figure of one that was only changed elsewhere. What is not typed over is not rounded either.
std::vector<RunStretch> retypedWay(std::vector<RunStretch> typed,
                                   const std::vector<RunStretch>& kept, UnitSystem system);

/// Gives runs labels that none has yet, each once.
class LabelMaker {
public:
    explicit LabelMaker(const Job& job);
    /// "SL-D03" → "SL-D04": the first number behind it, and behind all it gave for this stem, that
    /// no run has.
    std::string next(const std::string& label);

private:
    std::unordered_set<std::string> taken_;
    std::unordered_map<std::string, long> last_;
};
/// One such label.
std::string nextLabel(const Job& job, const std::string& label);

/// Reads a run typed in one line: its label, then in any order a length, a cable id and a service
/// id: "SL-D03 61.5 m cat6a-utp 10g". What is left out is taken from the last run of the same kind
/// (the letter behind the dash, as in site.json) in the room, else of its kind in the job, else
/// what is usual for the kind; without one, from the room's last run, else Cat 6A, 10 Gbit/s, two 3
/// m cords and a connection at each end. The letters before the label's dash name the room; the
/// edit makes it where the job has none.
struct NewRun {
    std::optional<Room> room; ///< to be made
    Run run;
};
Outcome<NewRun> parseNewRun(std::string_view text, const Job& job, const Catalogue& catalogue,
                            UnitSystem system);

/// Letters of a room that the job has, typed with a name, name it: "OF Office". None: it is
/// something else.
std::optional<Edit> namedRoom(std::string_view text, const Job& job);

/// Cords and connections that go with a cable: two 3 m cords of it, a connection of its category
/// (coax: none and the impedance's usual connector) at each end.
void fitOut(Run& run, const Catalogue& catalogue);

} // namespace burin
