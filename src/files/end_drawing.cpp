#include "files/end_drawing.h"
#include "files/qt_text.h"
#include "files/spoken.h"
#include <QLocale>
#include <QObject>
#include <QPainterPath>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace burin {
namespace {

using Of = ShapePart::Of;

/// The wires of four pairs as they look: blue, orange, green, brown.
constexpr std::array<QRgb, 4> wireColours{0xff2f5d8c, 0xffcc6a1e, 0xff2b7a48, 0xff6b4226};

class EndPen {
public:
    EndPen(QPainter& painter, const QPointF& tip, double pxPerMm, const EndColours& colours)
        : p_(painter), tip_(tip), mm_(pxPerMm), hair_(colours.hairPx), colours_(colours) {}

    void draw(const ShapePart& part) {
        const QRectF box = boxOf(part);
        p_.save();
        p_.setBrush(Qt::NoBrush);
        p_.setPen(outline(part));
        switch (part.of) {
        case Of::Centre:
        case Of::Bare:
            p_.setBrush(colours_.copper);
            p_.drawRect(box);
            break;
        case Of::Dielectric:
        case Of::Insulation:
            p_.setBrush(colours_.dielectric);
            p_.drawRect(box);
            break;
        case Of::Foil:
            p_.setBrush(colours_.metal);
            p_.drawRect(box);
            stripes(box, 3, 0);
            break;
        case Of::Braid:
        case Of::FoldedBraid:
            p_.setBrush(colours_.metal);
            p_.drawRect(box);
            stripes(box, 1.2, 0.8);
            stripes(box, 1.2, -0.8);
            break;
        case Of::Tube:
            p_.setBrush(colours_.copper);
            p_.drawRect(box);
            stripes(box, 2.5, 0);
            break;
        case Of::Fanned:
            fanned(box);
            break;
        case Of::Twisted:
            twisted(box);
            break;
        case Of::Straight:
            straight(box);
            break;
        case Of::Jacket:
            p_.setBrush(colours_.jacket);
            p_.drawRect(box);
            break;
        }
        if (!part.toScale && part.of != Of::Jacket)
            breakOff(box);
        if (part.of == Of::Jacket)
            goesOn(box);
        p_.restore();
    }
    /// The line of one length, `y` below; returns the room it took.
    double dimension(const ShapeDimension& d, double y, double edge, double wordsTo) {
        const double from = x(d.toMm);
        const double to = x(d.fromMm);
        const double high = p_.fontMetrics().height();
        const double line = y + high / 2;
        p_.setPen(QPen(colours_.quiet, hair_, Qt::DotLine, Qt::FlatCap));
        for (const double at : {from, to})
            p_.drawLine(QPointF(at, edge), QPointF(at, line));
        p_.setPen(QPen(colours_.ink, hair_, Qt::SolidLine, Qt::FlatCap));
        p_.drawLine(QPointF(from, line), QPointF(to, line));
        const double tick = high / 4;
        for (const double at : {from, to})
            p_.drawLine(QPointF(at, line - tick), QPointF(at, line + tick));
        const QString text = wordsOf(d);
        const double wide = p_.fontMetrics().horizontalAdvance(text) + 1;
        p_.drawText(QRectF(x(wordsTo) - wide - high / 2, y, wide, high),
                    Qt::AlignRight | Qt::AlignVCenter, text);
        return high * dimensionPitch;
    }

    /// A strand across and a nick, with their words above `top`.
    void flaws(const EndFlaws& f, double top) {
        p_.save();
        const double thick = std::max(hair_, 0.25 * mm_);
        p_.setPen(QPen(colours_.wrong, thick, Qt::SolidLine, Qt::RoundCap));
        p_.setBrush(Qt::NoBrush);
        const double dielectric = tip_.y() - f.dielectricMm / 2 * mm_;
        const double centre = tip_.y() - f.centreMm / 2 * mm_;
        const double from = x(f.strandToMm);
        const double to = x(f.strandFromMm);
        QPainterPath strand(QPointF(from, dielectric));
        strand.cubicTo(QPointF(from + (to - from) * 0.4, dielectric - 0.5 * mm_),
                       QPointF(to, dielectric - 0.6 * mm_), QPointF(to + 0.5 * mm_, centre));
        p_.drawPath(strand);
        const double nick = x(f.nickMm) + 0.6 * mm_;
        p_.drawLine(QPointF(nick - 0.4 * mm_, centre - 0.3 * mm_),
                    QPointF(nick, centre + 0.4 * mm_));
        p_.drawLine(QPointF(nick + 0.4 * mm_, centre - 0.3 * mm_),
                    QPointF(nick, centre + 0.4 * mm_));
        const QString text = QObject::tr("no strand across, no nick");
        const double high = p_.fontMetrics().height();
        const double wide = p_.fontMetrics().horizontalAdvance(text) + 1;
        const double middle = (from + to) / 2;
        const QRectF words(tip_.x() - wide, top - high - hair_, wide, high);
        p_.drawText(words, Qt::AlignRight | Qt::AlignVCenter, text);
        p_.setPen(QPen(colours_.wrong, hair_, Qt::DotLine, Qt::FlatCap));
        p_.drawLine(QPointF(middle, words.bottom()), QPointF(middle, dielectric - 0.6 * mm_));
        p_.drawLine(QPointF(nick, words.bottom()), QPointF(nick, centre - 0.4 * mm_));
        p_.restore();
    }

private:
    [[nodiscard]] double x(double mm) const { return tip_.x() - mm * mm_; }
    [[nodiscard]] QRectF boxOf(const ShapePart& part) const {
        return {x(part.toMm), tip_.y() - part.acrossMm / 2 * mm_, (part.toMm - part.fromMm) * mm_,
                part.acrossMm * mm_};
    }
    [[nodiscard]] QPen outline(const ShapePart& part) const {
        return QPen(colours_.ink, hair_, part.toScale ? Qt::SolidLine : Qt::DashLine);
    }
    /// Lines every so many mm, leaning by `lean` of the height.
    void stripes(const QRectF& box, double everyMm, double lean) {
        p_.save();
        p_.setClipRect(box, Qt::IntersectClip);
        p_.setPen(QPen(colours_.quiet, hair_));
        const double slant = lean * box.height();
        for (double at = box.left() - std::abs(slant); at < box.right() + std::abs(slant);
             at += everyMm * mm_)
            p_.drawLine(QPointF(at, box.bottom()), QPointF(at + slant, box.top()));
        p_.restore();
    }
    void wire(const QPainterPath& path, std::size_t pair, bool striped) {
        const double thick = 0.8 * mm_;
        p_.strokePath(path, QPen(colours_.ink, thick + 0.2 * mm_, Qt::SolidLine, Qt::FlatCap));
        p_.strokePath(path, QPen(striped ? QColor(Qt::white) : QColor(wireColours[pair]), thick,
                                 Qt::SolidLine, Qt::FlatCap));
        if (striped) {
            QPen dashes(QColor(wireColours[pair]), thick, Qt::CustomDashLine, Qt::FlatCap);
            dashes.setDashPattern({1.2, 1.6});
            p_.strokePath(path, dashes);
        }
    }
    /// Eight wires, from the cable to slots side by side.
    void fanned(const QRectF& box) {
        for (std::size_t i = 0; i < 8; ++i) {
            const double slot = box.top() + box.height() * (static_cast<double>(i) + 0.5) / 8;
            const double lane = laneOf(box, i / 2, box.height() / 1.6);
            QPainterPath path(QPointF(box.left(), lane));
            path.cubicTo(QPointF(box.center().x(), lane), QPointF(box.center().x(), slot),
                         QPointF(box.right(), slot));
            wire(path, i / 2, i % 2 == 0);
        }
    }
    [[nodiscard]] static double laneOf(const QRectF& box, std::size_t pair, double height) {
        return box.center().y() + height * ((static_cast<double>(pair) + 0.5) / 4 - 0.5) * 0.8;
    }
    void twisted(const QRectF& box) {
        constexpr std::array<double, 4> layMm{9, 12, 10, 14}; // each pair its own
        for (std::size_t pair = 0; pair < 4; ++pair)
            for (const bool other : {false, true}) {
                const double lane = laneOf(box, pair, box.height());
                const double swing = 0.5 * mm_;
                QPainterPath path;
                constexpr int steps = 60;
                for (int i = 0; i <= steps; ++i) {
                    const double at = box.left() + box.width() * i / steps;
                    const double turn =
                        2 * std::numbers::pi * (box.right() - at) / (layMm[pair] * mm_);
                    const QPointF point(at, lane + swing * std::sin(turn) * (other ? -1 : 1));
                    i == 0 ? path.moveTo(point) : path.lineTo(point);
                }
                wire(path, pair, !other);
            }
    }
    void straight(const QRectF& box) {
        for (std::size_t i = 0; i < 8; ++i) {
            const double lane = box.top() + box.height() * (static_cast<double>(i) + 0.5) / 8;
            QPainterPath path(QPointF(box.left(), lane));
            path.lineTo(box.right(), lane);
            wire(path, i / 2, i % 2 == 0);
        }
    }
    /// A zigzag through it: so long it is not.
    void breakOff(const QRectF& box) {
        const double at = box.center().x();
        const double wide = std::max(0.5 * mm_, box.height() / 8);
        QPainterPath path(QPointF(at, box.top() - wide));
        for (int i = 1; i <= 4; ++i)
            path.lineTo(at + (i % 2 == 0 ? 0 : wide),
                        box.top() - wide + (box.height() + 2 * wide) * i / 4);
        p_.strokePath(path, QPen(colours_.dielectric, 0.6 * mm_));
        p_.strokePath(path, QPen(colours_.ink, hair_));
    }
    /// The cable is longer than the drawing.
    void goesOn(const QRectF& box) {
        const double wide = box.height() / 6;
        QPainterPath path(QPointF(box.left(), box.top()));
        path.cubicTo(QPointF(box.left() + wide, box.top() + box.height() / 3),
                     QPointF(box.left() - wide, box.bottom() - box.height() / 3),
                     QPointF(box.left(), box.bottom()));
        p_.strokePath(path, QPen(colours_.quiet, 0.4 * mm_));
    }

    QPainter& p_;
    QPointF tip_;
    double mm_;
    double hair_;
    const EndColours& colours_;
};

} // namespace

EndColours EndColours::onPaper() {
    return {Qt::black, QColor(0x80, 0x80, 0x80), QColor(0xc8, 0x8a, 0x5e),
            Qt::white, QColor(0xdd, 0xdd, 0xdd), QColor(0x9a, 0xa2, 0xa8),
            3,         QColor(0x9e, 0x2b, 0x2f), QColor(0x2b, 0x7a, 0x68)};
}

double drawEnd(QPainter& painter, const EndShape& shape, const QPointF& tip, double pxPerMm,
               const EndColours& colours, bool words) {
    EndPen pen(painter, tip, pxPerMm, colours);
    for (const auto& part : shape.parts)
        pen.draw(part);
    const double edge = tip.y() + shape.acrossMm / 2 * pxPerMm;
    if (const auto flaws = findFlaws(shape); flaws && words)
        pen.flaws(*flaws, tip.y() - shape.acrossMm / 2 * pxPerMm);
    double y = edge + painter.fontMetrics().height() / 2.0;
    double longest = 0;
    for (const auto& dimension : shape.dimensions)
        longest = std::max(longest, dimension.toMm);
    for (const auto& dimension : shape.dimensions)
        if (words)
            y += pen.dimension(dimension, y, edge, longest);
    return y;
}

double flawsHigh(const QPainter& painter, const EndShape& shape) {
    return findFlaws(shape) ? painter.fontMetrics().height() * dimensionPitch : 0;
}

namespace {

constexpr double sectionLeftMm = 15; ///< from the left of the section to the nut's face

QStringList sectionWords(const EndSection& section) {
    const auto figure = [](double mm) { return QLocale().toString(mm, 'g', 3); };
    return {QObject::tr("with the connector:"), QObject::tr("dielectric flush,"),
            QObject::tr("pin %1–%2 mm out").arg(figure(section.leastMm), figure(section.mostMm))};
}

} // namespace

double sectionWide(const QFontMetricsF& font, const EndSection& section, double pxPerMm) {
    double out = sectionMm * pxPerMm;
    for (const auto& line : sectionWords(section))
        out = std::max(out, font.horizontalAdvance(line) + 1);
    return out;
}

void drawSection(QPainter& p, const EndSection& section, const QPointF& left, double mm,
                 const EndColours& colours) {
    constexpr double postMm = 3, nutMm = 8, nutAcrossMm = sectionAcrossMm;
    const QPointF face(left.x() + sectionLeftMm * mm, left.y());
    p.save();
    const auto box = [&](double fromMm, double toMm, double acrossMm) {
        return QRectF(face.x() + fromMm * mm, face.y() - acrossMm / 2 * mm, (toMm - fromMm) * mm,
                      acrossMm * mm);
    };
    const QPen solid(colours.ink, colours.hairPx);
    const QPen dashed(colours.ink, colours.hairPx, Qt::DashLine);
    p.setPen(solid);
    p.setBrush(colours.jacket);
    p.drawRect(box(-sectionLeftMm, -nutMm - 2, section.jacketMm));
    p.setPen(dashed);
    p.setBrush(Qt::NoBrush);
    p.drawRect(box(-nutMm, 0, nutAcrossMm));
    p.setPen(solid);
    p.setBrush(colours.dielectric);
    p.drawRect(box(-nutMm - 2, -postMm, section.dielectricMm));
    // The post's face, all round the dielectric.
    p.setPen(QPen(colours.right, std::max(colours.hairPx, 0.4 * mm)));
    p.drawLine(QPointF(face.x() - postMm * mm, face.y() - section.dielectricMm * 0.75 * mm),
               QPointF(face.x() - postMm * mm, face.y() + section.dielectricMm * 0.75 * mm));
    // Where the pin may end, and a pin that does.
    const QRectF band = box(section.leastMm, section.mostMm, nutAcrossMm * 0.7);
    p.fillRect(band, QBrush(colours.right, Qt::BDiagPattern));
    p.setPen(QPen(colours.right, colours.hairPx));
    for (const double at : {band.left(), band.right()})
        p.drawLine(QPointF(at, band.top()), QPointF(at, band.bottom()));
    p.setPen(solid);
    p.setBrush(colours.copper);
    p.drawRect(box(-postMm, (section.leastMm + section.mostMm) / 2, section.centreMm));
    const double high = p.fontMetrics().height() * dimensionPitch;
    double y = face.y() + nutAcrossMm / 2 * mm + p.fontMetrics().height() / 2.0;
    for (const auto& line : sectionWords(section)) {
        p.drawText(QRectF(left.x(), y, sectionWide(p.fontMetrics(), section, mm), high),
                   Qt::AlignLeft | Qt::AlignVCenter, line);
        y += high;
    }
    p.restore();
}

QString wordsOf(const ShapeDimension& dimension) {
    const CardCut& cut = *dimension.cut;
    return term(cut.name) + QStringLiteral(": ") + said(rangeOf(cut.leastMm, cut.mostMm));
}

QSizeF endSize(const EndShape& shape, double pxPerMm) {
    return {shape.lengthMm * pxPerMm, shape.acrossMm * pxPerMm};
}

} // namespace burin
