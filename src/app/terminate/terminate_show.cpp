#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/manners.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/terminate/terminate_stage.h"
#include "core/base/lookup.h"
#include "core/finding/run_finding.h"
#include "core/job/ports.h"
#include "core/units/render.h"

namespace burin {
namespace {

QString together(const std::vector<std::string>& texts, const QString& between) {
    QStringList out;
    for (const auto& text : texts)
        out << term(text);
    return out.join(between);
}

} // namespace

void TerminateStage::showParts(unsigned) {
    const Run* run = session_.current();
    showList();
    for (QWidget* widget :
         std::initializer_list<QWidget*>{nearEnd_, farEnd_, connector_, print_, own_})
        widget->setVisible(run != nullptr);
    if (run == nullptr) {
        headline_->setText(tr("Choose a run: how its ends are made stands here"));
        which_->clear();
        alike_->hide();
        inRoom_->hide();
        view_->showEnd({}, nullptr);
        showCard({});
        checks_->showChecks(nullptr, nullptr, session_.units());
        for (QWidget* widget : std::initializer_list<QWidget*>{said_, record_, photograph_})
            widget->hide();
        showTools(nullptr);
        return;
    }
    const EndFinding end = findEnd(*run, this->end(), session_.catalogue());
    showHead(*run, end);
    showConnectors(*run, end);
    view_->showEnd(end, session_.snapshot().catalogue);
    showPins(*run, end);
    showCard(end);
    showChecks(*run, end);
    showTools(&end);
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
        which +=
            tr(" · about %1 min").arg(figure(formatFixed(end.card.connection->fit->minutes, 0)));
    which_->setText(which);
}

void TerminateStage::showConnectors(const Run& run, const EndFinding& end) {
    connector_->clear();
    const Cable* cable = session_.catalogue().cable(run.cableId);
    connector_->setVisible(cable != nullptr);
    for (auto* button : {alike_, inRoom_})
        button->setVisible(end.row != nullptr);
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
                                .arg(q(one.connection->name), term(one.connection->fit->school),
                                     figure(formatFixed(one.lossDb, 2)),
                                     figure(formatFixed(one.minutes, 0))),
                            q(one.connection->id));
        connector_->setItemData(connector_->count() - 1, said(one.why, session_), Qt::ToolTipRole);
    }
    // What is there is named, though nobody would offer it for this cable.
    if (end.row != nullptr && chosen < 0 && end.card.connection != nullptr) {
        chosen = connector_->count();
        connector_->addItem(q(end.card.connection->name), q(end.card.connection->id));
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
    pinsSaid_->setVisible(wiring.has_value() && hasRoom());
    // Drawing and steps: with pins under it the drawing wants more, and its steps are few.
    constexpr int drawing = 1, steps = 2;
    card_->setStretch(drawing, wiring ? 10 : 5);
    card_->setStretch(steps, wiring ? 10 : 11);
    if (!wiring)
        return;
    const Service* service = session_.catalogue().service(run.serviceId);
    const bool jack = *wiring != Wiring::Block110;
    pins_->showPins(*wiring);
    QString said =
        jack ? tr("%1, from the left, hook below, cable towards you; from the hook's side the "
                  "other way round.")
                   .arg(q(std::string(wiringWords[*wiring])))
             : tr("Slots from the left.");
    if (jack && service != nullptr && !service->pinPairs.empty() && service->pinPairs.size() < 4)
        said += tr(" %1 uses %2.")
                    .arg(q(service->name), together(service->pinPairs, QStringLiteral(", ")));
    pinsSaid_->setText(said);
    pins_->setToolTip(said);
}

void TerminateStage::showCard(const EndFinding& end) {
    for (auto* column : steps_)
        empty(*column);
    const EndCard* card = end.card.card;
    const Tokens& t = Theme::instance().tokens();
    QStringList wrong;
    for (const auto& point : end.card.fit)
        if (!point.good)
            wrong << said(point.reason, session_);
    fit_->setText(tr("Does not fit: %1.").arg(wrong.join(QStringLiteral("; "))));
    fit_->setStyleSheet(QStringLiteral("color: %1;").arg(t.rust.name()));
    fit_->setVisible(!wrong.isEmpty());
    for (auto* label : {first_, schools_, tools_})
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
        label->setText(tr("%1  %2").arg(i + 1).arg(term(card->steps[i])));
        steps_[2 * i < count ? 0 : 1]->addWidget(label);
    }
    for (auto* column : steps_)
        column->addStretch(1);
    QStringList schools;
    for (const auto& school : card->schools)
        schools << tr("Where hands differ, %1: %2.")
                       .arg(term(school.what), together(school.ways, tr(", or ")));
    schools_->setText(schools.join(QLatin1Char('\n')));
    schools_->setVisible(!schools.isEmpty());
    QString tools = tr("Tools: %1.").arg(together(card->tools, QStringLiteral(", ")));
    if (!card->die.empty())
        tools += tr(" Die: %1.").arg(term(card->die));
    tools_->setText(tools);
    care_->setText(tr("Care. %1.").arg(together(card->cautions, QStringLiteral(". "))));
}

void TerminateStage::showChecks(const Run& run, const EndFinding& end) {
    const EndAt at{run.id, this->end()};
    const LastMade last = lastMade(session_.job(), at);
    // What went on is proven by its own card, whatever is planned now.
    const EndCard* card = end.card.card;
    if (last.standing() && end.card.cable != nullptr)
        if (const Connection* went = session_.catalogue().connection(last.row->connectionId))
            card = cardFor(*went, *end.card.cable, session_.catalogue());
    checks_->showChecks(card, last.standing() ? last.row : nullptr, session_.units());
    QStringList record;
    if (last.standing()) {
        const Termination& row = *last.row;
        record << (row.madeOn.empty() ? tr("Made") : tr("Made %1").arg(q(row.madeOn)));
        if (!row.madeBy.empty())
            record << tr("by %1").arg(q(row.madeBy));
        for (const auto* id : {&row.stripToolId, &row.closeToolId})
            if (const HandTool* tool = byId(session_.job().tools, *id))
                record << q(tool->name);
        if (!row.note.empty())
            record << q(row.note);
    }
    record_->setText(record.join(QStringLiteral(" · ")));
    record_->setVisible(!record.isEmpty());
    photograph_->show(last.standing() ? last.row->photographId : std::string());
    const auto findings = session_.jobFindings();
    const EndWork* work = findings ? findings->ends.find(run.id, at.end) : nullptr;
    const QStringList lines = work == nullptr ? QStringList() : said(work->said, session_);
    said_->setText(lines.join(QLatin1Char('\n')));
    const Tokens& t = Theme::instance().tokens();
    const bool bad = work != nullptr && work->state == EndState::Again;
    said_->setStyleSheet(QStringLiteral("color: %1;").arg((bad ? t.rust : t.ochre).name()));
    said_->setVisible(!lines.isEmpty());
}

void TerminateStage::showList() {
    list_->showPlan(far_);
    const auto findings = session_.jobFindings();
    const EndPlan* plan = findings ? &findings->ends : nullptr;
    const std::size_t wanted = plan == nullptr ? 0 : plan->wanted();
    const std::size_t left = plan == nullptr ? 0 : wanted - plan->made();
    counts_->setText(wanted == 0 ? tr("No ends to make")
                     : left == 0 ? tr("All %1 ends are made").arg(wanted)
                                 : tr("%1 of %2 ends to make").arg(left).arg(wanted));
    for (auto* button : {made_, spoiled_, unmade_, bring_})
        button->setEnabled(wanted > 0);
    QStringList due;
    bool over = false;
    if (plan != nullptr)
        for (const auto& tool : plan->tools) {
            over = over || tool.blades == Due::Over || tool.gauge == Due::Over;
            due << said(tool.said, session_);
        }
    due_->setText(due.isEmpty() ? tr("Nothing is due") : due.front());
    due_->setToolTip(due.join(QLatin1Char('\n')));
    const Tokens& t = Theme::instance().tokens();
    due_->setStyleSheet(QStringLiteral("color: %1;")
                            .arg((over            ? t.rust
                                  : due.isEmpty() ? t.ink2
                                                  : t.ochre)
                                     .name()));
    if (session_.hasJob() && session_.job().tools.empty())
        due_->setText(tr("No tools are named"));
    if (pages_->currentWidget() == toolsView_)
        toolsView_->showTools();
}

void TerminateStage::showTools(const EndFinding* end) {
    // The tools that were used last for such a connector are offered, until others are chosen.
    const Connection* part = end == nullptr ? nullptr : end->card.connection;
    const std::string connection = part == nullptr ? std::string() : part->id;
    const Termination* last = part == nullptr ? nullptr : lastWith(session_.job(), connection);
    const auto fill = [&](QComboBox* box, bool stripping, const QString& none,
                          std::string Termination::*used) {
        const bool same = toolsFor_ == connection;
        QString chosen =
            same ? box->currentData().toString() : q(last == nullptr ? std::string() : last->*used);
        box->clear();
        box->addItem(none, QString());
        for (const auto& tool : session_.job().tools) {
            if (!tool.gone && strips(tool.kind) == stripping)
                box->addItem(tr("%1 %2").arg(term(toolKindWords[tool.kind]), q(tool.name)),
                             q(tool.id));
        }
        box->setCurrentIndex(std::max(0, box->findData(chosen)));
        box->setVisible(box->count() > 1);
    };
    fill(strip_, true, tr("stripped: not said"), &Termination::stripToolId);
    fill(close_, false, tr("closed: not said"), &Termination::closeToolId);
    toolsFor_ = connection;
}

void TerminateStage::showScale() {
    const bool measured = view_->measured();
    calibrate_->setText(measured ? tr("measure the screen again") : tr("measure the screen"));
    calibrate_->setToolTip(tr("Once a screen, against a bank card"));
    trueSize_->setText(view_->trueSize() ? tr("as large as fits") : tr("true size"));
    trueSize_->setToolTip(tr("As long as it is, to hold the cable against it"));
    trueSize_->setVisible(!view_->calibrating());
    calibrate_->setVisible(!view_->calibrating());
    for (auto* button : {print_, own_})
        button->setVisible(!view_->calibrating() && session_.current() != nullptr);
    if (view_->calibrating())
        scale_->setText(tr("A bank card is 85.60 × 53.98 mm (ISO/IEC 7810 ID-1)."));
    else if (view_->trueSize())
        scale_->setText(measured
                            ? tr("True size: hold the cable against it.")
                            : tr("True size as the screen tells of itself: measure it against a "
                                 "bank card before anything is held against it."));
    else
        scale_->setText((view_->toScale() ? tr("Drawn %1 times as large.")
                                          : tr("Drawn %1 times as large. Dashed: from the part's "
                                               "sheet, not to scale."))
                            .arg(figure(formatFixed(view_->enlarged(), 1))));
    beside_->setFixedWidth(beside_->widget()->sizeHint().width() + Theme::instance().px(12));
}

} // namespace burin
