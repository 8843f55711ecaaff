#include "core/job/ports.h"
#include "core/base/lookup.h"
#include "core/base/text.h"
#include <algorithm>
#include <cctype>
#include <charconv>

namespace burin {
namespace {

constexpr std::size_t longestNumber = 6;

bool alike(std::string_view a, std::string_view b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](unsigned char x, unsigned char y) {
        return std::tolower(x) == std::tolower(y);
    });
}
std::string_view portWord(const Place& place) {
    return place.kind == PlaceKind::Block ? "pair" : isHeadEnd(place.kind) ? "port" : "jack";
}
/// What stands between a place's name and the number of its port.
std::string joint(const Place& place) {
    return (isHeadEnd(place.kind) ? " " : ", ") + std::string(portWord(place)) + " ";
}
std::string_view nameOfPort(const Place& place, int port) {
    const auto at = static_cast<std::size_t>(port) - 1;
    return port > 0 && at < place.portNames.size() ? std::string_view(place.portNames[at])
                                                   : std::string_view();
}
/// The number a text ends with where all before it is `stem`; 0: it is nothing of that kind.
int numberBehind(std::string_view stem, std::string_view text, int most) {
    if (text.size() <= stem.size() || text.size() > stem.size() + longestNumber ||
        !alike(text.substr(0, stem.size()), stem))
        return 0;
    int number = 0;
    const auto read = std::from_chars(text.data() + stem.size(), text.data() + text.size(), number);
    return read.ec == std::errc() && read.ptr == text.data() + text.size() && number <= most
               ? number
               : 0;
}
/// The port of a place that a text names, with or without the place; 0: none.
int namedPort(const Place& place, std::string_view text) {
    if (place.ports < 2 || text.empty())
        return 0;
    for (std::size_t i = 0; i < place.portNames.size(); ++i) {
        const int port = static_cast<int>(i) + 1;
        if (port <= place.ports && !place.portNames[i].empty() &&
            (alike(text, place.portNames[i]) || alike(text, portWords(place, port))))
            return port;
    }
    for (const std::string& stem :
         {place.name + joint(place), std::string(portWord(place)) + " ", std::string()})
        if (const int port = numberBehind(stem, text, place.ports); port > 0)
            return port;
    return 0;
}
/// A text that begins with the place's name, without it: "output 3" of "multiswitch output 3".
std::string_view behindName(const Place& place, std::string_view text) {
    text = trimmed(text);
    if (place.name.empty() || !text.starts_with(place.name))
        return text;
    const std::string_view rest = text.substr(place.name.size());
    const std::string_view name = rest.substr(std::min(rest.find_first_not_of(" ,"), rest.size()));
    return name.size() < rest.size() || rest.empty() ? name : text;
}

} // namespace

std::string portWords(const Place& place, int port) {
    if (port < 1 || place.ports < 2)
        return place.name;
    if (const auto name = nameOfPort(place, port); !name.empty())
        return place.name + ", " + std::string(name);
    return place.name + joint(place) + std::to_string(port);
}

int portOf(const Place& place, const RunEnd& end) {
    if (place.ports < 2 || end.port > 0)
        return place.ports < 2 ? 0 : end.port;
    return numberBehind(place.name + joint(place), trimmed(end.text), place.ports);
}

std::string endName(const Job& job, const RunEnd& end) {
    if (end.placeId.empty())
        return end.text;
    const Place* place = byId(job.places, end.placeId);
    // A text that names a port says no more once the port is said as one.
    if (place == nullptr ||
        (!end.text.empty() && (end.port == 0 || namedPort(*place, trimmed(end.text)) == 0)))
        return end.text;
    return portWords(*place, end.port);
}

std::string endNameAtPlace(const Job& job, const RunEnd& end) {
    const Place* place = byId(job.places, end.placeId);
    return place == nullptr ? end.text : std::string(behindName(*place, endName(job, end)));
}

std::string fromTo(const Job& job, const Run& run) {
    const std::string near = endName(job, run.near);
    const std::string far = endName(job, run.far);
    return near.empty() && far.empty() ? std::string() : near + " → " + far;
}

RunEnd PortFinder::on(const Place& place) {
    RunEnd out{{}, place.id};
    if (place.ports < 2)
        return out;
    const auto [it, fresh] = taken_.try_emplace(place.id);
    auto& taken = it->second;
    if (fresh)
        for (const auto& run : job_.runs)
            for (const RunEnd* end : {&run.near, &run.far})
                if (end->placeId == place.id)
                    taken.insert(portOf(place, *end));
    int port = 1;
    while (taken.contains(port))
        ++port;
    if (port <= place.ports) {
        out.port = port;
        taken.insert(port);
    }
    return out;
}

void PortFinder::moveToFree(Run& run) {
    for (RunEnd* end : {&run.near, &run.far})
        if (const Place* place = byId(job_.places, end->placeId))
            *end = on(*place);
        else
            *end = {end->text};
}

RunEnd typedEnd(const Job& job, RunEnd end, std::string_view text) {
    const auto typed = trimmed(text);
    end.text.clear();
    if (const Place* place = byId(job.places, end.placeId)) {
        if (alike(typed, portWords(*place, end.port)))
            return end;
        if (const int port = namedPort(*place, typed); port > 0) {
            end.port = port;
            return end;
        }
    }
    end.text = typed;
    return end;
}

} // namespace burin
