#include "files/pull_print.h"
#include "core/base/lookup.h"
#include "core/job/ports.h"
#include "files/qt_text.h"
#include "files/sheets.h"
#include "files/spoken.h"
#include <QDate>
#include <QLocale>
#include <memory>
#include <qrencode.h>

namespace burin {
namespace {

using Weight = Paper::Weight;

constexpr double leastCodeMm = 8;

QString dayText(const std::string& date) {
    const QDate day = QDate::fromString(q(date), Qt::ISODate);
    return day.isValid() ? QLocale().toString(day, QStringLiteral("dddd d MMMM yyyy")) : q(date);
}

void printPull(Sheets& sheets, const Job& job, const PullPlan& plan, const PullFinding& pull,
               const SitePlan& site, UnitSystem units, std::size_t number) {
    constexpr double rowHigh = 12;
    const Columns columns{{0.15, 0.29, 0.11, 0.11, 0.17, 0.17}};
    const auto notes = pullNotes(pull, job, site);
    QString care;
    QString rest;
    for (const auto& note : notes)
        (note.caution ? care : rest) += said(note.what, units) + QStringLiteral(". ");
    const QString where = q(boxesStandAt(pull, job));
    QString head = QObject::tr("%1  boxes at %2").arg(number).arg(where);
    if (!pull.closesOn.empty())
        head +=
            QObject::tr(", before %1: %2 closes").arg(dayText(pull.closesOn), q(pull.closesName));
    // A pull stays together on its page while it can.
    sheets.need(std::min(30 + rowHigh * static_cast<double>(pull.runs.size()) +
                             sheets.paper().wordsHighMm(sheets.width(), care + rest, 10),
                         240.0));
    sheets.words(head, 13, Weight::Bold);
    if (pull.brokenN)
        sheets.words(QObject::tr("Force at most %1%2")
                         .arg(said(asNewton(*pull.brokenN), units),
                              pull.limitN
                                  ? QObject::tr(" of %1").arg(said(asNewton(*pull.limitN), units))
                                  : QString()),
                     11);
    row(sheets, columns,
        {QObject::tr("run"), QObject::tr("to"), QObject::tr("box"), QObject::tr("to pull"),
         QObject::tr("mark at start"), QObject::tr("mark at end")},
        9, 5);
    sheets.down(5.5);
    for (const auto& one : pull.runs) {
        sheets.need(rowHigh);
        const Run* run = job.run(one.runId);
        const PullBox* box = plan.box(one.boxId);
        const Box* kept = byId(job.boxes, one.boxId);
        const QString to =
            run == nullptr ? QString()
                           : q(endName(job, pull.boxesAt == BoxesAt::Far ? run->near : run->far));
        const auto metres = [&](double length) { return said(asMetres(length), units); };
        row(sheets, columns,
            {run == nullptr ? q(one.runId) : q(run->label), to,
             box == nullptr ? QString()
             : box->isNew   ? QObject::tr("new")
                            : q(box->name),
             metres(one.pulledM.value_or(one.plannedM))},
            13, rowHigh - 2);
        const bool known = run != nullptr && kept != nullptr;
        for (std::size_t i = 4; i < 6; ++i) {
            const QRectF cell = columns.cell(sheets, i, rowHigh - 2);
            sheets.paper().box(cell, 0.3);
            const auto& mark = i == 4 ? (known ? run->piece.startMark : std::optional<int>())
                                      : (known ? run->piece.endMark : std::optional<int>());
            const auto& near = i == 4 ? one.startMark : one.endMark;
            if (mark)
                sheets.paper().line(cell.adjusted(2, 0, -1, 0), q(markText(*mark)), 14);
            else if (near && known) // what it should be near, small, in the corner
                sheets.paper().line(
                    cell.adjusted(1, 6, -1, -0.5),
                    QObject::tr("near %1 %2")
                        .arg(q(markText(*near)), term(markUnitWords[kept->markUnit])),
                    7);
        }
        sheets.down(rowHigh);
    }
    if (!care.isEmpty())
        sheets.words(QObject::tr("Care. %1").arg(care), 10, Weight::Bold);
    if (!rest.isEmpty())
        sheets.words(rest, 10);
    sheets.down(5);
}

void drawCode(Paper& paper, const QRectF& boxMm, const std::string& text) {
    const auto code = squareCode(text);
    if (code.empty())
        return;
    // Four light modules around it, as the standard asks.
    const double module = boxMm.width() / static_cast<double>(code.size() + 8);
    for (std::size_t y = 0; y < code.size(); ++y)
        for (std::size_t x = 0; x < code.size(); ++x)
            if (code[y][x])
                paper.fill({boxMm.x() + module * (static_cast<double>(x) + 4),
                            boxMm.y() + module * (static_cast<double>(y) + 4), module * 1.02,
                            module * 1.02});
}

void drawLabel(Paper& paper, const QRectF& boxMm, const LabelSheet& sheet, const EndLabel& label) {
    const QRectF written(boxMm.x() + 1, boxMm.y() + 0.8, boxMm.width() - 2,
                         sheet.printHeightMm - 1.6);
    const double side = std::min(written.height(), written.width() * 0.4);
    QRectF words = written;
    if (side >= leastCodeMm) {
        drawCode(paper, {written.right() - side, written.y(), side, side}, label.runId);
        words.setWidth(written.width() - side - 1);
    }
    const double half = words.height() * 0.45;
    paper.line({words.x(), words.y(), words.width(), half}, q(label.label), 16, Weight::Bold,
               Qt::AlignLeft | Qt::AlignVCenter, 6);
    QString here = q(label.here);
    if (here.isEmpty())
        here = label.end == End::Near ? QObject::tr("near end") : QObject::tr("far end");
    if (!label.there.empty())
        here += QStringLiteral(" ← ") + q(label.there);
    paper.line({words.x(), words.y() + half, words.width(), words.height() - half}, here, 8,
               Weight::Plain, Qt::AlignLeft | Qt::AlignTop, 6);
}

} // namespace

std::vector<std::vector<bool>> squareCode(const std::string& text) {
    const std::unique_ptr<QRcode, decltype(&QRcode_free)> code(
        QRcode_encodeString8bit(text.c_str(), 0, QR_ECLEVEL_M), &QRcode_free);
    std::vector<std::vector<bool>> out;
    if (!code)
        return out;
    const auto width = static_cast<std::size_t>(code->width);
    for (std::size_t y = 0; y < width; ++y) {
        out.emplace_back();
        for (std::size_t x = 0; x < width; ++x)
            out.back().push_back((code->data[y * width + x] & 1) != 0);
    }
    return out;
}

std::string pullListPdf(const Job& job, const PullPlan& plan, const SitePlan& site,
                        UnitSystem units, PaperSize paper,
                        const std::vector<std::string>& pullIds) {
    Sheets sheets(paper, QObject::tr("Pulls"), job.info.name);
    std::size_t printed = 0;
    for (std::size_t i = 0; i < plan.pulls.size(); ++i) {
        const PullFinding& pull = plan.pulls[i];
        const bool named = std::find(pullIds.begin(), pullIds.end(), pull.id) != pullIds.end();
        if (pullIds.empty() ? pull.state == PullState::Pulled : !named)
            continue;
        printPull(sheets, job, plan, pull, site, units, i + 1);
        ++printed;
    }
    if (printed == 0)
        sheets.words(QObject::tr("Nothing is left to pull."), 12);
    return sheets.bytes();
}

std::string labelsPdf(const std::vector<EndLabel>& labels, const LabelSheet& sheet,
                      const std::string& jobName) {
    Paper paper(sheet.pageWidthMm, sheet.pageHeightMm, QObject::tr("Labels, %1").arg(q(jobName)));
    const auto aPage =
        static_cast<std::size_t>(sheet.columns) * static_cast<std::size_t>(sheet.rows);
    const bool cut = sheet.printHeightMm >= sheet.labelHeightMm && aPage > 1;
    for (std::size_t i = 0; i < labels.size(); ++i) {
        if (i > 0 && i % aPage == 0)
            paper.newPage();
        const auto columns = static_cast<std::size_t>(sheet.columns);
        const std::size_t line = i % aPage / columns;
        const auto column = static_cast<double>(i % columns);
        const auto rowAt = static_cast<double>(line);
        const QRectF box(sheet.leftMm + column * sheet.pitchXMm,
                         sheet.topMm + rowAt * sheet.pitchYMm, sheet.labelWidthMm,
                         sheet.labelHeightMm);
        if (cut)
            paper.box(box, 0.1);
        drawLabel(paper, box, sheet, labels[i]);
    }
    return paper.bytes();
}

std::string materialsPdf(const std::vector<MaterialLine>& lines, const Job& job, UnitSystem units,
                         PaperSize paper) {
    Sheets sheets(paper, QObject::tr("Materials"), job.info.name);
    const Columns columns{{0.42, 0.13, 0.11, 0.11, 0.13, 0.10}};
    row(sheets, columns,
        {QObject::tr("what"), QObject::tr("needed"), QObject::tr("waste"), QObject::tr("at hand"),
         QObject::tr("to buy"), q(job.info.survey.currency)},
        9, 5);
    sheets.down(6);
    double total = 0;
    for (const auto& line : lines) {
        sheets.need(8);
        const auto amount = [&](double value) {
            return said(line.metres ? asMetres(value)
                                    : asNumber(value, value < 10 && value != std::floor(value)),
                        units);
        };
        QString buy = amount(line.toBuy);
        if (line.boxes > 0)
            buy = QObject::tr("%1 × %2")
                      .arg(line.boxes)
                      .arg(said(asMetres(job.info.pull.newBoxM, 0), units));
        row(sheets, columns,
            {said(line.name, units), amount(line.needed),
             line.waste > 0 ? amount(line.waste) : QString(),
             line.atHand > 0 ? amount(line.atHand) : QString(), buy,
             line.price ? said(asNumber(*line.price, 2), units) : QString()},
            11, 6);
        sheets.down(6.5);
        total += line.price.value_or(0);
        if (!line.note.empty())
            sheets.words(said(line.note, units), 9);
    }
    sheets.words(QObject::tr("Priced: %1 %2. What has no price here is not in it.")
                     .arg(said(asNumber(total, 2), units), q(job.info.survey.currency)),
                 11, Weight::Bold);
    return sheets.bytes();
}

std::string daysPdf(const DayPlan& days, const Job& job, const PullPlan& plan, UnitSystem units,
                    PaperSize paper) {
    Sheets sheets(paper, QObject::tr("Days"), job.info.name);
    if (!days.pace.said.empty())
        sheets.words(said(days.pace.said, units), 11);
    for (const auto& late : days.late) {
        QString text = QObject::tr("%1 closes on %2, and what is behind it is done on %3.")
                           .arg(q(late.closesName), dayText(late.closesOn), dayText(late.doneOn));
        for (const auto& cure : late.cures)
            text += QLatin1Char(' ') + said(cure, units) + QLatin1Char('.');
        sheets.words(text, 11, Weight::Bold);
    }
    for (const auto& day : days.days) {
        sheets.need(20);
        sheets.words(QObject::tr("%1, %2 of %3 h")
                         .arg(dayText(day.date), said(asNumber(day.minutes / 60, 1), units),
                              said(asNumber(day.mostMinutes / 60, 1), units)),
                     13, Weight::Bold);
        for (const auto& work : day.work) {
            QStringList runs;
            for (const auto& id : work.runIds)
                if (const Run* run = job.run(id))
                    runs << q(run->label);
            std::size_t number = 0;
            for (std::size_t i = 0; i < plan.pulls.size(); ++i)
                if (plan.pulls[i].id == work.pullId)
                    number = i + 1;
            sheets.item(QObject::tr("pull %1, %2: %3 (%4 min)")
                            .arg(number)
                            .arg(term(dayWorkWords[work.what]), runs.join(QStringLiteral(" ")),
                                 said(asNumber(work.minutes, 0), units)),
                        11);
        }
        sheets.down(3);
    }
    if (days.days.empty())
        sheets.words(QObject::tr("Nothing is left to do."), 12);
    return sheets.bytes();
}

} // namespace burin
