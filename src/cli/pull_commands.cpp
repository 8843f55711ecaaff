#include "cli/commands.h"
#include "core/base/lookup.h"
#include "core/edit/clashes.h"
#include "core/finding/pulled_check.h"
#include "core/job/ports.h"
#include "files/job_store.h"
#include "files/pull_print.h"
#include <QDate>
#include <cmath>
#include <memory>
#include <numbers>

namespace burin {
namespace {

struct TensionOptions {
    double weight = 0, friction = 0.5, dragN = 0;
    int cables = 1;
    std::vector<std::string> parts, bends, rises;
    const CLI::Option *part = nullptr, *bend = nullptr, *rise = nullptr;
};

/// The parts of the way in the order they were typed.
std::vector<PullPart> wayOf(const TensionOptions& o, const CLI::App& command) {
    std::vector<PullPart> out;
    std::size_t part = 0;
    std::size_t bend = 0;
    std::size_t rise = 0;
    for (const CLI::Option* typed : command.parse_order()) {
        if (typed == o.part) {
            out.push_back({PullPart::Kind::Straight, orBadInput(parseLengthM(o.parts.at(part++))),
                           0, 0, o.friction});
        } else if (typed == o.bend) {
            const double degrees = readNumber("--bend", o.bends.at(bend++), {0, 360, "°"});
            out.push_back(
                {PullPart::Kind::Bend, 0, 0, degrees * std::numbers::pi / 180, o.friction});
        } else if (typed == o.rise) {
            const double metres = readNumber("--rise", o.rises.at(rise++), {-1e4, 1e4, "m"});
            if (out.empty() || out.back().kind != PullPart::Kind::Straight)
                throw WrongUse{"--rise stands behind the --part that rises"};
            if (std::abs(metres) > out.back().lengthM)
                throw WrongUse{"--rise is more than its part is long"};
            out.back().riseM = metres;
        }
    }
    if (out.empty())
        throw WrongUse{"tension wants a way: --part 20m --bend 90 --part 20m"};
    return out;
}

void tension(const TensionOptions& o, const CLI::App& command) {
    const auto way = wayOf(o, command);
    const PullGroup group{o.weight / 100 * o.cables, o.dragN * o.cables};
    const auto forward = findTension(way, group);
    const auto backward = findTension(reversed(way), group);
    print({{"forwardN", forward.endN},
           {"backwardN", backward.endN},
           {"forwardMostN", forward.mostN},
           {"backwardMostN", backward.mostN}});
}

OutJson toJson(const PullFinding& pull, const Job& job) {
    OutJson out = {{"id", pull.id}, {"state", pullStateWords[pull.state]}};
    out["from"] = boxesStandAt(pull, job);
    out["boxesAt"] = boxesAtWords[pull.boxesAt];
    if (!pull.closesOn.empty())
        out["closes"] = {{"on", pull.closesOn}, {"what", pull.closesName}};
    out["runs"] = OutJson::array();
    for (const auto& run : pull.runs) {
        const Run* of = job.run(run.runId);
        OutJson one = {{"run", of == nullptr ? run.runId : of->label},
                       {"boxId", run.boxId},
                       {"lengthM", run.pulledM.value_or(run.plannedM)},
                       {"plannedM", run.plannedM},
                       {"pulled", run.there}};
        if (run.startMark && run.endMark) {
            one["startMark"] = markText(*run.startMark);
            one["endMark"] = markText(*run.endMark);
        }
        out["runs"].push_back(std::move(one));
    }
    const auto optional = [&](const char* name, const std::optional<double>& value) {
        out[name] = value ? OutJson(*value) : OutJson();
    };
    optional("forwardN", pull.nearN);
    optional("backwardN", pull.farN);
    optional("limitN", pull.limitN);
    optional("brokenN", pull.brokenN);
    out["pullPoints"] = OutJson::array();
    for (const auto& point : pull.breaks) {
        const Pathway* way = byId(job.pathways, point.pathwayId);
        out["pullPoints"].push_back(
            {{"pathway", way == nullptr ? point.pathwayId : way->name}, {"atM", point.atM}});
    }
    out["bushings"] = pull.bushings;
    return out;
}

/// What is pulled of a run and does not fit it.
void addCheck(OutJson& out, const PulledCheck& check, const Job& laid) {
    const auto said = saidOf(check, laid);
    if (said.empty())
        return;
    const Run* run = laid.run(check.runId);
    OutJson one = {{"run", run == nullptr ? check.runId : run->label},
                   {"pulledM", check.pulled.lengthM},
                   {"doubtM", check.pulled.doubtM},
                   {"linkM", check.linkM},
                   {"lacksM", check.lacksM},
                   {"reaches", check.reaches},
                   {"sure", check.sure},
                   {"end", endWords[check.end]}};
    for (const auto& sentence : said)
        one["says"].push_back(sentence);
    for (const auto& cure : check.cures)
        one["cures"].push_back({{"what", cure.what}, {"cost", cure.cost.said()}});
    out.push_back(std::move(one));
}

/// A job with everything that is told of its pulls.
struct Planned {
    explicit Planned(const std::string& path)
        : store(openJob(path)), job(store->job()),
          catalogue(catalogueOf(shippedCatalogue(), job, &faults)), site(planSite(job, catalogue)),
          laid(laidJob(job, site)), plan(planPulls(job, catalogue, site)) {}
    [[nodiscard]] EndPlan ends(const std::string& on) const {
        return endPlanOf(*store, laid, catalogue, site, on);
    }
    std::unique_ptr<JobStore> store;
    const Job& job;
    std::vector<Fault> faults;
    Catalogue catalogue;
    SitePlan site;
    Job laid;
    PullPlan plan;
};

struct PaperOptions {
    std::string job, out, paper = "a4";
    bool imperial = false;

    [[nodiscard]] PaperSize size() const { return *paperSizeWords.find(paper); }
    [[nodiscard]] UnitSystem units() const {
        return imperial ? UnitSystem::Imperial : UnitSystem::Metric;
    }
    void put(const std::string& bytes) const { writeWhole(out, bytes, {job}); }
};
void addPaper(CLI::App& command, PaperOptions& o, const char* what) {
    command.add_option("job", o.job, "job file")->required();
    command.add_option("--out", o.out, what);
    command.add_option("--paper", o.paper, "of what is printed")
        ->check(CLI::IsMember({"a4", "letter"}));
    command.add_flag("--imperial", o.imperial, "feet and °F on paper");
}
bool isCsv(const std::string& path) {
    return path.ends_with(".csv");
}

void pullPlan(const PaperOptions& o) {
    const Planned p(o.job);
    OutJson out = {{"pulls", OutJson::array()}, {"boxes", OutJson::array()}};
    for (const auto& pull : p.plan.pulls)
        out["pulls"].push_back(toJson(pull, p.job));
    for (const auto& box : p.plan.boxes)
        out["boxes"].push_back({{"id", box.id},
                                {"name", box.name},
                                {"cable", box.cableId},
                                {"leftM", box.leftM},
                                {"leftAfterM", box.leftAfterM},
                                {"new", box.isNew},
                                {"scrap", box.scrap}});
    out["boxesOpened"] = p.plan.opened;
    out["lowerBound"] = p.plan.lowerBound;
    out["provenLeast"] = p.plan.provenLeast();
    out["scrapM"] = p.plan.scrapM;
    constexpr auto whys =
        wordsOf<NotPulled::Why>("no-length", "no-cable", "too-long", "two-cables");
    out["notPlanned"] = OutJson::array();
    for (const auto& one : p.plan.left) {
        const Run* run = p.job.run(one.runId);
        out["notPlanned"].push_back(
            {{"run", run == nullptr ? one.runId : run->label}, {"why", whys[one.why]}});
    }
    out["toSee"] = OutJson::array();
    for (const auto& run : p.job.runs)
        if (const auto check = checkPulled(p.job, p.laid, run, p.catalogue, p.site, p.plan))
            addCheck(out["toSee"], *check, p.laid);
    for (const auto& clash : markClashes(p.job))
        out["faults"].push_back(told(clash.fault));
    for (const auto& fault : p.faults)
        out["faults"].push_back(told(fault));
    if (!o.out.empty()) {
        loadShippedFaces();
        o.put(pullListPdf(p.job, p.plan, p.site, o.units(), o.size()));
        out["printed"] = o.out;
    }
    printBeside(o.out, out);
}

struct LabelOptions : PaperOptions {
    std::string sheet = "a4-plain";
    std::vector<std::string> runs;
};
void labels(const LabelOptions& o) {
    const Planned p(o.job);
    const LabelSheet* sheet = byId(p.catalogue.labels, o.sheet);
    if (sheet == nullptr) {
        std::string known;
        for (const auto& one : p.catalogue.labels)
            known += (known.empty() ? "" : ", ") + one.id;
        throw BadInput{
            {named("--sheet"), 0, 0,
             sentence({"command.no-sheet-catalogue", "there is no sheet “{0}” in the catalogue"},
                      o.sheet),
             sentence({"cure.take-one-of", "Take one of {0}"}, known)}};
    }
    std::vector<std::string> ids;
    for (const auto& name : o.runs)
        ids.push_back(runOf(p.job, name).id);
    const auto all = endLabels(p.job, ids);
    if (all.empty() && p.job.info.pull.marking == MarkingSchool::ToneAndProbe)
        throw BadInput{{named(o.job),
                        0,
                        0,
                        {"command.job-numbers-nothing", "this job numbers nothing while pulling"},
                        {"cure.change-rule-marking",
                         "Change its rule of marking in Pull, or tone the cables out"}}};
    if (isCsv(o.out)) {
        o.put(labelsCsv(all));
    } else {
        loadShippedFaces();
        o.put(labelsPdf(all, *sheet, p.job.info.name));
    }
    const auto aPage =
        static_cast<std::size_t>(sheet->columns) * static_cast<std::size_t>(sheet->rows);
    printBeside(o.out, {{"labels", all.size()},
                        {"sheet", sheet->id},
                        {"pages", isCsv(o.out) ? 0 : (all.size() + aPage - 1) / aPage},
                        {"printed", o.out}});
}

void materials(const PaperOptions& o) {
    const Planned p(o.job);
    const auto lines = findMaterials(p.job, p.catalogue, p.site, p.plan, p.ends(today()));
    OutJson out = {{"currency", p.job.info.survey.currency}, {"lines", OutJson::array()}};
    for (const auto& line : lines) {
        OutJson one = {{"kind", materialWords[line.of]},
                       {"what", line.name},
                       {"unit", line.metres ? "m" : "pieces"},
                       {"needed", line.needed},
                       {"waste", line.waste},
                       {"atHand", line.atHand},
                       {"toBuy", line.toBuy}};
        if (!line.id.empty())
            one["id"] = line.id;
        if (line.of == MaterialLine::Of::Cable)
            one["boxes"] = line.boxes;
        if (line.price)
            one["price"] = *line.price;
        if (!line.note.empty())
            one["note"] = line.note;
        out["lines"].push_back(std::move(one));
    }
    if (isCsv(o.out)) {
        o.put(materialsCsv(lines, p.job.info.survey.currency));
    } else if (!o.out.empty()) {
        loadShippedFaces();
        o.put(materialsPdf(lines, p.job, o.units(), o.size()));
    }
    printBeside(o.out, out);
}

struct DayOptions : PaperOptions {
    std::string from = today();
};
void days(const DayOptions& o) {
    const Planned p(o.job);
    const DayPlan found = orBadInput(
        planDays(p.job, p.catalogue, p.plan, p.ends(o.from), closings(p.job, p.site, {}), o.from));
    OutJson out = {{"from", o.from}, {"doneOn", found.doneOn}, {"days", OutJson::array()}};
    for (const auto& day : found.days) {
        OutJson one = {{"date", day.date}, {"minutes", day.minutes}, {"of", day.mostMinutes}};
        for (const auto& work : day.work) {
            OutJson runs = OutJson::array();
            for (const auto& id : work.runIds)
                if (const Run* run = p.job.run(id))
                    runs.push_back(run->label);
            one["work"].push_back({{"what", dayWorkWords[work.what]},
                                   {"pull", work.pullId},
                                   {"runs", runs},
                                   {"minutes", work.minutes}});
        }
        out["days"].push_back(std::move(one));
    }
    if (!found.pace.said.empty())
        out["pace"] = {
            {"factor", found.pace.factor}, {"days", found.pace.days}, {"says", found.pace.said}};
    out["late"] = OutJson::array();
    for (const auto& late : found.late) {
        OutJson one = {{"closes", late.closesName}, {"on", late.closesOn}, {"doneOn", late.doneOn}};
        one["cures"] = OutJson::array();
        for (const auto& cure : late.cures)
            one["cures"].push_back(cure);
        out["late"].push_back(std::move(one));
    }
    if (!o.out.empty()) {
        loadShippedFaces();
        o.put(daysPdf(found, p.job, p.plan, o.units(), o.size()));
    }
    printBeside(o.out, out);
}

} // namespace

void addPullCommands(CLI::App& app) {
    auto forPull = std::make_shared<PaperOptions>();
    auto* plan = app.add_subcommand(
        "pull", "which cables are pulled together, from which boxes, and what force it takes");
    addPaper(*plan, *forPull, "the list to work down, as PDF");
    plan->callback([forPull] { pullPlan(*forPull); });
    auto forLabels = std::make_shared<LabelOptions>();
    auto* label = app.add_subcommand("labels", "labels of both ends, as PDF or CSV");
    addPaper(*label, *forLabels, "labels.pdf or labels.csv");
    label->get_option("--out")->required();
    label->add_option("--sheet", forLabels->sheet, "of catalogue/labels.json");
    label->add_option("--run", forLabels->runs, "only of these")->allow_extra_args(false);
    label->callback([forLabels] { labels(*forLabels); });
    auto forMaterials = std::make_shared<PaperOptions>();
    auto* material = app.add_subcommand("materials", "what is still to be bought");
    addPaper(*material, *forMaterials, "the same as PDF or CSV");
    material->callback([forMaterials] { materials(*forMaterials); });
    auto forDays = std::make_shared<DayOptions>();
    auto* day =
        app.add_subcommand("days", "what is to be done on which day, and what will be late");
    addPaper(*day, *forDays, "the same as PDF");
    day->add_option("--from", forDays->from, "the first day, 2026-11-26; today");
    day->callback([forDays] { days(*forDays); });
    auto o = std::make_shared<TensionOptions>();
    auto* command =
        app.add_subcommand("tension", "what it takes to pull cables along a way, from either end");
    addNumber(*command, "--weight", o->weight, {0.01, 1000, "kg for 100 m"}, "of one cable")
        ->required();
    command->add_option("--cables", o->cables, "pulled together")->check(CLI::Range(1, 1000));
    addNumber(*command, "--friction", o->friction, {0, 5, ""},
              "0.5 dry, 0.25 lubricated, 0.2 over rollers");
    addNumber(*command, "--drag", o->dragN, {0, 1000, "N"}, "of each cable's box or reel");
    const auto piece = [&](const char* name, std::vector<std::string>& into, const char* what) {
        return command->add_option(name, into, what)->type_size(1)->allow_extra_args(false);
    };
    o->part = piece("--part", o->parts, "a straight piece of the way, in turn: 20m");
    o->bend = piece("--bend", o->bends, "a bend of so many degrees, in turn");
    o->rise = piece("--rise", o->rises, "how much higher the part before it ends, m");
    command->callback([o, command] { tension(*o, *command); });
}

} // namespace burin
