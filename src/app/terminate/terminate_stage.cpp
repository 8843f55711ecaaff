#include "app/terminate/terminate_stage.h"
#include "app/frame/save_dialog.h"
#include "app/look/manners.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/edit/end_edit.h"
#include "core/finding/run_finding.h"
#include "core/job/ports.h"
#include "files/end_print.h"
#include <QHBoxLayout>
#include <QShortcut>

namespace burin {
namespace {

QString together(const std::vector<std::string>& texts, const QString& between) {
    QStringList out;
    for (const auto& text : texts)
        out << q(text);
    return out.join(between);
}

} // namespace

TerminateStage::TerminateStage(Session& session, QWidget* parent)
    : Stage(session, parent), headline_(words(Voice::Headline, this)),
      which_(words(Voice::Small, this)), nearEnd_(link({}, this)), farEnd_(link({}, this)),
      connector_(new QComboBox(this)), alike_(link(tr("on all ends like it"), this)),
      view_(new EndView(this)), scale_(words(Voice::Small, this)), trueSize_(link({}, this)),
      calibrate_(link({}, this)), print_(link(tr("print at true size"), this)),
      pins_(new PinsView(this)), pinsSaid_(words(Voice::Small, this)),
      first_(words(Voice::Bold, this)),
      fit_(words(Voice::Text, this)), steps_{new QVBoxLayout, new QVBoxLayout},
      proofs_(words(Voice::Text, this)), schools_(words(Voice::Small, this)),
      tools_(words(Voice::Small, this)), care_(words(Voice::Text, this)),
      carePanel_(new Panel({}, this)) {
    headline_->setObjectName(QStringLiteral("endHead"));
    nearEnd_->setObjectName(QStringLiteral("nearEnd"));
    farEnd_->setObjectName(QStringLiteral("farEnd"));
    connector_->setObjectName(QStringLiteral("endConnector"));
    connector_->setAccessibleName(tr("Connector of this end"));
    connector_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    alike_->setObjectName(QStringLiteral("alikeConnector"));
    alike_->setToolTip(tr("That end of every run with this cable, where there is a connector of "
                          "the same series, or none yet"));
    auto* head = new QHBoxLayout;
    head->addWidget(headline_, 1);
    head->addWidget(which_);
    which_->setWordWrap(false);
    auto* choice = new QHBoxLayout;
    choice->setSpacing(12);
    for (QWidget* widget : std::initializer_list<QWidget*>{nearEnd_, farEnd_, connector_, alike_})
        choice->addWidget(widget);
    choice->addStretch(1);
    auto* below = new QHBoxLayout;
    below->setSpacing(12);
    below->addWidget(makeSteps(), 4);
    below->addWidget(makeProofs(), 3);
    all_ = new QVBoxLayout(this);
    all_->setContentsMargins(16, 12, 16, 12);
    all_->setSpacing(8);
    all_->addLayout(head);
    all_->addLayout(choice);
    all_->addWidget(makeDrawing());
    all_->addLayout(below);
    // Never under the edge of what is scrolled.
    carePanel_->setTone(Panel::Tone::Marginal);
    carePanel_->body()->addWidget(care_);
    all_->addWidget(carePanel_);
    connect(nearEnd_, &QPushButton::clicked, this, [this] {
        far_ = false;
        refresh();
    });
    connect(farEnd_, &QPushButton::clicked, this, [this] {
        far_ = true;
        refresh();
    });
    connect(new QShortcut(QKeySequence(tr("Ctrl+E")), this), &QShortcut::activated, this, [this] {
        far_ = !far_;
        refresh();
    });
    connect(connector_, &QComboBox::activated, this, &TerminateStage::adopt);
    connect(alike_, &QPushButton::clicked, this, &TerminateStage::adoptAlike);
    print_->setObjectName(QStringLiteral("printCard"));
    connect(print_, &QPushButton::clicked, this, &TerminateStage::print);
    for (auto signal : {&Session::selectionChanged, &Session::unitsChanged})
        connect(&session, signal, this, [this] { refresh(); });
    connect(&session, &Session::jobChanged, this, [this] { stale(); });
}

QWidget* TerminateStage::makeDrawing() {
    auto* panel = new Panel({}, this);
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    line->addWidget(scale_, 1);
    line->addWidget(trueSize_);
    line->addWidget(calibrate_);
    line->addWidget(print_);
    trueSize_->setObjectName(QStringLiteral("trueSize"));
    calibrate_->setObjectName(QStringLiteral("calibrate"));
    scale_->setObjectName(QStringLiteral("endScale"));
    panel->body()->addLayout(line);
    panel->body()->addWidget(view_, 1);
    panel->body()->addWidget(pins_);
    panel->body()->addWidget(pinsSaid_);
    connect(view_, &EndView::scaleChanged, this, &TerminateStage::showScale);
    connect(trueSize_, &QPushButton::clicked, this,
            [this] { view_->setTrueSize(!view_->trueSize()); });
    connect(calibrate_, &QPushButton::clicked, view_, &EndView::calibrate);
    return panel;
}

QWidget* TerminateStage::makeSteps() {
    auto* panel = new Panel({}, this);
    auto* inside = new QWidget(this);
    auto* lines = new QVBoxLayout(inside);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    first_->setObjectName(QStringLiteral("endFirst"));
    auto* columns = new QHBoxLayout;
    columns->setSpacing(16);
    for (auto* column : steps_) {
        column->setSpacing(4);
        columns->addLayout(column, 1);
    }
    lines->addLayout(columns);
    lines->addStretch(1);
    auto* scroll = scrolled(inside, this);
    scroll->setMinimumHeight(40);
    panel->body()->addWidget(first_);
    panel->body()->addWidget(scroll, 1);
    return panel;
}

QWidget* TerminateStage::makeProofs() {
    auto* panel = new Panel(tr("What proves it"), this);
    auto* inside = new QWidget(this);
    auto* lines = new QVBoxLayout(inside);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    fit_->setObjectName(QStringLiteral("endFit"));
    proofs_->setObjectName(QStringLiteral("endProofs"));
    for (auto* label : {fit_, proofs_, schools_, tools_})
        lines->addWidget(label);
    lines->addStretch(1);
    auto* scroll = scrolled(inside, this);
    scroll->setMinimumHeight(40);
    panel->body()->addWidget(scroll, 1);
    return panel;
}

void TerminateStage::showParts(unsigned) {
    const Run* run = session_.current();
    for (QWidget* widget : std::initializer_list<QWidget*>{nearEnd_, farEnd_, connector_, print_})
        widget->setVisible(run != nullptr);
    if (run == nullptr) {
        headline_->setText(tr("Choose a run: how its ends are made stands here"));
        which_->clear();
        alike_->hide();
        view_->showEnd({}, nullptr);
        showCard({});
        return;
    }
    const EndFinding end = findEnd(*run, this->end(), session_.catalogue());
    showHead(*run, end);
    showConnectors(*run, end);
    view_->showEnd(end, session_.snapshot().catalogue);
    showPins(*run, end);
    showCard(end);
}

void TerminateStage::showHead(const Run& run, const EndFinding& end) {
    const Cable* cable = session_.catalogue().cable(run.cableId);
    headline_->setText(cable == nullptr
                           ? tr("%1 has no cable yet: choose it in Budget").arg(q(run.label))
                       : end.card.connection == nullptr
                           ? tr("Nothing in the catalogue ends %1").arg(q(cable->name))
                           : tr("%1 on %2").arg(q(end.card.connection->name), q(cable->name)));
    const auto named = [&](const RunEnd& one, const QString& otherwise) {
        const QString name = q(endName(session_.job(), one));
        return name.isEmpty() ? otherwise : name;
    };
    const QString near = named(run.near, tr("near end"));
    const QString far = named(run.far, tr("far end"));
    nearEnd_->setText(asWritten(near));
    farEnd_->setText(asWritten(far));
    for (auto [button, here] : {std::pair(nearEnd_, !far_), {farEnd_, far_}}) {
        button->setEnabled(!here);
        button->setStyleSheet(
            here ? QStringLiteral("text-decoration: none; font-weight: bold; color: %1;")
                       .arg(Theme::instance().tokens().ink.name())
                 : QString());
    }
    nearEnd_->setToolTip(tr("The near end (Ctrl+E changes ends)"));
    farEnd_->setToolTip(tr("The far end (Ctrl+E changes ends)"));
    QString which = q(run.label);
    if (end.card.connection != nullptr && end.card.connection->fit)
        which += tr(" · about %1 min").arg(q(formatFixed(end.card.connection->fit->minutes, 0)));
    which_->setText(which);
}

void TerminateStage::showConnectors(const Run& run, const EndFinding& end) {
    connector_->clear();
    const Cable* cable = session_.catalogue().cable(run.cableId);
    connector_->setVisible(cable != nullptr);
    alike_->setVisible(end.row != nullptr);
    if (cable == nullptr)
        return;
    const double top = topMhzOf(run, *cable, session_.catalogue().service(run.serviceId));
    int chosen = -1;
    for (const auto& one : connectorChoices(*cable, top, end.outdoors, session_.catalogue())) {
        const bool here = end.row != nullptr && one.connection == end.card.connection;
        if (!one.fits && !here)
            continue;
        if (here)
            chosen = connector_->count();
        connector_->addItem(tr("%1 · %2, %3 dB, %4 min")
                                .arg(q(one.connection->name), q(one.connection->fit->school),
                                     q(formatFixed(one.lossDb, 2)), q(formatFixed(one.minutes, 0))),
                            q(one.connection->id));
        connector_->setItemData(connector_->count() - 1, q(one.why), Qt::ToolTipRole);
    }
    if (end.row == nullptr)
        connector_->setPlaceholderText(tr("no connector chosen: the usual one is shown"));
    connector_->setCurrentIndex(chosen);
}

void TerminateStage::showPins(const Run& run, const EndFinding& end) {
    const auto wiring = end.card.connection == nullptr
                            ? std::nullopt
                            : wiringAt(*end.card.connection, session_.job().info.wiringA);
    pins_->setVisible(wiring.has_value());
    pinsSaid_->setVisible(wiring.has_value());
    // Drawing and steps: with pins under it the drawing wants more, and its steps are few.
    constexpr int drawing = 2, steps = 3;
    all_->setStretch(drawing, wiring ? 6 : 4);
    all_->setStretch(steps, wiring ? 4 : 5);
    if (!wiring)
        return;
    const Service* service = session_.catalogue().service(run.serviceId);
    const bool jack = *wiring != Wiring::Block110;
    pins_->showPins(*wiring);
    QString said =
        jack ? tr("%1, from the left with the hook below and the cable towards you; seen from "
                  "the hook's side it is the other way round.")
                   .arg(q(std::string(wiringWords[*wiring])))
             : tr("Slots from the left.");
    if (jack && service != nullptr && !service->pinPairs.empty() && service->pinPairs.size() < 4)
        said += tr(" %1 uses %2.")
                    .arg(q(service->name), together(service->pinPairs, QStringLiteral(", ")));
    pinsSaid_->setText(said);
}

void TerminateStage::showCard(const EndFinding& end) {
    for (auto* column : steps_)
        while (QLayoutItem* item = column->takeAt(0)) {
            if (item->widget() != nullptr)
                item->widget()->deleteLater();
            delete item;
        }
    const EndCard* card = end.card.card;
    const Tokens& t = Theme::instance().tokens();
    QStringList wrong;
    for (const auto& point : end.card.fit)
        if (!point.good)
            wrong << q(point.reason);
    fit_->setText(tr("Does not fit: %1.").arg(wrong.join(QStringLiteral("; "))));
    fit_->setStyleSheet(QStringLiteral("color: %1;").arg(t.rust.name()));
    fit_->setVisible(!wrong.isEmpty());
    for (auto* label : {first_, proofs_, schools_, tools_})
        label->setVisible(card != nullptr);
    carePanel_->setVisible(card != nullptr && !card->cautions.empty());
    print_->setEnabled(card != nullptr);
    if (card == nullptr)
        return;
    first_->setText(card->first.empty()
                        ? tr("Nothing goes on the cable first.")
                        : tr("First: %1.").arg(together(card->first, QStringLiteral("; "))));
    const auto count = card->steps.size();
    for (std::size_t i = 0; i < count; ++i) {
        auto* label = words(Voice::Text, this);
        label->setText(tr("%1  %2").arg(i + 1).arg(q(card->steps[i])));
        steps_[2 * i < count ? 0 : 1]->addWidget(label);
    }
    for (auto* column : steps_)
        column->addStretch(1);
    QStringList proofs;
    for (const auto& proof : card->proofs)
        proofs << QStringLiteral("– ") +
                      (proof.isMeasured()
                           ? tr("%1: %2").arg(q(proof.what),
                                              q(rangeText(proof.leastMm, proof.mostMm)))
                           : q(proof.what));
    proofs_->setText(proofs.join(QLatin1Char('\n')));
    QStringList schools;
    for (const auto& school : card->schools)
        schools << tr("Where hands differ, %1: %2.")
                       .arg(q(school.what), together(school.ways, tr(", or ")));
    schools_->setText(schools.join(QLatin1Char('\n')));
    schools_->setVisible(!schools.isEmpty());
    QString tools = tr("Tools: %1.").arg(together(card->tools, QStringLiteral(", ")));
    if (!card->die.empty())
        tools += tr(" Die: %1.").arg(q(card->die));
    tools_->setText(tools);
    care_->setText(tr("Care. %1.").arg(together(card->cautions, QStringLiteral(". "))));
}

void TerminateStage::showScale() {
    const bool measured = view_->measured();
    calibrate_->setText(measured ? tr("measure the screen again") : tr("measure the screen"));
    calibrate_->setToolTip(tr("Once a screen, against a bank card"));
    trueSize_->setText(view_->trueSize() ? tr("as large as fits") : tr("true size"));
    trueSize_->setToolTip(tr("As long as it is, to hold the cable against it"));
    trueSize_->setVisible(!view_->calibrating());
    calibrate_->setVisible(!view_->calibrating());
    print_->setVisible(!view_->calibrating() && session_.current() != nullptr);
    if (view_->calibrating())
        scale_->setText(tr("A bank card is 85.60 × 53.98 mm (ISO/IEC 7810 ID-1)."));
    else if (view_->trueSize())
        scale_->setText(measured
                            ? tr("True size: hold the cable against it.")
                            : tr("True size as the screen tells of itself: measure it against a "
                                 "bank card before anything is held against it."));
    else
        scale_->setText((view_->toScale() ? tr("Drawn %1 times as large.")
                                          : tr("Drawn %1 times as large. Dashed: not to scale, the "
                                               "part's own sheet has the length."))
                            .arg(q(formatFixed(view_->enlarged(), 1))));
}

void TerminateStage::adopt(int index) {
    const Run* run = session_.pending().run(session_.currentId());
    if (run == nullptr || index < 0)
        return;
    const Edit edit = adoptedConnector(session_.pending(), session_.catalogue(), run->id, end(),
                                       connector_->itemData(index).toString().toStdString());
    if (!edit.changes.empty())
        session_.commit(edit);
}

void TerminateStage::adoptAlike() {
    const Run* run = session_.pending().run(session_.currentId());
    const QString id = connector_->currentData().toString();
    if (run == nullptr || id.isEmpty())
        return;
    const Edit edit =
        adoptedAlike(session_.pending(), session_.catalogue(), run->id, end(), id.toStdString());
    if (edit.changes.empty())
        emit session_.message(tr("All ends with this cable have it already."), false);
    else
        session_.commit(edit);
}

void TerminateStage::print() {
    const Run* run = session_.current();
    if (run == nullptr)
        return;
    const auto kind = [&](const QString& filter, PaperSize paper) {
        return SaveKind{filter, QStringLiteral("pdf"),
                        [snapshot = session_.snapshot(), id = run->id, end = end(), paper] {
                            const Run* of = snapshot.job->run(id);
                            return cardPdf(findEnd(*of, end, *snapshot.catalogue).card,
                                           snapshot.job->info.name, paper);
                        }};
    };
    saveAs(this, session_, tr("Print the card at its true size"),
           onPaperSizes(session_, kind(tr("PDF, A4 (*.pdf)"), PaperSize::A4),
                        kind(tr("PDF, Letter (*.pdf)"), PaperSize::Letter)));
}

} // namespace burin
