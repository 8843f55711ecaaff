#pragma once
#include "core/site/geometry.h"
#include <map>
#include <memory>
#include <span>
#include <string>

namespace burin {

/// Pathways joined into ways. Two open pathways of a floor join where they cross or where an end of
/// one comes within `joinM` of the other, whatever their heights; closed ones (conduit, buried,
/// duct) at their ends only. A shaft joins every pathway that comes within `joinM` of it on the
/// floors it passes.
struct WayGraph {
    static constexpr double joinM = 0.3;
    /// A metre through the open, away from any pathway, is taken as this many: it would want hooks
    /// of its own.
    static constexpr double openFactor = 4;

    struct Node {
        int pathway = 0;
        double atM = 0; ///< along the pathway; along a shaft: height
        PlanPoint at;
        double heightM = 0; ///< above the lowest floor
    };
    struct Edge {
        int a = 0, b = 0;
        double lengthM = 0;
        int pathway = -1;                                ///< −1: from one pathway to another
        double left = 0, top = 0, right = 0, bottom = 0; ///< its box on the floor
    };
    struct Link {
        int to = 0, edge = 0;
    };

    std::vector<Floor> floors;
    std::vector<Pathway> pathways;
    std::vector<double> pathwayM; ///< length of each
    std::vector<Node> nodes;
    std::vector<Edge> edges;
    std::vector<std::vector<Link>> links;            ///< by node
    std::map<std::string, std::vector<int>> onFloor; ///< edges of pathways that serve a floor
    std::map<std::string, int> floorIndex, pathwayIndex;

    [[nodiscard]] const Floor* floor(const std::string& id) const;
    /// Height above the lowest floor of something `heightM` above the finished floor.
    [[nodiscard]] double absoluteM(const std::string& floorId, double heightM) const;
    /// Whether a shaft passes the floor.
    [[nodiscard]] bool passes(const Pathway& shaft, const std::string& floorId) const;
};

WayGraph makeWayGraph(const std::vector<Floor>& floors, const std::vector<Pathway>& pathways);

} // namespace burin
