#include "app/budget/budget_stage.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/manners.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/finding/adopt_cure.h"
#include "core/finding/alternatives.h"
#include <QHBoxLayout>
#include <QPainter>
#include <QStyle>
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

void follow(Session& session, QWidget* widget) {
    for (auto signal : {&Session::selectionChanged, &Session::previewChanged,
                        &Session::unitsChanged, &Session::findingsChanged})
        QObject::connect(&session, signal, widget, [widget] {
            // Laying everything out anew is slow: only when the widget needs another height.
            if (widget->sizeHint().height() != widget->height())
                widget->updateGeometry();
            widget->update();
        });
    QObject::connect(&Theme::instance(), &Theme::changed, widget, [widget] {
        widget->updateGeometry();
        widget->update();
    });
}

/// Services worth a bar: the wanted one, and those of its kind with a reach.
std::vector<const ServiceReach*> barsOf(const RunFinding* finding, const Session& session) {
    std::vector<const ServiceReach*> out;
    if (finding == nullptr || !session.hasJob())
        return out;
    constexpr std::size_t most = 6;
    const Run* run = session.current();
    const Service* wanted = run == nullptr ? nullptr : session.catalogue().service(run->serviceId);
    for (const auto& s : finding->reaches) {
        const Service* service = session.catalogue().service(s.serviceId);
        const bool kin =
            service != nullptr && s.reach.reachM && *s.reach.reachM > 0 &&
            (service->pairs > 0 ? classToBeProven(service) && service->bitRateMbit >= 100
                                : wanted == nullptr || service->distributed == wanted->distributed);
        if (s.wanted || (kin && out.size() + 1 < most))
            out.push_back(&s);
    }
    return out;
}

} // namespace

ReachBars::ReachBars(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAccessibleName(tr("Reach for each service"));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    follow(session, this);
}

QSize ReachBars::sizeHint() const {
    const auto count = static_cast<int>(barsOf(session_.currentFinding(), session_).size());
    return {400, Theme::instance().px(19) * std::max(1, count) + Theme::instance().px(18)};
}

void ReachBars::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const RunFinding* finding = session_.currentFinding();
    const auto bars = barsOf(finding, session_);
    if (finding == nullptr || bars.empty())
        return;
    QPainter p(this);
    p.setFont(theme.small());
    double nameWidth = 0;
    double most = finding->lengthM;
    for (const auto* bar : bars) {
        const QFontMetricsF metrics(bar->wanted ? theme.bold() : theme.small());
        nameWidth = std::max(nameWidth, metrics.horizontalAdvance(q(bar->serviceName)) + 1);
        // A circuit of 800 m would press the rest to nothing; it runs off the scale instead.
        if (bar->reach.reachM)
            most =
                std::max(most, std::min(*bar->reach.reachM, 4 * std::max(finding->lengthM, 25.0)));
    }
    const double left = std::min(nameWidth, width() * 0.4) + theme.px(12);
    const double right = width() - theme.px(72);
    const auto x = [&](double metres) {
        return left + std::min(1.0, metres / most) * (right - left);
    };
    const double row = theme.px(19);
    double y = 0;
    for (const auto* bar : bars) {
        const bool known = bar->reach.reachM.has_value();
        const bool holds = known && bar->reach.holds(finding->lengthM);
        p.setPen(bar->wanted ? t.ink : t.ink2);
        p.setFont(bar->wanted ? theme.bold() : theme.small());
        p.drawText(QRectF(0, y, left - theme.px(8), row), Qt::AlignRight | Qt::AlignVCenter,
                   elided(p, q(bar->serviceName), left - theme.px(8)));
        const QRectF box(left, y + row * 0.25, x(known ? *bar->reach.reachM : 0) - left, row * 0.5);
        p.fillRect(box, holds ? t.copper : t.copperSoft);
        if (!holds)
            p.fillRect(box, hatch(t.rust));
        p.setFont(theme.figures(12));
        p.setPen(t.ink);
        const QString reach = known ? figure(formatLength(*bar->reach.reachM, session_.units(), 0))
                                    : tr("not answered");
        double at = box.right() + theme.px(6);
        // The run's own line would strike through it: it steps behind.
        const double line = x(finding->lengthM);
        if (line > at - theme.px(4) &&
            line < at + p.fontMetrics().horizontalAdvance(reach) + theme.px(4))
            at = line + theme.px(6);
        p.drawText(QPointF(at, y + row * 0.7), reach);
        y += row;
    }
    const double across = x(finding->lengthM);
    p.setPen(QPen(t.ink, 2));
    p.drawLine(QPointF(across, 0), QPointF(across, y + theme.px(2)));
    p.setFont(theme.small());
    const QString text =
        tr("this run %1").arg(figure(formatLength(finding->lengthM, session_.units())));
    const double wide = p.fontMetrics().horizontalAdvance(text);
    p.drawText(QPointF(std::clamp(across - wide / 2, 0.0, width() - wide), y + theme.px(14)), text);
}

DbBar::DbBar(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAccessibleName(tr("Where the dB go"));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    follow(session, this);
}

QSize DbBar::sizeHint() const {
    const RunFinding* f = session_.currentFinding();
    const auto rows = f == nullptr ? 2 : static_cast<int>(f->parts.size()) + 1;
    return {260, Theme::instance().px(26) + rows * Theme::instance().px(18)};
}

void DbBar::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const RunFinding* f = session_.currentFinding();
    if (f == nullptr || f->parts.empty())
        return;
    QPainter p(this);
    double total = 0;
    for (const auto& part : f->parts)
        total += part.lossDb;
    const bool limited = f->tightestDb.has_value();
    const double limit = limited ? total + *f->tightestDb : total;
    const double most = std::max({total, limit, 0.001});
    const double w = width() - 2;
    const std::array<QColor, 4> colours{t.copper, t.ink2, t.ink, t.ochre};
    double x = 0;
    const double barHeight = theme.px(16);
    for (std::size_t i = 0; i < f->parts.size(); ++i) {
        const double wide = std::max(0.0, f->parts[i].lossDb) / most * w;
        const std::size_t colour =
            f->parts[i].of == LossOf::Warmth ? 3 : std::min<std::size_t>(i, 2);
        p.fillRect(QRectF(x, 2, wide, barHeight), colours[colour]);
        x += wide;
    }
    p.setPen(QPen(t.ink2, 1, Qt::DashLine));
    p.drawRect(QRectF(0, 2, limit / most * w, barHeight));
    double y = theme.px(24);
    const double row = theme.px(18);
    const auto line = [&](const QString& name, double value, const QColor* swatch) {
        if (swatch != nullptr)
            p.fillRect(QRectF(0, y + row * 0.25, row * 0.5, row * 0.5), *swatch);
        p.setPen(t.ink);
        p.setFont(theme.text());
        const QString lossDb = figure(formatFixed(value, 1)) + tr(" dB");
        const double taken = QFontMetricsF(theme.figures()).horizontalAdvance(lossDb);
        p.drawText(QRectF(row, y, w - row, row), Qt::AlignVCenter,
                   elided(p, name, w - row - taken - theme.px(4)));
        p.setFont(theme.figures());
        p.drawText(QRectF(row, y, w - row, row), Qt::AlignVCenter | Qt::AlignRight, lossDb);
        y += row;
    };
    for (std::size_t i = 0; i < f->parts.size(); ++i) {
        const std::size_t colour =
            f->parts[i].of == LossOf::Warmth ? 3 : std::min<std::size_t>(i, 2);
        line(said(f->parts[i].name, session_), f->parts[i].lossDb, &colours[colour]);
    }
    const QString at = figure(formatMhz(f->worstMhz));
    line(limited ? tr("at %1, of %2 dB").arg(at, figure(formatFixed(limit, 1)))
                 : tr("at %1").arg(at),
         total, nullptr);
}

namespace {

/// Broken where a word ends: a button does not do that itself.
QString inLines(const QString& text, const QFontMetrics& metrics, int wide) {
    QString out;
    QString line;
    for (const QString& word : text.split(u' ')) {
        const QString longer = line.isEmpty() ? word : line + u' ' + word;
        const bool fits = line.isEmpty() || metrics.horizontalAdvance(longer) <= wide;
        if (!fits)
            out += line + u'\n';
        line = fits ? longer : word;
    }
    return out + line;
}

/// What a change takes, short: "15 · 30 min".
QString costOf(const Cost& cost, const Session& session) {
    const QString hours = said(cost.work(), session);
    if (cost.price < 0.5)
        return cost.hours < 0.05 ? BudgetStage::tr("no more") : hours;
    return BudgetStage::tr("%1 · %2").arg(figure(formatFixed(cost.price, 0)), hours);
}

} // namespace

Cures::Cures(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(new QVBoxLayout(this)) {
    list_->setContentsMargins(0, 0, 0, 0);
    list_->setSpacing(0);
    setObjectName(QStringLiteral("cures"));
    // The buttons stay and change their words: making new ones at each step of a drag is slow.
    constexpr int most = 8;
    for (int i = 0; i < most; ++i) {
        auto* button = new QPushButton(this);
        button->setFlat(true);
        // A long name must not push the list wider than its place.
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        button->setCursor(Qt::PointingHandCursor);
        button->hide();
        connect(button, &QPushButton::clicked, this, [this, i] {
            const RunFinding* f = session_.currentFinding();
            if (f != nullptr && static_cast<std::size_t>(i) < f->cures.size())
                adopt(Cure(f->cures[static_cast<std::size_t>(i)]));
        });
        auto* cost = words(Voice::Small, this);
        cost->setWordWrap(false);
        cost->setAlignment(Qt::AlignRight);
        cost->hide();
        auto* row = new QHBoxLayout;
        row->setSpacing(8);
        row->addWidget(button, 1);
        row->addWidget(cost);
        list_->addLayout(row);
        rows_.push_back({button, cost, row});
    }
    for (auto signal : {&Session::selectionChanged, &Session::previewChanged,
                        &Session::unitsChanged, &Session::findingsChanged})
        connect(&session, signal, this, [this] { show(); });
}

void Cures::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    show();
}

void Cures::show() {
    const RunFinding* f = session_.currentFinding();
    constexpr std::size_t few = 4; // what does not hold is only shown where little does
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const auto& [button, price, line] = rows_[i];
        const bool used = f != nullptr && i < f->cures.size() && (i < few || f->cures[i].holds);
        button->setVisible(used);
        price->setVisible(used);
        if (!used)
            continue;
        const Cure& cure = f->cures[i];
        const QString spare = figure(formatLength(std::abs(cure.spareM), session_.units(), 0));
        const QString title = begun(said(cure.title, session_));
        const bool toSpare = cure.tellsReach() && cure.reach.reachM;
        price->setText(!cure.holds ? tr("%1 short").arg(spare)
                       : toSpare   ? tr("%1 · %2").arg(spare, costOf(cure.cost, session_))
                                   : costOf(cure.cost, session_));
        // Beside a long name there is no room for what is told of it: that goes below.
        const QFontMetrics metrics = button->fontMetrics();
        const int beside = width() - price->sizeHint().width() - Theme::instance().px(8);
        const bool fits = metrics.horizontalAdvance(title) <= beside;
        line->setDirection(fits ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
        line->setSpacing(fits ? 8 : 0);
        button->setText(asWritten(inLines(title, metrics, width())));
        button->setEnabled(cure.canBeAdopted());
        QStringList told;
        if (!cure.holds || toSpare)
            told << (cure.holds ? tr("%1 to spare").arg(spare) : tr("%1 short").arg(spare));
        if (cure.holds)
            told << said(cure.cost.said(), session_);
        told << said(cure.reason, session_);
        button->setToolTip(tr("%1: %2").arg(title, told.join(QStringLiteral("; "))));
        button->setAccessibleName(tr("%1: %2").arg(
            cure.canBeAdopted() ? tr("Adopt %1").arg(title) : title, told.first()));
        if (button->property("holds").toBool() != cure.holds ||
            !button->property("holds").isValid()) {
            button->setProperty("holds", cure.holds);
            button->style()->unpolish(button);
            button->style()->polish(button);
        }
    }
}

void Cures::adopt(const Cure& cure) {
    if (cure.isOfThisRun()) {
        const auto findings = session_.jobFindings();
        const Edit edit =
            findings ? adopted(session_.pending(), *findings, session_.currentId(), cure) : Edit();
        if (!edit.changes.empty())
            session_.commit(edit);
    } else
        session_.changeSelected(
            QStringLiteral("adopt %1").arg(q(burin::render(cure.title, UnitSystem::Metric))),
            [&](Run& run) { run = cured(std::move(run), cure); });
}

} // namespace burin
