#include "core/finding/system_finding.h"
#include "core/coax/tree_plan.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>
#include <map>

namespace burin {
namespace {

constexpr double dbuvOverDbmv = 60;

std::string partName(const SystemReads& job, const DistributionPart& part) {
    const Run* run = job.run(part.runId);
    if (part.unit.part == TreePart::Outlet && run != nullptr)
        return run->label;
    return part.name.empty() ? std::string(treePartWords[part.unit.part]) : part.name;
}

/// Names by part id, told apart where two are alike.
std::map<std::string, std::string> namesOf(const SystemReads& job,
                                           const Distribution& distribution) {
    std::map<std::string, std::string> out;
    std::map<std::string, int> seen;
    for (const auto& part : distribution.parts) {
        const std::string name = partName(job, part);
        const int count = ++seen[name];
        out[part.id] = count == 1 ? name : name + " (" + std::to_string(count) + ")";
    }
    return out;
}

void takeService(const Service& service, const Distribution& distribution,
                 DistributionFinding& out) {
    Tree& tree = out.tree;
    tree.slopeDb = distribution.slopeDb;
    tree.channels = distribution.channels;
    tree.headOutputs = distribution.headOutputs;
    tree.oneReceiverACable = service.oneReceiverACable;
    tree.levelDb = distribution.headLevel;
    if (service.noise) {
        tree.bandwidthMhz = service.noise->bandwidthMhz;
        tree.leastCarrierToNoiseDb = service.noise->leastDb;
        tree.sourceCarrierToNoiseDb =
            distribution.headCarrierToNoiseDb.value_or(service.noise->sourceDb);
    }
    if (service.levelWindow) {
        const auto& window = *service.levelWindow;
        out.unit = window.unit;
        out.unitOffsetDb = window.unit == "dBmV" ? dbuvOverDbmv : 0;
        tree.fromMhz = window.fromMhz;
        tree.toMhz = window.toMhz;
        tree.least = window.min + out.unitOffsetDb;
        tree.most = window.max + out.unitOffsetDb;
        tree.levelDb += out.unitOffsetDb;
        if (!service.lossRules.empty()) {
            const auto& back = service.lossRules.front();
            tree.returnPath = {back.fromMhz, back.toMhz, back.maxDb};
        }
        return;
    }
    // Nothing comes from a head: what counts lies between the outlets.
    const auto& rule = service.lossRules.front();
    out.unit = "dB";
    tree.fromMhz = rule.fromMhz;
    tree.toMhz = rule.toMhz;
    tree.least = -1000;
    tree.most = 1000;
    tree.mostBetweenDb = rule.maxDb;
}

/// Loop from an outlet to the head, and how many devices its volts pass; none behind a multiswitch.
std::optional<HeadSupply> headSupplyOf(const Tree& tree, std::size_t outlet, double ampere,
                                       const Catalogue& catalogue, bool solidCopper) {
    double ohm = 0;
    int devices = 0;
    std::size_t at = outlet;
    for (;;) {
        LinkParts feed = tree.nodes[at].feed;
        Cable copper;
        if (feed.cable != nullptr && solidCopper && feed.cable->solidCopperOhmPerKm) {
            copper = *feed.cable;
            copper.conductorOhmPerKm = *feed.cable->solidCopperOhmPerKm;
            feed.cable = &copper;
        }
        if (feed.cable != nullptr)
            ohm += loopResistanceOhm(feed, catalogue.temperature);
        if (tree.nodes[at].from.empty())
            break;
        const auto parent =
            std::find_if(tree.nodes.begin(), tree.nodes.end(),
                         [&](const auto& node) { return node.id == tree.nodes[at].from; });
        if (parent->unit.part == TreePart::Multiswitch)
            return std::nullopt;
        if (parent->unit.part == TreePart::DcBlock)
            return HeadSupply{};
        ++devices;
        at = static_cast<std::size_t>(parent - tree.nodes.begin());
    }
    return findHeadSupply(ohm, ampere, devices);
}

bool headWorks(const std::optional<HeadSupply>& head) {
    return !head || (head->works && head->choosesHigh && head->choosesLow);
}

/// What the volts at a satellite head say of a changed tree.
TreeJudge headJudge(const Distribution& distribution, const Service& service,
                    const Catalogue& catalogue) {
    if (!service.oneReceiverACable)
        return {};
    return [&catalogue, ampere = distribution.headAmpere](const Tree& tree) {
        for (std::size_t i = 0; i < tree.nodes.size(); ++i)
            if (tree.nodes[i].unit.part == TreePart::Outlet &&
                !headWorks(headSupplyOf(tree, i, ampere, catalogue, false)))
                return false;
        return true;
    };
}

void judgeHead(const Distribution& distribution, const Catalogue& catalogue,
               DistributionFinding& out) {
    for (std::size_t i = 0; i < out.tree.nodes.size(); ++i) {
        if (out.tree.nodes[i].unit.part != TreePart::Outlet)
            continue;
        out.head[i] = headSupplyOf(out.tree, i, distribution.headAmpere, catalogue, false);
        const auto& head = out.head[i];
        if (headWorks(head))
            continue;
        TreePoint& point = out.levels.points[i];
        point.good = false;
        point.reason += (point.reason.empty() ? "" : "; ") + formatFixed(head->lowV, 1) + " and " +
                        formatFixed(head->highV, 1) +
                        " V reach the head of 13 and 18 V: it needs 11.5 V, and 15.0 V to choose";
        const auto copper = headSupplyOf(out.tree, i, distribution.headAmpere, catalogue, true);
        if (copper && copper->lowV > head->lowV + 0.05)
            point.reason += "; a solid copper centre would leave " + formatFixed(copper->lowV, 1) +
                            " and " + formatFixed(copper->highV, 1) + " V";
    }
}

std::string levelText(const DistributionFinding& f, double dbuv) {
    return formatFixed(dbuv - f.unitOffsetDb, 1) + " " + f.unit;
}

} // namespace

bool DistributionFinding::fits(const Distribution& distribution) const {
    return faults.empty() && levels.points.size() == partIds.size() &&
           std::equal(partIds.begin(), partIds.end(), distribution.parts.begin(),
                      distribution.parts.end(),
                      [](const auto& partId, const auto& part) { return partId == part.id; });
}

std::optional<std::size_t> DistributionFinding::fedBy(std::string_view runId) const {
    const auto it = std::find(runIds.begin(), runIds.end(), runId);
    return it == runIds.end() || runId.empty() ? std::nullopt
                                               : std::optional<std::size_t>(it - runIds.begin());
}

DistributionFinding findDistribution(const Job& job, const Distribution& distribution,
                                     const Catalogue& catalogue, Propose propose) {
    return findDistribution(JobReads(job).of(distribution), distribution, catalogue, propose);
}

DistributionFinding findDistribution(const SystemReads& job, const Distribution& distribution,
                                     const Catalogue& catalogue, Propose propose) {
    DistributionFinding out;
    out.id = distribution.id;
    out.name = distribution.name;
    for (const auto& part : distribution.parts) {
        out.partIds.push_back(part.id);
        out.runIds.push_back(part.runId);
    }
    const Service* service = catalogue.service(distribution.serviceId);
    if (service == nullptr || !service->distributed ||
        (!service->levelWindow && service->lossRules.empty())) {
        out.faults.push_back({"distribution " + distribution.name, 0, 0,
                              "its service is not in the catalogue, or is none that is distributed",
                              "Choose television, satellite or an in-home network"});
        return out;
    }
    takeService(*service, distribution, out);
    const auto names = namesOf(job, distribution);
    for (const auto& part : distribution.parts) {
        TreeNode node;
        node.id = names.at(part.id);
        // One of another distribution is none here: `findTree` says so.
        const auto from = names.find(part.from);
        node.from = from == names.end() ? part.from : from->second;
        node.fromTap = part.fromTap;
        node.unit = part.unit;
        if (const Run* run = job.run(part.runId))
            node.feed = linkOf(*run, catalogue, LinkKind::Channel, &out.faults);
        node.pulled = job.isMeasured(part.runId);
        out.tree.nodes.push_back(std::move(node));
    }
    if (!out.faults.empty())
        return out;
    auto levels = findTree(out.tree, catalogue);
    if (!levels) {
        out.faults.push_back(levels.error());
        return out;
    }
    out.levels = std::move(*levels);
    out.head.resize(out.tree.nodes.size());
    if (service->oneReceiverACable)
        judgeHead(distribution, catalogue, out);
    out.notes = out.levels.problems;
    out.notes.insert(out.notes.end(), out.levels.unusedPorts.begin(), out.levels.unusedPorts.end());
    out.good = out.levels.problems.empty() &&
               std::all_of(out.levels.points.begin(), out.levels.points.end(),
                           [](const auto& point) { return point.good; });
    out.levels.good = out.good;
    if (propose == Propose::Yes)
        burin::propose(out, distribution, catalogue);
    return out;
}

void propose(DistributionFinding& finding, const Distribution& distribution,
             const Catalogue& catalogue) {
    const Service* service = catalogue.service(distribution.serviceId);
    if (finding.good || !finding.faults.empty() || service == nullptr)
        return;
    if (auto proposal =
            proposeTree(finding.tree, catalogue, headJudge(distribution, *service, catalogue)))
        finding.proposal = std::move(*proposal);
}

Working levelWorking(const DistributionFinding& f, std::size_t part, const Catalogue& catalogue) {
    Working w;
    if (part >= f.levels.points.size())
        return w;
    const Tree& tree = f.tree;
    w.title = "Level at " + tree.nodes[part].id;
    w.formula = "level = head + slope − Σ(cable + connections) − Σ(split, tap) + Σ(gain)";
    std::vector<std::size_t> way{part};
    while (!tree.nodes[way.back()].from.empty())
        for (std::size_t i = 0; i < tree.nodes.size(); ++i)
            if (tree.nodes[i].id == tree.nodes[way.back()].from) {
                way.push_back(i);
                break;
            }
    w.inputs.push_back(
        {"head", levelText(f, tree.levelDb) + ", slope " + formatFixed(tree.slopeDb, 1) + " dB",
         "the distribution"});
    w.inputs.push_back(
        {"band", formatMhz(tree.fromMhz) + " to " + formatMhz(tree.toMhz), "the service"});
    for (auto it = way.rbegin(); it != way.rend(); ++it) {
        const auto& node = tree.nodes[*it];
        const auto& point = f.levels.points[*it];
        std::string step = node.id + ": ";
        if (node.feed.cable != nullptr)
            step += formatFixed(node.feed.fixedLengthM() + node.feed.cordLengthM(), 1) + " m of " +
                    node.feed.cable->name + ", −" +
                    formatFixed(linkLoss(node.feed, catalogue, tree.fromMhz).totalDb(), 1) +
                    " and −" +
                    formatFixed(linkLoss(node.feed, catalogue, tree.toMhz).totalDb(), 1) + " dB; ";
        w.steps.push_back(step + "behind it " + levelText(f, point.lowDb) + " and " +
                          levelText(f, point.highDb));
    }
    w.steps.push_back("carrier to noise " + formatFixed(f.levels.points[part].carrierToNoiseDb, 1) +
                      " dB in " + formatFixed(tree.bandwidthMhz, 0) + " MHz, by Friis from " +
                      (tree.sourceCarrierToNoiseDb
                           ? formatFixed(*tree.sourceCarrierToNoiseDb, 1) + " dB at the head"
                           : std::string("thermal noise")) +
                      (tree.leastCarrierToNoiseDb
                           ? ", " + formatFixed(*tree.leastCarrierToNoiseDb, 1) + " dB wanted"
                           : std::string()));
    if (const auto& back = f.levels.points[part].returnLossDb)
        w.steps.push_back("way back to the head " + formatFixed(*back, 1) + " dB");
    w.result = levelText(f, f.levels.points[part].leastDb) + " to " +
               levelText(f, f.levels.points[part].mostDb);
    return w;
}

bool unanswered(RunFinding& run, const std::vector<Fault>& faults) {
    if (faults.empty())
        return false;
    run.outlook = Outlook::Unknown;
    run.outlookReason = faults.front().text();
    return true;
}

std::function<double(double)> levelAhead(const DistributionFinding& f, std::size_t part,
                                         const Catalogue& catalogue) {
    auto plan = planOf(f.tree);
    if (!plan)
        return {};
    return [&f, &catalogue, part, plan = std::move(*plan)](double mhz) {
        return levelsAt(f.tree, plan, catalogue, mhz).inDb[part] +
               feedLossDb(f.tree.nodes[part], catalogue, mhz) - f.unitOffsetDb;
    };
}

namespace {

/// How far its cable could go from where it hangs: what the level there leaves it.
void setReach(RunFinding& run, const DistributionFinding& f, std::size_t part, const Run& of,
              const JobInfo& info, const Catalogue& catalogue) {
    const Service* service = catalogue.service(of.serviceId);
    if (service == nullptr || !service->levelWindow || catalogue.cable(of.cableId) == nullptr)
        return;
    ReachQuestion question = questionOf(of, info, catalogue, *service, nullptr);
    question.levelAt = levelAhead(f, part, catalogue);
    run.reach = findReach(question, catalogue);
    for (auto& reach : run.reaches)
        if (reach.wanted)
            reach.reach = run.reach;
}

} // namespace

void overlay(RunFinding& run, const DistributionFinding& f, const Run& of, const JobInfo& info,
             const Catalogue& catalogue) {
    const auto place = f.fedBy(run.runId);
    if (!place)
        return;
    if (unanswered(run, f.faults))
        return;
    const std::size_t at = *place;
    const TreePoint& point = f.levels.points[at];
    const bool outlet = f.tree.nodes[at].unit.part == TreePart::Outlet;
    if (outlet && !f.tree.mostBetweenDb)
        setReach(run, f, at, of, info, catalogue);
    // What keeps it from being good by itself, a connector that does not fit, stands.
    if (run.unfit)
        return;
    run.outlook = point.good ? Outlook::Holds : Outlook::Fails;
    run.outlookReason = levelText(f, point.leastDb) + " to " + levelText(f, point.mostDb) +
                        (outlet ? " at its outlet" : " behind " + f.tree.nodes[at].id);
    if (f.tree.mostBetweenDb)
        run.outlookReason =
            f.levels.problems.empty()
                ? "every pair of outlets within " + formatFixed(*f.tree.mostBetweenDb, 0) + " dB"
                : f.levels.problems.front();
    if (!point.good)
        run.outlookReason += ": " + point.reason;
    if (f.tree.mostBetweenDb && !f.levels.problems.empty())
        run.outlook = Outlook::Fails;
    if (outlet && !f.tree.mostBetweenDb) {
        run.marginDb = point.leastDb - f.tree.least;
        run.marginAtMhz = point.lowDb < point.highDb ? f.tree.fromMhz : f.tree.toMhz;
        // Cable and parts are known to about a decibel: less is tight.
        if (point.good && *run.marginDb < 1)
            run.outlook = Outlook::Tight;
        const double whole = f.tree.levelDb - f.tree.least;
        run.predictedShare = whole > 0 ? std::max(0.0, 1 - *run.marginDb / whole) : 2;
    }
}

} // namespace burin
