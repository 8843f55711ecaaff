#include "core/site/route.h"
#include <algorithm>
#include <cmath>
#include <limits>
#include <queue>

namespace burin {
namespace {

constexpr double never = std::numeric_limits<double>::infinity();

std::size_t at(int index) {
    return static_cast<std::size_t>(index);
}

/// How `end` reaches the nearest point of an edge.
std::optional<WayTree::Touch> touchOf(const WayGraph& graph, int index, const WayEnd& end) {
    const auto& edge = graph.edges[at(index)];
    const auto& a = graph.nodes[at(edge.a)];
    const auto& b = graph.nodes[at(edge.b)];
    const Pathway& way = graph.pathways[at(edge.pathway)];
    WayTree::Touch out;
    out.edge = index;
    if (way.kind == PathwayKind::Shaft) {
        const double rise = b.heightM - a.heightM;
        out.share = rise > 0 ? std::clamp((end.heightM - a.heightM) / rise, 0.0, 1.0) : 0;
    } else {
        out.share = nearestShare(end.at, a.at, b.at);
    }
    if (!end.through && isClosed(way.kind)) {
        // Only the ends of the whole pathway let a cable in.
        const double length = graph.pathwayM[at(edge.pathway)];
        const bool first = a.atM < 1e-7;
        const bool last = b.atM > length - 1e-7;
        if (!first && !last)
            return std::nullopt;
        out.share = first && last ? (out.share < 0.5 ? 0 : 1) : first ? 0 : 1;
    }
    const double height = a.heightM + (b.heightM - a.heightM) * out.share;
    out.openM = squareDistanceM(end.at, between(a.at, b.at, out.share));
    out.dropM = std::abs(height - end.heightM);
    out.weightM = WayGraph::openFactor * out.openM + out.dropM;
    return out;
}

std::vector<WayTree::Touch> touchesOf(const WayGraph& graph, const WayEnd& end) {
    std::vector<WayTree::Touch> out;
    const auto it = graph.onFloor.find(end.floorId);
    if (it == graph.onFloor.end())
        return out;
    out.reserve(it->second.size());
    for (const int edge : it->second) {
        const bool shaft =
            graph.pathways[at(graph.edges[at(edge)].pathway)].kind == PathwayKind::Shaft;
        if (end.through && shaft)
            continue;
        if (const auto touch = touchOf(graph, edge, end))
            out.push_back(*touch);
    }
    if (end.through && !out.empty()) {
        auto best = *std::min_element(
            out.begin(), out.end(), [](const auto& a, const auto& b) { return a.openM < b.openM; });
        best.openM = best.dropM = best.weightM = 0;
        out = {best};
    }
    return out;
}

/// Writes the legs of a way, joining those that go on in the same pathway.
class Writer {
public:
    explicit Writer(const WayGraph& graph) : graph_(graph) {}

    void along(int edgeIndex, double fromShare, double toShare) {
        const auto& edge = graph_.edges[at(edgeIndex)];
        const auto& a = graph_.nodes[at(edge.a)];
        const auto& b = graph_.nodes[at(edge.b)];
        const double length = std::abs(toShare - fromShare) * edge.lengthM;
        if (length <= 1e-9)
            return;
        const auto height = [&](double s) { return a.heightM + (b.heightM - a.heightM) * s; };
        RouteLeg leg;
        leg.from = between(a.at, b.at, fromShare);
        leg.to = between(a.at, b.at, toShare);
        leg.fromHeightM = height(fromShare);
        leg.toHeightM = height(toShare);
        leg.lengthM = length;
        if (edge.pathway < 0) {
            leg.floorId = graph_.pathways[at(a.pathway)].floorId;
            step(leg);
            return;
        }
        const Pathway& way = graph_.pathways[at(edge.pathway)];
        leg.pathwayId = way.id;
        leg.floorId = way.floorId;
        leg.fromAtM = a.atM + (b.atM - a.atM) * fromShare;
        leg.toAtM = a.atM + (b.atM - a.atM) * toShare;
        if (!legs_.empty() && legs_.back().pathwayId == leg.pathwayId &&
            (legs_.back().toAtM > legs_.back().fromAtM) == (leg.toAtM > leg.fromAtM)) {
            auto& last = legs_.back();
            last.to = leg.to;
            last.toHeightM = leg.toHeightM;
            last.toAtM = leg.toAtM;
            last.lengthM += leg.lengthM;
            return;
        }
        legs_.push_back(leg);
    }
    /// From an end to where it touches a pathway: up or down first, then level; or the other way.
    void touch(const WayEnd& end, const WayTree::Touch& touch, bool leaving) {
        if (end.through)
            return;
        const auto& edge = graph_.edges[at(touch.edge)];
        const auto& a = graph_.nodes[at(edge.a)];
        const auto& b = graph_.nodes[at(edge.b)];
        const PlanPoint p = between(a.at, b.at, touch.share);
        const double height = a.heightM + (b.heightM - a.heightM) * touch.share;
        if (leaving) {
            drop(end, end.heightM, height, touch.dropM);
            open(end.floorId, end.at, p, height, touch.openM);
        } else {
            open(end.floorId, p, end.at, height, touch.openM);
            drop(end, height, end.heightM, touch.dropM);
        }
    }
    void open(const std::string& floorId, const PlanPoint& from, const PlanPoint& to,
              double heightM, double lengthM) {
        if (lengthM > 1e-9)
            legs_.push_back(
                {RouteLeg::Kind::Open, {}, floorId, from, to, heightM, heightM, lengthM, 0, 0});
    }
    void drop(const WayEnd& end, double from, double to, double lengthM) {
        if (lengthM > 1e-9)
            legs_.push_back(
                {RouteLeg::Kind::Drop, {}, end.floorId, end.at, end.at, from, to, lengthM, 0, 0});
    }
    std::vector<RouteLeg> take() { return std::move(legs_); }

private:
    /// From one pathway to another: level part and height part.
    void step(const RouteLeg& leg) {
        const double level = distanceM(leg.from, leg.to);
        open(leg.floorId, leg.from, leg.to, leg.fromHeightM, level);
        drop({leg.floorId, leg.to, 0, false}, leg.fromHeightM, leg.toHeightM,
             std::abs(leg.toHeightM - leg.fromHeightM));
    }
    const WayGraph& graph_;
    std::vector<RouteLeg> legs_;
};

/// How the last end is reached.
struct Arrival {
    double weightM = never;
    int start = -1;                     ///< touch of the first end, where both touch one edge
    std::optional<WayTree::Touch> last; ///< none: straight through the open
    int node = -1;
};

/// The least weight an edge can be reached with: a box is never farther than what is in it.
double leastOpenM(const WayGraph::Edge& edge, const PlanPoint& p) {
    return std::max({0.0, edge.left - p.xM, p.xM - edge.right}) +
           std::max({0.0, edge.top - p.yM, p.yM - edge.bottom});
}

class Arriving {
public:
    Arriving(const WayGraph& graph, const WayTree& tree, const WayEnd& end)
        : graph_(graph), tree_(tree), end_(end) {
        if (tree.end.floorId == end.floorId && !tree.end.through && !end.through)
            best_.weightM = WayGraph::openFactor * squareDistanceM(tree.end.at, end.at) +
                            std::abs(tree.end.heightM - end.heightM);
    }
    Arrival find() {
        if (end_.through) {
            for (const auto& touch : touchesOf(graph_, end_))
                offer(touch);
            return best_;
        }
        const auto it = graph_.onFloor.find(end_.floorId);
        if (it == graph_.onFloor.end())
            return best_;
        // The nearest first: what it reaches puts most of the others out of question unseen.
        int nearest = it->second.front();
        double least = never;
        for (const int edge : it->second)
            if (const double open = leastOpenM(graph_.edges[at(edge)], end_.at); open < least) {
                least = open;
                nearest = edge;
            }
        look(nearest);
        for (const int edge : it->second)
            if (edge != nearest)
                look(edge);
        return best_;
    }

private:
    void look(int index) {
        const auto& edge = graph_.edges[at(index)];
        const double way = std::min(tree_.weightM[at(edge.a)], tree_.weightM[at(edge.b)]);
        const int start = tree_.touchOfEdge[at(index)];
        const double open = WayGraph::openFactor * leastOpenM(edge, end_.at);
        if (open + way >= best_.weightM && (start < 0 || open >= best_.weightM))
            return;
        if (const auto touch = touchOf(graph_, index, end_))
            offer(*touch);
    }
    void offer(const WayTree::Touch& touch) {
        const auto& edge = graph_.edges[at(touch.edge)];
        const auto take = [&](double weight, int start, int node) {
            if (weight < best_.weightM)
                best_ = {weight, start, touch, node};
        };
        take(tree_.weightM[at(edge.a)] + touch.share * edge.lengthM + touch.weightM, -1, edge.a);
        take(tree_.weightM[at(edge.b)] + (1 - touch.share) * edge.lengthM + touch.weightM, -1,
             edge.b);
        if (const int start = tree_.touchOfEdge[at(touch.edge)]; start >= 0) {
            const auto& first = tree_.touches[at(start)];
            take(first.weightM + touch.weightM + std::abs(first.share - touch.share) * edge.lengthM,
                 start, -1);
        }
    }

    const WayGraph& graph_;
    const WayTree& tree_;
    const WayEnd& end_;
    Arrival best_;
};

} // namespace

const Pathway* pathwayOf(const RouteLeg& leg, const WayGraph& graph) {
    const auto it = graph.pathwayIndex.find(leg.pathwayId);
    return leg.pathwayId.empty() || it == graph.pathwayIndex.end()
               ? nullptr
               : &graph.pathways[static_cast<std::size_t>(it->second)];
}

double Route::lengthM() const {
    double sum = 0;
    for (const auto& leg : legs)
        sum += leg.lengthM;
    return sum;
}

double Route::weightM() const {
    double sum = 0;
    for (const auto& leg : legs)
        sum += leg.kind == RouteLeg::Kind::Open ? WayGraph::openFactor * leg.lengthM : leg.lengthM;
    return sum;
}

WayTree waysFrom(const WayGraph& graph, const WayEnd& end) {
    WayTree out;
    out.end = end;
    out.touches = touchesOf(graph, end);
    const std::size_t count = graph.nodes.size();
    out.weightM.assign(count, never);
    out.from.assign(count, -1);
    out.byEdge.assign(count, -1);
    out.touch.assign(count, -1);
    out.touchOfEdge.assign(graph.edges.size(), -1);
    using Entry = std::pair<double, int>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> next;
    const auto offer = [&](int node, double weight, int from, int edge, int touch) {
        if (weight >= out.weightM[at(node)])
            return;
        out.weightM[at(node)] = weight;
        out.from[at(node)] = from;
        out.byEdge[at(node)] = edge;
        out.touch[at(node)] = touch;
        next.emplace(weight, node);
    };
    for (std::size_t i = 0; i < out.touches.size(); ++i) {
        const auto& touch = out.touches[i];
        const auto& edge = graph.edges[at(touch.edge)];
        const int index = static_cast<int>(i);
        out.touchOfEdge[at(touch.edge)] = index;
        offer(edge.a, touch.weightM + touch.share * edge.lengthM, -1, touch.edge, index);
        offer(edge.b, touch.weightM + (1 - touch.share) * edge.lengthM, -1, touch.edge, index);
    }
    while (!next.empty()) {
        const auto [weight, node] = next.top();
        next.pop();
        if (weight > out.weightM[at(node)])
            continue;
        for (const auto& link : graph.links[at(node)]) {
            const auto& edge = graph.edges[at(link.edge)];
            // A step from one pathway to another is level through the open, and up or down.
            double step = edge.lengthM;
            if (edge.pathway < 0)
                step += (WayGraph::openFactor - 1) *
                        distanceM(graph.nodes[at(edge.a)].at, graph.nodes[at(edge.b)].at);
            offer(link.to, weight + step, node, link.edge, -1);
        }
    }
    return out;
}

std::optional<Route> routeTo(const WayGraph& graph, const WayTree& tree, const WayEnd& end) {
    const Arrival best = Arriving(graph, tree, end).find();
    if (best.weightM == never)
        return std::nullopt;
    Writer writer(graph);
    if (!best.last) {
        writer.drop(tree.end, tree.end.heightM, end.heightM,
                    std::abs(end.heightM - tree.end.heightM));
        writer.open(end.floorId, tree.end.at, end.at, end.heightM,
                    squareDistanceM(tree.end.at, end.at));
        return Route{writer.take()};
    }
    if (best.start >= 0) {
        const auto& start = tree.touches[at(best.start)];
        writer.touch(tree.end, start, true);
        writer.along(best.last->edge, start.share, best.last->share);
    } else {
        std::vector<int> nodes;
        for (int node = best.node; node >= 0; node = tree.from[at(node)])
            nodes.push_back(node);
        const int first = nodes.back();
        const auto& start = tree.touches[at(tree.touch[at(first)])];
        writer.touch(tree.end, start, true);
        writer.along(start.edge, start.share, graph.edges[at(start.edge)].a == first ? 0 : 1);
        for (auto it = nodes.rbegin() + 1; it != nodes.rend(); ++it) {
            const int edge = tree.byEdge[at(*it)];
            const bool forward = graph.edges[at(edge)].b == *it;
            writer.along(edge, forward ? 0 : 1, forward ? 1 : 0);
        }
        writer.along(best.last->edge, graph.edges[at(best.last->edge)].a == best.node ? 0 : 1,
                     best.last->share);
    }
    writer.touch(end, *best.last, false);
    return Route{writer.take()};
}

Outcome<Route> findRoute(const WayGraph& graph, const std::vector<WayEnd>& ends) {
    Route out;
    for (std::size_t i = 1; i < ends.size(); ++i) {
        const auto part = routeTo(graph, waysFrom(graph, ends[i - 1]), ends[i]);
        if (!part) {
            const auto name = [&](const WayEnd& end) {
                const Floor* f = graph.floor(end.floorId);
                return f == nullptr ? std::string("a floor") : f->name;
            };
            return refuse(
                "way",
                sentence({"way.no-pathway-leads", "no pathway leads from {0} to {1}"},
                         name(ends[i - 1]), name(ends[i])),
                {"cure.draw-shaft-joins", "Draw a shaft that joins them, or a pathway to it"});
        }
        out.legs.insert(out.legs.end(), part->legs.begin(), part->legs.end());
    }
    return out;
}

} // namespace burin
