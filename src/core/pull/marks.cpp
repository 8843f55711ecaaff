#include "core/pull/marks.h"
#include "core/units/render.h"
#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <string>

namespace burin {
namespace {

constexpr Wording theMark{"marks.mark", "mark {0}"};
constexpr Wording bothMarks{"marks.marks", "marks {0} and {1}"};
constexpr Wording noMark{"marks.no-mark", "“{0}” is no mark"};
constexpr Wording typeMark{"marks.type-mark", "Type it as it is printed: 0412, 0612 FT or 188M"};
constexpr Wording otherUnit{"marks.other-unit", "it is in {0}, and this box counts in {1}"};
constexpr Wording lookAgain{"marks.look-again", "Look at the jacket and the box again"};
constexpr Wording against{"marks.against",
                          "they run against the way this box counts, which is {0}"};
constexpr Wording swapped{"marks.swapped", "Start and end may be swapped, or one of them misread"};
constexpr Wording same{"marks.same", "both ends have the same mark"};
constexpr Wording pulledAlready{"marks.pulled-already",
                                "that lies in what was pulled already, {0} to {1}"};
constexpr Wording notOfBox{"marks.not-of-box",
                           "box {0} never had such a mark: it came with {1} and held {2}"};
constexpr Wording moreThanHeld{"marks.more-than-held", "that is {0}, and {1} were left from there"};

double metresPer(MarkUnit unit) {
    return unit == MarkUnit::Feet ? metresPerFoot : 1;
}
const char* nameOf(MarkUnit unit) {
    return unit == MarkUnit::Feet ? "feet" : "metres";
}
/// Marks from one to another, the way the box counts.
int onward(const Box& box, int from, int to) {
    const int by = box.countsUp ? to - from : from - to;
    return (by % marksAround + marksAround) % marksAround;
}
tl::unexpected<Fault> wrong(const MarkedPiece& piece, const Sentence& what, const Wording& cure) {
    return refuse(sentence(bothMarks, asText(markText(piece.start)), asText(markText(piece.end))),
                  what, sentence(cure));
}

} // namespace

Outcome<int> readMark(std::string_view text, MarkUnit unit) {
    const std::string_view given = text;
    const auto fail = [&](const Sentence& what, const Wording& cure) {
        return refuse(sentence(theMark, asText(std::string(given))), what, sentence(cure));
    };
    const auto isBlank = [](char c) { return c == ' '; };
    while (!text.empty() && isBlank(text.front()))
        text.remove_prefix(1);
    int value = 0;
    const auto read = std::from_chars(text.data(), text.data() + text.size(), value);
    const auto digits = static_cast<std::size_t>(read.ptr - text.data());
    if (read.ec != std::errc() || value < 0 || value >= marksAround || text.front() == '-')
        return fail(sentence(noMark, asText(std::string(given))), typeMark);
    std::string rest;
    for (const char c : text.substr(digits))
        if (!isBlank(c) && c != '.')
            rest += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    const bool feet = rest == "FT" || rest == "F" || rest == "FEET" || rest == "'";
    const bool metric = rest == "M";
    if (!rest.empty() && !feet && !metric)
        return fail(sentence(noMark, asText(std::string(given))), typeMark);
    const MarkUnit printedIn = feet ? MarkUnit::Feet : MarkUnit::Metres;
    if (!rest.empty() && printedIn != unit)
        return fail(sentence(otherUnit, asText(nameOf(printedIn)), asText(nameOf(unit))),
                    lookAgain);
    return value;
}

std::string markText(int value) {
    const std::string digits = std::to_string(value);
    return std::string(digits.size() < 4 ? 4 - digits.size() : 0, '0') + digits;
}

double markAtM(const Box& box, int mark) {
    return onward(box, box.freeMark, mark) * metresPer(box.markUnit);
}

int markAt(const Box& box, double metres) {
    const int by = static_cast<int>(std::lround(metres / metresPer(box.markUnit))) % marksAround;
    return (box.freeMark + (box.countsUp ? by : -by) + 2 * marksAround) % marksAround;
}

double spacingM(const Box& box) {
    return box.spacing * metresPer(box.markUnit);
}

double lengthM(const Box& box, const MarkedPiece& piece) {
    return onward(box, piece.start, piece.end) * metresPer(box.markUnit);
}

namespace {

/// Where the last piece ends, m from the end as it came.
double usedM(const Box& box, const std::vector<MarkedPiece>& pulled) {
    double used = 0;
    for (const auto& piece : pulled)
        used = std::max(used, markAtM(box, piece.start) + lengthM(box, piece));
    return used;
}

} // namespace

double leftM(const Box& box, const std::vector<MarkedPiece>& pulled) {
    return std::max(0.0, box.heldM - usedM(box, pulled));
}

int freeMark(const Box& box, const std::vector<MarkedPiece>& pulled) {
    return markAt(box, usedM(box, pulled));
}

Outcome<MarkedLength> pulledLength(const Box& box, const std::vector<MarkedPiece>& pulled,
                                   const MarkedPiece& piece) {
    if (piece.start == piece.end)
        return wrong(piece, sentence(same), lookAgain);
    // A reading may be off by a spacing, so what is left may as well.
    const double doubt = spacingM(box);
    const double held = box.heldM + doubt;
    const double length = lengthM(box, piece);
    const double from = markAtM(box, piece.start);
    if (length > held && lengthM(box, {piece.end, piece.start}) <= held)
        return wrong(piece, sentence(against, asText(box.countsUp ? "up" : "down")), swapped);
    if (from > held)
        return wrong(piece,
                     sentence(notOfBox, asText(box.name), asText(markText(box.freeMark)),
                              asMetres(box.heldM)),
                     lookAgain);
    for (const auto& other : pulled) {
        const double otherFrom = markAtM(box, other.start);
        if (from < otherFrom + lengthM(box, other) - doubt && from + length > otherFrom + doubt)
            return wrong(
                piece,
                sentence(pulledAlready, asText(markText(other.start)), asText(markText(other.end))),
                lookAgain);
    }
    if (from + length > held)
        return wrong(
            piece,
            sentence(moreThanHeld, asMetres(length), asMetres(std::max(0.0, box.heldM - from))),
            lookAgain);
    return MarkedLength{length, 2 * doubt};
}

} // namespace burin
