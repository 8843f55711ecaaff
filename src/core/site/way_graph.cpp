#include "core/site/way_graph.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

/// Joins to be made: a place along each of two pathways.
struct Join {
    int a = 0, b = 0;
    double atA = 0, atB = 0;
};

struct Bounds {
    double left = 1e300, top = 1e300, right = -1e300, bottom = -1e300;
    void add(const PlanPoint& p) {
        left = std::min(left, p.xM);
        right = std::max(right, p.xM);
        top = std::min(top, p.yM);
        bottom = std::max(bottom, p.yM);
    }
    [[nodiscard]] bool near(const Bounds& o, double by) const {
        return left - by <= o.right && o.left - by <= right && top - by <= o.bottom &&
               o.top - by <= bottom;
    }
};

struct Maker {
    WayGraph& out;
    std::vector<Bounds> boxes;
    std::vector<Join> joins;
    std::vector<std::vector<double>> breaks; ///< places along each pathway that become nodes

    [[nodiscard]] const Pathway& way(int i) const {
        return out.pathways[static_cast<std::size_t>(i)];
    }
    [[nodiscard]] double lengthM(int i) const { return lengthOfM(way(i).points); }

    void join(int a, double atA, int b, double atB) {
        joins.push_back({a, b, atA, atB});
        breaks[static_cast<std::size_t>(a)].push_back(atA);
        breaks[static_cast<std::size_t>(b)].push_back(atB);
    }

    /// The place along `i` nearest to `p` where a cable can get in, within reach.
    [[nodiscard]] std::optional<double> entry(int i, const PlanPoint& p) const {
        const auto& points = way(i).points;
        if (!isClosed(way(i).kind)) {
            double away = 0;
            const double at = nearestAlongM(points, p, &away);
            return away <= WayGraph::joinM ? std::optional(at) : std::nullopt;
        }
        const double first = distanceM(points.front(), p);
        const double last = distanceM(points.back(), p);
        if (std::min(first, last) > WayGraph::joinM)
            return std::nullopt;
        return first <= last ? 0.0 : lengthM(i);
    }

    void joinEnds(int a, int b) {
        const auto& points = way(a).points;
        if (const auto at = entry(b, points.front()))
            join(a, 0, b, *at);
        if (const auto at = entry(b, points.back()))
            join(a, lengthM(a), b, *at);
    }

    void joinCrossings(int a, int b) {
        double alongA = 0;
        const auto& pa = way(a).points;
        const auto& pb = way(b).points;
        for (std::size_t i = 1; i < pa.size(); ++i) {
            const double stepA = distanceM(pa[i - 1], pa[i]);
            double alongB = 0;
            for (std::size_t j = 1; j < pb.size(); ++j) {
                const double stepB = distanceM(pb[j - 1], pb[j]);
                if (const auto c = crossingOf(pa[i - 1], pa[i], pb[j - 1], pb[j]))
                    join(a, alongA + c->shareA * stepA, b, alongB + c->shareB * stepB);
                alongB += stepB;
            }
            alongA += stepA;
        }
    }

    void joinFlat() {
        const int count = static_cast<int>(out.pathways.size());
        for (int a = 0; a < count; ++a)
            for (int b = a + 1; b < count; ++b) {
                const auto& wa = way(a);
                const auto& wb = way(b);
                if (wa.kind == PathwayKind::Shaft || wb.kind == PathwayKind::Shaft ||
                    wa.floorId != wb.floorId ||
                    !boxes[static_cast<std::size_t>(a)].near(boxes[static_cast<std::size_t>(b)],
                                                             WayGraph::joinM))
                    continue;
                joinEnds(a, b);
                joinEnds(b, a);
                if (!isClosed(wa.kind) && !isClosed(wb.kind))
                    joinCrossings(a, b);
            }
    }

    /// Shafts are laid out by height: their nodes stand where pathways come in, and at both ends.
    void joinShafts() {
        const int count = static_cast<int>(out.pathways.size());
        for (int s = 0; s < count; ++s) {
            if (way(s).kind != PathwayKind::Shaft)
                continue;
            double low = 1e300;
            double high = -1e300;
            for (const auto& id : {way(s).floorId, way(s).toFloorId})
                if (const Floor* f = out.floor(id)) {
                    low = std::min(low, f->elevationM);
                    high = std::max(high, f->elevationM + f->ceilingM + f->voidM);
                }
            auto& own = breaks[static_cast<std::size_t>(s)];
            own.push_back(low);
            own.push_back(high);
            for (int i = 0; i < count; ++i) {
                const auto& w = way(i);
                if (i == s || !out.passes(way(s), w.floorId) ||
                    (w.kind == PathwayKind::Shaft && (i < s || w.points.empty())))
                    continue;
                if (w.kind == PathwayKind::Shaft) {
                    if (distanceM(w.points.front(), way(s).points.front()) <= WayGraph::joinM)
                        join(s, out.absoluteM(w.floorId, 0), i, out.absoluteM(w.floorId, 0));
                } else if (const auto at = entry(i, way(s).points.front())) {
                    join(s, out.absoluteM(w.floorId, w.heightM), i, *at);
                }
            }
        }
    }

    /// The node at a place of a pathway whose breaks have been made nodes.
    [[nodiscard]] int nodeAt(int first, const std::vector<double>& places, double at) const {
        const auto it = std::lower_bound(places.begin(), places.end(), at - 1e-7);
        return first + static_cast<int>(it - places.begin());
    }

    void connect(int a, int b, double length, int pathway) {
        const int edge = static_cast<int>(out.edges.size());
        const auto& p = out.nodes[static_cast<std::size_t>(a)].at;
        const auto& q = out.nodes[static_cast<std::size_t>(b)].at;
        out.edges.push_back({a, b, length, pathway, std::min(p.xM, q.xM), std::min(p.yM, q.yM),
                             std::max(p.xM, q.xM), std::max(p.yM, q.yM)});
        out.links[static_cast<std::size_t>(a)].push_back({b, edge});
        out.links[static_cast<std::size_t>(b)].push_back({a, edge});
    }

    void build() {
        const std::size_t count = out.pathways.size();
        std::vector<int> first(count);
        for (std::size_t i = 0; i < count; ++i) {
            const Pathway& w = out.pathways[i];
            auto& places = breaks[i];
            const bool shaft = w.kind == PathwayKind::Shaft;
            if (!shaft) {
                double at = 0;
                places.push_back(0);
                for (std::size_t k = 1; k < w.points.size(); ++k)
                    places.push_back(at += distanceM(w.points[k - 1], w.points[k]));
            }
            std::sort(places.begin(), places.end());
            places.erase(std::unique(places.begin(), places.end(),
                                     [](double a, double b) { return b - a < 1e-7; }),
                         places.end());
            first[i] = static_cast<int>(out.nodes.size());
            for (const double at : places)
                out.nodes.push_back({static_cast<int>(i), at,
                                     shaft ? w.points.front() : pointAt(w.points, at),
                                     shaft ? at : out.absoluteM(w.floorId, w.heightM)});
        }
        out.links.resize(out.nodes.size());
        for (std::size_t i = 0; i < count; ++i)
            for (std::size_t k = 1; k < breaks[i].size(); ++k)
                connect(first[i] + static_cast<int>(k) - 1, first[i] + static_cast<int>(k),
                        breaks[i][k] - breaks[i][k - 1], static_cast<int>(i));
        for (const Join& j : joins) {
            const int a = nodeAt(first[static_cast<std::size_t>(j.a)],
                                 breaks[static_cast<std::size_t>(j.a)], j.atA);
            const int b = nodeAt(first[static_cast<std::size_t>(j.b)],
                                 breaks[static_cast<std::size_t>(j.b)], j.atB);
            const auto& na = out.nodes[static_cast<std::size_t>(a)];
            const auto& nb = out.nodes[static_cast<std::size_t>(b)];
            connect(a, b, distanceM(na.at, nb.at) + std::abs(na.heightM - nb.heightM), -1);
        }
        for (std::size_t e = 0; e < out.edges.size(); ++e)
            if (out.edges[e].pathway >= 0) {
                const Pathway& w = way(out.edges[e].pathway);
                if (w.kind != PathwayKind::Shaft)
                    out.onFloor[w.floorId].push_back(static_cast<int>(e));
                else
                    for (const auto& f : out.floors)
                        if (out.passes(w, f.id))
                            out.onFloor[f.id].push_back(static_cast<int>(e));
            }
    }
};

} // namespace

const Floor* WayGraph::floor(const std::string& id) const {
    const auto it = floorIndex.find(id);
    return it == floorIndex.end() ? nullptr : &floors[static_cast<std::size_t>(it->second)];
}

double WayGraph::absoluteM(const std::string& floorId, double heightM) const {
    const Floor* f = floor(floorId);
    return heightM + (f == nullptr ? 0 : f->elevationM);
}

bool WayGraph::passes(const Pathway& shaft, const std::string& floorId) const {
    const Floor* from = floor(shaft.floorId);
    const Floor* to = floor(shaft.toFloorId);
    const Floor* here = floor(floorId);
    if (from == nullptr || here == nullptr)
        return false;
    if (to == nullptr)
        return from == here;
    const auto [low, high] = std::minmax(from->elevationM, to->elevationM);
    return here->elevationM >= low && here->elevationM <= high;
}

WayGraph makeWayGraph(const std::vector<Floor>& floors, const std::vector<Pathway>& pathways) {
    WayGraph out;
    out.floors = floors;
    for (std::size_t i = 0; i < floors.size(); ++i)
        out.floorIndex[floors[i].id] = static_cast<int>(i);
    for (const auto& p : pathways)
        if (p.points.size() >= (p.kind == PathwayKind::Shaft ? 1U : 2U)) {
            out.pathwayIndex[p.id] = static_cast<int>(out.pathways.size());
            out.pathways.push_back(p);
            out.pathwayM.push_back(lengthOfM(p.points));
        }
    Maker maker{out, {}, {}, {}};
    maker.breaks.resize(out.pathways.size());
    for (const auto& p : out.pathways) {
        Bounds box;
        for (const auto& point : p.points)
            box.add(point);
        maker.boxes.push_back(box);
    }
    maker.joinFlat();
    maker.joinShafts();
    maker.build();
    return out;
}

} // namespace burin
