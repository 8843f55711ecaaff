#include "app/frame/working_view.h"
#include "app/look/flow_layout.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/pull/pull_stage.h"
#include <QHBoxLayout>

/// What goes on paper or into a table from the Pull stage.
namespace burin {

QWidget* PullStage::makePrints() {
    auto* row = new QWidget(this);
    auto* links = new FlowLayout(12);
    row->setLayout(links);
    const auto add = [&](const QString& text, const char* name, auto slot) {
        auto* button = link(text, this);
        button->setObjectName(QLatin1String(name));
        connect(button, &QPushButton::clicked, this, slot);
        links->addWidget(button);
    };
    // Drawn beside the screen, of the job and its plan as they are now.
    add(tr("print list"), "printList", [this] {
        print(tr("Print the list to work down"),
              onPaper([snapshot = session_.snapshot(), units = session_.units(),
                       all = session_.jobFindings()](PaperSize paper) {
                  return pullListPdf(*snapshot.job, all->pulls, *snapshot.site, units, paper);
              }));
    });
    add(tr("labels"), "printLabels", [this] { printLabels(); });
    add(tr("materials"), "materials", [this] { showMaterials(); });
    add(tr("days"), "printDays", [this] {
        print(tr("Print the days"),
              onPaper([snapshot = session_.snapshot(), units = session_.units(),
                       all = session_.jobFindings()](PaperSize paper) {
                  return daysPdf(all->days, *snapshot.job, all->pulls, units, paper);
              }));
    });
    return row;
}

std::vector<SaveKind> PullStage::onPaper(const std::function<std::string(PaperSize)>& bytes) const {
    return onPaperSizes(
        session_,
        {tr("PDF, A4 (*.pdf)"), QStringLiteral("pdf"), [bytes] { return bytes(PaperSize::A4); }},
        {tr("PDF, Letter (*.pdf)"), QStringLiteral("pdf"),
         [bytes] { return bytes(PaperSize::Letter); }});
}

void PullStage::print(const QString& title, const std::vector<SaveKind>& kinds) {
    if (plan() != nullptr)
        saveAs(this, session_, title, kinds);
}

void PullStage::printLabels() {
    const auto labels = endLabels(session_.job());
    if (labels.empty())
        return emit session_.message(
            tr("This job numbers nothing while pulling: see its rules beside the plan."), true);
    std::vector<SaveKind> kinds;
    const auto snapshot = session_.snapshot();
    for (const auto& sheet : snapshot.catalogue->labels)
        kinds.push_back({tr("%1 (*.pdf)").arg(q(sheet.name)), QStringLiteral("pdf"),
                         [labels, snapshot, id = sheet.id] {
                             const auto& all = snapshot.catalogue->labels;
                             const auto it = std::find_if(
                                 all.begin(), all.end(), [&](const auto& s) { return s.id == id; });
                             return labelsPdf(labels, *it, snapshot.job->info.name);
                         }});
    kinds.push_back(
        {tr("Table (*.csv)"), QStringLiteral("csv"), [labels] { return labelsCsv(labels); }});
    print(tr("Print labels"), kinds);
}

void PullStage::showMaterials() {
    if (plan() == nullptr)
        return;
    QString text;
    const auto lines = findMaterials(session_.job(), session_.catalogue(), *session_.site(),
                                     *plan(), session_.jobFindings()->ends);
    for (const auto& line : lines) {
        const auto amount = [&](double value) {
            return line.metres ? figure(formatLength(value, session_.units(), 0))
                               : figure(formatFixed(std::ceil(value), 0));
        };
        text += tr("%1: %2 needed").arg(said(line.name, session_), amount(line.needed));
        if (line.waste > 0)
            text += tr(", %1 waste").arg(amount(line.waste));
        if (line.atHand > 0)
            text += tr(", %1 at hand").arg(amount(line.atHand));
        if (line.boxes > 0)
            text += tr(", %1 to buy")
                        .arg(line.boxes == 1 ? tr("1 box") : tr("%1 boxes").arg(line.boxes));
        else if (line.toBuy > 0)
            text += tr(", %1 to buy").arg(amount(line.toBuy));
        if (line.price && *line.price > 0)
            text += tr(", %1 %2").arg(figure(formatFixed(*line.price, 2)),
                                      q(session_.job().info.survey.currency));
        text += QLatin1Char('\n');
    }
    showText(this, tr("Materials still wanted"), text, tr("Print or save"), [this, lines] {
        auto kinds = onPaper(
            [lines, snapshot = session_.snapshot(), units = session_.units()](PaperSize paper) {
                return materialsPdf(lines, *snapshot.job, units, paper);
            });
        kinds.push_back({tr("Table (*.csv)"), QStringLiteral("csv"),
                         [lines, currency = session_.job().info.survey.currency] {
                             return materialsCsv(lines, currency);
                         }});
        print(tr("Print materials"), kinds);
    });
}

} // namespace burin
