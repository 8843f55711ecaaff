#include "app/pull/box_bars.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/pull/pull_words.h"
#include "core/units/short_figure.h"
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace burin {
namespace {

constexpr double rowHigh = 26;

} // namespace

BoxBars::BoxBars(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("boxBars"));
    setAccessibleName(tr("Boxes, on one scale"));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    for (auto signal :
         {&Session::selectionChanged, &Session::unitsChanged, &Session::findingsChanged})
        connect(&session, signal, this, [this] {
            if (sizeHint().height() != height())
                updateGeometry();
            update();
        });
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

const PullPlan* BoxBars::plan() const {
    const auto findings = session_.jobFindings();
    return findings && session_.hasJob() ? &findings->pulls : nullptr;
}

QSize BoxBars::sizeHint() const {
    const auto rows = plan() == nullptr ? 0 : static_cast<int>(plan()->boxes.size());
    return {480, Theme::instance().px(rowHigh) * rows + Theme::instance().px(30)};
}

void BoxBars::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const PullPlan* plan = this->plan();
    if (plan == nullptr || plan->boxes.empty())
        return;
    QPainter p(this);
    double most = 1;
    for (const auto& box : plan->boxes)
        most = std::max(most, box.heldM);
    // Names stand before the bars, whole while there is room.
    const auto nameWide = [&](const PullBox& box) {
        return std::max(theme.px(34) * 1.0,
                        QFontMetricsF(theme.bold()).horizontalAdvance(boxName(box)) + theme.px(8));
    };
    const auto whatOf = [&](const PullBox& box) {
        const Cable* cable = session_.catalogue().cable(box.cableId);
        return (cable == nullptr ? q(box.cableId) : q(cable->name)) +
               (box.colour.empty() ? QString() : QLatin1Char(' ') + q(box.colour));
    };
    double left = theme.px(180);
    for (const auto& box : plan->boxes)
        left = std::max(left, nameWide(box) + theme.px(10) +
                                  QFontMetricsF(theme.small()).horizontalAdvance(whatOf(box)));
    left = std::min(left, width() * 0.5);
    const double right = width() - theme.px(96);
    const auto x = [&](double metres) { return left + metres / most * (right - left); };
    const PullFinding* chosen = plan->pullOf(session_.currentId());
    double y = 0;
    const double row = theme.px(rowHigh);
    for (const auto& box : plan->boxes) {
        p.setFont(theme.bold());
        p.setPen(t.ink);
        const double named = nameWide(box);
        p.drawText(QRectF(0, y, named, row), Qt::AlignVCenter, boxName(box));
        p.setFont(theme.small());
        p.setPen(t.ink2);
        const double room = left - named - theme.px(8);
        p.drawText(QRectF(named, y, room, row), Qt::AlignVCenter, elided(p, whatOf(box), room));
        const double top = y + row * 0.26;
        const double high = row * 0.48;
        const auto part = [&](double from, double to) {
            return QRectF(x(from), top, x(to) - x(from), high);
        };
        p.setPen(QPen(t.rule, 1));
        p.setBrush(t.paper);
        p.drawRect(part(0, box.heldM));
        for (const auto& piece : box.pulled) {
            const QRectF solid = part(piece.fromM, std::min(piece.toM, box.heldM));
            p.fillRect(solid, t.copper);
            p.setPen(QPen(t.plate, 1));
            p.drawLine(solid.topRight(), solid.bottomRight());
        }
        double at = box.heldM - box.leftM;
        for (const auto& piece : box.planned) {
            const bool ours = chosen != nullptr && chosen->run(piece.runId) != nullptr;
            p.setPen(QPen(ours ? t.ink : t.copper, ours ? 2 : 1));
            p.setBrush(ours ? QBrush(t.copperSoft) : QBrush(Qt::NoBrush));
            p.drawRect(part(at, std::min(at + piece.lengthM, box.heldM)));
            at += piece.lengthM;
        }
        for (const auto& piece : box.pulled)
            if (chosen != nullptr && chosen->run(piece.runId) != nullptr) {
                p.setPen(QPen(t.ink, 2));
                p.setBrush(Qt::NoBrush);
                p.drawRect(part(piece.fromM, std::min(piece.toM, box.heldM)));
            }
        const bool scrap = box.scrap && box.leftAfterM > 0.05;
        if (scrap)
            p.fillRect(part(box.heldM - box.leftAfterM, box.heldM), hatch(t.ink2));
        p.setFont(theme.small());
        p.setPen(scrap ? t.rust : t.ink);
        const QString rest = figure(formatLength(box.leftAfterM, session_.units(), 0));
        p.drawText(QRectF(right + theme.px(6), y, width() - right - theme.px(12), row),
                   Qt::AlignVCenter | Qt::AlignRight,
                   scrap ? tr("%1 scrap").arg(rest) : tr("%1 left").arg(rest));
        y += row;
    }
    // The scale below all of them.
    const double unit = session_.units() == UnitSystem::Metric ? 1 : metresPerFoot;
    const double step = niceStep(most / unit);
    p.setPen(QPen(t.ink2, 1));
    p.setFont(theme.small());
    for (double mark = 0; mark * unit <= most + 1e-6; mark += step) {
        p.drawLine(QPointF(x(mark * unit), y), QPointF(x(mark * unit), y + theme.px(5)));
        p.drawText(QRectF(x(mark * unit) - 40, y + theme.px(5), 80, theme.px(17)), Qt::AlignHCenter,
                   figure(shortFigure(mark, 1)));
    }
    p.drawText(QRectF(right + theme.px(14), y + theme.px(5), theme.px(40), theme.px(17)),
               Qt::AlignLeft, unit == 1 ? QStringLiteral("m") : QStringLiteral("ft"));
}

void BoxBars::mousePressEvent(QMouseEvent* event) {
    const PullPlan* plan = this->plan();
    const auto row =
        static_cast<std::size_t>(event->position().y() / Theme::instance().px(rowHigh));
    if (plan != nullptr && row < plan->boxes.size() && !plan->boxes[row].isNew)
        emit chosen(q(plan->boxes[row].id));
}

} // namespace burin
