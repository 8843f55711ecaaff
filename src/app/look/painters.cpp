#include "app/look/painters.h"
#include "app/look/theme.h"
#include <array>
#include <cmath>

namespace burin {
namespace {

void ends(QPainter& p, const QRectF& box, const QColor& colour, bool open) {
    const double r = box.height() * 0.28;
    p.setPen(QPen(colour, 1.5));
    p.setBrush(open ? QBrush(Qt::NoBrush) : QBrush(colour));
    p.drawRect(QRectF(box.left(), box.center().y() - r, 2 * r, 2 * r));
    p.drawRect(QRectF(box.right() - 2 * r, box.center().y() - r, 2 * r, 2 * r));
}

} // namespace

QColor stateColour(State state) {
    const Tokens& t = Theme::instance().tokens();
    switch (state) {
    case State::Pass:
        return t.verdigris;
    case State::MarginalGood:
    case State::MarginalBad:
        return t.ochre;
    case State::Fail:
        return t.rust;
    case State::Untested:
        break;
    }
    return t.ink2;
}

void drawState(QPainter& p, const QRectF& box, State state) {
    p.save();
    const QColor colour = stateColour(state);
    const double r = box.height() * 0.28;
    const double y = box.center().y();
    const double a = box.left() + 2 * r;
    const double b = box.right() - 2 * r;
    ends(p, box, colour, state == State::Untested);
    switch (state) {
    case State::Pass:
        p.setPen(QPen(colour, box.height() * 0.3));
        p.drawLine(QPointF(a, y), QPointF(b, y));
        break;
    case State::MarginalGood:
        p.setPen(QPen(colour, 1.2));
        p.drawLine(QPointF(a, y), QPointF(b, y));
        break;
    case State::MarginalBad: {
        p.setPen(QPen(colour, 1.2));
        const double step = (b - a) / 4;
        for (int i = 0; i < 4; ++i)
            p.drawLine(QPointF(a + i * step, y + (i % 2 == 0 ? -3 : 3)),
                       QPointF(a + (i + 1) * step, y + (i % 2 == 0 ? 3 : -3)));
        break;
    }
    case State::Fail: {
        p.setPen(QPen(colour, box.height() * 0.2));
        const double gap = (b - a) / 3;
        p.drawLine(QPointF(a, y), QPointF(a + gap, y - box.height() * 0.3));
        p.drawLine(QPointF(b - gap, y + box.height() * 0.3), QPointF(b, y));
        break;
    }
    case State::Untested:
        p.setPen(QPen(colour, 1.5, Qt::DotLine));
        p.drawLine(QPointF(a, y), QPointF(b, y));
        break;
    }
    p.restore();
}

void drawOutlook(QPainter& p, const QRectF& box, Outlook outlook) {
    p.save();
    const Tokens& t = Theme::instance().tokens();
    const double r = box.height() * 0.28;
    const double y = box.center().y();
    const double a = box.left() + 2 * r;
    const double b = box.right() - 2 * r;
    const QColor colour = outlook == Outlook::Unknown ? t.ink2 : t.copper;
    ends(p, box, colour, true);
    if (outlook == Outlook::Fails) {
        p.setPen(QPen(colour, 1.5));
        const double gap = (b - a) / 3;
        p.drawLine(QPointF(a, y), QPointF(a + gap, y));
        p.drawLine(QPointF(b - gap, y), QPointF(b, y));
    } else {
        p.setPen(QPen(colour, outlook == Outlook::Holds ? 2.5 : 1,
                      outlook == Outlook::Unknown ? Qt::DotLine : Qt::SolidLine));
        p.drawLine(QPointF(a, y), QPointF(b, y));
    }
    p.restore();
}

void drawShareBar(QPainter& p, const QRectF& box, double predicted, double measured) {
    p.save();
    const Tokens& t = Theme::instance().tokens();
    const double limit = box.left() + box.width() * 0.8;
    const auto x = [&](double share) {
        return box.left() + std::min(box.width(), share * 0.8 * box.width());
    };
    const QRectF bar = box.adjusted(0, box.height() * 0.25, 0, -box.height() * 0.25);
    p.fillRect(bar, t.rule);
    QRectF filled = bar;
    filled.setRight(x(predicted));
    p.fillRect(filled, t.copper);
    if (predicted > 1) {
        filled.setLeft(limit);
        p.fillRect(filled, hatch(t.plate));
    }
    p.setPen(QPen(t.ink, 2));
    p.drawLine(QPointF(limit, box.top()), QPointF(limit, box.bottom()));
    if (measured > 0) {
        p.setPen(QPen(t.blue, 2.5));
        p.drawLine(QPointF(x(measured), box.top()), QPointF(x(measured), box.bottom()));
    }
    p.restore();
}

void drawTape(QPainter& p, const QRectF& box, int tape) {
    // Violets, pinks and greys: none of them says good, bad, planned or measured.
    static const std::array<QColor, 5> colours{QColor(0x6A, 0x4C, 0x93), QColor(0xC0, 0x5A, 0x8C),
                                               QColor(0x7A, 0x7A, 0x7A), QColor(0x4A, 0x4A, 0x8A),
                                               QColor(0xB0, 0x8F, 0xC4)};
    static const std::array<Qt::BrushStyle, 3> patterns{Qt::SolidPattern, Qt::Dense4Pattern,
                                                        Qt::HorPattern};
    const auto index = static_cast<std::size_t>(std::max(0, tape));
    p.save();
    p.fillRect(box, Theme::instance().tokens().plate);
    p.fillRect(box, QBrush(colours[index % colours.size()],
                           patterns[(index / colours.size()) % patterns.size()]));
    p.restore();
}

QBrush hatch(const QColor& colour) {
    QColor thin = colour;
    thin.setAlphaF(0.75F);
    return {thin, Qt::BDiagPattern};
}

double niceStep(double range) {
    const double raw = range / 10;
    const double base = std::pow(10, std::floor(std::log10(std::max(raw, 1e-6))));
    for (const double factor : {1.0, 2.0, 5.0, 10.0})
        if (raw <= factor * base)
            return factor * base;
    return 10 * base;
}

QString elided(const QPainter& painter, const QString& text, double width) {
    return painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(width));
}

} // namespace burin
