#pragma once
#include "core/catalogue/catalogue.h"
#include "core/finding/cable_choice.h"
#include "core/finding/expected.h"
#include "core/finding/job_findings.h"
#include "core/finding/site_finding.h"
#include <CLI/CLI.hpp>
#include <functional>
#include <nlohmann/json.hpp>

namespace burin {

using OutJson = nlohmann::ordered_json;
class JobStore;

/// Bad input: message on standard error, exit 3.
struct BadInput {
    Fault fault;
};
/// Wrong use: message on standard error, exit 2.
struct WrongUse {
    std::string what;
};

template <typename T> T orBadInput(Outcome<T> outcome) {
    if (!outcome)
        throw BadInput{outcome.error()};
    return std::move(*outcome);
}

/// Opens a job to be read; throws BadInput.
std::unique_ptr<JobStore> openJob(const std::string& path);
/// The run of that label or id; throws BadInput.
const Run& runOf(const Job& job, const std::string& name);
/// What was measured, as it is kept in the job.
MeasuredFiles filesOf(const JobStore& store);
/// All ends of a job, by everything that was measured; `laid` is the job as laid by `site`.
EndPlan endPlanOf(const JobStore& store, const Job& laid, const Catalogue& catalogue,
                  const SitePlan& site, const std::string& today);
/// The computer's day, "2026-11-26".
std::string today();
/// The shipped faces, for what is drawn.
void loadShippedFaces();
/// Loads the shipped catalogue; throws BadInput.
Catalogue shippedCatalogue();
/// A sentence as part of an answer: what is printed has its English text under that name, and key
/// and quantities beside it.
void to_json(OutJson& out, const Sentence& sentence);
/// The answer as it is printed.
OutJson spoken(OutJson answer);

/// Prints the answer; one with a figure that is no number is a fault of the question, and thrown as
/// BadInput.
void print(const OutJson& json);
/// The same, on standard error when `written` is standard output itself.
void printBeside(const std::string& written, const OutJson& json);
/// Writes a whole file or none of it, never over one of `inputs`; throws BadInput.
void writeWhole(const std::string& path, const std::string& bytes,
                const std::vector<std::string>& inputs);

/// Which numbers an option takes, in which unit.
struct NumberRange {
    double least = 0, most = 0;
    const char* unit = "";
};
/// Refuses a text that is no finite number in that range, naming option, range and unit.
double readNumber(const std::string& option, const std::string& text, const NumberRange& range);
/// Adds an option that takes one number, into a double or an optional one.
template <typename T>
CLI::Option* addNumber(CLI::App& command, const std::string& option, T& target,
                       const NumberRange& range, const std::string& description) {
    return command
        .add_option_function<std::string>(
            option,
            [&target, option, range](const std::string& text) {
                target = readNumber(option, text, range);
            },
            description + (*range.unit == '\0' ? "" : std::string(", ") + range.unit))
        ->type_name("NUMBER");
}
inline constexpr NumberRange degreesC{-60, 200, "°C"}, megahertz{1e-6, 1e6, "MHz"};
/// Adds mated connections given as ID or ID:COUNT; throws WrongUse or BadInput.
void addConnections(const Catalogue& catalogue, const std::vector<std::string>& texts,
                    LinkParts& out);
/// The cable of that id; throws BadInput.
const Cable& cableOf(const Catalogue& catalogue, const std::string& id);

void addCatalogueCommands(CLI::App& app);
void addJobCommands(CLI::App& app);
void addLineCommands(CLI::App& app);
void addSystemCommands(CLI::App& app);
void addSiteCommands(CLI::App& app);
void addHistoryCommands(CLI::App& app);
void addFormatCommand(CLI::App& app);
void addPullCommands(CLI::App& app);
void addEndCommands(CLI::App& app);

/// What is left to decide: "conflicts" of the job, and "clashes".
void addOpenEnds(OutJson& out, const Job& job, const std::vector<Clash>& clashes);

OutJson toJson(const Reach& reach);
OutJson toJson(const RunFinding& finding);
OutJson toJson(const MeasurementFinding& finding);
OutJson toJson(const Expected& expected);
OutJson toJson(const Working& working);
OutJson toJson(const TreeFinding& finding);
OutJson toJson(const TreeProposal& proposal);
OutJson toJson(const BusFinding& finding);
OutJson toJson(const DistributionFinding& finding);
OutJson toJson(const BusChainFinding& finding);
OutJson toJson(const RunRoute& route);
OutJson toJson(const SiteFinding& finding, const Job& job);
OutJson toJson(const std::vector<CableChoice>& choices);

} // namespace burin
