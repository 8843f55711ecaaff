#include "core/finding/materials.h"
#include "core/base/csv.h"
#include "core/base/lookup.h"
#include "core/connector/card.h"
#include "core/units/render.h"
#include "core/units/short_figure.h"
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

namespace burin {
namespace {

constexpr std::size_t labelsARun = 4; ///< both ends, and each once more behind the cut

/// How far a way turns at the middle one of three points.
double turnRad(const PlanPoint& a, const PlanPoint& b, const PlanPoint& c) {
    const double one = std::atan2(b.yM - a.yM, b.xM - a.xM);
    const double two = std::atan2(c.yM - b.yM, c.xM - b.xM);
    return std::abs(std::remainder(two - one, 2 * std::numbers::pi));
}
double whole(double value) {
    return std::ceil(value - 1e-9);
}

class Materials {
public:
    Materials(const Job& job, const Catalogue& catalogue, const SitePlan& site,
              const PullPlan& plan, const EndPlan& left)
        : job_(job), catalogue_(catalogue), site_(site), plan_(plan), left_(left),
          work_(catalogue.work) {
        for (const auto& test : job.measurements)
            measured_.insert(test.runId);
    }
    std::vector<MaterialLine> find() {
        cable();
        ends();
        cords();
        ports();
        ways();
        tapesAndLabels();
        return std::move(out_);
    }

private:
    MaterialLine& add(MaterialLine::Of of, std::string id, Sentence name, bool metres,
                      double needed) {
        MaterialLine line;
        line.of = of;
        line.id = std::move(id);
        line.name = std::move(name);
        line.metres = metres;
        line.needed = needed;
        line.toBuy = metres ? needed : whole(needed);
        out_.push_back(std::move(line));
        return out_.back();
    }

    void cable() {
        std::map<std::string, MaterialLine> byCable;
        for (const auto& box : plan_.boxes) {
            MaterialLine& line = byCable[box.cableId];
            for (const auto& one : box.planned)
                line.needed += one.lengthM;
            if (box.isNew)
                ++line.boxes;
            else
                line.atHand += box.leftM;
        }
        for (auto& [id, line] : byCable) {
            if (line.needed <= 0)
                continue;
            const Cable* known = catalogue_.cable(id);
            MaterialLine& out =
                add(MaterialLine::Of::Cable, id, alone(asTerm(known == nullptr ? id : known->name)),
                    true, line.needed);
            out.waste = work_.cableShare * line.needed;
            out.atHand = line.atHand;
            out.boxes = line.boxes;
            out.toBuy = static_cast<double>(line.boxes) * job_.info.pull.newBoxM;
            out.price = out.toBuy * job_.info.survey.perMetreOf(id);
        }
    }

    [[nodiscard]] double wasteShare(const Connection& connection) const {
        if (connection.kind == CableKind::Balanced)
            return work_.jackShare;
        const std::string school = connection.fit ? connection.fit->school : std::string();
        return school == "compression" ? work_.compressionShare
               : school == "twist-on"  ? work_.bargainShare
                                       : work_.plugShare;
    }
    /// Connectors on the cables of ends that are left, and the others of runs that nothing was
    /// measured on.
    [[nodiscard]] std::map<std::string, double> connectorsLeft() const {
        std::map<std::string, double> count;
        const IdFinder<Run> runs(job_.runs, left_.wanted());
        for (const auto& place : left_.places)
            for (const auto& end : place.ends)
                if (const Run* run = runs.find(end.runId); run != nullptr && end.isLeft())
                    if (const Connection* one = connectorFor(*run, end.end, catalogue_))
                        ++count[one->id];
        for (const auto& run : job_.runs) {
            if (measured_.contains(run.id))
                continue;
            const std::size_t near = connectorAt(run, End::Near, catalogue_);
            const std::size_t far = connectorAt(run, End::Far, catalogue_);
            for (std::size_t i = 0; i < run.connections.size(); ++i)
                if (i != near && i != far)
                    ++count[run.connections[i].connectionId];
        }
        return count;
    }
    void ends() {
        for (const auto& [id, pieces] : connectorsLeft()) {
            const Connection* known = catalogue_.connection(id);
            MaterialLine& out =
                add(MaterialLine::Of::End, id, alone(asTerm(known == nullptr ? id : known->name)),
                    false, pieces);
            const auto own = spoiledShare(job_, id);
            out.waste = pieces * (own ? *own : known == nullptr ? 0 : wasteShare(*known));
            out.toBuy = whole(pieces + out.waste);
            out.price = out.toBuy * catalogue_.costs.connector;
        }
    }
    void cords() {
        std::map<std::pair<std::string, double>, double> count;
        for (const auto& run : job_.runs)
            if (!measured_.contains(run.id))
                for (const auto& cord : run.cords)
                    if (cord.lengthM > 0)
                        ++count[{cord.cableId, cord.lengthM}];
        for (const auto& [which, pieces] : count) {
            const Cable* known = catalogue_.cable(which.first);
            add(MaterialLine::Of::Cord, which.first,
                sentence({"material.cord", "cord {0}, {1}"}, asMetres(which.second),
                         asTerm(known == nullptr ? which.first : known->name)),
                false, pieces);
        }
    }
    /// Ports of panels, blocks and shelves that runs end on, of those they have.
    void ports() {
        for (const auto& place : job_.places) {
            // A shelf has an input besides, and of other heads one has what they have.
            if (place.kind != PlaceKind::Panel && place.kind != PlaceKind::Block)
                continue;
            std::size_t used = 0;
            for (const auto& run : job_.runs)
                used += (run.near.placeId == place.id ? 1U : 0U) +
                        (run.far.placeId == place.id ? 1U : 0U);
            if (used == 0)
                continue;
            MaterialLine& out = add(MaterialLine::Of::Port, place.id,
                                    sentence({"material.ports", "ports of {0}"}, place.name), false,
                                    static_cast<double>(used));
            out.atHand = place.ports;
            out.toBuy = std::max(0.0, static_cast<double>(used) - place.ports);
        }
    }
    void ways() {
        std::map<std::string, double> conduitM;
        std::set<std::string> used;
        for (const auto& route : site_.routes)
            for (const auto& leg : route.legs)
                if (leg.kind == RouteLeg::Kind::Along)
                    used.insert(leg.pathwayId);
        std::size_t bushings = 0;
        for (const auto& id : used) {
            const auto index = static_cast<std::size_t>(site_.graph->pathwayIndex.at(id));
            const Pathway& way = site_.graph->pathways[index];
            const double length = site_.graph->pathwayM[index];
            const auto name = way.name.empty() ? asTerm(pathwayWord(way.kind)) : asText(way.name);
            if (way.kind == PathwayKind::Hooks || way.kind == PathwayKind::Plenum) {
                const double spacing = way.supportM.value_or(catalogue_.site.hooks.supportM);
                add(MaterialLine::Of::Hook, id,
                    sentence({"material.hooks", "hooks along {0}"}, name), false,
                    whole(length / spacing) + 1);
            }
            if (!isClosed(way.kind))
                continue;
            bushings += 2;
            double turned = 0;
            for (std::size_t i = 2; i < way.points.size(); ++i)
                turned += turnRad(way.points[i - 2], way.points[i - 1], way.points[i]);
            if (wantsLubricant(length, turned))
                add(MaterialLine::Of::Lubricant, id,
                    sentence({"material.lubricant", "lubricant for {0}"}, name), true, length);
        }
        if (bushings > 0)
            add(MaterialLine::Of::Bushing, {},
                sentence({"material.bushings", "bushings on cut conduit"}), false,
                static_cast<double>(bushings));
        std::map<std::string, std::set<std::string>> crossed; // by barrier: the ways through it
        for (const auto& f : site_.findings)
            if (f.matter == SiteMatter::Fire)
                crossed[f.surfaceId].insert(f.pathwayId);
        for (const auto& [surfaceId, ways] : crossed) {
            const Surface* surface = byId(job_.surfaces, surfaceId);
            add(MaterialLine::Of::FireStop, surfaceId,
                surface == nullptr
                    ? sentence({"material.fire-floor", "fire stop where it passes a floor"})
                    : sentence({"material.fire-stop", "fire stop through {0}"}, surface->name),
                false, static_cast<double>(ways.size()))
                .note = sentence({"material.fire-note",
                                  "kind and depth by the barrier's own approval and local code"});
        }
    }
    void tapesAndLabels() {
        std::map<std::string, std::size_t> open;
        std::size_t all = 0;
        for (const auto& pull : plan_.pulls)
            for (const auto& one : pull.runs)
                if (const Run* run = one.there ? nullptr : job_.run(one.runId)) {
                    ++open[run->roomId];
                    ++all;
                }
        for (const auto& room : job_.rooms)
            if (const auto it = open.find(room.id); it != open.end())
                add(MaterialLine::Of::Tape, room.id,
                    sentence({"material.tape", "room tape of {0}"}, room.name), true,
                    2 * work_.roomTapeM * static_cast<double>(it->second));
        if (all > 0 && job_.info.pull.marking == MarkingSchool::NumberBoth)
            add(MaterialLine::Of::Label, {}, sentence({"material.labels", "labels"}), false,
                static_cast<double>(labelsARun * all));
    }

    const Job& job_;
    const Catalogue& catalogue_;
    const SitePlan& site_;
    const PullPlan& plan_;
    const EndPlan& left_;
    const WorkRules& work_;
    std::set<std::string_view> measured_;
    std::vector<MaterialLine> out_;
};

} // namespace

std::vector<MaterialLine> findMaterials(const Job& job, const Catalogue& catalogue,
                                        const SitePlan& site, const PullPlan& plan,
                                        const EndPlan& ends) {
    return Materials(job, catalogue, site, plan, ends).find();
}

std::string materialsCsv(const std::vector<MaterialLine>& lines, const std::string& currency) {
    const auto number = [](double value) { return shortFigure(value, 2); };
    std::string out = "kind,what,unit,needed,waste,at hand,to buy,boxes,price " +
                      csvField(currency) + ",note\r\n";
    for (const auto& line : lines)
        out += std::string(materialWords[line.of]) + "," +
               csvField(render(line.name, UnitSystem::Metric)) + "," +
               (line.metres ? "m" : "pieces") + "," + number(line.needed) + "," +
               number(line.waste) + "," + number(line.atHand) + "," + number(line.toBuy) + "," +
               (line.boxes > 0 ? std::to_string(line.boxes) : "") + "," +
               (line.price ? number(*line.price) : "") + "," +
               csvField(render(line.note, UnitSystem::Metric)) + "\r\n";
    return out;
}

} // namespace burin
