#include "core/edit/run_text.h"
#include "core/job/ports.h"
#include "core/job/tables.h"
#include "core/units/short_figure.h"
#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdlib>

namespace burin {
namespace {

bool isDigit(char c) {
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}
bool isBlank(char c) {
    return std::isspace(static_cast<unsigned char>(c)) != 0;
}

struct Token {
    std::string text;
    std::size_t at;
    bool quoted = false;
};
/// Where a text in quotation marks that begins at `i` ends; none: it is not one, as in `3" pipe`.
std::optional<std::size_t> quotedEnd(std::string_view text, std::size_t i) {
    if (text[i] != '"')
        return std::nullopt;
    for (std::size_t k = i + 1; k < text.size(); ++k) {
        if (text[k] != '"')
            continue;
        if (k + 1 == text.size() || isBlank(text[k + 1]) || text[k + 1] == ';')
            return k + 1;
        if (text[k + 1] != '"')
            return std::nullopt;
        ++k;
    }
    return std::nullopt;
}
std::string inQuotes(std::string_view text) {
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? "\"\"" : std::string(1, c);
    return out + '"';
}
std::string outOfQuotes(std::string_view quoted) {
    std::string out;
    for (std::size_t i = 1; i + 1 < quoted.size(); ++i) {
        out += quoted[i];
        i += quoted[i] == '"' ? 1 : 0;
    }
    return out;
}

enum class Quotes { Letters, Marks };
std::vector<Token> tokens(std::string_view text, std::size_t base = 0,
                          Quotes quotes = Quotes::Letters) {
    std::vector<Token> out;
    for (std::size_t i = 0; i < text.size();) {
        while (i < text.size() && isBlank(text[i]))
            ++i;
        const std::size_t begin = i;
        if (i < text.size() && quotes == Quotes::Marks)
            if (const auto end = quotedEnd(text, i)) {
                out.push_back({outOfQuotes(text.substr(i, *end - i)), base + i, true});
                i = *end;
                continue;
            }
        while (i < text.size() && !isBlank(text[i]))
            ++i;
        if (i > begin)
            out.push_back({std::string(text.substr(begin, i - begin)), base + begin});
    }
    return out;
}
/// Where a stretch of a way ends that begins at `i`.
std::size_t stretchEnd(std::string_view way, std::size_t i) {
    for (bool first = true; i < way.size() && way[i] != ';'; ++i) {
        if (const auto end = first ? quotedEnd(way, i) : std::nullopt)
            i = *end - 1;
        first = isBlank(way[i]);
    }
    return i;
}

bool startsNumber(const std::string& text) {
    return !text.empty() && (isDigit(text[0]) || (text[0] == '.' && text.size() > 1));
}

bool isLengthUnit(std::string_view text) {
    return text == "m" || text == "mm" || text == "cm" || text == "km" || text == "ft" ||
           text == "in";
}
bool isUnit(const std::string& text) {
    return isLengthUnit(text) || text == "°C" || text == "°F" || text == "C" || text == "F" ||
           text == "beside";
}
/// The unit written to the number that a word begins with: "m" of "18m".
std::string_view unitWithin(std::string_view word) {
    return word.substr(std::min(word.find_first_not_of("0123456789.,"), word.size()));
}
/// Whether a word that begins with a figure is of a name, the "1" of "tray 1 18 m" or "2nd": it is
/// no quantity, and its stretch has a length further on.
bool isOfName(const std::vector<Token>& words, std::size_t i) {
    const auto unitOf = [&](std::size_t k) {
        const auto within = unitWithin(words[k].text);
        return within.empty() && k + 1 < words.size() ? words[k + 1].text : std::string(within);
    };
    const auto within = unitWithin(words[i].text);
    if (isUnit(unitOf(i)) ||
        (!within.empty() && std::isalpha(static_cast<unsigned char>(within.front())) == 0))
        return false;
    for (std::size_t k = i + 1; k < words.size(); ++k)
        if (startsNumber(words[k].text) && isLengthUnit(unitOf(k)))
            return true;
    return false;
}

tl::unexpected<Fault> bad(const char* what, std::size_t at, Sentence why, Sentence cure) {
    return refuse(
        Fault{alone(asTerm(what)), 1, static_cast<int>(at) + 1, std::move(why), std::move(cure)});
}

constexpr Wording wayCure{"cure.write-way",
                          "Write for example: riser 12 m; tray 34 m 31 °C 23 beside"};

Outcome<RunStretch> parseStretch(std::string_view text, std::size_t base, UnitSystem system) {
    RunStretch out;
    bool lengthSeen = false;
    const auto words = tokens(text, base, Quotes::Marks);
    for (std::size_t i = 0; i < words.size(); ++i) {
        const auto& word = words[i];
        if (word.quoted) {
            out.name += (out.name.empty() ? "" : " ") + word.text;
            continue;
        }
        const auto around = word.text == "in" && i + 1 < words.size()
                                ? surroundingsWords.find(words[i + 1].text)
                                : std::nullopt;
        if (around) {
            out.around = *around;
            ++i;
            continue;
        }
        if (!startsNumber(word.text) || isOfName(words, i)) {
            out.name += (out.name.empty() ? "" : " ") + word.text;
            continue;
        }
        std::string value = word.text;
        if (i + 1 < words.size() && isUnit(words[i + 1].text))
            value += " " + words[++i].text;
        if (value.ends_with("beside")) {
            out.neighbours = std::atoi(value.c_str());
        } else if (value.ends_with('C') || value.ends_with('F')) {
            const auto t = parseTemperatureC(value, system);
            if (!t)
                return bad("way", word.at, t.error().what, sentence(wayCure));
            out.temperatureC = *t;
        } else {
            const auto length = parseLengthM(value, system);
            if (!length)
                return bad("way", word.at, length.error().what, sentence(wayCure));
            if (lengthSeen)
                return bad("way", word.at,
                           {"run.second-length-stretch", "a second length in one stretch"},
                           sentence(wayCure));
            out.lengthM = *length;
            lengthSeen = true;
        }
    }
    if (!lengthSeen)
        return bad("way", base,
                   sentence({"run.stretch-no-length", "the stretch “{0}” has no length"}, out.name),
                   sentence(wayCure));
    return out;
}

} // namespace

Outcome<std::vector<RunStretch>> parseWay(std::string_view text, UnitSystem system) {
    std::vector<RunStretch> out;
    std::size_t begin = 0;
    while (begin <= text.size()) {
        const auto end = stretchEnd(text, begin);
        const auto part = text.substr(begin, end - begin);
        if (std::any_of(part.begin(), part.end(), [](char c) { return !isBlank(c); })) {
            auto stretch = parseStretch(part, begin, system);
            if (!stretch)
                return refuse(stretch.error());
            out.push_back(std::move(*stretch));
        }
        begin = end + 1;
    }
    if (out.empty())
        return bad("way", 0, {"typed.nothing-typed", "nothing is typed"}, sentence(wayCure));
    return out;
}

namespace {

std::string lengthText(const RunStretch& s, UnitSystem system) {
    return system == UnitSystem::Metric ? shortFigure(s.lengthM, 3) + " m"
                                        : shortFigure(s.lengthM / metresPerFoot, 2) + " ft";
}
std::string temperatureText(const RunStretch& s, UnitSystem system) {
    return system == UnitSystem::Metric ? shortFigure(s.temperatureC, 1) + " °C"
                                        : shortFigure(s.temperatureC * 1.8 + 32, 1) + " °F";
}
/// What stands behind the name of a stretch.
std::string figuresText(const RunStretch& s, UnitSystem system) {
    std::string out = lengthText(s, system);
    if (s.temperatureC != 20)
        out += ' ' + temperatureText(s, system);
    if (s.neighbours > 0)
        out += ' ' + std::to_string(s.neighbours) + " beside";
    if (s.around != Surroundings::FreeAir)
        out += " in " + std::string(surroundingsWords[s.around]);
    return out;
}
std::string stretchText(const RunStretch& s, UnitSystem system) {
    std::string figures = figuresText(s, system);
    if (s.name.empty())
        return figures;
    std::string out = s.name + ' ' + figures;
    const bool whole = s.name.find_first_of("\";") == std::string::npos;
    const auto read = whole ? parseStretch(out, 0, system) : Outcome<RunStretch>(RunStretch{});
    const bool same =
        whole && read && read->name == s.name && figuresText(*read, system) == figures;
    return same ? out : inQuotes(s.name) + ' ' + figures;
}

} // namespace

std::string wayText(const std::vector<RunStretch>& stretches, UnitSystem system) {
    std::string out;
    for (const auto& s : stretches)
        out += (out.empty() ? "" : "; ") + stretchText(s, system);
    return out;
}

std::vector<RunStretch> retypedWay(std::vector<RunStretch> typed,
                                   const std::vector<RunStretch>& kept, UnitSystem system) {
    std::vector<bool> done(typed.size());
    std::vector<bool> used(kept.size());
    const auto takeEach = [&](auto same, auto how) {
        for (std::size_t i = 0; i < typed.size(); ++i)
            for (std::size_t k = 0; k < kept.size() && !done[i]; ++k)
                if (!used[k] && same(typed[i], kept[k])) {
                    how(typed[i], kept[k]);
                    done[i] = used[k] = true;
                }
    };
    takeEach(
        [&](const RunStretch& a, const RunStretch& b) {
            return a.name == b.name && figuresText(a, system) == figuresText(b, system);
        },
        [](RunStretch& now, const RunStretch& was) { now = was; });
    takeEach([](const RunStretch& a, const RunStretch& b) { return a.name == b.name; },
             [&](RunStretch& now, const RunStretch& was) {
                 now.id = was.id;
                 now.order = was.order;
                 if (lengthText(now, system) == lengthText(was, system))
                     now.lengthM = was.lengthM;
                 if (temperatureText(now, system) == temperatureText(was, system))
                     now.temperatureC = was.temperatureC;
             });
    return typed;
}

LabelMaker::LabelMaker(const Job& job) {
    for (const auto& run : job.runs)
        taken_.insert(run.label);
}

std::string LabelMaker::next(const std::string& label) {
    std::size_t stemEnd = label.size();
    while (stemEnd > 0 && isDigit(label[stemEnd - 1]))
        --stemEnd;
    const std::size_t digits = label.size() - stemEnd;
    // A row of digits too long to count on gets a number behind it.
    const bool counts = digits <= 9;
    const std::string stem = counts ? label.substr(0, stemEnd) : label + "-";
    const std::size_t width = counts ? std::max<std::size_t>(digits, 2) : 2;
    long& last = last_[stem];
    if (counts && digits > 0)
        last = std::max(last, std::strtol(label.c_str() + stemEnd, nullptr, 10));
    for (;;) {
        std::string tail = std::to_string(++last);
        if (tail.size() < width)
            tail.insert(0, width - tail.size(), '0');
        if (taken_.insert(stem + tail).second)
            return stem + tail;
    }
}

std::string nextLabel(const Job& job, const std::string& label) {
    return LabelMaker(job).next(label);
}

void fitOut(Run& run, const Catalogue& catalogue) {
    run.cords.clear();
    run.connections.clear();
    const Cable* cable = catalogue.cable(run.cableId);
    if (cable == nullptr)
        return;
    if (cable->kind == CableKind::Balanced)
        run.cords = {{End::Near, cable->id, 3, false}, {End::Far, cable->id, 3, false}};
    if (const Connection* connection = usualConnection(catalogue, *cable))
        run.connections = {{End::Near, connection->id, 0}, {End::Far, connection->id, 0}};
}

namespace {

/// The kind that the letters behind the dash of a label name: "OF-R01" is a reader's run. nullptr:
/// none that is known.
const RunKind* kindByLabel(const std::string& label, const Catalogue& catalogue) {
    const auto dash = label.find('-');
    if (dash == std::string::npos)
        return nullptr;
    std::string letters = label.substr(dash + 1);
    letters.erase(std::find_if(letters.begin(), letters.end(), isDigit), letters.end());
    const auto it = std::find_if(
        catalogue.site.kinds.begin(), catalogue.site.kinds.end(),
        [&](const RunKind& kind) { return !letters.empty() && kind.letter == letters; });
    return it == catalogue.site.kinds.end() ? nullptr : &*it;
}
/// By its service; every run is of no kind.
bool isOfKind(const Run& run, const RunKind* kind) {
    return kind == nullptr || std::find(kind->services.begin(), kind->services.end(),
                                        run.serviceId) != kind->services.end();
}

} // namespace

std::optional<Edit> namedRoom(std::string_view text, const Job& job) {
    const auto words = tokens(text);
    if (words.size() < 2 || startsNumber(words[1].text)) // "SL 40 m" lacks its number
        return std::nullopt;
    for (const auto& room : job.rooms)
        if (room.letters == words[0].text) {
            Room after = room;
            after.name = std::string(text.substr(words[1].at));
            after.name.erase(after.name.find_last_not_of(" \t") + 1);
            return Edit{"name room " + room.letters,
                        put(std::optional(room), std::optional(after))};
        }
    return std::nullopt;
}

Outcome<NewRun> parseNewRun(std::string_view text, const Job& job, const Catalogue& catalogue,
                            UnitSystem system) {
    const Sentence cure = sentence(
        {"cure.type-run",
         "Type a name, then length, cable and service in any order: SL-D03 61.5 m cat6a-utp 10g"});
    const auto words = tokens(text);
    if (words.empty())
        return bad("new run", 0, {"typed.nothing-typed", "nothing is typed"}, cure);
    NewRun out;
    Run& run = out.run;
    run.label = words[0].text;
    if (job.runLabelled(run.label) != nullptr)
        return bad("new run", 0,
                   sentence({"run.run-already", "there is a run “{0}” already"}, run.label),
                   sentence({"cure.take", "Take {0}"}, nextLabel(job, run.label)));
    const std::string letters = run.label.substr(0, run.label.find('-'));
    const auto room = std::find_if(job.rooms.begin(), job.rooms.end(),
                                   [&](const Room& r) { return r.letters == letters; });
    if (room == job.rooms.end()) {
        const int count = static_cast<int>(job.rooms.size());
        // In two copies the letters mean the same room.
        std::size_t n = 0;
        while (byId(job.rooms, derivedId(Kind::Room, letters, n)) != nullptr)
            ++n;
        out.room =
            Room{derivedId(Kind::Room, letters, n), letters, "Room " + letters, count % 10, count};
    }
    run.roomId = out.room ? out.room->id : room->id;
    const std::string label = run.label;
    const RunKind* kind = kindByLabel(label, catalogue);
    const auto lastOf = [&](bool here) {
        const auto it = std::find_if(job.runs.rbegin(), job.runs.rend(), [&](const Run& r) {
            return (!here || r.roomId == run.roomId) && isOfKind(r, kind);
        });
        return it == job.runs.rend() ? nullptr : &*it;
    };
    const Run* like = lastOf(true);
    const Run* elsewhere = like == nullptr && kind != nullptr ? lastOf(false) : nullptr;
    if (like != nullptr) {
        run = *like;
        run.label = label;
        run.note.clear();
        PortFinder(job).moveToFree(run);
        run.near.text.clear();
        run.far.text.clear();
        run.leftCoiled = false;
        run.order = like->order + 1;
    } else {
        run.stretches = {{}};
        run.order = static_cast<int>(job.runs.size());
        run.cableId = elsewhere != nullptr ? elsewhere->cableId
                      : kind != nullptr    ? kind->cableId
                                           : "cat6a-utp";
        run.serviceId = elsewhere != nullptr ? elsewhere->serviceId
                        : kind != nullptr    ? kind->serviceId
                                             : "10g";
        fitOut(run, catalogue);
        if (elsewhere != nullptr) {
            run.cords = elsewhere->cords;
            run.connections = elsewhere->connections;
        }
    }
    run = likeOf(std::move(run));
    for (std::size_t i = 1; i < words.size(); ++i) {
        const std::string& word = words[i].text;
        if (catalogue.cable(word) != nullptr) {
            run.cableId = word;
            fitOut(run, catalogue);
        } else if (catalogue.service(word) != nullptr) {
            run.serviceId = word;
        } else {
            std::string value = word;
            if (i + 1 < words.size() && isUnit(words[i + 1].text))
                value += " " + words[++i].text;
            const auto length = parseLengthM(value, system);
            if (!length)
                return bad(
                    "new run", words[i].at,
                    sentence({"run.no-length-cable", "“{0}” is no length, cable or service"}, word),
                    cure);
            run = withLength(run, *length);
            // What is typed counts: this run is not its neighbour's way again.
            run.near = run.far = {};
            run.vias.clear();
            run.followsPlan = false;
        }
    }
    return out;
}

} // namespace burin
