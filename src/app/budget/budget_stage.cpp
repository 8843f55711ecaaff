#include "app/budget/budget_stage.h"
#include "app/frame/working_view.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include <QHBoxLayout>
#include <QScrollArea>
#include <cmath>

namespace burin {

BudgetStage::BudgetStage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), question_(words(Voice::Headline, this)),
      answer_(words(Voice::Bold, this)), reason_(words(Voice::Text, this)),
      judged_(words(Voice::Small, this)), sheet_(new RunSheet(session, this)),
      plot_(new LossPlot(this)), verdict_(new Panel({}, this)),
      reach_(new Panel(tr("How far this cable goes"), this)), parts_(new Panel({}, this)),
      curesPanel_(new Panel(tr("What would hold instead"), this)),
      feedline_(new Panel(tr("Power and standing wave along the line"), this)),
      feedlineView_(new FeedlineView(session, feedline_)) {
    reason_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    question_->setObjectName(QStringLiteral("budgetQuestion"));
    answer_->setObjectName(QStringLiteral("budgetAnswer"));
    auto* plotPanel = new Panel({}, this);
    plotPanel->body()->addWidget(plot_);
    reach_->body()->addWidget(new ReachBars(session, this));
    parts_->body()->addWidget(new DbBar(session, this));
    auto* partsWorking = link(tr("Show the working"), this);
    parts_->body()->addWidget(partsWorking);
    verdict_->body()->addWidget(answer_);
    verdict_->body()->addWidget(reason_);
    verdict_->body()->addWidget(judged_);
    auto* reachWorkingLink = link(tr("Show the working"), this);
    reachWorkingLink->setObjectName(QStringLiteral("showReachWorking"));
    verdict_->body()->addWidget(reachWorkingLink);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->viewport()->setAutoFillBackground(false);
    scroll->setWidget(new Cures(session, scroll));
    scroll->widget()->setAutoFillBackground(false);
    scroll->setMinimumHeight(40);
    curesPanel_->body()->addWidget(scroll, 1);

    auto* left = new QVBoxLayout;
    left->setSpacing(8);
    left->addWidget(plotPanel, 1);
    left->addWidget(reach_);
    feedline_->body()->addWidget(feedlineView_);
    auto* feedlineLink = link(tr("Show the working"), this);
    feedlineLink->setObjectName(QStringLiteral("showFeedlineWorking"));
    feedline_->body()->addWidget(feedlineLink);
    connect(feedlineLink, &QPushButton::clicked, this,
            [this] { showWorking(this, feedlineView_->working()); });
    left->addWidget(feedline_);
    auto* right = new QVBoxLayout;
    right->setSpacing(8);
    right->addWidget(verdict_);
    right->addWidget(parts_);
    right->addWidget(curesPanel_, 1);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(12);
    columns->addLayout(left, 9);
    columns->addLayout(right, 5);
    // Larger windows give their room to the plot.
    for (auto* panel : {verdict_, parts_, curesPanel_})
        panel->setMaximumWidth(420);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(16, 12, 16, 12);
    all->setSpacing(8);
    all->addWidget(question_);
    all->addWidget(sheet_);
    all->addLayout(columns, 1);

    connect(reachWorkingLink, &QPushButton::clicked, this, [this] { showReachWorking(); });
    connect(partsWorking, &QPushButton::clicked, this, [this] { showLossWorking(); });
    for (auto signal :
         {&Session::selectionChanged, &Session::previewChanged, &Session::unitsChanged})
        connect(&session, signal, this, [this] { show(); });
}

void BudgetStage::show() {
    const Run* run = session_.shown();
    const RunFinding* finding = session_.currentFinding();
    // A hidden stage catches up when it is shown.
    if (run == nullptr || finding == nullptr || !isVisible())
        return;
    const Service* service = session_.catalogue().service(run->serviceId);
    question_->setText(
        session_.selected().size() > 1
            ? tr("%1 runs selected: an entry goes to all; shown is %2")
                  .arg(session_.selected().size())
                  .arg(q(run->label))
            : tr("Will %1 hold on %2?")
                  .arg(service != nullptr ? q(service->name) : tr("a service"), q(run->label)));
    showPlot(*finding);
    showVerdict(*finding);
    // A feedline of known power is asked for watts; what it may be long says its loss budget above.
    feedline_->setVisible(feedlineView_->answers());
    reach_->setVisible(!feedlineView_->answers());
    parts_->setTitle(finding->parts.empty()
                         ? tr("Where the dB go")
                         : tr("Where the dB go, at %1").arg(q(formatMhz(finding->worstMhz))));
}

void BudgetStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    show();
}

void BudgetStage::showPlot(const RunFinding& f) {
    PlotContent content;
    content.title = tr("Insertion loss");
    content.quick = session_.previewing();
    const auto vector = [](const std::vector<double>& v) {
        return QVector<double>(v.begin(), v.end());
    };
    const auto& c = f.channel;
    if (!f.limitName.empty())
        content.curves.append({PlotContent::Kind::Limit, tr("limit, %1").arg(q(f.limitName)),
                               vector(c.frequencyMhz), vector(f.limitDb)});
    if (!c.frequencyMhz.empty()) {
        const bool warm = c.warmestC > c.coolestC;
        content.curves.append(
            {PlotContent::Kind::Predicted,
             warm ? tr("predicted, %1 to %2")
                        .arg(q(formatTemperature(c.coolestC, session_.units())),
                             q(formatTemperature(c.warmestC, session_.units())))
                  : tr("predicted at %1").arg(q(formatTemperature(c.warmestC, session_.units()))),
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
                                       tr("measured, %1").arg(q(std::string(linkKindName(m.link)))),
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
        content.markText =
            *f.tightestDb >= 0
                ? tr("margin %1 dB at %2")
                      .arg(q(formatFixed(*f.tightestDb, 1)), q(formatMhz(*f.tightestAtMhz)))
                : tr("%1 dB over at %2")
                      .arg(q(formatFixed(-*f.tightestDb, 1)), q(formatMhz(*f.tightestAtMhz)));
    }
    plot_->setContent(content);
}

void BudgetStage::showVerdict(const RunFinding& f) {
    const auto units = session_.units();
    QString answer;
    Panel::Tone tone = Panel::Tone::Plain;
    switch (f.outlook) {
    case Outlook::Holds:
        answer = tr("Predicted to hold, %1 to spare")
                     .arg(q(formatLength(*f.reach.reachM - f.lengthM, units)));
        break;
    case Outlook::Tight:
        answer =
            tr("Tight: only %1 to spare").arg(q(formatLength(*f.reach.reachM - f.lengthM, units)));
        tone = Panel::Tone::Marginal;
        break;
    case Outlook::Fails:
        tone = Panel::Tone::Bad;
        answer = f.lengthM < f.reach.leastM ? tr("Will not hold: too short")
                 : *f.reach.reachM > 0
                     ? tr("Will not hold: %1 too long")
                           .arg(q(formatLength(f.lengthM - *f.reach.reachM, units)))
                     : tr("Will not hold on this cable");
        break;
    case Outlook::Unknown:
        answer = tr("Not answered yet");
        break;
    }
    verdict_->setTone(tone);
    answer_->setText(answer);
    QString reason = q(f.outlookReason);
    if (!reason.isEmpty())
        reason[0] = reason[0].toUpper();
    for (const auto& fault : f.faults)
        reason += (reason.isEmpty() ? "" : "\n") + q(fault.what + ". " + fault.cure);
    reason_->setText(reason + (reason.isEmpty() || reason.endsWith(QLatin1Char('.')) ? "" : "."));
    QString tested = tr("A prediction is no pass: untested.");
    if (!f.measurements.empty()) {
        tested = tr("Measured, for the service: %1").arg(q(std::string(stateName(f.serviceState))));
        if (!f.className.empty())
            tested += tr("; for %1%2: %3")
                          .arg(session_.job().info.limitSet == LimitSet::Iso ? tr("class ") : "",
                               q(f.className), q(std::string(stateName(f.classState))));
        tested += QLatin1Char('.');
    }
    judged_->setText(tested);
}

void BudgetStage::showReachWorking() {
    const Run* run = session_.shown();
    const RunFinding* f = session_.currentFinding();
    const Service* service =
        run != nullptr ? session_.catalogue().service(run->serviceId) : nullptr;
    if (f == nullptr || service == nullptr || session_.catalogue().cable(run->cableId) == nullptr)
        return;
    showWorking(this, reachWorking(questionOf(*run, session_.job().info, session_.catalogue(),
                                              *service, nullptr),
                                   session_.catalogue(), f->reach));
}

void BudgetStage::showLossWorking() {
    const Run* run = session_.shown();
    const RunFinding* f = session_.currentFinding();
    if (run != nullptr && f != nullptr && f->worstMhz > 0)
        showWorking(this, lossWorking(*run, session_.catalogue(), f->worstMhz));
}

} // namespace burin
