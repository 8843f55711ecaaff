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
        std::vector<Sentence> wrong;
        if (!point.reason.empty())
            wrong.push_back(std::move(point.reason));
        wrong.push_back(
            sentence({"head.volts", "{0} and {1} reach the head of 13 and 18 V: it needs "
                                    "{2}, and {3} to choose"},
                     asVolt(head->lowV), asVolt(head->highV), asVolt(11.5), asVolt(15.0)));
        const auto copper = headSupplyOf(out.tree, i, distribution.headAmpere, catalogue, true);
        if (copper && copper->lowV > head->lowV + 0.05)
            wrong.push_back(
                sentence({"head.copper", "a solid copper centre would leave {0} and {1}"},
                         asVolt(copper->lowV), asVolt(copper->highV)));
        point.reason = joined(std::move(wrong), "; ");
    }
}

Quantity levelOf(const DistributionFinding& f, double dbuv) {
    return asUnit(dbuv - f.unitOffsetDb, 1, f.unit);
}

/// From the part before it to behind a part, at both ends of the band.
Sentence levelStep(const DistributionFinding& f, std::size_t part, const Catalogue& catalogue) {
    const Tree& tree = f.tree;
    const auto& node = tree.nodes[part];
    const auto low = levelOf(f, f.levels.points[part].lowDb);
    const auto high = levelOf(f, f.levels.points[part].highDb);
    if (node.feed.cable == nullptr)
        return sentence({"level.part", "{0}: behind it {1} and {2}"}, node.id, low, high);
    return sentence({"level.fed-part", "{0}: {3} of {4}, {5} and {6}; behind it {1} and {2}"},
                    node.id, low, high,
                    asMetres(node.feed.fixedLengthM() + node.feed.cordLengthM()),
                    asTerm(node.feed.cable->name),
                    asDecibel(-linkLoss(node.feed, catalogue, tree.fromMhz).totalDb()),
                    asDecibel(-linkLoss(node.feed, catalogue, tree.toMhz).totalDb()));
}

Sentence noiseStep(const DistributionFinding& f, std::size_t part) {
    const Tree& tree = f.tree;
    Sentence out =
        sentence({"level.noise", "carrier to noise {0} in {1}, by Friis from {2}"},
                 asDecibel(f.levels.points[part].carrierToNoiseDb), asMegahertz(tree.bandwidthMhz),
                 tree.sourceCarrierToNoiseDb ? sentence({"level.at-head", "{0} at the head"},
                                                        asDecibel(*tree.sourceCarrierToNoiseDb))
                                             : sentence({"level.thermal", "thermal noise"}));
    if (tree.leastCarrierToNoiseDb)
        out = joined({std::move(out), sentence({"level.wanted", "{0} wanted"},
                                               asDecibel(*tree.leastCarrierToNoiseDb))});
    return out;
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
        out.faults.push_back(
            {sentence({"where.distribution", "distribution {0}"}, distribution.name),
             0,
             0,
             {"distribution.no-service",
              "its service is not in the catalogue, or is none that is distributed"},
             {"cure.distributed-service", "Choose television, satellite or an in-home network"}});
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
    w.title = sentence({"level.title", "Level at {0}"}, tree.nodes[part].id);
    w.formula =
        sentence({"level.formula",
                  "level = head + slope − Σ(cable + connections) − Σ(split, tap) + Σ(gain)"});
    std::vector<std::size_t> way{part};
    while (!tree.nodes[way.back()].from.empty())
        for (std::size_t i = 0; i < tree.nodes.size(); ++i)
            if (tree.nodes[i].id == tree.nodes[way.back()].from) {
                way.push_back(i);
                break;
            }
    w.inputs.push_back({sentence({"input.head", "head"}),
                        sentence({"level.head", "{0}, slope {1}"}, levelOf(f, tree.levelDb),
                                 asDecibel(tree.slopeDb)),
                        sentence({"source.distribution", "the distribution"})});
    w.inputs.push_back(
        {sentence({"input.band", "band"}),
         sentence({"level.band", "{0} to {1}"}, asMegahertz(tree.fromMhz), asMegahertz(tree.toMhz)),
         sentence({"source.service", "the service"})});
    for (auto it = way.rbegin(); it != way.rend(); ++it)
        w.steps.push_back(levelStep(f, *it, catalogue));
    w.steps.push_back(noiseStep(f, part));
    if (const auto& back = f.levels.points[part].returnLossDb)
        w.steps.push_back(sentence({"level.back", "way back to the head {0}"}, asDecibel(*back)));
    w.result = sentence({"level.result", "{0} to {1}"}, levelOf(f, f.levels.points[part].leastDb),
                        levelOf(f, f.levels.points[part].mostDb));
    return w;
}

bool unanswered(RunFinding& run, const std::vector<Fault>& faults) {
    if (faults.empty())
        return false;
    run.outlook = Outlook::Unknown;
    run.outlookReason = told(faults.front());
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
    const auto least = levelOf(f, point.leastDb);
    const auto most = levelOf(f, point.mostDb);
    run.outlookReason =
        outlet
            ? sentence({"level.at-outlet", "{0} to {1} at its outlet"}, least, most)
            : sentence({"level.behind", "{0} to {1} behind {2}"}, least, most, f.tree.nodes[at].id);
    if (f.tree.mostBetweenDb)
        run.outlookReason = f.levels.problems.empty()
                                ? sentence({"outlets.within", "every pair of outlets within {0}"},
                                           asDecibel(*f.tree.mostBetweenDb, 0))
                                : f.levels.problems.front();
    if (!point.good)
        run.outlookReason =
            sentence({"run.because", "{0}: {1}"}, std::move(run.outlookReason), point.reason);
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
