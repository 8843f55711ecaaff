#pragma once
#include "core/edit/plan_edit.h"
#include "core/site/geometry.h"
#include "core/units/units.h"
#include <functional>

namespace burin {

/// What the pointer does on the plan.
enum class Tool {
    Choose,
    Scale,
    Room,
    HeadEnd,
    Outlet,
    Device,
    Pathway,
    Mains,
    Wall,
    Run, ///< from one place to another
    Photo
};

/// What is made and moved on a floor, as edits: no widget, so that mouse, keys and tests share it.
struct PlanTools {
    Tool tool = Tool::Choose;
    PlaceKind head = PlaceKind::Panel;
    std::size_t pathway = 0, mains = 0, run = 0; ///< presets and kinds of the catalogue
};

/// The grid of 0.1 m.
double onGrid(double m);
/// A point taken to what is near it: a corner, a wall or pathway, else the grid. With `square` it
/// lies level or upright from `from`. What is being moved (`except`) does not hold itself back.
PlanPoint snapped(const Job& job, const std::string& floorId, PlanPoint p, double withinM,
                  const std::optional<PlanPoint>& from, bool square,
                  const std::string& except = {});
/// The corners of a room or the points of a line; nullptr where the thing has neither.
const std::vector<PlanPoint>* pointsOfThing(const Job& job, const std::string& id);

/// What lies under the pointer: its id, and the corner of it, −1 for none.
struct Hit {
    std::string id;
    int corner = -1;
};
/// The nearest of places and corners of the chosen thing first, then lines, rooms.
Hit hitAt(const Job& job, const std::string& floorId, const PlanPoint& p, double withinM,
          const std::string& chosenId);
/// The place nearest to a point, no farther than `withinM`; nullptr where there is none.
const Place* placeAt(const Job& job, const std::string& floorId, const PlanPoint& p,
                     double withinM);
/// The room a point lies in or on the wall of; empty where there is none.
std::string roomAt(const Job& job, const std::string& floorId, const PlanPoint& p);
/// Everything on the floor that can be chosen, in reading order.
std::vector<std::string> thingsOn(const Job& job, const std::string& floorId);

/// The points of a thing, changed by `change`; none where there is no such thing.
Changes withPoints(const Job& job, const std::string& id,
                   const std::function<void(std::vector<PlanPoint>&)>& change);
/// A room moved takes its outlets along; anything else moves alone.
Changes movedBy(const Job& job, const std::string& id, int corner, double dx, double dy);
/// A corner put into the piece nearest to `at`.
Changes splitAt(const Job& job, const std::string& id, const PlanPoint& at);
/// Taking a thing off the plan, with what cannot stand without it.
Changes removalOfThing(const Job& job, const Job& laid, const std::string& id);

/// The edit that a finished drawing makes, and the id of what it made.
struct Drawn {
    Edit edit;
    std::string id;
};
Drawn drawn(const Job& job, const Catalogue& catalogue, const PlanTools& tools,
            const std::string& floorId, const std::vector<PlanPoint>& points);
/// How many points a drawing has when it is finished by itself; 0: when it is ended.
std::size_t pointsOf(Tool tool, const PlanTools& tools, const Catalogue& catalogue);

/// A photograph pinned to a point, without its file: of the room there, of the wall within a metre
/// or else of the room's ceiling that is to close; of the run when it has an end there.
Photograph photographAt(const Job& job, const std::string& floorId, const PlanPoint& at,
                        const Run* run);

/// "SL Sail loft", "Sail loft": letters and name of a room. A drawn room named as one that is not
/// drawn yet becomes that one.
Outcome<Edit> namedRoom(const Job& job, const std::string& roomId, const std::string& text);

/// A floor of bare paper above the others. A shaft that went nowhere yet goes there.
Drawn addedFloor(const Job& job);
/// The pathway or mains of a preset, at its height above that floor.
double presetHeightM(const PresetHeight& preset, const Floor& floor);

} // namespace burin
