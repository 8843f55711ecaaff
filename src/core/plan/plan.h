#pragma once
#include "core/describe/words.h"
#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// A point of a floor: metres to the right of and below its top left corner.
struct PlanPoint {
    double xM = 0, yM = 0;
    bool operator==(const PlanPoint&) const = default;
};

/// What lies under a floor's drawing. The bytes are kept with the job, by their content.
struct FloorPicture {
    std::string hash, name;
    int page = 0; ///< of a PDF, from 0
    double widthPx = 0, heightPx = 0;
    double metresPerPixel = 0.02;
    PlanPoint at; ///< of its top left corner
    bool operator==(const FloorPicture&) const = default;
};

struct Floor {
    std::string id, name;
    int order = 0;
    double elevationM = 0; ///< of the finished floor, above the lowest one
    double ceilingM = 2.7; ///< of the ceiling, above the finished floor
    double voidM = 0.5;    ///< between ceiling and slab
    double widthM = 30, depthM = 20;
    std::optional<FloorPicture> picture;
    bool operator==(const Floor&) const = default;
};

/// What stands at one end of a run.
enum class PlaceKind {
    Panel,
    Block, ///< punch-down
    SplitterShelf,
    Demarcation, ///< where the carrier's line ends
    Controller,  ///< of doors
    RadioShelf,
    Outlet,
    Device ///< reader, camera, aerial: the run ends in it
};
inline constexpr auto placeKindWords =
    wordsOf<PlaceKind>("panel", "block", "splitter-shelf", "demarcation", "controller",
                       "radio-shelf", "outlet", "device");
[[nodiscard]] constexpr bool isHeadEnd(PlaceKind kind) {
    return kind < PlaceKind::Outlet;
}

/// How hard a place is to get at, easiest first.
enum class EndAccess { Easy, BehindFurniture, Ladder, AboveCeiling, Outdoors, Height };
inline constexpr auto accessWords =
    wordsOf<EndAccess>("easy", "behind-furniture", "ladder", "above-ceiling", "outdoors", "height");

inline constexpr int mostPorts = 100000;

struct Place {
    std::string id, name;
    PlaceKind kind = PlaceKind::Outlet;
    std::string floorId, roomId; ///< roomId may be empty
    PlanPoint at;
    double heightM = 0.3; ///< above the finished floor
    int ports = 1;        ///< with one, its ports are not told apart
    EndAccess access = EndAccess::Easy;
    std::vector<std::string> portNames{}; ///< of port 1, 2 …; empty or missing: it has its number
    bool operator==(const Place&) const = default;
};

/// What a bundle lies in.
enum class Surroundings { FreeAir, Conduit, Insulation };
inline constexpr auto surroundingsWords = wordsOf<Surroundings>("air", "conduit", "insulation");

enum class PathwayKind {
    Tray,
    Hooks,
    Conduit,
    Shaft, ///< joins floors at one point
    Wall,
    Plenum, ///< hooks where air is moved
    Outdoors,
    BelowGround,
    Duct ///< of moved air
};
inline constexpr auto pathwayKindWords = wordsOf<PathwayKind>(
    "tray", "hooks", "conduit", "shaft", "wall", "plenum", "outdoors", "below-ground", "duct");
/// Cable enters and leaves it at its ends only.
[[nodiscard]] constexpr bool isClosed(PathwayKind kind) {
    return kind == PathwayKind::Conduit || kind == PathwayKind::BelowGround ||
           kind == PathwayKind::Duct;
}

struct Pathway {
    std::string id, name;
    PathwayKind kind = PathwayKind::Tray;
    std::string floorId;
    std::string toFloorId;         ///< shafts
    std::vector<PlanPoint> points; ///< a shaft has one
    double heightM = 2.8;          ///< above the finished floor; a shaft has none
    double temperatureC = 20;
    Surroundings around = Surroundings::FreeAir;
    std::optional<double> boreMm;         ///< inside of a conduit or duct
    std::optional<int> perHook;           ///< cables a hook takes
    std::optional<double> supportM;       ///< spacing of hooks
    std::optional<double> cornerRadiusMm; ///< inside of its corners and fittings
    bool operator==(const Pathway&) const = default;
};

enum class MainsKind { Circuit, Ballast, Motor };
inline constexpr auto mainsKindWords = wordsOf<MainsKind>("circuit", "ballast", "motor");

/// A mains route, or with a single point a motor or a ballast.
struct MainsRoute {
    std::string id, name;
    MainsKind kind = MainsKind::Circuit;
    std::string floorId;
    std::vector<PlanPoint> points;
    double heightM = 2.9;
    double kva = 1;
    bool enclosed = false; ///< in earthed metal
    bool operator==(const MainsRoute&) const = default;
};

enum class SurfaceKind { Wall, Ceiling, Underfloor };
inline constexpr auto surfaceKindWords = wordsOf<SurfaceKind>("wall", "ceiling", "underfloor");

/// A wall, ceiling or floor that will be closed, or that holds back fire.
struct Surface {
    std::string id, name;
    SurfaceKind kind = SurfaceKind::Wall;
    std::string floorId, roomId;   ///< a ceiling or floor without a room is the whole floor's
    std::vector<PlanPoint> points; ///< of a wall
    int fireMinutes = 0;           ///< 0: no fire barrier
    std::string closesOn;          ///< "2026-11-26"; empty: not known
    bool operator==(const Surface&) const = default;
};

/// A photograph pinned to what it shows. The bytes are kept with the job, by their content.
struct Photograph {
    std::string id, hash, name;
    std::string takenOn; ///< "2026-11-23"
    std::string work;    ///< the stage of work it shows: "pulled", "before closing"
    std::string floorId;
    std::optional<PlanPoint> at;
    std::string roomId, runId, surfaceId;
    std::string note;
    bool operator==(const Photograph&) const = default;
};

/// A point a run's way is led through, on the pathway nearest to it.
struct Via {
    std::string floorId;
    PlanPoint at;
    bool operator==(const Via&) const = default;
};

/// Rating of a jacket. None of them is the others' better in everything: see `serves`.
enum class Jacket { Unknown, General, Riser, Plenum, Outdoor, WaterBlocked };
inline constexpr auto jacketWords =
    wordsOf<Jacket>("unknown", "general", "riser", "plenum", "outdoor", "water-blocked");

enum class SpareSchool { PullLong, Measured };
enum class SeparationSchool { Table, House };
enum class JacketSchool { WhereNeeded, PlenumEverywhere };
inline constexpr auto spareSchoolWords = wordsOf<SpareSchool>("pull-long", "measured");
inline constexpr auto separationSchoolWords = wordsOf<SeparationSchool>("table", "house");
inline constexpr auto jacketSchoolWords =
    wordsOf<JacketSchool>("where-needed", "plenum-everywhere");

/// What a metre of one cable costs.
struct CablePrice {
    std::string cableId;
    double perM = 0; ///< in the job's currency
    bool operator==(const CablePrice&) const = default;
};

/// How this job measures, keeps apart, names and prices.
struct SurveyRules {
    SpareSchool spare = SpareSchool::PullLong;
    double rackM = 3, outletM = 0.3, coilM = 3; ///< dressing at a head end, in a box, outdoors
    double routeShare = 0.05;                   ///< pulled beyond the route drawn
    double allowanceM = 1;                      ///< the measured school's, at each end
    SeparationSchool separation = SeparationSchool::Table;
    bool coaxHalf = false; ///< the school that keeps coax half as far
    JacketSchool jackets = JacketSchool::WhereNeeded;
    std::string labels = "{room}-{kind}{nn}";
    double cablePerM = 0.6, hourPrice = 45, repullHours = 1.5;
    std::string currency = "€";
    std::vector<CablePrice> cablePrices{}; ///< of those that cost other than `cablePerM`
    [[nodiscard]] double perMetreOf(std::string_view cableId) const {
        for (const auto& one : cablePrices)
            if (one.cableId == cableId)
                return one.perM;
        return cablePerM;
    }
    bool operator==(const SurveyRules&) const = default;
};

/// "cable tray", "hooks": what people call it.
std::string_view pathwayWord(PathwayKind kind);
std::string_view placeWord(PlaceKind kind);
std::string_view accessWord(EndAccess access);
std::string_view jacketWord(Jacket jacket);

} // namespace burin
