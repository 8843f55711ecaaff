#include "app/test/test_stage.h"
#include "app/frame/file_dialog.h"
#include "app/frame/said.h"
#include "app/frame/working_view.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include <QDropEvent>
#include <QHBoxLayout>
#include <QMimeData>

namespace burin {
namespace {

QVector<double> vectorOf(const std::vector<double>& v) {
    return {v.begin(), v.end()};
}

QString judgementLine(const Session& session, const Judgement& j, const QString& what) {
    const QString reason = said(j.reason, session).toHtmlEscaped();
    if (j.against.empty())
        return QObject::tr("%1: %2").arg(what, reason);
    return QObject::tr("%1, %2: <b>%3</b>%4")
        .arg(what, said(j.against, session).toHtmlEscaped(), term(stateName(j.state)),
             reason.isEmpty() ? QString() : QStringLiteral(". ") + reason);
}

} // namespace

TestStage::TestStage(Session& session, QWidget* parent)
    : Stage(session, parent), finding_(words(Voice::Headline, this)),
      coverage_(words(Voice::Small, this)), service_(words(Voice::Text, this)),
      class_(words(Voice::Text, this)), notes_(words(Voice::Text, this)),
      entry_(new TesterEntry(session, this)), tone_(new ToneLine(session, this)),
      pairsPanel_(new Panel(tr("Pairs, end to end"), this)),
      margins_(new Panel(tr("Against the limits"), this)),
      notesPanel_(new Panel(tr("What was seen"), this)), unitPanel_(new Panel({}, this)),
      pairs_(new PairsView(session, this)), bars_(new MarginBars(this)),
      byService_(new QPushButton(tr("the service"), this)),
      byClass_(new QPushButton(tr("its class"), this)),
      working_(link(tr("Show the working"), this)),
      ours_(link(tr("It is this run's all the same"), this)), history_(new QVBoxLayout),
      plot_(new LossPlot(this)) {
    setAcceptDrops(true);
    finding_->setObjectName(QStringLiteral("testFinding"));
    coverage_->setObjectName(QStringLiteral("coverage"));
    coverage_->setWordWrap(false);
    auto* head = new QHBoxLayout;
    head->addWidget(finding_, 1);
    head->addWidget(coverage_);
    pairsPanel_->body()->addWidget(pairs_);
    pairsPanel_->body()->addStretch();
    auto* choice = new QHBoxLayout;
    for (auto* button : {byService_, byClass_}) {
        button->setCheckable(true);
        button->setAutoExclusive(true);
        choice->addWidget(button);
    }
    byService_->setChecked(true);
    choice->addStretch();
    choice->addWidget(working_);
    margins_->body()->addLayout(choice);
    margins_->body()->addWidget(bars_);
    margins_->body()->addStretch();
    auto* seen = new QWidget(this);
    auto* lines = new QVBoxLayout(seen);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(4);
    for (auto* label : {service_, class_, notes_})
        lines->addWidget(label);
    for (auto* label : {service_, class_})
        label->setTextFormat(Qt::RichText); // what is others' in it is escaped
    lines->insertWidget(1, ours_);
    lines->addLayout(history_);
    lines->addStretch();
    notesPanel_->body()->addWidget(scrolled(seen, this), 1);
    auto* plotPanel = new Panel({}, this);
    plotPanel->body()->addWidget(plot_);
    unitPanel_->hide();
    // Whole, however small the window.
    plot_->setMinimumHeight(Theme::instance().px(150));
    for (QWidget* whole : std::initializer_list<QWidget*>{pairs_, bars_})
        whole->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    auto* column = new QWidget(this);
    auto* below = new QVBoxLayout(column);
    below->setContentsMargins(0, 0, 0, 0);
    below->setSpacing(8);
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    row->addWidget(pairsPanel_, 3);
    row->addWidget(margins_, 6);
    row->addWidget(notesPanel_, 5);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(16, 12, 16, 12);
    all->setSpacing(8);
    all->addLayout(head);
    all->addWidget(tone_);
    all->addWidget(entry_);
    all->addWidget(unitPanel_);
    below->addLayout(row);
    below->addWidget(plotPanel, 1);
    // On a small screen they are scrolled; on a usual one both are in sight.
    all->addWidget(squeezed(column, this), 1);

    connect(entry_, &TesterEntry::openFiles, this, [this] { openFiles(); });
    connect(bars_, &MarginBars::rowChosen, this, [this] { showPlot(); });
    connect(byService_, &QPushButton::clicked, this, [this] {
        classShown_ = false;
        showJudgement();
    });
    connect(byClass_, &QPushButton::clicked, this, [this] {
        classShown_ = true;
        showJudgement();
    });
    working_->setObjectName(QStringLiteral("showTestWorking"));
    connect(working_, &QPushButton::clicked, this, [this] { showWorkingOfChosen(); });
    ours_->setObjectName(QStringLiteral("itIsThisRun"));
    connect(ours_, &QPushButton::clicked, this, [this] {
        if (const auto* m = judged())
            session_.confirmMeasurement(m->id);
    });
    connect(&session, &Session::needUnit, this, &TestStage::askUnit);
    for (auto signal :
         {&Session::selectionChanged, &Session::unitsChanged, &Session::previewChanged})
        connect(&session, signal, this, [this] { refresh(); });
    connect(&session, &Session::findingsChanged, this, [this] { showCoverage(); });
}

const MeasurementFinding* TestStage::judged() const {
    const RunFinding* f = session_.currentFinding();
    return f == nullptr ? nullptr : f->judged();
}

void TestStage::showCoverage() {
    if (!session_.hasJob() || !isVisible())
        return;
    // Nothing is known of a job that is still being computed.
    if (session_.findings().empty())
        return coverage_->clear();
    const Coverage c = coverageOf(session_.job(), session_.findings());
    QString text = tr("%1 of %2 runs proven").arg(c.proven()).arg(c.runs);
    if (c.fail + c.marginalBad > 0)
        text += tr(" · %1 failed").arg(c.fail + c.marginalBad);
    text += tr(" · %1 untested").arg(c.untested);
    if (c.coiled > 0)
        text += tr(" · %1 left coiled").arg(c.coiled);
    coverage_->setText(text);
}

void TestStage::showParts(unsigned) {
    const Run* run = session_.shown();
    const RunFinding* f = session_.currentFinding();
    showCoverage();
    tone_->showRun();
    if (run == nullptr || f == nullptr)
        return;
    const QString label = q(run->label);
    const auto* m = judged();
    const Sentence failure = f->failure();
    const Sentence why = f->classState >= f->serviceState && f->classState > State::Pass
                             ? f->classReason
                             : f->serviceReason;
    switch (f->state()) {
    case State::Untested:
        finding_->setText(m == nullptr ? tr("%1 is untested").arg(label)
                          : m->asked.empty()
                              ? tr("%1 is not proven yet").arg(label)
                              : tr("Is %1 of %2, or of another run?").arg(q(m->fileName), label));
        break;
    case State::Pass:
        finding_->setText(tr("%1 passes").arg(label));
        break;
    case State::MarginalGood:
        finding_->setText(tr("%1 is marginal, on the good side").arg(label));
        break;
    case State::MarginalBad:
        finding_->setText(tr("%1 is marginal, on the bad side").arg(label));
        break;
    case State::Fail:
        finding_->setText(
            tr("%1 fails: %2").arg(label, said(failure.empty() ? why : failure, session_)));
        break;
    }
    const WireFinding* wires = f->wires();
    ours_->setVisible(m != nullptr && !m->asked.empty());
    pairs_->setWires(wires);
    pairsPanel_->setVisible(wires != nullptr);
    if (m == nullptr) {
        service_->setText(tr("Drop a test file on the run, open one, or type what a plain tester "
                             "shows. No test is not a pass."));
        class_->clear();
        notes_->clear();
    } else {
        service_->setText(judgementLine(session_, m->service, tr("Will it work")));
        class_->setText(judgementLine(session_, m->classJudgement, tr("Installed to its class")));
        QString notes;
        if (m->fault)
            notes += said(*m->fault, session_) + QLatin1Char('\n');
        if (m->excessDb)
            notes +=
                tr("Most above prediction: %1 dB at %2%3")
                    .arg(figure(formatFixed(*m->excessDb, 1)), figure(formatMhz(*m->excessAtMhz)),
                         m->excessPair.empty() ? QString()
                                               : tr(", pair %1").arg(q(m->excessPair))) +
                QLatin1Char('\n');
        for (const auto& one : f->measurements) {
            if (one.superseded)
                continue;
            for (const auto& note : one.notes)
                notes += begun(said(note, session_)) + QLatin1Char('\n');
            for (const auto& note : one.cannot)
                notes += tr("Cannot prove: %1").arg(said(note, session_)) + QLatin1Char('\n');
        }
        notes_->setText(notes.trimmed());
    }
    showHistory(*f);
    showJudgement();
}

void TestStage::showHistory(const RunFinding& f) {
    empty(*history_);
    for (auto it = f.measurements.rbegin(); it != f.measurements.rend(); ++it) {
        const QString name = it->fileName.empty() ? tr("typed answer") : q(it->fileName);
        const QString line =
            tr("%1 · %2 · %3%4")
                .arg(q(it->takenAt).left(16).replace(u'T', u' '), name,
                     term(stateName(it->state())), it->superseded ? tr(" · before") : QString());
        auto* button = link(tr("remove"), this);
        auto* label = words(Voice::Small, this);
        label->setText(line);
        auto* row = new QWidget(this);
        auto* layout = new QHBoxLayout(row);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->addWidget(label, 1);
        layout->addWidget(button);
        button->setAccessibleName(tr("Remove the test %1").arg(name));
        const std::string id = it->id;
        connect(button, &QPushButton::clicked, this,
                [this, id] { session_.removeMeasurement(id); });
        history_->addWidget(row);
    }
}

void TestStage::showJudgement() {
    const auto* m = judged();
    std::vector<MarginBars::Row> rows;
    QString empty = tr("Nothing measured over frequency.");
    if (m != nullptr) {
        const Judgement& j = classShown_ ? m->classJudgement : m->service;
        const auto* before = session_.currentFinding()->before(*m);
        if (j.results.empty() && !j.reason.empty())
            empty = said(j.reason, session_);
        for (const auto& r : j.results) {
            MarginBars::Row row{r, std::nullopt};
            if (before != nullptr)
                for (const auto& old :
                     (classShown_ ? before->classJudgement : before->service).results)
                    if (old.parameter == r.parameter && old.points > 0)
                        row.before = old.marginWorst;
            rows.push_back(row);
        }
        margins_->setTitle(j.against.empty()
                               ? tr("Against the limits")
                               : tr("Measured against %1").arg(said(j.against, session_)));
    }
    working_->setVisible(!rows.empty());
    byService_->setChecked(!classShown_);
    byClass_->setChecked(classShown_);
    bars_->setRows(std::move(rows), empty);
    showPlot();
}

void TestStage::showPlot() {
    const RunFinding* f = session_.currentFinding();
    const auto* m = judged();
    PlotContent content;
    if (f == nullptr) {
        plot_->setContent(content);
        return;
    }
    const auto chosen = static_cast<std::size_t>(std::max(0, bars_->chosen()));
    const ParameterResult* result =
        chosen < bars_->rows().size() ? &bars_->rows()[chosen].result : nullptr;
    const Parameter parameter = result != nullptr && result->parameter != Parameter::LoopResistance
                                    ? result->parameter
                                    : Parameter::InsertionLoss;
    content.title = term(parameterName(parameter));
    content.unit = result != nullptr && parameter == result->parameter ? q(result->unit)
                                                                       : QStringLiteral("dB");
    content.lossDown = parameter == Parameter::InsertionLoss;
    content.limitIsUpper = limitIsUpper(parameter);
    if (m != nullptr)
        for (const auto& line : classShown_ ? m->classLines : m->serviceLines) {
            if (line.limit.parameter != parameter)
                continue;
            content.limitIsUpper = line.upper;
            content.curves.append(limitCurve(line, said(line.name, session_)));
        }
    if (parameter == Parameter::InsertionLoss) {
        const auto& p = m != nullptr && m->link == LinkKind::Permanent ? f->permanent : f->channel;
        content.curves.append({PlotContent::Kind::Predicted, tr("predicted"),
                               vectorOf(p.frequencyMhz), vectorOf(p.lossDb)});
        if (p.warmestC > p.coolestC) {
            content.bandX = vectorOf(p.frequencyMhz);
            content.bandLow = vectorOf(p.coolDb);
            content.bandHigh = vectorOf(p.warmDb);
        }
    }
    for (const auto& one : f->measurements)
        if (!one.superseded)
            for (const auto& trace : one.traces)
                if (trace.parameter == parameter)
                    content.curves.append({PlotContent::Kind::Measured,
                                           tr("measured %1").arg(content.title),
                                           vectorOf(trace.frequencyMhz), vectorOf(trace.value)});
    if (result != nullptr && result->points > 0 && parameter == result->parameter) {
        content.markMhz = result->atMhz;
        content.markFrom = result->measured;
        content.markTo = result->limit;
        content.markText =
            figure(formatFixed(std::abs(result->marginWorst), result->unit == "µs" ? 3 : 1) + " " +
                   result->unit) +
            (result->marginWorst < 0 ? tr(" over") : tr(" spare")) +
            tr(" at %1").arg(figure(formatMhz(result->atMhz))) +
            (result->pair.empty() ? QString() : tr(", pair %1").arg(q(result->pair)));
    }
    plot_->setContent(content);
}

void TestStage::showWorkingOfChosen() {
    const auto* m = judged();
    const auto chosen = static_cast<std::size_t>(std::max(0, bars_->chosen()));
    if (m == nullptr || chosen >= bars_->rows().size())
        return;
    showWorking(
        session_, this,
        judgeWorking(bars_->rows()[chosen].result, classShown_ ? m->classLines : m->serviceLines));
}

void TestStage::openFiles() {
    if (session_.current() == nullptr)
        return;
    const QStringList files = askFiles(
        this, session_, Ask::OpenSeveral, tr("Test files of %1").arg(q(session_.current()->label)),
        tr("Measured files (*.s1p *.s2p *.s4p *.csv *.txt);;All files (*)"));
    if (!files.isEmpty())
        session_.bringIn(session_.currentId(), files, entry_->linkKind(), entry_->pair());
}

void TestStage::askUnit(const QString& runId, const QStringList& files, LinkKind link,
                        const QString& pair) {
    empty(*unitPanel_->body());
    auto* row = new QWidget(unitPanel_);
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* question = words(Voice::Text, row);
    question->setText(tr("%1 does not say its unit of frequency. It is in:")
                          .arg(files.value(0).section(QLatin1Char('/'), -1)));
    layout->addWidget(question, 1);
    for (const char* unit : {"Hz", "kHz", "MHz", "GHz"}) {
        auto* button = new QPushButton(QLatin1String(unit), row);
        layout->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, runId, files, link, pair, unit] {
            unitPanel_->hide();
            session_.bringIn(runId.toStdString(), files, link, pair, QLatin1String(unit));
        });
    }
    unitPanel_->body()->addWidget(row);
    unitPanel_->show();
}

void TestStage::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() && session_.current() != nullptr)
        event->acceptProposedAction();
}

void TestStage::dropEvent(QDropEvent* event) {
    QStringList files;
    for (const auto& url : event->mimeData()->urls())
        if (url.isLocalFile())
            files << url.toLocalFile();
    session_.bringIn(session_.currentId(), files, entry_->linkKind(), entry_->pair());
    event->acceptProposedAction();
}

QList<KeyHelp> TestStage::keys() const {
    return {{tr("Ctrl+T"), tr("open what the tester wrote")},
            {tr("Enter"), tr("in the line above: keep what was typed")},
            {tr("Up, Down"), tr("among the margins: the one that is plotted")},
            {tr("Ctrl+M"), tr("where nothing was numbered: the port at which its tone is heard")}};
}

} // namespace burin
