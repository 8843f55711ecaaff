#include "files/end_drawing.h"
#include "files/qt_text.h"
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
        const QString text = q(d.cut->name + ": " + rangeText(d.cut->leastMm, d.cut->mostMm));
        const double wide = p_.fontMetrics().horizontalAdvance(text) + 1;
        p_.drawText(QRectF(x(wordsTo) - wide - high / 2, y, wide, high),
                    Qt::AlignRight | Qt::AlignVCenter, text);
        return high * 1.25;
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
            3};
}

double drawEnd(QPainter& painter, const EndShape& shape, const QPointF& tip, double pxPerMm,
               const EndColours& colours, bool words) {
    EndPen pen(painter, tip, pxPerMm, colours);
    for (const auto& part : shape.parts)
        pen.draw(part);
    const double edge = tip.y() + shape.acrossMm / 2 * pxPerMm;
    double y = edge + painter.fontMetrics().height() / 2.0;
    double longest = 0;
    for (const auto& dimension : shape.dimensions)
        longest = std::max(longest, dimension.toMm);
    for (const auto& dimension : shape.dimensions)
        if (words)
            y += pen.dimension(dimension, y, edge, longest);
    return y;
}

QSizeF endSize(const EndShape& shape, double pxPerMm) {
    return {shape.lengthMm * pxPerMm, shape.acrossMm * pxPerMm};
}

} // namespace burin
