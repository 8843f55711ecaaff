#include "app/budget/budget_stage.h"
#include "app/frame/said.h"
#include "app/frame/working_view.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/connector/fit.h"
#include "core/finding/expected.h"
#include "core/finding/run_loss.h"
#include <QHBoxLayout>
#include <QScrollArea>
#include <cmath>

namespace burin {

BudgetStage::BudgetStage(Session& session, QWidget* parent)
    : Stage(session, parent), question_(words(Voice::Headline, this)),
      answer_(words(Voice::Bold, this)), reason_(words(Voice::Text, this)),
      judged_(words(Voice::Small, this)), sheet_(new RunSheet(session, this)),
      plot_(new LossPlot(this)), plotHead_(nullptr), parameter_(new QComboBox(this)),
      binding_(words(Voice::Small, this)), verdict_(new Panel({}, this)),
      reach_(new Panel(tr("How far this cable goes"), this)),
      parts_(new Panel(tr("Where the dB go"), this)),
      curesPanel_(new Panel(tr("What would hold instead"), this)),
      costs_(words(Voice::Small, this)),
      feedline_(new Panel(tr("Power and standing wave along the line"), this)),
      feedlineView_(new FeedlineView(session, feedline_)), system_(new Panel({}, this)),
      systemSheet_(new SystemSheet(session, system_)), tree_(new TreeView(session, this)),
      bus_(new BusView(session, this)), treeScroll_(scrolled(tree_, this)),
      busScroll_(scrolled(bus_, this)), instead_(link({}, this)),
      systemCures_(words(Voice::Text, this)), expectedLink_(link(tr("Expected test"), this)) {
    reason_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    question_->setObjectName(QStringLiteral("budgetQuestion"));
    answer_->setObjectName(QStringLiteral("budgetAnswer"));
    reason_->setObjectName(QStringLiteral("budgetReason"));
    auto* plotPanel = new Panel({}, this);
    plotPanel->body()->addWidget(makePlotHead());
    plotPanel->body()->addWidget(plot_);
    plotPanel->body()->addWidget(treeScroll_);
    plotPanel->body()->addWidget(busScroll_);
    instead_->setObjectName(QStringLiteral("insteadOfPicture"));
    plotPanel->body()->addWidget(instead_);
    reach_->body()->addWidget(new ReachBars(session, this));
    parts_->body()->addWidget(new DbBar(session, this));
    auto* partsWorking = link(tr("Working"), this);
    partsWorking->setToolTip(tr("Show the working"));
    partsWorking->setObjectName(QStringLiteral("showPartsWorking"));
    auto* connectorsLink = link(tr("Connectors"), this);
    connectorsLink->setObjectName(QStringLiteral("compareConnectors"));
    expectedLink_->setObjectName(QStringLiteral("showExpected"));
    parts_->addToTitle(connectorsLink);
    parts_->addToTitle(partsWorking);
    verdict_->body()->addWidget(answer_);
    verdict_->body()->addWidget(reason_);
    auto* reachWorkingLink = link(tr("Working"), this);
    reachWorkingLink->setToolTip(tr("Show the working"));
    reachWorkingLink->setObjectName(QStringLiteral("showReachWorking"));
    auto* verdictLinks = new QHBoxLayout;
    verdictLinks->addWidget(judged_, 1);
    verdictLinks->addWidget(reachWorkingLink, 0, Qt::AlignBottom);
    verdict_->body()->addLayout(verdictLinks);
    auto* cures = new QWidget(this);
    auto* cureList = new QVBoxLayout(cures);
    cureList->setContentsMargins(0, 0, 6, 0);
    cureList->addWidget(new Cures(session, cures));
    costs_->setText(tr("spare · parts · work"));
    costs_->setToolTip(tr("What is left of the reach; the price of what is bought, in any one "
                          "currency; hours. They rank what is shown and are no offer."));
    costs_->setWordWrap(false);
    curesPanel_->addToTitle(costs_);
    cureList->addWidget(systemCures_);
    cureList->addStretch();
    auto* scroll = scrolled(cures, this);
    scroll->setMinimumHeight(40);
    curesPanel_->body()->addWidget(scroll, 1);
    // Hidden until a run asks for them: what is never shown must not make the window taller.
    for (QWidget* part : std::initializer_list<QWidget*>{feedline_, system_, treeScroll_,
                                                         busScroll_, instead_, systemCures_})
        part->hide();

    auto* leftColumn = new QWidget(this);
    auto* left = new QVBoxLayout(leftColumn);
    left->setContentsMargins(0, 0, 0, 0);
    left->setSpacing(8);
    left->addWidget(plotPanel, 1);
    left->addWidget(reach_);
    feedline_->body()->addWidget(feedlineView_);
    auto* feedlineLink = link(tr("Show the working"), this);
    feedlineLink->setObjectName(QStringLiteral("showFeedlineWorking"));
    feedline_->body()->addWidget(feedlineLink);
    connect(feedlineLink, &QPushButton::clicked, this,
            [this] { showWorking(session_, this, feedlineView_->working()); });
    left->addWidget(feedline_);
    system_->body()->addWidget(systemSheet_);
    left->addWidget(system_);
    auto* rightColumn = new QWidget(this);
    auto* right = new QVBoxLayout(rightColumn);
    right->setContentsMargins(0, 0, 0, 0);
    right->setSpacing(8);
    right->addWidget(verdict_);
    right->addWidget(parts_);
    right->addWidget(curesPanel_, 1);
    right->addStretch();
    // On a small screen both are scrolled; on a usual one all of them is in sight.
    plot_->setMinimumHeight(Theme::instance().px(150));
    auto* rightScroll = scrolled(rightColumn, this);
    rightScroll->setMaximumWidth(420);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(12);
    columns->addWidget(squeezed(leftColumn, this), 9);
    columns->addWidget(rightScroll, 5);
    // Larger windows give their room to the plot.
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(16, 12, 16, 12);
    all->setSpacing(8);
    all->addWidget(question_);
    all->addWidget(sheet_);
    all->addLayout(columns, 1);

    connect(reachWorkingLink, &QPushButton::clicked, this, [this] {
        if (tree_->answers() || bus_->answers())
            showSystemWorking();
        else
            showReachWorking();
    });
    connect(expectedLink_, &QPushButton::clicked, this, [this] {
        if (const Run* run = session_.shown())
            showWorking(session_, this,
                        expectedOf(session_.job(), *run, session_.catalogue()).working);
    });
    connect(connectorsLink, &QPushButton::clicked, this, [this] { showConnectors(); });
    connect(partsWorking, &QPushButton::clicked, this, [this] { showLossWorking(); });
    for (auto signal : {&Session::selectionChanged, &Session::previewChanged,
                        &Session::unitsChanged, &Session::jobChanged, &Session::findingsChanged})
        connect(&session, signal, this, [this] { refresh(); });
    connect(tree_, &TreeView::partChosen, this, [this] {
        systemSheet_->setPart(tree_->chosen());
        // Once the list has its new length: of 200 outlets most lie out of sight.
        QMetaObject::invokeMethod(
            this,
            [this] {
                const QRect row = tree_->chosenRect();
                treeScroll_->ensureVisible(0, row.center().y(), 0, 2 * row.height());
            },
            Qt::QueuedConnection);
    });
    connect(instead_, &QPushButton::clicked, this, [this] {
        lossWanted_ = !lossWanted_;
        refresh();
    });
}

void BudgetStage::showParts(unsigned) {
    const Run* run = session_.shown();
    const RunFinding* finding = session_.currentFinding();
    if (run == nullptr || finding == nullptr)
        return;
    const Service* service = session_.catalogue().service(run->serviceId);
    question_->setText(
        session_.selected().size() > 1
            ? tr("%1 runs selected: an entry goes to all; shown is %2")
                  .arg(session_.selected().size())
                  .arg(q(run->label))
            : tr("Will %1 hold on %2?")
                  .arg(service != nullptr ? q(service->name) : tr("a service"), q(run->label)));
    showSystem(*finding);
    showPlot(*finding);
    showVerdict(*finding);
    // A feedline of known power is asked for watts; what it may be long says its loss budget above.
    const bool system = systemSheet_->kind() != SystemSheet::Kind::None;
    const bool picture = tree_->answers() || bus_->answers();
    const Cable* cable = session_.catalogue().cable(run->cableId);
    expectedLink_->setVisible(cable != nullptr && cable->kind == CableKind::Balanced &&
                              !finding->className.empty());
    curesPanel_->setTitle(finding->cures.empty() ? tr("What would mend it, what to see to")
                                                 : tr("What would hold instead"));
    arrange({{curesPanel_, !finding->cures.empty() || !systemCures_->text().isEmpty()},
             {systemCures_, !systemCures_->text().isEmpty()},
             {costs_, !finding->cures.empty()},
             {feedline_, feedlineView_->answers()},
             {reach_, !feedlineView_->answers() && !system},
             {system_, system},
             {instead_, picture},
             {treeScroll_, tree_->answers() && !lossWanted_},
             {busScroll_, bus_->answers() && !lossWanted_},
             {plotHead_, parameter_->count() > 1 && (!picture || lossWanted_)},
             {plot_, !picture || lossWanted_}});
}

/// Hides first and shows then: showing lays out the window at once, which would grow by both.
void BudgetStage::arrange(std::initializer_list<std::pair<QWidget*, bool>> parts) {
    for (const auto& [widget, shown] : parts)
        if (!shown)
            widget->hide();
    for (const auto& [widget, shown] : parts)
        if (shown)
            widget->show();
}

void BudgetStage::showSystem(const RunFinding& finding) {
    // A length tried out changes nothing there, and asks for it often.
    if (!session_.previewing())
        systemSheet_->refresh();
    const auto kind = systemSheet_->kind();
    const Job& job = session_.job();
    const auto findings = session_.jobFindings();
    const Distribution* distribution = kind == SystemSheet::Kind::Distribution
                                           ? job.distributionOf(session_.currentId())
                                           : nullptr;
    const BusChain* chain =
        kind == SystemSheet::Kind::Bus ? job.busOf(session_.currentId()) : nullptr;
    const DistributionFinding* levels =
        findings && distribution != nullptr ? findings->distribution(distribution->id) : nullptr;
    const BusChainFinding* wave = findings && chain != nullptr ? findings->bus(chain->id) : nullptr;
    // A finding lives as long as all the others it was found with.
    tree_->setFinding(distribution, {findings, levels});
    bus_->setFinding(chain, {findings, wave});
    system_->setTitle(distribution != nullptr ? q(distribution->name)
                      : chain != nullptr      ? q(chain->name)
                      : kind == SystemSheet::Kind::Bus
                          ? tr("On which bus it is, say what it comes after")
                          : tr("Say what it hangs on, and the levels follow"));
    showSystemCures(finding, levels, tree_->answers() ? nullptr : bus_->answers() ? wave : nullptr);
    instead_->setText(lossWanted_
                          ? (chain != nullptr ? tr("Waveform instead") : tr("Levels instead"))
                          : tr("Loss over frequency instead"));
}

/// What is to be seen to on the distribution or bus, and on the run.
void BudgetStage::showSystemCures(const RunFinding& run, const DistributionFinding* levels,
                                  const BusChainFinding* wave) {
    QStringList lines;
    const auto add = [&](const std::vector<Sentence>& list) { lines << said(list, session_); };
    if (wave != nullptr) {
        add(wave->notes);
    } else if (levels != nullptr && tree_->answers()) {
        add(levels->notes);
    }
    add(run.notes);
    if (!run.caution.empty())
        lines << said(run.caution, session_);
    lines.removeDuplicates();
    for (auto& one : lines)
        one = begun(one);
    systemCures_->setText(lines.join(QStringLiteral(".\n")) + (lines.isEmpty() ? "" : "."));
}

void BudgetStage::showSystemWorking() {
    const auto findings = session_.jobFindings();
    if (!findings || !session_.hasJob())
        return;
    if (const Distribution* d = session_.job().distributionOf(session_.currentId()))
        if (const auto* f = findings->distribution(d->id); f != nullptr && f->fits(*d))
            if (const auto part = f->fedBy(session_.currentId()))
                showWorking(session_, this, levelWorking(*f, *part, session_.catalogue()));
    if (const BusChain* b = session_.job().busOf(session_.currentId()))
        if (const auto* f = findings->bus(b->id); f != nullptr && f->fits(*b))
            showWorking(session_, this, busWorking(*f, static_cast<std::size_t>(bus_->chosen())));
}

void BudgetStage::showVerdict(const RunFinding& f) {
    const auto units = session_.units();
    QString answer;
    Panel::Tone tone = Panel::Tone::Plain;
    // Of a system's run the reach says nothing, nor where power or warmth decide.
    const bool byReach = f.reach.reachM && !tree_->answers() && !bus_->answers() && !f.unfit;
    switch (byReach ? f.outlook : Outlook::Unknown) {
    case Outlook::Holds:
        answer = tr("Predicted to hold, %1 to spare")
                     .arg(figure(formatLength(*f.reach.reachM - f.lengthM, units)));
        break;
    case Outlook::Tight:
        answer = tr("Tight: only %1 to spare")
                     .arg(figure(formatLength(*f.reach.reachM - f.lengthM, units)));
        tone = Panel::Tone::Marginal;
        break;
    case Outlook::Fails:
        tone = Panel::Tone::Bad;
        answer = f.lengthM < f.reach.leastM ? tr("Will not hold: too short")
                 : *f.reach.reachM > 0
                     ? tr("Will not hold: %1 too long")
                           .arg(figure(formatLength(f.lengthM - *f.reach.reachM, units)))
                     : tr("Will not hold on this cable");
        break;
    case Outlook::Unknown:
        answer = f.outlook == Outlook::Holds   ? tr("Predicted to hold")
                 : f.outlook == Outlook::Tight ? tr("Tight: less than a decibel to spare")
                 : f.outlook == Outlook::Fails ? tr("Will not hold")
                                               : tr("Not answered yet");
        if (f.outlook == Outlook::Fails)
            tone = Panel::Tone::Bad;
        break;
    }
    verdict_->setTone(tone);
    answer_->setText(answer);
    QString reason = begun(said(f.outlookReason, session_));
    for (const auto& fault : f.faults)
        reason += (reason.isEmpty() ? "" : "\n") + said(whatToDo(fault), session_);
    // A question has its mark.
    const auto ended = [&reason] {
        return reason.isEmpty() || reason.endsWith(u'.') || reason.endsWith(u'?');
    };
    const auto add = [&](const QString& text) {
        reason += (ended() ? QString() : QStringLiteral(".")) +
                  (reason.isEmpty() ? QString() : QStringLiteral(" ")) + text;
    };
    if (byReach && f.reach.permanentM && *f.reach.permanentM > 0)
        add(tr("Channel %1, permanent link %2")
                .arg(figure(formatLength(channelReachM(*session_.shown(), session_.job().info,
                                                       session_.catalogue()),
                                         units, 0)),
                     figure(formatLength(*f.reach.permanentM, units, 0))));
    if (f.powered && f.powered->reason.empty())
        add(tr("Power type %1: %2 V and %3 there, about %4 in its bundle")
                .arg(f.powered->type)
                .arg(figure(formatFixed(f.powered->deviceV, 1)),
                     figure(formatWatt(f.powered->wantedW)),
                     figure(formatTemperature(f.powered->warmestC, units))));
    reason_->setText(reason + (ended() ? "" : "."));
    QString tested = tr("A prediction is no pass: untested.");
    if (!f.measurements.empty()) {
        tested = tr("Measured, for the service: %1").arg(term(stateName(f.serviceState)));
        if (!f.className.empty())
            tested += tr("; for %1%2: %3")
                          .arg(session_.job().info.limitSet == LimitSet::Iso ? tr("class ") : "",
                               q(f.className), term(stateName(f.classState)));
        tested += QLatin1Char('.');
    }
    judged_->setText(tested);
}

void BudgetStage::showConnectors() {
    const Run* run = session_.shown();
    const Cable* cable = run != nullptr ? session_.catalogue().cable(run->cableId) : nullptr;
    if (cable == nullptr)
        return;
    const double top = topMhzOf(*run, *cable, session_.catalogue().service(run->serviceId));
    const bool outdoors = std::any_of(run->connections.begin(), run->connections.end(),
                                      [](const auto& c) { return c.outdoors; });
    showWorking(session_, this,
                choiceWorking(*cable, top, outdoors,
                              connectorChoices(*cable, top, outdoors, session_.catalogue())));
}

void BudgetStage::showReachWorking() {
    const Run* run = session_.shown();
    const RunFinding* f = session_.currentFinding();
    const Service* service =
        run != nullptr ? session_.catalogue().service(run->serviceId) : nullptr;
    if (f == nullptr || service == nullptr || session_.catalogue().cable(run->cableId) == nullptr)
        return;
    showWorking(
        session_, this,
        reachWorking(questionOf(*run, session_.job().info, session_.catalogue(), *service, nullptr),
                     session_.catalogue(), f->reach));
}

void BudgetStage::showLossWorking() {
    const Run* run = session_.shown();
    const RunFinding* f = session_.currentFinding();
    if (run != nullptr && f != nullptr && f->worstMhz > 0)
        showWorking(session_, this, lossWorking(*run, session_.catalogue(), f->worstMhz));
}

QList<KeyHelp> BudgetStage::keys() const {
    return {
        {tr("Ctrl+P"), tr("what is plotted: loss, return loss, crosstalk and the others")},
        {tr("Up, Down"), tr("in a tree or a bus: the next part; the mark in the plot follows")}};
}

} // namespace burin
