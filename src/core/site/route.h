#pragma once
#include "core/base/fault.h"
#include "core/site/way_graph.h"

namespace burin {

/// Where a way begins, ends, or is led through.
struct WayEnd {
    std::string floorId;
    PlanPoint at;
    double heightM = 0;   ///< above the lowest floor
    bool through = false; ///< led through: stands for the nearest point of the nearest pathway
    bool operator==(const WayEnd&) const = default;
};

struct RouteLeg {
    enum class Kind {
        Along, ///< in a pathway
        Open,  ///< between pathways or ends, with no pathway
        Drop   ///< straight up or down
    };
    Kind kind = Kind::Along;
    std::string pathwayId; ///< Along
    std::string floorId;
    PlanPoint from, to;
    double fromHeightM = 0, toHeightM = 0; ///< above the lowest floor
    double lengthM = 0;                    ///< an open leg goes square: |Δx| + |Δy|
    double fromAtM = 0, toAtM = 0;         ///< Along: places on the pathway
};

/// The pathway a leg lies in, or nullptr.
const Pathway* pathwayOf(const RouteLeg& leg, const WayGraph& graph);

struct Route {
    std::vector<RouteLeg> legs; ///< from the first end to the last
    [[nodiscard]] double lengthM() const;
    /// What was least: length, with metres in the open taken openFactor times.
    [[nodiscard]] double weightM() const;
};

/// The shortest ways from one end to all nodes of the graph (Dijkstra).
struct WayTree {
    struct Touch { ///< where the end reaches an edge
        int edge = 0;
        double share = 0;   ///< along the edge, from its a
        double openM = 0;   ///< square, level
        double dropM = 0;   ///< up or down
        double weightM = 0; ///< openFactor·open + drop
    };
    WayEnd end;
    std::vector<Touch> touches;
    std::vector<double> weightM; ///< by node
    std::vector<int> from,
        byEdge;             ///< the node before and the edge from it; −1: straight from a touch
    std::vector<int> touch; ///< by node, where from is −1
    std::vector<int> touchOfEdge; ///< by edge; −1: not touched
};
WayTree waysFrom(const WayGraph& graph, const WayEnd& end);

/// The shortest way to `end`; none when no pathway leads from the one floor to the other. On one
/// floor there is always one: straight through the open.
std::optional<Route> routeTo(const WayGraph& graph, const WayTree& tree, const WayEnd& end);

/// The way through all ends in turn. Refused, saying which two are not joined.
Outcome<Route> findRoute(const WayGraph& graph, const std::vector<WayEnd>& ends);

} // namespace burin
