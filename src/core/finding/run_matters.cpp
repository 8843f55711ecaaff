#include "core/finding/run_matters.h"
#include "core/connector/fit.h"
#include "core/finding/site_finding.h"
#include "core/units/units.h"
#include <algorithm>
#include <set>

namespace burin {
namespace {

/// Links of less are not what class limits were worked out for: ISO/IEC 11801-1 models 15 m and
/// more between two connections; to a third of that their own echoes rule what a tester shows.
constexpr double shortLinkM = 5;

/// What a tester will show of so short a link; empty where it is none.
Sentence shortLinkNote(const RunFinding& out, const Cable& cable, std::size_t connections) {
    if (cable.kind != CableKind::Balanced || cable.category == Category::None || connections < 2 ||
        !(out.lengthM > 0) || out.lengthM >= shortLinkM)
        return {};
    const double everyMhz = cable.nvp.value * 299.792458 / (2 * out.lengthM);
    return sentence(
        {"matter.short-link",
         "{0} between its connections: their NEXT and return loss meet in step every {1} "
         "(v/2ℓ), and a tester will show them rise and fall so; class limits were not "
         "made for links this short, and a little beyond them here is no fault of the "
         "cable by itself"},
        asMetres(out.lengthM), asMegahertz(everyMhz));
}

void fitMatters(const Run& run, const Catalogue& catalogue, const Cable& cable, double topMhz,
                std::vector<RunMatter>& out) {
    std::set<std::pair<std::string_view, FitOf>> said;
    for (const auto& use : run.connections) {
        const Connection* connection = catalogue.connection(use.connectionId);
        for (const auto& point : findFit({&cable, connection, topMhz, use.outdoors})) {
            if (!point.good && said.emplace(connection->id, point.of).second)
                out.push_back(
                    {sentence({"matter.fit", "{0} does not fit, {1}: {2}"},
                              asTerm(connection->name), asTerm(fitWords[point.of]), point.reason),
                     point.of != FitOf::Weather});
        }
    }
}

void screenMatters(const Run& run, const Catalogue& catalogue, const Cable& cable,
                   std::vector<RunMatter>& out) {
    if (cable.kind != CableKind::Balanced)
        return;
    const bool screened = cable.screen != Screen::None;
    const bool bareJack =
        screened && cable.category != Category::None &&
        std::any_of(run.connections.begin(), run.connections.end(), [&](const auto& use) {
            const Connection* of = catalogue.connection(use.connectionId);
            return of != nullptr && of->category != Category::None && !of->screened;
        });
    if (bareJack)
        out.push_back(
            {sentence({"matter.bare-jack", "screened cable in an unscreened jack: nothing "
                                           "takes its screen up; take a screened one"}),
             false});
    const bool half = std::any_of(run.cords.begin(), run.cords.end(), [&](const RunCord& cord) {
        const Cable* of = catalogue.cable(cord.cableId);
        return of != nullptr && (of->screen != Screen::None) != screened;
    });
    if (half)
        out.push_back(
            {screened
                 ? sentence({"matter.bare-cords",
                             "screened cable with unscreened cords: the screen ends at the jack, "
                             "and earths at one end at best; take screened cords"})
                 : sentence({"matter.screened-cords", "screened cords on unscreened cable: they "
                                                      "screen nothing but themselves"}),
             false});
}

void leasedMatters(const Run& run, const RunFinding& finding, const Cable& cable,
                   const Service& service, std::vector<RunMatter>& out) {
    if (!service.sharedCableM)
        return;
    std::vector<Sentence> pins;
    for (const auto& pair : service.pinPairs)
        pins.push_back(alone(asText(pair)));
    out.push_back(
        {sentence({"matter.leased-pins",
                   "pins {0} of a plain eight-way jack, without shorting bars; any screen "
                   "earthed at one end only"},
                  listed(std::move(pins))),
         false});
    if (run.neighbours() > 0 && cable.screen != Screen::Pairs &&
        finding.channelM > *service.sharedCableM)
        out.push_back(
            {sentence({"matter.leased-beside", "it lies beside {0} other cables: individually "
                                               "screened pairs keep it apart from them as well"},
                      asCount(run.neighbours())),
             false});
}

} // namespace

Sentence lightningCaution() {
    return sentence(
        {"caution.lightning",
         "From outdoors or an aerial: lightning. Bond its screen to the building's earth "
         "where it enters, with a surge arrester there; local code and a licensed "
         "electrician decide how, and nobody works on it with a storm about"});
}

std::vector<RunMatter> runMatters(const Run& run, const RunFinding& finding,
                                  const Catalogue& catalogue, const Cable& cable,
                                  const Service* service) {
    std::vector<RunMatter> out;
    fitMatters(run, catalogue, cable, topMhzOf(run, cable, service), out);
    const double ratedC = catalogue.temperature.ratedC.value;
    for (const auto& stretch : run.stretches)
        if (stretch.temperatureC > ratedC) {
            const auto at = asCelsius(stretch.temperatureC);
            out.push_back({stretch.name.empty()
                               ? sentence({"matter.warm-way",
                                           "its way is at {0}, over the {1} cables are rated for "
                                           "unless their sheet says more: a cooler way"},
                                          at, asCelsius(ratedC))
                               : sentence({"matter.warm-stretch",
                                           "“{2}” is at {0}, over the {1} cables are rated for "
                                           "unless their sheet says more: a cooler way"},
                                          at, asCelsius(ratedC), stretchName(run, stretch)),
                           true});
            break;
        }
    if (isPowered(run) && cable.kind == CableKind::Coax)
        out.push_back({sentence({"matter.coax-power",
                                 "power over the data pairs is asked of it, and coax has none"}),
                       true});
    screenMatters(run, catalogue, cable, out);
    if (auto note = shortLinkNote(finding, cable, run.connections.size()); !note.empty())
        out.push_back({std::move(note), false});
    if (service != nullptr)
        leasedMatters(run, finding, cable, *service, out);
    return out;
}

bool comesFromOutdoors(const Run& run, const Service* service) {
    return (service != nullptr && service->aerial) ||
           std::any_of(run.connections.begin(), run.connections.end(),
                       [](const auto& use) { return use.outdoors; });
}

} // namespace burin
