#include "cli/commands.h"
#include "core/pull/tension.h"
#include "core/units/units.h"
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

} // namespace

void addPullCommands(CLI::App& app) {
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
