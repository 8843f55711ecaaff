#include "core/pull/stock.h"
#include "core/base/lookup.h"
#include "core/units/render.h"
#include <algorithm>

namespace burin {
namespace {

constexpr Wording box{"stock.box", "box {0}"};
constexpr Wording noBox{"stock.no-box", "the job has no such box"};
constexpr Wording giveBox{"stock.give-box", "Say first which box it comes from"};

constexpr Wording lengthOf{"stock.length-of", "length of {0}"};
constexpr Wording asMarked{"stock.as-marked",
                           "it is pulled, and as long as its marks {0} and {1} say"};
constexpr Wording changeMarks{"stock.change-marks",
                              "Change its marks in Pull, or take them away there"};

MarkedPiece marksOf(const Run& run) {
    return {run.piece.startMark.value_or(0), run.piece.endMark.value_or(0)};
}

} // namespace

std::vector<MarkedPiece> BoxStock::marks() const {
    std::vector<MarkedPiece> out;
    out.reserve(pieces.size());
    for (const auto& piece : pieces)
        out.push_back(piece.marks);
    return out;
}

std::vector<BoxStock> stockOf(const Job& job) {
    std::vector<BoxStock> out;
    std::map<std::string_view, std::size_t> at;
    for (const auto& one : job.boxes) {
        at[one.id] = out.size();
        out.push_back({one.id, {}, one.heldM, one.freeMark});
    }
    for (const auto& run : job.runs) {
        const auto it = at.find(run.piece.boxId);
        if (!run.piece.isPulled() || it == at.end())
            continue;
        const Box& from = job.boxes[it->second];
        const MarkedPiece marks = marksOf(run);
        const double start = markAtM(from, marks.start);
        out[it->second].pieces.push_back({run.id, marks, start, start + lengthM(from, marks)});
    }
    for (std::size_t i = 0; i < out.size(); ++i) {
        auto& stock = out[i];
        std::sort(stock.pieces.begin(), stock.pieces.end(),
                  [](const BoxPiece& a, const BoxPiece& b) { return a.fromM < b.fromM; });
        const auto marks = stock.marks();
        stock.leftM = leftM(job.boxes[i], marks);
        stock.freeMark = freeMark(job.boxes[i], marks);
    }
    return out;
}

std::optional<MarkedLength> pulledOf(const Job& job, const Run& run) {
    const Box* from = run.piece.isPulled() ? byId(job.boxes, run.piece.boxId) : nullptr;
    if (from == nullptr)
        return std::nullopt;
    return MarkedLength{lengthM(*from, marksOf(run)), 2 * spacingM(*from)};
}

bool hasMarks(const Run& run) {
    return run.piece.startMark || run.piece.endMark;
}
bool isToldApart(const Job& job, const Run& run) {
    return job.info.pull.marking == MarkingSchool::NumberBoth || !run.piece.tonedOn.empty() ||
           job.isMeasured(run.id);
}

double cutOffM(const JobInfo& info, const Run& run) {
    return run.piece.cutM.value_or(2 * info.pull.cutM);
}

std::optional<double> linkByMarksM(const Job& job, const Run& run) {
    const auto pulled = pulledOf(job, run);
    if (!pulled)
        return std::nullopt;
    return std::max(0.0, pulled->lengthM - cutOffM(job.info, run));
}

std::optional<Fault> fixedByMarks(const Run& run) {
    if (!run.piece.isPulled())
        return std::nullopt;
    return Fault{sentence(lengthOf, asText(run.label)), 0, 0,
                 sentence(asMarked, asText(markText(*run.piece.startMark)),
                          asText(markText(*run.piece.endMark))),
                 sentence(changeMarks)};
}

Outcome<MarkedLength> checkMarks(const Job& job, const std::string& runId, const std::string& boxId,
                                 const MarkedPiece& piece) {
    const Box* from = byId(job.boxes, boxId);
    if (from == nullptr)
        return refuse(sentence(box, asText(boxId)), sentence(noBox), sentence(giveBox));
    std::vector<MarkedPiece> others;
    for (const auto& run : job.runs)
        if (run.id != runId && run.piece.isPulled() && run.piece.boxId == boxId)
            others.push_back(marksOf(run));
    return pulledLength(*from, others, piece);
}

} // namespace burin
