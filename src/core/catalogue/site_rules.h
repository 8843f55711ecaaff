#pragma once
#include "core/base/fault.h"
#include "core/plan/plan.h"

namespace burin {

struct SeparationStep {
    double upToKva = 0, apartMm = 0;
};
/// How far from mains: planning figures, which local code overrules.
struct SeparationRule {
    std::vector<SeparationStep> steps; ///< rising
    double metalFactor = 0.5;          ///< one side in earthed metal, or the cable screened
    double ballastMm = 127, motorMm = 1200, neverUnderMm = 50;
    double houseUpToKva = 5, houseLeastMm = 75, houseMm = 150, coaxFactor = 0.5;
    double squareDeg = 75; ///< crossings from here up count as square
    std::string source;
};
struct FillRule {
    double oneShare = 0.53, twoShare = 0.31, moreShare = 0.40;
    std::string source;
};
struct BendRule {
    double unscreened = 4, screened = 8, coax = 10; ///< times the diameter
    std::string source;
};
struct HookRule {
    int perHook = 50;
    double supportM = 1.5;
    std::string source;
};

/// A height is above the finished floor, or above the ceiling where `aboveCeiling`.
struct PresetHeight {
    double heightM = 0;
    bool aboveCeiling = false;
};
struct MainsPreset {
    MainsRoute route; ///< without place
    PresetHeight height;
};
struct PathwayPreset {
    Pathway pathway; ///< without place
    PresetHeight height;
};
struct VoidPreset {
    std::string name;
    double voidM = 0;
};
/// A kind of run in the room schedule.
struct RunKind {
    std::string id, name, letter;
    std::vector<std::string> services; ///< that are of this kind
    std::string cableId, serviceId;    ///< usual
    std::vector<PlaceKind> heads;      ///< where they come together, best first
};

/// What catalogue/site.json holds.
struct SiteRules {
    SeparationRule separation;
    FillRule fill;
    BendRule bend;
    HookRule hooks;
    std::vector<MainsPreset> mains;
    std::vector<PathwayPreset> pathways;
    std::vector<VoidPreset> voids;
    std::vector<RunKind> kinds;

    /// The kind a service is of, or nullptr.
    [[nodiscard]] const RunKind* kindOf(std::string_view serviceId) const;
    [[nodiscard]] const RunKind* kind(std::string_view id) const;
};

/// Reads site.json; an unknown key, a missing one or a figure out of range is refused by its path.
Outcome<SiteRules> readSiteRules(std::string_view text, const std::string& where);

} // namespace burin
