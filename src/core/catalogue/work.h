#pragma once
#include "core/base/fault.h"
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// Minutes that work takes and shares that go to waste: plain figures of the trade, which a job's
/// own dates and counts replace. Source: catalogue/work.json.
struct WorkRules {
    double pullSetMinutes = 0;      ///< boxes stood up, rope in, helpers at their places; a pull
    double pullCableMinutes = 0;    ///< marked at both ends and read; a cable
    double pullMetreMinutes = 0;    ///< a metre of the way, whatever goes along it
    double conduitMetreMinutes = 0; ///< beyond that, a metre of conduit
    double endMinutes = 0;          ///< an end of which the catalogue says nothing
    double testMinutes = 0;         ///< a run
    double photographMinutes = 0;   ///< a run
    double cableShare = 0;          ///< waste, beyond its spare
    double plugShare = 0, compressionShare = 0, bargainShare = 0, jackShare = 0;
    double roomTapeM = 0; ///< room tape an end
    std::string source;
};

/// A sheet of labels, or a tape of them. Millimetres from the top left corner of the paper.
struct LabelSheet {
    std::string id, name;
    double pageWidthMm = 210, pageHeightMm = 297;
    double labelWidthMm = 0, labelHeightMm = 0;
    double printHeightMm = 0; ///< of the part that is written on; the rest is clear, and laminates
    int columns = 1, rows = 1;
    double leftMm = 0, topMm = 0;      ///< of the first label
    double pitchXMm = 0, pitchYMm = 0; ///< from one to the next
    std::string source;
};

/// Read work.json and labels.json; an unknown key, a missing one or a figure out of range is
/// refused by its path, a sheet whose labels do not lie on its paper too.
Outcome<WorkRules> readWorkRules(std::string_view text, const std::string& where);
Outcome<std::vector<LabelSheet>> readLabelSheets(std::string_view text, const std::string& where);

} // namespace burin
