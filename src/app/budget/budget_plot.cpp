// What Budget plots: loss, or any other parameter as it is expected.
#include "app/budget/budget_stage.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include <QHBoxLayout>
#include <QShortcut>

namespace burin {

QWidget* BudgetStage::makePlotHead() {
    plotHead_ = new QWidget(this);
    auto* row = new QHBoxLayout(plotHead_);
    row->setContentsMargins(0, 0, 0, 0);
    plotHead_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    parameter_->setObjectName(QStringLiteral("plotted"));
    parameter_->setAccessibleName(tr("What is plotted"));
    parameter_->setToolTip(tr("What is plotted, with what is expected to spare against the class "
                              "(Ctrl+P)"));
    parameter_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    binding_->setObjectName(QStringLiteral("plotBinding"));
    row->addWidget(parameter_);
    row->addWidget(binding_, 1);
    row->addWidget(expectedLink_, 0, Qt::AlignTop);
    connect(parameter_, &QComboBox::activated, this, [this](int index) {
        plotted_ = static_cast<Parameter>(parameter_->itemData(index).toInt());
        refresh();
    });
    connect(new QShortcut(QKeySequence(QStringLiteral("Ctrl+P")), this), &QShortcut::activated,
            parameter_, [this] { parameter_->setFocus(Qt::ShortcutFocusReason); });
    return plotHead_;
}

/// Loss, and what else is expected of the channel, each with its margin.
void BudgetStage::showParameters(const RunFinding& f, const Expected& expected) {
    const QSignalBlocker quiet(parameter_);
    int count = 0;
    // In place: the list may be open.
    const auto add = [&](Parameter parameter, const QString& more) {
        const QString text = term(parameterName(parameter)) + more;
        if (count == parameter_->count())
            parameter_->addItem(text);
        else if (parameter_->itemText(count) != text)
            parameter_->setItemText(count, text);
        parameter_->setItemData(count++, static_cast<int>(parameter));
    };
    add(Parameter::InsertionLoss, {});
    for (const auto& r : expected.results)
        if (r.parameter != Parameter::InsertionLoss && expected.trace(r.parameter) != nullptr)
            add(r.parameter, (r.margin < 0 ? tr(": %1 %2 over") : tr(": %1 %2 spare"))
                                 .arg(figure(formatFixed(std::abs(r.margin), 1)), q(r.unit)));
    while (parameter_->count() > count)
        parameter_->removeItem(count);
    const int at = parameter_->findData(static_cast<int>(plotted_));
    parameter_->setCurrentIndex(std::max(0, at));
    const bool lossBinds = f.reach.boundBy == Bound::InsertionLoss;
    const bool loss = parameter_->currentIndex() == 0;
    const bool other = loss && !lossBinds && !f.reach.reason.empty();
    binding_->setText(!loss   ? tr("expected against class %1, no proof").arg(q(expected.className))
                      : other ? tr("what is plotted does not bind, see at the right")
                              : QString());
    binding_->setToolTip(other ? said(f.reach.reason, session_) : QString());
}

PlotContent BudgetStage::expectedContent(const RunFinding& f, const Expected& expected,
                                         Parameter parameter) {
    PlotContent content;
    content.title = term(parameterName(parameter));
    content.lossDown = false;
    for (const auto& line : expected.lines)
        if (line.limit.parameter == parameter) {
            content.limitIsUpper = line.upper;
            content.curves.append(limitCurve(line, said(line.name, session_)));
        }
    if (const Trace* trace = expected.trace(parameter))
        content.curves.append({PlotContent::Kind::Predicted,
                               tr("expected"),
                               {trace->frequencyMhz.begin(), trace->frequencyMhz.end()},
                               {trace->value.begin(), trace->value.end()}});
    for (const auto& m : f.measurements)
        if (!m.superseded)
            for (const auto& trace : m.traces)
                if (trace.parameter == parameter)
                    content.curves.append({PlotContent::Kind::Measured,
                                           tr("measured, %1").arg(term(linkKindName(m.link))),
                                           {trace.frequencyMhz.begin(), trace.frequencyMhz.end()},
                                           {trace.value.begin(), trace.value.end()}});
    if (const ExpectedResult* worst = expected.result(parameter)) {
        content.markMhz = worst->atMhz;
        content.markFrom = worst->expected;
        content.markTo = worst->limit;
        content.markText = (worst->margin < 0 ? tr("%1 %2 over at %3") : tr("%1 %2 spare at %3"))
                               .arg(figure(formatFixed(std::abs(worst->margin), 1)), q(worst->unit),
                                    figure(formatMhz(worst->atMhz)));
    }
    return content;
}

PlotContent BudgetStage::lossContent(const RunFinding& f) const {
    PlotContent content;
    content.title = tr("Insertion loss");
    content.quick = session_.previewing();
    const auto vector = [](const std::vector<double>& v) {
        return QVector<double>(v.begin(), v.end());
    };
    const auto& c = f.channel;
    if (!f.limitName.empty())
        content.curves.append({PlotContent::Kind::Limit,
                               tr("limit, %1").arg(said(f.limitName, session_)),
                               vector(c.frequencyMhz), vector(f.limitDb)});
    if (!c.frequencyMhz.empty()) {
        const bool warm = c.warmestC > c.coolestC;
        content.curves.append(
            {PlotContent::Kind::Predicted,
             warm ? tr("predicted, %1 to %2")
                        .arg(figure(formatTemperature(c.coolestC, session_.units())),
                             figure(formatTemperature(c.warmestC, session_.units())))
                  : tr("predicted at %1")
                        .arg(figure(formatTemperature(c.warmestC, session_.units()))),
             vector(c.frequencyMhz), vector(c.lossDb)});
        if (warm) {
            content.bandX = vector(c.frequencyMhz);
            content.bandLow = vector(c.coolDb);
            content.bandHigh = vector(c.warmDb);
        }
    }
    for (const auto& m : f.measurements) {
        if (m.superseded)
            continue;
        for (const auto& trace : m.traces)
            if (trace.parameter == Parameter::InsertionLoss)
                content.curves.append({PlotContent::Kind::Measured,
                                       tr("measured, %1").arg(term(linkKindName(m.link))),
                                       vector(trace.frequencyMhz), vector(trace.value)});
    }
    if (f.tightestDb && f.tightestAtMhz) {
        const auto& x = c.frequencyMhz;
        const auto at = std::min<std::size_t>(
            x.size() - 1, static_cast<std::size_t>(
                              std::lower_bound(x.begin(), x.end(), *f.tightestAtMhz) - x.begin()));
        content.markMhz = x[at];
        content.markFrom = c.lossDb[at];
        content.markTo = c.lossDb[at] + *f.tightestDb;
        content.markText = *f.tightestDb >= 0 ? tr("margin %1 dB at %2")
                                                    .arg(figure(formatFixed(*f.tightestDb, 1)),
                                                         figure(formatMhz(*f.tightestAtMhz)))
                                              : tr("%1 dB over at %2")
                                                    .arg(figure(formatFixed(-*f.tightestDb, 1)),
                                                         figure(formatMhz(*f.tightestAtMhz)));
    }
    return content;
}

void BudgetStage::showPlot(const RunFinding& f) {
    const Run* run = session_.shown();
    const Expected expected =
        run == nullptr ? Expected() : expectedOf(session_.job(), *run, session_.catalogue());
    showParameters(f, expected);
    const auto shown = static_cast<Parameter>(parameter_->currentData().toInt());
    PlotContent content =
        shown == Parameter::InsertionLoss ? lossContent(f) : expectedContent(f, expected, shown);
    content.quick = session_.previewing();
    plot_->setContent(content);
}

} // namespace burin
