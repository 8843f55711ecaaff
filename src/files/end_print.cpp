#include "files/end_print.h"
#include "files/end_drawing.h"
#include "files/spoken.h"

namespace burin {
namespace {

constexpr double ruleMm = 100;

QStringList listOf(const std::vector<std::string>& texts) {
    QStringList out;
    for (const auto& text : texts)
        out << term(text);
    return out;
}

/// 0 to 100 mm, a tick each 10.
void drawRule(Sheets& sheets) {
    Paper& paper = sheets.paper();
    const double y = sheets.y() + 4;
    paper.rule(marginMm, y, marginMm + ruleMm, y, 0.2);
    for (int mm = 0; mm <= static_cast<int>(ruleMm); mm += 10)
        paper.rule(marginMm + mm, y - (mm % 50 == 0 ? 3 : 1.5), marginMm + mm, y, 0.2);
    paper.line({marginMm + ruleMm + 4, y - 4, sheets.width() - ruleMm - 4, 5},
               QObject::tr("100 mm: printed at its true size when a rule agrees"), 9);
    sheets.down(8);
}

void drawLife(Sheets& sheets, const EndShape& shape, const std::optional<EndSection>& section) {
    Paper& paper = sheets.paper();
    const double mm = paper.pxPerMm();
    constexpr double pointSize = 9;
    paper.setFont(pointSize);
    QPainter& painter = paper.painter();
    painter.save();
    const double topMm = sheets.y() + 2 + flawsHigh(painter, shape) / mm + shape.acrossMm / 2;
    const QPointF tip((marginMm + sheets.width() - 4) * mm, topMm * mm);
    double down = drawEnd(painter, shape, tip, mm, EndColours::onPaper());
    if (section) {
        drawSection(painter, *section, QPointF((marginMm + 4) * mm, tip.y()), mm,
                    EndColours::onPaper());
        down = std::max(down, tip.y() + (shape.acrossMm + 16) * mm);
    }
    painter.restore();
    sheets.down(down / mm - sheets.y() + 3);
}

} // namespace

std::string cardPdf(const CardFinding& card, const std::string& jobName, UnitSystem units,
                    PaperSize size) {
    const EndCard& how = *card.card;
    const EndShape shape = findShape(card);
    Sheets sheets(size, term(how.name), jobName);
    sheets.words(QObject::tr("%1 on %2").arg(term(card.connection->name), term(card.cable->name)),
                 11);
    if (!card.fits)
        for (const auto& point : card.fit)
            if (!point.good)
                sheets.words(QObject::tr("Does not fit: %1").arg(said(point.reason, units)), 11,
                             Paper::Weight::Bold);
    drawRule(sheets);
    drawLife(sheets, shape, findSection(card));
    if (!shape.toScale())
        sheets.words(QObject::tr("Dashed: not to scale; the part's own sheet has the length."), 9);
    const auto section = [&](const QString& title, const QStringList& texts, bool tick) {
        if (texts.isEmpty())
            return;
        sheets.words(title, 12, Paper::Weight::Bold);
        for (const auto& text : texts)
            tick ? sheets.item(text, 11) : sheets.words(text, 11);
        sheets.down(2);
    };
    section(QObject::tr("First on the cable"), listOf(how.first), true);
    section(QObject::tr("Steps"), listOf(how.steps), true);
    QStringList proofs;
    for (const auto& proof : how.proofs)
        proofs << (proof.isMeasured() ? term(proof.what) + QStringLiteral(": ") +
                                            said(rangeOf(proof.leastMm, proof.mostMm), units)
                                      : term(proof.what));
    section(QObject::tr("What proves it"), proofs, true);
    QStringList schools;
    for (const auto& school : how.schools)
        schools << QObject::tr("%1: %2").arg(term(school.what),
                                             listOf(school.ways).join(QObject::tr(", or ")));
    section(QObject::tr("Where hands differ"), schools, false);
    QStringList tools{listOf(how.tools).join(QStringLiteral(", "))};
    if (!how.die.empty())
        tools << QObject::tr("Die: %1").arg(term(how.die));
    section(QObject::tr("Tools"), tools, false);
    section(QObject::tr("Care"), listOf(how.cautions), false);
    return sheets.bytes();
}

} // namespace burin
