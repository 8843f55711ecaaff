#include "core/pull/marks.h"
#include "core/units/render.h"
#include <algorithm>
#include <cctype>
#include <charconv>
#include <string>

namespace burin {
namespace {

constexpr Wording mark{"marks.mark", "mark {0}"};
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
                                "the start lies in what was pulled already: it ends at {0} now"};
constexpr Wording moreThanHeld{"marks.more-than-held", "that is {0}, and the box had {1} left"};

double metresPer(MarkUnit unit) {
    return unit == MarkUnit::Feet ? metresPerFoot : 1;
}
const char* nameOf(MarkUnit unit) {
    return unit == MarkUnit::Feet ? "feet" : "metres";
}
std::string printed(int value) {
    const std::string digits = std::to_string(value);
    return std::string(digits.size() < 4 ? 4 - digits.size() : 0, '0') + digits;
}
/// Marks from one to another, the way the box counts.
int onward(const MarkedBox& box, int from, int to) {
    const int by = box.up ? to - from : from - to;
    return (by % marksAround + marksAround) % marksAround;
}
/// So many marks of the box in metres.
double metres(const MarkedBox& box, int count) {
    return count * metresPer(box.unit);
}
tl::unexpected<Fault> wrong(int start, int end, const Sentence& what, const Wording& cure) {
    return refuse(faultOf(sentence(bothMarks, asText(printed(start)), asText(printed(end))), what,
                          sentence(cure)));
}

} // namespace

Outcome<int> readMark(std::string_view text, MarkUnit unit) {
    const std::string_view given = text;
    const auto fail = [&](const Sentence& what, const Wording& cure) {
        return refuse(faultOf(sentence(mark, asText(std::string(given))), what, sentence(cure)));
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

double leftM(const MarkedBox& box) {
    return std::max(0.0, box.heldM - metres(box, onward(box, box.freeEnd, freeEndNow(box))));
}

int freeEndNow(const MarkedBox& box) {
    return box.pulled.empty() ? box.freeEnd : box.pulled.back().end;
}

Outcome<MarkedLength> pulledLength(const MarkedBox& box, int start, int end) {
    if (start == end)
        return wrong(start, end, sentence(same), lookAgain);
    const int now = freeEndNow(box);
    const double left = leftM(box);
    // A reading may be off by a spacing, so what is left may as well.
    const double doubt = box.spacing * metresPer(box.unit);
    const double waste = metres(box, onward(box, now, start));
    const double length = metres(box, onward(box, start, end));
    const double back = metres(box, onward(box, end, start));
    if (length > left + doubt && back <= left + doubt)
        return wrong(start, end, sentence(against, asText(box.up ? "up" : "down")), swapped);
    if (waste > left + doubt)
        return wrong(start, end, sentence(pulledAlready, asText(printed(now))), lookAgain);
    if (waste + length > left + doubt)
        return wrong(start, end, sentence(moreThanHeld, asMetres(waste + length), asMetres(left)),
                     lookAgain);
    return MarkedLength{length, 2 * doubt};
}

} // namespace burin
