#include "core/edit/box_line.h"
#include "core/base/ids.h"
#include "core/base/text.h"
#include "core/pull/marks.h"
#include "core/site/jacket_print.h"
#include "core/units/render.h"
#include "core/units/short_figure.h"
#include <algorithm>
#include <cctype>
#include <cmath>

namespace burin {
namespace {

constexpr Wording boxLine{"box.line", "box"};
constexpr Wording writeBox{"box.write", "Write for example: A1 cat6-utp blue 305 m, 2 ft marks up, "
                                        "0412"};
constexpr Wording noName{"box.no-name", "it has no name"};
constexpr Wording noCable{"box.no-cable", "no cable is named"};
constexpr Wording noFreeMark{"box.no-mark", "the mark at its free end is missing"};
constexpr Wording nameTaken{"box.name-taken", "there is a box {0} already"};
constexpr Wording twoLengths{"box.two-lengths", "“{0}” is a second length"};
constexpr Wording twoMarks{"box.two-marks", "“{0}” is a second mark at its free end"};
constexpr Wording odd{"box.odd", "“{0}” was not understood"};
constexpr Wording listCables{"box.list-cables",
                             "Name a cable by its id: burin-cli cables lists them"};
constexpr Wording otherPrint{"pull.other-print", "the print is of {0}, not of {1}"};
constexpr Wording manyPrints{"pull.many-prints", "the print fits {0}"};
constexpr Wording nameCable{"pull.name-cable", "Name one of them before the print"};

struct Word {
    std::string text;
    int column = 1;
};
std::vector<Word> wordsIn(std::string_view line) {
    std::vector<Word> out;
    const auto parts = [](char c) { return c == ' ' || c == ',' || c == '\t'; };
    for (std::size_t i = 0; i < line.size();) {
        while (i < line.size() && parts(line[i]))
            ++i;
        const std::size_t begin = i;
        while (i < line.size() && !parts(line[i]))
            ++i;
        if (i > begin)
            out.push_back(
                {std::string(line.substr(begin, i - begin)), static_cast<int>(begin) + 1});
    }
    return out;
}
bool isNumber(const std::string& text) {
    return !text.empty() && std::isdigit(static_cast<unsigned char>(text.front())) != 0;
}
std::optional<MarkUnit> unitOf(const std::string& word) {
    const std::string low = lower(word);
    if (low == "ft" || low == "feet" || low == "'")
        return MarkUnit::Feet;
    if (low == "m" || low == "metres")
        return MarkUnit::Metres;
    return std::nullopt;
}
/// A number with its unit apart or behind it, "305 m" or "305m"; none has no unit.
struct Measure {
    std::string number;
    std::optional<MarkUnit> unit;
    std::size_t words = 1;
};

class BoxReader {
public:
    BoxReader(std::string_view line, const Job& job, const Catalogue& catalogue,
              std::string exceptId = {})
        : line_(line), words_(wordsIn(line)), job_(job), catalogue_(catalogue),
          exceptId_(std::move(exceptId)) {
        box_.heldM = job.info.pull.newBoxM;
    }
    Outcome<Box> read() {
        std::size_t i = 0;
        if (i < words_.size())
            if (const auto kind = boxKindWords.find(lower(words_[i].text))) {
                box_.kind = *kind;
                ++i;
            }
        if (i >= words_.size())
            return fail({}, sentence(noName), writeBox);
        box_.name = words_[i++].text;
        for (const auto& other : job_.boxes)
            if (other.name == box_.name && other.id != exceptId_)
                return fail(words_[i - 1], sentence(nameTaken, asText(box_.name)), writeBox);
        while (i < words_.size())
            if (lower(words_[i].text) == "print")
                break;
            else if (const auto used = one(i))
                i += *used;
            else
                return refuse(used.error());
        if (i < words_.size())
            if (const auto seen = printed(words_[i]); !seen)
                return refuse(seen.error());
        if (box_.cableId.empty())
            return fail({}, sentence(noCable), listCables);
        if (!markSeen_)
            return fail({}, sentence(noFreeMark), writeBox);
        return std::move(box_);
    }

private:
    tl::unexpected<Fault> fail(const Word& at, const Sentence& what, const Wording& cure) const {
        Fault fault = Fault{sentence(boxLine), 0, 0, what, sentence(cure)};
        fault.line = at.text.empty() ? 0 : 1;
        fault.column = at.text.empty() ? 0 : at.column;
        return refuse(std::move(fault));
    }
    [[nodiscard]] std::string next(std::size_t i) const {
        return i < words_.size() ? lower(words_[i].text) : std::string();
    }
    [[nodiscard]] Measure measure(std::size_t i) const {
        Measure out;
        const std::string& text = words_[i].text;
        const auto digits = text.find_first_not_of("0123456789.");
        out.number = text.substr(0, digits);
        if (digits != std::string::npos) {
            out.unit = unitOf(text.substr(digits));
        } else if (i + 1 < words_.size()) {
            out.unit = unitOf(words_[i + 1].text);
            out.words = out.unit ? 2 : 1;
        }
        return out;
    }
    /// How many words were understood, from the one at `i`.
    Outcome<std::size_t> one(std::size_t i) {
        const std::string word = lower(words_[i].text);
        if (isNumber(word))
            return number(i);
        if (word == "up" || word == "down") {
            box_.countsUp = word == "up";
            return 1;
        }
        if (word == "mark" || word == "marks")
            return 1;
        if (word == "gone") {
            box_.gone = true;
            return 1;
        }
        if (catalogue_.cable(words_[i].text) != nullptr && box_.cableId.empty()) {
            box_.cableId = words_[i].text;
            return 1;
        }
        const bool word1 = std::all_of(word.begin(), word.end(), [](char c) {
            return std::isalpha(static_cast<unsigned char>(c)) != 0 || (c & 0x80) != 0;
        });
        if (word1 && box_.colour.empty()) {
            box_.colour = words_[i].text;
            return 1;
        }
        return fail(words_[i], sentence(odd, asText(words_[i].text)),
                    box_.cableId.empty() ? listCables : writeBox);
    }
    /// What its jacket says, behind the word "print": its cable and the mark at its free end, where
    /// the line did not.
    Outcome<void> printed(const Word& word) {
        const auto seen = readJacketPrint(
            line_.substr(static_cast<std::size_t>(word.column - 1) + word.text.size()), catalogue_);
        if (!seen) {
            Fault fault = seen.error();
            fault.line = 1;
            fault.column = word.column;
            return refuse(std::move(fault));
        }
        std::vector<std::string> fits = seen->cableIds;
        const auto names = [&] {
            std::string out;
            for (const auto& id : fits)
                out += (out.empty() ? "" : ", ") + id;
            return asText(out);
        };
        if (!box_.cableId.empty() && !fits.empty() &&
            std::find(fits.begin(), fits.end(), box_.cableId) == fits.end())
            return fail(word, sentence(otherPrint, names(), asText(box_.cableId)), writeBox);
        if (box_.cableId.empty() && fits.size() > 1) {
            // Of several that are printed alike, the one the job asks for.
            std::erase_if(fits, [&](const std::string& id) {
                return std::none_of(job_.runs.begin(), job_.runs.end(),
                                    [&](const Run& run) { return run.cableId == id; });
            });
            if (fits.size() != 1) {
                fits = seen->cableIds;
                return fail(word, sentence(manyPrints, names()), nameCable);
            }
        }
        if (box_.cableId.empty() && !fits.empty())
            box_.cableId = fits.front();
        if (seen->markM && !markSeen_) {
            box_.markUnit = seen->markInFeet ? MarkUnit::Feet : MarkUnit::Metres;
            box_.freeMark = static_cast<int>(
                std::lround(*seen->markM / (seen->markInFeet ? metresPerFoot : 1)));
            markSeen_ = true;
        }
        return {};
    }
    Outcome<std::size_t> number(std::size_t i) {
        const Measure m = measure(i);
        const std::string behind = next(i + m.words);
        const std::string& text = words_[i].text;
        if (m.unit && (behind == "mark" || behind == "marks")) {
            const auto spacing = parseNumber(m.number, "spacing");
            if (!spacing || *spacing < 0.1 || *spacing > 100)
                return fail(words_[i], sentence(odd, asText(text)), writeBox);
            box_.spacing = *spacing;
            box_.markUnit = *m.unit;
            return m.words + 1;
        }
        // A mark as it is printed: four figures, or a number with no unit behind it.
        const bool printed = m.number.size() == 4 && m.number.find('.') == std::string::npos;
        if (!m.unit || (printed && lengthSeen_) || m.number.front() == '0') {
            const auto mark = readMark(m.number, MarkUnit::Feet);
            if (!mark)
                return fail(words_[i], sentence(odd, asText(text)), writeBox);
            if (markSeen_)
                return fail(words_[i], sentence(twoMarks, asText(text)), writeBox);
            box_.freeMark = *mark;
            markSeen_ = true;
            if (m.unit)
                box_.markUnit = *m.unit;
            return m.words;
        }
        if (lengthSeen_)
            return fail(words_[i], sentence(twoLengths, asText(text)), writeBox);
        const auto length = parseLengthM(m.number + (*m.unit == MarkUnit::Feet ? " ft" : " m"));
        if (!length || *length < 1)
            return fail(words_[i], sentence(odd, asText(text)), writeBox);
        box_.heldM = *length;
        lengthSeen_ = true;
        return m.words;
    }

    std::string_view line_;
    std::vector<Word> words_;
    const Job& job_;
    const Catalogue& catalogue_;
    std::string exceptId_;
    Box box_;
    bool markSeen_ = false, lengthSeen_ = false;
};

} // namespace

Outcome<Box> readBox(std::string_view text, const Job& job, const Catalogue& catalogue) {
    auto out = BoxReader(text, job, catalogue).read();
    if (out) {
        out->id = newId();
        for (const auto& other : job.boxes)
            out->order = std::max(out->order, other.order + 1);
    }
    return out;
}

std::string boxText(const Box& box) {
    return std::string(box.kind == BoxKind::Reel ? "reel " : "") + box.name + " " + box.cableId +
           (box.colour.empty() ? "" : " " + box.colour) + " " + shortFigure(box.heldM, 2) + " m, " +
           shortFigure(box.spacing, 2) + " " + std::string(markUnitWords[box.markUnit]) +
           " marks " + (box.countsUp ? "up, " : "down, ") + markText(box.freeMark) +
           (box.gone ? " gone" : "");
}

Outcome<Edit> retypedBox(std::string_view text, const std::string& boxId, const Job& job,
                         const Catalogue& catalogue) {
    const Box* before = byId(job.boxes, boxId);
    auto after = BoxReader(text, job, catalogue, boxId).read();
    if (!after)
        return refuse(after.error());
    if (before == nullptr)
        return Edit{};
    after->id = before->id;
    after->order = before->order;
    after->note = before->note;
    return Edit{"box " + before->name, put(std::optional(*before), std::optional(*after))};
}

} // namespace burin
