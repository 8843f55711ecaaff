#include "files/end_print.h"
#include "core/units/render.h"
#include "files/end_drawing.h"

namespace burin {
namespace {

constexpr double ruleMm = 100;

QStringList listOf(const std::vector<std::string>& texts) {
    QStringList out;
    for (const auto& text : texts)
        out << q(text);
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

std::string cardPdf(const CardFinding& card, const std::string& jobName, PaperSize size) {
    const EndCard& how = *card.card;
    const EndShape shape = findShape(card);
    Sheets sheets(size, q(how.name), jobName);
    sheets.words(QObject::tr("%1 on %2").arg(q(card.connection->name), q(card.cable->name)), 11);
    if (!card.fits)
        for (const auto& point : card.fit)
            if (!point.good)
                sheets.words(QObject::tr("Does not fit: %1")
                                 .arg(q(render(point.reason, UnitSystem::Metric))),
                             11, Paper::Weight::Bold);
    drawRule(sheets);
    drawLife(sheets, shape, findSection(card));
    if (!shape.toScale())
        sheets.words(QObject::tr("Dashed: not to scale; the part's own sheet has the length."), 9);
    const auto section = [&](const QString& title, const std::vector<std::string>& texts,
                             bool tick) {
        if (texts.empty())
            return;
        sheets.words(title, 12, Paper::Weight::Bold);
        for (const auto& text : listOf(texts))
            tick ? sheets.item(text, 11) : sheets.words(text, 11);
        sheets.down(2);
    };
    section(QObject::tr("First on the cable"), how.first, true);
    section(QObject::tr("Steps"), how.steps, true);
    std::vector<std::string> proofs;
    for (const auto& proof : how.proofs)
        proofs.push_back(proof.isMeasured()
                             ? proof.what + ": " +
                                   render(rangeOf(proof.leastMm, proof.mostMm), UnitSystem::Metric)
                             : proof.what);
    section(QObject::tr("What proves it"), proofs, true);
    std::vector<std::string> schools;
    for (const auto& school : how.schools)
        schools.push_back(QObject::tr("%1: %2")
                              .arg(q(school.what), listOf(school.ways).join(QObject::tr(", or ")))
                              .toStdString());
    section(QObject::tr("Where hands differ"), schools, false);
    std::vector<std::string> tools{listOf(how.tools).join(QStringLiteral(", ")).toStdString()};
    if (!how.die.empty())
        tools.push_back(QObject::tr("Die: %1").arg(q(how.die)).toStdString());
    section(QObject::tr("Tools"), tools, false);
    section(QObject::tr("Care"), how.cautions, false);
    return sheets.bytes();
}

} // namespace burin
