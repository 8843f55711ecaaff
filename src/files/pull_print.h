#pragma once
#include "core/catalogue/work.h"
#include "core/finding/days.h"
#include "core/finding/materials.h"
#include "core/pull/end_labels.h"
#include "core/units/units.h"
#include "files/sheets.h"

/// What goes on paper from the Pull stage. Each gives the bytes of a PDF; the faces must be loaded.
namespace burin {

/// The list to work down: each pull with its runs, boxes and metres, and boxes to write its marks
/// in, large enough to be read on a ladder; its cautions with it. Pulls that are done are left out,
/// unless they were named.
std::string pullListPdf(const Job& job, const PullPlan& plan, const SitePlan& site,
                        UnitSystem units, PaperSize paper,
                        const std::vector<std::string>& pullIds = {});
/// Labels on a sheet or tape, with a code of the run's id where there is room for one of 8 mm.
std::string labelsPdf(const std::vector<EndLabel>& labels, const LabelSheet& sheet,
                      const std::string& jobName);
std::string materialsPdf(const std::vector<MaterialLine>& lines, const Job& job, UnitSystem units,
                         PaperSize paper);
/// What is to be done on each day.
std::string daysPdf(const DayPlan& days, const Job& job, const PullPlan& plan, UnitSystem units,
                    PaperSize paper);

/// A square code (ISO/IEC 18004, level M) as rows of dark and light; empty: it cannot be made.
std::vector<std::vector<bool>> squareCode(const std::string& text);

} // namespace burin
