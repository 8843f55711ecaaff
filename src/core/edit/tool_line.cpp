#include "core/edit/tool_line.h"
#include "core/base/ids.h"
#include "core/base/lookup.h"
#include "core/base/moment.h"
#include "core/base/text.h"
#include "core/units/render.h"
#include <algorithm>

namespace burin {
namespace {

constexpr Wording toolTyped{"tool.line", "tool"};
constexpr Wording writeTool{"tool.write", "Write for example: stripper S1, blades 2026-09-02, 90 "
                                          "days, 300 ends"};
constexpr Wording noToolKind{"tool.no-kind", "“{0}” is no kind of tool"};
constexpr Wording nameToolKind{"tool.name-kind", "Begin with one of {0}"};
constexpr Wording noToolName{"tool.no-name", "it has no name"};
constexpr Wording toolNameTaken{"tool.name-taken", "there is a tool {0} already"};
constexpr Wording noToolDay{"tool.no-day", "“{0}” is no date"};
constexpr Wording oddToolPart{"tool.odd", "“{0}” was not understood"};

/// A part of the line without the blanks around it.
struct TypedPart {
    std::string text;
    int column = 1;
};
std::vector<TypedPart> typedPartsOf(std::string_view line) {
    std::vector<TypedPart> out;
    std::size_t begin = 0;
    while (begin <= line.size()) {
        const std::size_t end = std::min(line.find(',', begin), line.size());
        const std::string_view part = trimmed(line.substr(begin, end - begin));
        if (!part.empty())
            out.push_back({std::string(part), static_cast<int>(part.data() - line.data()) + 1});
        begin = end + 1;
    }
    return out;
}

/// The last of its days; empty: there is none.
std::string lastDay(const std::vector<std::string>& days) {
    const auto it = std::max_element(days.begin(), days.end());
    return it == days.end() ? std::string() : *it;
}

class ToolReader {
public:
    /// `known`: what the line does not say.
    ToolReader(std::string_view line, const Job& job, HandTool known = {})
        : parts_(typedPartsOf(line)), job_(job), tool_(std::move(known)) {
        tool_.gone = false;
    }
    Outcome<HandTool> read() {
        if (parts_.empty())
            return fail({}, sentence(noToolName), sentence(writeTool));
        const TypedPart& head = parts_.front();
        const auto blank = std::min(head.text.find(' '), head.text.size());
        const auto kind = toolKindWords.find(head.text.substr(0, blank));
        if (!kind) {
            std::string kinds;
            for (const auto word : toolKindWords.words)
                kinds += (kinds.empty() ? "" : ", ") + std::string(word);
            return fail(head, sentence(noToolKind, asText(head.text.substr(0, blank))),
                        sentence(nameToolKind, asText(kinds)));
        }
        tool_.kind = *kind;
        const auto name = head.text.find_first_not_of(' ', blank);
        if (name == std::string::npos)
            return fail(head, sentence(noToolName), sentence(writeTool));
        tool_.name = head.text.substr(name);
        for (const auto& other : job_.tools)
            if (other.name == tool_.name && other.id != tool_.id)
                return fail(head, sentence(toolNameTaken, asText(tool_.name)), sentence(writeTool));
        for (std::size_t i = 1; i < parts_.size(); ++i)
            if (const auto good = one(parts_[i]); !good)
                return refuse(good.error());
        return std::move(tool_);
    }

private:
    tl::unexpected<Fault> fail(const TypedPart& at, const Sentence& what,
                               const Sentence& cure) const {
        Fault fault = Fault{sentence(toolTyped), 0, 0, what, cure};
        fault.line = at.text.empty() ? 0 : 1;
        fault.column = at.text.empty() ? 0 : at.column;
        return refuse(std::move(fault));
    }
    Outcome<void> one(const TypedPart& part) {
        if (part.text == "gone") {
            tool_.gone = true;
            return {};
        }
        const auto blank = part.text.find(' ');
        const std::string first = part.text.substr(0, blank);
        const std::string rest(
            trimmed(std::string_view(part.text).substr(std::min(blank, part.text.size()))));
        if (first == "blades" || first == "gauge") {
            if (!calendarDay(rest))
                return fail(part, sentence(noToolDay, asText(rest)), sentence(writeTool));
            gauge_ = first == "gauge";
            // In place of the last that is known: that is what the line had.
            auto& days = gauge_ ? tool_.gaugedOn : tool_.bladesOn;
            std::erase(days, lastDay(days));
            days.insert(std::upper_bound(days.begin(), days.end(), rest), rest);
            return {};
        }
        const bool digits =
            !first.empty() && first.size() <= 6 &&
            std::all_of(first.begin(), first.end(), [](char c) { return c >= '0' && c <= '9'; });
        const int count = digits ? std::stoi(first) : 0;
        if (count > 0 && count <= 10000 && (rest == "days" || rest == "day" || rest == "d")) {
            (gauge_ ? tool_.gaugeDays : tool_.bladeDays) = count;
            return {};
        }
        if (count > 0 && (rest == "ends" || rest == "end")) {
            tool_.bladeEnds = count;
            return {};
        }
        return fail(part, sentence(oddToolPart, asText(part.text)), sentence(writeTool));
    }

    std::vector<TypedPart> parts_;
    const Job& job_;
    HandTool tool_;
    bool gauge_ = false; ///< days are those of its gauge
};

Edit withDay(const Job& job, const std::string& toolId, const std::string& day,
             std::vector<std::string> HandTool::*days, const char* what) {
    Edit out;
    const HandTool* before = byId(job.tools, toolId);
    if (before == nullptr)
        return out;
    out.title = what + (" " + before->name);
    HandTool after = *before;
    auto& list = after.*days;
    if (std::find(list.begin(), list.end(), day) == list.end())
        list.insert(std::upper_bound(list.begin(), list.end(), day), day);
    out.changes = put(std::optional(*before), std::optional(after));
    return out;
}

} // namespace

Outcome<HandTool> readTool(std::string_view text, const Job& job) {
    auto out = ToolReader(text, job).read();
    if (out) {
        out->id = newId();
        for (const auto& other : job.tools)
            out->order = std::max(out->order, other.order + 1);
    }
    return out;
}

Outcome<Edit> retypedTool(std::string_view text, const std::string& toolId, const Job& job) {
    const HandTool* before = byId(job.tools, toolId);
    if (before == nullptr)
        return Edit{};
    auto tool = ToolReader(text, job, *before).read();
    if (!tool)
        return refuse(tool.error());
    return Edit{"tool " + tool->name, put(std::optional(*before), std::optional(*tool))};
}

std::string toolText(const HandTool& tool) {
    const HandTool usual;
    std::string out = std::string(toolKindWords[tool.kind]) + " " + tool.name;
    if (!tool.bladesOn.empty())
        out += ", blades " + lastDay(tool.bladesOn);
    if (tool.bladeDays != usual.bladeDays)
        out += ", " + std::to_string(tool.bladeDays) + " days";
    if (tool.bladeEnds != usual.bladeEnds)
        out += ", " + std::to_string(tool.bladeEnds) + " ends";
    if (!tool.gaugedOn.empty()) {
        out += ", gauge " + lastDay(tool.gaugedOn);
        if (tool.gaugeDays != usual.gaugeDays)
            out += ", " + std::to_string(tool.gaugeDays) + " days";
    }
    return tool.gone ? out + ", gone" : out;
}

Edit newBlades(const Job& job, const std::string& toolId, const std::string& day) {
    return withDay(job, toolId, day, &HandTool::bladesOn, "new blades in");
}
Edit gaugeChecked(const Job& job, const std::string& toolId, const std::string& day) {
    return withDay(job, toolId, day, &HandTool::gaugedOn, "gauge check of");
}

} // namespace burin
