#include "cli/commands.h"
#include "files/job_export.h"
#include "files/measured_file.h"
#include "files/text_cursor.h"

namespace burin {

std::unique_ptr<JobStore> openJob(const std::string& path) {
    return orBadInput(JobStore::open(QString::fromStdString(path), Access::ReadOnly));
}

const Run& runOf(const Job& job, const std::string& name) {
    const Run* run = job.runLabelled(name);
    if (run == nullptr)
        run = job.run(name);
    if (run == nullptr)
        throw BadInput{{named("--run"),
                        0,
                        0,
                        sentence({"command.no-run-job", "there is no run “{0}” in the job"}, name),
                        {"cure.name-label-example", "Name one by its label, for example SL-D03"}}};
    return *run;
}

MeasuredFiles filesOf(const JobStore& store) {
    MeasuredFiles out;
    for (const auto& m : store.job().measurements)
        if (!m.fileHash.empty() && !out.contains(fileKey(m)))
            out[fileKey(m)] =
                std::make_shared<const Outcome<MeasuredFile>>(readMeasurementFile(store, m));
    return out;
}

namespace {

void findings(const std::string& path, const std::string& run) {
    const auto store = openJob(path);
    std::vector<Fault> faults;
    const Catalogue catalogue = catalogueOf(shippedCatalogue(), store->job(), &faults);
    const SitePlan site = planSite(store->job(), catalogue);
    const Job job = laidJob(store->job(), site);
    const MeasuredFiles files = filesOf(*store);
    JobFindings all;
    const Run* one = run.empty() ? nullptr : &runOf(job, run);
    if (one == nullptr) {
        JobFindingOptions options;
        options.run = FindingOptions{};
        options.site = &site;
        all = findJob(job, catalogue, files, options);
    } else {
        // Its systems alone, and no other run.
        if (const Distribution* d = job.distributionOf(one->id))
            all.distributions.push_back(findDistribution(job, *d, catalogue));
        if (const BusChain* b = job.busOf(one->id))
            all.buses.push_back(findBusChain(job, *b, catalogue));
        all.runs.push_back(findRun(job, *one, catalogue, files));
        findCures(job, catalogue, one->id, all, {&store->job(), &site, {}});
        all.overlaySystems(all.runs.front(), job, catalogue);
        overlaySite(all.runs.front(), *one, site);
    }
    OutJson out = {{"job", job.info.name}, {"limitSet", limitSetWords[job.info.limitSet]}};
    if (run.empty()) {
        const Coverage c = coverageOf(job, all.runs);
        out["coverage"] = {{"runs", c.runs},
                           {"pass", c.pass},
                           {"marginalGood", c.marginalGood},
                           {"marginalBad", c.marginalBad},
                           {"fail", c.fail},
                           {"untested", c.untested},
                           {"leftCoiled", c.coiled}};
    }
    if (run.empty())
        addOpenEnds(out, job, all.clashes);
    out["runs"] = OutJson::array();
    for (const auto& finding : all.runs) {
        out["runs"].push_back(toJson(finding));
        const Expected expected = expectedOf(job, *job.run(finding.runId), catalogue);
        if (!expected.results.empty())
            out["runs"].back()["expected"] = toJson(expected);
        if (const RunRoute* route = site.route(finding.runId)) {
            out["runs"].back()["route"] = toJson(*route);
            if (one != nullptr)
                out["runs"].back()["choices"] =
                    toJson(chooseCable(job, *job.run(finding.runId), site, catalogue, &all));
        }
    }
    out["site"] = OutJson::array();
    for (const auto& f : site.findings)
        if (one == nullptr || std::any_of(f.runs.begin(), f.runs.end(),
                                          [&](const auto& on) { return on.runId == one->id; }))
            out["site"].push_back(toJson(f, job));
    out["distributions"] = OutJson::array();
    for (const auto& d : all.distributions)
        out["distributions"].push_back(toJson(d));
    out["buses"] = OutJson::array();
    for (const auto& b : all.buses)
        out["buses"].push_back(toJson(b));
    for (const auto& fault : faults)
        out["faults"].push_back(told(fault));
    print(out);
}

struct CompareOptions {
    std::string job, run, file, link = "channel", pair, unit;
};

void compare(const CompareOptions& o) {
    const auto store = openJob(o.job);
    const Catalogue catalogue = catalogueOf(shippedCatalogue(), store->job(), nullptr);
    Job job = laidJob(store->job(), planSite(store->job(), catalogue));
    const Run run = runOf(job, o.run);
    Measurement m;
    m.id = "compared";
    m.runId = run.id;
    m.link = *linkKindWords.find(o.link);
    m.pair = o.pair;
    const auto slash = o.file.find_last_of('/');
    m.fileName = slash == std::string::npos ? o.file : o.file.substr(slash + 1);
    m.fileHash = "compared";
    m.frequencyUnit = o.unit;
    auto read = readMeasuredFile(orBadInput(readWholeFile(o.file)), m.fileName, o.unit);
    if (!read) {
        Fault fault = read.error();
        fault.where = named(o.file);
        throw BadInput{fault};
    }
    job.measurements = {m};
    MeasuredFiles files;
    files[fileKey(m)] = std::make_shared<const Outcome<MeasuredFile>>(std::move(*read));
    const RunFinding finding = findRun(job, run, catalogue, files);
    if (finding.measurements.front().fault)
        throw BadInput{*finding.measurements.front().fault};
    OutJson out = toJson(finding.measurements.front());
    out["run"] = run.label;
    print(out);
}

void exportTo(const std::string& jobPath, const std::string& outPath) {
    const auto store = openJob(jobPath);
    const Exported exported = orBadInput(exportJob(*store));
    writeWhole(outPath, exported.text, {jobPath});
    OutJson out = {{"exported", outPath}, {"runs", store->job().runs.size()}};
    for (const auto& fault : exported.missing)
        out["missing"].push_back(told(fault));
    printBeside(outPath, out);
}

void importFrom(const std::string& inPath, const std::string& jobPath) {
    const std::string text = orBadInput(readWholeFile(inPath, longestExport));
    const auto store =
        orBadInput(importJob(text, inPath, QString::fromStdString(jobPath), "burin-cli"));
    print({{"imported", jobPath}, {"runs", store->job().runs.size()}});
}

} // namespace

void addJobCommands(CLI::App& app) {
    auto* findingsCommand =
        app.add_subcommand("findings", "everything computed about a job's runs");
    auto job = std::make_shared<std::string>();
    auto run = std::make_shared<std::string>();
    findingsCommand->add_option("JOB", *job)->required();
    findingsCommand->add_option("--run", *run, "label or id");
    findingsCommand->callback([job, run] { findings(*job, *run); });

    auto* compareCommand = app.add_subcommand("compare", "a measured file against a run");
    auto o = std::make_shared<CompareOptions>();
    compareCommand->add_option("JOB", o->job)->required();
    compareCommand->add_option("--run", o->run, "label or id")->required();
    compareCommand->add_option("--file", o->file)->required();
    compareCommand->add_option("--link", o->link)->check(CLI::IsMember({"channel", "permanent"}));
    compareCommand->add_option("--pair", o->pair)
        ->check(CLI::IsMember({"1-2", "3-6", "4-5", "7-8"}));
    compareCommand->add_option("--frequency-unit", o->unit)
        ->check(CLI::IsMember({"Hz", "kHz", "MHz", "GHz"}));
    compareCommand->callback([o] { compare(*o); });

    auto* exportCommand = app.add_subcommand("export", "the whole job as JSON");
    auto out = std::make_shared<std::string>();
    exportCommand->add_option("JOB", *job)->required();
    exportCommand->add_option("OUT", *out)->required();
    exportCommand->callback([job, out] { exportTo(*job, *out); });

    auto* importCommand = app.add_subcommand("import", "a new job from JSON");
    auto in = std::make_shared<std::string>();
    importCommand->add_option("IN", *in)->required();
    importCommand->add_option("JOB", *job)->required();
    importCommand->callback([in, job] { importFrom(*in, *job); });
}

} // namespace burin
