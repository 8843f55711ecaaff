#include "core/catalogue/work.h"
#include "core/catalogue/catalogue_file.h"

namespace burin {
namespace {

using namespace catalogue_file;

LabelSheet labelSheet(JsonObject in, const Sources& sources) {
    constexpr double widest = 2000;
    LabelSheet out;
    out.id = in.string("id");
    out.name = in.string("name");
    out.pageWidthMm = in.number("pageWidthMm", 5, widest);
    out.pageHeightMm = in.number("pageHeightMm", 5, widest);
    out.labelWidthMm = in.number("labelWidthMm", 5, out.pageWidthMm);
    out.labelHeightMm = in.number("labelHeightMm", 5, out.pageHeightMm);
    out.printHeightMm = in.number("printHeightMm", 4, out.labelHeightMm);
    out.columns = in.integer("columns", 1, 100);
    out.rows = in.integer("rows", 1, 200);
    out.leftMm = in.number("leftMm", 0, widest);
    out.topMm = in.number("topMm", 0, widest);
    out.pitchXMm = in.number("pitchXMm", out.labelWidthMm, widest);
    out.pitchYMm = in.number("pitchYMm", out.labelHeightMm, widest);
    out.source = sourceOf(in, sources);
    constexpr double slack = 0.01;
    if (out.leftMm + (out.columns - 1) * out.pitchXMm + out.labelWidthMm > out.pageWidthMm + slack)
        in.fail("columns", {"work.go-over-edge", "go over the edge of the paper"},
                {"cure.mind-left-pitch", "Mind left, pitch and width"});
    if (out.topMm + (out.rows - 1) * out.pitchYMm + out.labelHeightMm > out.pageHeightMm + slack)
        in.fail("rows", {"work.go-over-foot", "go over the foot of the paper"},
                {"cure.mind-top-pitch", "Mind top, pitch and height"});
    in.close();
    return out;
}

} // namespace

Outcome<WorkRules> readWorkRules(std::string_view text, const std::string& where) {
    return readFile<WorkRules>(text, where, [](JsonObject& root) {
        const Sources sources = openRoot(root, "burin-work");
        WorkRules out;
        JsonObject minutes = root.object("minutes");
        constexpr double day = 480;
        out.pullSetMinutes = minutes.number("pull", 0, day);
        out.pullCableMinutes = minutes.number("pullACable", 0, day);
        out.pullMetreMinutes = minutes.number("pullAMetre", 0, day);
        out.conduitMetreMinutes = minutes.number("pullAMetreOfConduit", 0, day);
        out.endMinutes = minutes.number("end", 0, day);
        out.testMinutes = minutes.number("test", 0, day);
        out.photographMinutes = minutes.number("photograph", 0, day);
        out.source = sourceOf(minutes, sources);
        minutes.close();
        JsonObject waste = root.object("wasteShare");
        out.cableShare = waste.number("cable", 0, 1);
        out.plugShare = waste.number("plug", 0, 1);
        out.compressionShare = waste.number("compression", 0, 1);
        out.bargainShare = waste.number("bargain", 0, 1);
        out.jackShare = waste.number("jack", 0, 1);
        sourceOf(waste, sources);
        waste.close();
        out.roomTapeM = root.number("roomTapeMAnEnd", 0, 10);
        root.close();
        return out;
    });
}

Outcome<std::vector<LabelSheet>> readLabelSheets(std::string_view text, const std::string& where) {
    return readFile<std::vector<LabelSheet>>(text, where, [](JsonObject& root) {
        const Sources sources = openRoot(root, "burin-labels");
        auto out =
            root.list("sheets", [&](JsonObject in) { return labelSheet(std::move(in), sources); });
        if (out.empty())
            root.fail("sheets", {"catalogue.empty", "are empty"},
                      {"cure.give-least", "Give at least one"});
        root.close();
        return out;
    });
}

} // namespace burin
